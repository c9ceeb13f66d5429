# Several raters with a column each ("marker_anna", "marker_ben"): how often they agree, who of them is stricter.

#' The turns about raters, as of `everyday_turns()`
#' @noRd
turns_of_raters <- function() {
  list(turn("agreement|\\bagree\\b|the same", how_often_agreed), turn("agree|consisten|reliab", all_raters_agree),
       turn("strict|harsh|severe|lenient|generous|mild|tough", stricter_rater))
}

#' Columns of the same kind and the same beginning of their names, one for each rater
#' @section Shape: list of list(stem, columns).
#' @noRd
rater_sets <- function(study) {
  columns <- Filter(function(col) col$kind %in% c("ordered", "count", "category", "yes_no", "number"), all_columns(study))
  names <- vapply(columns, `[[`, "", "name")
  stem <- ifelse(grepl("^[A-Za-z]+[_. ][A-Za-z0-9]+$", names), tolower(sub("[_. ].*$", "", names)), NA)
  kind <- paste(stem, vapply(columns, `[[`, "", "table"))
  sets <- split(names[!is.na(stem)], kind[!is.na(stem)])
  lapply(unname(Filter(function(s) length(s) >= 2, sets)), function(s) list(stem = tolower(sub("[_. ].*$", "", s[1])), columns = s))
}

#' The columns of raters that words mean: "anna and ben" by the ends of their names, "the markers" or "all three" as a whole
#' @section Shape: names of columns, or NULL.
#' @noRd
raters_said <- function(study, text) {
  stems <- stems_of(text)[[1]]
  for (set in rater_sets(study)) {
    ends <- stem_words(tolower(sub("^[^_. ]*[_. ]", "", set$columns)))
    named <- ends %in% stems
    if (sum(named) >= 2) return(set$columns[named])
    if (!any(named) && any(stem_words(set$stem) %in% stems)) return(set$columns)
  }
}

#' "percent agreement between anna and cleo", "how often do all three markers agree"
#' @noRd
how_often_agreed <- function(out) {
  forms <- c("(?i)^ *(?:what (?:is|was) )?(?:the )?(?:percent(?:age)?|proportion|share|rate)(?: of)? (?:exact |absolute |raw |observed |perfect )?agreement (?:between|of|among|for) (.+?)[?.! ]*$",  # nolint: line_length_linter.
             "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:exact|absolute|raw|observed|perfect) agreement (?:between|of|among|for) (.+?)[?.! ]*$",
             "(?i)^ *how often (?:do|did) (.+?) (?:agree|give the same [\\p{L}]+|coincide)(?: exactly| with each other)?[?.! ]*$")
  for (form in forms) {
    hit <- match_groups(out$text, form)
    raters <- if (!is.na(hit[1])) raters_said(out$study, hit[2])
    if (length(raters) < 2) next
    return(reworded(out, sprintf("%s kappa of %s", if (length(raters) == 2) "cohen" else "fleiss", some_of(raters, 20)),
                    "Took how often they are the same as their agreement."))
  }
  out
}

#' "is cleo more generous than ben", "which marker is the strictest": who gives the lower values
#' @noRd
stricter_rater <- function(out) {
  word <- "(strict|harsh|sever|lenient|generous|mild|tough)(?:e|er|est|est of all)?"
  one <- match_groups(out$text, sprintf("(?i)^ *(?:is|was|does|are) (?:the )?(.+?) (?:mark |grade |rate |score )?(?:more |less )?%s(?:ly)? than (?:the )?(.+?)[?.! ]*$", word))  # nolint: line_length_linter.
  most <- match_groups(out$text, sprintf("(?i)^ *(?:which|what|who) (.*?)(?:is|was|are|marks?|grades?|rates?|scores?) (?:the )?(?:most |least )?%s(?:ly)?[?.! ]*$", word))  # nolint: line_length_linter.
  raters <- if (!is.na(one[1])) raters_said(out$study, paste(one[2], "and", one[4]))
    else if (!is.na(most[1])) raters_said(out$study, most[2]) %||% only_raters(out$study)
  if (length(raters) < 2) return(out)
  high <- grepl("lenient|generous|mild", out$text, ignore.case = TRUE)
  reworded(out, sprintf(if (length(raters) > 2) "repeated measures anova of %s" else "compare %s", some_of(raters, 20)),
           sprintf("Took higher values to be %s.", if (high) "more generous" else "less strict"))
}

only_raters <- function(study) {
  sets <- rater_sets(study)
  if (length(sets) == 1) sets[[1]]$columns
}

#' "do the three judges agree", where the columns of one set alone can be theirs
#' @noRd
all_raters_agree <- function(out) {
  who <- "(?:judges|raters|markers|observers|assessors|reviewers|readers|examiners|graders|panell?ists|coders|experts|scorers|clinicians|tasters)"
  form <- sprintf("(?i)^ *(?:(?:how (?:well|far|much|closely|consistently) )?(?:do|did|are|were) |agreement (?:between|of|among) |(?:inter-?rater )?reliability of |consistency of )(?:the |all |all the |our )?(?:[0-9]|two|three|four|five|six|seven|eight)? ?%s(?: (?:agree|consistent|reliable|in agreement)(?: with each other| with one another)?)?[?.! ]*$", who)  # nolint: line_length_linter.
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  raters <- only_raters(out$study)
  if (length(raters) < 2) out else reworded(out, sprintf("agreement between %s", some_of(raters, 20)),
                                              sprintf("Took %s as theirs.", some_of(raters, 8)))
}
