# Turns of phrase about shares, courses over a stretch of time, counts by period, and parts of the day.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_phrases <- function() {
  list(turn("\\b(each|every) ", of_each_one), turn("\\b(stayers?|leavers?|stayed)\\b", leavers_and_stayers),
      turn("\\bover (the|this|these)\\b|\\bthroughout\\b|\\bduring the (study|season|trial)",
      over_the_period),
       turn("^ *(what |the )?(share|proportion|percentage|percent|fraction) ", share_level_among),
       turn("per (day|week|month|year)", count_per_period), turn("likely (than .+ )?to\\b", likely_to_reach), turn("likely to\\b|\\boften\\b",
           likely_to_be),
       turn("^ *(do|does|did|are|is|were|was) .*\\b(taking|adjust|control|allow|account|holding|correct|once|given|even)", adjusted_subject),
           turn("\\b(night|morning|afternoon|evening)s?\\b", part_of_day),
           turn("[0-9] ?(am|pm|a\\.m|p\\.m|o'?clock)|[0-9]:[0-9]{2}|\\b(noon|midday)\\b|[0-9] (in the (morning|afternoon|evening)|at night)\\b", by_the_clock),  # nolint: line_length_linter.
       turn("\\b(per|by|each|every) hour\\b", counted_by_hour),
       turn("(share|proportion|percentage|percent|fraction) of", share_of_named), turn(" to [0-9.]+ ?(%|per ?cent)", percent_range),
       turn("^ *compare ", compare_on), turn("\\bper\\b", per_row_noun),
       turn("^ *(do|does|did) .*\\b(more|less|differently|stronger|weaker)\\b.*\\b(in|for|among|on|at) ", effect_within_level),
       turn("^ *(is|was|are|were) (the )?(difference|gap|effect|contrast)", difference_depends),
       turn("\\beffects? on\\b", effect_turned),
       turn("\\b(best|highest|top|largest)\\b.*\\b(worst|lowest|bottom|smallest)\\b", both_ends_of_groups),
       turn("\\b(gap|difference)\\b.*\\bbetween\\b", gap_within_groups),
       turn("get|receiv|being|having", event_of_level), turn("(?:number|how many).*\\bafter\\b", counts_before_after),
       turn("how many [\\p{L}]+ (per|in each|by) ", people_per_group), turn("unusual|abnormal|exceptional|strange", unusually_many),
       turn("share|proportion|percent|fraction", share_over_periods), turn("\\bpeak ", peak_of_measure),
       turn("^ *(is|was|are|were) the (effect|influence|impact|relation\\w*|association|correlation|slope)\\b", effect_at_amount))
}

#' "is the effect of temperature on ozone stronger when it is windy": whether it depends on the column of that amount
#' @noRd
effect_at_amount <- function(out) {
  hit <- match_groups(out$text, paste0(
    "(?i)^ *(?:is|was|are|were) the (?:effect|influence|impact|relation(?:ship)?|association|correlation|slope) (?:of|between) (?:the )?(.+?) (?:on|and|with) (?:the )?(.+?) ",  # nolint: line_length_linter.
    "(?:stronger|weaker|larger|smaller|greater|bigger|steeper|flatter|different|higher|lower) (?:when|where|if|at|with|on|for|under) (?:it is |there is |the )?(.+?)[?.! ]*$"))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  vocabulary <- study_vocabulary(out$study)
  cause <- column_said(vocabulary, hit[2]); outcome <- column_said(vocabulary, hit[3])
  at <- unique(columns_mentioned(hit[4], vocabulary))
  if (is.null(cause) || is.null(outcome) || length(at) != 1) return(out)
  by <- vocabulary$columns$name[at]
  if (by %in% c(cause$name, outcome$name) || !vocabulary$columns$kind[at] %in% c("number", "count")) return(out)
  reworded(out, sprintf("does the effect of %s on %s depend on %s", cause$name, outcome$name, by))
}

#' "peak concentration of each subject": the largest value, where no column is itself a peak
#' @noRd
peak_of_measure <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bpeak ((?!hours?\\b|days?\\b|times?\\b|seasons?\\b|months?\\b|weeks?\\b|years?\\b)[\\p{L}_]+)")
  columns <- all_columns(out$study)
  if (is.na(hit[1]) || any(grepl("peak", tolower(vapply(columns, `[[`, "", "name"))))) return(out)
  own <- measure_or_kin(out$study, numeric_columns(out$study), hit[2])
  if (is.null(own)) out else reworded(out, sub(hit[1], paste("maximum", hit[2]), out$text, fixed = TRUE))
}

