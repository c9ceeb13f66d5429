# What stands above and below the rows of a table: names in more than one line, units, questions, notes, or no names at all.

#' What the first lines of a table hold
#'
#' @param cells Texts of the first lines, the line of names first: a matrix, empty cells missing.
#' @section Shape: list(rows (lines that are not data), names (NULL where the first line is taken as it stands), labels (words of each
#'   column, or NULL)): no names at all give rows = 0.
#' @noRd
header_rows <- function(cells) {
  as_it_is <- list(rows = 1L, names = NULL, labels = NULL)
  if (nrow(cells) < 4 || ncol(cells) < 2) return(as_it_is)
  if (first_line_is_data(cells)) return(list(rows = 0L, names = sprintf("column_%d", seq_len(ncol(cells))), labels = NULL))
  extra <- words_above_numbers(cells)
  if (!extra) return(as_it_is)
  first <- cells[1, ]
  second <- cells[2, ]
  whole <- !anyNA(first) && !anyDuplicated(first)
  if (whole && all(reads_as_units(second[!is.na(second)]))) {
    unit <- gsub("^[[(]|[])]$", "", second)
    return(list(rows = 1L + extra, names = ifelse(is.na(second) | unit %in% c("-", ""), first, sprintf("%s (%s)", first, unit)), labels = NULL))
  }
  if (whole) return(list(rows = 1L + extra, names = first, labels = second))
  list(rows = 1L + extra, names = joined_names(first, second), labels = NULL)
}

#' How many lines below the first hold words where every later value of a column is a number
#' @noRd
words_above_numbers <- function(cells) {
  extra <- 0L
  while (extra < 3 && nrow(cells) - extra > 3) {
    line <- cells[extra + 2L, ]
    below <- cells[-seq_len(extra + 2L), , drop = FALSE]
    if (sum(!is.na(line)) < 0.5 * ncol(cells) || !words_stand_over(line, below, extra > 0)) break
    extra <- extra + 1L
  }
  extra
}

#' Is a line of words one that names or explains what stands below it, and no row of data?
#' @noRd
words_stand_over <- function(line, below, further) {
  said <- !is.na(line)
  looks_numeric <- function(x) grepl("^[-+(\u2212$\u20ac\u00a3]*[0-9]", trimws(x))
  # up to two further lines of words may follow
  numeric <- vapply(seq_len(ncol(below)), function(j) {
    v <- looks_numeric(below[!is.na(below[, j]), j])
    length(v) > 1 && (all(v) || length(v) > 3 && (all(v[-1]) || all(v[-(1:2)])))
  }, NA)
  # a further line may be empty over some of them
  over <- line[numeric & said]
  if (!length(over) || !further && length(over) < sum(numeric) && length(over) < 2) return(FALSE)
  if (any(looks_numeric(over)) || any(tolower(trimws(over)) %in% c(missing_words(), refusal_words()))) return(FALSE)
  # nor does it repeat what a column of words holds below
  words <- which(!numeric & said)
  !any(vapply(words, function(j) line[j] %in% below[, j], NA))
}

#' Units as they are written in a line of their own below the names
#' @noRd
reads_as_units <- function(x) {
  bare <- tolower(gsub("^[[(]|[])]$", "", trimws(x)))
  known <- unique(c(tolower(unlist(unit_tails())), names(unit_tails()), "", "-", "n", "no.", "years", "year", "min.", "mmol/l", "mg/l", "g/l",
    "mg/dl", "kg/m2", "m/s", "t/ha", "score", "kg/ha", "beats/min", "units", "points", "ng/ml", "\u00b5g/l", "iu/l", "u/l", "kj", "v", "a",
    "w", "pa", "n/m", "rpm", "hours", "days"))
  bare %in% known | grepl("^(k|m|c|\u00b5|n|d)?(g|l|m|mol|s|w|v|j|hz|pa)([23\u00b2\u00b3])?(/|\u00b7| per )(k|m|c|\u00b5|n|d)?(g|l|m|ha|h|s|min|day|mol|pl)([23\u00b2\u00b3])?$", bare) |  # nolint: line_length_linter.
    grepl("^[[(].{1,12}[])]$", trimws(x))
}

#' Names of groups of columns ("Baseline", which stands over two) before the names of the columns
#' @noRd
joined_names <- function(first, second) {
  for (j in seq_along(first)[-1]) if (is.na(first[j]) && !is.na(second[j])) first[j] <- first[j - 1]
  joined <- ifelse(is.na(second), first, ifelse(tolower(first) %in% tolower(second), second, paste(first, second)))
  ifelse(is.na(first), second, joined)
}

