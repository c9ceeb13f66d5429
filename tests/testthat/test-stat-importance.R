test_that("shares add up to R squared and are the averages over all orders, by brute force", {
  d <- with_seed(1, { x <- matrix(rnorm(240), 60); x[, 2] <- x[, 1] + 0.6 * x[, 2]; data.frame(x, y = x %*% c(1, 0.5, 0.3, 0) + rnorm(60)) })
  out <- internal("stat_importance")(lapply(d[1:4], cbind), d$y)
  r2 <- function(s) if (!length(s)) 0 else summary(lm(reformulate(names(d)[s], "y"), d))$r.squared
  perms <- as.matrix(expand.grid(1:4, 1:4, 1:4, 1:4)); perms <- perms[apply(perms, 1, function(p) !anyDuplicated(p)), ]
  brute <- rowMeans(apply(perms, 1, function(p) { v <- numeric(4); v[p] <- diff(c(0, vapply(1:4, function(i) r2(p[1:i]), 1))); v }))
  expect_equal(unname(out$share), brute, tolerance = 1e-9)
  expect_equal(sum(out$share), out$r_squared, tolerance = 1e-12)
  sampled <- internal("stat_importance")(lapply(d[1:4], cbind), d$y, exact_to = 2L, draws = 2000L)
  expect_equal(sampled$share, out$share, tolerance = 0.05)
})

test_that("uncorrelated predictors share as their squared correlations", {
  x <- contr.helmert(8)[, 1:3]; y <- drop(x %*% c(1, 0.5, 0.2)) + contr.helmert(8)[, 5]
  out <- internal("stat_importance")(lapply(1:3, function(j) x[, j, drop = FALSE]) |> setNames(c("a", "b", "c")), y)
  expect_equal(unname(out$share), unname(cor(x, y)[, 1]^2), tolerance = 1e-10)
})

test_that("it is asked for in plain words", {
  a <- ask(hive_study(), "relative importance of strength before, queen age and arm for honey yield")
  expect_equal(method_of(a), "relative_importance")
  expect_retraces(a)
})
