# What is asked of experiments and diaries: blocks taken as random, doses against none, differences between blocks, reliability over
# occasions, trends over numbered days, rows that are odd.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_trials <- function() list(
  turn("\\bwith\\b", gets_worse_with), turn("\\brandom\\b", blocks_as_random), turn("\\b(differences|effects?)\\b", differences_between),
  turn("reliab|consisten|stable|repeatab|reproducib", reliable_over_times), turn("\\btrend", trend_over_index),
  turn("outlier|unusual|odd|suspicious|strange|extreme|anomal|implausible|wrong", odd_rows))

#' "does lodging get worse with nitrogen", of levels that are ordered: how the two go together
#' @noRd
gets_worse_with <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:do|does|did|is|are) (?:the )?(.+?) (?:gets?|getting|becomes?|becoming|grows?) (?:worse|better|stronger|heavier|more severe|higher|lower|milder|weaker) (?:with|at|under) (?:more |higher |increasing |the )*(.+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  ordered <- column_in_text(Filter(function(col) col$kind == "ordered", all_columns(out$study)), hit[2], named_phrases(out$study))
  numeric <- numeric_in_text(out$study, hit[3])
  if (is.null(ordered) || is.null(numeric)) return(out)
  reworded(out, sprintf("how does %s go with %s", ordered$name, numeric$name))
}

#' "treat blocks as random: effect of variety on yield", "compare varieties on yield with block as random": a model with an intercept for each
#' @noRd
blocks_as_random <- function(out) {
  lead <- match_groups(out$text, "(?i)^ *(?:treat|treating|take|taking|with|using) (?:the )?([\\p{L}_]+) as (?:an? )?random(?: effects?| factors?| intercepts?)?[,:;] *(.+)$")  # nolint: line_length_linter.
  tail <- match_groups(out$text, "(?i)^ *(.+?),? (?:with|treating|taking|using) (?:the )?([\\p{L}_]+) as (?:an? )?random(?! effects?)(?: factors?| intercepts?)?[?.! ]*$")  # nolint: line_length_linter.
  said <- if (!is.na(lead[1])) lead[2] else if (!is.na(tail[1])) tail[3] else return(out)
  rest <- if (!is.na(lead[1])) lead[3] else tail[2]
  group <- column_in_text(all_columns(out$study), said, named_phrases(out$study))
  if (is.null(group)) return(out)
  rest <- without_mark(rest)
  # "compare varieties on yield", "does yield differ between varieties"
  compared <- match_groups(rest, "(?i)^compare (?:the )?([\\p{L}_ ]+?) (?:on|in|for|by) (?:the |their )?([\\p{L}_ ]+)$")
  if (!is.na(compared[1])) rest <- sprintf("effect of %s on %s", compared[2], compared[3])
  differs <- match_groups(rest, "(?i)^(?:do|does|did) (?:the )?([\\p{L}_ ]+?) (?:differ|vary) (?:between|across|by|among) (?:the )?([\\p{L}_ ]+)$")
  if (!is.na(differs[1])) rest <- sprintf("effect of %s on %s", differs[3], differs[2])
  reworded(out, sprintf("%s with %s as a random effect", rest, group$name))
}

#' "are block differences big", "are there variety effects": groups whose measure is not named
#' @noRd
differences_between <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:are|were|is|was) (?:there )?(?:the |any |large |big |clear |significant )*([\\p{L}_]+) (?:differences|effects?)(?: (?:big|large|important|significant|clear|strong|real|noticeable|small))?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  grouped <- Filter(function(col) is_level_kind(col$kind) || isTRUE(col$distinct <= 12) && col$kind == "count", all_columns(out$study))
  group <- column_in_text(grouped, hit[2], named_phrases(out$study))
  if (is.null(group)) return(out)
  reworded(out, sprintf("compare the groups of %s", group$name))
}

