# t procedures for two independent groups, from moments, and their standardised effects.

#' Welch's two-sample t test
#'
#' @param x,y Finite doubles, the outcome in its own unit, one value per row; at least 2 each.
#' @param alternative "two_sided", "greater" or "less" (first minus second).
#' @section Shape: Named list of scalars: `statistic`, `df`, `p_value`, `estimate`, `se`, `ci_low`, `ci_high`, `n`.
#' @section Units: `estimate`, `se` and the interval are in the unit of `x`; `estimate` is mean(x) - mean(y).
#' @section Errors: `upbeatquill_error_outcome_constant` when neither group varies.
#' @section Source: Welch, B. L. (1947). Biometrika 34, 28-35. Degrees of freedom are not rounded.
#' @noRd
stat_t_welch <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  t_welch_from_moments(stat_group_moments(x), stat_group_moments(y), conf_level, alternative)
}

#' @param a,b One-row matrices as [stat_group_moments()] returns.
#' @noRd
t_welch_from_moments <- function(a, b, conf_level = 0.95, alternative = "two_sided") {
  need_two_each(a, b)
  va <- a[, "m2"] / (a[, "n"] - 1) / a[, "n"]
  vb <- b[, "m2"] / (b[, "n"] - 1) / b[, "n"]
  need_spread(va + vb)
  df <- (va + vb)^2 / (va^2 / (a[, "n"] - 1) + vb^2 / (b[, "n"] - 1))
  t_result(a[, "mean"] - b[, "mean"], sqrt(va + vb), df, a[, "n"] + b[, "n"], conf_level, alternative)
}

#' Student's two-sample t test (equal variances)
#'
#' @inheritParams stat_t_welch
#' @section Source: Student (1908). Biometrika 6, 1-25; Fisher, R. A. (1925). Metron 5, 90-104.
#' @noRd
stat_t_student <- function(x, y, conf_level = 0.95, alternative = "two_sided") {
  t_student_from_moments(stat_group_moments(x), stat_group_moments(y), conf_level, alternative)
}

t_student_from_moments <- function(a, b, conf_level = 0.95, alternative = "two_sided") {
  need_two_each(a, b)
  df <- a[, "n"] + b[, "n"] - 2
  pooled <- (a[, "m2"] + b[, "m2"]) / df
  need_spread(pooled)
  se <- sqrt(pooled * (1 / a[, "n"] + 1 / b[, "n"]))
  t_result(a[, "mean"] - b[, "mean"], se, df, a[, "n"] + b[, "n"], conf_level, alternative)
}

#' One-sample and paired t test (pairs: give the differences)
#'
#' @param null Value under the null hypothesis, in the unit of `x`.
#' @noRd
stat_t_one_sample <- function(x, null = 0, conf_level = 0.95, alternative = "two_sided") {
  m <- stat_group_moments(x)
  if (m[, "n"] < 2) stop_data("A t test needs at least two values.", class = "too_few_rows")
  se <- sqrt(m[, "m2"] / (m[, "n"] - 1) / m[, "n"])
  need_spread(se)
  out <- t_result(m[, "mean"] - null, se, m[, "n"] - 1, m[, "n"], conf_level, alternative)
  out$estimate <- unname(m[, "mean"])
  out$ci_low <- out$ci_low + null
  out$ci_high <- out$ci_high + null
  c(out, list(sd = unname(se * sqrt(m[, "n"]))))
}

#' Yuen's trimmed t test
#'
#' @param trim Share cut from each end of each group, below one half.
#' @section Shape: As [stat_t_welch()], with trimmed means, and `trimmed_a`, `trimmed_b`.
#' @section Source: Yuen, K. K. (1974). Biometrika 61, 165-170.
#' @noRd
stat_t_trimmed <- function(x, y, trim = 0.2, conf_level = 0.95, alternative = "two_sided") {
  a <- trimmed_parts(x, trim)
  b <- trimmed_parts(y, trim)
  need_spread(a$d + b$d)
  df <- (a$d + b$d)^2 / (a$d^2 / (a$h - 1) + b$d^2 / (b$h - 1))
  out <- t_result(a$mean - b$mean, sqrt(a$d + b$d), df, length(x) + length(y), conf_level, alternative)
  c(out, list(trimmed_a = a$mean, trimmed_b = b$mean), stat_robust_d(x, y, trim, conf_level))
}

#' Standardised difference of trimmed means
#'
#' The pooled winsorised spread is scaled so that for normal values it is the standard deviation.
#' @section Shape: `robust_d`, `robust_d_low`, `robust_d_high`; empty where nothing spreads.
#' @section Source: Algina, J., Keselman, H. J. and Penfield, R. D. (2005). Psychological Methods 10, 317-328; interval by inverting the noncentral
#'   t distribution of the pooled trimmed t.
#' @noRd
stat_robust_d <- function(x, y, trim = 0.2, conf_level = 0.95) {
  a <- trimmed_parts(x, trim); b <- trimmed_parts(y, trim)
  # (d is the winsorised sum of squares over h (h - 1))
  squares <- a$d * a$h * (a$h - 1) + b$d * b$h * (b$h - 1)
  rows <- length(x) + length(y) - 2; kept <- a$h + b$h - 2
  if (squares <= 0 || kept < 1) return(list())
  scale <- winsorised_normal_sd(trim)
  d <- scale * (a$mean - b$mean) / sqrt(squares / rows)
  # the t of the trimmed means is d times this
  by <- sqrt(kept / rows * a$h * b$h / (a$h + b$h)) / scale
  limits <- noncentral_t_limits(d * by, kept, conf_level) / by
  lapply(list(robust_d = d, robust_d_low = limits[1], robust_d_high = limits[2]), unname)
}

