# Two columns of a row set against each other ("sold above the asking price"), rows in which a measure rose or fell, what is told once for
# each row by its key ("revenue per visitor"), and rows spoken of by their time ("nights under 6 hours").

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_pairs <- function() list(
  turn("\\b(above|below|over|under|exceed|than)", one_against_other), turn("\\b(where|in which|whose|for which|saw|did)\\b", rows_that_moved),
  turn("\\bper\\b", per_single_row), turn("\\b(nights|days|evenings|mornings)\\b", times_as_rows))

#' "what percent sold above the asking price", "did houses sell below asking", "which patients weigh more than at baseline"
#' @noRd
one_against_other <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:for )?(above|below|over|under|more than|less than|higher than|lower than|exceed(?:s|ed|ing)?) (?:the |their |its |his |her )?([\\p{L}_.]+(?: [\\p{L}_.]+){0,3})")  # nolint: line_length_linter.
  if (is.na(hit[1]) || grepl("(?i)\\b(average|mean|median|normal|usual|expected|predicted|target|by|and|or)\\b", hit[3], perl = TRUE)) return(out)
  numeric <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  if (length(numeric) < 2) return(out)
  base <- column_in_text(numeric, hit[3], named_phrases(out$study)) %||% column_of_one_word(numeric, hit[3])
  if (is.null(base) || !startsWith(tolower(hit[3]), tolower(base$said %||% base$name))) return(out)
  before <- sub(hit[1], "", stringi::stri_sub(out$text, 1, regexpr(hit[1], out$text, fixed = TRUE) + nchar(hit[1]) - 1), fixed = TRUE)
  own <- measures_spoken_of(out$study, before, setdiff(vapply(numeric, `[[`, "", "name"), base$name))
  if (length(own) != 1 || !same_measure(find_column(out$study, own), find_column(out$study, base$name))) return(out)
  ask_of_pair(out, own, base$name, hit, base$said %||% base$name)
}

#' The numeric columns that words speak of, among those given
#' @noRd
measures_spoken_of <- function(study, text, among) {
  vocabulary <- study_vocabulary(study)
  said <- tryCatch(vocabulary$columns$name[columns_mentioned(text, vocabulary)], error = function(e) character())
  intersect(unique(said), among)
}

#' Can two columns be set against each other? They are counted in the same unit and are about as large
#' @noRd
same_measure <- function(a, b) {
  if (is.null(a) || is.null(b) || a$table != b$table || !identical(a$unit, b$unit)) return(FALSE)
  any(setdiff(name_stems(a$name), stem_words(c("before", "after", "pre", "post"))) %in% name_stems(b$name)) || !is.null(a$unit)
}

#' The question in terms of the difference of the two, by what it asks for
#' @noRd
ask_of_pair <- function(out, own, base, hit, said) {
  text <- out$text
  name <- paste(own, "minus", base, sep = "_")
  below <- grepl("^(below|under|less|lower)", hit[2], ignore.case = TRUE)
  bound <- sprintf("with %s %s 0", name, if (below) "below" else "above")
  # "which flats sold above the asking price"
  level <- level_in_text(out$study, stringi::stri_sub(text, 1, regexpr(hit[1], text, fixed = TRUE) - 1))
  held <- if (!is.null(level)) sprintf("%s = %s", level$column, level$level)
  if (!is.null(held)) bound <- paste(bound, "and", held)
  tail <- sub(sprintf("(?i)^.*?%s", as_literal(said)), "", sub(".*?(?=\\Q\\E)", "", hit[3], perl = TRUE), perl = TRUE)
  after <- trimws(paste(tail, stringi::stri_sub(text, regexpr(hit[1], text, fixed = TRUE) + nchar(hit[1]))))
  after <- without_mark(after)
  lead <- match_groups(text, "(?i)^ *(how many|(?:what|which)? ?(?:is the |was the )?(?:percent(?:age)?|proportion|share|fraction)s?|which|show|list|do|does|did|are|is|were|was)\\b")  # nolint: line_length_linter.
  kind <- if (is.na(lead[1])) "show" else tolower(trimws(lead[2]))
  asked <- if (grepl("^how many", kind)) paste("how many rows", bound, after)
    else if (grepl("percent|proportion|share|fraction", kind)) paste("what percentage of rows", bound, after)
    else if (grepl("^(do|does|did|are|is|were|was)$", kind) && !nzchar(after)) paste(c(sprintf("compare %s and %s", own, base),
        if (!is.null(held)) paste("for rows with", held)), collapse = " ")
    else if (grepl("^(do|does|did|are|is|were|was)$", kind)) return(out)
    else paste("show rows", bound, after)
  out$told <- c(out$told, sprintf("Took %s to set %s against %s in each row.", quoted(trimws(hit[1])), own, base))
  if (grepl("^compare", asked)) return(reworded(out, asked))
  with_derived(out, name, "difference", c(own, base), trimws(asked))
}

