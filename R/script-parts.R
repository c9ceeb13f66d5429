# Building blocks of the base-R script behind an answer.

#' Access to a column of the rows used, whatever it is called
#' @noRd
script_column <- function(name, frame = "rows") sprintf("%s[[%s]]", frame, as_r_string(name))

#' The groups of the rows as one factor without empty levels: the column itself, or the columns crossed
#' @noRd
script_group <- function(by, frame = "rows") {
  keys <- sprintf("factor(%s)", vapply(by, script_column, "", frame))
  if (length(keys) == 1) return(sprintf("droplevels(%s)", keys))
  sprintf("interaction(%s, drop = TRUE, lex.order = TRUE, sep = \" & \")", paste(keys, collapse = ", "))
}

script_comment <- function(text) {
  text <- gsub("[\r\n]+", " ", text)
  paste("#", strwrap(text, 100))
}

#' Lines that read one source exactly as it was read for the answer
#' @noRd
script_read <- function(source, variable) {
  if (!is.null(source$parts)) return(script_read_parts(source, variable))
  file <- source$archive %||% source$path %||% source$file
  lines <- c(sprintf("# Source: %s (%s rows, SHA-256 %s)", gsub("[\r\n]", " ", source$file), source$rows,
                     source$sha256),
             sprintf("data_file <- %s", as_r_string(file)),
             "if (!file.exists(data_file)) data_file <- basename(data_file)  # or beside this script",
             if (!is.null(source$archive)) sprintf("data_file <- unzip(data_file, files = %s, exdir = tempfile())",
                                                   as_r_string(source$member)))
  c(lines, script_reader(source, variable),
    if (isTRUE(source$empty_rows > 0)) sprintf("%s <- %s[rowSums(!is.na(%s)) > 0, , drop = FALSE]; rownames(%s) <- NULL  # lines of delimiters alone", variable, variable,  # nolint: line_length_linter.
                                               variable, variable),
    if (isTRUE(source$notes > 0)) sprintf("%s <- utils::head(%s, -%d)  # notes below the table", variable, variable, source$notes),
    if (!is.null(source$names)) sprintf("names(%s) <- %s", variable,
      as_r_strings(source$names)),
    if (isTRUE(source$repeats > 0)) sprintf("%s <- %s[!(%s[[1]] %%in%% names(%s)[1] & %s[[2]] %%in%% names(%s)[2]), , drop = FALSE]  # names that come again",  # nolint: line_length_linter.
                                            variable, variable, variable, variable, variable, variable),
    if (isTRUE(source$totals)) sprintf("%s <- %s[seq_len(nrow(%s) - 1), , drop = FALSE]  # the last row holds totals",
                                       variable, variable, variable),
    if (isTRUE(source$blanks)) sprintf(paste0("%s[] <- lapply(%s, function(v) if (is.character(v)) replace(v, which(v == \"\"), NA) ",
        "else v)  # empty ",
        "is missing"),
                                       variable, variable),
    sprintf("stopifnot(nrow(%s) == %d)", variable, source$rows))
}

#' The pieces of a table, one after the other, each with what tells it apart
#' @noRd
script_read_parts <- function(source, variable) {
  pieces <- lapply(seq_along(source$parts), function(i) c(script_read(source$parts[[i]], "piece"),
    sprintf("piece[[%s]] <- %s", as_r_string(source$by), as_r_string(as.character(source$values[i]))),
    if (i == 1) sprintf("%s <- piece", variable) else sprintf("%s <- rbind(%s, piece[names(%s)])", variable, variable, variable)))
  c(unlist(pieces), sprintf("stopifnot(nrow(%s) == %d)", variable, source$rows))
}

#' The call that reads a source: base R for text, else the package that reads the format (the numbers stay base R's)
#' @noRd
script_reader <- function(source, variable) {
  typed <- function(call) sprintf("%s <- as.data.frame(%s)", variable, call)
  switch(source$format,
    frame = sprintf("%s <- readRDS(data_file)", variable),
    delimited = script_read_text(source, variable),
    workbook = script_read_sheet(source, variable),
    ods = script_read_ods(source, variable), html = script_read_html(source, variable),
    statistics = c(sprintf("%s <- haven::%s(data_file%s)", variable, source$reader,
                           if (source$reader == "read_sav") ", user_na = TRUE" else ""),
                   sprintf("plain <- function(v) { v <- haven::zap_labels(haven::zap_missing(v)); if (inherits(v, c(\"Date\", \"POSIXct\"))) v else as.vector(v) }"),  # nolint: line_length_linter.
                   sprintf("%s <- as.data.frame(lapply(%s, plain), check.names = FALSE)", variable, variable)),
    json = script_read_json(source, variable),
    parquet = typed("nanoparquet::read_parquet(data_file)"),
    sqlite = , duckdb = c(sprintf("connection <- DBI::dbConnect(%s)", if (source$format == "sqlite") "RSQLite::SQLite(), data_file"
                                  else "duckdb::duckdb(dbdir = data_file, read_only = TRUE)"),
               sprintf("%s <- DBI::dbReadTable(connection, %s, check.names = FALSE); DBI::dbDisconnect(connection)",
                       variable, as_r_string(source$table))))
}

