# The calendar in questions about something else: weekdays and months held constant, seasonal patterns of what is not named, decades.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_calendar <- function() list(
  turn("how many|number of|count", distinct_by_period),
  turn("adjust|control|allow|account|hold|correct|constant", calendar_held), turn("season|weekly|monthly|daily|cycl", pattern_of_what),
  turn("decade", by_decade), turn("rush[- ]hour|peak[- ]hour", rush_hour), turn("\\b(get|getting|become|becoming|growing|got)\\b", longer_over_years),
  turn("\\bper (degree|unit|point)", slope_per_degree), turn("\\bgets? (better|worse|higher|lower|more|fewer|less) \\p{L}", get_as_have))

#' "effect of rain on takings adjusting for weekday", of rows with a date: the weekday is a column of its own
#' @noRd
calendar_held <- function(out) {
  kinds <- c("day of (?:the )?week" = "weekday", "weekdays?" = "weekday", "month of (?:the )?year" = "month", "(?:calendar )?months?" = "month",
             "seasons?" = "season", "weekends?" = "weekend", "years?" = "year")
  held <- "(?i)\\b((?:adjust(?:ing|ed)?|controll?(?:ing|ed)?|allow(?:ing|ed)?|account(?:ing|ed)?|correct(?:ing|ed)?) for (?:[\\p{L}_]+(?:, | and ))*?(?:the )?)(%s)\\b(?! of)|\\b(holding (?:the )?)(%s)\\b(?= constant)"  # nolint: line_length_linter.
  date <- rows_date(out)
  # (a trend beside a season is a method of its own)
  moves <- "(?i)\\b(trends?|over time|rising|falling|growing|ris(?:e|en)|fall(?:en)?|grow(?:n|th)?|increas\\w*|decreas\\w*|declin\\w*|gone (?:up|down)|forecast)\\b"  # nolint: line_length_linter.
  if (length(date) != 1 || grepl(moves, out$text, perl = TRUE) && !grepl("(?i)\\b(effects?|impact|influence) of\\b", out$text,
      perl = TRUE)) return(out)
  columns <- tolower(vapply(all_columns(out$study), `[[`, "", "name"))
  for (said in names(kinds)) {
    rule <- kinds[[said]]
    hit <- match_groups(out$text, sprintf(held, said, said))
    if (is.na(hit[1]) || any(columns %in% c(rule, paste0(rule, "s"), "day_of_week", "dow"))) next
    name <- c(weekday = paste0("weekday_of_", date), month = "month_of_year", season = "season", weekend = "day_type", year = "year")[[rule]]
    lead <- stats::na.omit(hit[c(2, 4)])[1]
    return(with_derived(out, name, rule, date, sub(hit[1], paste0(lead, name), out$text, fixed = TRUE)))
  }
  out
}

#' "are there seasonal patterns?", which does not say of what: the months, and what is measured is asked; of one that is named, by month
#' @noRd
pattern_of_what <- function(out) {
  form <- "(?i)^ *(?:are|is|do|does|did) (?:there |we (?:see|have) )?(?:any |an? )?(seasonal|weekly|monthly|yearly|annual) (?:patterns?|cycles?|variations?|swings?|effects?|differences?)[?.! ]*$|^ *(?:is there |any )?(?:any )?seasonality[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  date <- rows_date(out)
  if (is.na(hit[1]) || length(date) != 1) return(out)
  numeric <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  if (!length(numeric)) return(out)
  if (!isTRUE(tolower(hit[2]) == "weekly")) return(reworded(out, "compare the months of the year"))
  name <- paste0("weekday_of_", date)
  with_derived(out, name, "weekday", date, paste("compare the groups of", name))
}

#' "rush hour", which no data defines by itself: one word, so that no part of it is taken for a column
#' @noRd
rush_hour <- function(out) {
  own <- any(grepl("rush|peak", tolower(c(vapply(all_columns(out$study), `[[`, "", "name"), study_vocabulary(out$study)$values$level))))
  if (own) out else reworded(out, gsub("(?i)\\b(rush|peak)[- ]hours?\\b", "\\1hour", out$text, perl = TRUE))
}

#' "share of French films by decade": ten years each, of a year or a date
#' @noRd
by_decade <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(by|per|for each|in each|each|every|over the|across|between) decades?\\b")
  if (is.na(hit[1]) || any(grepl("decade", tolower(vapply(all_columns(out$study), `[[`, "", "name"))))) return(out)
  columns <- all_columns(out$study)
  years <- Filter(function(col) is_numeric_kind(col$kind) && (identical(col$role, "year") || grepl("(^|[_. ])year([_. ]|$)", tolower(col$name))),
      columns)
  if (length(years) != 1) {
    date <- rows_date(out)
    if (length(years) || length(date) != 1) return(out)
    out <- with_derived(out, "year", "year", date)
    years <- list(find_column(out$study, "year"))
  }
  span <- range(as.numeric(understood(out$study, years[[1]]$name, years[[1]]$table)), na.rm = TRUE)
  if (!all(is.finite(span)) || span[1] < 1500 || span[2] > 2200) return(out)
  starts <- seq(10 * floor(span[1] / 10), 10 * floor(span[2] / 10), by = 10)
  if (length(starts) < 2) return(out)
  name <- paste0(years[[1]]$name, "_decade")
  with_derived(out, name, "bands", years[[1]]$name, sub(hit[1], paste("by", name), out$text, fixed = TRUE), cuts = starts[-1],
      labels = paste0(starts, "s"))
}

