# Components and factors against base R and against structures that are known.

items <- function(n = 250) with_seed(14, {
  f <- matrix(rnorm(2 * n), n)
  l <- rbind(c(0.8, 0), c(0.7, 0), c(0.75, 0.1), c(0, 0.8), c(0.1, 0.7), c(0, 0.6))
  x <- f %*% t(l) + matrix(rnorm(6 * n), n) %*% diag(sqrt(1 - rowSums(l^2)))
  colnames(x) <- sprintf("item%d", 1:6)
  x
})

test_that("components are those of prcomp, whatever the units", {
  x <- items()
  fit <- internal("stat_components")(x)
  second <- prcomp(x, scale. = TRUE)
  expect_equal(fit$values, second$sdev^2, tolerance = 1e-10)
  expect_equal(abs(fit$loadings), abs(unname(second$rotation %*% diag(second$sdev))), tolerance = 1e-8)
  moved <- internal("stat_components")(sweep(x, 2, c(1, 10, 100, 1e3, 1e4, 1e5), "*") + 1e6)
  expect_equal(moved$values, fit$values, tolerance = 1e-7)
  expect_equal(fit$kept, 2L)
})

test_that("unrelated columns have no component above chance", {
  kept <- vapply(1:20, function(s) { x <- with_seed(s, matrix(rnorm(100 * 6), 100)); any(internal("stat_components")(x, draws = 200L)$above[1]) }, NA)
  expect_lt(mean(kept), 0.25)
})

test_that("factors are those of factanal, and reproduce the structure they came from", {
  x <- items()
  fit <- internal("stat_factors")(x, 2)
  second <- factanal(x, 2)
  expect_equal(unname(fit$uniqueness), unname(second$uniquenesses), tolerance = 1e-4)
  expect_equal(fit$statistic, unname(second$STATISTIC), tolerance = 1e-5)
  expect_equal(fit$df, second$dof)
  # factanal's rotation stops early; turned on from there, it arrives at ours
  turned <- unclass(second$loadings)
  for (i in 1:200) turned <- turned %*% varimax(turned)$rotmat
  expect_equal(sort(abs(fit$loadings)), sort(abs(as.vector(turned))), tolerance = 1e-4)
  expect_equal(unname(which(abs(fit$loadings[, 1]) > 0.5)), 1:3)
  # one factor of three columns fits exactly: loadings follow from the correlations
  three <- items()[, 1:3]; r <- cor(three)
  one <- internal("stat_factors")(three, 1)
  expect_equal(abs(one$loadings[1, 1]), sqrt(r[1, 2] * r[1, 3] / r[2, 3]), tolerance = 1e-6)
})

test_that("they are asked for in plain words, retraced, and refused where nothing can be estimated", {
  s <- demo_study("keeper_survey.csv")
  for (q in c("principal components of the survey items", "factor analysis of the items with two factors")) expect_retraces(ask(s, q))
  expect_equal(value_of(ask(s, "factor analysis of the items with two factors"), "factors"), 2)
  expect_error(internal("stat_factors")(items()[, 1:3], 2), class = "upbeatquill_error_group_count")
  expect_error(internal("stat_components")(cbind(1:9, 1)), class = "upbeatquill_error_outcome_constant")
  copy <- items()[, c(1, 1, 2, 3, 4)]
  expect_error(internal("stat_factors")(copy, 1), class = "upbeatquill_error_collinear")
})

test_that("factors are retraced where factanal() finds no way from its starting values", {
  d <- USJudgeRatings
  expect_error(factanal(covmat = cor(d), factors = 1, n.obs = nrow(d), rotation = "none"))
  s <- open_study(local_data(d))
  for (q in c("factor analysis of all columns with 1 factor", "factor analysis of all columns with 2 factors")) expect_retraces(ask(s, q), 1e-7)
})
