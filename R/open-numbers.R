# Numbers written as text: thousands marks, decimal commas, currencies, units, percent signs, K and M, signs in any place.

#' How the numbers of a text column are written; NULL when they are none
#'
#' @param values Distinct texts without missing ones.
#' @section Shape: list(decimal, group, strip (pattern of what is cut off), multiply (TRUE when K and M are used),
#'   unit, signs (TRUE when a minus is written as a long dash, behind the number or as brackets)).
#' @noRd
number_style <- function(values) {
  some <- utils::head(values, 60)
  if (length(some) && any(signed_oddly(some))) return(signed_style(values))
  if (!length(some) || !all(grepl("[0-9]", some))) return(NULL)
  if (all(grepl(plain_number(), some))) {
    # leading zeros mark codes (postal codes, keys), which numbers would destroy
    if (any(grepl("^[-+]?0[0-9]", values)) || any(nchar(some) > 15) || !all(grepl(plain_number(), values))) return(NULL)
    return(list(decimal = ".", group = "", strip = "", multiply = FALSE))
  }
  # blanks between figures are thousands marks or no number at all
  parted <- grepl("[0-9]\\s+[0-9]", some)
  if (any(parted) && !all(grepl("^[^0-9]*[0-9]{1,3}(\\s[0-9]{3})+([.,][0-9]+)?[^0-9]*$", some[parted]))) return(NULL)
  affix <- number_affix(some)
  if (is.null(affix)) return(NULL)
  bare <- cut_affix(some, affix)
  marks <- number_marks(bare)
  if (is.null(marks)) return(NULL)
  style <- c(marks, affix)
  if (anyNA(as_numbers(values, style))) NULL else style
}

#' A minus as a typographic sign, behind the number, or as brackets around it, as accounts are kept
#' @noRd
signed_oddly <- function(x) grepl("^\\s*[\u2212\u2013][0-9.,$\u20ac\u00a3 ]*[0-9]|^\\s*\\([^()A-Za-z]*[0-9][^()A-Za-z]*\\)\\s*$|^[0-9][0-9.,]*-$", x)

#' Numbers with their minus as a plain sign in front
#' @noRd
plain_signs <- function(x) {
  x <- sub("^\\s*[\u2212\u2013]", "-", x)
  x <- sub("^\\s*\\(([^()]*)\\)\\s*$", "-\\1", x)
  sub("^([0-9][0-9.,]*)-$", "-\\1", x)
}

signed_style <- function(values) {
  # brackets around every value are no signs
  if (all(grepl("^\\s*\\(", values)) || all(grepl("-$", values))) return(NULL)
  style <- number_style(unique(plain_signs(values)))
  if (is.null(style)) return(NULL)
  style$signs <- TRUE
  style
}

plain_number <- function() "^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$"

#' One currency sign in front, one unit behind: the same for every value
#' @noRd
number_affix <- function(some) {
  front <- unique(sub(sprintf("^([-+]?)\\s*(%s)?.*$", front_currency()), "\\2", some))
  back <- unique(trimws(sub("^.*?[0-9]([^0-9]*)$", "\\1", some, perl = TRUE)))
  # marks of a note or of significance behind some of the numbers
  marked <- any(grepl("[*\u2020\u2021\u00a7]", back)) && all(grepl("^[*\u2020\u2021\u00a7]*$", back))
  if (marked) back <- ""
  back <- same_unit(back)
  multiply <- all(back %in% c("", "K", "k", "M", "m")) && any(back %in% c("K", "k", "M")) && any(nzchar(front))
  if (length(front) > 1 || (!multiply && length(back) > 1)) return(NULL)
  if (!multiply && !grepl("^(%|[$\u20ac\u00a3\u00a5]|[A-Za-z\u00b0\u00b5]{1,6}(/[A-Za-z0-9]{1,4})?[0-9\u00b2\u00b3]?)?$", back)) return(NULL)
  currency <- currency_signs()
  unit <- if (front %in% names(currency)) currency[[front]] else if (nzchar(front)) front else if (!multiply &&
                                                        nzchar(back)) (if (back %in% names(currency)) currency[[back]]
                                                            else back)
  coded <- if (grepl("^[A-Z]{3}$", front)) paste0(front, "|") else ""
  list(strip = paste0(coded, if (marked) "[*\u2020\u2021\u00a7]+$|",
    "[$\u20ac\u00a3\u00a5\u20b9\u20a9%\u00b0]|[A-Za-z\u00b5]+(/[A-Za-z0-9]+)?[\u00b2\u00b3]?\\s*$|\\s"),
       multiply = multiply, unit = unit)
}

