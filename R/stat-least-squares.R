# Least squares from triangular factors, rank-revealing.

#' Matrix of a model from columns
#'
#' @param columns Named list of numeric vectors and factors, no missing values.
#' @param interactions Pairs of names.
#' @section Shape: list(x = matrix with intercept, term = label of each column, source = column behind each).
#' @section Coding: factors by indicator of every level but the first (treatment coding).
#' @noRd
stat_model_matrix <- function(columns, interactions = list()) {
  n <- length(columns[[1]])
  parts <- lapply(names(columns), function(name) indicator_columns(columns[[name]], name))
  names(parts) <- names(columns)
  for (pair in interactions) parts[[paste(pair, collapse = " x ")]] <- product_columns(parts[[pair[1]]],
      parts[[pair[2]]])
  x <- cbind(1, do.call(cbind, lapply(parts, `[[`, "x")))
  dimnames(x) <- NULL
  list(x = x, term = c("(intercept)", unlist(lapply(parts, `[[`, "term"), use.names = FALSE)),
       source = c("(intercept)", rep(names(parts), vapply(parts, function(p) ncol(p$x), 1L))), rows = n)
}

indicator_columns <- function(v, name) {
  if (!is.factor(v)) return(list(x = cbind(as.double(v)), term = name))
  levels <- levels(v)[-1]
  x <- vapply(levels, function(l) as.double(v == l), numeric(length(v)))
  list(x = matrix(x, nrow = length(v)), term = sprintf("%s = %s", name, levels))
}

product_columns <- function(a, b) {
  grid <- expand.grid(i = seq_along(a$term), j = seq_along(b$term))
  list(x = a$x[, grid$i, drop = FALSE] * b$x[, grid$j, drop = FALSE],
       term = paste(a$term[grid$i], b$term[grid$j], sep = " x "))
}

#' Least squares fit
#'
#' @param x Model matrix with intercept first.
#' @param y Outcome.
#' @param w Weights or NULL.
#' @section Shape: `coefficients` (NA where aliased), `se`, `df`, `sigma`, `r_squared`, `adj_r_squared`,
#'   `statistic`, `df1`,
#'   `df2`, `p_value` (overall F), `rss`, `tss`, `fitted`, `residuals`, `leverage`, `aliased`, `unscaled` (inverse
#'   cross-product).
#' @section Source: Householder QR; a column is aliased when its part orthogonal to those before is below 1e-7 of its
#'   own length, the usual limit for data given to single precision.
#' @noRd
stat_least_squares <- function(x, y, w = NULL) {
  p <- ncol(x)
  y <- as.double(y)
  r <- kernel_triangle(x, y, w, thread_count())
  kept <- independent_columns(r[seq_len(p), seq_len(p), drop = FALSE])
  solved <- if (needs_more_digits(r, kept, nrow(x))) solve_precisely(x[, kept, drop = FALSE], y, w) else solve_kept(r, kept, p)
  n <- if (is.null(w)) length(y) else sum(w > 0)
  df <- n - length(kept)
  if (df < 1) {
    stop_data(sprintf("The model has %d coefficients but only %d complete rows.", length(kept), n),
              todo = "Use fewer predictors or more rows.", class = "too_few_rows")
  }
  rows <- kernel_fit_rows(x, y, solved$r, as.integer(kept - 1L), solved$beta, w, thread_count())
  squares <- sums_of_squares(y, rows$residuals, w)
  coefficients <- se <- rep(NA_real_, p)
  coefficients[kept] <- solved$beta
  se[kept] <- sqrt(squares$rss / df * diag(solved$unscaled))
  c(list(coefficients = coefficients, se = se, df = df, kept = kept, aliased = setdiff(seq_len(p), kept),
         fitted = rows$fitted, residuals = rows$residuals, leverage = rows$leverage, unscaled = solved$unscaled, n = n),
    fit_quality(squares$rss, squares$tss, length(kept), df, n))
}

