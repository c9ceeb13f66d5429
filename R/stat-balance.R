# How alike groups are before anything is compared.

#' Standardised difference of two groups in a measured column
#' @section Source: Austin, P. C. (2009). Statistics in Medicine 28, 3083-3107.
#' @noRd
standardised_difference <- function(x, y) {
  if (length(x) < 2 || length(y) < 2) return(NA_real_)
  spread <- sqrt((stats::var(x) + stats::var(y)) / 2)
  if (spread > 0) (mean(x) - mean(y)) / spread else if (mean(x) == mean(y)) 0 else NA_real_
}

#' Standardised difference of two groups in a column of levels, from their counts
#' @section Source: Yang, D. and Dalton, J. E. (2012). A unified approach to measuring the effect size between two groups using SAS. SAS Global
#'   Forum, paper 335.
#' @noRd
standardised_shares <- function(a, b) {
  if (sum(a) < 1 || sum(b) < 1) return(NA_real_)
  p <- (a / sum(a))[-1]; q <- (b / sum(b))[-1]
  keep <- p + q > 0
  p <- p[keep]; q <- q[keep]
  if (!length(p)) return(0)
  s <- (diag(p, length(p)) - p %o% p + diag(q, length(q)) - q %o% q) / 2
  value <- tryCatch(sqrt(drop((p - q) %*% solve(s, p - q))), error = function(e) NA_real_)
  if (all(abs(p - q) < 1e-15)) 0 else value
}

#' The largest standardised difference between any two groups, without its sign
#' @noRd
largest_difference <- function(parts, compute) {
  pairs <- utils::combn(length(parts), 2)
  values <- abs(apply(pairs, 2, function(k) compute(parts[[k[1]]], parts[[k[2]]])))
  if (all(is.na(values))) NA_real_ else max(values, na.rm = TRUE)
}
