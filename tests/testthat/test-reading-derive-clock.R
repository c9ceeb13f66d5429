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
