# Conditions in everyday words, put as plain ones ("where strength_before is at least 11.2") before the question is read.

#' Turns of phrase that narrow the rows, each with the words that must be there for it
#' @noRd
turns_of_conditions <- function() {
  list(
    turn("\\bbut\\b|\\bexcept\\b|excluding|without|leav(e|ing) out|not counting|omit|ignor|dropping", denied_bound),
    turn("\\bwith\\b.*\\band\\b.*without\\b", with_and_without_it),
    turn("^ *(what |which )?(is |was )?(the )?(share|proportion|percentage|percent|fraction) of ", share_of_level_that),
    turn("^ *(the )?[a-z]{3,}est .* (each|every)\\b", extreme_of_each), turn("^ *(which|what) .* no ", level_in_none),
    turn("(lowest|highest|smallest|largest|top|bottom)", extreme_rows_of),
    turn("(quarter|third|half|fifth|tenth|quartile|quintile|decile|tertile|per ?cent|%)", part_of_measure),
    turn("(excluding|without|leaving out|trimming|dropping|omitting|ignoring|exclude|leave out|drop) .*(lowest|highest|top|bottom|smallest|largest|biggest|most extreme)",  # nolint: line_length_linter.
         ends_left_out),
    turn("(except|excluding|other than|apart from|not counting|but not|leaving out|without)", those_left_out),
    turn("\\b(neither|but|and|yet|both)\\b", two_conditions),
    turn("missing|without an? |no (value|record|entry|data)|not recorded|unknown", where_missing),
    turn("\\b(treated|given|receiv\\w*|assigned|allocated|randomi[sz]ed|fed|dosed|exposed)\\b", treated_with),
    turn("\\b(which|what) .* (had|have|has|with) no ", had_none), turn("\\b(than|over|under|above|below|least|most) (a|an|one) ", one_of_unit),
    turn("\\b(start|begin|end)", begins_with), turn("[0-9](st|nd|rd|th)\\b", day_of_only_month))
}

#' "everyone but surgery patients", "excluding patients over 90": what is left out is put as what stays
#' @noRd
denied_bound <- function(out) {
  text <- gsub("(?i)\\b(everyone|everybody|everything|anyone|anybody|anything|all(?: (?:the )?(?:other )?\\p{L}+s)?|any \\p{L}+) but (?!not\\b)(?=\\p{L})", "\\1 except ",  # nolint: line_length_linter.
               out$text, perl = TRUE)
  deny <- "(?:except(?:ing)?(?: for)?|excluding|exclude|without|leav(?:e|ing) out|not counting|omit(?:ting)?|ignor(?:e|ing)|dropping|drop|other than|apart from)"  # nolint: line_length_linter.
  form <- sprintf("(?i)\\b%s ((?:(?:the|any|all|those|\\p{L}+s|people) ){0,3})((?:with|whose|having|where) (?:an? |the )?(?:\\p{L}+ ){1,3}?(?:is |are |of )?)?(?:who are |that are |aged )?(over|above|older than|more than|greater than|higher than|longer than|under|below|younger than|less than|fewer than|lower than|shorter than|at least|at most) (?=[0-9])",  # nolint: line_length_linter.
                  deny)
  hit <- stringi::stri_match_first_regex(text, form)[1, ]
  if (!is.na(hit[1])) {
    turned <- c(over = "at most", above = "at most", `older than` = "at most", `more than` = "at most", `greater than` = "at most", `higher than` = "at most",  # nolint: line_length_linter.
                `longer than` = "at most", under = "at least", below = "at least", `younger than` = "at least", `less than` = "at least",
                `fewer than` = "at least", `lower than` = "at least", `shorter than` = "at least", `at least` = "under", `at most` = "over")
    plain <- turned[[tolower(hit[4])]]
    # ("patients at most 90" would leave open of what; their age is not)
    aged <- grepl("older|younger", hit[4]) || grepl("^(patients|people|members|persons|women|men|children|students|pupils|customers|clients|participants|respondents|adults|employees|staff|donors|players|users|visitors|keepers)$",  # nolint: line_length_linter.
                                                     trimws(hit[2]), ignore.case = TRUE)
    age <- Filter(function(col) "age" %in% stems_of(name_words(col$name))[[1]], numeric_columns(out$study))
    after <- substring(text, regexpr(hit[1], text, fixed = TRUE) + nchar(hit[1]))
    bare <- grepl("^[0-9.,]+ *([?.!,]|$|by |in |for |per |on |with |years)", after)
    named <- if (!is.na(hit[3])) hit[3] else if (aged && bare && length(age) == 1) paste0("with ", age[[1]]$name, " ") else paste0("with ")
    text <- sub(hit[1], paste0(named, plain, " "), text, fixed = TRUE)
    return(reworded(out, text, sprintf("Took %s to leave those rows out.", quoted(trimws(hit[1])))))
  }
  reworded(out, text)
}

