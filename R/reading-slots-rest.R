# One level of a column set against all its others, for outcomes that are levels themselves.

#' "is attrition higher among agency staff": the share among them against that among all others
#' @section Shape: The verdict, with `study` where the two sides were derived.
#' @noRd
set_against_rest <- function(study, verdict) {
  r <- verdict$reading
  name <- r$extra$single_of
  if (!identical(verdict$status, "answered") || !identical(r$task, "compare") || length(name) != 1 || !identical(r$by, name) ||
      length(r$outcome) != 1) return(verdict)
  columns <- all_columns(study)
  outcome <- Filter(function(col) col$name == r$outcome, columns)
  divides <- Filter(function(col) col$name == name, columns)
  if (length(outcome) != 1 || length(divides) != 1 || !outcome[[1]]$kind %in% c("category", "yes_no") ||
      !divides[[1]]$kind %in% c("category", "ordered")) return(verdict)
  level <- r$extra$single_level
  sides <- paste(name, gsub("[^[:alnum:]]+", "_", level), sep = "_")
  if (has_column(study, sides)) return(verdict)
  change <- stats::setNames(list(list(derive = "against_rest", from = name, level = level)), sides)
  derived <- tryCatch(amend_named(study, sides, change[[1]]), upbeatquill_error = function(e) NULL)
  if (is.null(derived)) return(verdict)
  r$by <- sides
  r$extra$single_level <- r$extra$single_of <- NULL
  r$assumed <- c(grep("has more than two levels", r$assumed, value = TRUE, fixed = TRUE, invert = TRUE),
                 sprintf("%s: %s.", sides, derivations()$against_rest$words(list(from = name, level = level))))
  verdict$reading <- finish_reading(r)
  verdict$study <- derived
  verdict
}
