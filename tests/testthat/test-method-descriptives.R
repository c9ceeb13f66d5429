test_that("each statistic asked for is base R's", {
  x <- read.csv(demo_file())$honey_yield_kg
  x <- x[!is.na(x)]
  study <- hive_study()
  expected <- list(mean = mean(x), median = median(x), "standard deviation" = sd(x), minimum = min(x), maximum = max(x), total = sum(x))
  for (name in names(expected)) {
    a <- ask(study, paste("What is the", name, "of the honey yield?"))
    expect_equal(value_of(a, "estimate"), expected[[name]], tolerance = 1e-12, info = name)
  }
})

test_that("all numeric columns are described, keys left out", {
  d <- table_of(ask(hive_study(), "Summarise all the numeric columns"), "describe")
  raw <- read.csv(demo_file())
  expect_true(all(c("queen_age_months", "honey_yield_kg") %in% d$column))
  expect_false(any(c("hive_id", "keeper_id") %in% d$column))
  expect_equal(d$mean[d$column == "mites_before"], mean(raw$mites_before))
})

test_that("three rows and one row are described without noise", {
  d <- open_study(data.frame(y = c(1.5, 2.5, 4.5)))
  expect_equal(value_of(ask(d, "mean y"), "estimate"), 8.5 / 3, tolerance = 1e-14)
  one <- ask(open_study(data.frame(y = 2.5, z = 1.25)), "mean y")
  expect_true(status_of(one) %in% c("answered", "cannot_answer"))
})
