# One measure on several named occasions ("maths" of maths_autumn and maths_summer): questions that name the measure once
# and the occasions apart from it, that set two changes against each other, or count who went up or down.

#' The question with occasions written as the columns that they mean
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
occasions_of_sets <- function(out) {
  sets <- sets_over_time(out$study, 2)
  said <- sets_said(out$text, sets)
  if (!length(said)) return(if (length(sets) == 1 && length(sets[[1]]$columns) == 2) who_changed(out, sets[[1]], alone = TRUE) else out)
  pairs <- Filter(function(set) length(set$columns) == 2, said)
  before <- out$text
  if (length(pairs) == 2) out <- two_changes(out, pairs)
  if (length(pairs)) out <- fell_in_each(out, pairs)
  if (identical(out$text, before) && length(pairs) == 1) out <- who_changed(out, pairs[[1]])
  if (identical(out$text, before) && length(said) == 1) {
    out$text <- occasions_as_columns(out$study, out$text, said[[1]])
    # ("scored below 40 in maths in summer": the bound stands beside the column's own name)
    if (!identical(out$text, before)) out$text <- wish_bound_in(out$text, study_vocabulary(out$study))$text %||% out$text
  }
  out
}

#' Measures with a column for each of at least so many occasions
#' @section Shape: as of [study_sets()].
#' @noRd
sets_over_time <- function(study, least) Filter(function(set) length(set$columns) >= least, study_sets(study, "repeated_measures"))

#' The sets whose whole name a text says
#' @noRd
sets_said <- function(text, sets) {
  if (!length(sets)) return(sets)
  words <- stringi::stri_extract_all_words(tolower(text))[[1]]
  stems <- stem_words(words)
  # (a name with a number, "walk6", is one word of the text)
  sets[vapply(sets, function(set) { own <- telling_stems(set$name); length(own) > 0 && (all(own %in% stems) || set$name %in% words) }, NA)]
}

#' A pattern for the words of a set's name, as a question writes them
#' @noRd
set_words <- function(set) {
  words <- strsplit(name_words(set$name), " ")[[1]]
  paste(as_literal(words[nzchar(words)]), collapse = "[_. ]+")
}

#' What may follow the name of a measure and tells nothing more
#' @noRd
measure_nouns <- function() "(?: (?:scores?|marks?|results?|values?|levels?|ratings?))?"

#' The change of a measure from its first occasion to its second, as a column
#' @section Shape: As of [with_derived()].
#' @noRd
with_change <- function(out, set, text = out$text) with_derived(out, change_name(set), "difference", rev(set$columns), text)

change_name <- function(set) paste0(set$name, "_change")

#' "from autumn to summer", "in summer than in autumn": the occasions of the one measure that is named
#' @noRd
occasions_as_columns <- function(study, text, set) {
  times <- tolower(set$times)
  # (before and after, numbered occasions and weeks are read where they stand)
  plain <- grepl("^[a-z]{3,}$", times) & !times %in% c("before", "after", "pre", "post", "baseline", "final", "first", "last")
  if (!all(plain) || any(times %in% vapply(all_columns(study), function(col) tolower(col$name), ""))) return(text)
  held <- unlist(lapply(all_columns(study), function(col) tolower(col$levels)))
  if (any(times %in% held)) return(text)
  name <- set_words(set)
  for (i in which(vapply(times, function(t) grepl(paste0("\\b", t, "\\b"), text, ignore.case = TRUE), NA))) {
    beside <- sprintf("(?i)\\b(?:%1$s[_. ]+(?:in |in the |of )?(?:the )?%2$s|(?:the )?%2$s[_. ]+%1$s)\\b", name, times[i])
    apart <- sprintf("(?i)(?<![_.\\p{L}])(?:in |at |during )?(?:the )?%s(?![_.\\p{L}])", times[i])
    text <- if (grepl(beside, text, perl = TRUE)) gsub(beside, set$columns[i], text, perl = TRUE) else sub(apart, set$columns[i], text, perl = TRUE)
  }
  # (a comparison "between" something names groups)
  ends <- paste(set$columns, collapse = "|")
  if (!says_change(text)) text <- sub(sprintf("(?i)\\bbetween (?=(%s) (and|to) (%s)\\b)", ends, ends), "in ", text, perl = TRUE)
  text
}

