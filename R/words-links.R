# Spans of a question and what each may stand for.

#' All candidate links of a question
#'
#' @section Shape: data frame, one row a candidate: from, to (token positions), type ("column", "value", "lexicon",
#'   "adjective"), id
#'   (lexicon id), kind (of the lexicon phrase), column (index), level, score 0..1, words (tokens covered that tell
#'   something).
#' @noRd
find_links <- function(tokens, vocabulary) {
  spans <- token_spans(tokens)
  if (!nrow(spans)) return(empty_links())
  links <- stack_frames(lexicon_links(spans, vocabulary$lexicon, tokens, vocabulary), phrase_links(spans, vocabulary, tokens),
                 value_links(spans, tokens, vocabulary),
                 term_links(tokens, vocabulary), adjective_links(tokens, vocabulary))
  links <- take_rows(links, !duplicated(links[c("from", "to", "type", "id", "kind", "column", "level")]))
  links <- take_rows(links, !rows_in_plural(links, tokens, vocabulary))
  links <- take_rows(links, !only_akin(links, tokens, vocabulary))
  links <- take_rows(links, !deed_as_key(links, tokens, vocabulary))
  # "by year group": the period is the first word of a column's name
  named <- links$from[links$type == "column" & links$score >= 0.97 & links$to > links$from]
  period <- links$kind %in% "every" | (links$kind %in% "task" & links$id %in% "trend")
  take_rows(links, !(links$type == "lexicon" & period & links$to > links$from & links$to %in% named))
}

#' "units sold", beside sale_id: what was done names no key, whose name only has a word of the same meaning
#' @noRd
deed_as_key <- function(links, tokens, vocabulary) {
  out <- links$type == "column" & links$from == links$to & vocabulary$columns$kind[links$column] %in% "id"
  done <- "(ed|ing)$|^(sold|bought|made|sent|paid|given|taken|left|came|went|done|seen|spent|kept|held|lost|won)$"
  out <- out & grepl(done, tokens$norm[links$from])
  at <- which(out)
  said <- vapply(at, function(k) tokens$stem[links$from[k]] %in% vocabulary$terms$stem[vocabulary$terms$column == links$column[k] &
    vocabulary$terms$source == "name"], NA)
  out[at[said]] <- FALSE
  out
}

#' "rate", beside nightly_rate and rating: a column that has the very word in its name comes before one whose word has the same stem
#'
#' Of a word of the question alone, where it is in the name of the one by its stem, and no plural of it. What happened is named by its verb
#' ("who did not finish", beside finished and finish_min), so this is of measures.
#' @noRd
only_akin <- function(links, tokens, vocabulary) {
  out <- logical(length(links$from))
  one <- which(links$type == "column" & links$from == links$to & !is.na(links$column))
  for (at in unique(links$from[one])) {
    own <- one[links$from[one] == at]
    # (of many columns that share a word, none is the one meant)
    if (length(own) < 2 || length(own) > 60) next
    word <- tokens$norm[at]
    same <- unique(c(word, sub("s$", "", word), sub("es$", "", word), paste0(word, "s"), paste0(word, "es"), sub("ies$", "y", word)))
    held <- vapply(strsplit(tolower(gsub("([a-z])([A-Z])", "\\1 \\2", vocabulary$columns$name[links$column[own]])), "[^[:alnum:]]+"),
                   function(parts) any(same %in% parts), NA)
    named <- links$column[own] %in% vocabulary$terms$column[vocabulary$terms$stem == tokens$stem[at] & vocabulary$terms$source == "name"]
    akin <- named & !held & is_numeric_kind(vocabulary$columns$kind[links$column[own]])
    if (any(held)) out[own[akin]] <- TRUE
  }
  out
}

empty_links <- function() {
  frame_of(from = integer(), to = integer(), type = character(), id = character(), kind = character(), column = integer(), level = character(),
           score = numeric(), covers = integer())
}

new_links <- function(from, to, type, id = NA_character_, kind = NA_character_, column = NA_integer_,
                      level = NA_character_, score, covers = 0L) {
  if (!length(from)) return(empty_links())
  all <- function(x) rep_len(x, length(from))
  frame_of(from = from, to = to, type = all(type), id = all(id), kind = all(kind), column = all(column), level = all(level), score = all(score),
           covers = all(covers))
}

