# Checks on models of time to an event.

#' Is a hazard ratio constant in time? Correlation of the Schoenfeld residuals with the rank of time
#' @section Source: Grambsch, P. M. and Therneau, T. M. (1994). Biometrika 81, 515-526 (the rank version).
#' @noRd
check_proportional_hazards <- function(schoenfeld, terms) {
  r <- schoenfeld$residuals
  if (nrow(r) < 10) return(new_check("proportional_hazards", "not_assessed", "Schoenfeld residuals", facts = list()))
  rank <- rank(schoenfeld$time)
  rho <- apply(r, 2, function(v) if (stats::sd(v) > 0) stats::cor(v, rank) else 0)
  n <- nrow(r)
  p <- 2 * stats::pt(-abs(rho) * sqrt((n - 2) / (1 - rho^2)), n - 2)
  worst <- which.min(p)
  # a slope must be both beyond chance and of some size to matter
  off <- min(1, p[worst] * length(p)) < 0.05 && abs(rho[worst]) > 0.15
  new_check("proportional_hazards", if (off) "caution" else "ok", "Correlation of the Schoenfeld residuals with the rank of time",
            lapply(seq_along(rho), function(k) list(id = "rho", label = "correlation with time", value = rho[k], of = terms[k])),
            list(term = terms[worst], rho = rho[worst], p = p[worst]))
}

#' Events enough for the curves and tests to hold: below ten they rest on single rows
#' @noRd
check_event_count <- function(events, rows) {
  new_check("event_count", if (events >= 10) "ok" else "caution", "Count of events",
      list(list(id = "events", label = "events", value = events, of = NULL)), list(events = events, rows = rows))
}

#' Events for each coefficient: below ten, ratios are overstated
#' @section Source: Peduzzi, P. et al. (1995). Journal of Clinical Epidemiology 48, 1503-1510.
#' @noRd
check_events_per_term <- function(events, terms) {
  ratio <- events / max(1, terms)
  new_check("events_per_term", if (ratio >= 10) "ok" else "caution", "Events per coefficient",
      list(list(id = "events_per_coefficient", label = "events per coefficient", value = ratio, of = NULL)),
            list(ratio = ratio))
}
