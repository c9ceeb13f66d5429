#' @noRd
method_sign_test <- function() {
  new_method(
    id = "sign_test", name = "Sign test", tasks = c("compare", "change"),
    fits = function(shape) fits_conditions(shape, 40,
                                           "You asked for the sign test, and the same units are measured twice.", 2L,
                                           kinds = c("number", "count", "ordered")) %||%
      fits_value(shape, if (isTRUE(shape$median_asked)) 97 else 40, c("number", "count", "ordered"), if (isTRUE(shape$median_asked))
        "The question compares the median with a value, and the sign test is that of a median." else "You asked for the sign test about a value."),
    compute = function(ctx) {
      if (!is.null(ctx$reading$extra$null_value)) return(compute_sign_value(ctx))
      s <- paired_values(ctx)
      out <- stat_sign(s$difference, ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "positive differences", sprintf("median difference, %s minus %s", s$levels[1],
          s$levels[2]), ctx$conf_level),
               list(new_number("untied", "differences that are not zero", out$untied))),
             tables = list(conditions_table(s, ctx)), cells = s, direction = sign(out$statistic - out$untied / 2))
    },
    checks = function(ctx, res) if (is.null(ctx$reading$extra$null_value)) list() else
      list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = c("t_paired", "wilcoxon_signed_rank", "t_one_sample"),
    figure = function(ctx, res) if (is.null(ctx$reading$extra$null_value)) conditions_figure(ctx, res) else figure_histogram(ctx, outcome_name(ctx)),
    sentences = function(ctx, res) {
      if (!is.null(ctx$reading$extra$null_value)) return(say_sign_value(ctx, res))
      n <- res$number
      sides <- if (length(ctx$reading$outcome) == 2) vapply(ctx$columns[ctx$reading$outcome], say_column, "")
      larger <- if (is.null(sides)) sprintf("%s is larger under %s than under %s", capital(outcome_words(ctx)), res$cells$levels[1],
                                            res$cells$levels[2]) else sprintf("%s is larger than %s", capital(sides[1]), sides[2])
      text <- sprintf("%s in %s of %s units that differ, %s.", larger, say_number(n$statistic), say_number(n$untied), say_p(n$p_value))
      list(headline = text, details = c(say_units(res$cells, ctx), say_rows(ctx)),
           write_up = sprintf("Sign test: %s of %s, exact %s.%s", say_number(n$statistic), say_number(n$untied),
                              say_p(n$p_value), write_rows(ctx)))
    },
    script = function(ctx, res) if (!is.null(ctx$reading$extra$null_value)) script_sign_value(ctx) else c(script_conditions(ctx),
                                  "d <- cells[, 1] - cells[, 2]; up <- sum(d > 0); m <- sum(d != 0)",
                                  sprintf("test <- binom.test(up, m, 0.5, alternative = %s)", script_alternative(ctx)),
      paste0("n <- length(d); k <- qbinom((1 - conf_level) / 2, n, 0.5); s <- sort(d); limits <- if (n < 6 || k < 1) ",
             "c(NA, NA) else c(s[k], s[n - k + 1])"),
      paste0("numbers <- list(statistic = up, p_value = test$p.value, estimate = median(d), ci_low = limits[1], ",
             "ci_high = limits[2], conf_level = conf_level, n = n, untied = m)")),
    references = paste0("Dixon, W. J., & Mood, A. M. (1946). The statistical sign test. Journal of the American ",
                        "Statistical Association, 41, 557-566."),
    next_steps = function(ctx, res) "Use a paired t test")
}

#' The median of one column about a stated value
#' @noRd
compute_sign_value <- function(ctx) {
  x <- outcome_values(ctx)
  null <- ctx$reading$extra$null_value
  out <- stat_sign(x - null, ctx$conf_level, ctx$alternative)
  for (id in c("estimate", "ci_low", "ci_high")) out[[id]] <- out[[id]] + null
  result(c(test_numbers(out, "values above it", sprintf("median of %s", outcome_name(ctx)), ctx$conf_level),
           list(new_number("untied", "values that differ from it", out$untied), new_number("null_value", "value under the null hypothesis", null))),
         tables = list(one_column_table(ctx, x)), direction = sign(out$statistic - out$untied / 2))
}

say_sign_value <- function(ctx, res) {
  n <- res$number; unit <- outcome_column(ctx)$unit
  y <- say_column(outcome_column(ctx)); null <- with_unit(say_number(n$null_value), unit)
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  above <- sprintf("%s of %s values that differ from it lie above", say_number(n$statistic), say_number(n$untied))
  text <- sprintf("The median of %s is %s %s: %s (%s), %s.", y, if (!clear) "not clearly different from" else
    if (n$statistic > n$untied / 2) "higher than" else "lower than", null, with_unit(say_number(n$estimate), unit),
    say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value))
  # (many values at the median leave it there, though more lie on one side)
  if (clear && n$estimate == n$null_value) text <- sprintf("More values of %s lie %s %s than %s it (%s of the %s that differ), %s; the median itself is %s (%s).",  # nolint: line_length_linter.
    y, if (n$statistic > n$untied / 2) "above" else "below", null, if (n$statistic > n$untied / 2) "below" else "above",
    say_number(max(n$statistic, n$untied - n$statistic)), say_number(n$untied), say_p(n$p_value), with_unit(say_number(n$estimate), unit),
    say_interval(n$ci_low, n$ci_high, ctx$conf_level))
  list(headline = text, details = c(sprintf("%s.", above), say_rows(ctx)),
       write_up = sprintf("The median of %s was compared with %s by the sign test: %s, exact %s.%s", y, null, above, say_p(n$p_value),
           write_rows(ctx)))
}

script_sign_value <- function(ctx) {
  c(sprintf("v <- %s; null <- %s; n <- length(v); tables <- list()", script_value(outcome_name(ctx)), as_r_number(ctx$reading$extra$null_value)),
    script_describe_function(), "tables$describe <- describe(v)", "up <- sum(v > null); m <- sum(v != null)",
    sprintf("test <- binom.test(up, m, 0.5, alternative = %s)", script_alternative(ctx)),
    "k <- qbinom((1 - conf_level) / 2, n, 0.5); s <- sort(v); limits <- if (n < 6 || k < 1) c(NA, NA) else c(s[k], s[n - k + 1])",
    paste0("numbers <- list(statistic = up, p_value = test$p.value, estimate = median(v), ci_low = limits[1], ci_high = limits[2], ",
           "conf_level = conf_level, n = n, untied = m, null_value = null)"))
}