#' All runs of up to six tokens, as stems joined by blanks
#' @noRd
token_spans <- function(tokens, longest = 8) {
  n <- length(tokens$stem)
  out <- lapply(seq_len(min(longest, n)), function(size) {
    from <- seq_len(n - size + 1)
    phrase <- tokens$stem[from]
    for (k in seq_len(size - 1)) phrase <- paste(phrase, tokens$stem[from + k])
    # names and levels are held without these signs: "R&D", "Asian/Pacific"
    frame_of(from = from, to = from + size - 1L, phrase = gsub(" [&/] ", " ", phrase))
  })
  do.call(stack_frames, c(list(frame_of(from = integer(), to = integer(), phrase = character())), out))
}

match_all <- function(x, table) {
  hit <- which(table %in% x)
  at <- lapply(split(hit, factor(table[hit], unique(table[hit]))), identity)
  rows <- which(x %in% table)
  list(span = rep(rows, lengths(at[x[rows]])), entry = unlist(at[x[rows]], use.names = FALSE))
}

lexicon_links <- function(spans, lexicon, tokens, vocabulary) {
  m <- match_all(spans$phrase, lexicon$phrases$phrase)
  p <- lexicon$phrases[m$entry, , drop = FALSE]
  # "by week", where Week is a column, names the column; "per week" does so only where no dates are there
  period <- sub("^(per|by|each|every) ", "", p$words)
  own <- p$kind == "every" | (p$kind == "task" & p$id == "trend")
  dated <- vocabulary$columns$kind %in% c("date", "datetime")
  own <- own & (period %in% tolower(vocabulary$columns$name[!dated]) & !(any(dated) & startsWith(p$words, "per ")) |
                  period %in% c(tolower(vocabulary$columns$name), vocabulary$elapsed) & !any(dated))
  # words whose stem is shared with others of another meaning ("months" and "monthly") must stand as they are
  as_written <- !p$words %in% lexicon$as_written
  as_written[!as_written] <- vapply(which(!as_written), function(i) {
    paste(tokens$norm[spans$from[m$span[i]]:spans$to[m$span[i]]], collapse = " ") == p$words[i]
  }, NA)
  links <- new_links(spans$from[m$span], spans$to[m$span], "lexicon", p$id, p$kind, score = p$weight)
  links[as_written & !own, , drop = FALSE]
}

phrase_links <- function(spans, vocabulary, tokens) {
  m <- match_all(spans$phrase, vocabulary$phrases$phrase)
  # "handed" is what is left of "handedness" when it is stemmed, though its own stem is shorter
  root <- which(tokens$type == "word" & nchar(tokens$norm) >= 6 & tokens$norm != tokens$stem)
  root <- root[tokens$norm[root] %in% vocabulary$phrases$phrase]
  if (length(root)) {
    at <- match(root, spans$from[spans$from == spans$to])
    own <- which(spans$from == spans$to)[at[!is.na(at)]]
    m <- list(span = c(m$span, own), entry = c(m$entry, match(tokens$norm[spans$from[own]], vocabulary$phrases$phrase)))
  }
  p <- vocabulary$phrases[m$entry, , drop = FALSE]
  # a whole name or label covers every word of it, small ones too
  new_links(spans$from[m$span], spans$to[m$span], "column", column = p$column, score = p$quality,
            covers = spans$to[m$span] - spans$from[m$span] + 1L)
}

