# Long data whose times are words ("Autumn", "Spring", "Summer"; "pre", "post"; "visit 1"): each unit's change from one to another.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_worded <- function() {
  list(turn(paste0("\\bat\\b|before and after|\\b(go|goes|went) (up|down)|chang|drop|f[ae]ll|decreas|reduc|r[io]se|increas|improv|gain|loss|lost|declin|grew|grow|progress|better|worse|",  # nolint: line_length_linter.
                   "\\b(lower|higher|more|less)\\b.* than (in|at|on) "), change_of_worded))
}

#' Units with a row for each of a few occasions that are told in words
#'
#' @section Shape: NULL, or list(unit, time, levels (in their order)): a unit has at most one row for each occasion, and most units have
#'   rows of more than one.
#' @noRd
worded_layout <- function(study) {
  if (length(data_tables(study)) != 1 || !is.null(long_layout(study))) return(NULL)
  table <- data_tables(study)[[1]]
  units <- keys_of(study, single = FALSE)
  if (length(units) != 1) return(NULL)
  times <- Filter(function(col) col$kind %in% c("ordered", "category") && length(col$levels) %in% 2:12 && is_occasion(col), all_columns(study))
  unit <- as.character(table$data[[units[[1]]$name]])
  for (col in times) {
    time <- as.character(understood(study, col$name))
    there <- !is.na(unit) & !is.na(time)
    pairs <- paste(unit, time, sep = "\r")[there]
    often <- tabulate(match(unit[there], unique(unit[there])))
    if (anyDuplicated(pairs) || mean(often > 1) < 0.5) next
    return(list(unit = units[[1]]$name, time = col$name, levels = occasions_in_order(col)))
  }
  NULL
}

occasion_names <- function() "^(term|visit|wave|time|timepoint|time_point|occasion|session|phase|round|test|stage|assessment|semester|season|measurement|moment|period|when|trial|exam|survey|quarter|month|week|day|year)([_. ]?(point|no|nr|name|label))?$"  # nolint: line_length_linter.

#' Occasions that come first and last, as they are called in studies
#' @noRd
early_words <- function() "^(pre|before|baseline|start|intake|admission|entry|initial|first|screening|begin|opening|pretest|pre-test|pre test)"
late_words <- function() "^(post|after|end|final|last|discharge|exit|follow|endline|closing|posttest|post-test|retention)"

#' Does a column tell occasions: by its name, or by levels that say before and after?
#' @noRd
is_occasion <- function(col) {
  levels <- tolower(col$levels)
  said <- any(grepl(early_words(), levels)) && any(grepl(late_words(), levels))
  named <- grepl(occasion_names(), tolower(gsub("[. ]", "_", col$name)))
  numbered <- all(grepl("^(visit|wave|time|session|week|month|day|year|round|test|wk|mo|t|v|w|m|d)[ _]?[0-9]+$|^[0-9]+ ?(weeks?|months?|days?|years?|hours?|wk|mo|h)$", levels) |  # nolint: line_length_linter.
                    grepl(early_words(), levels) | grepl(late_words(), levels))
  said || numbered || named && (col$kind == "ordered" || all(levels %in% c("autumn", "fall", "winter", "spring", "summer")))
}

#' Levels as they follow each other: what says the beginning first, what says the end last, numbers and seasons of a school year between
#' @noRd
occasions_in_order <- function(col) {
  lower <- tolower(col$levels)
  early <- grepl(early_words(), lower); late <- grepl(late_words(), lower)
  number <- suppressWarnings(as.numeric(stringi::stri_extract_first_regex(lower, "[0-9]+")))
  school <- match(lower, c("autumn", "fall", "winter", "spring", "summer"))
  place <- if (!anyNA(school) && grepl("term|semester|time|test|wave", tolower(col$name))) school else seq_along(lower)
  if (any(!is.na(number)) && all(!is.na(number) | early | late)) place <- ifelse(is.na(number), 0, number)
  place[early] <- -1; place[late] <- 1e6 + seq_along(lower)[late]
  col$levels[order(place)]
}

