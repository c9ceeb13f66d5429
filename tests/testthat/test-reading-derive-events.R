# One level of a column as what happens, groups that are equal, values outside a range.

batches_data <- function() {
  with_seed(8, {
    heat <- round(stats::rnorm(240, 180, 4), 1)
    data.frame(batch_no = sprintf("B%03d", 1:240), made_on = format(as.Date("2025-01-06") + 0:239 %/% 2, "%Y-%m-%d"),
               line = sample(c("L1", "L2", "L3"), 240, TRUE), oven_temp_C = heat, moisture_pct = round(stats::rnorm(240, 11.5, 1), 2),
               units_inspected = sample(c(200, 250, 300), 240, TRUE), defects = stats::rpois(240, 4),
               result = ifelse(stats::runif(240) < stats::plogis((heat - 184) / 3), "fail", "pass"))
  })
}
batches <- batches_data()
study <- open_study(local_data(batches, "batches.csv", env = parent.frame()))

test_that("the rate of a level over time is a share of the rows, not their number", {
  for (q in c("failure rate per month", "share failed by month", "what is the percentage of failures by month")) {
    t <- table_of(ask(study, q), "time")
    base <- tapply(batches$result == "fail", substr(batches$made_on, 1, 7), mean)
    expect_equal(t$mean, as.vector(base[t$period]), info = q)
  }
})

test_that("what predicts a level is a model of that level, by whatever words", {
  fail <- as.integer(batches$result == "fail")
  base <- stats::coef(stats::glm(fail ~ oven_temp_C + moisture_pct, stats::binomial, batches))
  for (q in c("predict failure from temperature and moisture", "do temperature and moisture predict failure",
              "logistic regression of failure on temperature and moisture")) {
    t <- table_of(ask(study, q), "coefficients")
    expect_equal(t$estimate, unname(base), tolerance = 1e-6, info = q)
  }
  a <- ask(study, "odds of failure by line")
  expect_identical(c(method_of(a), unlist(reading(a)$predictors)), c("logistic_regression", "line"))
})

test_that("outside a range is below the one end or above the other, and retraces", {
  out <- batches$moisture_pct < 10 | batches$moisture_pct > 13
  expect_identical(value_of(ask(study, "batches with moisture outside 10 to 13"), "n"), sum(out) + 0)
  a <- ask(study, "mean temperature of batches with moisture outside 10 to 13 by line")
  t <- table_of(a, "groups")
  expect_equal(t$mean, as.vector(tapply(batches$oven_temp_C[out], batches$line[out], mean)[t$line]))
  expect_retraces(a)
})

test_that("groups that are asked to be equal are compared", {
  for (q in c("are the lines equally hot", "are the lines equal in temperature")) {
    a <- ask(study, q)
    expect_identical(c(as.list(a)$reading$task, unlist(reading(a)$outcome), unlist(reading(a)$by)), c("compare", "oven_temp_C", "line"), info = q)
  }
})

test_that("a rate per so many of a plural takes the column that counts them, and numbered levels go by their number", {
  t <- table_of(ask(study, "defects per 1000 units by line"), "rates")
  base <- 1000 * tapply(batches$defects, batches$line, sum) / tapply(batches$units_inspected, batches$line, sum)
  expect_equal(t$rate, as.vector(base[t$group]))
  expect_identical(filters_of(ask(study, "mean temperature of line 2")), "line == L2")
})

stays <- with_seed(4, data.frame(patient = sprintf("P%03d", sample(150, 260, TRUE)), sex = sample(c("F", "M"), 260, TRUE), age = sample(20:95, 260, TRUE),
  ward = sample(c("surgery", "cardiology"), 260, TRUE), admitted = as.Date("2023-01-01") + sample(0:300, 260, TRUE), hb_g_dl = round(stats::rnorm(260, 13, 2), 1),
  admission_type = sample(c("emergency", "planned"), 260, TRUE), bmi = round(stats::rnorm(260, 27, 5), 1), died = stats::rbinom(260, 1, .2)))
stays$discharged <- stays$admitted + 1 + stats::rpois(260, 4)
hospital <- open_study(local_data(stays, "stays.csv", env = parent.frame()))

test_that("odds in a group with others held constant are those of the event", {
  a <- ask(hospital, "odds of death for emergency patients adjusted for age")
  expect_identical(c(method_of(a), unlist(reading(a)$outcome), unlist(reading(a)$predictors), unlist(reading(a)$adjust_for)),
                   c("logistic_regression", "died", "admission_type", "age"))
})

test_that("brackets explain a word that nothing knows, and bounds of the body mass are the WHO's", {
  women <- stays$sex == "F"
  expect_equal(value_of(ask(hospital, "share of anaemic women (hb below 12)"), "estimate"), mean(stays$hb_g_dl[women] < 12))
  expect_identical(value_of(ask(hospital, "how many patients are obese"), "n"), sum(stays$bmi >= 30) + 0)
})

test_that("patients who come back are counted once, and their bed days add up", {
  expect_identical(value_of(ask(hospital, "how many patients are women"), "estimate"), length(unique(stays$patient[stays$sex == "F"])) + 0)
  t <- table_of(ask(hospital, "patients per ward"), "groups")
  expect_equal(t$distinct, as.vector(tapply(stays$patient, stays$ward, function(p) length(unique(p)))[t$ward]))
  days <- as.numeric(stays$discharged - stays$admitted)
  expect_equal(value_of(ask(hospital, "how many bed days were used in total"), "estimate"), sum(days))
  t <- table_of(ask(hospital, "occupied bed days per ward"), "groups")
  expect_equal(t$sum, as.vector(tapply(days, stays$ward, sum)[t$ward]))
  expect_equal(value_of(ask(hospital, "average bed days"), "estimate"), mean(days))
})

test_that("of two dates the one that the words name is taken", {
  for (noun in c("admissions", "discharges")) {
    date <- if (noun == "admissions") "admitted" else "discharged"
    t <- table_of(ask(hospital, paste(noun, "per month")), "time")
    expect_equal(t$n, as.vector(table(format(stays[[date]], "%Y-%m"))[t$period]), info = noun)
  }
})
