# Tables in strata.

strata_data <- function() with_seed(104, data.frame(site = sample(c("n", "s", "w"), 240, TRUE), arm = sample(c("a", "b", "c"), 240, TRUE),
  grade = sample(c("low", "mid", "high"), 240, TRUE), cured = sample(c("yes", "no"), 240, TRUE), sex = sample(c("f", "m"), 240, TRUE)))

test_that("tables of any size in strata are tested as base R does it", {
  d <- strata_data()
  a <- ask(open_study(d), "Cochran-Mantel-Haenszel test of grade and arm stratified by site")
  own <- mantelhaen.test(table(d$arm, d$grade, d$site))
  expect_equal(c(value_of(a, "statistic"), value_of(a, "df"), value_of(a, "p_value")), c(own$statistic[[1]], own$parameter[[1]], own$p.value),
               tolerance = 1e-9)
  expect_null(as.list(a)$numbers$odds_ratio)
  v <- table_of(a, "strata")
  one <- suppressWarnings(chisq.test(table(d$grade, d$arm, d$site)[, , "s"], correct = FALSE)$statistic[[1]])
  expect_equal(v$cramers_v[v$stratum == "s"], sqrt(one / sum(d$site == "s") / 2), tolerance = 1e-9)
  expect_retraces(a)
  # the last "by" names the strata
  b <- ask(open_study(d), "Cochran-Mantel-Haenszel test of cured by arm by site")
  expect_equal(unlist(as.list(b)$reading$adjust_for), "site")
  expect_equal(value_of(b, "statistic"), mantelhaen.test(table(d$arm, d$cured, d$site))$statistic[[1]], tolerance = 1e-9)
})

test_that("two by two tables keep their common odds ratio, a figure by stratum and a model beside them", {
  d <- strata_data()
  a <- ask(open_study(d), "Cochran-Mantel-Haenszel test of cured and sex stratified by site")
  own <- mantelhaen.test(table(d$sex, d$cured == "no", d$site), correct = FALSE)
  expect_equal(value_of(a, "statistic"), own$statistic[[1]], tolerance = 1e-9)
  expect_equal(value_of(a, "odds_ratio"), unname(own$estimate), tolerance = 1e-9)
  o <- as.list(a)$second_opinions[[1]]
  expect_equal(o$method$id, "logistic_regression")
  expect_true(o$agrees)
  drawn <- ggplot2::ggplot_build(figure(a))$data
  share <- with(d, tapply(cured == "yes", list(sex, site), mean))
  expect_setequal(round(drawn[[2]]$x, 10), round(as.vector(share), 10))
})

test_that("strata of single rows, and columns that never vary, are refused", {
  general <- internal("stat_mantel_haenszel_general")
  expect_error(general(array(c(1, 0, 0, 0, 0, 1, 0, 0), c(2, 2, 2))), class = "upbeatquill_error_data")
  # strata without rows change nothing
  x <- table(strata_data()$arm, strata_data()$grade, strata_data()$site)
  more <- array(c(x, rep(0, 9)), c(3, 3, 4))
  expect_equal(general(more)[1:3], general(array(x, dim(x)))[1:3])
})
