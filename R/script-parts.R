# Building blocks of the base-R script behind an answer.

#' Access to a column of the rows used, whatever it is called
#' @noRd
script_column <- function(name) sprintf("rows[[%s]]", as_r_string(name))

script_comment <- function(text) {
  text <- gsub("[\r\n]+", " ", text)
  paste("#", strwrap(text, 100))
}

#' Lines that read one source exactly as it was read for the answer
#' @noRd
script_read <- function(source, variable) {
  lines <- c(sprintf("# Source: %s (%s rows, SHA-256 %s)", gsub("[\r\n]", " ", source$file), source$rows,
                     source$sha256),
             sprintf("data_file <- %s", as_r_string(source$path %||% source$file)),
             "if (!file.exists(data_file)) data_file <- basename(data_file)  # or beside this script")
  read <- if (source$format == "frame") sprintf("%s <- readRDS(data_file)", variable)
  else c(sprintf("%s <- read.table(data_file, header = TRUE, sep = %s, quote = \"\\\"\", colClasses = \"character\",",
                 variable, as_r_string(source$sep)),
         "  na.strings = c(\"\", \"NA\"), check.names = FALSE, comment.char = \"\", strip.white = TRUE,",
         "  fill = FALSE, encoding = \"UTF-8\", fileEncoding = \"UTF-8-BOM\")")
  c(lines, read, if (!is.null(source$names)) sprintf("names(%s) <- %s", variable, as_r_strings(source$names)),
    sprintf("stopifnot(nrow(%s) == %d)", variable, source$rows))
}

#' Lines that give a column its kind, from text
#' @noRd
script_convert <- function(col, variable, frame_source) {
  at <- sprintf("%s[[%s]]", variable, as_r_string(col$name))
  numeric <- isTRUE(col$numeric)
  lines <- character()
  value <- if (numeric) sprintf("as.numeric(%s)", at) else if (frame_source) at else sprintf("as.character(%s)", at)
  if (length(col$missing_codes)) {
    lines <- c(lines, sprintf("%s <- %s", at, value), sprintf("%s[%s %%in%% %s] <- NA  # codes for missing", at, at,
      if (numeric) as_r_number(col$missing_codes) else as_r_strings(as.character(col$missing_codes))))
    value <- at
  }
  convert <- switch(col$kind,
    number = , count = value,
    ordered = , category = , yes_no = if (numeric) sprintf("factor(%s, levels = %s, labels = %s)", value,
                                                           as_r_number(as.numeric(col$levels)),
                                                           as_r_strings(col$levels))
      else sprintf("factor(as.character(%s), levels = %s)", value, as_r_strings(col$levels)),
    date = if (frame_source) sprintf("as.Date(%s)", value) else sprintf("as.Date(%s, %s)", value,
        as_r_string(col$format)),
    datetime = sprintf("as.POSIXct(%s, format = %s, tz = \"UTC\")", value,
                       as_r_string(col$format %||% "%Y-%m-%d %H:%M:%S")),
    if (numeric) sprintf("as.character(%s)", at) else sprintf("as.character(%s)", value))
  c(lines, sprintf("%s <- %s", at, convert))
}

#' Lines for one condition on the rows
#' @noRd
script_filter <- function(f, col, variable = "data") {
  at <- sprintf("%s[[%s]]", variable, as_r_string(f$column))
  if (f$op == "is_missing") return(sprintf("keep <- keep & is.na(%s)", at))
  if (f$op == "not_missing") return(sprintf("keep <- keep & !is.na(%s)", at))
  value <- unlist(f$value)
  ranked <- col$kind == "ordered" && f$op %in% c("<", "<=", ">", ">=", "between")
  if (ranked && !anyNA(match(as.character(value), col$levels))) {
    at <- sprintf("as.integer(%s)", at); text <- as_r_number(match(as.character(value), col$levels))
  } else if (ranked) { at <- sprintf("as.numeric(as.character(%s))", at); text <- as_r_number(as.numeric(value)) }
  else if (is_level_kind(col$kind) || col$kind %in% c("id", "text", "constant")) {
    at <- sprintf("as.character(%s)", at); text <- as_r_strings(as.character(value)) }
  else if (col$kind == "date") text <- sprintf("as.Date(%s)", as_r_strings(as.character(value)))
  else if (col$kind == "datetime") text <- sprintf("as.POSIXct(%s, tz = \"UTC\")", as_r_strings(as.character(value)))
  else text <- as_r_number(as.numeric(value))
  test <- switch(f$op, between = sprintf("(%s >= %s[1] & %s <= %s[2])", at, text, at, text),
                 "in" = sprintf("%s %%in%% %s", at, text),
                 not_in = sprintf("!(%s %%in%% %s)", at, text), sprintf("%s %s %s", at, f$op, text))
  sprintf("keep <- keep & !is.na(%s) & %s", at, test)
}

#' Bring columns of a second table to the rows of the first by their key
#' @noRd
script_join <- function(join, columns) {
  key <- as_r_string(join$key)
  c(sprintf("at <- match(as.character(data[[%s]]), as.character(other[[%s]]))  # many rows to one", key, key),
    vapply(columns, function(name) sprintf("data[[%s]] <- other[[%s]][at]", as_r_string(name), as_r_string(name)), ""))
}

#' The lines at the end: print every number under its id, and the tables cell by cell
#' @noRd
script_print <- function() {
  c("", "# ---- print every number under its id ----",
    "show_value <- function(v) if (is.na(v)) \"NA\" else format(v, digits = 17)",
    "for (id in names(numbers)) cat(\"number\", id, show_value(as.numeric(numbers[[id]])), sep = \"\\t\", fill = FALSE, \"\\n\")",
    "for (id in names(tables)) for (column in names(tables[[id]])) {",
    "  values <- tables[[id]][[column]]",
    "  if (is.numeric(values)) for (i in seq_along(values)) cat(\"table\", id, i, column, show_value(as.numeric(values[i])), sep = \"\\t\", fill = FALSE, \"\\n\")",
    "}")
}

#' The answer's own numbers as comments at the end of the script, for `quill retrace`
#' @noRd
script_manifest <- function(numbers, tables) {
  exact <- function(v) if (is.na(v)) "NA" else format(v, digits = 17)
  lines <- vapply(numbers, function(n) paste("#:", "number", n$id, exact(n$value), sep = "\t"), "")
  cells <- unlist(lapply(tables, function(t) unlist(lapply(names(t$data), function(column) {
    v <- t$data[[column]]
    if (!is.numeric(v)) return(NULL)
    vapply(seq_along(v), function(i) paste("#:", "table", t$id, i, column, exact(v[i]), sep = "\t"), "")
  }))))
  c("", "# ---- the answer's own numbers; quill retrace compares them with those printed above ----", lines, cells)
}
