# Text files with delimiters: how they are written is worked out from their first lines.

#' Read a delimited text file
#'
#' @param path An existing file.
#' @param shown Name to show, when the file was unpacked from another.
#' @section Shape: list(name, data, source, pending): the rows as a data.table with the file's own column names, what is
#'   needed to read it again, and the fingerprint still being worked out (see begin_fingerprint()).
#' @noRd
open_delimited <- function(path, shown = basename(path), format = "delimited", member = NULL) {
  text <- single_quotes_turned(plain_text_file(path))
  layout <- sniff_layout(text$path, shown)
  data <- if (is.null(layout$cuts)) quietly_fread(text$path, layout, shown) else read_fixed(text$path, layout)
  # reading kept every core busy; what follows does not
  pending <- begin_fingerprint(path)
  notes <- attr(data, "notes") %||% 0L
  widest <- attr(data, "widest")
  ragged <- layout$ragged || !is.null(widest)
  short <- attr(data, "short") %||% layout$ragged
  if (notes) data <- data[seq_len(nrow(data) - notes), ]
  if (!is.null(layout$names)) data.table::setnames(data, layout$names[seq_along(data)])
  data <- blanks_as_missing(data)
  if (text$doubled) data <- undouble_quotes(data)
  # (where notes were cut from uneven lines, rows are counted from below)
  empty <- if (!notes && is.null(layout$cuts)) rows_without_fields(data, text$path, layout$sep)
  if (length(empty)) data <- data[-empty, ]
  padded <- if (!notes) notes_in_first_column(data, length(empty) && last_of(empty) > nrow(data)) else 0L
  if (padded) { notes <- padded; data <- data[seq_len(nrow(data) - padded), ] }
  if (!ncol(data) || !nrow(data)) {
    stop_input(sprintf("%s holds a header but no rows.", quoted(shown)), todo = "Check that the export finished.",
               class = "file_no_rows")
  }
  # a copy: setnames() changes names where they stand
  header <- data.table::copy(names(data))
  mended <- mend_names(header)
  data.table::setnames(data, mended)
  again <- repeated_headers(data)
  if (length(again)) data <- data[-again, ]
  dropped <- totals_row(data)
  if (dropped) data <- data[seq_len(nrow(data) - 1L), ]
  list(name = table_name(shown), data = data, pending = pending, facts = label_facts(mended, layout$labels),
       source = c(file_source(path, shown, format, nrow(data), NULL),
                  list(sep = layout$sep, skip = layout$below %||% layout$skip, encoding = text$encoding, member = member, mark = text$mark,
                       totals = dropped, notes = notes, empty_rows = length(empty), repeats = length(again), header = layout$header,
                           cuts = layout$cuts,
                       unnamed = identical(layout$header, FALSE) && is.null(layout$labels) && identical(layout$names[1], "column_1"),
                         numbered = ncol(data) > 1 && all(grepl(plain_looking(), header)) && !all(grepl("^(19|20)[0-9]{2}$", header)),
                       ragged = ragged, short = short, nameless = made_up_names(header), doubled = unique(header[duplicated(header)]), body = if (ragged) layout$body, widest = widest,  # nolint: line_length_linter.
                       # a name that fread made up for an empty one is not in the file
                       names = if (!identical(header, mended) || anyDuplicated(header) || any(grepl("^V[0-9]+$", header)) || ragged ||
                                     layout$skip > 0 || !is.null(layout$names) || !is.null(layout$cuts)) mended)))
}

#' Names that reading made up where the header has none: V and the place of the column, beside others that are called otherwise
#' @noRd
made_up_names <- function(header) {
  own <- header == paste0("V", seq_along(header))
  if (all(own)) character() else header[own]
}

