# Counts against expected shares, exactly.

#' Exact multinomial test of counts against shares
#'
#' The chance of all tables of so many rows that are no likelier than the one seen. All of them are counted where they are few; else it is
#' taken from random tables.
#' @param counts Counts of the levels. @param shares Numbers in the proportion of what is expected, above zero.
#' @param most Tables that are counted through at most. @param draws Random tables beyond that.
#' @section Shape: `p_value`, `exact`, `tables` (counted or drawn), `n`.
#' @section Source: Cressie, N. and Read, T. R. C. (1984). JRSS B 46, 440-464; random tables: Phipson, B. and Smyth, G. K. (2010).
#' @noRd
stat_multinomial_exact <- function(counts, shares = rep(1, length(counts)), seed = 1L, most = 200000, draws = 9999L) {
  shares <- shares / sum(shares)
  if (any(shares <= 0)) stop_data("Every level needs an expected share above zero.", class = "bad_null")
  n <- sum(counts); k <- length(counts)
  if (k < 2) stop_data("There is only one level, so there is nothing to compare.", class = "one_group")
  log_chance <- function(m) drop(m %*% log(shares)) - rowSums(matrix(lfactorial(m), nrow(m)))
  seen <- log_chance(rbind(counts))
  if (choose(n + k - 1, k - 1) <= most) {
    tables <- compositions(n, k)
    chance <- log_chance(tables)
    p <- sum(exp(lfactorial(n) + chance[chance <= seen + 1e-7]))
    return(list(p_value = min(1, p), exact = TRUE, tables = nrow(tables), n = n))
  }
  drawn <- with_recorded_seed(seed, t(stats::rmultinom(draws, n, shares)))
  list(p_value = (sum(log_chance(drawn) <= seen + 1e-7) + 1) / (draws + 1), exact = FALSE, tables = draws, n = n)
}

#' All ways to spread n rows over k levels, one a row
#' @noRd
compositions <- function(n, k) {
  if (k == 1) return(matrix(n, 1, 1))
  bars <- utils::combn(n + k - 1, k - 1)
  edges <- rbind(0, bars, n + k)
  unname(t(diff(edges) - 1))
}
