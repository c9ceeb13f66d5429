# Questions about the results of several studies that do not say that they are to be combined.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_pooled <- function() {
  list(turn("pool|meta-?analy|\\b(trial|stud(y|ies))s?\\b|\\b(effects?|results?|ratios?) (differ|var|depend)", pooled_said))
}

#' Does the one table hold study results: effects with errors, counts, means or correlations of each study?
#' @noRd
holds_studies <- function(study) {
  tables <- data_tables(study)
  if (length(tables) != 1 || nrow(tables[[1]]$data) > 500) return(FALSE)
  columns <- study_vocabulary(study)$columns
  !is.null(raw_study_columns(columns)) || length(study_columns(columns)$errors) > 0
}

#' "the pooled risk ratio of the drug versus placebo", "which trial has the most weight", "prediction interval for a new trial"
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
pooled_said <- function(out) {
  text <- out$text
  forms <- list(c("(?i)^(.*\\b(?:pooled|overall|combined|meta-?analytic)\\b.*?\\b(?:ratios?|differences?|effects?|means?|correlations?)) (?:of|for|between|comparing) .+? (?:versus|vs\\.?|against|and|with|compared (?:to|with)|over) [\\p{L} ]+?[?.! ]*$", "\\1"),  # nolint: line_length_linter.
    c("(?i)^ *(?:which|what) (?:trial|study) (?:has|had|carries|gets) the (?:most|largest|biggest|highest|greatest) weight([, ]+(?:with|under|in|using) .*)?[?.! ]*$",  # nolint: line_length_linter.
      "pool the studies: the largest weight\\1"),
    c("(?i)^ *(?:what is |give |show )?(?:the |an? )?(?:[0-9]+ ?% )?prediction interval (?:for|of) (?:an? |the )?(?:new|future|next|further) (?:trial|study)[?.! ]*$",  # nolint: line_length_linter.
      "pool the studies: prediction interval"))
  for (form in forms) if (grepl(form[1], text, perl = TRUE) && holds_studies(out$study)) {
    return(reworded(out, sub(form[1], form[2], text, perl = TRUE)))
  }
  hit <- match_groups(text, "(?i)^ *(?:do|does|did|is) (?:the )?(?:pooled )?(?:effects?|results?|ratios?) (?:differs?|vary|varies|depends?|different) (?:between|across|by|on|among|in) (?:the )?(.+?)(?: (?:trials?|stud(?:y|ies)))?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !holds_studies(out$study)) return(out)
  levels <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  found <- column_in_text(levels, hit[2], named_phrases(out$study, levels)) %||% column_of_words(levels, strsplit(hit[2], " ")[[1]])
  if (is.null(found)) out else reworded(out, sprintf("pool the studies by %s", found$name))
}
