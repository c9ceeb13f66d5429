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
    kind <- declared_kind(entry$kind)
    told <- if (!is.null(entry$levels)) labelled_codes(entry$levels)
    stated <- if (!is.null(entry$missing_codes)) split_codes(entry$missing_codes)
    parts_of <- labels_and_missing(told, stated, identical(kind, "category"))
    change <- list(label = entry$label, unit = entry$unit, kind = kind, labels = parts_of$labels,
                   order = if (!is.null(entry$levels) && is.null(told)) listed_levels(entry$levels), missing = parts_of$missing)
    weighs <- identical(tolower(entry$kind %||% ""), "weight") || says_sampling_weight(entry$label %||% "")
    if (weighs && isTRUE(table$columns[[entry$column]]$numeric)) change$role <- "weight"
    table <- amend_column(table, entry$column, compact(change), why = sprintf("stated in the codebook %s", book_name))
  }
  table
}

#' "1=female|2=male" as c("1" = "female", "2" = "male"); NULL when nothing is labelled
#'
#' Lists are divided by a bar, a semicolon or a line break, by commas where each part has a code, and "1: female" or "1 - female" serve too
#' where the code is a number.
#' @noRd
labelled_codes <- function(x) {
  for (mark in c("[|;\n\r]+", ",(?=\\s*-?[0-9]+\\s*[=:])")) {
    parts <- trimws(strsplit(x, mark, perl = TRUE)[[1]])
    parts <- parts[nzchar(parts)]
    for (sign in c("=", "(?<=[0-9])\\s*:", "(?<=[0-9])\\s+[-\u2013]\\s+(?=\\p{L})")) {
      at <- regexpr(sign, parts, perl = TRUE)
      code <- trimws(substr(parts, 1, at - 1)); label <- trimws(substring(parts, at + attr(at, "match.length")))
      if (length(parts) > 0 && all(at > 1 & nzchar(code) & nzchar(label)) && !anyDuplicated(code)) {
        if (mark == "[|;\n\r]+" && length(parts) == 1 && grepl("[0-9]+\\s*[=:]", label)) next
        return(stats::setNames(label, code))
      }
    }
  }
  NULL
}

#' Labels that say that there is no answer are missing codes; "don't know" and its like too, but not where answers have no order
#' @param labels named character vector as of [labelled_codes()], or NULL. @param stated missing codes that the codebook states.
#' @section Shape: list(labels, missing), each NULL where there are none.
#' @noRd
labels_and_missing <- function(labels, stated, unordered = FALSE) {
  text <- tolower(labels)
  none <- text %in% c(missing_words(), "no response", "not recorded", "not available", "not asked", "skipped", "blank", "no data", "left blank",
                      "not applicable", "question not asked") | names(labels) %in% stated
  rest <- unname(labels[!none & !text %in% refusal_words()])
  if (!unordered && !is.null(ordered_scale_of(rest))) none <- none | text %in% refusal_words()
  list(labels = nothing_as_null(labels[!none]), missing = nothing_as_null(unique(c(stated, names(labels)[none]))))
}

#' The levels that a codebook lists without codes; a range of numbers ("0-10", "18 to 99") lists none
#' @noRd
listed_levels <- function(x) {
  codes <- split_codes(x)
  ranged <- length(codes) == 1 && grepl("^-?[0-9.,]+\\s*(-|\u2013|to|\\.\\.+)\\s*[0-9.,]+$", codes)
  if (ranged || length(codes) < 2) NULL else codes
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
