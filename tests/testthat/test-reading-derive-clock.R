# Durations said as on a clock.

race_data <- function(n = 90) with_seed(121, {
  minutes <- round(runif(n, 150, 320), 2)
  whole <- floor(minutes); s <- round((minutes - whole) * 59)
  data.frame(runner = seq_len(n), sex = sample(c("F", "M"), n, TRUE), age = sample(18:70, n, TRUE),
             finish_time = sprintf("%d:%02d:%02d", whole %/% 60, whole %% 60, s))
})
in_minutes <- function(x) vapply(strsplit(x, ":"), function(p) sum(as.numeric(p) * c(60, 1, 1 / 60)), 1)

test_that("bounds as on a clock are taken in the unit of the column, and told", {
  d <- race_data(); s <- open_study(local_data(d)); t <- in_minutes(d$finish_time)
  a <- ask(s, "how many runners finished under 3:30?")
  expect_equal(value_of(a, "n"), sum(t < 210))
  expect_match(unlist(as.list(a)$reading$assumed), "3:30 as 210 min", all = FALSE)
  b <- ask(s, "mean age of runners who finished between 3:00:00 and 4:00:00")
  expect_equal(value_of(b, "estimate"), mean(d$age[t >= 180 & t <= 240]), tolerance = 1e-12)
  c <- ask(s, "are runners faster than 3:30 younger?")
  expect_equal(value_of(c, "p_value"), t.test(d$age[t < 210], d$age[t >= 210])$p.value, tolerance = 1e-9)
  expect_retraces(b)
})

test_that("a bound in another unit goes to the column of time, not to a neighbour without a unit", {
  d <- race_data(); s <- open_study(local_data(d)); t <- in_minutes(d$finish_time)
  a <- ask(s, "what share of women finished in under 4 hours?")
  expect_equal(value_of(a, "estimate"), mean(t[d$sex == "F"] < 240), tolerance = 1e-12)
})

test_that("two parts are hours and minutes, or minutes and seconds, as the values have it", {
  value <- internal("clock_value")
  expect_equal(value("3:30", c(60, 1, 1 / 60), c(150, 320)), 210)
  expect_equal(value("3:30", c(60, 1, 1 / 60), c(2, 6)), 3.5)
  expect_equal(value("1:02.5", c(1, 1 / 60), c(0, 3)), 1 + 2.5 / 60)
  expect_true(is.na(value("1:02:03", c(1, 1 / 60), c(0, 3))))
  d <- data.frame(lap = 1:12, time = sprintf("%d:%04.1f", rep(1:3, 4), seq(2, 57.9, length.out = 12)))
  s <- open_study(local_data(d))
  own <- rep(1:3, 4) + round(seq(2, 57.9, length.out = 12), 1) / 60
  expect_equal(as.data.frame(s)$time, own, tolerance = 1e-10)
  expect_equal(value_of(ask(s, "how many laps under 2:30?"), "n"), sum(own < 2.5))
  # without such a column nothing is taken
  plain <- ask(hive_study(), "how many hives with honey yield under 3:30?")
  expect_false(any(grepl("as 210", unlist(as.list(plain)$reading$assumed))))
})

metered <- function() {
  stamp <- as.POSIXct("2024-02-01", tz = "UTC") + 3600 * (0:(24 * 30 - 1))
  hour <- as.integer(format(stamp, "%H"))
  data.frame(timestamp = format(stamp, "%Y-%m-%d %H:%M"), usage_kwh = round(1 + (hour %in% 18:22) + with_seed(61, runif(720, 0, 0.4)), 3),
             price_eur_kwh = round(0.22 + 0.08 * (hour %in% 17:20), 3))
}

test_that("rows of hours are no days: daily values are totals of days, and days and weeks are ranked by them", {
  d <- metered()
  s <- open_study(local_data(d))
  day <- substr(d$timestamp, 1, 10)
  a <- ask(s, "average daily usage")
  expect_equal(value_of(a, "estimate"), mean(tapply(d$usage_kwh, day, sum)))
  b <- ask(s, "day with the lowest usage")
  expect_equal(value_of(b, "estimate"), min(tapply(d$usage_kwh, day, sum)))
  c <- ask(s, "week with the highest usage")
  week <- as.Date(day) - (as.integer(format(as.Date(day), "%u")) - 1)
  whole <- table(week) == 168
  expect_equal(value_of(c, "estimate"), max(tapply(d$usage_kwh, week, sum)[whole]))
  for (x in list(a, b, c)) expect_retraces(x)
})

test_that("hours with a part of the day, and what an amount costs at a unit price", {
  d <- metered()
  s <- open_study(local_data(d))
  hour <- as.integer(substr(d$timestamp, 12, 13))
  a <- ask(s, "average usage between 6 and 9 in the morning")
  expect_equal(value_of(a, "estimate"), mean(d$usage_kwh[hour %in% 6:8]))
  b <- ask(s, "total cost")
  expect_equal(value_of(b, "estimate"), sum(d$usage_kwh * d$price_eur_kwh))
  expect_equal(as.list(s)$tables[[1]]$columns[[3]]$unit, "EUR/kWh")
  for (x in list(a, b)) expect_retraces(x)
  expect_equal(reading(ask(s, "moving average of usage over 7 days"))$time$window, 7)
})
