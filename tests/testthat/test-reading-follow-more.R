# Follow-ups that need the study: rates on another scale or over time, zeros, weights, what comes after shares, rankings and curves.

chain <- function(study, ...) {
  a <- study
  for (q in c(...)) a <- ask(a, q)
  a
}

line_rows <- function(n = 240) with_seed(21, {
  out <- data.frame(date = rep(as.Date("2025-02-03") + seq_len(n / 6) - 1, each = 6), line = rep(c("A", "B", "C"), n / 3),
                    shift = rep(c("early", "early", "early", "late", "late", "late"), n / 6), units = rpois(n, 900), downtime_min = rpois(n, 2), wt = round(rgamma(n, 4, 2), 2))
  out$defects <- rbinom(n, out$units, ifelse(out$shift == "late", 0.02, 0.01))
  out
})

test_that("a rate is told on another scale, over time, and stays one", {
  rows <- line_rows(); s <- open_study(local_data(rows))
  a <- chain(s, "defects per units by shift", "per 1000 units")
  expect_equal(value_of(a, "estimate"), 1000 * sum(rows$defects) / sum(rows$units), tolerance = 1e-10)
  b <- ask(a, "over time")
  expect_equal(method_of(b), "rate_table")
  rates <- as.list(b)$tables[[1]]
  expect_equal(length(rates$rows), length(unique(rows$date)))
})

test_that("zeros are left out of the measure before, weights weigh it", {
  rows <- line_rows(); s <- open_study(local_data(rows))
  a <- chain(s, "mean downtime by line", "excluding zeros")
  some <- rows[rows$downtime_min > 0, ]
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(some$downtime_min, some$line, mean)), tolerance = 1e-12)
  b <- chain(s, "average downtime by line", "weighted by wt")
  own <- as.list(b)$tables[[1]]
  expect_equal(method_of(b), "weighted_means")
  expect_equal(reading(b)$outcome, "downtime_min")
  expect_equal(reading(chain(s, "total downtime by line", "which line is worst?"))$top$order, "highest")
})

pupil_rows <- function(n = 200) with_seed(13, {
  out <- data.frame(pupil = sprintf("P%03d", seq_len(n)), school = sample(c("Ash", "Birch", "Carl"), n, TRUE), sex = sample(c("F", "M"), n, TRUE),
                    programme = sample(c("tutoring", "usual"), n, TRUE), hours = round(rgamma(n, 4), 1), attendance = round(rnorm(n, 90, 5), 1))
  out$maths_autumn <- round(rnorm(n, 50, 10)); out$maths_summer <- round(out$maths_autumn + 4 + 3 * (out$programme == "tutoring") + rnorm(n, 0, 7))
  out$reading_autumn <- round(rnorm(n, 60, 9)); out$reading_summer <- round(out$reading_autumn + rnorm(n, 2, 6))
  out$passed <- ifelse(out$maths_summer >= 54, "pass", "fail")
  out
})

test_that("after shares come odds, models and risk ratios", {
  rows <- pupil_rows(); s <- open_study(local_data(rows))
  tested <- chain(s, "pass rate by programme", "is that significant?")
  odds <- ask(tested, "odds ratio")
  fit <- glm(passed == "pass" ~ programme, binomial, rows)
  expect_equal(abs(log(value_of(odds, "odds_ratio"))), unname(abs(coef(fit)[2])), tolerance = 1e-6)
  model <- ask(tested, "adjust for attendance")
  held <- glm(passed == "pass" ~ programme + attendance, binomial, rows)
  expect_equal(abs(log(value_of(model, "odds_ratio"))), unname(abs(coef(held)[2])), tolerance = 1e-6)
  ratio <- chain(s, "share passed by programme", "risk ratio")
  p <- tapply(rows$passed == "pass", rows$programme, mean)
  expect_equal(abs(log(value_of(ratio, "estimate"))), unname(abs(log(p[1] / p[2]))), tolerance = 1e-8)
})