value_links <- function(spans, tokens, vocabulary) {
  m <- match_all(spans$phrase, vocabulary$values$phrase)
  v <- vocabulary$values[m$entry, , drop = FALSE]
  # a whole level covers every word of it, small ones too ("very good")
  links <- new_links(spans$from[m$span], spans$to[m$span], "value", column = v$column, level = v$level,
                     score = v$quality, covers = ifelse(v$quality >= 1, spans$to[m$span] - spans$from[m$span] + 1L, 0L))
  # "attendance" shares its stem with the level "attended": a measured column that is named so comes first
  measured <- which(vocabulary$columns$kind %in% c("number", "count"))
  named <- vocabulary$terms$stem[vocabulary$terms$source == "name" & vocabulary$terms$column %in% measured]
  other <- links$from == links$to & links$score >= 1 & tokens$stem[links$from] %in% named & tokens$norm[links$from] != tolower(links$level) &
    !startsWith(tokens$norm[links$from], tolower(links$level)) & !grepl(" ", links$level, fixed = TRUE)
  links$score[other] <- 0.9
  # one-letter levels (A, B; L, M, H) are words only when written just so
  # ("A-", of which only the letter is left, too)
  short <- nchar(v$phrase) == 1 & startsWith(tolower(links$level), v$phrase) & nchar(links$level) <= 2
  exact <- tokens$text[links$from] == substr(links$level, 1, 1)
  # "a random intercept": the article is no level, unless it stands beside its column's name
  named <- tolower(vocabulary$columns$name[links$column])
  article <- short & tokens$norm[links$from] %in% c("a", "i") & tokens$text[links$from] %in% c("a", "I") &
    !(c("", tokens$norm)[links$from] == named | (c("", tokens$norm)[links$from] %in% c("is", "=", "==", "was", "are") & c("", "",
      tokens$norm)[links$from] == named) | c(tokens$norm, "")[links$from + 1] == named)
  # "what goes with it" is not about a department IT, nor "us" about the US
  # (NO and YES are answers, however they are written)
  little <- c("it", "us", "or", "in", "an", "am", "be", "me", "he", "so", "do", "to", "at", "by", "if", "as", "we", "of", "and", "for", "are", "was",
              "has", "had", "who", "any", "can")
  capitals <- links$level == toupper(links$level) & grepl("[A-Z]", links$level) & nchar(links$level) > 1
  small <- links$from == links$to & tokens$norm[links$from] %in% little & capitals & tokens$text[links$from] != links$level &
    !c("", tokens$norm)[links$from] %in% c("the", "is", "was", "=", "==", named) & !c(tokens$norm, "")[links$from + 1] %in% named
  links <- links[(!short | exact) & !article & !small, , drop = FALSE]
  links$score[nchar(links$level) == 1 & tokens$text[links$from] == links$level] <- 0.5
  # "controlling" shares its stem with the level "control" but is another word
  verb <- links$from == links$to & grepl("ing$", tokens$norm[links$from]) & !grepl("ing$", tolower(links$level))
  links$score[verb] <- 0.4
  # "control for age" holds it constant
  constant <- links$from == links$to & tokens$norm[links$from] %in% c("control", "controls", "controlled") & c(tokens$norm, "")[links$from +
      1] == "for" &
    !c("", tokens$norm)[links$from] %in% c("the", "to", "and", "versus", "vs", "against", "with", "than")
  links <- links[!constant, , drop = FALSE]
  # (the word that marks what a rate is over, "per single night", is no level)
  links <- links[!(links$from == links$to & tokens$norm[links$from] == "single" & c("", tokens$norm)[links$from] == "per"), , drop = FALSE]
  # "biomass per fish", where waters are fished or not: the thing, unless it stands as a verb ("who fish")
  thing <- links$from == links$to & tokens$stem[links$from] %in% vocabulary$lexicon$entities & grepl("ed$", tolower(links$level)) &
    tokens$norm[links$from] != tolower(links$level) & !grepl("ed$", tokens$norm[links$from]) &
    !c("", tokens$norm)[links$from] %in% c("who", "that", "to", "did", "do", "does", "they", "not", "we", "you", "is", "are", "=")
  links <- links[!thing, , drop = FALSE]
  # "the worst day", "per day": a word of time, not the level "day" of a shift
  period <- links$from == links$to & tokens$norm[links$from] %in% c("day", "night", "week", "month", "year", "morning", "evening") &
    (c("", tokens$norm)[links$from] %in% c("worst", "best", "which", "what", "per", "each", "every", "by", "average", "busiest", "first", "last",
      "single") | grepl("[a-z]{3}est$", c("", tokens$norm)[links$from]) | c("", tokens$type)[links$from] == "number")
  # "week 6" counts weeks; it is not the level "weekly"
  period <- period | links$from == links$to & tokens$norm[links$from] %in% c("day", "days", "week", "weeks", "month", "months", "year", "years",
    "hour", "hours") & grepl("(ly|daily)$", tolower(links$level))
  # nor are "days" and "nights", where the rows have dates
  plural <- links$from == links$to & tokens$norm[links$from] %in% c("days", "nights", "weeks", "months", "years") & !grepl("s$",
    tolower(links$level)) &
    any(vocabulary$columns$kind %in% c("date", "datetime"))
  links <- take_rows(links, !period & !plural)
  # "where rating is at least 4", beside a column visits with a level "4+": the bound is put on rating
  bound <- grepl("^(at least|less than|more than|under|below|over|above|fewer than) [0-9.]+", tokens_between(tokens, links$from, links$to))
  if (any(bound)) links <- take_rows(links, !replace(bound, bound, stands_behind_another(tokens, take_rows(links, bound), vocabulary)))
  # "than others" compares with the rest; it names no level "Other"
  links <- links[!(links$from == links$to & tokens$norm[links$from] == "others" & tolower(links$level) != "others"), , drop = FALSE]
  links
}

