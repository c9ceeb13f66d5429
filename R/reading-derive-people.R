# Questions whose subject carries a condition ("do people with children plan to leave more often", "those planning to leave",
# "is anyone working more than 60 hours"): the condition makes the groups, or the rows, and the rest is asked of them.

#' The turns about those whom a question speaks of, as of `everyday_turns()`
#' @noRd
turns_of_people <- function() {
  list(turn("(er|or)s?\\b|\\b(who|that)\\b", doers_now), turn("\\bnon[- ]?[a-z]+(er|or)s?\\b|^ *(do|does|did|are|is|were|was|have|has) (the )?[a-z]+(er|or)s\\b", doers_ever), turn("\\bnever\\b|n['\u2019]t\\b|\\bnot\\b", never_counted), turn("^ *(do|does|did|are|is|were|was|have|has|had|will|can) .*\\b(with(out)?|who ha(ve|d)|having|that ha(ve|d))\\b", with_any_of), turn("[0-9]", subject_beyond),  # nolint: line_length_linter.
       turn("\\b(among|amongst|for|of|in|within) .*[a-z]ing\\b", those_doing), turn("\\bthose\\b|\\bwho\\b", those_dated), turn(" or .*\\bthan\\b", levels_against_rest),  # nolint: line_length_linter.
       turn("^ *(what |the )?(share|proportion|percentage|percent|fraction|average|mean|median)", units_once), turn("\\bany\\b", in_any_period), turn("^ *(is|are|was|were|does|do|did|has|have) (there )?any", anyone_beyond),  # nolint: line_length_linter.
       turn("^ *(the )?number of", number_of_rows), turn("(bigger|larger|smaller|greater) than", size_beyond))
}

#' A pattern for words that stand for the rows: those of the lexicon, and pronouns
#' @noRd
people_words <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) {
      plain <- english$people[grepl("^\\p{L}+$", english$people, perl = TRUE)]
      kept <<- sprintf("(?:those|the ones|everyone|everybody|all|%s)", paste(plain[order(-nchar(plain))], collapse = "|"))
    }
    kept
  }
})

#' Words that set something against the rest, as a part of a pattern
#' @noRd
comparing_words <- function() {
  "(?:more|less|fewer|higher|lower|longer|shorter|better|worse|older|younger|greater|larger|bigger|smaller|faster|slower|quicker|sooner|later|heavier|lighter|taller|stronger|weaker|happier|richer|poorer|cheaper|dearer|worse off|better off|differently|different)"  # nolint: line_length_linter.
}

#' "people who never work remotely": of a count, the rows at zero
#' @noRd
never_counted <- function(out) {
  form <- "(?i)\\b(?:who|that|which) (?:have |has |had |do |does |did |are |is |were |was )?(?:never|not|n['\u2019]t)(?: ever| at all)? ((?:[\\p{L}_]+ ?){1,4})"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) {
    values <- if (is_numeric_kind(col$kind)) understood(out$study, col$name, col$table)
    length(values) && any(values == 0, na.rm = TRUE) && !any(values < 0, na.rm = TRUE)
  }, all_columns(out$study))
  # (a level or a yes/no column of that word tells it itself)
  if (!length(counts) || !is.null(clause_level(out$study, hit[1]))) return(out)
  stems <- setdiff(stem_words(tolower(strsplit(trimws(hit[2]), " +")[[1]])), stem_words(english$stop))
  own <- Filter(function(col) any(vapply(stems, function(s) any(alike_stems(s, name_stems(col$name))), NA)), counts)
  if (length(own) != 1) return(out)
  words <- name_stems(own[[1]]$name)
  said <- strsplit(trimws(hit[2]), " +")[[1]]
  last <- max(which(vapply(stem_words(tolower(said)), function(s) any(alike_stems(s, words)), NA)))
  whole <- up_to_words(hit[1], hit[2], paste(said[seq_len(last)], collapse = " "))
  plain <- sprintf("with %s = 0", own[[1]]$name)
  reworded(out, sub(whole, plain, out$text, fixed = TRUE), sprintf("Took %s to mean that %s is 0.", quoted(whole), own[[1]]$name))
}