#' "reliability of sleep minutes across days", of long data: how far the values of one unit agree
#' @noRd
reliable_over_times <- function(out) {
  # "are the three items consistent (with each other)"
  items <- "(?i)^ *(?:are|is|how) (?:the |these |those |our )?((?:[0-9]+|two|three|four|five|six|seven|eight|nine|ten) )?(items|questions|statements|scale|answers) (?:internally )?(?:consistent|coherent|reliable)(?: with (?:each other|one another))?[?.! ]*$"  # nolint: line_length_linter.
  if (grepl(items, out$text, perl = TRUE)) return(reworded(out, sub(items, "reliability of the \\1items", out$text, perl = TRUE)))
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  step <- layout_step(layout)
  form <- sprintf("(?i)^ *(?:(?:what|how) (?:is|are|was) )?(?:the )?(?:test-?retest )?(?:reliability|consistency|stability|repeatability|reproducibility|reliable|consistent|stable|repeatable|reproducible) (?:(?:is|are|of|was) )?(?:the )?(.+?) (?:across|over|between|from|through) (?:the )?(?:%ss?|occasions|times|measurements|visits)(?: to %s)?[?.! ]*$",  # nolint: line_length_linter.
                  step, step)
  hit <- match_groups(out$text, form)
  measure <- if (!is.na(hit[1])) numeric_in_text(out$study, hit[2])
  if (is.null(measure) || measure$name == layout$time) return(out)
  reworded(out, sprintf("intraclass correlation of %s within %s", measure$name, layout$unit),
           sprintf("Reliability over %ss is how far the values of the same %s agree.", step, key_noun(layout$unit)))
}

#' "is there a trend in screen time", of rows numbered by their day and without dates: over those days
#' @noRd
trend_over_index <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(date_columns(out$study)) || !is_numeric_kind(find_column(out$study, layout$time)$kind)) return(out)
  hit <- match_groups(out$text, "(?i)^ *(?:(?:is|was) there |what is |show |test for )?(?:an? |any |the )?(?:linear |time |clear |upward |downward )?trends? (?:in|of|for) (?:the )?([\\p{L}_ ]+?)( (?:by|per|in each|for each|between|among) .+)?[?.! ]*$")  # nolint: line_length_linter.
  measure <- if (!is.na(hit[1])) numeric_in_text(out$study, hit[2])
  if (is.null(measure) || measure$name == layout$time) return(out)
  step <- layout_step(layout)
  reworded(out, sprintf("is there a trend in %s over the %ss%s", measure$name, step, if (is.na(hit[3])) "" else hit[3]),
           sprintf("The trend is that over %s.", layout$time))
}

#' "which plots are outliers", "which rows look odd": a scan of all columns, or of the one that is named
#' @noRd
odd_rows <- function(out) {
  odd <- "(?:outliers?|outlying|unusual|odd|suspicious|strange|extreme|anomalous|anomalies|implausible|wrong)"
  hit <- match_groups(out$text, sprintf("(?i)^ *(?:which|what) (?:of the )?([\\p{L}]+) (?:are|is|look|looks|seem|seems|might be|could be) (?:the )?%s[?.! ]*$", odd))  # nolint: line_length_linter.
  if (!is.na(hit[1])) {
    rows <- names_rows(study_vocabulary(out$study), hit[2]) || length(keys_called(key_columns(out$study), hit[2]))
    return(if (rows) reworded(out, "list the outliers") else out)
  }
  hit <- match_groups(out$text, sprintf("(?i)^ *(?:which|what) (?:of the )?[\\p{L}]+ (?:have|has|had|with) (?:an? |the )?%s (?:values? (?:of|for|in) )?(?:the )?([\\p{L}_ ]+?)(?: values?)?[?.! ]*$", odd))  # nolint: line_length_linter.
  measure <- if (!is.na(hit[1])) numeric_in_text(out$study, hit[2])
  if (is.null(measure)) out else reworded(out, sprintf("outliers in %s", measure$name))
}
