test_that("proportional odds agree with MASS::polr", {
  skip_if_not_installed("MASS")
  h <- MASS::housing
  d <- h[rep(seq_len(nrow(h)), h$Freq), ]
  x <- model.matrix(~ Infl + Type + Cont, d)[, -1]
  mine <- internal("stat_ordinal")(as.integer(d$Sat), x)
  ref <- MASS::polr(Sat ~ Infl + Type + Cont, data = d, Hess = TRUE)
  expect_true(mine$converged)
  expect_equal(mine$coefficients, unname(coef(ref)), tolerance = 1e-3)
  expect_equal(mine$thresholds, unname(ref$zeta), tolerance = 1e-3)
  expect_equal(mine$se, unname(sqrt(diag(vcov(ref)))[seq_along(coef(ref))]), tolerance = 1e-3)
  expect_equal(mine$deviance, ref$deviance, tolerance = 1e-8)
  # never below the optimiser's likelihood
  expect_gte(mine$log_likelihood, as.numeric(logLik(ref)) - 1e-9)
})

test_that("two levels are refused, a tie of predictors and separation are told", {
  expect_error(internal("stat_ordinal")(rep(1:2, 10), cbind(rnorm(20))), class = "upbeatquill_error_group_count")
  expect_error(internal("stat_ordinal")(rep(1:3, 10), cbind(1:30, 1:30)), class = "upbeatquill_error_collinear")
  expect_error(internal("stat_ordinal")(rep(1:3, each = 10), cbind(1:30)), class = "upbeatquill_error_separation")
})