#' "with diabetes and without diabetes" as "with and without diabetes"
#' @noRd
with_and_without_it <- function(out) {
  text <- gsub("(?i)\\bwith (?:a |an |the )?([\\p{L} ]+?) and (?:those )?without (?:a |an |any |the )?(\\1|it|them)\\b", "with and without \\1",
               out$text, perl = TRUE)
  # both sides of a yes/no column are its groups
  hit <- stringi::stri_match_first_regex(text, "(?i)\\bwith and without (?:a |an |any |the )?((?:[\\p{L}_]+ ?){1,3})")[1, ]
  if (is.na(hit[1])) return(reworded(out, text))
  columns <- Filter(function(col) col$kind == "yes_no", all_columns(out$study))
  found <- column_in_text(columns, hit[2], named_phrases(out$study, columns))
  if (is.null(found) || !startsWith(tolower(hit[2]), tolower(found$said))) return(reworded(out, text))
  reworded(out, sub(up_to_words(hit[1], hit[2], found$said), paste("by", found$name), text, fixed = TRUE),
           sprintf("With and without %s: the two sides of %s.", found$said, found$name))
}

#' "share of apps tickets not resolved": of the rows at a level, the share for which the clause holds
#' @noRd
share_of_level_that <- function(out) {
  form <- "(?i)^ *(?:what |which )?(?:is |was )?(?:the )?(?:share|proportion|percentage|percent|fraction) of (?:the |all |our )?(.+?)((?: (?:by|per|for each|in each|across) .+?)?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  words <- strsplit(hit[2], " +")[[1]]
  vocabulary <- study_vocabulary(out$study)
  for (n in seq_len(min(3, length(words) - 1))) {
    before <- paste(utils::head(words, -n), collapse = " ")
    denied <- grepl("(?i)(?:^| )(?:not|never)$", before, perl = TRUE)
    noun <- sub("(?i)(?: (?:that|who|which))?(?: (?:were|was|are|is|had been|have been|has been|did|have|had))?(?: (?:not|never))?(?: been)?$", "", before, perl = TRUE)  # nolint: line_length_linter.
    clause <- paste(utils::tail(words, n), collapse = " ")
    found <- clause_level(out$study, paste(if (denied) "not", clause))
    if (is.null(found) || find_column(out$study, found$name)$kind != "yes_no" || !nzchar(noun)) next
    # what stands before the clause must name a level of another column
    state <- parse_question(noun, vocabulary)
    levels <- Filter(function(g) !isTRUE(g$numeric) && !g$negated, state$groups)
    if (length(levels) != 1 || vocabulary$columns$name[levels[[1]]$column] == found$name || length(state$filters)) next
    return(reworded(out, sprintf("what share of %s were %s%s%s?", noun, if (denied) "not " else "", clause, hit[3])))
  }
  out
}

#' "heaviest fish of each species": the largest value in each group
#' @noRd
extreme_of_each <- function(out) {
  hit <- stringi::stri_match_first_regex(out$text, "(?i)^ *(?:the |show the |what is the )?([\\p{L}]{3,}est) (\\p{L}+) (?:of|in|for|from|at|on) (?:each|every) ((?:[\\p{L}_]+ ?){1,3})[?.! ]*$")[1, ]  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  table <- study_vocabulary(out$study)$lexicon$adjectives
  known <- table[table$word == tolower(hit[2]), , drop = FALSE]
  nouns <- stem_words(unique(c(if (tolower(hit[2]) %in% c("oldest", "youngest")) "age", known$noun)))
  own <- Filter(function(col) any(telling_stems(col$name) %in% nouns), numeric_columns(out$study))
  if (length(own) != 1) return(out)
  low <- isTRUE(known$low[1]) || tolower(hit[2]) == "youngest"
  reworded(out, sprintf("%s %s by %s", if (low) "minimum" else "maximum", own[[1]]$name, hit[4]))
}