#' "how variable is each player's load", "plot every hive's weight over time": told by it
#' @noRd
of_each_one <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:each|every) ([\\p{L}_]+)(?:['\u2019]s|s['\u2019]) (?!own\\b|usual\\b)")
  if (is.na(hit[1])) return(out)
  own <- column_of_words(Filter(function(col) is_level_kind(col$kind) || col$kind == "id", all_columns(out$study)), hit[2])
  if (is.null(own)) return(out)
  reworded(out, sprintf("%s by %s", without_mark(sub(hit[1], "", out$text, fixed = TRUE)), own$name))
}

#' "did waits get longer over the two months": over time
#' @noRd
over_the_period <- function(out) {
  if (!length(date_columns(out$study))) return(out)
  span <- "(?i)\\b(?:over|throughout|during|in the course of) (?:the |this |these )?(?:whole |entire |last |past )?(?:(?:[0-9]+|one|two|three|four|five|six|seven|eight|nine|ten|twelve) )?(?:days|weeks|months|years|season|study(?: period)?|trial|period|year|observation period)\\b(?! (?:of|in) [0-9])"  # nolint: line_length_linter.
  asks <- "(?i)^ *(?:did|do|does|has|have|is|are|was|were|how)\\b.*\\b(?:get|got|gotten|become|became|declin|ris|rose|f[ae]ll|drop|chang|improv|wors|increas|decreas|grow|grew|develop|go(?:ne)? (?:up|down)|went (?:up|down)|trend)"  # nolint: line_length_linter.
  counted <- grepl("(?i)\\b(?:last|past) (?:[0-9]+|two|three|four|five|six|seven|eight|nine|ten|twelve)\\b", out$text, perl = TRUE)
  if (counted || !grepl(span, out$text, perl = TRUE) || !grepl(asks, out$text, perl = TRUE)) return(out)
  if (length(sets_said(out$text, study_sets(out$study, "repeated_measures")))) return(out)
  if (grepl("(?i)^ *(?:do|does) (?:[\\p{L}]+er|more|less|higher|lower) ", out$text, perl = TRUE)) return(out)
  comparative <- "(?i)\\b(?:get|gets|got|gotten|become|became|becoming|getting) (?:any )?(?:longer|shorter|higher|lower|worse|better|more|less|larger|smaller|faster|slower|bigger|heavier|lighter)\\b"  # nolint: line_length_linter.
  reworded(out, sub(comparative, "change", sub(span, "over time", out$text, perl = TRUE), perl = TRUE))
}

#' "share admitted among those over 75": what share of them were admitted
#' @noRd
share_level_among <- function(out) {
  form <- "(?i)^ *(?:what |the )?(share|proportion|percentage|percent|fraction) (?!of\\b|who\\b|that\\b|with\\b|by\\b|in\\b|is\\b|was\\b|are\\b|were\\b|had\\b|have\\b|has\\b|missing\\b)([\\p{L}_ -]+?) (among|amongst|of|in|within) (.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  if (is.null(whole_level(out$study, hit[3]))) return(out)
  reworded(out, sprintf("what %s of %s were %s", hit[2], hit[5], hit[3]))
}

#' "arrivals per day", "admissions per week": rows counted by period, those of a level where the noun names one
#' @noRd
count_per_period <- function(out) {
  form <- "(?i)^ *(?:(?:what (?:is|was) )?(?:the )?(?:number of |count of )?|how many |show (?:me )?(?:the )?|plot (?:the )?)((?:[\\p{L}_]+ ){1,2}?)(?:were there |are there |did we have |do we have )?per (day|week|month|year)( on average)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || has_column(out$study, hit[3])) return(out)
  date <- rows_date(out)
  if (length(date) != 1) return(out)
  stem <- stem_words(tolower(trimws(hit[2])))
  numeric <- numeric_columns(out$study)
  if (!is.null(column_in_text(numeric, hit[2], named_phrases(out$study)))) return(out)
  if (any(alike_stems(last_of(stem), name_stems(date)))) {
    # (of several dates the one that is meant stays named)
    of <- if (length(date_columns(out$study)) > 1) paste(" of", date) else ""
    return(reworded(out, sprintf("rows per %s%s", hit[3], of), sprintf("Each row is one of the %s.", trimws(tolower(hit[2])))))
  }
  # ("admissions", of a level admitted)
  vocabulary <- study_vocabulary(out$study)
  state <- parse_question(trimws(hit[2]), vocabulary)
  groups <- Filter(function(g) !isTRUE(g$numeric) && !g$negated && length(g$levels) == 1, state$groups)
  if (length(groups) != 1 || any(state$type == "unknown")) return(out)
  reworded(out, sprintf("number of rows with %s = %s by %s", vocabulary$columns$name[groups[[1]]$column], groups[[1]]$levels, hit[3]))
}

