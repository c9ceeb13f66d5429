# English beyond the lexicon: common words, words of one meaning or family, opposites.

# Read on first use: most questions hold no word that the lexicon and the study do not know.
english_words <- local({
  kept <- NULL
  function() {
    if (is.null(kept)) kept <<- readRDS(system.file("lexicon", "en", "english.rds", package = "upbeatquill", mustWork = TRUE))
    kept
  }
})

#' The dictionary forms that a word may be an inflection of
#' @noRd
base_forms <- function(word, words = english_words()) {
  ends <- c(word, words$forms[word], sub("ies$", "y", word), sub("es$", "", word), sub("s$", "", word), sub("ied$", "y", word),
            sub("(.)\\1(ed|ing)$", "\\1", word), sub("(ed|ing)$", "", word), sub("(ed|ing)$", "e", word))
  unique(ends[!is.na(ends) & nchar(ends) >= 3])
}

#' Is it an everyday English word, so that it is no slip of the keyboard?
#' @noRd
is_everyday_word <- function(word, words = english_words()) any(is_common_word(base_forms(word, words)))

#' Which words stand in the list of common ones? (Its thousands of words are put in order once, not for each question.)
#' @noRd
is_common_word <- local({
  kept <- NULL
  function(words) {
    if (is.null(kept)) kept <<- list2env(stats::setNames(rep(list(TRUE), length(english_words()$common)), english_words()$common), hash = TRUE)
    vapply(words, function(word) nzchar(word) && exists(word, envir = kept, inherits = FALSE), NA, USE.NAMES = FALSE)
  }
})

#' Words of the same meaning or family
#' @noRd
kin_words <- function(word) kin_of_each(word)[[1]]

#' The kin of many words, kept for the next time: a search of the whole list takes a millisecond, for one word as for twenty
#' @section Shape: a list, one character vector a word.
#' @noRd
kin_of_each <- function(words) {
  keys <- kept_key(words)
  new <- !vapply(keys, exists, NA, envir = kin_kept, inherits = FALSE)
  if (any(new)) list2env(stats::setNames(look_up_kin(words[new]), keys[new]), kin_kept)
  unname(mget(keys, envir = kin_kept))
}

kin_kept <- new.env(parent = emptyenv())

#' @section Shape: a list, one character vector a word.
#' @noRd
look_up_kin <- function(sought, words = english_words()) {
  # as a verb "miss" is no young woman, and what is given need not be afforded
  open <- !sought %in% c("miss", "give", "gives", "gave", "given", "giving", "put", "let", "come", "came")
  bases <- lapply(seq_along(sought), function(i) if (open[i]) base_forms(sought[i], words))
  at <- split(match(unlist(bases), names(words$kin)), rep(factor(seq_along(bases)), lengths(bases)))
  lapply(seq_along(sought), function(i) {
    kin <- words$kin[at[[i]][!is.na(at[[i]])]]
    as.character(setdiff(unlist(strsplit(kin, " ", fixed = TRUE), use.names = FALSE), sought[i]))
  })
}

#' What a word denies: "unresolved" is not resolved, "dissatisfied" not satisfied
#' @noRd
denied_words <- function(word, words = english_words()) {
  everyday <- c(existing = "new", returning = "new", established = "new", old = "new", inactive = "active", single = "married", offline = "online",
                cheap = "premium", rural = "urban", absent = "present", healthy = "sick", alive = "dead", survivors = "died", died = "survived",
                dead = "survived", death = "survived", deaths = "survived", perished = "survived", survived = "died")[word]
  bare <- sub("^(un|non|dis|in|im|ir|il)-?(?=[a-z]{4})", "", word, perl = TRUE)
  opposite <- unlist(strsplit(words$opposite[intersect(base_forms(word, words), names(words$opposite))], " ", fixed = TRUE), use.names = FALSE)
  unique(c(if (bare != word) bare, opposite, if (!is.na(everyday)) unname(everyday)))
}
