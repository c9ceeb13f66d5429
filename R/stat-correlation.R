# Correlation of two columns.

#' Pearson correlation
#'
#' @param x,y Doubles of one length without missing values, at least 3.
#' @section Shape: `estimate` (r), `statistic` (t), `df`, `p_value`, `ci_low`, `ci_high`, `n`, `slope`, `intercept`.
#' @section Source: Fisher, R. A. (1921). Metron 1, 3-32 (z transformation for the interval).
#' @noRd
stat_pearson <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  n <- length(x)
  if (n < 3) stop_data("A correlation needs at least three complete rows.", sprintf("There are %d.", n),
                       class = "too_few_rows")
  mx <- stat_group_moments(x); my <- stat_group_moments(y)
  need_spread(mx[, "m2"]); need_spread(my[, "m2"])
  dx <- x - mx[, "mean"]; dy <- y - my[, "mean"]
  r <- sum(dx / sqrt(mx[, "m2"]) * (dy / sqrt(my[, "m2"])))
  # points on a line: what is left of 1 is rounding
  if (1 - abs(r) < 1e-14) r <- sign(r)
  slope <- sum(dx * dy) / mx[, "m2"]
  out <- correlation_result(r, n, conf_level, alternative)
  c(out, list(slope = unname(slope), intercept = unname(my[, "mean"] - slope * mx[, "mean"])))
}

#' Pearson correlations of many pairs of columns, each over the rows that both have
#'
#' @param columns List of doubles of one length, NA where missing.
#' @param pair Matrix of two rows, a column a pair: which columns.
#' @section Shape: list of results as of [stat_pearson()] (without its line), NULL where fewer than three rows or no spread.
#' @section Source: sums about a middle value of each column in one pass (Chan, Golub and LeVeque 1983); a pair whose own spread is
#'   so small beside that of its columns that digits would be lost is computed by itself.
#' @noRd
stat_pearson_pairs <- function(columns, pair, conf_level = 0.95) {
  middle <- vapply(columns, middle_of_some, 1)
  s <- kernel_pair_sums(lapply(columns, as.double), middle, thread_count())
  spread <- s$square - s$sum^2 / s$rows
  safe <- is.finite(spread) & spread > 1e-3 * s$square & spread > 0
  lapply(seq_len(ncol(pair)), function(k) {
    i <- pair[1, k]; j <- pair[2, k]
    n <- s$rows[i, j]
    if (n >= 1000 && safe[i, j] && safe[j, i]) {
      r <- (s$product[i, j] - s$sum[i, j] * (s$sum[j, i] / n)) / sqrt(spread[i, j]) / sqrt(spread[j, i])
      return(correlation_result(max(-1, min(1, if (1 - abs(r) < 1e-14) sign(r) else r)), n, conf_level, "two_sided"))
    }
    both <- !is.na(columns[[i]]) & !is.na(columns[[j]])
    tryCatch(stat_pearson(columns[[i]][both], columns[[j]][both], conf_level), upbeatquill_error_data = function(e) NULL)
  })
}

#' A value amid those of a column, from at most 2,000 of them
#' @noRd
middle_of_some <- function(x) {
  some <- x[unique(round(seq.int(1, length(x), length.out = min(length(x), 2000))))]
  if (all(is.na(some))) 0 else as.double(stats::median(some, na.rm = TRUE))
}

#' t test and Fisher-z interval of a correlation
#' @param lost Further columns held constant (partial correlation), which cost degrees of freedom.
#' @noRd
correlation_result <- function(r, n, conf_level, alternative, lost = 0) {
  df <- n - 2 - lost
  t <- if (abs(r) >= 1) sign(r) * Inf else r * sqrt(df / (1 - r^2))
  p <- switch(alternative, two_sided = 2 * stats::pt(abs(t), df, lower.tail = FALSE),
              greater = stats::pt(t, df, lower.tail = FALSE), less = stats::pt(t, df))
  limits <- c(NA_real_, NA_real_)
  if (n - lost > 3) limits <- fisher_z_limits(r, 1 / sqrt(n - lost - 3), conf_level, alternative)
  list(estimate = unname(r), statistic = unname(t), df = df, p_value = unname(p), ci_low = limits[1],
       ci_high = limits[2], n = n)
}

fisher_z_limits <- function(r, se, conf_level, alternative = "two_sided") {
  z <- atanh(r)
  half <- stats::qnorm(1 - (1 - conf_level) / if (alternative == "two_sided") 2 else 1) * se
  c(if (alternative == "less") -1 else tanh(z - half), if (alternative == "greater") 1 else tanh(z + half))
}

#' Spearman rank correlation
#'
#' The p value is exact by enumeration of all orders up to n = 9 (ties included), then from the t approximation on
#' midranks. The interval is Fisher's z with the variance of Bonett and Wright.
#' @section Source: Spearman, C. (1904). American Journal of Psychology 15, 72-101; Bonett, D. G. and Wright, T. A.
#'   (2000). Psychometrika 65, 23-28.
#' @noRd
stat_spearman <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  n <- length(x)
  if (n < 3) stop_data("A correlation needs at least three complete rows.", sprintf("There are %d.", n),
                       class = "too_few_rows")
  rx <- stat_midranks(x)$rank; ry <- stat_midranks(y)$rank
  base <- stat_pearson(rx, ry, conf_level, alternative)
  exact <- n <= 9
  if (exact) base$p_value <- spearman_exact_p(rx, ry, alternative)
  if (n > 3) {
    limits <- fisher_z_limits(base$estimate, sqrt((1 + base$estimate^2 / 2) / (n - 3)), conf_level, alternative)
    base$ci_low <- limits[1]; base$ci_high <- limits[2]
  }
  c(base[c("estimate", "statistic", "df", "p_value", "ci_low", "ci_high", "n")], list(exact = exact))
}

