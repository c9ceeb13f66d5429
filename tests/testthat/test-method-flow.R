test_that("rows are counted step by step in each group", {
  s <- hive_study(); d <- as.data.frame(s)
  a <- ask(s, "participant flow by arm")
  expect_equal(method_of(a), "participant_flow")
  t <- table_of(a, "flow")
  last <- t[t$step == "with a value of honey yield", ]
  complete <- !is.na(d$mites_after) & !is.na(d$honey_yield_kg)
  expect_equal(last$n, as.vector(table(d$arm[complete])[last$arm]))
  expect_equal(value_of(a, "n"), sum(complete))
  expect_equal(sum(t$lost), nrow(d) - sum(complete))
  expect_retraces(a)
  expect_s3_class(figure(a), "ggplot")
})

test_that("the named columns make the steps, conditions come first, the declared treatment divides", {
  a <- ask(hive_study(), "how many hives in the north have complete data on honey yield?")
  expect_equal(value_of(a, "start"), 75)
  expect_equal(unlist(reading(a)$outcome), "honey_yield_kg")
  expect_retraces(a)
  b <- ask(design(hive_study(), treatment = "arm"), "participant flow")
  expect_equal(unlist(reading(b)$by), "arm")
  expect_match(paste(reading(b)$assumed, collapse = " "), "declared treatment")
})

test_that("nothing missing is said so", {
  a <- ask(open_study(data.frame(g = rep(c("a", "b"), 5), y = 1:10 + 0.5)), "participant flow by g")
  expect_match(as.list(a)$sentences$headline, "complete in every column")
  expect_retraces(a)
})
