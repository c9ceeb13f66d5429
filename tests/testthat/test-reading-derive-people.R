# Conditions on those whom a question speaks of: the groups of a comparison, or the rows that are asked about.

staff_rows <- function(n = 240) with_seed(72, {
  data.frame(resp = seq_len(n), gender = sample(c("Woman", "Man"), n, TRUE), department = sample(c("Sales", "Support", "Finance"), n, TRUE),
             children = sample(0:3, n, TRUE, c(0.5, 0.2, 0.2, 0.1)), commute_min = round(rgamma(n, 4, 0.12)), days_remote = sample(0:5, n, TRUE),
             team_size = sample(3:18, n, TRUE), overtime = round(pmax(0, rnorm(n, 3, 3)), 1), hours_week = round(rnorm(n, 38, 5)),
             manager_supports = factor(sample(c("Disagree", "Neither", "Agree", "Strongly agree"), n, TRUE)),
             pay_fair = factor(sample(c("Disagree", "Neither", "Agree", "Strongly agree"), n, TRUE)), recommend = sample(0:10, n, TRUE),
             plans_to_leave = sample(c("Yes", "No", "Not sure"), n, TRUE, c(0.3, 0.5, 0.2)))
})

smoking_rows <- function(n = 180) with_seed(73, {
  data.frame(patient = seq_len(n), sex = sample(c("F", "M"), n, TRUE), smoker = sample(c("never", "former", "current"), n, TRUE),
             bmi = round(rnorm(n, 27, 4), 1), infection = sample(c("yes", "no"), n, TRUE, c(0.2, 0.8)))
})

test_that("people with any of a count are set against those with none", {
  rows <- staff_rows(); s <- open_study(rows)
  for (q in c("do people with children have more overtime", "do people without children have less overtime")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "t_welch")
    expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(rows$overtime ~ rows$children > 0)$statistic)), tolerance = 1e-10)
  }
  b <- ask(s, "do people with children plan to leave more often")
  expect_equal(value_of(b, "p_value"), chisq.test(rows$plans_to_leave == "Yes", rows$children > 0, correct = FALSE)$p.value, tolerance = 1e-10)
})

test_that("a bound on whom the question is about makes two sides", {
  rows <- staff_rows(); s <- open_study(rows)
  welch <- function(side) abs(unname(t.test(rows$overtime ~ side)$statistic))
  a <- ask(s, "do people with a commute above 45 minutes have more overtime")
  expect_equal(abs(value_of(a, "statistic")), welch(rows$commute_min > 45), tolerance = 1e-10)
  b <- ask(s, "do those who work remotely at least 3 days a week have less overtime")
  expect_equal(abs(value_of(b, "statistic")), welch(rows$days_remote >= 3), tolerance = 1e-10)
  expect_equal(reading(b)$outcome, "overtime")
  # (a comparison that is told first, and a plain condition, stay what they were)
  expect_equal(filters_of(ask(s, "average overtime of people with a commute above 45 minutes")), "commute_min > 45")
})

test_that("rows are those at nought, those who say yes, those of a size", {
  rows <- staff_rows(); s <- open_study(rows)
  expect_equal(value_of(ask(s, "average commute of people who never work remotely"), "estimate"), mean(rows$commute_min[rows$days_remote == 0]))
  a <- ask(s, "among those planning to leave, what is the average overtime")
  expect_equal(value_of(a, "estimate"), mean(rows$overtime[rows$plans_to_leave == "Yes"]), tolerance = 1e-12)
  b <- ask(s, "overtime of people not planning to leave by gender")
  kept <- rows[rows$plans_to_leave != "Yes", ]
  expect_equal(sort(table_of(b, "groups")$mean), sort(as.vector(tapply(kept$overtime, kept$gender, mean))), tolerance = 1e-12)
  expect_equal(filters_of(ask(s, "average overtime of people in teams bigger than 10")), "team_size > 10")
  d <- ask(s, "mean recommend score for people who strongly agree that pay is fair")
  expect_equal(value_of(d, "estimate"), mean(rows$recommend[rows$pay_fair == "Strongly agree"]), tolerance = 1e-12)
})

