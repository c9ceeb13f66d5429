skip_if_not_installed("survival")
tight <- survival::coxph.control(eps = 1e-14, toler.chol = 1e-15, iter.max = 60)
for (name in c("clogit", "strata", "coxph", "Surv")) assign(name, getExportedValue("survival", name))

test_that("one case in each set, and several, are fitted as by the exact conditional likelihood", {
  fit <- internal("stat_conditional_logistic")
  own <- fit(infert$case, as.matrix(infert[c("spontaneous", "induced")]), infert$stratum)
  ref <- clogit(case ~ spontaneous + induced + strata(stratum), infert, control = tight)
  expect_equal(own$coefficients, unname(coef(ref)), tolerance = 1e-10)
  expect_equal(own$covariance, unname(vcov(ref)), tolerance = 1e-9)
  expect_equal(c(own$null_log_likelihood, own$log_likelihood), ref$loglik, tolerance = 1e-12)
  expect_equal(own$sets, 83)
  rows <- with_seed(2, data.frame(y = rbinom(200, 1, 0.4), x = rnorm(200), z = rnorm(200), set = sample(15, 200, TRUE)))
  own <- fit(rows$y, as.matrix(rows[c("x", "z")]), rows$set)
  ref <- clogit(y ~ x + z + strata(set), rows, method = "exact", control = tight)
  expect_equal(own$coefficients, unname(coef(ref)), tolerance = 1e-9)
  expect_equal(own$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-9)
})

test_that("the likelihood of a small set is the share of its choice among all choices", {
  x <- c(0.3, -1.2, 0.8, 2, -0.4); beta <- 0.7
  sums <- internal("kernel_matched_sums")(as.integer(c(1, 0, 0, 1, 0)), rep(1L, 5), cbind(x), beta)
  all <- combn(5, 2, function(k) exp(beta * sum(x[k]))); mean <- sum(all * combn(5, 2, function(k) sum(x[k]))) / sum(all)
  expect_equal(sums$log_likelihood, log(exp(beta * (x[1] + x[4])) / sum(all)), tolerance = 1e-12)
  expect_equal(sums$score, x[1] + x[4] - mean, tolerance = 1e-12)
  expect_equal(sums$information[1], sum(all * combn(5, 2, function(k) sum(x[k]))^2) / sum(all) - mean^2, tolerance = 1e-12)
})

test_that("sets that tell nothing are counted out, and what cannot be told is refused", {
  fit <- internal("stat_conditional_logistic")
  y <- c(1, 0, 1, 0, 1, 1, 0, 0); x <- cbind(c(2, 1, 1, 2, 5, 3, 2, 2)); set <- c(1, 1, 2, 2, 3, 3, 4, 4)
  own <- fit(y, x, set)
  expect_equal(own[c("sets", "n", "events")], list(sets = 2, n = 4, events = 2), ignore_attr = TRUE)
  expect_equal(own$coefficients, 0, tolerance = 1e-12)
  expect_error(fit(c(1, 1, 0, 0), cbind(1:4), c(1, 1, 2, 2)), class = "upbeatquill_error_unfit_data")
  expect_error(fit(y, cbind(set), set), class = "upbeatquill_error_collinear")
  expect_error(fit(rep(1:0, 10), cbind(rep(1:0, 10)), rep(1:10, each = 2)), class = "upbeatquill_error_separation")
})
