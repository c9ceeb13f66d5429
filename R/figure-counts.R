# Counts and shares.

figure_counts <- function(ctx, x, counts, levels) {
  col <- ctx$columns[[x]]
  title <- sprintf("Rows by %s", say_column(col))
  d <- data.frame(level = factor(levels, levels = rev(levels)), n = counts, percent = 100 * counts / sum(counts))
  new_figure("counts", title, "bar", alt = sprintf("%s: a bar for each of %d levels.", title, length(levels)),
    draw = function() draw_bars(utils::head(d, 40), axis_label(col)),
    script = c(sprintf("plot_data <- as.data.frame(table(level = %s))", script_column(x)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(level, Freq)) + geom_col() + coord_flip() + labs(x = %s, ",
                              "y = \"Rows\", title = %s) + theme_minimal()"), as_r_string(axis_label(col)),
                              as_r_string(title))))
}

draw_bars <- function(d, label) {
  ggplot2::ggplot(d, ggplot2::aes(x = .data$level, y = .data$n)) +
    ggplot2::geom_col(fill = quill_colours(1), width = 0.66) +
    ggplot2::geom_text(ggplot2::aes(label = sprintf("%s (%s %%)", formatC(.data$n, format = "d", big.mark = ","),
                                                    formatC(.data$percent, format = "f", digits = 1))), hjust = -0.08,
                                                    size = 3.6, colour = quill_ink()) +
    ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 28)) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.22))) +
    ggplot2::coord_flip() + ggplot2::labs(x = label, y = "Rows")
}

#' Shares of the rows' levels within each column level, with Wilson intervals: dots, never stacked bars
#'
#' Where the rows have two levels, the second alone is drawn: the first is what is left of the whole.
#' @noRd
figure_shares <- function(ctx, rows, columns, counts) {
  row_title <- say_column(ctx$columns[[rows]]); group_title <- say_column(ctx$columns[[columns]])
  d <- expand.grid(level = rownames(counts), group = colnames(counts), stringsAsFactors = FALSE)
  total <- rep(colSums(counts), each = nrow(counts))
  w <- stat_wilson(as.vector(counts), total, ctx$conf_level)
  d$share <- as.vector(counts) / total; d$low <- w$low; d$high <- w$high
  d$level <- factor(d$level, rownames(counts)); d$group <- factor(d$group, rev(colnames(counts)))
  binary <- nrow(counts) == 2
  if (binary) d <- d[d$level == rownames(counts)[2], ]
  title <- if (binary) sprintf("Share with %s = %s, by %s", row_title, rownames(counts)[2], group_title)
    else sprintf("Shares of %s within %s", row_title, group_title)
  new_figure("shares", title, "dot", subtitle = sprintf("Share of rows with %s Wilson intervals.",
                                                        say_level(ctx$conf_level)),
    alt = sprintf("%s: a dot with its interval for each group.", title),
    draw = function() draw_shares(d, ctx, rows, columns, binary),
    script = c(sprintf("plot_data <- as.data.frame(prop.table(table(level = %s, group = %s), 2))", script_column(rows),
                       script_column(columns)),
               if (binary) sprintf("plot_data <- plot_data[plot_data$level == %s, ]", as_r_string(rownames(counts)[2])),
               "plot <- ggplot(plot_data, aes(Freq, group, colour = level)) + geom_point() +",
               sprintf("  labs(x = \"Share\", title = %s) + theme_minimal()", as_r_string(title))))
}

draw_shares <- function(d, ctx, rows, columns, binary) {
  dodge <- ggplot2::position_dodge(width = 0.6)
  legend <- if (binary) "none" else ggplot2::guide_legend(axis_label(ctx$columns[[rows]]))
  ggplot2::ggplot(d, ggplot2::aes(y = .data$group, x = .data$share, colour = .data$level, shape = .data$level)) +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), position = dodge, linewidth = 0.9) +
    ggplot2::geom_point(position = dodge, size = 3) +
    ggplot2::scale_colour_manual(values = quill_colours(nlevels(d$level)), guide = legend) +
    ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4, 3, 7), nlevels(d$level)), guide = legend) +
    ggplot2::scale_x_continuous(labels = function(x) paste0(round(100 * x), " %"), limits = c(0, NA)) +
    ggplot2::scale_y_discrete(labels = function(x) wrap_level(x, 24)) +
    ggplot2::labs(x = "Share of rows", y = axis_label(ctx$columns[[columns]]))
}
