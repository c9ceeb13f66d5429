# Rows that are occasions of units, numbered by a column ("match" 1 to 26 of each player): matches are counted, never added up.

#' The turns about numbered occasions, as of `everyday_turns()`
#' @noRd
turns_of_index <- function() {
  list(turn("[0-9]|\\b(last|first|latest|final|opening|every|all|per|each|how many|no|zero|without)\\b", occasions_numbered))
}

#' The columns that number occasions, as the vocabulary holds them: finding them reads all rows
#' @noRd
numbering_columns <- function(study) {
  columns <- study_vocabulary(study)$columns
  columns$name[columns$index]
}

#' The column that numbers the occasions of a noun, and the unit that has one row for each
#' @section Shape: list(name, unit, first, last, n, shared (TRUE where an occasion is one of all units, as a match is)), or NULL.
#' @noRd
index_of <- function(study, noun) {
  columns <- all_columns(study)
  numbered <- numbering_columns(study)
  own <- Filter(function(col) col$name %in% numbered && stem_words(tolower(noun)) == stem_words(sub("[_. ].*$", "", tolower(col$name))), columns)
  if (length(own) != 1) return(NULL)
  x <- study$tables[[own[[1]]$table]]$data[[own[[1]]$name]]
  keys <- Filter(function(key) key$table == own[[1]]$table && key$kind %in% c("id", "category") && comes_back(study, key) &&
    unique_pairs(study$tables[[key$table]]$data[[key$name]], x), columns)
  # what is the same for all rows of an occasion (its date, its place) says that the units had it together
  beside <- Filter(function(col) col$table == own[[1]]$table && col$kind %in% c("date", "datetime", "category", "yes_no") && col$name != keys[[1]]$name &&  # nolint: line_length_linter.
    col$distinct >= 2, columns)
  shared <- vapply(beside, function(col) {
    same_within(x, as.character(study$tables[[col$table]]$data[[col$name]]))
  }, NA)
  list(name = own[[1]]$name, unit = keys[[1]]$name, first = min(x), last = max(x), n = own[[1]]$distinct, shared = any(shared))
}

#' "in the last 5 matches", "with at least 15 matches", "who played every match", "per match for each player"
#' @noRd
occasions_numbered <- function(out) {
  nouns <- unique(sub("[_. ].*$", "", tolower(numbering_columns(out$study))))
  if (!length(nouns)) return(out)
  noun <- sprintf("(%s)(?:e?s)?", paste(as_literal(nouns), collapse = "|"))
  for (step in list(ends_of_index, bound_of_index, every_of_index, rate_of_index, number_of_index, none_of_index)) out <- step(out, noun)
  out
}

#' "in the last 5 matches": a bound on the number
#' @noRd
ends_of_index <- function(out, noun) {
  count <- sprintf("([0-9]{1,3}|%s)", counting_words())
  form <- sprintf("(?i)\\b(?:in|over|of|during|for|from|within) (?:the |their |his |her )?(last|latest|final|most recent|first|opening|earliest) %s %s\\b", count, noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  index <- index_of(out$study, hit[4])
  n <- word_number(hit[3])
  plain <- if (grepl("^(first|open|earl)", hit[2], ignore.case = TRUE)) sprintf("with %s below %s", index$name, format_plain(index$first + n))
    else sprintf("with %s above %s", index$name, format_plain(index$last - n))
  reworded(out, sub(hit[1], plain, out$text, fixed = TRUE), sprintf("Took %s to mean %s.", quoted(hit[1]), sub("^with ", "", plain)))
}

#' "those with at least 15 matches": units by how many rows they have
#' @noRd
bound_of_index <- function(out, noun) {
  form <- sprintf("(?i)\\b(?:(?:among|of|for) (?:those|players|people|%s) )?(?:with|having|(?:who |that )?(?:have |had |has )?(?:played|made|had|have|did|attended|ran|took part)(?: in)?) (at least|more than|fewer than|less than|at most|exactly|over) ([0-9]+|\\p{L}+) %s\\b",  # nolint: line_length_linter.
                  people_words(), noun)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !grepl("^[0-9]+$", hit[3]) && !tolower(hit[3]) %in% names(english$numbers)) return(out)
  index <- index_of(out$study, hit[4])
  name <- paste0(index$unit, "_occurrences")
  plain <- sprintf("with %s %s %s", name, plain_bound(hit[2]), format_plain(word_number(hit[3])))
  out$told <- c(out$told, sprintf("Took %s to mean the rows of each %s.", quoted(trimws(hit[1])), index$unit))
  with_derived(out, name, "rows_each", index$unit, sub(hit[1], plain, out$text, fixed = TRUE))
}

