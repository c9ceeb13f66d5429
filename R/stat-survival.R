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
#' @section Shape: `statistic` (chi-square), `df`, `p_value`, `n`, `groups` (data frame n, events, expected).
#' @param early Are events weighed by the share of all rows still without the event just before them?
#' @section Source: Mantel, N. (1966). Cancer Chemotherapy Reports 50, 163-170; Peto, R. and Peto, J. (1972). JRSS A 135, 185-207.
#' @noRd
stat_log_rank <- function(time, event, group, early = FALSE) {
  k <- max(group)
  points <- sort(unique(time[event]))
  if (!length(points)) stop_data("No event occurs in these rows.", class = "no_events")
  expected <- numeric(k); variance <- matrix(0, k, k)
  # risk sets by counting those whose time is not yet over
  risk <- vapply(seq_len(k), function(g) length_at_least(time[group == g], points), numeric(length(points)))
  risk <- matrix(risk, ncol = k)
  died <- vapply(seq_len(k), function(g) tabulate(match(time[event & group == g], points), length(points)), numeric(length(points)))
  died <- matrix(died, ncol = k)
  n <- rowSums(risk); d <- rowSums(died)
  pull <- if (early) c(1, utils::head(cumprod(1 - d / n), -1)) else rep(1, length(d))
  expected <- colSums(pull * risk * d / n)
  weight <- pull^2 * ifelse(n > 1, d * (n - d) / (n - 1), 0)
  share <- risk / n
  for (a in seq_len(k)) for (b in seq_len(k)) variance[a, b] <- sum(weight * (share[, a] * (a == b) - share[, a] * share[, b]))
  observed <- colSums(pull * died)
  gap <- (observed - expected)[-k]
  statistic <- drop(gap %*% solve(variance[-k, -k, drop = FALSE], gap))
  list(statistic = statistic, df = k - 1, p_value = stats::pchisq(statistic, k - 1, lower.tail = FALSE), n = length(time),
       groups = data.frame(n = tabulate(group, k), events = colSums(died), expected = expected))
}

length_at_least <- function(time, points) length(time) - findInterval(points, sort(time), left.open = TRUE)

#' Cox regression with Efron's handling of ties
#'
#' @param x Matrix of predictors without intercept.
#' @section Shape: `coefficients`, `se`, `covariance`, `log_likelihood`, `null_log_likelihood`, `statistic` (likelihood ratio), `df`,
#'   `p_value`, `concordance`, `schoenfeld` (scaled residuals with their times), `n`, `events`, `converged`.
#' @section Source: Cox, D. R. (1972). JRSS B 34, 187-220; Efron, B. (1977). JASA 72, 557-565.
#' @noRd
stat_cox <- function(time, event, x) {
  p <- ncol(x)
  if (!any(event)) stop_data("No event occurs in these rows.", class = "no_events")
  centred <- unname(sweep(x, 2, colMeans(x)))
  order <- order(time, !event)
  time <- time[order]; event <- event[order]; centred <- centred[order, , drop = FALSE]
  points <- sort(unique(time[event]))
  if (qr(centred)$rank < p) stop_data("The predictors repeat each other, so their effects cannot be told apart.", class = "collinear")
  beta <- numeric(p); null <- NULL; converged <- FALSE; last <- -Inf
  for (iteration in 1:60) {
    s <- cox_score(beta, time, event, centred, points)
    if (is.null(null)) null <- s$log_likelihood
    if (s$log_likelihood < last - 1e-9 * abs(last) && iteration > 1) { beta <- (beta + before) / 2; next }
    # at the top the step is far below what any reader sees
    step <- tryCatch(solve(s$information, s$score),
        error = function(e) stop_data("The model cannot be fitted: the event is told apart perfectly by a predictor.",
                                                                                  class = "separation"))
    if (iteration > 1 && max(abs(step)) < 1e-8 * (1 + max(abs(beta)))) {
      # one step more: near the top each doubles the digits
      beta <- beta + step
      s <- cox_score(beta, time, event, centred, points)
      converged <- TRUE
      break
    }
    last <- s$log_likelihood; before <- beta
    beta <- beta + step
    if (max(abs(beta * apply(centred, 2,
        stats::sd))) > 12) stop_data("The event is told apart perfectly by a predictor, so its hazard ratio runs off.", class = "separation")
  }
  if (!converged) stop_data("The event is told apart perfectly by a predictor, so its hazard ratio runs off.", class = "separation")
  covariance <- solve(s$information)
  statistic <- 2 * (s$log_likelihood - null)
  list(coefficients = beta, se = sqrt(diag(covariance)), covariance = covariance, log_likelihood = s$log_likelihood,
      null_log_likelihood = null, statistic = statistic,
       df = p, p_value = stats::pchisq(statistic, p, lower.tail = FALSE), concordance = concordance(time, event, drop(centred %*% beta)),
       schoenfeld = schoenfeld_residuals(beta, time, event, centred), n = length(time), events = sum(event), converged = converged)
}

