#' @noRd
method_point_biserial <- function() {
  base <- method_pearson()
  base$id <- "point_biserial"
  base$name <- "Point-biserial correlation"
  base$second <- c("t_student", "mann_whitney")
  base$fits <- function(shape) {
    measured <- shape$pair_kinds %in% c("number", "count", "ordered")
    ok <- shape$task %in% c("relate", "compare") && length(shape$pair_kinds) == 2 && sum(measured) >= 1 &&
      (any(shape$pair_kinds == "yes_no") || identical(shape$method_asked, "point_biserial")) && !length(shape$adjust)
    if (ok) new_fit(30, "You asked for the correlation of a measured column with a two-valued one.")
  }
  base
}
