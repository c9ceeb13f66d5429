# Conditions: one door, families of classes, one layout of message.

#' Raise an error of this package
#'
#' @param message Character: what is wrong; elements named `x` say what was found, `i` what to do now. User text
#'   comes in as finished strings, never as a template.
#' @param class Exact class, without the common prefix.
#' @param family One of "input", "data", "package", "internal".
#' @param ... Facts kept as fields of the condition.
#' @noRd
abort_quill <- function(message, class, family, ..., call = NULL) {
  stopifnot(is.character(message), family %in% c("input", "data", "package", "internal"))
  marks <- names(message) %||% rep("", length(message))
  lead <- c(x = "x ", i = "i ")[marks]
  lead[is.na(lead)] <- ""
  text <- paste0(lead, message, collapse = "\n")
  condition <- structure(
    list(message = text, call = call, what = unname(message[marks == ""]),
         found = unname(message[marks == "x"]), todo = unname(message[marks == "i"]), ...),
    class = c(paste0("upbeatquill_error_", c(class, family)), "upbeatquill_error", "error", "condition")
  )
  stop(condition)
}

stop_input <- function(what, found = NULL, todo = NULL, class = "bad_argument", ..., call = NULL) {
  abort_quill(c(what, x = found, i = todo), class = class, family = "input", ..., call = call)
}

stop_data <- function(what, found = NULL, todo = NULL, class = "unfit_data", ..., call = NULL) {
  abort_quill(c(what, x = found, i = todo), class = class, family = "data", ..., call = call)
}

stop_column_unknown <- function(column, columns, nearest = character(), call = NULL) {
  abort_quill(
    c(sprintf("There is no column called %s.", quoted(column)),
      x = sprintf("The data holds %s.", some_of(quoted(columns), 12)),
      i = if (length(nearest)) sprintf("Did you mean %s?", paste(quoted(nearest), collapse = " or "))),
    class = "column_unknown", family = "data", column = column, columns = columns, nearest = nearest, call = call
  )
}

#' Ask for an optional package where it is used
#' @noRd
need_package <- function(package, to) {
  if (requireNamespace(package, quietly = TRUE)) return(invisible(TRUE))
  abort_quill(c(sprintf("The package %s is needed to %s.", quoted(package), to),
                i = sprintf("Install it with install.packages(\"%s\") and ask again.", package)),
              class = "package_missing", family = "package", package = package)
}
