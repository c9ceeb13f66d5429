# Groups asked for by how many rows they hold ("which agent has the fewest calls", "top 3 sites by number of patients").

#' A count of rows by one column whose largest or smallest groups are asked for: a ranking of the groups
#' @noRd
rank_of_counts <- function(state, reading) {
  if (reading$task != "frequency" || length(reading$extra$missing) || !asks_for_largest_group(state)) return(reading)
  name <- c(reading$outcome, reading$by)
  counted <- is.null(reading$statistic) || identical(reading$statistic, "count")
  plain <- !length(reading$extra$event) && !length(reading$predictors) && is.null(reading$time) && !isTRUE(reading$extra$distinct) &&
    !isTRUE(reading$extra$items)
  kind <- if (length(name) == 1) kind_of_names(state, name)
  if (!counted || !plain || length(name) != 1 || !kind %in% c("category", "ordered", "yes_no", "id")) return(reading)
  if (any(vapply(state$vocabulary$sets, function(set) identical(set$kind, "multi_answer") && name %in% set$columns, NA))) return(reading)
  reading$task <- "rank"
  reading$outcome <- character(); reading$by <- name
  reading$statistic <- "count"
  reading$top <- asked_top(state, several = plural_ranked(state))
  finish_reading(reading)
}

#' Is it the group with the most or the fewest rows that is asked for? "most common" asks for the counts themselves
#' @noRd
asks_for_largest_group <- function(state) {
  if (says(state, "\\b(most|least) (common|frequent|frequently|popular|often|used|usual|likely|cited|mentioned|chosen|typical)\\b")) return(FALSE)
  says(state, paste0("\\b(top|bottom) ([0-9]+|two|three|four|five|six|ten)\\b|^ *rank\\b|\\b(rank(ed|ing)?|order(ed)?|sort(ed)?) .*\\bby\\b|",
    "\\b(highest|lowest|largest|smallest|most|fewest) first\\b|\\b(highest|largest|greatest|biggest|lowest|smallest|fewest) number of\\b|",
    "\\b(which|what|who)\\b.*\\b(most|fewest)\\b|\\bwith the (most|fewest)\\b"))
}
