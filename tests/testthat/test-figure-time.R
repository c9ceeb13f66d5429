# Pictures over time.

skip_if_not_installed("ggplot2")
line_layers <- function(a) Filter(function(d) all(c("x", "y", "group") %in% names(d)) && !"shape" %in% names(d),
    ggplot2::ggplot_build(figure(a))$data)

test_that("a moving mean draws no line over a stretch without rows that is longer than its window", {
  day <- as.Date("2024-01-01") + c(0:59, 200:259)
  d <- data.frame(date = day, sales = with_seed(81, rpois(120, 50)))
  a <- ask(open_study(d), "7 day moving average of sales")
  line <- line_layers(a)
  expect_equal(length(unique(line[[length(line)]]$group)), 2)
  b <- ask(open_study(d), "12 month moving average of sales")
  line <- line_layers(b)
  expect_equal(length(unique(line[[length(line)]]$group)), 1)
  expect_match(as.list(b)$figures[[1]]$title %||% as.list(b)$figure$title, "12-month moving mean")
})

test_that("the drawn moving mean is the table's", {
  a <- ask(open_study(system.file("extdata", "hive_weights.csv", package = "upbeatquill")), "7-day rolling average of the temperature")
  line <- line_layers(a)
  drawn <- line[[length(line)]]
  expect_equal(sort(drawn$y), sort(table_of(a, "time")$rolling_mean), tolerance = 1e-12)
})