#' "are films getting longer", of rows with a year or a date: a trend of the one measure that the adjective is of
#' @noRd
longer_over_years <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is|are|has|have|did|do) (?:the |our )?[\\p{L}_]+(?: been)? (?:getting|get|gotten|becoming|become|growing|grown) ([\\p{L}]+er)(?: over time| over the years)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  columns <- all_columns(out$study)
  timed <- length(date_columns(out$study)) || any(vapply(columns, function(col) identical(col$role, "year"), NA))
  if (!timed) return(out)
  table <- study_vocabulary(out$study)$lexicon$adjectives
  nouns <- stem_words(table$noun[table$word == tolower(hit[2])])
  own <- Filter(function(col) any(name_stems(col$name) %in% nouns), numeric_columns(out$study))
  if (!length(own)) {
    mentioned <- measures_spoken_of(out$study, sprintf("%s ones", hit[2]), vapply(numeric_columns(out$study), `[[`, "", "name"))
    own <- lapply(mentioned, function(name) find_column(out$study, name))
  }
  if (length(own) == 1) reworded(out, sprintf("is there a trend in %s", own[[1]]$name)) else out
}

#' "do longer films get better scores": they have them, and nothing is said of time
#' @noRd
get_as_have <- function(out) {
  form <- "(?i)^( *(?:do|does|did) (?:the )?(?:[\\p{L}]+er|more|less|fewer|larger|bigger) [\\p{L}_ ]+?) gets? (?=(?:better|worse|higher|lower|more|fewer|less) \\p{L})"  # nolint: line_length_linter.
  reworded(out, sub(form, "\\1 have ", out$text, perl = TRUE))
}

#' "loaves per degree of temperature": by how much the one changes for one more of the other
#' @noRd
slope_per_degree <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:how many |how much |what is |the )*([\\p{L}_ ]+?) per (?:extra |additional )?(?:degree|unit|point)s? (?:celsius )?(?:of |in |on )(?:the )?([\\p{L}_ ]+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  y <- numeric_in_text(out$study, hit[2]); x <- numeric_in_text(out$study, hit[3])
  if (is.null(x) || is.null(y) || x$name == y$name) return(out)
  reworded(out, sprintf("model of %s on %s", y$name, x$name), sprintf("Took the change of %s for one more unit of %s.", y$name, x$name))
}

#' "how many different hives per month", "how many days with rain above 5 per month": different values counted in each period
#'
#' Days are counted once however many rows they hold.
#' @noRd
distinct_by_period <- function(out) {
  date <- rows_date(out)
  if (length(date) != 1) return(out)
  lead <- "(?i)^ *(?:what is |what's |show |give |find )?(?:the )?(how many|number of|count(?: of)?)"
  tail <- "(?: (?:are there|do we have|were there))?,? (?:per|by|each|every|for each|in each|a) (?:calendar )?(week|month|quarter|year)[?.! ]*$"
  named <- match_groups(out$text, paste0(lead, " (?:different|distinct|unique) ([\\p{L}_]+)(.*?)", tail))
  if (!is.na(named[1])) return(in_each_period(out, date, named[3], named[4], named[5]))
  # (days of a table with one row a day are its rows)
  col <- Find(function(col) col$name == date, all_columns(out$study))
  if (is.null(col) || col$kind != "date" || col$distinct >= nrow(out$study$tables[[col$table %||% 1L]]$data)) return(out)
  days <- match_groups(out$text, paste0(lead, "(?: of)? days(?= (?:with|where|on which|when|in which|above|below|had|have|are|were|it))(.+?)", tail))
  if (!is.na(days[1])) return(in_each_period(out, date, date, days[3], days[4], "Days are counted once, however many rows they hold."))
  days <- match_groups(out$text, paste0(lead, "(?: of)? days (with|where|on which|when|in which) (.+?)[?.! ]*$"))
  if (is.na(days[1]) || grepl("\\b(between|from|since|until|per|each|every|by)\\b", days[4])) return(out)
  reworded(out, sprintf("how many different %s with %s", date, days[4]), "Days are counted once, however many rows they hold.")
}

#' What the column is called that holds the periods of a date
#' @noRd
period_name_of <- function(every, date) paste(every, "of", date, sep = "_")

in_each_period <- function(out, date, noun, rest, every, told = NULL) {
  every <- tolower(every)
  name <- period_name_of(every, date)
  if (tolower(noun) %in% c("days", "day")) noun <- date
  rest <- sub("^ (?:where|on which|when|in which|it) ", " with ", rest)
  done <- with_derived(out, name, "period", date, sprintf("how many different %s%s for each %s", noun, sub(" +$", "", rest), name), every = every)
  if (!identical(done$text, out$text)) done$told <- c(done$told, told)
  done
}
