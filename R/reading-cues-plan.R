# Cues of planning a study, of pooling studies, and of advice on a method.
# Each takes the state, the columns mentioned with their kinds, and the scores so far, and gives the scores.

#' the size of a sample, whichever test it is for
#' @noRd
cue_sample_size <- function(state, mentions, kinds, score) {
  if (says(state, paste0("\\bsample size (for|to|needed|required|of a|do)\\b|\\b(can|could|would|will|do|does) (i|we|you|it|this) (be able to ",
      ")?(detect|see)\\b|\\b(what|which|how (small|large|big)( an?)?) (\\w+ )?(effect|difference|correlation|change)s?( sizes?)? (can|could|would|will|is|are) (be |i |we |it )?(be )?(detect\\w*|seen?|found|find)\\b|how (many|large|big).{1,60}\\b(need|needed|required)\\b.{0,40}\\b(detect|power|see|show)\\b|\\bdetectable\\b"))) {  # nolint: line_length_linter.
    score["sample_size"] <- score["sample_size"] + 3
  }
  score
}

#' "the power of a t test with 30 per group", "how many pairs for a paired test", "how many per arm for a difference of 2"
#' @noRd
cue_power <- function(state, mentions, kinds, score) {
  planned <- any(state$type == "number") && !"power" %in% state$vocabulary$terms$stem &&
    says(state, paste0("\\bpower (of|for|to|in|do|does|would|will|has|have)\\b|\\b(statistical|what|the|achieved|enough) power\\b|\\bhow many pairs\\b|",  # nolint: line_length_linter.
                       "\\bhow many \\w+ (per|in each|for each|in every) (arm|group|condition|cell|treatment)s? (for|to)\\b|\\bsample size per\\b"))
  if (planned) score["sample_size"] <- score["sample_size"] + 6
  # "sample size by wave": the rows there are
  if (!planned && says(state, "^ *(what (is|are|was) )?(the )?(sample sizes?|n) (by|per|in each|for each|in every|across)\\b")) {
    score["sample_size"] <- 0
    score["frequency"] <- max(score) + 1
  }
  # "how many participants are nonbinary" counts those who are
  counted <- says(state, "^ *how many \\w+ (are|were|have|had|is|was|did|do)\\b") && length(c(state$groups, state$filters)) &&
    !says(state, "\\b(need\\w*|require\\w*|detect|power|enough|necessary|should)\\b")
  if (counted && score["sample_size"] > 0) {
    score["sample_size"] <- 0
    score["frequency"] <- max(score) + 0.6
  }
  if (score["sample_size"] > 0.9 && any(state$type == "number")) score["sample_size"] <- score["sample_size"] + 0.6
  score
}

#' "the overall effect across the studies"
#' @noRd
cue_studies_pooled <- function(state, mentions, kinds, score) {
  if (says(state, "\\b(overall|pooled|combined|summary)\\b.*\\b(across|over|from) (the |these |all |all the )?(studies|trials)\\b")) {
    score["pool"] <- score["pool"] + 2
  }
  score
}

#' Data of studies, with an effect and its standard error in each
#' @noRd
cue_studies <- function(state, mentions, kinds, score) {
  if (asks_of_studies(state, mentions)) score["pool"] <- max(score) + 3
  score
}

#' "forest plot of the trials"
#' @noRd
cue_forest <- function(state, mentions, kinds, score) {
  if (says(state, "forest plot|forest figure")) score["pool"] <- score["pool"] + 1.5
  score
}

#' "which test to compare A between B and C"
#' @noRd
cue_which_test <- function(state, mentions, kinds, score) {
  asked <- says(state, "^ *(so |and )?(which|what) (statistical )?(test|analysis|method|procedure)\\b")
  # "which test has the most abnormal results", of a column test
  column <- says(state, "^ *(which|what) (test|analysis|method|procedure)s? (has|have|had|shows?|showed)\\b") &&
    any(tolower(state$vocabulary$columns$name) %in% c("test", "analysis", "method", "procedure"))
  if (asked && column) score["advise"] <- 0
  if (asked && !column) score["advise"] <- max(score) + 2
  score
}
