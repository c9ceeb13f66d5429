# Columns of a study: finding them and reading their values as understood.

#' All columns of the tables in use, one entry each: list(table, column record)
#' @noRd
all_columns <- local({
  # (one question looks through them some hundred times)
  key <- NULL
  kept <- NULL
  function(study) {
    tables <- data_tables(study)
    own <- list(vapply(tables, `[[`, "", "name"), lapply(tables, `[[`, "columns"))
    if (!identical(own, key)) {
      kept <<- unlist(lapply(unname(tables), used_columns), recursive = FALSE) %||% list()
      key <<- own
    }
    kept
  }
})

used_columns <- function(table) {
  used <- Filter(function(col) !identical(col$used, FALSE), unname(table$columns))
  lapply(used, function(col) c(col, list(table = table$name)))
}

column_names <- function(study) unique(vapply(all_columns(study), `[[`, "", "name"))

#' The record of a column by its exact name; the first table that has it wins
#' @noRd
find_column <- function(study, name, table = NULL, call = NULL) {
  for (t in data_tables(study)) {
    if (!is.null(table) && t$name != table) next
    col <- t$columns[[name]]
    if (!is.null(col)) return(c(col, list(table = t$name)))
  }
  known <- column_names(study)
  stop_column_unknown(name, known, nearest_names(name, known), call = call)
}

nearest_names <- function(name, known, most = 3) {
  if (!length(known)) return(character())
  distance <- stringdist::stringdist(tolower(name), tolower(known), method = "osa") / pmax(nchar(name), nchar(known))
  known[order(distance, known, method = "radix")][seq_len(min(most, sum(distance < 0.6)))]
}

#' Values of a column as understood: codes removed, kinds applied
#'
#' @param rows Row numbers, or NULL for all.
#' @section Shape: double for number and count, factor for ordered, category and
#'   yes_no, Date, POSIXct, character for text and id.
#' @noRd
understood <- function(study, name, table = NULL, rows = NULL) {
  col <- find_column(study, name, table)
  raw <- study$tables[[col$table]]$data[[name]]
  if (!is.null(rows)) raw <- raw[rows]
  understand(raw, col)
}

understand <- function(raw, col) {
  if (length(col$recode)) raw <- recode_values(raw, col$recode)
  if (length(col$missing_codes)) raw[raw %in% col$missing_codes] <- NA
  if (is.character(raw) && col$numeric) raw <- as_numbers(raw, col$style)
  switch(col$kind,
    number = , count = as.double(raw),
    ordered = , category = , yes_no = as_levels(raw, col$levels, col$codes),
    date = as_date(raw, col$format),
    datetime = as_stamp(raw, col$format),
    constant = if (is.numeric(raw)) as.double(raw) else as.character(raw),
    as.character(raw))
}

#' Stored values replaced by others, as an amendment says: c("Nroth" = "North")
#' @noRd
recode_values <- function(raw, recode) {
  if (is.numeric(raw)) {
    from <- suppressWarnings(as.numeric(names(recode)))
    to <- suppressWarnings(as.numeric(recode))
    if (anyNA(to)) return(recode_values(plain_text_values(raw), recode))
    at <- match(raw, from)
    return(ifelse(is.na(at), raw, to[at]))
  }
  raw <- as.character(raw)
  at <- match(raw, names(recode))
  ifelse(is.na(at), raw, unname(recode)[at])
}

#' Numbers as the file would show them, missing ones missing
#' @noRd
plain_text_values <- function(x) {
  values <- unique(x[!is.na(x)])
  format_plain(values)[match(x, values)]
}

#' Factor with the column's levels, without going through text for long numeric columns
#' @noRd
as_levels <- function(raw, levels, codes = NULL) {
  if (!is.null(codes)) {
    # stored codes (1, 2) stand for labelled levels
    numbers <- suppressWarnings(as.numeric(codes))
    code <- if (is.numeric(raw) && !anyNA(numbers)) number_codes(raw, numbers) else text_codes(as.character(raw), codes)
    return(structure(code, levels = levels, class = "factor"))
  }
  if (is.factor(raw)) return(factor(as.character(raw), levels = levels))
  if (is.numeric(raw)) {
    numbers <- suppressWarnings(as.numeric(levels))
    code <- if (anyNA(numbers)) text_codes(as.character(raw), levels) else number_codes(raw, numbers)
  } else {
    code <- text_codes(as.character(raw), levels)
  }
  # set in place: the codes of a long column are not copied
  data.table::setattr(code, "levels", as.character(levels))
  data.table::setattr(code, "class", "factor")
  code
}

#' Positions of numbers among a few: whole numbers of a narrow range are looked up in a table instead of hashed
#' @noRd
number_codes <- function(raw, numbers) {
  if (!is.integer(raw) || is.object(raw) || length(raw) < 1e5) return(match(raw, numbers))
  limits <- suppressWarnings(c(min(raw, na.rm = TRUE), max(raw, na.rm = TRUE)))
  if (!all(is.finite(limits)) || limits[2] - limits[1] > 1e5) return(match(raw, numbers))
  match(limits[1]:limits[2], numbers)[raw - (limits[1] - 1L)]
}