#' "which class gained the most from autumn to summer", "did phonics pupils improve more than the others", "pupils whose score dropped"
#' @noRd
change_of_worded <- function(out) {
  layout <- worded_layout(out$study)
  if (is.null(layout)) return(out)
  beside <- adjusted_for_worded(out, layout) %||% related_worded(out, layout)
  if (!is.null(beside)) return(beside)
  all <- over_all_occasions(out, layout)
  if (!is.null(all)) return(all)
  asked <- worded_change_asked(out, layout)
  if (is.null(asked)) return(out)
  ends <- asked$ends
  if (isTRUE(asked$plain)) return(reworded(out, sprintf("did %s change from %s to %s", asked$measure, ends[1], ends[2]), asked$told))
  name <- paste0(asked$measure, "_change")
  out$told <- c(out$told, asked$told)
  text <- gsub(" +", " ", sprintf("%s where %s = %s", sub("@", name, asked$text, fixed = TRUE), layout$time, ends[2]))
  with_derived(out, name, "from_start", asked$measure, text, within = layout$unit, order = layout$time, on = ends[1])
}

#' "does heart rate change over the visits", of three occasions or more: all of them are compared, not the first and the last
#' @noRd
over_all_occasions <- function(out, layout) {
  if (length(layout$levels) < 3) return(NULL)
  time <- as_literal(gsub("[_.]+", " ", tolower(layout$time)))
  form <- sprintf("(?i)^ *(?:do|does|did|has|have) (?:the )?(.+?) (?:change|changed|differ|vary|varied) (?:over|across|between|among|from) (?:the |all |all the )?(?:%ss|time|%s to %s)[?.! ]*$", time, time, time)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  measure <- if (!is.na(hit[1])) worded_measure(out, hit[2], layout)
  if (is.null(measure)) return(NULL)
  reworded(out, sprintf("does %s differ by %s", measure$name, layout$time), measure$told)
}

#' The occasions as one pattern, the longer first so that "week 12" is not read as "week 1"
#' @noRd
any_occasion <- function(layout) {
  paste(vapply(layout$levels[order(-nchar(layout$levels))], as_literal, ""), collapse = "|")
}

#' "does score differ between arms at week 12, adjusting for baseline": the unit's own value then is held constant
#' @noRd
adjusted_for_worded <- function(out, layout) {
  level <- any_occasion(layout)
  adjusting <- "(?:when |after )?(?:adjust(?:ing|ed)|control(?:ling|led)|account(?:ing|ed)|allow(?:ing|ed)|correct(?:ing|ed)) for (?:the |their )?"
  # "adjusting for baseline sbp, does treatment affect sbp at week 12": what is held constant comes last
  text <- sub(sprintf("(?i)^ *(%s[^,]+), +(.+?)[?.! ]*$", adjusting), "\\2, \\1", out$text, perl = TRUE)
  # ("age, sex and baseline sbp", "baseline and age": others stand beside it)
  what <- sprintf("((?:[\\p{L}_ ,]+?(?:, and|,| and) )?)(?:value |values |score |scores )?(?:at )?(?:((?:(?!and\\b)[\\p{L}_]+ )*?(?!and\\b)[\\p{L}_]+) (?:at |in )?(?:the )?)?(%s)(?: (?!and\\b|plus\\b)([\\p{L}_ ]+?))?((?:,| and| plus) .+?)?",  # nolint: line_length_linter.
                  level)
  form <- sprintf("(?i)^(.+?) (?:at|in|on) (?:the )?(%s)((?: [\\p{L}_ ]+?)?),? %s%s[?.! ]*$", level, adjusting, what)
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(NULL)
  # ("compare sbp at week 12 between the arms")
  asked <- paste0(hit[2], hit[4])
  ends <- layout$levels[match(tolower(hit[c(3, 7)]), tolower(layout$levels))]
  measure <- worded_measure(out, asked, layout)
  # (another measure at that occasion is held constant all the same)
  beside <- stats::na.omit(hit[c(6, 8)])
  beside <- beside[!grepl("^(values?|scores?|levels?|measurements?|readings?)$", tolower(beside))]
  held <- if (length(beside)) worded_measure(out, beside[1], layout) else measure
  if (is.null(measure) || is.null(held) || ends[1] == ends[2]) return(NULL)
  all <- paste0(hit[5], occasion_column(held$name, ends[2]), or_if_na(hit[9], ""))
  value_at_occasion(out, layout, held$name, ends[2], sprintf("%s where %s = %s, adjusting for %s", asked, layout$time, ends[1], all))
}

#' What the column of a measure at one occasion is called
#' @noRd
occasion_column <- function(measure, level) sprintf("%s_at_%s", measure, tolower(gsub("[^A-Za-z0-9]+", "_", level)))