#' "which trips caught no monkfish": units of whose rows none is at the level
#' @noRd
level_in_none <- function(out) {
  hit <- stringi::stri_match_first_regex(out$text, "(?i)^ *(?:which|what) (\\p{L}+) (?:\\p{L}+ )?no ((?:[\\p{L}-]+ ?){1,3}?)(?: at all)?[?.! ]*$")[1, ]  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  units <- Filter(function(col) any(key_stems(col$name) %in% stem_words(tolower(hit[2]))) && 2 * col$distinct <= nrow(out$study$tables[[col$table]]$data),  # nolint: line_length_linter.
                  all_columns(out$study))
  state <- parse_question(hit[3], study_vocabulary(out$study))
  if (length(units) != 1 || length(state$groups) != 1 || isTRUE(state$groups[[1]]$numeric) || length(state$groups[[1]]$levels) != 1) return(out)
  name <- study_vocabulary(out$study)$columns$name[state$groups[[1]]$column]
  if (name == units[[1]]$name || !find_column(out$study, name)$kind %in% c("category", "ordered", "text")) return(out)
  derived <- with_derived(out, "has_it", "equals", name, sprintf("which %s never has_it anything?", hit[2]), level = state$groups[[1]]$levels)
  if (identical(derived, out)) return(out)
  derived$told <- c(derived$told, sprintf("has_it: %s is %s.", name, state$groups[[1]]$levels))
  derived$study$vocabulary <- build_vocabulary(derived$study)
  derived
}

#' "mean amount for the 20 lowest credit scores": a bound that takes in so many rows of another column
#' @noRd
extreme_rows_of <- function(out) {
  form <- "(?i)\\b(?:of|for|among|in|at|with) (?:the )?(?:([0-9]{1,4}) (lowest|highest|smallest|largest)|(lowest|highest|smallest|largest|top|bottom) ([0-9]{1,4})) (?:values? of )?(?:the )?((?:[\\p{L}_0-9.]+ ?){1,4})"  # nolint: line_length_linter.
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  n <- as.numeric(stats::na.omit(hit[c(2, 5)])[1]); side <- tolower(stats::na.omit(hit[3:4])[1])
  said <- sub("s$", "", trimws(hit[6]))
  found <- numeric_in_text(out$study, hit[6]) %||% numeric_in_text(out$study, said)
  if (is.null(found) || !startsWith(tolower(hit[6]), tolower(found$said))) return(out)
  rest <- gsub(" +", " ", sub(hit[1], " ", out$text, fixed = TRUE))
  if (!narrows_question(out$study, rest, found$name)) return(out)
  values <- sort(understood(out$study, found$name, found$col$table))
  if (n < 1 || n >= length(values)) return(out)
  low <- side %in% c("lowest", "smallest", "bottom")
  bound <- if (low) values[n] else values[length(values) - n + 1]
  tail <- substring(hit[6], nchar(found$said) + 1)
  reworded(out, trimws(paste(sub("[?.! ]+$", "", rest), sub("^s\\b", "", tail), sprintf("where %s is %s %s", found$name, if (low) "at most" else "at least",  # nolint: line_length_linter.
                                                                                    format(signif(bound, 12), digits = 15)))),
           sprintf("The %s %s of %s: rows at %s or %s (rows that tie are taken in).", format_plain(n), side, found$name, format_plain(bound),
                   if (low) "below" else "above"))
}

#' Columns that hold numbers, with the phrases that name them
#' @noRd
numeric_in_text <- function(study, text) {
  columns <- numeric_columns(study)
  column_in_text(columns, text, named_phrases(study, columns))
}

