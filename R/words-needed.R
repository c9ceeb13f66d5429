# Words without which a pattern cannot match. Most patterns match nothing in a given question, and finding out that none of their words
# stands there takes a fraction of the time of trying them.

#' A sieve of patterns, built once for those that are tried on every question
#' @section Shape: list(texts, owner = the pattern that each text is of, open = pattern may match whatever the text).
#' @noRd
sieve_of <- function(forms) {
  needed <- kernel_words_needed(forms)
  list(texts = unlist(needed, use.names = FALSE), owner = rep(seq_along(needed), lengths(needed)), open = lengths(needed) == 0)
}

#' Turns with the sieve of their cues, which is built once for those that every question goes through
#' @param turns List of list(cue, ...).
#' @noRd
sifted <- function(turns) structure(turns, sieve = sieve_of(vapply(turns, `[[`, "", "cue")))

#' Which patterns of a sieve may match a text?
#' @return Logical, one for each pattern.
#' @noRd
passes_sieve <- function(sieve, text) {
  open <- sieve$open
  open[sieve$owner[stringi::stri_detect_fixed(tolower(text), sieve$texts)]] <- TRUE
  open
}

#' Carry an object with a `text` through turns, each of which is tried where its cue stands in the text as the turns before have left it
#'
#' @param turns As of [sifted()].
#' @param take Function of the object and a turn.
#' @noRd
through_turns <- function(out, turns, take) {
  sieve <- attr(turns, "sieve")
  text <- out$text
  open <- passes_sieve(sieve, text)
  for (k in seq_along(turns)) {
    if (!open[k] || !grepl(turns[[k]]$cue, text, ignore.case = TRUE, perl = TRUE)) next
    out <- take(out, turns[[k]])
    if (identical(out$text, text)) next
    text <- out$text
    open <- passes_sieve(sieve, text)
  }
  out
}
