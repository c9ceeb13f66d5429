# Means over one grouping, a line for each level of another.

figure_interaction <- function(ctx, res) {
  by <- ctx$reading$by
  y <- ctx$columns[[ctx$reading$outcome[1]]]
  title <- sprintf("%s by %s and %s", capital(say_column(y)), say_column(ctx$columns[[by[1]]]),
                   say_column(ctx$columns[[by[2]]]))
  d <- res$tables[[1]]$data
  d <- data.frame(a = factor(d[[1]], unique(d[[1]])), b = factor(d[[2]], unique(d[[2]])), mean = d$mean,
                  half = stats::qt(1 - (1 - ctx$conf_level) / 2, pmax(d$n - 1, 1)) * d$se)
  dodge <- function() ggplot2::position_dodge(width = 0.25)
  new_figure("interaction", title, "line", subtitle = sprintf("Means with %s intervals.", say_level(ctx$conf_level)),
             alt = sprintf("%s: a line of means for each level.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$a, y = .data$mean, colour = .data$b, shape = .data$b,
                                                      group = .data$b)) + ggplot2::geom_line(position = dodge(),
                                                          linewidth = 0.8) +
      ggplot2::geom_linerange(ggplot2::aes(ymin = .data$mean - .data$half, ymax = .data$mean + .data$half),
                              position = dodge(), na.rm = TRUE) + ggplot2::geom_point(position = dodge(), size = 3) +
      ggplot2::scale_colour_manual(values = quill_colours(nlevels(d$b)), name = axis_label(ctx$columns[[by[2]]])) +
      ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4), nlevels(d$b)),
                                  name = axis_label(ctx$columns[[by[2]]])) +
      ggplot2::labs(x = axis_label(ctx$columns[[by[1]]]), y = axis_label(y)),
    script = c("plot_data <- aggregate(list(mean = y), list(a = f1, b = f2), mean)",
               sprintf(paste0("plot <- ggplot(plot_data, aes(a, mean, colour = b, group = b)) + geom_line() + ",
                              "geom_point() + labs(title = %s) + theme_minimal()"), as_r_string(title))))
}
