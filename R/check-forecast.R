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

#' Is there a season that the forecast does not carry on, as too few whole years are there to fit one?
#'
#' Values less their straight line are held against those one season before: of a season that comes back they are alike. With 12 pairs
#' a correlation beyond .6 is unlikely by chance alone (one-sided t test at the 1 % level, which the rule asks for besides).
#' @param y Values of the periods in their order.
#' @param season Periods of a season (12 for months).
#' @param fitted Does the model carry a season?
#' @return A check, or NULL where there is no season or a season is fitted or fewer than two were seen.
#' @noRd
check_unused_season <- function(y, season, fitted) {
  n <- length(y)
  if (fitted || season < 2 || n < 2 * season || n - season < 8 || stats::sd(y) == 0) return(NULL)
  left <- stats::residuals(stats::lm(y ~ seq_along(y)))
  a <- left[seq_len(n - season)]; b <- left[season + seq_len(n - season)]
  if (stats::sd(a) == 0 || stats::sd(b) == 0) return(NULL)
  r <- stats::cor(a, b)
  pairs <- n - season
  p <- if (abs(r) > 1 - 1e-12) as.numeric(r < 0) else stats::pt(r * sqrt((pairs - 2) / (1 - r^2)), pairs - 2, lower.tail = FALSE)
  new_check("unused_season", if (r > 0.6 && p < 0.01) "caution" else "ok", "A season not carried on",
            list(list(id = "season_r", label = "correlation with the values one season before", value = r, of = NULL)), list(r = r, season = season))
}
