#' @noRd
method_partial_correlation <- function() {
  new_method(
    id = "partial_correlation", name = "Partial correlation", tasks = "relate",
    fits = function(shape) {
      ok <- shape$task %in% c("relate", "advise") && length(shape$pair_kinds) == 2 && length(shape$adjust) &&
        all(shape$pair_kinds %in% c("number", "count", "ordered"))
      if (ok) new_fit(90, "Two measured columns are related with others held constant.")
    },
    compute = function(ctx) {
      p <- pair_values(ctx)
      held <- model_columns(list(reading = list(adjust_for = ctx$reading$adjust_for), frame = ctx$frame,
                                 columns = ctx$columns))
      out <- stat_partial_correlation(p$x, p$y, stat_model_matrix(held)$x, ctx$conf_level, ctx$alternative)
      plain <- stat_pearson(p$x, p$y, ctx$conf_level)
      result(c(test_numbers(out, "t", "partial correlation", ctx$conf_level),
               list(new_number("r", "partial r", out$estimate),
                    new_number("r_plain", "r without holding anything constant", plain$estimate))),
             tables = list(correlation_table(p$names, out)), names = p$names, held = names(held), x = p$x, y = p$y)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) figure_scatter(ctx, res$names[1], res$names[2]),
    sentences = function(ctx, res) {
      n <- res$number
      a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
      held <- some_of(vapply(ctx$columns[res$held], say_column, ""), 5)
      interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      headline <- sprintf("With %s held constant, %s between %s and %s: partial r = %s (%s), %s.", held,
                          if (clear) sprintf("there is a %s relation",
                                             if (n$estimate > 0) "positive" else "negative") else "there is no clear relation",
                          a, b, say_unit(n$estimate), interval, say_p(n$p_value))
      list(headline = headline, details = c(sprintf("Without holding anything constant r is %s.", say_unit(n$r_plain)),
                                            say_rows(ctx)),
           write_up = sprintf("The partial correlation of %s and %s, with %s held constant, was r(%s) = %s, %s, %s.%s",
                              a, b, held, say_df(n$df),
                              say_unit(n$estimate), interval, say_p(n$p_value), write_rows(ctx)))
    },
    script = script_partial,
    references = paste0("Yule, G. U. (1907). On the theory of correlation for any number of variables, treated by a ",
                        "new system of notation. Proceedings of the Royal Society A, 79, 182-193."),
    next_steps = function(ctx, res) sprintf("What is the correlation between %s and %s?", res$names[1], res$names[2]))
}

script_partial <- function(ctx, res) {
  held <- vapply(res$held, function(name) {
    kind <- ctx$columns[[name]]$kind
    if (kind == "ordered") script_value(name) else if (is_level_kind(kind)) sprintf("droplevels(factor(%s))",
        script_column(name))
    else sprintf("as.numeric(%s)", script_column(name))
  }, "")
  inner <- sprintf("h%d", seq_along(held))
  c(script_pair(res), sprintf("%s <- %s", inner, held), sprintf("held <- y ~ %s", paste(inner, collapse = " + ")),
    "ry <- resid(lm(held)); rx <- resid(lm(update(held, x ~ .))); lost <- lm(held)$rank - 1",
    "n <- length(x); r <- cor(rx, ry); df <- n - 2 - lost; t <- r * sqrt(df / (1 - r^2))",
    switch(ctx$alternative, two_sided = "p <- 2 * pt(-abs(t), df)", greater = "p <- pt(t, df, lower.tail = FALSE)",
           less = "p <- pt(t, df)"),
    paste0("numbers <- list(statistic = t, df = df, p_value = p, estimate = r, conf_level = conf_level, n = n, r = r, ",
           "r_plain = cor(x, y))"),
    script_fisher_z(ctx, "r", "1 / sqrt(n - lost - 3)", "n - lost > 3"),
    script_correlations())
}
