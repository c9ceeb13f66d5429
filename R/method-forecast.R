# The next periods of a series, with prediction intervals and a back-test.

#' @noRd
method_seasonal_forecast <- function() {
  new_method(
    id = "seasonal_forecast", name = "Exponential smoothing forecast", tasks = "forecast",
    fits = function(shape) if (shape$task == "forecast" && isTRUE(shape$timed) && shape$n_outcome <= 1) new_fit(80,
        "The question asks for the next periods of a series."),
    compute = compute_forecast,
    checks = function(ctx, res) list(check_enough_periods(length(res$series$value), res$fit$season), check_forecast_skill(res$test)),
    figure = function(ctx, res) figure_forecast(ctx, res), sentences = say_forecast, script = script_forecast,
    references = "Hyndman, R. J., Koehler, A. B., Ord, J. K., & Snyder, R. D. (2008). Forecasting with Exponential Smoothing. Springer.",
    next_steps = function(ctx, res) c(sprintf("How does %s change over time?", res$name), "What is in this data?"))
}

compute_forecast <- function(ctx) {
  r <- ctx$reading
  name <- if (length(r$outcome)) r$outcome[1] else "rows"
  day <- forecast_days(ctx)
  y <- if (length(r$outcome)) outcome_values(ctx) else rep(1, length(day))
  every <- r$time$every %||% usual_step(day)
  if (!every %in% c("day", "week", "month", "quarter",
      "year")) stop_data("A forecast goes by day, week, month, quarter or year.", class = "unfit_data")
  total <- !length(r$outcome) || identical(r$statistic, "sum")
  series <- stat_series(day, y, every, total)
  ahead <- steps_ahead(r$extra$horizon, every, last_of(series$period))
  if (ahead > length(series$value)) stop_data(sprintf("That is %d periods ahead from %d: too far to say anything.",
      ahead, length(series$value)), class = "too_far")
  fit <- stat_smoothing(series$value, season_length(every), ahead)
  z <- stats::qnorm(1 - (1 - ctx$conf_level) / 2)
  f <- fit$forecast
  table <- data.frame(period = period_name(last_of(series$period) + seq_len(ahead), every), forecast = f$mean,
      ci_low = f$mean - z * f$se, ci_high = f$mean + z * f$se, stringsAsFactors = FALSE)
  test <- back_test(series$value, season_length(every), ahead, fit$season > 1)
  result(compact(list(new_number("estimate", sprintf("forecast for %s", table$period[1]), f$mean[1]),
      new_number("ci_low", "lower limit", table$ci_low[1]), new_number("ci_high", "upper limit", table$ci_high[1]),
              new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "periods used",
                  length(series$value)), new_number("alpha_level", "smoothing of the level", fit$alpha),
              if (fit$beta > 0) new_number("beta_trend", "smoothing of the trend",
                  fit$beta), if (fit$gamma > 0) new_number("gamma_season", "smoothing of the season", fit$gamma),
              new_number("rmse", "error of one step ahead", sqrt(fit$sse / (length(series$value) - fit$from))))),
         tables = list(new_table("forecast", sprintf("Forecast of %s by %s (%s prediction intervals)", name, every,
             say_level(ctx$conf_level)), table)), series = series, fit = fit, every = every, ahead = ahead, name = name,
         total = total, test = test, direction = NA_real_)
}

#' The days of the rows; years that are held as numbers stand at their first of July
#' @noRd
forecast_days <- function(ctx) {
  name <- ctx$reading$time$column
  time <- ctx$frame$data[[name]]
  if (time_is_year(ctx)) return(as.integer(as.Date(sprintf("%d-07-01", as.integer(time)))))
  if (!inherits(time, c("Date", "POSIXct"))) stop_data(sprintf("A forecast needs dates or years, and %s holds neither.", quoted(name)),
                                                       class = "unfit_data")
  as.integer(as.Date(time))
}

time_is_year <- function(ctx) {
  identical(ctx$columns[[ctx$reading$time$column]]$role, "year") && !inherits(ctx$frame$data[[ctx$reading$time$column]], c("Date", "POSIXct"))
}

#' Steps that the question asks for: "next 12 months", "next week", "for March 2027"
#' @param last Index of the last period of the series.
#' @noRd
steps_ahead <- function(horizon, every, last) {
  if (is.null(horizon)) return(c(day = 14L, week = 8L, month = 12L, quarter = 4L, year = 3L)[[every]])
  if (!is.null(horizon$until)) return(max(1L, period_index(as.integer(as.Date(horizon$until)), every) - last))
  days <- c(day = 1, week = 7, month = 30.4, quarter = 91.3, year = 365.25)
  max(1L, as.integer(round(horizon$n * days[[horizon$unit]] / days[[every]])))
}

