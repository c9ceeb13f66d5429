# The answer document.

#' The answer document of an answer
#'
#' @param x An answer.
#' @param ... Not used.
#' @return A plain nested list: format, version, status, question, reading, method, rows, numbers, tables, checks,
#'   second_opinions, sentences,
#'   cautions, figures, next, script, seed, engine. Numbers are raw doubles; a missing value is `NULL`, an infinity
#'   the text "Inf" or "-Inf".
#' @export
as.list.upbeatquill_answer <- function(x, ...) {
  list(format = "upbeatquill/answer", version = 1L, status = x$status, question = x$question,
       reading = reading_document(x$reading), method = document_method(x),
       rows = rows_document(x), numbers = lapply(x$result$numbers, number_document),
       tables = lapply(x$result$tables, table_document), checks = lapply(x$checks, check_document),
       second_opinions = lapply(x$second, opinion_document),
       sentences = list(headline = x$sentences$headline, details = as.list(unname(x$sentences$details)),
                        write_up = x$sentences$write_up),
       cautions = as.list(unname(x$cautions)), figures = if (is.null(x$figure)) list() else list(list(id = x$figure$id,
           title = figure_title(x$figure), kind = x$figure$kind, alt = sub(x$figure$title, figure_title(x$figure), x$figure$alt, fixed = TRUE),
           file = NULL)),
       "next" = as.list(unname(x$next_steps)), script = if (is.null(x$method)) NULL else paste(script_lines(x),
           collapse = "\n"), seed = x$seed,
       engine = list(upbeatquill = as.character(utils::packageVersion("upbeatquill")), R = as.character(getRversion())))
}

#' The title of a figure: the one asked for, else its own
#' @noRd
figure_title <- function(figure) figure$look$title %||% figure$title

document_method <- function(x) {
  if (is.null(x$method)) return(NULL)
  list(id = x$method$id, name = x$method$name, why = x$why, references = as.list(x$method$references))
}

rows_document <- function(x) {
  f <- x$frame
  if (is.null(f)) return(NULL)
  list(total = f$total, after_filters = f$after_filters, used = f$used, left_out_missing = f$left_out_missing)
}

plain_value <- function(v) {
  if (length(v) != 1) return(lapply(v, plain_value))
  if (is.na(v)) return(NULL)
  if (is.numeric(v) && is.infinite(v)) return(if (v > 0) "Inf" else "-Inf")
  if (inherits(v, c("Date", "POSIXct", "factor"))) return(as.character(v))
  unname(v)
}

number_document <- function(n) list(id = n$id, label = n$label, value = plain_value(n$value), of = n$of)

table_document <- function(t) {
  rows <- lapply(seq_len(nrow(t$data)), function(i) unname(lapply(t$data, function(column) plain_value(column[[i]]))))
  list(id = t$id, title = t$title, columns = as.list(names(t$data)), rows = rows)
}

check_document <- function(c) list(id = c$id, verdict = c$verdict, method = c$method,
                                   numbers = lapply(unname(c$numbers), number_document), meaning = c$meaning)

opinion_document <- function(s) list(method = list(id = s$id, name = s$name),
                                     numbers = lapply(s$result$numbers, number_document),
                                     agrees = if (is.na(s$agrees)) NULL else s$agrees)

#' JSON with 17 significant digits
#' @noRd
to_json <- function(document) {
  jsonlite::toJSON(document, auto_unbox = TRUE, digits = I(17), null = "null", na = "null", pretty = FALSE)
}
