# Filling the slots of relations and models.

fill_relate <- function(state, mentions, r) {
  sides <- relation_in_sides(state, mentions)
  state <- sides$state; mentions <- sides$mentions
  kinds <- mention_kinds(state, mentions)
  # strata of two measured columns are groups of their own; of two columns of levels they are allowed for
  if (sum(kinds %in% c("number", "count")) == 2 && length(mentions) == 3) mentions <- lapply(mentions, function(m) { if (kind_at(state,
    m$column) %in% c("category", "yes_no") && grepl("within each$", paste(item_norm(state, m$at - 2), item_norm(state,
      m$at - 1)))) m$marker <- "by"; m })
  else mentions <- mark_strata(state, mentions)
  r <- note_adjusted(state, mentions, r)
  rest <- Filter(function(m) m$marker != "adjust", mentions)
  positive <- Filter(function(g) !g$negated, state$groups)
  several <- Filter(function(g) names_several(g), positive)
  names <- column_names_of(state, rest)
  compared <- list()
  if (length(names) < 2 && length(several)) compared <- several[1]
  else if (length(names) < 2 && length(positive)) compared <- positive[seq_len(min(length(positive),
      2 - length(names)))]
  for (g in compared) names <- unique(c(names, column_of(state, g$column)))
  # "does nitrogen increase yield": what is acted on depends on what acts
  acts <- length(rest) == 2 && length(names) == 2 && all(kind_of_names(state, names) %in% c("number", "count")) && effect_first(state, rest) &&
    identical(names, column_names_of(state, rest)) && is.null(r$method_asked)
  if (acts) names <- rev(names)
  # "do smokers have more complications": who comes first divides, what they have is the outcome
  has_more <- says(state, "^ *(do|does|did)\\b.*\\b(have|had|get|show|suffer|develop|report|need|receive) (more|fewer|less)\\b")
  if (has_more && length(names) == 2 && all(kind_of_names(state, names) %in% c("yes_no", "category"))) names <- rev(names)
  r <- with_filters(state, r, compared)
  for (g in several[seq_len(min(1, length(compared)))]) r <- compared_levels(state, r, g)
  if (identical(r$method_asked, "correlation_matrix") && !length(names) && length(items_asked(state, rest)) > 1) {
    names <- items_asked(state, rest)
    r$assumed <- c(r$assumed, sprintf("Took all items: %s.", some_of(names, 12)))
  }
  if (identical(r$method_asked, "correlation_matrix") && length(names) < 2) {
    columns <- state$vocabulary$columns
    names <- columns$name[columns$kind %in% c("number", "count") & !columns$role %in% c("weight", "year") & columns$table == columns$table[1]]
    # ("the four scores": so many were measured on several occasions)
    repeated <- unlist(lapply(state$vocabulary$sets, `[[`, "columns"))
    said <- vapply(which(state$type == "number"), function(k) state$items[[k]]$value, 1)
    if (length(said) == 1 && length(repeated) == said && said != length(names)) names <- repeated
    what <- if (setequal(names, repeated)) "were measured on several occasions" else "hold numbers"
    r$assumed <- c(r$assumed, sprintf("Took all columns that %s: %s.", what, some_of(names, 12)))
  }
  if (!length(names) && wants_all(state)) {
    columns <- state$vocabulary$columns
    names <- columns$name[columns$kind %in% c("number", "count", "ordered") & !columns$role %in% c("weight", "latitude", "longitude")]
    if (length(names) > 1) r$assumed <- c(r$assumed, sprintf("Took all columns that hold numbers: %s.", some_of(names, 12)))
  }
  r$outcome <- utils::head(names, 1)
  r$predictors <- names[-1]
  r$extra$depends <- acts || says(state, "^ *how (is|are|was|were) .*\\b(related|linked|connected|tied) to\\b") || says(state, "\\b(depend(s|ent|ing)? (up)?on|(affected|influenced|determined|explained|driven|predicted) by|a function of|(change|vary|rise|fall|increase|decrease|grow|decline|drop|improve)s? (with|as)|against)\\b")  # nolint: line_length_linter.
  # "correlation of A and B in each class"
  # (units of which each has several rows divide as well: "within each player")
  divides <- function(at) is_level_kind(kind_at(state, at)) && kind_at(state, at) != "ordered" ||
    kind_at(state, at) == "id" && !state$vocabulary$columns$unique[at] && state$vocabulary$columns$distinct[at] <= 60
  grouped <- vapply(rest, function(m) divides(m$column) && (m$marker == "by" ||
    grepl("\\b(each|every|per|between|across|among|within|in|for|both|all)$", item_norm(state, m$at - 1))), NA)
  if (is.null(r$method_asked) || identical(r$method_asked, "pearson")) if (length(rest) == 3 && sum(grouped) == 1 && all(kind_of_names(state,
    names[!grouped]) %in% c("number", "count"))) {
    r$outcome <- names[!grouped][1]; r$predictors <- names[!grouped][2]; r$by <- names[grouped]
    r$extra$by_group <- TRUE; r$method_asked <- NULL
    r$extra$outcome_mentions <- rest
    return(r)
  }
  # "the share surviving by arm and region": shares in the combinations, not a model
  divided <- sum(vapply(rest, function(m) m$marker == "by", NA)) >= 2
  if (length(names) == 3 && divided && says(state, "\\b(share|proportion|percent(age)?|rate|fraction)s?\\b") &&
      kind_of_names(state, names[1]) == "yes_no") {
    at <- match(names[1], state$vocabulary$columns$name)
    r$task <- "frequency"; r["statistic"] <- list(NULL)
    r$outcome <- names[1]; r$by <- names[-1]; r$predictors <- character()
    r$extra$shares <- TRUE
    r$extra$event <- new_filter(names[1], "==", state$vocabulary$columns$last_level[at])
    return(r)
  }
  # one column and several others that are not all measured: a model, since no single measure of association takes them
  kinds <- kind_of_names(state, names)
  if (length(names) >= 3 && is.null(r$method_asked) && !length(r$adjust_for) && !all(kinds %in% c("number", "count", "ordered"))) {
    r$task <- "predict"
    r$extra$interaction <- asks_for_moderation(state)
  }
  if (length(names) > 2 && asks_each_pair(state$text)) r$extra$each_pair <- TRUE
  r$extra$outcome_mentions <- rest
  r$extra$missing <- if (length(names) < 2) if (length(names)) "second" else c("outcome", "second")
  r
}

