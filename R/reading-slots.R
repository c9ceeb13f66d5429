# Filling the slots of a task from mentions and groups.

#' Fill the reading of one task
#'
#' @section Shape: a reading, with `extra$missing` naming required slots that stayed empty.
#' @noRd
fill_task <- function(state, mentions, task) {
  weight <- if (needs_columns(task)) asked_weight(state)
  if (is.null(weight)) return(without_dates(state, drop_own_side(state, settle_items(state, mentions, fill_slots(state, mentions, task)))))
  if (is.na(weight)) {
    r <- fill_slots(state, mentions, task)
    if (!length(r$extra$missing) && is.null(r$extra$weight)) r$extra$missing <- "weight"
    return(r)
  }
  r <- fill_slots(state, Filter(function(m) column_of(state, m$column) != weight, mentions), task)
  if (r$task == "predict" && (is.null(r$method_asked) || r$method_asked == "linear_regression")) {
    # weights that say how sure each value is, against those that say how many it stands for
    sampling <- identical(state$vocabulary$columns$role[match(weight, state$vocabulary$columns$name)], "weight")
    r["method_asked"] <- list(if (!sampling) "weighted_linear_regression")
  }
  weigh_rows(r, weight)
}

#' A reading in which a column weighs the rows
#' @noRd
weigh_rows <- function(r, weight) {
  r$extra$weight <- weight
  if (r$task == "describe" && (r$statistic %||% "mean") == "mean") r$statistic <- "weighted_mean"
  r$assumed <- c(r$assumed, weights_named(weight))
  r
}

weights_named <- function(weight) sprintf("Rows are weighted by %s.", weight)

#' The column of weights, where the question asks for weights: the one named after "weighted by", else the one that holds
#' sampling weights; NA where there is none
#' @noRd
asked_weight <- function(state) {
  if (identical(single_method(state), "weighted_linear_regression")) return(NULL)
  at <- which(state$type == "lexicon" & vapply(state$items, speaks_of_weights, NA))
  if (!length(at)) return(NULL)
  columns <- state$vocabulary$columns
  kept <- columns$name[columns$role == "weight"]
  named <- weight_named(state, max(at), length(kept) > 0)
  if (!is.na(named)) return(column_of(state, named))
  if (length(kept)) return(kept[1])
  if (any(vapply(state$items[at], function(item) grepl("weighted", item$norm), NA))) NA_character_
}

#' "weighted by X" names the weights; "the weighted mean of Y by X" does only where no column is known to hold them
#' @noRd
weight_named <- function(state, at, known) {
  # "population weighted mean"
  before <- if (item_norm(state, at) %in% c("weighted", "weighted mean", "weighted average")) item_column(state, at - 1, c("number", "count")) else NA
  if (!is.na(before)) return(before)
  for (k in which(state$type == "column" & seq_len(state$n) > at)) {
    j <- k - 1
    while (item_norm(state, j) %in% c("the", "their", "its")) j <- j - 1
    direct <- j == at || (j == at + 1 && item_norm(state, j) == "by")
    column <- if (grepl("\\bby$", item_norm(state, j)) && (direct || !known)) item_column(state, k, c("number", "count")) else NA
    if (!is.na(column)) return(column)
  }
  NA_integer_
}

speaks_of_weights <- function(item) has_lex(item, "statistic", "weighted_mean") || has_lex(item, "scope", "weighted_by")

#' A date beside a measure is not described by its mean; it is told that it was left aside
#' @noRd
without_dates <- function(state, r) {
  if (r$task != "describe" || length(r$outcome) < 2 || isTRUE(r$extra$distinct)) return(r)
  dated <- kind_of_names(state, r$outcome) %in% c("date", "datetime")
  if (!any(dated) || all(dated)) return(r)
  r$assumed <- c(r$assumed, sprintf("Dates have no mean worth telling: %s is left aside.", some_of(r$outcome[dated], 3)))
  r$outcome <- r$outcome[!dated]
  r
}

#' "new patients compared with existing ones": a side of the column that makes the two groups leaves no rows out
#' @noRd
drop_own_side <- function(state, r) {
  both <- r$task == "compare" || (r$task %in% c("describe", "rank", "frequency") && says(state, "\\b(versus|vs|compared (to|with)|against)\\b"))
  if (!both || length(r$by) != 1) return(r)
  columns <- state$vocabulary$columns
  own <- vapply(r$filters, function(f) identical(f$column, r$by) && f$op == "==" && columns$distinct[match(f$column, columns$name)] == 2, NA)
  r$filters <- r$filters[!own]
  r
}

