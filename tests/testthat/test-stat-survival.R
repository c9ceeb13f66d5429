skip_if_not_installed("survival")
s <- function(name) internal(name)
strata <- survival::strata
lung <- na.omit(survival::lung[, c("time", "status", "age", "sex", "ph.ecog")])
event <- lung$status == 2

test_that("curves, medians and restricted means agree with the survival package", {
  ref <- survival::survfit(survival::Surv(time, event) ~ 1, data = lung, conf.type = "log-log")
  km <- s("stat_kaplan_meier")(lung$time, event)
  expect_equal(km$survival, ref$surv, tolerance = 1e-12)
  expect_equal(km$at_risk, ref$n.risk)
  inner <- !is.na(km$ci_low)
  expect_equal(km$ci_low[inner], ref$lower[inner], tolerance = 1e-12)
  q <- quantile(ref, 0.5)
  expect_equal(unname(s("median_survival")(km)), unname(c(q$quantile, q$lower, q$upper)))
  table <- summary(ref, rmean = 500)$table
  expect_equal(unname(s("restricted_mean")(km, 500)), unname(table[grep("rmean", names(table))]), tolerance = 1e-10)
})

test_that("a curve that rests on one half has its median in the middle of the step, one that stays above has none", {
  expect_equal(s("median_survival")(s("stat_kaplan_meier")(1:4, rep(TRUE, 4)))[["median"]], 2.5)
  expect_true(is.na(s("median_survival")(s("stat_kaplan_meier")(1:4, c(TRUE, FALSE, FALSE, FALSE)))[["median"]]))
})

test_that("the log-rank test agrees with survdiff for two and more groups", {
  for (g in c("sex", "ph.ecog")) {
    code <- as.integer(factor(lung[[g]]))
    ref <- survival::survdiff(survival::Surv(lung$time, event) ~ code)
    mine <- s("stat_log_rank")(lung$time, event, code)
    expect_equal(mine$statistic, ref$chisq, tolerance = 1e-10)
    expect_equal(mine$groups$expected, as.vector(ref$exp), tolerance = 1e-10)
  }
  expect_error(s("stat_log_rank")(1:4, rep(FALSE, 4), c(1, 1, 2, 2)), class = "upbeatquill_error_no_events")
})

test_that("Cox regression with Efron's ties agrees with coxph", {
  x <- as.matrix(lung[c("age", "sex", "ph.ecog")])
  ref <- survival::coxph(survival::Surv(time, event) ~ age + sex + ph.ecog, data = lung)
  mine <- s("stat_cox")(lung$time, event, x)
  expect_true(mine$converged)
  expect_equal(mine$coefficients, unname(coef(ref)), tolerance = 1e-7)
  expect_equal(mine$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-7)
  expect_equal(c(mine$null_log_likelihood, mine$log_likelihood), ref$loglik, tolerance = 1e-10)
  expect_equal(mine$concordance, unname(summary(ref)$concordance[1]), tolerance = 1e-10)
  expect_equal(mine$schoenfeld$residuals, unname(residuals(ref, "schoenfeld")), tolerance = 1e-5, ignore_attr = TRUE)
})

test_that("perfect prediction, repeated predictors and no events are told apart from a fit", {
  expect_error(s("stat_cox")(c(1:10, 21:30), rep(TRUE, 20), cbind(rep(1:0, each = 10))), class = "upbeatquill_error_separation")
  expect_error(s("stat_cox")(1:10, rep(TRUE, 10), cbind(1:10, 2 * (1:10))), class = "upbeatquill_error_collinear")
  expect_error(s("stat_cox")(1:10, rep(FALSE, 10), cbind(rnorm(10))), class = "upbeatquill_error_no_events")
})

