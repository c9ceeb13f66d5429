# Measures that were taken several times, called by other words; measures in pairs of columns; what was not done.

#' The turns about such measures, as of `everyday_turns()`; they stand first, since others look for a set by its name
#' @noRd
turns_of_sets <- function() {
  list(turn("\\bafter\\b", after_what_was_done), turn("", sets_by_synonym), turn("", score_of_items),
       turn("\\bat (week|wk|visit|month|day|year|wave|session|hour)s? [0-9]", measure_at_times),
       turn("\\bbaseline\\b.*\\bchange\\b|\\bchange\\b.*\\bbaseline\\b", change_of_same), turn("\\bmixed\\b", mixed_of_wide), turn("\\bfrom\\b.*\\bto\\b", moved_from_to), turn("\\b(at|in|for) (each|every)\\b|over the|across the", at_each_occasion),  # nolint: line_length_linter.
       turn("\\bwhose\\b.*\\bby\\b", whose_measure_moved), turn("^ *how many .*\\bon average\\b", many_on_average), turn("\\b(number|count) of\\b", rows_by_index), turn("\\b(below|above|under|over|at least|at most|less than|more than) [0-9.]+ at\\b", bound_taken_at),  # nolint: line_length_linter.
       turn("\\b(biggest|largest|greatest|smallest) (drop|fall|gain|loss|rise|increase|decrease|reduction|improvement|change)", biggest_change),
       turn("the same (in|for|across|between)", same_in_groups), turn("\\bun[a-z]{3,}", undone_part), turn("\\bmean\\b", mean_as_verb), turn("^ *(did|has|have|is|are) .*\\b(get|got|gotten|getting|become|became)\\b", get_longer),  # nolint: line_length_linter.
       turn("^ *how often (do|did)\\b", same_answer_often), turn("\\bdropped out\\b|\\bdrop-?outs?\\b|lost to follow", dropped_out_before))
}

#' "did the weight change from before to after treatment", beside a column treatment: when it was measured, and no groups
#' @noRd
after_what_was_done <- function(out) {
  form <- "(?i)\\b(before|pre|prior)( (?:to|and|versus|vs|until) after) (?:the )?(?:treatment|therapy|intervention|training|surgery|operation|program(?:me)?|course|drug|diet)\\b"  # nolint: line_length_linter.
  if (length(study_sets(out$study, "repeated_measures"))) reworded(out, sub(form, "\\1\\2", out$text, perl = TRUE)) else out
}

#' "mean engagement score by department", of items engagement_1 to engagement_3: their mean in each row
#'
#' An item that clearly runs against the others is turned round, which is said.
#' @noRd
score_of_items <- function(out) {
  own <- numbered_items(out$study)
  if (!length(own)) return(out)
  # what is asked of the items themselves is not asked of their mean
  asked <- "(?i)\\b(items?|questions?|statements?|reliab\\w*|alpha|omega|consisten\\w*|factor\\w*|components?|scale analysis|straight|each|every|matrix|clusters?|revers\\w*)\\b"  # nolint: line_length_linter.
  if (grepl(asked, out$text, perl = TRUE)) return(items_of_scale(out, own))
  for (stem in names(own)) {
    form <- sprintf("(?i)\\b%s\\b(?! ?[_.]?[0-9])(?: (?:scores?|scale|index|level))?", stem_in_words(stem))
    if (!grepl(form, out$text, perl = TRUE)) next
    name <- paste0(stem, "_mean")
    turned <- turned_items(out$study, own[[stem]])
    out <- with_derived(out, name, "mean", own[[stem]], sub(form, name, out$text, perl = TRUE), label = paste(gsub("[_.]+", " ", stem), "score"),
                        turned = turned$items, ends = turned$ends)
    if (length(turned$items)) out$told <- c(out$told, sprintf("%s %s against the other items, so %s turned round.", some_of(turned$items, 6),
      plural(length(turned$items), "runs", "run"), plural(length(turned$items), "it is", "they are")))
  }
  out
}

