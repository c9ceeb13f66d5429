# The Mann-Kendall test and the slope of Theil and Sen.

test_that("without ties and neighbours alike the test is that of Kendall's sum", {
  y <- with_seed(95, rnorm(40) + 0.02 * (1:40))
  out <- internal("stat_mann_kendall")(1:40, y)
  i <- combn(40, 2)
  s <- sum(sign(y[i[2, ]] - y[i[1, ]]))
  expect_equal(out$tau, cor(1:40, y, method = "kendall"), tolerance = 1e-12)
  expect_equal(out$statistic, (s - sign(s)) / sqrt(40 * 39 * 85 / 18 * out$inflation), tolerance = 1e-12)
  slopes <- (y[i[2, ]] - y[i[1, ]]) / (i[2, ] - i[1, ])
  expect_equal(out$estimate, median(slopes), tolerance = 1e-12)
  expect_true(out$ci_low < out$estimate && out$estimate < out$ci_high)
  # the order of the rows says nothing, the unit of time scales the slope
  turned <- internal("stat_mann_kendall")(rev(7 * (1:40)), rev(y))
  expect_equal(c(turned$statistic, turned$estimate * 7), c(out$statistic, out$estimate), tolerance = 1e-12)
})

test_that("values that follow each other do not make a trend too often", {
  p <- with_seed(96, vapply(1:300, function(i) {
    e <- as.numeric(stats::filter(rnorm(120), 0.6, method = "recursive"))
    c(internal("stat_mann_kendall")(1:120, e)$p_value, cor.test(1:120, e, method = "kendall", exact = FALSE)$p.value)
  }, c(1, 1)))
  clear <- rowMeans(p < 0.05)
  expect_lt(clear[1], 0.12)
  expect_gt(clear[2], 0.2)
})

test_that("too few points, and values that never change, are refused with a reason", {
  expect_error(internal("stat_mann_kendall")(1:4, c(1, 3, 2, 4)), class = "upbeatquill_error_data")
  expect_error(internal("stat_mann_kendall")(1:9, rep(2, 9)), class = "upbeatquill_error_data")
})

test_that("it stands beside the straight-line trend, and a long series goes without the table of all pairs", {
  days <- as.Date("2023-01-01") + 0:399
  rows <- with_seed(97, data.frame(day = days, level_cm = round(30 + 0.01 * (0:399) + as.numeric(stats::filter(rnorm(400), 0.5, "recursive")), 2)))
  a <- ask(open_study(rows), "Is there a linear trend in level_cm?")
  expect_equal(method_of(a), "linear_trend")
  expect_equal(as.list(a)$second_opinions[[1]]$method$id, "mann_kendall")
  b <- ask(open_study(rows), "Mann-Kendall test of level_cm")
  expect_equal(value_of(b, "tau"), cor(as.numeric(days), rows$level_cm, method = "kendall"), tolerance = 1e-10)
  expect_match(as.list(b)$sentences$headline, "rise over time by .*cm a")
  expect_retraces(b)
  expect_null(internal("sen_slope")(1:30, rnorm(30), most = 20))
  long <- internal("stat_mann_kendall")(1:30, c(2:30, 1), most = 20)
  expect_true(is.na(long$estimate) && is.finite(long$slope))
})
