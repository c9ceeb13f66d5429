# Agreement of raters and of measurements.

#' Cohen's kappa of two raters, unweighted or weighted
#'
#' @param counts Square table of counts, the same levels in the same order on both sides.
#' @param weights "none", "linear" or "quadratic".
#' @section Shape: `kappa` with limits (large-sample standard error), `se`, `p_value` (against 0, with the standard error under 0),
#'   `agreement` (share of equal ratings), `credited` (share of agreement with near misses credited by the weights), `expected` (the
#'   same under independence), `n`.
#' @section Source: Cohen, J. (1960, 1968); Fleiss, J. L., Cohen, J. and Everitt, B. S. (1969). Psychological Bulletin 72, 323-327.
#' @noRd
stat_cohen_kappa <- function(counts, weights = "none", conf_level = 0.95) {
  k <- nrow(counts); n <- sum(counts)
  apart <- abs(outer(seq_len(k), seq_len(k), "-"))
  w <- switch(weights, none = (apart == 0) * 1, linear = 1 - apart / (k - 1), quadratic = 1 - (apart / (k - 1))^2)
  p <- counts / n
  rows <- rowSums(p); columns <- colSums(p)
  observed <- sum(w * p); expected <- sum(w * outer(rows, columns))
  if (expected >= 1) stop_data("Both raters used one level only, so agreement beyond chance cannot be told.", class = "outcome_constant")
  kappa <- (observed - expected) / (1 - expected)
  row_mean <- as.vector(w %*% columns); column_mean <- as.vector(t(w) %*% rows)
  both <- outer(row_mean, column_mean, "+")
  variance <- (sum(p * (w - both * (1 - kappa))^2) - (kappa - expected * (1 - kappa))^2) / (n * (1 - expected)^2)
  null <- (sum(outer(rows, columns) * (w - both)^2) - expected^2) / (n * (1 - expected)^2)
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  se <- sqrt(max(0, variance))
  statistic <- kappa / sqrt(null)
  list(statistic = statistic, p_value = 2 * stats::pnorm(-abs(statistic)), kappa = kappa, se = se,
      kappa_low = kappa - z * se, kappa_high = min(1, kappa + z * se),
       agreement = sum(diag(p)), credited = observed, expected = expected, n = n)
}

#' Fleiss' kappa of several raters
#' @param ratings Matrix of level codes, subjects by raters.
#' @section Source: Fleiss, J. L. (1971). Psychological Bulletin 76, 378-382; standard error under 0: Fleiss, Nee and Landis (1979).
#' @noRd
stat_fleiss_kappa <- function(ratings, levels, conf_level = 0.95) {
  n <- nrow(ratings); m <- ncol(ratings)
  counts <- vapply(seq_len(levels), function(k) rowSums(ratings == k), numeric(n))
  counts <- matrix(counts, n)
  share <- colSums(counts) / (n * m)
  within <- (rowSums(counts^2) - m) / (m * (m - 1))
  observed <- mean(within); expected <- sum(share^2)
  if (expected >= 1) stop_data("The raters used one level only, so agreement beyond chance cannot be told.", class = "outcome_constant")
  kappa <- (observed - expected) / (1 - expected)
  q <- share * (1 - share)
  se <- sqrt(2) / (sum(q) * sqrt(n * m * (m - 1))) * sqrt(sum(q)^2 - sum(q * (1 - 2 * share)))
  z <- stats::qnorm(1 - (1 - conf_level) / 2)
  list(statistic = kappa / se, p_value = 2 * stats::pnorm(-abs(kappa / se)), kappa = kappa, se = se,
      kappa_low = kappa - z * se, kappa_high = min(1, kappa + z * se),
       agreement = observed, expected = expected, n = n)
}

