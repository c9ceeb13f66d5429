# Everyday turns of phrase that name columns, rows and periods in a roundabout way, put in the words that the rest of the reading knows.

#' A turn: the function that rewords it, and words without which it cannot stand, as most questions hold none and full patterns are slow
#' @noRd
turn <- function(cue, reword) list(cue = cue, reword = reword)

#' The turns that stand in this file
#' @section Shape: list of [turn()].
#' @noRd
everyday_turns <- function() {
  list(
    turn("\\bleft\\b.*\\b(blank|empty|unanswered|out)\\b", left_blank), turn("missing|incomplete|blank|\\bna\\b", missing_ignored),
    turn("widest|narrowest|tightest|broadest", widest_spread), turn("\\b(up|in|out|over)\\b", particle_noun), turn("\\bfirst time\\b", at_once),
        turn("density", density_as_ratio),
    turn("trend", trend_over_measure), turn("overdispers", spread_of_counts), turn("proportional hazards", hazards_asked),
    turn("number of", number_as_measure), turn("\\brates? of\\b", rate_of_measure), turn(paste(tolower(month.name), collapse = "|"),
        months_by_number),
    turn("(month|week|dai|year|hour|quarter)ly|annual", period_adjective), turn("\\bper\\b", each_on_average),
    turn("^ *how (much|great|large)", explained_share), turn("\\b(days|months|weeks|years|hours)\\b", days_counted),
    turn("[0-9] (versus|vs|against|compared|and|or|rather)", other_side_left_out), turn("^ *who ", rows_who), turn("\\bgaps?\\b", gap_between),
    turn("chronic|acwr", short_over_long), turn("week", week_over_weeks), turn("\\b(gone|going)\\b", gone_up),
        turn("varia|spread|dispersion|deviation|\\bsds?\\b", equal_spreads),
    turn("(above|below|over|under|than)[- ].*(average|mean|median)", against_average), turn("\\b(most|least)\\b", most_even),
    turn("survival", survival_as_share), turn(" of (19|20)[0-9]", part_of_year), turn("\\b(differ|vary)\\b", groups_differ_in),
    turn("\\brespons", response_to), turn("anova|analysis of variance", anova_with), turn("randomi[sz]ed.*block", blocked_design),
        turn("\\bat [0-9]", at_one_value),
    turn("\\b(ages?|aged|old|older|oldest|young|younger|youngest)\\b|(s|people|men|women) (who )?(are |is |were )?(under|over|above|below) [0-9]{2}\\b", age_from_birth),  # nolint: line_length_linter.
    turn("tenure|seniority|(length|years) of (service|employment)|how long .*(been|worked)|(been (here|employed|with us|working)|worked here|served) .*years?", time_served))  # nolint: line_length_linter.
}

#' All turns, in the order in which they are looked for; put together once
#' @noRd
all_turns <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) kept <<- sifted(c(
      turns_of_gifts(), turns_of_contented(), turns_of_developed(), turns_of_events(), turns_of_due(), turns_of_order(), turns_of_denied(), turns_of_measures(), turns_of_limits(), turns_of_parts(), turns_of_curves(), turns_of_beside(), turns_of_pooled(), turns_of_stay(), turns_of_lines(), turns_within(), turns_of_clock(), turns_of_gains(), turns_of_periods(), turns_of_pairs(), turns_of_trials(), turns_of_known(), turns_of_calendar(), turns_of_visits(), turns_of_lacking(),  # nolint: line_length_linter.
          turns_of_zeros(),
          turns_of_courses(),
          turns_of_leaving(),
          turns_of_raters(),
          turns_of_counted(), turns_of_members(),
      turns_of_numbered(), turns_of_years(), turns_of_sets(), turns_of_families(), turns_of_index(), turns_of_growth(), turns_of_long_gains(), turns_of_long(),  # nolint: line_length_linter.
          turns_of_visits_long(), turns_of_worded(),
          turns_of_trade(),
      turns_of_surveys(), turns_of_feelings(), turns_of_ratings(), turns_of_expected(), turns_of_phrases(), turns_of_conditions(), turns_of_none(),
          everyday_turns(), turns_of_named(),
      turns_of_targets(), turns_of_rates(), turns_of_shares(), turns_of_spans(), turns_of_people(), turns_of_occasions(), turns_of_amounts(),
      turns_of_bounds()))
    kept
  }
})

#' The question with such turns replaced, and what was taken to mean what
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
plain_turns <- function(out) {
  study <- out$study
  out <- through_turns(out, all_turns(), reword_by)
  if (!identical(out$study, study)) out$study$vocabulary <- build_vocabulary(out$study)
  out
}

reword_by <- function(out, one) one$reword(out)

#' Replace the words, and say what they were taken to mean
#' @noRd
reworded <- function(out, text, told = NULL) {
  if (identical(out$text, text)) return(out)
  out$text <- text
  out$told <- c(out$told, told)
  out
}

#' "which agent resolves the most calls first time": at once, and no time is measured
#' @noRd
at_once <- function(out) {
  own <- any(vapply(all_columns(out$study), function(col) all(c("first", "time") %in% name_stems(col$name)), NA))
  if (own) out else reworded(out, sub("(?i),? (?:on |at |the )*first time(?: around| round)?(?= *[?.!]*$)", "", out$text, perl = TRUE))
}

#' "ignoring missing days", "leaving out incomplete rows": every method does so by itself and says how many
#' @noRd
missing_ignored <- function(out) {
  form <- "(?i),? ?\\b(?:ignoring|excluding|omitting|dropping|leaving out|without|skipping|disregarding) (?:the |any |all )?(?:missing|incomplete|blank|na)(?: (?:values?|data|rows?|cases?|days?|observations?|entries|records?|answers?|measurements?|ones))?(?=[,?.! ]*$)"  # nolint: line_length_linter.
  reworded(out, gsub(form, "", out$text, perl = TRUE), "Rows in which a needed value is missing are left out, and counted.")
}

