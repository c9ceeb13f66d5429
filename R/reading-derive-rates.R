# Counts that are a part of other counts ("parts scrapped" of "parts made"), spoken of as rates and percentages.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_rates <- function() {
  list(turn("overall|pooled|combined|\\b(by|per|each|across|every|which|what)\\b|^ *[\\p{L}_. ]+$", ratio_as_rate), turn("\\brates?\\b",
      rate_over_known_base),
      turn("\\bper\\b|\\btotal\\b|number of|how many|\\bmost\\b|\\bfewest\\b", units_as_measures), turn("[0-9] ?(%|per ?cent)", percent_of_whole),
      turn("\\brates?\\b.*[0-9]", bound_on_rate), turn("(best|worst|highest|lowest|top|bottom).*\\brates?\\b", ranked_by_rate),
      turn("\\b(correlat\\w*|relat\\w*|associat\\w*)\\b.*\\brates?\\b", rate_of_rows), turn("first[- ]pass yield", pass_rate),
      turn("\\b(rates?|success)\\b", rate_of_part), turn("\\bper\\b", rate_by_period),
       turn("\\b(per|for each|for every)\\b", mean_per_unit),
           turn("\\b(never|ever|at least once|at least one|one or more|any)\\b|\\b(share|percent\\w*|proportion) of .* (with|had) ",
           units_that_never))
}

#' "injuries per 1000 minutes", "metres per minute": the column that is measured in the unit, where no column is called so
#' @noRd
units_as_measures <- function(out) {
  # (days and longer are steps of time as well)
  units <- unit_words()[setdiff(names(unit_words()), c("days", "months", "weeks", "years", "year", "percent", "points", "second", "degree",
    "degrees", "foot", "pound", "pounds"))]
  words <- paste(names(units), collapse = "|")
  forms <- c(sprintf("(?i)\\b(?:per|total|number of|how many|most|fewest) (?:[0-9][0-9,]* )?(%s)\\b", words),
      sprintf("(?i)(?<![0-9] )\\b(%s) per\\b", words))
  for (form in forms) {
    hit <- first_match(out$text, form)
    if (is.null(hit) || stem_words(tolower(hit[2])) %in% unlist(lapply(all_columns(out$study), called_stems))) next
    own <- Filter(function(col) identical(col$unit, unname(units[tolower(hit[2])])), numeric_columns(out$study))
    # of several the one that is called as what the unit measures
    plain <- "^(distance|length|duration|time|weight|mass|volume|area|height|energy)([_. ]|$)"
    if (length(own) > 1) own <- Filter(function(col) grepl(plain, tolower(col$name)), own)
    if (length(own) != 1) next
    said <- sub(as_literal(hit[2]), own[[1]]$name, hit[1])
    out <- reworded(out, sub(hit[1], said, out$text, fixed = TRUE), sprintf("Took %s as %s.", quoted(hit[2]), own[[1]]$name))
  }
  out
}

#' Words of columns that count everything there was
#' @noRd
whole_words <- function() {
  c("total", "all", "n", "made", "produced", "production", "output", "tested", "inspected", "sampled", "screened", "examined", "sent", "shipped", "delivered",  # nolint: line_length_linter.
    "eligible", "population", "exposed", "trials", "attempts", "attempted", "admissions", "visits", "impressions", "sessions", "enrolled", "invited",
    "planted", "sown", "cast", "born", "calls", "contacts", "transactions", "orders", "visitors", "footfall", "customers", "clicks", "leads", "purchases", "sales", "sold")  # nolint: line_length_linter.
}

