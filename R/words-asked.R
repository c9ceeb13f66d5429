# Columns that are called by a question ("How old are you?", "Would you recommend us?"), as forms on the web export them.

#' Does a text read as a question put to those who answered?
#' @noRd
reads_as_asked <- function(text) {
  plain <- without_lead(trimws(tolower(gsub("[_.]+", " ", text))))
  grepl("^(how|what|which|where|who|whom|when|why|do|does|did|have|has|are|is|were|was|would|will|can|could|please rate|rate)\\b.*\\b(you|your|we|us|our|this|it|there|the|i|my)\\b",  # nolint: line_length_linter.
        plain) & (grepl("\\?", plain) | stringi::stri_count_words(plain) >= 4)
}

#' A question without the words that only lead to it ("Overall,", "In general,", "Q3:")
#' @noRd
without_lead <- function(plain) {
  sub("^(?:q?[0-9]+[a-z]?[.:) -]+ *)?(?:overall|in general|generally|generally speaking|all in all|thinking (?:about|of) [^,]+|on a scale (?:of|from) [^,]+|in the (?:last|past) [^,]+|and|so|please (?:rate|tell us|indicate)(?: -|:)?)[, :-]+ *(?=how|what|which|where|who|when|do|did|have|are|is|would|the|i )", "",  # nolint: line_length_linter.
      plain, perl = TRUE)
}

#' What a question asks about, as people call the column afterwards, the best name first
#'
#' @param text One question, such as the header of a form's export or the label of a coded column.
#' @section Shape: character vector of names, empty where the text is no question or asks nothing that has a name.
#' @noRd
spoken_names <- function(text) {
  if (!reads_as_asked(text)) return(character())
  plain <- without_lead(trimws(tolower(gsub("\\s+", " ", text))))
  plain <- gsub("\\([^)]*\\)|\\[[^]]*\\]", " ", gsub("[_.]+", " ", plain))
  plain <- gsub("\\s+", " ", trimws(gsub("[^[:alnum:]'\u2019 -]+", " ", plain)))
  for (rule in asked_rules()) {
    hit <- match_groups(plain, rule$form)
    if (!is.na(hit[1])) return(trimws(unique(rule$names(trimws(ifelse(is.na(hit[-1]), "", hit[-1]))))))
  }
  character()
}

