# What holds within groups ("does sleep affect pace within runners", "normally distributed within year groups"), and predictors
# that a question asks the worth of.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_within <- function() {
  list(turn("(correl|relat|associat).*repeated|repeated[- ]measures correlation", repeats_allowed_for), turn("\\bwithin[- ]", within_people),
      turn("\\bwithin\\b", related_within),
       turn("\\bwithin\\b", within_groups), turn("\\bpredictors? of\\b", worth_of_predictor))
}

#' "correlation of load and jump, allowing for repeated measures": the relation with the unit held constant
#'
#' With units as factor this is the common slope within units (Bland, J. M. and Altman, D. G. (1995). Calculating correlation coefficients
#' with repeated observations: part 1, correlation within subjects. BMJ, 310, 446).
#' @noRd
repeats_allowed_for <- function(out) {
  unit <- long_layout(out$study)$unit
  if (is.null(unit)) return(out)
  repeats <- "(?:repeated (?:measures|measurements|observations|values|rows)|(?:the )?repeats?)"
  form <- sprintf("(?i),? *\\b(?:allowing|accounting|adjusting|controlling|correcting|adjusted|allowed|accounted|controlled|given|with) (?:for )?(?:the )?%s\\b(?: (?:of|on|in|within|per|for) (?:the |each )?[\\p{L}_]+)?", repeats)  # nolint: line_length_linter.
  text <- sub(form, "", sub("(?i)\\brepeated[- ]measures correlation\\b", "correlation", out$text, perl = TRUE), perl = TRUE)
  if (identical(text, out$text) || !grepl("(?i)correl|relat|associat", text, perl = TRUE)) return(out)
  text <- sub("(?i)\\b(?:relationship|relation|association|correlation)\\b", "partial correlation", text, perl = TRUE)
  reworded(out, sprintf("%s controlling for %s", without_mark(text), unit),
           sprintf("Repeated rows are allowed for by holding %s constant, so the relation is the one within the same %s.", unit, unit))
}

#' "does sleep affect pace within runners", of units with several rows each: the relation in each of them
#' @noRd
related_within <- function(out) {
  form <- "(?i)^ *(?:do|does|did|is|are|has|have) (?:the )?(.+?) (?:affects?|influences?|predicts?|change[sd]? with|relate[sd]? to|related to|correlated? with|go(?:es)? with|depend(?:s)? on|associated with) (?:the |their )?(.+?) within (?:each |the |individual |single )?([\\p{L}_]+)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  numeric <- numeric_columns(out$study)
  a <- column_in_text(numeric, hit[2], named_phrases(out$study)); b <- column_in_text(numeric, hit[3], named_phrases(out$study))
  unit <- units_named(out$study, hit[4])
  if (is.null(a) || is.null(b) || a$name == b$name || length(unit) != 1) return(out)
  reworded(out, sprintf("relationship between %s and %s within each %s", a$name, b$name, unit[[1]]$name))
}

#' "compare the conditions within subjects", "within-subject sd of rt": rows of the same person belong together
#' @noRd
within_people <- function(out) {
  noun <- "(subjects?|participants?|people|persons?|patients?|individuals?|respondents?|volunteers?|animals?|units?)"
  form <- sprintf("(?i)\\bwithin[- ](?:the |each )?(?:same )?%s\\b", noun)
  hit <- match_groups(out$text, form)
  key <- if (!is.na(hit[1])) keys_of(out$study, single = FALSE)
  if (length(key) != 1) return(out)
  spread <- match_groups(out$text, sprintf("(?i)^ *(?:what (?:is|was) )?(?:the )?within[- ]%s (?:sds?|standard deviations?|variability|variances?|variation|spread) (?:of|in) (?:the )?(.+?)[?.! ]*$", noun))  # nolint: line_length_linter.
  if (!is.na(spread[1])) {
    return(reworded(out, sprintf("intraclass correlation of %s within %s", spread[3], key[[1]]$name),
                    sprintf("The standard deviation within %s stands beside that between them.", key[[1]]$name)))
  }
  if (!grepl("\\b(compare|differ\\w*|versus|vs|between|slower|faster|higher|lower|better|worse|test|change)\\b", out$text,
             ignore.case = TRUE)) return(out)
  reworded(out, paste(trimws(without_mark(sub(form, "", out$text, perl = TRUE))), "with", key[[1]]$name, "as the unit"))
}

#' "normally distributed within year groups": in each of them
#' @noRd
within_groups <- function(out) {
  if (grepl("\\b(intra-?class|iccs?|correlation of)\\b", out$text, ignore.case = TRUE)) return(out)
  hit <- match_groups(out$text, "(?i)\\bwithin (?!each\\b|the same\\b|groups?\\b|one\\b|every\\b)(?:the )?([\\p{L}_]+(?: [\\p{L}_]+)?s)(?= *[?.!,]|$)")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  words <- strsplit(hit[2], " ")[[1]]
  col <- column_of_words(Filter(groupable, all_columns(out$study)), words)
  if (is.null(col) || col$words < length(words)) return(out)
  reworded(out, sub(hit[1], paste("in each", col$name), out$text, fixed = TRUE))
}

#' "is attitude a good predictor of maths": does it predict it
#' @noRd
worth_of_predictor <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (?:the )?(.+?) (?:an? )?(?:good |strong |significant |useful |important |reliable |independent )?predictors? of (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || grepl("\\b(better|best|more|or)\\b", out$text, ignore.case = TRUE)) out
  else reworded(out, sprintf("does %s predict %s", hit[2], hit[3]))
}
