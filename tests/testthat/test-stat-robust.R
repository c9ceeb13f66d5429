test_that("Huber's estimates agree with MASS::rlm, also where rows lie far off", {
  skip_if_not_installed("MASS")
  ref <- MASS::rlm(stack.loss ~ ., stackloss, acc = 1e-12, maxit = 500)
  mine <- internal("stat_huber")(unname(cbind(1, as.matrix(stackloss[1:3]))), stackloss$stack.loss)
  expect_equal(mine$coefficients, unname(coef(ref)), tolerance = 1e-6)
  expect_equal(mine$se, unname(summary(ref)$coefficients[, 2]), tolerance = 1e-6)
  expect_equal(mine$scale, ref$s, tolerance = 1e-6)
})

test_that("negative binomial regression agrees with MASS::glm.nb", {
  skip_if_not_installed("MASS")
  q <- MASS::quine
  ref <- MASS::glm.nb(Days ~ Sex + Eth, data = q, control = glm.control(epsilon = 1e-12, maxit = 100))
  mine <- internal("stat_negative_binomial")(unname(model.matrix(~ Sex + Eth, q)), q$Days)
  expect_equal(mine$coefficients, unname(coef(ref)), tolerance = 1e-5)
  expect_equal(mine$theta, ref$theta, tolerance = 1e-3)
  expect_gte(mine$log_likelihood, as.numeric(logLik(ref)) - 1e-8)
  expect_error(internal("stat_negative_binomial")(matrix(1, 20, 1), rep(3:4, 10)), class = "upbeatquill_error_underdispersed")
})

test_that("multinomial regression agrees with nnet::multinom", {
  skip_if_not_installed("nnet")
  d <- iris[c(TRUE, FALSE), ]
  x <- model.matrix(~ Sepal.Width, d)
  ref <- nnet::multinom(Species ~ Sepal.Width, d, trace = FALSE, maxit = 500, reltol = 1e-12)
  mine <- internal("stat_multinomial")(as.integer(d$Species), x)
  expect_equal(mine$coefficients, unname(coef(ref)), tolerance = 1e-4, ignore_attr = TRUE)
  expect_equal(mine$log_likelihood, as.numeric(logLik(ref)), tolerance = 1e-7)
  expect_equal(mine$se, unname(summary(ref)$standard.errors), tolerance = 1e-3, ignore_attr = TRUE)
  expect_error(internal("stat_multinomial")(rep(1:3, each = 10), cbind(1, 1:30)), class = "upbeatquill_error_separation")
})

test_that("the natural spline spans the space of splines::ns", {
  x <- with_seed(8, runif(80, 0, 10)); y <- sin(x) + with_seed(9, rnorm(80, 0, 0.2))
  basis <- internal("natural_spline")(x, 4L)
  ref <- lm(y ~ splines::ns(x, knots = quantile(x, 1:3 / 4), Boundary.knots = range(x)))
  expect_equal(unname(fitted(lm(y ~ basis))), unname(fitted(ref)), tolerance = 1e-8)
})

test_that("further centres are base R's", {
  v <- with_seed(4, rexp(41) + 0.1)
  f <- internal("further_statistics")()
  for (one in f) expect_equal(one$compute(v), eval(parse(text = one$script)), tolerance = 1e-12, info = one$label)
  expect_error(f$geometric_mean$compute(c(1, 0)), class = "upbeatquill_error_unfit_data")
})

test_that("a prediction at stated values is predict()'s, with both intervals", {
  a <- ask(hive_study(), "predict honey yield for a strength before of 12")
  d <- read.csv(demo_file())
  fit <- lm(honey_yield_kg ~ strength_before, d)
  at <- data.frame(strength_before = 12)
  expect_equal(c(value_of(a, "estimate"), value_of(a, "ci_low"), value_of(a, "ci_high")), as.vector(predict(fit, at, interval = "confidence")),
    tolerance = 1e-10)
  expect_equal(c(value_of(a, "prediction_low"), value_of(a, "prediction_high")), as.vector(predict(fit, at, interval = "prediction"))[2:3],
    tolerance = 1e-10)
  expect_retraces(a)
  expect_match(as.list(ask(hive_study(), "expected honey yield with strength before 40"))$sentences$headline, "beyond the values")
})
