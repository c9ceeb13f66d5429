# Questions that say which rows are compared with which: strata and clusters of times to an event, matched sets of cases and controls.

#' "log-rank test of time by arm stratified by site", "cox regression of time on arm with errors clustered by site"
#'
#' Curves "stratified by sex" are drawn for each sex: they are left as they are.
#' @noRd
wish_hazard_rows <- function(text, vocabulary) {
  if (!grepl("\\b(cox|hazards?|log-?rank|peto)\\b", text, ignore.case = TRUE) || grepl("\\bkaplan|\\bcurves?\\b", text,
      ignore.case = TRUE)) return(NULL)
  out <- list(text = text, extra = list())
  # (with "stratified by arm" and nothing else the strata are the groups)
  beside <- "\\b(on|by|between|across|of|for|vs|versus|against|from)\\b.*"
  strata <- "(?:,? ?(?:and )?(?:stratified|stratifying|stratify|stratification) (?:by|on|for|within|over)|,? ?(?:with|using|and|within) strat(?:a|um) (?:of|for|by)?|,? strata (?:of|for|by)?) ?(?:the )?"  # nolint: line_length_linter.
  out <- column_at_tail(out, vocabulary, strata, "strata_by", paste0(beside, strata))
  lead <- sub("(?i)^ *stratified (cox|log-?rank)", "\\1", out$text, perl = TRUE)
  errors <- "(?:(?:and )?(?:with|using) )?(?:cluster[- ]?)?(?:robust )?(?:standard )?(?:errors? )?"
  clusters <- sprintf("(?:,? ?%s(?:clustered|clustering|clusters?) (?:by|on|within|at|in|of|for)|,? ?(?:and )?(?:with|using) cluster[- ]?robust (?:standard )?errors? (?:by|for|within)|,? ?allowing for (?:the )?clustering (?:by|within|in|of))(?: the| each)? ", errors)  # nolint: line_length_linter.
  out <- column_at_tail(utils::modifyList(out, list(text = lead)), vocabulary, clusters, "cluster")
  if (length(out$extra)) out
}

#' "conditional logistic regression of case on induced, matched by stratum", "logistic regression of case on smoking in matched sets of pair"
#' @noRd
wish_matched <- function(text, vocabulary) {
  named <- grepl("\\bconditional logi(t|stic)|\\bmatched (logistic|analysis|case)", text, ignore.case = TRUE)
  model <- named || grepl("\\blogistic\\b", text, ignore.case = TRUE) && grepl("\\bmatched\\b", text, ignore.case = TRUE)
  if (!model) return(NULL)
  out <- list(text = text, extra = list(matched = TRUE))
  tails <- c("(?:,? ?(?:and )?(?:stratified|stratifying|conditioned|conditioning|conditional) (?:by|on|for|within)|,? ?(?:with |within )?strata (?:of|for|by)?) ?(?:the )?",  # nolint: line_length_linter.
             ",? ?(?:and )?(?:with |in |within |for |where |rows )?(?:the )?(?:rows |cases |cases and controls )?(?:are )?(?:individually )?(?:matched )?(?:sets|pairs|matched|matching) (?:by|on|in|within|of|from|given by|are)(?: the)? ",  # nolint: line_length_linter.
             ",? ?within (?:each |the same )?")
  for (words in tails) {
    taken <- column_at_tail(out, vocabulary, words, "cluster")
    if (!is.null(taken$extra$cluster)) { out <- taken; break }
  }
  out$text <- if (named) sub("(?i)\\bmatched (analysis|case[- ]control analysis|logistic)", "conditional logistic", out$text, perl = TRUE)
    else sub("(?i)\\blogistic", "conditional logistic", out$text, perl = TRUE)
  if (is.null(out$extra$cluster)) out$extra$cluster <- column_of_sets(vocabulary$columns)
  out
}

#' The one column that is called like the sets of a matched study and repeats
#' @noRd
column_of_sets <- function(columns) {
  at <- grepl("^(matched_?)?(set|pair|stratum|strata|match|quad|riskset|risk_set|case_?set)(_?(id|no|nr|number))?$",
      tolower(columns$name)) & !columns$unique
  if (sum(at) == 1) columns$name[at]
}

#' A column named at the end of a question after certain words, taken out of it into one setting
#' @param where What the whole question must hold, where more than these words.
#' @noRd
column_at_tail <- function(out, vocabulary, words, setting, where = words) {
  if (!grepl(where, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  hit <- match_groups(out$text, sprintf("(?i)^(.+?)%s([\\w .]+?)([,;]? (?:with|and|adjusting|controlling|adjusted|clustered|stratified) .+)?[?. ]*$", words))  # nolint: line_length_linter.
  column <- if (!is.na(hit[1])) column_said(vocabulary, hit[3])
  if (is.null(column) || !column$kind %in% c("id", "category", "ordered", "yes_no", "count", "text")) return(out)
  out$extra[[setting]] <- column$name
  utils::modifyList(out, list(text = trimws(paste0(hit[2], if (is.na(hit[4])) "" else hit[4]))))
}

#' A column that neither divides the rows nor explains, nor is held constant
#' @noRd
without_part <- function(r, name) {
  for (part in c("by", "predictors", "adjust_for")) r[[part]] <- setdiff(r[[part]], name)
  r
}

#' Strata and clusters belong to times to an event: with them no column of groups is left but a predictor
#' @noRd
with_hazard_rows <- function(r) {
  if (isTRUE(r$extra$matched)) return(with_matched_sets(r))
  if (r$task != "survival") {
    r$extra["strata_by"] <- list(NULL)
    return(r)
  }
  by <- r$extra$strata_by
  others <- setdiff(c(r$by, r$predictors, r$adjust_for), by)
  if (!is.null(by) && !length(others) && is.null(r$extra$cluster)) {
    # nothing else is compared: the strata are the groups
    r$by <- by
    r$extra["strata_by"] <- list(NULL)
  } else if (!is.null(by)) {
    r <- without_part(r, by)
    r$assumed <- c(r$assumed, sprintf("Rows are compared with rows of the same %s only; the strata are put together.", by))
  }
  if (is.null(r$extra$cluster)) return(r)
  r$predictors <- setdiff(unique(c(r$predictors, r$by)), r$extra$cluster)
  r["by"] <- list(NULL)
  r["method_asked"] <- list(NULL)
  r
}

#' The column of sets is no predictor; without one nothing is matched
#' @noRd
with_matched_sets <- function(r) {
  set <- r$extra$cluster
  if (is.null(set) || r$task != "predict") {
    r$extra["matched"] <- list(NULL)
    return(r)
  }
  r <- without_part(r, set)
  r["method_asked"] <- list(NULL)
  r$assumed <- unique(c(r$assumed, sprintf("Rows are compared with rows of the same %s only.", set)))
  r
}
