#' @noRd
method_share_of_total <- function() {
  new_method(
    id = "share_of_total", name = "Share of the total", tasks = c("describe", "frequency"),
    fits = function(shape) if (isTRUE(shape$of_total)) new_fit(98, "The question asks how a total divides over groups."),
    compute = compute_share_of_total, figure = figure_share_of_total, sentences = say_share_of_total, script = script_share_of_total,
    next_steps = function(ctx, res) sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by[1]))
}

compute_share_of_total <- function(ctx) {
  x <- outcome_values(ctx); g <- group_of(ctx)
  if (any(x < 0)) stop_data(sprintf("%s holds negative values, so shares of its total say nothing.", quoted(outcome_name(ctx))), class = "unfit_data")
  if (sum(x) == 0) stop_data(sprintf("The total of %s is zero.", quoted(outcome_name(ctx))), class = "outcome_constant")
  total <- as.vector(rowsum(x, as.integer(g)))
  table <- data.frame(group = levels(g), n = tabulate(g, nlevels(g)), total = total, percent = 100 * total / sum(x),
    percent_rows = 100 * tabulate(g, nlevels(g)) / length(g), stringsAsFactors = FALSE)
  result(list(new_number("estimate", sprintf("total of %s", outcome_name(ctx)), sum(x)), new_number("n", "rows used", length(x)),
    new_number("groups", "groups", nlevels(g))),
         list(new_table("shares", sprintf("Share of %s by %s", outcome_name(ctx), paste(ctx$reading$by, collapse = " and ")), table)),
           direction = NA_real_)
}

say_share_of_total <- function(ctx, res) {
  t <- res$tables[[1]]$data
  order <- order(-t$percent)
  y <- say_column(outcome_column(ctx))
  item <- sprintf("%s %s", t$group[order], say_percent(t$percent[order] / 100))
  list(headline = sprintf("Of all %s (%s): %s.", y, with_unit(say_number(res$number$estimate), outcome_column(ctx)$unit), some_of(item, 8)),
       details = c("Beside each share of the total stands its share of the rows (percent_rows).", say_rows(ctx)),
       write_up = sprintf("The total of %s (%s) divided by %s: %s.%s", y, with_unit(say_number(res$number$estimate), outcome_column(ctx)$unit),
         say_column(ctx$columns[[ctx$reading$by[1]]]), paste(item, collapse = "; "), write_rows(ctx)))
}

figure_share_of_total <- function(ctx, res) {
  t <- res$tables[[1]]$data
  t <- utils::head(t[order(-t$percent), ], 40)
  d <- data.frame(level = factor(t$group, rev(t$group)), percent = t$percent)
  title <- sprintf("Share of all %s by %s", say_column(outcome_column(ctx)), say_column(ctx$columns[[ctx$reading$by[1]]]))
  new_figure("shares", title, "bar", alt = sprintf("%s: a bar for each group.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$level, y = .data$percent)) + ggplot2::geom_col(fill = quill_colours(1),
      width = 0.66) +
      ggplot2::geom_text(ggplot2::aes(label = sprintf("%s %%", formatC(.data$percent, format = "f", digits = 1))), hjust = -0.1, size = 3.6,
        colour = quill_ink()) +
      ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 28)) + ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0,
        0.16))) + ggplot2::coord_flip() +
      ggplot2::labs(x = axis_label(ctx$columns[[ctx$reading$by[1]]]), y = "Percent of the total"),
    script = c("plot_data <- cbind(tables$shares, group = levels(g))",
      sprintf("plot <- ggplot(plot_data, aes(reorder(group, percent), percent)) + geom_col() + coord_flip() + labs(title = %s) + theme_minimal()",
        as_r_string(title))))
}

script_share_of_total <- function(ctx, res) {
  by <- ctx$reading$by
  c(sprintf("x <- %s; g <- %s", script_value(outcome_name(ctx)), script_group(by)),
    paste0("total <- tapply(x, g, sum); n <- as.vector(table(g)); tables <- list(shares = data.frame(n = n, total = as.vector(total), percent ",
        "= 100 * as.vector(total) / sum(x), percent_rows = 100 * n / length(x)))"),
    "numbers <- list(estimate = sum(x), n = length(x), groups = nlevels(g))")
}
