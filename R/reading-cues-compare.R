# Cues that sides, shares or spreads are compared: turns of phrase, each with the question it was met in.
# Each takes the state, the columns mentioned with their kinds, and the scores so far, and gives the scores.

#' "the mean of Q1 to Q5" asks for their means, not for a comparison of them
#' @noRd
cue_paired_columns <- function(state, mentions, kinds, score) {
  plain <- length(intersect(asked_statistics(state), c("mean", "median", "sd", "sum", "min", "max"))) > 0 && max(score[c("compare", "change")]) < 0.5
  if (paired_columns(state, mentions) && score["relate"] < 0.5 && !plain) score["change"] <- score["change"] + 0.9
  score
}

#' "is smoking more common in men": shares of two sides, not a count of one
#' @noRd
cue_more_common <- function(state, mentions, kinds, score) {
  if (says_more_common(state) && score["sample_size"] < 0.5 && !any(vapply(state$groups, function(g) isTRUE(g$numeric), NA)) && any(c(kinds,
    vapply(state$groups, function(g) kind_at(state, g$column), "")) %in% c("yes_no", "category"))) { score["compare"] <- score["compare"] +
      2.2; score["frequency"] <- 0 }
  score
}

#' "is lead time longer for cancelled bookings"
#' @noRd
cue_comparative_for <- function(state, mentions, kinds, score) {
  comparative <- "\\b(more|less|fewer|[a-z]{2,}(er|ier)|better|worse) (for|in|among|with|when|at|on)\\b"
  if (says(state, "^ *(is|are|was|were|do|does|did|has|have)\\b") && says(state, comparative) &&
      length(mentions) == 2 && sum(kinds %in% c("number", "count")) == 1 && sum(kinds %in% c("yes_no", "category")) == 1 && !length(state$groups)) {
    score["compare"] <- score["compare"] + 1.2
  }
  score
}

#' "is noise louder at the airport": the level named against the others
#' @noRd
cue_comparative_at <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(is|are|was|were)\\b.*\\b([a-z]{3,}er|(more|less) [a-z]+) (in|at|for|among|with|on|near)\\b") && !says(state, "\\b(than|per|over time|after|under|over|average|mean|median)\\b") &&  # nolint: line_length_linter.
      length(mentions) == 1 && kinds[1] %in% c("number", "count", "ordered") && length(state$groups) == 1 && names_one(state$groups[[1]]) &&
      !state$groups[[1]]$negated && max(score[c("compare", "relate", "predict")]) < 1) {
    score["compare"] <- max(score) + 1
  }
  score
}

#' "are senior staff prouder": one level against what the others are
#' @noRd
cue_comparative_last <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(is|are|was|were)\\b.*\\b((more|less) [a-z]+|[a-z]{3,}er)[?.! ]*$") && length(mentions) == 1 && kinds[1] %in% c("number",
      "count",
    "ordered") && mentions[[1]]$at == state$n && length(state$groups) == 1 && length(state$groups[[1]]$levels) == 1 && !state$groups[[1]]$negated) {
    score["compare"] <- score["compare"] + 1.5
  }
  score
}

#' "do houses with a heat pump use more": what is more is left open, and the rows are not counted
#' @noRd
cue_uses_more <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(do|does|did)\\b.*\\b[a-z]+ (more|less|fewer)[?.! ]*$") && length(mentions) == 1 && kinds[1] == "yes_no" &&
      !length(state$groups)) {
    score["compare"] <- score["compare"] + 1.5
  }
  score
}

#' "was the share scoring above 100 higher in the intervention group": against those that are not named
#' @noRd
cue_share_higher_in <- function(state, mentions, kinds, score) {
  if (length(state$groups) == 1 && says(state, "^ *(is|was|are|were) (the )?(share|proportion|percentage|fraction)s? (of|that|who|with)\\b.*\\b(higher|lower|larger|smaller|greater|bigger) (in|among|for|with|at|on)\\b")) {  # nolint: line_length_linter.
    score["compare"] <- max(score) + 1
  }
  score
}

#' "effect size of free meals on attendance"
#' @noRd
cue_effect_size <- function(state, mentions, kinds, score) {
  if (says(state, "\\beffect size\\b|\\b(cohen|hedges|glass)('?s)? (d|g|delta)\\b|\\bcohens d\\b") && measured_one(kinds) &&
      score["sample_size"] < 0.5) {
    score["compare"] <- score["compare"] + 1.2
  }
  score
}

