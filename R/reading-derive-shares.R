# Turns of phrase about who meets a condition and who has one level of a column: relative clauses, users of something,
# chances that move with a number, groups set against everywhere else.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_shares <- function() {
  list(
    turn("^ *(did|has|have) .*\\b(share|proportion|percentage|percent|fraction)\\b.*[0-9]", share_between_times),
    turn("\\b(share|proportion|percentage|percent|fraction)\\b|% of", share_bound_among),
    turn("(top|best|highest|largest|biggest|bottom|lowest|smallest) [0-9]", share_from_top), turn("\\b(who|that|which) ", clause_as_condition), turn("\\b(no|zero|any)\\b", left_out_without), turn("\\b(no|zero)\\b", share_without),  # nolint: line_length_linter.
    turn("\\b(chances?|odds|risks?|likelihood|probability|likely)\\b", chance_by_number), turn("\\beffects?\\b", effect_of_groups),
    turn("\\b(elsewhere|anywhere else|everywhere else|in (the )?other)\\b", than_elsewhere),
    turn("\\b(most|fewest|least|largest number|highest number|smallest number|lowest number)\\b", most_of_level),
    turn("\\b(more|less|equally|as) (common|frequent|prevalent|popular|widespread|usual|often)", level_more_common),
    turn("\\b(shares?|proportion|percent\\w*|fraction|part) of\\b", share_being_level), turn("\\b(more|less)\\b", use_more), turn("\\b(more|less) (often|frequently)\\b", are_more_often), turn("the (most|least)[?.! ]*$", does_the_most), turn("\\p{L}(er|or|ist)s\\b", people_of_level), turn("\\bbenefit", benefit_from),  # nolint: line_length_linter.
    turn("\\bwho\\b.*\\blikely\\b", who_is_likely), turn("\\bmissing\\b|\\bmissed\\b|\\bskipped\\b|(not|n't) (take|sit|do|complete)", rows_missing),
        turn("evenly|equally|fairly", split_evenly),
    turn("lift", lift_of_side), turn("^ *(do|does|did) .*\\b(more|less)\\b", event_more_often), turn("\\b(new|first)\\b", new_and_returning),
    turn("^ *(which|what) .*\\b(most|fewest)\\b", most_with_event), turn("response rate", response_rate_of),
    turn("\\b(part|full)[- ]?time", by_working_time),
    turn("\\bper\\b|\\b(each|every)\\b", counted_by_period),
    turn("\\bmodes?\\b", mode_as_column), turn("\\b(share|proportion|percent\\w*|fraction|how many)\\b", share_going_by),
    turn("\\beffect size", effect_size_of), turn("^ *(which|what) ", options_given))
}

#' The level of a column of categories that consecutive words of a text name
#' @param first TRUE: only at the start of the text.
#' @section Shape: list(column, level, said), or NULL where none or several columns could be meant.
#' @noRd
level_in_text <- function(study, text, first = FALSE) {
  vocabulary <- study_vocabulary(study)
  values <- vocabulary$values[vocabulary$columns$kind[vocabulary$values$column] %in% c("category", "ordered"), , drop = FALSE]
  words <- stringi::stri_extract_all_regex(text, "[\\p{L}_0-9.+-]+")[[1]]
  starts <- if (first) utils::head(seq_along(words), 1) else seq_along(words)
  for (size in 4:1) for (i in starts[starts + size - 1 <= length(words)]) {
    said <- paste(words[i:(i + size - 1)], collapse = " ")
    if (size == 1 && tolower(said) %in% english$stop) next
    own <- unique(values[values$phrase == joined_stems(said), c("column", "level")])
    # (a word that is one level whole and part of another is that one)
    whole <- tolower(own$level) == tolower(said)
    if (nrow(own) > 1 && sum(whole) == 1) own <- own[whole, , drop = FALSE]
    if (nrow(own) == 1 && grepl(said, text, fixed = TRUE)) {
      return(list(column = vocabulary$columns$name[own$column], level = own$level, said = said))
    }
  }
}

#' The level that a text is, from its first word to its last
#' @section Shape: As of [level_in_text()].
#' @noRd
whole_level <- function(study, text) {
  found <- level_in_text(study, text, first = TRUE)
  if (!is.null(found) && tolower(found$said) == tolower(trimws(text))) found
}

#' The one level that a text names beside plain words and words for the rows, and no other condition
#' @section Shape: list(column, level, types = types of the items), or NULL.
#' @noRd
one_level_in <- function(study, text) {
  state <- parse_question(trimws(text), study_vocabulary(study))
  one <- length(state$groups) == 1 && names_one(state$groups[[1]]) && !any(state$type == "unknown")
  if (one) list(column = column_of(state, state$groups[[1]]$column), level = state$groups[[1]]$levels, types = state$type)
}

#' One level of a column against all others, as a column
#' @section Shape: list(out, name), or NULL.
#' @noRd
level_against_rest <- function(out, column, level) {
  name <- paste(column, gsub("[^[:alnum:]]+", "_", level), sep = "_")
  out <- with_derived(out, name, "against_rest", column, level = level)
  if (has_column(out$study, name)) list(out = out, name = name)
}

#' Whether each row has that level, as a yes/no column of its own
#' @section Shape: list(out, name), as of [with_derived()]; NULL where it could not be derived.
#' @noRd
level_column <- function(out, found) {
  # ("Admit" with the level "Admitted": one word said twice would not be read as one name)
  twice <- any(stems_of(found$level)[[1]] %in% name_stems(found$column))
  name <- paste(if (twice) "case" else found$column, gsub("[^[:alnum:]]+", "_", tolower(found$level)), sep = "_")
  out <- with_derived(out, name, "equals", found$column, level = found$level)
  if (has_column(out$study, name)) list(out = out, name = name)
}