#' "in the top quarter of strength before", "the weakest third of hives by strength": a bound at a quantile of the column
#'
#' A part that is itself what the question ranks ("show the top 10 % of hives by yield") is none.
#' @noRd
part_of_measure <- function(out) {
  part <- "(quarter|third|half|fifth|tenth|quartile|quintile|decile|tertile|[0-9]{1,2} ?(?:%|per ?cent))"
  ends <- "(top|bottom|upper|lower|highest|lowest|best|worst|largest|smallest|biggest|strongest|weakest|oldest|youngest|heaviest|lightest|longest|shortest|fastest|slowest|richest|poorest|[\\p{L}]{3,}est)"  # nolint: line_length_linter.
  lead <- "(?i)\\b(?:(?:that|who|which) (?:are|were|is|was) )?(in|within|from|among|amongst|of|for|only|by) (?:only )?(?:the )?"
  form <- sprintf("%s%s %s (?:of|in|on|for|by) (?:the |their )?(?:(?:\\p{L}+ )?(?:by|in terms of|according to|regarding|on) (?:their |the )?)?((?:[\\p{L}_0-9.]+ ?){1,4})",  # nolint: line_length_linter.
                  lead, ends, part)
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) {
    # "with a score in the bottom third"
    turned <- stringi::stri_match_first_regex(out$text, sprintf("(?i)\\b(?:with|whose|having|where) (?:an? |the |their )?((?:[\\p{L}_0-9.]+ ?){1,3}?) (?:is |are |was |were )?(?:in|within|among) the %s %s\\b", ends, part))[1, ]  # nolint: line_length_linter.
    if (is.na(turned[1]) || is.null(numeric_in_text(out$study, turned[2]))) return(part_by_adjective(out, lead, part))
    out$text <- sub(turned[1], sprintf("in the %s %s of %s", turned[3], turned[4], numeric_in_text(out$study, turned[2])$name), out$text, fixed = TRUE)  # nolint: line_length_linter.
    return(part_of_measure(out))
  }
  found <- numeric_in_text(out$study, trimws(hit[5]))
  if (is.null(found) || !startsWith(tolower(hit[5]), tolower(found$said))) return(out)
  said <- up_to_words(hit[1], hit[5], found$said)
  rest <- sub(said, " ", out$text, fixed = TRUE)
  # what is left must ask for something else
  if (!narrows_question(out$study, rest, found$name)) return(out)
  share <- share_of_part(hit[4])
  high <- grepl("^(top|upper|high|best|larg|bigg|strong|old|heav|long|fast|rich|great|most|tall|hott)", hit[3], ignore.case = TRUE)
  values <- understood(out$study, found$name, found$col$table)
  bound <- stats::quantile(values, if (high) 1 - share else share, na.rm = TRUE, names = FALSE)
  told <- sprintf("The %s %s of %s: rows at %s %s.", tolower(hit[3]), tolower(hit[4]), found$name, if (high) "or above" else "or below",
                  format_plain(signif(bound, 6)))
  reworded(out, trimws(paste(gsub(" +", " ", sub("[?.! ]+$", "", rest)), sprintf("where %s is %s %s", found$name, if (high) "at least" else "at most",
                                                                                 format(signif(bound, 12), digits = 15)))), told)
}

#' "in the oldest third", "among the 25 % heaviest": the adjective names the column
#' @noRd
part_by_adjective <- function(out, lead, part) {
  forms <- c(sprintf("%s([\\p{L}]{3,}est)(?:-\\p{L}+)? %s\\b(?: of (?:the |all )?\\p{L}+)?", lead, part), sprintf("%s%s ([\\p{L}]{3,}est)(?: \\p{L}+)?(?=$|[?.!,]| by | in )", lead, part))  # nolint: line_length_linter.
  for (k in 1:2) {
    hit <- stringi::stri_match_first_regex(out$text, forms[k])[1, ]
    if (is.na(hit[1])) next
    word <- tolower(hit[if (k == 1) 3 else 4]); size <- hit[if (k == 1) 4 else 3]
    table <- study_vocabulary(out$study)$lexicon$adjectives
    known <- table[table$word == word, , drop = FALSE]
    nouns <- stem_words(unique(c(if (word %in% c("oldest", "youngest")) "age", known$noun)))
    own <- Filter(function(col) any(telling_stems(col$name) %in% nouns), numeric_columns(out$study))
    rest <- gsub(" +", " ", sub(hit[1], " ", out$text, fixed = TRUE))
    if (length(own) != 1 || !narrows_question(out$study, rest, own[[1]]$name)) next
    low <- isTRUE(known$low[1]) || word %in% c("youngest")
    values <- understood(out$study, own[[1]]$name, own[[1]]$table)
    share <- share_of_part(size)
    bound <- stats::quantile(values, if (low) share else 1 - share, na.rm = TRUE, names = FALSE)
    return(reworded(out, trimws(paste(sub("[?.! ]+$", "", rest), sprintf("where %s is %s %s", own[[1]]$name, if (low) "at most" else "at least",
                                                                       format(signif(bound, 12), digits = 15)))),
                    sprintf("The %s %s by %s: rows at or %s %s.", word, size, own[[1]]$name, if (low) "below" else "above",
                            format_plain(signif(bound, 6)))))
  }
  out
}

#' Does a text, without the condition, ask for something of another column?
#' @noRd
narrows_question <- function(study, rest, name) {
  columns <- all_columns(study)
  other <- column_in_text(columns, rest, named_phrases(study))
  short <- grepl("^ *(and |but |now )*(only|just|for|what about|how about|in|among)?[ ?.!]*$", rest, ignore.case = TRUE)
  short || !is.null(other) && other$name != name ||
    grepl("\\b(how many|number of|count|share|percent(age)?|proportion)\\b", rest, ignore.case = TRUE)
}

