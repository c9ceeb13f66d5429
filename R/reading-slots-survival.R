# Filling the slots of questions about the time to an event.

fill_survival <- function(state, mentions, r) {
  # (curves "stratified by sex" are drawn for each sex: nothing is held constant by a curve)
  if (isTRUE(r$method_asked %in% c("kaplan_meier", "log_rank")) || says(state, "\\bcurves?\\b") && says(state, "\\bstratif")) {
    mentions <- lapply(mentions, function(m) { if (m$marker == "adjust" && can_group(state, m$column)) m$marker <- "by"; m })
  }
  r <- note_adjusted(state, mentions, r)
  rest <- Filter(function(m) m$marker != "adjust", mentions)
  event <- event_asked(state, rest)
  time <- time_asked(state, rest, event)
  r <- with_filters(state, r, event$group)
  r <- without_stated_span(state, r)
  taken <- c(event$column, time)
  others <- Filter(function(m) !column_of(state, m$column) %in% taken, rest)
  names <- column_names_of(state, others)
  curves <- isTRUE(r$method_asked %in% c("kaplan_meier", "log_rank"))
  groups <- vapply(others, function(m) is_level_kind(kind_at(state, m$column)) || ((curves || m$marker == "by") && can_group(state, m$column)), NA)
  divided <- curves || any(vapply(others, function(m) m$marker == "by", NA))
  model <- identical(r$method_asked, "cox_regression") || any(!groups) || (length(names) > 1 && !divided) || length(r$adjust_for)
  if (model) r$predictors <- names else r$by <- names
  # (held constant beside nothing else, it is what is asked about)
  if (length(r$adjust_for) && !length(names) && !length(state$groups)) {
    alone <- Filter(function(m) m$marker == "adjust", mentions)
    if (all(vapply(alone, function(m) can_group(state, m$column), NA))) r$by <- r$adjust_for else r$predictors <- r$adjust_for
    r["adjust_for"] <- list(NULL)
  }
  # levels named against each other make the groups ("syrup against control")
  several <- Filter(function(g) !g$negated && names_several(g) && !identical(list(g), event$group), state$groups)
  if (!length(names) && length(several)) {
    if (identical(r$method_asked, "cox_regression")) r$predictors <- column_of(state, several[[1]]$column)
    else r$by <- column_of(state, several[[1]]$column)
    r <- with_filters(state, r, c(event$group, several[1]))
    r <- compared_levels(state, r, several[[1]])
  }
  # "the hazard ratio of syrup": its column explains, its rows are not all there is
  side <- Filter(function(g) names_one(g) && !identical(list(g), event$group), state$groups)
  if (!length(names) && !length(several) && length(side) == 1 &&
      says(state, paste0("\\bhazards?( ratio)? (of|for|with|in|under)\\b|\\beffect of\\b|\\b(prolong|extend|shorten|delay|improve|protect|help)|",
        "^ *(is|are|was|were|do|does|did|has|have)\\b.*\\b(longer|shorter|sooner|later|better|worse)\\b"))) {
    if (model || identical(r$method_asked, "cox_regression")) r$predictors <- column_of(state, side[[1]]$column) else r$by <- column_of(state,
        side[[1]]$column)
    r <- with_filters(state, r, c(event$group, side))
    r$assumed <- c(r$assumed, sprintf("All levels of %s are compared, with %s among them.", column_of(state, side[[1]]$column),
        quoted(side[[1]]$levels)))
  }
  # "survival without swarming": rows are not left out by what the event is
  own <- vapply(r$filters, function(f) identical(f$column, event$column), NA)
  if (any(own)) {
    r$filters <- r$filters[!own]
    r$assumed <- c(r$assumed, sprintf("No row is left out by %s, since it says whether the event came.", event$column))
  }
  r$outcome <- c(time, event$column)
  r$extra$event <- event$filter
  r$extra$missing <- if (is.null(time)) "outcome" else if (is.null(event$column)) "event"
  if (identical(r$extra$missing, "event")) r$extra$choices_of_event <- event_choices(state, time)
  if (!is.null(time) && !model) r <- read_at_stated_time(state, r)
  if (!is.null(event$filter)) r$assumed <- c(r$assumed,
      sprintf("The event is %s; all other rows are censored at their time.", plain_filter(event$filter)))
  r$assumed <- c(r$assumed, event$assumed)
  r
}

