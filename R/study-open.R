#' Open a study
#'
#' Reads one or more tables, works out what each column holds (its kind, with the reason), and takes a fingerprint
#' of every
#' source. Nothing is changed in the files, and nothing leaves the machine.
#'
#' @param x Paths of files, a folder, a data frame, a named list of data frames, or a DBI connection. Files: CSV, TSV and other delimited
#'   text in any usual encoding, also gzipped or in a ZIP archive, with names in several lines or none, notes below the table, or columns
#'   of fixed width; XLSX, XLS and ODS workbooks, several tables in a sheet too; tables of HTML pages; SAV, DTA, XPT and SAS7BDAT with
#'   their labels; JSON records or columns, NDJSON, Dataset-JSON and Frictionless data packages; Parquet; SQLite; DuckDB (with its package
#'   installed). Tables with the same columns (one for each year, or sheet) become one table with a column that says which a row is from.
#'   A codebook (CSV or DDI-Codebook XML) among them, or beside the data as `NAME_codebook.csv`, is applied.
#' @param query An SQL query for a DBI connection; `NULL` reads its tables.
#' @param name Name of the table when `x` is a data frame.
#' @param logbook Path of a JSON Lines file to which amendments, questions and results are appended; `NULL` for none.
#' @param call The calling environment, for messages.
#' @return A study, of class `upbeatquill_study`. `as.list()` gives the study document: sources (file, bytes, rows,
#'   SHA-256), tables, columns (name, kind, label, unit, missing, distinct, levels, reason), findings, amendments,
#'   design.
#' @section Errors: `upbeatquill_error_file_missing`, `_file_empty`, `_file_no_rows`, `_file_binary`, `_file_ragged`,
#'   `_file_unreadable`, `_file_too_large`, `_unsafe_archive`, `_folder_empty`; all inherit from
#'   `upbeatquill_error_input`.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' study
#' @export
open_study <- function(x, name = NULL, query = NULL, logbook = NULL, call = NULL) {
  name <- name %||% if (is.data.frame(x)) frame_name(substitute(x)) else "data"
  opened <- open_sources(x, name, query)
  study <- new_study(stack_alike(opened))
  study <- notes_apart(absorb_codebooks(study))
  study$logbook <- logbook
  study <- refresh(study)
  note_in_logbook(study, list(event = "opened", sources = unname(lapply(study$sources, function(s) list(
    file = s$file, path = s$archive %||% s$path, bytes = s$bytes, rows = s$rows, sha256 = s$sha256)))))
  study
}

#' A sheet of nothing but sentences beside tables of data holds notes
#' @noRd
notes_apart <- function(study) {
  notes <- vapply(study$tables, function(t) length(t$columns) == 1 && nrow(t$data) <= 200 && is.character(t$data[[1]]) &&
                    (t$columns[[1]]$kind == "text" || mean(grepl(" ", t$data[[1]][!is.na(t$data[[1]])])) > 0.5), NA)
  if (any(notes) && any(!notes & vapply(study$tables, `[[`, NA, "used"))) for (name in names(study$tables)[notes]) study$tables[[name]]$used <- FALSE
  study
}

frame_name <- function(expr) if (is.name(expr)) as.character(expr) else "data"

new_study <- function(opened) {
  on.exit(for (o in opened) if (!is.null(o$pending)) o$pending$stop())
  bytes <- sum(vapply(opened, function(o) as.numeric(o$source$bytes), 1))
  say_progress(sprintf("Working out what %s hold ...", count_of(sum(vapply(opened, function(o) ncol(o$data), 1L)), "column")), bytes)
  opened <- lapply(opened, without_blanks)
  tables <- lapply(opened, function(o) {
    table <- list(name = o$name, data = o$data, columns = mark_spans(profile_table(o$data), o$data), source = o$source, used = TRUE)
    add_range_columns(apply_facts(table, o$facts))
  })
  names(tables) <- vapply(opened, `[[`, "", "name")
  for (i in seq_along(tables)) tables[[i]]$source <- with_fingerprint(opened[[i]])
  structure(list(tables = tables, sources = unname(unlist(lapply(tables, function(t) t$source$parts %||% list(t$source)),
                                                                                  recursive = FALSE)), amendments = list(), design = list(),
                 aliases = list(),
                 joins = list(), logbook = NULL), class = "upbeatquill_study")
}

