stat_gamma <- internal("stat_gamma"); stat_polychoric <- internal("stat_polychoric")

test_that("gamma counts pairs: against all pairs of rows, one by one", {
  set.seed(4)
  x <- sample(1:4, 60, TRUE); y <- pmin(4, pmax(1, x + sample(-1:2, 60, TRUE)))
  counts <- unclass(table(x, y))
  pair <- combn(60, 2)
  s <- sign(x[pair[1, ]] - x[pair[2, ]]) * sign(y[pair[1, ]] - y[pair[2, ]])
  expect_equal(stat_gamma(counts)$estimate, (sum(s > 0) - sum(s < 0)) / sum(s != 0))
  flipped <- stat_gamma(counts[, ncol(counts):1])
  expect_equal(flipped$estimate, -stat_gamma(counts)$estimate)
  expect_equal(flipped$se, stat_gamma(counts)$se)
  expect_error(stat_gamma(matrix(c(3, 4), 1)), class = "upbeatquill_error_one_group")
})

test_that("the variance of gamma is that of the delta method, by numbers", {
  counts <- matrix(c(10, 4, 2, 5, 9, 6, 1, 5, 12), 3)
  n <- sum(counts)
  value <- function(p) { c <- p * n; stat_gamma(c)$estimate }
  p <- counts / n
  slope <- vapply(seq_along(p), function(k) { h <- 1e-6; up <- down <- p; up[k] <- up[k] +
    h; down[k] <- down[k] - h; (value(up) - value(down)) / (2 * h) }, 1)
  expect_equal(stat_gamma(counts)$se, sqrt((sum(p * slope^2) - sum(p * slope)^2) / n), tolerance = 1e-6)
})

test_that("the uncertainty coefficient is 1 when one column settles the other, 0 when they are independent", {
  u <- internal("stat_uncertainty")
  expect_equal(u(diag(c(3, 5, 9)))$estimate, 1)
  expect_equal(u(outer(c(2, 4), c(3, 5, 7)))$estimate, 0, tolerance = 1e-12)
  out <- u(matrix(c(8, 0, 2, 6), 2))
  expect_equal(c(out$estimate, out$reverse), rev(c(u(matrix(c(8, 2, 0, 6), 2))$estimate, u(matrix(c(8, 2, 0, 6), 2))$reverse)))
})

test_that("polychoric: the closed form of the tetrachoric correlation at medians, and a grid of likelihoods", {
  # cut at both medians the four-fold probability is 1/4 + asin(rho) / (2 pi)
  rho <- 0.6
  both <- 0.25 + asin(rho) / (2 * pi)
  counts <- 1e6 * matrix(c(both, 0.5 - both, 0.5 - both, both), 2)
  expect_equal(stat_polychoric(counts)$estimate, rho, tolerance = 1e-9)
  counts <- matrix(c(20, 8, 3, 10, 15, 9, 2, 7, 18), 3)
  found <- stat_polychoric(counts)
  n <- sum(counts); a <- c(-8, qnorm(cumsum(rowSums(counts)) / n)[1:2], 8); b <- c(-Inf, qnorm(cumsum(colSums(counts)) / n)[1:2], Inf)
  log_likelihood <- function(r) sum(counts * log(outer(1:3, 1:3, Vectorize(function(i, j) integrate(function(x) dnorm(x) *
    (pnorm((b[j + 1] - r * x) / sqrt(1 - r^2)) - pnorm((b[j] - r * x) / sqrt(1 - r^2))), a[i], a[i + 1], rel.tol = 1e-10)$value))))
  best <- optimize(log_likelihood, c(-0.99, 0.99), maximum = TRUE, tol = 1e-9)
  expect_equal(found$estimate, best$maximum, tolerance = 1e-6)
  expect_equal(found$statistic, 2 * (best$objective - log_likelihood(0)), tolerance = 1e-6)
  expect_equal(stat_polychoric(counts[3:1, ])$estimate, -found$estimate, tolerance = 1e-9)
})

test_that("distance correlation by its definition on distance matrices", {
  d <- internal("stat_distance_correlation")
  set.seed(9)
  x <- rnorm(40); y <- x^2 + rnorm(40, sd = 0.3)
  centre <- function(m) m - outer(rowMeans(m), colMeans(m), "+") + mean(m)
  a <- centre(as.matrix(dist(x))); b <- centre(as.matrix(dist(y)))
  expect_equal(d(x, y)$dcor, sqrt(mean(a * b) / sqrt(mean(a^2) * mean(b^2))), tolerance = 1e-12)
  u <- function(v) { m <- as.matrix(dist(v)); n <- nrow(m)
    out <- m - outer(rowSums(m), colSums(m), "+") / (n - 2) + sum(m) / ((n - 1) * (n - 2)); diag(out) <- 0; out }
  expect_equal(d(x, y)$estimate, sum(u(x) * u(y)) / sqrt(sum(u(x)^2) * sum(u(y)^2)), tolerance = 1e-12)
  expect_lt(d(x, y)$p_value, 0.01)
  expect_equal(d(1e6 + x, 3 - 2 * y)$estimate, d(x, y)$estimate, tolerance = 1e-8)
  expect_error(d(rep(1, 10), 1:10), class = "upbeatquill_error_outcome_constant")
  expect_equal(internal("kernel_distance_sums")(x, y, 1L), internal("kernel_distance_sums")(x, y, 2L))
})

test_that("the biserial correlation stretches the point-biserial one", {
  set.seed(2)
  z <- rnorm(4000); x <- 0.5 * z + sqrt(0.75) * rnorm(4000)
  out <- internal("stat_biserial")(x, z > 0.7)
  expect_equal(out$point_biserial, cor(x, as.numeric(z > 0.7)))
  expect_equal(out$estimate, 0.5, tolerance = 0.08)
})
