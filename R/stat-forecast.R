# Exponential smoothing with additive trend and season.

#' Periods of a series: means (or sums) of the values in each, gaps filled on a straight line
#'
#' @param day Dates as whole days. @param y Values. @param every "day", "week", "month", "quarter" or "year".
#' @param total Add the values of a period up instead of averaging them?
#' @section Shape: list(period (whole numbers), value, rows (in each), filled (how many were interpolated), dropped (periods before a long gap)).
#' @noRd
stat_series <- function(day, y, every, total = FALSE) {
  index <- period_index(day, every)
  periods <- sort(unique(index))
  at <- match(index, periods)
  m <- stat_group_moments(y, at, length(periods))
  value <- if (total) m[, "mean"] * m[, "n"] else m[, "mean"]
  # a long gap (a season, a closed year) ends one series and begins another: the last counts
  breaks <- which(diff(periods) > 3)
  first <- if (length(breaks)) last_of(breaks) + 1L else 1L
  kept <- seq(first, length(periods))
  if (length(kept) < 3) stop_data("A forecast needs at least eight periods that follow one another.", sprintf("There are %d.", length(kept)),
                                  class = "too_few_rows")
  full <- seq(periods[first], last_of(periods))
  filled <- stats::approx(periods[kept], value[kept], full)$y
  list(period = full, value = filled, rows = m[kept, "n"], filled = length(full) - length(kept), dropped = first - 1L)
}

period_index <- function(day, every) {
  day <- as.integer(day)
  date <- as.POSIXlt(structure(day, class = "Date"))
  switch(every, day = day, week = (day + 3L) %/% 7L, month = (date$year + 1900L) * 12L + date$mon,
      quarter = ((date$year + 1900L) * 12L + date$mon) %/% 3L, year = date$year + 1900L)
}

#' Usual step between the dates of a series
#' @noRd
usual_step <- function(day) {
  gaps <- diff(sort(unique(as.integer(day))))
  if (!length(gaps)) return("day")
  gap <- stats::median(gaps)
  if (gap < 5) "day" else if (gap < 20) "week" else if (gap < 60) "month" else if (gap < 200) "quarter" else "year"
}

season_length <- function(every) c(day = 7L, week = 52L, month = 12L, quarter = 4L, year = 1L)[[every]]

#' Does a season show in a series of at least two of them?
#'
#' Values less their straight line are held against those one season before: of a season that comes back they are alike. The rule asks
#' for a correlation beyond .6 that chance alone would not make (one-sided t test at the 1 % level), over eight pairs or more.
#' @param y Values of the periods in their order.
#' @param season Periods of a season (12 for months).
#' @noRd
season_shows <- function(y, season) {
  pairs <- length(y) - season
  if (season < 2 || pairs < max(8, season)) return(FALSE)
  left <- stats::residuals(stats::lm(y ~ seq_along(y)))
  a <- left[seq_len(pairs)]; b <- left[season + seq_len(pairs)]
  if (stats::sd(a) <= 1e-12 * max(abs(y)) || stats::sd(b) <= 1e-12 * max(abs(y))) return(FALSE)
  r <- min(1 - 1e-12, stats::cor(a, b))
  r > 0.6 && stats::pt(r * sqrt((pairs - 2) / (1 - r^2)), pairs - 2, lower.tail = FALSE) < 0.01
}

#' Smoothing chosen among level, level and trend, and both with season, by AICc
#'
#' Over two to three seasons the states of the season would cost AICc more periods than are there, so a season that shows is carried on,
#' and between the two seasonal models the errors of the later seasons decide (AIC of the smoothing weights, as the first season only
#' gives the states to start from).
#' @section Shape: `model` ("level", "trend", "season", "trend_season"), `alpha`, `beta`, `gamma`, `start` (level,
#'   trend, season), `sse`, `sigma`, `aicc`, `fitted`, `forecast`
#'   (mean, se for each step ahead), `season` (length), `shown` (was the season carried on because it shows?).
#' @section Source: Hyndman, R. J. and Athanasopoulos, G. (2021). Forecasting: Principles and Practice (3rd ed.), ch.
#'   8; prediction variances of the additive models:
#'   Hyndman, R. J. et al. (2008). Forecasting with Exponential Smoothing, table 6.1.
#' @noRd
stat_smoothing <- function(y, season, ahead) {
  n <- length(y)
  if (n < 8) stop_data("A forecast needs at least eight periods.", class = "too_few_rows")
  if (stats::var(y) <= 0) stop_data("The series does not change, so there is nothing to forecast.", class = "outcome_constant")
  models <- c("level", "trend", if (season > 1 && n >= 2 * season + 3) c("season", "trend_season"))
  shown <- n < 3 * season && season_shows(y, season)
  if (shown) models <- c("season", "trend_season")
  fits <- lapply(models, function(model) fit_smoothing(y, model, season))
  best <- fits[[which.min(vapply(fits, `[[`, 1, if (shown) "aic" else "aicc"))]]
  best$shown <- shown
  best$forecast <- smoothing_ahead(best, ahead)
  best
}

