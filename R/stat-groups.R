# More than two independent groups: analyses of variance from moments, rank test, and pairs of groups after them.

#' Welch's analysis of variance
#'
#' @param m Moments as [stat_group_moments()] returns, one row a group, each with at least two values.
#' @section Shape: Named list of scalars: `statistic` (F), `df1`, `df2` (fractional), `p_value`, `n`, `omega_squared`.
#' @section Errors: `upbeatquill_error_too_few_rows`, `upbeatquill_error_outcome_constant` when a group does not vary.
#' @section Source: Welch, B. L. (1951). Biometrika 38, 330-336; omega squared from F: Olejnik, S. and Algina, J.
#'   (2003).
#'   Psychological Methods 8, 434-447.
#' @noRd
stat_anova_welch <- function(m) {
  need_two_in_each(m)
  n <- m[, "n"]
  spread <- m[, "m2"] / (n - 1)
  if (any(spread <= 0)) {
    stop_data("One group does not vary at all, which Welch's analysis of variance cannot take.",
              class = "outcome_constant")
  }
  test <- welch_f(m[, "mean"], spread / n, n)
  between <- test$df1 * (test$statistic - 1)
  c(test, list(n = sum(n), omega_squared = max(0, between / (between + sum(n)))))
}

#' Welch's F of estimates, each with a variance of its own
#'
#' @param estimate,variance,n One a group: the estimate, its squared standard error, the rows behind it.
#' @section Shape: list(statistic, df1, df2, p_value).
#' @noRd
welch_f <- function(estimate, variance, n) {
  k <- length(estimate)
  w <- 1 / variance
  # about one of them, so that a large offset costs no digits
  centred <- estimate - estimate[1]
  grand <- sum(w * centred) / sum(w)
  lack <- sum((1 - w / sum(w))^2 / (n - 1))
  f <- (sum(w * (centred - grand)^2) / (k - 1)) / (1 + 2 * (k - 2) / (k^2 - 1) * lack)
  df2 <- (k^2 - 1) / (3 * lack)
  list(statistic = f, df1 = k - 1, df2 = df2, p_value = stats::pf(f, k - 1, df2, lower.tail = FALSE))
}

need_two_in_each <- function(m) {
  if (min(m[, "n"]) < 2) {
    stop_data("Each group needs at least two values.", sprintf("The smallest has %d.", min(m[, "n"])),
              class = "too_few_rows")
  }
}

#' Classic one-way analysis of variance
#'
#' @param m Moments, one row a group.
#' @section Shape: `statistic`, `df1`, `df2`, `p_value`, `n`, `ss_between`, `ss_within`, `eta_squared` with `_low` and
#'   `_high`, `omega_squared` likewise (both estimate the same share), `sigma`.
#' @section Source: Fisher, R. A. (1925); interval of eta squared by inverting the noncentral F distribution: Steiger,
#'   J. H. (2004). Psychological Methods 9, 164-182.
#' @noRd
stat_anova_one_way <- function(m, conf_level = 0.95) {
  n <- m[, "n"]
  k <- nrow(m)
  total <- sum(n)
  if (total <= k) stop_data("There must be more rows than groups.", class = "too_few_rows")
  centred <- m[, "mean"] - m[1, "mean"]
  between <- sum(n * (centred - sum(n * centred) / total)^2)
  within <- sum(m[, "m2"])
  need_spread(within)
  df2 <- total - k
  f <- (between / (k - 1)) / (within / df2)
  limits <- stat_share_limits(f, k - 1, df2, conf_level)
  list(statistic = f, df1 = k - 1, df2 = df2, p_value = stats::pf(f, k - 1, df2, lower.tail = FALSE), n = total,
       ss_between = between, ss_within = within, sigma = sqrt(within / df2), eta_squared = between / (between + within),
       eta_squared_low = limits[1], eta_squared_high = limits[2],
       omega_squared = max(0, (between - (k - 1) * within / df2) / (between + within + within / df2)),
       omega_squared_low = limits[1], omega_squared_high = limits[2])
}

#' Limits of the noncentrality for an observed F
#' @noRd
noncentral_f_limits <- function(f, df1, df2, conf_level = 0.95) {
  tail <- (1 - conf_level) / 2
  if (!is.finite(f)) return(c(NA_real_, NA_real_))
  find <- function(p) {
    gap <- function(ncp) suppressWarnings(stats::pf(f, df1, df2, ncp)) - p
    if (gap(0) < 0) return(0)
    stats::uniroot(gap, c(0, max(10, 4 * f * df1)), extendInt = "downX", tol = 1e-10)$root
  }
  c(find(1 - tail), find(tail))
}