#' "are men more likely to be admitted than women", of a level admitted: how often it is so
#' @noRd
likely_to_be <- function(out) {
  # ("do women get offers less often than men" says the same)
  said <- match_groups(out$text, "(?i)^ *(?:do|does|did) (.+?) (?:get|receive|have|make|reach) (?:an? |the |any )?([\\p{L}_-]+?)s? (more|less) often( than .+?)?[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(said[1])) {
    found <- whole_level(out$study, said[3])
    if (!is.null(found)) return(more_common(out, found, side = said[4], here = said[2], than = said[5]))
  }
  form <- "(?i)^ *(?:is|are|was|were) (.+?) (more|less) likely (?:than (.+?) )?to (?:be|get|have been|become|have) (?:an? |the )?([\\p{L}_-]+(?: [\\p{L}_-]+)?)( than .+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- whole_level(out$study, hit[5])
  if (is.null(found)) return(out)
  if (identical(column_in_text(all_columns(out$study), hit[5], kin_phrases(out$study, hit[5]))$col$kind, "yes_no")) return(out)
  than <- if (!is.na(hit[4])) paste0(" than ", hit[4]) else hit[6]
  more_common(out, found, side = hit[3], here = hit[2], than = than)
}

#' "are tutored pupils more likely to pass (than others)", of a column with the levels pass and fail: does it differ between them
#' @noRd
likely_to_reach <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is|are|was|were|do|does|did) (.+?) (?:more|less|equally|as) likely (?:than (.+?) )?to ([\\p{L}_-]+)( than .+?)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  vocabulary <- study_vocabulary(out$study)
  at <- unique(vocabulary$values$column[vocabulary$values$phrase == joined_stems(hit[4])])
  at <- at[vocabulary$columns$kind[at] %in% c("yes_no", "category") & vocabulary$columns$distinct[at] == 2]
  who <- people_side(vocabulary, hit[2])
  if (length(at) != 1 || is.null(who) || who$column == vocabulary$columns$name[at]) return(out)
  than <- if (!is.na(hit[3])) hit[3] else if (!is.na(hit[5])) sub("^ *than ", "", hit[5])
  if (!is.null(than) && !identical(people_side(vocabulary, than)$column, who$column)) than <- NULL
  name <- vocabulary$columns$name[at]
  reworded(out, if (is.null(than)) sprintf("does %s differ by %s", name, who$column) else sprintf("does %s differ between %s and %s", name, hit[2],
      than))
}

#' "do older patients stay longer, taking triage into account": what they do is the outcome, their age explains it
#' @noRd
adjusted_subject <- function(out) {
  form <- "(?i)^ *(?:do|does|did|are|is|were|was) (?:the )?(older|younger|heavier|lighter|taller|shorter|larger|bigger|smaller|longer|richer|poorer|stronger|weaker|faster|slower) [\\p{L}_]+ (.+?),? ((?:taking|adjust\\w*|controlling|allowing|accounting|holding|correcting|once|after (?:adjusting|allowing|controlling)|given|even (?:after|when)) .+)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  table <- english$adjectives
  nouns <- table$noun[table$word == tolower(hit[2])]
  numeric <- numeric_columns(out$study)
  subject <- Filter(function(col) any(stem_words(nouns) %in% name_stems(col$name)), numeric)
  outcome <- column_in_text(Filter(function(col) is_numeric_kind(col$kind) || col$kind %in% c("yes_no", "ordered"), all_columns(out$study)), hit[3],
                            kin_phrases(out$study, hit[3]))
  if (length(subject) != 1 || is.null(outcome) || outcome$name == subject[[1]]$name) return(out)
  reworded(out, sprintf("effect of %s on %s %s", subject[[1]]$name, outcome$name, hit[4]))
}

#' "average wait before 10am", "calls between 9:00 and noon": bounds on the time of day of the only column that holds times
#' @noRd
by_the_clock <- function(out) {
  times <- Filter(function(col) col$kind == "datetime", all_columns(out$study))
  if (length(times) != 1) return(out)
  # "between 6 and 9 in the morning"
  text <- gsub("(?i)\\b([0-9]{1,2}(?::[0-9]{2})?) in the morning\\b", "\\1 am", out$text, perl = TRUE)
  text <- gsub("(?i)\\b([0-9]{1,2}(?::[0-9]{2})?) (?:in the (?:afternoon|evening)|at night)\\b", "\\1 pm", text, perl = TRUE)
  at <- "(noon|midday|[0-9]{1,2}(?::[0-9]{2})? ?(?:am|pm|a\\.m\\.?|p\\.m\\.?|o'?clock)?)"
  hit <- match_groups(text, sprintf("(?i)\\b(?:between|from) %1$s (?:and|to|until|till) %1$s(?![0-9%%])", at))
  one <- match_groups(text, sprintf("(?i)\\b(before|after|by|until|from|since) %s(?![0-9%%])(?: on(?:wards?)?)?", at))
  said <- if (!is.na(hit[1])) hit[2:3] else if (!is.na(one[1])) one[3] else return(out)
  # ("from 4 to 8" alone may be anything)
  if (!any(grepl("m\\.?$|clock|:|noon|midday", tolower(said)))) return(out)
  hours <- clock_said(said)
  if (anyNA(hours)) return(out)
  name <- "clock_hours"
  bound <- if (!is.na(hit[1])) sprintf("where %s is at least %s and %s is below %s", name, format_plain(hours[1]), name, format_plain(hours[2])) else
    sprintf("where %s is %s %s", name, if (grepl("^(before|by|until)$", one[2], ignore.case = TRUE)) "below" else "at least", format_plain(hours))
  whole <- if (!is.na(hit[1])) hit[1] else one[1]
  with_derived(out, name, "clock", times[[1]]$name, sub(whole, bound, text, fixed = TRUE), unit = "h")
}

