# Figures of a business by unit and period: whether a target was met, rates of conversion, and words of time that only say what a row is.

#' The turns about targets and periods, as of `everyday_turns()`
#' @noRd
turns_of_targets <- function() {
  list(turn("conversion", conversion_rate), turn("\\b(months|weeks|days|years|quarters)\\b", periods_as_rows),
       turn("(month|week|dai|year)ly|annual", rows_of_period), turn("targets?|goals?|budgets?|quotas?|plan", target_met),
       turn("\\bthe (most|least)\\b", does_most_of_what))
}

#' "the worst conversion": a rate, unless a column is called so
#' @noRd
conversion_rate <- function(out) {
  if (any(grepl("conver", tolower(vapply(all_columns(out$study), `[[`, "", "name"))))) return(out)
  reworded(out, gsub("(?i)\\bconversions?\\b(?! rate)", "conversion rate", out$text, perl = TRUE))
}

#' "in months with a promotion", of rows that are months: in rows with it
#' @noRd
periods_as_rows <- function(out) {
  form <- "(?i)\\b(?:in|on|during|for|of) (?:the |those |all )?(months|weeks|days|years|quarters) (?=(?:with(?:out)?|when|where|that|in which)\\b)"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || is.null(step_of_rows(out$study, sub("s$", "", tolower(hit[2]))))) return(out)
  reworded(out, sub("(?i)in rows where in which", "where", sub(form, "in rows ", out$text, perl = TRUE), perl = TRUE))
}

#' Does every row stand for one such period (of a unit)? The date column that says so
#' @section Shape: name of the column, or NULL.
#' @noRd
step_of_rows <- function(study, unit) {
  date <- date_columns(study)
  if (length(date) != 1) return(NULL)
  stamps <- unique(understood(study, date, find_column(study, date)$table))
  days <- sort(unique(as.Date(stamps)))
  # (hours of a day are no rows of days)
  if (length(days) < 2 || sum(!is.na(stamps)) > length(days)) return(NULL)
  gap <- range(as.numeric(diff(days)))
  usual <- list(day = c(1, 1), week = c(7, 7), month = c(28, 31), quarter = c(90, 92), year = c(365, 366))[[unit]]
  if (!is.null(usual) && gap[1] >= usual[1] && stats::median(as.numeric(diff(days))) <= usual[2]) date
}

#' "average monthly revenue", of rows that are the months of a store: the mean of the rows
#' @noRd
rows_of_period <- function(out) {
  form <- "(?i)\\b((?:average|mean|median|typical|usual|highest|lowest) )(monthly|weekly|daily|yearly|annual) (?=\\p{L})"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- period_adjectives[[tolower(hit[3])]]
  date <- step_of_rows(out$study, unit)
  if (is.null(date) || grepl(sprintf("(?i)\\b(plot|over time|trend|(by|per|each|every) %s)\\b", unit), out$text, perl = TRUE)) return(out)
  col <- find_column(out$study, date)
  days <- understood(out$study, date, col$table)
  # each unit has one row in a period, and the question asks about units
  units <- Filter(function(other) other$table == col$table && other$kind %in% c("id", "category") && other$distinct > 1 &&
    unique_pairs(understood(out$study, other$name, col$table), days), all_columns(out$study))
  named <- Filter(function(other) any(name_stems(other$name) %in% stems_of(out$text)[[1]]), units)
  if (!length(named) && anyDuplicated(days)) return(out)
  text <- sub(hit[1], hit[2], out$text, fixed = TRUE)
  # ("average monthly use per household": neither is added up)
  for (unit_name in vapply(named, `[[`, "", "name")) {
    text <- sub(sprintf("(?i) (?:per|for each|for every|of each) %s\\b", as_literal(unit_name)), "", text, perl = TRUE)
  }
  reworded(out, text, sprintf("Each row is one %s%s, so %s values are those of the rows.", unit,
                                                                     if (length(named)) sprintf(" of one %s", named[[1]]$name) else "", tolower(hit[3])))  # nolint: line_length_linter.
}

