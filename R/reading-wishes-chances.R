# Everyday questions about chances and odds: of somebody described by numbers, per step of a number, of being alive, of two predictors.
# Each wish gives list(text, extra, told) as those of R/reading-models.R, or NULL.

#' The wishes of this file, each with words without which it cannot stand
#' @noRd
chance_wishes <- function() {
  list(wish("chance|probability|risk|likelihood|how likely", wish_chance_of_someone), wish("odds|hazard", wish_ratio_per_step), wish("odds ratio",
      wish_odds_ratio_of),
       wish("alive|surviv", wish_alive_at), wish("better predictor|stronger predictor", wish_predictor_of_what),
       wish("sooner|later|earlier|longer|faster|quicker", wish_sooner))
}

#' "odds ratio of weight for low", "odds ratio of age for low, adjusted for smoking": the odds are of the column with two values
#'
#' Of two columns with two values either could be the outcome: they are read elsewhere.
#' @noRd
wish_odds_ratio_of <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "odds ratios? (?:of|for) (?:the |an? )?([^,]+?) (?:for|on|in|of|with|and) (?:the |an? )?([^,]+?)",  # nolint: line_length_linter.
                                  "((?:,? (?:adjust|controll|holding|allowing|within|stratified|matched).*)?)[?. ]*$"))
  if (is.null(hit) || grepl("\\b(per|each|every)\\b|[0-9]", hit[2], ignore.case = TRUE)) return(NULL)
  a <- column_said(vocabulary, hit[2]); b <- column_said(vocabulary, hit[3])
  if (is.null(a) || is.null(b) || a$name == b$name) return(NULL)
  two <- c(a$distinct, b$distinct) == 2 & c(a$kind, b$kind) %in% c("yes_no", "category", "count")
  if (sum(two) != 1) return(NULL)
  # (of levels that are no numbers the table tells which against which)
  if (!nzchar(hit[4]) && !list(a, b)[[which(!two)]]$kind %in% c("number", "count")) return(NULL)
  y <- if (two[2]) b else a; x <- if (two[2]) a else b
  rest <- sub("(?i),? ?(?:within (?:the )?)?(?:strata|levels) of|,? ?stratified by", ", adjusting for", hit[4], perl = TRUE)
  list(text = paste0(model_text(y$name, x$name, "logistic regression"), rest), extra = list())
}

#' "what is the chance of low birth weight for a 25 year old smoker": what a model expects of somebody so described
#'
#' A number that somebody is described by holds in few rows only, so that their share would say little.
#' @noRd
wish_chance_of_someone <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "(?:expected |predicted )?(?:chances?|probability|risk|likelihood) (?:of|for) (?:having |getting |being )?(?:an? |the )?(.+?) ",  # nolint: line_length_linter.
                                  "(?:for|in|of) (an? .+?)[?. ]*$"))
  if (is.null(hit) || !grepl("[0-9]", hit[3])) return(NULL)
  y <- column_said(vocabulary, hit[2])
  if (is.null(y) || y$kind != "yes_no") return(NULL)
  at <- described_at(hit[3], vocabulary, y$name)
  if (is.null(at)) {
    values <- values_of_described(hit[3], vocabulary)
    numbers <- names(values) %in% vocabulary$columns$name[vocabulary$columns$kind %in% c("number", "count")]
    if (sum(numbers) > 1 && !y$name %in% names(values)) at <- paste(names(values), values)
  }
  if (!is.null(at)) list(text = sprintf("expected %s at %s", y$name, paste(at, collapse = " and ")), extra = list())
}

