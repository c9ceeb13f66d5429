# A number becomes text here and nowhere else.

#' Digits that carry information, judged by size; no exponent below a million
#' @noRd
say_number <- function(x, digits = NULL) {
  vapply(x, function(v) say_one(v, digits), "", USE.NAMES = FALSE)
}

say_one <- function(v, digits) {
  if (is.null(v) || is.na(v)) return("\u2013")
  if (is.infinite(v)) return(if (v > 0) "\u221e" else "-\u221e")
  if (v == 0) return("0")
  # nothing is left of a minus before zeros
  fixed <- function(v, digits) formatC(v, format = "f", digits = digits, big.mark = if (abs(v) >= 10000) "," else "")
  # (beyond a million million the digits are no longer read)
  if (abs(v) >= 1e12 && v != round(v)) return(formatC(v, format = "e", digits = 2))
  if (!is.null(digits) && abs(v) < 1e15) return(sub("^-(0[.]?0*)$", "\\1", fixed(v, digits)))
  size <- floor(log10(abs(v)))
  if (size >= 15 || size <= -6) return(formatC(v, format = "e", digits = 2))
  # (a sum of decimals may be a hair off the whole number that it is)
  if (abs(v - round(v)) <= 1e-13 * abs(v) && size < 15) return(formatC(v, format = "f", digits = 0, big.mark = if (size >= 4) "," else ""))
  places <- max(0, 2 - size)
  if (size >= 4) places <- 0
  formatC(v, format = "f", digits = min(places, 7), big.mark = if (size >= 4) "," else "")
}

#' Several numbers on one number of places, so that they can be compared
#'
#' Numbers that lie close to each other for their size ("10,000,000.19 to 10,000,000.21") keep the places in which they differ.
#' @noRd
say_alike <- function(x) {
  near <- places_of_near(x)
  if (!is.na(near)) return(say_number(x, near))
  size <- max(floor(log10(abs(x[is.finite(x) & x != 0]))), -6)
  if (!is.finite(size)) return(say_number(x))
  if (all(x[is.finite(x)] == round(x[is.finite(x)]))) return(say_number(x))
  if (size >= 6) return(say_number(x))
  say_number(x, max(0, 2 - size))
}

#' Places in which numbers differ that are alike in all that is usually shown; NA where the usual places tell them apart
#' @noRd
places_of_near <- function(x) {
  x <- x[is.finite(x)]
  if (length(x) < 2 || all(x == round(x))) return(NA_real_)
  apart <- max(x) - min(x)
  if (!(apart > 0 && apart < 2e-3 * max(abs(x)) && apart > 1e-13 * max(abs(x)))) return(NA_real_)
  min(max(1 - floor(log10(apart)), 0), 7)
}

#' The highest and the lowest of some numbers, in more places where the usual ones would make them look the same
#' @noRd
say_ends <- function(high, low) {
  said <- say_number(c(high, low))
  if (identical(said[1], said[2]) && !identical(high, low)) say_alike(c(high, low)) else said
}

#' An estimate in the places that its interval makes sensible, where the usual ones would not tell it from its limits
#' @noRd
say_estimate <- function(value, low = NULL, high = NULL) {
  near <- if (is.null(low) || is.null(high)) NA else places_of_near(c(value, low, high))
  say_number(value, if (!is.na(near)) near)
}

#' Estimates to the second digit of their standard errors, each for itself
#' @noRd
say_by_error <- function(x, se, least = 0) {
  places <- ifelse(is.finite(se) & se > 0, pmin(pmax(1 - floor(log10(pmax(se, 1e-300))), least), 7), NA)
  ifelse(is.na(places), say_number(x), mapply(function(v, k) say_number(v, if (is.na(k)) NULL else k), x, places, USE.NAMES = FALSE))
}

