#' @noRd
method_weighted_correlation <- function() {
  new_method(
    id = "weighted_correlation", weights = TRUE, name = "Weighted Pearson correlation, design-based error", tasks = "relate",
    fits = function(shape) {
      ok <- isTRUE(shape$weighted) && is.null(shape$method_asked) && shape$task == "relate" && length(shape$pair_kinds) == 2 &&
        all(shape$pair_kinds %in% c("number", "count")) && !length(shape$adjust) && !isTRUE(shape$by_group)
      if (ok) new_fit(97, "Weights are declared, so the correlation and its error respect them.")
    },
    compute = function(ctx) {
      names <- unique(c(ctx$reading$outcome, ctx$reading$predictors, ctx$reading$by))[1:2]
      s <- sampling_of(ctx)
      out <- stat_weighted_correlation(outcome_values(ctx, names[2]), outcome_values(ctx, names[1]), s$w, ctx$conf_level,
                                       s$cluster, s$strata, s$absent)
      result(c(test_numbers(out, "t", "weighted r", ctx$conf_level), sampling_numbers(s, out)), names = names, direction = sign(out$estimate))
    },
    checks = sampling_checks,
    second = c("pearson", "spearman"), figure = function(ctx, res) figure_scatter(ctx, res$names[2], res$names[1]),
    sentences = function(ctx, res) {
      n <- res$number
      names <- vapply(ctx$columns[res$names], say_column, "")
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      value <- sprintf("weighted r = %s (%s), t(%s) = %s, %s", say_unit(n$estimate), say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit),
                       say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
      text <- if (clear) sprintf("%s %s with %s, weights respected: %s.", capital(names[1]), if (n$estimate > 0) "rises" else "falls", names[2],
          value)
        else sprintf("No clear straight-line relation between %s and %s, weights respected: %s.", names[1], names[2], value)
      list(headline = text, details = c(say_sampling(ctx, res), say_rows(ctx)), write_up = paste0(text, write_rows(ctx)))
    },
    script = function(ctx, res) c(sprintf("y <- %s; x <- %s; tables <- list()", script_value(res$names[1]), script_value(res$names[2])),
        script_sampling(ctx),
      paste0("r <- cov.wt(cbind(x, y), w / sum(w), cor = TRUE, method = \"ML\"); zx <- (x - r$center[[1]]) / sqrt(r$cov[1, 1]); zy <- (y - ",
          "r$center[[2]]) / sqrt(r$cov[2, 2])"),
      "r <- r$cor[1, 2]; e <- total_covariance(w * (zx * zy - r / 2 * (zx^2 + zy^2)) / sum(w)); se <- sqrt(e$v[1, 1]); t <- r / se",
      "limits <- tanh(atanh(r) + c(-1, 1) * qt(1 - (1 - conf_level) / 2, e$df) * se / (1 - r^2))",
      paste0("numbers <- list(statistic = t, df = e$df, p_value = 2 * pt(-abs(t), e$df), estimate = r, se = se, ci_low = ",
          "limits[1], ci_high = ",
          "limits[2], ",
             "conf_level = conf_level, n = length(x))"),
      sprintf("numbers <- c(numbers, list(%s))", sampling_script_numbers(ctx))),
    references = sampling_references(), next_steps = function(ctx, res) sprintf("How does %s depend on %s?", res$names[1], res$names[2]))
}
