# Checks on outcomes in groups. Each returns verdict, method and numbers; words are put to them in the say room.
#
# Verdict rules look at how far the departure can move the result, not at whether it can be detected: a tiny skew is
# "ok" in a hundred thousand rows although any test would flag it, a wild one in eight rows is at least "caution".

new_check <- function(id, verdict, method, numbers = list(), facts = list()) {
  stopifnot(verdict %in% c("ok", "caution", "broken", "not_assessed"))
  list(id = id, verdict = verdict, method = method, numbers = numbers, facts = facts)
}

#' Is each group close enough to normal for its mean to be?
#'
#' The skewness of a mean of n values is skewness / sqrt(n); a t interval keeps its level to about one percentage point
#' while that stays below 0.3, and to about three below 0.6.
#' @section Source: Bartlett, M. S. (1935); Johnson, N. J. (1978). JASA 73, 536-544.
#' @noRd
check_mean_normal <- function(values, labels) {
  stats <- vapply(values, function(v) {
    m <- stat_group_moments(v)
    c(n = m[[1, "n"]], skew = skewness_from_moments(m)[[1]], kurtosis = kurtosis_from_moments(m)[[1]])
  }, numeric(3))
  pull <- abs(stats["skew", ]) / sqrt(stats["n", ])
  worst <- if (all(is.na(pull))) NA_integer_ else which.max(pull)
  small <- min(stats["n", ]) < 5
  verdict <- if (is.na(worst)) "not_assessed" else if (pull[worst] < 0.3 && !small) "ok" else "caution"
  new_check("normal_within_groups", verdict, "Skewness of the group means",
            lapply(seq_along(labels), function(k) list(id = "skewness", label = "skewness", value = stats["skew", k],
                                                       of = labels[k])),
            list(label = labels[worst], skew = unname(stats["skew", worst]), n = unname(stats["n", worst]),
                 small = small))
}

#' Are the spreads alike? Only of weight for methods that pool them.
#' @noRd
check_equal_spread <- function(values, labels, pools) {
  sd <- vapply(values, function(v) sd_from_moments(stat_group_moments(v))[[1]], 1)
  n <- lengths(values)
  ratio <- max(sd) / min(sd)
  # pooling misleads when spreads differ and group sizes do too; a ratio of variances of 4 is the usual limit
  verdict <- if (!is.finite(ratio)) "caution" else if (ratio < 1.5 ||
                                                       (ratio < 2 && max(n) / min(n) < 1.5)) "ok" else "caution"
  new_check("equal_spread", if (pools) verdict else "ok", "Ratio of the standard deviations",
            list(list(id = "sd_ratio", label = "largest sd / smallest sd", value = ratio, of = NULL)),
            list(ratio = ratio, pools = pools, differs = verdict != "ok", widest = labels[which.max(sd)]))
}

#' Values far outside the middle half of their group (beyond three interquartile ranges)
#' @section Source: Tukey, J. W. (1977). Exploratory Data Analysis, section 2D (outer fences).
#' @noRd
check_far_values <- function(values, labels) {
  far <- lapply(values, function(v) {
    q <- stat_group_quantiles(v)
    iqr <- q[3] - q[1]
    if (iqr > 0) v[v < q[1] - 3 * iqr | v > q[3] + 3 * iqr] else v[0]
  })
  count <- sum(lengths(far))
  share <- count / sum(lengths(values))
  verdict <- if (count == 0 || (share < 0.001 && sum(lengths(values)) > 5000)) "ok" else "caution"
  new_check("far_values", verdict, "Outer fences (three interquartile ranges)",
            list(list(id = "far_values", label = "values beyond the outer fences", value = count, of = NULL)),
            list(count = count, values = utils::head(unlist(far), 3)))
}

#' Do some units carry more than one row?
#' @noRd
check_independent_rows <- function(unit, unit_name) {
  if (is.null(unit)) return(new_check("independent_rows", "not_assessed", "Design", facts = list(unit = NULL)))
  repeated <- sum(duplicated(unit))
  new_check("independent_rows", if (repeated > 0) "broken" else "ok", "Count of rows per unit",
            list(list(id = "repeated_rows", label = "rows beyond the first of their unit", value = repeated,
                      of = NULL)),
            list(unit = unit_name, repeated = repeated, units = length(unique(unit))))
}

#' Are the groups of the same shape, so that ranks speak about a shift?
#' @noRd
check_same_shape <- function(values, labels) {
  iqr <- vapply(values, function(v) { q <- stat_group_quantiles(v); q[3] - q[1] }, 1)
  ratio <- if (min(iqr) > 0) max(iqr) / min(iqr) else if (max(iqr) == 0) 1 else Inf
  new_check("same_shape", if (ratio < 2) "ok" else "caution", "Ratio of the interquartile ranges",
            list(list(id = "iqr_ratio", label = "largest IQR / smallest IQR", value = ratio, of = NULL)),
            list(ratio = ratio))
}

#' Are paired differences symmetric, as the signed-rank test supposes? Judged as in check_mean_normal()
#' @noRd
check_symmetric <- function(d) {
  m <- stat_group_moments(d)
  skew <- skewness_from_moments(m)[[1]]
  n <- m[[1, "n"]]
  verdict <- if (is.na(skew)) "not_assessed" else if (abs(skew) < 1) "ok" else "caution"
  new_check("symmetric_differences", verdict, "Skewness of the differences",
            list(list(id = "skewness", label = "skewness", value = skew, of = "differences")), list(skew = skew, n = n))
}

#' Are the conditions equally correlated? The correction is made either way; an epsilon below 0.75 is a marked departure
#' @section Source: Girden, E. R. (1992). ANOVA: Repeated Measures. Sage.
#' @noRd
check_sphericity <- function(epsilon, conditions) {
  if (conditions < 3) return(NULL)
  new_check("sphericity", if (epsilon >= 0.75) "ok" else "caution", "Greenhouse-Geisser epsilon",
            list(list(id = "epsilon", label = "epsilon", value = epsilon, of = NULL)), list(epsilon = epsilon))
}

#' Does every item point the same way as the rest of its scale?
#' @noRd
check_item_direction <- function(item_rest, names) {
  turned <- which(item_rest < 0)
  new_check("item_direction", if (length(turned)) "broken" else "ok", "Sign of the item-rest correlations",
            list(list(id = "lowest_item_rest", label = "lowest item-rest correlation", value = min(item_rest),
                      of = names[which.min(item_rest)])),
            list(turned = names[turned]))
}

#' Are there units enough for the chi-square distribution of a rank test within units?
#'
#' Ten units serve any number of conditions, five do from four conditions on: there the approximation is within a fifth of the exact 5 % level.
#' @section Source: Iman, R. L. and Davenport, J. M. (1980). Communications in Statistics A 9, 571-595.
#' @noRd
check_unit_count <- function(units, conditions) {
  enough <- units >= 10 || conditions >= 4 && units >= 5
  new_check("unit_count", if (enough) "ok" else "caution", "Units and conditions",
            list(list(id = "units", label = "units", value = units, of = NULL)), list(units = units))
}
