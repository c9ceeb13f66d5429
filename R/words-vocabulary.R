# The study's own vocabulary: what its columns and values are called.

#' Columns that number occasions (matches, nights, visits): whole numbers without a gap, each once for a unit that comes back
#' @noRd
index_columns <- function(study, columns = all_columns(study)) {
  counts <- Filter(function(col) col$kind == "count" && is.null(col$role) && isTRUE(col$distinct >= 4 & col$distinct <= 400) &&
    grepl("^(match|game|night|visit|session|round|trial|day|week|wave|lap|shift|lesson|stage|set|month|meeting|call|ride|run|trip|race|attempt)([_. ]?(no|nr|number|id|index|num))?$",  # nolint: line_length_linter.
          tolower(col$name)), columns)
  own <- Filter(function(col) {
    x <- study$tables[[col$table]]$data[[col$name]]
    if (!is.numeric(x) || anyNA(x) || length(x) > 1e6 || diff(range(x)) + 1 != col$distinct || !min(x) %in% 0:1) return(FALSE)
    keys <- Filter(function(key) key$table == col$table && key$kind %in% c("id", "category") && 2 * key$distinct <= length(x), columns)
    any(vapply(keys, function(key) unique_pairs(study$tables[[col$table]]$data[[key$name]], x), NA))
  }, counts)
  vapply(own, `[[`, "", "name")
}

#' Is every pair of two columns there only once?
#' @noRd
unique_pairs <- function(a, b) !anyDuplicated(data.table::setDT(list(a, b)))

#' Does a column have one value for all rows of each unit?
#' @noRd
same_within <- function(unit, x) data.table::uniqueN(data.table::setDT(list(unit, x))) == data.table::uniqueN(unit)

#' The layout of long data: which column names the units, and which the times
#' @section Shape: list(unit, time, first, last, times), or NULL where the data is not long.
#' @noRd
layout_of <- function(study, columns) {
  if (!length(columns)) return(NULL)
  # (of joined tables the one with many rows for each unit comes first)
  columns <- Filter(function(col) col$table == columns[[1]]$table, columns)
  data <- study$tables[[columns[[1]]$table]]$data
  units <- Filter(function(col) col$kind == "id" && 2 * col$distinct <= nrow(data), columns)
  times <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$distinct >= 2 & col$distinct <= 60) &&
    grepl("(^|[^a-z])(weeks?|days?|months?|visits?|time|years?|sessions?|waves?|occasions?|hours?|minutes?|periods?|rounds?)([^a-z]|$)", tolower(col$name)), columns)  # nolint: line_length_linter.
  # (children and trees that are measured at several ages)
  if (!length(times)) times <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$distinct %in% 2:20) &&
    grepl("(^|[^a-z])age([^a-z]|$)", tolower(col$name)), columns)
  for (unit in units) for (time in times) {
    x <- data[[time$name]]
    if (is.numeric(x) && !anyNA(x) && unique_pairs(data[[unit$name]], x)) {
      return(list(unit = unit$name, time = time$name, first = min(x), last = max(x), times = sort(unique(x))))
    }
  }
}

#' Is every row a month or a quarter of a year, with its own values? Then rows are not what is counted
#' @noRd
holds_calendar <- function(study, columns) {
  years <- Filter(function(col) identical(col$role, "year"), columns)
  parts <- Filter(function(col) {
    named <- grepl("^(month|quarter|qtr|week)s?$", tolower(col$name)) && is_numeric_kind(col$kind)
    named || length(col$levels) %in% c(4, 12) && all(tolower(substr(col$levels, 1, 3)) %in% c(tolower(month.abb), paste0("q", 1:4), "qtr"))
  }, columns)
  if (length(years) != 1 || length(parts) != 1 || years[[1]]$table != parts[[1]]$table) return(FALSE)
  data <- study$tables[[years[[1]]$table]]$data
  nrow(data) >= 8 && unique_pairs(data[[years[[1]]$name]], data[[parts[[1]]$name]])
}

