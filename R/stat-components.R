# Components and factors of correlated columns.

#' Principal components of the correlation matrix
#'
#' @param x Numeric matrix, rows x columns, no missing values.
#' @section Shape: `values` (eigenvalues), `share`, `loadings` (columns x components, correlation of column and component; each component's
#'   largest loading is positive), `random` (95th percentile of the eigenvalues of unrelated columns), `kept` (components above chance), `n`.
#' @section Source: Hotelling, H. (1933). J. Educational Psychology 24, 417-441; number of components: Horn, J. L. (1965). Psychometrika 30, 179-185.
#' @noRd
stat_components <- function(x, seed = 20240501, draws = 500L) {
  r <- correlation_of(x)
  e <- eigen(r, symmetric = TRUE)
  values <- pmax(e$values, 0)
  loadings <- e$vectors %*% diag(sqrt(values), length(values))
  random <- parallel_values(nrow(x), ncol(x), seed, draws)
  above <- values > random
  list(values = values, share = values / sum(values), loadings = point_up(loadings), random = random,
       kept = if (all(above)) length(values) else max(1L, which(!above)[1] - 1L), above = above, n = nrow(x), r = r)
}

correlation_of <- function(x) {
  if (nrow(x) < 5 || nrow(x) <= ncol(x)) stop_data(sprintf("%d columns need more than %d complete rows.", ncol(x), max(ncol(x), 5L)),
    class = "too_few_rows")
  centred <- sweep(x, 2, colMeans(x))
  size <- sqrt(colSums(centred^2))
  if (any(size <= 1e-12 * (1 + abs(colMeans(x))))) stop_data("One of the columns does not vary in these rows.", class = "outcome_constant")
  crossprod(sweep(centred, 2, size, "/"))
}

#' A component's or factor's direction is arbitrary: its largest loading is made positive
#' @noRd
point_up <- function(loadings) {
  sign <- apply(loadings, 2, function(v) if (v[which.max(abs(v) * (1 - 1e-9 * seq_along(v)))] < 0) -1 else 1)
  sweep(loadings, 2, sign, "*")
}

#' 95th percentile of the eigenvalues of correlations between unrelated normal columns
#' @noRd
parallel_values <- function(n, p, seed, draws) {
  with_recorded_seed(seed, {
    w <- stats::rWishart(draws, n - 1, diag(p))
    values <- vapply(seq_len(draws), function(d) eigen(stats::cov2cor(w[, , d]), symmetric = TRUE, only.values = TRUE)$values, numeric(p))
  })
  apply(values, 1, stats::quantile, 0.95, names = FALSE)
}

#' Maximum-likelihood factor analysis with varimax rotation
#'
#' @param x Numeric matrix. @param k Number of factors.
#' @section Shape: `loadings` (rotated), `uniqueness`, `share` of the variance by factor, `statistic`, `df`, `p_value` (test that k factors suffice;
#'   NA without degrees of freedom), `kmo` (sampling adequacy), `improper` (a uniqueness at its lower bound), `n`.
#' @section Source: Lawley, D. N. and Maxwell, A. E. (1971). Factor Analysis as a Statistical Method; Bartlett, M. S. (1954). JRSS B 16, 296-298;
#'   Kaiser, H. F. (1958). Psychometrika 23, 187-200 (varimax) and (1970) Psychometrika 35, 401-415 (adequacy).
#' @noRd
stat_factors <- function(x, k) {
  r <- correlation_of(x)
  p <- ncol(x); n <- nrow(x)
  df <- ((p - k)^2 - p - k) / 2
  if (df < 0 || k < 1) stop_data(sprintf("%d columns cannot carry %d factors.", p, k), todo = "Ask for fewer factors.", class = "group_count")
  if (min(eigen(r, symmetric = TRUE, only.values = TRUE)$values) < 1e-10) stop_data("One column is a combination of the others.", class = "collinear")
  inverse <- solve(r)
  start <- pmin(pmax((1 - 0.5 * k / p) / diag(inverse), 0.01), 0.99)
  uniqueness <- likely_uniqueness(r, k, start)
  raw <- factor_loadings(r, k, uniqueness)
  rotated <- if (k > 1) rotate_varimax(raw) else raw
  rotated <- point_up(rotated[, order(-colSums(rotated^2)), drop = FALSE])
  statistic <- (n - 1 - (2 * p + 5) / 6 - 2 * k / 3) * factor_misfit(r, k, uniqueness)
  partial <- -inverse / sqrt(outer(diag(inverse), diag(inverse)))
  off <- upper.tri(r)
  list(loadings = rotated, uniqueness = uniqueness, share = colSums(rotated^2) / p, statistic = statistic, df = df,
       p_value = if (df > 0) stats::pchisq(statistic, df, lower.tail = FALSE) else NA_real_,
       kmo = sum(r[off]^2) / (sum(r[off]^2) + sum(partial[off]^2)), improper = any(uniqueness < 0.00501), n = n)
}

factor_misfit <- function(r, k, uniqueness) {
  values <- eigen(r / sqrt(outer(uniqueness, uniqueness)), symmetric = TRUE, only.values = TRUE)$values[-seq_len(k)]
  if (!length(values)) 0 else sum(values - log(values) - 1)
}

factor_loadings <- function(r, k, uniqueness) {
  e <- eigen(r / sqrt(outer(uniqueness, uniqueness)), symmetric = TRUE)
  sqrt(uniqueness) * e$vectors[, seq_len(k), drop = FALSE] %*% diag(sqrt(pmax(e$values[seq_len(k)] - 1, 0)), k)
}

#' Uniquenesses that make the correlations most likely: quasi-Newton, then Newton steps to the last digits
#' @noRd
likely_uniqueness <- function(r, k, start) {
  slope <- function(u) { l <- factor_loadings(r, k, u); diag(l %*% t(l) + diag(u) - r) / u^2 }
  u <- stats::optim(start, function(u) factor_misfit(r, k, u), slope, method = "L-BFGS-B", lower = 0.005, upper = 1, control = list(maxit = 500,
    factr = 10))$par
  free <- u > 0.00501 & u < 1 - 1e-9
  for (i in 1:8) {
    at <- which(free)
    if (!length(at)) break
    bend <- vapply(at, function(j) { h <- 1e-5 * u[j]; d <- replace(numeric(length(u)), j, h); ((slope(u + d) - slope(u - d)) / (2 * h))[at] },
      numeric(length(at)))
    step <- tryCatch(solve(bend, slope(u)[at]), error = function(e) NULL)
    if (is.null(step) || max(abs(step)) > 0.2 || any(u[at] - step < 0.005)) break
    u[at] <- u[at] - step
    if (max(abs(step)) < 1e-13) break
  }
  u
}

#' Varimax rotation, rows scaled to length one while it is sought
#' @noRd
rotate_varimax <- function(loadings) {
  length <- sqrt(rowSums(loadings^2))
  length[length == 0] <- 1
  z <- loadings / length
  turn <- diag(ncol(z))
  for (i in 1:2000) {
    a <- z %*% turn
    s <- svd(crossprod(z, a^3 - a %*% diag(colMeans(a^2))))
    new <- s$u %*% t(s$v)
    if (max(abs(new - turn)) < 1e-14) break
    turn <- new
  }
  loadings %*% new
}
