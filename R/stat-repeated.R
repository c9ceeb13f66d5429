# Measurements repeated on the same units: pairs, several conditions, and groups of units.

#' Wilcoxon signed-rank test, exact with ties
#'
#' Differences of exactly zero are left out (Wilcoxon); the p value is exact by enumeration of signs, given the
#' ties, up to
#' `exact_to` differences, then normal with tie and continuity correction.
#'
#' @param d Differences, doubles without missing values.
#' @section Shape: `statistic` (sum of the positive ranks), `p_value`, `exact`, `z`, `n` (all), `zeros`, `estimate`
#'   (pseudo-median,
#'   Hodges-Lehmann) with `ci_low`, `ci_high`, `rank_biserial`.
#' @section Source: Wilcoxon, F. (1945). Biometrics Bulletin 1, 80-83; exact distribution with ties by the shift
#'   algorithm
#'   of Streitberg and Roehmel (1986); matched-pairs rank-biserial: Kerby, D. S. (2014).
#' @noRd
stat_signed_rank <- function(d, conf_level = 0.95, alternative = "two_sided", exact_to = 50L) {
  all <- d
  d <- d[d != 0]
  n <- length(d)
  if (n == 0) stop_data("All differences are zero, so there is nothing to test.", class = "outcome_constant")
  ranks <- stat_midranks(abs(d))
  v <- sum(ranks$rank[d > 0])
  exact <- n <= exact_to
  normal <- signed_rank_normal_p(v, n, ranks$ties, alternative)
  p <- if (exact) signed_rank_exact_p(ranks$rank, v, alternative) else normal$p
  c(list(statistic = v, p_value = p, exact = exact, z = normal$z, n = length(all), zeros = length(all) - n,
         rank_biserial = 2 * v / (n * (n + 1) / 2) - 1), stat_pseudo_median(all, conf_level))
}

signed_rank_exact_p <- function(ranks, v, alternative) {
  prob <- kernel_sign_sums(as.integer(round(2 * ranks)))
  sums <- (seq_along(prob) - 1) / 2
  upper <- sum(prob[sums >= v - 1e-9]); lower <- sum(prob[sums <= v + 1e-9])
  min(1, switch(alternative, two_sided = 2 * min(upper, lower), greater = upper, less = lower))
}

signed_rank_normal_p <- function(v, n, ties, alternative) {
  spread <- sqrt(n * (n + 1) * (2 * n + 1) / 24 - ties / 48)
  d <- v - n * (n + 1) / 4
  correction <- switch(alternative, two_sided = sign(d) * 0.5, greater = 0.5, less = -0.5)
  z <- (d - correction) / spread
  p <- switch(alternative, two_sided = 2 * stats::pnorm(abs(z), lower.tail = FALSE),
              greater = stats::pnorm(z, lower.tail = FALSE), less = stats::pnorm(z))
  list(p = min(1, p), z = z)
}

#' Pseudo-median: the median of all averages of two differences, with limits from their order statistics
#' @section Source: Hodges, J. L. and Lehmann, E. L. (1963). Annals of Mathematical Statistics 34, 598-611.
#' @noRd
stat_pseudo_median <- function(d, conf_level = 0.95, most = 2000L) {
  n <- length(d)
  if (n > most) {
    # a table of all averages would not fit; the estimate comes from a fixed, evenly spread part of the sorted values
    d <- sort(d)[round(seq(1, n, length.out = most))]
    inner <- stat_pseudo_median(d, conf_level, most)
    return(list(estimate = inner$estimate, ci_low = NA_real_, ci_high = NA_real_))
  }
  averages <- outer(d, d, "+") / 2
  averages <- sort(averages[upper.tri(averages, diag = TRUE)])
  tail <- (1 - conf_level) / 2
  k <- if (n <= 50) stats::qsignrank(tail, n)
       else floor(n * (n + 1) / 4 - stats::qnorm(1 - tail) * sqrt(n * (n + 1) * (2 * n + 1) / 24))
  limits <- if (n < 2 || k < 1) c(NA_real_, NA_real_) else averages[c(k, length(averages) - k + 1)]
  list(estimate = stats::median(averages), ci_low = limits[1], ci_high = limits[2])
}

