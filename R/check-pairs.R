# Checks on the relation of two numeric columns and on the residuals of a model.

#' Does a bend (a squared term) add to the straight line?
#'
#' Judged by the share of the remaining spread that the bend takes away, with an F test so that noise in few rows does
#' not raise an alarm.
#' @noRd
check_linear <- function(x, y) {
  n <- length(x)
  if (n < 6 || length(unique(x)) < 3) return(new_check("linear_relation", "not_assessed", "Squared term",
                                                       facts = list(n = n)))
  z <- (x - mean(x)) / stats::sd(x)
  line <- stat_least_squares(cbind(1, z), y)
  bend <- stat_least_squares(cbind(1, z, z^2), y)
  share <- if (line$rss > 0) 1 - bend$rss / line$rss else 0
  f <- (line$rss - bend$rss) / (bend$rss / bend$df)
  p <- stats::pf(f, 1, bend$df, lower.tail = FALSE)
  verdict <- if (isTRUE(p < 0.05 && share > 0.05)) "caution" else "ok"
  new_check("linear_relation", verdict, "F test of a squared term",
            list(list(id = "bend_share", label = "share of the remaining spread a bend explains", value = share,
                      of = NULL),
                 list(id = "p_value", label = "p", value = p, of = "squared term")), list(share = share, p = p))
}

#' Does one row carry the correlation?
#' @noRd
check_influence_pair <- function(x, y, r) {
  n <- length(x)
  if (n < 5) return(new_check("influential_rows", "not_assessed", "Leave one out", facts = list(n = n)))
  zx <- (x - mean(x)) / sqrt(sum((x - mean(x))^2)); zy <- (y - mean(y)) / sqrt(sum((y - mean(y))^2))
  # leaving row i out changes the sums of squares and products by n / (n - 1) times its own share
  k <- n / (n - 1)
  without <- (r - k * zx * zy) / sqrt(pmax((1 - k * zx^2) * (1 - k * zy^2), 1e-300))
  worst <- which.max(abs(without - r))
  change <- without[worst] - r
  verdict <- if (abs(change) > 0.1 || sign(without[worst]) != sign(r) && abs(r) > 0.05) "caution" else "ok"
  new_check("influential_rows", verdict, "Leave one out",
            list(list(id = "largest_change", label = "largest change of r when one row is left out", value = change,
                      of = NULL)),
            list(row = worst, change = change, without = without[worst]))
}

#' Residual spread against the fit (Koenker's studentised Breusch-Pagan test)
#' @section Source: Koenker, R. (1981). Journal of Econometrics 17, 107-112.
#' @noRd
check_residual_spread <- function(x, residuals) {
  fit <- stat_least_squares(x, residuals^2)
  n <- length(residuals)
  statistic <- n * fit$r_squared
  p <- stats::pchisq(statistic, fit$df1, lower.tail = FALSE)
  verdict <- if (!is.finite(p)) "not_assessed" else if (p < 0.05 && fit$r_squared > 0.02) "caution" else "ok"
  new_check("residual_spread", verdict, "Breusch-Pagan test (Koenker)",
            list(list(id = "statistic", label = "chi-square", value = statistic, of = NULL),
                 list(id = "p_value", label = "p", value = p, of = NULL)), list(p = p, share = fit$r_squared))
}

#' Residual skewness, judged as in check_mean_normal()
#' @noRd
check_residual_normal <- function(residuals) {
  m <- stat_group_moments(residuals)
  skew <- skewness_from_moments(m)[[1]]
  n <- m[[1, "n"]]
  pull <- abs(skew) / sqrt(n)
  new_check("normal_residuals", if (!is.finite(pull)) "not_assessed" else if (pull < 0.2) "ok" else "caution",
            "Skewness of the residuals",
            list(list(id = "skewness", label = "skewness", value = skew, of = "residuals")), list(skew = skew, n = n))
}

#' Rows that pull the fit: Cook's distance above 1, or far above the rest
#' @section Source: Cook, R. D. (1977). Technometrics 19, 15-18.
#' @noRd
check_influence_fit <- function(fit) {
  p <- length(fit$kept)
  h <- fit$leverage
  cook <- fit$residuals^2 / (p * fit$sigma^2) * h / pmax(1 - h, 1e-12)^2
  # (where the fit is perfect no row moves it)
  cook[!is.finite(cook)] <- 0
  worst <- which.max(cook)
  verdict <- if (cook[worst] > 1 || (cook[worst] > 0.5 && length(cook) > 20)) "caution" else "ok"
  new_check("influential_rows", verdict, "Cook's distance",
            list(list(id = "cooks_distance", label = "largest Cook's distance", value = cook[worst], of = NULL)),
            list(row = worst, cook = cook[worst]))
}

#' Variance inflation of each coefficient's column
#' @section Source: Marquardt, D. W. (1970). Technometrics 12, 591-612.
#' @noRd
check_collinear <- function(x, kept, term) {
  kept <- kept[kept != 1]
  if (length(kept) < 2) return(NULL)
  z <- x[, kept, drop = FALSE]
  z <- sweep(z, 2, colMeans(z))
  r <- crossprod(sweep(z, 2, sqrt(colSums(z^2)), "/"))
  vif <- diag(solve(r, tol = 1e-300))
  worst <- which.max(vif)
  new_check("collinear_predictors", if (max(vif) < 5) "ok" else "caution", "Variance inflation factor",
            lapply(seq_along(vif), function(i) list(id = "vif", label = "VIF", value = vif[i], of = term[kept[i]])),
            list(vif = vif[worst], term = term[kept[worst]]))
}

#' Are residuals of neighbours in time alike? The errors allow for it; strong likeness leaves little information
#' @noRd
check_autocorrelation <- function(r, n) {
  verdict <- if (!is.finite(r)) "not_assessed" else if (abs(r) < max(0.3, 2 / sqrt(n))) "ok" else "caution"
  new_check("autocorrelation", verdict, "Autocorrelation of the residuals, lag 1",
            list(list(id = "autocorrelation", label = "autocorrelation", value = r, of = "residuals")), list(r = r))
}
