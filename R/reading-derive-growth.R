# Growth in long data, where nothing is called so: the change of what is measured of the same units; and what some of them ever did.

#' The turns, as of `everyday_turns()`; they stand before those of long data, which read what they write
#' @noRd
turns_of_growth <- function() {
  list(turn("grow|\\bgains?\\b", growth_as_change), turn("\\bby ", done_by_then), turn("^ *(when|at what|at which|on which|how long)\\b", when_first_so),  # nolint: line_length_linter.
       turn("share|proportion|percent|how many|number of", did_it_ever))
}

#' What grows in long data: the measure that the words name, else the one that such words can only mean
#' @noRd
growing_measure <- function(study, layout, text) {
  numeric <- layout_measures(study, layout)
  named <- column_in_text(numeric, text, named_phrases(study))
  if (!is.null(named)) return(list(name = named$name, said = named$said))
  own <- Filter(function(col) grepl("(^|[_. ])(height|weight|length|size|mass|biomass|diameter|girth|volume|area|wt|ht)([_. ]|$)", tolower(col$name)), numeric)  # nolint: line_length_linter.
  if (length(own) == 1) list(name = own[[1]]$name, said = NULL)
}

#' "growth rate per treatment", "how fast do the plants grow", "growth between day 7 and day 21", "height gain from day 0 to 28"
#' @noRd
growth_as_change <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout) || any(vapply(all_columns(out$study), function(col) any(c("growth", "gain") %in% tolower(name_words(col$name))), NA))) return(out)  # nolint: line_length_linter.
  step <- layout_step(layout)
  measure <- growing_measure(out$study, layout, out$text)
  if (is.null(measure)) return(out)
  per <- sprintf("change in %s per %s", measure$name, step)
  said <- if (is.null(measure$said)) "" else sprintf("(?:%s )?", as_literal(measure$said))
  # "from day 0 to 28" names the second of them as well
  text <- sub(sprintf("(?i)\\b(from|between) (%ss?) ([0-9.]+) (to|and) ([0-9.]+)\\b", step), "\\1 \\2 \\3 \\4 \\2 \\5", out$text, perl = TRUE)
  rules <- list(
    c(sprintf("(?i)\\b(?:the )?(?:average |mean )?%s(?:growth|gain) rates?(?: (?:of|in) (?:the )?[\\p{L}_]+)?", said), per),
    c(sprintf("(?i)\\b(?:the )?(?:average |mean )?(?:%s|dai)ly %s(?:growth|gain)(?: (?:of|in) (?:the )?%s)?", step, said, as_literal(measure$said %||% measure$name)), per),  # nolint: line_length_linter.
    c("(?i)^ *how (?:fast|quickly|rapidly) (?:do|does|did) (?:the )?[\\p{L}_]+ (?:grow|gain weight)", paste("average", per)),
    c(sprintf("(?i)\\b%s(?:growth|gain)s?(?= (?:between|from) %ss? [0-9])", said, step), paste("change in", measure$name)),
    c("(?i)^( *(?:do|does|did) )(?:the )?growths? (?=(?:differ|vary|depend))", sprintf("\\1the change in %s ", measure$name)),
    c("(?i)\\bgrowth(?= (?:by|in each|for each) )", paste("change in", measure$name)))
  for (rule in rules) {
    if (!grepl(rule[1], text, perl = TRUE)) next
    new <- sub(rule[1], rule[2], text, perl = TRUE)
    new <- sub(sprintf("(?i)(change in %s per %s) (?:per|for each|in each) (?=[\\p{L}_])", as_literal(measure$name), step), "\\1 by ", new, perl = TRUE)  # nolint: line_length_linter.
    # (a rate in steps that the times are not told in)
    return(reworded(out, new, if (is.null(measure$said)) sprintf("Took growth to be the change in %s.", measure$name)))
  }
  out
}

#' The column of yes and no that a text names and that is not the same in all rows of a unit
#' @param unit The column of the key.
#' @section Shape: As of [column_in_text()].
#' @noRd
event_of_units <- function(study, unit, text) {
  data <- study$tables[[unit$table]]$data
  flags <- Filter(function(col) col$kind == "yes_no" && col$table == unit$table && !is.null(data[[col$name]]) &&
    !same_within(data[[unit$name]], data[[col$name]]), all_columns(study))
  column_in_text(flags, text, kin_phrases(study, text))
}

