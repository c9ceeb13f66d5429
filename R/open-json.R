# JSON records, one record a line, and the two open formats that carry their own column descriptions.

#' @noRd
open_json <- function(path) {
  text <- plain_text_file(path)
  lines <- readLines(text$path, warn = FALSE, encoding = "UTF-8")
  plain <- nulls_for_nan(lines)
  opened <- open_json_lines(path, plain)
  # (a script has to do the same)
  if (identical(plain, lines)) opened else lapply(opened, function(o) { o$source$nan <- TRUE; o })
}

open_json_lines <- function(path, lines) {
  label <- quoted(basename(path))
  layout <- "records"
  parsed <- tryCatch(jsonlite::fromJSON(paste(lines, collapse = "\n"), flatten = TRUE), error = function(e) NULL)
  if (is.null(parsed)) {
    layout <- "lines"
    filled <- lines[nzchar(trimws(lines))]
    parsed <- tryCatch(jsonlite::fromJSON(paste0("[", paste(filled, collapse = ","), "]"), flatten = TRUE),
                       error = function(e) {
      stop_input(sprintf("%s is not JSON that can be read.", label), paste(c(bad_json_line(lines), first_line(conditionMessage(e))), collapse = ": "),
                 "Mend it, or export the file again.", class = "file_unreadable")
    })
  }
  if (is.list(parsed) && !is.data.frame(parsed)) {
    if (!is.null(parsed$resources)) return(open_data_package(path, parsed))
    if (!is.null(parsed$columns) && !is.null(parsed$rows)) return(list(open_dataset_json(path, parsed)))
    records <- Filter(is.data.frame, parsed)
    if (!length(records) && !is.null(by_column <- json_columns(parsed))) {
      layout <- by_column$layout
      parsed <- by_column$data
    }
    if (length(records) == 1) {
      layout <- names(records)
      parsed <- records[[1]]
    }
  }
  if (!is.data.frame(parsed) || !nrow(parsed)) {
    stop_input(sprintf("%s holds no list of records.", label),
               todo = "A table in JSON is a list of objects with the same keys.", class = "file_no_rows")
  }
  list(json_table(path, parsed, list(), layout))
}

#' NaN and Infinity outside of texts, which some programs write though JSON has no such numbers, as null
#' @noRd
nulls_for_nan <- function(lines) {
  some <- grepl("NaN|Infinity", lines)
  lines[some] <- gsub(bare_nan(), "null", lines[some], perl = TRUE)
  lines
}

bare_nan <- function() "\"(?:[^\"\\\\]++|\\\\.)*+\"(*SKIP)(*FAIL)|-?\\b(?:NaN|Infinity)\\b"

#' Where lines hold a record each: the first line that holds none
#' @noRd
bad_json_line <- function(lines) {
  filled <- which(nzchar(trimws(lines)))
  if (!length(filled) || mean(grepl("^\\s*\\{.*\\}\\s*,?\\s*$", lines[filled])) < 0.5) return(NULL)
  for (i in filled) if (!jsonlite::validate(sub(",\\s*$", "", lines[i]))) return(sprintf("Line %d", i))
}

#' Values kept column by column: an array for each column, an object of numbered values for each, or rows as arrays beside their names
#' @noRd
json_columns <- function(parsed) {
  if (!is.null(parsed$columns) && is.matrix(parsed$data)) {
    typed <- lapply(seq_len(ncol(parsed$data)), function(j) utils::type.convert(parsed$data[, j], as.is = TRUE))
    return(list(layout = "split", data = as.data.frame(stats::setNames(typed,
      parsed$columns), check.names = FALSE, stringsAsFactors = FALSE)))
  }
  if (length(parsed) < 1 || is.null(names(parsed))) return(NULL)
  flat <- lapply(parsed, function(v) {
    if (is.list(v) && length(v) && all(lengths(v) <= 1)) unlist(lapply(v, function(e) if (length(e)) e else NA)) else v
  })
  size <- unique(lengths(flat))
  if (length(size) != 1 || size < 2 || !all(vapply(flat, is.atomic, NA))) return(NULL)
  list(layout = "columns", data = as.data.frame(lapply(flat, unname), check.names = FALSE, stringsAsFactors = FALSE, optional = TRUE))
}

json_table <- function(path, records, facts, layout = "records") {
  plain <- lapply(records, function(v) {
    if (is.list(v)) v <- vapply(v, function(e) if (length(e)) paste(unlist(e), collapse = ", ") else NA_character_, "")
    if (is.character(v)) v[!nzchar(v)] <- NA
    v
  })
  data <- data.table::as.data.table(plain)
  names <- mend_names(names(records))
  data.table::setnames(data, names)
  list(name = table_name(basename(path)), data = data, facts = facts,
       source = c(file_source(path, basename(path), "json", nrow(data)), list(names = names, layout = layout)))
}

#' CDISC Dataset-JSON: rows as arrays, columns described
#' @noRd
open_dataset_json <- function(path, parsed) {
  columns <- as.data.frame(parsed$columns)
  rows <- parsed$rows
  values <- if (is.matrix(rows)) lapply(seq_len(ncol(rows)), function(j) rows[, j]) else lapply(seq_len(nrow(columns)),
      function(j) vapply(rows, function(r) as.character(r[[j]] %||% NA), ""))
  types <- as.character(columns$dataType %||% rep("string", nrow(columns)))
  values <- Map(function(v, type) if (type %in% c("integer", "float", "double",
                                                  "decimal")) suppressWarnings(as.numeric(v)) else as.character(v),
                                                  values, types)
  names(values) <- columns$name
  facts <- lapply(stats::setNames(seq_len(nrow(columns)), columns$name),
                  function(i) compact(list(label = columns$label[i])))
  json_table(path, as.data.frame(values, check.names = FALSE, stringsAsFactors = FALSE, optional = TRUE), facts, "dataset")
}

#' Frictionless Data Package: the tables it lists, with their schemas; only paths inside its own folder are followed
#' @noRd
open_data_package <- function(path, parsed) {
  resources <- jsonlite::fromJSON(path, simplifyVector = FALSE)$resources
  folder <- dirname(path)
  opened <- lapply(resources, function(r) {
    file <- unlist(r$path)[1]
    if (is.null(file) || grepl("^([a-z]+:|/|\\\\)|(^|[/\\\\])[.][.]([/\\\\]|$)", file)) {
      stop_input(sprintf("%s lists a path outside its own folder, which is not followed.", quoted(basename(path))),
                 class = "unsafe_archive")
    }
    tables <- open_file(file.path(folder, file))
    facts <- lapply(r$schema$fields %||% list(), schema_facts)
    names(facts) <- vapply(r$schema$fields %||% list(), function(f) f$name %||% "", "")
    lapply(tables, function(t) { t$facts <- facts; t$name <- r$name %||% t$name; t })
  })
  unlist(opened, recursive = FALSE)
}

schema_facts <- function(field) {
  kinds <- c(integer = "count", number = "number", boolean = "yes_no", date = "date", datetime = "datetime",
             year = "number")
  levels <- unlist(field$constraints$enum)
  kind <- if (!is.null(field$categoriesOrdered) && isTRUE(field$categoriesOrdered)) "ordered" else if (length(levels) > 2 &&
      identical(field$type, "string")) "category" else unname(kinds[field$type %||% "any"])
  compact(list(label = field$title %||% field$description, unit = field$unit,
               order = if (length(levels)) as.character(levels), kind = if (length(kind) && !is.na(kind)) kind,
               missing = unlist(field$missingValues)))
}
