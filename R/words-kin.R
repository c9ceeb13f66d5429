# Words akin to the study's own: what its abbreviations stand for, people named by what they do, codes of a sex.

#' Words that nothing knows as they stand
#' @section Shape: positions of tokens.
#' @noRd
doubtful_words <- function(tokens, vocabulary) {
  words_without(tokens, c(vocabulary$familiar$stems, vocabulary$terms$stem), vocabulary)
}

#' Words that tell something but stand for nothing in this study
#' @noRd
unlinked_words <- function(tokens, vocabulary) {
  words_without(tokens, c(vocabulary$terms$stem, vocabulary$lexicon$filler, vocabulary$entities, vocabulary$familiar$words), vocabulary)
}

#' Longer words whose stem is not among those known, and which no lexicon knows as written
#' @noRd
words_without <- function(tokens, stems, vocabulary) {
  as_written <- c(vocabulary$lexicon$known, vocabulary$words, vocabulary$lexicon$stop)
  which(tokens$type == "word" & nchar(tokens$norm) >= 4 & !tokens$stem %in% stems & !tokens$norm %in% as_written)
}

#' The vocabulary with what the question's doubtful words may stand for
#'
#' Nothing here is certain, so a link found this way is always told to the analyst, and one that fits several columns is asked about.
#' @noRd
add_kin <- function(tokens, vocabulary) {
  doubtful <- unlinked_words(tokens, vocabulary)
  # "distance" beside dist_miles: a noun of measure that no column is called by
  nouns <- which(tokens$stem %in% setdiff(vocabulary$lexicon$unit_nouns$noun, c(vocabulary$terms$stem[vocabulary$terms$source == "name"],
    vocabulary$familiar$column_words)))
  # "city" for a column cty, though rows may be called so too
  doubtful <- union(union(doubtful, nouns), c(vowelless_names(tokens, vocabulary), dividing_nouns(tokens, vocabulary)))
  people <- agent_values(tokens, vocabulary)
  rows <- named_rows(tokens, doubtful, vocabulary)
  doubtful <- setdiff(doubtful, rows$at)
  codes <- code_values(tokens, doubtful, vocabulary)
  skies <- root_values(tokens, vocabulary)
  elapsed <- elapsed_names(tokens, vocabulary)
  timed <- rbind(time_nouns(tokens, vocabulary), elapsed$phrases)
  states <- states_of_being(tokens, vocabulary)
  doubtful <- setdiff(doubtful, states$at)
  joined <- compound_names(tokens, vocabulary)
  timed <- rbind(timed, partly_short_names(tokens, vocabulary))
  names <- abbreviated_names(tokens, setdiff(doubtful, c(people$at, joined$at)), vocabulary)
  rest <- setdiff(doubtful, c(people$at, codes$at, names$at, joined$at))
  denied <- denied_values(tokens, rest, vocabulary)
  # "response rate": an everyday word, but right before "rate" it names what happened
  rated <- setdiff(which(tokens$norm %in% c("rate", "rates")) - 1L, c(0L, which(tokens$stem %in% c(vocabulary$terms$stem, vocabulary$values$phrase))))
  kin <- kin_names(tokens, setdiff(union(rest, rated), denied$at), vocabulary)
  vocabulary$values <- stack_frames(vocabulary$values, skies$rows, rows$rows, people$rows, codes$rows, denied$rows, kin$values)
  vocabulary$phrases <- stack_frames(vocabulary$phrases, states$phrases, timed, joined$phrases, names$phrases, kin$phrases)
  vocabulary$terms <- stack_frames(vocabulary$terms, names$terms, kin$terms)
  vocabulary$elapsed <- tokens$norm[elapsed$at]
  at <- unique(c(elapsed$at, states$at, skies$at, rows$at, people$at, codes$at, names$at, joined$at, denied$at, kin$at))
  vocabulary$words <- unique(c(vocabulary$words, tokens$norm[at]))
  vocabulary
}

