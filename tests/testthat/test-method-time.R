# Tables over time: windows in their unit, growth, periods that are not whole, the one series of a file.

air <- function() open_study(data.frame(month = seq(as.Date("1949-01-01"), by = "month", length.out = 144), passengers = as.numeric(AirPassengers)))

test_that("a moving mean of twelve months is the mean of twelve monthly values", {
  for (q in c("12 month moving average", "rolling 12 month average of passengers", "12-month moving average of passengers")) {
    a <- ask(air(), q)
    expect_equal(method_of(a), "rolling_table", info = q)
    expect_equal(utils::tail(table_of(a, "time")$rolling_mean, 1), mean(utils::tail(as.numeric(AirPassengers), 12)), info = q)
    expect_match(as.list(a)$sentences$headline, "12-month moving mean", info = q)
  }
  expect_retraces(ask(air(), "12 month moving average"))
})

test_that("where a file holds one measure by dates, questions over time are about it, which is said", {
  s <- air()
  asked <- c("is there a trend?" = "linear_trend", "forecast the next 12 months" = "seasonal_forecast", "best year" = "time_table",
             "growth from 1949 to 1960" = "time_table", "seasonal pattern" = "group_summary")
  for (q in names(asked)) {
    a <- ask(s, q)
    expect_equal(method_of(a), asked[[q]], info = q)
    expect_true("passengers" %in% unlist(reading(a)$outcome), info = q)
  }
  expect_match(paste(unlist(reading(ask(s, "is there a trend?"))$assumed), collapse = " "), "the only column that measures")
  # rows are still counted where they are asked for
  expect_length(unlist(reading(ask(s, "how many rows per year?"))$outcome), 0)
})

test_that("the months of the year are averaged over the years", {
  a <- ask(air(), "seasonal pattern")
  t <- table_of(a, "groups")
  own <- tapply(as.numeric(AirPassengers), rep(month.name, 12), mean)
  expect_equal(t$mean, as.numeric(own[as.character(t[[1]])]), tolerance = 1e-12)
  expect_retraces(a)
})

test_that("growth between two years is told as a change of the totals", {
  a <- ask(air(), "percent change from 1959 to 1960")
  total <- tapply(as.numeric(AirPassengers), rep(1949:1960, each = 12), sum)
  expect_equal(table_of(a, "time")$sum, as.numeric(total[c("1959", "1960")]))
  expect_match(as.list(a)$sentences$headline, sprintf("+%.1f %%", 100 * (total[["1960"]] / total[["1959"]] - 1)), fixed = TRUE)
})

test_that("a period that the data cuts off is told; whole ones are not", {
  d <- data.frame(date = seq(as.Date("2023-03-10"), as.Date("2025-06-15"), by = "day"))
  d$sales <- with_seed(63, rpois(nrow(d), 40))
  details <- function(s, q) paste(unlist(as.list(ask(s, q))$sentences[c("headline", "details")]), collapse = " ")
  s <- open_study(d)
  expect_match(details(s, "total sales per year"), "2023 and 2025 are not whole \\(the data begin on 2023-03-10 and end on 2025-06-15\\)")
  # means may be set beside each other, and the cut ends are still told
  expect_match(details(s, "mean sales by year"), "The first and the last year are not whole: the data begin on 2023-03-10 and end on 2025-06-15")
  whole <- open_study(d[d$date >= as.Date("2024-01-01") & d$date <= as.Date("2024-12-31"), ])
  expect_no_match(details(whole, "total sales per month"), "not whole")
  expect_match(details(open_study(d[d$date <= as.Date("2025-05-31") & d$date >= as.Date("2025-01-01"), ]), "total sales per quarter"),
               "2025 Q2 is not whole")
  # one row a month, dated on its first day, fills its month
  expect_no_match(details(air(), "total passengers per year"), "not whole")
})

test_that("growth is told from period to period and on average, gaps left out", {
  d <- data.frame(month = as.Date(c("2024-01-15", "2024-02-15", "2024-03-15", "2024-06-15", "2024-07-15")), sales = c(100, 110, 99, 120, 150))
  a <- ask(open_study(d), "growth rate of sales per month")
  t <- table_of(a, "time")
  expect_equal(t$change, c(NA, 10, -11, NA, 30))
  expect_equal(t$percent_change, c(NA, 10, -10, NA, 25))
  expect_equal(value_of(a, "growth"), 1.5^(1 / 6) - 1, tolerance = 1e-12)
  expect_equal(value_of(a, "estimate"), 50)
  expect_retraces(a)
  for (q in c("month on month change in sales", "by how many percent do sales grow each month?", "monthly growth of sales")) {
    expect_equal(value_of(ask(open_study(d), q), "growth"), 1.5^(1 / 6) - 1, tolerance = 1e-12, info = q)
  }
})

test_that("a year after two months is that of both", {
  w <- demo_study("hive_weights.csv")
  a <- ask(w, "how much did weight grow from may to july 2024?")
  rows <- read.csv(demo_file("hive_weights.csv"))
  of <- function(m) mean(rows$weight_kg[substr(rows$date, 1, 7) == m], na.rm = TRUE)
  expect_equal(abs(value_of(a, "estimate")), abs(of("2024-07") - of("2024-05")), tolerance = 1e-8)
})

test_that("a bound said of days sets both its sides against each other", {
  w <- demo_study("hive_weights.csv")
  rows <- read.csv(demo_file("hive_weights.csv"))
  gap <- diff(tapply(rows$weight_kg, rows$temperature_c > 20, mean, na.rm = TRUE))
  for (q in c("is weight higher on days over 20 degrees?", "is weight higher on warm days (over 20 degrees)?")) {
    expect_equal(abs(value_of(ask(w, q), "estimate")), abs(unname(gap)), tolerance = 1e-8, info = q)
  }
})

test_that("an average month is the total over the months, of what adds up", {
  d <- with_seed(121, data.frame(day = as.Date("2024-01-01") + sort(sample(0:181, 150, TRUE)), revenue = round(rexp(150, 0.01), 2)))
  s <- open_study(d)
  a <- ask(s, "average monthly revenue")
  months <- length(unique(format(d$day, "%Y-%m")))
  expect_equal(value_of(a, "estimate"), sum(d$revenue) / months)
  expect_match(as.list(a)$sentences$headline, "a month, over the 6 months", fixed = TRUE)
  expect_retraces(a)
  # by month the means of the rows are tabled
  expect_null(ask(s, "mean revenue by month")$reading$extra$average_total)
})

test_that("counts of rows need no word on how few stand behind them", {
  d <- data.frame(day = as.Date("2024-01-01") + rep(0:9, c(1:5, 5:1)), x = 1:30)
  said <- paste(as.list(ask(open_study(d), "number of rows per day"))$sentences$details, collapse = " ")
  expect_false(grepl("Fewer than five rows", said, fixed = TRUE))
})
