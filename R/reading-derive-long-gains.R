# Gains of units in long data, told by a noun or a verb alone ("weight gain by diet", "how much did each rat gain"), and values at its
# first or last time ("weight at the start by diet").

#' The turns, as of `everyday_turns()`; they stand before those of long data, which read what they write
#' @noRd
turns_of_long_gains <- function() {
  list(turn("\\b(gain|growth|increase|loss|decrease|change|rise|drop|decline|improvement)s?\\b", gain_in_long),
       turn("^ *(how much|which|what|who) .*\\b(gain(ed)?|gr[eo]w|los[te]|put on|rise|rose|fall|fell|chang(e|ed)|increased?|decreased?)\\b",
           moved_in_long),
       turn("^ *how (fast|quickly|rapidly|slowly|steeply)\\b", speed_in_long),
       turn("\\b(after|at|by) .*\\b(second|minute|hour|day|week|month|year)s?\\b", time_in_long),
       turn("\\b(start|beginning|baseline|outset|end)\\b|\\b(initial|final|starting|ending) ", ends_in_long))
}

#' The measure that words name, by its name or as a question would ("concentration" of conc)
#' @section Shape: list(name), or NULL.
#' @noRd
measure_or_kin <- function(study, measures, words) {
  own <- column_in_text(measures, words, named_phrases(study, measures))
  if (!is.null(own)) return(own)
  said <- column_said(study_vocabulary(study), words)
  if (!is.null(said) && said$name %in% vapply(measures, `[[`, "", "name")) list(name = said$name)
}

#' Is less of it lost, or more of it gained? Words for a change that go up, and those that go down
#' @noRd
change_nouns <- function() list(up = "gain|growth|increase|rise|improvement", down = "loss|decrease|drop|decline|fall|reduction", either = "change")

#' "weight gain by diet", "does growth differ between diets", "which diet gives the largest weight gain": the last value less the first
#' @noRd
gain_in_long <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(data_tables(out$study)) > 1) return(out)
  # "growth per day of each chick": over the time from the first to the last
  per <- match_groups(out$text, sprintf("(?i) (?:per|each|a|every) (day|week|month|year|hour|minute|%s)\\b", as_literal(layout_step(layout))))
  text <- if (is.na(per[1])) out$text else sub(per[1], "", out$text, fixed = TRUE)
  # (in percent, from one time to another, or as a course over time: read elsewhere)
  elsewhere <- "per|rate|per ?cent(age)?|relative|from|until|over|between (?:week|day|time|month|year)s?|week|visit|baseline|related|correlat\\w*|adjust\\w*"  # nolint: line_length_linter.
  if (grepl(sprintf("(?i)\\b(%s)\\b|%%", elsewhere), text, perl = TRUE)) return(out)
  gain <- gain_said(out$study, text, layout_measures(out$study, layout))
  if (is.null(gain) || !asks_for_gain(text, gain$noun)) return(out)
  compared <- grepl("\\b(differ\\w*|depends?|var(y|ies)|which|compare\\w*|than|higher|lower|larger|greater|bigger|smaller|more|less)\\b", text,
      ignore.case = TRUE)
  change <- paste0(gain$measure, if (grepl(sprintf("^(%s)$", change_nouns()$down), gain$noun, ignore.case = TRUE)) "_loss" else "_change")
  column <- if (is.na(per[1])) change else sprintf("%s_per_%s", change, tolower(per[2]))
  statistic <- gain$statistic %||% if (compared) "" else "mean "
  changed_between_ends(out, layout, gain$measure, change, sub(gain$said, paste0(gain$before, statistic, column, " "), text, fixed = TRUE),
                       if (!is.na(per[1])) column)
}

