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

test_that("pairs are power.t.test's, and equivalence is what draws give", {
  for (n in c(5, 20, 60)) expect_equal(internal("power_of_paired")(n, 0.5, 0.05), power.t.test(n, 0.5, type = "paired", strict = TRUE)$power,
    tolerance = 1e-9)
  n <- 40; margin <- 0.7
  draws <- with_seed(3, { d <- rnorm(4e4, 0, sqrt(2 / n)); s <- sqrt(rchisq(4e4, 2 * n - 2) / (2 * n - 2)); mean(abs(d) < margin - qt(0.95,
    2 * n - 2) * s * sqrt(2 / n)) })
  expect_equal(internal("power_of_equivalence")(n, margin, 0.05), draws, tolerance = 0.01)
  expect_equal(internal("power_of_equivalence")(4, 0.1, 0.05), 0, tolerance = 1e-6)
})

test_that("sizes are asked for in plain words: units, pairs, equivalence, and the effect a size can see", {
  s <- hive_study()
  a <- ask(s, "How many hives do I need to detect a difference of 3 kg with a standard deviation of 6 at 80 % power?")
  expect_equal(value_of(a, "n_per_group"), ceiling(power.t.test(delta = 3, sd = 6, power = 0.8, strict = TRUE)$n))
  b <- ask(s, "sample size for a paired t test with an effect of 0.4 and 90 % power")
  expect_equal(method_of(b), "power_paired")
  expect_equal(value_of(b, "n"), ceiling(power.t.test(delta = 0.4, power = 0.9, type = "paired", strict = TRUE)$n))
  c <- ask(s, "sample size for equivalence within a margin of 0.5 standard deviations at 80 % power")
  expect_equal(method_of(c), "power_equivalence")
  d <- ask(s, "what difference can I detect with 50 hives per group at 80 % power?")
  expect_equal(value_of(d, "estimate"), power.t.test(n = 50, power = 0.8, strict = TRUE)$delta, tolerance = 1e-4)
  for (x in list(a, b, c, d)) expect_retraces(x)
})

test_that("a size said of all groups is divided, and an effect in the units of a column uses its spread", {
  d <- donor_data()
  a <- ask(open_study(d), "Is 120 donors enough to detect a 0.3 g/dl difference?")
  own <- power.t.test(n = 60, delta = 0.3, sd = sd(d$hb_g_dl), strict = TRUE)$power
  expect_equal(value_of(a, "power"), own, tolerance = 1e-6)
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "standard deviation")
  b <- ask(open_study(d), "how many donors per group to detect a difference of 0.5 in hb with 90 % power?")
  expect_equal(value_of(b, "n_per_group"), ceiling(power.t.test(delta = 0.5, sd = sd(d$hb_g_dl), power = 0.9)$n))
})
