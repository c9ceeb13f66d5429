# Time to an event, with censoring.

#' Kaplan-Meier estimate
#'
#' @param time Times above or equal to zero. @param event TRUE where the event came at that time.
#' @section Shape: data frame time, at_risk, events, censored, survival, se (Greenwood), ci_low, ci_high (log-log), one row a
#'   distinct time.
#' @section Source: Kaplan, E. L. and Meier, P. (1958). JASA 53, 457-481; interval: Kalbfleisch, J. D. and Prentice, R. L. (2002), ch. 1.
#' @noRd
stat_kaplan_meier <- function(time, event, conf_level = 0.95) {
  points <- sort(unique(time))
  at <- match(time, points)
  all <- tabulate(at, length(points)); died <- tabulate(at[event], length(points))
  risk <- rev(cumsum(rev(all)))
  survival <- cumprod(1 - died / risk)
  greenwood <- cumsum(ifelse(risk > died, died / (risk * (risk - died)), Inf * (died > 0)))
  greenwood[is.nan(greenwood)] <- Inf
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  half <- z * sqrt(greenwood) / abs(log(survival))
  low <- survival^exp(half); high <- survival^exp(-half)
  flat <- survival == 1 | survival == 0
  low[flat] <- NA; high[flat] <- NA
  data.frame(time = points, at_risk = risk, events = died, censored = all - died, survival = survival,
      se = ifelse(survival == 0, NA, survival * sqrt(greenwood)),
             ci_low = low, ci_high = high)
}

#' Median survival with its interval: where the curve, and its limits, first reach one half
#' @section Source: Brookmeyer, R. and Crowley, J. (1982). Biometrics 38, 29-41.
#' @noRd
median_survival <- function(km, share = 0.5) {
  first <- function(curve, strictly = FALSE) {
    at <- which(!is.na(curve) & curve <= share + 1e-12)
    if (!length(at)) return(NA_real_)
    k <- at[1]
    # a curve that rests on one half has its median in the middle of the step
    if (abs(curve[k] - share) < 1e-9 && any(curve[-seq_len(k)] < share - 1e-9, na.rm = TRUE)) {
      return((km$time[k] + km$time[k + which(curve[-seq_len(k)] < share - 1e-9)[1]]) / 2)
    }
    km$time[k]
  }
  c(median = first(km$survival), low = first(km$ci_low), high = first(km$ci_high))
}

#' A survival curve read at one time: the step before or at it
#'
#' @param km Output of stat_kaplan_meier().
#' @param at A time. Beyond the last time observed the curve is not known, unless it has come down to zero.
#' @section Shape: survival, low, high (limits of the log-minus-log interval).
#' @section Source: Kalbfleisch, J. D. and Prentice, R. L. (2002). The Statistical Analysis of Failure Time Data, 2nd ed., p. 18.
#' @noRd
survival_at <- function(km, at) {
  k <- sum(km$time <= at)
  if (k == 0) return(c(survival = 1, low = NA, high = NA))
  if (at > max(km$time) && km$survival[k] > 0) return(c(survival = NA, low = NA, high = NA))
  c(survival = km$survival[k], low = km$ci_low[k], high = km$ci_high[k])
}

#' Restricted mean survival: the area under the curve up to a time
#' @section Source: Royston, P. and Parmar, M. K. B. (2013). BMC Medical Research Methodology 13, 152.
#' @noRd
restricted_mean <- function(km, tau) {
  inside <- km$time < tau
  times <- c(0, km$time[inside], tau)
  levels <- c(1, km$survival[inside])
  width <- diff(times)
  areas <- width * levels
  total <- sum(areas)
  beyond <- rev(cumsum(rev(areas)))[-1]
  d <- km$events[inside]; n <- km$at_risk[inside]
  variance <- sum(ifelse(n > d, beyond^2 * d / (n * (n - d)), 0))
  c(mean = total, se = sqrt(variance))
}

