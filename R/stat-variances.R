# Spreads of groups, and shapes of samples.

#' Equality of spreads by deviations from the medians
#' @section Shape: `statistic` (F), `df1`, `df2`, `p_value`, `n`, `sds`.
#' @section Source: Brown, M. B. and Forsythe, A. B. (1974). JASA 69, 364-367; with means instead of medians: Levene (1960).
#' @noRd
stat_brown_forsythe <- function(values, centre = stats::median) {
  z <- lapply(values, function(v) abs(v - centre(v)))
  n <- lengths(z); k <- length(z)
  means <- vapply(z, mean, 1)
  grand <- sum(n * means) / sum(n)
  between <- sum(n * (means - grand)^2)
  within <- sum(vapply(z, function(v) sum((v - mean(v))^2), 1))
  if (within <= 0) stop_data("The values do not vary within the groups.", class = "outcome_constant")
  f <- (between / (k - 1)) / (within / (sum(n) - k))
  list(statistic = f, df1 = k - 1, df2 = sum(n) - k, p_value = stats::pf(f, k - 1, sum(n) - k, lower.tail = FALSE), n = sum(n),
       sds = vapply(values, stats::sd, 1))
}

#' Bartlett's test of equal variances
#' @section Source: Bartlett, M. S. (1937). Proceedings of the Royal Society A 160, 268-282.
#' @noRd
stat_bartlett <- function(values) {
  n <- lengths(values); k <- length(values)
  v <- vapply(values, stats::var, 1)
  if (any(n < 2) || any(v <= 0)) stop_data("Every group needs two values that differ.", class = "outcome_constant")
  df <- n - 1
  pooled <- sum(df * v) / sum(df)
  statistic <- (sum(df) * log(pooled) - sum(df * log(v))) / (1 + (sum(1 / df) - 1 / sum(df)) / (3 * (k - 1)))
  list(statistic = statistic, df = k - 1, p_value = stats::pchisq(statistic, k - 1, lower.tail = FALSE), n = sum(n), sds = sqrt(v))
}

#' F test of two variances
#' @section Shape: `statistic` (ratio of the variances, first over second), `df1`, `df2`, `p_value`, `estimate` with limits, `n`.
#' @noRd
stat_f_variances <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  df <- c(length(x), length(y)) - 1
  ratio <- stats::var(x) / stats::var(y)
  if (!is.finite(ratio) || ratio <= 0) stop_data("Both groups must vary.", class = "outcome_constant")
  below <- stats::pf(ratio, df[1], df[2])
  p <- switch(alternative, two_sided = 2 * min(below, 1 - below), greater = stats::pf(ratio, df[1], df[2], lower.tail = FALSE), less = below)
  tail <- (1 - conf_level) / 2
  list(statistic = ratio, df1 = df[1], df2 = df[2], p_value = p, estimate = ratio, ci_low = ratio / stats::qf(1 - tail, df[1], df[2]),
       ci_high = ratio / stats::qf(tail, df[1], df[2]), n = length(x) + length(y))
}

#' Shapiro-Wilk test of normality, 3 to 5,000 values
#' @section Shape: `statistic` (W), `p_value`, `n`.
#' @section Source: Royston, P. (1995). Remark AS R94. Applied Statistics 44, 547-551.
#' @noRd
stat_shapiro_wilk <- function(x) {
  x <- sort(x)
  n <- length(x)
  if (n < 3) stop_data("A test of normality needs at least three values.", class = "too_few_rows")
  if (n > 5000) stop_data("The Shapiro-Wilk test is defined for up to 5,000 values.",
      todo = "Use the Anderson-Darling test, or look at the distribution.",
                          class = "too_many_rows")
  if (x[n] - x[1] <= 0) stop_data("All values are the same, so there is no shape to test.", class = "outcome_constant")
  a <- shapiro_weights(n)
  centred <- x - mean(x)
  w <- sum(a * centred)^2 / sum(centred^2)
  list(statistic = min(1, w), p_value = shapiro_p(w, n), n = n)
}

