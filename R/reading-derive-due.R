# A date by which something was due beside the date on which it was done: late, overdue, on time, days late.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_due <- function() {
  list(turn("\\b(late|later|lateness|overdue|delays?|delayed|early|earlier|on time|in time|punctual\\w*|past due|unreturned|not (been |yet )?(returned|delivered|paid|completed|finished|closed|submitted))\\b", late_by_due_date))  # nolint: line_length_linter.
}

#' The two dates, where a table has one of each
#' @section Shape: list(due, done) of columns, or NULL.
#' @noRd
due_and_done <- function(study) {
  dates <- dated_columns(study)
  names <- tolower(vapply(dates, `[[`, "", "name"))
  due <- grepl("(^|_)(due|deadline|promised|expected|planned|scheduled|target|agreed|required)(_|$)", gsub("[^a-z]+", "_", names))
  done <- grepl("return|deliver|arriv|complet|finish|paid|payment|clos|submit|actual|done|resolv|handed", names) & !due
  if (sum(due) != 1 || sum(done) != 1 || dates[[which(due)]]$table != dates[[which(done)]]$table) return(NULL)
  list(due = dates[[which(due)]], done = dates[[which(done)]])
}

#' "what share of loans is overdue by item type", "how many orders arrived late": the days from when it was due to when it was done
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
late_by_due_date <- function(out) {
  said <- "late|lateness|overdue|delay|delayed|early|punctual"
  # (data that itself says what was late needs no dates for it)
  if (any(grepl(said, tolower(vapply(all_columns(out$study), `[[`, "", "name")))) || any(tolower(study_vocabulary(out$study)$values$level) %in%
      c("late", "on time", "overdue", "delayed", "early"))) return(out)
  ends <- due_and_done(out$study)
  if (is.null(ends)) return(out)
  open <- not_yet_done(out, ends$done)
  if (!is.null(open)) return(open)
  text <- with_days_late(out$text)
  if (identical(text, out$text)) return(out)
  done <- with_derived(out, "days_late", "difference", c(ends$done$name, ends$due$name), text, unit = "days")
  if (!has_column(done$study, "days_late")) return(out)
  done$told <- c(done$told, sprintf("Late means after %s, and days_late below 0 is early; rows without %s are not known to be late and are left out.", ends$due$name, ends$done$name))  # nolint: line_length_linter.
  done
}

#' The question in terms of days_late
#' @noRd
with_days_late <- function(text) {
  be <- "(?:(?:who|that|which) )?(?:is|are|was|were|be|being|been|came|come|comes|got|have been|has been|had been)"
  deed <- "(?:(?:returned|delivered|paid|completed|finished|closed|submitted|arrived?|arriving|handed in|brought back|back) )?"
  states <- c("late|overdue|past (?:the |their )?due(?: date)?|delayed|not (?:returned |paid |delivered )?(?:on|in) time", "on time|in time|punctual(?:ly)?|not late|by the due date",  # nolint: line_length_linter.
              "early|before the due date")
  bounds <- c("above 0", "of at most 0", "below 0")
  for (i in seq_along(states)) {
    # "how many loans were returned late"
    text <- sub(sprintf("(?i)\\b%s %s(?:%s)(?! (?:loans?|returns?|orders?|payments?)\\b)", be, deed, states[i]), paste("with days_late", bounds[i]), text,  # nolint: line_length_linter.
                perl = TRUE)
    text <- sub(sprintf("(?i)\\b(?:returned|delivered|paid|completed|finished|closed|submitted|arriv(?:ed|ing)|handed in) (?:%s)\\b", states[i]),
                paste("with days_late", bounds[i]), text, perl = TRUE)
  }
  rules <- list(
    # "how many days late are books on average"
    c("(?i)^ *how (?:many days )?(?:late|delayed|overdue) (?:are|is|were|was) (?:the )?(.+?)(?: on average| usually| typically)?(?=[?.! ]*$)", "average days_late of \\1"),  # nolint: line_length_linter.
    c("(?i)\\b(?:number of )?days? (?:late|overdue|of delay)\\b|\\blateness\\b|\\bdelays?\\b(?! (?:rate|share))", "days_late"),
    c("(?i)\\b(?:rate|share|proportion|percentage) of (?:late|overdue|delayed) ([\\p{L}]+)", "share of \\1 with days_late above 0"),
    c("(?i)\\b(?:late|overdue|delayed) (?:return |payment |delivery )?(?:rate|share|proportion)\\b", "share of rows with days_late above 0"),
    c("(?i)\\bon[- ]time (?:return |payment |delivery )?(?:rate|share|proportion|performance)\\b", "share of rows with days_late of at most 0"),
    # "fines per late loan"
    c("(?i)\\bper (?:late|overdue|delayed) ([\\p{L}]+)\\b(.*?)(?=[?.! ]*$)", "per \\1\\2 for rows with days_late above 0"),
    c("(?i)\\b(?:late|overdue|delayed) ([\\p{L}]+s)\\b", "\\1 with days_late above 0"),
    # "are teens later than adults"
    c("(?i)^ *(?:is|are|was|were|do|does|did) (.+?) (?:more often |more )?later (than|in|at|for|with|among)\\b", "is days_late higher for \\1 \\2"),
    c("(?i)^ *(?:is|are|was|were|do|does|did) (.+?) (?:\\w+ )?later(?=[?.! ]*$)", "is days_late higher for \\1"))
  for (rule in rules) text <- sub(rule[1], rule[2], text, perl = TRUE)
  text
}

#' "loans that have not been returned", "unreturned items": those without the date on which it was done
#' @return `out` reworded, or NULL where the question speaks of no such rows.
#' @noRd
not_yet_done <- function(out, done) {
  verb <- regmatches(tolower(done$name), regexpr("return|deliver|paid|complet|finish|clos|submit|resolv", tolower(done$name)))
  if (!length(verb)) return(NULL)
  form <- sprintf("(?i)\\b(?:(?:who|that|which) )?(?:(?:is|are|was|were|have|has|had) )?(?:not|never)(?: yet)?(?: been| yet been)? %s(?:ed|d|te|ted|ished|e)?(?: yet| back)?\\b", verb)  # nolint: line_length_linter.
  text <- sub(form, sprintf("with %s_missing = yes", done$name), out$text, perl = TRUE)
  text <- sub(sprintf("(?i)\\bun%s(?:ed|d|ted|ished)? ([\\p{L}]+)\\b", verb), sprintf("\\1 with %s_missing = yes", done$name), text, perl = TRUE)
  if (identical(text, out$text)) return(NULL)
  flag <- paste0(done$name, "_missing")
  # ("are loans that have not been returned more common at Central": how often they are)
  text <- sub(sprintf("(?i)^ *(?:are|is|were|was) [\\p{L} ]*?with %s = yes (more|less) (?:common|frequent|likely|often)", flag), sprintf("is %s \\1 common", flag), text,  # nolint: line_length_linter.
              perl = TRUE)
  made <- with_derived(out, flag, "missing", done$name, text)
  if (!has_column(made$study, flag)) return(NULL)
  made$told <- c(made$told, sprintf("Took those without %s to be not yet done.", done$name))
  made
}
