test_that("smoothing with given parameters is HoltWinters' own, for level, trend and season", {
  x <- as.numeric(AirPassengers)
  fit <- internal("fit_smoothing")(x, "trend_season", 12L)
  run <- internal("run_smoothing")(x, c(fit$alpha, fit$beta, fit$gamma), fit$start, 12L)
  ref <- HoltWinters(ts(x, frequency = 12), alpha = fit$alpha, beta = fit$beta, gamma = fit$gamma, start.periods = 2, l.start = fit$start$level,
    b.start = fit$start$trend, s.start = fit$start$season)
  expect_equal(run$sse, ref$SSE, tolerance = 1e-8)
  ahead <- internal("smoothing_ahead")(fit, 12)
  expect_equal(ahead$mean, as.vector(predict(ref, 12)), tolerance = 1e-8)
  expect_true(all(diff(ahead$se) >= -1e-9))
})

test_that("a line is carried on, a season comes again, and the model is chosen by AICc", {
  line <- internal("stat_smoothing")(2 * (1:40) + 5, 1L, 3)
  expect_equal(line$forecast$mean, 2 * (41:43) + 5, tolerance = 1e-3)
  wave <- 10 * sin(2 * pi * (1:72) / 12) + with_seed(1, rnorm(72, 0, 0.2))
  f <- internal("stat_smoothing")(wave, 12L, 12)
  expect_match(f$model, "season")
  expect_equal(f$forecast$mean, 10 * sin(2 * pi * (73:84) / 12), tolerance = 0.1)
  expect_error(internal("stat_smoothing")(1:5, 1L, 2), class = "upbeatquill_error_too_few_rows")
  expect_error(internal("stat_smoothing")(rep(3, 20), 1L, 2), class = "upbeatquill_error_outcome_constant")
})

test_that("a series averages its periods, fills short gaps on a line and begins anew after a long one", {
  day <- as.Date("2024-01-01") + c(0, 0, 1, 3, 4, 40, 41, 42)
  s <- internal("stat_series")(as.integer(day), c(1, 3, 4, 8, 9, 5, 6, 7), "day")
  expect_equal(s$value, c(5, 6, 7))
  expect_equal(s$dropped, 4)
  t <- internal("stat_series")(as.integer(day[1:5]), c(1, 3, 4, 8, 9), "day")
  expect_equal(t$value, c(2, 4, 6, 8, 9))
  expect_equal(t$filled, 1)
  expect_equal(internal("usual_step")(seq(as.Date("2020-01-31"), by = "month", length.out = 20)), "month")
})

test_that("the horizon is read in its own unit", {
  d <- data.frame(month = seq(as.Date("2018-01-01"), by = "month", length.out = 60), sales = 50 + (1:60) / 2 + with_seed(3, rnorm(60)))
  a <- ask(open_study(d), "forecast sales for the next year")
  expect_equal(nrow(table_of(a, "forecast")), 12)
  expect_equal(table_of(a, "forecast")$period[1], "2023-01")
  b <- ask(open_study(d), "forecast sales for the next 3 months")
  expect_equal(nrow(table_of(b, "forecast")), 3)
})

test_that("a time after the end of the data is what is forecast, also where years are numbers", {
  s <- open_study(local_data(data.frame(Year = 1947:1962, Employed = longley$Employed)))
  a <- ask(s, "forecast Employed for 1965")
  t <- table_of(a, "forecast")
  expect_equal(as.character(t$period), c("1963", "1964", "1965"))
  expect_length(as.list(a)$reading$filters, 0)
  expect_equal(nrow(table_of(ask(s, "forecast Employed for the next 4 years"), "forecast")), 4)
  m <- data.frame(month = format(seq(as.Date("1949-01-01"), by = "month", length.out = 144), "%Y-%m"), passengers = as.numeric(AirPassengers))
  b <- ask(open_study(local_data(m)), "forecast passengers for March 1961")
  expect_equal(as.character(table_of(b, "forecast")$period), c("1961-01", "1961-02", "1961-03"))
  for (x in list(a, b)) expect_retraces(x)
})

test_that("over two seasons a season that shows is carried on, and none is made up", {
  shows <- internal("season_shows")
  plain <- with_seed(3, 100 + rnorm(24))
  season <- plain + 30 * cos(2 * pi * seq_len(24) / 12)
  expect_true(shows(season, 12))
  expect_false(shows(plain, 12)); expect_false(shows(season[1:20], 12)); expect_false(shows(rep(5, 24), 12)); expect_false(shows(1:24, 12))
  fit <- internal("stat_smoothing")(season, 12, 6)
  expect_true(fit$shown && fit$season == 12)
  # within the noise of what the season was built from
  expect_lt(max(abs(fit$forecast$mean - (100 + 30 * cos(2 * pi * 25:30 / 12)))), 6)
  expect_false(internal("stat_smoothing")(plain, 12, 6)$shown)
})

test_that("two years of months are forecast with their season, which the script carries on as well", {
  d <- with_seed(4, data.frame(month = format(seq(as.Date("2023-01-01"), by = "month", length.out = 24), "%Y-%m"),
                               kwh = round(300 + 90 * cos(2 * pi * 0:23 / 12) + rnorm(24, 0, 8))))
  a <- ask(open_study(local_data(d, "energy.csv")), "forecast kwh for the next 6 months")
  t <- table_of(a, "forecast")
  expect_lt(max(abs(t$forecast - (300 + 90 * cos(2 * pi * 24:29 / 12)))), 40)
  expect_match(paste(as.list(a)$sentences$details, collapse = " "), "values one season apart are alike")
  expect_retraces(a)
})
