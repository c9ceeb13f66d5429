# Cues that columns go together: relations, models, drivers, interactions.
# Each takes the state, the columns mentioned with their kinds, and the scores so far, and gives the scores.

#' "by how much does it grow per mg": a slope
#' @noRd
cue_slope_per_unit <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(by )?how (much|many)\\b.*\\bper\\b") &&
      sum(kinds %in% c("number", "count")) + (any(state$type == "unit") && length(mentions) == 1) >= 2) score["predict"] <- score["predict"] + 1.6
  score
}

#' "the infertile rate", "the share that swarmed" beside another column: shares over its levels
#' @noRd
cue_share_over_levels <- function(state, mentions, kinds, score) {
  if (rate_of_event(state, mentions) && length(mentions) == 2) score["relate"] <- score["relate"] + 1.2
  score
}

#' "which kinds of hives have the highest yield": rules that divide the rows
#' @noRd
cue_kinds_of_rows <- function(state, mentions, kinds, score) {
  if (asks_for_kinds(state, mentions)) score["predict"] <- score["predict"] + 2.5
  score
}

#' "odds ratio of death per year of age"
#' @noRd
cue_odds_per_unit <- function(state, mentions, kinds, score) {
  if (says(state, "\\bodds ratios?\\b") && sum(kinds %in% c("number", "count")) >= 1 && sum(kinds == "yes_no") >= 1) {
    score["predict"] <- score["predict"] + 2
  }
  score
}

#' "chance of swarming at 40 mites": predicted at stated values
#' @noRd
cue_chance_at_values <- function(state, mentions, kinds, score) {
  if (asks_for_chance(state) && any(vapply(state$groups, function(g) isTRUE(g$numeric), NA))) score["predict"] <- score["predict"] + 3
  score
}

#' "fit models of yield": models asked for by their name
#' @noRd
cue_models_asked <- function(state, mentions, kinds, score) {
  if (asks_for_models(state) && length(mentions)) score["predict"] <- score["predict"] + 4
  score
}

#' "does the weight fall as the number of visits rises"
#' @noRd
cue_moves_as <- function(state, mentions, kinds, score) {
  moves <- "(ris|increas|grow|climb|fall|drop|decreas|declin|go(es)? (up|down)|get(s)? (bigger|smaller|higher|lower))\\w*"
  if (says(state, paste0("\\b", moves, "\\b.*\\b(as|when|if|while)\\b.*\\b", moves, "\\b")) && length(mentions) >= 2) {
    score["relate"] <- score["relate"] + 2
    score["frequency"] <- 0
  }
  score
}

#' "does the length weight relationship differ between species": the relation within each
#' @noRd
cue_relation_within <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(relation(ship)?|correlation|association|link)s?\\b.*\\b(differs?|var(y|ies)|the same|depends?|changes?|similar|holds?)\\b") &&
      sum(kinds %in% c("number", "count")) == 2 && sum(kinds %in% c("category", "yes_no")) == 1 && length(mentions) == 3) {
    score["relate"] <- max(score) + 2
  }
  score
}

#' "regress gas on temperature separately before and after"
#' @noRd
cue_regress <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(please )?(regress|fit|model)\\b") && length(mentions) >= 2) score["predict"] <- max(score) + 2
  score
}

#' "how strongly does temperature drive sales": two columns, of which one acts on the other
#' @noRd
cue_drives <- function(state, mentions, kinds, score) {
  drives <- "\\b(do|does|did|is|are)\\b.*\\b(drives?|driven by|drove)\\b"
  if (score["drivers"] > 0 && length(mentions) == 2 && says(state, drives) && !says(state, "^ *(what|which)\\b")) {
    score["relate"] <- max(score) + 1
    score["drivers"] <- 0
  }
  score
}

#' "does the effect of X on Y depend on Z": an interaction
#' @noRd
cue_moderation <- function(state, mentions, kinds, score) {
  if (asks_for_moderation(state) && length(mentions) + length(state$groups) >= 3) score["predict"] <- score["predict"] + 2
  score
}

#' "does the effect of nitrogen differ between varieties": the same of a measured column
#' @noRd
cue_effect_differs <- function(state, mentions, kinds, score) {
  if (effect_depends(state) && length(mentions) == 2 && sum(kinds %in% c("number", "count")) == 1 && kinds[1] %in% c("number", "count") &&
      !length(state$groups) && !says(state, "\\beffects? of\\b[^?]*\\bon\\b")) score["predict"] <- max(score) + 2
  score
}

