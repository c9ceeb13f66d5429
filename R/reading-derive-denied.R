# Yes/no columns whose names deny something ("Did not attend", "no_show", "not_paid", "unpaid"). A word for what they deny ("how many
# attended", "paid invoices") is the other one of their two levels, and a missed appointment is one that was not attended.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_denied <- function() {
  list(turn("no[- ]?show|\\bdna\\b|\\bmiss(es|ed|ing)?\\b|absen(t|ce|tee)", absence_said), turn("\\p{L}", denied_turned))
}

#' Yes/no columns that are called by what is not so
#' @section Shape: list of list(col = its record, core = the stems of what is denied).
#' @noRd
denied_columns <- function(study) {
  compact(lapply(Filter(function(col) length(col$levels) == 2, yes_no_columns(study)), function(col) {
    core <- denied_core(col$name)
    if (length(core)) list(col = col, core = core)
  }))
}

#' What a name denies: the stems behind its "not", or of a word without its "un"
#' @noRd
denied_core <- function(name) {
  words <- tolower(strsplit(trimws(name_words(name)), "[ -]+")[[1]])
  at <- which(words %in% c("not", "no", "never", "non", "didnt", "wasnt", "isnt", "hasnt"))
  if (length(at)) {
    behind <- setdiff(words[seq_along(words) > at[1]], c("been", "be", "the", "a", "flag", "status", "indicator", "yes", "yet", "up", "of"))
    return(if (length(behind) %in% 1:2) stem_words(behind))
  }
  bare <- sub("^(un|non)(?=[a-z]{4})", "", words, perl = TRUE)
  if (length(words) == 1 && bare != words && is_everyday_word(bare)) stem_words(bare)
}

#' "how many attended", of a column Did_not_attend: a column of those who did
#'
#' Words that deny it themselves ("not attending", "failed to attend", "non-attendance") become the column's own name.
#' @noRd
denied_turned <- function(out) {
  for (one in denied_columns(out$study)) {
    others <- Filter(function(col) col$name != one$col$name && any(one$core %in% name_stems(col$name)), all_columns(out$study))
    if (length(others)) next
    out <- set_apart_denied(out, one)
    said <- words_of_core(out$text, one)
    if (!length(said)) next
    name <- if (grepl("ed$", said[1])) said[1] else participle(one$core)
    yes <- one$col$levels[1]
    out <- with_derived(out, name, "equals", one$col$name, level = yes)
    if (has_column(out$study, name)) out$told <- c(out$told, sprintf("Took %s to mean that %s is %s.", quoted(said[1]), one$col$name, quoted(yes)))
  }
  out
}

#' The words of a text that say what a column denies, where they do not stand in its name
#' @noRd
words_of_core <- function(text, one) {
  bare <- gsub(name_in_text(one$col$name), " ", text, perl = TRUE)
  words <- tolower(stringi::stri_extract_all_words(bare)[[1]])
  # ("show the hours" asks for a table, and tells nothing of who came)
  words <- setdiff(words, c("show", "shows", "showing"))
  stems <- stem_words(words)
  if (all(one$core %in% stems)) words[stems %in% one$core] else character()
}

#' A pattern for the name of a column, however its words are joined
#' @noRd
name_in_text <- function(name) sprintf("(?i)(?<![\\p{L}0-9])%ss?(?![\\p{L}0-9])", gsub("[_. -]+", "[_. -]*", as_literal(name)))

