# The rows of a study written out as understood, in open formats that carry their own descriptions.

#' Save the rows of a study
#'
#' What is written are the rows as understood: missing codes empty, dates in ISO form, labels instead of codes, amendments
#' carried out, rows that were left out not there. The files that were opened are not touched.
#'
#' @param study A study.
#' @param file Where to write: `.csv`, `.json` (CDISC Dataset-JSON 1.1), or a folder's `datapackage.json` (Frictionless Data
#'   Package: one CSV a table beside it, with a Table Schema each).
#' @param table The table to write, `NULL` for the first; a data package holds all of them.
#' @return The path, invisibly.
#' @section Errors: `upbeatquill_error_folder_missing`, `upbeatquill_error_not_written`, `upbeatquill_error_bad_argument`.
#' @section Source: CDISC Dataset-JSON 1.1 (2024); Frictionless Data Package 1 and Table Schema 1.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' save_data(study, tempfile(fileext = ".csv"))
#' @export
save_data <- function(study, file, table = NULL) {
  need_study(study)
  table <- table %||% names(data_tables(study))[1]
  if (is.null(study$tables[[table]])) stop_input(sprintf("There is no table %s.", quoted(table)),
                                                 sprintf("The study holds %s.", some_of(quoted(names(study$tables)), 8)))
  if (basename(file) == "datapackage.json") save_package(study, file)
  else switch(tolower(tools::file_ext(file)),
    csv = save_csv(study, table, file),
    json = write_text(jsonlite::toJSON(dataset_json(study, table), auto_unbox = TRUE, digits = I(17), na = "null", null = "null"), file),
    stop_input(sprintf("Data is saved as .csv, .json or datapackage.json, not %s.", quoted(basename(file)))))
  invisible(file)
}

#' Values as text or plain numbers for a file
#' @noRd
plain_columns <- function(study, table) {
  columns <- Filter(function(col) !identical(col$used, FALSE), study$tables[[table]]$columns)
  out <- lapply(columns, function(col) {
    v <- understood(study, col$name, table)
    if (inherits(v, "POSIXct")) format(v, "%Y-%m-%dT%H:%M:%S", tz = "UTC") else if (is.numeric(v) && !inherits(v, "Date")) v else as.character(v)
  })
  stats::setNames(out, vapply(columns, `[[`, "", "name"))
}

save_csv <- function(study, table, file) {
  data <- neutral_cells(as.data.frame(plain_columns(study, table), check.names = FALSE, stringsAsFactors = FALSE, optional = TRUE))
  write_whole(file, function(to) data.table::fwrite(data, to, na = "", quote = "auto"))
}

dataset_json <- function(study, table) {
  values <- plain_columns(study, table)
  columns <- lapply(names(values), function(name) {
    col <- study$tables[[table]]$columns[[name]]
    compact(list(itemOID = paste("IT", table, name, sep = "."), name = name, label = col$label %||% name,
                 dataType = switch(col$kind, number = "double", count = "integer", date = "date", datetime = "datetime", "string")))
  })
  rows <- lapply(seq_len(length(values[[1]])), function(i) unname(lapply(values, function(v) v[[i]])))
  list(datasetJSONCreationDateTime = format(Sys.time(), "%Y-%m-%dT%H:%M:%SZ", tz = "UTC"), datasetJSONVersion = "1.1.0",
       itemGroupOID = paste0("IG.", table), records = length(rows), name = table, label = table, columns = columns, rows = rows)
}

save_package <- function(study, file) {
  tables <- names(data_tables(study))
  # a table may be called anything; the file it goes to has a plain name
  safe <- make.unique(gsub("[^A-Za-z0-9_-]+", "_", tables), sep = "_")
  for (i in seq_along(tables)) save_csv(study, tables[i], file.path(dirname(file), paste0(safe[i], ".csv")))
  book <- codebook(study)
  resources <- lapply(seq_along(tables), function(i) {
    own <- book[book$table == tables[i], , drop = FALSE]
    own$missing_codes <- ""
    # codes have become labels in the file
    own$levels <- vapply(own$column, function(name) paste(study$tables[[tables[i]]]$columns[[name]]$levels, collapse = "|"), "")
    list(name = tolower(safe[i]), path = paste0(safe[i], ".csv"), profile = "tabular-data-resource", format = "csv", encoding = "utf-8",
         schema = table_schema(own))
  })
  write_text(jsonlite::toJSON(list(profile = "tabular-data-package", name = "study", resources = resources), auto_unbox = TRUE, pretty = TRUE,
                              null = "null"), file)
}