test_that("what is held constant grows, a ranking becomes a model, a change is asked of another measure", {
  rows <- pupil_rows(); s <- open_study(local_data(rows))
  a <- chain(s, "does attendance affect maths_summer?", "adjust for hours", "and school")
  expect_setequal(reading(a)$adjust_for, c("hours", "school"))
  expect_equal(value_of(a, "estimate"), unname(coef(lm(maths_summer ~ attendance + hours + school, rows))["attendance"]), tolerance = 1e-8)
  b <- chain(s, "maths_summer by school", "which is best?", "adjust for maths_autumn")
  expect_equal(method_of(b), "linear_regression")
  expect_equal(reading(b)$adjust_for, "maths_autumn")
  expect_equal(method_of(chain(s, "maths_summer by school", "which is best?", "effect size")), "anova_welch")
  d <- chain(s, "did tutoring raise maths scores?", "and reading?")
  change <- rows$reading_summer - rows$reading_autumn
  expect_equal(abs(value_of(d, "statistic")), abs(unname(t.test(change ~ rows$programme)$statistic)), tolerance = 1e-10)
})

test_that("curves are read at a time, and what is to be held constant makes a model of the hazard", {
  rows <- with_seed(44, { months <- round(rweibull(160, 1.1, 22), 1)
    data.frame(plan = sample(c("Basic", "Plus"), 160, TRUE), months_active = pmin(months, 36), cancelled = ifelse(months < 36, "yes", "no"),
               age = round(runif(160, 18, 70)), sex = sample(c("woman", "man"), 160, TRUE)) })
  s <- open_study(local_data(rows))
  at <- chain(s, "survival curve by plan", "at 12 months")
  expect_equal(length(filters_of(at)), 0L)
  fit <- survival::survfit(survival::Surv(months_active, cancelled == "yes") ~ plan, rows)
  expect_equal(value_of(at, "survival_1"), summary(fit, times = 12)$surv[1], tolerance = 1e-10)
  model <- chain(s, "survival curve by plan", "adjust for age", "and sex")
  cox <- survival::coxph(survival::Surv(months_active, cancelled == "yes") ~ plan + age + sex, rows)
  expect_equal(table_of(model, "coefficients")$hazard_ratio[1], unname(exp(coef(cox)[1])), tolerance = 1e-6)
})

test_that("a follow-up goes back to the table, divides a model, takes ranks with what is held constant", {
  d <- with_seed(181, data.frame(clinic = sample(c("Ashby", "Corby"), 120, TRUE), sex = sample(c("F", "M"), 120, TRUE), age = round(rnorm(120, 50, 9)),
                                 days_off = rpois(120, 12)))
  s <- open_study(d)
  boxes <- ask(ask(s, "average days off by clinic"), "as a box plot")
  expect_equal(as.list(ask(boxes, "in a table"))$reading$task, "describe")
  model <- ask(ask(s, "is age related to days off"), "controlling for sex")
  apart <- ask(model, "separately for men and women")
  expect_true(isTRUE(apart$reading$extra$interaction))
  ranks <- ask(model, "spearman instead")
  expect_equal(method_of(ranks), "partial_ranks")
  rank_of <- function(v) rank(v)
  x <- residuals(lm(rank_of(d$age) ~ d$sex)); y <- residuals(lm(rank_of(d$days_off) ~ d$sex))
  expect_equal(value_of(ranks, "estimate"), cor(x, y))
  # one level left divides nothing
  one <- ask(s, "how many patients by clinic and sex in Ashby")
  expect_equal(table_of(one, "counts")$n, as.vector(table(d$sex[d$clinic == "Ashby"])))
  titled <- ask(ask(s, "show days off by clinic"), "title: Days off by clinic")
  expect_equal(figure(titled)$labels$title, "Days off by clinic")
})