#' Does a text ask for a share or a number of rows?
#' @noRd
asks_for_share <- function(text) {
  grepl("\\b(shares?|proportions?|percent\\w*|fractions?|how many|number|count|counts|rates?|how often)\\b", text, ignore.case = TRUE, perl = TRUE)
}

leaving_out <- function() "excluding|except(?: for)?|without|not counting|leaving out|omitting|ignoring|dropping|removing|other than"

#' "excluding those who cancelled", "among members who did not cancel": a yes/no column as a condition
#' @noRd
clause_as_condition <- function(out) {
  form <- sprintf(paste0("(?i)\\b((?:%s|among|for|in|of|within|restricted to|limited to|only)(?: only)?) (?:the |all |all the |any )?((?:\\p{L}+ ){1,3}?)",  # nolint: line_length_linter.
                         "(?:who|that|which) ((?:(?:have|had|has|did|do|does|were|was|are|is)(?: ?not|n['\u2019]t)? |never )*)",
                         "(.+?)(?=[,?.!]|$| (?:by|across|between|per|versus|vs|differ|depend|compared)\\b)"), leaving_out())
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  before <- substr(out$text, 1, regexpr(hit[1], out$text, fixed = TRUE) - 1)
  if (tolower(hit[2]) %in% c("of", "in") && asks_for_share(before)) return(out)
  yes_no <- Filter(function(col) (col$kind == "yes_no" || !is.null(own_level(col))) && length(col$levels) == 2, all_columns(out$study))
  found <- column_in_text(yes_no, hit[5], kin_phrases(out$study, hit[5]))
  if (is.null(found) || tolower(trimws(hit[5])) != tolower(found$said)) return(out)
  # (of a column attended with the levels attended and no show the first is the yes)
  if (found$col$kind != "yes_no") found$col$levels <- c(setdiff(found$col$levels, own_level(found$col)), own_level(found$col))
  out_of <- grepl(sprintf("^(%s)", leaving_out()), hit[2], ignore.case = TRUE, perl = TRUE)
  # "of diabetics who were readmitted": the noun is a condition of its own and stays
  telling <- names_something(out$study, hit[3])
  if (telling && out_of) return(out)
  no <- grepl("\\b(not|never)\\b|n['\u2019]t\\b", hit[4], ignore.case = TRUE, perl = TRUE)
  level <- if (xor(out_of, no)) found$col$levels[1] else last_of(found$col$levels)
  kept <- if (telling) paste0(hit[2], " ", hit[3]) else ""
  reworded(out, sub(hit[1], sprintf("%swhere %s = %s", kept, found$name, level), out$text, fixed = TRUE),
           sprintf("Took %s to mean that %s is %s.", quoted(trimws(substring(hit[1], nchar(kept) + 1))), found$name, quoted(level)))
}

#' The level that is called as its column is, of a column of two levels
#' @noRd
own_level <- function(col) {
  if (col$kind != "category" || length(col$levels) != 2) return(NULL)
  same <- col$levels[vapply(col$levels, function(l) identical(sort(stems_of(tolower(l))[[1]]), sort(name_stems(col$name))), NA)]
  if (length(same) == 1) same
}

#' Does a noun name a column or a level, not only the rows?
#' @noRd
names_something <- function(study, words) {
  state <- parse_question(trimws(words), study_vocabulary(study))
  # (a month or a year is a condition too)
  timed <- grepl(sprintf("\\b(%s|[0-9]{4})\\b", paste(tolower(month.name), collapse = "|")), words, ignore.case = TRUE)
  timed || any(state$type %in% c("column", "value", "date")) || length(state$groups) > 0
}

#' Phrases that stand for columns, those of words of the same family as a text's ("cancel" of Cancellation) among them
#' @noRd
kin_phrases <- function(study, text) {
  phrases <- named_phrases(study)
  words <- unique(tolower(stringi::stri_extract_all_words(text)[[1]]))
  words <- words[!words %in% english$stop]
  if (!length(words)) return(phrases)
  stems <- stem_words(words)
  kin <- kin_of_each(words)
  for (i in seq_along(words)) {
    own <- unique(phrases$column[phrases$phrase %in% stem_words(kin[[i]])])
    if (length(own) == 1) phrases <- list(phrase = c(phrases$phrase, stems[i]), column = c(phrases$column, own))
  }
  frame_of(phrase = phrases$phrase, column = phrases$column)
}

#' "excluding those with no visits": of a count, the rows at zero are left out
#' @noRd
left_out_without <- function(out) {
  form <- sprintf("(?i)\\b(?:%s) (?:the |all |all the |any )?(?:\\p{L}+ ){1,3}?(?:with|who had|who have|that had|that have|having) (no|zero|any) ((?:[\\p{L}_]+ ?){1,4})",  # nolint: line_length_linter.
                  leaving_out())
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(Filter(function(col) col$kind == "count", all_columns(out$study)), hit[3], named_phrases(out$study))
  if (is.null(found) || !startsWith(tolower(hit[3]), tolower(found$said))) return(out)
  said <- up_to_words(hit[1], hit[3], found$said)
  kept <- if (tolower(hit[2]) == "any") sprintf("where %s = 0", found$name) else sprintf("where %s above 0", found$name)
  reworded(out, sub(said, kept, out$text, fixed = TRUE), sprintf("Took %s to mean %s.", quoted(trimws(said)), kept))
}

