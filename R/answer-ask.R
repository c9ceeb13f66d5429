#' Ask a question
#'
#' The question is read, the reading is carried out by the method that the design and the kinds of the columns call
#' for, its assumptions
#' are checked, and other methods give their opinion. The reading always comes with the answer.
#'
#' @param x A study, to start afresh, or an answer, to go on from it ("only in the north", "use a rank test").
#' @param question The question in plain English; for an answer that asks for a choice, also the number of the
#'   reading chosen.
#' @param conf_level Confidence level between 0 and 1; `NULL` takes the one named in the question, or 0.95.
#' @param seed Whole number from which anything random starts; it is stored in the answer.
#' @return An answer, of class `upbeatquill_answer`: print it, or see [reading()], [numbers()], [checks()],
#'   [figure()], [write_up()],
#'   [script()], [retrace()]. `as.list()` gives the answer document. Its `status` is "answered", "needs_choice" or
#'   "cannot_answer".
#' @section Errors: `upbeatquill_error_bad_argument` when `x` or `question` is of the wrong kind. Data that cannot
#'   carry the question
#'   give an answer with status "cannot_answer", not an error.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' a <- ask(study, "Does the honey yield differ between syrup and control?")
#' a
#' ask(a, "only in the north")
#' @export
ask <- function(x, question, conf_level = NULL, seed = 20240501) {
  question <- if (is.numeric(question) && length(question) == 1) format(question) else question
  if (!is.character(question) || length(question) != 1 ||
      is.na(question)) stop_input("ask() takes one question as text.")
  if (!is.null(conf_level) && !(is.numeric(conf_level) && length(conf_level) == 1 && conf_level > 0 &&
                                conf_level < 1)) {
    stop_input("conf_level is one number between 0 and 1.",
               sprintf("It was %s.", quoted(paste(format(conf_level), collapse = ", "))))
  }
  follows <- inherits(x, "upbeatquill_answer")
  study <- need_study(if (follows) x$study else x)
  study$vocabulary <- study_vocabulary(study)
  offered <- if (follows) offered_question(x, question)
  if (!is.null(offered)) return(ask(if (x$status == "answered") x else x$study, offered, conf_level = conf_level, seed = seed))
  read <- if (follows) read_follow_up(study, question, x$reading, history_of(x)) else read_question(study, question)
  study <- read$study %||% study
  answer <- answer_reading(study, question, read, options = list(conf_level = conf_level, seed = seed),
                           previous = if (follows) x)
  # what was last computed stays what "why this test" asks about
  if (follows && is.null(answer$method)) answer$explained <- if (!is.null(x$method)) x else x$explained
  if (!isTRUE(read$reading$extra$fresh)) answer$history <- if (isTRUE(read$reading$extra$went_back)) utils::head(history_of(x),
    -2) else if (follows) utils::tail(history_of(x), 20) else list()
  answer$id <- cli::hash_sha256(paste(if (follows) x$id, question))
  log_answer(answer, follows = if (follows) x$id, options = list(conf_level = conf_level, seed = seed))
  answer
}

#' "2", after an answer that chooses between no readings: the question it offers under that number
#' @noRd
offered_question <- function(x, question) {
  number <- if (is.character(question) && length(question) == 1) regmatches(question, regexec("^ *(?:number |question |no\\.? ?)?([1-9])[.)]? *$",
    question, ignore.case = TRUE))[[1]]
  if (length(number) < 2 || length(x$reading$alternatives) || as.integer(number[2]) > length(x$next_steps)) return(NULL)
  x$next_steps[as.integer(number[2])]
}

#' Readings that were answered up to and with this answer; an explanation leaves the answer it explains in place
#' @noRd
history_of <- function(x) c(x$history, if (x$status == "answered" && !identical(x$reading$task, "explain") && !isTRUE(x$reading$extra$aside) &&
  !is.null(x$method)) list(x$reading))

#' Carry a reading out, or say why it cannot be
#' @noRd
answer_reading <- function(study, question, read, options, previous = NULL) {
  blank <- new_answer(study, question, read$reading, read$status)
  if (read$status != "answered") return(refused(blank, read$headline, study))
  tryCatch(carry_out(blank, options, previous),
           upbeatquill_error_data = function(e) refused(blank, paste(c(e$what, e$found, e$todo), collapse = " "), study,
                                                        status = "cannot_answer"))
}

new_answer <- function(study, question, reading, status) {
  structure(list(study = study, question = question, reading = reading, status = status, method = NULL, why = NULL,
                 frame = NULL, context = NULL,
                 result = NULL, checks = list(), second = list(),
                 sentences = list(headline = "", details = character(), write_up = ""),
                 cautions = character(), figure = NULL, next_steps = character(), seed = NULL),
                 class = "upbeatquill_answer")
}

