# How something developed, whose it was and by what it is measured, said by verbs: "how did consumption of A and B develop", "did the
# treated reduce their intake after May", "seasonality of sales", "household size", "use more".

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_developed <- function() {
  list(turn("^ *how (did|has|have|do|does) .*\\b(develop|evolve|progress|move|change)", developed),
       turn("^ *(did|have|has) .*\\b(after|since|following|from)\\b", lessened_after), turn("seasonalit", seasonality_of),
       turn("\\b(household|family|class|group|party|team|crew|flat|home) size\\b", size_of_group),
       turn("\\b(use|uses|used|consume|consumes|consumed|spend|spends|spent|earn|earns|earned|produce|produces|produced)\\b", measure_of_verb),
       turn("\\b(differences?|net|margin)\\b", difference_of_sides))
}

#' "how did consumption of flat and time-of-use households develop": the measure over time, for each of those groups
#' @noRd
developed <- function(out) {
  form <- "(?i)^ *how (?:did|has|have|do|does) (?:the )?(.+?) (?:of|for|in|among) (?:the )?(.+?)(?: group| groups)? (?:developed|develop|evolved|evolve|progressed|progress|moved|move|changed over time|change over time)(?: over time)?(?: since then)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(numeric_columns(out$study), hit[2], named_phrases(out$study)) %||% numeric_in_text(out$study, hit[2])
  state <- parse_question(hit[3], study_vocabulary(out$study))
  if (is.null(found) || length(state$groups) != 1 || !names_several(state$groups[[1]]) || any(state$type == "unknown")) return(out)
  reworded(out, sprintf("%s over time by %s for %s", found$name, column_of(state, state$groups[[1]]$column),
                        some_of(state$groups[[1]]$levels, 20)))
}

#' "did the time-of-use households reduce their consumption after January 2024": did it fall, among these rows?
#' @noRd
lessened_after <- function(out) {
  falls <- "reduce|reduced|cut|lower|lowered|decrease|decreased"; rises <- "increase|increased|raise|raised|expand|expanded"
  form <- sprintf("(?i)^ *(?:did|have|has) (?:the )?(.+?) (%s|%s|change|changed|improve|improved) (?:their|its|his|her) ([\\p{L}_ ]+?) ((?:after|since|following|from) .+?)[?.! ]*$",  # nolint: line_length_linter.
                  falls, rises)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- numeric_in_text(out$study, hit[4])
  state <- parse_question(hit[2], study_vocabulary(out$study))
  one <- length(state$groups) == 1 && names_one(state$groups[[1]]) && !any(state$type == "unknown")
  if (is.null(found) || !one) return(out)
  verb <- if (grepl(sprintf("^(%s)$", falls), hit[3], ignore.case = TRUE)) "fall" else if (grepl(sprintf("^(%s)$", rises), hit[3],
      ignore.case = TRUE)) "rise" else "change"
  reworded(out, sprintf("did %s %s %s where %s is %s", found$name, verb, hit[5], column_of(state, state$groups[[1]]$column), state$groups[[1]]$levels))  # nolint: line_length_linter.
}

#' "seasonality of consumption", "is there seasonality in sales"
#' @noRd
seasonality_of <- function(out) {
  if (!length(date_columns(out$study))) return(out)
  text <- sub("(?i)^ *(?:is there|do we see|are there)(?: any| a)? (?:clear )?seasonality (?:of|in|for) (?:the )?(.+?)[?.! ]*$", "is \\1 seasonal?", out$text, perl = TRUE)  # nolint: line_length_linter.
  text <- sub("(?i)\\bseasonality (?:of|in|for) (?:the )?", "seasonal pattern of ", text, perl = TRUE)
  reworded(out, sub("(?i)\\bthe ([\\p{L}_]+?)(?:'s)? seasonality\\b", "seasonal pattern of \\1", text, perl = TRUE))
}

