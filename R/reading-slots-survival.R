# Filling the slots of questions about the time to an event.

fill_survival <- function(state, mentions, r) {
  r <- note_adjusted(state, mentions, r)
  rest <- Filter(function(m) m$marker != "adjust", mentions)
  event <- event_asked(state, rest)
  time <- time_asked(state, rest, event)
  r <- with_filters(state, r, event$group)
  taken <- c(event$column, time)
  others <- Filter(function(m) !column_of(state, m$column) %in% taken, rest)
  names <- column_names_of(state, others)
  groups <- vapply(others, function(m) is_level_kind(kind_at(state, m$column)) || (m$marker == "by" && can_group(state, m$column)), NA)
  divided <- isTRUE(r$method_asked %in% c("kaplan_meier", "log_rank")) || any(vapply(others, function(m) m$marker == "by", NA))
  model <- identical(r$method_asked, "cox_regression") || any(!groups) || (length(names) > 1 && !divided) || length(r$adjust_for)
  if (model) r$predictors <- names else r$by <- names
  # levels named against each other make the groups ("syrup against control")
  several <- Filter(function(g) !g$negated && names_several(g) && !identical(list(g), event$group), state$groups)
  if (!length(names) && length(several)) {
    if (identical(r$method_asked, "cox_regression")) r$predictors <- column_of(state, several[[1]]$column)
    else r$by <- column_of(state, several[[1]]$column)
    r <- with_filters(state, r, c(event$group, several[1]))
    r <- compared_levels(state, r, several[[1]])
  }
  # "the hazard ratio of syrup": its column explains, its rows are not all there is
  side <- Filter(function(g) !g$negated && length(g$levels) == 1 && !isTRUE(g$numeric) && !identical(list(g), event$group), state$groups)
  if (!length(names) && !length(several) && length(side) == 1 &&
      grepl("\\bhazards?( ratio)? (of|for|with|in|under)\\b|\\beffect of\\b|\\b(prolong|extend|shorten|delay|improve|protect|help)", state$text,
          ignore.case = TRUE)) {
    if (model || identical(r$method_asked, "cox_regression")) r$predictors <- column_of(state, side[[1]]$column) else r$by <- column_of(state,
        side[[1]]$column)
    r <- with_filters(state, r, c(event$group, side))
    r$assumed <- c(r$assumed, sprintf("All levels of %s are compared, with %s among them.", column_of(state, side[[1]]$column),
        quoted(side[[1]]$levels)))
  }
  r$outcome <- c(time, event$column)
  r$extra$event <- event$filter
  r$extra$missing <- if (is.null(time)) "outcome" else if (is.null(event$column)) "event"
  if (identical(r$extra$missing, "event")) r$extra$choices_of_event <- event_choices(state, time)
  if (!is.null(event$filter)) r$assumed <- c(r$assumed,
      sprintf("The event is %s; all other rows are censored at their time.", plain_filter(event$filter)))
  r$assumed <- c(r$assumed, event$assumed)
  r
}

event_names <- function() "event|status|dead|died|death|censor|alive|surviv|relapse|recur|fail|churn|swarm|drop.?out|left|cured|outcome"

#' The event: a level named in the question, else a yes/no column that sounds like one
#' @section Shape: list(column, filter, group (the group of values used, as a list), assumed).
#' @noRd
event_asked <- function(state, mentions) {
  columns <- state$vocabulary$columns
  named <- Filter(function(g) !g$negated && length(g$levels) == 1 && grepl(event_names(), tolower(columns$name[g$column])), state$groups)
  if (!length(named)) named <- Filter(function(g) !g$negated && length(g$levels) == 1 && near_event_word(state, g$at), state$groups)
  if (length(named)) {
    g <- named[[1]]
    return(list(column = column_of(state, g$column), filter = group_filter(state, g), group = list(g), assumed = NULL))
  }
  # a condition that was read as a filter on such a column is the event after all ("status = died")
  own <- Filter(function(f) f$op == "==" && grepl(event_names(), tolower(f$column)) && grepl("event", state$text, ignore.case = TRUE), state$filters)
  mentioned <- unlist(lapply(mentions, function(m) if (kind_at(state, m$column) %in% c("yes_no", "category")) m$column))
  two <- which(columns$kind == "yes_no" & grepl(event_names(), tolower(columns$name)))
  kin <- unlist(lapply(columns$name[columns$kind %in% c("number", "count")], function(n) event_of_time(columns, n)))
  at <- c(intersect(mentioned, two), intersect(mentioned, kin), intersect(kin, two), two, kin)[1]
  if (is.na(at)) {
    coded <- which(columns$kind == "count" & columns$distinct == 2 & grepl(event_names(), tolower(columns$name)))
    at <- coded[1]
  }
  if (is.na(at)) return(list(column = NULL, filter = NULL, group = list(), assumed = NULL))
  name <- columns$name[at]
  # of a censoring or survival column it is the other level that is the event
  turned <- grepl("censor|alive|surviv", tolower(name))
  level <- if (turned) columns$first_level[at] else columns$last_level[at]
  if (!nzchar(level)) return(list(column = NULL, filter = NULL, group = list(), assumed = NULL))
  list(column = name, filter = new_filter(name, "==", level), group = list(),
      assumed = sprintf("Took %s as the event, since its name sounds like one.", name))
}

near_event_word <- function(state, at) {
  around <- vapply(c(min(at) - 6:1, max(at) + 1:6), function(k) item_norm(state, k), "")
  any(grepl("^(event|events|death|deaths|died|die|counting|failure|failures)$", around))
}

#' The column of times: one mentioned that holds a duration, else one whose name says so
#' @noRd
time_asked <- function(state, mentions, event) {
  columns <- state$vocabulary$columns
  numeric <- columns$kind %in% c("number", "count") & columns$role == ""
  units <- c("days", "weeks", "months", "years", "hours", "min", "s", "h")
  sounds <- numeric & (columns$unit %in% units | grepl("time|days|weeks|months|surviv|duration|follow|tenure|_to_|until|lifetime",
      tolower(columns$name))) &
    !grepl("age|birth", tolower(columns$name))
  mentioned <- vapply(mentions, function(m) m$column, 1L)
  named <- intersect(mentioned, which(sounds))
  if (length(named)) return(columns$name[named[1]])
  at <- which(sounds)
  if (!length(at)) return(NULL)
  best <- at[order(-grepl("surviv|time|_to_|until|follow|duration", tolower(columns$name[at])))][1]
  # where the event has a name ("swarmed"), the time that shares it goes with it
  if (!is.null(event$column)) {
    stem <- substr(tolower(gsub("[^A-Za-z]", "", event$column)), 1, 4)
    with <- at[grepl(stem, tolower(columns$name[at]), fixed = TRUE)]
    if (length(with)) best <- with[1]
  }
  columns$name[best]
}

#' Columns of two codes of which either could be the event
#' @section Shape: list of filters.
#' @noRd
event_choices <- function(state, time) {
  columns <- state$vocabulary$columns
  two <- which(columns$kind == "count" & columns$distinct == 2 & columns$name != time & nzchar(columns$first_level))
  sounds <- two[grepl(event_names(), tolower(columns$name[two]))]
  at <- if (length(sounds)) sounds[1] else if (length(two) == 1) two
  if (!length(at)) return(list())
  lapply(as.numeric(c(columns$last_level[at], columns$first_level[at])), function(v) new_filter(columns$name[at], "==", v))
}
