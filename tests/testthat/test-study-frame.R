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