#' "who played every match": units with as many rows as there are occasions
#' @noRd
every_of_index <- function(out, noun) {
  form <- sprintf("(?i)^ *(?:who|which \\p{L}+)(?: has| have| did| were| was)? \\p{L}+ (?:in |at )?(?:every|all(?: of)?(?: the)?(?: [0-9]+)?) %s[?.! ]*$", noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  index <- index_of(out$study, hit[2])
  name <- paste0(index$unit, "_occurrences")
  out$told <- c(out$told, sprintf("Took every %s as %s rows of a %s.", index$name, format_plain(index$n), index$unit))
  with_derived(out, name, "rows_each", index$unit, sprintf("how many different %s with %s = %s", index$unit, name, format_plain(index$n)))
}

#' "average distance per match for each player": rows, which are the matches of a player
#' @noRd
rate_of_index <- function(out, noun) {
  form <- sprintf("(?i) (?:per|for each|in each|each|a) %s\\b(?= |[?.!]|$)", noun)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  index <- index_of(out$study, hit[2])
  rest <- sub(hit[1], "", out$text, fixed = TRUE)
  # (totals of a match over all its players are another question)
  by_unit <- any(key_stems(index$unit) %in% stems_of(rest)[[1]])
  if (grepl("\\b(plot|over time|trend)\\b", out$text, ignore.case = TRUE)) return(out)
  if (!by_unit) return(total_of_index(out, index, rest))
  average <- grepl("\\b(average|mean|median|typical)\\b", rest, ignore.case = TRUE)
  reworded(out, if (average) rest else paste("average", sub("(?i)^ *(?:what (?:is|was|are|were) (?:the )?|show (?:me )?(?:the )?|the )", "", rest, perl = TRUE)),  # nolint: line_length_linter.
           sprintf("Each row is one %s of one %s, so values per %s are means of rows.", index$name, index$unit, index$name))
}

#' "how many matches did we win": different numbers, never their sum
#' @noRd
number_of_index <- function(out, noun) {
  form <- sprintf("(?i)^ *(?:how many|(?:what (?:is|was) )?(?:the )?number of) %s (?:(?:did|do|have|has|had|were|was|are|is) (?:we |they |you |there )?|(?=with|in|on|at|where|that))", noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  index <- index_of(out$study, hit[2])
  rest <- sub("(?i)^(?:in|on|at|with|where|that) ", "", sub(hit[1], "", out$text, fixed = TRUE), perl = TRUE)
  found <- level_in_text(out$study, rest)
  # (a condition on rows leaves several rows of a match)
  if (is.null(found)) return(out)
  reworded(out, sprintf("how many different %s with %s = %s", index$name, found$column, found$level), sprintf("Each number of %s is counted once.", index$name))  # nolint: line_length_linter.
}

#' "goals per match": the mean over matches of their totals
#' @noRd
total_of_index <- function(out, index, rest) {
  totals <- "(?i)\\b(?:total|totals|sum|sums|overall|altogether|summed)\\b"
  # ("total kwh per month" is the sum of each month, never a mean of rows)
  if (grepl(totals, rest, perl = TRUE) && !grepl("(?i)\\b(?:average|mean|median|typical)\\b", rest, perl = TRUE)) {
    return(reworded(out, sprintf("%s by %s", without_mark(rest), index$name), sprintf("One total for each value of %s.", index$name)))
  }
  bare <- gsub("(?i)\\b(?:what|is|was|are|were|the|average|mean|median|typical|number of|how many|on average|show|me)\\b", "", sub("(?i) (?:by|in|for|at|when|if|with) .*$", "", rest, perl = TRUE), perl = TRUE)  # nolint: line_length_linter.
  of <- counted_per_unit(out$study, trimws(gsub("[?.! ]+", " ", bare)), find_column(out$study, index$name))
  if (is.null(of) || of$rows) return(out)
  if (index$shared) out$per_unit <- list(unit = index$name, outcome = of$outcome, rows = FALSE)
  tail <- stringi::stri_extract_first_regex(rest, "(?i) (?:by|in|for|at|when|if|with) .*$")
  reworded(out, paste0("average ", of$outcome, if (!is.na(tail)) tail),
           if (!index$shared) sprintf("Each row is one %s of one %s, so the mean is over rows.", index$name, index$unit))
}

#' "which matches had no goals": the total of each
#' @noRd
none_of_index <- function(out, noun) {
  form <- sprintf("(?i)^ *(?:which|what|how many) %s (?:had|have|has|saw|were without|with|without)(?: no| zero| not any)? (?:no )?([\\p{L}_ ]+?)[?.! ]*$", noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !grepl("\\b(no|zero|without|not any)\\b", hit[1], ignore.case = TRUE)) return(out)
  index <- index_of(out$study, hit[2])
  counts <- Filter(function(col) col$kind == "count" && col$name != index$name, all_columns(out$study))
  found <- column_in_text(counts, hit[3], named_phrases(out$study))
  if (is.null(found)) return(out)
  reworded(out, sprintf("total %s by %s", found$name, index$name), sprintf("Every %s is shown with its total; those at 0 are read off the table.", index$name))  # nolint: line_length_linter.
}
