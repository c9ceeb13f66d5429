# Rows that stand for groups of people (households, parties, teams) and a column that says how many are in each.

#' The turns about members, as of `everyday_turns()`
#' @noRd
turns_of_members <- function() {
  list(turn("\\b(members?|people|persons|residents|occupants|heads)\\b", members_counted),
       turn("^ *(among |of |for |in )?(the )?[a-z]+ [0-9.]+ ?(%|per ?cent)", extreme_part_first))
}

#' The one column that says how many people a row stands for
#' @section Shape: a column, or NULL.
#' @noRd
members_column <- function(study) {
  called <- paste0("(^|[_. ])(hh|household|family|group|party|team|home|dwelling|class|crew)[_. ]?size$|^size_of_|^(n|num|nr|number|no)[_. ]?(of[_. ]?)?(members|people|persons|occupants|residents)$|",  # nolint: line_length_linter.
                   "^(members|people|persons|occupants|residents|household_members|family_members)$")
  own <- Filter(function(col) col$kind %in% c("count", "number") && grepl(called, tolower(col$name)), all_columns(study))
  if (length(own) == 1) own[[1]]
}

#' "households with more than 6 members", "how many people live in rural areas": of the column that counts them
#' @noRd
members_counted <- function(out) {
  col <- members_column(out$study)
  if (is.null(col)) return(out)
  noun <- "(?:members|people|persons|residents|occupants|heads)"
  if (tolower(col$name) %in% c("members", "people", "persons", "occupants", "residents")) return(out)
  told <- sprintf("Took %s to say how many people a row stands for.", col$name)
  bound <- sprintf("(?i)\\b(?:have |has |had |with |of |contain |containing )?((?:more|fewer|less) than|at least|at most|over|under|exactly|only)? ?([0-9]+|one|two|three|four|five|six|seven|eight|nine|ten)( or (?:more|fewer|less))? (?:\\p{L}+ )?%s\\b", noun)  # nolint: line_length_linter.
  hit <- match_groups(out$text, bound)
  if (!is.na(hit[1])) {
    lead <- if (is.na(hit[2])) "" else plain_bound(hit[2])
    suffix <- if (is.na(hit[4])) "" else hit[4]
    return(reworded(out, sub(hit[1], trimws(sprintf("with %s %s %s%s", col$name, if (nzchar(lead) || nzchar(suffix)) lead else "=",
                                                    format_plain(word_number(hit[3])), suffix)), out$text, fixed = TRUE), told))
  }
  # ("total number of people by area": they are added up)
  sum <- sprintf("(?i)^ *(?:what (?:is|was) )?(?:the )?(?:total )?(?:number of|how many|total) %s\\b(?: (?:are there|live|lived|living|are|were there))?(?: in total| altogether| overall)?", noun)  # nolint: line_length_linter.
  if (!grepl(sum, out$text, perl = TRUE)) return(out)
  rest <- sub(sum, "", out$text, perl = TRUE)
  if (grepl("(?i)^ *(?:who|with|that|have|has|had|per|answered|responded|took)\\b", rest, perl = TRUE)) return(out)
  reworded(out, sprintf("total %s%s", col$name, rest), told)
}

#' "richest 10 percent of households: what share have internet": what is asked, of the rows at that end
#' @noRd
extreme_part_first <- function(out) {
  form <- "(?i)^ *(?:among |of |for |in |within )?(?:the )?([a-z]+est|top|bottom) ([0-9.]+ ?(?:%|per ?cent))(?: of (?:the |all )?([\\p{L}_]+))?(?: by (?:the |their )?([\\p{L}_ ]+?))?[,:] *(.+)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  word <- tolower(hit[2])
  table <- english$adjectives
  base <- c(word, sub("est$", "", word), sub("iest$", "y", word), sub("est$", "e", word), sub("(.)\\1est$", "\\1", word), sub("est$", "er", word),
      sub("iest$", "ier", word))
  nouns <- unique(table$noun[table$word %in% base])
  numeric <- numeric_columns(out$study)
  named <- if (!is.na(hit[5])) numeric_in_text(out$study, hit[5])$name else {
    own <- Filter(function(col) any(stem_words(nouns) %in% name_stems(col$name)), numeric)
    if (length(own) == 1) own[[1]]$name
  }
  if (is.null(named)) return(out)
  low <- word %in% c("bottom", "poorest", "youngest", "lightest", "shortest", "smallest", "lowest", "slowest", "cheapest", "weakest", "worst",
      "thinnest", "narrowest")
  noun <- if (is.na(hit[4])) "rows" else hit[4]
  reworded(out, sprintf("%s among the %s %s of %s by %s", without_mark(hit[6]), if (low) "bottom" else "top", hit[3], noun, named))
}
