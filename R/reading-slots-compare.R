# Filling the slots of comparisons.

fill_compare <- function(state, mentions, r) {
  r <- note_adjusted(state, mentions, r)
  r$unit <- unit_mentioned(state)
  r$extra$within <- any(vapply(state$items, has_lex, NA, "scope", "unit")) || r$task == "change"
  mentions <- Filter(function(m) m$marker != "adjust" && !identical(column_of(state, m$column), r$unit), mentions)
  # "Friedman test of the items"
  if (!length(mentions) && !length(state$groups) && asks_for_items(state) && length(item_columns(state)) >= 2) {
    r$outcome <- item_columns(state)
    r$extra$within <- TRUE
    r$assumed <- c(r$assumed, sprintf("Took all items: %s.", some_of(r$outcome, 12)))
    return(with_filters(state, r))
  }
  contrast <- contrast_named(state)
  if (!is.null(contrast)) {
    state$groups <- Filter(function(g) !identical(g, contrast$group), state$groups)
    mentions <- Filter(function(m) m$column != contrast$group$column, mentions)
    r$outcome <- column_names_of(state, mentions)
    r <- take_contrast(state, with_filters(state, r), contrast)
    r$extra$outcome_mentions <- mentions
    r$extra$missing <- if (!length(r$outcome)) "outcome"
    return(r)
  }
  shared <- shared_side(state, mentions)
  if (!is.null(shared)) {
    state$groups <- Filter(function(g) !identical(g, shared), state$groups)
    several <- state$vocabulary$columns$distinct[shared$column] > 2
    return(compare_event_shares(state, mentions, r, group_filter(state, shared), against = several))
  }
  bound <- shared_bound(state, mentions)
  if (!is.null(bound)) {
    state$filters <- list()
    return(compare_event_shares(state, mentions, r, bound, against = TRUE))
  }
  if (items_side_by_side(state, mentions)) {
    r$outcome <- column_names_of(state, mentions)
    r$by <- character()
    r$extra$within <- TRUE
    r$extra$outcome_mentions <- mentions
    return(with_filters(state, r))
  }
  # "a relationship between satisfaction and cancelled": the number is what is measured
  both <- length(mentions) == 2 && all(vapply(mentions, function(m) m$marker == "between", NA))
  if (both) mentions <- lapply(mentions, function(m) { if (kind_at(state, m$column) %in% c("number", "count")) m$marker <- ""; m })
  control <- control_named(state, mentions)
  if (!is.null(control)) {
    state$groups <- Filter(function(g) !identical(g, control), state$groups)
    mentions <- lapply(mentions, function(m) { if (m$column == control$column) m$marker <- "by"; m })
    r$extra$control <- control$levels
    r$method_asked <- r$method_asked %||% "dunnett"
  }
  # "which variant converts better"
  if (length(mentions) == 2 && mentions[[1]]$at == 2 && item_norm(state, 1) %in% c("which", "what") && is_level_kind(kind_at(state,
    mentions[[1]]$column)) && !nzchar(mentions[[2]]$marker)) mentions[[1]]$marker <- "by"
  parts <- compare_parts(state, mentions, r$extra$within)
  compared <- parts$compared
  r$outcome <- column_names_of(state, parts$outcome)
  r$by <- c(column_names_of(state, parts$by), if (length(compared)) column_of(state, compared[[1]]$column))
  # ("Dunnett test of yield against control": the level names the groups)
  if (!is.null(control) && !length(r$by)) r$by <- column_of(state, control$column)
  r$by <- unique(r$by)
  if (!is.null(state$null_value)) {
    r$extra$null_value <- state$null_value
    return(fill_against_value(state, mentions, r))
  }
  edge <- bound_compared(state, r)
  if (!is.null(edge)) return(held_against_bound(state, r, edge))
  r <- with_filters(state, r, compared)
  for (g in compared) r <- compared_levels(state, r, g)
  r <- keys_apart(state, r)
  r$extra$outcome_mentions <- parts$outcome
  r <- settle_more_common(state, parts$outcome, r)
  r <- divide_by_lone_column(state, mentions, r)
  if (!length(r$outcome) && length(r$by) == 1 && wants_all(state) && !state$n < 4) {
    all <- measures_beside(state, r$by)
    if (length(all) > 1) {
      r$outcome <- all; parts$outcome <- list()
      r$assumed <- c(r$assumed, sprintf("Took all columns that hold numbers: %s.", some_of(r$outcome, 12)))
    }
  }
  # "compare the two drugs, each patient had both": what is measured is left open
  few <- length(r$outcome) == 1 && !length(r$by) && isTRUE(state$vocabulary$columns$distinct[match(r$outcome, state$vocabulary$columns$name)] <= 4)
  if (few && (!is.null(r$unit) || r$task == "equivalence")) {
    r$by <- r$outcome; r$outcome <- character()
  }
  r <- take_occasion(state, r)
  r <- divide_occasions(state, mentions, r)
  r <- cross_factors(state, mentions, r)
  missing <- c(if (!length(r$outcome)) "outcome", if (!length(r$by) && length(r$outcome) < 2) "by")
  r$extra$missing <- missing
  side_by_side(state, parts$outcome, r)
}

