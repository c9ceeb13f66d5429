# Questions about how many rows there are, worded around who handled them; units said behind a number; odds of one side to another.

#' The wishes about numbers of rows, each with words without which it cannot stand
#' @noRd
row_wishes <- function() {
  list(wish("[0-9] ?(%|per ?cent)", wish_top_part), wish("average|mean|typical|usual", wish_average_rows), wish("growth|change|increase|decrease", wish_rows_growth),  # nolint: line_length_linter.
       wish("\\bany\\b.*\\b(no|zero)\\b", wish_none_of), wish("^ *how many", wish_rows_each),
           wish("most|fewest|number of|(share|proportion|percentage) of", wish_most_rows),
       wish("odds", wish_odds_against), wish("ratio of", wish_two_sides), wish("total", wish_part_of_total), wish("how (likely|probable)",
           wish_how_likely),
       wish("change|growth|increase|decrease|rise|fall|drop|decline", wish_rows_moved))
}

#' "how many tickets does each agent handle per month": rows are counted, whatever column the verb resembles
#' @noRd
wish_rows_each <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *how many ([\\p{L}]+) (?:do|does|did|can) (?:each|every|the (?:different )?) ?(.+?) ",
      "(?:handle|serve|take|deal with|see|process|close|make|receive|treat|answer|manage|get|have)(?: (per|each|every) (day|week|month|quarter|year))?[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit) || !names_rows(vocabulary, hit[2])) return(NULL)
  g <- column_said(vocabulary, hit[3])
  if (!divides_rows(g)) return(NULL)
  list(text = trimws(sprintf("number of rows by %s %s", g$name, if (is.na(hit[5])) "" else paste("per", hit[5]))), extra = list())
}

#' "average tickets per day", "on average, how many tickets come in each week", "average number of tickets per agent": rows counted,
#' and the mean of the counts
#' @noRd
wish_average_rows <- function(text, vocabulary) {
  each <- "(?:per|each|every|a|for each|by|in an?) ([\\p{L}_]+)"
  hit <- first_match(text, sprintf("(?i)^ *%s(?:average|mean|typical|usual) (?:number of |count of |no\\.? of )?([\\p{L}]+) %s[?. ]*$", ask_lead(),
      each))
  if (is.null(hit)) hit <- first_match(text, sprintf("(?i)^ *(?:on average,? )?how many ([\\p{L}]+) (?:(?:do|does|did|are|were|is) (?:we|they|there|you)? ?(?:[\\p{L}]+ )?|come in |came in |arrive |[\\p{L}]+ )?%s(?: on average)?[?. ]*$", each))  # nolint: line_length_linter.
  if (is.null(hit) || !grepl("average|mean|typical|usual", text, ignore.case = TRUE) || !names_rows(vocabulary, hit[2])) return(NULL)
  if (measured_as_noun(vocabulary, hit[2])) return(NULL)
  # ("mean glucose by meal": no things that could be counted)
  counted <- grepl("\\b(number|count|no[.]?) of|how many", text, ignore.case = TRUE) || grepl("s$|^(people|children|staff|men|women|personnel)$",
      hit[2], ignore.case = TRUE)
  if (!counted) return(NULL)
  if (grepl("^(day|week|month|quarter|year)$", hit[3], ignore.case = TRUE)) {
    if (sum(vocabulary$columns$kind %in% c("date", "datetime")) != 1) return(NULL)
    return(list(text = sprintf("number of rows per %s", tolower(hit[3])), extra = list(average_count = TRUE)))
  }
  g <- column_said(vocabulary, hit[3])
  if (divides_rows(g)) list(text = sprintf("number of rows by %s", g$name), extra = list(average_count = TRUE))
}

#' "growth in the number of tickets per month", "monthly growth of tickets": rows counted by period, and how the count moved
#' @noRd
wish_rows_growth <- function(text, vocabulary) {
  hit <- first_match(text, sprintf("(?i)^ *%s(?:growth|growth rate|change|increase|decrease) (?:in|of) (?:the )?(?:number of )?([\\p{L}]+) (?:per|by|from|each|over the) (day|week|month|quarter|year)s?(?: to \\2)?[?. ]*$", ask_lead()))  # nolint: line_length_linter.
  if (is.null(hit) || !names_rows(vocabulary, hit[2]) || sum(vocabulary$columns$kind %in% c("date", "datetime")) != 1) return(NULL)
  if (!measured_as_noun(vocabulary, hit[2])) list(text = sprintf("number of rows per %s", tolower(hit[3])), extra = list(growth = TRUE))
}

