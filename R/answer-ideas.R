#' Questions that this data can answer
#'
#' The design's comparison first, then comparisons of measured columns between groups, relations, and summaries.
#' Every question names columns that
#' are there, and is answered when asked.
#'
#' @param study A study.
#' @param most How many at most.
#' @return Character, of class `upbeatquill_ideas`.
#' @examples
#' ideas(open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill")))
#' @export
ideas <- function(study, most = 8) {
  need_study(study)
  structure(idea_list(study, most), class = "upbeatquill_ideas")
}

#' @export
print.upbeatquill_ideas <- function(x, ...) {
  writeLines(sprintf("%2d  %s", seq_along(x), unclass(x)))
  invisible(x)
}

idea_list <- function(study, most = 8) {
  columns <- all_columns(study)
  columns <- columns[!duplicated(vapply(columns, `[[`, "", "name"))]
  names <- vapply(columns, `[[`, "", "name"); kinds <- vapply(columns, `[[`, "", "kind")
  weight <- vapply(columns, function(col) identical(col$role, "weight"), NA)
  measured <- names[kinds %in% c("number", "count") & !weight]
  items <- names[kinds == "ordered"]
  groups <- names[kinds %in% c("category", "yes_no") & vapply(columns, `[[`, 1L, "distinct") <= 12]
  arm <- study$design$treatment
  outcome <- study$design$outcome
  out <- c(
    if (!is.null(arm)) sprintf("Does %s differ by %s?", c(outcome,
                                                          setdiff(measured, outcome))[seq_len(min(2,
                                                              length(measured)))], arm),
    if (length(measured) && length(groups)) sprintf("Does %s differ by %s?", measured[length(measured)], groups[1]),
    if (length(measured) >= 2) sprintf("What is the correlation between %s and %s?", measured[1], measured[2]),
    if (length(groups) >= 2) sprintf("Is %s related to %s?", groups[1], groups[2]),
    if (length(groups)) sprintf("How many rows are there for each %s?", groups),
    if (length(measured) && length(groups)) sprintf("What is the mean %s by %s?", measured, groups[1]),
    if (length(items)) sprintf("What percentage gave each %s?", items),
    if (length(measured)) sprintf("Show the distribution of %s", measured), "What is in this data?")
  keep_answered(study, unique(out), most)
}

#' Only questions whose reading holds are offered
#' @noRd
keep_answered <- function(study, questions, most) {
  out <- character()
  for (q in questions) {
    if (length(out) == most) break
    a <- tryCatch(ask_silently(study, q), upbeatquill_error = function(e) NULL)
    if (!is.null(a) && a$status == "answered") out <- c(out, q)
  }
  out
}

ask_silently <- function(study, question) {
  study$logbook <- NULL
  if (is.null(study$vocabulary)) study$vocabulary <- build_vocabulary(study)
  read <- read_question(study, question)
  answer <- new_answer(study, question, read$reading, read$status)
  if (read$status != "answered") return(answer)
  reading <- complete_reading(study, read$reading)
  context <- answer_context(study, reading, list())
  plan <- plan_method(reading, plan_shape(reading, context$columns, context$frame, study$design))
  plan$method$compute(context)
  answer
}

#' The nearest questions that can be answered, for a question that cannot
#' @noRd
suggest_questions <- function(study, reading) {
  names <- column_names(study)
  known <- intersect(c(reading$outcome, reading$by, reading$predictors), names)
  kinds <- vapply(known, function(n) find_column(study, n)$kind, "")
  numeric <- known[kinds %in% c("number", "count", "ordered")]
  divided <- known[kinds %in% c("category", "yes_no")]
  all <- all_columns(study)
  groups <- vapply(Filter(function(col) col$kind %in% c("category", "yes_no") && col$distinct <= 12, all), `[[`, "",
                   "name")
  measured <- vapply(Filter(function(col) col$kind %in% c("number", "count"), all), `[[`, "", "name")
  candidates <- c(if (length(numeric) && length(groups)) sprintf("Does %s differ by %s?", numeric[1],
      setdiff(groups, known)), if (length(divided) && length(measured)) sprintf("Does %s differ by %s?", measured,
          divided[1]),
                  if (length(numeric)) sprintf("Describe %s", numeric),
                  if (length(divided)) sprintf("How many rows are there for each %s?", divided),
                  "What is in this data?")
  keep_answered(study, utils::head(unique(candidates), 8), 3)
}
