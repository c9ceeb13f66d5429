# Filling the slots of components, factors and clusters.

structure_methods <- function() c("principal_components", "factor_analysis", "cluster_kmeans")

#' Columns that are reduced or clustered: those named, else the items, else every measured column
#' @noRd
fill_structure <- function(state, mentions, r) {
  r$task <- "describe"
  r$statistic <- NULL
  r <- with_filters(state, r)
  columns <- state$vocabulary$columns
  scale <- columns$kind %in% c("number", "count", "ordered", "yes_no") & !columns$role %in% c("weight", "year")
  items <- item_columns(state)
  named <- unique(column_names_of(state, Filter(function(m) scale[m$column], mentions)))
  if (length(named) >= 2) r$outcome <- named
  else {
    home <- columns$table[1]
    measured <- columns$name[scale & columns$kind != "yes_no" & columns$table == home]
    r$outcome <- if (asks_for_items(state) && length(items) >= 3) items else measured
    if (length(r$outcome)) r$assumed <- c(r$assumed, sprintf("Took %s: %s.", if (identical(r$outcome,
      items)) "all items" else "all measured columns", some_of(r$outcome, 12)))
  }
  r$by <- character()
  r$extra$pieces <- asked_pieces(state)
  r$extra$missing <- if (length(r$outcome) < 2) "outcome"
  r
}

#' The items of the largest scale
#' @noRd
item_columns <- function(state) largest_set(state, "item_set")

#' The columns of the largest set of a kind
#' @param kind "item_set" or "answer_set".
#' @noRd
largest_set <- function(state, kind) {
  set <- state$vocabulary$columns[[kind]]
  sizes <- tabulate(set[set > 0])
  if (!length(sizes)) character() else state$vocabulary$columns$name[set == which.max(sizes)]
}

asks_for_items <- function(state) says(state, "\\b(items|statements|questions|ratings|scales?|answers|questionnaire|survey)\\b")

#' "three clusters", "2 factors"
#' @noRd
asked_pieces <- function(state) {
  words <- c("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
  pattern <- sprintf(paste0("\\b([0-9]{1,2}|%s) (main |underlying |latent |similar |natural |different ",
      ")?(clusters?|groups?|segments?|types?|factors?|components?|dimensions?)\\b"), paste(words, collapse = "|"))
  found <- regmatches(tolower(state$text), regexec(pattern, tolower(state$text)))[[1]]
  if (!length(found)) return(NULL)
  n <- suppressWarnings(as.integer(found[2]))
  if (is.na(n)) match(found[2], words) else n
}
