# Periods counted from the first day or the first occasion ("the second week", "week 2"), where the data holds dates or numbered days.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_periods <- function() list(
  turn("[0-9] ?(-|\u2013|to) ?[0-9]+.*[0-9] ?(-|\u2013|to) ?[0-9]", two_number_ranges),
  turn("covariate", baseline_as_covariate),
  turn("\\b(times?|durations?)\\b", named_time),
  turn("\\b(first|1st|second|2nd|third|3rd|fourth|4th|fifth|5th|sixth|6th|last)\\b.* (weeks?|months?|days?)\\b|\\b(week|month|day) [0-9].*[0-9]",
      two_counted_periods),
  turn("\\b(second|2nd|third|3rd|fourth|4th|fifth|5th|sixth|6th|seventh|7th|eighth|8th|ninth|9th|tenth|10th) (week|month|day)\\b|\\b(week|month|day) [0-9]", counted_period),  # nolint: line_length_linter.
  turn("\\b(first|1st|last|second|2nd|third|3rd|fourth|4th|fifth|5th) week\\b", week_of_days))

#' The turns that come last, when nothing else has taken the words
#' @noRd
turns_of_bounds <- function() list(
  turn("\\b(over|across|by|per|each|every)\\b", steps_as_column),
  turn("\\bwithin [0-9]", answered_within), turn("\\b(longer|shorter|over|under|more|less) .*[0-9]", rows_longer_than))

#' "by week and arm", "at each week", of a column visit_week that says the times of long data: that column
#' @noRd
steps_as_column <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(date_columns(out$study)) || grepl(layout$time, out$text, fixed = TRUE)) return(out)
  step <- layout_step(layout)
  words <- sub("s$", "", strsplit(tolower(layout$time), "[_. ]+")[[1]])
  # (a column that is called by the one word is read where it stands)
  if (length(words) < 2 || any(tolower(vapply(all_columns(out$study), `[[`, "", "name")) %in% c(step, paste0(step, "s")))) return(out)
  form <- sprintf("(?i)\\b(by|per|(?:at |in |for |of )?(?:each|every)) (?:the )?%ss?\\b(?! [0-9])", step)
  over <- sprintf("(?i)\\b(?:over|across) (?:the |all |all the )?(?:%ss|visits)\\b(?! [0-9])", step)
  text <- sub(over, "over time", out$text, perl = TRUE)
  reworded(out, sub(form, sprintf("\\1 %s", layout$time), text, perl = TRUE))
}

#' "answered within 60 seconds", beside columns that are counted in seconds: at most that
#' @noRd
answered_within <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bwithin ([0-9]+(?:[.][0-9]+)?) ?(seconds?|secs?|s|minutes?|mins?|hours?|hrs?|days?|weeks?|months?|years?)\\b")
  # (an event within a time is one of a survival curve)
  if (is.na(hit[1]) || grepl("(?i)surviv|\\bdied|\\bdeath|hazard|kaplan|relaps|event|equival|inferior|margin|agree|the same", out$text, perl = TRUE) || !length(columns_in_unit(out$study, hit[3]))) return(out)  # nolint: line_length_linter.
  reworded(out, sub(hit[1], sprintf("at most %s %s", hit[2], hit[3]), out$text, fixed = TRUE))
}

#' The numeric columns whose unit measures what a unit word measures
#' @noRd
columns_in_unit <- function(study, word) {
  family <- units_like(word)
  Filter(function(col) isTRUE(col$unit %in% family), numeric_columns(study))
}

#' "calls longer than 10 minutes", of several columns in minutes: a list of rows, of which column is then asked
#' @noRd
rows_longer_than <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:show |list |which |the |all |me )*([\\p{L}]+?) (?:(?:that|which) )?(?:(?:were|was|are|is|lasted|took|lasting|taking) )?(longer than|shorter than|over|under|more than|less than) ([0-9]+(?:[.][0-9]+)?) ([\\p{L}]+)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !names_rows(study_vocabulary(out$study), hit[2])) return(out)
  own <- columns_in_unit(out$study, hit[5])
  if (length(own) < 2) return(out)
  side <- if (grepl("^(longer|over|more)", hit[3], ignore.case = TRUE)) "above" else "below"
  reworded(out, sprintf("show rows %s %s %s", side, hit[4], hit[5]))
}

#' "second" and "2nd" as 2; "last" as Inf
#' @noRd
place_said <- function(said) {
  said <- tolower(said)
  if (said == "last") return(Inf)
  digits <- sub("(st|nd|rd|th)$", "", said)
  if (grepl("^[0-9]+$", digits)) as.numeric(digits) else match(said, place_words())
}

place_words <- function() c("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")

#' The first and last day of the n-th week, month or day of the data; the last is that of the calendar
#' @section Shape: Two dates, or NULL where the data ends before.
#' @noRd
nth_period <- function(span, unit, n) {
  if (!is.finite(n)) return(calendar_period(span[2], unit, 1))
  from <- seq(span[1], by = unit, length.out = n + 1)[c(n, n + 1)]
  if (from[1] <= span[2]) c(from[1], min(from[2] - 1, span[2]))
}