#' "did reading improve more than maths": the changes of two measures, set against each other
#' @noRd
two_changes <- function(out, said) {
  verb <- "(improve[ds]?|chang(?:e[ds]?|ing)|r[io]se[sn]?|f[ae]ll(?:s|en)?|drop(?:s|ped)?|decline[ds]?|increase[ds]?|decrease[ds]?|grow(?:s|n)?|grew|progress(?:ed|es)?|go(?:es|ne)? (?:up|down)|went (?:up|down))"  # nolint: line_length_linter.
  words <- vapply(said, set_words, "")
  either <- sprintf("(?:the )?(%s)", paste(words, collapse = "|"))
  forms <- c(sprintf("(?i)^ *(?:did|do|does|has|have) %1$s%3$s %2$s (?:any )?(?:more|less|faster|slower|further) than %1$s%3$s[?.! ]*$", either,
      verb, measure_nouns()),
    sprintf("(?i)^ *(?:is|was|were|are) the (improvement|change|gain|rise|increase|drop|decrease|loss) in %1$s%2$s (?:larger|greater|bigger|smaller|more|less|different) (?:than|from) (?:that |the \\w+ )?(?:in |of )?%1$s%2$s[?.! ]*$",  # nolint: line_length_linter.
            either, measure_nouns()))
  if (!any(vapply(forms, grepl, NA, x = out$text, perl = TRUE))) return(out)
  place <- vapply(words, function(w) regexpr(paste0("(?i)\\b", w), out$text, perl = TRUE)[1], 1L)
  said <- said[order(place)]
  names <- vapply(said, change_name, "")
  for (set in said) out <- with_change(out, set)
  if (!all(vapply(names, has_column, NA, study = out$study))) return(out)
  out$text <- sprintf("paired t test of %s against %s", names[1], names[2])
  out
}

#' "how many pupils went down in maths", "what share improved in reading": those whose change is below or above nothing
#'
#' @param alone Is this the only measure with two occasions? Then it need not be named ("how many improved").
#' @noRd
who_changed <- function(out, set, alone = FALSE) {
  if (!grepl("\\b(how many|how often|number|share|proportion|percentage|percent|fraction|who|which|list|show)\\b", out$text,
      ignore.case = TRUE)) return(out)
  verbs <- change_verbs()
  verbs$better <- paste0(verbs$better, "|did better"); verbs$worse <- paste0(verbs$worse, "|did worse|lost ground")
  verb <- sprintf("(?:have |has |had )?(%s)", paste(unlist(verbs[c("up", "down", "better", "worse")]), collapse = "|"))
  measure <- paste0("(?:the |their )?", set_words(set), measure_nouns())
  forms <- if (alone) sprintf("(?i)\\b%s(?=[?.! ]*$| (?:by|in|for) (?:each |every |the )?[\\p{L}_]+[?.! ]*$)", verb)
    else c(sprintf("(?i)\\b%s (?:in|on) %s\\b", verb, measure), sprintf("(?i)\\b(?:whose|with|where) %s %s\\b", measure, verb),
           sprintf("(?i)\\b%s %s\\b", verb, measure))
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1]) || grepl(sprintf("\\Q%s\\E (?:the )?(more|less|by [0-9]|than|from|between|at least|most|least)\\b", hit[1]), out$text,
        ignore.case = TRUE,
                               perl = TRUE)) next
    name <- change_name(set)
    kind <- names(verbs)[vapply(verbs, function(v) grepl(sprintf("^(%s)$", v), hit[2], ignore.case = TRUE), NA)][1]
    # (who improved in pain has less of it)
    rises <- kind == "up" || kind == if (less_is_better(set$name)) "worse" else "better"
    out <- with_change(out, set)
    if (!has_column(out$study, name)) return(out)
    side <- if (rises) "above" else "below"
    out$text <- sub(hit[1], sprintf("with %s %s 0", name, side), out$text, fixed = TRUE)
    out$told <- c(out$told, sprintf("Took %s to mean that %s is %s %s.", quoted(hit[1]), set$columns[2], side, set$columns[1]))
    return(out)
  }
  out
}

