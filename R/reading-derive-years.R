# Measures with a column for each year ("amount_2023", "amount_2024"): a year in a question names their columns, not a date.

#' The turns about such years, as of `everyday_turns()`
#' @noRd
turns_of_years <- function() list(
  turn("\\b(19|20)[0-9]{2}\\b", active_in_years), turn("\\b(19|20)[0-9]{2}\\b|\\b(each|every|per|by|both) years?\\b", years_of_sets))

#' Measures with a column for each of several years
#' @section Shape: as of [study_sets()].
#' @noRd
yearly_sets <- function(study) {
  Filter(function(set) all(grepl("^(19|20)[0-9]{2}$", set$times)), sets_over_time(study, 2))
}

#' "total amount in 2024", "number of gifts in 2023 correlated with 2024", "amount in each year"
#' @noRd
years_of_sets <- function(out) {
  sets <- yearly_sets(out$study)
  if (!length(sets)) return(out)
  said <- sets_said(out$text, sets)
  # a date that is spoken of by its own name holds its own years
  dated <- unlist(lapply(date_columns(out$study), function(name) setdiff(name_stems(name), stem_words(c("date", "day", "time", "year")))))
  if (any(vapply(dated, function(own) any(alike_stems(own, stems_of(out$text)[[1]])), NA))) return(out)
  if (length(said) == 1) return(years_of_set(out, said[[1]]))
  # nothing of them is named: their years are no condition on a date, and which of them is meant is asked
  years <- unique(stringi::stri_extract_all_regex(out$text, "\\b(?:19|20)[0-9]{2}\\b")[[1]])
  numeric <- numeric_columns(out$study)
  ranked <- grepl("(?i)\\b(?:biggest|largest|highest|top|smallest|lowest|most|least|total|average|mean|median)\\b", out$text, perl = TRUE)
  if (length(said) || length(years) != 1 || is.na(years) || !ranked || !all(vapply(sets, function(set) years %in% set$times, NA)) ||
      !is.null(column_in_text(numeric, out$text, kin_phrases(out$study, out$text)))) return(out)
  reworded(out, trimws(gsub(sprintf("(?i) ?\\b(?:in|of|for|during) %s\\b", years), "", out$text, perl = TRUE)))
}

#' The question with one measure's columns in place of its years
#' @noRd
years_of_set <- function(out, set) {
  text <- out$text
  name <- set_words(set)
  if (any(vapply(set$columns, grepl, NA, x = text, fixed = TRUE))) return(out)
  said <- Filter(function(year) grepl(sprintf("\\b%s\\b", year), text), set$times)
  alone <- sprintf("(?i)(?<![_.\\p{L}0-9])%s(?![_.\\p{L}0-9])", name)
  # ("scored engagement 4 or 5 in 2024": the one year belongs to the name, wherever it stands)
  if (length(said) == 1 && lengths(regmatches(text, gregexpr(alone, text, perl = TRUE))) == 1) {
    bare <- sub(sprintf("(?i) ?\\b(?:in |of |for |during )(?:the year )?%s(?![_.\\p{L}0-9])", said), "", text, perl = TRUE)
    if (!identical(bare, text)) return(reworded(out, trimws(sub(alone, set$columns[match(said, set$times)], bare, perl = TRUE))))
  }
  for (i in seq_along(set$times)) {
    year <- set$times[i]
    if (!grepl(sprintf("\\b%s\\b", year), text)) next
    beside <- sprintf("(?i)\\b(?:%1$s%3$s(?: \\p{L}+)? (?:in|of|for|during) (?:the year )?%2$s|%2$s%4$s %1$s)\\b", name, year, measure_nouns(),
        "(?:'s)?")
    apart <- sprintf("(?i)(?<![_.\\p{L}0-9])(?:in |of |for |during )?(?:the year )?%s(?![_.\\p{L}0-9])", year)
    text <- if (grepl(beside, text, perl = TRUE)) sub(beside, set$columns[i], text, perl = TRUE) else sub(apart, set$columns[i], text, perl = TRUE)
  }
  bare <- sprintf("(?i)(?<![_.\\p{L}0-9])%s(?![_.\\p{L}0-9])", name)
  # "did leaflets raise turnout, adjusting for turnout in 2019": what is adjusted is the other of two years
  held <- length(said) == 1 && length(set$times) == 2 && said == min(set$times) &&
    grepl(sprintf("(?i)\\b(?:adjust\\p{L}*|controll?\\p{L}*|allow\\p{L}*|correct\\p{L}*|account\\p{L}*) (?:for )?(?:the )?%s\\b", as_literal(set$columns[match(said, set$times)])),  # nolint: line_length_linter.
          text, perl = TRUE)
  if (held && grepl(bare, text, perl = TRUE)) {
    later <- set$columns[match(max(set$times), set$times)]
    return(reworded(out, sub(bare, later, text, perl = TRUE), sprintf("Took %s to mean %s, the later of the two.", quoted(name), later)))
  }
  each <- "(?i)\\b(?:(?:given|spent|made|received|sold) )?(?:in |for |per |by )(?:each|every|both)? ?years?\\b"
  # "total amount given in each year"
  if (identical(text, out$text) && grepl(each, text, perl = TRUE) && grepl(bare, text, perl = TRUE)) {
    text <- sub(bare, some_of(set$columns, 12), trimws(gsub(" +", " ", sub(each, "", text, perl = TRUE))), perl = TRUE)
  }
  # the name alone, before columns that were put for its years
  if (!identical(text, out$text)) for (col in set$columns) {
    text <- sub(sprintf("(?i)(?<![_.\\p{L}0-9])%s(?: \\p{L}+)? %s(?![_.\\p{L}0-9])", name, as_literal(col)), col, text, perl = TRUE)
  }
  reworded(out, text)
}

