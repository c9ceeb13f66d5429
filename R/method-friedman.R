#' @noRd
method_friedman <- function() {
  new_method(
    id = "friedman", name = "Friedman test", tasks = c("compare", "change"), families = "rank_test",
    fits = function(shape) {
      ordered <- identical(shape$outcome_kind, "ordered")
      # two conditions are the business of the signed-rank test
      fits_conditions(shape, (if (ordered) 95 else 50) - 5 * isTRUE(shape$conditions == 2),
                      if (ordered) paste0("The same units give an ordered answer under several conditions, so ranks ",
                                          "within units are used.")
        else "You asked for a rank test, and the same units are measured under several conditions.", 2:60,
        kinds = c("number", "count", "ordered"))
    },
    compute = function(ctx) {
      s <- unit_conditions(ctx)
      out <- stat_friedman(s$values)
      result(c(test_numbers(out, "chi-square", "", ctx$conf_level),
               list(new_number("kendall_w", "Kendall's W", out$kendall_w)), limit_numbers("kendall_w", "Kendall's W",
                 stat_chi_share_limits(out$statistic, out$df, nrow(s$values) * (ncol(s$values) - 1), ctx$conf_level))),
             tables = list(conditions_table(s, ctx)), cells = s, ranks = out$mean_ranks, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_unit_count(nrow(res$cells$values), ncol(res$cells$values))), second = "anova_repeated",
    figure = conditions_figure,
    sentences = function(ctx, res) {
      n <- res$number
      s <- res$cells
      clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
      high <- which.max(res$ranks); low <- which.min(res$ranks)
      text <- sprintf("Within the same units, %s%s over the %d conditions: mean ranks from %s (%s) to %s (%s), %s.",
                      if (clear) "" else "no clear change of ", paste0(outcome_words(ctx),
                          if (clear) " changes" else ""),
                      length(s$levels), say_number(res$ranks[low], 2), s$levels[low], say_number(res$ranks[high], 2),
                      s$levels[high], say_p(n$p_value))
      test <- sprintf("chi-square(%s) = %s, %s, Kendall's W = %s%s (n = %s)", say_df(n$df), say_number(n$statistic, 2),
                      say_p(n$p_value), say_unit(n$kendall_w), say_effect_limits(n, "kendall_w", ctx$conf_level), say_number(n$n))
      list(headline = text, details = c(sprintf("Friedman's test: %s.", test), say_units(s, ctx), say_rows(ctx)),
           write_up = sprintf("%s was compared under %d conditions within units with Friedman's test: %s.%s",
                              capital(outcome_words(ctx)), length(s$levels), test, write_rows(ctx)))
    },
    script = function(ctx, res) c(script_conditions(ctx),
                                  "test <- friedman.test(unname(cells)); q <- test$statistic[[1]]",
      paste0("numbers <- list(statistic = q, df = test$parameter[[1]], p_value = test$p.value, conf_level = ",
             "conf_level, n = nrow(cells), kendall_w = q / (nrow(cells) * (ncol(cells) - 1)))"),
      script_chi_share_limits("kendall_w", "q", "numbers$df", "nrow(cells) * (ncol(cells) - 1)")),
    references = paste0("Friedman, M. (1937). The use of ranks to avoid the assumption of normality implicit in the ",
                        "analysis of variance. Journal of the American Statistical Association, 32, 675-701."),
    next_steps = function(ctx, res) sprintf("Describe %s", ctx$reading$outcome[1]))
}
