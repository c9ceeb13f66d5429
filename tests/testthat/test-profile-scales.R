test_that("wordings of a known scale are ordered, anything else is not", {
  scale <- internal("ordered_scale_of")
  expect_equal(scale(c("Agree", "Strongly agree", "Disagree", "Neutral"))$levels, c("Disagree", "Neutral", "Agree", "Strongly agree"))
  expect_equal(scale(c("often", "never", "always"))$levels, c("never", "often", "always"))
  expect_equal(scale(c("10-19", "<10", "20+"))$levels, c("<10", "10-19", "20+"))
  expect_null(scale(c("red", "green", "blue")))
})
