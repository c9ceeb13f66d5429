# Smooth curves.

#' Natural cubic spline basis with inner knots at quantiles
#' @section Source: Hastie, T., Tibshirani, R. and Friedman, J. (2009). The Elements of Statistical Learning, equations 5.4 and 5.5.
#' @noRd
natural_spline <- function(x, df = 4L, at = x) {
  knots <- unique(c(min(x), as.vector(stat_group_quantiles(x, probs = seq_len(df - 1) / df)), max(x)))
  k <- length(knots)
  if (k < 3) return(cbind(at))
  cube <- function(v) pmax(v, 0)^3
  d <- function(j) (cube(at - knots[j]) - cube(at - knots[k])) / (knots[k] - knots[j])
  cbind(at, vapply(seq_len(k - 2), function(j) d(j) - d(k - 1), numeric(length(at))))
}
