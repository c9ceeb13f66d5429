# Items of a scale: how each hangs together with the rest.

figure_items <- function(ctx, res) {
  title <- "How each item goes with the rest of the scale"
  d <- res$items
  d$item <- factor(d$item, d$item[order(d$item_rest)])
  new_figure("items", title, "dot", subtitle = "Correlation of each item with the sum of the others.",
             alt = sprintf("%s: a dot for each item.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$item_rest, y = .data$item)) +
      ggplot2::geom_segment(ggplot2::aes(x = 0, xend = .data$item_rest, yend = .data$item), colour = quill_soft()) +
      ggplot2::geom_point(size = 3.4, colour = quill_colours(1)) +
      ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 28)) +
      ggplot2::labs(x = "Correlation with the rest", y = NULL),
    script = c(sprintf("plot_data <- data.frame(item = %s, r = tables$items$item_rest)",
                       as_r_strings(as.character(res$items$item))),
                       sprintf(paste0("plot <- ggplot(plot_data, aes(r, reorder(item, r))) + geom_point() + ",
                                      "labs(title = %s) + theme_minimal()"), as_r_string(title))))
}
