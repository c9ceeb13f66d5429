test_that("alpha follows its definition, with and without each item", {
  common <- with_seed(31, rnorm(80))
  x <- sapply(1:5, function(i) with_seed(31 + i, common + rnorm(80)))
  alpha <- function(x) { v <- var(x); ncol(x) / (ncol(x) - 1) * (1 - sum(diag(v)) / sum(v)) }
  out <- internal("stat_cronbach_alpha")(x)
  expect_equal(out$alpha, alpha(x), tolerance = 1e-12)
  expect_equal(out$items$alpha_without, sapply(1:5, function(j) alpha(x[, -j])), tolerance = 1e-12)
  expect_equal(out$items$item_rest, sapply(1:5, function(j) cor(x[, j], rowSums(x[, -j]))), tolerance = 1e-12)
  expect_true(out$alpha_low < out$alpha && out$alpha < out$alpha_high)
})
