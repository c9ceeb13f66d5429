# Occasions told by the time that had passed ("at six months", "in the first six weeks", "from before surgery to six months"):
# which of the columns of one measure are meant, whatever units of time their names mix ("pain_before", "pain_6w", "pain_6m").

#' The turns about spans, as of `everyday_turns()`
#' @noRd
turns_of_spans <- function() {
  list(turn("week|month|day|year|hour|before|prior|baseline|pre-?op", occasions_spelt))
}

#' "did pain go down from before surgery to six months", "pain at six weeks": the columns of the measure that are meant
#' @noRd
occasions_spelt <- function(out) {
  sets <- Filter(function(set) any(nzchar(set_units(set))), study_sets(out$study, "repeated_measures"))
  # (numbers of one unit are read where they stand, unless they are told as words or as a stretch of time)
  spelt <- sprintf("(?i)\\b(?:%s)[- ](?:week|month|day|year|hour)s?\\b|\\b(?:first|within|over) (?:the )?[0-9]+ (?:week|month|day|year|hour)s?\\b|\\bby (?:at least|more than)\\b|\\bchange[ds]? from (?:the )?baseline to [0-9]",  # nolint: line_length_linter.
                   counting_words())
  if (!grepl(spelt, out$text, perl = TRUE)) sets <- Filter(function(set) length(setdiff(unique(set_units(set)), "")) > 1, sets)
  if (!length(sets)) return(out)
  # (a single column that is written out is read where it stands)
  if (any(vapply(sets, function(set) any(vapply(set$columns, grepl, NA, x = out$text, fixed = TRUE)), NA))) return(out)
  said <- sets_said(out$text, sets)
  set <- if (length(said) == 1) said[[1]] else if (!length(said) && length(sets) == 1 && says_who_changed(out$text)) sets[[1]]
  if (is.null(set)) return(out)
  at <- spans_found(set, out$text)
  lost <- attr(at, "lost")
  if (length(lost) && length(said) == 1) {
    out$lost_occasion <- list(said = lost[1], set = set)
    return(out)
  }
  if (!nrow(at)) return(out)
  span_bound(out, set, at) %||% span_change(out, set, at) %||% span_columns(out, set, at)
}

says_who_changed <- function(text) grepl(paste0("(?i)\\b", change_verb(), " by\\b"), text, perl = TRUE)

#' Verbs of a change, as parts of a pattern: towards less, towards more, for the better, for the worse
#' @noRd
change_verbs <- function() {
  list(down = "fell|fall(?:en)?|dropped|drop|decreased?|declined?|went down|go(?:ne)? down|lost|lose|reduced?|came down|come down|shr[aiu]nk",
       up = "rose|rise|risen|increased?|went up|go(?:ne)? up|gained?|grew|grown?|climbed?",
       better = "improved?|got better|get better|gotten better|progressed|progress|recovered?", worse = "worsened|worsen|got worse|get worse|gotten worse|deteriorated?",  # nolint: line_length_linter.
       either = "changed?|develop(?:ed)?|moved?|shift(?:ed)?")
}

change_verb <- function() sprintf("(?:%s)", paste(unlist(change_verbs()), collapse = "|"))

#' Is less of a measure better, as its name says?
#' @noRd
less_is_better <- function(name) any(stem_words(strsplit(tolower(name_words(name)), " ")[[1]]) %in% english$burdens)

#' The unit of time of each occasion of a set ("week" of pain_6w), "" where it has none of its own
#' @noRd
set_units <- function(set) {
  found <- time_unit_of(sub("^[0-9]+_?", "", set$times))
  found[!grepl("^[0-9]", set$times)] <- NA
  alike <- set_unit(set)
  ifelse(is.na(found), if (nzchar(alike)) ifelse(grepl("^[0-9]+$", set$times), alike, "") else "", found)
}

