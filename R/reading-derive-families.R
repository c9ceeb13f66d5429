# Levels that share a word ("Bass 1" and "Bass 2", "North East" and "North West"), put together where a question sets their words
# against each other ("are basses taller than tenors").

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_families <- function() {
  list(turn("\\b(than|differ\\w*|compar\\w*|versus|vs|against|between)\\b", families_compared))
}

#' "are basses taller than tenors", "compare north and south": all levels of the one family against all of the other
#'
#' The vocabulary knows by which words each level may be told, "northern" for "North East" among them.
#' @noRd
families_compared <- function(out) {
  said <- strsplit(tolower(out$text), "[^[:alnum:]]+")[[1]]
  stems <- stem_words(said)
  vocabulary <- study_vocabulary(out$study)
  told <- unique(vocabulary$values[vocabulary$values$phrase %in% stems, c("phrase", "column", "level")])
  for (at in unique(told$column)) {
    own <- told[told$column == at, ]
    if (length(unique(own$phrase)) < 2) next
    derived <- sides_of_families(out, find_column(out$study, vocabulary$columns$name[at]), own, said, stems)
    if (!is.null(derived)) return(derived)
  }
  out
}

#' The column that puts levels together by the words that a question tells them by
#' @param own Data frame phrase, level: which words tell which levels. @param said,stems The words of the question, and their stems.
#' @return As of `derive_for_question()`; NULL where a word tells one level or all, or a level is written out and so meant by itself.
#' @noRd
sides_of_families <- function(out, col, own, said, stems) {
  several <- table(own$phrase)
  own <- own[own$phrase %in% names(several)[several >= 2 & several < length(col$levels)], ]
  own <- own[order(match(own$level, col$levels)), ]
  written <- sprintf("(?<![[:alnum:]])\\Q%s\\E(?![[:alnum:]])", tolower(col$levels))
  whole <- any(vapply(written, grepl, NA, x = tolower(out$text), perl = TRUE))
  fits <- col$kind %in% c("category", "ordered") && length(col$levels) %in% 3:40
  if (whole || !fits || length(unique(own$phrase)) < 2 || anyDuplicated(own$level)) return(NULL)
  label <- said[match(own$phrase, stems)]
  name <- paste0(col$name, "_together")
  # ("the north regions": their column would be read as one more thing asked about)
  text <- gsub(sprintf("(?i)\\b(?:the )?(%s) (?:%s)\\b", paste(unique(label), collapse = "|"), paste(nouns_of_levels(col), collapse = "|")),
               "\\1", out$text, perl = TRUE)
  derived <- with_derived(out, name, "level_sets", col$name, text, level = own$level, side = label)
  if (!has_column(derived$study, name)) return(NULL)
  each <- vapply(unique(label), function(l) sprintf("Took %s to mean %s of %s.", quoted(l), some_of(quoted(own$level[label == l]), 8, and = "or"),
    col$name), "")
  derived$told <- c(derived$told, unname(each))
  derived
}

#' Words for one thing of a column, as they may follow a word of its levels ("north regions", "soprano parts")
#' @noRd
nouns_of_levels <- function(col) {
  words <- tolower(strsplit(name_words(col$name), " ")[[1]])
  as_literal(unique(c(words, paste0(words, "s"))))
}
