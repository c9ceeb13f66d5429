# Filling the slots of a task from mentions and groups.

#' Fill the reading of one task
#'
#' @section Shape: a reading, with `extra$missing` naming required slots that stayed empty.
#' @noRd
fill_task <- function(state, mentions, task) {
  method <- single_method(state)
  r <- new_reading(task, statistic = main_statistic(state), method_asked = method, assumed = state$assumed)
  r$extra$statistics <- asked_statistics(state)
  r$extra$conf_level <- asked_conf_level(state)
  r$extra$causal <- any(vapply(state$items, has_lex, NA, "scope", "causal"))
  if (identical(method, "chi_square_goodness")) {
    r <- fill_measures(state, mentions, r)
    r$task <- "compare"
    r$extra$even <- TRUE
    r$extra$missing <- if (!length(c(r$outcome, r$by))) "outcome"
    if (!length(r$outcome)) { r$outcome <- r$by; r$by <- character() }
    return(r)
  }
  filler <- switch(task, compare = fill_compare, change = fill_compare, equivalence = fill_compare,
                   relate = fill_relate, predict = fill_predict,
                   describe = fill_describe, frequency = fill_frequency, distribution = fill_measures, rank = fill_rank,
                   figure = fill_figure,
                   trend = fill_trend, drivers = fill_drivers, quality = fill_measures, advise = fill_advise,
                   themes = fill_themes, fill_open)
  filler(state, mentions, r)
}

single_method <- function(state) {
  method <- setdiff(asked_methods(state), c("kaplan_meier")[FALSE])
  if (!length(method)) return(NULL)
  if (length(method) > 1) {
    sizes <- vapply(method, function(m) max(vapply(state$items,
                                                   function(i) if (m %in% lex_ids(i, "method")) i$to - i$from else -1,
                                                   1)), 1)
    method <- method[which.max(sizes)]
  }
  method
}

main_statistic <- function(state) {
  statistic <- asked_statistics(state)
  # the first one named; a share or a count only where nothing else is asked for
  late <- c("percent", "count")
  c(intersect("weighted_mean", statistic), setdiff(statistic, late), statistic)[1] |> (\(s) if (is.na(s)) NULL else s)()
}

asked_conf_level <- function(state) {
  for (k in which(state$type == "number")) {
    v <- state$items[[k]]$value
    around <- paste(vapply(k + 1:4, function(j) item_norm(state, j), ""), collapse = " ")
    if (grepl("^(%|percent) ?(confidence|ci|interval)", around) && v > 50 && v < 100) return(v / 100)
  }
  NULL
}

column_names_of <- function(state, mentions) vapply(mentions, function(m) column_of(state, m$column), "")

#' Groups that are not the ones compared become filters
#' @noRd
with_filters <- function(state, r, compared = list()) {
  rest <- Filter(function(g) !any(vapply(compared, identical, NA, g)), state$groups)
  r$filters <- c(state$filters, lapply(rest, function(g) group_filter(state, g)))
  r
}

# ---- compare ---------------------------------------------------------------------------------------------------

fill_compare <- function(state, mentions, r) {
  r <- note_adjusted(state, mentions, r)
  r$unit <- unit_mentioned(state)
  r$extra$within <- any(vapply(state$items, has_lex, NA, "scope", "unit")) || r$task == "change"
  mentions <- Filter(function(m) m$marker != "adjust" && !identical(column_of(state, m$column), r$unit), mentions)
  parts <- compare_parts(state, mentions, r$extra$within)
  compared <- parts$compared
  r$outcome <- column_names_of(state, parts$outcome)
  r$by <- c(column_names_of(state, parts$by), if (length(compared)) column_of(state, compared[[1]]$column))
  r$by <- unique(r$by)
  if (!is.null(state$null_value)) {
    r$extra$null_value <- state$null_value
    return(fill_against_value(state, mentions, r))
  }
  r <- with_filters(state, r, compared)
  for (g in compared) r <- compared_levels(state, r, g)
  r$extra$outcome_mentions <- parts$outcome
  missing <- c(if (!length(r$outcome)) "outcome", if (!length(r$by) && length(r$outcome) < 2) "by")
  r$extra$missing <- missing
  r
}

