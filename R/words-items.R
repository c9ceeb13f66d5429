# The question as a row of items: columns, values, numbers, dates, cues, plain words and unknown words.

#' Cut a question into items
#'
#' Of all links, those are kept that cover the telling words best without overlapping (dynamic programming over the
#' tokens).
#' @section Shape: list of items: type, from, to, text, norm, stem, and where they apply cols, vals, lex, adj (data
#'   frames of links),
#'   value (number), first, last, precision (date).
#' @noRd
find_items <- function(tokens, vocabulary) {
  lexicon <- vocabulary$lexicon
  dates <- find_dates(tokens, lexicon)
  links <- find_links(tokens, vocabulary)
  chosen <- choose_spans(tokens, links, dates, vocabulary)
  items <- list()
  i <- 1L
  while (i <= length(tokens$norm)) {
    span <- take_rows(chosen, chosen$from == i)
    item <- if (nrow(span)) linked_item(span, tokens, links, dates, lexicon, tolower(vocabulary$columns$name)) else single_item(i, tokens, vocabulary)
    if (length(items) && belongs_to_method(last_of(items), item)) item <- utils::modifyList(single_item(i, tokens, vocabulary), list(type = "filler"))
    items[[length(items) + 1L]] <- item
    i <- item$to + 1L
  }
  settle_owners(verbs_of_columns(units_of_time(words_at_work(items), vocabulary)), tokens, vocabulary)
}

#' "people who work overtime", beside WorkLifeBalance: the verb of the column that follows, not another column
#' @noRd
verbs_of_columns <- function(items) {
  n <- length(items)
  verbs <- c("work", "works", "worked", "working", "use", "uses", "used", "using", "take", "takes", "took", "live", "lives", "drive", "drives")
  for (k in which(vapply(items, function(i) identical(i$type, "column") && i$norm %in% verbs, NA))) {
    follows <- k < n && identical(items[[k + 1]]$type, "column") && max(items[[k + 1]]$cols$score) >= 0.9
    if (follows && max(items[[k]]$cols$score) < 0.7) items[[k]] <- without_column(items[[k]], "filler")
  }
  items
}

#' "over 60 months", "per extra month of tenure", beside MonthlyCharges: a unit, not a column that has the word in its name
#' @noRd
units_of_time <- function(items, vocabulary) {
  n <- length(items)
  norm <- vapply(items, `[[`, "", "norm")
  for (k in which(vapply(items, function(i) identical(i$type, "column"), NA) & grepl("^(hour|day|week|month|year)s?$", norm))) {
    if (k == 1 || max(items[[k]]$cols$score) >= 0.9) next
    # (what is counted in days is what "90 days" are of)
    if (any(vocabulary$columns$unit[items[[k]]$cols$column] %in% c(norm[k], paste0(norm[k], "s"), unit_words()[norm[k]]))) next
    counted <- identical(items[[k - 1]]$type, "number")
    each <- norm[k - 1] %in% c("extra", "additional", "further", "more", "each", "every", "per", "another", "per extra", "per additional") &&
      k < n && norm[k + 1] == "of"
    if (counted || each) items[[k]] <- without_column(items[[k]], "unit")
  }
  items
}

#' "how heavy are the babies", "mothers weigh more than 150 lb", beside mother_weight_lb and birth_weight_g: whose measure it is, or its unit
#'
#' Of columns that a word fits about as well, the one stays whose name holds another noun of the question, or whose unit stands behind the number.
#' @noRd
settle_owners <- function(items, tokens, vocabulary) {
  for (k in seq_along(items)) for (part in c("cols", "adj")) {
    rows <- items[[k]][[part]]
    if (is.null(rows) || nrow(rows) < 2 || max(rows$score) >= 0.97) next
    near <- rows$column[rows$score >= max(rows$score) - 0.05]
    if (length(unique(near)) < 2) next
    own <- owned_column(unique(near), items[[k]], tokens, vocabulary)
    if (length(own) == 1) items[[k]][[part]] <- take_rows(rows, rows$column == own)
  }
  items
}

