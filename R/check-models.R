# Checks of generalised models.

#' Can the outcome be told apart perfectly, so that odds ratios run off to infinity?
#' @section Source: Albert, A. and Anderson, J. A. (1984). Biometrika 71, 1-10.
#' @noRd
check_separation <- function(fit) {
  new_check("separation", if (fit$separated) "broken" else "ok", "Fitted chances of 0 or 1 with exploding errors",
            list(list(id = "largest_se", label = "largest standard error", value = max(fit$se, na.rm = TRUE),
                      of = NULL)), list())
}

#' Are counts more spread than a Poisson model allows? A ratio above 1.5 makes its errors clearly too small
#' @noRd
check_dispersion <- function(ratio) {
  new_check("overdispersion", if (ratio < 1.5) "ok" else "broken", "Pearson chi-square over its degrees of freedom",
            list(list(id = "dispersion", label = "dispersion", value = ratio, of = NULL)), list(ratio = ratio))
}

#' Events for each coefficient: below ten, odds ratios are overstated
#' @section Source: Peduzzi, P. et al. (1996). Journal of Clinical Epidemiology 49, 1373-1379.
#' @noRd
check_events <- function(res) {
  events <- if (res$family == "binomial") min(sum(res$y), sum(1 - res$y)) else length(res$y)
  ratio <- events / max(1, length(res$fit$kept) - 1)
  new_check("events_per_coefficient", if (ratio >= 10) "ok" else "caution", "Rows of the rarer outcome per coefficient",
            list(list(id = "events_per_coefficient", label = "rows per coefficient", value = ratio, of = NULL)),
            list(ratio = ratio))
}
