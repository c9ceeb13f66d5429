# Conditions in everyday words, put as plain ones ("where strength_before is at least 11.2") before the question is read.

#' Turns of phrase that narrow the rows, each with the words that must be there for it
#' @noRd
turns_of_conditions <- function() {
  list(
    turn("\\p{L}", level_before_rows), turn("^ *(only|just|for|among) [^:]+: ", only_last),
    turn("[0-9] ?(k|thousand|mn|mio|millions?|bn|billions?)\\b|[\u20ac$\u00a3] ?[0-9.,]+ ?m\\b", amount_in_thousands),
    turn("neither agree nor disagree", undecided_about), turn("\\bwho\\b.*\\b(or|and|than|versus|vs)\\b.*\\bwho\\b", those_who_or_who),
    turn("[(].*[0-9].*[)]", condition_in_brackets),
    turn("\\p{L}(ed|en)\\b.*\\b(once|twice|[0-9]+ times|(two|three|four|five) times)\\b", done_times),
    turn("\\p{L} (scores?|values?|results?|marks?|levels?|measurements?|readings?)\\b", plain_noun_after),
    turn("^ *(what |which )?(is |was )?(the )?(share|proportion|percentage|percent|fraction) (with|having|whose|who|that)\\b", share_of_rows),
    turn("\\b(from|in|of|for|with|between)? ?[\\p{L}_]+ [0-9]+ (to|through|until|[-\u2013]) ?[0-9]+\\b", levels_from_to),
    turn("\\bbut\\b|\\bexcept|exclud|without|leav(e|ing) out|not counting|omit|ignor|\\bdrop|\\bremov|discard|disregard|(filter|throw)(ing)? (out|away)", denied_bound),  # nolint: line_length_linter.
    turn("\\bwith\\b.*\\band\\b.*without\\b", with_and_without_it),
    turn("^ *(what |which )?(is |was )?(the )?(share|proportion|percentage|percent|fraction) of ", share_of_level_that),
    turn("^ *(the )?[a-z]{3,}est .* (each|every)\\b", extreme_of_each), turn("^ *(which|what) .* no ", level_in_none),
    turn("(lowest|highest|smallest|largest|top|bottom)", extreme_rows_of),
    turn("(top|bottom|upper|lower|highest|lowest) .*(tertile|quartile|quintile|decile)", end_of_quantiles),
    turn("(quarter|third|half|fifth|tenth|quartile|quintile|decile|tertile|per ?cent|%)", part_of_measure),
    turn("(excluding|without|leaving out|trimming|dropping|omitting|ignoring|exclude|leave out|drop) .*(lowest|highest|top|bottom|smallest|largest|biggest|most extreme|[a-z]{3,}est\\b)",  # nolint: line_length_linter.
         ends_left_out),
    turn("(except|excluding|other than|apart from|not counting|but not|leaving out|without)", those_left_out),
    turn("\\bneither\\b|\\b(that|who|which)\\b.*\\b(but|and|yet)\\b", two_conditions),
    turn("^ *(among|amongst|for|in|of) .*, *(what|how|show|give|describe)", clause_in_front),
    turn("\\b(among|amongst|for|of) .*\\bwho .*(more|less|fewer|longer|shorter) than [0-9]", who_beyond),
    turn("\\b(where|in which|when|with|had)\\b", rows_of_event),
    turn("missing|without an? |no (value|record|entry|data)|not recorded|unknown", where_missing),
    turn("\\b(treated|given|receiv\\w*|assigned|allocated|randomi[sz]ed|fed|dosed|exposed)\\b", treated_with),
    turn("\\b(which|what) .* (had|have|has|with) no ", had_none),
        turn("\\b(than|over|under|above|below|least|most) (a|an|one) |\\b(a|an|one) \\w+ or (longer|more|less|shorter)", one_of_unit),
    turn("\\b(start|begin|end)", begins_with), turn("[0-9](st|nd|rd|th)\\b", day_of_only_month))
}

