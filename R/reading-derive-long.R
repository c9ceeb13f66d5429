# Long data: units with one row for each time. Changes from one time to another, who left before the end, properties of units.

#' The turns about long data, as of `everyday_turns()`
#' @noRd
turns_of_long <- function() {
  list(turn("\\b(faster|slower|more|less|further)\\b", faster_in_group),
    turn("chang|drop|f[ae]ll|decreas|reduc|r[io]se|increas|improv|gain|loss|differ|minus|less\\b|declin|low|progress", change_in_long),
       turn("\\bat\\b.*\\b(relat|correlat|associat|link|predict|depend)|(correlation|relation(ship)?|association|link) .*\\bat\\b", related_times),
       turn("drop(ped)? ?out|lost|left|withdr|discontinu|leave", left_before), turn("\\b(most|fewest)\\b", most_units),
       turn("\\b(over|across|through|throughout|along) the\\b", over_the_times),
       turn("\\b(in|at|during|for|of|on) the ([a-z]+(st|nd|rd|th)|last|final|top|bottom|highest|lowest|[0-9]+(st|nd|rd|th))\\b", numbered_time))
}

#' "seizures over the periods by drug", of a column period that holds the times: over time
#' @noRd
over_the_times <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  word <- as_literal(gsub("[_.]+", " ", tolower(layout$time)))
  reworded(out, sub(sprintf("(?i)\\b(?:over|across|through|throughout|along) the (?:(?:[0-9]+|several|different|two|three|four|five|six) )?%ss (?=by\\b|for each\\b|in each\\b|per\\b)", word),  # nolint: line_length_linter.
                    "over time ", out$text, perl = TRUE))
}

#' "in the fourth period", of a column period that counts from 1; "on the top shelf", of one that numbers shelves: the rows with that number
#' @noRd
numbered_time <- function(out) {
  form <- sprintf("(?i)\\b(?:in|at|during|for|of|on) the (%s|last|final|top|bottom|highest|lowest|[0-9]{1,2}(?:st|nd|rd|th)) ([\\p{L}_]+)\\b",  # nolint: line_length_linter.
                  paste(ordinal_words, collapse = "|"))
  hits <- stringi::stri_match_all_regex(out$text, quick_form(form))[[1]]
  if (nrow(hits) != 1 || is.na(hits[1, 1])) return(out)
  own <- Filter(function(col) tolower(col$name) == tolower(hits[1, 3]) ||
      tolower(gsub("[_.]?(no|nr|num|number)$", "", col$name)) == tolower(hits[1, 3]),
                numeric_columns(out$study))
  if (length(own) != 1) return(out)
  values <- sort(unique(understood(out$study, own[[1]]$name, own[[1]]$table)))
  if (length(values) > 60 || any(values != round(values))) return(out)
  word <- tolower(hits[1, 2])
  if (word %in% c("top", "bottom", "highest", "lowest")) return(end_of_numbered(out, hits[1, 1], own[[1]]$name, values, word))
  n <- if (word %in% c("last", "final")) max(values) else if (word %in% ordinal_words) match(word, ordinal_words) else as.numeric(sub("\\D+$", "",
      word))
  # (of numbers that begin at 0 the first could be either)
  if (!n %in% values || min(values) != 1 && !word %in% c("last", "final")) return(out)
  rest <- trimws(gsub("^ *,|(?<= ) +", "", sub(hits[1, 1], "", out$text, fixed = TRUE), perl = TRUE))
  reworded(out, sprintf("%s where %s is %s", without_mark(rest), own[[1]]$name, format_plain(n)))
}

#' "on the top shelf": the highest of a few numbers, where the first of them is not the best (as of ranks)
#' @noRd
end_of_numbered <- function(out, said, name, values, word) {
  ranked <- "rank|place|position|grade|class|tier|league|division|priority|quality|score|rating|price|decile|quintile|quartile"
  if (length(values) > 12 || !identical(as.numeric(values), as.numeric(seq_along(values))) || grepl(ranked, tolower(name))) return(out)
  n <- if (word %in% c("top", "highest")) max(values) else 1
  rest <- trimws(gsub("^ *,|(?<= ) +", "", sub(said, "", out$text, fixed = TRUE), perl = TRUE))
  reworded(out, sprintf("%s where %s is %s", without_mark(rest), name, format_plain(n)),
           sprintf("Took %s to mean that %s is %s, the %s number.", quoted(said), name, format_plain(n), if (n > 1) "highest" else "lowest"))
}