#' "the widest spread of income" is the largest
#' @noRd
widest_spread <- function(out) {
  text <- gsub("(?i)\\b(?:widest|broadest) (?=(?:spread|range|variation|variability|gap|difference))", "largest ", out$text, perl = TRUE)
  reworded(out, gsub("(?i)\\b(?:narrowest|tightest) (?=(?:spread|range|variation|variability|gap|difference))", "smallest ", text, perl = TRUE))
}

#' "which plant takes up the most", of a column uptake: verbs of which the noun is built the other way round
#' @noRd
particle_noun <- function(out) {
  verbs <- c(uptake = "t(?:akes?|ook|aken|aking) up", intake = "t(?:akes?|ook|aken|aking) in", output = "put(?:s|ting)? out",
      turnover = "turn(?:s|ed|ing)? over",
             turnout = "turn(?:s|ed|ing)? out", dropout = "drop(?:s|ped|ping)? out")
  stems <- unlist(lapply(all_columns(out$study), function(col) name_stems(col$name)))
  for (noun in names(verbs)) if (stem_words(noun) %in% stems) {
    text <- gsub(sprintf("(?i)\\b%s (?:the )?(most|least)\\b", verbs[[noun]]), sprintf("has the \\1 %s", noun), out$text, perl = TRUE)
    out <- reworded(out, gsub(sprintf("(?i)\\b(?:do(?:es)? |did )?%s\\b", verbs[[noun]]), noun, text, perl = TRUE))
  }
  out
}

#' "population density by state", of a population and an area: the one for each unit of the other
#' @noRd
density_as_ratio <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}_]+) density\\b")
  if (is.na(hit[1]) || any(vapply(all_columns(out$study), function(col) grepl("densit", col$name, ignore.case = TRUE), NA))) return(out)
  numeric <- numeric_columns(out$study)
  area <- Filter(function(col) grepl("(^|[_. ])(area|size|surface|land)([_. ]|$)|(sq_?(mi|km|m|ft)|km2|m2|ha|hectares?|acres?)$", col$name,
      ignore.case = TRUE), numeric)
  what <- numeric_in_text(out$study, hit[2])
  if (length(area) != 1 || is.null(what) || what$name == area[[1]]$name) return(out)
  derive_of_two(out, hit[1], what$name, area[[1]]$name, "ratio", "per")
}

#' "linear trend of yield over nitrogen", of a measured column nitrogen: the first over the second
#' @noRd
trend_over_measure <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is there |what is |show |test for )?(?:an? |the |any )?(?:linear )?trend (?:of|in) (?:the )?(.+?) (?:over|with|across|against|by) (?:the )?([\\p{L}_]+)(?: (?:levels?|doses?|values?|groups?|rates?))?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  y <- numeric_in_text(out$study, hit[2]); x <- numeric_in_text(out$study, hit[3])
  layout <- long_layout(out$study)
  # ("trend in lodging across nitrogen levels", of a yes or no)
  event <- if (is.null(y) && !is.null(x)) column_in_text(yes_no_columns(out$study), hit[2], kin_phrases(out$study, hit[2]))
  if (!is.null(event) && !identical(layout$time, x$name)) {
    return(reworded(out, sprintf("Cochran-Armitage trend test of %s by %s", event$name, x$name)))
  }
  if (is.null(y) || is.null(x) || y$name == x$name || identical(layout$time, x$name)) return(out)
  reworded(out, sprintf("how does %s change with %s", y$name, x$name))
}

