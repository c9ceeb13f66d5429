# Several periods that a question joins by "and" ("in March and April 2024"): each stands by itself, beside the others.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_beside <- function() {
  list(turn(sprintf("\\b((19|20)[0-9]{2}|(%s)[a-z]*|q[1-4]|h[12]|(first|second|third|fourth|last) (quarter|half)),? (and|&) ", month_starts()),
            periods_beside))
}

#' "average rating in 2024 and 2025", "revenue in Q1 and Q2 2024", "visits in January, February and March": by the periods that are named
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
periods_beside <- function(out) {
  date <- rows_date(out)
  together <- "\\b(between|from|since|in total|together|altogether|combined|overall)\\b"
  if (length(date) != 1 || sets_against(out$text) || grepl(together, out$text, ignore.case = TRUE)) return(out)
  part <- sprintf("(?:the )?(?:(?:%s)(?:,? (?:of )?(?:19|20)[0-9]{2})?|(?:19|20)[0-9]{2})", parts_of_year())
  form <- sprintf("(?i)\\b(?:in|for|during|of) (%1$s(?:, %1$s)*,? (?:and|&) (?:in |for |during )?%1$s)(?![\\p{L}0-9-]| [0-9]{1,2}\\b)",  # nolint: line_length_linter.
                  part)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  periods <- periods_named(out$study, date, hit[2], part)
  bare <- text_without(out$text, hit[1])
  if (is.null(periods) || anyDuplicated(periods$code)) return(out)
  # "total sales in March and April 2025": amounts of one stretch are one total
  if (periods$dated && !grepl("(?:and|&) (?:in|for|during) ", hit[1]) &&
      grepl("^ *(?:what (?:is|was|were) |how much |how many |number of )?(?:the )?(?:total|sum|how|number|count)", out$text, ignore.case = TRUE)) {
    return(one_stretch(out, hit[1], periods$code))
  }
  if (length(periods$code) == 2 && periods$dated) return(by_two_periods(out, date, periods$code, bare))
  periods_as_levels(out, date, bare, periods)
}

#' The periods that a list names, the last year that stands with them for those without
#' @section Shape: list(code ("2024-03", "2024-Q1", "2024"; without a year "-03"), dated (does each have a year?)); NULL where one is unclear.
#' @noRd
periods_named <- function(study, date, said, part) {
  each <- stringi::stri_extract_all_regex(said, quick_form(paste0("(?i)", part)))[[1]]
  year <- stringi::stri_extract_first_regex(each, "(19|20)[0-9]{2}")
  name <- trimws(gsub("(?i)^the |,? ?(?:of )?(19|20)[0-9]{2}$", "", each, perl = TRUE))
  if (anyNA(year) && !is.na(year[length(year)])) year[is.na(year)] <- year[length(year)]
  held <- unique(format(as.Date(understood(study, date, find_column(study, date)$table)), "%Y"))
  held <- held[!is.na(held)]
  if (anyNA(year) && length(held) == 1) year[is.na(year)] <- held
  code <- paste0(ifelse(is.na(year), "", year), period_code(name))
  if (any(grepl("NA", code)) || any(!nzchar(code))) return(NULL)
  list(code = code, dated = !anyNA(year), year = unique(year))
}

#' Months, quarters or years that are more than two, or of every year: levels of a column of them
#' @noRd
periods_as_levels <- function(out, date, bare, periods) {
  part <- sub("^[0-9]{4}", "", periods$code)
  rule <- if (all(grepl("^-[0-9]{2}$", part))) "month" else if (all(grepl("^-Q", part))) "quarter" else if (all(!nzchar(part))) "year"
  if (is.null(rule)) return(out)
  if (rule != "year" && length(periods$year) > 1) return(out)
  name <- c(month = "month_of_year", quarter = "quarter_of_year", year = "year")[[rule]]
  level <- switch(rule, month = month.name[as.integer(sub("-", "", part))], quarter = sub("-", "", part), year = periods$code)
  where <- paste(sprintf("%s = %s", name, level), collapse = " or ")
  dated <- if (rule != "year" && periods$dated) paste(" in", periods$year) else ""
  with_derived(out, name, rule, date, sprintf("%s by %s where %s%s", bare, name, where, dated))
}

#' Periods that follow each other without a gap as the days from the first to the last
#' @noRd
one_stretch <- function(out, said, codes) {
  months <- period_months(sort(codes))
  # (months counted on through the years)
  place <- matrix(12 * (months %/% 100) + months %% 100 - 1, ncol = 2)
  last <- nrow(place)
  if (last > 1 && any(place[-1, 1] != place[-last, 2] + 1)) return(out)
  first_of <- function(place) as.Date(sprintf("%d-%02d-01", place %/% 12, place %% 12 + 1))
  stretch <- sprintf("from %s to %s", first_of(place[1, 1]), first_of(place[last, 2] + 1) - 1)
  reworded(out, sub(said, stretch, out$text, fixed = TRUE), sprintf("Took %s together.", quoted(sub("^\\S+ ", "", said))))
}