#' Build the vocabulary of a study
#'
#' @section Shape: list(lexicon, columns = data frame (name, table, kind, ...), terms = data frame (stem, column,
#'   weight, source),
#'   phrases = data frame (phrase, column) of whole names and synonyms, values = data frame (phrase, column, level,
#'   quality),
#'   words = every word for the spelling, size = weight of each column's own words).
#' @noRd
build_vocabulary <- function(study, lexicon = english) {
  columns <- main_table_first(study, all_columns(study))
  ends <- few_ends(study, columns)
  table <- data.frame(name = vapply(columns, `[[`, "", "name"), table = vapply(columns, `[[`, "", "table"),
                      kind = vapply(columns, `[[`, "", "kind"), distinct = vapply(columns, `[[`, 1L, "distinct"),
                      role = vapply(columns, function(col) col$role %||% "", ""),
                      unit = vapply(columns, function(col) col$unit %||% "", ""),
                      share = vapply(columns, function(col) isTRUE(col$share), NA),
                      first_level = vapply(columns, function(col) as.character(c(col$levels, "")[1]), ""),
                      last_level = vapply(columns, function(col) as.character(last_of(c("", col$levels))), ""),
                      lowest = ends["lowest", ], highest = ends["highest", ],
                      years = vapply(columns, function(col) years_of(study, col), ""),
                      days = vapply(columns, function(col) years_of(study, col, "%Y-%m-%d", " "), ""),
                      coded = vapply(columns, function(col) is_coded(col, study$tables[[col$table]]$data[[col$name]]), NA),
                      unique = vapply(columns, function(col) col$distinct == nrow(study$tables[[col$table]]$data), NA),
                      rows = vapply(columns, function(col) nrow(study$tables[[col$table]]$data), 1L), stringsAsFactors = FALSE)
  table$role[table$name %in% study$design$weights] <- "weight"
  table$index <- table$name %in% index_columns(study, columns)
  # the other table's name for a key only says what its rows are
  for (j in study$joins) if (!identical(j$key, j$one_key)) table$kind[table$table == j$one & table$name == j$one_key] <- "id"
  # two codes (1 and 2) are kept, so that it can be asked which of them is meant
  for (i in which(table$kind == "count" & table$distinct == 2)) {
    codes <- format_plain(sort(unique(as.numeric(drop_codes(study$tables[[table$table[i]]]$data[[table$name[i]]], columns[[i]]$missing_codes)))))
    if (length(codes) == 2) table[i, c("first_level", "last_level")] <- codes
  }
  # items of one scale and options of one question, by the sets that the profile found
  table$item_set <- set_numbers(study, table$name, "items")
  table$answer_set <- set_numbers(study, table$name, "multi_answer")
  first <- !duplicated(table$name)
  columns <- columns[first]
  table <- table[first, , drop = FALSE]
  learn_name_stems(table$name)
  terms <- column_terms(columns, table, lexicon)
  terms$phrases <- stack_frames(alias_phrases(study$aliases, table$name), terms$phrases)
  sets <- Filter(function(set) all(set$columns %in% table$name), study_sets(study, "repeated_measures"))
  terms$terms <- stack_frames(terms$terms, joined_terms(sets, table$name, terms$terms))
  terms$phrases <- stack_frames(terms$phrases, numbered_sets(sets, table$name))
  values <- value_phrases(columns, lexicon, unlist(terms$terms$stem))
  ids <- id_values(columns, study)
  keys <- table$name[table$kind == "id" & table$unique]
  table_stems <- c(unlist(stems_of(name_words(names(study$tables)))), setdiff(unlist(stems_of(name_words(keys))), key_words()))
  entities <- setdiff(unique(c(lexicon$entities, table_stems)), setdiff(values$phrase, c("day", "night", "week", "month", "year")))
  # looked up in every question: the stems that are known at all, the words of whole phrases
  words_of <- function(phrases) unique(unlist(strsplit(phrases, " ", fixed = TRUE)))
  familiar <- list(stems = unique(c(terms$terms$stem, lexicon$filler, entities, stem_words(lexicon$known), stem_words(synonym_words(lexicon)))),
                   column_words = words_of(terms$phrases$phrase), words = words_of(c(terms$phrases$phrase, values$phrase)))
  list(lexicon = lexicon, familiar = familiar, columns = table, pieces = name_pieces(table$name), sets = sets, terms = terms$terms, size = terms$size,
      phrases = terms$phrases,
       values = values,
       # a word for people that is also a value ("children", of the level Child) restricts the rows
       long = layout_of(study, columns), calendar = holds_calendar(study, columns), ids = key_values(columns, ids),
           row_names = label_values(columns, ids), entities = entities,
         words = c(vocabulary_words(columns, values), unlist(strsplit(as.character(names(study$aliases)), "[^[:alnum:]]+"))))
}

#' The words of the columns' names, one by one and in pairs
#' @section Shape: list(split (words of each name), long = data frame stem, column of words of six letters and more, pairs = data frame word, column
#'   of two words that follow each other, written as one, two = data frame column, first, second of names of two words, a unit at the end aside).
#' @noRd
name_pieces <- function(names) {
  split <- strsplit(tolower(name_words(names)), "[^a-z]+")
  size <- lengths(split)
  words <- frame_of(word = unlist(split), column = rep(seq_along(split), size))
  long <- words[nchar(words$word) >= 6, , drop = FALSE]
  next_to <- which(words$column[-nrow(words)] == words$column[-1])
  bare <- bare_names(split, least = 2)
  two <- which(lengths(bare) == 2)
  list(split = split, two = frame_of(column = two, first = vapply(bare[two], `[`, "", 1L), second = vapply(bare[two], `[`, "", 2L)),
       long = frame_of(stem = stem_words(long$word), column = long$column),
       pairs = frame_of(word = paste0(words$word[next_to], words$word[next_to + 1]), column = words$column[next_to]))
}

