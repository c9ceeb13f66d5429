# Clauses about the rows ("those that swarmed but survived", "excluded at least once"), put as plain conditions on columns.

#' "who neither agree nor disagree that they feel safe": the middle answer of that item
#' @noRd
undecided_about <- function(out) {
  form <- "(?i)\\b(?:who |that )?neither agree nor disagree (?:that|with|to) (?:they |the |their )?((?:[\\p{L}_0-9]+ ?){1,5})"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  middle <- function(col) col$levels[grepl("neither|neutral|undecided|not sure|unsure|no opinion", tolower(col$levels))]
  items <- Filter(function(col) col$kind == "ordered" && length(middle(col)) == 1, all_columns(out$study))
  found <- column_in_text(items, hit[2], named_phrases(out$study, items))
  if (is.null(found)) return(out)
  level <- middle(find_column(out$study, found$name))
  reworded(out, sub(up_to_words(hit[1], hit[2], found$said), sprintf("where %s is %s", found$name, level), out$text, fixed = TRUE),
           sprintf("To neither agree nor disagree is the answer %s of %s.", quoted(level), found$name))
}

#' "those who passed or those who failed": the two sides of one column
#' @noRd
those_who_or_who <- function(out) {
  people <- "(?:those|the ones|people|patients|pupils|students|members|customers|participants|respondents|\\p{L}+s)"
  stop <- "(?=$|[?.!,]| on | in | by | at | for | differ| have | score| with )"
  form <- sprintf("(?i),? *(?:\\bbetween )?\\b%s who ((?:[\\p{L}'\u2019]+ ?){1,4}?),? (?:or|and|than|versus|vs\\.?) %s who ((?:[\\p{L}'\u2019]+ ?){1,4}?)%s",  # nolint: line_length_linter.
                  people, people, stop)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  stems <- lapply(hit[2:3], function(side) setdiff(stem_words(tolower(strsplit(side, " ")[[1]])), stem_words(english$stop)))
  if (!all(lengths(stems))) return(out)
  # each side is said by a level of the column or by its name, and the two are not the same level
  side_of <- function(col, own) {
    levels <- which(vapply(stems_of(col$levels), function(l) all(own %in% l), NA))
    if (length(levels) == 1) levels else if (all(own %in% name_stems(col$name))) 0L else NA_integer_
  }
  fits <- Filter(function(col) {
    sides <- vapply(stems, function(own) side_of(col, own), 1L)
    length(col$levels) == 2 && !anyNA(sides) && sides[1] != sides[2]
  }, Filter(function(col) col$kind %in% c("category", "ordered", "yes_no"), all_columns(out$study)))
  if (length(fits) != 1) return(out)
  reworded(out, sub(hit[1], paste(" by", fits[[1]]$name), sub("(?i)^ *who (is|are|was|were) ", "compare ", out$text, perl = TRUE), fixed = TRUE),
           sprintf("Took %s to mean the two sides of %s.", quoted(trimws(sub("^,", "", hit[1]))), fits[[1]]$name))
}

#' "pupils excluded at least once", "customers called more than 3 times": a bound on the count of that name
#' @noRd
done_times <- function(out) {
  form <- paste0("(?i)\\b(?:(?:who|that|which|having) )?(?:(?:was|were|had|have|has|are|is|been) ){0,2}([\\p{L}]+(?:ed|en)) ",
                 "(?:(at least|more than|fewer than|less than|at most|exactly|only|no more than) )?(once|twice|(?:[0-9]+|two|three|four|five) times)( or more)?\\b")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count", all_columns(out$study))
  found <- column_in_text(counts, hit[2], kin_phrases(out$study, hit[2]))
  if (is.null(found)) return(out)
  times <- word_number(sub(" .*$", "", hit[4]))
  sign <- if (!is.na(hit[5])) "at least" else if (is.na(hit[3]) || tolower(hit[3]) %in% c("exactly", "only")) "=" else
    sub("no more than", "at most", sub("fewer than|less than", "below", sub("more than", "above", tolower(hit[3]))))
  plain <- sprintf("where %s %s %s", found$name, sign, times)
  reworded(out, sub(hit[1], plain, out$text, fixed = TRUE), sprintf("Took %s to mean %s.", quoted(hit[1]), sub("^where ", "", plain)))
}

#' "with diabetes and without diabetes" as "with and without diabetes"
#' @noRd
with_and_without_it <- function(out) {
  text <- gsub("(?i)\\bwith (?:a |an |the )?([\\p{L} ]+?) and (?:those )?without (?:a |an |any |the )?(\\1|it|them)\\b", "with and without \\1",
               out$text, perl = TRUE)
  # both sides of a yes/no column are its groups
  hit <- match_groups(text, "(?i)\\bwith and without (?:a |an |any |the )?((?:[\\p{L}_]+ ?){1,3})")
  if (is.na(hit[1])) return(reworded(out, text))
  columns <- yes_no_columns(out$study)
  found <- column_in_text(columns, hit[2], named_phrases(out$study, columns))
  if (is.null(found) || !startsWith(tolower(hit[2]), tolower(found$said))) return(reworded(out, text))
  reworded(out, sub(up_to_words(hit[1], hit[2], found$said), paste("by", found$name), text, fixed = TRUE),
           sprintf("With and without %s: the two sides of %s.", found$said, found$name))
}

