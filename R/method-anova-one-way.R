#' @noRd
method_anova_one_way <- function() {
  new_method(
    id = "anova_one_way", name = "One-way analysis of variance", tasks = "compare", families = "anova",
    fits = function(shape) fits_several_groups(shape, 60,
                                               "You asked for the classic analysis of variance, which assumes equal spreads.",
                                               fewest = 2L),
    compute = compute_anova_one_way,
    checks = function(ctx, res) several_group_checks(ctx, res, pools = TRUE),
    second = c("anova_welch", "kruskal_wallis"),
    figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]),
    sentences = say_anova_one_way, script = script_anova_one_way,
    references = c("Fisher, R. A. (1925). Statistical Methods for Research Workers. Oliver & Boyd.",
                   paste0("Kramer, C. Y. (1956). Extension of multiple range tests to group means with unequal ",
                          "numbers of replications. Biometrics, 12, 307-310."),
                   "Steiger, J. H. (2004). Beyond the F test. Psychological Methods, 9, 164-182."),
    next_steps = next_several_groups)
}

compute_anova_one_way <- function(ctx) {
  s <- several_groups(ctx)
  out <- stat_anova_one_way(s$moments, ctx$conf_level)
  pairs <- pairs_table(stat_pairs(s$moments, TRUE, ctx$conf_level), s$levels, "Pairs of groups (Tukey-Kramer)")
  anova <- data.frame(term = c(ctx$reading$by[1], "residuals"), df = c(out$df1, out$df2),
                      sum_sq = c(out$ss_between, out$ss_within),
                      mean_sq = c(out$ss_between / out$df1, out$ss_within / out$df2), statistic = c(out$statistic, NA),
                      p_value = c(out$p_value, NA), stringsAsFactors = FALSE)
  result(c(test_numbers(out, "F", "", ctx$conf_level),
           effect_numbers(out, list(eta_squared = "eta squared", omega_squared = "omega squared")),
           list(new_number("sigma", "residual standard deviation", out$sigma))),
         tables = compact(list(groups_table(ctx), pairs, new_table("anova", "Analysis of variance", anova))),
         levels = s$levels,
         values = s$values, moments = s$moments, pairs = pairs, direction = NA_real_)
}

say_anova_one_way <- function(ctx, res) {
  n <- res$number
  alpha <- 1 - ctx$conf_level
  interval <- say_interval(n$eta_squared_low, n$eta_squared_high, ctx$conf_level, say_unit)
  size <- sprintf("The groups account for %s of the spread (eta squared %s, %s): %s.", say_percent(n$eta_squared, 0),
                  say_unit(n$eta_squared), interval, say_size(n$eta_squared, "eta"))
  list(headline = say_several_groups(ctx, res, list(measure = "means", values = res$moments[, "mean"])),
       details = c(size, say_pairs(res$pairs, alpha, outcome_column(ctx)$unit), say_rows(ctx)),
       write_up = sprintf("%s was compared between groups (%s): F(%s, %s) = %s, %s, eta squared = %s, %s. %s%s",
                          capital(say_column(outcome_column(ctx))), write_groups(res), say_df(n$df1), say_df(n$df2),
                          say_number(n$statistic, 2), say_p(n$p_value), say_unit(n$eta_squared), interval,
                          say_pairs(res$pairs, alpha, outcome_column(ctx)$unit), write_rows(ctx)))
}

script_anova_one_way <- function(ctx, res) {
  c(script_several_groups(ctx), "fit <- anova(lm(y ~ g)); f <- fit$`F value`[1]; ss <- fit$`Sum Sq`; df <- fit$Df",
    paste0("tables$anova <- data.frame(df = df, sum_sq = ss, mean_sq = fit$`Mean Sq`, statistic = fit$`F value`, ",
           "p_value = fit$`Pr(>F)`)"),
    "numbers <- list(statistic = f, df1 = df[1], df2 = df[2], p_value = fit$`Pr(>F)`[1], conf_level = conf_level, n = length(y),",
    "  eta_squared = ss[1] / sum(ss),",
    "  omega_squared = max(0, (ss[1] - df[1] * ss[2] / df[2]) / (sum(ss) + ss[2] / df[2])), sigma = sqrt(ss[2] / df[2]))",
    script_share_limits(c("eta_squared", "omega_squared")),
    script_pairs(TRUE), script_groups(ctx))
}
