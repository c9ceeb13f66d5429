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
