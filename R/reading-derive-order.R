# Turns that come before all others, since later ones would take single words of them: how groups are to be listed, divided and set
# against the rest, how long things last, and how many of what is counted there were.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_order <- function() {
  list(turn("first *[?.!]*$|(ascending|descending|increasing|decreasing) order|\\b(ascending|descending) *[?.!]*$|\\bfrom \\w+est to\\b|\\b(sorted|ordered)\\b", listed_in_order),  # nolint: line_length_linter.
       turn("\\b(under|below|over|above)[- ]?[0-9]+s?\\b.*\\b(adults|children|kids|others|rest|everyone else|everybody else)\\b", age_against_rest),
       turn("(under|over) [0-9]+ versus the rest *: *\\p{L}", sides_before_colon),
       turn("^ *how long (do|does|did|is|are|was|were)\\b", how_long_it_lasts),
       turn(",? (which|what)( one)? (is|was|are|were|has|have|gets?|got)\\b", which_of_two),
       turn("^ *how many \\p{L}+ (were|was|are|is|have been|has been)?", how_many_done), turn("^ *how (do|does|did)\\b", how_they_travel),
       turn("number of|how many", answers_each), turn("\\beffects? of\\b.*\\bdifferent\\b", effect_by_group),
       turn("\\b(of|for) each\\b.*\\b(at|in|for|by) each\\b", each_of_each),
       turn("\\b(left|leavers?|leave|leaving|quit|resigned|turnover|attrition|stay|staying)\\b", left_by_date))
}

#' "average wait by practice, longest first", "in descending order": the groups ranked, all of them
#' @noRd
listed_in_order <- function(out) {
  down <- "(?:longest|highest|largest|biggest|greatest|most|best|slowest|heaviest|oldest|latest)"
  up <- "(?:shortest|lowest|smallest|least|fewest|fastest|lightest|youngest|earliest)"
  order <- sprintf("(?:(?:sorted|ordered|listed|ranked) )?(?:with )?(?:the )?(?:(%1$s|%2$s)(?: \\p{L}+)? first|from (%1$s|%2$s) to \\p{L}+|in (descending|decreasing|ascending|increasing) order|(descending|ascending))", down, up)  # nolint: line_length_linter.
  hit <- match_groups(out$text, sprintf("(?i)^ *(?:what (?:is|are|was|were) )?(?:show |list |give )?(?:me )?(?:the )?(.+?) (?:by|for each|in each|for every|per) (?:the )?([\\p{L}_ ]+?),? +%s[?.! ]*$", order))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  said <- stats::na.omit(hit[4:7])[1]
  rising <- grepl(sprintf("(?i)^(?:%s|ascending|increasing)", up), said, perl = TRUE)
  reworded(out, sprintf("rank %s by %s%s", hit[3], hit[2], if (rising) ", lowest first" else ""))
}

#' "over 65s versus the rest: satisfaction": what is compared is said last
#' @noRd
sides_before_colon <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:compare )?([^:]+? versus the rest) *: *([^:]+?)[?.! ]*$")
  if (is.na(hit[1])) out else reworded(out, sprintf("compare %s between %s", hit[3], hit[2]))
}

#' "children under 16 and adults", "over 65s against everyone else": the age on both sides of the bound
#' @noRd
age_against_rest <- function(out) {
  age <- Filter(function(col) "age" %in% name_stems(col$name), numeric_columns(out$study))
  if (length(age) != 1) return(out)
  people <- "(?:(?:the |all )?(?:children|kids|people|patients|those|adults|members|customers|respondents|pupils|students|participants|men|women)(?: aged)? )?"  # nolint: line_length_linter.
  form <- sprintf("(?i)\\b%s(under|below|over|above)[- ]?([0-9]+)s? (?:and|or|vs\\.?|versus|against|with|than|to) (?:the |all )*(?:adults|children|kids|others|other (?:people|patients|ones)|rest|everyone else|everybody else)\\b", people)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  low <- tolower(hit[2]) %in% c("under", "below")
  reworded(out, sub(hit[1], sprintf("%s %s %s versus the rest", age[[1]]$name, if (low) "under" else "over", hit[3]), out$text, fixed = TRUE),
           sprintf("Took the others to be all who are not %s %s.", tolower(hit[2]), hit[3]))
}

#' "how long do appointments last for over 75s", "how long is the average call": the mean of the one duration that is held
#' @noRd
how_long_it_lasts <- function(out) {
  forms <- c("(?i)^ *how long (?:do|does|did) (?:the |an? |our )?([\\p{L}_ ]+?) (?:last|take|run|go on)(?: on average| typically| usually)*( .*?)?[?.! ]*$",  # nolint: line_length_linter.
             "(?i)^ *how long (?:is|are|was|were) (?:the |an? |our )*(?:average|typical|mean|usual) ([\\p{L}_]+)( .*?)?[?.! ]*$",
             "(?i)^ *how long (?:is|are|was|were) (?:the |an? |our )*([\\p{L}_]+) on average( .*?)?[?.! ]*$")
  hit <- compact(lapply(forms, function(form) { found <- match_groups(out$text, form); if (!is.na(found[1])) found }))
  own <- Filter(function(col) col$unit %in% time_units() && any(c("durat", "length", "last") %in% name_stems(col$name)), numeric_columns(out$study))
  if (!length(hit) || length(own) != 1) return(out)
  # (a column that the words themselves name comes first)
  if (!is.null(column_in_text(numeric_columns(out$study), hit[[1]][2]))) return(out)
  rest <- if (is.na(hit[[1]][3])) "" else sub("(?i)^ *(?:on average|typically|usually)", "", hit[[1]][3], perl = TRUE)
  reworded(out, sprintf("average %s%s", own[[1]]$name, rest), sprintf("Took how long it lasts to be %s.", own[[1]]$name))
}

