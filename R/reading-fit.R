# Fitting a task to the kinds of the columns that fill it.

#' Move to the neighbouring task that the kinds of columns call for
#' @noRd
fit_task <- function(state, mentions, task) {
  if (task == "distribution" && length(mentions) >= 2 && is.null(single_method(state)) && any(vapply(mentions, function(m) m$marker == "by" &&
    can_group(state, m$column), NA)) &&
      !grepl("normal", state$text, ignore.case = TRUE)) {
    return(if (mention_kinds(state, mentions)[1] %in% c("number", "count")) "describe" else "frequency")
  }
  if (!task %in% c("compare", "relate", "predict", "describe", "frequency", "change")) return(task)
  if (task %in% c("compare", "relate") && asks_for_clusters(state)) return("predict")
  kinds <- mention_kinds(state, mentions)
  rest <- kinds[vapply(mentions, function(m) m$marker != "adjust", NA)]
  method <- single_method(state)
  if (!is.null(method) && method %in% names(tasks_of_methods())) return(task)
  positive <- Filter(function(g) !g$negated && names_several(g), state$groups)
  adjusted <- any(vapply(mentions, function(m) m$marker == "adjust", NA))
  numbers <- sum(rest %in% c("number", "count"))
  dividers <- sum(vapply(mentions, function(m) m$marker != "adjust" && is_level_kind(kind_at(state, m$column)), NA)) +
    length(positive)
  if (task == "compare" && !is.null(state$null_value)) return("compare")
  if (task == "compare" && adjusted && !length(positive)) return("predict")
  if (task == "compare" && numbers >= 2 && dividers == 0 && length(rest) >= 2) {
    few <- vapply(mentions, function(m) can_group(state, m$column) &&
                  (m$marker %in% c("by", "between") || divides(state, m, mentions)), NA)
    if (!any(few)) return(if (!paired_columns(state, mentions)) "relate" else "change")
  }
  if (task == "relate" && rate_of_event(state, mentions)) {
    # "the cancellation rate by plan": shares, where no relation is asked about
    divided <- vapply(mentions, function(m) m$marker == "by", NA)
    plain <- !any(vapply(state$items, has_lex, NA, "task", c("relate", "compare", "predict", "drivers")))
    return(if (plain && sum(divided) == 1 && sum(!divided) == 1) "frequency" else "relate")
  }
  if (task == "relate" && numbers == 1 && (dividers == 1 || length(state$groups) > 0) && length(rest) <= 2 &&
      !any(rest == "ordered")) return("compare")
  if (task == "relate" && adjusted) return("predict")
  if (task == "describe" && !is.null(main_statistic(state)) && main_statistic(state) == "percent") return("frequency")
  if (task == "describe" && length(rest) && !any(rest %in% c("number", "count", "ordered", "date", "datetime",
                                                             "constant"))) return(if (any(rest == "text")) "themes"
                                                                 else "frequency")
  if (task == "frequency" && numbers == 1 && length(rest) == 1 && !length(state$groups) && !length(state$filters) &&
      !is.null(main_statistic(state)) && main_statistic(state) %in% c("mean", "median")) return("describe")
  task
}

#' A column of few values that, by the verb, acts on another of many ("do the diets lead to different weights")
#' @noRd
divides <- function(state, m, mentions) {
  others <- Filter(function(o) o$column != m$column, mentions)
  few <- state$vocabulary$columns$coded[m$column]
  few && length(mentions) == 2 && length(others) == 1 && !can_group(state, others[[1]]$column) &&
    effect_first(state, mentions) &&
    mentions[[1]]$column == m$column
}

#' Two columns of one stem (score_t1, score_t2; drug_1, drug_2) measured in the same rows
#' @noRd
paired_columns <- function(state, mentions) {
  names <- column_names_of(state, mentions)
  if (length(names) < 2 || anyDuplicated(names)) return(FALSE)
  stems <- sub("[_. ]*((t|time|wave|visit|week|day|month|w|v)?[_. ]?[0-9]+|before|after|pre|post|baseline|followup|follow_up|start|end)([_. ](kg|g|mg|lb|cm|mm|m|mmhg|bpm|pct))?$",
      "", tolower(names))
  if (all(stems == stems[1]) && nzchar(stems[1])) return(TRUE)
  timed <- timed_at_start(names)
  if (!is.null(timed) && nrow(timed) == length(names) && length(unique(timed$stem)) == 1) return(TRUE)
  # "compare MPG city and MPG highway": one measure in two forms
  words <- strsplit(tolower(name_words(names)), " ", fixed = TRUE)
  kinds <- mention_kinds(state, mentions)
  length(names) == 2 && grepl("^ *compare\\b|\\bthan\\b", state$text, ignore.case = TRUE) && all(kinds %in% c("number", "count")) &&
    all(lengths(words) > 1) && words[[1]][1] == words[[2]][1]
}