#' Hours since midnight of times as they are said: "10am", "9:30", "noon", "5 p.m."; of two without am or pm the later follows the earlier
#' @noRd
clock_said <- function(said) {
  said <- tolower(gsub("[ .]", "", sub("noon|midday", "12pm", tolower(said))))
  part <- stringi::stri_match_first_regex(said, "^([0-9]{1,2})(?::([0-9]{2}))?(am|pm)?")
  half <- part[, 4]
  # "between 9 and 11am"
  if (length(said) == 2 && is.na(half[1]) && !is.na(half[2]) && !grepl(":", said[1])) half[1] <- half[2]
  hour <- as.numeric(part[, 2]) + as.numeric(ifelse(is.na(part[, 3]), 0, part[, 3])) / 60
  hour <- ifelse(half %in% "pm" & hour < 12, hour + 12, ifelse(half %in% "am" & hour >= 12, hour - 12, hour))
  if (length(hour) == 2 && !anyNA(hour) && hour[1] > hour[2] && hour[1] >= 12 && is.na(part[1, 4])) hour[1] <- hour[1] - 12
  ifelse(hour > 24, NA, hour)
}

#' "how many calls per hour of the day", "number of calls by hour": rows at each hour of the only column that holds times
#' @noRd
counted_by_hour <- function(out) {
  form <- "(?i)^ *(?:how many|(?:the )?number of|count of|show|plot)(?: the)? ([\\p{L}_]+)(?: (?:are|were|do|did) (?:there|we get|we have|come in|arrive))? (?:per|by|for each|for every|in each|each|every) hour(?: of (?:the )?day)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  times <- Filter(function(col) col$kind == "datetime", all_columns(out$study))
  if (is.na(hit[1]) || length(times) != 1 || !names_rows(study_vocabulary(out$study), tolower(hit[2]))) return(out)
  reworded(out, sprintf("%s by hour of the day", hit[2]))
}

#' "sick days of leavers vs stayers", of a yes/no column that says who left: both its sides
#' @noRd
leavers_and_stayers <- function(out) {
  # ("of those who left vs stayed")
  said <- "(?i)\\b(?:(?:of |for |among |between )?(?:those|people|employees|staff|customers|members|ones) (?:who |that )(?:have |had )?)(left|stayed) (and|or|versus|vs\\.?|than|against|compared (?:with|to)) (?:(?:those|people|the ones) (?:who |that )(?:have |had )?)?(left|stayed)\\b"  # nolint: line_length_linter.
  two <- match_groups(out$text, said)
  if (!is.na(two[1]) && tolower(two[2]) != tolower(two[4])) {
    noun <- c(left = "leavers", stayed = "stayers")
    out$text <- sub(two[1], sprintf("of %s %s %s", noun[[tolower(two[2])]], two[3], noun[[tolower(two[4])]]), out$text, fixed = TRUE)
  }
  and <- "(and|or|versus|vs\\.?|than|against|compared (?:with|to)) (?:the )?"
  hit <- match_groups(out$text, sprintf("(?i)\\b(?:leavers? %1$sstayers?|stayers? %1$sleavers?)\\b", and))
  gone <- Filter(says_who_left, all_columns(out$study))
  if (is.na(hit[1]) || length(gone) != 1) return(out)
  reworded(out, sub(hit[1], sprintf("%1$s %2$s non-%1$s", gone[[1]]$name, stats::na.omit(hit[2:3])[1]), out$text, fixed = TRUE),
           sprintf("Took leavers as those for whom %s is %s.", gone[[1]]$name, quoted(last_of(gone[[1]]$levels))))
}

