# Agreement of raters beyond chance by Gwet's coefficients.

#' Gwet's agreement coefficient AC1, or AC2 where weights credit near misses
#'
#' @param codes Matrix of level numbers (1 to `levels`), a row a subject, a column a rater, without missing values.
#' @param levels Number of levels. @param weights "none" or "quadratic".
#' @section Shape: `kappa` (the coefficient), `se`, `statistic` (t), `df`, `p_value`, `kappa_low`, `kappa_high`, `agreement` (share of pairs of
#'   ratings that are the same), `credited`, `expected`, `n`.
#' @section Source: Gwet, K. L. (2008). British Journal of Mathematical and Statistical Psychology 61, 29-48; Gwet, K. L. (2014). Handbook of
#'   Inter-Rater Reliability (4th ed.), chapter 4 (weights).
#' @noRd
stat_gwet <- function(codes, levels, weights = "none", conf_level = 0.95) {
  n <- nrow(codes); r <- ncol(codes)
  if (n < 3) stop_data("Agreement needs at least three subjects.", sprintf("There are %d.", n), class = "too_few_rows")
  apart <- abs(outer(seq_len(levels), seq_len(levels), "-"))
  w <- if (weights == "quadratic") 1 - (apart / (levels - 1))^2 else (apart == 0) * 1
  counts <- matrix(0, n, levels)
  for (j in seq_len(r)) counts[cbind(seq_len(n), codes[, j])] <- counts[cbind(seq_len(n), codes[, j])] + 1
  alike <- function(w) rowSums(counts * (counts %*% w - 1)) / (r * (r - 1))
  own <- alike(w)
  share <- colMeans(counts) / r
  scale <- sum(w) / (levels * (levels - 1))
  expected <- scale * sum(share * (1 - share))
  value <- (mean(own) - expected) / (1 - expected)
  by_chance <- scale * drop(counts %*% (1 - share)) / r
  part <- (own - expected) / (1 - expected) - 2 * (1 - value) * (by_chance - expected) / (1 - expected)
  se <- sqrt(sum((part - value)^2) / (n * (n - 1)))
  t <- value / se
  half <- stats::qt(1 - (1 - conf_level) / 2, n - 1) * se
  list(kappa = value, se = se, statistic = t, df = n - 1, p_value = 2 * stats::pt(-abs(t), n - 1), kappa_low = value - half,
       kappa_high = min(1, value + half), agreement = mean(alike(diag(levels))), credited = mean(own), expected = expected, n = n)
}
