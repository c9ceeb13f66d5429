# Follow-ups: a question that edits the reading before it.

#' Read a follow-up to a reading
#'
#' @param previous The reading it follows.
#' @param history Readings answered before, the latest last; a follow-up of an answer that failed goes on from the last of them.
#' @section Shape: As [read_question()].
#' @noRd
read_follow_up <- function(study, text, previous, history = list(previous)) {
  # totals of units are taken anew, over the rows that the edited conditions keep
  whole <- without_units(study)
  verdict <- follow_reading(whole, text, previous, history)
  verdict <- totals_of_units(verdict$study %||% whole, verdict, verdict$reading$extra$per_unit)
  if (!identical(whole, study) && is.null(verdict$study)) verdict$study <- whole
  verdict
}

#' A study whose rows are those of its tables, where a question before had them added up for each unit
#' @noRd
without_units <- function(study) {
  added <- !vapply(study$tables, function(t) is.null(t$before_units), NA)
  if (!any(added)) return(study)
  study$tables[added] <- lapply(study$tables[added], `[[`, "before_units")
  refresh(study)
}

#' Read a follow-up on the rows as they are
#' @noRd
follow_reading <- function(study, text, previous, history) {
  text <- clean_question(text)
  choice <- chosen_alternative(previous, text)
  vocabulary <- study_vocabulary(study)
  # what was chosen may leave a second thing open
  if (!is.null(choice)) return(if (length(choice$extra$missing)) missing_verdict(list(vocabulary = vocabulary),
    choice) else new_verdict("answered", choice))
  # "now by membership"
  text <- sub(paste0("^(?i)(?:and |then |ok |okay )*now,? ",
                     "(?=(?:by|for|in|only|just|with|without|as|add|remove|exclude|drop|use|show|adjust|compare|split)\\b)"), "", text, perl = TRUE)
  # "back to Welch"
  text <- sub("^(?i)(please |and |now |go )*back to (the )?(?=[a-z])", "use ", text, perl = TRUE)
  if (!nzchar(text) || nchar(text) > 2000 || stringi::stri_count_words(text) > 300) return(read_question(study, text))
  if (asks_for_help(text)) return(read_question(study, text))
  # nothing was answered yet, and this chooses none of what was asked back
  if (!length(history) && length(previous$alternatives)) return(narrow_choices(text, previous, vocabulary) %||% read_question(study, text))
  # a question about what the data does not hold leaves nothing to go on from
  if (!length(history) && identical(previous$confidence, 0)) return(read_question(study, text))
  latest <- previous
  if (length(history)) previous <- history[[length(history)]]
  if (length(history) && !asks_meaning(text)) {
    # the rows of an answer that failed for what was asked of them can still be counted
    if (length(latest$filters) > length(previous$filters)) {
      counted <- ask_number(trimws(gsub("[.!?]+$", "", text)), latest, history)
      if (!is.null(counted)) return(counted)
    }
    told <- baseline_added(study, without_opening(text), previous) %||% edit_by_words(text, previous, history)
    if (!is.null(told)) return(told)
  }
  # "what share of them churned", after a count of the yes of a column: of those for whom it says yes
  them <- "(?i)\\b(of|among) (them|those|these)\\b(?! (who|that|which|with)\\b)"
  counted <- match(previous$outcome, vocabulary$columns$name)
  if (grepl(them, text, perl = TRUE) && identical(previous$task, "frequency") && length(counted) == 1 &&
    vocabulary$columns$kind[counted] %in% "yes_no" &&
      !length(previous$by) && !length(previous$filters) && !length(previous$extra$event)) {
    text <- sub(them, sprintf("\\1 rows with %s = %s", previous$outcome, vocabulary$columns$last_level[counted]), text, perl = TRUE)
    return(read_question(study, text))
  }
  text <- bound_of_age(text, vocabulary, previous)
  bare <- without_opening(text)
  moved <- linear_enough(study, bare, previous) %||% in_other_unit(study, bare, previous) %||% per_exposure(study, bare,
      previous) %||% first_of_groups(bare, previous) %||%
    interaction_named(study, bare, previous) %||% grouping_added(study, bare, previous) %||% other_occasion(study, bare,
    previous) %||% shares_by_period(study, bare, previous) %||% outliers_asked_out(bare, previous) %||% also_shown(study, bare, previous) %||%
    other_change(study, bare, previous) %||% follow_with_study(study, bare, previous) %||% only_first_of_ranking(bare,
        previous) %||% predictor_left_out(study, bare, previous) %||% holds_in_each(study, bare, previous) %||%
    ratios_again(bare, previous) %||% asked_of_rows(study, bare, previous) %||% differs_between(study, bare, previous)
  if (!is.null(moved)) return(moved)
  wished <- take_look(text, vocabulary)
  # "as a chart": every answer comes with its picture
  if (!length(wished$look) && only_wishes(text) && grepl("\\b(chart|graph|plot|figure|picture|draw)\\b", text, ignore.case = TRUE)) {
    return(new_verdict("answered", continued(previous)))
  }
  if (length(wished$look) && only_wishes(wished$text)) return(with_wishes(new_verdict("answered", continued(previous)), wished$look))
  text <- wished$text
  derived <- derive_for_follow_up(study, text)
  verdict <- read_edit(derived$study, derived$text, previous, study_vocabulary(derived$study))
  if (leaves_nothing_out(derived$text, verdict, previous)) {
    verdict <- new_verdict("cannot_answer", previous, headline =
      "What is to be left out was not found in the data. Name a column, or a value of a column, by a word of its own.")
  }
  if (divides_matrix(verdict, previous, study_vocabulary(derived$study)$columns)) {
    verdict <- new_verdict("cannot_answer", previous, headline = sprintf(
      "Correlations of several columns are not divided by groups at once. Ask for two of them, such as \"correlation of %s and %s by GROUPS\".",
      c(previous$outcome, previous$predictors)[1], c(previous$outcome, previous$predictors)[2]))
  }
  with_derived_study(with_wishes(verdict, wished$look), derived$study, study)
}

#' "by arm", after correlations of several columns: one more column that makes groups, and no one more to be correlated
#' @noRd
divides_matrix <- function(verdict, previous, columns) {
  r <- verdict$reading
  before <- c(previous$outcome, previous$predictors)
  if (!identical(verdict$status, "answered") || previous$task != "relate" || length(before) < 3 || r$task != "relate") return(FALSE)
  new <- setdiff(c(r$outcome, r$predictors, r$by), before)
  length(new) > 0 && any(is_level_kind(columns$kind[match(new, columns$name)])) && all(before %in% c(r$outcome, r$predictors))
}

#' A follow-up without the words that only lead it in ("and", "now", "please")
#' @noRd
without_opening <- function(text) sub("^(?i)(?:(?:and|so|now|then|also|please|but|ok|okay),? )+", "", text, perl = TRUE)

#' Was something to be left out of the question before, and the reading became another question that leaves out nothing?
#' @noRd
leaves_nothing_out <- function(text, verdict, previous) {
  r <- verdict$reading
  asked <- grepl("^(?i)(?:exclude|excluding|omit|leave out|without)\\b", without_opening(text), perl = TRUE)
  asked && identical(verdict$status, "answered") &&
    !identical(r$task, previous$task) && identical(r$filters, previous$filters) && !length(setdiff(previous$predictors, r$predictors)) &&
    !length(setdiff(previous$by, r$by)) && !length(setdiff(previous$adjust_for, r$adjust_for))
}

