#' The study document of a study
#'
#' @param x A study.
#' @param ... Not used.
#' @return A plain nested list: format, version, sources, tables, findings, joins, amendments, design.
#' @export
as.list.upbeatquill_study <- function(x, ...) {
  list(format = "upbeatquill/study", version = 1L,
       sources = lapply(x$sources, function(s) list(file = s$file, bytes = s$bytes, rows = s$rows, sha256 = s$sha256)),
       tables = lapply(unname(x$tables), function(t) list(name = t$name, rows = nrow(t$data),
                                                          columns = lapply(unname(t$columns), column_document),
                                                          codebook = !t$used, sets = t$sets, left_out = as.list(left_out_words(t)))),
       findings = lapply(study_findings(x), function(f) { f$rows <- as.list(f$rows); f }), joins = unname(x$joins),
       amendments = x$amendments, design = x$design)
}

column_document <- function(col) {
  list(name = col$name, kind = col$kind, label = col$label, unit = col$unit, missing = col$missing,
       distinct = col$distinct, levels = as.list(col$levels), missing_codes = as.list(col$missing_codes),
       role = col$role, reason = col$reason, derived = isTRUE(col$derived),
       proposed_missing = as.list(col$proposed$codes))
}

#' The rows of a study as understood
#'
#' @param x A study.
#' @param row.names,optional Not used.
#' @param table Name of the table; `NULL` for the first.
#' @param ... Not used.
#' @return A data frame: missing codes are `NA`, dates `Date`, stamps `POSIXct`, yes/no logical, ids and texts
#'   character, ordered answers and categories factors.
#' @export
as.data.frame.upbeatquill_study <- function(x, row.names = NULL, optional = FALSE, ..., table = NULL) { # nolint: the generic's own names
  table <- table %||% names(data_tables(x))[1]
  if (is.null(x$tables[[table]])) stop_input(sprintf("There is no table %s.", quoted(table)),
                                             sprintf("The study holds %s.", some_of(quoted(names(x$tables)), 8)))
  columns <- lapply(x$tables[[table]]$columns, function(col) {
    v <- understood(x, col$name, table)
    if (col$kind == "yes_no") v <- v == col$levels[2]
    if (col$kind == "ordered") v <- factor(v, levels = col$levels, ordered = TRUE)
    v
  })
  out <- as.data.frame(columns, check.names = FALSE, stringsAsFactors = FALSE, optional = TRUE)
  names(out) <- names(x$tables[[table]]$columns)
  out
}
