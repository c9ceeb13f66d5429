# Checks on models of time to an event.

#' Is a hazard ratio constant in time? A slope must be both beyond chance and of some size to matter
#' @section Source: Grambsch, P. M. and Therneau, T. M. (1994). Biometrika 81, 515-526 (the rank version).
#' @noRd
check_proportional_hazards <- function(fit, terms) {
  t <- stat_hazards_over_time(fit, terms)
  if (is.null(t)) return(new_check("proportional_hazards", "not_assessed", "Schoenfeld residuals", facts = list()))
  worst <- which.min(t$p_value)
  off <- min(1, t$p_value[worst] * nrow(t)) < 0.05 && abs(t$correlation[worst]) > 0.15
  new_check("proportional_hazards", if (off) "caution" else "ok", "Correlation of the scaled Schoenfeld residuals with the rank of time",
            lapply(seq_len(nrow(t)), function(k) list(id = "rho", label = "correlation with time", value = t$correlation[k], of = t$term[k])),
            list(term = t$term[worst], rho = t$correlation[worst], p = t$p_value[worst]))
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
