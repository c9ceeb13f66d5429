# Spreads of groups compared, and the shapes of two samples.

fits_spreads <- function(shape, score, why, groups) {
  ok <- shape$task %in% c("compare", "relate", "distribution",
      "describe") && shape$n_outcome == 1 && shape$n_by == 1 && isTRUE(shape$groups %in% groups) &&
    shape$outcome_kind %in% c("number", "count", "ordered") && is.null(shape$null_value)
  if (ok) new_fit(if (isTRUE(shape$spread)) score + 60 else score, why)
}

#' A method that compares the spreads of groups
#' @noRd
spread_method <- function(id, name, score, groups, run, script, reference, label) {
  new_method(
    id = id, name = name, tasks = "compare",
    fits = function(shape) fits_spreads(shape, score, "The question asks whether the groups vary by the same amount.", groups),
    compute = function(ctx) {
      s <- split_groups(ctx)
      if (any(lengths(s$values) < 2)) stop_data("Every group needs at least two values.", class = "too_few_rows")
      out <- run(s$values, ctx)
      result(c(test_numbers(out, label, "ratio of the variances", ctx$conf_level),
               list(new_number("sd_ratio", "largest standard deviation over smallest",
                   max(vapply(s$values, stats::sd, 1)) / min(vapply(s$values, stats::sd, 1))))),
             tables = list(groups_table(ctx)), levels = s$levels, values = s$values, label = label, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        if (id != "brown_forsythe") check_mean_normal(res$values, res$levels)),
    second = setdiff(c("brown_forsythe", "bartlett"), id),
    figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]),
    sentences = say_spreads, script = function(ctx, res) c(script_spreads(ctx), script, script_groups(ctx)),
    references = reference,
    next_steps = function(ctx, res) c(sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by[1]),
        sprintf("Describe %s by %s", outcome_name(ctx), ctx$reading$by[1])))
}

script_spreads <- function(ctx) {
  c(sprintf("y <- %s", script_value(outcome_name(ctx))), sprintf("g <- droplevels(factor(%s)); tables <- list()", script_column(ctx$reading$by[1])),
    "sds <- tapply(y, g, sd); sd_ratio <- max(sds) / min(sds); n <- length(y)")
}

say_spreads <- function(ctx, res) {
  n <- res$number
  sds <- vapply(res$values, stats::sd, 1)
  unit <- outcome_column(ctx)$unit
  df <- if (is.null(n$df)) sprintf("%s, %s", say_df(n$df1), say_df(n$df2)) else say_df(n$df)
  test <- sprintf("%s(%s) = %s, %s", res$label, df, say_number(n$statistic, 2), say_p(n$p_value))
  high <- which.max(sds); low <- which.min(sds)
  text <- sprintf("The spread of %s %s between the groups: standard deviation %s in %s and %s in %s, %s.", say_column(outcome_column(ctx)),
                  if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differs" else "does not clearly differ", with_unit(say_number(sds[high]),
                      unit), res$levels[high],
                  with_unit(say_number(sds[low]), unit), res$levels[low], say_p(n$p_value))
  list(headline = text, details = c(sprintf("%s: %s.", ctx_method_name(res), test), say_rows(ctx)),
       write_up = sprintf("The spreads of %s were compared: %s (N = %s).%s", say_column(outcome_column(ctx)), test, say_number(n$n), write_rows(ctx)))
}

ctx_method_name <- function(res) sprintf("The largest standard deviation is %s times the smallest", say_number(res$number$sd_ratio, 2))

#' @noRd
method_brown_forsythe <- function() {
  spread_method("brown_forsythe", "Brown-Forsythe test of equal spreads", 36, 2:60, function(values, ctx) stat_brown_forsythe(values),
    c("z <- abs(y - ave(y, g, FUN = median)); fit <- anova(lm(z ~ g))",
      paste0("numbers <- list(statistic = fit$`F value`[1], df1 = fit$Df[1], df2 = fit$Df[2], p_value =",
          " fit$`Pr(>F)`[1], conf_level = conf_level, n = n, sd_ratio = sd_ratio)")),
    paste0("Brown, M. B., & Forsythe, A. B. (1974). Robust tests for the equality of variances. Journal of",
        " the American Statistical Association, 69, 364-367."), "F")
}