#' "membership", of a column member or one with the levels Member and Guest: the column that says who is one
#' @section Shape: list(phrases, at = places of the words).
#' @noRd
states_of_being <- function(tokens, vocabulary) {
  worded <- which(tokens$type == "word" & grepl("[a-z]{4,}ships?$", tokens$norm) & !tokens$stem %in% vocabulary$terms$stem)
  found <- lapply(worded, function(i) {
    root <- stem_words(sub("ships?$", "", tokens$norm[i]))
    own <- which(vapply(vocabulary$columns$name, function(name) identical(name_stems(name), root), NA))
    if (!length(own)) own <- unique(vocabulary$values$column[vocabulary$values$phrase == root])
    if (length(own) == 1) list(at = i, phrases = frame_of(phrase = tokens$stem[i], column = own, quality = 0.95))
  })
  found <- compact(found)
  list(phrases = do.call(rbind, lapply(found, `[[`, "phrases")), at = vapply(found, `[[`, 1L, "at"))
}

#' "urban population" of UrbanPop, "acid concentration" of acid_conc: two words, of which the name holds one whole and the start of the other
#' @section Shape: phrases, as of `vocabulary$phrases`.
#' @noRd
partly_short_names <- function(tokens, vocabulary) {
  none <- vocabulary$phrases[0, ]
  n <- length(tokens$norm)
  if (n < 2) return(none)
  two <- vocabulary$pieces$two
  two <- two[two$first %in% tokens$norm | two$second %in% tokens$norm, , drop = FALSE]
  shortens <- function(short, long) nchar(short) >= 3 && nchar(long) > nchar(short) + 1 && startsWith(long, short)
  rows <- lapply(seq_len(nrow(two)), function(k) {
    w <- c(two$first[k], two$second[k])
    at <- which(tokens$type[-n] == "word" & tokens$type[-1] == "word" &
      ((tokens$norm[-n] == w[1] & vapply(tokens$norm[-1], shortens, NA, short = w[2])) |
         (tokens$norm[-1] == w[2] & vapply(tokens$norm[-n], shortens, NA, short = w[1]))))
    if (length(at)) frame_of(phrase = paste(tokens$stem[at[1]], tokens$stem[at[1] + 1]), column = two$column[k], quality = 0.9)
  })
  do.call(rbind, rows) %||% none
}

#' Words for rows that are, but for their vowels, the name of a column
#' @noRd
vowelless_names <- function(tokens, vocabulary) {
  at <- which(tokens$stem %in% vocabulary$entities)
  bare <- paste0(substr(tokens$norm[at], 1, 1), gsub("[aeiou]", "", substring(tokens$norm[at], 2)))
  at[nchar(bare) >= 3 & !grepl("[aeiou]", bare) & bare %in% tolower(vocabulary$columns$name)]
}

#' "per experiment", "by species", beside Expt and sp: everyday nouns that say how the rows are divided, and that no column or level is called by
#' @noRd
dividing_nouns <- function(tokens, vocabulary) {
  before <- c("", tokens$norm)[seq_along(tokens$norm)]
  divides <- before %in% c("by", "per", "each", "between", "across", "among", "and")
  known <- c(vocabulary$terms$stem, vocabulary$values$phrase)
  lexicon <- vocabulary$lexicon
  everyday <- tokens$type == "word" & nchar(tokens$norm) >= 5 & !tokens$stem %in% known & (tokens$stem %in% c(lexicon$filler, lexicon$entities) |
    tokens$norm %in% lexicon$known & !tokens$norm %in% c(lexicon$phrases$words, lexicon$stop))
  if (!any(everyday)) return(integer())
  # "concentration", of a column conc
  short <- tolower(vocabulary$columns$name)
  short <- short[grepl("^[a-z]{4,7}$", short) & !is_common_word(short)]
  shortened <- everyday & length(short) > 0
  shortened[shortened] <- vapply(tokens$norm[shortened], function(word) any(nchar(word) >= nchar(short) + 3 & startsWith(word, short)), NA,
      USE.NAMES = FALSE)
  which(everyday & (divides | shortened))
}

