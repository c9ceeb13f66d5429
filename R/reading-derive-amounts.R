# Turns of phrase about amounts: what is there at all, what is left after something else, what was lost, periods and logarithms.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_amounts <- function() {
  list(turn("\\b(own|owns|owned|possess\\w*|have|has|had) (both )?(an?|any)\\b.*\\band\\b", both_of_counts),
       turn("\\b(at least|more than|fewer than|at most|no more than|exactly) ([0-9]+|\\p{L}+) \\p{L}", bound_of_counts),
       turn("\\b(with|when|where|if|had|have|has|own|owns|owned|experienced|suffered|reported) (there (is|was) )?(an?|any)\\b", something_of), turn("\\b(was|were|been|get|got)\\b", were_at_all),  # nolint: line_length_linter.
       turn("\\bnet of\\b", net_of), turn("^ *how much\\b", amount_lost), turn("^ *how much\\b", amount_of_verb),
       turn("^ *how many\\b.*\\b(total|all|altogether|overall)\\b", unit_in_total), turn("\\bq[1-4]\\b", quarters_compared), turn("\\blog\\b|logarithm", log_normal_after),  # nolint: line_length_linter.
       turn("\\bno\\b|\\bwithout\\b", nothing_measured), turn("\\bnear\\b|\\bclose to\\b|\\bnearby\\b", near_place), turn("\\b(far|further|farther|furthest|farthest)\\b", far_away), turn("\\bper (minute|hour|second|day)\\b", per_time_spent),  # nolint: line_length_linter.
       turn("\\bpeople\\b|\\bpersons\\b", people_as_person), turn("\\b(nights|days|weeks|months|visits|sessions|hauls|trips|rounds|games|matches|trials)\\b", index_as_rows),  # nolint: line_length_linter.
       turn("\\bhow long\\b", since_date), turn("er than (about |around )?[0-9]", comparative_bound), turn("\\bhow many\\b.*\\bper\\b", how_many_per),
       turn("outlier", outliers_left_out), turn("\\bwith (and|or|vs\\.?|versus) without\\b", with_and_without),
       turn("\\b(bad|good|harmful|beneficial|detrimental|useful|healthy) (for|to)\\b", good_for), turn("\\bnumber of\\b", number_of_counts),
       turn("\\bratios?\\b", ratio_to), turn("\\blog(arithmic)?([- ]log)? scales?\\b|\\blog-log\\b", on_log_scales),
       turn("\\badjust", adjusted_comparison), turn("skipped|left blank|left empty|did not fill", skipped_item),
       turn("^ *how (satisfied|happy|content|pleased)\\b", satisfied_with), turn("^ *(are|is|were|was) (the )?(variances?|spreads?)", equal_variances),  # nolint: line_length_linter.
       turn("between and within|within and between", spread_within), turn("^ *is the (relation|relationship|association|link)", is_it_linear),
       turn("growth curves?", growth_curves), turn("\\b(fraction|share|proportion|percentage|percent) of\\b", part_that_was),
       turn("[0-9] ?(degrees?|\u00b0)", at_degrees), turn("\\b(getting|becoming|growing)\\b", getting_more), turn("by year|(each|every) year|over the years", month_of_years),  # nolint: line_length_linter.
       turn("follow[- ]?up", follow_up_time), turn("surviv|\\bdied\\b|\\bdead\\b|\\bdie\\b", alive_at_time),
       turn("\\b(longer|shorter|sooner|earlier)\\b", survive_longer), turn("how much do", how_much_vary),
       turn("\\b(highly|very|extremely) ", degree_of), turn("\\b(no|zero|without)\\b", rows_at_zero), turn("\\bper\\b", per_head),
       turn("\\bnon[- ]", with_and_non), turn("\\bgo(es)? (up|down)|(rise|fall|increase|decrease|grow)s? with", go_up_with),
       turn("weight(ed|s|ing)[?.! ]*$", weighted_behind), turn("\\bas an? (percentage|share|percent|proportion|fraction) of\\b", as_percentage),
       turn("[0-9]s\\b", people_of_age), turn("^ *(how many|number of|count of)", events_not_none))
}

#' "do members come from further away", "how far do they travel", of one column of distance: how large it is
#' @noRd
far_away <- function(out) {
  own <- Filter(function(col) grepl("(^|[_. ])(distance|dist)([_. ]|$)", tolower(col$name)) || (col$unit %||% "") %in% c("km", "mi"),
      numeric_columns(out$study))
  if (length(own) != 1) return(out)
  name <- own[[1]]$name
  verb <- "(?:come|came|comes|travel|travell?ed|travels|live|lived|lives|go|went|walk|walked|drive|drove|commute|commuted|are|were)"
  text <- sub(sprintf("(?i)\\b%s (?:from )?(?:further|farther)(?: away| off)?\\b", verb), sprintf("have a higher %s", name), out$text, perl = TRUE)
  text <- sub(sprintf("(?i)^ *how far (?:away )?(?:do|does|did|are|were|have|has) (.+?) %s(?: (?:from|away|on average|to get here))*[?.! ]*$", verb),
              sprintf("mean %s of \\1", name), text, perl = TRUE)
  text <- sub(sprintf("(?i)\\b%s (?:from )?(?:the )?(?:furthest|farthest)(?: away| off)?\\b", verb), sprintf("have the highest %s", name), text,
      perl = TRUE)
  reworded(out, text)
}

#' A measure of the one table that holds nothing below zero and some zeros: its rows above zero have some of it
#' @section Shape: As of [column_in_text()].
#' @noRd
some_of_measure <- function(study, text) {
  numeric <- Filter(function(col) is.null(col$role) && (col$kind == "count" || isTRUE(col$distinct > 2)), numeric_columns(study))
  found <- column_in_text(numeric, text, kin_phrases(study, text))
  if (is.null(found)) return(NULL)
  values <- understood(study, found$name, found$col$table)
  low <- suppressWarnings(min(values, na.rm = TRUE))
  if (is.finite(low) && low == 0) found
}