#' Is the first line a row of data? Then a decimal number, a number below zero or a date stands over others of its kind, and every word
#' in it occurs again below or is written like those below
#' @noRd
first_line_is_data <- function(cells) {
  first <- cells[1, ]
  below <- cells[-1, , drop = FALSE]
  if (anyNA(first) && mean(is.na(first)) > 0.5) return(FALSE)
  shape <- function(x) gsub("[a-z]+", "a", gsub("[0-9]+", "0", tolower(x)))
  sure <- "^-?[0-9]+[.,][0-9]+$|^-[0-9]+$|^[0-9]{4}-[0-9]{2}-[0-9]{2}|^[0-9]{1,2}[./][0-9]{1,2}[./][0-9]{2,4}"
  telling <- FALSE
  for (j in which(!is.na(first))) {
    later <- below[!is.na(below[, j]), j]
    if (!length(later)) next
    if (grepl("^[-+]?[0-9.,]+$", first[j])) {
      if (mean(grepl("^[-+]?[0-9.,]+$", later)) < 0.9) return(FALSE)
    } else if (!first[j] %in% later && (mean(shape(later) == shape(first[j])) < 0.8 || !grepl("[0-9]", first[j]))) return(FALSE)
    if (grepl(sure, first[j]) && mean(grepl(sure, later)) > 0.5) telling <- TRUE
  }
  telling
}

#' Rows that repeat the names of the columns, as printed pages do
#' @noRd
repeated_headers <- function(data) {
  if (ncol(data) < 2 || !is.character(data[[1]])) return(integer())
  at <- kernel_text_positions(data[[1]], names(data)[1])
  for (j in seq_along(data)[-1]) {
    if (!length(at)) return(at)
    at <- at[as.character(data[[j]][at]) %in% names(data)[j]]
  }
  at
}

#' Notes below a table: single cells behind a blank line, or that say what they are
#' @param text,width The lines of the file below the header, and their numbers of fields.
#' @return How many of the filled lines at the end they are.
#' @noRd
notes_below <- function(text, width, header) {
  filled <- which(nzchar(trimws(text)))
  last <- max(c(0L, which(width >= max(2, header / 2) & nzchar(trimws(text)))))
  tail <- filled[filled > last]
  if (!length(tail) || header < 2 || !last) return(0L)
  said <- grepl(paste0("^[\"' ]*([*\u2020#(\u00a9]|(source|notes?|generated|exported|report|page|end of|prepared|data as of|total rows|printed|copyright|",  # nolint: line_length_linter.
                       "figures|provisional|preliminary|quelle|anmerkung|stand)\\b)"), tolower(text[tail]))
  apart <- tail[1] > last + 1L
  if (apart || all(said)) length(tail) else 0L
}

#' A table of texts below its header, with the source that reads it again
#' @param kept What else the source keeps: its format, and where in the file the table is.
#' @noRd
table_of_cells <- function(path, cells, header, name, kept) {
  head <- header_rows(utils::head(cells[seq_len(nrow(cells)) >= header, , drop = FALSE], 40))
  names <- head$names %||% cells[header, ]
  skip <- header - 1L + head$rows
  columns <- which(!is.na(names))
  body <- cells[seq_len(nrow(cells)) > skip, columns, drop = FALSE]
  body <- body[rowSums(!is.na(body)) > 0, , drop = FALSE]
  if (!nrow(body)) return(NULL)
  mended <- mend_names(names[columns])
  data <- data.table::as.data.table(stats::setNames(as.data.frame(body, stringsAsFactors = FALSE), mended))
  dropped <- totals_row(data)
  if (dropped) data <- data[seq_len(nrow(data) - 1L), ]
  list(name = name, data = data, facts = label_facts(mended, head$labels[columns]),
       source = c(file_source(path, basename(path), kept$format, nrow(data)), kept[setdiff(names(kept), "format")],
                  list(skip = skip, columns = columns, names = mended, totals = dropped, unnamed = head$rows == 0L)))
}

#' Labels from a second line of a header, as facts of the columns
#' @noRd
label_facts <- function(names, labels) {
  if (is.null(labels)) return(NULL)
  told <- !is.na(labels) & labels != names
  stats::setNames(lapply(labels[told], function(l) list(label = l)), names[told])
}
