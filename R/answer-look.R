#' Look at what a study holds
#'
#' @param study A study, as [open_study()] returns.
#' @param width Width of the text in characters.
#' @param colour Use colour?
#' @return The lines shown, of class `upbeatquill_look`; `as.list(study)` gives the same as a document.
#' @examples
#' look(open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill")))
#' @export
look <- function(study, width = NULL, colour = NULL) {
  need_study(study)
  width <- width %||% min(110, max(60, cli::console_width()))
  paint <- painter(colour %||% (cli::num_ansi_colors() > 1))
  lines <- c(unlist(lapply(data_tables(study), look_table, width = width, paint = paint)), look_joins(study, paint),
             look_sets(study, width, paint), look_amendments(study, width, paint), look_findings(study, width, paint), look_design(study, paint))
  structure(lines, class = "upbeatquill_look")
}

#' @export
print.upbeatquill_look <- function(x, ...) {
  writeLines(unclass(x))
  invisible(x)
}

#' @export
format.upbeatquill_study <- function(x, ...) {
  tables <- data_tables(x)
  vapply(tables, function(t) sprintf("%s: %s, %s", t$name, count_of(nrow(t$data), "row"),
                                     count_of(ncol(t$data), "column")), "")
}

#' @export
print.upbeatquill_study <- function(x, ...) {
  print(look(x))
  invisible(x)
}

look_table <- function(table, width, paint) {
  head <- sprintf("%s   %s, %s   fingerprint %s", source_name(table), count_of(nrow(table$data), "row"),
                  count_of(ncol(table$data), "column"), substr(table$source$sha256, 1, 12))
  columns <- Filter(function(col) !identical(col$used, FALSE), table$columns)
  shown <- utils::head(columns, 60)
  names <- gsub("[[:cntrl:]]+", " ", vapply(shown, `[[`, "", "name"))
  w <- min(28, max(nchar(c("column", names), type = "width")))
  kinds <- vapply(shown, shown_kind, "")
  missing <- vapply(shown, function(col) if (col$missing == 0) "" else say_number(col$missing), "")
  room <- width - w - 24
  holds <- vapply(shown, function(col) shorten(column_holds(col, table), room), "")
  line <- function(a, b, c, d) paste0("  ", pad(a, w), "  ", pad(b, 8), "  ", formatC(c, width = 7), "  ", d)
  c(paint$bold(head), "", paint$soft(line("column", "kind", "missing", "holds")), line(names, kinds, missing, holds),
    if (length(columns) > 60) sprintf("  ... %s", count_of(length(columns) - 60, "more column")), "")
}

#' The kind of a column as a reader is shown it
#' @noRd
shown_kind <- function(col) {
  roles <- c(weight = "weight", undecided_date = "date?", multi_answer = "answers", range = "ranges")
  if (isTRUE(col$role %in% names(roles))) roles[[col$role]] else gsub("_", "/", col$kind)
}

pad <- function(x, w) {
  x <- ifelse(nchar(x, type = "width") > w, paste0(substr(x, 1, w - 1), "\u2026"), x)
  paste0(x, strrep(" ", pmax(0, w - nchar(x, type = "width"))))
}

shorten <- function(text, room) if (nchar(text) > room) paste0(substr(text, 1, max(1, room - 1)), "\u2026") else text

