# Bootstrap intervals: their parts against brute force, their answer against known intervals.

test_that("the statistic with each row left out is what leaving it out gives", {
  x <- with_seed(4, round(rexp(23, 0.2), 1))
  forms <- internal("resampled_statistics")()
  for (id in setdiff(names(forms), "correlation")) {
    brute <- vapply(seq_along(x), function(i) forms[[id]]$compute(x[-i], NULL), 1)
    expect_equal(internal("leave_one_out")(x, NULL, id), brute, tolerance = 1e-12, info = id)
  }
  expect_equal(internal("leave_one_out")(c(1, 1, 2, 2, 9), NULL, "median"), c(2, 2, 1.5, 1.5, 1.5))
})

test_that("draws are the same for any number of threads and every run", {
  x <- with_seed(5, rnorm(60))
  kernel <- internal("kernel_bootstrap"); seed <- internal("stream_seed")(7)
  one <- kernel(x, numeric(), 0L, 0, 2345L, seed, 1L)
  expect_identical(kernel(x, numeric(), 0L, 0, 2345L, seed, 2L), one)
  expect_identical(kernel(x, numeric(), 0L, 0, 2345L, seed, 2L), one)
  expect_equal(sd(one), sd(x) * sqrt(59 / 60) / sqrt(60), tolerance = 0.05)
})

test_that("for well-behaved data the interval is near the one that theory gives", {
  x <- with_seed(6, rnorm(200, 50, 8))
  out <- internal("stat_bootstrap")(list(x))
  expect_equal(c(out$ci_low, out$ci_high), as.numeric(t.test(x)$conf.int), tolerance = 0.005)
  expect_equal(out$estimate, mean(x), tolerance = 1e-12)
  y <- with_seed(8, x * 0.5 + rnorm(200, 0, 6))
  r <- internal("stat_bootstrap")(list(x), "correlation", y)
  expect_equal(c(r$ci_low, r$ci_high), as.numeric(cor.test(x, y)$conf.int), tolerance = 0.08)
})

test_that("a second implementation of the interval gives the same numbers from the same replicates", {
  skip_if_not_installed("boot")
  x <- with_seed(9, rexp(40))
  out <- internal("stat_bootstrap")(list(x), resamples = 1999L)
  replicates <- out$replicates
  influence <- vapply(seq_along(x), function(i) mean(x[-i]), 1)
  u <- 39 * (mean(influence) - influence)
  z0 <- qnorm(mean(replicates < mean(x))); a <- sum(u^3) / (6 * sum(u^2)^1.5)
  z <- z0 + qnorm(c(0.025, 0.975))
  limits <- boot:::norm.inter(replicates, pnorm(z0 + z / (1 - a * z)))[, 2]
  expect_equal(c(out$ci_low, out$ci_high), limits, tolerance = 0.01)
})

test_that("bootstraps are asked for in plain words, for one group, two, and a correlation", {
  d <- hive_study()
  for (q in c("bootstrap confidence interval of the median honey yield", "bootstrap the difference in honey yield between syrup and control",
              "bootstrap the correlation between queen age and honey yield")) {
    a <- ask(d, q)
    expect_equal(method_of(a), "bootstrap", info = q)
    expect_true(is.na(value_of(a, "p_value")), info = q)
    expect_lt(value_of(a, "ci_low"), value_of(a, "estimate"))
    expect_gt(value_of(a, "ci_high"), value_of(a, "estimate"))
  }
  too_few <- open_study(data.frame(x = c(1, 2, 3)))
  expect_equal(status_of(ask(too_few, "bootstrap interval of the mean x")), "cannot_answer")
})
