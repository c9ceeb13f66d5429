# Places in a ranking.

figure_ranks <- function(ctx, res, most = 30L) {
  col <- ctx$columns[[ctx$reading$outcome[1]]]
  grouped <- !is.null(res$ranking)
  # ("total of" a sum, "median of"; a mean goes without saying, its intervals say it)
  of <- if (grouped && !res$statistic %in% c("mean", "n")) paste0(statistic_name(res$statistic), " of ") else ""
  # ("largest value of" says which end it is)
  ends <- grouped && res$statistic %in% c("max", "min")
  title <- if (ends) capital(paste0(of, say_column(col))) else sprintf("%s %s%s", if (ranks_lowest_first(ctx)) "Lowest" else "Highest", of,
                                                                      say_column(col))
  ranking <- if (grouped) all_in_order(ctx, res)
  asked <- if (grouped) seq_len(nrow(ranking)) <= nrow(res$ranking) else TRUE
  if (length(ctx$reading$by)) {
    groups <- some_of(vapply(ctx$reading$by, function(name) say_column(ctx$columns[[name]]), ""))
    title <- if (all(asked)) sprintf("%s, by %s", title, groups) else sprintf("%s by %s, %s first", capital(paste0(of, say_column(col))), groups,
      if (ranks_lowest_first(ctx)) "lowest" else "highest")
  }
  label <- if (grouped) vapply(seq_len(nrow(ranking)), function(i) group_label(ranking, i, length(ctx$reading$by)), "") else row_names_of(res)
  d <- data.frame(label = label, value = if (grouped) ranking[[res$statistic]] else res$values, asked = asked, stringsAsFactors = FALSE)
  if (grouped) { d$low <- NA_real_; d$high <- NA_real_ }
  if (grouped && res$statistic == "mean") {
    half <- half_interval(ranking, ctx$conf_level)
    d$low <- d$value - half; d$high <- d$value + half
  }
  cut <- if (nrow(d) > most) sprintf("The first %d of %d are drawn; the table holds them all.", most, nrow(d))
  d <- utils::head(d, most)
  d$place <- factor(seq_len(nrow(d)), rev(seq_len(nrow(d))))
  means <- if (grouped && res$statistic == "mean") sprintf("Means with %s intervals.", say_level(ctx$conf_level))
  rest <- if (!all(asked)) "Filled: what was asked for."
  new_figure("ranking", title, "dot", subtitle = if (length(c(means, rest, cut))) paste(c(means, rest, cut), collapse = " "),
    alt = sprintf("%s: a dot for each place, the first on top.", title),
    draw = function() draw_ranks(d, if (nzchar(of)) capital(paste0(of, sub("^([A-Z])(?=[a-z])", "\\L\\1", axis_label(col),
      perl = TRUE))) else axis_label(col)),
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
  # (places that all tie would stand on an axis without a width)
  if (length(unique(d$value)) == 1) plot <- plot + ggplot2::expand_limits(x = 0)
  plot + ggplot2::geom_point(data = d, ggplot2::aes(shape = .data$asked), size = 3.2, stroke = 1.1, colour = quill_colours(1)) +
    ggplot2::scale_shape_manual(values = c("TRUE" = 16, "FALSE" = 1), guide = "none") +
    ggplot2::scale_y_discrete(labels = function(x) wrap_level(d$label[as.integer(x)], 28)) +
    ggplot2::labs(x = label, y = NULL)
}

#' The ranked groups, and where they are few all the others after them, so that the first is seen beside what it is first of
#' @noRd
all_in_order <- function(ctx, res, most = 15L) {
  all <- res$tables[[2]]$data
  if (nrow(all) > most) return(res$ranking)
  v <- all[[res$statistic]]
  all <- all[order(if (ranks_lowest_first(ctx)) v else -v), ]
  all[!is.na(all[[res$statistic]]), ]
}

ranks_lowest_first <- function(ctx) identical(ctx$reading$top$order, "lowest")

row_names_of <- function(res) {
  if (!length(res$labels)) return(sprintf("row %d", res$shown))
  do.call(paste, c(unname(res$labels), sep = ", "))
}
