# Logistic regression whose estimates stay finite.

#' Logistic regression with Firth's penalty
#'
#' @param x Model matrix with intercept. @param y 0/1.
#' @section Shape: `coefficients`, `se`, `log_likelihood` (penalised), `fitted`, `n`.
#' @section Errors: `collinear`.
#' @section Source: Firth, D. (1993). Biometrika 80, 27-38; Heinze, G. and Schemper, M. (2002). Statistics in Medicine 21, 2409-2419.
#' @noRd
stat_penalised_logistic <- function(x, y) {
  x <- unname(x)
  beta <- numeric(ncol(x))
  at <- penalised_at(beta, x, y)
  for (i in 1:200) {
    step <- drop(at$inverse %*% at$score)
    step <- step * min(1, 5 / max(abs(step)))
    repeat {
      new <- penalised_at(beta + step, x, y)
      if (new$log_likelihood >= at$log_likelihood - 1e-12 || max(abs(step)) < 1e-12) break
      step <- step / 2
    }
    beta <- beta + step; at <- new
    if (max(abs(step)) < 1e-11) break
  }
  list(coefficients = beta, se = sqrt(diag(at$inverse)), covariance = at$inverse, log_likelihood = at$log_likelihood, fitted = at$p, n = length(y))
}

penalised_at <- function(beta, x, y) {
  eta <- drop(x %*% beta)
  p <- stats::plogis(eta)
  info <- crossprod(x, x * (p * (1 - p)))
  inverse <- tryCatch(solve(info), error = function(e) stop_data("The predictors repeat each other, so their effects cannot be told apart.",
    class = "collinear"))
  h <- rowSums((x %*% inverse) * x) * p * (1 - p)
  list(score = drop(crossprod(x, y - p + h * (0.5 - p))), inverse = inverse, p = p,
       log_likelihood = sum(y * eta - softplus(eta)) + as.numeric(determinant(info)$modulus) / 2)
}
