# Permutation of group labels, with a recorded seed.

#' State of the generator for a seed
#'
#' The scrambling that R applies in set.seed() for the kind "L'Ecuyer-CMRG", so that a base-R script starting from
#' the same seed draws the same permutations.
#' @noRd
stream_seed <- function(seed) {
  step <- function(s) (69069 * s + 1) %% 2^32
  s <- seed %% 2^32
  for (j in 1:50) s <- step(s)
  out <- numeric(6)
  for (j in 1:6) {
    s <- step(s)
    while (s >= 4294944443) s <- step(s)
    out[j] <- s
  }
  out
}

#' Permutation test of a difference in means
#'
#' @param x,y Doubles without missing values.
#' @param resamples Number of random relabellings.
#' @param enumerate_to All relabellings are enumerated when there are no more than this many.
#' @section Shape: `p_value` (two-sided: at least as far from the middle as observed; random: (1 + hits)/(1 +
#'   resamples)),
#'   `estimate` (difference of means), `n`, `resamples`, `exact`.
#' @section Source: Pitman, E. J. G. (1937). JRSS Supplement 4, 119-130; Phipson, B. and Smyth, G. K. (2010).
#' @noRd
stat_permutation_means <- function(x, y, alternative = "two_sided", resamples = 9999L, seed = 20240501,
                                   enumerate_to = 20000) {
  all <- c(x, y)
  m <- length(x); n <- length(y)
  if (min(m, n) < 1) stop_data("Each group needs at least one value.", class = "too_few_rows")
  need_spread(stat_group_moments(all)[, "m2"])
  observed <- stat_group_moments(x)[, "mean"] - stat_group_moments(y)[, "mean"]
  # centred values, so that sums of large numbers do not swamp the difference
  centred <- all - stat_group_moments(all)[, "mean"]
  few <- min(m, n)
  exact <- lchoose(m + n, few) <= log(enumerate_to) + 1e-9
  sums <- if (exact) utils::combn(centred, few, sum)
          else kernel_permuted_sums(centred, few, resamples, stream_seed(seed), thread_count())
  # a sum of `few` centred values s gives the difference s/few + s/(rest) in favour of the drawn group
  differences <- sums * (1 / few + 1 / (m + n - few)) * if (few == m) 1 else -1
  slack <- 1e-9 * max(abs(centred))
  hits <- switch(alternative,
    two_sided = sum(abs(differences) >= abs(observed) - slack),
    greater = sum(differences >= observed - slack),
    less = sum(differences <= observed + slack))
  p <- if (exact) hits / length(sums) else (hits + 1) / (length(sums) + 1)
  list(p_value = p, estimate = unname(observed), n = m + n, resamples = length(sums), exact = exact)
}
