# Trials with a row for each visit: what is asked of the course, of units that came to all visits, of the time at which arms part, of a
# value at the start beside the change.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_visits_long <- function() list(
  turn("baseline|start|first|week|visit|month|day", start_beside_change),
      turn("complete|every visit|all visits|all the visits", units_at_all_times),
  turn("over (time|the|\\w+s\\b)|across|trajector|\\bcourse\\b", over_occasions_in_words), turn("trajector|\\bcourse\\b", course_over_times), turn("first (differ|separate|diverge|part)|(differ|separate|diverge|part) first",  # nolint: line_length_linter.
      when_arms_part),
  turn("\\b(plot|draw|show|graph|chart)\\b.*\\bover\\b", plot_over_steps),
      turn("\\beffects? (of|on)\\b.*\\b(different|differ|same|larger|smaller|stronger|weaker)\\b", level_effect_apart),
  turn("\\brespon(se|ded|d)\\b", response_as_responder))

#' "ancova of sbp at week 12 by arm with baseline sbp as covariate": baseline held constant
#' @noRd
baseline_as_covariate <- function(out) {
  if (is.null(long_layout(out$study))) return(out)
  reworded(out, gsub("(?i),? (?:with|using|taking) (?:the )?((?:baseline|initial)(?: [\\p{L}_]+){0,3}?|[\\p{L}_ ]+? at baseline) as (?:an? |the )?covariates?\\b", " adjusting for \\1",  # nolint: line_length_linter.
                     sub("(?i)^ *(?:run |do |fit )?(?:an? |the )?(?:ancova|analysis of covariance)(?: of| for| on) (.+?) by (?:the )?([\\p{L}_]+)", "compare \\2 on \\1", out$text, perl = TRUE),  # nolint: line_length_linter.
                     perl = TRUE))
}

#' "does sbp at baseline predict the drop in sbp", once the change is a column: the unit's own value at the start beside it
#' @noRd
start_beside_change <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(layout$levels) || !grepl("_change\\b", out$text) || !grepl(sprintf("where %s = ", layout$time), out$text,
      fixed = TRUE)) return(out)
  numeric <- layout_measures(out$study, layout)
  numeric <- Filter(function(col) !grepl("_change$", col$name), numeric)
  when <- time_said(layout)
  hit <- match_groups(out$text, sprintf("(?i)\\b(?:the )?(?:((?:[\\p{L}_]+ ){0,2}?[\\p{L}_]+) (?:at|in|from) (?:the )?(%1$s)|(baseline|initial|starting) ((?:[\\p{L}_]+ ){0,2}?[\\p{L}_]+?))(?= (?:predict|relat|correlat|associat|affect|influence|go|and|with|explain|determine)|[?.!, ]*$| where )", when))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  said <- sub("(?i)^(?:is|are|does|do|did|was|were|how is|the relation between|relation between|correlation between|correlation of|of|between|to|with|on) ", "", stats::na.omit(hit[c(2, 5)])[1], perl = TRUE)  # nolint: line_length_linter.
  measure <- column_in_text(numeric, said, named_phrases(out$study, numeric)) %||% column_in_text(numeric, said, kin_phrases(out$study, said))
  if (is.null(measure)) return(out)
  at <- if (is.na(hit[3])) layout$first else long_time(hit[3], layout)
  if (is.na(at)) return(out)
  name <- occasion_column(measure$name, at)
  span <- sub(said, "", hit[1], fixed = TRUE)
  lead <- sub(sprintf("(?i)(?:the )?%s.*$", as_literal(said)), "", hit[1], perl = TRUE)
  lead <- if (is.na(hit[3])) "" else lead
  value_at_occasion(out, layout, measure$name, at, sub(hit[1], paste0(lead, name), out$text, fixed = TRUE))
}

#' "how many subjects have a complete set of visits": units with a row at each time
#' @noRd
units_at_all_times <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  form <- sprintf("(?i)^ *(how many|what (?:share|proportion|percentage) of|which) (?:of the )?%s (?:who |that )?(?:have |had |has |with |came to |attended |completed |made |were seen at )+(?:an? |the )?(?:complete (?:set of )?(?:data|visits|records|measurements|follow[- ]?up|series)|(?:at )?(?:every|all|each)(?: of)?(?: the)? (?:visits?|times?|time ?points?|occasions?|measurements?|%ss?))[?.! ]*$",  # nolint: line_length_linter.
                  people_words(), layout_step(layout))
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  count <- paste0(layout$unit, "_occurrences"); first <- paste0(layout$unit, "_first")
  times <- length(layout$times)
  out <- with_derived(out, count, "rows_each", layout$unit)
  lead <- if (grepl("^how", hit[2], ignore.case = TRUE)) sprintf("how many rows with %s = yes and %s at least %d", first, count, times)
    else if (grepl("^which", hit[2], ignore.case = TRUE)) sprintf("show rows with %s = yes and %s at least %d", first, count, times)
    else sprintf("what share of rows where %s = yes have %s at least %d", first, count, times)
  out$told <- c(out$told, sprintf("Complete are those with a row at each of the %d values of %s.", times, layout$time))
  with_derived(out, first, "first_row", layout$unit, lead)
}

