# Times from one date of a row to another that have a name of their own: the length of a stay, the time to deliver or to settle.

#' The turns about such times, as of `everyday_turns()`
#' @noRd
turns_of_stay <- function() {
  list(turn("\\bstay|\\bnights\\b|\\blos\\b|in hospital|(bed|patient)[- ]days|turnaround|duration|(loan|lending|rental|borrowing|hire|lead|delivery|shipping|fulfil\\w*|processing|resolution|handling|cycle|completion|treatment) (times?|periods?|lengths?)|times? kept|lengths? of|time to (deliver|resol|clos|complet|finish|discharge)|\\bhow (long|far)\\b", time_of_row),  # nolint: line_length_linter.
       turn("\\bstill\\b", still_there), turn("\\bspen[dt]", time_spent))
}

#' What the dates at both ends are called, how the time between them is spoken of, and what it is called here
#' @section Shape: list of list(from, to (patterns of names), said (pattern of a question), name, verb (pattern), held (pattern of names)).
#' @noRd
times_of_rows <- function() {
  list(
    list(from = "admi(t|ssion)|arriv|check_?in|entered|entry", to = "discharg|depart|check_?out|exit|releas|left",
         said = "lengths? of (?:hospital )?stays?|los|hospital stays?|(?<!only )(?<!those )(?<!all )stays?(?! (?:that|which|who|were|was|with|where|longer|shorter|of))|times? in hospital|days in hospital|(?:in-?)?(?:bed|patient)[- ]days|duration of stay|time to discharge",  # nolint: line_length_linter.
         name = "length_of_stay", verb = "stay(?:s|ed|ing)?", held = "stay|(^|_)los($|_)|bed_?days"),
    list(from = "order|placed|purchas|bought|booked", to = "deliver|arriv|receiv|shipp?ed|ship_?date|dispatch",
         said = "lead times?", name = "lead_time", verb = "book(?:s|ed)? (?:in advance|ahead)", held = "deliver.*(time|days)|lead_?time|days_to"),
    list(from = "order|placed|purchas|bought|booked", to = "deliver|arriv|receiv|shipp?ed|ship_?date|dispatch",
         said = "delivery times?|shipping times?|fulfil?l?ment times?|times? to deliver(?:y)?|days to deliver(?:y)?",
         name = "delivery_time", verb = "take[ns]? to (?:deliver|arrive|ship)", held = "deliver.*(time|days)|lead_?time|days_to"),
    list(from = "open|creat|report|rais|logged|submit|start|received", to = "clos|resol|complet|finish|(^|_)end|fixed|settled",
         said = "resolution times?|turnaround(?: times?)?|processing times?|handling times?|cycle times?|completion times?|times? to (?:resol\\w+|clos\\w+|complet\\w+|finish)|durations?",  # nolint: line_length_linter.
         name = "time_taken", verb = "take[ns]?(?: to (?:resolve|close|complete|finish|settle))?|last(?:s|ed)?", held = "durat|turnaround|time_taken|(resolution|processing|handling)_?time|days_to"),  # nolint: line_length_linter.
    list(from = "loan|lent|lend|borrow|issued|rent|hire", to = "return|brought_?back",
         said = "(?:loan|lending|borrowing|rental|hire|checkout) (?:durations?|periods?|times?|lengths?)|lengths? of (?:the )?(?:loans?|rentals?)|durations?|times? kept",  # nolint: line_length_linter.
         name = "time_kept", verb = "kept|keep(?:s|ing)?|borrow(?:s|ed)?|last(?:s|ed)?", held = "durat|time_kept|days_kept"))
}

#' "average length of stay by ward", "which ward has the longest stays": from the date at the start to that at the end
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
time_of_row <- function(out) {
  dates <- dated_columns(out$study)
  if (length(dates) < 2) return(out)
  # ("only stays that were not cancelled": the rows)
  out <- reworded(out, gsub("(?i)\\bstays (?=(?:that|which|who|with|where)\\b)", "rows ", out$text, perl = TRUE))
  asked <- sub("(?i)^ *how (?:far|long) (?:in advance|ahead|beforehand) (?:do|does|did) (?:the )?[\\p{L}]+ (?:book|order|reserve)", "average lead time",  # nolint: line_length_linter.
               out$text, perl = TRUE)
  asked <- days_added_up(asked)
  for (one in times_of_rows()) {
    if (any(grepl(one$held, tolower(vapply(all_columns(out$study), `[[`, "", "name"))))) next
    ends <- ends_of_time(dates, one)
    if (is.null(ends) || ends$from$table != ends$to$table) next
    text <- with_named_time(asked, one)
    if (identical(text, asked)) next
    return(with_derived(out, one$name, "difference", c(ends$to$name, ends$from$name), text, unit = "days"))
  }
  out
}

