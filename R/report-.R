# What every kind of report shares: the public function and the checks at its door.

#' Write a report of answers
#'
#' One self-contained file that works offline: the data it rests on, then each question with how it was read, the
#' answer, the
#' numbers, checks, second opinions, figure, words for a paper, and the script, folded.
#'
#' @param answers An answer or a list of answers, in the order in which they are shown.
#' @param file Path to write to, ending in `.html`.
#' @param title Title of the report.
#' @return The path, invisibly. The file is written whole or not at all.
#' @section Errors: `upbeatquill_error_bad_argument` for anything that is not an answer or for another file type,
#'   `upbeatquill_error_folder_missing`, `upbeatquill_error_package_missing` without htmltools.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' a <- ask(study, "Does the honey yield differ between syrup and control?")
#' if (requireNamespace("htmltools", quietly = TRUE)) report(a, tempfile(fileext = ".html"))
#' @export
report <- function(answers, file, title = "Findings") {
  if (inherits(answers, "upbeatquill_answer")) answers <- list(answers)
  if (!is.list(answers) ||
      !length(answers)) stop_input("report() takes an answer or a list of answers, as ask() returns.")
  for (a in answers) need_answer(a)
  type <- tolower(tools::file_ext(file))
  if (!type %in% c("html", "htm")) stop_input(sprintf("A report is written as .html, not %s.",
                                                      quoted(paste0(".", type))))
  need_package("htmltools", to = "write a report")
  write_text(html_report(answers, title), file)
}
