# How those speak who run shops, sites and clinics: the uplift of one side, those who come back against those who are new, what
# is taken per visitor who bought, hours of something.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_visits <- function() list(
  turn("\\b(uplift|lift)\\b", uplift_from), turn("\\b(new|first[- ]time|one-off)\\b", new_against_returning), turn("\\bper \\p{L}+ed \\p{L}+",
      per_those_who),
  turn("^ *(how many )?(hours|minutes|seconds|days|weeks) of\\b", amount_in_unit), turn("\\bhalf (an?|of an?)\\b", half_of_one),
  turn("^ *how long\\b", how_long_stay))

#' "what's the uplift in conversion from B?": the sides compared
#' @noRd
uplift_from <- function(out) {
  named <- any(vapply(all_columns(out$study), function(col) any(stem_words(c("uplift", "lift")) %in% name_stems(col$name)), NA))
  hit <- match_groups(out$text, "(?i)^ *(?:what is |what was |what's |how (?:large|big) is |estimate |is there an? )?(?:the )?(?:uplift|lift) in (?:the )?(.+?) (?:from|of|for|with|by|under|in) (?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  if (named || is.na(hit[1])) return(out)
  level <- level_in_text(out$study, hit[3])
  column <- if (is.null(level)) column_in_text(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)), hit[3], named_phrases(out$study))$name else level$column  # nolint: line_length_linter.
  if (is.null(column)) return(out)
  reworded(out, sprintf("does %s differ by %s", hit[2], column), sprintf("The uplift is the difference in %s between the levels of %s.", hit[2],
      column))
}

#' "conversion of returning visitors versus new ones": yes and no of the one column of those who come back
#' @noRd
new_against_returning <- function(out) {
  columns <- all_columns(out$study)
  back <- Filter(function(col) col$kind == "yes_no" && grepl("(^|[_. ])(is_)?(returning|repeat|existing|loyal|recurring)", tolower(col$name)),
      columns)
  spoken <- any(vapply(columns, function(col) any(stem_words(c("new", "first")) %in% name_stems(col$name)), NA))
  levels <- tolower(study_vocabulary(out$study)$values$level)
  if (length(back) != 1 || spoken || any(c("new", "first-time", "first time") %in% levels)) return(out)
  word <- sub("^is[_. ]", "", tolower(back[[1]]$name))
  word <- sub("[_. ].*$", "", word)
  noun <- "(?: (?:ones|[\\p{L}]+s))?"
  form <- sprintf("(?i)\\b(?:of |for |between |among )?(?:%1$s%2$s (?:versus|vs\\.?|and|or|against|than|compared (?:with|to)) (?:the )?(?:new|first[- ]time|one-off)%2$s|(?:new|first[- ]time|one-off)%2$s (?:versus|vs\\.?|and|or|against|than|compared (?:with|to)) (?:the )?%1$s%2$s)", word, noun)  # nolint: line_length_linter.
  # "do returning visitors spend more than new ones"
  apart <- match_groups(out$text, sprintf("(?i)^ *((?:do|does|did|are|is|were|was) )(?:the )?(?:%1$s%2$s (.+?) than (?:the )?(?:new|first[- ]time|one-off)%2$s|(?:new|first[- ]time|one-off)%2$s (.+?) than (?:the )?%1$s%2$s)[?.! ]*$", word, noun))  # nolint: line_length_linter.
  hit <- if (is.na(apart[1])) match_groups(out$text, form) else apart
  if (is.na(hit[1])) return(out)
  told <- sprintf("Took new to mean that %s is %s.", back[[1]]$name, back[[1]]$levels[1] %||% "no")
  if (!is.na(apart[1])) return(reworded(out, sprintf("%srows %s by %s", apart[2], stats::na.omit(apart[3:4])[1], back[[1]]$name), told))
  if (grepl("(?i)^ *(?:do|does|did|are|is|were|was)\\b", out$text, perl = TRUE)) {
    return(reworded(out, trimws(paste(without_mark(sub(hit[1], "rows", out$text, fixed = TRUE)), "by", back[[1]]$name)), told))
  }
  reworded(out, sub(hit[1], paste("by", back[[1]]$name), out$text, fixed = TRUE), told)
}

#' "revenue per converted visitor by country": the mean of those who did
#' @noRd
per_those_who <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:what is |what was |show )?(?:the )?(?:average |mean )?([\\p{L}_ ]+?) (?:per|for each|of each) ([\\p{L}]+ed) ([\\p{L}]+)\\b(.*)$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  measure <- numeric_in_text(out$study, hit[2])
  yes_no <- Filter(function(col) col$kind == "yes_no", all_columns(out$study))
  who <- column_in_text(yes_no, hit[3], named_phrases(out$study)) %||% column_of_one_word(yes_no, hit[3])
  known <- names_rows(study_vocabulary(out$study), hit[4]) || length(keys_called(key_columns(out$study), hit[4]))
  if (is.null(measure) || is.null(who) || !known) return(out)
  col <- find_column(out$study, who$name)
  yes <- last_of(col$levels) %||% "yes"
  reworded(out, sprintf("average %s%s for rows with %s = %s", measure$name, without_mark(hit[5]), who$name, yes),
           sprintf("Took %s to mean rows in which %s is %s.", quoted(paste(hit[3], hit[4])), who$name, yes))
}

#' "hours of sleep on average", of a column in minutes: its mean in hours
#' @noRd
amount_in_unit <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:how many )?(hours|minutes|seconds|days|weeks) of (?:the )?([\\p{L}_ ]+?)(?: (?:do|does|did) (?:people|they|[\\p{L}]+s) (?:get|have|need|take|spend))?(?: (?:on average|per night|per day|a night|a day|each night|each day))( .+)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  measure <- numeric_in_text(out$study, hit[2 + 1])
  if (is.null(measure) || !isTRUE(find_column(out$study, measure$name)$unit %in% units_like(hit[2]))) return(out)
  reworded(out, sprintf("average %s in %s%s", measure$name, tolower(hit[2]), if (is.na(hit[4])) "" else hit[4]))
}

#' "a difference of half a point": 0.5 of it
#' @noRd
half_of_one <- function(out) {
  reworded(out, gsub("(?i)\\bhalf (?:an?|of an?) (point|unit|standard deviation|sd|kg|g|hour|minute|day|week|year|mark|grade|degree|metre|meter|mile|km|cm|mm|percent)\\b", "0.5 \\1",  # nolint: line_length_linter.
                     out$text, perl = TRUE))
}

#' "how long do flats stay on the market": the verb only says that it takes time
#' @noRd
how_long_stay <- function(out) {
  said <- unlist(lapply(all_columns(out$study), function(col) name_stems(col$name)))
  if (stem_words("stay") %in% said || stem_words("remain") %in% said) return(out)
  reworded(out, sub("(?i)^( *how long (?:do|does|did) .+?) (?:stay|remain|sit) (?=on (?!average)|in |at |until )", "\\1 ", out$text, perl = TRUE))
}
