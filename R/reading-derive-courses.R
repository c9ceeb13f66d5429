# One measure over several occasions ("power" of power_pre, power_mid and power_post): whose change is larger, and its whole course.

#' The turns about courses, as of `everyday_turns()`
#' @noRd
turns_of_courses <- function() {
  list(turn("\\b(more|less|greater|bigger|larger|smaller|faster|slower)\\b", whose_change),
       turn("time ?points|occasions|measurements|assessments|\\btests\\b|repeated|within[- ]subjects?|\\btime\\b", whole_course),
       turn("between|from", two_of_occasions))
}

#' Words for a change, as a verb and as a noun
#' @noRd
moving_words <- function(noun = FALSE) {
  if (noun) return("(?:progress|gains?|improvements?|changes?|increases?|rises?|growth|drops?|falls?|decreases?|reductions?|declines?|losses|loss)")
  paste0("(?:improve[ds]?|gain(?:ed|s)?|progress(?:ed|es)?|change[ds]?|increase[ds]?|r[io]se[sn]?|drop(?:ped|s)?|f[ae]ll(?:en|s)?|decrease[ds]?|",
         "decline[ds]?|lose[s]?|lost|grow[ns]?|grew|reduce[ds]?)")
}

#' "did girls make more progress than boys in maths", "do pupils on free meals gain less in maths": the change, by the groups
#' @noRd
whose_change <- function(out) {
  pairs <- sets_over_time(out$study, 2)
  if (!length(pairs)) return(out)
  more <- "(?:an? |any |much )?(?:more|less|greater|bigger|larger|smaller|faster|slower)"
  lead <- "(?i)^ *(?:did|do|does|has|have) (?:the )?(.+?) "
  verb <- sprintf("(?:%s %s|(?:make|made|show|showed|have|had|get|got|see|saw|achieve[d]?) %s %s)", moving_words(), more, more, moving_words(TRUE))
  what <- paste0("(?:in|on|of) (?:the |their )?(.+?)")
  hit <- match_groups(out$text, sprintf("%s%s %s(?: than (?:the )?(.+?))?[?.! ]*$", lead, verb, what))
  if (is.na(hit[1])) {
    hit <- match_groups(out$text, sprintf("%s%s than (?:the )?(.+?) %s[?.! ]*$", lead, verb, what))
    hit <- hit[c(1, 2, 4, 3)]
  }
  if (is.na(hit[1])) return(out)
  set <- whole_set(hit[3], pairs)
  if (is.null(set)) return(out)
  vocabulary <- study_vocabulary(out$study)
  who <- people_side(vocabulary, hit[2])
  if (is.null(who) || !is.na(hit[4]) && !identical(people_side(vocabulary, hit[4])$column, who$column)) return(out)
  with_course_change(out, set, if (is.na(hit[4])) sprintf("does %%s differ by %s", who$column) else
    sprintf("does %%s differ between %s and %s", hit[2], hit[4]))
}

#' The one measure that a text names and nothing else
#' @noRd
whole_set <- function(text, sets) {
  said <- sets_said(text, sets)
  if (length(said) == 1 && !nzchar(trimws(sub(paste0("(?i)^", set_words(said[[1]]), measure_nouns()), "", text, perl = TRUE)))) said[[1]]
}

#' The column that divides the rows into those a text speaks of and others ("pupils on free meals", "girls")
#' @section Shape: list(column), or NULL.
#' @noRd
people_side <- function(vocabulary, text) {
  state <- parse_question(text, vocabulary)
  if (any(state$type == "unknown")) return(NULL)
  groups <- Filter(function(g) !isTRUE(g$numeric), state$groups)
  columns <- vapply(groups, `[[`, 1L, "column")
  # ("on free meals", of a column of yes and no)
  if (!length(columns)) columns <- Filter(function(at) vocabulary$columns$kind[at] == "yes_no", unique(vapply(find_mentions(state), `[[`, 1L, "column")))  # nolint: line_length_linter.
  if (length(columns) == 1) list(column = vocabulary$columns$name[columns])
}

#' The change of a measure from its first occasion to its last, and the question asked of it
#' @param form The question, with "%s" for the name of the change.
#' @noRd
with_course_change <- function(out, set, form) {
  ends <- set$columns[c(1, length(set$columns))]
  with_derived(out, change_name(set), "difference", rev(ends), sprintf(form, change_name(set)))
}