#' "5 year survival", of a column year: a span of time, and no year
#' @noRd
without_stated_span <- function(state, r) {
  if (!says(state, "\\b[0-9]{1,2}[- ](year|month|week|day)s?( \\w+)? (surviv|free|mortality)")) return(r)
  span <- vapply(r$filters, function(f) identical(f$op, "==") && grepl("^(year|month|week|day)s?$",
      tolower(f$column)) && isTRUE(as.numeric(f$value) < 60), NA)
  r$filters <- r$filters[!span]
  r$assumed <- r$assumed[!grepl("as the number [0-9]+ in (year|month|week|day)", r$assumed)]
  r
}

event_names <- function() "event|status|dead|died|death|censor|alive|surviv|relapse|recur|fail|churn|swarm|drop.?out|left|cured|outcome|cancel|quit|resign|withdr|lapsed|discontinu|unsubscri"  # nolint: line_length_linter.

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
  own <- Filter(function(f) f$op == "==" && grepl(event_names(), tolower(f$column)) && says(state, "event"), state$filters)
  open <- censored_columns(columns)
  if (nrow(open)) {
    told <- sprintf("Took %s = %s as the event: all other rows (%s) are censored at their time.", open$name[1], open$event[1], open$other[1])
    return(list(column = open$name[1], filter = new_filter(open$name[1], "==", open$event[1]), group = list(), assumed = told))
  }
  mentioned <- unlist(lapply(mentions, function(m) if (kind_at(state, m$column) %in% c("yes_no", "category")) m$column))
  two <- events_by_words(state, mentions, which(columns$kind == "yes_no" & grepl(event_names(), tolower(columns$name))))
  kin <- unlist(lapply(columns$name[columns$kind %in% c("number", "count")], function(n) event_of_time(columns, n)))
  # (relief of time_to_relief is what that time runs to, whatever else sounds like an event)
  at <- c(intersect(mentioned, two), intersect(mentioned, kin), intersect(kin, two), if (length(unique(kin)) == 1) kin, two, kin)[1]
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
      assumed = sprintf(if (at %in% kin) "Took %s as the event, since a time runs to it." else "Took %s as the event, since its name sounds like one.", name))  # nolint: line_length_linter.
}

#' Of several events the one that the words are about comes first: "survival" ends with death, "relapse" is no death
#' @noRd
events_by_words <- function(state, mentions, at) {
  if (length(at) < 2) return(at)
  names <- state$vocabulary$columns$name
  name <- tolower(names[at])
  # a time that is named goes with the event whose name begins as its own
  paired <- unlist(lapply(mentions, function(m) at[vapply(at, function(e) isTRUE(times_of_event(c(names[m$column], ""), names[e])[1]), NA)]))
  if (length(unique(paired)) == 1) return(unique(c(paired, at)))
  again <- says(state, "\\b(relaps\\w*|recur\\w*|progress\\w*|remission|failure|(event|disease|relapse|recurrence|progression)[- ]free)\\b")
  life <- !again && says(state, "\\b(surviv\\w*|alive|dea(d|th|ths)|d(ie|ies|ied|ying)|mortality|live longer|lifetime)\\b")
  fits <- if (again) grepl("recur|relap|progr|fail|(^|_)(dfs|pfs|rfs|efs)(_|$)", name) else if (life)
    grepl("dea(d|th)|died|deceas|mortal|alive|surviv|vital|(^|_)os(_|$)", name) else rep(FALSE, length(at))
  c(at[fits], at[!fits])
}

#' Columns of two levels of which one says that the event has not come ("censored", "alive")
#' @section Shape: data frame name, event (the level), other.
#' @noRd
censored_columns <- function(columns) {
  not_yet <- "^(right.?)?(censored|censoring|alive|living|still alive|event.?free|no event|lost to follow.?up|ongoing|withdrawn)$"
  two <- columns$kind %in% c("yes_no", "category", "ordered") & columns$distinct == 2 & nzchar(columns$first_level) & nzchar(columns$last_level)
  first <- two & grepl(not_yet, tolower(columns$first_level)); last <- two & grepl(not_yet, tolower(columns$last_level))
  one <- xor(first, last)
  data.frame(name = columns$name[one], event = ifelse(first, columns$last_level, columns$first_level)[one],
             other = ifelse(first, columns$first_level, columns$last_level)[one], stringsAsFactors = FALSE)
}