#' How a question names a gain: "mean weight gain", "change in weight", or "growth" of the one thing that is measured
#' @section Shape: list(measure, noun, statistic (text or NULL), said, before (words that stay)), or NULL.
#' @noRd
gain_said <- function(study, text, measures) {
  hit <- match_groups(text, sprintf("(?i)\\b(?:the |their )?(mean |average |median |typical )?([\\p{L}_]+ )?(%s)s?(?: (?:in|of) (?:the )?(?!each\\b|every\\b|all\\b)([\\p{L}_]+))?\\b", paste(unlist(change_nouns()), collapse = "|")))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(NULL)
  # ("does the distance change", "did weight rise faster on diet 3": a verb, which is read elsewhere)
  around <- strsplit(text, hit[1], fixed = TRUE)[[1]]
  after <- paste(around[-1], collapse = hit[1])
  verb <- grepl("(?i)\\b(do|does|did|has|have)\\b", around[1], perl = TRUE) && !grepl("(?i)^ *(differ|depend|vary|varies|relate)", after, perl = TRUE)
  if (verb) return(NULL)
  said <- if (!is.na(hit[5])) hit[5] else trimws(or_if_na(hit[3], ""))
  found <- if (nzchar(said)) measure_or_kin(study, measures, said)
  alone <- is.null(found) && is.na(hit[5]) && length(measures) == 1 && grepl("growth|gain", hit[4], ignore.case = TRUE)
  if (is.null(found) && !alone) return(NULL)
  list(measure = if (alone) measures[[1]]$name else found$name, noun = hit[4], statistic = if (!is.na(hit[2])) hit[2], said = hit[1],
       before = if (alone && !is.na(hit[3])) hit[3] else "")
}

#' Is the gain asked about by groups, as a statistic or as a comparison? ("does the change in weight differ between diets" is asked of the
#' whole course, and read elsewhere)
#' @noRd
asks_for_gain <- function(text, noun) {
  course <- grepl("^ *(do|does|did|is|are|was|were)\\b", text, ignore.case = TRUE) && tolower(noun) == "change"
  grouped <- grepl("\\b(by|in each|for each|of each|for every|between|across|among)( the)? [[:alpha:]_]", text, ignore.case = TRUE)
  !course && (grouped || grepl("\\b(which|mean|average|median|differ\\w*|depends?|var(y|ies)|than)\\b", text, ignore.case = TRUE))
}

#' "how much did each rat gain", "which chick grew most", "which rat lost the most weight"
#' @noRd
moved_in_long <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(data_tables(out$study)) > 1) return(out)
  measures <- layout_measures(out$study, layout)
  verb <- "(gain(?:ed)?|gr[eo]w|los[te]|put on|rise|rose|fall|fell|changed?|increased?|decreased?)"
  unit <- as_literal(gsub("[_.]+", " ", tolower(layout$unit)))
  each <- match_groups(out$text, sprintf("(?i)^ *how much (?:([\\p{L}_]+) )?(?:did|does|has|have) (?:each|every) (?:%s)s? %s(?: on average)?[?.! ]*$", unit, verb))  # nolint: line_length_linter.
  most <- match_groups(out$text, sprintf("(?i)^ *(?:which|what) (%s)s? %s (?:the )?(most|least)(?: ([\\p{L}_]+))?[?.! ]*$", unit, verb))
  said <- if (!is.na(each[1])) each[2] else if (!is.na(most[1])) most[5] else return(out)
  own <- if (!is.na(said)) measure_or_kin(out$study, measures, said) else if (length(measures) == 1) list(name = measures[[1]]$name)
  if (is.null(own)) return(out)
  down <- grepl("^(los|fall|fell|decrease)", if (!is.na(each[1])) each[3] else most[3], ignore.case = TRUE)
  name <- paste0(own$name, if (down) "_loss" else "_change")
  text <- if (!is.na(each[1])) sprintf("top %d %s by %s", find_column(out$study, layout$unit)$distinct, layout$unit, name)
    else sprintf("which %s has the %s mean %s", layout$unit, if (tolower(most[4]) == "most") "highest" else "lowest", name)
  changed_between_ends(out, layout, own$name, name, text)
}

#' The change of each unit from the first time to the last, at its last; a loss is what was there first less what is there last
#'
#' @param each Name of the change per unit of time, or NULL.
#' @noRd
changed_between_ends <- function(out, layout, measure, name, text, each = NULL) {
  text <- gsub(" +", " ", sprintf("%s where %s = %s", without_mark(text), layout$time, format_plain(layout$last)))
  lost <- endsWith(name, "_loss")
  base <- if (lost) paste0(measure, "_change") else name
  derived <- with_derived(out, base, "from_start", measure, text, within = layout$unit, order = layout$time, on = layout$first)
  if (!has_column(derived$study, base)) return(out)
  if (lost) derived <- with_derived(derived, name, "converted", base, text, factor = -1)
  if (!is.null(each)) {
    derived <- with_derived(derived, each, "converted", name, text, factor = 1 / (layout$last - layout$first))
    derived$told <- c(derived$told, sprintf("%s is divided by the %s from the first to the last %s.", name,
        format_plain(layout$last - layout$first), layout$time))
  }
  derived$told <- c(derived$told, sprintf("%s is %s at %s %s less its value at %s %s of the same %s.", base, measure, layout$time,
      format_plain(layout$last),
                                          layout$time, format_plain(layout$first), layout$unit))
  derived
}

