test_that("slips are mended towards the study's own words and said so", {
  a <- ask(hive_study(), "avrage hony yield")
  expect_equal(reading(a)$outcome, "honey_yield_kg")
  expect_true(any(grepl("hony", reading(a)$assumed)))
  expect_equal(value_of(a, "estimate"), mean(read.csv(demo_file())$honey_yield_kg, na.rm = TRUE), tolerance = 1e-12)
})

test_that("short and strange words are not bent into columns", {
  expect_equal(status_of(ask(hive_study(), "mean of zzqx by arm")), "cannot_answer")
})
