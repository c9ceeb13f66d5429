# Curves of one column: the degree of a polynomial in any wording, and powers written out.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_curves <- function() {
  list(turn("polynomial|quartic|quintic", degree_said), turn("[=~].*(\\^|\\*\\*) *[2-9]", powers_written))
}

#' "a fifth degree polynomial of y on x", "polynomial of degree 5 of y on x": the degree comes last, behind what is fitted to what
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
degree_said <- function(out) {
  text <- out$text
  text <- gsub("(?i)\\bquartic( (polynomial|regression|curve|fit|function))?\\b", "polynomial of degree 4", text, perl = TRUE)
  text <- gsub("(?i)\\bquintic( (polynomial|regression|curve|fit|function))?\\b", "polynomial of degree 5", text, perl = TRUE)
  nth <- c("second|2nd", "third|3rd", "fourth|4th", "fifth|5th", "sixth|6th", "seventh|7th", "eighth|8th", "ninth|9th")
  for (k in seq_along(nth)) {
    text <- gsub(sprintf("(?i)\\b(?:%s)[- ](?:degree|order) polynomial\\b", nth[k]), sprintf("polynomial of degree %d", k + 1L), text, perl = TRUE)
  }
  moved <- paste0("(?i)\\bpolynomial( regression| curve| fit| model| function)?,? (?:of|with) (?:a )?(?:degree|order) (?:of )?([0-9]{1,2})",
                  "(?: in (?:the )?(\\S+))?(?: (?:of|for|to)|[,:]) (?:the )?(.+?)[?.! ]*$")
  hit <- match_groups(text, moved)
  if (is.na(hit[1])) return(reworded(out, text))
  what <- if (is.na(hit[4])) hit[5] else paste(hit[5], "on", hit[4])
  reworded(out, sub(moved, sprintf("polynomial regression of %s with degree %s", what, hit[3]), text, perl = TRUE))
}

#' "fit y = x + x^2 + x^3": powers of one column, up to a degree
#' @noRd
powers_written <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:(?:fit|model|regress|estimate|run) )?(?:the model )?([^=~]+?) *[=~] *([^=~]+?)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  terms <- trimws(strsplit(hit[3], "+", fixed = TRUE)[[1]])
  part <- stringi::stri_match_first_regex(terms, "^(?:I\\()?([^()^*+]+?)(?: *(?:\\^|\\*\\*) *([2-9]))?\\)?$")
  if (anyNA(part[, 2]) || length(unique(part[, 2])) != 1) return(out)
  degree <- max(ifelse(is.na(part[, 3]), 1L, as.integer(part[, 3])))
  whole <- setequal(ifelse(is.na(part[, 3]), 1L, as.integer(part[, 3])), seq_len(degree))
  if (!whole || !tolower(part[1, 2]) %in% tolower(column_names(out$study))) return(out)
  reworded(out, sprintf("polynomial regression of %s on %s with degree %d", hit[2], part[1, 2], degree))
}
