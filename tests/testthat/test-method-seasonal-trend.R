# A trend beside a season: the second road is lm with the waves written out and the Newey-West sum by hand.

wave_data <- function(n = 900, slope = 0.02) with_seed(3, {
  day <- as.Date("2022-01-01") + seq_len(n) - 1
  data.frame(day = day, sales = round(100 + slope * seq_len(n) + 20 * sin(2 * pi * as.numeric(day) / 365.25) +
                                        6 * (format(day, "%u") == "6") + as.vector(arima.sim(list(ar = 0.4), n, sd = 4)), 2))
})

newey_west <- function(fit, n) {
  u <- model.matrix(fit) * resid(fit); lags <- floor(4 * (n / 100)^(2 / 9))
  meat <- crossprod(u) + Reduce(`+`, lapply(seq_len(lags), function(k) {
    g <- crossprod(u[(k + 1):n, ], u[1:(n - k), ]); (1 - k / (lags + 1)) * (g + t(g)) }))
  bread <- summary(fit)$cov.unscaled
  sqrt(diag(bread %*% meat %*% bread) * n / df.residual(fit))
}

test_that("trend and error follow least squares with two pairs of waves", {
  d <- wave_data(); a <- ask(open_study(d), "is there a trend in sales allowing for the season?")
  expect_equal(method_of(a), "seasonal_trend")
  t <- as.numeric(d$day); w <- 2 * pi * t / 365.25
  fit <- lm(d$sales ~ t + sin(w) + cos(w) + sin(2 * w) + cos(2 * w))
  expect_equal(value_of(a, "estimate"), coef(fit)[["t"]], tolerance = 1e-8)
  expect_equal(value_of(a, "se"), newey_west(fit, nrow(d))[[2]], tolerance = 1e-6)
  expect_equal(value_of(a, "df"), df.residual(fit))
  expect_retraces(a)
  # the season hides nothing of the trend that was put in
  expect_true(value_of(a, "ci_low") < 0.02 && value_of(a, "ci_high") > 0.02)
})

test_that("the week is another cycle, and asks for no table of weekdays", {
  d <- wave_data(); a <- ask(open_study(d), "trend in sales allowing for the day of the week")
  expect_equal(method_of(a), "seasonal_trend")
  t <- as.numeric(d$day)
  fit <- lm(d$sales ~ t + factor(format(d$day, "%u")))
  expect_equal(value_of(a, "estimate"), coef(fit)[["t"]], tolerance = 1e-8)
  expect_equal(value_of(a, "season_swing"), diff(range(c(0, coef(fit)[-(1:2)]))), tolerance = 1e-8)
  expect_retraces(a)
})

test_that("too short a span for a yearly season is refused; plain trends stay plain", {
  d <- wave_data(200)
  expect_equal(status_of(ask(open_study(d), "trend in sales allowing for the season")), "cannot_answer")
  expect_equal(method_of(ask(open_study(d), "is there a trend in sales?")), "linear_trend")
  expect_equal(method_of(ask(open_study(d), "sales by weekday")), "time_table")
})

test_that("a fall is told by its size, the interval with it", {
  a <- ask(open_study(wave_data(slope = -0.03)), "is there a trend in sales allowing for the season?")
  said <- as.list(a)$sentences$headline
  expect_match(said, "falls by [0-9.]+ a month \\(95 % CI [0-9.]+ to [0-9.]+\\)")
  limits <- as.numeric(regmatches(said, regexec("CI ([0-9.]+) to ([0-9.]+)", said))[[1]][2:3])
  expect_equal(limits, sort(-30.4375 * c(value_of(a, "ci_low"), value_of(a, "ci_high"))), tolerance = 0.01)
})
