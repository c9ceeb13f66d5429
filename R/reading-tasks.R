# Which task a question calls for.

#' Cue scores of every task
#' @section Shape: Named numeric, one a task.
#' @noRd
cue_scores <- function(state) {
  tasks <- c("overview", "quality", "describe", "frequency", "distribution", "compare", "relate", "predict", "drivers",
             "rank", "trend",
             "forecast", "change", "agreement", "survival", "pool", "equivalence", "themes", "sample_size", "advise",
             "explain", "figure", "look_up")
  score <- stats::setNames(numeric(length(tasks)), tasks)
  for (k in seq_len(state$n)) {
    item <- state$items[[k]]
    if (is.null(item$lex) || (state$used[k] && !state$type[k] %in% "lexicon")) next
    if (state$type[k] == "column" && item$cols$score[1] >= 0.9) next
    cues <- item$lex[item$lex$kind == "task", , drop = FALSE]
    for (i in seq_len(nrow(cues))) {
      task <- cues$id[i]
      score[task] <- if (score[task] == 0) cues$score[i] * (1 + 0.15 * (item$to - item$from)) else score[task] +
        0.25 * cues$score[i]
    }
  }
  score
}

tasks_of_methods <- function() {
  by_task <- list(
    compare = c("rank_test", "anova", "dunnett", "contrast", "t_welch", "t_student", "t_test", "trimmed_t", "mann_whitney",
                "permutation_means", "anova_one_way",
                "anova_welch", "anova_two_way",
                "anova_factorial", "ancova", "kruskal_wallis", "jonckheere", "brown_forsythe", "bartlett",
                "f_variances", "t_one_sample",
                "chi_square_goodness", "binomial_exact", "kolmogorov_smirnov", "proportions_two", "proportions_many", "proportion_one",
                "permutation_paired", "permutation_test", "multinomial_exact", "factorial_robust"),
    change = c("t_paired", "wilcoxon_signed_rank", "sign_test", "anova_repeated", "anova_mixed", "friedman", "mcnemar",
               "cochran_q"),
    relate = c("pearson", "spearman", "kendall", "point_biserial", "goodman_kruskal_gamma", "theil_u", "polychoric",
               "correlation_ratio", "biserial", "distance_correlation", "partial_correlation", "correlation_matrix",
               "chi_square_independence",
               "fisher_exact", "trend_proportions", "cochran_mantel_haenszel", "partial_ranks"),
    predict = c("linear_regression", "robust_linear_regression", "weighted_linear_regression", "logistic_regression",
                "poisson_regression",
                "negative_binomial_regression", "ordinal_regression", "multinomial_regression", "clustered_regression", "penalised_logistic",
                "conditional_logistic", "grouped_logistic", "grouped_logistic_scaled",
                  "mixed_model", "mixed_linear",
                "mixed_logistic",
                "polynomial_regression", "spline_regression", "decision_tree", "regression_tree", "classification_tree",
                "random_forest"),
    drivers = "relative_importance", trend = c("change_points", "mann_kendall"),
    distribution = c("shapiro_wilk", "dagostino", "anderson_darling"),
    agreement = c("cronbach_alpha", "mcdonald_omega", "item_analysis", "intraclass_correlation", "cohen_kappa",
                  "weighted_kappa", "fleiss_kappa", "gwet_ac1", "gwet_ac2", "limits_of_agreement"),
    survival = c("kaplan_meier", "log_rank", "log_rank_early", "cox_regression", "clustered_hazards", "constant_hazard"),
    equivalence = c("equivalence_t", "noninferiority_t", "equivalence_ranks"), pool = c("pooled_fixed", "pooled_random"),
    describe = c("principal_components", "factor_analysis", "cluster_kmeans"))
  stats::setNames(rep(names(by_task), lengths(by_task)), unlist(by_task))
}