refused <- function(answer, headline, study, status = answer$status) {
  answer$status <- status
  answer$sentences$headline <- headline %||% ""
  answer$next_steps <- if (isTRUE(answer$reading$extra$help)) idea_list(study) else if (status == "cannot_answer") suggest_questions(study,
    answer$reading) else character()
  answer
}

carry_out <- function(answer, options, previous) {
  reading <- answer$reading
  # an explanation of an explanation is one of the answer that came before both
  if (reading$task == "explain" && is.null(previous$method) && !is.null(previous$explained)) previous <- previous$explained
  if (reading$task == "explain" && !is.null(previous$method)) return(explain_answer(answer, previous))
  if (reading$task == "explain") return(explain_term(answer))
  answer$reading <- reading <- complete_reading(answer$study, reading)
  context <- answer_context(answer$study, reading, options)
  columns <- codes_as_groups(reading, context$columns, context$frame$data)
  refuse_identifiers(reading, columns)
  plan <- plan_method(reading, plan_shape(reading, columns, context$frame, answer$study$design))
  plan$method <- with_adjustment(with_view(plan$method, reading$extra$view), reading$extra$adjust_p)
  done <- compute_plan(plan, context)
  plan <- done$plan
  answer$result <- done$result
  answer$frame <- context$frame
  answer$context <- context
  answer$seed <- context$seed
  answer$method <- plan$method
  if (!is.null(reading$method_asked)) {
    answer$reading$method_asked <- plan$method$id
    # (the reading knows the words of the question, the method its own name)
    answer$reading$plain <- sub("\\(you asked for [^()]*\\)", sprintf("(you asked for: %s)", plan$method$name), answer$reading$plain)
  }
  answer$reading <- say_weights(answer$reading, plan$method, answer$study$design)
  answer$why <- plan$why
  checks <- c(plan$method$checks(context, answer$result), list(check_mean_of_ratio(answer$study, reading, context$frame)))
  answer$checks <- lapply(compact(checks), function(check) word_check(name_check_row(context, check)))
  answer$second <- second_opinions(context, plan, answer$result)
  answer$sentences <- plan$method$sentences(context, answer$result)
  # asked for the words of the paper: they come first
  if (isTRUE(reading$extra$wants_write_up)) {
    answer$sentences$details <- c(answer$sentences$headline, answer$sentences$details)
    answer$sentences$headline <- answer$sentences$write_up
  }
  answer$figure <- answer_figure(context, plan$method$figure(context, answer$result))
  answer$next_steps <- plan$method$next_steps(context, answer$result)
  answer$cautions <- answer_cautions(answer)
  answer
}

#' The result of a plan; where Welch's analysis cannot take a group that does not vary, that of the rank test
#'
#' A method that was asked for by name is never exchanged.
#' @section Shape: list(plan (with the method that was carried out, and why), result).
#' @noRd
compute_plan <- function(plan, context) {
  first <- tryCatch(plan$method$compute(context), upbeatquill_error_outcome_constant = identity)
  if (!inherits(first, "upbeatquill_error_outcome_constant")) return(list(plan = plan, result = first))
  stop_constant(context)
  ranks <- find_method("kruskal_wallis")
  if (plan$method$id != "anova_welch" || !is.null(context$reading$method_asked) || is.null(ranks$fits(plan$shape))) stop(first)
  plan$why <- "One group does not vary at all, which an analysis of means by Welch cannot take; ranks can."
  plan$method <- ranks
  plan$chosen <- ranks$id
  list(plan = plan, result = ranks$compute(context))
}

#' The method's own figure, or the one that the question asks for
#' @noRd
answer_figure <- function(context, own) {
  look <- context$reading$extra$look
  look$kind <- context$reading$extra$picture %||% look$kind
  if (is.null(look)) return(own)
  figure <- asked_figure(context, look, own) %||% own
  if (!is.null(figure)) figure$look <- look
  figure
}