#' "show their arm", "which arm are they in", after rows in an order: another column beside them
#' @noRd
also_shown <- function(study, text, previous) {
  if (!identical(previous$task, "rank") || length(previous$by)) return(NULL)
  hit <- match_groups(text, "(?i)^(?:show|give|list|add|include)(?: me)?(?: also)? (?:their|its|the) (.+?)(?: as well| too| also| beside them)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) hit <- match_groups(text,
      "(?i)^(?:what|which) (.+?) (?:are|is|were|was|do|did) (?:they|those|these|it)(?: (?:in|from|of|at|have|belong to))?[?.! ]*$")
  found <- if (!is.na(hit[1])) column_in_text(all_columns(study), hit[2], kin_phrases(study, hit[2]))
  if (is.null(found) || found$name %in% previous$outcome) return(NULL)
  r <- previous
  r$extra$also <- unique(c(r$extra$also, found$name))
  new_verdict("answered", continued(r))
}

#' "and reading?", after the change of another measure: the change of that one
#' @noRd
other_change <- function(study, text, previous) {
  sets <- sets_over_time(study, 2)
  before <- Filter(function(set) identical(change_name(set), previous$outcome), sets)
  if (length(before) != 1 || !previous$task %in% c("compare", "describe", "rank", "predict")) return(NULL)
  bare <- sub("(?i)^(?:what about|how about|for|of|in|the same for|same for) (?:the )?", "", without_mark(text), perl = TRUE)
  set <- whole_set(bare, sets)
  if (is.null(set) || identical(set$name, before[[1]]$name)) return(NULL)
  out <- with_course_change(list(study = study, text = text), set, "%s")
  if (!has_column(out$study, change_name(set))) return(NULL)
  r <- previous
  r$outcome <- change_name(set)
  with_derived_study(new_verdict("answered", continued(r)), out$study, study)
}

#' "does it hold in every team?", after a relation of two measures: the relation in each of the groups
#' @noRd
holds_in_each <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(?:does|is|did) (?:it|that|this)(?: relation(?:ship)?| correlation)? (?:also )?(?:hold|hold true|true|so|the same|similar) (?:in|for|across|within) (?:every|each|all|all the|the other) (.+?)[?.! ]*$")  # nolint: line_length_linter.
  pair <- c(previous$outcome, previous$predictors)
  if (is.na(hit[1]) || !previous$task %in% c("relate", "figure") || length(pair) != 2) return(NULL)
  if (!all(vapply(pair, function(n) find_column(study, n)$kind %in% c("number", "count"), NA))) return(NULL)
  groups <- Filter(function(col) is_level_kind(col$kind), all_columns(study))
  found <- column_in_text(groups, hit[2], kin_phrases(study, hit[2]))
  if (is.null(found)) return(NULL)
  r <- previous
  r$task <- "relate"; r$outcome <- pair[1]; r$predictors <- pair[2]; r$by <- found$name
  r$filters <- Filter(function(f) f$column != found$name, r$filters)
  r["method_asked"] <- list(NULL)
  r$extra$by_group <- TRUE; r$extra$look <- NULL
  new_verdict("answered", continued(r))
}

#' "odds ratio", after the model that tells it
#' @noRd
ratios_again <- function(text, previous) {
  asked <- grepl("(?i)^(?:show |give |what is |what are |as )*(?:me )?(?:the |an? )?(?:odds ratios?|hazard ratios?|rate ratios?|coefficients?|estimates?)[?.! ]*$", text, perl = TRUE)  # nolint: line_length_linter.
  if (asked && previous$task %in% c("predict", "survival")) new_verdict("answered", continued(previous))
}

#' "share resolved", "mean wait", after rows that were listed: of those rows
#' @noRd
asked_of_rows <- function(study, text, previous) {
  asks <- "(?i)^(?:what is |what was |what )*(?:the |their )?(?:share|percentage|proportion|mean|average|median|total|sum)\\b(?!.* of the total)"  # nolint: line_length_linter.
  if (!identical(previous$task, "look_up") || !length(previous$filters) || !grepl(asks, text, perl = TRUE)) return(NULL)
  verdict <- read_question(study, text)
  if (!identical(verdict$status, "answered") || !verdict$reading$task %in% c("describe", "frequency")) return(NULL)
  verdict$reading <- continued(on_rows_of(verdict$reading, previous))
  verdict
}

#' A reading on the rows of the one before it
#' @noRd
on_rows_of <- function(r, previous) {
  r$filters <- c(previous$filters, Filter(function(f) !any(vapply(previous$filters, identical, NA, f)), r$filters))
  r
}

#' "without mites after", after a model or a ranking that holds the column: without it, not the rows that have none of it
#' @noRd
predictor_left_out <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(?:without|leave out|drop|remove|exclude|take out|omit) (?:the (?:column|variable|predictor) )?(?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !previous$task %in% c("predict", "drivers") || length(previous$predictors) < 3) return(NULL)
  found <- column_in_text(all_columns(study), hit[2], named_phrases(study))
  if (is.null(found) || tolower(found$said) != tolower(hit[2]) || !found$name %in% previous$predictors) return(NULL)
  r <- previous
  r$predictors <- setdiff(r$predictors, found$name)
  r$assumed <- c(setdiff(r$assumed, "All other columns that can be related are considered."), sprintf("%s is left out.", found$name))
  new_verdict("answered", continued(r))
}

#' "only the top three", after columns ranked by what they go with: so many of them are told
#' @noRd
only_first_of_ranking <- function(text, previous) {
  hit <- match_groups(text, "(?i)^(?:only |just |show |give )*(?:me )?(?:the )?(?:top|first|strongest|best|most important) ([0-9]{1,2}|one|two|three|four|five|six|ten)(?: (?:columns|factors|predictors|variables|ones|of them|only))?[?.! ]*$")  # nolint: line_length_linter.
  # "which is strongest?"
  one <- "(?i)^(?:which|what)(?: one| of them| column| factor)? is (?:the )?(?:strongest|most important|biggest|best|closest)(?: one)?[?.! ]*$"
  if (is.na(hit[1]) && isTRUE(previous$extra$ranking) && grepl(one, text, perl = TRUE)) hit <- c(text, "1")
  counted <- identical(previous$task, "frequency") && !length(previous$by) && !length(previous$extra$event) && length(previous$outcome) == 1
  if (is.na(hit[1]) || !isTRUE(previous$extra$ranking) && !counted) return(NULL)
  r <- previous
  r$top <- list(n = as.integer(word_number(hit[2])), order = "highest")
  new_verdict("answered", continued(r))
}

