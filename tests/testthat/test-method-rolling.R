# Statistics over a moving window, of all rows and of each group.

hives_by_day <- function() with_seed(111, {
  d <- expand.grid(hive = c("H1", "H2", "H3"), day = as.Date("2024-03-01") + c(0:20, 25:40), stringsAsFactors = FALSE)
  d$rain_mm <- round(rexp(nrow(d), 1 / 3), 1)
  d$weight_kg <- round(30 + 5 * as.integer(factor(d$hive)) + rnorm(nrow(d)), 2)
  d
})

test_that("each group moves by itself, a line a day, whatever is taken of the window", {
  d <- hives_by_day(); s <- open_study(d)
  own <- function(of, column, hive, k = 7) vapply(sort(unique(d$day)), function(t) of(d[[column]][d$hive == hive & d$day > t - k & d$day <= t]), 1)
  a <- ask(s, "7 day moving average of weight_kg per hive")
  t <- table_of(a, "time")
  expect_equal(unlist(as.list(a)$reading$by), "hive")
  for (h in c("H1", "H3")) expect_equal(t$rolling_mean[t$hive == h], own(mean, "weight_kg", h), tolerance = 1e-12)
  expect_equal(nrow(t), nrow(d))
  expect_equal(value_of(a, "groups"), 3)
  expect_match(as.list(a)$sentences$headline, "highest in H3")
  expect_retraces(a)
  b <- ask(s, "7 day moving total of rain_mm by hive")
  t <- table_of(b, "time")
  expect_equal(t$rolling_sum[t$hive == "H2"], own(sum, "rain_mm", "H2"), tolerance = 1e-10)
  expect_retraces(b)
  m <- ask(s, "14 day rolling median of weight_kg by hive")
  t <- table_of(m, "time")
  expect_equal(t$rolling_median[t$hive == "H2"], own(median, "weight_kg", "H2", 14), tolerance = 1e-12)
  expect_retraces(m)
})

test_that("days of several rows are one line of the table, and all rows of the window count alike", {
  d <- hives_by_day(); d <- d[-(1:2), ]
  a <- ask(open_study(d), "7 day moving average of weight_kg")
  t <- table_of(a, "time")
  days <- sort(unique(d$day))
  expect_equal(t$period, format(days))
  expect_equal(t$value, as.vector(tapply(d$weight_kg, d$day, mean)), tolerance = 1e-12)
  expect_equal(t$rolling_mean, vapply(days, function(x) mean(d$weight_kg[d$day > x - 7 & d$day <= x]), 1), tolerance = 1e-12)
  expect_match(format_answer(a), "several rows")
  expect_retraces(a)
  expect_equal(status_of(ask(open_study(d), "7 day moving standard deviation of weight_kg")), "cannot_answer")
})

test_that("groups are drawn as lines, panels or thin lines, as their number allows", {
  d <- hives_by_day()
  few <- ggplot2::ggplot_build(figure(ask(open_study(d), "7 day moving average of weight_kg per hive")))
  expect_length(unique(few$data[[1]]$colour), 3)
  more <- do.call(rbind, lapply(1:4, function(k) transform(d, hive = paste0(hive, letters[k]))))
  panels <- ggplot2::ggplot_build(figure(ask(open_study(more), "7 day moving average of weight_kg per hive")))
  expect_length(unique(panels$data[[2]]$PANEL), 12)
  # no line over the days without rows
  expect_length(unique(ggplot2::ggplot_build(figure(ask(open_study(d), "3 day moving average of weight_kg")))$data[[2]]$group), 2)
})