#' "failed to attend", "non-attenders", "those who did not attend": the name of the column that says so
#' @noRd
set_apart_denied <- function(out, one) {
  # ("appli" is the stem of apply)
  word <- paste(sprintf("(?:%s|%s)[\\p{L}]*", as_literal(one$core), as_literal(sub("i$", "y", one$core))), collapse = " ")
  text <- gsub(name_in_text(one$col$name), "\u0001", out$text, perl = TRUE)
  # ("attenders and non-attenders": both, so they are the groups)
  both <- sprintf("(?i)\\b(?:those who )?%1$s (?:and|or|vs\\.?|versus|against|with|to|than) (?:those who )?(?:non[- ]?|(?:did|do|does|have|has|were|was) not |didn't |not )%1$s\\b", word)  # nolint: line_length_linter.
  text <- gsub(both, "groups of \u0001", text, perl = TRUE)
  lead <- "(?:(?:did|do|does|have|has|had|were|was|are|is) (?:not|never) |(?:did|do|does|have|has|were|was|are|is)n['\u2019]?t |fail(?:ed|s|ing)? to |non[- ]?|not |never )"  # nolint: line_length_linter.
  text <- gsub(sprintf("(?i)\\b(?:(?:those |people |patients )?who )?%s(?:been )?%s\\b", lead, word), "\u0001", text, perl = TRUE)
  out$text <- gsub("\u0001", one$col$name, text, fixed = TRUE)
  out
}

#' The word for what was done of a verb's stem ("attend": attended, "pay": paid)
#' @noRd
participle <- function(stem) {
  word <- stem[1]
  irregular <- c(pay = "paid", show = "showed", go = "went", come = "came", win = "won", take = "taken", give = "given", see = "seen", do = "done",
                 buy = "bought", sell = "sold", find = "found", meet = "met", hold = "held")
  if (word %in% names(irregular)) return(irregular[[word]])
  if (grepl("(ed|en|id|ive|ful|ant|able)$", word)) word
  else paste0(word, if (grepl("e$", word)) "d" else "ed")
}

#' "missed appointments", "the no-show rate", "DNAs": who was not there, of a column that says who was or who was not
#' @noRd
absence_said <- function(out) {
  seen <- stem_words(c("attend", "attended", "attendance", "show", "showed", "present", "presence", "turned", "appeared"))
  own <- Filter(function(col) any(name_stems(col$name) %in% stem_words(c("missed", "absent", "absence", "dna", "noshow"))), all_columns(out$study))
  flags <- Filter(function(col) length(col$levels) == 2 && any(name_stems(col$name) %in% seen), yes_no_columns(out$study))
  if (length(own) || length(flags) != 1) return(out)
  col <- flags[[1]]
  denies <- length(denied_core(col$name)) > 0
  level <- if (denies) col$levels[2] else col$levels[1]
  absent <- sprintf("%s = %s", col$name, level)
  thing <- "(appointments?|visits?|sessions?|slots?|bookings?|classes|class|lessons?|meetings?|interviews?|clinics?|shifts?|days?)"
  # (what is compared or related is the column itself)
  rate <- if (grepl("(?i)^ *(?:do|does|did|is|are|was|were|compare|test)\\b|\\b(?:differ|relat|associat|predict|depend|affect|compare)", out$text, perl = TRUE)) col$name  # nolint: line_length_linter.
    else paste("share with", absent)
  # (a column that is called no_show is named by these words itself)
  noun <- if (grepl("^no[_. ]?shows?$", tolower(col$name))) "dna" else "(?:no[- ]?show|dna)"
  text <- gsub(sprintf("(?i)\\b(?:the )?(?:%s|missed %s|absentee|absence|absenteeism)s? rates?\\b", noun, thing), rate, out$text, perl = TRUE)
  text <- gsub(sprintf("(?i)\\b(?:missed|%s) %s\\b", noun, thing), paste("\\1 with", absent), text, perl = TRUE)
  text <- gsub(sprintf("(?i)\\b(?:to )?miss(?:es|ed|ing)? (?:(?:their|his|her|its|an?|the|more|any|of) )*%s\\b", thing),
               if (denies) col$name else paste("not", col$name), text, perl = TRUE)
  text <- gsub(sprintf("(?i)\\b(?:%ss?|absences?|absentees?)\\b", noun), paste("rows with", absent), text, perl = TRUE)
  reworded(out, text, sprintf("Took who was not there to be the rows in which %s is %s.", col$name, quoted(level)))
}