#' "top 5", after a measure told by group: the groups ranked by it
#' @noRd
first_of_groups <- function(text, previous) {
  hit <- match_groups(text, "(?i)^(?:only |just |show |give )*(?:me )?(?:the )?(top|bottom|best|worst|highest|lowest) ([0-9]{1,3}|one|two|three|four|five|six|ten)(?: of them| only| groups)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !previous$task %in% c("describe", "figure") || length(previous$by) != 1 || length(previous$outcome) != 1) return(NULL)
  r <- previous
  r$task <- "rank"
  if (is.null(r$statistic)) r["statistic"] <- list("mean")
  low <- grepl("^(bottom|worst|lowest)$", hit[2], ignore.case = TRUE)
  r$top <- list(n = as.integer(word_number(hit[3])), order = if (low) "lowest" else "highest")
  r["method_asked"] <- list(NULL)
  r$extra$picture <- r$extra$from_task <- r$extra$group_bound <- NULL
  new_verdict("answered", continued(r))
}

#' "is it linear?", after a relation of two measures: whether a straight line is enough
#' @noRd
linear_enough <- function(study, text, previous) {
  asked <- "^(?i)is (?:it|that|this|the (?:relation|relationship|effect|association))(?: really| roughly)? (?:linear|a straight line|straight)[?.! ]*$"  # nolint: line_length_linter.
  pair <- c(previous$outcome, previous$predictors)
  if (!grepl(asked, text, perl = TRUE) || !previous$task %in% c("relate", "predict", "figure") || length(pair) != 2 ||
      length(previous$by)) return(NULL)
  if (!all(vapply(pair, function(n) find_column(study, n)$kind %in% c("number", "count"), NA))) return(NULL)
  verdict <- read_question(study, sprintf("is a straight line enough for %s on %s", pair[1], pair[2]))
  if (!identical(verdict$status, "answered")) return(NULL)
  verdict$reading <- finish_reading(on_rows_of(verdict$reading, previous))
  verdict
}

#' "in minutes", after a measure in seconds: the measure in the unit asked for
#' @noRd
in_other_unit <- function(study, text, previous) {
  if (!grepl("^(?i)in [a-z]+[?.! ]*$", text, perl = TRUE) || length(previous$outcome) != 1) return(NULL)
  out <- derive_unit(list(study = study, text = sprintf("average %s %s", previous$outcome, without_mark(text))))
  new <- setdiff(names(out$study$tables[[find_column(study, previous$outcome)$table]]$columns), vapply(all_columns(study), `[[`, "", "name"))
  if (length(new) != 1) return(NULL)
  r <- previous
  r$outcome <- new
  with_derived_study(new_verdict("answered", continued(r)), out$study, study)
}

#' "per 1000 minutes", after how often something happened: the count over what the rows measure
#' @noRd
per_exposure <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(per (?:[0-9][0-9,]* )?(?!hundred\\b|thousand\\b|cent\\b)\\p{L}[\\p{L}_]*)(?: instead)?[?.! ]*$")
  if (is.na(hit[1]) || previous$task != "frequency" || !length(previous$extra$event) || length(previous$by) > 1) return(NULL)
  by <- if (length(previous$by)) sprintf(" by %s", previous$by) else ""
  verdict <- read_question(study, sprintf("%s %s%s", previous$extra$event$column, hit[2], by))
  if (!identical(verdict$status, "answered") || !isTRUE(verdict$reading$extra$rate)) return(NULL)
  verdict$reading <- finish_reading(on_rows_of(verdict$reading, previous))
  verdict
}

#' "and for baseline sbp", after a model of the rows of one occasion: the unit's own value at another one is held constant too
#' @noRd
baseline_added <- function(study, text, previous) {
  if (!grepl("\\b(baseline|adjust|control|for)\\b", text, ignore.case = TRUE) || length(previous$outcome) != 1 ||
      !previous$task %in% c("predict", "compare", "describe")) return(NULL)
  layout <- worded_layout(study) %||% long_layout(study)
  levels <- as.character(layout$levels %||% layout$times)
  at <- Filter(function(f) identical(f$column, layout$time) && identical(f$op, "=="), previous$filters)
  if (is.null(layout) || length(at) != 1 || !length(levels)) return(NULL)
  said <- paste(c("baseline", vapply(levels[order(-nchar(levels))], as_literal, "")), collapse = "|")
  form <- sprintf("(?i)^(?:(?:adjust|adjusting|control|controlling|account|allow)(?:ed)? )?(?:also )?(?:for )?(?:the |their )?(?:([\\p{L}_ ]+?) at )?(%s)(?: (?!at\\b)([\\p{L}_ ]+?))?[?.! ]*$", said)  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(NULL)
  level <- if (tolower(hit[3]) == "baseline") levels[1] else levels[match(tolower(hit[3]), tolower(levels))]
  words <- stats::na.omit(hit[c(2, 4)])
  words <- words[!grepl("^(values?|scores?|levels?)$", tolower(words))]
  numeric <- numeric_columns(study)
  held <- if (length(words)) column_in_text(numeric, words[1], named_phrases(study, numeric))$name else previous$outcome
  if (is.null(held) || !is_numeric_kind(find_column(study, held)$kind) || identical(as.character(unlist(at[[1]]$value)), level)) return(NULL)
  out <- value_at_occasion(list(study = study), layout, held, if (is.null(layout$levels)) as.numeric(level) else level, "")
  r <- if (previous$task == "predict") previous else as_model(previous, previous$outcome)
  r$adjust_for <- unique(c(r$adjust_for, occasion_column(held, level)))
  with_derived_study(new_verdict("answered", continued(r)), out$study, study)
}

#' "is it different between new and old customers?", after a rate of each device: what was described, compared between other groups
#' @noRd
differs_between <- function(study, text, previous) {
  form <- paste0("(?i)^(?:is|are|was|were|does|do|did) (?:it|this|that|they|these|those)(?: all)?(?: also)?",
                 " (?:any |much |very |clearly |significantly )*(?:different|differ|vary|the same) (?:much |significantly |clearly )?",
                 "(?:between|across|among) (.+?)[?.! ]*$")
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || !previous$task %in% c("describe", "frequency", "rank") || length(previous$outcome) != 1) return(NULL)
  state <- parse_question(paste("between", hit[2]), study_vocabulary(study))
  named <- unique(unlist(lapply(c(find_mentions(state), state$groups), `[[`, "column")))
  if (length(named) != 1 || length(unknown_words(state)) || length(state$filters)) return(NULL)
  name <- column_of(state, named)
  levels <- unique(unlist(lapply(state$groups, `[[`, "levels")))
  if (name %in% c(previous$outcome, previous$by) || length(levels) && length(levels) < state$vocabulary$columns$distinct[named]) return(NULL)
  r <- previous
  r$by <- name
  r$assumed <- c(r$assumed, link_assumptions(state, find_mentions(state)))
  ask_significance("compare them", r, list(r))
}

#' "with an interaction between bmi and smoker", after a model or a comparison: whether the effects of the two depend on each other
#' @noRd
interaction_named <- function(study, text, previous) {
  form <- "(?i)^(?:with|add|include|test|allow for|what about|is there|use)? ?(?:an |the |any )?interactions? (?:term )?(?:between|of|for) (?:the )?(.+?) (?:and|with|x|by) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || !previous$task %in% c("predict", "relate", "compare") || length(previous$outcome) != 1) return(NULL)
  pair <- lapply(hit[2:3], function(said) column_in_text(all_columns(study), said, kin_phrases(study, said)))
  if (any(vapply(pair, is.null, NA))) return(NULL)
  names <- vapply(pair, `[[`, "", "name")
  if (names[1] == names[2] || any(names %in% previous$outcome)) return(NULL)
  r <- previous
  r$task <- "predict"
  r$predictors <- unique(c(names, r$predictors, r$by)); r$by <- character(); r$adjust_for <- setdiff(r$adjust_for, names)
  r["method_asked"] <- list(NULL)
  r$extra$interaction <- TRUE; r$extra$levels <- NULL
  new_verdict("answered", continued(r))
}

