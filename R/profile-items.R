# Sets of columns that belong together.

#' Whole-number columns that share one answer scale from 1 (or 0) to k are survey items: ordered, not counts
#'
#' At least three columns must share the scale exactly, and half of its points must be used by each, so that counts
#' which
#' merely happen to be small are left alone.
#' @noRd
mark_items <- function(columns, data) {
  columns <- shared_codes(columns, data)
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

#' A code outside the answer scale that several columns of one scale share (99 beside 1 to 5) is safe to read as missing
#' @noRd
shared_codes <- function(columns, data) {
  held <- Filter(function(col) col$kind %in% c("count", "number") && length(col$proposed$codes) && col$numeric && is.null(col$style), columns)
  if (length(held) < 3) return(columns)
  rest <- vapply(held, function(col) { x <- drop_codes(data[[col$name]], col$proposed$codes); if (all(x %in% 0:7)) max(x) else NA_real_ }, 1)
  codes <- vapply(held, function(col) paste(col$proposed$codes, collapse = "|"), "")
  group <- paste(codes, rest)
  for (name in names(held)[!is.na(rest) & group %in% names(which(table(group[!is.na(rest)]) >= 3))]) {
    col <- held[[name]]
    columns[[name]] <- profile_column(name, data[[name]], codes = col$proposed$codes)
  }
  columns
}

#' Profile every column of a table
#' @noRd
profile_table <- function(data) {
  columns <- lapply(stats::setNames(names(data), names(data)), function(name) profile_column(name, data[[name]]))
  settle_dates(mark_items(columns, data), data)
}