#' Forms of questions, and the names of what they ask about
#' @section Shape: list of list(form, names(parts)).
#' @noRd
asked_rules <- local({
  rule <- function(form, names) list(form = form, names = names)
  qualities <- c(satisfied = "satisfaction", happy = "happiness", likely = "likelihood", confident = "confidence", easy = "ease",
    useful = "usefulness",
                 important = "importance", safe = "safety", stressed = "stress", tired = "tiredness", healthy = "health", clean = "cleanliness",
                 helpful = "helpfulness", friendly = "friendliness", clear = "clarity", difficult = "difficulty", concerned = "concern",
                 worried = "worry", interested = "interest", familiar = "familiarity")
  measures <- c(far = "distance", tall = "height", heavy = "weight", big = "size", large = "size", long = "duration", hot = "temperature")
  rules <- list(
    rule("^how old (?:are|is|were|was) .+$", function(p) c("age", "age group", "age band")),
    rule("^how often (?:do|did|have|would|does) (?:you|your child|they) (.+)$", function(p) c(paste("frequency", p[1]), paste("how often", p[1]))),
    rule("^how many (.+?) (?:do|did|does|have|has|are|were|would|will)\\b.*$", function(p) c(p[1], paste("number of", p[1]))),
    rule("^how much (?:money |time )?(?:do|did|would|have|does) you (spend|spent|pay|paid|earn|weigh)(?: (.+))?$",
         function(p) c(paste(c(spend = "spending", spent = "spending", pay = "payment", paid = "payment", earn = "earnings",
           weigh = "weight")[[p[1]]], p[2]),
                       paste("amount", p[2]))),
    rule("^how much (.+?) (?:do|did|would|have|does|is|are)\\b.*$", function(p) c(p[1], paste("amount of", p[1]))),
    rule(sprintf("^how (%s) (?:are|were|is|was|do|did|would)\\b(?: (?:you|it|the))?(?: feel)?(?: (?:with|to|about|that|of))?(?: (?:the|your|our))?(?: (.*))?$",  # nolint: line_length_linter.
                 paste(names(qualities), collapse = "|")),
         function(p) { noun <- qualities[[p[1]]]; c(if (nzchar(p[2])) c(paste(noun, "with", p[2]), paste(noun, p[2])), noun) }),
    rule(sprintf("^how (%s) (?:is|are|was|were|do|did|have|has)\\b(?: (?:you|it|your|the))?(?: (.*))?$", paste(names(measures), collapse = "|")),
         function(p) { noun <- measures[[p[1]]]; c(if (nzchar(p[2])) paste(noun, p[2]), noun) }),
    rule("^(?:how would you|please|how do you) rate (?:the |your |our )?(.+)$", function(p) c(paste(p[1], "rating"), p[1], paste("rating of", p[1]))),
    rule("^rate (?:the |your |our )?(.+)$", function(p) c(paste(p[1], "rating"), p[1])),
    rule("^how (?:did|do) you (?:usually |normally |mainly )?(travel|get|come|commute)\\b.*$",
         function(p) c("travel mode", "mode of travel", "travel", "transport", "mode of transport", "way to travel", "means of transport")),
    rule("^how did you hear\\b.*$", function(p) c("heard", "source", "how heard")),
    rule("^who (?:did|do|are) you (come|travel|visit|live|go|coming|visiting)\\b.*$", function(p) c("company", "companions", "accompanied by")),
    rule("^where (?:do|did|are) you (live|work|study|born|shop|from)\\b.*$",
         function(p) c(live = "residence", work = "workplace", study = "place of study", born = "birthplace", shop = "place of shopping",
           from = "origin")[[p[1]]]),
    rule("^what (?:is|was|are) (?:your|the) (.+)$", function(p) p[1]),
    rule("^(?:what|which)(?: of these| of the following)? (.+?) (?:do|did|does|are|is|were|was|have|has|would|will|best)\\b.*$", function(p) p[1]),
    rule("^would you recommend\\b.*$", function(p) c("recommendation", "recommendation score", "recommend", "likelihood to recommend")),
    rule("^(?:do|did|does|have|has|are|is|were|was|would|will|can|could) (?:you|your|this|it|there|we|they)\\b(?: ever| currently| usually)? ?(.+?)(?: here)?$",  # nolint: line_length_linter.
         function(p) sub("^(?:your|the|a|an|this) ", "", p[1])))
  function() rules
})

#' Phrases that mean the columns called or labelled by a question
#' @section Shape: data frame phrase (stems), column, quality; NULL where there are none.
#' @noRd
asked_phrases <- function(columns) {
  # (names and labels of few words ask nothing)
  long <- vapply(columns, function(col) max(stringi::stri_count_words(c(gsub("[_.]+", " ", col$name), col$label %||% ""))) >= 3, NA)
  rows <- lapply(which(long), function(i) {
    own <- spoken_names(columns[[i]]$name)
    label <- spoken_names(columns[[i]]$label %||% "")
    said <- c(own, label)
    if (!length(said)) return(NULL)
    quality <- c(0.97 - 0.02 * pmin(seq_along(own) - 1, 3), 0.95 - 0.02 * pmin(seq_along(label) - 1, 3))
    data.frame(phrase = joined_stems(said), column = rep(i, length(said)), quality = quality, stringsAsFactors = FALSE)
  })
  out <- do.call(rbind, rows)
  if (is.null(out)) return(NULL)
  # what several columns ask alike stands for none of them
  shared <- tapply(out$column, out$phrase, function(at) length(unique(at)))
  out[nzchar(out$phrase) & shared[out$phrase] == 1, , drop = FALSE]
}

#' Names as they are spoken: that of what a question asks, else the name itself
#' @noRd
as_spoken <- function(names) {
  out <- names
  for (i in which(reads_as_asked(names))) {
    said <- spoken_names(names[i])
    if (length(said)) out[i] <- said[1]
  }
  out
}
