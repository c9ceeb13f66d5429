test_that("the control level comes first and a randomised treatment allows causal words", {
  study <- design(hive_study(), unit = "hive_id", treatment = "arm", randomised = TRUE, control = "syrup")
  expect_match(codebook(study)$levels[codebook(study)$column == "arm"], "^syrup")
  plain <- ask(hive_study(), "Does syrup against control raise the honey yield?")
  declared <- ask(study, "Does syrup against control raise the honey yield?")
  expect_true(any(grepl("cause", as.list(plain)$cautions)))
  expect_false(any(grepl("cause", as.list(declared)$cautions)))
})

test_that("repeated rows of a declared unit break the check of independence", {
  d <- data.frame(who = rep(c("a", "b", "c", "d"), each = 5), g = rep(c("x", "y"), each = 10), y = with_seed(61, rnorm(20)))
  a <- ask(design(open_study(d), unit = "who"), "does y differ by g")
  k <- checks(a)
  expect_equal(k$verdict[k$id == "independent_rows"], "broken")
  expect_true(length(as.list(a)$cautions) > 0)
})

test_that("unknown columns and levels are refused", {
  expect_error(design(hive_study(), unit = "nest"), class = "upbeatquill_error_column_unknown")
  expect_error(design(hive_study(), treatment = "arm", control = "none"), class = "upbeatquill_error_input")
  expect_error(design(hive_study(), control = "syrup"), class = "upbeatquill_error_input")
})
