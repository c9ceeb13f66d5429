test_that("columns of two tables are joined many to one by their key", {
  study <- demo_study("hive_trial.csv", "apiaries.csv")
  trial <- read.csv(demo_file()); places <- read.csv(demo_file("apiaries.csv"))
  altitude <- places$altitude_m[match(trial$apiary, places$apiary)]
  a <- ask(study, "correlation between honey yield and altitude")
  expect_equal(value_of(a, "estimate"), cor(trial$honey_yield_kg, altitude, use = "complete.obs"), tolerance = 1e-12)
  expect_equal(unlist(as.list(a)$reading$tables), c("hive_trial", "apiaries"))
  expect_retraces(a)
})

test_that("a key that repeats on both sides never multiplies rows", {
  a <- data.frame(k = rep(c("p", "q"), 6), u = 1:12 + 0.5)
  b <- data.frame(k = rep(c("p", "q"), 4), v = 1:8 + 0.5)
  folder <- withr::local_tempdir()
  write.csv(a, file.path(folder, "left.csv"), row.names = FALSE); write.csv(b, file.path(folder, "right.csv"), row.names = FALSE)
  answer <- ask(open_study(folder), "correlation between u and v")
  expect_equal(status_of(answer), "cannot_answer")
})

test_that("each filter keeps the rows base R keeps, missing values never by accident", {
  raw <- read.csv(demo_file(), na.strings = c("", "NA"))
  raw$mites_after[raw$mites_after == -99] <- NA
  build <- internal("build_frame")
  study <- hive_study()
  count <- function(column, op, value) build(study, "honey_yield_kg", list(list(column = column, op = op, value = value)))$after_filters
  expect_equal(count("region", "==", "north"), sum(raw$region == "north"))
  expect_equal(count("region", "not_in", c("north", "coast")), sum(raw$region == "south"))
  expect_equal(count("mites_after", ">", 10), sum(raw$mites_after > 10, na.rm = TRUE))
  expect_equal(count("mites_after", "!=", 0), sum(raw$mites_after != 0, na.rm = TRUE))
  expect_equal(count("mites_after", "is_missing", NULL), sum(is.na(raw$mites_after)))
  expect_equal(count("strength_before", "between", c(8, 10)), sum(raw$strength_before >= 8 & raw$strength_before <= 10))
  expect_equal(count("inspected_on", ">=", "2024-09-10"), sum(raw$inspected_on >= "2024-09-10"))
})

test_that("a day is the whole day, also of a column that holds times of day", {
  rows <- with_seed(14, data.frame(order_no = 10001:10400, placed_at = format(as.POSIXct("2025-03-01 11:00", tz = "UTC") + sort(runif(400, 0, 60 * 86400)), "%Y-%m-%d %H:%M"),
                                   channel = sample(c("dine in", "takeaway", "delivery"), 400, TRUE), tip_eur = round(rgamma(400, 2), 2)))
  s <- open_study(local_data(rows)); day <- substr(rows$placed_at, 1, 10)
  expect_equal(value_of(ask(s, "number of orders in April"), "n"), sum(day >= "2025-04-01"))
  expect_equal(value_of(ask(s, "how many orders on 17 March 2025"), "n"), sum(day == "2025-03-17"))
  expect_equal(value_of(ask(s, "how many orders after 28 April 2025"), "n"), sum(day > "2025-04-28"))
  a <- ask(s, "average tip in the last 7 days")
  expect_equal(value_of(a, "estimate"), mean(rows$tip_eur[day > as.character(as.Date(max(day)) - 7)]), tolerance = 1e-12)
  expect_retraces(a)
  expect_equal(value_of(ask(s, "orders from March to April"), "n"), nrow(rows))
  halves <- table_of(ask(s, "average tip before and after 2025-04-01"), "groups")
  expect_equal(sort(halves$n), sort(as.vector(table(day < "2025-04-01"))))
  # one level of several over the months is told as its share
  shares <- ask(s, "share of delivery orders by month")
  expect_equal(table_of(shares, "time")$mean, as.vector(tapply(rows$channel == "delivery", substr(day, 1, 7), mean)), tolerance = 1e-12)
})