#' "is the wait longer at night": the part of the day of the only column that holds times
#' @noRd
part_of_day <- function(out) {
  times <- Filter(function(col) col$kind == "datetime", all_columns(out$study))
  if (length(times) != 1 || any(grepl("night|shift|morning|day_?part|time_of_day", tolower(vapply(all_columns(out$study), `[[`, "", "name"))))) return(out)  # nolint: line_length_linter.
  held <- unlist(lapply(all_columns(out$study), function(col) if (is_level_kind(col$kind)) tolower(col$levels)))
  # ("6 in the morning" is an hour)
  form <- "(?i)(?<!\\b[0-9] )(?<!\\b[0-9]{2} )\\b(?:at|in|during|on) (?:the )?(night|morning|afternoon|evening)s?\\b|\\bby (?:the )?(?:part of the day|time of (?:the )?day)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !is.na(hit[2]) && any(grepl(tolower(hit[2]), held, fixed = TRUE))) return(out)
  name <- "day_part"
  told <- sprintf("Night is 22:00 to 6:00, morning to 12:00, afternoon to 18:00, evening to 22:00, by %s.", times[[1]]$name)
  # ("no2 at night vs day": all other hours)
  day <- "(?i) ?\\b(?:vs\\.?|versus|and|against|than|compared (?:to|with)) (?:during |by |in |at )?(?:the )?day(?:time|s)?\\b"
  beside <- !is.na(hit[2]) && grepl(day, out$text, perl = TRUE)
  if (beside) out$text <- sub(day, "", out$text, perl = TRUE)
  compares <- beside || !is.na(hit[2]) && grepl(sprintf("\\b(?:%s)\\b", comparing_words()), out$text, ignore.case = TRUE, perl = TRUE)
  out <- with_derived(out, name, "day_part", times[[1]]$name)
  text <- sub(form, if (is.na(hit[2])) "by day_part" else paste("where day_part is", tolower(hit[2])), out$text, perl = TRUE)
  if (compares) {
    side <- level_against_rest(out, name, tolower(hit[2]))
    if (is.null(side)) return(out)
    out <- side$out
    text <- asked_as_difference(sub(form, paste("by", side$name), out$text, perl = TRUE))
    if (beside) text <- paste("compare", sub("(?i)^ *compare ", "", text, perl = TRUE))
  }
  reworded(out, text, told)
}

#' "what share of new visitors converted", of yes/no columns new_visitor and converted: the second among the rows of the first
#' @noRd
share_of_named <- function(out) {
  form <- "(?i)^ *(?:what |the |which )?(share|proportion|percentage|percent|fraction) of (?:the |all |our )?((?:[\\p{L}_]+ ){1,4})(?:who |that |which )?((?:have |had |has |were |was |are |is |did )?(?:not )?(?:an? |the )?)([\\p{L}_]+)(?: (in|by|per|among) (.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  # (a condition behind the first, "on phones", is one on the rows as well)
  place <- match_groups(hit[3], "(?i)^(.+?) ((?:on|in|from|at|via) \\p{L}+) *$")
  if (!is.na(place[1]) && !is.null(level_in_text(out$study, place[3]))) hit[3] <- paste0(place[2], " ") else place[3] <- NA
  # (the words between the two are part of neither)
  between <- stringi::stri_extract_first_regex(hit[3], "(?i)(?: (?:who|that|which))?(?: (?:have|had|has|were|was|are|is|did))?(?: not)?(?: (?:an?|the))? *$")  # nolint: line_length_linter.
  hit[4] <- paste(between, hit[4])
  hit[3] <- substr(hit[3], 1, nchar(hit[3]) - nchar(between))
  flags <- Filter(function(col) col$kind == "yes_no" && length(col$levels) == 2, all_columns(out$study))
  whom <- column_in_text(flags, trimws(hit[3]), named_phrases(out$study))
  what <- column_in_text(flags, hit[5], kin_phrases(out$study, hit[5]))
  # the whole of both parts has to be told by the two columns
  if (is.null(whom) || is.null(what) || whom$name == what$name || tolower(what$said) != tolower(hit[5]) ||
      nchar(whom$said) < nchar(trimws(hit[3])) - 1 || length(strsplit(whom$said, " ")[[1]]) < 2) return(out)
  no <- grepl("\\bnot\\b", hit[4])
  level <- if (no) what$col$levels[1] else what$col$levels[2]
  reworded(out, sprintf("what share of rows with %s = %s have %s = %s%s", whom$name, whom$col$levels[2], what$name, level,
                        if (!is.na(place[3])) paste0(" ", place[3]) else if (is.na(hit[6])) "" else paste0(" ", hit[6], " ", hit[7])))
}

#' "an increase from 8 to 10 percent": both are percentages
#' @noRd
percent_range <- function(out) {
  form <- "(?i)\\b(from|between) ([0-9.]+) (to|and) ([0-9.]+) ?(?:%|per ?cent)"
  reworded(out, gsub(form, "\\1 \\2 % \\3 \\4 %", out$text, perl = TRUE))
}

