# OpenDocument spreadsheets: every sheet that holds a table, read from the document's own XML.

#' Tables of an OpenDocument spreadsheet
#'
#' Cells come as the text of their stored value (numbers with a point, dates as ISO), so that kinds are settled as for any text.
#' @section Source: OASIS OpenDocument 1.3, part 3, section 9.1 (table cells and repeats).
#' @noRd
open_ods <- function(path) {
  need_package("xml2", to = sprintf("open %s", quoted(basename(path))))
  content <- ods_content(path)
  sheets <- xml2::xml_find_all(content, "//table:table")
  opened <- compact(lapply(sheets, function(sheet) open_ods_sheet(path, sheet, length(sheets) > 1)))
  if (!length(opened)) stop_input(sprintf("%s holds no sheet with a table.", quoted(basename(path))), class = "file_no_rows")
  opened
}

ods_content <- function(path) {
  folder <- tempfile("quill-")
  on.exit(unlink(folder, recursive = TRUE))
  listed <- tryCatch(utils::unzip(path, list = TRUE), error = function(e) NULL, warning = function(w) NULL)
  size <- listed$Length[listed$Name == "content.xml"]
  if (length(size) != 1) stop_input(sprintf("%s is not a spreadsheet that can be read.", quoted(basename(path))),
                                    todo = "Open it in a spreadsheet and save it as ODS or CSV.", class = "file_unreadable")
  if (size > min(unpack_limits()$bytes, unpack_limits()$ratio * max(file.size(path), 1024))) {
    stop_input(sprintf("%s unpacks to far more than its size, so it was not opened.", quoted(basename(path))), class = "file_too_large")
  }
  utils::unzip(path, files = "content.xml", exdir = folder)
  tryCatch(xml2::read_xml(file.path(folder, "content.xml")), error = function(e) {
    stop_input(sprintf("%s could not be read.", quoted(basename(path))), first_line(conditionMessage(e)), class = "file_unreadable")
  })
}

open_ods_sheet <- function(path, sheet, several) {
  cells <- ods_cells(sheet)
  if (is.null(cells) || nrow(cells) < 2) return(NULL)
  header <- sheet_header(as.data.frame(utils::head(cells, 60), stringsAsFactors = FALSE))
  if (is.na(header) || header >= nrow(cells)) return(NULL)
  name <- xml2::xml_attr(sheet, "name")
  table_of_cells(path, cells, header, if (several) name else tools::file_path_sans_ext(basename(path)), list(format = "ods", sheet = name))
}

#' Text of every cell of a sheet; empty cells missing, repeats written out, empty rows left out
#' @noRd
ods_cells <- function(sheet) {
  rows <- xml2::xml_find_all(sheet, ".//table:table-row")
  values <- lapply(rows, function(row) {
    cells <- xml2::xml_find_all(row, "./table:table-cell|./table:covered-table-cell")
    if (!length(cells)) return(NULL)
    shown <- vapply(cells, function(cell) paste(xml2::xml_text(xml2::xml_find_all(cell, "./text:p")), collapse = "\n"), "")
    stored <- xml2::xml_attr(cells, "value")
    day <- xml2::xml_attr(cells, "date-value")
    text <- ifelse(!is.na(day), sub("T00:00:00$", "", day), ifelse(!is.na(stored), stored, shown))
    times <- suppressWarnings(as.integer(xml2::xml_attr(cells, "number-columns-repeated", default = "1")))
    # a sheet is filled up with thousands of empty cells: they end a row
    empty <- !nzchar(text) | text %in% "NA"
    times[empty & times > 200] <- 1L
    rep(ifelse(empty, NA, text), times)
  })
  again <- suppressWarnings(as.integer(xml2::xml_attr(rows, "number-rows-repeated", default = "1")))
  filled <- vapply(values, function(v) any(!is.na(v)), NA)
  values <- rep(values[filled], pmin(again[filled], 100000L))
  if (!length(values)) return(NULL)
  width <- max(vapply(values, function(v) max(which(!is.na(v))), 1L))
  t(vapply(values, function(v) c(v, rep(NA_character_, width))[seq_len(width)], character(width)))
}