#' What people do that a column for each year counts
#' @noRd
doing_words <- function() {
  paste0("gave|give|given|donated?|contributed?|bought|buy|ordered?|purchased?|spent|spend|paid|pay|visited?|came|come|attended?|took part|take part|",  # nolint: line_length_linter.
         "participated?|played?|sold|sell|earned?|borrowed?|booked?|returned?|subscribed?|trained?|active")
}

#' "those who gave in 2023 but not in 2024": the rows above 0 in the year's column of what is counted
#' @noRd
active_in_years <- function(out) {
  year <- "((?:19|20)[0-9]{2})"
  form <- paste0("(?i)(?:\\b(?:who|that|which) )?\\b(?:have |had |has |were |was |did )?(?:(not|never|didn't|did not) )?(", doing_words(), ")",
                 "(?: (?:again|also|something|anything|money|at all|once more))* in ", year,
                 "(?:,? (?:and|but)((?: also| again| not| never)*)(?: in)? ", year, ")?\\b")
  asked <- gsub("(?i)\\bin both ((?:19|20)[0-9]{2}) and ((?:19|20)[0-9]{2})", "in \\1 and in \\2", out$text, perl = TRUE)
  if (grepl("(?i)\\bthan in (?:19|20)[0-9]{2}", asked, perl = TRUE)) return(out)
  asked <- sub(paste0("(?i)\\b(?:what (?:is|was) )?(?:the )?(?:donor |member |customer )?retention(?: rate)?(?: of \\p{L}+)? (?:from|between) ", year,
                      " (?:to|and|into) ", year), "what share of rows who gave in \\1 gave in \\2", asked, perl = TRUE)
  hit <- match_groups(asked, form)
  if (is.na(hit[1])) return(out)
  set <- counted_set(out, hit[3], setdiff(hit[c(4, 6)], c(NA, "")))
  if (is.null(set)) return(out)
  told_year <- function(year, not) sprintf("%s %s 0", set$columns[match(year, set$times)], if (not) "=" else "above")
  text <- paste("with", told_year(hit[4], nzchar(or_if_na(hit[2], ""))))
  if (nzchar(or_if_na(hit[6], ""))) text <- paste(text, "and", told_year(hit[6], grepl("not|never", hit[5])))
  told <- sprintf("Took %s to mean rows %s.", quoted(trimws(hit[1])), text)
  again <- reworded(out, year_of_nouns(trimws(gsub(" +", " ", sub(trimws(hit[1]), text, asked, fixed = TRUE))), set), told)
  if (grepl(form, again$text, perl = TRUE)) active_in_years(again) else again
}

#' "what share of 2023 donors": those counted in that year
#' @noRd
year_of_nouns <- function(text, set) {
  hit <- match_groups(text, "(?i)\\bof (?:the |our |all )*((?:19|20)[0-9]{2}) (\\p{L}+)\\b")
  if (is.na(hit[1]) || !hit[2] %in% set$times) return(text)
  sub(hit[1], sprintf("of %s with %s above 0", hit[3], set$columns[match(hit[2], set$times)]), text, fixed = TRUE)
}

#' The yearly measure that tells whether somebody did something: the one the verb names, else the one that counts, else the only one
#' @noRd
counted_set <- function(out, verb, years) {
  from_zero <- function(name) {
    values <- understood(out$study, name, find_column(out$study, name)$table)
    is.numeric(values) && any(values == 0, na.rm = TRUE) && !any(values < 0, na.rm = TRUE)
  }
  sets <- Filter(function(set) all(years %in% set$times) && all(vapply(set$columns, from_zero, NA)), yearly_sets(out$study))
  named <- Filter(function(set) any(key_stems(set_words(set)) %in% stems_of(verb)[[1]]), sets)
  counts <- Filter(function(set) all(vapply(set$columns, function(name) find_column(out$study, name)$kind == "count", NA)), sets)
  for (some in list(named, counts, sets)) if (length(some) == 1) return(some[[1]])
  NULL
}