#' A ratio and its interval, with as many places as the width of the interval makes sensible (two or more)
#' @param of Table or list that holds the ratio and its limits.
#' @param name The ratio's name in it ("odds_ratio"); its limits are name_low and name_high.
#' @section Shape: list(value, interval), texts along the ratio.
#' @noRd
say_ratio <- function(of, name, conf_level) {
  low <- of[[paste0(name, "_low")]]
  high <- of[[paste0(name, "_high")]]
  width <- ifelse(is.finite(high - low) & high > low, high - low, 1)
  places <- pmin(pmax(1 - floor(log10(width)), 2), 6)
  interval <- mapply(function(l, h, k) say_interval(l, h, conf_level, function(v) say_number(v, k)), low, high, places, USE.NAMES = FALSE)
  list(value = mapply(say_number, of[[name]], places, USE.NAMES = FALSE), interval = interval)
}

say_p <- function(p) {
  if (is.na(p)) return("p not available")
  if (p < 0.001) return("p < .001")
  if (p > 0.995) return("p > .99")
  paste("p =", sub("^0", "", formatC(p, format = "f", digits = if (p < 0.01) 3 else if (p < 0.1) 3 else 2)))
}

#' A coefficient that cannot pass 1 in size, without its leading zero
#'
#' What is a little less than 1 is not called 1: it keeps the places that tell it from there, up to four.
#' @noRd
say_unit <- function(x, digits = 2) {
  text <- formatC(x, format = "f", digits = digits)
  for (more in digits + seq_len(max(0, 4 - digits))) {
    full <- is.finite(x) & abs(x) < 1 - 1e-12 & round(abs(x), more - 1) == 1
    text[full] <- formatC(x[full], format = "f", digits = more)
  }
  # (a hair below zero is no negative number)
  ifelse(is.na(x), "\u2013", sub("^-(\\.0+)$", "\\1", sub("^(-?)0[.]", "\\1.", text)))
}

#' A share in percent: what is less than all is not called 100 %, up to three places more
#' @noRd
say_percent <- function(share, digits = 1) {
  text <- formatC(100 * share, format = "f", digits = digits)
  for (more in digits + 1:3) {
    full <- is.finite(share) & share < 1 - 1e-12 & round(100 * share, more - 1) == 100
    text[full] <- formatC(100 * share[full], format = "f", digits = more)
  }
  paste0(text, " %")
}

#' A difference of two shares: percentage points
#' @noRd
say_points <- function(difference) {
  # small ones keep two places, so that an interval does not end at "0.0"
  small <- max(abs(difference), 0, na.rm = TRUE) < 0.005
  paste(formatC(100 * difference, format = "f", digits = if (small) 2 else 1), "points")
}

#' Degrees of freedom: whole, or to one place
#' @noRd
say_df <- function(df) ifelse(df == round(df), say_number(df), formatC(df, format = "f", digits = 1))

say_level <- function(conf_level) paste0(format(100 * conf_level, digits = 6), " %")

say_interval <- function(low, high, conf_level = 0.95, fmt = say_alike) {
  limits <- if (is.infinite(low) || is.infinite(high)) say_number(c(low, high)) else fmt(c(low, high))
  sprintf("%s CI %s to %s", say_level(conf_level), limits[1], limits[2])
}

#' A value with its unit
#' @noRd
with_unit <- function(text, unit) if (is.null(unit) || !nzchar(unit)) text else if (unit == "%") paste0(text,
    " %") else paste(text, unit)

#' Conventional words for the size of an effect
#'
#' @section Source: Cohen, J. (1988). Statistical Power Analysis for the Behavioral Sciences, 2nd ed. They are
#'   conventions, and are
#'   called that wherever they are shown.
#' @noRd
say_size <- function(value, kind = c("d", "r", "v", "eta")) {
  kind <- match.arg(kind)
  cuts <- switch(kind, d = c(0.2, 0.5, 0.8), r = c(0.1, 0.3, 0.5), v = c(0.1, 0.3, 0.5), eta = c(0.01, 0.06, 0.14))
  word <- c("very small", "small", "medium", "large")[findInterval(abs(value), cuts) + 1]
  if (is.na(word)) "" else sprintf("%s by Cohen's convention", word)
}