#' "a 25 year old smoker", "a man of 60 with a bmi of 30": the columns and their values
#' @section Shape: Character vector such as "age 25", "smoker = yes"; NULL where words stay that name nothing, or no number is there.
#' @noRd
described_at <- function(said, vocabulary, but) {
  columns <- vocabulary$columns
  age <- columns$name[columns$kind %in% c("number", "count") & vapply(columns$name, function(n) "age" %in% name_stems(n), NA)]
  rest <- sub("(?i)^an? ", "", said, perl = TRUE)
  at <- character()
  old <- first_match(rest, "(?i)\\b(?:aged )?([0-9]+(?:[.][0-9]+)?)[- ]years?[- ]olds?\\b|\\b(?:aged|of age|of) ([0-9]+(?:[.][0-9]+)?)(?: years)?(?= with|$)")  # nolint: line_length_linter.
  if (!is.null(old)) {
    if (length(age) != 1) return(NULL)
    at <- sprintf("%s %s", age, stats::na.omit(old[2:3])[1])
    rest <- sub(old[1], " ", rest, fixed = TRUE)
  }
  for (part in strsplit(rest, " *, *| and | with | who (?:is|are) | having ")[[1]]) {
    part <- trimws(sub("(?i)^(?:an?|the) ", "", trimws(part), perl = TRUE))
    if (!nzchar(part) || names_rows(vocabulary, part)) next
    one <- described_part(part, vocabulary)
    if (is.null(one)) return(NULL)
    at <- c(at, one)
  }
  if (any(grepl("[0-9]", at)) && !but %in% sub(" .*$", "", at)) at
}

#' "bmi of 30", "black smoker": a column at a number, the yes of columns, or levels; NULL where a word names none of them
#' @noRd
described_part <- function(part, vocabulary) {
  number <- first_match(part, "(?i)^(?:a |an |the )?(.+?) (?:of |is |at |= ?)?([0-9]+(?:[.][0-9]+)?)(?: [\\p{L}%]+)?$")
  if (!is.null(number)) {
    x <- column_said(vocabulary, number[2])
    return(if (!is.null(x) && x$kind %in% c("number", "count")) sprintf("%s %s", x$name, number[3]))
  }
  one <- described_word(part, vocabulary)
  words <- strsplit(part, " ")[[1]]
  if (!is.null(one) || length(words) == 1) return(one)
  words <- Filter(function(w) !names_rows(vocabulary, w), words)
  each <- lapply(words, described_word, vocabulary = vocabulary)
  if (length(words) && !any(vapply(each, is.null, NA))) unlist(each)
}

#' @noRd
described_word <- function(said, vocabulary) {
  values <- vocabulary$values
  own <- unique(values[values$phrase == joined_stems(tolower(said)), c("column", "level")])
  if (nrow(own) == 1) return(sprintf("%s %s", vocabulary$columns$name[own$column], own$level))
  if (grepl(" ", said) && !joined_stems(tolower(said)) %in% vocabulary$phrases$phrase) return(NULL)
  x <- column_said(vocabulary, said)
  if (!is.null(x) && x$kind == "yes_no") sprintf("%s %s", x$name, x$last_level)
}

#' "odds ratio per 10 units of glucose": of the one yes/no column, or the question is what of
#' @noRd
wish_ratio_per_step <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "odds ratios? (?:per|for each|for every|for an? (?:increase|rise) (?:of|by)) ([0-9]+(?:[.][0-9]+)?) ?(?:units? |points? |[\\p{L}/]{1,10} )?",  # nolint: line_length_linter.
                                  "(?:of|in) (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  x <- column_said(vocabulary, hit[3])
  if (is.null(x) || !x$kind %in% c("number", "count")) return(NULL)
  own <- which(vocabulary$columns$kind == "yes_no")
  outcome <- if (length(own) == 1) vocabulary$columns$name[own]
  list(text = if (is.null(outcome)) sprintf("logistic regression on %s in steps of %s", x$name, hit[2])
       else sprintf("logistic regression of %s on %s in steps of %s", outcome, x$name, hit[2]), extra = list(),
       told = if (!is.null(outcome)) sprintf("Took %s, the only yes/no column, as the outcome.", outcome))
}

