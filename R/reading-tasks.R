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
                "permutation_paired", "permutation_test"),
    change = c("t_paired", "wilcoxon_signed_rank", "sign_test", "anova_repeated", "anova_mixed", "friedman", "mcnemar",
               "cochran_q"),
    relate = c("pearson", "spearman", "kendall", "point_biserial", "goodman_kruskal_gamma", "theil_u", "polychoric",
               "correlation_ratio", "biserial", "distance_correlation", "partial_correlation", "correlation_matrix",
               "chi_square_independence",
               "fisher_exact", "trend_proportions", "cochran_mantel_haenszel"),
    predict = c("linear_regression", "robust_linear_regression", "weighted_linear_regression", "logistic_regression",
                "poisson_regression",
                "negative_binomial_regression", "ordinal_regression", "multinomial_regression", "clustered_regression", "penalised_logistic",
                  "mixed_model", "mixed_linear",
                "mixed_logistic",
                "polynomial_regression", "spline_regression", "decision_tree", "regression_tree", "classification_tree",
                "random_forest"),
    drivers = "relative_importance", trend = "change_points",
    distribution = c("shapiro_wilk", "dagostino", "anderson_darling"),
    agreement = c("cronbach_alpha", "mcdonald_omega", "item_analysis", "intraclass_correlation", "cohen_kappa",
                  "weighted_kappa", "fleiss_kappa", "limits_of_agreement"),
    survival = c("kaplan_meier", "log_rank", "cox_regression"), equivalence = c("equivalence_t",
        "noninferiority_t"), pool = c("pooled_fixed", "pooled_random"),
    describe = c("principal_components", "factor_analysis", "cluster_kmeans"))
  stats::setNames(rep(names(by_task), lengths(by_task)), unlist(by_task))
}

