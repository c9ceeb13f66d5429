# The items of a scale and the options of one question, spoken of as a whole; the flow of rows into an analysis; positions.

#' Columns of the set that the question speaks of as a whole ("the items", "each option"), or none
#' @noRd
items_asked <- function(state, mentions) {
  named <- Filter(function(m) m$marker != "by", mentions)
  shared <- set_named(state, named)
  if (length(shared)) return(shared)
  if (length(named) || !any(vapply(state$items, has_lex, NA, "scope", "items"))) return(character())
  items <- item_columns(state); answers <- largest_set(state, "answer_set")
  options <- any(grepl("option", norms_of(state)[lexicon_at(state, "scope", "items")]))
  if (!length(items) || (options && length(answers))) answers else items
}

#' The one mention stands for a whole set: its word is what the names of the set share ("transport" of transport_bike, transport_car)
#' @noRd
set_named <- function(state, mentions) {
  if (length(mentions) != 1) return(character())
  columns <- state$vocabulary$columns
  cols <- state$items[[mentions[[1]]$at]]$cols
  if (is.null(cols) || !nrow(cols)) return(character())
  near <- cols$column[cols$score >= max(cols$score) - 0.05]
  # "the satisfaction items": those of one scale whose labels hold the word
  if (any(vapply(state$items, has_lex, NA, "scope", "items"))) {
    scale <- table(columns$item_set[cols$column][columns$item_set[cols$column] > 0])
    if (length(scale) == 1 && scale >= 2) return(columns$name[cols$column[columns$item_set[cols$column] > 0]])
  }
  set <- unique(columns$answer_set[near])
  if (length(near) < 3 || length(set) != 1 || set == 0) return(character())
  columns$name[columns$answer_set == set]
}

fill_items <- function(state, mentions, r) {
  r <- take_items(r, items_asked(state, mentions))
  # "share very satisfied for each item": a level of the items is what is counted, no condition on one of them
  r$filters <- Filter(function(f) !f$column %in% r$outcome, r$filters)
  by <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  r$by <- utils::head(column_names_of(state, mentions[by]), 1)
  r$extra$items <- TRUE
  r$extra$outcome_mentions <- mentions[!by]
  r
}

#' "average of the four items by site": the answers by their numbers, where a statistic of them is asked for
#' @noRd
described_items <- function(state, mentions, r) {
  if (!any(asked_statistics(state) %in% c("mean", "median", "sd", "variance")) || !all(kind_of_names(state, r$outcome) %in% c("ordered", "number",
    "count"))) return(r)
  r$task <- "describe"
  r$extra$items <- NULL
  r
}

take_items <- function(r, items) {
  r$outcome <- items
  r$assumed <- c(r$assumed, sprintf("Taken together: %s.", some_of(items, 8)))
  r
}

#' The items stand for what a description, a table of correlations or the like leaves open
#' @noRd
settle_items <- function(state, mentions, r) {
  open <- length(r$extra$missing) && all(r$extra$missing %in% c("outcome", "second", "predictors"))
  items <- if (open && r$task %in% c("describe", "distribution", "relate") && all(vapply(mentions, function(m) m$marker == "by", NA)))
    items_asked(state, mentions)
  if (!length(items)) return(r)
  r$extra$missing <- NULL
  take_items(r, items)
}

#' Are the items the matter, and not how well they hang together?
#' @noRd
asks_how_answered <- function(state, mentions) {
  length(items_asked(state, mentions)) > 0 &&
    !grepl("\\b(reliab\\w*|consisten\\w*|alpha|omega|hang together|same thing|scale|factors?|components?|cluster\\w*|correlat\\w*|predict\\w*|related?|goes?|depends?|differ|anova|repeated measures)\\b",  # nolint: line_length_linter.
           state$text, ignore.case = TRUE, perl = TRUE)
}

#' How many rows there are at each step: in the data, after the conditions, with what is measured, with everything
#' @noRd
asks_for_flow <- function(state) {
  # "net flow" and "traffic flow" are measures
  any(vapply(lexicon_at(state, "scope", "flow"), function(k) !grepl("^flow", item_norm(state, k)) || !item_type_at(state, k - 1) %in% c("unknown",
    "filler", "column") || item_norm(state, k - 1) %in% c("show", "draw", "plot", "the"), NA))
}

fill_flow <- function(state, mentions, r) {
  names <- column_names_of(state, mentions)
  by <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  groups <- names[by]
  r$by <- utils::head(groups, 1)
  r$extra$flow <- TRUE
  r$extra$flow_columns <- setdiff(names[!by], groups)
  r
}

#' Is a map asked for, or where things are?
#' @noRd
asks_for_map <- function(state) {
  placed <- all(c("latitude", "longitude") %in% state$vocabulary$columns$role)
  asked <- grepl("map", norms_of(state)[lexicon_at(state, "picture", "map")])
  any(asked) || placed && (any(vapply(state$items, has_lex, NA, "picture", "map")) ||
      says(state, "^ *where (is|are|were|was|do|does|did)\\b|\\bpositions\\b"))
}

fill_map <- function(state, mentions, r) {
  columns <- state$vocabulary$columns
  r <- with_filters(state, r)
  place <- stats::na.omit(columns$name[match(c("longitude", "latitude"), columns$role)])
  names <- setdiff(column_names_of(state, mentions), place)
  kinds <- kind_of_names(state, names)
  r$predictors <- place
  r$outcome <- utils::head(names[kinds %in% c("number", "count")], 1)
  r$by <- utils::head(names[kinds %in% c("category", "yes_no", "ordered")], 1)
  r$extra$placed <- TRUE
  r
}