#' The span of the one date that a question of counted periods can mean
#' @section Shape: list(column, span), or NULL where no date is there, or a column counts the periods itself.
#' @noRd
dates_counted <- function(out, unit) {
  columns <- all_columns(out$study)
  if (any(vapply(columns, function(col) is_numeric_kind(col$kind) && unit %in% name_stems(col$name), NA))) return(NULL)
  name <- rows_date(out)
  if (length(name) != 1) return(NULL)
  days <- as.Date(range(understood(out$study, name), na.rm = TRUE))
  if (length(days) == 2 && !anyNA(days)) list(column = name, span = days)
}

#' "abandoned in the second week", "in week 2": the days of that week, counted from the first day of the data
#' @noRd
counted_period <- function(out) {
  form <- sprintf("(?i)\\b(?:(?:in|during|of|for|from) )?(?:the )?(?:(%s|(?:[2-9]|10)(?:nd|rd|th)) (week|month|day)|(week|month|day) ([0-9]{1,2}))(?! of (?!the (?:study|data|trial|period))|[-\\p{L}0-9])",  # nolint: line_length_linter.
                  paste(place_words()[-1], collapse = "|"))
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- tolower(stats::na.omit(hit[c(3, 4)])[1])
  dates <- dates_counted(out, unit)
  if (is.null(dates)) return(out)
  n <- place_said(stats::na.omit(hit[c(2, 5)])[1])
  range <- if (isTRUE(n >= 1)) nth_period(dates$span, unit, n)
  if (is.null(range)) return(out)
  reworded(out, sub(hit[1], sprintf("from %s to %s", format(range[1]), format(range[2])), out$text, fixed = TRUE),
           sprintf("Took %s to mean %s to %s, counted from the first day in the data.", quoted(trimws(hit[1])), format(range[1]), format(range[2])))
}

#' "first week versus second week", "did sleep differ between week 1 and week 2": the rows of the two periods as groups
#' @noRd
two_counted_periods <- function(out) {
  asked <- out
  one <- sprintf("(%s|last|[0-9]{1,2}(?:st|nd|rd|th))", paste(place_words(), collapse = "|"))
  out$text <- gsub("(?i)\\b(week|month|day) ([0-9]{1,2}) (and|versus|vs\\.?|than|with|against|to|compared (?:with|to)) (?:in )?(?:\\1 )?([0-9]{1,2})\\b", "the \\2th \\1 \\3 the \\4th \\1",  # nolint: line_length_linter.
    out$text, perl = TRUE)
  form <- sprintf("(?i)\\b(?:(?:in|during|of|for|from|between) )?(?:the )?%s(?: (week|month|day))? (?:and|versus|vs\\.?|than|with|against|to|compared (?:with|to)) (?:in |that of |during )?(?:the )?%s (week|month|day)s?\\b",  # nolint: line_length_linter.
                  one, one)
  hit <- match_groups(out$text, form)
  asks <- grepl("(?i)\\b(chang|differ|compar|versus|vs|than|against|higher|lower|more|less|fewer|longer|shorter|better|worse|improv|increas|decreas)",
                out$text, perl = TRUE)
  if (is.na(hit[1]) || !asks) return(asked)
  unit <- tolower(hit[5]); places <- c(place_said(hit[2]), place_said(hit[4]))
  if (anyNA(places) || places[1] == places[2]) return(asked)
  bare <- sub("(?i)^compare ?", "", text_without(out$text, hit[1]), perl = TRUE)
  bare <- trimws(sub("(?i)^(?:,|:|for the|for|of the|of|in the|in) ?(?=[\\p{L}])", "for ", bare, perl = TRUE))
  dates <- dates_counted(out, unit)
  numbered <- if (is.null(dates)) days_numbered(out$study, unit)
  if (is.null(dates) && is.null(numbered)) return(asked)
  ranges <- lapply(places, function(n) if (is.null(dates)) numbered_range(numbered, n) else nth_period(dates$span, unit, n))
  if (any(vapply(ranges, is.null, NA))) return(asked)
  names <- sprintf("%s %s", ifelse(is.finite(places), place_words()[pmin(places, 10)], "last"), unit)
  column <- if (is.null(dates)) numbered$column else dates$column
  name <- paste0(unit, "_of_study")
  with_derived(out, name, "two_ranges", column, paste("compare", bare, "by", name), lows = vapply(ranges, function(r) format(r[1]), ""),
               highs = vapply(ranges, function(r) format(r[2]), ""), labels = names)
}

