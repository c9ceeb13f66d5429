# Counts and shares.

#' @param sides Names of the rows that meet a bound and of all others, where these are counted instead of levels.
#' @noRd
figure_counts <- function(ctx, x, counts, levels, sides = NULL, expected = NULL) {
  col <- ctx$columns[[x]]
  title <- sprintf("Rows by %s", say_column(col))
  d <- data.frame(level = factor(levels, levels = rev(levels)), n = counts, percent = 100 * counts / sum(counts))
  d$expected <- expected
  new_figure("counts", title, "bar", subtitle = if (!is.null(expected)) "Bars: the rows there are; diamonds: those expected.",
    alt = sprintf("%s: a bar for each of %d levels.", title, length(levels)),
    draw = function() draw_bars(utils::head(d, 40), axis_label(col)),
    script = c(sprintf("plot_data <- as.data.frame(table(level = %s))", if (is.null(sides)) script_column(x) else
      sprintf("ifelse(keep, %s, %s)", as_r_string(sides[1]), as_r_string(sides[2]))),
               sprintf(paste0("plot <- ggplot(plot_data, aes(level, Freq)) + geom_col() + coord_flip() + labs(x = %s, ",
                              "y = \"Rows\", title = %s) + theme_minimal()"), as_r_string(axis_label(col)),
                              as_r_string(title))))
}

draw_bars <- function(d, label) {
  # (behind the diamond of what was expected, where that lies further out)
  d$end <- if (is.null(d$expected)) d$n else ifelse(d$expected > d$n - 0.03 * max(d$n), pmax(d$n, d$expected) + 0.02 * max(d$n), d$n)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$level, y = .data$n)) +
    ggplot2::geom_col(fill = quill_colours(1), width = 0.66) +
    ggplot2::geom_text(ggplot2::aes(y = .data$end, label = sprintf("%s (%s %%)", formatC(.data$n, format = "d", big.mark = ","),
                                                    formatC(.data$percent, format = "f", digits = 1))), hjust = -0.08,
                                                    size = 3.6, colour = quill_ink()) +
    ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 28)) +
    ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.22))) +
    ggplot2::coord_flip() + ggplot2::labs(x = label, y = "Rows")
  if (is.null(d$expected)) return(plot)
  plot + ggplot2::geom_point(ggplot2::aes(y = .data$expected), shape = 23, size = 3.6, fill = "white", colour = quill_ink(), stroke = 1.1)
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
  d$value <- as.vector(counts) / total; d$low <- w$low; d$high <- w$high
  d$level <- factor(d$level, rownames(counts)); d$group <- factor(d$group, rev(colnames(counts)))
  binary <- nrow(counts) == 2
  if (binary) d <- d[d$level == rownames(counts)[2], ]
  title <- if (binary) sprintf("Share with %s = %s, by %s", row_title, rownames(counts)[2], group_title)
    else sprintf("Shares of %s within %s", row_title, group_title)
  new_figure("shares", title, "dot", subtitle = sprintf("Share of rows with %s Wilson intervals.",
                                                        say_level(ctx$conf_level)),
    alt = sprintf("%s: a dot with its interval for each group.", title),
    draw = function() draw_interval_dots(d, "Share of rows", axis_label(ctx$columns[[columns]]),
                                         axis_label(ctx$columns[[rows]]), shares = TRUE),
    script = c(sprintf("plot_data <- as.data.frame(prop.table(table(level = %s, group = %s), 2))", script_column(rows),
                       script_column(columns)),
               if (binary) sprintf("plot_data <- plot_data[plot_data$level == %s, ]", as_r_string(rownames(counts)[2])),
               "plot <- ggplot(plot_data, aes(Freq, group, colour = level)) + geom_point() +",
               sprintf("  labs(x = \"Share\", title = %s) + theme_minimal()", as_r_string(title))))
}
