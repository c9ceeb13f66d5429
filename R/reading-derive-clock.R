# Durations and times of day said as on a clock ("under 3:30", "between 1:20:00 and 1:45:00"), beside columns that hold such.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_clock <- function() list(turn("[0-9]:[0-5][0-9]", clock_bounds),
  turn("\\b(moving|rolling|running) (average|mean|median|total|sum|maximum|minimum)s? .*[0-9]", window_said_last))

#' "moving average of usage over 24 hours": the window stands before what moves
#' @noRd
window_said_last <- function(out) {
  form <- paste0("(?i)\\b((?:moving|rolling|running) (?:average|mean|median|total|sum|maximum|minimum)s?)( .+?) ",
                 "(?:over|across|with a window of|using a window of|for|in) (?:the )?(?:last |past |previous |every |each )?([0-9]{1,3})[- ](hour|day|week|month|quarter|year|row)s?\\b")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  reworded(out, sub(hit[1], sprintf("%s-%s %s%s", hit[4], tolower(hit[5]), hit[2], hit[3]), out$text, fixed = TRUE))
}

#' "finished under 3:30" of a column of hours:minutes:seconds: the bound in the unit of the column
#' @noRd
clock_bounds <- function(out) {
  columns <- Filter(function(col) isTRUE(col$style$clock), all_columns(out$study))
  said <- stringi::stri_extract_all_regex(out$text, "(?<![0-9:])[0-9]{1,3}:[0-5][0-9](?::[0-5][0-9])?(?:[.][0-9]+)?(?![0-9:])")[[1]]
  if (!length(columns) || anyNA(said)) return(out)
  # of several columns the one that the question names; else a time cannot be told from another
  if (length(columns) > 1) {
    named <- vapply(columns, function(col) grepl(gsub("[^a-z0-9]+", "[ _.-]?", tolower(col$name)), tolower(out$text), perl = TRUE), NA)
    if (sum(named) != 1) return(out)
    columns <- columns[named]
  }
  col <- columns[[1]]
  # (a time of day behind "at", "after" is one of the stamps, where there are any)
  if (any(vapply(all_columns(out$study), function(c) c$kind == "datetime", NA)) && !identical(col$style$unit, "min")) return(out)
  value <- vapply(said, clock_value, 1, shares = col$style$shares, range = clock_range(out$study, col))
  if (anyNA(value)) return(out)
  text <- out$text
  for (i in order(-nchar(said))) text <- gsub(paste0("(?<![0-9:])", said[i], "(?![0-9:])"), format(signif(value[i], 9), scientific = FALSE, trim = TRUE), text,  # nolint: line_length_linter.
                                              perl = TRUE)
  # a bound without a column is one of this column ("faster than 3:30")
  text <- gsub("(?i)\\b(faster|quicker|slower|longer|shorter|sooner|later) than (?=[0-9])", sprintf("with %s \\1 than ", col$name), text, perl = TRUE)
  text <- gsub(sprintf("(?i)with %s (?:faster|quicker|shorter|sooner) than", as_literal(col$name)), sprintf("with %s below", col$name), text, perl = TRUE)  # nolint: line_length_linter.
  text <- gsub(sprintf("(?i)with %s (?:slower|longer|later) than", as_literal(col$name)), sprintf("with %s above", col$name), text, perl = TRUE)
  # ("laps under 2:30": nothing else says what the bound is of)
  spoken <- c(tolower(gsub("[_.]+", " ", col$name)), tolower(col$name), tolower(col$label %||% col$name))
  loose <- !any(vapply(spoken, grepl, NA, x = tolower(text), fixed = TRUE)) &&
    !grepl("\\b(finish|complet|took|takes|lasted|lasts|ran|swam|rode)", text, ignore.case = TRUE)
  if (loose) text <- sub("(?i)\\b(?:in |with |within )?(under|over|below|above|less than|more than|at least|at most|between|within) (?=[0-9])",
                         sprintf("with %s \\1 ", col$name), text, perl = TRUE)
  told <- sprintf("Took %s as %s %s, the unit of %s.", some_of(said, 3), some_of(format_plain(signif(value, 6)), 3), col$style$unit, col$name)
  reworded(out, text, told)
}

clock_range <- function(study, col) range(as.numeric(understood(study, col$name)), na.rm = TRUE)

#' A time said with two parts may leave out the first or the last of three: that which lies among the column's values
#' @noRd
clock_value <- function(said, shares, range) {
  p <- as.numeric(strsplit(said, ":", fixed = TRUE)[[1]])
  if (length(p) == length(shares)) return(sum(p * shares))
  if (length(p) != 2 || length(shares) != 3) return(NA_real_)
  both <- c(sum(p * shares[1:2]), sum(p * shares[2:3]))
  away <- pmax(range[1] / pmax(both, 1e-9), both / pmax(range[2], 1e-9), 1)
  both[which.min(away)]
}
