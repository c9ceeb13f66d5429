# The reading: its shape, its sentence, and the document it becomes.

new_reading <- function(task, outcome = character(), by = character(), predictors = character(),
                        adjust_for = character(), unit = NULL,
                        filters = list(), statistic = NULL, time = NULL, top = NULL, method_asked = NULL,
                        tables = character(), assumed = character(),
                        confidence = 0, alternatives = list(), ...) {
  structure(list(task = task, outcome = outcome, by = by, predictors = predictors, adjust_for = adjust_for, unit = unit,
                 filters = filters,
                 statistic = statistic, time = time, top = top, method_asked = method_asked, tables = tables,
                 assumed = assumed, plain = "",
                 confidence = confidence, alternatives = alternatives, extra = list(...)),
                 class = "upbeatquill_reading")
}

#' One sentence that says how a question was read
#' @noRd
plain_reading <- function(r, study = NULL) {
  text <- plain_core(r)
  conditions <- vapply(r$filters, plain_filter, "")
  if (length(conditions)) text <- paste0(text, ", for rows where ", paste(conditions, collapse = " and "))
  weighted <- !is.null(r$extra$weight) && !isTRUE(r$extra$weight_unused)
  if (weighted) text <- paste0(text, ", rows weighted by ", r$extra$weight)
  if (!is.null(r$method_asked)) text <- paste0(text, " (you asked for ", gsub("_", " ", r$method_asked), ")")
  paste0(toupper(substr(text, 1, 1)), substring(text, 2), ".")
}

plain_rate <- function(r) {
  paste0("the total of ", some_of(r$outcome, 6), " per ",
         if (is.null(r$extra$rate_per)) "total of " else paste0(format_plain(r$extra$rate_per), " of the total of "), some_of(r$predictors, 8))
}

#' The times at which curves are read, in words
#' @noRd
said_times <- function(r) vapply(r$extra$at_times %||% list(r$extra$at_time), `[[`, "", "said")