#' "the same children", "every patient took both": the key column whose rows belong together
#' @noRd
unit_mentioned <- function(state) {
  for (k in seq_len(state$n)) {
    if (!item_norm(state, k - 1) %in% c("same", "every", "each", "within", "per") &&
        !has_lex_at(state, k, "scope", "unit")) next
    column <- item_column(state, k, "id")
    if (!is.na(column) && !state$vocabulary$columns$unique[column]) return(column_of(state, column))
  }
  NULL
}

note_adjusted <- function(state, mentions, r) {
  r$adjust_for <- column_names_of(state, Filter(function(m) m$marker == "adjust", mentions))
  r
}

#' Which mentions measure and which divide; which groups of values are compared
#' @noRd
compare_parts <- function(state, mentions, within = FALSE) {
  if (paired_columns(state, mentions)) return(list(outcome = mentions, by = list(), compared = list()))
  positive <- Filter(function(g) !g$negated, state$groups)
  several <- Filter(function(g) length(g$levels) > 1 || g$lead == "both", positive)
  marked <- vapply(mentions, function(m) m$marker %in% c("by", "between") && can_group(state, m$column), NA)
  level_kind <- vapply(mentions, function(m) is_level_kind(kind_at(state, m$column)) &&
                       kind_at(state, m$column) != "ordered", NA)
  numeric <- vapply(mentions, function(m) kind_at(state, m$column) %in% c("number", "count"), NA)
  groupable <- vapply(mentions, function(m) can_group(state, m$column), NA)
  by <- marked
  if (within && length(mentions) > 1 && any(numeric & !groupable)) {
    # measured repeatedly: what takes many values is measured, what takes few are the occasions and groups
    by <- groupable & !(numeric & !groupable)
  } else if (!any(by) && !length(several)) {
    by <- level_kind & (any(numeric) | any(vapply(mentions, function(m) kind_at(state, m$column) == "ordered", NA)))
    if (!any(by)) by <- pick_divider(state, mentions, groupable)
  } else if (!any(by)) by <- level_kind & any(numeric) & FALSE
  aimed <- vapply(mentions, function(m) identical(m$marker, "on"), NA)
  if (sum(aimed) == 1 && any(numeric & aimed) && sum(groupable & !aimed) >= 1) by <- groupable & !aimed
  outcome <- mentions[!by]
  compared <- list()
  if (length(several)) compared <- several[1]
  else if (!any(by) && length(positive)) compared <- positive[order(vapply(positive,
      function(g) isTRUE(g$lead == "only"), NA))][1]
  by_mentions <- mentions[by]
  # groups that name levels of the dividing column are its levels, not a second divider
  if (length(compared) && length(by_mentions)) {
    same <- vapply(by_mentions, function(m) m$column == compared[[1]]$column, NA)
    if (length(several)) by_mentions <- by_mentions[same] else compared <- list()
  }
  list(outcome = outcome, by = by_mentions, compared = compared)
}

#' Among columns that could each divide, the one the words point to: after "by" or "on", after the verb, or with fewest levels
#' @noRd
pick_divider <- function(state, mentions, groupable) {
  out <- rep(FALSE, length(mentions))
  if (sum(groupable) == 0 || length(mentions) < 2) return(out)
  if (effect_first(state, mentions)) { out[which(groupable)[1]] <- TRUE; return(out) }
  out[max(which(groupable))] <- TRUE
  out
}

#' "effect of X on Y", "does X affect Y": the first mention is the one that divides
#' @noRd
effect_first <- function(state, mentions) {
  first <- mentions[[1]]$at; second <- mentions[[2]]$at
  between <- if (second - first > 1) unlist(lapply(state$items[(first + 1):(second - 1)], `[[`,
                                                   "norm")) else character()
  any(between %in% c("affect", "affects", "affected", "influence", "influences", "change", "matter for", "matters for",
                     "raise", "raises", "reduce", "reduces",
                     "improve", "improves", "increase", "increases", "decrease", "decreases", "lead to", "leads to",
                     "boost", "boosts", "drive", "drives",
                     "predict", "predicts", "explain", "explains", "determine", "determines", "help", "helps", "cause",
                     "causes", "matter", "make", "makes",
                     "impact", "impacts", "mean a", "means a")) || (any(between == "on") && has_effect_of(state, first))
}