#' "share of orders with a discount", "average fine when there is a fine": above zero
#' @noRd
something_of <- function(out) {
  text <- had_as_with(out$text)
  form <- "(?i)\\b(?:with|when there (?:is|was)|where there (?:is|was)|if there (?:is|was)|that (?:had|have|has)|who (?:had|have|has)) (?:an?|any) ((?:[\\p{L}_]+ ?){1,3})"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(out)
  found <- some_of_measure(out$study, hit[2])
  if (is.null(found) || !startsWith(tolower(hit[2]), tolower(found$said))) return(out)
  said <- up_to_words(hit[1], hit[2], found$said)
  rest <- substring(text, regexpr(hit[1], text, fixed = TRUE) + nchar(said))
  # ("with a rating above 3" states its own bound, "with a mean of 3" a statistic)
  if (grepl("^ *(of|above|over|below|under|at|between|more|less|higher|lower|from|than|[0-9])", rest)) return(out)
  reworded(out, sub(said, sprintf("with %s above 0", found$name), text, fixed = TRUE),
           sprintf("Took %s to mean that %s is above 0.", quoted(trimws(said)), found$name))
}

#' "how many women had an adverse event": how many with one
#' @noRd
had_as_with <- function(text) {
  form <- "(?i)^( *(?:how many|(?:what )?(?:share|proportion|percentage|percent|fraction|number) of) [^?.!]{2,60}?) (?:have had|has had|had|have|own|owns|owned|experienced|suffered|reported) (?:an?|any)(?= [\\p{L}_])"  # nolint: line_length_linter.
  sub(form, "\\1 with any", text, perl = TRUE)
}

#' "what percentage of loans were renewed", of a count of renewals: those with at least one
#' @noRd
were_at_all <- function(out) {
  form <- paste0("(?i)^ *((?:what |which )?(?:is the )?(?:share|proportion|percentage|percent|fraction|%) of|how many(?: of)?) (?:the |our |all )?((?:[\\p{L}_]+ ){1,5}?)",  # nolint: line_length_linter.
                 "(?:were|was|got|have been|has been|had been) ([\\p{L}_]+(?:ed|en|t))\\b(?! (?:more|less|at|over|under|by|from|to|on time|late|early|exactly|[0-9]))")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  yes <- Filter(function(col) !is_numeric_kind(col$kind), all_columns(out$study))
  if (!is.null(column_in_text(yes, hit[4], kin_phrases(out$study, hit[4]))) || !is.null(level_in_text(out$study, hit[4]))) return(out)
  found <- some_of_measure(out$study, hit[4])
  if (is.null(found)) return(out)
  # "how many people were injured", of accidents with the number of those injured: their total
  counted <- found$col$kind == "count" && grepl("^ *how many", hit[2], ignore.case = TRUE) && grepl("^(people|persons|passengers|pedestrians|civilians|victims|individuals) *$", trimws(hit[3]), ignore.case = TRUE)  # nolint: line_length_linter.
  people <- any(vapply(keys_of(out$study, single = TRUE), function(k) grepl("person|people|patient|subject|participant|resp|employee|student|pupil|member|customer", tolower(k$name)), NA))  # nolint: line_length_linter.
  rest <- substring(out$text, regexpr(hit[1], out$text, fixed = TRUE) + nchar(hit[1]))
  if (counted && !people) {
    return(reworded(out, sprintf("total %s%s", found$name, rest), sprintf("Took the number of people as the total of %s.", found$name)))
  }
  reworded(out, sprintf("%s %swith %s above 0%s", hit[2], hit[3], found$name, rest), sprintf("Took %s to mean that %s is above 0.", quoted(hit[4]), found$name))  # nolint: line_length_linter.
}

#' "revenue net of shipping by channel", both in the same unit: the one less the other
#' @noRd
net_of <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}_]+) net of (?:the )?([\\p{L}_]+)")
  if (is.na(hit[1])) return(out)
  numeric <- numeric_columns(out$study)
  a <- column_in_text(numeric, hit[2], named_phrases(out$study))$col; b <- column_in_text(numeric, hit[3], named_phrases(out$study))$col
  if (is.null(a) || is.null(b) || a$name == b$name || is.null(a$unit) || !identical(a$unit, b$unit)) return(out)
  derive_of_two(out, hit[1], a$name, b$name, "difference", "minus")
}

#' "how much did we refund in March", of a column of money that is called after the verb: its total
#' @noRd
amount_of_verb <- function(out) {
  form <- "(?i)^ *how much(?: money| in total| altogether)? (?:did|do|does|have|has|had) (?:we|i|they|you|it|she|he|(?:the|our|my|their) [\\p{L}]+) (?:actually |really )?([\\p{L}]+)( (?:in|on|by|per|for|during|since|at|last|this|each|from|altogether|overall)\\b.*?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  stem <- stem_words(tolower(hit[2]))
  own <- Filter(function(col) stem %in% name_stems(col$name) && (is_money(col$unit) || adds_up(col$name)) && !adds_up_not(col$name),
                numeric_columns(out$study))
  if (length(own) != 1) return(out)
  reworded(out, paste0("total ", own[[1]]$name, sub("^ (altogether|overall)", "", or_if_na(hit[3], ""))),
           sprintf("Took %s to ask for the total.", quoted("how much")))
}

is_money <- function(unit) isTRUE(grepl(sprintf("^(?:%s|KRW)$", front_currency()), unit %||% "", perl = TRUE))

#' "how much revenue was lost to returns", "how much revenue is tied up in open orders": the total of those rows
#' @noRd
amount_lost <- function(out) {
  form <- "(?i)^ *how much ((?:[\\p{L}_]+ ){1,3}?)(?:was |were |is |are |has been |did we )?(?:lost to|lose to|lost through|lost because of|tied up in|due to|went to) (?:the )?([^?.!]+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  yes_no <- yes_no_columns(out$study)
  what <- column_in_text(numeric_columns(out$study), hit[2], named_phrases(out$study))
  found <- column_in_text(yes_no, hit[3], kin_phrases(out$study, hit[3]))
  if (is.null(what) || is.null(found) || tolower(found$said) != tolower(trimws(hit[3]))) return(out)
  reworded(out, sprintf("total %s where %s = %s", what$name, found$name, last_of(found$col$levels)))
}