#' Settle what the reading leaves to the data: all columns, the second group, tables used
#' @noRd
complete_reading <- function(study, reading) {
  # the share of an event in the combinations of two columns
  if (reading$task == "frequency" && length(reading$by) >= 2 && length(reading$extra$event) && !isTRUE(reading$extra$shares)) {
    reading$extra$shares <- TRUE
    reading$outcome <- unique(c(reading$outcome, reading$extra$event$column))
  }
  if (reading$task == "describe" && !length(reading$outcome)) {
    columns <- all_columns(study)
    keep <- vapply(columns, function(col) col$kind %in% c("number", "count") && !identical(col$role, "weight"), NA)
    if (!any(keep)) stop_data("No column holds numbers, so there is nothing to summarise.", class = "no_numbers")
    reading$outcome <- unique(vapply(columns[keep], `[[`, "", "name"))
    reading$assumed <- c(reading$assumed, "All columns that hold numbers are described.")
  }
  # under conditions the columns of their table are scanned, each on the rows that meet them
  if (reading$task == "quality" && length(reading$filters) && !length(reading$outcome)) {
    own <- study$tables[[plan_join(study, vapply(reading$filters, `[[`, "", "column"))$table]]$columns
    reading$outcome <- names(Filter(function(col) !identical(col$used, FALSE), own))
  }
  if (isTRUE(reading$extra$flow)) reading <- settle_flow(study, reading)
  # the outcome that the design declares is no characteristic from before
  if (isTRUE(reading$extra$baseline)) reading$outcome <- setdiff(reading$outcome, study$design$outcome)
  reading <- settle_design(study, reading)
  reading <- settle_unit(study, reading)
  reading$assumed <- unique(c(reading$assumed, unlist(lapply(data_tables(study), carried_words), use.names = FALSE)))
  used <- columns_used(reading)
  plan <- if (length(used)) plan_join(study, used) else list(table = names(data_tables(study))[1], joins = list())
  reading$tables <- c(plan$table, names(plan$joins))
  reading$assumed <- unique(c(reading$assumed, vapply(plan$joins, join_words, "", USE.NAMES = FALSE)))
  reading$plain <- plain_reading(reading)
  reading
}

#' The columns whose values make the steps: those named, else all that lack some
#' @noRd
settle_flow <- function(study, reading) {
  if (!length(reading$by) && length(study$design$treatment)) {
    reading$by <- study$design$treatment
    reading$assumed <- c(reading$assumed, sprintf("By %s, the declared treatment.", reading$by))
  }
  reading$outcome <- setdiff(reading$extra$flow_columns, reading$by)
  if (length(reading$outcome)) return(reading)
  table <- if (length(reading$by)) find_column(study, reading$by)$table else names(data_tables(study))[1]
  columns <- Filter(function(col) !identical(col$used, FALSE) && col$missing > 0 && !col$kind %in% c("text", "empty"), study$tables[[table]]$columns)
  reading$outcome <- utils::head(setdiff(names(columns), reading$by), 12)
  reading$assumed <- c(reading$assumed, if (length(reading$outcome)) sprintf("Complete means a value of %s.", some_of(reading$outcome, 12)) else
    "No column lacks a value.")
  reading
}

#' What the declared design asks of a reading: sampling weights for a mean, clusters for a model of a measured outcome
#' @noRd
settle_design <- function(study, reading) {
  reading <- settle_weights(study, reading)
  cluster <- study$design$cluster
  measured <- reading$task == "predict" && length(reading$outcome) == 1 && find_column(study, reading$outcome)$kind %in% c("number", "count")
  if (!is.null(cluster) && measured && is.null(reading$extra$weight) && is.null(reading$extra$cluster) && is.null(reading$method_asked) &&
      !cluster %in% columns_used(reading)) {
    reading$extra$cluster <- cluster
    reading$assumed <- unique(c(reading$assumed, sprintf("Rows of the same %s belong together, as the design declares.", cluster)))
  }
  reading
}

#' Declared weights enter wherever a method respects them; with them come the declared clusters and strata
#' @noRd
settle_weights <- function(study, reading) {
  if (isTRUE(reading$extra$unweighted)) return(reading)
  weight <- study$design$weights
  if (is.null(reading$extra$weight) && !is.null(weight) && takes_weights(reading) && !weight %in% columns_used(reading)) {
    reading$extra$weight <- weight
    if (reading$task == "describe" && (reading$statistic %||% "mean") == "mean") reading$statistic <- "weighted_mean"
  }
  if (is.null(reading$extra$weight) || !is.null(reading$method_asked)) return(reading)
  part <- compact(list(cluster = study$design$cluster, strata = study$design$strata))
  part <- part[!unlist(part) %in% columns_used(reading)]
  if (length(part)) reading$extra$sampling <- part
  reading
}

#' What the chosen method does with declared weights, said once it is chosen
#' @noRd
say_weights <- function(reading, method, design) {
  if (is.null(reading$extra$weight)) return(reading)
  reading$extra$weight_unused <- !respects_weights(method, reading)
  if (reading$extra$weight_unused) {
    if (identical(reading$statistic, "weighted_mean")) reading$statistic <- "mean"
    reading$assumed <- setdiff(reading$assumed, weights_named(reading$extra$weight))
  }
  reading$plain <- plain_reading(reading)
  if (reading$extra$weight_unused) return(reading)
  part <- unlist(reading$extra$sampling)
  reading$assumed <- unique(c(reading$assumed, if (identical(reading$extra$weight, design$weights)) sprintf("Weighted by %s, as the design declares.",
    reading$extra$weight), if (length(part)) sprintf("%s: %s, as the design declares.", c(cluster = "Clusters", strata = "Strata")[names(part)],
        part)))
  reading
}

