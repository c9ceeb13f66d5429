# Numbers written as text: thousands marks, decimal commas, currencies, units, percent signs, K and M.

#' How the numbers of a text column are written; NULL when they are none
#'
#' @param values Distinct texts without missing ones.
#' @section Shape: list(decimal, group, strip (pattern of what is cut off), multiply (TRUE when K and M are used),
#'   unit).
#' @noRd
number_style <- function(values) {
  some <- utils::head(values, 60)
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

plain_number <- function() "^[-+]?([0-9]+[.]?[0-9]*|[.][0-9]+)([eE][-+]?[0-9]+)?$"

#' One currency sign in front, one unit behind: the same for every value
#' @noRd
number_affix <- function(some) {
  front <- unique(sub("^([-+]?)\\s*([$\u20ac\u00a3\u00a5]?).*$", "\\2", some))
  back <- unique(trimws(sub("^.*?[0-9]([^0-9]*)$", "\\1", some, perl = TRUE)))
  multiply <- all(back %in% c("", "K", "k", "M", "m")) && any(back %in% c("K", "k", "M")) && any(nzchar(front))
  if (length(front) > 1 || (!multiply && length(back) > 1)) return(NULL)
  if (!multiply && !grepl("^(%|[$\u20ac\u00a3\u00a5]|[A-Za-z\u00b0\u00b5]{1,6}(/[A-Za-z0-9]{1,4})?[0-9\u00b2\u00b3]?)?$", back)) return(NULL)
  currency <- c("$" = "USD", "\u20ac" = "EUR", "\u00a3" = "GBP", "\u00a5" = "JPY")
  unit <- if (nzchar(front)) currency[[front]] else if (!multiply &&
                                                        nzchar(back)) (if (back %in% names(currency)) currency[[back]]
                                                            else back)
  list(strip = "[$\u20ac\u00a3\u00a5%\u00b0]|[A-Za-z\u00b5]+(/[A-Za-z0-9]+)?[\u00b2\u00b3]?\\s*$|\\s",
       multiply = multiply, unit = unit)
}

cut_affix <- function(x, style) {
  if (isTRUE(style$multiply)) x <- sub("[KkMm]\\s*$", "", x)
  if (nzchar(style$strip)) gsub(style$strip, "", x) else x
}

#' Decimal and thousands marks that fit every value
#' @noRd
number_marks <- function(bare) {
  bare <- gsub("[\u00a0\u202f]", "", bare)
  fits <- function(pattern) all(grepl(pattern, bare))
  if (fits("^[-+]?[0-9]+([.][0-9]+)?$")) return(list(decimal = ".", group = ""))
  if (fits("^[-+]?[0-9]{1,3}(,[0-9]{3})+([.][0-9]+)?$|^[-+]?[0-9]{1,3}([.][0-9]+)?$")) return(list(decimal = ".",
      group = ","))
  if (fits("^[-+]?[0-9]+(,[0-9]+)?$")) return(list(decimal = ",", group = ""))
  if (fits("^[-+]?[0-9]{1,3}([.][0-9]{3})+(,[0-9]+)?$|^[-+]?[0-9]{1,3}(,[0-9]+)?$")) return(list(decimal = ",",
      group = "."))
  if (fits("^[-+]?[0-9]{1,3}('[0-9]{3})+([.][0-9]+)?$|^[-+]?[0-9]{1,3}([.][0-9]+)?$")) return(list(decimal = ".",
      group = "'"))
  NULL
}

#' Text to numbers in a given style; what does not fit becomes missing
#' @noRd
as_numbers <- function(x, style) {
  if (is.numeric(x)) return(as.double(x))
  if (is.null(style)) return(suppressWarnings(as.numeric(x)))
  values <- unique(x)
  bare <- gsub("[\u00a0\u202f]", "", cut_affix(as.character(values), style))
  if (nzchar(style$group)) bare <- gsub(style$group, "", bare, fixed = TRUE)
  if (style$decimal != ".") bare <- sub(style$decimal, ".", bare, fixed = TRUE)
  number <- suppressWarnings(as.numeric(bare))
  if (isTRUE(style$multiply)) number <- number * ifelse(grepl("[Kk]\\s*$", values), 1e3,
                                                        ifelse(grepl("[Mm]\\s*$", values), 1e6, 1))
  number[match(x, values)]
}
