# A random intercept and slope, against nlme.

test_that("coefficients, variances and likelihood agree with nlme::lme", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont); d$Subject <- factor(as.character(d$Subject))
  x <- model.matrix(~ age * Sex, d)
  mine <- internal("stat_mixed_slope")(d$distance, x, as.integer(d$Subject), d$age)
  ref <- nlme::lme(distance ~ age * Sex, random = ~ age | Subject, data = d, control = nlme::lmeControl(opt = "optim", msTol = 1e-12,
      msMaxIter = 500))
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-7)
  expect_equal(mine$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-5)
  expect_equal(mine$sigma2, ref$sigma^2, tolerance = 1e-5)
  expect_equal(mine$covariance[2, 2], as.numeric(nlme::VarCorr(ref)[2, 1]), tolerance = 1e-4)
  expect_equal(mine$log_likelihood, as.numeric(logLik(ref)), tolerance = 1e-8)
  expect_equal(mine$fitted, as.numeric(fitted(ref)), tolerance = 1e-5)
  # balanced data: each coefficient has the degrees of freedom of the subjects
  expect_equal(mine$df, rep(25, 4), tolerance = 1e-6)
})

test_that("the score is zero at the answer, and the likelihood no higher nearby", {
  d <- with_seed(71, { g <- rep(1:12, times = sample(5:9, 12, TRUE)); x <- rnorm(length(g))
    data.frame(g = g, x = x, y = 1 + x + rnorm(12)[g] + rnorm(12, 0, 0.5)[g] * x + rnorm(length(g))) })
  s <- internal("slope_sums")(d$y, cbind(1, d$x), d$g, cbind(1, (d$x - mean(d$x)) / sd(d$x)))
  theta <- internal("maximise_slope")(s)
  f <- internal("slope_profile")(s, theta)
  expect_lt(max(abs(f$score)), 1e-7)
  for (k in 1:3) for (side in c(-1, 1)) expect_lte(internal("slope_profile")(s, theta + replace(numeric(3), k, side * 1e-2))$log_likelihood,
      f$log_likelihood)
})

test_that("a random slope is asked for in words, retraces, and its refusal is civil", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont); d$Subject <- as.character(d$Subject)
  s <- open_study(d)
  a <- ask(s, "mixed model of distance on age with a random slope of age for each Subject")
  expect_equal(method_of(a), "mixed_linear_slope")
  expect_retraces(a)
  b <- ask(open_study(data.frame(g = rep(c("a", "b"), each = 8), x = rnorm(16), y = rnorm(16))),
      "mixed model of y on x with a random slope of x for each g")
  expect_equal(status_of(b), "cannot_answer")
  expect_match(as.list(b)$sentences$headline, "at least four groups")
})

test_that("maximum likelihood agrees with nlme::lme, and its score is that of its likelihood", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont); d$Subject <- factor(as.character(d$Subject))
  d <- d[-c(3, 17, 40, 41), ]
  mine <- internal("stat_mixed_slope")(d$distance, model.matrix(~ age * Sex, d), as.integer(d$Subject), d$age, restricted = FALSE)
  ref <- nlme::lme(distance ~ age * Sex, random = ~ age | Subject, data = d, method = "ML",
                   control = nlme::lmeControl(opt = "optim", msTol = 1e-12, msMaxIter = 500))
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-6)
  expect_equal(mine$se, unname(sqrt(diag(ref$varFix))), tolerance = 1e-4)
  expect_equal(mine$sigma2, ref$sigma^2, tolerance = 1e-4)
  expect_equal(mine$covariance[2, 2], as.numeric(nlme::VarCorr(ref)[2, 1]), tolerance = 1e-3)
  expect_equal(mine$log_likelihood, as.numeric(logLik(ref)), tolerance = 1e-7)
  s <- internal("slope_sums")(d$distance, model.matrix(~ age, d), as.integer(d$Subject), cbind(1, d$age - 11), restricted = FALSE)
  at <- c(1.2, 0.1, 0.3)
  numeric_slope <- vapply(1:3, function(k) {
    e <- replace(numeric(3), k, 1e-5)
    (internal("slope_profile")(s, at + e)$log_likelihood - internal("slope_profile")(s, at - e)$log_likelihood) / 2e-5
  }, 1)
  expect_equal(internal("slope_profile")(s, at)$score, numeric_slope, tolerance = 1e-6)
})