period_name <- function(index, every) {
  switch(every, day = format(structure(index, class = "Date")),
      week = format(structure(index * 7L - 3L, class = "Date")), month = sprintf("%d-%02d", index %/% 12L, index %% 12L + 1L),
         quarter = sprintf("%d Q%d", index %/% 4L, index %% 4L + 1L), year = as.character(index))
}

#' The last stretch forecast from what came before it, against the last value carried on
#' @param seasonal Was a season carried on? What comes before must then hold two of them, or another model would be tested.
#' @noRd
back_test <- function(y, season, ahead, seasonal = FALSE) {
  h <- min(ahead, length(y) %/% 4)
  if (h < 2 || length(y) - h < 12) return(NULL)
  if (seasonal && length(y) - h < 2 * season) return(NULL)
  before <- y[seq_len(length(y) - h)]; then <- y[-seq_along(before)]
  fit <- tryCatch(stat_smoothing(before, season, h), upbeatquill_error = function(e) NULL)
  if (is.null(fit)) return(NULL)
  list(steps = h, error = mean(abs(then - fit$forecast$mean)), naive = mean(abs(then - last_of(before))))
}

say_forecast <- function(ctx, res) {
  t <- res$tables[[1]]$data; unit <- if (length(ctx$reading$outcome)) outcome_column(ctx)$unit
  y <- if (length(ctx$reading$outcome)) say_column(outcome_column(ctx)) else "the number of rows"
  what <- c(level = "a level without trend", trend = "a level and a trend", season = "a level and a season",
      trend_season = "level, trend and season")[[res$fit$model]]
  one <- function(i) sprintf("%s (%s to %s)", with_unit(say_number(t$forecast[i]), unit), say_number(t$ci_low[i]), say_number(t$ci_high[i]))
  list(headline = sprintf("For %s, %s is expected at %s%s.", t$period[1], y, one(1),
      if (nrow(t) > 1) sprintf("; for %s at %s", t$period[nrow(t)], one(nrow(t))) else ""),
       details = c(sprintf("From %s by %s, smoothed as %s, %s.", count_of(length(res$series$value), "period"), res$every, what,
           if (isTRUE(res$fit$shown)) "since values one season apart are alike (too few seasons to choose by AICc)" else "which has the lowest AICc"),
                   if (res$series$filled) sprintf("%s without a value filled on a straight line.",
                       capital(paste(count_of(res$series$filled, "period"), plural(res$series$filled, "was", "were")))),
                   if (res$series$dropped) sprintf("%s before a long gap left out.",
                       capital(paste(count_of(res$series$dropped, "period"), plural(res$series$dropped, "was", "were")))),
                   "A forecast supposes that what moved the series goes on moving it so.", say_rows(ctx)),
       write_up = sprintf("%s was forecast %s ahead by exponential smoothing (%s, %s periods): %s.", capital(y),
           count_of(nrow(t), res$every), what, say_number(res$number$n), one(1)))
}

