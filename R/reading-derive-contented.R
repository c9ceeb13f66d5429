# How contented people are: with which of several things least, with one beside another, and how many are so at all.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_contented <- function() {
  list(turn("satisf|happy|content|pleased", contented_with_two), turn("\\b(satisf|happy|happi|content|pleased|rated)", contented_least),
       turn("share|proportion|percent|how many|number of|rate", contented_at_all))
}

#' "how satisfied are customers with price compared with delivery": the two answers of each of them
#' @noRd
contented_with_two <- function(out) {
  form <- "(?i)^ *how (?:satisfied|happy|content|pleased) (?:are|were) (?:the |our )?[\\p{L}]+ with (?:the |their |our )?(.+?) (?:compared (?:with|to)|versus|vs\\.?|against|relative to) (?:with )?(?:the |their |our )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  two <- c(answers_about(out$study, hit[2])$name, answers_about(out$study, hit[3])$name)
  if (length(unique(two)) != 2) return(out)
  reworded(out, sprintf("%s compared with %s", two[1], two[2]), sprintf("Took the answers to %s.", some_of(quoted(two), 2)))
}

#' "which aspect are customers least satisfied with", "what are guests happiest with": the items of the scale beside each other
#' @noRd
contented_least <- function(out) {
  form <- "(?i)^ *(?:which|what) (?:(?:aspect|area|item|part|feature|element|thing|service|statement|topic)s? )?(?:are|is|were|was|do|did) (?:the |our )?[\\p{L}]+ (?:(?:the )?(least|most) (?:satisfied|happy|content|pleased)|(?:the )?(unhappiest|happiest)) (?:with|about)(?=[?.! ]*$)"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !length(study_vocabulary(out$study)$sets) && length(ordered_alike(out$study)) < 2) return(out)
  low <- tolower(or_if_na(hit[2], "")) == "least" || tolower(or_if_na(hit[3], "")) == "unhappiest"
  reworded(out, sprintf("which statement do people agree with %s", if (low) "least" else "most"), "The answers to all items of the scale are set beside each other.")  # nolint: line_length_linter.
}

#' The columns of ordered answers that share their levels with another
#' @noRd
ordered_alike <- function(study) {
  ordered <- Filter(function(col) col$kind == "ordered", all_columns(study))
  levels <- vapply(ordered, function(col) paste(col$levels, collapse = "\n"), "")
  ordered[levels %in% levels[duplicated(levels)]]
}

#' "share of satisfied customers", of answers up to "Very satisfied": who is very satisfied is satisfied
#' @noRd
contented_at_all <- function(out) {
  hit <- match_groups(out$text, "(?i)(?<!very |extremely |completely |fully |highly |totally |or |rather |fairly |somewhat |quite |is |= |\")\\b(satisfied|dissatisfied|unsatisfied|happy|unhappy|likely|unlikely|confident|interested|concerned|worried)\\b(?! (?:or|and|with an?)\\b)")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !grepl("(?i)\\b(share|proportion|percent\\w*|how many|number of|rate of)\\b", out$text, perl = TRUE)) return(out)
  if (grepl("(?i)\\b(more|less|most|least|how|not|only|just) (satisfied|dissatisfied|happy|unhappy|likely|unlikely|confident)", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  word <- tolower(hit[2])
  levels <- unique(unlist(lapply(Filter(function(col) col$kind == "ordered", all_columns(out$study)), function(col) col$levels)))
  strong <- levels[tolower(levels) %in% paste(c("very", "extremely", "completely", "fully", "highly", "totally"), word)]
  if (!any(tolower(levels) == word) || length(strong) != 1) return(out)
  reworded(out, sub(hit[1], sprintf("%s or %s", hit[1], tolower(strong)), out$text, fixed = TRUE),
           sprintf("Who answered %s counts as %s as well.", quoted(strong), word))
}
