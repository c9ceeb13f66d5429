# Ordered wordings: answers of agreement, frequency, quality, size and the like.

answer_scales <- function() {
  list(
    c("strongly disagree", "disagree", "somewhat disagree", "slightly disagree", "neither agree nor disagree",
      "neither", "neutral",
      "undecided", "slightly agree", "somewhat agree", "agree", "strongly agree"),
    c("very dissatisfied", "dissatisfied", "somewhat dissatisfied", "neither satisfied nor dissatisfied", "neutral",
      "somewhat satisfied", "satisfied", "very satisfied"),
    c("never", "almost never", "rarely", "seldom", "occasionally", "sometimes", "often", "frequently", "usually",
      "very often",
      "almost always", "always"),
    c("very poor", "poor", "fair", "average", "good", "very good", "excellent"),
    c("very bad", "bad", "neutral", "okay", "good", "very good"),
    c("none", "very low", "low", "medium", "moderate", "high", "very high"),
    c("none", "mild", "moderate", "severe", "very severe"),
    c("very unlikely", "unlikely", "neutral", "likely", "very likely"),
    c("not at all", "a little", "slightly", "somewhat", "moderately", "quite a bit", "very", "very much", "extremely"),
    c("extra small", "small", "medium", "large", "extra large"),
    c("xs", "s", "m", "l", "xl", "xxl"), c("l", "m", "h"),
    c("primary", "secondary", "tertiary"), c("beginner", "intermediate", "advanced", "expert"),
    c("first", "second", "third", "fourth", "fifth")
  )
}

#' The answer scale that holds every value, with its order; bands of numbers too
#' @noRd
ordered_scale_of <- function(values) {
  if (length(values) < 3 || length(values) > 12) return(NULL)
  lower <- stringi::stri_trim_both(stringi::stri_trans_tolower(values))
  for (scale in answer_scales()) {
    at <- match(lower, scale)
    if (!anyNA(at) && !anyDuplicated(at)) {
      return(list(levels = values[order(at)], reason = "answers of a known ordered scale"))
    }
  }
  banded <- grepl("^[<>\u2264\u2265]?\\s*[0-9]+([.][0-9]+)?\\s*(-|to|\u2013|\\+|$)", lower) |
    grepl("^(under|over|below|above|less than|more than) [0-9]", lower)
  if (all(banded) && any(grepl("-|to|\u2013|\\+|under|over|<|>", lower))) {
    return(list(levels = band_order(values), reason = "bands of numbers"))
  }
  NULL
}

#' Letters under a name that says grade: A is the best
#' @noRd
letter_grades <- function(name, values) {
  if (!grepl("(^|[_. ])(grades?|marks?)([_. ]|$)", tolower(name)) || length(values) < 3 || !all(grepl("^[A-GU][+-]?$", values))) return(NULL)
  sign <- ifelse(endsWith(values, "+"), 0.3, ifelse(endsWith(values, "-"), -0.3, 0))
  place <- match(substr(values, 1, 1), c("U", rev(LETTERS[1:7]))) + sign
  list(levels = values[order(place)], reason = "letter grades, A the best")
}

band_order <- function(values) {
  lower <- tolower(values)
  number <- as.numeric(stringi::stri_extract_first_regex(lower, "[0-9]+([.][0-9]+)?"))
  number <- number - ifelse(grepl("^(<|\u2264|under|below|less)", lower), 0.5, 0)
  values[order(number, method = "radix")]
}
