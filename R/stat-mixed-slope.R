# Linear mixed model with a random intercept and a random slope.

#' Random intercept and slope by restricted maximum likelihood, or by maximum likelihood
#'
#' @param y Outcome. @param x Model matrix with intercept. @param group Codes from 1. @param slope The column whose slope varies (a vector).
#' @param restricted TRUE: restricted likelihood. FALSE: full likelihood, whose log is comparable between models of different columns.
#' @section Shape: list(coefficients, se, df (Satterthwaite), moves (as of [covariance_moves()]), sigma2, covariance (2 x 2, of intercepts at the
#' slope's mean and of slopes),
#'   correlation, log_likelihood, singular, fitted, n, groups).
#' @section Source: Bates, D. et al. (2015). Journal of Statistical Software 67(1) for the relative Cholesky factor; degrees of freedom as in
#'   [stat_mixed_intercept()].
#' @section Tolerance: the score of the factor is brought to zero by Newton steps.
#' @noRd
stat_mixed_slope <- function(y, x, group, slope, restricted = TRUE) {
  x <- unname(x); dimnames(x) <- NULL
  n <- length(y); p <- ncol(x); g <- max(group)
  if (g < 4) stop_data("A random slope needs at least four groups.", sprintf("There are %d.", g), class = "too_few_groups")
  if (n < p + 6 || n <= 2 * g) stop_data("A random slope needs more than two rows in most groups.", class = "too_few_rows")
  middle <- mean(slope)
  size <- stats::sd(slope)
  if (!is.finite(size) || size <= 0) stop_data("The column of the slope does not vary.", class = "outcome_constant")
  s <- slope_sums(y, x, group, cbind(1, (slope - middle) / size), restricted)
  theta <- maximise_slope(s)
  f <- slope_profile(s, theta)
  lambda <- factor_of(theta)
  scale <- diag(c(1, 1 / size))
  psi <- f$sigma2 * tcrossprod(lambda)
  effects <- vapply(s$groups, function(h) drop(psi %*% t(slope_weights(h, lambda, f$sigma2)) %*% (h$zy - h$zx %*% f$beta)), numeric(2))
  moves <- slope_moves(s, psi, f$sigma2)
  list(coefficients = f$beta, se = sqrt(f$sigma2 * diag(f$inverse)), df = satterthwaite_df(moves, diag(p)), moves = moves, sigma2 = f$sigma2,
       covariance = scale %*% psi %*% scale, correlation = psi[1, 2] / sqrt(psi[1, 1] * psi[2, 2]), log_likelihood = f$log_likelihood,
       singular = min(eigen(tcrossprod(lambda), TRUE, TRUE)$values) < 1e-6, fitted = drop(x %*% f$beta) + colSums(t(s$z) * effects[, group]), n = n,
       groups = g, middle = middle)
}

#' Cross-products of each group: all that the likelihood needs
#' @section Shape: `lost`: degrees of freedom that the restricted likelihood spends on the coefficients, 0 for the full one.
#' @noRd
slope_sums <- function(y, x, group, z, restricted = TRUE) {
  rows <- split(seq_along(y), group)
  list(groups = lapply(unname(rows), function(i) list(zz = crossprod(z[i, , drop = FALSE]),
      zx = crossprod(z[i, , drop = FALSE], x[i, , drop = FALSE]),
                                                       zy = crossprod(z[i, , drop = FALSE], y[i]), xx = crossprod(x[i, , drop = FALSE]),
                                                           n = length(i))),
       xx = crossprod(x), xy = crossprod(x, y), yy = sum(y^2), n = length(y), p = ncol(x), z = z,
       lost = if (restricted) ncol(x) else 0)
}

factor_of <- function(theta) matrix(c(theta[1], theta[2], 0, theta[3]), 2)

#' What turns sums over a group into weighted ones: (I - W S) with W = Lambda (I + Lambda' S Lambda)^-1 Lambda'
#' @noRd
group_shrink <- function(h, lambda) {
  inner <- diag(2) + t(lambda) %*% h$zz %*% lambda
  w <- lambda %*% solve(inner, t(lambda))
  list(w = w, determinant = det(inner))
}

slope_weights <- function(h, lambda, sigma2) (diag(2) - group_shrink(h, lambda)$w %*% h$zz) / sigma2

