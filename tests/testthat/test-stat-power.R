test_that("sizes are those of base R's power functions", {
  size <- internal("stat_size_for")
  t <- size(function(n) internal("power_of_t")(n, 0.5, 0.05), 0.8)
  expect_equal(t, power.t.test(delta = 0.5, power = 0.8, strict = TRUE, tol = 1e-10)$n, tolerance = 1e-6)
  p <- size(function(n) internal("power_of_proportions")(n, 0.4, 0.55, 0.05), 0.9)
  expect_equal(p, power.prop.test(p1 = 0.4, p2 = 0.55, power = 0.9, tol = 1e-10)$n, tolerance = 1e-6)
  f <- internal("power_of_anova")(20, 0.25, 4, 0.05)
  expect_equal(f, power.anova.test(groups = 4, n = 20, between.var = 0.25^2 * 4 / 3, within.var = 1)$power, tolerance = 1e-10)
})

test_that("the power of a correlation grows with size and equals the level when there is nothing to see", {
  power <- internal("power_of_correlation")
  expect_equal(power(50, 1e-9, 0.05), 0.05, tolerance = 0.05)
  expect_true(all(diff(power(c(20, 50, 100, 400), 0.3, 0.05)) > 0))
})

test_that("the numbers of a question are effect, power and size", {
  a <- ask(hive_study(), "How many hives per group would I need to detect a standardised difference of 0.5 with 80 % power?")
  expect_equal(method_of(a), "power_t")
  expect_equal(value_of(a, "n_per_group"), 64)
  expect_retraces(a)
  b <- ask(hive_study(), "Sample size to find a difference between 40% and 55%, 90% power, two groups")
  expect_equal(method_of(b), "power_proportions")
  expect_equal(value_of(b, "n_per_group"), ceiling(power.prop.test(p1 = 0.4, p2 = 0.55, power = 0.9)$n))
  expect_retraces(b)
  expect_retraces(ask(hive_study(), "How big a sample do I need to detect a correlation of 0.3?"))
  expect_equal(status_of(ask(hive_study(), "How big a sample do I need?")), "needs_choice")
})