#' "household size", beside a column persons: how many there are in it
#' @noRd
size_of_group <- function(out) {
  if (any(vapply(all_columns(out$study), function(col) "size" %in% name_stems(col$name), NA))) return(out)
  counts <- "^(n_?)?(persons?|people|members?|occupants?|residents?|household_members|pupils|students|heads)(_in_.*)?$"
  both <- Filter(function(col) is_numeric_kind(col$kind) && grepl("^(n_?)?(adults?|children|kids)$", tolower(col$name)), all_columns(out$study))
  own <- Filter(function(col) is_numeric_kind(col$kind) && grepl(counts, tolower(col$name)), all_columns(out$study))
  hit <- match_groups(out$text, "(?i)\\b(?:household|family|class|group|party|team|crew|flat|home) size\\b")
  # ("party size", of adults and children)
  if (!is.na(hit[1]) && !length(own) && length(both) == 2) {
    name <- gsub(" ", "_", tolower(hit[1]))
    return(with_derived(out, name, "sum", vapply(both, `[[`, "", "name"), sub(hit[1], name, out$text, fixed = TRUE)))
  }
  if (is.na(hit[1]) || length(own) != 1) return(out)
  reworded(out, sub(hit[1], own[[1]]$name, out$text, fixed = TRUE), sprintf("Took %s to mean the column %s.", quoted(hit[1]), own[[1]]$name))
}

#' "which household uses most", "do homes with heat pumps use more": what is used, spent, earned or made is measured by one column
#' @noRd
measure_of_verb <- function(out) {
  nouns <- list(c("us(?:e|es|ed)|consum(?:e|es|ed)", "consumption", "usage"), c("spen(?:d|ds|t)", "spending", "expenditure"),
                c("earn(?:s|ed)?", "earnings", "income", "salary", "pay"), c("produc(?:e|es|ed)", "production", "output", "yield"))
  for (one in nouns) {
    # (what stands behind "more" is what there is more of: "use more water")
    end <- "(?=[?.! ]*$| (?:per|in|on|at|during|by|for|when|after|before|each|every)\\b| than (?!(?:about |around |roughly )?[^\\p{L} ]))"
    form <- sprintf("(?i)\\b(?:%s) (?:the )?(more|less|most|least)%s", one[1], end)
    if (!grepl(form, out$text, perl = TRUE)) next
    before <- sub(form, "", out$text, perl = TRUE)
    found <- compact(lapply(one[-1], function(noun) numeric_in_text(out$study, noun)))
    if (!length(found)) next
    name <- found[[1]]$name
    # (the question names something else that is measured)
    said <- match_groups(before, "(?i)\\bper ([\\p{L}_]+)")[1]
    other <- numeric_in_text(out$study, if (is.na(said)) before else sub(said, "", before, fixed = TRUE))
    if (!is.null(other) && other$name != name) return(out)
    word <- tolower(match_groups(out$text, form)[2])
    put <- c(more = "have a higher %s", less = "have a lower %s", most = "has the highest %s", least = "has the lowest %s")[[word]]
    return(reworded(out, sub(form, sprintf(put, name), out$text, perl = TRUE), sprintf("Took what is used, spent, earned or made to be %s.", name)))
  }
  out
}

#' "goal difference", "net goals", beside home_goals and away_goals: the one less the other
#' @noRd
difference_of_sides <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:net ([\\p{L}]+)|([\\p{L}]+?)s? (?:difference|margin)s?)\\b(?! (?:between|in|of|from)\\b)")
  if (is.na(hit[1])) return(out)
  noun <- stem_words(tolower(or_if_na(hit[2], hit[3])))
  sides <- list(c("home", "away"), c("for", "against"), c("scored", "conceded"), c("in", "out"), c("received", "given"), c("won", "lost"))
  numeric <- numeric_columns(out$study)
  for (pair in sides) {
    own <- lapply(pair, function(side) Filter(function(col) setequal(name_stems(col$name), c(noun, stem_words(side))), numeric))
    if (!all(lengths(own) == 1)) next
    name <- paste0(tolower(or_if_na(hit[2], hit[3])), "_difference")
    return(with_derived(out, name, "difference", c(own[[1]][[1]]$name, own[[2]][[1]]$name), sub(hit[1], name, out$text, fixed = TRUE)))
  }
  out
}
