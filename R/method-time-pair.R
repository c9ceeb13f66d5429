# Two columns over the same periods: side by side, or on two axes where that is asked for.

#' @noRd
method_time_pair <- function() {
  new_method(
    id = "time_pair", name = "Two columns by period", tasks = c("trend", "figure"),
    fits = function(shape) if (shape$task == "trend" && isTRUE(shape$timed) && shape$n_outcome == 2 && shape$n_by == 0 && is.null(shape$window) &&
                               is.null(shape$method_asked)) new_fit(86, "Two columns are asked for over the same time."),
    compute = compute_time_pair, figure = figure_time_pair, sentences = say_time_pair, script = script_time_pair,
    next_steps = function(ctx, res) c(sprintf("How do %s and %s go together?", ctx$reading$outcome[1], ctx$reading$outcome[2]),
                                      sprintf("Is there a linear trend in %s?", say_column(ctx$columns[[ctx$reading$outcome[1]]]))))
}

compute_time_pair <- function(ctx) {
  every <- period_of(ctx)
  t <- time_values(ctx)
  p <- period_keys(ctx, t, every)
  code <- match(p$key, p$keys)
  statistic <- ctx$reading$statistic %||% "mean"
  if (!statistic %in% c("mean", "median", "sum", "min", "max", "sd")) statistic <- "mean"
  values <- lapply(ctx$reading$outcome, function(y) stat_group_summary(period_values(ctx, y), code, length(p$keys))[[statistic]])
  table <- stats::setNames(data.frame(p$label, tabulate(code, length(p$keys)), values[[1]], values[[2]], stringsAsFactors = FALSE),
                           c("period", "n", ctx$reading$outcome))
  result(list(new_number("n", "rows used", length(t)), new_number("periods", "periods", length(p$keys))),
         list(new_table("time", sprintf("%s by %s", capital(paste(ctx$reading$outcome, collapse = " and ")), every), table)),
         every = every, first = p$keys, shown = statistic, label = p$label)
}

say_time_pair <- function(ctx, res) {
  t <- res$tables[[1]]$data
  each <- vapply(ctx$reading$outcome, function(y) {
    v <- t[[y]]; unit <- ctx$columns[[y]]$unit
    sprintf("the %s of %s from %s to %s, highest in %s (%s) and lowest in %s (%s)", or_if_na(c(sum = "total")[res$shown], res$shown),
            say_column(ctx$columns[[y]]), with_unit(say_number(v[1]), unit), with_unit(say_number(v[length(v)]), unit), t$period[which.max(v)],
            with_unit(say_number(max(v)), unit), t$period[which.min(v)], with_unit(say_number(min(v)), unit))
  }, "")
  text <- sprintf("From %s to %s run %s; and %s.", t$period[1], t$period[nrow(t)], each[1], each[2])
  list(headline = text, details = c("Two lines that move alike over time need not have to do with each other.", say_rows(ctx)), write_up = text)
}

figure_time_pair <- function(ctx, res) {
  t <- res$tables[[1]]$data
  labels <- vapply(ctx$reading$outcome, function(y) axis_label(ctx$columns[[y]]), "")
  title <- sprintf("%s of %s and %s by %s", capital(or_if_na(c(sum = "total")[res$shown], res$shown)),
      say_column(ctx$columns[[ctx$reading$outcome[1]]]),
                   say_column(ctx$columns[[ctx$reading$outcome[2]]]), if (res$every == "value") ctx$reading$time$column else res$every)
  d <- data.frame(at = seq_len(nrow(t)), first = t[[3]], second = t[[4]], run = period_runs(res$first, res$every))
  two <- isTRUE(ctx$reading$extra$second_axis)
  new_figure("time", title, "line", subtitle = if (two) "Each line is read on the axis of its own colour; where they cross says nothing.",
    alt = sprintf("%s: a line for each column, %s.", title, if (two) "on two axes" else "one panel above the other"),
    draw = function() if (two) draw_two_axes(d, t$period, labels) else draw_two_panels(d, t$period, labels),
    script = script_time_pair_figure(ctx, labels, title, two))
}

#' The second column moved and stretched onto the range of the first
#' @noRd
second_scale <- function(first, second) {
  a <- range(first); b <- range(second)
  stretch <- if (diff(b) > 0 && diff(a) > 0) diff(a) / diff(b) else 1
  list(stretch = stretch, shift = a[1] - stretch * b[1])
}