#' Methods that the question names; a column that is itself called "kappa" or "lambda" names none
#' @noRd
asked_methods <- function(state) {
  own <- vapply(seq_len(state$n), function(k) state$type[k] == "column" && state$items[[k]]$from == state$items[[k]]$to &&
    isTRUE(tolower(column_of(state, state$items[[k]]$cols$column[1])) == item_norm(state, k)), NA)
  unique(unlist(lapply(state$items[!own], lex_ids, "method")))
}

asked_statistics <- function(state) {
  keep <- vapply(seq_len(state$n), function(k) state$type[k] %in% c("lexicon", "stop") ||
                 (state$type[k] == "column" && state$items[[k]]$cols$score[1] < 0.6), NA)
  # "seizure counts", of a column that holds them
  held <- vapply(seq_len(state$n), function(k) item_norm(state, k) %in% c("counts", "numbers", "totals") && !is.na(item_column(state, k - 1,
      c("count",
    "number"))), NA)
  # "percentage change": a change, no share
  changed <- vapply(seq_len(state$n), function(k) item_norm(state, k) %in% c("percent", "percentage", "per cent", "%", "relative") &&
    grepl("^(change|changes|growth|increase|decrease|rise|fall|drop|difference|decline|gain|loss)$", item_norm(state, k + 1)), NA)
  keep <- keep & !held & !changed
  unique(unlist(lapply(state$items[keep & !state$used], lex_ids, "statistic")))
}

#' Scores with the structure of the question taken in
#' @noRd
score_tasks <- function(state, mentions) {
  score <- cue_scores(state)
  statistic <- asked_statistics(state)
  method <- asked_methods(state)
  if (length(intersect(statistic, c("mean", "median", "sum", "sd", "variance", "min", "max", "weighted_mean", "range",
                                    "iqr", "q1", "q3", "se", "mode", "trimmed_mean", "winsorised_mean", "geometric_mean", "harmonic_mean",
                                    "mad", "variation")))) {
    score["describe"] <- score["describe"] + 0.85
  }
  if (length(method)) for (m in intersect(method, names(tasks_of_methods()))) {
    task <- tasks_of_methods()[[m]]
    # set against a stated value, signs and signed ranks compare
    if (task == "change" && !is.null(state$null_value)) task <- "compare"
    score[task] <- score[task] + 2.2
  }
  if (any(vapply(state$items, has_lex, NA, "picture"))) score["figure"] <- score["figure"] + 1.4
  if (any(vapply(state$items, has_lex, NA, "every"))) score["trend"] <- score["trend"] +
    if (has_dates(state)) 1 else 0.4
  superlative <- vapply(seq_len(state$n), function(k) state$type[k] == "adjective" &&
                        grepl("est$", state$items[[k]]$norm), NA)
  if (any(superlative)) score["rank"] <- score["rank"] + 0.9
  if (any(vapply(state$items, function(i) i$norm %in% c("~"), NA))) score["predict"] <- score["predict"] + 1.5
  if (any(vapply(mentions, function(m) m$marker == "adjust", NA))) score["predict"] <- score["predict"] + 1
  score <- structure_scores(state, mentions, score)
  score
}

#' Does the data say of a duration named whether its end came?
#' @noRd
times_named_event <- function(state, mentions, kinds) {
  columns <- state$vocabulary$columns
  if (is.null(survival_time(columns))) return(FALSE)
  named <- columns$name[vapply(mentions[kinds %in% c("number", "count")], `[[`, 1L, "column")]
  own <- any(vapply(named, function(n) length(event_of_time(columns, n)) > 0, NA))
  # an event that goes with another duration says nothing of this one
  others <- any(vapply(setdiff(columns$name[columns$kind %in% c("number", "count")], named), function(n) length(event_of_time(columns, n)) > 0, NA))
  own || !others
}

#' One measured column beside one that divides
#' @noRd
measured_one <- function(kinds) {
  length(kinds) == 2 && sum(kinds %in% c("number", "count")) == 1 && sum(kinds %in% c("category", "yes_no", "ordered")) == 1
}

