# Proportions: one, two, several, paired, in order, and in strata.

#' One proportion against a stated value, by the score test
#' @section Shape: `statistic` (z), `p_value`, `estimate` with Wilson limits, `n`.
#' @section Source: Wilson, E. B. (1927). JASA 22, 209-212.
#' @noRd
stat_proportion_one <- function(x, n, null = 0.5, conf_level = 0.95, alternative = "two_sided") {
  z <- (x / n - null) / sqrt(null * (1 - null) / n)
  w <- stat_wilson(x, n, conf_level)
  list(statistic = z, p_value = normal_p(z, alternative), estimate = x / n, ci_low = w$low, ci_high = w$high, n = n)
}

normal_p <- function(z, alternative = "two_sided") {
  switch(alternative, two_sided = 2 * stats::pnorm(-abs(z)), greater = stats::pnorm(z, lower.tail = FALSE), less = stats::pnorm(z))
}

#' Two independent proportions: score test with pooled variance, Newcombe's interval of the difference
#' @section Shape: `statistic` (z), `p_value`, `estimate` (first minus second) with limits, `n`.
#' @section Source: Newcombe, R. G. (1998). Statistics in Medicine 17, 873-890 (method 10).
#' @noRd
stat_proportions_two <- function(x, n, conf_level = 0.95, alternative = "two_sided") {
  p <- x / n
  pooled <- sum(x) / sum(n)
  if (pooled == 0 || pooled == 1) stop_data("The event occurs always or never, so there is nothing to compare.", class = "outcome_constant")
  z <- (p[1] - p[2]) / sqrt(pooled * (1 - pooled) * sum(1 / n))
  e <- stat_two_by_two(cbind(x, n - x), conf_level)
  list(statistic = z, p_value = normal_p(z, alternative), estimate = p[1] - p[2], ci_low = e$risk_difference_low,
       ci_high = e$risk_difference_high, n = sum(n), effects = e)
}

#' Several proportions: chi-square of equality, Holm-adjusted pairs
#' @section Shape: `statistic`, `df`, `p_value`, `n`, `pairs` (data frame a, b, estimate, ci_low, ci_high, p_value, p_adjusted).
#' @noRd
stat_proportions_many <- function(x, n, conf_level = 0.95) {
  pooled <- sum(x) / sum(n)
  if (pooled == 0 || pooled == 1) stop_data("The event occurs always or never, so there is nothing to compare.", class = "outcome_constant")
  statistic <- sum((x - n * pooled)^2 / (n * pooled * (1 - pooled)))
  pair <- utils::combn(length(x), 2)
  tests <- lapply(seq_len(ncol(pair)), function(i) {
    k <- pair[, i]
    if (sum(x[k]) %in% c(0, sum(n[k]))) return(c(estimate = 0, ci_low = NA, ci_high = NA, p_value = NA))
    unlist(stat_proportions_two(x[k], n[k], conf_level)[c("estimate", "ci_low", "ci_high", "p_value")])
  })
  pairs <- as.data.frame(do.call(rbind, tests))
  pairs$p_adjusted <- stats::p.adjust(pairs$p_value, "holm")
  list(statistic = statistic, df = length(x) - 1, p_value = stats::pchisq(statistic, length(x) - 1, lower.tail = FALSE), n = sum(n),
       pairs = cbind(a = pair[1, ], b = pair[2, ], pairs))
}

#' Trend of proportions over ordered groups
#' @param scores Places of the groups on the scale.
#' @section Shape: `statistic` (chi-square, 1 df), `df`, `p_value`, `slope` (change of the share for one step) with `se` and limits (of a
#'   straight line through 0 and 1, robust to unequal spread), `n`.
#' @section Source: Cochran, W. G. (1954). Biometrics 10, 417-451; Armitage, P. (1955). Biometrics 11, 375-386.
#' @noRd
stat_trend_proportions <- function(x, n, scores = seq_along(x), conf_level = 0.95) {
  pooled <- sum(x) / sum(n)
  if (pooled == 0 || pooled == 1) stop_data("The event occurs always or never, so there is no trend.", class = "outcome_constant")
  centre <- sum(n * scores) / sum(n)
  sxx <- sum(n * (scores - centre)^2)
  slope <- sum(x * (scores - centre)) / sxx
  statistic <- slope^2 * sxx / (pooled * (1 - pooled))
  # the error of the slope as it is, not as it would be without a trend: rows about the line, whatever their spread
  line <- pooled + slope * (scores - centre)
  se <- sqrt(sum((x * (1 - line)^2 + (n - x) * line^2) * (scores - centre)^2) * sum(n) / (sum(n) - 2)) / sxx
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * se
  list(statistic = statistic, df = 1, p_value = stats::pchisq(statistic, 1, lower.tail = FALSE), slope = slope, se = se, ci_low = slope - half,
       ci_high = slope + half, n = sum(n))
}

