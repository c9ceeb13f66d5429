test_that("the random-intercept model agrees with nlme::lme, and its degrees of freedom with published ones", {
  skip_if_not_installed("nlme")
  d <- as.data.frame(nlme::Orthodont)
  d$Subject <- factor(as.character(d$Subject))
  x <- model.matrix(~ age * Sex, d)
  mine <- internal("stat_mixed_intercept")(d$distance, x, as.integer(d$Subject))
  ref <- nlme::lme(distance ~ age * Sex, random = ~ 1 | Subject, data = d)
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-8)
  expect_equal(mine$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-6)
  expect_equal(c(mine$sigma2, mine$tau2), c(ref$sigma^2, as.numeric(nlme::VarCorr(ref)[1, 1])), tolerance = 1e-6)
  expect_equal(mine$log_likelihood, as.numeric(logLik(ref)), tolerance = 1e-9)
  # balanced data: slopes have n - subjects - 2 degrees of freedom exactly
  expect_equal(mine$df[c(2, 4)], c(79, 79), tolerance = 1e-8)
  expect_equal(mine$ranef[match("M01", levels(d$Subject))], nlme::ranef(ref)["M01", 1], tolerance = 1e-5)
})

test_that("unbalanced groups agree with lme too, and no variance between groups is least squares", {
  skip_if_not_installed("nlme")
  d <- with_seed(4, data.frame(g = factor(sample(1:12, 90, TRUE)), x = rnorm(90)))
  d$y <- 1 + 0.5 * d$x + with_seed(5, rnorm(12))[d$g] + with_seed(6, rnorm(90))
  mine <- internal("stat_mixed_intercept")(d$y, cbind(1, d$x), as.integer(d$g))
  ref <- nlme::lme(y ~ x, random = ~ 1 | g, data = d)
  expect_equal(mine$coefficients, unname(nlme::fixef(ref)), tolerance = 1e-6)
  flat <- internal("stat_mixed_intercept")(rep(c(-1, 1, 0.5, -0.5), 5) + (1:20) / 50, cbind(1, rep(1:4, 5)), rep(1:5, each = 4))
  expect_equal(flat$tau2 > 0, internal("mixed_profile")(internal("mixed_sums")(rep(c(-1, 1, 0.5, -0.5), 5) + (1:20) / 50, cbind(1, rep(1:4, 5)),
    rep(1:5, each = 4)), 0)$derivative > 0)
  expect_error(internal("stat_mixed_intercept")(1:5, cbind(1, 5:1), 1:5), class = "upbeatquill_error_too_few_rows")
})
