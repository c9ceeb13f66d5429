# Fits that leave nothing but the rounding of the numbers: no spread to test with, and no digits to tell of it.

#' Least squares without the rounding errors that they leave, where they leave nothing else
#'
#' @param x Model matrix. @param y Outcome.
#' @section Shape: as of [stat_least_squares()]; where the fit is exact with `exact` TRUE, residuals and errors of zero, coefficients of zero
#'   where they are a rounding error, and the qualities that follow from these (R squared 1, F infinite).
#' @section Source: a sum of p products in floating point is off by at most p times the unit roundoff times the largest product (Higham,
#'   N. J. (2002). Accuracy and Stability of Numerical Algorithms (2nd ed.), ch. 3. SIAM).
#' @noRd
fit_without_rounding <- function(x, y) {
  out <- stat_least_squares(x, y)
  kept <- out$kept
  part <- abs(out$coefficients[kept]) * apply(abs(x[, kept, drop = FALSE]), 2, max)
  limit <- 4 * length(kept) * .Machine$double.eps * max(abs(y), part)
  if (!(max(abs(out$residuals)) <= limit)) return(out)
  out$coefficients[kept[part <= 64 * limit]] <- 0
  out$residuals[] <- 0
  out$fitted <- as.double(y)
  out$se[kept] <- 0
  quality <- fit_quality(0, out$tss, length(kept), out$df, out$n)
  out[names(quality)] <- quality
  out$exact <- TRUE
  out
}

#' The same in a script, after `fit <- lm(...)`
#' @param fit The fit of the answer. @param name What the script calls it.
#' @noRd
script_without_rounding <- function(fit, name = "fit") {
  if (!isTRUE(fit$exact)) return(NULL)
  c("# what this fit leaves is the rounding of the numbers alone: that is taken as nothing",
    sprintf("part <- abs(coef(%s)) * apply(abs(model.matrix(%s)), 2, max); rounding <- 1e-12 * max(abs(y), part, na.rm = TRUE)", name, name),
    sprintf("stopifnot(max(abs(resid(%s))) < rounding); %s$coefficients[which(part < rounding)] <- 0", name, name),
    sprintf("%s$residuals[] <- 0; %s$fitted.values[] <- y", name, name))
}

#' F of the bend of a curve beyond a straight line
#' @noRd
bend_beyond <- function(line, curve) {
  if (isTRUE(line$exact)) 0 else ((line$rss - curve$rss) / (line$df - curve$df)) / (curve$rss / curve$df)
}

script_bend <- function(line, curve = "fit") {
  paste("s <- summary(fit); bend <-", if (isTRUE(line$exact)) "list(F = c(NA, 0), `Pr(>F)` = c(NA, 1))" else sprintf("anova(line, %s)", curve))
}

says_exact <- function() paste0("The fit is exact but for the rounding of the numbers: no spread is left, so intervals have no width ",
                                "and a test tells nothing.")
