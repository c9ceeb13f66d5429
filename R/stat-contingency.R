# Tables of counts.

#' Cross-table of two coded columns
#' @noRd
stat_cross_counts <- function(a, b, levels_a, levels_b) {
  kernel_cross_counts(as.integer(a), as.integer(b), as.integer(levels_a), as.integer(levels_b), thread_count())
}

#' Wilson interval of a proportion
#' @section Source: Wilson, E. B. (1927). JASA 22, 209-212.
#' @noRd
stat_wilson <- function(x, n, conf_level = 0.95) {
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  p <- x / n
  middle <- (p + z^2 / (2 * n)) / (1 + z^2 / n)
  half <- z / (1 + z^2 / n) * sqrt(p * (1 - p) / n + z^2 / (4 * n^2))
  list(low = ifelse(x == 0, 0, middle - half), high = ifelse(x == n, 1, middle + half))
}

#' Chi-square test of independence
#'
#' @param counts Matrix of counts, rows and columns with positive totals, at least 2 x 2.
#' @section Shape: `statistic` (Pearson, without continuity correction), `df`, `p_value`, `n`, `cramers_v` with limits,
#'   `cramers_v_corrected` (without the upward bias of small tables), `expected`, `residuals` (adjusted standardised).
#' @section Source: Pearson, K. (1900). Philosophical Magazine 50, 157-175; Cramer, H. (1946); interval of V by
#'   inverting the noncentral chi-square distribution: Smithson, M. (2003). Confidence Intervals, ch. 4;
#'   bias correction: Bergsma, W. (2013). Journal of the Korean Statistical Society 42, 323-328; adjusted residuals: Haberman, S. J. (1973).
#'   Biometrics 29, 205-220.
#' @noRd
stat_chi_square <- function(counts, conf_level = 0.95) {
  counts <- drop_empty(counts)
  if (min(dim(counts)) < 2) stop_data("A test of independence needs at least two levels of each column.",
                                      class = "one_group")
  n <- sum(counts)
  rows <- rowSums(counts); columns <- colSums(counts)
  expected <- outer(rows, columns) / n
  statistic <- sum((counts - expected)^2 / expected)
  df <- (nrow(counts) - 1) * (ncol(counts) - 1)
  k <- min(dim(counts)) - 1
  limits <- sqrt(pmin(1, noncentral_chi_limits(statistic, df, conf_level) / (n * k)))
  adjusted <- (counts - expected) / sqrt(expected * outer(1 - rows / n, 1 - columns / n))
  list(statistic = statistic, df = df, p_value = stats::pchisq(statistic, df, lower.tail = FALSE), n = n,
       cramers_v = sqrt(statistic / (n * k)), cramers_v_low = limits[1], cramers_v_high = limits[2],
       cramers_v_corrected = corrected_v(statistic / n, dim(counts), n), expected = expected, residuals = adjusted)
}

corrected_v <- function(phi_squared, size, n) {
  if (n < 2) return(NA_real_)
  shrunk <- size - (size - 1)^2 / (n - 1)
  sqrt(max(0, phi_squared - prod(size - 1) / (n - 1)) / (min(shrunk) - 1))
}

drop_empty <- function(counts) counts[rowSums(counts) > 0, colSums(counts) > 0, drop = FALSE]

noncentral_chi_limits <- function(x, df, conf_level) {
  tail <- (1 - conf_level) / 2
  find <- function(p) {
    gap <- function(ncp) stats::pchisq(x, df, ncp) - p
    if (gap(0) < 0) return(0)
    stats::uniroot(gap, c(0, max(10, 4 * x + 10 * df)), extendInt = "downX", tol = 1e-10)$root
  }
  c(find(1 - tail), find(tail))
}

