# Association of two columns beyond straight lines and ranks.

#' Goodman and Kruskal's gamma of a table with ordered rows and columns
#'
#' @param counts Matrix of counts, levels in their order.
#' @section Shape: `estimate`, `se`, `ci_low`, `ci_high`, `statistic` (z, from the variance under independence), `p_value`, `n`.
#' @section Source: Goodman, L. A. and Kruskal, W. H. (1963). JASA 58, 310-364; variance under independence: Brown, M. B. and Benedetti, J. K.
#'   (1977). JASA 72, 309-315.
#' @noRd
stat_gamma <- function(counts, conf_level = 0.95, alternative = "two_sided") {
  counts <- drop_empty(counts)
  if (min(dim(counts)) < 2) stop_data("Both columns need at least two levels.", class = "one_group")
  n <- sum(counts)
  with <- concordant_cells(counts); against <- concordant_cells(counts[, rev(seq_len(ncol(counts))), drop = FALSE])[, rev(seq_len(ncol(counts)))]
  p <- sum(counts * with); q <- sum(counts * against)
  if (p + q <= 0) stop_data("No two rows differ in both columns, so no order can be compared.", class = "outcome_constant")
  gamma <- (p - q) / (p + q)
  se <- 4 / (p + q)^2 * sqrt(sum(counts * (q * with - p * against)^2))
  se0 <- 2 / (p + q) * sqrt(max(0, sum(counts * (with - against)^2) - (p - q)^2 / n))
  z <- gamma / se0
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * se
  list(estimate = gamma, se = se, ci_low = max(-1, gamma - half), ci_high = min(1, gamma + half), statistic = z,
       p_value = normal_p(z, alternative), n = n)
}

#' For each cell: counts of the cells below and to the right, and above and to the left
#' @noRd
concordant_cells <- function(counts) {
  r <- nrow(counts); k <- ncol(counts)
  total <- matrix(0, r + 1, k + 1)
  total[-1, -1] <- t(apply(apply(counts, 2, cumsum), 1, cumsum))
  before <- total[seq_len(r), seq_len(k), drop = FALSE]
  upto_row <- matrix(total[-1, k + 1], r, k); upto_column <- matrix(total[r + 1, -1], r, k, byrow = TRUE)
  after <- sum(counts) - upto_row - upto_column + total[-1, -1, drop = FALSE]
  before + after
}

#' Theil's uncertainty coefficient: the share of the uncertainty about the first column that the second takes away
#'
#' @section Shape: `estimate` (of the rows given the columns), `reverse`, `symmetric`, `statistic` (G, the likelihood-ratio chi-square),
#'   `df`, `p_value`, `n`.
#' @section Source: Theil, H. (1970). American Journal of Sociology 76, 103-154.
#' @noRd
stat_uncertainty <- function(counts, conf_level = 0.95) {
  counts <- drop_empty(counts)
  if (min(dim(counts)) < 2) stop_data("Both columns need at least two levels.", class = "one_group")
  n <- sum(counts)
  entropy <- function(v) { p <- v[v > 0] / n; -sum(p * log(p)) }
  rows <- entropy(rowSums(counts)); columns <- entropy(colSums(counts))
  # (what is left of two equal sums is rounding)
  shared <- max(0, rows + columns - entropy(counts))
  if (shared < 1e-12 * (rows + columns)) shared <- 0
  df <- (nrow(counts) - 1) * (ncol(counts) - 1)
  limits <- stat_chi_share_limits(2 * n * shared, df, 2 * n * rows, conf_level)
  list(estimate = shared / rows, ci_low = limits[1], ci_high = limits[2], reverse = shared / columns, symmetric = 2 * shared / (rows + columns), statistic = 2 * n * shared, df = df,  # nolint: line_length_linter.
       p_value = stats::pchisq(2 * n * shared, df, lower.tail = FALSE), n = n)
}