#' "what share of patients on placebo needed no rescue tablets": the share is of those without, among the others named
#' @noRd
share_without <- function(out) {
  form <- paste0("(?i)^ *(?:what |which )?(?:is the )?(share|proportion|percentage|percent|fraction|%) of (?:the |all |all the )?(\\p{L}+)((?: [\\p{L}_0-9]+)*?) ",  # nolint: line_length_linter.
                 "(?:had|have|has|needed|need|took|take|used|use|made|make|reported|report|suffered|experienced|with|who had|who took|got|received) ",
                 "(?:no|zero) ([^?.!,]+)")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(Filter(function(col) col$kind == "count", all_columns(out$study)), hit[5], named_phrases(out$study))
  if (is.null(found) || !startsWith(tolower(hit[5]), tolower(found$said))) return(out)
  rest <- substring(hit[5], nchar(found$said) + 1)
  # ("patients with no tablets": the noun is who is counted; further words of theirs are conditions)
  reworded(out, sub(hit[1], sprintf("share of rows with %s = 0%s%s", found$name, hit[4], rest), out$text, fixed = TRUE))
}

#' "does visiting more reduce the chance of cancelling", "do the odds of X rise with age": a yes or no, modelled by a number
#' @noRd
chance_by_number <- function(out) {
  chance <- "(?:chances?|odds|risks?|likelihood|probability)"
  forms <- list(
    list(sprintf("(?i)^ *(?:does|do|did|can|will) (.+?) (?:reduce|increase|lower|raise|affect|change|influence|cut|alter|decrease|improve|add to|predict) (?:the |their |someone's )?%s of (.+?)[?.! ]*$",  # nolint: line_length_linter.
                 chance), event = 3, number = 2),
    list(sprintf("(?i)^ *(?:does|do|did) (?:the |their )?%s of (.+?) (?:depend on|depends on|(?:increase|rise|vary|change|fall|drop|grow|decrease|decline|go up|go down) with) (.+?)[?.! ]*$",  # nolint: line_length_linter.
                 chance), event = 2, number = 3),
    list("(?i)^ *(?:does|do|did) (.+?) make (.+?) (?:more|less) likely[?.! ]*$", event = 3, number = 2))
  for (form in forms) {
    hit <- match_groups(out$text, form[[1]])
    if (is.na(hit[1])) next
    tail <- stringi::stri_extract_first_regex(hit[3],
      "(?i) (?:adjusting|adjusted|controlling|allowing|accounting|holding|among|in|for|at|where|only|after|once|excluding|without)\\b.*$")
    if (!is.na(tail)) hit[3] <- sub(tail, "", hit[3], fixed = TRUE)
    columns <- all_columns(out$study)
    event <- only_named(Filter(function(col) col$kind == "yes_no", columns), hit[form$event], out$study)
    number <- only_named(numeric_columns(out$study), hit[form$number], out$study)
    if (is.null(event) || is.null(number) || event == number) next
    return(reworded(out, sprintf("logistic regression of %s on %s%s", event, number, if (is.na(tail)) "" else tail)))
  }
  out
}

#' The column that a few words name, where they say nothing else
#' @noRd
only_named <- function(columns, said, study) {
  found <- column_in_text(columns, said, kin_phrases(study, said))
  if (is.null(found)) return(NULL)
  left <- tolower(stringi::stri_extract_all_words(sub(found$said, "", said, fixed = TRUE))[[1]])
  idle <- c(english$stop, "more", "less", "fewer", "higher", "lower", "often", "being", "getting", "having", "greater", "longer", "larger", "number",
            "frequently", NA)
  if (all(left %in% idle)) found$name
}

#' "is there a period effect?", which does not say on what
#' @noRd
effect_of_groups <- function(out) {
  form <- "(?i)^ *(?:is|was|are|were) there (?:an? |any |some |a (?:clear |significant |real )|evidence (?:of|for) (?:an? |any )?)?((?:[\\p{L}_]+ ){1,3})effects?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  words <- strsplit(trimws(hit[2]), " ")[[1]]
  found <- column_of_words(Filter(function(col) is_level_kind(col$kind) || isTRUE(col$distinct <= 12), all_columns(out$study)), words)
  if (is.null(found) || found$words < length(words)) return(out)
  reworded(out, sprintf("is there a difference by %s", found$name))
}

#' "longer in London than elsewhere", "than people in other regions"
#' @noRd
than_elsewhere <- function(out) {
  form <- paste0("(?i)\\b(than|and|versus|vs\\.?|with|from|to) (?:those |people |members |patients |ones |\\p{L}+ )?(?:in |from |at )?(?:the )?",
                 "(?:elsewhere|anywhere else|everywhere else|(?<=in |in the |at |at the |from |from the )other \\p{L}+)(?=[?.!, ]*$)")
  reworded(out, sub(form, "\\1 the rest", out$text, perl = TRUE))
}

#' "which region has the most bus users": how many rows have that level, in each of the groups
#' @noRd
most_of_level <- function(out) {
  form <- paste0("(?i)^ *(which|what) ((?:[\\p{L}_]+ ){1,3}?)(?:has|have|had|gets?|sees?|shows?) (?:the )?",
                 "(most|fewest|least|largest number of|highest number of|smallest number of|lowest number of) (.+?)[?.! ]*$")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  group <- column_of_words(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)), strsplit(trimws(hit[3]), " ")[[1]])
  found <- level_in_text(out$study, hit[5])
  if (is.null(group) || is.null(found) || group$name == found$column || !only_people(out$study, sub(found$said, "", hit[5], fixed = TRUE))) return(out)  # nolint: line_length_linter.
  # ("the fewest hives in the north" are the rows of that level, counted by group)
  if (grepl(sprintf("\\b(in|at|from|within|during|among|for) (the )?%s", as_literal(found$said)), hit[5], ignore.case = TRUE,
            perl = TRUE)) return(out)
  derived <- level_column(out, found)
  if (is.null(derived)) return(out)
  # (numbers are compared, not shares: the larger group may well have the most)
  side <- if (grepl("fewest|least|small|low", hit[4], ignore.case = TRUE)) "smallest" else "largest"
  reworded(derived$out, sprintf("which %s has the %s number of %s", group$name, side, derived$name))
}