#' The value of the same unit at one occasion, beside each row
#' @param level A level of the occasions, or a number where they are numbers. @param text The question that speaks of [occasion_column()].
#' @section Shape: as of [with_derived()].
#' @noRd
value_at_occasion <- function(out, layout, measure, level, text) {
  with_derived(out, occasion_column(measure, level), "value_at", measure, text, within = layout$unit, order = layout$time, on = level)
}

#' "is weight at baseline related to pain at week 12": the one beside the other of the same unit
#' @noRd
related_worded <- function(out, layout) {
  level <- any_occasion(layout)
  form <- sprintf("(?i)^ *(?:is|are|was|does|do|did|(?:what is |show )?(?:the )?(?:correlation|relation|relationship|association) (?:between|of)) (?:the )?(.+?) (?:at|in) (?:the )?(%1$s) (?:related|correlated|associated|linked|predict|predicts|and|with)(?: to| with)? (?:the )?(.+?) (?:at|in) (?:the )?(%1$s)[?.! ]*$", level)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(NULL)
  ends <- layout$levels[match(tolower(hit[c(3, 5)]), tolower(layout$levels))]
  numeric <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  one <- column_in_text(numeric, hit[2], kin_phrases(out$study, hit[2]))
  two <- if (grepl("^(it|that|the same)$", hit[4])) one else column_in_text(numeric, hit[4], kin_phrases(out$study, hit[4]))
  if (is.null(one) || is.null(two) || ends[1] == ends[2]) return(NULL)
  value_at_occasion(out, layout, two$name, ends[2], sprintf("is %s related to %s where %s = %s", one$name, occasion_column(two$name, ends[2]),
                                                           layout$time, ends[1]))
}

#' The measure, the two occasions and the question about the change, "@" standing for it
#' @section Shape: list(measure, ends, text, told), or NULL where no change of a unit is asked about.
#' @noRd
worded_change_asked <- function(out, layout) {
  span <- worded_span(out$text, layout)
  verb <- "(?:chang|drop|fall|fell|decreas|reduc|ris|ros|increas|improv|gain|lost|loss|declin|grew|grow|progress|get better|got better|get worse|got worse|better|worse|go up|go down|went up|went down|before and after)"  # nolint: line_length_linter.
  text <- trimws(gsub(" +", " ", without_mark(span$text)))
  # the two sides of a comparison of occasions alone are compared with all their rows
  who <- worded_who(out, text, layout)
  if (is.null(who) || !grepl(paste0("(?i)", verb, "|\\b(?:lower|higher|more|less)\\b"), out$text, perl = TRUE)) return(NULL)
  measure <- worded_measure(out, text, layout)
  if (is.null(measure)) return(NULL)
  judged <- grepl("(?i)\\b(improv\\w*|progress\\w*|better|worse|worsen\\w*)\\b", text, perl = TRUE)
  # better is less of a burden; of anything else more is taken to be better, and told
  if (judged && (less_is_better(measure$name) || more_is_worse(measure$name))) {
    turned <- c("above 0" = "below 0", "below 0" = "above 0", "has the highest" = "has the lowest", "has the lowest" = "has the highest")
    at <- which(vapply(names(turned), grepl, NA, who$text, fixed = TRUE))[1]
    if (!is.na(at)) who$text <- sub(names(turned)[at], turned[[at]], who$text, fixed = TRUE)
    measure$told <- c(measure$told, sprintf("Took less %s to be better.", measure$name))
  } else if (judged) measure$told <- c(measure$told, sprintf("Took more %s to be better.", measure$name))
  list(measure = measure$name, ends = span$ends, text = who$text, told = measure$told, plain = who$plain)
}

#' The two occasions that a text says, and the text without them; first and last where it says none
#' @noRd
worded_span <- function(text, layout) {
  level <- any_occasion(layout)
  forms <- c(sprintf("(?i) ?\\b(?:from|between) (?:the )?(%1$s)(?: %2$s)? (?:to|and|until|till) (?:the )?(%1$s)(?: %2$s)?\\b", level, layout$time),
             sprintf("(?i) ?\\b(?:in|at|on) (?:the )?(%1$s)(?: %2$s)? than (?:in|at|on) (?:the )?(%1$s)(?: %2$s)?\\b", level, layout$time))
  for (i in 1:2) {
    hit <- match_groups(text, forms[i])
    if (is.na(hit[1])) next
    ends <- layout$levels[match(tolower(hit[2:3]), tolower(layout$levels))]
    if (i == 2) ends <- rev(ends)
    if (ends[1] != ends[2]) return(list(ends = ends, text = sub(hit[1], if (i == 2) " @span" else "", text, fixed = TRUE)))
  }
  # (what is over is told by the first and the last occasion)
  over <- "(?i) ?\\b(?:over|during|through|throughout|across|after|following|in the course of) (?:the |this |all )?(?:whole |entire )?(?:year|school year|study|trial|terms?|visits?|time|period|course|programme|program|season|treatment|training|intervention|therapy|workshop|teaching|surgery|operation)\\b"  # nolint: line_length_linter.
  list(ends = layout$levels[c(1L, length(layout$levels))], text = sub(over, "", text, perl = TRUE))
}

