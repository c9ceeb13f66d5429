# Results of several studies combined.

#' Fixed- and random-effects pooling of effects with standard errors
#'
#' @param y Effects. @param se Standard errors.
#' @section Shape: `fixed` and `random` (each estimate, se, ci_low, ci_high, statistic, p_value; the random-effects interval by Hartung and Knapp with
#' t on k - 1 degrees of freedom), `tau_squared` (REML), `tau_squared_dl` (DerSimonian-Laird), `q`, `q_df`, `q_p`,
#'   `i_squared`, `h`, `prediction_low`,
#'   `prediction_high`, `weights_fixed`, `weights_random`, `egger` (intercept, se, p_value), `leave_one_out` (estimate, ci_low, ci_high), `k`.
#' @section Source: DerSimonian, R. and Laird, N. (1986). Controlled Clinical Trials 7, 177-188; Viechtbauer, W.
#'   (2005). Journal of Educational and Behavioral
#' Statistics 30, 261-293 (REML); Hartung, J. and Knapp, G. (2001). Statistics in Medicine 20, 3875-3889; Higgins, J.
#'   P. T. et al. (2003). BMJ 327, 557-560;
#'   Egger, M. et al. (1997). BMJ 315, 629-634; prediction interval: Higgins, Thompson and Spiegelhalter (2009). JRSS A 172, 137-159.
#' @noRd
stat_pool <- function(y, se, conf_level = 0.95) {
  k <- length(y)
  if (k < 2) stop_data("Pooling needs at least two studies.", class = "too_few_rows")
  if (any(se <= 0)) stop_data("Every standard error must be above zero.", class = "unfit_data")
  v <- se^2; w <- 1 / v
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  mean <- sum(w * y) / sum(w)
  fixed <- pooled_line(mean, sqrt(1 / sum(w)), z)
  q <- sum(w * (y - mean)^2)
  dl <- max(0, (q - (k - 1)) / (sum(w) - sum(w^2) / sum(w)))
  tau2 <- tau_reml(y, v, dl)
  out <- random_line(y, v, tau2, conf_level)
  t <- stats::qt(1 - (1 - conf_level) / 2, max(1, k - 2))
  spread <- sqrt(tau2 + out$se_plain^2)
  list(fixed = fixed, random = out, tau_squared = tau2, tau_squared_dl = dl, q = q, q_df = k - 1,
      q_p = stats::pchisq(q, k - 1, lower.tail = FALSE), i_squared = max(0, (q - (k - 1)) / q),
       prediction_low = if (k > 2) out$estimate - t * spread else NA_real_, prediction_high = if (k > 2) out$estimate +
           t * spread else NA_real_, weights_fixed = w / sum(w),
       weights_random = out$weights, egger = egger_test(y, se), leave_one_out = leave_studies_out(y, v, conf_level), k = k)
}

pooled_line <- function(estimate, se, z) list(estimate = estimate, se = se, ci_low = estimate - z * se,
    ci_high = estimate + z * se, statistic = estimate / se, p_value = 2 * stats::pnorm(-abs(estimate / se)))

#' Random-effects estimate with the Hartung-Knapp standard error
#' @noRd
random_line <- function(y, v, tau2, conf_level) {
  k <- length(y); w <- 1 / (v + tau2)
  estimate <- sum(w * y) / sum(w)
  plain <- sqrt(1 / sum(w))
  se <- sqrt(sum(w * (y - estimate)^2) / (k - 1)) * plain
  t <- stats::qt(1 - (1 - conf_level) / 2, k - 1)
  list(estimate = estimate, se = se, se_plain = plain, ci_low = estimate - t * se, ci_high = estimate + t * se,
      statistic = estimate / se, df = k - 1, p_value = 2 * stats::pt(-abs(estimate / se), k - 1),
       weights = w / sum(w))
}

#' Variance between studies by restricted maximum likelihood: the root of its derivative, or zero
#' @noRd
tau_reml <- function(y, v, start) {
  slope <- function(t) {
    w <- 1 / (v + t)
    m <- sum(w * y) / sum(w)
    -0.5 * sum(w) + 0.5 * sum(w^2) / sum(w) + 0.5 * sum(w^2 * (y - m)^2)
  }
  if (slope(0) <= 0) return(0)
  high <- max(start, stats::var(y), 1e-8)
  while (slope(high) > 0) high <- high * 4
  polish_root(slope, stats::uniroot(slope, c(0, high), tol = 1e-15 * max(1, high), maxiter = 1000)$root)
}

#' Asymmetry of the funnel: effect over its error against precision
#' @noRd
egger_test <- function(y, se) {
  if (length(y) < 3) return(list(intercept = NA_real_, se = NA_real_, p_value = NA_real_))
  fit <- stat_least_squares(cbind(1, 1 / se), y / se)
  if (length(fit$kept) < 2 || fit$df < 1) return(list(intercept = NA_real_, se = NA_real_, p_value = NA_real_))
  t <- fit$coefficients[1] / fit$se[1]
  list(intercept = fit$coefficients[1], se = fit$se[1], p_value = 2 * stats::pt(-abs(t), fit$df))
}

leave_studies_out <- function(y, v, conf_level) {
  if (length(y) < 3) return(NULL)
  rows <- lapply(seq_along(y), function(i) {
    dl <- tau_reml(y[-i], v[-i], 0.1)
    unlist(random_line(y[-i], v[-i], dl, conf_level)[c("estimate", "ci_low", "ci_high")])
  })
  as.data.frame(do.call(rbind, rows))
}
