# A logbook replayed: the same files, amendments, declarations and questions, and what has changed since.

#' Replay a logbook
#'
#' Opens the files that the logbook names, repeats every amendment, declaration and question in its order, and compares the
#' numbers of every answer with those that were written down.
#'
#' @param logbook Path of a JSON Lines file that `open_study(logbook = )` or `quill ask --logbook` wrote.
#' @param data What to open instead of the files named there, as [open_study()] takes it (needed when the study was opened
#'   from data frames or a database).
#' @param tolerance Largest relative difference that counts as agreement.
#' @return Of class `upbeatquill_replay`; `as.list()` gives `ok`, `total`, `agree`, `worst`, `differences` (id, answer: then,
#'   script: now), `not_compared`, `seconds`, and `sources` (file, changed). The study and the answers are its
#'   `study` and `answers`.
#' @section Errors: `upbeatquill_error_file_missing`, `upbeatquill_error_not_a_logbook`.
#' @examples
#' log <- tempfile(fileext = ".jsonl")
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"), logbook = log)
#' a <- ask(study, "mean honey yield by arm")
#' replay(log)
#' @export
replay <- function(logbook, data = NULL, tolerance = 1e-8) {
  started <- proc.time()[["elapsed"]]
  events <- read_logbook(logbook)
  study <- reopen(events, data, dirname(logbook))
  changed <- changed_sources(events, study)
  answers <- list()
  then <- now <- numeric()
  for (event in events) {
    done <- replay_event(study, event, answers)
    study <- done$study
    if (is.null(done$answer)) next
    label <- sprintf("%d. %s", length(answers) + 1L, event$question)
    answers[[event$id %||% label]] <- done$answer
    then <- c(then, logged_numbers(event$numbers, label))
    now <- c(now, logged_numbers(done$answer$result$number, label))
  }
  trace <- judge_replay(then, now, tolerance, length(answers))
  structure(c(trace, list(seconds = proc.time()[["elapsed"]] - started, sources = changed, study = study, answers = unname(answers))),
            class = c("upbeatquill_replay", "upbeatquill_retrace"))
}

read_logbook <- function(path) {
  if (!file.exists(path)) stop_input(sprintf("There is no file %s.", quoted(path)), class = "file_missing")
  lines <- readLines(path, encoding = "UTF-8", warn = FALSE)
  events <- lapply(lines[nzchar(lines)], function(line) tryCatch(jsonlite::fromJSON(line, simplifyVector = FALSE), error = function(e) NULL))
  if (!length(events) || any(vapply(events, function(e) is.null(e$event), NA)) || events[[1]]$event != "opened") {
    stop_input(sprintf("%s is not a logbook.", quoted(basename(path))),
               todo = "Give a file that open_study(logbook = ) or quill ask --logbook wrote.", class = "not_a_logbook")
  }
  # a logbook that several sessions wrote to holds several studies: the last is replayed
  last <- max(which(vapply(events, function(e) e$event == "opened", NA)))
  events[last:length(events)]
}

reopen <- function(events, data, folder) {
  if (!is.null(data)) return(open_study(data))
  paths <- vapply(events[[1]]$sources, function(s) s$path %||% "", "")
  if (!all(nzchar(paths))) {
    stop_input("This logbook is of data that was not opened from files.", todo = "Give the data: replay(logbook, data = ...).",
               class = "file_missing")
  }
  paths <- unique(paths)
  beside <- file.path(folder, basename(paths))
  paths <- ifelse(!file.exists(paths) & file.exists(beside), beside, paths)
  open_study(paths)
}

changed_sources <- function(events, study) {
  then <- vapply(events[[1]]$sources, function(s) s$sha256 %||% "", "")
  names(then) <- vapply(events[[1]]$sources, function(s) s$file %||% "", "")
  now <- vapply(study$sources, function(s) s$sha256 %||% "", "")
  names(now) <- vapply(study$sources, function(s) s$file, "")
  data.frame(file = names(then), changed = unname(is.na(now[names(then)]) | now[names(then)] != then), stringsAsFactors = FALSE)
}

#' One event on the study as it stands
#' @section Shape: list(study, answer (NULL when nothing was asked)).
#' @noRd
replay_event <- function(study, event, answers) {
  given <- event[setdiff(names(event), c("event", "time"))]
  if (event$event == "asked") {
    from <- if (is.null(event$follows)) study else answers[[event$follows]] %||% study
    return(list(study = study, answer = ask(from, event$question, conf_level = event$conf_level, seed = event$seed %||% 20240501)))
  }
  study <- switch(event$event,
    undone = undo(study, event$steps),
    declared = do.call(design, c(list(study), given)),
    amended = remember(refresh(replay_amendment(study, given)), study),
    study)
  list(study = study, answer = NULL)
}

replay_amendment <- function(study, given) {
  if (!is.null(given$alias)) return(words_alias(study, given$alias, given$column))
  if (!is.null(given$codebook)) return(amend_by_codebook(study, do.call(rbind, lapply(given$codebook, as.data.frame, check.names = FALSE))))
  if (!is.null(given$cases)) return(amend_cells(study, given$cases, given$table))
  if (!is.null(given$rows$numbers)) return(amend_rows(study, as.numeric(unlist(given$rows$numbers)), FALSE, given$table))
  if (!is.null(given$rows)) return(amend_rows(study, given$rows$filters, isTRUE(given$rows$keep), given$table))
  change <- given$change
  for (part in intersect(names(change), c("from", "cuts", "labels", "missing", "order", "recode"))) change[[part]] <- unlist(change[[part]])
  amend_named(study, given$column, change, given$table)
}

logged_numbers <- function(numbers, label) {
  numbers <- compact(as.list(numbers))
  value <- vapply(numbers, function(v) if (is.numeric(v) && length(v) == 1) as.numeric(v) else suppressWarnings(as.numeric(v)[1]), 1)
  stats::setNames(value, sprintf("%s: %s", rep(label, length(value)), names(numbers)))
}

judge_replay <- function(then, now, tolerance, questions) {
  trace <- compare_values(then, now, tolerance)
  trace$ok <- (trace$ok || questions == 0 || !length(then)) && !nrow(trace$not_compared) && !nrow(trace$differences)
  trace$questions <- questions
  trace
}

#' @export
as.list.upbeatquill_replay <- function(x, ...) unclass(x)[setdiff(names(x), c("study", "answers"))]

#' @export
format.upbeatquill_replay <- function(x, ...) {
  changed <- x$sources$file[x$sources$changed]
  d <- x$differences
  c(sprintf("Replayed %s: %d of %d numbers as they were, %s s.", count_of(x$questions, "question"), x$agree, x$total, say_number(x$seconds, 1)),
    if (length(changed)) sprintf("Changed since then: %s.", some_of(changed)) else "The files are those of then.",
    if (nrow(d)) sprintf("  %s was %s, is now %s", d$id, format(d$answer, digits = 8), format(d$script, digits = 8)),
    if (nrow(x$not_compared)) sprintf("No longer computed: %s.", some_of(x$not_compared$id, 6)))
}