fill_slots <- function(state, mentions, task) {
  method <- single_method(state)
  r <- new_reading(task, statistic = main_statistic(state), method_asked = method, assumed = state$assumed)
  r$extra$statistics <- asked_statistics(state)
  r$extra$conf_level <- asked_conf_level(state)
  r$extra$unweighted <- isTRUE(state$flags$unweighted)
  # "did the weight increase" asks what happened, not what caused it
  plain <- task %in% c("change", "trend", "forecast") || paired_columns(state, mentions)
  verbs <- "^(increase[sd]?|raise[sd]?|reduce[sd]?|improve[sd]?|decrease[sd]?)$"
  # (an improvement is what was measured, whatever brought it about)
  other <- function(i) grepl("^improvements?$", i$norm) || plain && grepl(verbs, i$norm)
  causal <- vapply(state$items, function(i) has_lex(i, "scope", "causal") && !other(i), NA)
  r$extra$causal <- any(causal)
  r$extra$trend_words <- says(state, "\\b(trend|increas|decreas|rise|rises|rising|fall|falls|falling|grow|grows|dose.response)")
  r$extra$relative <- task == "compare" && says(state,
      paste0("\\b(percent(age)?|per ?cent|%) (increase|decrease|change|difference|higher|lower|more|less|",
    "reduction|rise|drop|gain|improvement|uplift|lift|better|worse)|\\b(relative|proportional) (difference|change|increase|reduction)"))
  r$extra$spread <- says(state, paste0("\\b(variances?|variabilit|spreads?|vary",
      " (more|less)|(more|less|equally|as) varia(ble|ted)|homogene|heteroscedas|standard deviations?",
      " (differ|equal)|scatter(ed)? more)")) &&
    !says(state, "analysis of variance|variance explained")
  # "the variance of speed by experiment" asks for the variances, not for a test of them
  if (task == "describe" && isTRUE(r$statistic %in% c("variance", "sd"))) r$extra$spread <- FALSE
  if (isTRUE(method %in% c("brown_forsythe", "bartlett", "f_variances"))) r$extra$spread <- TRUE
  r$extra$normality <- says(state, "\\bnormal(ly|ity)?\\b|bell.shaped|gaussian") || isTRUE(method %in% c("shapiro_wilk", "anderson_darling",
      "dagostino"))
  r$extra$noninferior <- says(state, "non.?inferior|not (much )?(worse|inferior)|as good as|no worse")
  r$extra$by_raters <- says(state, paste0("\\b(bias(ed)?|raters?|rated|observers?|judges?|assessors?|coders?|readers?|agree|agr",
      "eement|kappa|inter.?rater|instruments?|devices?|methods agree|intraclass|icc)\\b")) &&
    !says(state, "alpha|consisten|omega|reliab")
  r$extra$lower_better <- says(state, "\\b(lower|smaller|fewer|less) (values? )?(is|are) better")
  if (task == "equivalence") r$extra$margin <- asked_margin(state)
  r$extra$mix <- says(state, "\\b(mix|makeup|make-up|composition|breakdown) of\\b")
  r$extra$type_three <- says(state, "\\btype[- ]?(iii|3|three)\\b")
  effect <- regmatches(state$text, regexpr("\\b(risk|odds) ratio|relative risk|risk difference|difference in (risk|proportion|share)s?",
    state$text, ignore.case = TRUE))
  if (length(effect)) r$extra$effect <- if (grepl("odds", effect, ignore.case = TRUE, perl = TRUE)) "odds_ratio" else if (grepl("difference", effect,
    ignore.case = TRUE, perl = TRUE)) "risk_difference" else "risk_ratio"
  if (says(state, "\\bnumber needed\\b|\\bnnt\\b")) r$extra$effect <- "number_needed"
  if (says(state, "\\bcram[e\u00e9]r'?s?'? v\\b")) r$extra$effect <- "cramers_v"
  r$extra$exact_interval <- says(state, "\\bexact (confidence |binomial |[0-9]+ ?% )?(intervals?|limits?|ci\\b)|\\bclopper\\b")
  r$extra$stratified <- says(state, "\\b(stratif|strata)")
  rate <- if (is.null(method) && task %in% c("describe", "rank", "relate", "compare", "frequency", "predict", "trend")) rate_asked(state, mentions)
  if (!is.null(rate) && task == "predict" && length(mentions) > 2 && kind_at(state, rate$top$column) == "count") {
    # "how do falls per day depend on ward and age": a model of the count, made over the days
    r <- fill_predict(state, Filter(function(m) m$column != rate$base$column, mentions), r)
    return(with_offset(r, column_of(state, rate$base$column), column_of(state, rate$top$column)))
  }
  if (!is.null(rate)) return(fill_rate(state, mentions, r, rate, task == "compare"))
  paid <- if (is.null(method)) share_of_measure(state, mentions)
  if (!is.null(paid)) return(fill_rate(state, mentions, r, paid))
  shared <- if (is.null(method)) total_shared(state, mentions)
  if (!is.null(shared)) return(fill_share_of_total(state, r, shared))
  if (is.null(method) && asks_for_baseline(state)) return(fill_baseline(state, mentions, r))
  if (isTRUE(method %in% structure_methods())) return(fill_structure(state, mentions, r))
  if (identical(method, "ancova")) {
    # measured columns beside the outcome are its covariates, whatever word introduces them
    r <- fill_compare(state, mentions, r)
    r$adjust_for <- unique(c(r$adjust_for, r$outcome[-1]))
    r$outcome <- utils::head(r$outcome, 1)
    r$task <- "compare"
    return(r)
  }
  if (isTRUE(method %in% c("mcnemar", "cochran_q")) && length(mentions) >= 2) {
    # both ask for one yes/no on several occasions, whatever the columns are called
    r <- fill_measures(state, mentions, r)
    r$outcome <- column_names_of(state, mentions)
    r$by <- character()
    r$task <- "change"
    return(r)
  }
  if (isTRUE(method %in% c("chi_square_goodness", "multinomial_exact"))) {
    r <- fill_measures(state, mentions, r)
    r$task <- "compare"
    r$extra$evenly <- TRUE
    r$extra$missing <- if (!length(c(r$outcome, r$by))) "outcome"
    if (!length(r$outcome)) { r$outcome <- r$by; r$by <- character() }
    return(r)
  }
  filler <- switch(task, compare = fill_compare, change = fill_compare, equivalence = fill_compare,
                   relate = fill_relate, predict = fill_predict,
                   describe = fill_describe, frequency = fill_frequency, distribution = fill_measures, rank = fill_rank,
                   figure = fill_figure,
                   trend = fill_trend, forecast = fill_forecast, drivers = fill_drivers, sample_size = fill_sample_size,
                       quality = fill_measures, advise = fill_advise,
                   themes = fill_themes, survival = fill_survival, pool = fill_pool, look_up = fill_look_up, fill_open)
  r <- filler(state, mentions, r)
  if (task == "equivalence" && isTRUE(r$extra$noninferior)) side_that_is_better(state, r) else r
}

