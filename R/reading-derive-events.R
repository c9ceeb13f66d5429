# One level of a column as what happens ("failure", of a result that is pass or fail): its share over time, what predicts it, its odds.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_events <- function() {
  list(turn("\\b(share|proportion|percent\\w*|rate|fraction)s?\\b.*\\b(day|week|month|quarter|year|time)", event_over_time),
       turn("predict|explain|logistic|\\bodds of\\b", event_as_outcome),
       turn("\\bequal(ly)?\\b|\\bthe same\\b", equal_groups),
       turn("\\bper [a-z]+s\\b", plural_base), turn("\\b(odds|risk|chance) of\\b.*\\b(adjust|controll|account|holding)", adjusted_odds_in),
       turn("\\b(obese|underweight)\\b", by_body_mass), turn("^ *(do|does|did) .*\\b(more|less)\\b", does_more_often))
}

#' "failure rate per month", "share failed by week": the share of rows with that level, not how many there are
#' @noRd
event_over_time <- function(out) {
  every <- "(?:by|per|each|over|in each|for each) (?:the )?(?:day|week|month|quarter|year|days|weeks|months|quarters|years|time)s?"
  lead <- "(?i)^ *(?:what (?:is|was|are) )?(?:the |plot (?:the )?|show (?:me )?(?:the )?)?(?:monthly |weekly |daily |yearly )?"
  of <- "(?:share|proportion|percentage|percent|rate|fraction)s?"
  forms <- c(sprintf("%s%s (?:of )?(?:the )?(?:rows |those )?(?:that |who |which )?(?:with |are |were )?([\\p{L}_ -]{2,40}?) (%s)[?.! ]*$", lead, of, every),  # nolint: line_length_linter.
             sprintf("%s([\\p{L}_ -]{2,40}?) %s (%s)[?.! ]*$", lead, of, every))
  for (form in forms) {
    hit <- match_groups(out$text, form)
    found <- if (!is.na(hit[1])) level_said(out$study, hit[2])
    if (is.null(found) || identical(find_column(out$study, found$column)$kind, "yes_no") && !is_named_level(found)) next
    made <- level_column(out, found)
    if (is.null(made)) return(out)
    return(reworded(made$out, sprintf("share of %s %s", made$name, hit[3])))
  }
  out
}

#' The one level that a phrase names and nothing else, by its own words or by words of its kin ("failure" of fail)
#' @section Shape: list(column, level), or NULL.
#' @noRd
level_said <- function(study, phrase) {
  # (a column of that name is meant before a level, as sales before the department)
  column <- column_in_text(all_columns(study), phrase)
  if (!is.null(column) && tolower(column$said) == tolower(trimws(phrase))) return(NULL)
  found <- whole_level(study, phrase)
  if (!is.null(found)) return(found)
  found <- one_level_in(study, phrase)
  if (all(found$types %in% c("value", "stop", "filler"))) found
}

# (of yes and no the column itself is spoken of)
is_named_level <- function(found) !tolower(found$level) %in% c("yes", "no", "true", "false", "0", "1")

