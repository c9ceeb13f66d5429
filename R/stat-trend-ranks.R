# A trend over time by ranks: the Mann-Kendall test and the slope of Theil and Sen.

#' Mann-Kendall test of a monotone trend, allowing for values that follow each other
#'
#' @param t Times as numbers. @param y Doubles without missing values, at least 5.
#' @param most Rows up to which all pairs are taken for the slope.
#' @section Shape: `statistic` (z), `p_value` (two-sided), `tau`, `slope` (what is taken out before neighbours are compared), `estimate`
#'   (slope of Theil and Sen, a unit of t; NA beyond `most` rows) with
#'   limits, `inflation` (how much the variance is enlarged for autocorrelation, at least 1), `n`.
#' @section Source: Mann, H. B. (1945). Econometrica 13, 245-259; Sen, P. K. (1968). JASA 63, 1379-1389; variance: Hamed, K. H. and Rao, A. R.
#'   (1998). Journal of Hydrology 204, 182-196.
#' @noRd
stat_mann_kendall <- function(t, y, conf_level = 0.95, most = 2500L) {
  n <- length(y)
  if (n < 5) stop_data("A trend needs at least five points in time.", sprintf("There are %d.", n), class = "too_few_rows")
  need_spread(stat_group_moments(t)[, "m2"]); need_spread(stat_group_moments(y)[, "m2"])
  order <- order(t)
  t <- t[order]; y <- y[order]
  k <- kernel_kendall(as.double(t), as.double(y))
  pairs <- n * (n - 1) / 2
  s <- k[["concordant"]] - k[["discordant"]]
  sen <- sen_slope(t, y, most)
  slope <- if (is.null(sen)) stat_least_squares(cbind(1, t - mean(t)), y)$coefficients[2] else sen$slope
  inflation <- rank_inflation(y - slope * t)
  spread <- sqrt(kendall_variance(tie_sizes(t), tie_sizes(y), n) * inflation)
  z <- (s - sign(s)) / spread
  limits <- if (is.null(sen)) c(NA_real_, NA_real_) else sen_limits(sen$slopes, spread, conf_level)
  list(statistic = z, p_value = 2 * stats::pnorm(-abs(z)), tau = s / sqrt((pairs - k[["ties_x"]]) * (pairs - k[["ties_y"]])),
       slope = slope, estimate = if (is.null(sen)) NA_real_ else slope, ci_low = limits[1], ci_high = limits[2], inflation = inflation, n = n)
}

#' The median slope of all pairs of points at different times; NULL for too many rows
#' @noRd
sen_slope <- function(t, y, most) {
  if (length(y) > most) return(NULL)
  n <- length(y)
  later <- sequence((n - 1):1, 2:n); earlier <- rep(seq_len(n - 1), (n - 1):1)
  apart <- t[later] - t[earlier]
  slopes <- sort(((y[later] - y[earlier]) / apart)[apart != 0])
  list(slope = stats::median(slopes), slopes = slopes)
}

sen_limits <- function(slopes, spread, conf_level) {
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * spread
  m <- length(slopes)
  low <- (m - half) / 2; high <- (m + half) / 2 + 1
  if (low < 1 || high > m) return(c(NA_real_, NA_real_))
  stats::approx(seq_len(m), slopes, c(low, high))$y
}

#' How much larger the variance of Kendall's sum is where ranks of neighbours are alike; at least 1
#' @param e Values without their trend, in the order of time.
#' @noRd
rank_inflation <- function(e) {
  n <- length(e)
  if (n < 10 || stats::var(e) == 0) return(1)
  r <- stat_midranks(e)$rank - (n + 1) / 2
  lags <- seq_len(min(n - 3, max(10, floor(10 * log10(n)))))
  rho <- vapply(lags, function(k) sum(r[-seq_len(k)] * r[seq_len(n - k)]), 1) / sum(r^2)
  clear <- abs(rho) > stats::qnorm(0.975) / sqrt(n)
  # a lag counts as long as all before it are clear: single far ones are chance
  upto <- if (all(clear)) length(lags) else which(!clear)[1] - 1
  k <- lags[seq_len(upto)]
  max(1, 1 + 2 / (n * (n - 1) * (n - 2)) * sum((n - k) * (n - k - 1) * (n - k - 2) * rho[seq_len(upto)]))
}
