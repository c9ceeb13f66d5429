# Slips of the keyboard.

#' Correct words that nothing knows to the nearest word of the study or the lexicon
#'
#' @section Shape: tokens with norm and stem corrected, and `corrected`: named character (typed -> read).
#' @noRd
correct_spelling <- function(tokens, vocabulary) {
  lexicon <- vocabulary$lexicon
  tokens$corrected <- character()
  doubtful <- doubtful_words(tokens, vocabulary)
  if (!length(doubtful)) return(tokens)
  candidates <- unique(c(vocabulary$words, synonym_words(lexicon), lexicon$known))
  candidates <- candidates[nchar(candidates) >= 4]
  own <- candidates %in% vocabulary$words
  for (i in doubtful) {
    found <- nearest_word(tokens$norm[i], candidates, own)
    # "seen" is no slip of "seven"; a rare word may still be one of the study's own
    if (!is.null(found) && is_everyday_word(tokens$norm[i]) && !(found %in% vocabulary$words && slipped_ending(tokens$norm[i], found))) next
    if (is.null(found) || tokens$norm[i] == paste0(found, "y") || tokens$norm[i] == paste0(found, "ly")) next
    tokens$corrected[tokens$text[i]] <- found
    tokens$norm[i] <- found
    tokens$stem[i] <- stem_words(found)
  }
  tokens
}

#' Do two words differ by the order of their letters or in their ending alone?
#' @noRd
slipped_ending <- function(typed, meant) {
  identical(sort(strsplit(typed, "")[[1]]), sort(strsplit(meant, "")[[1]])) || startsWith(meant, substr(typed, 1, nchar(typed) - 1))
}

synonym_words <- function(lexicon) {
  unique(unlist(strsplit(c(lexicon$synonyms$words, lexicon$value_synonyms$words), " ")))
}

#' The nearest candidate within the slips a word of that length may hold; the study's own words win a tie
#' @noRd
nearest_word <- function(word, candidates, own) {
  length <- nchar(word)
  allowed <- if (length <= 5) 1 else 2
  near <- abs(nchar(candidates) - length) <= allowed
  if (!any(near)) return(NULL)
  distance <- stringdist::stringdist(word, candidates[near], method = "osa")
  # a wrong first letter is rare: it costs half a slip more
  distance <- distance + 0.5 * (substr(candidates[near], 1, 1) != substr(word, 1, 1))
  # among equally near words the one that begins alike, then the study's own
  alike <- stringdist::stringdist(word, candidates[near], method = "jw", p = 0.1)
  best <- order(distance, !own[near], alike)[1]
  limit <- if (length <= 7) min(allowed, 1 + (length >= 7)) else allowed
  if (distance[best] > limit) return(NULL)
  candidates[near][best]
}
