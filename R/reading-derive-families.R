# Levels that share a word ("Bass 1" and "Bass 2", "North East" and "North West"), put together where a question sets their words
# against each other ("are basses taller than tenors").

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_families <- function() {
  list(turn("\\b(than|differ\\w*|compar\\w*|versus|vs|against|between)\\b", families_compared))
}

#' Words that some, but not all, levels of a column share, as stems
#' @section Shape: data frame stem, level, one row a level of a family; NULL where there are fewer than two families.
#' @noRd
level_families <- function(col) {
  words <- lapply(strsplit(tolower(col$levels), "[^[:alpha:]]+"), function(w) unique(stem_words(w[nchar(w) >= 3])))
  all <- data.frame(stem = unlist(words), level = rep(col$levels, lengths(words)), stringsAsFactors = FALSE)
  several <- table(all$stem)
  all <- all[all$stem %in% names(several)[several >= 2 & several < length(col$levels)], , drop = FALSE]
  if (length(unique(all$stem)) >= 2) all
}

#' "are basses taller than tenors", "compare north and south": all levels of the one family against all of the other
#' @noRd
families_compared <- function(out) {
  said <- strsplit(tolower(out$text), "[^[:alnum:]]+")[[1]]
  stems <- stem_words(sub("^(north|south|east|west)ern$", "\\1", said))
  for (col in Filter(function(col) col$kind %in% c("category", "ordered") && length(col$levels) %in% 3:40, all_columns(out$study))) {
    families <- level_families(col)
    if (is.null(families)) next
    named <- unique(stems[stems %in% families$stem])
    # (a level that is written out is meant by itself)
    whole <- any(vapply(tolower(col$levels), function(l) grepl(sprintf("(?<![[:alnum:]])\\Q%s\\E(?![[:alnum:]])", l), tolower(out$text),
        perl = TRUE), NA))
    own <- families[families$stem %in% named, , drop = FALSE]
    if (whole || length(named) < 2 || anyDuplicated(own$level)) next
    label <- said[match(own$stem, stems)]
    name <- paste0(col$name, "_together")
    told <- vapply(unique(label), function(l) sprintf("Took %s to mean %s of %s.", quoted(l), some_of(quoted(own$level[label == l]), 8, and = "or"),
        col$name), "")
    # ("the north, the south": their column would be read as one more thing asked about)
    text <- gsub(sprintf("(?i)\\b(?:the )?(%s) (?:%s)\\b", paste(unique(label), collapse = "|"), paste(nouns_of_levels(col), collapse = "|")),
        "\\1", out$text, perl = TRUE)
    derived <- with_derived(out, name, "level_sets", col$name, text, level = own$level, side = label)
    if (!has_column(derived$study, name)) next
    derived$told <- c(derived$told, unname(told))
    return(derived)
  }
  out
}

#' Words for one thing of a column, as they may follow a word of its levels ("north regions", "soprano parts")
#' @noRd
nouns_of_levels <- function(col) {
  words <- tolower(strsplit(name_words(col$name), " ")[[1]])
  as_literal(unique(c(words, paste0(words, "s"))))
}
