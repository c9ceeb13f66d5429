# People who stay and leave (members, customers, staff): how long they stay, how many are still there, who is lost.

#' The turns about leaving, as of `everyday_turns()`
#' @noRd
turns_of_leaving <- function() {
  list(turn("churn|attrition|turnover", lost_by_name), turn("\\bhow long\\b|\\b(stay|last|remain|keep going)s?\\b", how_long_they_stay),
       turn("still|remain|retention|retained|stay", still_there_at))
}

#' The column of who left, and that of the time they had stayed
#' @section Shape: list(left = a column, time = name of a column), or NULL.
#' @noRd
leaving_columns <- function(study) {
  left <- Filter(says_who_left, all_columns(study))
  time <- survival_time(study_vocabulary(study)$columns)
  if (length(left) == 1 && !is.null(time)) list(left = left[[1]], time = time)
}

#' "churn by plan", "does the number of classes affect churn": the column that says who left
#' @noRd
lost_by_name <- function(out) {
  columns <- all_columns(out$study)
  called <- grepl("churn|attrit|turnover", tolower(vapply(columns, function(col) paste(c(col$name, col$label), collapse = " "), "")))
  left <- Filter(says_who_left, columns)
  if (any(called) || length(left) != 1) return(out)
  # (turnover is money elsewhere)
  form <- "(?i)\\b(?:the )?(?:member |customer |staff |employee )?(churn|attrition|staff turnover|employee turnover)( rates?)?\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  name <- left[[1]]$name; yes <- last_of(left[[1]]$levels)
  share <- !is.na(hit[3]) || grepl(sprintf("^ *(?:what (?:is|was) |show |give )?%s(?: (?:by|per|in|among|for|of|across)\\b|[?.! ]*$)",
      as_literal(hit[1])), out$text,
                                   ignore.case = TRUE, perl = TRUE)
  reworded(out, sub(form, if (share) sprintf("share with %s = %s", name, yes) else name, out$text, perl = TRUE),
           sprintf("Took %s as %s = %s.", tolower(hit[2]), name, yes))
}

#' "how long do members stay", "do premium members stay longer than basic ones": the time until they leave
#' @noRd
how_long_they_stay <- function(out) {
  own <- leaving_columns(out$study)
  if (is.null(own)) return(out)
  stay <- "(?:stay|remain|last|keep going|stick around|are kept)(?:s|ed)?(?: with us| members?| subscribed| enrolled| active| around)?"
  told <- sprintf("Who has not left (%s is not %s) is counted as still there.", own$left$name, last_of(own$left$levels))
  longer <- match_groups(out$text, sprintf("(?i)^ *(?:do|does|did) (?:the )?(.+?) %s (?:longer|shorter|less long)(?: than (?:the )?(.+?))?[?.! ]*$",
      stay))
  if (!is.na(longer[1])) {
    vocabulary <- study_vocabulary(out$study)
    who <- people_side(vocabulary, longer[2])
    if (is.null(who)) return(out)
    sides <- if (!is.na(longer[3]) && identical(people_side(vocabulary, longer[3])$column, who$column)) sprintf("%s against %s", longer[2], longer[3])
    return(reworded(out, sprintf("log rank test of %s", sides %||% who$column), told))
  }
  effect <- match_groups(out$text, sprintf("(?i)^ *(?:does|do|did|is|are) (?:the )?(.+?) (?:matter for|affect|influence|related to|associated with|predict|explain) how long (?:the )?(?:.+?) %s(.*?)[?.! ]*$", stay))  # nolint: line_length_linter.
  if (!is.na(effect[1])) return(reworded(out, sprintf("cox regression of %s%s", effect[2], effect[3]), told))
  asked <- match_groups(out$text, sprintf("(?i)^ *how long (?:do|does|did|will) (?:the |our )?([\\p{L}_ ]+?) %s(?: on average| typically| usually)?( (?:by|in each|per|for each|across) .+?)?[?.! ]*$", stay))  # nolint: line_length_linter.
  if (is.na(asked[1]) || !names_rows(study_vocabulary(out$study), last_of(strsplit(tolower(asked[2]), " ")[[1]]))) return(out)
  reworded(out, paste0("median survival time", if (!is.na(asked[3])) asked[3]), told)
}

