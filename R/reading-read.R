# From a question to a reading.

#' Read a question
#'
#' @param study A study.
#' @param text The question.
#' @section Shape: list(status, reading, headline, near): status is "answered" when the
#'   reading can be carried out, "needs_choice" or "cannot_answer" otherwise.
#' @noRd
read_question <- function(study, text) {
  text <- clean_question(text)
  vocabulary <- study_vocabulary(study)
  blank <- finish_reading(new_reading("clarify"))
  if (!nzchar(text)) return(new_verdict("needs_choice", blank, "The question is empty."))
  if (nchar(text) > 2000) return(new_verdict("cannot_answer", blank,
                                         "The question is longer than 2,000 characters. Ask one thing at a time."))
  if (stringi::stri_count_words(text) > 300) return(new_verdict("cannot_answer", blank,
    "The question has more than 300 words. Ask one thing at a time."))
  if (asks_for_help(text)) {
    blank$extra$help <- TRUE
    return(new_verdict("needs_choice", blank, "These are questions that this data can answer; ask one of them, or your own."))
  }
  if (asks_for_screening(text)) return(screening_verdict(study))
  if (changes_data(study, text)) {
    return(new_verdict("needs_choice", blank, sprintf(paste("This changes how the data is read, so it is an amendment and no question. Carry it out",
      "with amend(study, %1$s), or with --amend %1$s at the command line, and ask after that."), encodeString(text, quote = "\""))))
  }
  beyond <- beyond_verdict(study, text)
  if (!is.null(beyond)) return(beyond)
  open <- adjusted_for_nothing(study, text)
  if (!is.null(open)) return(open)
  wish <- take_model_wish(text, vocabulary)
  verdict <- read_wished(study, wish$text)
  with_model_wish(verdict, wish)
}

#' "is NPK better than the others", where nothing is said of what is measured: the level's own column is not compared with itself
#' @noRd
not_of_itself <- function(study, verdict) {
  r <- verdict$reading
  if (!identical(verdict$status, "answered") || !identical(r$task, "compare") || length(r$outcome) != 1 || length(r$by) != 1) return(verdict)
  steps <- unlist(lapply(study$tables, `[[`, "steps"), recursive = FALSE)
  same <- identical(r$by, r$outcome)
  made_of <- function(s) identical(s$type, "derive") && identical(s$name, r$by) && identical(as.character(s$from), r$outcome)
  itself <- same || any(vapply(steps, made_of, NA))
  if (!itself || is_numeric_kind(find_column(study, r$outcome)$kind)) return(verdict)
  # ("was change rated better", of a column of ratings: what is missing is who is compared)
  if (same) r$by <- character() else r$outcome <- character()
  r$extra$missing <- if (same) "by" else "outcome"
  open <- missing_verdict(list(vocabulary = study_vocabulary(study)), r)
  open$study <- verdict$study
  open
}

#' Read a question that holds no wish about the side of a model
#' @noRd
read_wished <- function(study, text) {
  derived <- derive_for_question(study, text)
  if (!is.null(derived$lost_occasion)) return(lost_occasion_verdict(derived$lost_occasion))
  vocabulary <- study_vocabulary(derived$study)
  wished <- take_look(derived$text, vocabulary)
  state <- parse_question(wished$text, vocabulary)
  sides <- sides_of_bound(derived$study, state, wished$text)
  if (!is.null(sides)) {
    derived$study <- sides$study
    state <- parse_question(sides$text, study_vocabulary(sides$study))
    if (!is.null(sides$filter)) state$filters <- c(state$filters, list(sides$filter))
  }
  mentions <- find_mentions(state)
  # the column that is cut makes the groups, whatever other words name it
  if (!is.null(sides) && length(mentions) > 2) {
    mentions <- Filter(function(m) column_of(state, m$column) != sides$base, mentions)
  }
  verdict <- with_wishes(decide_reading(state, mentions), wished$look)
  verdict <- with_derived_study(verdict, derived$study, study)
  verdict <- settle_raw_effect(verdict$study %||% study, verdict)
  verdict <- set_against_rest(verdict$study %||% study, verdict)
  verdict <- not_of_itself(verdict$study %||% study, verdict)
  verdict <- yes_as_event(verdict$study %||% study, verdict, text)
  verdict <- once_per_unit(verdict$study %||% study, verdict)
  verdict <- totals_of_units(verdict$study %||% study, verdict, derived$per_unit)
  if (isTRUE(derived$outliers)) verdict <- without_outliers(verdict)
  if (!is.null(derived$group_bound)) verdict$reading <- with_group_bound(verdict$reading, derived$group_bound)
  counted <- count_cases(verdict$study %||% study, verdict, text)
  if (!is.null(counted)) return(counted)
  if (is.null(derived$rate_per) && !is.null(derived$rate_wish) && isTRUE(verdict$reading$extra[["rate"]])) derived$rate_per <- derived$rate_wish
  if (!is.null(derived$rate_per) && isTRUE(verdict$reading$extra[["rate"]])) verdict$reading <- scale_rate(verdict$reading, derived$rate_per)
  else if (identical(derived$rate_per, 100) && says_share(verdict)) {
    # ("injuries per 100 runs", of a yes or no in each row)
    verdict$reading$assumed <- c(verdict$reading$assumed, "A share in percent is a rate per 100 rows.")
  } else if (!is.null(derived$rate_per) && identical(verdict$status, "answered")) {
    verdict <- new_verdict("needs_choice", verdict$reading, sprintf("A rate per %s needs two counted columns: what is counted, and per what.",
                                                                    format_plain(derived$rate_per)))
  }
  if (!is.null(derived$told) && !is.null(verdict$reading)) verdict$reading$assumed <- unique(c(derived$told, verdict$reading$assumed))
  verdict
}

