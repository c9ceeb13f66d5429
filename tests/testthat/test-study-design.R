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

test_that("declared weights and clusters are respected, or their absence is said", {
  k <- design(demo_study("keeper_survey.csv"), weights = "weight")
  a <- ask(k, "mean satisfaction")
  d <- as.data.frame(demo_study("keeper_survey.csv"))
  ok <- !is.na(d$satisfaction)
  expect_equal(value_of(a, "estimate"), weighted.mean(d$satisfaction[ok], d$weight[ok]), tolerance = 1e-12)
  expect_equal(method_of(ask(k, "does satisfaction differ by region?")), "weighted_means")
  expect_match(paste(unlist(as.list(ask(k, "standard deviation of satisfaction by region"))$cautions), collapse = " "),
      "weights in weight are not used")
  b <- ask(design(hive_study(), cluster = "apiary"), "predict honey yield from strength before")
  expect_equal(method_of(b), "mixed_linear")
  expect_equal(reading(b)$unit, "apiary")
})

test_that("time, pairs and strata can be declared and taken back", {
  s <- design(hive_study(), time = "inspected_on", strata = "region")
  expect_equal(s$design[c("time", "strata")], list(time = "inspected_on", strata = "region"))
  expect_null(undo(s)$design$time)
  expect_error(design(hive_study(), time = "nowhere"), class = "upbeatquill_error_column_unknown")
})
