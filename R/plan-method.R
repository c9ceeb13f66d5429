# From a reading to a method, with the reason.

#' Choose the method for a reading
#'
#' @section Shape: list(method, why, chosen = id that would have been chosen had none been asked for).
#' @section Errors: `upbeatquill_error_no_method` (family data) when nothing fits.
#' @noRd
plan_method <- function(reading, shape) {
  methods <- registered_methods()
  fits <- compact(lapply(methods, function(m) m$fits(shape)))
  scores <- vapply(fits, `[[`, 1, "score")
  own <- if (length(scores)) names(scores)[order(-scores, names(scores), method = "radix")][1] else NA_character_
  asked <- resolve_asked(reading$method_asked, shape, methods)
  if (!is.null(asked)) {
    if (is.null(methods[[asked]])) stop_not_yet(asked, own)
    if (is.null(methods[[asked]]$fits(shape))) stop_unfit(methods[[asked]], if (!is.na(own)) methods[[own]], shape)
    why <- sprintf("You asked for it.%s", if (!is.na(own) &&
                                              own != asked) sprintf(" Without that, %s would have been used: %s",
                                                  methods[[own]]$name, fits[[own]]$why) else "")
    return(list(method = methods[[asked]], why = why, chosen = if (is.na(own)) asked else own, shape = shape))
  }
  if (is.na(own)) stop_no_method(reading, shape)
  list(method = methods[[own]], why = fits[[own]]$why, chosen = own, shape = shape)
}

#' "t test", "rank test" and the like name a family: the member that the data call for
#' @noRd
resolve_asked <- function(asked, shape, methods) {
  if (is.null(asked)) return(NULL)
  members <- Filter(function(m) asked %in% m$families, methods)
  # (a method may also stand for another where columns are held constant: partial ranks for Spearman's)
  if (length(members) && !is.null(methods[[asked]])) members <- c(methods[asked], members)
  if (!length(members)) return(asked)
  scores <- vapply(members, function(m) m$fits(shape)$score %||% -Inf, 1)
  if (all(scores == -Inf) && !is.null(methods[[asked]])) return(asked)
  if (all(scores == -Inf)) {
    best <- names(methods)[which.max(vapply(methods, function(m) m$fits(shape)$score %||% -Inf, 1))]
    stop_data(sprintf("No %s fits this reading.", gsub("_", " ", asked)), todo = sprintf("What would fit: %s.", methods[[best]]$name),
              class = "unfit_method")
  }
  names(members)[which.max(scores)]
}

stop_not_yet <- function(asked, own) {
  stop_data(sprintf("You asked for %s, which cannot be carried out yet.", gsub("_", " ", asked)),
            todo = if (!is.na(own)) sprintf("The nearest that can be done: %s.", gsub("_", " ", own)),
            class = "no_method", nearest = own)
}

stop_unfit <- function(asked, own, shape) {
  groups <- if (isTRUE(shape$groups > 0)) sprintf(" (%s to compare)", count_of(shape$groups, "group"))
  stop_data(sprintf("%s does not fit these columns%s.", asked$name, groups %||% ""),
            todo = if (!is.null(own)) sprintf("What would fit: %s.", own$name) else "Name the columns it should take.",
            class = "unfit_method")
}

stop_no_method <- function(reading, shape) {
  task <- c(compare = "comparison", relate = "relation", predict = "model", trend = "analysis over time",
            forecast = "forecast", rank = "ranking", drivers = "ranking of influences",
            change = "comparison within units",
            agreement = "analysis of agreement", survival = "survival analysis", pool = "pooling of studies",
            equivalence = "equivalence test", themes = "analysis of text", sample_size = "calculation of a sample size",
            quality = "check of data quality", distribution = "look at a distribution", look_up = "look-up of rows",
            advise = "advice on a method", explain = "explanation", figure = "figure", describe = "summary",
            frequency = "count")[reading$task]
  reason <- if (identical(shape$task, "compare") && identical(shape$groups,
                                                              1L)) sprintf(paste0("%s has only one group in these rows, so ",
                                                                                  "there is nothing to compare."),
                                                                                  quoted(reading$by[1]))
    else if (identical(shape$task, "compare") && is.na(shape$groups) &&
             length(reading$by)) "The groups to compare cannot be formed from these columns."
    else sprintf("I read this as %s %s, but no method of this version fits it.",
        if (grepl("^[aeiou]", task)) "an" else "a", if (is.na(task)) "question" else task)
  stop_data(reason, class = "no_method")
}