#' The layout of long data, as the vocabulary holds it
#' @noRd
long_layout <- function(study) study_vocabulary(study)$long

#' What long data measures: its numbers but for the times themselves
#' @noRd
layout_measures <- function(study, layout) Filter(function(col) col$name != layout$time, numeric_columns(study))

#' The unit of its times: the last word of their column that is one ("week" of visit_week, weeks, week_no), else its first word
#' @noRd
layout_step <- function(layout) {
  words <- strsplit(tolower(layout$time), "[_. ]+")[[1]]
  steps <- intersect(sub("s$", "", words), c("second", "minute", "hour", "day", "night", "week", "month", "quarter", "year", "visit", "wave",
      "session",
                                             "occasion", "round", "trial", "period", "phase", "time"))
  if (length(steps)) last_of(steps) else sub("s$", "", words[1])
}

#' "change in sbp from baseline to week 12 in each arm": each value less the unit's own at the earlier time, at the later one
#' @noRd
change_in_long <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  out$text <- moved_most(out, layout)
  # the biggest drop is the lowest change
  falls <- "(?:drop|fall|decrease|reduction|loss|decline)"
  flipped <- c(biggest = "lowest", largest = "lowest", greatest = "lowest", highest = "lowest", most = "lowest", smallest = "highest",
      least = "highest",
               lowest = "highest")
  deep <- first_match(out$text, sprintf("(?i)\\b(biggest|largest|greatest|highest|smallest|lowest) (%s)\\b", falls))
  if (!is.null(deep)) out$text <- sub(deep[1], paste(flipped[[tolower(deep[2])]], "change"), out$text, fixed = TRUE)
  numeric <- layout_measures(out$study, layout)
  # (groups over two times or more, of which none is only summed up, are compared with all their rows)
  compared <- grepl("\\b(by|between|differ\\w*|over)\\b", out$text, ignore.case = TRUE, perl = TRUE)
  # (where the groups stand in another table, rows of one unit are compared by their change)
  apart <- length(data_tables(out$study)) > 1 && grepl("^ *(the )?change in\\b|\\bchange in\\b.* from .* to .* differ", out$text, ignore.case = TRUE)
  if (compared && !apart && !grepl("\\b(mean|average|median|in each|per|per ?cent(age)?|relative|baseline|start|minus|than|related|predict\\w*|associated|depend\\w*)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)  # nolint: line_length_linter.
  found <- long_change_said(out, layout, numeric)
  if (is.null(found)) return(out)
  ends <- long_ends(found$span, layout)
  if (is.null(ends)) return(out)
  name <- paste0(found$measure, "_change")
  # "percentage change in sbp from week 0 to week 12": of the unit's own first value
  if (grepl("(?i)(?:%|\\bper ?cent(?:age)?|\\brelative) (?:of )?@", found$text, perl = TRUE)) return(percent_in_long(out, found, layout, ends))
  out$told <- c(out$told, sprintf("%s is %s at %s %s less its value at %s %s of the same %s.", name, found$measure, layout$time, format_plain(ends[2]),  # nolint: line_length_linter.
                                  layout$time, format_plain(ends[1]), layout$unit))
  condition <- sprintf("where %s = %s", layout$time, format_plain(ends[2]))
  text <- paste(without_mark(sub("@", name, found$text, fixed = TRUE)), condition)
  with_derived(out, name, "from_start", found$measure, gsub(" +", " ", text), within = layout$unit, order = layout$time, on = ends[1])
}

#' The change of each unit as a percentage of its own value at the earlier time
#' @noRd
percent_in_long <- function(out, found, layout, ends) {
  first <- occasion_column(found$measure, ends[1])
  name <- paste0(found$measure, "_percent_change")
  out <- value_at_occasion(out, layout, found$measure, ends[1], out$text)
  text <- sub("(?i)(?:%|\\bper ?cent(?:age)?|\\brelative) (?:of )?@", name, found$text, perl = TRUE)
  text <- sprintf("%s where %s = %s", without_mark(text), layout$time, format_plain(ends[2]))
  if (grepl(sprintf("^ *(?:what is |what was )?(?:the )?%s where", name), text)) text <- sub(name, paste("mean", name), text, fixed = TRUE)
  out$told <- c(out$told, sprintf("%s: the change from %s %s to %s %s of the same %s, as a percentage of its value at %s.", name, layout$time,
                                  format_plain(ends[1]), layout$time, format_plain(ends[2]), layout$unit, format_plain(ends[1])))
  with_derived(out, name, "percent_change", c(first, found$measure), gsub(" +", " ", text))
}

#' "which athlete improved most in sprint time": by the change from the first time to the last, down where less is better
#' @noRd
moved_most <- function(out, layout) {
  form <- "(?i)\\b(improved|progressed|changed|gained|lost|rose|fell|dropped|increased|decreased) (?:the )?(most|least) (?:in|on) (?:the |their )?((?!between|from)[\\p{L}_0-9]+(?: (?!between|from)[\\p{L}_0-9]+){0,2})(?: (?:between|from) (?:%1$s )?([0-9]+) (?:and|to|until|till) (?:%1$s )?([0-9]+))?"  # nolint: line_length_linter.
  hit <- match_groups(out$text, sprintf(form, as_literal(layout_step(layout))))
  if (is.na(hit[1])) return(out$text)
  ends <- if (is.na(hit[5])) c(layout$first, layout$last) else as.numeric(hit[5:6])
  numeric <- layout_measures(out$study, layout)
  found <- column_in_text(numeric, hit[4], named_phrases(out$study, numeric))
  if (is.null(found)) return(out$text)
  verb <- tolower(hit[2])
  timed <- grepl("(^|[_. ])(time|sprint|race|run|lap|swim|split)([_. ]|$)", tolower(found$name)) &&
      grepl("^(s|sec|min|ms|h|seconds|minutes|hours)$", found$col$unit %||% "")
  down <- verb %in% c("lost", "fell", "dropped", "decreased") || verb %in% c("improved", "progressed") && (timed || less_is_better(found$name))
  if (verb == "changed") return(out$text)
  order <- if ((hit[3] == "most") != down) "highest" else "lowest"
  sub(hit[1], sprintf("have the %s change in %s from %s %s to %s %s", order, found$name, layout$time, format_plain(ends[1]), layout$time,
                      format_plain(ends[2])), out$text, fixed = TRUE)
}

#' How a question speaks of a change: the measure, the words of its times, and the question with "@" for the change
#' @section Shape: list(measure, span, text), or NULL.
#' @noRd
long_change_said <- function(out, layout, numeric) {
  phrases <- named_phrases(out$study, numeric)
  measure_of <- function(words) {
    found <- column_in_text(numeric, words, phrases)
    if (!is.null(found) && startsWith(tolower(words), tolower(found$said))) found
  }
  unit <- layout_step(layout)
  when <- sprintf("(?:%1$ss? [0-9]+|[0-9]+ %1$ss?|(?:the )?(?:baseline|start|beginning|end|last %1$s|final %1$s|first %1$s))", unit)
  span <- sprintf("(?: (?:from|between) %1$s (?:to|and|until) (?:%2$ss? ?)?(?:%1$s|[0-9]+)| (?:by|at|until|up to|over) %1$s| (?:after|over|within|in) (?:the )?(?:first )?[0-9]+ %2$ss?)?", when, unit)  # nolint: line_length_linter.
  noun <- "(?:change|drop|fall|decrease|reduction|rise|increase|improvement|gain|loss|decline)s?"
  # "the drop in blood pressure from baseline to week 12"
  stop <- "(?:by|in|for|per|across|among|differ|differs|different|than|between|with|and|related|depend|depends|bigger|larger|greater|smaller|higher|lower|associated|linked|from|at|until|up|over|after|within|the same)"  # nolint: line_length_linter.
  hit <- match_groups(out$text, sprintf("(?i)\\b(?:the |their )?(?:(mean|average|median) )?%s (?:in|of) (?:the |their )?((?!%s\\b)[\\p{L}_0-9]+(?: (?!%s\\b)[\\p{L}_0-9]+){0,3}?)(%s)(?=[?.!, ]*$| %s\\b)", noun, stop, stop, span, stop))  # nolint: line_length_linter.
  if (!is.na(hit[1])) {
    found <- measure_of(hit[3])
    if (!is.null(found) && tolower(found$said) == sub(" times?$", "", tolower(trimws(hit[3])))) {
      lead <- if (is.na(hit[2])) "@" else paste(hit[2], "@")
      return(list(measure = found$name, span = hit[4], text = sub(hit[1], lead, out$text, fixed = TRUE)))
    }
  }
  # "sbp at week 4 minus week 0 by arm"
  hit <- match_groups(out$text, sprintf("(?i)((?:[\\p{L}_0-9]+ ){1,3}?)at (%1$s) (?:minus|less) (?:that at |at |the one at )?(%1$s)", when))  # nolint: line_length_linter.
  if (!is.na(hit[1])) {
    found <- measure_of(hit[2])
    if (!is.null(found)) return(list(measure = found$name, span = sprintf(" from %s to %s", hit[4], hit[3]), text = sub(hit[1], "@ ", out$text, fixed = TRUE)))  # nolint: line_length_linter.
  }
  # "did sbp fall more on 10 mg than on placebo"
  verb <- change_verb()
  on <- "(?:on|in|with|for|among|under|at)"
  hit <- match_groups(out$text, sprintf("(?i)^ *(?:did|does|do|has|have) (?:the |their )?(.+?) %s (?:more|less|further|faster) %s (?:the )?(.+?) than (?:%s )?(?:the )?(.+?)(%s)[?.! ]*$", verb, on, on, span))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  found <- measure_of(hit[2])
  sides <- lapply(hit[3:4], part_level, study = out$study)
  if (is.null(found) || any(vapply(sides, is.null, NA)) || sides[[1]]$column != sides[[2]]$column) return(NULL)
  list(measure = found$name, span = hit[5], text = sprintf("does @ differ between %s and %s", level_as_said(sides[[1]]), level_as_said(sides[[2]])))
}

#' A level that is a number stands with its column: "diet 3"
#' @noRd
level_as_said <- function(side) if (grepl("^[0-9.]+$", side$level)) paste(side$column, side$level) else side$level

#' The one level that words mean, in whole or as a part ("10 mg" of "drug 10 mg")
#' @section Shape: list(column, level), or NULL.
#' @noRd
part_level <- function(words, study) {
  found <- level_in_text(study, words)
  if (!is.null(found)) return(found[c("column", "level")])
  # "diet 3", of a column diet with the level 3
  for (col in Filter(function(col) is_level_kind(col$kind), all_columns(study))) {
    own <- match_groups(words, sprintf("(?i)^ *%s (.+?) *$", as_literal(gsub("[_.]+", " ", col$name))))
    at <- match(tolower(own[2]), tolower(col$levels))
    if (!is.na(at)) return(list(column = col$name, level = col$levels[at]))
  }
  stems <- stems_of(words)[[1]]
  fits <- do.call(rbind, lapply(Filter(function(col) is_level_kind(col$kind), all_columns(study)), function(col) {
    own <- col$levels[vapply(stems_of(col$levels), function(level) length(stems) > 0 && all(stems %in% level), NA)]
    if (length(own)) data.frame(column = col$name, level = own, stringsAsFactors = FALSE)
  }))
  if (!is.null(fits) && nrow(fits) == 1) as.list(fits)
}

#' The two times of a change: those that are said, else the first and the last
#' @noRd
long_ends <- function(span, layout) {
  one <- function(said) if (grepl("baseline|start|begin|first", said, ignore.case = TRUE)) layout$first else if (grepl("end|last|final", said, ignore.case = TRUE)) layout$last else as.numeric(stringi::stri_extract_first_regex(said, "[0-9]+"))  # nolint: line_length_linter.
  span <- trimws(or_if_na(span, ""))
  two <- match_groups(span, "(?i)^(?:from|between) (.+?) (?:to|and|until) (.+)$")
  ends <- if (!is.na(two[1])) c(one(two[2]), one(two[3])) else if (nzchar(span)) c(layout$first, one(span)) else c(layout$first, layout$last)
  if (!anyNA(ends) && all(ends %in% layout$times) && ends[1] != ends[2]) ends
}

#' "how many subjects dropped out before week 12": units whose last row is an earlier one
#' @noRd
left_before <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  form <- sprintf("(?i)^ *(how many|what (?:share|proportion|percentage) of|which|(?:the )?number of) (?:the )?%s (?:who )?(?:have |had |were )?(?:dropped ?out|lost(?: to follow[- ]up)?|left|withdrew|withdrawn|discontinued|leave|drop out)(?: (?:early|the study|the trial))?(?: (?:before|by|until) (.+?))?((?: (?:by|in each|per|for each) .+?)?)[?.! ]*$", people_words())  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  # (a column may tell it)
  if (is.na(hit[1]) || any(grepl("drop|withdr|lost|discontinu|complete", tolower(vapply(all_columns(out$study), `[[`, "", "name"))))) return(out)
  end <- if (is.na(hit[3])) layout$last else long_ends(paste("by", hit[3]), layout)[2]
  if (is.null(end)) return(out)
  last <- paste0("last_", layout$time); first <- paste0(layout$unit, "_first")
  out <- with_derived(out, last, "last_seen", c(layout$unit, layout$time))
  ended <- sprintf("%s_side", last); labels <- paste(c("before", "from"), format_plain(end))
  if (grepl("^what", hit[2], ignore.case = TRUE)) out <- with_derived(out, ended, "bands", last, cuts = end, labels = labels)
  by <- sub("(?i)^ (in each|per|for each) ", " by ", hit[4], perl = TRUE)
  share <- grepl("^what", hit[2], ignore.case = TRUE)
  text <- if (share) sprintf("what share of rows with %s = yes have %s = %s%s", first, ended, labels[1], by)
    else if (grepl("^which", hit[2], ignore.case = TRUE)) sprintf("show rows with %s = yes and %s below %s", first, last, format_plain(end))
    else if (nzchar(by)) sprintf("count of rows%s with %s = yes and %s below %s", by, first, last, format_plain(end))
    else sprintf("how many rows with %s = yes and %s below %s", first, last, format_plain(end))
  out$told <- c(out$told, sprintf("Took those without a row from %s %s on to have left.", layout$time, format_plain(end)))
  with_derived(out, first, "first_row", layout$unit, text)
}