has_effect_of <- function(state, before) {
  any(vapply(seq_len(before), function(k) grepl("^(effect|effects|impact|influence)( of)?$", item_norm(state, k)), NA))
}

compared_levels <- function(state, r, g) {
  name <- column_of(state, g$column)
  all <- state$vocabulary$columns$distinct[g$column]
  r$extra$levels <- if (length(g$levels) > 1) g$levels else NULL
  if (length(g$levels) > 1 && length(g$levels) < all) {
    value <- if (isTRUE(g$numeric) && is_numeric_kind(kind_at(state, g$column))) g$numbers else g$levels
    r$filters <- c(r$filters, list(new_filter(name, "in", value)))
  } else if (length(g$levels) == 1 && all > 2) {
    r$extra$single_level <- g$levels
  }
  r
}

fill_against_value <- function(state, mentions, r) {
  r <- with_filters(state, r)
  outcome <- mentions
  r$outcome <- column_names_of(state, outcome)
  r$by <- character()
  if (isTRUE(state$flags$null_percent) || !length(r$outcome)) {
    g <- Filter(function(g) !g$negated && length(g$levels) == 1, state$groups)
    if (length(g)) {
      r$outcome <- column_of(state, g[[1]]$column)
      r$extra$event <- group_filter(state, g[[1]])
      r <- with_filters(state, r, g[1])
    }
  }
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

# ---- relate and predict ----------------------------------------------------------------------------------------

fill_relate <- function(state, mentions, r) {
  r <- note_adjusted(state, mentions, r)
  rest <- Filter(function(m) m$marker != "adjust", mentions)
  positive <- Filter(function(g) !g$negated, state$groups)
  several <- Filter(function(g) length(g$levels) > 1, positive)
  names <- column_names_of(state, rest)
  compared <- list()
  if (length(names) < 2 && length(several)) compared <- several[1]
  else if (length(names) < 2 && length(positive)) compared <- positive[seq_len(min(length(positive),
      2 - length(names)))]
  for (g in compared) names <- unique(c(names, column_of(state, g$column)))
  r <- with_filters(state, r, compared)
  for (g in several[seq_len(min(1, length(compared)))]) r <- compared_levels(state, r, g)
  r$outcome <- utils::head(names, 1)
  r$predictors <- names[-1]
  r$extra$outcome_mentions <- rest
  r$extra$missing <- if (length(names) < 2) if (length(names)) "second" else c("outcome", "second")
  r
}

fill_predict <- function(state, mentions, r) {
  r <- note_adjusted(state, mentions, r)
  rest <- Filter(function(m) m$marker != "adjust", mentions)
  rest <- add_event_outcome(state, rest)
  r <- with_filters(state, r, attr(rest, "used"))
  turn <- outcome_position(state, rest)
  names <- column_names_of(state, rest)
  if (length(rest)) {
    r$outcome <- names[turn]
    r$predictors <- names[-turn]
  }
  if (any(vapply(state$items, has_lex, NA, "scope", "all_others")) && length(r$outcome)) {
    r$predictors <- other_predictors(state, r$outcome)
  }
  events <- Filter(function(m) identical(m$marker, "event"), rest)
  if (length(events)) r$extra$event_level <- events[[1]]$event
  named <- Filter(function(g) !g$negated && length(g$levels) == 1 && length(r$outcome) &&
                  column_of(state, g$column) == r$outcome[1], state$groups)
  if (length(named) && is.null(r$extra$event_level)) r$extra$event_level <- named[[1]]$levels
  r$extra$at <- unlist(lapply(rest, function(m) if (identical(m$marker, "value")) stats::setNames(m$value,
      column_of(state, m$column))))
  r$extra$interaction <- any(vapply(state$items, has_lex, NA, "scope", "interaction"))
  r$extra$outcome_mentions <- rest
  r$extra$missing <- c(if (!length(r$outcome)) "outcome", if (!length(r$predictors)) "predictors")
  r
}

#' "whether a car has a manual transmission": a level named as the event makes its column the outcome
#' @noRd
add_event_outcome <- function(state, rest) {
  positive <- Filter(function(g) !g$negated && length(g$levels) == 1, state$groups)
  if (length(rest) >= 2 || !length(positive) || !length(rest)) return(rest)
  g <- positive[[1]]
  if (isTRUE(g$numeric)) {
    # "expect ... after an eruption of 4 minutes": the number is a value of the predictor
    m <- list(at = min(g$at), column = g$column, cols = NULL, score = 1, adjective = FALSE, low = FALSE,
              marker = "value", text = "", value = g$numbers[1])
    return(structure(c(rest, list(m)), used = list(g)))
  }
  if (g$lead == "only" || any(vapply(rest, function(m) m$column == g$column, NA))) return(rest)
  if (min(g$at) < rest[[length(rest)]]$at) return(rest)
  m <- list(at = min(g$at), column = g$column, cols = NULL, score = 1, adjective = FALSE, low = FALSE, marker = "event",
            text = "", event = g$levels)
  structure(c(rest, list(m)), used = list(g))
}

other_predictors <- function(state, outcome) {
  columns <- state$vocabulary$columns
  home <- columns$table[match(outcome[1], columns$name)]
  ok <- columns$kind %in% c("number", "count", "ordered", "yes_no") |
    (columns$kind == "category" & columns$distinct <= 12)
  setdiff(columns$name[ok & columns$table == home & columns$role != "weight"], outcome)
}

#' Which mention is the outcome
#' @noRd
outcome_position <- function(state, rest) {
  if (length(rest) < 2) return(1L)
  event <- which(vapply(rest, function(m) identical(m$marker, "event"), NA))
  if (length(event)) return(event[1])
  markers <- vapply(rest, `[[`, "", "marker")
  first <- rest[[1]]$at
  lead <- vapply(seq_len(first - 1), function(k) item_norm(state, k), "")
  on <- which(markers == "on")
  if (length(on) && on[1] > 1) {
    # "effect of X on Y": Y is the outcome; "regress Y on X": X are predictors
    if (has_effect_of(state, first) || any(grepl("^(effect|impact|influence)", lead))) return(on[1])
    return(1L)
  }
  if (effect_first(state, rest)) return(2L)
  if (each_extra(state, rest)) return(1L)
  if (longer_means(state, rest)) return(length(rest))
  1L
}

#' "how much Y for each extra X": the outcome comes first
#' @noRd
each_extra <- function(state, rest) any(vapply(state$items,
                                               function(i) grepl("(each|every|per) (extra|additional)", i$norm), NA))

longer_means <- function(state, rest) any(vapply(state$items, function(i) i$norm %in% c("means a", "mean a"), NA))

# ---- describe, frequency, distribution -------------------------------------------------------------------------

fill_describe <- function(state, mentions, r) {
  r <- with_filters(state, r)
  by <- vapply(mentions, function(m) m$marker %in% c("by", "between") && can_group(state, m$column), NA)
  measured <- vapply(mentions, function(m) can_measure(state, m$column), NA)
  # a column that only divides stands beside one that measures
  if (!any(by) && any(measured) && any(!measured)) by <- !measured &
    vapply(mentions, function(m) can_group(state, m$column), NA)
  r$outcome <- column_names_of(state, mentions[!by])
  r$by <- column_names_of(state, mentions[by])
  groups <- Filter(function(g) !g$negated && length(g$levels) > 1 && !(column_of(state, g$column) %in% r$by),
                   state$groups)
  if (length(groups) && length(r$outcome)) {
    r$by <- c(r$by, column_of(state, groups[[1]]$column))
    r <- with_filters(state, r, groups[1])
    r <- compared_levels(state, r, groups[[1]])
  }
  if (identical(r$statistic, "weighted_mean") || asks_weighted(state)) r <- take_weight(state, r)
  r$extra$outcome_mentions <- mentions[!by]
  r$extra$missing <- if (!length(r$outcome) && !wants_all(state)) "outcome"
  r
}

#' "weighted by ..." as such: the stem alone is also that of a column called weight
#' @noRd
asks_weighted <- function(state) {
  any(vapply(state$items, function(i) has_lex(i, "scope", "weighted_by") &&
             grepl("weighted|the weights|using weights", i$norm), NA))
}

take_weight <- function(state, r) {
  columns <- state$vocabulary$columns
  weight <- columns$name[columns$role == "weight"]
  if (!length(weight)) return(r)
  r$outcome <- setdiff(r$outcome, weight)
  r$extra$weight <- weight[1]
  r$statistic <- "weighted_mean"
  r
}

wants_all <- function(state) {
  any(vapply(state$items, function(i) i$norm %in% c("all", "every", "everything", "variables", "columns", "numeric",
                                                    "numerical"), NA))
}

fill_frequency <- function(state, mentions, r) {
  r <- with_filters(state, r)
  share <- any(c("percent") %in% asked_statistics(state)) ||
    any(vapply(state$items, function(i) any(grepl("share|proportion|percent|fraction", i$norm)), NA))
  if (share || is_event_question(state)) r <- take_event(state, mentions, r)
  names <- column_names_of(state, mentions)
  r$outcome <- unique(c(r$outcome, names))
  if (!length(r$outcome)) r <- counted_groups(state, r)
  by <- vapply(mentions, function(m) m$marker == "by", NA)
  if (length(mentions) > 1 && any(by) && !all(by)) {
    r$by <- intersect(r$outcome, names[by])
    r$outcome <- setdiff(r$outcome, r$by)
  }
  r$extra$outcome_mentions <- mentions
  r
}

is_event_question <- function(state) FALSE

#' "how many men and how many women": values of one column and nothing else ask for its counts
#' @noRd
counted_groups <- function(state, r) {
  several <- Filter(function(g) !g$negated && length(g$levels) > 1, state$groups)
  if (!length(several)) return(r)
  r$outcome <- column_of(state, several[[1]]$column)
  r <- with_filters(state, r, several[1])
  compared_levels(state, r, several[[1]])
}

#' "what share of the patients died": the last condition is the event, those before it restrict the rows
#' @noRd
take_event <- function(state, mentions, r) {
  positions <- c(vapply(state$groups, function(g) max(g$at), 1), numeric())
  groups <- state$groups
  yes_no <- Filter(function(m) kind_at(state, m$column) == "yes_no", mentions)
  if (length(yes_no) == 1 && length(mentions) == 1 && yes_no[[1]]$marker != "by") {
    # "what share of the hives swarmed": the yes of a yes/no column is the event
    name <- column_of(state, yes_no[[1]]$column)
    r$outcome <- name
    r$extra$event <- new_filter(name, "==", state$vocabulary$columns$last_level[yes_no[[1]]$column])
    return(r)
  }
  if (length(groups)) {
    last <- which.max(positions)
    g <- groups[[last]]
    mentioned <- vapply(mentions, function(m) m$column == g$column, NA)
    if (!g$negated && !(length(mentions) && !any(mentioned))) {
      r$extra$event <- group_filter(state, g)
      r <- with_filters(state, r, groups[last])
      r$outcome <- column_of(state, g$column)
      return(r)
    }
    return(r)
  }
  if (length(state$filters) && !length(mentions)) {
    event <- last_of(state$filters)
    r$extra$event <- event
    r$outcome <- event$column
    r$filters <- state$filters[-length(state$filters)]
  }
  r
}

fill_measures <- function(state, mentions, r) {
  r <- with_filters(state, r)
  by <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  r$outcome <- column_names_of(state, mentions[!by])
  r$by <- column_names_of(state, mentions[by])
  r$extra$outcome_mentions <- mentions[!by]
  r$extra$missing <- if (r$task == "distribution" && !length(r$outcome)) "outcome"
  r
}

# ---- tasks that rank, draw, follow time ------------------------------------------------------------------------

fill_rank <- function(state, mentions, r) {
  r <- with_filters(state, r)
  kinds <- mention_kinds(state, mentions)
  measured <- kinds %in% c("number", "count", "ordered") & !vapply(mentions, function(m) m$marker == "by" && FALSE, NA)
  divider <- kinds %in% c("category", "yes_no", "id", "ordered", "date") & !measured
  if (!any(divider) && sum(measured) > 1) { divider[which(kinds == "ordered")[1]] <- TRUE
    divider[is.na(divider)] <- FALSE; measured <- measured & !divider }
  r$outcome <- column_names_of(state, mentions[measured])[seq_len(min(1, sum(measured)))]
  by <- mentions[divider]
  r$by <- column_names_of(state, by)
  # a key names the rows themselves unless a statistic is taken over its rows
  columns <- state$vocabulary$columns
  rows <- vapply(r$by, function(n) columns$kind[match(n, columns$name)] %in% c("id", "date", "text"), NA)
  if (is.null(r$statistic) || length(rows)) if (is.null(r$statistic)) r$by <- r$by[!rows]
  if (length(r$by) && is.null(r$statistic)) r$statistic <- "mean"
  if (!length(r$by)) r$statistic <- NULL
  r$top <- asked_top(state)
  r$extra$outcome_mentions <- mentions[measured]
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

asked_top <- function(state) {
  norms <- vapply(state$items, `[[`, "", "norm")
  low <- any(norms %in% c("bottom", "lowest", "smallest", "worst", "fewest", "least", "weakest")) ||
    any(vapply(state$items, function(i) !is.null(i$adj) && any(i$adj$id == "low"), NA))
  every <- any(norms %in% c("rank", "ranking", "ranked"))
  count <- vapply(which(state$type == "number" & !state$used), function(k) state$items[[k]]$value, 1)
  n <- if (length(count)) count[1] else if (every) NULL else 1
  if (is.null(n)) return(NULL)
  list(n = as.integer(n), order = if (low) "lowest" else "highest")
}

fill_figure <- function(state, mentions, r) {
  r <- with_filters(state, r)
  picture <- unlist(lapply(state$items, lex_ids, "picture"))
  r$extra$picture <- if (length(picture)) picture[1]
  by <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  names <- column_names_of(state, mentions)
  r$outcome <- utils::head(names[!by], 1)
  r$predictors <- names[!by][-1]
  r$by <- names[by]
  if (any(vapply(state$items, has_lex, NA, "task", "trend"))) r$time <- asked_time(state)
  r$extra$outcome_mentions <- mentions
  r$extra$missing <- if (!length(names)) "outcome"
  r
}

fill_trend <- function(state, mentions, r) {
  r <- with_filters(state, r)
  kinds <- mention_kinds(state, mentions)
  r$outcome <- column_names_of(state, mentions[kinds %in% c("number", "count", "ordered", "yes_no")])
  r$by <- column_names_of(state, mentions[kinds == "category"])
  r$time <- asked_time(state)
  r$extra$trend_test <- any(vapply(state$items,
                                   function(i) grepl("trend|over time|worse|better|risen|fallen|increas|decreas|develop|chang|grow|seasonal", i$norm), NA)) &&
    is.null(r$time$every)
  if (!length(r$outcome)) r$statistic <- "count"
  r$extra$missing <- if (is.null(r$time)) "time"
  r
}

asked_time <- function(state) {
  columns <- state$vocabulary$columns
  dated <- columns$name[columns$kind %in% c("date", "datetime")]
  if (!length(dated)) dated <- columns$name[columns$role == "year"]
  if (!length(dated)) return(NULL)
  every <- unlist(lapply(state$items, lex_ids, "every"))
  window <- NULL
  for (k in which(state$type == "number")) if (grepl("rolling|moving|running",
                                                     paste(vapply(k + 1:3, function(j) item_norm(state, j), ""),
                                                           collapse = " "))) window <- state$items[[k]]$value
  compact(list(column = dated[1], every = if (length(every)) every[1], window = window))
}

fill_drivers <- function(state, mentions, r) {
  r <- with_filters(state, r)
  markers <- vapply(mentions, `[[`, "", "marker")
  aimed <- which(markers %in% c("for", "on", "with", "to", "of"))
  at <- if (length(mentions) > 1 && length(aimed)) aimed[length(aimed)] else min(1L, length(mentions))
  r$outcome <- column_names_of(state, mentions[at])
  r$predictors <- column_names_of(state, mentions[-at])
  if (length(r$outcome) && length(r$predictors) < 2) {
    r$predictors <- other_predictors(state, r$outcome)
    r$assumed <- c(r$assumed, "All other columns that can be related are considered.")
  }
  r$extra$ranking <- TRUE
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

fill_advise <- function(state, mentions, r) fill_compare(state, mentions, r) |> (\(x) { x$extra$missing <- NULL; x })()

fill_themes <- function(state, mentions, r) {
  r <- with_filters(state, r)
  columns <- state$vocabulary$columns
  text <- Filter(function(m) kind_at(state, m$column) == "text", mentions)
  r$outcome <- if (length(text)) column_names_of(state, text) else utils::head(columns$name[columns$kind == "text"], 1)
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

fill_open <- function(state, mentions, r) {
  r <- with_filters(state, r)
  r$outcome <- column_names_of(state, mentions)
  r
}
