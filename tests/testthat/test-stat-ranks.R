mann_whitney <- internal("stat_mann_whitney")

# Every way to choose the first group, counted: the definition of the exact p value.
enumerated_p <- function(x, y) {
  all <- rank(c(x, y))
  m <- length(x)
  u <- sum(all[seq_len(m)]) - m * (m + 1) / 2
  every <- combn(length(all), m, function(i) sum(all[i]) - m * (m + 1) / 2)
  min(1, 2 * min(mean(every >= u - 1e-9), mean(every <= u + 1e-9)))
}

test_that("the exact p value is that of enumeration, ties included", {
  for (seed in 1:6) {
    x <- with_seed(seed, sample(1:5, 5, TRUE))
    y <- with_seed(seed + 100, sample(2:6, 6, TRUE))
    expect_equal(mann_whitney(x, y)$p_value, enumerated_p(x, y), tolerance = 1e-12)
  }
})

test_that("without ties it agrees with base R, exact and approximate", {
  x <- with_seed(21, rnorm(12))
  y <- with_seed(22, rnorm(15, 0.6))
  ref <- wilcox.test(x, y, exact = TRUE, conf.int = TRUE)
  out <- mann_whitney(x, y)
  expect_equal(c(out$statistic, out$p_value, out$ci_low, out$ci_high), unname(c(ref$statistic, ref$p.value, ref$conf.int)), tolerance = 1e-10)
  expect_equal(out$estimate, median(outer(x, y, "-")), tolerance = 1e-14)
  x <- with_seed(23, round(rnorm(80), 1))
  y <- with_seed(24, round(rnorm(90, 0.3), 1))
  ref <- suppressWarnings(wilcox.test(x, y, exact = FALSE))
  expect_equal(mann_whitney(x, y)$p_value, ref$p.value, tolerance = 1e-10)
})

test_that("U counts the pairs and the effects follow from it", {
  # pairs in which x is larger: 3 > 1, 3 > 2, 5 > 1, 5 > 2, and 2 = 2 for one half
  out <- mann_whitney(c(3, 5, 2), c(1, 2, 7))
  expect_equal(out$statistic, 2 + 2 + 1 + 0.5)
  expect_equal(out$superiority, 5.5 / 9, tolerance = 1e-15)
  expect_equal(out$rank_biserial, 2 * 5.5 / 9 - 1, tolerance = 1e-15)
})

test_that("midranks are base R's average ranks, for long vectors too", {
  x <- with_seed(25, c(round(rnorm(5000), 2), -0, 0, -Inf, Inf))
  out <- internal("stat_midranks")(x)
  expect_equal(out$rank, rank(x))
  expect_equal(out$ties, sum(table(x)^3 - table(x)))
})

test_that("a monotone change of unit leaves the test alone", {
  x <- with_seed(26, rexp(20)); y <- with_seed(27, rexp(25))
  expect_equal(mann_whitney(x, y)$p_value, mann_whitney(log(x), log(y))$p_value, tolerance = 1e-14)
})
