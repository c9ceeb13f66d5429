# How many different values there are.

test_that("different values are counted in all and by group", {
  d <- order_data(); s <- open_study(d)
  a <- ask(s, "number of customers per country")
  t <- table_of(a, "groups")
  expect_equal(t$distinct, as.vector(tapply(d$customer, d$country, function(v) length(unique(v)))))
  expect_equal(value_of(a, "estimate"), length(unique(d$customer)))
  b <- ask(s, "how many different customers are there?")
  expect_equal(value_of(b, "estimate"), length(unique(d$customer)))
})

test_that("counts of rows and of levels stay what they are", {
  s <- hive_study()
  expect_equal(method_of(ask(s, "how many hives in each arm?")), "frequency_table")
  expect_equal(method_of(ask(s, "number of hives by arm and region")), "crosstab")
})