test_that("of none that meet a condition the number is nought", {
  rows <- staff_rows(); s <- open_study(rows)
  a <- ask(s, "is anyone working more than 90 hours")
  expect_equal(status_of(a), "answered")
  expect_equal(value_of(a, "n"), 0)
  expect_retraces(a)
  expect_equal(value_of(ask(s, "are there any people with a commute over 60 minutes"), "n"), sum(rows$commute_min > 60))
  expect_equal(value_of(ask(s, "number of women in sales"), "n"), sum(rows$gender == "Woman" & rows$department == "Sales"))
  # what is summed over no row is still no number
  expect_equal(status_of(ask(s, "average overtime of people with a commute over 900 minutes")), "cannot_answer")
})

test_that("answers yes, no and not sure are asked about by their yes", {
  rows <- staff_rows(); s <- open_study(rows)
  a <- ask(s, "are men more likely than women to say they will leave")
  expect_equal(value_of(a, "p_value"), chisq.test(rows$plans_to_leave == "Yes", rows$gender, correct = FALSE)$p.value, tolerance = 1e-10)
  # another answer that is named stays in the table
  b <- ask(s, "are men more often not sure about leaving than women")
  expect_false(any(grepl("_yes$", reading(b)$outcome)))
})

test_that("a level of what is asked about is no condition", {
  a <- ask(open_study(staff_rows()), "which department feels best supported by its manager")
  expect_length(filters_of(a), 0)
  expect_equal(reading(a)$by, "department")
})

test_that("smokers are those who smoke now, and the others are named", {
  rows <- smoking_rows(); s <- open_study(rows)
  now <- rows$smoker == "current"
  for (q in c("compare bmi between smokers and non-smokers", "do smokers have a higher bmi than non-smokers")) {
    a <- ask(s, q)
    expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(rows$bmi ~ now)$statistic)), tolerance = 1e-10)
    expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "former and never")
  }
  expect_equal(value_of(ask(s, "average bmi of people who are not smokers"), "estimate"), mean(rows$bmi[!now]), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "infection rate among smokers"), "estimate"), mean(rows$infection[now] == "yes"), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many ex-smokers are there"), "n"), sum(rows$smoker == "former"))
  shares <- table_of(ask(s, "share of smokers by sex"), "shares")
  expect_equal(shares$share, as.vector(tapply(now, rows$sex, mean)), tolerance = 1e-10)
  expect_setequal(unlist(reading(ask(s, "is bmi different between current and never smokers"))$filters[[1]]$value), c("current", "never"))
})

meter_rows <- function() with_seed(79, {
  homes <- sprintf("H%02d", 1:24)
  out <- expand.grid(household = homes, month = seq(as.Date("2023-07-01"), by = "month", length.out = 12), stringsAsFactors = FALSE)
  k <- match(out$household, homes)
  out$tariff <- sample(c("flat", "night", "smart"), 24, TRUE)[k]
  out$insulation <- sample(c("good", "poor"), 24, TRUE)[k]
  out$solar <- sample(c("yes", "no"), 24, TRUE)[k]
  out$floor_m2 <- round(rnorm(24, 95, 20))[k]
  out$temp_c <- round(rnorm(nrow(out), 10, 6), 1)
  out$kwh <- round(300 + 2 * out$floor_m2 - ifelse(out$insulation == "poor", 8, 2) * out$temp_c + rnorm(nrow(out), 0, 40))
  out
})

applicant_rows <- function(n = 240) with_seed(80, {
  out <- data.frame(applicant_id = 2000 + seq_len(n), applied_on = as.Date("2024-01-02") + sample(0:170, n, TRUE), gender = sample(c("woman", "man"), n, TRUE),  # nolint: line_length_linter.
                    role = sample(c("analyst", "engineer"), n, TRUE), degree = sample(c("none", "bachelor", "master", "phd"), n, TRUE),
                    stage = sample(c("screened out", "phone", "onsite", "offer"), n, TRUE), years_experience = round(rexp(n, 0.2), 1),
                    test_score = round(rnorm(n, 62, 12)), expected_salary = round(rnorm(n, 52000, 8000), -2))
  out$interviewed_on <- as.Date(ifelse(out$stage %in% c("onsite", "offer"), out$applied_on + 5 + rpois(n, 14), NA), origin = "1970-01-01")
  out
})

