#' @noRd
method_partial_ranks <- function() {
  new_method(
    id = "partial_ranks", name = "Partial rank correlation", tasks = "relate", families = "spearman",
    fits = function(shape) if (!is.null(method_partial_correlation()$fits(shape))) new_fit(45, "You asked for the partial correlation of the ranks."),
    compute = compute_partial_ranks, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = "partial_correlation", figure = function(ctx, res) figure_scatter(ctx, res$names[1], res$names[2]),
    sentences = say_partial_ranks, script = script_partial_ranks,
    references = "Conover, W. J. (1999). Practical Nonparametric Statistics (3rd ed.), section 5.4. Wiley.",
    next_steps = function(ctx, res) sprintf("Rank correlation of %s and %s", res$names[1], res$names[2]))
}

#' Columns held constant as ranks; groups stay groups
#' @noRd
ranked_columns <- function(columns) lapply(columns, function(v) if (is.factor(v)) v else stat_midranks(v)$rank)

compute_partial_ranks <- function(ctx) {
  p <- pair_values(ctx)
  held <- model_columns(list(reading = list(adjust_for = ctx$reading$adjust_for), frame = ctx$frame, columns = ctx$columns))
  x <- stat_midranks(p$x)$rank; y <- stat_midranks(p$y)$rank
  out <- stat_partial_correlation(x, y, stat_model_matrix(ranked_columns(held))$x, ctx$conf_level, ctx$alternative)
  plain <- stat_pearson(x, y, ctx$conf_level)
  result(c(test_numbers(out, "t", "partial rank correlation", ctx$conf_level), list(new_number("rho", "partial rho", out$estimate)),
           own_limits("rho", "partial rho", out), list(new_number("rho_plain", "rho without holding anything constant", plain$estimate))),
         tables = list(correlation_table(p$names, out)), names = p$names, held = names(held), x = p$x, y = p$y)
}

say_partial_ranks <- function(ctx, res) {
  n <- res$number
  a <- say_column(ctx$columns[[res$names[1]]]); b <- say_column(ctx$columns[[res$names[2]]])
  held <- some_of(vapply(ctx$columns[res$held], say_column, ""), 5)
  interval <- say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit)
  relation <- if (!isTRUE(n$p_value < 1 - ctx$conf_level)) "there is no clear monotone relation" else
    sprintf("there is a %s relation", if (n$estimate > 0) "rising" else "falling")
  list(headline = sprintf("With %s held constant, %s between the ranks of %s and %s: partial rho = %s (%s), %s.", held, relation, a, b,
                          say_unit(n$estimate), interval, say_p(n$p_value)),
       details = c(sprintf("Without holding anything constant rho is %s.", say_unit(n$rho_plain)), say_rows(ctx)),
       write_up = sprintf("The partial rank correlation of %s and %s, with %s held constant, was rho(%s) = %s, %s, %s.%s", a, b, held, say_df(n$df),
                          say_unit(n$estimate), interval, say_p(n$p_value), write_rows(ctx)))
}

script_partial_ranks <- function(ctx, res) {
  factors <- vapply(res$held, function(name) is_level_kind(ctx$columns[[name]]$kind) && ctx$columns[[name]]$kind != "ordered", NA)
  inner <- sprintf("h%d", seq_along(res$held))
  lines <- script_partial(ctx, list(names = res$names, held = res$held))
  at <- grep("^held <- y ~", lines)
  lines <- append(lines, c("x <- rank(x); y <- rank(y)", if (any(!factors)) sprintf("%1$s <- rank(%1$s)", inner[!factors])), at - 1)
  lines <- gsub("r = r, r_plain = ", "rho = r, rho_plain = ", lines, fixed = TRUE)
  gsub("\"r_low\", \"r_high\"", "\"rho_low\", \"rho_high\"", lines, fixed = TRUE)
}
