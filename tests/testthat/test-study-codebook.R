test_that("a codebook file beside the data is recognised and gives labels, kinds, orders and codes", {
  study <- demo_study("keeper_survey.csv", "keeper_survey_codebook.csv")
  b <- codebook(study)
  expect_equal(unique(b$table), "keeper_survey")
  expect_equal(b$label[b$column == "feed_affordable"], "Feed is affordable (1 = strongly disagree to 5 = strongly agree)")
  expect_equal(b$kind[b$column == "satisfaction"], "number")
  expect_equal(b$missing_codes[b$column == "satisfaction"], "-99")
  expect_equal(b$role[b$column == "weight"], "weight")
})

test_that("the written file can be read again and holds no formula", {
  d <- data.frame(x = 1:12, y = rep(c("=cmd()", "+b", "c"), 4))
  names(d)[1] <- "=evil()"
  file <- withr::local_tempfile(fileext = ".csv")
  codebook(open_study(d), file)
  back <- read.csv(file)
  expect_equal(nrow(back), 2)
  expect_false(any(grepl("^[=+@]", unlist(back))))
})
