#' @noRd
method_anova_welch <- function() {
  new_method(
    id = "anova_welch", name = "Welch analysis of variance", tasks = "compare",
    fits = function(shape) fits_several_groups(shape, 90,
                                               paste("The outcome is a number and more than two separate groups are compared;",
                                                                "Welch's analysis does not assume equal spreads.")),
    compute = compute_anova_welch,
    checks = function(ctx, res) several_group_checks(ctx, res),
    second = c("anova_one_way", "kruskal_wallis"),
    figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]),
    sentences = say_anova_welch,
    script = function(ctx, res) c(script_several_groups(ctx), "test <- oneway.test(y ~ g)", "f <- test$statistic[[1]]",
      "df <- unname(test$parameter)",
      "numbers <- list(statistic = f, df1 = df[1], df2 = df[2], p_value = test$p.value, conf_level = conf_level, n = length(y),",
      "  omega_squared = max(0, df[1] * (f - 1) / (df[1] * (f - 1) + length(y))))", script_share_limits("omega_squared", rows = "length(y)"),
          script_pairs(FALSE),
      script_groups(ctx)),
    references = c(paste0("Welch, B. L. (1951). On the comparison of several mean values: an alternative approach. ",
                          "Biometrika, 38, 330-336."),
                   "Steiger, J. H. (2004). Beyond the F test. Psychological Methods, 9, 164-182.",
                   paste0("Games, P. A., & Howell, J. F. (1976). Pairwise multiple comparison procedures with unequal ",
                          "n's and/or variances. Journal of Educational Statistics, 1, 113-125.")),
    next_steps = next_several_groups)
}

compute_anova_welch <- function(ctx) {
  s <- several_groups(ctx)
  out <- stat_anova_welch(s$moments)
  pairs <- pairs_table(stat_pairs(s$moments, FALSE, ctx$conf_level), s$levels, "Pairs of groups (Games-Howell)")
  result(c(test_numbers(out, "F", "", ctx$conf_level), list(new_number("omega_squared", "omega squared",
      out$omega_squared)), limit_numbers("omega_squared", "omega squared", stat_share_limits(out$statistic, out$df1, out$df2, ctx$conf_level,
          rows = out$n))),
         tables = compact(list(groups_table(ctx), pairs)), levels = s$levels, values = s$values, moments = s$moments,
         pairs = pairs, direction = NA_real_)
}

say_anova_welch <- function(ctx, res) {
  n <- res$number
  alpha <- 1 - ctx$conf_level
  size <- sprintf("The groups account for about %s of the spread (omega squared %s%s): %s.",
                  say_percent(n$omega_squared, 0),
                  say_unit(n$omega_squared), say_effect_limits(n, "omega_squared", ctx$conf_level), say_size(n$omega_squared, "eta"))
  test <- sprintf("Welch's F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2),
                  say_p(n$p_value))
  list(headline = say_several_groups(ctx, res, list(measure = "means", values = res$moments[, "mean"])),
       details = c(size, say_pairs(res$pairs, alpha, outcome_column(ctx)$unit), say_rows(ctx)),
       write_up = sprintf("%s was compared between groups (%s): %s, omega squared = %s%s. %s%s",
                          capital(say_column(outcome_column(ctx))),
                          write_groups(res), test, say_unit(n$omega_squared), say_effect_limits(n, "omega_squared", ctx$conf_level),
                          say_pairs(res$pairs, alpha, outcome_column(ctx)$unit), write_rows(ctx)))
}