#' "compare the three satisfaction items": items of one scale are set against each other, none of them divides
#' @noRd
items_side_by_side <- function(state, mentions) {
  sets <- state$vocabulary$columns$item_set[vapply(mentions, `[[`, 1L, "column")]
  length(mentions) >= 2 && all(sets > 0) && length(unique(sets)) == 1 && !length(state$groups) &&
    !any(vapply(mentions, function(m) m$marker == "by", NA))
}

#' "is the rating higher than 60": nothing else is asked about, so the number is what the column is compared with
#' @section Shape: the filter that states the bound, or NULL.
#' @noRd
bound_compared <- function(state, r) {
  narrowed <- !any(vapply(state$groups, names_several, NA))
  if (length(r$outcome) || length(r$by) > 1 || !narrowed || length(state$filters) != 1) return(NULL)
  edge <- state$filters[[1]]
  measured <- edge$op %in% c("<", ">") && is.numeric(edge$value) && kind_of_names(state, edge$column) %in% c("number", "count")
  if (measured && says(state, "^ *(is|are|was|were|does|do|did)\\b")) edge
}

#' The reading of a column held against a bound
#' @noRd
held_against_bound <- function(state, r, edge) {
  r$outcome <- edge$column
  r$by <- character()
  r$filters <- lapply(state$groups, function(g) group_filter(state, g))
  r$extra$levels <- NULL
  r["statistic"] <- list(NULL)
  r$extra$null_value <- edge$value
  r
}

#' "do children on free meals score lower", "do the experiments differ": the one column of levels divides, and what
#' is lower or different was not named
#' @noRd
divide_by_lone_column <- function(state, mentions, r) {
  if (length(r$outcome) != 1 || length(r$by)) return(r)
  lower <- says(state, "^ *(do|does|did|are|is|were|was)\\b.*\\b(more|less|fewer|higher|lower|better|worse|[a-z]+er)\\b") &&
    !says(state, "more (often|likely|common)|less (often|likely|common)")
  works <- says(state, "\\b(effective|useful|helpful|beneficial|any good|worth it|work|help|matter|make a difference|pay off)\\b *[?.!]*$")
  differ <- says(state, "^ *(do|does|did|are)\\b.*\\b(differ|different|alike|the same)( from (each other|one another))?( significantly)? *[?.!]*$")
  few <- differ && length(mentions) == 1 && can_group(state, mentions[[1]]$column)
  if (few || (lower || works) && kind_of_names(state, r$outcome) %in% c("yes_no", "category")) {
    r$by <- r$outcome
    r$outcome <- character()
  }
  r
}

#' The measures in the table of a column that divides, as in "compare all measurements between samples with and without crystals"
#' @noRd
measures_beside <- function(state, by) {
  columns <- state$vocabulary$columns
  own <- columns$kind %in% c("number", "count") & !columns$role %in% c("weight", "latitude", "longitude", "year") &
    columns$table == columns$table[match(by, columns$name)]
  setdiff(columns$name[own], by)
}

