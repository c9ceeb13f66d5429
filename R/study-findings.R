# Findings: what in the data is worth a look. Findings never change anything by themselves.

#' @section Shape: list of list(severity ("note", "look", "act"), table, column, rows, message, amendment), most
#'   severe first.
#' @noRd
study_findings <- function(study) {
  out <- unlist(lapply(data_tables(study), table_findings), recursive = FALSE, use.names = FALSE)
  rank <- match(vapply(out, `[[`, "", "severity"), c("act", "look", "note"))
  out[order(rank)]
}

new_finding <- function(severity, table, column, rows, message, amendment = NULL) list(severity = severity,
    table = table, column = column, rows = rows, message = message, amendment = amendment)

table_findings <- function(table) {
  repeated <- duplicate_rows(table)
  c(if (length(repeated)) list(new_finding("look", table$name, NULL, utils::head(repeated, 5),
                                           sprintf("%s the same as an earlier row.",
                                                   capital(paste(count_of(length(repeated), "row"),
                                                       plural(length(repeated), "is", "are")))))),
    unlist(lapply(table$columns, column_findings, table = table), recursive = FALSE, use.names = FALSE))
}

duplicate_rows <- function(table) {
  keys <- names(table$columns)[vapply(table$columns, function(col) col$kind == "id" && col$distinct == nrow(table$data),
                                      NA)]
  if (length(keys)) return(integer())
  which(duplicated(table$data))
}

column_findings <- function(col, table) {
  n <- nrow(table$data)
  raw <- table$data[[col$name]]
  compact(list(
    if (length(col$missing_codes)) new_finding("note", table$name, col$name,
                                               utils::head(which(raw %in% col$missing_codes), 5),
      sprintf("%s: %s %s read as missing (%s).", col$name, some_of(quoted(as.character(col$missing_codes)), 4),
              plural(length(col$missing_codes), "is", "are"), count_of(sum(raw %in% col$missing_codes), "row"))),
    if (col$missing > 0.2 * n && col$kind != "empty") new_finding("look", table$name, col$name,
        utils::head(which(is.na(raw)), 5), sprintf("%s: %s of the values are missing.", col$name,
                                                   paste0(round(100 * col$missing / n), " %"))),
    if (col$kind == "constant") new_finding("note", table$name, col$name, integer(),
                                            sprintf("%s: the same value in every row.", col$name)),
    if (col$kind == "empty") new_finding("note", table$name, col$name, integer(),
                                         sprintf("%s: no value at all.", col$name)),
    far_finding(col, table, raw), spelling_finding(col, table, raw)))
}

far_finding <- function(col, table, raw) {
  if (!is_numeric_kind(col$kind) || col$distinct < 10) return(NULL)
  x <- understand(raw, col)
  q <- stat_group_quantiles(x)
  iqr <- q[3] - q[1]
  far <- which(x < q[1] - 3 * iqr | x > q[3] + 3 * iqr)
  # many far values are the shape of the column, not slips
  if (!length(far) || iqr == 0 || length(far) > max(5, 0.01 * length(x))) return(NULL)
  values <- x[far[order(-abs(x[far] - q[2]))]]
  new_finding("look", table$name, col$name, utils::head(far, 5),
              sprintf("%s: %s far from the rest (%s).", col$name,
                      paste(count_of(length(far), "value"), plural(length(far), "lies", "lie")),
                      paste(format_plain(utils::head(values, 3)), collapse = ", ")))
}

#' Levels that differ only in case or blanks
#' @noRd
spelling_finding <- function(col, table, raw) {
  if (col$kind != "category") return(NULL)
  plain <- tolower(gsub("[[:space:]]+", " ", trimws(col$levels)))
  twice <- unique(plain[duplicated(plain)])
  if (!length(twice)) return(NULL)
  same <- col$levels[plain %in% twice]
  new_finding("act", table$name, col$name, utils::head(which(raw %in% same), 5),
              sprintf("%s: the levels %s differ only in their spelling.", col$name, some_of(quoted(same), 6)))
}