#' "predict failure from temperature and moisture", "logistic regression of failure on temperature", "odds of failure by shift"
#' @noRd
event_as_outcome <- function(out) {
  forms <- c("(?i)^( *(?:please )?(?:predict|explain|model) (?:the )?(?:chance of |risk of |odds of |probability of )?)([\\p{L}_ -]{2,40}?)( (?:from|with|by|using|on) .+)$",  # nolint: line_length_linter.
             "(?i)^(.*\\blogistic (?:regression|model) (?:of|for) (?:the )?)([\\p{L}_ -]{2,40}?)( (?:on|by|with|from|against) .+)$",
             "(?i)^( *(?:do|does|did|can|could) .+? (?:predict|explain) (?:the )?)([\\p{L}_ -]{2,40}?)([?.! ]*)$",
             "(?i)^( *(?:what are |how do )?(?:the )?odds of )([\\p{L}_ -]{2,40}?)( (?:by|for each|per) .+)$")
  for (i in seq_along(forms)) {
    hit <- match_groups(out$text, forms[i])
    found <- if (!is.na(hit[1])) level_said(out$study, hit[3])
    if (is.null(found) || !is_named_level(found)) next
    made <- level_column(out, found)
    if (is.null(made)) return(out)
    text <- switch(i, paste("logistic regression of", made$name, sub("(?i)^ (?:from|with|by|using|on) ", "on ", hit[4], perl = TRUE)), paste0(hit[2], made$name, hit[4]),  # nolint: line_length_linter.
                   paste("logistic regression of", made$name, "on", sub("(?i)^ *(?:do|does|did|can|could) (.+?) (?:predict|explain) (?:the )?$", "\\1", hit[2], perl = TRUE)),  # nolint: line_length_linter.
                   paste("logistic regression of", made$name, sub("(?i)^ (?:by|for each|per) ", "on ", hit[4], perl = TRUE)))
    return(reworded(made$out, text))
  }
  out
}

#' "are the lines equally hot", "are the lines equal in temperature": do they differ?
#' @noRd
equal_groups <- function(out) {
  equal <- match_groups(out$text, "(?i)^ *(?:are|were) (?:all )?(?:the )?([\\p{L}_ ]+?)s equally (?!common|likely|frequent|often|distributed|spread|represented|many|large)([\\p{L}_]+)(?=[?.! ]*$)")  # nolint: line_length_linter.
  if (!is.na(equal[1])) return(reworded(out, sprintf("do the %ss differ in how %s they are", equal[2], equal[3])))
  same <- match_groups(out$text, "(?i)^ *(?:are|were) (?:all )?(?:the )?([\\p{L}_ ]+?)s (?:equal|the same|alike) in (?:their |mean |average )*([\\p{L}_ ]+?)(?=[?.! ]*$)")  # nolint: line_length_linter.
  if (!is.na(same[1]) && !grepl("(?i)varianc|spread|size|number", same[3], perl = TRUE)) return(reworded(out, sprintf("do the %ss differ in %s", same[2], same[3])))  # nolint: line_length_linter.
  out
}

#' "batches with moisture outside 10 to 13": below the one or above the other
#' @noRd
outside_of_bounds <- function(out) {
  number <- "(-?[0-9]+(?:[.][0-9]+)?)"
  form <- sprintf("(?i)\\b(?:is |are |was |were |lies |falls |lying |falling )?outside (?:of )?(?:the )?(?:range |limits |band |bounds )?(?:of |from |between )?%s ?(?:to|and|-|\u2013) ?%s(?: ?%%)?", number, number)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  # (the words right before say of what)
  before <- sub("(?i)^.*\\b(?:with|whose|where|having|of|which) ", "", trimws(strsplit(out$text, hit[1], fixed = TRUE)[[1]][1]), perl = TRUE)
  numeric <- numeric_columns(out$study)
  found <- column_in_text(numeric, before, named_phrases(out$study))
  if (is.null(found)) return(out)
  name <- paste0(found$name, "_outside")
  cuts <- as.numeric(hit[2:3])
  done <- with_derived(out, name, "outside", found$name, on = cuts)
  if (!has_column(done$study, name)) return(out)
  said <- sprintf("(?i)(?:with |whose |where |of which |having )?(?:an? |the )?\\Q%s\\E +\\Q%s\\E", trimws(found$said %||% found$name), trimws(hit[1]))  # nolint: line_length_linter.
  text <- sub(said, sprintf("with %s = yes", name), out$text, perl = TRUE)
  if (identical(text, out$text)) return(out)
  # ("batches with moisture outside ...", and no more: how many there are)
  if (!grepl("(?i)\\b(how many|number|share|proportion|percent\\w*|list|show|which|average|mean|by|per|do|does|is|are)\\b", text, perl = TRUE)) {
    text <- paste("how many rows", sub("(?i)^ *[\\p{L}_]+ (?=with )", "", text, perl = TRUE))
  }
  reworded(done, text)
}

