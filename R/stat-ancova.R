# Groups compared with covariates held constant.

#' Analysis of covariance
#'
#' @param y Doubles. @param group Factor. @param covariates Named list of vectors or factors.
#' @section Shape: `statistic` (F of the groups, given the covariates), `df1`, `df2`, `p_value`, `partial_eta_squared`, `adjusted` means
#'   (at the mean of the covariates) with `_se`, `_low`, `_high`, `pairs` (data frame), `anova` (type II), `slopes` (test that the
#'   covariates act alike in all groups), `fit`.
#' @section Source: Cochran, W. G. (1957). Biometrics 13, 261-281.
#' @noRd
stat_ancova <- function(y, group, covariates, conf_level = 0.95) {
  k <- nlevels(group)
  m <- stat_model_matrix(c(list(group = group), covariates))
  fit <- stat_least_squares(m$x, y)
  if (length(fit$aliased)) stop_data("The covariates and the groups cannot be told apart in these rows.", class = "collinear")
  if (fit$df < 1 || fit$rss <= 0) stop_data("Nothing is left over for error.", class = "outcome_constant")
  sources <- unique(m$source[-1])
  rows <- lapply(sources, function(s) {
    keep <- which(m$source != s)
    without <- stat_least_squares(m$x[, keep, drop = FALSE], y)
    d <- ncol(m$x) - length(keep); ss <- without$rss - fit$rss
    data.frame(term = s, df = d, sum_sq = ss, mean_sq = ss / d, statistic = (ss / d) / (fit$rss / fit$df), stringsAsFactors = FALSE)
  })
  anova <- do.call(rbind, c(rows, list(data.frame(term = "residuals", df = fit$df, sum_sq = fit$rss,
      mean_sq = fit$rss / fit$df, statistic = NA_real_, stringsAsFactors = FALSE))))
  anova$p_value <- stats::pf(anova$statistic, anova$df, fit$df, lower.tail = FALSE)
  at <- matrix(rep(colMeans(m$x), each = k), k)
  at[, seq_len(k)] <- cbind(1, diag(k)[, -1])
  v <- fit$unscaled * fit$sigma^2
  se_of <- function(c) sqrt(pmax(0, rowSums((c %*% v) * c)))
  half <- stats::qt(1 - (1 - conf_level) / 2, fit$df)
  adjusted <- drop(at %*% fit$coefficients); se <- se_of(at)
  pair <- utils::combn(k, 2)
  contrast <- at[pair[1, ], , drop = FALSE] - at[pair[2, ], , drop = FALSE]
  d <- drop(contrast %*% fit$coefficients); dse <- se_of(contrast)
  p <- 2 * stats::pt(-abs(d / dse), fit$df)
  list(statistic = anova$statistic[1], df1 = anova$df[1], df2 = fit$df, p_value = anova$p_value[1],
      partial_eta_squared = anova$sum_sq[1] / (anova$sum_sq[1] + fit$rss), adjusted = adjusted, adjusted_se = se,
       adjusted_low = adjusted - half * se, adjusted_high = adjusted + half * se,
       pairs = data.frame(a = pair[1, ], b = pair[2, ], estimate = d, se = dse, ci_low = d - half * dse, ci_high = d +
           half * dse, p_value = p, p_adjusted = stats::p.adjust(p, "holm")),
       anova = anova, slopes = unequal_slopes(y, group, covariates, fit), fit = fit)
}

#' Do the covariates act differently in the groups?
#' @noRd
unequal_slopes <- function(y, group, covariates, fit) {
  pairs <- lapply(names(covariates), function(name) c("group", name))
  m <- stat_model_matrix(c(list(group = group), covariates), pairs)
  full <- stat_least_squares(m$x, y)
  d <- fit$df - full$df
  if (d < 1 || full$df < 1 || full$rss <= 0) return(list(statistic = NA_real_, p_value = NA_real_))
  f <- ((fit$rss - full$rss) / d) / (full$rss / full$df)
  list(statistic = f, p_value = stats::pf(f, d, full$df, lower.tail = FALSE))
}

#' Jonckheere-Terpstra test of an ordered alternative
#'
#' @param y Doubles. @param group Codes 1 .. k in their order.
#' @section Shape: `statistic` (J: pairs in which the later group has the larger value, ties half), `z`, `p_value` (normal with the
#'   variance for ties), `n`.
#' @section Source: Jonckheere, A. R. (1954). Biometrika 41, 133-145; variance with ties: Hollander, M. and Wolfe, D. A. (1999), section 6.2.
#' @noRd
stat_jonckheere <- function(y, group, alternative = "two_sided") {
  size <- tabulate(group); n <- length(y)
  j <- 0
  for (a in seq_along(size)[-1]) for (b in seq_len(a - 1)) {
    ranks <- stat_midranks(c(y[group == a], y[group == b]))$rank
    j <- j + sum(ranks[seq_len(size[a])]) - size[a] * (size[a] + 1) / 2
  }
  ties <- as.vector(table(y))
  s2 <- function(v) sum(v * (v - 1)); s3 <- function(v) sum(v * (v - 1) * (v - 2)); s5 <- function(v) sum(v * (v - 1) * (2 * v + 5))
  variance <- (n * (n - 1) * (2 * n +
      5) - s5(size) - s5(ties)) / 72 + s3(size) * s3(ties) / (36 * n * (n - 1) * (n - 2)) + s2(size) * s2(ties) / (8 * n * (n - 1))
  if (variance <= 0) stop_data("All values are the same, so their ranks say nothing.", class = "outcome_constant")
  z <- (j - (n^2 - sum(size^2)) / 4) / sqrt(variance)
  list(statistic = j, z = z, p_value = normal_p(z, alternative), n = n)
}

#' Permutation of the signs of paired differences
#' @section Shape: `p_value`, `estimate` (mean difference), `resamples`, `exact` (all sign patterns for up to 14 pairs), `n`.
#' @section Source: Fisher, R. A. (1935). The Design of Experiments, section 21.
#' @noRd
stat_permutation_paired <- function(d, alternative = "two_sided", resamples = 9999L, seed = 20240501) {
  n <- length(d)
  if (all(d == 0)) stop_data("No pair differs, so there is nothing to test.", class = "outcome_constant")
  exact <- n <= 14
  sums <- if (exact) drop(as.matrix(expand.grid(rep(list(c(-1, 1)), n))) %*% d) else random_sign_sums(d, resamples, seed)
  observed <- sum(d); slack <- 1e-9 * sum(abs(d))
  hits <- switch(alternative, two_sided = sum(abs(sums) >= abs(observed) - slack),
      greater = sum(sums >= observed - slack), less = sum(sums <= observed + slack))
  list(p_value = if (exact) hits / length(sums) else (hits + 1) / (length(sums) + 1), estimate = mean(d),
      resamples = length(sums), exact = exact, n = n)
}

#' Sums of differences under random signs, from a recorded seed; the session's own generator is left as it was
#' @noRd
random_sign_sums <- function(d, resamples, seed) {
  with_recorded_seed(seed, vapply(seq_len(resamples), function(i) sum(ifelse(stats::runif(length(d)) < 0.5, -d, d)), 1))
}