share_of_part <- function(part) {
  words <- c(half = 1 / 2, third = 1 / 3, tertile = 1 / 3, quarter = 1 / 4, quartile = 1 / 4, fifth = 1 / 5, quintile = 1 / 5, tenth = 1 / 10,
             decile = 1 / 10)
  if (tolower(part) %in% names(words)) words[[tolower(part)]] else as.numeric(sub("[^0-9].*$", "", part)) / 100
}

#' "excluding the lowest 5 %", "without the three largest values": bounds on the one measure of the question
#' @noRd
ends_left_out <- function(out) {
  number <- "([0-9]{1,3}|one|two|three|four|five|ten)"
  # ("the three largest values" as "the largest three values")
  lead <- "(?:excluding|without|leaving out|trimming|dropping|omitting|ignoring|exclude|leave out|drop)"
  ends <- "(lowest|highest|top|bottom|smallest|largest|biggest)"
  text <- gsub(sprintf("(?i)\\b(%s (?:the )?)%s %s\\b", lead, number, ends), "\\1\\3 \\2", out$text, perl = TRUE)
  form <- paste0("(?i),? *\\b", lead, " (?:the )?", ends, "(?: and (?:the )?", ends, ")? ?", number,
                 "? ?(%|per ?cent|values?|rows?|observations?)?(?: (?:of|in) (?:the )?((?:[\\p{L}_0-9.]+ ?){1,4}))?(?=$|[?.!,]| by | in | for )")
  hit <- stringi::stri_match_first_regex(text, form)[1, ]
  if (is.na(hit[1]) || is.na(hit[4]) && is.na(hit[5])) return(out)
  rest <- sub(hit[1], "", text, fixed = TRUE)
  found <- if (!is.na(hit[6])) numeric_in_text(out$study, hit[6]) else numeric_in_text(out$study, rest)
  if (is.null(found)) return(out)
  words <- c(one = 1, two = 2, three = 3, four = 4, five = 5, ten = 10)
  n <- if (is.na(hit[4])) 1 else if (tolower(hit[4]) %in% names(words)) words[[tolower(hit[4])]] else as.numeric(hit[4])
  values <- sort(understood(out$study, found$name, found$col$table))
  percent <- grepl("%|cent", hit[5])
  is_low <- function(word) grepl("^(low|bott|small)", word, ignore.case = TRUE)
  bound <- function(low) {
    at <- if (percent) stats::quantile(values, if (low) n / 100 else 1 - n / 100, names = FALSE) else if (low) values[n] else values[length(values) - n + 1]  # nolint: line_length_linter.
    sprintf("%s is %s %s", found$name, if (low) (if (percent) "at least" else "above") else (if (percent) "at most" else "below"),
            format(signif(at, 12), digits = 15))
  }
  if (n >= length(values) || percent && n >= 50) return(out)
  sides <- unique(vapply(stats::na.omit(hit[2:3]), is_low, NA))
  bounds <- paste(vapply(sides, bound, ""), collapse = " and ")
  reworded(out, trimws(paste(sub("[?.! ]+$", "", rest), "where", bounds)), sprintf("Took %s to mean rows where %s.", quoted(trimws(sub("^,", "", hit[1]))),  # nolint: line_length_linter.
                                                                              bounds))
}

#' The yes/no column that a clause tells of, and the level it tells
#' @section Shape: list(name, level), or NULL where the clause says anything else.
#' @noRd
clause_level <- function(study, clause) {
  clause <- trimws(gsub("[?.!,]+$", "", clause))
  if (!nzchar(clause)) return(NULL)
  columns <- Filter(function(col) col$kind == "yes_no" && length(col$levels) == 2, all_columns(study))
  denied <- grepl("\\b(not|never|no|neither|nor|without)\\b|n['\u2019]t\\b", clause, ignore.case = TRUE)
  bare <- trimws(gsub("(?i)\\b(?:that|who|which|did|do|does|have|has|had|were|was|are|is|been|not|never|neither|nor|also|then|later|both|it|they|the|didn|don|doesn|weren|wasn|hasn|haven|hadn|a|an|the|any|with|without|used|use|uses)\\b|['\u2019]t\\b",  # nolint: line_length_linter.
                      " ", clause, perl = TRUE))
  bare <- gsub(" +", " ", bare)
  if (!nzchar(bare) || !length(columns)) return(NULL)
  stems <- stem_words(tolower(strsplit(bare, " ")[[1]]))
  own <- Filter(function(col) all(vapply(stems, function(s) any(alike_stems(s, stems_of(name_words(col$name))[[1]])), NA)), columns)
  if (length(own) == 1) return(list(name = own[[1]]$name, level = if (denied) own[[1]]$levels[1] else own[[1]]$levels[2], said =
    sprintf("%s is %s", own[[1]]$name, if (denied) own[[1]]$levels[1] else own[[1]]$levels[2])))
  amount_had(study, clause, bare, denied) %||% level_had(study, bare, denied)
}