#' "which centre recruited the most patients": each patient once
#' @noRd
most_units <- function(out) {
  form <- "(?i)^ *(?:which|what) ([\\p{L}_]+) (?:has|have|had|recruited|enrolled|included|treated|saw|contributed) (?:the )?(most|fewest) ([\\p{L}_]+)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  layout <- if (!is.na(hit[1])) long_layout(out$study)
  if (is.null(layout)) return(out)
  people <- grepl(sprintf("^%s$", people_words()), hit[4], ignore.case = TRUE, perl = TRUE) && grepl("s$|people|children", hit[4])
  rows <- tolower(hit[4]) %in% c("rows", "visits", "records", "measurements", "observations", "readings", "entries")
  measured <- column_in_text(numeric_columns(out$study), hit[4], named_phrases(out$study))
  if (!people || rows || !is.null(measured)) return(out)
  reworded(out, sprintf("how many %ss are in each %s", sub("s$", "", layout$unit), hit[2]))
}

#' A question about what is the same in all rows of a unit, asked of one row for each
#'
#' Only where the data is long, so that its rows are times and no units of their own.
#' @section Shape: The verdict.
#' @noRd
once_per_unit <- function(study, verdict) {
  r <- verdict$reading
  shares <- identical(r$task, "frequency") && length(r$extra$event)
  if (!identical(verdict$status, "answered") || !(r$task %in% c("describe", "compare", "relate", "predict", "distribution") || shares)) return(verdict)  # nolint: line_length_linter.
  layout <- long_layout(study)
  if (is.null(layout) || length(r$time) || length(r$extra$per_unit) || isTRUE(r$extra[["rate"]]) || length(r$extra$weight)) return(verdict)
  used <- unique(c(r$outcome, r$by, r$predictors, r$adjust_for, vapply(r$filters, `[[`, "", "column")))
  data <- data_tables(study)[[1]]$data
  if (!length(c(r$outcome, r$by)) || !length(used) || any(used %in% c(layout$unit, layout$time)) || !all(used %in% names(data))) return(verdict)
  same <- vapply(used, function(name) same_within(data[[layout$unit]], data[[name]]), NA)
  if (!all(same)) return(verdict)
  first <- paste0(layout$unit, "_first")
  out <- with_derived(list(study = study), first, "first_row", layout$unit, "")
  if (!has_column(out$study, first)) return(verdict)
  r$filters <- c(r$filters, list(new_filter(first, "==", "yes")))
  r$assumed <- c(r$assumed, sprintf("Each %s counts once: %s the same in all its rows.", layout$unit, paste(some_of(used, 4), plural(length(used), "is", "are"))))  # nolint: line_length_linter.
  verdict$reading <- finish_reading(r)
  with_derived_study(verdict, out$study, study)
}

