# Language knowledge, read from inst/lexicon/<language>/*.yml.

# Read on first use and kept: .onLoad() puts a promise here. It never changes afterwards.
english <- NULL

.onLoad <- function(libname, pkgname) {
  delayedAssign("english", read_lexicon("en"), assign.env = asNamespace(pkgname))
}

#' Read the lexicon
#'
#' @section Shape: list(phrases = data frame (phrase as stems joined by blanks, kind, id, weight), stop, filler,
#'   entities, things, burdens, generic
#'   (stems), adjectives, synonyms, countries (list by code), value_synonyms, numbers, months, known (every plain word, for spelling),
#'   everyday (those, the small words and those of the synonyms)).
#' @noRd
read_lexicon <- function(language = "en") {
  folder <- system.file("lexicon", language, package = "upbeatquill")
  part <- function(name) {
    keep <- function(x) x
    yaml::yaml.load_file(file.path(folder, paste0(name, ".yml")), handlers = list("bool#yes" = keep, "bool#no" = keep))
  }
  words <- part("words"); numbers <- part("numbers"); scope <- part("scope"); synonyms <- part("synonyms")
  adjectives <- part("adjectives")
  phrases <- rbind(task_phrases(part("tasks")), flat_phrases(part("statistics"), "statistic", 0.8), percentile_phrases(),
                   flat_phrases(part("methods"), "method", 1), flat_phrases(part("pictures"), "picture", 1),
                   flat_phrases(scope$comparators, "comparator", 0.8), flat_phrases(numbers$every, "every", 0.9),
                   flat_phrases(scope[setdiff(names(scope), "comparators")], "scope", 0.6))
  phrases$phrase <- joined_stems(phrases$words)
  stems <- function(x) unique(stem_words(gsub("'", "", unlist(x))))
  out <- list(unit_nouns = data.frame(noun = rep(stem_words(names(synonyms$units)), lengths(synonyms$units)),
                               unit = unlist(synonyms$units, use.names = FALSE), stringsAsFactors = FALSE),
                               phrases = phrases, stop = unique(gsub("'", "", unlist(words$stop))),
                               as_written = c(unlist(words$as_written), single_words(phrases[phrases$kind == "every" | (phrases$kind == "task" &
                                 phrases$id == "trend"), ])),
                               filler = stems(words$filler),
       entities = stems(words$entities), people = unlist(words$entities),
       things = stems(part("things")), burdens = stems(part("burdens")), measured_as = unlist(words$measured_as), telling = unlist(words$telling), generic = stems(words$generic), measures = unlist(words$measures), adjectives = adjective_table(adjectives),  # nolint: line_length_linter.
       synonyms = synonym_table(synonyms$columns),
       countries = lapply(part("countries"), unlist), value_synonyms = synonym_table(synonyms$values), numbers = unlist(numbers$words),
       months = unlist(numbers$months),
       known = unique(gsub("'", "", c(unlist(words), unlist(strsplit(phrases$words, " ")), names(numbers$words),
                                      names(numbers$months),
                                      unlist(lapply(adjectives, `[[`, "words"))))),
       # (relations are strong and weak, too)
       qualities = setdiff(unlist(lapply(adjectives, `[[`, "words")), c(unlist(words), unlist(strsplit(phrases$words, " ")), "strong", "stronger",
                                                                        "strongest", "weak", "weaker", "weakest")))
  out$everyday <- unique(c(out$known, out$stop, synonym_words(out)))
  out
}

#' "the 90th percentile"; the quartiles and the median have names of their own
#' @noRd
percentile_phrases <- function() {
  k <- setdiff(1:99, c(25, 50, 75))
  phrase_rows(paste(ordinal(k), "percentile"), "statistic", paste0("p", k), 0.8)
}

single_words <- function(phrases) phrases$words[!grepl(" ", phrases$words, fixed = TRUE)]

phrase_rows <- function(words, kind, id, weight) {
  words <- gsub("'", "", tolower(as.character(words)))
  data.frame(words = words, kind = kind, id = id, weight = unname(weight), stringsAsFactors = FALSE)
}

flat_phrases <- function(groups, kind, weight) {
  phrase_rows(unlist(groups, use.names = FALSE), kind, rep(names(groups), lengths(groups)), weight)
}

task_phrases <- function(tasks) {
  weights <- c(strong = 1, medium = 0.6, weak = 0.3)
  levels <- unlist(lapply(tasks, names), use.names = FALSE)
  sizes <- unlist(lapply(tasks, lengths), use.names = FALSE)
  of_task <- rep(names(tasks), vapply(tasks, function(t) sum(lengths(t)), 1L))
  phrase_rows(unlist(tasks, use.names = FALSE), "task", of_task, rep(weights[levels], sizes))
}

adjective_table <- function(groups) {
  word <- lapply(groups, function(g) as.character(g$words))
  noun <- lapply(groups, function(g) as.character(g$nouns))
  times <- lengths(word)
  low <- vapply(groups, function(g) identical(tolower(as.character(g$low)), "true"), NA)  # read as text, see read_lexicon()
  data.frame(word = unlist(Map(rep, word, lengths(noun))),
             noun = stem_words(unlist(Map(function(n, t) rep(n, each = t), noun, times))),
             low = rep(low, times * lengths(noun)), stringsAsFactors = FALSE)
}

#' phrase (stems) -> group number
#' @noRd
synonym_table <- function(groups) {
  words <- lapply(groups, function(g) tolower(as.character(g)))
  data.frame(words = unlist(words), phrase = joined_stems(unlist(words)), group = rep(seq_along(words), lengths(words)),
             stringsAsFactors = FALSE)
}

joined_stems <- function(words) vapply(stems_of(words), paste, "", collapse = " ")

#' Words that tell nothing of an open answer: function words and forms of everyday verbs
#' @noRd
text_stop_words <- function() sort_text(unique(c(english$stop,
    c("and", "the", "but", "not", "are", "was", "were", "they", "too", "very", "just", "really", "more", "most", "much",
  "many", "some", "any", "all", "also", "get", "got", "would", "could", "should", "can", "will", "one", "than", "then", "when",
      "there", "been", "being", "about", "into", "from", "have", "has",
  "had", "with", "without", "for", "that", "this", "our", "your", "you", "its", "out", "only", "even", "always", "often", "never", "sometimes"))))