#' Rows of a sheet by their numbers in it
#' @noRd
script_read_sheet <- function(source, variable) {
  c(sprintf("limits <- readxl::cell_limits(c(%d, NA), c(%s, NA))", source$skip + 1L, if (is.na(source$last)) "NA" else source$last),
    sprintf(paste0("%s <- as.data.frame(suppressMessages(readxl::read_excel(data_file, sheet = %s, range = limits, ",
                   "col_names = FALSE, guess_max = 1e5, na = c(\"\", \"NA\"), .name_repair = \"minimal\")))"), variable, as_r_string(source$sheet)),
    sprintf("%s <- %s[%s]", variable, variable, as_r_number(source$columns)),
    sprintf("%s <- %s[rowSums(!is.na(%s)) > 0, , drop = FALSE]", variable, variable, variable))
}

#' JSON by its layout: records, one record a line, records under a name, or rows with described columns
#' @noRd
script_read_json <- function(source, variable) {
  read <- function(text) sprintf("jsonlite::fromJSON(%s, flatten = TRUE)", text)
  rows <- if (isTRUE(source$nan)) "plain" else "readLines(data_file, warn = FALSE)"
  whole <- read(sprintf("paste(%s, collapse = \"\\n\")", rows))
  flat <- sprintf("%s[] <- lapply(%s, function(v) if (is.list(v)) vapply(v, function(e) paste(unlist(e), collapse = \", \"), \"\") else v)",
      variable, variable)
  lines <- switch(source$layout %||% "records",
    records = sprintf("%s <- as.data.frame(%s)", variable, whole),
    lines = sprintf("%s <- as.data.frame(%s)", variable,
        read(sprintf("paste0(\"[\", paste(Filter(nzchar, trimws(%s)), collapse = \",\"), \"]\")", rows))),
    columns = c(sprintf("parsed <- %s", whole),
                sprintf(paste0("%s <- as.data.frame(lapply(parsed, function(v) if (is.list(v)) unlist(lapply(v, function(e) if (length(e)) e else NA), ",  # nolint: line_length_linter.
                               "use.names = FALSE) else v), check.names = FALSE)"), variable)),
    split = c(sprintf("parsed <- %s", whole), sprintf("%s <- as.data.frame(parsed$data); %s[] <- lapply(%s, utils::type.convert, as.is = TRUE)",
              variable, variable, variable)),
    dataset = return(c(sprintf("parsed <- %s", whole),
                sprintf(paste0("%s <- as.data.frame(do.call(rbind, lapply(if (is.matrix(parsed$rows))",
                    " asplit(parsed$rows, 1) else parsed$rows, function(r) vapply(r, function(v)",
                    " as.character(if (is.null(v)) NA else v), \"\"))), stringsAsFactors = FALSE)"), variable),
                sprintf("%s[] <- lapply(%s, function(v) { v[!nzchar(v)] <- NA; v })", variable, variable))),
    sprintf("%s <- as.data.frame(%s[[%s]])", variable, whole, as_r_string(source$layout)))
  c(if (isTRUE(source$nan)) c("# JSON has no NaN: outside of texts it stands for a missing value", sprintf(
      "plain <- gsub(%s, \"null\", readLines(data_file, warn = FALSE), perl = TRUE)", as_r_string(bare_nan()))), lines, flat)
}

