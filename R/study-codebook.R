# The codebook: what each column is, read from and written to a table.

#' The codebook of a study
#'
#' One row a column: what was decided about it, and why. Edit the table and give it back with
#' `amend(study, codebook = edited)`, or write it beside the data as `NAME_codebook.csv`.
#'
#' @param study A study, as [open_study()] returns.
#' @param file Where to write it (.csv, DDI-Codebook .xml, Frictionless Table Schema .json), or `NULL`.
#' @return A data frame, one row a column: table, column, kind, label, unit, missing (count), missing_codes,
#'   distinct, levels
#'   (joined by `|` in their order), role, reason. Invisibly when written to a file.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' codebook(study)[, c("column", "kind", "reason")]
#' @export
codebook <- function(study, file = NULL) {
  need_study(study)
  rows <- lapply(all_columns(study), codebook_row)
  book <- do.call(rbind, rows)
  if (is.null(file)) return(book)
  write_codebook(book, file, paste(names(data_tables(study)), collapse = ", "))
  invisible(book)
}

#' By extension: CSV, DDI-Codebook XML, or a Frictionless Table Schema in JSON
#' @noRd
write_codebook <- function(book, file, title) {
  type <- tolower(tools::file_ext(file))
  switch(type,
    csv = write_whole(file, function(to) utils::write.csv(neutral_cells(book), to, row.names = FALSE, na = "",
                                                          fileEncoding = "UTF-8")),
    xml = { doc <- ddi_document(book, title); write_whole(file, function(to) xml2::write_xml(doc, to)) },
    json = write_text(jsonlite::toJSON(table_schema(book), auto_unbox = TRUE, pretty = TRUE, null = "null"), file),
    stop_input(sprintf("A codebook is written as .csv, .xml or .json, not %s.", quoted(paste0(".", type)))))
}

#' Frictionless Table Schema of a codebook
#' @section Source: https://datapackage.org/standard/table-schema/
#' @noRd
table_schema <- function(book) {
  types <- c(number = "number", count = "integer", ordered = "string", category = "string", yes_no = "string",
             date = "date",
             datetime = "datetime", text = "string", id = "string", constant = "string", empty = "any")
  fields <- lapply(seq_len(nrow(book)), function(i) {
    row <- book[i, ]
    levels <- if (nzchar(row$levels)) strsplit(row$levels, "|", fixed = TRUE)[[1]]
    missing <- if (nzchar(row$missing_codes)) as.list(c("", strsplit(row$missing_codes, "|", fixed = TRUE)[[1]]))
    compact(list(name = row$column, type = types[[row$kind]], title = if (nzchar(row$label)) row$label,
                 unit = if (nzchar(row$unit)) row$unit,
                 categoriesOrdered = if (row$kind == "ordered") TRUE, missingValues = missing,
                 constraints = if (length(levels)) list(enum = as.list(sub("=.*$", "", levels)))))
  })
  list(fields = fields)
}

codebook_row <- function(col) {
  data.frame(table = col$table, column = col$name, kind = col$kind, label = col$label %||% "", unit = col$unit %||% "",
             missing = col$missing, missing_codes = paste(col$missing_codes, collapse = "|"), distinct = col$distinct,
             levels = if (length(col$levels) <= 60) paste(if (is.null(col$codes)) col$levels
                                                          else paste(col$codes, col$levels, sep = "="),
                                                          collapse = "|") else "", role = col$role %||% "",
             reason = col$reason, stringsAsFactors = FALSE)
}

#' Cells that a spreadsheet would run as a formula get a leading apostrophe
#' @noRd
neutral_cells <- function(x) {
  x[] <- lapply(x, function(v) if (is.character(v)) ifelse(grepl("^[=+@-]", v) & !grepl("^-?[0-9.|-]*$", v),
                                                           paste0("'", v), v) else v)
  x
}

