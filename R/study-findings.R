# Findings: what in the data is worth a look. Findings never change anything by themselves.

#' @section Shape: list of list(severity ("note", "look", "act"), table, column, rows, message, amendment), most
#'   severe first.
#' @noRd
study_findings <- function(study) {
  found <- unlist(lapply(data_tables(study), table_findings), recursive = FALSE, use.names = FALSE)
  out <- c(lapply(found, within_table, study), join_findings(study))
  rank <- match(vapply(out, `[[`, "", "severity"), c("act", "look", "note"))
  out[order(rank)]
}

#' The sentence that settles a finding names its table, where another could be meant
#' @noRd
within_table <- function(finding, study) {
  tables <- data_tables(study)
  if (length(tables) < 2 || is.null(finding$amendment)) return(finding)
  holding <- if (is.null(finding$column) || grepl("^leave out rows", finding$amendment)) length(tables)
    else sum(vapply(tables, function(t) !is.null(t$columns[[finding$column]]), NA))
  if (holding > 1) finding$amendment <- sprintf("%s in the table %s", finding$amendment, finding$table)
  finding
}

new_finding <- function(severity, table, column, rows, message, amendment = NULL, count = length(rows)) list(severity = severity,
    table = table$name, column = column, rows = file_rows(table, utils::head(rows, 5)), count = count, message = message,
    amendment = amendment)

#' Row numbers as in the file, when rows of it have been left out
#' @noRd
file_rows <- function(table, rows) if (is.null(table$kept)) rows else table$kept[rows]

table_findings <- function(table) {
  columns <- Filter(function(col) !identical(col$used, FALSE), table$columns)
  turned <- lying_finding(table, columns)
  c(turned, source_findings(table), cells_finding(table), repeated_rows_finding(table),
    if (is.null(turned)) unlist(lapply(columns, column_findings, table = table), recursive = FALSE, use.names = FALSE),
    missing_pattern_findings(table, columns), missing_by_group_findings(table, columns), sum_findings(table, columns),
    ratio_findings(table),
    group_outlier_findings(table, columns), straight_line_findings(table))
}

#' A table that lies on its side: every row is a measure, every column a case
#'
#' The first column names the measures, and in each row all other cells are numbers, or none is, but not so in each column.
#' @noRd
lying_finding <- function(table, columns) {
  n <- nrow(table$data)
  if (n < 2 || n > 200 || length(columns) < 4 || !is.character(table$data[[1]]) || anyDuplicated(table$data[[1]])) return(NULL)
  rest <- table$data[, -1, with = FALSE]
  if (!all(vapply(rest, is.character, NA))) return(NULL)
  numeric <- matrix(grepl("^[-+]?[0-9]", unlist(rest)), nrow = n)
  filled <- matrix(!is.na(unlist(rest)), nrow = n)
  share <- rowSums(numeric & filled) / pmax(1, rowSums(filled))
  if (!all(share %in% c(0, 1)) || length(unique(share)) < 2) return(NULL)
  list(new_finding("act", table, NULL, integer(), paste("The table seems to lie on its side: every row is a measure and every column a case.",
    "Turn it (paste it transposed) before asking."), count = n))
}