#' "revenue in Q2 vs Q1": two quarters set against each other
#' @noRd
quarters_compared <- function(out) {
  said <- unique(toupper(stringi::stri_extract_all_regex(out$text, "(?i)\\bq[1-4]\\b")[[1]]))
  date <- rows_date(out)
  held <- any(vapply(all_columns(out$study), function(col) any(grepl("^Q[1-4]$", col$levels)) || grepl("^q[1-4]([^0-9]|$)", tolower(col$name)), NA))
  if (length(said) != 2 || anyNA(said) || held || length(date) != 1 || !sets_against(out$text)) return(out)
  years <- unique(strsplit(years_of(out$study, find_column(out$study, date)), "-", fixed = TRUE)[[1]])
  if (length(years) != 1 || grepl("\\b(19|20)[0-9]{2}\\b", out$text)) return(out)
  text <- gsub("(?i)\\b(?:in |of |for |during )?(?:the )?(q[1-4])\\b", "quarter \\1", out$text, perl = TRUE)
  with_derived(out, "quarter", "quarter", date, if (grepl("^ *(is|are|was|were|did|does|do|compare)\\b", text, ignore.case = TRUE)) text else paste("compare", text))  # nolint: line_length_linter.
}

#' "does a log transform make catch normal": whether the logarithm is
#' @noRd
log_normal_after <- function(out) {
  form <- "(?i)^ *(?:does|do|would|will|can) (?:a |the |taking )?(?:natural )?log(?:arithm)?s?(?:[- ]?transform(?:ation|ing)?)?(?: of)? (?:make|help make|turn|bring|render) (?:the )?(.+?) (?:into )?(?:more |roughly )?(?:normal|symmetric\\w*|bell[- ]shaped)\\w*[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("is log %s normally distributed", hit[2]))
}

#' "how many hauls have no temperature": of what is measured and never zero, the value is missing
#' @noRd
nothing_measured <- function(out) {
  form <- "(?i)^ *(how many|which|what share of|what proportion of|list|show)(?: the)? ([\\p{L}_]+)(?: (?:have|has|had|are|were))? (?:no|without(?: an?| any)?) (?:recorded |measured |valid )?((?:[\\p{L}_]+ ?){1,3}?)(?: (?:value|reading|measurement|record)s?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  columns <- Filter(function(col) col$kind %in% c("number", "date", "datetime") && isTRUE(col$missing > 0), all_columns(out$study))
  found <- column_in_text(columns, hit[4], named_phrases(out$study))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[4]))) return(out)
  col <- found$col
  if (col$kind == "number" && any(understood(out$study, col$name, col$table) %in% 0)) return(out)
  if (grepl("^(which|list|show)", hit[2], ignore.case = TRUE)) return(reworded(out, sprintf("show rows with missing %s", col$name)))
  name <- paste0(col$name, "_missing")
  with_derived(out, name, "missing", col$name, sprintf("%s %s = yes", rows_asked(hit[2]), name))
}

#' "days with no wind at all", "how many days had no wind": the rows at zero of what is measured from zero
#' @noRd
rows_at_zero <- function(out) {
  form <- "(?i)^ *(how many|which|what share of|what proportion of|what percentage of|share of|list|show(?: me)?|number of)?(?: all)?(?: the)? ?([\\p{L}_]+) (?:with|have|has|had|when there was|where there was|saw|showed|that had|who had)? ?(?:no|zero|without any|without) ((?:[\\p{L}_]+ ?){1,3}?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(sub("(?i) (at all|whatsoever)(?=[?.! ]*$)", "", out$text, perl = TRUE), form)
  if (is.na(hit[1])) return(out)
  found <- some_of_measure(out$study, hit[4])
  # ("yield without nitrogen" is about the yield)
  if (!is.null(column_in_text(numeric_columns(out$study), hit[3], named_phrases(out$study)))) return(out)
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[4])) || !is.null(level_in_text(out$study, paste("no", hit[4])))) return(out)
  reworded(out, sprintf("%s %s = 0", rows_asked(hit[2]), found$name), sprintf("Took \"no %s\" to mean that %s is 0.", trimws(hit[4]), found$name))
}

#' How rows are asked for, counted, as a share or shown, in place of the words that name what they are
#' @param said "how many", "share of", "which" and the like, or NA.
#' @noRd
rows_asked <- function(said) {
  if (grepl("^(how|number)", said, ignore.case = TRUE)) "how many rows have" else if (grepl(" of$", said)) "share of rows with" else "show rows with"
}

#' "heating cost per person", where household_size counts them: over their number
#' @noRd
per_head <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bper (?:person|head|capita|(?:household |family |team )?member|occupant|resident|inhabitant)\\b")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  sized <- Filter(function(col) col$kind == "count" && is.null(col$role) &&
    grepl("(household|family|hh|party|group|team|crew|class)[_. ]?size$|(^|[_. ])(persons|people|members|occupants|residents|inhabitants|population|headcount)$",  # nolint: line_length_linter.
          tolower(col$name)), all_columns(out$study))
  if (length(sized) != 1 || !is.null(column_in_text(sized, sub(hit[1], " ", out$text, fixed = TRUE), named_phrases(out$study, sized)))) return(out)
  reworded(out, sub(hit[1], paste("per", sized[[1]]$name), out$text, fixed = TRUE), sprintf("Took %s to mean per %s.", quoted(hit[1]),
    sized[[1]]$name))
}

#' "near the airport", of a level Airport: the place is the level
#' @noRd
near_place <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(near|close to|nearby) (?:to )?(?:the |an? )?((?:[\\p{L}_]+ ?){1,3})")
  if (is.na(hit[1])) return(out)
  found <- level_in_text(out$study, hit[3], first = TRUE)
  if (is.null(found)) out else reworded(out, sub(hit[1], paste("in", hit[3]), out$text, fixed = TRUE), sprintf("Took %s to mean %s is %s.",
    quoted(trimws(hit[1])), found$column, quoted(found$level)))
}