#' "odds ratio of survival for syrup against control": two sides of a share, where nothing measured explains it
#' @noRd
cue_odds_of_sides <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(odds|risk) ratios?\\b|\\brelative risks?\\b|\\b(absolute )?risk (difference|reduction)s?\\b") && any(kinds == "yes_no") &&
      !any(kinds %in% c("number", "count")) && (any(vapply(state$groups, names_several, NA)) || length(mentions) == 2)) {
    score["compare"] <- max(score) + 1.5
    score["frequency"] <- 0
  }
  score
}

#' "how much more honey do syrup hives give": two sides, though only one is named
#' @noRd
cue_how_much_more <- function(state, mentions, kinds, score) {
  if (says(state, "\\bhow (much|many) (more|less|fewer|higher|lower|better|worse|longer|shorter|heavier|lighter|bigger|smaller|larger|faster|slower|older|younger|taller)\\b") && any_measured(kinds) && length(state$groups) &&  # nolint: line_length_linter.
      score["predict"] < 0.5) score["compare"] <- score["compare"] + 2
  score
}

#' "is the yield higher than 20 kg on average in syrup hives": a value to compare with
#' @noRd
cue_stated_value <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(is|are|was|were)\\b.*\\b(higher|lower|more|less|greater|above|below|larger|smaller) than (about |around )?[0-9]") &&
      !any_measured(kinds) && length(state$filters) == 1) score["compare"] <- score["compare"] + 2
  score
}

#' "is tutoring effective?", "does syrup work?": an effect on something that the question leaves open
#' @noRd
cue_effective <- function(state, mentions, kinds, score) {
  if (length(mentions) + length(state$groups) == 1 && !any_measured(kinds) &&
      says(state, paste0("^ *(is|are|was|were)\\b.*\\b(effective|useful|helpful|beneficial|any good|worth it)\\b|",
    "^ *(does|do|did)\\b.*\\b(work|help|matter|make a difference|pay off)\\b *[?.!]*$"))) {
    score["compare"] <- score["compare"] + 2.5
    score["frequency"] <- 0
  }
  score
}

#' "is the median revenue higher for express": one side is named, the others are what it is held against
#' @noRd
cue_one_side_named <- function(state, mentions, kinds, score) {
  one_sided <- says(state, paste0("^ *(is|are|was|were|do|does|did|has|have)\\b.*\\b(higher|lower|more|less|fewer|better|worse|greater|larger|smaller|longer|shorter|faster|",  # nolint: line_length_linter.
                            "slower|bigger|heavier|lighter|older|younger|taller|quicker|cheaper|dearer|stronger|weaker)\\b(?!.* than (about ",
                                "|around )?[0-9])"))
  sides <- Filter(names_one, state$groups)
  adjective <- any(state$type == "adjective" & grepl("[a-z]er$", norms_of(state))) && says(state, "^ *(is|are|was|were)\\b")
  # ("are rural households poorer in the north": the side stands before what is said of it, the place behind it)
  placed <- length(sides) == 2 && length(state$groups) == 2 && sides[[1]]$column != sides[[2]]$column &&
    !says(state, "\\b(than|how many|share|proportion|percent)\\b")
  if ((one_sided || adjective) && any_measured(kinds) && length(sides) == length(state$groups) && (length(sides) == 1 || placed) &&
      !length(state$filters)) score["compare"] <- score["compare"] + 1.2
  score
}

#' "do left footed players score more"
#' @noRd
cue_sides_do_more <- function(state, mentions, kinds, score) {
  if (!length(mentions) && length(state$groups) && says(state,
      "^ *(do|does|did|are|is|were|was)\\b.*\\b(more|less|better|worse|higher|lower)\\b *[?.!]*$") &&
          max(score) < 1) score["compare"] <- score["compare"] + 1.5
  score
}

#' "is express shipping faster": a side, and something better or worse about it that the reading has to find
#' @noRd
cue_side_is_better <- function(state, mentions, kinds, score) {
  if (!length(mentions) && length(state$groups) && says(state, "^ *(is|are|was|were|do|does|did)\\b.*\\b[a-z]{3,}er\\b *[?.!]*$") &&
      max(score) < 1) score["compare"] <- score["compare"] + 1.5
  score
}