#' "trajectory of pain over time", "course of pain by arm": the means over the times
#' @noRd
course_over_times <- function(out) {
  layout <- long_layout(out$study)
  hit <- match_groups(out$text, "(?i)^ *(?:what is |show |plot |draw |describe )?(?:the |mean |average )*(?:trajector(?:y|ies)|(?:time )?course) (?:of|in|for) (?:the )?(.+?)(?: over (?:the )?(?:time|[\\p{L}]+s))?((?: (?:by|in each|for each|per) .+?)?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  measure <- numeric_in_text(out$study, hit[2])
  if (is.null(measure) || is.null(layout) && !length(date_columns(out$study))) return(out)
  over <- if (is.null(layout)) "time" else paste0("the ", layout_step(layout), "s")
  reworded(out, sprintf("mean %s over %s%s", measure$name, over, hit[3]))
}

#' "at which visit do the arms first differ in pain": the groups at each time beside each other
#' @noRd
when_arms_part <- function(out) {
  layout <- long_layout(out$study)
  hit <- match_groups(out$text, "(?i)^ *(?:at (?:which|what)|when|in which|which) ?(?:[\\p{L}_]+ )?(?:do|does|did) (?:the )?([\\p{L}_ ]+?) (?:first )?(?:differ|separate|diverge|part)(?: first)?(?: (?:in|on) (?:the |their )?(.+?))?[?.! ]*$")  # nolint: line_length_linter.
  if (is.null(layout) || is.na(hit[1]) || is.na(hit[3])) return(out)
  measure <- numeric_in_text(out$study, hit[3])
  groups <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  by <- column_in_text(groups, hit[2], named_phrases(out$study))$name %||% if (grepl("^(groups|arms|treatments)$", tolower(hit[2]))) treatment_column(out$study, wide = TRUE)  # nolint: line_length_linter.
  if (is.null(measure) || is.null(by)) return(out)
  reworded(out, sprintf("mean %s by %s and %s", measure$name, layout$time, by),
           "The means stand beside each other at each time; look at one time with \"only\" for its test, and allow for testing several.")
}

#' "plot mean sbp over weeks by arm": the times of the long data along the axis
#' @noRd
plot_over_steps <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(date_columns(out$study))) return(out)
  step <- layout_step(layout)
  form <- sprintf("(?i)^ *(?:plot|draw|show|graph|chart) (?:the )?((?:mean |average |median )?)(?:the )?([\\p{L}_ ]+?) over (?:the )?(?:%ss?|time|visits?)((?: (?:by|for each|in each|per|for) (?:the )?[\\p{L}_ ]+?)?)(?: with .+)?[?.! ]*$", step)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  measure <- if (!is.na(hit[1])) numeric_in_text(out$study, hit[3])
  if (is.null(measure) || measure$name == layout$time) return(out)
  reworded(out, sprintf("%s over the %ss%s", paste0(if (nzchar(hit[2])) hit[2] else "mean ", measure$name), step, hit[4]))
}

#' "is the drug effect on pain different for men and women", "is the effect of syrup the same in the north": whether one effect depends on
#' the other column
#' @noRd
level_effect_apart <- function(out) {
  forms <- c("(?i)^ *(?:is|are|was|were) (?:the )?([\\p{L}_0-9 ]+?) effects? on (?:the )?(.+?) (?:different|the same|equal|larger|smaller|stronger|weaker|similar) (?:for|in|among|between|across|by) (?:the |all |both )*(.+?)(?: than .+)?[?.! ]*$",  # nolint: line_length_linter.
             "(?i)^ *(?:do|does|did) (?:the )?([\\p{L}_0-9 ]+?) effects? on (?:the )?(.+?) (?:differ|vary) (?:for|in|among|between|across|by) (?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    level <- whole_level(out$study, hit[2])
    cause <- level$column %||% column_in_text(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)), hit[2],
        named_phrases(out$study))$name
    measured <- Filter(function(col) is_numeric_kind(col$kind) || col$kind == "yes_no", all_columns(out$study))
    outcome <- column_in_text(measured, hit[3], kin_phrases(out$study, hit[3]))$name
    by <- divider_said(out$study, hit[4]) %||% divided_by_people(out$study, hit[4])
    if (is.null(cause) || is.null(outcome) || is.null(by) || by == cause) next
    return(reworded(out, sprintf("does the effect of %s on %s depend on %s", cause, outcome, by)))
  }
  out
}

