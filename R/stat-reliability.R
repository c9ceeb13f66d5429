# Scales of several items.

#' Cronbach's alpha of a set of items
#'
#' @param items Matrix, one row a person, one column an item, no missing values.
#' @section Shape: `alpha` with `alpha_low`, `alpha_high`, `n`, `k`, `standardised`, `mean_r` (mean inter-item
#'   correlation), and `items`
#'   (data frame: item_rest (corrected item-total correlation), alpha_without, mean, sd).
#' @section Source: Cronbach, L. J. (1951). Psychometrika 16, 297-334; interval: Feldt, L. S. (1965). Psychometrika
#'   30, 357-370.
#' @noRd
stat_cronbach_alpha <- function(items, conf_level = 0.95) {
  n <- nrow(items); k <- ncol(items)
  if (n < 3) stop_data("A scale needs at least three complete rows.", class = "too_few_rows")
  centred <- sweep(items, 2, colMeans(items))
  covariance <- crossprod(centred) / (n - 1)
  if (any(diag(covariance) <= 0)) stop_data("An item does not vary, so it cannot be part of a scale.",
                                            class = "outcome_constant")
  alpha <- alpha_of(covariance)
  tail <- (1 - conf_level) / 2
  df1 <- n - 1; df2 <- (n - 1) * (k - 1)
  correlation <- covariance / sqrt(outer(diag(covariance), diag(covariance)))
  mean_r <- mean(correlation[upper.tri(correlation)])
  list(alpha = alpha, alpha_low = 1 - (1 - alpha) * stats::qf(1 - tail, df1, df2),
       alpha_high = 1 - (1 - alpha) * stats::qf(tail, df1, df2),
       n = n, k = k, standardised = k * mean_r / (1 + (k - 1) * mean_r), mean_r = mean_r,
       items = data.frame(item_rest = item_rest(covariance),
                          alpha_without = vapply(seq_len(k), function(j) if (k > 2) alpha_of(covariance[-j, -j,
                              drop = FALSE]) else NA_real_, 1),
                          mean = colMeans(items), sd = sqrt(diag(covariance))))
}

alpha_of <- function(covariance) {
  k <- ncol(covariance)
  k / (k - 1) * (1 - sum(diag(covariance)) / sum(covariance))
}

#' Correlation of each item with the sum of the others
#' @noRd
item_rest <- function(covariance) {
  with_total <- rowSums(covariance) - diag(covariance)
  rest <- sum(covariance) - 2 * rowSums(covariance) + diag(covariance)
  with_total / sqrt(diag(covariance) * rest)
}
