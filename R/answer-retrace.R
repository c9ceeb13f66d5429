#' Run an answer's script in a fresh R and compare every number
#'
#' A logbook is replayed instead: see [replay()].
#'
#' @param a An answer, or the path of a script that [script()] wrote or of a logbook.
#' @param tolerance Largest relative difference that counts as agreement.
#' @return Of class `upbeatquill_retrace`; `as.list()` gives `ok`, `total`, `agree`, `worst` (largest relative
#'   difference), `differences` (id,
#'   answer, script), `not_compared` (id, reason) and `seconds`.
#' @section Errors: `upbeatquill_error_not_answered`, `upbeatquill_error_file_missing`,
#'   `upbeatquill_error_not_a_script`.
#' @export
retrace <- function(a, tolerance = 1e-8) {
  if (is.character(a)) return(retrace_file(a, tolerance))
  need_answer(a)
  lines <- script(a)
  folder <- tempfile("retrace-")
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  save_frames(a, folder)
  file <- file.path(folder, "answer.R")
  write_text(lines, file)
  compare_script(file, lines, folder, tolerance)
}

retrace_file <- function(path, tolerance) {
  if (!file.exists(path)) stop_input(sprintf("There is no file %s.", quoted(path)), class = "file_missing")
  lines <- readLines(path, encoding = "UTF-8", warn = FALSE)
  if (length(lines) && startsWith(lines[1], "{")) return(replay(path, tolerance = tolerance))
  if (!any(startsWith(lines, "#:\t"))) {
    stop_input(sprintf("%s carries no numbers to compare.", quoted(basename(path))),
               todo = "Give a script that quill ask --script or script() wrote.", class = "not_a_script")
  }
  compare_script(normalizePath(path), lines, dirname(normalizePath(path)), tolerance)
}

#' Data frames given in the session are handed to the script as files
#' @noRd
save_frames <- function(a, folder) {
  for (t in a$study$tables) if (t$source$format == "frame") saveRDS(as.data.frame(t$original %||% t$data),
      file.path(folder, t$source$file))
}

compare_script <- function(file, lines, folder, tolerance) {
  need_package("callr", to = "run the script in a fresh R")
  started <- proc.time()[["elapsed"]]
  run <- callr::rscript(file, wd = folder, show = FALSE, fail_on_status = FALSE, stderr = NULL,
                        env = c(callr::rcmd_safe_env(), UPBEATQUILL_FIGURE = "no"), user_profile = "project",
                        cmdargs = character(),
                        color = FALSE)
  trace <- compare_values(parse_values(sub("^#:\t", "", lines[startsWith(lines, "#:\t")])),
                          parse_values(strsplit(run$stdout, "\r?\n")[[1]]), tolerance)
  trace$seconds <- proc.time()[["elapsed"]] - started
  if (run$status != 0) {
    trace$ok <- FALSE
    trace$error <- first_error(run)
  }
  structure(trace, class = "upbeatquill_retrace")
}

first_error <- function(run) {
  lines <- strsplit(paste(run$stderr %||% "", run$stdout), "\n")[[1]]
  at <- grep("Error", lines)
  paste("The script stopped before its end.", if (length(at)) lines[at[1]] else "")
}

#' "number<TAB>id<TAB>value" and "table<TAB>id<TAB>row<TAB>column<TAB>value" lines as a named numeric
#' @noRd
parse_values <- function(lines) {
  lines <- sub("\t$", "", lines[grepl("^(number|table)\t", lines)])
  value <- sub("^.*\t", "", lines)
  id <- sub("\t[^\t]*$", "", lines)
  stats::setNames(suppressWarnings(as.numeric(ifelse(value == "NA", NA, value))), id)
}

compare_values <- function(answer, script, tolerance) {
  there <- names(answer) %in% names(script)
  both <- names(answer)[there]
  a <- answer[there]; s <- script[both]
  gap <- relative_gap(a, s, of_own_error(both, answer))
  # p values near nothing carry the rounding of one less nearly one (the studentised range is known to some 1e-14)
  gap[grepl("p_(value|adjusted)$", both) & abs(a - s) < 1e-13 & abs(a) < 1e-9] <- 0
  # (a line through the origin: of an intercept of nothing both roads keep their rounding)
  gap[grepl("intercept$", both) & pmax(abs(a), abs(s)) < 1e-12] <- 0
  off <- which(!(gap <= tolerance))
  reason <- "the script does not compute it by a road of its own"
  list(ok = length(off) == 0 && length(both) > 0, total = length(both), agree = length(both) - length(off),
       worst = if (length(gap)) max(gap, 0) else NA_real_,
       differences = data.frame(id = readable_id(both[off]), answer = unname(a[off]), script = unname(s[off])),
       not_compared = data.frame(id = readable_id(names(answer)[!there]), reason = rep(reason, sum(!there))))
}

readable_id <- function(id) gsub("\t", " ", sub("^number\t", "", id))

#' What a difference is measured by beside the number itself: an estimate by its standard error, a statistic by one of them
#'
#' Where powers of a column are nearly collinear, two sound roads to a coefficient near zero differ in digits that say nothing.
#' @noRd
of_own_error <- function(id, answer) {
  error <- abs(unname(answer[sub("estimate$", "se", id)]))
  estimate <- grepl("estimate$", id) & is.finite(error)
  # (loadings and correlations lie between -1 and 1)
  bounded <- grepl("\\t(factor|component)_[0-9]+$|\\tuniqueness$", id)
  ifelse(estimate, error, ifelse(bounded | grepl("statistic$", id), 1, 0))
}

relative_gap <- function(a, s, error = 0) {
  gap <- abs(a - s) / pmax(abs(a), error, 1e-12)
  same <- (is.na(a) & is.na(s)) | (is.infinite(a) & a == s)
  gap[same %in% TRUE] <- 0
  gap[xor(is.na(a), is.na(s))] <- Inf
  # both at the rounding noise of zero
  gap[abs(a) < 1e-14 & abs(s) < 1e-14] <- 0
  unname(gap)
}

#' @export
as.list.upbeatquill_retrace <- function(x, ...) unclass(x)

#' @export
format.upbeatquill_retrace <- function(x, ...) {
  head <- if (isTRUE(x$ok)) sprintf("Retraced: %d of %d numbers agree (largest relative difference %s), %s s.", x$agree,
                                    x$total, formatC(x$worst, format = "g", digits = 2), say_number(x$seconds, 1))
    else sprintf("NOT retraced: %d of %d numbers agree.", x$agree, x$total)
  d <- x$differences
  c(head, x$error, if (nrow(d)) sprintf("  %s: answer %s, script %s", d$id, format(d$answer, digits = 12),
                                        format(d$script, digits = 12)),
    if (nrow(x$not_compared)) sprintf("Not compared: %s (%s).", some_of(x$not_compared$id, 6),
                                      x$not_compared$reason[1]))
}

#' @export
print.upbeatquill_retrace <- function(x, ...) {
  writeLines(format(x))
  invisible(x)
}
