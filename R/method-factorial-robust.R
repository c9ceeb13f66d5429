# Crossed factors where the spread differs between the cells: Wald tests with robust errors.

#' @noRd
method_factorial_robust <- function() {
  new_method(
    id = "factorial_robust", name = "Factorial analysis with robust (HC3) errors", tasks = "compare",
    fits = function(shape) {
      fit <- method_anova_two_way()$fits(shape) %||% method_anova_factorial()$fits(shape)
      if (!is.null(fit)) new_fit(40, "You asked for tests that hold where the spread differs between the cells.")
    },
    compute = compute_factorial_robust,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name), check_residual_normal(res$residuals)),
    second = c("anova_two_way", "anova_factorial"), figure = function(ctx, res) figure_interaction(ctx, res), sentences = say_factorial_robust,
    script = script_factorial_robust,
    references = paste0("Long, J. S., & Ervin, L. H. (2000). Using heteroscedasticity consistent standard errors in the linear regression model. ",
                        "The American Statistician, 54, 217-224."),
    next_steps = function(ctx, res) sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by))
}

compute_factorial_robust <- function(ctx) {
  factors <- crossed_factors(ctx)
  y <- outcome_values(ctx)
  table <- stat_factorial_robust(y, factors)
  top <- table[nrow(table), ]
  cell <- group_of(ctx)
  result(list(new_number("statistic", sprintf("F of %s", top$term), top$statistic), new_number("df1", "df (term)", top$df),
              new_number("df2", "df (residuals)", attr(table, "df")), new_number("p_value", sprintf("p of %s", top$term), top$p_value),
              new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", length(y))),
         tables = list(groups_table(ctx), new_table("anova", "Wald tests of type III, robust errors", table)), anova = table,
         residuals = y - stats::ave(y, cell), direction = NA_real_)
}

say_factorial_robust <- function(ctx, res) {
  t <- res$anova; df2 <- attr(t, "df")
  item <- sprintf("%s F(%s, %s) = %s, %s", t$term, say_df(t$df), say_df(rep(df2, nrow(t))), say_number(t$statistic, 2), vapply(t$p_value, say_p, ""))
  y <- say_column(outcome_column(ctx))
  clear <- t$p_value < 1 - ctx$conf_level
  list(headline = if (any(clear)) sprintf("With a spread that may differ between the cells, %s differs by %s.", y, some_of(item[clear], 3))
         else sprintf("With a spread that may differ between the cells, no clear difference in %s by %s or their combination.", y,
                      some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 3)),
       details = c(item, "Each term is tested with all others in the model (type III).", say_rows(ctx)),
       write_up = sprintf("%s was analysed by %s with Wald tests and HC3 errors: %s.%s", capital(y), some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 4),  # nolint: line_length_linter.
                          paste(item, collapse = "; "), write_rows(ctx)))
}

script_factorial_robust <- function(ctx, res) {
  by <- ctx$reading$by
  inner <- sprintf("f%d", seq_along(by))
  c("tables <- list()", sprintf("y <- %s", script_value(outcome_name(ctx))),
    sprintf("%s <- droplevels(factor(%s))  # %s", inner, vapply(by, script_column, ""), gsub("[\r\n]", " ", by)),
    sprintf("fit <- lm(y ~ %s, contrasts = list(%s))", paste(inner, collapse = " * "), paste(sprintf("%s = \"contr.sum\"", inner), collapse = ", ")),
    "x <- model.matrix(fit); b <- coef(fit); m <- solve(crossprod(x)); df2 <- fit$df.residual",
    "v <- m %*% crossprod(x * (resid(fit) / (1 - hatvalues(fit)))) %*% m; term <- attr(x, \"assign\")",
    paste0("tables$anova <- do.call(rbind, lapply(seq_len(max(term)), function(k) { i <- which(term == k); f <- drop(b[i] %*% solve(v[i, i], b[i])) / ",  # nolint: line_length_linter.
           "length(i); data.frame(df = length(i), statistic = f, p_value = pf(f, length(i), df2, lower.tail = FALSE)) }))"),
    "top <- tables$anova[nrow(tables$anova), ]",
    "numbers <- list(statistic = top$statistic, df1 = top$df, df2 = df2, p_value = top$p_value, conf_level = conf_level, n = length(y))",
    script_groups(ctx))
}
