#' @noRd
method_anova_mixed <- function() {
  new_method(
    id = "anova_mixed", name = "Mixed analysis of variance (conditions within units, groups of units)",
    tasks = c("compare", "change"), families = "anova",
    fits = function(shape) {
      ok <- shape$task %in% c("compare", "change", "figure", "advise") && isTRUE(shape$paired) &&
        shape$n_outcome >= 1 && shape$between == 1 &&
        shape$outcome_kind %in% c("number", "count", "ordered") && isTRUE(shape$conditions >= 2)
      if (ok) new_fit(92, "Units of several groups are each measured under several conditions.")
    },
    compute = compute_anova_mixed,
    checks = function(ctx, res) if (length(res$cells$levels) > 2) list(check_sphericity(res$effects$within$epsilon,
        length(res$cells$levels))) else list(),
    figure = conditions_figure, sentences = say_anova_mixed, script = script_anova_mixed,
    references = paste0("Greenhouse, S. W., & Geisser, S. (1959). On methods in the analysis of profile data. ",
                        "Psychometrika, 24, 95-112."),
    next_steps = function(ctx, res) sprintf("Describe %s by %s", ctx$reading$outcome[1], last_of(ctx$reading$by)))
}

compute_anova_mixed <- function(ctx) {
  s <- unit_conditions(ctx)
  if (length(s$group_levels) < 2) stop_data(sprintf("%s has only one group among the complete units.",
                                                    quoted(last_of(ctx$reading$by))), class = "one_group")
  effects <- stat_anova_repeated(s$values, s$group)
  by <- mixed_names(ctx)
  anova <- new_table("anova", "Analysis of variance (type III)",
                     effect_rows(effects, list(between = by[2], within = by[1],
                                               interaction = paste(by[1], "x", by[2]))))
  result(within_numbers(effects$interaction, ctx$conf_level, nrow(s$values)),
         tables = list(mixed_cells_table(s, by), anova), cells = s, effects = effects, direction = NA_real_)
}

#' Names of what varies within units and between them: in wide data the conditions are the columns themselves
#' @noRd
mixed_names <- function(ctx) if (length(ctx$reading$outcome) > 1) c("condition", ctx$reading$by[1]) else ctx$reading$by[1:2]

mixed_cells_table <- function(s, by) {
  cell <- s$group + length(s$group_levels) * (rep(seq_along(s$levels), each = nrow(s$values)) - 1)
  grid <- expand.grid(group = s$group_levels, condition = s$levels, stringsAsFactors = FALSE)
  d <- stat_group_summary(as.vector(s$values), cell, nrow(grid))
  new_table("groups", "Complete units by condition and group",
            cbind(stats::setNames(grid[c("condition", "group")], by),
                  d[c("n", "missing", "mean", "sd", "se", "median", "q1", "q3", "min", "max")]))
}

say_anova_mixed <- function(ctx, res) {
  n <- res$number
  by <- vapply(mixed_names(ctx), function(b) if (b %in% names(ctx$columns)) say_column(ctx$columns[[b]]) else "the measurements", "")
  y <- outcome_words(ctx)
  test <- function(e) sprintf("F(%s, %s) = %s, %s", say_df(e$df1), say_df(e$df2), say_number(e$statistic, 2),
                              say_p(e$p_value))
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  headline <- sprintf("%s between the groups of %s over %s: interaction %s.",
                      if (clear) sprintf("The change of %s differs",
                                         y) else sprintf("No clear difference in the change of %s", y), by[2], by[1],
                                         test(res$effects$interaction))
  details <- c(sprintf("Over %s: %s. Between %s: %s.", by[1], test(res$effects$within), by[2],
                       test(res$effects$between)), say_units(res$cells, ctx), say_rows(ctx))
  list(headline = headline, details = details,
       write_up = sprintf(paste0("%s was analysed with a mixed analysis of variance (%s within units, %s between): ",
                                 "interaction %s, partial eta squared = %s; %s %s; %s %s.%s"), capital(y), by[1], by[2],
    test(res$effects$interaction), say_unit(n$partial_eta_squared), by[1], test(res$effects$within), by[2],
    test(res$effects$between), write_rows(ctx)))
}

script_anova_mixed <- function(ctx, res) {
  c(script_conditions(ctx),
    "k <- ncol(cells); units <- nrow(cells); group <- factor(group, labels = paste0(\"g\", seq_len(nlevels(group))))",
    "contrasts(group) <- contr.sum(nlevels(group))",
    script_sphericity("units - nlevels(group)", "group"),
    "z <- cells %*% q; full <- lm(z ~ group); sse <- sum(resid(full)^2); groups <- nlevels(group)",
    "within <- sum(resid(lm(z ~ 0 + model.matrix(~ group)[, -1]))^2) - sse  # type III: the intercept left out",
    "interaction <- sum(resid(lm(z ~ 1))^2) - sse", "totals <- anova(lm(rowMeans(cells) * sqrt(k) ~ group))",
    "row <- function(ss, d1, sse, d2, e) data.frame(df = d1, sum_sq = ss, mean_sq = ss / d1, statistic = (ss / d1) / (sse / d2),",
    "  p_value = pf((ss / d1) / (sse / d2), d1 * e, d2 * e, lower.tail = FALSE), error_df = d2, error_sum_sq = sse)",
    paste0("tables$anova <- rbind(row(totals$`Sum Sq`[1], groups - 1, totals$`Sum Sq`[2], units - groups, 1), ",
           "row(within, k - 1, sse, (units - groups) * (k - 1), gg),"),
    "  row(interaction, (groups - 1) * (k - 1), sse, (units - groups) * (k - 1), gg))",
    "i <- tables$anova[3, ]; tail_area <- function(e) pf(i$statistic, i$df * e, i$error_df * e, lower.tail = FALSE)",
    paste0("numbers <- list(statistic = i$statistic, df1 = i$df * gg, df2 = i$error_df * gg, p_value = i$p_value, ",
           "conf_level = conf_level, n = units, partial_eta_squared = i$sum_sq / (i$sum_sq + i$error_sum_sq),"),
    "  epsilon_gg = gg, epsilon_hf = hf, p_uncorrected = tail_area(1), p_hf = tail_area(hf))",
    script_share_limits("partial_eta_squared", df = "c(i$df, i$error_df)"),
    "cell_rows <- list(); for (j in seq_len(k)) for (g in levels(group)) { v <- cells[group == g, j]",
    paste0("  cell_rows[[length(cell_rows) + 1]] <- data.frame(n = length(v), missing = 0, mean = mean(v), sd = ",
           "sd(v), se = sd(v) / sqrt(length(v)), median = median(v),"),
    "    q1 = quantile(v, 0.25), q3 = quantile(v, 0.75), min = min(v), max = max(v)) }",
    "tables$groups <- do.call(rbind, cell_rows)")
}
