# Linear mixed model with one random intercept.

#' Random-intercept model by restricted maximum likelihood, or by maximum likelihood
#'
#' @param y Outcome. @param x Model matrix with intercept. @param group Codes from 1.
#' @param restricted REML (the usual) or ML, which makes variances smaller and log likelihoods of different predictors comparable.
#' @section Shape: `coefficients`, `se`, `df` (Satterthwaite, one a coefficient), `sigma2` (residual variance), `tau2` (variance between groups),
#'   `icc`, `log_likelihood`, `covariance` (of the coefficients), `moves` (as of
#'   [covariance_moves()]), `n`, `groups`, `ranef` (predicted intercepts), `fitted`.
#' @section Source: Laird, N. M. and Ware, J. H. (1982). Biometrics 38, 963-974; degrees of freedom: Satterthwaite, F. E. (1946);
#'   Fai, A. H.-T. and Cornelius, P. L. (1996). Journal of Statistical Computation and Simulation 54, 363-378.
#' @noRd
stat_mixed_intercept <- function(y, x, group, restricted = TRUE) {
  x <- unname(x); dimnames(x) <- NULL
  p <- ncol(x); n <- length(y); g <- max(group)
  if (g < 2) stop_data("A mixed model needs at least two groups.", class = "one_group")
  if (n <= g || n - p < 2) stop_data("Every group has one row only, so differences between groups cannot be told from the rest.",
      class = "too_few_rows")
  s <- mixed_sums(y, x, group)
  s$lost <- if (restricted) s$p else 0
  # at a ratio of zero the model is least squares; the derivative there tells whether the variance between groups is above zero
  slope <- function(ratio) mixed_profile(s, ratio)$derivative
  ratio <- 0
  if (slope(0) > 0) {
    high <- 1
    while (slope(high) > 0 && high < 1e8) high <- high * 4
    if (high >= 1e8) stop_data("The groups tell the outcome apart perfectly.", class = "separation")
    ratio <- stats::uniroot(slope, c(0, high), tol = 1e-14, maxiter = 500)$root
    ratio <- polish_root(slope, ratio)
  }
  f <- mixed_profile(s, ratio)
  se <- sqrt(f$sigma2 * diag(f$inverse))
  tau2 <- ratio * f$sigma2
  residual_mean <- f$group_sums / s$size
  ranef <- ratio * f$group_sums / (1 + ratio * s$size)
  moves <- covariance_moves(s, ratio, f)
  list(coefficients = f$beta, se = se, df = satterthwaite_df(moves, diag(p)), covariance = moves$covariance, moves = moves,
      sigma2 = f$sigma2, tau2 = tau2,
      icc = tau2 / (tau2 + f$sigma2), log_likelihood = f$log_likelihood, n = n, groups = g,
       ranef = ranef, fitted = drop(x %*% f$beta) + ranef[group], residual_mean = residual_mean)
}

polish_root <- function(f, x) {
  for (i in 1:4) {
    h <- 1e-5 * max(x, 1e-3)
    d <- (f(x + h) - f(x - h)) / (2 * h)
    if (!is.finite(d) || d == 0) break
    new <- x - f(x) / d
    if (!is.finite(new) || new <= 0) break
    x <- new
  }
  x
}

#' Cross-products and sums within groups: all that the likelihood needs
#' @noRd
mixed_sums <- function(y, x, group) {
  g <- max(group)
  sums <- rowsum(cbind(x, y), group, reorder = TRUE)
  list(xx = crossprod(x), xy = drop(crossprod(x, y)), yy = sum(y^2), size = tabulate(group, g),
      x = unname(sums[, seq_len(ncol(x)), drop = FALSE]), y = unname(sums[, ncol(x) + 1]), n = length(y), p = ncol(x), lost = ncol(x))
}

