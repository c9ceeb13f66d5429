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
  ideas <- do.call(rbind, c(list(new_ideas("What is in this data?", "overview", 10)), design_ideas(study, columns), set_ideas(study),
                            time_ideas(study, columns), plain_ideas(columns), quality_ideas(study)))
  ideas <- ideas[order(-ideas$promise), , drop = FALSE]
  ideas <- ideas[!duplicated(ideas$question), , drop = FALSE]
  keep_answered(study, varied(ideas), most)
}

#' Questions of one sort, the most promising first
#' @noRd
new_ideas <- function(question, sort, promise) {
  if (!length(question)) return(NULL)
  data.frame(question = question, sort = sort, promise = promise - 2 * (seq_along(question) - 1), stringsAsFactors = FALSE)
}

#' No sort of question comes a third time before every sort has had its turn
#' @noRd
varied <- function(ideas) {
  turn <- stats::ave(seq_len(nrow(ideas)), ideas$sort, FUN = seq_along)
  ideas$question[order(pmax(0, turn - 2), -ideas$promise)]
}

#' How likely a column of groups is what a study was made for: declared, named like an arm, few even groups
#' @noRd
group_promise <- function(col, study) {
  if (identical(col$name, study$design$treatment)) return(100)
  named <- grepl("(^|[^a-z])(arm|treatment|treated|group|condition|therapy|intervention|diet|feed|drug|method|version|exposure|cohort)([^a-z]|$)",
      tolower(col$name))
  30 * named - 3 * abs(length(col$levels) - 3) - 5 * (col$kind == "yes_no") - 20 * (length(col$levels) > 8)
}

#' How likely a measured column is what a study wants to know: declared, named like an outcome, measured after
#' @noRd
outcome_promise <- function(col, study, place) {
  if (identical(col$name, study$design$outcome)) return(100)
  name <- tolower(col$name)
  named <- grepl("yield|weight|score|outcome|result|after|post|follow|satisf|total|survived|response|gain|effect|growth|revenue|income", name)
  given <- grepl("before|pre|baseline|^age|age_|_age|lat|lon|year|size|^se_|rain|temp|humid|wind", name)
  25 * named - 15 * given + 5 * place - 10 * (col$kind == "yes_no")
}

ranked_groups <- function(columns, study) {
  groups <- Filter(function(col) col$kind %in% c("category", "yes_no") && length(col$levels) >= 2 &&
      length(col$levels) <= 12 && is.null(col$role), columns)
  names <- vapply(groups, `[[`, "", "name")
  names[order(-vapply(groups, group_promise, 1, study = study))]
}

ranked_outcomes <- function(columns, study, kinds) {
  at <- which(vapply(columns, function(col) col$kind %in% kinds && (is.null(col$role) || col$role == "item"), NA))
  score <- vapply(at, function(i) outcome_promise(columns[[i]], study, i / length(columns)), 1)
  vapply(columns[at], `[[`, "", "name")[order(-score)]
}

design_ideas <- function(study, columns) {
  groups <- ranked_groups(columns, study)
  measured <- ranked_outcomes(columns, study, c("number", "count"))
  flags <- setdiff(ranked_outcomes(columns, study, "yes_no"), groups[1])
  main <- measured[1]
  if (identical(study$design$outcome %in% flags, TRUE)) flags <- c(study$design$outcome, setdiff(flags, study$design$outcome))
  declared <- if (is.null(study$design$treatment)) 0 else 20
  list(
    if (length(groups) && length(measured)) new_ideas(sprintf("Does %s differ by %s?", utils::head(measured, 2),
        groups[1]), "compare", 90 + declared),
    if (length(groups) && length(flags)) new_ideas(sprintf("Is %s related to %s?", utils::head(flags, 2), groups[1]),
        "relate", 80 + declared * identical(study$design$outcome, flags[1])),
    if (length(groups) > 1 && length(measured)) new_ideas(sprintf("Does %s differ by %s?", main, groups[2]), "compare", 70),
    if (length(measured) > 2) new_ideas(sprintf("Which columns go with %s most?", main), "drivers", 66),
    if (length(measured) > 1) new_ideas(sprintf("What is the correlation between %s and %s?", main, measured[-1][1]), "correlation", 60))
}

