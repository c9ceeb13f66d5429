# One column by itself.

figure_histogram <- function(ctx, x) {
  col <- ctx$columns[[x]]
  title <- sprintf("Distribution of %s", say_column(col))
  new_figure("distribution", title, "histogram", alt = sprintf("%s as a histogram.", title),
             subtitle = "Solid line: mean. Dashed line: median.",
    draw = function() draw_histogram(as_plain_number(ctx$frame$data[[x]]), axis_label(col)),
    script = c(sprintf("plot_data <- data.frame(x = %s)", script_value(x)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(x)) + geom_histogram(bins = 30) + labs(x = %s, y = ",
                              "\"Rows\", title = %s) + theme_minimal()"), as_r_string(axis_label(col)),
                              as_r_string(title))))
}

draw_histogram <- function(x, label) {
  breaks <- histogram_breaks(x)
  lines <- data.frame(at = c(mean(x), stats::median(x)), what = c("mean", "median"))
  ggplot2::ggplot(data.frame(x = x), ggplot2::aes(x = .data$x)) +
    ggplot2::geom_histogram(breaks = breaks, fill = quill_colours(1), colour = "white", linewidth = 0.3) +
    ggplot2::geom_vline(data = lines, ggplot2::aes(xintercept = .data$at, linetype = .data$what),
                        colour = quill_colours(2)[2], linewidth = 0.9, show.legend = FALSE) +
    ggplot2::scale_linetype_manual(values = c(mean = "solid", median = "22")) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.05))) + ggplot2::labs(x = label, y = "Rows")
}

#' Bars at whole numbers for whole numbers, else widths by the Freedman-Diaconis rule
#' @param bins A number of bars that was asked for, or NULL.
#' @noRd
histogram_breaks <- function(x, bins = NULL) {
  if (!is.null(bins) && diff(range(x)) > 0) return(seq(min(x), max(x), length.out = bins + 1))
  if (all(x == round(x)) && diff(range(x)) <= 30) return(seq(min(x) - 0.5, max(x) + 0.5, by = 1))
  width <- 2 * diff(stats::quantile(x, c(0.25, 0.75), names = FALSE)) / length(x)^(1 / 3)
  bins <- if (width > 0) min(60, max(6, ceiling(diff(range(x)) / width))) else 12
  pretty(x, bins)
}