#' Log-rank test of two or more groups
#'
#' @param group Codes from 1.
#' @param early Are events weighed by the share of all rows still without the event just before them?
#' @param stratum Codes from 1, or NULL: rows are compared with those of their own stratum only, and the strata added up.
#' @section Shape: `statistic` (chi-square), `df`, `p_value`, `n`, `groups` (data frame n, events, expected).
#' @section Source: Mantel, N. (1966). Cancer Chemotherapy Reports 50, 163-170; Peto, R. and Peto, J. (1972). JRSS A 135, 185-207.
#' @noRd
stat_log_rank <- function(time, event, group, early = FALSE, stratum = NULL) {
  k <- max(group)
  if (!any(event)) stop_data("No event occurs in these rows.", class = "no_events")
  strata <- if (is.null(stratum)) list(seq_along(time)) else split(seq_along(time), stratum)
  parts <- lapply(Filter(function(rows) any(event[rows]), unname(strata)),
    function(rows) log_rank_sums(time[rows], event[rows], group[rows], k, early))
  sum_of <- function(name) Reduce(`+`, lapply(parts, `[[`, name))
  gap <- (sum_of("observed") - sum_of("expected"))[-k]
  variance <- sum_of("variance")[-k, -k, drop = FALSE]
  statistic <- tryCatch(drop(gap %*% solve(variance, gap)), error = function(e)
    stop_data("The groups are never at risk together, so their times cannot be compared.", class = "unfit_data"))
  list(statistic = statistic, df = k - 1, p_value = stats::pchisq(statistic, k - 1, lower.tail = FALSE), n = length(time),
       groups = data.frame(n = tabulate(group, k), events = sum_of("died"), expected = sum_of("expected")))
}

#' Observed and expected events of `k` groups with their covariance, from one risk set to the next
#' @noRd
log_rank_sums <- function(time, event, group, k, early) {
  points <- sort(unique(time[event]))
  # risk sets by counting those whose time is not yet over
  risk <- vapply(seq_len(k), function(g) length_at_least(time[group == g], points), numeric(length(points)))
  risk <- matrix(risk, ncol = k)
  died <- vapply(seq_len(k), function(g) tabulate(match(time[event & group == g], points), length(points)), numeric(length(points)))
  died <- matrix(died, ncol = k)
  n <- rowSums(risk); d <- rowSums(died)
  pull <- if (early) c(1, utils::head(cumprod(1 - d / n), -1)) else rep(1, length(d))
  weight <- pull^2 * ifelse(n > 1, d * (n - d) / (n - 1), 0)
  share <- risk / n
  variance <- diag(colSums(weight * share), k) - crossprod(share * sqrt(weight))
  list(observed = colSums(pull * died), expected = colSums(pull * risk * d / n), variance = variance, died = colSums(died))
}

length_at_least <- function(time, points) length(time) - findInterval(points, sort(time), left.open = TRUE)

#' Cox regression with Efron's handling of ties
#'
#' @param x Matrix of predictors without intercept.
#' @param stratum Codes from 1, or NULL: each stratum has a hazard of its own, the ratios are the same in all.
#' @param cluster Codes from 1, or NULL: rows of one cluster belong together, and the errors allow for it.
#' @section Shape: `coefficients`, `se`, `covariance`, `log_likelihood`, `null_log_likelihood`, `statistic` (likelihood ratio; Wald where
#'   there are clusters), `df`, `p_value`, `concordance`, `schoenfeld` (residuals with their times), `n`, `events`, `converged`, and with
#'   clusters `se_plain` and `clusters`.
#' @section Source: Cox, D. R. (1972). JRSS B 34, 187-220; Efron, B. (1977). JASA 72, 557-565; errors by cluster: Lin, D. Y. and Wei,
#'   L. J. (1989). JASA 84, 1074-1078.
#' @noRd
stat_cox <- function(time, event, x, stratum = NULL, cluster = NULL) {
  if (!any(event)) stop_data("No event occurs in these rows.", class = "no_events")
  rows <- hazard_rows(time, event, x, stratum)
  if (qr(kernel_triangle(rows$x, NULL, NULL, thread_count()))$rank < ncol(x)) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")  # nolint: line_length_linter.
  top <- climb_partial(function(beta) kernel_hazard_sums(rows$time, rows$event, rows$stratum, rows$x, beta), sqrt(colMeans(rows$x^2)),
                       "hazard ratio")
  covariance <- solve(top$sums$information)
  statistic <- 2 * (top$sums$log_likelihood - top$null)
  residuals <- kernel_hazard_residuals(rows$time, rows$event, rows$stratum, rows$x, top$beta)
  came <- rows$event == 1L
  out <- list(coefficients = top$beta, se = sqrt(diag(covariance)), covariance = covariance, log_likelihood = top$sums$log_likelihood,
    null_log_likelihood = top$null, statistic = statistic, df = ncol(x), p_value = stats::pchisq(statistic, ncol(x), lower.tail = FALSE),
    concordance = hazard_concordance(rows, top$beta),
    schoenfeld = list(time = rows$time[came], residuals = residuals$by_event[came, , drop = FALSE]), n = length(time), events = sum(event),
    converged = TRUE)
  if (is.null(cluster)) out else cluster_errors(out, residuals$by_row, cluster[rows$order])
}