#' "did mites go down in every arm": the mean change in each of the groups
#' @noRd
fell_in_each <- function(out, pairs) {
  if (!grepl("\\b(every|each|all|both)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  verb <- "(?:go(?:ne|es)? (?:up|down)|fall(?:en|s)?|drop(?:ped|s)?|ris(?:e|en|es)|improved?|increased?|decreased?|declined?|changed?)"
  form <- sprintf("(?i)^ *(?:did|has|have|do|does) (?:the )?(.+?) %s (?:in|for|within) (?:every|each|all of the|all the|all|both) (?:(?:[0-9]|two|three|four|five|six) )?(.+?)[?.! ]*$", verb)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[2], pairs)
  if (length(said) != 1 || is.null(column_of_words(all_columns(out$study), strsplit(sub("s$", "", hit[3]), " ")[[1]]))) return(out)
  out$told <- c(out$told, "The mean change stands for each group; its interval shows which way it went.")
  with_change(out, said[[1]], sprintf("mean of %s by %s", change_name(said[[1]]), hit[3]))
}

#' The turns about occasions, as of `everyday_turns()`
#' @noRd
turns_of_occasions <- function() {
  list(turn("before|after", levels_before_after), turn("\\bby (at least|more than|over|less than|fewer than|at most)\\b", changed_by), turn("\\b(time|occasions?|waves?|visits?|sessions?)\\b", course_over_time),  # nolint: line_length_linter.
       turn("\\b(pre|post|before|after|baseline)\\b", occasions_alone), turn("\\bthan\\b|the (most|least)", which_changes_most), turn("before|baseline|start|initial|after|end|finally", first_or_last), turn("\\bat \\p{L}", bound_at_occasion),  # nolint: line_length_linter.
       turn("baseline|\\bstart\\b|\\boutset\\b", alike_at_baseline), turn("cluster", clustering_within),
       turn("\\bmade the (most|least|greatest|biggest|largest|smallest)\\b", most_progress),
       turn("^ *(did|does|do|has|have|can) ", treatment_changes), turn("^ *(plot|show|draw|chart|graph|display) ", course_drawn),
       turn("drop[- ]?outs?\\b|attrition|loss to follow|lost to follow", lost_by_the_end), turn("\\blos(es?|t|ing)\\b", loses_most),
       turn("\\b(week|month|day|year|visit|wave|time|hour)s?\\b|\\bbaseline\\b|follow[- ]?up", occasion_in_words))
}

#' The unit in which the names of a set count its occasions ("week" of odi_w6), "" where they are only numbered or named
#' @noRd
set_unit <- function(set) {
  parts <- regmatches(tolower(set$columns), regexec("(week|wk|w|month|mo|m|day|d|year|yr|y|hour|hr|h)_?[0-9]{1,4}$|[0-9]_?(weeks?|wks?|w|months?|mos?|m|days?|d|years?|yrs?|y|hours?|hrs?|h)$",  # nolint: line_length_linter.
    tolower(set$columns)))
  found <- unique(substr(vapply(parts, function(p) if (length(p)) paste0(p[2], p[3]) else "", ""), 1, 1))
  found <- setdiff(found, "")
  if (length(found) == 1) c(w = "week", m = "month", d = "day", y = "year", h = "hour")[[found]] else ""
}

#' The occasion of a set that words mean: its place, or NA
#' @param said "week 12", "12 weeks", "baseline", "follow-up", "the end".
#' @noRd
occasion_meant <- function(set, said) {
  said <- tolower(trimws(said))
  times <- tolower(set$times)
  numbers <- suppressWarnings(as.numeric(sub("[a-z]+$", "", times)))
  if (grepl("^(baseline|start|entry|enrolment|enrollment|admission)$", said)) {
    first <- which(times %in% first_occasions())
    return(if (length(first) == 1) first else if (isTRUE(numbers[1] == 0)) 1L else NA_integer_)
  }
  if (grepl("^follow[- ]?up$", said)) return(match(TRUE, times %in% c("followup", "follow_up", "fu")))
  n <- suppressWarnings(as.numeric(gsub("[^0-9.]", "", said)))
  unit <- regmatches(said, regexpr("week|month|day|year|hour", said))
  own <- set_unit(set)
  if (!is.finite(n) || length(unit) && nzchar(own) && unit != own) return(NA_integer_)
  # "at 12 weeks" where the names only number their visits says nothing of them
  if (length(unit) && !nzchar(own)) return(NA_integer_)
  at <- which(numbers == n)
  if (length(at) == 1) at else NA_integer_
}

#' "odi at week 6", "compare the arms at 12 weeks adjusting for baseline": occasions of one measure as its columns
#'
#' The measure is the one that is named, or else the only one that was measured repeatedly.
#' @noRd
occasion_in_words <- function(out) {
  sets <- study_sets(out$study, "repeated_measures")
  if (!length(sets) || any(c("week", "month", "day", "visit", "wave", "time") %in% tolower(vapply(all_columns(out$study), `[[`, "", "name")))) return(out)  # nolint: line_length_linter.
  said <- sets_said(out$text, sets)
  # a single column of that measure, or a change of it, is read where it stands
  if (length(said) > 1 || !length(said) && length(sets) > 1) return(out)
  if (any(vapply(sets, function(set) any(vapply(set$columns, grepl, NA, x = out$text, fixed = TRUE)), NA))) return(out)
  if (says_change(out$text) && grepl("\\b(from|since|between (the )?(baseline|before|pre|start|first|week|visit|month|day|year|wave|[0-9]))\\b", out$text, ignore.case = TRUE)) return(out)  # nolint: line_length_linter.
  named <- length(said) == 1
  set <- if (named) said[[1]] else sets[[1]]
  when <- "((?:week|month|day|year|hour|visit|wave) ?[0-9]{1,4}|[0-9]{1,4}[- ](?:weeks?|months?|days?|years?|hours?)|baseline|follow[- ]?up)"
  text <- adjusted_for_start(out$text, set)
  at <- sprintf("(?i)\\b(?:at|in|on|after) (?:the )?%s\\b", when)
  if (named) {
    beside <- sprintf("(?i)\\b(?:the )?%s%s (?:at|in|on|after) (?:the )?%s\\b", set_words(set), measure_nouns(), when)
    hit <- match_groups(text, beside)
    place <- if (!is.na(hit[1])) occasion_meant(set, last_of(hit)) else NA
    if (!is.na(place)) text <- sub(hit[1], set$columns[place], text, fixed = TRUE)
    return(reworded(out, text))
  }
  hit <- match_groups(text, at)
  place <- if (!is.na(hit[1])) occasion_meant(set, last_of(hit)) else NA
  compares <- grepl("\\b(compare|differences?|differ|versus|vs|effect)\\b", text, ignore.case = TRUE, perl = TRUE)
  if (is.na(place) || !compares) return(out)
  reworded(out, sub(hit[1], paste("in", set$columns[place]), text, fixed = TRUE),
           sprintf("Took %s, the only measure with several occasions.", set$columns[place]))
}

#' "adjusting for baseline", "with baseline as covariate": the first column of the measure
#' @noRd
adjusted_for_start <- function(text, set) {
  place <- occasion_meant(set, "baseline")
  if (is.na(place)) return(text)
  text <- gsub(held_at_baseline(), paste("adjusting for", set$columns[place]), text, perl = TRUE)
  gsub("(?i),? (?:with|using|taking) (?:the )?baseline(?: (?:values?|scores?))? as (?:an? |the )?covariates?\\b", paste(" adjusting for", set$columns[place]), text,  # nolint: line_length_linter.
       perl = TRUE)
}

#' "plot odi over time by arm": all its occasions
#' @noRd
course_drawn <- function(out) {
  form <- "(?i)^ *(?:plot|show|draw|chart|graph|display)(?: me)? (?:the |mean |average )*(.+?) (?:over|across|through) (?:time|the (?:visits|weeks|months|occasions|waves|time ?points))\\b(.*?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[2], study_sets(out$study, "repeated_measures"))
  if (length(said) != 1 || nzchar(trimws(sub(paste0("(?i)", set_words(said[[1]]), measure_nouns()), "", hit[2], perl = TRUE)))) return(out)
  reworded(out, sprintf("compare %s%s", some_of(said[[1]]$columns, 12), hit[3]))
}

#' Is it a yes/no column of who left ("left_company", "churned")?
#' @noRd
says_who_left <- function(col) col$kind == "yes_no" && grepl("(^|[^a-z])left|leav|churn|resign|quit|exited|cancel|lapsed|unsubscri",
    tolower(col$name))

#' "drop-out by arm": who lacks the last measurement
#' @noRd
lost_by_the_end <- function(out) {
  columns <- all_columns(out$study)
  if (any(grepl("drop|attrition|lost|withdr", tolower(vapply(columns, `[[`, "", "name"))))) return(out)
  # (of employees and customers a column says who left)
  gone <- Filter(says_who_left, columns)
  doubtful <- any(vapply(columns, function(col) col$kind == "yes_no" && !says_who_left(col) && grepl("attrit|turnover|active|current",
      tolower(col$name)), NA))
  if (length(gone) == 1 && !doubtful) {
    name <- gone[[1]]$name; yes <- last_of(gone[[1]]$levels)
    text <- gsub("(?i)\\b(?:the )?(?:attrition|drop[- ]?outs?)(?: rates?)?\\b", sprintf("share with %s = %s", name, yes), out$text, perl = TRUE)
    return(reworded(out, text, sprintf("Took attrition as the share of rows in which %s is %s.", name, quoted(yes))))
  }
  sets <- study_sets(out$study, "repeated_measures")
  lost <- "(?:lost(?: to follow[- ]?up)?|drop(?:ped)? out|withdrew)"
  out$text <- sub(sprintf("(?i)^ *how many (?:of the )?(?:[\\p{L}]+ )?(?:were |was |have |had )?%s(?= (?:by|in each|per|for each|across) )", lost),
      "drop-out",
                  out$text, perl = TRUE)
  form <- "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:drop[- ]?outs?|attrition|loss to follow[- ]?up|lost to follow[- ]?up)(?: rates?)? (?:by|in each|per|for each|across) (.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || length(sets) != 1) return(out)
  last <- last_of(sets[[1]]$columns)
  name <- paste0(last, "_missing")
  out$told <- c(out$told, sprintf("Took those without %s to have dropped out.", last))
  with_derived(out, name, "missing", last, sprintf("share with %s = yes by %s", name, hit[2]))
}

#' "which department loses the most people", where a column says who left
#' @noRd
loses_most <- function(out) {
  form <- "(?i)\\b(?:loses?|lost|is losing|are losing) (?:the )?(most|fewest|least) (?:people|staff|employees|members|customers|clients|subscribers|students|users|workers)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  gone <- Filter(says_who_left, all_columns(out$study))
  if (is.na(hit[1]) || length(gone) != 1) return(out)
  side <- if (tolower(hit[2]) == "most") "largest" else "smallest"
  reworded(out, sub(hit[1], sprintf("has the %s number of %s", side, gone[[1]]$name), out$text, fixed = TRUE),
           sprintf("Took those lost as the rows in which %s is %s.", gone[[1]]$name, quoted(last_of(gone[[1]]$levels))))
}

#' "improved by at least 5 points": a change beyond a bound
#' @noRd
changed_by <- function(out) {
  form <- "(?i)\\b(?:who |that |which )?(?:have |had |has )?(improved|gained|increased|rose|progressed|went up|lost|dropped|fell|declined|decreased|went down|worsened) by (at least|more than|over|less than|fewer than|at most) ([0-9.]+)( points?| marks?)?\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !length(change_pairs(out$study))) return(out)
  down <- grepl("^(lo|dr|fe|de|wo|went down)", hit[2], ignore.case = TRUE)
  # (who improved in pain has less of it)
  sets <- study_sets(out$study, "repeated_measures")
  judged <- grepl("^(improved|progressed|worsened)", hit[2], ignore.case = TRUE) && length(sets) == 1 && less_is_better(sets[[1]]$name)
  if (judged) down <- !down
  told <- if (judged) sprintf("Took %s of %s to mean %s values.", quoted(tolower(hit[2])), sets[[1]]$name, if (down) "lower" else "higher")
  # (a measure that is itself named is told its change elsewhere)
  reworded(out, sub(hit[1], sprintf("with a %s %s %s", if (down) "loss of" else "gain of", hit[3], hit[4]), out$text, fixed = TRUE), told)
}

#' "how did reading change over the three time points by group": all occasions of the one measure that is named
#' @noRd
course_over_time <- function(out) {
  times <- "(?:time|(?:the |all )?(?:two|three|four|five|six|[2-9]|several|all|all the)? ?(?:time ?points|occasions|waves|visits|sessions|measurements|assessments|times))"  # nolint: line_length_linter.
  form <- sprintf("(?i)^ *(?:how )?(?:did|do|does|has|have) (?:the |their )?(.+?) (?:changed?|develop(?:ed)?|differ|evolved?|var(?:y|ied)|progress(?:ed)?) (?:over|across|between|with) %s\\b(.*?)[?.! ]*$",  # nolint: line_length_linter.
                  times)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[2], sets_over_time(out$study, 3))
  if (length(said) != 1 || nzchar(trimws(sub(paste0("(?i)", set_words(said[[1]]), measure_nouns()), "", hit[2], perl = TRUE)))) return(out)
  reworded(out, sprintf("compare %s%s", some_of(said[[1]]$columns, 12), hit[3]))
}