#' "maths vs english, which is better": the two measures set against each other
#' @noRd
which_of_two <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(.+?) (?:vs\\.?|versus|or|and) (.+?) *[,:;-]? (?:which|what)(?: one)? (?:is|was|are|were|has|have|gets?|got) (?:the |on average )?(?:[\\p{L} ]+)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  found <- lapply(hit[2:3], function(said) column_said_whole(out$study, said))
  if (any(vapply(found, is.null, NA)) || found[[1]]$name == found[[2]]$name) return(out)
  reworded(out, sprintf("is %s higher than %s", found[[1]]$name, found[[2]]$name))
}

#' The numeric column that a text names from its first word to its last, small words apart
#' @noRd
column_said_whole <- function(study, said) {
  said <- trimws(gsub("(?i)\\b(the|a|an|compare|average|mean)\\b", " ", said, perl = TRUE))
  found <- column_in_text(numeric_columns(study), said, named_phrases(study))
  if (!is.null(found) && tolower(found$said) == tolower(gsub(" +", " ", said))) found
}

#' "how many units were sold": the total of what is counted in a column, whatever was done with it
#' @noRd
how_many_done <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *how many ([\\p{L}_]+) (?:were|was|are|is|have been|has been|did we|do we|we)? ?(sold|made|produced|shipped|delivered|ordered|bought|used|sell|make|produce|ship)\\b(.*?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count" && col$distinct > 4, all_columns(out$study))
  found <- column_in_text(counts, hit[2], named_phrases(out$study, counts))
  vocabulary <- study_vocabulary(out$study)
  told <- stem_words(tolower(hit[3])) %in% c(vocabulary$terms$stem[vocabulary$terms$source == "name"], vocabulary$values$phrase)
  if (is.null(found) || told) return(out)
  reworded(out, sprintf("total %s%s", found$name, hit[4]), sprintf("Took the number of %s as the total of %s.", hit[2], found$name))
}

#' "how do pupils get to school": the column that tells the means of travel
#' @noRd
how_they_travel <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *how (?:do|does|did) (?:the |our )?[\\p{L}_ ]+? (?:get|come|travel|commute|go)(?: (?:to|into) (?:the |their |our )?[\\p{L}]+)?((?: (?:by|in each|for each|per) .+?)?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  ways <- stem_words(c("travel", "transport", "commute", "commuting", "mode", "journey", "transportation"))
  own <- Filter(function(col) any(name_stems(col$name) %in% ways) && (is_level_kind(col$kind) || identical(col$role, "multi_answer")),
      all_columns(out$study))
  if (length(own) != 1) return(out)
  reworded(out, sprintf("how many rows are there for each %s%s", own[[1]]$name, hit[2]), sprintf("Took the way of getting there to be %s.",
      own[[1]]$name))
}

#' "average number of travel modes per pupil", of cells with several answers: how many each holds
#' @noRd
answers_each <- function(out) {
  several <- Filter(function(col) identical(col$role, "multi_answer"), all_columns(out$study))
  if (!length(several)) return(out)
  hit <- match_groups(out$text, "(?i)^ *(?:what (?:is|was) )?(?:the )?(average|mean|median|total|typical) number of (?:different )?([\\p{L}_ ]+?)(?: (?:per|for each|of each|a) [\\p{L}]+)?((?: (?:by|in each|across) .+?)?)[?.! ]*$")  # nolint: line_length_linter.
  # "how many channels does a customer use"
  each <- match_groups(out$text, "(?i)^ *how many (?:different )?([\\p{L}_ ]+?) (?:do|does|did) (?:an? |each |every |the (?:average|typical) |one )(?:[\\p{L}]+ )(?:use|have|own|take|choose|name|mention|tick|speak|visit|buy|know)(?: on average)?((?: (?:by|in each|across) .+?)?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(each[1])) hit <- c(each[1], "average", each[2:3])
  if (is.na(hit[1])) return(out)
  stems <- stems_of(hit[3])[[1]]
  own <- Filter(function(col) any(telling_stems(col$name) %in% stems), several)
  if (length(own) != 1) return(out)
  name <- paste0(own[[1]]$name, "_answers")
  with_derived(out, name, "answer_count", own[[1]]$name, sprintf("%s %s%s", hit[2], name, hit[4]), mark = own[[1]]$mark)
}

#' "is the effect of the variant different by device": whether the one depends on the other
#' @noRd
effect_by_group <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is|was|are|were) the effects? of (?:the )?((?:(?!\\bon\\b).)+?) different (?:by|across|between|among|for) (?:the |each |different )?([^?]+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("does the effect of %s depend on %s", hit[2], hit[3]))
}

#' "mean yield of each variety at each nitrogen level": by both
#' @noRd
each_of_each <- function(out) {
  form <- "(?i)\\b(?:of|for|in) each ([\\p{L}_]+(?: (?!at|in|for|by)[\\p{L}_]+)?) (?:at|in|for|by|and) each ([\\p{L}_]+(?: [\\p{L}_]+)?)"
  reworded(out, sub(form, "by \\1 and \\2", out$text, perl = TRUE))
}