#' "above 40k", "over 2 million": the figure in full, or in the size its column is measured in
#'
#' A level that is written so ("5k" among distances) is left as it is, and so is "per 10 thousand".
#' @noRd
amount_in_thousands <- function(out) {
  form <- "(?i)(?<![\\p{L}_0-9.,])([$\u20ac\u00a3] ?)?([0-9]+(?:,[0-9]{3})*(?:\\.[0-9]+)?) ?(k|thousand|mn|mio|millions?|bn|billions?|m)\\b"
  hits <- stringi::stri_match_all_regex(out$text, quick_form(form))[[1]]
  phrases <- study_vocabulary(out$study)$values$phrase
  for (i in seq_len(nrow(hits))) {
    hit <- hits[i, ]
    size <- tolower(hit[4])
    if (size == "m" && is.na(hit[2])) next
    before <- substr(out$text, 1, regexpr(hit[1], out$text, fixed = TRUE) - 1)
    if (grepl("(?i)\\b(per|every|each|an?) $", before, perl = TRUE) || joined_stems(hit[1]) %in% phrases) next
    scale <- if (size %in% c("k", "thousand")) 1e3 else if (grepl("^b", size)) 1e9 else 1e6
    found <- numeric_in_text(out$study, out$text)
    own <- if (is.null(found)) 1 else size_of_unit(found$col$unit)
    value <- as.numeric(gsub(",", "", hit[3])) * scale / own
    out <- reworded(out, sub(hit[1], paste0(if (!is.na(hit[2])) trimws(hit[2]), format(value, digits = 15, scientific = FALSE)), out$text, fixed = TRUE),  # nolint: line_length_linter.
                    if (own > 1) sprintf("Took %s to mean %s in %s, the unit of %s.", quoted(trimws(hit[1])), format_plain(value), found$col$unit, found$name)  # nolint: line_length_linter.
                    else sprintf("Took %s to mean %s.", quoted(trimws(hit[1])), format(value, big.mark = ",", scientific = FALSE)))
  }
  out
}

#' How much one of a unit is: "thousand USD" is 1000
#' @noRd
size_of_unit <- function(unit) {
  if (is.null(unit) || is.na(unit)) return(1)
  if (grepl("thousand", unit)) 1e3 else if (grepl("billion", unit)) 1e9 else if (grepl("million", unit)) 1e6 else 1
}

#' "among those dissatisfied (satisfaction under 5)": what the brackets say is the condition
#' @noRd
condition_in_brackets <- function(out) {
  form <- "(?i)\\b(?:among|amongst|for|of|in|with) (?:the |those |only |all )*((?:[\\p{L}-]+ ){0,3})[(]([^()]+)[)]"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  vocabulary <- study_vocabulary(out$study)
  found <- numeric_in_text(out$study, hit[3])
  bound <- "\\b(over|under|above|below|less than|more than|at least|at most|or more|or less|older|younger|[<>]=?|=|is|are) ?"
  if (is.null(found) || !grepl(paste0(bound, "[0-9]"), hit[3], perl = TRUE) && !grepl("[0-9] or (more|less|over|older|younger)", hit[3])) return(out)
  # a word before the brackets that tells of another column stays a condition of its own
  lead <- parse_question(hit[2], vocabulary)
  named <- unique(c(vocabulary$columns$name[vapply(lead$groups, function(g) g$column, 1L)], vapply(lead$filters, function(f) f$column, "")))
  if (length(setdiff(named, found$name))) {
    # ("of anaemic women (hb below 12)": the brackets explain the word that nothing else knows)
    explained <- vapply(lead$items[lead$type == "unknown"], `[[`, "", "text")
    if (!length(explained)) return(out)
    kept <- gsub(" +", " ", gsub(paste0("\\b(", paste(as_literal(explained), collapse = "|"), ")\\b"), "", hit[2], perl = TRUE))
    opening <- sub("(?i)^(among|amongst|for|of|in|with)\\b.*$", "\\1", hit[1], perl = TRUE)
    return(reworded(out, sub(hit[1], paste(opening, trimws(kept), "with", hit[3]), out$text, fixed = TRUE),
                    sprintf("Took %s to mean %s.", quoted(paste(explained, collapse = " ")), hit[3])))
  }
  reworded(out, sub(hit[1], paste("where", hit[3]), out$text, fixed = TRUE), sprintf("Took %s to mean %s.", quoted(trimws(hit[1])), hit[3]))
}