#' The beginning of items' names as a pattern: "engagement", and "anx" also as "anxiety" or "anxious"
#' @noRd
stem_in_words <- function(stem) {
  plain <- gsub("[_.]+", "[_. ]", stem)
  if (nchar(stem) > 5) plain else sprintf("%s(?:[a-z]{2,9})?", plain)
}

#' "reliability of the anxiety scale", "should any item be dropped", "is anx_4 reverse coded": the items by their names
#' @noRd
items_of_scale <- function(out, own) {
  list_of <- function(stem) some_of(own[[stem]], 60)
  dropped <- "(?i)\\b(?:should|could|can|must|would) (?:any|some|an|one of the) (?:items?|questions?|statements?) be (?:dropped|removed|left out|deleted|excluded)|\\bwhich (?:items?|questions?|statements?) (?:should|could|can) (?:be dropped|be removed|be left out|go|i drop|we drop)\\b"  # nolint: line_length_linter.
  turned <- "(?i)\\b(?:reverse|reversed|negatively)[- ]?(?:coded|scored|worded|keyed)?\\b"
  if (grepl(dropped, out$text, perl = TRUE) || grepl(turned, out$text, perl = TRUE)) {
    said <- Filter(function(stem) grepl(sprintf("(?i)\\b%s", stem_in_words(stem)), out$text, perl = TRUE), names(own))
    stem <- if (length(said) == 1) said else if (length(own) == 1) names(own)
    if (!is.null(stem)) return(reworded(out, sprintf("item analysis of %s", list_of(stem))))
  }
  for (stem in names(own)) {
    form <- sprintf("(?i)\\b(?:the )?(?:[0-9]+ |two |three |four |five |six |seven |eight |nine |ten )?%s\\b(?! ?[_.]?[0-9]) (?:items|scale|questions|statements|questionnaire|subscale)\\b", stem_in_words(stem))  # nolint: line_length_linter.
    if (grepl(form, out$text, perl = TRUE)) return(reworded(out, sub(form, list_of(stem), out$text, perl = TRUE)))
  }
  out
}

#' Items that clearly run against the sum of the others
#' @section Shape: list(items (names), ends (lowest and highest answer)).
#' @noRd
turned_items <- function(study, items) {
  x <- vapply(items, function(name) { v <- understood(study, name, find_column(study, name)$table)
    as.numeric(if (is.factor(v)) level_numbers(v) else v) }, numeric(nrow(study$tables[[find_column(study, items[1])$table]]$data)))
  x <- x[stats::complete.cases(x), , drop = FALSE]
  if (nrow(x) < 20 || length(items) < 3) return(list(items = character(), ends = NULL))
  against <- function(sign) vapply(seq_along(items), function(i) suppressWarnings(stats::cor(sign[i] * x[, i], x[, -i, drop = FALSE] %*% sign[-i])),
      1)
  # the worst is turned first, as it spoils the sums of all others
  sign <- rep(1, length(items))
  for (step in seq_along(items)) {
    r <- against(sign)
    worst <- which.min(r)
    if (!length(worst) || is.na(r[worst]) || r[worst] > -0.2 || sign[worst] < 0) break
    sign[worst] <- -1
  }
  turned <- if (sum(sign < 0) * 2 < length(items)) items[sign < 0] else character()
  list(items = turned, ends = if (length(turned)) range(x))
}

#' Numbered columns of one scale that hold numbers, by what they are called before the number
#' @section Shape: named list of column names; empty where a column of that very name is there as well.
#' @noRd
numbered_items <- function(study) {
  sets <- Filter(function(set) all(grepl("[_. ]?[0-9]+$", set$columns)), study_sets(study, "items"))
  stems <- lapply(sets, function(set) unique(tolower(sub("[_. ]?[0-9]+$", "", set$columns))))
  known <- tolower(vapply(all_columns(study), `[[`, "", "name"))
  fits <- vapply(seq_along(sets), function(i) length(stems[[i]]) == 1 && nchar(stems[[i]]) >= 3 && !stems[[i]] %in% known &&
      length(sets[[i]]$columns) > 1 &&
    all(vapply(sets[[i]]$columns, function(n) find_column(study, n)$kind %in% c("number", "count", "ordered"), NA)), NA)
  stats::setNames(lapply(sets[fits], `[[`, "columns"), unlist(stems[fits]))
}