takes_weights <- function(reading) {
  plain <- is.null(reading$method_asked) && is.null(reading$extra$null_value) && !isTRUE(reading$extra$of_total) &&
    !isTRUE(reading$extra$baseline) && !isTRUE(reading$extra[["rate"]]) && !isTRUE(reading$extra$screen)
  plain && switch(reading$task,
    describe = if (is.null(reading$statistic)) length(reading$outcome) == 1 else reading$statistic %in% c("mean", "median"),
    frequency = !identical(reading$statistic, "count") && (length(c(reading$outcome, reading$by)) %in% 1:2 || length(reading$extra$event) > 0),
    compare = , relate = , predict = TRUE, FALSE)
}

#' The unit whose rows are compared with each other, when rows of one unit stand in several of the groups
#'
#' Asked for in words ("in the same children"), or seen in the data: no column is a key of the single rows, and
#' nearly every unit
#' has one row in each group.
#' @noRd
settle_unit <- function(study, reading) {
  if (reading$task == "predict" && !is.null(reading$extra$cluster)) {
    reading$unit <- reading$extra$cluster
    return(reading)
  }
  if (!reading$task %in% c("compare", "change") || length(reading$outcome) != 1 || !length(reading$by)) {
    reading$unit <- NULL
    return(reading)
  }
  table <- study$tables[[find_column(study, reading$outcome)$table]]
  ids <- Filter(function(col) col$kind == "id", table$columns)
  if (!all(reading$by %in% names(table$columns)) || !length(ids)) {
    reading$unit <- NULL
    return(reading)
  }
  asked <- isTRUE(reading$extra$within) || length(reading$unit)
  if (!asked && any(vapply(ids, function(col) col$distinct == nrow(table$data), NA))) return(reading)
  frame <- build_frame(study, c(reading$outcome, reading$by), reading$filters, names(ids))
  # ("run 3" of one group is no partner of run 3 in another: such numbers only count the rows of each)
  counters <- "^(run|rep|replicate|repetition|repeat|obs|observation|order|seq|sequence|trial|index|measurement|reading)s?(_?(no|nr|num|number|id|index))?$"  # nolint: line_length_linter.
  found <- if (asked) names(ids) else names(ids)[!grepl(counters, tolower(names(ids)))]
  candidates <- unique(c(reading$unit, study$design$unit, study$design$pairs, found))
  for (unit in intersect(candidates, names(ids))) {
    within <- vapply(reading$by, function(b) varies_within(frame$data[[b]], frame$data[[unit]], asked), NA)
    if (sum(within) != 1) next
    reading$by <- c(reading$by[within], reading$by[!within])
    reading$unit <- unit
    reading$assumed <- unique(c(reading$assumed, sprintf("Rows of the same %s are compared with each other.", unit)))
    return(reading)
  }
  reading$unit <- NULL
  reading
}

#' Does nearly every unit stand in every group? Unasked, it must do so once only
#' @noRd
varies_within <- function(group, unit, asked) {
  group <- as_group(group); unit <- as_group(unit)
  if (nlevels(group) < 2 || nlevels(group) > 60 || nlevels(unit) < 2) return(FALSE)
  cells <- stat_cross_counts(unit, group, nlevels(unit), nlevels(group))
  full <- mean(rowSums(cells > 0) == ncol(cells))
  full >= (if (asked) 0.5 else 0.8) && (asked || mean(cells <= 1) > 0.95)
}

#' What does not vary, by name; and groups that differ though none of them varies: there is a difference, and nothing to test it by
#' @noRd
stop_constant <- function(context) {
  reading <- context$reading
  for (name in c(reading$outcome, reading$predictors)) {
    v <- context$frame$data[[name]]
    if (is.numeric(v) && length(v) > 1 && all(v %in% v[1])) stop_data(sprintf("%s is %s in all rows used, so there is nothing to test.", quoted(name),
                                                                            say_number(v[1])), class = "outcome_constant")
  }
  if (reading$task != "compare" || length(reading$outcome) != 1 || length(reading$by) != 1) return(invisible())
  y <- context$frame$data[[reading$outcome]]; groups <- as_group(context$frame$data[[reading$by]])
  if (!is.numeric(y) || anyNA(y) || length(unique(y)) < 2) return(invisible())
  each <- lapply(split(y, groups, drop = TRUE), unique)
  if (any(lengths(each) != 1)) return(invisible())
  stop_data(sprintf("%s is the same in all rows of a group (%s), so there is no spread within the groups to test their difference by.",
                    quoted(reading$outcome), some_of(sprintf("%s: %s", names(each), say_number(unlist(each))), 4)), class = "outcome_constant")
}