#' "interaction of nitrogen and phosphate": both divide, and what is measured is left open
#' @noRd
cross_factors <- function(state, mentions, r) {
  asked <- any(vapply(state$items, has_lex, NA, "scope", "interaction")) || effect_depends(state)
  if (!asked) return(r)
  sides <- vapply(Filter(function(g) !g$negated && !isTRUE(g$numeric), state$groups), function(g) column_of(state, g$column), "")
  crossing <- unique(c(column_names_of(state, mentions), sides))
  divide <- vapply(match(crossing, state$vocabulary$columns$name), function(i) can_group(state, i) && kind_at(state, i) != "ordered", NA)
  if (length(crossing) < 2 || !all(divide)) return(r)
  r$by <- crossing
  r$outcome <- character()
  r$filters <- Filter(function(f) !f$column %in% sides, r$filters)
  r$extra$levels <- r$extra$single_level <- r$extra$single_of <- NULL
  r
}

#' "compare web and shop on value, items and rating": measures of different things are described in the groups, not set against each other
#' @noRd
side_by_side <- function(state, outcome, r) {
  if (length(r$outcome) < 2) return(r)
  columns <- state$vocabulary$columns[match(r$outcome, state$vocabulary$columns$name), ]
  # a number and a yes or no are no two measurements of one thing
  numbers <- columns$kind %in% c("number", "count", "ordered")
  if (length(r$by) && !length(r$extra$missing) && any(numbers) && !all(numbers)) {
    r$extra$missing <- "outcome"
    return(r)
  }
  several <- !length(outcome) || !paired_columns(state, outcome)
  apart <- length(r$by) == 1 && several && is.null(r$method_asked) && !says(state, "\\b(regress|fit|model)") &&
    all(columns$kind %in% c("number", "count", "ordered")) && (length(unique(paste(columns$unit, columns$kind))) > 1 || !length(outcome) ||
      # "compare premium and good ones on table and depth"
      all(columns$kind == "number") && says(state, "^ *compare\\b.*\\b(on|regarding|in terms of|with respect to|as to)\\b"))
  if (!apart || length(r$extra$missing) || length(r$adjust_for)) return(r)
  r$task <- "describe"
  r$assumed <- c(r$assumed, "Measures of different things are described side by side in the groups; ask about one of them for a test.")
  r
}

#' "does the share of slow learners differ between forms": the level whose share is compared, or NULL
#' @noRd
shared_side <- function(state, mentions) {
  if (!is.null(state$null_value)) return(NULL)
  if (any(vapply(mentions, function(m) m$marker != "adjust" && can_measure(state, m$column) && !can_group(state, m$column), NA))) return(NULL)
  for (g in state$groups) {
    before <- paste(vapply(min(g$at) - 3:1, function(j) item_norm(state, j), ""), collapse = " ")
    plain <- !g$negated && !isTRUE(g$numeric) && (length(g$levels) == 1 || length(unique(g$at)) == 1)
    if (plain && grepl("\\b(share|proportion|percent(age)?|fraction|prevalence|incidence|frequency|rate|risk|chance|probability|likelihood)s? of( the| all| any| an?)?$",  # nolint: line_length_linter.
                       trimws(before))) return(g)
  }
  NULL
}

#' "does the proportion of patients over 70 differ by sex": the condition whose share is compared, or NULL
#' @noRd
shared_bound <- function(state, mentions) {
  if (!is.null(state$null_value)) return(NULL)
  if (length(state$filters) != 1 || !says(state, "\\b(share|proportion|percent(age)?|fraction)s? (of|that|who|with)\\b")) return(NULL)
  f <- state$filters[[1]]
  measured <- Filter(function(m) m$marker != "adjust" && can_measure(state, m$column) && !can_group(state, m$column), mentions)
  others <- Filter(function(m) column_of(state, m$column) != f$column, measured)
  if ((is_bound(f) || f$column %in% state$flags$banded) && !length(others)) f
}

