# Means over one grouping, a line for each level of another.

figure_interaction <- function(ctx, res) {
  by <- ctx$reading$by
  y <- ctx$columns[[ctx$reading$outcome[1]]]
  title <- sprintf("%s by %s and %s", capital(say_column(y)), say_column(ctx$columns[[by[1]]]),
                   say_column(ctx$columns[[by[2]]]))
  d <- res$tables[[1]]$data
  half <- half_interval(d, ctx$conf_level)
  means <- data.frame(x = factor(d[[1]], unique(d[[1]])), line = factor(d[[2]], unique(d[[2]])), mean = d$mean, low = d$mean - half,
      high = d$mean + half)
  new_figure("interaction", title, "line", subtitle = sprintf("Means with %s intervals.", say_level(ctx$conf_level)),
             alt = sprintf("%s: a line of means for each level.", title),
    draw = function() draw_two_groupings(means, ctx$columns[[by[1]]], ctx$columns[[by[2]]], y, joined = TRUE),
    script = c("plot_data <- aggregate(list(mean = y), list(a = f1, b = f2), mean)",
               sprintf(paste0("plot <- ggplot(plot_data, aes(a, mean, colour = b, group = b)) + geom_line() + ",
                              "geom_point() + labs(title = %s) + theme_minimal()"), as_r_string(title))))
}