#' Is a noun for rows a part of the name of a measured column ("passengers" of a count of them)?
#' @noRd
measured_as_noun <- function(vocabulary, noun) {
  stem <- stem_words(tolower(noun))
  any(vocabulary$columns$kind %in% c("number", "count") & vapply(vocabulary$columns$name, function(n) stem %in% name_stems(n), NA))
}

#' "did any pupil miss no days", "how many customers had no visits at all": of a measured column the rows at zero
#' @noRd
wish_none_of <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:did|do|does|has|have|had|are|were|is|was)(?: there)? any(?:one|body| of the)? ?([\\p{L}]+)? (?:who |that )?([\\p{L}]+) (?:no|zero) ([\\p{L}_ ]+?)(?: at all)?[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  own <- column_said(vocabulary, paste(hit[3], hit[4])) %||% column_said(vocabulary, hit[4]) %||% column_said(vocabulary, hit[3])
  if (is.null(own) || !own$kind %in% c("number", "count") || own$lowest > 0) return(NULL)
  list(text = sprintf("how many rows have %s of 0", own$name), extra = list())
}

#' "4-cylinder cars", "between 4 and 6 cylinders", of a column cylinders whose levels are numbers: those levels, with the name before them
#' @noRd
numbered_levels_said <- function(text, vocabulary) {
  # (most figures of a question stand in names, and the full pattern is slow)
  if (!grepl("(?<![A-Za-z0-9_.])[0-9][0-9, andorv.]*[- ][A-Za-z]", text, perl = TRUE)) return(text)
  hits <- stringi::stri_match_all_regex(text,
      quick_form("(?i)(?<![\\p{L}0-9._-])([0-9]{1,4}(?:(?:,? and |, ?| or | vs\\.? | versus )[0-9]{1,4})*)[- ]([\\p{L}]{3,})\\b"))[[1]]
  columns <- vocabulary$columns
  grouped <- which(columns$kind %in% c("category", "ordered") & columns$distinct <= 30)
  for (i in seq_len(nrow(hits))) {
    stem <- stem_words(tolower(hits[i, 3]))
    own <- grouped[vapply(columns$name[grouped], function(n) identical(name_stems(n), stem), NA)]
    # (levels in words make no number a level)
    if (length(own) != 1 || nrow(vocabulary$values[vocabulary$values$column == own, ]) >= columns$distinct[own]) next
    text <- sub(hits[i, 1], gsub("([0-9]+)", paste(columns$name[own], "\\1"), hits[i, 2]), text, fixed = TRUE)
  }
  text
}

#' "which channel has the most tickets with satisfaction 1 or 2", "the most dissatisfied customers (satisfaction 1 or 2)"
#' @noRd
wish_most_rows <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:which|what) (.+?) (?:has|have|had|gets?|sees?|saw) (?:the )?(most|fewest|(?:highest|lowest) (?:number|share|proportion|percentage) of) (?:[\\p{L}]+ )?([\\p{L}]+),? ",  # nolint: line_length_linter.
                                  "(?:\\((?:with |where )?(.+?)\\)|(?:with|where|whose) (.+?))[?. ]*$"))
  if (is.null(hit)) return(wish_most_named(text, vocabulary))
  if (!names_rows(vocabulary, hit[4])) return(NULL)
  condition <- if (is.na(hit[5])) hit[6] else hit[5]
  g <- column_said(vocabulary, hit[2])
  # (the condition has a bound or a value of its own)
  if (!divides_rows(g) || !grepl("[0-9]", condition)) return(NULL)
  what <- if (grepl("share|proportion|percentage", hit[3], ignore.case = TRUE)) "share of rows with" else "number of rows where"
  list(text = sprintf("%s %s by %s", what, condition, g$name), extra = list())
}

