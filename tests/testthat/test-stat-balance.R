# Standardised differences by their formulas, and the table that holds them.

test_that("measured and yes/no columns follow the formulas", {
  x <- c(1, 4, 6, 9); y <- c(2, 3, 8)
  expect_equal(internal("standardised_difference")(x, y), (mean(x) - mean(y)) / sqrt((var(x) + var(y)) / 2))
  p <- 12 / 40; q <- 21 / 50
  expect_equal(internal("standardised_shares")(c(28, 12), c(29, 21)), abs(p - q) / sqrt((p * (1 - p) + q * (1 - q)) / 2), tolerance = 1e-12)
  # the order of the levels does not matter
  expect_equal(internal("standardised_shares")(c(5, 9, 6), c(8, 4, 8)), internal("standardised_shares")(c(9, 6, 5), c(4, 8, 8)), tolerance = 1e-10)
  expect_equal(internal("standardised_shares")(c(5, 5), c(9, 9)), 0)
  expect_true(is.na(internal("standardised_difference")(1, y)))
})

test_that("characteristics by arm are asked for in several ways and retraced", {
  for (q in c("baseline characteristics by arm", "are the arms balanced?", "table 1 by arm")) {
    a <- ask(hive_study(), q)
    expect_equal(method_of(a), "baseline_table", info = q)
    expect_equal(reading(a)$by, "arm", info = q)
  }
  expect_retraces(a)
  t <- table_of(a, "baseline")
  d <- as.data.frame(hive_study())
  expect_equal(t[["syrup"]][t$column == "strength_before"], mean(d$strength_before[d$arm == "syrup"], na.rm = TRUE), tolerance = 1e-10)
  expect_false(any(c("hive_id", "mites_after", "survived_winter") %in% t$column))
})