asked_methods <- function(state) unique(unlist(lapply(state$items, lex_ids, "method")))

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
                                    "iqr", "q1", "q3", "se", "mode")))) {
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

#' Turns of phrase that no single word gives away
#' @noRd
phrase_scores <- function(state, mentions, kinds, score) {
  norms <- vapply(state$items, `[[`, "", "norm")
  entity <- vapply(seq_len(state$n), function(k) state$type[k] == "entity" || state$items[[k]]$stem %in% state$vocabulary$entities, NA)
  number_of <- which(norms == "number")
  counted <- number_of[vapply(number_of, function(k) item_norm(state, k + 1) == "of" && isTRUE(entity[k + 2]), NA)]
  # "the mean of Q1 to Q5" asks for their means, not for a comparison of them
  plain <- length(intersect(asked_statistics(state), c("mean", "median", "sd", "sum", "min", "max"))) > 0 && max(score[c("compare", "change")]) < 0.5
  if (paired_columns(state, mentions) && score["relate"] < 0.5 && !plain) score["change"] <- score["change"] + 0.9
  # an event and its censoring are spoken of only where time to it is meant
  if (says(state, "\\b(censor|the event is|as the event|event is|deaths? (of|from|by))") &&
      score["survival"] > 0) score["survival"] <- score["survival"] + 1.5
  if (says(state, "\\bhazards?\\b")) score["survival"] <- score["survival"] + 2
  if (asks_for_survival(state)) score["survival"] <- max(score) + 2
  # "how long does it take to settle a claim", of data in which nothing is censored: a plain duration
  plain_time <- score["survival"] > 0 && any(kinds %in% c("number", "count")) && is.null(single_method(state)) &&
    !says(state, "surviv|hazard|censor|\\bevent\\b|kaplan") && !times_named_event(state, mentions, kinds)
  if (plain_time && says(state, "\\bhow long\\b")) {
    score["describe"] <- score["describe"] + score["survival"]
    score["survival"] <- 0
  }
  # the size of a sample, whichever test it is for
  if (says(state, paste0("\\bsample size (for|to|needed|required|of a|do)\\b|\\b(can|could|would|will|do|does) (i|we|you|it|this) (be able to ",
      ")?(detect|see)\\b|how (many|large|big).{1,60}\\b(need|needed|required)\\b.{0,40}\\b(detect|power|see|show)\\b|\\bdetectable\\b"))) {
    score["sample_size"] <- score["sample_size"] + 3
  }
  # "the power of a t test with 30 per group", "how many pairs for a paired test", "how many per arm for a difference of 2"
  planned <- any(state$type == "number") && !"power" %in% state$vocabulary$terms$stem &&
    says(state, paste0("\\bpower (of|for|to|in|do|does|would|will|has|have)\\b|\\b(statistical|what|the|achieved|enough) power\\b|\\bhow many pairs\\b|",  # nolint: line_length_linter.
                       "\\bhow many \\w+ (per|in each|for each|in every) (arm|group|condition|cell|treatment)s? (for|to)\\b|\\bsample size per\\b"))
  if (planned) score["sample_size"] <- score["sample_size"] + 6
  # "sample size by wave": the rows there are
  if (!planned && says(state, "^ *(what (is|are|was) )?(the )?(sample sizes?|n) (by|per|in each|for each|in every|across)\\b")) {
    score["sample_size"] <- 0
    score["frequency"] <- max(score) + 1
  }
  if (score["sample_size"] > 0.9 && any(state$type == "number")) score["sample_size"] <- score["sample_size"] + 0.6
  if (says(state, "\\b(overall|pooled|combined|summary)\\b.*\\b(across|over|from) (the |these |all |all the )?(studies|trials)\\b")) {
    score["pool"] <- score["pool"] + 2
  }
  if (asks_of_studies(state, mentions)) score["pool"] <- max(score) + 3
  if (says(state, "forest plot|forest figure")) score["pool"] <- score["pool"] + 1.5
  if (score["forecast"] > 0.25 &&
      says(state, "\\b(forecast|project|extrapolat|predict)\\w*\\b.*\\b(next|coming|ahead|following)\\b|\\bforecast")) {
    score["forecast"] <- score["forecast"] + 2.5
  }
  # "by how much does it grow per mg": a slope
  if (says(state, "\\b(by )?how (much|many)\\b.*\\bper\\b") &&
      sum(kinds %in% c("number", "count")) + (any(state$type == "unit") && length(mentions) == 1) >= 2) score["predict"] <- score["predict"] + 1.6
  # "top 3 agents by resolution rate"
  if (rate_of_event(state, mentions) && score["rank"] >= 0.3) score["rank"] <- score["rank"] + 2.5
  # "the infertile rate", "the share that swarmed" beside another column: shares over its levels
  if (rate_of_event(state, mentions) && length(mentions) == 2) score["relate"] <- score["relate"] + 1.2
  # "which hives have more than 40 mites": rows to be shown
  entity_asked <- state$n > 2 && norms[1] == "which" && (isTRUE(entity[2]) ||
      state$type[2] == "column") && any(norms[3] %in% c("have", "has", "had", "are", "were", "with", "show"))
  if (isTRUE(entity_asked) && length(state$filters) && all(kinds == "id")) score["look_up"] <- score["look_up"] + 1.5
  # "which wines cost more than 30", "show me the first five rows"
  bounded <- says(state, "^ *which \\w+ (\\w+ )?(more|less|over|under|above|below|at least|at most|fewer)\\b") && length(state$filters) &&
      all(kinds == "id")
  listed <- says(state,
      "^ *(please )?(show|list|print|display|see|give|get)( me)?( the| some)?( first| top| last)?( [0-9]+| [a-z]+)? (rows|records|lines)\\b")
  if (bounded || listed) score["look_up"] <- max(score) + 1.5
  # "count swarmed hives by arm": a table, not a test
  if (length(asked_statistics(state)) && identical(main_statistic(state), "count") && length(mentions) == 2 &&
      score["relate"] < 0.5 && max(score[c("compare", "predict", "frequency")]) < 0.5 && all(kinds %in% c("category", "yes_no", "ordered", "id"))) {
    score["frequency"] <- score["frequency"] + 0.8
  }
  # "which kinds of hives have the highest yield": rules that divide the rows
  if (asks_for_kinds(state, mentions)) score["predict"] <- score["predict"] + 2.5
  # "is smoking more common in men": shares of two sides, not a count of one
  if (says_more_common(state) && score["sample_size"] < 0.5 && !any(vapply(state$groups, function(g) isTRUE(g$numeric), NA)) && any(c(kinds,
    vapply(state$groups, function(g) kind_at(state, g$column), "")) %in% c("yes_no", "category"))) { score["compare"] <- score["compare"] +
      2.2; score["frequency"] <- 0 }
  # "share agreeing that they feel safe": answers of one item, not two raters
  if (score["agreement"] > 0.3 && length(mentions) >= 1 && (any(kinds == "ordered") || length(agreed_items(state))) &&
      says(state, "\\b(share|percent\\w*|proportion|fraction|how many|number of)\\b")) {
    score["agreement"] <- 0
    # "which district has the lowest share agreeing that ...": the groups are ranked by it
    ranked <- says(state, "^ *(which|what) \\p{L}+.*\\b(highest|lowest|largest|smallest|best|worst|most|least)\\b")
    task <- if (ranked) "rank" else "frequency"
    score[task] <- score[task] + 2
  }
  # "agreement with Q2 by age group": how far people agree with a statement, not two raters with each other
  if (score["agreement"] > 0.5 && says(state, "\\bagree(ment|s)? with\\b") && length(mentions) == 2 &&
    any(vapply(mentions, function(m) m$marker == "by", NA))) {
    score["agreement"] <- 0
    score["frequency"] <- score["frequency"] + 1
  }
  # "how were the items answered?", "which statement finds most agreement?", "share ticking each option"
  if (asks_how_answered(state, mentions) && !length(intersect(asked_statistics(state), c("mean", "median", "sd"))) && is.null(single_method(state))) {
    score[c("agreement", "rank", "distribution", "look_up", "figure")] <- 0
    score["frequency"] <- score["frequency"] + 3
  }
  # "is lead time longer for cancelled bookings"
  comparative <- "\\b(more|less|fewer|[a-z]{2,}(er|ier)|better|worse) (for|in|among|with|when|at|on)\\b"
  if (says(state, "^ *(is|are|was|were|do|does|did|has|have)\\b") && says(state, comparative) &&
      length(mentions) == 2 && sum(kinds %in% c("number", "count")) == 1 && sum(kinds %in% c("yes_no", "category")) == 1 && !length(state$groups)) {
    score["compare"] <- score["compare"] + 1.2
  }
  # "is noise louder at the airport": the level named against the others
  if (says(state, "^ *(is|are|was|were)\\b.*\\b([a-z]{3,}er|(more|less) [a-z]+) (in|at|for|among|with|on|near)\\b") && !says(state, "\\b(than|per|over time|after|under|over|average|mean|median)\\b") &&  # nolint: line_length_linter.
      length(mentions) == 1 && kinds[1] %in% c("number", "count", "ordered") && length(state$groups) == 1 && names_one(state$groups[[1]]) &&
      !state$groups[[1]]$negated && max(score[c("compare", "relate", "predict")]) < 1) {
    score["compare"] <- max(score) + 1
  }
  # "are senior staff prouder": one level against what the others are
  if (says(state, "^ *(is|are|was|were)\\b.*\\b((more|less) [a-z]+|[a-z]{3,}er)[?.! ]*$") && length(mentions) == 1 && kinds[1] %in% c("number",
      "count",
    "ordered") && mentions[[1]]$at == state$n && length(state$groups) == 1 && length(state$groups[[1]]$levels) == 1 && !state$groups[[1]]$negated) {
    score["compare"] <- score["compare"] + 1.5
  }
  # "do houses with a heat pump use more": what is more is left open, and the rows are not counted
  if (says(state, "^ *(do|does|did)\\b.*\\b[a-z]+ (more|less|fewer)[?.! ]*$") && length(mentions) == 1 && kinds[1] == "yes_no" &&
      !length(state$groups)) {
    score["compare"] <- score["compare"] + 1.5
  }
  # "did bookings drop in summer": rows are counted over time
  if (has_dates(state) && !length(mentions) && any(entity) && max(score[c("compare", "relate", "predict")]) < 1 &&
      says(state, "^ *(did|do|does|has|have|is|are)\\b.*\\b(drop|fall|fell|ris|rose|grow|grew|increas|decreas|declin|(go|went) (up|down))")) {
    score["trend"] <- score["trend"] + 3
  }
  # "was the share scoring above 100 higher in the intervention group": against those that are not named
  if (length(state$groups) == 1 && says(state, "^ *(is|was|are|were) (the )?(share|proportion|percentage|fraction)s? (of|that|who|with)\\b.*\\b(higher|lower|larger|smaller|greater|bigger) (in|among|for|with|at|on)\\b")) {  # nolint: line_length_linter.
    score["compare"] <- max(score) + 1
  }
  # "effect size of free meals on attendance"
  if (says(state, "\\beffect size\\b") && measured_one(kinds) && score["sample_size"] < 0.5) {
    score["compare"] <- score["compare"] + 1.2
  }
  # "odds ratio of death per year of age"
  if (says(state, "\\bodds ratios?\\b") && sum(kinds %in% c("number", "count")) >= 1 && sum(kinds == "yes_no") >= 1) {
    score["predict"] <- score["predict"] + 2
  }
  # "odds ratio of survival for syrup against control": two sides of a share, where nothing measured explains it
  if (says(state, "\\b(odds|risk) ratios?\\b|\\brelative risks?\\b|\\b(absolute )?risk (difference|reduction)s?\\b") && any(kinds == "yes_no") &&
      !any(kinds %in% c("number", "count")) && (any(vapply(state$groups, names_several, NA)) || length(mentions) == 2)) {
    score["compare"] <- max(score) + 1.5
    score["frequency"] <- 0
  }
  # "entropy of region": of the counts of its levels
  if ("entropy" %in% asked_statistics(state)) score["frequency"] <- max(score) + 1
  if (asks_for_chance(state) && any(vapply(state$groups, function(g) isTRUE(g$numeric), NA))) score["predict"] <- score["predict"] + 3
  if (asks_for_flow(state) && max(score[c("predict", "compare", "relate")]) < 1) score["frequency"] <- score["frequency"] + 3
  if (asks_for_map(state)) score["figure"] <- score["figure"] + 4
  if (asks_against_usual(state)) score["trend"] <- max(score) + 3
  if (has_dates(state) && !is.null(season_allowed_for(state)) && max(score[c("compare", "predict", "forecast")]) < 1.5) {
    score["trend"] <- score["trend"] + 2
  }
  # "weight and rain on two axes": both over time
  if (has_dates(state) && any(vapply(state$items, has_lex, NA, "scope", "second_axis"))) {
    score["trend"] <- score["trend"] + 3
    score["figure"] <- 0
  }
  if (asks_when_changed(state) && has_dates(state)) score["trend"] <- score["trend"] + 2.5
  measured <- any(kinds %in% c("number", "count", "ordered"))
  # "how much more honey do syrup hives give": two sides, though only one is named
  if (says(state, "\\bhow (much|many) (more|less|fewer|higher|lower|better|worse|longer|shorter|heavier|lighter|bigger|smaller|larger|faster|slower|older|younger|taller)\\b") && measured && length(state$groups) &&  # nolint: line_length_linter.
      score["predict"] < 0.5) score["compare"] <- score["compare"] + 2
  # "is the yield higher than 20 kg on average in syrup hives": a value to compare with
  if (says(state, "^ *(is|are|was|were)\\b.*\\b(higher|lower|more|less|greater|above|below|larger|smaller) than (about |around )?[0-9]") &&
      !measured && length(state$filters) == 1) score["compare"] <- score["compare"] + 2
  # "share using a bike by district"
  if (says(state, "^ *(what |the )?(share|proportion|percent(age)?|fraction)s? \\w+") && length(mentions) == 2 &&
      sum(kinds == "yes_no") >= 1 && any(vapply(mentions, function(m) m$marker == "by", NA)) && max(score[c("relate", "compare", "predict")]) < 0.5) {
    score["frequency"] <- score["frequency"] + 1
  }
  # "share paying by credit card by plan": a level of one column, over another
  if (says(state, "^ *(what |the )?(share|proportion|percent(age)?|fraction)s?\\b") && length(state$groups) == 1 &&
      !measured &&
      any(vapply(mentions, function(m) m$column == state$groups[[1]]$column, NA)) && score["compare"] < 0.5) {
    score["frequency"] <- max(score) + 1
  }
  # "is tutoring effective?", "does syrup work?": an effect on something that the question leaves open
  if (length(mentions) + length(state$groups) == 1 && !measured &&
      says(state, paste0("^ *(is|are|was|were)\\b.*\\b(effective|useful|helpful|beneficial|any good|worth it)\\b|",
    "^ *(does|do|did)\\b.*\\b(work|help|matter|make a difference|pay off)\\b *[?.!]*$"))) {
    score["compare"] <- score["compare"] + 2.5
    score["frequency"] <- 0
  }
  # "how many distinct species"
  if (says(state, "\\b(distinct|unique)\\b|\\bhow many different\\b|\\bnumber of different\\b") && length(mentions)) {
    score["frequency"] <- score["frequency"] + 1.5
  }
  # "is the median revenue higher for express": one side is named, the others are what it is held against
  one_sided <- says(state, paste0("^ *(is|are|was|were|do|does|did|has|have)\\b.*\\b(higher|lower|more|less|fewer|better|worse|greater|larger|smaller|longer|shorter|faster|",  # nolint: line_length_linter.
                            "slower|bigger|heavier|lighter|older|younger|taller|quicker|cheaper|dearer|stronger|weaker)\\b(?!.* than (about ",
                                "|around )?[0-9])"))
  sides <- Filter(names_one, state$groups)
  if (one_sided && measured && length(sides) == 1 && length(state$groups) == 1 && !length(state$filters)) score["compare"] <- score["compare"] + 1.2
  # "do left footed players score more"
  if (!length(mentions) && length(state$groups) && says(state,
      "^ *(do|does|did|are|is|were|was)\\b.*\\b(more|less|better|worse|higher|lower)\\b *[?.!]*$") &&
          max(score) < 1) score["compare"] <- score["compare"] + 1.5
  # "is express shipping faster": a side, and something better or worse about it that the reading has to find
  if (!length(mentions) && length(state$groups) && says(state, "^ *(is|are|was|were|do|does|did)\\b.*\\b[a-z]{3,}er\\b *[?.!]*$") &&
      max(score) < 1) score["compare"] <- score["compare"] + 1.5
  if (says(state, paste0("^ *(is|are|was|were)\\b.*\\b(above|below|over|under) (about |around )?[0-9].*\\bon average\\b|^ *(is|are|was|were) (the ",
      ")?(mean|average|median)\\b.*\\b(above|below|over|under) (about |around )?[0-9]")) && !measured &&
          length(state$filters) == 1) score["compare"] <- score["compare"] + 2.5
  # "hives with more than 20 mites": rows to be shown
  if (!length(mentions) && length(state$filters) && !any(vapply(state$groups, names_several, NA)) && max(score) < 1.2 &&
      says(state, "^ *(the |all )?[a-z]+ (with|where|that|who|which|over|above|below|under|having|from|in|[a-z]+ing|[a-z]+ed)\\b") &&
      !says(state, paste0("^ *(how|what|which|is|are|do|does|did|was|were|can|compare|test|mean|average|median|share|number|count|percent|proportion|fraction|rate)|",  # nolint: line_length_linter.
        "\\b(top|best|worst|how many|how much|what share|what percent\\w*)\\b"))) {
    score["look_up"] <- score["look_up"] + 2
    score["compare"] <- 0
  }
  # "which maker has the most models": nothing is measured, so rows are counted
  if (length(mentions) == 1 && (kind_at(state, mentions[[1]]$column) %in% c("category", "yes_no", "count") ||
      state$vocabulary$columns$role[mentions[[1]]$column] == "multi_answer") && !length(state$groups) &&
      norms[1] != "who" && says(state, "\\b(most|fewest) \\w+|\\b(most|least) (common|frequent)|\\bcommonest\\b") &&
          score["rank"] > 0.3 &&
        !grepl("of all|likely", state$text)) {
    score["frequency"] <- score["frequency"] + 2
  }
  # "did sales go up?", "are prices coming down"
  if (has_dates(state) && length(mentions) == 1 && measured && says(state,
      "\\b(go|goes|going|went|gone|come|came|coming) (up|down)\\b")) score["trend"] <- score["trend"] + 2
  # "did unemployment in Norland fall between 2010 and 2021"
  if (length(time_columns(state)) && length(mentions) == 1 && measured && score["compare"] < 1.5 &&
      grepl("^ *(did|has|have|is|are)\\b.*\\b(ris(e|en|ing)|fall(en|ing)?|increas(e|ed|ing)|decreas(e|ed|ing)|grow(n|ing)?|drop(ped|ping)?|declin(e|ed|ing)|improv(e|ed|ing))\\b",  # nolint: line_length_linter.
            state$text, ignore.case = TRUE, perl = TRUE) && !length(state$groups[vapply(state$groups, names_several,
                NA)])) score["trend"] <- score["trend"] + 1.5
  # "growth in revenue from 2023 to 2024"
  if (length(time_columns(state)) && measured && (grows_between_years(state) || grows_by_period(state))) score["trend"] <- max(score) + 2.5
  # "how did unemployment change in Borland"
  if (length(time_columns(state)) && length(mentions) >= 1 && measured && max(score[c("compare", "relate", "predict", "change")]) < 1.5 &&
      says(state, "^ *how (did|has|have|does|do)\\b.*\\b(change[ds]?|evolved?|develop(ed)?)\\b") &&
      !any(vapply(state$groups, names_several, NA))) score["trend"] <- max(score) + 2
  if (asks_for_models(state) && length(mentions)) score["predict"] <- score["predict"] + 4
  # "which month had the highest sales": periods are ranked
  if (!is.null(period_ranked(state)) && has_dates(state)) score["trend"] <- score["trend"] + 3
  # "does the weight fall as the number of visits rises"
  moves <- "(ris|increas|grow|climb|fall|drop|decreas|declin|go(es)? (up|down)|get(s)? (bigger|smaller|higher|lower))\\w*"
  if (says(state, paste0("\\b", moves, "\\b.*\\b(as|when|if|while)\\b.*\\b", moves, "\\b")) && length(mentions) >= 2) {
    score["relate"] <- score["relate"] + 2
    score["frequency"] <- 0
  }
  # "does the length weight relationship differ between species": the relation within each
  if (says(state, "\\b(relation(ship)?|correlation|association|link)s?\\b.*\\b(differs?|var(y|ies)|the same|depends?|changes?|similar|holds?)\\b") &&
      sum(kinds %in% c("number", "count")) == 2 && sum(kinds %in% c("category", "yes_no")) == 1 && length(mentions) == 3) {
    score["relate"] <- max(score) + 2
  }
  # "do the two scales give the same weight"
  if (says(state, "^ *(do|does|did|are|is|were|was)\\b.*\\b(two|both)\\b.*\\b(the same|alike|equal|identical)\\b") && !length(state$groups)) {
    score["compare"] <- score["compare"] + 1.5
  }
  # "regress gas on temperature separately before and after"
  if (says(state, "^ *(please )?(regress|fit|model)\\b") && length(mentions) >= 2) score["predict"] <- max(score) + 2
  # "which test to compare A between B and C"
  if (says(state, "^ *(so |and )?(which|what) (statistical )?(test|analysis|method|procedure)\\b")) score["advise"] <- max(score) + 2
  # "satisfaction over the waves", of a column of dates
  dated <- Filter(function(k) kind_at(state, item_column(state, k, c("date", "datetime"))) %in% c("date", "datetime") &&
    grepl("^(over|across|through|throughout)$", item_norm(state, k - 1 - (item_norm(state, k - 1) %in% c("the",
        "all")))), which(state$type == "column"))
  if (length(dated) && measured && max(score) < 1.5) score["trend"] <- max(score) + 1.5
  # "do promotions lift revenue": whatever the verb, it asks whether the two go together
  verb <- which(state$type == "unknown" & !state$used)
  if (length(verb) == 1 && length(mentions) + length(state$groups) == 2 && length(mentions) && max(score) < 0.6 && says(state,
      "^ *(do|does|did|can|will|would)\\b")) {
    at <- c(vapply(mentions, `[[`, 1L, "at"), unlist(lapply(state$groups, function(g) max(g$at))))
    if (any(at < verb) && any(at > verb)) score["compare"] <- 1.5
  }
  # "how strongly does temperature drive sales": two columns, of which one acts on the other
  drives <- "\\b(do|does|did|is|are)\\b.*\\b(drives?|driven by|drove)\\b"
  if (score["drivers"] > 0 && length(mentions) == 2 && says(state, drives) && !says(state, "^ *(what|which)\\b")) {
    score["relate"] <- max(score) + 1
    score["drivers"] <- 0
  }
  # "does the effect of X on Y depend on Z": an interaction
  if (asks_for_moderation(state) && length(mentions) + length(state$groups) >= 3) score["predict"] <- score["predict"] + 2
  # "does the effect of method depend on gender", on what is left open
  sides <- length(mentions) + length(unique(vapply(Filter(function(g) !g$negated && !isTRUE(g$numeric), state$groups), `[[`, 1L, "column")))
  if ((asks_for_moderation(state) || effect_depends(state)) && sides == 2 && all(kinds %in% c("category", "yes_no")) &&
      !length(state$filters)) score["compare"] <- max(score) + 2
  # "does the effect of nitrogen differ between varieties": the same of a measured column
  if (effect_depends(state) && length(mentions) == 2 && sum(kinds %in% c("number", "count")) == 1 && kinds[1] %in% c("number", "count") &&
      !length(state$groups) && !says(state, "\\beffects? of\\b[^?]*\\bon\\b")) score["predict"] <- max(score) + 2
  # "interaction of wool and tension on breaks"
  levels <- sum(kinds %in% c("category", "yes_no", "ordered"))
  if (any(vapply(state$items, has_lex, NA, "scope", "interaction")) && levels >= 2 && sum(kinds %in% c("number", "count")) == 1 &&
      score["predict"] < 0.5) score["compare"] <- score["compare"] + 1.4
  # "interaction of nitrogen and phosphate": on what is left open
  few <- sum(vapply(mentions, function(m) can_group(state, m$column), NA))
  if (any(vapply(state$items, has_lex, NA, "scope", "interaction")) && few >= 2 && few == length(mentions) && score["predict"] < 1) {
    score["compare"] <- max(score) + 1
  }
  # "is there a variety by nitrogen interaction for yield", where not both take levels
  if (any(vapply(state$items, has_lex, NA, "scope", "interaction")) && length(mentions) == 3 && levels < 2 && score["predict"] < 0.5 &&
      score["compare"] < 1) {
    score["predict"] <- score["predict"] + 1.6
  }
  # "how many values are missing": a matter of quality, not of levels
  if (says(state, "\\b(are|is|were|was) (missing|blank|empty)\\b|missing (values|entries)") && score["frequency"] > 0.5) {
    score["quality"] <- score["quality"] + 1.5
  }
  # "are claim numbers unique", "does any claim_no occur more than once"
  if (says(state, "\\b(are|is)\\b.*\\bunique\\b|\\boccurs?\\b.*\\b(twice|more than once)\\b|\\bmore than once\\b") && any(state$type == "column")) {
    score["quality"] <- max(score) + 2
  }
  # "the average excluding missing": what is done anyway
  if (says(state, "\\b(excluding|ignoring|without|omitting|dropping|leaving out|not counting|exclude|ignore)( the| any)? (missing|blank|empty)") &&
      length(asked_statistics(state))) score["quality"] <- 0
  if (says(state, "\\bmissing\\b|\\bblanks?\\b|\\bempty\\b") &&
      score["quality"] > 0.5) score["quality"] <- score["quality"] + 0.6
  if (says(state, paste0("^ *(do|does|did|are|is|were|was|have|has)\\b.*\\b(more|less|fewer|longer|shorter|higher|lower|older|younger|",
      "heavier|lighter|better|worse|faster|slower|bigger|smaller|larger|greater|taller|richer|poorer)\\b")) && any(kinds == "yes_no") &&
    any(kinds %in% c("number", "count")) && length(mentions) == 2) {
    score["compare"] <- score["compare"] + 1
  }
  if (says(state, "\\b(more|less|equally) (variable|varied|spread)|vary (more|less)|variances (of|between|differ)|variance (between|differ)")) {
    score["compare"] <- score["compare"] + 0.9
  }
  # "which is the better predictor of volume, girth or height"
  if (length(mentions) >= 3 && says(state, "\\b(better|best|stronger|strongest) predictors?\\b")) {
    score["drivers"] <- max(score) + 2
  }
  # "when does the concentration peak", of a course in time
  if (says(state, "^ *when\\b.*\\b(peak|peaks|peaked|highest|lowest|most|least|maximum|minimum|greatest)\\b") && measured &&
      length(time_columns(state))) score["trend"] <- max(score) + 2
  # "steepest climb": a superlative that is no column's adjective, right before one
  at <- vapply(mentions, `[[`, 1L, "at")
  if (length(mentions) && measured && any(vapply(at, function(k) state$type[max(1, k - 1)] == "unknown" && grepl("^[a-z]{3,}est$", item_norm(state,
      k - 1)),
    NA)) && max(score) < 1) score["rank"] <- 1.5
  # "which measurement differs most between the species"
  if (length(mentions) == 1 &&
      says(state, paste0("^ *(which|what) (measurements?|variables?|columns?|factors?|features?|indicators?|measures?|characteristics?) ",
      "(differs?|var(y|ies)|separates?|distinguish(es)?)\\b.*\\b(most|best|strongest|least)?\\b"))) {
    score["drivers"] <- max(score) + 2
  }
  # "trend in cases over tobacco", of a column of ordered levels
  if (length(mentions) == 2 && any(kinds == "ordered") && any(kinds %in% c("number", "count")) && !has_dates(state) &&
      says(state, "\\btrends? (in|of)\\b.*\\b(over|across|with|by)\\b")) score["relate"] <- max(score) + 1
  # "how does uptake change with concentration": the second of two measures, not time, is what it moves with
  if (length(mentions) == 2 && all(kinds %in% c("number", "count")) && !length(state$groups) && mentions[[2]]$marker == "with" &&
      says(state, "\\b(chang|var(y|ies)|ris|fall|grow|increas|decreas|drop|declin)\\w* (much )?with\\b") &&
      !says(state, "\\b(over time|per (day|week|month|quarter|year)|(dai|week|month|quarter|year)ly)\\b")) score["relate"] <- max(score) + 1
  # "probability of converting for returning visitors": a share, where no values are stated
  if (says(state, "^ *(what (is|was) )?(the )?(probability|chance|likelihood) (of|that)\\b") && any(kinds == "yes_no") &&
      !any(vapply(state$groups, function(g) isTRUE(g$numeric), NA)) && length(mentions) == 1 && length(state$filters) + length(state$groups) > 0) {
    score["frequency"] <- max(score) + 2
  }
  # "death rate by ecog": the share of the rows at a level named before "rate"
  rated <- any(vapply(state$groups, function(g) !isTRUE(g$numeric) && grepl("^rates?$", item_norm(state, max(g$at) + 1)), NA))
  apart <- !any(vapply(mentions, function(m) m$marker != "by" && can_measure(state, m$column), NA))
  if (rated && apart && max(score[c("compare", "relate", "predict", "rank", "trend", "survival")]) < 1) score["frequency"] <- max(score) + 1.2
  # "do smokers exercise less": who comes first, and a column of levels of which they are to have less
  if (!measured && length(mentions) == 1 && kinds[1] %in% c("category", "ordered", "yes_no") && any(vapply(state$groups, function(g)
    !g$negated && g$column != mentions[[1]]$column, NA)) && score["compare"] < 1.5 &&
      says(state, "^ *(do|does|did|are|is|were|was)\\b.*\\b(more|less|better|worse)\\b *[?.!]*$")) {
    score["relate"] <- max(score) + 1
  }
  if (length(counted)) score["frequency"] <- score["frequency"] + 1.2
  # "what do people want improved", of a column of open answers
  open <- length(mentions) == 1 && kinds[1] == "text" || length(mentions) == 2 && sum(kinds == "text") == 1 && any(kinds %in% c("category", "ordered",
    "yes_no"))
  if (open && is.null(single_method(state)) && says(state, "^ *(what|why|which|how) (do|did|does|would|are|is)\\b|\\bthemes?\\b|\\bcomments?\\b|\\b(say|said|saying|mention)")) {  # nolint: line_length_linter.
    score["themes"] <- max(score) + 1.5
  }
  if (asks_for_quotes(state)) score["themes"] <- max(score) + 3
  # "which items correlate with satisfaction most", "what is satisfaction related to"
  # "correlate everything with murder"
  all <- says(state, "\\b(everything|(all|each|every)( of the)?( other)? (variables?|columns?|measures?|factors?|things?))\\b")
  if (score["relate"] > 0 && length(mentions) == 1 && !length(state$groups) && (any(norms %in% c("which", "what")) || all)) {
    score["drivers"] <- score["relate"] + 0.2
  }
  # "no shows per clinic": how many of them there are
  if (length(mentions) == 2 && identical(kinds[1], "yes_no") && kinds[2] %in% c("category", "ordered", "id") && mentions[[2]]$marker == "by" &&
      says(state, "^ *(the |number of |count of )*[\\w-]+( \\w+)? per \\w+ *[?.!]*$")) score["frequency"] <- max(score) + 1
  # "are older keepers more satisfied": two scales that go together
  adjectives <- sum(vapply(mentions, function(m) m$adjective, NA))
  comparative <- any(norms %in% c("more", "less")) || any(grepl("[a-z]er$", norms[state$type == "adjective"]))
  if (length(mentions) == 2 && adjectives >= 1 && comparative && !any(norms == "than") &&
      !length(state$groups)) score["relate"] <- score["relate"] + 1
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
  found <- regmatches(text, regexec(sprintf("(?:^ *[a-z]+est|\\b(?:which|what|the [a-z]+est|best|worst|busiest|quietest|peak)) (%s)\\b", periods), text))[[1]]  # nolint: line_length_linter.
  if (!length(found) || !grepl(most, text)) return(NULL)
  every <- if (grepl("hour", found[2])) "hour" else if (grepl("day", found[2])) "weekday" else found[2]
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
                     ")[a-z]* (19|20)[0-9]{2} (to|and|until|till|through) ")) && has_dates(state)
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
  found <- regmatches(state$text, regexpr(words, state$text, ignore.case = TRUE))
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
  if (length(dated) || !says(state, paste0("^ *when\\b|\\b(over time|with time|over the (days|weeks|months|visits|periods|waves)|time ",
      "course|growth|develop\\w*|trajector\\w*)\\b"))) return(dated)
  lasts <- paste0("^(time|days?|weeks?|months?|hours?|minutes?|visit|wave|round|period|session)",
                  "([_. ](n|no|nr|number|h|hr|hrs|hours|min|mins|minutes|s|sec|secs|days|weeks|months))?$")
  columns$name[columns$kind %in% c("number", "count") & grepl(lasts, tolower(columns$name))]
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
  } else if (nothing && several) score["compare"] <- 0.5
  else if (nothing && length(c(state$filters, state$groups))) {
    # "how fast do chicks grow on diet 4" asks for no rows: what is measured is left open
    score[if (says(state, "^ *(how|why|do|does|did|is|are|was|were|can|could|will|would)\\b")) "describe" else "look_up"] <- 0.6
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
