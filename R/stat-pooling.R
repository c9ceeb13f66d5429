# Results of several studies combined.

#' Fixed- and random-effects pooling of effects with standard errors
#'
#' @param y Effects. @param se Standard errors. @param estimator "reml": variance between studies by REML and the interval of Hartung and Knapp;
#'   "dl": both as DerSimonian and Laird give them (moments, normal interval).
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
stat_pool <- function(y, se, conf_level = 0.95, estimator = "reml") {
  k <- length(y)
  if (k < 2) stop_data("Pooling needs at least two studies.", class = "too_few_rows")
  if (any(se <= 0)) stop_data("Every standard error must be above zero.", class = "unfit_data")
  v <- se^2; w <- 1 / v
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  mean <- sum(w * y) / sum(w)
  fixed <- pooled_line(mean, sqrt(1 / sum(w)), z)
  q <- sum(w * (y - mean)^2)
  dl <- tau_moments(y, v)
  tau2 <- if (estimator == "dl") dl else tau_reml(y, v, dl)
  out <- random_line(y, v, tau2, conf_level, estimator)
  t <- stats::qt(1 - (1 - conf_level) / 2, max(1, k - 2))
  spread <- sqrt(tau2 + out$se_plain^2)
  list(fixed = fixed, random = out, tau_squared = tau2, tau_squared_dl = dl, q = q, q_df = k - 1,
      q_p = stats::pchisq(q, k - 1, lower.tail = FALSE), i_squared = max(0, (q - (k - 1)) / q),
       prediction_low = if (k > 2) out$estimate - t * spread else NA_real_, prediction_high = if (k > 2) out$estimate +
           t * spread else NA_real_, weights_fixed = w / sum(w),
       weights_random = out$weights, egger = egger_test(y, se), leave_one_out = leave_studies_out(y, v, conf_level, estimator), k = k)
}

pooled_line <- function(estimate, se, z) list(estimate = estimate, se = se, ci_low = estimate - z * se,
    ci_high = estimate + z * se, statistic = estimate / se, p_value = 2 * stats::pnorm(-abs(estimate / se)))