#' Standard deviation of a standard normal variable with a share of each end drawn in
#' @noRd
winsorised_normal_sd <- function(trim) {
  z <- stats::qnorm(1 - trim)
  if (!is.finite(z)) return(1)
  sqrt(1 - 2 * trim - 2 * z * stats::dnorm(z) + 2 * trim * z^2)
}

trimmed_parts <- function(x, trim) {
  n <- length(x)
  g <- floor(trim * n)
  h <- n - 2 * g
  if (h < 2) stop_data("A trimmed t test needs at least two values left in each group.", class = "too_few_rows")
  x <- sort(x)
  wins <- pmin(pmax(x, x[g + 1]), x[n - g])
  ss <- stat_group_moments(wins)[, "m2"]
  list(mean = unname(stat_group_moments(x[(g + 1):(n - g)])[, "mean"]), h = h, d = unname(ss) / (h * (h - 1)))
}

need_two_each <- function(a, b) {
  if (min(a[, "n"], b[, "n"]) < 2) {
    stop_data("Each group needs at least two values.",
              sprintf("The groups have %d and %d.", a[, "n"], b[, "n"]), class = "too_few_rows")
  }
}

need_spread <- function(v) {
  if (!is.finite(v) || v <= 0) {
    stop_data("The outcome does not vary, so there is nothing to test.", class = "outcome_constant")
  }
}

t_result <- function(estimate, se, df, n, conf_level, alternative) {
  t <- estimate / se
  alpha <- 1 - conf_level
  p <- switch(alternative,
    two_sided = 2 * stats::pt(abs(t), df, lower.tail = FALSE),
    greater = stats::pt(t, df, lower.tail = FALSE),
    less = stats::pt(t, df))
  half <- stats::qt(alpha / if (alternative == "two_sided") 2 else 1, df, lower.tail = FALSE) * se
  out <- list(statistic = t, df = df, p_value = p, estimate = estimate, se = se,
              ci_low = if (alternative == "less") -Inf else estimate - half,
              ci_high = if (alternative == "greater") Inf else estimate + half, n = n)
  lapply(out, unname)
}

#' Standardised mean difference with its interval
#'
#' @param a,b One-row moments.
#' @section Shape: cohens_d, hedges_g, glass_delta (second group's sd), each with _low and _high.
#' @section Source: Hedges, L. V. (1981). Journal of Educational Statistics 6, 107-128 (exact correction factor);
#'   interval by inverting the noncentral t distribution: Steiger, J. H. and Fouladi, R. T. (1997).
#' @noRd
stat_standardised_difference <- function(a, b, conf_level = 0.95) {
  na <- a[, "n"]; nb <- b[, "n"]
  df <- na + nb - 2
  pooled <- sqrt((a[, "m2"] + b[, "m2"]) / df)
  d <- (a[, "mean"] - b[, "mean"]) / pooled
  scale <- sqrt(1 / na + 1 / nb)
  limits <- noncentral_t_limits(d / scale, df, conf_level) * scale
  j <- small_sample_factor(df)
  sd_b <- sqrt(b[, "m2"] / (nb - 1))
  delta <- if (sd_b > 0) (a[, "mean"] - b[, "mean"]) / sd_b else NA_real_
  glass <- if (sd_b > 0) stat_glass_limits(delta, sqrt(a[, "m2"] / (na - 1)) / sd_b, na, nb, conf_level) else c(NA_real_, NA_real_)
  lapply(list(cohens_d = d, cohens_d_low = limits[1], cohens_d_high = limits[2],
              hedges_g = j * d, hedges_g_low = j * limits[1], hedges_g_high = j * limits[2],
              glass_delta = delta, glass_delta_low = glass[1], glass_delta_high = glass[2]), unname)
}

small_sample_factor <- function(df) exp(lgamma(df / 2) - lgamma((df - 1) / 2) - log(df / 2) / 2)

#' Limits of the noncentrality for an observed t
#'
#' pt() loses accuracy beyond a noncentrality of about 37; there a normal approximation of t is used.
#' @noRd
noncentral_t_limits <- function(t, df, conf_level = 0.95) {
  tail <- (1 - conf_level) / 2
  if (!is.finite(t)) return(c(NA_real_, NA_real_))
  half <- stats::qnorm(1 - tail) * sqrt(1 + t^2 / (2 * df))
  if (abs(t) + half > 35) return(c(t - half, t + half))
  gap <- function(ncp, p) suppressWarnings(stats::pt(t, df, ncp)) - p
  solve_for <- function(p) {
    stats::uniroot(gap, c(t - 2 * half - 2, t + 2 * half + 2), p = p, tol = 1e-12, extendInt = "downX")$root
  }
  c(solve_for(1 - tail), solve_for(tail))
}
