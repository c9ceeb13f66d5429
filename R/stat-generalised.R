# Generalised linear models by iterated weighted least squares.

#' Fit a logistic or Poisson model
#'
#' @param x Model matrix with intercept first. @param y 0/1 (binomial) or counts (poisson).
#' @param family "binomial" (logit link) or "poisson" (log link).
#' @param offset Added to the linear predictor of each row, as the log of what counts are made over.
#' @section Shape: `coefficients` (NA where aliased), `se`, `kept`, `aliased`, `df`, `fitted`, `deviance`,
#'   `null_deviance`, `df_null`,
#'   `log_likelihood`, `aic`, `bic`, `pseudo_r_squared` (McFadden), `pearson` (chi-square over df), `iterations`,
#'   `converged`,
#'   `unscaled` (covariance of the coefficients kept), `separated` (fitted chances of 0 or 1 with exploding coefficients),
#'   `runaway` (places of those coefficients), `complete` (is every outcome fitted exactly?), `n`.
#' @section Source: McCullagh, P. and Nelder, J. A. (1989). Generalized Linear Models, 2nd ed., section 2.5;
#'   separation: Albert, A. and
#'   Anderson, J. A. (1984). Biometrika 71, 1-10.
#' @section Tolerance: stops when the deviance changes by less than 1e-12 of itself, since scripts are compared to 1e-8.
#' @noRd
stat_generalised <- function(x, y, family, most = 60L, offset = 0) {
  y <- as.double(y)
  offset <- as.double(offset)
  now <- first_step(y, family, offset)
  apart <- if (any(offset != 0)) rep_len(offset, length(y)) else numeric()
  free <- independent_columns(kernel_triangle(x, NULL, NULL, thread_count()))
  converged <- FALSE
  for (iteration in seq_len(most)) {
    before <- now$deviance
    fit <- weighted_step(x, now$response, now$weight, free)
    now <- kernel_step_rows(family == "binomial", x, y, apart, as.integer(fit$kept - 1L), fit$beta, thread_count())
    if (abs(before - now$deviance) < 1e-12 * (abs(now$deviance) + 0.1)) { converged <- TRUE; break }
  }
  # errors at the fitted means, not at those one step before
  fit <- weighted_step(x, now$response, now$weight, free)
  generalised_result(x, y, now$mean, fit, now$deviance, family, iteration, converged, offset)
}

#' Where the steps start: means near the outcomes themselves
#' @noRd
first_step <- function(y, family, offset) {
  mu <- if (family == "binomial") (y + 0.5) / 2 else y + 0.1
  weight <- if (family == "binomial") mu * (1 - mu) else mu
  eta <- if (family == "binomial") stats::qlogis(mu) else log(mu)
  list(response = eta - offset + (y - mu) / weight, weight = weight, deviance = Inf)
}

weighted_step <- function(x, z, w, free = seq_len(ncol(x))) {
  whole <- length(free) == ncol(x)
  p <- length(free)
  r <- kernel_triangle(if (whole) x else x[, free, drop = FALSE], z, w, thread_count())
  # what repeats other columns was left out before; weights near zero must not make more of them seem to
  kept <- independent_columns(r[seq_len(p), seq_len(p), drop = FALSE], 1e-13)
  c(solve_kept(r, kept, p), list(kept = free[kept]))
}

deviance_of <- function(y, mu, family) {
  if (family == "binomial") {
    return(-2 * sum(log(pmax(abs(1 - y - mu), 1e-300))))
  }
  2 * sum(ifelse(y > 0, y * log(pmax(y, 1) / mu), 0) - (y - mu))
}