#' Words that only say who: users, members, people
#' @noRd
only_people <- function(study, text) {
  words <- tolower(stringi::stri_extract_all_words(text)[[1]])
  words <- words[!is.na(words) & !words %in% english$stop]
  known <- c(study_vocabulary(study)$entities, stem_words(c("users", "rows", "cases", "records", "customers", "commuters", "riders", "owners",
    "buyers", "takers", "drinkers", "holders", "people")))
  all(stem_words(words) %in% known)
}

#' "is the train more common in London than in Wales", "are night shifts more frequent at site B"
#' @noRd
level_more_common <- function(out) {
  form <- "(?i)^ *(is|are|was|were) (?:the |using the |going by |travelling by )?(.+?) (?=(?:used )?(?:more|less|equally|as) (?:common|frequent|prevalent|popular|widespread|usual|often))"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- level_in_text(out$study, hit[3])
  if (is.null(found) || !only_people(out$study, sub(found$said, "", sub(paste0("(?i)\\b", gsub("[_.]+", "[_. ]", found$column), "\\b *=? *"), "",
      hit[3], perl = TRUE), fixed = TRUE))) return(out)
  derived <- level_column(out, found)
  if (is.null(derived)) return(out)
  reworded(derived$out, sub(hit[3], derived$name, out$text, fixed = TRUE))
}

#' "do Londoners use the train more than people in Wales", "do men drive more"
#' @noRd
use_more <- function(out) {
  verb <- "(?:use|take|choose|prefer|ride|pick|buy|eat|drink|go by|travel by|commute by|pay by|opt for|go for|have)"
  form <- sprintf("(?i)^ *(?:do|does|did) (.+?) %s (?:the |an? )?((?:[\\p{L}_-]+ ){1,3}?)(more|less)(?: often| frequently)?( than .+?)?[?.! ]*$", verb)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- level_in_text(out$study, hit[3])
  if (is.null(found) || !only_people(out$study, sub(found$said, "", hit[3], fixed = TRUE))) return(out)
  more_common(out, found, side = hit[4], here = hit[2], than = hit[5])
}

#' A level as a column, asked to be more or less common here than there
#' @param than " than women", NA where the other side is not said.
#' @noRd
more_common <- function(out, found, side, here, than) {
  derived <- level_column(out, found)
  if (is.null(derived)) return(out)
  there <- if (is.na(than)) "" else sub("^ than (?!in )", " than in ", than, perl = TRUE)
  reworded(derived$out, sprintf("is %s %s common in %s%s", derived$name, side, here, there))
}

#' "share of car commuters by region": those who have that level, where the noun would be taken for a measure
#' @noRd
people_of_level <- function(out) {
  hits <- stringi::stri_match_all_regex(out$text, quick_form("(?i)\\b([\\p{L}-]+) ([\\p{L}]{3,}(?:er|or|ist)s)\\b"))[[1]]
  if (is.na(hits[1, 1])) return(out)
  measured <- unlist(lapply(numeric_columns(out$study), function(col) name_stems(col$name)))
  for (i in seq_len(nrow(hits))) {
    noun <- sub("(er|or|ist)s$", "", tolower(hits[i, 3]))
    found <- level_in_text(out$study, hits[i, 2])
    if (is.null(found) || !any(stem_words(c(noun, paste0(noun, "e"))) %in% measured)) next
    out <- reworded(out, sub(hits[i, 1], sprintf("rows with %s = %s", found$column, found$level), out$text, fixed = TRUE),
                    sprintf("Took %s to mean that %s is %s.", quoted(hits[i, 1]), found$column, quoted(found$level)))
  }
  out
}

#' "did women benefit more from the drug than men": does the effect of the one depend on the other
#' @noRd
benefit_from <- function(out) {
  form <- "(?i)^ *(?:do|does|did) (.+?) benefit(?:ted)? (?:more|less|most|differently|equally)? ?from (?:the |a )?(.+?)( than .+?)?[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  of <- function(said) level_in_text(out$study, said)$column %||% column_in_text(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)),  # nolint: line_length_linter.
                                                                                 said)$name
  what <- of(hit[3]); who <- of(hit[2])
  if (is.null(what) || is.null(who) || what == who) return(out)
  reworded(out, sprintf("does the effect of %s depend on %s", what, who))
}

#' "who is most likely to cancel": what goes with it
#' @noRd
who_is_likely <- function(out) {
  form <- "(?i)^ *who (?:is|are|was|were) (?:the )?(?:most|more|least|less) likely to (?:be |have |get )?(.+?)[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  event <- only_named(yes_no_columns(out$study), hit[2], out$study)
  if (is.null(event)) out else reworded(out, sprintf("what predicts %s", event))
}

#' "are visitors split evenly across the variants": are the rows
#' @noRd
split_evenly <- function(out) {
  form <- paste0("(?i)^ *(?:is|are|was|were) (?:the |our )?(?:all )?([\\p{L}_]+) (?:split|spread|divided|distributed|balanced|allocated|shared|assigned)(?: out)? (?:evenly|equally|fairly) ",  # nolint: line_length_linter.
                 "(?:across|over|between|among|by|into|to) (?:the |all |all the )?([\\p{L}_ ]+?)[?.! ]*$")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  groups <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  by <- column_of_words(groups, strsplit(hit[3], " ")[[1]])
  rows <- names_rows(study_vocabulary(out$study), tolower(hit[2])) || grepl("^(traffic|sample|rows|allocation|data|people|cases)$", tolower(hit[2]))
  if (is.null(by) || !rows) return(out)
  reworded(out, sprintf("are rows spread evenly over the levels of %s", by$name))
}