plain_core <- function(r) {
  for (part in c("outcome", "predictors", "by", "adjust_for")) r[[part]] <- plain_names(r[[part]])
  named <- function(part, names, max) if (part %in% r$extra$missing && !length(names)) "a column still to be named" else some_of(names, max)
  y <- named("outcome", r$outcome, 6)
  x <- named("predictors", r$predictors, 8)
  by <- some_of(r$by, 4)
  levels <- if (length(r$extra$levels)) sprintf(" (%s)", paste(r$extra$levels, collapse = ", ")) else ""
  statistic <- c(mean = "mean", median = "median", sum = "total", count = "count", percent = "share",
                 sd = "standard deviation", min = "smallest value",
                 max = "largest value", weighted_mean = "weighted mean",
                 mad = "median absolute deviation", iqr = "interquartile range", q1 = "lower quartile", q3 = "upper quartile",
                     se = "standard error")[r$statistic %||% "none"]
  if (grepl("^p[0-9]+$", r$statistic %||% "")) statistic <- sprintf("%s percentile", ordinal(as.integer(sub("p", "", r$statistic))))
  trimmed <- regmatches(r$statistic %||% "", regexec("^(trimmed|winsorised)_mean_([0-9]+)$", r$statistic %||% ""))[[1]]
  if (length(trimmed)) statistic <- sprintf("%s %% %s mean", trimmed[3], trimmed[2])
  statistic <- if (is.na(statistic)) gsub("_", " ", r$statistic %||% "") else statistic
  switch(r$task,
    overview = "say what this data holds",
    quality = if (length(r$outcome)) paste("look for problems in", y) else "look for missing, duplicate and odd values",
    describe = if (isTRUE(r$extra$of_total)) paste("how the total of", y, "divides by",
      by) else if (isTRUE(r$extra[["rate"]])) paste0(plain_rate(r), if (length(r$by)) paste(" by", by))
      else if (isTRUE(r$method_asked %in% structure_methods())) paste(c(principal_components = "the components of",
          factor_analysis = "the factors behind",
                 cluster_kmeans = "groups of similar rows by")[[r$method_asked]], y) else paste0(if (nzchar(statistic)) paste0("the ", statistic,
                   " of ") else "describe ",
                      if (length(r$outcome)) y else "all columns", if (length(r$by)) paste(" by", by)),
    frequency = if (isTRUE(r$extra$distinct)) paste0("the number of different values of ", y, if (length(r$by)) paste(" by", by))
      else if (isTRUE(r$extra$flow)) paste0("how many rows are left at each step", if (length(r$by)) paste(" by", by))
      else if (isTRUE(r$extra$items)) paste0("how ", y, " were answered", if (length(r$by)) paste(" by", by))
      else if (!length(r$outcome)) paste0("count the rows", if (length(r$by)) paste(" by", by))
      else if (length(r$extra$event)) paste0("the share of rows in which ", plain_event(r),
          if (length(r$by)) paste(" by", by)) else paste0("count the rows by ", some_of(c(r$outcome, r$by), 4),
          if (length(r$top$n)) sprintf(" and tell the %s", if (r$top$n == 1) paste(if (identical(r$top$order, "lowest")) "least" else "most",
            "common") else paste(r$top$n, if (identical(r$top$order, "lowest")) "least common" else "most common"))),
    distribution = paste0("the distribution of ", y, if (length(r$by)) paste(" in each group of", by)),
    compare = if (!is.null(r$extra$null_value)) sprintf("compare %s with the value %s", y,
                                                        format_plain(r$extra$null_value))
      else if (!length(r$by)) paste("compare", y)
      else paste0("compare ", if (isTRUE(r$extra[["rate"]])) plain_rate(r)
                  else if (isTRUE(r$extra$shares_tested)) paste0("the share of rows in which ", plain_event(r), ",") else y,
                  " between the groups of ", by, levels,
                  if (length(r$adjust_for)) sprintf(", with %s held constant", some_of(r$adjust_for, 6))),
    change = paste0("compare ", y, if (length(r$by)) paste0(" across ", by, levels),
                    if (length(r$unit)) paste0(" within the same ", r$unit)),
    relate = if (isTRUE(r$extra$screen)) sprintf("which of %d columns go together",
      length(r$outcome)) else if (isTRUE(r$extra$by_group)) paste("how", some_of(c(r$outcome, r$predictors)), "go together in each",
        by) else paste("how", some_of(unique(c(r$outcome, r$by, r$predictors)), 8), "go together",
                   if (length(r$adjust_for)) paste("with", some_of(r$adjust_for), "held constant"),
                   if (isTRUE(r$extra$each_pair)) "over the rows that each pair has") |> trimws(),
    predict = paste0("how ", y, if (!is.null(r$extra$trials)) sprintf(", out of %s,", r$extra$trials),
        if (!is.null(r$extra$offset)) sprintf(" per %s", r$extra$offset), " goes with ", some_of(unique(c(r$predictors,
        r$by)), 8),
        if (length(r$adjust_for)) paste0(", with ", some_of(r$adjust_for),
        " held constant"), plain_stated(r), if (isTRUE(r$extra$interaction)) ", and whether that depends on each other",
          if (!is.null(r$extra$cluster)) sprintf(if (identical(r$method_asked, "clustered_regression")) ", rows of the same %s belonging together"
                                                 else if (isTRUE(r$extra$matched)) ", rows compared within the same %s only" else ", with an intercept for each %s", r$extra$cluster), plain_side(r)),  # nolint: line_length_linter.
    drivers = paste("which columns go with", y, "most"),
    rank = if (length(r$extra$event)) sprintf("rank %s by the %s of rows in which %s%s", by,
      if (identical(r$statistic, "count")) "number" else "share", plain_event(r), if (is.null(r$top)) "" else
      sprintf(" and show the %s %s", r$top$n %||% "", r$top$order)) else paste0("rank ", if (length(r$by)) paste0(by, " by ") else "rows by ",
                  if (!length(r$outcome) && identical(r$statistic, "count")) "number of rows"
                  else paste0(if (nzchar(statistic)) paste0(statistic, " "), y),
                  if (!is.null(r$top)) if (is.null(r$top$n)) sprintf(", %s first",
                    r$top$order) else if (!is.null(r$top$percent)) sprintf(" and show the %s %% that are %s", format_plain(r$top$percent),
                      r$top$order) else sprintf(" and show the %d %s", r$top$n, r$top$order),
                  if (length(r$extra$also)) sprintf(", with %s beside them", some_of(r$extra$also, 4))),
    trend = plain_trend(r, y, by, statistic),
    survival = paste0("how long until ", if (is.null(r$extra$event)) "the event" else plain_event(r),
        if (length(r$outcome)) sprintf(" (time in %s%s)", r$outcome[1], if (is.null(r$extra$counted_in)) "" else paste(", counted in",
            r$extra$counted_in)),
        if (!is.null(r$extra$at_time)) sprintf(if (isTRUE(r$extra$with_event)) ", the share with it by %s" else ", the share without it at %s", some_of(said_times(r), 8)), if (length(r$by)) paste(", by", by),  # nolint: line_length_linter.
                      if (length(r$predictors)) paste(", explained by", x), if (length(r$adjust_for)) paste(", with",
                          some_of(r$adjust_for), "held constant"),
        if (!is.null(r$extra$strata_by)) paste(", within strata of", r$extra$strata_by),
        if (!is.null(r$extra$cluster)) sprintf(", rows of the same %s belonging together", r$extra$cluster), plain_side(r)),
    themes = paste0(if (!is.null(r$extra[["about"]])) sprintf("the open answers in %s that mention \"%s\"", y, r$extra$about)
                    else paste("the themes of the open answers in", y), if (length(r$by)) paste(", by", by)), agreement = if (isTRUE(r$extra$long)) paste0("how far the values of ",  # nolint: line_length_linter.
      some_of(r$outcome, 2), " agree", if (length(r$by) > 1) sprintf(" between each %s of the same %s", r$by[2],
          r$by[1]) else sprintf(" within the same %s",
      r$by[1])) else paste("how far", some_of(unique(c(r$outcome, r$by, r$predictors)), 8), "agree"),
    equivalence = paste0("whether ", y, " is practically the same",
        if (length(r$by)) paste0(" in the groups of ", by, levels), if (!is.null(r$extra$margin)) sprintf(", within %s",
        format_plain(r$extra$margin))),
    forecast = paste0("forecast ", if (length(r$outcome)) y else "the number of rows",
        if (!is.null(r$extra$horizon$until)) paste0(", up to ", r$extra$horizon$said)
        else if (!is.null(r$extra$horizon)) sprintf(", %s %s%s ahead", format_plain(r$extra$horizon$n), r$extra$horizon$unit,
        if (r$extra$horizon$n == 1) "" else "s")),
    pool = paste0(if (!is.null(r$extra$studies)) sprintf("combine the %ss of the studies, computed from %s", gsub("_", " ", r$extra$studies$measure),
      y) else sprintf("combine the studies by %s", paste(r$outcome,
        collapse = " and its error ")), plain_side(r)), look_up = paste0("show the rows", if (length(r$outcome)) sprintf(" with %s", y)),
    sample_size = plain_plan(r$extra$plan),
    figure = if (isTRUE(r$extra$placed)) paste0("a map of the rows by ", some_of(rev(r$predictors)),
                                                if (length(c(r$outcome, r$by))) paste(", coloured by", c(r$outcome, r$by)[1])) else paste0("draw ",
                                                    if (is.null(r$extra$picture)) "" else paste0("a ", if (r$extra$picture %in%
      figure_kinds()) kind_word(r$extra$picture) else r$extra$picture, " of "),
                    some_of(unique(c(r$outcome, r$predictors, r$by)), 5)),
    paste(gsub("_", " ", r$task), if (length(r$outcome)) y else "", if (length(r$by)) paste("by", by) else "") |>
    trimws())
}