#' Where a text tells occasions of a set, in their order
#' @section Shape: data frame said (with its preposition), lead (that preposition), place (among the columns of the set), span (TRUE of
#'   a stretch of time since the first occasion, "in the first six weeks"); its attribute `lost` holds phrases of no occasion.
#' @noRd
spans_found <- function(set, text) {
  count <- sprintf("(?:[0-9]{1,3}|%s)", counting_words())
  event <- "(?:surgery|(?:the )?operations?|treatment|(?:the )?procedure|(?:the )?intervention|therapy|discharge|baseline|starting|enrolment|training|injury|admission)"  # nolint: line_length_linter.
  unit <- "(?:weeks?|months?|days?|years?|hours?)"
  since <- sprintf("(?: (?:after|post|following|from|since|into) (?:the |their )?%s)?", event)
  phrase <- sprintf("(?:%1$s[- ]%2$s%3$s(?! old\\b)|%2$s %1$s|(?:before|prior to) (?:the |their )?%4$s|pre-?op(?:erative(?:ly)?)?|before(?= to\\b| and\\b)|baseline|(?:the )?start)",  # nolint: line_length_linter.
                    count, unit, since, event)
  lead <- "(?:at|by|after|to|until|till|from|in|between|and|than|within|over|on|during)"
  form <- sprintf("(?i)\\b(?:(%s) )?(?:the )?(first |following )?(%s)\\b", lead, phrase)
  hit <- stringi::stri_match_all_regex(text, quick_form(form))[[1]]
  if (is.na(hit[1, 1])) return(data.frame(said = character(), lead = character(), place = integer(), span = logical()))
  place <- vapply(hit[, 4], span_place, 1L, set = set, USE.NAMES = FALSE)
  span <- !is.na(hit[, 3]) | tolower(hit[, 2]) %in% c("within", "over", "during")
  out <- data.frame(said = hit[, 1], lead = tolower(ifelse(is.na(hit[, 2]), "", hit[, 2])), place = place, span = span, stringsAsFactors = FALSE)
  # "at nine months", where nothing was measured then
  lost <- is.na(place) & out$lead %in% c("at", "after", "by") & !out$span & grepl("[0-9]|\\p{L}+ (?:week|month|day|year|hour)", hit[, 4], perl = TRUE)
  structure(out[!is.na(place), , drop = FALSE], lost = hit[lost, 4])
}

#' A question about an occasion on which nothing was measured
#' @noRd
lost_occasion_verdict <- function(lost) {
  new_verdict("cannot_answer", new_reading("describe"), near = lost$set$columns, headline = sprintf("%s was not measured at %s. The data hold %s.",
    capital(lost$set$name), tolower(lost$said), some_of(quoted(lost$set$columns), 6)))
}

#' The occasion that a phrase of time means: its place, or NA
#' @noRd
span_place <- function(said, set) {
  said <- tolower(trimws(said))
  early <- which(tolower(set$times) %in% first_occasions())
  if (grepl("^(before|prior|pre|baseline|the start|start)", said)) return(if (length(early) == 1) early else NA_integer_)
  unit <- regmatches(said, regexpr("week|month|day|year|hour", said))
  number <- regmatches(said, regexpr(sprintf("\\b([0-9]{1,3}|%s)\\b", paste(names(english$numbers), collapse = "|")), said))
  if (!length(unit) || !length(number)) return(NA_integer_)
  n <- word_number(number)
  days <- days_in_unit()
  units <- set_units(set)
  own <- suppressWarnings(as.numeric(sub("[^0-9].*$", "", set$times))) * unname(days[match(units, names(days))])
  # ("12 months" of a column for one year; "six weeks" is no month and a half)
  at <- which(abs(own - n * days[[unit]]) < 0.02 * n * days[[unit]])
  if (length(at) == 1) at else NA_integer_
}

#' "improved by at least 3 points by six months": those whose change from the first occasion is so large
#' @noRd
span_bound <- function(out, set, at) {
  verbs <- change_verbs()
  form <- sprintf("(?i)\\b(?:who |that |which |whose )?(?:have |had |has )?(?:(?:their |the )?%s%s )?(%s) (?:in (?:the |their )?%s )?by (at least|more than|over|less than|fewer than|at most) ([0-9.]+|%s)(?: points?| marks?| units?)?\\b",  # nolint: line_length_linter.
                  set_words(set), measure_nouns(), paste(unlist(verbs[c("down", "up", "better", "worse")]), collapse = "|"), set_words(set),
                  paste(names(english$numbers), collapse = "|"))
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(NULL)
  ends <- span_ends(set, at)
  if (is.null(ends)) return(NULL)
  burden <- less_is_better(set$name)
  is <- function(kind) grepl(sprintf("(?i)^(?:%s)$", verbs[[kind]]), hit[2], perl = TRUE)
  down <- is("down") || is("better") && burden || is("worse") && !burden
  name <- span_name(set, ends)
  from <- if (down) set$columns[ends] else rev(set$columns[ends])
  text <- sub(hit[1], sprintf("with %s %s %s", name, hit[3], hit[4]), without_spans(out$text, at), fixed = TRUE)
  out <- with_derived(out, name, "difference", from, gsub("  +", " ", text))
  if (!has_column(out$study, name)) return(NULL)
  out$told <- c(out$told, if (is("better") || is("worse")) sprintf("Took %s of %s to mean %s values.", quoted(tolower(hit[2])), set$name,
                                                                   if (down) "lower" else "higher"))
  out
}

span_name <- function(set, ends) {
  paste(c(set$name, "change", if (length(set$times) > 2) set$times[if (ends[1] == 1) ends[2] else ends]), collapse = "_")
}

without_spans <- function(text, at) {
  for (said in at$said) text <- sub(paste0(" ?", as_literal(said)), "", text)
  text
}

