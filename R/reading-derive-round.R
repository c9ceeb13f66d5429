# "by tenure band", "across income brackets": bands of a measured column between round numbers.

#' A measured column in bands, where the data holds no column of such bands itself
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
derive_round_bands <- function(out) {
  if (!grepl("(?i)[- ](band|bracket|bin)s?\\b", out$text, perl = TRUE)) return(out)
  form <- "(?i)\\b([\\p{L}_]+(?: [\\p{L}_]+)?)[- ](?:bands?|brackets?|bins?)\\b"
  said <- stringi::stri_match_all_regex(out$text, quick_form(form))[[1]]
  for (k in seq_len(nrow(said))) {
    if (is.na(said[k, 1])) next
    words <- strsplit(said[k, 2], " ")[[1]]
    # ("by tenure band": the name ends right before the word)
    for (size in rev(seq_along(words))) {
      tail <- utils::tail(words, size)
      col <- column_of_words(numeric_columns(out$study), tail)
      if (is.null(col) || isTRUE(col$words < size) || held_in_bands(out$study, tail)) next
      name <- paste0(paste(tolower(tail), collapse = "_"), "_band")
      cuts <- round_cuts(understood(out$study, col$name, col$table))
      if (has_column(out$study, name) || length(cuts) < 2) break
      phrase <- sprintf("(?i)\\b%s[- ](?:bands?|brackets?|bins?)\\b", as_literal(paste(tail, collapse = " ")))
      done <- with_derived(out, name, "bands", col$name, sub(phrase, name, out$text, perl = TRUE), cuts = cuts)
      if (has_column(done$study, name)) return(done)
    }
  }
  out
}

#' Does a column of levels already hold such bands ("salary_band")?
#' @noRd
held_in_bands <- function(study, words) {
  sought <- stem_words(tolower(words))
  any(vapply(all_columns(study), function(col) is_level_kind(col$kind) && all(sought %in% name_stems(col$name)) &&
    any(c("band", "bracket", "bin", "group", "class") %in% name_stems(col$name)), NA))
}

#' Round numbers that cut values into about four bands; the outer bands take in what little lies beyond the fifth and ninety-fifth hundredth
#' @noRd
round_cuts <- function(values) {
  values <- values[is.finite(values)]
  if (length(unique(values)) < 5) return(numeric())
  middle <- stats::quantile(values, c(0.05, 0.95), names = FALSE)
  cuts <- pretty(middle, 4)
  cuts[cuts > middle[1] & cuts < middle[2]]
}
