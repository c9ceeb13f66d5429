#' @noRd
method_t_student <- function() {
  new_method(
    id = "t_student", name = "Student two-sample t test", tasks = "compare",
    fits = function(shape) fits_two_groups(shape, 60, "You asked for Student's t test, which assumes equal spreads."),
    compute = function(ctx) t_two_groups(ctx, function(a, b) t_student_from_moments(a, b, ctx$conf_level,
        ctx$alternative)),
    checks = function(ctx, res) two_group_checks(ctx, res, pools = TRUE),
    second = c("t_welch", "mann_whitney", "permutation_means"),
    figure = two_group_figure,
    sentences = function(ctx, res) say_t_two_groups(ctx, res, "Student's t test (equal variances)"),
    script = function(ctx, res) c(script_two_groups(ctx), script_t_test(ctx, "TRUE"), script_standardised(ctx),
                                  script_groups(ctx)),
    references = "Student (1908). The probable error of a mean. Biometrika, 6, 1-25.",
    next_steps = next_two_groups)
}
