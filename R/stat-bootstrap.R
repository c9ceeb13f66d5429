# Intervals by drawing rows with replacement, with a recorded seed.

#' Statistics that can be resampled: number in the kernel, share, and the values with one row left out
#' @noRd
resampled_statistics <- function() {
  list(mean = list(kernel = 0L, share = 0, label = "mean", compute = function(x, y) mean(x), script = "mean(v)"),
       sd = list(kernel = 1L, share = 0, label = "standard deviation", compute = function(x, y) stats::sd(x), script = "sd(v)"),
       median = list(kernel = 2L, share = 0.5, label = "median", compute = function(x, y) stats::median(x), script = "median(v)"),
       q1 = list(kernel = 2L, share = 0.25, label = "first quartile", compute = function(x, y) unname(stats::quantile(x, 0.25)),
         script = "quantile(v, 0.25, names = FALSE)"),
       q3 = list(kernel = 2L, share = 0.75, label = "third quartile", compute = function(x, y) unname(stats::quantile(x, 0.75)),
         script = "quantile(v, 0.75, names = FALSE)"),
       trimmed_mean = list(kernel = 3L, share = 0.2, label = "20 % trimmed mean", compute = function(x, y) stat_trimmed_mean(x),
         script = "mean(v, trim = 0.2)"),
       correlation = list(kernel = 4L, share = 0, label = "Pearson correlation r", compute = function(x, y) stat_pearson(x, y)$estimate,
         script = "cor(v, w)"))
}

#' Bootstrap with the bias-corrected and accelerated interval
#'
#' @param samples List of one or two vectors (two: the difference, first minus second, each resampled by itself).
#' @param beside For a correlation: the second column, in the order of the first sample.
#' @param statistic Name of one of [resampled_statistics()].
#' @section Shape: `estimate`, `se` (spread of the replicates), `bias`, `ci_low`, `ci_high`, `n`, `resamples`, `replicates`.
#' @section Source: Efron, B. (1987). JASA 82, 171-185; acceleration of two samples: Davison, A. C. and Hinkley, D. V. (1997). Bootstrap Methods
#'   and their Application, section 5.3.2 and problem 5.
#' @noRd
stat_bootstrap <- function(samples, statistic = "mean", beside = NULL, conf_level = 0.95, resamples = 9999L, seed = 20240501) {
  if (min(lengths(samples)) < 4) stop_data("A bootstrap needs at least four rows in each group.", class = "too_few_rows")
  if (max(lengths(samples)) > 20000) stop_data("A bootstrap is kept to 20,000 rows a group here; with so many the usual interval is as good.",
    class = "too_many_rows")
  s <- resampled_statistics()[[statistic]]
  y <- if (is.null(beside)) numeric() else as.numeric(beside)
  values <- lapply(seq_along(samples), function(k) kernel_bootstrap(as.numeric(samples[[k]]), y, s$kernel, s$share, resamples, stream_seed(seed +
    k - 1), thread_count()))
  replicates <- if (length(values) == 2) values[[1]] - values[[2]] else values[[1]]
  if (anyNA(replicates)) stop_data("Some samples drawn from these rows do not vary, so there is no interval.", class = "outcome_constant")
  observed <- vapply(samples, function(x) s$compute(x, y), 1)
  estimate <- if (length(observed) == 2) observed[1] - observed[2] else observed
  if (stats::sd(replicates) <= 0) stop_data("The outcome does not vary, so there is nothing to resample.", class = "outcome_constant")
  influence <- unlist(lapply(seq_along(samples), function(k) { left <- leave_one_out(samples[[k]], y, statistic)
    (if (k == 2) -1 else 1) * (length(left) - 1) * (mean(left) - left) / length(left) }))
  limits <- bca_limits(replicates, estimate, influence, conf_level)
  list(estimate = estimate, se = stats::sd(replicates), bias = mean(replicates) - estimate, ci_low = limits[1], ci_high = limits[2],
       n = sum(lengths(samples)), resamples = resamples, replicates = replicates)
}

bca_limits <- function(replicates, estimate, influence, conf_level) {
  # a replicate that equals the estimate counts half; sums in another order must not tip it to one side
  slack <- 1e-9 * stats::sd(replicates)
  below <- mean(replicates < estimate - slack) + mean(abs(replicates - estimate) <= slack) / 2
  z0 <- stats::qnorm(min(max(below, 1 / (2 * length(replicates))), 1 - 1 / (2 * length(replicates))))
  a <- sum(influence^3) / (6 * sum(influence^2)^1.5)
  if (!is.finite(a)) a <- 0
  z <- z0 + stats::qnorm(c((1 - conf_level) / 2, 1 - (1 - conf_level) / 2))
  unname(stats::quantile(replicates, stats::pnorm(z0 + z / (1 - a * z))))
}

#' The statistic with each row left out in turn
#' @noRd
leave_one_out <- function(x, y, statistic) {
  n <- length(x)
  s <- resampled_statistics()[[statistic]]
  switch(statistic,
    mean = (sum(x) - x) / (n - 1),
    sd = { d <- x - mean(x); q <- sum(d^2) - d^2; m <- -d / (n - 1); sqrt((q - (n - 1) * m^2) / (n - 2)) },
    median = , q1 = , q3 = { order <- order(x); v <- x[order]; at <- s$share * (n - 2); low <- floor(at) + 1; i <- seq_len(n)
      value <- function(j) v[j + (i <= j)]
      out <- value(low) + (at - floor(at)) * (if (at > floor(at)) value(low + 1) - value(low) else 0)
      out[order(order)] },
    vapply(seq_len(n), function(i) s$compute(x[-i], y[-i]), 1))
}