#' Random-effects estimate with the Hartung-Knapp standard error, or the plain one of DerSimonian and Laird
#' @noRd
random_line <- function(y, v, tau2, conf_level, estimator = "reml") {
  k <- length(y); w <- 1 / (v + tau2)
  estimate <- sum(w * y) / sum(w)
  plain <- sqrt(1 / sum(w))
  if (estimator == "dl") return(c(pooled_line(estimate, plain, stats::qnorm(1 - (1 - conf_level) / 2)), list(se_plain = plain, weights = w / sum(w))))
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

#' Variance between studies by the method of moments
#' @section Source: DerSimonian, R. and Laird, N. (1986). Controlled Clinical Trials 7, 177-188.
#' @noRd
tau_moments <- function(y, v) {
  w <- 1 / v
  q <- sum(w * (y - sum(w * y) / sum(w))^2)
  max(0, (q - (length(y) - 1)) / (sum(w) - sum(w^2) / sum(w)))
}

#' Studies pooled within groups, and the test that all groups have the same effect
#'
#' Each group has a variance between studies of its own; a group of one study keeps that study's error.
#' @param group Codes from 1. @param estimator As in stat_pool().
#' @section Shape: list(table = data frame k, estimate, se, ci_low, ci_high, tau_squared, statistic (chi-square between groups), df, p_value).
#' @section Source: Borenstein, M. et al. (2009). Introduction to Meta-Analysis, ch. 19. Wiley.
#' @noRd
stat_pool_groups <- function(y, se, group, conf_level = 0.95, estimator = "reml") {
  v <- se^2
  parts <- lapply(seq_len(max(group)), function(g) {
    own <- group == g
    if (sum(own) == 1) return(data.frame(k = 1, estimate = y[own], se = se[own], ci_low = y[own] - stats::qnorm(1 - (1 - conf_level) / 2) * se[own],
                                         ci_high = y[own] + stats::qnorm(1 - (1 - conf_level) / 2) * se[own], tau_squared = 0, plain = se[own]))
    tau2 <- if (estimator == "dl") tau_moments(y[own], v[own]) else tau_reml(y[own], v[own], 0.1)
    out <- random_line(y[own], v[own], tau2, conf_level, estimator)
    data.frame(k = sum(own), estimate = out$estimate, se = out$se, ci_low = out$ci_low, ci_high = out$ci_high, tau_squared = tau2, plain = out$se_plain)  # nolint: line_length_linter.
  })
  t <- do.call(rbind, parts)
  w <- 1 / t$plain^2
  q <- sum(w * (t$estimate - sum(w * t$estimate) / sum(w))^2)
  df <- nrow(t) - 1
  list(table = t[setdiff(names(t), "plain")], statistic = q, df = df, p_value = stats::pchisq(q, df, lower.tail = FALSE))
}

#' Does the effect of studies depend on a measured column? A line through the effects, weighted by their errors
#'
#' The variance between studies that the line leaves is estimated by restricted maximum likelihood; the error of the slope is that of
#' Knapp and Hartung, with t on k - 2 degrees of freedom.
#' @param x Column of the studies.
#' @section Shape: `slope`, `se`, `ci_low`, `ci_high`, `statistic`, `df`, `p_value`, `intercept`, `tau_squared`.
#' @section Source: Knapp, G. and Hartung, J. (2003). Statistics in Medicine 22, 2693-2710.
#' @noRd
stat_pool_line <- function(y, se, x, conf_level = 0.95) {
  k <- length(y); v <- se^2
  if (k < 4 || length(unique(x)) < 2) stop_data("A line through the effects needs at least four studies that differ in the column.",
                                                class = "too_few_rows")
  middle <- mean(x); size <- stats::sd(x)
  z <- cbind(1, (x - middle) / size)
  slope_of <- function(t) {
    w <- 1 / (v + t)
    inverse <- solve(crossprod(z, w * z))
    r <- y - drop(z %*% (inverse %*% crossprod(z, w * y)))
    -0.5 * (sum(w) - sum(diag(inverse %*% crossprod(z, w^2 * z)))) + 0.5 * sum(w^2 * r^2)
  }
  tau2 <- if (slope_of(0) <= 0) 0 else {
    high <- max(stats::var(y), 1e-8)
    while (slope_of(high) > 0) high <- high * 4
    polish_root(slope_of, stats::uniroot(slope_of, c(0, high), tol = 1e-15 * max(1, high), maxiter = 1000)$root)
  }
  w <- 1 / (v + tau2)
  inverse <- solve(crossprod(z, w * z))
  b <- drop(inverse %*% crossprod(z, w * y))
  spread <- sum(w * (y - drop(z %*% b))^2) / (k - 2)
  error <- sqrt(spread * inverse[2, 2]) / size
  slope <- b[2] / size
  t <- stats::qt(1 - (1 - conf_level) / 2, k - 2)
  list(slope = slope, se = error, ci_low = slope - t * error, ci_high = slope + t * error, statistic = slope / error, df = k - 2,
       p_value = 2 * stats::pt(-abs(slope / error), k - 2), intercept = b[1] - slope * middle, tau_squared = tau2)
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

leave_studies_out <- function(y, v, conf_level, estimator = "reml") {
  if (length(y) < 3) return(NULL)
  rows <- lapply(seq_along(y), function(i) {
    tau2 <- if (estimator == "dl") tau_moments(y[-i], v[-i]) else tau_reml(y[-i], v[-i], 0.1)
    unlist(random_line(y[-i], v[-i], tau2, conf_level, estimator)[c("estimate", "ci_low", "ci_high")])
  })
  as.data.frame(do.call(rbind, rows))
}