#' A yes/no column with "rate", "share" or "proportion" beside it
#' @noRd
rate_of_event <- function(state, mentions) {
  any(vapply(mentions, function(m) (kind_at(state, m$column) == "yes_no" || nzchar(level_named_so(state, m$column))) &&
             (grepl("^(rate|rates|share|proportion|percentage)$", item_norm(state, m$at + 1)) ||
              grepl("(rate|share|proportion|percentage) (of|that|who|which)$", paste(item_norm(state, m$at - 2), item_norm(state, m$at - 1)))), NA))
}

#' "which month had the highest sales", "the hottest week": the period that is ranked, or NULL
#' @section Shape: list(every, order).
#' @noRd
period_ranked <- function(state) {
  text <- tolower(state$text)
  periods <- "month|year|week|quarter|weekday|day of the week|days? of week|hour of the day|hour"
  most <- "\\b(busiest|quietest|peak|highest|lowest|most|fewest|least|best|worst|largest|smallest|biggest|greatest|maximum|minimum|[a-z]{3,}est)\\b"
  dates <- state$vocabulary$columns$kind %in% c("date", "datetime")
  # (where every day has a row of its own, the rows are ranked)
  alone <- state$vocabulary$columns$unique[dates] & state$vocabulary$columns$kind[dates] == "date"
  if (any(dates) && !all(alone)) periods <- paste0(periods, "|day|date")
  found <- regmatches(text, regexec(sprintf("(?:^ *[a-z]+est|\\b(?:which|what|the [a-z]+est|best|worst|busiest|quietest|peak)) (%s)\\b", periods), text))[[1]]  # nolint: line_length_linter.
  # "the week with the highest usage"
  if (!length(found)) found <- regmatches(text, regexec(sprintf("^ *(?:show |find |give |name |tell me |what (?:is|was) )?(?:the )?(%s) (?:with|of|that had|having) (?:the )?(?:[a-z]+est|most|least|peak|maximum|minimum|best|worst)\\b", periods), text))[[1]]  # nolint: line_length_linter.
  if (!length(found) || !grepl(most, text)) return(NULL)
  every <- if (grepl("hour", found[2])) "hour" else if (found[2] %in% c("day", "date")) "day" else if (grepl("day", found[2])) "weekday" else found[2]
  low <- grepl("\\b(quietest|lowest|fewest|least|worst|smallest|minimum|coldest|coolest|slowest|weakest|lightest)\\b", text)
  list(every = every, order = if (low) "lowest" else "highest")
}

#' "which model predicts the yield best", "is a straight line good enough", "cross-validate a model of ..."
#' @noRd
asks_for_models <- function(state) {
  says(state, paste0("\\b(which|what) (kind of |type of |sort of )?models?\\b.*\\b(best|better|predicts?|suits?|fits?|should|use)\\b|\\bbest ",
      "model\\b|\\bcompare (the |several |different |some )?models\\b|",
               "\\bcross.?validat\\w*|\\b(straight line|linear model|linear regression)( model)? (good |well )?enough\\b|",
               "\\b(tree|curve|spline|ridge)\\b.*\\b(better|best|worse)\\b.*\\b(line|linear|regression|least ",
                   "squares)\\b|\\bhow well can \\w+ ",
                   "be predicted\\b"))
}

#' "growth rate per month", "month on month change", "how much did it grow from May 2024 to July 2024"
#' @noRd
grows_by_period <- function(state) {
  period <- "(day|week|month|quarter|year)"
  says(state, paste0("\\bgrowth rates?\\b|\\bgrowth (of|in)\\b.*\\b(per|each|every|by) ", period, "\\b|\\b", period, "[- ](on|over|by|to)[- ]",
      period, "\\b|\\b(daily|weekly|monthly|quarterly|yearly|annual) ",
                     "(growth|(percentage |percent |% )?changes?)\\b|\\b(percent(age)?|per ?cent|%)\\b.*\\b(grow|rise|fall|change|increase|decrease)s?\\b.*\\b(each|every|per|a) ",  # nolint: line_length_linter.
                     period, "\\b|\\b(growth|changes?|grow|grew|grown|increase[ds]?|rise|rose|decline[ds]?|drop(ped)?|fall|fell)\\b.*\\b(from|between) (", month_starts(),  # nolint: line_length_linter.
                     ")[a-z]*( (19|20)[0-9]{2})? (to|and|until|till|through) ")) && has_dates(state)
}