#' "do people with children plan to leave more often", "do those without children earn less": any of a count, against none
#' @noRd
with_any_of <- function(out) {
  form <- sprintf("(?i)^( *(?:do|does|did|are|is|were|was|have|has|had|will|can) (?:the |our |more )?%s) (with(?:out)?|who have|who had|having|that have|that had)( any| no| at least one)? ((?:[\\p{L}_]+ ?){1,3})(.*)$",  # nolint: line_length_linter.
                  people_words())
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  rest <- paste0(hit[5], hit[6])
  if (!grepl(sprintf("\\b%s\\b", comparing_words()), rest, ignore.case = TRUE) || grepl("\\bthan\\b", rest, ignore.case = TRUE)) return(out)
  counts <- Filter(function(col) col$kind == "count", all_columns(out$study))
  found <- column_in_text(counts, hit[5], named_phrases(out$study))
  if (is.null(found) || !startsWith(tolower(hit[5]), tolower(found$said))) return(out)
  values <- understood(out$study, found$name, found$col$table)
  if (!any(values == 0, na.rm = TRUE) || any(values < 0, na.rm = TRUE)) return(out)
  none <- tolower(hit[3]) == "without" || grepl("no$", hit[4])
  rest <- trimws(without_mark(substring(rest, nchar(found$said) + 1)))
  side <- if (none) "below 1" else "above 0"
  # (what the others have is all the other side of the bound)
  reworded(out, sprintf("%s with %s %s %s than the rest", hit[2], found$name, side, rest),
           sprintf("Took %s to mean %s %s; the rest are the others.", quoted(trimws(paste0(hit[3], or_if_na(hit[4], ""), " ", found$said))), found$name, side))  # nolint: line_length_linter.
}

#' "do people with a commute above 45 minutes have more overtime": they and the rest
#' @noRd
subject_beyond <- function(out) {
  bound <- "(?:more than|less than|fewer than|over|under|above|below|at least|at most|longer than|shorter than|older than|younger than|up to)"
  form <- sprintf("(?i)^ *(?:do|does|did|are|is|were|was|have|has|had|will|can) (?:(?!\\b(?:there|when|if|where|than)\\b).)*?%s (?:[0-9][0-9.,]*)(?:(?!\\bthan\\b).)*?\\b%s\\b(?:(?!\\bthan\\b|\\bwhen\\b|\\bif\\b|\\beach\\b).)*$",  # nolint: line_length_linter.
                  bound, comparing_words())
  # (the bound of a share is what is shared)
  if (!grepl(form, out$text, perl = TRUE) || asks_for_share(out$text)) return(out)
  before <- sub(sprintf("(?i)\\b%s [0-9].*$", bound), "", out$text, perl = TRUE)
  # "is yield higher for rows over 5" says the comparison first
  if (grepl(sprintf("(?i)\\b%s\\b", comparing_words()), before, perl = TRUE)) return(out)
  reworded(out, paste(without_mark(out$text), "than the rest"))
}

#' "among those planning to leave", "what is the overtime of people leaving": the yes of a column with that name
#' @noRd
those_doing <- function(out) {
  form <- sprintf("(?i)\\b((?:among|amongst|for|of|in|within)(?: only)?) (?:the |all |all the )?%s (?:who (?:are|were) |that are )?(not )?(\\p{L}+ing(?: (?!by\\b|between\\b|in\\b|with\\b|and\\b|is\\b|are\\b)[\\p{L}_]+){0,3})",  # nolint: line_length_linter.
                  people_words())
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  words <- strsplit(trimws(hit[4]), " +")[[1]]
  for (size in rev(seq_along(words))) {
    said <- paste(words[seq_len(size)], collapse = " ")
    found <- yes_of_name(out$study, said)
    if (is.null(found)) next
    whole <- up_to_words(hit[1], hit[4], said)
    is <- if (is.na(hit[3])) "is" else "is not"
    plain <- sprintf("%s rows where %s %s %s", hit[2], found$name, is, found$yes)
    return(reworded(out, sub(whole, plain, out$text, fixed = TRUE),
                    sprintf("Took %s to mean that %s %s %s.", quoted(trimws(whole)), found$name, is, quoted(found$yes))))
  }
  out
}