#' The count that a count is a part of: never smaller in any row, and named with it or as a total
#' @section Shape: name of a column, or NULL where none or several could be meant.
#' @noRd
whole_of <- function(study, name) {
  col <- find_column(study, name)
  # amounts are parts of amounts in the same unit
  alike <- function(other) if (col$kind == "count") other$kind == "count" else other$kind == "number" && !is.null(col$unit) && identical(other$unit, col$unit)  # nolint: line_length_linter.
  columns <- Filter(function(other) alike(other) && other$name != name && other$table == col$table && is.null(other$role), all_columns(study))
  own <- telling_stems(name)
  parts <- understood(study, name, col$table)
  fits <- vapply(columns, function(other) {
    words <- strsplit(tolower(name_words(other$name)), " ")[[1]]
    within <- any(vapply(telling_stems(other$name), function(stem) nchar(stem) >= 4 && any(grepl(stem, own, fixed = TRUE)), NA))
    if (!within && !any(words %in% whole_words())) return(FALSE)
    whole <- understood(study, other$name, other$table)
    both <- !is.na(parts) & !is.na(whole)
    sum(both) >= 3 && all(parts[both] >= 0) && all(parts[both] <= whole[both]) && sum(parts[both]) < sum(whole[both])
  }, NA)
  if (sum(fits) == 1) columns[[which(fits)]]$name
}

#' The one count that words name and that is a part of another
#' @section Shape: list(part, whole, said), or NULL.
#' @noRd
part_in_text <- function(study, text) {
  counts <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$distinct > 2) && is.null(col$role), all_columns(study))
  found <- column_in_text(counts, text, kin_phrases(study, text))
  if (is.null(found)) return(NULL)
  whole <- whole_of(study, found$name)
  if (!is.null(whole)) list(part = found$name, whole = whole, said = found$said)
}

#' "the scrap rate by machine": per part made
#' @noRd
rate_of_part <- function(out) {
  form <- "(?i)\\b(?:the )?(?:overall |total |average |mean )?((?:[\\p{L}_]+ ){1,3}?)(?:rates?|success)\\b(?! (?:per|of|ratio))"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || any(vapply(all_columns(out$study), function(col) grepl("(^|[_. ])rate", tolower(col$name)), NA))) return(out)
  found <- part_in_text(out$study, hit[2])
  if (is.null(found) || !endsWith(trimws(hit[2]), found$said)) return(out)
  said <- sub(paste0("^.*?(?=(the )?(overall |total |average |mean )?", as_literal(found$said), " (rates?|success)$)"), "", hit[1], perl = TRUE, ignore.case = TRUE)  # nolint: line_length_linter.
  # a table of rates is easier read in hundredths
  out$rate_wish <- 100
  reworded(out, sub(said, sprintf("%s per single %s", found$part, found$whole), out$text, fixed = TRUE),
           sprintf("Took %s to be %s per %s, which it never exceeds.", quoted(trimws(said)), found$part, found$whole))
}

#' The part of a whole that the last words before "rate" name
#' @section Shape: as of [part_in_text()].
#' @noRd
part_before_rate <- function(study, words) {
  words <- strsplit(trimws(words), " ")[[1]]
  for (size in seq_len(min(3, length(words)))) {
    found <- part_in_text(study, paste(utils::tail(words, size), collapse = " "))
    if (!is.null(found)) return(found)
  }
  NULL
}

#' The part of each row's whole, as a column
#' @section Shape: list(out, name), or NULL.
#' @noRd
with_row_rate <- function(out, found) {
  name <- sprintf("%s_per_%s", found$part, found$whole)
  done <- with_derived(out, name, "ratio", c(found$part, found$whole), out$text)
  if (has_column(done$study, name)) list(out = done, name = name)
}

