# Filling the slots of a task from mentions and groups.

#' Fill the reading of one task
#'
#' @section Shape: a reading, with `extra$missing` naming required slots that stayed empty.
#' @noRd
fill_task <- function(state, mentions, task) {
  method <- single_method(state)
  r <- new_reading(task, statistic = main_statistic(state), method_asked = method, assumed = state$assumed)
  r$extra$statistics <- asked_statistics(state)
  r$extra$conf_level <- asked_conf_level(state)
  r$extra$causal <- any(vapply(state$items, has_lex, NA, "scope", "causal"))
  if (identical(method, "chi_square_goodness")) {
    r <- fill_measures(state, mentions, r)
    r$task <- "compare"
    r$extra$even <- TRUE
    r$extra$missing <- if (!length(c(r$outcome, r$by))) "outcome"
    if (!length(r$outcome)) { r$outcome <- r$by; r$by <- character() }
    return(r)
  }
  filler <- switch(task, compare = fill_compare, change = fill_compare, equivalence = fill_compare,
                   relate = fill_relate, predict = fill_predict,
                   describe = fill_describe, frequency = fill_frequency, distribution = fill_measures, rank = fill_rank,
                   figure = fill_figure,
                   trend = fill_trend, drivers = fill_drivers, sample_size = fill_sample_size, quality = fill_measures, advise = fill_advise,
                   themes = fill_themes, fill_open)
  filler(state, mentions, r)
}

single_method <- function(state) {
  method <- setdiff(asked_methods(state), c("kaplan_meier")[FALSE])
  if (!length(method)) return(NULL)
  if (length(method) > 1) {
    sizes <- vapply(method, function(m) max(vapply(state$items,
                                                   function(i) if (m %in% lex_ids(i, "method")) i$to - i$from else -1,
                                                   1)), 1)
    method <- method[which.max(sizes)]
  }
  method
}

main_statistic <- function(state) {
  statistic <- asked_statistics(state)
  # the first one named; a share or a count only where nothing else is asked for
  late <- c("percent", "count")
  c(intersect("weighted_mean", statistic), setdiff(statistic, late), statistic)[1] |> (\(s) if (is.na(s)) NULL else s)()
}

asked_conf_level <- function(state) {
  for (k in which(state$type == "number")) {
    v <- state$items[[k]]$value
    around <- paste(vapply(k + 1:4, function(j) item_norm(state, j), ""), collapse = " ")
    if (grepl("^(%|percent) ?(confidence|ci|interval)", around) && v > 50 && v < 100) return(v / 100)
  }
  NULL
}

column_names_of <- function(state, mentions) vapply(mentions, function(m) column_of(state, m$column), "")

#' Groups that are not the ones compared become filters
#' @noRd
with_filters <- function(state, r, compared = list()) {
  rest <- Filter(function(g) !any(vapply(compared, identical, NA, g)), state$groups)
  r$filters <- c(state$filters, lapply(rest, function(g) group_filter(state, g)))
  r
}