#' All pairs of groups
#'
#' @param m Moments, one row a group. @param pooled TRUE: Tukey-Kramer with one spread for all; FALSE: Games-Howell.
#' @section Shape: Data frame, one row a pair: a, b (group numbers), estimate (mean a minus mean b), se, df,
#'   ci_low, ci_high
#'   (simultaneous), p_value (of the pair by itself), p_adjusted (studentised range).
#' @section Source: Tukey, J. W. (1953); Kramer, C. Y. (1956). Biometrics 12, 307-310; Games, P. A. and Howell, J. F.
#'   (1976). Journal of Educational Statistics 1, 113-125.
#' @noRd
stat_pairs <- function(m, pooled, conf_level = 0.95) {
  k <- nrow(m)
  pair <- utils::combn(k, 2)
  a <- pair[1, ]; b <- pair[2, ]
  n <- m[, "n"]
  if (pooled) {
    df <- rep(sum(n) - k, length(a))
    spread <- sum(m[, "m2"]) / df[1]
    part <- spread / n
  } else {
    part <- m[, "m2"] / (n - 1) / n
    df <- (part[a] + part[b])^2 / (part[a]^2 / (n[a] - 1) + part[b]^2 / (n[b] - 1))
  }
  se <- sqrt(part[a] + part[b])
  estimate <- m[a, "mean"] - m[b, "mean"]
  t <- estimate / se
  # a group of one row has no spread of its own, so its pairs have no limits
  # (the studentised range is not known below two degrees of freedom)
  known <- is.finite(df) & df >= 2
  half <- p_adjusted <- rep(NA_real_, length(a))
  half[known] <- stats::qtukey(conf_level, k, df[known]) / sqrt(2) * se[known]
  p_adjusted[known] <- stats::ptukey(abs(t[known]) * sqrt(2), k, df[known], lower.tail = FALSE)
  data.frame(a = a, b = b, estimate = unname(estimate), se = unname(se), df = unname(df),
             ci_low = unname(estimate - half),
             ci_high = unname(estimate + half), p_value = unname(2 * stats::pt(abs(t), df, lower.tail = FALSE)),
             p_adjusted = p_adjusted)
}

#' Kruskal-Wallis test with Dunn's pairs
#'
#' @param x Doubles without missing values. @param code Group codes 1..groups.
#' @section Shape: `statistic` (H, corrected for ties), `df`, `p_value`, `n`, `epsilon_squared`, `mean_ranks`,
#'   `pairs` (data
#'   frame: a, b, estimate (difference of mean ranks), z, p_value, p_adjusted (Holm)).
#' @section Source: Kruskal, W. H. and Wallis, W. A. (1952). JASA 47, 583-621; Dunn, O. J. (1964). Technometrics 6,
#'   241-252; Holm, S. (1979). Scandinavian Journal of Statistics 6, 65-70.
#' @noRd
stat_kruskal_wallis <- function(x, code, groups) {
  ranks <- stat_midranks(x)
  m <- stat_group_moments(ranks$rank, code, groups)
  n <- m[, "n"]
  total <- sum(n)
  middle <- (total + 1) / 2
  # variance of one rank, ties included
  spread <- (total * (total + 1) - ranks$ties / (total - 1)) / 12
  if (!is.finite(spread) || spread <= 0) {
    stop_data("All values are the same, so their ranks say nothing.", class = "outcome_constant")
  }
  h <- sum(n * (m[, "mean"] - middle)^2) / spread
  pair <- utils::combn(groups, 2)
  difference <- m[pair[1, ], "mean"] - m[pair[2, ], "mean"]
  z <- difference / sqrt(spread * (1 / n[pair[1, ]] + 1 / n[pair[2, ]]))
  p <- 2 * stats::pnorm(abs(z), lower.tail = FALSE)
  list(statistic = h, df = groups - 1, p_value = stats::pchisq(h, groups - 1, lower.tail = FALSE), n = total,
       epsilon_squared = h / (total - 1), mean_ranks = unname(m[, "mean"]),
       pairs = data.frame(a = pair[1, ], b = pair[2, ], estimate = unname(difference), z = unname(z),
                          p_value = unname(p),
                          p_adjusted = unname(stats::p.adjust(p, "holm"))))
}