#' Squares about the fit and about the mean
#' @noRd
sums_of_squares <- function(y, residuals, w) {
  if (is.null(w)) return(list(rss = sum(residuals^2), tss = sum((y - mean(y))^2)))
  list(rss = sum(w * residuals^2), tss = sum(w * (y - sum(w * y) / sum(w))^2))
}

fit_quality <- function(rss, tss, terms, df, n) {
  r_squared <- if (tss > 0) 1 - rss / tss else NA_real_
  df1 <- terms - 1
  f <- if (df1 > 0) ((tss - rss) / df1) / (rss / df) else NA_real_
  list(rss = rss, tss = tss, sigma = sqrt(rss / df), r_squared = r_squared,
       adj_r_squared = 1 - (1 - r_squared) * (n - 1) / df, statistic = f, df1 = df1, df2 = df,
       p_value = if (df1 > 0) stats::pf(f, df1, df, lower.tail = FALSE) else NA_real_,
       log_likelihood = -n / 2 * (log(2 * pi) + log(rss / n) + 1),
       aic = n * (log(2 * pi) + log(rss / n) + 1) + 2 * (terms + 1),
       bic = n * (log(2 * pi) + log(rss / n) + 1) + log(n) * (terms + 1))
}

#' Columns of a triangular factor that are not combinations of those before
#' @noRd
independent_columns <- function(r, tolerance = 1e-7) {
  p <- ncol(r)
  kept <- integer()
  length_of <- sqrt(colSums(r^2))
  for (j in seq_len(p)) {
    if (length_of[j] == 0) next
    basis <- if (length(kept)) qr.Q(qr(r[, kept, drop = FALSE])) else matrix(0, p, 0)
    v <- r[, j]
    rest <- v - basis %*% crossprod(basis, v)
    rest <- rest - basis %*% crossprod(basis, rest)  # twice is enough
    if (sqrt(sum(rest^2)) > tolerance * length_of[j]) kept <- c(kept, j)
  }
  kept
}

#' Are the columns so nearly collinear that ordinary precision would cost digits that are shown?
#'
#' The smallest part of a column that is orthogonal to those before it, relative to its length: below 1e-5 about ten of
#' the sixteen digits are gone. In tables where it costs no time, digits are kept from 1e-2 on.
#' @noRd
needs_more_digits <- function(r, kept, rows) {
  part <- abs(diag(r))[kept] / sqrt(colSums(r[, kept, drop = FALSE]^2))
  min(part) < if (rows > 1e5) 1e-5 else 1e-2
}

solve_precisely <- function(x, y, w) {
  out <- kernel_solve_precisely(x, as.double(y), w)
  inverse <- backsolve(out$r, diag(ncol(x)))
  list(beta = out$beta, unscaled = tcrossprod(inverse), r = out$r)
}

solve_kept <- function(r, kept, p) {
  full <- length(kept) == p
  small <- if (full) r else kernel_triangle(r[, c(kept, p + 1), drop = FALSE], NULL, NULL, 1L)
  k <- length(kept)
  top <- small[seq_len(k), seq_len(k), drop = FALSE]
  inverse <- backsolve(top, diag(k))
  list(beta = backsolve(top, small[seq_len(k), k + 1]), unscaled = tcrossprod(inverse), r = top)
}

#' Covariance of the coefficients that holds where the residual spread changes, HC3
#' @section Shape: matrix of the coefficients that were fitted (`fit$kept`).
#' @section Source: MacKinnon, J. G. and White, H. (1985). Journal of Econometrics 29, 305-325.
#' @noRd
stat_hc3 <- function(x, fit) {
  scaled <- x[, fit$kept, drop = FALSE] * (fit$residuals / pmax(1 - fit$leverage, 1e-12))
  fit$unscaled %*% crossprod(scaled) %*% fit$unscaled
}