#' "correlation between pre and post", "is post higher than pre": of the only measure with such occasions
#' @noRd
occasions_alone <- function(out) {
  sets <- Filter(function(set) any(set$times %in% c("pre", "post", "before", "after", "baseline")), study_sets(out$study, "repeated_measures"))
  if (length(sets) != 1) return(out)
  set <- sets[[1]]
  own <- set$times[set$times %in% c("pre", "post", "before", "after", "baseline")]
  bare <- function(t) sprintf("(?i)(?<![_.\\p{L}-])(?:the )?%s(?:[- ]?(?:test|treatment|intervention))?(?: (?:scores?|values?|results?|marks?|measurements?))?(?![_.\\p{L}-])", t)  # nolint: line_length_linter.
  found <- own[vapply(own, function(t) grepl(bare(t), out$text, perl = TRUE), NA)]
  # ("before and after" of a measure that is named is read where it stands; so is a day)
  named <- length(sets_said(out$text, list(set))) > 0
  related <- grepl("\\b(correlat\\w*|relationship|related|association|associated|predicts?|against|plot|scatter\\w*|agree\\w*)\\b", out$text,
                   ignore.case = TRUE, perl = TRUE)
  if (length(found) < 2 || named || !related) return(out)
  text <- out$text
  for (t in found) text <- gsub(bare(t), set$columns[match(t, set$times)], text, perl = TRUE)
  reworded(out, text)
}