plain_trend <- function(r, y, by, statistic) {
  windows <- r$extra$windows
  if (isTRUE(r$extra$against_usual)) {
    return(sprintf("%s of the last %s days against %s%s", y, windows$short, held_against(windows),
        if (length(r$by)) sprintf(", each %s against itself", by) else ""))
  }
  if (!is.null(r$time$window) && r$task == "trend") return(sprintf("the %s-%s moving %s of %s%s", format_plain(r$time$window),
    r$time$window_unit %||% "day", if (nzchar(statistic)) statistic else "mean", y, if (length(r$by)) paste(" for each", by) else ""))
  paste0(if (isTRUE(r$extra$running)) "running ", if (nzchar(statistic)) paste0(statistic, " of "),
      if (length(r$outcome)) y else "the number of rows", " over time",
         if (!is.null(r$extra$season)) sprintf(", with the %s allowed for", cycle_words(r$extra$season)),
         if (isTRUE(r$extra$second_axis)) " on two axes",
         if (!is.null(r$time$every)) paste(" by", r$time$every), if (length(r$by)) paste(" for each", by))
}

held_against <- function(windows) sprintf(if (isTRUE(windows$within)) "the last %s" else "the %s before", windows$long)

cycle_words <- function(cycle) c(year = "season of the year", week = "day of the week")[[cycle]]