#' "at day 21", "by day" for the one column of elapsed time that is only called so ("Time"), where nothing else speaks of days
#' @section Shape: list(phrases, at = places of the words).
#' @noRd
elapsed_names <- function(tokens, vocabulary) {
  none <- list(phrases = NULL, at = integer())
  unit <- "^(day|week|month|hour|minute|year)s?$"
  words <- which(grepl(unit, tokens$norm))
  columns <- vocabulary$columns
  if (!length(words) || any(columns$kind %in% c("date", "datetime"))) return(none)
  own <- which(tolower(columns$name) %in% c("time", "timepoint", "time_point", "elapsed", "elapsed_time") &
    columns$kind %in% c("number", "count", "ordered") & columns$distinct <= 40)
  if (length(own) != 1) return(none)
  before <- c("", tokens$norm)[words]; after <- c(tokens$type, "")[words + 1]
  words <- words[(after == "number" | before %in% c("by", "per", "and", "each", "every", "over", "across", "against")) &
    !tokens$stem[words] %in% vocabulary$terms$stem]
  if (!length(words)) return(none)
  list(phrases = data.frame(phrase = unique(tokens$stem[words]), column = own, quality = 0.8, stringsAsFactors = FALSE), at = words)
}

#' "California", of a column that names every row: written with a capital, or a word that stands for nothing else
#' @noRd
named_rows <- function(tokens, doubtful, vocabulary) {
  rows <- no_values(); at <- integer()
  own <- vocabulary$row_names
  if (!nrow(own)) return(list(rows = rows, at = at))
  spans <- token_spans(tokens, 5)
  hit <- which(spans$phrase %in% own$phrase)
  for (s in hit) {
    span <- spans$from[s]:spans$to[s]
    capital <- grepl("^\\p{Lu}", tokens$text[span[1]], perl = TRUE) && (span[1] > 1 || length(span) > 1)
    found <- own[own$phrase == spans$phrase[s], , drop = FALSE]
    # "the sleep of the cow": an everyday word for what rows may be, written just as one of them
    same <- length(span) == 1 && tokens$norm[span] %in% tolower(found$level) && tokens$norm[max(1, span - 1)] %in% c("the", "a", "an", "of", "for")
    if (!capital && !all(span %in% doubtful) && !same) next
    rows <- rbind(rows, data.frame(phrase = found$phrase, column = found$column, level = found$level, quality = 1, stringsAsFactors = FALSE))
    at <- c(at, span)
  }
  list(rows = rows, at = at)
}

#' "dropped out" for a column dropout, "followup" for a column follow_up
#' @noRd
compound_names <- function(tokens, vocabulary) {
  pieces <- vocabulary$pieces
  phrases <- vocabulary$phrases[0, ]; at <- integer()
  word <- tokens$type == "word"
  for (i in which(word[-length(word)] & word[-1])) {
    whole <- stem_words(c(paste0(tokens$stem[i], tokens$norm[i + 1]), paste0(tokens$norm[i], tokens$norm[i + 1])))
    hit <- unique(pieces$long$column[pieces$long$stem %in% whole])
    if (!length(hit)) next
    phrases <- rbind(phrases, data.frame(phrase = paste(tokens$stem[i], tokens$stem[i + 1]), column = hit, quality = 0.93, stringsAsFactors = FALSE))
    at <- c(at, i, i + 1L)
  }
  for (i in which(word & nchar(tokens$norm) >= 6)) {
    hit <- unique(pieces$pairs$column[pieces$pairs$word == tokens$norm[i]])
    if (!length(hit)) next
    phrases <- rbind(phrases, data.frame(phrase = tokens$stem[i], column = hit, quality = 0.93, stringsAsFactors = FALSE))
    at <- c(at, i)
  }
  list(phrases = phrases, at = at)
}