#' "is the correlation between A and B stronger in men than in women": the sides named divide the rows
#' @section Shape: list(state, mentions).
#' @noRd
relation_in_sides <- function(state, mentions) {
  out <- list(state = state, mentions = mentions)
  asked <- says(state, paste0("\\b(stronger|weaker|closer|tighter|higher|lower|larger|smaller|different|similar|the same|differs?|var(y|ies))\\b.*",
                              "\\b(in|for|among|between|across|than)\\b|\\bseparately\\b|\\brespectively\\b|\\b(for|in|among) (the )?[\\w-]+,? and (for|in|among) "))  # nolint: line_length_linter.
  sides <- Filter(function(g) !g$negated && !isTRUE(g$numeric) && is_level_kind(kind_at(state, g$column)), state$groups)
  if (!asked || length(sides) != 1 || length(mentions) != 2 || !all(mention_kinds(state, mentions) %in% c("number", "count"))) return(out)
  g <- sides[[1]]
  if (!names_several(g) && !says(state, "\\b(stronger|weaker|closer|tighter|higher|lower|larger|smaller|different)\\b")) return(out)
  by <- new_mention(min(g$at), g$column, "by", column_of(state, g$column))
  if (length(g$levels) < 2 || length(g$levels) >= state$vocabulary$columns$distinct[g$column]) {
    out$state$groups <- Filter(function(o) !identical(o, g), state$groups)
  }
  out$mentions <- c(mentions, list(by))
  out
}

#' Does a text ask that each pair of columns takes all the rows it has?
#' @noRd
asks_each_pair <- function(text) {
  grepl(paste0("\\bpairwise[ -]?(complete|deletion|deleted|available|exclusion|rows|missing)|\\bdelet(e|ed|ion|ing) pairwise|",
               "\\bavailable[ -](pairs?|cases?|data|values|rows|observations)|\\b(all|complete) pairs of values|",
               "\\beach pair (over|with|on|from|using|of columns over) (its own|all|the|as many)\\b"), text, ignore.case = TRUE, perl = TRUE)
}

#' "predict X from A, B and reminder", of a yes/no column reminder_sent: joined to other columns its level is the column
#' @noRd
levels_listed <- function(state, mentions) {
  at <- vapply(mentions, `[[`, 1L, "at")
  for (g in state$groups) {
    k <- min(g$at)
    before <- k - if (item_norm(state, k - 1) == "and") 2L else 1L
    joined <- before %in% at && before > min(c(at, k)) && (before < k - 1L || grepl(",", gap_text(state, before, k), fixed = TRUE))
    if (length(g$at) > 1 || !names_one(g) || kind_at(state, g$column) != "yes_no" || !joined) next
    mentions <- c(mentions, list(new_mention(k, g$column, "", state$items[[k]]$text)))
    state$groups <- Filter(function(o) !identical(o, g), state$groups)
  }
  list(state = state, mentions = mentions)
}