#' "do returning visitors convert more", of two yes/no columns: what they do is compared between who they are
#' @noRd
event_more_often <- function(out) {
  form <- sprintf("(?i)^ *(?:do|does|did) (?:the |our )?([\\p{L}_-]+)(?: %s)? ([\\p{L}_-]+)(?: (?:the )?[\\p{L}_]+)? (?:any )?(?:more|less)(?: often| frequently)?[?.! ]*$", people_words())  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  yes_no <- yes_no_columns(out$study)
  sides <- lapply(hit[2:3], function(said) column_in_text(yes_no, said, kin_phrases(out$study, said)))
  if (any(vapply(sides, is.null, NA)) || sides[[1]]$name == sides[[2]]$name) return(out)
  reworded(out, sprintf("does %s differ by %s", sides[[2]]$name, sides[[1]]$name))
}

#' "which agent resolves the most calls", "which queue has the most unresolved calls": groups by the number of such rows
#' @noRd
most_with_event <- function(out) {
  forms <- c("(?i)^ *(?:which|what) ([\\p{L}_]+)(?: [\\p{L}_]+)? (?:has|have|had|gets|got|sees|saw|makes|made|with) (?:the )?(most|fewest) ((?:un|non-|not )?)([\\p{L}_]+) ([\\p{L}_]+)[?.! ]*$",  # nolint: line_length_linter.
             "(?i)^ *(?:which|what) ([\\p{L}_]+)()() ([\\p{L}_]+) (?:the )?(most|fewest) ([\\p{L}_]+)[?.! ]*$")
  hit <- match_groups(out$text, forms[1])
  if (is.na(hit[1])) hit <- match_groups(out$text, forms[2])[c(1, 2, 6, 4, 5, 7)]
  if (is.na(hit[1]) || !names_rows(study_vocabulary(out$study), tolower(hit[6]))) return(out)
  groups <- Filter(function(col) is_level_kind(col$kind) || col$kind == "id", all_columns(out$study))
  by <- column_of_words(groups, hit[2])
  yes_no <- yes_no_columns(out$study)
  event <- column_in_text(yes_no, hit[5], kin_phrases(out$study, hit[5]))
  if (is.null(by) || is.null(event) || by$name == event$name) return(out)
  level <- if (nzchar(hit[4])) event$col$levels[1] else last_of(event$col$levels)
  # (of a plain yes the noun is enough)
  reworded(out, if (nzchar(hit[4])) sprintf("which %s has the %s number of rows with %s = %s", by$name,
      if (tolower(hit[3]) == "most") "highest" else "lowest",
                                            event$name, level) else sprintf("which %s has the %s %s %s", by$name, tolower(hit[3]), event$name,
                                                hit[6]))
}

#' "response rate of the satisfaction question": the share of rows that hold an answer
#' @noRd
response_rate_of <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:what (?:is|was) )?(?:the )?response rates? (?:of|for|to|on|in) (?:the )?(.+?)(?: (?:question|item|survey))?((?: (?:by|per|for each|in each) .+?)?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || any(grepl("respon", tolower(vapply(all_columns(out$study), `[[`, "", "name"))))) return(out)
  found <- column_in_text(Filter(function(col) isTRUE(col$missing > 0), all_columns(out$study)), hit[2], named_phrases(out$study))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[2]))) return(out)
  name <- paste0(found$name, "_missing")
  out$told <- c(out$told, sprintf("Took a row without %s as no response.", found$name))
  with_derived(out, name, "missing", found$name, sprintf("share of rows with %s = no%s", name, hit[3]))
}

#' "share of part-timers by gender", of shares of a full post: part time is less than one
#' @noRd
by_working_time <- function(out) {
  posts <- Filter(function(col) grepl("(^|[_. ])(fte|workload|employment_rate|percent_employed)([_. ]|$)", tolower(col$name)),
      numeric_columns(out$study))
  told <- unlist(lapply(all_columns(out$study), function(col) c(tolower(col$name), tolower(col$levels))))
  if (length(posts) != 1 || any(grepl("part.?time|full.?time", told))) return(out)
  values <- understood(out$study, posts[[1]]$name, posts[[1]]$table)
  if (max(values, na.rm = TRUE) != 1) return(out)
  text <- gsub("(?i)\\b(part|full)[- ]?timers?\\b", "\\1-time staff", out$text, perl = TRUE)
  with_derived(out, "working_time", "bands", posts[[1]]$name, text, cuts = 1, labels = c("part-time", "full-time"))
}

#' "the uplift of the new layout over control in conversion": the one compared with the other
#' @noRd
lift_of_side <- function(out) {
  if (any(vapply(all_columns(out$study), function(col) grepl("lift", col$name, ignore.case = TRUE), NA))) return(out)
  lead <- "(?i)^ *(?:what (?:is|was) |show |give )?(?:the )?(?:up)?lift"
  side <- "(?: of| from| for| with) (.+?) (?:over|against|versus|vs\\.?|compared (?:with|to)|relative to) (.+?)"
  hit <- match_groups(out$text, paste0(lead, side, " (?:in|on|for) (.+?)[?.! ]*$"))
  if (is.na(hit[1])) hit <- match_groups(out$text, paste0(lead, " (?:in|on) (.+?)", side, "[?.! ]*$"))[c(1, 3, 4, 2)]
  if (is.na(hit[1])) out else reworded(out, sprintf("compare %s between %s and %s", hit[4], hit[2], hit[3]))
}

