# Feelings about what an item of a survey asks ("which department is most unhappy with pay", "satisfaction with the workload"),
# where no column is called after the feeling itself.

#' The turns about feelings, as of `everyday_turns()`
#' @noRd
turns_of_feelings <- function() {
  list(turn("satisf|happ(y|ier|iest|iness)|pleased|content", felt_about), turn("^ *(is|are|was|were|did|do|does|has|have) .*\\b(better|worse|higher|lower)\\b", level_as_comparison),  # nolint: line_length_linter.
    turn("^ *(is|are|was|were) .*\\b(more|less) \\p{L}+ (than|in|among|for|at|on)\\b", more_of_level))  # nolint: line_length_linter.
}

#' "most unhappy with pay", "happier with pay than", "satisfaction with pay": the answers to the one ordered item that is called so
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
felt_about <- function(out) {
  columns <- all_columns(out$study)
  if (any(grepl("satisf|happi|happy|content", tolower(vapply(columns, function(col) paste(col$name, col$label), ""))))) return(out)
  feeling <- "((?:dis|un)?(?:satisfied|happy|pleased|content))"
  forms <- c(most = paste0("(?i)\\b(most|least) ", feeling, " (?:with|about) "), more = paste0("(?i)\\b(more|less) ", feeling, " (?:with|about) "),
             most = "(?i)\\b()((?:un)?happiest) (?:with|about) ", more = "(?i)\\b()((?:un)?happier) (?:with|about) ",
             noun = "(?i)\\b()((?:dis)?satisfaction|(?:un)?happiness) (?:with|about) ")
  for (k in seq_along(forms)) {
    hit <- match_groups(out$text, forms[[k]])
    if (is.na(hit[1])) next
    behind <- substring(out$text, regexpr(hit[1], out$text, fixed = TRUE) + nchar(hit[1]))
    item <- item_behind(columns, behind)
    if (is.null(item)) return(out)
    low <- xor(grepl("^(dis|un)", hit[3], ignore.case = TRUE), tolower(hit[2]) %in% c("least", "less"))
    kind <- names(forms)[k]
    lead <- if (kind == "noun") "" else if (kind == "most") if (low) "lowest mean " else "highest mean " else if (low) "a lower " else "a higher "
    text <- sub(paste0(hit[1], item$said), paste0(lead, item$name), out$text, fixed = TRUE)
    if (kind != "noun") text <- with_verb_of_having(text, lead, kind == "most")
    told <- sprintf("Took %s to mean %sanswers to %s.", quoted(trimws(paste0(hit[1], item$said))),
                    if (kind == "noun") "the " else if (low) "lower " else "higher ", item$name)
    return(reworded(out, text, told))
  }
  out
}

#' "which department is highest mean X" as "which department has the highest mean X"; "are A a higher X than B" as "do A have a higher X"
#' @noRd
with_verb_of_having <- function(text, lead, most) {
  if (most) return(sub(paste0("(?i)\\b(?:is|are|was|were|feels?|seems?) (?:the )?(?=", lead, ")"), "has the ", text, perl = TRUE))
  text <- sub("(?i)^ *(?:is|are|was|were) ", "do ", text, perl = TRUE)
  sub(lead, paste("have", lead), text, fixed = TRUE)
}

#' The one ordered column that the first words of a text name, as `column_of_words()` with the words as said
#' @noRd
item_behind <- function(columns, text) {
  lead <- regmatches(text, regexpr("^(?:the |their |his |her |our |your )?", text))
  words <- strsplit(sub("[?.!,].*$", "", substring(text, nchar(lead) + 1)), " ")[[1]]
  if (!length(words)) return(NULL)
  items <- Filter(function(col) col$kind == "ordered", columns)
  found <- column_of_words(items, utils::head(words, 4))
  if (is.null(found)) return(NULL)
  list(name = found$name, said = paste0(lead, paste(words[seq_len(found$words)], collapse = " ")))
}

#' "was global change rated better in the coaching group", of a rating with a level better: better is no level here, it compares
#' @noRd
level_as_comparison <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were|did|do|does|has|have) (.+?) (?:rated |scored |judged |seen as )?(better|worse|higher|lower) (?:in|for|among|with|under|on|than|by|at) "  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  word <- tolower(hit[3])
  own <- Filter(function(col) col$kind == "ordered" && word %in% tolower(col$levels), all_columns(out$study))
  if (length(own) != 1 || !identical(column_in_text(own, hit[2], named_phrases(out$study, own))$name, own[[1]]$name)) return(out)
  # (the better answers are those that stand beyond the middle)
  side <- if (level_place(own[[1]], word) > 0.5) "higher" else "lower"
  at <- regexpr(hit[1], out$text, fixed = TRUE)
  text <- paste0(sub(sprintf("(?:(?:rated|scored|judged|seen as) )?%s (?=\\p{L}+ $)", hit[3]), paste0(side, " "), hit[1], perl = TRUE),
                 substring(out$text, at + nchar(hit[1])))
  reworded(out, text, sprintf("Took %s to compare the answers to %s.", quoted(hit[3]), own[[1]]$name))
}

#' Where an answer stands on its scale: below a half before the middle, above it beyond
#' @noRd
level_place <- function(col, level) match(level, tolower(col$levels)) / (length(col$levels) + 1)

#' "are girls more positive than boys", of answers from very negative to very positive: higher answers
#' @noRd
more_of_level <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is|are|was|were) (.+?) (more|less) ([\\p{L}]+) (than|in|among|for|at|on) (.+?)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  word <- tolower(hit[4])
  own <- Filter(function(col) col$kind == "ordered" && word %in% tolower(col$levels), all_columns(out$study))
  if (length(own) != 1 || column_said_by(out$study, word)) return(out)
  place <- level_place(own[[1]], word)
  if (place == 0.5) return(out)
  high <- (place > 0.5) == (tolower(hit[3]) == "more")
  reworded(out, sprintf("do %s have a %s %s %s %s", hit[2], if (high) "higher" else "lower", own[[1]]$name, hit[5], hit[6]),
           sprintf("Took %s to mean %s answers to %s.", quoted(paste(hit[3], hit[4])), if (high) "higher" else "lower", own[[1]]$name))
}
