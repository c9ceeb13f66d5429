test_that("follow-ups keep what was asked and change what they name", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  north <- ask(a, "only in the north")
  expect_setequal(filters_of(north), c("arm in syrup|control", "region == north"))
  south <- ask(north, "and in the south?")
  expect_setequal(filters_of(south), c("arm in syrup|control", "region == south"))
  ranks <- ask(a, "use a rank test")
  expect_equal(method_of(ranks), "mann_whitney")
  expect_equal(reading(ranks)$outcome, "honey_yield_kg")
  level <- ask(a, "at 99 % confidence")
  expect_equal(value_of(level, "conf_level"), 0.99)
  other <- ask(a, "and the queen age?")
  expect_equal(reading(other)$outcome, "queen_age_months")
  # the two arms make the groups; the region was a condition
  expect_equal(filters_of(ask(north, "drop the filter")), "arm in syrup|control")
  expect_length(filters_of(ask(ask(hive_study(), "mean honey yield in the north"), "remove the filters")), 0)
})

test_that("a question of its own starts anew even after an answer", {
  a <- ask(hive_study(), "mean honey yield in the north")
  b <- ask(a, "What is the correlation between queen age and mites before?")
  expect_length(reading(b)$filters, 0)
  expect_equal(method_of(b), "pearson")
})

test_that("an explanation is about the answer before it", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  e <- ask(a, "What does the p value mean?")
  expect_equal(reading(e)$task, "explain")
  expect_equal(value_of(e, "p_value"), value_of(a, "p_value"))
})