codebook_headers <- function() {
  list(column = c("column", "variable", "field", "name", "column_name", "variable_name", "item", "field_name"),
       label = c("label", "description", "meaning", "question", "question_text", "definition", "variable_label"),
       kind = c("kind", "type", "measure", "scale", "level", "data_type", "measurement"),
       levels = c("levels", "values", "categories", "codes", "value_labels", "allowed_values"),
       missing_codes = c("missing_codes", "missing", "missing_values", "na", "na_codes", "missing_code"),
       unit = c("unit", "units"))
}

#' Which header of a table plays which part of a codebook; NULL when it is none
#' @noRd
codebook_parts <- function(names) {
  lower <- gsub("[^a-z]+", "_", tolower(trimws(names)))
  parts <- lapply(codebook_headers(), function(words) { at <- match(words, lower); names[at[!is.na(at)][1]] })
  parts <- lapply(parts, function(p) if (is.na(p)) NULL else p)
  if (is.null(parts$column) || (is.null(parts$label) && is.null(parts$kind))) return(NULL)
  compact(parts)
}

#' Tables that describe the columns of others become codebooks
#' @noRd
absorb_codebooks <- function(study) {
  for (name in names(study$tables)) {
    table <- study$tables[[name]]
    parts <- codebook_parts(names(table$data))
    if (is.null(parts)) next
    described <- as.character(table$data[[parts$column]])
    for (other in setdiff(names(study$tables), name)) {
      shared <- intersect(described, names(study$tables[[other]]$data))
      if (length(shared) < 0.6 * length(described) && length(shared) < 0.6 * ncol(study$tables[[other]]$data)) next
      study$tables[[other]] <- apply_codebook(study$tables[[other]], table$data, parts, name)
      study$tables[[name]]$used <- FALSE
    }
  }
  if (!any(vapply(study$tables, `[[`, NA, "used"))) study$tables <- lapply(study$tables,
      function(t) { t$used <- TRUE; t })
  study
}

apply_codebook <- function(table, book, parts, book_name) {
  for (i in seq_len(nrow(book))) {
    entry <- lapply(parts, function(p) { v <- trimws(as.character(book[[p]][i]))
      if (is.na(v) || !nzchar(v)) NULL else v })
    if (is.null(entry$column) || is.null(table$columns[[entry$column]])) next
    labels <- if (!is.null(entry$levels)) labelled_codes(entry$levels)
    change <- list(label = entry$label, unit = entry$unit, kind = declared_kind(entry$kind), labels = labels,
                   order = if (!is.null(entry$levels) && is.null(labels)) split_codes(entry$levels),
                   missing = if (!is.null(entry$missing_codes)) split_codes(entry$missing_codes))
    if (identical(tolower(entry$kind %||% ""), "weight")) change$role <- "weight"
    table <- amend_column(table, entry$column, compact(change), why = sprintf("stated in the codebook %s", book_name))
  }
  table
}

#' "1=female|2=male" as c("1" = "female", "2" = "male"); NULL when nothing is labelled
#' @noRd
labelled_codes <- function(x) {
  parts <- trimws(strsplit(x, "[|;]")[[1]])
  parts <- parts[nzchar(parts)]
  if (!length(parts) || !all(grepl("^[^=]+=.+$", parts))) return(NULL)
  stats::setNames(trimws(sub("^[^=]+=", "", parts)), trimws(sub("=.*$", "", parts)))
}

split_codes <- function(x) {
  codes <- trimws(strsplit(x, "[|;]")[[1]])
  sub("\\s*=.*$", "", codes[nzchar(codes)])
}

declared_kind <- function(word) {
  if (is.null(word)) return(NULL)
  words <- list(number = c("number", "numeric", "continuous", "float", "double", "decimal", "real", "interval", "ratio",
                           "scale"),
                count = c("count", "integer", "int", "discrete"), ordered = c("ordered", "ordinal", "likert", "rating"),
                category = c("category", "categorical", "nominal", "factor", "string", "character", "choice"),
                yes_no = c("yes_no", "yes/no", "binary", "boolean", "logical", "dichotomous"), date = c("date"),
                datetime = c("datetime", "timestamp", "date-time"), text = c("text", "open", "free text", "comment"),
                id = c("id", "identifier", "key"))
  for (kind in names(words)) if (tolower(word) %in% words[[kind]]) return(kind)
  NULL
}
