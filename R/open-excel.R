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
  opened <- compact(lapply(sheets, function(sheet) open_sheet(path, sheet, length(sheets) > 1)))
  if (!length(opened)) stop_input(sprintf("%s holds no sheet with a table.", quoted(basename(path))),
                                  class = "file_no_rows")
  opened
}

open_sheet <- function(path, sheet, several) {
  raw <- read_sheet(path, sheet, skip = 0L, names = FALSE, most = 60L)
  if (is.null(raw) || !nrow(raw) || !ncol(raw)) return(NULL)
  header <- sheet_header(raw)
  if (is.na(header)) return(NULL)
  head <- header_rows(text_cells(raw[seq_len(nrow(raw)) >= header, , drop = FALSE]))
  skip <- if (is.null(head$names)) header - 1L else header - 1L + head$rows
  data <- read_sheet(path, sheet, skip = skip, names = is.null(head$names), most = Inf)
  if (is.null(data)) return(NULL)
  if (!is.null(head$names)) names(data) <- head$names[seq_along(data)]
  data <- data[rowSums(!is.na(data)) > 0, , drop = FALSE]
  notes <- sheet_notes(data)
  if (notes) data <- data[seq_len(nrow(data) - notes), , drop = FALSE]
  if (!nrow(data)) return(NULL)
  data <- data.table::as.data.table(lapply(data, sheet_column))
  mended <- mend_names(names(data))
  data.table::setnames(data, mended)
  dropped <- totals_row(data)
  if (dropped) data <- data[seq_len(nrow(data) - 1L), ]
  base <- tools::file_path_sans_ext(basename(path))
  list(name = if (several) sheet else base, data = data, facts = label_facts(mended, head$labels[seq_along(mended)]),
       source = c(file_source(path, basename(path), "workbook", nrow(data)),
                  list(sheet = sheet, skip = skip, header = is.null(head$names), names = mended, notes = notes, totals = dropped,
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

read_sheet <- function(path, sheet, skip, names, most) {
  suppressWarnings(suppressMessages(tryCatch(
    as.data.frame(readxl::read_excel(path, sheet = sheet, skip = skip, col_names = names, n_max = most,
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
