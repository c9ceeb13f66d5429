# Fisher's exact test beyond two by two.

#' Exact test of a table of any size, by recursion over its columns; by random tables where that would take too long
#'
#' @param counts Matrix of counts.
#' @section Shape: `p_value` (tables no more likely than the observed), `exact`, `tables` (random tables drawn, when
#'   not exact), `se` (of that p), `n`.
#' @section Source: Freeman, G. H. and Halton, J. H. (1951). Biometrika 38, 141-149; recursion over columns with equal states merged: Mehta, C. R. and
#'   Patel, N. R. (1983). JASA 78, 427-434; random tables: Patefield, W. M. (1981). Applied Statistics 30, 91-97.
#' @noRd
stat_fisher_table <- function(counts, seed = 20240501, most = 2e5, draws = 20000L) {
  counts <- drop_empty(counts)
  if (min(dim(counts)) < 2) stop_data("A test of independence needs at least two levels of each column.", class = "one_group")
  storage.mode(counts) <- "integer"
  # fewer rows than columns make shorter states
  turned <- if (nrow(counts) > ncol(counts)) t(counts) else counts
  p <- if (nrow(turned) <= 8 && sum(counts) <= 3000) kernel_fisher(turned, most) else -1
  if (p >= 0) return(list(p_value = p, exact = TRUE, tables = NULL, se = NULL, n = sum(counts)))
  with_recorded_seed(seed, {
    observed <- -sum(lfactorial(counts))
    drawn <- vapply(stats::r2dtable(draws, rowSums(counts), colSums(counts)), function(t) -sum(lfactorial(t)), 1)
    hits <- sum(drawn <= observed + 1e-7)
    p <- (hits + 1) / (draws + 1)
    list(p_value = p, exact = FALSE, tables = draws, se = sqrt(p * (1 - p) / draws), n = sum(counts))
  })
}

#' Run code from a seed; the session's own generator is left as it was
#' @noRd
with_recorded_seed <- function(seed, code) {
  kind <- RNGkind()
  before <- get0(".Random.seed", globalenv(), inherits = FALSE)
  on.exit({ do.call(RNGkind, as.list(kind)); if (is.null(before)) rm(".Random.seed",
      envir = globalenv()) else assign(".Random.seed", before, envir = globalenv()) })
  RNGkind("L'Ecuyer-CMRG", "Inversion", "Rejection")
  set.seed(seed)
  force(code)
}