#' "new and returning visitors", of a yes/no column returning: both its sides
#' @noRd
new_and_returning <- function(out) {
  form <- "(?i)\\b(?:(new|first[- ]time) (and|or|versus|vs\\.?|than|against|from) (returning|repeat|existing|regular)|(returning|repeat|existing|regular) (and|or|versus|vs\\.?|than|against|from) (new|first[- ]time))\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || "new" %in% tolower(study_vocabulary(out$study)$values$level)) return(out)
  said <- stats::na.omit(hit[c(4, 5)])[1]
  yes_no <- Filter(function(col) col$kind == "yes_no" && stem_words(tolower(said)) %in% name_stems(col$name), all_columns(out$study))
  if (length(yes_no) != 1) return(out)
  sides <- sprintf("%1$s %2$s non-%1$s", yes_no[[1]]$name, stats::na.omit(hit[c(3, 6)])[1])
  reworded(out, sub(hit[1], sides, out$text, fixed = TRUE), sprintf("Took %s as those for whom %s is %s.",
    quoted(stats::na.omit(hit[c(2, 7)])[1]), yes_no[[1]]$name, quoted(yes_no[[1]]$levels[1])))
}

#' "which patients have a missing pain score", "how many pupils are missing the delayed test by group"
#' @noRd
rows_missing <- function(out) {
  out$text <- missed_as_missing(out)
  listed <- c("(?i)^ *(?:which|what|who|list|show(?: me)?)(?: the)? (?:\\p{L}+ )?(?:have|has|had|with|are|is|were)(?: the| an?| any| their| its)? missing (.+?)[?.! ]*$",  # nolint: line_length_linter.
              "(?i)^ *(?:which|what|list|show(?: me)?)(?: the)? \\p{L}+ (?:where|whose|for which|for whom)(?: the| their| its)? (.+?) (?:is|are|was|were) missing[?.! ]*$")  # nolint: line_length_linter.
  for (form in listed) {
    hit <- match_groups(out$text, form)
    found <- if (!is.na(hit[1])) column_in_text(all_columns(out$study), hit[2], named_phrases(out$study))
    if (!is.null(found)) return(reworded(out, sprintf("show rows with missing %s", found$name)))
  }
  # "how many missing sbp values at each visit"
  out$text <- sub("(?i)^ *(?:how many|(?:the )?number of) missing (?:values (?:of|in) )?(?:the )?(.+?)(?: (?:values?|entries|data))? (?:are there )?(?:at|in|for|on|per) (?:each|every) ",  # nolint: line_length_linter.
                  "missing \\1 by ", out$text, perl = TRUE)
  form <- "(?i)^ *(?:how many|(?:the )?number of) \\p{L}+ (?:are|were|have|had) missing (?:the |their |a |an )?(.+?) (?=(?:by|per|in each|for each|across) )"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  found <- if (!is.na(hit[1])) column_in_text(all_columns(out$study), hit[2], named_phrases(out$study))
  if (is.null(found)) out else reworded(out, sub(hit[1], sprintf("missing %s ", found$name), out$text, fixed = TRUE))
}

#' "how many pupils missed the summer test": of a measure that some rows lack
#' @noRd
missed_as_missing <- function(out) {
  form <- paste0("(?i)\\b(?:missed|skipped|(?:did not|didn['\u2019]t|have not|has not) (?:take|taken|sit|do|done|completed?)) (?:the |their |his |her )?(.+?)",  # nolint: line_length_linter.
                 "(?: (?:tests?|exams?|assessments?|measurements?|questionnaires?))?(?=[?.! ]*$| by | in each | per )")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out$text)
  vocabulary <- study_vocabulary(out$study)
  at <- columns_mentioned(hit[2], vocabulary)
  if (length(at) != 1 || !vocabulary$columns$kind[at] %in% c("number", "count", "ordered")) return(out$text)
  name <- vocabulary$columns$name[at]
  if (!anyNA(understood(out$study, name, vocabulary$columns$table[at]))) return(out$text)
  sub(hit[1], sprintf("have missing %s", name), out$text, fixed = TRUE)
}

#' "how many members joined per month": rows, by a date whose column has the verb's name
#' @noRd
counted_by_period <- function(out) {
  form <- "(?i)^ *how many ((?:\\p{L}+ ){1,4}?)(?:per|each|every|in each) (month|week|day|year|quarter)\\b"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  stems <- stem_words(tolower(strsplit(trimws(hit[2]), " ")[[1]]))
  dated <- unlist(lapply(Filter(function(col) col$kind %in% c("date", "datetime"), all_columns(out$study)), function(col) stems_of(name_words(col$name))))  # nolint: line_length_linter.
  measured <- unlist(lapply(numeric_columns(out$study), function(col) stems_of(name_words(col$name))))
  if (!any(stems %in% dated) || any(stems %in% measured) || has_column(out$study, hit[3])) return(out)
  reworded(out, sub(hit[1], sprintf("number of %sby %s", hit[2], tolower(hit[3])), out$text, fixed = TRUE))
}

#' "which mode has the longest commute", of a column main_mode: no statistic
#' @noRd
mode_as_column <- function(out) {
  own <- Filter(function(col) "mode" %in% strsplit(tolower(name_words(col$name)), " ")[[1]], all_columns(out$study))
  asked <- grepl("\\b(the|mean|median|,|and) modes? (of|for|by|in)\\b|\\bmodal\\b|^ *modes? of\\b", out$text, ignore.case = TRUE, perl = TRUE)
  if (length(own) != 1 || asked || grepl(gsub("[_.]+", "[_. ]", own[[1]]$name), out$text, ignore.case = TRUE)) return(out)
  reworded(out, gsub("(?i)\\bmodes?\\b(?! of)", own[[1]]$name, out$text, perl = TRUE))
}

#' "what share of people commute by car in Wales": a level of how they do it, whatever number the verb may also name
#' @noRd
share_going_by <- function(out) {
  form <- paste0("(?i)^ *((?:what |which )?(?:is the )?(?:share|proportion|percentage|percent|fraction|%) of|how many(?: of)?) (?:the |our |all )?([\\p{L}]+) ",  # nolint: line_length_linter.
                 "((?!with\\b|who\\b|that\\b|in\\b|at\\b)[\\p{L}]+(?: to work| to school| around| there)?) (?:by|on|with|via) (?:the |an? )?((?:[\\p{L}_-]+ ?){1,3})")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- level_in_text(out$study, hit[5], first = TRUE)
  if (is.null(found) || !startsWith(hit[5], found$said)) return(out)
  said <- up_to_words(hit[1], hit[5], found$said)
  reworded(out, sub(said, sprintf("%s %s with %s = %s", hit[2], hit[3], found$column, found$level), out$text, fixed = TRUE))
}