#' "compare the three countries on conversion": conversion by country
#' @noRd
compare_on <- function(out) {
  form <- "(?i)^ *compare (?:the |all |both )?(?:[0-9]+ |two |three |four |five |six )?([\\p{L}_]+) (?:on|in terms of|with respect to|regarding|as to|for) (?:their |the )?([\\p{L}_ ]+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  columns <- all_columns(out$study)
  groups <- Filter(function(col) is_level_kind(col$kind) && length(col$levels) >= 2, columns)
  by <- column_in_text(groups, hit[2], named_phrases(out$study, groups))
  what <- column_in_text(columns, hit[3], kin_phrases(out$study, hit[3]))
  if (is.null(by) || is.null(what) || by$name == what$name || tolower(by$said) != tolower(hit[2])) return(out)
  reworded(out, sprintf("does %s differ by %s", hit[3], by$name))
}

#' "revenue per visitor", of a yes/no column new_visitor: the noun stands for the rows
#' @noRd
per_row_noun <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(average |mean |median )?((?:[\\p{L}_]+ ){1,3}?)per (visitor|user|customer|patient|person|respondent|participant|member|subject|client|pupil|student)\\b")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  columns <- all_columns(out$study)
  stem <- stem_words(tolower(hit[4]))
  flags <- Filter(function(col) col$kind == "yes_no" && stem %in% name_stems(col$name), columns)
  others <- Filter(function(col) col$kind != "yes_no" && stem %in% name_stems(col$name), columns)
  numeric <- Filter(function(col) is_numeric_kind(col$kind), columns)
  what <- column_in_text(numeric, hit[3], named_phrases(out$study, numeric))
  if (!length(flags) || length(others) || is.null(what)) return(out)
  missing <- anyNA(understood(out$study, what$name, what$col$table))
  reworded(out, sub(hit[1], paste("average", what$name), out$text, fixed = TRUE),
           c(sprintf("Each row is one %s, so the mean is over rows.", tolower(hit[4])),
             if (missing) sprintf("Rows without %s are left out of it; they do not count as 0.", what$name)))
}

#' "does temperature affect kwh more in poorly insulated homes": whether the effect depends on the column of that level
#' @noRd
effect_within_level <- function(out) {
  form <- "(?i)^ *(?:do|does|did) (?:the |an? )?(.+?) (?:affect|influence|matter for|raise|reduce|lower|increase|decrease|change|drive|shift|impact|help|improve)s? (?:the |their )?(.+?) (?:more|less|differently|more strongly|less strongly) (?:in|for|among|on|at|with) (?:the )?(.+?)(?: than .+)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  phrases <- named_phrases(out$study)
  columns <- all_columns(out$study)
  cause <- column_in_text(columns, hit[2], phrases)
  outcome <- column_in_text(Filter(function(col) is_numeric_kind(col$kind) || col$kind %in% c("yes_no", "ordered"), columns), hit[3], phrases)
  state <- parse_question(hit[4], study_vocabulary(out$study))
  groups <- Filter(function(g) !isTRUE(g$numeric), state$groups)
  if (is.null(cause) || is.null(outcome) || length(groups) != 1 || cause$name == outcome$name) return(out)
  by <- study_vocabulary(out$study)$columns$name[groups[[1]]$column]
  if (by %in% c(cause$name, outcome$name)) return(out)
  reworded(out, sprintf("does the effect of %s on %s depend on %s", cause$name, outcome$name, by))
}

#' "is the difference between Quebec and Mississippi larger for chilled plants", "was the effect of sex the same in all classes":
#' whether what one column makes depends on another
#' @noRd
difference_depends <- function(out) {
  lead <- "(?i)^ *(?:is|was|are|were) (?:the )?"
  measure <- "(?: (?:in|on|for) (?:the )?(?:average |mean )?(.+?))?"
  more <- "(?:larger|bigger|greater|smaller|wider|stronger|weaker|different|more pronounced|less pronounced) (?:in|for|among|on|at|with|between|across)"  # nolint: line_length_linter.
  same <- "(?:the same|equal|similar|constant|consistent) (?:in|for|among|on|at|with|across|over|between)"
  forms <- c(sprintf("%s(?:difference|gap|contrast)s?%s between (.+?)%s (?:%s|%s) (?:the |all |both |each )*(.+?)(?: than .+)?[?.! ]*$", lead,
                     measure, measure, more, same),
             sprintf("%seffects? of (?:the )?()(.+?)%s (?:%s|%s) (?:the |all |both |each |every )*(.+?)(?: than .+)?[?.! ]*$", lead, measure, more,
                 same))
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    cause <- divider_said(out$study, hit[3]); by <- divider_said(out$study, hit[5])
    if (is.null(cause) || is.null(by) || cause == by) next
    said <- stats::na.omit(hit[c(2, 4)])
    said <- said[nzchar(said)]
    outcome <- if (length(said)) column_in_text(all_columns(out$study), said[1], named_phrases(out$study))$name
    if (length(said) && is.null(outcome)) next
    outcome <- outcome %||% only_outcome(out$study, c(cause, by))
    # (where nothing says what is measured it is asked about)
    return(reworded(out, if (is.null(outcome)) sprintf("in a regression model, does the effect of %s depend on %s", cause, by) else
      sprintf("does the effect of %s on %s depend on %s", cause, outcome, by)))
  }
  out
}