#' The words of names without a unit at their end ("rt_ms"), where so many words are left
#' @param split List of the words of each name.
#' @noRd
bare_names <- function(split, least) {
  tails <- names(unit_tails())
  lapply(split, function(w) {
    w <- w[nzchar(w)]
    if (length(w) > least && last_of(w) %in% tails) w[-length(w)] else w
  })
}

#' The values of the columns that name rows or units, as texts
#' @section Shape: list along `columns`; NULL for other kinds, and where there are more than `most` values.
#' @noRd
id_values <- function(columns, study, most = 200000L) {
  lapply(columns, function(col) if (col$kind == "id" && col$distinct <= most) unique(as.character(study$tables[[col$table]]$data[[col$name]])))
}

#' Values of key columns that mix letters and digits ("H017"), so that a question can name one row or unit
#' @noRd
key_values <- function(columns, ids) {
  named <- lengths(ids) > 0
  out <- lapply(ids[named], function(values) values[grepl("[A-Za-z]", values) & grepl("[0-9]", values)])
  stats::setNames(out, vapply(columns[named], `[[`, "", "name"))
}

#' Lowest and highest value of the columns of numbers that take few values; "" for the others
#' @section Shape: matrix of texts, rows "lowest" and "highest", one column for each of `columns`.
#' @noRd
few_ends <- function(study, columns) {
  vapply(columns, function(col) {
    none <- c(lowest = "", highest = "")
    if (!is_numeric_kind(col$kind) || col$distinct > 30 || col$distinct < 2) return(none)
    values <- drop_codes(study$tables[[col$table]]$data[[col$name]], col$missing_codes)
    r <- suppressWarnings(range(as.numeric(values), na.rm = TRUE))
    if (all(is.finite(r))) stats::setNames(c(format_plain(r[1]), format_plain(r[2])), names(none)) else none
  }, c(lowest = "", highest = ""))
}

#' What single rows are called, where a column names them in words ("California"): phrases that stand for its values
#' @section Shape: data frame phrase (stems), column, level.
#' @noRd
label_values <- function(columns, ids, most = 5000L) {
  named <- which(vapply(columns, function(col) col$kind == "id" && col$distinct <= most, NA))
  out <- lapply(named, function(i) {
    values <- ids[[i]]
    values <- values[!is.na(values) & grepl("^\\p{L}{2,}", values, perl = TRUE) & nchar(values) <= 40]
    frame_of(phrase = vapply(stems_of(values), paste, "", collapse = " "), column = rep(i, length(values)), level = values)
  })
  do.call(rbind, out) %||% frame_of(phrase = character(), column = integer(), level = character())
}

#' First and last year of a date column, "1973-1973"; empty for other kinds
#' @noRd
years_of <- function(study, col, form = "%Y", between = "-") {
  if (identical(col$role, "year") && between == "-") {
    r <- suppressWarnings(range(understood(study, col$name, col$table), na.rm = TRUE))
    return(if (all(is.finite(r))) paste(r, collapse = between) else "")
  }
  if (!col$kind %in% c("date", "datetime")) return("")
  r <- range(understood(study, col$name, col$table), na.rm = TRUE)
  if (anyNA(r) || any(is.infinite(as.numeric(r)))) "" else paste(format(r, form), collapse = between)
}

#' Whole numbers 1, 2, ... k without a gap are likely codes of groups; 4, 12, 16 months are not
#' @noRd
is_coded <- function(col, raw) {
  if (!identical(col$kind, "count") || col$distinct > 8) return(FALSE)
  values <- sort(unique(drop_codes(raw, col$missing_codes)))
  is.numeric(values) && values[1] %in% 0:1 && all(diff(values) == 1)
}

