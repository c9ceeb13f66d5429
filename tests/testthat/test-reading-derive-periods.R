# Periods counted from the first day, weeks of numbered days, times named by what they are of.

call_rows <- function(n = 300) with_seed(62, {
  out <- data.frame(call_id = sprintf("C%04d", seq_len(n)),
                    started_at = format(as.POSIXct("2025-03-03 08:00", tz = "UTC") + sort(runif(n, 0, 27 * 86400)), "%Y-%m-%d %H:%M"),
                    wait_seconds = round(rexp(n, 1 / 90)), handle_seconds = round(rlnorm(n, 5.5, 0.5)),
                    handled = sample(c("answered", "abandoned"), n, TRUE, c(0.8, 0.2)), agent = sample(c("Asha", "Bram", "Cleo"), n, TRUE))
  out
})

test_that("the second week is counted from the first day, and two such weeks are compared", {
  rows <- call_rows(); s <- open_study(local_data(rows))
  day <- as.Date(substr(rows$started_at, 1, 10))
  week <- as.integer(day - min(day)) %/% 7 + 1
  expect_equal(value_of(ask(s, "how many calls were abandoned in the second week?"), "n"), sum(week == 2 & rows$handled == "abandoned"))
  expect_equal(value_of(ask(s, "average wait in week 3"), "estimate"), mean(rows$wait_seconds[week == 3]), tolerance = 1e-12)
  a <- ask(s, "did the wait differ between the first and the second week?")
  expect_equal(value_of(a, "p_value"), t.test(rows$wait_seconds[week == 1], rows$wait_seconds[week == 2])$p.value, tolerance = 1e-10)
  expect_retraces(a)
  # a week beyond the data is not read as a condition on dates
  expect_false(any(grepl("started_at", filters_of(ask(s, "average wait in the ninth week")))))
})

test_that("numbered days give their weeks", {
  rows <- with_seed(5, data.frame(person = rep(sprintf("P%02d", 1:10), each = 14), day = rep(1:14, 10), sleep_minutes = round(rnorm(140, 420, 40)),
                                  alcohol_units = rpois(140, 1)))
  s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "average sleep in the second week"), "estimate"), mean(rows$sleep_minutes[rows$day > 7]), tolerance = 1e-12)
  a <- ask(s, "did people sleep longer in week 2 than in week 1?")
  expect_equal(abs(value_of(a, "estimate")), abs(diff(tapply(rows$sleep_minutes, rows$day > 7, mean)))[[1]], tolerance = 1e-10)
  expect_retraces(a)
})

test_that("a time is the column that is counted in time, and a bound within it is an upper one", {
  rows <- call_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "average handling time by agent")
  expect_equal(reading(a)$outcome, "handle_seconds")
  expect_equal(table_of(a, "groups")$mean, as.numeric(tapply(rows$handle_seconds, rows$agent, mean)), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "what share of calls had a wait within 60 seconds?"), "estimate"), mean(rows$wait_seconds <= 60), tolerance = 1e-12)
  # of two columns in seconds neither is guessed, and no column in another unit is offered
  b <- ask(s, "calls longer than 10 minutes")
  expect_equal(status_of(b), "needs_choice")
  offered <- vapply(as.list(b)$reading$alternatives, function(r) paste(vapply(r$filters, function(f) paste(f$column, f$value), ""), collapse = ""), "")
  expect_setequal(offered[nzchar(offered)], c("wait_seconds 600", "handle_seconds 600"))
})

test_that("two ranges of a number are two groups, whatever joins them", {
  rows <- data.frame(athlete = rep(sprintf("P%02d", 1:10), each = 12), week = rep(1:12, 10), load_au = 400 + 40 * sin(1:120))
  s <- open_study(local_data(rows))
  early <- rows$load_au[rows$week <= 4]; late <- rows$load_au[rows$week >= 9]
  for (q in c("load in weeks 1 to 4 vs weeks 9 to 12", "compare load between weeks 1-4 and weeks 9-12", "is load higher in weeks 9 to 12 than in weeks 1 to 4?")) {
    expect_equal(value_of(ask(s, q), "p_value"), t.test(early, late)$p.value, tolerance = 1e-8, info = q)
  }
  a <- ask(s, "average load in weeks 1 to 4 vs weeks 9 to 12")
  expect_equal(table_of(a, "groups")$mean, c(mean(early), mean(late)), tolerance = 1e-9)
  expect_retraces(a)
})

test_that("a condition takes the date whose own words are said, and tells which", {
  rows <- data.frame(booking = sprintf("B%03d", 1:90), booked_on = as.Date("2025-01-01") + 0:89, visit_date = as.Date("2025-02-01") + 0:89, cost = 1:90 * 1.5)
  s <- open_study(local_data(rows))
  march <- rows$visit_date >= as.Date("2025-03-01") & rows$visit_date <= as.Date("2025-03-31")
  a <- ask(s, "how many visits in march 2025")
  expect_equal(value_of(a, "n"), sum(march))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "taken from visit_date, one of 2 dates")
  monday <- ask(s, "how many were booked on a monday")
  expect_equal(value_of(monday, "n"), sum(format(rows$booked_on, "%u") == "1"))
  expect_no_match(paste(unlist(reading(monday)$assumed), collapse = " "), "no part")
})