#' A column of one value that a question names: a number to be described, or a group, which methods can say that it is the only one
#' @noRd
as_named <- function(col, values) {
  if (col$kind != "constant" || is.null(values)) return(col)
  col$kind <- if (is.numeric(values)) (if (all(values %% 1 == 0, na.rm = TRUE)) "count" else "number") else "category"
  if (col$kind == "category") col$levels <- col$levels %||% unique(as.character(values[!is.na(values)]))
  col
}

#' Codes of sites, clinics, schools: where each has several rows and they are words, the rows can be compared by them
#' @noRd
codes_as_groups <- function(reading, columns, data) {
  if (!reading$task %in% c("compare", "relate") || length(reading$unit) || !is.null(reading$method_asked)) return(columns)
  for (name in setdiff(c(reading$by, reading$predictors), reading$outcome)) {
    x <- data[[name]]
    if (columns[[name]]$kind != "id" || !(is.character(x) || is.factor(x))) next
    codes <- as_group(x)
    if (nlevels(codes) > min(60, length(x) / 2) || !anyNA(suppressWarnings(as.numeric(levels(codes))))) next
    columns[[name]]$kind <- "category"
  }
  columns
}

#' Identifiers are counted and listed, never averaged, compared or correlated
#' @noRd
refuse_identifiers <- function(reading, columns) {
  numeric <- setdiff(c(reading$statistic, unlist(reading$extra$statistics)), c("count", "percent", "mode", "distinct"))
  weighed <- reading$task %in% c("compare", "relate", "predict", "trend", "distribution", "drivers", "change", "equivalence",
    "survival") ||
    reading$task %in% c("describe", "frequency") && length(numeric) > 0 || reading$task == "describe" && length(reading$by) > 0 ||
    reading$task == "figure" && length(c(reading$outcome, reading$predictors)) > 1
  if (!weighed) return(invisible())
  for (name in c(reading$outcome, reading$predictors)) if (columns[[name]]$kind == "id") {
    stop_data(sprintf("%s is read as an identifier (%s), and identifiers are never averaged, compared or correlated.", quoted(name),
                      columns[[name]]$reason), todo = sprintf("If it is a measurement, amend it first: \"%1$s is a number\"; if it makes groups: \"%1$s is a category\".", name),  # nolint: line_length_linter.
                        class = "identifier")
  }
}

columns_used <- function(reading) {
  unique(c(reading$outcome, reading$by, reading$predictors, reading$adjust_for,
           vapply(reading$filters, `[[`, "", "column"), reading$unit, reading$time$column, reading$extra$weight, reading$extra$cluster,
             reading$extra$strata_by, reading$extra$trials, reading$extra$offset, unlist(reading$extra$sampling, use.names = FALSE),
           look_columns_used(reading$extra$look)))
}

#' The columns in which a row must have a value to be used at all
#'
#' A screening of pairs and a look-up take each column with the values it has; a ranking needs the outcome, a table of the start
#' the groups.
#' @noRd
columns_required <- function(reading, used) {
  if (isTRUE(reading$extra$screen)) return(character())
  if (isTRUE(reading$extra$ranking) && !identical(reading$method_asked, "relative_importance")) return(reading$outcome)
  if (isTRUE(reading$extra$baseline) || isTRUE(reading$extra$items)) return(unique(reading$by))
  if (isTRUE(reading$extra$flow) || isTRUE(reading$extra$each_pair)) return(character())
  # (what is missing is itself what a scan counts)
  if (reading$task %in% c("look_up", "quality")) character() else used
}

