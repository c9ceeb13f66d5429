# One level of a column set against all its others, for outcomes that are levels themselves.

#' "is attrition higher among agency staff": the share among them against that among all others
#' @section Shape: The verdict, with `study` where the two sides were derived.
#' @noRd
set_against_rest <- function(study, verdict) {
  r <- verdict$reading
  name <- r$extra$single_of
  if (!identical(verdict$status, "answered") || !identical(r$task, "compare") || length(name) != 1 || !identical(r$by, name) ||
      length(r$outcome) != 1) return(verdict)
  if (!find_column(study, r$outcome)$kind %in% c("category", "yes_no") || !find_column(study, name)$kind %in% c("category",
      "ordered")) return(verdict)
  level <- r$extra$single_level
  # "does the drug reduce infection", of an arm that is called placebo: that arm is what it is set against
  levels <- find_column(study, name)$levels
  control <- levels[grepl("^(control|placebo|untreated|no treatment|usual care|standard care|sham|waitlist|ctrl)$", levels, ignore.case = TRUE)]
  if (length(control) == 1 && level != control) {
    r$filters <- c(r$filters, list(new_filter(name, "in", c(level, control))))
    r$extra$levels <- c(level, control)
    r$extra$single_level <- r$extra$single_of <- NULL
    r$assumed <- c(grep("has more than two levels", r$assumed, value = TRUE, fixed = TRUE, invert = TRUE), sprintf("Set %s against %s.", level, control))  # nolint: line_length_linter.
    verdict$reading <- finish_reading(r)
    return(verdict)
  }
  sides <- level_against_rest(list(study = study), name, level)
  if (is.null(sides) || identical(sides$out$study, study)) return(verdict)
  r$by <- sides$name
  r$extra$single_level <- r$extra$single_of <- NULL
  r$assumed <- grep("has more than two levels", r$assumed, value = TRUE, fixed = TRUE, invert = TRUE)
  verdict$reading <- finish_reading(r)
  with_derived_study(verdict, sides$out$study, study)
}