#' Titles of columns in running text: lower case unless they are acronyms or names
#' @noRd
say_column <- function(col) {
  title <- column_title(col)
  # a label that is a sentence ("Feed is affordable") stands in quotation marks
  if (!is.null(col$label) && grepl("[?]| (is|are|was|were|do|does|did|has|have|support|should) ",
                                   title)) return(quoted(title))
  if (!identical(plain_names(title), title)) return(quoted(title))
  first <- substr(title, 1, 1)
  second <- substr(title, 2, 2)
  # (a single letter is written as it is: "E" is not e)
  if (nzchar(second) && grepl("[A-Z]", first) && !grepl("[A-Z0-9]", second)) title <- paste0(tolower(first), substring(title, 2))
  unit <- tolower(col$unit %||% "")
  strip_unit(title, col)
}

#' A name in the plural as one of them: "calls" as "call", "crashes" as "crash"
#' @noRd
one_of <- function(name) {
  if (grepl("[a-z]ies$", name)) return(sub("ies$", "y", name))
  if (grepl("(ch|sh|ss|x|z)es$", name)) return(sub("es$", "", name))
  sub("([a-z][^su_.])s$", "\\1", name)
}

#' "honey kg" with the unit kg reads "honey"
#' @noRd
strip_unit <- function(title, col) {
  if (is.null(col$unit)) return(title)
  words <- strsplit(title, " ")[[1]]
  # "sick days" would be left as "sick"
  tells <- "^(sick|absent|missed|lost|late|paid|unpaid|free|active|rainy|sunny|dry|wet|frost|working|worked|extra|total|open|leave|off|nurse|nursing|staff|person|man|labou?r|bed|patient|machine|flight|driving|opening|training|overtime|handle|handling|talk|call|play|screen)$"  # nolint: line_length_linter.
  if (length(words) == 2 && grepl(tells, tolower(words[1])) && grepl("^(days|hours|weeks|months|years|minutes|min)$",
      tolower(words[2]))) return(title)
  # "sbp mm hg", of a name in which case divides the unit
  camel <- tolower(gsub("(?<=[a-z])(?=[A-Z])", " ", col$unit, perl = TRUE))
  if (grepl(" ", camel) && endsWith(tolower(title), paste0(" ", camel))) return(substr(title, 1, nchar(title) - nchar(camel) - 1))
  # "budget musd", in million USD
  if (length(words) > 1 && grepl("^(m|k|bn)?(usd|eur|gbp|chf|jpy)$", tolower(last_of(words)))) return(paste(utils::head(words, -1), collapse = " "))
  # "yield t ha", in t/ha
  parts <- strsplit(tolower(col$unit), "/", fixed = TRUE)[[1]]
  n <- length(parts)
  if (n == 2 && length(words) > n && identical(tolower(utils::tail(words, n)), parts)) return(paste(utils::head(words, -n), collapse = " "))
  # "pace min per km", in min/km
  if (n == 2 && length(words) > 3 && identical(utils::tail(words, 2)[1], "per") && grepl(rate_unit(), gsub(" ", "_", tolower(title)))) {
    return(paste(utils::head(words, -3), collapse = " "))
  }
  tail <- length(words) > 1 && !is.null(unit_tails()[[tolower(last_of(words))]]) && !lettered_name(paste(words, collapse = " "))
  if (tail) paste(words[-length(words)], collapse = " ") else title
}

#' What a statistic is called in a sentence ("total" for sum)
#' @noRd
statistic_name <- function(id) {
  label <- c(mean = "mean", sum = "total", sd = "standard deviation", min = "smallest value", max = "largest value")[id]
  if (is.na(label)) further_statistics()[[id]]$label %||% id else unname(label)
}