#' "wards where turnout fell", "in how many schools did attendance rise": rows by the sign of a change
#' @noRd
rows_that_moved <- function(out) {
  falls <- "fell|falls|dropped|drops|declined|declines|decreased|decreases|went down|goes down|shrank"
  rises <- "rose|rises|increased|increases|grew|grows|went up|goes up"
  form <- sprintf("(?i)^ *(.*?)\\b(?:where|in which|for which|whose|saw) (?:the |their |its |a )?(.+?) (?:has |had |have )?(%s|%s|fall|drop|decline|decrease|rise|increase|grow)(?: (?:between|from) .+)?[?.! ]*$", falls, rises)  # nolint: line_length_linter.
  # "in how many wards did turnout fall"
  text <- sub("(?i)^ *(in how many|in (?:what|which) (?:share|proportion|percentage|percent) of) ([\\p{L}_]+) did (.+? (?:fall|drop|decline|decrease|rise|increase|grow)(?: [^?.!]+)?)[?.! ]*$",  # nolint: line_length_linter.
              "\\1 \\2 where \\3", out$text, perl = TRUE)
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(out)
  pairs <- Filter(function(set) length(set$columns) == 2, study_sets(out$study, "repeated_measures"))
  own <- Filter(function(set) grepl(sprintf("(?i)^%s$", gsub(" ", "[_. ]", as_literal(plain_measure(set$name)))), trimws(hit[3]), perl = TRUE), pairs)
  if (length(own) != 1) return(out)
  name <- paste0(gsub(" ", "_", plain_measure(own[[1]]$name)), "_change")
  sign <- if (grepl(sprintf("^(?:%s|fall|drop|decline|decrease)$", falls), hit[4], ignore.case = TRUE)) "below" else "above"
  lead <- if (grepl("^ *(?:in )?how many", hit[2], ignore.case = TRUE)) "how many rows" else if (grepl("percent|share|proportion", hit[2], ignore.case = TRUE))  # nolint: line_length_linter.
    "what percentage of rows" else "show rows"
  with_derived(out, name, "difference", rev(own[[1]]$columns), sprintf("%s with %s %s 0", lead, name, sign))
}

#' "is the revenue per visitor higher in B", where each row is one visitor: the revenue
#' @noRd
per_single_row <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b((?:[\\p{L}_]+ ){1,3})per ([\\p{L}_]+)\\b(?: ([\\p{L}_]+))?")
  # ("per patient day" is another measure)
  if (!is.na(hit[4]) && !is.null(column_of_words(numeric_columns(out$study), hit[3:4])) &&
      column_of_words(numeric_columns(out$study), hit[3:4])$words == 2) return(out)
  if (is.na(hit[1]) || grepl("(?i)\\b(average|mean|median|number of|how many|how much|most|least|highest|lowest|total|rate)\\b", out$text,
      perl = TRUE)) return(out)
  keys <- Filter(function(col) col$kind == "id" && isTRUE(col$distinct == nrow(out$study$tables[[col$table]]$data)), all_columns(out$study))
  unit <- keys_called(keys, hit[3])
  measure <- if (length(unit) == 1) numeric_in_text(out$study, hit[2])
  # (a key that is single in a table of its own comes back in the rows of another)
  if (is.null(measure) || measure$name == unit[[1]]$name || !identical(find_column(out$study, measure$name)$table, unit[[1]]$table)) return(out)
  # "transferred calls per 100 calls": so many times what one row has
  if (!is.null(out$rate_per)) {
    name <- sprintf("%s_per_%s", measure$name, format(out$rate_per, scientific = FALSE))
    said <- paste0(as_literal(hit[2]), "per +", as_literal(hit[3]), "\\b")
    done <- with_derived(out, name, "converted", measure$name, sub(said, name, out$text), factor = out$rate_per)
    if (!has_column(done$study, name)) return(out)
    done$rate_per <- NULL
    return(done)
  }
  col <- find_column(out$study, measure$name)
  gap <- sum(is.na(understood(out$study, col$name, col$table))) / nrow(out$study$tables[[col$table]]$data)
  reworded(out, sub(sprintf(" per %s", hit[3]), "", out$text, fixed = TRUE),
           c(sprintf("Each row is one %s, so values per %s are those of the rows.", tolower(hit[3]), tolower(hit[3])),
             if (gap > 0.1) sprintf("%d %% of the rows hold no %s and are left out: these are values of those that have one, not of all.",
                                    round(100 * gap), col$name)))
}

#' "how many nights", "on days with more alcohol", of rows that are the days of a person: the rows
#' @noRd
times_as_rows <- function(out) {
  layout <- long_layout(out$study)
  daily <- !is.null(layout) && grepl("(^|[_. ])(days?|nights?|date)([_. ]|$)", tolower(layout$time))
  said <- "(?i)\\b(?:(how many|(?:percent(?:age)?|share|proportion|number) of) (?:the )?(nights|days|evenings|mornings)\\b|^ *(?:show |list |the )?(nights|days) (?=under|over|above|below|with|when|where|in which|that|without))"  # nolint: line_length_linter.
  if (!daily) return(out)
  noun <- function(word) any(vapply(all_columns(out$study), function(col) col$name != layout$time && stem_words(word) %in% name_stems(col$name), NA))
  on <- match_groups(out$text, "(?i)\\bon (nights|days) (?:with|of|when there (?:is|was)) (more|less|fewer|higher|lower) ([\\p{L}_ ]+?),? (?:do|does|did|is|are|was|were) ")  # nolint: line_length_linter.
  if (!is.na(on[1]) && !noun(on[2])) {
    return(reworded(out, sub(on[1], sprintf("with %s %s, is ", tolower(on[3]), on[4]), out$text, fixed = TRUE)))
  }
  hit <- match_groups(out$text, said)
  if (is.na(hit[1])) return(out)
  word <- tolower(stats::na.omit(hit[3:4])[1])
  if (noun(word)) return(out)
  text <- sub(word, "rows", out$text, ignore.case = TRUE)
  reworded(out, text, sprintf("Each row is one %s of one %s.", sub("s$", "", word), key_noun(layout$unit)))
}
