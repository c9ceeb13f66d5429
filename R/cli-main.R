# The quill command: which command was typed, run it, say what went wrong, leave with a status.

#' Run the `quill` command
#'
#' What the shell command `quill` calls; it ends the R session with the command's exit status.
#'
#' @param args Character: the words typed after `quill`.
#' @return Does not return. Exit status: 0 answered, 1 failed, 2 wrong usage, 3 needs a choice, 4 cannot be answered.
#' @examples
#' \dontrun{
#' quill(c("look", "hive_trial.csv"))
#' }
#' @export
quill <- function(args = commandArgs(TRUE)) {
  quit(save = "no", status = run_command(args))
}

exit_status <- function() c(answered = 0L, failed = 1L, usage = 2L, needs_choice = 3L, cannot_answer = 4L)

#' Run one command line and return its exit status; results go to standard output, everything else to standard error
#' @noRd
run_command <- function(args) {
  options(upbeatquill.progress = TRUE)
  status <- tryCatch(
    dispatch_command(enc2utf8(as.character(args))),
    upbeatquill_error = function(e) {
      say_error(conditionMessage(e))
      exit_status()[[if (inherits(e, "upbeatquill_error_usage")) "usage" else "failed"]]
    },
    interrupt = function(e) {
      say_error("Stopped.")
      130L
    },
    error = function(e) {
      say_error(paste0("Something went wrong inside upbeatquill: ", first_line(conditionMessage(e)), "\n",
                       "i Nothing was changed. Please report it with the command that you typed."))
      exit_status()[["failed"]]
    })
  as.integer(status)
}

dispatch_command <- function(args) {
  if (!length(args) || args[1] %in% c("--help", "-h", "help")) {
    show_lines(general_help())
    return(exit_status()[[if (length(args)) "answered" else "usage"]])
  }
  if (args[1] %in% c("--version", "-V")) {
    show_lines(sprintf("upbeatquill %s (R %s)", utils::packageVersion("upbeatquill"), getRversion()))
    return(exit_status()[["answered"]])
  }
  spec <- command_specs()[[args[1]]]
  if (is.null(spec)) stop_usage_unknown(args[1])
  given <- parse_options(args[1], spec, args[-1])
  if (isTRUE(given$options$help)) {
    show_lines(command_help(args[1], spec))
    return(exit_status()[["answered"]])
  }
  spec$run(given$options, given$words)
}

stop_usage <- function(what, found = NULL, todo = NULL) stop_input(what, found, todo, class = "usage")

stop_usage_unknown <- function(word) {
  near <- nearest_names(word, names(command_specs()), most = 1)
  stop_usage(sprintf("quill has no command %s.", quoted(word)),
             todo = if (length(near)) sprintf("Did you mean quill %s? See quill --help.",
                                              near) else "See quill --help.")
}

say_error <- function(text) writeLines(enc2utf8(text), stderr(), useBytes = TRUE)
say_note <- function(text) writeLines(enc2utf8(text), stderr(), useBytes = TRUE)
show_lines <- function(lines) writeLines(enc2utf8(as.character(lines)), stdout(), useBytes = TRUE)

#' Colour only on a terminal, and never with NO_COLOR
#' @noRd
wants_colour <- function() !nzchar(Sys.getenv("NO_COLOR")) && isatty(stdout()) && cli::num_ansi_colors(stdout()) > 1

terminal_width <- function() {
  columns <- suppressWarnings(as.integer(Sys.getenv("COLUMNS")))
  width <- if (!is.na(columns)) columns else if (isatty(stdout())) cli::console_width() else 90
  min(110, max(60, width))
}