#' "A and B within region": a column of levels after "within", beside two others, makes strata
#' @noRd
mark_strata <- function(state, mentions) {
  if (length(mentions) < 3) return(mentions)
  # ("survival by arm by site": the first "by" sets the sides, the last one the strata)
  last_at <- max(vapply(mentions, `[[`, 1L, "at"))
  lapply(mentions, function(m) {
    before <- paste(vapply(m$at - 3:1, function(j) item_norm(state, j), ""), collapse = " ")
    # ("Breslow-Day test of A and B across site")
    strata <- identical(single_method(state), "cochran_mantel_haenszel") &&
      (grepl("(across|over|stratified by|for each|in each)( the)?$", trimws(before)) ||
         grepl("by( the)?$", trimws(before)) && m$at == last_at)
    if ((strata || grepl("within( each| levels of| every)?( the)?$", trimws(before))) && can_group(state, m$column)) m$marker <- "adjust"
    m
  })
}

fill_predict <- function(state, mentions, r) {
  listed <- levels_listed(state, mentions)
  state <- listed$state; mentions <- listed$mentions
  r <- note_adjusted(state, mentions, r)
  rest <- Filter(function(m) m$marker != "adjust", mentions)
  rest <- add_event_outcome(state, rest)
  r <- with_filters(state, r, attr(rest, "used"))
  named <- columns_explained(state, rest)
  if (length(named$names)) {
    r$outcome <- named$names[named$turn]
    r$predictors <- named$names[-named$turn]
  }
  if (any(vapply(state$items, has_lex, NA, "scope", "all_others")) && length(r$outcome)) {
    r$predictors <- other_predictors(state, r$outcome)
  }
  r <- turn_by_kind(state, levels_as_predictors(state, r))
  r <- take_rules(state, mentions, r)
  if (asks_for_models(state)) {
    r$extra$models <- TRUE
    r$extra$line_asked <- says(state, "\\b(straight line|linear model|linear regression|line)( model)? (good |well )?enough\\b")
    r["method_asked"] <- list(NULL)
    if (length(r$outcome) && !length(r$predictors)) {
      r$predictors <- other_predictors(state, r$outcome)
      r$assumed <- c(r$assumed, "All other columns that can be related are considered.")
    }
  }
  events <- Filter(function(m) identical(m$marker, "event"), rest)
  if (length(events)) r$extra$level_of_event <- events[[1]]$event
  named <- Filter(function(g) !g$negated && length(g$levels) == 1 && length(r$outcome) &&
                  column_of(state, g$column) == r$outcome[1], state$groups)
  if (length(named) && is.null(r$extra$level_of_event)) r$extra$level_of_event <- named[[1]]$levels
  r$extra$at <- unlist(lapply(rest, function(m) if (identical(m$marker, "value")) stats::setNames(m$value,
      column_of(state, m$column))))
  r <- take_offset(state, rest, take_stated_values(state, r))
  r <- take_cluster(state, rest, r)
  if (identical(r$method_asked, "weighted_linear_regression")) r <- take_model_weight(state, rest, r)
  r$extra$degree <- asked_degree(state)
  r <- line_against_bend(state, r)
  r$extra$maximum_likelihood <- says(state, "\\bmaximum likelihood\\b|\\b(by|using|with|via|through) ml\\b|\\bml (instead|estimat|rather)") &&
    !says(state, "restricted maximum|\\b(using|by|with) reml")
  r$extra$interaction <- any(vapply(state$items, has_lex, NA, "scope", "interaction")) || asks_for_moderation(state)
  r <- lines_apart(state, r)
  r <- outcome_of_effect(state, rest, r)
  if (effect_depends(state) && length(rest) == 2 && !says(state, "\\beffects? of\\b[^?]*(?<!depend)(?<!depends)(?<!dependent) on\\b")) {
    r$predictors <- column_names_of(state, rest); r$outcome <- character()
    r$extra$interaction <- TRUE
  }
  r$extra$outcome_mentions <- rest
  r <- effect_without_outcome(state, r)
  r$extra$missing <- c(if (!length(r$outcome)) "outcome", if (!length(r$predictors)) "predictors")
  r
}

#' "effect of variety with block as random", which does not say on what: the one column explains, and what it explains is missing
#' @noRd
effect_without_outcome <- function(state, r) {
  alone <- length(r$outcome) == 1 && !length(r$predictors)
  # ("compare varieties allowing for block", "variety means adjusted for block")
  held <- length(r$adjust_for) > 0 && says(state, "\\b(compare|comparison|means?|averages?|differ|differs|differences?|matters?)\\b")
  mixed <- isTRUE(r$method_asked %in% c("mixed_model", "mixed_linear"))
  if (!alone || !(held || mixed || says(state, "\\b(effects?|impact|influence) of\\b"))) return(r)
  if (kind_of_names(state, r$outcome) != "category") return(r)
  r$predictors <- r$outcome
  r$outcome <- character()
  r
}