#' "unresolved" of a yes/no column resolved, "dissatisfied" of the two levels of a column: the level that denies it
#' @noRd
denied_values <- function(tokens, doubtful, vocabulary) {
  rows <- no_values(); at <- integer()
  # "existing customers": an everyday word, but right before a word of the yes/no column that it denies
  before <- which(tokens$norm %in% c("existing", "returning", "established", "old"))
  before <- before[before < length(tokens$stem) & tokens$stem[pmin(before + 1, length(tokens$stem))] %in% vocabulary$terms$stem]
  # ("noisier than 50": a bound on a measure, not the other one of quiet and noisy)
  bound <- which(grepl("er$", tokens$norm) & c(tokens$norm[-1], "") == "than" & c(tokens$type[-(1:2)], "", "")[seq_along(tokens$norm)] == "number")
  for (i in setdiff(union(doubtful, before), bound)) {
    stems <- stem_words(denied_words(tokens$norm[i]))
    if (!length(stems)) next
    two <- which(vocabulary$columns$kind == "yes_no" & nzchar(vocabulary$columns$first_level))
    column <- intersect(two, vocabulary$terms$column[vocabulary$terms$stem %in% stems & vocabulary$terms$source == "name"])
    # or the other one of two levels
    own <- vocabulary$values[vocabulary$values$phrase %in% stems & vocabulary$columns$distinct[vocabulary$values$column] == 2, , drop = FALSE]
    other <- lapply(seq_len(nrow(own)), function(k) setdiff(unique(vocabulary$values$level[vocabulary$values$column == own$column[k]]),
        own$level[k])[1])
    found <- rbind(data.frame(column = column, level = vocabulary$columns$first_level[column], stringsAsFactors = FALSE),
                   data.frame(column = own$column, level = as.character(unlist(other)), stringsAsFactors = FALSE)[!is.na(unlist(other)), ])
    if (!nrow(found)) next
    rows <- rbind(rows, data.frame(phrase = tokens$stem[i], column = found$column, level = found$level, quality = 0.95, stringsAsFactors = FALSE))
    at <- c(at, i)
  }
  list(rows = rows, at = at)
}

#' "resolution time" for hours_to_resolve: a noun of the verb before the word time
#' @noRd
time_nouns <- function(tokens, vocabulary) {
  at <- setdiff(which(tokens$norm %in% c("time", "times", "duration")), 1L)
  if (!length(at)) return(NULL)
  verbs <- verbs_of_times(vocabulary$columns$name)
  rows <- lapply(at, function(i) {
    kin <- kin_words(tokens$norm[i - 1])
    own <- which(nzchar(verbs) & verbs %in% kin)
    if (length(own)) frame_of(phrase = rep(paste(tokens$stem[i - 1], tokens$stem[i]), length(own)), column = own, quality = rep(0.98, length(own)))
  })
  do.call(stack_frames, rows)
}

#' "rainy", "sunny" of the levels rain and sun
#' @noRd
root_values <- function(tokens, vocabulary) {
  at <- which(tokens$type == "word" & grepl("[a-z]{3,}y$", tokens$norm) & !tokens$stem %in% c(vocabulary$values$phrase, vocabulary$terms$stem))
  rows <- do.call(rbind, lapply(at, function(i) {
    root <- sub("y$", "", tokens$norm[i])
    own <- vocabulary$values[vocabulary$values$phrase %in% stem_words(c(root, sub("(.)\\1$", "\\1", root))), , drop = FALSE]
    if (nrow(own)) data.frame(phrase = tokens$stem[i], column = own$column, level = own$level, quality = 0.95, stringsAsFactors = FALSE)
  }))
  list(rows = rows %||% no_values(), at = at[tokens$stem[at] %in% rows$phrase])
}

#' Is a word among the kin of a level that is among its kin, or of its family by their first letters?
#' @noRd
kin_both_ways <- function(phrase, word) {
  startsWith(word, substr(phrase, 1, 4)) || stem_words(word) %in% stem_words(kin_words(phrase))
}