#' What is asked about the change: of whom, in which groups
#' @section Shape: list(text), or NULL.
#' @noRd
worded_who <- function(out, text, layout) {
  people <- people_words()
  up <- "(?:go up|went up|goes up|improv\\w*|increas\\w*|ris\\w*|rose|gain\\w*|gr[eo]w\\w*|g[eo]t better|progress\\w*)"
  down <- "(?:go down|went down|goes down|drop\\w*|f[ae]ll\\w*|decreas\\w*|declin\\w*|lost|got worse|get worse|worsen\\w*)"
  lead <- "(?i)^ *(?:(how many|which|what (?:share|proportion|percentage) of|(?:share|proportion|percentage|number) of|list|show(?: me)?)(?: the| all)? )?"  # nolint: line_length_linter.
  whose <- match_groups(text, sprintf("%s%s(?:'s?)? (?:who |whose |that |with )?(?:the |a |an |their )?(?:[\\p{L}_]+ ){0,3}?(?:(%s)|(%s)|(?:scored |had |were |was |did )?(?:an? )?(lower|less|worse)|(?:scored |had |were |was |did )?(?:an? )?(higher|more|better))(?: [\\p{L}_]+)? ?(?:@span)?$",  # nolint: line_length_linter.
                                                         lead, people, up, down))
  if (!is.na(whose[1]) && (!is.na(whose[2]) || grepl("\\bwhose\\b|\\bwho\\b", text))) {
    fell <- !is.na(whose[4]) || !is.na(whose[5])
    side <- if (fell) "below 0" else "above 0"
    lead_to <- if (is.na(whose[2]) || grepl("^(which|list|show)", whose[2], ignore.case = TRUE)) "show rows with @"
      else if (grepl("how many|number", whose[2], ignore.case = TRUE)) "how many rows have @" else "share of rows with @"
    return(list(text = sprintf("%s %s", lead_to, side)))
  }
  # "did phonics pupils improve more than the others", "is the gain different for EAL pupils"
  more <- match_groups(text, sprintf("(?i)^ *(?:did|do|does|have|has) (?:the |those in |those on )?(.+?) (?:%s|%s|change) (?:more|less|further|faster|differently)(?: (?:than|in|on|for|by|between) (.+?))?$", up, down))  # nolint: line_length_linter.
  if (!is.na(more[1])) {
    by <- worded_groups(out, c(more[2], more[3]))
    if (!is.null(by)) return(list(text = sprintf("does @ differ by %s", by)))
  }
  noun <- "(?:change|gain|improvement|drop|loss|increase|decrease|fall|rise|growth|progress|decline)s?"
  other <- match_groups(text, sprintf("(?i)^ *(?:is|are|was|were|does|do|did) (?:the )?(?:average |mean )?%s(?: in [\\p{L}_ ]+?)? (?:differ|different|bigger|larger|greater|smaller|higher|lower|the same)(?: (?:for|in|among|by|between|across|on|with) (.+?))?$", noun))  # nolint: line_length_linter.
  if (!is.na(other[1]) && !is.na(other[2])) {
    by <- worded_groups(out, other[2])
    if (!is.null(by)) return(list(text = sprintf("does @ differ by %s", by)))
  }
  # "which class gained the most", "how much did each class gain", "change in score by programme"
  most <- match_groups(text, sprintf("(?i)^ *(?:which|what) ([\\p{L}_ ]+?) (?:%s|%s|changed)(?: [\\p{L}_]+)?(?: the)? (most|least)(?: in [\\p{L}_ ]+)?$", up, down))  # nolint: line_length_linter.
  if (!is.na(most[1])) {
    by <- worded_groups(out, most[2])
    fell <- grepl(paste0("(?i)\\b", down), text, perl = TRUE)
    if (!is.null(by)) return(list(text = sprintf("which %s has the %s @", by, if (xor(fell, tolower(most[3]) == "least")) "lowest" else "highest")))
  }
  each <- match_groups(text, sprintf("(?i)^ *how much (?:did|does|do|has|have) (?:each|every|the) ([\\p{L}_]+?) (?:%s|%s|change)\\w*(?: in [\\p{L}_ ]+| on average)?$", up, down))  # nolint: line_length_linter.
  if (!is.na(each[1])) {
    by <- worded_groups(out, each[2])
    if (!is.null(by)) return(list(text = sprintf("mean of @ by %s", by)))
  }
  of <- match_groups(text, sprintf("(?i)^ *(?:what (?:is|was) |show )?(?:the )?(?:(average|mean|median) )?%s(?: (?:in|of) (?:the )?[\\p{L}_ ]+?)? (?:by|in each|per|for each|across|between) (.+?)$", noun))  # nolint: line_length_linter.
  if (!is.na(of[1])) {
    by <- worded_groups(out, of[3])
    if (!is.null(by)) return(list(text = sprintf("%s of @ by %s", or_if_na(of[2], "mean"), by)))
  }
  # "average drop in sbp in the high dose arm", "mean change in sbp": of all, or of the rows at a level
  alone <- match_groups(text, sprintf("(?i)^ *(?:what (?:is|was) |show )?(?:the )?(average|mean|median|typical) %s (?:in|of) (?:the )?[\\p{L}_ ]+?(?: (?:in|for|among|on|of) (?:the )?(.+?))?$", noun))  # nolint: line_length_linter.
  if (!is.na(alone[1]) && (is.na(alone[3]) || !is.null(part_level(without_people(alone[3]), out$study)))) {
    rows <- if (is.na(alone[3])) "" else paste(" for", alone[3])
    return(list(text = sprintf("%s @%s", sub("typical", "median", tolower(alone[2])), rows)))
  }
  if (grepl("(?i)^ *compare .+ before and after( .+)?$", text, perl = TRUE)) return(list(text = text, plain = TRUE))
  # "did reading scores improve over the year": the first occasion beside the last
  alone <- sprintf("(?i)^ *(?:did|do|does|have|has) (?:the |their )?[\\p{L}_ ]+? (?:%s|%s|changed?)(?: significantly| clearly| at all)?$", up, down)
  if (grepl(alone, text, perl = TRUE) && !identical(text, trimws(without_mark(out$text)))) return(list(text = text, plain = TRUE))
  NULL
}