#' The two occasions between which a change is told: both, or the first of all and the one that is named
#' @noRd
span_ends <- function(set, at) {
  places <- unique(at$place)
  if (length(places) == 2) return(sort(places))
  if (length(places) == 1 && places > 1) c(1L, places)
}

#' "did pain go down from before surgery to six months", "how much did pain fall in the first six weeks": the change between two occasions
#' @noRd
span_change <- function(out, set, at) {
  ends <- span_ends(set, at)
  noun <- "(?:change|changes|drop|fall|decrease|reduction|decline|rise|increase|improvement|gain|difference)"
  verb <- grepl(sprintf("(?i)\\b(?:did|do|does|has|have|how)\\b.*\\b%s\\b", change_verb()), out$text, perl = TRUE)
  named <- sprintf("(?i)\\b(?:the |their |an? )?(?:mean |average )?%s (?:in|of) (?:the )?%s%s\\b", noun, set_words(set), measure_nouns())
  if (is.null(ends) || !verb && !grepl(named, out$text, perl = TRUE)) return(NULL)
  if (length(unique(at$place)) == 1 && !any(at$span) && !any(at$lead %in% c("by", "to", "until", "till", "after", "at"))) return(NULL)
  pair <- sprintf("compare %s and %s", set$columns[ends[1]], set$columns[ends[2]])
  told <- if (length(unique(at$place)) == 1) sprintf("The change is taken from %s, the first occasion.", set$columns[1])
  text <- without_spans(out$text, at)
  form <- sprintf("(?i)^ *(?:by )?(?:how (?:(?:much|far) )?)?(?:did|do|does|has|have) (?:the |their |patients' |mean |average )*%s%s (?:clearly |really |significantly )?%s\\b *(?:much |at all )?(.*?)[?.! ]*$",  # nolint: line_length_linter.
                  set_words(set), measure_nouns(), change_verb())
  hit <- match_groups(text, form)
  if (!is.na(hit[1])) return(span_of_groups(out, set, ends, hit[2], told) %||% reworded(out, trimws(paste(pair, hit[2])), told))
  if (!grepl(named, text, perl = TRUE)) return(NULL)
  name <- span_name(set, ends)
  out <- with_derived(out, name, "difference", rev(set$columns[ends]), gsub("  +", " ", sub(named, name, text, perl = TRUE)))
  out$told <- c(out$told, told)
  if (has_column(out$study, name)) out
}

#' "... by surgeon", "... more in women than in men": the changes of groups are set against each other
#' @noRd
span_of_groups <- function(out, set, ends, rest, told) {
  if (!grepl("(?i)^(?:more|less|further|faster|slower)\\b|^(?:by|in each|in every|for each) ", rest, perl = TRUE)) return(NULL)
  name <- span_name(set, ends)
  by <- sub("(?i)^(in each|in every|for each) ", "by ", rest, perl = TRUE)
  text <- if (grepl("(?i)^by ", by)) sprintf("compare %s %s", name, by) else sprintf("is %s different %s", name, sub("(?i)^\\w+ ?", "", rest, perl = TRUE))  # nolint: line_length_linter.
  out <- with_derived(out, name, "difference", rev(set$columns[ends]), text)
  out$told <- c(out$told, told)
  if (has_column(out$study, name)) out
}

#' "pain at six weeks", "pain of 4 or more at 6 months": the phrase goes, the measure is the column
#' @noRd
span_columns <- function(out, set, at) {
  words <- paste0(set_words(set), "(?![_.0-9\\p{L}])", measure_nouns())
  before <- out$text
  for (k in seq_len(nrow(at))) {
    if (at$span[k]) next
    column <- set$columns[at$place[k]]
    phrase <- as_literal(at$said[k])
    beside <- sprintf("(?i)\\b%s((?:(?! (?:and|or|with|than|from|to) ).){0,40}?) ?,? ?%s", words, phrase)
    other <- sprintf("(?i)\\b(?:the )?%s %s", sub("^(?:at|in|on|by|after|from|the) ", "", phrase), words)
    if (grepl(beside, out$text, perl = TRUE)) out$text <- sub(beside, paste0(column, "\\1"), out$text, perl = TRUE)
    else if (grepl(other, out$text, perl = TRUE)) out$text <- sub(other, column, out$text, perl = TRUE)
    # "pain at six weeks and six months", "between pain before surgery and at six months": the measure once
    else if (!identical(out$text, before)) out$text <- sub(paste0("(?i)", phrase), paste(if (grepl("^and |^than |^to ", at$said[k])) at$lead[k] else "", column), out$text, perl = TRUE)  # nolint: line_length_linter.
    else if (nrow(at) == 1) out$text <- sub(paste0("(?i) ?", phrase), "", sub(paste0("(?i)\\b", words), column, out$text, perl = TRUE), perl = TRUE)
  }
  out$text <- gsub("  +", " ", out$text)
  out
}