#' How often each level of a column occurs, without writing down every row's level
#' @noRd
level_counts <- function(raw, col) {
  stored <- col$codes %||% col$levels
  plain <- is.character(raw) && !length(col$recode) && !is.null(stored) && all(stringi::stri_enc_isascii(stored)) && !anyDuplicated(stored)
  if (plain) return(stats::setNames(kernel_text_counts(raw, as.character(stored)), col$levels))
  numbers <- if (is.integer(raw) && !is.object(raw) && !length(col$recode) && !is.null(stored)) suppressWarnings(as.numeric(stored)) else NA
  if (!anyNA(numbers) && min(numbers) >= 0 && max(numbers) <= 1000 && all(numbers %% 1 == 0)) {
    return(stats::setNames(tabulate(raw + 1L, 1001)[numbers + 1], col$levels))
  }
  x <- understand(raw, col)
  stats::setNames(tabulate(x, nlevels(x)), levels(x))
}

#' The numbers of a column as doubles or as the whole numbers that were read, whichever need not be copied
#' @noRd
numbers_of <- function(raw, col) {
  if (is.numeric(raw) && !is.object(raw) && !length(col$recode) && !length(col$missing_codes)) raw else understand(raw, col)
}

as_date <- function(raw, format) {
  if (inherits(raw, "Date")) return(structure(as.numeric(raw), class = "Date"))
  if (identical(format, "day number")) return(as.Date(suppressWarnings(as.numeric(raw)), origin = "1899-12-30"))
  read_dates(as.character(raw), format)
}

as_stamp <- function(raw, format) {
  if (inherits(raw, "POSIXct")) return(raw)
  if (!identical(format, "stamp")) return(as.POSIXct(as.character(raw), format = format, tz = "UTC"))
  # with and without a T or seconds
  plain <- sub("^(.{10})T", "\\1 ", as.character(raw))
  plain <- ifelse(grepl(":[0-9]{2}:[0-9]{2}", plain), plain, sub("^(.{16}).*$", "\\1:00", plain))
  as.POSIXct(plain, format = "%Y-%m-%d %H:%M:%OS", tz = "UTC")
}

is_numeric_kind <- function(kind) kind %in% c("number", "count")
is_level_kind <- function(kind) kind %in% c("ordered", "category", "yes_no")

#' Levels to group by, also for a number with few distinct values
#' @noRd
group_levels <- function(study, name, table = NULL) {
  col <- find_column(study, name, table)
  if (!is.null(col$levels)) return(col$levels)
  x <- understood(study, name, table)
  values <- sort(unique(x[!is.na(x)]), method = "radix")
  if (is.numeric(values)) format_plain(values) else as.character(values)
}

#' Codes and labels of a grouping column
#' @noRd
as_group <- function(x) {
  if (is.factor(x)) return(droplevels(x))
  if (is.list(x)) {
    stop_data("Cells of several answers make no groups.", todo = "Ask about one of the answers, or count them.", class = "several_answers")
  }
  values <- sort(unique(x[!is.na(x)]), method = "radix")
  labels <- if (is.numeric(x) && !inherits(x, c("Date", "POSIXct"))) format_plain(values) else as.character(values)
  structure(match(x, values), levels = labels, class = "factor")
}

#' Label to print: the declared label, else the name with its underscores and dots opened up
#' @noRd
column_title <- function(col) {
  # EngineSize reads "Engine size" and LengthOfStay "Length of stay"; pH and HbA1c stay as they are
  opened <- gsub("(?<=[a-z])(Of|To|In|At|On|By|Per|For|And)([A-Z])(?=[a-z])", " \\L\\1 \\2", trimws(gsub("[_.]+", " ", col$name)), perl = TRUE)
  title <- col$label %||% gsub("(?<=[a-z]{2})([A-Z])(?=[a-z])", " \\L\\1", opened, perl = TRUE)
  sub("\\s*\\([^)]*\\)$", "", title)
}

#' The columns of keys: those that tell the single rows of their table apart, or those of which each value has several rows
#' @noRd
keys_of <- function(study, single) {
  Filter(function(col) (col$distinct == nrow(study$tables[[col$table]]$data)) == single, key_columns(study))
}

#' All columns of keys
#' @noRd
key_columns <- function(study) Filter(function(col) col$kind == "id", all_columns(study))

#' Words of a name that only say that it is a key
#' @noRd
key_words <- function() c("id", "no", "number", "nr", "code", "key")

#' What a key is a key of ("appointment" of appointment_id)
#' @noRd
key_noun <- function(name) sub(sprintf("[_. ]?(%s)$", paste(key_words(), collapse = "|")), "", name)

#' The columns that hold numbers
#' @noRd
numeric_columns <- function(study) Filter(function(col) is_numeric_kind(col$kind), all_columns(study))

#' The columns that hold dates or times
#' @noRd
dated_columns <- function(study) Filter(function(col) col$kind %in% c("date", "datetime"), all_columns(study))

#' The columns that say yes or no
#' @noRd
yes_no_columns <- function(study) Filter(function(col) col$kind == "yes_no", all_columns(study))

#' Can the column's values make groups?
#' @noRd
groupable <- function(col) is_level_kind(col$kind) || (is_numeric_kind(col$kind) && col$distinct <= 12)