#' @noRd
method_bartlett <- function() {
  spread_method("bartlett", "Bartlett test of equal variances", 34, 2:60, function(values, ctx) stat_bartlett(values),
    c("test <- bartlett.test(y, g)",
      paste0("numbers <- list(statistic = test$statistic[[1]], df = test$parameter[[1]], p_value =",
          " test$p.value, conf_level = conf_level, n = n, sd_ratio = sd_ratio)")),
    "Bartlett, M. S. (1937). Properties of sufficiency and statistical tests. Proceedings of the Royal Society A, 160, 268-282.", "chi-square")
}

#' @noRd
method_f_variances <- function() {
  spread_method("f_variances", "F test of two variances", 32, 2L,
      function(values, ctx) stat_f_variances(values[[1]], values[[2]], ctx$conf_level, ctx$alternative),
    c("test <- var.test(y[g == levels(g)[1]], y[g == levels(g)[2]], conf.level = conf_level)",
      paste0("numbers <- list(statistic = test$statistic[[1]], df1 = test$parameter[[1]], df2 =",
          " test$parameter[[2]], p_value = test$p.value, estimate = test$estimate[[1]],"),
      "  ci_low = test$conf.int[1], ci_high = test$conf.int[2], conf_level = conf_level, n = n, sd_ratio = sd_ratio)"),
    "Snedecor, G. W., & Cochran, W. G. (1989). Statistical Methods (8th ed.). Iowa State University Press.", "F")
}

#' @noRd
method_kolmogorov_smirnov <- function() {
  new_method(
    id = "kolmogorov_smirnov", name = "Kolmogorov-Smirnov test", tasks = "compare",
    fits = function(shape) { fit <- fits_spreads(shape, 30, "You asked for it: the whole distributions of two groups are compared.", 2L)
      if (!is.null(fit)) new_fit(30, fit$why) },
    compute = function(ctx) {
      s <- two_groups(ctx)
      out <- stat_kolmogorov_smirnov(s$values[[1]], s$values[[2]])
      result(c(test_numbers(out, "D", "", ctx$conf_level), list(new_number("estimate",
          "largest distance of the distribution functions", out$statistic))),
             tables = list(groups_table(ctx)), levels = s$levels, values = s$values, exact = out$exact, direction = NA_real_)
    },
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    second = c("mann_whitney", "t_welch"), figure = two_group_figure,
    sentences = function(ctx, res) {
      n <- res$number
      text <- sprintf("The distributions of %s in %s and %s %s: D = %s, %s.", say_column(outcome_column(ctx)), res$levels[1], res$levels[2],
                      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differ" else "do not clearly differ", say_unit(n$statistic), say_p(n$p_value))
      list(headline = text, details = c(sprintf("At one point the shares of rows below it differ by %s. The p value is %s.", say_points(n$statistic),
                                                if (res$exact) "exact" else "asymptotic"), say_rows(ctx)),
           write_up = sprintf("The distributions of %s in %s and %s were compared with the Kolmogorov-Smirnov test, D = %s, %s (N = %s).%s",
               say_column(outcome_column(ctx)),
                              res$levels[1], res$levels[2], say_unit(n$statistic), say_p(n$p_value), say_number(n$n), write_rows(ctx)))
    },
    script = function(ctx, res) c(script_two_groups(ctx), sprintf("test <- suppressWarnings(ks.test(x, y, exact = %s))", res$exact),
      paste0("numbers <- list(statistic = test$statistic[[1]], p_value = test$p.value, conf_level =",
          " conf_level, n = length(x) + length(y), estimate = test$statistic[[1]])"), script_groups(ctx)),
    references = paste0("Smirnov, N. V. (1948). Table for estimating the goodness of fit of empirical",
        " distributions. Annals of Mathematical Statistics, 19, 279-281."),
    next_steps = next_two_groups)
}
