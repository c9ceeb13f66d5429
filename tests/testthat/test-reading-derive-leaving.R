# People who stay and leave: how long they stay, how many are still there, who is lost.

member_rows <- function(n = 220) with_seed(44, {
  months <- round(rweibull(n, 1.1, 22), 1)
  data.frame(member = sprintf("M-%03d", seq_len(n)), plan = sample(c("Basic", "Plus", "Premium"), n, TRUE), months_active = pmin(months, 36),
             cancelled = ifelse(months < 36, "yes", "no"), age = round(runif(n, 18, 70)), sex = sample(c("woman", "man"), n, TRUE))
})

test_that("how long people stay is read off curves that allow for those still there", {
  rows <- member_rows(); s <- open_study(local_data(rows))
  all <- survival::survfit(survival::Surv(months_active, cancelled == "yes") ~ 1, rows)
  a <- ask(s, "how long do members stay?")
  expect_equal(method_of(a), "kaplan_meier")
  expect_equal(value_of(a, "estimate"), unname(summary(all)$table["median"]))
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "counted as still there")
  still <- ask(s, "what proportion are still active after 12 months?")
  expect_equal(value_of(still, "estimate"), summary(all, times = 12)$surv, tolerance = 1e-10)
  longer <- ask(s, "do premium members stay longer than basic members?")
  two <- rows[rows$plan != "Plus", ]
  expect_equal(value_of(longer, "statistic"), survival::survdiff(survival::Surv(months_active, cancelled == "yes") ~ plan, two)$chisq, tolerance = 1e-8)
  model <- ask(s, "does age matter for how long people stay")
  fit <- survival::coxph(survival::Surv(months_active, cancelled == "yes") ~ age, rows)
  expect_equal(value_of(model, "hazard_ratio"), unname(exp(coef(fit))), tolerance = 1e-7)
  expect_match(as.list(model)$sentences$headline, "hazard ratio")
})

test_that("curves are read at several times at once", {
  rows <- member_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "retention at 6, 12 and 24 months by plan")
  own <- table_of(a, "at_times")
  fit <- survival::survfit(survival::Surv(months_active, cancelled == "yes") ~ plan, rows)
  at <- summary(fit, times = c(6, 12, 24))
  expect_equal(own$survival_at[order(own$group, own$at_time)], at$surv, tolerance = 1e-10)
  expect_equal(length(filters_of(a)), 0L)
  expect_retraces(a)
  expect_equal(length(reading(ask(s, "survival at 6 and 12 months"))$by), 0L)
})

test_that("churn is the column that says who left", {
  rows <- member_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "churn rate"), "estimate"), mean(rows$cancelled == "yes"))
  a <- ask(s, "churn by sex")
  expect_setequal(c(reading(a)$outcome, reading(a)$by, reading(a)$predictors), c("cancelled", "sex"))
  expect_setequal(c(reading(ask(s, "does age affect churn?"))$outcome, reading(ask(s, "does age affect churn?"))$by), c("age", "cancelled"))
})

test_that("who left is told by the date on which they did, and a period is that of the date", {
  rows <- data.frame(person = sprintf("E%02d", 1:40), dept = rep(c("Sales", "IT"), 20), hire_date = as.Date("2015-01-01") + 30 * (1:40),
                     exit_date = as.Date(NA), engagement = rep(c(5, 7, 6, 8), 10))
  rows$exit_date[c(3, 8, 11, 20, 33)] <- as.Date(c("2020-02-01", "2021-05-05", "2021-07-07", "2022-01-01", "2021-12-31"))
  s <- open_study(local_data(rows))
  gone <- !is.na(rows$exit_date)
  expect_equal(value_of(ask(s, "how many people left in 2021?"), "n"), 3)
  a <- ask(s, "turnover rate by dept")
  expect_match(a$sentences$headline, "10.0 % of IT \\(2 of 20\\).*15.0 % of Sales \\(3 of 20\\)")
  expect_retraces(a)
  expect_equal(value_of(ask(s, "do people who left have lower engagement?"), "p_value"), t.test(engagement ~ gone, rows)$p.value, tolerance = 1e-8)
})