#' Log partial likelihood, score and information
#' @noRd
cox_score <- function(beta, time, event, x, points) {
  p <- ncol(x)
  eta <- drop(x %*% beta)
  risk <- exp(eta)
  # sums over the risk set of each time, from the last time backwards
  first <- match(points, time)
  cumulative <- function(v) { v <- as.matrix(v); out <- apply(v[rev(seq_len(nrow(v))), , drop = FALSE], 2, cumsum)
  matrix(out, nrow(v))[rev(seq_len(nrow(v))), , drop = FALSE] }
  s0 <- cumulative(risk)[first, 1]
  s1 <- cumulative(x * risk)[first, , drop = FALSE]
  pairs <- expand.grid(a = seq_len(p), b = seq_len(p))
  s2 <- cumulative(x[, pairs$a, drop = FALSE] * x[, pairs$b, drop = FALSE] * risk)[first, , drop = FALSE]
  log_likelihood <- 0; score <- numeric(p); information <- matrix(0, p, p)
  for (k in seq_along(points)) {
    rows <- which(time == points[k] & event)
    d <- length(rows)
    d0 <- sum(risk[rows]); d1 <- colSums(x[rows, , drop = FALSE] * risk[rows])
    d2 <- crossprod(x[rows, , drop = FALSE], x[rows, , drop = FALSE] * risk[rows])
    log_likelihood <- log_likelihood + sum(eta[rows])
    score <- score + colSums(x[rows, , drop = FALSE])
    for (l in seq_len(d) - 1) {
      part <- l / d
      t0 <- s0[k] - part * d0; t1 <- s1[k, ] - part * d1; t2 <- matrix(s2[k, ], p) - part * d2
      log_likelihood <- log_likelihood - log(t0)
      score <- score - t1 / t0
      information <- information + t2 / t0 - tcrossprod(t1 / t0)
    }
  }
  list(log_likelihood = log_likelihood, score = score, information = information)
}

#' Schoenfeld residuals at the event times (ties by Efron's mean risk set)
#' @noRd
schoenfeld_residuals <- function(beta, time, event, x) {
  risk <- exp(drop(x %*% beta))
  points <- sort(unique(time[event]))
  rows <- lapply(points, function(t) {
    at <- which(time == t & event)
    set <- time >= t
    d <- length(at)
    means <- vapply(seq_len(d) - 1, function(l) {
      w <- risk * set; w[at] <- w[at] * (1 - l / d)
      colSums(x * w) / sum(w)
    }, numeric(ncol(x)))
    centre <- rowMeans(matrix(means, ncol(x)))
    sweep(x[at, , drop = FALSE], 2, centre)
  })
  list(time = rep(points, vapply(rows, nrow, 1L)), residuals = do.call(rbind, rows))
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
  rho <- apply(r %*% fit$covariance, 2, function(v) if (stats::sd(v) > 0) stats::cor(v, rank) else 0)
  p <- 2 * stats::pt(-abs(rho) * sqrt((n - 2) / pmax(1 - rho^2, 1e-300)), n - 2)
  data.frame(term = terms, correlation = rho, p_value = p, p_adjusted = stats::p.adjust(p, "holm"), stringsAsFactors = FALSE)
}

#' Share of comparable pairs in which the higher risk has the earlier event; ties in risk count half
#' @section Source: Harrell, F. E. et al. (1982). JAMA 247, 2543-2546.
#' @noRd
concordance <- function(time, event, risk) {
  if (length(time) > 5000) {
    # the pairs of a fixed sample of rows tell the share well enough
    keep <- unique(round(seq(1, length(time), length.out = 5000)))
    time <- time[keep]; event <- event[keep]; risk <- risk[keep]
  }
  agree <- ties <- total <- 0
  for (i in which(event)) {
    later <- time > time[i] | (time == time[i] & !event)
    later[i] <- FALSE
    total <- total + sum(later)
    agree <- agree + sum(risk[i] > risk[later]); ties <- ties + sum(risk[i] == risk[later])
  }
  if (total == 0) NA_real_ else (agree + ties / 2) / total
}
