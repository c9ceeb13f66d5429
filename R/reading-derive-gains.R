# What units gained or lost over their dates: the last value less the first, where rows are a unit's days.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_gains <- function() list(
  turn("\\b(gained|lost|grew|rose|dropped|fell|increased|decreased|improved|declined|raised|lowered|reduced)\\b", gained_most),
  turn("\\b(change|gain|increase|growth|loss|rise|fall|drop|decrease)s?\\b.*\\b(per|by|for each|in each|of each|each|every)\\b", gain_by_unit))

#' The unit whose days the rows are, and their date
#' @section Shape: list(unit, date), or NULL where no single column of keys or levels comes back on several days.
#' @noRd
unit_over_days <- function(study, said = NULL) {
  dates <- date_columns(study)
  tables <- data_tables(study)
  if (length(dates) != 1 || length(tables) != 1) return(NULL)
  rows <- nrow(tables[[1]]$data)
  keys <- Filter(function(col) col$kind %in% c("id", "category") && isTRUE(col$distinct > 1) && col$distinct <= rows / 2, all_columns(study))
  if (length(keys) > 1 && !is.null(said)) {
    stem <- stems_of(tolower(said))[[1]]
    keys <- Filter(function(col) any(stem %in% name_stems(col$name)), keys)
  }
  if (length(keys) != 1) return(NULL)
  if (!is.null(said) && !any(stems_of(tolower(said))[[1]] %in% name_stems(keys[[1]]$name))) return(NULL)
  # several rows of a unit on one day are things that happened, no state of the unit
  data <- tables[[1]]$data
  if (anyDuplicated(data.frame(as.character(data[[keys[[1]]$name]]), as.character(data[[dates]]))) > 0) return(NULL)
  list(unit = keys[[1]]$name, date = dates)
}

#' "which hive gained the most weight (from April to August 2024)"
#' @noRd
gained_most <- function(out) {
  hit <- match_groups(out$text, paste0("(?i)^ *(?:which|what) ([\\p{L}_]+) (gained|lost|grew|rose|dropped|fell|increased|decreased|improved|declined)(?: in)? ",  # nolint: line_length_linter.
                                       "(?:the )?(most|least)(?: in)?(?: (?:the )?(.+?))?(?: ((?:from|between|in|during|since|over) .+?))?[?.! ]*$"))
  # "which runner improved their pace the most"
  if (is.na(hit[1]) || is.na(hit[5])) {
    turned <- match_groups(out$text, paste0("(?i)^ *(?:which|what) ([\\p{L}_]+) (gained|lost|raised|lowered|reduced|increased|decreased|improved|changed)(?: in)? (?:their |the |his |her |its )?",  # nolint: line_length_linter.
                                            "(.+?) (?:the |by the )?(most|least)(?: ((?:from|between|in|during|since|over) .+?))?[?.! ]*$"))
    hit <- turned[c(1, 2, 3, 5, 4, 6)]
  }
  if (is.na(hit[1]) || is.na(hit[5])) return(out)
  layout <- unit_over_days(out$study, hit[2])
  measure <- column_in_text(numeric_columns(out$study), hit[5], study_vocabulary(out$study)$phrases)
  if (is.null(layout) || is.null(measure)) return(out)
  days <- if (!is.na(hit[6])) days_said(hit[6])
  if (!is.na(hit[6]) && is.null(days)) return(out)
  better_low <- less_is_better(measure$name) || grepl("(^|[_. ])(pace|time|lap|split|sprint)([_. ]|$)", tolower(measure$name))
  improved <- tolower(hit[3]) == "improved"
  if (improved) out$told <- c(out$told, sprintf("Took lower values of %s to be better.", measure$name)[better_low])
  down <- grepl("^(lost|dropped|fell|decreased|declined|lowered|reduced)$", hit[3], ignore.case = TRUE) || improved && better_low
  low <- xor(down, tolower(hit[4]) == "least")
  with_gain(out, measure$name, layout, days, function(name) sprintf("which %s has the %s mean %s", layout$unit, if (low) "lowest" else "highest", name))  # nolint: line_length_linter.
}

#' "change in weight from first to last date per hive", "weight gain by hive in 2024"
#' @noRd
gain_by_unit <- function(out) {
  each <- "(?:per|by|for each|in each|of each|for every) (?:the )?([\\p{L}_]+)"
  hit <- match_groups(out$text, paste0("(?i)^ *(?:what is |show |give )?(?:the )?(?:mean |average )?(?:change|gain|increase|growth|loss|rise|fall|drop|decrease)s? (?:in|of) (?:the )?(.+?)",  # nolint: line_length_linter.
                                       "(?: (?:from|between) (?:the )?(?:first|start) (?:to|and) (?:the )?(?:last|end)(?: (?:date|day|measurement|value|row))?)? ", each,  # nolint: line_length_linter.
                                       "(?: ((?:from|between|in|during) .+?))?[?.! ]*$"))
  if (is.na(hit[1])) {
    hit <- match_groups(out$text, paste0("(?i)^ *(?:what is |show |give )?(?:the )?(?:mean |average |total )?(.+?) (?:change|gain|increase|growth|loss)s? ", each,  # nolint: line_length_linter.
                                         "(?: ((?:from|between|in|during) .+?))?[?.! ]*$"))
  }
  if (is.na(hit[1]) || grepl("\\b(daily|weekly|monthly|yearly|percent|percentage|rate)\\b", out$text, ignore.case = TRUE)) return(out)
  layout <- unit_over_days(out$study, hit[3])
  measure <- column_in_text(numeric_columns(out$study), hit[2], study_vocabulary(out$study)$phrases)
  if (is.null(layout) || is.null(measure)) return(out)
  days <- if (!is.na(hit[4])) days_said(hit[4])
  if (!is.na(hit[4]) && is.null(days)) return(out)
  with_gain(out, measure$name, layout, days, function(name) sprintf("mean %s by %s", name, layout$unit))
}

with_gain <- function(out, measure, layout, days, text) {
  name <- paste0(measure, "_gain")
  given <- compact(list(within = layout$unit, order = layout$date, on = days))
  do.call(with_derived, c(list(out, name, "gain", measure, text(name)), given))
}

#' Two days: "between 2024-04-15 and 2024-08-31", "from April to August 2024", "in 2024"
#' @section Shape: two texts, or NULL.
#' @noRd
days_said <- function(text) {
  iso <- stringi::stri_extract_all_regex(text, "\\b[0-9]{4}-[0-9]{2}-[0-9]{2}\\b")[[1]]
  if (length(iso) == 2 && !anyNA(iso)) return(iso)
  year <- match_groups(text, "(?i)^(?:in|during) ((?:19|20)[0-9]{2})$")
  if (!is.na(year[1])) return(paste0(year[2], c("-01-01", "-12-31")))
  months <- match_groups(text, sprintf("(?i)^(?:from|between) (%1$s)[a-z]*(?: ([0-9]{4}))? (?:to|and|until) (%1$s)[a-z]* ([0-9]{4})$", month_starts()))  # nolint: line_length_linter.
  if (is.na(months[1])) return(NULL)
  at <- match(substr(tolower(months[c(2, 4)]), 1, 3), tolower(month.abb))
  years <- as.integer(c(if (is.na(months[3])) months[5] else months[3], months[5]))
  first <- as.Date(sprintf("%d-%02d-01", years[1], at[1]))
  after <- if (at[2] == 12) as.Date(sprintf("%d-01-01", years[2] + 1L)) else as.Date(sprintf("%d-%02d-01", years[2], at[2] + 1L))
  if (after <= first) NULL else format(c(first, after - 1))
}
