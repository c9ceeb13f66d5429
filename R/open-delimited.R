# Text files with delimiters.

#' Read a delimited text file
#'
#' @param path An existing file.
#' @section Shape: list(name, data, source): the rows as a data.table with the file's own
#'   column names, and what is needed to read it again.
#' @noRd
open_delimited <- function(path) {
  need_text_file(path)
  extension <- tolower(tools::file_ext(path))
  sep <- if (extension %in% c("tsv", "tab")) "\t" else "auto"
  data <- quietly_fread(path, sep)
  if (ncol(data) == 0 || nrow(data) == 0) {
    stop_input(sprintf("%s holds a header but no rows.", quoted(basename(path))),
               todo = "Check that the export finished.", class = "file_no_rows")
  }
  data <- undouble_quotes(data)
  header <- names(data)
  mended <- mend_names(header)
  data.table::setnames(data, mended)
  list(name = tools::file_path_sans_ext(basename(path)), data = data,
       source = list(file = basename(path), path = normalizePath(path, winslash = "/"), format = "delimited",
                     bytes = file.size(path), rows = nrow(data), sha256 = unname(cli::hash_file_sha256(path)),
                     sep = attr(data, "sep"), names = if (!identical(header, mended) || anyDuplicated(header)) mended))
}

need_text_file <- function(path) {
  if (file.size(path) == 0) {
    stop_input(sprintf("%s is empty (0 bytes).", quoted(basename(path))), todo = "Check that the export finished.",
               class = "file_empty")
  }
  head <- readBin(path, "raw", n = 65536)
  control <- sum(head == as.raw(0)) + sum(head < as.raw(9) & head > as.raw(0))
  if (control > 0.01 * length(head) || any(head[seq_len(min(4, length(head)))] == as.raw(0))) {
    stop_input(sprintf("%s is not a text table: it holds binary data.", quoted(basename(path))),
               todo = "Export it as CSV and open that.", class = "file_binary")
  }
  if (all(head %in% as.raw(c(9, 10, 13, 32)))) {
    stop_input(sprintf("%s holds only blank lines.", quoted(basename(path))), class = "file_empty")
  }
}

#' fread with its warnings turned into an error of ours where rows would be lost
#' @noRd
quietly_fread <- function(path, sep) {
  trouble <- NULL
  one_column <- is_one_column(path, sep)
  data <- tryCatch(
    withCallingHandlers(
      data.table::fread(file = path, sep = if (one_column) "\n" else sep, header = TRUE, na.strings = c("", "NA"),
                        encoding = "UTF-8", strip.white = TRUE, check.names = FALSE, integer64 = "character",
                        showProgress = FALSE, data.table = TRUE, logical01 = FALSE,
                        keepLeadingZeros = TRUE, fill = FALSE),
      warning = function(w) { trouble <<- c(trouble, conditionMessage(w)); invokeRestart("muffleWarning") }),
    error = function(e) stop_input(sprintf("%s could not be read as a table.", quoted(basename(path))),
                                   first_line(conditionMessage(e)),
                                   "Check that every line has the same number of fields.",
                                   class = "file_unreadable"))
  lost <- grep("Stopped early|Discarded", trouble, value = TRUE)
  if (length(lost)) {
    stop_input(sprintf("%s could be read only in part, so it was not opened.", quoted(basename(path))),
               first_line(lost[1]), "Mend the line that is named, or export the file again.", class = "file_ragged")
  }
  if (one_column) names(data) <- gsub("^\"|\"$", "", names(data))
  data.table::setattr(data, "sep", if (one_column) "\n" else sniff_separator(path, sep))
  data
}

#' fread leaves "" inside a quoted field as it stands in the file; it means one quotation mark
#' @noRd
undouble_quotes <- function(data) {
  data.table::setnames(data, gsub("\"\"", "\"", names(data), fixed = TRUE))
  for (j in which(vapply(data, is.character, NA))) {
    at <- which(stringi::stri_detect_fixed(data[[j]], "\"\""))
    if (length(at)) data.table::set(data, at, j, gsub("\"\"", "\"", data[[j]][at], fixed = TRUE))
  }
  data
}

first_line <- function(text) sub("\n.*$", "", text)

is_one_column <- function(path, sep) sep == "auto" && !grepl("[,;\t|]", readLines(path, n = 1, warn = FALSE)[1],
                                                             useBytes = TRUE)

#' The delimiter of the header line, as a script has to name it
#' @noRd
sniff_separator <- function(path, sep) {
  if (sep != "auto") return(sep)
  line <- iconv(readLines(path, n = 1, warn = FALSE, encoding = "UTF-8"), "UTF-8", "UTF-8", sub = "?")
  line <- gsub("\"[^\"]*\"", "", line)
  counts <- vapply(c(",", ";", "\t", "|"), function(s) lengths(regmatches(line, gregexpr(s, line, fixed = TRUE))), 1L)
  names(counts)[which.max(counts)]
}

#' Names as in the file, except that blanks and repeats get a number
#' @noRd
mend_names <- function(x) {
  x <- enc2utf8(as.character(x))
  x[is.na(x) | !nzchar(trimws(x))] <- "column"
  seen <- stats::ave(seq_along(x), x, FUN = seq_along)
  ifelse(seen > 1, sprintf("%s (%d)", x, seen), x)
}
