#' @noRd
method_log_rank_early <- function() {
  new_method(
    id = "log_rank_early", name = "Log-rank test with more weight on early events (Peto and Peto)", tasks = "survival",
    fits = function(shape) fits_survival(shape, 40, "You asked for a test that weighs early events more.", TRUE),
    compute = function(ctx) {
      s <- survival_groups(ctx)
      out <- stat_log_rank(s$time, s$event, as.integer(s$group), early = TRUE, stratum = s$stratum)
      t <- survival_tables(s, ctx$conf_level)
      result(c(test_numbers(out[c("statistic", "df", "p_value", "n")], "chi-square", "", ctx$conf_level),
               list(new_number("events", "events", sum(s$event)))),
             tables = list(new_table("groups", "Median and restricted mean time", t$groups), new_table("survival", "Survival curve", t$all)),
             parts = s, survival = t, direction = NA_real_)
    },
    checks = function(ctx, res) survival_checks(ctx, res$parts), second = "log_rank", figure = function(ctx, res) figure_survival(ctx, res),
    sentences = function(ctx, res) {
      said <- say_log_rank(ctx, res)
      said$details <- sub("^Log-rank test:", "Log-rank test weighted by the share still without the event:", said$details)
      said$write_up <- sub("with the log-rank test:", "with the log-rank test weighted after Peto and Peto:", said$write_up, fixed = TRUE)
      said
    },
    script = function(ctx, res) c(script_survival(ctx), script_survival_tables(),
      sprintf("test <- survdiff(Surv(time, event) ~ group%s, rho = 1); df <- nlevels(group) - 1", script_strata_of(ctx)),
      "numbers <- list(statistic = test$chisq, df = df, p_value = pchisq(test$chisq, df, lower.tail = FALSE), conf_level = conf_level,",
      "  n = length(time), events = sum(event))"),
    references = paste0("Peto, R., & Peto, J. (1972). Asymptotically efficient rank invariant test procedures. Journal of the Royal Statistical ",
                        "Society A, 135, 185-207."),
    next_steps = function(ctx, res) sprintf("Log rank test of %s by %s", ctx$reading$outcome[1], paste(ctx$reading$by, collapse = " and ")))
}