shapiro_weights <- function(n) {
  if (n == 3) return(c(-sqrt(0.5), 0, sqrt(0.5)))
  half <- n %/% 2
  m <- stats::qnorm((seq_len(half) - 0.375) / (n + 0.25))
  norm <- 2 * sum(m^2)
  u <- 1 / sqrt(n)
  poly <- function(coefficients, value) sum(coefficients * value^(seq_along(coefficients) - 1))
  first <- poly(c(0, 0.221157, -0.147981, -2.071190, 4.434685, -2.706056), u) - m[1] / sqrt(norm)
  if (n > 5) {
    second <- poly(c(0, 0.042981, -0.293762, -1.752461, 5.682633, -3.582633), u) - m[2] / sqrt(norm)
    scale <- sqrt((norm - 2 * m[1]^2 - 2 * m[2]^2) / (1 - 2 * first^2 - 2 * second^2))
    a <- c(first, second, -m[-(1:2)] / scale)
  } else {
    scale <- sqrt((norm - 2 * m[1]^2) / (1 - 2 * first^2))
    a <- c(first, -m[-1] / scale)
  }
  c(-a, if (n %% 2) 0, rev(a))
}

shapiro_p <- function(w, n) {
  if (w >= 1) return(1)
  if (n == 3) return(max(0, 6 / pi * (asin(sqrt(w)) - asin(sqrt(0.75)))))
  poly <- function(coefficients, value) sum(coefficients * value^(seq_along(coefficients) - 1))
  y <- log1p(-w)
  if (n <= 11) {
    gamma <- -2.273 + 0.459 * n
    if (y >= gamma) return(1e-99)
    y <- -log(gamma - y)
    m <- poly(c(0.5440, -0.39978, 0.025054, -6.714e-4), n)
    s <- exp(poly(c(1.3822, -0.77857, 0.062767, -0.0020322), n))
  } else {
    u <- log(n)
    m <- poly(c(-1.5861, -0.31082, -0.083751, 0.0038915), u)
    s <- exp(poly(c(-0.4803, -0.082676, 0.0030302), u))
  }
  stats::pnorm(y, m, s, lower.tail = FALSE)
}

#' Anderson-Darling test of normality with mean and variance estimated
#' @section Shape: `statistic` (A squared), `adjusted` (for the sample size), `p_value`, `n`.
#' @section Source: Stephens, M. A. (1986) in D'Agostino and Stephens, Goodness-of-Fit Techniques, table 4.9.
#' @noRd
stat_anderson_darling <- function(x) {
  x <- sort(x)
  n <- length(x)
  if (n < 8) stop_data("The Anderson-Darling test needs at least eight values.", class = "too_few_rows")
  s <- stats::sd(x)
  if (s <= 0) stop_data("All values are the same, so there is no shape to test.", class = "outcome_constant")
  z <- (x - mean(x)) / s
  i <- seq_len(n)
  a <- -n - mean((2 * i - 1) * (stats::pnorm(z, log.p = TRUE) + stats::pnorm(rev(z), lower.tail = FALSE, log.p = TRUE)))
  adjusted <- a * (1 + 0.75 / n + 2.25 / n^2)
  p <- if (adjusted < 0.2) 1 - exp(-13.436 + 101.14 * adjusted - 223.73 * adjusted^2)
    else if (adjusted < 0.34) 1 - exp(-8.318 + 42.796 * adjusted - 59.938 * adjusted^2)
    else if (adjusted < 0.6) exp(0.9177 - 4.279 * adjusted - 1.38 * adjusted^2)
    else if (adjusted < 10) exp(1.2937 - 5.709 * adjusted + 0.0186 * adjusted^2) else 3.7e-24
  list(statistic = a, adjusted = adjusted, p_value = p, n = n)
}

