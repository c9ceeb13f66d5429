# Questions about how many rows there are, worded around who handled them; units said behind a number; odds of one side to another.

#' "how many tickets does each agent handle per month": rows are counted, whatever column the verb resembles
#' @noRd
wish_rows_each <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *how many ([\\p{L}]+) (?:do|does|did|can) (?:each|every|the (?:different )?) ?(.+?) ",
      "(?:handle|serve|take|deal with|see|process|close|make|receive|treat|answer|manage|get|have)(?: (per|each|every) (day|week|month|quarter|year))?[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit) || !names_rows(vocabulary, hit[2])) return(NULL)
  g <- column_said(vocabulary, hit[3])
  if (is.null(g) || !g$kind %in% c("category", "yes_no", "ordered", "id")) return(NULL)
  list(text = trimws(sprintf("number of rows by %s %s", g$name, if (is.na(hit[5])) "" else paste("per", hit[5]))), extra = list())
}

#' "which channel has the most tickets with satisfaction 1 or 2", "the most dissatisfied customers (satisfaction 1 or 2)"
#' @noRd
wish_most_rows <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:which|what) (.+?) (?:has|have|had|gets?|sees?|saw) (?:the )?(most|fewest|(?:highest|lowest) (?:number|share|proportion|percentage) of) (?:[\\p{L}]+ )?([\\p{L}]+),? ",  # nolint: line_length_linter.
                                  "(?:\\((?:with |where )?(.+?)\\)|(?:with|where|whose) (.+?))[?. ]*$"))
  if (is.null(hit) || !names_rows(vocabulary, hit[4])) return(NULL)
  condition <- if (is.na(hit[5])) hit[6] else hit[5]
  g <- column_said(vocabulary, hit[2])
  # (the condition has a bound or a value of its own)
  if (is.null(g) || !g$kind %in% c("category", "yes_no", "ordered", "id") || !grepl("[0-9]", condition)) return(NULL)
  what <- if (grepl("share|proportion|percentage", hit[3], ignore.case = TRUE)) "share of rows with" else "number of rows where"
  list(text = sprintf("%s %s by %s", what, condition, g$name), extra = list())
}

#' "odds of being resolved for Alpha compared to Bravo": the side named first against the other
#' @noRd
wish_odds_against <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "odds of (?:being |getting |having )?(?:the )?(.+?) (?:for|in|among) (?:the )?(.+?) ",
                                  "(?:compared (?:with|to)|relative to|versus|vs\\.?|against) (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  sides <- joined_stems(tolower(hit[3:4]))
  own <- lapply(sides, function(p) vocabulary$values$column[vocabulary$values$phrase == p])
  if (!length(intersect(own[[1]], own[[2]]))) return(NULL)
  list(text = sprintf("odds ratio of %s for %s versus %s", hit[2], hit[3], hit[4]), extra = list())
}

#' "waited longer than 10", of a column wait: more than that many of it
#' @noRd
longer_than_said <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)\\b([\\p{L}_]+) (longer|shorter) than (?=[0-9])")
  if (is.null(hit)) return(text)
  col <- column_said(vocabulary, hit[2])
  if (is.null(col) || !col$kind %in% c("number", "count")) return(text)
  sub(hit[1], sprintf("%s %s than ", hit[2], if (tolower(hit[3]) == "longer") "more" else "less"), text, fixed = TRUE)
}

#' Is a noun a word for the rows, and no measured column's?
#' @noRd
names_rows <- function(vocabulary, noun) {
  noun <- tolower(noun)
  if (noun %in% c("rows", "records", "cases", "entries")) return(TRUE)
  stem <- joined_stems(noun)
  columns <- vocabulary$columns
  keys <- columns$kind == "id" & columns$unique & vapply(columns$name, function(n) stem %in% stems_of(paste(name_words(n), collapse = " "))[[1]], NA)
  stem %in% vocabulary$entities || any(keys)
}

#' "a wait above 10 minutes", beside wait_minutes and handle_minutes: the unit is that of the column the words name
#' @noRd
shared_unit_said <- function(text, vocabulary) {
  hits <- stringi::stri_match_all_regex(text, "(?i)(?<![\\p{L}0-9_.])([0-9]+(?:[.][0-9]+)?) ([\\p{L}]{1,12})\\b")[[1]]
  if (is.na(hits[1, 1])) return(text)
  columns <- vocabulary$columns
  numbers <- which(columns$kind %in% c("number", "count"))
  parts <- lapply(columns$name[numbers], function(n) stems_of(paste(name_words(n), collapse = " "))[[1]])
  said <- stems_of(text)[[1]]
  for (i in seq_len(nrow(hits))) {
    unit <- stem_words(tolower(hits[i, 3]))
    own <- Filter(function(p) length(p) > 1 && last_of(p) == unit, parts)
    # (asked about by one of them only, and no column is called after the unit)
    if (length(own) < 2 || any(vapply(parts, identical, NA, unit)) || sum(vapply(own, function(p) any(utils::head(p, -1) %in% said), NA)) != 1) next
    text <- sub(hits[i, 1], hits[i, 2], text, fixed = TRUE)
  }
  text
}