#' "load in weeks 1 to 4 vs weeks 9 to 12", "ages 20-30 and 40-50": the rows of two ranges of a number as groups
#' @noRd
two_number_ranges <- function(out) {
  range <- "([0-9]+(?:[.][0-9]+)?) ?(?:-|\u2013|to) ?([0-9]+(?:[.][0-9]+)?)"
  form <- sprintf("(?i)\\b(?:(?:in|during|of|for|from|between|at) )?(?:the )?([\\p{L}_]{2,}) %1$s (?:and|versus|vs\\.?|than|with|against|or|compared (?:with|to)) (?:(?:in|during|those in|that of) )?(?:the )?(?:([\\p{L}_]{2,}) )?%1$s\\b", range)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !is.na(hit[5]) && stem_words(tolower(hit[5])) != stem_words(tolower(hit[2]))) return(out)
  noun <- stem_words(tolower(hit[2]))
  own <- Filter(function(col) noun %in% name_stems(col$name) || noun %in% stem_words(col$unit %||% ""), numeric_columns(out$study))
  named <- Filter(function(col) noun %in% name_stems(col$name), own)
  if (length(named)) own <- named
  ends <- as.numeric(hit[c(3, 4, 6, 7)])
  if (length(own) != 1 || ends[1] > ends[2] || ends[3] > ends[4] || ends[2] >= ends[3] && ends[4] >= ends[1]) return(out)
  name <- paste0(own[[1]]$name, "_ranges")
  counted <- grepl("(?i)^ *(?:what (?:is|was) |how |show |give )?(?:the )?(?:mean|average|median|total|how many|many|number|count|sum|share|percent\\w*|proportion)\\b", out$text, perl = TRUE)  # nolint: line_length_linter.
  bare <- sub("(?i)^ *compare ", "", out$text, perl = TRUE)
  text <- sub(hit[1], paste("by", name), bare, fixed = TRUE)
  if (!counted && !grepl("(?i)^ *(do|does|did|is|are|was|were|test|which|what|how)\\b", text, perl = TRUE)) text <- paste("compare", text)
  with_derived(out, name, "two_ranges", own[[1]]$name, text, lows = format_plain(ends[c(1, 3)]), highs = format_plain(ends[c(2, 4)]),
               labels = sprintf("%s %s to %s", tolower(hit[2]), hit[c(3, 6)], hit[c(4, 7)]))
}

#' The column of days numbered from 1, where weeks are spoken of and nothing else tells them
#' @section Shape: list(column, last), or NULL.
#' @noRd
days_numbered <- function(study, unit) {
  if (unit != "week") return(NULL)
  own <- Filter(function(col) grepl("^(study_?|trial_?|diary_?)?days?([_. ]?(no|nr|num|number|of_study|in_study|index))?$", tolower(col$name)),
      numeric_columns(study))
  if (length(own) != 1 || length(date_columns(study))) return(NULL)
  values <- understood(study, own[[1]]$name, own[[1]]$table)
  values <- values[!is.na(values)]
  # (a day of the month is no day of the study)
  if (length(values) && min(values) %in% 0:1 && max(values) >= 8 && all(values == round(values))) list(column = own[[1]]$name, first = min(values),
      last = max(values))
}

#' The days of the n-th week of numbered days
#' @noRd
numbered_range <- function(days, n) {
  weeks <- ceiling((days$last - days$first + 1) / 7)
  n <- if (is.finite(n)) n else weeks
  from <- days$first + 7 * (n - 1)
  if (n >= 1 && n <= weeks) c(from, min(from + 6, days$last))
}

#' "sleep in the second week", of a column of days: those days
#' @noRd
week_of_days <- function(out) {
  form <- "(?i)\\b(?:in|during|of|for|over) (?:the )?(first|1st|last|second|2nd|third|3rd|fourth|4th|fifth|5th) week\\b"
  hit <- match_groups(out$text, form)
  days <- if (!is.na(hit[1])) days_numbered(out$study, "week")
  range <- if (!is.null(days)) numbered_range(days, place_said(hit[2]))
  if (is.null(range)) return(out)
  reworded(out, sub(hit[1], sprintf("with %s between %s and %s", days$column, range[1], range[2]), out$text, fixed = TRUE),
           sprintf("Took %s to mean %s %s to %s.", quoted(trimws(hit[1])), days$column, range[1], range[2]))
}

#' "handling time", beside a yes/no column handled and handle_seconds: the one that is counted in time
#' @noRd
named_time <- function(out) {
  hits <- stringi::stri_match_all_regex(out$text, quick_form("(?i)\\b([\\p{L}]{3,}) (times?|durations?)\\b(?! of| series| to| point)"))[[1]]
  columns <- all_columns(out$study)
  for (i in seq_len(nrow(hits))) {
    if (is.na(hits[i, 1])) next
    stem <- stem_words(tolower(hits[i, 2]))
    called <- Filter(function(col) stem %in% name_stems(col$name), columns)
    timed <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$unit %in% units_like("seconds")), called)
    # (where one column alone is called so there is nothing to tell apart)
    if (length(called) < 2 || length(timed) != 1 || any(vapply(called, function(col) all(stem_words(tolower(hits[i, 2:3])) %in% name_stems(col$name)), NA))) next  # nolint: line_length_linter.
    out <- reworded(out, sub(hits[i, 1], timed[[1]]$name, out$text, fixed = TRUE), sprintf("Took %s to mean the column %s.", quoted(hits[i, 1]),
                                                                                          quoted(timed[[1]]$name)))
  }
  out
}