#' "autumn score", of maths_autumn beside reading_score: the telling word names the column, the plain noun does not
#' @noRd
plain_noun_after <- function(out) {
  form <- "(?i)\\b([\\p{L}]{3,}) (scores?|values?|results?|marks?|levels?|measurements?|readings?)\\b"
  hits <- stringi::stri_match_all_regex(out$text, quick_form(form))[[1]]
  columns <- all_columns(out$study)
  own <- lapply(columns, function(col) name_stems(col$name))
  for (i in seq_len(nrow(hits))) {
    word <- stem_words(tolower(hits[i, 2])); noun <- stem_words(tolower(hits[i, 3]))
    with_word <- which(vapply(own, function(stems) word %in% stems, NA))
    with_noun <- which(vapply(own, function(stems) noun %in% stems, NA))
    if (length(with_word) != 1 || !length(with_noun) || with_word %in% with_noun || !columns[[with_word]]$kind %in% c("number", "count")) next
    out <- reworded(out, sub(hits[i, 1], columns[[with_word]]$name, out$text, fixed = TRUE),
                    sprintf("Took %s to mean the column %s.", quoted(hits[i, 1]), columns[[with_word]]$name))
  }
  out
}

#' "among customers who waited less than 1 minute, what is satisfaction": the condition goes to the end
#' @noRd
clause_in_front <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *((?:among|amongst|for|in|of) [^,]*[0-9][^,]*), *((?:what|how|show|give|describe)\\b.+?)[?.! ]*$")
  if (is.na(hit[1]) || grepl("[0-9]", hit[3])) return(out)
  reworded(out, paste(hit[3], hit[2]))
}

#' "satisfaction among customers who waited less than 1 minute": a bound on a measure that the verb names, no comparison
#' @noRd
who_beyond <- function(out) {
  form <- "(?i)\\b(?:among|amongst|for|of) (?:the |those |all )?(?:[\\p{L}]+ )?who (?:had |have |has )?(?:an? )?([\\p{L}_]+)(?: for)? (more|less|fewer|longer|shorter) than ([0-9][0-9.,]*)(?: (minutes?|hours?|seconds?|days?|weeks?|months?|years?))?(?=$|[?.!,]| by | in | per )"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  measured <- numeric_columns(out$study)
  own <- column_in_text(measured, hit[2], kin_phrases(out$study, hit[2])) %||% stem_column(measured, hit[2])
  if (is.null(own)) return(out)
  sign <- if (tolower(hit[3]) %in% c("more", "longer")) "above" else "below"
  rest <- trimws(gsub(" +", " ", sub(hit[1], " ", out$text, fixed = TRUE)))
  reworded(out, sprintf("%s where %s is %s %s%s", without_mark(rest), own$name, sign, hit[4], if (is.na(hit[5])) "" else paste("", hit[5])))
}

#' The one column whose name holds the stem of a verb ("waited" of wait_minutes)
#' @noRd
stem_column <- function(columns, word) {
  own <- Filter(function(col) stem_words(tolower(word)) %in% name_stems(col$name), columns)
  if (length(own) == 1) list(name = own[[1]]$name, col = own[[1]])
}

#' "share with income above 40000": of the rows
#' @noRd
share_of_rows <- function(out) {
  form <- "(?i)^( *(?:what |which )?(?:is |was )?(?:the )?(?:share|proportion|percentage|percent|fraction)) (with|having|whose|who|that)\\b(?=.*\\b(?:(?:over|under|above|below|than|least|most|exceeding) [^ ]?[0-9]|amongs?t?\\b))"  # nolint: line_length_linter.
  reworded(out, sub(form, "\\1 of rows \\2", out$text, perl = TRUE))
}

#' "in years 7 to 9", of a column that holds both: the values between
#' @noRd
levels_from_to <- function(out) {
  form <- "(?i)\\b([\\p{L}_]+) ([0-9]{1,4}) ?(?:to|through|until|-|\u2013) ?([0-9]{1,4})\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  columns <- Filter(function(col) col$kind %in% c("category", "ordered", "number", "count"), all_columns(out$study))
  found <- column_of_words(columns, hit[2])
  ends <- as.numeric(hit[3:4])
  if (is.null(found) || ends[1] >= ends[2]) return(out)
  values <- unique(understood(out$study, found$name, find_column(out$study, found$name)$table))
  if (!all(ends %in% suppressWarnings(as.numeric(as.character(values))))) return(out)
  lead <- sprintf("(?i)(?:\\b(?:in|of|for|from|among|at) (?:the )?)?\\Q%s\\E", hit[1])
  reworded(out, sub(lead, sprintf("where %s is between %s and %s", found$name, hit[3], hit[4]), out$text, perl = TRUE))
}