#' Columns and values named by words of the same meaning or family as a doubtful word ("resolution rate", "babies")
#' @noRd
kin_names <- function(tokens, doubtful, vocabulary) {
  out <- list(phrases = vocabulary$phrases[0, ], terms = vocabulary$terms[0, ], values = no_values(), at = integer())
  own <- vocabulary$terms[vocabulary$terms$source == "name" & vocabulary$terms$weight > 0.3, , drop = FALSE]
  # (a visit that is missed is no girl, and what is kept is not supported)
  doubtful <- doubtful[!tokens$norm[doubtful] %in% c("missed", "misses", "keep", "keeps", "kept", "keeping", "hold", "holds", "held")]
  kin <- if (length(doubtful)) kin_of_each(tokens$norm[doubtful])
  for (k in seq_along(doubtful)) {
    i <- doubtful[k]
    stems <- setdiff(stem_words(kin[[k]]), vocabulary$lexicon$filler)
    hit <- own[own$stem %in% stems, , drop = FALSE]
    hit <- hit[!duplicated(hit$column), , drop = FALSE]
    level <- vocabulary$values[vocabulary$values$phrase %in% stems, , drop = FALSE]
    # a level must be kin both ways: "seats" may mean "rear", but no rear is a seat
    level <- level[vapply(level$phrase, kin_both_ways, NA, tokens$norm[i]), , drop = FALSE]
    if (!nrow(hit) && !nrow(level)) next
    alone <- vocabulary$size[hit$column] <= hit$weight + 1e-9
    out$phrases <- rbind(out$phrases, data.frame(phrase = rep(tokens$stem[i], sum(alone)), column = hit$column[alone], quality = rep(0.8, sum(alone)),
                                                 stringsAsFactors = FALSE))
    if (any(!alone)) out$terms <- rbind(out$terms, transform(hit[!alone, , drop = FALSE], stem = tokens$stem[i]))
    if (nrow(level)) out$values <- rbind(out$values, data.frame(phrase = tokens$stem[i], column = level$column, level = level$level, quality = 0.8,
                                                                stringsAsFactors = FALSE))
    out$at <- c(out$at, i)
  }
  out
}

no_values <- function() frame_of(phrase = character(), column = integer(), level = character(), quality = numeric())

#' "smokers", "learners": rows for which a column of that doing says yes, or anything but never
#' @noRd
agent_values <- function(tokens, vocabulary) {
  worded <- which(tokens$type == "word" & grepl("[a-z]{3,}(er|or)s?$", tokens$norm) & !tokens$norm %in% vocabulary$lexicon$stop)
  if (!length(worded)) return(list(rows = no_values(), at = integer()))
  # a column that is itself called so ("smoker") is the column
  own <- vapply(vocabulary$columns$name, function(name) paste(name_stems(name), collapse = " "), "")
  # ("Yes", "No" and "Can't remember" say it too)
  said <- vocabulary$values$column[tolower(vocabulary$values$level) == "yes"]
  yes <- vocabulary$columns$kind == "yes_no" | seq_along(vocabulary$columns$kind) %in% intersect(said,
    vocabulary$values$column[tolower(vocabulary$values$level) == "no"])
  # ("lower" compares; nobody lows)
  compares <- c(vocabulary$lexicon$adjectives$word, comparative_forms(vocabulary$lexicon))
  at <- worded[!tokens$stem[worded] %in% c(vocabulary$values$phrase, own) & !tokens$norm[worded] %in% compares]
  rows <- do.call(rbind, lapply(at, function(i) {
    root <- sub("(er|or)s?$", "", tokens$norm[i])
    stems <- stem_words(c(root, paste0(root, "e"), sub("(.)\\1$", "\\1", root)))
    own <- vocabulary$terms[vocabulary$terms$stem %in% stems & vocabulary$terms$source == "name", , drop = FALSE]
    # ("callers", where each row is a call and resolved_first_call says something else of it)
    rows <- any(stems %in% vocabulary$entities)
    if (rows) own <- own[vocabulary$size[own$column] <= own$weight + 1e-9, , drop = FALSE]
    # an everyday word for people ("voters", "workers") stands for rows only where a yes/no column says who they are
    plain <- tokens$norm[i] %in% vocabulary$lexicon$known || tokens$stem[i] %in% vocabulary$lexicon$filler
    if (plain) own <- own[yes[own$column] & vocabulary$size[own$column] <= own$weight + 1e-9, , drop = FALSE]
    level <- if (!plain) vocabulary$values[vocabulary$values$phrase %in% stems, , drop = FALSE]
    rbind(do.call(rbind, lapply(unique(own$column), function(column) doing_levels(vocabulary, column, tokens$stem[i]))),
          if (!is.null(level) && nrow(level)) data.frame(phrase = tokens$stem[i], column = level$column, level = level$level, quality = 0.95,
                                                         stringsAsFactors = FALSE))
  }))
  list(rows = rows %||% no_values(), at = at[tokens$stem[at] %in% rows$phrase])
}

