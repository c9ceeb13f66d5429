#' The base-R script behind an answer
#'
#' A standalone, commented R file: it reads the original data, repeats every amendment and condition, computes each
#' number with base R and
#' the recommended packages only, prints each number under its id, and draws the figure.
#'
#' @param a An answer.
#' @param file Path to write to, or `NULL`.
#' @return The lines, of class `upbeatquill_script` (printed as code); invisibly when written to a file.
#' @section Errors: `upbeatquill_error_not_answered` when nothing was computed.
#' @export
script <- function(a, file = NULL) {
  need_answer(a)
  if (is.null(a$method)) stop_input("Nothing was computed, so there is no script.", a$sentences$headline,
                                    class = "not_answered")
  lines <- structure(script_lines(a), class = "upbeatquill_script")
  if (is.null(file)) return(lines)
  write_text(lines, file)
  invisible(lines)
}

#' @export
print.upbeatquill_script <- function(x, ...) {
  writeLines(x)
  invisible(x)
}

need_answer <- function(a) {
  if (!inherits(a, "upbeatquill_answer")) stop_input("This needs an answer, as ask() returns.",
                                                     sprintf("It was given an object of class %s.",
                                                             quoted(class(a)[1])))
  invisible(a)
}

script_lines <- function(a) {
  ctx <- a$context
  body <- a$method$script(ctx, a$result)
  c(script_head(a), script_data(a$study, a$frame, a$reading), script_rows(a), "", "# ---- the method ----",
    sprintf("conf_level <- %s", as_r_number(ctx$conf_level)), body, script_print(), script_figure(a$figure),
    script_manifest(a$result$numbers, a$result$tables))
}

script_head <- function(a) {
  c(script_comment(sprintf("Question: %s", a$question)), script_comment(sprintf("Read as: %s", a$reading$plain)),
    script_comment(sprintf("Method: %s. %s", a$method$name, a$why)),
    sprintf("# Made by upbeatquill %s; needs R and its recommended packages only.",
            utils::packageVersion("upbeatquill")), "", "# ---- the data ----")
}

#' Lines that read every table used and give its columns their kinds
#' @noRd
script_data <- function(study, frame, reading) {
  plan <- frame$plan
  columns <- columns_used(reading)
  weight <- reading$extra$weight
  columns <- unique(c(columns, weight))
  # an overview is about every column
  if (reading$task %in% c("overview", "quality") &&
      !length(columns)) columns <- names(study$tables[[plan$table]]$columns)
  base <- study$tables[[plan$table]]
  own <- columns[vapply(columns, function(n) is.null(plan$from) || !n %in% names(plan$from) ||
                        plan$from[[n]] == plan$table, NA)]
  lines <- c(script_read(base$source, "data"), script_columns(base, own, "data"))
  for (other in names(plan$joins)) {
    theirs <- names(plan$from)[plan$from == other]
    table <- study$tables[[other]]
    lines <- c(lines, "", script_read(table$source, "other"), script_columns(table, unique(c(theirs, plan$joins[[other]]$one_key)), "other"),
               script_join(plan$joins[[other]], theirs))
  }
  lines
}

script_rows <- function(a) {
  used <- a$context$required
  filters <- unlist(lapply(a$reading$filters, function(f) script_filter(f, a$context$columns[[f$column]])))
  c("", "# ---- the rows ----", "keep <- rep(TRUE, nrow(data))", filters, "kept <- data[keep, , drop = FALSE]",
    if (length(used)) c(sprintf("used <- %s", as_r_strings(used)),
                        paste0("rows <- kept[complete.cases(kept[used]), , drop = FALSE]  # complete on the columns ",
                               "used")) else "rows <- kept",
    if (a$frame$used > 0 && length(used)) sprintf("stopifnot(nrow(rows) == %d)", a$frame$used))
}

script_figure <- function(figure) {
  if (is.null(figure)) return(character())
  size <- figure$look$size %||% c(8, 5)
  c("", "# ---- the figure ----",
    "if (Sys.getenv(\"UPBEATQUILL_FIGURE\", \"yes\") == \"yes\" && requireNamespace(\"ggplot2\", quietly = TRUE)) {",
    "  library(ggplot2)", paste0("  ", c(figure$script, look_script(figure$look))),
    sprintf("  ggsave(\"answer.png\", plot, width = %s, height = %s, dpi = 150)", format(round(size[1], 2)), format(round(size[2], 2))), "}")
}
