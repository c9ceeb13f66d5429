# Errors of least squares when rows of one cluster belong together.

#' Cluster-robust standard errors with the bias-reduced correction (CR2) and their degrees of freedom
#'
#' @param x Model matrix. @param fit Result of [stat_least_squares()]. @param cluster Codes from 1.
#' @section Shape: list(se, df (one a coefficient; NA where aliased), covariance of those kept, clusters).
#' @section Source: Bell, R. M. and McCaffrey, D. F. (2002). Survey Methodology 28, 169-181; Pustejovsky, J. E. and Tipton, E. (2018). Journal
#'   of Business
#'   and Economic Statistics 36, 672-683.
#' @noRd
stat_clustered <- function(x, fit, cluster) {
  x <- x[, fit$kept, drop = FALSE]; m <- fit$unscaled; p <- ncol(x); g <- max(cluster)
  if (g < 3) stop_data("Cluster-robust errors need at least three clusters.", class = "too_few_groups")
  rows <- split(seq_len(nrow(x)), cluster)
  meat <- matrix(0, p, p)
  pull <- vector("list", g)
  for (k in seq_len(g)) {
    xk <- x[rows[[k]], , drop = FALSE]
    a <- inverse_root(diag(nrow(xk)) - xk %*% m %*% t(xk))
    pull[[k]] <- t(xk) %*% a
    score <- drop(pull[[k]] %*% fit$residuals[rows[[k]]])
    meat <- meat + score %o% score
  }
  v <- m %*% meat %*% m
  df <- vapply(seq_len(p), function(j) satterthwaite_clusters(x, m, rows, pull, j), 1)
  se <- degrees <- rep(NA_real_, length(fit$coefficients))
  se[fit$kept] <- sqrt(diag(v)); degrees[fit$kept] <- df
  list(se = se, df = degrees, covariance = v, clusters = g)
}

#' Symmetric inverse square root; directions without variance are left out
#' @noRd
inverse_root <- function(s) {
  e <- eigen(s, symmetric = TRUE)
  d <- ifelse(e$values > 1e-10, 1 / sqrt(pmax(e$values, 1e-300)), 0)
  e$vectors %*% (d * t(e$vectors))
}

#' Degrees of freedom of one coefficient's variance, had all rows the same spread
#' @noRd
satterthwaite_clusters <- function(x, m, rows, pull, j) {
  b <- vapply(seq_along(rows), function(k) {
    own <- drop(m[j, ] %*% pull[[k]])
    out <- -drop(x %*% (m %*% (t(x[rows[[k]], , drop = FALSE]) %*% own)))
    out[rows[[k]]] <- out[rows[[k]]] + own
    out
  }, numeric(nrow(x)))
  bb <- crossprod(b)
  sum(diag(bb))^2 / sum(bb^2)
}
