# Dates written as text.

#' Ways of writing a date that leave no doubt, by pattern
#' @noRd
date_formats <- function() {
  c("^[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}$" = "%Y-%m-%d", "^[0-9]{4}/[0-9]{1,2}/[0-9]{1,2}$" = "%Y/%m/%d",
    "^[0-9]{4}[.][0-9]{1,2}[.][0-9]{1,2}$" = "%Y.%m.%d", "^(19|20)[0-9]{2}-(0[1-9]|1[0-2])$" = "%Y-%m",
    "^[0-9]{1,2} [A-Za-z]{3} [0-9]{4}$" = "%d %b %Y", "^[0-9]{1,2} [A-Za-z]{3,9} [0-9]{4}$" = "%d %B %Y",
    "^[0-9]{1,2}[.] [A-Za-z]{3,9} [0-9]{4}$" = "%d. %B %Y",
    "^[0-9]{1,2}-[A-Za-z]{3}-[0-9]{4}$" = "%d-%b-%Y", "^[0-9]{1,2}-[A-Za-z]{3}-[0-9]{2}$" = "%d-%b-%y",
    "^[0-9]{1,2}/[A-Za-z]{3}/[0-9]{4}$" = "%d/%b/%Y", "^[0-9]{1,2}[A-Za-z]{3}[0-9]{4}$" = "%d%b%Y",
    "^[A-Za-z]{3} [0-9]{1,2}, [0-9]{4}$" = "%b %d, %Y", "^[A-Za-z]{3,9} [0-9]{1,2}, [0-9]{4}$" = "%B %d, %Y",
    "^[A-Za-z]{3,9} [0-9]{1,2} [0-9]{4}$" = "%b %d %Y", "^[A-Za-z]{3}-[0-9]{1,2}-[0-9]{4}$" = "%b-%d-%Y",
    "^[A-Za-z]{3,9},? [0-9]{1,2} [A-Za-z]{3,9} [0-9]{4}$" = "%a, %d %b %Y")
}

#' Ways of writing a month, a quarter or a week of a stated year: each is read as its first day
#' @noRd
period_formats <- function() {
  c("^(19|20)[0-9]{2}/(0[1-9]|1[0-2])$" = "%Y/%m", "^(0[1-9]|1[0-2])/(19|20)[0-9]{2}$" = "%m/%Y", "^(0[1-9]|1[0-2])-(19|20)[0-9]{2}$" = "%m-%Y",
    "^[A-Za-z]{3,9} (19|20)[0-9]{2}$" = "%b %Y", "^[A-Za-z]{3,9}-(19|20)[0-9]{2}$" = "%b-%Y", "^(19|20)[0-9]{2} [A-Za-z]{3,9}$" = "%Y %b",
    "^(19|20)[0-9]{2}-[A-Za-z]{3}$" = "%Y-%b", "^[A-Za-z]{3}-[0-9]{2}$" = "%b-%y", "^[A-Za-z]{3} '[0-9]{2}$" = "%b '%y",
    "^(19|20)[0-9]{2}M(0[1-9]|1[0-2])$" = "%YM%m",
    "^(19|20)[0-9]{2}[ _/-]?[Qq][1-4]$|^[Qq][1-4][ _/-]?(19|20)[0-9]{2}$" = "quarter",
    "^(19|20)[0-9]{2}[ _/-]?[Ww][0-5]?[0-9]$|^[Ww][0-5]?[0-9][ _/-]?(19|20)[0-9]{2}$" = "week")
}

#' Does a format name months, which have no day of their own?
#' @noRd
names_months <- function(format) grepl("%m|%b", format) && !grepl("%d", format)

#' Format that every value follows, or NULL
#'
#' Day and month of "03/04/2024" are settled by the whole column: a first part above 12 makes it the day.
#' @noRd
date_format_of <- function(values) {
  some <- utils::head(values, 20)
  if (!all(grepl("[0-9]", some))) return(NULL)
  if (all(grepl(iso_stamp(), some)) && all(stringi::stri_detect_regex(values, iso_stamp()))) return(iso_stamps(values))
  day_format_of(values, some) %||% stamp_format_of(values, some)
}