#' What a column holds, in a few words
#' @noRd
column_holds <- function(col, table) {
  raw <- table$data[[col$name]]
  x <- understand(raw, col)
  text <- switch(col$kind,
    number = , count = { q <- stat_group_quantiles(x, probs = c(0, 0.5, 1))
      sprintf("%s to %s, median %s", say_number(q[1]), with_unit(say_number(q[3]), col$unit), say_number(q[2])) },
    ordered = , category = , yes_no = { counts <- table(x)
      order <- if (col$kind == "category") order(-counts) else seq_along(counts)
      some_of(sprintf("%s (%s)", names(counts)[order], counts[order]), 6) },
    date = { r <- range(x, na.rm = TRUE); sprintf("%s to %s, %s", format(r[1]), format(r[2]),
                                                  count_of(col$distinct, "different day")) },
    datetime = { r <- range(x, na.rm = TRUE); sprintf("%s to %s", format(r[1]), format(r[2])) },
    id = sprintf("%s different, such as %s", say_number(col$distinct), some_of(utils::head(unique(x[!is.na(x)]), 2))),
    text = sprintf("%s different, such as %s", say_number(col$distinct), quoted(utils::head(x[!is.na(x)], 1))),
    constant = sprintf("always %s", utils::head(as.character(x[!is.na(x)]), 1)), empty = "nothing", "")
  if (!is.null(col$label) && nzchar(col$label)) text <- paste0(col$label, ": ", text)
  gsub("[[:cntrl:]]+", " ", text)
}

look_joins <- function(study, paint) {
  if (!length(study$joins)) return(NULL)
  lines <- vapply(study$joins, function(j) sprintf("  each row of %s finds one row of %s by %s: %s of %s matched%s", j$many, j$one,
    if (j$key == j$one_key) j$key else paste(j$key, "and", j$one_key), say_number(j$matched), say_number(j$rows),
    if (j$unmatched) sprintf(", %s unmatched", say_number(j$unmatched)) else ""), "")
  c(paint$soft("Tables that belong together"), lines, "")
}

#' Columns that belong together
#' @noRd
look_sets <- function(study, width, paint) {
  sets <- study_sets(study)
  if (!length(sets)) return(NULL)
  what <- c(items = "items of one scale", repeated_measures = "one thing measured at several times", multi_answer = "answers of one question",
            position = "a position")
  lines <- vapply(unname(sets), function(set) shorten(sprintf("  %s: %s", what[[set$kind]], some_of(set$columns, 6)), width), "")
  c(paint$soft("Columns that belong together"), utils::head(lines, 8), if (length(lines) > 8) sprintf("  ... %d more", length(lines) - 8), "")
}

#' What was amended, so that nothing changed is out of sight
#' @noRd
look_amendments <- function(study, width, paint) {
  gone <- unlist(lapply(data_tables(study), left_out_words))
  unused <- unlist(lapply(data_tables(study), function(t) names(Filter(function(col) identical(col$used, FALSE), t$columns))))
  lines <- c(gone, if (length(unused)) sprintf("Columns left out: %s", some_of(unused, 6)))
  if (!length(lines)) return(NULL)
  c(paint$soft("Amended"), paste0("  ", lines), "")
}

look_findings <- function(study, width, paint) {
  findings <- study_findings(study)
  if (!length(findings)) return(paint$soft("No findings."))
  shown <- utils::head(findings, 14)
  several <- length(data_tables(study)) > 1
  wrap <- function(text) strwrap(text, width - 10)
  lines <- unlist(lapply(shown, function(f) {
    colour <- switch(f$severity, act = paint$bad, look = paint$warn, paint$soft)
    rows <- if (length(f$rows)) sprintf(" %s %s.", plural(length(f$rows), "Row", "Rows"), some_of(as.character(f$rows), 4)) else ""
    text <- wrap(paste0(if (several && length(f$table)) paste0(f$table, ", "), f$message, rows))
    mend <- if (length(f$amendment)) paint$soft(wrap(sprintf("if so: \u201c%s\u201d", shorten(f$amendment, 90))))
    paste0("  ", colour(pad(c(f$severity, rep("", length(text) + length(mend) - 1)), 4)), "  ", c(text, mend))
  }))
  c(paint$soft("Findings"), lines, if (length(findings) > 14) sprintf("  ... %d more; ask \"what is wrong with this data?\"", length(findings) - 14))
}

look_design <- function(study, paint) {
  if (!length(study$design)) return(NULL)
  c("", paint$soft("Design"), sprintf("  %s: %s", names(study$design),
                                      vapply(study$design, function(d) if (is.logical(d)) if (d) "yes" else "no"
                                             else as.character(d), "")))
}