#' The column of a target and what is set against it
#' @section Shape: list(target, measure), or NULL where the data holds no such pair or several.
#' @noRd
target_pair <- function(study, text) {
  own <- Filter(function(col) is_numeric_kind(col$kind) && grepl("(^|[^a-z])(target|goal|budget|quota|plan|planned|threshold)s?([^a-z]|$)", tolower(col$name)),  # nolint: line_length_linter.
                all_columns(study))
  if (length(own) != 1) return(NULL)
  target <- own[[1]]
  others <- Filter(function(col) is_numeric_kind(col$kind) && col$name != target$name && col$table == target$table && isTRUE(col$distinct > 4), all_columns(study))  # nolint: line_length_linter.
  named <- column_in_text(others, text, named_phrases(study, others))
  own_stems <- setdiff(telling_stems(target$name), stem_words(c("target", "goal", "budget", "quota", "plan", "planned", "threshold")))
  alike <- Filter(function(col) (!is.null(col$unit) && identical(col$unit, target$unit)) || length(own_stems) && all(own_stems %in% telling_stems(col$name)), others)  # nolint: line_length_linter.
  # (of several the one that runs to about as much)
  middle <- function(col) stats::median(as.numeric(understood(study, col$name, col$table)), na.rm = TRUE)
  near <- Filter(function(col) isTRUE(abs(log(middle(col) / middle(target))) < log(5)), others)
  measure <- if (!is.null(named)) named$name else if (length(alike) == 1) alike[[1]]$name else if (length(others) == 1) others[[1]]$name else
    if (length(near) == 1) near[[1]]$name
  if (!is.null(measure)) list(target = target$name, measure = measure, said = named$said)
}

#' "did stores reach their target", "how many months did each store miss its target", "revenue above target": the one less the other
#' @noRd
target_met <- function(out) {
  reached <- target_reached(out)
  if (!is.null(reached)) return(reached)
  target <- "(?:the |their |its |his |her |our )?(?:sales |revenue )?(?:targets?|goals?|budgets?|quotas?|plans?)"
  met <- "(?:reach(?:ed|es)?|hit(?:s|ting)?|me(?:e)?ts?|achieved?s?|made|attain(?:ed|s)?|met)"
  beat <- "(?:beat(?:en|s)?|exceed(?:ed|s|ing)?|surpass(?:ed|es)?|outperform(?:ed|s)?|(?:(?:was|were|is|are|came in) )?(?:above|over))"
  miss <- "(?:miss(?:ed|es)?|fail(?:ed|s)? to (?:reach|hit|meet|achieve)|f[ae]ll(?:s|en)? short of|(?:(?:was|were|is|are|came in) )?(?:below|under|short of)|(?:did|do|does)(?: not|n['\u2019]t) (?:reach|hit|meet|achieve))"  # nolint: line_length_linter.
  form <- sprintf("(?i)\\b(%s|%s|%s) %s\\b(?: on| for)?", miss, beat, met, target)
  passive <- sprintf("(?i)\\b(?:was|were|is|are) %s (not )?(met|reached|hit|achieved|missed|beaten|exceeded|surpassed)\\b", target)
  hit <- match_groups(out$text, form)
  turned <- match_groups(out$text, passive)
  if (is.na(hit[1]) && is.na(turned[1]) || grepl("[0-9]", sub("(?:19|20)[0-9]{2}", "", or_if_na(hit[1], "")))) return(out)
  pair <- target_pair(out$study, out$text)
  if (is.null(pair)) return(out)
  verb <- if (!is.na(hit[1])) hit[2] else turned[3]
  side <- if (grepl(sprintf("(?i)^(?:%s|missed)$", miss), verb, perl = TRUE) || !is.na(turned[2])) "below 0"
    else if (grepl(sprintf("(?i)^(?:%s|beaten|exceeded|surpassed)$", beat), verb, perl = TRUE)) "above 0" else "at least 0"
  name <- sprintf("%s_less_%s", pair$measure, pair$target)
  text <- target_asked(out, sub(if (!is.na(hit[1])) hit[1] else turned[1], "@", out$text, fixed = TRUE), pair, name, side)
  if (is.null(text)) return(out)
  out <- with_derived(out, name, "difference", c(pair$measure, pair$target), text$text)
  out$told <- c(out$told, sprintf("Set %s against %s in each row.", pair$measure, pair$target), text$told)
  out
}

