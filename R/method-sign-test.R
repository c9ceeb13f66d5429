#' @noRd
method_sign_test <- function() {
  new_method(
    id = "sign_test", name = "Sign test", tasks = c("compare", "change"),
    fits = function(shape) fits_conditions(shape, 40,
                                           "You asked for the sign test, and the same units are measured twice.", 2L,
                                           kinds = c("number", "count", "ordered")),
    compute = function(ctx) {
      s <- paired_values(ctx)
      out <- stat_sign(s$difference, ctx$conf_level, ctx$alternative)
      result(c(test_numbers(out, "positive differences", sprintf("median difference, %s minus %s", s$levels[1],
          s$levels[2]), ctx$conf_level),
               list(new_number("untied", "differences that are not zero", out$untied))),
             tables = list(conditions_table(s, ctx)), cells = s, direction = sign(out$statistic - out$untied / 2))
    },
    second = c("t_paired", "wilcoxon_signed_rank"), figure = conditions_figure,
    sentences = function(ctx, res) {
      n <- res$number
      sides <- if (length(ctx$reading$outcome) == 2) vapply(ctx$columns[ctx$reading$outcome], say_column, "")
      larger <- if (is.null(sides)) sprintf("%s is larger under %s than under %s", capital(outcome_words(ctx)), res$cells$levels[1],
                                            res$cells$levels[2]) else sprintf("%s is larger than %s", capital(sides[1]), sides[2])
      text <- sprintf("%s in %s of %s units that differ, %s.", larger, say_number(n$statistic), say_number(n$untied), say_p(n$p_value))
      list(headline = text, details = c(say_units(res$cells, ctx), say_rows(ctx)),
           write_up = sprintf("Sign test: %s of %s, exact %s.%s", say_number(n$statistic), say_number(n$untied),
                              say_p(n$p_value), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_conditions(ctx),
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