#' "pain at week 8 by arm with pain at week 0 as covariate": each of them by the name of its column
#' @noRd
measure_at_times <- function(out) {
  text <- out$text
  for (set in study_sets(out$study, "repeated_measures")) {
    if (!all(grepl("^[0-9]+$", set$times))) next
    said <- gsub(" ", "[_. ]", as_literal(plain_measure(set$name)))
    # (a single one is read where it stands)
    if (stringi::stri_count_regex(text, quick_form(sprintf("(?i)\\b%s at \\p{L}+ [0-9]+\\b", said))) < 2) next
    for (i in seq_along(set$times)) text <- gsub(sprintf("(?i)\\b%s at (?:week|wk|visit|month|day|year|wave|session|hour)s? %s\\b", said,
        set$times[i]),
                                                 set$columns[i], text, perl = TRUE)
  }
  reworded(out, text)
}

#' "correlation between baseline pain and change": the change of that measure
#' @noRd
change_of_same <- function(out) {
  pairs <- change_pairs(out$study)
  own <- Filter(function(set) grepl(sprintf("(?i)\\b%s\\b", gsub(" ", "[_. ]", as_literal(plain_measure(set$name)))), out$text, perl = TRUE), pairs)
  form <- "(?i)\\b(?:the )?change\\b(?! (?:in|of|from|between|per|score))"
  if (length(own) != 1 || !grepl(form, out$text, perl = TRUE)) return(out)
  name <- paste0(gsub(" ", "_", plain_measure(own[[1]]$name)), "_change")
  measure <- gsub(" ", "[_. ]", as_literal(plain_measure(own[[1]]$name)))
  text <- gsub(sprintf("(?i)\\b(?:the )?(?:baseline|initial) %1$s\\b|\\b%1$s at baseline\\b", measure), own[[1]]$columns[1], sub(form, name,
      out$text, perl = TRUE), perl = TRUE)
  with_derived(out, name, "difference", rev(own[[1]]$columns), text)
}

#' "blood pressure", of columns bp_week0, bp_week4, bp_week8: the name of the measure
#' @noRd
sets_by_synonym <- function(out) {
  sets <- study_sets(out$study, "repeated_measures")
  if (!length(sets)) return(out)
  synonyms <- english$synonyms
  at <- stringi::stri_locate_all_regex(out$text, "[\\p{L}\\p{N}_]+")[[1]]
  if (anyNA(at)) return(out)
  stems <- stem_words(tolower(stringi::stri_sub(out$text, at[, 1], at[, 2])))
  said <- synonyms$phrase %in% runs_of(stems, 4)
  if (!any(said)) return(out)
  called <- named_phrases(out$study)
  borne <- unique(unlist(lapply(all_columns(out$study), function(col) name_stems(col$name))))
  for (set in sets) {
    own <- paste(telling_stems(set$name), collapse = " ")
    others <- setdiff(synonyms$phrase[said & synonyms$group %in% synonyms$group[synonyms$phrase == own]], own)
    # (what another column is called is that column)
    others <- setdiff(others, called$phrase[!called$column %in% set$columns])
    # (nor is a word that another column bears in its name: "turnout" beside votes_2019 and turnout_2019)
    others <- Filter(function(other) !any(strsplit(other, " ")[[1]] %in% borne), others)
    for (other in others[order(-nchar(others))]) {
      k <- stringi::stri_count_fixed(other, " ") + 1L
      starts <- seq_len(max(0, length(stems) - k + 1))
      hit <- starts[vapply(starts, function(i) paste(stems[i:(i + k - 1)], collapse = " ") == other, NA)]
      if (!length(hit)) next
      said <- stringi::stri_sub(out$text, at[hit[1], 1], at[hit[1] + k - 1, 2])
      name <- name_words(set$name)
      return(reworded(out, gsub(said, name, out$text, fixed = TRUE), sprintf("Took %s to mean the measure %s.", quoted(said), quoted(name))))
    }
  }
  out
}

