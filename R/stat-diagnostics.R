# What a fitted model tells of single rows, of its columns among themselves, and of the chances it gives.

#' Influence of each row on a least-squares or generalised fit
#'
#' @param x Model matrix. @param fit Output of stat_least_squares(), or of stat_generalised() with `y` and `family`.
#' @param y,family Outcome (0/1 or counts) and "binomial" or "poisson"; NULL for least squares.
#' @section Shape: data frame residual (raw), standardised (divided by its standard error), leverage, cooks_distance; one row a row of x.
#' @section Source: Cook, R. D. (1977). Technometrics 19, 15-18; Pregibon, D. (1981). Annals of Statistics 9, 705-724 (generalised fits).
#' @noRd
stat_row_influence <- function(x, fit, y = NULL, family = NULL) {
  if (is.null(family)) {
    raw <- fit$residuals; h <- fit$leverage
    scaled <- raw / fit$sigma
  } else {
    weight <- if (family == "binomial") fit$fitted * (1 - fit$fitted) else fit$fitted
    kept <- x[, fit$kept, drop = FALSE]
    h <- weight * rowSums((kept %*% fit$unscaled) * kept)
    raw <- y - fit$fitted
    scaled <- raw / sqrt(weight)
  }
  room <- pmax(1 - h, 1e-12)
  data.frame(residual = raw, standardised = scaled / sqrt(room), leverage = h, cooks_distance = scaled^2 * h / room^2 / length(fit$kept))
}

#' How far each coefficient moves when a row is left out, in its standard errors without that row
#'
#' @param rows Rows wanted. @section Shape: matrix, one row a wanted row, one column a coefficient that was fitted.
#' @section Source: Belsley, D. A., Kuh, E. and Welsch, R. E. (1980). Regression Diagnostics, 2.1. Wiley.
#' @noRd
stat_dfbetas <- function(x, fit, rows) {
  kept <- x[rows, fit$kept, drop = FALSE]
  e <- fit$residuals[rows]; h <- pmin(fit$leverage[rows], 1 - 1e-12)
  moved <- (kept %*% fit$unscaled) * (e / (1 - h))
  without <- sqrt(pmax(fit$rss - e^2 / (1 - h), 0) / (fit$df - 1))
  sweep(moved / without, 2, sqrt(diag(fit$unscaled)), "/")
}

#' Generalised variance inflation of each column of a model
#'
#' A column of k levels has k - 1 coefficients; its factor is that of all of them together, and its (1 / 2 df)-th power compares
#' with the square root of an ordinary variance inflation factor.
#' @param x Model matrix. @param source Column each coefficient comes from (first element: the intercept).
#' @param kept Coefficients that were fitted.
#' @section Shape: data frame column, df, gvif, per_df (gvif^(1 / (2 df))).
#' @section Source: Fox, J. and Monette, G. (1992). Generalized collinearity diagnostics. JASA 87, 178-183.
#' @noRd
stat_variance_inflation <- function(x, source, kept) {
  kept <- kept[kept != 1]
  names <- unique(source[kept])
  if (length(names) < 2) return(NULL)
  z <- x[, kept, drop = FALSE]
  z <- sweep(z, 2, colMeans(z))
  r <- crossprod(sweep(z, 2, sqrt(colSums(z^2)), "/"))
  size <- function(at) if (length(at)) exp(determinant(r[at, at, drop = FALSE])$modulus[[1]]) else 1
  rows <- lapply(names, function(name) {
    own <- which(source[kept] == name)
    gvif <- size(own) * size(setdiff(seq_along(kept), own)) / size(seq_along(kept))
    data.frame(column = name, df = length(own), gvif = gvif, per_df = gvif^(1 / (2 * length(own))), stringsAsFactors = FALSE)
  })
  do.call(rbind, rows)
}

#' Right and wrong calls at every cut of the fitted chances
#'
#' @param p Fitted chances. @param y 0/1.
#' @section Shape: data frame cut, sensitivity, specificity, falling cuts, the first above every chance (nothing is called an event).
#' @section Source: Fawcett, T. (2006). Pattern Recognition Letters 27, 861-874.
#' @noRd
stat_roc <- function(p, y) {
  cuts <- sort(unique(p), decreasing = TRUE)
  at <- match(p, cuts)
  hits <- cumsum(tabulate(at[y == 1], length(cuts))); alarms <- cumsum(tabulate(at[y == 0], length(cuts)))
  data.frame(cut = c(Inf, cuts), sensitivity = c(0, hits / sum(y == 1)), specificity = c(1, 1 - alarms / sum(y == 0)))
}

#' The cut at which sensitivity and specificity together are largest (the highest such cut)
#' @section Source: Youden, W. J. (1950). Index for rating diagnostic tests. Cancer 3, 32-35.
#' @noRd
stat_best_cut <- function(roc) {
  sum <- roc$sensitivity + roc$specificity
  roc[which(sum > max(sum) - 1e-12)[1], , drop = FALSE]
}

#' Observed shares against fitted chances in groups of about equal size
#'
#' @param groups Groups wanted; equal chances never stand in two groups, so there may be fewer.
#' @section Shape: list(table = data frame group, n, fitted (mean chance), observed (share), ci_low, ci_high (Wilson), statistic, df, p_value);
#'   the test is NA with fewer than three groups.
#' @section Source: Hosmer, D. W. and Lemeshow, S. (1980). Communications in Statistics A9, 1043-1069.
#' @noRd
stat_calibration <- function(p, y, groups = 10, conf_level = 0.95) {
  bounds <- unique(stats::quantile(p, seq(0, 1, length.out = groups + 1), names = FALSE, type = 7))
  g <- if (length(bounds) < 3) rep(1L, length(p)) else as.integer(cut(p, bounds, include.lowest = TRUE))
  g <- match(g, sort(unique(g)))
  n <- tabulate(g); seen <- as.vector(rowsum(as.double(y), g)); expected <- as.vector(rowsum(p, g))
  limits <- stat_wilson(seen, n, conf_level)
  fitted <- expected / n
  statistic <- sum((seen - expected)^2 / (n * fitted * (1 - fitted)))
  df <- length(n) - 2
  enough <- df >= 1 && is.finite(statistic)
  list(table = data.frame(group = seq_along(n), n = n, fitted = fitted, observed = seen / n, ci_low = limits$low, ci_high = limits$high),
       statistic = if (enough) statistic else NA_real_, df = if (enough) df else NA_real_,
       p_value = if (enough) stats::pchisq(statistic, df, lower.tail = FALSE) else NA_real_)
}

#' Zeros that a model of counts expects
#' @param theta Shape of the negative binomial; Inf for Poisson.
#' @noRd
expected_zeros <- function(fitted, theta = Inf) sum(if (is.finite(theta)) (theta / (theta + fitted))^theta else exp(-fitted))