#' "catch per hour", where a column tells how long each row took
#' @noRd
per_time_spent <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bper (minute|hour|second|day)\\b(?: of (?:the )?[\\p{L}_]+)?")
  if (is.na(hit[1])) return(out)
  # (where rows have dates a day is one of the calendar, and rows themselves are counted by periods)
  before <- sub(paste0(as_literal(hit[1]), ".*$"), "", out$text)
  if (tolower(hit[2]) == "day" && length(date_columns(out$study)) && !grepl(" of ", hit[1]) ||
      is.null(column_in_text(numeric_columns(out$study), before, named_phrases(out$study)))) return(out)
  seconds <- c(s = 1, second = 1, seconds = 1, min = 60, minute = 60, minutes = 60, h = 3600, hour = 3600, hours = 3600, day = 86400, days = 86400)
  spent <- Filter(function(col) isTRUE(col$unit %in% names(seconds)) && is.null(col$role) &&
    any(stem_words(c("duration", "time", "effort", "length", "exposure", "minutes", "hours", "runtime", "soak", "tow")) %in% name_stems(col$name)),  # nolint: line_length_linter.
    numeric_columns(out$study))
  # a measure that is itself per time, or named in time, is not asked about so
  if (length(spent) != 1 || grepl(paste0("\\b", gsub("[_.]+", "[_. ]", spent[[1]]$name)), out$text, ignore.case = TRUE)) return(out)
  ratio <- seconds[[tolower(hit[2])]] / seconds[[spent[[1]]$unit]]
  out$told <- c(out$told, sprintf("Took %s to be per %s of %s.", quoted(hit[1]), tolower(hit[2]), spent[[1]]$name))
  if (ratio == 1) { out$text <- sub(hit[1], paste("per single", spent[[1]]$name), out$text, fixed = TRUE); return(out) }
  name <- paste0(strip_tail(spent[[1]]$name), "_", tolower(hit[2]), "s")
  with_derived(out, name, "converted", spent[[1]]$name, sub(hit[1], paste("per single", name), out$text, fixed = TRUE), factor = 1 / ratio,
               unit = paste0(tolower(hit[2]), "s"))
}

#' "between people", of a column person
#' @noRd
people_as_person <- function(out) {
  names <- vapply(all_columns(out$study), `[[`, "", "name")
  if (!"person" %in% tolower(names)) return(out)
  # (people who do something are rows)
  reworded(out, gsub("(?i)\\b(between|across|among|within|by|per|each|of) (?:the )?(?:people|persons)\\b(?! (?:who|with|that|in|at|from|over|under))", "\\1 person", out$text,  # nolint: line_length_linter.
    perl = TRUE))
}

#' "nights with more than 3 awakenings", "how many nights were noisier than 50", of a column that numbers the nights: the rows
#' @noRd
index_as_rows <- function(out) {
  form <- "(?i)^ *(how many |(?:the )?number of |show |list )?(?:the )?([\\p{L}]+s) (?=(?:with|where|that (?:had|have|were)|were|had|have)\\b)"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  own <- Filter(function(col) tolower(col$name) == sub("s$", "", tolower(hit[3])), numeric_columns(out$study))
  if (length(own) != 1) return(out)
  reworded(out, sub(hit[1], sprintf("%srows ", if (is.na(hit[2])) "show " else hit[2]), out$text, fixed = TRUE),
           sprintf("Each row is taken to be one of the %s.", tolower(hit[3])))
}

#' "how long have members been registered": from that date to the last day in the data
#' @noRd
since_date <- function(out) {
  form <- "(?i)^ *how long (?:have|has|had) (?:the |our )?((?:[\\p{L}_]+ ){1,3}?)been ([\\p{L}_]+)(?: with us| here| for)?( on average)?[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  dates <- dated_columns(out$study)
  found <- column_in_text(dates, hit[3], kin_phrases(out$study, hit[3]))
  if (is.null(found)) return(out)
  last <- last_day(out$study, dates)
  name <- paste0("years_since_", found$name)
  out$told <- c(out$told, sprintf("Counted to %s, the last day in the data.", last))
  with_derived(out, name, "age", found$name, sprintf("mean %s", name), unit = "years", on = last)
}