#' "is there a variety by nitrogen interaction for yield", where not both take levels
#' @noRd
cue_interaction_named <- function(state, mentions, kinds, score) {
  levels <- sum(kinds %in% c("category", "yes_no", "ordered"))
  if (any(vapply(state$items, has_lex, NA, "scope", "interaction")) && length(mentions) == 3 && levels < 2 && score["predict"] < 0.5 &&
      score["compare"] < 1) {
    score["predict"] <- score["predict"] + 1.6
  }
  score
}

#' "which is the better predictor of volume, girth or height"
#' @noRd
cue_better_predictor <- function(state, mentions, kinds, score) {
  if (length(mentions) >= 3 && says(state, "\\b(better|best|stronger|strongest) predictors?\\b")) {
    score["drivers"] <- max(score) + 2
  }
  score
}

#' "which measurement differs most between the species"
#' @noRd
cue_measurement_differs <- function(state, mentions, kinds, score) {
  if (length(mentions) == 1 &&
      says(state, paste0("^ *(which|what) (measurements?|variables?|columns?|factors?|features?|indicators?|measures?|characteristics?) ",
      "(differs?|var(y|ies)|separates?|distinguish(es)?)\\b.*\\b(most|best|strongest|least)?\\b"))) {
    score["drivers"] <- max(score) + 2
  }
  score
}

#' "trend in cases over tobacco", of a column of ordered levels
#' @noRd
cue_trend_over_levels <- function(state, mentions, kinds, score) {
  if (length(mentions) == 2 && any(kinds == "ordered") && any(kinds %in% c("number", "count")) && !has_dates(state) &&
      says(state, "\\btrends? (in|of)\\b.*\\b(over|across|with|by)\\b")) score["relate"] <- max(score) + 1
  score
}

#' "how does uptake change with concentration": the second of two measures, not time, is what it moves with
#' @noRd
cue_changes_with <- function(state, mentions, kinds, score) {
  if (length(mentions) == 2 && all(kinds %in% c("number", "count")) && !length(state$groups) && mentions[[2]]$marker == "with" &&
      says(state, "\\b(chang|var(y|ies)|ris|fall|grow|increas|decreas|drop|declin)\\w* (much )?with\\b") &&
      !says(state, "\\b(over time|per (day|week|month|quarter|year)|(dai|week|month|quarter|year)ly)\\b")) score["relate"] <- max(score) + 1
  score
}

#' "do smokers exercise less": who comes first, and a column of levels of which they are to have less
#' @noRd
cue_have_less_of <- function(state, mentions, kinds, score) {
  if (!any_measured(kinds) && length(mentions) == 1 && kinds[1] %in% c("category", "ordered", "yes_no") && any(vapply(state$groups, function(g)
    !g$negated && g$column != mentions[[1]]$column, NA)) && score["compare"] < 1.5 &&
      says(state, "^ *(do|does|did|are|is|were|was)\\b.*\\b(more|less|better|worse)\\b *[?.!]*$")) {
    score["relate"] <- max(score) + 1
  }
  score
}

#' "which items correlate with satisfaction most", "what is satisfaction related to"
#' "correlate everything with murder"
#' @noRd
cue_all_correlated <- function(state, mentions, kinds, score) {
  norms <- norms_of(state)
  all <- says(state, "\\b(everything|(all|each|every)( of the)?( other)? (variables?|columns?|measures?|factors?|things?))\\b")
  if (score["relate"] > 0 && length(mentions) == 1 && !length(state$groups) && (any(norms %in% c("which", "what")) || all)) {
    score["drivers"] <- score["relate"] + 0.2
  }
  score
}

#' "are older keepers more satisfied": two scales that go together
#' @noRd
cue_comparative_of_two <- function(state, mentions, kinds, score) {
  norms <- norms_of(state)
  adjectives <- sum(vapply(mentions, function(m) m$adjective, NA))
  comparative <- any(norms %in% c("more", "less")) || any(grepl("[a-z]er$", norms[state$type == "adjective"]))
  if (length(mentions) == 2 && adjectives >= 1 && comparative && !any(norms == "than") &&
      !length(state$groups)) score["relate"] <- score["relate"] + 1
  score
}

#' "how does cost vary with age and comorbidities": one column explained by several
#' @noRd
cue_varies_with_several <- function(state, mentions, kinds, score) {
  if (length(mentions) >= 3 && kinds[1] %in% c("number", "count", "yes_no") && !any(kinds %in% c("date", "datetime")) &&
      says(state, "^ *how (do|does|did)\\b.*\\b(vary|varies|change|differ|depend)s? (much )?(with|on)\\b")) score["predict"] <- max(score) + 1
  score
}
