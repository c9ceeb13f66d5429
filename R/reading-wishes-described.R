# What a model expects of somebody or something that is described in passing: "a 3 bedroom terraced house of 95 m2 in Harbour".

#' The wishes of this file, as of `chance_wishes()`
#' @noRd
described_wishes <- function() list(wish("predict|expect|would|estimate", wish_expected_of_described))

#' "predict the sale price of a 3 bedroom terraced house of 95 m2 in Harbour", "what would a 2 bedroom flat sell for"
#' @noRd
wish_expected_of_described <- function(text, vocabulary) {
  lead <- paste0("(?i)^ *(?:please )?(?:predict|estimate|what is (?:the )?(?:expected|predicted)|what(?: would| will)? be|(?:the )?(?:expected|predicted))",  # nolint: line_length_linter.
                 "(?: value of)?(?: the| what is the)? (.+?) (?:of|for) (an? .+?|somebody .+?|someone .+?)[?.! ]*$")
  hit <- first_match(text, lead)
  if (is.null(hit) || !grepl("[0-9]", hit[3])) return(NULL)
  y <- column_said(vocabulary, hit[2])
  if (is.null(y) || !y$kind %in% c("number", "count", "yes_no")) return(NULL)
  at <- values_of_described(hit[3], vocabulary)
  # (one number beside a level is read by the model of the rows that the level keeps)
  if (is.null(at) || y$name %in% names(at) || sum(names(at) %in% vocabulary$columns$name[vocabulary$columns$kind %in% c("number",
      "count")]) < 2) return(NULL)
  list(text = sprintf("expected %s at %s", y$name, stated_at(at)), extra = list(),
       told = sprintf("Took %s as described by %s.", quoted(trimws(hit[3])), some_of(paste(names(at), at), 8)))
}

#' "bedrooms 3 and type terraced", as the wishes word the values of columns
#' @noRd
stated_at <- function(at) paste(sprintf("%s %s", names(at), at), collapse = " and ")

#' The columns and values that a description names, word by word
#'
#' @section Shape: Character vector of values named by their columns; NULL where a word has no place, or a column would be named twice.
#' @noRd
values_of_described <- function(said, vocabulary) {
  words <- described_tokens(said)
  at <- character()
  k <- 1
  while (k <= length(words)) {
    found <- described_here(words, k, vocabulary)
    if (is.null(found)) return(NULL)
    if (length(found$column)) {
      if (found$column %in% names(at)) return(NULL)
      at[[found$column]] <- found$value
    }
    k <- k + found$words
  }
  if (length(at)) at
}

#' The words of a description: "3-bedroom" and "95m2" come apart, levels of two words stay as they are written
#' @noRd
described_tokens <- function(said) {
  said <- gsub("(?<=[0-9])-(?=\\p{L})", " ", gsub("[,;]", " ", said), perl = TRUE)
  said <- gsub("(?<![\\p{L}0-9_.])([0-9]+(?:[.][0-9]+)?)(?=(?:m2|sqm|m|km|kg|g|cm|mm|ha|years?|kwh|mg|ml|l)\\b)", "\\1 ", said, perl = TRUE)
  strsplit(trimws(said), " +")[[1]]
}

#' What the words from one place on say: a number of a column, a level, or nothing that matters
#' @section Shape: list(words, column, value), column empty where the words only join; NULL where they say something unknown.
#' @noRd
described_here <- function(words, k, vocabulary) {
  left <- length(words) - k + 1
  phrase <- function(from, n) paste(words[from + seq_len(n) - 1], collapse = " ")
  number <- "^[0-9]+([.][0-9]+)?$"
  if (grepl(number, words[k])) {
    for (n in rev(seq_len(min(3, left - 1)))) {
      own <- numeric_called(phrase(k + 1, n), vocabulary)
      if (!is.null(own)) return(list(words = n + 1, column = own, value = words[k]))
    }
    return(NULL)
  }
  # (an article is one, whatever level is called "A")
  if (tolower(words[k]) %in% c("a", "an", "the") && left > 1) return(list(words = 1))
  for (n in rev(seq_len(min(3, left)))) {
    level <- level_called(phrase(k, n), vocabulary)
    if (!is.null(level)) return(list(words = n, column = level$column, value = level$level))
  }
  if (is_joining(words[k]) || names_rows(vocabulary, tolower(words[k])) || joined_stems(tolower(words[k])) %in% id_stems(vocabulary)) {
    return(list(words = 1))
  }
  # "a floor area of 95 (m2)"
  for (n in rev(seq_len(min(4, left - 1)))) {
    to <- k + n + (tolower(words[k + n]) %in% c("of", "is", "at", "="))
    own <- if (to <= length(words) && grepl(number, words[to])) numeric_called(phrase(k, n), vocabulary)
    if (is.null(own)) next
    unit <- isTRUE(tolower(words[to + 1]) == tolower(vocabulary$columns$unit[match(own, vocabulary$columns$name)]))
    return(list(words = to - k + 1 + unit, column = own, value = words[to]))
  }
  NULL
}

is_joining <- function(word) {
  tolower(word) %in% c("a", "an", "the", "of", "in", "with", "and", "from", "on", "who", "that", "is", "was", "has", "having", "somebody", "someone",
                       "house", "home", "property", "one")
}

id_stems <- function(vocabulary) {
  unlist(lapply(vocabulary$columns$name[vocabulary$columns$kind == "id"], function(name) setdiff(name_stems(name), stem_words("id"))))
}

#' The one measured column that words or a unit name
#' @noRd
numeric_called <- function(said, vocabulary) {
  columns <- vocabulary$columns
  measured <- columns$kind %in% c("number", "count")
  # "95 m2": the one column in that unit
  by_unit <- columns$name[measured & nzchar(columns$unit) & tolower(columns$unit) == tolower(said)]
  if (length(by_unit) == 1) return(by_unit)
  if (grepl("(?i)^years?(?: old)?$", said, perl = TRUE)) {
    age <- columns$name[measured & vapply(columns$name, function(n) "age" %in% name_stems(n), NA)]
    return(if (length(age) == 1 && grepl("old", said, ignore.case = TRUE)) age)
  }
  own <- column_said(vocabulary, said)
  # (every word has to belong to the column: "bedroom terraced" names more)
  if (is.null(own) || !own$kind %in% c("number", "count")) return(NULL)
  stems <- setdiff(stems_of(said)[[1]], stem_words(english$stop))
  known <- unique(unlist(strsplit(vocabulary$phrases$phrase[vocabulary$phrases$column == match(own$name, columns$name)], " ")))
  if (length(stems) && all(stems %in% known)) own$name
}

#' The one level that words name
#' @section Shape: list(column, level), or NULL.
#' @noRd
level_called <- function(said, vocabulary) {
  own <- unique(vocabulary$values[vocabulary$values$phrase == joined_stems(tolower(said)), c("column", "level")])
  if (nrow(own) == 1) list(column = vocabulary$columns$name[own$column], level = own$level)
}