plain_plan <- function(plan) {
  effect <- switch(plan$what %||% "mean", share = sprintf("%s against %s", format_plain(plan$p1), format_plain(plan$p2)),
                   correlation = sprintf("a correlation of %s", format_plain(plan$effect)),
                   if (is.null(plan$effect)) "an effect" else if (!is.null(plan$of)) sprintf("a difference of %s in %s",
                     format_plain(plan$raw %||% plan$effect), plan$of) else sprintf("a standardised effect of %s",
                       format_plain(signif(plan$effect, 3))))
  if (is.null(plan$n)) sprintf("how large a sample has to be to see %s",
      effect) else sprintf("what a sample of %s can see of %s", format_plain(plan$n), effect)
}

#' ", at age 40 and smoker yes": the values at which a model is read
#' @noRd
plain_stated <- function(r) {
  at <- c(vapply(as.list(r$extra$at), format_plain, ""), unlist(r$extra$at_levels))
  at <- at[!duplicated(names(at))]
  several <- r$extra$at_several
  if (!is.null(several) && several$column %in% names(at)) at[[several$column]] <- some_of(format_plain(several$values), 8)
  if (length(at)) paste(", at", some_of(paste(plain_names(names(at)), at), 6)) else ""
}

plain_event <- function(r) plain_filter(r$extra$event)

#' @noRd
reading_document <- function(r) {
  # a picture divided by colour or panel is read as divided by that column
  by <- unique(c(r$by, if (r$task == "figure") c(r$extra$look$colour, r$extra$look$panel)))
  list(task = r$task, outcome = as.list(r$outcome), by = as.list(by), predictors = as.list(r$predictors),
       adjust_for = as.list(r$adjust_for),
       unit = r$unit, filters = lapply(r$filters, function(f) list(column = f$column, op = f$op,
           value = filter_value(f$value))),
       statistic = r$statistic, time = r$time, top = r$top, method_asked = r$method_asked, tables = as.list(r$tables),
       assumed = as.list(r$assumed),
       plain = r$plain, confidence = r$confidence, alternatives = lapply(r$alternatives, reading_document),
       choose = r$extra$choose)
}

filter_value <- function(value) {
  value <- unname(unlist(value))
  if (is.null(value) || length(value) == 1) value else as.list(value)
}

#' The side of a model that is looked at, as the end of a plain reading
#' @noRd
plain_side <- function(r) {
  sides <- c(influence = "the rows with most influence on the fit", collinearity = "how far the predictors overlap", residuals = "the residuals",
             explained = "how much of the spread is accounted for", marginal_effect = "what it comes to in chances",
             discrimination = "how well the two are told apart", calibration = "whether chances and shares agree",
             study_groups = paste("the effect by", r$extra$study_column), study_line = paste("how the effect changes with", r$extra$study_column),
             small_studies = "whether small studies differ", single_studies = "the result without each study",
             study_weights = "the weight of each study",
             heterogeneity = "how far the studies differ", new_study = "what a new study would find",
             dispersion = "whether the counts spread more than the model allows", hazards = "whether the hazards are proportional",
             restricted_mean = paste0("the mean time", if (!is.null(r$extra$until)) sprintf(" up to %s%s", format_plain(r$extra$until$value), if (nzchar(r$extra$until$unit)) sprintf(" %ss", r$extra$until$unit) else "")))  # nolint: line_length_linter.
  c(if (isTRUE(r$extra$standardised)) ", all in standard deviations",
    if (isTRUE(r$extra$joint) && length(r$predictors) > 1) ", as a block",
    if (!is.null(r$extra$view)) paste(": looking at", sides[[r$extra$view]])) |> paste(collapse = "")
}
