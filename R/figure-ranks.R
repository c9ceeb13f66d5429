# Places in a ranking.

figure_ranks <- function(ctx, res, most = 30L) {
  col <- ctx$columns[[ctx$reading$outcome[1]]]
  title <- sprintf("%s %s", if (ranks_lowest_first(ctx)) "Lowest" else "Highest", say_column(col))
  if (length(ctx$reading$by)) title <- sprintf("%s, by %s", title, say_column(ctx$columns[[ctx$reading$by[1]]]))
  grouped <- !is.null(res$ranking)
  label <- if (grouped) vapply(seq_len(nrow(res$ranking)),
                               function(i) group_label(res$ranking, i, length(ctx$reading$by)),
                               "") else row_names_of(res)
  d <- data.frame(label = label, value = if (grouped) res$ranking[[res$statistic]] else res$values,
                  stringsAsFactors = FALSE)
  if (grouped) { d$low <- NA_real_; d$high <- NA_real_ }
  if (grouped && res$statistic == "mean") {
    half <- half_interval(res$ranking, ctx$conf_level)
    d$low <- d$value - half; d$high <- d$value + half
  }
  d <- utils::head(d, most)
  d$place <- factor(seq_len(nrow(d)), rev(seq_len(nrow(d))))
  new_figure("ranking", title, "dot", subtitle = if (grouped &&
                                                     res$statistic == "mean") sprintf("Means with %s intervals.",
                                                         say_level(ctx$conf_level)),
    alt = sprintf("%s: a dot for each place, the first on top.", title),
    draw = function() draw_ranks(d, axis_label(col)),
    script = c(sprintf("plot_data <- data.frame(label = %s, value = %s)", as_r_strings(d$label), as_r_number(d$value)),
               "plot_data$label <- factor(plot_data$label, rev(unique(plot_data$label)))",
               sprintf(paste0("plot <- ggplot(plot_data, aes(value, label)) + geom_point() + labs(title = %s) + ",
                              "theme_minimal()"), as_r_string(title))))
}

draw_ranks <- function(d, label) {
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$value, y = .data$place))
  if (!is.null(d$low) && !all(is.na(d$low))) plot <- plot +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), colour = quill_soft(), linewidth = 0.9,
                            na.rm = TRUE)
  plot + ggplot2::geom_point(size = 3.2, colour = quill_colours(1)) +
    ggplot2::scale_y_discrete(labels = function(x) wrap_level(d$label[as.integer(x)], 28)) +
    ggplot2::labs(x = label, y = NULL)
}

ranks_lowest_first <- function(ctx) identical(ctx$reading$top$order, "lowest")

row_names_of <- function(res) {
  if (!length(res$labels)) return(sprintf("row %d", res$shown))
  do.call(paste, c(unname(res$labels), sep = ", "))
}
