test_that("an ordered answer is compared by ranks first, and the numbers are base R's", {
  raw <- read.csv(demo_file("keeper_survey.csv"))
  raw$feed_affordable[raw$feed_affordable == -99] <- NA
  raw <- subset(raw, region %in% c("north", "south"))
  ref <- suppressWarnings(wilcox.test(feed_affordable ~ region, raw, exact = FALSE))
  a <- ask(demo_study("keeper_survey.csv", "keeper_survey_codebook.csv"), "Is feed more affordable in the south than in the north?")
  expect_equal(method_of(a), "mann_whitney")
  expect_equal(value_of(a, "statistic"), unname(ref$statistic))
  expect_equal(value_of(a, "p_value"), ref$p.value, tolerance = 1e-10)
})