column_terms <- function(columns, table, lexicon) {
  spoken <- as_spoken(table$name)
  name_stems <- stems_of(name_words(spoken))
  # (the words of a question that a column is called by find it too)
  label_stems <- stems_of(paste(vapply(columns, function(col) sub("\\([^)]*\\)", "", col$label %||% ""), ""), ifelse(spoken == table$name, "",
    name_words(table$name))))
  units <- unique(stem_words(c(names(unit_tails()), "lb", "mg", "t", "per", "mmol", "iu")))
  general <- unique(c(lexicon$generic, stem_words(lexicon$stop)))
  holders <- list(size = lengths(name_stems), of = split(rep(seq_along(name_stems), lengths(name_stems)), unlist(name_stems)))
  rows <- lapply(seq_along(columns), function(i) {
    stems <- name_stems[[i]]
    if (!length(stems)) stems <- tolower(table$name[i])
    # a unit at the end of a name is optional; general words ("score", "level") weigh little beside a telling one
    optional <- stems %in% units & seq_along(stems) > 1
    weight <- ifelse(optional, 0, ifelse(stems %in% general, 0.35,
                                         ifelse(grepl("^[0-9.]+$", stems), 0.5, 1)))
    if (sum(weight) == 0) weight[1] <- 1
    # ("reading score": of two general words the first tells what is scored)
    if (length(stems) > 1 && all(weight[weight > 0] < 0.5)) weight[which(weight > 0)[1]] <- 1
    weight[tells_apart(stems, weight, holders, i)] <- 1
    # ("age_at_admission", "died_in_hospital": where and when says little of what it is)
    lead <- which((stems == "at" | stems == "in" & table$kind[i] == "yes_no") & seq_along(stems) > 1)
    behind <- length(lead) > 0 & seq_along(stems) >= c(lead, Inf)[1]
    weight[behind] <- pmin(weight[behind], 0.35)
    if (table$kind[i] == "id" && any(weight >= 1)) weight[stems %in% key_words()] <- 0
    # words of the label, and the noun that the unit measures ("speed" for mph), help to find the column
    measured <- lexicon$unit_nouns$noun[lexicon$unit_nouns$unit == table$unit[i]]
    extra <- setdiff(c(label_stems[[i]], measured), c(stems, lexicon$stop))
    list(stem = c(stems, extra), weight = c(weight, rep(0, length(extra))),
         source = c(ifelse(behind, "where", "name"), rep("label", length(extra))))
  })
  part <- function(id) unlist(lapply(rows, `[[`, id), use.names = FALSE)
  terms <- frame_of(stem = part("stem"), column = rep(seq_along(rows), lengths(lapply(rows, `[[`, "stem"))), weight = part("weight"),
                      source = part("source"))
  size <- vapply(rows, function(r) sum(r$weight), 1)
  list(terms = terms, size = size, phrases = column_phrases(columns, name_stems, label_stems, lexicon))
}

#' "walk6", of walk6_base, walk6_wk6 and walk6_wk12: the measure as a whole, whose number is no occasion
#' @section Shape: rows of the phrases (phrase, column, quality), or NULL.
#' @noRd
numbered_sets <- function(sets, names) {
  own <- Filter(function(set) grepl("[0-9]", set$name) && length(name_stems(set$name)) > 1, sets)
  do.call(stack_frames, lapply(own, function(set) {
    frame_of(phrase = rep(paste(name_stems(set$name), collapse = " "), length(set$columns)), column = match(set$columns, names),
             quality = rep(0.965, length(set$columns)))
  }))
}

#' "Prewt", "Postwt": the measure and the occasion of columns whose names write them as one word
#' @section Shape: rows of the terms (stem, column, weight, source).
#' @noRd
joined_terms <- function(sets, names, terms) {
  own <- lapply(sets, function(set) {
    measure <- stem_words(tolower(set$name))
    column <- match(set$columns, names)
    joined <- grepl("^[[:alpha:]]{2,}$", set$name) && !any(terms$stem[terms$column %in% column & terms$source == "name"] == measure)
    if (!joined) return(NULL)
    frame_of(stem = c(rep(measure, length(column)), stem_words(tolower(set$times))), column = rep(column, 2), weight = rep(0.5, 2 * length(column)),
             source = rep("name", 2 * length(column)))
  })
  do.call(rbind, own)
}

#' Small words of a name that tell it from another one ("other hand span" beside "writing hand span")
#'
#' @param holders Of all names: `size`, how many stems each has, and `of`, the names that hold each stem.
#' @param own Which of the names this is.
#' @noRd
tells_apart <- function(stems, weight, holders, own) {
  small <- which(weight > 0 & weight < 0.4)
  rest <- stems[weight >= 1]
  # ("reading_autumn" beside "maths_autumn"; "sales" beside "net_sales" and "total_sales" is all of it)
  whole <- any(stems[small] %in% stem_words(c("total", "overall", "mean", "average", "number", "count", "amount", "value", "score", "level", "rate")))
  if (length(small) != 1 || length(rest) < 1 + whole) return(integer())
  rivals <- Reduce(intersect, holders$of[unique(rest)])
  rivals <- setdiff(rivals[holders$size[rivals] == length(stems)], c(own, holders$of[[stems[small]]]))
  if (length(rivals)) small else integer()
}

#' Names that the analyst has given to columns
#' @noRd
alias_phrases <- function(aliases, names) {
  stems <- vapply(stems_of(names(aliases) %||% character()), paste, "", collapse = " ")
  out <- frame_of(phrase = stems, column = match(unlist(aliases) %||% character(), names),
      quality = rep(1.05, length(stems)))
  out[!is.na(out$column), , drop = FALSE]
}

