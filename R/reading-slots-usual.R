# Recent values against what is usual for the same unit: which windows, which unit.

#' "the last 7 days against the 28 before", "ratio of the 7-day to the 28-day mean": the numbers are lengths of windows
#' @noRd
usual_windows <- function(state) {
  if (!has_dates(state)) return(state)
  days <- function(k) c(day = 1, days = 1, week = 7, weeks = 7, month = 30, months = 30)[item_norm(state, k)]
  at <- Filter(function(k) !state$used[k] && isTRUE(state$items[[k]]$value > 0) && !is.na(days(k + 1)), which(state$type == "number"))
  if (length(at) != 2) return(state)
  between <- vapply((at[1] + 2):(at[2] - 1), function(j) item_norm(state, j), "")
  held <- any(between %in% c("against", "versus", "vs", "to", "compared", "compared with", "compared to", "relative", "than", "and", "over"))
  recent <- vapply(at, function(k) any(vapply(max(1, k - 2):(k - 1), function(j) item_norm(state, j) %in% c("last", "past", "latest", "recent",
    "most recent"), NA)), NA)
  if (!held || !(recent[1] || says(state, "\\bratio\\b"))) return(state)
  length_of <- function(k) state$items[[k]]$value * days(k + 1)[[1]]
  sizes <- c(length_of(at[1]), length_of(at[2]))
  if (sizes[1] == sizes[2] || any(sizes != round(sizes))) return(state)
  # "against the 28 before": the windows follow each other; "against the last 28": the long one takes in the short one
  apart <- says(state, "\\b(before|previous|preceding|prior|earlier)\\b")
  state$flags$windows <- list(short = min(sizes), long = max(sizes), within = !apart)
  use_items(state, c(at, at + 1))
}

#' Is what is usual for the same unit the measure?
#' @noRd
asks_against_usual <- function(state) {
  if (!has_dates(state)) return(FALSE)
  if (!is.null(state$flags$windows)) return(TRUE)
  says(state, paste0("\\b((their|its|his|her|each one's|the|each|every) (own )?|own )(usual|normal) (range|level|value|self)\\b|",
               "\\b(their|its|his|her) (own )?usual\\b(?! care)|\\busual range\\b|",
               "\\b(their|its|his|her|each one's|each) own (usual|normal|baseline|average|mean|past)\\b|",
               "\\bown baselines?\\b|\\bunusually [a-z]+ (lately|recently|now|right now|at the moment|at present)\\b"))
}

fill_usual <- function(state, mentions, r) {
  kinds <- mention_kinds(state, mentions)
  columns <- state$vocabulary$columns
  r <- with_filters(state, r)
  r$task <- "trend"
  r$outcome <- utils::head(column_names_of(state, mentions[kinds %in% c("number", "count")]), 1)
  r$time <- list(column = time_columns(state)[1])
  if (is.null(state$flags$windows)) state$flags$windows <- window_said(state)
  # (the days of the window are no condition, and are told anew below)
  if (isTRUE(state$flags$windows$said)) r$assumed <- grep("counted from the last day", r$assumed, value = TRUE, fixed = TRUE, invert = TRUE)
  r$filters <- Filter(function(f) !is_window_filter(f, r$time$column, state$flags$windows), r$filters)
  units <- column_names_of(state, mentions[kinds %in% c("id", "category")])
  if (!length(units)) {
    repeated <- columns$name[columns$kind == "id" & !columns$unique]
    # "who is above their usual load", of keys of players and of sessions
    people <- function(name) is_key_of_people(name) || grepl(sprintf("^%s$", people_words()), tolower(key_noun(name)), perl = TRUE)
    if (length(repeated) > 1) repeated <- Filter(people, setdiff(repeated, columns$name[grepl("session|visit|date|day|week", tolower(columns$name))]))
    if (!length(repeated)) repeated <- Filter(people, columns$name[columns$kind == "category"])
    if (length(repeated) == 1) {
      units <- repeated
      r$assumed <- c(r$assumed, sprintf("Each %s is held against its own past.", repeated))
    }
  }
  r$by <- utils::head(units, 1)
  r["statistic"] <- list(NULL)
  r["top"] <- list(NULL)
  r$extra$against_usual <- TRUE
  r$extra$windows <- state$flags$windows %||% list(short = 7, long = 28, within = FALSE)
  named <- !is.null(state$flags$windows) && !isTRUE(state$flags$windows$said)
  if (!named) r$assumed <- c(r$assumed, sprintf("Recent: the last %s of the data; usual: the %s before them.", count_of(r$extra$windows$short, "day"),
    count_of(r$extra$windows$long, "day")))
  r$extra$outcome_mentions <- mentions
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

#' "above their own average in the last week": the short window, four of which make the long one; NULL where none is named
#' @noRd
window_said <- function(state) {
  hit <- match_groups(state$text, "(?i)(?:\\b(?:in|over|during|for) the |^ *(?:is |are |was |how does |compare )?(?:the )?)(?:last|past|latest|most recent) (?:([0-9]{1,3}) )?(day|week|month)s?\\b")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  short <- c(day = 1, week = 7, month = 30)[[tolower(hit[3])]] * if (is.na(hit[2])) 1 else as.numeric(hit[2])
  list(short = short, long = 4 * short, within = FALSE, said = TRUE)
}

#' Was "the last 7 days" of the question taken as a condition, where it is the short window?
#' @noRd
is_window_filter <- function(filter, time, windows) {
  if (is.null(windows) || filter$column != time || filter$op != "between") return(FALSE)
  if (isTRUE(windows$said)) return(TRUE)
  ends <- as.Date(unlist(filter$value))
  isTRUE((as.numeric(ends[2] - ends[1]) + 1) %in% c(windows$short, windows$long))
}