#' A file whose fields stand in single quotation marks ('Smith, J.'), with double ones in their place
#'
#' Only where no double mark occurs among the first lines and most of them hold a field in single ones: an apostrophe is none.
#' @section Shape: as of plain_text_file(), with mark = "'" where they were turned.
#' @noRd
single_quotes_turned <- function(text) {
  if (file.size(text$path) > 5e7) return(text)
  head <- readLines(text$path, n = 200, warn = FALSE, encoding = "UTF-8")
  head <- head[nzchar(trimws(head))]
  marked <- "(^|[,;\t|])'((?:[^']|'')*)'(?=[,;\t|]|$)"
  if (length(head) < 2 || any(grepl("\"", head, fixed = TRUE)) || mean(grepl(marked, head[-1], perl = TRUE)) < 0.5) return(text)
  lines <- readLines(text$path, warn = FALSE, encoding = "UTF-8")
  if (any(grepl("\"", lines, fixed = TRUE))) return(text)
  file <- tempfile("quill-", fileext = ".txt")
  writeLines(gsub("''", "'", gsub(marked, "\\1\"\\2\"", lines, perl = TRUE), fixed = TRUE), file, useBytes = TRUE)
  utils::modifyList(text, list(path = file, mark = "'"))
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
  # a first line may say the separator, as spreadsheets write it
  told <- regmatches(lines[1], regexec("^\"?sep=(.)\"?\\s*$", lines[1]))[[1]][2]
  if (!is.na(told)) lines[1] <- ""
  sep <- if (is.na(told)) best_separator(lines, shown) else told
  counts <- fields_of(lines, sep)
  # (a line of delimiters alone is empty, as spreadsheets write it)
  filled <- which(if (is.null(sep)) nzchar(trimws(lines)) else stringi::stri_detect_regex(lines, sprintf("[^\\Q%s\\E\\s\"]", sep)))
  if (is.null(sep)) {
    return(fixed_layout(lines, whole$at, filled) %||% list(sep = "\n", skip = whole$at[filled[1]] - 1L, ragged = FALSE, blank = FALSE))
  }
  usual <- usual_width(counts[filled])
  header <- header_line(lines, counts, filled, usual, sep)
  body <- counts[filled[filled > header]]
  utils::modifyList(list(sep = sep, skip = whole$at[header] - 1L, body = c(whole$at[filled[filled > header]], whole$at[header] + 1L)[1] - 1L,
    ragged = length(body) > 0 && any(body != counts[header]),
         blank = any(!nzchar(trimws(lines[seq_len(length(lines))])))),
    long_rows(lines[filled[filled >= header]], whole$at[filled[filled >= header]], sep) %||%
      odd_header(lines[filled[filled >= header]], whole$at[filled[filled >= header]], sep) %||% list())
}

#' Rows with more fields than the line of names: the names of the rows stand in front, as R writes them, or delimiters stand behind
#' @section Shape: NULL where no row is longer, else as odd_header(), with long = TRUE where the rest of the file has to be looked into.
#' @noRd
long_rows <- function(lines, at, sep) {
  if (length(lines) < 2) return(NULL)
  width <- fields_of(lines, sep)
  if (all(width[-1] <= width[1])) return(NULL)
  cells <- text_of_lines(utils::head(lines, 40), sep)
  if (is.null(cells)) return(NULL)
  names <- cells[1, seq_len(min(width[1], ncol(cells)))]
  body <- list(below = at[2] - 1L, header = FALSE)
  named <- all(width[-1] == width[1] + 1L) && !anyNA(cells[-1, 1]) && !anyDuplicated(cells[-1, 1]) && !all(is.na(cells[-1, ncol(cells)]))
  if (named) return(c(body, list(ragged = FALSE, names = mend_names(c(if ("row" %in% names) "row_name" else "row", names)))))
  c(body, list(names = mend_names(names), long = TRUE))
}

#' Lines as a matrix of texts, missing where they are empty
#' @noRd
text_of_lines <- function(lines, sep) {
  cells <- tryCatch(suppressWarnings(data.table::fread(text = lines, sep = sep, header = FALSE, colClasses = "character", na.strings = c("", "NA"),
    fill = TRUE, blank.lines.skip = FALSE, strip.white = TRUE)), error = function(e) NULL)
  if (is.null(cells)) return(NULL)
  cells <- as.matrix(cells)
  cells[cells %in% ""] <- NA
  cells
}

#' A header of several lines, or none
#' @section Shape: NULL for one line of names, else list(skip, header (FALSE), names, labels), which go before what else the layout says.
#' @noRd
odd_header <- function(lines, at, sep) {
  if (sep == " " || length(lines) < 4) return(NULL)
  lines <- utils::head(lines, 40)
  cells <- text_of_lines(lines, sep)
  if (is.null(cells) || ncol(cells) < 2) return(NULL)
  head <- header_rows(cells)
  if (is.null(head$names)) return(NULL)
  list(below = if (head$rows) at[head$rows + 1L] - 1L else at[1] - 1L, header = FALSE, names = mend_names(head$names), labels = head$labels)
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
  if (sep == " ") return(stringi::stri_count_regex(trimws(gsub("\"[^\"]*\"", "q", lines)), " +") + 1L)
  stringi::stri_count_fixed(bare, sep) + 1L
}

