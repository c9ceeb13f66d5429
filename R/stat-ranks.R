# Rank methods for two independent groups.

#' Midranks
#' @section Shape: list(rank, ties): ranks sharing ties, and the tie sum of t^3 - t.
#' @noRd
stat_midranks <- function(x) kernel_midranks(as.double(x))

#' Mann-Whitney test, exact with ties
#'
#' @param x,y Doubles without missing values, at least one each.
#' @param exact_to Largest group size for which the exact conditional distribution is enumerated.
#' @section Shape: `statistic` (U of x: pairs in which x is larger, ties half), `p_value`, `exact`, `z`,
#'   `estimate` (Hodges-Lehmann shift) with `ci_low`, `ci_high`, `rank_biserial`, `superiority`, `n`.
#' @section Source: Mann, H. B. and Whitney, D. R. (1947); exact distribution with ties by the shift algorithm of
#'   Streitberg and Roehmel (1986); otherwise the normal approximation with tie and continuity correction.
#' @noRd
stat_mann_whitney <- function(x, y, conf_level = 0.95, alternative = "two_sided", exact_to = 49L) {
  m <- length(x); n <- length(y)
  if (min(m, n) < 1) stop_data("Each group needs at least one value.", class = "too_few_rows")
  ranks <- stat_midranks(c(x, y))
  u <- sum(ranks$rank[seq_len(m)]) - m * (m + 1) / 2
  exact <- max(m, n) <= exact_to
  p <- if (exact) rank_sum_exact_p(ranks$rank, m, u, alternative)
       else rank_sum_normal_p(u, m, n, ranks$ties, alternative)
  shift <- stat_hodges_lehmann(x, y, conf_level)
  c(list(statistic = u, p_value = p$p, exact = exact, z = rank_sum_normal_p(u, m, n, ranks$ties, alternative)$z,
         ties = ranks$ties > 0, rank_biserial = 2 * u / (m * n) - 1, superiority = u / (m * n), n = m + n), shift)
}

rank_sum_exact_p <- function(ranks, m, u, alternative) {
  scores <- as.integer(round(2 * ranks))
  few <- min(m, length(ranks) - m)
  prob <- kernel_subset_sums(scores, few)
  total <- length(ranks)
  sums <- (seq_along(prob) - 1) / 2
  # the distribution is that of the smaller group's rank sum; put it in terms of U of the first group
  values <- if (few == m) sums - m * (m + 1) / 2 else m * few - (sums - few * (few + 1) / 2)
  upper <- sum(prob[values >= u - 1e-9])
  lower <- sum(prob[values <= u + 1e-9])
  p <- switch(alternative, two_sided = min(1, 2 * min(upper, lower)), greater = upper, less = lower)
  stopifnot(total >= few)
  list(p = min(1, p))
}

rank_sum_normal_p <- function(u, m, n, ties, alternative) {
  total <- m + n
  spread <- sqrt(m * n / 12 * ((total + 1) - ties / (total * (total - 1))))
  if (!is.finite(spread) || spread == 0) {
    stop_data("All values are the same, so their ranks say nothing.", class = "outcome_constant")
  }
  d <- u - m * n / 2
  correction <- switch(alternative, two_sided = sign(d) * 0.5, greater = 0.5, less = -0.5)
  z <- (d - correction) / spread
  p <- switch(alternative, two_sided = 2 * stats::pnorm(abs(z), lower.tail = FALSE),
              greater = stats::pnorm(z, lower.tail = FALSE), less = stats::pnorm(z))
  list(p = min(1, p), z = z)
}

#' Hodges-Lehmann shift with its interval
#'
#' Median of all differences x - y; limits are the order statistics of those differences that the rank-sum
#' distribution names (exact up to 49 a group, normal beyond).
#' @section Source: Hodges, J. L. and Lehmann, E. L. (1963). Annals of Mathematical Statistics 34, 598-611.
#' @noRd
stat_hodges_lehmann <- function(x, y, conf_level = 0.95) {
  m <- length(x); n <- length(y)
  x <- sort(as.double(x)); y <- sort(as.double(y))
  pairs <- m * n
  middle <- if (pairs %% 2 == 1) rep((pairs + 1) / 2, 2) else c(pairs / 2, pairs / 2 + 1)
  tail <- (1 - conf_level) / 2
  k <- if (max(m, n) <= 49) stats::qwilcox(tail, m, n)
       else floor(pairs / 2 - stats::qnorm(1 - tail) * sqrt(pairs * (m + n + 1) / 12))
  k <- max(1, k)
  at <- kernel_kth_difference(x, y, c(middle, k, pairs - k + 1))
  list(estimate = mean(at[1:2]), ci_low = at[3], ci_high = at[4])
}
