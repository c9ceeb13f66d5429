# One numeric column in groups.

new_figure <- function(id, title, kind, draw, script, subtitle = NULL, alt = title) {
  list(id = id, title = title, kind = kind, draw = draw, script = script, subtitle = subtitle, alt = alt)
}

#' Points, middle half and mean with its interval, by group
#' @noRd
figure_groups <- function(ctx, y, by) {
  ycol <- ctx$columns[[y]]; gcol <- ctx$columns[[by]]
  title <- sprintf("%s by %s", capital(say_column(ycol)), say_column(gcol))
  new_figure("groups", title, "box",
             subtitle = sprintf("Points are rows, boxes the middle half, diamonds means with %s intervals.",
                                say_level(ctx$conf_level)),
             alt = sprintf("%s, one box with points for each group.", title),
             draw = function() draw_groups(ctx, y, by), script = script_groups_figure(y, by, axis_label(ycol),
                 axis_label(gcol), title))
}

draw_groups <- function(ctx, y, by) {
  d <- data.frame(y = ctx$frame$data[[y]], g = as_group(ctx$frame$data[[by]]))
  if (is.factor(d$y)) d$y <- level_numbers(d$y)
  d <- d[!is.na(d$y) & !is.na(d$g), ]
  summary <- group_intervals(d$y, d$g, ctx$conf_level)
  sideways <- nlevels(d$g) > 6 || max(nchar(levels(d$g))) > 22
  shape <- if (nrow(d) <= 3000) ggplot2::geom_point(data = spread_points(d),
                                                    ggplot2::aes(x = .data$at, y = .data$y, colour = .data$g),
                                                    alpha = if (nrow(d) > 400) 0.25 else 0.5, size = 1.6, shape = 16)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = as.integer(.data$g), y = .data$y)) +
    ggplot2::geom_boxplot(ggplot2::aes(group = .data$g), width = 0.5, outlier.shape = if (nrow(d) <= 3000) NA else 16,
                          outlier.alpha = 0.2, colour = quill_soft(), fill = "#F4F6F8", linewidth = 0.5) +
    shape +
    ggplot2::geom_linerange(data = summary, ggplot2::aes(x = .data$x, ymin = .data$low, ymax = .data$high),
                            inherit.aes = FALSE, colour = quill_ink(), linewidth = 1.1) +
    ggplot2::geom_point(data = summary, ggplot2::aes(x = .data$x, y = .data$mean), inherit.aes = FALSE, shape = 23,
                        size = 3.6, fill = "white", colour = quill_ink(), stroke = 1.1) +
    ggplot2::scale_colour_manual(values = quill_colours(nlevels(d$g)), guide = "none") +
    ggplot2::scale_x_continuous(breaks = seq_len(nlevels(d$g)),
                                labels = wrap_level(levels(d$g), if (sideways) 30 else 16),
                                expand = ggplot2::expansion(add = 0.5)) +
    ggplot2::labs(x = axis_label(ctx$columns[[by]]), y = axis_label(ctx$columns[[y]]))
  if (sideways) plot + ggplot2::coord_flip() else plot
}


#' Points beside each other by a fixed low-discrepancy sequence: the same picture every time, no random stream touched
#' @noRd
spread_points <- function(d) {
  turn <- stats::ave(seq_along(d$y), d$g, FUN = seq_along)
  d$at <- as.integer(d$g) + ((turn * 0.618033988749895) %% 1 - 0.5) * 0.34
  d
}

group_intervals <- function(y, g, conf_level) {
  s <- stat_group_summary(y, as.integer(g), nlevels(g))
  half <- half_interval(s, conf_level)
  data.frame(x = seq_len(nrow(s)), mean = s$mean, low = s$mean - half, high = s$mean + half)
}

script_groups_figure <- function(y, by, ylab, xlab, title) {
  c(sprintf("plot_data <- data.frame(y = as.numeric(%s), g = factor(%s))", script_value(y), script_column(by)),
    "plot <- ggplot(plot_data, aes(g, y)) + geom_boxplot(outlier.shape = NA, width = 0.5, colour = \"grey50\") +",
    paste0("  geom_jitter(width = 0.15, height = 0, alpha = 0.5) + stat_summary(fun.data = mean_se, fun.args = ",
           "list(mult = 1.96), shape = 23) +"),
    sprintf("  labs(x = %s, y = %s, title = %s) + theme_minimal()", as_r_string(xlab), as_r_string(ylab),
            as_r_string(title)))
}

#' A column as numbers: ordered answers by their number, or by their place
#' @noRd
script_value <- function(name) {
  at <- script_column(name)
  sprintf(paste0("(if (is.factor(%s)) suppressWarnings({ v <- as.numeric(levels(%s)); if (anyNA(v)) v <- ",
                 "seq_along(levels(%s)); v[as.integer(%s)] }) else %s)"), at, at, at, at, at)
}

#' Script: 1 where a column holds a level, else 0
#' @noRd
script_is_level <- function(name, level) sprintf("as.numeric(as.character(%s) == %s)", script_column(name), as_r_string(level))

#' Name of a group: the levels in the leading columns of the groups table
#' @noRd
group_label <- function(table, i, columns) {
  paste(vapply(table[i, seq_len(columns), drop = FALSE], as.character, ""), collapse = " & ")
}