#' Fields in each line that hold something
#' @noRd
filled_fields <- function(lines, sep) {
  if (is.null(sep)) return(as.integer(nzchar(trimws(lines))))
  bare <- gsub("\"[^\"]+\"", "q", lines)
  parts <- if (sep == " ") strsplit(trimws(bare), " +") else strsplit(bare, sep, fixed = TRUE)
  vapply(parts, function(p) sum(nzchar(gsub("[\"[:space:]]", "", p))), 1L)
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
  # blanks inside quotation marks divide nothing
  bare <- gsub("\"[^\"]*\"", "\"\"", trimws(lines))
  words <- strsplit(bare, "[ ]+")
  n <- lengths(words)
  if (length(lines) < 3 || max(n) < 2 || !all(n[-1] == n[2]) || !n[1] %in% (n[2] - 0:1)) return(FALSE)
  mean(grepl(paste0(plain_looking(), "|^\"\"$"), unlist(words[-1]))) > 0.5
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
  # a title in the first cell, filled up with delimiters to the width of the table
  held <- filled_fields(lines[utils::head(candidates, 30)], sep)
  titles <- c(cumall(held == 1), rep(FALSE, length(candidates) - length(held))) & usual > 2
  if (any(titles) && !all(titles)) candidates <- candidates[!titles]
  else titles <- FALSE
  first <- candidates[1]
  if (any(titles)) return(first)
  if (first == filled[1]) return(first)
  # a title line may hold the delimiter too: take the first line that is followed by lines of its own width
  for (at in candidates) {
    following <- filled[filled > at]
    if (!length(following) || counts[at] == counts[following[1]] || length(following) < 3) return(at)
  }
  first
}

cumall <- function(x) cumsum(!x) == 0

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
  # its name alone would make fread take it for a packed file
  if (grepl("[.](gz|bz2)$", path, ignore.case = TRUE)) { plain <- tempfile("quill-", fileext = ".txt"); file.copy(path, plain); path <- plain }
  read <- function(fill) {
    withCallingHandlers(
      data.table::fread(file = path, sep = layout$sep, skip = layout$below %||% layout$skip, header = layout$header %||% TRUE,
                        na.strings = c("", "NA"),
                        encoding = "UTF-8",
                        strip.white = TRUE, check.names = FALSE, integer64 = "character", showProgress = FALSE,
                        data.table = TRUE,
                        logical01 = FALSE, keepLeadingZeros = TRUE, fill = fill, blank.lines.skip = TRUE),
      warning = function(w) {
        trouble <<- c(trouble, conditionMessage(w))
        invokeRestart("muffleWarning")
      })
  }
  data <- if (isTRUE(layout$long)) mend_ragged(path, layout, shown, read) else tryCatch(read(FALSE), error = function(e) {
    stop_input(sprintf("%s could not be read as a table.", quoted(shown)), first_line(conditionMessage(e)),
               "Check that every line has the same number of fields.", class = "file_unreadable")
  })
  if (!isTRUE(layout$long) && any(grepl("Stopped early|Discarded", trouble))) data <- mend_ragged(path, layout, shown, read)
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
mend_ragged <- function(path, layout, shown, read) {
  whole <- logical_lines(readLines(path, warn = FALSE, encoding = "UTF-8"))
  lines <- whole$text
  width <- fields_of(lines, layout$sep)
  first <- which(whole$at == layout$skip + 1L)
  header <- width[first]
  body <- seq_along(lines) > first & nzchar(trimws(lines))
  # delimiters at the end of a line, with nothing between them, lose nothing
  long <- which(body & width > header)
  long <- long[fields_of(sub(sprintf("[%s\\s\"]+$", if (layout$sep == "|") "|" else layout$sep), "", lines[long]), layout$sep) > header]
  if (length(long)) {
    stop_input(sprintf("%s could be read only in part, so it was not opened.", quoted(shown)),
               sprintf("Line %d has %d fields where the header has %d.", whole$at[long[1]], width[long[1]], header),
               "Mend the line that is named, or export the file again.", class = "file_ragged")
  }
  data <- read(TRUE)
  if (ncol(data) > header) data <- data[, seq_len(header), with = FALSE]
  data.table::setattr(data, "widest", max(width[body]))
  data.table::setattr(data, "short", any(width[body] < header))
  data.table::setattr(data, "notes", min(notes_below(lines[-seq_len(first)], width[-seq_len(first)], header), nrow(data) - 1L))
}

