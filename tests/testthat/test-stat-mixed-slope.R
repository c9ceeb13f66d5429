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

test_that("maximum likelihood is not passed over where a slope is fitted by its restricted kind", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont); d$Subject <- as.character(d$Subject)
  a <- ask(open_study(d), "mixed model of distance on age with a random slope of age for each Subject by maximum likelihood")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "restricted maximum likelihood only")
})