#' Everything a method may look at
#' @noRd
answer_context <- function(study, reading, options) {
  used <- unique(c(reading$outcome, reading$by, reading$predictors, reading$adjust_for, reading$time$column, reading$extra$cluster,
    reading$extra$strata_by, reading$extra$trials, reading$extra$offset, reading$extra$weight, unlist(reading$extra$sampling, use.names = FALSE)))
  weight <- reading$extra$weight
  unit <- unit_of_rows(study, reading)
  ordered <- dates_in_order(study, (if (length(used)) plan_join(study, used)$table) %||% names(data_tables(study))[1], reading)
  carried <- unique(c(unit, reading$unit, look_columns_used(reading$extra$look), ordered))
  required <- columns_required(reading, used)
  frame <- build_frame(study, required, reading$filters, unique(c(carried, setdiff(used, required))))
  # (of rows that are only counted, none is an answer)
  if (frame$used == 0 && length(c(used, reading$filters)) && (length(used) || reading$task != "frequency"))
    stop_no_rows(frame, reading, study, required)
  columns <- lapply(stats::setNames(nm = columns_used(reading)), function(n) as_named(find_column(study, n), frame$data[[n]]))
  conf_level <- options$conf_level %||% reading$extra$conf_level %||% 0.95
  context <- list(reading = reading, frame = frame, required = required, columns = columns, conf_level = conf_level,
                  alternative = reading$extra$alternative %||% "two_sided", seed = options$seed %||% 20240501,
                  source_file = source_name(study$tables[[frame$table]]), unit_name = unit,
                  unit_values = if (!is.null(unit)) frame$data[[unit]],
                  order_values = if (!is.null(ordered)) frame$data[[ordered]],
                  weight_name = weight, weight_values = if (!is.null(weight)) frame$data[[weight]],
                  design = study$design)
  if (isTRUE(reading$extra$standardised)) context$columns <- lapply(columns, in_standard_deviations)
  context$row_labels <- function(rows) labels_of_rows(study, frame$table, rows, used)
  context$whole_frame <- function(names) build_frame(study, names, list(), unique(c(used, carried)))
  context$frame_without <- function(names) build_frame(study, setdiff(used, names), reading$filters,
                                                       unique(c(names, carried)))
  if (length(reading$extra$also)) context$cells_of <- function(name, rows) as.character(understood(study, name, frame$table, rows))
  if (reading$task == "look_up") context$listed <- function(rows) listed_cells(study, frame$table, rows, columns_used(reading))
  if (reading$task == "themes") context$stop_words <- text_stop_words()
  if (reading$task == "overview") context <- c(context, overview_texts(study))
  if (reading$task == "quality") context <- c(context, quality_facts(study, frame$table))
  context
}

#' A check that speaks of one row calls it by its key and its place in the file
#' @noRd
name_check_row <- function(context, check) {
  if (identical(check$id, "influential_rows") && !is.null(check$facts$row) && is.null(check$facts$named)) {
    check$facts$named <- capital(row_names_used(context, check$facts$row))
  }
  check
}

#' The dates of the rows of a model, where each row has one of its own and no unit has several
#' @noRd
dates_in_order <- function(study, table, reading) {
  if (reading$task != "predict" || length(reading$unit)) return(NULL)
  columns <- study$tables[[table]]$columns
  dated <- Filter(function(col) col$kind %in% c("date", "datetime") && !identical(col$used, FALSE) &&
    col$distinct >= 0.9 * nrow(study$tables[[table]]$data), columns)
  if (length(dated) == 1) names(dated)
}

#' A measured column whose values are taken in standard deviations from their mean
#' @noRd
in_standard_deviations <- function(col) {
  if (is_numeric_kind(col$kind)) col$unit <- "standard deviations"
  col
}

#' What single rows are called: a key of their own, else texts and dates
#' @noRd
labels_of_rows <- function(study, table, rows, used) {
  columns <- study$tables[[table]]$columns
  # a key of the single rows, else names that are all different ("Ashby 1998")
  single <- Filter(function(col) col$kind %in% c("id", "category", "text") && col$distinct == nrow(study$tables[[table]]$data), columns)
  unique_key <- single[order(vapply(single, function(col) col$kind != "id", NA))]
  named <- if (length(unique_key)) unique_key[1] else utils::head(Filter(function(col) col$kind %in% c("id", "date",
      "datetime"), columns), 2)
  names <- setdiff(names(named), used)
  lapply(stats::setNames(names, names), function(name) as.character(understood(study, name, table, rows)))
}

#' Cells of the rows shown: the columns named with a key before them, or the first twelve
#' @noRd
listed_cells <- function(study, table, rows, named) {
  all <- Filter(function(col) !identical(col$used, FALSE), study$tables[[table]]$columns)
  keys <- names(Filter(function(col) col$kind == "id", all))
  named <- intersect(named, names(all))
  names <- if (length(named)) unique(c(utils::head(keys, 1), named)) else utils::head(names(all), 12)
  lapply(stats::setNames(names, names), function(name) {
    v <- understood(study, name, table, rows)
    if (is.numeric(v) && !inherits(v, c("Date", "POSIXct"))) v else as.character(v)
  })
}