#' "how many were still alive at 6 months", "share alive after a year": without the event by then
#' @noRd
wish_alive_at <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:how many|what (?:share|proportion|percentage|percent|fraction)|(?:the )?(?:share|proportion|percentage|fraction))(?: of [\\p{L} ]+?)? ",  # nolint: line_length_linter.
                                  "?(?:patients |people |subjects |of them )?(?:were |are |was |is )?(?:still )?(?:alive|surviving|survived|survive) (?:at|after|by|beyond|past|for) (.+?)[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit) || !grepl("[0-9]|\\b(a|an|one|two|three|four|five|six|ten|twelve)\\b", hit[2])) return(NULL)
  columns <- vocabulary$columns
  died <- columns$kind %in% c("yes_no", "category", "count") & grepl("dead|death|died|status|event|surviv|censor", columns$name, ignore.case = TRUE)
  if (!any(died) || any(columns$kind == "yes_no" & grepl("surviv", columns$name, ignore.case = TRUE))) return(NULL)
  list(text = sprintf("survival at %s", sub("(?i)^(?:a|an|one) (?=year|month|week|day)", "1 ", hit[2], perl = TRUE)), extra = list())
}

#' "is glucose a better predictor than bmi": of what has to be said, unless one yes/no column is there
#' @noRd
wish_predictor_of_what <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:is|are) (?:the )?(.+?) an? (?:better|stronger) predictor than (?:the )?(.+?)[?. ]*$")
  if (is.null(hit)) return(NULL)
  said <- lapply(hit[2:3], column_said, vocabulary = vocabulary)
  if (any(vapply(said, is.null, NA))) return(NULL)
  names <- vapply(said, `[[`, "", "name")
  own <- setdiff(vocabulary$columns$name[vocabulary$columns$kind == "yes_no"], names)
  if (length(own) != 1) return(list(text = sprintf("predict from %s and %s", names[1], names[2]), extra = list()))
  list(text = sprintf("which columns are related to %s most", own), extra = list(only_columns = names),
       told = sprintf("Took %s, the only yes/no column, as what is predicted.", own))
}

#' "did patients who lost more weight die sooner", of a measure and a time to an event: the hazard over that measure
#' @noRd
wish_sooner <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:do|does|did) (?:the )?[\\p{L}]+ (?:who|that|with) (?:(?:had|have|has|are|were|is) )?(?:(?:a |an )?(?:higher|lower|more|less|greater|larger|smaller) (.+?)|(?:[\\p{L}]+ )(?:more|less) (.+?)) ",  # nolint: line_length_linter.
                                  "(die|survive|live|relapse|fail|recover|leave|drop out|cancel|churn)s? (?:sooner|later|earlier|longer|faster|quicker|shorter)[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  columns <- vocabulary$columns
  timed <- columns$kind %in% c("number", "count") & grepl("time|days|months|years|weeks|tenure|surviv|duration", columns$name, ignore.case = TRUE)
  # (more of a word of the name, "lost more weight" of weight_loss)
  said <- stats::na.omit(hit[2:3])[1]
  x <- column_said(vocabulary, said) %||% measured_for(vocabulary, stems_of(sub("(?i)^.*?\\b(?:who|that|with) ", "", hit[1], perl = TRUE))[[1]])
  if (is.null(x) || !x$kind %in% c("number", "count", "ordered") || !any(timed)) return(NULL)
  list(text = sprintf("is survival related to %s", x$name), extra = list())
}

#' The one measured column of which every telling word of the name is among some stems, forms of a verb allowed for
#' @noRd
measured_for <- function(vocabulary, stems) {
  columns <- vocabulary$columns
  irregular <- c(lost = "loss", lose = "loss", gain = "gain", grew = "growth", spent = "spend")
  said <- unique(c(stems, stem_words(unname(irregular[intersect(stems, names(irregular))]))))
  own <- which(columns$kind %in% c("number", "count", "ordered") & vapply(columns$name, function(n) { s <- telling_stems(n); length(s) > 0 && all(s %in% said) }, NA))  # nolint: line_length_linter.
  if (length(own) == 1) columns[own, ]
}
