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
