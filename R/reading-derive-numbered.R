# Rows of the same units at numbered times (week 0, 2, 4, 8): values at one time held constant at another, what units lose or gain, the
# groups at the first time.

#' The turns about numbered times, as of `everyday_turns()`
#' @noRd
turns_of_numbered <- function() {
  list(turn("adjust|control|account|allow|correct|hold", adjusted_at_times), turn("^ *(did|have|has|do|does) ", units_lose),
       turn("similar|comparable|alike|balanced|equal|the same|differ", groups_at_first_time),
           turn("\\bfor (both|all|each|the two|the three|every)\\b", for_both_groups),
       turn("effects? on\\b", treatment_effect_within), turn("\\b(got|get|gets|became|become|getting|becoming) (worse|better)\\b", who_got_worse))
}

#' How a time of the layout is said
#' @noRd
time_said <- function(layout) {
  unit <- layout_step(layout)
  sprintf("(?:%1$ss? [0-9.]+|[0-9.]+ %1$ss?|baseline|(?:the )?(?:start|end|first %1$s|last %1$s))", unit)
}

#' "lameness by arm at week 8 adjusting for baseline lameness", "adjusting for age and lameness at week 0": the unit's own value then
#' @noRd
adjusted_at_times <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(layout$levels)) return(out)
  adjusting <- "(?:when |after |once )?(?:adjust(?:ing|ed)?|control(?:ling|led)?|account(?:ing|ed)?|allow(?:ing|ed)?|correct(?:ing|ed)?) for (?:the |their )?"  # nolint: line_length_linter.
  text <- sub(sprintf("(?i)^ *(%s[^,]+), +(.+?)[?.! ]*$", adjusting), "\\2, \\1", out$text, perl = TRUE)
  when <- time_said(layout)
  hit <- match_groups(text, sprintf("(?i)^(.+?) (?:at|in|on) (?:the )?(%s)(.*?),? %s(.+?)[?.! ]*$", when, adjusting))
  if (is.na(hit[1])) return(out)
  held <- held_at_time(out, hit[5], layout, when)
  if (is.null(held)) return(out)
  numeric <- layout_measures(out$study, layout)
  asked <- paste0(hit[2], hit[4])
  measure <- column_in_text(numeric, asked, named_phrases(out$study, numeric)) %||% column_in_text(numeric, asked, kin_phrases(out$study, asked))
  if (is.null(measure)) {
    # "what is the treatment effect at week 8 adjusted for baseline lameness": on that
    arm <- treatment_column(out$study, wide = TRUE)
    effect <- "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:treatment|intervention|drug|therapy|group|arm) effect *$"
    if (is.null(arm) || is.null(held$measure) || !grepl(effect, asked, perl = TRUE)) return(out)
    asked <- sprintf("effect of %s on %s", arm, held$measure)
    measure <- list(name = held$measure)
  }
  at <- c(long_time(hit[3], layout), held$time)
  name <- held$measure %||% measure$name
  if (anyNA(at) || at[1] == at[2]) return(out)
  value_at_occasion(out, layout, name, at[2], sprintf("%s where %s = %s, adjusting for %s%s", asked, layout$time, format_plain(at[1]),
                                                      held$others, occasion_column(name, at[2])))
}

#' What is held constant: a measure at another time, and what stands beside it
#' @section Shape: list(measure (NULL: that of the question), time, others ("age and ", or "")), or NULL.
#' @noRd
held_at_time <- function(out, said, layout, when) {
  hit <- match_groups(said, sprintf("(?i)^((?:[\\p{L}_0-9 ,]+?(?:, and|,| and) )?)((?:[\\p{L}_0-9]+ ){0,3}?)(?:at |in )?(?:the )?(%s)((?: [\\p{L}_]+){0,3})$", when))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  numeric <- layout_measures(out$study, layout)
  bare <- trimws(gsub("(?i)\\b(?:values?|scores?|levels?|measurements?|at|in|the|their|of)\\b", "", paste(hit[3], hit[5]), perl = TRUE))
  measure <- if (nzchar(bare)) column_in_text(numeric, bare, kin_phrases(out$study, bare))
  if (nzchar(bare) && is.null(measure)) return(NULL)
  list(measure = measure$name, time = long_time(hit[4], layout), others = hit[2])
}

