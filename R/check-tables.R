# Checks on tables of counts.

#' Expected counts large enough for the chi-square approximation
#' @section Source: Cochran, W. G. (1954). Biometrics 10, 417-451: none below 1, at most a fifth below 5.
#' @noRd
check_expected_counts <- function(expected) {
  low <- mean(expected < 5)
  smallest <- min(expected)
  verdict <- if (smallest < 1 || low > 0.2) "broken" else "ok"
  new_check("expected_counts", verdict, "Cochran's rule",
            list(list(id = "smallest_expected", label = "smallest expected count", value = smallest, of = NULL),
                 list(id = "share_below_5", label = "share of cells expected below 5", value = low, of = NULL)),
            list(smallest = smallest, low = low))
}

#' Is the odds ratio the same in every stratum, so that one common ratio tells the story?
#'
#' Judged by the Breslow-Day test at 5 %: with few strata a difference that it misses is too small to matter for the common ratio.
#' @noRd
check_same_odds <- function(p, strata) {
  if (is.null(p) || is.na(p)) return(NULL)
  new_check("same_odds", if (p < 0.05) "caution" else "ok", "Breslow-Day test with Tarone's correction",
            list(list(id = "p_value", label = "p", value = p, of = NULL)), list(p = p, strata = strata))
}