#' Units behind numbers as one, where they are spellings of the same ("years", "yrs") or some numbers go without
#' @noRd
same_unit <- function(back) {
  same <- list(years = c("years", "year", "yrs", "yr", "y", "yo", "y.o."), months = c("months", "month", "mths", "mth", "mo"),
    weeks = c("weeks", "week", "wks", "wk"), days = c("days", "day", "d"), hours = c("hours", "hour", "hrs", "hr", "h"),
    min = c("minutes", "minute", "mins", "min"), s = c("seconds", "second", "secs", "sec", "s"),
    kg = c("kg", "kgs", "kilos", "kilo"), g = c("g", "gr", "grams", "gram"), cm = c("cm", "cms"), km = c("km", "kms"), lb = c("lb", "lbs", "pounds"),
    "%" = c("%", "percent", "pct"))
  rest <- back[nzchar(back)]
  if (!length(rest)) return(back)
  for (unit in names(same)) if (all(tolower(rest) %in% same[[unit]])) return(if (length(back) > 1) unit else back)
  if (length(unique(tolower(rest))) == 1 && length(rest) < length(back) && nchar(rest[1]) > 1) return(rest[1])
  back
}

currency_signs <- function() c("$" = "USD", "\u20ac" = "EUR", "\u00a3" = "GBP", "\u00a5" = "JPY", "\u20b9" = "INR", "\u20a9" = "KRW")

#' Signs and codes of currencies that stand before an amount
#' @noRd
front_currency <- function() paste0("[$\u20ac\u00a3\u00a5\u20b9\u20a9]|USD|EUR|GBP|CHF|JPY|INR|SEK|NOK|DKK|PLN|CZK|CAD|AUD|NZD|BRL|ZAR|CNY")

cut_affix <- function(x, style) {
  if (isTRUE(style$signs)) x <- plain_signs(x)
  if (isTRUE(style$multiply)) x <- sub("[KkMm]\\s*$", "", x)
  if (nzchar(style$strip)) gsub(style$strip, "", x) else x
}

#' Decimal and thousands marks that fit every value
#' @noRd
number_marks <- function(bare) {
  bare <- gsub("[\u00a0\u202f]", "", bare)
  fits <- function(pattern) all(grepl(pattern, bare))
  if (fits("^[-+]?[0-9]+([.][0-9]+)?$")) return(list(decimal = ".", group = ""))
  # thousands, or lakhs and crores (12,34,567)
  if (fits("^[-+]?[0-9]{1,3}(,[0-9]{3})+([.][0-9]+)?$|^[-+]?[0-9]{1,2}(,[0-9]{2})*,[0-9]{3}([.][0-9]+)?$|^[-+]?[0-9]{1,3}([.][0-9]+)?$")) return(list(decimal = ".",  # nolint: line_length_linter.
      group = ","))
  if (fits("^[-+]?[0-9]+(,[0-9]+)?$")) return(list(decimal = ",", group = ""))
  if (fits("^[-+]?[0-9]{1,3}([.][0-9]{3})+(,[0-9]+)?$|^[-+]?[0-9]{1,3}(,[0-9]+)?$")) return(list(decimal = ",",
      group = "."))
  if (fits("^[-+]?[0-9]{1,3}('[0-9]{3})+([.][0-9]+)?$|^[-+]?[0-9]{1,3}([.][0-9]+)?$")) return(list(decimal = ".",
      group = "'"))
  NULL
}