#' The event is what shares are compared of; another column, or the levels named beside it, divide the rows
#' @param event A condition on one column.
#' @param against Is it set against all the other rows, as one level of several or a condition on numbers is?
#' @noRd
compare_event_shares <- function(state, mentions, r, event, against) {
  r$outcome <- event$column
  r$extra$event <- event
  r["statistic"] <- list(NULL)
  by <- Filter(function(m) column_of(state, m$column) != event$column && can_group(state, m$column), mentions)
  sides <- if (!length(by)) Filter(function(g) !g$negated, state$groups)
  sides <- c(Filter(names_several, sides), sides)[seq_len(min(1, length(sides)))]
  r$by <- c(column_names_of(state, by), vapply(sides, function(g) column_of(state, g$column), ""))
  r <- with_filters(state, r, sides)
  for (g in sides) r <- compared_levels(state, r, g)
  if (against) r$extra$shares <- r$extra$shares_tested <- TRUE
  r$extra$outcome_mentions <- list()
  r$extra$missing <- if (!length(r$by)) "by"
  r
}

#' "is the change in stress different between the groups": the change over the occasions, within each unit
#' @noRd
take_occasion <- function(state, r) {
  said <- says(state, paste0("\\b(change|improvement|gain|increase|decrease|reduction|decline|progress|development)s? (in|of)\\b|",
    "\\b(change|improve|increase|decrease|decline|fall|drop|grow|gain|progress|worsen)(s|d|ed)? (more|less|faster|slower|differently)\\b"))
  own <- state$vocabulary$columns$name[occasion_columns(state)]
  if (!said || length(own) != 1 || length(r$outcome) != 1 || length(r$by) != 1 || own %in% c(r$by, r$outcome)) return(r)
  r$by <- c(own, r$by)
  r$extra$within <- TRUE
  r$assumed <- c(r$assumed, sprintf("The change is that over %s.", own))
  r
}

#' "change in strength from week 0 to week 12 by programme": the groups between which the changes are compared
#' @noRd
divide_occasions <- function(state, mentions, r) {
  own <- state$vocabulary$columns$name[occasion_columns(state)]
  rest <- Filter(function(m) m$marker %in% c("by", "between") && is_level_kind(kind_at(state, m$column)) &&
    !column_of(state, m$column) %in% c(r$by, r$outcome), mentions)
  changes <- isTRUE(r$extra$within) || says(state, "\\b(change|improve|increase|decrease|reduc|gain|los[st]|decline|fall|fell|drop|rise|rose|grow)")
  if (!changes || length(r$by) != 1 || !r$by %in% own || length(rest) != 1 || length(r$outcome) != 1) return(r)
  r$by <- c(r$by, column_of(state, rest[[1]]$column))
  r$extra$within <- TRUE
  r$assumed <- c(r$assumed, sprintf("The change is that over %s.", r$by[1]))
  r
}

#' "each arm against the control": the level named is what the others are compared with, not a condition
#' @noRd
control_named <- function(state, mentions) {
  each <- says(state, "\\b(each|every|all|other)\\b.*\\b(with|against|to|versus|vs|than|from)\\b")
  if (!each && !identical(single_method(state), "dunnett")) return(NULL)
  columns <- vapply(mentions, `[[`, 1L, "column")
  dunnett <- identical(single_method(state), "dunnett")
  named <- Filter(function(g) names_one(g) && (dunnett || g$column %in% columns) &&
                  state$vocabulary$columns$distinct[g$column] > 2, state$groups)
  if (length(named) == 1 && named[[1]]$lead != "only") named[[1]]
}