#' "scoring above 100 at post": the bound is on that occasion
#' @noRd
bound_at_occasion <- function(out) {
  bound <- "(above|over|below|under|at least|at most|more than|less than)"
  form <- sprintf("(?i)\\b(?:who |that )?(?:scored|scoring|score|with (?:a )?(?:scores?|values?|marks?)?|had (?:a )?(?:scores?|values?)?|having) ?(?:of )?%s ([0-9.]+) (?:at|in|on) (?:the )?(\\p{L}+)(?:[- ]?test)?\\b", bound)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  sets <- Filter(function(set) tolower(hit[4]) %in% set$times, study_sets(out$study, "repeated_measures"))
  if (length(sets) > 1) sets <- sets_said(out$text, sets)
  if (length(sets) != 1) return(out)
  column <- sets[[1]]$columns[match(tolower(hit[4]), sets[[1]]$times)]
  reworded(out, sub(hit[1], sprintf("with %s %s %s", column, hit[2], hit[3]), out$text, fixed = TRUE))
}

#' "were the groups similar at baseline": the table of what was measured first, by the groups
#' @noRd
alike_at_baseline <- function(out) {
  form <- "(?i)^ *(?:were|are|was|did|do|is) (?:the )?(.+?) (?:groups? |arms? )?(?:similar|comparable|alike|the same|balanced|equal|well matched|matched|differ|different) (?:at|on|in) (?:the )?(?:baseline|start|outset|beginning)\\b.*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  columns <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  found <- column_of_words(columns, strsplit(hit[2], " ")[[1]])
  name <- found$name %||% treatment_column(out$study)
  if (is.null(name)) out else reworded(out, sprintf("baseline table by %s", name))
}

