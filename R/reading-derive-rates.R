# Counts that are a part of other counts ("parts scrapped" of "parts made"), spoken of as rates and percentages.

#' The turns, with their cues, as of `turns_and_cues()`
#' @noRd
turns_of_rates <- function() {
  turn <- function(cue, reword) list(cue = cue, reword = reword)
  list(turn("[0-9] ?(%|per ?cent)", percent_of_whole), turn("\\brates?\\b", rate_of_part), turn("\\bper\\b", rate_by_period))
}

#' Words of columns that count everything there was
#' @noRd
whole_words <- function() {
  c("total", "all", "n", "made", "produced", "production", "output", "tested", "inspected", "sampled", "screened", "examined", "sent", "shipped", "delivered",  # nolint: line_length_linter.
    "eligible", "population", "exposed", "trials", "attempts", "attempted", "admissions", "visits", "impressions", "sessions", "enrolled", "invited",
    "planted", "sown", "born", "calls", "contacts", "transactions", "orders")
}

#' The count that a count is a part of: never smaller in any row, and named with it or as a total
#' @section Shape: name of a column, or NULL where none or several could be meant.
#' @noRd
whole_of <- function(study, name) {
  col <- find_column(study, name)
  columns <- Filter(function(other) other$kind == "count" && other$name != name && other$table == col$table && is.null(other$role),
                    all_columns(study))
  own <- telling_stems(name)
  parts <- understood(study, name, col$table)
  fits <- vapply(columns, function(other) {
    words <- strsplit(tolower(name_words(other$name)), " ")[[1]]
    if (!length(intersect(own, telling_stems(other$name))) && !any(words %in% whole_words())) return(FALSE)
    whole <- understood(study, other$name, other$table)
    both <- !is.na(parts) & !is.na(whole)
    sum(both) >= 3 && all(parts[both] <= whole[both]) && sum(parts[both]) < sum(whole[both])
  }, NA)
  if (sum(fits) == 1) columns[[which(fits)]]$name
}

#' The one count that words name and that is a part of another
#' @section Shape: list(part, whole, said), or NULL.
#' @noRd
part_in_text <- function(study, text) {
  counts <- Filter(function(col) col$kind == "count" && isTRUE(col$distinct > 4) && is.null(col$role), all_columns(study))
  found <- column_in_text(counts, text, kin_phrases(study, text))
  if (is.null(found) || !found$name %in% vapply(counts, `[[`, "", "name")) return(NULL)
  whole <- whole_of(study, found$name)
  if (!is.null(whole)) list(part = found$name, whole = whole, said = found$said)
}

#' "the scrap rate by machine": per part made
#' @noRd
rate_of_part <- function(out) {
  form <- "(?i)\\b(?:the )?(?:overall |total |average |mean )?((?:[\\p{L}_]+ ){1,3}?)rates?\\b(?! (?:per|of|ratio))"
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1]) || any(vapply(all_columns(out$study), function(col) grepl("(^|[_. ])rate", tolower(col$name)), NA))) return(out)
  found <- part_in_text(out$study, hit[2])
  if (is.null(found) || !endsWith(trimws(hit[2]), found$said)) return(out)
  said <- sub(paste0("^.*?(?=(the )?(overall |total |average |mean )?", as_literal(found$said), " rates?$)"), "", hit[1], perl = TRUE, ignore.case = TRUE)  # nolint: line_length_linter.
  # a table of rates is easier read in hundredths
  out$rate_wish <- 100
  reworded(out, sub(said, sprintf("%s per %s", found$part, found$whole), out$text, fixed = TRUE),
           sprintf("Took %s to be %s per %s, which it never exceeds.", quoted(trimws(said)), found$part, found$whole))
}

#' "more than 5 % scrapped": a bound on the part of the whole, no count above 5
#' @noRd
percent_of_whole <- function(out) {
  bound <- "(more than|over|above|at least|less than|fewer than|below|under|at most|up to)"
  form <- sprintf("(?i)\\b(?:have |has |had |with )?%s ([0-9.]+) ?(?:%%|per ?cent) (?:of )?(?:the |their |its )?((?:[\\p{L}_]+ ?){1,3})", bound)
  hit <- stringi::stri_match_first_regex(out$text, form)[1, ]
  if (is.na(hit[1])) return(out)
  found <- part_in_text(out$study, hit[4])
  if (is.null(found) || !startsWith(tolower(hit[4]), tolower(found$said))) return(out)
  name <- sprintf("%s_per_%s", found$part, found$whole)
  said <- substr(hit[1], 1, nchar(hit[1]) - nchar(hit[4]) + nchar(found$said))
  share <- format(as.numeric(hit[3]) / 100, digits = 12)
  out$told <- c(out$told, sprintf("Took %s to mean %s divided by %s %s %s.", quoted(said), found$part, found$whole, tolower(hit[2]), share))
  with_derived(out, name, "ratio", c(found$part, found$whole), sub(said, sprintf("with %s %s %s", name, hit[2], share), out$text, fixed = TRUE))
}

#' "weekly parts_scrapped per parts_made", "claims per holder by month": the totals of each period set against each other
#' @noRd
rate_by_period <- function(out) {
  date <- date_columns(out$study)
  said <- paste0("(?i)\\b(?:the )?(week|month|quarter|year|dai|day)ly\\b|\\b(?:by|for each|for every|in each|each|every|over the) (?:calendar )?(week|month|quarter|year|day)s?\\b|",  # nolint: line_length_linter.
                 "\\bper (week|month|quarter|year|day)(?=[?.! ]*$)")
  hit <- stringi::stri_match_first_regex(out$text, said)[1, ]
  if (is.na(hit[1]) || length(date) != 1) return(out)
  numeric <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$distinct > 4), all_columns(out$study))
  bare <- sub(hit[1], "", out$text, fixed = TRUE)
  pair <- stringi::stri_match_first_regex(bare, "(?i)((?:[\\p{L}_0-9]+ ){1,3})per ((?:[\\p{L}_0-9]+ ?){1,3})")[1, ]
  if (is.na(pair[1])) return(out)
  phrases <- named_phrases(out$study)
  top <- column_in_text(numeric, pair[2], phrases); base <- column_in_text(numeric, pair[3], phrases)
  if (is.null(top) || is.null(base) || top$name == base$name) return(out)
  every <- sub("^dai$", "day", tolower(stats::na.omit(hit[-1])[1]))
  name <- paste(every, "of", date, sep = "_")
  with_derived(out, name, "period", date, trimws(gsub(" +", " ", paste(sub("[?.! ]+$", "", bare), "by", name))), every = every)
}