#' "visits per month", of a label "Library visits per month": the noun with what it is per
#' @noRd
per_phrases <- function(columns) {
  said <- tolower(paste(name_words(vapply(columns, `[[`, "", "name")), ".", vapply(columns, function(col) col$label %||% "", "")))
  # "opening_hours_week"
  said <- sub("\\b([a-z]{3,}s) (hour|day|night|week|month|quarter|year) \\.", "\\1 per \\2 .", said)
  form <- "([\\p{L}]+ (?:per|a|each) (?:hour|day|night|week|month|quarter|year))\\b"
  found <- stringi::stri_match_first_regex(said, form)[, 2]
  keep <- !is.na(found) & vapply(columns, function(col) is_numeric_kind(col$kind), NA)
  found <- sub(" (a|each) ", " per ", found[keep])
  if (!length(found)) return(NULL)
  # ("opening hours per week" whole, too)
  whole <- stringi::stri_match_first_regex(said[keep], "((?:[\\p{L}]+ ){1,4}per (?:hour|day|night|week|month|quarter|year))\\b")[, 2]
  whole[is.na(whole)] <- found[is.na(whole)]
  frame_of(phrase = joined_stems(c(found, whole)), column = rep(which(keep), 2), quality = 0.97)
}

#' "satisfaction with the opening hours", of a label "Satisfaction with opening hours", and the other way round
#' @noRd
label_variants <- function(columns) {
  said <- tolower(vapply(columns, function(col) sub("\\([^)]*\\)", "", col$label %||% ""), ""))
  small <- "\\b(with|of|in|for|about|to|at|on|by)"
  out <- c(gsub(paste0(small, " the "), "\\1 ", said), gsub(paste0(small, " (?!the )"), "\\1 the ", said, perl = TRUE))
  at <- rep(seq_along(columns), 2)
  keep <- nzchar(out) & out != rep(said, 2)
  if (!any(keep)) return(NULL)
  frame_of(phrase = joined_stems(out[keep]), column = at[keep], quality = 0.94)
}

#' Whole phrases that mean a column: its name, its label, declared aliases, synonyms of either
#' @noRd
column_phrases <- function(columns, name_stems, label_stems, lexicon) {
  own <- frame_of(phrase = c(vapply(name_stems, paste, "", collapse = " "),
                               vapply(label_stems, paste, "", collapse = " ")),
                    column = rep(seq_along(columns), 2), quality = rep(c(1, 0.95), each = length(columns)))
  own <- own[nzchar(own$phrase), , drop = FALSE]
  own <- stack_frames(own, duration_phrases(columns, name_stems), treatment_phrases(columns, name_stems), per_phrases(columns),
               label_variants(columns), asked_phrases(columns), bare_phrases(columns, own$phrase))
  # a word that stands in a column's own name is no synonym of another column
  same <- synonym_phrases(name_stems, lexicon$synonyms)
  stack_frames(own, same[!same$phrase %in% unlist(name_stems), , drop = FALSE])
}

#' Names of several words without the unit at their end: "nightly rate" for nightly_rate_eur
#' @noRd
bare_phrases <- function(columns, taken) {
  names <- vapply(columns, `[[`, "", "name")
  bare <- strip_tail(names)
  phrase <- vapply(bare, function(n) paste(name_stems(n), collapse = " "), "", USE.NAMES = FALSE)
  own <- bare != names & grepl(" ", phrase, fixed = TRUE) & !phrase %in% c(taken, phrase[duplicated(phrase)])
  frame_of(phrase = phrase[own], column = which(own), quality = rep(1, sum(own)))
}

#' The number of the set that each column belongs to, 0 for none; a column that holds several answers is no set of columns
#' @noRd
set_numbers <- function(study, names, kind) {
  sets <- Filter(function(set) length(set$columns) > 1, study_sets(study, kind))
  vapply(names, function(name) match(TRUE, vapply(sets, function(set) name %in% set$columns, NA), nomatch = 0L), 1L, USE.NAMES = FALSE)
}

#' The stems of what a key is a key of ("appointment" of appointment_id)
#' @noRd
key_stems <- function(name) setdiff(name_stems(name), key_words())

#' Those of some columns of keys that a noun names ("appointments" of appointment_id)
#' @noRd
keys_called <- function(keys, noun) Filter(function(col) stem_words(tolower(noun)) %in% key_stems(col$name), keys)

#' Does a word stand in the name of any column?
#' @noRd
column_said_by <- function(study, word, columns = all_columns(study)) {
  any(vapply(columns, function(col) stem_words(tolower(word)) %in% name_stems(col$name), NA))
}

#' Columns of joined tables, those of the table with many rows for each key first: its rows are what a question is about
#' @noRd
main_table_first <- function(study, columns) {
  if (!length(study$joins)) return(columns)
  many <- unique(vapply(study$joins, function(j) j$many %||% "", ""))
  one <- unique(vapply(study$joins, function(j) j$one %||% "", ""))
  main <- setdiff(many, one)
  own <- vapply(columns, function(col) col$table %in% main, NA)
  c(columns[own], columns[!own])
}

