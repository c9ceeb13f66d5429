# Workbooks: every sheet that holds a table, titles above the header passed over.

#' Tables of a workbook
#' @noRd
open_workbook <- function(path) {
  need_package("readxl", to = sprintf("open %s", quoted(basename(path))))
  sheets <- tryCatch(readxl::excel_sheets(path), error = function(e) {
    stop_input(sprintf("%s is not a workbook that can be read.", quoted(basename(path))),
               first_line(conditionMessage(e)),
               "Open it in a spreadsheet and save it as XLSX or CSV.", class = "file_unreadable")
  })
  opened <- compact(unlist(lapply(sheets, function(sheet) open_sheet(path, sheet, length(sheets) > 1)), recursive = FALSE))
  if (!length(opened)) stop_input(sprintf("%s holds no sheet with a table.", quoted(basename(path))),
                                  class = "file_no_rows")
  opened
}

#' The tables of a sheet: one, or those that blank rows or blank columns part
#' @noRd
open_sheet <- function(path, sheet, several) {
  first <- read_sheet(path, sheet, 1L, 60L)
  if (is.null(first) || !nrow(first) || !ncol(first)) return(NULL)
  header <- sheet_header(first)
  if (is.na(header)) return(NULL)
  base <- if (several) sheet else tools::file_path_sans_ext(basename(path))
  body <- read_sheet(path, sheet, header + 1L, NA)
  blocks <- if (has_gaps(body)) sheet_blocks(path, sheet, header)
    else list(list(header = header, last = NA_integer_, columns = NULL, body = body, first = first[seq_len(nrow(first)) >= header, , drop = FALSE]))
  tables <- compact(lapply(blocks, function(block) sheet_table(path, sheet, block)))
  for (i in seq_along(tables)) tables[[i]]$name <- if (i == 1) base else sprintf("%s_%d", base, i)
  tables
}

#' Is there a blank row between filled ones, or a column without a value?
#' @noRd
has_gaps <- function(body) {
  if (is.null(body) || !nrow(body)) return(FALSE)
  filled <- rowSums(!is.na(body)) > 0
  any(!filled[seq_len(max(c(1L, which(filled))))]) || any(colSums(!is.na(body)) == 0)
}

#' Rows and columns of the tables of a sheet
#'
#' A further table begins behind a blank row with a line of names of its own: words, over a column that is not all words.
#' @section Shape: list of list(header, last (NA for the end of the sheet), columns (places, NULL for all)).
#' @noRd
sheet_blocks <- function(path, sheet, header) {
  whole <- read_sheet(path, sheet, header, NA)
  text <- text_cells(whole)
  filled <- !is.na(text)
  blank <- which(rowSums(filled) == 0)
  starts <- intersect(blank + 1L, which(rowSums(filled) > 1))
  starts <- starts[vapply(starts, function(at) begins_table(text[at:nrow(text), , drop = FALSE]), NA)]
  bounds <- c(1L, starts, nrow(text) + 1L)
  blocks <- lapply(seq_along(bounds)[-1], function(i) {
    rows <- bounds[i - 1L]:(bounds[i] - 1L)
    lapply(column_blocks(filled[rows, , drop = FALSE]), function(columns) list(header = header + rows[1] - 1L,
      last = if (bounds[i] > nrow(text)) NA_integer_ else header + utils::tail(rows, 1L) - 1L, columns = columns))
  })
  unlist(blocks, recursive = FALSE)
}

#' Is the first of some lines a line of names? At least two different words, over values that are not all words, to the next blank row
#' @noRd
begins_table <- function(text) {
  end <- c(which(rowSums(!is.na(text)) == 0), nrow(text) + 1L)[1] - 1L
  if (end < 3) return(FALSE)
  names <- text[1, ]
  at <- which(!is.na(names))
  numeric <- function(x) grepl("^[-+]?[0-9]", x)
  length(at) > 1 && !anyDuplicated(names[at]) && !any(numeric(names[at])) &&
    any(vapply(at, function(j) { v <- text[2:end, j]; v <- v[!is.na(v)]; length(v) > 0 && all(numeric(v)) }, NA))
}

