# Two numeric columns.

figure_scatter <- function(ctx, x, y) {
  xcol <- ctx$columns[[x]]; ycol <- ctx$columns[[y]]
  title <- sprintf("%s against %s", capital(say_column(ycol)), say_column(xcol))
  marks <- if (length(ctx$frame$data[[x]]) <= 1000) " Ticks along the axes: how each column is spread." else ""
  new_figure("scatter", title, "scatter", subtitle = sprintf("Line: least squares with its %s band.%s", say_level(ctx$conf_level), marks),
                                                             alt = sprintf("%s, points with a fitted line.", title),
             draw = function() draw_scatter(ctx, x, y), script = script_scatter_figure(x, y, axis_label(xcol),
                 axis_label(ycol), title))
}

draw_scatter <- function(ctx, x, y) {
  d <- data.frame(x = as_plain_number(ctx$frame$data[[x]]), y = as_plain_number(ctx$frame$data[[y]]))
  band <- line_band(d$x, d$y, ctx$conf_level)
  many <- nrow(d) > 5000
  points <- if (many) ggplot2::geom_bin_2d(data = d, ggplot2::aes(x = .data$x, y = .data$y), bins = 60)
            else ggplot2::geom_point(data = d, ggplot2::aes(x = .data$x, y = .data$y),
                                     alpha = if (nrow(d) > 400) 0.35 else 0.6, size = 1.9, shape = 16,
                                     colour = quill_colours(1))
  plot <- ggplot2::ggplot() + points +
    ggplot2::geom_ribbon(data = band, ggplot2::aes(x = .data$x, ymin = .data$low, ymax = .data$high),
                         fill = quill_colours(2)[2], alpha = 0.18) +
    ggplot2::geom_line(data = band, ggplot2::aes(x = .data$x, y = .data$fit), colour = quill_colours(2)[2],
                       linewidth = 1.1) +
    ggplot2::labs(x = axis_label(ctx$columns[[x]]), y = axis_label(ctx$columns[[y]]))
  if (nrow(d) <= 1000) plot <- plot + ggplot2::geom_rug(data = d, ggplot2::aes(x = .data$x, y = .data$y), colour = quill_soft(), alpha = 0.5,
                                                        length = grid::unit(5, "pt"))
  if (many) plot + ggplot2::scale_fill_gradient(low = "#DCE5EC", high = quill_colours(1), name = "rows") else plot
}

as_plain_number <- function(v) if (is.factor(v)) level_numbers(v) else as.double(v)

line_band <- function(x, y, conf_level) {
  at <- seq(min(x), max(x), length.out = 60)
  m <- mean(x); z <- x - m
  fit <- stat_least_squares(cbind(1, z), y)
  if (anyNA(fit$coefficients)) return(data.frame(x = at, fit = mean(y), low = NA_real_, high = NA_real_))
  hat <- fit$coefficients[1] + fit$coefficients[2] * (at - m)
  se <- fit$sigma * sqrt(1 / length(x) + (at - m)^2 / sum(z^2))
  half <- stats::qt(1 - (1 - conf_level) / 2, fit$df) * se
  data.frame(x = at, fit = hat, low = hat - half, high = hat + half)
}

script_scatter_figure <- function(x, y, xlab, ylab, title) {
  c(sprintf("plot_data <- data.frame(x = as.numeric(%s), y = as.numeric(%s))", script_value(x), script_value(y)),
    "plot <- ggplot(plot_data, aes(x, y)) + geom_point(alpha = 0.6) + geom_smooth(method = \"lm\", formula = y ~ x) +",
    "  geom_rug(alpha = 0.4) +", sprintf("  labs(x = %s, y = %s, title = %s) + theme_minimal()", as_r_string(xlab), as_r_string(ylab),
            as_r_string(title)))
}

#' What a model fitted against what was observed
#' @noRd
figure_fitted <- function(ctx, fitted, y, title) {
  d <- data.frame(fitted = fitted, observed = as_plain_number(ctx$frame$data[[y]]))
  label <- axis_label(ctx$columns[[y]])
  new_figure("fitted", title, "scatter", subtitle = "Each point is a row; on the line the model is right.",
             alt = sprintf("%s: observed against fitted values.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$fitted, y = .data$observed)) +
      ggplot2::geom_abline(slope = 1, intercept = 0, colour = quill_colours(2)[2], linewidth = 1) +
      ggplot2::geom_point(alpha = 0.55, size = 1.9, shape = 16, colour = quill_colours(1)) +
      ggplot2::labs(x = paste("Fitted:", label), y = paste("Observed:", label)),
    script = c("plot_data <- data.frame(fitted = fitted(fit), observed = fitted(fit) + resid(fit))",
               "plot <- ggplot(plot_data, aes(fitted, observed)) + geom_abline() + geom_point(alpha = 0.6) +",
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}

#' Points with a bent line and its band
#' @noRd
draw_curve <- function(d, band, xlab, ylab) {
  ggplot2::ggplot() + ggplot2::geom_point(data = d, ggplot2::aes(x = .data$x, y = .data$y),
      alpha = if (nrow(d) > 400) 0.35 else 0.6, size = 1.9, shape = 16, colour = quill_colours(1)) +
    ggplot2::geom_ribbon(data = band, ggplot2::aes(x = .data$x, ymin = .data$low, ymax = .data$high), fill = quill_colours(2)[2], alpha = 0.18) +
    ggplot2::geom_line(data = band, ggplot2::aes(x = .data$x, y = .data$fit), colour = quill_colours(2)[2],
        linewidth = 1.1) + ggplot2::labs(x = xlab, y = ylab)
}
