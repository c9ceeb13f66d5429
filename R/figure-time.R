# Values over time.

figure_periods <- function(ctx, res) {
  t <- res$tables[[1]]$data
  if (length(ctx$reading$by)) return(figure_grouped_periods(ctx, res, t))
  words <- period_words(ctx, res)
  title <- sprintf("%s by %s", capital(words$title), say_step(ctx, res))
  d <- data.frame(period = factor(t$period, unique(t$period)), value = t[[res$shown]], low = NA_real_, high = NA_real_,
                  run = period_runs(res$first, res$every))
  if (words$share) d[c("low", "high")] <- stat_wilson(t$mean * t$n, t$n, ctx$conf_level)
  else if (res$shown == "mean") { half <- half_interval(t, ctx$conf_level)
    d$low <- d$value - half; d$high <- d$value + half }
  subtitle <- if (words$share) sprintf("Shares with %s Wilson intervals.", say_level(ctx$conf_level)) else if (res$shown == "mean")
    sprintf("Means with %s intervals.", say_level(ctx$conf_level))
  new_figure("time", title, "line", subtitle = subtitle, alt = sprintf("%s: a point for each period, joined by a line.", title),
    draw = function() draw_periods(d, words$label) + percent_scale(words$share),
    script = c(sprintf("plot_data <- data.frame(period = factor(%s, unique(%s)), value = tables$time[[%s]])",
                       as_r_strings(as.character(d$period)), as_r_strings(as.character(d$period)),
                       as_r_string(res$shown)),
      sprintf(paste0("plot <- ggplot(plot_data, aes(period, value, group = 1)) + geom_line() + geom_point() + labs(y ",
                     "= %s, title = %s) + theme_minimal()"), as_r_string(words$label), as_r_string(title))))
}

#' What a period is called: its unit of time, or the column whose values stand for periods
#' @noRd
say_step <- function(ctx, res) if (res$every == "value") say_column(ctx$columns[[ctx$reading$time$column]]) else res$every

#' An axis of shares in percent
#' @noRd
percent_scale <- function(share) if (share) ggplot2::scale_y_continuous(labels = percent_axis)

#' How what stands for a period is called: the number of rows, a statistic of a measure, or the share of the yes of a column
#' @section Shape: list(what = in a sentence, title, label = at an axis, value = function that says a value, share).
#' @noRd
period_words <- function(ctx, res) {
  if (res$shown == "running" && !length(ctx$reading$outcome)) return(list(what = "the running number of rows", title = "rows, running total",
                                                                          label = "Rows, running total", value = say_number, share = FALSE))
  if (res$shown == "n") return(list(what = "the number of rows", title = "rows", label = "Rows", value = say_number, share = FALSE))
  col <- outcome_column_of(ctx)
  if (col$kind == "yes_no" && res$shown == "mean") {
    of <- sprintf("%s = %s", say_column(col), last_of(col$levels))
    return(list(what = sprintf("the share of rows with %s", of), title = sprintf("share with %s", of), label = sprintf("Share with %s", of),
                value = say_percent, share = TRUE))
  }
  if (col$kind == "yes_no" && res$shown == "sum") {
    of <- sprintf("rows with %s = %s", say_column(col), last_of(col$levels))
    return(list(what = sprintf("the number of %s", of), title = of, label = capital(of), value = function(v) say_number(v, 0), share = FALSE))
  }
  said <- or_if_na(c(sum = "total", running = "running total")[res$shown], res$shown)
  list(what = sprintf("the %s of %s", said, say_column(col)), title = sprintf("%s of %s", said, say_column(col)),
       label = if (res$shown == "running") paste0(axis_label(col), ", running total") else axis_label(col),
       value = function(v) with_unit(say_number(v), col$unit), share = FALSE)
}

#' A line for each group; more than six groups get panels of their own
#' @noRd
figure_grouped_periods <- function(ctx, res, t) {
  words <- period_words(ctx, res)
  title <- sprintf("%s by %s and %s", capital(words$title),
      say_step(ctx, res),
                   say_column(ctx$columns[[ctx$reading$by[1]]]))
  d <- data.frame(period = factor(t$period, res$label), group = factor(t$group, unique(t$group)), value = t[[res$shown]])
  runs <- period_runs(res$first, res$every)
  d$run <- paste(d$group, runs[as.integer(d$period)])
  # (of many groups or periods the intervals would hide the lines)
  told <- nlevels(d$group) <= 4 && nlevels(d$period) <= 16 && (words$share || res$shown == "mean")
  if (told) d[c("low", "high")] <- if (words$share) stat_wilson(t$mean * t$n, t$n, ctx$conf_level) else {
    half <- half_interval(t, ctx$conf_level)
    data.frame(d$value - half, d$value + half)
  }
  subtitle <- if (told) sprintf("%s with %s intervals.", if (words$share) "Shares" else "Means", say_level(ctx$conf_level))
  axis <- if (res$every == "value") capital(say_step(ctx, res))
  new_figure("time", title, "line", subtitle = subtitle, alt = sprintf("%s: a line for each group.", title),
    draw = function() draw_grouped_periods(d, words$label, axis) + percent_scale(words$share),
    script = c(sprintf("plot_data <- data.frame(period = factor(%s, %s), group = %s, value = tables$time[[%s]])",
      as_r_strings(as.character(d$period)), as_r_strings(levels(d$period)), as_r_strings(as.character(d$group)), as_r_string(res$shown)),
               sprintf(paste0("plot <- ggplot(plot_data, aes(period, value, colour = group, group = group)) + geom_line() + geom_point() + ",
                   "labs(y = %s, title = %s) + theme_minimal()"), as_r_string(words$label), as_r_string(title))))
}

