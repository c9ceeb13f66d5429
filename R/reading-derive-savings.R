# What was saved, cut or reduced between two measurements of the same thing, also as a percentage of what it was.

#' "the saving", "which homes cut their energy most": a reduction of the one measure that was taken before and after
#' @noRd
savings_said <- function(out) {
  text <- out$text
  if (!grepl("\\b(gain|gains|gained|improved?|progress(ed)?) (more|less|(the )?most|(the )?least)\\b|\\bsav(e|es|ed|ing|ings)\\b|\\b(cut|cuts|reduced?|lowered|increased?|raised)\\b.*\\b(most|least)\\b", text, ignore.case = TRUE, perl = TRUE)) return(out)  # nolint: line_length_linter.
  sets <- change_pairs(out$study, "reduction")
  if (!length(sets) || grepl("\\bsav", text, ignore.case = TRUE) &&
      any(grepl("sav", vapply(all_columns(out$study), `[[`, "", "name"), ignore.case = TRUE))) return(out)
  stems <- stems_of(text)[[1]]
  named <- Filter(function(set) any(telling_stems(set$name) %in% stems), sets)
  set <- if (length(named) == 1) named[[1]] else if (length(sets) == 1) sets[[1]]
  if (is.null(set)) return(out)
  measure <- plain_measure(set$name)
  # (a measure that is named is compared by the readings of changes)
  if (!length(named)) text <- gained_more(text, measure)
  own <- sprintf("(?:(?:%s|their|its) )?", gsub(" ", "[_. ]", measure))
  # "which homes save the most energy", "who cut their energy least"
  verb <- sprintf("(?i)\\b(?:sav(?:e|es|ed)|cut|cuts|reduced?|lowered) (?:(?:the |their |its )?%s)?(?:by )?(?:the )?(most|least)\\b(?: %s\\b)?",
      own, gsub(" ", "[_. ]", measure))
  hit <- first_match(text, verb)
  if (!is.null(hit)) text <- sub(hit[1], sprintf("have the %s mean %s reduction", if (tolower(hit[2]) == "most") "highest" else "lowest", measure),
      text, fixed = TRUE)
  rise <- first_match(text, sprintf("(?i)\\b(?:increased?|raised) (?:(?:the |their |its )?%s)?(?:by )?(?:the )?(most|least)\\b", own))
  if (!is.null(rise)) text <- sub(rise[1], sprintf("have the %s mean %s increase", if (tolower(rise[2]) == "most") "highest" else "lowest",
      measure), text, fixed = TRUE)
  # "average energy saving", "savings in energy", "the saving"
  text <- gsub(sprintf("(?i)\\b%ssavings?\\b(?: (?:in|of) (?:the )?%s)?", own, gsub(" ", "[_. ]", measure)), paste(measure, "reduction"), text,
      perl = TRUE)
  if (text != out$text) reworded(out, text) else out
}

#' "who gained more, girls or boys?", "do readers gain more", "which classes gained the most"
#' @noRd
gained_more <- function(text, measure) {
  verb <- "(?:gain|gains|gained|improved?|progress(?:ed)?)"
  text <- gsub(sprintf("(?i)^ *(?:who|which(?: group)?|what group) %s (?:more|less),? (.+?) or (.+?)[?. ]*$", verb),
      sprintf("does the %s gain differ between \\1 and \\2", measure),
               text, perl = TRUE)
  text <- gsub(sprintf("(?i)\\b%s (?:the )?most\\b(?! (?:in|on|at)\\b)", verb), sprintf("have the highest mean %s gain", measure), text, perl = TRUE)
  text <- gsub(sprintf("(?i)\\b%s (?:the )?least\\b(?! (?:in|on|at)\\b)", verb), sprintf("have the lowest mean %s gain", measure), text, perl = TRUE)
  gsub(sprintf("(?i)\\b%s (more|less)\\b(?=[?.! ]*$| than (?![0-9]))", verb), sprintf("have \\1 %s gain", measure), text, perl = TRUE)
}

