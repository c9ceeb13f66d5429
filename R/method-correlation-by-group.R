#' @noRd
method_correlation_by_group <- function() {
  new_method(
    id = "correlation_by_group", name = "Pearson correlation in each group", tasks = "relate",
    fits = function(shape) if (isTRUE(shape$by_group)) new_fit(99, "The question asks for the relation of two columns within each group."),
    compute = compute_group_correlations, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = figure_group_scatter, sentences = say_group_correlations, script = script_group_correlations,
    references = c("Fisher, R. A. (1921). On the 'probable error' of a coefficient of correlation deduced from a small sample. Metron, 1, 3-32.",
                   "Rao, C. R. (1973). Linear Statistical Inference and Its Applications (2nd ed.), section 6f. Wiley."),
    next_steps = function(ctx, res) sprintf("Does the effect of %s on %s depend on %s?", ctx$reading$predictors[1], ctx$reading$outcome[1],
      ctx$reading$by[1]))
}

compute_group_correlations <- function(ctx) {
  x <- outcome_values(ctx); y <- outcome_values(ctx, ctx$reading$predictors[1]); g <- group_of(ctx)
  parts <- lapply(split(seq_along(x), g), function(i) {
    if (length(i) < 4) return(NULL)
    tryCatch(stat_pearson(x[i], y[i], ctx$conf_level), upbeatquill_error_data = function(e) NULL)
  })
  keep <- !vapply(parts, is.null, NA)
  if (!any(keep)) stop_data("No group has four rows in which both columns vary.", class = "too_few_rows")
  take <- function(id) vapply(parts[keep], `[[`, 1, id)
  table <- data.frame(group = levels(g)[keep], estimate = take("estimate"), ci_low = take("ci_low"), ci_high = take("ci_high"),
    p_value = take("p_value"), n = take("n"), stringsAsFactors = FALSE)
  z <- atanh(pmin(pmax(table$estimate, -1 + 1e-12), 1 - 1e-12)); w <- table$n - 3
  middle <- sum(w * z) / sum(w)
  q <- sum(w * (z - middle)^2); df <- sum(keep) - 1
  half <- stats::qnorm(1 - (1 - ctx$conf_level) / 2) / sqrt(sum(w))
  result(c(if (df > 0) list(new_number("statistic", "chi-square (do the groups differ)", q), new_number("df", "degrees of freedom", df),
    new_number("p_value", "p (do the groups differ)", stats::pchisq(q, df, lower.tail = FALSE))),
           list(new_number("estimate", "common correlation within groups", tanh(middle)), new_number("ci_low", "lower limit", tanh(middle - half)),
             new_number("ci_high", "upper limit", tanh(middle + half)),
                new_number("conf_level", "confidence level", ctx$conf_level), new_number("n", "rows used", sum(table$n)))),
         list(new_table("correlations", "Correlation in each group", `rownames<-`(table, NULL))), x = x, y = y, group = g)
}

say_group_correlations <- function(ctx, res) {
  t <- res$tables[[1]]$data; n <- res$number
  a <- say_column(outcome_column(ctx)); b <- say_column(ctx$columns[[ctx$reading$predictors[1]]])
  item <- sprintf("r = %s in %s (%s, n = %s)", say_unit(t$estimate), t$group, vapply(t$p_value, say_p, ""), say_number(t$n))
  differ <- if (is.null(n$p_value)) "" else sprintf(" The groups %s: chi-square(%s) = %s, %s.",
    if (n$p_value < 1 - ctx$conf_level) "differ" else "do not clearly differ", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
  within <- sprintf("r = %s (%s)", say_unit(n$estimate), say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit))
  # of many groups their common correlation is what is asked for
  many <- nrow(t) > 8
  list(headline = if (many) sprintf("Within the %s groups of %s taken together, %s and %s: %s.%s", say_number(nrow(t)),
                                    say_column(ctx$columns[[ctx$reading$by[1]]]), a, b, within, differ)
       else sprintf("%s and %s: %s.%s", capital(a), b, some_of(item, 6), differ),
       details = c(if (many) sprintf("In single groups r runs from %s to %s.", say_unit(min(t$estimate)), say_unit(max(t$estimate))) else
         sprintf("Within the groups taken together %s.", within), say_rows(ctx)),
       write_up = sprintf("The correlation of %s and %s was %s.%s%s", a, b, paste(item, collapse = "; "), differ, write_rows(ctx)))
}

figure_group_scatter <- function(ctx, res) {
  d <- data.frame(x = res$x, y = res$y, group = res$group)
  xcol <- outcome_column(ctx); ycol <- ctx$columns[[ctx$reading$predictors[1]]]
  title <- sprintf("%s against %s by %s", capital(say_column(ycol)), say_column(xcol), say_column(ctx$columns[[ctx$reading$by[1]]]))
  new_figure("scatter", title, "scatter", subtitle = "Lines: least squares in each group.",
    alt = sprintf("%s: one panel with points and a line for each group.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$x, y = .data$y)) + ggplot2::geom_point(colour = quill_colours(1),
      alpha = if (nrow(d) > 600) 0.3 else 0.6, size = 1.7) +
      ggplot2::geom_smooth(method = "lm", formula = y ~ x, se = FALSE, colour = quill_colours(2)[2], linewidth = 1) +
        ggplot2::facet_wrap(ggplot2::vars(.data$group), labeller = ggplot2::label_wrap_gen(24)) +
      ggplot2::labs(x = axis_label(xcol), y = axis_label(ycol)),
    script = c("plot_data <- data.frame(x = x, y = y, group = g)",
      sprintf(paste0("plot <- ggplot(plot_data, aes(x, y)) + geom_point() + geom_smooth(method = \"lm\", formula = y ~ x, se = FALSE) + ",
          "facet_wrap(~ group) + labs(title = %s) + theme_minimal()"), as_r_string(title))))
}

script_group_correlations <- function(ctx, res) {
  by <- ctx$reading$by
  c(sprintf("x <- %s; y <- %s", script_value(outcome_name(ctx)), script_value(ctx$reading$predictors[1])),
    sprintf("g <- %s", script_group(by)),
    paste0("one <- function(i) { if (length(i) < 4 || sd(x[i]) == 0 || sd(y[i]) == 0) return(NULL); t <- cor.test(x[i], y[i], conf.level = ",
        "conf_level); data.frame(estimate = unname(t$estimate), ci_low = t$conf.int[1], ci_high = t$conf.int[2], p_value = t$p.value, n = ",
        "length(i)) }"),
    "found <- do.call(rbind, lapply(split(seq_along(x), g), one)); tables <- list(correlations = found)",
    paste0("z <- atanh(found$estimate); w <- found$n - 3; m <- sum(w * z) / sum(w); df <- nrow(found) - 1; q <- sum(w * (z - m)^2); half <- ",
        "qnorm(1 - (1 - conf_level) / 2) / sqrt(sum(w))"),
    "numbers <- list(estimate = tanh(m), ci_low = tanh(m - half), ci_high = tanh(m + half), conf_level = conf_level, n = sum(found$n))",
    "if (df > 0) numbers <- c(numbers, list(statistic = q, df = df, p_value = pchisq(q, df, lower.tail = FALSE)))")
}
