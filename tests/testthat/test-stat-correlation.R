test_that("Pearson's r, its test and interval agree with base R", {
  x <- with_seed(41, rnorm(50)); y <- x + with_seed(42, rnorm(50))
  out <- internal("stat_pearson")(x, y)
  ref <- cor.test(x, y)
  expect_equal(c(out$estimate, out$statistic, out$df, out$p_value, out$ci_low, out$ci_high),
               unname(c(ref$estimate, ref$statistic, ref$parameter, ref$p.value, ref$conf.int)), tolerance = 1e-11)
  expect_equal(c(out$intercept, out$slope), unname(coef(lm(y ~ x))), tolerance = 1e-11)
})

test_that("Pearson's r matches the hand calculation and survives an offset", {
  # x 1,2,3; y 1,3,2: products of deviations 1, squares 2 and 2
  expect_equal(internal("stat_pearson")(c(1, 2, 3), c(1, 3, 2))$estimate, 0.5, tolerance = 1e-15)
  expect_equal(internal("stat_pearson")(2^33 + c(1, 2, 3), c(1, 3, 2))$estimate, 0.5, tolerance = 1e-12)
  expect_equal(internal("stat_pearson")(1:4, 2 * (1:4))$estimate, 1)
})

test_that("Spearman's rho with ties is Pearson's r of the midranks, exact by all orders when few", {
  x <- c(1, 2, 2, 3, 5, 5); y <- c(2, 1, 4, 4, 3, 6)
  out <- internal("stat_spearman")(x, y)
  expect_equal(out$estimate, cor(x, y, method = "spearman"), tolerance = 1e-14)
  orders <- function(v) if (length(v) < 2) list(v) else unlist(lapply(seq_along(v), function(i) lapply(orders(v[-i]), function(r) c(v[i], r))),
    recursive = FALSE)
  all <- vapply(orders(rank(y)), function(r) cor(rank(x), r), 1)
  expect_equal(out$p_value, mean(abs(all) >= abs(out$estimate) - 1e-12), tolerance = 1e-12)
})

test_that("too few rows and constant columns are refused", {
  expect_error(internal("stat_pearson")(1:2, 3:4), class = "upbeatquill_error_too_few_rows")
  expect_error(internal("stat_pearson")(rep(1, 5), 1:5), class = "upbeatquill_error_outcome_constant")
})

test_that("Kendall's tau-b is base R's with ties, exact without them when few", {
  x <- with_seed(51, sample(1:8, 60, TRUE)); y <- with_seed(52, sample(1:8, 60, TRUE))
  out <- internal("stat_kendall")(x, y)
  ref <- suppressWarnings(cor.test(x, y, method = "kendall", exact = FALSE))
  expect_equal(c(out$estimate, out$statistic, out$p_value), unname(c(ref$estimate, ref$statistic, ref$p.value)), tolerance = 1e-10)
  x <- c(3, 1, 4, 9, 5, 2, 6); y <- c(2, 1, 5, 8, 3, 4, 9)
  expect_equal(internal("stat_kendall")(x, y)$p_value, cor.test(x, y, method = "kendall", exact = TRUE)$p.value, tolerance = 1e-12)
})

test_that("the partial correlation is that of the residuals, its t that of the regression", {
  d <- with_seed(53, data.frame(x = rnorm(40), y = rnorm(40), z = rnorm(40), w = rnorm(40)))
  out <- internal("stat_partial_correlation")(d$x, d$y, cbind(1, d$z, d$w))
  expect_equal(out$estimate, cor(resid(lm(x ~ z + w, d)), resid(lm(y ~ z + w, d))), tolerance = 1e-12)
  expect_equal(out$p_value, coef(summary(lm(y ~ x + z + w, d)))["x", 4], tolerance = 1e-10)
})
