# Further centres and spreads of one sample, each with the base-R expression that gives the same.

#' Statistics beyond the usual table
#'
#' @section Shape: named list of list(label, compute(v), script (an expression in v)). Trimming and winsorising take 20 % from each end,
#'   or the share that the id ends in (`trimmed_mean_10`).
#' @section Source: Wilcox, R. R. (2012). Introduction to Robust Estimation and Hypothesis Testing (3rd ed.), ch. 3; median absolute deviation
#'   times 1.4826, so that it estimates the standard deviation of a normal sample: Hampel, F. R. (1974). JASA 69, 383-393.
#' @noRd
further_statistics <- local({
  # (put together once: there are some two hundred)
  kept <- NULL
  function() {
    if (is.null(kept)) kept <<- all_further_statistics()
    kept
  }
})

all_further_statistics <- function() {
  one <- function(label, compute, script) list(label = label, compute = compute, script = script)
  percentiles <- lapply(stats::setNames(1:99, paste0("p", 1:99)), function(k) one(sprintf("%s percentile", ordinal(k)),
    function(v) stat_group_quantiles(v, probs = k / 100)[1], sprintf("quantile(v, %s, names = FALSE)", k / 100)))
  cut <- function(id, label, compute, script) lapply(stats::setNames(1:49, paste0(id, "_", 1:49)), function(k) one(sprintf("%d %% %s", k, label),
    function(v) compute(v, k / 100), sprintf(script, format(k / 100))))
  c(percentiles, cut("trimmed_mean", "trimmed mean", stat_trimmed_mean, "mean(v, trim = %s)"),
    cut("winsorised_mean", "winsorised mean", function(v, share) mean(winsorised(v, share)),
        "{ s <- sort(v); k <- floor(%s * length(s)); mean(pmin(pmax(s, s[k + 1]), s[length(s) - k])) }"), list(
    trimmed_mean = one("20 % trimmed mean", stat_trimmed_mean, "mean(v, trim = 0.2)"),
    winsorised_mean = one("20 % winsorised mean", function(v) mean(winsorised(v)),
                          "{ s <- sort(v); k <- floor(0.2 * length(s)); mean(pmin(pmax(s, s[k + 1]), s[length(s) - k])) }"),
    geometric_mean = one("geometric mean", function(v) exp(mean(log(need_positive(v, "geometric")))), "exp(mean(log(v)))"),
    harmonic_mean = one("harmonic mean", function(v) 1 / mean(1 / need_positive(v, "harmonic")), "1 / mean(1 / v)"),
    mad = one("median absolute deviation (times 1.4826)",
        function(v) 1.4826 * stat_group_quantiles(abs(v - stat_group_quantiles(v, probs = 0.5)[1]), probs = 0.5)[1], "mad(v)"),
    variance = one("variance", function(v) sd_from_moments(stat_group_moments(v))[[1]]^2, "var(v)"),
    range = one("range", function(v) max(v) - min(v), "diff(range(v))"),
    iqr = one("interquartile range", function(v) diff(stat_group_quantiles(v, probs = c(0.25, 0.75))[1, ]), "IQR(v)"),
    skewness = one("skewness", function(v) skewness_from_moments(stat_group_moments(v))[[1]],
        "{ d <- v - mean(v); k <- length(v); if (k > 2 && any(d != 0)) mean(d^3) / mean(d^2)^1.5 * sqrt(k * (k - 1)) / (k - 2) else NA_real_ }"),
    kurtosis = one("excess kurtosis", function(v) kurtosis_from_moments(stat_group_moments(v))[[1]], paste0(
        "{ d <- v - mean(v); k <- length(v); if (k > 3 && any(d != 0)) (k - 1) / ((k - 2) * (k - 3)) * ",
        "((k + 1) * (mean(d^4) / mean(d^2)^2 - 3) + 6) else NA_real_ }")),
    variation = one("coefficient of variation", function(v) { m <- stat_group_moments(v)
    sd_from_moments(m)[[1]] / m[[1, "mean"]] }, "sd(v) / mean(v)")))
}

#' 1st, 2nd, 3rd, 4th, 11th
#' @noRd
ordinal <- function(k) paste0(k, ifelse(k %/% 10 %% 10 == 1, "th", c("th", "st", "nd", "rd", rep("th", 6))[k %% 10 + 1]))

stat_trimmed_mean <- function(v, share = 0.2) {
  v <- sort(v)
  k <- floor(share * length(v))
  mean(v[(k + 1):(length(v) - k)])
}

#' Values beyond the cut are pulled in to it
#' @noRd
winsorised <- function(v, share = 0.2) {
  s <- sort(v)
  k <- floor(share * length(s))
  pmin(pmax(s, s[k + 1]), s[length(s) - k])
}

need_positive <- function(v, what) {
  if (any(v <= 0)) stop_data(sprintf("A %s mean needs values above zero; %s not.", what,
      if (sum(v <= 0) == 1) "one is" else sprintf("%d are", sum(v <= 0))), class = "unfit_data")
  v
}
