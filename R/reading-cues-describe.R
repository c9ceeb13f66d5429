# Cues that something is counted, shared out or ranked.
# Each takes the state, the columns mentioned with their kinds, and the scores so far, and gives the scores.

#' "top 3 agents by resolution rate"
#' @noRd
cue_rate_ranked <- function(state, mentions, kinds, score) {
  if (rate_of_event(state, mentions) && score["rank"] >= 0.3) score["rank"] <- score["rank"] + 2.5
  score
}

#' "count swarmed hives by arm": a table, not a test
#' @noRd
cue_count_by_group <- function(state, mentions, kinds, score) {
  if (length(asked_statistics(state)) && identical(main_statistic(state), "count") && length(mentions) == 2 &&
      score["relate"] < 0.5 && max(score[c("compare", "predict", "frequency")]) < 0.5 && all(kinds %in% c("category", "yes_no", "ordered", "id"))) {
    score["frequency"] <- score["frequency"] + 0.8
  }
  score
}

#' "share agreeing that they feel safe": answers of one item, not two raters
#' @noRd
cue_share_agreeing <- function(state, mentions, kinds, score) {
  if (score["agreement"] > 0.3 && length(mentions) >= 1 && (any(kinds == "ordered") || length(agreed_items(state))) &&
      says(state, "\\b(share|percent\\w*|proportion|fraction|how many|number of)\\b")) {
    score["agreement"] <- 0
    # "which district has the lowest share agreeing that ...": the groups are ranked by it
    ranked <- says(state, "^ *(which|what) \\p{L}+.*\\b(highest|lowest|largest|smallest|best|worst|most|least)\\b")
    task <- if (ranked) "rank" else "frequency"
    score[task] <- score[task] + 2
  }
  score
}

#' "agreement with Q2 by age group": how far people agree with a statement, not two raters with each other
#' @noRd
cue_agreement_with <- function(state, mentions, kinds, score) {
  if (score["agreement"] > 0.5 && says(state, "\\bagree(ment|s)? with\\b") && length(mentions) == 2 &&
    any(vapply(mentions, function(m) m$marker == "by", NA))) {
    score["agreement"] <- 0
    score["frequency"] <- score["frequency"] + 1
  }
  score
}

#' "how were the items answered?", "which statement finds most agreement?", "share ticking each option"
#' @noRd
cue_items_answered <- function(state, mentions, kinds, score) {
  if (asks_how_answered(state, mentions) && !length(intersect(asked_statistics(state), c("mean", "median", "sd"))) && is.null(single_method(state))) {
    score[c("agreement", "rank", "distribution", "look_up", "figure")] <- 0
    score["frequency"] <- score["frequency"] + 3
  }
  score
}

#' "entropy of region": of the counts of its levels
#' @noRd
cue_entropy <- function(state, mentions, kinds, score) {
  if ("entropy" %in% asked_statistics(state)) score["frequency"] <- max(score) + 1
  score
}

#' "age by region with expected counts and adjusted residuals": parts of a table of counts
#' @noRd
cue_table_parts <- function(state, mentions, kinds, score) {
  said <- says(state, paste0("\\b(adjusted|standardi[sz]ed) residuals\\b|\\bexpected (counts|frequencies)\\b|\\b(row|column|cell|total)[- ]?(percent(age)?s?|shares?|",  # nolint: line_length_linter.
                             "proportions?)\\b"))
  if (said && length(mentions) == 2 && !any(kinds %in% c("number", "count")) && is.null(single_method(state))) score["frequency"] <- max(score) + 1
  score
}

#' "how many were enrolled and followed up": the flow of participants
#' @noRd
cue_flow <- function(state, mentions, kinds, score) {
  if (asks_for_flow(state) && max(score[c("predict", "compare", "relate")]) < 1) score["frequency"] <- score["frequency"] + 3
  score
}

#' "share using a bike by district"
#' @noRd
cue_share_by <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(what |the )?(share|proportion|percent(age)?|fraction)s? \\w+") && length(mentions) == 2 &&
      sum(kinds == "yes_no") >= 1 && any(vapply(mentions, function(m) m$marker == "by", NA)) && max(score[c("relate", "compare", "predict")]) < 0.5) {
    score["frequency"] <- score["frequency"] + 1
  }
  score
}

#' "share paying by credit card by plan": a level of one column, over another
#' @noRd
cue_share_of_level_by <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(what |the )?(share|proportion|percent(age)?|fraction)s?\\b") && length(state$groups) == 1 &&
      !any_measured(kinds) &&
      any(vapply(mentions, function(m) m$column == state$groups[[1]]$column, NA)) && score["compare"] < 0.5) {
    score["frequency"] <- max(score) + 1
  }
  score
}

#' "how many distinct species"
#' @noRd
cue_distinct <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(distinct|unique)\\b|\\bhow many different\\b|\\bnumber of different\\b") && (length(mentions) || !is.null(distinct_dates(state)))) {  # nolint: line_length_linter.
    score["frequency"] <- score["frequency"] + 1.5
  }
  score
}

