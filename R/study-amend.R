# Amendments: recorded changes to how the data is read.

#' Amend how a study's columns are read
#'
#' Nothing in the data changes: an amendment is recorded, repeated in every script, and written to the logbook.
#'
#' @param study A study.
#' @param ... One argument a column, named as the column: a list with any of `kind` (one of number, count,
#'   ordered, category, yes_no, date, datetime, text, id), `label`, `unit`, `missing` (codes to be read as missing),
#'   `order` (the
#'   levels in their order), `labels` (what stored codes mean: `c("1" = "female", "2" = "male")`), `format` (of a
#'   date), `use` (`FALSE` leaves the column out).
#' @param codebook An edited codebook (data frame or CSV path), as [codebook()] returns, instead of single columns.
#' @param table The table the columns belong to, when several hold a column of that name.
#' @return A new study; the one passed in is unchanged.
#' @section Errors: `upbeatquill_error_column_unknown`, `upbeatquill_error_bad_amendment`.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' study <- amend(study, arm = list(order = c("control", "syrup", "pollen patty")))
#' @export
amend <- function(study, ..., codebook = NULL, table = NULL) {
  need_study(study)
  changes <- list(...)
  if (!is.null(codebook)) return(amend_by_codebook(study, codebook))
  if (!length(changes)) stop_input("amend() needs at least one change, such as amend(study, arm = list(kind = \"category\")).")
  if (is.null(names(changes)) ||
      any(!nzchar(names(changes)))) stop_input("Every change in amend() is named by its column.")
  for (name in names(changes)) {
    col <- find_column(study, name, table)
    change <- check_change(changes[[name]], name)
    study$tables[[col$table]] <- amend_column(study$tables[[col$table]], name, change, why = "amended by you")
    record <- list(table = col$table, column = name, change = change)
    study$amendments <- c(study$amendments, list(record))
    note_in_logbook(study, c(list(event = "amended"), record))
  }
  refresh(study)
}

amend_by_codebook <- function(study, book) {
  if (is.character(book)) book <- utils::read.csv(book, colClasses = "character", check.names = FALSE,
                                                  encoding = "UTF-8")
  parts <- codebook_parts(setdiff(names(book), c("missing", "table")))
  if (is.null(parts)) stop_input("This is not a codebook: it needs the columns \"column\" and \"kind\" or \"label\".",
                                 class = "bad_amendment")
  for (table in data_tables(study)) {
    rows <- if ("table" %in% names(book)) book[book$table == table$name, , drop = FALSE] else book
    study$tables[[table$name]] <- apply_codebook(table, rows, parts, "given to amend()")
  }
  study$amendments <- c(study$amendments, list(list(codebook = nrow(book))))
  refresh(study)
}

check_change <- function(change, name) {
  known <- c("kind", "label", "labels", "unit", "missing", "order", "format", "use", "role")
  if (!is.list(change) || is.null(names(change)) || length(setdiff(names(change), known))) {
    stop_input(sprintf("The change of %s is not understood.", quoted(name)),
               if (is.list(change) && length(names(change))) sprintf("It has %s.", some_of(quoted(names(change)), 6)),
               sprintf("Give a list with any of %s.", paste(known, collapse = ", ")), class = "bad_amendment")
  }
  kinds <- c("number", "count", "ordered", "category", "yes_no", "date", "datetime", "text", "id")
  if (!is.null(change$kind) && !change$kind %in% kinds) {
    stop_input(sprintf("%s is not a kind of column.", quoted(change$kind)),
               todo = sprintf("Use one of %s.", paste(kinds, collapse = ", ")),
               class = "bad_amendment")
  }
  change
}

