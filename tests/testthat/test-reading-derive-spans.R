# Occasions told by the time that had passed, of columns whose names mix units of time.

knee_rows <- function(n = 160) with_seed(71, {
  out <- data.frame(patient = sprintf("P%03d", seq_len(n)), sex = sample(c("F", "M"), n, TRUE),
                    implant = sample(c("cemented", "hybrid", "uncemented"), n, TRUE), smoker = sample(c("never", "former", "current"), n, TRUE),
                    age = round(rnorm(n, 68, 9)), los_days = 1 + rpois(n, 4))
  out$pain_before <- pmin(10, pmax(2, round(rnorm(n, 7, 1.4))))
  out$pain_6w <- pmax(0, round(out$pain_before - rnorm(n, 2.4, 1.5)))
  out$pain_6m <- pmax(0, round(out$pain_6w - rnorm(n, 1, 1.3)))
  out$walk_m <- round(rnorm(n, 300 - 2 * (out$age - 68), 50))
  out
})

test_that("a phrase of time is the column of that occasion, whatever its unit", {
  rows <- knee_rows(); s <- open_study(rows)
  expect_equal(value_of(ask(s, "average pain at six months by sex"), "n"), nrow(rows))
  means <- table_of(ask(s, "average pain at six months by sex"), "groups")
  expect_equal(means$mean, as.vector(tapply(rows$pain_6m, rows$sex, mean)), tolerance = 1e-12)
  women <- rows[rows$sex == "F", ]
  expect_equal(value_of(ask(s, "is pain at six weeks correlated with pain at 6 months in women"), "estimate"),
               cor(women$pain_6w, women$pain_6m), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "what fraction of patients still had pain of 4 or more at 6 months"), "estimate"), mean(rows$pain_6m >= 4))
  expect_equal(value_of(ask(s, "how many had pain above 5 after six weeks"), "n"), sum(rows$pain_6w > 5))
  expect_equal(filters_of(ask(s, "patients with a pain score of zero at six months")), "pain_6m == 0")
  expect_equal(reading(ask(s, "pain before surgery by sex"))$outcome, "pain_before")
})

test_that("a change between two occasions is told by its ends, or from the first one on", {
  rows <- knee_rows(); s <- open_study(rows)
  a <- ask(s, "did pain go down from before surgery to six months")
  expect_equal(method_of(a), "t_paired")
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(rows$pain_6m, rows$pain_before, paired = TRUE)$statistic)), tolerance = 1e-10)
  b <- ask(s, "how much did pain fall in the first six weeks")
  expect_setequal(reading(b)$outcome, c("pain_before", "pain_6w"))
  expect_match(paste(as.list(b)$reading$assumed, collapse = " "), "pain_before, the first occasion")
  d <- ask(s, "did pain fall more in women than in men between six weeks and six months")
  change <- rows$pain_6m - rows$pain_6w
  expect_equal(abs(value_of(d, "statistic")), abs(unname(t.test(change ~ rows$sex)$statistic)), tolerance = 1e-10)
  e <- ask(s, "is the drop in pain from before surgery to six weeks bigger for uncemented than cemented implants")
  two <- rows$implant != "hybrid"
  expect_equal(abs(value_of(e, "statistic")), abs(unname(t.test((pain_6w - pain_before) ~ implant, rows[two, ])$statistic)), tolerance = 1e-10)
  expect_retraces(e)
})

test_that("improving is going down where less is better, and that is said", {
  rows <- knee_rows(); s <- open_study(rows)
  a <- ask(s, "what percentage of patients improved by at least 3 points by six months")
  expect_equal(value_of(a, "estimate"), mean(rows$pain_before - rows$pain_6m >= 3), tolerance = 1e-12)
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "lower values")
  names(rows)[names(rows) %in% c("pain_before", "pain_6w", "pain_6m")] <- c("mobility_before", "mobility_6w", "mobility_6m")
  b <- ask(open_study(rows), "how many patients improved by more than 1 point by six weeks")
  expect_equal(value_of(b, "n"), sum(rows$mobility_6w - rows$mobility_before > 1))
})

test_that("names of a set in one unit, and numbers that are no occasion, stay as they were", {
  rows <- knee_rows(); s <- open_study(rows)
  expect_equal(filters_of(ask(s, "average age of patients staying over 6 days")), "los_days > 6")
  a <- ask(s, "average pain at nine months")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(paste(format(a), collapse = " "), "not measured at nine months")
  set <- internal("study_sets")(s, "repeated_measures")[[1]]
  expect_equal(internal("span_place")("six weeks", set), 2L)
  expect_equal(internal("span_place")("6 months", set), 3L)
  expect_true(is.na(internal("span_place")("6 years", set)))
})
