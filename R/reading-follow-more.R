# Follow-ups that need the study: rates on another scale or over time, zeros left out, weights, what the measure before is related to.

#' The verdict on such a follow-up, or NULL
#' @param text The words without those that only lead them in.
#' @noRd
follow_with_study <- function(study, text, previous) {
  rate_rescaled(text, previous) %||% rate_over_time(study, text, previous) %||% zeros_excluded(study, text, previous) %||%
    weights_added(study, text, previous) %||% related_to_another(study, text, previous)
}

#' "per 1000 units", after a rate over units: on that scale
#' @noRd
rate_rescaled <- function(text, previous) {
  hit <- match_groups(text, "(?i)^(?:(?:as|show|give)(?: a)?(?: rate)? )?(?:per|for (?:each|every)) ([0-9][0-9,]*|hundred|thousand|million)(?: ([\\p{L}_ ]+?))?(?: instead)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !isTRUE(previous$extra[["rate"]])) return(NULL)
  base <- unlist(lapply(previous$predictors, name_stems))
  if (!is.na(hit[3]) && !any(vapply(stems_of(hit[3])[[1]], function(stem) any(alike_stems(stem, base)), NA))) return(NULL)
  sizes <- c(hundred = 100, thousand = 1000, million = 1e6)
  per <- if (tolower(hit[2]) %in% names(sizes)) sizes[[tolower(hit[2])]] else as.numeric(gsub(",", "", hit[2]))
  r <- scale_rate(previous, per)
  new_verdict("answered", continued(r))
}

#' "over time", "by week", after a rate: the totals of each period set against each other
#' @noRd
rate_over_time <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(?:show (?:it |that )?|plot (?:it |that )?)?(?:over time|(?:by|per|for each|each|every) (day|week|month|quarter|year)|(daily|weekly|monthly|quarterly|yearly))(?: instead)?[?.! ]*$")  # nolint: line_length_linter.
  date <- date_columns(study)
  if (is.na(hit[1]) || !isTRUE(previous$extra[["rate"]]) || !length(date)) return(NULL)
  span <- as.numeric(diff(range(as.Date(understood(study, date[1], find_column(study, date[1])$table)), na.rm = TRUE)))
  every <- if (!is.na(hit[2])) tolower(hit[2]) else if (!is.na(hit[3])) period_adjectives[[tolower(hit[3])]] else if (span <= 40) "day" else
    if (span <= 420) "week" else "month"
  name <- period_name_of(every, date[1])
  out <- with_derived(list(study = study, text = ""), name, "period", date[1], every = every)
  if (!has_column(out$study, name)) return(NULL)
  r <- previous
  if (r$task %in% c("compare", "rank")) r$task <- "describe"
  r$by <- name
  r["top"] <- list(NULL); r["method_asked"] <- list(NULL); r$extra$levels <- NULL
  with_derived_study(new_verdict("answered", continued(r)), out$study, study)
}

#' "excluding zeros", "without the zeros", after an answer about one measure: the rows in which it is not 0
#' @noRd
zeros_excluded <- function(study, text, previous) {
  form <- "(?i)^(?:excluding|exclude|without|leave out|leaving out|ignore|ignoring|drop|omit) (?:the |all |any )?(?:zeros?|zero values?|0s)(?: (?:in|of) [\\p{L}_ ]+?)?[?.! ]*$"  # nolint: line_length_linter.
  if (!grepl(form, text, perl = TRUE) || length(previous$outcome) != 1) return(NULL)
  col <- find_column(study, previous$outcome)
  if (is.null(col) || !is_numeric_kind(col$kind)) return(NULL)
  r <- previous
  r$filters <- c(Filter(function(f) f$column != col$name, r$filters), list(new_filter(col$name, beside_zero(study, col), 0)))
  new_verdict("answered", continued(r))
}

#' "weighted by wt", "with the weights": the same, by weights
#' @noRd
weights_added <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(?:weighted(?: by (?:the )?([\\p{L}_0-9. ]+?))?|(?:use|using|with|apply|applying) (?:the )?(?:survey |sampling |design )?weights?(?: ([\\p{L}_0-9. ]+?))?)(?: instead)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !previous$task %in% c("describe", "frequency", "relate", "compare")) return(NULL)
  said <- stats::na.omit(hit[2:3])
  columns <- study_vocabulary(study)$columns
  weight <- if (length(said)) column_in_text(numeric_columns(study), said[1], named_phrases(study))$name else columns$name[columns$role == "weight"]
  if (length(weight) != 1 || weight %in% c(previous$outcome, previous$by)) return(NULL)
  r <- previous
  # (a weighted summary is a mean or a share)
  if (r$task == "describe" && !(r$statistic %||% "mean") %in% c("mean", "weighted_mean", "sum")) {
    r$assumed <- c(r$assumed, sprintf("With weights the mean is told, not the %s.", gsub("_", " ", r$statistic)))
    r["statistic"] <- list(NULL)
  }
  r$extra$statistics <- NULL
  r["method_asked"] <- list(NULL)
  new_verdict("answered", continued(weigh_rows(r, weight)))
}

#' "is it related to income?", after shares or a summary of one column: that column and the other
#' @noRd
related_to_another <- function(study, text, previous) {
  hit <- match_groups(text, "(?i)^(?:is|are|was|were|does|do) (?:it|that|this|they) (?:also )?(?:related|linked|associated|connected|correlated|relate|depend) (?:to|with|on) (?:the |their )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  own <- previous$extra$event$column %||% if (length(previous$outcome)) previous$outcome[1]
  if (is.na(hit[1]) || is.null(own) || !previous$task %in% c("frequency", "describe", "relate", "compare", "rank", "distribution")) return(NULL)
  verdict <- read_question(study, sprintf("is %s related to %s", own, hit[2]))
  if (!identical(verdict$status, "answered")) return(NULL)
  verdict$reading <- continued(on_rows_of(verdict$reading, previous))
  verdict
}