#' "which team has the highest number of resolved tickets": rows of a kind, counted in each group
#' @noRd
wish_most_named <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:which|what) (.+?) (?:has|have|had) (?:the )?(?:(?:highest|largest|greatest|lowest|smallest) number of|most|fewest) ([\\p{L}_ -]+ )([\\p{L}]+)[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit) || !names_rows(vocabulary, hit[4]) || measured_as_noun(vocabulary, hit[4])) return(NULL)
  g <- column_said(vocabulary, hit[2])
  state <- parse_question(paste("how many", hit[3], hit[4]), vocabulary)
  # (the words before the noun say which rows, and nothing else)
  if (!divides_rows(g) || any(state$type == "unknown")) return(NULL)
  event <- column_said(vocabulary, hit[3])
  if (!length(state$filters) && !length(state$groups) && !is.null(event) && event$kind == "yes_no") {
    side <- if (grepl("fewest|lowest|smallest", hit[1], ignore.case = TRUE)) "smallest" else "largest"
    return(list(text = sprintf("which %s has the %s number of %s", g$name, side, event$name), extra = list()))
  }
  # (levels of a column are ranked by another turn)
  if (length(state$filters) != 1 || length(state$groups)) return(NULL)
  list(text = sprintf("how many %s%s by %s", hit[3], hit[4], g$name), extra = list())
}

#' "odds of being resolved for Alpha compared to Bravo": the side named first against the other
#' @noRd
wish_odds_against <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "odds of (?:being |getting |having )?(?:the )?(.+?) (?:for|in|among) (?:the )?(.+?) ",
                                  "(?:compared (?:with|to)|relative to|versus|vs\\.?|against) (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  if (!length(intersect(columns_of_level(vocabulary, hit[3]), columns_of_level(vocabulary, hit[4])))) return(NULL)
  list(text = sprintf("odds ratio of %s for %s versus %s", hit[2], hit[3], hit[4]), extra = list())
}

#' Words that follow a number as its unit, as stems
#' @noRd
unit_stems <- function() {
  stem_words(c(names(unit_tails()), "seconds", "minutes", "hours", "points", "marks", "miles", "euros", "dollars", "pounds", "grams", "litres",
               "liters", "metres", "meters", "degrees", "kilometres", "kilograms"))
}

#' "waited longer than 10", of a column wait: more than that many of it
#' @noRd
longer_than_said <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)\\b([\\p{L}_]+) (longer|shorter) than (?=[0-9])")
  if (is.null(hit)) return(text)
  col <- column_said(vocabulary, hit[2])
  if (is.null(col) || !col$kind %in% c("number", "count")) return(text)
  # (a word of its very name: "stayed longer than a week" is of the column of durations)
  if (!stem_words(tolower(hit[2])) %in% name_stems(col$name)) return(text)
  sub(hit[1], sprintf("%s %s than ", hit[2], if (tolower(hit[3]) == "longer") "more" else "less"), text, fixed = TRUE)
}

#' "in the first week of February", "the last 10 days of March", "the second half of May 2024": days of that month
#' @noRd
part_of_month <- function(text, vocabulary) {
  if (!grepl("\\b(weeks?|half|fortnight|days) of\\b", text, ignore.case = TRUE)) return(text)
  columns <- vocabulary$columns
  dated <- which(columns$kind %in% c("date", "datetime"))
  month <- sprintf("((?:%s)[a-z]*)(?: ((?:19|20)[0-9]{2}))?\\b", month_starts())
  hit <- first_match(text, paste0("(?i)(?:\\b(?:in|during|over|for|of|within) )?(?:the )?\\b(first|second|third|fourth|last) ",
                                  "(week|half|fortnight|([0-9]{1,2}) days) of ", month))
  if (is.null(hit) || !length(dated)) return(text)
  from <- match(substr(tolower(hit[5]), 1, 3), tolower(month.abb))
  years <- unique(columns$years[dated])
  year <- if (!is.na(hit[6])) hit[6] else if (length(years) == 1 && grepl("^[0-9]{4}$", years)) years else "2001"
  first <- as.Date(sprintf("%s-%02d-01", year, from))
  length <- as.integer(format(seq(first, by = "month", length.out = 2)[2] - 1, "%d"))
  days <- days_of_part(tolower(hit[2]), tolower(hit[3]), length)
  if (is.null(days)) return(text)
  said <- paste(c(month.name[from], if (!is.na(hit[6])) hit[6]), collapse = " ")
  sub(trimws(hit[1]), sprintf("from %d %s to %d %s", days[1], said, days[2], said), text, fixed = TRUE)
}

