test_that("the text view holds the reading, the headline, numbers, checks, second opinions and what to ask next", {
  lines <- format(ask(hive_study(), "Does the honey yield differ between syrup and control?"), width = 80)
  for (part in c("^Question", "^Read as", "^Assumed", "^Rows", "higher in syrup", "t\\(116.0\\)", "^Checks", "^Second opinions", "^Ask next")) {
    expect_true(any(grepl(part, lines)), info = part)
  }
  expect_lte(max(nchar(lines)), 80)
  expect_false(any(grepl("\033", lines, fixed = TRUE)))
})

test_that("a choice lists its readings with the numbers that select them", {
  lines <- format(ask(hive_study(), "How does strength relate to honey yield?"), width = 80)
  expect_true(any(grepl("^ +1 .*strength_before", lines)))
  expect_true(any(grepl("^ +2 .*strength_after", lines)))
})