day_format_of <- function(values, some = utils::head(values, 20)) {
  known <- c(date_formats(), period_formats())
  for (i in seq_along(known)) {
    if (!all(grepl(names(known)[i], some)) || !all_dates(values, known[[i]])) next
    return(list(kind = "date", format = known[[i]], reason = if (i <= length(date_formats()) && known[[i]] != "%Y-%m") {
      sprintf("every value reads as a date (%s)", known[[i]])
    } else sprintf("every value reads as a %s, which stands for its first day", if (grepl("%", known[[i]])) "month" else known[[i]])))
  }
  if (all(grepl(turned_pattern(), some))) turned_format(values)
}

#' A time stamp as ISO 8601 writes it, with or without seconds and an offset
#' @noRd
iso_stamp <- function() "^[0-9]{4}-[0-9]{2}-[0-9]{2}[T ][0-9]{2}:[0-9]{2}(:[0-9]{2}([.,][0-9]+)?)?( ?(Z|UTC|GMT|[+-][0-9]{2}(:?[0-9]{2})?))?$"

#' The format of such stamps: one for all of them, or "stamp" where some hold a T or seconds and others do not
#' @noRd
iso_stamps <- function(values) {
  marked <- stringi::stri_detect_fixed(values, "T")
  seconds <- stringi::stri_detect_regex(values, ":[0-9]{2}:[0-9]{2}")
  mixed <- any(marked) && !all(marked) || any(seconds) && !all(seconds)
  offsets <- length(unique(stringi::stri_extract_first_regex(values, "(Z|[+-][0-9]{2}:?([0-9]{2})?)$"))) > 1
  list(kind = "datetime", format = if (mixed) "stamp" else paste0(if (all(marked)) "%Y-%m-%dT%H:%M" else "%Y-%m-%d %H:%M", if (all(seconds)) ":%OS"),
       reason = paste0("every value reads as a time stamp", if (offsets) "; clock times are taken as they stand, whatever their offset from UTC"))
}

#' A clock time behind a date: what stands between, and the time itself
#' @noRd
clock_pattern <- function() "(T|,? +)([0-9]{1,2}:[0-9]{2})(:[0-9]{2}([.][0-9]+)?)?( ?[AaPp][Mm])?( ?(Z|UTC|GMT)?([+-][0-9]{1,2}(:?[0-9]{2})?)?)?$"

#' Dates with a clock time behind them, in whatever way the date is written
#' @noRd
stamp_format_of <- function(values, some) {
  if (!all(grepl(clock_pattern(), some)) || !all(grepl(clock_pattern(), values))) return(NULL)
  day <- day_format_of(unique(sub(clock_pattern(), "", values)))
  if (is.null(day) || names_months(day$format %||% "") || isTRUE(day$format %in% c("quarter", "week"))) return(NULL)
  if (is.null(day$format)) return(day)
  format <- paste0(day$format, clock_format(values))
  if (anyNA(as.POSIXct(values, format = format, tz = "UTC"))) return(NULL)
  list(kind = "datetime", format = format, reason = sprintf("every value reads as a time stamp (%s)", format))
}

#' How the clock times of stamps are written, with what stands before them
#' @noRd
clock_format <- function(values) {
  found <- regmatches(values[1], regexec(clock_pattern(), values[1]))[[1]]
  half <- all(grepl("[AaPp][Mm]( ?(Z|UTC|GMT)?([+-][0-9:]+)?)?$", values))
  seconds <- all(grepl("[0-9]:[0-9]{2}:[0-9]{2}", values))
  fraction <- any(grepl(":[0-9]{2}[.][0-9]", values))
  paste0(found[2], if (half) "%I:%M" else "%H:%M", if (seconds) (if (fraction) ":%OS" else ":%S"),
         if (half) (if (startsWith(found[6], " ")) " %p" else "%p"))
}

all_dates <- function(values, format) !anyNA(read_dates(values, format))

#' Text to dates; a month without a day is its first day
#' @noRd
read_dates <- function(x, format) {
  # each day is worked out once, however often it occurs
  values <- distinct_texts(as.character(x))
  days <- if (is.null(format)) as.Date(values) else if (format == "quarter") first_of_quarter(values) else if (format == "week") monday_of(values)
    else if (names_months(format)) as.Date(paste("1", values), paste("%d", format)) else as.Date(values, format)
  days[text_codes(as.character(x), values)]
}

stated_year <- function(x) sub("^.*?((19|20)[0-9]{2}).*$", "\\1", x, perl = TRUE)

first_of_quarter <- function(x) {
  month <- 3L * suppressWarnings(as.integer(sub("^.*[Qq]([1-4]).*$", "\\1", x))) - 2L
  as.Date(sprintf("%s-%02d-01", stated_year(x), month), "%Y-%m-%d")
}