#' McNemar's test of a paired two-by-two table
#'
#' @param counts 2 x 2: first occasion in the rows, second in the columns; the first row and column count the event.
#' @section Shape: `statistic` (chi-square without correction), `df`, `p_value` (exact below 25 changed pairs, else from
#'   chi-square), `p_exact`, `p_mid`, `p_chi_square`, `estimate` (share first minus second) with Newcombe's limits, `odds_ratio`
#'   of the changed pairs with exact limits, `n`, `changed`.
#' @section Source: McNemar, Q. (1947). Psychometrika 12, 153-157; Fagerland, M. W. et al. (2013). BMC Medical Research
#'   Methodology 13, 91 (mid-p); Newcombe, R. G. (1998). Statistics in Medicine 17, 2635-2650 (method 10).
#' @noRd
stat_mcnemar <- function(counts, conf_level = 0.95) {
  b <- counts[1, 2]; c <- counts[2, 1]; n <- sum(counts)
  changed <- b + c
  if (changed == 0) stop_data("No unit changed, so there is nothing to test.", class = "outcome_constant")
  statistic <- (b - c)^2 / changed
  exact <- min(1, 2 * stats::pbinom(min(b, c), changed, 0.5))
  mid <- if (b == c) 1 - stats::dbinom(b, changed, 0.5) else exact - stats::dbinom(min(b, c), changed, 0.5)
  chi <- stats::pchisq(statistic, 1, lower.tail = FALSE)
  limits <- newcombe_paired(counts, conf_level)
  share <- unlist(stat_clopper_pearson(b, changed, conf_level), use.names = FALSE)
  list(statistic = statistic, df = 1, p_value = if (changed < 25) exact else chi, p_exact = exact, p_mid = mid, p_chi_square = chi,
       estimate = (b - c) / n, ci_low = limits[1], ci_high = limits[2], odds_ratio = b / c, odds_ratio_low = share[1] / (1 - share[1]),
       odds_ratio_high = share[2] / (1 - share[2]), n = n, changed = changed)
}

newcombe_paired <- function(counts, conf_level) {
  n <- sum(counts)
  p <- c(sum(counts[1, ]), sum(counts[, 1])) / n
  w <- stat_wilson(p * n, n, conf_level)
  product <- prod(rowSums(counts), colSums(counts))
  agree <- counts[1, 1] * counts[2, 2] - counts[1, 2] * counts[2, 1]
  phi <- if (product == 0) 0 else (if (agree > 0) max(agree - n / 2, 0) else agree) / sqrt(product)
  low <- p - w$low; high <- w$high - p
  d <- p[1] - p[2]
  c(d - sqrt(low[1]^2 - 2 * phi * low[1] * high[2] + high[2]^2), d + sqrt(high[1]^2 - 2 * phi * high[1] * low[2] + low[2]^2))
}

#' Exact intervals of proportions
#' @param x,n Counts and totals, of one length.
#' @section Shape: list of low and high, shares between 0 and 1.
#' @section Source: Clopper, C. J. and Pearson, E. S. (1934). Biometrika 26, 404-413.
#' @noRd
stat_clopper_pearson <- function(x, n, conf_level = 0.95) {
  tail <- (1 - conf_level) / 2
  # (a beta distribution without one of its parameters stands at the end of the scale)
  list(low = ifelse(x == 0, 0, stats::qbeta(tail, pmax(x, 1), n - x + 1)),
       high = ifelse(x == n, 1, stats::qbeta(1 - tail, x + 1, pmax(n - x, 1))))
}

#' Intervals of proportions by Wilson's method, or exact
#' @noRd
stat_share_interval <- function(x, n, conf_level = 0.95, exact = FALSE) {
  if (isTRUE(exact)) stat_clopper_pearson(x, n, conf_level) else stat_wilson(x, n, conf_level)
}