#' "share of plants that flowered by treatment", of plants with several rows: those of which it was so in any of them
#' @noRd
did_it_ever <- function(out) {
  if (grepl("(?i)\\b(ever|never|at least once|rows|times|on|at|in|by|until|before|after|during|where|when|who are|per) [0-9]|\\b(never|ever|once|rows|average|mean|median|first|last|day|week|month|year|visit|session|time|each)s?\\b", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  lead <- "(?i)^ *((?:what )?(?:the )?(?:share|proportion|percentage|percent) of|how many|(?:the )?number of) (?:the )?"
  after <- match_groups(out$text, paste0(lead, "([\\p{L}_]+) (?:that |which |who )?(?:have |has |had |were |was )?([\\p{L}_]+(?:ed|ing|en|ow|id|ell|ost|eft))((?: (?:by|in each|for each|per) (?:the )?[\\p{L}_]+)?)[?.! ]*$"))  # nolint: line_length_linter.
  before <- match_groups(out$text, paste0(lead, "([\\p{L}_]+ing) ([\\p{L}_]+)((?: (?:by|in each|for each|per) (?:the )?[\\p{L}_]+)?)[?.! ]*$"))
  hit <- if (!is.na(after[1])) after else if (!is.na(before[1])) before[c(1, 2, 4, 3, 5)] else return(out)
  unit <- keys_called(keys_of(out$study, single = FALSE), hit[3])
  if (length(unit) != 1) return(out)
  event <- event_of_units(out$study, unit[[1]], hit[4])
  if (is.null(event)) return(out)
  reworded(out, sprintf("%s %s that ever %s%s", hit[2], hit[3], event$said, sub("(?i)^ (?:in each|for each|per) ", " by ", hit[5], perl = TRUE)),
           sprintf("Each %s counts once, however many rows it has.", unit[[1]]$name))
}

#' "how many plants had flowered by day 21": on that day or before
#' @noRd
done_by_then <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  form <- sprintf("(?i)^( *(?:how many|(?:the )?number of) .+?(?:ed|en|ing|ow|id|ell|ost|eft)) by (?:%s|%s)s? ([0-9.]+)(?=[?.! ]*$)", layout_step(layout), as_literal(layout$time))  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  reworded(out, sprintf("%s where %s is at most %s", sub("(?i)^( *(?:how many|number of) [\\p{L}_]+) (?:had|have|has) ", "\\1 ", hit[2], perl = TRUE), layout$time, hit[3]),  # nolint: line_length_linter.
           sprintf("Took \"by\" to mean %s up to %s.", layout$time, hit[3]))
}

#' "when did plants first flower", "at what day do they flower on average": the first time of each unit at which it was so
#' @noRd
when_first_so <- function(out) {
  layout <- long_layout(out$study)
  if (is.null(layout)) return(out)
  form <- "(?i)^ *(?:when|at (?:what|which) [\\p{L}]+|on which [\\p{L}]+|how long (?:until|before)) (?:do|does|did)? ?(?:the |each )?([\\p{L}_]+) (?:first )?([\\p{L}_]+?)(?: first| for the first time| on average| typically| usually)*((?: (?:by|in each|for each|per) (?:the )?[\\p{L}_]+)?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  event <- event_of_units(out$study, find_column(out$study, layout$unit), hit[3])
  if (is.null(event)) return(out)
  name <- paste0("first_", event$col$name, "_", layout_step(layout))
  flag <- paste0(layout$unit, "_first_row")
  out <- with_derived(out, flag, "first_row", layout$unit)
  done <- with_derived(out, name, "first_time", event$col$name,
                       sprintf("mean %s%s where %s is yes", name, sub("(?i)^ (?:in each|for each|per) ", " by ", hit[4], perl = TRUE), flag),
                       within = layout$unit, order = layout$time)
  if (!has_column(done$study, name)) return(out)
  done$told <- c(done$told, sprintf("Each %s counts once; one of which it never was so has no such time and is left out.", layout$unit))
  done
}