#' "the same children", "every patient took both": the key column whose rows belong together
#' @noRd
unit_mentioned <- function(state) {
  # "with block as blocks"
  for (k in seq_len(max(0, state$n - 2))) {
    if (item_norm(state, k + 1) != "as" || !grepl("^(the )?(blocks?|subjects?|units?)$", paste(item_norm(state, k + 2), if (item_norm(state,
      k + 2) == "the") item_norm(state, k + 3) else "") |> trimws())) next
    column <- item_column(state, k, c("id", "category", "count", "number"))
    if (!is.na(column) && !state$vocabulary$columns$unique[column]) return(column_of(state, column))
  }
  for (k in seq_len(state$n)) {
    if (!grepl("(^| )(same|every|each|within|per)$", item_norm(state, k - 1)) &&
        !has_lex_at(state, k, "scope", "unit")) next
    same <- grepl("\\bsame$", item_norm(state, k - 1))
    column <- item_column(state, k, if (same) c("id", "category", "count", "number") else "id")
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
  alike <- within && columns_alike(state, mentions)
  if (alike || paired_columns(state, mentions) || items_compared(state, mentions)) return(list(outcome = mentions, by = list(), compared = list()))
  positive <- Filter(function(g) !g$negated, state$groups)
  several <- Filter(function(g) names_several(g) || g$lead == "both", positive)
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
  else if (!any(by)) {
    # "at dose 0.5" is a condition; a named level of a column of levels stands for the column
    named <- Filter(function(g) !isTRUE(g$numeric), positive)
    if (length(named)) compared <- named[order(vapply(named, function(g) isTRUE(g$lead == "only"), NA))][1]
  }
  by_mentions <- mentions[by]
  # groups that name levels of the dividing column are its levels, not a second divider
  if (length(compared) && length(by_mentions)) {
    same <- vapply(by_mentions, function(m) m$column == compared[[1]]$column, NA)
    if (length(several)) by_mentions <- by_mentions[same] else compared <- list()
  }
  list(outcome = outcome, by = by_mentions, compared = compared)
}

#' Are all columns mentioned measures whose names begin with the same word (score_anna, score_ben, score_carla)?
#' @noRd
columns_alike <- function(state, mentions) {
  if (length(mentions) < 2 || !all(mention_kinds(state, mentions) %in% c("number", "count"))) return(FALSE)
  first <- sub("[_. ].*$", "", tolower(column_names_of(state, mentions)))
  length(unique(first)) == 1 && all(nchar(first) < nchar(column_names_of(state, mentions)))
}

#' "compare pain between site S01 and S02": keys that are named side by side are the groups
#' @noRd
keys_apart <- function(state, r) {
  columns <- state$vocabulary$columns
  keys <- columns$name[columns$kind == "id" & !columns$unique]
  own <- Filter(function(f) f$op == "in" && f$column %in% keys && length(f$value) > 1, r$filters)
  if (length(r$by) || length(own) != 1) return(r)
  r$by <- own[[1]]$column
  r$extra$levels <- as.character(own[[1]]$value)
  r
}

#' "is staff helpfulness rated higher than punctuality": two items of one scale, compared within the same rows
#' @noRd
items_compared <- function(state, mentions) {
  if (length(mentions) != 2 || !says(state, "\\bthan\\b|\\bversus\\b|\\bvs\\b|compared (to|with)|^ *compare\\b.*\\band\\b")) return(FALSE)
  at <- vapply(mentions, `[[`, 1L, "column")
  c <- state$vocabulary$columns[at, ]
  all(c$kind == "ordered") && c$first_level[1] == c$first_level[2] && c$last_level[1] == c$last_level[2] && at[1] != at[2]
}

#' Among columns that could each divide, the one the words point to: after "by" or "on", after the verb, or with
#' fewest levels
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
  # "Y increases with X" turns the verb round
  if (any(between %in% c("with", "over", "across"))) return(FALSE)
  any(between %in% c("lowers", "affect", "affects", "affected", "influence", "influences", "change", "matter for", "matters for",
                     "raise", "raises", "reduce", "reduces",
                     "improve", "improves", "increase", "increases", "decrease", "decreases", "lead to", "leads to",
                     "boost", "boosts", "drive", "drives", "drove",
                     "predict", "predicts", "explain", "explains", "determine", "determines", "help", "helps", "cause",
                     "causes", "matter", "make", "makes",
                     "impact", "impacts", "mean a", "means a")) || any(between == "lower") && !any(between == "than") &&
      says(state, "^ *([a-z ]+, )?(do|does|did)\\b|, (do|does|did)\\b") || (any(between == "on") && has_effect_of(state,
          first))
}

has_effect_of <- function(state, before) {
  any(vapply(seq_len(before), function(k) grepl("^(effect|effects|impact|influence)( of)?$", item_norm(state, k)), NA))
}