stop_no_rows <- function(frame, reading, study, required) {
  if (frame$after_filters == 0 && length(reading$filters)) {
    stop_data(sprintf("No row meets the conditions (%s).",
                      paste(vapply(reading$filters, plain_filter, ""), collapse = " and ")), class = "no_rows")
  }
  empty <- Filter(function(n) build_frame(study, n, reading$filters)$used == 0, required)
  # (of a column that the question made: what it is, since nobody knows its name)
  made <- Filter(function(col) isTRUE(col$derived), lapply(empty, find_column, study = study))
  if (length(made)) stop_data(sprintf("There is no row for %s.", made[[1]]$reason), class = "no_rows")
  if (length(empty)) stop_data(sprintf("%s %s no value%s.", some_of(quoted(empty), 3), plural(length(empty), "holds", "hold"),
                                       if (length(reading$filters)) " in these rows" else ""), class = "no_rows")
  stop_data("No row has a value in every column that the question needs.", class = "no_rows")
}

#' What a table was read from: a data frame and a table of a database have a name, not a file
#' @noRd
source_name <- function(table) if (identical(table$source$format, "frame")) table$name else table$source$file

#' The column that says which unit a row belongs to: declared, else a key of the table
#' @noRd
unit_of_rows <- function(study, reading) {
  declared <- study$design$unit
  used <- columns_used(reading)
  table <- if (length(used)) plan_join(study, used)$table else names(data_tables(study))[1]
  own <- study$tables[[table]]$columns
  if (!is.null(declared) && !is.null(own[[declared]])) return(setdiff(declared, used) |> nothing_as_null())
  keys <- Filter(function(col) col$kind == "id", own)
  if (!length(keys)) return(NULL)
  rows <- nrow(study$tables[[table]]$data)
  distinct <- vapply(keys, `[[`, 1L, "distinct")
  setdiff(names(keys)[which.max(distinct)], used) |> nothing_as_null()
}

quality_facts <- function(study, table) {
  book <- codebook(study)
  book$rows <- vapply(book$table, function(name) nrow(study$tables[[name]]$data), 1L)
  list(codebook = book, findings = study_findings(study), duplicates = length(duplicate_rows(study$tables[[table]])))
}

#' A join in words, with what it does to the rows
#' @noRd
join_words <- function(j) {
  sprintf("Joined %s to %s by %s: %s before, %s matched, %s unmatched, none multiplied.", j$one, j$many,
          if (j$key == j$one_key) j$key else paste(j$key, "and", j$one_key), count_of(j$rows, "row"), say_number(j$matched), say_number(j$unmatched))
}

overview_texts <- function(study) {
  tables <- data_tables(study)
  size <- vapply(tables, function(t) sprintf("%s holds %s in %s", t$name, count_of(nrow(t$data), "row"),
                                             count_of(ncol(t$data), "column")), "")
  joins <- vapply(study$joins, function(j) sprintf("Each row of %s finds its row in %s by %s (%s of %s matched).",
                                                   j$many, j$one, j$key, say_number(j$matched), say_number(j$rows)), "")
  findings <- study_findings(study)
  list(codebook = codebook(study), tables_text = paste(size, collapse = "; "), joins_text = joins,
       findings_text = if (length(findings)) sprintf("%s worth a look: %s", count_of(length(findings), "finding"),
                                                     findings[[1]]$message))
}

# ---- second opinions and cautions --------------------------------------------------------------------------------

#' Other methods on the same rows
#' @section Shape: list of list(method, numbers, agrees, note).
#' @noRd
second_opinions <- function(context, plan, main) {
  # a method asked for in place of the usual one is set beside it, where both answer the same question with a test
  tests <- !is.null(main$number$p_value) || !is.null(main$number$estimate)
  ids <- unique(c(if (plan$chosen != plan$method$id && tests && !plan$method$id %in% structure_methods()) plan$chosen, plan$method$second))
  # (a summary is no opinion on a test)
  summaries <- c("time_table", "group_summary", "descriptives", "frequency_table", "crosstab", "rank_table")
  if (!is.null(main$number$p_value)) ids <- setdiff(ids, summaries)
  compact(lapply(ids, function(id) one_opinion(context, find_method(id), main, plan)))
}

one_opinion <- function(context, method, main, plan) {
  if (is.null(method) || is.null(method$fits(plan$shape))) return(NULL)
  context$opinion <- TRUE
  res <- tryCatch(method$compute(context), upbeatquill_error_data = function(e) NULL)
  if (is.null(res)) return(NULL)
  list(id = method$id, name = method$name, result = res, agrees = opinions_agree(main, res, 1 - context$conf_level))
}

#' Same conclusion at the chosen level and, where both see something, the same direction
#' @noRd
opinions_agree <- function(a, b, alpha) {
  pa <- a$number$p_value; pb <- b$number$p_value
  if (is.null(pa) || is.null(pb) || is.na(pa) || is.na(pb)) return(NA)
  if ((pa < alpha) != (pb < alpha)) return(FALSE)
  if (pa >= alpha) return(TRUE)
  directions <- c(result_direction(a), result_direction(b))
  # a shift of exactly zero (ranks with many ties) points nowhere, so it contradicts nothing
  anyNA(directions) || any(directions == 0) || directions[1] == directions[2]
}

