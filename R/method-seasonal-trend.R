# A straight-line trend beside a season that repeats.

#' @noRd
method_seasonal_trend <- function() {
  new_method(
    id = "seasonal_trend", name = "Straight-line trend beside a season, autocorrelation-aware errors", tasks = "trend",
    fits = function(shape) if (shape$task == "trend" && isTRUE(shape$timed) && shape$n_outcome == 1 && shape$n_by == 0 &&
                               !is.null(shape$season)) new_fit(96, "The question asks for a trend with the season allowed for."),
    compute = compute_seasonal_trend,
    checks = function(ctx, res) list(check_autocorrelation(res$number$autocorrelation, res$number$n)),
    second = "linear_trend", figure = figure_seasonal_trend, sentences = say_seasonal_trend, script = script_seasonal_trend,
    references = c(paste0("Newey, W. K., & West, K. D. (1987). A simple, positive semi-definite, heteroskedasticity and autocorrelation consistent ",
                          "covariance matrix. Econometrica, 55, 703-708."),
                   "Harvey, A. C. (1993). Time Series Models (2nd ed.), sec. 5.6. MIT Press."),
    next_steps = function(ctx, res) c(sprintf("Mean %s by month", outcome_name(ctx)), sprintf("Forecast %s", outcome_name(ctx))))
}

#' Rows of one day count as their mean: they are no neighbours in time
#' @noRd
compute_seasonal_trend <- function(ctx) {
  t <- time_values(ctx)
  if (!inherits(t, "Date")) stop_data("A season needs dates.", class = "unfit_data")
  cycle <- ctx$reading$extra$season
  y <- tapply(outcome_values(ctx), as.numeric(t), mean)
  day <- as.numeric(names(y)); y <- as.vector(y)
  span <- diff(range(day))
  if (cycle == "year" && span < 500) stop_data("A yearly season needs at least a year and a half of data.",
    sprintf("These run over %s days.", say_number(span)), class = "too_few_rows")
  season <- stat_season_columns(day, cycle)
  out <- stat_linear_trend(day, y, ctx$conf_level, season)
  wave <- drop(season %*% out$coefficients[-(1:2)])
  # over the days that were observed: beyond them the waves are nobody's measurement
  swing <- diff(range(wave))
  result(c(test_numbers(out[setdiff(names(out), c("coefficients", "middle"))], "t", sprintf("change of %s for one day, season allowed for",
      outcome_name(ctx)), ctx$conf_level),
           list(new_number("days", "different days", length(y)), new_number("season_swing", "from the low to the high of the season", swing),
                new_number("autocorrelation", "autocorrelation of the residuals, lag 1", out$autocorrelation),
                new_number("lags", "lags allowed for", out$lags), new_number("r_squared", "R squared", out$r_squared))),
         when = day, dated = TRUE, y = y, line = out$coefficients[1] + out$estimate * (day - out$middle), wave = wave, cycle = cycle,
             direction = sign(out$estimate))
}

say_seasonal_trend <- function(ctx, res) {
  n <- res$number; col <- outcome_column(ctx); y <- say_column(col)
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  amount <- function(size) { change <- say_change(ctx, res, size); sprintf("%s (%s)", change$amount, change$interval) }
  cycle <- cycle_words(res$cycle)
  headline <- if (clear) sprintf("With the %s allowed for, %s %s by %s, %s.", cycle, y, if (n$estimate > 0) "rises" else "falls", amount(TRUE),
      say_p(n$p_value))
    else sprintf("With the %s allowed for, there is no clear trend of %s: %s, %s.", cycle, y, amount(FALSE), say_p(n$p_value))
  list(headline = headline,
       details = c(sprintf("From its low to its high the %s makes %s. Rows of one day count as their mean (%s days).", cycle,
                           with_unit(say_number(n$season_swing), col$unit), say_number(n$days)),
                   sprintf("Neighbouring residuals correlate with %s; the error allows for %s lags.", say_unit(n$autocorrelation),
                       say_number(n$lags)),
                   say_rows(ctx)),
       write_up = sprintf(paste0("Daily means of %s were regressed on time and the %s by least squares with Newey-West errors (%s lags): trend %s, ",
                                 "t(%s) = %s, %s.%s"), y, cycle, say_number(n$lags), amount(FALSE), say_df(n$df), say_number(n$statistic, 2),
                          say_p(n$p_value), write_rows(ctx)))
}

figure_seasonal_trend <- function(ctx, res) {
  label <- axis_label(outcome_column(ctx))
  title <- sprintf("Trend of %s beside its season", say_column(outcome_column(ctx)))
  d <- data.frame(at = as.Date(res$when, origin = "1970-01-01"), y = res$y, line = res$line, season = res$line + res$wave,
                  run = cumsum(c(0, diff(res$when) > 60)))
  new_figure("trend", title, "line", subtitle = "Points are means of days, the thin line trend and season, the thick line the trend.",
    alt = sprintf("%s: points, a wave and a straight line over time.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$at)) +
      ggplot2::geom_point(ggplot2::aes(y = .data$y), colour = quill_colours(1), size = 1.3, alpha = if (nrow(d) > 400) 0.3 else 0.6) +
      ggplot2::geom_line(ggplot2::aes(y = .data$season, group = .data$run), colour = quill_soft(), linewidth = 0.8) +
      ggplot2::geom_line(ggplot2::aes(y = .data$line), colour = quill_colours(2)[2], linewidth = 1.2) + ggplot2::labs(x = NULL, y = label),
    script = c("plot_data <- data.frame(day = as.Date(day, origin = \"1970-01-01\"), y = y, fitted = fitted(fit))",
               sprintf("plot <- ggplot(plot_data, aes(day, y)) + geom_point(alpha = 0.6) + geom_line(aes(y = fitted)) + labs(y = %s, title = %s) +",
                       as_r_string(label), as_r_string(title)), "  theme_minimal()"))
}

script_seasonal_trend <- function(ctx, res) {
  c("tables <- list()",
    sprintf("m <- tapply(%s, as.numeric(as.Date(%s, tz = \"UTC\")), mean); day <- as.numeric(names(m)); y <- as.vector(m)",
            script_value(outcome_name(ctx)), script_column(ctx$reading$time$column)),
    if (res$cycle == "week") "waves <- function(d) outer((d + 3) %% 7, 1:6, \"==\") + 0" else
      "waves <- function(d) { a <- 2 * pi * d / 365.25; cbind(sin(a), cos(a), sin(2 * a), cos(2 * a)) }",
    "x <- day - mean(day); s <- waves(day); fit <- lm(y ~ x + s)", script_newey_west(),
    "numbers$days <- n; numbers$season_swing <- diff(range(drop(s %*% coef(fit)[-(1:2)])))")
}