compared_levels <- function(state, r, g) {
  name <- column_of(state, g$column)
  all <- state$vocabulary$columns$distinct[g$column]
  r$extra$levels <- if (length(g$levels) > 1) g$levels else NULL
  # ("syrup against control": the side that is named first)
  r$extra$first_side <- if (length(g$levels) == 2) value_level(state, min(g$at), g$column)
  if (length(g$levels) > 1 && length(g$levels) < all) {
    value <- if (isTRUE(g$numeric) && is_numeric_kind(kind_at(state, g$column))) g$numbers else g$levels
    r$filters <- c(r$filters, list(new_filter(name, "in", value)))
  } else if (length(g$levels) == 1 && all > 2) {
    r$extra$single_level <- g$levels
    r$extra$single_of <- name
  }
  r
}

fill_against_value <- function(state, mentions, r) {
  r <- with_filters(state, r)
  outcome <- mentions
  r$outcome <- column_names_of(state, outcome)
  r$by <- character()
  # "is the return rate in France higher than 10 %": what happened is named, the level narrows the rows
  happened <- Filter(function(m) kind_at(state, m$column) == "yes_no" && m$marker != "by", mentions)
  if (isTRUE(state$flags$null_percent) && length(happened) == 1) {
    r$outcome <- column_of(state, happened[[1]]$column)
    r$extra$event <- new_filter(r$outcome, "==", state$vocabulary$columns$last_level[happened[[1]]$column])
    return(r)
  }
  if (isTRUE(state$flags$null_percent) || !length(r$outcome)) {
    g <- Filter(function(g) !g$negated && length(g$levels) == 1, state$groups)
    if (length(g)) {
      r$outcome <- column_of(state, g[[1]]$column)
      r$extra$event <- group_filter(state, g[[1]])
      r <- with_filters(state, r, g[1])
    }
  }
  columns <- state$vocabulary$columns
  at <- match(r$outcome[1], columns$name)
  if (length(r$outcome) == 1 && is.null(r$extra$event) && isTRUE(state$flags$null_percent) && columns$kind[at] == "category" &&
    columns$distinct[at] == 2) {
    levels <- unique(state$vocabulary$values$level[state$vocabulary$values$column == at])
    named <- levels[vapply(levels, function(l) grepl(paste0("\\b", tolower(l)), tolower(state$text), fixed = FALSE), NA)]
    r$extra$event <- new_filter(r$outcome, "==", c(named, columns$last_level[at])[1])
    r$assumed <- c(r$assumed, sprintf("The share is that of %s.", plain_filter(r$extra$event)))
  }
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

#' "is X more common among Y", "do Y X more often": the event is what happens, the other side divides
#' @noRd
settle_more_common <- function(state, outcome, r) {
  if (!says_more_common(state)) return(r)
  kind <- function(name) kind_of_names(state, name)
  event <- r$outcome[kind(r$outcome) %in% c("yes_no", "category")]
  # "low birth weight", where Low is a yes/no column beside the weight itself
  if (length(r$outcome) > 1 && length(event) == 1 && length(r$by)) r$outcome <- event
  subject_first <- says(state, "^ *(do|does|did|are|were|have|has)\\b") && !says(state, "more (common|frequent|prevalent)")
  # "do patients on protocol die less often": the level named already divides
  named <- length(r$by) == 1 && any(vapply(state$groups, function(g) length(g$levels) == 1 && column_of(state, g$column) == r$by, NA))
  if (length(event) == 1 && length(r$outcome) == 1 && length(r$by) == 1 && kind(r$by) %in% c("yes_no", "category") && !length(r$extra$levels) &&
    subject_first && !named) {
    both <- c(r$outcome, r$by); r$outcome <- both[2]; r$by <- both[1]
  }
  # "is low birth weight more common among smokers": the group named is the side, not a condition
  side <- Filter(names_one, state$groups)
  if (length(r$by) == 1 && kind(r$by) == "yes_no" && length(side) == 1 && column_of(state, side[[1]]$column) != r$by && !says(state,
      "^ *(do|does|did)")) {
    r$outcome <- r$by
    r$by <- column_of(state, side[[1]]$column)
    r$filters <- Filter(function(f) f$column != r$by, r$filters)
    return(r)
  }
  if (length(r$outcome) == 2 && length(event) == 2 && !length(r$by)) {
    # "do smokers relapse more often": who comes first, what they do after; "is relapse more common among smokers" the other way round
    r$by <- if (subject_first) event[1] else event[2]
    r$outcome <- setdiff(event, r$by)
  }
  r
}