#' The period whose growth is asked about; NULL where none is named
#' @noRd
growth_period <- function(state) {
  text <- tolower(state$text)
  words <- period_adjectives[names(period_adjectives) != "hourly"]
  for (w in names(words)) if (grepl(paste0("\\b", w, "\\b"), text)) return(words[[w]])
  hit <- regmatches(text, regexec("\\b(?:per|each|every|a) (day|week|month|quarter|year)\\b|\\b(day|week|month|quarter|year)[- ](?:on|over|by|to)[- ]", text, perl = TRUE))[[1]]  # nolint: line_length_linter.
  if (length(hit)) Filter(nzchar, hit[-1])[1]
}

grows_between_years <- function(state) {
  says(state, paste0("\\b(growth|grow|grew|grown|increase[ds]?|rise|rose|change[ds]?|decline[ds]?|drop(ped)?|fall|fell)\\b.*\\b(from|between) ",
      "(19|20)[0-9]{2} (to|and) (19|20)[0-9]{2}\\b"))
}

says_more_common <- function(state) {
  says(state, paste0("\\b(more|less|as|equally) (common|frequent|frequently|likely|prone|prevalent|often|widespread)\\b|^ *(is|are|was|were) there (any ",  # nolint: line_length_linter.
      "|significantly |many |a lot )?(more|fewer|less)\\b")) &&
    !says(state, "most|\\bthan (half|a half|one)\\b|of all|more (often|likely) than not") && !length(state$null_value)
}

#' "does the effect of method depend on gender", whether or not what is measured is named
#' @noRd
effect_depends <- function(state) {
  grepl("\\b(effects? of\\b.*|\\w+ effects?) (still )?(depends? on|differs? (by|between|across|among|for|in)|var(y|ies) (with|by|across|between|among)|(the same|different|larger|smaller|stronger|weaker|greater) (in|at|for|across|among|between))\\b",  # nolint: line_length_linter.
        state$text, ignore.case = TRUE, perl = TRUE)
}

#' "does the effect of X on Y depend on Z", "is the effect of X on Y the same in both Z"
#' @noRd
asks_for_moderation <- function(state) {
  says(state, paste0("\\b(relation(ship)?|association|link)s? (is |are )?(the same|different|similar|stronger|weaker) (in|for|among|across|between)\\b|",  # nolint: line_length_linter.
      "\\bslopes? (of|for)\\b.*\\b(differ|change|var(y|ies)|depends? on|the same|steeper|flatter)\\w*\\b|",
      "\\b(relation(ship)?|association|link|difference|gap) (of|between|in)\\b.*\\b(and|between)\\b.*\\b(depends? on|",
      "(differ|vary|change|differs|varies|changes) (by|with|between|for|in|among|across)|the same (in|for|across|among)|",
      "(different|similar|larger|bigger|smaller|greater|stronger|weaker|wider|narrower) (in|for|among|at|between|across))|",
      "\\b(effects?|impact|influence) of\\b.*\\bon\\b.*\\b(depends? on|var(y|ies) (with|by|across|between)|differs? ",
      "(by|with|across|between|among|for)|the same (for|in|across|at)|(different|larger|smaller) (in|for|among|at|between)|changes? ",
          "with|(is|are)? ?moderated ",
      "by|(larger|greater|stronger|smaller|weaker) (in|for|among|at))\\b"))
}

