pool <- internal("stat_pool")

test_that("pooling of two and of alike studies, by hand", {
  p <- pool(c(1, 3), c(1, 1))
  expect_equal(p$fixed$estimate, 2)
  expect_equal(p$q, 2)
  expect_equal(p$i_squared, 0.5)
  expect_equal(p$tau_squared_dl, 1)
  # two studies of equal error: REML is the sample variance less the error variance
  expect_equal(p$tau_squared, 2 - 1, tolerance = 1e-10)
  same <- pool(rep(2, 5), c(1, 2, 1, 2, 1))
  expect_equal(same$tau_squared, 0)
  expect_equal(same$random$estimate, 2)
  expect_error(pool(1, 1), class = "upbeatquill_error_too_few_rows")
  expect_error(pool(c(1, 2), c(1, 0)), class = "upbeatquill_error_unfit_data")
})

test_that("the random-effects line is weighted least squares at the REML variance, which maximises the restricted likelihood", {
  y <- c(0.3, 1.2, -0.1, 0.8, 2.1, 0.4); v <- c(0.1, 0.2, 0.15, 0.3, 0.25, 0.05)
  p <- pool(y, sqrt(v))
  restricted <- function(t) { w <- 1 / (v + t); m <- weighted.mean(y, w); -0.5 * (sum(log(v + t)) + log(sum(w)) + sum(w * (y - m)^2)) }
  best <- optimize(restricted, c(0, 5), maximum = TRUE, tol = 1e-10)$maximum
  expect_equal(p$tau_squared, best, tolerance = 1e-6)
  fit <- summary(lm(y ~ 1, weights = 1 / (v + p$tau_squared)))$coefficients
  expect_equal(c(p$random$estimate, p$random$se), unname(fit[1, 1:2]), tolerance = 1e-12)
  egger <- summary(lm(I(y / sqrt(v)) ~ I(1 / sqrt(v))))$coefficients
  expect_equal(p$egger$p_value, unname(egger[1, 4]), tolerance = 1e-10)
  expect_equal(nrow(p$leave_one_out), 6)
})