#' "had a discount", of a column of amounts from zero: above zero, or zero
#' @noRd
amount_had <- function(study, clause, bare, denied) {
  if (!grepl("\\b(have|has|had|with|without)\\b", clause, ignore.case = TRUE)) return(NULL)
  found <- numeric_in_text(study, bare)
  if (is.null(found) || tolower(found$said) != tolower(bare)) return(NULL)
  values <- understood(study, found$name, found$col$table)
  if (!any(values == 0, na.rm = TRUE) || any(values < 0, na.rm = TRUE)) return(NULL)
  list(name = found$name, level = if (denied) "0" else "above 0", said = sprintf("%s is %s", found$name, if (denied) "0" else "above 0"))
}

#' "are smokers", "are in the north": levels of one column that the words stand for, as the vocabulary knows them
#' @noRd
level_had <- function(study, bare, denied) {
  vocabulary <- study_vocabulary(study)
  words <- sub("(?i)^(?:in|from|on|at|of) ", "", bare, perl = TRUE)
  state <- parse_question(words, vocabulary)
  groups <- state$groups
  # ("own a home", of home_owner with the level own: the column whose name and level together say it all)
  stems <- stem_words(tolower(strsplit(words, " ")[[1]]))
  if (length(groups) > 1) groups <- Filter(function(g) all(stems %in% c(stem_words(tolower(g$levels)), stems_of(name_words(vocabulary$columns$name[g$column]))[[1]])),  # nolint: line_length_linter.
                                           groups)
  if (length(groups) != 1 || isTRUE(groups[[1]]$numeric) || any(state$type == "unknown")) return(NULL)
  g <- groups[[1]]
  name <- vocabulary$columns$name[g$column]
  levels <- if (xor(denied, isTRUE(g$negated))) setdiff(unique(vocabulary$values$level[vocabulary$values$column == g$column]), g$levels) else g$levels
  if (!length(levels)) return(NULL)
  list(name = name, level = levels[1], said = sprintf("%s is %s", name, paste(levels, collapse = " or ")))
}

#' "survive" and "survived", "swarm" and "swarmed": stems that share their beginning
#' @noRd
alike_stems <- function(stem, own) {
  stem == own | nchar(stem) >= 4 & startsWith(own, substr(stem, 1, nchar(stem) - 1)) | nchar(own) >= 4 & startsWith(stem, own)
}

#' "except those that swarmed", "excluding hives that survived": the other level of the yes/no column
#' @noRd
those_left_out <- function(out) {
  form <- paste0("(?i),? *\\b(?:except(?:ing)?(?: for)?|excluding|other than|apart from|not counting|but not|leaving out|without)(?: (?:the|all|any|for))*",  # nolint: line_length_linter.
                 "(?: (?:those|ones|\\p{L}+))? (?:that|who|which) ((?:[\\p{L}'\u2019]+ ?){1,4}?)(?=$|[?.!,]| by | in | for | per | on | between | differ| with )")  # nolint: line_length_linter.
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  found <- clause_level(out$study, hit[2])
  if (is.null(found)) return(out)
  levels <- find_column(out$study, found$name)$levels
  if (find_column(out$study, found$name)$kind != "yes_no") return(out)
  reworded(out, sub(hit[1], sprintf(" where %s is %s", found$name, setdiff(levels, found$level)), out$text, fixed = TRUE),
           sprintf("Took %s to mean that %s is %s.", quoted(trimws(sub("^,", "", hit[1]))), found$name, setdiff(levels, found$level)))
}

