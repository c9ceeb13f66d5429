# Survival asked for in everyday words, of data that says itself what is censored.

skip_if_not_installed("survival")
follow <- function() with(survival::lung, data.frame(institution = inst, survival_days = time, status = c("censored", "dead")[status], age = age,
  sex = c("male", "female")[sex], ecog = ph.ecog, score_physician = ph.karno, score_patient = pat.karno))
fit <- function(formula, ...) survival::survfit(formula, data = survival::lung, conf.type = "log-log", ...)

test_that("a median of survival allows for the censored rows, and says what it took as the event", {
  a <- ask(open_study(follow()), "median survival")
  expect_equal(method_of(a), "kaplan_meier")
  own <- quantile(fit(survival::Surv(time, status == 2) ~ 1), 0.5)
  expect_equal(c(value_of(a, "estimate"), value_of(a, "ci_low"), value_of(a, "ci_high")), unname(c(own$quantile, own$lower, own$upper)))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "status = dead as the event")
  expect_retraces(a)
})

test_that("survival at a stated time is read off the curve, in the unit of the column and by groups", {
  s <- open_study(follow())
  a <- ask(s, "survival at 200 days")
  own <- summary(fit(survival::Surv(time, status == 2) ~ 1), times = 200)
  expect_equal(c(value_of(a, "estimate"), value_of(a, "ci_low"), value_of(a, "ci_high")), c(own$surv, own$lower, own$upper), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(s, "one-year survival by sex")
  t <- table_of(b, "groups")
  own <- summary(fit(survival::Surv(time, status == 2) ~ c("male", "female")[sex]), times = 365.25)
  expect_equal(t$survival_at, own$surv, tolerance = 1e-10)
  expect_equal(c(t$survival_low, t$survival_high), c(own$lower, own$upper), tolerance = 1e-10)
  expect_match(as.list(b)$sentences$headline, "at 1 year")
  expect_retraces(b)
  expect_equal(ask(s, "survival at 9 years")$status, "cannot_answer")
})

test_that("who lives longer is a comparison of curves; a hazard ratio finds its event", {
  s <- open_study(follow())
  a <- ask(s, "do women live longer?")
  expect_equal(method_of(a), "log_rank")
  own <- survival::survdiff(survival::Surv(time, status) ~ sex, data = survival::lung)
  expect_equal(value_of(a, "statistic"), own$chisq, tolerance = 1e-9)
  b <- ask(s, "hazard ratio for sex adjusting for age")
  cox <- survival::coxph(survival::Surv(time, status) ~ sex + age, data = survival::lung)
  expect_equal(method_of(b), "cox_regression")
  # male against female is the other way round than the codes 1 and 2
  ratio <- Filter(function(n) n$id == "hazard_ratio" || grepl("hazard", n$label), as.list(b)$numbers)
  expect_true(any(vapply(ratio, function(n) isTRUE(all.equal(as.numeric(n$value), exp(-coef(cox)[["sex"]]), tolerance = 1e-6)), NA)))
})

test_that("a plain summary of times that are partly censored carries a warning; that of the dead does not", {
  s <- open_study(follow())
  expect_match(paste(unlist(as.list(ask(s, "average survival time by sex"))$cautions), collapse = " "), "status is censored")
  dead <- ask(s, "mean survival time of those who died")
  expect_equal(value_of(dead, "estimate"), mean(survival::lung$time[survival::lung$status == 2]))
  expect_no_match(paste(unlist(as.list(dead)$cautions), collapse = " "), "censored")
})

test_that("a measure given by patients is no key of patients", {
  s <- open_study(follow())
  expect_equal(codebook(s)$kind[codebook(s)$column == "score_patient"], "count")
  expect_equal(value_of(ask(s, "how many patients died?"), "n"), sum(survival::lung$status == 2))
  expect_equal(unlist(reading(ask(s, "correlation of the two scores"))[c("outcome", "predictors")], use.names = FALSE),
               c("score_physician", "score_patient"))
})

test_that("what the event is leaves no row out", {
  s <- hive_study()
  d <- read.csv(demo_file())
  a <- ask(s, "survival without swarming at 60 days by arm")
  km <- summary(survival::survfit(survival::Surv(days_to_swarm, swarmed == "yes") ~ arm, data = d), times = 60)
  expect_equal(sort(table_of(a, "groups")$survival_at), sort(km$surv), tolerance = 1e-10)
  expect_equal(value_of(a, "n"), sum(!is.na(d$days_to_swarm)))
  # a yes/no column called survival is that column
  expect_equal(unlist(reading(ask(s, "winter survival by arm"))$outcome), "survived_winter")
})

# times in made-up units, with the curve of the survival package beside them
timed_study <- function(time, event = rep(c("yes", "yes", "no"), length.out = 90)) {
  set.seed(11)
  d <- data.frame(patient = seq_len(90), arm = rep(c("A", "B", "B"), 30), time = round(stats::rexp(90, 1 / 60), 1) + 0.1, event = event)
  names(d)[3:4] <- c(time, if (is.numeric(event)) "status" else "died")
  d
}
curve_at <- function(d, at) {
  summary(survival::survfit(survival::Surv(d[[3]], as.integer(d[[4]] %in% c("yes", "1"))) ~ 1), times = at)$surv
}

test_that("a stated time is turned into the unit that the name of the column says", {
  units <- c(time_hours = 24 * 7, days = 7, weeks_followed = 1, survival_months = 12 * 7 / 365.25)
  for (name in names(units)) {
    d <- timed_study(name)
    a <- ask(open_study(d), "survival at 1 week")
    expect_equal(value_of(a, "estimate"), curve_at(d, units[[name]]), tolerance = 1e-9, info = name)
  }
  d <- timed_study("days")
  for (q in c("survival at day 60", "survival at 60", "survival at time 60", "what is the 60-day survival?"))
    expect_equal(value_of(ask(open_study(d), q), "estimate"), curve_at(d, 60), tolerance = 1e-9, info = q)
})

test_that("where nothing says the unit of the times it is asked for, and the choice is carried out", {
  d <- timed_study("time")
  s <- open_study(d)
  a <- ask(s, "survival at 1 month")
  expect_equal(status_of(a), "needs_choice")
  expect_match(a$sentences$headline, "which unit")
  by_number <- ask(a, "1")
  expect_equal(value_of(by_number, "estimate"), curve_at(d, 365.25 / 12), tolerance = 1e-6)
  by_words <- ask(a, "weeks")
  expect_match(reading(by_words)$plain, "counted in weeks")
  expect_equal(value_of(by_words, "estimate"), curve_at(d, 365.25 / 84), tolerance = 1e-6)
  expect_equal(value_of(ask(s, "survival at 100"), "estimate"), curve_at(d, 100), tolerance = 1e-9)
})

test_that("a status of noughts and ones says whether the event came", {
  d <- timed_study("survival_days", rep(1:0, 45))
  a <- ask(open_study(d), "survival at 30 days")
  expect_match(reading(a)$plain, "status is 1")
  expect_equal(value_of(a, "estimate"), curve_at(d, 30), tolerance = 1e-9)
})
