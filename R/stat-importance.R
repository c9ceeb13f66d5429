# The explained spread divided over the columns that explain it.

#' R squared divided over blocks of columns, averaged over all orders of entry
#'
#' @param blocks Named list of matrices (one a predictor; a factor's indicators stay together). @param y Outcome.
#' @param exact_to Largest number of blocks for which every subset is fitted; beyond, orders are drawn with the seed.
#' @section Shape: list(share = named, summing to r_squared, r_squared, orders (NA if exact), n).
#' @section Source: Lindeman, R. H., Merenda, P. F. and Gold, R. Z. (1980). Introduction to Bivariate and Multivariate Analysis; Kruskal, W.
#'   (1987). The American
#'   Statistician 41, 6-10.
#' @noRd
stat_importance <- function(blocks, y, seed = 20240501, exact_to = 12L, draws = 1000L) {
  k <- length(blocks)
  x <- do.call(cbind, blocks)
  of <- rep(seq_len(k), vapply(blocks, ncol, 1L))
  if (length(y) <= ncol(x) + 1) stop_data(sprintf("%d coefficients need more than %d complete rows.", ncol(x) + 1L, length(y)),
    class = "too_few_rows")
  x <- sweep(x, 2, colMeans(x)); x <- sweep(x, 2, pmax(sqrt(colSums(x^2)), 1e-300), "/")
  y <- y - mean(y); total <- sum(y^2)
  if (total <= 0) stop_data("The outcome does not vary in these rows.", class = "outcome_constant")
  xx <- crossprod(x); xy <- drop(crossprod(x, y))
  explained <- function(blocks_in) {
    at <- which(of %in% blocks_in)
    if (!length(at)) return(0)
    q <- qr(xx[at, at, drop = FALSE], tol = 1e-9)
    keep <- q$pivot[seq_len(q$rank)]
    sum(xy[at[keep]] * solve(xx[at[keep], at[keep], drop = FALSE], xy[at[keep]])) / total
  }
  share <- if (k <= exact_to) shares_of_subsets(k, explained) else shares_of_orders(k, explained, seed, draws)
  list(share = stats::setNames(share, names(blocks)), r_squared = explained(seq_len(k)), orders = if (k <= exact_to) NA_real_ else draws,
    n = length(y))
}

#' Exact: every subset once
#' @noRd
shares_of_subsets <- function(k, explained) {
  value <- vapply(seq_len(2^k) - 1, function(code) explained(which(bitwAnd(code, 2^(seq_len(k) - 1)) > 0)), 1)
  size <- vapply(seq_len(2^k) - 1, function(code) sum(bitwAnd(code, 2^(seq_len(k) - 1)) > 0), 1)
  vapply(seq_len(k), function(j) {
    without <- which(bitwAnd(seq_len(2^k) - 1, 2^(j - 1)) == 0)
    s <- size[without]
    sum(exp(lgamma(s + 1) + lgamma(k - s) - lgamma(k + 1)) * (value[without + 2^(j - 1)] - value[without]))
  }, 1)
}

#' Sampled: orders of entry drawn with a seed, each with its reverse
#' @noRd
shares_of_orders <- function(k, explained, seed, draws) {
  orders <- with_recorded_seed(seed, lapply(seq_len(draws / 2), function(i) sample.int(k)))
  orders <- c(orders, lapply(orders, rev))
  total <- numeric(k)
  for (o in orders) { steps <- vapply(seq_along(o), function(i) explained(o[seq_len(i)]), 1); total[o] <- total[o] + diff(c(0, steps)) }
  total / length(orders)
}
