# Comparisons of means that were planned: each group with a control, and weighted sums of means.

#' Dunnett's comparisons of each group with a control
#'
#' @param m Moments, one row a group. @param control Row of the control.
#' @section Shape: Data frame, one row a comparison: a (group), b (control), estimate, se, df, ci_low, ci_high (simultaneous), p_value (by itself),
#'   p_adjusted.
#' @section Source: Dunnett, C. W. (1955). JASA 50, 1096-1121. The joint distribution of the t statistics is integrated over the control's mean
#'   (given it, the comparisons are independent) and over the pooled spread.
#' @noRd
stat_dunnett <- function(m, control, conf_level = 0.95) {
  need_two_in_each(m)
  n <- m[, "n"]
  others <- setdiff(seq_len(nrow(m)), control)
  df <- sum(n) - nrow(m)
  need_spread(sum(m[, "m2"]))
  se <- sqrt(sum(m[, "m2"]) / df * (1 / n[others] + 1 / n[control]))
  estimate <- unname(m[others, "mean"] - m[control, "mean"])
  t <- estimate / se
  share <- sqrt(n[others] / (n[others] + n[control]))
  within <- function(q) dunnett_probability(q, share, df)
  adjusted <- vapply(abs(t), function(q) max(0, 1 - within(q)), 1)
  cut <- stats::uniroot(function(q) within(q) - conf_level, c(0.1, 3 * stats::qt(1 - (1 - conf_level) / 2 / length(others), df) + 1),
    tol = 1e-12)$root
  data.frame(a = others, b = control, estimate = estimate, se = unname(se), df = df, ci_low = unname(estimate - cut * se),
             ci_high = unname(estimate + cut * se), p_value = unname(2 * stats::pt(-abs(t), df)), p_adjusted = unname(adjusted))
}

#' Probability that no |t| exceeds q
#' @noRd
dunnett_probability <- function(q, share, df) {
  rule <- gauss_legendre(96)
  z <- rule$x * 8.5; wz <- rule$w * 8.5 * stats::dnorm(z)
  rest <- sqrt(1 - share^2)
  inside <- function(s) {
    # all comparisons at once, given the control's mean z and the spread s
    p <- vapply(seq_along(share), function(i) stats::pnorm((share[i] * z + q * s) / rest[i]) - stats::pnorm((share[i] * z - q * s) / rest[i]), z)
    sum(wz * exp(rowSums(log(pmax(p, 1e-300)))))
  }
  # the spread: s squared times df is chi-square
  low <- sqrt(stats::qchisq(1e-14, df) / df); high <- sqrt(stats::qchisq(1e-14, df, lower.tail = FALSE) / df)
  s <- (high + low) / 2 + (high - low) / 2 * rule$x
  weight <- rule$w * (high - low) / 2 * 2 * s * df * stats::dchisq(s^2 * df, df)
  sum(weight * vapply(s, inside, 1))
}

#' A weighted sum of group means
#'
#' @param weights One a group, summing to 0.
#' @section Shape: `estimate`, `se`, `statistic` (t), `df` (Satterthwaite, groups with spreads of their own), `p_value`, `ci_low`, `ci_high`, `n`.
#' @section Source: Satterthwaite, F. E. (1946). Biometrics Bulletin 2, 110-114; Welch, B. L. (1947). Biometrika 34, 28-35.
#' @noRd
stat_contrast <- function(m, weights, conf_level = 0.95, alternative = "two_sided") {
  used <- weights != 0
  need_two_in_each(m[used, , drop = FALSE])
  n <- m[used, "n"]; w <- weights[used]
  part <- w^2 * m[used, "m2"] / (n - 1) / n
  se <- sqrt(sum(part))
  if (se <= 0) stop_data("The values do not vary within the groups.", class = "outcome_constant")
  estimate <- sum(w * (m[used, "mean"] - m[which(used)[1], "mean"]))
  df <- sum(part)^2 / sum(part^2 / (n - 1))
  t_result(estimate, se, df, sum(n), conf_level, alternative)
}