#' All runs of one to so many neighbouring words
#' @noRd
runs_of <- function(words, most) {
  unlist(lapply(seq_len(min(most, length(words))), function(k) {
    starts <- seq_len(length(words) - k + 1)
    do.call(paste, lapply(seq_len(k) - 1L, function(shift) words[starts + shift]))
  }))
}

#' Which column of a set was measured at the time that is said ("week 8", "baseline", "the end")
#' @section Shape: its position, or NA.
#' @noRd
occasion_place <- function(set, said) {
  apart <- function(text) gsub("([[:alpha:]])([0-9])", "\\1 \\2", name_words(text))
  wanted <- setdiff(stems_of(apart(said))[[1]], english$stop)
  if (grepl("^(the )?(end|last|final)\\b", said, ignore.case = TRUE)) return(length(set$columns))
  if (grepl("^(the )?(baseline|start|beginning|first)\\b", said, ignore.case = TRUE) && !any(grepl("baseline|start", set$columns,
    ignore.case = TRUE))) return(1L)
  if (!length(wanted)) return(NA_integer_)
  match(TRUE, vapply(stems_of(apart(set$columns)), function(own) all(wanted %in% own), NA))
}

#' "did bp fall from week 0 to week 8", of a measure with a column for each time: those two
#' @noRd
moved_from_to <- function(out) {
  form <- "(?i)^ *(?:did|does|has|have|do) (?:the |their |mean |average )?(.+?) (?:fall|fallen|rise|risen|drop|dropped|increase|increased|decrease|decreased|change|changed|improve|improved|decline|declined|go up|go down|grow|grown|worsen|differ) from (?:the )?(.+?) to (?:the )?(.+?)((?: (?:in|for|among|by|on|with) .+?)?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[2], sets_over_time(out$study, 3))
  if (length(said) != 1) return(out)
  places <- c(occasion_place(said[[1]], hit[3]), occasion_place(said[[1]], hit[4]))
  if (anyNA(places) || places[1] == places[2] || grepl("\\bby\\b", hit[5])) return(out)
  pair <- said[[1]]$columns[places]
  reworded(out, sprintf("is there a difference between %s and %s within the same rows%s", pair[1], pair[2], or_if_na(hit[5], "")))
}

#' "mean bp at each week by group", "repeated measures anova of bp over the weeks": all columns of the measure
#' @noRd
at_each_occasion <- function(out) {
  when <- "(?:at|in|for) (?:each|every) (?:week|visit|occasion|time point|timepoint|time|month|day|wave|session|measurement)|(?:over|across) the (?:weeks|visits|occasions|time points|months|days|waves|sessions|times|measurements)"  # nolint: line_length_linter.
  form <- sprintf("(?i)\\b((?:mean|average|median|sd|standard deviation|repeated measures anova|friedman test|friedman)(?: of)?) (?:the )?(.+?) (?:%s)\\b", when)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[3], sets_over_time(out$study, 3))
  if (length(said) != 1) return(out)
  columns <- said[[1]]$columns
  listed <- paste(paste(columns[-length(columns)], collapse = ", "), "and", last_of(columns))
  reworded(out, sub(hit[1], sprintf("%s %s", hit[2], listed), out$text, fixed = TRUE))
}

