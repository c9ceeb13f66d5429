test_that("the explanation says why, and what p, interval and effect mean, with this answer's numbers", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  text <- paste(explain(a), collapse = " ")
  expect_match(text, "Welch")
  expect_match(text, "p = .009", fixed = TRUE)
  expect_match(text, "not the probability that there is nothing")
  expect_match(text, "0.48 standard deviations")
})