#' "batches with a scrap rate above 4%": the bound is on each row's rate; "is the scrap rate under 3 percent": the rate is told
#' @noRd
bound_on_rate <- function(out) {
  bound <- "(above|over|below|under|at least|at most|more than|less than|higher than|lower than|exceeding) (?:the )?([0-9.]+) ?(%|per ?cent)"
  form <- sprintf("(?i)\\b(with|where|having|whose|that have|which have|have|has|had) (?:an? |the )?((?:[\\p{L}_]+ ){1,3}?)rates? (?:is |was |of |are )?%s", bound)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (!is.na(hit[1])) {
    found <- part_before_rate(out$study, hit[3])
    made <- if (!is.null(found)) with_row_rate(out, found)
    if (is.null(made)) return(out)
    share <- format(as.numeric(hit[5]) / 100, digits = 12)
    said <- sprintf("with %s %s %s", made$name, plain_bound(hit[4]), share)
    return(reworded(made$out, sub(hit[1], said, out$text, fixed = TRUE),
                    sprintf("Took %s to mean %s divided by %s of each row.", quoted(paste0(trimws(hit[3]), " rate")), found$part, found$whole)))
  }
  asked <- match_groups(out$text, sprintf("(?i)^ *(?:is|are|was|were) (?:the )?(?:overall |total )?((?:[\\p{L}_]+ ){1,3}?)rates? (?:overall |really )?%s(?: overall| in total| altogether)?[?.! ]*$", bound))  # nolint: line_length_linter.
  found <- if (!is.na(asked[1])) part_before_rate(out$study, asked[2])
  if (is.null(found)) return(out)
  reworded(out, paste0(trimws(asked[2]), " rate"), sprintf("The rate is told with its interval, to be held against %s %%.", asked[4]))
}

#' "best line by scrap rate": the group with the lowest or the highest of it
#' @noRd
ranked_by_rate <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:which (?:is|are) )?(?:the )?(best|worst|highest|lowest) ([\\p{L}_]+) (?:by|in|on|for|in terms of) ((?:[\\p{L}_]+ ){1,3}?)rates?[?.! ]*$")  # nolint: line_length_linter.
  found <- if (!is.na(hit[1])) part_before_rate(out$study, hit[4])
  if (is.null(found)) return(out)
  bad <- grepl("scrap|defect|fail|error|reject|loss|lost|damag|complain|return|death|injur|late|miss|wast", tolower(found$part))
  side <- switch(tolower(hit[2]), best = if (bad) "lowest" else "highest", worst = if (bad) "highest" else "lowest", tolower(hit[2]))
  reworded(out, sprintf("which %s has the %s %srate", hit[3], side, hit[4]),
           if (tolower(hit[2]) %in% c("best", "worst")) sprintf("Took a %s rate to be better.", if (bad) "lower" else "higher"))
}

#' "correlation of humidity with scrap rate": the rate of each row
#' @noRd
rate_of_rows <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b((?:[\\p{L}_]+ ){1,3}?)rates?\\b(?! of)")
  if (is.na(hit[1]) || any(vapply(all_columns(out$study), function(col) grepl("(^|[_. ])rate", tolower(col$name)), NA))) return(out)
  found <- part_before_rate(out$study, hit[2])
  made <- if (!is.null(found)) with_row_rate(out, found)
  if (is.null(made)) return(out)
  said <- sprintf("(?i)\\b(?:the )?%s rates?\\b", as_literal(found$said))
  if (!grepl(said, out$text, perl = TRUE)) return(out)
  reworded(made$out, sub(said, made$name, out$text, perl = TRUE), sprintf("Rows count alike, whatever their %s.", found$whole))
}

#' "first pass yield by line": the share that passed
#' @noRd
pass_rate <- function(out) reworded(out, sub("(?i)\\bfirst[- ]pass yield\\b", "pass rate", out$text, perl = TRUE))

#' "more than 5 % scrapped": a bound on the part of the whole, no count above 5
#' @noRd
percent_of_whole <- function(out) {
  bound <- "(more than|over|above|at least|less than|fewer than|below|under|at most|up to)"
  form <- sprintf("(?i)\\b(?:have |has |had |with )?%s ([0-9.]+) ?(?:%%|per ?cent) (?:of )?(?:the |their |its )?((?:[\\p{L}_]+ ?){1,3})", bound)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- part_in_text(out$study, hit[4])
  if (is.null(found) || !startsWith(tolower(hit[4]), tolower(found$said))) return(out)
  name <- sprintf("%s_per_%s", found$part, found$whole)
  said <- up_to_words(hit[1], hit[4], found$said)
  share <- format(as.numeric(hit[3]) / 100, digits = 12)
  out$told <- c(out$told, sprintf("Took %s to mean %s divided by %s %s %s.", quoted(said), found$part, found$whole, tolower(hit[2]), share))
  with_derived(out, name, "ratio", c(found$part, found$whole), sub(said, sprintf("with %s %s %s", name, hit[2], share), out$text, fixed = TRUE))
}