#' The change of a measure from its first occasion to its last, as a column: first minus last where a fall is asked about
#' @section Shape: As of [with_derived()].
#' @noRd
with_moved <- function(out, set, name, falls) {
  ends <- c(set$columns[1], last_of(set$columns))
  with_derived(out, name, "difference", if (falls) ends else rev(ends))
}

moved_name <- function(set, word) gsub("[^[:alnum:]]+", "_", paste(name_words(set$name), word))

#' "percentage whose bp fell by at least 10", of a measure before and after: their change
#' @noRd
whose_measure_moved <- function(out) {
  form <- "(?i)^ *(?:what )?(percentage|share|proportion|percent|fraction|how many|number)(?: of)?(?: (?:the )?[\\p{L}]+)? whose (.+?) (fell|dropped|decreased|declined|rose|increased|improved|grew|went up|went down) by (at least|more than|over|less than|at most|fewer than) ([0-9.]+)( [\\p{L}%]+)?(.*?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  said <- sets_said(hit[3], sets_over_time(out$study, 2))
  if (length(said) != 1) return(out)
  falls <- tolower(hit[4]) %in% c("fell", "dropped", "decreased", "declined", "went down")
  name <- moved_name(said[[1]], if (falls) "fall" else "rise")
  done <- with_moved(out, said[[1]], name, falls)
  if (!has_column(done$study, name)) return(out)
  lead <- if (grepl("^(how many|number)", hit[2], ignore.case = TRUE)) "how many rows have" else "share of rows with"
  reworded(done, sprintf("%s %s %s %s%s", lead, name, hit[5], hit[6], or_if_na(hit[8], "")))
}

#' "how many words do essays that passed have on average": the mean of the column, of them
#' @noRd
many_on_average <- function(out) {
  form <- "(?i)^ *how many (.+?) (?:do|does|did) (?:the |a |an )?(.+?) (?:have|has|get|make|take|contain|receive|use|had|score|need|write|report)(?: on average)?((?: (?:in|at|during|per) .+?)?)(?: on average)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- numeric_in_text(out$study, hit[2])
  if (is.null(found) || tolower(found$said) != tolower(hit[2])) return(out)
  # (what only numbers the rows of a unit is counted, not averaged)
  vocabulary <- study_vocabulary(out$study)
  if (isTRUE(vocabulary$columns$index[match(found$name, vocabulary$columns$name)])) {
    return(reworded(out, sprintf("average number of rows per %s", sub("(?<=[^s])s$", "", hit[3], perl = TRUE)), sprintf("Each row is one %s.",
      found$name)))
  }
  if (!names_something(out$study, hit[3])) return(out)
  reworded(out, sprintf("average %s of %s%s", hit[2], hit[3], or_if_na(hit[4], "")))
}

#' "mixed model of bp over time by group", of one column for each time: repeated measures with groups, which asks the same
#' @noRd
mixed_of_wide <- function(out) {
  form <- "(?i)^ *(?:fit |run |use )?(?:a |an )?(?:linear )?mixed(?: effects?)? (?:model|anova|regression) (?:of|for|on) (?:the )?(.+?)(?: over (?:the )?(?:time|weeks|months|days|visits|occasions|years))?(?: (?:by|between|and) (?:the )?(.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || grepl("random|intercept|slope", out$text, ignore.case = TRUE)) return(out)
  said <- sets_said(hit[2], sets_over_time(out$study, 2))
  if (length(said) != 1) return(out)
  by <- if (!is.na(hit[3]) && !grepl("^(time|weeks?|months?|visits?|occasions?)$", hit[3])) paste(" by", hit[3]) else ""
  reworded(out, sprintf("mixed anova of %s%s", paste(said[[1]]$columns, collapse = ", "), by),
           "The times stand in columns of their own, so they are compared as repeated measures.")
}

