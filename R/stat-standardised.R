# What a logistic model says in risks, and intervals from its likelihood.

#' Standardised risks: the mean chance of all rows if each stood at a level
#'
#' @param designs List of model matrices, one for each level, the rows as they are otherwise. @param beta,covariance Coefficients kept and their
#'   covariance. @param conf_level Confidence level.
#' @section Shape: list(risk, se, low, high (one a level), difference, difference_se, difference_low, difference_high (each level less the first,
#'   NA for the first)).
#' @section Source: Lane, P. W. and Nelder, J. A. (1982). Biometrics 38, 613-621; errors by the delta method, for the covariates as they are.
#' @noRd
stat_standardised_risks <- function(designs, beta, covariance, conf_level = 0.95) {
  mu <- lapply(designs, function(x) stats::plogis(drop(x %*% beta)))
  slope <- Map(function(x, m) colMeans(x * (m * (1 - m))), designs, mu)
  risk <- vapply(mu, mean, 1)
  error <- function(g) sqrt(max(0, drop(g %*% covariance %*% g)))
  se <- vapply(slope, error, 1)
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  difference <- risk - risk[1]
  difference_se <- vapply(slope, function(g) error(g - slope[[1]]), 1)
  first <- seq_along(risk) == 1
  difference[first] <- difference_se[first] <- NA
  list(risk = risk, se = se, low = pmax(0, risk - z * se), high = pmin(1, risk + z * se), difference = difference, difference_se = difference_se,
       difference_low = difference - z * difference_se, difference_high = difference + z * difference_se)
}

#' Profile-likelihood intervals of the coefficients of a logistic or Poisson model
#'
#' @param x Model matrix, every column kept. @param fit Result of [stat_generalised()]. @param which Columns wanted.
#' @section Shape: matrix of two columns (low, high), a row for each of `which`; infinite where the likelihood stays high.
#' @section Source: Venzon, D. J. and Moolgavkar, S. H. (1988). Applied Statistics 37, 87-94.
#' @noRd
stat_profile_limits <- function(x, y, family, fit, which, conf_level = 0.95, offset = 0) {
  profile_limits(fit, which, conf_level, function(j, b) {
    stat_generalised(x[, -j, drop = FALSE], y, family, offset = offset + x[, j] * b)$deviance
  })
}

#' Where the deviance has risen by the chi-square quantile, either side of each coefficient
#'
#' @param fit list(coefficients, se, deviance). @param deviance_at Function of a coefficient's number and its value: the
#'   deviance with all other parameters at their best.
#' @section Shape: as of [stat_profile_limits()].
#' @noRd
profile_limits <- function(fit, which, conf_level, deviance_at) {
  rise <- stats::qchisq(conf_level, 1)
  limit <- function(j, side) {
    above <- function(b) deviance_at(j, b) - fit$deviance - rise
    from <- fit$coefficients[j]; step <- side * sqrt(rise) * fit$se[j]
    for (round in 1:12) {
      to <- from + step
      if (!is.finite(to) || abs(step) > 1e3 * max(1, abs(from))) return(side * Inf)
      if (above(to) >= 0) return(stats::uniroot(above, sort(c(from, to)), tol = 1e-12, maxiter = 200)$root)
      step <- step * 1.6
    }
    side * Inf
  }
  t(vapply(which, function(j) c(limit(j, -1), limit(j, 1)), numeric(2)))
}
