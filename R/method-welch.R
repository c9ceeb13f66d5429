#' @noRd
method_t_welch <- function() {
  new_method(
    id = "t_welch", name = "Welch two-sample t test", tasks = "compare", families = "t_test",
    fits = function(shape) fits_two_groups(shape, 90,
                                           paste0("The outcome is a number and two separate groups are compared; ",
                                                  "Welch's test does not assume equal spreads.")),
    compute = function(ctx) t_two_groups(ctx, function(a, b) t_welch_from_moments(a, b, ctx$conf_level,
        ctx$alternative)),
    checks = function(ctx, res) two_group_checks(ctx, res),
    second = c("mann_whitney", "permutation_means", "trimmed_t"),
    figure = two_group_figure,
    sentences = function(ctx, res) say_t_two_groups(ctx, res, "Welch's t test"),
    script = function(ctx, res) c(script_two_groups(ctx), script_t_test(ctx, "FALSE"), script_standardised(ctx),
                                  script_groups(ctx)),
    references = c(paste0("Welch, B. L. (1947). The generalization of 'Student's' problem when several different ",
                          "population variances are involved. Biometrika, 34, 28-35."),
                   paste0("Hedges, L. V. (1981). Distribution theory for Glass's estimator of effect size. Journal of ",
                          "Educational Statistics, 6, 107-128.")),
    next_steps = next_two_groups)
}

script_t_test <- function(ctx, equal) {
  c(sprintf("test <- t.test(x, y, var.equal = %s, conf.level = conf_level, alternative = %s)", equal,
            script_alternative(ctx)),
    "numbers <- list(statistic = test$statistic, df = test$parameter, p_value = test$p.value, estimate = mean(x) - mean(y),",
    paste0("  se = test$stderr, ci_low = test$conf.int[1], ci_high = test$conf.int[2], conf_level = conf_level, n = ",
           "length(x) + length(y))"))
}