tokens_between <- function(tokens, from, to) vapply(seq_along(from), function(i) paste(tokens$norm[from[i]:to[i]], collapse = " "), "")

#' Does the name of a column of numbers stand before a value of another column ("rating is at least 4")?
#' @noRd
stands_behind_another <- function(tokens, links, vocabulary) {
  numeric <- which(vocabulary$columns$kind %in% c("number", "count"))
  phrases <- vocabulary$phrases[vocabulary$phrases$column %in% numeric, , drop = FALSE]
  vapply(seq_len(nrow(links)), function(i) {
    j <- links$from[i] - 1L
    while (j > 0 && tokens$norm[j] %in% c("is", "was", "are", "were", "of", "=", "being")) j <- j - 1L
    if (j < 1) return(FALSE)
    before <- vapply(max(1, j - 4):j, function(from) paste(tokens$stem[from:j], collapse = " "), "")
    any(before %in% setdiff(phrases$phrase, phrases$phrase[phrases$column == links$column[i]]))
  }, NA)
}

#' "patients" beside a column karnofsky_patient: the rows, not a column that only has the word in the singular as a part of its name
#' @section Shape: logical, one per link.
#' @noRd
rows_in_plural <- function(links, tokens, vocabulary) {
  word <- tokens$norm[links$from]
  short <- links$type == "column" & links$from == links$to & links$score < 0.9 & grepl("[^s]s$", word) &
    tokens$stem[links$from] %in% vocabulary$lexicon$entities
  short[short] <- vapply(which(short), function(i) {
    column <- links$column[i]
    names <- strsplit(tolower(name_words(vocabulary$columns$name[column])), "[^[:alpha:]]+")[[1]]
    # ("the karnofsky score given by patients" has the rest of the name as well)
    if (any(setdiff(stem_words(names), tokens$stem[links$from[i]]) %in% tokens$stem)) return(FALSE)
    vocabulary$columns$kind[column] != "id" && length(setdiff(stem_words(names), c(key_words(), "name"))) > 1 && !word[i] %in% names && sub("s$",
      "", word[i]) %in% names
  }, NA)
  short
}