#' "which maker has the most models": nothing is measured, so rows are counted
#' @noRd
cue_most_rows <- function(state, mentions, kinds, score) {
  norms <- norms_of(state)
  # ("the most fuel efficient car": an adjective of what is counted ranks the rows)
  adjective <- length(mentions) == 1 && kind_at(state, mentions[[1]]$column) == "count" && grepl("^(most|least)$", item_norm(state,
    mentions[[1]]$at - 1)) && !grepl("[^us]s$", item_norm(state, mentions[[1]]$at))
  if (length(mentions) == 1 && !adjective && (kind_at(state, mentions[[1]]$column) %in% c("category", "yes_no", "count") ||
      state$vocabulary$columns$role[mentions[[1]]$column] == "multi_answer") && !length(state$groups) &&
      norms[1] != "who" && says(state, "\\b(most|fewest) \\w+|\\b(most|least) (common|frequent)|\\bcommonest\\b") &&
          score["rank"] > 0.3 &&
        !grepl("of all|likely", state$text)) {
    score["frequency"] <- score["frequency"] + 2
  }
  score
}

#' "steepest climb": a superlative that is no column's adjective, right before one
#' @noRd
cue_superlative <- function(state, mentions, kinds, score) {
  at <- vapply(mentions, `[[`, 1L, "at")
  if (length(mentions) && any_measured(kinds) &&
      any(vapply(at, function(k) state$type[max(1, k - 1)] == "unknown" && grepl("^[a-z]{3,}est$", item_norm(state,
      k - 1)),
    NA)) && max(score) < 1) score["rank"] <- 1.5
  score
}

#' "probability of converting for returning visitors": a share, where no values are stated
#' @noRd
cue_probability_of <- function(state, mentions, kinds, score) {
  if (says(state, "^ *(what (is|was) )?(the )?(probability|chance|likelihood) (of|that)\\b") && any(kinds == "yes_no") &&
      !any(vapply(state$groups, function(g) isTRUE(g$numeric), NA)) && length(mentions) == 1 && length(state$filters) + length(state$groups) > 0) {
    score["frequency"] <- max(score) + 2
  }
  score
}

#' "death rate by ecog": the share of the rows at a level named before "rate"
#' @noRd
cue_rate_of_level <- function(state, mentions, kinds, score) {
  rated <- any(vapply(state$groups, function(g) !isTRUE(g$numeric) && grepl("^rates?$", item_norm(state, max(g$at) + 1)), NA))
  apart <- !any(vapply(mentions, function(m) m$marker != "by" && can_measure(state, m$column), NA))
  if (rated && apart && max(score[c("compare", "relate", "predict", "rank", "trend", "survival")]) < 1) score["frequency"] <- max(score) + 1.2
  score
}

#' "number of hives": rows are counted
#' @noRd
cue_number_of_rows <- function(state, mentions, kinds, score) {
  norms <- norms_of(state)
  entity <- entities_at(state)
  number_of <- which(norms == "number")
  counted <- number_of[vapply(number_of, function(k) item_norm(state, k + 1) == "of" && isTRUE(entity[k + 2]), NA)]
  if (length(counted)) score["frequency"] <- score["frequency"] + 1.2
  score
}

#' "what do people want improved", of a column of open answers
#' @noRd
cue_open_answers <- function(state, mentions, kinds, score) {
  open <- length(mentions) == 1 && kinds[1] == "text" || length(mentions) == 2 && sum(kinds == "text") == 1 && any(kinds %in% c("category", "ordered",
    "yes_no"))
  if (open && is.null(single_method(state)) && says(state, "^ *(what|why|which|how) (do|did|does|would|are|is)\\b|\\bthemes?\\b|\\bcomments?\\b|\\b(say|said|saying|mention)")) {  # nolint: line_length_linter.
    score["themes"] <- max(score) + 1.5
  }
  # "what do dissatisfied visitors say?"
  said <- any(state$vocabulary$columns$kind == "text") && !length(mentions) &&
    says(state, "^ *what (do|did|does|have|has) .*\\b(say|said|tell us|told us|write|written|wrote|comment|complain)( about( it| us)?)?[?.! ]*$")
  if (said) score["themes"] <- max(score) + 1.5
  score
}

#' "quotes about feed": what open answers say
#' @noRd
cue_quotes <- function(state, mentions, kinds, score) {
  if (asks_for_quotes(state)) score["themes"] <- max(score) + 3
  score
}

#' "no shows per clinic": how many of them there are
#' @noRd
cue_rows_per_group <- function(state, mentions, kinds, score) {
  if (length(mentions) == 2 && identical(kinds[1], "yes_no") && kinds[2] %in% c("category", "ordered", "id") && mentions[[2]]$marker == "by" &&
      says(state, "^ *(the |number of |count of )*[\\w-]+( \\w+)? per \\w+ *[?.!]*$")) score["frequency"] <- max(score) + 1
  score
}
