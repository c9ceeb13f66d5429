# Dates and periods in a question.

#' The first letters of the months, as alternatives of a pattern
#' @noRd
month_starts <- function() paste(tolower(month.abb), collapse = "|")

#' Runs of tokens that make a date, a month or a year
#'
#' @section Shape: data frame: from, to (token positions), first, last (ISO days), precision ("day", "month", "year").
#' @noRd
find_dates <- function(tokens, lexicon) {
  n <- length(tokens$norm)
  month <- unname(lexicon$months[tokens$norm])
  out <- list()
  i <- 1
  while (i <= n) {
    found <- date_at(i, tokens, month)
    if (!is.null(found)) { out[[length(out) + 1L]] <- found; i <- found$to }
    i <- i + 1
  }
  do.call(rbind, out)
}

date_at <- function(i, tokens, month) {
  n <- length(tokens$norm)
  is_day <- function(k) k <= n && tokens$type[k] == "number" && tokens$value[k] %in% 1:31
  is_year <- function(k) k <= n && tokens$type[k] == "number" && tokens$value[k] %in% 1500:2200 &&
    !grepl("[,.]", tokens$text[k])
  is_month <- function(k) k <= n && !is.na(month[k])
  suffix <- function(k) k <= n && tokens$norm[k] %in% c("st", "nd", "rd", "th") && tokens$glued[k]
  part <- year_part(i, tokens, is_year)
  if (!is.null(part)) return(part)
  if (tokens$type[i] == "date") return(day_row(i, i, tokens$text[i]))
  if (is_day(i)) {
    k <- i + 1
    if (suffix(k)) k <- k + 1
    if (k <= n && tokens$norm[k] == "of") k <- k + 1
    if (is_month(k) && is_year(k + 1)) return(day_row(i, k + 1L,
                                                      sprintf("%d-%02d-%02d", tokens$value[k + 1], month[k],
                                                              tokens$value[i])))
  }
  if (is_month(i)) {
    k <- i + 1
    if (is_day(k)) {
      end <- if (suffix(k + 1)) k + 2 else k + 1
      if (is_year(end)) return(day_row(i, end, sprintf("%d-%02d-%02d", tokens$value[end], month[i], tokens$value[k])))
    }
    if (is_year(k)) return(month_row(i, k, tokens$value[k], month[i]))
  }
  NULL
}

day_row <- function(from, to, iso) {
  day <- tryCatch(as.Date(iso), error = function(e) as.Date(NA))
  if (is.na(day)) return(NULL)
  data.frame(from = as.integer(from), to = as.integer(to), first = format(day), last = format(day), precision = "day",
             stringsAsFactors = FALSE)
}

month_row <- function(from, to, year, month) {
  first <- as.Date(sprintf("%d-%02d-01", year, month))
  last <- seq(first, by = "month", length.out = 2)[2] - 1
  data.frame(from = as.integer(from), to = as.integer(to), first = format(first), last = format(last),
             precision = "month", stringsAsFactors = FALSE)
}

#' "Q1 2024", "the first quarter of 2024", "the second half of 2024"
#' @noRd
year_part <- function(i, tokens, is_year) {
  n <- length(tokens$norm)
  norm <- function(k) if (k >= 1 && k <= n) tokens$norm[k] else ""
  ordinal <- c(first = 1, second = 2, third = 3, fourth = 4, last = NA, st = NA)
  k <- i
  if (norm(i) %in% c("q", "h") && i < n && tokens$glued[i + 1] && norm(i + 1) %in% c("1", "2", "3", "4")) {
    size <- if (norm(i) == "q") 3 else 6; which <- as.integer(norm(i + 1)); k <- i + 2
  } else {
    number <- if (norm(i) %in% names(ordinal)[1:5]) ordinal[[norm(i)]] else if (norm(i) %in% c("1", "2", "3", "4") && norm(i + 1) %in% c("st",
      "nd", "rd", "th")) as.integer(norm(i)) else return(NULL)
    k <- i + 1 + (norm(i) %in% c("1", "2", "3", "4"))
    if (!norm(k) %in% c("quarter", "half")) return(NULL)
    size <- if (norm(k) == "quarter") 3 else 6
    which <- if (is.na(number)) 12 / size else number
    k <- k + 1
  }
  if (norm(k) == "of") k <- k + 1
  if (!is_year(k) || which > 12 / size) return(NULL)
  first <- as.Date(sprintf("%d-%02d-01", tokens$value[k], (which - 1) * size + 1))
  last <- seq(first, by = paste(size, "months"), length.out = 2)[2] - 1
  data.frame(from = as.integer(i), to = as.integer(k), first = format(first), last = format(last), precision = "quarter", stringsAsFactors = FALSE)
}
