# Questions about counts out of totals ("deaths out of exposed", "germinated out of seeds"), each row a group of things.
# Each wish gives list(text, extra, told) as those of R/reading-models.R, or NULL.

#' The wishes of this file, as of `chance_wishes()`
#' @noRd
count_wishes <- function() {
  list(wish("\\b(ld|ed|ec|lc|lt) ?50\\b|median (lethal|effective)", wish_half_at), wish("\\bout of\\b|/", wish_expected_out_of),
       wish("\\bout of\\b|/", wish_counts_out_of))
}

#' "logistic regression of dead out of exposed on dose", "does the share of dead out of exposed depend on dose", "share of dead out of exposed by sex"
#' @noRd
wish_counts_out_of <- function(text, vocabulary) {
  hit <- match_groups(text, "(?i)^(.*?)(?:\\b(?:share|proportion|percentage|percent|fraction|rate|number) of )?(?:the )?([\\w.]+(?: [\\w.]+)?)(?: out of | ?/ ?)(?:the |all )?([\\w.]+(?: (?!on |by |from |between |across )[\\w.]+)?)(?= on | by | depend| differ| var| chang| relat| goe?s? | ris| fall| increas| decreas| between | across | for each | in each | from |[?. ]*$)(.*)$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  said <- count_and_total(vocabulary, sub("(?i)^(of|is|are|the|does|do|model|regress) ", "", hit[3], perl = TRUE), hit[4])
  if (is.null(said)) return(NULL)
  rest <- hit[5]
  x <- match_groups(rest, "(?i)^ *(?:on|depends? on|var(?:y|ies) (?:with|by)|changes? (?:with|by)|(?:related|relates?) to|goe?s? (?:up |down )?with|(?:rise|fall|increase|decrease)s? with|differs? (?:by|between|with)|from) (?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  model <- grepl("\\b(logistic|regress\\w*|model)\\b", hit[2], ignore.case = TRUE)
  columns <- if (!is.na(x[1])) vocabulary$columns[columns_mentioned(x[2], vocabulary), ]
  measured <- !is.null(columns) && nrow(columns) && (nrow(columns) > 1 || any(columns$kind %in% c("number", "count")))
  if (!is.na(x[1]) && (model || measured)) {
    return(list(text = model_text(said$count, x[2], "regression"), extra = list(trials = said$total)))
  }
  if (grepl("(?i)\\b(?:expected|predicted)\\b", hit[2], perl = TRUE)) return(NULL)
  rate <- sprintf("%s per %s", said$count, said$total)
  between <- match_groups(rest, "(?i)^ *(?:differs?|var(?:y|ies))? ?(?:between|across) (?:the )?(.+?)[?. ]*$")[2]
  groups <- if (!is.null(columns) && nrow(columns) == 1) columns$name else between
  if (!is.na(groups)) return(list(text = sprintf("compare %s between %s", rate, groups), extra = list()))
  lead <- sub("(?i)(^|.* )(?:what |how large |how high )?(?:is |are |was |were )?(?:the )?$", "\\1", hit[2], perl = TRUE)
  if (!nzchar(trimws(lead))) list(text = paste0(rate, rest), extra = list())
}

#' The columns that words name as a count and what it is out of
#' @section Shape: list(count, total) of names, or NULL.
#' @noRd
count_and_total <- function(vocabulary, count, total) {
  y <- column_said(vocabulary, count); n <- column_said(vocabulary, total)
  fits <- !is.null(y) && !is.null(n) && y$kind == "count" && n$kind %in% c("count", "constant") && y$name != n$name
  if (fits) list(count = y$name, total = n$name)
}

#' "expected share of dead out of exposed at dose 3", "predicted dead out of exposed for dose = 2": of a model on what is stated
#' @noRd
wish_expected_out_of <- function(text, vocabulary) {
  hit <- match_groups(text, "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:expected|predicted) (?:(?:share|proportion|percentage|fraction|number|rate) of )?(?:the )?(.+?)(?: out of | ?/ ?)(?:the )?(.+?) (at|for|with|when|where|given) (.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  said <- count_and_total(vocabulary, hit[2], hit[3])
  if (!is.null(said)) list(text = sprintf("expected %s %s %s", said$count, hit[4], hit[5]), extra = list(trials = said$total))
}

#' "LD50 of dead out of exposed on dose": the dose at which one half is expected
#' @noRd
wish_half_at <- function(text, vocabulary) {
  hit <- match_groups(text, "(?i)^ *(?:what (?:is|was) |find |give |estimate |calculate )?(?:me )?(?:the )?(?:(?:ld|ed|ec|lc|lt) ?50|median (?:lethal|effective) (?:dose|concentration|time)s?) (?:of|for) (?:the )?(.+?)(?: out of | ?/ ?)(?:the )?(.+?) (?:on|by|against|with|from) (?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  y <- column_said(vocabulary, hit[2]); n <- column_said(vocabulary, hit[3]); x <- column_said(vocabulary, hit[4])
  if (is.null(y) || is.null(n) || is.null(x) || y$kind != "count") return(NULL)
  list(text = model_text(y$name, x$name, "regression"), extra = list(trials = n$name, half_at = TRUE))
}

#' Counts out of totals are modelled as such; the totals are no predictor
#' @noRd
with_totals <- function(r) {
  total <- r$extra$trials
  if (is.null(total)) return(r)
  if (r$task != "predict") {
    r$extra["trials"] <- list(NULL)
    return(r)
  }
  r <- without_part(r, total)
  if (identical(r$method_asked, "logistic_regression")) r["method_asked"] <- list(NULL)
  r$assumed <- unique(c(r$assumed, sprintf("Each row counts %s out of %s, so rows weigh by their %s.", r$outcome[1], total, total)))
  r
}