#' Runs of words of which each is a word of one column's name or label
#' @noRd
term_links <- function(tokens, vocabulary) {
  lexicon <- vocabulary$lexicon
  telling <- tokens$type %in% c("word", "number") & !(tokens$norm %in% lexicon$stop)
  terms_all <- terms <- vocabulary$terms[vocabulary$terms$stem %in% tokens$stem, , drop = FALSE]
  # "the other hand span", of a column of that name
  opens <- which(tokens$norm %in% c("other", "no", "not", "all", "own", "most", "less", "more", "before", "after", "under", "over", "out", "off") &
    tokens$stem %in% terms$stem[terms$source == "name"] & c(telling[-1], FALSE))
  hit <- sort(c(which(telling & tokens$stem %in% terms$stem), opens))
  if (!length(hit)) return(empty_links())
  terms <- terms[!duplicated(terms[c("stem", "column")]), , drop = FALSE]
  everyday <- c(lexicon$filler, lexicon$stop, vocabulary$entities)
  do.call(stack_frames, lapply(hit, function(i) {
    columns <- unique(terms$column[terms$stem == tokens$stem[i]])
    if (i %in% opens) columns <- intersect(columns, terms$column[terms$stem == tokens$stem[i + 1] & terms$source == "name"])
    if (!length(columns)) return(empty_links())
    run <- runs_from(i, columns, tokens, terms, telling)
    found <- score_runs(i, columns, run, terms, vocabulary$size[columns], everyday)
    if (i %in% opens) found <- found[found$to > i, , drop = FALSE]
    # a number by itself names no column ("less than 1 year" beside Q1); after a word of its name it does ("day 7", "under 15")
    if (tokens$type[i] != "number" || !nrow(found)) return(found)
    own <- i > 1 & found$column %in% terms_all$column[terms_all$stem == c("", tokens$stem)[i] & terms_all$source == "name"]
    found[own | found$to > i, , drop = FALSE]
  }))
}

#' Longest runs that start at token i, one per column; stop words inside are stepped over
#'
#' All columns at once, since a word may stand in the names of thousands.
#' @section Shape: list(last (token at which each run ends), covered (logical matrix, columns by stems)).
#' @noRd
runs_from <- function(i, columns, tokens, terms, telling) {
  n <- length(tokens$stem)
  stems <- unique(terms$stem)
  covered <- matrix(FALSE, length(columns), length(stems), dimnames = list(NULL, stems))
  covered[, tokens$stem[i]] <- TRUE
  last <- rep(i, length(columns))
  going <- rep(TRUE, length(columns))
  # articles are no gap: "trust in the government"
  articles <- c("the", "a", "an", "their", "our", "its")
  place <- cumsum(!tokens$norm %in% articles)
  apart <- cumsum(!tokens$norm %in% c(articles, "in", "of", "for", "to", "on"))
  for (j in seq_len(n - i) + i) {
    going <- going & (j - last <= 2 | place[j] - place[last] <= 2 & apart[j - 1] == apart[last])
    if (!any(going)) break
    stem <- tokens$stem[j]
    # a small word ("before", "after") counts where it is part of the column's own name
    part <- columns %in% terms$column[terms$stem == stem & (telling[j] | terms$source == "name")]
    if (tokens$norm[j] %in% joining_words()) going <- going & part
    # "age, mother weight": a comma ends a name
    if (isTRUE(tokens$comma[j])) going[] <- FALSE
    # ("bookings have no rating": that is no number of a booking)
    if (tokens$norm[j] == "no") part <- part & last == j - 1L
    more <- going & part
    if (any(more)) {
      more <- more & !covered[, stem]
      covered[more, stem] <- TRUE
      last[more] <- j
    }
    if (telling[j]) going <- more
  }
  # ("pace per week", of pace_min_per_km: a small word at the end belongs to what follows)
  for (k in which(last > i)) while (last[k] > i && tokens$norm[last[k]] %in% joining_words()) {
    covered[k, tokens$stem[last[k]]] <- FALSE
    last[k] <- last[k] - 1L
  }
  list(last = last, covered = covered)
}

#' Links of the runs, scored by the share of each column's own words that they cover
#' @noRd
score_runs <- function(i, columns, run, terms, size, everyday) {
  stems <- colnames(run$covered)
  at <- cbind(match(terms$column, columns), match(terms$stem, stems))
  own <- !is.na(at[, 1])
  weight <- name <- matrix(0, length(columns), length(stems))
  weight[at[own, , drop = FALSE]] <- terms$weight[own]
  name[at[own, , drop = FALSE]] <- terms$source[own] == "name"
  named <- run$covered & name == 1
  # (where it was measured tells a column only together with what it is)
  where <- matrix(FALSE, length(columns), length(stems))
  where[at[own, , drop = FALSE]] <- terms$source[own] == "where"
  labelled <- rowSums(run$covered & name == 0 & !where)
  coverage <- rowSums(run$covered * weight) / size
  # words of the label alone count, but less than a word of the name
  score <- ifelse(rowSums(named & weight > 0) > 0, 0.35 + 0.6 * pmin(1, coverage) + 0.02 * pmin(labelled, 2),
                  ifelse(rowSums(named) > 0, 0.3, pmin(0.6, 0.3 + 0.12 * labelled)))
  faint <- rowSums(named & weight >= 0.4) == 0 & labelled == 0
  score <- score - 0.15 * faint
  # everyday words that happen to stand in a label ("tell us ...") name no column
  rare <- rowSums(run$covered[, !stems %in% everyday, drop = FALSE]) > 0
  keep <- rowSums(named) > 0 | rare & rowSums(run$covered & !where) > 0
  new_links(rep(i, sum(keep)), run$last[keep], "column", column = columns[keep], score = score[keep],
            covers = as.integer(rowSums(run$covered))[keep])
}

