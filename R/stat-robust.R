# Models that bend less to single rows, or count with more spread.

#' Huber's M-estimation with the scale from the median absolute residual
#'
#' @param x Model matrix with intercept. @param y Outcome. @param k Residuals beyond k scales lose weight.
#' @section Shape: `coefficients`, `se`, `covariance`, `scale`, `weights`, `df`, `n`, `converged`.
#' @section Source: Huber, P. J. (1981). Robust Statistics, ch. 7; standard errors: his equation 6.5 of chapter 7.
#' @noRd
stat_huber <- function(x, y, k = 1.345) {
  n <- length(y); p <- ncol(x)
  start <- stat_least_squares(x, y)
  if (length(start$aliased)) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  beta <- start$coefficients
  converged <- FALSE
  for (i in 1:500) {
    r <- y - drop(x %*% beta)
    scale <- stat_group_quantiles(abs(r), probs = 0.5)[1] / 0.6745
    if (scale <= 0) stop_data("More than half of the rows lie exactly on the fit, so their spread cannot be told.", class = "outcome_constant")
    w <- pmin(1, k / pmax(abs(r / scale), 1e-300))
    new <- solve(crossprod(x, x * w), crossprod(x, w * y))[, 1]
    done <- max(abs(new - beta)) < 1e-13 * max(1, abs(beta))
    beta <- new
    if (done) { converged <- TRUE; break }
  }
  r <- y - drop(x %*% beta)
  scale <- stat_group_quantiles(abs(r), probs = 0.5)[1] / 0.6745
  u <- r / scale
  slope <- as.numeric(abs(u) <= k)
  m <- mean(slope)
  correction <- 1 + p * stats::var(slope) / (n * m^2)
  variance <- sum((pmax(-k, pmin(k, u)) * scale)^2) / (n - p)
  covariance <- unname(variance * (correction / m)^2 * solve(crossprod(x)))
  list(coefficients = unname(beta), se = sqrt(diag(covariance)), covariance = covariance,
      scale = scale, weights = pmin(1, k / pmax(abs(u), 1e-300)), df = n - p, n = n, converged = converged, fitted = y - r)
}

#' Negative binomial regression (log link, variance mu + mu^2 / theta)
#'
#' @section Shape: `coefficients`, `se` (given theta), `theta`, `log_likelihood`, `null_log_likelihood`, `aic`, `bic`,
#'   `deviance`, `n`, `df`, `fitted`, `pearson`.
#' @section Source: Lawless, J. F. (1987). Canadian Journal of Statistics 15, 209-225.
#' @noRd
stat_negative_binomial <- function(x, y, offset = 0) {
  n <- length(y); p <- ncol(x)
  if (stats::var(y) <= mean(y)) stop_data("The counts are no more spread than a Poisson model allows, so a negative binomial model adds nothing.",
      todo = "Use a Poisson regression.", class = "underdispersed")
  if (length(stat_generalised(x, y, "poisson", offset = offset)$runaway)) {
    stop_data("All counts of some rows that stand apart are zero, so a rate runs off to zero and this model has no finite estimate.",
              todo = "Ask for a Poisson regression, which says where, or leave those rows out.", class = "separation")
  }
  fit <- nb_profile(x, y, offset)
  null <- nb_profile(matrix(1, n, 1), y, offset)
  list(coefficients = fit$beta, se = sqrt(diag(solve(crossprod(x, x * (fit$mu / (1 + fit$mu / fit$theta)))))),
      theta = fit$theta, log_likelihood = fit$log_likelihood, null_log_likelihood = null$log_likelihood,
       deviance = -2 * fit$log_likelihood, aic = -2 * fit$log_likelihood + 2 * (p + 1), bic = -2 * fit$log_likelihood + log(n) * (p +
           1), n = n, df = n - p, fitted = fit$mu, pearson = sum((y - fit$mu)^2 / (fit$mu + fit$mu^2 / fit$theta)) / (n - p))
}

#' Coefficients at a given theta, theta where its score is zero
#' @noRd
nb_profile <- function(x, y, offset = 0) {
  beta <- NULL
  at <- function(theta) {
    b <- nb_coefficients(x, y, theta, beta, offset)
    beta <<- b$beta
    b
  }
  score <- function(log_theta) {
    theta <- exp(log_theta)
    mu <- at(theta)$mu
    theta * sum(digamma(y + theta) - digamma(theta) + log(theta) + 1 - log(theta + mu) - (y + theta) / (mu + theta))
  }
  low <- -6; high <- 10
  if (score(high) > 0) stop_data("The counts are no more spread than a Poisson model allows, so a negative binomial model adds nothing.",
      todo = "Use a Poisson regression.", class = "underdispersed")
  root <- stats::uniroot(score, c(low, high), tol = 1e-13, maxiter = 300)$root
  theta <- exp(root)
  f <- at(theta)
  list(theta = theta, beta = f$beta, mu = f$mu, log_likelihood = sum(stats::dnbinom(y, size = theta, mu = f$mu, log = TRUE)))
}

nb_coefficients <- function(x, y, theta, start = NULL, offset = 0) {
  eta <- if (is.null(start)) log(y + 0.2) else drop(x %*% start) + offset
  beta <- start
  for (i in 1:100) {
    mu <- exp(pmin(eta, 700))
    w <- mu / (1 + mu / theta)
    new <- tryCatch(solve(crossprod(x, x * w), crossprod(x, w * (eta - offset + (y - mu) / mu)))[, 1],
        error = function(e) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear"))
    done <- !is.null(beta) && max(abs(new - beta)) < 1e-12 * max(1, abs(new))
    beta <- new
    eta <- drop(x %*% beta) + offset
    if (done) break
  }
  list(beta = unname(beta), mu = exp(eta))
}

#' Profile-likelihood limits of the coefficients, theta at its best beside every value
#' @section Shape: as of [stat_profile_limits()].
#' @noRd
stat_negative_binomial_limits <- function(x, y, fit, conf_level = 0.95, offset = 0) {
  profile_limits(fit, seq_len(ncol(x)), conf_level, function(j, b) {
    -2 * nb_profile(x[, -j, drop = FALSE], y, offset + x[, j] * b)$log_likelihood
  })
}