#' "is days absent overdispersed": the variance of a measured column beside its mean
#' @noRd
spread_of_counts <- function(out) {
  asked <- sub("(?i)^ *(?:is|was) there (?:any |some )?(over|under)-?dispersion (?:in|of) (?:the )?(.+?)[?.! ]*$", "are the \\2 \\1dispersed", out$text, perl = TRUE)  # nolint: line_length_linter.
  hit <- match_groups(asked, "(?i)^ *(?:is|are|was|were) (?:the )?(.+?) (?:over-?dispersed|under-?dispersed)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  own <- numeric_in_text(out$study, hit[2])
  if (is.null(own)) return(out)
  reworded(out, sprintf("variance of %s", own$name),
           "Counts of a Poisson distribution have a variance as large as their mean, which stands in the table; no column is allowed for.")
}

#' "is the proportional hazards assumption met": of the columns named, or of all that describe the rows
#' @noRd
hazards_asked <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (?:the )?(?:assumption of )?(?:the )?proportional hazards?(?: assumption)? (?:met|satisfied|violated|fulfilled|ok|okay|fine|reasonable|justified|plausible|broken)( .+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  reworded(out, trimws(paste("check the proportional hazards", if (!is.na(hit[2])) hit[2])))
}

#' "how many students left their pulse blank": rows in which it is missing, whatever level is called left
#' @noRd
left_blank <- function(out) {
  form <- "(?i)\\b(?:have |has |had )?left (?:the |their |his |her |its |this )?(.+?) (?:blank|empty|unanswered)\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || is.null(column_in_text(all_columns(out$study), hit[2], named_phrases(out$study)))) return(out)
  reworded(out, sub(hit[1], paste("have missing", hit[2]), out$text, fixed = TRUE))
}

#' "does the number of seizures depend on age", of a measured column seizures: that column
#' @noRd
number_as_measure <- function(out) {
  asks <- "\\b(depends?|related?|relation\\w*|associat\\w*|correlat\\w*|differs?|var(y|ies)|affects?|influences?|predicts?|explains?|goe?s? with|rises?|falls?|increases?|decreases?|higher|lower)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, "(?i)\\b(?:the )?number of ([\\p{L}_]+)\\b")
  if (is.na(hit[1]) || !grepl(asks, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  own <- numeric_in_text(out$study, hit[2])
  if (is.null(own) || tolower(own$name) != tolower(hit[2]) && names_rows(study_vocabulary(out$study), hit[2])) return(out)
  reworded(out, sub(hit[1], own$name, out$text, fixed = TRUE))
}

#' "rate of seizures per period for each drug", where every row is one period: means over the rows
#' @noRd
rate_of_measure <- function(out) {
  form <- "(?i)^ *(?:what (?:is|was|are|were) )?(?:the )?rates? of (?:the )?([\\p{L}_ ]+?) per ([\\p{L}_]+)(?: (?:by|for each|in each|per|for every) (?:the )?(.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  layout <- long_layout(out$study)
  if (is.na(hit[1]) || is.null(layout) || tolower(layout$time) != tolower(hit[3])) return(out)
  own <- numeric_in_text(out$study, hit[2])
  if (is.null(own)) return(out)
  reworded(out, paste(c("mean", own$name, if (!is.na(hit[4])) c("by", hit[4])), collapse = " "),
           sprintf("Every row is one %s, so the rate is the mean over the rows.", layout$time))
}

#' The one numeric column of months as numbers 1 to 12, where no dates are there
#' @noRd
month_numbers <- function(study) {
  own <- Filter(function(col) grepl("^months?([_. ]?(no|num|number|of_year))?$", tolower(col$name)), numeric_columns(study))
  if (length(own) != 1 || length(date_columns(study))) return(NULL)
  values <- understood(study, own[[1]]$name, own[[1]]$table)
  if (all(values %in% c(1:12, NA))) own[[1]]$name
}

#' "is ozone higher in July than in September", of a column Month that holds 5 to 9
#' @noRd
months_by_number <- function(out) {
  # ("may" and "march" are months only where a word of time stands before them)
  form <- sprintf("(?i)\\b(?:(?:in|of|during|for|from|since|to|and|than|between|versus|vs\\.?|or|until) (?:the month of )?(%s)|(%s))\\b",
                  paste(month.name, collapse = "|"), paste(setdiff(month.name, c("May", "March")), collapse = "|"))
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  column <- month_numbers(out$study)
  if (is.null(column)) return(out)
  said <- unique(stats::na.omit(c(stringi::stri_match_all_regex(out$text, quick_form(form))[[1]][, 2:3])))
  text <- out$text
  for (month in said) {
    n <- match(tolower(month), tolower(month.name))
    own <- if (n %in% c(3, 5)) sprintf("(?i)(?<=in |of |during |for |from |since |to |and |than |between |versus |vs |or |until )%s\\b", month) else
      sprintf("(?i)\\b%s\\b", month)
    text <- gsub(own, paste(column, n), text, perl = TRUE)
  }
  reworded(out, text, sprintf("Took %s to mean %s.", some_of(said, 6), some_of(paste(column, "=", match(tolower(said), tolower(month.name))), 6)))
}

#' "monthly average ozone", of a column Month
#' @noRd
period_adjective <- function(out) {
  form <- "(?i)\\b(?:the )?(monthly|weekly|daily|yearly|annual|hourly|quarterly) (?=(?:\\p{L}+ ){0,2}\\p{L})"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- period_adjectives[[tolower(hit[2])]]
  names <- vapply(all_columns(out$study), `[[`, "", "name")
  own <- names[tolower(names) == unit]
  # (a date that is called so: its periods, not the column, are what the measure is told by)
  if (length(own) == 1 && identical(date_columns(out$study), own) && !grepl("\\b(average|mean|median|typical)\\b", out$text, ignore.case = TRUE)) {
    shape <- match_groups(out$text, "(?i)( (?:as|in) an? (?:line |bar )?(?:chart|plot|graph|figure))?[?.! ]*$")
    bare <- without_mark(sub(hit[1], "", out$text, fixed = TRUE))
    if (!is.na(shape[2])) bare <- sub(shape[2], "", bare, fixed = TRUE)
    at <- regexpr(" (by|for|in) ", bare)
    timed <- if (at > 0) paste0(substr(bare, 1, at - 1), " per ", unit, substring(bare, at)) else paste(bare, "per", unit)
    shaped <- if (!is.na(shape[2])) paste(sub("(?i)^ *(?:as|in) an? ", "", shape[2], perl = TRUE), "of", trimws(timed)) else timed
    return(reworded(out, shaped))
  }
  # a measure that is itself so called ("monthly_salary") keeps its name
  called <- any(grepl(tolower(hit[2]), tolower(names), fixed = TRUE))
  if (length(own) != 1 || called || length(date_columns(out$study)) || grepl(sprintf("\\b(by|per|each|every) %s\\b", unit), out$text,
      ignore.case = TRUE)) {
    return(out)
  }
  reworded(out, paste(without_mark(sub(hit[1], "", out$text, fixed = TRUE)), "by", own))
}

#' "the most sick days per head": the mean over the rows, which are the heads
#' @noRd
each_on_average <- function(out) {
  # (a key with one row for each is no count of heads)
  keys <- keys_of(out$study, single = TRUE)
  nouns <- gsub("[^a-z]", "", tolower(vapply(keys, function(col) key_noun(col$name), "")))
  head <- sprintf("(?:%s)", paste(c("head", "capita", "person", "individual", "employee", "worker", "member of staff", "pupil", "student", "patient",
    "participant", "respondent", "customer", "household", nouns[nchar(nouns) > 2]), collapse = "|"))
  form <- sprintf("(?i)\\b(the )?(most|highest|fewest|lowest|least|largest|smallest) ((?:\\p{L}+ ){1,4})per %s\\b", head)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  others <- Filter(function(col) !col$name %in% vapply(keys, `[[`, "", "name"), all_columns(out$study))
  held <- unlist(lapply(others, called_stems))
  said <- sub(".* per ", "", hit[1])
  # a column that counts heads, or that tells them apart in several rows each, makes it a total over a total
  if (stem_words(said) %in% held || length(keys_of(out$study, single = FALSE))) return(out)
  extreme <- if (tolower(hit[3]) %in% c("fewest", "lowest", "least", "smallest")) "lowest" else "highest"
  reworded(out, sub(hit[1], sprintf("the %s mean %s", extreme, trimws(hit[4])), out$text, fixed = TRUE),
         sprintf("Took %s to mean the mean over rows.", quoted(paste("per", said))))
}

#' "how much of the variation in fertility is explained by everything else": a model of the one by the others
#' @noRd
explained_share <- function(out) {
  form <- "(?i)^ *how (?:much|great a share|large a share) of (?:the )?(?:variation|variance|variability|spread|differences?) (?:in|of) (.+?) (?:is|are|was|can be|could be) (?:explained|accounted for|predicted) by (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  all <- grepl("^(everything( else)?|all( the)? others?( columns| variables| factors)?|other (columns|variables|factors)|others|all( of)? the rest|rest)$",  # nolint: line_length_linter.
               tolower(hit[3]))
  reworded(out, sprintf("linear regression of %s on %s", hit[2], if (all) "everything else" else hit[3]))
}

#' "how many days had ozone above 100", of rows that are days: the column Day is their number, nothing to add up
#' @noRd
days_counted <- function(out) {
  form <- "(?i)^( *(?:on |in )?how many|(?:what|which) (?:share|proportion|percentage|fraction) of(?: the| all)?|(?:the )?number of) (days|months|weeks|years|hours)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- sub("s$", "", tolower(hit[3]))
  own <- Filter(function(col) tolower(col$name) == unit, numeric_columns(out$study))
  conditioned <- grepl("\\b(above|below|over|under|at least|at most|more than|less than|fewer than|exceed\\w*|between|missing)\\b", out$text,
      ignore.case = TRUE)
  if (length(own) != 1 || !conditioned) return(out)
  reworded(out, sub(hit[1], paste(hit[2], "rows"), out$text, fixed = TRUE), sprintf("Each row is taken to be one of the %s.", tolower(hit[3])))
}

#' "where start is below 9 versus above": the other side of the same bound
#' @noRd
other_side_left_out <- function(out) {
  over <- "(?:above|over|more than|greater than|at least)"; under <- "(?:below|under|less than|lower than|at most)"
  form <- function(a, b) sprintf("(?i)\\b(?:where |with |of those with |for )?(\\p{L}[\\p{L}_.]*)(?: is| was| are)? (%s [0-9.]+) (?:versus|vs\\.?|against|compared (?:with|to)|and|or|rather than) (?:that is |is |those )?(?:%s)(?: that| it| this)?(?=[?.! ]*$)",  # nolint: line_length_linter.
                                 a, sub("\\(\\?:", "(?:higher|lower|more|less|", b))
  text <- gsub(form(under, over), "for \\1 \\2 versus the rest", out$text, perl = TRUE)
  reworded(out, gsub(form(over, under), "for \\1 \\2 versus the rest", text, perl = TRUE))
}

#' "who earns more than 6000 a month": those rows are shown
#' @noRd
rows_who <- function(out) {
  form <- "(?i)^ *who (?=.*\\b(?:more|less|fewer|over|under|above|below|at least|at most)(?: than)? [0-9])"
  if (!grepl(form, out$text, perl = TRUE) || grepl("\\b(most|least|highest|lowest|best|worst|average|mean|median)\\b", out$text,
      ignore.case = TRUE)) return(out)
  reworded(out, sub(form, "show the rows that ", out$text, perl = TRUE))
}

#' "is there a gender pay gap": does pay differ by gender
#' @noRd
gap_between <- function(out) {
  form <- "(?i)\\b(?:(is|was|are) there )?(?:an? |any |the )?(?:\\p{L}+ )??(\\p{L}+) (\\p{L}+) gaps?\\b"
  # "a gender gap in expected salary" as "gender salary gap"
  turned <- match_groups(out$text, "(?i)\\b(\\p{L}+) gap in (?:the )?([\\p{L}_]+(?: [\\p{L}_]+){0,2}?)(?=[?.!, ]*$|,? (?:after|when|once|while|adjusting|controlling|accounting|by|for|in|among)\\b)")  # nolint: line_length_linter.
  of_what <- if (!is.na(turned[1])) column_in_text(numeric_columns(out$study), turned[3], named_phrases(out$study))
  if (!is.null(of_what)) {
    held <- stringi::stri_match_first_regex(out$text, "(?i)\\b(?:after|when|once|while)? ?(?:adjusting|accounting|controlling|allowing|correcting)(?: for)? .+$")[1, 1]  # nolint: line_length_linter.
    return(reworded(out, if (is.na(held)) sub(sprintf("(?i)^.*?%s", as_literal(turned[1])), sprintf("does %s differ by %s", of_what$name, turned[2]), out$text, perl = TRUE)  # nolint: line_length_linter.
                    else sprintf("effect of %s on %s %s", turned[2], of_what$name, held)))
  }
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  vocabulary <- study_vocabulary(out$study)
  of <- function(word, kinds) {
    own <- unique(c(vocabulary$terms$column[vocabulary$terms$stem == stem_words(tolower(word))],
                    vocabulary$phrases$column[vocabulary$phrases$phrase == stem_words(tolower(word))]))
    own[vocabulary$columns$kind[own] %in% kinds]
  }
  if (length(of(hit[3], c("category", "yes_no", "ordered"))) != 1) return(out)
  # "pay" is what is paid, though an item may be about it
  paid <- Filter(function(col) any(stem_words(c("salary", "wage", "wages", "income", "earnings", "pay", "compensation")) %in% name_stems(col$name)),  # nolint: line_length_linter.
                 numeric_columns(out$study))
  money <- tolower(hit[4]) %in% c("pay", "wage", "salary", "income", "earnings") && length(paid) == 1
  if (!money && !length(of(hit[4], c("number", "count")))) return(out)
  if (money) hit[4] <- paid[[1]]$name
  # "after accounting for role": what is held constant explains with the group
  held <- stringi::stri_match_first_regex(out$text, "(?i)\\b(?:after|when|once|while)? ?(?:adjusting|accounting|controlling|allowing|correcting)(?: for)? .+$")[1, 1]  # nolint: line_length_linter.
  if (!is.na(held)) return(reworded(out, sprintf("effect of %s on %s %s", hit[3], hit[4], held)))
  whether <- if (is.na(hit[2])) "compare %s by %s" else "does %s differ by %s"
  reworded(out, sub(hit[1], sprintf(whether, hit[4], hit[3]), out$text, fixed = TRUE))
}

#' "the acute to chronic workload ratio of each player": the mean of the last 7 days over that of the last 28
#' @noRd
short_over_long <- function(out) {
  form <- "(?i)\\b(?:acute[- ]?(?:to|:|/|over)?[- ]?chronic(?: (?:work)?load)? ratios?|acwr)\\b(?: (?:of|in|for))?"
  if (!grepl(form, out$text, perl = TRUE) || !length(date_columns(out$study))) return(out)
  reworded(out, sub(form, "ratio of the 7 day to the 28 day mean of", out$text, perl = TRUE),
      "Acute is the mean of the last 7 days, chronic that of the last 28.")
}

#' "ratio of last week's load to the average of the past four weeks by player": two windows that end on the last day
#' @noRd
week_over_weeks <- function(out) {
  form <- paste0("(?i)^ *(?:compare |what (?:is|was) |show |give )?(?:the )?(?:ratio of )?(?:the )?(?:last|past|latest|this|most recent) week'?s? (.+?) ",  # nolint: line_length_linter.
    "(?:to|over|against|versus|vs\\.?|with|compared (?:to|with)|divided by|relative to) (?:the |their |its |each one's )?(?:own )?(?:usual |average |mean |weekly )*(?:of |over |in |for )?(?:the )?",  # nolint: line_length_linter.
    "(last|past|previous|preceding|prior) ([0-9]+|two|three|four|five|six|eight) weeks( before)?((?: (?:by|for each|for every|per|of each) .+)?)[?.! ]*$")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !length(date_columns(out$study))) return(out)
  days <- 7 * word_number(hit[4])
  measure <- sub("(?i)^(?:total|average|mean) ", "", hit[2], perl = TRUE)
  apart <- grepl("^(previous|preceding|prior)$", hit[3], ignore.case = TRUE) || !is.na(hit[5]) && nzchar(hit[5])
  text <- if (apart) sprintf("%s of the last 7 days against the %s days before%s", measure, days, hit[6]) else
    sprintf("ratio of the 7 day to the %s day mean of %s%s", days, measure, hit[6])
  reworded(out, text)
}

#' "is the variance of breaks the same in all tensions", "test of equal variances of breaks by tension"
#' @noRd
equal_spreads <- function(out) {
  spread <- "(?:variances?|spreads?|variability|variation|dispersion|standard deviations?|sds?)"
  among <- "(?:in|across|for|between|among|over|by|within|of) (?:all |the |all the |different |both |each )?"
  forms <- c(sprintf("(?i)^ *(?:is|are|was|were) (?:the )?%s (?:of|in) (.+?) (?:the same|equal|unequal|different|similar|homogeneous|constant|alike) %s(.+?)[?.! ]*$",  # nolint: line_length_linter.
                     spread, among),
             sprintf("(?i)^ *(?:please )?(?:run |do |make |a )?(?:test|check) (?:of|for|whether) (?:equal|homogeneous|homogeneity of|equality of|unequal) %s (?:of|in|for) (.+?) %s(.+?)[?.! ]*$",  # nolint: line_length_linter.
                     spread, among))
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (!is.na(hit[1])) return(reworded(out, sprintf("does the spread of %s differ between %s", hit[2], hit[3])))
  }
  out
}

