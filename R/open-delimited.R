# Text files with delimiters: how they are written is worked out from their first lines.

#' Read a delimited text file
#'
#' @param path An existing file.
#' @param shown Name to show, when the file was unpacked from another.
#' @section Shape: list(name, data, source, pending): the rows as a data.table with the file's own column names, what is
#'   needed to read it again, and the fingerprint still being worked out (see begin_fingerprint()).
#' @noRd
open_delimited <- function(path, shown = basename(path), format = "delimited", member = NULL) {
  text <- plain_text_file(path)
  layout <- sniff_layout(text$path, shown)
  data <- quietly_fread(text$path, layout, shown)
  # reading kept every core busy; what follows does not
  pending <- begin_fingerprint(path)
  data <- blanks_as_missing(data)
  if (text$doubled) data <- undouble_quotes(data)
  if (!ncol(data) || !nrow(data)) {
    stop_input(sprintf("%s holds a header but no rows.", quoted(shown)), todo = "Check that the export finished.",
               class = "file_no_rows")
  }
  header <- names(data)
  mended <- mend_names(header)
  data.table::setnames(data, mended)
  dropped <- totals_row(data)
  if (dropped) data <- data[seq_len(nrow(data) - 1L), ]
  list(name = table_name(shown), data = data, pending = pending,
       source = c(file_source(path, shown, format, nrow(data), NULL),
                  list(sep = layout$sep, skip = layout$skip, encoding = text$encoding, member = member,
                       totals = dropped, numbered = ncol(data) > 1 && all(grepl(plain_looking(), header)) && !all(grepl("^(19|20)[0-9]{2}$", header)),
                       ragged = layout$ragged, names = if (!identical(header, mended) || anyDuplicated(header) ||
                                                           layout$skip > 0) mended)))
}

table_name <- function(shown) sub("[.](csv|tsv|tab|txt|dat|gz|json|ndjson|jsonl)$", "",
                                  sub("[.]gz$", "", shown, ignore.case = TRUE), ignore.case = TRUE)

file_source <- function(path, shown, format, rows, sha256 = fingerprint(path)) {
  list(file = shown, path = normalizePath(path, winslash = "/"), format = format, bytes = file.size(path), rows = rows,
       sha256 = sha256)
}

#' Delimiter, lines before the header, and whether rows are ragged
#' @noRd
sniff_layout <- function(path, shown) {
  lines <- readLines(path, n = 200, warn = FALSE, encoding = "UTF-8")
  lines <- sub("^\ufeff", "", lines)
  lines <- stringi::stri_encode(lines, "UTF-8", "UTF-8")
  whole <- logical_lines(lines)
  lines <- whole$text
  sep <- best_separator(lines, shown)
  counts <- fields_of(lines, sep)
  filled <- which(nzchar(trimws(lines)))
  if (is.null(sep)) return(list(sep = "\n", skip = whole$at[filled[1]] - 1L, ragged = FALSE, blank = FALSE))
  usual <- usual_width(counts[filled])
  header <- header_line(lines, counts, filled, usual, sep)
  body <- counts[filled[filled > header]]
  list(sep = sep, skip = whole$at[header] - 1L, ragged = length(body) > 0 && any(body != counts[header]),
       blank = any(!nzchar(trimws(lines[seq_len(length(lines))]))))
}

#' Lines joined where a quotation mark that was opened is closed on a later one
#' @section Shape: list(text, at (line of the file at which each begins)).
#' @noRd
logical_lines <- function(lines) {
  open <- cumsum(stringi::stri_count_fixed(lines, "\"")) %% 2 == 1
  # a mark that is never closed belongs to its text: then lines are taken as they are
  if (!length(lines) || last_of(open) || !any(open)) return(list(text = lines, at = seq_along(lines)))
  first <- which(!c(FALSE, open[-length(open)]))
  group <- findInterval(seq_along(lines), first)
  list(text = as.vector(tapply(lines, group, paste, collapse = " ")), at = first)
}

separators <- function() c(",", ";", "\t", "|")

#' Fields in each line, delimiters inside quotation marks not counted
#' @noRd
fields_of <- function(lines, sep) {
  if (is.null(sep)) return(rep(1L, length(lines)))
  bare <- gsub("\"[^\"]*\"", "", lines)
  stringi::stri_count_fixed(bare, sep) + 1L
}

#' The delimiter that cuts the lines most evenly into more than one field; NULL for a single column
#' @noRd
best_separator <- function(lines, shown) {
  if (grepl("[.](tsv|tab)$", shown, ignore.case = TRUE)) return("\t")
  lines <- lines[nzchar(trimws(lines))]
  if (!length(lines)) return(NULL)
  score <- vapply(separators(), function(sep) {
    counts <- fields_of(lines, sep)
    usual <- usual_width(counts)
    if (usual < 2) return(0)
    # one column of numbers with decimal commas, under a name without one
    if (sep == "," && usual == 2 && length(lines) > 2 && counts[1] == 1 && all(grepl("^[^,;]*[0-9],[0-9]{1,2}[^,;0-9]*$", lines[-1]))) return(0)
    mean(counts == usual) + 0.02 * min(usual, 10)
  }, 1)
  if (max(score) < 0.3) return(if (divided_by_blanks(lines)) " ")
  names(score)[which.max(score)]
}