#' "add sex", after a comparison of groups: both columns make the groups; "by sex" after one of times: the change in each of the groups
#' @noRd
grouping_added <- function(study, text, previous) {
  timed <- length(previous$by) == 1 && identical(long_layout(study)$time, previous$by)
  lead <- if (timed) "add|include|plus|by|for each|in each" else "add|include|plus"
  hit <- match_groups(text, sprintf("(?i)^(?:%s) (?:the )?([\\p{L}\\p{N}_. ]+?)(?: as (?:a |another |second )?(?:factor|group|grouping))?[?.! ]*$",
      lead))
  if (is.na(hit[1]) || !identical(previous$task, "compare") || length(previous$by) != 1 || length(previous$outcome) != 1) return(NULL)
  groups <- Filter(function(col) is_level_kind(col$kind), all_columns(study))
  found <- column_in_text(groups, hit[2], named_phrases(study, groups))
  outcome <- find_column(study, previous$outcome)
  if (is.null(found) || tolower(found$said) != tolower(hit[2]) || found$name %in% c(previous$by, previous$outcome) ||
    !is_numeric_kind(outcome$kind)) return(NULL)
  r <- previous
  r$by <- c(r$by, found$name)
  r["method_asked"] <- list(NULL); r["statistic"] <- list(NULL); r$extra$levels <- NULL
  new_verdict("answered", continued(r))
}

#' "without outliers": asked back, since no rule settles which rows they are
#' @noRd
outliers_asked_out <- function(text, previous) {
  form <- "(?i)^(?:the same |what )*(?:without|excluding|ignoring|(?:leave|leaving|take|taking) out|remov(?:e|ing)|drop(?:ping)?|exclude|ignore)(?: the| any| all)? outliers?[?.! ]*$"  # nolint: line_length_linter.
  if (grepl(form, text, perl = TRUE) && previous$task %in% c("compare", "relate", "change", "describe", "predict", "rank", "trend")) {
    without_outliers(new_verdict("answered", previous))
  }
}

#' "and at six weeks?", after an answer about one occasion of a measure: the same of another
#' @noRd
other_occasion <- function(study, text, previous) {
  form <- "(?i)^(?:what about |how about )*(?:(?:at|after|by|in) )?(?:the )?(.+?)[?.! ]*$"
  said <- stringi::stri_match_first_regex(text, form)[1, 2]
  if (is.na(said) || length(previous$outcome) != 1) return(NULL)
  sets <- Filter(function(set) previous$outcome %in% set$columns, study_sets(study, "repeated_measures"))
  if (length(sets) != 1 || !any(nzchar(set_units(sets[[1]])))) return(NULL)
  place <- span_place(said, sets[[1]])
  if (is.na(place) || sets[[1]]$columns[place] == previous$outcome) return(NULL)
  new_verdict("answered", continued(swap_name(previous, previous$outcome, sets[[1]]$columns[place])))
}

#' "by month", after a share: the share in each month
#' @noRd
shares_by_period <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(?:by|per|for each|each|over the) (week|month|quarter|year)s?[?.! ]*$")
  date <- date_columns(study)
  if (is.na(hit[1]) || length(date) != 1 || !identical(previous$task, "frequency") || !length(previous$extra$event)) return(NULL)
  every <- tolower(hit[2])
  name <- if (tolower(date) == every) paste0("each_", every) else period_name_of(every, date)
  out <- with_derived(list(study = study, text = ""), name, "period", date, every = every)
  if (!has_column(out$study, name)) return(NULL)
  r <- previous
  r$by <- name
  r$statistic <- "percent"
  with_derived_study(new_verdict("answered", continued(r)), out$study, study)
}

#' "only in the north", while a choice is still open: the condition is taken into every reading to choose from
#' @section Shape: A verdict, or NULL where the words are a question of their own.
#' @noRd
narrow_choices <- function(text, previous, vocabulary) {
  if (!grepl("^(and |but |now )*(only|just|for|in|among|within|without|excluding|except|where|those|not)\\b", text, ignore.case = TRUE)) return(NULL)
  state <- parse_question(text, vocabulary)
  if (length(find_mentions(state)) || length(unknown_words(state))) return(NULL)
  conditions <- c(state$filters, lapply(state$groups, function(g) group_filter(state, g)))
  if (!length(conditions)) return(NULL)
  narrowed <- function(r) {
    taken <- vapply(conditions, `[[`, "", "column")
    r$filters <- c(Filter(function(f) !f$column %in% taken, r$filters), conditions)
    finish_reading(r)
  }
  choice_verdict(state, narrowed(previous), lapply(previous$alternatives, narrowed),
    "The condition is taken into each of the readings below. Choose one of them, by number or in your own words.")
}

#' "over 30", after a condition on a number: another one on the same column; after a question about people: their age, where one column holds it
#' @noRd
bound_of_age <- function(text, vocabulary, previous) {
  form <- "^((?:and |only |just |but |so |now |what about |how about |those |for those |the ones |ones )*)(over|under|above|below|older than|younger than|at least|at most|more than|less than|fewer than) ([0-9]+(?:[.][0-9]+)?)( years?( old)?)? *[?.!]*$"  # nolint: line_length_linter.
  if (!grepl(form, text, ignore.case = TRUE, perl = TRUE)) return(text)
  columns <- vocabulary$columns
  bounds <- vapply(Filter(function(f) f$op %in% c("<", "<=", ">", ">=", "between") && is.numeric(unlist(f$value)), previous$filters), `[[`, "", "column")  # nolint: line_length_linter.
  if (length(unique(bounds)) == 1) return(sub(form, paste0("\\1where ", bounds[1], " is \\2 \\3"), text, ignore.case = TRUE, perl = TRUE))
  age <- columns$name[columns$kind %in% c("number", "count") & vapply(stems_of(name_words(columns$name)), function(s) "age" %in% s, NA)]
  if (length(age) == 1) sub(form, paste0("\\1where ", age, " is \\2 \\3"), text, ignore.case = TRUE, perl = TRUE) else text
}

#' Is nothing left of a follow-up but words of politeness?
#' @noRd
only_wishes <- function(text) !nzchar(gsub("\\b(please|now|and|then|also|it|the|make|draw|show|figure|picture|plot|chart|graph|same|with|a|again|instead|but|in|on|as|can|you|could)\\b|[^\\p{L}\\p{N}]+", "", tolower(text), perl = TRUE))  # nolint: line_length_linter.

continued <- function(r) {
  r$assumed <- unique(c(r$assumed, "Continued from the question before."))
  r$alternatives <- list()
  finish_reading(r)
}