#' The one column that words name as groups, by its name or by its levels
#' @noRd
divider_said <- function(study, text) {
  vocabulary <- study_vocabulary(study)
  state <- parse_question(text, vocabulary)
  if (any(state$type == "unknown")) return(NULL)
  of_levels <- c(vapply(Filter(function(g) !isTRUE(g$numeric), state$groups), `[[`, 1L, "column"), match(vapply(state$filters, `[[`, "", "column"),
    vocabulary$columns$name))
  named <- vapply(find_mentions(state), `[[`, 1L, "column")
  own <- unique(c(of_levels, named))
  if (length(own) == 1) vocabulary$columns$name[own]
}

#' The yes/no column that is left as an outcome where nothing is measured
#' @noRd
only_outcome <- function(study, used) {
  columns <- Filter(function(col) !col$name %in% used && col$kind != "id", all_columns(study))
  if (any(vapply(columns, function(col) is_numeric_kind(col$kind), NA))) return(NULL)
  own <- Filter(function(col) col$kind == "yes_no", columns)
  if (length(own) == 1) own[[1]]$name
}

#' "does experience predict getting an offer", of a stage with the level offer: whether it is that level
#' @noRd
event_of_level <- function(out) {
  form <- "(?i)\\b(?:getting|receiving|being|having|reaching|becoming) (?:an? |the )?([\\p{L}_-]+(?: [\\p{L}_-]+)?)(?=[?.!, ]*$|,? (?:when|once|after|adjusting|controlling|by|for|in|among|with)\\b)"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  asks <- "(?i)\\b(?:predict|affect|influence|determine|drive|explain|increase|decrease|raise|reduce|lower|depend|chance|odds|probability|likelihood|go with|goes with|related to|associated with)"  # nolint: line_length_linter.
  if (is.na(hit[1]) || !grepl(asks, out$text, perl = TRUE)) return(out)
  found <- whole_level(out$study, hit[2])
  if (is.null(found) || find_column(out$study, found$column)$kind == "yes_no") return(out)
  made <- level_column(out, found)
  if (is.null(made)) return(out)
  reworded(made$out, sub(hit[1], made$name, out$text, fixed = TRUE))
}

#' "did the number of applications fall after april": their number by month, before and after
#' @noRd
counts_before_after <- function(out) {
  form <- "(?i)^ *(?:did|has|have) (?:the )?number of ([\\p{L}_ ]+?) (?:fall|fallen|rise|risen|drop|dropped|increased?|decreased?|changed?|gone? (?:up|down)|declined?|grow|grown) (?:after|since|from) (.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  dates <- date_columns(out$study)
  noun <- stem_words(tolower(last_of(strsplit(trimws(hit[2]), " ")[[1]])))
  own <- dates[vapply(dates, function(name) any(kin_stem(noun, name_stems(name))), NA)]
  if (is.na(hit[1]) || length(dates) != 1 && length(own) != 1) return(out)
  if (!is.null(column_in_text(numeric_columns(out$study), hit[2], named_phrases(out$study)))) return(out)
  reworded(out, sprintf("%s per month", if (length(own) == 1) hit[2] else "rows"), sprintf("Each row is one of the %s; the months before and after %s stand beside each other.", tolower(hit[2]), hit[3]))  # nolint: line_length_linter.
}

#' "how many participants per condition", of data: rows in each group, no sample size
#' @noRd
people_per_group <- function(out) {
  form <- sprintf("(?i)^ *how many %s (?:per|in each|by|for each) (?:the )?([\\p{L}_]+(?: [\\p{L}_]+)?)(?: (?:were there|are there|did we have|do we have))?[?.! ]*$", people_words())  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)), hit[2], named_phrases(out$study))
  # (units with several rows are counted once, and a column of numbers may be called so)
  noun <- stem_words(tolower(strsplit(trimws(hit[1]), " +")[[1]][3]))
  held <- any(vapply(all_columns(out$study), function(col) noun %in% name_stems(col$name) ||
    col$kind == "id" && !isTRUE(col$distinct == nrow(out$study$tables[[col$table]]$data)), NA))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[2])) || held) return(out)
  reworded(out, sprintf("count of rows by %s", found$name))
}

#' "does the breed effect on milk depend on lactation": the effect of breed
#' @noRd
effect_turned <- function(out) {
  form <- "(?i)^( *(?:do|does|did|is) )the ([\\p{L}_]+(?: [\\p{L}_]+)?) effects? on (.+)$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(all_columns(out$study), hit[3], named_phrases(out$study))
  if (is.null(found) || tolower(found$said) != tolower(hit[3])) return(out)
  reworded(out, sprintf("%sthe effect of %s on %s", hit[2], found$name, hit[4]))
}