#' Every line falls into the same number of words, and most of them are numbers
#' @noRd
divided_by_blanks <- function(lines) {
  words <- strsplit(trimws(lines), "[ ]+")
  n <- lengths(words)
  n[1] >= 2 && length(lines) > 2 && all(n == n[1]) && mean(grepl(plain_looking(), unlist(words[-1]))) > 0.5
}

plain_looking <- function() "^[-+]?[0-9]*[.]?[0-9]+([eE][-+]?[0-9]+)?$"

#' The commonest number of fields; among equally common ones the larger
#' @noRd
usual_width <- function(counts) {
  if (!length(counts)) return(1L)
  times <- table(counts)
  as.integer(names(times)[max(which(times == max(times)))])
}

#' Titles and notes above the table are passed over: the header is the first full line whose fields are mostly names
#' @noRd
header_line <- function(lines, counts, filled, usual, sep) {
  candidates <- filled[counts[filled] >= max(2, usual - 1) & counts[filled] <= usual + 1]
  if (!length(candidates)) return(filled[1])
  first <- candidates[1]
  if (first == filled[1]) return(first)
  # a title line may hold the delimiter too: take the first line that is followed by lines of its own width
  for (at in candidates) {
    following <- filled[filled > at]
    if (!length(following) || counts[at] == counts[following[1]] || length(following) < 3) return(at)
  }
  first
}

#' Empty texts, which a file can hold in quotation marks, as missing values
#' @noRd
blanks_as_missing <- function(data) {
  blank <- lapply(data, function(v) if (is.character(v)) kernel_text_positions(v, ""))
  empty <- which(lengths(blank) > 0)
  if (!length(empty)) return(data)
  columns <- as.list(data)
  columns[empty] <- Map(function(v, at) replace(v, at, NA_character_), columns[empty], blank[empty])
  data.table::setDT(columns)[]
}

#' fread with its warnings turned into an error of ours where rows would be lost
#' @noRd
quietly_fread <- function(path, layout, shown) {
  trouble <- NULL
  read <- function(fill) {
    withCallingHandlers(
      data.table::fread(file = path, sep = layout$sep, skip = layout$skip, header = TRUE, na.strings = c("", "NA"),
                        encoding = "UTF-8",
                        strip.white = TRUE, check.names = FALSE, integer64 = "character", showProgress = FALSE,
                        data.table = TRUE,
                        logical01 = FALSE, keepLeadingZeros = TRUE, fill = fill, blank.lines.skip = TRUE),
      warning = function(w) {
        trouble <<- c(trouble, conditionMessage(w))
        invokeRestart("muffleWarning")
      })
  }
  data <- tryCatch(read(FALSE), error = function(e) {
    stop_input(sprintf("%s could not be read as a table.", quoted(shown)), first_line(conditionMessage(e)),
               "Check that every line has the same number of fields.", class = "file_unreadable")
  })
  if (any(grepl("Stopped early|Discarded", trouble))) data <- mend_ragged(path, layout, shown, trouble, read)
  if (layout$sep == "\n") {
    # with no delimiter to look for, the marks around a value are left in place
    bare <- function(v) if (is.character(v)) sub("^\"(.*)\"$", "\\1", v) else v
    data.table::setnames(data, bare(names(data)))
    for (j in seq_along(data)) if (is.character(data[[j]])) data.table::set(data, j = j, value = bare(data[[j]]))
  }
  data
}

#' Lines that are shorter than the header are filled with missing values; longer ones would lose a value, so they
#' stop the reading
#' @noRd
mend_ragged <- function(path, layout, shown, trouble, read) {
  lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  width <- fields_of(lines, layout$sep)
  header <- width[layout$skip + 1L]
  body <- seq_along(lines) > layout$skip + 1L & nzchar(trimws(lines))
  long <- which(body & width > header)
  if (length(long)) {
    stop_input(sprintf("%s could be read only in part, so it was not opened.", quoted(shown)),
               sprintf("Line %d has %d fields where the header has %d.", long[1], width[long[1]], header),
               "Mend the line that is named, or export the file again.", class = "file_ragged")
  }
  read(TRUE)
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

#' Is the last row a row of totals? Named so, and its numbers are the sums of those above
#' @noRd
totals_row <- function(data) {
  n <- nrow(data)
  if (n < 4) return(FALSE)
  first <- tolower(trimws(as.character(data[[1]][n])))
  if (is.na(first) || !grepl("^(grand )?(total|sum|totals|all|overall)[: ]*$", first)) return(FALSE)
  numeric <- which(vapply(data, is.numeric, NA))
  if (!length(numeric)) return(FALSE)
  sums <- vapply(numeric, function(j) {
    v <- data[[j]]
    isTRUE(all.equal(sum(v[-n], na.rm = TRUE), v[n], tolerance = 1e-6))
  }, NA)
  mean(sums) >= 0.5
}

first_line <- function(text) sub("\n.*$", "", text)

#' Names as in the file, except that blanks and repeats get a number
#' @noRd
mend_names <- function(x) {
  x <- enc2utf8(as.character(x))
  x[is.na(x) | !nzchar(trimws(x))] <- "column"
  seen <- stats::ave(seq_along(x), x, FUN = seq_along)
  ifelse(seen > 1, sprintf("%s (%d)", x, seen), x)
}
