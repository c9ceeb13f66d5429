test_that("a look shows rows, kinds, missing values and findings", {
  lines <- unclass(look(hive_study(), width = 90, colour = FALSE))
  expect_match(lines[1], "hive_trial.csv   180 rows, 15 columns", fixed = TRUE)
  expect_true(any(grepl("mites_after +count +3", lines)))
  expect_true(any(grepl("\"-99\" is read as missing", lines, fixed = TRUE)))
  expect_lte(max(nchar(lines)), 90)
})

test_that("wide tables and long names stay within the page", {
  d <- as.data.frame(matrix(with_seed(9, rnorm(600)), 5))
  names(d)[1] <- strrep("long_name_", 12)
  lines <- unclass(look(open_study(d), width = 80, colour = FALSE))
  expect_lte(max(nchar(lines)), 80)
  expect_true(any(grepl("60 more columns", lines)))
})