#' "percentage of target reached by region": the measure in percent of the target, totals over totals
#' @section Shape: As the argument, or NULL.
#' @noRd
target_reached <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:what |which |the )?(?:percentage|percent|share|proportion|%) of (?:the |their |its |our )?(?:sales |revenue )?(?:targets?|goals?|budgets?|quotas?|plans?) (?:was |were |is |has been |have been |that was )?(?:reached|achieved|met|attained|hit|fulfilled|reali[sz]ed)(.*?)[?.! ]*$")  # nolint: line_length_linter.
  pair <- if (!is.na(hit[1])) target_pair(out$study, out$text)
  if (is.null(pair)) return(NULL)
  out$rate_per <- 100
  reworded(out, sprintf("%s per single %s%s", pair$measure, pair$target, hit[2]), sprintf("Set the totals of %s against those of %s.", pair$measure,
      pair$target))
}

#' The question about a target, whose words "@" stand for, as one about the difference
#' @section Shape: list(text, told), or NULL.
#' @noRd
target_asked <- function(out, text, pair, name, side) {
  condition <- paste(name, side)
  noun <- "((?:[\\p{L}_]+ ){1,2}?)"
  match_of <- function(form) match_groups(text, form)
  bare <- function(x) trimws(gsub("(?i)\\b(?:the|each|every|all|any|our|whose|which|that|who|did|do|does|has|have)\\b", "", x, perl = TRUE))
  grouped <- function(said) {
    columns <- Filter(function(col) is_level_kind(col$kind) || col$kind == "id", all_columns(out$study))
    column_in_text(columns, said, named_phrases(out$study, columns))
  }
  tail_of <- function(said) { rest <- trimws(without_mark(said)); if (nzchar(rest)) paste0(" ", rest) else "" }
  # "which store missed its target most often"
  often <- match_of(sprintf("(?i)^ *(?:which|what) %s(?:did |has |have )?@ (?:the )?(most|least)(?: often| frequently| times)?(.*)$", noun))
  if (!is.na(often[1])) return(list(text = sprintf("which %s has the %s share with %s%s", trimws(often[2]), if (tolower(often[3]) == "most") "highest" else "lowest",  # nolint: line_length_linter.
                                                   condition, tail_of(often[4]))))
  # "how many months did each store miss its target"
  counted <- match_of(sprintf("(?i)^ *how (?:many (?:months|weeks|days|times|quarters|years)|often) (?:did |has |have |was |were )?(?:(?:each|every|the) )?%s?(?:have |has )?@(.*)$", noun))  # nolint: line_length_linter.
  if (!is.na(counted[1])) {
    unit <- grouped(or_if_na(counted[2], ""))
    # ("how many times did Dev miss target", of one rep)
    one <- if (is.null(unit)) level_in_text(out$study, or_if_na(counted[2], ""))
    head <- if (!is.null(one)) "how many rows have" else if (is.null(unit)) "what share of rows have" else "share with"
    own <- if (!is.null(one)) sprintf(" for %s = %s", one$column, one$level) else if (!is.null(unit)) paste(" by", unit$name) else ""
    return(list(text = sprintf("%s %s%s%s", head, condition, own, tail_of(counted[3]))))
  }
  # "who hit their target": of the column of people, each by its share of rows
  who <- match_of("(?i)^ *who (?:has |have |all )?@(.*)$")
  people <- Filter(function(col) (is_level_kind(col$kind) || col$kind == "id") && grepl("(^|[^a-z])(rep|agent|employee|staff|seller|salesperson|person|player|member|manager|operator|name|driver|worker|consultant)([^a-z]|$)",  # nolint: line_length_linter.
                                                                                   tolower(col$name)), all_columns(out$study))
  if (!is.na(who[1]) && length(people) == 1) return(list(text = sprintf("share with %s by %s%s", condition, people[[1]]$name, tail_of(who[2])),
                                                         told = sprintf("The share of rows is told for each %s.", people[[1]]$name)))
  # "months in which sales exceeded target": those rows
  rows <- match_of("(?i)^ *(?:which |the |list |show )?(?:months|weeks|days|years|quarters|rows|times) (?:in |on |at )?(?:which|when|where) .*?@(.*)$")  # nolint: line_length_linter.
  if (!is.na(rows[1])) return(list(text = sprintf("show the rows with %s%s", condition, tail_of(rows[2]))))
  # "did stores reach their target", "stores whose revenue was above target in more than half of the months"
  whether <- match_of(sprintf("(?i)^ *(?:did|do|does|has|have|were|was|are|is|which|what) (?:the |all |our |most )?%s?(?:have |has )?@(.*)$", noun))
  listed <- match_of(sprintf("(?i)^ *(?:which |what |the |list )?%s(?:whose|with|where|that|which|have|has)(?: (?:had|have|has))? .*?@(.*)$", noun))
  for (hit in list(whether, listed)) if (!is.na(hit[1])) {
    unit <- grouped(bare(or_if_na(hit[2], "")))
    half <- grepl("(?i)\\b(?:more than|over|at least|less than|fewer than) (?:half|[0-9])", hit[3], perl = TRUE)
    rest <- if (half) "" else tail_of(hit[3])
    if (is.null(unit)) next
    return(list(text = sprintf("share with %s by %s%s", condition, unit$name, rest),
                told = if (half) sprintf("Every %s is shown; which of them lie beyond the share asked about is read off the table.", unit$name)))
  }
  # "was the target met in June"
  alone <- match_of("^ *@(.*)$")
  if (!is.na(alone[1])) return(list(text = sprintf("what share of rows have %s%s", condition, tail_of(alone[2]))))
  # everywhere else a condition on the rows ("revenue in months below target")
  if (grepl("(?i)^ *(?:did|do|does|was|were|is|are) ", text, perl = TRUE)) {
    measured <- match_of("(?i)^ *(?:did|do|does|was|were|is|are) (?:the )?[\\p{L}_ ]+? @(.*)$")
    return(if (!is.na(measured[1])) list(text = sprintf("what share of rows have %s%s", condition, tail_of(measured[2]))))
  }
  # ("reps below target": in which of their rows, or altogether?)
  if (is.null(pair$said) && !grepl("\\p{L}+ (?:in|of|on|for|by|during|with) ", text, perl = TRUE)) return(NULL)
  list(text = sub("@", paste("with", condition), text, fixed = TRUE))
}

#' "which store sold the most in 2024": most of what is asked, where the verb names no column
#' @noRd
does_most_of_what <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(which|what|who) ((?:[\\p{L}_]+ ){0,2}?)(sold|sells?|earned|earns?|made|makes?|did|took|takes?|brought in|won|performed|performs?|produced|produces?) the (most|least)((?: (?:in|during|from|since|between|of|last|this|for|by) .*)?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  verb <- stem_words(tolower(sub(" .*$", "", hit[4])))
  numeric <- numeric_columns(out$study)
  phrases <- kin_phrases(out$study, hit[4])
  named <- Filter(function(col) verb %in% name_stems(col$name) || any(phrases$column == col$name & phrases$phrase == verb), numeric)
  # a column of what the verb says ("sold" of units_sold) is read where it stands; otherwise the measure is asked about
  if (length(named) || !is.null(level_in_text(out$study, hit[4])) || !is.null(column_in_text(numeric, hit[6], phrases))) return(out)
  reworded(out, sprintf("%s %shas the %s total%s", hit[2], hit[3], if (tolower(hit[5]) == "most") "highest" else "lowest", hit[6]))
}