#' Fit at a given factor, the likelihood and its score
#' @section Shape: list(beta, inverse, sigma2, log_likelihood, score (three numbers)).
#' @noRd
slope_profile <- function(s, theta) {
  lambda <- factor_of(theta)
  parts <- lapply(s$groups, group_shrink, lambda = lambda)
  less <- function(a, b) Reduce(`+`, Map(function(h, q) t(h[[a]]) %*% q$w %*% h[[b]], s$groups, parts))
  a <- s$xx - less("zx", "zx")
  inverse <- tryCatch(solve(a), error = function(e) stop_data("The predictors repeat each other, so their effects cannot be told apart.",
      class = "collinear"))
  beta <- drop(inverse %*% (s$xy - less("zx", "zy")))
  # squares of what is left, summed from cross-products
  rss <- s$yy - drop(less("zy", "zy")) - drop(crossprod(beta, a %*% beta))
  sigma2 <- rss / (s$n - s$lost)
  reml <- s$lost > 0
  log_likelihood <- -0.5 * ((s$n - s$lost) * (log(2 * pi * sigma2) + 1) + sum(log(vapply(parts, `[[`, 1, "determinant"))) +
      reml * as.numeric(determinant(a)$modulus))
  score <- vapply(1:3, function(k) {
    d <- matrix(0, 2, 2); d[c(1, 2, 4)[k]] <- 1
    e <- d %*% t(lambda) + lambda %*% t(d)
    sum(mapply(function(h, q) {
      k1 <- diag(2) - q$w %*% h$zz
      m <- h$zz %*% k1; b <- t(k1) %*% h$zx; r <- t(k1) %*% (h$zy - h$zx %*% beta)
      -0.5 * sum(m * e) + 0.5 * reml * sum(diag(inverse %*% t(b) %*% e %*% b)) + 0.5 * drop(t(r) %*% e %*% r) / sigma2
    }, s$groups, parts))
  }, 1)
  list(beta = beta, inverse = inverse, sigma2 = sigma2, log_likelihood = log_likelihood, score = score)
}

#' The factor at which the score is zero, from the best of a few starts
#' @noRd
maximise_slope <- function(s) {
  starts <- list(c(1, 0, 0.5), c(0.3, 0, 0.1))
  value <- function(theta) -slope_profile(s, theta)$log_likelihood
  slope <- function(theta) -slope_profile(s, theta)$score
  found <- lapply(starts, function(start) stats::optim(start, value, slope, method = "BFGS", control = list(reltol = 1e-13, maxit = 500)))
  theta <- found[[which.min(vapply(found, `[[`, 1, "value"))]]$par
  for (round in 1:30) {
    g <- slope_profile(s, theta)$score
    h <- vapply(1:3, function(k) { e <- replace(numeric(3), k, 1e-5 * max(1, abs(theta[k])))
      (slope_profile(s, theta + e)$score - slope_profile(s, theta - e)$score) / (2 * e[k]) }, numeric(3))
    step <- tryCatch(solve(h, g), error = function(e) NULL)
    if (is.null(step) || any(!is.finite(step)) || max(abs(step)) > 0.5) break
    theta <- theta - step
    if (max(abs(step)) < 1e-12) break
  }
  theta * c(sign(theta[1]), sign(theta[1]), sign(theta[3])) * (theta != 0)
}

#' How the covariance of the coefficients moves with the four variances and covariances, and their own covariance from the expected information
#' @section Shape: As of [covariance_moves()]; `variance` is NULL where the information cannot be inverted.
#' @noRd
slope_moves <- function(s, psi, sigma2) {
  units <- list(matrix(c(1, 0, 0, 0), 2), matrix(c(0, 1, 1, 0), 2), matrix(c(0, 0, 0, 1), 2))
  lambda <- tryCatch(t(chol(psi / sigma2 + diag(1e-300, 2))), error = function(e) t(suppressWarnings(chol(psi / sigma2 +
      diag(1e-9 * max(diag(psi)) / sigma2, 2)))))
  g <- lapply(s$groups, function(h) {
    w <- group_shrink(h, lambda)$w
    k <- (diag(2) - w %*% h$zz) / sigma2
    b1 <- t(k) %*% h$zx; b2 <- t(k) %*% b1
    t1 <- w %*% h$zx / sigma2
    t2 <- t1 / sigma2 + k %*% t1
    t3 <- t1 / sigma2^2 + k %*% t2
    list(m1 = h$zz %*% k, m2 = h$zz %*% k %*% k, b1 = b1, b2 = b2, x2 = h$xx / sigma2^2 - t(h$zx) %*% t2,
         x3 = h$xx / sigma2^3 - t(h$zx) %*% t3, x1 = h$xx / sigma2 - t(h$zx) %*% t1, trace2 = (h$n - 2) / sigma2^2 + sum(diag(k %*% k)))
  })
  total <- function(f) Reduce(`+`, lapply(g, f))
  c <- solve(total(function(q) q$x1))
  a <- c(lapply(units, function(e) total(function(q) t(q$b1) %*% e %*% q$b1)), list(total(function(q) q$x2)))
  both <- function(i, j) {
    if (i == 4 && j == 4) return(list(total(function(q) q$trace2), total(function(q) q$x3)))
    if (j == 4) return(list(total(function(q) sum(q$m2 * units[[i]])), total(function(q) t(q$b2) %*% units[[i]] %*% q$b1)))
    list(total(function(q) sum(diag(q$m1 %*% units[[i]] %*% q$m1 %*% units[[j]]))),
        total(function(q) t(q$b1) %*% units[[i]] %*% q$m1 %*% units[[j]] %*% q$b1))
  }
  information <- matrix(0, 4, 4)
  for (i in 1:4) for (j in i:4) {
    t <- both(i, j)
    # what restricting the likelihood takes off the information
    taken <- if (s$lost > 0) 2 * sum(diag(c %*% t[[2]])) - sum(diag(c %*% a[[i]] %*% c %*% a[[j]])) else 0
    information[i, j] <- information[j, i] <- 0.5 * (t[[1]] - taken)
  }
  list(covariance = c, by = lapply(a, function(m) c %*% m %*% c), variance = tryCatch(solve(information), error = function(e) NULL))
}