#' First and last day of the month of "first week", "last 10 days"
#' @noRd
days_of_part <- function(place, part, length) {
  k <- match(place, c(ordinal_words[1:4], "last"))
  if (part == "half") return(switch(place, first = c(1, 15), second = , last = c(16, length)))
  size <- if (part == "week") 7 else if (part == "fortnight") 14 else as.integer(sub(" .*", "", part))
  if (size < 1 || size > length) return(NULL)
  if (place == "last") return(c(length - size + 1, length))
  if (k * size <= length) c((k - 1) * size + 1, k * size)
}

#' "the ratio of resolved to unresolved tickets": both sides of one column are counted
#' @noRd
wish_two_sides <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "ratio of (?:the )?([\\p{L}]+)(?: [\\p{L}]+)? to (?:the )?(?:un|in|im|non[- ]?|not )([\\p{L}]+)(?: [\\p{L}]+)?[?. ]*$"))
  if (is.null(hit) || tolower(hit[2]) != tolower(hit[3])) return(NULL)
  col <- column_said(vocabulary, hit[2])
  if (is.null(col) || !col$kind %in% c("yes_no", "category")) return(NULL)
  list(text = sprintf("how many rows by %s", col$name), extra = list())
}

#' "total wait per team as a percentage": each group's part of the whole
#' @noRd
wish_part_of_total <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "total (.+?) (?:per|by|for each|of each|for every) (.+?),? (?:as|in) (?:an? )?(?:percent(?:age)?s?|per cent|shares?|%|proportions?)",
                                  "(?: of (?:the )?(?:total|whole|overall))?[?. ]*$"))
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[2]); g <- column_said(vocabulary, hit[3])
  if (is.null(y) || is.null(g) || !y$kind %in% c("number", "count")) return(NULL)
  list(text = sprintf("share of the total %s by %s", y$name, g$name), extra = list())
}

#' "how likely is a ticket to be resolved if wait is 5 and channel is phone": what a model expects there
#' @noRd
wish_how_likely <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *how (?:likely|probable) (?:is|are|would|was) (?:it|an?|the)?[\\p{L} ]*? ?(?:to|be to) (?:be |get |have )?(?:the )?([\\p{L}_]+) ",  # nolint: line_length_linter.
                                  "(?:if|when|where|given|at|with) (?:the |an? )?(.+?)[?. ]*$"))
  if (is.null(hit) || !grepl("(?i)\\b(is|of|=|are) [0-9]|^[\\p{L}_]+ [0-9]", hit[3], perl = TRUE)) return(NULL)
  y <- column_said(vocabulary, hit[2])
  if (is.null(y) || y$kind != "yes_no") return(NULL)
  at <- gsub("(?i)\\b(?:is|are|=) (?=[0-9])", "of ", hit[3], perl = TRUE)
  list(text = sprintf("expected %s at %s", y$name, at), extra = list())
}

#' "percentage change in tickets from January to April": the number of rows in each month, and how it moved
#' @noRd
wish_rows_moved <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "(?:(?:percent(?:age)?|%|per cent|relative) )?(?:change|growth|increase|decrease|rise|fall|drop|decline) ",
                                  "in (?:the )?(?:number of )?([\\p{L}]+) (?:from|between) (", month_starts(), ")([a-z]*.*? (?:to|and) .+?)[?. ]*$"))
  if (is.null(hit) || !names_rows(vocabulary, hit[2]) || !any(vocabulary$columns$kind %in% c("date", "datetime"))) return(NULL)
  list(text = sprintf("number of rows per month from %s%s", hit[3], sub(" and ", " to ", hit[4])), extra = list())
}

#' Do the values of a column that may have been found divide the rows?
#' @param column Row of the vocabulary's columns, or NULL.
#' @noRd
divides_rows <- function(column) !is.null(column) && (is_level_kind(column$kind) || column$kind == "id")

