# The items of a scale and the options of one question, spoken of as a whole; the flow of rows into an analysis; positions.

#' Columns of the set that the question speaks of as a whole ("the items", "each option"), or none
#' @noRd
items_asked <- function(state, mentions) {
  columns <- state$vocabulary$columns
  named <- Filter(function(m) m$marker != "by", mentions)
  shared <- set_named(state, named)
  if (length(shared)) return(shared)
  if (length(named) || !any(vapply(state$items, has_lex, NA, "scope", "items"))) return(character())
  sizes <- c(items = max(0L, tabulate(columns$item_set[columns$item_set > 0])), answers = max(0L,
      tabulate(columns$answer_set[columns$answer_set > 0])))
  if (max(sizes) == 0) return(character())
  options <- any(vapply(which(state$type == "lexicon"), function(k) has_lex(state$items[[k]], "scope", "items") &&
                        grepl("option", item_norm(state, k)), NA))
  kind <- if (sizes[["items"]] == 0 || (options && sizes[["answers"]] > 0)) "answer_set" else "item_set"
  set <- columns[[kind]]
  columns$name[set > 0 & set == which.max(tabulate(set[set > 0]))]
}

#' The one mention stands for a whole set: its word is what the names of the set share ("transport" of transport_bike, transport_car)
#' @noRd
set_named <- function(state, mentions) {
  if (length(mentions) != 1) return(character())
  columns <- state$vocabulary$columns
  cols <- state$items[[mentions[[1]]$at]]$cols
  if (is.null(cols) || !nrow(cols)) return(character())
  near <- cols$column[cols$score >= max(cols$score) - 0.05]
  set <- unique(columns$answer_set[near])
  if (length(near) < 3 || length(set) != 1 || set == 0) return(character())
  columns$name[columns$answer_set == set]
}

fill_items <- function(state, mentions, r) {
  r$outcome <- items_asked(state, mentions)
  by <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  r$by <- utils::head(column_names_of(state, mentions[by]), 1)
  r$extra$items <- TRUE
  r$extra$outcome_mentions <- mentions[!by]
  r$assumed <- c(r$assumed, sprintf("Taken together: %s.", some_of(r$outcome, 8)))
  r
}

#' The items stand for what a description, a table of correlations or the like leaves open
#' @noRd
settle_items <- function(state, mentions, r) {
  open <- length(r$extra$missing) && all(r$extra$missing %in% c("outcome", "second", "predictors"))
  if (!open || !r$task %in% c("describe", "distribution", "relate") || length(mentions) > sum(vapply(mentions, function(m) m$marker == "by",
      NA))) return(r)
  items <- items_asked(state, mentions)
  if (!length(items)) return(r)
  r$outcome <- items
  r$extra$missing <- NULL
  r$assumed <- c(r$assumed, sprintf("Taken together: %s.", some_of(items, 8)))
  r
}

#' Are the items the matter, and not how well they hang together?
#' @noRd
asks_how_answered <- function(state, mentions) {
  length(items_asked(state, mentions)) > 0 &&
    !grepl("\\b(reliab\\w*|consisten\\w*|alpha|omega|hang together|same thing|scale|factors?|components?|cluster\\w*|correlat\\w*|predict\\w*|related?|goes?|depends?)\\b",  # nolint: line_length_linter.
           state$text, ignore.case = TRUE)
}

#' How many rows there are at each step: in the data, after the conditions, with what is measured, with everything
#' @noRd
asks_for_flow <- function(state) any(vapply(which(state$type == "lexicon"), function(k) has_lex(state$items[[k]], "scope", "flow"), NA))

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
  asked <- vapply(which(state$type == "lexicon"), function(k) has_lex(state$items[[k]], "picture", "map") && grepl("map", item_norm(state, k)), NA)
  any(asked) || placed && (any(vapply(state$items, has_lex, NA, "picture", "map")) ||
      grepl("^ *where (is|are|were|was|do|does|did)\\b|\\bpositions\\b", state$text, ignore.case = TRUE))
}

fill_map <- function(state, mentions, r) {
  columns <- state$vocabulary$columns
  r <- with_filters(state, r)
  place <- stats::na.omit(columns$name[match(c("longitude", "latitude"), columns$role)])
  names <- setdiff(column_names_of(state, mentions), place)
  kinds <- vapply(names, function(n) columns$kind[match(n, columns$name)], "")
  r$predictors <- place
  r$outcome <- utils::head(names[kinds %in% c("number", "count")], 1)
  r$by <- utils::head(names[kinds %in% c("category", "yes_no", "ordered")], 1)
  r$extra$placed <- TRUE
  r$extra$picture <- NULL
  r
}