#' "compare power at the three time points", "repeated measures anova for power", "is there a group by time interaction for power"
#' @noRd
whole_course <- function(out) {
  sets <- sets_over_time(out$study, 2)
  if (!length(sets)) return(out)
  count <- "(?:(?:the|all|all the|these|each of the) )?(?:[2-9]|two|three|four|five|six|seven)? ?"
  times <- sprintf("(?:at|over|across|between|on|for|in) %s(?:time ?points|occasions|measurements|assessments|tests|times|visits|waves|sessions)",
      count)
  rest <- "(?: (?:by|between|in|for|across|among) (?:the )?(.+?))?[?.! ]*$"
  course <- match_groups(out$text, sprintf("(?i)^ *(?:compare|describe|summari[sz]e|plot|show|test) (?:the |mean |average )*(.+?) %s%s", times, rest))
  anova <- match_groups(out$text, sprintf("(?i)^ *(?:(?:run|do|show|give|perform) )?(?:an? |the |one-?way )*(?:repeated[- ]measures?|within[- ]subjects?) (?:anova|analysis of variance|analysis|test)? ?(?:of|for|on) (?:the )?(.+?)%s", rest))  # nolint: line_length_linter.
  crossed <- match_groups(out$text, "(?i)^ *(?:is there |test |was there |test for |check )?(?:an? |the |any )?(.+?)(?: by | x |[- ]by[- ]|\u00d7| \u00d7 )time interaction (?:for|in|on|of) (?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  depends <- match_groups(out$text, "(?i)^ *(?:do|does|did) (?:the )?(?:course|change|development|trajectory)s? (?:of|in) (?:the )?(.+?) (?:over time )?(?:differ|depend|vary) (?:by|between|across|on|among) (?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  hit <- if (!is.na(course[1])) course else if (!is.na(anova[1])) anova else if (!is.na(crossed[1])) crossed[c(1, 3, 2)] else depends
  set <- if (!is.na(hit[1])) whole_set(hit[2], sets)
  # (two occasions and no groups are a pair, which is read where it stands)
  if (is.null(set) || !is.na(depends[1]) && length(set$columns) == 2) return(out)
  groups <- if (!is.na(hit[3])) column_of_words(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)), strsplit(hit[3], " ")[[1]])
  if (!is.na(hit[3]) && is.null(groups)) return(out)
  reworded(out, paste0("compare ", some_of(set$columns, 12), if (!is.null(groups)) paste(" by", groups$name)))
}

#' "reliability of power between pre and mid", "power from mid to post": two occasions of one measure by their own words
#' @noRd
two_of_occasions <- function(out) {
  for (set in sets_said(out$text, sets_over_time(out$study, 2))) {
    times <- tolower(set$times)
    if (!all(grepl("^[a-z]{3,}[0-9]*$", times)) || any(vapply(set$columns, grepl, NA, x = out$text, fixed = TRUE))) next
    one <- sprintf("(%s)", paste(as_literal(times), collapse = "|"))
    form <- sprintf("(?i)\\b(?:the )?%s%s (?:between|from) (?:the )?%s (?:and|to) (?:the )?%s\\b", set_words(set), measure_nouns(), one, one)
    hit <- match_groups(out$text, form)
    # (a change from one to the other is read where it stands)
    if (is.na(hit[1]) || says_change(sub(hit[1], " ", out$text, fixed = TRUE)) || grepl(moving_words(TRUE), out$text, ignore.case = TRUE, perl = TRUE)) next  # nolint: line_length_linter.
    named <- set$columns[match(tolower(hit[2:3]), times)]
    return(reworded(out, sub(hit[1], paste(named, collapse = " and "), out$text, fixed = TRUE)))
  }
  out
}

#' "predict maths for a pupil with 60 in reading, 95 % attendance, tutoring": each number behind its column, and a level joined to them
#' @noRd
numbers_before_names <- function(out) {
  if (!grepl("(?i)^ *(?:predict|what would|what will|expected?|estimate|forecast)\\b.*\\b(?:with|having|at|of|for|given)\\b.*[0-9]", out$text,
      perl = TRUE)) return(out)
  numeric <- numeric_columns(out$study)
  phrases <- named_phrases(out$study, numeric)
  text <- out$text
  form <- "(?i)(?<=with |having |and |, |for |given |at )(?:an? )?([0-9]+(?:\\.[0-9]+)?) ?(%|per ?cent|points?)? (?:(?:in|on|for|of) )?(?:the )?((?:[\\p{L}_0-9]+ ?){1,4})"  # nolint: line_length_linter.
  for (i in 1:6) {
    hit <- match_groups(text, form)
    if (is.na(hit[1])) break
    found <- column_in_text(numeric, hit[4], phrases)
    if (is.null(found) || !startsWith(tolower(hit[4]), tolower(found$said))) break
    text <- sub(up_to_words(hit[1], hit[4], found$said), sprintf("%s %s", found$name, hit[2]), text, fixed = TRUE)
  }
  if (identical(text, out$text)) return(out)
  # (", tutoring" at the end is one more of what is stated)
  last <- match_groups(text, "(?i), ?(?:and )?([\\p{L}_ -]+?)[?.! ]*$")
  if (!is.na(last[1]) && !is.null(level_in_text(out$study, last[2], first = TRUE))) text <- sub(last[1], paste(" and", last[2]), text, fixed = TRUE)
  reworded(out, text)
}