#' Apply one change to the record of a column, keeping the record true to the data
#' @noRd
amend_column <- function(table, name, change, why) {
  col <- table$columns[[name]]
  raw <- table$data[[name]]
  if (!is.null(change$missing)) {
    codes <- change$missing
    col$missing_codes <- if (is.numeric(raw)) stats::na.omit(suppressWarnings(as.numeric(codes))) else as.character(codes)
    col$missing_codes <- nothing_as_null(as.vector(col$missing_codes))
    again <- profile_column(name, raw, codes = col$missing_codes %||% character())
    # a kind that several columns settled together (an answer scale) stays when codes change
    keep <- if (identical(col$role, "item")) c("kind", "levels", "reason", "role") else character()
    again[keep] <- col[keep]
    again$label <- col$label
    again$unit <- col$unit
    col <- again
  }
  seen <- drop_codes(raw, col$missing_codes)
  if (is.character(raw) && col$numeric) seen <- as_numbers(seen, col$style)
  if (!is.null(change$labels)) col <- change_labels(col, change$labels, seen, why)
  if (!is.null(change$kind)) col <- change_kind(col, change$kind, seen, change$format, why)
  if (!is.null(change$order)) col <- change_order(col, as.character(change$order), seen)
  for (field in c("label", "unit", "role")) if (!is.null(change[[field]])) col[[field]] <- change[[field]]
  if (!is.null(change$use)) col$used <- isTRUE(change$use)
  table$columns[[name]] <- col
  table
}

#' Stored codes get their labels: the column becomes one of levels
#' @noRd
change_labels <- function(col, labels, seen, why) {
  codes <- names(labels) %||% as.character(seq_along(labels))
  present <- if (is.numeric(seen)) format_plain(sort(unique(seen))) else unique(as.character(seen))
  others <- setdiff(present, codes)
  col$codes <- c(codes, others)
  col$levels <- c(unname(as.character(labels)), others)
  if (anyDuplicated(col$levels)) col$levels <- make.unique(col$levels, sep = " ")
  if (!is_level_kind(col$kind)) {
    scale <- ordered_scale_of(unname(as.character(labels)))
    col$kind <- if (length(col$levels) == 2) (if (all(tolower(col$levels) %in% yes_no_words())) "yes_no"
                                              else "category") else if (!is.null(scale)) "ordered" else "category"
    col$reason <- why
  }
  col
}

change_kind <- function(col, kind, seen, format, why) {
  if (kind %in% c("number", "count") && !col$numeric) {
    stop_input(sprintf("%s cannot be read as a %s: it holds text.", quoted(col$name), kind), class = "bad_amendment")
  }
  if (kind %in% c("constant", "empty")) return(col)
  col$kind <- kind
  col$reason <- why
  if (is_level_kind(kind)) col$levels <- col$levels %||% levels_of(seen)
  else col$levels <- NULL
  if (kind == "yes_no" && length(col$levels) != 2) {
    stop_input(sprintf("%s cannot be read as yes/no: it has %d values.", quoted(col$name), length(col$levels)),
               class = "bad_amendment")
  }
  if (kind == "date") col$format <- format %||% col$format %||% date_or_stop(seen, col$name)
  col
}

levels_of <- function(seen) {
  values <- unique(seen)
  if (is.numeric(values)) format_plain(sort(values)) else natural_order(as.character(values))
}

date_or_stop <- function(seen, name) {
  found <- if (inherits(seen, "Date")) list(format = "%Y-%m-%d") else date_format_of(unique(as.character(seen)))
  if (is.null(found)) {
    stop_input(sprintf("%s cannot be read as dates.", quoted(name)),
               todo = "Say how they are written, such as format = \"%d/%m/%Y\".",
               class = "bad_amendment")
  }
  found$format
}

#' Levels in the stated order; values that the order does not name follow at the end
#' @noRd
change_order <- function(col, order, seen) {
  if (!is_level_kind(col$kind)) return(col)
  if (!is.null(col$codes)) {
    # labels keep their codes when they are put into another order
    place <- match(c(order, setdiff(col$levels, order)), col$levels)
    place <- place[!is.na(place)]
    col$codes <- col$codes[place]
    col$levels <- col$levels[place]
    return(col)
  }
  present <- levels_of(seen)
  missing <- setdiff(present, order)
  col$levels <- c(order, missing)
  col
}