generalised_result <- function(x, y, mu, fit, deviance, family, iteration, converged, offset = 0) {
  n <- length(y); p <- ncol(x)
  df <- n - length(fit$kept)
  if (df < 1) stop_data(sprintf("The model has %d coefficients but only %d complete rows.", length(fit$kept), n),
                        todo = "Use fewer predictors or more rows.", class = "too_few_rows")
  coefficients <- se <- rep(NA_real_, p)
  coefficients[fit$kept] <- fit$beta
  se[fit$kept] <- sqrt(diag(fit$unscaled))
  # without predictors: one common rate over what the counts are made over
  plain <- if (family == "poisson") rep(exp(offset), length.out = n) * sum(y) / sum(rep(exp(offset), length.out = n)) else rep(mean(y), n)
  null <- deviance_of(y, plain, family)
  edge <- if (family == "binomial") mu < 1e-6 | mu > 1 - 1e-6 else mu < 1e-6
  # (the error of a coefficient counts in the spread of its column)
  runaway <- if (!converged || any(edge)) which(se * column_spreads(x) > 50) else integer()
  complete <- length(runaway) > 0 && all(abs(y - mu) < 1e-4)
  if (complete) { mu <- as.double(y); deviance <- 0 }
  log_likelihood <- if (family == "binomial") -deviance / 2 else sum(stats::dpois(y, mu, log = TRUE))
  null_likelihood <- if (family == "binomial") -null / 2 else sum(stats::dpois(y, plain, log = TRUE))
  spread <- if (family == "binomial") mu * (1 - mu) else mu
  list(coefficients = coefficients, se = se, kept = fit$kept, aliased = setdiff(seq_len(p), fit$kept), df = df,
       fitted = mu, deviance = deviance,
       null_deviance = null, df_null = n - 1, log_likelihood = log_likelihood, aic = -2 * log_likelihood +
       2 * length(fit$kept),
       bic = -2 * log_likelihood + log(n) * length(fit$kept), pseudo_r_squared = 1 - log_likelihood / null_likelihood,
       pearson = sum((y - mu)^2 / pmax(spread, 1e-300)) / df, iterations = iteration, converged = converged,
       separated = length(runaway) > 0, runaway = runaway, complete = complete, n = n, unscaled = fit$unscaled)
}

#' Standard deviations of the columns of a design, 1 for those that do not vary
#' @noRd
column_spreads <- function(x) vapply(seq_len(ncol(x)), function(j) if (all(x[, j] == x[1, j])) 1 else stats::sd(x[, j]), 1)

#' Area under the ROC curve: the share of pairs in which the event has the higher fitted chance
#' @section Source: Hanley, J. A. and McNeil, B. J. (1982). Radiology 143, 29-36 (with its standard error).
#' @noRd
stat_auc <- function(fitted, y, conf_level = 0.95) {
  n1 <- sum(y == 1); n0 <- sum(y == 0)
  rank <- stat_midranks(fitted)$rank
  auc <- (sum(rank[y == 1]) - n1 * (n1 + 1) / 2) / (n1 * n0)
  q1 <- auc / (2 - auc); q2 <- 2 * auc^2 / (1 + auc)
  se <- sqrt((auc * (1 - auc) + (n1 - 1) * (q1 - auc^2) + (n0 - 1) * (q2 - auc^2)) / (n1 * n0))
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * se
  list(auc = auc, auc_low = max(0, auc - half), auc_high = min(1, auc + half))
}

#' Chance or expected count at stated values; the interval is that of the linear predictor, turned back
#' @param fit list(coefficients, unscaled (their covariance)). @param at list(row = values of the design's columns, without the intercept).
#' @section Shape: list(value, se, ci_low, ci_high).
#' @noRd
expected_mean <- function(fit, at, family, conf_level) {
  x <- c(1, at$row)
  eta <- sum(x * fit$coefficients); se <- sqrt(drop(x %*% fit$unscaled %*% x))
  back <- if (family == "binomial") stats::plogis else exp
  slope <- if (family == "binomial") back(eta) * (1 - back(eta)) else back(eta)
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  list(value = back(eta), se = se * slope, ci_low = back(eta - z * se), ci_high = back(eta + z * se))
}