#' "which kinds of hives", "what sort of patients", where "kind" is not itself a column
#' @noRd
asks_for_kinds <- function(state, mentions) {
  words <- paste0("\\b(which|what) (kinds?|sorts?|types?) of (\\w+)|\\b(divide|split|segment|partition) (up )?the \\w+ by what\\b|\\bprofiles? ",
      "of the \\w+ (with|who|that)\\b")
  found <- regmatches(state$text, regexpr(words, state$text, ignore.case = TRUE, perl = TRUE))
  length(found) == 1 && length(mentions) >= 1 && !grepl("of (test|analysis|data|chart|plot|figure|variable|column|file)", found,
    ignore.case = TRUE, perl = TRUE) &&
    !any(vapply(mentions, function(m) grepl("kind|sort|type", m$text, ignore.case = TRUE, perl = TRUE), NA)) && sum(!vapply(mentions,
        function(m) kind_at(state,
      m$column) == "id", NA)) <= 1
}

#' Does the question ask at what time a level changed ("when did the weight change level")?
#' @noRd
asks_when_changed <- function(state) {
  says(state, "\\bwhen did\\b.*\\b(change|shift|jump|drop|rise|fall|break)\\b")
}

has_dates <- function(state) any(state$vocabulary$columns$kind %in% c("date", "datetime"))

#' Columns that hold a time: dates, else years, else numbers named so, where the question asks about time
#' @noRd
time_columns <- function(state) {
  columns <- state$vocabulary$columns
  dated <- columns$name[columns$kind %in% c("date", "datetime")]
  if (!length(dated)) dated <- columns$name[columns$role == "year"]
  if (length(dated) || !says(state, paste0("^ *when\\b|\\b(over time|with time|over the (days|weeks|months|years|quarters|visits|periods|waves|sessions|rounds)|time ",  # nolint: line_length_linter.
      "course|growth|develop\\w*|trajector\\w*)\\b"))) return(dated)
  lasts <- paste0("^(time|days?|weeks?|months?|quarters?|years?|hours?|minutes?|visit|wave|round|period|session)",
                  "([_. ](n|no|nr|number|h|hr|hrs|hours|min|mins|minutes|s|sec|secs|days|weeks|months))?$")
  own <- columns$name[columns$kind %in% c("number", "count") & grepl(lasts, tolower(columns$name))]
  # ("visit_week" of rows that are the visits of subjects)
  long <- state$vocabulary$long$time
  if (length(own) || is.null(long) || !long %in% columns$name[columns$kind %in% c("number", "count")]) own else long
}