#' Does the data hold a time to an event and whether it came? The name of the column of times, or NULL
#' @noRd
survival_time <- function(columns) {
  numeric <- columns$kind %in% c("number", "count") & !columns$role %in% c("weight", "latitude", "longitude", "year")
  called <- paste0("surviv|follow.?up|followed|lifetime|(time|days|weeks|months|years)_(to|until|in_study|on_study)|",
                   "^(fu|os|pfs|dfs|obs|futime|tte)(_|$)|^time$|^duration$|^(time_)?(hours|days|weeks|months|years)$|",
                   "(days|weeks|months|years)_(active|enrolled|employed|subscribed|observed|at_risk|in_service|with_us|as_\\w+|stayed|retained|served)$|",  # nolint: line_length_linter.
                   "^(tenure|membership|subscription|service)_(days|weeks|months|years)$|^tenure$")
  time <- columns$name[numeric & grepl(called, tolower(columns$name))]
  two <- columns$kind == "yes_no" | columns$kind == "count" & columns$distinct == 2
  dead <- two & grepl("(^|_)(status|died|dead|death|deceased|event|relapsed?|censored|failed|failure|cancell?ed|churn(ed)?|left|quit|resigned|lapsed|discontinued|unsubscribed|withdrew|withdrawn)(_|$)", tolower(columns$name))  # nolint: line_length_linter.
  if (length(time) && (nrow(censored_columns(columns)) || any(dead))) return(time[1])
  # "days_to_swarm" and "swarmed"
  named <- Filter(function(name) length(event_of_time(columns, name)) == 1, columns$name[numeric])
  if (length(named)) named[1]
}

#' "median survival", "do women live longer", "survival at one year", where the data holds times that may be censored
#' @noRd
asks_for_survival <- function(state) {
  columns <- state$vocabulary$columns
  said <- "\\bsurviv(al|e|es|ed|ing)\\b|\\b(alive|event.?free|relapse.?free|free of \\w+) (after|at|by|beyond|past|for) [0-9]|\\bliv(e|es|ed) (any )?longer\\b|\\bhow long (do|did|does|will|would) .{2,60}\\b(live|last)\\b|\\blongest to live\\b|\\bd(ie|ies|ied|ying) (sooner|earlier|later|faster)\\b|\\b(stay|stays|stayed|remain|remains|keeps?|kept) (\\w+ )?alive\\b.*\\blong|\\btime to (death|relapse|event|failure)\\b"  # nolint: line_length_linter.
  # every question comes by here; the columns are looked at only where the words are there
  if (!says(state, said) || is.null(survival_time(columns))) return(FALSE)
  # "winter survival" of a yes/no column that is called so
  if (any(columns$kind == "yes_no" & grepl("surviv", tolower(columns$name))) && is.null(time_stated(state))) return(FALSE)
  # the times of those to whom it happened are a plain column; so is a mean, a count or a picture of the times
  events <- c(censored_columns(columns)$name, columns$name[columns$kind == "yes_no" & grepl(event_names(), tolower(columns$name))])
  narrowed <- any(vapply(state$groups, function(g) column_of(state, g$column) %in% events, NA)) ||
    any(vapply(state$filters, function(f) f$column %in% events, NA))
  other <- setdiff(asked_statistics(state), "median")
  counted <- says(state, "\\b(how many|number of|share|percent(age)?|proportion|histogram|distribution|correlat\\w*|missing)\\b") &&
      is.null(time_stated(state))
  !narrowed && !counted && !length(setdiff(other, c("percent", "count")))
}

#' "at one year", "5-year survival", "after 200 days", "at day 200", "at 200": the time at which the curve is to be read
#' @section Shape: list(value, unit ("" where none is said)), or NULL.
#' @noRd
time_stated <- function(state) {
  number <- "([0-9]+(?:\\.[0-9]+)?|one|two|three|four|five|six|ten|twelve)"
  unit <- "(hour|day|week|month|year)s?"
  text <- tolower(state$text)
  find <- function(form) regmatches(text, regexec(form, text, perl = TRUE))[[1]][-1]
  said <- find(sprintf("\\b(?:at|after|beyond|past|for)(?: least)? %s %s\\b", number, unit))
  if (!length(said)) said <- find(sprintf("\\b%s[- ]%s(?: overall)? surviv", number, unit))
  if (!length(said)) said <- rev(find(sprintf("\\b(?:at|after|beyond|past) %s %s\\b", unit, number)))
  if (!length(said)) said <- find("\\bat (?:time )?([0-9]+(?:\\.[0-9]+)?)()(?= *(?:[?.!,]*$|(?:by|in|for|per|of|among|with|across)\\b))")
  if (!length(said)) return(NULL)
  list(value = word_number(said[1]), unit = said[2])
}