spearman_exact_p <- function(rx, ry, alternative) {
  products <- permuted_products(rx, ry)
  observed <- sum(rx * ry)
  middle <- sum(rx) * sum(ry) / length(rx)
  slack <- 1e-9 * max(1, abs(observed))
  switch(alternative,
    two_sided = mean(abs(products - middle) >= abs(observed - middle) - slack),
    greater = mean(products >= observed - slack),
    less = mean(products <= observed + slack))
}

#' Sum of products for every order of b: n! values, built one position at a time
#' @noRd
permuted_products <- function(a, b) {
  if (length(a) == 1) return(a * b)
  unlist(lapply(seq_along(b), function(j) a[1] * b[j] + permuted_products(a[-1], b[-j])), use.names = FALSE)
}

#' Kendall's tau-b
#'
#' Concordant and discordant pairs by merge sort, O(n log n). The p value is from the normal approximation with
#' ties; exact by
#' enumeration without ties up to n = 9.
#' @section Shape: `estimate` (tau-b), `statistic` (z), `p_value`, `ci_low`, `ci_high` (Fisher's z with the
#'   variance of Fieller,
#'   Hartley and Pearson), `n`, `exact`.
#' @section Source: Kendall, M. G. (1945). Biometrika 33, 239-251; Knight, W. R. (1966). JASA 61, 436-439; Fieller,
#'   E. C. et
#'   al. (1957). Biometrika 44, 470-481.
#' @noRd
stat_kendall <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  n <- length(x)
  if (n < 3) stop_data("A correlation needs at least three complete rows.", sprintf("There are %d.", n),
                       class = "too_few_rows")
  need_spread(stat_group_moments(x)[, "m2"]); need_spread(stat_group_moments(y)[, "m2"])
  k <- kernel_kendall(as.double(x), as.double(y))
  pairs <- n * (n - 1) / 2
  s <- k[["concordant"]] - k[["discordant"]]
  tau <- s / sqrt((pairs - k[["ties_x"]]) * (pairs - k[["ties_y"]]))
  z <- s / sqrt(kendall_variance(tie_sizes(x), tie_sizes(y), n))
  exact <- n <= 9 && k[["ties_x"]] == 0 && k[["ties_y"]] == 0
  p <- if (exact) kendall_exact_p(s, n, alternative)
    else switch(alternative, two_sided = 2 * stats::pnorm(abs(z), lower.tail = FALSE),
                greater = stats::pnorm(z, lower.tail = FALSE), less = stats::pnorm(z))
  limits <- if (n > 4) fisher_z_limits(tau, sqrt(0.437 / (n - 4)), conf_level, alternative) else c(NA_real_, NA_real_)
  list(estimate = tau, statistic = z, p_value = min(1, p), ci_low = limits[1], ci_high = limits[2], n = n,
       exact = exact)
}

tie_sizes <- function(x) { t <- tabulate(match(x, unique(x))); t[t > 1] }

#' Variance of the difference of concordant and discordant pairs under independence, ties included
#' @noRd
kendall_variance <- function(tx, ty, n) {
  part <- function(t, k) sum(switch(k, t * (t - 1), t * (t - 1) * (t - 2), t * (t - 1) * (2 * t + 5)))
  (n * (n - 1) * (2 * n + 5) - part(tx, 3) - part(ty, 3)) / 18 + part(tx, 1) * part(ty, 1) / (2 * n * (n - 1)) +
    part(tx, 2) * part(ty, 2) / (9 * n * (n - 1) * (n - 2))
}

#' Counts of inversions over all orders by the usual recursion
#' @noRd
kendall_exact_p <- function(s, n, alternative) {
  ways <- 1
  for (k in seq_len(n)[-1]) {
    wider <- numeric(length(ways) + k - 1)
    for (j in seq_len(k)) wider[seq_along(ways) + j - 1] <- wider[seq_along(ways) + j - 1] + ways
    ways <- wider
  }
  prob <- ways / sum(ways)
  values <- n * (n - 1) / 2 - 2 * (seq_along(prob) - 1)
  switch(alternative, two_sided = sum(prob[abs(values) >= abs(s) - 1e-9]), greater = sum(prob[values >= s - 1e-9]),
         less = sum(prob[values <= s + 1e-9]))
}

#' Partial correlation of x and y with further columns held constant
#' @section Source: Yule, G. U. (1907). Proceedings of the Royal Society A 79, 182-193; test with n - 2 - k degrees
#'   of freedom.
#' @noRd
stat_partial_correlation <- function(x, y, held, conf_level = 0.95, alternative = "two_sided") {
  rx <- stat_least_squares(held, x); ry <- stat_least_squares(held, y)
  lost <- length(rx$kept) - 1
  if (length(x) - 2 - lost < 1) stop_data("There are too few rows for so many columns held constant.",
                                          class = "too_few_rows")
  tiny <- 1e-20 * c(rx$tss, ry$tss)
  if (rx$rss <= tiny[1] || ry$rss <= tiny[2]) {
    stop_data("The columns held constant leave nothing of one of the two columns.", class = "outcome_constant")
  }
  r <- sum(rx$residuals * ry$residuals) / sqrt(rx$rss * ry$rss)
  c(correlation_result(max(-1, min(1, r)), length(x), conf_level, alternative, lost), list(lost = lost))
}
