#' @noRd
method_ancova <- function() {
  new_method(
    id = "ancova", name = "Analysis of covariance", tasks = c("compare", "predict"),
    fits = function(shape) {
      groups <- c(shape$by_kinds, shape$predictor_kinds)
      ok <- shape$task %in% c("compare",
          "predict") && shape$n_outcome == 1 && length(groups) == 1 && groups %in% c("category", "yes_no", "ordered") && length(shape$adjust) >= 1 &&
        shape$outcome_kind %in% c("number", "count", "ordered") && !isTRUE(shape$paired)
      if (ok) new_fit(if (isTRUE(shape$adjust_numeric)) 84 else 40, "Groups are compared with a measured covariate held constant.")
    },
    compute = compute_ancova,
    checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
        check_same_slopes(res$slopes), check_residual_normal(res$fit$residuals),
                                     check_equal_spread(unname(split(res$fit$residuals, res$group)), levels(res$group),
                                         TRUE), check_influence_fit(res$fit)),
    second = "linear_regression_hc3", figure = function(ctx, res) figure_adjusted(ctx, res), sentences = say_ancova, script = script_ancova,
    references = c("Cochran, W. G. (1957). Analysis of covariance: Its nature and uses. Biometrics, 13, 261-281."),
    next_steps = function(ctx, res) c(sprintf("Does %s differ by %s?", outcome_name(ctx), res$by),
        sprintf("Describe %s by %s", outcome_name(ctx), res$by)))
}

compute_ancova <- function(ctx) {
  by <- unique(c(ctx$reading$by, ctx$reading$predictors))[1]
  covariates <- ctx$reading$adjust_for
  group <- as_group(ctx$frame$data[[by]])
  if (nlevels(group) < 2) stop_data(sprintf("%s has only one level in these rows.", quoted(by)), class = "one_group")
  columns <- need_two_levels(lapply(stats::setNames(covariates, covariates), function(n) { v <- ctx$frame$data[[n]]
    if (is.factor(v) && ctx$columns[[n]]$kind != "ordered") droplevels(v) else if (is.character(v)) as_group(v) else as_plain_number(v) }))
  y <- outcome_values(ctx)
  need_spread(stat_group_moments(y)[, "m2"])
  out <- stat_ancova(y, group, columns, ctx$conf_level)
  pairs <- pairs_table(out$pairs, levels(group), "Pairs of adjusted means (Holm)")
  means <- data.frame(levels(group), n = tabulate(group, nlevels(group)), mean = as.vector(tapply(y, group, mean)),
      adjusted_mean = out$adjusted, se = out$adjusted_se, ci_low = out$adjusted_low, ci_high = out$adjusted_high,
                      stringsAsFactors = FALSE)
  names(means)[1] <- if (by %in% names(means)[-1]) paste(by, "(column)") else by
  two <- nlevels(group) == 2
  result(c(list(new_number("statistic", sprintf("F of %s", by), out$statistic),
      new_number("df1", "df (groups)", out$df1), new_number("df2", "df (residuals)", out$df2), new_number("p_value", "p", out$p_value)),
           if (two) list(new_number("estimate", sprintf("adjusted difference, %s minus %s", levels(group)[1],
               levels(group)[2]), out$pairs$estimate), new_number("se", "standard error", out$pairs$se),
                         new_number("ci_low", "lower limit", out$pairs$ci_low), new_number("ci_high", "upper limit", out$pairs$ci_high)),
           list(new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", length(y)),
               new_number("partial_eta_squared", "partial eta squared", out$partial_eta_squared)),
           limit_numbers("partial_eta_squared", "partial eta squared", stat_share_limits(out$statistic, out$df1, out$df2, ctx$conf_level)),
           list(new_number("slopes_f", "F of unequal slopes", out$slopes$statistic), new_number("slopes_p",
                    "p of unequal slopes", out$slopes$p_value))),
         tables = compact(list(new_table("groups", sprintf("%s by %s, adjusted", outcome_name(ctx), by), means), pairs,
             new_table("anova", "Analysis of covariance (type II)", out$anova))),
         by = by, covariates = columns, group = group, means = means, pairs = pairs, fit = out$fit, slopes = out$slopes,
             levels = levels(group), direction = if (two) sign(out$pairs$estimate) else NA_real_)
}

