# Follow-ups that speak of the answer before: its figure, its order, its rows, its significance, what came before it.

#' Edits told by the words alone, tried in turn
#'
#' @param history Readings answered before, the latest last.
#' @section Shape: A verdict, or NULL when the words are none of these.
#' @noRd
edit_by_words <- function(text, previous, history) {
  rules <- list(start_again, go_back, show_again, ask_rows, ask_number, ask_size, ask_highest, ask_significance, ask_level, ask_order, ask_share,
    ask_importance,
    ask_odds, ask_risk_ratio, ask_effect_size, ask_side, ask_pair_rows, ask_pairs, ask_write_up, ask_curve, ask_at_value,
    ask_interaction, ask_bound)
  for (rule in rules) {
    verdict <- rule(trimws(gsub("[.!?]+$", "", text)), previous, history)
    if (!is.null(verdict)) return(verdict)
  }
  NULL
}

start_again <- function(text, previous, history) {
  if (!grepl(paste0("^(please )?(start (again|over|afresh|anew)|begin again|from the (start|beginning)|reset|forget (that|it|everything|all ",
      "that)|new question)$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  blank <- finish_reading(new_reading("clarify"))
  blank$extra$help <- TRUE
  blank$extra$fresh <- TRUE
  new_verdict("needs_choice", blank, "Nothing of the questions before is kept; all rows are in play again. Ask a new question.")
}

go_back <- function(text, previous, history) {
  if (!grepl(paste0("^(please )?(go|step|take me) back( one| a step| again)?$|^(undo|revert)( that| this| it| the last( one| step| ",
      "change)?)?$|^(the )?(previous|last) (one|answer|question)( again)?$|^back( please)?$|^(drop|take|leave) (that|this|it)( out| back)?( again)?$|^never ?mind( that)?$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)  # nolint: line_length_linter.
  if (length(history) < 2) return(new_verdict("needs_choice", previous, "There is no earlier answer to go back to."))
  r <- history[[length(history) - 1L]]
  r$alternatives <- list()
  r$extra$went_back <- TRUE
  r$assumed <- unique(c(r$assumed, "Went back one answer."))
  new_verdict("answered", finish_reading(r))
}

#' "plot it", "in a table": the same answer, its figure or its table
#' @noRd
show_again <- function(text, previous, history) {
  if (!grepl(paste0("^(please |now |can you |could you )*((plot|draw|graph|chart|visuali[sz]e|show|picture) (it|that|this|them|these)( as a ",
      "(figure|plot|chart|graph|picture))?|(show|make|draw|give)( me)? (a|the) (figure|plot|chart|graph|picture)( of (it|that|this))?|(in|as) a ",
      "table|(show|give|make)( me)? (a|the) table|put (it|that|this) in a table|(show |give |list )?(me )?(just|only) the (table|numbers)|(show|give|list)( me)? (the|all)( the)? (numbers|figures|values|details))$"),  # nolint: line_length_linter.
             text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  # (after a picture of an answer a table is the answer again)
  if (grepl("\\b(table|numbers|values)\\b", text, ignore.case = TRUE) && identical(previous$task, "figure") && !is.null(previous$extra$from_task)) {
    previous$task <- previous$extra$from_task
    previous$extra$from_task <- previous$extra$picture <- NULL
  }
  new_verdict("answered", continued(previous))
}

ask_rows <- function(text, previous, history) {
  if (!grepl(paste0("^(please )?((show|list|give|see)( me| us)? (the|those|these|all( the)?|which)?( of)?( the)? ",
      "?(rows|records|cases|data|lines)( behind (it|that|this))?( are those| used)?|which ([a-z]+) (are|is|were) (those|these|they|that|it)|what ",
      "rows (are|were) (those|these|they|used)|which rows)$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  r$task <- "look_up"
  r$outcome <- unique(c(r$outcome, r$by, r$predictors)); r$by <- r$predictors <- r$adjust_for <- character()
  r["method_asked"] <- list(NULL); r["statistic"] <- list(NULL)
  r$extra <- r$extra[intersect(names(r$extra), c("conf_level"))]
  # a look aside: what follows goes on from the answer before it
  r$extra$aside <- TRUE
  new_verdict("answered", continued(r))
}

#' "how many is that": the rows that are in play
#' @noRd
ask_number <- function(text, previous, history) {
  if (!grepl("^(and |so |but )?how many (rows |cases |patients |people |of them |records )?(is|are|was|were) (that|those|they|these|it|there|left|in play)( in all| altogether)?$",  # nolint: line_length_linter.
             text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  r$task <- "frequency"
  r$outcome <- r$by <- r$predictors <- r$adjust_for <- character()
  r["method_asked"] <- list(NULL); r["statistic"] <- list(NULL); r["top"] <- list(NULL); r["time"] <- list(NULL)
  r$extra <- r$extra[intersect(names(r$extra), c("conf_level"))]
  r$extra$aside <- TRUE
  new_verdict("answered", continued(r))
}

ask_significance <- function(text, previous, history) {
  previous <- not_of_total(previous)
  if (!grepl(paste0("^(and |but )?(is|are|was|were) (that|the|this|these|those|they|it)( ",
      "(difference|differences|relation|relationship|effect|trend|change|result)s?)?( between (them|the groups))?( statistically)? ",
      "significant$|^compare (them|these|those|the groups)$|^(are|were) (they|these|those|the groups)( really| clearly)? different$|^(test|check) (that|it|this|them|the (difference|relation|change))s?( for significance)?$|^(do|does) (they|it|that|the ",  # nolint: line_length_linter.
      "groups) differ( significantly)?$|^significant$|^(is|was) (it|that|this)( really| clearly)? different$"),
             text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  # (shares of an event over groups are tested as they stand)
  shares <- r$task == "frequency" && length(r$extra$event) && length(r$by) && isTRUE(r$extra$shares)
  if (shares) {
    r$task <- "compare"
    r$extra$shares_tested <- TRUE
    r$outcome <- r$extra$event$column
  }
  if (r$task %in% c("describe", "figure", "rank", "frequency") && length(r$outcome) &&
    length(r$by)) r$task <- if (r$task == "frequency") "relate" else "compare"
  if (r$task == "frequency" && length(r$outcome) == 2) r$task <- "relate"
  if (r$task == "relate" && length(r$by) && !length(r$predictors)) { r$predictors <- r$by; r$by <- character() }
  r["statistic"] <- list(NULL)
  r$extra$statistics <- NULL
  r["top"] <- list(NULL)
  new_verdict("answered", continued(r))
}

#' "how big is that difference", "is that a big effect": the answer before, explained from its size on
#' @noRd
ask_size <- function(text, previous, history) {
  if (!grepl(paste0("^(and |so |but )?(how (big|large|strong|small|important|meaningful) (is|was|are) (that|this|it|the)( ",
      "(difference|effect|relation|relationship|association|change|gap|result))?|is (it|(that|this|the)( (difference|effect|change|relation|association|",  # nolint: line_length_linter.
          "correlation|relationship|gap))?) (a ",
          "|an |really )?",
      "(big|large|small|strong|meaningful|relevant|important|substantial|much)( (one|difference|effect|change|relation))?)$"), text,
          ignore.case = TRUE, perl = TRUE)) return(NULL)
  previous$task <- "explain"
  previous$alternatives <- list()
  new_verdict("answered", finish_reading(previous))
}

#' "which is highest?", "which one is worst?": the groups of the answer before, ranked
#' @noRd
ask_highest <- function(text, previous, history) {
  previous <- not_of_total(previous)
  which <- "(?:which|what|who)( one| group| of them| [\\p{L}_]+(?: [\\p{L}_]+)?)? (?:is|was|has|had|comes?|are|does|did)"
  form <- paste0("(?i)^(?:and |so |now )?(?:", which, "|(?:only|just|show(?: me)?(?: only| just)?))(?: the)? ",
                 "(highest|lowest|largest|smallest|best|worst|(?:most|least)(?: (?:common|frequent))?|biggest|first|last)(?: one)?(?: only)?[?.! ]*$")
  hit <- match_groups(text, form)
  # "which group is most satisfied?": of the groups told
  judged <- match_groups(text, "(?i)^(?:and |so |now )?(?:which|what) (group|one) (?:is|are|was|were) (?:the )?(most|least) [\\p{L}]+[?.! ]*$")
  if (is.na(hit[1]) && !is.na(judged[1])) hit <- judged
  if (!is.na(judged[1]) && identical(previous$task, "frequency") && length(previous$outcome) == 2 && !length(previous$by)) {
    previous$by <- previous$outcome[2]
    previous$outcome <- previous$outcome[1]
  }
  # (after counts a bare "and the least common" can mean nothing else)
  bare <- "(?i)^(?:and |so |now )?()(?:the )?((?:most|least) (?:common|frequent)|highest|lowest|largest|smallest|biggest)(?: one)?(?: only)?[?.! ]*$"
  if (is.na(hit[1]) && identical(previous$task, "frequency")) hit <- match_groups(text, bare)
  if (is.na(hit[1])) return(NULL)
  # (no noun was said)
  if (!nzchar(hit[2])) hit[2] <- NA
  low <- grepl("^(lowest|smallest|worst|least.*|last)$", hit[3], ignore.case = TRUE)
  r <- previous
  counted <- r$task == "frequency" && length(r$outcome) == 1 && !length(r$by) && !length(r$extra$event)
  if (counted && (is.na(hit[2]) || all(stems_of(trimws(hit[2]))[[1]] %in% c("one", "group", name_stems(r$outcome))))) {
    r$top <- list(n = 1L, order = if (low) "lowest" else "highest")
    return(new_verdict("answered", continued(r)))
  }
  groups <- c(r$by, if (r$task == "relate") r$predictors)
  if (!length(groups) || length(r$outcome) != 1) return(NULL)
  # ("which surgeon is worst", after an answer by surgeon)
  noun <- trimws(hit[2])
  if (!is.na(noun) && !noun %in% c("one", "group", "of them") && !all(stems_of(noun)[[1]] %in% name_stems(groups[1]))) return(NULL)
  # a table of rates says it itself
  if (isTRUE(r$extra$rate)) return(new_verdict("answered", continued(r)))
  r$by <- groups[1]; r$predictors <- character()
  if (length(r$extra$event)) r$statistic <- "percent" else if (is.null(r$statistic)) r$statistic <- "mean"
  r$task <- "rank"
  r["method_asked"] <- list(NULL)
  judged <- tolower(hit[3]) %in% c("best", "worst")
  # (of shares it is what the event is called that is good or bad)
  event <- if (length(r$extra$event)) as.character(unlist(r$extra$event$value))
  worse <- any(vapply(c(r$outcome, event), function(said) more_is_worse(said) || less_is_better(said), NA))
  r$top <- list(n = 1L, order = if (xor(low, judged && worse)) "lowest" else "highest")
  if (judged) r$assumed <- c(r$assumed, sprintf("Took more %s to be %s.", if (length(event)) paste(r$outcome, "=", event[1]) else r$outcome,
    if (worse) "worse" else "better, which the data does not say"))
  new_verdict("answered", continued(r))
}

ask_level <- function(text, previous, history) {
  found <- regmatches(text,
    regexec(paste0("^(?:now |and |please )*(?:at|with|use|using|on)? ?(?:a |the )?([0-9]{2}(?:\\.[0-9]+)?) ?(?:%|per ?cent|percent)(?: ",
        "(?:confidence|level|interval|ci|confidence (?:level|interval)s?)s?)?$"), text, ignore.case = TRUE))[[1]]
  if (!length(found)) return(NULL)
  level <- as.numeric(found[2]) / 100
  if (level <= 0.5 || level >= 1) return(NULL)
  previous$extra$conf_level <- level
  new_verdict("answered", continued(previous))
}

ask_order <- function(text, previous, history) {
  previous <- not_of_total(previous)
  if (!grepl(paste0("^(please |and |now )*(sort|rank|order)(ed)?( (them|it|that|these|the groups))?( (by|from|in|with)( the)?)?( ",
      "(mean|median|value|total|count|size))?( (the )?(highest|lowest|largest|smallest|biggest|descending|ascending)( (to lowest|to ",
      "highest|first|order))?)?$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  if (!length(previous$outcome)) return(NULL)
  r <- previous
  r$task <- "rank"
  r$extra <- r$extra[setdiff(names(r$extra), c("statistics", "outcome_mentions", "missing"))]
  said <- match_groups(text, "(?i)\\bby (?:the )?(mean|median|total)\\b")[2]
  if (length(r$by) && !is.na(said)) r$statistic <- if (tolower(said) == "total") "sum" else tolower(said)
  if (length(r$by) && is.null(r$statistic)) r$statistic <- "mean"
  r$top <- list(order = if (grepl("lowest( first)?$|smallest|ascending", text, ignore.case = TRUE, perl = TRUE)) "lowest" else "highest")
  new_verdict("answered", continued(r))
}

ask_share <- function(text, previous, history) {
  if (!grepl(paste0("^(please |and |now )*(as|in) (a )?(percent(age)?s?|shares?|proportions?)( of the total)?$|^(and |so )?(what|which) ",
                    "(percent(age)?|share|proportion|fraction) (is|are|was|were) (that|this|it|they|those|these)$|^how (many|much) percent( is (that|it))?$"),  # nolint: line_length_linter.
             text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  # of rows that were counted by a condition: the share of it
  counted <- r$task == "frequency" && !length(c(r$outcome, r$by)) && length(r$filters)
  if (counted) {
    r$extra$event <- last_of(r$filters)
    r$filters <- r$filters[-length(r$filters)]
    r$outcome <- r$extra$event$column
    r$statistic <- "percent"
    return(new_verdict("answered", continued(r)))
  }
  if (r$task %in% c("describe", "rank") && length(r$outcome) == 1 && length(r$by)) {
    r$task <- "describe"; r["statistic"] <- list(NULL); r["top"] <- list(NULL)
    r$extra$of_total <- TRUE
    return(new_verdict("answered", continued(r)))
  }
  if (r$task %in% c("frequency", "relate")) {
    r$by <- unique(c(r$by, r$predictors)); r$predictors <- character(); r["method_asked"] <- list(NULL)
    r$task <- "frequency"; r$statistic <- "percent"
    return(new_verdict("answered", continued(r)))
  }
  # amounts over time have no share that could be meant: of what is left open
  if (r$task == "trend" && !length(r$extra$event)) {
    return(new_verdict("cannot_answer", r, headline = paste(
      "Amounts over time are not divided by a total here: of the whole time, or of each period?",
      "Ask for the share of one period at a time, by naming the period and the groups.")))
  }
  NULL
}

ask_importance <- function(text, previous, history) {
  if (!grepl(paste0("^(and |so )?which (one|of (them|these|those|the (two|three|four))|column|variable|factor|predictor)s? ",
      "(is|matters?|contributes?|counts?|explains?)( the)? (most|more)( important)?$|^which is (the )?most important$|^how much does each (one ",
      ")?(contribute|matter|explain)$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  if (length(previous$outcome) != 1 || length(c(previous$predictors, previous$adjust_for)) < 2) return(NULL)
  r <- previous
  r$predictors <- unique(c(r$predictors, r$adjust_for)); r$adjust_for <- character()
  r$task <- "predict"
  r$method_asked <- "relative_importance"
  new_verdict("answered", continued(r))
}

#' "as odds ratios": shares by group as a model of the odds
#' @noRd
ask_odds <- function(text, previous, history) {
  if (!grepl("^(please |and |now )*((as|in|show|give|with|use)( me)?( the)? odds( ratios?)?( instead)?|odds ratios?( instead| please)?)$", text,
      ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  event <- r$extra$event$column %||% if (length(r$outcome) == 1) r$outcome
  if (!r$task %in% c("frequency", "relate", "compare") || is.null(event) || !length(c(r$by, r$predictors))) return(NULL)
  new_verdict("answered", continued(as_model(r, event, "logistic_regression")))
}

#' "show me the pairs", "which ones differ": they stand beside the comparison of several groups
#' @noRd
ask_pairs <- function(text, previous, history) {
  if (!grepl(paste0("^(please |and |now )*((show|give|list|see)( me)? (the |all )?(pairs|pairwise (comparisons|tests|differences)|post[- ]?hoc( tests?| ",  # nolint: line_length_linter.
      "comparisons?)?)|which ([a-z]+|of them) (differ|are different)( from (each other|which|one another))?|pairwise( ",
      "comparisons?| tests?)?|post[- ]?hoc( tests?)?)$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  if (!previous$task %in% c("compare", "describe", "change") || length(previous$outcome) != 1 || !length(previous$by)) return(NULL)
  r <- previous
  if (r$task == "describe") { r$task <- "compare"; r["statistic"] <- list(NULL); r["top"] <- list(NULL) }
  r$assumed <- c(r$assumed, "Each pair of groups stands in the table of pairs, all pairs allowed for.")
  new_verdict("answered", continued(r))
}

#' Correlations of several columns: "use pairwise deletion", and back to "complete rows only"
#' @noRd
ask_pair_rows <- function(text, previous, history) {
  if (previous$task != "relate" || length(c(previous$outcome, previous$predictors)) < 3) return(NULL)
  means <- function(what) grepl(sprintf("^((please|and|now|use|only|with|on|over|the|same|again|just) )*(%s)( only| instead| please)*$", what), text,
                                ignore.case = TRUE, perl = TRUE)
  back <- means("complete (rows|cases)|listwise( deletion)?")
  if (!back && !asks_each_pair(text) && !means("pairwise")) return(NULL)
  r <- previous
  r$extra$each_pair <- if (back) NULL else TRUE
  new_verdict("answered", continued(r))
}

#' "risk ratio", after shares of an event in groups: the groups compared, which tells it
#' @noRd
ask_risk_ratio <- function(text, previous, history) {
  if (!grepl("^(please |and |now )*((as|in|show|give|with|what is|what's)( me)? )?(the |an? )?(risk ratios?|relative risks?|risk differences?)( instead| please)?$", text,  # nolint: line_length_linter.
             ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  event <- r$extra$event$column %||% if (length(r$outcome)) r$outcome[1]
  groups <- setdiff(c(r$by, r$predictors, r$outcome), event)
  if (!r$task %in% c("frequency", "relate", "compare") || is.null(event) || length(groups) != 1) return(NULL)
  r$task <- "compare"; r$outcome <- event; r$by <- groups; r$predictors <- character()
  r["method_asked"] <- list(NULL); r["statistic"] <- list(NULL); r["top"] <- list(NULL)
  r$extra[c("event", "shares", "shares_tested")] <- NULL
  if (grepl("ratio|relative", text, ignore.case = TRUE)) r$extra$effect <- "risk_ratio"
  new_verdict("answered", continued(r))
}

#' "effect size", "by how much", after a ranking, a summary or a comparison of groups: the comparison, which tells it
#' @noRd
ask_effect_size <- function(text, previous, history) {
  size <- "^(please |and |now )*((as|in|show|give|with|what is|what's)( me)? )?(the |an? )?(effect sizes?|cohen'?s d)( instead| please)?$"
  much <- "^(and |but )*(by )?how much( (higher|lower|larger|smaller|more|less|better|worse|longer|shorter))?( (is|are|was|were) (it|that|they|the difference))?$"  # nolint: line_length_linter.
  if (!grepl(size, text, ignore.case = TRUE, perl = TRUE) && !grepl(much, text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  if (!r$task %in% c("rank", "describe", "compare", "figure") || length(r$outcome) != 1 || !length(r$by) || isTRUE(r$extra$of_total) ||
      isTRUE(r$extra[["rate"]])) return(if (r$task == "change" && grepl(much, text, ignore.case = TRUE, perl = TRUE)) new_verdict("answered",
          continued(r)))
  r$task <- "compare"
  r["statistic"] <- list(NULL); r["top"] <- list(NULL)
  r$extra$statistics <- NULL
  new_verdict("answered", continued(r))
}

#' A comparison, a relation or shares, read anew as a model of the outcome by its groups and predictors
#' @noRd
as_model <- function(r, outcome, method = NULL) {
  r$task <- "predict"
  r$predictors <- setdiff(c(r$by, r$predictors), outcome)
  r$outcome <- outcome
  r$by <- character()
  r["method_asked"] <- list(method)
  r["statistic"] <- list(NULL)
  r["top"] <- list(NULL)
  r$extra[c("shares", "shares_tested", "statistics")] <- NULL
  r
}

#' "write it up", "how do I report this": the words for the paper
#' @noRd
ask_write_up <- function(text, previous, history) {
  if (!grepl(paste0("^(please |and |now |can you |could you )*(write (it|this|that) up( for (a|the|my) (paper|journal|thesis|report))?|",
      "(give|show)( me)? (a|the) write[- ]?up|how (do|should|would|can) (i|we|you) (report|write up|word|phrase) (it|this|that)( in (a|the|my) ",
      "(paper|journal|thesis|report))?|(as|in) (a )?journal( style)?|write[- ]?up)$"), text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  if (is.null(previous$outcome) && !length(previous$filters)) return(NULL)
  previous$extra$wants_write_up <- TRUE
  new_verdict("answered", continued(previous))
}

#' "is a curve better?", after a model of numbers: models compared
#' @noRd
ask_curve <- function(text, previous, history) {
  if (!grepl(paste0("^(and |but |so |would |might )*(is|would|might) (a |an )?(curve|curved line|spline|quadratic|parabola|polynomial|tree|bend|",
      "non-?linear (fit|model|relation))( be)?( fit| model)? (any )?(better|needed|preferable)$|^is (the|a) (straight )?line (good )?enough$"), text,
      ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  if (!r$task %in% c("predict", "relate") || !length(r$outcome) || !length(c(r$predictors, r$outcome[-1]))) return(NULL)
  r$predictors <- unique(c(r$outcome[-1], r$predictors, r$adjust_for)); r$outcome <- r$outcome[1]; r$adjust_for <- character()
  r$task <- "predict"; r$extra$models <- TRUE
  r["method_asked"] <- list(NULL)
  new_verdict("answered", continued(r))
}

#' "at 700?", "and with 10?", after a prediction at one value
#' @noRd
ask_at_value <- function(text, previous, history) {
  found <- regmatches(text, regexec("^(?:and |what about |how about |now |what if )*(?:at|with|for|of)? ?(-?[0-9]+(?:\\.[0-9]+)?)$", text,
    ignore.case = TRUE))[[1]]
  if (!length(found) || length(previous$extra$at) != 1) return(NULL)
  previous$extra$at[[1]] <- as.numeric(found[2])
  previous$extra["at_several"] <- list(NULL)
  new_verdict("answered", continued(previous))
}

# ---- edits that name columns or levels --------------------------------------------------------------------------------

#' "instead of placebo use drug B", "replace X with Y", "Y instead of X": one level or column for another
#' @section Shape: A reading, or NULL.
#' @noRd
swap_named <- function(text, previous, vocabulary) {
  forms <- c("(?:instead of|rather than) (?<from>.+?),? (?:use|take|try|compare|show)(?: with)? (?<to>.+)",
    "(?:replace|swap|exchange) (?<from>.+?) (?:with|by|for) (?<to>.+)", "(?:use |take |try |show |compare )?(?<to>.+?) instead of (?<from>.+)",
      "(?:use|take|try|do it with|with) (?<to>.+?) instead")
  text <- gsub("[.!?]+$", "", text)
  for (form in forms) {
    m <- regexpr(paste0("^(?:please |and |now )*", form, "$"), text, perl = TRUE, ignore.case = TRUE)
    if (m < 0) next
    piece <- function(name) { at <- attr(m, "capture.start"); k <- match(name, colnames(at)); if (is.na(k)) NULL else substr(text, at[1, k], at[1,
      k] + attr(m, "capture.length")[1, k] - 1) }
    new <- named_thing(piece("to"), vocabulary); old <- if (!is.null(piece("from"))) named_thing(piece("from"), vocabulary)
    return(swap_into(previous, old, new, vocabulary))
  }
  NULL
}

#' The one column or level that a phrase names
#' @noRd
named_thing <- function(phrase, vocabulary) {
  state <- parse_question(phrase, vocabulary)
  if (length(state$groups) == 1 && length(state$groups[[1]]$levels) == 1) return(list(column = column_of(state, state$groups[[1]]$column),
    level = state$groups[[1]]$levels))
  mentions <- find_mentions(state)
  if (length(mentions) == 1) list(column = column_of(state, mentions[[1]]$column)) else NULL
}

swap_into <- function(r, old, new, vocabulary) {
  if (is.null(new)) return(NULL)
  if (!is.null(new$level)) {
    if (!is.null(old) && !identical(old$column, new$column)) return(NULL)
    changed <- FALSE
    r$filters <- lapply(r$filters, function(f) {
      if (f$column != new$column) return(f)
      value <- as.character(unlist(f$value))
      at <- if (is.null(old)) NA else match(old$level, value)
      if (is.na(at) || new$level %in% value) return(f)
      value[at] <- new$level
      changed <<- TRUE
      f$value <- if (length(value) == 1) value else as.list(value)
      f
    })
    if (!changed) return(NULL)
    if (!is.null(r$extra$levels)) r$extra$levels[r$extra$levels == old$level] <- new$level
    return(r)
  }
  slots <- c("outcome", "by", "predictors", "adjust_for")
  if (is.null(old)) return(NULL)
  if (!any(vapply(slots, function(s) old$column %in% r[[s]], NA))) return(NULL)
  for (s in slots) r[[s]][r[[s]] == old$column] <- new$column
  # "age instead of smoking": a measure makes no groups
  own <- vocabulary$columns[match(new$column, vocabulary$columns$name), ]
  if (r$task == "compare" && identical(r$by, new$column) && own$kind %in% c("number", "count") && own$distinct > 12) {
    r$task <- "relate"; r$predictors <- r$by; r$by <- character()
    r["method_asked"] <- list(NULL); r$extra$levels <- NULL; r$extra$depends <- TRUE
  }
  r
}

#' "drop teaching method", "without hours studied" (a column that the model holds)
#' @noRd
drop_named <- function(text, state, mentions, r) {
  if (!grepl("^(please |and |now )*(drop|remove|leave out|take out|without|omit|exclude|ignore)\\b", text, ignore.case = TRUE, perl = TRUE) ||
    length(state$groups) || length(state$filters)) return(NULL)
  names <- column_names_of(state, mentions)
  held <- names[names %in% c(r$predictors, r$adjust_for, r$by, if (length(r$outcome) > 1) r$outcome)]
  if (!length(held)) return(NULL)
  for (s in c("predictors", "adjust_for", "by", if (length(r$outcome) > 1) "outcome")) r[[s]] <- setdiff(r[[s]], held)
  r$extra$interaction <- NULL
  r
}

#' "does the effect of hours studied depend on teaching method", asked of a model that holds an outcome
#' @noRd
moderate <- function(text, state, mentions, r) {
  if (!grepl(paste0("\\b(effects?|influence|impact|relation(ship)?|slope|it|that)\\b.*\\b(depends? on|differs? (by|between|across)|var(y|ies) ",
      "(with|by|across)|the same (in|for|across))\\b"), text, ignore.case = TRUE, perl = TRUE) || length(r$outcome) != 1) return(NULL)
  names <- setdiff(column_names_of(state, mentions), r$outcome)
  if (length(names) == 1) names <- c(utils::head(setdiff(c(r$predictors, r$by), names), 1), names)
  if (length(names) != 2) return(NULL)
  r$predictors <- unique(c(names, setdiff(c(r$predictors, r$by), names)))
  r$by <- character()
  r$task <- "predict"
  r["method_asked"] <- list(NULL)
  r$extra$interaction <- TRUE
  r$extra$levels <- NULL
  r
}

#' "what would a student with a pretest of 60 get": values of the model's predictors
#' @noRd
state_values <- function(text, state, r) {
  if (!grepl("\\b(what (would|will|is|could)|predict(ed)?|expect(ed)?|how (much|many|high) (would|will))\\b", text, ignore.case = TRUE,
    perl = TRUE) ||
      !r$task %in%
    c("predict", "relate") || length(r$outcome) != 1) return(NULL)
  stated <- Filter(function(g) isTRUE(g$numeric) && !g$negated && length(g$numbers) == 1, state$groups)
  names <- vapply(stated, function(g) column_of(state, g$column), "")
  pair <- unique(c(r$outcome, r$by, r$predictors, r$adjust_for))
  if (!all(names %in% pair)) return(NULL)
  # "a 30 year old smoker", of a model that holds both: the level at which it is read
  levels <- c(state$filters, lapply(Filter(function(g) names_one(g) && !isTRUE(g$numeric), state$groups), function(g) group_filter(state, g)))
  levels <- Filter(function(f) f$op == "==" && f$column %in% setdiff(c(r$predictors, r$adjust_for), names), levels)
  if (!length(stated) && !length(levels)) return(NULL)
  if (length(names) && (r$task == "relate" || names[1] %in% r$outcome)) { r$outcome <- setdiff(pair,
    names)[1]; r$predictors <- names; r$by <- r$adjust_for <- character() }
  r$task <- "predict"
  if (!isTRUE(r$method_asked %in% c("linear_regression", "logistic_regression", "poisson_regression"))) r["method_asked"] <- list(NULL)
  r$extra$at <- stats::setNames(vapply(stated, function(g) g$numbers[1], 1), names)
  r$extra["at_several"] <- list(NULL)
  r$extra$at_levels <- stated_levels(levels)
  # (a condition that the model had before stays)
  own <- vapply(levels, `[[`, "", "column")
  r$filters <- Filter(function(f) !f$column %in% own, r$filters)
  r
}

#' "now for drug B", of a comparison of drug A with placebo: the level takes the place of the one that is not the control
#' @noRd
change_level <- function(state, r) {
  g <- Filter(function(g) !g$negated && length(g$levels) == 1 && column_of(state, g$column) %in% r$by, state$groups)
  if (length(state$groups) != 1 || length(g) != 1 || length(r$by) != 1) return(NULL)
  at <- which(vapply(r$filters, function(f) f$column == r$by && f$op == "in" && length(unlist(f$value)) == 2, NA))
  if (length(at) != 1) return(NULL)
  old <- as.character(unlist(r$filters[[at]]$value))
  if (g[[1]]$levels %in% old) return(NULL)
  control <- grepl("^(control|placebo|reference|none|untreated|standard|usual care|baseline|no)\\b", old, ignore.case = TRUE, perl = TRUE)
  keep <- if (sum(control) == 1) old[control] else old[2]
  r$filters[[at]]$value <- as.list(c(g[[1]]$levels, keep))
  r$extra$levels <- c(g[[1]]$levels, keep)
  r$assumed <- c(r$assumed, sprintf("Compared %s with %s.", g[[1]]$levels, keep))
  r
}

#' "is there an interaction?", of groups in two ways or a model of two columns
#' @noRd
ask_interaction <- function(text, previous, history) {
  if (!grepl("^(so |and |but )?((is|was) there (an? |any )?(clear |significant )?interactions?|do (they|the two|these) interact|(please )?(also )?(add|include|with|test|check) (the |an |their )?interactions?( too| as well| term| effect)?|(is|was) the interaction (significant|clear|real)|any interactions?)$",  # nolint: line_length_linter.
             text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  r <- previous
  if (r$task == "compare" && length(r$by) >= 2) return(new_verdict("answered", continued(r)))
  if (!r$task %in% c("predict", "relate") || length(r$outcome) != 1 || length(r$predictors) != 2) return(NULL)
  r$task <- "predict"
  r["method_asked"] <- list(NULL)
  r$extra$interaction <- TRUE
  new_verdict("answered", continued(r))
}

#' "and below 1500?", after a share of rows beyond a bound: the share beyond another one
#' @noRd
ask_bound <- function(text, previous, history) {
  form <- "(?i)^(?:and |but |so |now |what about |how about |those |ones )*(over|under|above|below|at least|at most|more than|less than|fewer than|exactly) ([0-9]+(?:[.][0-9]+)?)$"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  event <- previous$extra$event
  if (is.na(hit[1]) || !identical(previous$task, "frequency") || is.null(event) || !is_bound(event) && !is.numeric(event$value)) return(NULL)
  # a condition on another number would leave open which of the two is meant
  if (any(vapply(previous$filters, is_bound, NA))) return(NULL)
  signs <- c(above = ">", below = "<", "at least" = ">=", "at most" = "<=", "=" = "==")
  r <- previous
  r$extra$event <- new_filter(event$column, signs[[plain_bound(hit[2])]], as.numeric(hit[3]))
  new_verdict("answered", continued(r))
}
