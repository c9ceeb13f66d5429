# The tables of an answer, as data frames and as files.

#' The tables of an answer
#'
#' @param a An answer.
#' @param file Path to save one table to: `.csv` and `.xlsx` hold the numbers at full precision, `.html` and `.docx` the table as
#'   it is read (digits by the size of the numbers, p values without a leading zero). Texts that a spreadsheet would take for a
#'   formula are neutralised.
#' @param which Id or number of the table that is saved.
#' @return A named list of data frames; invisibly when one is saved.
#' @section Errors: `upbeatquill_error_not_answered`, `upbeatquill_error_bad_argument` for an unknown table or file type,
#'   `upbeatquill_error_package_missing`, `upbeatquill_error_folder_missing`.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' a <- ask(study, "honey yield by arm")
#' tables(a)$groups
#' tables(a, tempfile(fileext = ".csv"))
#' @export
tables <- function(a, file = NULL, which = 1) {
  need_answer(a)
  found <- a$result$tables
  out <- stats::setNames(lapply(found, `[[`, "data"), vapply(found, `[[`, "", "id"))
  if (is.null(file)) return(out)
  if (!length(found)) stop_input("This answer has no table.", a$sentences$headline, class = "not_answered")
  at <- if (is.character(which)) match(which, names(out)) else match(which, seq_along(out))
  if (length(at) != 1 || is.na(at)) stop_input("There is no such table in this answer.", sprintf("It holds %s.", some_of(quoted(names(out)), 8)))
  save_table(found[[at]], file)
  invisible(out)
}

save_table <- function(table, file) {
  type <- tolower(tools::file_ext(file))
  safe <- neutral_cells(table$data)
  switch(type,
    csv = write_whole(file, function(to) data.table::fwrite(safe, to, na = "", quote = "auto")),
    xlsx = { need_package("openxlsx", to = "write a workbook")
      write_whole(file, function(to) openxlsx::write.xlsx(safe, to, overwrite = TRUE,
        headerStyle = openxlsx::createStyle(textDecoration = "bold"))) },
    html = , docx = save_read_table(table, file, type),
    stop_input(sprintf("A table is saved as .csv, .xlsx, .html or .docx, not %s.", quoted(paste0(".", type)))))
}

#' The table as it is read
#' @noRd
save_read_table <- function(table, file, type) {
  for (package in c("flextable", if (type == "docx") "officer")) need_package(package, to = sprintf("write a table as .%s", type))
  numeric <- vapply(table$data, is.numeric, NA)
  shown <- as.data.frame(lapply(names(table$data), function(name) no_control(table_cells(table$data, name))), stringsAsFactors = FALSE,
                         col.names = sprintf("v%d", seq_along(numeric)), optional = TRUE)
  t <- flextable::set_header_labels(flextable::flextable(shown), values = stats::setNames(as.list(no_control(names(table$data))), names(shown)))
  t <- flextable::fontsize(flextable::add_header_lines(t, table$title), size = 9, part = "all")
  if (any(numeric)) t <- flextable::align(t, j = which(numeric), align = "right", part = "all")
  t <- flextable::autofit(t, add_h = 0)
  write_whole(file, function(to) if (type == "docx") flextable::save_as_docx(t, path = to) else flextable::save_as_html(t, path = to))
}

#' Text that XML can hold: no control characters
#' @noRd
no_control <- function(text) gsub("[\u0001-\u0008\u000b\u000c\u000e-\u001f]", " ", enc2utf8(as.character(text)))
