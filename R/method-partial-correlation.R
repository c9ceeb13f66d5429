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
      if (isTRUE(ctx$reading$extra$semi)) return(compute_semipartial(ctx, p, held, out, plain))
      result(c(test_numbers(out, "t", "partial correlation", ctx$conf_level),
               list(new_number("r", "partial r", out$estimate)), own_limits("r", "partial r", out),
               list(new_number("r_plain", "r without holding anything constant", plain$estimate))),
             tables = list(correlation_table(p$names, out)), names = p$names, held = names(held), x = p$x, y = p$y)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = "partial_ranks", figure = function(ctx, res) figure_scatter(ctx, res$names[1], res$names[2]),
    sentences = function(ctx, res) {
      if (!is.null(res$semi)) return(say_semipartial(ctx, res))
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

#' Semi-partial correlation: what is held constant is taken out of one of the two columns only
#'
#' The test is that of the partial correlation, since it asks the same of a model: does the column add anything?
#' @section Source: Cohen, J., Cohen, P., West, S. G. and Aiken, L. S. (2003). Applied Multiple Regression/Correlation Analysis (3rd ed.), 3.3.
#' @noRd
compute_semipartial <- function(ctx, p, held, out, plain) {
  x <- stat_model_matrix(held)$x
  free <- function(v) stat_least_squares(x, v)$residuals
  semi <- c(stats::cor(p$x, free(p$y)), stats::cor(free(p$x), p$y))
  result(list(new_number("statistic", "t", out$statistic), new_number("df", "degrees of freedom", out$df), new_number("p_value", "p", out$p_value),
              new_number("estimate", sprintf("semi-partial correlation, the rest taken out of %s", p$names[2]), semi[1]),
              new_number("other_way", sprintf("with the rest taken out of %s instead", p$names[1]), semi[2]),
              new_number("r", "partial r", out$estimate), new_number("r_plain", "r without holding anything constant", plain$estimate),
              new_number("n", "rows used", out$n), new_number("conf_level", "confidence level", ctx$conf_level)),
         tables = list(), names = p$names, held = names(held), x = p$x, y = p$y, semi = semi)
}

say_semipartial <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  held <- some_of(vapply(ctx$columns[res$held], say_column, ""), 5)
  text <- sprintf("With %s taken out of %s, its correlation with %s is %s (semi-partial r), %s.", held, b, a, say_unit(n$estimate), say_p(n$p_value))
  list(headline = text, details = c(sprintf("Its square, %s, is the share of the spread of %s that %s adds to what %s explains.",
                                            say_percent(n$estimate^2), a, b, held),
                                    sprintf("With %s taken out of %s instead it is %s; out of both (partial r) %s; out of neither %s.", held, a,
                                            say_unit(n$other_way), say_unit(n$r), say_unit(n$r_plain)), say_rows(ctx)), write_up = text)
}

script_partial <- function(ctx, res) {
  held <- vapply(res$held, function(name) {
    kind <- ctx$columns[[name]]$kind
    if (kind == "ordered") script_value(name) else if (is_level_kind(kind) || kind %in% c("id", "text")) sprintf("droplevels(factor(%s))",
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
    if (is.null(res$semi)) c(script_fisher_z(ctx, "r", "1 / sqrt(n - lost - 3)", "n - lost > 3"), script_own_limits("r"), script_correlations())
    else c("tables <- list(); numbers$estimate <- cor(x, ry); numbers$other_way <- cor(rx, y)"))
}