#' Single words that set one side above or below another ("lower", "greater")
#' @noRd
comparative_forms <- function(lexicon) {
  own <- lexicon$phrases$kind == "scope" & lexicon$phrases$id %in% c("comparative_less", "comparative_more")
  unique(lexicon$phrases$words[own])
}

doing_levels <- function(vocabulary, column, phrase) {
  record <- vocabulary$columns[column, ]
  if (record$kind == "yes_no") return(data.frame(phrase = phrase, column = column, level = record$last_level, quality = 1, stringsAsFactors = FALSE))
  if (!record$kind %in% c("category", "ordered")) return(NULL)
  levels <- unique(vocabulary$values$level[vocabulary$values$column == column])
  if (any(tolower(levels) == "yes")) return(data.frame(phrase = phrase, column = column, level = levels[tolower(levels) == "yes"], quality = 1,
                                                       stringsAsFactors = FALSE))
  not <- grepl("^(never|none|no|non|not at all)\\b", levels, ignore.case = TRUE)
  if (!any(not) || all(not)) return(NULL)
  data.frame(phrase = phrase, column = column, level = levels[!not], quality = 0.97, stringsAsFactors = FALSE)
}

#' Does a short name stand for a word? Its beginning, or its first letter and consonants in order
#' @noRd
abbreviates <- function(short, word) {
  # "queenless" is what has no queen
  if (grepl("(less|free|proof)$", word) && startsWith(word, short)) return(FALSE)
  # "appt" of appointments as of one
  if (grepl("[a-z]{4}s$", word) && !grepl("s$", short)) word <- sub("s$", "", word)
  if (nchar(short) < 3 || nchar(short) >= nchar(word) || substr(short, 1, 1) != substr(word, 1, 1)) return(FALSE)
  if (startsWith(word, short)) return(TRUE)
  # the first consonants ("trt") or the ends of the word ("qty"): "arr" is no airport
  bare <- paste0(substr(word, 1, 1), gsub("[aeiou]", "", substring(word, 2)))
  !grepl("[aeiou]", substring(short, 2)) && (startsWith(bare, short) ||
    in_order(short, word) && substr(short, nchar(short), nchar(short)) == substr(word, nchar(word), nchar(word)))
}

in_order <- function(short, word) grepl(paste(strsplit(short, "")[[1]], collapse = ".*"), word)

#' Does a short name stand for two or three words ("bwt": birth weight)? Each gives its first letter, the rest in order
#' @noRd
abbreviates_words <- function(short, words) {
  letters <- strsplit(short, "")[[1]]
  fits <- function(from, w) {
    if (w > length(words)) return(from > length(letters))
    if (from > length(letters) || letters[from] != substr(words[w], 1, 1)) return(FALSE)
    for (to in from:length(letters)) {
      piece <- paste(letters[from:to], collapse = "")
      if (in_order(piece, words[w]) && fits(to + 1, w + 1)) return(TRUE)
    }
    FALSE
  }
  nchar(short) >= length(words) && fits(1, 1)
}

#' Endings that make another word of the same family
#' @noRd
family_ending <- function(rest) grepl("^(s|ment|ments|ing|ed|al|ic|ity|ness|ance|ence|ation|ations|ion|ions|ive|er|ers)$", rest)