#' "weight at the start by diet", "final weight of each rat": the rows of the first or the last time
#' @noRd
ends_in_long <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || grepl("(?i)\\b(from|between|until|change[ds]?|since|minus|gain\\w*|adjust\\w*|relat\\w*|than)\\b", out$text,
      perl = TRUE)) return(out)
  measures <- layout_measures(out$study, layout)
  named <- any(vapply(all_columns(out$study), function(col) grepl("start|begin|initial|final|baseline|end(_|$)", tolower(col$name)), NA))
  if (named || is.null(column_in_text(measures, out$text, named_phrases(out$study, measures)))) return(out)
  forms <- c(first = "(?i),? *\\bat (?:the |its |their )?(?:very )?(?:start|beginning|outset|baseline)(?: of (?:the )?(?:study|trial|experiment|test|season))?\\b",  # nolint: line_length_linter.
             last = "(?i),? *\\bat (?:the |its |their )?(?:very )?end(?: of (?:the )?(?:study|trial|experiment|test|season))?\\b",
             first = "(?i)\\b(?:initial|starting) (?=[\\p{L}_]+)", last = "(?i)\\b(?:final|ending) (?=[\\p{L}_]+)")
  hits <- which(vapply(forms, function(f) grepl(f, out$text, perl = TRUE), NA))
  if (length(hits) != 1) return(out)
  at <- if (names(forms)[hits] == "first") layout$first else layout$last
  said <- trimws(regmatches(out$text, regexpr(forms[hits], out$text, perl = TRUE)))
  text <- trimws(gsub(" +", " ", sub(forms[hits], " ", out$text, perl = TRUE)))
  reworded(out, sprintf("%s where %s = %s", without_mark(text), layout$time, format_plain(at)),
           sprintf("Took %s to mean %s %s.", quoted(sub("^, *", "", said)), layout$time, format_plain(at)))
}

#' "how fast do the chicks grow", "how quickly does the concentration fall in each subject": the change per unit of time
#' @noRd
speed_in_long <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || length(data_tables(out$study)) > 1) return(out)
  hit <- match_groups(out$text, "(?i)^ *how (?:fast|quickly|rapidly|slowly|steeply) (?:do|does|did|has|have) (?:the |each |every )?([\\p{L}_]+(?: [\\p{L}_]+)?) (?:grow|gain(?: weight)?|rise|fall|drop|decline|decrease|increase|change|go up|go down|shrink)( (?:by|in|for|on|with) .+?)?(?: on average)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  measures <- layout_measures(out$study, layout)
  own <- measure_or_kin(out$study, measures, hit[2])
  unit <- stem_words(tolower(layout$unit))
  if (is.null(own) && length(measures) == 1 && any(stems_of(hit[2])[[1]] %in% unit)) own <- list(name = measures[[1]]$name)
  if (is.null(own)) return(out)
  name <- paste0(own$name, "_change")
  each <- sprintf("%s_per_%s", name, layout_step(layout))
  changed_between_ends(out, layout, own$name, name, sprintf("mean %s%s", each, or_if_na(hit[3], "")), each)
}

#' "concentration after 2 hours by subject", of rows at each time: the rows of that time, where the name of the column tells no other unit
#' @noRd
time_in_long <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || grepl("(?i)\\b(from|between|until|change[ds]?|since|minus|less|gain\\w*|adjust\\w*|relat\\w*|correlat\\w*|than|least|most|before)\\b", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  hit <- match_groups(out$text, sprintf("(?i),? *\\b(?:after|at|by) (?:the )?([0-9]+(?:[.][0-9]+)?|%s) (second|minute|hour|day|week|month|year)s?\\b", counting_words()))  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  n <- word_number(hit[2]); step <- layout_step(layout)
  if (!step %in% c("time", tolower(hit[3])) || !isTRUE(n %in% layout$times)) return(out)
  rest <- trimws(gsub(" +", " ", sub(hit[1], " ", out$text, fixed = TRUE)))
  reworded(out, sprintf("%s where %s = %s", without_mark(rest), layout$time, format_plain(n)),
           sprintf("Took %s to mean %s %s.", quoted(trimws(sub("^,", "", hit[1]))), layout$time, format_plain(n)))
}