#' Intraclass correlations, all six forms
#' @param x Matrix, subjects by raters, no missing values.
#' @section Shape: data frame `forms`: form ("ICC(1,1)" ...), model, estimate, ci_low, ci_high, statistic (F), df1,
#'   df2, p_value; `n`, `k`, mean squares.
#' @section Source: Shrout, P. E. and Fleiss, J. L. (1979). Psychological Bulletin 86, 420-428; McGraw, K. O. and Wong, S. P. (1996).
#'   Psychological Methods 1, 30-46.
#' @noRd
stat_intraclass <- function(x, conf_level = 0.95) {
  n <- nrow(x); k <- ncol(x)
  if (n < 2 || k < 2) stop_data("An intraclass correlation needs at least two subjects and two raters.", class = "too_few_rows")
  grand <- mean(x)
  ss_rows <- k * sum((rowMeans(x) - grand)^2); ss_columns <- n * sum((colMeans(x) - grand)^2)
  ss_error <- sum((x - grand)^2) - ss_rows - ss_columns
  r <- ss_rows / (n - 1); c <- ss_columns / (k - 1); e <- ss_error / ((n - 1) * (k - 1)); w <- (ss_columns + ss_error) / (n * (k - 1))
  if (r <= 0) stop_data("The subjects do not differ, so agreement cannot be told.", class = "outcome_constant")
  tail <- (1 - conf_level) / 2
  df_w <- n * (k - 1); df_e <- (n - 1) * (k - 1)
  limits <- function(f, df2) c(f / stats::qf(1 - tail, n - 1, df2), f * stats::qf(1 - tail, df2, n - 1))
  one <- limits(r / w, df_w); three <- limits(r / e, df_e)
  icc2 <- (r - e) / (r + (k - 1) * e + k * (c - e) / n)
  v <- agreement_df(icc2, c, e, n, k)
  two <- c(n * (r - stats::qf(1 - tail, n - 1, v) * e) / (stats::qf(1 - tail, n - 1, v) * (k * c + (k * n - k - n) * e) + n * r),
           n * (stats::qf(1 - tail, v, n - 1) * r - e) / (k * c + (k * n - k - n) * e + n * stats::qf(1 - tail, v, n - 1) * r))
  up <- function(icc) icc * k / (1 + icc * (k - 1))
  forms <- data.frame(
    form = c("ICC(1,1)", "ICC(2,1)", "ICC(3,1)", "ICC(1,k)", "ICC(2,k)", "ICC(3,k)"),
    of = c("one rating, each subject has raters of its own", "one rating, raters drawn at random, absolute agreement",
        "one rating, these raters, consistency",
           "mean rating, each subject has raters of its own", "mean rating, raters drawn at random, absolute agreement",
               "mean rating, these raters, consistency"),
    estimate = c((r - w) / (r + (k - 1) * w), icc2, (r - e) / (r + (k - 1) * e), (r - w) / r, (r - e) / (r + (c - e) / n), (r - e) / r),
    ci_low = c((one[1] - 1) / (one[1] + k - 1), two[1], (three[1] - 1) / (three[1] + k - 1), 1 - 1 / one[1], up(two[1]), 1 - 1 / three[1]),
    ci_high = c((one[2] - 1) / (one[2] + k - 1), two[2], (three[2] - 1) / (three[2] + k - 1), 1 - 1 / one[2], up(two[2]), 1 - 1 / three[2]),
    statistic = rep(c(r / w, r / e, r / e), 2), df1 = n - 1, df2 = rep(c(df_w, df_e, df_e), 2), stringsAsFactors = FALSE)
  forms$p_value <- stats::pf(forms$statistic, forms$df1, forms$df2, lower.tail = FALSE)
  list(forms = forms, n = n, k = k, rows = r, columns = c, error = e)
}

#' Intraclass correlation of rows within groups (one-way random effects, groups of any size)
#'
#' @param x Values. @param code Group of each value, 1 to k.
#' @section Shape: `icc`, `low`, `high`, `statistic`, `df1`, `df2`, `p_value`, `n`, `groups`, `size` (typical rows per group), `sd_between`,
#'   `sd_within`.
#' @section Source: Searle, S. R. (1971). Linear Models, 414 (exact interval for equal sizes); Donner, A. and Koval, J. J. (1980). Biometrics 36,
#'   19-25 (with the typical size for unequal ones).
#' @noRd
stat_intraclass_groups <- function(x, code, conf_level = 0.95) {
  m <- stat_group_moments(x, code, max(code))
  m <- m[m[, "n"] > 0, , drop = FALSE]
  k <- nrow(m); n <- sum(m[, "n"])
  if (k < 2 || n <= k) stop_data("An intraclass correlation needs at least two groups, some of them with several rows.", class = "too_few_rows")
  grand <- sum(m[, "n"] * m[, "mean"]) / n
  between <- sum(m[, "n"] * (m[, "mean"] - grand)^2) / (k - 1); within <- sum(m[, "m2"]) / (n - k)
  if (within <= 0) stop_data("Rows of the same group do not differ, so the correlation is one.", class = "outcome_constant")
  size <- (n - sum(m[, "n"]^2) / n) / (k - 1)
  f <- between / within; tail <- (1 - conf_level) / 2
  from_f <- function(f) (f - 1) / (f + size - 1)
  list(icc = from_f(f), low = from_f(f / stats::qf(1 - tail, k - 1, n - k)), high = from_f(f / stats::qf(tail, k - 1, n - k)), statistic = f,
       df1 = k - 1, df2 = n - k, p_value = stats::pf(f, k - 1, n - k, lower.tail = FALSE), n = n, groups = k, size = size,
       sd_between = sqrt(max(0, (between - within) / size)), sd_within = sqrt(within))
}

#' Degrees of freedom of the interval of ICC(2,1) (Satterthwaite)
#' @noRd
agreement_df <- function(icc, c, e, n, k) {
  a <- k * icc / (n * (1 - icc)); b <- 1 + k * icc * (n - 1) / (n * (1 - icc))
  (a * c + b * e)^2 / ((a * c)^2 / (k - 1) + (b * e)^2 / ((n - 1) * (k - 1)))
}