#' "which trips caught no monkfish": units of whose rows none is at the level
#' @noRd
level_in_none <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:which|what) (\\p{L}+) (?:\\p{L}+ )?no ((?:[\\p{L}-]+ ?){1,3}?)(?: at all)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  units <- Filter(function(col) any(key_stems(col$name) %in% stem_words(tolower(hit[2]))) && comes_back(out$study, col), all_columns(out$study))
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
  own <- Filter(function(col) all(vapply(stems, function(s) any(alike_stems(s, name_stems(col$name))), NA)), columns)
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
  if (length(groups) > 1) groups <- Filter(function(g) all(stems %in% c(stem_words(tolower(g$levels)), name_stems(vocabulary$columns$name[g$column]))),  # nolint: line_length_linter.
                                           groups)
  if (length(groups) != 1 || isTRUE(groups[[1]]$numeric) || any(state$type == "unknown")) return(NULL)
  g <- groups[[1]]
  name <- vocabulary$columns$name[g$column]
  # ("agree", a level of several items: which of them is not said)
  elsewhere <- unique(vocabulary$values$column[vocabulary$values$level %in% g$levels & vocabulary$values$column != g$column])
  if (length(elsewhere) && !any(stems %in% name_stems(name))) return(NULL)
  levels <- if (xor(denied, isTRUE(g$negated))) setdiff(unique(vocabulary$values$level[vocabulary$values$column == g$column]), g$levels) else g$levels
  if (!length(levels)) return(NULL)
  list(name = name, level = levels[1], said = sprintf("%s is %s", name, paste(levels, collapse = " or ")))
}

#' "survive" and "survived", "swarm" and "swarmed": stems that share their beginning
#' @noRd
alike_stems <- function(stem, own) {
  # (nouns that are built apart from their verbs)
  verbs <- c(admiss = "admit", sale = "sold", birth = "born", death = "die")
  own == or_if_na(unname(verbs[stem]), "") | stem == own | nchar(stem) >= 4 & startsWith(own, substr(stem, 1, nchar(stem) - 1)) | nchar(own) >= 4 & startsWith(stem, own)  # nolint: line_length_linter.
}

#' "except those that swarmed", "excluding hives that survived": the other level of the yes/no column
#' @noRd
those_left_out <- function(out) {
  form <- paste0("(?i),? *\\b(?:except(?:ing)?(?: for)?|excluding|other than|apart from|not counting|but not|leaving out|without)(?: (?:the|all|any|for))*",  # nolint: line_length_linter.
                 "(?: (?:those|ones|\\p{L}+))? (?:that|who|which) ((?:[\\p{L}'\u2019]+ ?){1,4}?)(?=$|[?.!,]| by | in | for | per | on | between | differ| with )")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
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
  forms <- c(sprintf("(?i)\\b(?:(?:that|who|which)(?: have| had| did| were| are)?|were|are|was|have been) neither ((?:[\\p{L}'\u2019]+ ?){1,4}?) nor ((?:[\\p{L}'\u2019]+ ?){1,5}?)%s", stop),  # nolint: line_length_linter.
             sprintf("(?i)\\b(?:that|who|which) (?:both )?((?:[\\p{L}'\u2019]+ ?){1,5}?),? (?:but|and|yet)(?: then| also)? ((?:[\\p{L}'\u2019]+ ?){1,5}?)%s", stop))  # nolint: line_length_linter.
  for (k in 1:2) {
    hit <- match_groups(out$text, forms[k])
    if (is.na(hit[1])) next
    lead <- if (k == 1) "not " else ""
    sides <- lapply(paste0(lead, hit[2:3]), function(clause) clause_level(out$study, clause))
    if (any(vapply(sides, is.null, NA)) || sides[[1]]$name == sides[[2]]$name) next
    both <- paste(vapply(sides, `[[`, "", "said"), collapse = " and ")
    return(reworded(out, sub(hit[1], paste("where", both), out$text, fixed = TRUE), sprintf("Took %s to mean that %s.", quoted(hit[1]), both)))
  }
  out
}

#' "hives not treated with syrup", "patients given placebo": the level says it all
#' @noRd
treated_with <- function(out) {
  act <- "(?:treated with|given|receiving|received|receive|assigned to|allocated to|randomi[sz]ed to|fed with|fed|dosed with|exposed to)(?: the| a| an)?"  # nolint: line_length_linter.
  form <- sprintf("(?i)\\b(?:(?:that|who|which) )?(?:(?:are|were|was|is|have been|had been|did|do|does) )?(?:(not|never) )?(?:been )?%s (?=[\\p{L}0-9])", act)  # nolint: line_length_linter.
  at <- stringi::stri_locate_first_regex(out$text, quick_form(form))[1, ]
  if (is.na(at[1])) return(out)
  hit <- match_groups(out$text, form)
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
  hit <- match_groups(out$text, "(?i)^ *(?:which|what) (\\p{L}+) (?:had|have|has|with) no (\\p{L}+)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  found <- clause_level(out$study, hit[3])
  units <- units_named(out$study, hit[2])
  if (is.null(found) || length(units) != 1 || find_column(out$study, found$name)$kind != "yes_no") return(out)
  reworded(out, sprintf("which %s never %s anything?", hit[2], paste(name_words(found$name), collapse = " ")))
}