#' "everyone but surgery patients", "excluding patients over 90": what is left out is put as what stays
#' @noRd
denied_bound <- function(out) {
  out$text <- denied_last(out$text)
  text <- gsub("(?i)\\b(everyone|everybody|everything|anyone|anybody|anything|all(?: (?:the )?(?:other )?\\p{L}+s)?|any \\p{L}+) but (?!not\\b)(?=\\p{L})", "\\1 except ",  # nolint: line_length_linter.
               out$text, perl = TRUE)
  form <- sprintf("(?i)\\b%s ((?:(?:the|any|all|those|\\p{L}+s|people) ){0,3})((?:with|whose|having|where) (?:an? |the )?(?:\\p{L}+ ){1,3}?(?:is |are |of )?)?(?:who are |that are |aged )?(over|above|older than|more than|greater than|higher than|longer than|under|below|younger than|less than|fewer than|lower than|shorter than|at least|at most) (?=[0-9])",  # nolint: line_length_linter.
                  denying_words())
  hit <- match_groups(text, form)
  if (!is.na(hit[1])) {
    turned <- c(over = "at most", above = "at most", `older than` = "at most", `more than` = "at most", `greater than` = "at most", `higher than` = "at most",  # nolint: line_length_linter.
                `longer than` = "at most", under = "at least", below = "at least", `younger than` = "at least", `less than` = "at least",
                `fewer than` = "at least", `lower than` = "at least", `shorter than` = "at least", `at least` = "under", `at most` = "over")
    plain <- turned[[tolower(hit[4])]]
    # ("patients at most 90" would leave open of what; their age is not)
    aged <- grepl("older|younger", hit[4]) || grepl("^(patients|people|members|persons|women|men|children|students|pupils|customers|clients|participants|respondents|adults|employees|staff|donors|players|users|visitors|keepers)$",  # nolint: line_length_linter.
                                                     trimws(hit[2]), ignore.case = TRUE)
    age <- Filter(function(col) "age" %in% name_stems(col$name), numeric_columns(out$study))
    after <- substring(text, regexpr(hit[1], text, fixed = TRUE) + nchar(hit[1]))
    bare <- grepl("^[0-9.,]+ *([?.!,]|$|by |in |for |per |on |with |years)", after)
    named <- if (!is.na(hit[3])) hit[3] else if (aged && bare && length(age) == 1) paste0("with ", age[[1]]$name, " ") else paste0("with ")
    text <- sub(hit[1], paste0(named, plain, " "), text, fixed = TRUE)
    return(reworded(out, text, sprintf("Took %s to leave those rows out.", quoted(trimws(hit[1])))))
  }
  denied_clause(reworded(out, text))
}

#' Words that leave rows out, as a part of a pattern
#' @noRd
denying_words <- function() {
  paste0("(?:except(?:ing)?(?: for)?|exclud(?:e|ing)|without|leav(?:e|ing) out|not counting|omit(?:ting)?|ignor(?:e|ing)|drop(?:ping)?|",
         "other than|apart from|remov(?:e|ing)|discard(?:ing)?|disregard(?:ing)?|filter(?:ing)? out|throw(?:ing)? (?:out|away))")
}

#' "remove trials slower than 1000 ms and compare the conditions": what is left out is said last
#' @noRd
denied_last <- function(text) {
  asks <- paste0("(?:please )?(?:the )?(?:give|show|comput|calculat|compare|find|tell|report|what|how|is|are|do|does|did|was|were|mean|average|median|total|",  # nolint: line_length_linter.
                 "correlat|test|plot|draw|run|fit|describe|summari[sz]|count|which|share|percentage|proportion|number|regress|rank|list|model)")
  form <- sprintf("(?i)^ *(?:after |by |when |if (?:we|i|you) |please |now )?%s (.+?)(?:,? and then |,? then |,? and |, |: )(?=%s)(.+?)[?.! ]*$",
                  denying_words(), asks)
  hit <- match_groups(text, form)
  if (is.na(hit[1])) text else sprintf("%s, excluding %s", hit[3], hit[2])
}

#' "only correct trials: rt by condition": the condition is said last
#' @noRd
only_last <- function(out) {
  out$text <- sub("(?i)^ *(only|just|for|among) ([^:?!]{2,60}): +(.{3,}?)[?.! ]*$", "\\3, \\1 \\2", out$text, perl = TRUE)
  out
}

