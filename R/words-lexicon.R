# Language knowledge, read from inst/lexicon/<language>/*.yml.

#' Read the lexicon
#'
#' @section Shape: list(phrases = data frame (phrase as stems joined by blanks, kind, id, weight), stop, filler, entities, generic
#'   (stems), adjectives, synonyms, value_synonyms, numbers, months, known (every plain word, for spelling)).
#' @noRd
read_lexicon <- function(language = "en") {
  folder <- system.file("lexicon", language, package = "upbeatquill")
  part <- function(name) {
    keep <- function(x) x
    yaml::yaml.load_file(file.path(folder, paste0(name, ".yml")), handlers = list("bool#yes" = keep, "bool#no" = keep))
  }
  words <- part("words"); numbers <- part("numbers"); scope <- part("scope"); synonyms <- part("synonyms")
  adjectives <- part("adjectives")
  phrases <- rbind(task_phrases(part("tasks")), flat_phrases(part("statistics"), "statistic", 0.8),
                   flat_phrases(part("methods"), "method", 1), flat_phrases(part("pictures"), "picture", 1),
                   flat_phrases(scope$comparators, "comparator", 0.8), flat_phrases(numbers$every, "every", 0.9),
                   flat_phrases(scope[setdiff(names(scope), "comparators")], "scope", 0.6))
  stems <- function(x) unique(stem_words(gsub("'", "", unlist(x))))
  list(phrases = phrases, stop = unique(gsub("'", "", unlist(words$stop))), filler = stems(words$filler),
       entities = stems(words$entities),
       generic = stems(words$generic), adjectives = adjective_table(adjectives),
       synonyms = synonym_table(synonyms$columns),
       value_synonyms = synonym_table(synonyms$values), numbers = unlist(numbers$words),
       months = unlist(numbers$months),
       known = unique(gsub("'", "", c(unlist(words), unlist(strsplit(phrases$words, " ")), names(numbers$words),
                                      names(numbers$months),
                                      unlist(lapply(adjectives, `[[`, "words"))))))
}

phrase_rows <- function(words, kind, id, weight) {
  words <- gsub("'", "", tolower(as.character(words)))
  data.frame(words = words, phrase = vapply(stems_of(words), paste, "", collapse = " "), kind = kind, id = id,
             weight = weight,
             stringsAsFactors = FALSE)
}

flat_phrases <- function(groups, kind, weight) {
  do.call(rbind, lapply(names(groups), function(id) phrase_rows(groups[[id]], kind, id, weight)))
}

task_phrases <- function(tasks) {
  weights <- c(strong = 1, medium = 0.6, weak = 0.3)
  do.call(rbind, lapply(names(tasks), function(task) {
    do.call(rbind, lapply(names(tasks[[task]]), function(level) phrase_rows(tasks[[task]][[level]], "task", task,
        weights[[level]])))
  }))
}

adjective_table <- function(groups) {
  do.call(rbind, lapply(groups, function(g) {
    expand <- expand.grid(word = as.character(g$words), noun = as.character(g$nouns), stringsAsFactors = FALSE)
    data.frame(word = expand$word, noun = stem_words(expand$noun), low = isTRUE(g$low))
  }))
}

#' phrase (stems) -> group number
#' @noRd
synonym_table <- function(groups) {
  do.call(rbind, lapply(seq_along(groups), function(g) {
    words <- tolower(as.character(groups[[g]]))
    data.frame(phrase = vapply(stems_of(words), paste, "", collapse = " "), group = g)
  }))
}
