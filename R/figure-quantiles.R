# Quantiles of a column against those of the normal distribution.

figure_quantiles <- function(ctx, name) {
  y <- sort(as_plain_number(ctx$frame$data[[name]]))
  n <- length(y)
  label <- axis_label(ctx$columns[[name]])
  title <- sprintf("Quantiles of %s against a normal distribution", say_column(ctx$columns[[name]]))
  at <- if (n > 2000) unique(round(seq(1, n, length.out = 2000))) else seq_len(n)
  d <- data.frame(normal = stats::qnorm(stats::ppoints(n))[at], value = y[at])
  line <- c(intercept = mean(y), slope = stats::sd(y))
  new_figure("quantiles", title, "qq", subtitle = "On the line, the column is normal; bends show skew, ends show tails.",
             alt = sprintf("%s: points against a straight line.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$normal, y = .data$value)) +
      ggplot2::geom_abline(intercept = line[["intercept"]], slope = line[["slope"]], colour = quill_soft(), linewidth = 0.9) +
      ggplot2::geom_point(colour = quill_colours(1), size = if (n > 500) 1 else 2, alpha = 0.8) +
      ggplot2::labs(x = "Quantile of the standard normal distribution", y = label),
    script = c("plot_data <- data.frame(normal = qnorm(ppoints(n)), value = sort(v))",
               sprintf(paste0("plot <- ggplot(plot_data, aes(normal, value)) + geom_abline(intercept =",
                   " mean(v), slope = sd(v)) + geom_point() + labs(title = %s) + theme_minimal()"),
                       as_r_string(title))))
}

#' Quantiles of each group against a normal distribution, a panel a group
#' @param values List of doubles, one element a group. @param levels Names of the groups.
#' @noRd
figure_quantiles_groups <- function(ctx, name, values, levels) {
  label <- axis_label(ctx$columns[[name]])
  title <- sprintf("Quantiles of %s against a normal distribution, by %s", say_column(ctx$columns[[name]]), say_column(ctx$columns[[ctx$reading$by[1]]]))  # nolint: line_length_linter.
  some <- function(n) if (n > 1000) unique(round(seq(1, n, length.out = 1000))) else seq_len(n)
  panels <- factor(wrap_level(levels, 24), unique(wrap_level(levels, 24)))
  d <- do.call(rbind, lapply(seq_along(values), function(g) {
    y <- sort(values[[g]]); at <- some(length(y))
    data.frame(group = panels[g], normal = stats::qnorm(stats::ppoints(length(y)))[at], value = y[at])
  }))
  lines <- data.frame(group = panels, intercept = vapply(values, mean, 1), slope = vapply(values, stats::sd, 1))
  new_figure("quantiles", title, "qq", subtitle = "On the line, a group is normal; bends show skew, ends show tails.",
             alt = sprintf("%s: points against a straight line, a panel for each group.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$normal, y = .data$value)) +
      ggplot2::geom_abline(data = lines, ggplot2::aes(intercept = .data$intercept, slope = .data$slope), colour = quill_soft(), linewidth = 0.9) +
      ggplot2::geom_point(colour = quill_colours(1), size = 1.6, alpha = 0.8) + ggplot2::facet_wrap(ggplot2::vars(.data$group)) +
      ggplot2::labs(x = "Quantile of the standard normal distribution", y = label),
    script = c("plot_data <- do.call(rbind, lapply(levels(g), function(l) { u <- sort(v[g == l]); data.frame(group = l, normal = qnorm(ppoints(length(u))), value = u) }))",  # nolint: line_length_linter.
               sprintf("plot <- ggplot(plot_data, aes(normal, value)) + geom_point() + geom_qq_line(aes(sample = value), inherit.aes = FALSE) + facet_wrap(~ group) + labs(title = %s) + theme_minimal()",  # nolint: line_length_linter.
                       as_r_string(title))))
}
