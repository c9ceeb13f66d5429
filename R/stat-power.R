# Sample size and power: exact for the t test by the noncentral t distribution, by the usual normal forms for shares and correlations.

#' Power of the two-sample t test with equal groups
#' @section Source: Cohen, J. (1988). Statistical Power Analysis for the Behavioral Sciences, 2nd ed., chapter 2 (noncentral t, both tails).
#' @noRd
power_of_t <- function(n, d, alpha) {
  df <- 2 * n - 2
  ncp <- abs(d) * sqrt(n / 2)
  cut <- stats::qt(alpha / 2, df, lower.tail = FALSE)
  stats::pt(cut, df, ncp, lower.tail = FALSE) + stats::pt(-cut, df, ncp)
}

#' Power of the test of two shares with equal groups (normal, pooled under the null)
#' @section Source: Fleiss, J. L. (1981). Statistical Methods for Rates and Proportions, 2nd ed., section 3.2, without continuity correction.
#' @noRd
power_of_proportions <- function(n, p1, p2, alpha) {
  middle <- (p1 + p2) / 2
  z <- stats::qnorm(alpha / 2, lower.tail = FALSE)
  null <- sqrt(2 * middle * (1 - middle)); alternative <- sqrt(p1 * (1 - p1) + p2 * (1 - p2))
  stats::pnorm((sqrt(n) * abs(p1 - p2) - z * null) / alternative)
}

#' Power of the test of a correlation (Fisher's z with the small-sample shift of z)
#' @section Source: Cohen (1988), chapter 3; bias of z: Fisher, R. A. (1921). Metron 1, 3-32.
#' @noRd
power_of_correlation <- function(n, r, alpha) {
  cut <- stats::qt(alpha / 2, n - 2, lower.tail = FALSE)
  critical <- sqrt(cut^2 / (cut^2 + n - 2))
  shift <- atanh(abs(r)) + abs(r) / (2 * (n - 1))
  stats::pnorm((shift - atanh(critical)) * sqrt(n - 3)) + stats::pnorm((-shift - atanh(critical)) * sqrt(n - 3))
}

#' Power of one-way analysis of variance with k equal groups and Cohen's f
#' @section Source: Cohen (1988), chapter 8.
#' @noRd
power_of_anova <- function(n, f, k, alpha) {
  df2 <- k * (n - 1)
  stats::pf(stats::qf(alpha, k - 1, df2, lower.tail = FALSE), k - 1, df2, ncp = n * k * f^2, lower.tail = FALSE)
}

#' Smallest size (not rounded) at which a power is reached
#' @noRd
stat_size_for <- function(power_at, power, smallest = 2.001, largest = 1e7) {
  if (power_at(smallest) >= power) return(smallest)
  if (power_at(largest) < power) stop_data("No sample of a reasonable size would reach that power.", class = "unfit_data")
  stats::uniroot(function(n) power_at(n) - power, c(smallest, largest), tol = 1e-9, maxiter = 1000)$root
}

#' Power of the paired or one-sample t test, the effect in standard deviations of the differences
#' @section Source: Cohen (1988), section 2.3.5.
#' @noRd
power_of_paired <- function(n, d, alpha) {
  df <- n - 1
  ncp <- abs(d) * sqrt(n)
  cut <- stats::qt(alpha / 2, df, lower.tail = FALSE)
  stats::pt(cut, df, ncp, lower.tail = FALSE) + stats::pt(-cut, df, ncp)
}

#' Power of a one-sided t test that a difference is above minus a margin, when there is no true difference; the margin in standard deviations
#' @section Source: Julious, S. A. (2004). Statistics in Medicine 23, 1921-1986 (noncentral t).
#' @noRd
power_of_noninferiority <- function(n, margin, alpha) {
  df <- 2 * n - 2
  stats::pt(stats::qt(1 - alpha, df), df, abs(margin) * sqrt(n / 2), lower.tail = FALSE)
}

#' Power of two one-sided t tests of equal groups when there is no true difference, the margin in standard deviations
#'
#' Given the pooled spread s the difference must lie within the margin less the critical distance; the spread is integrated out.
#' @section Source: Schuirmann, D. J. (1987). Journal of Pharmacokinetics and Biopharmaceutics 15, 657-680; exact power: Owen, D. B. (1965).
#'   Biometrika 52, 437-446.
#' @noRd
power_of_equivalence <- function(n, margin, alpha) {
  df <- 2 * n - 2
  cut <- stats::qt(1 - alpha, df)
  inside <- function(s) pmax(0, 2 * stats::pnorm(margin * sqrt(n / 2) - cut * s) - 1)
  ends <- sqrt(stats::qchisq(c(1e-14, 1 - 1e-14), df) / df)
  # the integrand has a corner where the region closes
  corner <- min(max(margin * sqrt(n / 2) / cut, ends[1]), ends[2])
  density <- function(s) inside(s) * 2 * s * df * stats::dchisq(s^2 * df, df)
  if (corner <= ends[1]) return(0)
  stats::integrate(density, ends[1], corner, rel.tol = 1e-11, subdivisions = 2000)$value
}