read_edit <- function(study, text, previous, vocabulary) {
  if (asks_meaning(text)) { previous$task <- "explain"; previous$alternatives <- list(); return(new_verdict("answered", finish_reading(previous))) }
  state <- parse_question(text, vocabulary)
  mentions <- find_mentions(state)
  scores <- score_tasks(state, mentions)
  either <- same_for_either(state, mentions, previous)
  if (!is.null(either)) return(either)
  merged <- merges_levels(state, previous)
  if (!is.null(merged)) return(merged)
  named <- swap_named(text, previous, vocabulary) %||% moderate(text, state, mentions, previous) %||% state_values(text, state, previous) %||%
    drop_named(text, state, mentions, previous) %||%
    change_level(state, previous)
  if (!is.null(named)) {
    named$assumed <- unique(c(named$assumed, link_assumptions(state, mentions)))
    return(new_verdict("answered", continued(named)))
  }
  if (stands_alone(state, mentions, scores) && is.null(season_allowed_for(state))) return(decide_reading(state, mentions))
  if (drops_filters(text)) return(new_verdict("answered", without_filters(previous)))
  unknown <- unknown_words(state)
  if (length(unknown)) return(absent_verdict(state, previous, unknown))
  ambiguous <- ambiguous_mention(mentions)
  edited <- edit_reading(state, mentions, previous, scores)
  if (is.null(edited)) return(decide_reading(state, mentions))
  if (same_reading(edited, previous) && !is.null(edited$outcome)) {
    edited$assumed <- "Nothing in this changes the reading of the question before."
    edited$alternatives <- list()
    return(new_verdict("answered", finish_reading(edited)))
  }
  left <- grep("so it left the model|no longer held constant", edited$assumed, value = TRUE)
  edited$assumed <- unique(c(left, state$assumed, link_assumptions(state, mentions), group_assumptions(state, edited),
                             "Continued from the question before."))
  edited$alternatives <- list()
  edited$confidence <- round(min(previous$confidence, 0.9), 3)
  edited <- finish_reading(edited)
  if (!is.null(state$flags$cut_band)) return(cut_band_verdict(state, edited))
  if (!is.null(ambiguous)) {
    names <- column_of(state, ambiguous$columns)
    alternatives <- lapply(seq_along(names), function(i) {
      r <- swap_name(edited, column_of(state, ambiguous$mention$column), names[i]); finish_reading(r) })
    return(choice_verdict(state, edited, alternatives, sprintf("%s could mean %s.", quoted(ambiguous$mention$text),
                                                               some_of(quoted(names), 4, and = "or"))))
  }
  if ("time_unit" %in% edited$extra$missing) time_unit_verdict(state, edited) else new_verdict("answered", edited)
}

#' "the same for low weight", after "does smoking affect birth weight": another outcome or other groups; NULL where only one can be meant
#' @noRd
same_for_either <- function(state, mentions, previous) {
  if (!says(state, "^(and |now |then |do )*(the )?same (thing )?(for|with)\\b") || length(mentions) != 1 || length(previous$outcome) != 1 ||
      length(previous$by) != 1 || previous$task != "compare") return(NULL)
  name <- column_of(state, mentions[[1]]$column)
  if (kind_at(state, mentions[[1]]$column) != "yes_no" || name %in% c(previous$outcome, previous$by)) return(NULL)
  change <- function(slot) { r <- previous; r[[slot]] <- name; r["method_asked"] <- list(NULL); r$extra$levels <- NULL; r$alternatives <- list()
    continued(r) }
  choice_verdict(state, previous, list(change("outcome"), change("by")), sprintf(
    "%s can be compared itself or make the groups. Choose one of the readings below, by number or in your own words.", quoted(name)))
}

#' "combine black and other": levels are merged by an amendment, which is recorded, not by a question
#' @noRd
merges_levels <- function(state, previous) {
  if (!says(state, "^(please |now |and )*(combine|merge|lump|pool|collapse|put together)\\b")) return(NULL)
  g <- Filter(function(g) !g$negated && length(g$levels) > 1, state$groups)
  if (length(g) != 1) return(NULL)
  new_verdict("cannot_answer", previous, near = column_of(state, g[[1]]$column), headline = sprintf(
    "Levels are merged by an amendment, so that every later answer knows of it: amend the study with \"merge %s into %s in %s\", then ask again.",
    g[[1]]$levels[1], g[[1]]$levels[2], column_of(state, g[[1]]$column)))
}

#' Do two readings ask for the same?
#' @noRd
same_reading <- function(a, b) {
  parts <- c("task", "outcome", "by", "predictors", "adjust_for", "filters", "method_asked", "statistic", "top", "time", "unit")
  settings <- function(r) r$extra[setdiff(names(r$extra), "outcome_mentions")]
  identical(unclass(a)[parts], unclass(b)[parts]) && identical(settings(a), settings(b))
}

#' "what does t mean here", "explain the odds ratio", "why Welch"
#' @noRd
asks_meaning <- function(text) {
  grepl(paste0("^ *(so |and |but |ok,? )?(what (does|do|is|are|was) (the |that |this |these |a |an )?.{1,60}(mean|say|tell( me| us)?|stand ",
      "for)( here| then| now)?|explain (the |that |this |what ).{2,60}|why (this|that|the|was|did|do|not|use|is|welch|a|an)\\b.{0,60}|how ",
      "(do|should) i (read|interpret) .{1,60}|how (was|is|were|are|did|do) (this|that|it|these|those|you|the [a-z ]{2,30}?) ",
      "(computed|calculated|worked out|obtained|done|tested|get (this|that|it|these)|arrive at (this|that|it))) *[?.!]*$"),
        text, ignore.case = TRUE, perl = TRUE)
}

drops_filters <- function(text) {
  grepl(paste0("^(please )?(drop|remove|clear|forget|lift) (the |all |those |these |that ",
               ")?(filters?|conditions?|restrictions?)|^(use |on |for |over )?all (the )?rows( again)?[.!]?$"),
        text, ignore.case = TRUE, perl = TRUE)
}

#' All rows again; the levels that make the compared groups stay
#' @noRd
without_filters <- function(r) {
  groups <- vapply(r$filters, function(f) f$op == "in" && f$column %in% r$by && length(r$extra$levels) > 1, NA)
  r$filters <- r$filters[groups]
  r$assumed <- "The conditions of the question before were dropped."
  r$alternatives <- list()
  finish_reading(r)
}

swap_name <- function(r, old, new) {
  for (slot in c("outcome", "by", "predictors", "adjust_for")) r[[slot]][r[[slot]] == old] <- new
  r
}

#' "2", "the second", or the words of one alternative
#' @noRd
chosen_alternative <- function(previous, text) {
  alternatives <- previous$alternatives
  if (!length(alternatives)) return(NULL)
  words <- tolower(gsub("[^[:alnum:] ]", "", text))
  number <- suppressWarnings(as.integer(sub("^(number|option|reading|the) *", "", words)))
  if (is.na(number)) number <- match(sub("^the ", "", words), ordinal_words)
  if (!is.na(number) && number >= 1 && number <= length(alternatives)) return(settle(alternatives[[number]]))
  said <- unlist(stems_of(name_words(text)))
  own <- own_stems(stems_of_texts(lapply(alternatives, function(r) c(r$outcome, r$by, r$predictors, r$extra$counted_in))))
  hit <- which(vapply(own, function(s) length(s) > 0 && all(s %in% said), NA))
  if (length(hit) == 1) return(settle(alternatives[[hit]]))
  # words of one reading only, and none that are in no reading: "with dropouts", "the median please"
  said <- setdiff(said, unlist(stems_of(text_stop_words())))
  whole <- stems_of_texts(lapply(alternatives, function(r) c(r$plain, r$outcome, r$by, r$predictors)))
  hit <- which(mapply(function(own, whole) any(said %in% own) && all(said %in% whole), own_stems(whole), whole))
  if (length(hit) == 1) settle(alternatives[[hit]]) else NULL
}