#' "did the dogs lose weight", "have they gained strength": the measure over the times
#' @noRd
units_lose <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  hit <- match_groups(out$text, "(?i)^ *(?:did|have|has|do|does) (?:the |all |all the )?([\\p{L}_]+) (lose|lost|shed|gain|gained|put on) (?:any |much |some )?([\\p{L}_ ]+?)(?: (?:over|during|across) (?:time|the [\\p{L}_ ]+))?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !(names_rows(study_vocabulary(out$study), tolower(hit[2])) || grepl("^(they|patients|people|animals|subjects)$",
      tolower(hit[2])))) return(out)
  numeric <- layout_measures(out$study, layout)
  found <- column_in_text(numeric, hit[4], kin_phrases(out$study, hit[4])) %||% column_of_one_word(numeric, hit[4])
  if (is.null(found)) return(out)
  reworded(out, sprintf("did %s change over the %ss", found$name, layout_step(layout)))
}

#' "were the arms similar at week 0": the table of what was measured then, by the groups
#' @noRd
groups_at_first_time <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(layout$levels)) return(out)
  form <- sprintf("(?i)^ *(?:were|are|was|did|do|is) (?:the |all )?([\\p{L}_ ]+?) (?:similar|comparable|alike|the same|balanced|equal|well matched|matched|different|differ) (?:at|in|on) (?:the )?(%s)[?.! ]*$", time_said(layout))  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  groups <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  by <- column_of_words(groups, strsplit(hit[2], " ")[[1]])$name %||% if (grepl("^(groups|arms|treatments)$",
      tolower(hit[2]))) treatment_column(out$study, wide = TRUE)
  at <- long_time(hit[3], layout)
  if (is.null(by) || is.na(at)) return(out)
  reworded(out, sprintf("baseline table by %s for rows where %s is %s", by, layout$time, format_plain(at)))
}

#' "mean lameness at each week for both arms": by the groups
#' @noRd
for_both_groups <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bfor (?:both|all|all the|each of the|the two|the three|every) ([\\p{L}_]+)(?=[?.! ]*$|,)")
  if (is.na(hit[1]) || grepl("^ *(compare|is|are|do|does|did|which|what share)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  groups <- Filter(function(col) is_level_kind(col$kind) && length(col$levels) <= 12, all_columns(out$study))
  found <- column_of_words(groups, hit[2])
  if (is.null(found)) return(out)
  at <- "(?i)\\b(?:at|in|for) (?:each|every) ([\\p{L}_]+)\\b"
  reworded(out, sub(hit[1], paste("by", found$name), sub(at, "by \\1", out$text, perl = TRUE), fixed = TRUE))
}

#' "is the effect on lameness the same in all breeds": the effect of the treatment
#' @noRd
treatment_effect_within <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is|was|are|were) (?:the )?effects? on (?:the )?(.+?) (?:the same|equal|similar|different|larger|smaller|stronger|weaker) (?:in|for|among|on|at|with|across|between) (?:the |all |both |each |every )*(.+?)(?: than .+)?[?.! ]*$")  # nolint: line_length_linter.
  arm <- if (!is.na(hit[1])) treatment_column(out$study, wide = TRUE)
  outcome <- if (!is.null(arm)) numeric_in_text(out$study, hit[2])$name
  by <- if (!is.null(outcome)) divider_said(out$study, hit[3])
  if (is.null(by) || by == arm) return(out)
  reworded(out, sprintf("does the effect of %s on %s depend on %s", arm, outcome, by), sprintf("Took the effect as that of %s.", arm))
}

#' "which dogs got worse", which does not say in what
#' @noRd
who_got_worse <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:which|what|who|list|show)\\b(?: (?:of the )?(?!share|proportion|percentage|percent|fraction)([\\p{L}_]+))? (?:have |has )?(?:got|became|become|getting|becoming) (worse|better)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("rank %s by the change in what is measured", if (is.na(hit[2])) "rows" else hit[2]))
}