#' "is pain at visit 4 related to pain at visit 0", of rows at each time: the value then beside that of the same unit at the other time
#' @noRd
related_times <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  unit <- layout_step(layout)
  when <- sprintf("(%1$ss? [0-9.]+|baseline|(?:the )?(?:start|end|first %1$s|last %1$s))", unit)
  measure <- "([\\p{L}_][\\p{L}\\p{N}_ ]*?)"
  forms <- c(sprintf("(?i)^ *(?:is|are|was|how is|does|do) (?:the )?%1$s at %2$s (?:strongly |closely )?(?:related|correlated|associated|linked|depend(?:ent)?|predict(?:ed)?)s? (?:to|with|on|by)? ?(?:the )?(?:%1$s|that) at %2$s[?.! ]*$", measure, when),  # nolint: line_length_linter.
             sprintf("(?i)^ *(?:what is |show |give )?(?:the )?(?:correlation|relation|relationship|association|link) (?:between|of) (?:the )?%1$s at %2$s (?:and|with) (?:(?:the )?(?:%1$s|that) )?(?:at )?%2$s[?.! ]*$", measure, when))  # nolint: line_length_linter.
  numeric <- layout_measures(out$study, layout)
  phrases <- named_phrases(out$study, numeric)
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    one <- column_in_text(numeric, hit[2], phrases)
    two <- if (is.na(hit[4])) one else column_in_text(numeric, hit[4], phrases)
    times <- c(long_time(hit[3], layout), long_time(hit[5], layout))
    if (is.null(one) || is.null(two) || one$name != two$name || anyNA(times) || times[1] == times[2]) next
    name <- sprintf("%s_at_%s", one$name, gsub("[^0-9]", "_", format_plain(times[2])))
    text <- sprintf("is %s related to %s where %s = %s", one$name, name, layout$time, format_plain(times[1]))
    return(with_derived(out, name, "value_at", one$name, text, within = layout$unit, order = layout$time, on = times[2]))
  }
  out
}