#' "finish time" for finish_min, "lead time" for lead_days: what a unit of time at the end of a name says
#' @noRd
duration_phrases <- function(columns, name_stems) {
  timed <- vapply(columns, function(col) is_numeric_kind(col$kind) && isTRUE(col$unit %in% time_units()), NA)
  ends <- stem_words(c("s", "sec", "ms", "min", "h", "hours", "days", "weeks", "months"))
  timed <- which(timed & vapply(name_stems, function(s) length(s) > 1 && last_of(s) %in% ends, NA))
  first <- vapply(name_stems[timed], function(s) paste(s[-length(s)], collapse = " "), "")
  stack_frames(time_to_phrases(columns), frame_of(phrase = c(sprintf("%s time", first), sprintf("%s durat", first)), column = rep(timed, 2),
      quality = rep(0.98, 2 * length(timed))))
}

#' "time to resolve" for hours_to_resolve; the nouns of the verb ("resolution time") are looked up where a question holds one
#' @noRd
time_to_phrases <- function(columns) {
  names <- tolower(vapply(columns, `[[`, "", "name"))
  verbs <- verbs_of_times(names)
  # "time on site" for seconds_on_site
  place <- regmatches(names, regexec("^(?:time|seconds|minutes|mins|hours|days|weeks|months|years)_(on|in|at|with|since|from)_([a-z_]+)$", names))
  spent <- which(lengths(place) == 3)
  beside <- lapply(spent, function(i) {
    said <- gsub("_", " ", place[[i]][3])
    frame_of(phrase = joined_stems(c(sprintf("time %s %s", place[[i]][2], said), sprintf("time spent %s %s", place[[i]][2], said), sprintf("time %s the %s", place[[i]][2], said))),  # nolint: line_length_linter.
             column = rep(i, 3), quality = rep(0.98, 3))
  })
  at <- which(nzchar(verbs))
  out <- lapply(at, function(i) {
    verb <- verbs[i]
    frame_of(phrase = joined_stems(c(paste("time to", verb), paste(verb, c("time", "duration")))), column = rep(i, 3), quality = rep(0.98, 3))
  })
  do.call(rbind, c(out, beside))
}

#' The verb of a time to something ("resolve" of hours_to_resolve), "" for other names
#' @noRd
verbs_of_times <- function(names) {
  form <- "^(?:time|seconds|minutes|hours|days|weeks|months|years)_(?:to|until|till)_([a-z]+)$"
  ifelse(grepl(form, tolower(names), perl = TRUE), sub(form, "\\1", tolower(names), perl = TRUE), "")
}

#' "treatment", "group" for the one column of which a level says that nothing was given ("iron" and "placebo")
#' @noRd
treatment_phrases <- function(columns, name_stems) {
  without <- "^(placebo|control( group)?|controls|sham|usual care|standard( of)? care|standard treatment|untreated|no treatment|vehicle|waiting list|wait list|waitlist)$"  # nolint: line_length_linter.
  at <- which(vapply(columns, function(col) length(col$levels) %in% 2:8 && any(grepl(without, tolower(trimws(col$levels)))), NA))
  own <- stem_words(c("arm", "treatment", "group", "condition", "therapy", "intervention"))
  if (length(at) != 1 || any(own[-3] %in% unlist(name_stems))) return(NULL)
  said <- c("treatment", "arm", "group", "treatment group", "study arm", "study group", "trial arm", "treatment arm", "intervention", "therapy")
  frame_of(phrase = joined_stems(said), column = at, quality = 0.9)
}

time_units <- function() c("s", "ms", "min", "h", "hours", "days", "weeks", "months")

#' Synonyms of a whole name or of a word in it
#' @noRd
synonym_phrases <- function(stems, synonyms) {
  none <- frame_of(phrase = character(), column = integer(), quality = numeric())
  # all runs of words in each name, looked up at once
  runs <- lapply(stems, word_runs)
  said <- frame_of(phrase = unlist(runs), column = rep(seq_along(runs), lengths(runs)))
  found <- match_all(said$phrase, synonyms$phrase)
  if (!length(found$span)) return(none)
  # (in the order of the synonyms, as they are listed)
  at <- order(found$entry, found$span)
  entry <- found$entry[at]
  column <- said$column[found$span[at]]
  whole <- vapply(stems, paste, "", collapse = " ")[column] == synonyms$phrase[entry]
  members <- split(synonyms$phrase, synonyms$group)
  # (a member that stands twice counts twice)
  others <- lapply(entry, function(e) { all <- members[[as.character(synonyms$group[e])]]; all[all != synonyms$phrase[e]] })
  size <- lengths(others)
  frame_of(phrase = as.character(unlist(others)), column = rep(column, size), quality = rep(ifelse(whole, 0.9, 0.75), size))
}