#' "that swarmed but survived", "that neither swarmed nor survived": two conditions on yes/no columns
#' @noRd
two_conditions <- function(out) {
  stop <- "(?=$|[?.!,]| by | in the | for | per | among | across | differ| than )"
  forms <- c(sprintf("(?i)\\b(?:that|who|which) (?:have |had |did )?neither ((?:[\\p{L}'\u2019]+ ?){1,4}?) nor ((?:[\\p{L}'\u2019]+ ?){1,5}?)%s", stop),  # nolint: line_length_linter.
             sprintf("(?i)\\b(?:that|who|which) (?:both )?((?:[\\p{L}'\u2019]+ ?){1,5}?),? (?:but|and|yet)(?: then| also)? ((?:[\\p{L}'\u2019]+ ?){1,5}?)%s", stop))  # nolint: line_length_linter.
  for (k in 1:2) {
    hit <- stringi::stri_match_first_regex(out$text, forms[k])[1, ]
    if (is.na(hit[1])) next
    lead <- if (k == 1) "not " else ""
    sides <- lapply(paste0(lead, hit[2:3]), function(clause) clause_level(out$study, clause))
    if (any(vapply(sides, is.null, NA)) || sides[[1]]$name == sides[[2]]$name) next
    both <- paste(vapply(sides, `[[`, "", "said"), collapse = " and ")
    return(reworded(out, sub(hit[1], paste("where", both), out$text, fixed = TRUE), sprintf("Took %s to mean that %s.", quoted(hit[1]), both)))
  }
  out
}

#' "mean yield of hives with missing mites after": rows in which another column has no value
#' @noRd
where_missing <- function(out) {
  asked <- "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:mean|average|median|total|sum|compare|describe|distribution|share|percentage|proportion)\\b|^ *(?:does|do|did|is|are) .+ (?:differ|higher|lower|different)"  # nolint: line_length_linter.
  if (!grepl(asked, out$text, perl = TRUE)) return(out)
  form <- paste0("(?i)\\b(?:with|where|having|in which|for which|whose) (?:an? |the |their )?(?:(?:missing|unknown|no(?: value of| record of| data on)?) (?:the |their )?((?:[\\p{L}_0-9.]+ ?){1,4})|",  # nolint: line_length_linter.
                 "((?:[\\p{L}_0-9.]+ ?){1,4}?) (?:is|are|was|were) (?:missing|unknown|not recorded))|\\bwithout (?:an? |any )?(?:value|record|entry)s? (?:of|for|in) (?:the |their )?((?:[\\p{L}_0-9.]+ ?){1,4})")  # nolint: line_length_linter.
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  said <- stats::na.omit(hit[2:4])[1]
  columns <- all_columns(out$study)
  found <- column_in_text(columns, said, named_phrases(out$study))
  # ("weight at the end", of weight_end_kg)
  if (is.null(found) || !startsWith(tolower(trimws(said)), tolower(found$said))) {
    own <- named_column(trimws(said), study_vocabulary(out$study))
    if (!is.null(own)) found <- list(name = own$name, said = trimws(sub(paste0("\\Q", own$rest, "\\E$"), "", trimws(said), perl = TRUE)),
                                     col = find_column(out$study, own$name))
  }
  if (is.null(found) || !startsWith(tolower(trimws(said)), tolower(found$said)) || !isTRUE(found$col$missing > 0)) return(out)
  whole <- if (is.na(hit[3])) up_to_words(hit[1], said, found$said) else hit[1]
  name <- paste0(found$name, "_missing")
  with_derived(out, name, "missing", found$name, sub(whole, sprintf("where %s is yes", name), out$text, fixed = TRUE))
}

#' "hives not treated with syrup", "patients given placebo": the level says it all
#' @noRd
treated_with <- function(out) {
  act <- "(?:treated with|given|receiving|received|receive|assigned to|allocated to|randomi[sz]ed to|fed with|fed|dosed with|exposed to)(?: the| a| an)?"  # nolint: line_length_linter.
  form <- sprintf("(?i)\\b(?:(?:that|who|which) )?(?:(?:are|were|was|is|have been|had been|did|do|does) )?(?:(not|never) )?(?:been )?%s (?=[\\p{L}0-9])", act)  # nolint: line_length_linter.
  at <- stringi::stri_locate_first_regex(out$text, form)[1, ]
  if (is.na(at[1])) return(out)
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  rest <- stringi::stri_sub(out$text, at[2] + 1)
  # only before a level of some column, where the verb itself names none
  vocabulary <- study_vocabulary(out$study)
  words <- strsplit(gsub("[?.!,]+", " ", rest), " +")[[1]]
  level <- any(vapply(seq_len(min(4, length(words))), function(n) joined_stems(paste(words[seq_len(n)], collapse = " ")) %in% vocabulary$values$phrase,  # nolint: line_length_linter.
                      NA))
  own <- stem_words(tolower(strsplit(trimws(hit[1]), " ")[[1]]))
  if (!level || any(own %in% setdiff(vocabulary$terms$stem, stem_words(english$stop)))) return(out)
  reworded(out, paste0(stringi::stri_sub(out$text, 1, at[1] - 1), if (is.na(hit[2])) "with " else "without ", rest))
}