#' "defects per 1000 units by line", which by now is "per units": per one of what a column counts
#' @noRd
plural_base <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bper ([\\p{L}]+s)\\b(?=[ ?.!]|$)")
  if (is.na(hit[1]) || is.null(out$rate_per)) return(out)
  stem <- stem_words(tolower(hit[2]))
  own <- Filter(function(col) identical(col$kind, "count") && stem %in% name_stems(col$name), numeric_columns(out$study))
  if (length(own) == 1) reworded(out, sub(hit[1], paste("per", own[[1]]$name), out$text, fixed = TRUE)) else out
}

#' "odds of death for emergency patients adjusted for age": what the group does to the odds, with age held constant
#' @noRd
adjusted_odds_in <- function(out) {
  form <- "(?i)^ *(?:what (?:are|is) )?(?:the )?(?:odds|risk|chance) of (?:an? |the )?(.+?) (?:for|in|among|of) (?:the )?(.+?),? ((?:adjusted|adjusting|controlled|controlling|accounting) for .+)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  state <- parse_question(hit[3], study_vocabulary(out$study))
  if (length(state$groups) != 1 || isTRUE(state$groups[[1]]$numeric) || any(state$type == "unknown")) return(out)
  reworded(out, sprintf("effect of %s on %s %s", column_of(state, state$groups[[1]]$column), hit[2], sub("(?i)^(adjust|controll)ed", "\\1ing", hit[4], perl = TRUE)))  # nolint: line_length_linter.
}

#' "obese patients", of data with a body mass index: from 30 on
#' @section Source: World Health Organization (2000). Obesity: preventing and managing the global epidemic. Technical Report Series 894.
#' @noRd
by_body_mass <- function(out) {
  own <- Filter(function(col) any(c("bmi") %in% name_stems(col$name)), numeric_columns(out$study))
  known <- any(vapply(all_columns(out$study), function(col) any(grepl("obes|underweight", tolower(c(col$name, col$levels)))), NA))
  hit <- match_groups(out$text, "(?i)\\b(obese|underweight)( [\\p{L}]+s\\b| people| men| women| children)?(?! ?\\()")
  if (length(own) != 1 || known || is.na(hit[1])) return(out)
  bound <- if (tolower(hit[2]) == "obese") "of at least 30" else "below 18.5"
  who <- or_if_na(trimws(hit[3]), "")
  said <- sprintf("%s with %s %s", if (nzchar(who)) who else "rows", own[[1]]$name, bound)
  text <- sub(hit[1], said, out$text, fixed = TRUE)
  if (grepl(sprintf("(?i)^ *%s[?.! ]*$", as_literal(said)), text, perl = TRUE)) text <- paste("how many", text)
  text <- sub("(?i)\\b(?:who )?(?:is|are|was|were) rows with ", "with ", text, perl = TRUE)
  reworded(out, text, sprintf("Took %s to mean %s %s, by the bounds of the WHO.", quoted(hit[2]), own[[1]]$name, bound))
}

#' "do direct bookings cancel less": how often it is so for that level, against all others
#' @noRd
does_more_often <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:do|does|did) (?:the )?([\\p{L}_ -]+?) ([\\p{L}]+) (more|less)(?: often| frequently)?( than .+?)?[?.! ]*$")
  if (is.na(hit[1])) return(out)
  flags <- Filter(function(col) col$kind == "yes_no", all_columns(out$study))
  event <- column_in_text(flags, hit[3], kin_phrases(out$study, hit[3]))
  who <- one_level_in(out$study, hit[2])
  if (is.null(event) || is.null(who) || !is.null(numeric_in_text(out$study, hit[3]))) return(out)
  reworded(out, sprintf("is %s %s common for %s%s", event$name, tolower(hit[4]), who$level, or_if_na(hit[5], "")))
}
