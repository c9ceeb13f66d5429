# Cues of time: trends, seasons, forecasts, time to an event.
# Each takes the state, the columns mentioned with their kinds, and the scores so far, and gives the scores.

#' an event and its censoring are spoken of only where time to it is meant
#' @noRd
cue_censoring <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(censor|the event is|as the event|event is|deaths? (of|from|by))") &&
      score["survival"] > 0) score["survival"] <- score["survival"] + 1.5
  score
}

#' "hazard of death": time to an event
#' @noRd
cue_hazard <- function(state, mentions, kinds, score) {
  if (says(state, "\\bhazards?\\b")) score["survival"] <- score["survival"] + 2
  score
}

#' "median time to settlement": time to an event asked for in other words
#' @noRd
cue_survival_asked <- function(state, mentions, kinds, score) {
  if (asks_for_survival(state)) score["survival"] <- max(score) + 2
  score
}

#' "how long does it take to settle a claim", of data in which nothing is censored: a plain duration
#' @noRd
cue_plain_duration <- function(state, mentions, kinds, score) {
  plain_time <- score["survival"] > 0 && any(kinds %in% c("number", "count")) && is.null(single_method(state)) &&
    !says(state, "surviv|hazard|censor|\\bevent\\b|kaplan") && !times_named_event(state, mentions, kinds)
  if (plain_time && says(state, "\\bhow long\\b")) {
    score["describe"] <- score["describe"] + score["survival"]
    score["survival"] <- 0
  }
  score
}

#' "predict sales for the next three months": ahead in time, not from other columns
#' @noRd
cue_forecast <- function(state, mentions, kinds, score) {
  if (score["forecast"] > 0.25 &&
      says(state, "\\b(forecast|project|extrapolat|predict)\\w*\\b.*\\b(next|coming|ahead|following)\\b|\\bforecast")) {
    score["forecast"] <- score["forecast"] + 2.5
  }
  score
}

#' "did bookings drop in summer": rows are counted over time
#' @noRd
cue_rows_over_time <- function(state, mentions, kinds, score) {
  entity <- entities_at(state)
  if (has_dates(state) && !length(mentions) && any(entity) && max(score[c("compare", "relate", "predict")]) < 1 &&
      says(state, "^ *(did|do|does|has|have|is|are)\\b.*\\b(drop|fall|fell|ris|rose|grow|grew|increas|decreas|declin|(go|went) (up|down))")) {
    score["trend"] <- score["trend"] + 3
  }
  score
}

#' "is the last month unusual": the latest against what is usual
#' @noRd
cue_against_usual <- function(state, mentions, kinds, score) {
  if (asks_against_usual(state)) score["trend"] <- max(score) + 3
  score
}

#' "sales allowing for the season"
#' @noRd
cue_season <- function(state, mentions, kinds, score) {
  if (has_dates(state) && !is.null(season_allowed_for(state)) && max(score[c("compare", "predict", "forecast")]) < 1.5) {
    score["trend"] <- score["trend"] + 2
  }
  score
}

#' "weight and rain on two axes": both over time
#' @noRd
cue_two_axes <- function(state, mentions, kinds, score) {
  if (has_dates(state) && any(vapply(state$items, has_lex, NA, "scope", "second_axis"))) {
    score["trend"] <- score["trend"] + 3
    score["figure"] <- 0
  }
  score
}

#' "when did the level shift": a change point
#' @noRd
cue_when_changed <- function(state, mentions, kinds, score) {
  if (asks_when_changed(state) && has_dates(state)) score["trend"] <- score["trend"] + 2.5
  score
}

#' "did sales go up?", "are prices coming down"
#' @noRd
cue_went_up <- function(state, mentions, kinds, score) {
  if (has_dates(state) && length(mentions) == 1 && (any_measured(kinds) || kinds[1] == "yes_no") && says(state,
      "\\b(go|goes|going|went|gone|come|came|coming) (up|down)\\b")) score["trend"] <- score["trend"] + 2
  score
}

#' "did unemployment in Norland fall between 2010 and 2021"
#' @noRd
cue_rose_between <- function(state, mentions, kinds, score) {
  if (length(time_columns(state)) && length(mentions) == 1 && any_measured(kinds) && score["compare"] < 1.5 &&
      grepl("^ *(did|has|have|is|are)\\b.*\\b(ris(e|en|ing)|fall(en|ing)?|increas(e|ed|ing)|decreas(e|ed|ing)|grow(n|ing)?|drop(ped|ping)?|declin(e|ed|ing)|improv(e|ed|ing))\\b",  # nolint: line_length_linter.
            state$text, ignore.case = TRUE, perl = TRUE) && !length(state$groups[vapply(state$groups, names_several,
                NA)])) score["trend"] <- score["trend"] + 1.5
  score
}

#' "growth in revenue from 2023 to 2024"
#' @noRd
cue_growth <- function(state, mentions, kinds, score) {
  if (length(time_columns(state)) && any_measured(kinds) && (grows_between_years(state) || grows_by_period(state))) score["trend"] <- max(score) + 2.5
  score
}

#' "how did unemployment change in Borland"
#' @noRd
cue_how_changed <- function(state, mentions, kinds, score) {
  if (length(time_columns(state)) && length(mentions) >= 1 && any_measured(kinds) && max(score[c("compare", "relate", "predict", "change")]) < 1.5 &&
      says(state, "^ *how (did|has|have|does|do)\\b.*\\b(change[ds]?|evolved?|develop(ed)?)\\b") &&
      !any(vapply(state$groups, names_several, NA))) score["trend"] <- max(score) + 2
  score
}

#' "which month had the highest sales": periods are ranked
#' @noRd
cue_period_ranked <- function(state, mentions, kinds, score) {
  if (!is.null(period_ranked(state)) && has_dates(state)) score["trend"] <- score["trend"] + 3
  score
}

#' "satisfaction over the waves", of a column of dates
#' @noRd
cue_over_dates <- function(state, mentions, kinds, score) {
  dated <- Filter(function(k) kind_at(state, item_column(state, k, c("date", "datetime"))) %in% c("date", "datetime") &&
    grepl("^(over|across|through|throughout)$", item_norm(state, k - 1 - (item_norm(state, k - 1) %in% c("the",
        "all")))), which(state$type == "column"))
  if (length(dated) && any_measured(kinds) && max(score) < 1.5) score["trend"] <- max(score) + 1.5
  score
}

#' "when does the concentration peak", of a course in time
#' @noRd
cue_when_peak <- function(state, mentions, kinds, score) {
  if (says(state, "^ *when\\b.*\\b(peak|peaks|peaked|highest|lowest|most|least|maximum|minimum|greatest)\\b") && any_measured(kinds) &&
      length(time_columns(state))) score["trend"] <- max(score) + 2
  score
}

#' "7-day moving total of rain": a window that moves is a matter of time, whatever is taken of it
#' @noRd
cue_moving_window <- function(state, mentions, kinds, score) {
  if (any(state$type == "number") && says(state, "\\b(rolling|moving|trailing)\\b") && !is.null(asked_time(state)$window)) {
    score["trend"] <- max(score) + 1
  }
  score
}
