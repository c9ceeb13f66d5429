test_that("open requests get a bounded look with the number of tests allowed for", {
  for (q in c("what is interesting here?", "analyse everything", "What should I look at first?", "which columns are related to each other?")) {
    a <- ask(hive_study(), q)
    expect_equal(method_of(a), "pair_screening", info = q)
    expect_lte(value_of(a, "tests"), 66)
  }
  expect_retraces(a)
  t <- table_of(a, "pairs")
  expect_equal(t$p_adjusted, p.adjust(t$p_value, "BH"), tolerance = 1e-12)
  d <- as.data.frame(hive_study())
  i <- which(t$a == "strength_before" & t$b == "strength_after")
  expect_equal(t$estimate[i], cor(d$strength_before, d$strength_after, use = "complete.obs"), tolerance = 1e-10)
})

test_that("noise gives nothing and says so", {
  a <- ask(open_study(with_seed(3, as.data.frame(matrix(rnorm(600), 60)))), "analyse everything")
  expect_match(as.list(a)$sentences$headline, "^None of the 45 pairs")
})
