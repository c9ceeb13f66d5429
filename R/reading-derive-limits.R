# One column held against another, row by row: values above their limit, spending over its budget.

#' The turns, as of `everyday_turns()`; they stand after those of measures in rows, which name the column
#' @noRd
turns_of_limits <- function() {
  list(turn("\\b(above|below|over|under|exceed\\w*|more than|less than|higher than|lower than|greater than)\\b", one_column_beyond))
}

#' "ALT above ULN", "more than 1.5 times the ULN", "spending over budget": one column held against another, row by row
#' @noRd
one_column_beyond <- function(out) {
  numeric <- numeric_columns(out$study)
  # ("is A higher than B" compares the two)
  if (length(numeric) < 2 || grepl("(?i)^ *(is|are|was|were|do|does|did|has|have|compare|test|paired|difference)\\b", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  names <- vapply(numeric, `[[`, "", "name")
  text <- limits_of_normal(out$text, names)
  word <- paste0("(?:", paste(as_literal(names[order(-nchar(names))]), collapse = "|"), ")")
  form <- sprintf(paste0("(?i)(?<![\\p{L}0-9_])(%s)(?: (?:values?|levels?|results?))?(?: (?:is|are|was|were|being|lies|lie))? (?:(above|below|over|under|exceeding|exceeds|greater than|higher than|more than|less than|lower than) )",  # nolint: line_length_linter.
                         "(?:([0-9.]+) times )?(?:the |its |their )?(?:own )?(%s)(?![\\p{L}0-9_])"), word, word)
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || tolower(hit[2]) == tolower(hit[5])) return(out)
  own <- names[match(tolower(hit[c(2, 5)]), tolower(names))]
  # ("uptake over concentration" is its course)
  limit <- "budget|target|limit|plan|quota|threshold|max|min|allowance|capacity|uln|lln|norm|goal"
  if (grepl("^(over|under)$", hit[3], ignore.case = TRUE) && !grepl(limit, tolower(own[2]))) return(out)
  low <- grepl("below|under|less|lower", hit[3], ignore.case = TRUE)
  times <- !is.na(hit[4])
  name <- paste(own[1], if (times) "per" else "minus", own[2], sep = "_")
  bound <- sprintf("%s %s", if (low) "below" else "above", if (times) hit[4] else "0")
  # (after a word that already leads in a condition none is needed)
  lead <- if (grepl("(?i)\\b(with|having|have|has|had|where|whose)(?: an?| the)? *$", strsplit(text, hit[1], fixed = TRUE)[[1]][1], perl = TRUE)) "" else "rows with "  # nolint: line_length_linter.
  done <- with_derived(out, name, if (times) "ratio" else "difference", own, sub(hit[1], sprintf("%s%s %s", lead, name, bound), text, fixed = TRUE))
  if (has_column(done$study, name)) done else out
}

#' "the upper limit of normal" as the column that holds it
#' @noRd
limits_of_normal <- function(text, names) {
  for (side in c("upper", "lower")) {
    own <- names[grepl(if (side == "upper") "^(uln|anrhi|ulnr?|upper_?(limit|normal).*|ref_?(high|hi|upper)|normal_?high)$" else
      "^(lln|anrlo|lower_?(limit|normal).*|ref_?(low|lo|lower)|normal_?low)$", tolower(names))]
    if (length(own) != 1) next
    text <- gsub(sprintf("(?i)(?:the )?%s (?:limit|bound|end)s?(?: of (?:the )?(?:normal(?: range)?|reference range|normal))?(?: range)?", side), own, text, perl = TRUE)  # nolint: line_length_linter.
  }
  text
}
