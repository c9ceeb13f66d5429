# Proportional odds regression of an ordered outcome.

#' Proportional odds model by maximum likelihood
#'
#' P(Y <= k) = F(zeta_k - x b) with the logistic F; a positive coefficient raises the chance of higher answers.
#' @param y Codes 1 .. K, every code present. @param x Matrix of predictors without intercept.
#' @param offset Added to x b in each row.
#' @section Shape: `coefficients`, `thresholds`, `se` and `threshold_se` (observed information), `log_likelihood`, `null_log_likelihood`,
#'   `statistic` (likelihood ratio), `df`, `p_value`, `deviance`, `aic`, `bic`, `n`, `converged`.
#' @section Source: McCullagh, P. (1980). JRSS B 42, 109-142.
#' @noRd
stat_ordinal <- function(y, x, offset = 0) {
  k <- max(y); n <- length(y); p <- ncol(x)
  if (k < 3) stop_data("An ordinal model needs an outcome of at least three levels.", class = "group_count")
  x <- unname(x)
  centre <- colMeans(x)
  z <- sweep(x, 2, centre)
  if (p > 0 && qr(z)$rank < p) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  upper <- matrix(0, n, k - 1); lower <- upper
  inner <- y < k; upper[cbind(which(inner), y[inner])] <- 1
  later <- y > 1; lower[cbind(which(later), y[later] - 1)] <- 1
  shares <- cumsum(tabulate(y, k))[-k] / n
  null <- sum(tabulate(y, k) * log(tabulate(y, k) / n))
  theta <- c(stats::qlogis(shares), numeric(p))
  current <- ordinal_score(theta, upper, lower, z, inner, later, offset)
  converged <- FALSE
  for (iteration in 1:100) {
    step <- tryCatch(solve(current$information, current$score),
        error = function(e) stop_data("The model cannot be fitted: the outcome is told apart perfectly.", class = "separation"))
    size <- 1
    repeat {
      trial <- ordinal_score(theta + size * step, upper, lower, z, inner, later, offset)
      if (is.finite(trial$log_likelihood) && trial$log_likelihood >= current$log_likelihood - 1e-12 * abs(current$log_likelihood)) break
      size <- size / 2
      if (size < 1e-8) break
    }
    theta <- theta + size * step; current <- trial
    if (p > 0 && max(abs(theta[-seq_len(k - 1)] * apply(z, 2,
        stats::sd))) > 30) stop_data("The outcome is told apart perfectly by a predictor, so its odds ratio runs off.", class = "separation")
    if (max(abs(step)) < 1e-9 * (1 + max(abs(theta)))) { converged <- TRUE; break }
  }
  covariance <- solve(current$information)
  b <- theta[-seq_len(k - 1)]
  # thresholds of the uncentred predictors
  shift <- cbind(diag(k - 1), matrix(rep(centre, each = k - 1), k - 1))
  thresholds <- drop(shift %*% theta)
  statistic <- 2 * (current$log_likelihood - null)
  list(coefficients = b, thresholds = thresholds, se = sqrt(diag(covariance))[-seq_len(k - 1)],
      threshold_se = sqrt(diag(shift %*% covariance %*% t(shift))),
       log_likelihood = current$log_likelihood, null_log_likelihood = null, statistic = statistic, df = p, p_value = stats::pchisq(statistic,
           p, lower.tail = FALSE),
       deviance = -2 * current$log_likelihood, aic = -2 * current$log_likelihood + 2 * length(theta),
           bic = -2 * current$log_likelihood + log(n) * length(theta), n = n, converged = converged)
}

#' Profile-likelihood limits of the coefficients, the thresholds at their best beside every value
#' @section Shape: as of [stat_profile_limits()].
#' @noRd
stat_ordinal_limits <- function(y, x, fit, conf_level = 0.95) {
  profile_limits(fit, seq_len(ncol(x)), conf_level, function(j, b) stat_ordinal(y, x[, -j, drop = FALSE], x[, j] * b)$deviance)
}

#' Log likelihood, score and observed information
#' @noRd
ordinal_score <- function(theta, upper, lower, z, inner, later, offset = 0) {
  q <- ncol(upper)
  eta <- drop(z %*% theta[-seq_len(q)]) + offset
  u <- ifelse(inner, drop(upper %*% theta[seq_len(q)]) - eta, Inf); l <- ifelse(later, drop(lower %*% theta[seq_len(q)]) - eta, -Inf)
  p <- stats::plogis(u) - stats::plogis(l)
  if (any(p <= 0) || is.unsorted(theta[seq_len(q)])) return(list(log_likelihood = -Inf))
  fu <- ifelse(inner, stats::dlogis(u), 0); fl <- ifelse(later, stats::dlogis(l), 0)
  # derivative of the logistic density
  du <- ifelse(inner, fu * (1 - 2 * stats::plogis(u)), 0); dl <- ifelse(later, fl * (1 - 2 * stats::plogis(l)), 0)
  au <- cbind(upper, -z); al <- cbind(lower, -z)
  g <- (au * fu - al * fl) / p
  list(log_likelihood = sum(log(p)), score = colSums(g), information = crossprod(g) - crossprod(au, au * (du / p)) + crossprod(al, al * (dl / p)))
}