#' "noisier than 50 dB": above 50, of the one measure that the adjective is of
#' @noRd
comparative_bound <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:(?:is|are|was|were|had been) )?([\\p{L}]{4,}er) than (?:about |around )?([0-9.]+)(?: ?([\\p{L}%]+))?")  # nolint: line_length_linter.
  if (is.na(hit[1]) || tolower(hit[2]) %in% c("rather", "other", "higher", "lower", "greater", "smaller", "larger", "bigger", "fewer", "older", "younger")) {  # nolint: line_length_linter.
    return(out)
  }
  # "heavier than 500 kg", of the one measure in that unit
  table <- study_vocabulary(out$study)$lexicon$adjectives
  known <- table[table$word == tolower(hit[2]), , drop = FALSE]
  if (nrow(known)) {
    own <- Filter(function(col) !is.na(hit[4]) && identical(tolower(col$unit), tolower(hit[4])), numeric_columns(out$study))
    rest <- substring(out$text, regexpr(hit[1], out$text, fixed = TRUE) + nchar(hit[1]))
    # ("taller than 190 cm vs shorter" sets both sides against each other)
    if (length(own) != 1 || sets_against(rest) || !grepl("^ *(show |list |which )?\\p{L}+ (are |were )?\\p{L}+er than", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
    side <- if (known$low[1]) "below" else "above"
    return(reworded(out, sub(hit[1], sprintf("with %s %s %s", own[[1]]$name, side, hit[3]), out$text, fixed = TRUE)))
  }
  root <- sub("er$", "", tolower(hit[2]))
  bases <- unique(c(sub("i$", "y", root), root, paste0(root, "e"), sub("(.)\\1$", "\\1", root)))
  nouns <- stem_words(unique(unlist(lapply(bases, kin_words))))
  numeric <- numeric_columns(out$study)
  own <- Filter(function(col) any(telling_stems(col$name) %in% nouns), numeric)
  if (length(own) != 1) return(out)
  said <- if (!is.na(hit[4]) && tolower(hit[4]) %in% tolower(c(own[[1]]$unit, strsplit(name_words(own[[1]]$name), " ")[[1]]))) hit[1] else
    sub(" ?[\\p{L}%]+$", "", hit[1], perl = TRUE)
  if (is.na(hit[4])) said <- hit[1]
  reworded(out, sub(said, sprintf("with %s above %s", own[[1]]$name, hit[3]), out$text, fixed = TRUE),
           sprintf("Took %s to mean that %s is above %s.", quoted(said), own[[1]]$name, hit[3]))
}

#' "how many awakenings per night", of a column that numbers the nights: their mean, no slope
#' @noRd
how_many_per <- function(out) {
  form <- "(?i)^ *how many ((?:[\\p{L}_]+ ){1,3}?)(?:are there |were there |do they have |occur |occurred |happen )?(?:per|for each|for every) ([\\p{L}_]+)( on average)?(?=$|[?.! ]|,)"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count" && is.null(col$role), all_columns(out$study))
  what <- column_in_text(counts, hit[2], named_phrases(out$study))
  if (is.null(what)) return(out)
  per <- Filter(function(col) tolower(col$name) == sub("s$", "", tolower(hit[3])) && col$name != what$name, numeric_columns(out$study))
  keys <- keys_of(out$study, single = FALSE)
  # rows that are told apart by a key and that number are what is counted over
  if (length(per) != 1 || !isTRUE(per[[1]]$distinct <= 60)) return(out)
  data <- out$study$tables[[per[[1]]$table]]$data
  key <- utils::head(Filter(function(col) col$table == per[[1]]$table, keys), 1)
  pairs <- if (length(key)) paste(data[[key[[1]]$name]], data[[per[[1]]$name]], sep = "\r") else data[[per[[1]]$name]]
  if (anyDuplicated(pairs)) return(out)
  reworded(out, sub(hit[1], sprintf("average %s", what$name), out$text, fixed = TRUE), sprintf("Each row is one %s, so the mean is over rows.", tolower(hit[3])))  # nolint: line_length_linter.
}

#' "compare catch between vessels after removing outliers": the question without it, which is then asked back
#' @noRd
outliers_left_out <- function(out) {
  form <- "(?i),? ?\\b(?:(?:after|when|by|and) )?(?:removing|excluding|dropping|leaving out|ignoring|omitting|without|deleting|discarding|having removed) (?:the |all |any |extreme )*outliers?\\b(?: (?:and extreme values|in [\\p{L}_]+))?"  # nolint: line_length_linter.
  text <- gsub(form, "", out$text, perl = TRUE)
  if (identical(text, out$text) || !nzchar(trimws(text))) return(out)
  out$outliers <- TRUE
  reworded(out, trimws(text))
}

#' No rule says which rows are outliers: ranks, which they do not sway, and all rows are offered
#' @noRd
without_outliers <- function(verdict) {
  r <- verdict$reading
  if (!identical(verdict$status, "answered")) return(verdict)
  by_ranks <- r
  if (r$task %in% c("compare", "relate", "change")) by_ranks <- with_ranks(r)
  else if (r$task == "describe" && isTRUE((r$statistic %||% "mean") == "mean")) by_ranks$statistic <- "median"
  readings <- unique(list(by_ranks, r))
  readings <- lapply(readings, finish_reading)
  out <- choice_verdict(NULL, r, readings, paste("Which rows are outliers is not settled by a rule here: leaving rows out by their values biases what is left.",  # nolint: line_length_linter.
    "Choose one of the readings below, by number or in your own words, or name the bound (\"only below 500\")."))
  out$study <- verdict$study
  out
}

#' "average yield with and without nitrogen": both sides of a yes or no
#' @noRd
with_and_without <- function(out) {
  form <- "(?i)\\bwith (?:and|or|vs\\.?|versus) without (?:an? |any |the )?((?:[\\p{L}_]+ ?){1,3})"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  yes_no <- yes_no_columns(out$study)
  found <- column_in_text(yes_no, hit[2], kin_phrases(out$study, hit[2]))
  if (is.null(found) || !startsWith(tolower(hit[2]), tolower(found$said))) return(out)
  said <- up_to_words(hit[1], hit[2], found$said)
  reworded(out, sub(said, paste("by", found$name), out$text, fixed = TRUE))
}

#' "is potassium bad for yield": does it go with it
#' @noRd
good_for <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (?:the |an? )?((?:[\\p{L}_]+ ){1,3}?)(?:bad|good|harmful|beneficial|detrimental|useful|healthy) (?:for|to) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  reworded(out, sub(form, "does \\1affect \\2", out$text, perl = TRUE))
}

#' "correlation between age and number of visits", of a column that counts visits: the column
#' @noRd
number_of_counts <- function(out) {
  related <- "\\b(correlat|relat|associat|predict|affect|effect|depend|average|mean|median|compare|differ|increas|decreas|regress|versus|against|plot|reduc|influence|explain)"  # nolint: line_length_linter.
  if (!grepl(related, out$text, ignore.case = TRUE, perl = TRUE) || grepl("^ *(what (is|was) )?(the )?(total )?number of\\b", out$text, ignore.case = TRUE)) return(out)  # nolint: line_length_linter.
  counts <- Filter(function(col) col$kind == "count" && is.null(col$role), all_columns(out$study))
  hits <- stringi::stri_match_all_regex(out$text, quick_form("(?i)\\b(?:the )?number of (?:the |their )?([\\p{L}_]+)"))[[1]]
  for (i in seq_len(nrow(hits))) {
    found <- column_of_words(counts, hits[i, 2])
    if (is.null(found)) next
    out <- reworded(out, sub(hits[i, 1], hits[i, 2], out$text, fixed = TRUE))
  }
  out
}

#' "brain to body ratio: top 5": the one divided by the other in each row
#' @noRd
ratio_to <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}_]+)[- ]to[- ]([\\p{L}_]+)(?: [\\p{L}]+)? ratios?\\b")
  if (is.na(hit[1])) return(out)
  numeric <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  a <- column_in_text(numeric, hit[2], named_phrases(out$study))$name; b <- column_in_text(numeric, hit[3], named_phrases(out$study))$name
  derive_of_two(out, hit[1], a, b, "ratio", "per")
}

#' "brain against body on log scales": the logarithms of both
#' @noRd
on_log_scales <- function(out) {
  form <- "(?i)^(.*?\\b)((?:[\\p{L}_]+ ){1,3}?)(against|versus|vs\\.?|and|on|with) ((?:[\\p{L}_]+ ){1,3}?)(?:on|with|in|using) (?:both |two )?(?:a )?(?:log(?:arithmic)?(?:[- ]log)?|log-log) (?:scales?|axes)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  numeric <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  a <- column_in_text(numeric, hit[3], named_phrases(out$study)); b <- column_in_text(numeric, hit[5], named_phrases(out$study))
  if (is.null(a) || is.null(b) || a$name == b$name) return(out)
  for (name in c(a$name, b$name)) out <- with_derived(out, paste0("log_", name), "log", name)
  reworded(out, sprintf("%slog_%s %s log_%s", hit[2], a$name, hit[4], b$name), "Both are taken by their natural logarithms.")
}

