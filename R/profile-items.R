# Sets of columns that belong together.

#' Whole-number columns that share one answer scale from 1 (or 0) to k are survey items: ordered, not counts
#'
#' At least three columns must share the scale exactly, and half of its points must be used by each, so that counts
#' which
#' merely happen to be small are left alone.
#' @noRd
mark_items <- function(columns, data) {
  small <- Filter(function(col) identical(col$kind, "count") && col$distinct <= 11 && is.null(col$role), columns)
  if (length(small) < 3) return(columns)
  top <- vapply(small, function(col) {
    x <- drop_codes(data[[col$name]], col$missing_codes)
    if (!is.numeric(x)) x <- as.numeric(x)
    if (min(x) < 1 || col$distinct < max(x) / 2) NA_real_ else max(x)
  }, 1)
  for (k in c(4, 5, 6, 7)) {
    set <- names(small)[!is.na(top) & top == k]
    if (length(set) < 3) next
    for (name in set) {
      columns[[name]]$kind <- "ordered"
      columns[[name]]$levels <- as.character(seq_len(k))
      columns[[name]]$role <- "item"
      columns[[name]]$reason <- sprintf("an answer from 1 to %d, a scale shared by %d columns", k, length(set))
    }
  }
  columns
}

#' Profile every column of a table
#' @noRd
profile_table <- function(data) {
  columns <- lapply(stats::setNames(names(data), names(data)), function(name) profile_column(name, data[[name]]))
  settle_dates(mark_items(columns, data), data)
}
