#' @noRd
method_contrast <- function() {
  new_method(
    id = "contrast", name = "Planned contrast of means", tasks = "compare",
    fits = function(shape) if (isTRUE(shape$contrasted)) fits_several_groups(shape, 96,
      "The question sets one group, or the mean of several, against the mean of others; every group keeps its own spread."),
    compute = compute_contrast, checks = function(ctx, res) several_group_checks(ctx, res),
    second = "anova_welch", figure = function(ctx, res) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1]),
    sentences = say_contrast, script = script_contrast,
    references = "Satterthwaite, F. E. (1946). An approximate distribution of estimates of variance components. Biometrics Bulletin, 2, 110-114.",
    next_steps = next_several_groups)
}

compute_contrast <- function(ctx) {
  s <- several_groups(ctx)
  sides <- ctx$reading$extra$contrast
  weights <- ifelse(s$levels %in% sides[[1]], 1 / sum(s$levels %in% sides[[1]]), 0) - ifelse(s$levels %in% sides[[2]], 1 / sum(s$levels %in%
    sides[[2]]), 0)
  if (!all(unlist(sides) %in% s$levels)) stop_data(sprintf("These rows hold nothing of %s.", some_of(quoted(setdiff(unlist(sides), s$levels)))),
    class = "one_group")
  out <- stat_contrast(s$moments, weights, ctx$conf_level, ctx$alternative)
  label <- vapply(sides, function(l) if (length(l) == 1) l else sprintf("the mean of %s", some_of(l, 5)), "")
  result(test_numbers(out, "t", sprintf("%s minus %s", label[1], label[2]), ctx$conf_level),
         tables = list(groups_table(ctx), new_table("contrast", "Weights of the contrast", data.frame(level = s$levels, weight = weights))),
         levels = s$levels, values = s$values, moments = s$moments, label = label, weights = weights)
}

say_contrast <- function(ctx, res) {
  n <- res$number
  unit <- outcome_column(ctx)$unit
  y <- say_column(outcome_column(ctx))
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  value <- sprintf("%s (%s)", with_unit(say_number(n$estimate), unit), say_interval(n$ci_low, n$ci_high, ctx$conf_level))
  test <- sprintf("t(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
  list(headline = sprintf("%s %s between %s and %s: difference %s, %s.", capital(y), if (clear) "differs" else "does not clearly differ",
    res$label[1], res$label[2],
                          value, say_p(n$p_value)),
       details = c("The groups on one side count alike, whatever their numbers of rows.", say_rows(ctx)),
       write_up = sprintf("A planned contrast compared %s between %s and %s (%s): difference %s, %s.%s", y, res$label[1], res$label[2],
         write_groups(res), value, test,
                          write_rows(ctx)))
}

script_contrast <- function(ctx, res) {
  c(script_several_groups(ctx), sprintf("w <- %s; used <- w != 0", paste0("c(", paste(as_r_number(res$weights), collapse = ", "), ")")),
    paste0("part <- (w^2 * spreads / size)[used]; se <- sqrt(sum(part)); df <- sum(part)^2 / sum(part^2 / (size[used] - 1)); estimate <- sum(w ",
        "* means); t <- estimate / se"),
    switch(ctx$alternative, two_sided = "p <- 2 * pt(-abs(t), df); limits <- estimate + c(-1, 1) * qt(1 - (1 - conf_level) / 2, df) * se",
           greater = "p <- pt(t, df, lower.tail = FALSE); limits <- c(estimate - qt(conf_level, df) * se, Inf)",
           less = "p <- pt(t, df); limits <- c(-Inf, estimate + qt(conf_level, df) * se)"),
    paste0("numbers <- list(statistic = t, df = df, p_value = p, estimate = estimate, se = se, ci_low = limits[1], ci_high = limits[2], ",
        "conf_level = conf_level, n = sum(size[used]))"),
    "tables$contrast <- data.frame(weight = w)", script_groups(ctx))
}
