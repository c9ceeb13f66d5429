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

test_that("profile limits of a proportional odds model are those of MASS, and the answer gives and retraces them", {
  skip_if_not_installed("MASS")
  h <- MASS::housing
  d <- h[rep(seq_len(nrow(h)), h$Freq), ]
  d <- d[with_seed(2, sample(nrow(d), 500)), ]
  x <- model.matrix(~ Infl + Cont, d)[, -1]
  fit <- internal("stat_ordinal")(as.integer(d$Sat), x)
  mine <- internal("stat_ordinal_limits")(as.integer(d$Sat), x, fit)
  ref <- suppressMessages(confint(MASS::polr(Sat ~ Infl + Cont, data = d, Hess = TRUE)))
  expect_equal(mine, unname(ref), tolerance = 1e-4)
  # at a limit the deviance with that coefficient held has risen by the quantile
  held <- MASS::polr(Sat ~ Infl, data = d)  # polr takes no coefficient as given, so the likelihood is written out
  at <- function(b) { z <- c(-Inf, cumsum(c(b[1], exp(b[2]))), Inf); eta <- drop(x %*% c(b[3:4], mine[3, 2]))
    -2 * sum(log(plogis(z[as.integer(d$Sat) + 1] - eta) - plogis(z[as.integer(d$Sat)] - eta))) }
  lowest <- optim(c(held$zeta[1], log(diff(held$zeta)), coef(held)), at, method = "BFGS", control = list(reltol = 1e-14, maxit = 1000))$value
  expect_equal(lowest - fit$deviance, qchisq(0.95, 1), tolerance = 1e-5)
  a <- ask(open_study(d[c("Sat", "Infl", "Cont")]), "ordinal regression of Sat on Infl and Cont")
  t <- table_of(a, "coefficients")
  expect_equal(t$profile_low[1:3], exp(mine[, 1]), tolerance = 1e-8)
  expect_true(all(is.na(t$profile_high[4:5])))
  expect_retraces(a)
})
