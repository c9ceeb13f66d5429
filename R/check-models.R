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
check_dispersion <- function(ratio, model = "Poisson") {
  new_check("overdispersion", if (ratio < 1.5) "ok" else "broken", "Pearson chi-square over its degrees of freedom",
            list(list(id = "dispersion", label = "dispersion", value = ratio, of = NULL)), list(ratio = ratio, model = model))
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

#' Do the odds ratios hold at every threshold? Separate logistic fits are compared with the common one
#'
#' A predictor whose odds ratio at some threshold lies more than threefold from the common one, and further than two of its own standard
#' errors, is called out; smaller departures change no reading.
#' @section Source: Brant, R. (1990). Biometrics 46, 1171-1178 (the idea; his test is not used).
#' @noRd
check_parallel <- function(y, x, common, terms) {
  k <- max(y)
  off <- list(gap = 0, term = "", at = NA)
  for (cut in seq_len(k - 1)) {
    high <- as.numeric(y > cut)
    if (min(sum(high), sum(1 - high)) < 10) next
    fit <- tryCatch(stat_generalised(cbind(1, x), high, "binomial"), upbeatquill_error = function(e) NULL)
    if (is.null(fit)) next
    gap <- fit$coefficients[-1] - common
    big <- which(abs(gap) > log(3) & abs(gap) > 2 * fit$se[-1])
    if (length(big) && max(abs(gap[big])) > off$gap) off <- list(gap = max(abs(gap[big])), term = terms[big[which.max(abs(gap[big]))]], at = cut)
  }
  new_check("parallel_odds", if (off$gap > 0) "caution" else "ok", "Logistic fits at each threshold",
      list(list(id = "largest_gap", label = "largest gap of log odds ratios", value = off$gap, of = NULL)), off)
}

#' Groups enough for the variance between them to be told: below five it is little more than a guess
#' @noRd
check_cluster_count <- function(groups) {
  new_check("group_count", if (groups >= 10) "ok" else if (groups >= 5) "caution" else "broken", "Count of groups",
      list(list(id = "groups", label = "groups", value = groups, of = NULL)), list(groups = groups))
}

#' Does the covariate act alike in all groups? A difference found at 5 % bends the adjusted means
#' @noRd
check_same_slopes <- function(slopes) {
  verdict <- if (is.na(slopes$p_value)) "not_assessed" else if (slopes$p_value < 0.05) "caution" else "ok"
  new_check("same_slopes", verdict, "F test of unequal slopes",
      list(list(id = "p_value", label = "p", value = slopes$p_value, of = NULL)), list(p = slopes$p_value))
}