#' The time that is said, where the data has rows of it
#' @noRd
long_time <- function(said, layout) {
  if (grepl("baseline|start|first", said, ignore.case = TRUE)) return(layout$first)
  if (grepl("end|last", said, ignore.case = TRUE)) return(layout$last)
  n <- as.numeric(stringi::stri_extract_last_regex(said, "[0-9.]+"))
  if (n %in% layout$times) n else NA_real_
}

#' "did pain fall faster with the new drug", of rows at each time: the change from first to last by the groups of that level
#' @noRd
faster_in_group <- function(out) {
  layout <- long_layout(out$study)
  # (in one table the course in the groups is compared with all its rows)
  if (is.null(layout) || length(data_tables(out$study)) == 1) return(out)
  form <- "(?i)^ *(?:did|does|do|has|have) (?:the )?(.+?) (?:fall|fell|drop|decrease|decline|improve|rise|increase|grow|worsen|change)s? (?:faster|slower|more|less|further|more quickly|more slowly|more steeply) (?:with|in|on|for|under|among) (?:the )?(.+?)(?: than .+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  numeric <- layout_measures(out$study, layout)
  found <- column_in_text(numeric, hit[2], named_phrases(out$study, numeric))
  state <- parse_question(hit[3], study_vocabulary(out$study))
  groups <- unique(vapply(state$groups, function(g) column_of(state, g$column), ""))
  if (is.null(found) || length(groups) != 1) return(out)
  unit <- tolower(sub("[_. ].*$", "", layout$time))
  reworded(out, sprintf("does the change in %s from %s %s to %s %s differ by %s", found$name, unit, format_plain(layout$first), unit,
    format_plain(layout$last), groups))
}