#' The columns of a model and which of them is explained
#' @section Shape: list(names, turn): names of columns, and the place of the outcome among them.
#' @noRd
columns_explained <- function(state, rest) {
  turn <- outcome_position(state, rest)
  # "the interaction of A and B on Y", "an A by B interaction for Y"
  if (length(rest) == 3 && any(vapply(state$items, has_lex, NA, "scope", "interaction"))) {
    aimed <- which(vapply(rest, function(m) m$marker %in% c("on", "for") && (can_measure(state, m$column) ||
      kind_at(state, m$column) == "yes_no"), NA))
    # ("regress gas on temperature and insulation with interaction" names its outcome first)
    if (length(aimed) && last_of(aimed) == length(rest)) turn <- last_of(aimed)
  }
  # "treatment effect on moisture": what the effect is on is the outcome
  on <- which(vapply(rest, function(m) grepl("\\bon$", item_norm(state, m$at - 1)) && can_measure(state, m$column), NA))
  if (length(on) == 1 && length(rest) > 1 && says(state, "\\beffects?\\b[^?]*\\bon\\b")) turn <- on
  names <- column_names_of(state, rest)
  # "how many grams does it put on per day": the unit names what is measured
  unit <- if (length(rest) == 1) unit_column(state, vapply(state$items[state$type == "unit"], `[[`, "", "norm")) else NA
  if (is.na(unit) || unit == rest[[1]]$column) return(list(names = names, turn = turn))
  # "how much time does each extra mile add": there the unit is what is added
  after_each <- vapply(which(state$type == "unit"), function(k) grepl("(each|every|per)( extra| additional| further)?$", item_norm(state, k - 1)), NA)
  added <- any(after_each) && can_measure(state, rest[[1]]$column) && says(state, "\\b(extra|additional|further)\\b")
  list(names = if (added) c(names, column_of(state, unit)) else c(column_of(state, unit), names), turn = 1L)
}

#' Levels that are named stand for their columns among the predictors
#' @noRd
levels_as_predictors <- function(state, r) {
  # "the odds of survival for first against third class": the levels named make the predictor
  several <- Filter(function(g) !g$negated && names_several(g) && !column_of(state, g$column) %in% r$outcome, state$groups)
  if (!length(r$predictors) && length(several) && length(r$outcome)) {
    r$predictors <- column_of(state, several[[1]]$column)
    r$extra$levels <- several[[1]]$levels
  }
  # "are longline fish longer, allowing for species": the level named stands for its column
  named <- Filter(function(g) names_one(g) && is_level_kind(kind_at(state, g$column)), state$groups)
  if (!length(r$predictors) && length(r$adjust_for) && length(named) == 1 && length(r$outcome) == 1 && says(state,
      "^ *(is|are|was|were|do|does|did|has|have)\\b")) {
    own <- column_of(state, named[[1]]$column)
    r$predictors <- own
    r$filters <- Filter(function(f) !f$column %in% own, r$filters)
    r$assumed <- c(r$assumed, sprintf("All levels of %s are compared, %s among them.", own, quoted(named[[1]]$levels)))
  }
  # "is the effect of syrup on yield different in the south": the levels named stand for their columns
  sides <- Filter(function(g) !g$negated && !isTRUE(g$numeric) && !column_of(state, g$column) %in% c(r$outcome, r$predictors), state$groups)
  if (asks_for_moderation(state) && length(r$predictors) + length(sides) == 2 && length(sides)) {
    own <- column_of(state, vapply(sides, `[[`, 1L, "column"))
    r$predictors <- unique(c(r$predictors, own))
    # ("the difference between gold and silver" is of these two)
    r$filters <- Filter(function(f) !f$column %in% own || f$op == "in" && length(f$value) > 1, r$filters)
  }
  r
}

#' The outcome and a predictor change places where their kinds say so
#' @noRd
turn_by_kind <- function(state, r) {
  if (length(r$outcome) != 1) return(r)
  kind <- kind_of_names(state, r$outcome)
  kinds <- kind_of_names(state, r$predictors)
  # "is the relationship between learner type and absence different for girls": what is measured is the outcome
  tied <- asks_for_moderation(state) && kind %in% c("yes_no", "category") &&
    says(state, "\\b(relation(ship)?|association|link|difference|gap)s? (of|between|in)\\b")
  # "roc curve of calcium for crystals": what happens is the outcome of a model of chances
  chances <- identical(r$method_asked, "logistic_regression") && kind %in% c("number", "count")
  other <- r$predictors[kinds %in% (if (tied) c("number", "count") else if (chances) "yes_no")]
  if (length(other) != 1) return(r)
  r$predictors[r$predictors == other] <- r$outcome
  r$outcome <- other
  r
}

