# Dots with their intervals: a share or a mean of each group.

#' The figure of dots with their intervals, and its lines of the script
#' @param script Lines that lay out `plot_data`, with ci_low and ci_high.
#' @param mapping What is drawn along and up, as the script writes it: "share, group".
#' @param of What a dot stands for.
#' @inheritParams draw_interval_dots
#' @noRd
figure_interval_dots <- function(id, title, subtitle, d, x, script, mapping, y = NULL, legend = NULL, shares = FALSE, of = "group") {
  new_figure(id, title, "dot", subtitle = subtitle, alt = sprintf("%s: a dot with its interval for each %s.", title, of),
    draw = function() draw_interval_dots(d, x, y, legend, shares),
    script = c(script, sprintf("plot <- ggplot(plot_data, aes(%s)) + %s +", mapping, if (all(is.na(d$low))) "geom_point()" else
      "geom_pointrange(aes(xmin = ci_low, xmax = ci_high))"),
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}

#' One line a group, with a dot and its interval for each level that is shown in it
#' @param d Data frame with group (factor), value, low and high; and level (factor) where a group may hold several dots.
#' @param x,y,legend Titles of the axes and of the levels; `NULL` for none.
#' @param shares Are the values shares of one? They are drawn as percentages, from 0.
#' @param wrap Letters after which names of groups go on in a new line.
#' @noRd
draw_interval_dots <- function(d, x, y = NULL, legend = NULL, shares = FALSE, wrap = 26) {
  d$level <- if (is.null(d$level)) factor(rep("all", nrow(d))) else droplevels(d$level)
  count <- nlevels(d$level)
  guide <- if (count > 1) ggplot2::guide_legend(legend) else "none"
  dodge <- ggplot2::position_dodge(width = 0.6)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$value, y = .data$group, colour = .data$level, shape = .data$level)) +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), position = dodge, linewidth = 0.9, na.rm = TRUE) +
    ggplot2::geom_point(position = dodge, size = 3) +
    ggplot2::scale_colour_manual(values = quill_colours(count), guide = guide) +
    ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4, 3, 7), count), guide = guide) +
    ggplot2::scale_y_discrete(labels = function(v) wrap_level(v, wrap)) + ggplot2::labs(x = x, y = y)
  if (!shares) return(plot)
  plot + ggplot2::scale_x_continuous(labels = function(v) paste(round(100 * v), "%"), limits = c(0, NA))
}
