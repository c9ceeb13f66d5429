# Survival curves with the number at risk beneath.

figure_survival <- function(ctx, res) {
  label <- axis_label(outcome_column_of(ctx))
  event <- plain_filter(ctx$reading$extra$event)
  title <- sprintf("Time until %s%s", event, if (length(ctx$reading$by)) sprintf(" by %s",
      paste(vapply(ctx$reading$by, function(b) say_column(ctx$columns[[b]]), ""), collapse = " and ")) else "")
  groups <- levels(res$parts$group)
  at <- if (is.null(res$at$each)) res$at$value else unique(res$at$each$at_time)
  new_figure("survival", title, "step",
      subtitle = sprintf("Share without the event with %s intervals; ticks are censored rows; below, rows at risk.",
      say_level(ctx$conf_level)),
             alt = sprintf("%s: a falling step curve for each group%s.", title, if (is.null(at)) "" else sprintf(", read at %s",
                 some_of(said_times(ctx$reading), 8))),
    draw = function() draw_survival(res$survival$curves, groups, label, at),
    script = c(paste0("plot_data <- do.call(rbind, Map(function(k, g) data.frame(time = c(0, k$time),",
        " survival = c(1, k$surv), group = g), curves, levels(group)))"),
               sprintf(paste0("plot <- ggplot(plot_data, aes(time, survival, colour = group)) + geom_step()",
                   " + ylim(0, 1) + labs(x = %s, title = %s) + theme_minimal()"), as_r_string(label), as_r_string(title)),
               if (!is.null(at)) sprintf("plot <- plot + geom_vline(xintercept = %s, linetype = \"dashed\")", if (length(at) > 1) "times" else "at")))
}

draw_survival <- function(curves, groups, label, read_at = NULL) {
  k <- length(groups)
  steps <- do.call(rbind, Map(function(c, g) data.frame(time = c(0, c$time), survival = c(1, c$survival),
      low = c(1, ifelse(is.na(c$ci_low), c$survival, c$ci_low)),
                                                        high = c(1, ifelse(is.na(c$ci_high), c$survival, c$ci_high)), group = g), curves, groups))
  steps$group <- factor(steps$group, groups)
  ticks <- do.call(rbind, Map(function(c, g) if (any(c$censored > 0)) data.frame(time = c$time[c$censored > 0],
      survival = c$survival[c$censored > 0], group = g), curves, groups))
  at <- pretty(c(0, max(steps$time)), 6)
  at <- at[at <= max(steps$time) * 1.02]
  risk <- do.call(rbind, Map(function(c, g, i) data.frame(time = at,
      n = vapply(at, function(t) if (any(c$time >= t)) c$at_risk[which(c$time >= t)[1]] else 0, 1), y = -0.1 - 0.105 * (i - 1),
                                                          group = g), curves, groups, seq_len(k)))
  colours <- stats::setNames(quill_colours(k), groups)
  # bands beside each other would hide the curves
  band <- if (k <= 3) ggplot2::geom_rect(data = step_rectangles(steps),
      ggplot2::aes(xmin = .data$from, xmax = .data$to, ymin = .data$low, ymax = .data$high, fill = .data$group), alpha = 0.13,
                                         inherit.aes = FALSE)
  plot <- ggplot2::ggplot(steps, ggplot2::aes(x = .data$time, y = .data$survival, colour = .data$group)) + band + ggplot2::geom_step(linewidth = 0.9)
  if (!is.null(ticks)) plot <- plot + ggplot2::geom_point(data = ticks, shape = 3, size = 1.6)
  if (!is.null(read_at)) plot <- plot + read_at_time(curves, groups, read_at)
  plot + ggplot2::geom_text(data = risk, ggplot2::aes(x = .data$time, y = .data$y, label = .data$n,
      colour = .data$group), size = 3.3, show.legend = FALSE) +
    ggplot2::geom_hline(yintercept = 0, colour = "#5B6770", linewidth = 0.4) +
    ggplot2::scale_colour_manual(values = colours, name = NULL) + ggplot2::scale_fill_manual(values = colours, name = NULL, guide = "none") +
    ggplot2::scale_x_continuous(breaks = at) + ggplot2::scale_y_continuous(breaks = seq(0, 1, 0.25),
        labels = c("0 %", "25 %", "50 %", "75 %", "100 %"), limits = c(-0.15 - 0.105 * (k - 1), 1.01)) +
    ggplot2::labs(x = label, y = "Share without the event") + ggplot2::theme(legend.position = if (k > 1) "bottom" else "none")
}

#' The time at which the curves are read: a dashed line, and a dot on every curve
#' @noRd
read_at_time <- function(curves, groups, at) {
  dots <- do.call(rbind, lapply(at, function(t) data.frame(time = t, survival = vapply(curves, function(k) survival_at(k, t)[["survival"]], 1),
                                                            group = factor(groups, groups))))
  list(ggplot2::annotate("segment", x = at, xend = at, y = 0, yend = 1, linetype = "dashed", colour = "#5B6770", linewidth = 0.5),
       ggplot2::geom_point(data = dots[!is.na(dots$survival), ], size = 2.8, show.legend = FALSE))
}

step_rectangles <- function(steps) {
  do.call(rbind, lapply(split(steps, steps$group), function(s) if (nrow(s) > 1) data.frame(from = s$time[-nrow(s)],
      to = s$time[-1], low = s$low[-nrow(s)], high = s$high[-nrow(s)],
                                                                                          group = s$group[1])))
}
