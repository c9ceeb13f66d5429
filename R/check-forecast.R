# Checks on forecasts.

#' Periods enough to tell level, trend and season apart
#' @noRd
check_enough_periods <- function(n, season) new_check("enough_periods",
    if (n >= max(24, 3 * season)) "ok" else "caution", "Count of periods", list(list(id = "periods", label = "periods",
    value = n, of = NULL)), list(n = n))

#' Does the forecast beat carrying the last value on, on the stretch held back?
#' @noRd
check_forecast_skill <- function(test) {
  if (is.null(test)) return(new_check("forecast_skill", "not_assessed", "Back-test", facts = list()))
  new_check("forecast_skill", if (test$error <= test$naive) "ok" else "caution", "Back-test against the last value carried on",
            list(list(id = "mae", label = "mean absolute error", value = test$error, of = NULL),
                list(id = "mae_naive", label = "error of the last value carried on", value = test$naive, of = NULL)), test)
}