#' Two-sample Kolmogorov-Smirnov test
#' @section Shape: `statistic` (D, largest distance of the two distribution functions), `p_value` (exact for up to 10,000 pairs of values,
#'   also with ties; else asymptotic), `exact`, `n`.
#' @section Source: Schroer, G. and Trenkler, D. (1995). Computational Statistics and Data Analysis 20, 185-202 (exact with ties).
#' @noRd
stat_kolmogorov_smirnov <- function(x, y) {
  m <- length(x); n <- length(y)
  values <- sort(unique(c(x, y)))
  fx <- cumsum(tabulate(match(x, values), length(values))) / m
  fy <- cumsum(tabulate(match(y, values), length(values))) / n
  d <- max(abs(fx - fy))
  exact <- m * n <= 10000
  p <- if (exact) smirnov_exact(d, m, n, sort(c(x, y))) else smirnov_limit(d * sqrt(m * n / (m + n)))
  list(statistic = d, p_value = min(1, max(0, p)), exact = exact, n = m + n)
}

#' Share of the orders of the pooled sample in which the distance reaches d, counted along the lattice of (i, j) seen so far
#' @noRd
smirnov_exact <- function(d, m, n, pooled) {
  # the distance counts only where the pooled sample steps to a new value
  steps <- c(diff(pooled) != 0, TRUE)
  q <- (0.5 + floor(d * m * n - 1e-7)) / (m * n)
  inside <- function(i, j) abs(i / m - j / n) < q | c(TRUE, steps)[i + j + 1] == FALSE
  row <- c(1, numeric(n))
  for (j in seq_len(n)) row[j + 1] <- if (inside(0, j)) row[j] else 0
  for (i in seq_len(m)) {
    w <- i / (i + n)
    row[1] <- if (inside(i, 0)) w * row[1] else 0
    for (j in seq_len(n)) row[j + 1] <- if (inside(i, j)) w * row[j + 1] + row[j] else 0
  }
  1 - row[n + 1]
}

smirnov_limit <- function(z) {
  if (z < 0.2) return(1)
  k <- seq_len(100)
  2 * sum((-1)^(k - 1) * exp(-2 * k^2 * z^2))
}

#' D'Agostino's omnibus test of skewness and kurtosis
#' @section Shape: `statistic` (K squared), `df` (2), `p_value`, `z_skewness`, `z_kurtosis`, `n`.
#' @section Errors: `too_few_rows` under 20 values, where the approximation of the kurtosis fails.
#' @section Source: D'Agostino, R. B. (1970). Biometrika 57, 679-681; Anscombe, F. J. and Glynn, W. J. (1983). Biometrika 70, 227-234;
#'   D'Agostino, R. B., Belanger, A.
#'   and D'Agostino, R. B. Jr. (1990). The American Statistician 44, 316-321.
#' @noRd
stat_dagostino <- function(x) {
  n <- length(x)
  if (n < 20) stop_data("D'Agostino's test needs at least 20 values.", class = "too_few_rows")
  d <- x - mean(x)
  m2 <- mean(d^2)
  need_spread(m2)
  skew <- mean(d^3) / m2^1.5; kurt <- mean(d^4) / m2^2
  y <- skew * sqrt((n + 1) * (n + 3) / (6 * (n - 2)))
  b2 <- 3 * (n^2 + 27 * n - 70) * (n + 1) * (n + 3) / ((n - 2) * (n + 5) * (n + 7) * (n + 9))
  w2 <- sqrt(2 * (b2 - 1)) - 1
  z1 <- asinh(y / sqrt(2 / (w2 - 1))) / sqrt(log(sqrt(w2)))
  mean2 <- 3 * (n - 1) / (n + 1)
  var2 <- 24 * n * (n - 2) * (n - 3) / ((n + 1)^2 * (n + 3) * (n + 5))
  k <- (kurt - mean2) / sqrt(var2)
  root <- 6 * (n^2 - 5 * n + 2) / ((n + 7) * (n + 9)) * sqrt(6 * (n + 3) * (n + 5) / (n * (n - 2) * (n - 3)))
  a <- 6 + 8 / root * (2 / root + sqrt(1 + 4 / root^2))
  inner <- (1 - 2 / a) / (1 + k * sqrt(2 / (a - 4)))
  z2 <- (1 - 2 / (9 * a) - sign(inner) * abs(inner)^(1 / 3)) / sqrt(2 / (9 * a))
  list(statistic = z1^2 + z2^2, df = 2, p_value = stats::pchisq(z1^2 + z2^2, 2, lower.tail = FALSE), z_skewness = z1, z_kurtosis = z2, n = n)
}
