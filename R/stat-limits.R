# Intervals of effect sizes that have no standard error of their own: shares of the spread, of the ranks, of pairs.

#' Limits of a share of the spread (eta, omega, partial eta squared, R squared) from an F
#'
#' @param f,df1,df2 The F that tests it and its degrees of freedom.
#' @param rows The rows behind it, where the degrees of freedom are those of an approximation (Welch).
#' @section Shape: low and high: noncentralities that put the observed F at either tail, as a share of themselves plus the rows
#'   (df1 + df2 + 1); NA where F has no limit.
#' @section Source: Steiger, J. H. (2004). Psychological Methods 9, 164-182; Smithson, M. (2003). Confidence Intervals, chapter 5.
#' @noRd
stat_share_limits <- function(f, df1, df2, conf_level = 0.95, rows = df1 + df2 + 1) {
  ncp <- noncentral_f_limits(f, df1, df2, conf_level)
  ncp / (ncp + rows)
}

#' Limits of an effect that is a chi-square over its largest value (epsilon squared of H, Kendall's W of Friedman's test)
#' @param x,df The chi-square and its degrees of freedom. @param scale What it is divided by.
#' @section Source: Smithson, M. (2003). Confidence Intervals, chapter 4.
#' @noRd
stat_chi_share_limits <- function(x, df, scale, conf_level = 0.95) {
  if (!is.finite(x) || scale <= 0) return(c(NA_real_, NA_real_))
  pmin(1, noncentral_chi_limits(x, df, conf_level) / scale)
}

#' Limits of the rank-biserial correlation of two groups
#'
#' @param x,y Doubles without missing values, two or more each.
#' @section Shape: low and high; NA where the groups do not overlap, since then nothing tells how far they would.
#' @section Source: variance of the share of pairs from its placements: DeLong, E. R. et al. (1988). Biometrics 44, 837-845; on the
#'   logistic scale: Newcombe, R. G. (2006). Statistics in Medicine 25, 559-573.
#' @noRd
stat_rank_biserial_limits <- function(x, y, conf_level = 0.95) {
  m <- length(x); n <- length(y)
  if (min(m, n) < 2) return(c(NA_real_, NA_real_))
  both <- stat_midranks(c(x, y))$rank
  above <- (both[seq_len(m)] - stat_midranks(x)$rank) / n
  below <- (both[m + seq_len(n)] - stat_midranks(y)$rank) / m
  a <- mean(above)
  se <- sqrt(stats::var(above) / m + stats::var(below) / n)
  if (a <= 0 || a >= 1 || se <= 0) return(c(NA_real_, NA_real_))
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * se / (a * (1 - a))
  2 * stats::plogis(stats::qlogis(a) + c(-half, half)) - 1
}

#' Limits of the rank-biserial correlation of matched pairs
#' @param r The correlation. @param pairs Pairs that differ.
#' @section Source: Fisher's z with the standard error of the signed-rank sum; Kerby, D. S. (2014). Comprehensive Psychology 3, 1.
#' @noRd
stat_matched_biserial_limits <- function(r, pairs, conf_level = 0.95) {
  if (pairs < 3 || abs(r) >= 1) return(c(NA_real_, NA_real_))
  se <- sqrt(pairs * (pairs + 1) * (2 * pairs + 1) / 6) / (pairs * (pairs + 1) / 2)
  tanh(atanh(r) + c(-1, 1) * stats::qnorm(1 - (1 - conf_level) / 2) * se)
}

#' Limits of Glass's delta: the difference in standard deviations of the second group
#' @section Source: Algina, J., Keselman, H. J. and Penfield, R. D. (2006). Educational and Psychological Measurement 66, 945-960
#'   (noncentral t with the degrees of freedom of that group).
#' @noRd
stat_glass_limits <- function(delta, ratio, na, nb, conf_level = 0.95) {
  scale <- sqrt(1 / nb + ratio^2 / na)
  noncentral_t_limits(delta / scale, nb - 1, conf_level) * scale
}