#' Fit at a given ratio of the variances, and the derivative of the restricted likelihood in it
#' @noRd
mixed_profile <- function(s, ratio) {
  w <- ratio / (1 + ratio * s$size)
  a <- s$xx - crossprod(s$x, s$x * w)
  inverse <- tryCatch(solve(a),
      error = function(e) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear"))
  beta <- drop(inverse %*% (s$xy - drop(crossprod(s$x, s$y * w))))
  group_sums <- s$y - drop(s$x %*% beta)
  rss <- s$yy - 2 * sum(beta * s$xy) + drop(beta %*% s$xx %*% beta) - sum(w * group_sums^2)
  sigma2 <- rss / (s$n - s$lost)
  reml <- s$lost > 0
  shrink <- 1 / (1 + ratio * s$size)
  scaled <- s$x * shrink
  derivative <- -0.5 * sum(s$size * shrink) + 0.5 * reml * sum((scaled %*% inverse) * scaled) + 0.5 * sum((group_sums * shrink)^2) / sigma2
  log_likelihood <- -0.5 * ((s$n - s$lost) * (log(2 * pi * sigma2) + 1) + sum(log(1 + ratio * s$size)) + reml * as.numeric(determinant(a)$modulus))
  list(beta = beta, inverse = inverse, sigma2 = sigma2, group_sums = group_sums, derivative = derivative, log_likelihood = log_likelihood)
}

#' How the covariance of the coefficients moves with the two variances, and the covariance of these from the expected information
#' @section Shape: list(covariance, by = list of two matrices, variance = 2 x 2, least_squares = degrees of freedom where the variance between
#'   groups is zero, else NULL).
#' @noRd
covariance_moves <- function(s, ratio, f) {
  e <- f$sigma2; n <- s$size
  shrink <- 1 / (1 + ratio * n)
  mean_part <- function(power) crossprod(s$x, s$x * (shrink^power / n)) / e^power
  within <- s$xx - crossprod(s$x, s$x / n)
  power <- function(k) within / e^k + mean_part(k)
  c <- f$inverse * e
  v2 <- power(2); v3 <- power(3)
  sg <- s$x * shrink / e
  tg <- s$x * shrink^2 / e^2
  ss <- crossprod(sg)
  d <- n * shrink / e
  cs <- c %*% ss
  # what restricting the likelihood takes off the information
  taken <- if (s$lost > 0) c(2 * sum(c * v3) - sum((c %*% v2) * t(c %*% v2)), 2 * sum(c * crossprod(sg, tg)) - sum((c %*% v2) * t(c %*% ss)),
                             2 * sum(d * rowSums((sg %*% c) * sg)) - sum(cs * t(cs))) else c(0, 0, 0)
  entries <- c((s$n - length(n)) / e^2 + sum(shrink^2) / e^2, sum(n * shrink^2) / e^2, sum(d^2)) - taken
  information <- 0.5 * matrix(entries[c(1, 2, 2, 3)], 2)
  # with no variance between groups the model has the degrees of freedom of least squares
  list(covariance = c, by = list(c %*% v2 %*% c, c %*% ss %*% c), variance = if (ratio > 0) solve(information),
       least_squares = if (ratio == 0) s$n - s$p)
}

#' Satterthwaite degrees of freedom of combinations of the coefficients
#' @param combinations Matrix, a row for each.
#' @noRd
satterthwaite_df <- function(moves, combinations) {
  if (!is.null(moves$least_squares)) return(rep(moves$least_squares, nrow(combinations)))
  if (is.null(moves$variance)) return(rep(NA_real_, nrow(combinations)))
  of <- function(m) rowSums((combinations %*% m) * combinations)
  gradient <- vapply(moves$by, of, numeric(nrow(combinations)))
  gradient <- matrix(gradient, ncol = length(moves$by))
  2 * of(moves$covariance)^2 / rowSums((gradient %*% moves$variance) * gradient)
}

#' F test of several coefficients of a mixed model together
#' @section Shape: list(statistic = F, df1, df2, p_value).
#' @section Source: Fai, A. H.-T. and Cornelius, P. L. (1996). Journal of Statistical Computation and Simulation 54, 363-378.
#' @noRd
mixed_joint <- function(fit, rows) {
  k <- length(rows)
  turn <- eigen(fit$moves$covariance[rows, rows, drop = FALSE], symmetric = TRUE)
  combinations <- matrix(0, k, length(fit$coefficients))
  combinations[, rows] <- t(turn$vectors)
  t2 <- drop(combinations %*% fit$coefficients)^2 / turn$values
  df <- satterthwaite_df(fit$moves, combinations)
  expected <- sum((df / (df - 2))[df > 2])
  df2 <- if (expected > k) 2 * expected / (expected - k) else NA_real_
  list(statistic = sum(t2) / k, df1 = k, df2 = df2, p_value = stats::pf(sum(t2) / k, k, df2, lower.tail = FALSE))
}