#' "separately before and after": a line for each of the groups
#' @noRd
lines_apart <- function(state, r) {
  apart <- Filter(function(g) !g$negated && !isTRUE(g$numeric) && names_several(g) && !column_of(state, g$column) %in% c(r$outcome, r$predictors),
                  state$groups)
  if (length(apart) != 1 || length(r$predictors) != 1 || !says(state, "\\b(sep[ae]rately|for each|within each|in each)\\b")) return(r)
  own <- column_of(state, apart[[1]]$column)
  r$predictors <- c(r$predictors, own)
  r$extra$interaction <- TRUE
  if (length(apart[[1]]$levels) >= state$vocabulary$columns$distinct[apart[[1]]$column]) r$filters <- Filter(function(f) f$column != own, r$filters)
  r
}

#' "does the effect of smoking on low birth weight depend on age": what stands after "effect of ... on" is the outcome, whatever its kind
#' @noRd
outcome_of_effect <- function(state, rest, r) {
  if (length(rest) < 3 || !says(state, "\\b(effects?|impact|influence) of\\b[^?]*\\bon\\b")) return(r)
  norms <- norms_of(state)
  from <- grep("\\b(effects?|impact|influence)\\b", norms)[1]
  on <- which(norms == "on" & seq_along(norms) > from)[1]
  after <- Filter(function(m) !is.na(on) && m$at > on, rest)
  # (only words of grammar stand between)
  if (is.na(from) || !length(after) || after[[1]]$at - on > 2) return(r)
  y <- column_of(state, after[[1]]$column)
  if (identical(r$outcome, y) || !y %in% r$predictors) return(r)
  r$predictors <- c(setdiff(r$predictors, y), r$outcome)
  r$predictors <- intersect(column_names_of(state, rest), r$predictors)
  r$outcome <- y
  r
}

#' "with an offset of log holders", "exposure person_years": what counts are made over
#' @noRd
take_offset <- function(state, rest, r) {
  # "poisson regression of falls per visit on ward"
  rate <- if (isTRUE(r$method_asked %in% c("poisson_regression", "negative_binomial_regression"))) rate_asked(state, rest)
  if (!is.null(rate)) return(with_offset(r, column_of(state, rate$base$column), column_of(state, rate$top$column)))
  if (!says(state, "\\b(offset|exposure)\\b")) return(r)
  near <- Filter(function(m) any(vapply(m$at - 1:4, function(k) item_norm(state, k) %in% c("offset", "exposure"), NA)), rest)
  # "with policy holders as exposure"
  if (!length(near)) near <- Filter(function(m) grepl("^as (the |an |a )?(offset|exposure)", paste(item_norm(state, m$at + 1), item_norm(state,
      m$at + 2),
    item_norm(state, m$at + 3))), rest)
  if (!length(near)) return(r)
  name <- column_of(state, near[[1]]$column)
  if (name %in% r$outcome) return(r)
  with_offset(r, name)
}

#' Counts of an outcome taken per unit of a column
#' @noRd
with_offset <- function(r, name, outcome = r$outcome) {
  r$predictors <- setdiff(c(if (!identical(outcome, r$outcome)) r$outcome, r$predictors), c(name, outcome))
  r$outcome <- outcome
  r$extra$offset <- name
  r$assumed <- c(r$assumed, sprintf("Counts are taken per %s (its logarithm is the offset).", name))
  r
}

#' The levels that conditions state, by column
#' @section Shape: named character vector.
#' @noRd
stated_levels <- function(filters) {
  stats::setNames(vapply(filters, function(f) as.character(f$value), ""), vapply(filters, `[[`, "", "column"))
}

#' "predict mpg for a wt of 3 and an hp of 120": numbers of measured columns are values to predict at, not conditions
#' @noRd
take_stated_values <- function(state, r) {
  asks <- says(state, "\\b(predict(ed|s)?|expect(ed)?|estimated?|forecast)\\b.*\\b(for|with|when|if|at|of|given)\\b") ||
    says(state, "\\b(what|how (much|many|long|high|large|big|old)) would\\b.*\\bbe\\b") || asks_for_chance(state)
  columns <- state$vocabulary$columns
  stated <- Filter(function(g) isTRUE(g$numeric) && !g$negated && length(g$numbers) && columns$kind[g$column] %in% c("number", "count"),
    state$groups)
  stated <- Filter(function(g) !column_of(state, g$column) %in% r$outcome, stated)
  if (asks && !length(stated)) return(take_expected_levels(state, r))
  if (!asks) return(r)
  r <- take_stated_levels(state, r)
  names <- vapply(stated, function(g) column_of(state, g$column), "")
  values <- stats::setNames(vapply(stated, function(g) g$numbers[1], 1), names)
  r$extra$at <- c(r$extra$at, values[setdiff(names, names(r$extra$at))])
  # "at 8, 10 and 12": each of them, of one column
  several <- Filter(function(g) length(g$numbers) > 1, stated)
  if (length(several)) r$extra$at_several <- list(column = column_of(state, several[[1]]$column), values = several[[1]]$numbers)
  r$predictors <- unique(c(r$predictors, names))
  r$filters <- Filter(function(f) !f$column %in% names, r$filters)
  r
}

