# Ranges of numbers written as text.

#' Lower and upper end of one range; an open end is missing
#' @noRd
range_ends <- function(text) {
  if (is.na(text)) return(c(NA, NA))
  found <- regmatches(text, gregexpr("[0-9][0-9,]*([.][0-9]+)?\\s*[KkMm]?(?![A-Za-z])", text, perl = TRUE))[[1]]
  if (!length(found)) return(c(NA, NA))
  # ("0-5 m" are metres, "$1m-$2m" and "1M-2M" millions)
  millions <- if (grepl("[$\u20ac\u00a3\u00a5]", text)) "[Mm]$" else "M$"
  size <- ifelse(grepl("[Kk]$", found), 1e3, ifelse(grepl(millions, found), 1e6, 1))
  number <- as.numeric(gsub("[^0-9.]", "", found)) * size
  if (length(number) > 1) return(range(number[1:2]))
  if (grepl("^\\s*(<|\u2264|under|below|less|fewer|up to|at most)|\\b(or|and) (less|fewer|under|below|younger)\\s*$", tolower(text))) return(c(NA, number))  # nolint: line_length_linter.
  if (grepl("(>|\u2265|over|above|more|older|at least|\\+)", tolower(text))) return(c(number, NA))
  c(number, number)
}

#' A text column of ranges: most values are two numbers with a dash or "to" between
#' @noRd
holds_ranges <- function(values) {
  if (length(values) < 3) return(FALSE)
  some <- utils::head(values, 200)
  two <- grepl(range_pattern(), some)
  mean(two) >= 0.6 && all(!is.na(vapply(some, function(v) max(range_ends(v), na.rm = FALSE), 1)) | grepl("[0-9]", some))
}

range_pattern <- function() {
  number <- "[$\u20ac\u00a3\u00a5]?\\s*[0-9][0-9,]*([.][0-9]+)?\\s*[KkMm]?"
  sprintf("^%s\\s*(-|\u2013|\u2014|to)\\s*%s\\s*([A-Za-z%%\u20ac]{0,6})$", number, number)
}