#' The one column with a level that says yes whose name holds all words of a text
#' @section Shape: list(name, yes, levels), or NULL.
#' @noRd
yes_of_name <- function(study, said) {
  stems <- setdiff(stem_words(tolower(strsplit(said, " ")[[1]])), stem_words(english$stop))
  if (!length(stems)) return(NULL)
  own <- Filter(function(col) length(yes_answer(col)) == 1 && all(vapply(stems, function(s) any(alike_stems(s, name_stems(col$name))), NA)),  # nolint: line_length_linter.
                Filter(function(col) is_level_kind(col$kind), all_columns(study)))
  if (length(own) == 1) list(name = own[[1]]$name, yes = yes_answer(own[[1]]), levels = own[[1]]$levels)
}

#' The level of a column that answers yes, where another answers no
#' @noRd
yes_answer <- function(col) {
  said <- tolower(trimws(col$levels))
  if (any(said %in% c("no", "n", "false"))) col$levels[said %in% c("yes", "y", "true")]
}

#' "is anyone working more than 60 hours", "are there any patients over 90": how many rows meet the condition
#' @noRd
anyone_beyond <- function(out) {
  bound <- "(?:more than|less than|fewer than|over|under|above|below|at least|at most|older than|younger than|longer than|shorter than)"
  form <- sprintf("(?i)^ *(?:is|are|was|were|does|do|did|has|have) (?:there )?(?:anyone|anybody|any (?:of (?:the |them )?)?(?:%s)?)(?: who| that| which)? ?(.*?\\b%s [0-9].*?)[?.! ]*$",  # nolint: line_length_linter.
                  people_words(), bound)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || grepl("\\b(differences?|relation\\w*|correlation|association|effect|trend)\\b", out$text, ignore.case = TRUE)) return(out)
  reworded(out, sprintf("how many rows have %s", sub("(?i)^(?:with|have|has|had|having|are|is|were|was) ", "", hit[2], perl = TRUE)))
}

#' "number of women with diabetes": how many there are, unless a column is called a number of something
#' @noRd
number_of_rows <- function(out) {
  form <- "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:total )?number of (?=(?:\\p{L}+ ?){1,3}?(?:with|who|that|in|from|on|under|over|aged|operated|treated|whose|where|without)\\b)"  # nolint: line_length_linter.
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  noun <- stringi::stri_match_first_regex(sub(form, "", out$text, perl = TRUE), "^[\\p{L}_]+")[1, 1]
  counted <- Filter(function(col) is_numeric_kind(col$kind) && stem_words(tolower(noun)) %in% name_stems(col$name), all_columns(out$study))  # nolint: line_length_linter.
  if (length(counted)) out else reworded(out, sub(form, "how many ", out$text, perl = TRUE))
}

#' "people in teams bigger than 10", of a column team_size: a bound on that size
#' @noRd
size_beyond <- function(out) {
  form <- "(?i)\\b(?:in|from|of|with|at|on) (?:a |the )?([\\p{L}_]+?)s? (?:that (?:are|were|is) )?(bigger|larger|smaller|greater) than ([0-9.,]+)"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  own <- Filter(function(col) is_numeric_kind(col$kind) && all(c(stem_words(tolower(hit[2])), "size") %in% name_stems(col$name)),
                all_columns(out$study))
  if (length(own) != 1) return(out)
  side <- if (tolower(hit[3]) == "smaller") "below" else "above"
  reworded(out, sub(hit[1], sprintf("with %s %s %s", own[[1]]$name, side, hit[4]), out$text, fixed = TRUE))
}

