test_that("days, months and years in words become conditions on the date column", {
  study <- demo_study("hive_weights.csv")
  raw <- read.csv(demo_file("hive_weights.csv"))
  rows <- function(question) as.list(ask(study, question))$rows$after_filters
  expect_equal(rows("mean weight in July 2024"), sum(substr(raw$date, 1, 7) == "2024-07"))
  expect_equal(rows("mean weight in 2023"), sum(substr(raw$date, 1, 4) == "2023"))
  expect_equal(rows("mean weight after 15 June 2024"), sum(raw$date > "2024-06-15"))
  expect_equal(rows("mean weight between 1 May 2023 and 2023-05-31"), sum(raw$date >= "2023-05-01" & raw$date <= "2023-05-31"))
})