#' The source of a table with its fingerprint, waited for where it is still being worked out
#' @noRd
with_fingerprint <- function(opened) {
  source <- opened$source
  if (is.null(source$sha256) && !is.null(opened$pending)) source$sha256 <- opened$pending$result()
  source
}

#' An empty text is a missing value; a delimited file has been seen to already
#' @noRd
without_blanks <- function(opened) {
  if (identical(opened$source$format, "delimited")) return(opened)
  data <- blanks_as_missing(opened$data)
  if (!identical(data, opened$data)) opened$source$blanks <- TRUE
  opened$data <- data
  opened
}

#' Columns of ranges ("$12K-$15K") get their lower end, upper end and middle as columns of their own
#' @noRd
add_range_columns <- function(table) {
  ranged <- names(Filter(function(col) identical(col$role, "range"), table$columns))
  for (name in ranged) for (part in c("low", "high", "middle")) {
    new <- paste(name, part, sep = "_")
    if (is.null(table$columns[[new]])) table$steps <- c(table$steps, list(list(type = "derive", name = new, derive = part, from = name)))
  }
  if (length(ranged)) rebuild_table(table) else table
}

#' What the source itself says of its columns: labels, value labels, missing codes, kinds
#' @noRd
apply_facts <- function(table, facts) {
  for (name in intersect(names(facts), names(table$columns))) {
    f <- facts[[name]]
    labels <- if (length(f$labels)) stats::setNames(names(f$labels), format_plain(unname(f$labels)))
    parts <- labels_and_missing(labels, f$missing, unordered = length(f$missing) > 0)
    change <- compact(list(label = f[["label"]], unit = f$unit, missing = parts$missing, kind = f$kind, order = f$order, labels = parts$labels))
    if (length(change)) table <- amend_column(table, name, change, why = "stated in the file")
  }
  table
}

#' Everything that is derived from the tables and their columns
#' @noRd
refresh <- function(study) {
  for (name in names(study$tables)) {
    study$tables[[name]]$sets <- find_sets(study$tables[[name]]$columns)
  }
  found <- find_joins(study)
  study$joins <- found$joins
  study$many_to_many <- found$many_to_many
  study$vocabulary <- NULL
  study
}

need_study <- function(study, call = NULL) {
  if (!inherits(study, "upbeatquill_study")) {
    stop_input("This needs a study, as open_study() returns.",
               sprintf("It was given an object of class %s.", quoted(class(study)[1])),
               call = call)
  }
  study
}

#' Append one event to the logbook, if the study keeps one
#' @noRd
note_in_logbook <- function(study, event) {
  if (is.null(study$logbook)) return(invisible(study))
  event$time <- format(Sys.time(), "%Y-%m-%dT%H:%M:%SZ", tz = "UTC")
  line <- jsonlite::toJSON(event, auto_unbox = TRUE, digits = NA, null = "null", na = "null")
  ok <- tryCatch({ cat(enc2utf8(line), "\n", sep = "", file = study$logbook, append = TRUE); TRUE },
                 error = function(e) FALSE,
                 warning = function(w) FALSE)
  if (!ok) {
    stop_input(sprintf("The logbook %s cannot be written.", quoted(study$logbook)),
               todo = "Check the folder and its permissions.",
               class = "not_written")
  }
  invisible(study)
}

data_tables <- function(study) Filter(function(t) t$used, study$tables)

#' The sets of columns that belong together in all tables, or those of one kind
#' @noRd
study_sets <- function(study, kind = NULL) {
  sets <- unlist(lapply(data_tables(study), `[[`, "sets"), recursive = FALSE)
  if (is.null(kind)) sets else Filter(function(set) set$kind == kind, sets)
}