#' Columns of fixed width: cut where every line is blank
#' @section Shape: NULL when the lines do not fall into columns so, else a layout with cuts (the first place of each column).
#' @noRd
fixed_layout <- function(lines, at, filled) {
  lines <- lines[filled]
  if (length(lines) < 3 || any(grepl("\t", lines))) return(NULL)
  width <- max(nchar(lines))
  if (width > 5000) return(NULL)
  padded <- formatC(lines, width = -width, flag = "-")
  blank <- Reduce(`&`, lapply(strsplit(padded, ""), function(ch) ch == " "))
  starts <- which(!blank & c(TRUE, blank[-length(blank)]))
  # a column begins only where the line of names has a word of its own
  named <- vapply(seq_along(starts), function(i) nzchar(trimws(substr(padded[1], starts[i], c(starts, width + 1L)[i + 1L] - 1L))), NA)
  starts <- starts[named]
  if (length(starts) < 2 || starts[1] != 1 || any(grepl(plain_looking(), strsplit(trimws(lines[1]), " +")[[1]]))) return(NULL)
  list(sep = " ", skip = at[filled[1]] - 1L, ragged = FALSE, blank = FALSE, cuts = starts)
}

#' Rows of a file whose columns stand at fixed places, as texts
#' @noRd
read_fixed <- function(path, layout) {
  lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  lines <- lines[seq_along(lines) > layout$skip]
  lines <- lines[nzchar(trimws(lines))]
  columns <- lapply(seq_along(layout$cuts), function(i) {
    text <- trimws(substr(lines, layout$cuts[i], if (i < length(layout$cuts)) layout$cuts[i + 1L] - 1L else 1000000L))
    replace(text, text %in% c("", "NA"), NA)
  })
  data.table::as.data.table(stats::setNames(lapply(columns, `[`, -1L), vapply(columns, function(v) v[1] %||% "", "")))
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

#' Rows that are lines of delimiters alone; none where a row says in words that its values are missing
#' @noRd
rows_without_fields <- function(data, path, sep) {
  if (ncol(data) < 2 || !nrow(data)) return(integer())
  at <- which(is.na(data[[1]]))
  for (j in seq_along(data)[-1]) if (length(at)) at <- at[is.na(data[[j]][at])]
  if (!length(at)) return(integer())
  lines <- readLines(path, warn = FALSE, encoding = "UTF-8")
  bare <- sum(nzchar(trimws(lines)) & filled_fields(lines, sep) == 0)
  # a row of "NA" alone is a row, of which every value is missing
  said <- sum(grepl(sprintf("^[\"[:space:]]*(NA[\"[:space:]]*\\Q%s\\E[\"[:space:]]*)+(NA)?[\"[:space:]]*$", sep), lines, perl = TRUE))
  if (bare > 0 && said == 0) at else integer()
}

#' Lines below a table that hold one text, filled up with delimiters: notes
#' @param apart TRUE where an empty line stands before the last rows.
#' @noRd
notes_in_first_column <- function(data, apart) {
  n <- nrow(data)
  if (ncol(data) < 3 || n < 4 || !is.character(data[[1]])) return(0L)
  tail <- utils::tail(data, 5)
  alone <- !is.na(tail[[1]]) & rowSums(!is.na(as.matrix(tail[, -1, with = FALSE]))) == 0
  k <- sum(cumsum(!rev(alone)) == 0)
  if (!k || k == nrow(tail)) return(0L)
  notes_below(c("x", if (apart) "", as.character(utils::tail(data[[1]], k))), c(ncol(data), if (apart) 1L, rep(1L, k)), ncol(data))
}

#' Is the last row a row of totals? Named so, and its numbers are the sums of those above
#' @noRd
totals_row <- function(data) {
  n <- nrow(data)
  if (n < 4) return(FALSE)
  first <- tolower(trimws(as.character(data[[1]][n])))
  if (is.na(first) || !grepl("^(grand )?(total|sum|totals|all|overall|summe|gesamt(summe)?|insgesamt|total g[e\u00e9]n[e\u00e9]ral|ensemble|totaal|totale|suma|totalt|razem)[: ]*$", first)) return(FALSE)  # nolint: line_length_linter.
  styles <- lapply(data, function(v) if (is.character(v)) number_style(unique(v[!is.na(v)])))
  numeric <- which(vapply(data, is.numeric, NA) | lengths(styles) > 0)
  if (!length(numeric)) return(FALSE)
  sums <- vapply(numeric, function(j) {
    v <- as_numbers(data[[j]], styles[[j]])
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