#' The runs of words that follow each other in a name, of up to five words
#' @noRd
word_runs <- function(words) {
  n <- length(words)
  unique(unlist(lapply(seq_len(min(5, n)), function(size) vapply(seq_len(n - size + 1), function(k) paste(words[k:(k + size - 1)], collapse = " "),
      ""))))
}

#' Phrases that mean a value of a column
#' @noRd
value_phrases <- function(columns, lexicon, named = character(), most = 300) {
  rows <- lapply(seq_along(columns), function(i) {
    levels <- columns[[i]]$levels
    if (is.null(levels) || length(levels) > most) return(NULL)
    # "yes" and "no" name no column; "present" and "absent" do
    if (all(tolower(levels) %in% setdiff(c(yes_words(), no_words()), c("present", "absent", "positive", "negative")))) return(NULL)
    frame_of(level = levels, column = i)
  })
  rows <- do.call(rbind, rows)
  controls <- control_values(columns)
  if (is.null(rows)) return(controls)
  stems <- stems_of(rows$level)
  phrase <- vapply(stems, paste, "", collapse = " ")
  numeric_level <- grepl("^[-0-9. ]*$", phrase)
  base <- frame_of(phrase = phrase, column = rows$column, level = rows$level, quality = 1)[!numeric_level, , drop = FALSE]
  base <- stack_frames(base, signed_levels(rows), range_levels(rows))
  letters <- letter_values(base, columns)
  # what stands in the name or the label of a column is no part of a level, nor is a word of an answer in own words
  whole <- which(!numeric_level)
  open <- vapply(columns[rows$column[whole]], function(col) says_open_answer(paste(col$name, col$label %||% "")), NA)
  parts <- value_parts(base[seq_along(whole), , drop = FALSE][!open, , drop = FALSE], stems[whole][!open], lexicon)
  parts <- parts[!(parts$phrase %in% named & parts$phrase %in% unlist(stems_of(vapply(columns, function(col) col$label %||% "", "")))), ,
      drop = FALSE]
  # ("none" of a scale of severity is no control group)
  graded <- vapply(columns, function(col) col$kind == "ordered", NA)
  meant <- stack_frames(base, letters)
  meant <- meant[!(graded[meant$column] & meant$phrase %in% c("none", "control")), , drop = FALSE]
  out <- stack_frames(base, letters, value_synonyms(meant, lexicon$value_synonyms), parts, sides_of_compass(rows), countries_of_codes(rows,
      lexicon$countries), controls)
  out[nzchar(out$phrase), , drop = FALSE]
}

#' "controls", of a yes/no column that says who is a case: those who are not
#' @noRd
control_values <- function(columns) {
  own <- which(vapply(columns, function(col) col$kind == "yes_no" && length(col$levels) == 2 &&
    grepl("^(is_?|n_?)?(case|cases|case_control|casecontrol|case_status)$", tolower(col$name)), NA))
  if (length(own) != 1) return(frame_of(phrase = character(), column = integer(), level = character(), quality = numeric()))
  frame_of(phrase = c("control", "case"), column = rep(own, 2), level = columns[[own]]$levels, quality = c(0.95, 0.9))
}

#' "in Germany", of a column whose levels are all codes of countries
#' @noRd
countries_of_codes <- function(rows, countries) {
  codes <- toupper(rows$level)
  at <- match(codes, names(countries))
  three <- vapply(countries, `[[`, "", 1)
  at[is.na(at)] <- match(codes[is.na(at)], three)
  whole <- vapply(split(is.na(at), rows$column), function(missing) !any(missing) && length(missing) > 1, NA)
  own <- which(!is.na(at) & rows$column %in% as.integer(names(whole)[whole]) & rows$level == codes)
  if (!length(own)) return(NULL)
  names <- lapply(countries[at[own]], `[`, -1)
  frame_of(phrase = joined_stems(unlist(names)), column = rep(rows$column[own], lengths(names)), level = rep(rows$level[own], lengths(names)),
             quality = 0.95)
}

#' "in the north", of levels northeast and northwest: both
#' @noRd
sides_of_compass <- function(rows) {
  parts <- stringi::stri_match_first_regex(tolower(rows$level), "^(north|south)[ -]?(east|west)(ern)?$")
  own <- which(!is.na(parts[, 1]))
  plain <- tolower(rows$level) %in% c("north", "south", "east", "west")
  own <- own[!rows$column[own] %in% rows$column[plain]]
  if (!length(own)) return(NULL)
  said <- c(parts[own, 2], parts[own, 3])
  frame_of(phrase = stem_words(c(said, paste0(said, "ern"))), column = rep(rows$column[own], 4), level = rep(rows$level[own], 4), quality = 0.85)
}

