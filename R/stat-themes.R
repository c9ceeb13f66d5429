# Words and themes of short texts, by counting: no dictionary of opinions, no model of language.

#' Terms of texts: stems of telling words, counted once a text
#'
#' @param texts Character. @param stop Words that tell nothing.
#' @section Shape: list(terms (list of integer codes a text), stem, shown (commonest form), texts (in how many texts)).
#' @noRd
stat_text_terms <- function(texts, stop) {
  words <- stringi::stri_extract_all_words(stringi::stri_trans_tolower(stringi::stri_replace_all_fixed(texts, "\u2019", "'")))
  words <- lapply(words, function(w) { w <- sub("'s$|'$", "", w); w[!is.na(w) & nchar(w) > 2 & !w %in% stop & grepl("[a-z]", w)] })
  all <- unlist(words)
  if (!length(all)) return(list(terms = lapply(texts, function(t) integer()), stem = character(), shown = character(), texts = integer()))
  stems <- SnowballC::wordStem(all, "english")
  vocabulary <- sort(unique(stems), method = "radix")
  forms <- tapply(all, factor(stems, vocabulary), function(v) { t <- sort(table(v), decreasing = TRUE); names(t)[t == max(t)][which.min(nchar(names(t)[t == max(t)]))] })
  code <- split(match(stems, vocabulary), factor(rep(seq_along(words), lengths(words)), seq_along(words)))
  code <- lapply(unname(code), unique)
  list(terms = code, stem = vocabulary, shown = as.vector(unlist(forms)), texts = tabulate(unlist(code), length(vocabulary)))
}

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