#' Columns whose names abbreviate doubtful words
#' @noRd
abbreviated_names <- function(tokens, doubtful, vocabulary) {
  none <- list(phrases = vocabulary$phrases[0, ], terms = vocabulary$terms[0, ], at = integer())
  if (!length(doubtful)) return(none)
  split <- bare_names(vocabulary$pieces$split, least = 1)
  pieces <- data.frame(word = unlist(split), column = rep(seq_along(split), lengths(split)), alone = rep(lengths(split) == 1, lengths(split)),
    stringsAsFactors = FALSE)
  pieces <- pieces[nchar(pieces$word) %in% 2:8, , drop = FALSE]
  english <- vocabulary$lexicon$everyday
  out <- none
  for (i in doubtful) {
    word <- tokens$norm[i]
    first <- pieces[substr(pieces$word, 1, 1) == substr(word, 1, 1), , drop = FALSE]
    fit <- vapply(first$word, function(s) abbreviates(s, word) && (!s %in% english || family_ending(substring(word, nchar(s) + 1))), NA)
    for (r in which(fit)) out <- add_abbreviation(out, first[r, ], tokens$stem[i], vocabulary, i)
    for (span in word_spans(tokens, i)) {
      words <- tokens$norm[span]
      # a name that is itself an English word ("age", "arm") is no abbreviation of several
      for (r in which(pieces$alone & substr(pieces$word, 1, 1) == substr(words[1], 1,
          1) & !is_common_word(pieces$word))) if (abbreviates_words(pieces$word[r], words)) {
        out$phrases <- rbind(out$phrases, data.frame(phrase = paste(tokens$stem[min(span):max(span)], collapse = " "), column = pieces$column[r],
          quality = 0.85, stringsAsFactors = FALSE))
        out$at <- c(out$at, span)
      }
    }
  }
  out
}

add_abbreviation <- function(out, piece, stem, vocabulary, i) {
  out$at <- c(out$at, i)
  if (piece$alone) {
    out$phrases <- rbind(out$phrases, data.frame(phrase = stem, column = piece$column, quality = 0.85, stringsAsFactors = FALSE))
  } else {
    own <- vocabulary$terms[vocabulary$terms$column == piece$column & vocabulary$terms$stem == stem_words(piece$word), , drop = FALSE][1, ]
    if (!is.na(own$stem)) out$terms <- rbind(out$terms, data.frame(stem = stem, column = piece$column, weight = own$weight, source = "name",
      stringsAsFactors = FALSE))
  }
  out
}

#' Runs of two or three words that hold token i
#' @noRd
word_spans <- function(tokens, i) {
  n <- length(tokens$norm)
  spans <- lapply(list(c(i, i + 1), c(i - 1, i), c(i, i + 1, i + 2), c(i - 1, i, i + 1), c(i - 2, i - 1, i)), as.integer)
  of <- list(c(i - 2, i), c(i, i + 2))
  spans <- c(spans, Filter(function(s) min(s) >= 1 && max(s) <= n && tokens$norm[sum(s) / 2] == "of", of))
  # ("predict diabetes" is no ped: what is asked is no part of a name)
  asks <- "^(predict|affect|influence|explain|drive|cause|determine|relate|compare|differ|correlate|show|plot|describe|list|test|depend|improve|reduce)(s|d|ed)?$"  # nolint: line_length_linter.
  Filter(function(s) min(s) >= 1 && max(s) <= n && all(tokens$type[s] == "word") && !any(grepl(asks, tokens$norm[s])), spans)
}

#' Levels that abbreviate words of the question: "Regul" for regularly, "ctrl" for control, "trt1" for treatment 1
#' @noRd
code_values <- function(tokens, doubtful, vocabulary) {
  values <- unique(vocabulary$values[c("column", "level")])
  plain <- tolower(gsub("[^A-Za-z0-9]", "", values$level))
  at <- integer(); rows <- no_values()
  words <- which(tokens$type == "word" & nchar(tokens$norm) >= 5 & !tokens$norm %in% vocabulary$lexicon$stop & !tokens$stem %in%
    vocabulary$values$phrase &
                   !tokens$stem %in% vocabulary$terms$stem)
  for (i in words) {
    word <- tokens$norm[i]
    digit <- if (i < length(tokens$norm) && tokens$type[i + 1] == "number") tokens$text[i + 1] else ""
    numbered <- nzchar(digit) & sub("^([a-z]+).*$", "\\1", plain) != plain & sub("^[a-z]+", "", plain) == digit
    own <- ifelse(numbered, sub("[0-9]+$", "", plain), plain)
    near <- which(nchar(own) >= 3 & substr(own, 1, 1) == substr(word, 1, 1) & !grepl("[0-9]", own))
    near <- near[vapply(near, function(k) (nchar(own[k]) >= 4 || !grepl("[aeiou]", own[k])) && abbreviates(own[k], word), NA)]
    if (any(numbered[near])) near <- near[numbered[near]] else if (!i %in% doubtful) near <- near[!grepl("[aeiou]", substring(own[near], 2))]
    if (!length(near)) next
    phrase <- ifelse(numbered[near], paste(tokens$stem[i], digit), tokens$stem[i])
    rows <- rbind(rows, data.frame(phrase = phrase, column = values$column[near], level = values$level[near], quality = 0.8,
      stringsAsFactors = FALSE))
    at <- c(at, i)
  }
  initials <- initial_values(tokens, values, vocabulary)
  acronyms <- acronym_values(tokens, values)
  list(rows = rbind(rows, initials$rows, acronyms$rows), at = c(at, initials$at, acronyms$at))
}

