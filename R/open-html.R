# Tables of a web page, which some programs save under the name of a workbook.

#' Tables of an HTML file: those with a line of names and at least one row
#' @noRd
open_html <- function(path) {
  need_package("xml2", to = sprintf("open %s", quoted(basename(path))))
  page <- tryCatch(xml2::read_html(path), error = function(e) {
    stop_input(sprintf("%s could not be read as a page.", quoted(basename(path))), first_line(conditionMessage(e)), class = "file_unreadable")
  })
  tables <- xml2::xml_find_all(page, "//table[not(.//table)]")
  opened <- compact(lapply(seq_along(tables), function(i) open_html_table(path, tables[[i]], i, length(tables) > 1)))
  if (!length(opened)) stop_input(sprintf("%s is a web page without a table.", quoted(basename(path))), class = "file_no_rows")
  opened
}

open_html_table <- function(path, node, place, several) {
  cells <- html_cells(node)
  if (is.null(cells) || nrow(cells) < 2) return(NULL)
  header <- sheet_header(as.data.frame(utils::head(cells, 60), stringsAsFactors = FALSE))
  if (is.na(header) || header >= nrow(cells)) return(NULL)
  base <- tools::file_path_sans_ext(basename(path))
  table_of_cells(path, cells, header, if (several) sprintf("%s_%d", base, place) else base, list(format = "html", place = place))
}

#' Text of every cell, those that span several columns repeated; empty cells missing, empty rows left out
#' @noRd
html_cells <- function(node) {
  rows <- xml2::xml_find_all(node, ".//tr")
  values <- lapply(rows, function(row) {
    cells <- xml2::xml_find_all(row, "./td|./th")
    text <- trimws(gsub("[\\s\u00a0]+", " ", xml2::xml_text(cells), perl = TRUE))
    span <- suppressWarnings(as.integer(xml2::xml_attr(cells, "colspan", default = "1")))
    rep(ifelse(text %in% c("", "NA"), NA, text), pmin(pmax(span, 1L, na.rm = TRUE), 1000L))
  })
  values <- values[vapply(values, function(v) any(!is.na(v)), NA)]
  if (!length(values)) return(NULL)
  width <- max(lengths(values))
  matrix(unlist(lapply(values, function(v) c(v, rep(NA_character_, width - length(v))))), ncol = width, byrow = TRUE)
}