#' "do men plan to leave more often", of answers Yes, No and Not sure: how often it is Yes
#' @noRd
yes_as_event <- function(study, verdict, text) {
  r <- verdict$reading
  if (!identical(verdict$status, "answered") || !identical(r$task, "compare") || length(r$outcome) != 1 || length(r$extra$event)) return(verdict)
  asks <- sprintf("(?i)^ *(?:do|does|did|are|is|were|was|have|has|will|can)\\b.*\\b(?:%s|likely|often|frequently)\\b", comparing_words())
  col <- find_column(study, r$outcome)
  yes <- if (!is.null(col)) yes_answer(col)
  if (length(yes) != 1 || length(col$levels) < 3 || !col$kind %in% c("category", "ordered") || !grepl(asks, text, perl = TRUE)) return(verdict)
  # (another of its answers may be the one that is asked about)
  others <- setdiff(tolower(col$levels), c(tolower(yes), "no"))
  if (any(vapply(others, function(level) grepl(paste0("\\b", as_literal(level), "\\b"), text, ignore.case = TRUE), NA))) return(verdict)
  made <- level_column(list(study = study), list(column = r$outcome, level = yes))
  if (is.null(made)) return(verdict)
  r$outcome <- made$name
  verdict$reading <- finish_reading(r)
  with_derived_study(verdict, made$out$study, study)
}

#' What those are called who do what a column is named after ("smokers" of smokes, smoking), as a pattern
#' @noRd
doer_noun <- function(col) {
  words <- strsplit(tolower(name_words(col$name)), " ")[[1]]
  stems <- stem_words(sub("(ing|ers?|or)$", "", words[nchar(words) > 3]))
  if (!length(stems)) return("(?!)")
  sprintf("(?:%s)(?:e|k|g|t|p|n)?(?:r|er|or)s?", paste(as_literal(stems), collapse = "|"))
}

#' "smokers and non-smokers", "do smokers walk less than non-smokers": one level of a column against all others
#' @section Shape: the rewording, or NULL where the question has no two such sides.
#' @noRd
doers_beside <- function(out, col, noun, level) {
  both <- sprintf("(?i)\\b(?:between )?(?:%s (?:and|or|vs\\.?|versus|with|than|against|compared (?:to|with)) (?:in |among |for )?non[- ]?%s|non[- ]?%s (?:and|or|vs\\.?|versus|with|than|against) (?:in |among |for )?%s)\\b",  # nolint: line_length_linter.
                  noun, noun, noun, noun)
  far <- sprintf("(?i)^ *(?:do|does|did|are|is|were|was|have|has) (?:the )?(%s)\\b(.*?) than (?:in |among |for )?(?:the )?non[- ]?%s\\b(.*)$", noun, noun)  # nolint: line_length_linter.
  # ("do smokers walk less than non-smokers" has the other side far from the first)
  hit <- match_groups(out$text, far)
  beside <- grepl(both, out$text, perl = TRUE)
  # ("do smokers have a higher pulse": than all others)
  if (!beside && is.na(hit[1])) hit <- match_groups(out$text, sprintf("(?i)^ *(?:do|does|did|are|is|were|was|have|has) (?:the )?(%s)( (?!and\\b|or\\b)(?:.+ )?(?:more|less|fewer|better|worse|differ\\p{L}*|%s)\\b(?!.* than ).*?)()[?.! ]*$", noun, comparing_words()))  # nolint: line_length_linter.
  if (!beside && is.na(hit[1])) return(NULL)
  sides <- level_against_rest(out, col$name, level)
  if (is.null(sides)) return(NULL)
  text <- if (beside) sub(both, paste("by", sides$name), out$text, perl = TRUE) else sprintf("compare%s by %s%s", hit[3], sides$name, hit[4])
  reworded(sides$out, text, sprintf("Took those of %s %s as one side and all others (%s) as the other.", col$name, quoted(level),
                                    some_of(setdiff(col$levels, level), 6)))
}

#' "smokers and non-smokers", of levels never, occasional and regular: those who never do, against all others
#' @noRd
doers_ever <- function(out) {
  never <- function(col) col$levels[grepl("^(never|none|not at all)$", tolower(col$levels))]
  now <- function(col) any(grepl("^(current|active|present|now|former|ex|past|previous)", tolower(col$levels)))
  for (col in Filter(function(col) col$kind %in% c("category", "ordered") && length(col$levels) >= 3 && length(never(col)) == 1 && !now(col),
                     all_columns(out$study))) {
    beside <- doers_beside(out, col, doer_noun(col), never(col))
    if (!is.null(beside)) return(beside)
  }
  out
}