#' "HR" in capitals for the level "Human Resources", "ICU" for "intensive care unit"
#' @noRd
acronym_values <- function(tokens, values) {
  at <- which(tokens$type == "word" & grepl("^[A-Z]{2,5}$", tokens$text))
  if (!length(at)) return(list(rows = no_values(), at = integer()))
  words <- stringi::stri_extract_all_words(values$level)
  initials <- vapply(words, function(w) {
    w <- setdiff(tolower(w), c("of", "the", "and", "for", "in"))
    if (length(w) > 1) paste(substr(w, 1, 1), collapse = "") else ""
  }, "")
  own <- lapply(at, function(i) which(initials == tolower(tokens$text[i])))
  list(rows = data.frame(phrase = rep(tokens$stem[at], lengths(own)), column = values$column[unlist(own)], level = values$level[unlist(own)],
                         quality = rep(0.9, sum(lengths(own))), stringsAsFactors = FALSE), at = at[lengths(own) > 0])
}

#' "slow learners" for the level SL of a column Lrn: the initials, and a word that names the column
#' @noRd
initial_values <- function(tokens, values, vocabulary) {
  codes <- values[grepl("^[A-Z]{2,3}$", values$level), , drop = FALSE]
  rows <- no_values(); at <- integer()
  for (k in seq_len(nrow(codes))) {
    letters <- strsplit(tolower(codes$level[k]), "")[[1]]
    column <- tolower(vocabulary$columns$name[codes$column[k]])
    for (i in seq_len(max(0, length(tokens$norm) - length(letters) + 1))) {
      span <- i - 1 + seq_along(letters)
      words <- tokens$norm[span]
      own <- all(tokens$type[span] == "word") && all(substr(words, 1, 1) == letters) && any(vapply(words, function(w) w == column ||
        abbreviates(column, w), NA))
      if (!own) next
      rows <- rbind(rows, data.frame(phrase = paste(tokens$stem[span], collapse = " "), column = codes$column[k], level = codes$level[k],
        quality = 0.9, stringsAsFactors = FALSE))
      at <- c(at, span)
    }
  }
  list(rows = rows, at = at)
}

#' Is that the name, or the label, of a column of sexes?
#' @noRd
names_a_sex <- function(texts) grepl("(^|[^a-z])(sex|gender)([^a-z]|$)", tolower(texts))

#' Levels written as letters or ordinals, under the words for them
#' @noRd
letter_values <- function(base, columns) {
  sexes <- names_a_sex(paste(name_words(vapply(columns, `[[`, "", "name")), vapply(columns, function(col) col$label %||% "", "")))
  code <- tolower(base$level)
  sex <- c(f = "female", m = "male")[code]
  sex[!sexes[base$column]] <- NA
  ordinal <- c(`1st` = "first", `2nd` = "second", `3rd` = "third", `4th` = "fourth", `5th` = "fifth", `6th` = "sixth")[code]
  word <- ifelse(is.na(sex), ordinal, sex)
  # L, M and H of one column are low, medium and high
  step <- c(l = "low", m = "medium", h = "high")[code]
  graded <- vapply(base$column, function(i) setequal(code[base$column == i], c("l", "m", "h")) || setequal(code[base$column == i], c("l", "h")), NA)
  word <- unname(ifelse(graded & !is.na(step), step, word))
  keep <- !is.na(word)
  data.frame(phrase = stem_words(word[keep]), column = base$column[keep], level = base$level[keep], quality = rep(0.95, sum(keep)),
    stringsAsFactors = FALSE)
}
