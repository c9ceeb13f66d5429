# The shape within groups against the normal distribution.

#' @noRd
method_shapiro_within_groups <- function() {
  new_method(
    id = "shapiro_within_groups", name = "Shapiro-Wilk test within groups", tasks = "distribution",
    fits = function(shape) if (shape$task == "distribution" && shape$n_outcome == 1 && shape$n_by == 1 && isTRUE(shape$normality) &&
      shape$outcome_kind %in% c("number", "count", "ordered")) new_fit(95, "The question asks for the shape of the column within groups."),
    compute = compute_shapiro_groups, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) if (length(res$parts) <= 30) figure_quantiles_groups(ctx, outcome_name(ctx), res$parts, names(res$parts)),
    sentences = say_shapiro_groups, script = script_shapiro_groups,
    references = c("Shapiro, S. S., & Wilk, M. B. (1965). An analysis of variance test for normality. Biometrika, 52, 591-611.",
                   "Royston, P. (1995). Remark AS R94. Applied Statistics, 44, 547-551."),
    next_steps = function(ctx, res) c(sprintf("Compare %s by %s", outcome_name(ctx), ctx$reading$by[1]),
                                      sprintf("Show the distribution of %s", outcome_name(ctx))))
}

compute_shapiro_groups <- function(ctx) {
  x <- outcome_values(ctx)
  group <- as_group(ctx$frame$data[[ctx$reading$by[1]]])
  parts <- split(x, group, drop = TRUE)
  spread <- vapply(parts, function(v) length(v) >= 3 && length(v) <= 5000 && diff(range(v)) > 0, NA)
  if (!any(spread)) stop_data("No group has three different values, so its shape cannot be told.", class = "too_few_rows")
  tests <- lapply(parts[spread], stat_shapiro_wilk)
  p <- vapply(tests, `[[`, 1, "p_value")
  moments <- lapply(parts[spread], stat_group_moments)
  table <- data.frame(group = names(parts)[spread], n = lengths(parts)[spread], statistic = vapply(tests, `[[`, 1, "statistic"), p_value = p,
                      p_adjusted = stats::p.adjust(p, "holm"), skewness = vapply(moments, function(m) skewness_from_moments(m)[[1]], 1),
                          stringsAsFactors = FALSE,
                      row.names = NULL)
  residuals <- x - stats::ave(x, group)
  pooled <- if (length(residuals) <= 5000) stat_shapiro_wilk(residuals)
  result(c(if (!is.null(pooled)) list(new_number("statistic", "W of the deviations from the group means", pooled$statistic),
                                      new_number("p_value", "p", pooled$p_value)),
           list(new_number("n", "rows used", length(x)), new_number("groups", "groups tested", sum(spread)),
                new_number("conf_level", "confidence level", ctx$conf_level))),
         tables = list(new_table("groups", "Shape in each group", table)), shapes = table, parts = parts[spread],
         left_out = names(parts)[!spread], direction = NA_real_)
}

say_shapiro_groups <- function(ctx, res) {
  n <- res$number; t <- res$shapes; y <- say_column(outcome_column(ctx)); by <- say_column(ctx$columns[[ctx$reading$by[1]]])
  clear <- t$group[t$p_adjusted < 1 - ctx$conf_level]
  headline <- if (length(clear)) sprintf("%s is not normally distributed in %s of the %d groups of %s (%s), all groups allowed for.", capital(y),
      if (length(clear) == nrow(t)) "any" else length(clear), nrow(t), by, some_of(clear, 4))
    else sprintf("%s is compatible with a normal distribution in every group of %s: smallest adjusted %s.", capital(y), by, say_p(min(t$p_adjusted)))
  pooled <- if (!is.null(n$statistic)) sprintf("The deviations from the group means together: W = %s, %s.", say_number(n$statistic, 3),
      say_p(n$p_value))
  list(headline = headline,
       details = c(some_of(sprintf("%s: W = %s, %s, n = %s", t$group, say_number(t$statistic, 3), vapply(t$p_value, say_p, ""), say_number(t$n)), 8),
                   pooled, if (length(res$left_out)) sprintf("Not tested for want of different values: %s.", some_of(res$left_out, 6)),
                       say_rows(ctx)),
       write_up = sprintf("Normality of %s within the groups of %s was examined with Shapiro-Wilk tests (Holm-adjusted; n = %s).%s", y, by,
                          say_number(n$n), write_rows(ctx)))
}

script_shapiro_groups <- function(ctx, res) {
  c(sprintf("v <- %s; g <- droplevels(factor(%s))", script_value(outcome_name(ctx)), script_column(ctx$reading$by[1])),
    sprintf("parts <- split(v, g)[%s]", as_r_strings(res$shapes$group)),
        "tests <- lapply(parts, shapiro.test); p <- sapply(tests, `[[`, \"p.value\")",
    paste0("skew <- function(x) { n <- length(x); d <- x - mean(x); sqrt(n * (n - 1)) / (n - 2) * mean(d^3) / mean(d^2)^1.5 }"),
    "tables <- list(groups = data.frame(n = lengths(parts), statistic = sapply(tests, function(t) t$statistic[[1]]), p_value = p,",
    "  p_adjusted = p.adjust(p, \"holm\"), skewness = sapply(parts, skew)))",
    "numbers <- list(n = length(v), groups = length(parts), conf_level = conf_level)",
    if (!is.null(res$number$statistic)) c("pooled <- shapiro.test(v - ave(v, g)); numbers$statistic <- pooled$statistic[[1]]",
                                          "numbers$p_value <- pooled$p.value"))
}