#' "smokers and non-smokers", "are not smokers", of levels never, former and current: those who are now, against all others
#' @noRd
doers_now <- function(out) {
  current <- function(col) col$levels[grepl("^(current(ly)?|active|present|now|yes,? (current(ly)?|now)|yes|y)\\b", tolower(col$levels))]
  columns <- Filter(function(col) length(current(col)) == 1 && any(grepl("^(never|no,? never|non|no?$)", tolower(col$levels))),
                    Filter(function(col) col$kind %in% c("category", "ordered"), all_columns(out$study)))
  for (col in columns) {
    noun <- doer_noun(col)
    out <- doers_by_verb(out, col, current(col))
    not <- sprintf("(?i)\\b(?:non[- ]?|not )%s\\b", noun)
    level <- current(col)
    beside <- doers_beside(out, col, noun, level)
    if (!is.null(beside)) return(beside)
    # "ex-smokers", "among smokers", "share of smokers"
    former <- col$levels[grepl("^(former(ly)?|ex|past|previous(ly)?|quit)", tolower(col$levels))]
    past <- sprintf("(?i)\\b(?:ex|former|past|previous)[- ]?%s\\b", noun)
    share <- sprintf("(?i)\\b(share|proportion|percentage|percent|fraction|number|how many)( of)?(?: the| all)? %s\\b", noun)
    if (length(former) == 1 && grepl(past, out$text, perl = TRUE)) return(reworded(out, as_condition(out$text, past, col$name, former)))
    if (grepl(share, out$text, perl = TRUE) && !grepl(not, out$text, perl = TRUE)) {
      by <- grepl("\\b(by|per|in each|across|for each)\\b", out$text, ignore.case = TRUE) || grepl("\\b(number|how many)\\b", out$text, ignore.case = TRUE)  # nolint: line_length_linter.
      plain <- sprintf(if (by) "\\1 with %s = %s" else "what share of rows have %s = %s", col$name, level)
      return(reworded(out, sub(share, plain, sub("(?i)^ *what (?=(share|proportion|percentage|percent|fraction))", "", out$text, perl = TRUE), perl = TRUE),  # nolint: line_length_linter.
                      sprintf("Took those of %s %s.", col$name, quoted(level))))
    }
    # (a level that is named is read where it stands)
    if (grepl(sprintf("\\b%s\\b", as_literal(tolower(level))), tolower(out$text))) return(out)
    among <- sprintf("(?i)\\b(?:among|amongst|in|for|of|only) (?:the )?%s\\b(?! (?:and|or|vs|versus|than))", sub("s\\?$", "s", noun))
    if (grepl(among, out$text, perl = TRUE) && !grepl(not, out$text, perl = TRUE)) {
      hit <- stringi::stri_extract_first_regex(out$text, quick_form(among))
      return(reworded(out, sub(hit, sprintf("among rows with %s = %s", col$name, level), out$text, fixed = TRUE),
                      sprintf("Took %s to mean that %s is %s.", quoted(hit), col$name, quoted(level))))
    }
    said <- stringi::stri_extract_first_regex(out$text, quick_form(not))
    if (!is.na(said)) return(reworded(out, sub(said, sprintf("with %s not %s", col$name, level), sub(sprintf("(?i)\\b(?:who |that )?(?:are|is|were|was) (?=%s)", as_literal(said)), "", out$text, perl = TRUE), fixed = TRUE),  # nolint: line_length_linter.
                                      sprintf("Took %s to mean that %s is not %s.", quoted(said), col$name, quoted(level))))
  }
  out
}

#' "men who smoke", "those who do not smoke", of a column smoker with more levels than yes and no: a condition
#' @noRd
doers_by_verb <- function(out, col, level) {
  words <- strsplit(tolower(name_words(col$name)), " ")[[1]]
  stems <- stem_words(sub("(ing|ers?|or)$", "", words[nchar(words) > 3]))
  if (!length(stems)) return(out)
  verb <- sprintf("(?:%s)(?:e|es|s)?", paste(as_literal(stems), collapse = "|"))
  form <- sprintf("(?i)\\b(?:who|that) (?:currently |still |now )?(do not |don['\u2019]t |does not |doesn['\u2019]t )?(?:currently |still )?%s\\b(?! (?:more|less|at least|at most|over|under|[0-9]))", verb)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  is <- if (is.na(hit[2]) || !nzchar(hit[2])) "=" else "not"
  reworded(out, sub(hit[1], sprintf("with %s %s %s", col$name, is, level), out$text, fixed = TRUE),
           sprintf("Took %s to mean that %s is %s%s.", quoted(hit[1]), col$name, if (is == "=") "" else "not ", quoted(level)))
}

