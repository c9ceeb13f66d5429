# Cues that rows are to be shown, mapped, or looked through for what is missing or repeated.
# Each takes the state, the columns mentioned with their kinds, and the scores so far, and gives the scores.

#' "which hives have more than 40 mites": rows to be shown
#' @noRd
cue_entity_beyond <- function(state, mentions, kinds, score) {
  norms <- norms_of(state)
  entity <- entities_at(state)
  entity_asked <- state$n > 2 && norms[1] == "which" && (isTRUE(entity[2]) ||
      state$type[2] == "column") && any(norms[3] %in% c("have", "has", "had", "are", "were", "with", "show"))
  if (isTRUE(entity_asked) && length(state$filters) && all(kinds == "id")) score["look_up"] <- score["look_up"] + 1.5
  score
}

#' "which wines cost more than 30", "show me the first five rows"
#' @noRd
cue_rows_listed <- function(state, mentions, kinds, score) {
  bounded <- says(state, "^ *which \\w+ (\\w+ )?(more|less|over|under|above|below|at least|at most|fewer)\\b") && length(state$filters) &&
      all(kinds == "id")
  listed <- says(state,
      "^ *(please )?(show|list|print|display|see|give|get)( me)?( the| some)?( first| top| last)?( [0-9]+| [a-z]+)? (rows|records|lines)\\b")
  if (bounded || listed) score["look_up"] <- max(score) + 1.5
  score
}

#' "map of the hives": positions drawn
#' @noRd
cue_map <- function(state, mentions, kinds, score) {
  if (asks_for_map(state)) score["figure"] <- score["figure"] + 4
  score
}

#' "hives with more than 20 mites": rows to be shown
#' @noRd
cue_rows_with <- function(state, mentions, kinds, score) {
  if (!length(mentions) && length(state$filters) && !any(vapply(state$groups, names_several, NA)) && max(score) < 1.2 &&
      says(state, "^ *(the |all )?[a-z]+ (with|where|that|who|which|over|above|below|under|having|from|in|[a-z]+ing|[a-z]+ed)\\b") &&
      !says(state, paste0("^ *(how|what|which|is|are|do|does|did|was|were|can|compare|test|mean|average|median|share|number|count|percent|proportion|fraction|rate)|",  # nolint: line_length_linter.
        "\\b(top|best|worst|how many|how much|what share|what percent\\w*)\\b"))) {
    score["look_up"] <- score["look_up"] + 2
    score["compare"] <- 0
  }
  score
}

#' "how many values are missing": a matter of quality, not of levels
#' @noRd
cue_values_missing <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(are|is|were|was) (missing|blank|empty)\\b|missing (values|entries)") && score["frequency"] > 0.5) {
    score["quality"] <- score["quality"] + 1.5
  }
  score
}

#' "are claim numbers unique", "does any claim_no occur more than once"
#' @noRd
cue_keys_unique <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(are|is)\\b.*\\bunique\\b|\\boccurs?\\b.*\\b(twice|more than once)\\b|\\bmore than once\\b") && any(state$type == "column")) {
    score["quality"] <- max(score) + 2
  }
  score
}

#' "the average excluding missing": what is done anyway
#' @noRd
cue_missing_left_out <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(excluding|ignoring|without|omitting|dropping|leaving out|not counting|exclude|ignore)( the| any)? (missing|blank|empty)") &&
      length(asked_statistics(state))) score["quality"] <- 0
  score
}

#' "missing values of yield" asks for what is there, where nothing else is asked
#' @noRd
cue_missing_named <- function(state, mentions, kinds, score) {
  if (says(state, "\\bmissing\\b|\\bblanks?\\b|\\bempty\\b") &&
      score["quality"] > 0.5) score["quality"] <- score["quality"] + 0.6
  score
}