#' Cochran's Q: the same yes/no asked several times of the same units
#' @param x Matrix of 0 and 1, units by occasions.
#' @section Source: Cochran, W. G. (1950). Biometrika 37, 256-266.
#' @noRd
stat_cochran_q <- function(x) {
  k <- ncol(x)
  rows <- rowSums(x); columns <- colSums(x)
  spread <- k * sum(rows) - sum(rows^2)
  if (spread == 0) stop_data("No unit changed between the occasions, so there is nothing to test.", class = "outcome_constant")
  q <- (k - 1) * (k * sum(columns^2) - sum(columns)^2) / spread
  list(statistic = q, df = k - 1, p_value = stats::pchisq(q, k - 1, lower.tail = FALSE), n = nrow(x))
}

#' Cochran-Mantel-Haenszel test of two-by-two tables in strata
#'
#' @param counts Array 2 x 2 x strata: groups in the rows, the event in the first column.
#' @section Shape: `statistic` (chi-square without correction), `df`, `p_value`, `odds_ratio` (Mantel-Haenszel) with limits,
#'   `breslow_day` (Tarone's correction), `breslow_day_df`, `breslow_day_p`, `n`, `strata` used.
#' @section Source: Mantel, N. and Haenszel, W. (1959). JNCI 22, 719-748; Robins, J., Breslow, N. and Greenland, S. (1986). Biometrics
#'   42, 311-323; Breslow, N. E. and Day, N. E. (1980); Tarone, R. E. (1985). Biometrika 72, 91-95.
#' @noRd
stat_mantel_haenszel <- function(counts, conf_level = 0.95) {
  totals <- apply(counts, 3, sum)
  counts <- counts[, , totals > 1, drop = FALSE]
  a <- counts[1, 1, ]; b <- counts[1, 2, ]; c <- counts[2, 1, ]; d <- counts[2, 2, ]
  n <- a + b + c + d
  variance <- (a + b) * (c + d) * (a + c) * (b + d) / (n^2 * (n - 1))
  if (!length(n) || sum(variance) == 0) stop_data("No stratum holds both groups with and without the event.", class = "outcome_constant")
  statistic <- (sum(a) - sum((a + b) * (a + c) / n))^2 / sum(variance)
  r <- a * d / n; s <- b * c / n
  odds <- sum(r) / sum(s)
  p <- (a + d) / n; q <- (b + c) / n
  se <- sqrt(sum(p * r) / (2 * sum(r)^2) + sum(p * s + q * r) / (2 * sum(r) * sum(s)) + sum(q * s) / (2 * sum(s)^2))
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  bd <- breslow_day(a, b, c, d, odds)
  list(statistic = statistic, df = 1, p_value = stats::pchisq(statistic, 1, lower.tail = FALSE), odds_ratio = odds,
       odds_ratio_low = odds * exp(-z * se), odds_ratio_high = odds * exp(z * se), breslow_day = bd$statistic,
       breslow_day_df = bd$df, breslow_day_p = bd$p_value, n = sum(n), strata = length(n))
}

#' Are the odds ratios of the strata alike?
#' @noRd
breslow_day <- function(a, b, c, d, odds) {
  use <- (a + b) > 0 & (c + d) > 0 & (a + c) > 0 & (b + d) > 0
  if (sum(use) < 2 || !is.finite(odds) || odds <= 0) return(list(statistic = NA_real_, df = NA_real_, p_value = NA_real_))
  a <- a[use]; b <- b[use]; c <- c[use]; d <- d[use]
  row <- a + b; column <- a + c; n <- a + b + c + d
  # the count expected under the common odds ratio solves a quadratic
  expected <- vapply(seq_along(a), function(k) {
    if (abs(odds - 1) < 1e-12) return(row[k] * column[k] / n[k])
    u <- n[k] - row[k] - column[k] + odds * (row[k] + column[k])
    (u - sqrt(u^2 - 4 * odds * (odds - 1) * row[k] * column[k])) / (2 * (odds - 1))
  }, 1)
  v <- 1 / (1 / expected + 1 / (row - expected) + 1 / (column - expected) + 1 / (n - row - column + expected))
  statistic <- sum((a - expected)^2 / v) - sum(a - expected)^2 / sum(v)
  list(statistic = statistic, df = length(a) - 1, p_value = stats::pchisq(statistic, length(a) - 1, lower.tail = FALSE))
}