#' The stems of each list of texts that are not common to all of them
#' @noRd
own_stems <- function(stems) lapply(stems, setdiff, Reduce(intersect, stems))

stems_of_texts <- function(texts) lapply(texts, function(t) unlist(stems_of(name_words(t))))

settle <- function(r) {
  r$confidence <- 0.95
  r$assumed <- unique(c(r$assumed, "You chose this reading."))
  finish_reading(r)
}

#' Does a follow-up carry everything that a question of its own needs?
#' @noRd
stands_alone <- function(state, mentions, scores) {
  first <- paste(utils::head(vapply(state$items, `[[`, "", "norm"), 2), collapse = " ")
  continues <- grepl(paste0("^(and|now|what about|how ",
                            "about|same|also|only|just|but|split|by|instead|use|redo|add|leave|without|make|do it|do ",
                            "the|drop|with|for)\\b"), first)
  if (continues) return(FALSE)
  task <- names(scores)[which.max(scores)]
  if (max(scores) < 0.6) return(FALSE)
  if (task %in% c("overview", "quality", "sample_size")) return(TRUE)
  filled <- fill_task(state, mentions, fit_task(state, mentions, task))
  !length(filled$extra$missing) && (length(mentions) >= 2 ||
                                    (length(mentions) == 1 && task %in% c("describe", "distribution", "drivers",
                                        "rank") && state$n >= 4))
}

#' "compare with quay", after an answer for one other level of its column: both of them
#' @section Shape: A reading, or NULL.
#' @noRd
compare_beside <- function(state, r) {
  asked <- says(state, "^(and |now |please )*((compare|compared|contrast)( it| that| this| them)? (with|to|against)|versus|vs\\.?|against) ")
  if (!asked || length(state$groups) != 1 || length(state$groups[[1]]$levels) != 1 || isTRUE(state$groups[[1]]$negated)) return(NULL)
  column <- column_of(state, state$groups[[1]]$column)
  own <- which(vapply(r$filters, function(f) identical(f$column, column) && f$op == "==", NA))
  if (length(own) != 1 || !r$task %in% c("describe", "trend", "frequency", "compare", "rank")) return(NULL)
  levels <- c(as.character(r$filters[[own]]$value), state$groups[[1]]$levels)
  if (levels[1] == levels[2]) return(NULL)
  r$filters[[own]] <- new_filter(column, "in", levels)
  r$by <- unique(c(column, r$by)); r$extra$levels <- levels
  if (r$task %in% c("describe", "rank") && length(r$outcome) == 1 &&
      length(r$by) == 1) { r$task <- "compare"; r["top"] <- list(NULL); r["statistic"] <- list(NULL) }
  r["method_asked"] <- list(NULL)
  r
}

#' The previous reading with the changes that the words ask for; NULL when they ask for none
#' @noRd
edit_reading <- function(state, mentions, previous, scores) {
  r <- previous
  changed <- FALSE
  norms <- vapply(state$items, `[[`, "", "norm")
  if (any(vapply(state$items, has_lex, NA, "task", "explain"))) { r$task <- "explain"; return(r) }
  if (scores["forecast"] >= 0.6 && length(r$outcome) <= 1 && has_dates(state) && !length(mentions)) return(forecast_on(state, r))
  season <- season_allowed_for(state)
  if (!is.null(season) && r$task == "trend" && length(r$outcome) == 1) { r$extra$season <- season; r["method_asked"] <- list(NULL); return(r) }
  beside <- compare_beside(state, previous)
  if (!is.null(beside)) return(beside)
  new_filters <- c(state$filters, lapply(state$groups, function(g) group_filter(state, g)))
  if (length(new_filters)) {
    r$filters <- merge_filters(r$filters, new_filters, r, adds_levels(state))
    r <- without_fixed(r, new_filters); changed <- TRUE
  }
  method <- single_method(state)
  if (!is.null(method)) { r$method_asked <- method; changed <- TRUE
    if (method %in% names(tasks_of_methods())) r$task <- tasks_of_methods()[[method]] }
  picture <- unlist(lapply(state$items, lex_ids, "picture"))
  # "with random slopes", of a model that has an intercept for each unit
  if (asks_for_slopes(state) && (isTRUE(previous$method_asked == "mixed_model") || length(previous$unit))) {
    r$extra$random_slope <- TRUE
    r["method_asked"] <- list(NULL)
  }
  # "the same workers used every machine": rows of one unit belong together
  unit <- if (r$task %in% c("compare", "change") && length(r$by)) unit_mentioned(state)
  if (!is.null(unit)) {
    r$unit <- unit; r$extra$within <- TRUE; r["method_asked"] <- list(NULL); changed <- TRUE
    mentions <- Filter(function(m) !column_of(state, m$column) %in% c(unit, r$by), mentions)
  }
  # (a course over time stays one, drawn as is asked)
  if (length(picture) && r$task == "trend") { r$extra$picture <- picture[1]; changed <- TRUE }
  else if (length(picture)) { r$extra$from_task <- r$task; r$task <- "figure"; r$extra$picture <- picture[1]
    changed <- TRUE }
  r <- groups_of_model(state, previous, r)
  narrowed <- narrow_by_yes(state, mentions)
  if (length(narrowed)) { r$filters <- merge_filters(r$filters, narrowed, r); changed <- TRUE }
  mentions <- Filter(function(m) !column_of(state, m$column) %in% vapply(narrowed, `[[`, "", "column"), mentions)
  several <- Filter(function(g) !g$negated && names_several(g), state$groups)
  # "before and after separately", of a correlation: one in each
  apart <- says(state, "\\b(separately|apart|on (its|their) own|each by itself)\\b") && r$task == "relate" && length(r$predictors) == 1
  if (apart && length(several) == 1 && all(kind_of_names(state, c(r$outcome, r$predictors)) %in% c("number", "count"))) {
    r$by <- column_of(state, several[[1]]$column); r$extra$by_group <- TRUE; r["method_asked"] <- list(NULL)
    return(r)
  }
  divided <- model_apart(state, mentions, several, r)
  if (!is.null(divided)) return(divided)
  if (length(several) == 1 && any(vapply(state$items, has_lex, NA, "task", "compare")) && r$task %in% c("compare", "describe", "rank", "figure") &&
    length(r$outcome) == 1 && !length(mentions)) {
    r$task <- "compare"; r["statistic"] <- list(NULL)
    # two groups where there were more: ranks stay ranks, everything else is chosen anew
    r["method_asked"] <- list(if (isTRUE(r$method_asked %in% c("kruskal_wallis", "mann_whitney", "rank_test"))) "rank_test")
    r$by <- column_of(state, several[[1]]$column); r$extra$levels <- several[[1]]$levels
  }
  # "compare just A and B", after a summary by the groups
  same <- says(state, "^(and |now |then |do )*(the )?same\\b")
  if (!same && any(vapply(state$items, has_lex, NA, "task", "compare")) && r$task %in% c("describe", "rank", "figure") && length(r$outcome) &&
    (length(r$by) || length(mentions))) {
    r$task <- "compare"; r["statistic"] <- list(NULL); r$extra$statistics <- NULL; changed <- TRUE
  }
  if (r$task == "survival") mentions <- Filter(function(m) !column_of(state, m$column) %in% r$outcome, mentions)
  if (length(mentions)) { r <- edit_columns(state, mentions, r); changed <- TRUE }
  statistic <- main_statistic(state)
  if (!is.null(statistic) && !length(method)) { r <- not_of_total(r); r$statistic <- statistic; r$extra$statistics <- asked_statistics(state)
    changed <- TRUE }
  level <- asked_conf_level(state)
  if (!is.null(level)) { r$extra$conf_level <- level; changed <- TRUE }
  every <- unlist(lapply(state$items, lex_ids, "every"))
  if (length(every) && !is.null(r$time)) { r$time$every <- every[1]; changed <- TRUE }
  # "per month", of an answer that was not over time
  if (length(every) && is.null(previous$time) && has_dates(state) && !length(mentions) && r$task %in% c("describe", "rank", "compare", "figure",
      "frequency")) {
    r <- over_time(state, r)
    changed <- TRUE
  }
  if (r$task == "survival" && !is.null(time_stated(state)) && length(r$outcome)) { r <- read_curve_at(state, r); changed <- TRUE }
  if (r$task == "rank" && any(norms %in% c("top", "bottom", "lowest", "highest"))) { r$top <- asked_top(state)
    changed <- TRUE }
  if (changed) r else NULL
}

