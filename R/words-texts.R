# Words of open answers.

#' Terms of texts: stems of telling words, counted once a text
#'
#' @param texts Character. @param stop Words that tell nothing.
#' @section Shape: list(terms (list of integer codes a text), stem, shown (commonest form), texts (in how many texts)).
#' @noRd
text_terms <- function(texts, stop) {
  words <- stringi::stri_extract_all_words(stringi::stri_trans_tolower(stringi::stri_replace_all_fixed(texts, "\u2019", "'")))
  words <- lapply(words, function(w) { w <- sub("'s$|'$", "", w); w[!is.na(w) & nchar(w) > 2 & !w %in% stop & grepl("[a-z]", w)] })
  all <- unlist(words)
  if (!length(all)) return(list(terms = lapply(texts, function(t) integer()), stem = character(), shown = character(), texts = integer()))
  stems <- SnowballC::wordStem(all, "english")
  vocabulary <- sort(unique(stems), method = "radix")
  forms <- tapply(all, factor(stems, vocabulary), function(v) { t <- sort(table(v), decreasing = TRUE)
  names(t)[t == max(t)][which.min(nchar(names(t)[t == max(t)]))] })
  code <- split(match(stems, vocabulary), factor(rep(seq_along(words), lengths(words)), seq_along(words)))
  code <- lapply(unname(code), unique)
  list(terms = code, stem = vocabulary, shown = as.vector(unlist(forms)), texts = tabulate(unlist(code), length(vocabulary)))
}