#' "effect size of the intervention on gain": effect sizes stand beside every comparison
#' @noRd
effect_size_of <- function(out) {
  form <- "(?i)\\beffect sizes? of (?:the |an? )?(.+?) (?:on|in|for) (?:the )?(.+?)[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  name <- level_in_text(out$study, hit[2])$column %||% column_of_words(Filter(function(col) is_level_kind(col$kind), all_columns(out$study)),
                                                                      strsplit(hit[2], " ")[[1]])$name
  if (is.null(name)) return(out)
  # ("of exercise vs usual care": of these two alone)
  sides <- strsplit(hit[2], "(?i) (?:vs\\.?|versus|against|over|and|or|compared (?:to|with)|relative to) (?:the )?", perl = TRUE)[[1]]
  levels <- if (length(sides) == 2) lapply(sides, whole_level, study = out$study)
  if (length(compact(levels)) == 2) return(reworded(out, sprintf("compare %s between %s and %s", hit[3], sides[1], sides[2])))
  reworded(out, sprintf("compare %s by %s", hit[3], name))
}

#' "which reasons are given by cyclists": how often each option of the question was chosen
#' @noRd
options_given <- function(out) {
  form <- "(?i)^ *(?:which|what) (?:of the )?((?:[\\p{L}_]+ ){1,2}?)(?:are|were|is|was|do|did|have) (?:most often |mostly |often |commonly |usually )?(?:given|chosen|ticked|mentioned|named|selected|cited|reported|picked|stated)(?: most often| most| often)?( (?:by|among|in|for|at) .+?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  sets <- Filter(function(set) stem_words(tolower(trimws(hit[2]))) %in% telling_stems(set$name), study_sets(out$study, "multi_answer"))
  if (length(sets) != 1) return(out)
  reworded(out, sprintf("most common %s%s", sub("s$", "", trimws(hit[2])), if (is.na(hit[3])) "" else sub("^ by ", " among ", hit[3])))
}

#' "are men admitted more often than women", of a level Admitted: how common it is among them
#' @noRd
are_more_often <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (.+?) ([\\p{L}_]+) (more|less) (?:often|frequently)( than .+?)?[?.! ]*$"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- level_in_text(out$study, hit[3])
  if (is.null(found) || found$said != hit[3]) return(out)
  # (a yes/no column of that name says it already)
  if (identical(column_in_text(all_columns(out$study), hit[3], kin_phrases(out$study, hit[3]))$col$kind, "yes_no")) return(out)
  more_common(out, found, side = hit[4], here = hit[2], than = hit[5])
}

#' "which department rejects the most", of a level Rejected
#' @noRd
does_the_most <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(which|what) ((?:[\\p{L}_]+ ){1,2})([\\p{L}_]+) the (most|least)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  vocabulary <- study_vocabulary(out$study)
  # the verb of a level ("rejects" of Rejected)
  values <- vocabulary$values[vocabulary$columns$kind[vocabulary$values$column] == "category" & vocabulary$values$phrase == stem_words(tolower(hit[4])), ]  # nolint: line_length_linter.
  if (nrow(unique(values[, c("column", "level")])) != 1) return(out)
  derived <- level_column(out, list(column = vocabulary$columns$name[values$column[1]], level = values$level[1]))
  if (is.null(derived)) return(out)
  reworded(derived$out, sprintf("which %s has the %s share of %s = yes", trimws(hit[3]), if (tolower(hit[5]) == "least") "lowest" else "highest", derived$name),  # nolint: line_length_linter.
           "Took the most as the highest share of the rows.")
}

#' "what share of consumption is schools?": the part of a total that one level has
#' @noRd
share_being_level <- function(out) {
  form <- paste0("(?i)^(.*\\b(?:share|proportion|percent(?:age)?|fraction|part) of (?:all |the |total |the total |our )*)([\\p{L}_ ]+?) ",
                 "(?:is|was|are|were|being|falls? on|belongs? to) (?:the |due to |for )?(.+?)[?.! ]*$")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  level <- whole_level(out$study, sub("(?i) (?:share|part|meters?|ones?)$", "", hit[4], perl = TRUE))
  measure <- only_named(numeric_columns(out$study), hit[3], out$study)
  if (is.null(level) || is.null(measure)) return(out)
  reworded(out, sprintf("share of %s from %s", measure, level$said))
}