owned_column <- function(columns, item, tokens, vocabulary) {
  # a baby's measure is called after its birth
  said <- tokens$stem[-(item$from:item$to)]
  said <- c(said, if (any(said %in% stem_words(c("baby", "infant", "newborn", "child")))) "birth")
  nouns <- c(vapply(strsplit(vocabulary$lexicon$entities, " "), `[`, "", 1), "birth", stem_words(c("mother", "father", "parent", "wife", "husband")))
  rest <- lapply(columns, function(i) setdiff(name_stems(vocabulary$columns$name[i]), tokens$stem[item$from:item$to]))
  # ("given by physicians differ from those given by patients": each of them is spoken of)
  if (sum(vapply(rest, function(r) any(r %in% said), NA)) > 1) return(integer())
  own <- columns[vapply(rest, function(r) any(r %in% intersect(said, nouns)), NA)]
  if (length(own) == 1) return(own)
  number <- which(tokens$type == "number" & seq_along(tokens$type) > item$to)[1]
  unit <- if (!is.na(number) && number < length(tokens$norm)) tokens$norm[number + 1]
  known <- if (length(unit)) c(unname(unit_words()[unit]), unit_tails()[[unit]]) else character()
  columns[vocabulary$columns$unit[columns] %in% stats::na.omit(known)]
}

#' Columns called "mean" or "by", where the word does its own work: "mean of n", "test by group"
#' @noRd
words_at_work <- function(items) {
  n <- length(items)
  column <- vapply(items, function(i) identical(i$type, "column"), NA)
  norm <- vapply(items, `[[`, "", "norm")
  past <- function(k) if (k <= n && norm[k] == "the") k + 1L else k
  for (k in which(column & vapply(items, has_lex, NA, "statistic"))) {
    of <- k + 1L
    if (of < n && norm[of] == "of" && past(of + 1L) <= n && column[past(of + 1L)]) items[[k]] <- without_column(items[[k]], "lexicon")
  }
  for (k in which(column & norm == "by")) if (k < n && column[past(k + 1L)] && k > 1) items[[k]] <- without_column(items[[k]], "stop")
  items
}

without_column <- function(item, type) {
  item["cols"] <- list(NULL)
  item$type <- type
  item
}

#' "Mann-Whitney test", where a column is called test: the word is part of the method's name
#' @noRd
belongs_to_method <- function(before, item) {
  identical(item$type, "column") && item$from == item$to && has_lex(before, "method") &&
    item$norm %in% c("test", "tests", "regression", "analysis", "model", "plot", "table", "chart", "coefficient",
      "statistic")
}

span_strength <- function(links, tokens, lexicon) {
  stopped <- tokens$norm %in% lexicon$stop
  count <- cumsum(c(0, !stopped))
  # small words that are part of a column's own name ("strength before") tell as much as others
  telling <- pmax(1, count[links$to + 1] - count[links$from], links$covers)
  size <- links$to - links$from + 1
  base <- ifelse(links$type == "column", links$score * 1.02,
                 ifelse(links$type == "value", links$score, ifelse(links$type == "adjective", 0.65,
                     links$score * 0.95)))
  # a lexicon phrase counts its stop words ("how many", "at least"), a column only its telling words; a small word by
  # itself ("at", "of") says little
  lone <- size == 1 & stopped[links$from]
  # the full name of a method beats the words it is made of
  named <- links$type == "lexicon" & links$kind %in% "method"
  phrase <- ifelse(lone, 0.4, size^ifelse(named, 1.15, 0.95))
  # one name of several words comes before several names of one ("nightly rate", beside nights and rating)
  whole <- links$type == "column" & size > 1 & links$score >= 0.97
  0.03 * whole + base * ifelse(links$type == "lexicon", phrase, telling + 0.05 * (size - telling)) -
    0.02 * (links$type == "lexicon" & links$kind == "scope")
}

choose_spans <- function(tokens, links, dates, vocabulary) {
  n <- length(tokens$norm)
  links <- take_rows(links, !(links$from == links$to & links$type == "column" & links$score < 0.25))
  strength <- span_strength(links, tokens, vocabulary$lexicon)
  from <- links$from; to <- links$to
  if (!is.null(dates)) {
    from <- c(from, dates$from); to <- c(to, dates$to)
    strength <- c(strength, 5 * (dates$to - dates$from + 1))
  }
  best <- numeric(n + 1)
  pick <- integer(n + 1)
  by_end <- split(seq_along(to), factor(to, seq_len(n)))
  for (j in seq_len(n)) {
    best[j + 1] <- best[j]
    for (k in by_end[[j]]) {
      value <- best[from[k]] + strength[k]
      if (value > best[j + 1] + 1e-12) { best[j + 1] <- value; pick[j + 1] <- k }
    }
  }
  chosen <- integer()
  j <- n
  while (j > 0) {
    k <- pick[j + 1]
    if (k > 0) chosen <- c(chosen, k)
    j <- if (k > 0) from[k] - 1L else j - 1L
  }
  frame_of(from = from[chosen], to = to[chosen])
}

