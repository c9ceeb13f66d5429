# Dates written as text.

#' Ways of writing a date that leave no doubt, by pattern
#' @noRd
date_formats <- function() {
  c("^[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}$" = "%Y-%m-%d", "^[0-9]{4}/[0-9]{1,2}/[0-9]{1,2}$" = "%Y/%m/%d",
    "^[0-9]{4}[.][0-9]{1,2}[.][0-9]{1,2}$" = "%Y.%m.%d", "^(19|20)[0-9]{2}-(0[1-9]|1[0-2])$" = "%Y-%m",
    "^[0-9]{1,2} [A-Za-z]{3} [0-9]{4}$" = "%d %b %Y", "^[0-9]{1,2} [A-Za-z]{4,9} [0-9]{4}$" = "%d %B %Y",
    "^[0-9]{1,2}[.] [A-Za-z]{3,9} [0-9]{4}$" = "%d. %B %Y",
    "^[0-9]{1,2}-[A-Za-z]{3}-[0-9]{4}$" = "%d-%b-%Y", "^[0-9]{1,2}-[A-Za-z]{3}-[0-9]{2}$" = "%d-%b-%y",
    "^[0-9]{1,2}/[A-Za-z]{3}/[0-9]{4}$" = "%d/%b/%Y", "^[0-9]{1,2}[A-Za-z]{3}[0-9]{4}$" = "%d%b%Y",
    "^[A-Za-z]{3} [0-9]{1,2}, [0-9]{4}$" = "%b %d, %Y", "^[A-Za-z]{4,9} [0-9]{1,2}, [0-9]{4}$" = "%B %d, %Y")
}

#' Format that every value follows, or NULL
#'
#' Day and month of "03/04/2024" are settled by the whole column: a first part above 12 makes it the day.
#' @noRd
date_format_of <- function(values) {
  some <- utils::head(values, 20)
  if (!all(grepl("[0-9]", some))) return(NULL)
  formats <- date_formats()
  for (i in seq_along(formats)) {
    if (all(grepl(names(formats)[i], some)) && all_dates(values, formats[[i]])) {
      return(list(kind = "date", format = formats[[i]], reason = sprintf("every value reads as a date (%s)",
          formats[[i]])))
    }
  }
  if (all(grepl(turned_pattern(), some))) return(turned_format(values))
  if (all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}[T ][0-9]{2}:[0-9]{2}(:[0-9]{2})?", some))) {
    return(list(kind = "datetime", format = stamp_format(some),
                reason = "every value reads as a time stamp"))
  }
  NULL
}

stamp_format <- function(some) {
  paste0(if (all(grepl("T", some))) "%Y-%m-%dT%H:%M" else "%Y-%m-%d %H:%M",
         if (all(grepl(":[0-9]{2}:[0-9]{2}", some))) ":%OS" else "")
}

all_dates <- function(values, format) !anyNA(read_dates(values, format))

#' Text to dates; a month without a day is its first day
#' @noRd
read_dates <- function(x, format) {
  # each day is worked out once, however often it occurs
  values <- distinct_texts(as.character(x))
  days <- if (identical(format, "%Y-%m")) as.Date(paste0(values, "-01"), "%Y-%m-%d") else as.Date(values, format)
  days[text_codes(as.character(x), values)]
}

# ---- day and month in either order ------------------------------------------------------------------------------------

turned_pattern <- function() "^[0-9]{1,2}([/.-])[0-9]{1,2}\\1([0-9]{4}|[0-9]{2})( [0-9]{1,2}:[0-9]{2}(:[0-9]{2})?)?$"

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
         if (grepl(":[0-9]{2}:", first)) " %H:%M:%S" else if (grepl(":", first)) " %H:%M" else "")
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