#' "expected yield for full insulation": levels alone, of columns that then explain the outcome
#' @noRd
take_expected_levels <- function(state, r) {
  if (length(r$predictors) || length(r$outcome) != 1 || !kind_of_names(state, r$outcome) %in% c("number", "count", "yes_no") ||
      !says(state, "\\b(predict(ed)?|expect(ed)?)\\b")) return(r)
  levels <- Filter(function(f) f$op == "==" && !f$column %in% r$outcome && kind_of_names(state, f$column) %in% c("category", "yes_no", "ordered"),
      r$filters)
  if (!length(levels)) return(r)
  r$extra$at_levels <- stated_levels(levels)
  r$predictors <- names(r$extra$at_levels)
  r$filters <- Filter(function(f) !f$column %in% r$predictors, r$filters)
  r
}

#' Levels stated beside numbers: of a column that is a predictor already, or that the phrase joins to the numbers as a value of its own
#'
#' "For a 40 year old in the north from age and region" names its predictors; "at strength 10 and arm syrup" and "with 5 mites on syrup"
#' join the level to the number. "In the north" alone stays a condition on the rows.
#' @noRd
take_stated_levels <- function(state, r) {
  joined <- function(f) {
    at <- unlist(lapply(Filter(function(g) !g$negated && names_one(g) && column_of(state, g$column) == f$column, state$groups), `[[`, "at"))
    if (!length(at)) return(FALSE)
    before <- item_norm(state, min(at) - 1)
    own <- identical(item_column(state, min(at) - 1), match(f$column, state$vocabulary$columns$name))
    own || before %in% c("and", "on", "with", "given", "is")
  }
  levels <- Filter(function(f) f$op == "==" && kind_of_names(state, f$column) %in% c("category", "yes_no", "ordered") &&
    (f$column %in% r$predictors || !f$column %in% r$outcome && joined(f)), r$filters)
  if (!length(levels)) return(r)
  r$extra$at_levels <- stated_levels(levels)
  new <- setdiff(names(r$extra$at_levels), r$predictors)
  if (length(new)) r$assumed <- c(r$assumed, sprintf("%s takes part in the model and is held at %s; say \"only %s\" to fit those rows alone.", new,
                                                    quoted(r$extra$at_levels[new]), r$extra$at_levels[new]))
  r$predictors <- unique(c(r$predictors, new))
  r$filters <- Filter(function(f) !f$column %in% names(r$extra$at_levels), r$filters)
  r
}

#' "chance of cancellation for a booking with 40 lead days"
#' @noRd
asks_for_chance <- function(state) {
  says(state, paste0("\\b(chances?|probability|likelihood|risk) (of|that)\\b.*\\b((for|of|in) an? \\w+.*\\b(with|at|of|aged)\\b.*[0-9]|",
               "(if|when|once) (\\w+ ){1,3}(for |of |is |at )?[0-9.]+|",
               "(with|at|given) [0-9.]+ \\w+|(with|at|given|when) (the |a |an )?[a-z_ ]{2,30} (is |of )?[0-9.]+)"))
}

#' A tree or a forest without named predictors takes all other columns
#' @noRd
take_rules <- function(state, mentions, r) {
  r$extra$rules <- asks_for_kinds(state, mentions)
  many <- r$extra$rules || isTRUE(r$method_asked %in% c("decision_tree", "regression_tree", "classification_tree", "random_forest"))
  if (!many || !length(r$outcome) || length(r$predictors)) return(r)
  ids <- state$vocabulary$columns$name[state$vocabulary$columns$kind == "id"]
  if (r$outcome[1] %in% ids) return(r)
  r$predictors <- other_predictors(state, r$outcome)
  if (length(r$predictors)) r$assumed <- c(r$assumed, sprintf("All other columns that can divide the rows are considered: %s.",
    some_of(r$predictors, 12)))
  r
}