#' "what share of sales comes from the top 10% of customers": the total divided at the quantile of the rows
#'
#' Only where each row is one of those that are ranked: rows of the same customer would have to be put together first.
#' @noRd
share_from_top <- function(out) {
  form <- "(?i)^ *(?:what|which|how much)(?: (?:share|proportion|percent(?:age)?|fraction|part))?(?: of)? (?:the |all |total |our )*(.+?) (?:comes?|came|is|are|was|were|stems?)(?: made| earned| produced| held| owned| brought in| generated| given)? (?:from|by) (?:the )?(top|best|highest|largest|biggest|bottom|lowest|smallest) ([0-9]{1,2}) ?(?:%|per ?cent)(?: of)?(?: the| our)?(?: ([\\p{L}]+))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  y <- column_in_text(numeric_columns(out$study), hit[2], study_vocabulary(out$study)$phrases)
  if (is.null(y)) return(out)
  repeated <- Filter(function(col) col$kind %in% c("id", "category", "text") && col$distinct < nrow(out$study$tables[[col$table %||% 1L]]$data), all_columns(out$study))  # nolint: line_length_linter.
  noun <- if (is.na(hit[5])) "" else stems_of(tolower(hit[5]))[[1]]
  if (any(vapply(repeated, function(col) any(noun %in% name_stems(col$name)), NA))) return(out)
  part <- as.numeric(hit[4]) / 100
  low <- grepl("^(bottom|lowest|smallest)$", hit[3], ignore.case = TRUE)
  v <- as.numeric(understood(out$study, y$name)); v <- v[!is.na(v)]
  if (length(v) < 5) return(out)
  cut <- stat_group_quantiles(v, probs = if (low) part else 1 - part)[1]
  name <- sprintf("%s_%s_%s", y$name, if (low) "bottom" else "top", hit[4])
  own <- sprintf("%s %s %%", if (low) "bottom" else "top", hit[4])
  done <- with_derived(out, name, "bands", y$name, sprintf("what share of %s comes from each %s", y$name, name), cuts = cut,
                       labels = if (low) c(own, "the rest") else c("the rest", own))
  if (identical(done$text, out$text)) return(out)
  done$told <- c(done$told, sprintf("The %s: rows %s %s of %s.", own, if (low) "below" else "at or above", format_plain(signif(cut, 6)), y$name))
  done
}

#' "what share of cancelled bookings have at least 2 nights", "among women, what share earn over 5000": a bound on what is said of the one
#' half is what is shared, a level in the other says of which rows
#' @noRd
share_bound_among <- function(out) {
  text <- trimws(without_mark(out$text))
  share <- "(?:what |which )?(?:is the |are the |was the )?(?:share|proportion|percentage|percent|fraction|%)"
  verb <- "((?:have|has|had|with|took|take|stay|stayed|spend|spent|earn|earned|are|is|were|was|got|get|weigh|weighed|scored?|lasted?|cost|paid|pay|used?|made|ran|drink|drank|sleep|slept|work|worked|live|lived|exceed|exceeded) .+)"  # nolint: line_length_linter.
  # (the first verb may be that of a clause: "bookings that were not cancelled have ...")
  forms <- c(sprintf("(?i)^ *%s of (?:the |all |our )?(%s) (?:who |that |which )?%s$", share, c(".+?", ".+"), verb),
             sprintf("(?i)^ *(?:among|amongst|of|in|for) (?:the |all )?(.+?),? %s (?:of them |of these )?%s$", share, verb))
  for (form in forms) {
    hit <- match_groups(text, form)
    where <- if (!is.na(hit[1])) rows_of_share(out$study, hit[2], hit[3])
    if (!is.null(where)) return(reworded(out, sprintf("what share of rows where %s %s", where, hit[3])))
  }
  out
}

#' The condition that tells of which rows a share is, where the other half is one bound on a number
#' @section Shape: "column = level" and so on; NULL where the halves say anything else.
#' @noRd
rows_of_share <- function(study, whom, said) {
  if (!grepl(sprintf("[0-9]|\\b(%s)\\b", counting_words()), said)) return(NULL)
  # ("share of rows with crystals among samples with calcium over 5": there the bound says of which)
  if (grepl("\\b(among|amongst|out of|given)\\b", whom, ignore.case = TRUE)) return(NULL)
  of <- parse_question(whom, study_vocabulary(study))
  having <- parse_question(paste("rows that", said), study_vocabulary(study))
  if (length(of$filters) || length(having$groups) || length(having$filters) != 1 || !is_bound(having$filters[[1]])) return(NULL)
  if (!all(vapply(of$groups, function(g) length(g$levels) == 1 && !isTRUE(g$numeric), NA))) return(NULL)
  where <- vapply(of$groups, function(g) sprintf("%s %s %s", column_of(of, g$column), if (isTRUE(g$negated)) "is not" else "=", g$levels[1]), "")
  # ("cancelled bookings": the column of yes and no itself)
  flag <- if (!length(where)) column_in_text(yes_no_columns(study), whom, kin_phrases(study, whom))
  if (!is.null(flag) && length(flag$col$levels) == 2) {
    denied <- grepl("\\b(not|never|no|without|non)\\b|n['\u2019]t\\b", whom, ignore.case = TRUE)
    where <- sprintf("%s = %s", flag$name, flag$col$levels[if (denied) 1 else 2])
  }
  if (length(where)) paste(where, collapse = " and ")
}

#' "did the share of smokers fall between week 0 and week 12": the share at each of the two times of a column of that name
#' @noRd
share_between_times <- function(out) {
  moved <- "(?:significantly )?(?:fall|fallen|rise|risen|increased?|decreased?|drop|dropped|changed?|grow|grown|declined?|go up|go down|differ)"
  form <- sprintf("(?i)^ *(?:did|has|have) (?:the )?((?:share|proportion|percentage|percent|fraction) .+?) %s (?:between|from) (?:the )?([\\p{L}_]+) ([0-9.]+) (?:and|to) (?:the )?(?:\\2 )?([0-9.]+)((?: where .+)?)[?.! ]*$",  # nolint: line_length_linter.
                  moved)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  time <- column_of_words(numeric_columns(out$study), hit[3])
  if (is.null(time)) return(out)
  # ("rows where test = HbA1c have high = yes", of a column that was just derived)
  own <- match_groups(hit[2], "(?i)^.+? of rows (?:where (.+?) have|with) ([\\p{L}_0-9.]+) = yes$")
  what <- if (is.na(own[1])) paste("the", hit[2]) else own[3]
  where <- if (!is.na(own[1]) && !is.na(own[2])) paste(" where", own[2]) else hit[6]
  reworded(out, sprintf("does %s differ between %s %s and %s %s%s", what, time$name, hit[4], time$name, hit[5], where))
}