#' "excluding rt above 1000", "excluding rows with correct = 0": a single condition, turned round
#' @noRd
denied_clause <- function(out) {
  form <- sprintf("(?i),? *\\b%s (?!me\\b)([^,;:?!]+?)(?= *(?:[?!,;]|[.] |[.]?$| by \\p{L}| per \\p{L}| in each | for each ))", denying_words())
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !grepl("[0-9=]", hit[2])) return(out)
  # (what the rows are called is no measure: "trials over 1000 ms")
  clause <- sub("(?i)^(?:the |any |all |those )*[\\p{L}]+s (?=(?:over|above|under|below|slower|faster|longer|shorter|with|where|whose|that|more|less)\\b)", "rows ",  # nolint: line_length_linter.
                hit[2], perl = TRUE)
  state <- parse_question(paste(if (grepl("^rows ", clause)) "show" else "show rows with", clause), study_vocabulary(out$study))
  level <- if (!length(state$filters) && length(state$groups) == 1 && grepl("= *[0-9]", clause)) state$groups[[1]]
  if (!is.null(level) && !level$negated && length(level$levels) == 1) state$filters <- list(group_filter(state, level))
  else if (length(state$groups)) return(out)
  if (length(state$filters) != 1) return(out)
  f <- state$filters[[1]]
  # (rows named by their keys are left out by name)
  if (identical(find_column(out$study, f$column)$kind, "id")) return(out)
  turned <- c(">" = "at most", ">=" = "under", "<" = "at least", "<=" = "over", "==" = "not")
  if (!f$op %in% names(turned) || length(f$value) != 1) return(out)
  # (of yes and no the other one stays)
  levels <- as.character(find_column(out$study, f$column)$levels)
  other <- if (f$op == "==" && length(levels) == 2 && as.character(f$value) %in% levels) setdiff(levels, as.character(f$value))
  value <- if (is.numeric(f$value)) format(f$value, digits = 15, scientific = FALSE) else f$value
  stays <- if (length(other)) sprintf(" where %s = %s", f$column, other) else sprintf(" with %s %s %s", f$column, turned[[f$op]], value)
  reworded(out, sub(hit[1], stays, out$text, fixed = TRUE), sprintf("Took %s to leave those rows out.", quoted(trimws(sub("^,", "", hit[1])))))
}

#' "share of apps tickets not resolved": of the rows at a level, the share for which the clause holds
#' @noRd
share_of_level_that <- function(out) {
  form <- "(?i)^ *(?:what |which )?(?:is |was )?(?:the )?(?:share|proportion|percentage|percent|fraction) of (?:the |all |our )?(.+?)((?: (?:by|per|for each|in each|across) .+?)?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
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
  hit <- match_groups(out$text, "(?i)^ *(?:the |show the |what is the )?([\\p{L}]{3,}est) (\\p{L}+) (?:of|in|for|from|at|on) (?:each|every) ((?:[\\p{L}_]+ ?){1,3})[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  own <- superlative_of(out$study, tolower(hit[2]))
  if (is.null(own)) out else reworded(out, sprintf("%s %s by %s", if (own$low) "minimum" else "maximum", own$col$name, hit[4]))
}

#' The one column that a superlative is of ("heaviest" of weight_g), and whether it asks for low values
#' @section Shape: list(col, low), or NULL where none or several columns could be meant.
#' @noRd
superlative_of <- function(study, word) {
  table <- study_vocabulary(study)$lexicon$adjectives
  known <- table[table$word == word, , drop = FALSE]
  nouns <- stem_words(unique(c(if (word %in% c("oldest", "youngest")) "age", known$noun)))
  own <- Filter(function(col) any(telling_stems(col$name) %in% nouns), numeric_columns(study))
  if (length(own) == 1) list(col = own[[1]], low = isTRUE(known$low[1]) || word == "youngest")
}

#' A bound on a column, as a question would say it
#' @noRd
bound_words <- function(name, sign, at) sprintf("%s is %s %s", name, sign, format(signif(at, 12), digits = 15))

#' The value of a column at which a part of its rows begins or ends ("the top quarter")
#' @noRd
bound_of_part <- function(study, col, part, low) {
  share <- share_of_part(part)
  stats::quantile(understood(study, col$name, col$table), if (low) share else 1 - share, na.rm = TRUE, names = FALSE)
}

#' "mean amount for the 20 lowest credit scores": a bound that takes in so many rows of another column
#' @noRd
extreme_rows_of <- function(out) {
  form <- "(?i)\\b(?:of|for|among|in|at|with) (?:the )?(?:([0-9]{1,4}) (lowest|highest|smallest|largest)|(lowest|highest|smallest|largest|top|bottom) ([0-9]{1,4})) (?:values? of )?(?:the )?((?:[\\p{L}_0-9.]+ ?){1,4})"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
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
  reworded(out, trimws(paste(without_mark(rest), sub("^s\\b", "", tail), "where", bound_words(found$name, if (low) "at most" else "at least", bound))),  # nolint: line_length_linter.
           sprintf("The %s %s of %s: rows at %s or %s (rows that tie are taken in).", format_plain(n), side, found$name, format_plain(bound),
                   if (low) "below" else "above"))
}

#' Columns that hold numbers, with the phrases that name them
#' @noRd
numeric_in_text <- function(study, text) {
  columns <- numeric_columns(study)
  column_in_text(columns, text, named_phrases(study, columns))
}

#' The measured column that words name, or that has one of them as its name; as [numeric_in_text()]
#' @noRd
measure_said <- function(study, text) numeric_in_text(study, text) %||% column_of_one_word(numeric_columns(study), text)

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
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) {
    # "with a score in the bottom third"
    turned <- match_groups(out$text, sprintf("(?i)\\b(?:with|whose|having|where) (?:an? |the |their )?((?:[\\p{L}_0-9.]+ ?){1,3}?) (?:is |are |was |were )?(?:in|within|among) the %s %s\\b", ends, part))  # nolint: line_length_linter.
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
  high <- grepl("^(top|upper|high|best|larg|bigg|strong|old|heav|long|fast|rich|great|most|tall|hott)", hit[3], ignore.case = TRUE)
  bound <- bound_of_part(out$study, found$col, hit[4], low = !high)
  told <- sprintf("The %s %s of %s: rows at %s %s.", tolower(hit[3]), tolower(hit[4]), found$name, if (high) "or above" else "or below",
                  format_plain(signif(bound, 6)))
  reworded(out, trimws(paste(gsub(" +", " ", without_mark(rest)), "where", bound_words(found$name, if (high) "at least" else "at most", bound))),  # nolint: line_length_linter.
           told)
}