#' "a random intercept for each school", "students within schools", "clustered by site": the column of groups leaves the predictors
#' @noRd
take_cluster <- function(state, rest, r) {
  asked <- isTRUE(r$method_asked %in% c("mixed_model", "mixed_linear", "mixed_logistic", "clustered_regression")) || asks_for_clusters(state)
  if (!asked) return(r)
  groups <- Filter(function(m) kind_at(state, m$column) %in% c("id", "category", "count", "text") && !column_of(state, m$column) %in% r$outcome, rest)
  lead <- vapply(groups, function(m) paste(vapply(m$at - 5:1, function(j) item_norm(state, j), ""), collapse = " "), "")
  near <- groups[grepl("(random|intercept|effect|cluster|nest|within|each|per|group)", lead)]
  # "with plot as random effect"
  after <- Filter(function(k) grepl("^as (a )?random", item_norm(state, k)) && !is.na(item_column(state, k - 1)), seq_len(state$n))
  ids <- state$vocabulary$columns$name[state$vocabulary$columns$kind == "id" & !state$vocabulary$columns$unique]
  plain <- Filter(function(m) kind_at(state, m$column) != "count", groups)
  said <- cluster_said(state)
  name <- if (length(after)) column_of(state, item_column(state, after[1] - 1)) else if (!is.null(said)) said
    else if (length(near)) column_of(state, last_of(near)$column) else if (length(ids)) ids[1]
    else if (length(plain)) column_of(state, last_of(plain)$column)
  if (is.null(name)) return(r)
  if (!length(after) && is.null(said) && !length(near)) r$assumed <- c(r$assumed, sprintf("Rows of the same %s belong together.", name))
  r$predictors <- setdiff(r$predictors, name)
  r$adjust_for <- setdiff(r$adjust_for, name)
  r$extra$cluster <- name
  r$extra$random_slope <- asks_for_slopes(state)
  if (r$extra$random_slope) r["method_asked"] <- list(NULL)
  if (r$extra$random_slope) return(r)
  # (an analysis of variance with a random effect is a mixed model)
  asked <- if (grepl("^anova", r$method_asked %||% "")) "mixed_model" else r$method_asked %||% "mixed_model"
  r$method_asked <- switch(asked, linear_regression = "mixed_linear", logistic_regression = "mixed_logistic", asked)
  r
}

#' "a random intercept for subject": the column after the words, also where everyday speech uses its name for a row
#' @noRd
cluster_said <- function(state) {
  # a slope is of one column and for the groups of another
  form <- paste0("(?i)\\b(?:random (?:intercepts?|effects?)|(?:intercepts? and |random )slopes?",
                 "(?: (?:of|for|in) [\\w.]+(?= (?:for|by|within|per|across)))?|clustered|nested)",
                 "(?: (?:for|by|in|within|of|at|per|on))?(?: (?:each|every|the|all))?",
                 " ([\\p{L}_.][\\p{L}0-9_.]*)(?: ([\\p{L}_.][\\p{L}0-9_.]*))?")
  hits <- stringi::stri_match_all_regex(state$text, quick_form(form))[[1]]
  known <- state$vocabulary$phrases
  for (i in seq_len(nrow(hits))) {
    words <- stats::na.omit(c(if (!is.na(hits[i, 3])) paste(hits[i, 2], hits[i, 3]), hits[i, 2]))
    for (w in words) {
      said <- paste(stems_of(w)[[1]], collapse = " ")
      at <- known$column[known$phrase == said]
      if (!length(at)) at <- known$column[startsWith(known$phrase, paste0(said, " "))]
      at <- at[state$vocabulary$columns$kind[at] %in% c("id", "category", "text", "yes_no", "count", "ordered")]
      if (length(unique(at)) == 1) return(column_of(state, at[1]))
    }
  }
  NULL
}

#' Weights of a regression: the column after "weighted by", else the one that holds sampling weights
#' @noRd
take_model_weight <- function(state, rest, r) {
  named <- Filter(function(m) grepl("(weighted|weights?)( by)?( the)?$|by weight$",
      trimws(paste(vapply(m$at - 3:1, function(j) item_norm(state, j), ""), collapse = " "))), rest)
  columns <- state$vocabulary$columns
  name <- if (length(named)) column_of(state, named[[1]]$column) else columns$name[columns$role == "weight"][1]
  if (is.na(name)) return(r)
  r$extra$weight <- name
  r$predictors <- setdiff(r$predictors, name)
  r$assumed <- c(r$assumed, sprintf("Rows are weighted by %s.", name))
  r
}

#' "a random slope of age", "slopes that differ between children"
#' @noRd
asks_for_slopes <- function(state) {
  says(state, "random (intercepts? and )?slopes?|slopes? (that |which )?(vary|varies|differ|differs|of its own)|(own|separate|individual) slopes?")
}

