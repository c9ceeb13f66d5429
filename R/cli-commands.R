# One function a command: open the files, call the package, show what comes back.

#' Which words are files and which are questions: files come first, and a file exists or is spelled like one
#' @noRd
split_words <- function(words) {
  like_file <- file.exists(words) | grepl("^[^ ?]*[.][A-Za-z0-9]{1,8}$", words) | grepl("/$", words)
  first_text <- match(FALSE, like_file)
  files <- if (is.na(first_text)) words else words[seq_len(first_text - 1)]
  list(files = files, questions = words[seq_along(words) > length(files)])
}

need_files <- function(files, command) {
  if (!length(files)) {
    stop_usage(sprintf("quill %s needs at least one data file.", command),
               todo = sprintf("See quill %s --help.", command))
  }
  files
}

#' Open the files of a command and carry out its amendments
#' @noRd
open_words <- function(files, options, command) {
  study <- open_study(need_files(files, command), logbook = options$logbook)
  sentences <- trimws(unlist(strsplit(options$amend %||% character(), ";", fixed = TRUE)))
  if (length(sentences)) study <- do.call(amend, c(list(study), as.list(sentences[nzchar(sentences)])))
  study
}

cli_look <- function(options, words) {
  study <- open_words(words, options, "look")
  if (options$json) show_lines(to_json(as.list(study)))
  else show_lines(look(study, width = terminal_width(), colour = wants_colour()))
  exit_status()[["answered"]]
}

cli_ideas <- function(options, words) {
  found <- ideas(open_words(words, options, "ideas"))
  if (options$json) show_lines(to_json(as.list(unclass(found)))) else show_lines(sprintf("%2d  %s", seq_along(found),
      found))
  exit_status()[["answered"]]
}

cli_codebook <- function(options, words) {
  study <- open_words(words, options, "codebook")
  if (!is.null(options$output)) {
    codebook(study, options$output)
    say_note(sprintf("Codebook written to %s.", options$output))
    return(exit_status()[["answered"]])
  }
  book <- codebook(study)
  shown <- book[c("column", "kind", "label", "unit", "missing", "levels", "reason")]
  if (length(unique(book$table)) > 1) shown <- cbind(table = book$table, shown)
  show_lines(text_table(new_table("codebook", "Codebook", shown), terminal_width(), painter(wants_colour()),
                        most = nrow(shown)))
  exit_status()[["answered"]]
}

cli_ask <- function(options, words) {
  parts <- split_words(words)
  need_files(parts$files, "ask")
  if (!length(parts$questions)) {
    stop_usage("quill ask needs a question after the files.",
               todo = "Put it in quotes: quill ask data.csv \"mean weight by feed\".")
  }
  answer <- open_words(parts$files, options, "ask")
  for (i in seq_along(parts$questions)) {
    answer <- ask(answer, parts$questions[i], conf_level = options$level, seed = options$seed %||% 20240501)
    if (!options$json) show_lines(c(if (i > 1) c("", strrep("-", terminal_width())),
                                    answer_lines(answer, options$full)))
  }
  if (options$json) show_lines(to_json(as.list(answer)))
  save_extras(answer, options)
  exit_status()[[answer$status]]
}

answer_lines <- function(answer, full) {
  lines <- format(answer, width = terminal_width(), colour = wants_colour())
  if (!isTRUE(full) || answer$status != "answered") return(lines)
  paint <- painter(wants_colour())
  wrap <- function(text) unlist(lapply(text, function(t) strwrap(t, terminal_width() - 2, indent = 2, exdent = 2)))
  c(lines, "", paint$soft("For the paper"), wrap(write_up(answer)), "", paint$soft("What it means"),
    wrap(unclass(explain(answer))))
}

save_extras <- function(answer, options) {
  if (!is.null(options$script) && answer$status == "answered") {
    script(answer, options$script)
    say_note(sprintf("Script written to %s. Check it with: quill retrace %s", options$script, options$script))
  }
  if (!is.null(options$table) && answer$status == "answered") {
    if (!length(answer$result$tables)) say_note("This answer has no table, so none was written.")
    else {
      tables(answer, options$table)
      say_note(sprintf("Table written to %s.", options$table))
    }
  }
  if (!is.null(options$figure) && answer$status == "answered") {
    if (is.null(answer$figure)) say_note("This answer has no figure, so none was written.")
    else {
      figure(answer, options$figure)
      say_note(sprintf("Figure written to %s.", options$figure))
    }
  }
}

cli_retrace <- function(options, words) {
  need_files(words, "retrace")
  traces <- lapply(words, retrace)
  if (options$json) {
    documents <- lapply(traces, as.list)
    show_lines(to_json(if (length(documents) == 1) documents[[1]] else documents))
  } else for (trace in traces) show_lines(format(trace))
  ok <- all(vapply(traces, function(t) isTRUE(t$ok), NA))
  exit_status()[[if (ok) "answered" else "failed"]]
}

cli_report <- function(options, words) {
  study <- open_words(words, options, "report")
  lines <- report_questions(study, options)
  if (options$plan) {
    show_lines(plan_lines(report(study, questions = lines, plan = TRUE)))
    return(exit_status()[["answered"]])
  }
  if (is.null(options$output)) stop_usage("quill report needs -o OUT, the report to write.", todo = "See quill report --help.")
  report_writer(options$output)  # a wrong type or folder is said before the work, not after it
  if (!options$yes && isatty(stdin()) && !goes_on(plan_lines(report(study, questions = lines, plan = TRUE)))) {
    say_note("Nothing was written.")
    return(exit_status()[["failed"]])
  }
  answers <- answer_list(study, lines, function(step, of, line) say_note(sprintf("%d of %d  %s", step, of, line)))
  report(answers, options$output, title = options$title)
  say_note(sprintf("Report of %s written to %s.", count_of(length(answers), "answer"), options$output))
  exit_status()[["answered"]]
}

#' Questions of the file named, else the most promising ones
#' @noRd
report_questions <- function(study, options) {
  if (is.null(options$questions)) return(c("What is in this data?", utils::head(as.character(ideas(study)), 5)))
  if (!file.exists(options$questions)) stop_input(sprintf("There is no file %s.", quoted(options$questions)), class = "file_missing")
  question_lines(readLines(options$questions, encoding = "UTF-8", warn = FALSE))
}

plan_lines <- function(plan) {
  unlist(lapply(seq_len(nrow(plan)), function(i) {
    c(sprintf("%2d  %s", plan$step[i], plan$question[i]), strwrap(plan$reads_as[i], terminal_width() - 6, prefix = "      "),
      if (plan$status[i] != "will be computed") sprintf("      (%s)", plan$status[i]))
  }))
}

#' Show the plan and ask whether to go on
#' @noRd
goes_on <- function(lines) {
  show_lines(lines)
  cat("Go on? [y/N] ", file = stderr())
  reply <- readLines(file("stdin"), n = 1, warn = FALSE)
  length(reply) == 1 && tolower(trimws(reply)) %in% c("y", "yes")
}

cli_desk <- function(options, words) {
  study <- open_words(words, options, "desk")
  desk(study, port = options$port, browser = !options$quiet)
  exit_status()[["answered"]]
}