#' A sheet of an OpenDocument spreadsheet, cell by cell, as text
#' @noRd
script_read_ods <- function(source, variable) {
  c("content <- xml2::read_xml(unzip(data_file, files = \"content.xml\", exdir = tempfile()))",
    sprintf("sheet <- Filter(function(s) xml2::xml_attr(s, \"name\") == %s, xml2::xml_find_all(content, \"//table:table\"))[[1]]",
        as_r_string(source$sheet)),
    "read_row <- function(row) {",
    "  cells <- xml2::xml_find_all(row, \"./table:table-cell|./table:covered-table-cell\")",
    "  text <- vapply(cells, function(cell) {",
    "    kept <- c(sub(\"T00:00:00$\", \"\", xml2::xml_attr(cell, \"date-value\")), xml2::xml_attr(cell, \"value\"))",
    "    c(kept[!is.na(kept)], paste(xml2::xml_text(xml2::xml_find_all(cell, \"./text:p\")), collapse = \"\\n\"))[1]",
    "  }, \"\")",
    "  times <- as.integer(xml2::xml_attr(cells, \"number-columns-repeated\", default = \"1\"))",
    "  empty <- !nzchar(text) | text %in% \"NA\"; text[empty] <- NA; times[empty & times > 200] <- 1L",
    "  rep(text, times)",
    "}",
    "sheet_rows <- xml2::xml_find_all(sheet, \".//table:table-row\")",
    "cells <- lapply(sheet_rows, read_row)",
    "filled <- vapply(cells, function(v) any(!is.na(v)), NA)",
    "again <- as.integer(xml2::xml_attr(sheet_rows, \"number-rows-repeated\", default = \"1\"))",
    "cells <- rep(cells[filled], again[filled])",
    script_cells(source, variable))
}

#' A table out of the cells of its rows, a list of texts for each row
#' @noRd
script_cells <- function(source, variable) {
  c(sprintf("%s <- as.data.frame(do.call(rbind, lapply(cells[seq_along(cells) > %d], `[`, %s)), stringsAsFactors = FALSE)", variable,
            as.integer(source$skip), as_r_number(source$columns)),
    sprintf("%s <- %s[rowSums(!is.na(%s)) > 0, , drop = FALSE]", variable, variable, variable))
}

#' A table of a web page, cell by cell, as text
#' @noRd
script_read_html <- function(source, variable) {
  c(sprintf("page <- xml2::xml_find_all(xml2::read_html(data_file), \"//table[not(.//table)]\")[[%d]]", source$place),
    "cells <- lapply(xml2::xml_find_all(page, \".//tr\"), function(row) {",
    "  found <- xml2::xml_find_all(row, \"./td|./th\")",
    "  text <- trimws(gsub(\"[\\\\s\\u00a0]+\", \" \", xml2::xml_text(found), perl = TRUE)); text[text %in% c(\"\", \"NA\")] <- NA",
    "  rep(text, as.integer(xml2::xml_attr(found, \"colspan\", default = \"1\")))",
    "})",
    "cells <- cells[vapply(cells, function(v) any(!is.na(v)), NA)]",
    script_cells(source, variable))
}

#' Columns that stand at fixed places
#' @noRd
script_read_fixed <- function(source, variable) {
  c(sprintf("lines <- readLines(data_file, warn = FALSE, encoding = \"UTF-8\"); lines <- lines[seq_along(lines) > %d]", as.integer(source$skip)),
    "lines <- lines[nzchar(trimws(lines))][-1]",
    sprintf("from <- %s; to <- c(from[-1] - 1, 1e6)", as_r_number(source$cuts)),
    sprintf("%s <- as.data.frame(Map(function(a, b) trimws(substr(lines, a, b)), from, to), stringsAsFactors = FALSE)", variable),
    sprintf("%s[] <- lapply(%s, function(v) replace(v, v %%in%% c(\"\", \"NA\"), NA))", variable, variable))
}

script_read_text <- function(source, variable) {
  if (length(source$cuts)) return(script_read_fixed(source, variable))
  # where lines differ in length, the line of names is passed over and what stands behind the last column is dropped
  uneven <- isTRUE(source$ragged)
  c(sprintf("%s <- read.table(data_file, header = %s, sep = %s, quote = %s, colClasses = \"character\", skip = %d,", variable,
            !identical(source$header, FALSE) && !uneven, as_r_string(if (identical(source$sep, " ")) "" else source$sep),
                as_r_string(source$mark %||% "\""),
            as.integer((if (uneven) source$body else source$skip) %||% 0L)),
    "  na.strings = c(\"\", \"NA\"), check.names = FALSE, comment.char = \"\", strip.white = TRUE,",
    if (uneven) sprintf("  flush = TRUE, col.names = paste0(\"V\", 1:%d),", max(length(source$names), source$widest)),
    sprintf("  fill = %s, encoding = \"UTF-8\", fileEncoding = %s)", isTRUE(source$ragged),
            as_r_string(source$encoding %||% "UTF-8-BOM")),
    if (uneven && isTRUE(source$widest > length(source$names))) sprintf("%s <- %s[seq_len(%d)]  # nothing stands behind the last column", variable,
      variable, length(source$names)))
}

