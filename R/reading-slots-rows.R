# Groups of rows: what happened in each combination of levels, and groups asked for by how many rows they hold ("which agent has the fewest
# calls", "top 3 sites by number of patients").

#' A count of rows by one column whose largest or smallest groups are asked for: a ranking of the groups
#' @noRd
rank_of_counts <- function(state, reading) {
  # "what are the top 3 modes": nothing is measured, so their rows are counted
  bare <- reading$task == "rank" && identical(reading$extra$missing, "outcome") && length(reading$by) == 1 && !length(reading$extra$event) &&
    says(state, "\\btop ([0-9]+|two|three|four|five|six|ten)\\b") && !says(state, "\\b(by|in terms of|best|worst|highest|lowest|for|in)\\b")
  if (bare) {
    reading$task <- "frequency"; reading$extra["missing"] <- list(NULL); reading["statistic"] <- list(NULL)
    reading$assumed <- setdiff(reading$assumed, "Groups are ranked by their mean.")
  }
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

#' "lodging by variety and nitrogen": what is so or not makes no table with two groupings, its shares in their combinations do
#' @noRd
shares_of_combinations <- function(state, reading) {
  names <- c(reading$outcome, reading$by)
  if (reading$task != "frequency" || length(names) != 3 || length(reading$extra$event) || length(reading$predictors)) return(reading)
  kinds <- kind_of_names(state, names)
  # (several options that were ticked or not are no groupings of one another)
  if (kinds[1] != "yes_no" || all(kinds == "yes_no") || any(kinds[-1] %in% c("number", "text", "date", "datetime"))) return(reading)
  reading$outcome <- names[1]; reading$by <- names[-1]
  reading$statistic <- "percent"
  reading$extra$event <- new_filter(names[1], "==", state$vocabulary$columns$last_level[match(names[1], state$vocabulary$columns$name)])
  finish_reading(reading)
}

#' "revenue in March vs April": what adds up is told by its total in each period, where no test is asked for
#' @noRd
totals_of_periods <- function(state, reading) {
  period <- "^(month|quarter|year|week)$|^(month|quarter|year|week)_of_|_(year|month|quarter|week)$"
  plain <- reading$task == "compare" && length(reading$by) == 1 && length(reading$outcome) == 1 && is.null(reading$method_asked) &&
    !length(reading$extra$missing) && (is.null(reading$statistic) || identical(reading$statistic, "sum"))
  if (!plain || !grepl(period, reading$by) || !adds_up(reading$outcome) ||
      !kind_of_names(state, reading$outcome) %in% c("number", "count")) return(reading)
  if (says(state, "^ *(is|are|was|were|do|does|did|has|have|can)\\b|\\b(tests?|differ\\w*|significan\\w*|compare|average|mean|typical)\\b")) return(reading)  # nolint: line_length_linter.
  reading$task <- "describe"
  reading$statistic <- "sum"
  reading$assumed <- c(reading$assumed, sprintf("Periods are set side by side by their totals, since %s adds up.", reading$outcome))
  finish_reading(reading)
}

#' "share who would switch, excluding don't know": of those who gave another answer, the share that says so
#' @noRd
share_of_answers <- function(state, reading) {
  open <- reading$task == "frequency" && !length(reading$outcome) && !length(reading$extra$event) && asks_for_share(state$text)
  if (!open) return(reading)
  yes <- which(vapply(reading$filters, function(f) f$op == "==", NA))
  denied <- vapply(Filter(function(f) f$op %in% c("!=", "not_in"), reading$filters), `[[`, "", "column")
  own <- yes[vapply(reading$filters[yes], function(f) f$column %in% denied, NA)]
  if (length(own) != 1) return(reading)
  reading$extra$event <- reading$filters[[own]]
  reading$outcome <- reading$extra$event$column
  reading$filters <- reading$filters[-own]
  reading$statistic <- "percent"
  finish_reading(reading)
}
