# Second opinions on times to an event.

test_that("rates of the event are those of a log-linear model with the time at risk as offset", {
  rows <- with_seed(99, data.frame(arm = rep(c("a", "b"), 60), age = round(rnorm(120, 50, 8)), days = round(rexp(120, 1 / 40) + 1),
                                   relapse = sample(c("yes", "no"), 120, TRUE, c(0.7, 0.3))))
  a <- ask(open_study(rows), "constant hazard model of days to relapse on arm and age")
  fit <- glm((relapse == "yes") ~ arm + age + offset(log(days)), poisson, rows)
  t <- table_of(a, "coefficients")
  expect_equal(t$estimate, unname(coef(fit)[-1]), tolerance = 1e-7)
  expect_equal(t$hazard_ratio, exp(t$estimate))
  expect_equal(value_of(a, "rate"), sum(rows$relapse == "yes") / sum(rows$days))
  expect_retraces(a)
  cox <- ask(open_study(rows), "Cox regression of days to relapse on arm and age")
  expect_equal(as.list(cox)$second_opinions[[1]]$method$id, "constant_hazard")
})

test_that("errors of the rate model are retraced whatever the step at which the second road stops", {
  for (seed in 1:4) {
    rows <- with_seed(seed, data.frame(arm = sample(c("a", "b"), 240, TRUE), dose = round(rnorm(240, 10, 3), 1), days = round(rexp(240, 0.02) + 1),
                                       relapse = sample(0:1, 240, TRUE)))
    expect_retraces(ask(open_study(rows), "constant hazard model of days to relapse on arm and dose"))
  }
})

test_that("the log-rank test with more weight on early events is that of the survival package", {
  rows <- with_seed(100, data.frame(arm = rep(c("a", "b", "c"), 40), days = ceiling(rexp(120, 1 / 30)), died = sample(0:1, 120, TRUE)))
  a <- ask(open_study(rows), "Peto test of days to died by arm")
  own <- survival::survdiff(survival::Surv(days, died) ~ arm, rows, rho = 1)
  expect_equal(value_of(a, "statistic"), own$chisq, tolerance = 1e-8)
  expect_equal(value_of(a, "df"), 2)
  expect_retraces(a)
  plain <- ask(open_study(rows), "log-rank test of days to died by arm")
  expect_equal(value_of(plain, "statistic"), survival::survdiff(survival::Surv(days, died) ~ arm, rows)$chisq, tolerance = 1e-8)
  expect_equal(as.list(plain)$second_opinions[[1]]$method$id, "log_rank_early")
})
