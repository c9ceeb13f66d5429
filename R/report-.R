# What every kind of report shares: the public function, the checks at its door, the plan.

#' Write a report of answers
#'
#' One self-contained file that works offline. It goes in the order of the work: the data it rests on, its quality, each
#' question with how it was read, the answer, the numbers, checks, second opinions, figure, and words for a paper; then what
#' holds, the limits, next steps, the methods with their sources, and the scripts.
#'
#' The extension decides the form: `.html` a page with the scripts folded; `.docx` a document; `.pptx` slides, one message each, with
#' the numbers in the notes; `.pdf` pages of A4; `.qmd` and `.Rmd` sources that run, `.ipynb` a notebook for the R kernel; `.zip` a [bundle()].
#'
#' @param x An answer, a list of answers in the order in which they are shown, or a study together with `questions`.
#' @param file Path to write to.
#' @param title Title of the report.
#' @param questions Character, with a study: questions to be asked in turn. One that starts with `>` follows up on the answer
#'   before it. A question that fails is reported as not answered; the others stand.
#' @param plan If `TRUE`, nothing is computed or written: the steps are returned, to be edited and given back as `questions`.
#' @return The path, invisibly; with `plan = TRUE` a data frame with `step`, `question`, `reads_as` and `status`. The file is
#'   written whole or not at all.
#' @section Errors: `upbeatquill_error_bad_argument` for anything that is not an answer or for another file type,
#'   `upbeatquill_error_folder_missing`, `upbeatquill_error_package_missing` without the package that writes the format
#'   (htmltools; officer and flextable).
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' report(study, questions = c("honey yield by arm", "> only in the north"), plan = TRUE)
#' a <- ask(study, "Does the honey yield differ between syrup and control?")
#' report(a, tempfile(fileext = ".pdf"))
#' @export
report <- function(x, file, title = "Findings", questions = NULL, plan = FALSE) {
  if (isTRUE(plan)) return(report_plan(need_study(x), question_lines(questions)))
  writer <- report_writer(file)
  answers <- if (inherits(x, "upbeatquill_study")) answer_list(x, question_lines(questions)) else if (inherits(x,
    "upbeatquill_answer")) list(x) else x
  if (!is.list(answers) || !length(answers)) stop_input("report() takes an answer, a list of answers, or a study with questions.")
  for (a in answers) need_answer(a)
  writer(answers, one_line(title), file)
  invisible(file)
}

#' The function that writes a type of file
#' @noRd
report_writer <- function(file) {
  if (!is.character(file) || length(file) != 1 || is.na(file)) stop_input("A report needs one path to write to.")
  if (!dir.exists(dirname(file))) stop_input(sprintf("The folder %s does not exist.", quoted(dirname(file))),
                                             todo = "Create it, or name another place.", class = "folder_missing")
  source_as <- function(type) function(answers, title, file) source_report(answers, title, file, type)
  page <- function(answers, title, file) {
    need_package("htmltools", to = "write an HTML report")
    write_text(html_report(answers, title), file)
  }
  writers <- list(html = page, htm = page, docx = docx_report, pptx = pptx_report, pdf = pdf_report, ipynb = notebook_report,
                  qmd = source_as("qmd"), rmd = source_as("rmd"), zip = function(answers, title, file) bundle(answers, file, title = title))
  type <- tolower(tools::file_ext(file))
  writers[[type]] %||% stop_input(sprintf("A report is written as .html, .docx, .pptx, .pdf, .ipynb, .qmd, .Rmd or .zip, not %s.",
    quoted(paste0(".", type))))
}

#' Questions of a list: empty lines and comments left out
#' @noRd
question_lines <- function(lines) {
  if (!is.character(lines)) stop_input("A report of a study needs its questions as text.", todo = "Give them as questions = c(\"...\", \"...\").")
  lines <- trimws(lines)
  lines <- lines[!is.na(lines) & nzchar(lines) & !startsWith(lines, "#")]
  if (!length(lines)) stop_input("There is no question to answer.", class = "file_empty")
  lines
}

#' How each question would be read, without computing anything
#' @noRd
report_plan <- function(study, lines) {
  study$vocabulary <- study_vocabulary(study)
  before <- NULL
  rows <- lapply(seq_along(lines), function(i) {
    text <- trimws(sub("^>", "", lines[i]))
    follows <- startsWith(lines[i], ">") && !is.null(before)
    read <- if (follows) read_follow_up(study, text, before, list(before)) else read_question(study, text)
    study <- read$study %||% study
    if (read$status == "answered") before <<- read$reading
    data.frame(step = i, question = lines[i], reads_as = if (read$status == "answered") read$reading$plain else read$headline %||% "",
               status = if (read$status == "answered") "will be computed" else gsub("_", " ", read$status), stringsAsFactors = FALSE)
  })
  do.call(rbind, rows)
}

#' Ask a list of questions; one that fails does not lose the others
#' @noRd
answer_list <- function(study, lines, say = function(step, of, line) NULL) {
  study$vocabulary <- study_vocabulary(study)
  answers <- list()
  for (i in seq_along(lines)) {
    line <- lines[i]
    say(i, length(lines), line)
    follows <- startsWith(line, ">") && length(answers)
    from <- if (follows) last_of(answers) else study
    text <- trimws(sub("^>", "", line))
    answers[[i]] <- tryCatch(ask(from, text), error = function(e) failed_answer(study, text, conditionMessage(e)))
  }
  answers
}

failed_answer <- function(study, question, message) {
  refused(new_answer(study, question, new_reading("clarify"), "cannot_answer"), first_sentence(paste("This question failed:", message)), study)
}