#' Effects of a 2 x 2 table
#'
#' @param counts 2 x 2: rows are groups, the first column counts the event.
#' @section Shape: risk_difference (Newcombe's hybrid score interval), risk_ratio (log-normal, Katz), odds_ratio (Woolf;
#'   0.5 is added to every cell where one is 0), each with _low and _high; `corrected` says whether 0.5 was added.
#' @section Source: Newcombe, R. G. (1998). Statistics in Medicine 17, 873-890 (method 10); Katz, D. et al. (1978).
#'   Biometrics 34, 469-474; Woolf, B. (1955). Annals of Human Genetics 19, 251-253.
#' @noRd
stat_two_by_two <- function(counts, conf_level = 0.95) {
  x <- counts[, 1]; n <- rowSums(counts)
  p <- x / n
  w <- stat_wilson(x, n, conf_level)
  d <- p[1] - p[2]
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  corrected <- any(counts == 0)
  cells <- counts + if (corrected) 0.5 else 0
  totals <- rowSums(cells)
  rr <- (cells[1, 1] / totals[1]) / (cells[2, 1] / totals[2])
  rr_se <- sqrt(1 / cells[1, 1] - 1 / totals[1] + 1 / cells[2, 1] - 1 / totals[2])
  or <- cells[1, 1] * cells[2, 2] / (cells[1, 2] * cells[2, 1])
  or_se <- sqrt(sum(1 / cells))
  out <- list(
    risk_difference = d,
    risk_difference_low = d - sqrt((p[1] - w$low[1])^2 + (w$high[2] - p[2])^2),
    risk_difference_high = d + sqrt((w$high[1] - p[1])^2 + (p[2] - w$low[2])^2),
    risk_ratio = rr, risk_ratio_low = rr * exp(-z * rr_se), risk_ratio_high = rr * exp(z * rr_se),
    odds_ratio = or, odds_ratio_low = or * exp(-z * or_se), odds_ratio_high = or * exp(z * or_se))
  c(lapply(out, unname), list(corrected = corrected))
}

#' Fisher's exact test of a 2 x 2 table
#'
#' @section Shape: `p_value` (two-sided: tables no more likely than the observed), `odds_ratio` (conditional maximum
#'   likelihood) with exact `_low`, `_high`, `n`.
#' @section Source: Fisher, R. A. (1935). JRSS 98, 39-82; Cornfield, J. (1956) for the exact interval.
#' @noRd
stat_fisher_two_by_two <- function(counts, conf_level = 0.95, alternative = "two_sided") {
  m <- sum(counts[, 1]); n <- sum(counts[, 2]); k <- sum(counts[1, ]); x <- counts[1, 1]
  support <- max(0, k - n):min(k, m)
  log_null <- stats::dhyper(support, m, n, k, log = TRUE)
  at <- function(or) {
    v <- log_null + log(or) * support
    v <- exp(v - max(v))
    v / sum(v)
  }
  prob <- at(1)
  p <- switch(alternative,
    two_sided = sum(prob[prob <= prob[match(x, support)] * (1 + 1e-7)]),
    greater = sum(prob[support >= x]), less = sum(prob[support <= x]))
  tail <- (1 - conf_level) / 2
  solve_or <- function(f) exp(stats::uniroot(function(l) f(exp(l)), c(-10, 10), extendInt = "yes", tol = 1e-13)$root)
  low <- if (x == min(support)) 0 else solve_or(function(or) sum(at(or)[support >= x]) - tail)
  high <- if (x == max(support)) Inf else solve_or(function(or) sum(at(or)[support <= x]) - tail)
  estimate <- if (x == min(support)) 0 else if (x == max(support)) Inf else solve_or(function(or) sum(support * at(or)) - x)
  list(p_value = min(1, p), odds_ratio = estimate, odds_ratio_low = low, odds_ratio_high = high, n = sum(counts))
}

#' Counts and shares of one column
#' @section Shape: Data frame: n, percent (of the valid), ci_low, ci_high (Wilson, percent).
#' @noRd
stat_shares <- function(counts, conf_level = 0.95, exact = FALSE) {
  total <- sum(counts)
  w <- stat_share_interval(counts, total, conf_level, exact)
  data.frame(n = counts, percent = 100 * counts / total, ci_low = 100 * w$low, ci_high = 100 * w$high)
}

#' Exact binomial test; two-sided: all counts no more likely than the observed
#' @section Source: Clopper, C. J. and Pearson, E. S. (1934). Biometrika 26, 404-413.
#' @noRd
stat_binomial_p <- function(x, n, p, alternative = "two_sided") {
  if (alternative == "greater") return(stats::pbinom(x - 1, n, p, lower.tail = FALSE))
  if (alternative == "less") return(stats::pbinom(x, n, p))
  d <- stats::dbinom(0:n, n, p)
  min(1, sum(d[d <= d[x + 1] * (1 + 1e-7)]))
}

#' Counts against expected shares, equal ones where none are given
#' @param shares Numbers in the proportion of what is expected. Sums are scaled to one.
#' @section Shape: `statistic`, `df`, `p_value`, `n`, `w` (Cohen's w).
#' @section Source: Pearson (1900); Cohen (1988), chapter 7, for w.
#' @noRd
stat_chi_square_goodness <- function(counts, shares = rep(1, length(counts))) {
  n <- sum(counts); k <- length(counts)
  expected <- n * shares / sum(shares)
  statistic <- sum((counts - expected)^2 / expected)
  list(expected = expected, statistic = statistic, df = k - 1, p_value = stats::pchisq(statistic, k - 1, lower.tail = FALSE), n = n,
       w = sqrt(statistic / n))
}