draw_grouped_periods <- function(d, label, axis = NULL) {
  many <- nlevels(d$group) > 6
  # in panels side by side there is room for few labels, and long ones need more of it
  across <- if (many) max(2, floor(8 / ceiling(sqrt(nlevels(d$group))))) else labels_across(levels(d$period))
  shown <- levels(d$period)[seq(1, nlevels(d$period), by = ceiling(nlevels(d$period) / across))]
  colour <- if (many) rep(quill_colours(1), nlevels(d$group)) else quill_colours(nlevels(d$group))
  shape <- if (many) rep(16, nlevels(d$group)) else rep_len(c(16, 17, 15, 18, 8, 4), nlevels(d$group))
  # side by side, so that no interval lies on another
  beside <- ggplot2::position_dodge(width = if (is.null(d$low)) 0 else 0.12)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$period, y = .data$value, colour = .data$group, shape = .data$group, group = .data$run)) +
    ggplot2::geom_line(linewidth = 0.9, position = beside)
  if (!is.null(d$low)) plot <- plot + ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), linewidth = 0.7, position = beside,
                                                              na.rm = TRUE, show.legend = FALSE)
  plot <- plot + ggplot2::geom_point(size = if (nlevels(d$period) > 60) 0.8 else 2, position = beside) +
    ggplot2::scale_colour_manual(values = colour, name = NULL) + ggplot2::scale_shape_manual(values = shape, name = NULL) +
    ggplot2::scale_x_discrete(breaks = shown) + ggplot2::labs(x = axis, y = label)
  if (!many) return(plot)
  plot + ggplot2::facet_wrap(ggplot2::vars(.data$group)) + ggplot2::guides(colour = "none", shape = "none")
}

#' Stretches of periods that follow one another: a line is not drawn across a gap
#' @noRd
period_runs <- function(first, every) {
  days <- c(day = 1, week = 7, month = 31, quarter = 92, year = 366)[every]
  at <- if (is.na(days)) NA else as.Date(as.character(first), optional = TRUE)
  if (anyNA(at)) return(rep(1L, length(first)))
  cumsum(c(1L, as.integer(diff(as.numeric(at)) > 1.5 * days)))
}

#' As many labels as stand side by side below a figure
#' @noRd
labels_across <- function(labels) max(1, min(12, floor(105 / (max(nchar(labels)) + 3))))

draw_periods <- function(d, label) {
  every <- max(1, ceiling(nrow(d) / labels_across(levels(d$period))))
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$period, y = .data$value, group = .data$run))
  if (!all(is.na(d$low))) plot <- plot + ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$low, ymax = .data$high),
                                                              fill = quill_colours(1), alpha = 0.15, na.rm = TRUE)
  plot + ggplot2::geom_line(colour = quill_colours(1), linewidth = 0.9, na.rm = TRUE) +
    ggplot2::geom_point(colour = quill_colours(1), size = if (nrow(d) > 60) 1 else 2.2, na.rm = TRUE) +
    ggplot2::scale_x_discrete(breaks = levels(d$period)[seq(1, nrow(d), by = every)]) +
    ggplot2::labs(x = NULL, y = label)
}

window_unit <- function(ctx) ctx$reading$time$window_unit %||% "day"

figure_trend <- function(ctx, res) {
  label <- axis_label(ctx$columns[[ctx$reading$outcome[1]]])
  title <- sprintf("%s over time", capital(say_column(ctx$columns[[ctx$reading$outcome[1]]])))
  d <- data.frame(at = res$at, y = res$y, line = res$intercept + (res$slope %||% res$number$estimate) * res$when)
  new_figure("trend", title, "line", subtitle = "Points are rows; the line is the fitted trend.",
             alt = sprintf("%s: points with a straight line.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$at)) +
    ggplot2::geom_point(ggplot2::aes(y = .data$y), colour = quill_colours(1), size = 1.5,
                        alpha = if (nrow(d) > 400) 0.3 else 0.6) +
      ggplot2::geom_line(ggplot2::aes(y = .data$line), colour = quill_colours(2)[2], linewidth = 1.1) +
      ggplot2::labs(x = if (res$dated) NULL else axis_label(ctx$columns[[ctx$reading$time$column]]), y = label),
    script = c("plot_data <- data.frame(t = t, y = y)",
               sprintf(paste0("plot <- ggplot(plot_data, aes(t, y)) + geom_point(alpha = 0.6) + geom_smooth(method = ",
                              "\"lm\", formula = y ~ x, se = FALSE) + labs(y = %s, title = %s) + theme_minimal()"),
                              as_r_string(label), as_r_string(title))))
}
