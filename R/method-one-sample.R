# One column against a stated value.

#' @noRd
method_t_one_sample <- function() {
  new_method(
    id = "t_one_sample", name = "One-sample t test", tasks = "compare", families = "t_test",
    fits = function(shape) fits_value(shape, 92, c("number", "count"),
                                      "One measured column is compared with a stated value."),
    compute = function(ctx) {
      x <- outcome_values(ctx)
      null <- ctx$reading$extra$null_value
      out <- stat_t_one_sample(x, null, ctx$conf_level, ctx$alternative)
      effect <- stat_paired_effect(x - null, ctx$conf_level)
      result(c(test_numbers(out, "t", sprintf("mean of %s", outcome_name(ctx)), ctx$conf_level),
               list(new_number("null_value", "value under the null hypothesis", null)),
               effect_numbers(effect, list(cohens_d = "Cohen's d", hedges_g = "Hedges' g"))),
             tables = list(one_column_table(ctx, x)), values = list(x), levels = outcome_name(ctx),
             direction = sign(out$estimate - null))
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                     check_mean_normal(res$values, "The column"),
                                     check_far_values(res$values, res$levels)),
    second = "wilcoxon_signed_rank",
    figure = function(ctx, res) figure_histogram(ctx, outcome_name(ctx)),
    sentences = say_one_sample, script = script_one_sample,
    references = "Student (1908). The probable error of a mean. Biometrika, 6, 1-25.",
    next_steps = function(ctx, res) c(sprintf("Show the distribution of %s", outcome_name(ctx)),
                                      sprintf("Describe %s", outcome_name(ctx))))
}

fits_value <- function(shape, score, kinds, why) {
  if (is.null(shape$null_value) || !is.null(shape$event) || shape$n_outcome != 1 || shape$n_by > 0) return(NULL)
  if (!shape$outcome_kind %in% c("number", "count", "ordered")) return(NULL)
  new_fit(if (shape$outcome_kind %in% kinds) score else score - 60, why)
}

one_column_table <- function(ctx, x) {
  new_table("describe", sprintf("Summary of %s", outcome_name(ctx)), describe_rows(list(x), outcome_name(ctx)))
}

say_one_sample <- function(ctx, res) {
  n <- res$number
  y <- say_column(outcome_column(ctx))
  unit <- outcome_column(ctx)$unit
  label <- sub(" of .*$", "", res$numbers[[match("estimate", vapply(res$numbers, `[[`, "", "id"))]]$label)
  null <- with_unit(say_number(n$null_value), unit)
  interval <- say_interval(n$ci_low %||% NA, n$ci_high %||% NA, ctx$conf_level)
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) sprintf("The %s of %s is %s than %s: %s (%s), %s.", label, y,
      if (n$estimate > n$null_value) "higher" else "lower", null,
      with_unit(say_number(n$estimate), unit), interval, say_p(n$p_value))
    else sprintf("The %s of %s is not clearly different from %s: %s (%s), %s.", label, y, null,
                 with_unit(say_number(n$estimate), unit), interval, say_p(n$p_value))
  test <- sprintf("%s%s = %s, %s", res$numbers[[1]]$label, if (is.null(n$df)) "" else sprintf("(%s)", say_df(n$df)),
                  say_number(n$statistic), say_p(n$p_value))
  list(headline = headline,
       details = c(if (!is.null(n$hedges_g)) sprintf("The distance is %s standard deviations (g): %s.",
                                                     say_number(abs(n$hedges_g), 2), say_size(n$hedges_g, "d")),
                                                     say_rows(ctx)),
       write_up = sprintf("The %s of %s (%s, %s, n = %s) was compared with %s: %s.%s", label, y,
                          with_unit(say_number(n$estimate), unit), interval, say_number(n$n), null, test,
                          write_rows(ctx)))
}

script_one_sample <- function(ctx, res) {
  c(sprintf("v <- %s; null <- %s; n <- length(v); tables <- list()", script_value(outcome_name(ctx)),
            as_r_number(ctx$reading$extra$null_value)), script_describe_function(), "tables$describe <- describe(v)",
    sprintf("test <- t.test(v, mu = null, conf.level = conf_level, alternative = %s)", script_alternative(ctx)),
    paste0("numbers <- list(statistic = test$statistic, df = test$parameter, p_value = test$p.value, estimate = ",
           "mean(v), se = test$stderr, ci_low = test$conf.int[1], ci_high = test$conf.int[2],"),
    "  conf_level = conf_level, n = n, null_value = null)",
    "# standardised distance, interval by inverting the noncentral t distribution",
    paste0("d <- (mean(v) - null) / sd(v); t_observed <- d * sqrt(n); half <- qnorm(1 - (1 - conf_level) / 2) * ",
           "sqrt(1 + t_observed^2 / (2 * (n - 1)))"),
    paste0("limit <- function(p) uniroot(function(ncp) suppressWarnings(pt(t_observed, n - 1, ncp)) - p, t_observed + ",
           "c(-2, 2) * half + c(-2, 2), tol = 1e-12, extendInt = \"downX\")$root"),
    paste0("limits <- (if (abs(t_observed) + half > 35) t_observed + c(-half, half) else c(limit(1 - (1 - conf_level) ",
           "/ 2), limit((1 - conf_level) / 2))) / sqrt(n)"),
    "small_sample <- exp(lgamma((n - 1) / 2) - lgamma((n - 2) / 2) - log((n - 1) / 2) / 2)",
    paste0("numbers <- c(numbers, list(cohens_d = d, cohens_d_low = limits[1], cohens_d_high = limits[2], hedges_g = ",
           "small_sample * d, hedges_g_low = small_sample * limits[1], hedges_g_high = small_sample * limits[2]))"))
}

#' Signed ranks of one column about a stated value
#' @noRd
compute_signed_rank_value <- function(ctx) {
  x <- outcome_values(ctx)
  null <- ctx$reading$extra$null_value
  out <- stat_signed_rank(x - null, ctx$conf_level, ctx$alternative)
  for (id in c("estimate", "ci_low", "ci_high")) out[[id]] <- out[[id]] + null
  result(c(test_numbers(out, "sum of the positive ranks", sprintf("pseudo-median of %s", outcome_name(ctx)),
                        ctx$conf_level),
           list(new_number("rank_biserial", "rank-biserial correlation", out$rank_biserial)),
           limit_numbers("rank_biserial", "rank-biserial correlation", stat_matched_biserial_limits(out$rank_biserial, out$n - out$zeros,
               ctx$conf_level)),
           list(new_number("z", "z", out$z),
                new_number("zeros", "values equal to the stated one", out$zeros),
                new_number("null_value", "value under the null hypothesis", null))),
         tables = list(one_column_table(ctx, x)), exact = out$exact, difference = x - null,
         direction = sign(out$rank_biserial))
}

script_signed_rank_value <- function(ctx, res) {
  c(sprintf("v <- %s; null <- %s; tables <- list()", script_value(outcome_name(ctx)),
            as_r_number(ctx$reading$extra$null_value)), script_describe_function(), "tables$describe <- describe(v)",
    script_signed_rank_core(ctx, res$exact, length(ctx$frame$rows), "v - null"),
    paste0("numbers[c(\"estimate\", \"ci_low\", \"ci_high\")] <- lapply(numbers[c(\"estimate\", \"ci_low\", ",
           "\"ci_high\")], `+`, null); numbers$null_value <- null"))
}