#' "<1 year" also as "less than 1 year", "10+ years" as "10 or more years"
#' @noRd
signed_levels <- function(rows) {
  said <- lapply(seq_len(nrow(rows)), function(i) {
    level <- rows$level[i]
    below <- sub("^ *< *(?=[0-9])", "", level, perl = TRUE); above <- sub("^ *> *(?=[0-9])", "", level, perl = TRUE)
    # "<1l", ">2 kg": also without the letters of the unit
    bare <- function(x, whole) unique(c(x, if (x != whole) sub("(?<=[0-9]) ?[[:alpha:]]{1,4}$", "", x, perl = TRUE)))
    below <- bare(below, level); above <- bare(above, level)
    sign <- c("+" = "positive", "-" = "negative")[sub("^[[:alnum:]]+([+-])$", "\\1", level)]
    plus <- regmatches(level, regexec("^ *([0-9.]+) *[+] *(.*)$", level))[[1]]
    words <- c(if (below[1] != level) outer(c("less than", "under", "below", "fewer than"), below, paste), if (above[1] != level) outer(c("more than",
      "over", "above"), above, paste), if (length(plus)) c(paste(plus[2], "or more", plus[3]), paste("at least", plus[2], plus[3]), paste(plus[2], plus[3], "or more")),  # nolint: line_length_linter.
      # blood groups and results of tests
      if (!is.na(sign)) paste(sub("[+-]$", "", level), c(sign, substr(sign, 1, 3))))
    if (length(words)) frame_of(text = trimws(words), column = rows$column[i], level = level)
  })
  said <- do.call(rbind, said)
  if (is.null(said)) return(frame_of(phrase = character(), column = integer(), level = character(), quality = numeric()))
  frame_of(phrase = vapply(stems_of(said$text), paste, "", collapse = " "), column = said$column, level = said$level, quality = rep(1, nrow(said)))
}

#' "16-24 year olds", "between 16 and 24": a level that is a range of numbers
#' @noRd
range_levels <- function(rows) {
  ends <- regmatches(rows$level, regexec("^ *([0-9]+) *(?:-|\u2013|to) *([0-9]+)( *[[:alpha:]/]+)? *$", rows$level))
  own <- which(lengths(ends) > 0)
  if (!length(own)) return(frame_of(phrase = character(), column = integer(), level = character(), quality = numeric()))
  a <- vapply(ends[own], `[[`, "", 2); b <- vapply(ends[own], `[[`, "", 3)
  frame_of(phrase = joined_stems(c(paste(a, b), paste(a, "to", b), paste("between", a, "and", b))), column = rep(rows$column[own], 3),
             level = rep(rows$level[own], 3), quality = 1)
}

value_synonyms <- function(base, synonyms) {
  hit <- match_all(base$phrase, synonyms$phrase)
  if (!length(hit$span)) return(take_rows(base, integer()))
  members <- match_all(as.character(synonyms$group[hit$entry]), as.character(synonyms$group))
  row <- hit$span[members$span]
  frame_of(phrase = synonyms$phrase[members$entry], column = base$column[row], level = base$level[row], quality = 0.9)
}

#' A word that stands in one level only stands for it
#' @noRd
value_parts <- function(base, stems, lexicon) {
  # a word of a whole sentence stands for no level
  several <- lengths(stems) %in% 2:3
  if (!any(several)) return(base[0, ])
  part <- frame_of(phrase = unlist(stems[several]), row = rep(which(several), lengths(stems)[several]))
  # nor does a noun for places and services that many levels end in ("elderly care", "North Street")
  places <- stem_words(c("care", "unit", "service", "services", "centre", "center", "department", "house", "street", "road", "area", "zone",
      "office"))
  common <- c(lexicon$stop, lexicon$filler, lexicon$entities, lexicon$generic, places, "non", stem_words(c("only", "just", "solely", "both",
    "neither", "either", "all", "other", "any", "most")))
  part <- part[nchar(part$phrase) >= 3 & !part$phrase %in% common & !grepl("^[0-9.]+$", part$phrase), , drop = FALSE]
  # a word that stands in several levels of one column only ("died of ...", "died of other causes") stands for all of them
  homes <- tapply(base$column[part$row], part$phrase, function(c) length(unique(c)))
  part <- part[homes[part$phrase] == 1, , drop = FALSE]
  if (!nrow(part)) return(base[0, ])
  frame_of(phrase = part$phrase, column = base$column[part$row], level = base$level[part$row], quality = 0.8)
}

vocabulary_words <- function(columns, values) {
  names <- name_words(vapply(columns, `[[`, "", "name"))
  labels <- vapply(columns, function(col) col$label %||% "", "")
  words <- unlist(stringi::stri_extract_all_regex(stringi::stri_trans_tolower(c(names, labels, values$level)),
                                                  "\\p{L}+", omit_no_match = TRUE))
  unique(words[nchar(words) > 2])
}
