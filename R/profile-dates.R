# Dates written as text.

date_formats <- function() {
  c("^[0-9]{4}-[0-9]{2}-[0-9]{2}$" = "%Y-%m-%d", "^[0-9]{4}/[0-9]{2}/[0-9]{2}$" = "%Y/%m/%d",
    "^[0-9]{1,2}[.][0-9]{1,2}[.][0-9]{4}$" = "%d.%m.%Y", "^[0-9]{1,2} [A-Za-z]{3} [0-9]{4}$" = "%d %b %Y",
    "^[0-9]{1,2} [A-Za-z]{4,9} [0-9]{4}$" = "%d %B %Y", "^[0-9]{1,2}-[A-Za-z]{3}-[0-9]{4}$" = "%d-%b-%Y")
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
  if (all(grepl("^[0-9]{1,2}/[0-9]{1,2}/[0-9]{4}$", some))) return(slash_format(values))
  if (all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}[T ][0-9]{2}:[0-9]{2}(:[0-9]{2})?", some))) {
    return(list(kind = "datetime", format = if (grepl("T", some[1])) "%Y-%m-%dT%H:%M" else "%Y-%m-%d %H:%M",
                reason = "every value reads as a time stamp"))
  }
  NULL
}

all_dates <- function(values, format) !anyNA(as.Date(values, format))

slash_format <- function(values) {
  parts <- matrix(as.integer(unlist(strsplit(values[grepl("^[0-9]{1,2}/[0-9]{1,2}/[0-9]{4}$", values)], "/"))),
                  nrow = 3)
  if (ncol(parts) != length(values)) return(NULL)
  if (max(parts[1, ]) > 12 && max(parts[2, ]) <= 12) format <- "%d/%m/%Y"
  else if (max(parts[2, ]) > 12 && max(parts[1, ]) <= 12) format <- "%m/%d/%Y"
  else return(NULL)
  if (!all_dates(values, format)) return(NULL)
  list(kind = "date", format = format, reason = sprintf("day and month told apart by the whole column (%s)", format))
}