script_forecast <- function(ctx, res) {
  r <- ctx$reading; f <- res$fit
  index <- switch(res$every, day = "as.integer(day)", week = "(as.integer(day) + 3L) %/% 7L",
      month = "(as.POSIXlt(day)$year + 1900L) * 12L + as.POSIXlt(day)$mon",
                  quarter = "((as.POSIXlt(day)$year + 1900L) * 12L + as.POSIXlt(day)$mon) %/% 3L", year = "as.POSIXlt(day)$year + 1900L")
  time <- script_column(r$time$column)
  if (time_is_year(ctx)) time <- sprintf("sprintf(\"%%d-07-01\", as.integer(%s))", time)
  c(sprintf("day <- as.Date(%s); y <- %s; index <- %s", time,
      if (length(r$outcome)) script_value(r$outcome[1]) else "rep(1, length(day))", index),
    sprintf("value <- tapply(y, index, %s); period <- as.integer(names(value)); gap <- which(diff(period) > 3)", if (res$total) "sum" else "mean"),
    "if (length(gap)) { value <- value[-seq_len(max(gap))]; period <- period[-seq_len(max(gap))] }",
    "full <- seq(min(period), max(period)); x <- approx(period, value, full)$y; n <- length(x); tables <- list()",
    sprintf("alpha <- %s; beta <- %s; gamma <- %s; m <- %d  # found by least squares of one step ahead",
        as_r_number(f$alpha), as_r_number(f$beta), as_r_number(f$gamma), f$season),
    sprintf("start <- list(level = %s, trend = %s, season = %s); from <- %d", as_r_number(f$start$level),
        as_r_number(f$start$trend), as_r_number(f$start$season), f$start$used),
    "level <- start$level; trend <- start$trend; season <- start$season; sse <- 0",
    paste0("for (t in seq(from + 1, n)) { s <- if (m > 1) season[(t - 1) %% m + 1] else 0; e <- x[t] -",
        " level - trend - s; sse <- sse + e^2; new <- alpha * (x[t] - s) + (1 - alpha) * (level + trend)"),
    paste0("  if (beta > 0) trend <- beta * (new - level) + (1 - beta) * trend; level <- new; if (m > 1)",
        " season[(t - 1) %% m + 1] <- gamma * (x[t] - level) + (1 - gamma) * s }"),
    sprintf(paste0("h <- seq_len(%d); s <- if (m > 1) season[(n + h - 1) %%%% m + 1] else 0; mean <- level",
        " + h * trend + s; sigma <- sqrt(sse / (n - from - %d))"), res$ahead, 1L + (f$beta > 0) + (f$gamma > 0)),
    paste0("c <- alpha * (1 + h * beta) + if (m > 1) gamma * (1 - alpha) * (h %% m == 0) else 0; se <-",
        " sigma * sqrt(1 + c(0, cumsum(c^2)[-length(h)])[h]); z <- qnorm(1 - (1 - conf_level) / 2)"),
    "tables$forecast <- data.frame(forecast = mean, ci_low = mean - z * se, ci_high = mean + z * se)",
    sprintf(paste0("numbers <- list(estimate = mean[1], ci_low = mean[1] - z * se[1], ci_high = mean[1] + z",
        " * se[1], conf_level = conf_level, n = n, alpha_level = alpha%s%s, rmse = sqrt(sse / (n -",
        " from)))"),
            if (f$beta > 0) ", beta_trend = beta" else "", if (f$gamma > 0) ", gamma_season = gamma" else ""))
}

#' The series, what smoothing made of it, and the next periods with their band
#' @noRd
figure_forecast <- function(ctx, res) {
  n <- length(res$series$value); ahead <- res$ahead; t <- res$tables[[1]]$data
  label <- if (length(ctx$reading$outcome)) axis_label(outcome_column(ctx)) else "Rows"
  title <- sprintf("%s: the next %s", label, count_of(ahead, res$every))
  first <- max(1, n - 6 * ahead)
  past <- data.frame(at = seq(first, n), value = res$series$value[first:n])
  next_rows <- data.frame(at = n + seq_len(ahead), value = t$forecast, low = t$ci_low, high = t$ci_high)
  joined <- rbind(data.frame(at = n, value = res$series$value[n], low = res$series$value[n], high = res$series$value[n]), next_rows)
  ticks <- unique(round(seq(first, n + ahead, length.out = 7)))
  names <- period_name(res$series$period[1] - 1L + ticks, res$every)
  new_figure("forecast", title, "line",
      subtitle = sprintf("Values so far, and the forecast with its %s prediction interval.",
      say_level(ctx$conf_level)), alt = sprintf("%s: a line with a widening band at its end.", title),
    draw = function() ggplot2::ggplot() + ggplot2::geom_ribbon(data = joined,
        ggplot2::aes(x = .data$at, ymin = .data$low, ymax = .data$high), fill = quill_colours(2)[2], alpha = 0.18) +
      ggplot2::geom_line(data = past, ggplot2::aes(x = .data$at, y = .data$value), colour = quill_colours(1), linewidth = 0.8) +
      ggplot2::geom_line(data = joined, ggplot2::aes(x = .data$at, y = .data$value), colour = quill_colours(2)[2], linewidth = 1) +
      ggplot2::scale_x_continuous(breaks = ticks, labels = names) + ggplot2::labs(x = NULL, y = label),
    script = c(paste0("plot_data <- data.frame(at = seq_len(n + length(h)), value = c(x, mean), low =",
        " c(rep(NA, n), mean - z * se), high = c(rep(NA, n), mean + z * se))"),
               sprintf(paste0("plot <- ggplot(plot_data, aes(at, value)) + geom_ribbon(aes(ymin = low, ymax",
                   " = high), alpha = 0.2) + geom_line() + labs(title = %s) + theme_minimal()"), as_r_string(title))))
}
