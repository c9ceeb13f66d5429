# Units measured under several conditions: one thin line a unit, means with intervals on top.

figure_conditions <- function(ctx, cells) {
  measured <- if (length(ctx$reading$outcome) > 1) shared_measure(ctx$reading$outcome) else axis_label(ctx$columns[[ctx$reading$outcome]])
  title <- if (length(ctx$reading$outcome) > 1) sprintf("%s in the same rows", capital(some_of(gsub("_", " ", cells$levels), 4)))
    else sprintf("%s by %s, within %s", capital(say_column(ctx$columns[[ctx$reading$outcome]])),
                 say_column(ctx$columns[[ctx$reading$by[1]]]), ctx$reading$unit)
  x <- if (length(ctx$reading$outcome) > 1) "" else axis_label(ctx$columns[[ctx$reading$by[1]]])
  new_figure("conditions", title, "line",
             subtitle = sprintf("A thin line is a unit; diamonds are means with %s intervals.",
                                say_level(ctx$conf_level)),
    alt = sprintf("%s: one line for each unit over the conditions.", title),
    draw = function() draw_conditions(cells, ctx$conf_level, x, measured),
    script = c("plot_data <- data.frame(value = as.vector(cells), unit = rep(seq_len(nrow(cells)), ncol(cells)),",
               sprintf("  condition = factor(rep(%s, each = nrow(cells)), levels = %s))", as_r_strings(cells$levels),
                       as_r_strings(cells$levels)),
               "plot <- ggplot(plot_data, aes(condition, value, group = unit)) + geom_line(alpha = 0.4) + geom_point() +",
               sprintf("  labs(x = %s, y = %s, title = %s) + theme_minimal()", as_r_string(x), as_r_string(measured),
                       as_r_string(title))))
}

draw_conditions <- function(cells, conf_level, x, measured, most = 400L) {
  k <- length(cells$levels)
  shown <- if (nrow(cells$values) > most) round(seq(1, nrow(cells$values),
                                                    length.out = most)) else seq_len(nrow(cells$values))
  group <- if (is.null(cells$group)) factor(rep("all",
                                                length(shown))) else factor(cells$group_levels[cells$group[shown]],
                                                    cells$group_levels)
  d <- data.frame(value = as.vector(cells$values[shown, , drop = FALSE]), unit = rep(shown, k),
                  at = rep(seq_len(k), each = length(shown)),
                  group = rep(group, k))
  sets <- if (is.null(cells$group)) rep(1L, nrow(cells$values)) else cells$group
  means <- do.call(rbind, lapply(sort(unique(sets)), function(s) {
    part <- cells$values[sets == s, , drop = FALSE]
    out <- group_intervals(as.vector(part), factor(rep(seq_len(k), each = nrow(part))), conf_level)
    out$group <- if (is.null(cells$group)) "all" else cells$group_levels[s]
    out
  }))
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$at, y = .data$value, colour = .data$group)) +
    ggplot2::geom_line(ggplot2::aes(group = .data$unit), alpha = 0.35, linewidth = 0.5) +
    ggplot2::geom_point(alpha = 0.5, size = 1.4) +
    ggplot2::geom_line(data = means, ggplot2::aes(x = .data$x, y = .data$mean), linewidth = 1.2) +
    ggplot2::geom_linerange(data = means, ggplot2::aes(x = .data$x, y = .data$mean, ymin = .data$low,
                                                       ymax = .data$high), linewidth = 1.1) +
    ggplot2::geom_point(data = means, ggplot2::aes(x = .data$x, y = .data$mean), shape = 23, size = 3.6, fill = "white",
                        stroke = 1.1) +
    ggplot2::scale_colour_manual(values = quill_colours(nlevels(d$group)), name = NULL,
                                 guide = if (is.null(cells$group)) "none" else "legend") +
    ggplot2::scale_x_continuous(breaks = seq_len(k), labels = wrap_level(gsub("_", " ", cells$levels), 14),
                                expand = ggplot2::expansion(add = 0.35))
  plot + ggplot2::labs(x = x, y = measured)
}

#' What columns for several times have in common in their names ("bp" of bp_week0 and bp_week4), as the title of an axis
#' @noRd
shared_measure <- function(names) {
  parts <- strsplit(name_words(names), "[^[:alnum:]]+")
  k <- 0
  while (all(lengths(parts) > k) && length(unique(vapply(parts, `[[`, "", k + 1))) == 1) k <- k + 1
  if (k) capital(paste(parts[[1]][seq_len(k)], collapse = " ")) else "Value"
}
