#' @noRd
method_correlation_by_group <- function() {
  new_method(
    id = "correlation_by_group", name = "Pearson correlation in each group", tasks = "relate",
    fits = function(shape) if (isTRUE(shape$by_group)) new_fit(99, "The question asks for the relation of two columns within each group."),
    compute = compute_group_correlations, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = figure_group_scatter, sentences = say_group_correlations, script = script_group_correlations,
    references = c("Fisher, R. A. (1921). On the 'probable error' of a coefficient of correlation deduced from a small sample. Metron, 1, 3-32.",
                   "Bland, J. M., & Altman, D. G. (1995). Calculating correlation coefficients with repeated observations: Part 1. BMJ, 310, 446.",
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
  if (mean(keep) < 0.5) return(pooled_within(ctx, x, y, g))
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

#' The correlation of what is left when each group's means are taken off: for units with a few rows each
#'
#' @section Source: Bland, J. M. and Altman, D. G. (1995). Calculating correlation coefficients with repeated observations: part 1. BMJ 310, 446;
#'   degrees of freedom: rows less groups less one.
#' @noRd
pooled_within <- function(ctx, x, y, g) {
  several <- tabulate(g, nlevels(g))[as.integer(g)] > 1
  x <- x[several]; y <- y[several]; g <- droplevels(g[several])
  k <- nlevels(g); df <- length(x) - k - 1
  if (k < 2 || df < 3) stop_data("Too few groups have several rows to tell a relation within them.", class = "too_few_rows")
  a <- x - stats::ave(x, g); b <- y - stats::ave(y, g)
  if (sum(a^2) <= 1e-12 * sum(x^2) || sum(b^2) <= 1e-12 * sum(y^2)) stop_data("Within the groups one of the columns does not vary.",
                                                                           class = "outcome_constant")
  r <- sum(a * b) / sqrt(sum(a^2) * sum(b^2))
  t <- r * sqrt(df / max(1 - r^2, .Machine$double.eps))
  half <- stats::qnorm(1 - (1 - ctx$conf_level) / 2) / sqrt(df - 1)
  result(list(new_number("statistic", "t", t), new_number("df", "degrees of freedom", df), new_number("p_value", "p", 2 * stats::pt(-abs(t), df)),
              new_number("estimate", "correlation within groups", r), new_number("ci_low", "lower limit", tanh(atanh(r) - half)),
              new_number("ci_high", "upper limit", tanh(atanh(r) + half)), new_number("conf_level", "confidence level", ctx$conf_level),
              new_number("n", "rows used", length(x)), new_number("groups", "groups with several rows", k)),
         list(), x = x, y = y, group = g, pooled = TRUE, direction = sign(r))
}

say_pooled_within <- function(ctx, res) {
  n <- res$number
  a <- say_column(outcome_column(ctx)); b <- say_column(ctx$columns[[ctx$reading$predictors[1]]]); by <- say_column(ctx$columns[[ctx$reading$by[1]]])
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  found <- sprintf("r = %s (%s), %s", say_unit(n$estimate), say_interval(n$ci_low, n$ci_high, ctx$conf_level, say_unit), say_p(n$p_value))
  list(headline = if (clear) sprintf("Within the same %s, where %s is higher than usual, %s tends to be %s: %s.", by, a, b,
                                     if (n$estimate > 0) "higher" else "lower", found)
       else sprintf("Within the same %s there is no clear relation between %s and %s: %s.", by, a, b, found),
       details = c(sprintf("Each %s is set against its own means (%s of them, %s rows); differences between them play no part.", by,
           say_number(n$groups),
                           say_number(n$n)), say_rows(ctx)),
       write_up = sprintf("The correlation of %s and %s within %s, differences between them removed, was %s (t(%s) = %s, %s rows of %s).%s", a, b,
           by, found,
                          say_df(n$df), say_number(n$statistic, 2), say_number(n$n), say_number(n$groups), write_rows(ctx)))
}

script_pooled_within <- function(ctx) {
  c(sprintf("x <- %s; y <- %s; g <- %s", script_value(outcome_name(ctx)), script_value(ctx$reading$predictors[1]), script_group(ctx$reading$by)),
    "several <- table(g)[as.character(g)] > 1; x <- x[several]; y <- y[several]; g <- droplevels(factor(g[several])); tables <- list()",
    "# each group's own level is a factor of the model; the slope that is left is that within groups",
    "full <- lm(y ~ g + x); df <- df.residual(full); t <- summary(full)$coefficients[\"x\", 3]; r <- t / sqrt(t^2 + df)",
    "half <- qnorm(1 - (1 - conf_level) / 2) / sqrt(df - 1)",
    paste0("numbers <- list(statistic = t, df = df, p_value = 2 * pt(-abs(t), df), estimate = r, ci_low = tanh(atanh(r) - half), ",
           "ci_high = tanh(atanh(r) + half), conf_level = conf_level, n = length(x), groups = nlevels(g))"))
}

say_group_correlations <- function(ctx, res) {
  if (isTRUE(res$pooled)) return(say_pooled_within(ctx, res))
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
  if (isTRUE(res$pooled)) return(figure_within(ctx, res))
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

#' Every row as its distance from its group's means
#' @noRd
figure_within <- function(ctx, res) {
  d <- data.frame(x = res$x - stats::ave(res$x, res$group), y = res$y - stats::ave(res$y, res$group))
  xcol <- outcome_column(ctx); ycol <- ctx$columns[[ctx$reading$predictors[1]]]; by <- say_column(ctx$columns[[ctx$reading$by[1]]])
  title <- sprintf("%s against %s within %s", capital(say_column(ycol)), say_column(xcol), by)
  new_figure("scatter", title, "scatter", subtitle = sprintf("Each point: a row less the means of its own %s; line: least squares.", by),
    alt = sprintf("%s: points about zero with a line.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$x, y = .data$y)) + ggplot2::geom_hline(yintercept = 0, colour = "#C9D0D6") +
      ggplot2::geom_vline(xintercept = 0, colour = "#C9D0D6") + ggplot2::geom_point(colour = quill_colours(1), alpha = 0.65, size = 2) +
      ggplot2::geom_smooth(method = "lm", formula = y ~ x - 1, colour = quill_colours(2)[2], fill = quill_colours(2)[2], alpha = 0.18) +
      ggplot2::labs(x = paste(axis_label(xcol), "less own mean"), y = paste(axis_label(ycol), "less own mean")),
    script = c("plot_data <- data.frame(x = x - ave(x, g), y = y - ave(y, g))",
               sprintf("plot <- ggplot(plot_data, aes(x, y)) + geom_point() + geom_smooth(method = \"lm\", formula = y ~ x - 1) + labs(title = %s) + theme_minimal()",  # nolint: line_length_linter.
                       as_r_string(title))))
}

script_group_correlations <- function(ctx, res) {
  if (isTRUE(res$pooled)) return(script_pooled_within(ctx))
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