draw_two_axes <- function(d, period, labels) {
  s <- second_scale(d$first, d$second)
  colour <- quill_colours(2)
  axis <- function(k) ggplot2::element_text(colour = colour[k])
  ggplot2::ggplot(d, ggplot2::aes(x = .data$at)) +
    ggplot2::geom_line(ggplot2::aes(y = .data$first, group = .data$run), colour = colour[1], linewidth = 0.9) +
    ggplot2::geom_point(ggplot2::aes(y = .data$first), colour = colour[1], size = if (nrow(d) > 60) 0.8 else 2.2) +
    ggplot2::geom_line(ggplot2::aes(y = s$shift + s$stretch * .data$second, group = .data$run), colour = colour[2], linewidth = 0.9,
        linetype = "22") +
    ggplot2::geom_point(ggplot2::aes(y = s$shift + s$stretch * .data$second), colour = colour[2], shape = 17, size = if (nrow(d) > 60) 0.8 else 2.2) +
    ggplot2::scale_y_continuous(name = labels[1], sec.axis = ggplot2::sec_axis(function(v) (v - s$shift) / s$stretch, name = labels[2])) +
    period_axis(period) + ggplot2::labs(x = NULL) +
    ggplot2::theme(axis.title.y.left = axis(1), axis.text.y.left = axis(1), axis.title.y.right = axis(2), axis.text.y.right = axis(2),
                   panel.grid.minor = ggplot2::element_blank())
}

draw_two_panels <- function(d, period, labels) {
  long <- data.frame(at = rep(d$at, 2), run = rep(d$run, 2), value = c(d$first, d$second), what = factor(rep(labels, each = nrow(d)), labels))
  ggplot2::ggplot(long, ggplot2::aes(x = .data$at, y = .data$value, group = .data$run, colour = .data$what)) +
    ggplot2::geom_line(linewidth = 0.9) + ggplot2::geom_point(size = if (nrow(d) > 60) 0.8 else 2) +
    ggplot2::facet_wrap(ggplot2::vars(.data$what), ncol = 1, scales = "free_y") +
    ggplot2::scale_colour_manual(values = quill_colours(2), guide = "none") + period_axis(period) + ggplot2::labs(x = NULL, y = NULL)
}

period_axis <- function(period) {
  at <- seq(1, length(period), by = max(1, ceiling(length(period) / 10)))
  ggplot2::scale_x_continuous(breaks = at, labels = period[at], minor_breaks = NULL)
}

script_time_pair <- function(ctx, res) {
  fun <- c(mean = "mean", median = "median", sum = "sum", min = "min", max = "max", sd = "sd")[[res$shown]]
  one <- function(y) sprintf("as.vector(tapply(%s, key, %s))", script_period_value(ctx, y), fun)
  c(script_period_lines(ctx, res$every),
    sprintf("tables <- list(time = data.frame(n = as.vector(table(key)), first = %s, second = %s))", one(ctx$reading$outcome[1]),
            one(ctx$reading$outcome[2])),
    sprintf("names(tables$time)[2:3] <- %s", as_r_strings(ctx$reading$outcome)),
    "numbers <- list(n = nrow(rows), periods = nrow(tables$time))")
}

script_time_pair_figure <- function(ctx, labels, title, two) {
  start <- "d <- data.frame(at = seq_len(nrow(tables$time)), first = tables$time[[2]], second = tables$time[[3]])"
  if (!two) return(c(start, sprintf("long <- data.frame(at = rep(d$at, 2), value = c(d$first, d$second), what = rep(%s, each = nrow(d)))",
                                    as_r_strings(unname(labels))),
                     "plot <- ggplot(long, aes(at, value)) + geom_line() + facet_wrap(vars(what), ncol = 1, scales = \"free_y\") +",
                     "  scale_x_continuous(breaks = pretty(d$at), labels = function(v) sort(unique(key))[v]) +",
                     sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
  c(start, "stretch <- diff(range(d$first)) / diff(range(d$second)); shift <- min(d$first) - stretch * min(d$second)",
    "plot <- ggplot(d, aes(at)) + geom_line(aes(y = first)) + geom_line(aes(y = shift + stretch * second), linetype = 2) +",
    sprintf("  scale_y_continuous(name = %s, sec.axis = sec_axis(function(v) (v - shift) / stretch, name = %s)) +", as_r_string(labels[1]),
            as_r_string(labels[2])),
    sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title)))
}
