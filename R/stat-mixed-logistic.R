# Logistic model with one random intercept.

#' Random-intercept logistic regression by maximum likelihood
#'
#' @param y 0/1. @param x Model matrix with intercept. @param group Codes from 1.
#' @section Shape: `coefficients`, `se`, `covariance` (of the coefficients), `sigma` (standard deviation of the intercepts), `sigma_se`, `icc` (on
#' the latent scale), `log_likelihood`,
#'   `plain_log_likelihood` (no groups), `n`, `groups`, `fitted` (chances with the predicted intercepts), `ranef`.
#' @section Errors: `one_group`, `too_few_rows`, `separation`.
#' @section Source: Pinheiro, J. C. and Bates, D. M. (1995). Journal of Computational and Graphical Statistics 4, 12-35 (adaptive Gauss-Hermite
#'   quadrature); the information from Louis, T. A. (1982). JRSS B 44, 226-233.
#' @noRd
stat_mixed_logistic <- function(y, x, group, nodes = 31L) {
  x <- unname(x); dimnames(x) <- NULL
  g <- max(group); n <- length(y)
  if (g < 2) stop_data("A mixed model needs at least two groups.", class = "one_group")
  if (n <= g) stop_data("Every group has one row only, so differences between groups cannot be told from the rest.", class = "too_few_rows")
  plain <- stat_generalised(x, y, "binomial")
  rule <- gauss_hermite(nodes)
  theta <- c(plain$coefficients, 0.5)
  at <- mixed_logistic_at(theta, y, x, group, rule)
  for (step in 1:200) {
    move <- tryCatch(solve(at$information, at$gradient), error = function(e) at$gradient / max(1, sqrt(sum(at$gradient^2))))
    if (sum(move * at$gradient) < 0) move <- at$gradient / max(1, sqrt(sum(at$gradient^2)))
    size <- min(1, 3 / max(abs(move)))
    repeat {
      new <- theta + size * move
      new[length(new)] <- max(new[length(new)], 1e-4)
      trial <- mixed_logistic_at(new, y, x, group, rule)
      if (is.finite(trial$log_likelihood) && trial$log_likelihood >= at$log_likelihood - 1e-10) break
      size <- size / 2
      if (size < 1e-8) break
    }
    done <- max(abs(new - theta)) < 1e-10 * (1 + max(abs(theta)))
    if (size >= 1e-8) { theta <- new; at <- trial }
    if (done || size < 1e-8) break
    if (max(abs(theta)) > 40) stop_data("Some group or predictor tells the outcome apart perfectly, so the model has no finite estimate.",
      class = "separation")
  }
  finish_mixed_logistic(theta, at, plain, y, x, group)
}

finish_mixed_logistic <- function(theta, at, plain, y, x, group) {
  p <- ncol(x)
  if (theta[p + 1] <= 0.001 || at$log_likelihood < plain$log_likelihood) {
    # no variance between groups: the model is the plain one
    return(list(coefficients = plain$coefficients, se = plain$se, covariance = plain$unscaled, sigma = 0, sigma_se = NA_real_, icc = 0,
        log_likelihood = plain$log_likelihood,
                plain_log_likelihood = plain$log_likelihood, n = length(y), groups = max(group), fitted = plain$fitted, ranef = rep(0, max(group))))
  }
  covariance <- solve(at$information)
  se <- sqrt(diag(covariance))
  sigma <- theta[p + 1]
  ranef <- sigma * at$mode
  list(coefficients = theta[seq_len(p)], se = se[seq_len(p)], covariance = covariance[seq_len(p), seq_len(p), drop = FALSE], sigma = sigma,
      sigma_se = se[p + 1], icc = sigma^2 / (sigma^2 + pi^2 / 3),
       log_likelihood = at$log_likelihood, plain_log_likelihood = plain$log_likelihood, n = length(y), groups = max(group),
       fitted = stats::plogis(drop(x %*% theta[seq_len(p)]) + ranef[group]), ranef = ranef)
}

#' Nodes and weights of Gauss-Hermite quadrature (weight exp(-z^2))
#' @section Source: Golub, G. H. and Welsch, J. H. (1969). Mathematics of Computation 23, 221-230.
#' @noRd
gauss_hermite <- function(n) {
  off <- sqrt(seq_len(n - 1) / 2)
  jacobi <- diag(0, n)
  jacobi[cbind(seq_len(n - 1), 2:n)] <- off; jacobi[cbind(2:n, seq_len(n - 1))] <- off
  e <- eigen(jacobi, symmetric = TRUE)
  list(z = e$values, w = sqrt(pi) * e$vectors[1, ]^2)
}

#' Log likelihood, gradient and information at a value of the parameters
#' @noRd
mixed_logistic_at <- function(theta, y, x, group, rule) {
  p <- ncol(x); g <- max(group); sigma <- theta[p + 1]
  eta <- drop(x %*% theta[seq_len(p)])
  centre <- posterior_modes(eta, y, group, sigma)
  log_terms <- matrix(0, g, length(rule$z))
  u <- centre$mode + sqrt(2) * outer(centre$scale, rule$z)
  for (k in seq_along(rule$z)) {
    t <- eta + sigma * u[group, k]
    log_terms[, k] <- rowsum(y * t - softplus(t), group)[, 1] - u[, k]^2 / 2 + rule$z[k]^2 + log(rule$w[k])
  }
  top <- apply(log_terms, 1, max)
  post <- exp(log_terms - top)
  total <- rowSums(post)
  post <- post / total
  log_likelihood <- sum(top + log(total) + log(centre$scale)) - g * log(pi) / 2
  gradient <- matrix(0, g, p + 1); info <- matrix(0, p + 1, p + 1)
  for (k in seq_along(rule$z)) {
    uk <- u[group, k]
    chance <- stats::plogis(eta + sigma * uk)
    wide <- cbind(x, uk)
    score <- rowsum(wide * (y - chance), group)
    gradient <- gradient + score * post[, k]
    info <- info + crossprod(wide, wide * (post[group, k] * chance * (1 - chance))) - crossprod(score, score * post[, k])
  }
  list(log_likelihood = log_likelihood, gradient = unname(colSums(gradient)), information = unname(info + crossprod(gradient)), mode = centre$mode)
}

softplus <- function(t) pmax(t, 0) + log1p(exp(-abs(t)))

#' Mode and scale of each group's standardised intercept, given its rows
#' @noRd
posterior_modes <- function(eta, y, group, sigma) {
  u <- rep(0, max(group))
  for (i in 1:100) {
    chance <- stats::plogis(eta + sigma * u[group])
    slope <- sigma * rowsum(y - chance, group)[, 1] - u
    curve <- 1 + sigma^2 * rowsum(chance * (1 - chance), group)[, 1]
    step <- slope / curve
    u <- u + pmin(pmax(step, -2), 2)
    if (max(abs(step)) < 1e-12) break
  }
  list(mode = unname(u), scale = unname(1 / sqrt(curve)))
}