#' The rows in the order that the kernels of hazards take: by stratum, time, events first; predictors less their means
#' @noRd
hazard_rows <- function(time, event, x, stratum = NULL) {
  if (is.null(stratum)) stratum <- rep(1L, length(time))
  order <- order(stratum, time, !event, method = "radix")
  centred <- unname(sweep(x, 2, colMeans(x)))[order, , drop = FALSE]
  storage.mode(centred) <- "double"
  list(time = as.numeric(time[order]), event = as.integer(event[order]), stratum = as.integer(stratum[order]), x = centred, order = order)
}

#' Newton's steps to the top of a partial likelihood, halved where one goes too far
#'
#' @param sums_at Function of the coefficients: list(log_likelihood, score, information).
#' @param spread Root mean square of each predictor about its mean.
#' @param ratio What a coefficient is told as, for the message where one has no finite estimate.
#' @section Shape: list(beta, sums (those at beta), null (log likelihood of no effect)).
#' @noRd
climb_partial <- function(sums_at, spread, ratio) {
  apart <- function() stop_data(sprintf("The event is told apart perfectly by a predictor, so its %s runs off.", ratio), class = "separation")
  step_of <- function(sums) tryCatch(solve(sums$information, sums$score), error = function(e) apart())
  beta <- before <- numeric(length(spread)); null <- NULL; last <- -Inf
  for (iteration in 1:60) {
    sums <- sums_at(beta)
    if (is.null(null)) null <- sums$log_likelihood
    if (iteration > 1 && !isTRUE(sums$log_likelihood >= last - 1e-9 * abs(last))) { beta <- (beta + before) / 2; next }
    step <- step_of(sums)
    # (one step more: near the top each doubles the digits)
    if (iteration > 1 && max(abs(step)) < 1e-8 * (1 + max(abs(beta)))) return(list(beta = beta + step, sums = sums_at(beta + step), null = null))
    last <- sums$log_likelihood; before <- beta
    beta <- beta + step
    if (max(abs(beta * spread)) > 12) apart()
  }
  apart()
}

#' Errors that allow for rows of one cluster being alike: each cluster's sum of what its rows do to the coefficients
#' @noRd
cluster_errors <- function(fit, by_row, cluster) {
  clusters <- length(unique(cluster))
  if (clusters < 3) stop_data("Cluster-robust errors need at least three clusters.", class = "too_few_groups")
  moved <- rowsum(by_row %*% fit$covariance, cluster)
  robust <- crossprod(moved)
  wald <- drop(fit$coefficients %*% solve(robust, fit$coefficients))
  utils::modifyList(fit, list(se = sqrt(diag(robust)), covariance = robust, naive = fit$covariance, statistic = wald, se_plain = fit$se,
      clusters = clusters,
    p_value = stats::pchisq(wald, fit$df, lower.tail = FALSE)))
}

#' Is each hazard ratio constant in time? Scaled Schoenfeld residuals against the rank of time
#'
#' @param fit Output of stat_cox(). @param terms Names of its coefficients.
#' @section Shape: data frame term, correlation, p_value, p_adjusted (Holm); NULL with fewer than ten events.
#' @section Source: Grambsch, P. M. and Therneau, T. M. (1994). Biometrika 81, 515-526 (the rank version).
#' @noRd
stat_hazards_over_time <- function(fit, terms) {
  r <- fit$schoenfeld$residuals
  n <- nrow(r)
  if (n < 10) return(NULL)
  rank <- rank(fit$schoenfeld$time)
  rho <- apply(r %*% (fit$naive %||% fit$covariance), 2, function(v) if (stats::sd(v) > 0) stats::cor(v, rank) else 0)
  p <- 2 * stats::pt(-abs(rho) * sqrt((n - 2) / pmax(1 - rho^2, 1e-300)), n - 2)
  data.frame(term = terms, correlation = rho, p_value = p, p_adjusted = stats::p.adjust(p, "holm"), stringsAsFactors = FALSE)
}

#' Share of comparable pairs in which the higher risk has the earlier event; ties in risk count half
#' @section Source: Harrell, F. E. et al. (1982). JAMA 247, 2543-2546.
#' @noRd
hazard_concordance <- function(rows, beta) {
  risk <- drop(rows$x %*% beta)
  points <- sort(unique(risk))
  pairs <- kernel_hazard_pairs(rows$time, rows$event, rows$stratum, match(risk, points), length(points))
  if (pairs[3] == 0) NA_real_ else (pairs[1] + pairs[2] / 2) / pairs[3]
}