#' What columns and values are there speaks for a task as well
#' @noRd
structure_scores <- function(state, mentions, score) {
  kinds <- mention_kinds(state, mentions)
  measured <- sum(kinds %in% c("number", "count"))
  positive <- Filter(function(g) !g$negated, state$groups)
  several <- any(vapply(positive, names_several, NA))
  comparative <- any(vapply(seq_len(state$n), function(k) endsWith(item_norm(state, k), "than") && !state$used[k], NA)) ||
    length(state$null_value)
  if (comparative) score["compare"] <- score["compare"] + 0.5
  if (length(state$null_value)) score["compare"] <- score["compare"] + 1.2
  if (any(vapply(seq_len(state$n), function(k) state$type[k] == "adjective" && grepl("er$", item_norm(state, k)) &&
                 !state$used[k], NA))) score["compare"] <- score["compare"] + 0.3
  if (several && (measured || any(kinds == "ordered"))) score["compare"] <- score["compare"] + 0.4
  apart <- vapply(state$items, function(i) i$norm %in% c("different from", "differently from", "differ from"), NA)
  if (any(apart & !state$used) || (any(apart) && several)) score["compare"] <- score["compare"] + 0.5
  if (!length(mentions) && !length(state$groups)) {
    score[c("compare", "relate", "predict", "describe", "frequency")] <- score[c("compare", "relate", "predict",
        "describe", "frequency")] * 0.9
  }
  if (score["drivers"] >= 0.9 && any(vapply(state$items,
                                            function(i) grepl("^(variable|factor|column|thing|predictor|measure)s?$",
                                                              i$norm), NA))) {
    score["drivers"] <- score["drivers"] + 0.3
  }
  score <- phrase_scores(state, mentions, kinds, score)
  columns <- state$vocabulary$columns
  if (!length(time_columns(state))) score[c("trend",
      "forecast")] <- 0.3 * score[c("trend", "forecast")]
  nothing <- max(score) < 0.35
  if (nothing && length(mentions) == 1) {
    # "scores by method": something measured is asked about, though no column of that name is there
    noun <- state$type[1] == "filler" && grepl("^(scores?|results?|values?|ratings?|readings?|measurements?|performance|marks|grades)$",
        norms_of(state)[1])
    task <- switch(kinds[1], number = , count = "describe", text = "themes", if (noun && mentions[[1]]$marker == "by") "describe" else "frequency")
    score[task] <- 0.6
  } else if (nothing && length(mentions) >= 2) {
    divided <- any(vapply(mentions[-1], function(m) m$marker == "by" && can_group(state, m$column), NA))
    # "volume from girth and height", "yield on rain"
    explained <- measured >= 2 && !any(norms_of(state) %in% c("against", "versus", "vs")) && mentions[[1]]$marker == "" && all(vapply(mentions[-1],
        function(m) m$marker %in% c("from", "on"), NA))
    counted <- divided && measured == 0 && says(state, "^ *(the )?(number|count|counts|numbers) of\\b")
    if (counted) score["frequency"] <- 0.6 else if (explained) score["predict"] <- 0.6 else if (measured >= 2 && divided) score["describe"] <- 0.6 else if (measured >= 2) score["relate"] <- 0.6 else if (measured == 1) score["describe"] <- 0.6 else score["relate"] <- 0.5  # nolint: line_length_linter.
  } else if (nothing && several) score[if ("percent" %in% asked_statistics(state)) "frequency" else "compare"] <- 0.5
  else if (nothing && length(c(state$filters, state$groups))) {
    # "how fast do chicks grow on diet 4" asks for no rows: what is measured is left open; "share aged over 65" asks for none either
    grown <- says(state, "\\b(growth|increase|decrease|change|rise|fall) (from|between|since)\\b") && length(time_columns(state)) > 0
    score[if ("percent" %in% asked_statistics(state)) "frequency" else if (grown) "trend" else if (says(state,
        "^ *(how|why|do|does|did|is|are|was|were|can|could|will|would)\\b")) "describe" else "look_up"] <- 0.6
  }
  score
}

#' "quotes about feed", "what do people say about the website", "answers that mention training", where there are open answers
#' @noRd
asks_for_quotes <- function(state) {
  any(state$vocabulary$columns$kind == "text") && nzchar(quotes_about(state$text))
}

#' The words that quotes are asked about; "" where none are
#' @noRd
quotes_about <- function(text) {
  form <- paste0("(?i)\\b(?:quotes?|comments?|answers?|responses?|remarks?|verbatims?)\\b(?: (?:from|of|by) \\w+)? (?:about|on|regarding|concerning|(?:that |which )?",  # nolint: line_length_linter.
                 "(?:mention(?:s|ing)?|contain(?:s|ing)?|speak(?:s|ing)? of|talk(?:s|ing)? about)) (?:the |a |an |their )?([\\p{L}' -]+?)(?: (?:in|by|for|from|among) .*)?[?.! ]*$|",  # nolint: line_length_linter.
                 "\\b(?:what (?:do|did|are) (?:people|they|respondents|\\w+) (?:say|saying|write|think)|who mentions?|how many (?:people |answers |respondents |comments )?mention) ",  # nolint: line_length_linter.
                 "(?:about )?(?!(?:in|by|for|from|among) )(?:the |a |an |their )?([\\p{L}' -]+?)(?: (?:in|by|for|from|among) .*)?[?.! ]*$")
  hit <- match_groups(text, form)
  words <- trimws(stats::na.omit(hit[-1])[1])
  if (is.na(words)) "" else words
}