test_that("what is the same in all rows of a unit counts once", {
  rows <- meter_rows(); s <- open_study(rows)
  once <- rows[!duplicated(rows$household), ]
  a <- ask(s, "share of households with solar")
  expect_equal(value_of(a, "estimate"), mean(once$solar == "yes"), tolerance = 1e-12)
  expect_equal(value_of(a, "n"), nrow(once))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "share of households on the smart tariff"), "estimate"), mean(once$tariff == "smart"), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "average floor area of households with solar"), "estimate"), mean(once$floor_m2[once$solar == "yes"]), tolerance = 1e-12)  # nolint: line_length_linter.
  # what differs from row to row is no property of a household
  expect_equal(value_of(ask(s, "average kwh across households"), "n"), nrow(rows))
  b <- ask(s, "households that used over 500 kwh in any month")
  expect_setequal(as.character(table_of(b, "counts")$household), unique(rows$household[rows$kwh > 500]))
})

test_that("months of a household are rows, and an effect in one group is an interaction", {
  rows <- meter_rows(); s <- open_study(rows)
  expect_equal(value_of(ask(s, "average monthly consumption per household"), "estimate"), mean(rows$kwh), tolerance = 1e-12)
  a <- ask(s, "does temperature affect kwh more in poorly insulated homes")
  fit <- lm(kwh ~ temp_c * insulation, rows)
  expect_equal(max(abs(table_of(a, "coefficients")$estimate - coef(fit)[c(1, 2, 3, 4)])), 0, tolerance = 1e-8)
})

test_that("two levels stand against the rest, dates tell who, and levels are events", {
  rows <- applicant_rows(); s <- open_study(rows)
  a <- ask(s, "do people with a master or phd score higher than those without")
  high <- rows$degree %in% c("master", "phd")
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(rows$test_score ~ high)$statistic)), tolerance = 1e-10)
  b <- ask(s, "of those interviewed how many got an offer")
  expect_equal(value_of(b, "estimate"), mean(rows$stage[!is.na(rows$interviewed_on)] == "offer"), tolerance = 1e-12)
  d <- ask(s, "do women get offers less often than men")
  expect_equal(value_of(d, "p_value"), chisq.test(rows$stage == "offer", rows$gender, correct = FALSE)$p.value, tolerance = 1e-10)
  e <- ask(s, "does experience predict getting an offer")
  expect_equal(method_of(e), "logistic_regression")
  fit <- glm((stage == "offer") ~ years_experience, binomial, rows)
  expect_equal(table_of(e, "coefficients")$estimate[2], unname(coef(fit)[2]), tolerance = 1e-6)
  f <- ask(s, "how long from application to interview on average")
  expect_equal(value_of(f, "estimate"), mean(as.numeric(rows$interviewed_on - rows$applied_on), na.rm = TRUE), tolerance = 1e-12)
})

test_that("a gap with something held constant is an effect on what is paid", {
  rows <- applicant_rows()
  a <- ask(open_study(rows), "is there a gender gap in expected salary after accounting for role and experience")
  expect_equal(reading(a)$outcome, "expected_salary")
  fit <- lm(expected_salary ~ gender + role + years_experience, rows)
  expect_equal(abs(table_of(a, "coefficients")$estimate[2]), abs(unname(coef(fit)[2])), tolerance = 1e-8)
})

test_that("a question half understood asks back", {
  s <- open_study(applicant_rows())
  a <- ask(s, "does experience slow people down")
  expect_equal(status_of(a), "needs_choice")
  expect_equal(method_of(ask(s, "how many applicants per role")), "frequency_table")
})

test_that("who smokes is read from a column of yes, no and former", {
  d <- with_seed(111, data.frame(smoker = sample(c("yes", "no", "ex"), 90, TRUE), age = round(rnorm(90, 50, 10)), falls = rpois(90, 0.5)))
  s <- open_study(d)
  expect_equal(value_of(ask(s, "how many smokers are there"), "estimate"), sum(d$smoker == "yes"))
  expect_equal(value_of(ask(s, "average age of people who smoke"), "estimate"), mean(d$age[d$smoker == "yes"]))
  expect_equal(value_of(ask(s, "average age of people who don't smoke"), "estimate"), mean(d$age[d$smoker != "yes"]))
  expect_equal(value_of(ask(s, "how many people had a fall"), "estimate"), sum(d$falls > 0))
})