#' A measure's name as it is said, without its unit
#' @noRd
plain_measure <- function(name) {
  words <- tolower(name_words(name))
  paste(setdiff(unlist(strsplit(words, " ")), c(names(unit_tails()), "")), collapse = " ")
}

#' "from week 0 to week 8", of a measure with columns for both: these, and the text without the words
#' @section Shape: list(columns, text), or NULL where no such stretch of time is named.
#' @noRd
span_of_set <- function(study, name, text) {
  set <- Find(function(s) identical(s$name, name), study_sets(study, "repeated_measures"))
  unit <- "(?:week|wk|visit|month|day|year|wave|session|hour)s?"
  hit <- first_match(text, sprintf("(?i),? *\\b(?:from|between) (?:the )?(?:%1$s )?(baseline|[0-9]+) (?:to|and|until) (?:the )?(?:%1$s )?([0-9]+)\\b(?: %1$s)?", unit))  # nolint: line_length_linter.
  if (is.null(hit) || is.null(set)) return(NULL)
  at <- match(c(if (tolower(hit[2]) == "baseline") set$times[1] else hit[2], hit[3]), set$times)
  if (anyNA(at) || at[1] >= at[2]) return(NULL)
  list(columns = set$columns[at], text = sub(hit[1], "", text, fixed = TRUE))
}

#' "percentage reduction in energy", "energy saving in %": the change as a percentage of the first value
#' @noRd
percent_of_change <- function(out) {
  text <- out$text
  if (!grepl("percent|per cent|%|\\brelative\\b|\\bproportional\\b", text, ignore.case = TRUE, perl = TRUE)) return(out)
  noun <- "(change|reduction|decrease|drop|fall|loss|decline|increase|rise|gain|improvement|growth|saving)s?"
  share <- "(?:percent(?:age)?|per cent|%|relative|proportional)"
  sets <- change_pairs(out$study, "reduction")
  if (!length(sets)) return(out)
  for (set in sets) {
    measure <- plain_measure(set$name); said <- gsub(" ", "[_. ]", measure)
    forms <- c(sprintf("(?i)\\b%s %s (?:in|of) (?:the |their )?%s\\b", share, noun, said), sprintf("(?i)\\b%s %s %s\\b", share, said, noun),
               sprintf("(?i)\\b%s %s (?:in|as) (?:a )?(?:percent(?:age)?s?|per cent|%%)(?: terms)?", said, noun),
               if (length(sets) == 1) c(sprintf("(?i)\\b%s (?:in|as) (?:a )?(?:percent(?:age)?s?|per cent|%%)(?: terms)?(?= (?:by|for|in each|per|between|across|of)\\b|[?.! ]*$)", noun),  # nolint: line_length_linter.
                                        sprintf("(?i)\\b(?:average |mean |median )?%s %s(?= (?:by|for|in each|per|between|across)\\b|[?.! ]*$)",
                                            share, noun)))
    for (form in forms) {
      hit <- first_match(text, form)
      if (is.null(hit)) next
      spanned <- span_of_set(out$study, set$name, text)
      if (!is.null(spanned)) { set$columns <- spanned$columns; text <- spanned$text }
      word <- tolower(hit[2])
      falls <- word %in% c("reduction", "decrease", "drop", "fall", "loss", "decline", "saving")
      name <- sprintf("%s_percent_%s", gsub(" ", "_", measure), if (falls) "reduction" else "change")
      said <- sub("(?i)^.*?\\b(average|mean|median)\\b.*$", "\\1 ", hit[1], perl = TRUE)
      lead <- if (identical(said, hit[1])) "" else said
      return(with_derived(out, name, if (falls) "percent_fall" else "percent_change", set$columns, sub(hit[1],
          paste0(if (startsWith(hit[1], "%")) " ", lead, name), text,
          fixed = TRUE)))
    }
  }
  out
}