#' "which customers had no returns": in none of their rows, where a yes/no column tells of each row
#' @noRd
had_none <- function(out) {
  hit <- stringi::stri_match_first_regex(out$text, "(?i)^ *(?:which|what) (\\p{L}+) (?:had|have|has|with) no (\\p{L}+)[?.! ]*$")[1, ]
  if (is.na(hit[1])) return(out)
  found <- clause_level(out$study, hit[3])
  units <- Filter(function(col) col$kind %in% c("id", "category") && any(key_stems(col$name) %in% stem_words(tolower(hit[2]))) &&
    2 * col$distinct <= nrow(out$study$tables[[col$table]]$data), all_columns(out$study))
  if (is.null(found) || length(units) != 1 || find_column(out$study, found$name)$kind != "yes_no") return(out)
  reworded(out, sprintf("which %s never %s anything?", hit[2], paste(name_words(found$name), collapse = " ")))
}

#' "older than a year": one of the unit
#' @noRd
one_of_unit <- function(out) {
  form <- "(?i)\\b((?:[\\p{L}]+er|more|less) than|over|under|above|below|at least|at most) (?:a|an|one) (year|month|week|day|hour|minute|kilometre|mile|metre|kilogram|kilo|litre|pound)\\b(?! (?:ago|before|after|earlier|later))"  # nolint: line_length_linter.
  reworded(out, gsub(form, "\\1 1 \\2", out$text, perl = TRUE))
}

#' "apiaries starting with A": the levels of the column before it that do so
#' @noRd
begins_with <- function(out) {
  form <- "(?i)\\b([\\p{L}_]+)(?: (?:that|which|whose names?|with names?))? (start(?:s|ing)?|begin(?:s|ning)?|end(?:s|ing)?) (?:with|in|on) (?:the letters? )?['\"\u201c]?([\\p{L}0-9-]{1,20})['\"\u201d]?(?=$|[?.!, ])"  # nolint: line_length_linter.
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  columns <- Filter(function(col) col$kind %in% c("category", "ordered", "id"), all_columns(out$study))
  found <- column_of_words(columns, hit[2])
  if (is.null(found)) return(out)
  values <- unique(as.character(understood(out$study, found$name, find_column(out$study, found$name)$table)))
  values <- values[!is.na(values)]
  fits <- if (grepl("^end", hit[3], ignore.case = TRUE)) values[endsWith(tolower(values), tolower(hit[4]))] else values[startsWith(tolower(values), tolower(hit[4]))]  # nolint: line_length_linter.
  if (!length(fits) || length(fits) > 60 || length(fits) == length(values)) return(out)
  whole <- sub(hit[1], " ", out$text, fixed = TRUE)
  name <- paste0(found$name, "_chosen")
  kept <- sort(fits)
  if (length(kept) == 1) return(reworded(out, sub(paste0("(?i)(?: (?:in|of|for|among|at|from))? *\\Q", hit[1], "\\E"),
    sprintf(" where %s is %s", found$name, kept), out$text, perl = TRUE), sprintf("%s %s %s: %s.", capital(found$name), hit[3], quoted(hit[4]), kept)))  # nolint: line_length_linter.
  with_derived(out, name, "equals", found$name, trimws(paste(sub("(?i) (?:in|of|for|among|at|from) *$", "", sub("[?.! ]+$", "", gsub(" +", " ", whole)), perl = TRUE),  # nolint: line_length_linter.
    sprintf("where %s is yes", name))), level = kept) |>
    (\(o) { if (!identical(o, out)) o$told <- c(o$told, sprintf("%s %s %s: %s.", capital(found$name), hit[3], quoted(hit[4]), some_of(kept, 8))); o })()  # nolint: line_length_linter.
}

#' "before the 10th", of data that lies within one month
#' @noRd
day_of_only_month <- function(out) {
  form <- "(?i)\\b(before|after|since|from|until|by|on|to|and|between) the ([0-9]{1,2})(?:st|nd|rd|th)\\b(?! (?:percentile|quantile|of|row|place|visit|week|month|day|january|february|march|april|may|june|july|august|september|october|november|december))"  # nolint: line_length_linter.
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  dates <- date_columns(out$study)
  if (length(dates) != 1) return(out)
  days <- understood(out$study, dates, find_column(out$study, dates)$table)
  months <- unique(format(days[!is.na(days)], "%B %Y"))
  if (length(months) != 1) return(out)
  reworded(out, gsub(form, sprintf("\\1 \\2 %s", months), out$text, perl = TRUE), sprintf("Days are those of %s, the only month in the data.", months))  # nolint: line_length_linter.
}