linked_item <- function(span, tokens, links, dates, lexicon, names) {
  from <- span$from[1]; to <- span$to[1]
  item <- list(from = from, to = to, text = paste(tokens$text[from:to], collapse = " "),
               norm = paste(tokens$norm[from:to], collapse = " "),
               stem = paste(tokens$stem[from:to], collapse = " "))
  day <- if (!is.null(dates)) dates[dates$from == from & dates$to == to, , drop = FALSE]
  if (!is.null(day) && nrow(day)) return(c(item, list(type = "date", first = day$first, last = day$last,
                                                      precision = day$precision)))
  here <- take_rows(links, links$from == from & links$to == to)
  part <- function(type) {
    at <- which(here$type == type)
    if (length(at)) take_rows(here, at[order(-here$score[at])])
  }
  item$cols <- best_per_column(part("column")); item$vals <- part("value"); item$lex <- part("lexicon")
  item$adj <- part("adjective")
  # a level written out ("severe") comes before a column that only shares its stem ("severity")
  item$exact_level <- !is.null(item$vals) && nchar(item$norm) > 1 && any(tolower(item$vals$level) == item$norm & item$vals$score >= 1) &&
    !any(names[item$cols$column] == item$norm)
  item$type <- item_type(item)
  # small words keep their lexicon entries but are stepped over like other small words
  if (item$type == "lexicon" && item$norm %in% lexicon$stop) item$type <- "stop"
  item
}

best_per_column <- function(rows) {
  if (is.null(rows)) return(NULL)
  rows <- take_rows(rows, !duplicated(rows$column))
  take_rows(rows, rows$score >= rows$score[1] - 0.12)
}

#' What a span is first of all; the other readings stay with the item
#' @noRd
item_type <- function(item) {
  score <- c(column = max(0, item$cols$score), value = max(0, item$vals$score) - 0.02,
             lexicon = max(0, item$lex$score) * 0.85,
             adjective = if (is.null(item$adj)) 0 else 0.62)
  if (isTRUE(item$exact_level) && score[["value"]] > 0.9) return("value")
  # a whole name is the column even where it is a word of the lexicon too, except for the small words of grammar
  if (score[["column"]] >= 0.97 && !item$norm %in% c("by", "per", "n", "test", "mean", "sum", "count")) return("column")
  names(score)[which.max(score)]
}

single_item <- function(i, tokens, vocabulary) {
  lexicon <- vocabulary$lexicon
  item <- list(from = i, to = i, text = tokens$text[i], norm = tokens$norm[i], stem = tokens$stem[i],
               value = tokens$value[i])
  number_word <- tokens$norm[i] %in% setdiff(names(lexicon$numbers), c("one", "half", "second"))
  item$type <- if (tokens$type[i] == "number") "number"
    else if (number_word) "number"
    else if (tokens$type[i] == "symbol") "symbol"
    else if (tokens$norm[i] %in% lexicon$stop) "stop"
    else if (tokens$stem[i] %in% vocabulary$entities) "entity"
    else if (tokens$norm[i] %in% lexicon$telling) "unknown"
    # a quality ("punctual") that no column measures is not passed over
    else if (tokens$norm[i] %in% lexicon$qualities && !tokens$stem[i] %in% lexicon$filler && !identical(tokens$norm[max(1, i - 1)], "how")) "unknown"
    else if (tokens$norm[i] %in% lexicon$known || (tokens$stem[i] %in% lexicon$filler && !names_a_quality(tokens$norm[i]))) "filler"
    else if (is_unit_word(tokens$norm[i])) "unit"
    # a single letter after "by" or "on" stands where a column is named
    else if (nchar(tokens$norm[i]) == 1 && i > 1 && tokens$norm[i - 1] %in% c("by", "per", "on", "between")) "unknown"
    else if (grepl("ly$", tokens$norm[i]) || nchar(tokens$norm[i]) == 1 || is_filler_form(tokens$norm[i], lexicon)) "filler"
    else "unknown"
  if (number_word) item$value <- unname(lexicon$numbers[[tokens$norm[i]]])
  item
}

