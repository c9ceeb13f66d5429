# Progress of long work, on standard error, and only where somebody watches.

#' Say what is being done, before work that may take more than two seconds
#'
#' The command switches it on; in a session it is on when R is interactive.
#' @param bytes Size of the work; below 30 MB nothing is said.
#' @noRd
say_progress <- function(text, bytes) {
  if (is.na(bytes) || bytes < 3e7 || !isTRUE(getOption("upbeatquill.progress", interactive()))) return(invisible())
  cat(text, "\n", sep = "", file = stderr())
}

#' "76 MB"
#' @noRd
say_bytes <- function(bytes) if (bytes >= 1e9) sprintf("%.1f GB", bytes / 1e9) else sprintf("%.0f MB", bytes / 1e6)
