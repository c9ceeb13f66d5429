# Effects of single studies from what they report.

#' Log odds ratios, log risk ratios or risk differences from counts
#'
#' @param a,n1,c,n2 Events and rows of the first and the second group, one element a study.
#' @param measure "odds_ratio", "risk_ratio" or "risk_difference".
#' @section Shape: list(effect, se); for a ratio half a row is added to each cell of a study with an empty cell. A difference needs none:
#'   only where both groups had no event or nothing else, its error is taken with the half rows.
#' @section Source: Woolf, B. (1955). Annals of Human Genetics 19, 251-253; Haldane, J. B. S. (1956). Annals of Human Genetics 20, 309-311;
#'   Katz, D. et al.
#'   (1978). Biometrics 34, 469-474.
#' @noRd
effects_of_counts <- function(a, n1, c, n2, measure = "odds_ratio") {
  if (any(a < 0 | c < 0 | a > n1 | c > n2)) stop_data("A study has more events than rows.", class = "unfit_data")
  b <- n1 - a; d <- n2 - c
  if (measure == "risk_difference") {
    half <- 0.5 * ((a == 0 | b == 0) & (c == 0 | d == 0))
    variance <- function(x, y) (x + half) * (y + half) / (x + y + 2 * half)^3
    return(list(effect = a / n1 - c / n2, se = sqrt(variance(a, b) + variance(c, d))))
  }
  empty <- a == 0 | b == 0 | c == 0 | d == 0
  a <- a + 0.5 * empty; b <- b + 0.5 * empty; c <- c + 0.5 * empty; d <- d + 0.5 * empty
  if (measure == "odds_ratio") return(list(effect = log(a * d / (b * c)), se = sqrt(1 / a + 1 / b + 1 / c + 1 / d)))
  list(effect = log(a / (a + b)) - log(c / (c + d)), se = sqrt(1 / a - 1 / (a + b) + 1 / c - 1 / (c + d)))
}

#' Differences of means, raw or in standard deviations (Hedges' g)
#' @section Source: Hedges, L. V. (1981). Journal of Educational Statistics 6, 107-128.
#' @noRd
effects_of_means <- function(m1, s1, n1, m2, s2, n2, standardised = FALSE) {
  if (any(s1 < 0 | s2 < 0 | n1 < 2 | n2 < 2)) stop_data("A study has fewer than two rows in a group, or a negative spread.", class = "unfit_data")
  if (!standardised) return(list(effect = m1 - m2, se = sqrt(s1^2 / n1 + s2^2 / n2)))
  df <- n1 + n2 - 2
  pooled <- sqrt(((n1 - 1) * s1^2 + (n2 - 1) * s2^2) / df)
  g <- (m1 - m2) / pooled * exp(lgamma(df / 2) - lgamma((df - 1) / 2) - log(df / 2) / 2)
  list(effect = g, se = sqrt((n1 + n2) / (n1 * n2) + g^2 / (2 * (n1 + n2))))
}

#' Correlations on Fisher's scale
#' @noRd
effects_of_correlations <- function(r, n) {
  if (any(abs(r) >= 1 | n < 4)) stop_data("A correlation lies outside -1 to 1, or rests on fewer than four rows.", class = "unfit_data")
  list(effect = atanh(r), se = 1 / sqrt(n - 3))
}