#' "adjust the cultivar comparison of vitamin c for head weight"
#' @noRd
adjusted_comparison <- function(out) {
  form <- "(?i)^ *(?:please )?adjust (?:the )?(.+?) (?:comparison|difference|effect)s? (?:of|in|on) (.+?) for (.+?)[?.! ]*$"
  reworded(out, sub(form, "compare \\2 by \\1 adjusting for \\3", out$text, perl = TRUE))
}

#' "how many skipped q3": it is missing there
#' @noRd
skipped_item <- function(out) {
  form <- "(?i)^ *(how many|which)(?: (?:people|respondents|of them|participants|patients))?(?: have| had)? (?:skipped|left blank|left empty|did not fill in) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  found <- if (!is.na(hit[1])) column_in_text(all_columns(out$study), hit[3], named_phrases(out$study))
  if (is.null(found)) out else reworded(out, sprintf("%s have missing %s", hit[2], found$name))
}

#' "how satisfied are people with the waiting time": the answers to the statement about it, not the minutes
#' @noRd
satisfied_with <- function(out) {
  form <- "(?i)^ *how (?:satisfied|happy|content|pleased) (?:are|were) (?:the |our )?[\\p{L}]+ with (?:the |their |our )?(.+?)(?= by| in each| per|[?.! ]*$)"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  own <- answers_about(out$study, hit[2])
  if (is.null(own)) return(out)
  rest <- substring(out$text, nchar(hit[1]) + 1)
  reworded(out, sprintf("how was %s answered%s", own$name, rest), sprintf("Took the answers to %s.", quoted(own$label %||% own$name)))
}

#' The one column of ordered answers whose label or name holds a text's words
#' @noRd
answers_about <- function(study, text) {
  sought <- setdiff(stems_of(text)[[1]], stem_words(english$stop))
  if (!length(sought)) return(NULL)
  own <- Filter(function(col) col$kind == "ordered" && all(sought %in% c(stems_of(col$label %||% "")[[1]], name_stems(col$name))), all_columns(study))
  if (length(own) == 1) own[[1]]
}

#' "are the variances equal", of data with one measure and one column of groups
#' @noRd
equal_variances <- function(out) {
  form <- "(?i)^ *(?:are|is|were|was) (?:the )?(?:variances?|spreads?) (?:equal|the same|homogeneous|similar|different|alike)(?: (?:across|between|in|for|among) (?:the |all )?(groups|[\\p{L}_ ]+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  measured <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  groups <- Filter(function(col) col$kind %in% c("category", "yes_no", "ordered"), all_columns(out$study))
  if (!is.na(hit[2]) && tolower(hit[2]) != "groups") {
    named <- column_in_text(groups, hit[2], named_phrases(out$study, groups))
    groups <- if (is.null(named)) list() else list(named$col)
  }
  if (length(measured) != 1 || length(groups) != 1) return(out)
  reworded(out, sprintf("does the spread of %s differ between %s", measured[[1]]$name, groups[[1]]$name),
           sprintf("Took %s by %s, the only measure and the groups meant.", measured[[1]]$name, groups[[1]]$name))
}

#' "variance of language score between and within classes"
#' @noRd
spread_within <- function(out) {
  form <- "(?i)^ *(?:what is |compare |decompose |show )?(?:the )?(?:variance|variation|variability|spread) (?:of|in) (.+?) (?:between and within|within and between) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  reworded(out, sub(form, "intraclass correlation of \\1 within \\2", out$text, perl = TRUE))
}

#' "is the relation between air flow and stack loss linear": a straight line against curves
#' @noRd
is_it_linear <- function(out) {
  form <- "(?i)^ *is the (?:relation(?:ship)?|association|link) (?:between|of) (.+?) (?:and|with|to) (.+?) (?:linear|a straight line|straight|curved|non-?linear)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  # models are compared on rows held back, for which there must be enough
  few <- max(vapply(out$study$tables, function(t) nrow(t$data), 1L)) < 30
  reworded(out, sprintf(if (few) "fit a quadratic of %s on %s" else "is a straight line enough for %s on %s", hit[3], hit[2]))
}

#' "growth curves by treatment": the measure over time in each group
#' @noRd
growth_curves <- function(out) {
  form <- "(?i)^ *(?:show |plot |draw )?(?:the |mean |average )*growth curves?(?: (?:of|for) (?!each)(.+?))?((?: by| per| for each| in each) .+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  time <- Filter(function(col) tolower(col$name) %in% c("day", "days", "week", "weeks", "month", "age", "time", "visit", "hour", "year"), numeric_columns(out$study))  # nolint: line_length_linter.
  measured <- Filter(function(col) is.null(col$role) && !col$name %in% vapply(time, `[[`, "", "name"), numeric_columns(out$study))
  what <- if (is.na(hit[2])) if (length(measured) == 1) measured[[1]]$name else NA else hit[2]
  if (length(time) != 1 || is.na(what)) return(out)
  by <- if (is.na(hit[3])) "" else sub("(?i)^ (by|per|for each|in each) ", " and ", hit[3], perl = TRUE)
  reworded(out, sprintf("mean %s by %s%s", what, time[[1]]$name, by), sprintf("The means of %s over %s.", what, time[[1]]$name))
}

#' "what fraction of the tested snails died": one count over the other
#' @noRd
part_that_was <- function(out) {
  form <- "(?i)^ *(?:what |which )?(?:fraction|share|proportion|percentage|percent) of (?:the |all )?((?:[\\p{L}_]+ ){1,3}?)(?:was |were |have |had |has )?([\\p{L}_]+)( by .+?| in each .+?| per .+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count" && isTRUE(col$distinct > 4) && is.null(col$role), all_columns(out$study))
  part <- column_of_words(counts, hit[3])
  whole <- if (!is.null(part)) whole_of(out$study, part$name)
  if (is.null(whole) || !any(stems_of(hit[2])[[1]] %in% telling_stems(whole))) return(out)
  out$rate_wish <- 100
  reworded(out, sprintf("%s per %s%s", part$name, whole, if (is.na(hit[4])) "" else hit[4]))
}

#' "gas use at 4 degrees": the one measured temperature
#' @noRd
at_degrees <- function(out) {
  form <- "(?i)\\bat (-?[0-9.]+) ?(?:degrees?|\u00b0)(?: ?(?:celsius|c|fahrenheit|f))?(?: outside)?\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  own <- Filter(function(col) any(c("temp", "temperatur") %in% called_stems(col)), numeric_columns(out$study))  # nolint: line_length_linter.
  if (length(own) != 1) return(out)
  reworded(out, sub(hit[1], sprintf("at %s %s", own[[1]]$name, hit[2]), out$text, fixed = TRUE), sprintf("Took the degrees to be those of %s.", own[[1]]$name))  # nolint: line_length_linter.
}

