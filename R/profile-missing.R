# Codes that stand for "missing": those that are safe to read so, and those that are only proposed.

#' Numbers that stand for missing, where treating them so is safe
#'
#' Safe: a known negative code, at least twice, while no other value lies below zero. Anything less clear is proposed.
#' @param facts [number_facts()] of x.
#' @noRd
missing_codes_of <- function(x, facts = number_facts(x)) {
  # what has no bound was not measured, nor what is too large for its square
  if (facts$count > 0 && any(endless(c(facts$min, facts$max)))) {
    far <- unique(x[endless(x) %in% TRUE])
    bounded <- x[!x %in% far]
    return(if (length(far) <= 10) c(far, if (length(bounded)) missing_codes_of(bounded)))
  }
  if (facts$count == 0 || facts$min >= 0 || facts$below_zero > facts$count / 3) return(NULL)
  below <- x[kernel_beyond(as_kernel_numbers(x), 0, Inf)]
  codes <- unique(below)
  # -7 and -8 are codes beside -9 only
  family <- c(low_codes(), if (-9 %in% codes) c(-7, -8))
  if (length(codes) > 3 || !all(codes %in% family)) return(NULL)
  # a code stands apart: the other values start at zero or above and never come near it in size by chance
  if (any(tabulate(match(below, codes)) < 2)) return(NULL)
  sort(codes)
}

low_codes <- function() c(-9, -99, -999, -9999, -88, -888, -77, -777, -98, -97, -66)
high_codes <- function() c(77, 88, 97, 98, 99, 777, 888, 997, 998, 999, 7777, 8888, 9997, 9998, 9999, 99999, 999999)

#' Numbers that may stand for missing: usual codes that lie far outside all other values
#'
#' @section Shape: NULL, or list(codes, rows (how many hold them), evidence (words)).
#' @noRd
proposed_codes <- function(x, facts) {
  if (facts$count < 4) return(NULL)
  if (facts$whole && facts$min %in% 0:1 && facts$max %in% 8:9) return(single_figure_code(x, facts))
  if (!(facts$max %in% high_codes() || facts$below_zero > 0 && facts$below_zero < facts$count / 3)) return(NULL)
  # a code is at least among the values
  if (!facts$max %in% high_codes() && !any(x[kernel_beyond(as_kernel_numbers(x), 0, Inf)] %in% c(low_codes(), -1))) return(NULL)
  x <- x[!is.na(x)]
  values <- sort(unique(x), method = "radix")
  top <- rev(values[values %in% high_codes()])
  found <- numeric()
  for (code in top) {
    rest <- values[values < code & !values %in% found]
    if (!length(rest) || any(values > code & !values %in% found)) break
    # the codes of one family (97, 98, 99) stand next to each other
    rest <- rest[!rest %in% high_codes() | rest < 0.6 * code]
    if (!length(rest) || max(rest) > 0.7 * code) break
    found <- c(found, code)
  }
  low <- values[values %in% c(low_codes(), -1)]
  # the other values must stay well away from the code: above zero, or never more than a third of it below
  clear <- vapply(low, function(code) { rest <- values[!values %in% low]; length(rest) > 0 && min(rest) >= min(0, code / 3) }, NA)
  found <- c(found, low[clear])
  rows <- sum(x %in% found)
  if (!length(found) || rows > length(x) / 3) return(NULL)
  rest <- values[!values %in% found]
  list(codes = sort(found), rows = rows, safe = far_codes(found, x, rest),
       evidence = sprintf("the other values run from %s to %s", format_plain(min(rest)), format_plain(max(rest))))
}

#' Codes such as 999 that nobody can take for a value: several rows hold them, and the other values stay below a tenth of them
#' @noRd
far_codes <- function(codes, x, rest) {
  length(x) >= 20 && all(codes > 0) && min(rest) >= 0 && max(rest) <= min(codes) / 10 &&
    all(vapply(codes, function(code) sum(x == code), 1) >= 3)
}

#' An 8 or 9 that stands alone above the answers of a short scale ("1 2 3 4 5 9")
#' @noRd
single_figure_code <- function(x, facts) {
  values <- sort(unique(x[!is.na(x)]))
  answers <- values[values <= 7]
  odd <- setdiff(values, answers)
  gap <- min(odd) - max(answers)
  rows <- sum(x %in% odd)
  # the answers run without a gap, and at least two numbers between them and the code do not occur
  if (length(answers) < 2 || any(diff(answers) != 1) || gap < 3 || facts$count < 20 || rows < 3 || rows > facts$count / 3) return(NULL)
  list(codes = odd, rows = rows, evidence = sprintf("the other values run from %s to %s", format_plain(min(answers)), format_plain(max(answers))))
}

#' Words among numbers: the few values that keep a column from being numbers
#'
#' @section Shape: NULL when the column is not nearly all numbers; else list(words, safe, beyond): safe when each word says that
#'   there is no value, so that reading it as missing loses nothing, or that a value lies beyond a limit ("<5"), which are told
#'   apart in beyond: they count as missing too, and a finding says so.
#' @noRd
words_among_numbers <- function(values) {
  if (length(values) < 4) return(NULL)
  # most columns of words are seen to be such by their first values
  if (mean(grepl(plain_number(), utils::head(values, 40))) < 0.7) return(NULL)
  plain <- grepl(plain_number(), values)
  odd <- values[!plain]
  # "<5" among numbers: a limit of detection, of which there may be several
  beyond <- grepl("^\\s*[<>\u2264\u2265]\\s*[0-9]+([.,][0-9]+)?\\s*$", odd) |
    sum(plain) >= 10 & grepl("^[0-9]+ ?\\+$", odd) | tolower(trimws(odd)) %in% undetected_words()
  # "35 years" and "90+" beside plain numbers
  if (any(beyond) && sum(beyond) <= 0.3 * length(values) && !is.null(number_style(values[!values %in% odd[beyond]]))) {
    return(list(words = odd[beyond], safe = TRUE, beyond = odd[beyond]))
  }
  # what holds figures is a value written in another way ("5ft 8in"), no code
  if (any(!beyond & grepl("[0-9]", odd) & !grepl("^#|^[-+]?9+$|^[0-9]+\\s*=", odd))) return(NULL)
  if (!length(odd) || sum(!beyond) > 0.1 * length(values) + 1 || sum(beyond) > 0.3 * length(values) || sum(plain) < 3) return(NULL)
  if (any(grepl("^[-+]?0[0-9]", values[plain]))) return(NULL)
  list(words = odd, safe = all(beyond | tolower(trimws(odd)) %in% c(refusal_words(), "n/a", "null", ".", "-", "?")), beyond = odd[beyond])
}

nothing_as_null <- function(x) if (length(x)) x else NULL

#' Numbers without a bound, or whose squares would pass the largest number that a computer holds
#' @noRd
endless <- function(codes) if (is.numeric(codes)) is.infinite(codes) | abs(codes) > 1e150 else logical(length(codes))