#' Durations ("1:26:41") and times of day ("14:30") as one number
#'
#' Three parts, or two under a name for something that lasts, are a duration; two parts under another name are a time of day where no
#' hour is above 23.
#' @section Shape: NULL, or a number style with clock = TRUE, shares (what each part counts, in the unit), unit and a reason.
#' @noRd
clock_style <- function(name, values) {
  some <- utils::head(values, 60)
  if (!length(some) || !all(grepl("^[0-9]{1,3}:[0-5][0-9](:[0-5][0-9])?([.][0-9]+)?$", some))) return(NULL)
  parts <- strsplit(values, ":", fixed = TRUE)
  n <- unique(lengths(parts))
  if (length(n) > 1 || anyNA(suppressWarnings(as.numeric(unlist(parts))))) return(NULL)
  first <- as.numeric(vapply(parts, `[[`, "", 1))
  style <- function(shares, unit, reason) list(decimal = ".", group = "", strip = "", multiply = FALSE, clock = TRUE, shares = shares, unit = unit,
                                               reason = reason)
  lasts <- grepl(paste0("duration|elapsed|length|lasted|spent|taken|runtime|run_time|finish|split|pace|lap|swim|bike|(^|[^a-z])time[_ .]?(to|on|in)([^a-z]|$)|",  # nolint: line_length_linter.
                        "minutes|response_time|wait|delay|reaction|completion|race|result|marathon"), tolower(name)) ||
    # (parts of the last figure are parts of a second)
    n == 2 && any(grepl("[.]", some))
  day <- max(first) < 24 && !lasts && grepl("time|clock|hour|start|end|arriv|depart|begin|opened|closed|bed|wake|sunrise|sunset|admitted|at$",
    tolower(name))
  if (day) return(style(c(1, 1 / 60, 1 / 3600)[seq_len(n)], "o'clock", "times of day, in hours after midnight"))
  if (n == 3) return(style(c(60, 1, 1 / 60), "min", "durations (hours:minutes:seconds), in minutes"))
  if (lasts && max(first) < 24 && all(nchar(vapply(parts, `[[`, "", 1)) == 2) && max(first) < 10) return(style(c(60, 1), "min",
    "durations (hours:minutes), in minutes"))
  if (lasts) return(style(c(1, 1 / 60), "min", "durations (minutes:seconds), in minutes"))
  NULL
}

clock_numbers <- function(x, shares) {
  values <- unique(x)
  number <- vapply(strsplit(values, ":", fixed = TRUE), function(p) {
    p <- suppressWarnings(as.numeric(p))
    if (length(p) == length(shares)) sum(p * shares) else NA_real_
  }, 1)
  number[match(x, values)]
}

#' Text to numbers in a given style; what does not fit becomes missing
#' @noRd
as_numbers <- function(x, style) {
  if (is.numeric(x)) return(as.double(x))
  if (is.null(style)) return(suppressWarnings(as.numeric(x)))
  if (isTRUE(style$clock)) return(clock_numbers(as.character(x), style$shares))
  values <- unique(x)
  bare <- gsub("[\u00a0\u202f]", "", cut_affix(as.character(values), style))
  if (nzchar(style$group)) bare <- gsub(style$group, "", bare, fixed = TRUE)
  if (style$decimal != ".") bare <- sub(style$decimal, ".", bare, fixed = TRUE)
  number <- suppressWarnings(as.numeric(bare))
  if (isTRUE(style$multiply)) number <- number * ifelse(grepl("[Kk]\\s*$", values), 1e3,
                                                        ifelse(grepl("[Mm]\\s*$", values), 1e6, 1))
  number[match(x, values)]
}