#' Lines that give a column its kind, from text
#' @noRd
script_convert <- function(col, variable, typed) {
  at <- sprintf("%s[[%s]]", variable, as_r_string(col$name))
  numeric <- isTRUE(col$numeric)
  plain <- numeric && is.null(col$style)
  raw <- if (plain) sprintf("as.numeric(%s)", at) else if (typed) at else sprintf("as.character(%s)", at)
  lines <- character()
  if (length(col$recode)) {
    lines <- script_recode(col$recode, at)
    raw <- if (plain) sprintf("as.numeric(%s)", at) else at
  }
  if (length(col$missing_codes)) {
    lines <- c(lines, sprintf("%s <- %s", at, raw), sprintf("%s[%s %%in%% %s] <- NA  # codes for missing", at, at,
      if (is.numeric(col$missing_codes)) as_r_number(col$missing_codes) else as_r_strings(as.character(col$missing_codes))))
    raw <- at
  }
  value <- if (numeric && !plain) script_styled_number(raw, col$style) else raw
  c(lines, sprintf("%s <- %s", at, script_kind(col, value, at, numeric, typed)))
}

#' Values read as others
#' @noRd
script_recode <- function(recode, at) {
  c(sprintf("recode <- c(%s)", paste(as_r_string(names(recode)), "=", as_r_string(unname(recode)), collapse = ", ")),
    sprintf("%s <- as.character(%s)", at, at),
    sprintf("hit <- !is.na(%s) & %s %%in%% names(recode); %s[hit] <- recode[%s[hit]]", at, at, at, at))
}

script_kind <- function(col, value, at, numeric, typed) {
  switch(col$kind,
    number = , count = value,
    # (a number that is the same in every row is still described)
    constant = if (numeric) value else sprintf("as.character(%s)", value),
    ordered = , category = , yes_no = script_levels(col, value, numeric),
    date = script_date(if (numeric && !identical(col$format, "day number")) sprintf("as.character(%s)", value) else value, col$format, typed),
    datetime = if (typed) sprintf("as.POSIXct(%s, tz = \"UTC\")", value)
      else if (identical(col$format, "stamp")) sprintf(paste0("as.POSIXct({ stamp <- sub(\"^(.{10})T\", \"\\\\1 \", %s); ",
        "ifelse(grepl(\":[0-9]{2}:[0-9]{2}\", stamp), stamp, sub(\"^(.{16}).*$\", \"\\\\1:00\", stamp)) }, format = \"%%Y-%%m-%%d %%H:%%M:%%OS\", tz = \"UTC\")"), value)  # nolint: line_length_linter.
      else sprintf("as.POSIXct(%s, format = %s, tz = \"UTC\")", value,
                   as_r_string(col$format %||% "%Y-%m-%d %H:%M:%S")),
    sprintf("as.character(%s)", if (numeric) at else value))
}

#' Dates from text, periods by their first day
#' @noRd
script_date <- function(value, format, typed) {
  if (typed && is.null(format)) return(sprintf("as.Date(%s)", value))
  format <- format %||% "%Y-%m-%d"
  year <- sprintf("sub(\"^.*?((19|20)[0-9]{2}).*$\", \"\\\\1\", %s, perl = TRUE)", value)
  if (format == "day number") return(sprintf("as.Date(as.numeric(%s), origin = \"1899-12-30\")  # day numbers of a spreadsheet", value))
  if (format == "quarter") {
    return(sprintf("as.Date(sprintf(\"%%s-%%02d-01\", %s, 3L * as.integer(sub(\"^.*[Qq]([1-4]).*$\", \"\\\\1\", %s)) - 2L), \"%%Y-%%m-%%d\")",
      year, value))
  }
  if (format == "week") {
    return(sprintf(paste0("local({ fourth <- as.Date(paste0(%s, \"-01-04\"), \"%%Y-%%m-%%d\"); fourth - (as.integer(format(fourth, \"%%u\")) - 1L) + ",  # nolint: line_length_linter.
                          "7L * (as.integer(sub(\"^.*[Ww]([0-9]{1,2}).*$\", \"\\\\1\", %s)) - 1L) })  # the Monday of each week"), year, value))
  }
  if (names_months(format)) return(sprintf("as.Date(paste(\"1\", %s), %s)", value, as_r_string(paste("%d", format))))
  sprintf("as.Date(%s, %s)", value, as_r_string(format))
}

script_levels <- function(col, value, numeric) {
  stored <- col$codes %||% col$levels
  if (numeric) return(sprintf("factor(%s, levels = %s, labels = %s)", value, as_r_number(as.numeric(stored)),
                              as_r_strings(col$levels)))
  sprintf("factor(as.character(%s), levels = %s%s)", value, as_r_strings(stored),
          if (is.null(col$codes)) "" else sprintf(", labels = %s", as_r_strings(col$levels)))
}