#' Limits of agreement of two measurements
#' @section Shape: `bias`, `sd`, `lower`, `upper` with the interval of each, `n`.
#' @section Source: Bland, J. M. and Altman, D. G. (1986). Lancet 327, 307-310; (1999). Statistical Methods in Medical Research 8, 135-160.
#' @noRd
stat_limits_of_agreement <- function(x, y, conf_level = 0.95) {
  d <- x - y; n <- length(d)
  if (n < 3) stop_data("Limits of agreement need at least three pairs.", class = "too_few_rows")
  bias <- mean(d); s <- stats::sd(d)
  t <- stats::qt(1 - (1 - conf_level) / 2, n - 1)
  se_bias <- s / sqrt(n); se_limit <- s * sqrt(1 / n + 1.96^2 / (2 * (n - 1)))
  list(bias = bias, bias_low = bias - t * se_bias, bias_high = bias + t * se_bias, sd = s, lower = bias - 1.96 * s,
      upper = bias + 1.96 * s, se_limit = se_limit,
       margin = t * se_limit, n = n)
}

#' McDonald's omega of one factor, by maximum likelihood
#' @param items Matrix, persons by items.
#' @section Shape: `omega` (of the sum of the standardised items) with `ci_low` and `ci_high`, `loadings`, `uniquenesses`, `converged`.
#' @section Source: McDonald, R. P. (1999). Test Theory; factor by maximum likelihood: Joereskog, K. G. (1967). Psychometrika 32, 443-482.
#' @noRd
stat_omega <- function(items, conf_level = 0.95) {
  k <- ncol(items)
  if (k < 3) stop_data("Omega needs at least three items.", class = "too_few_columns")
  s <- stats::cor(items)
  fit <- one_factor(s)
  total <- sum(fit$loadings)^2
  omega <- total / (total + sum(fit$uniquenesses))
  limits <- omega_limits(fit$loadings, fit$uniquenesses, omega, nrow(items), conf_level)
  list(omega = omega, ci_low = limits[1], ci_high = limits[2], loadings = fit$loadings, uniquenesses = fit$uniquenesses, converged = fit$converged)
}

#' Limits of omega on the logistic scale, by the information of the one-factor model and the delta method
#'
#' @section Shape: low and high; NA where an item is explained wholly by the factor, since no error can be told there.
#' @section Source: Raykov, T. (2002). Multivariate Behavioral Research 37, 89-103 (delta method); information of a
#'   covariance structure: Joereskog, K. G. (1970). Biometrika 57, 239-251.
#' @noRd
omega_limits <- function(loadings, uniquenesses, omega, n, conf_level) {
  k <- length(loadings)
  if (any(uniquenesses < 0.01) || omega <= 0 || omega >= 1) return(c(NA_real_, NA_real_))
  a <- solve(tcrossprod(loadings) + diag(uniquenesses))
  pull <- drop(a %*% loadings)
  information <- rbind(cbind(outer(pull, pull) + sum(loadings * pull) * a, sweep(a, 2, pull, "*")),
                       cbind(t(sweep(a, 2, pull, "*")), a^2 / 2))
  covariance <- tryCatch(solve(information) / n, error = function(e) NULL)
  if (is.null(covariance)) return(c(NA_real_, NA_real_))
  # (every item is standardised, so its own loading and uniqueness move its scale as well)
  total <- sum(loadings); left <- sum(uniquenesses)
  by_standard <- c(2 * total * left, -total^2) / (total^2 + left)^2
  slope <- c(by_standard[1] * uniquenesses - by_standard[2] * 2 * loadings * uniquenesses,
             by_standard[1] * -loadings / 2 + by_standard[2] * loadings^2)
  se <- sqrt(drop(slope %*% covariance %*% slope)) / (omega * (1 - omega))
  stats::plogis(stats::qlogis(omega) + c(-1, 1) * stats::qnorm(1 - (1 - conf_level) / 2) * se)
}

#' One common factor of a correlation matrix: the uniquenesses that maximise the likelihood, by Newton-like descent
#' @noRd
one_factor <- function(s) {
  k <- ncol(s)
  start <- tryCatch((1 - 0.5 / k) / diag(solve(s)), error = function(e) rep(0.5, k))
  objective <- function(psi) {
    scaled <- s / sqrt(outer(psi, psi))
    e <- eigen(scaled, symmetric = TRUE, only.values = TRUE)$values[-1]
    -(sum(log(e) - e) - 1 + k)
  }
  gradient <- function(psi) {
    e <- eigen(s / sqrt(outer(psi, psi)), symmetric = TRUE)
    load <- sqrt(psi) * e$vectors[, 1] * sqrt(max(e$values[1] - 1, 0))
    (tcrossprod(load) + diag(psi) - s)[cbind(seq_len(k), seq_len(k))] / psi^2
  }
  fit <- stats::optim(pmin(pmax(start, 0.01), 0.99), objective, gradient, method = "L-BFGS-B", lower = 0.005, upper = 1,
                      control = list(fnscale = 1, parscale = rep(0.01, k), factr = 1e4, maxit = 2000))
  e <- eigen(s / sqrt(outer(fit$par, fit$par)), symmetric = TRUE)
  load <- sqrt(fit$par) * e$vectors[, 1] * sqrt(max(e$values[1] - 1, 0))
  if (sum(load) < 0) load <- -load
  list(loadings = load, uniquenesses = 1 - load^2, converged = fit$convergence == 0)
}