#' The column of the treatment: declared, or the only one that is named so
#' @param wide Do names of what is given ("diet") count as well?
#' @noRd
treatment_column <- function(study, wide = FALSE) {
  if (length(study$design$treatment)) return(study$design$treatment[1])
  own <- Filter(function(col) is_level_kind(col$kind) && any(strsplit(tolower(name_words(col$name)), " ")[[1]] %in%
    c("arm", "treatment", "group", "condition", "intervention", "trt", "allocation", if (wide) c("therapy", "programme", "program", "diet",
        "drug"))), all_columns(study))
  if (length(own) == 1) own[[1]]$name
}

#' "is there clustering by class?": how alike rows of the same group are
#' @noRd
clustering_within <- function(out) {
  form <- "(?i)^ *(?:is|was) there (?:an? |any |some )?(?:clustering|cluster effect|clustering effect)(?: of (.+?))? (?:by|within|in|of|at the level of) (?:the )?([\\p{L}_ ]+?)(?: level)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("intraclass correlation%s within %s", if (is.na(hit[2])) "" else paste(" of", hit[2]), hit[3]))
}

#' "did the intervention improve reading": its group against the others over the occasions, not the change within it
#' @noRd
treatment_changes <- function(out) {
  form <- paste0("(?i)^ *(?:did|does|do|has|have|can) (?:the |an? )?(.+?) (?:clearly |significantly |really )?(?:improved?|increased?|reduced?|raised?|lowere?d?|affect(?:ed)?|change[ds]?|help(?:ed)?|",  # nolint: line_length_linter.
                 "boost(?:ed)?|influenced?|worsen(?:ed)?|decreased?|had an effect on|have an effect on|work(?:ed)? for) (?:the |their |pupils' |patients' )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- whole_level(out$study, hit[2])
  if (is.null(found)) return(out)
  said <- sets_said(hit[3], sets_over_time(out$study, 2))
  if (length(said) != 1 || nzchar(trimws(sub(paste0("(?i)", set_words(said[[1]]), measure_nouns()), "", hit[3], perl = TRUE)))) return(out)
  if (length(said[[1]]$columns) > 2) return(reworded(out, sprintf("compare %s by %s", some_of(said[[1]]$columns, 12), found$column)))
  with_change(out, said[[1]], sprintf("does %s differ by %s", change_name(said[[1]]), found$column))
}

#' "compare gas use before and after", of a column with the levels before and after: they are its groups
#' @noRd
levels_before_after <- function(out) {
  form <- "(?i)\\b(?:from )?(?:before (?:and|versus|vs\\.?|to|or) after|before/after)\\b(?! (?:the |an? )?[\\p{L}_]+ing\\b)"
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  own <- Filter(function(col) all(c("before", "after") %in% tolower(col$levels)) && length(col$levels) == 2, all_columns(out$study))
  if (length(own) != 1 || length(change_pairs(out$study))) return(out)
  # ("gas used before vs after insulation" names the column itself)
  text <- sub(sprintf("%s(?: (?:the )?%s)?", form, as_literal(name_words(own[[1]]$name))), "in each SIDE", out$text, perl = TRUE)
  separately <- grepl("\\b(separately|each)\\b.*SIDE|SIDE.*\\bseparately\\b", text)
  reworded(out, sub(" separately", "", sub("in each SIDE", paste(if (separately) "within each" else "by", own[[1]]$name), text, fixed = TRUE)))
}

#' "is mindfulness better than music for anxiety", "which condition reduced anxiety the most": the changes of groups
#' @noRd
which_changes_most <- function(out) {
  pairs <- Filter(function(set) length(set$columns) == 2, study_sets(out$study, "repeated_measures"))
  if (!length(pairs)) return(out)
  better <- "(?i)^ *(?:is|are|was|were|does|do|did) (.+?) (?:work(?:s|ed)? )?(better|worse|more effective|less effective|more helpful|more useful) than (.+?) (?:for|at|in|on|against) (?:reducing |improving |lowering |raising )?(?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, better)
  if (!is.na(hit[1])) {
    said <- sets_said(hit[5], pairs)
    one <- level_in_text(out$study, hit[2]); other <- level_in_text(out$study, hit[4])
    whole <- length(said) == 1 && !nzchar(trimws(sub(paste0("(?i)", set_words(said[[1]]), measure_nouns()), "", hit[5], perl = TRUE)))
    if (!whole || is.null(one) || is.null(other) || one$column != other$column || one$level == other$level) return(out)
    # ("are boys better than girls at maths": people are better at it, they do not work on it)
    if (tolower(hit[3]) %in% c("better", "worse") && !grepl("\\bwork(s|ed)? ", hit[1]) && !identical(treatment_column(out$study, wide = TRUE),
        one$column)) return(out)
    return(with_change(out, said[[1]], sprintf("does %s differ between %s and %s", change_name(said[[1]]), one$said, other$said)))
  }
  most <- "(?i)^ *(?:which|what) ([\\p{L}_ ]+?) (reduced|lowered|cut|decreased|raised|increased|improved|changed|boosted)(?: the)? (.+?) (?:the )?(most|least)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, most)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[4], pairs)
  by <- column_of_words(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)), strsplit(hit[2], " ")[[1]])
  if (length(said) != 1 || is.null(by)) return(out)
  down <- grepl("^(reduc|lower|cut|decreas)", hit[3], ignore.case = TRUE) || grepl("^improv", hit[3], ignore.case = TRUE) && less_is_better(said[[1]]$name)  # nolint: line_length_linter.
  side <- if (xor(down, tolower(hit[5]) == "least")) "lowest" else "highest"
  with_change(out, said[[1]], sprintf("which %s has the %s mean %s", hit[2], side, change_name(said[[1]])))
}

