# Correlation of two columns.

#' Pearson correlation
#'
#' @param x,y Doubles of one length without missing values, at least 3.
#' @section Shape: `estimate` (r), `statistic` (t), `df`, `p_value`, `ci_low`, `ci_high`, `n`, `slope`, `intercept`.
#' @section Source: Fisher, R. A. (1921). Metron 1, 3-32 (z transformation for the interval).
#' @noRd
stat_pearson <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  n <- length(x)
  if (n < 3) stop_data("A correlation needs at least three complete rows.", sprintf("There are %d.", n),
                       class = "too_few_rows")
  mx <- stat_group_moments(x); my <- stat_group_moments(y)
  need_spread(mx[, "m2"]); need_spread(my[, "m2"])
  dx <- x - mx[, "mean"]; dy <- y - my[, "mean"]
  r <- sum(dx / sqrt(mx[, "m2"]) * (dy / sqrt(my[, "m2"])))
  r <- max(-1, min(1, r))
  slope <- sum(dx * dy) / mx[, "m2"]
  out <- correlation_result(r, n, conf_level, alternative)
  c(out, list(slope = unname(slope), intercept = unname(my[, "mean"] - slope * mx[, "mean"])))
}

#' t test and Fisher-z interval of a correlation
#' @param lost Further columns held constant (partial correlation), which cost degrees of freedom.
#' @noRd
correlation_result <- function(r, n, conf_level, alternative, lost = 0) {
  df <- n - 2 - lost
  t <- if (abs(r) >= 1) sign(r) * Inf else r * sqrt(df / (1 - r^2))
  p <- switch(alternative, two_sided = 2 * stats::pt(abs(t), df, lower.tail = FALSE),
              greater = stats::pt(t, df, lower.tail = FALSE), less = stats::pt(t, df))
  limits <- c(NA_real_, NA_real_)
  if (n - lost > 3) limits <- fisher_z_limits(r, 1 / sqrt(n - lost - 3), conf_level, alternative)
  list(estimate = unname(r), statistic = unname(t), df = df, p_value = unname(p), ci_low = limits[1],
       ci_high = limits[2], n = n)
}

fisher_z_limits <- function(r, se, conf_level, alternative = "two_sided") {
  z <- atanh(r)
  half <- stats::qnorm(1 - (1 - conf_level) / if (alternative == "two_sided") 2 else 1) * se
  c(if (alternative == "less") -1 else tanh(z - half), if (alternative == "greater") 1 else tanh(z + half))
}

#' Spearman rank correlation
#'
#' The p value is exact by enumeration of all orders up to n = 9 (ties included), then from the t approximation on
#' midranks. The interval is Fisher's z with the variance of Bonett and Wright.
#' @section Source: Spearman, C. (1904). American Journal of Psychology 15, 72-101; Bonett, D. G. and Wright, T. A.
#'   (2000). Psychometrika 65, 23-28.
#' @noRd
stat_spearman <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  n <- length(x)
  if (n < 3) stop_data("A correlation needs at least three complete rows.", sprintf("There are %d.", n),
                       class = "too_few_rows")
  rx <- stat_midranks(x)$rank; ry <- stat_midranks(y)$rank
  base <- stat_pearson(rx, ry, conf_level, alternative)
  exact <- n <= 9
  if (exact) base$p_value <- spearman_exact_p(rx, ry, alternative)
  if (n > 3) {
    limits <- fisher_z_limits(base$estimate, sqrt((1 + base$estimate^2 / 2) / (n - 3)), conf_level, alternative)
    base$ci_low <- limits[1]; base$ci_high <- limits[2]
  }
  c(base[c("estimate", "statistic", "df", "p_value", "ci_low", "ci_high", "n")], list(exact = exact))
}

spearman_exact_p <- function(rx, ry, alternative) {
  products <- permuted_products(rx, ry)
  observed <- sum(rx * ry)
  middle <- sum(rx) * sum(ry) / length(rx)
  slack <- 1e-9 * max(1, abs(observed))
  switch(alternative,
    two_sided = mean(abs(products - middle) >= abs(observed - middle) - slack),
    greater = mean(products >= observed - slack),
    less = mean(products <= observed + slack))
}

#' Sum of products for every order of b: n! values, built one position at a time
#' @noRd
permuted_products <- function(a, b) {
  if (length(a) == 1) return(a * b)
  unlist(lapply(seq_along(b), function(j) a[1] * b[j] + permuted_products(a[-1], b[-j])), use.names = FALSE)
}