#' "weekly parts_scrapped per parts_made", "claims per holder by month": the totals of each period set against each other
#' @noRd
rate_by_period <- function(out) {
  date <- rows_date(out)
  said <- paste0("(?i)\\b(?:the )?(week|month|quarter|year|dai|day)ly\\b|\\b(?:by|for each|for every|in each|each|every|over the) (?:calendar )?(week|month|quarter|year|day)s?\\b|",  # nolint: line_length_linter.
                 "\\bper (week|month|quarter|year|day)(?=[?.! ]*$)")
  hit <- match_groups(out$text, said)
  if (is.na(hit[1]) || length(date) != 1) return(out)
  numeric <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$distinct > 4), all_columns(out$study))
  bare <- sub(hit[1], "", out$text, fixed = TRUE)
  pair <- match_groups(bare, "(?i)((?:[\\p{L}_0-9]+ ){1,3})per ((?:[\\p{L}_0-9]+ ?){1,3})")
  if (is.na(pair[1])) return(out)
  phrases <- named_phrases(out$study)
  top <- column_in_text(numeric, pair[2], phrases); base <- column_in_text(numeric, pair[3], phrases)
  if (is.null(top) || is.null(base) || top$name == base$name) return(out)
  every <- sub("^dai$", "day", tolower(stats::na.omit(hit[-1])[1]))
  name <- period_name_of(every, date)
  with_derived(out, name, "period", date, trimws(gsub(" +", " ", paste(without_mark(bare), "by", name))), every = every)
}

