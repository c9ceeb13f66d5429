#' @noRd
method_trimmed_t <- function() {
  new_method(
    id = "trimmed_t", name = "Trimmed t test (Yuen, 20 % cut from each end)", tasks = "compare",
    fits = function(shape) fits_two_groups(shape, 40, "You asked for a trimmed test, which far values cannot pull."),
    compute = function(ctx) {
      s <- two_groups(ctx)
      out <- stat_t_trimmed(s$values[[1]], s$values[[2]], trim_share(ctx), ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "t", sprintf("difference in %s trimmed means, %s minus %s", say_percent(trim_share(ctx), 0), s$levels[1], s$levels[2]),  # nolint: line_length_linter.
                            ctx$conf_level), effect_numbers(out, list(robust_d = "standardised difference of the trimmed means"))), tables = list(groups_table(ctx)),  # nolint: line_length_linter.
             levels = s$levels, values = s$values, means = c(out$trimmed_a, out$trimmed_b))
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_far_values(res$values, res$levels)),
    second = c("t_welch", "mann_whitney"),
    figure = two_group_figure,
    sentences = function(ctx, res) {
      n <- res$number
      write_up <- sprintf(paste0("%s trimmed means of %s were compared between %s (%s) and %s (%s) with ",
                                 "Yuen's test: t(%s) = %s, %s, difference %s, %s.%s"),
                                 if (trim_share(ctx) == 0.2) "Twenty per cent" else say_percent(trim_share(ctx), 0), say_column(outcome_column(ctx)),
        res$levels[1], say_number(res$means[1]), res$levels[2], say_number(res$means[2]), say_number(n$df),
        say_number(n$statistic, 2), say_p(n$p_value), say_number(n$estimate),
        say_interval(n$ci_low, n$ci_high, ctx$conf_level), write_rows(ctx))
      say_two_groups(ctx, res, list(measure = "trimmed mean", values = res$means, details = character(),
                                    write_up = write_up))
    },
    script = function(ctx, res) c(script_two_groups(ctx), script_trimmed(ctx), script_groups(ctx)),
    references = c("Yuen, K. K. (1974). The two-sample trimmed t for unequal population variances. Biometrika, 61, 165-170.",
                   paste0("Algina, J., Keselman, H. J., & Penfield, R. D. (2005). An alternative to Cohen's standardized mean difference effect size. ",  # nolint: line_length_linter.
                          "Psychological Methods, 10, 317-328.")),
    next_steps = next_two_groups)
}

#' Share cut from each end: a fifth, or what the question says
#' @noRd
trim_share <- function(ctx) (ctx$reading$extra$trim %||% 20L) / 100

script_trimmed <- function(ctx) {
  c(sprintf("trim <- %s", format(trim_share(ctx))),
    "parts <- function(v) {", "  v <- sort(v); n <- length(v); g <- floor(trim * n); h <- n - 2 * g",
    "  wins <- pmin(pmax(v, v[g + 1]), v[n - g])",
    "  list(mean = mean(v, trim = trim), h = h, d = (n - 1) * var(wins) / (h * (h - 1)))", "}",
    "a <- parts(x); b <- parts(y)", "se <- sqrt(a$d + b$d)",
    "df <- (a$d + b$d)^2 / (a$d^2 / (a$h - 1) + b$d^2 / (b$h - 1))",
    "estimate <- a$mean - b$mean", "t <- estimate / se",
    switch(ctx$alternative,
      two_sided = c("p <- 2 * pt(-abs(t), df)",
                    "limits <- estimate + c(-1, 1) * qt(1 - (1 - conf_level) / 2, df) * se"),
      greater = c("p <- pt(t, df, lower.tail = FALSE)", "limits <- c(estimate - qt(conf_level, df) * se, Inf)"),
      less = c("p <- pt(t, df)", "limits <- c(-Inf, estimate + qt(conf_level, df) * se)")),
    "numbers <- list(statistic = t, df = df, p_value = p, estimate = estimate, se = se, ci_low = limits[1], ci_high = limits[2],",
    "  conf_level = conf_level, n = length(x) + length(y))",
    "# standardised difference: winsorised spread, scaled to the standard deviation of normal values",
    "squares <- a$d * a$h * (a$h - 1) + b$d * b$h * (b$h - 1); free <- length(x) + length(y) - 2; left <- a$h + b$h - 2",
    "if (squares > 0 && left >= 1) {",
    "  inside <- function(u) u^2 * dnorm(u); z <- -qnorm(trim)",
    "  scale <- if (trim > 0) sqrt(integrate(inside, -z, z, rel.tol = 1e-13)$value + 2 * trim * z^2) else 1",
    "  d <- scale * estimate / sqrt(squares / free); by <- sqrt(left / free * a$h * b$h / (a$h + b$h)) / scale",
    paste0("  ", script_noncentral_t("d * by", "left")),
    "  numbers <- c(numbers, list(robust_d = d, robust_d_low = limits_t[1] / by, robust_d_high = limits_t[2] / by))", "}")
}