#' "separately for men and women", of a model with one predictor: its slope in each of them
#' @section Shape: the reading, or NULL where this is not asked.
#' @noRd
model_apart <- function(state, mentions, several, r) {
  asked <- says(state, "\\b(separately|apart|in each|for each|on (its|their) own)\\b")
  if (!asked || r$task != "predict" || length(r$predictors) != 1 || length(r$outcome) != 1) return(NULL)
  levels <- Filter(function(m) is_level_kind(kind_at(state, m$column)), mentions)
  own <- if (length(several) == 1) column_of(state, several[[1]]$column) else if (length(levels) == 1) column_of(state, levels[[1]]$column)
  if (is.null(own) || own %in% c(r$outcome, r$predictors)) return(NULL)
  r$predictors <- c(r$predictors, own)
  r$adjust_for <- setdiff(r$adjust_for, own)
  r$filters <- Filter(function(f) !(f$column == own && f$op == "in"), r$filters)
  r$extra$interaction <- TRUE
  r["method_asked"] <- list(NULL)
  r
}

#' The same measure, groups and rows by period
#' @noRd
over_time <- function(state, r) {
  r <- not_of_total(r)
  trend <- fill_task(state, list(), "trend")
  r$task <- "trend"
  r$time <- trend$time
  r["top"] <- list(NULL); r["method_asked"] <- list(NULL); r$extra$statistics <- NULL; r$extra$levels <- NULL
  if (!length(r$outcome)) { r$statistic <- "count"; return(r) }
  if (is.null(r$statistic)) r <- settle_period_summary(state, r)
  r
}

#' "what about survival at 200 days", after curves or a model of the hazard
#' @noRd
read_curve_at <- function(state, r) {
  r <- read_at_stated_time(state, r)
  # (that number leaves no rows out)
  r$filters <- Filter(function(f) !identical(f$column, r$outcome[1]), r$filters)
  groups <- Filter(function(n) can_group(state, match(n, state$vocabulary$columns$name)), r$predictors)
  r$by <- unique(c(r$by, groups))
  r$predictors <- r$adjust_for <- character()
  r["method_asked"] <- list(NULL)
  r
}

#' An answer that is no longer about shares of a total
#' @noRd
not_of_total <- function(r) {
  if (isTRUE(r$extra$of_total)) { r$extra$of_total <- NULL; r$statistic <- r$statistic %||% "sum" }
  r
}

#' "forecast the next 3 months", after an answer over time: of the same measure, for the same rows
#' @noRd
forecast_on <- function(state, r) {
  ahead <- fill_task(state, list(), "forecast")
  ahead$outcome <- r$outcome; ahead$filters <- r$filters
  ahead["statistic"] <- list(r$statistic)
  if (is.null(ahead$time$every) && !is.null(r$time$every) && !is.null(ahead$time)) ahead$time$every <- r$time$every
  ahead$confidence <- r$confidence
  ahead
}

#' "and also control", "control as well": levels that come to those in play
#' @noRd
adds_levels <- function(state) says(state, "^ *(and |but |now )*(also|add|include|plus|as well as|together with)\\b|\\b(too|as well|also|added|in addition)[?.! ]*$")  # nolint: line_length_linter.

#' New conditions replace those on the same column; levels left out one after the other are all left out, and levels that are added are
#' added
#' @noRd
merge_filters <- function(old, new, r, adds = FALSE) {
  new <- lapply(new, function(f) {
    before <- Filter(function(o) identical(o$column, f$column), old)
    if (length(before) != 1) return(f)
    both <- unique(c(unlist(before[[1]]$value), unlist(f$value)))
    out <- c("!=", "not_in"); kept <- c("==", "in")
    if (f$op %in% out && before[[1]]$op %in% out || adds && f$op %in% kept && before[[1]]$op %in% kept) {
      new_filter(f$column, if (f$op %in% out) "not_in" else "in", both)
    } else f
  })
  columns <- vapply(new, `[[`, "", "column")
  replaced <- vapply(old, function(f) f$column %in% columns, NA)
  c(old[!replaced], new)
}