#' Which way a result points: -1, 0, 1, or NA where it has no direction
#' @noRd
result_direction <- function(res) {
  direction <- res$direction %||% sign(res$number$estimate %||% NA_real_)
  if (is.finite(direction)) direction else NA_real_
}

answer_cautions <- function(answer) {
  broken <- vapply(Filter(function(c) c$verdict == "broken", answer$checks), `[[`, "", "meaning")
  differing <- vapply(Filter(function(s) identical(s$agrees, FALSE), answer$second), `[[`, "", "name")
  c(broken, if (length(differing)) sprintf("The conclusion depends on the method: %s %s not agree.",
                                           some_of(differing, 3), plural(length(differing), "does", "do")),
                                           causal_caution(answer), size_caution(answer), code_cautions(answer), weight_caution(answer),
                                           censoring_caution(answer))
}

#' Times that had not ended when they were recorded, taken as if they had
#' @noRd
censoring_caution <- function(answer) {
  open <- answer$reading$extra$censored
  if (is.null(open)) return(NULL)
  sprintf(paste("Where %s is %s, %s only says how long it lasted at least, so these numbers understate it. To allow for that,",
                "ask for survival: \"median survival\"."), open$name, open$other, open$time)
}

respects_weights <- function(method, reading) {
  isTRUE(method$weights) && (method$id != "descriptives" || (identical(reading$statistic, "weighted_mean") && length(reading$outcome) == 1))
}

#' Weights declared or asked for that the method does not use
#' @noRd
weight_caution <- function(answer) {
  r <- answer$reading
  asked <- r$extra$weight
  weight <- asked %||% answer$study$design$weights
  respected <- respects_weights(find_method(answer$method$id), r)
  if (is.null(weight) || respected || r$task %in% c("overview", "quality", "look_up", "themes", "sample_size", "pool")) return(NULL)
  why <- if (isTRUE(r$extra$unweighted)) "as asked" else sprintf("%s takes none", answer$method$name)
  sprintf("The weights in %s are not used here (%s): the result describes these rows, not the population they stand for.", weight, why)
}

#' A column of the answer holds what looks like a code for missing, and it was read as a number
#' @noRd
code_cautions <- function(answer) {
  columns <- answer$context$columns[c(answer$reading$outcome, answer$reading$predictors, answer$reading$adjust_for)]
  # a change is made of the columns it is derived from
  steps <- unlist(lapply(data_tables(answer$study), `[[`, "steps"), recursive = FALSE)
  sources <- unlist(lapply(Filter(function(s) identical(s$type, "derive") && s$name %in% names(columns), steps), `[[`, "from"))
  columns <- c(columns, Filter(function(col) col$name %in% setdiff(sources, names(columns)), all_columns(answer$study)))
  held <- Filter(function(col) length(col$proposed$codes) && is.numeric(col$proposed$codes) && is_numeric_kind(col$kind), columns)
  vapply(unname(held), function(col) sprintf(paste0("%s holds %s in %s, which looks like a code for missing",
      " (%s) and counts as a value here. To settle it: \"treat %s as missing in %s\"."),
                                      col$name, some_of(format_plain(col$proposed$codes),
                                          3), count_of(col$proposed$rows, "row"), col$proposed$evidence,
                                      paste(format_plain(col$proposed$codes), collapse = ", "), col$name), "")
}

causal_caution <- function(answer) {
  r <- answer$reading
  if (!isTRUE(r$extra$causal)) return(NULL)
  design <- answer$study$design
  if (isTRUE(design$randomised) && any(c(r$by, r$predictors) %in% design$treatment)) return(NULL)
  paste0("The question speaks of an effect; unless the groups were formed at random, this shows that the columns go ",
         "together, not that one causes the other.")
}

size_caution <- function(answer) {
  n <- answer$result$number$n
  p <- answer$result$number$p_value
  if (is.null(p) || is.null(n) || n >= 20 || answer$reading$task == "pool") return(NULL)
  sprintf("Only %s rows: a difference would have to be large to be seen, and one that is seen is likely overstated.",
          say_number(n))
}

# ---- logbook ------------------------------------------------------------------------------------------------------

log_answer <- function(answer, follows, options) {
  if (is.null(answer$study$logbook)) return(invisible(answer))
  note_in_logbook(answer$study, list(event = "asked", id = answer$id, follows = follows, question = answer$question,
                                     conf_level = options$conf_level, seed = options$seed, status = answer$status,
                                     reading = answer$reading$plain, method = answer$method$id,
                                     numbers = answer$result$number, rows = answer$frame$used))
}