#' "in the oldest third", "among the 25 % heaviest": the adjective names the column
#' @noRd
part_by_adjective <- function(out, lead, part) {
  forms <- c(sprintf("%s([\\p{L}]{3,}est)(?:-\\p{L}+)? %s(?!\\p{L})(?: of (?:the |all )?\\p{L}+)?", lead, part), sprintf("%s%s ([\\p{L}]{3,}est)(?: \\p{L}+)?(?=$|[?.!,]| by | in )", lead, part))  # nolint: line_length_linter.
  for (k in 1:2) {
    hit <- match_groups(out$text, forms[k])
    if (is.na(hit[1])) next
    word <- tolower(hit[if (k == 1) 3 else 4]); size <- hit[if (k == 1) 4 else 3]
    own <- superlative_of(out$study, word)
    rest <- gsub(" +", " ", sub(hit[1], " ", out$text, fixed = TRUE))
    if (is.null(own) || !narrows_question(out$study, rest, own$col$name)) next
    bound <- bound_of_part(out$study, own$col, size, own$low)
    condition <- bound_words(own$col$name, if (own$low) "at most" else "at least", bound)
    return(reworded(out, trimws(paste(without_mark(rest), "where", condition)),
                    sprintf("The %s %s by %s: rows at or %s %s.", word, size, own$col$name, if (own$low) "below" else "above",
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

#' "excluding the lowest 5 %", "without the three largest values", "without the oldest 5": bounds on the measure of the question
#' @noRd
ends_left_out <- function(out) {
  number <- "([0-9]{1,3}|one|two|three|four|five|ten)"
  # ("the three largest values" as "the largest three values")
  lead <- "(?:excluding|without|leaving out|trimming|dropping|omitting|ignoring|exclude|leave out|drop)"
  ends <- "(lowest|highest|top|bottom|smallest|largest|biggest|[\\p{L}]{3,}est)"
  text <- gsub(sprintf("(?i)\\b(%s (?:the )?)%s %s\\b", lead, number, ends), "\\1\\3 \\2", out$text, perl = TRUE)
  form <- paste0("(?i),? *\\b", lead, " (?:the )?", ends, "(?: and (?:the )?", ends, ")? ?", number,
                 "? ?(%|per ?cent|\\p{L}+)?(?: (?:of|in) (?:the )?((?:[\\p{L}_0-9.]+ ?){1,4}))?(?=$|[?.!,]| by | in | for )")
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || is.na(hit[4]) && is.na(hit[5]) || !counts_rows(out$study, hit[5])) return(out)
  rest <- sub(hit[1], "", text, fixed = TRUE)
  found <- measure_of_ends(out$study, hit, rest)
  if (is.null(found)) return(out)
  n <- if (is.na(hit[4])) 1 else word_number(hit[4])
  values <- sort(understood(out$study, found$name, found$col$table))
  percent <- grepl("%|cent", hit[5])
  bound <- function(low) {
    at <- if (percent) stats::quantile(values, if (low) n / 100 else 1 - n / 100, names = FALSE) else if (low) values[n] else values[length(values) - n + 1]  # nolint: line_length_linter.
    bound_words(found$name, if (low) (if (percent) "at least" else "above") else (if (percent) "at most" else "below"), at)
  }
  if (n >= length(values) || percent && n >= 50) return(out)
  sides <- unique(vapply(stats::na.omit(hit[2:3]), is_low_end, NA, study = out$study))
  bounds <- paste(vapply(sides, bound, ""), collapse = " and ")
  reworded(out, trimws(paste(without_mark(rest), "where", bounds)), sprintf("Took %s to mean rows where %s.", quoted(trimws(sub("^,", "", hit[1]))),  # nolint: line_length_linter.
                                                                              bounds))
}

#' The column whose ends are left out: the one named, the one that the superlative is of, or the one that the rest asks about
#' @noRd
measure_of_ends <- function(study, hit, rest) {
  if (!is.na(hit[6])) return(numeric_in_text(study, hit[6]))
  word <- tolower(hit[2])
  if (word %in% c("lowest", "highest", "top", "bottom", "smallest", "largest", "biggest")) return(numeric_in_text(study, rest))
  own <- superlative_of(study, word)
  if (!is.null(own)) list(name = own$col$name, col = own$col)
}

is_low_end <- function(word, study) grepl("^(low|bott|small)", word, ignore.case = TRUE) || isTRUE(superlative_of(study, tolower(word))$low)

#' Does a noun behind a number count rows or values, or is there none?
#' @noRd
counts_rows <- function(study, noun) {
  is.na(noun) || grepl("^(%|per ?cent|values?|rows?|observations?)$", noun, ignore.case = TRUE) || names_rows(study_vocabulary(study), noun)
}

#' "list the sessions where a player got injured", "show matches with an injury": the rows for which a column says yes
#' @noRd
rows_of_event <- function(out) {
  form <- paste0("(?i)^ *(?:please )?(list|show(?: me)?|display|find|give me|which|what)(?: the| all)* ([\\p{L}_]+) (?:where|in which|when|with|that had|which had|had) ",  # nolint: line_length_linter.
                 "(?:(?:an? |any |the |some )?[\\p{L}]+ (?:was|were|got|gets|is|had|has|have) )?(?:an? |any )?(?:been )?([\\p{L}_]+(?: [\\p{L}_]+)?)[?.! ]*$")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  # (of what comes back in several rows the key says so)
  rows <- names_rows(study_vocabulary(out$study), tolower(hit[3])) || !is.null(column_of_words(keys_of(out$study, single = FALSE), hit[3]))
  if (!rows) return(out)
  event <- column_in_text(yes_no_columns(out$study), hit[4], kin_phrases(out$study, hit[4]))
  if (is.null(event) || tolower(event$said) != tolower(trimws(hit[4]))) return(out)
  reworded(out, sprintf("show rows with %s = %s", event$name, last_of(event$col$levels)))
}

#' "mean yield of hives with missing mites after": rows in which another column has no value
#' @noRd
where_missing <- function(out) {
  asked <- "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:mean|average|median|total|sum|compare|describe|distribution|share|percentage|proportion)\\b|^ *(?:does|do|did|is|are) .+ (?:differ|higher|lower|different)"  # nolint: line_length_linter.
  if (!grepl(asked, out$text, perl = TRUE)) return(out)
  form <- paste0("(?i)\\b(?:with|where|having|in which|for which|whose) (?:an? |the |their )?(?:(?:missing|unknown|no(?: value of| record of| data on)?) (?:the |their )?((?:[\\p{L}_0-9.]+ ?){1,4})|",  # nolint: line_length_linter.
                 "((?:[\\p{L}_0-9.]+ ?){1,4}?) (?:is|are|was|were) (?:missing|unknown|not recorded))|\\bwithout (?:an? |any )?(?:value|record|entry)s? (?:of|for|in) (?:the |their )?((?:[\\p{L}_0-9.]+ ?){1,4})")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
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

#' "older than a year": one of the unit
#' @noRd
one_of_unit <- function(out) {
  form <- "(?i)\\b((?:[\\p{L}]+er|more|less) than|over|under|above|below|at least|at most) (?:a|an|one) (year|month|week|day|hour|minute|kilometre|mile|metre|kilogram|kilo|litre|pound)\\b(?! (?:ago|before|after|earlier|later))"  # nolint: line_length_linter.
  # "a week or longer"
  text <- gsub("(?i)\\b(?:of |for )?(?:a|an|one) (year|month|week|day|hour|minute) or (longer|more|less|shorter)\\b", "of 1 \\1 or \\2", out$text,
      perl = TRUE)
  text <- gsub("(?i)\\bof 1 (\\p{L}+) or (?:longer|more)\\b", "of at least 1 \\1", text, perl = TRUE)
  text <- gsub("(?i)\\bof 1 (\\p{L}+) or (?:shorter|less)\\b", "of at most 1 \\1", text, perl = TRUE)
  reworded(out, gsub(form, "\\1 1 \\2", text, perl = TRUE))
}

#' "apiaries starting with A": the levels of the column before it that do so
#' @noRd
begins_with <- function(out) {
  form <- "(?i)\\b([\\p{L}_]+)(?: (?:that|which|whose names?|with names?))? (start(?:s|ing)?|begin(?:s|ning)?|end(?:s|ing)?) (?:with|in|on) (?:the letters? )?['\"\u201c]?([\\p{L}0-9-]{1,20})['\"\u201d]?(?=$|[?.!, ])"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
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
  with_derived(out, name, "equals", found$name, trimws(paste(sub("(?i) (?:in|of|for|among|at|from) *$", "", without_mark(gsub(" +", " ", whole)), perl = TRUE),  # nolint: line_length_linter.
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

#' The plain word for a bound that is said: "more than" and "over" are "above"
#' @noRd
plain_bound <- function(said) {
  c("more than" = "above", over = "above", above = "above", "higher than" = "above", exceeding = "above",
    "fewer than" = "below", "less than" = "below", under = "below", below = "below", "lower than" = "below",
    "at least" = "at least", "at most" = "at most", "no more than" = "at most", exactly = "=", only = "=")[[tolower(said)]]
}

#' "in the top income quintile": the top quintile of income
#' @noRd
end_of_quantiles <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(top|bottom|upper|lower|highest|lowest) ((?:[\\p{L}_0-9.]+ ){1,3})(tertile|quartile|quintile|decile)\\b")
  found <- if (!is.na(hit[1])) measure_said(out$study, hit[3])
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[3]))) return(out)
  reworded(out, sub(hit[1], sprintf("%s %s of %s", hit[2], hit[4], found$name), out$text, fixed = TRUE))
}

#' "for emergency admissions", of a column emergency with a level of that name: the level, before what the rows are
#' @noRd
level_before_rows <- function(out) {
  # (one of two sides is no condition)
  if (grepl("\\b(than|versus|vs|against|differ\\w*)\\b", out$text, ignore.case = TRUE)) return(out)
  own <- function(col) col$levels[tolower(col$levels) == tolower(name_words(col$name))]
  columns <- Filter(function(col) col$kind %in% c("category", "ordered") && length(own(col)), all_columns(out$study))
  entities <- if (length(columns)) study_vocabulary(out$study)$entities
  for (col in columns) {
    level <- own(col)[1]
    form <- sprintf("(?i)\\b((share|proportion|percentage|percent|number) of |how many |for |of |among |in |only )?(?:the |all )?%s ([\\p{L}]+s)\\b", as_literal(name_words(col$name)))  # nolint: line_length_linter.
    hit <- match_groups(out$text, form)
    if (is.na(hit[1]) || is.na(hit[2]) || !stem_words(tolower(hit[4])) %in% entities) next
    told <- sprintf("Took %s to mean that %s is %s.", quoted(paste(tolower(name_words(col$name)), hit[4])), col$name, quoted(level))
    lead <- or_if_na(hit[2], "")
    if (!is.na(hit[3]) && tolower(hit[3]) != "number") {
      return(reworded(out, sub(hit[1], sprintf("%srows with %s = %s", lead, col$name, level), out$text, fixed = TRUE), told))
    }
    # (said twice, a word would not be read as a column and its level)
    made <- level_column(out, list(column = col$name, level = level))
    if (!is.null(made)) return(reworded(made$out, sub(hit[1], sprintf("%srows with %s = yes", lead, made$name), out$text, fixed = TRUE), told))
  }
  out
}