#' Sign test of paired differences
#' @section Source: Dixon, W. J. and Mood, A. M. (1946). JASA 41, 557-566. Differences of zero are left out.
#' @noRd
stat_sign <- function(d, conf_level = 0.95, alternative = "two_sided") {
  up <- sum(d > 0); n <- sum(d != 0)
  if (n == 0) stop_data("All differences are zero, so there is nothing to test.", class = "outcome_constant")
  upper <- stats::pbinom(up - 1, n, 0.5, lower.tail = FALSE); lower <- stats::pbinom(up, n, 0.5)
  interval <- stat_median_interval(d, conf_level)
  list(statistic = up, p_value = min(1, switch(alternative, two_sided = 2 * min(upper, lower), greater = upper,
                                               less = lower)),
       n = length(d), untied = n, estimate = stats::median(d), ci_low = interval[["low"]], ci_high = interval[["high"]])
}

#' Standardised mean of paired differences
#'
#' @section Shape: cohens_d (mean difference over the standard deviation of the differences) and hedges_g, each
#'   with limits.
#' @section Source: Cohen (1988), section 2.3.5 (d_z); limits by inverting the noncentral t distribution.
#' @noRd
stat_paired_effect <- function(d, conf_level = 0.95) {
  m <- stat_group_moments(d)
  n <- m[[1, "n"]]
  dz <- m[[1, "mean"]] / sqrt(m[[1, "m2"]] / (n - 1))
  limits <- noncentral_t_limits(dz * sqrt(n), n - 1, conf_level) / sqrt(n)
  j <- small_sample_factor(n - 1)
  list(cohens_d = dz, cohens_d_low = limits[1], cohens_d_high = limits[2], hedges_g = j * dz,
       hedges_g_low = j * limits[1],
       hedges_g_high = j * limits[2])
}

#' Analysis of variance with one within-unit factor, and optionally groups of units
#'
#' @param y Matrix, one row a unit, one column a condition, no missing values. @param group Codes 1..groups of the
#'   units, or NULL.
#' @section Shape: list of effects (`within`, and with groups `between`, `interaction`), each list(statistic, df1,
#'   df2, ss, ss_error,
#'   p_value (Greenhouse-Geisser where conditions are involved), p_uncorrected, p_hf, epsilon, epsilon_hf,
#'   partial_eta_squared).
#' @section Source: Greenhouse, S. W. and Geisser, S. (1959). Psychometrika 24, 95-112; Huynh, H. and Feldt, L. S.
#'   (1976),
#'   with Lecoutre's (1991) correction. Effects by sums of squares and products of orthonormal contrasts (type III).
#' @noRd
stat_anova_repeated <- function(y, group = NULL) {
  n <- nrow(y); k <- ncol(y)
  groups <- if (is.null(group)) 1L else max(group)
  df_error <- n - groups
  if (df_error < 1 || k < 2) stop_data("There are too few units for a repeated-measures analysis.",
                                       class = "too_few_rows")
  y <- y - mean(y)
  contrast <- stats::contr.helmert(k)
  contrast <- sweep(contrast, 2, sqrt(colSums(contrast^2)), "/")
  design <- effect_coding(group, n)
  z <- y %*% contrast
  fit <- residual_products(design, z)
  if (sum(diag(fit$error)) <= 0) stop_data("The outcome does not vary within the units.", class = "outcome_constant")
  epsilon <- sphericity(fit$error, df_error, groups)
  out <- list(within = within_effect(fit, design, 1L, k, df_error, epsilon))
  if (groups > 1) {
    out$interaction <- within_effect(fit, design, seq(2L, groups), k, df_error, epsilon)
    out$between <- between_effect(rowMeans(y) * sqrt(k), design, groups, df_error)
  }
  out
}