#' "has training distance gone up since September"
#' @noRd
gone_up <- function(out) {
  text <- gsub("(?i)\\b(?:gone|been going) up\\b", "increased", out$text, perl = TRUE)
  reworded(out, gsub("(?i)\\b(?:gone|been going) down\\b", "decreased", text, perl = TRUE))
}

#' "injuries per 1000 minutes", "injury rate per minutes": a yes or no of each row, counted over what the rows measure
#' @noRd
events_per <- function(out) {
  if (!grepl("\\bper\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  form <- "(?i)\\b(?:the )?(?:number of )?(\\p{L}{3,})(?: rates?)? per (?:single |[0-9][0-9,]* )?(\\p{L}[\\p{L}_]*)"
  hit <- match_groups(out$text, form)
  # "the odds ratio of death per year of age" is told per step of a predictor
  step <- grepl("\\b(odds|hazards?|ratios?|risk|chance|probability)\\b", out$text, ignore.case = TRUE)
  if (is.na(hit[1]) || step || grepl(paste0(hit[1], " of "), out$text, fixed = TRUE)) return(out)
  columns <- all_columns(out$study)
  parts <- lapply(columns, function(col) name_stems(col$name))
  base <- vapply(columns, function(col) is_numeric_kind(col$kind) && isTRUE(col$distinct > 12), NA) &
    (vapply(parts, function(p) stem_words(tolower(hit[3])) %in% p, NA) | vapply(columns, function(col) identical(col$name, hit[3]), NA))
  kin <- unique(c(stem_words(tolower(hit[2])), stem_words(kin_words(tolower(hit[2])))))
  event <- vapply(columns, function(col) col$kind == "yes_no", NA) & vapply(parts, function(p) any(kin %in% p), NA)
  if (sum(base) != 1 || sum(event) != 1) return(out)
  # what is itself measured ("score") or makes groups ("class") is no event and no exposure
  of <- function(said, kinds) any(vapply(columns, function(col) col$kind %in% kinds, NA) & vapply(parts, function(p) stem_words(tolower(said)) %in% p, NA))  # nolint: line_length_linter.
  if (of(hit[2], c("number", "count")) || of(hit[3], c("id", "category"))) return(out)
  col <- columns[[which(event)]]
  name <- paste0(col$name, "_count")
  out$told <- c(out$told, sprintf("Each row in which %s is %s counts as one.", col$name, quoted(last_of(col$levels))))
  with_derived(out, name, "converted", col$name, sub(hit[2], name, out$text, fixed = TRUE), factor = 1, kind = "count")
}

#' "how long between booking and appointment on average": days from one date to the other
#' @noRd
days_between <- function(out) {
  dates <- dated_columns(out$study)
  if (length(dates) < 2 || !grepl("\\b(between|from)\\b", out$text, ignore.case = TRUE)) return(out)
  form <- paste0("(?i)\\b(how long|how many days|how much time|number of days|time|days|delay|interval|gap|duration|wait)((?: \\p{L}+){0,4}?) (?:between|from) (?:the )?",  # nolint: line_length_linter.
                 "(.+?) (?:and|to|until|till) (?:the )?(.+?)(?=(?: on average| in days)?(?: (?:by|for|in|differ|depend|relate|vary|longer|shorter|above|over|under|across|among)\\b| on average| in days|[?.!]|$))")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  stems <- lapply(dates, function(col) setdiff(called_stems(col), stem_words(c("date", "day", "time",
      "on", "at",
    "dt", "of", "the"))))
  meant <- function(said) which(vapply(stems, function(s) any(vapply(stems_of(said)[[1]], function(word) any(alike_stems(word, s)), NA)), NA))  # nolint: line_length_linter.
  from <- meant(hit[4]); to <- meant(hit[5])
  if (length(from) != 1 || length(to) != 1 || from == to) return(out)
  ends <- vapply(dates[c(from, to)], `[[`, "", "name")
  name <- sprintf("days_from_%s_to_%s", ends[1], ends[2])
  asks <- grepl("^how|\\b(average|mean|median|typical)\\b", hit[1], ignore.case = TRUE) || grepl("\\bon average\\b", out$text, ignore.case = TRUE)
  said <- if (asks && !grepl("\\b(average|mean|median|typical|longest|shortest)\\b", sub("on average", "", out$text),
      ignore.case = TRUE)) paste("mean", name) else name
  with_derived(out, name, "difference", rev(ends), sub("\\bon average\\b", "", sub(hit[1], said, out$text, fixed = TRUE), ignore.case = TRUE),
      unit = "days")
}

#' "hives with yield above average", "yield is below the median": the bound as a number, taken over all rows
#' @noRd
against_average <- function(out) {
  if (grepl("\\b(own|usual)\\b", out$text, ignore.case = TRUE)) return(out)
  # "above average yield"
  # "above the median amount"
  given <- match_groups(out$text, "(?i)\\b(above|below|over|under) the (average|mean|median) ((?!of\\b|for\\b|in\\b|by\\b|at\\b|value\\b)(?:[\\p{L}_0-9.]+ ?){1,3})")  # nolint: line_length_linter.
  named <- if (!is.na(given[1])) numeric_in_text(out$study, given[4])
  if (!is.null(named) && startsWith(tolower(given[4]), tolower(named$said)) && narrows_question(out$study, sub(given[1], " ", out$text, fixed = TRUE),
                                                                                                named$name)) {
    middle <- middle_of(out$study, named$name, sub("mean", "average", tolower(given[3])))
    side <- if (tolower(given[2]) %in% c("above", "over")) "above" else "below"
    whole <- up_to_words(given[1], given[4], named$said)
    return(reworded(out, sub(whole, sprintf("with %s %s %s", named$name, side, middle$said), out$text, fixed = TRUE),
                    sprintf("The %s of %s over all rows is %s.", tolower(given[3]), named$name, format_plain(signif(middle$value, 6)))))
  }
  text <- gsub("(?i)\\b(above|below)[- ](average|median) ((?!in\\b|by\\b|for\\b|of\\b|at\\b)\\p{L}+)\\b", "\\3 \\1 \\2", out$text, perl = TRUE)
  side <- "(above|below|over|under|higher than|lower than|greater than|less than|more than) "
  form <- paste0("(?i)((?:\\b[\\p{L}_0-9.]+ ){1,4}?)(?:is |are |was |were )?(", side,
                 "(?:the )?(?:overall |sample |general )?(average|mean|median)\\b)(?! (?:of|than|for|[0-9])\\b)")
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(out)
  # ("mean yield where strength is above average": what stands behind the last such word)
  near <- sub("(?i)^.*\\b(?:where|with|whose|that|which|who|when|if|having|have|has|had|and|of|for|in|among|their)\\s+", "", trimws(hit[2]), perl = TRUE)  # nolint: line_length_linter.
  found <- measure_compared(out$study, text, if (nzchar(near) && !is.null(numeric_in_text(out$study, near))) near else trimws(hit[2]))
  middle <- if (!is.null(found)) middle_of(out$study, found$name, tolower(hit[5]))
  if (is.null(middle)) return(out)
  bound <- sprintf("%s %s", if (tolower(hit[4]) %in% c("below", "under", "lower than", "less than")) "below" else "above", middle$said)
  # "is the yield above average in the north" asks for a test of its mean
  name <- paste0(if (grepl("^ *(is|are|was|were)\\b", text, ignore.case = TRUE)) "average ", found$name)
  told <- sprintf("The %s of %s over all rows is %s.", tolower(hit[5]), found$name, format_plain(signif(middle$value, 6)))
  # "is honey yield in the coast region above the overall average"
  if (found$far) return(reworded(out, sub(found$said, name, sub(hit[3], bound, text, fixed = TRUE), fixed = TRUE), told))
  reworded(out, sub(hit[1], trimws(sub(found$said, paste(name, bound), hit[2], fixed = TRUE)), text, fixed = TRUE), told)
}

#' The measure that is set against its average: named right before, or else anywhere before
#' @section Shape: list(name, said, far), or NULL.
#' @noRd
measure_compared <- function(study, text, near) {
  numeric <- numeric_columns(study)
  phrases <- named_phrases(study, numeric)
  found <- column_in_text(numeric, near, phrases)
  if (!is.null(found)) return(c(found, far = FALSE))
  found <- column_in_text(numeric, sub("(?i)\\b(above|below|over|under|higher|lower|greater|less|more)\\b.*$", "", text, perl = TRUE), phrases)
  if (!is.null(found)) c(found, far = TRUE)
}

#' The mean or median of a column over all rows, said with as few digits as part the same rows
#' @section Shape: list(value, said), or NULL where no value is there.
#' @noRd
middle_of <- function(study, name, statistic) {
  values <- understood(study, name, find_column(study, name)$table)
  values <- values[!is.na(values)]
  if (!length(values)) return(NULL)
  middle <- if (statistic == "median") stats::median(values) else mean(values)
  parts <- function(at) c(sum(values > at), sum(values < at))
  digits <- Find(function(d) identical(parts(signif(middle, d)), parts(middle)), 4:15) %||% 15
  list(value = middle, said = format(signif(middle, digits), digits = 15))
}

#' "the most consistent yield" has the least spread
#' @noRd
most_even <- function(out) {
  even <- "(?:consistent|stable|uniform|steady|even|homogeneous|predictable)"
  uneven <- "(?:variable|varied|spread out|erratic|volatile)"
  text <- gsub(sprintf("(?i)\\b(?:the )?(?:most %s|least %s)\\b", even, uneven), "the lowest standard deviation of", out$text, perl = TRUE)
  text <- gsub(sprintf("(?i)\\b(?:the )?(?:least %s|most %s)\\b", even, uneven), "the highest standard deviation of", text, perl = TRUE)
  reworded(out, sub("(standard deviation of) in\\b", "\\1", text), "Took the spread as the standard deviation.")
}

#' "survival by apiary", where a yes/no column says who survived: a share, unless a time is asked about
#' @noRd
survival_as_share <- function(out) {
  timed <- "\\b(time|times|curves?|hazard\\w*|kaplan|cox|log[- ]?rank|median|function|analysis|days?|weeks?|months?|years?|until|long|longer)\\b"
  # ("the probability of survival" is a curve's; "with 5 mites" it is a share)
  given <- "\\bprobabilit\\w+ of (?:winter )?survival (?:with|given|for|on|if|when|at [0-9])"
  if (grepl("\\bprobability\\b", out$text, ignore.case = TRUE) && !grepl(given, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  if (!grepl("\\bsurvival\\b", out$text, ignore.case = TRUE) || grepl(timed, out$text, ignore.case = TRUE)) return(out)
  own <- Filter(function(col) col$kind == "yes_no" && "surviv" %in% name_stems(col$name), all_columns(out$study))
  if (length(own) != 1 || grepl(paste0("\\b", gsub("[_.]+", "[_. ]", own[[1]]$name)), out$text, ignore.case = TRUE)) return(out)
  words <- name_words(own[[1]]$name)
  said <- "(?:winter )?survival(?: rates?)?"
  text <- sub(sprintf("(?i)\\b((?:rank|order|sort)\\b.* by) %s\\b", said), sprintf("\\1 share of rows with %s = %s", own[[1]]$name,
      last_of(own[[1]]$levels)),
              out$text, perl = TRUE)
  text <- sub(sprintf("(?i)^ *(?:the )?%s (?=(?:by|per|in each|for each|across|among|amongst)\\b)", said), paste("share of rows with", words, ""),
      text, perl = TRUE)
  reworded(out, gsub(sprintf("(?i)\\b%s\\b", said), words, text, perl = TRUE), sprintf("Took survival to mean the column %s.", quoted(own[[1]]$name)))
}

#' "the last 3 months of 2024", "the first half of 2023": from its first day to its last
#' @noRd
part_of_year <- function(out) {
  # (two of them are set against each other)
  both <- derive_two_periods(out)
  if (!identical(both$text, out$text)) return(both)
  if (!length(date_columns(out$study))) return(out)
  form <- "(?i)\\b(?:in |during |for |over )?(?:the )?(first|last|final|second) (?:([0-9]{1,2}|one|two|three|four|five|six|nine) months?|(half)|(quarter)) of ((?:19|20)[0-9]{2})\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  months <- tolower(hit[3])
  size <- if (!is.na(hit[4])) 6 else if (!is.na(hit[5])) 3 else word_number(months)
  if (!is.finite(size) || size < 1 || size > 12) return(out)
  place <- tolower(hit[2])
  if (place == "second" && is.na(hit[4]) && is.na(hit[5])) return(out)
  start <- switch(place, first = 1, second = size + 1, 13 - size)
  from <- as.Date(sprintf("%s-%02d-01", hit[6], start))
  to <- seq(from, by = sprintf("%d months", size), length.out = 2)[2] - 1
  reworded(out, sub(hit[1], sprintf("from %s to %s", from, to), out$text, fixed = TRUE), sprintf("Took %s to mean %s to %s.", quoted(trimws(hit[1])),
      from, to))
}

#' "do the hospitals differ in length of stay once age is allowed for": what they differ in is the outcome
#' @noRd
groups_differ_in <- function(out) {
  held <- "(?:once|after|when|if|adjusting|adjusted|allowing|controlling|holding|taking|given)"
  form <- sprintf("(?i)^ *(?:do|does|did) (?:the )?([\\p{L}_]+) (?:differ|vary) (?:in|on|as to|with regard to|with respect to) (?:their |the )?(.+?) (?=%s\\b)", held)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || is.null(column_of_words(all_columns(out$study), sub("s$", "", hit[2])))) return(out)
  reworded(out, sub(hit[1], sprintf("does %s differ between %s ", hit[3], hit[2]), out$text, fixed = TRUE))
}

#' "does the response to nitrogen depend on variety": the effect of nitrogen, on what is measured
#' @noRd
response_to <- function(out) {
  reworded(out, gsub("(?i)\\b(?:the )?responses? (?:of (?:the )?([\\p{L}_]+) )?to (?=(?:[\\p{L}_]+ ){1,3}(?:depends?|differs?|vary|varies|the same)\\b)",  # nolint: line_length_linter.
                   "the effect of ", out$text, perl = TRUE))
}

#' "anova of yield with variety and block": what follows divides
#' @noRd
anova_with <- function(out) {
  form <- "(?i)\\b((?:anova|analysis of variance) (?:of|for|on) (?:(?!\\bwith\\b|\\bby\\b).)+?) with (?!.*\\b(?:covariates?|random|repeated)\\b)"
  reworded(out, sub(form, "\\1 by ", out$text, perl = TRUE))
}

#' "randomised block anova of yield by irrigation", of a column block: the blocks are held constant
#' @noRd
blocked_design <- function(out) {
  form <- "(?i)\\b(?:an? |the )?randomi[sz]ed (?:complete )?blocks?(?: design)?(?=(?: anova| analysis| of| for)\\b)"
  blocks <- Filter(function(col) is_level_kind(col$kind) && "block" %in% name_stems(col$name), all_columns(out$study))
  if (!grepl(form, out$text, perl = TRUE) || length(blocks) != 1) return(out)
  rest <- without_mark(trimws(sub(form, "", out$text, perl = TRUE)))
  # (with the blocks held constant the analysis of variance is a model of means)
  rest <- sub("(?i)\\b(?:anova|analysis(?: of variance)?) (?:of|for|on) (?:the )?(.+?) (?:by|between|across|with) (?:the )?", "does \\1 differ by ",
      rest, perl = TRUE)
  reworded(out, sprintf("%s, adjusting for %s", rest, blocks[[1]]$name), sprintf("Took %s as the blocks.", blocks[[1]]$name))
}

#' "which treatment yields most at 180", where one column of few values alone holds that number: its rows
#' @noRd
at_one_value <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bat ([0-9]+(?:\\.[0-9]+)?)(?=[?.!, ]*$|,? (?:by|in|for|with|between|across|adjusting)\\b)")
  if (is.na(hit[1])) return(out)
  few <- Filter(function(col) isTRUE(col$distinct <= 12) && as.numeric(hit[2]) %in% understood(out$study, col$name, col$table),
      numeric_columns(out$study))
  if (length(few) != 1) return(out)
  # (a column that stands right before it has it already)
  if (grepl(sprintf("(?i)%s *(?:is|of|=)? *$", as_literal(few[[1]]$name)), sub("(?i)\\bat [0-9.]+.*$", "", out$text, perl = TRUE),
      perl = TRUE)) return(out)
  reworded(out, sub(hit[1], sprintf("where %s = %s", few[[1]]$name, hit[2]), out$text, fixed = TRUE), sprintf("Took %s to mean %s = %s.",
    quoted(trimws(hit[1])), few[[1]]$name, hit[2]))
}

#' "how old are the members", of data that holds only when they were born: their age at the other date, or at the end of the data
#' @noRd
age_from_birth <- function(out) {
  columns <- all_columns(out$study)
  words <- lapply(columns, called_stems)
  if (any(vapply(words, function(w) "age" %in% w, NA))) return(out)
  born <- vapply(words, function(w) any(stem_words(c("birth", "born", "yob", "dob", "birthday", "birthdate", "birthyear")) %in% w), NA)
  dated <- vapply(columns, function(col) col$kind %in% c("date", "datetime"), NA)
  own <- columns[born & (dated | vapply(columns, function(col) identical(col$role, "year"), NA))]
  if (length(own) != 1) return(out)
  others <- Filter(function(col) col$table == own[[1]]$table, columns[dated & !born])
  if (!length(others)) return(out)
  last <- last_day(out$study, others)
  if (!own[[1]]$kind %in% c("date", "datetime")) {
    return(with_derived(out, "age", "years_to", own[[1]]$name, unit = "years", on = as.numeric(substr(last, 1, 4))))
  }
  if (length(others) == 1) return(with_derived(out, "age", "age", c(own[[1]]$name, others[[1]]$name), unit = "years"))
  with_derived(out, "age", "age", own[[1]]$name, unit = "years", on = last)
}

#' "average tenure by department", of a date of hire: years to the day they left, or to the last day of the data
#' @noRd
time_served <- function(out) {
  columns <- all_columns(out$study)
  words <- lapply(columns, called_stems)
  if (any(vapply(words, function(w) any(stem_words(c("tenure", "seniority", "service", "loyalty")) %in% w), NA))) return(out)
  dated <- vapply(columns, function(col) col$kind %in% c("date", "datetime"), NA)
  called <- function(said) columns[dated & vapply(words, function(w) any(stem_words(said) %in% w), NA)]
  start <- called(c("hired", "hire", "joined", "join", "joining", "employed", "start", "started", "entry", "onboarded"))
  if (length(start) != 1) return(out)
  end <- Filter(function(col) col$table == start[[1]]$table,
      called(c("left", "leaving", "leave", "exit", "end", "ended", "termination", "terminated", "resigned", "departure")))
  if (length(end) > 1) return(out)
  last <- last_day(out$study, columns[dated & vapply(columns, function(col) col$table == start[[1]]$table, NA)])
  form <- "(?i)\\b(?:the )?(?:tenures?|seniority|(?:length|years) of (?:service|employment))\\b"
  long <- match_groups(out$text, "(?i)^ *how long (?:have|has|did|do) (?:the )?(.+?) (?:been (?:here|employed|with us|working|in the (?:job|company))|worked|work)(?: here| for us)?(?: on average)?([^?]*)")  # nolint: line_length_linter.
  # "who has been here more than 10 years"
  since <- match_groups(out$text, "(?i)\\b(?:(?:who|that) )?(?:has|have|had) (?:been (?:here|employed|with us|working here)|worked here|served) (?:for )?(more than|over|at least|less than|under|fewer than) ([0-9.]+) years?\\b")  # nolint: line_length_linter.
  text <- if (grepl(form, out$text, perl = TRUE)) gsub(form, "tenure", out$text, perl = TRUE) else if (!is.na(long[1]))
    sprintf("mean tenure of %s%s", long[2], long[3]) else if (!is.na(since[1])) {
      asked <- sub(since[1], sprintf("with tenure %s %s", since[2], since[3]), out$text, fixed = TRUE)
      sub("(?i)^ *(?:who )?with", "show rows with", asked, perl = TRUE)
    } else return(out)
  with_derived(out, "tenure", "years_since", c(start[[1]]$name, vapply(end, `[[`, "", "name")), text, unit = "years", on = last)
}

#' The last day that any of the columns of dates holds
#' @section Shape: ISO date, as text.
#' @noRd
last_day <- function(study, dates) {
  max(vapply(dates, function(col) as.character(max(as.Date(understood(study, col$name, col$table)), na.rm = TRUE)), ""))
}

#' "applic" of application and "appli" of applied: stems that share all but their ends
#' @noRd
kin_stem <- function(stem, own) {
  n <- pmin(nchar(stem), nchar(own))
  n >= 5 & substr(stem, 1, n) == substr(own, 1, n)
}