#' The columns that have a level of this name
#' @noRd
columns_of_level <- function(vocabulary, said) vocabulary$values$column[vocabulary$values$phrase == joined_stems(tolower(said))]

#' Is a noun a word for the rows, and no measured column's?
#' @noRd
names_rows <- function(vocabulary, noun) {
  noun <- tolower(noun)
  if (noun %in% c("rows", "records", "cases", "entries")) return(TRUE)
  stem <- joined_stems(noun)
  columns <- vocabulary$columns
  # (a file called engage.csv with a column engagement: the column)
  own <- vocabulary$phrases$column[vocabulary$phrases$phrase == stem]
  if (any(columns$kind[own] %in% c("number", "count", "ordered", "yes_no") & tolower(columns$name[own]) == noun)) return(FALSE)
  keys <- columns$kind == "id" & columns$unique & vapply(columns$name, function(n) stem %in% name_stems(n), NA)
  stem %in% vocabulary$entities || any(keys)
}

#' "a wait above 10 minutes", beside wait_minutes and handle_minutes: the unit is that of the column the words name
#' @noRd
shared_unit_said <- function(text, vocabulary) {
  if (!grepl("(?<![A-Za-z0-9_.])[0-9]", text, perl = TRUE)) return(text)
  hits <- stringi::stri_match_all_regex(text, quick_form("(?i)(?<![\\p{L}0-9_.])([0-9]+(?:[.][0-9]+)?) ([\\p{L}]{1,12})\\b"))[[1]]
  bounded <- stringi::stri_detect_regex(text, sprintf("(?i)\\b(?:than|over|above|below|under|least|most|exceeding|exactly|of|is) \\Q%s\\E", hits[,
      1]))
  if (is.na(hits[1, 1])) return(text)
  units <- stem_words(tolower(hits[, 3]))
  parts <- lapply(vocabulary$columns$name[vocabulary$columns$kind %in% c("number", "count")], name_stems)
  # (a word that two measured columns end in is a unit of both, "40 mpg" of city_mpg and highway_mpg)
  ends <- vapply(Filter(function(p) length(p) > 1, parts), last_of, "")
  found <- which(units %in% unit_stems() | bounded & units %in% ends[duplicated(ends)])
  if (!length(found)) return(text)
  said <- stems_of(text)[[1]]
  for (i in found) {
    unit <- units[i]
    own <- Filter(function(p) length(p) > 1 && last_of(p) == unit, parts)
    # (asked about by one of them only, and no column is called after the unit)
    if (length(own) < 2 || any(vapply(parts, identical, NA, unit)) || sum(vapply(own, function(p) any(utils::head(p, -1) %in% said), NA)) != 1) next
    text <- sub(hits[i, 1], hits[i, 2], text, fixed = TRUE)
  }
  text
}

#' "top 10% of hives by yield by arm", "bottom 5 percent by score in each class": rows beyond a quantile, counted in the groups
#' @noRd
wish_top_part <- function(text, vocabulary) {
  form <- "(?i)^ *(?:show |list |give |count )?(?:me )?(?:the )?(top|best|highest|largest|bottom|lowest|worst|smallest) ([0-9]{1,2}(?:[.][0-9]+)?) ?(?:%%|per ?cent)(?: of)?(?: the| all)?(?: (\\p{L}+))? (?:by|in|on|for|of) (?:the |their )?(.+?) (?:by|per|for each|in each|within each|across|for every) (?:the )?(.+?)[?. ]*$"  # nolint: line_length_linter.
  hit <- first_match(text, gsub("%%", "%", form, fixed = TRUE))
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[5]); g <- column_said(vocabulary, hit[6])
  noun <- hit[4]
  if (is.null(y) || !y$kind %in% c("number", "count") || !divides_rows(g) || !is.na(noun) && !names_rows(vocabulary, noun)) return(NULL)
  low <- grepl("^(bottom|lowest|worst|smallest)$", hit[2], ignore.case = TRUE)
  list(text = sprintf("how many rows in the %s %s percent of %s are in each %s", if (low) "bottom" else "top", hit[3], y$name, g$name), extra = list())  # nolint: line_length_linter.
}