#' The Monday with which a week begins, as ISO 8601 counts weeks: the first one holds January 4th
#' @noRd
monday_of <- function(x) {
  fourth <- as.Date(paste0(stated_year(x), "-01-04"), "%Y-%m-%d")
  week <- suppressWarnings(as.integer(sub("^.*[Ww]([0-9]{1,2}).*$", "\\1", x)))
  fourth - (as.integer(format(fourth, "%u")) - 1L) + 7L * (week - 1L)
}

#' Day numbers of spreadsheets: days since 1899-12-30, for dates from 1950 to 2065
#' @noRd
looks_like_day_numbers <- function(name, range, whole) {
  whole && range[1] >= 18264 && range[2] <= 60633 && grepl("date|datum|fecha|(^|[^a-z])(dob|birthday)([^a-z]|$)", tolower(name))
}

# ---- day and month in either order ------------------------------------------------------------------------------------

turned_pattern <- function() "^[0-9]{1,2}([/.-])[0-9]{1,2}\\1([0-9]{4}|[0-9]{2})( [0-9]{1,2}:[0-9]{2}(:[0-9]{2})?( ?[AaPp][Mm])?)?$"

turned_format <- function(values) {
  if (!all(grepl(turned_pattern(), values))) return(NULL)
  parts <- matrix(as.integer(unlist(lapply(strsplit(values, "[/. :-]"), `[`, 1:2))), nrow = 2)
  day_first <- max(parts[1, ]) > 12
  month_first <- max(parts[2, ]) > 12
  if (day_first && month_first) return(NULL)
  if (!day_first && !month_first) {
    if (grepl("^[0-9]+[.]", values[1])) day_first <- TRUE
    else return(undecided_dates())
  }
  format <- dated_format(values, day_first)
  clock <- grepl(":", values[1])
  if (anyNA(if (clock) as.POSIXct(values, format = format, tz = "UTC") else as.Date(values, format))) return(NULL)
  list(kind = if (clock) "datetime" else "date", format = format,
       reason = sprintf("day and month told apart by the whole column (%s)", format))
}

undecided_dates <- function() {
  list(kind = "text", format = NULL, role = "undecided_date",
       reason = "dates in which day and month cannot be told apart: say which comes first")
}

#' Format of dates such as 03/04/2024 when the order of day and month is known
#' @noRd
dated_format <- function(values, day_first) {
  first <- as.character(values[!is.na(values)])[1]
  mark <- sub("^[0-9]+([/.-]).*$", "\\1", first)
  year <- if (grepl("^[0-9]+[/.-][0-9]+[/.-][0-9]{4}", first)) "%Y" else "%y"
  paste0(paste(c(if (day_first) c("%d", "%m") else c("%m", "%d"), year), collapse = mark),
         if (grepl(":", first)) clock_format(as.character(values[!is.na(values)])) else "")
}

#' Undecided dates take the order of other columns of the table, or the one in which the rows are sorted
#' @noRd
settle_dates <- function(columns, data) {
  open <- Filter(function(col) identical(col$role, "undecided_date"), columns)
  if (!length(open)) return(columns)
  settled <- unlist(lapply(columns, function(col) col$format))
  settled <- settled[grepl("^%[dm][/.-]%[dm]", settled)]
  orders <- unique(substr(settled, 1, 2))
  for (col in open) {
    raw <- as.character(data[[col$name]])
    if (length(orders) == 1) {
      columns[[col$name]] <- set_date_order(col, raw, orders == "%d", "the order of day and month is that of the other dates here")
      next
    }
    sorted <- vapply(c(TRUE, FALSE), function(day) !is.unsorted(stamps_of(raw, dated_format(raw, day)), na.rm = TRUE), NA)
    if (sum(sorted) == 1) columns[[col$name]] <- set_date_order(col, raw, sorted[1],
        sprintf("the rows are in the order of time only if the %s comes first", if (sorted[1]) "day" else "month"))
  }
  columns
}

stamps_of <- function(raw, format) as.numeric(as.POSIXct(raw, format = format, tz = "UTC"))

set_date_order <- function(col, raw, day_first, reason) {
  col$format <- dated_format(raw, day_first)
  col$kind <- if (any(grepl(":", utils::head(raw[!is.na(raw)], 5)))) "datetime" else "date"
  col$reason <- reason
  col["role"] <- list(NULL)
  col
}
