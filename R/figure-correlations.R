# Many correlations at once.

figure_correlations <- function(ctx, names, table) {
  title <- sprintf("Correlations of %s", if (length(names) <= 4) some_of(names, 4)
                   else sprintf("%d columns", length(names)))
  new_figure("correlations", title, "heatmap",
             subtitle = "Correlation of each pair; bold where it is clear with all pairs allowed for.",
    alt = sprintf("%s as a grid of coloured cells with the coefficients.", title),
    draw = function() draw_correlations(names, table, 1 - ctx$conf_level),
    script = c(paste0("both <- rbind(data.frame(a = a, b = b, r = tables$correlations$estimate), data.frame(a = b, b ",
                      "= a, r = tables$correlations$estimate))"),
               "plot <- ggplot(both, aes(a, b, fill = r)) + geom_tile() + geom_text(aes(label = sprintf(\"%.2f\", r))) +",
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}

draw_correlations <- function(names, table, alpha) {
  order <- cluster_order(names, table)
  d <- rbind(table[c("a", "b", "estimate", "p_adjusted")],
             stats::setNames(table[c("b", "a", "estimate", "p_adjusted")], c("a", "b", "estimate", "p_adjusted")))
  d$a <- factor(d$a, order); d$b <- factor(d$b, rev(order))
  d$face <- ifelse(!is.na(d$p_adjusted) & d$p_adjusted < alpha, "bold", "plain")
  size <- max(2.2, min(4.2, 26 / length(names)))
  ggplot2::ggplot(d, ggplot2::aes(x = .data$a, y = .data$b, fill = .data$estimate)) +
    ggplot2::geom_tile(colour = "white", linewidth = 0.8) +
    ggplot2::geom_text(ggplot2::aes(label = say_unit(.data$estimate), fontface = .data$face), size = size,
                       colour = ifelse(abs(d$estimate) > 0.6, "white", quill_ink())) +
    ggplot2::scale_fill_gradient2(low = "#B03A48", mid = "#F4F6F8", high = "#1B4F72", limits = c(-1, 1), name = "r") +
    ggplot2::scale_x_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 12)) +
    ggplot2::scale_y_discrete(labels = function(x) wrap_level(gsub("_", " ", x), 22)) +
    ggplot2::labs(x = NULL, y = NULL)
}

#' Columns that go together stand together: average linkage on 1 - |r|
#' @noRd
cluster_order <- function(names, table) {
  k <- length(names)
  if (k < 3) return(names)
  r <- diag(k)
  at <- cbind(match(table$a, names), match(table$b, names))
  r[at] <- table$estimate; r[at[, 2:1, drop = FALSE]] <- table$estimate
  r[is.na(r)] <- 0
  names[stats::hclust(stats::as.dist(1 - abs(r)), "average")$order]
}

figure_ranking <- function(ctx, table, most = 25L) {
  y <- say_column(ctx$columns[[ctx$reading$outcome[1]]])
  title <- sprintf("What goes with %s", y)
  d <- utils::head(table, most)
  label <- column_labels(ctx$columns, d$column)
  d$column <- factor(label, rev(label))
  d$clear <- ifelse(d$p_adjusted < 1 - ctx$conf_level, "clear, tests allowed for", "not clear")
  new_figure("ranking", title, "dot", subtitle = "Share of the spread that goes with each column by itself.",
             alt = sprintf("%s: a dot for each column, strongest on top.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$strength, y = .data$column)) +
      ggplot2::geom_segment(ggplot2::aes(x = 0, xend = .data$strength, yend = .data$column), colour = quill_soft()) +
      ggplot2::geom_point(ggplot2::aes(colour = .data$clear, shape = .data$clear), size = 3.4) +
      ggplot2::scale_colour_manual(values = stats::setNames(quill_colours(2),
                                                            c("clear, tests allowed for", "not clear")), name = NULL) +
      ggplot2::scale_shape_manual(values = c("clear, tests allowed for" = 16, "not clear" = 1), name = NULL) +
      ggplot2::scale_x_continuous(labels = function(x) paste0(round(100 * x), " %"), limits = c(0, NA)) +
      ggplot2::labs(x = "Share of the spread in common", y = NULL),
    script = c(sprintf("plot_data <- data.frame(column = factor(%s, rev(%s)), strength = tables$ranking$strength)",
                       as_r_strings(table$column), as_r_strings(table$column)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(strength, column)) + geom_point() + labs(title = %s) + ",
                              "theme_minimal()"), as_r_string(title))))
}
