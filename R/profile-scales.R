# Ordered wordings: answers of agreement, frequency, quality, size and the like; their words are in inst/lexicon/scales.yml.

#' Answer scales that are listed word by word, in English and in other languages of surveys, and the words that grade answers
#' @section Shape: list(scales (list of texts, lowest first), neutral, often (frequencies), degree (named numbers), poles (two lists)).
#' @noRd
answer_words <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) {
      keep <- function(x) x
      kept <<- yaml::yaml.load_file(system.file("lexicon", "scales.yml", package = "upbeatquill"), handlers = list("bool#yes" = keep,
        "bool#no" = keep))
    }
    kept
  }
})

#' The answer scale that holds every value, with its order; bands of numbers too
#' @noRd
ordered_scale_of <- function(values) {
  if (length(values) < 3 || length(values) > 12) return(NULL)
  lower <- plain_answer(values)
  # what begins with a number says its place itself ("1 - Strongly disagree", "2")
  numbered <- suppressWarnings(as.numeric(sub("^([0-9]{1,2})([ .:=)-].*)?$", "\\1", lower)))
  bare <- sub("^[0-9]{1,2} *[.:=)-]+ *", "", lower)
  if (!anyNA(numbered) && !anyDuplicated(numbered) && mean(grepl("[[:alpha:]]", bare)) > 0 && !any(grepl("^[0-9]+ *(-|to|\u2013) *[0-9]", lower)) &&
      all(!grepl("[[:alpha:]]", bare) | bare == lower | grepl("^[0-9]{1,2} *[.:=)-]+ *[[:alpha:]]", lower)) && diff(range(numbered)) < 12 &&
      graded_ends(bare[which.min(numbered)], bare[which.max(numbered)])) {
    return(list(levels = values[order(numbered)], reason = "numbered answers of an ordered scale"))
  }
  at <- place_of_answers(lower)
  if (!is.null(at)) return(list(levels = values[order(at)], reason = "answers of a known ordered scale"))
  at <- place_without_noun(lower)
  if (!is.null(at)) return(list(levels = values[order(at)], reason = "grades of one thing", of_groups = TRUE))
  steps <- numbered_steps(lower)
  if (!is.null(steps)) return(list(levels = values[order(steps)], reason = "numbered steps"))
  # ("\u00a320k-\u00a330k", "over \u00a360k", "$1,000 or more": bands of money)
  money <- gsub("(?<=[0-9]),(?=[0-9]{3})|(?<=[0-9])[km]\\b|[$\u20ac\u00a3\u00a5] ?", "", lower, perl = TRUE)
  banded <- grepl("^[<>\u2264\u2265]?\\s*[0-9]+([.][0-9]+)?\\s*(-|to|\u2013|\\+|$)", money) |
    grepl("^(under|over|below|above|less than|more than|up to|at least) [0-9]", money) |
    grepl("^[0-9]+ (or|and) (more|over|above|older|under|less|fewer|younger)", money)
  if (all(banded) && !any(grepl("^[0-9]+ *[-.:] *[[:alpha:]]", money)) && any(grepl("-|to|\u2013|\\+|under|over|or |and |<|>", money))) {
    return(list(levels = band_order(values), reason = "bands of numbers"))
  }
  NULL
}

#' Answers without case, outer blanks and typographic marks
#' @noRd
plain_answer <- function(values) {
  x <- stringi::stri_trim_both(stringi::stri_trans_tolower(values))
  gsub("[\u2018\u2019]", "'", gsub("[ _]+", " ", x))
}

#' Places of answers along their scale, or NULL
#' @noRd
place_of_answers <- function(lower) {
  for (scale in answer_words()$scales) {
    at <- match(lower, scale)
    if (!anyNA(at) && !anyDuplicated(at)) return(at)
  }
  graded_answers(lower)
}