#' The column whose levels words such as "men and women" are
#' @noRd
divided_by_people <- function(study, said) {
  parts <- strsplit(said, "(?i) (?:and|or|versus|vs) (?:the )?", perl = TRUE)[[1]]
  vocabulary <- study_vocabulary(study)
  own <- lapply(parts, function(part) unique(vocabulary$values$column[vocabulary$values$phrase == joined_stems(tolower(part))]))
  shared <- Reduce(intersect, own)
  if (length(parts) > 1 && length(shared) == 1) vocabulary$columns$name[shared]
}

#' "effect of age on response", beside a yes/no column responder and no column of that name: who responded
#' @noRd
response_as_responder <- function(out) {
  columns <- all_columns(out$study)
  own <- Filter(function(col) col$kind == "yes_no" && grepl("(^|[_. ])respond(er|ed)s?([_. ]|$)", tolower(col$name)), columns)
  named <- any(vapply(columns, function(col) grepl("(^|[_. ])response", tolower(col$name)), NA))
  if (length(own) != 1 || named) return(out)
  reworded(out, gsub("(?i)\\b(?:the )?(?:treatment )?response(?! (?:rate|time|variable|id))(?:s)?\\b", own[[1]]$name, out$text, perl = TRUE),
           sprintf("Took response to mean %s.", quoted(own[[1]]$name)))
}

#' The one column of occasions in words (Screening, Week 4, Week 12) of units that come back, in data without dates or numbered times
#' @noRd
occasions_in_words <- function(study) {
  if (length(date_columns(study)) || !is.null(long_layout(study)) || !length(keys_of(study, single = FALSE))) return(NULL)
  own <- Filter(function(col) col$kind %in% c("category", "ordered") && isTRUE(col$distinct %in% 2:12) &&
    grepl("^(a?visits?|visit_?name|time_?points?|waves?|sessions?|occasions?|phases?|assessments?|rounds?)$", tolower(col$name)), all_columns(study))
  if (length(own) == 1) own[[1]]$name
}

#' "does creatinine change over time", "pain over visits by arm": over the occasions that a column tells in words
#' @noRd
over_occasions_in_words <- function(out) {
  name <- occasions_in_words(out$study)
  if (is.null(name)) return(out)
  over <- sprintf("(?:over|across) (?:the )?(?:time|%ss?|visits?|occasions?|time ?points?)", as_literal(name))
  by <- "((?: (?:by|in each|for each|per) (?:the )?[\\p{L}_ ]+?)?)((?: (?:where|for|in|among) .+?)?)[?.! ]*$"
  # did it change?
  asked <- match_groups(out$text, sprintf("(?i)^ *(?:do|does|did|has|have|is|are) (?:the )?(.+?) (?:change|changed|changing|differ|vary|varied|different) %s%s", over, by))  # nolint: line_length_linter.
  if (!is.na(asked[1]) && !is.null(numeric_in_text(out$study, asked[2]))) {
    return(reworded(out, sprintf("did %s change between the %ss%s%s", asked[2], sub("s$", "", tolower(name)), asked[3], asked[4])))
  }
  course <- sprintf("(?i)^ *((?:plot|draw|show|graph|chart)?) ?(?:of |the |mean |average )*(?:(?:trajector(?:y|ies)|(?:time )?course) (?:of|in|for) (?:the )?(.+?)(?: %s)?|(.+?) %s)%s",  # nolint: line_length_linter.
                    over, over, by)
  hit <- match_groups(out$text, course)
  if (is.na(hit[1])) return(out)
  measure <- numeric_in_text(out$study, or_if_na(hit[3], hit[4]))
  if (is.null(measure)) return(out)
  groups <- sub("(?i)^ (?:by|in each|for each|per) (?:the )?", "", or_if_na(hit[5], ""), perl = TRUE)
  # (a picture of the course in groups is that of their interaction)
  lead <- if (!nzchar(or_if_na(hit[2], ""))) "mean" else if (nzchar(groups)) "interaction plot of" else "plot mean of"
  reworded(out, sprintf("%s %s by %s%s%s", lead, measure$name, name,
                        if (nzchar(groups)) paste(" and", groups) else "", or_if_na(hit[6], "")))
}