#' Put a newly named column into the part of the reading that it fits
#' @noRd
edit_columns <- function(state, mentions, r) {
  norms <- vapply(state$items, `[[`, "", "norm")
  divided <- FALSE
  further <- says(state, "\\b(split|break|broken)\\b.*\\bby\\b") && length(r$by) && r$task %in% c("compare", "describe", "frequency")
  adds <- further || any(norms %in% c("add", "also", "include", "plus", "too", "additionally", "as well")) || says(state, "\\bas well\\b")
  for (m in mentions) {
    name <- column_of(state, m$column)
    kind <- kind_at(state, m$column)
    if (m$marker == "adjust") {
      # (what is explained is not held constant)
      if (name %in% r$outcome) next
      r$adjust_for <- unique(c(r$adjust_for, name))
      # a comparison or relation with something held constant is a model, and so are shares
      if (r$task %in% c("frequency", "compare") && length(r$extra$event) && length(r$by)) r <- as_model(r, r$extra$event$column)
      # curves hold nothing constant, a model of the hazard does
      else if (r$task == "survival") {
        r$predictors <- unique(c(r$predictors, r$by)); r$by <- character()
        r["method_asked"] <- list("cox_regression")
        r$extra[c("at_time", "at_times")] <- NULL
      }
      else if (r$task %in% c("relate", "compare", "describe", "figure", "rank") && length(r$outcome) == 1 && (r$task != "rank" || length(r$by))) {
        # "is X related to Y", then with something held constant: Y is explained
        turned <- r$task == "relate" && !isTRUE(r$extra$depends) && length(r$predictors) == 1 &&
          all(kind_of_names(state, c(r$outcome, r$predictors)) %in% c("number", "count"))
        if (turned) { y <- r$predictors; r$predictors <- r$outcome; r$outcome <- y }
        r <- as_model(r, r$outcome)
      }
      next
    }
    if (m$marker == "by" && can_group(state, m$column)) {
      r["method_asked"] <- list(of_any_groups(r$method_asked))
      r$by <- if (adds || divided) unique(c(r$by, name)) else name
      if (!adds && !divided) r$extra$levels <- NULL
      divided <- TRUE
      # a correlation in each of the groups, shares of the same event in each
      pair <- r$task == "relate" && length(r$predictors) == 1 && all(kind_of_names(state, c(r$outcome, r$predictors)) %in% c("number", "count"))
      if (pair) { r$extra$by_group <- TRUE; r["method_asked"] <- list(NULL) }
      if (r$task == "frequency" && length(r$extra$event)) r$extra$shares <- TRUE
      next
    }
    # "and waiter", after something was held constant: that as well
    held <- r$task %in% c("predict", "survival") && length(r$adjust_for) && says(state, "^ *and (for )?(the )?[\\w.]+( [\\w.]+)?[?.! ]*$")
    if (held) { r$adjust_for <- unique(c(r$adjust_for, name)); next }
    if (r$task == "survival") {
      # ("and sex", "by age instead": the time and the event stay)
      if (length(r$predictors) || !can_group(state, m$column)) { r$predictors <- unique(c(r$predictors, r$by, name)); r$by <- character() }
      else r$by <- if (adds) unique(c(r$by, name)) else name
      if (length(r$predictors)) r["method_asked"] <- list("cox_regression")
      next
    }
    if (adds && r$task %in% c("predict", "drivers")) { r$predictors <- unique(c(r$predictors, name)); next }
    if (r$task == "relate") { if (identical(r$outcome, name)) next; r$predictors <- name; next }
    # "what about the follow-up", of a model that compares groups: another outcome
    other <- says(state, "^(and |so )*(what|how) about\\b") && length(r$outcome) == 1 && kind %in% c("number", "count") &&
      kind_of_names(state, r$outcome) %in% c("number", "count") && length(r$predictors) == 1 && is_level_kind(kind_of_names(state, r$predictors))
    if (r$task == "predict" && name %in% r$outcome) next
    if (r$task == "predict" && other) { r$outcome <- name; next }
    if (r$task == "predict") { if (length(r$predictors) == 1) r$predictors <- name
                              else r$predictors <- unique(c(r$predictors, name)); next }
    fits_by <- is_level_kind(kind) && kind != "ordered"
    if (fits_by && length(r$by) && r$task %in% c("compare", "describe", "rank")) { r$by <- name; r$extra$levels <- NULL
      next }
    r <- other_outcome(state, r, name)
  }
  r
}

#' Another outcome in the place of the one before; the share of an event becomes that of the new column, or its mean
#' @noRd
other_outcome <- function(state, r, name) {
  if (r$task %in% c("frequency", "compare") && length(r$extra$event) && !identical(r$extra$event$column, name)) {
    kind <- kind_of_names(state, name)
    tested <- isTRUE(r$extra$shares_tested)
    r$extra[c("event", "shares", "shares_tested")] <- NULL
    if (kind == "yes_no") {
      r$extra$event <- new_filter(name, "==", column_record(state, match(name, state$vocabulary$columns$name))$last_level)
      r$extra$shares <- TRUE
      if (tested) r$extra$shares_tested <- TRUE
    } else if (kind %in% c("number", "count") && r$task == "frequency") { r$task <- "describe"; r["statistic"] <- list("mean") }
  }
  r$outcome <- name
  r
}

#' "only women", of a model that holds sex: what no longer varies explains nothing and leaves the model, which is said
#' @noRd
without_fixed <- function(r, filters) {
  fixed <- vapply(Filter(function(f) f$op == "==", filters), `[[`, "", "column")
  r <- without_fixed_groups(r, fixed)
  gone <- intersect(fixed, c(r$predictors, r$adjust_for))
  if (!length(gone) || !r$task %in% c("predict", "survival") || length(c(r$predictors, r$by)) - length(intersect(gone, r$predictors)) < 1) return(r)
  r$predictors <- setdiff(r$predictors, gone)
  r$adjust_for <- setdiff(r$adjust_for, gone)
  r$extra$interaction <- NULL
  r$assumed <- c(r$assumed, sprintf("%s no longer varies, so it left the model.", some_of(gone, 3)))
  r
}

#' "how many by clinic and sex in Ashby": a column with one level left divides nothing more
#' @noRd
without_fixed_groups <- function(r, fixed) {
  groups <- if (r$task == "frequency") c(r$outcome, r$by) else if (r$task %in% c("describe", "figure", "rank")) r$by
  gone <- intersect(fixed, groups)
  if (!length(gone) || !length(setdiff(groups, gone)) || length(r$extra$event)) return(r)
  r$by <- setdiff(r$by, gone)
  if (r$task == "frequency") r$outcome <- setdiff(r$outcome, gone)
  r$assumed <- c(r$assumed, sprintf("%s has one level only in these rows, so it divides nothing.", some_of(gone, 3)))
  r
}

#' "use a rank test", "as a box plot", after a model of a number on one column of groups: those groups
#' @noRd
groups_of_model <- function(state, previous, r) {
  alone <- previous$task == "predict" && r$task %in% c("compare", "figure") && !length(r$by) && length(previous$predictors) == 1 &&
      length(previous$outcome) == 1
  if (!alone || !kind_of_names(state, previous$predictors) %in% c("category", "yes_no", "ordered") ||
      !kind_of_names(state, previous$outcome) %in% c("number", "count", "ordered")) return(r)
  r$by <- previous$predictors
  r$predictors <- character()
  if (length(r$adjust_for)) r$assumed <- c(r$assumed, sprintf("%s no longer held constant: groups are set side by side as they are.",
                                                              paste(some_of(r$adjust_for, 4), plural(length(r$adjust_for), "is", "are"))))
  r$adjust_for <- character()
  r
}

#' A method for two groups as its family, where other groups take their place
#' @noRd
of_any_groups <- function(method) {
  if (is.null(method)) return(NULL)
  if (method %in% c("mann_whitney", "kruskal_wallis")) return("rank_test")
  if (method %in% c("t_welch", "t_student", "t_test", "trimmed_t")) return(NULL)
  method
}

#' "only hives that survived", "without the smokers": a yes/no column after such words narrows the rows
#' @noRd
narrow_by_yes <- function(state, mentions) {
  keep <- says(state, "^(and |now |but |please )*(only|just|for|in|among|those|the ones|what about|how about|restrict|with)\\b")
  drop <- says(state, paste0("^(and |now |but |please )*(without|excluding|except|not|leave out|drop|ignore)\\b|\\b(did not|didn't|were ",
      "not|weren't|not) \\w+ *[?.!]*$"))
  # "and non-smokers?"
  denied <- function(m) item_norm(state, m$at - 1) == "non"
  if (!keep && !drop && !any(vapply(mentions, denied, NA))) return(list())
  yes <- Filter(function(m) kind_at(state, m$column) == "yes_no" && m$marker != "by" && (keep || drop || denied(m)), mentions)
  lapply(yes, function(m) {
    c <- column_record(state, m$column)
    new_filter(c$name, "==", if (xor(drop, denied(m))) c$first_level else c$last_level)
  })
}