fit_smoothing <- function(y, model, season) {
  seasonal <- grepl("season", model); trend <- grepl("trend", model)
  m <- if (seasonal) season else 1L
  start <- smoothing_start(y, m, trend)
  free <- c(TRUE, trend, seasonal)
  full <- function(p) { out <- c(0, 0, 0); out[free] <- p; out }
  objective <- function(p) run_smoothing(y, full(p), start, m)$sse
  tries <- lapply(list(c(0.2, 0.05, 0.1), c(0.6, 0.1, 0.2), c(0.9, 0.01, 0.05)), function(s) {
    stats::optim(s[free], objective, method = "L-BFGS-B", lower = 1e-4, upper = 0.9999,
        control = list(fnscale = max(1e-12, objective(s[free])), maxit = 300))
  })
  p <- full(tries[[which.min(vapply(tries, `[[`, 1, "value"))]]$par)
  run <- run_smoothing(y, p, start, m)
  used <- length(y) - run$from
  k <- sum(free) + 1 + trend + if (seasonal) m - 1 else 0
  spare <- used - k - 2
  aicc <- if (spare < 1) Inf else used * log(run$sse / used) + 2 * (k + 1) + 2 * (k + 1) * (k + 2) / spare
  aic <- used * log(run$sse / used) + 2 * sum(free)
  list(model = model, alpha = p[1], beta = p[2], gamma = p[3], start = start, season = m, sse = run$sse, aic = aic,
      sigma = sqrt(run$sse / max(1, used - sum(free))), aicc = aicc, fitted = run$fitted, from = run$from, last = run$last)
}

#' Level, trend and season to start from: the first season, or the first values
#' @noRd
smoothing_start <- function(y, m, trend) {
  if (m == 1) return(list(level = if (trend) y[2] else y[1], trend = if (trend) y[2] - y[1] else 0, season = 0, used = if (trend) 2L else 1L))
  first <- y[seq_len(m)]; second <- y[m + seq_len(m)]
  slope <- if (trend) (mean(second) - mean(first)) / m else 0
  list(level = mean(first) + slope * (m - 1) / 2, trend = slope, season = first - mean(first) - slope * (seq_len(m) - (m + 1) / 2), used = m)
}

#' One pass of the recursions
#' @noRd
run_smoothing <- function(y, p, start, m) {
  level <- start$level; trend <- start$trend; season <- start$season; from <- start$used
  seasonal <- m > 1
  fitted <- rep(NA_real_, length(y)); sse <- 0
  for (t in seq(from + 1, length(y))) {
    s <- if (seasonal) season[(t - 1) %% m + 1] else 0
    hat <- level + trend + s
    e <- y[t] - hat
    sse <- sse + e^2
    fitted[t] <- hat
    new <- p[1] * (y[t] - s) + (1 - p[1]) * (level + trend)
    if (p[2] > 0) trend <- p[2] * (new - level) + (1 - p[2]) * trend
    level <- new
    if (seasonal) season[(t - 1) %% m + 1] <- p[3] * (y[t] - level) + (1 - p[3]) * s
  }
  list(sse = sse, fitted = fitted, from = from, last = list(level = level, trend = trend, season = season, n = length(y)))
}

smoothing_ahead <- function(fit, ahead) {
  h <- seq_len(ahead)
  s <- if (fit$season > 1) fit$last$season[(fit$last$n + h - 1) %% fit$season + 1] else 0
  mean <- fit$last$level + h * fit$last$trend + s
  c <- fit$alpha * (1 + h * fit$beta) + if (fit$season > 1) fit$gamma * (1 - fit$alpha) * (h %% fit$season == 0) else 0
  data.frame(mean = mean, se = fit$sigma * sqrt(1 + c(0, cumsum(c^2)[-length(h)])[seq_len(ahead)]))
}