#' "at 6, 12 and 24 months": all times at which the curve is to be read
#' @section Shape: list of those of [time_stated()], or NULL where fewer than two are said.
#' @noRd
times_stated <- function(text) {
  number <- "(?:[0-9]+(?:\\.[0-9]+)?|one|two|three|four|five|six|ten|twelve)"
  hit <- match_groups(tolower(text), sprintf("\\b(?:at|after|beyond|past|for) (%1$s(?:(?:, ?| and |, and )%1$s)+) (hour|day|week|month|year)s?\\b",
      number))
  if (is.na(hit[1])) return(NULL)
  values <- vapply(strsplit(hit[2], ", and |, ?| and ")[[1]], word_number, 1, USE.NAMES = FALSE)
  lapply(sort(unique(values)), function(v) list(value = v, unit = hit[3]))
}

#' A reading of curves, with the time at which the question wants them read; in an unknown unit it is left open
#' @noRd
read_at_stated_time <- function(state, r) {
  several <- times_stated(state$text)
  own <- unit_of_times(state$vocabulary$columns, r$outcome[1])
  if (length(several) > 1 && nzchar(own)) {
    r$extra$at_times <- lapply(several, in_unit_of_times, own = own)
    r$extra$at_time <- r$extra$at_times[[1]]
    # (those numbers leave no rows out)
    r$filters <- Filter(function(f) f$column != r$outcome[1], r$filters)
    r$by <- setdiff(r$by, r$outcome[1])
    return(r)
  }
  stated <- time_stated(state)
  if (is.null(stated)) return(r)
  if (nzchar(own) || !nzchar(stated$unit)) r$extra$at_time <- in_unit_of_times(stated, own)
  else {
    r$extra$missing <- c(r$extra$missing, "time_unit")
    r$extra$time_stated <- stated
  }
  r
}

#' The unit in which a column counts time, by its unit or a word of its name ("days", "months_followed"); "" where nothing says it
#' @noRd
unit_of_times <- function(columns, name) {
  sizes <- unit_sizes()$time
  own <- columns$unit[match(name, columns$name)]
  if (own %in% names(sizes)) return(own)
  words <- tolower(unlist(strsplit(name_words(name), "[^[:alpha:]]+")))
  named <- intersect(c("hours", "days", "weeks", "months", "years"), paste0(sub("s$", "", words), "s"))
  if (length(named) == 1) named else ""
}

#' The stated time in the unit of the column of times
#' @section Shape: list(value, said).
#' @noRd
in_unit_of_times <- function(stated, own) {
  with_words <- function(value, unit) trimws(sprintf("%s %s", format_plain(value), if (value == 1) sub("s$", "", unit) else unit))
  if (!nzchar(stated$unit)) return(list(value = stated$value, said = with_words(stated$value, own)))
  sizes <- unit_sizes()$time
  unit <- paste0(stated$unit, "s")
  said <- with_words(stated$value, unit)
  if (unit == own) return(list(value = stated$value, said = said))
  value <- signif(stated$value * sizes[[unit]] / sizes[[own]], 6)
  list(value = value, said = sprintf("%s (%s)", said, with_words(value, own)))
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
    if (!length(with) && length(at) > 1) with <- at[times_of_event(columns$name[at], event$column)]
    if (length(with)) best <- with[1]
  }
  columns$name[best]
}

#' "dtime" beside "death", "os_months" beside "os_event": times whose name begins as that of the event
#' @noRd
times_of_event <- function(times, event) {
  event <- tolower(event)
  lead <- sub("[_. ]?(time|days|weeks|months|years|hours|t|fu|followup)$", "", tolower(times))
  shared <- nzchar(lead) & lead != tolower(times) & (startsWith(event, lead) | startsWith(event, paste0(lead, "_")))
  if (sum(shared) == 1) shared else rep(FALSE, length(times))
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

#' Does a reading other than survival measure times of which some are censored?
#' @section Shape: data frame name, event, other of the column that says so, or NULL.
#' @noRd
censored_times <- function(state, reading) {
  if (!reading$task %in% c("describe", "compare", "rank", "predict", "relate", "drivers", "trend", "distribution")) return(NULL)
  open <- censored_columns(state$vocabulary$columns)
  if (!nrow(open) || any(vapply(reading$filters, function(f) f$column %in% open$name, NA))) return(NULL)
  time <- survival_time(state$vocabulary$columns)
  if (is.null(time) || !time %in% reading$outcome) return(NULL)
  cbind(time = time, open[1, ])
}