#' "what share are still active after 12 months", "retention at 6 and 12 months by plan": the share who have not left by then
#' @noRd
still_there_at <- function(out) {
  own <- leaving_columns(out$study)
  if (is.null(own)) return(out)
  when <- "((?:[0-9.]+|one|two|three|six|twelve)(?:(?:,| and|, and) (?:[0-9.]+|one|two|three|six|twelve))* (?:days?|weeks?|months?|years?))"
  form <- sprintf("(?i)^ *(?:what |how large a |which |the )?(?:share|proportion|percentage|percent|fraction|how many)(?: of (?:the |our )?[\\p{L}_]+)?(?: [\\p{L}_]+)? (?:are |is |were |was |who |that )*(?:still|remain(?:s|ed|ing)?|stay(?:s|ed)?|retained|kept)\\b[\\p{L} ]*? (?:after|at|beyond|past|for(?: at least)?) %s( .+?)?[?.! ]*$", when)  # nolint: line_length_linter.
  rate <- sprintf("(?i)^ *(?:what (?:is|was) )?(?:the )?retention(?: rates?)? (?:after|at|of) %s( .+?)?[?.! ]*$", when)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) hit <- match_groups(out$text, rate)
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("survival at %s%s", hit[2], if (is.na(hit[3])) "" else hit[3]),
           sprintf("Who has not left (%s is not %s) is counted as still there.", own$left$name, last_of(own$left$levels)))
}

#' "how many people left in 2023", "turnover by department", of a date on which they left: those who have one
#' @noRd
left_by_date <- function(out) {
  columns <- all_columns(out$study)
  gone <- Filter(function(col) col$kind %in% c("date", "datetime") && col$missing > 0 &&
    grepl("(^|[^a-z])(exit|leav\\w*|left|termination|terminated|departure|departed|resign\\w*|end_of_employment)", tolower(name_words(col$name))),
        columns)
  flags <- Filter(function(col) grepl("(^|[^a-z])(left|leaver|churn|attrition|turnover|quit|resigned)", tolower(name_words(col$name))) &&
    !col$kind %in% c("date", "datetime"), columns)
  if (length(gone) != 1 || length(flags)) return(out)
  date <- gone[[1]]$name
  text <- out$text
  # ("left in 2023": the period is that of the date itself)
  period <- sprintf("(?i)\\b(?:who |that |have |has |had )*(?:left|quit|resigned|leave|leavers?)(?: (?:us|the company|the firm|here))?(?= (?:in|during|since|before|after|between) (?:(?:[a-z]+ )?(?:19|20)[0-9]{2}|(?:q[1-4]|%s)\\b))",  # nolint: line_length_linter.
                    paste(tolower(month.name), collapse = "|"))
  if (grepl(period, text, perl = TRUE)) {
    return(reworded(out, sub(period, paste("with", date), text, perl = TRUE), sprintf("Took who left to be the rows with a value of %s.", date)))
  }
  if (grepl("(?i)\\bhow long\\b.*\\b(?:stay|work|before)", text, perl = TRUE)) {
    text <- sub("(?i)^ *how long .*?((?: (?:by|in each|for each) .+)?)[?.! ]*$", "average tenure of rows with left = yes\\1", text, perl = TRUE)
  }
  text <- gsub("(?i)\\b(?:staff |employee |labou?r )?(?:turnover|attrition)(?: rates?)?\\b", "share with left = yes", text, perl = TRUE)
  if (identical(text, out$text) && !grepl("(?i)\\b(left|leavers?|quit|resigned)\\b", text, perl = TRUE)) return(out)
  out$told <- c(out$told, sprintf("Took who left to be the rows with a value of %s.", date))
  with_derived(out, "left", "present", date, gsub("(?i)\\b(?:leavers?|quit|resigned)\\b", "left", text, perl = TRUE))
}
