# Logistic regression of counts out of totals.

#' Fit a logistic model to how many of how many had the event
#'
#' @param x Model matrix with intercept first. @param y Counts. @param trials What each count is out of: whole numbers above 0, no less than y.
#' @section Shape: `coefficients` (NA where aliased), `se`, `kept`, `aliased`, `df`, `fitted` (chances), `deviance`, `null_deviance`, `df_null`,
#'   `log_likelihood`, `null_log_likelihood`, `aic`, `bic`, `pearson` (chi-square over df; NA without df), `unscaled`, `separated`, `n`.
#' @section Source: McCullagh, P. and Nelder, J. A. (1989). Generalized Linear Models, 2nd ed., chapter 4.
#' @noRd
stat_grouped_logistic <- function(x, y, trials) {
  free <- independent_columns(kernel_triangle(x, NULL, NULL, thread_count()))
  mu <- (y + 0.5) / (trials + 1); eta <- stats::qlogis(mu); last <- Inf
  for (iteration in 1:60) {
    weight <- trials * mu * (1 - mu)
    fit <- weighted_step(x, eta + (y / trials - mu) * trials / weight, weight, free)
    eta <- pmin(pmax(drop(x[, fit$kept, drop = FALSE] %*% fit$beta), -34), 34)
    mu <- stats::plogis(eta)
    deviance <- deviance_of_counts(y, trials, mu)
    if (abs(last - deviance) < 1e-13 * (abs(deviance) + 0.1)) break
    last <- deviance
  }
  # errors at the final chances, not at those one step before
  weight <- trials * mu * (1 - mu)
  fit <- weighted_step(x, eta + (y / trials - mu) * trials / weight, weight, free)
  coefficients <- se <- rep(NA_real_, ncol(x))
  coefficients[fit$kept] <- fit$beta; se[fit$kept] <- sqrt(diag(fit$unscaled))
  df <- length(y) - length(fit$kept); p <- length(fit$kept)
  plain <- rep(sum(y) / sum(trials), length(y))
  log_likelihood <- sum(stats::dbinom(y, trials, mu, log = TRUE))
  list(coefficients = coefficients, se = se, kept = fit$kept, aliased = setdiff(seq_len(ncol(x)), fit$kept), df = df, fitted = mu,
       deviance = deviance, null_deviance = deviance_of_counts(y, trials, plain), df_null = length(y) - 1, log_likelihood = log_likelihood,
       null_log_likelihood = sum(stats::dbinom(y, trials, plain, log = TRUE)), aic = 2 * p - 2 * log_likelihood,
       bic = log(length(y)) * p - 2 * log_likelihood, pearson = if (df > 0) sum((y - trials * mu)^2 / weight) / df else NA_real_,
       unscaled = fit$unscaled, separated = any(se[fit$kept] * column_spreads(x)[fit$kept] > 50), n = length(y))
}

deviance_of_counts <- function(y, trials, mu) {
  side <- function(seen, expected) ifelse(seen > 0, seen * log(seen / expected), 0)
  2 * sum(side(y, trials * mu) + side(trials - y, trials * (1 - mu)))
}

#' Where one half is expected to have the event, with limits by Fieller's theorem
#'
#' @param b,v Intercept and slope with their covariance.
#' @section Shape: c(at, low, high); the limits NA where the slope is not clear at the level, as they are then not finite.
#' @section Source: Finney, D. J. (1971). Probit Analysis, 3rd ed., section 4.6; Fieller, E. C. (1954). JRSS B 16, 175-185.
#' @noRd
stat_half_at <- function(b, v, conf_level) {
  at <- -b[1] / b[2]
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  g <- z^2 * v[2, 2] / b[2]^2
  if (g >= 1) return(c(at = at, low = NA, high = NA))
  centre <- at + g / (1 - g) * (at + v[1, 2] / v[2, 2])
  half <- z / (abs(b[2]) * (1 - g)) * sqrt(v[1, 1] + 2 * at * v[1, 2] + at^2 * v[2, 2] - g * (v[1, 1] - v[1, 2]^2 / v[2, 2]))
  c(at = at, low = centre - half, high = centre + half)
}