#' "average revenue per customer by country", "average number of loans per member": totals of units, each of which counts once
#'
#' The column is only named here; the rows are added up once the conditions are read (see `totals_of_units()`).
#' @noRd
mean_per_unit <- function(out) {
  keys <- keys_of(out$study, single = FALSE)
  asked <- "\\b(average|mean|median|typical|on average|differ|compare|distribution|histogram|higher|lower|more|less)\\b"
  plain <- bare_per_unit(out$study, keys, out$text)
  if (!length(keys) || is.null(plain) && !grepl(asked, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  text <- plain %||% out$text
  text <- sub("(?i)^ *how (?:many|much) (.+?) on average", "average number of \\1", text, perl = TRUE)
  form <- "(?i)\\b((?:average|mean|median|typical|total|sum of|number of|amount of|the|in|of|do|does) )*((?:[\\p{L}_]+ ){1,3}?)(?:per|for each|for every) ([\\p{L}_]+)\\b"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(out)
  unit <- units_called(keys, hit[4])
  if (length(unit) != 1) return(out)
  of <- counted_per_unit(out$study, trimws(hit[3]), unit[[1]])
  if (is.null(of)) return(out)
  lead <- sub(paste0(as_literal(hit[3]), ".*$"), "", hit[1])
  lead <- gsub("(?i)\\b(number|amount|sum|total)( of)? ", "", lead, perl = TRUE)
  out$per_unit <- c(list(unit = unit[[1]]$name, table = unit[[1]]$table), of[c("outcome", "rows", "distinct")])
  out$told <- c(out$told, of$told)
  # ("yearly cost per household", over several years: each of them once a year)
  out <- with_period_of_units(out, hit[1])
  text <- sub(hit[1], paste0(lead, of$outcome), text, fixed = TRUE)
  if (!of$rows && is.null(of$distinct)) return(reworded(out, text))
  derived_in(out, unit[[1]]$table, of$outcome, "rows_each", unit[[1]]$name, text)
}

#' The period in which each unit is to be counted once, where the words say one: a column of that period is derived
#' @noRd
with_period_of_units <- function(out, said) {
  every <- match_groups(said, "(?i)\\b(?:(year|month|week|quarter|dai)ly|(annual))\\b")
  date <- rows_date(out)
  if (is.na(every[1]) || length(date) != 1) return(out)
  every <- if (!is.na(every[3])) "year" else sub("^dai$", "day", tolower(every[2]))
  name <- period_name_of(every, date)
  done <- with_derived(out, name, "period", date, every = every)
  if (!has_column(done$study, name)) return(out)
  done$per_unit$every <- name
  done
}

#' "revenue per customer in Germany", of a key with many values: their mean is asked for, though no word says so
#' @section Shape: the question with the word, or NULL.
#' @noRd
bare_per_unit <- function(study, keys, text) {
  if (grepl("(?i)\\b(total|sum|list|show|top|rank|which|who|each|every|table|plot|rate|highest|lowest|most|least|by (the )?number|average|mean|median|typical)\\b|~|[0-9]", text, perl = TRUE)) return(NULL)  # nolint: line_length_linter.
  hit <- match_groups(text, "(?i)^ *(?:what (?:is|was) |what's |show |give )?(?:me )?(?:the )?((?:[\\p{L}_]+ ){1,3}per ([\\p{L}_]+)\\b.*)$")
  if (is.na(hit[1])) return(NULL)
  unit <- Filter(function(col) col$distinct > 20, units_called(keys, hit[3]))
  if (length(unit) == 1) paste("average", hit[2])
}

#' The keys that a noun names; people are those of the one key that comes back, whatever it is called
#' @noRd
units_called <- function(keys, noun) {
  own <- keys_called(keys, noun)
  if (length(own) || length(keys) != 1 || !stem_words(tolower(noun)) %in% stem_words(plural_people())) return(own)
  # (a key of plants or orders is none of people)
  called <- key_stems(keys[[1]]$name)
  if (any(called %in% setdiff(english$entities, stem_words(c(plural_people(), "person"))))) own else keys
}

#' What is added up over the rows of a unit: a measure that adds up, different values of another key ("orders per customer"), or the
#' rows themselves
#' @section Shape: list(outcome (name), rows, distinct (name of a key), told), or NULL.
#' @noRd
counted_per_unit <- function(study, said, unit) {
  numeric <- Filter(function(col) col$table == unit$table && is.null(col$role) && !isTRUE(col$share), numeric_columns(study))
  col <- column_in_text(numeric, said, named_phrases(study))$col
  if (!is.null(col)) {
    money <- is_money(col$unit)
    # (what is told in a unit is measured, whatever its name ends in: "rt_ms")
    pieces <- col$kind == "count" && is.null(col$unit) && grepl("s([_. ]|$)", tolower(col$name))
    plain <- adds_up(col$name) || pieces || money && !grepl("(^|[^a-z])(price|rate|per|avg|average|mean|fee|salary|wage)([^a-z]|$)", tolower(col$name))  # nolint: line_length_linter.
    # (a duration told once for each time of each unit, as sleep of each night, is averaged and not added up)
    timed <- isTRUE(col$unit %in% c("s", "sec", "min", "h", "hours", "minutes")) && identical(long_layout(study)$unit, unit$name)
    if (plain && !timed && is.numeric(study$tables[[col$table]]$data[[col$name]])) return(list(outcome = col$name, rows = FALSE))
    return(NULL)
  }
  noun <- last_of(strsplit(said, " ")[[1]])
  # (a key of lines that belong together: an order with its items)
  whole <- Filter(function(col) col$table == unit$table && col$name != unit$name, keys_called(keys_of(study, single = FALSE), noun))
  if (length(whole) == 1) return(list(outcome = paste(noun, "per", unit_word(unit$name), sep = "_"), rows = FALSE, distinct = whole[[1]]$name))
  pieces <- Filter(function(col) grepl("^(quantity|qty|units|pieces|items|n_items|item_count|number_of_items)$", tolower(col$name)), numeric)
  if (length(pieces) == 1 && grepl("^(items?|products?|units?|pieces?|articles?|goods)$", noun, ignore.case = TRUE)) {
    return(list(outcome = pieces[[1]]$name, rows = FALSE, told = sprintf("Took %s as %s.", quoted(noun), pieces[[1]]$name)))
  }
  rows <- c(unlist(lapply(keys_of(study, single = TRUE), function(k) if (k$table == unit$table) key_stems(k$name))), name_stems(unit$table),  # nolint: line_length_linter.
            stem_words(c("row", "record", "entry")))
  if (stem_words(tolower(noun)) %in% rows) list(outcome = paste(noun, "per", unit_word(unit$name), sep = "_"), rows = TRUE)
}

#' The reading on one row for each unit, with its total over the rows that the conditions keep
#' @section Shape: The verdict, with `study` where the rows were added up.
#' @noRd
totals_of_units <- function(study, verdict, per) {
  r <- verdict$reading
  if (is.null(per) || !identical(verdict$status, "answered") || per$unit %in% r$by) return(verdict)
  # a condition on the total itself ("never infected") is one on the units
  held <- isTRUE(per$condition) && r$task %in% c("frequency", "look_up") &&
    (any(vapply(r$filters, function(f) f$column == per$outcome, NA)) || identical(r$extra$event$column, per$outcome))
  taken <- identical(r$outcome, per$outcome) && r$task %in% c("describe", "compare", "distribution", "figure", "rank")
  # (the question speaks of units: means of rows would be another answer)
  if (!held && !taken) return(new_verdict("cannot_answer", r, sprintf(
    "Totals of each %s are described, compared and ranked, and nothing else is done with them yet. Ask for their mean in groups.", per$unit)))
  # (the key stands in every table that it joins)
  home <- per$table %||% find_column(study, per$unit)$table
  table_of <- function(name) find_column(study, name)$table
  conditions <- setdiff(vapply(r$filters, `[[`, "", "column"), if (held) per$outcome)
  beside <- unique(c(r$by, r$adjust_for, r$predictors, conditions))
  own <- beside[vapply(beside, table_of, "") == home]
  # a column of another table is one of the unit where the unit is what joins them
  # (or is the same in all rows of the unit: the customer of an order)
  rows <- study$tables[[home]]$data
  of_unit <- function(key) key == per$unit || !is.null(rows[[key]]) && same_within(rows[[per$unit]], rows[[key]])
  by_unit <- vapply(setdiff(beside, own), function(name) any(vapply(study$joins, function(j) j$many == home && j$one == table_of(name) &&
    of_unit(j$key), NA)), NA)
  if (!all(by_unit) || per$outcome %in% conditions) {
    return(new_verdict("cannot_answer", r, sprintf("A total for each %s cannot be taken under these conditions. Ask for one of them at a time.", per$unit)))  # nolint: line_length_linter.
  }
  step <- list(type = "units", unit = per$unit, column = per$outcome, rows = per$rows, distinct = per$distinct, by = unique(c(setdiff(own, conditions), per$every)),  # nolint: line_length_linter.
               filters = Filter(function(f) f$column %in% setdiff(own, per$outcome), r$filters), implied = TRUE)
  done <- tryCatch(refresh(within_tables(study, home, step)), upbeatquill_error = function(e) NULL)
  if (is.null(done)) return(new_verdict("cannot_answer", r, sprintf("The rows could not be added up for each %s under these conditions.", per$unit)))
  done$tables[[home]]$before_units <- study$tables[[home]]
  r["unit"] <- list(NULL)
  # who it is comes first in the list
  if (held && r$task == "look_up" && !length(r$outcome)) r$outcome <- per$unit
  # (a column that only takes up the count is told with the units)
  if (!is.null(per$distinct)) r$assumed <- r$assumed[!startsWith(r$assumed, paste0(per$outcome, ":"))]
  r$extra$per_unit <- per
  verdict$reading <- finish_reading(r)
  verdict$study <- done
  verdict
}

#' "which children were never infected", "how many customers ever returned something": units by the number of their rows in which it was so
#' @noRd
units_that_never <- function(out) {
  form <- paste0("(?i)^ *(how many|number of|which|what|list|show|(?:what )?(?:share|proportion|percentage|percent) of) (?:the )?([\\p{L}_]+) (?:who |that )?(?:have |has |had |were |was |are |is )?",  # nolint: line_length_linter.
                 "(never|ever|at least once) (?:been |was |were |had )?(.+?)(?: (?:anything|something|at all|an item|any))?((?: (?:by|in each|for each|per|within each) (?:the )?[\\p{L}_]+)?)[?.! ]*$")  # nolint: line_length_linter.
  # "patients with at least one adverse event"
  asked <- sub("(?i)\\b(?:with|having|who had|who have had|who experienced|that had|had|have had) (?:at least one|one or more|any) (?!of\\b)",
    "ever had ", out$text, perl = TRUE)
  # "what share of subjects had an adverse event", of subjects with several rows
  asked <- sub(paste0("(?i)^( *(?:what )?(?:share|proportion|percentage|percent) of (?:the )?[\\p{L}_]+) (?:(?:who|that) )?(?:with|having|had|have had|experienced) ",  # nolint: line_length_linter.
                      "(?:an? |the )?(?!ever\\b)"), "\\1 ever had ", asked, perl = TRUE)
  # ("got injured", "been ill": the verb says no more than that it was so)
  asked <- sub("(?i)\\b(ever had |who )?(?:got|gotten|became|fell|fallen) (?=[\\p{L}_]+ at least once)", "\\1", asked, perl = TRUE)
  text <- sub("(?i)^(.+?) at least once((?: (?:by|in each|for each|per|within each) .+?)?)[?.! ]*$", "\\1\\2", asked, perl = TRUE)
  if (!identical(text, asked)) text <- sub("(?i)^( *(?:how many|number of|which|(?:what )?(?:share|proportion|percentage|percent) of) (?:the )?[\\p{L}_]+ (?:who |that )?(?:have |has |had |were |was |are |is )?)", "\\1ever ", text, perl = TRUE)  # nolint: line_length_linter.
  text <- gsub("(?i)\\bever ever\\b", "ever", text, perl = TRUE)
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(out)
  # (units may be named by a column of many levels as well)
  many <- Filter(function(col) col$kind == "category" && col$distinct >= 8 && comes_back(out$study, col), all_columns(out$study))
  keys <- keys_of(out$study, single = FALSE)
  unit <- keys_called(c(keys, many), hit[3])
  # "patients", where the one key that comes back is that of people, though called subject
  if (!length(unit) && length(keys) == 1 && is_key_of_people(keys[[1]]$name) && tolower(hit[3]) %in% plural_people()) unit <- keys
  yes_no <- Filter(function(col) col$kind == "yes_no" && length(unit) && col$table == unit[[1]]$table, all_columns(out$study))
  event <- column_in_text(yes_no, hit[5], kin_phrases(out$study, hit[5]))
  if (length(unit) != 1 || is.null(event)) return(out)
  col <- event$col
  name <- paste0(col$name, "_count")
  bound <- if (tolower(hit[4]) == "never") "= 0" else "above 0"
  rest <- trimws(sub(event$said, "", hit[5], fixed = TRUE))
  out$per_unit <- list(unit = unit[[1]]$name, table = unit[[1]]$table, outcome = name, rows = FALSE, condition = TRUE)
  out$told <- c(out$told, sprintf("Took %s to mean that %s is %s in %s of its rows.", quoted(paste(hit[4], hit[5])), col$name, quoted(last_of(col$levels)),  # nolint: line_length_linter.
    if (tolower(hit[4]) == "never") "none" else "some"))
  with_derived(out, name, "converted", col$name, trimws(paste0(rows_asked(hit[2]), " ", name, " ", bound, " ", rest, hit[6])), factor = 1,
      kind = "count")
}

#' "scrap rate by line", "overall scrap rate", "which line has the highest scrap rate": the totals set against each other
#'
#' Only where no statistic is named: a mean that is asked for is told, with a check that gives the other figure.
#' @noRd
ratio_as_rate <- function(out) {
  said <- "(?i)\\b(mean|median|distribut\\w*|histogram|spread|vari\\w*|correl\\w*|relat\\w*|associat\\w*|predict\\w*|explain\\w*|affect\\w*|influence\\w*|trend|over time|test|anova|regress\\w*|model|outliers?|unusual|missing|above|below|over|under|least|most [0-9])\\b"  # nolint: line_length_linter.
  averaged <- "(?i)\\baverage\\b"
  asks <- "(?i)\\boverall|\\bpooled|\\bcombined|\\b(by|per|in each|for each|across|for every) |^ *(which|what) .*\\b(highest|lowest|best|worst|largest|smallest)\\b"  # nolint: line_length_linter.
  bare <- grepl("^ *(?i:what (?:is|was) |show |give )?(?i:the )?[\\p{L}_0-9.]+(?: [\\p{L}_0-9.]+){0,3}[?.! ]*$", out$text, perl = TRUE)
  if (!bare && !grepl(asks, out$text, perl = TRUE) || grepl(said, out$text, perl = TRUE) || grepl(averaged, out$text, perl = TRUE)) return(out)
  named <- called_ratios(numeric_columns(out$study))
  whole <- Find(function(col) grepl(sprintf("(?<![\\p{L}0-9_.])%s(?![\\p{L}0-9_])", as_literal(col$name)), out$text, perl = TRUE), named)
  found <- if (!is.null(whole)) list(name = whole$name, said = whole$name, col = whole)
    else if (length(named)) column_in_text(named, out$text, kin_phrases(out$study, out$text))
  # ("nights per month", beside nights: these, and not the rate for each)
  said_stems <- if (is.null(whole) && !is.null(found)) stems_of(found$said)[[1]]
  if (!is.null(said_stems) && any(vapply(numeric_columns(out$study), function(col) col$name != found$name &&
    setequal(telling_stems(col$name), said_stems), NA))) return(out)
  parts <- if (!is.null(found)) ratio_parts(out$study$tables[[found$col$table]], found$name)
  # (alone it is the whole question)
  if (is.null(parts) || bare && !grepl(asks, out$text, perl = TRUE) && !grepl(sprintf("(?i)^ *(?:what (?:is|was) |show |give )?(?:the )?%s[?.! ]*$",
    as_literal(found$said)), out$text, perl = TRUE)) return(out)
  if (parts$scale != 1) out$rate_per <- parts$scale
  text <- sub(found$said, sprintf("%s per single %s", parts$top, parts$base), out$text, fixed = TRUE)
  reworded(out, sub("(?i)\\b(?:overall|pooled|combined) ", "", text, perl = TRUE),
           sprintf("%s is %s over %s, so the totals are set against each other; say \"mean %s\" for the mean of the rows.", found$name, parts$top,
               parts$base,
                   found$name))
}

#' "defect rate by shift", of a column defects whose rate another column holds: over what that rate is over
#' @noRd
rate_over_known_base <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}_]+) rates?\\b")
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count", all_columns(out$study))
  top <- Filter(function(col) any(alike_stems(stem_words(tolower(hit[2])), name_stems(col$name))), counts)
  named <- called_ratios(numeric_columns(out$study))
  if (length(top) != 1 || !length(named) || any(grepl(tolower(hit[2]), tolower(vapply(named, `[[`, "", "name")), fixed = TRUE))) return(out)
  bases <- unique(unlist(lapply(named, function(col) {
    parts <- ratio_parts(out$study$tables[[col$table]], col$name)
    if (identical(parts$top, top[[1]]$name)) parts$base
  })))
  if (length(bases) != 1) return(out)
  reworded(out, sub(hit[1], sprintf("%s per %s", top[[1]]$name, bases), out$text, fixed = TRUE),
           sprintf("Took the rate of %s over %s, as another column does.", top[[1]]$name, bases))
}