#' "share of ex-smokers", "former smokers": what a pattern finds, as a condition
#' @noRd
as_condition <- function(text, form, name, level) {
  of <- sub("^\\(\\?i\\)", "", form)
  share <- sprintf("(?i)\\b(share|proportion|percentage|percent|fraction|number|how many)(?: of)?(?: the| all)? %s", of)
  if (grepl(share, text, perl = TRUE)) sub(share, sprintf("\\1 with %s = %s", name, level), text, perl = TRUE)
  else sub(form, sprintf("rows with %s = %s", name, level), text, perl = TRUE)
}

#' "of those interviewed how many got an offer", of a date interviewed_on: those who have one
#' @noRd
those_dated <- function(out) {
  form <- sprintf("(?i)\\b(of|among|for|in) (?:the |all )?%s(?: who| that)?(?: (?:were|was|had been|have been|got))? (\\p{L}+(?:ed|en|t))\\b,?", people_words())  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  stem <- stem_words(tolower(hit[3]))
  dated <- Filter(function(col) col$kind %in% c("date", "datetime") && isTRUE(col$missing > 0) && stem %in% name_stems(col$name), all_columns(out$study))  # nolint: line_length_linter.
  if (length(dated) != 1 || !is.null(clause_level(out$study, hit[3]))) return(out)
  name <- paste0(dated[[1]]$name, "_missing")
  plain <- sprintf("%s rows with %s = no", hit[2], name)
  text <- sub(hit[1], plain, out$text, fixed = TRUE)
  # "of those interviewed how many got an offer": the share is of them
  text <- sub(sprintf("(?i)^ *(?:of|among) rows with %s = no,? how many (?:of them )?(?:have |had |were |got |get |received )?(?:an? |the )?(.+?)[?.! ]*$", name),  # nolint: line_length_linter.
              sprintf("what share of rows with %s = no have \\1", name), text, perl = TRUE)
  out$told <- c(out$told, sprintf("Took %s to mean that %s is recorded.", quoted(trimws(hit[1])), dated[[1]]$name))
  with_derived(out, name, "missing", dated[[1]]$name, text)
}

#' "do people with a master or phd score higher than those without": two levels as one side
#' @noRd
levels_against_rest <- function(out) {
  form <- "(?i)\\b(?:with|in|from|on|of|at|who (?:have|had|are|were))? ?(?:an? |the )?([\\p{L}0-9_-]+(?: [\\p{L}0-9_-]+)?) or (?:an? |the )?([\\p{L}0-9_-]+)\\b(.*?) than (?:in |for |with |among )?(?:those|people|the ones|ones)? ?(?:without(?: one| any| either)?|(?:the )?(?:others?|rest)|everyone else|others|all others|with neither)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  one <- level_in_text(out$study, hit[2]); other <- level_in_text(out$study, hit[3])
  if (is.null(one) || is.null(other) || one$column != other$column || one$level == other$level) return(out)
  levels <- c(one$level, other$level)
  name <- paste(one$column, paste(gsub("[^[:alnum:]]+", "_", tolower(levels)), collapse = "_or_"), sep = "_")
  # what stands before the levels is who they are, what stands behind is what they do
  text <- sprintf("compare%s by %s", gsub(sprintf("(?i)\\b(?:have|has|had|do|did|are|is|get|got|(?:a |an )?%s)\\b", comparing_words()), "", hit[4], perl = TRUE), name)  # nolint: line_length_linter.
  out$told <- c(out$told, sprintf("Set %s against all other levels of %s.", some_of(quoted(levels), 2, and = "or"), one$column))
  with_derived(out, name, "equals", one$column, gsub(" +", " ", text), level = levels)
}