#' Numbers written with marks, signs or units
#' @noRd
script_styled_number <- function(value, style) {
  if (identical(style$clock, TRUE)) return(script_clock(value, style))
  bare <- sprintf("as.character(%s)", value)
  if (isTRUE(style$signs)) {
    bare <- sprintf(paste0("sub(\"^([0-9][0-9.,]*)-$\", \"-\\\\1\", sub(\"^\\\\s*\\\\(([^()]*)\\\\)\\\\s*$\", \"-\\\\1\", ",
                           "sub(\"^\\\\s*[\\u2212\\u2013]\", \"-\", %s)))"), bare)
  }
  if (isTRUE(style$multiply)) bare <- sprintf("sub(\"[KkMm]\\\\s*$\", \"\", %s)", bare)
  if (nzchar(style$strip)) bare <- sprintf("gsub(%s, \"\", %s)", as_r_string(style$strip), bare)
  if (nzchar(style$group)) bare <- sprintf("gsub(%s, \"\", %s, fixed = TRUE)", as_r_string(style$group), bare)
  if (style$decimal != ".") bare <- sprintf("sub(%s, \".\", %s, fixed = TRUE)", as_r_string(style$decimal), bare)
  number <- sprintf("as.numeric(gsub(\"[\\u00a0\\u202f]\", \"\", %s))", bare)
  if (!isTRUE(style$multiply)) return(number)
  sprintf("%s * ifelse(grepl(\"[Kk]\\\\s*$\", %s), 1e3, ifelse(grepl(\"[Mm]\\\\s*$\", %s), 1e6, 1))", number, value,
          value)
}

#' Clock times and durations as one number
#' @noRd
script_clock <- function(value, style) {
  sprintf("vapply(strsplit(as.character(%s), \":\", fixed = TRUE), function(p) sum(as.numeric(p) * %s[seq_along(p)]), 1)  # in %s", value,
          as_r_number(style$shares), style$unit)
}

#' Lines for one condition on the rows
#' @noRd
script_filter <- function(f, col, variable = "data") sprintf("keep <- keep & %s", script_test(f, col, variable))

#' The expression that is TRUE for the rows that meet a condition, and FALSE for missing values
#' @noRd
script_test <- function(f, col, variable = "data") {
  at <- sprintf("%s[[%s]]", variable, as_r_string(f$column))
  if (f$op == "is_missing") return(sprintf("is.na(%s)", at))
  if (f$op == "not_missing") return(sprintf("!is.na(%s)", at))
  value <- unlist(f$value)
  ranked <- col$kind == "ordered" && f$op %in% c("<", "<=", ">", ">=", "between")
  if (ranked && !anyNA(match(as.character(value), col$levels))) {
    at <- sprintf("as.integer(%s)", at); text <- as_r_number(match(as.character(value), col$levels))
  } else if (ranked) { at <- sprintf("as.numeric(as.character(%s))", at); text <- as_r_number(as.numeric(value)) }
  else if (is_level_kind(col$kind) || col$kind %in% c("id", "text", "constant")) {
    at <- sprintf("as.character(%s)", at); text <- as_r_strings(as.character(value)) }
  else if (col$kind == "date") text <- sprintf("as.Date(%s)", as_r_strings(as.character(value)))
  else if (col$kind == "datetime" && says_days(value)) {
    at <- sprintf("as.Date(%s, tz = \"UTC\")", at); text <- sprintf("as.Date(%s)", as_r_strings(as.character(value)))
  } else if (col$kind == "datetime") text <- sprintf("as.POSIXct(%s, tz = \"UTC\")", as_r_strings(as.character(value)))
  else text <- as_r_number(as.numeric(value))
  test <- switch(f$op, between = sprintf("(%s >= %s[1] & %s <= %s[2])", at, text, at, text),
                 "in" = sprintf("%s %%in%% %s", at, text),
                 not_in = sprintf("!(%s %%in%% %s)", at, text), sprintf("%s %s %s", at, f$op, text))
  sprintf("!is.na(%s) & %s", at, test)
}

#' Bring columns of a second table to the rows of the first by their key
#' @noRd
script_join <- function(join, columns) {
  c(sprintf("at <- match(as.character(data[[%s]]), as.character(other[[%s]]))  # many rows to one", as_r_string(join$key), as_r_string(join$one_key)),
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
    paste0("  if (is.numeric(values)) for (i in seq_along(values)) cat(\"table\", id, i, column, ",
           "show_value(as.numeric(values[i])), sep = \"\\t\", fill = FALSE, \"\\n\")"),
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