#' Words after which another column begins
#' @noRd
joining_words <- function() c("and", "or", "&", "with", "by", "per", "vs", "versus", "from", "to", "between", "+", "\u00d7",
                              "*", "on", "against", "for", "than")

#' Words in the name of a column of time that is no duration of what the rows are, as a pattern: hours of sleep are none of a run
#' @noRd
pastime_words <- function() {
  "sleep|nap|screen|(^|_)tv|exercise|workout|training|study|homework|overtime|leisure|phone|gaming|reading|internet|social|meditat|(^|_)age"
}

#' "who wait longer", "is the wait shorter": the column of a time that the words right before an adjective name
#' @noRd
timed_before <- function(i, tokens, terms, columns) {
  before <- rev(seq_len(i - 1))
  before <- before[!tokens$norm[before] %in% c("is", "are", "was", "were", "get", "gets", "got", "become", "became", "much", "even", "any", "been")]
  if (!length(before)) return(integer())
  own <- unique(terms$column[terms$stem == tokens$stem[before[1]]])
  own[columns$kind[own] %in% c("number", "count") & columns$unit[own] %in% time_units()]
}

#' "thicker", "hottest": an adjective and the column it measures
#' @noRd
adjective_links <- function(tokens, vocabulary) {
  adjectives <- vocabulary$lexicon$adjectives
  at <- which(tokens$norm %in% adjectives$word)
  if (!length(at)) return(empty_links())
  out <- lapply(at, function(i) {
    rows <- adjectives[adjectives$word == tokens$norm[i], , drop = FALSE]
    # a name that is only a code ("D3") leaves it to the label to tell what is measured
    coded <- grepl("^[A-Za-z]{1,3}[_.]?[0-9]+[a-z]?$", vocabulary$columns$name)
    telling <- vocabulary$terms$source == "name" & vocabulary$terms$weight > 0.3 | vocabulary$terms$source == "label" & coded[vocabulary$terms$column]
    terms <- vocabulary$terms[telling, , drop = FALSE]
    columns <- unique(terms$column[terms$stem %in% rows$noun])
    # (a time of day is neither long nor short)
    columns <- columns[vocabulary$columns$kind[columns] %in% c("number", "count", "ordered") & !vocabulary$columns$unit[columns] %in% "o'clock"]
    found <- rows$noun %in% terms$stem[terms$column %in% columns]
    own <- if ("durat" %in% rows$noun) timed_before(i, tokens, terms, vocabulary$columns)
    if (length(own) == 1) columns <- own
    if (!length(columns)) {
      # "slowest", where one column alone counts time
      timed <- which(vocabulary$columns$kind %in% c("number", "count") & vocabulary$columns$role == "" &
        vocabulary$columns$unit %in% setdiff(time_units(), c("months", "years")))
      found <- rows$noun == "durat"
      if (any(found) && length(timed) == 1 && !grepl(pastime_words(), tolower(vocabulary$columns$name[timed]))) columns <- timed
    }
    low <- any(rows$low[if (any(found)) which(found) else 1])
    new_links(rep(i, length(columns)), rep(i, length(columns)), "adjective",
              id = rep(if (low) "low" else "high", length(columns)),
              column = columns, score = rep(0.7, length(columns)))
  })
  do.call(rbind, out)
}
