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

test_that("profile limits of a negative binomial model raise the deviance by the quantile, with theta free", {
  skip_if_not_installed("MASS")
  q <- MASS::quine; x <- unname(model.matrix(~ Sex + Eth, q)); y <- q$Days
  fit <- internal("stat_negative_binomial")(x, y)
  mine <- internal("stat_negative_binomial_limits")(x, y, fit)
  for (side in 1:2) {
    given <- mine[2, side]
    lost <- function(p) -2 * sum(dnbinom(y, size = exp(p[1]), mu = exp(x[, -2] %*% p[2:3] + x[, 2] * given), log = TRUE))
    lowest <- optim(c(log(fit$theta), fit$coefficients[-2]), lost, method = "BFGS", control = list(reltol = 1e-14, maxit = 1000))$value
    expect_equal(lowest - fit$deviance, qchisq(0.95, 1), tolerance = 1e-5)
  }
  # with theta held, as MASS does, the limits are close by
  ref <- suppressMessages(confint(MASS::glm.nb(Days ~ Sex + Eth, q)))
  expect_equal(mine, unname(ref), tolerance = 0.02)
})

test_that("several coefficients of a named model are tested together, and one column of levels as one", {
  skip_if_not_installed("MASS")
  study <- open_study(MASS::quine)
  a <- ask(study, "negative binomial regression of Days on Age adjusting for Sex")
  full <- MASS::glm.nb(Days ~ Age + Sex, MASS::quine, control = glm.control(epsilon = 1e-12, maxit = 100))
  part <- MASS::glm.nb(Days ~ Sex, MASS::quine, control = glm.control(epsilon = 1e-12, maxit = 100))
  expect_equal(value_of(a, "statistic"), as.numeric(2 * (logLik(full) - logLik(part))), tolerance = 1e-6)
  expect_equal(value_of(a, "df"), 3)
  expect_match(as.list(a)$sentences$headline, "Age goes with days, with sex held constant")
  expect_retraces(a)
  b <- ask(open_study(trees), "robust regression of Volume on Girth and Height")
  fit <- MASS::rlm(Volume ~ Girth + Height, trees, acc = 1e-14, maxit = 500)
  v <- vcov(fit)[2:3, 2:3]
  expect_equal(value_of(b, "statistic"), drop(coef(fit)[2:3] %*% solve(v, coef(fit)[2:3])) / 2, tolerance = 1e-6)
  expect_equal(c(value_of(b, "df1"), value_of(b, "df2")), c(2, 28))
  expect_match(as.list(b)$sentences$headline, "Girth and height together go with volume")
  expect_retraces(b)
})

test_that("an exposure of a negative binomial model is respected", {
  skip_if_not_installed("MASS")
  d <- with_seed(4, data.frame(arm = sample(c("control", "drug"), 120, TRUE), days = sample(30:400, 120, TRUE)))
  d$events <- with_seed(5, rnbinom(120, size = 1.5, mu = d$days / 60 * exp(0.5 * (d$arm == "drug"))))
  ref <- MASS::glm.nb(events ~ arm + offset(log(days)), d, control = glm.control(epsilon = 1e-12, maxit = 100))
  for (q in c("negative binomial regression of events on arm with exposure days", "negative binomial regression of events per days on arm")) {
    a <- ask(open_study(d), q)
    expect_equal(table_of(a, "coefficients")$estimate, unname(coef(ref)), tolerance = 1e-6, info = q)
    expect_equal(value_of(a, "theta"), ref$theta, tolerance = 1e-5, info = q)
  }
  expect_retraces(a)
})