set_ideas <- function(study) {
  sets <- study_sets(study)
  lapply(unname(sets), function(set) switch(set$kind,
    repeated_measures = new_ideas(sprintf("Did %s change to %s?", set$columns[1], last_of(set$columns)), "change", 76),
    items = new_ideas(sprintf("What is the Cronbach alpha of %s?", some_of(set$columns, length(set$columns))), "agreement", 55),
    NULL))
}

time_ideas <- function(study, columns) {
  dated <- Filter(function(col) col$kind %in% c("date", "datetime"), columns)
  measured <- ranked_outcomes(columns, study, c("number", "count"))
  units <- Filter(function(col) col$kind == "id" && col$distinct >= 2 && col$distinct <= 200 &&
      col$distinct < 0.5 * nrow(study$tables[[col$table]]$data), columns)
  spread <- length(dated) && dated[[1]]$distinct >= 12
  list(
    if (spread && length(measured)) new_ideas(sprintf("How does %s change over time?", utils::head(measured, 2)), "trend",
                                              if (dated[[1]]$distinct > 60) 85 else 50),
    if (length(units) && length(measured)) new_ideas(sprintf("Which %s has the highest mean %s?", units[[1]]$name, measured[1]), "rank", 58))
}

plain_ideas <- function(columns) {
  none <- list(design = list())
  groups <- ranked_groups(columns, none)
  measured <- ranked_outcomes(columns, none, c("number", "count"))
  items <- ranked_outcomes(columns, none, "ordered")
  list(
    if (length(measured) && length(groups)) new_ideas(sprintf("What is the mean %s by %s?", utils::head(measured, 4), groups[1]), "means", 45),
    if (length(items) && length(groups)) new_ideas(sprintf("Does %s differ by %s?", utils::head(items, 2), groups[1]), "compare", 64),
    if (length(items)) new_ideas(sprintf("What percentage gave each %s?", utils::head(items, 3)), "shares", 44),
    if (length(groups)) new_ideas(sprintf("How many rows are there for each %s?", utils::head(groups, 3)), "counts", 40),
    if (length(measured)) new_ideas(sprintf("Show the distribution of %s", utils::head(measured, 6)), "distribution", 38))
}

quality_ideas <- function(study) {
  worst <- vapply(study_findings(study), `[[`, "", "severity")
  list(new_ideas("What is wrong with this data?", "quality", if (any(worst == "act")) 68 else 15))
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
  study$vocabulary <- study_vocabulary(study)
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
  # what the study is about first: the declared treatment, else a column called like one
  arm <- grepl("(^|[_. ])(treatments?|trt|arms?|group|condition|intervention|programme|program|diet|drug)$", tolower(groups)) |
    groups %in% study$design$treatment
  groups <- groups[order(!arm)]
  measured <- vapply(Filter(function(col) col$kind %in% c("number", "count"), all), `[[`, "", "name")
  held <- intersect(reading$adjust_for, names)
  candidates <- c(if (length(numeric) && length(held)) sprintf("Does %s differ by %s, adjusting for %s?", numeric[1], utils::head(setdiff(groups,
      c(known, held)), 2), paste(held, collapse = " and ")), if (length(numeric) && length(groups)) sprintf("Does %s differ by %s?", numeric[1],
      setdiff(groups, known)), if (length(divided) && length(measured)) sprintf("Does %s differ by %s?", measured,
          divided[1]),
                  if (length(numeric)) sprintf("Describe %s", numeric),
                  if (length(divided)) sprintf("How many rows are there for each %s?", divided),
                  "What is in this data?")
  near <- utils::head(reading$extra$near, 3)
  if (isTRUE(reading$extra$near_tried)) near <- keep_answered(study, near, 3)
  c(near, keep_answered(study, utils::head(setdiff(candidates, near), 8), 3 - length(near)))
}