#' What was noticed while the file was read
#' @noRd
source_findings <- function(table) compact(list(
  if (length(table$source$aside)) new_finding("look", table, NULL, integer(), sprintf("%s no table and %s set aside.",
    paste(some_of(quoted(table$source$aside), 4), plural(length(table$source$aside), "holds", "hold")),
    plural(length(table$source$aside), "was", "were")), count = length(table$source$aside)),
  if (!is.null(table$source$parts)) new_finding("look", table, table$source$by, integer(), sprintf(
    "%s hold the same columns and are one table here; %s says which a row is from.", capital(some_of(quoted(table$source$pieces), 4)),
    table$source$by),
    count = length(table$source$parts)),
  if (length(table$source$copies)) new_finding("act", table, NULL, integer(), sprintf("%s %s the same rows again and %s left out.",
    capital(some_of(quoted(table$source$copies), 4)), plural(length(table$source$copies), "holds", "hold"),
    plural(length(table$source$copies), "was", "were")), count = length(table$source$copies)),
  if (isTRUE(table$source$totals)) new_finding("note", table, NULL, integer(), "The last row held totals, so it is not among the rows.", count = 1L),
  if (isTRUE(table$source$numbered)) new_finding("act", table, NULL, integer(),
    "The first line holds numbers and was read as the names of the columns: if it is a row of data, add a line of names to the file.", count = 1L),
  if (isTRUE(table$source$unnamed)) new_finding("act", table, NULL, integer(),
    "The file has no line of names (its first line is data), so the columns are called column_1, column_2 and so on: say what they are.", count = 1L),
  if (length(table$source$nameless)) new_finding("look", table, table$source$nameless[1], integer(), sprintf(
    "%s no name in the file and %s called %s here: say what %s.", paste(count_of(length(table$source$nameless), "column"),
      plural(length(table$source$nameless), "has", "have")), plural(length(table$source$nameless), "is", "are"), some_of(quoted(table$source$nameless), 4),  # nolint: line_length_linter.
    plural(length(table$source$nameless), "it is", "they are")), count = length(table$source$nameless)),
  if (length(table$source$doubled)) new_finding("look", table, table$source$doubled[1], integer(), sprintf(
    "The name %s stands over several columns: the second is called %s here, and so on.", some_of(quoted(table$source$doubled), 4),
    quoted(paste(table$source$doubled[1], "(2)"))), count = length(table$source$doubled)),
  if (isTRUE(table$source$notes > 0)) new_finding("note", table, NULL, integer(), sprintf("%s below the table %s not among the rows.",
    count_of(table$source$notes, "line"), plural(table$source$notes, "is", "are")), count = table$source$notes),
  if (isTRUE(table$source$empty_rows > 0)) new_finding("note", table, NULL, integer(), sprintf("%s no value at all and %s not among the rows.",
    paste(count_of(table$source$empty_rows, "line"), plural(table$source$empty_rows, "holds", "hold")),
    plural(table$source$empty_rows, "is", "are")), count = table$source$empty_rows),
  if (isTRUE(table$source$repeats > 0)) new_finding("note", table, NULL, integer(), sprintf("%s the names of the columns and %s left out.",
    paste(count_of(table$source$repeats, "row"), plural(table$source$repeats, "repeats", "repeat")), plural(table$source$repeats, "was", "were")),
    count = table$source$repeats),
  if (isTRUE(table$source$short) && !isTRUE(table$source$notes > 0)) new_finding("look", table, NULL, integer(),
      "Some lines have fewer fields than the header; what they lack is missing.",
                                               count = NA_integer_)))

#' A table of counts: every row is a combination of levels with the number of its cases
#' @noRd
cells_finding <- function(table) {
  count <- cells_column(table)
  if (is.null(count)) return(NULL)
  list(new_finding("look", table, count, integer(), sprintf(
    "Every row is a different combination of levels, and %s says how many cases it stands for. Questions about the other columns count the cases.",
    count), sprintf("each row stands for %s cases", count), count = nrow(table$data)))
}

repeated_rows_finding <- function(table) {
  if (stands_for_cases(table)) return(NULL)
  repeated <- duplicate_rows(table)
  if (!length(repeated)) return(NULL)
  list(new_finding("look", table, NULL, repeated, sprintf("%s the same as an earlier row.", capital(paste(count_of(length(repeated), "row"),
      plural(length(repeated), "is", "are")))), sprintf("leave out rows %s", some_rows(file_rows(table, repeated)))))
}

some_rows <- function(rows) if (length(rows) <= 30) paste(rows, collapse = ", ") else paste0(paste(utils::head(rows, 30), collapse = ", "), " ...")

duplicate_rows <- function(table) {
  keys <- names(table$columns)[vapply(table$columns, function(col) col$kind == "id" && col$distinct == nrow(table$data),
                                      NA)]
  if (length(keys)) return(integer())
  which(duplicated(table$data))
}
