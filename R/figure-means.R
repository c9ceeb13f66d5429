# Means in tables of groups: one panel for each measure, or lines over one grouping for each level of another.

#' @param most Measures drawn; further ones are in the table.
#' @noRd
figure_measures <- function(ctx, tables, most = 9L) {
  by <- ctx$columns[[ctx$reading$by[1]]]
  names <- utils::head(ctx$reading$outcome, most)
  d <- do.call(rbind, lapply(seq_along(names), function(i) {
    t <- tables[[i]]$data
    half <- half_interval(t, ctx$conf_level)
    data.frame(group = as.character(t[[1]]), measure = axis_label(ctx$columns[[names[i]]]), mean = t$mean, low = t$mean - half, high = t$mean + half)
  }))
  d$group <- factor(d$group, rev(unique(d$group))); d$measure <- factor(d$measure, unique(d$measure))
  title <- sprintf("Means by %s", say_column(by))
  # answers on one scale are compared across the panels, too
  scales <- lapply(ctx$columns[names], function(col) list(col$kind, col$unit, col$levels))
  same <- all(vapply(ctx$columns[names], function(col) col$kind == "ordered", NA)) && length(unique(scales)) == 1
  new_figure("measures", title, "dot", subtitle = sprintf("Means with %s intervals%s.", say_level(ctx$conf_level),
    if (same) "" else "; every panel has its own scale"),
    alt = sprintf("%s: a panel for each measure, a dot with its interval for each group.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$mean, y = .data$group)) +
      ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), colour = quill_soft(), linewidth = 0.9, na.rm = TRUE) +
      ggplot2::geom_point(size = 3, colour = quill_colours(1), na.rm = TRUE) +
      ggplot2::facet_wrap(ggplot2::vars(.data$measure), scales = if (same) "fixed" else "free_x", labeller = ggplot2::label_wrap_gen(30)) +
      ggplot2::scale_y_discrete(labels = function(v) wrap_level(v, 26)) + ggplot2::labs(x = NULL, y = axis_label(by)),
    script = c(sprintf("plot_data <- do.call(rbind, lapply(%s, function(name) data.frame(measure = name, group = levels(kept_g), mean = tapply(", as_r_strings(names)),  # nolint: line_length_linter.
               sprintf("  %s, kept_g, mean, na.rm = TRUE))))", gsub("\"name\"", "name", gsub("rows[[", "kept[[", script_value("name"), fixed = TRUE), fixed = TRUE)),  # nolint: line_length_linter.
               sprintf("plot <- ggplot(plot_data, aes(mean, group)) + geom_point() + facet_wrap(~ measure, scales = %s) + labs(title = %s) + theme_minimal()",  # nolint: line_length_linter.
                       as_r_string(if (same) "fixed" else "free_x"), as_r_string(title))))
}

#' Means over one grouping, a line for each level of the other: the one that has an order, or more levels, goes along
#' @noRd
figure_two_groupings <- function(ctx, res) {
  by <- ctx$columns[ctx$reading$by[1:2]]
  t <- res$tables[[1]]$data
  counts <- c(length(unique(t[[1]])), length(unique(t[[2]])))
  stepped <- vapply(by, function(col) is_numeric_kind(col$kind) || col$kind == "ordered", NA)
  along <- if (xor(stepped[1], stepped[2])) which(stepped) else which.max(counts)
  across <- 3L - along
  # more lines than colours can tell apart are left to the table
  if (counts[across] > 8 || counts[along] > 40) return(NULL)
  y <- ctx$columns[[ctx$reading$outcome[1]]]
  title <- sprintf("%s by %s and %s", capital(say_column(y)), say_column(by[[along]]), say_column(by[[across]]))
  # a mean has its interval; any other statistic that was asked for is drawn by itself
  shown <- res$shown
  half <- if (shown == "mean") half_interval(t, ctx$conf_level) else NA_real_
  number <- stepped[along] && is_numeric_kind(by[[along]]$kind)
  x <- if (number) as.numeric(as.character(t[[along]])) else factor(t[[along]], if (is.null(by[[along]]$levels)) unique(t[[along]]) else
    intersect(by[[along]]$levels, t[[along]]))
  d <- data.frame(x = x, line = factor(t[[across]], unique(t[[across]])), mean = t[[shown]], low = t[[shown]] - half, high = t[[shown]] + half)
  label <- statistic_name(shown)
  new_figure("groups", title, "line",
    subtitle = if (shown == "mean") sprintf("Means with %s intervals.", say_level(ctx$conf_level)) else sprintf("%s of each group.", capital(label)),
    alt = sprintf("%s: the %s of each group, a colour for each level.", title, label),
    # groups without an order are not joined
    draw = function() draw_two_groupings(d, by[[along]], by[[across]], y, joined = stepped[along]),
    script = c(sprintf("plot_data <- aggregate(list(value = kept_y), list(a = kept[[%s]], b = factor(kept[[%s]])), function(v) { v <- v[!is.na(v)]; %s })",  # nolint: line_length_linter.
                       as_r_string(by[[along]]$name), as_r_string(by[[across]]$name), statistic_code(shown)),
               sprintf("plot <- ggplot(plot_data, aes(a, value, colour = b, group = b)) +%s geom_point() + labs(title = %s) + theme_minimal()",
                       if (stepped[along]) " geom_line() +" else "", as_r_string(title))))
}

#' A statistic as an expression in v
#' @noRd
statistic_code <- function(id) {
  plain <- c(mean = "mean(v)", median = "median(v)", sum = "sum(v)", sd = "sd(v)", min = "min(v)", max = "max(v)", q1 = "quantile(v, 0.25)",
             q3 = "quantile(v, 0.75)", n = "length(v)", se = "sd(v) / sqrt(length(v))")
  if (id %in% names(plain)) plain[[id]] else further_statistics()[[id]]$script
}

#' Means (and their intervals, where they have any) over one grouping, a colour for each level of the other
#' @param d Data frame with x (number or factor), line (factor), mean, low and high.
#' @param joined Are the means of a level joined by a line?
#' @noRd
draw_two_groupings <- function(d, along, across, y, joined) {
  numeric <- is.numeric(d$x)
  dodge <- ggplot2::position_dodge(width = if (numeric) diff(range(d$x)) / 60 else 0.25)
  count <- nlevels(d$line)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$x, y = .data$mean, colour = .data$line, shape = .data$line, group = .data$line))
  if (joined) plot <- plot + ggplot2::geom_line(position = dodge, linewidth = 0.8, na.rm = TRUE)
  if (!all(is.na(d$low))) plot <- plot + ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), position = dodge, na.rm = TRUE)
  plot <- plot + ggplot2::geom_point(position = dodge, size = 3, na.rm = TRUE) +
    ggplot2::scale_colour_manual(values = quill_colours(count), name = axis_label(across)) +
    ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4, 3, 7), count), name = axis_label(across)) +
    ggplot2::labs(x = axis_label(along), y = axis_label(y))
  if (!numeric) return(plot + ggplot2::scale_x_discrete(labels = function(v) wrap_level(v, 14)))
  steps <- sort(unique(d$x))
  plot + ggplot2::scale_x_continuous(breaks = steps[round(seq(1, length(steps), length.out = min(12, length(steps))))])
}
