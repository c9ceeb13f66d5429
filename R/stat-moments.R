# Moments, quantiles and summaries of one column, whole or by group.

#' Group moments
#'
#' @param x Doubles, integers or logicals; missing values are counted and skipped.
#' @param code Integer codes 1..groups, or NULL for one group; other codes are left out.
#' @section Shape: Matrix, one row a group: n, missing, mean, m2, m3, m4 (sums of powers about the mean), min, max.
#' @section Source: Pebay, P. (2008). Sandia report SAND2008-6212.
#' @noRd
stat_group_moments <- function(x, code = NULL, groups = 1L) {
  if (!is.double(x) && !is.integer(x) && !is.logical(x)) x <- as.double(x)
  kernel_group_moments(x, code, as.integer(groups), thread_count())
}

#' Merge the moments of parts into the moments of the whole
#'
#' @param states Matrix as [stat_group_moments()] returns, one row a part.
#' @section Source: Pebay (2008), equations 2.1 to 3.1.
#' @noRd
stat_merge_moments <- function(states) {
  states <- states[states[, "n"] > 0, , drop = FALSE]
  if (nrow(states) == 0) return(c(n = 0, mean = NA_real_, m2 = 0))
  n <- sum(states[, "n"])
  mean <- states[1, "mean"] + sum(states[, "n"] * (states[, "mean"] - states[1, "mean"])) / n
  c(n = n, mean = unname(mean), m2 = sum(states[, "m2"] + states[, "n"] * (states[, "mean"] - mean)^2))
}

sd_from_moments <- function(m) ifelse(m[, "n"] > 1, sqrt(m[, "m2"] / (m[, "n"] - 1)), NA_real_)

#' Bias-corrected sample skewness G1 and excess kurtosis G2
#'
#' @section Source: Joanes, D. N. and Gill, C. A. (1998). The Statistician 47, 183-189.
#' @noRd
skewness_from_moments <- function(m) {
  n <- m[, "n"]
  g1 <- sqrt(n) * m[, "m3"] / m[, "m2"]^1.5
  ifelse(n > 2 & m[, "m2"] > 0, g1 * sqrt(n * (n - 1)) / (n - 2), NA_real_)
}

kurtosis_from_moments <- function(m) {
  n <- m[, "n"]
  g2 <- n * m[, "m4"] / m[, "m2"]^2 - 3
  ifelse(n > 3 & m[, "m2"] > 0, (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * g2 + 6), NA_real_)
}

#' Quantiles by group, definition 7 of Hyndman and Fan (1996)
#' @noRd
stat_group_quantiles <- function(x, code = NULL, groups = 1L, probs = c(0.25, 0.5, 0.75)) {
  kernel_group_quantiles(as.double(x), code, as.integer(groups), as.double(probs), thread_count())
}

#' Summaries of a numeric column by group
#'
#' @param x Numbers in the unit of the outcome, missing allowed.
#' @param code Integer codes 1..groups or NULL.
#' @section Shape: Data frame, one row a group: n, missing, mean, sd, se, median, q1, q3, min, max, sum, skewness,
#'   kurtosis.
#' @section Units: All but n, missing, skewness and kurtosis are in the unit of `x`.
#' @noRd
stat_group_summary <- function(x, code = NULL, groups = 1L) {
  m <- stat_group_moments(x, code, groups)
  q <- stat_group_quantiles(x, code, groups)
  sd <- sd_from_moments(m)
  data.frame(
    n = m[, "n"], missing = m[, "missing"], mean = m[, "mean"], sd = sd, se = sd / sqrt(m[, "n"]),
    median = q[, 2], q1 = q[, 1], q3 = q[, 3], min = m[, "min"], max = m[, "max"],
    sum = ifelse(m[, "n"] > 0, m[, "mean"] * m[, "n"], 0),
    skewness = skewness_from_moments(m), kurtosis = kurtosis_from_moments(m)
  )
}

#' Mean with its t interval
#' @noRd
stat_mean_interval <- function(mean, sd, n, conf_level = 0.95) {
  if (is.na(sd) || n < 2) return(c(low = NA_real_, high = NA_real_))
  half <- stats::qt(1 - (1 - conf_level) / 2, n - 1) * sd / sqrt(n)
  c(low = mean - half, high = mean + half)
}

#' Median with a distribution-free interval from order statistics
#'
#' @section Source: Conover, W. J. (1999). Practical Nonparametric Statistics, 3rd ed., section 3.2.
#' @noRd
stat_median_interval <- function(x, conf_level = 0.95) {
  x <- sort(x)
  n <- length(x)
  k <- stats::qbinom((1 - conf_level) / 2, n, 0.5)
  if (n < 6 || k < 1) return(c(low = NA_real_, high = NA_real_))
  c(low = x[k], high = x[n - k + 1])
}

#' Weighted mean with a design-based standard error (weights as sampling weights, with replacement)
#'
#' @section Source: Lumley, T. (2010). Complex Surveys, section 2.2 (ratio linearisation).
#' @noRd
stat_weighted_mean <- function(x, w, conf_level = 0.95) {
  ok <- !is.na(x) & !is.na(w) & w > 0
  m <- kernel_weighted_moments(as.double(x), as.double(w))
  n <- m[["n"]]
  residual <- w[ok] * (x[ok] - m[["mean"]]) / m[["weight"]]
  se <- if (n > 1) sqrt(n / (n - 1) * sum(residual^2)) else NA_real_
  half <- if (n > 1) stats::qt(1 - (1 - conf_level) / 2, n - 1) * se else NA_real_
  list(estimate = m[["mean"]], se = se, ci_low = m[["mean"]] - half, ci_high = m[["mean"]] + half, n = n,
       weight = m[["weight"]], effective_n = m[["weight"]]^2 / m[["weight_squared"]])
}