#' "was anxiety the same in the three groups before", "anxiety at the end by group": the first or the last of two columns
#' @noRd
first_or_last <- function(out) {
  said <- sets_said(out$text, sets_over_time(out$study, 2))
  if (length(said) != 1 || says_who_changed(out$text) || grepl("(?i)\\b(before|pre) (and|to|versus|vs) (after|post)\\b|\\bchang", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  set <- said[[1]]
  if (any(vapply(set$columns, grepl, NA, x = out$text, fixed = TRUE)) || !all(set$times[c(1, length(set$times))] %in% c("pre", "post", "before", "after", "baseline", "final", "followup", "end", "start"))) return(out)  # nolint: line_length_linter.
  first <- "(?i),? *\\b(?:before(?:hand)?(?: (?:the )?(?:treatment|training|intervention|therapy|session|sessions|study|trial|programme|program|experiment|start))?|at (?:the )?(?:baseline|start|outset|beginning)|initially|to begin with)(?=[?.! ]*$| (?:by|in|for|between|of)\\b)"  # nolint: line_length_linter.
  last <- "(?i),? *\\b(?:afterwards|after (?:the )?(?:treatment|training|intervention|therapy|session|sessions|study|trial|programme|program|experiment)|at the end|in the end|finally)(?=[?.! ]*$| (?:by|in|for|between|of)\\b)"  # nolint: line_length_linter.
  place <- c(grepl(first, out$text, perl = TRUE), grepl(last, out$text, perl = TRUE))
  # (where both are spoken of, each is read where it stands)
  other <- if (place[1]) "\\b(after|post|afterwards|end)\\b" else "\\b(before|pre|baseline|start)\\b"
  if (sum(place) != 1 || grepl(other, out$text, ignore.case = TRUE)) return(out)
  bare <- sub(if (place[1]) first else last, "", out$text, perl = TRUE)
  name <- sprintf("(?i)(?<![_.\\p{L}])%s(?![_.\\p{L}])", set_words(set))
  if (!grepl(name, bare, perl = TRUE)) return(out)
  text <- sub(name, set$columns[c(1, length(set$columns))[place]], bare, perl = TRUE)
  reworded(out, sub("(?i)^ *(?:is|are|was|were) (.+?) (?:the same|alike|similar|equal|comparable) (?:in|across|between|for|among) (?:the |all )?(?:[0-9]+ |two |three |four |five )?([\\p{L}_]+?)s?[?.! ]*$",  # nolint: line_length_linter.
                    "does \\1 differ by \\2", text, perl = TRUE))
}

#' "which school made the most progress in reading": the mean of it, highest first
#' @noRd
most_progress <- function(out) {
  form <- "(?i)^ *(which|what) (.+?) made the (most|least|greatest|biggest|largest|smallest) (progress|improvements?|gains?) in (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  side <- if (tolower(hit[4]) %in% c("least", "smallest")) "lowest" else "highest"
  said <- sets_said(hit[6], sets_over_time(out$study, 2))
  if (length(said) != 1) return(out)
  down <- less_is_better(said[[1]]$name)
  name <- moved_name(said[[1]], "progress")
  done <- with_moved(out, said[[1]], name, down)
  if (has_column(done$study, name)) reworded(done, sprintf("%s %s has the %s mean %s", hit[2], hit[3], side, name)) else out
}
