# Shared by the methods for units measured under several conditions, in wide or long layout.

#' Fit of a method for conditions within units
#' @noRd
fits_conditions <- function(shape, score, why, conditions, kinds = c("number", "count")) {
  ok <- shape$task %in% c("compare", "change", "figure", "advise", "relate") && isTRUE(shape$paired) &&
    is.null(shape$null_value) &&
    shape$outcome_kind %in% c("number", "count", "ordered") && isTRUE(shape$conditions %in% conditions) &&
    shape$between == 0
  if (!ok) return(NULL)
  new_fit(if (shape$outcome_kind %in% kinds) score else score - 60, why)
}

#' One row a unit, one column a condition
#'
#' Wide data: the outcome columns themselves. Long data: the outcome spread over the levels of the first `by`
#' column; several rows
#' of one unit under one condition are averaged, units without a value under every condition are left out.
#'
#' @section Shape: list(values (matrix), levels, units, left_out, averaged, group (codes of the between column or
#'   NULL), group_levels).
#' @noRd
unit_conditions <- function(ctx) {
  r <- ctx$reading
  if (length(r$outcome) > 1) {
    values <- vapply(r$outcome, function(name) as_plain_number(ctx$frame$data[[name]]), numeric(ctx$frame$used))
    values <- matrix(values, ncol = length(r$outcome))
    group <- if (length(r$by)) as_group(ctx$frame$data[[r$by[1]]])
    return(list(values = values, levels = r$outcome, units = seq_len(nrow(values)), left_out = 0, averaged = 0,
                group = if (!is.null(group)) as.integer(group), group_levels = levels(group)))
  }
  spread_conditions(outcome_values(ctx), as_group(ctx$frame$data[[r$by[1]]]), as_group(ctx$frame$data[[r$unit]]),
                    if (length(r$by) > 1) as_group(ctx$frame$data[[r$by[2]]]))
}

spread_conditions <- function(y, condition, unit, between = NULL) {
  cell <- as.integer(unit) + nlevels(unit) * (as.integer(condition) - 1)
  m <- stat_group_moments(y, as.integer(cell), nlevels(unit) * nlevels(condition))
  values <- matrix(m[, "mean"], nlevels(unit))
  complete <- stats::complete.cases(values)
  if (sum(complete) < 2) {
    stop_data("Fewer than two units have a value under every condition.", class = "too_few_rows")
  }
  group <- if (!is.null(between)) between[match(levels(unit), unit)][complete]
  if (!is.null(group)) group <- droplevels(group)
  list(values = values[complete, , drop = FALSE], levels = levels(condition), units = levels(unit)[complete],
       left_out = sum(!complete), averaged = sum(m[, "n"] > 1), group = if (!is.null(group)) as.integer(group),
       group_levels = levels(group))
}

#' The two columns of a paired comparison
#' @noRd
paired_values <- function(ctx) {
  s <- unit_conditions(ctx)
  if (ncol(s$values) != 2) {
    stop_data(sprintf("A paired comparison takes two conditions; there are %d.", ncol(s$values)), class = "group_count")
  }
  s$difference <- s$values[, 1] - s$values[, 2]
  s
}

conditions_table <- function(s, ctx) {
  long <- stat_group_summary(as.vector(s$values), rep(seq_along(s$levels), each = nrow(s$values)), length(s$levels))
  label <- if (length(ctx$reading$outcome) > 1) "condition" else ctx$reading$by[1]
  first <- stats::setNames(data.frame(s$levels, stringsAsFactors = FALSE), label)
  new_table("groups", sprintf("%s by condition, complete units", paste(ctx$reading$outcome, collapse = ", ")),
            cbind(first, long[c("n", "missing", "mean", "sd", "se", "median", "q1", "q3", "min", "max")]))
}

say_units <- function(s, ctx) {
  unit <- ctx$reading$unit %||% "row"
  c(sprintf("%s measured under every condition.", capital(paste(count_of(nrow(s$values), "unit"),
                                                                plural(nrow(s$values), "was", "were")))),
    if (s$left_out > 0) sprintf("%s of %s left out: a value is missing under some condition.",
                                capital(count_of(s$left_out, "unit")), unit),
    if (s$averaged > 0) sprintf("Several rows of one %s under one condition were averaged.", unit))
}

#' Checks of paired differences: shape and far values
#' @noRd
difference_checks <- function(s) {
  list(check_mean_normal(list(s$difference), "the differences"),
       check_far_values(list(s$difference), "the differences"))
}

conditions_figure <- function(ctx, res) figure_conditions(ctx, res$cells)

outcome_words <- function(ctx) {
  if (length(ctx$reading$outcome) == 1) return(say_column(outcome_column(ctx)))
  some_of(vapply(ctx$reading$outcome, function(n) say_column(ctx$columns[[n]]), ""), 4)
}

#' Script lines that set up `cells`, one row a unit and one column a condition
#' @noRd
script_conditions <- function(ctx) {
  r <- ctx$reading
  if (length(r$outcome) > 1) {
    return(c(sprintf("cells <- cbind(%s)", paste(vapply(r$outcome, script_value, ""), collapse = ",\n  ")),
             "tables <- list()", if (length(r$by)) sprintf("group <- droplevels(factor(%s))", script_column(r$by[1])),
             script_condition_summaries()))
  }
  c(sprintf("y <- %s", script_value(r$outcome)), sprintf("condition <- droplevels(factor(%s))", script_column(r$by[1])),
    sprintf("unit <- factor(%s)", script_column(r$unit)), "tables <- list()",
    "cells <- tapply(y, list(unit, condition), mean)  # one row a unit, one column a condition",
    if (length(r$by) > 1) c(sprintf("between <- droplevels(factor(%s))", script_column(r$by[2])),
                            "group <- between[match(rownames(cells), unit)]"),
    "complete <- complete.cases(cells); cells <- cells[complete, , drop = FALSE]",
    if (length(r$by) > 1) "group <- droplevels(group[complete])", script_condition_summaries())
}

script_condition_summaries <- function() {
  c("tables$groups <- do.call(rbind, lapply(seq_len(ncol(cells)), function(j) {", "  v <- cells[, j]",
    "  data.frame(n = length(v), missing = 0, mean = mean(v), sd = sd(v), se = sd(v) / sqrt(length(v)), median = median(v),",
    "    q1 = quantile(v, 0.25), q3 = quantile(v, 0.75), min = min(v), max = max(v))", "}))")
}
