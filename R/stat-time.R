# Values over time: periods, moving windows, straight-line trends.

#' First day (or the name) of the period each day falls into
#'
#' @param day Date vector. @param every One of day, week (from Monday), month, quarter, year, weekday.
#' @section Shape: list(key = sortable text, label): ISO first day of the period, or the weekday's number and name.
#' @noRd
stat_periods <- function(day, every) {
  n <- as.integer(format(day, "%u"))
  if (every == "weekday") {
    names <- c("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
    return(list(key = as.character(n), label = names[n]))
  }
  first <- switch(every, day = day, week = day - (n - 1L), month = as.Date(format(day, "%Y-%m-01")),
                  year = as.Date(format(day, "%Y-01-01")),
                  quarter = as.Date(sprintf("%s-%02d-01", format(day, "%Y"),
                                            3L * ((as.integer(format(day, "%m")) - 1L) %/% 3L) + 1L)))
  key <- format(first)
  label <- switch(every, month = format(first, "%Y-%m"), year = format(first, "%Y"),
                  quarter = sprintf("%s Q%d", format(first, "%Y"), (as.integer(format(first, "%m")) - 1L) %/% 3L + 1L),
                  key)
  list(key = key, label = label)
}

#' Hour of the day of each stamp
#' @section Shape: as [stat_periods()].
#' @noRd
stat_hours <- function(stamp) {
  hour <- format(stamp, "%H", tz = "UTC")
  list(key = hour, label = paste0(hour, ":00"))
}

#' A statistic over a window that looks back from every day that has a value; days without rows shorten the window's count, not its length
#'
#' @param day Days in order, with repeats where a day holds several rows. @param x Their values.
#' @param window Length of the window in `unit`: "day", "week", "month" or "year".
#' @param statistic "mean", "sum", "median", "min" or "max".
#' @section Shape: data frame, a row for each different day: day, n (rows in the window), value (the statistic of that day's rows), rolling.
#' @noRd
stat_rolling <- function(day, x, window, unit = "day", statistic = "mean") {
  start <- as.numeric(window_start(day, window, unit))
  number <- as.numeric(day)
  last <- !duplicated(number, fromLast = TRUE)
  to <- which(last)
  from <- findInterval(start[to], number)
  before <- c(0L, to[-length(to)])
  if (statistic %in% c("mean", "sum")) {
    # sums about the middle lose no digits to a large mean
    middle <- mean(x)
    total <- c(0, cumsum(x - middle))
    over <- function(from) (total[to + 1] - total[from + 1]) / (if (statistic == "mean") to - from else 1) +
      middle * (if (statistic == "mean") 1 else to - from)
    return(data.frame(day = day[to], n = to - from, value = over(before), rolling = over(from)))
  }
  of <- match.fun(statistic)
  over <- function(from) mapply(function(a, b) of(x[(a + 1):b]), from, to)
  data.frame(day = day[to], n = to - from, value = over(before), rolling = over(from))
}

#' The day before which a window that ends on `day` begins: so many days, or the same day so many months ago
#' @noRd
window_start <- function(day, window, unit) {
  if (unit %in% c("day", "week")) return(day - window * if (unit == "week") 7 else 1)
  parts <- as.POSIXlt(day, tz = "UTC")
  parts$mon <- parts$mon - window * if (unit == "year") 12 else 1
  as.Date(parts)
}

#' Straight-line trend with errors that allow for serial correlation
#'
#' @param t Time in units of the slope. @param y Outcome, in the order of time.
#' @section Shape: `estimate` (slope), `se` (Newey-West), `statistic`, `df`, `p_value`, `ci_low`, `ci_high`, `n`,
#'   `se_classical`,
#'   `autocorrelation` (lag 1 of the residuals), `lags`, `r_squared`, `intercept`.
#' @section Source: Newey, W. K. and West, K. D. (1987). Econometrica 55, 703-708; lags by floor(4 (n/100)^(2/9)):
#'   Newey and West (1994).
#' @noRd
stat_linear_trend <- function(t, y, conf_level = 0.95, season = NULL) {
  n <- length(y)
  if (n < 5) stop_data("A trend needs at least five points in time.", sprintf("There are %d.", n),
                       class = "too_few_rows")
  middle <- mean(t)
  x <- cbind(1, t - middle, season)
  if (n <= ncol(x) + 2) stop_data("There are too few points in time for a trend beside a season.", sprintf("There are %d.", n),
      class = "too_few_rows")
  fit <- stat_least_squares(x, y)
  if (2 %in% fit$aliased) stop_data("All rows are of one time, so there is no trend to see.", class = "outcome_constant")
  if (length(fit$aliased)) stop_data("The season cannot be told from the trend in these times.", class = "collinear")
  lags <- floor(4 * (n / 100)^(2 / 9))
  u <- x * fit$residuals
  meat <- crossprod(u)
  for (k in seq_len(lags)) {
    g <- crossprod(u[(k + 1):n, , drop = FALSE], u[seq_len(n - k), , drop = FALSE])
    meat <- meat + (1 - k / (lags + 1)) * (g + t(g))
  }
  free <- n - ncol(x)
  se <- sqrt((fit$unscaled %*% meat %*% fit$unscaled)[2, 2] * n / free)
  slope <- fit$coefficients[2]
  e <- fit$residuals
  out <- t_result(slope, se, free, n, conf_level, "two_sided")
  c(out, list(se_classical = fit$se[2], autocorrelation = sum(e[-1] * e[-n]) / sum(e^2), lags = lags,
              r_squared = fit$r_squared, intercept = fit$coefficients[1] - slope * middle, coefficients = fit$coefficients, middle = middle))
}

#' Columns of a season: two pairs of waves for the year, a shift for each weekday but Monday for the week
#'
#' @param day Days since 1970-01-01. @param cycle "year" (365.25 days) or "week".
#' @section Shape: matrix, a row a day.
#' @noRd
stat_season_columns <- function(day, cycle) {
  if (cycle == "week") return(outer((day + 3) %% 7, 1:6, "==") + 0)
  angle <- 2 * pi * day / 365.25
  cbind(sin(angle), cos(angle), sin(2 * angle), cos(2 * angle))
}