#' Polychoric correlation: of the two normal variables that would give the table when cut at its margins (two steps)
#'
#' @section Shape: `estimate`, `se`, `ci_low`, `ci_high`, `statistic` (likelihood-ratio chi-square against no correlation), `df`, `p_value`, `n`.
#' @section Source: Olsson, U. (1979). Psychometrika 44, 443-460 (two-step estimator). The estimate is the root of the score, whose terms are
#'   bivariate normal densities at the cuts; cell probabilities are integrated by Gauss-Legendre over the correlation (Drezner, Z. and
#'   Wesolowsky, G. O. (1990). Journal of Statistical Computation and Simulation 35, 101-107).
#' @noRd
stat_polychoric <- function(counts, conf_level = 0.95) {
  counts <- drop_empty(counts)
  if (min(dim(counts)) < 2) stop_data("Both columns need at least two levels.", class = "one_group")
  n <- sum(counts)
  cuts <- function(v) stats::qnorm(cumsum(v)[-length(v)] / n)
  a <- cuts(rowSums(counts)); b <- cuts(colSums(counts))
  score <- function(rho) { cells <- normal_cells(a, b, rho); sum(counts * cells$slope / cells$p) }
  way <- sign(score(0))
  steps <- way * c(0, 0.4, 0.7, 0.85, 0.93, 0.97, 0.985, 0.995)
  turn <- Find(function(i) score(steps[i]) * way <= 0, seq_along(steps))
  if (is.null(turn)) stop_data("The table is so extreme that the correlation behind it cannot be told from 1.", class = "unfit_data")
  rho <- if (way == 0) 0 else stats::uniroot(score, sort(steps[c(turn - 1, turn)]), tol = 1e-13)$root
  cells <- normal_cells(a, b, rho)
  se <- 1 / sqrt(n * sum(cells$slope^2 / cells$p))
  independent <- outer(rowSums(counts), colSums(counts)) / n^2
  g <- 2 * sum(counts * (log(cells$p) - log(independent)))
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * se / (1 - rho^2)
  list(estimate = rho, se = se, ci_low = tanh(atanh(rho) - half), ci_high = tanh(atanh(rho) + half), statistic = max(0, g), df = 1,
       p_value = stats::pchisq(max(0, g), 1, lower.tail = FALSE), n = n)
}

#' Probabilities of the cells of a cut bivariate normal, and their slopes in the correlation
#' @noRd
normal_cells <- function(a, b, rho) {
  density <- function(x, y, r) exp(-(x^2 - 2 * r * x * y + y^2) / (2 * (1 - r^2))) / (2 * pi * sqrt(1 - r^2))
  corners <- function(inner) { full <- matrix(0, length(a) + 2, length(b) + 2); full[2:(length(a) + 1), 2:(length(b) + 1)] <- inner; full }
  cells <- function(full) {
    r <- nrow(full); k <- ncol(full)
    full[-1, -1, drop = FALSE] - full[-r, -1, drop = FALSE] - full[-1, -k, drop = FALSE] + full[-r, -k, drop = FALSE]
  }
  # Phi2 at the corners: the product of the margins plus the integral of the density over the correlation from 0 (in sine, for the ends)
  rule <- gauss_legendre(48)
  angle <- asin(rho) * (rule$x + 1) / 2
  inner <- outer(stats::pnorm(a), stats::pnorm(b))
  for (k in seq_along(angle)) {
    s <- sin(angle[k])
    inner <- inner + rule$w[k] * asin(rho) / 2 * outer(a, b, function(x, y) exp(-(x^2 - 2 * s * x * y + y^2) / (2 * (1 - s^2)))) / (2 * pi)
  }
  full <- rbind(0, cbind(0, inner, stats::pnorm(a)), c(0, stats::pnorm(b), 1))
  list(p = pmax(cells(full), 1e-300), slope = cells(corners(outer(a, b, density, r = rho))))
}