#' Words without what people or their groups are called behind them ("high dose" of "high dose arm")
#' @noRd
without_people <- function(words) sub(sprintf("(?i) (?:%s|arm|group|condition)$", people_words()), "", words, perl = TRUE)

#' The one column of groups that some words name, by itself or by one of its levels
#' @noRd
worded_groups <- function(out, words) {
  groups <- Filter(function(col) col$kind %in% c("category", "ordered", "yes_no"), all_columns(out$study))
  for (said in words[!is.na(words)]) {
    column <- column_in_text(groups, said, kin_phrases(out$study, said))
    if (!is.null(column)) return(column$name)
    level <- part_level(without_people(sub("(?i)^(the|those (in|on)) ", "", said, perl = TRUE)), out$study)
    if (!is.null(level)) return(level$column)
  }
  NULL
}

#' The measure that is named, or the only one whose name says that something is scored
#' @section Shape: list(name, told), or NULL.
#' @noRd
worded_measure <- function(out, text, layout) {
  numeric <- Filter(function(col) is.null(col$role), numeric_columns(out$study))
  # (by its name before by words akin to it)
  found <- column_in_text(numeric, text, named_phrases(out$study, numeric)) %||% column_in_text(numeric, text, kin_phrases(out$study, text))
  if (!is.null(found)) return(list(name = found$name, told = NULL))
  called <- function(words) Filter(function(col) grepl(words, tolower(col$name)), numeric)
  scored <- called("score|mark|grade|points")
  if (length(scored) != 1) scored <- called("score|mark|grade|points|rating|result|index|level|pain|pressure|performance|stress")
  only <- if (length(numeric) == 1) numeric else if (length(scored) == 1) scored
  if (!is.null(only)) list(name = only[[1]]$name, told = sprintf("Took %s as what changes.", only[[1]]$name))
}