asks_for_clusters <- function(state) {
  asks_for_slopes(state) || says(state, "random (intercept|effect)|cluster(ed|ing)? (by|within|in|on)|nested (in|within)|multilevel")
}

#' "quadratic", "cubic", "a polynomial of degree 4"
#' @noRd
asked_degree <- function(state) {
  text <- tolower(state$text)
  number <- regmatches(text, regexec("(?:degree|order) (?:of )?([0-9]{1,2})|([0-9]{1,2})(?:st|nd|rd|th)?[- ](?:degree|order)", text))[[1]]
  if (length(number)) return(as.integer(paste0(number[2], number[3])))
  # (a cubic spline is no polynomial of the third degree)
  if (grepl("cubic(?! spline)", text, perl = TRUE)) 3L else if (grepl("quartic", text)) 4L else if (grepl("quadratic|parabola", text)) 2L else NULL
}

#' "whether a car has a manual transmission": a level named as the event makes its column the outcome
#' @noRd
add_event_outcome <- function(state, rest) {
  positive <- Filter(function(g) !g$negated && length(g$levels) == 1, state$groups)
  if (length(rest) >= 2 || !length(positive) || !length(rest)) return(rest)
  g <- positive[[1]]
  if (isTRUE(g$numeric)) {
    # "expect ... after an eruption of 4 minutes": the number is a value of the predictor
    return(structure(c(rest, list(new_mention(min(g$at), g$column, "value", value = g$numbers[1]))), used = list(g)))
  }
  if (g$lead == "only" || any(vapply(rest, function(m) m$column == g$column, NA))) return(rest)
  # (of an expected value the level says for which rows)
  if (says(state, "^ *(what is |give |show )?(the )?(expected|predicted)\\b") && can_measure(state, rest[[1]]$column)) return(rest)
  if (min(g$at) < rest[[length(rest)]]$at) return(rest)
  # ("does high dose differ from placebo in sbp at week 12, adjusting for age": two levels divide, and the third narrows the rows)
  if (can_measure(state, rest[[1]]$column) && any(vapply(state$groups, names_several, NA))) return(rest)
  structure(c(rest, list(new_mention(min(g$at), g$column, "event", event = g$levels))), used = list(g))
}

other_predictors <- function(state, outcome) {
  columns <- state$vocabulary$columns
  home <- columns$table[match(outcome[1], columns$name)]
  ok <- columns$kind %in% c("number", "count", "ordered", "yes_no") |
    (columns$kind == "category" & columns$distinct <= 12)
  setdiff(columns$name[ok & columns$table == home & !columns$role %in% c("weight", "latitude", "longitude")], outcome)
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
    # "compare methods on posttest"
    if (any(grepl("^compar", lead)) && is_level_kind(kind_at(state, rest[[1]]$column)) && can_measure(state, rest[[on[1]]]$column)) return(on[1])
    return(1L)
  }
  if (effect_first(state, rest)) return(2L)
  # "how do maths and absences predict science": all that is joined before the verb explains
  run <- 1L
  while (run < length(rest) && is_joined(state, rest[[run]]$at, rest[[run + 1]]$at)) run <- run + 1L
  if (run > 1 && run == length(rest) - 1L && effect_first(state, rest[run:(run + 1L)])) return(run + 1L)
  if (each_extra(state, rest)) return(1L)
  if (longer_means(state, rest)) return(length(rest))
  # "the difference between clinics in waiting time, adjusting for age"
  measured <- which(vapply(rest, function(m) can_measure(state, m$column), NA) & !markers %in% c("between", "by", "across"))
  if (markers[1] %in% c("between", "across") && is_level_kind(kind_at(state, rest[[1]]$column)) && length(measured)) return(measured[1])
  1L
}

#' "how much Y for each extra X": the outcome comes first
#' @noRd
each_extra <- function(state, rest) any(vapply(state$items,
                                               function(i) grepl("(each|every|per) (extra|additional)", i$norm), NA))

longer_means <- function(state, rest) any(vapply(state$items, function(i) i$norm %in% c("means a", "mean a"), NA))

#' "is a straight line good enough", of too few rows to hold any back: the line is set against a parabola instead
#' @noRd
line_against_bend <- function(state, r) {
  columns <- state$vocabulary$columns
  at <- match(c(r$outcome, r$predictors), columns$name)
  few <- isTRUE(r$extra$line_asked) && length(at) == 2 && all(columns$rows[at] < 30) && all(columns$kind[at] %in% c("number", "count"))
  if (!few) return(r)
  r$extra[c("models", "line_asked")] <- list(NULL)
  r$extra$degree <- 2L
  r$method_asked <- "polynomial_regression"
  r$assumed <- c(r$assumed, "With fewer than 30 rows none are held back: the straight line is set against a parabola.")
  r
}