#' Nodes and weights of Gauss-Legendre quadrature on -1 .. 1
#' @section Source: Golub, G. H. and Welsch, J. H. (1969). Mathematics of Computation 23, 221-230.
#' @noRd
gauss_legendre <- function(n) {
  i <- seq_len(n - 1)
  off <- i / sqrt(4 * i^2 - 1)
  j <- matrix(0, n, n)
  j[cbind(i, i + 1)] <- off; j[cbind(i + 1, i)] <- off
  e <- eigen(j, symmetric = TRUE)
  list(x = e$values, w = 2 * e$vectors[1, ]^2)
}

#' Biserial correlation: of a measured column with the normal variable behind a yes/no column
#' @param yes Logical.
#' @section Shape: `estimate`, `se`, `ci_low`, `ci_high`, `p_value` (of the point-biserial correlation), `statistic` (t), `df`, `n`,
#'   `point_biserial`.
#' @section Source: Soper, H. E. (1914). Biometrika 10, 384-390.
#' @noRd
stat_biserial <- function(x, yes, conf_level = 0.95, alternative = "two_sided") {
  pb <- stat_pearson(x, as.numeric(yes), conf_level, alternative)
  p <- mean(yes)
  height <- stats::dnorm(stats::qnorm(p))
  r <- pb$estimate * sqrt(p * (1 - p)) / height
  se <- (sqrt(p * (1 - p)) / height - r^2) / sqrt(length(x))
  half <- stats::qnorm(1 - (1 - conf_level) / 2) * se
  list(estimate = r, se = se, ci_low = max(-1, r - half), ci_high = min(1, r + half), statistic = pb$statistic, df = pb$df, p_value = pb$p_value,
       n = length(x), point_biserial = pb$estimate)
}

#' Distance correlation (bias-corrected), which sees any relation, not only straight or rising ones
#'
#' @section Shape: `estimate` (bias-corrected squared distance correlation, -1 .. 1), `dcor` (the uncorrected distance correlation, 0 .. 1),
#'   `statistic` (n times the estimate), `p_value` (chi-square approximation, conservative), `n`.
#' @section Source: Szekely, G. J., Rizzo, M. L. and Bakirov, N. K. (2007). Annals of Statistics 35, 2769-2794; bias correction: Szekely and Rizzo
#'   (2014). Annals of Statistics 42, 2382-2412; test: Shen, C., Panda, S. and Vogelstein, J. T. (2022). JCGS 31, 254-262.
#' @noRd
stat_distance_correlation <- function(x, y) {
  n <- length(x)
  if (n < 6) stop_data("A distance correlation needs at least six rows.", class = "too_few_rows")
  if (n > 20000) stop_data("A distance correlation compares every row with every other, which is kept to 20,000 rows here.", class = "too_many_rows")
  product <- kernel_distance_sums(x, y, thread_count())
  xx <- kernel_distance_sums(x, x, thread_count()); yy <- kernel_distance_sums(y, y, thread_count())
  # u: unbiased; v: plain squared distance covariance
  covariances <- function(s) {
    a <- s[1, ]; b <- s[2, ]; p <- sum(s[3, ])
    c(u = (p - 2 / (n - 2) * sum(a * b) + sum(a) * sum(b) / ((n - 1) * (n - 2))) / (n * (n - 3)),
      v = p / n^2 + sum(a) * sum(b) / n^4 - 2 * sum(a * b) / n^3)
  }
  xy <- covariances(product); vx <- covariances(xx); vy <- covariances(yy)
  if (vx[["v"]] <= 0 || vy[["v"]] <= 0) stop_data("One of the columns does not vary.", class = "outcome_constant")
  corrected <- xy[["u"]] / sqrt(vx[["u"]] * vy[["u"]])
  list(estimate = corrected, dcor = sqrt(max(0, xy[["v"]]) / sqrt(vx[["v"]] * vy[["v"]])), statistic = n * corrected,
       p_value = stats::pchisq(max(0, n * corrected + 1), 1, lower.tail = FALSE), n = n)
}