#' "in March and April 2025": two periods of one date that follow each other are one
#' @noRd
adjoining_periods <- function(reading) {
  spans <- which(vapply(reading$filters, function(f) f$op == "between" && all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", as.character(f$value))), NA))
  if (length(spans) != 2) return(reading)
  two <- reading$filters[spans]
  if (two[[1]]$column != two[[2]]$column) return(reading)
  ends <- lapply(two, function(f) as.Date(as.character(unlist(f$value))))
  ends <- ends[order(vapply(ends, function(e) as.numeric(e[1]), 1))]
  if (ends[[2]][1] != ends[[1]][2] + 1) return(reading)
  reading$filters[[spans[1]]] <- new_filter(two[[1]]$column, "between", c(format(ends[[1]][1]), format(ends[[2]][2])))
  reading$filters <- reading$filters[-spans[2]]
  reading
}

#' Is the share of rows told in which something is so?
#' @noRd
says_share <- function(verdict) {
  identical(verdict$status, "answered") && identical(verdict$reading$task, "frequency") && length(verdict$reading$extra$event) > 0
}

#' A reading that holds groups against a bound, which its figure shows as a line
#' @noRd
with_group_bound <- function(reading, bound) {
  reading$extra$group_bound <- bound
  share <- length(reading$extra$event) > 0
  at <- if (share && (isTRUE(bound$percent) || bound$value > 1)) bound$value / 100 else bound$value
  if (share || length(reading$outcome) == 1) reading$extra$look <- utils::modifyList(reading$extra$look %||% list(), list(line_at = at))
  reading
}

#' A question about the levels of a table of counts, asked of the cases that its rows stand for
#' @section Shape: A verdict with `study`, or NULL where the table is no such table or its counts are themselves asked about.
#' @noRd
count_cases <- function(study, verdict, text) {
  r <- verdict$reading
  if (!verdict$status %in% c("answered", "needs_choice") || !r$task %in% c("frequency", "relate", "compare", "predict", "rank", "drivers",
      "distribution", "figure")) return(NULL)
  tables <- data_tables(study)
  if (length(tables) != 1) return(NULL)
  column <- cells_column(tables[[1]])
  used <- c(r$outcome, r$by, r$predictors, r$adjust_for, r$extra$weight, vapply(r$filters, `[[`, "", "column"))
  # (a count that nobody named was only the one measure that was left)
  named <- !is.null(column) && any(name_stems(column) %in% stems_of(text)[[1]])
  if (is.null(column) || column %in% used && named) return(NULL)
  step <- list(type = "repeat", column = column, implied = TRUE)
  repeated <- tryCatch(refresh(within_tables(study, names(tables)[1], step)), upbeatquill_error = function(e) NULL)
  if (is.null(repeated)) return(NULL)
  # from here on it says how often a row stands, and measures nothing
  repeated$tables[[1]]$columns[[column]]$used <- FALSE
  again <- read_question(repeated, text)
  again$study <- again$study %||% repeated
  again
}

#' A study with one more step of a table, which is nowhere recorded
#' @noRd
within_tables <- function(study, table, step) {
  study$tables[[table]] <- add_step(study$tables[[table]], step)
  study
}

#' A verdict that carries the study with the columns derived for its question, and says what they are
#' @noRd
with_derived_study <- function(verdict, derived, study) {
  if (identical(derived, study)) return(verdict)
  verdict$study <- derived
  steps <- derived_steps(derived, study, verdict$reading)
  # (a date of which the weekday is taken has its part)
  placed <- vapply(unlist(lapply(steps, `[[`, "from")), no_part_said, "")
  words <- vapply(steps, function(s) sprintf("%s: %s.", s$name, derivations()[[s$derive]]$words(s)), "")
  verdict$reading$assumed <- unique(c(setdiff(verdict$reading$assumed, placed), words))
  verdict
}

no_part_said <- function(columns) sprintf("The column %s, which the question names, has no part in this reading.", quoted(columns))

#' The steps by which columns were derived for this question, of those that its reading uses
#' @noRd
derived_steps <- function(study, before, reading) {
  used <- c(reading$outcome, reading$by, reading$predictors, reading$adjust_for, vapply(reading$filters, `[[`, "", "column"))
  unlist(lapply(names(study$tables), function(name) {
    Filter(function(s) identical(s$type, "derive") && s$name %in% used && is.null(before$tables[[name]]$columns[[s$name]]),
        study$tables[[name]]$steps)
  }), recursive = FALSE)
}

#' A verdict whose readings carry the wishes about the figure
#' @noRd
with_wishes <- function(verdict, look) {
  if (!length(look)) return(verdict)
  add <- function(r) {
    # (what is wished anew is told once)
    old <- say_look(r$extra$look[intersect(names(r$extra$look), names(look))])
    r$extra$look <- utils::modifyList(r$extra$look %||% list(), look)
    r$assumed <- unique(c(setdiff(r$assumed, old), say_look(look)))
    r
  }
  verdict$reading <- add(verdict$reading)
  verdict$reading$alternatives <- lapply(verdict$reading$alternatives, add)
  verdict
}

#' What was understood of the wishes
#' @noRd
say_look <- function(look) {
  c(if (!is.null(look$colour)) sprintf("Coloured by %s.", look$colour), if (!is.null(look$panel)) sprintf("One panel for each %s.", look$panel),
    if (!is.null(look$order)) sprintf("Groups in the order of their %s.", look$order),
      if (!is.null(look$log)) sprintf("The %s axis is logarithmic.", look$log),
    if (!is.null(look$title)) sprintf("The title is %s.", quoted(look$title)),
    if (!is.null(look$turn)) if (identical(look$turn, "sideways")) "Drawn lying down." else "The axes change places.",
    if (!is.null(look$text_size)) sprintf("Letters of %s points.", format_plain(look$text_size)),
    if (!is.null(look$line_at)) sprintf("A line is drawn at %s.", format_plain(look$line_at)),
      if (!is.null(look$mean_line)) sprintf("A line is drawn at the %s.", look$mean_line),
    if (!is.null(look$palette)) sprintf("Drawn in %s.", some_of(look$palette, 8)),
    if (!is.null(look$size)) sprintf("The figure is saved %s inches wide and %s high.", format_plain(round(look$size[1], 2)),
        format_plain(round(look$size[2], 2))),
    if (!is.null(look$smooth)) sprintf("A %s is drawn through the points.", if (look$smooth == "line") "straight line" else "smooth curve"),
    if (!is.null(look$names)) sprintf("Points are named by %s.", look$names),
    if (!is.null(look$mark)) sprintf("Marked: rows where %s.", paste(vapply(look$mark, plain_filter, ""), collapse = " and ")))
}

#' "what can I ask?"
#' @noRd
asks_for_help <- function(text) {
  grepl(paste0("^(help|(so )?what (else )?(can|could|should|may|might) (i|we|you) (ask|answer|do|find out)( next| here| of (this|the) data| ",
      "about (this|the) data| with (this|the) data)?|what questions (can|could) .*)[?!. ]*$"),
        text, ignore.case = TRUE, perl = TRUE)
}

#' The vocabulary of a study: its own, the one built last if that was for the same tables, or a new one
#' @noRd
study_vocabulary <- function(study) study$vocabulary %||% kept_vocabulary(study)

# Questions come one after the other about the same study, and building takes longer than reading. A table that was
# changed is another object, and whatever is declared about its columns is compared as it stands.
kept_vocabulary <- local({
  key <- NULL
  kept <- NULL
  function(study) {
    own <- list(at = vapply(study$tables, function(t) data.table::address(t$data), ""), columns = lapply(study$tables, `[[`, "columns"),
                sets = lapply(study$tables, `[[`, "sets"), aliases = study$aliases, design = study$design)
    if (!identical(own, key)) {
      kept <<- build_vocabulary(study)
      key <<- own
    }
    kept
  }
})

clean_question <- function(text) {
  if (!is.character(text) || length(text) != 1 || is.na(text)) stop_input("A question is one text.")
  text <- stringi::stri_enc_toutf8(text, validate = TRUE)
  share_year(plain_days(stringi::stri_trim_both(stringi::stri_replace_all_regex(text, "[\\p{C}\\s]+", " "))))
}

#' "from May to July 2024": the year is that of both
#' @noRd
share_year <- function(text) {
  if (!grepl("(19|20)[0-9]{2}", text)) return(text)
  month <- sprintf("(?:%s)[a-z]*", month_starts())
  gsub(sprintf("(?i)\\b((?:from|between) %1$s) (to|until|till|and|through|-|\u2013) (%1$s,?) ((?:19|20)[0-9]{2})\\b", month), "\\1 \\4 \\2 \\3 \\4", text,  # nolint: line_length_linter.
       perl = TRUE)
}

#' "April 1st" and "the 1st of April" as "1 April"
#' @noRd
plain_days <- function(text) {
  if (!grepl("[0-9](st|nd|rd|th)\\b", text, ignore.case = TRUE, perl = TRUE)) return(text)
  month <- sprintf("(%s)", month_starts())
  text <- gsub(sprintf("(?i)\\b%s([a-z]*) ([0-9]{1,2})(?:st|nd|rd|th)\\b", month), "\\3 \\1\\2", text, perl = TRUE)
  gsub(sprintf("(?i)\\b(?:the )?([0-9]{1,2})(?:st|nd|rd|th) (?:of )?(?=%s)", month), "\\1 ", text, perl = TRUE)
}

parse_question <- function(text, vocabulary) {
  text <- gsub("(?i)\\b((?:last|first|latest|past) (?:[0-9]+ )?(?:day|week|month|quarter|year)s?) (?:of|in) (?:the |our |this )?data\\b", "\\1",
      text, perl = TRUE)
  text <- weeks_through(often_said(shared_unit_said(numbered_levels_said(longer_than_said(part_of_month(text, vocabulary), vocabulary), vocabulary),
      vocabulary), vocabulary), vocabulary)
  text <- powers_said(year_of_column(year_through(text, vocabulary), vocabulary))
  # honeyYield as honey Yield; names such as McDonald and units such as mmHg stay whole
  if (grepl("[a-z][A-Z]|[^ -~]", text)) {
    text <- stringi::stri_replace_all_regex(text, "(?<!\\bMc|\\bMac|\\bmm|\\bk)(?<=\\p{Ll})(?=\\p{Lu}\\p{Ll})", " ")
  }
  # "at least one child": the word is a number here
  text <- gsub("(?i)\\b(at least|more than|at most|no more than|fewer than|less than|exactly|over) one\\b(?! (of|sample|sided|way)\\b)", "\\1 1",
      text, perl = TRUE)
  text <- feelings_said(spelled_names(text, vocabulary), vocabulary)
  text <- baseline_said(ages_said(text, vocabulary), vocabulary)
  dated <- with_only_year(text, vocabulary)
  named <- take_keys(dated$text, vocabulary)
  text <- open_before_after(named$text, vocabulary)
  tokens <- tokenise(text)
  vocabulary <- add_kin(tokens, vocabulary)
  tokens <- correct_spelling(tokens, vocabulary)
  items <- find_items(tokens, vocabulary)
  state <- new_state(items, tokens, vocabulary, stringi::stri_trans_nfkc(text))
  for (told in c(dated$told, named$told)) state <- assume(state, told)
  corrected <- tokens$corrected
  for (typed in names(corrected)) state <- assume(state,
                                                  sprintf("Read %s as %s.", quoted(typed), quoted(corrected[[typed]])))
  for (key in names(named$keys)) {
    values <- named$keys[[key]]
    state <- add_filter(state, key, if (length(values) > 1) "in" else "==", values)
    # the word before it ("hive H017") belongs to it
    index <- match(key, vocabulary$columns$name)
    own <- which(vapply(state$items, function(i) index %in% i$cols$column, NA))
    state <- use_items(state, own)
  }
  for (key in names(named$left_out)) state <- add_filter(state, key, if (length(named$left_out[[key]]) > 1) "not_in" else "!=", named$left_out[[key]])
  state$flags$lost_key <- named$lost
  find_filters(statistics_before_measures(state))
}

#' "average price by type", of data with a rating called average: a statistic, as the measure follows that it is of
#' @noRd
statistics_before_measures <- function(state) {
  for (k in which(state$type == "value")) {
    item <- state$items[[k]]
    if (!"statistic" %in% item$lex$kind) next
    j <- k + 1
    while (j <= state$n && (state$type[j] == "stop" || item_norm(state, j) == "number")) j <- j + 1
    column <- if (j <= state$n) item_column(state, j) else NA
    if (is.na(column) || column %in% item$vals$column || !kind_at(state, column) %in% c("number", "count")) next
    state$type[k] <- state$items[[k]]$type <- "lexicon"
    state$items[[k]]["vals"] <- list(NULL)
  }
  state
}

#' "over the 8 weeks", of a column week: the whole time, no bound
#' @noRd
weeks_through <- function(text, vocabulary) {
  form <- "(?i) (?:over|during|across|throughout|in) (?:the (?:whole |full |entire )?|these |those |all )([0-9]+|one|two|three|four|five|six|eight|ten|twelve) (days|weeks|months|years)\\b"  # nolint: line_length_linter.
  hit <- first_match(text, form)
  if (is.null(hit)) return(text)
  unit <- sub("s$", "", tolower(hit[3]))
  time <- which(vapply(vocabulary$columns$name, function(n) unit %in% tolower(name_words(n)), NA) & vocabulary$columns$kind %in% c("number", "count"))
  long <- vocabulary$long
  if (length(time) != 1 || is.null(long) || vocabulary$columns$name[time] != long$time || word_number(hit[2]) != long$last) return(text)
  sub(hit[1], sprintf(" from %s %s to %s %s", unit, format_plain(long$first), unit, format_plain(long$last)), text, fixed = TRUE)
}

#' "do boys need help more often", of data with a level called often: the comparison, not the level
#' @noRd
often_said <- function(text, vocabulary) {
  if (!grepl("\\boften\\b", text, ignore.case = TRUE) || !"often" %in% vocabulary$values$phrase) return(text)
  text <- gsub("(?i)\\b(more|less) often\\b", "\\1 likely", text, perl = TRUE)
  gsub("(?i)^ *how often\\b", "what share of the time", text, perl = TRUE)
}

#' "a home built in 1950", of a column that holds years: a value of that column
#' @noRd
year_of_column <- function(text, vocabulary) {
  done <- "built|born|founded|established|opened|launched|made|constructed|planted|installed|released|published|acquired|joined|hired|registered|bought"  # nolint: line_length_linter.
  hit <- first_match(text, sprintf("(?i)\\b(%s) in ((?:17|18|19|20)[0-9]{2})\\b", done))
  if (is.null(hit)) return(text)
  columns <- vocabulary$columns
  own <- which(columns$kind %in% c("number", "count") & vapply(columns$name, function(n) tolower(hit[2]) %in% tolower(name_words(n)), NA))
  if (length(own) != 1 || any(columns$kind %in% c("date", "datetime"))) return(text)
  sub(hit[1], paste(columns$name[own], hit[3]), text, fixed = TRUE)
}

#' "did sales grow over 2024": through that year, not after it
#' @noRd
year_through <- function(text, vocabulary) {
  if (!any(vocabulary$columns$kind %in% c("date", "datetime")) || !grepl("\\bover (the year )?(19|20)[0-9]{2}\\b", text,
      ignore.case = TRUE)) return(text)
  moves <- paste0("\\b(gr[eo]w|grown|rise|rose|risen|fall|fell|fallen|chang\\w*|increas\\w*|decreas\\w*|trend|develop\\w*|evolv\\w*|drop\\w*|declin\\w*|",  # nolint: line_length_linter.
                  "improv\\w*|mov\\w*|go up|went up|go down|went down|monthly|weekly|daily|per (month|week|day|quarter)|by (month|week|day|quarter))\\b")  # nolint: line_length_linter.
  if (!grepl(moves, text, ignore.case = TRUE, perl = TRUE)) return(text)
  gsub("(?i)\\bover (?:the year )?((?:19|20)[0-9]{2})(?=[?.! ]*$| (?:by|in|for|per|and|compared|at|among)\\b)", "in \\1", text, perl = TRUE)
}

#' A pattern for "adjusted for the baseline", whose first group ends before the word
#' @noRd
held_at_baseline <- function() {
  paste0("(?i)\\b((?:adjust(?:ed|ing)?|control(?:led|ling)?|allowing|correct(?:ed|ing)|account(?:ed|ing)?) for (?:the |its |their )?)",
         "baseline(?: (?:values?|scores?|levels?|measurements?))?\\b(?! [a-z])")
}

#' "adjusted for baseline": the first measurement of the outcome, where the data holds several
#' @noRd
baseline_said <- function(text, vocabulary) {
  form <- held_at_baseline()
  if (!grepl(form, text, perl = TRUE) || "baselin" %in% vocabulary$terms$stem) return(text)
  own <- vapply(vocabulary$sets, function(set) all(stems_of(set$name)[[1]] %in% stems_of(text)[[1]]), NA)
  if (sum(own) == 1) sub(form, paste0("\\1", vocabulary$sets[[which(own)]]$columns[1]), text, perl = TRUE) else text
}

#' "how satisfied are people", "more satisfied than": the noun of a column, where its levels are called by the adjective
#' @noRd
feelings_said <- function(text, vocabulary) {
  nouns <- c(satisfied = "satisfaction", happy = "happiness", confident = "confidence", stressed = "stress", engaged = "engagement",
             motivated = "motivation", anxious = "anxiety", worried = "worry", tired = "tiredness", committed = "commitment")
  # (what a question put to people asks about is known by its noun, too)
  spoken <- unlist(strsplit(vocabulary$phrases$phrase, " ", fixed = TRUE))
  known <- function(noun) stem_words(noun) %in% vocabulary$terms$stem || stem_words(noun) %in% spoken
  # happiness that is measured as satisfaction, and its forms in one word
  if (!known("happiness") && known("satisfaction")) {
    text <- gsub("(?i)\\bhappi(er|est)\\b", "\\1 satisfied", gsub("(?i)\\bhappy\\b", "satisfied", text, perl = TRUE), perl = TRUE)
    text <- gsub("\\best satisfied\\b", "most satisfied", gsub("\\ber satisfied\\b", "more satisfied", text))
  }
  for (word in names(nouns)) {
    if (!grepl(word, text, ignore.case = TRUE, perl = TRUE) || !known(nouns[[word]])) next
    how <- sprintf("(?i)^ *how %s (?:are|is|were|was|do|did)\\b(.*?)( overall)?( *[?.!]*)$", word)
    if (grepl(how, text, perl = TRUE)) text <- sub(how, sprintf("what is the average\\2 %s of\\1\\3", nouns[[word]]), text, perl = TRUE)
    text <- gsub(sprintf("(?i)\\b(more|less|most|least|equally|as) %s\\b", word), sprintf("\\1 %s", nouns[[word]]), text, perl = TRUE)
  }
  text
}

#' "PM2.5" and "NO-2" for columns pm25 and no2
#' @noRd
spelled_names <- function(text, vocabulary) {
  said <- unique(stringi::stri_extract_all_regex(text, "\\b\\p{L}{1,6}[-.]?[0-9]{1,3}([.,-][0-9]{1,3})?\\b", omit_no_match = TRUE)[[1]])
  bare <- function(x) gsub("[^a-z0-9]", "", tolower(x))
  for (word in said) {
    own <- vocabulary$columns$name[bare(vocabulary$columns$name) == bare(word)]
    if (length(own) == 1 && word != own) text <- gsub(word, own, text, fixed = TRUE)
  }
  joined_words_said(text, vocabulary)
}

#' "birthweight", of a column birth_weight_g: words of a name that were written as one
#' @noRd
joined_words_said <- function(text, vocabulary) {
  words <- unique(stringi::stri_extract_all_regex(text, "\\b\\p{L}{7,}\\b", omit_no_match = TRUE)[[1]])
  known <- c(vocabulary$terms$stem, vocabulary$values$phrase)
  words <- words[!stem_words(tolower(words)) %in% known]
  if (!length(words)) return(text)
  pairs <- vocabulary$pieces$pairs
  for (word in words) {
    at <- which(pairs$word %in% c(tolower(word), sub("s$", "", tolower(word))))
    if (!length(at)) next
    own <- vocabulary$pieces$split[[pairs$column[at[1]]]]
    first <- own[-length(own)]; second <- own[-1]
    k <- which(paste0(first, second) == pairs$word[at[1]])[1]
    if (nchar(first[k]) > 2 && nchar(second[k]) > 2) text <- gsub(sprintf("\\b%s\\b", word), paste(first[k], second[k]), text, perl = TRUE)
  }
  text
}

#' "the under 30s", "over-65s": ages, where the data holds one
#' @noRd
ages_said <- function(text, vocabulary) {
  text <- gsub("\\b(aged|ages?) (?:from )?([0-9]{1,3}) ?(?:to|-|\u2013) ?([0-9]{1,3})\\b", "\\1 between \\2 and \\3", text,
               ignore.case = TRUE, perl = TRUE)
  if (!grepl("[0-9]{2}s\\b", text)) return(text)
  columns <- vocabulary$columns
  if (!any(columns$kind %in% c("number", "count") & vapply(stems_of(name_words(columns$name)), function(s) "age" %in% s, NA))) return(text)
  gsub("\\b(?:the )?(under|over|below|above)[- ]([0-9]{2})s\\b", "people \\1 \\2 years old", text, ignore.case = TRUE, perl = TRUE)
}

#' Keys named in a question ("hive H017"), taken out of its text
#' @section Shape: list(text, keys (named list: column -> values)).
#' @noRd
take_keys <- function(text, vocabulary) {
  numbered <- numbered_keys(text, vocabulary)
  text <- numbered$text
  codes <- unique(unlist(stringi::stri_extract_all_regex(text, "\\b[A-Za-z]{1,6}[-_]?[0-9]{1,8}[A-Za-z]?\\b", omit_no_match = TRUE)))
  keys <- left_out <- list()
  denied <- codes_denied(text, codes)
  for (code in codes) for (name in names(vocabulary$ids)) {
    hit <- vocabulary$ids[[name]][tolower(vocabulary$ids[[name]]) == tolower(code)]
    if (!length(hit)) next
    if (code %in% denied$codes) left_out[[name]] <- c(left_out[[name]], hit[1]) else keys[[name]] <- c(keys[[name]], hit[1])
    break
  }
  found <- codes[tolower(codes) %in% tolower(c(unlist(keys), unlist(left_out)))]
  if (length(left_out)) for (lead in denied$leads) text <- sub(lead, " ", text, fixed = TRUE)
  for (code in found) text <- stringi::stri_replace_all_regex(text, paste0("\\b", code, "\\b"), " ")
  list(text = text, keys = keys, left_out = left_out, told = numbered$told, lost = lost_key(codes, c(keys, left_out), text, vocabulary))
}

#' "hive 17", "hives 17 and 18", where the keys are H017 and H018: the keys with these numbers
#' @section Shape: list(text, told).
#' @noRd
numbered_keys <- function(text, vocabulary) {
  out <- list(text = text, told = character())
  if (!grepl("[0-9]", text)) return(out)
  known <- c(vocabulary$ids, levels_as_codes(vocabulary))
  for (name in names(known)) {
    own <- known[[name]]
    form <- "^([A-Za-z]{1,8}[-_ ]?)0*([0-9]{1,8})$"
    nouns <- setdiff(key_stems(name), "")
    if (!length(own) || !length(nouns) || !all(grepl(form, own)) || length(unique(sub(form, "\\1", own))) != 1) next
    hits <- stringi::stri_match_all_regex(out$text, quick_form("(?i)\\b([\\p{L}]+) (?:numbers? |no\\.? |nr\\.? |#)?([0-9]{1,8}(?:(?:, | and | or |, and )[0-9]{1,8})*)\\b(?![.,]?[\\p{L}0-9%]| ?%| (?:times|or (?:more|fewer|less))\\b)"))[[1]]  # nolint: line_length_linter.
    for (i in seq_len(nrow(hits))) {
      if (is.na(hits[i, 1]) || !stem_words(tolower(hits[i, 2])) %in% nouns) next
      said <- strsplit(hits[i, 3], "[^0-9]+")[[1]]
      found <- own[match(as.numeric(said), as.numeric(sub(form, "\\2", own)))]
      if (anyNA(found)) next
      codes <- hits[i, 3]
      for (k in seq_along(said)) codes <- sub(paste0("(?<![0-9A-Za-z])", said[k], "(?![0-9])"), found[k], codes, perl = TRUE)
      out$text <- sub(hits[i, 1], paste(hits[i, 2], codes), out$text, fixed = TRUE)
      out$told <- c(out$told, sprintf("Took %s to mean %s.", quoted(hits[i, 1]), some_of(found, 6)))
    }
  }
  out
}

#' The levels of columns that may be groups, by column ("agent_01", "Line 2")
#' @noRd
levels_as_codes <- function(vocabulary) {
  columns <- which(vocabulary$columns$kind %in% c("category", "ordered") & !vocabulary$columns$name %in% names(vocabulary$ids))
  values <- vocabulary$values[vocabulary$values$column %in% columns & grepl("[0-9]$", vocabulary$values$level), , drop = FALSE]
  lapply(split(values$level, vocabulary$columns$name[values$column]), unique)
}

#' Codes that are to be left out: "without hive H017", "excluding H017 and H018"
#' @section Shape: list(codes, leads = the words that say so, as they stand in the text).
#' @noRd
codes_denied <- function(text, codes) {
  told <- grepl("without|exclu|exce|other than|apart|aside|save for|leav|left out|not|drop|omit|ignor|remov|minus|disregard", text,
      ignore.case = TRUE,
                perl = TRUE)
  if (!length(codes) || !told) return(list(codes = character(), leads = character()))
  deny <- paste0("\\b(?:without|excluding|exclude|except(?:ing)?(?: for)?|other than|apart from|aside from|save for|leav(?:e|ing) (?:out|aside)|left out|but not|",  # nolint: line_length_linter.
                 "not counting|not including|not|drop(?:ping)?|omit(?:ting)?|ignor(?:e|ing)|remov(?:e|ing)|minus|disregard(?:ing)?)(?: (?:the|for|all|any))?(?: \\p{L}+)?")  # nolint: line_length_linter.
  any_code <- sprintf("(?:%s)", paste(gsub("([-.])", "\\\\\\1", codes), collapse = "|"))
  join <- "(?:\\s*,\\s*(?:and\\s+|or\\s+)?|\\s+(?:and|or|nor|&)\\s+)(?:\\p{L}+\\s+)?"
  runs <- stringi::stri_match_all_regex(text, quick_form(sprintf("(?i)(%s)\\s+(%s(?:%s%s)*)\\b", deny, any_code, join, any_code)))[[1]]
  runs <- runs[!is.na(runs[, 1]), , drop = FALSE]
  inside <- unlist(lapply(runs[, 3], function(run) codes[vapply(codes, function(code) grepl(paste0("\\b", code, "\\b"), run, ignore.case = TRUE), NA)]))  # nolint: line_length_linter.
  list(codes = unique(as.character(inside)), leads = unique(runs[, 2]))
}

#' "hive H01", where the keys are H038 and H042: a code of their form that none of them is
#' @section Shape: list(code, column), or NULL.
#' @noRd
lost_key <- function(codes, keys, text, vocabulary) {
  if (!length(codes)) return(NULL)
  form <- function(x) sub("[0-9].*$", "", tolower(x))
  known <- tolower(c(vocabulary$columns$name, vocabulary$values$level, unlist(keys)))
  for (code in codes[nzchar(form(codes))]) for (name in names(vocabulary$ids)) {
    own <- vocabulary$ids[[name]]
    if (tolower(code) %in% known || !all(form(own) == form(code)) || !grepl(paste0("\\b", code, "\\b"), text)) next
    # the word before it, or its capital, says that it names one of them
    before <- stem_words(tolower(sub(sprintf("^.*?([\\p{L}]+) +%s\\b.*$", code), "\\1", text, perl = TRUE)))
    if (before %in% key_stems(name) || grepl("^[A-Z]+[0-9]{2,}$", code)) return(list(code = code, column = name))
  }
  NULL
}

#' "strength before and after" as "strength before and strength after", where both columns are there
#' @noRd
open_before_after <- function(text, vocabulary) {
  both <- "(from )?(before (and|to|versus|vs|against) after|pre (and|to) post)( the [a-z]+)?"
  if (!grepl(both, text, ignore.case = TRUE, perl = TRUE)) return(text)
  # a unit may follow ("weight_before_kg")
  names <- strip_tail(vocabulary$columns$name)
  for (pair in list(c("before", "after"), c("pre", "post"))) {
    stem <- sub(paste0("[_. ]", pair[1], "$"), "", grep(paste0("[_. ]", pair[1], "$"), names, value = TRUE))
    stem <- stem[vapply(stem, function(s) any(names %in% paste0(s, c("_", ".", " "), pair[2])), NA)]
    for (s in stem) {
      words <- gsub("[_.]+", " ", s)
      if (!grepl(paste0("\\b", words, "\\b"), text, ignore.case = TRUE, perl = TRUE)) next
      text <- sub(both, "", text, ignore.case = TRUE)
      return(sub(paste0("\\b", words, "\\b"), sprintf("%s %s and %s %s", words, pair[1], words, pair[2]), text, ignore.case = TRUE))
    }
  }
  text
}

#' "organic wines ... than conventional ones", of a column organic with the level organic: both levels are named
#' @section Shape: list(state, mentions).
#' @noRd
both_levels_named <- function(state, mentions) {
  for (i in seq_along(state$groups)) {
    g <- state$groups[[i]]
    if (!names_one(g) || !says(state, "\\b(than|versus|vs|compared (to|with)|against|and|or)\\b")) next
    for (j in seq_along(mentions)) {
      m <- mentions[[j]]
      own <- unique(state$vocabulary$values$level[state$vocabulary$values$column == g$column])
      level <- own[tolower(own) == item_norm(state, m$at)]
      if (m$column != g$column || length(level) != 1 || level == g$levels || m$marker == "by") next
      state$groups[[i]]$levels <- c(level, g$levels)
      state$groups[[i]]$at <- c(m$at, g$at)
      return(list(state = state, mentions = mentions[-j]))
    }
  }
  list(state = state, mentions = mentions)
}

decide_reading <- function(state, mentions) {
  named <- both_levels_named(state, mentions)
  state <- named$state; mentions <- named$mentions
  mentions <- settle_repeated(state, without_counted(state, mentions))
  # ("tickets opened on Mondays": the verb belongs to the condition)
  mentions <- without_date_verbs(state, without_side_nouns(state, mentions))
  # ("quotes about feed": the word is looked for in the answers, it names no column)
  if (asks_for_quotes(state)) mentions <- Filter(function(m) m$marker == "by" || kind_at(state, m$column) == "text", mentions)
  scores <- score_tasks(state, mentions)
  task <- names(scores)[which.max(scores)]
  if (task %in% c("relate", "agreement", "compare", "change")) mentions <- open_plural(state, open_by_parts(state, mentions))
  if (task == "describe") mentions <- open_described(state, mentions)
  if (!is.null(state$flags$lost_key)) return(lost_key_verdict(state))
  nothing <- max(scores) < 0.3 && !length(mentions) && !length(state$groups) && !length(state$filters)
  unknown <- unknown_words(state)
  if (nothing) return(nothing_verdict(state, unknown))
  # ("the salary of top performers versus others" sets two sides against each other and ranks nothing)
  if (task == "rank" && says(state, "\\b(vs|versus|compared (to|with)|than) (the |all )?(others?|rest)\\b")) task <- "compare"
  task <- fit_task(state, mentions, task)
  reading <- fill_task(state, mentions, task)
  if (length(unknown) && !forgives_unknown(task)) return(absent_verdict(state, finish_reading(reading), unknown))
  reading <- adjoining_periods(without_filter_dates(state, reading))
  unread <- c(unread_measure(state, reading), unread_adjustment(state, mentions), unread_cluster(state), unread_groups(state, reading),
      unread_cause(state, reading))
  if (length(unread)) return(absent_verdict(state, finish_reading(reading), unread))
  verb <- change_of_nothing(state, reading)
  if (!is.null(verb)) return(who_changed_verdict(state, finish_reading(reading), verb))
  if (asks_end_values(state, reading)) return(end_values_verdict(state, finish_reading(reading)))
  if (asks_single_change(state, reading)) return(no_change_verdict(state, finish_reading(reading)))
  # a word that names a whole set leaves nothing open
  whole <- isTRUE(reading$extra$items) || length(reading$outcome) > 1 && any(vapply(state$items, has_lex, NA, "scope", "items"))
  ambiguous <- if (needs_columns(task) && !whole) ambiguous_mention(mentions)
  if (!is.null(ambiguous)) return(ambiguity_verdict(state, mentions, task, ambiguous))
  reading$assumed <- unique(c(reading$assumed, link_assumptions(state, mentions), group_assumptions(state, reading)))
  reading <- finish_reading(reading)
  undecided <- undecided_verdict(state, reading)
  if (!is.null(undecided)) return(undecided)
  if (!is.null(reading$extra$level_open)) return(level_verdict(state, reading))
  if (!is.null(state$flags$cut_band) && !length(reading$extra$missing)) return(cut_band_verdict(state, reading))
  reading <- settle_groups_unnamed(state, mentions, reading)
  reading <- condition_as_side(state, reading)
  reading <- share_of_answers(state, totals_of_periods(state, shares_of_combinations(state, reading)))
  if (reading$task == "frequency") reading <- finish_reading(without_fixed(reading, reading$filters))
  reading <- rank_of_counts(state, half_understood(state, count_for_effect(state, mean_for_comparison(state, reading))))
  if (length(reading$extra$missing)) return(missing_verdict(state, reading))
  if (isTRUE(reading$extra$needs_effect)) {
    return(new_verdict("needs_choice", reading,
        paste("A sample size depends on the effect to be seen: name it, such as \"a standardised difference of 0.5\",",
                                                      "\"40 % against 55 %\" or \"a correlation of 0.3\".")))
  }
  if (isTRUE(reading$extra$open_measure)) return(measure_verdict(state, reading))
  # "excluding early departures": something is to be left out, and no condition says what
  left_out <- "\\b(excluding|except for|leaving out|other than|not counting|disregarding)\\b"
  if (says(state, left_out) && !length(reading$filters) && !says(state, "\\b(missing|outliers?|incomplete|blanks?|empty|unknown|intercept)\\b") &&
      reading$task %in% c("describe", "frequency", "compare", "relate", "rank", "trend")) {
    return(new_verdict("needs_choice", reading, paste("It is not clear which rows are to be left out. Say it as a condition, such as \"where",
                                                      "COLUMN is not LEVEL\" or \"with COLUMN above 0\".")))
  }
  if (!is.null(state$flags$period_left_out)) {
    return(new_verdict("needs_choice", reading,
        sprintf("Leaving out %s is not read in a question. Name the period to keep, or leave the rows out beforehand with an amendment.",
                                                        quoted(state$flags$period_left_out))))
  }
  if (!is.null(state$flags$open_month)) {
    return(new_verdict("needs_choice", reading, sprintf("%s needs its year here. Say which, such as \"%s 2024\".",
                                                        capital(quoted(state$flags$open_month)), state$flags$open_month)))
  }
  bare <- rate_without_base(state, mentions, task)
  if (!is.null(bare)) return(rate_verdict(state, mentions, reading, bare))
  beside <- column_as_bound(state, mentions)
  if (!is.null(beside)) return(new_verdict("needs_choice", reading, near = beside$name, headline = sprintf(
    paste("%s sets a column against %s row by row. Derive the difference first, such as \"add gap as %s minus %s\", then ask for rows with",
          "gap %s 0."), quoted(beside$said), quoted(beside$name), beside$other, beside$name, beside$op)))
  per <- loose_per(state, reading)
  if (!is.null(per)) return(per)
  vague <- vague_condition(state, mentions, task)
  if (!is.null(vague)) return(vague_verdict(state, reading, vague))
  # (a sample size states its numbers and needs no column)
  if (needs_columns(task) && loosely_filtered(state, reading)) return(loose_filter_verdict(state, reading))
  loose <- loose_numbers(state, task)
  if (length(loose)) return(loose_number_verdict(state, reading, loose))
  unplaced <- unplaced_mentions(state, mentions, reading)
  if (!is.null(reading$extra$fine_by)) return(fine_groups_verdict(state, reading))
  end <- end_of_unplaced(state, mentions, reading, unplaced)
  if (!is.null(end)) return(end)
  rate <- rate_along_number(state, reading, unplaced)
  if (!is.null(rate)) return(rate)
  added <- counts_of_calendar(state, reading)
  if (!is.null(added)) return(added)
  other <- second_measure(state, mentions, reading, unplaced)
  if (!is.null(other) && !other$shown) return(choice_of_ranked(state, reading, other$name))
  if (!is.null(other)) { reading <- with_beside(reading, reading$outcome, other$name); unplaced <- character() }
  if (length(unplaced)) reading$assumed <- c(reading$assumed, no_part_said(unplaced))
  reading$extra$censored <- censored_times(state, reading)
  reading$confidence <- max(0.05, reading_confidence(state, mentions, scores, task) - 0.25 * (length(unplaced) > 0))
  new_verdict("answered", reading)
}

#' "malls versus city stores": the noun after one of two sides only says what they are, though a column is called so
#' @noRd
without_side_nouns <- function(state, mentions) {
  at <- unlist(lapply(Filter(function(g) names_several(g) && !g$negated, state$groups), `[[`, "at"))
  # "away matches", of a column that numbers the matches
  named <- unlist(lapply(state$groups, `[[`, "at"))
  mentions <- Filter(function(m) !(isTRUE(state$vocabulary$columns$index[m$column]) && (m$at - 1) %in% named && length(mentions) > 1 ||
    isTRUE(state$vocabulary$columns$index[m$column]) && (m$at - 1) %in% named && grepl("e?s$", tolower(m$text))), mentions)
  Filter(function(m) !(m$marker == "" && (m$at - 1) %in% at && is_level_kind(kind_at(state, m$column)) && grepl("s$", tolower(m$text)) &&
    !m$column %in% vapply(state$groups, `[[`, 1L, "column") && length(mentions) > 1), mentions)
}

#' Mentions without those of a date that only lead in a condition on it
#' @noRd
without_date_verbs <- function(state, mentions) {
  filtered <- c(vapply(state$filters, `[[`, "", "column"), vapply(state$groups, function(g) column_of(state, g$column), ""))
  if (length(mentions) < 2 || !length(filtered)) return(mentions)
  of_date <- filtered %in% c("day_type", "weekday", "month_of_year", "season", "month", "quarter") | grepl("_(year|month|weekday)$", filtered)
  Filter(function(m) {
    if (!kind_at(state, m$column) %in% c("date", "datetime") || m$marker != "") return(TRUE)
    leads <- item_norm(state, m$at + 1) %in% c("on", "in", "at", "during", "after", "before", "between", "since", "until", "within", "outside", "from") ||  # nolint: line_length_linter.
      state$used[min(state$n, m$at + 1)]
    !(leads && grepl("(ed|en|t|on)$", item_norm(state, m$at)) && (any(of_date) || column_of(state, m$column) %in% filtered))
  }, mentions)
}

#' "yield of hives inspected on weekdays": a date that only narrows the rows is nothing to describe beside a measure
#' @noRd
without_filter_dates <- function(state, reading) {
  # "how many joined in March": the rows are counted, not each of their days
  if (reading$task == "frequency" && length(reading$outcome) == 1 && length(reading$filters) && is.null(reading$extra$event) && !length(reading$by) &&
      kind_of_names(state, reading$outcome) %in% c("date", "datetime") && says(state, "\\bhow many\\b|\\bnumber of\\b")) {
    filtered <- vapply(reading$filters, `[[`, "", "column")
    if (reading$outcome %in% filtered || any(is_date_part(filtered))) reading$outcome <- character()
  }
  if (reading$task != "describe" || length(reading$outcome) < 2 || !length(reading$filters)) return(reading)
  dates <- reading$outcome[kind_of_names(state, reading$outcome) %in% c("date", "datetime")]
  measured <- reading$outcome[kind_of_names(state, reading$outcome) %in% c("number", "count", "ordered", "yes_no")]
  filtered <- vapply(reading$filters, `[[`, "", "column")
  of_date <- filtered %in% dates | is_date_part(filtered)
  if (length(dates) && length(measured) && any(of_date)) reading$outcome <- setdiff(reading$outcome, dates)
  reading
}

#' Is a column a part of a date, by the name it was derived under?
#' @noRd
is_date_part <- function(names) {
  names %in% c("day_type", "weekday", "month_of_year", "season", "month", "quarter") | grepl("_(year|month|weekday)$", names)
}

#' "how many chicks in each group", where no column is called so: the one column of groups, or the question which
#' @noRd
settle_groups_unnamed <- function(state, mentions, reading) {
  asked <- says(state, paste0("\\b(in|for|within|from|per|by|of) ((each|every)( of the)? ",
      "(group|arm|category|class|condition|level|type)|groups?)\\b *[?.!]*$"))
  open <- asked && reading$task %in% c("frequency", "describe") && !length(c(reading$by, reading$predictors)) && !length(setdiff(reading$extra$missing, "outcome")) &&  # nolint: line_length_linter.
    !any(vapply(mentions, function(m) can_group(state, m$column) && !can_measure(state, m$column), NA))
  if (!open) return(reading)
  columns <- state$vocabulary$columns
  fits <- setdiff(columns$name[columns$kind %in% c("category", "yes_no")], c(reading$outcome, vapply(reading$filters, `[[`, "", "column")))
  if (length(fits) != 1) { reading$extra$missing <- "by"; return(reading) }
  if (reading$task == "frequency" && !length(reading$outcome)) reading$outcome <- fits else reading$by <- fits
  reading$assumed <- c(reading$assumed, sprintf("Took %s as the groups meant.", fits))
  finish_reading(reading)
}

#' "do members over 65 return late more often": the one level that is named, set against the others
#' @noRd
condition_as_side <- function(state, reading) {
  # ("is asthma more common in smokers")
  counted <- reading$task == "frequency" && says_more_common(state) && !length(reading$extra$missing)
  # ("does treatment 2 make patients survive longer")
  lasting <- reading$task == "survival" && !length(c(reading$predictors, reading$extra$missing)) && length(reading$filters) == 1
  open <- ((identical(reading$extra$missing, "by") && reading$task == "compare" || counted) && length(reading$outcome) == 1 || lasting) &&
    !length(reading$by)
  kinds <- vapply(reading$filters, function(f) if (f$op == "==") kind_of_names(state, f$column) else "", "")
  # ("is the pulse lower in smokers of the north": yes or no, in the north)
  own <- if (any(kinds == "yes_no")) which(kinds == "yes_no") else which(kinds %in% c("category", "ordered"))
  if (!open || length(own) != 1 || says(state, "\\bthan\\b") || !says(state, "^ *(is|are|was|were|do|does|did)\\b.*\\b(more|less|fewer|better|worse|[a-z]{3,}er)\\b")) {  # nolint: line_length_linter.
    return(reading)
  }
  f <- reading$filters[[own]]
  if (!lasting) reading$task <- "compare"
  reading$by <- f$column
  reading$filters <- reading$filters[-own]
  reading$extra["missing"] <- list(NULL)
  if (lasting) reading$assumed <- c(reading$assumed, sprintf("All levels of %s are compared, with %s among them.", f$column, quoted(unlist(f$value))))
  if (kinds[own] == "yes_no" || lasting) return(finish_reading(reading))
  reading$extra$single_of <- f$column
  reading$extra$single_level <- as.character(unlist(f$value))
  if (kind_of_names(state, reading$outcome) %in% c("number", "count", "ordered")) reading$assumed <- c(reading$assumed, sprintf(
    "%s has more than two levels, so all its groups are compared, not %s alone.", quoted(f$column), quoted(unlist(f$value))))
  finish_reading(reading)
}

#' "are cyclists less stressed", where nothing tells who cycles: a mean of all rows is no answer, the groups are missing
#' @noRd
mean_for_comparison <- function(state, reading) {
  lone <- reading$task == "describe" && length(reading$outcome) == 1 && !length(c(reading$by, reading$predictors, reading$filters)) &&
    !length(reading$extra$missing) && is.null(reading$extra$null_value)
  asked <- "^ *(are|is|do|does|did|were|was) (?!(the |there|it\\b|this|that|an? ))\\w+ \\b.*\\b(more|less|fewer|[a-z]{4,}er)\\b( [a-z]+)?[?.! ]*$"
  if (!lone || !says(state, asked)) return(reading)
  reading$task <- "compare"
  reading["statistic"] <- list(NULL)
  reading$extra$missing <- "by"
  reading
}

#' "does age slow people down", "which plots lost species": a summary of what was understood is no answer
#' @noRd
half_understood <- function(state, reading) {
  bare <- !length(c(reading$by, reading$predictors, reading$extra$missing, reading$extra$event)) && is.null(reading$extra$null_value)
  if (bare && reading$task == "describe" && length(reading$outcome) == 1 && is.null(reading$statistic) && !length(reading$filters) &&
      says(state, "^ *(does|do|did) ") && !says(state, "\\b(vary|varies|range|spread|look like|distributed)\\b")) {
    reading$task <- "relate"
    reading$extra$missing <- "second"
    return(reading)
  }
  # "is the response to nitrogen curved", which does not say of what
  if (bare && reading$task == "describe" && length(reading$outcome) == 1 && is.null(reading$statistic) && !length(reading$filters) &&
      says(state, "^ *(is|are|was|were) .*\\b(responses? to|relation(ship)?s? (with|to)|associations? with|dependence on|effects? of)\\b")) {
    reading$task <- "relate"
    reading$extra$missing <- "second"
    return(reading)
  }
  kinds <- kind_of_names(state, reading$outcome)
  # "films rated 15 or 18", which sets nothing against anything: those rows
  named <- reading$task == "compare" && !length(reading$outcome) && length(reading$by) == 1 && identical(reading$extra$missing, "outcome") &&
    length(reading$filters) > 0
  if (named && says(state, "^ *(show |list |the |all |which )*[a-z]+ [a-z]*ed\\b.* or ") &&
      !says(state, "\\b(compare|versus|vs|differ\\w*|difference|than|against|between|better|worse|more|less|higher|lower)\\b")) {
    reading$task <- "look_up"
    reading$by <- character()
    reading$extra$missing <- NULL
    return(reading)
  }
  # "are block differences big": what only divides makes the groups, and nothing says what is measured
  if (reading$task == "compare" && length(reading$outcome) == 1 && identical(reading$extra$missing, "by") &&
      (identical(kinds, "category") || identical(kinds, "ordered") && says(state, "^ *compare the groups of "))) {
    reading$by <- reading$outcome
    reading$outcome <- character()
    reading$extra$missing <- "outcome"
    return(reading)
  }
  # "compare the arms adjusting for age": they make the groups, and nothing says what is measured
  if (reading$task == "predict" && length(reading$outcome) == 1 && kinds == "category" && says(state, "^ *compare ") && !length(reading$extra$missing)) {  # nolint: line_length_linter.
    reading$task <- "compare"
    reading$by <- reading$outcome
    reading$predictors <- reading$outcome <- character()
    reading$extra$missing <- "outcome"
    return(reading)
  }
  if (bare && reading$task == "frequency" && length(reading$outcome) == 1 && kinds %in% c("id", "category") && state$vocabulary$columns$distinct[match(reading$outcome, state$vocabulary$columns$name)] >= 8 &&  # nolint: line_length_linter.
      says(state, "^ *(which|what|who) .*\\b(lost|gained|fell|rose|dropped|increased|decreased|declined|improved|worsened|grew|shrank|changed)\\b")) {
    reading$task <- "compare"
    reading$by <- reading$outcome
    reading$outcome <- character()
    reading$extra$missing <- "outcome"
  }
  reading
}

#' "does the risk rise with alcohol", where nothing holds the risk: a count of alcohol is no answer, the outcome is missing
#' @noRd
count_for_effect <- function(state, reading) {
  plain <- reading$task == "frequency" && length(reading$outcome) == 1 &&
    !length(c(reading$extra$event, reading$filters, reading$by))
  if (!plain || !says(state, "^ *(does|do|did) ") || !kind_of_names(state, reading$outcome) %in% c("category", "ordered", "yes_no")) return(reading)
  reading$task <- "compare"
  reading$by <- reading$outcome; reading$outcome <- character()
  reading$extra$missing <- "outcome"
  reading
}

#' Is a condition on a word that fits several columns, of which the question asks nothing else?
#' @noRd
loosely_filtered <- function(state, reading) {
  column <- state$flags$loose_filter$column
  # (the column whose share is told is named by its condition alone)
  outcome <- if (!identical(reading$extra$event$column, column)) reading$outcome
  !is.null(column) && !column %in% c(outcome, reading$by, reading$predictors)
}

#' One reading for each column that a condition may be on
#' @noRd
loose_filter_verdict <- function(state, reading) {
  loose <- state$flags$loose_filter
  moved <- function(f, name) { if (!is.null(f) && identical(f$column, loose$column)) f$column <- name; f }
  choices <- lapply(loose$columns, function(name) {
    r <- swap_name(reading, loose$column, name)
    r$filters <- lapply(r$filters, moved, name)
    if (length(r$extra$event)) r$extra$event <- moved(r$extra$event, name)
    r$assumed <- gsub(loose$column, name, r$assumed, fixed = TRUE)
    finish_reading(r)
  })
  choice_verdict(state, reading, choices, say_ambiguous(loose$text, loose$columns))
}

#' Columns that the question names and the reading does not use
#' @noRd
unplaced_mentions <- function(state, mentions, reading) {
  if (!needs_columns(reading$task)) return(character())
  used <- unlist(c(reading[c("outcome", "by", "predictors", "adjust_for", "unit", "time")], lapply(reading$filters, `[[`, "column"),
                   reading$extra[setdiff(names(reading$extra), "outcome_mentions")]))
  out <- vapply(mentions, function(m) {
    name <- column_of(state, m$column)
    # the rows ranked are shown under their own names
    shown <- reading$task %in% c("rank", "look_up") && kind_at(state, m$column) == "id"
    if (name %in% used || shown || any(column_of(state, m$cols$column) %in% used)) NA_character_ else name
  }, "")
  unique(out[!is.na(out)])
}

#' "the mean weight by age", of many ages: no mean of each of them is meant, and a relation or bands may be
#' @noRd
fine_groups_verdict <- function(state, reading) {
  name <- reading$extra$fine_by
  reading$extra$fine_by <- NULL
  distinct <- state$vocabulary$columns$distinct[match(name, state$vocabulary$columns$name)]
  related <- reading
  related$task <- "relate"; related["statistic"] <- list(NULL); related$outcome <- reading$outcome[1]; related$predictors <- name
  choices <- list(finish_reading(related))
  if (distinct <= 60) { each <- reading; each$by <- name; choices <- c(choices, list(finish_reading(each))) }
  choice_verdict(state, reading, choices, sprintf(paste("%s takes %s different values. Ask by bands of it, such as \"by quartile of %s\", or choose",
    "one of the readings below, by number or in your own words."), quoted(name), format_plain(distinct), name))
}

#' "the mean yield on the top grade": which end of a column is meant is no ranking of something else; NULL where nothing is open
#' @noRd
end_of_unplaced <- function(state, mentions, reading, unplaced) {
  if (reading$task != "rank" || !length(asked_statistics(state)) && !says(state, "^ *(is|are|was|were|do|does|did)\\b")) return(NULL)
  own <- Filter(function(m) column_of(state, m$column) %in% unplaced && grepl("^(top|bottom|highest|lowest|best|worst)$", item_norm(state, m$at - 1)),
                mentions)
  if (!length(own)) return(NULL)
  said <- paste(item_norm(state, own[[1]]$at - 1), state$items[[own[[1]]$at]]$text)
  new_verdict("needs_choice", reading, sprintf("It is not clear which rows %s stands for. Say it as a condition, such as \"where %s is ...\".",
                                               quoted(said), column_of(state, own[[1]]$column)))
}

#' "does the rate of r per m rise with age": a rate by a measured column is a model of the count, made over the other; asked back
#' @noRd
rate_along_number <- function(state, reading, unplaced) {
  if (!isTRUE(reading$extra[["rate"]]) || length(unplaced) != 1 || !kind_of_names(state, unplaced) %in% c("number", "count")) return(NULL)
  top <- reading$outcome[1]; base <- reading$predictors[1]
  if (is.na(top) || is.na(base) || !identical(kind_of_names(state, top), "count")) return(NULL)
  model <- reading
  model$task <- "predict"; model$by <- character(); model$predictors <- unplaced
  model["statistic"] <- list(NULL); model$extra["rate"] <- list(NULL)
  model <- finish_reading(with_offset(model, base, top))
  choice_verdict(state, reading, list(model), sprintf(
    "%s takes many values, so no rate is told for each of them. Take the model below, or ask by bands of it, such as \"%s per %s by quartile of %s\".",  # nolint: line_length_linter.
    quoted(unplaced), top, base, unplaced))
}

#' "deaths by month", of rows that are months with their own values: a column is to be added up, and which is asked back
#' @return NULL where rows are counted; else a verdict.
#' @noRd
counts_of_calendar <- function(state, reading) {
  if (!identical(reading$task, "frequency") || length(reading$extra$event) || !isTRUE(state$vocabulary$calendar)) return(NULL)
  groups <- unique(c(reading$outcome, reading$by))
  if (any(kind_of_names(state, groups) %in% c("number", "count") & state$vocabulary$columns$role[match(groups, state$vocabulary$columns$name)] != "year")) return(NULL)  # nolint: line_length_linter.
  noun <- Filter(function(k) state$type[k] %in% c("entity", "filler") && grepl("s$", item_norm(state, k)) &&
    !grepl("^(row|record|observation|day|month|week|year|quarter|value|case|entry|entrie|time)s$", item_norm(state, k)), seq_len(state$n))
  columns <- state$vocabulary$columns
  measures <- columns$name[columns$kind %in% c("number", "count") & columns$role == ""]
  measures <- utils::head(setdiff(measures, c(groups, "month", "quarter", "week")), 4)
  if (!length(noun) || !length(measures)) return(NULL)
  choices <- lapply(measures, function(name) {
    r <- reading
    r$task <- "describe"; r$statistic <- "sum"; r$outcome <- name; r$by <- groups
    finish_reading(r)
  })
  choice_verdict(state, reading, choices, sprintf(
    "Each row is a month or a quarter with its own values, so rows are no %s. Choose what is added up, by number or in your own words.",
        item_norm(state, noun[1])))
}

#' "highest NOx with its E", "which E has the highest NOx": the measure that rows are not ranked by
#' @section Shape: list(name, shown: does the question ask to see it beside the other?), or NULL where no second measure is named.
#' @noRd
second_measure <- function(state, mentions, reading, unplaced) {
  if (reading$task != "rank" || length(reading$by) || length(reading$outcome) != 1 || length(unplaced) != 1 || length(reading$extra$event)) return(NULL)  # nolint: line_length_linter.
  own <- Filter(function(m) column_of(state, m$column) == unplaced, mentions)
  if (!length(own) || !can_measure(state, own[[1]]$column)) return(NULL)
  lead <- paste(vapply(own[[1]]$at - 2:1, function(k) item_norm(state, k), ""), collapse = " ")
  list(name = unplaced, shown = grepl("\\b(with|and|with its|with their|and its|and their|beside|alongside)( the)?$", lead))
}

#' Rows ranked by one measure, with another shown beside it
#' @noRd
with_beside <- function(reading, outcome, also) {
  reading$outcome <- outcome
  reading$extra$also <- unique(c(reading$extra$also, also))
  finish_reading(reading)
}

choice_of_ranked <- function(state, reading, other) {
  choices <- list(with_beside(reading, reading$outcome, other), with_beside(reading, other, reading$outcome))
  choice_verdict(state, reading, choices, sprintf("Rows can be ranked by %s or by %s. Choose one of the readings below, by number or in your own words.",  # nolint: line_length_linter.
    quoted(reading$outcome), quoted(other)))
}

#' "litres per degree": a unit after "per" that the reading has no place for; NULL where there is none
#' @noRd
loose_per <- function(state, reading) {
  if (reading$task != "describe" || length(reading$by) || isTRUE(reading$extra[["rate"]]) || length(reading$outcome) != 1) return(NULL)
  at <- Filter(function(k) item_norm(state, k - 1) == "per" && !state$used[k] && state$type[k] == "unit", seq_len(state$n))
  if (!length(at)) return(NULL)
  column <- unit_column(state, item_norm(state, at[1]))
  name <- if (!is.na(column)) column_of(state, column)
  said <- item_norm(state, at[1])
  timed <- grepl("^(second|minute|hour|day|night|week|fortnight|month|quarter|year|season)s?$", said)
  # ("the mean per unit", "per person" and per stretch of time may be what the rows are)
  if (is.null(name) && !timed && length(reading$outcome) == 1 && !reading$outcome %in% state$vocabulary$columns$name[at_unit(state, said)]) {
    return(new_verdict("needs_choice", reading, sprintf(
      "No column is known to be measured in %s. Name the column that a value is taken per, such as \"%s per COLUMN\".", quoted(said),
      reading$outcome)))
  }
  if (is.null(name) || name %in% reading$outcome) return(NULL)
  model <- reading; model$task <- "predict"; model$predictors <- name; model["statistic"] <- list(NULL)
  choices <- list(finish_reading(model), finish_reading(fill_rate(state, list(), new_reading("describe"),
      list(top = list(column = match(reading$outcome,
    state$vocabulary$columns$name)), base = list(column = column)))))
  choice_verdict(state, reading, choices, sprintf("%s can be read in two ways. Choose one of the readings below, by number or in your own words.",
                                                  capital(quoted(paste("per", state$items[[at[1]]]$text)))))
}

#' The columns whose unit or name already says that they are per such a unit
#' @noRd
at_unit <- function(state, said) {
  columns <- state$vocabulary$columns
  which(grepl(sprintf("(/|per[_ .]?)%s", as_literal(substr(said, 1, 2))), tolower(paste(columns$unit, columns$name)), perl = TRUE) |
    columns$unit %in% c("mpg", "mph", "kmh", "km/h", "m/s"))
}

#' "reps below target": a measured column as the bound of a condition, where a number was expected
#' @section Shape: list(said, name, other, op), or NULL.
#' @noRd
column_as_bound <- function(state, mentions) {
  for (m in mentions) {
    if (m$adjective || !kind_at(state, m$column) %in% c("number", "count")) next
    j <- m$at - 1
    while (item_norm(state, j) %in% c("the", "their", "its", "own")) j <- j - 1
    word <- item_norm(state, j)
    bound <- word %in% c("below", "above", "exceeding", "beyond") || word %in% c("under", "over") &&
      grepl("target|budget|goal|limit|threshold|plan|quota|norm", tolower(column_of(state, m$column)))
    if (!bound || state$used[max(1, j)] || state$type[max(1, m$at - 1)] == "number") next
    if (grepl("\\b(average|mean|median)\\b", paste(item_norm(state, m$at - 1), item_norm(state, m$at + 1)))) next
    others <- setdiff(state$vocabulary$columns$name[state$vocabulary$columns$kind %in% c("number", "count")], column_of(state, m$column))
    if (!length(others)) next
    return(list(said = paste(word, m$text), name = column_of(state, m$column), other = others[1], op = if (word %in% c("below",
        "under")) "below" else "above"))
  }
  NULL
}

#' "sales on rainy days": an adjective of a measured column narrows the rows but does not say from which value
#' @noRd
vague_condition <- function(state, mentions, task) {
  if (!task %in% c("describe", "frequency", "compare") || length(mentions) < 2) return(NULL)
  for (m in mentions) {
    plain <- m$adjective && state$type[m$at] == "adjective" && !grepl("(er|est)$", item_norm(state, m$at))
    before <- item_norm(state, m$at - 1)
    if (plain && before %in% c("on", "in", "for", "during", "of", "among", "with", "at") && !item_norm(state, m$at + 1) %in% c("", "and", "or",
      "than")) return(m)
  }
  NULL
}

vague_verdict <- function(state, reading, m) {
  name <- column_of(state, m$column)
  r <- reading
  for (slot in c("outcome", "by", "predictors")) r[[slot]] <- setdiff(r[[slot]], name)
  r$filters <- c(r$filters, list(new_filter(name, if (m$low) "<=" else ">", 0)))
  r$assumed <- character()
  choice_verdict(state, reading, list(finish_reading(r)),
    sprintf("%s leaves open from which value of %s on. Name it (\"with %s above 5\"), or choose the reading below.",
                                                                 quoted(m$text), quoted(name), name))
}

#' Numbers in the question that no condition, setting or slot has taken up
#' @noRd
loose_numbers <- function(state, task) {
  if (!task %in% c("describe", "frequency", "compare", "change", "relate", "distribution", "drivers", "predict", "look_up")) return(integer())
  at <- which(state$type == "number" & !state$used)
  # a model has numbers of its own: its degree, its knots, the step of a coefficient
  own <- "^(knots?|degrees?|folds?|fold|predictors?|variables?|terms?|trees?|splits?|rules?|leaves|df|factors?|things?|columns?|covariates?|power)$"
  if (task == "predict") at <- at[!vapply(at, function(k) grepl(own, item_norm(state, k + 1)) ||
    item_norm(state, k - 1) %in% c("per", "each", "every", "by", "extra", "additional", "degree", "order", "top"), NA)]
  if (asks_for_baseline(state)) at <- at[vapply(at, function(k) item_norm(state, k - 1) != "table", NA)]
  # number words ("two drugs", "the three arms") count things; only figures and words of quantity state a condition
  at <- at[vapply(at, function(k) grepl("^-?[0-9.]", item_norm(state, k)) && !is_setting(state, k), NA)]
  # "30-day readmissions", of readmitted_30d: the number is part of the column's name
  own <- unlist(lapply(which(state$type == "column"), function(k) column_of(state, state$items[[k]]$cols$column[1])))
  at <- at[!vapply(at, function(k) any(grepl(sprintf("(^|[^0-9])%s([^0-9]|$)", item_norm(state, k)), own)) && grepl("^(day|week|month|year|hour)s?$",
    item_norm(state, k + 1)), NA)]
  at[!vapply(at, function(k) grepl("^(way|sided|tailed|groups?|arms?|levels?|times?|clusters?|segments?|factors?|components?|dimensions?)$",
    item_norm(state, k + 1)), NA)]
}

forgives_unknown <- function(task) task %in% c("overview", "quality", "sample_size", "explain", "themes", "advise")
needs_columns <- function(task) !task %in% c("pool", "overview", "explain", "sample_size", "quality", "advise", "look_up")

nothing_verdict <- function(state, unknown) {
  blank <- finish_reading(new_reading("clarify"))
  near <- utils::head(state$vocabulary$columns$name, 5)
  if (length(unknown)) return(absent_verdict(state, blank, unknown))
  new_verdict("needs_choice", blank,
          sprintf("The question names no column and no task. This data holds %s; ask about one of them.",
                  some_of(quoted(near), 5)), near)
}

#' Say which column a word was taken for, where it is not the column's own name
#' @noRd
link_assumptions <- function(state, mentions) {
  out <- character()
  for (m in mentions) {
    name <- column_of(state, m$column)
    letters_only <- function(x) gsub("[^[:alnum:]]+", "", tolower(x))
    said <- letters_only(m$text)
    if (nzchar(said) && said != letters_only(name)) out <- c(out, sprintf("Took %s to mean the column %s.", quoted(m$text),
                                                             quoted(name)))
  }
  # "revenue per visitor", of data with no visitors: what a row is taken for
  keys <- any(state$vocabulary$columns$kind == "id" & !state$vocabulary$columns$unique)
  for (k in which(state$type == "entity" & !state$used & !keys)) if (grepl("(^| )(per|each|every)$", item_norm(state, k - 1)) &&
      !state$items[[k]]$norm %in% c("day", "days", "week", "month", "year", "group")) {
    out <- c(out, sprintf("Took each row as one %s.", state$items[[k]]$text))
  }
  for (k in which(state$type == "unknown" & !state$used)) {
    if (is_modifier(state, k) || within_own_words(state, k)) out <- c(out, sprintf("The word %s was not used.", quoted(state$items[[k]]$text)))
    else if (names_things(state, k)) out <- c(out, sprintf("Took %s to mean the rows.", quoted(state$items[[k]]$text)))
  }
  out
}

group_assumptions <- function(state, reading) {
  out <- character()
  # (a level of the column that is itself asked about was no condition)
  kept <- Filter(function(g) reading$task != "rank" || !column_of(state, g$column) %in% reading$by, state$groups)
  for (g in kept) for (k in g$at) {
    item <- state$items[[k]]
    if (state$type[k] != "value") next
    level <- value_level(state, k, g$column)
    if (length(level) > 1) {
      out <- c(out, sprintf("Took %s to mean %s is %s.", quoted(item$text), quoted(column_of(state, g$column)),
          some_of(quoted(level), 6, and = "or")))
    } else if (!identical(tolower(item$text), tolower(level))) out <- c(out,
        sprintf("Took %s to mean %s is %s.", quoted(item$text), quoted(column_of(state, g$column)), quoted(level)))
  }
  if (length(reading$extra$single_level)) {
    out <- c(out, sprintf("%s has more than two levels, so all its groups are compared, not %s alone.",
                          quoted(reading$extra$single_of), quoted(reading$extra$single_level)))
  }
  out
}

#' "what is interesting here", "analyse everything", "what should I look at first"
#' @noRd
asks_for_screening <- function(text) {
  grepl(paste0("^ *(please |can you |could you )*(what( is|'s| are)? (the )?(most )?(interesting|notable|worth (looking ",
      "at|knowing)|standing out|stands out|surprising)( things?| patterns?)?( here| in (this|the|my) (data|file|study))?|",
               "(analy[sz]e|explore|examine|test|investigate|look at) (everything|all( of it)?|it all|the (whole )?data(set)?|this ",
                   "data(set)?|all (the )?(columns|variables|relations|relationships|pairs))|",
               "what (should|could|can) i look at( first| next)?|what (goes|hangs|belongs) together( here| in (this|the) data)?|find ",
                   "(me )?(interesting|notable|the) (things|patterns|relations|relationships)( in (this|the) data)?|",
               "(are there )?any(thing)? (interesting|notable)( patterns| relations)?( here| in (this|the) data)?|which ",
                   "(pairs of )?(columns|variables|pairs) (are (most |best |strongly |clearly )?(related|correlated|associated)|go ",
                       "together|belong together)",
                      "( to each other| with each other| most)?)[?.! ]*$"),
        text, ignore.case = TRUE, perl = TRUE)
}

#' Up to twelve columns that can be related, the fullest first
#' @noRd
screening_verdict <- function(study) {
  vocabulary <- study_vocabulary(study)
  columns <- vocabulary$columns
  home <- columns$table == names(data_tables(study))[1]
  ok <- home & !columns$role %in% c("weight") & (columns$kind %in% c("number", "count", "ordered",
    "yes_no") | (columns$kind == "category" & columns$distinct <= 12))
  names <- columns$name[ok]
  r <- new_reading("relate")
  if (length(names) < 2) return(new_verdict("cannot_answer", finish_reading(r), "This data holds fewer than two columns that can be related."))
  if (length(names) > 12) {
    gaps <- vapply(names, function(n) sum(is.na(understood(study, n, columns$table[match(n, columns$name)]))), 1)
    names <- names[sort(order(gaps, seq_along(gaps))[1:12])]
    r$assumed <- sprintf("Looked at the twelve fullest of %d columns: %s.", sum(ok), some_of(names, 12))
  } else r$assumed <- sprintf("Looked at all columns that can be related: %s.", some_of(names, 12))
  r$outcome <- names
  r$extra$screen <- TRUE
  r$confidence <- 0.9
  new_verdict("answered", finish_reading(r))
}

#' "number of sales", where sales could only be the amounts: the rows are counted, the amounts are not meant
#' @noRd
without_counted <- function(state, mentions) {
  mentions <- without_described(state, mentions)
  Filter(function(m) {
    lead <- paste(item_norm(state, m$at - 2), item_norm(state, m$at - 1))
    # "how many miles per gallon" asks for an amount
    counted <- lead == "number of" || item_norm(state, m$at - 1) == "number of" ||
      item_norm(state, m$at - 1) == "how many" && item_norm(state, m$at) %in% c("sales", "purchases", "transactions")
    !(counted && kind_at(state, m$column) == "number" && m$score < 0.95)
  }, mentions)
}

#' "do houses with a heat pump use more": who is asked about is told by what follows; the word for the rows divides nothing
#' @noRd
without_described <- function(state, mentions) {
  if (length(mentions) < 2 || !says(state, "^ *(do|does|did|have|has) [^,]*\\b(more|less|fewer|longer|better|worse|higher|lower)\\b")) return(mentions)  # nolint: line_length_linter.
  described <- vapply(mentions, function(m) kind_at(state, m$column) %in% c("id", "category") && m$at <= 3 && m$marker == "" &&
    item_norm(state, m$at + 1) %in% c("with", "that", "who", "having") && grepl("s$", item_norm(state, m$at)), NA)
  yes_no <- vapply(mentions, function(m) kind_at(state, m$column) == "yes_no", NA)
  if (sum(described) == 1 && any(yes_no)) mentions[!described] else mentions
}
