# Outcomes of several levels without an order.

#' Multinomial logistic regression against the first level
#'
#' @param y Codes 1 .. K. @param x Model matrix with intercept.
#' @section Shape: `coefficients` and `se` (matrices, levels 2 .. K by columns of x), `log_likelihood`,
#'   `null_log_likelihood`, `statistic`, `df`, `p_value`, `aic`, `bic`, `fitted`
#'   (matrix), `accuracy`, `n`, `converged`.
#' @section Source: McCullagh, P. and Nelder, J. A. (1989), section 5.2.
#' @noRd
stat_multinomial <- function(y, x) {
  k <- max(y); n <- length(y); p <- ncol(x); q <- k - 1
  centre <- c(0, colMeans(x)[-1])
  z <- unname(sweep(x, 2, centre)); z[, 1] <- 1
  if (qr(z)$rank < p) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  hit <- vapply(seq_len(q) + 1L, function(j) as.numeric(y == j), numeric(n))
  theta <- matrix(0, p, q); theta[1, ] <- log(tabulate(y, k)[-1] / tabulate(y, k)[1])
  part <- function(theta) { e <- exp(z %*% theta); pr <- e / (1 + rowSums(e))
  list(p = pr, ll = sum(log(ifelse(y == 1, 1 - rowSums(pr), pr[cbind(seq_len(n), pmax(1, y - 1))])))) }
  current <- part(theta); converged <- FALSE
  information <- function(pr) {
    h <- matrix(0, p * q, p * q)
    for (a in seq_len(q)) for (b in seq_len(q)) h[(a - 1) * p + seq_len(p), (b - 1) * p + seq_len(p)] <- crossprod(z,
        z * (pr[, a] * ((a == b) - pr[, b])))
    h
  }
  for (i in 1:100) {
    step <- tryCatch(solve(information(current$p), as.vector(crossprod(z, hit - current$p))),
        error = function(e) stop_data("The outcome is told apart perfectly by the predictors.", class = "separation"))
    size <- 1
    repeat { trial <- theta + size * matrix(step, p); new <- part(trial)
    if (is.finite(new$ll) && new$ll >= current$ll - 1e-10 * abs(current$ll)) break; size <- size / 2; if (size < 1e-8) break }
    theta <- trial; current <- new
    if (max(abs(theta[-1, ] * apply(z[, -1, drop = FALSE], 2,
        stats::sd))) > 25) stop_data("The outcome is told apart perfectly by a predictor, so its odds ratio runs off.", class = "separation")
    if (max(abs(step)) < 1e-9 * (1 + max(abs(theta)))) { converged <- TRUE; break }
  }
  covariance <- solve(information(current$p))
  shift <- diag(p); shift[1, ] <- c(1, -centre[-1])
  se <- vapply(seq_len(q), function(a) { at <- (a - 1) * p + seq_len(p); sqrt(diag(shift %*% covariance[at, at] %*% t(shift))) }, numeric(p))
  null <- sum(tabulate(y, k) * log(tabulate(y, k) / n))
  fitted <- cbind(1 - rowSums(current$p), current$p)
  statistic <- 2 * (current$ll - null); df <- (p - 1) * q
  list(coefficients = t(shift %*% theta), se = t(se), log_likelihood = current$ll, null_log_likelihood = null,
      statistic = statistic, df = df, p_value = stats::pchisq(statistic, df, lower.tail = FALSE),
       aic = -2 * current$ll + 2 * p * q, bic = -2 * current$ll + log(n) * p * q, fitted = fitted, accuracy = mean(max.col(fitted,
           "first") == y), n = n, converged = converged)
}