#' Places of answers that end in the same noun: "mild pain", "low dose", beside "no pain" and "placebo"
#' @noRd
place_without_noun <- function(lower) {
  nothing <- lower %in% c("none", "placebo", "control", "no", "nothing", "zero", "0", "absent")
  if (sum(!nothing) < 2) return(NULL)
  noun <- unique(sub("^.* ", "", lower[!nothing]))
  if (length(noun) != 1 || !all(grepl(" ", lower[!nothing]))) return(NULL)
  bare <- ifelse(nothing, "none", sub(" [^ ]+$", "", lower))
  bare[bare %in% c("no", "zero", "without")] <- "none"
  if (anyDuplicated(bare)) NULL else place_of_answers(bare)
}

#' Places of "Stage I, Stage II", "Grade 1, Grade 2", "Week 2, Week 10": one word that steps, and its number
#' @noRd
numbered_steps <- function(lower) {
  steps <- "stage|grade|level|tier|phase|week|day|month|year|visit|wave|round|time|session|cycle|step|band|quartile|quintile|decile|tertile|trimester"
  hit <- regmatches(lower, regexec(sprintf("^(%s)[ _-]?([0-9]{1,3}|i{1,3}|iv|v|vi{1,3}|ix|x)$", steps), lower))
  if (any(lengths(hit) < 3)) return(NULL)
  if (length(unique(vapply(hit, `[[`, "", 2))) != 1) return(NULL)
  said <- vapply(hit, `[[`, "", 3)
  at <- suppressWarnings(as.numeric(said))
  if (anyNA(at)) at <- as.numeric(suppressWarnings(utils::as.roman(said)))
  if (anyNA(at) || anyDuplicated(at)) NULL else at
}

#' Do the words at the two ends of a numbered scale grade something, so that the numbers are no codes of categories?
#' @noRd
graded_ends <- function(low, high) {
  !is.null(place_of_answers(c(low, high))) || any(vapply(answer_words()$scales, function(s) all(c(low, high) %in% s), NA))
}

#' Places of answers that grade one thing, made up of a degree and a pole: "tend to agree", "not at all important", "much worse"
#'
#' Every answer is a degree ("slightly") of one of two opposite poles ("agree", "disagree"), or says that it is neither.
#' @noRd
graded_answers <- function(lower) {
  words <- answer_words()
  middle <- lower %in% words$neutral | startsWith(lower, "neither")
  for (pair in words$poles) {
    # nearly every column of words is none: seen before any degree is looked at
    if (!all(middle | Reduce(`|`, lapply(unlist(pair), function(pole) endsWith(lower, pole))))) next
    place <- vapply(lower, grade_of, 1, pair = pair, words = words)
    if (!anyNA(place) && !anyDuplicated(place) && any(place != 0)) return(unname(place))
  }
  NULL
}

grade_of <- function(answer, pair, words) {
  if (answer %in% words$neutral || grepl("^neither\\b", answer)) return(0)
  for (side in 1:2) for (pole in pair[[side]]) {
    if (!grepl(sprintf("(^| )%s$", pole), answer)) next
    degree <- trimws(sub(sprintf("%s$", pole), "", answer))
    size <- if (nzchar(degree)) words$degree[[degree]] else 3
    if (is.null(size)) next
    return(if (side == 1) -size else size)
  }
  NA_real_
}

#' Letters under a name that says grade or rating: A is the best
#' @noRd
letter_grades <- function(name, values) {
  if (!grepl("(^|[_. ])(grades?|marks?|ratings?|epc)([_. ]|$)", tolower(name)) || length(values) < 3 || !all(grepl("^[A-GU][+-]?$",
      values))) return(NULL)
  sign <- ifelse(endsWith(values, "+"), 0.3, ifelse(endsWith(values, "-"), -0.3, 0))
  place <- match(substr(values, 1, 1), c("U", rev(LETTERS[1:7]))) + sign
  list(levels = values[order(place)], reason = "letter grades, A the best")
}

band_order <- function(values) {
  ends <- vapply(tolower(values), range_ends, numeric(2), USE.NAMES = FALSE)
  # what lies under the first bound stands before what begins there
  number <- ifelse(is.na(ends[1, ]), ends[2, ] - 0.5, ends[1, ])
  values[order(number, method = "radix")]
}
