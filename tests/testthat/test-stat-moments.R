stat_group_moments <- internal("stat_group_moments")
stat_group_summary <- internal("stat_group_summary")

test_that("moments match the hand calculation", {
  # 1, 2, 4: mean 7/3; squares about it 16/9, 1/9, 25/9 (sum 14/3); cubes -64/27, -1/27, 125/27 (sum 20/9)
  m <- stat_group_moments(c(1, 2, 4))
  expect_equal(unname(m[1, c("n", "mean", "m2", "m3")]), c(3, 7 / 3, 14 / 3, 20 / 9), tolerance = 1e-15)
})

test_that("a mean of 1e12 with a spread of 0.1 keeps its digits", {
  x <- 1e12 + c(0.125, 0.25, 0.375, 0.5) # exact in binary
  m <- stat_group_moments(x)
  expect_identical(m[[1, "mean"]], 1e12 + 0.3125)
  expect_equal(m[[1, "m2"]], 5 * 0.125^2, tolerance = 1e-12)
  many <- 1e7 + rep(c(-0.1, 0.1), 50000)
  s <- stat_group_summary(many)
  # the inputs themselves are rounded to about 2e-9, so compare with their own exact spread
  spread <- stats::sd(many - 1e7)
  expect_equal(s$sd, spread, tolerance = 1e-12)
})

test_that("the summary by group agrees with base R on nasty data", {
  x <- with_seed(1, c(rnorm(500, 1e6, 1e-3), rexp(300), rep(NA, 20), -1e-300, 1e300 * 0))
  g <- with_seed(2, sample(1:4, length(x), TRUE))
  s <- stat_group_summary(x, g, 4L)
  for (k in 1:4) {
    v <- x[g == k & !is.na(x)]
    expect_equal(unname(unlist(s[k, c("n", "mean", "sd", "median", "q1", "q3", "min", "max")])),
                 c(length(v), mean(v), sd(v), median(v), quantile(v, 0.25, names = FALSE), quantile(v, 0.75, names = FALSE), min(v), max(v)),
                 tolerance = 1e-9)
    expect_equal(s$missing[k], sum(is.na(x[g == k])))
  }
})

test_that("skewness and kurtosis are the bias-corrected forms", {
  x <- c(2, 3, 5, 9, 17)
  n <- 5
  d <- x - mean(x)
  g1 <- mean(d^3) / mean(d^2)^1.5
  g2 <- mean(d^4) / mean(d^2)^2 - 3
  s <- stat_group_summary(x)
  expect_equal(s$skewness, g1 * sqrt(n * (n - 1)) / (n - 2), tolerance = 1e-13)
  expect_equal(s$kurtosis, (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * g2 + 6), tolerance = 1e-13)
})

test_that("shift, scale and order of rows do what they should; parts merge into the whole", {
  x <- with_seed(3, rgamma(5000, 2))
  a <- stat_group_summary(x)
  b <- stat_group_summary(rev(4 * x - 7))
  expect_equal(b$mean, 4 * a$mean - 7, tolerance = 1e-13)
  expect_equal(b$sd, 4 * a$sd, tolerance = 1e-13)
  expect_equal(b$skewness, a$skewness, tolerance = 1e-10)
  parts <- do.call(rbind, lapply(split(x, rep(1:7, length.out = 5000)), stat_group_moments))
  merged <- internal("stat_merge_moments")(parts)
  whole <- stat_group_moments(x)
  expect_equal(merged[["mean"]], whole[[1, "mean"]], tolerance = 1e-14)
  expect_equal(merged[["m2"]], whole[[1, "m2"]], tolerance = 1e-12)
})

test_that("empty and single groups give missing values, not noise", {
  s <- stat_group_summary(c(5, NA), c(1L, 2L), 3L)
  expect_equal(s$n, c(1, 0, 0))
  expect_true(all(is.na(s$sd)))
  expect_true(is.na(s$mean[2]) && is.na(s$median[3]))
})

test_that("the median's interval has the coverage its order statistics promise", {
  # n = 10: ranks 2 and 9 leave 2 * P(B <= 1) = 22/1024 outside
  i <- internal("stat_median_interval")(1:10, 0.95)
  expect_equal(unname(i), c(2, 9))
  expect_true(all(is.na(internal("stat_median_interval")(1:5, 0.95))))
})

test_that("a weighted mean equals the mean of repeated rows", {
  w <- internal("stat_weighted_mean")(c(1, 2, 5), c(2, 1, 3))
  expect_equal(w$estimate, mean(c(1, 1, 2, 5, 5, 5)), tolerance = 1e-15)
})
