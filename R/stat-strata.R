# Tables of any size in strata.

#' Generalised Cochran-Mantel-Haenszel test of general association
#'
#' @param counts Array rows x columns x strata.
#' @section Shape: `statistic` (chi-square), `df` ((rows - 1)(columns - 1)), `p_value`, `n`, `strata` used (those with two rows or more).
#' @section Source: Landis, J. R., Heyman, E. R. and Koch, G. G. (1978). International Statistical Review 46, 237-254.
#' @noRd
stat_mantel_haenszel_general <- function(counts) {
  totals <- apply(counts, 3, sum)
  counts <- counts[, , totals > 1, drop = FALSE]
  # rows and columns that hold nothing in any stratum test nothing
  counts <- counts[apply(counts, 1, sum) > 0, apply(counts, 2, sum) > 0, , drop = FALSE]
  r <- dim(counts)[1] - 1; k <- dim(counts)[2] - 1
  if (r < 1 || k < 1 || !dim(counts)[3]) stop_data("No stratum holds two levels of both columns.", class = "outcome_constant")
  gap <- numeric(r * k); spread <- matrix(0, r * k, r * k)
  for (h in seq_len(dim(counts)[3])) {
    table <- matrix(counts[, , h], r + 1)
    n <- sum(table)
    p <- rowSums(table)[seq_len(r)] / n; q <- colSums(table)[seq_len(k)] / n
    gap <- gap + as.vector(table[seq_len(r), seq_len(k)]) - n * as.vector(outer(p, q))
    spread <- spread + n^2 / (n - 1) * kronecker(diag(q, k) - outer(q, q), diag(p, r) - outer(p, p))
  }
  if (qr(spread)$rank < r * k) stop_data("The strata hold too few combinations of levels for this test.", class = "too_few_rows")
  statistic <- drop(gap %*% solve(spread, gap))
  list(statistic = statistic, df = r * k, p_value = stats::pchisq(statistic, r * k, lower.tail = FALSE), n = sum(counts), strata = dim(counts)[3])
}