say_ancova <- function(ctx, res) {
  n <- res$number; unit <- outcome_column(ctx)$unit
  y <- say_column(outcome_column(ctx)); held <- some_of(vapply(ctx$columns[names(res$covariates)], say_column, ""), 4)
  m <- res$means; shown <- with_unit(say_alike(m$adjusted_mean), unit); high <- which.max(m$adjusted_mean); low <- which.min(m$adjusted_mean)
  test <- sprintf("F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
  headline <- sprintf("With %s held constant, %s %s by %s: adjusted means from %s (%s) to %s (%s), %s.", held, y,
      if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differs" else "does not clearly differ",
                      say_column(ctx$columns[[res$by]]), shown[low], res$levels[low], shown[high], res$levels[high], say_p(n$p_value))
  list(headline = headline, details = c(sprintf("%s; partial eta squared %s: %s.", test,
      paste0(say_unit(n$partial_eta_squared), say_effect_limits(n, "partial_eta_squared", ctx$conf_level)), say_size(n$partial_eta_squared, "eta")),
                                        say_pairs(res$pairs, 1 - ctx$conf_level, unit), say_rows(ctx)),
       write_up = sprintf(paste0("%s was compared between groups of %s in an analysis of covariance with %s",
           " as covariate: %s, partial eta squared = %s; adjusted means %s.%s"), capital(y),
                          say_column(ctx$columns[[res$by]]), held, test, say_unit(n$partial_eta_squared), paste(sprintf("%s (%s)",
                              shown, res$levels), collapse = ", "), write_rows(ctx)))
}

script_ancova <- function(ctx, res) {
  inner <- sprintf("c%d", seq_along(res$covariates))
  set <- vapply(seq_along(inner), function(i) { name <- names(res$covariates)[i]
    sprintf("%s <- %s", inner[i], if (is.factor(res$covariates[[i]])) sprintf("droplevels(factor(%s))",
        script_column(name)) else script_value(name)) }, "")
  right <- paste(inner, collapse = " + ")
  c(sprintf("y <- %s; g <- droplevels(factor(%s)); n <- length(y); k <- nlevels(g)", script_value(outcome_name(ctx)), script_column(res$by)), set,
    sprintf(paste0("fit <- lm(y ~ g + %s); slopes <- anova(fit, lm(y ~ g * (%s))); drops <- drop1(fit, test",
        " = \"F\"); rss <- sum(resid(fit)^2); df <- fit$df.residual"), right, right),
    "ss <- c(drops$`Sum of Sq`[-1], rss); dfs <- c(drops$Df[-1], df); f <- c(drops$`F value`[-1], NA); p <- c(drops$`Pr(>F)`[-1], NA)",
    "tables <- list(groups = NULL); eta <- ss[1] / (ss[1] + rss)",
    "# means of the groups at the mean of the covariates: rows of the model matrix, averaged",
    paste0("x <- model.matrix(fit); at <- t(vapply(levels(g), function(l) { row <- colMeans(x);",
        " row[seq_len(k)] <- c(1, as.numeric(levels(g)[-1] == l)); row }, numeric(ncol(x))))"),
    "v <- vcov(fit); adjusted <- drop(at %*% coef(fit)); se <- sqrt(diag(at %*% v %*% t(at))); half <- qt(1 - (1 - conf_level) / 2, df)",
    paste0("tables$groups <- data.frame(n = as.vector(table(g)), mean = as.vector(tapply(y, g, mean)),",
        " adjusted_mean = adjusted, se = se, ci_low = adjusted - half * se, ci_high = adjusted + half *",
        " se)"),
    paste0("pair <- combn(k, 2); contrast <- at[pair[1, ], , drop = FALSE] - at[pair[2, ], , drop = FALSE];",
        " d <- drop(contrast %*% coef(fit)); dse <- sqrt(diag(contrast %*% v %*% t(contrast))); dp <- 2",
        " * pt(-abs(d / dse), df)"),
    paste0("if (k <= 30) tables$pairs <- data.frame(estimate = d, ci_low = d - half * dse, ci_high = d +",
        " half * dse, p_value = dp, p_adjusted = p.adjust(dp, \"holm\"))"),
    "tables$anova <- data.frame(df = dfs, sum_sq = ss, mean_sq = ss / dfs, statistic = f, p_value = p)",
    paste0("numbers <- list(statistic = f[1], df1 = dfs[1], df2 = df, p_value = p[1], conf_level =",
        " conf_level, n = n, partial_eta_squared = eta, slopes_f = slopes$F[2], slopes_p =",
        " slopes$`Pr(>F)`[2])"), script_share_limits("partial_eta_squared"),
    if (length(res$levels) == 2) paste0("numbers <- c(numbers, list(estimate = d[1], se = dse[1], ci_low =",
        " d[1] - half * dse[1], ci_high = d[1] + half * dse[1]))"))
}

#' Adjusted means with their intervals
#' @noRd
figure_adjusted <- function(ctx, res) {
  d <- data.frame(group = factor(res$levels, rev(res$levels)), value = res$means$adjusted_mean, low = res$means$ci_low, high = res$means$ci_high)
  title <- sprintf("%s by %s, with %s held constant", capital(say_column(outcome_column(ctx))),
      say_column(ctx$columns[[res$by]]), some_of(vapply(ctx$columns[names(res$covariates)], say_column, ""), 3))
  figure_interval_dots("adjusted", title, sprintf("Adjusted means with %s intervals.", say_level(ctx$conf_level)), d,
                       axis_label(outcome_column(ctx)), "plot_data <- data.frame(group = levels(g), tables$groups)", "adjusted_mean, group")
}