#' Intercept and sum-to-zero columns of the groups of units
#' @noRd
effect_coding <- function(group, n) {
  if (is.null(group)) return(matrix(1, n, 1))
  cbind(1, stats::contr.sum(max(group))[group, , drop = FALSE])
}

residual_products <- function(design, z) {
  inverse <- solve(crossprod(design))
  beta <- inverse %*% crossprod(design, z)
  list(beta = beta, inverse = inverse, error = crossprod(z - design %*% beta))
}

#' Sums of squares and products of the terms in `rows` of the coefficients, given the others
#' @noRd
hypothesis_products <- function(fit, rows) {
  b <- fit$beta[rows, , drop = FALSE]
  crossprod(b, solve(fit$inverse[rows, rows, drop = FALSE], b))
}

#' Greenhouse-Geisser and Huynh-Feldt estimates of the departure from sphericity
#' @noRd
sphericity <- function(error, df_error, groups) {
  p <- ncol(error)
  gg <- sum(diag(error))^2 / (p * sum(error^2))
  hf <- ((df_error + 1) * p * gg - 2) / (p * (df_error - p * gg))
  list(gg = max(1 / p, min(1, gg)), hf = max(gg, min(1, hf)))
}

within_effect <- function(fit, design, rows, k, df_error, epsilon) {
  ss <- sum(diag(hypothesis_products(fit, rows)))
  ss_error <- sum(diag(fit$error))
  df1 <- length(rows) * (k - 1); df2 <- df_error * (k - 1)
  f <- (ss / df1) / (ss_error / df2)
  tail_area <- function(e) stats::pf(f, df1 * e, df2 * e, lower.tail = FALSE)
  list(statistic = f, df1 = df1 * epsilon$gg, df2 = df2 * epsilon$gg, df1_full = df1, df2_full = df2, ss = ss,
       ss_error = ss_error,
       p_value = tail_area(epsilon$gg), p_uncorrected = tail_area(1), p_hf = tail_area(epsilon$hf),
       epsilon = epsilon$gg,
       epsilon_hf = epsilon$hf, partial_eta_squared = ss / (ss + ss_error))
}

between_effect <- function(total, design, groups, df_error) {
  fit <- residual_products(design, cbind(total))
  ss <- drop(hypothesis_products(fit, seq(2L, groups)))
  ss_error <- drop(fit$error)
  f <- (ss / (groups - 1)) / (ss_error / df_error)
  list(statistic = f, df1 = groups - 1, df2 = df_error, df1_full = groups - 1, df2_full = df_error, ss = ss,
       ss_error = ss_error,
       p_value = stats::pf(f, groups - 1, df_error, lower.tail = FALSE), partial_eta_squared = ss / (ss + ss_error))
}

#' Friedman's test
#'
#' @param y Matrix, one row a unit, one column a condition.
#' @section Shape: `statistic` (chi-square, corrected for ties), `df`, `p_value`, `n` (units), `kendall_w`,
#'   `mean_ranks`.
#' @section Source: Friedman, M. (1937). JASA 32, 675-701; Kendall, M. G. and Babington Smith, B. (1939) for W.
#' @noRd
stat_friedman <- function(y) {
  n <- nrow(y); k <- ncol(y)
  ranked <- apply(y, 1, function(r) { s <- stat_midranks(r); c(s$rank, s$ties) })
  ties <- sum(ranked[k + 1, ])
  sums <- rowSums(ranked[seq_len(k), , drop = FALSE])
  spread <- n * k * (k + 1) - ties / (k - 1)
  if (spread <= 0) stop_data("Within every unit all values are the same.", class = "outcome_constant")
  q <- 12 * sum((sums - n * (k + 1) / 2)^2) / spread
  list(statistic = q, df = k - 1, p_value = stats::pchisq(q, k - 1, lower.tail = FALSE), n = n,
       kendall_w = q / (n * (k - 1)),
       mean_ranks = sums / n)
}
