test_that("columns that share a small answer scale are ordered items; counts that are merely small are not", {
  b <- codebook(demo_study("keeper_survey.csv"))
  items <- b$kind[match(c("advice_helpful", "training_clear", "website_easy"), b$column)]
  expect_equal(items, rep("ordered", 3))
  expect_equal(b$kind[b$column == "hives_owned"], "count")
})