#' Which side of a difference is the worse one, as far as the question or the name of the measure says it; what is not said is told
#' @noRd
side_that_is_better <- function(state, r) {
  if (says(state, "\\b(lower|smaller|fewer|less|higher|larger|more) (values? )?(is|are) better") || length(r$outcome) != 1) return(r)
  r$extra$lower_better <- more_is_worse(r$outcome)
  told <- if (r$extra$lower_better) "Took less %s to be better; add \"higher is better\" where it is not so." else
    "Took more %s to be better; add \"lower is better\" where it is not so."
  r$assumed <- c(r$assumed, sprintf(told, r$outcome))
  r
}

#' "within 2 kg", "margin of 0.5": the largest difference that counts as none
#' @noRd
asked_margin <- function(state) {
  at <- which(state$type == "number")
  for (k in at) {
    before <- paste(vapply(k - 4:1, function(j) item_norm(state, j), ""), collapse = " ")
    if (grepl("within|margin|less than|by|at most|plus or minus|\u00b1", before)) return(abs(state$items[[k]]$value))
  }
  if (length(at) == 1) abs(state$items[[at]]$value) else NULL
}

single_method <- function(state) {
  method <- setdiff(asked_methods(state), c("kaplan_meier")[FALSE])
  if (!length(method)) return(NULL)
  if (length(method) > 1) {
    sizes <- vapply(method, function(m) max(vapply(state$items,
                                                   function(i) if (m %in% lex_ids(i, "method")) i$to - i$from else -1,
                                                   1)), 1)
    method <- method[which.max(sizes)]
  }
  method
}

main_statistic <- function(state) {
  statistic <- as.character(asked_statistics(state))
  # "average distance by age, median please": what is added behind a comma is what is wanted
  added <- "(,|;|\\(| - ) *(use |take |show |as |and )?(the )?(median|mean|average|total|sum|maximum|minimum|sd|standard deviation)s?( please| instead| rather)?\\)?[?.! ]*$"  # nolint: line_length_linter.
  if (length(statistic) > 1 && says(state, added)) return(last_of(statistic))
  # the first one named; a share or a count only where nothing else is asked for
  late <- c("percent", "count")
  c(intersect("weighted_mean", statistic), setdiff(statistic, late), statistic)[1] |> (\(s) if (is.na(s)) NULL else s)()
}

asked_conf_level <- function(state) {
  for (k in which(state$type == "number")) {
    v <- state$items[[k]]$value
    around <- paste(vapply(k + 1:4, function(j) item_norm(state, j), ""), collapse = " ")
    if (grepl("^(%|percent) ?(confidence|ci|interval|level|limits)", around) && v > 50 && v < 100) return(v / 100)
  }
  NULL
}

column_names_of <- function(state, mentions) vapply(mentions, function(m) column_of(state, m$column), "")

#' Groups that are not the ones compared become filters
#' @noRd
with_filters <- function(state, r, compared = list()) {
  rest <- Filter(function(g) !any(vapply(compared, identical, NA, g)), state$groups)
  r$filters <- c(state$filters, lapply(rest, function(g) group_filter(state, g)))
  r
}