#' "share of patients below 140 at week 8", where one measure was taken at weeks: that measure
#' @noRd
bound_taken_at <- function(out) {
  sets <- sets_over_time(out$study, 2)
  hit <- match_groups(out$text, "(?i)(?<![\\p{L}] of )\\b(below|above|under|over|at least|at most|less than|more than) ([0-9.]+)( [\\p{L}]+)? at (?:the )?([\\p{L}]+ ?[0-9]+|[0-9]+ [\\p{L}]+)\\b")  # nolint: line_length_linter.
  if (is.na(hit[1]) || length(sets) != 1 || length(sets_said(out$text, sets))) return(out)
  place <- occasion_place(sets[[1]], hit[5])
  if (is.na(place)) return(out)
  name <- sets[[1]]$columns[place]
  reworded(out, sub(hit[1], sprintf("with %s %s %s", name, hit[2], hit[3]), out$text, fixed = TRUE), sprintf("Took %s, the measure taken then.",
    name))
}

#' "who had the biggest drop", where one measure was taken twice or more: its change from first to last
#' @noRd
biggest_change <- function(out) {
  form <- "(?i)\\b(?:had|has|have|showed|shows|with|made) the (biggest|largest|greatest|smallest) (drop|fall|gain|loss|rise|increase|decrease|reduction|improvement|change)(?: in (?:the )?(.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  sets <- sets_over_time(out$study, 2)
  if (is.na(hit[1])) return(out)
  if (!is.na(hit[4])) sets <- sets_said(hit[4], sets)
  if (length(sets) != 1) return(out)
  falls <- tolower(hit[3]) %in% c("drop", "fall", "loss", "decrease", "reduction")
  name <- moved_name(sets[[1]], tolower(hit[3]))
  done <- with_moved(out, sets[[1]], name, falls)
  if (!has_column(done$study, name)) return(out)
  reworded(done, sub(hit[1], sprintf("has the %s %s", if (tolower(hit[2]) == "smallest") "lowest" else "highest", name), done$text, fixed = TRUE))
}

#' "is baseline bp the same in both groups": do the groups differ in it
#' @noRd
same_in_groups <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (?:the )?(.+?) (?:about |roughly )?the same (?:in|for|across|between) (?:both|all|the|the two|all the|each of the)? ?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || grepl("\\b(effect|relation|relationship|correlation|difference|gap|slope|association|link)\\b", hit[2],
    ignore.case = TRUE)) return(out)
  groups <- Filter(function(col) is_level_kind(col$kind) || col$kind == "id", all_columns(out$study))
  found <- column_in_text(groups, hit[3], named_phrases(out$study, groups))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[3]))) return(out)
  reworded(out, sprintf("does %s differ by %s", hit[2], found$name))
}

#' "unanswered calls", of columns calls and answered: the rest
#' @noRd
undone_part <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bun([\\p{L}]{3,}) ([\\p{L}_]+)\\b")
  if (is.na(hit[1])) return(out)
  numeric <- numeric_columns(out$study)
  named <- function(word) Filter(function(col) stem_words(tolower(word)) %in% name_stems(col$name), numeric)
  part <- named(hit[2]); whole <- named(hit[3])
  if (length(part) != 1 || length(whole) != 1 || part[[1]]$name == whole[[1]]$name || part[[1]]$table != whole[[1]]$table) return(out)
  a <- as.numeric(understood(out$study, whole[[1]]$name, whole[[1]]$table)); b <- as.numeric(understood(out$study, part[[1]]$name, part[[1]]$table))
  if (any(b > a, na.rm = TRUE)) return(out)
  name <- tolower(paste0("un", hit[2], "_", hit[3]))
  with_derived(out, name, "difference", c(whole[[1]]$name, part[[1]]$name), sub(hit[1], name, out$text, fixed = TRUE))
}

#' "do more staff mean shorter waits": a verb
#' @noRd
mean_as_verb <- function(out) {
  form <- "(?i)^ *(?:do|does|did) (?:more|fewer|less|higher|lower|greater|[\\p{L}]{2,}er) (.+?) means? (?:an? )?(?:more|fewer|less|higher|lower|greater|better|worse|[\\p{L}]{2,}er) (.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("is %s related to %s", hit[2], hit[3]))
}

