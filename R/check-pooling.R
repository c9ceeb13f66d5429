# Checks on pooled studies.

#' Studies enough: below five the variance between them is hardly known
#' @noRd
check_study_count <- function(k) new_check("study_count", if (k >= 5) "ok" else "caution", "Count of studies",
    list(list(id = "studies", label = "studies", value = k, of = NULL)), list(k = k))

#' Do the studies differ by more than chance? Above a half of the spread they do so to a degree that one number hides
#' @section Source: Higgins, J. P. T. et al. (2003). BMJ 327, 557-560.
#' @noRd
check_heterogeneity <- function(i_squared, p) new_check("heterogeneity", if (i_squared > 0.5) "caution" else "ok",
    "I squared", list(list(id = "i_squared", label = "I squared", value = i_squared, of = NULL)), list(i = i_squared, p = p))

#' Small studies with larger effects, a sign that others were not published; below ten studies the test says little
#' @section Source: Sterne, J. A. C. et al. (2011). BMJ 343, d4002.
#' @noRd
check_funnel <- function(egger, k) {
  if (k < 10 || is.na(egger$p_value)) return(new_check("funnel", "not_assessed", "Egger's regression", facts = list(k = k)))
  new_check("funnel", if (egger$p_value < 0.1) "caution" else "ok", "Egger's regression",
      list(list(id = "p_value", label = "p", value = egger$p_value, of = NULL)), list(p = egger$p_value))
}

#' Is the interval of random effects as wide as that of one common effect? Where studies differ less than chance would make them, the
#' errors that are estimated from their spread come out too small
#' @param random,fixed Lists of ci_low and ci_high of the pooled results.
#' @section Source: Roever, C., Knapp, G. and Friede, T. (2015). BMC Medical Research Methodology 15, 99.
#' @noRd
check_pooled_width <- function(random, fixed) {
  ratio <- (random$ci_high - random$ci_low) / (fixed$ci_high - fixed$ci_low)
  new_check("interval_width", if (ratio < 1) "caution" else "ok", "Width against one common effect",
            list(list(id = "ratio", label = "ratio of the widths", value = ratio, of = NULL)), list(ratio = ratio))
}