#' Columns of tables side by side: parted by a blank column, and of different lengths
#' @return A list of places, or list(NULL) for one table.
#' @noRd
column_blocks <- function(filled) {
  used <- colSums(filled) > 0
  if (all(used) || !any(used)) return(list(NULL))
  runs <- rle(used)
  ends <- cumsum(runs$lengths)
  blocks <- Map(function(from, to) from:to, (ends - runs$lengths + 1L)[runs$values], ends[runs$values])
  rows <- vapply(blocks, function(columns) max(which(rowSums(filled[, columns, drop = FALSE]) > 0)), 1L)
  # equal lengths, or a single column apart, are one table with a gap
  if (length(blocks) < 2 || length(unique(rows)) == 1 || any(lengths(blocks) < 2)) return(list(which(used)))
  blocks
}

sheet_table <- function(path, sheet, block) {
  cells <- block$first %||% read_sheet(path, sheet, block$header, block$last)
  if (is.null(cells)) return(NULL)
  columns <- block$columns %||% seq_along(cells)
  first <- text_cells(utils::head(cells[columns], 40))
  head <- header_rows(first)
  skip <- block$header - 1L + head$rows
  data <- if (head$rows == 1L && !is.null(block$body)) block$body else read_sheet(path, sheet, skip + 1L, block$last)
  if (is.null(data) || !nrow(data)) return(NULL)
  data <- data[columns[columns <= ncol(data)]]
  names <- (head$names %||% first[1, ])[seq_along(data)]
  data <- data[rowSums(!is.na(data)) > 0, , drop = FALSE]
  notes <- sheet_notes(data)
  if (notes) data <- data[seq_len(nrow(data) - notes), , drop = FALSE]
  if (!nrow(data)) return(NULL)
  # a column that has neither a name nor a value is no column
  there <- !is.na(names) & nzchar(names) | colSums(!is.na(data)) > 0
  columns <- columns[seq_along(data)][there]
  data <- data.table::as.data.table(lapply(data[there], sheet_column))
  mended <- mend_names(names[there])
  data.table::setnames(data, mended)
  dropped <- totals_row(data)
  if (dropped) data <- data[seq_len(nrow(data) - 1L), ]
  list(name = sheet, data = data, facts = label_facts(mended, head$labels[there]),
       source = c(file_source(path, basename(path), "workbook", nrow(data)),
                  list(sheet = sheet, skip = skip, last = block$last, columns = columns, names = mended, notes = notes, totals = dropped,
                       unnamed = head$rows == 0L)))
}

text_cells <- function(raw) matrix(vapply(raw, as.character, character(nrow(raw))), nrow = nrow(raw))

#' Rows at the end of which only the first cell is filled, where the rows above fill most of theirs
#' @noRd
sheet_notes <- function(data) {
  if (ncol(data) < 3 || nrow(data) < 4) return(0L)
  filled <- rowSums(!is.na(data))
  last <- max(c(0L, which(filled > 1 | is.na(data[[1]]))))
  tail <- nrow(data) - last
  if (!tail || tail > 0.5 * nrow(data) || stats::median(filled[seq_len(last)]) < 0.6 * ncol(data)) 0L else tail
}

#' Rows of a sheet by their numbers in it, without names
#' @noRd
read_sheet <- function(path, sheet, from, to) {
  suppressWarnings(suppressMessages(tryCatch(
    as.data.frame(readxl::read_excel(path, sheet = sheet, range = readxl::cell_limits(c(from, NA), c(to, NA)), col_names = FALSE,
                                     guess_max = 100000, .name_repair = "minimal",
                                     na = c("", "NA"), progress = FALSE), stringsAsFactors = FALSE, optional = TRUE),
    error = function(e) NULL)))
}

#' Row of the header: the first in which most of the sheet's columns hold a different text; names that come back have those of their
#' groups in the row above
#' @noRd
sheet_header <- function(raw) {
  text <- text_cells(raw)
  filled <- rowSums(!is.na(text))
  width <- max(filled)
  for (i in seq_len(nrow(text))) {
    cells <- text[i, !is.na(text[i, ])]
    if (filled[i] < max(1, 0.6 * width) || width > 1 && i == nrow(text)) next
    if (!anyDuplicated(cells)) return(i)
    if (any(grepl("[0-9]", cells))) next
    return(if (i > 1 && filled[i - 1L] > 1) i - 1L else i)
  }
  NA_integer_
}

#' Midnight stamps of a sheet are dates
#' @noRd
sheet_column <- function(v) {
  if (inherits(v, "POSIXct")) {
    seconds <- as.numeric(v)
    if (all(is.na(seconds) | seconds %% 86400 == 0)) return(as.Date(v, tz = "UTC"))
  }
  v
}