#' Columns that can divide the rows: those of levels, and ids that come back
#' @noRd
dividing_units <- function(study) Filter(function(col) is_level_kind(col$kind) || col$kind == "id" && comes_back(study, col), all_columns(study))

#' "which school has the biggest gap between tutored and untutored candidates": both sides in every school
#' @noRd
gap_within_groups <- function(out) {
  form <- "(?i)^ *(?:which|what) ([\\p{L}_]+) (?:has|have|had|shows?|showed) the (?:biggest|largest|greatest|widest|smallest|least|narrowest) (?:gap|difference)(?: in (.+?))? between (.+?) and (.+?)(?: in (.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  group <- column_in_text(dividing_units(out$study), hit[2], named_phrases(out$study))
  side <- level_in_text(out$study, hit[4])
  state <- if (is.null(side)) parse_question(hit[4], study_vocabulary(out$study))
  said <- if (!is.null(side)) side$column else study_vocabulary(out$study)$columns$name[unique(c(unlist(lapply(state$groups, `[[`, "column")), unlist(lapply(find_mentions(state), `[[`, "column"))))]  # nolint: line_length_linter.
  if (is.null(group) || length(said) != 1 || said == group$name) return(out)
  measure <- c(hit[3], hit[6])[!is.na(c(hit[3], hit[6]))][1]
  reworded(out, trimws(sprintf("mean%s by %s and %s", if (is.na(measure)) "" else paste(" of", measure), group$name, said)),
           sprintf("Both sides of %s are shown in every %s; where they lie farthest apart is read off the table.", said, group$name))
}

#' "yield in the best and the worst apiary": every group, of which both ends are told
#' @noRd
both_ends_of_groups <- function(out) {
  form <- "(?i)^ *(?:what (?:is|was|are|were) |show (?:me )?)?(?:the )?(.+?) (?:in|of|at|for) (?:the )?(?:best|highest|top|largest|worst|lowest|bottom|smallest) and (?:the )?(?:best|highest|top|largest|worst|lowest|bottom|smallest) ([\\p{L}_]+)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  columns <- dividing_units(out$study)
  group <- column_in_text(columns, hit[3], named_phrases(out$study, columns))
  if (is.null(group)) return(out)
  average <- if (grepl("\\b(average|mean|median|total|sum)\\b", hit[2], ignore.case = TRUE)) "" else "average "
  reworded(out, sprintf("%s%s by %s", average, hit[2], group$name))
}

#' "which days had unusually many defects": values that lie far out
#' @noRd
unusually_many <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:which|what|are there|were there|show|list)(?: me)?(?: any| the)? [\\p{L}_ ]+? (?:had|have|has|with|show|showed|were|are|saw) (?:an? )?(?:unusual|abnormal|exceptional|strange)(?:ly)? (?:many|few|high|low|large|small|long|short|heavy)? ?(?:numbers? of |values? of |levels? of |amounts? of )?(?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  found <- if (!is.na(hit[1])) column_in_text(numeric_columns(out$study), hit[2], kin_phrases(out$study, hit[2]))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[2]))) return(out)
  reworded(out, sprintf("are there outliers in %s", found$name), "Took unusual to mean far outside the middle half of the values.")
}

#' "share of delivery orders by month", of one level of several: whether each row has it, over time
#' @noRd
share_over_periods <- function(out) {
  period <- "(?i)\\b(?:by|per|each|every|in each|for each|in every) (day|week|month|quarter|year)\\b|\\bover time\\b"
  hit <- match_groups(out$text, period)
  if (is.na(hit[1]) || !length(date_columns(out$study))) return(out)
  vocabulary <- study_vocabulary(out$study)
  state <- parse_question(sub(hit[1], " ", out$text, fixed = TRUE), vocabulary)
  groups <- Filter(names_one, state$groups)
  if (length(groups) != 1 || length(state$groups) != 1 || length(state$filters) || any(state$type == "unknown")) return(out)
  at <- groups[[1]]$column
  if (!vocabulary$columns$kind[at] %in% c("category", "ordered") || vocabulary$columns$distinct[at] < 3) return(out)
  # (beside a measure or other groups the level is a condition)
  others <- Filter(function(m) m$column != at && vocabulary$columns$kind[m$column] != "id", find_mentions(state))
  if (length(others)) return(out)
  derived <- level_column(out, list(column = vocabulary$columns$name[at], level = groups[[1]]$levels, said = groups[[1]]$levels))
  if (is.null(derived)) return(out)
  reworded(derived$out, sprintf("%s over time%s", derived$name, if (is.na(hit[2])) "" else paste(" by", hit[2])))
}
