test_that("days fall into the right periods", {
  days <- as.Date(c("2024-01-01", "2023-12-31", "2024-02-29", "2024-07-04"))
  p <- internal("stat_periods")
  expect_equal(p(days, "month")$label, c("2024-01", "2023-12", "2024-02", "2024-07"))
  expect_equal(p(days, "week")$key, c("2024-01-01", "2023-12-25", "2024-02-26", "2024-07-01"))
  expect_equal(p(days, "quarter")$label, c("2024 Q1", "2023 Q4", "2024 Q1", "2024 Q3"))
  expect_equal(p(days, "weekday")$label, c("Monday", "Sunday", "Thursday", "Thursday"))
})

test_that("the moving mean looks back over its days, gaps included", {
  day <- as.Date("2024-01-01") + c(0, 1, 2, 5, 6)
  out <- internal("stat_rolling")(day, c(1, 3, 5, 7, 9), 3)
  expect_equal(out$rolling, c(1, 2, 3, 7, 8))
  expect_equal(out$n, c(1, 2, 3, 1, 2))
})

test_that("the trend's slope is lm()'s and its error the Newey-West sum by definition", {
  t <- 1:60; y <- 0.1 * t + with_seed(21, as.numeric(arima.sim(list(ar = 0.5), 60)))
  out <- internal("stat_linear_trend")(t, y)
  fit <- lm(y ~ t)
  expect_equal(out$estimate, unname(coef(fit)[2]), tolerance = 1e-12)
  x <- model.matrix(fit); e <- resid(fit); lags <- floor(4 * 0.6^(2 / 9))
  meat <- Reduce(`+`, lapply(-lags:lags, function(k) {
    i <- seq_len(60); j <- i + k; ok <- j >= 1 & j <= 60
    (1 - abs(k) / (lags + 1)) * crossprod((x * e)[i[ok], ], (x * e)[j[ok], ])
  }))
  b <- solve(crossprod(x))
  expect_equal(out$se, sqrt((b %*% meat %*% b)[2, 2] * 60 / 58), tolerance = 1e-9)
})

test_that("a window of months reaches back to the same day so many months ago", {
  day <- seq(as.Date("2021-01-01"), by = "month", length.out = 30)
  x <- with_seed(61, rnorm(30))
  out <- internal("stat_rolling")(day, x, 3, "month")
  expect_equal(out$rolling, vapply(1:30, function(i) mean(x[max(1, i - 2):i]), 1), tolerance = 1e-12)
  days <- as.Date("2024-01-01") + 0:120
  v <- with_seed(62, rnorm(121))
  weeks <- internal("stat_rolling")(days, v, 2, "week")
  expect_equal(weeks$rolling, vapply(seq_along(v), function(i) mean(v[max(1, i - 13):i]), 1), tolerance = 1e-12)
  back <- function(d) { p <- as.POSIXlt(d); p$mon <- p$mon - 2; as.Date(p) }
  months <- internal("stat_rolling")(days, v, 2, "month")
  expect_equal(months$rolling, vapply(seq_along(v), function(i) mean(v[days > back(days[i]) & days <= days[i]]), 1), tolerance = 1e-12)
})
