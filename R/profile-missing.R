# Codes that stand for "missing".

#' Numbers that stand for missing, where treating them so is safe
#'
#' Safe: a known negative code, at least twice, while no other value lies below zero. Anything less clear is left alone.
#' @noRd
missing_codes_of <- function(x) {
  x <- x[!is.na(x)]
  if (!length(x) || min(x) >= 0) return(NULL)
  below <- x[x < 0]
  codes <- unique(below)
  if (length(codes) > 3 || !all(codes %in% c(-9, -99, -999, -9999, -88, -888, -77, -777, -98, -97, -66))) return(NULL)
  rest <- x[x >= 0]
  # a code stands apart: the other values start at zero or above and never come near it in size by chance
  if (length(rest) < 2 * length(below) || any(tabulate(match(below, codes)) < 2)) return(NULL)
  sort(codes)
}

#' Words that say that there is no value. A refusal or "don't know" is an answer until the analyst says otherwise.
#' @noRd
missing_words_of <- function(values) {
  if (!is.character(values)) return(NULL)
  words <- c("n/a", "#n/a", "null", "none given", "nan", "missing", "not answered", "no answer", ".", "-", "--", "?",
             "-99", "-999", "-9")
  # in the spellings that occur; a plain match, since a column may hold a million different values
  values[values %in% c(words, toupper(words), capital(words))] |> nothing_as_null()
}

nothing_as_null <- function(x) if (length(x)) x else NULL
