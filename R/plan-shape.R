# What a reading asks of a method: counts and kinds, without the rows.

#' @noRd
plan_shape <- function(reading, columns, frame, design) {
  kind_of <- function(names) vapply(names, function(n) columns[[n]]$kind, "", USE.NAMES = FALSE)
  pair <- unique(c(reading$outcome, reading$by, reading$predictors))
  groups <- if (length(reading$by) == 1 &&
                !is.null(frame$data[[reading$by]])) nlevels(as_group(frame$data[[reading$by]])) else NA_integer_
  shape <- list(task = reading$task, outcome_kind = if (length(reading$outcome)) kind_of(reading$outcome)[1] else "",
                about = !is.null(reading$extra[["about"]]), n_outcome = length(reading$outcome), n_by = length(reading$by),
                by_kinds = kind_of(reading$by), groups = groups, predictor_kinds = kind_of(reading$predictors),
                adjust = reading$adjust_for, null_value = reading$extra$null_value, median_asked = isTRUE(reading$extra$median_asked),
                    event = reading$extra$event,
                even = isTRUE(reading$extra$evenly), from_task = reading$extra$from_task, ranking = isTRUE(reading$extra$ranking), plan = reading$extra$plan,  # nolint: line_length_linter.
                two_valued = length(reading$outcome) == 1 && isTRUE(columns[[reading$outcome]]$distinct == 2L),
                timed = length(reading$time$column) == 1, every = reading$time$every, window = reading$time$window,
                trend_test = isTRUE(reading$extra$trend_test), trend_words = isTRUE(reading$extra$trend_words),
                    stratified = isTRUE(reading$extra$stratified), mix = isTRUE(reading$extra$mix), contrasted = !is.null(reading$extra$contrast),
                      type_three = isTRUE(reading$extra$type_three), spread = isTRUE(reading$extra$spread), rules = isTRUE(reading$extra$rules),
                        random_slope = isTRUE(reading$extra$random_slope), several_answers = length(reading$outcome) == 1 &&
                            identical(columns[[reading$outcome]]$role, "multi_answer"), models = isTRUE(reading$extra$models),
                            statistic = reading$statistic %||% "mean", statistic_said = reading$statistic %||% "",
                                distinct = isTRUE(reading$extra$distinct),
                            shares = isTRUE(reading$extra$shares), shares_tested = isTRUE(reading$extra$shares_tested),
                        screen = isTRUE(reading$extra$screen), studies = !is.null(reading$extra$studies),
                          of_total = isTRUE(reading$extra$of_total), baseline = isTRUE(reading$extra$baseline),
                            by_group = isTRUE(reading$extra$by_group), rate = isTRUE(reading$extra[["rate"]]),
                            sampled = !is.null(reading$extra$weight) && identical(reading$extra$weight, design$weights),
                            offset = !is.null(reading$extra$offset),
                items = isTRUE(reading$extra$items), long = isTRUE(reading$extra$long), alike = share_levels(columns[reading$outcome]),
                    placed = isTRUE(reading$extra$placed),
                flow = isTRUE(reading$extra$flow), season = reading$extra$season,
                against_usual = isTRUE(reading$extra$against_usual),
                normality = isTRUE(reading$extra$normality), raters = isTRUE(reading$extra$by_raters),
                    event_set = !is.null(reading$extra$event), at_time = !is.null(reading$extra$at_time),
                        clustered = !is.null(reading$extra$cluster), matched = isTRUE(reading$extra$matched),
                        trials = !is.null(reading$extra$trials), weighted = !is.null(reading$extra$weight),
                adjust_numeric = length(reading$adjust_for) > 0 && all(vapply(columns[reading$adjust_for],
                    function(col) col$kind %in% c("number", "count"), NA)), words_asked = isTRUE(reading$extra$words_asked),
                predictors = length(reading$predictors) + length(reading$adjust_for), noninferior = isTRUE(reading$extra$noninferior),
                adjust_levels = length(reading$adjust_for) > 0 && all(vapply(columns[reading$adjust_for], groupable, NA)),
                method_asked = reading$method_asked,
                pair_kinds = kind_of(pair), unit = reading$unit)
  shape <- c(shape, repeated_shape(reading, frame))
  shape$pair_groups <- vapply(pair, function(n) groupable(columns[[n]]), NA, USE.NAMES = FALSE)
  # units of which each has several rows can be counted, though they are no groups to be tested
  shape$pair_units <- vapply(pair, function(n) columns[[n]]$kind == "id" && columns[[n]]$distinct <= min(60, nrow(frame$data) / 2), NA,
      USE.NAMES = FALSE)
  shape$pair_levels <- max(0, vapply(pair, function(n) as.numeric(columns[[n]]$distinct %||% 0), 1))
  if (length(pair) == 2 && all(shape$pair_groups)) shape <- c(shape, table_shape(frame, pair))
  shape
}

#' Do several columns of levels have the same ones? Yes/no columns always do.
#' @noRd
share_levels <- function(columns) {
  if (length(columns) < 2) return(FALSE)
  kinds <- vapply(columns, `[[`, "", "kind")
  if (all(kinds == "yes_no")) return(TRUE)
  all(kinds == "ordered") && length(unique(vapply(columns, function(col) paste(col$levels, collapse = "|"), ""))) == 1
}

#' Are units measured under several conditions, and under how many? How many columns group the units?
#' @noRd
repeated_shape <- function(reading, frame) {
  if (length(reading$unit) && length(reading$outcome) == 1 && length(reading$by)) {
    conditions <- nlevels(as_group(frame$data[[reading$by[1]]]))
    return(list(paired = TRUE, conditions = conditions, between = length(reading$by) - 1L))
  }
  dated <- any(vapply(reading$outcome, function(n) inherits(frame$data[[n]], c("Date", "POSIXct")) || is.character(frame$data[[n]]), NA))
  wide <- reading$task %in% c("compare", "change", "equivalence") && length(reading$outcome) > 1 && length(reading$by) <= 1 && !dated
  list(paired = wide, conditions = length(reading$outcome), between = length(reading$by))
}

#' Is the table two by two, and are expected counts small?
#' @noRd
table_shape <- function(frame, pair) {
  a <- as_group(frame$data[[pair[1]]]); b <- as_group(frame$data[[pair[2]]])
  counts <- stat_cross_counts(a, b, nlevels(a), nlevels(b))
  if (min(dim(counts)) < 2) return(list(two_by_two = FALSE, table_dim = dim(counts)))
  expected <- outer(rowSums(counts), colSums(counts)) / sum(counts)
  list(two_by_two = identical(dim(counts), c(2L, 2L)), table_dim = dim(counts), small_expected = min(expected) < 1 || mean(expected < 5) > 0.2)
}