#' "is yield above 20 on average": a stated value to hold the mean against
#' @noRd
cue_stated_mean <- function(state, mentions, kinds, score) {
  if (says(state, paste0("^ *(is|are|was|were)\\b.*\\b(above|below|over|under) (about |around )?[0-9].*\\bon average\\b|^ *(is|are|was|were) (the ",
      ")?(mean|average|median)\\b.*\\b(above|below|over|under) (about |around )?[0-9]")) && !any_measured(kinds) &&
          length(state$filters) == 1) score["compare"] <- score["compare"] + 2.5
  score
}

#' "do the two scales give the same weight"
#' @noRd
cue_the_same_of_both <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(do|does|did|are|is|were|was)\\b.*\\b(two|both)\\b.*\\b(the same|alike|equal|identical)\\b") && !length(state$groups)) {
    score["compare"] <- score["compare"] + 1.5
  }
  score
}

#' "do promotions lift revenue": whatever the verb, it asks whether the two go together
#' @noRd
cue_any_verb <- function(state, mentions, kinds, score) {
  verb <- which(state$type == "unknown" & !state$used)
  if (length(verb) == 1 && length(mentions) + length(state$groups) == 2 && length(mentions) && max(score) < 0.6 && says(state,
      "^ *(do|does|did|can|will|would)\\b")) {
    at <- c(vapply(mentions, `[[`, 1L, "at"), unlist(lapply(state$groups, function(g) max(g$at))))
    if (any(at < verb) && any(at > verb)) score["compare"] <- 1.5
  }
  score
}

#' "does the effect of method depend on gender", on what is left open
#' @noRd
cue_moderation_open <- function(state, mentions, kinds, score) {
  sides <- length(mentions) + length(unique(vapply(Filter(function(g) !g$negated && !isTRUE(g$numeric), state$groups), `[[`, 1L, "column")))
  if ((asks_for_moderation(state) || effect_depends(state)) && sides == 2 && all(kinds %in% c("category", "yes_no")) &&
      !length(state$filters)) score["compare"] <- max(score) + 2
  score
}

#' "interaction of wool and tension on breaks"
#' @noRd
cue_interaction_of_factors <- function(state, mentions, kinds, score) {
  levels <- sum(kinds %in% c("category", "yes_no", "ordered"))
  if (any(vapply(state$items, has_lex, NA, "scope", "interaction")) && levels >= 2 && sum(kinds %in% c("number", "count")) == 1 &&
      score["predict"] < 0.5) score["compare"] <- score["compare"] + 1.4
  score
}

#' "interaction of nitrogen and phosphate": on what is left open
#' @noRd
cue_interaction_open <- function(state, mentions, kinds, score) {
  few <- sum(vapply(mentions, function(m) can_group(state, m$column), NA))
  if (any(vapply(state$items, has_lex, NA, "scope", "interaction")) && few >= 2 && few == length(mentions) && score["predict"] < 1) {
    score["compare"] <- max(score) + 1
  }
  score
}

#' "did the women spend more": a measure between the two sides of a yes/no column
#' @noRd
cue_yes_no_and_measure <- function(state, mentions, kinds, score) {
  if (says(state, paste0("^ *(do|does|did|are|is|were|was|have|has)\\b.*\\b(more|less|fewer|longer|shorter|higher|lower|older|younger|",
      "heavier|lighter|better|worse|faster|slower|bigger|smaller|larger|greater|taller|richer|poorer)\\b")) && any(kinds == "yes_no") &&
    any_measured(kinds) && length(mentions) == 2) {
    score["compare"] <- score["compare"] + 1
  }
  score
}

#' "is yield more variable in the north": spreads compared
#' @noRd
cue_variable_or_spread <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(more|less|equally) (variable|varied|spread)|vary (more|less)|variances (of|between|differ)|variance (between|differ)")) {
    score["compare"] <- score["compare"] + 0.9
  }
  score
}

#' "non-inferior to control with a margin of 5, higher is better": the side that is better is no comparison of its own
#' @noRd
cue_not_worse <- function(state, mentions, kinds, score) {
  said <- says(state, "non.?inferior|not (much )?(worse|inferior)|no worse") && any(state$type == "number")
  if (said && score["sample_size"] < 1) score["equivalence"] <- max(score) + 1
  score
}