#' "occupied bed days per ward", "how many bed days were used": days that add up, unless their mean is asked for
#' @noRd
days_added_up <- function(text) {
  days <- "(?:(?:occupied|used|total) )?(?:in-?)?((?:bed|patient)[- ]days)"
  if (grepl("(?i)\\b(average|mean|median|typical|distribution|histogram|longest|shortest|per (?:patient|stay|admission|person))\\b", text, perl = TRUE)) return(text)  # nolint: line_length_linter.
  text <- sub("(?i)^ *how many nights (?:were|are|have been|did [\\p{L}]+) (?:booked|sold|stayed|spent|stay|book|spend)( in total| overall| altogether)?", "total bed-days", text,  # nolint: line_length_linter.
              perl = TRUE)
  text <- sub("(?i)^ *(?:the )?(?:total )?(?:number of )?(?:room )?nights (?:booked|sold|stayed)?(?=(?: (?:per|by|in each|for each) .+)?[?.! ]*$)", "total bed-days", text, perl = TRUE)  # nolint: line_length_linter.
  text <- sub(sprintf("(?i)^ *how many %s (?:were|are|was|have been|did we) (?:used|occupied|use|there|needed|provided)(?: in total| overall| altogether)?", days),  # nolint: line_length_linter.
              "total \\1", text, perl = TRUE)
  text <- sub(sprintf("(?i)^ *(?:(?:what (?:is|was) )?(?:the )?(?:total |number of )*)%s", days), "total \\1", text, perl = TRUE)
  sub("(?i)^( *total (?:bed|patient)[- ]days) (?:per|in each|for each) ", "\\1 by ", text, perl = TRUE)
}

#' The dates at the start and at the end of one kind of time, where there is one of each
#' @param one An element of `times_of_rows()`.
#' @section Shape: list(from, to) of columns, or NULL.
#' @noRd
ends_of_time <- function(dates, one) {
  names <- tolower(vapply(dates, `[[`, "", "name"))
  to <- grepl(one$to, names)
  # ("order_delivered" holds the word of the start as well, and is the end)
  from <- grepl(one$from, names) & !to
  if (sum(from) == 1 && sum(to) == 1) list(from = dates[[which(from)]], to = dates[[which(to)]])
}

#' The question with the time called by its name
#' @noRd
with_named_time <- function(text, one) {
  number <- "([0-9]+(?:[.][0-9]+)?)(?: (?:days?|nights?))?"
  bound <- "(more than|over|longer than|at least|less than|under|shorter than|at most|up to)"
  said <- sprintf("(?:%s)", one$said)
  rules <- list(
    # "how long do patients stay"
    c(sprintf("(?i)^ *how long (?:do|does|did|have|has) (?:the )?(?:[\\p{L}_]+ )*?(?:%s)(?: in (?:the )?hospital)?(?: on average| for| typically| usually)?", one$verb), "average NAME"),  # nolint: line_length_linter.
    # "which ward has the longest stays"
    c(sprintf("(?i)\\b(?:the )?longest (?:average |mean |median )?%s\\b", said), "the highest mean NAME"),
    c(sprintf("(?i)\\b(?:the )?shortest (?:average |mean |median )?%s\\b", said), "the lowest mean NAME"),
    # "stayed more than 7 days"
    c(sprintf("(?i)\\b(?:who |that )?(?:have |had )?(?:%s) (?:in hospital )?(?:for )?%s %s\\b", one$verb, bound, number), "with NAME \\1 \\2"),
    c(sprintf("(?i)\\b(?:%s) (?:in hospital )?longer\\b", one$verb), "have a higher NAME"),
    c(sprintf("(?i)\\b(?:%s) (?:in hospital )?(?:shorter|less long)\\b", one$verb), "have a lower NAME"),
    # "cost per day of stay"
    c(sprintf("(?i)\\bper day (?:of (?:the )?(?:hospital )?stay|in hospital|stayed)\\b"), "per NAME"),
    c(sprintf("(?i)\\b(?:the )?%s\\b", said), "NAME"))
  for (rule in rules) {
    if (!grepl(rule[1], text, perl = TRUE)) next
    text <- sub(rule[1], gsub("NAME", one$name, rule[2], fixed = TRUE), text, perl = TRUE)
    break
  }
  # ("are older patients staying longer": they have it)
  sub("(?i)^ *(?:is|are|was|were) (.+?) have a (higher|lower) ", "do \\1 have a \\2 ", text, perl = TRUE)
}

#' "how many patients are still in hospital", "orders still open": those without the date at the end
#' @noRd
still_there <- function(out) {
  form <- "(?i)\\b(?:who |that |which )?(?:are |is |were |was )?still (?:out(?: on loan)?|on loan|lent|not (?:back|returned)|unreturned|to be returned|in (?:the )?(?:hospital|house|process|progress|care)|admitted|open|outstanding|undelivered|unresolved|waiting|running|here|staying|to be (?:delivered|resolved|closed))\\b"  # nolint: line_length_linter.
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  dates <- dated_columns(out$study)
  for (one in times_of_rows()) {
    name <- ends_of_time(dates, one)$to$name
    if (is.null(name)) next
    flag <- paste0(name, "_missing")
    done <- with_derived(out, flag, "missing", name, sub(form, sprintf("with %s = yes", flag), out$text, perl = TRUE))
    if (!has_column(done$study, flag)) return(out)
    done$told <- c(done$told, sprintf("Took those without %s to be still there.", name))
    return(done)
  }
  out
}

#' "do mobile users spend less time on site", "how much time do they spend on site": time is what they have, no money
#' @noRd
time_spent <- function(out) {
  text <- sub("(?i)^ *how much time (?:do|does|did) (.+?) (?:spend|spent) (on|in|at|with) ", "average time \\2 ", out$text, perl = TRUE)
  text <- sub("(?i)\\b(?:spend|spends|spent|spending) (more|less|longer|the most|the least) (?:time )(on|in|at|with) ", "have \\1 time \\2 ", text, perl = TRUE)  # nolint: line_length_linter.
  text <- sub("(?i)\\bhave (?:more|longer) time\\b", "have a higher time", text, perl = TRUE)
  reworded(out, sub("(?i)\\bhave less time\\b", "have a lower time", text, perl = TRUE))
}