#' "did the wait get longer in 2025": did it rise
#' @noRd
get_longer <- function(out) {
  form <- "(?i)^ *(did|has|have|is|are) (?:the )?(.+?) (?:get|got|gotten|getting|become|became) (?:any |much )?(longer|higher|larger|bigger|more|heavier|warmer|hotter|faster|shorter|lower|smaller|less|fewer|lighter|colder|cooler|slower)\\b(?! (?:than|by)\\b)(.*)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !length(date_columns(out$study))) return(out)
  up <- tolower(hit[4]) %in% c("longer", "higher", "larger", "bigger", "more", "heavier", "warmer", "hotter", "faster")
  reworded(out, sprintf("did %s %s over time%s", hit[3], if (up) "increase" else "decrease", hit[5]))
}

#' "how often do a and b give the same score", of columns rater_a and rater_b: how far they agree
#' @noRd
same_answer_often <- function(out) {
  form <- "(?i)^ *how often (?:do|did) (?:the )?(?:([\\p{L}]+) )?([\\p{L}\\p{N}]+) and (?:([\\p{L}]+) )?([\\p{L}\\p{N}]+) (?:give|gave|assign|choose|report) the same (?:[\\p{L}]+)(.*?)[?.! ]*$|(?i)^ *how often (?:do|did) (?:the )?(?:([\\p{L}]+) )?([\\p{L}\\p{N}]+) and (?:([\\p{L}]+) )?([\\p{L}\\p{N}]+) (?:agree|coincide)(.*?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- stringi::stri_match_first_regex(out$text, quick_form(form))[1, -1]
  if (all(is.na(hit))) return(out)
  ends <- tolower(stats::na.omit(c(hit[c(2, 4)], hit[c(7, 9)])))
  names <- column_names(out$study)
  ending <- function(end) names[tolower(sub("^.*[_. ]", "", names)) == end]
  pair <- c(ending(ends[1]), ending(ends[2]))
  if (length(pair) != 2 || sub("[_. ][^_. ]+$", "", pair[1]) != sub("[_. ][^_. ]+$", "", pair[2])) return(out)
  reworded(out, sprintf("cohen kappa of %s and %s", pair[1], pair[2]), "Took how often they are the same as their agreement.")
}

#' "how many patients dropped out before week 8", of one measure with a column for each time: who has no value then
#' @noRd
dropped_out_before <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:dropped out|were lost to follow[- ]?up|drop(?:ped)?-?outs?) (?:before|by|at) (?:the )?([\\p{L}]+ ?[0-9]+|end|last [\\p{L}]+|final [\\p{L}]+)\\b")  # nolint: line_length_linter.
  sets <- sets_over_time(out$study, 2)
  if (is.na(hit[1]) || length(sets) != 1) return(out)
  columns <- sets[[1]]$columns
  place <- occasion_place(sets[[1]], hit[2])
  if (is.na(place)) return(out)
  name <- paste0(columns[place], "_missing")
  done <- with_derived(out, name, "missing", columns[place])
  if (!has_column(done$study, name)) return(out)
  reworded(done, sub(hit[1], sprintf("with %s = yes", name), done$text, fixed = TRUE), sprintf("Took those without a value of %s as those who dropped out.", columns[place]))  # nolint: line_length_linter.
}

#' "number of visits per month", of a column visit that numbers the rows of each patient: how many rows there are
#' @noRd
rows_by_index <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:the )?(?:number|count) of ([\\p{L}_]+s) (?=(?:per|by|in|each|every|over|for each) )")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  columns <- study_vocabulary(out$study)$columns
  own <- columns$name[columns$index & tolower(columns$name) == sub("s$", "", tolower(hit[2]))]
  if (length(own) != 1) return(out)
  reworded(out, sub(hit[1], "number of rows ", out$text, fixed = TRUE), sprintf("Each row is one %s.", own))
}