#' "is it getting warmer": a trend of the measure that the adjective is of
#' @noRd
getting_more <- function(out) {
  form <- "(?i)^ *(?:is|are|has|have) (?:it|things|the weather|the climate|[\\p{L}_]+)(?: been)? (?:getting|becoming|growing) ([\\p{L}]+er)(?: over time| over the years)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !length(date_columns(out$study))) return(out)
  table <- study_vocabulary(out$study)$lexicon$adjectives
  nouns <- stem_words(table$noun[table$word == tolower(hit[2])])
  own <- Filter(function(col) any(name_stems(col$name) %in% nouns), numeric_columns(out$study))
  if (length(own) != 1) out else reworded(out, sprintf("is there a trend in %s", own[[1]]$name))
}

#' "temperature in July by year": that month of every year
#' @noRd
month_of_years <- function(out) {
  form <- sprintf("(?i)\\bin (%s)\\b(?! ?[0-9])(?=.*\\b(?:by year|each year|every year|over the years)\\b)", paste(month.name, collapse = "|"))
  hit <- match_groups(out$text, form)
  date <- rows_date(out)
  if (is.na(hit[1]) || length(date) != 1) return(out)
  with_derived(out, "month_of_year", "month", date, sub(hit[1], sprintf("where month_of_year is %s", hit[2]), out$text, fixed = TRUE))
}

#' "median follow-up time", of data on survival: the time itself
#' @noRd
follow_up_time <- function(out) {
  columns <- study_vocabulary(out$study)$columns
  time <- survival_time(columns)
  if (is.null(time) || any(grepl("follow", tolower(columns$name)))) return(out)
  reworded(out, gsub("(?i)\\bfollow[- ]?up(?: times?| durations?| periods?)?\\b", time, out$text, perl = TRUE), sprintf("Took the follow-up to be %s.", time))  # nolint: line_length_linter.
}

#' "do women survive longer than men", where times are censored: their survival
#' @noRd
survive_longer <- function(out) {
  if (is.null(survival_time(study_vocabulary(out$study)$columns))) return(out)
  text <- gsub("(?i)\\b(?:survive[sd]?|live[sd]?) (longer|shorter)\\b", "have \\1 survival", out$text, perl = TRUE)
  reworded(out, gsub("(?i)\\b(?:die[sd]?) (?:sooner|earlier)\\b", "have shorter survival", text, perl = TRUE))
}

#' "probability of surviving one year", "what proportion died within 3 years", where times are censored
#' @noRd
alive_at_time <- function(out) {
  if (is.null(survival_time(study_vocabulary(out$study)$columns))) return(out)
  n <- "([0-9.]+|one|two|three|four|five|six|seven|eight|nine|ten)[- ](day|week|month|year)s?"
  forms <- c(sprintf("(?i)^ *(?:what (?:is|was) )?(?:the )?(?:probability|chance|likelihood|proportion|share|percentage) (?:of |that |who )?(?:patients |people )?(?:surviv\\w+|(?:are |being |were )?(?:still )?alive)(?: past| beyond| at least| for| after| at| to)? %s(.*?)[?.! ]*$", n),  # nolint: line_length_linter.
             sprintf("(?i)^ *(?:what |which )?(?:proportion|share|percentage|percent|fraction)(?: of (?:the )?[\\p{L}]+)? (?:had )?(?:died|were dead|are dead|die) (?:within|by|before|in the first|after) %s(.*?)[?.! ]*$", n))  # nolint: line_length_linter.
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    count <- word_number(hit[2])
    told <- if (grepl("died|dead|die", hit[1], ignore.case = TRUE)) "Those who had died by then are the rest of those alive." else NULL
    return(reworded(out, sprintf("survival at %s %ss%s", format_plain(count), tolower(hit[3]), hit[4]), told))
  }
  out
}

#' "how much do workers vary", of data with one measure: it by the workers
#' @noRd
how_much_vary <- function(out) {
  form <- "(?i)^ *how much (?:do|does|did) (?:the )?([\\p{L}_]+) (?:vary|differ)(?: among themselves| from (?:each other|one another))?[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  stem <- stem_words(tolower(hit[2]))
  own <- Filter(function(col) stem %in% name_stems(col$name), all_columns(out$study))
  measured <- Filter(function(col) is.null(col$role) && !stem %in% name_stems(col$name), numeric_columns(out$study))
  if (length(own) != 1 || length(measured) != 1 || is_numeric_kind(own[[1]]$kind) && !isTRUE(own[[1]]$distinct <= 12)) return(out)
  reworded(out, sprintf("compare %s by %s", measured[[1]]$name, own[[1]]$name), sprintf("Took %s, the only column that measures something.", measured[[1]]$name))  # nolint: line_length_linter.
}

#' "highly satisfied", of a column satisfaction with a level High
#' @noRd
degree_of <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(highly|very|extremely) ([\\p{L}]+)\\b")
  if (is.na(hit[1]) || !is.null(level_in_text(out$study, hit[1]))) return(out)
  columns <- Filter(function(col) col$kind %in% c("ordered", "category") && any(grepl("^(very )?high$", col$levels, ignore.case = TRUE)), all_columns(out$study))  # nolint: line_length_linter.
  found <- column_in_text(columns, hit[3], kin_phrases(out$study, hit[3]))
  if (is.null(found)) return(out)
  col <- found$col
  level <- last_of(col$levels[grepl("^(very )?high$", col$levels, ignore.case = TRUE)])
  reworded(out, sub(hit[1], sprintf("with %s = %s", col$name, level), out$text, fixed = TRUE), sprintf("Took %s to mean that %s is %s.", quoted(hit[1]), col$name,  # nolint: line_length_linter.
    quoted(level)))
}

#' "tips as a percentage of the bill": a rate that is told in hundredths
#' @noRd
as_percentage <- function(out) {
  if (grepl("(?i)\\bas (?:a percentage|a percent) of\\b", out$text, perl = TRUE)) out$rate_wish <- 100
  out
}

