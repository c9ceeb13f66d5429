#' @noRd
method_t_paired <- function() {
  new_method(
    id = "t_paired", name = "Paired t test", tasks = c("compare", "change"), families = "t_test",
    fits = function(shape) fits_conditions(shape, 92,
                                           "The same units are measured twice, so their differences are tested.", 2L),
    compute = compute_t_paired, checks = function(ctx, res) difference_checks(res$cells),
    second = c("wilcoxon_signed_rank", "sign_test"),
    figure = conditions_figure, sentences = say_t_paired, script = script_t_paired,
    references = c("Student (1908). The probable error of a mean. Biometrika, 6, 1-25.",
                   "Cohen, J. (1988). Statistical Power Analysis for the Behavioral Sciences (2nd ed.). Erlbaum."),
    next_steps = function(ctx, res) c("Use a rank test", sprintf("Describe %s",
        paste(ctx$reading$outcome, collapse = " and "))))
}

compute_t_paired <- function(ctx) {
  s <- paired_values(ctx)
  out <- stat_t_one_sample(s$difference, 0, ctx$conf_level, ctx$alternative)
  label <- sprintf("mean difference, %s minus %s", s$levels[1], s$levels[2])
  result(c(test_numbers(out, "t", label, ctx$conf_level),
           effect_numbers(stat_paired_effect(s$difference, ctx$conf_level),
                                                                         list(cohens_d = "Cohen's d of the differences",
                                                                             hedges_g = "Hedges' g of the differences"))),
         tables = list(conditions_table(s, ctx)), cells = s, levels = s$levels, means = colMeans(s$values))
}

say_t_paired <- function(ctx, res) {
  n <- res$number
  unit <- outcome_column(ctx)$unit
  s <- res$cells
  wide <- length(ctx$reading$outcome) > 1
  side <- condition_words(ctx, s)
  what <- if (wide) "" else paste0(say_column(outcome_column(ctx)), " ")
  higher <- if (n$estimate >= 0) 1 else 2
  means <- say_alike(res$means)
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) {
    sprintf("Within the same units, %s is higher %s %s: mean %s against %s, a difference of %s%s, %s.",
            if (wide) side[higher] else trimws(what), if (wide) "than" else sprintf("under %s than under", side[higher]),
            side[3 - higher], with_unit(means[higher], unit), with_unit(means[3 - higher], unit),
            with_unit(say_number(abs(n$estimate)), unit),
            signed_interval(n, higher, ctx), say_p(n$p_value))
  } else {
    sprintf(paste0("Within the same units, no clear difference %sbetween %s and %s: mean %s and %s; difference %s ",
                   "(%s), %s."), if (wide) "" else paste0("in ", what), side[1],
            side[2], with_unit(means[1], unit), with_unit(means[2], unit), with_unit(say_number(n$estimate), unit),
            say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value))
  }
  effect <- sprintf("The mean difference is %s standard deviations of the differences (g, %s): %s.",
                    say_number(n$hedges_g, 2),
                    say_interval(n$hedges_g_low, n$hedges_g_high, ctx$conf_level, function(v) say_number(v, 2)),
                    say_size(n$hedges_g, "d"))
  write_up <- sprintf(paste0("%s was compared within units between %s (M = %s) and %s (M = %s) with a paired t test: ",
                             "t(%s) = %s, %s, mean difference %s, %s, g = %s (n = %s).%s"),
                      capital(outcome_words(ctx)), s$levels[1], means[1], s$levels[2], means[2], say_df(n$df),
                      say_number(n$statistic, 2), say_p(n$p_value),
                      with_unit(say_number(n$estimate), unit), say_interval(n$ci_low, n$ci_high, ctx$conf_level),
                      say_number(n$hedges_g, 2), say_number(n$n), write_rows(ctx))
  list(headline = headline, details = c(effect, say_units(s, ctx), say_rows(ctx)), write_up = write_up)
}

#' The conditions in words: the columns compared, or the levels
#' @noRd
condition_words <- function(ctx, s) {
  if (length(ctx$reading$outcome) < 2 || !all(s$levels %in% names(ctx$columns))) return(s$levels)
  vapply(ctx$columns[s$levels], say_column, "", USE.NAMES = FALSE)
}

script_t_paired <- function(ctx, res) {
  c(script_conditions(ctx), "x <- cells[, 1]; y <- cells[, 2]",
    sprintf("test <- t.test(x, y, paired = TRUE, conf.level = conf_level, alternative = %s)", script_alternative(ctx)),
    paste0("numbers <- list(statistic = test$statistic, df = test$parameter, p_value = test$p.value, estimate = ",
           "mean(x - y), se = test$stderr,"),
    "  ci_low = test$conf.int[1], ci_high = test$conf.int[2], conf_level = conf_level, n = length(x))",
    "# standardised mean difference, interval by inverting the noncentral t distribution",
    "n <- length(x); d <- mean(x - y) / sd(x - y); t_observed <- d * sqrt(n)",
    "half <- qnorm(1 - (1 - conf_level) / 2) * sqrt(1 + t_observed^2 / (2 * (n - 1)))",
    paste0("limit <- function(p) uniroot(function(ncp) suppressWarnings(pt(t_observed, n - 1, ncp)) - p, t_observed + ",
           "c(-2, 2) * half + c(-2, 2), tol = 1e-12, extendInt = \"downX\")$root"),
    paste0("limits <- (if (abs(t_observed) + half > 35) t_observed + c(-half, half) else c(limit(1 - (1 - conf_level) ",
           "/ 2), limit((1 - conf_level) / 2))) / sqrt(n)"),
    "small_sample <- exp(lgamma((n - 1) / 2) - lgamma((n - 2) / 2) - log((n - 1) / 2) / 2)",
    "numbers <- c(numbers, list(cohens_d = d, cohens_d_low = limits[1], cohens_d_high = limits[2], hedges_g = small_sample * d,",
    "  hedges_g_low = small_sample * limits[1], hedges_g_high = small_sample * limits[2]))")
}
