# Equivalence and non-inferiority of means.

#' Two one-sided tests of a difference against a margin
#'
#' @param estimate,se,df The difference, its standard error and degrees of freedom.
#' @param margin Largest difference that counts as none, above zero.
#' @section Shape: `statistic` (t of the test that decides), `df`, `p_value` (the larger of the two), `p_lower`, `p_upper`, `estimate`, `se`,
#'   `ci_low`, `ci_high` at the level 1 - 2 alpha.
#' @section Source: Schuirmann, D. J. (1987). Journal of Pharmacokinetics and Biopharmaceutics 15, 657-680.
#' @noRd
stat_equivalence <- function(estimate, se, df, margin, alpha = 0.05) {
  lower <- (estimate + margin) / se
  upper <- (estimate - margin) / se
  p_lower <- stats::pt(lower, df, lower.tail = FALSE)
  p_upper <- stats::pt(upper, df)
  half <- stats::qt(1 - alpha, df) * se
  list(statistic = if (p_lower >= p_upper) lower else upper, df = df, p_value = max(p_lower, p_upper), p_lower = p_lower, p_upper = p_upper,
       estimate = estimate, se = se, ci_low = estimate - half, ci_high = estimate + half)
}

#' Non-inferiority: the first group is not worse than the second by more than the margin
#' @param higher_better Is a higher value better?
#' @section Source: ICH E9 (1998), section 3.3.2; Schuirmann (1987).
#' @noRd
stat_noninferiority <- function(estimate, se, df, margin, higher_better = TRUE, alpha = 0.05) {
  t <- if (higher_better) (estimate + margin) / se else (estimate - margin) / se
  half <- stats::qt(1 - alpha, df) * se
  list(statistic = t, df = df, p_value = stats::pt(t, df, lower.tail = !higher_better), estimate = estimate, se = se,
      ci_low = estimate - half, ci_high = estimate + half)
}
