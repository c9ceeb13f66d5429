# Logistic regression within matched sets.

#' Conditional logistic regression: which rows of a set had the event, given how many did
#'
#' @param event 0/1. @param x Matrix of predictors without intercept. @param set Codes of the sets from 1.
#' @section Shape: list(coefficients, se, covariance, log_likelihood, null_log_likelihood, statistic (likelihood ratio), df, p_value, sets
#'   (with rows both with and without the event: the others tell nothing), n (their rows), events).
#' @section Source: Breslow, N. E. and Day, N. E. (1980). Statistical Methods in Cancer Research, vol. I, ch. 7. Exact for any number of
#'   events in a set.
#' @noRd
stat_conditional_logistic <- function(event, x, set) {
  share <- stats::ave(event, set)
  told <- which(share > 0 & share < 1)
  if (!length(told)) stop_data("No set holds rows both with and without the event, so nothing can be compared within sets.", class = "unfit_data")
  told <- told[order(set[told], method = "radix")]
  set <- match(set[told], unique(set[told])); event <- as.integer(event[told])
  x <- unname(x[told, , drop = FALSE])
  # only what differs within a set can tell its rows apart
  within <- x - apply(x, 2, function(v) stats::ave(v, set))
  spread <- sqrt(colMeans(within^2))
  if (any(spread < 1e-10 * pmax(1, sqrt(colMeans(x^2)))) || qr(within)$rank < ncol(x)) {
    stop_data("A predictor does not differ within the sets, or repeats others there, so its effect cannot be told.", class = "collinear")
  }
  top <- climb_partial(function(beta) kernel_matched_sums(event, set, within, beta), spread, "odds ratio")
  if (!is.finite(top$null)) stop_data("A set holds too many rows for the exact likelihood.", class = "unfit_data")
  covariance <- solve(top$sums$information)
  statistic <- 2 * (top$sums$log_likelihood - top$null)
  list(coefficients = top$beta, se = sqrt(diag(covariance)), covariance = covariance, log_likelihood = top$sums$log_likelihood,
       null_log_likelihood = top$null, statistic = statistic, df = ncol(x), p_value = stats::pchisq(statistic, ncol(x), lower.tail = FALSE),
       sets = max(set), n = length(set), events = sum(event))
}