test_that("a curve read at one time is the survival package's, unknown beyond the last time", {
  km <- s("stat_kaplan_meier")(lung$time, event)
  ref <- survival::survfit(survival::Surv(time, event) ~ 1, data = lung, conf.type = "log-log")
  for (at in c(1, 100, 365.25, 700, max(lung$time))) {
    own <- summary(ref, times = at, extend = TRUE)
    read <- s("survival_at")(km, at)
    expect_equal(read[["survival"]], own$surv, tolerance = 1e-12, info = at)
    if (at > min(lung$time)) expect_equal(unname(read[c("low", "high")]), c(own$lower, own$upper), tolerance = 1e-12, info = at)
  }
  expect_equal(s("survival_at")(km, 0.5)[["survival"]], 1)
  expect_true(is.na(s("survival_at")(km, 5000)[["survival"]]))
  expect_equal(s("survival_at")(s("stat_kaplan_meier")(1:4, rep(TRUE, 4)), 9)[["survival"]], 0)
})

test_that("strata, clusters and heavy ties are those of coxph and survdiff", {
  rows <- with_seed(321, data.frame(time = ceiling(rexp(400, 0.1)), event = sample(0:1, 400, TRUE) == 1, x = rnorm(400), z = sample(0:1, 400, TRUE),
                                    site = sample(5, 400, TRUE), ward = sample(25, 400, TRUE)))
  tight <- survival::coxph.control(eps = 1e-14, toler.chol = 1e-15, iter.max = 60)
  ref <- survival::coxph(survival::Surv(time, event) ~ x + z + strata(site), rows, control = tight)
  mine <- s("stat_cox")(rows$time, rows$event, as.matrix(rows[c("x", "z")]), rows$site)
  expect_equal(mine$coefficients, unname(coef(ref)), tolerance = 1e-10)
  expect_equal(mine$covariance, unname(vcov(ref)), tolerance = 1e-10)
  expect_equal(mine$concordance, unname(ref$concordance[["concordance"]]), tolerance = 1e-12)
  ref <- survival::coxph(survival::Surv(time, event) ~ x + z + strata(site), rows, cluster = ward, control = tight)
  mine <- s("stat_cox")(rows$time, rows$event, as.matrix(rows[c("x", "z")]), rows$site, rows$ward)
  expect_equal(mine$covariance, unname(vcov(ref)), tolerance = 1e-10)
  expect_equal(mine$se_plain, unname(sqrt(diag(ref$naive.var))), tolerance = 1e-10)
  expect_equal(mine$statistic, unname(ref$wald.test), tolerance = 1e-10)
  expect_equal(mine$clusters, 25)
  expect_error(s("stat_cox")(rows$time, rows$event, cbind(rows$x), NULL, rep(1:2, 200)), class = "upbeatquill_error_too_few_groups")
  for (rho in 0:1) {
    own <- survival::survdiff(survival::Surv(time, event) ~ z + strata(site), rows, rho = rho)
    mine <- s("stat_log_rank")(rows$time, rows$event, rows$z + 1L, early = rho == 1, stratum = rows$site)
    expect_equal(mine$statistic, own$chisq, tolerance = 1e-10, info = rho)
    expect_equal(mine$groups$expected, rowSums(own$exp), tolerance = 1e-10, info = rho)
  }
})

test_that("the order of the rows changes nothing, and one row for each stratum tells nothing", {
  rows <- with_seed(5, data.frame(time = rexp(60), event = sample(0:1, 60, TRUE) == 1, x = rnorm(60)))
  mixed <- rows[with_seed(6, sample(60)), ]
  a <- s("stat_cox")(rows$time, rows$event, cbind(rows$x)); b <- s("stat_cox")(mixed$time, mixed$event, cbind(mixed$x))
  expect_equal(a$coefficients, b$coefficients, tolerance = 1e-12)
  expect_equal(a$concordance, b$concordance)
  expect_error(s("stat_log_rank")(rows$time, rows$event, rep(1:2, 30), stratum = 1:60), class = "upbeatquill_error_unfit_data")
  expect_error(s("stat_cox")(rows$time, rows$event, cbind(rows$x), 1:60), class = "upbeatquill_error_separation")
})
