#' @noRd
method_kruskal_wallis <- function() {
  new_method(
    id = "kruskal_wallis", name = "Kruskal-Wallis test", tasks = "compare", families = "rank_test",
    fits = function(shape) {
      ordered <- identical(shape$outcome_kind, "ordered")
      fits_several_groups(shape, if (ordered || shape$statistic == "median") 95 else 50, if (ordered)
        "The outcome is an ordered answer and more than two separate groups are compared, so ranks are used first."
        else "You asked for a rank test of several groups.", kinds = c("number", "count", "ordered"))
    },
    compute = compute_kruskal_wallis,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_same_shape(res$values, res$levels)),
    second = c("anova_welch"),
    figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]),
    sentences = say_kruskal_wallis, script = script_kruskal_wallis,
    references = c(paste0("Kruskal, W. H., & Wallis, W. A. (1952). Use of ranks in one-criterion variance analysis. ",
                          "Journal of the American Statistical Association, 47, 583-621."),
                   "Smithson, M. (2003). Confidence Intervals. Sage.",
                       "Dunn, O. J. (1964). Multiple comparisons using rank sums. Technometrics, 6, 241-252."),
    next_steps = function(ctx, res) utils::tail(next_several_groups(ctx, res), 2))
}

compute_kruskal_wallis <- function(ctx) {
  s <- several_groups(ctx)
  out <- stat_kruskal_wallis(s$y, s$code, length(s$levels))
  pairs <- pairs_table(out$pairs, s$levels, "Pairs of groups (Dunn, Holm), differences of mean ranks")
  result(c(test_numbers(out[setdiff(names(out), "pairs")], "H", "", ctx$conf_level),
           list(new_number("epsilon_squared", "epsilon squared", out$epsilon_squared)),
           limit_numbers("epsilon_squared", "epsilon squared", stat_chi_share_limits(out$statistic, out$df, out$n - 1, ctx$conf_level))),
         tables = compact(list(groups_table(ctx), pairs)), levels = s$levels, values = s$values, pairs = pairs,
         medians = vapply(s$values, function(v) stat_group_quantiles(v, probs = 0.5)[1], 1), ranks = out$mean_ranks,
         direction = NA_real_)
}

say_kruskal_wallis <- function(ctx, res) {
  n <- res$number
  alpha <- 1 - ctx$conf_level
  unit <- outcome_column(ctx)$unit
  tied <- length(unique(res$medians)) < length(res$medians)
  how <- if (tied) list(measure = "mean ranks", values = res$ranks) else list(measure = "medians", values = res$medians)
  headline <- say_several_groups(if (tied) without_unit(ctx) else ctx, res, how)
  size <- sprintf("The groups account for %s of the spread of the ranks (epsilon squared %s%s): %s.",
                  say_percent(n$epsilon_squared, 0), say_unit(n$epsilon_squared), say_effect_limits(n, "epsilon_squared", ctx$conf_level),
                      say_size(n$epsilon_squared, "eta"))
  medians <- paste(sprintf("%s: Mdn = %s, n = %s", res$levels, with_unit(say_alike(res$medians), unit),
                           lengths(res$values)),
                   collapse = "; ")
  list(headline = headline, details = c(size, say_pairs(res$pairs, alpha, what = "mean ranks apart by"), say_rows(ctx)),
       write_up = sprintf(paste0("%s was compared between groups (%s) with the Kruskal-Wallis test: H(%s) = %s, %s, ",
                                 "epsilon squared = %s%s.%s"),
                          capital(say_column(outcome_column(ctx))), medians, say_df(n$df), say_number(n$statistic, 2),
                          say_p(n$p_value), say_unit(n$epsilon_squared), say_effect_limits(n, "epsilon_squared", ctx$conf_level), write_rows(ctx)))
}

#' The context with the outcome's unit left out, for numbers that have none
#' @noRd
without_unit <- function(ctx) {
  ctx$columns[[outcome_name(ctx)]]$unit <- NULL
  ctx
}

script_kruskal_wallis <- function(ctx, res) {
  c(script_several_groups(ctx), "test <- kruskal.test(y, g); h <- test$statistic[[1]]; n <- length(y)",
    "numbers <- list(statistic = h, df = test$parameter[[1]], p_value = test$p.value, conf_level = conf_level, n = n,",
    "  epsilon_squared = h / (n - 1))", script_chi_share_limits("epsilon_squared", "h", "numbers$df", "n - 1"),
        "# pairs by Dunn's test, adjusted by Holm",
    "ranks <- rank(y); mean_rank <- as.vector(tapply(ranks, g, mean)); ties <- sum(table(y)^3 - table(y))",
    "spread <- (n * (n + 1) - ties / (n - 1)) / 12; pair <- combn(k, 2); a <- pair[1, ]; b <- pair[2, ]",
    "difference <- mean_rank[a] - mean_rank[b]; p <- 2 * pnorm(-abs(difference / sqrt(spread * (1 / size[a] + 1 / size[b]))))",
    "if (k <= 30) tables$pairs <- data.frame(estimate = difference, p_value = p, p_adjusted = p.adjust(p, \"holm\"))",
    script_groups(ctx))
}
