# Where a series changes its level.

#' Points at which the mean of a series shifts
#'
#' @param x Values in the order of time. @param most Largest number of shifts. @param least Fewest values between two.
#' @section Shape: list(starts = first positions of the stretches after the first, means, penalty, cost, cost_without, n).
#' @section Source: Killick, R., Fearnhead, P. and Eckley, I. A. (2012). JASA 107, 1590-1598 (optimal partitioning, pruned); penalty 3 log n
#'   times the variance of
#'   the differences of neighbours: Yao, Y.-C. (1988). Statistics & Probability Letters 6, 181-189.
#' @noRd
stat_change_points <- function(x, least = max(3L, ceiling(length(x) / 50))) {
  n <- length(x)
  if (n < 12) stop_data("A search for shifts needs at least 12 values in time.", class = "too_few_rows")
  spread <- stats::mad(diff(x)) / sqrt(2)
  if (spread <= 0) spread <- stats::sd(diff(x)) / sqrt(2)
  if (!is.finite(spread) || spread <= 0) stop_data("The values do not vary.", class = "outcome_constant")
  z <- x - mean(x)
  s1 <- c(0, cumsum(z)); s2 <- c(0, cumsum(z^2))
  cost <- function(from, to) s2[to + 1] - s2[from] - (s1[to + 1] - s1[from])^2 / (to - from + 1)
  penalty <- 3 * log(n) * spread^2
  best <- c(-penalty, rep(Inf, n)); previous <- integer(n)
  for (to in least:n) {
    from <- c(1L, if (to >= 2 * least) (least + 1L):(to - least + 1L))
    total <- best[from] + cost(from, to) + penalty
    k <- which.min(total)
    best[to + 1] <- total[k]; previous[to] <- from[k]
  }
  starts <- integer(); at <- n
  while (previous[at] > 1) { starts <- c(previous[at], starts); at <- previous[at] - 1L }
  edges <- c(1L, starts, n + 1L)
  means <- vapply(seq_len(length(edges) - 1), function(i) mean(x[edges[i]:(edges[i + 1] - 1)]), 1)
  list(starts = starts, means = means, edges = edges, penalty = penalty, cost = sum(vapply(seq_along(means), function(i) cost(edges[i], edges[i +
    1] - 1), 1)), cost_without = cost(1, n), n = n, spread = spread)
}
