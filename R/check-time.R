# Checks on series in time.

#' Do the values keep to levels, or do they follow a slope or a slow course?
#'
#' Successive changes of values that scatter about levels correlate with -0.5; those of a slow course with about 0. A
#' slope is judged by the Bayesian information criterion against the steps.
#' @param y Values in the order of time. @param out Result of stat_change_points().
#' @section Source: the correlation of differenced white noise: Chatfield, C. (2003). The Analysis of Time Series, 6th ed., sec. 3.4.
#' @noRd
check_level_steps <- function(y, out) {
  n <- length(y)
  change <- diff(y) - mean(diff(y))
  r <- sum(change[-1] * change[-length(change)]) / sum(change^2)
  x <- seq_len(n) - (n + 1) / 2
  line <- sum((y - mean(y) - x * sum(x * y) / sum(x^2))^2)
  steps <- length(out$starts)
  criterion <- function(rss, terms) n * log(max(rss, 1e-300) / n) + terms * log(n)
  sloped <- steps > 0 && criterion(line, 2) < criterion(out$cost, 1 + 2 * steps)
  verdict <- if (!is.finite(r)) "not_assessed" else if (steps > 0 && r > -0.25 + 1 / sqrt(n)) "broken" else if (sloped) "caution" else "ok"
  new_check("level_steps", verdict, "Correlation of successive changes; steps against a line by BIC",
            list(list(id = "change_correlation", label = "correlation of successive changes", value = r, of = NULL)), list(changes = r))
}