#' "share of households with solar", of a column that is the same in all rows of a household: each household once
#' @noRd
units_once <- function(out) {
  form <- sprintf("(?i)^ *(?:what (?:is|was) (?:the )?|what |the )?(?:(share|proportion|percentage|percent|fraction) of(?: the| all| our)? ([\\p{L}_]+)\\b|(?:average|mean|median) .+? (?:of|across|per|among)(?: the| all| our)? ([\\p{L}_]+)\\b)")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  noun <- if (is.na(hit[3])) hit[4] else hit[3]
  if (!grepl("[^s]s$", noun)) return(out)
  unit <- Filter(function(col) col$distinct >= 5, units_named(out$study, noun))
  if (length(unit) != 1 || length(data_tables(out$study)) > 1) return(out)
  data <- out$study$tables[[unit[[1]]$table]]$data
  x <- data[[unit[[1]]$name]]
  vocabulary <- study_vocabulary(out$study)
  state <- parse_question(out$text, vocabulary)
  at <- unique(c(unlist(lapply(find_mentions(state), `[[`, "column")), unlist(lapply(state$groups, `[[`, "column")),
                 match(vapply(state$filters, `[[`, "", "column"), vocabulary$columns$name)))
  named <- setdiff(vocabulary$columns$name[at], unit[[1]]$name)
  if (!length(named) || any(state$type == "unknown") || length(x) > 1e6) return(out)
  # what differs within a household is no property of it
  same <- vapply(named, function(name) !is.null(data[[name]]) && same_within(x, data[[name]]), NA)
  if (!all(same)) return(out)
  name <- paste0(unit[[1]]$name, "_first")
  out$told <- c(out$told, sprintf("Each %s counts once: %s the same in all its rows.", unit[[1]]$name, paste(some_of(named, 3), plural(length(named), "is", "are"))))  # nolint: line_length_linter.
  rest <- without_mark(substring(out$text, nchar(hit[1]) + 1))
  by <- stringi::stri_extract_first_regex(rest, "(?i) (?:by|per|in each|for each|across) .+$")
  said <- named_condition(out$study, if (is.na(by)) rest else sub(by, "", rest, fixed = TRUE))
  if (!is.na(hit[2]) && is.null(said)) return(out)
  tail <- if (is.na(by)) "" else by
  text <- if (is.na(hit[2])) sprintf("%s rows with %s = yes%s%s", sub(sprintf("(?i) %s$", as_literal(noun)), "", hit[1], perl = TRUE), name,
                                     if (is.null(said)) "" else paste(" and", said), tail)
    else sprintf("what %s of rows with %s = yes have %s%s", hit[2], name, said, tail)
  with_derived(out, name, "first_row", unit[[1]]$name, text)
}

#' "with solar", "on the smart tariff": the one level that words name, as a condition; NULL where they name none or several
#' @noRd
named_condition <- function(study, words) {
  words <- sub("(?i)^ *(?:with|having|on|in|at|(?:that |who |which )?(?:have|has|had|are|is|were|was)) (?:an? |the )?", "", words, perl = TRUE)
  if (!nzchar(trimws(words))) return(NULL)
  flag <- clause_level(study, words)
  if (!is.null(flag) && find_column(study, flag$name)$kind == "yes_no") return(sprintf("%s = %s", flag$name, flag$level))
  found <- level_in_text(study, words)
  if (!is.null(found)) sprintf("%s = %s", found$column, found$level)
}

#' "households that used over 500 kwh in any month": which of them did so in some of their rows
#' @noRd
in_any_period <- function(out) {
  form <- "(?i)^ *(?:which |what |list |show )?(?:the )?([\\p{L}_]+?)s? (?:that|who|which)? ?(?:have |has |had )?(.+?) (?:in|on|at|during) any (?:one |single |given )?(?:month|week|day|year|time|quarter|occasion|visit|season)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- units_named(out$study, hit[2])
  if (length(unit) != 1) return(out)
  reworded(out, sprintf("which %s ever %s", unit[[1]]$name, hit[3]),
           sprintf("A %s counts where one of its rows or more meets the condition.", unit[[1]]$name))
}