test_that("degrees of freedom under maximum likelihood follow from the information of the full likelihood", {
  d <- with_seed(12, { g <- rep(1:15, times = sample(4:8, 15, TRUE)); x <- rnorm(length(g))
    data.frame(g = g, x = x, y = 2 + 0.5 * x + rnorm(15)[g] + rnorm(15, 0, 0.7)[g] * x + rnorm(length(g))) })
  x <- cbind(1, d$x)
  mine <- internal("stat_mixed_slope")(d$y, x, d$g, d$x, restricted = FALSE)
  # the same from whole matrices: no sums over groups
  z <- model.matrix(~ 0 + factor(d$g)); same <- tcrossprod(z); z2 <- cbind(1, d$x - mean(d$x))
  parts <- list(same, same * (outer(z2[, 1], z2[, 2]) + outer(z2[, 2], z2[, 1])), same * tcrossprod(z2[, 2]), diag(nrow(d)))
  psi <- mine$covariance
  v <- psi[1, 1] * parts[[1]] + psi[1, 2] * parts[[2]] + psi[2, 2] * parts[[3]] + mine$sigma2 * parts[[4]]
  inverse <- solve(v)
  information <- outer(1:4, 1:4, Vectorize(function(i, j) 0.5 * sum(diag(inverse %*% parts[[i]] %*% inverse %*% parts[[j]]))))
  covariance <- solve(t(x) %*% inverse %*% x)
  gradient <- vapply(parts, function(m) diag(covariance %*% t(x) %*% inverse %*% m %*% inverse %*% x %*% covariance), numeric(2))
  expect_equal(mine$df, 2 * diag(covariance)^2 / rowSums((gradient %*% solve(information)) * gradient), tolerance = 1e-6)
})

test_that("maximum likelihood is asked for in words, said, and retraced", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont); d$Subject <- as.character(d$Subject)
  a <- ask(open_study(d), "mixed model of distance on age with a random slope of age for each Subject by maximum likelihood")
  expect_equal(method_of(a), "mixed_linear_slope")
  expect_match(paste(unlist(as.list(a)$sentences), collapse = " "), "maximum likelihood")
  expect_equal(value_of(a, "log_likelihood"),
               as.numeric(logLik(nlme::lme(distance ~ age, random = ~ age | Subject, data = d, method = "ML"))), tolerance = 1e-6)
  expect_retraces(a)
})

test_that("a column of several levels is tested as a whole beside a random slope", {
  study <- hive_study()
  a <- ask(study, "mixed model of honey yield on region and strength before with a random slope of strength before for each apiary")
  expect_equal(c(value_of(a, "df1"), is.na(value_of(a, "estimate"))), c(3, TRUE))
  expect_retraces(a, 1e-5)
  # at the bound of a variance the likelihood found is at least that of lme()
  rows <- read.csv(demo_file(), stringsAsFactors = TRUE)
  rows <- rows[!is.na(rows$honey_yield_kg), ]
  own <- internal("stat_mixed_slope")(rows$honey_yield_kg, model.matrix(~ region + strength_before, rows), as.integer(rows$apiary), rows$strength_before,
                                      restricted = FALSE)
  theirs <- nlme::lme(honey_yield_kg ~ region + strength_before, random = ~ strength_before | apiary, rows, method = "ML")
  expect_true(own$singular)
  expect_gte(own$log_likelihood, as.numeric(logLik(theirs)) - 1e-6)
  # with two levels the joint test is the square of the single one
  d <- nlme::Orthodont
  fit <- internal("stat_mixed_slope")(d$distance, model.matrix(~ age + Sex, d), as.integer(d$Subject), d$age)
  one <- internal("mixed_joint")(fit, 3)
  expect_equal(one$statistic, (fit$coefficients[3] / fit$se[3])^2, tolerance = 1e-8)
  expect_equal(one$df2, fit$df[3], tolerance = 1e-8)
})