#' "the under 35s": people of an age
#' @noRd
people_of_age <- function(out) {
  out$text <- gsub("(?i)\\b(?:the )?(under|over|below|above)[- ]([0-9]{1,2})['\u2019]?s\\b", "people \\1 \\2", out$text, perl = TRUE)
  out
}

#' "average satisfaction, weighted", "what share are over 65 using the weights": by the study's own weights
#' @noRd
weighted_behind <- function(out) {
  hit <- match_groups(out$text, paste0("(?i)^ *((?:what (?:is|was) )?(?:the |what )?)((?:average|mean|share|percentage|proportion|total)\\b.+?),? \\(?",  # nolint: line_length_linter.
    "(?:weighted|(?:using|with|applying) (?:the |our |survey |sampling |design )*(?:weights|weighting))\\)?[?.! ]*$"))
  if (!is.na(hit[1])) out$text <- paste0(hit[2], "weighted ", hit[3])
  out
}

#' "compare EAL and non-EAL pupils in spring": the two sides of a yes/no column
#' @noRd
with_and_non <- function(out) {
  form <- "(?i)^ *(?:compare|difference between|differences between) (?:the )?([\\p{L}_]+)(?: [\\p{L}]+)? (?:and|with|to|vs\\.?|versus|against) (?:the )?non[- ]?\\1s?((?: (?:pupils|patients|people|students|children|customers|users|respondents|participants|[\\p{L}]+s))?)(.*)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  flags <- yes_no_columns(out$study)
  found <- column_in_text(flags, hit[2], kin_phrases(out$study, hit[2]))
  if (is.null(found)) return(out)
  reworded(out, sprintf("compare by %s%s", found$name, hit[4]), sprintf("Took %s and its opposite to be the sides of %s.", quoted(hit[2]),
    found$name))
}

#' "do complaints go up with waiting time": whether the two go together
#' @noRd
go_up_with <- function(out) {
  form <- "(?i)^ *(?:do|does|did) (?:the )?(.+?) (?:go(?:es)? (?:up|down)|rises?|falls?|increases?|decreases?|grows?) with (?:the )?(.+?)[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  phrases <- named_phrases(out$study)
  flag <- column_in_text(yes_no_columns(out$study), hit[2], phrases)
  number <- column_in_text(numeric_columns(out$study), hit[3], phrases)
  if (is.null(flag) || is.null(number) || tolower(number$said) != tolower(trimws(hit[3]))) return(out)
  reworded(out, sprintf("does %s predict %s", number$name, flag$name))
}

#' "how many adverse events per arm", of a column with a level that says none: the rows of the other levels
#' @noRd
events_not_none <- function(out) {
  form <- "(?i)^ *(?:how many|number of|count of) ([\\p{L}_ ]+?s)(?: (?:were there|are there|occurred|happened|did))?((?: (?:by|per|in each|for each|in the|on|in) .+?)?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  none <- function(col) col$levels[grepl("^(none|no|nil|no event|no .* event)$", tolower(col$levels))]
  columns <- Filter(function(col) col$kind %in% c("category", "ordered") && length(col$levels) > 2 && length(none(col)) == 1, all_columns(out$study))
  found <- column_in_text(columns, hit[2], named_phrases(out$study, columns))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[2]))) return(out)
  reworded(out, sprintf("how many rows%s where %s is not %s", sub("(?i)^ (per|in each|for each) ", " by ", hit[3], perl = TRUE), found$name,
    none(found$col)),
           sprintf("Counted the rows in which %s is not %s.", found$name, quoted(none(found$col))))
}

#' "how many km in total", of one column in that unit: its sum, and no count of rows
#' @noRd
unit_in_total <- function(out) {
  form <- "(?i)^ *how many ([\\p{L}]+)\\b(?: (?:are|were|was|is) there)?(?: (?:did|do|have|has|had) (?:we|they|i|you|(?:the )?[\\p{L}]+) [\\p{L}]+)? (?:in total|in all|altogether|overall)\\b(.*?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  word <- tolower(hit[2])
  units <- c(word, unit_words()[word], unlist(unit_tails()[word]))
  own <- Filter(function(col) isTRUE(col$unit %in% units) && !adds_up_not(col$name), numeric_columns(out$study))
  called <- any(vapply(all_columns(out$study), function(col) identical(stem_words(word), stems_of(name_words(col$name))[[1]]), NA))
  if (length(own) != 1 || called) return(out)
  reworded(out, paste0("total ", own[[1]]$name, or_if_na(hit[3], "")), sprintf("Took %s as the sum of %s.", quoted(hit[2]), own[[1]]$name))
}

#' The one column of counts that a single word names ("bikes" of a bike)
#' @noRd
count_called <- function(study, word) {
  own <- Filter(function(col) col$kind == "count" && is.null(col$role) && identical(name_stems(col$name), stem_words(tolower(word))),
                all_columns(study))
  if (length(own) == 1) own[[1]]$name
}

#' "own both a car and a bike", of columns that count cars and bikes: some of each
#' @noRd
both_of_counts <- function(out) {
  form <- "(?i)\\b(?:who |that )?(?:own|owns|owned|possess|possesses|have|has|had) (?:both )?(?:an?|any) ([\\p{L}]+) and (?:(?:an?|any) )?([\\p{L}]+)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  names <- lapply(hit[2:3], count_called, study = out$study)
  if (any(lengths(names) == 0)) return(out)
  reworded(out, sub(hit[1], sprintf("with %s above 0 and %s above 0", names[[1]], names[[2]]), out$text, fixed = TRUE),
           sprintf("Took %s to mean that %s and %s are above 0.", quoted(hit[1]), names[[1]], names[[2]]))
}

#' "at least one bike", beside a mode bike and a column that counts bikes: the bound is on the count
#' @noRd
bound_of_counts <- function(out) {
  form <- sprintf("(?i)\\b(?:with |who have |that have |having |have |own |owns )?(at least|more than|fewer than|at most|no more than|exactly) ([0-9]+|%s) ([\\p{L}]+)\\b", counting_words())  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  name <- if (!is.na(hit[1])) count_called(out$study, hit[4])
  # (only where the word is a level as well, and would be taken for it)
  if (is.null(name) || is.null(whole_level(out$study, hit[4]))) return(out)
  bound <- sprintf("with %s %s %s", name, plain_bound(hit[2]), format_plain(word_number(hit[3])))
  reworded(out, sub(hit[1], bound, out$text, fixed = TRUE))
}
