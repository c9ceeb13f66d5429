# Themes of short texts, by counting which terms come together: no dictionary of opinions, no model of language.

#' Themes: groups of terms that come in the same texts
#'
#' Terms in at least `least` texts are joined where they go together more than by chance (Jaccard overlap, average linkage); what
#' stands alone is a theme of its own. Each text may hold several themes.
#' @section Shape: list of list(terms (codes, commonest first), texts (rows)), the widest theme first.
#' @section Source: Jaccard, P. (1912). New Phytologist 11, 37-50; Sokal, R. R. and Michener, C. D. (1958) for the linkage.
#' @noRd
stat_themes <- function(t, most = 8, least = NULL) {
  n <- length(t$terms)
  least <- least %||% max(2, ceiling(0.02 * n))
  kept <- which(t$texts >= least)
  if (!length(kept)) return(list())
  kept <- utils::head(kept[order(-t$texts[kept], t$stem[kept], method = "radix")], 60)
  holds <- vapply(kept, function(k) vapply(t$terms, function(codes) k %in% codes, NA), logical(n))
  holds <- matrix(holds, n)
  both <- crossprod(holds * 1)
  size <- diag(both)
  overlap <- both / (outer(size, size, "+") - both)
  groups <- if (length(kept) > 1) stats::cutree(stats::hclust(stats::as.dist(1 - overlap), "average"), h = 0.8) else 1L
  themes <- lapply(split(seq_along(kept), groups), function(i) {
    rows <- which(rowSums(holds[, i, drop = FALSE]) > 0)
    list(terms = kept[i][order(-t$texts[kept[i]])], texts = rows)
  })
  utils::head(unname(themes[order(-vapply(themes, function(x) length(x$texts), 1L), vapply(themes, function(x) x$terms[1], 1L))]), most)
}
