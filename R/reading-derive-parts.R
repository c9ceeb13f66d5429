# Parts of a whole that two columns hold: votes of those cast, those who voted of those registered.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_parts <- function() list(turn("turn-?out|participation rate", turnout_of), turn("[\\p{L}_] (vote |votes )?shares?\\b", share_in_whole),
  turn("\\b(share|proportion|percent\\w*|fraction) of\\b.* (was|were|is|are|got|that|which)\\b", share_of_whole))

#' "turnout by region", of votes cast and registered voters: the one over the other
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
turnout_of <- function(out) {
  counts <- Filter(function(col) col$kind == "count", all_columns(out$study))
  called <- function(form) Filter(function(col) grepl(form, tolower(col$name)), counts)
  if (any(grepl("turn_?out|participation", tolower(column_names(out$study))))) return(out)
  cast <- called(paste0("(^|[^a-z])(votes?[_. ]?cast|ballots?[_. ]?(cast|returned)?|total[_. ]?votes|votes?[_. ]?total|voted|turned[_. ]?out|",
                        "attended|participants?)$"))
  able <- called("(^|[^a-z])(registered|eligible|electorate|electors|invited|entitled)([^a-z]|$)")
  if (length(cast) != 1 || length(able) != 1 || cast[[1]]$table != able[[1]]$table) return(out)
  said <- stringi::stri_extract_first_regex(out$text, "(?i)\\b(?:voter )?(?:turn-?out(?: rates?)?|participation rates?)\\b")
  part_over_whole(out, said, "turnout", cast[[1]]$name, able[[1]]$name)
}

#' "green share by region", "is the blue vote share related to age": a count over the count that it is a part of
#' @noRd
share_in_whole <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b((?:[\\p{L}_0-9]+ ){1,3}?)(?:votes? )?shares?\\b(?! of\\b| with\\b| in each\\b)")
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count" && is.null(col$role), all_columns(out$study))
  found <- column_in_text(counts, trimws(hit[2]), named_phrases(out$study, counts))
  # (a column that is called a share is what it says)
  if (is.null(found) || grepl("share|percent|pct", tolower(found$name)) ||
      !endsWith(tolower(trimws(hit[2])), tolower(found$said))) return(out)
  whole <- whole_of(out$study, found$name)
  if (is.null(whole)) return(out)
  said <- substring(hit[1], regexpr(found$said, hit[1], fixed = TRUE))
  done <- part_over_whole(out, said, paste0(found$name, "_share"), found$name, whole)
  # ("blue share against green share")
  if (identical(done$text, out$text) || !has_column(done$study, paste0(found$name, "_share"))) done else share_in_whole(done)
}

#' "what share of units was returned", of counts units and returned_units: the one over the other
#' @noRd
share_of_whole <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:what |which )?(?:is |was )?(?:the )?(?:share|proportion|percentage|percent|fraction) of (?:the |all |our )*([\\p{L}_]+(?: [\\p{L}_]+)?) (?:that |which )?(?:was|were|is|are|got) ([\\p{L}_]+)((?: .*)?)$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  found <- part_in_text(out$study, hit[3])
  counts <- Filter(function(col) col$kind == "count", all_columns(out$study))
  whole <- if (!is.null(found)) column_in_text(counts, hit[2], named_phrases(out$study, counts))$name
  if (is.null(whole) || whole != found$whole) return(out)
  out$rate_wish <- 100
  reworded(out, sprintf("%s per single %s%s", found$part, whole, hit[4]), sprintf("Took the share as the total of %s over that of %s.", found$part,
      whole))
}

#' The words for a part of a whole as the totals of both, or, where it is set against something else, as a column of its own
#' @noRd
part_over_whole <- function(out, said, name, part, whole) {
  beside <- "\\b(relat|correl|depend|associat|predict|affect|influenc|differ|compar|higher|lower|go(es)? with|more|less|plot|distribut|histogram|below|above|over\\b|under|between|vs\\b|versus|against|than|least|most [0-9]|top|bottom|mean|median|average|regress|model|highest|lowest|which)"  # nolint: line_length_linter.
  groups <- "^ *(which|what) .*\\b(highest|lowest)\\b"
  rows <- key_columns(out$study)
  # ("which region has the highest turnout": totals; of single rows each has its own)
  by_rows <- grepl(groups, out$text, ignore.case = TRUE) && any(vapply(rows, function(col) any(key_stems(col$name) %in% stems_of(out$text)[[1]]), NA))
  if (!grepl(beside, out$text, ignore.case = TRUE) || grepl(groups, out$text, ignore.case = TRUE) && !by_rows) {
    text <- sub("(?i)\\b(?:overall|total) ", "", sub(said, sprintf("%s per single %s", part, whole), out$text, fixed = TRUE), perl = TRUE)
    return(reworded(out, text, sprintf("Took %s as the total of %s over that of %s.", quoted(said), part, whole)))
  }
  out$told <- c(out$told, sprintf("Each row counts alike, whatever its %s.", whole))
  with_derived(out, name, "ratio", c(part, whole), sub(said, name, out$text, fixed = TRUE))
}