#' "happiness", "personality", "experience": nouns of their own, though an everyday word has the same stem
#' @noRd
names_a_quality <- function(norm) grepl("(ness|ity|ence|ance|ency|ancy|hood|ship|ism|ment)s?$", norm)

#' "gave", "seen": a form of an everyday word that names nothing
#' @noRd
is_filler_form <- function(norm, lexicon) {
  base <- setdiff(base_forms(norm), norm)
  any(base %in% lexicon$known | base %in% c("give", "see", "find", "get", "have")) && any(stem_words(base) %in% lexicon$filler)
}

unit_words <- function() {
  c(degrees = "\u00b0", degree = "\u00b0", fahrenheit = "\u00b0F", celsius = "\u00b0C", years = "years", year = "years",
    grams = "g", gram = "g",
    kilograms = "kg", kilogram = "kg", kilos = "kg", millimetres = "mm", millimeters = "mm", centimetres = "cm",
    centimeters = "cm",
    metres = "m", meters = "m", miles = "mi", gallon = "gal", gallons = "gal", pounds = "lb", pound = "lb", mile = "mi", metre = "m", meter = "m",
      millimetre = "mm", millimeter = "mm", centimetre = "cm",
    centimeter = "cm", litre = "l", liter = "l", ton = "t", tons = "t", tonne = "t", tonnes = "t", kilometres = "km", kilometers = "km",
      kilometre = "km",
    kilometer = "km", second = "s", hectare = "ha", hectares = "ha", acre = "ac", acres = "ac", euros = "EUR", euro = "EUR",
    dollars = "USD", dollar = "USD",
    minutes = "min", minute = "min", seconds = "s", hours = "hours", hour = "hours", days = "days", percent = "%",
    points = "points",
    inches = "in", inch = "in", feet = "ft", foot = "ft", yards = "yd", yard = "yd", ounces = "oz", ounce = "oz", litres = "l", liters = "l",
        milligrams = "mg", milligram = "mg", months = "months", weeks = "weeks", sqm = "m2", sqft = "ft2", sqkm = "km2", cubicm = "m3")
}

#' "120 m2", "150 square metres": units with a power as one word each, since a figure in a unit is no number
#' @noRd
powers_said <- function(text) {
  if (!grepl("[0-9] ?(?:k?m|ft|sq|square|cubic)", text, ignore.case = TRUE)) return(text)
  forms <- c(sqm = "(?:m2|m\\^2|m\u00b2|sq\\.? ?m(?:et(?:er|re)s?)?|square met(?:er|re)s?)",
      sqft = "(?:ft2|ft\\^2|ft\u00b2|sq\\.? ?f(?:ee|oo)?t|square f(?:ee|oo)t)",
             sqkm = "(?:km2|km\\^2|km\u00b2|sq\\.? ?km|square kilomet(?:er|re)s?)", cubicm = "(?:m3|m\\^3|m\u00b3|cubic met(?:er|re)s?)")
  for (word in names(forms)) text <- gsub(sprintf("(?i)(?<=[0-9]) ?%s(?![\\p{L}0-9])", forms[[word]]), paste0(" ", word), text, perl = TRUE)
  text
}

# "in" at the end of a name is an inch; in a question it is the small word
is_unit_word <- function(norm) norm %in% setdiff(c(names(unit_words()), names(unit_tails()), "lb"), "in")

# ---- reading the items ----------------------------------------------------------------------------------------

item_types <- function(items) vapply(items, `[[`, "", "type")

#' Does an item carry a lexicon entry of this kind (and id)?
#' @noRd
has_lex <- function(item, kind, id = NULL) {
  !is.null(item$lex) && any(item$lex$kind == kind & (is.null(id) | item$lex$id %in% id))
}

lex_ids <- function(item, kind) if (is.null(item$lex)) character() else item$lex$id[item$lex$kind == kind]
