# Pictures of how a model fits: its residuals, its influential rows, the chances it gives.

#' Influence of the rows of a fitted model, least squares or generalised
#' @noRd
row_influence <- function(res) stat_row_influence(res$x, res$fit, if (!is.null(res$family)) res$y, res$family)

#' Residuals from four sides: along the fit, against the normal curve, their spread along the fit, and against leverage
#' @noRd
figure_residuals <- function(ctx, res) {
  title <- sprintf("Residuals of the model of %s", say_column(outcome_column_of(ctx)))
  panels <- c("Residuals along the fitted values", "Residuals against normal quantiles", "Root of their size along the fitted values",
              "Residuals against leverage")
  new_figure("residuals", title, "scatter", subtitle = "Standardised residuals. Lines: a running middle; on the quantiles, a normal shape.",
             alt = sprintf("%s in four panels: %s.", title, some_of(tolower(panels), 4)),
    draw = function() draw_residuals(residual_panels(res, panels), panels),
    script = c("std <- rstandard(fit); n <- length(std); q <- numeric(n); q[order(std)] <- qnorm(ppoints(n))",
      sprintf("plot_data <- data.frame(panel = rep(%s, each = n), x = c(fitted(fit), q, fitted(fit), hatvalues(fit)), y = c(std, std, sqrt(abs(std)), std))",  # nolint: line_length_linter.
              as_r_strings(panels)),
      sprintf("plot <- ggplot(plot_data, aes(x, y)) + geom_point(alpha = 0.5) + facet_wrap(~ panel, scales = \"free\") + labs(title = %s) + theme_minimal()",  # nolint: line_length_linter.
              as_r_string(title))))
}

#' @section Shape: list(points, lines), each a data frame panel (factor), x, y.
#' @noRd
residual_panels <- function(res, panels) {
  std <- row_influence(res)$standardised
  n <- length(std)
  q <- numeric(n); q[order(std)] <- stats::qnorm(stats::ppoints(n))
  fitted <- res$fit$fitted
  xs <- list(fitted, q, fitted, res$fit$leverage); ys <- list(std, std, sqrt(abs(std)), std)
  ends <- range(q)
  points <- lines <- NULL
  for (k in seq_along(panels)) {
    panel <- factor(panels[k], panels)
    points <- rbind(points, data.frame(panel = panel, x = xs[[k]], y = ys[[k]]))
    middle <- if (k == 2) list(x = ends, y = ends) else if (k != 4) running_middle(xs[[k]], ys[[k]])
    if (!is.null(middle)) lines <- rbind(lines, data.frame(panel = panel, x = middle$x, y = middle$y))
  }
  # a picture needs no more rows than it has dots
  if (n > 4000) points <- points[rep(seq(1, n, length.out = 4000), 4) + rep(0:3, each = 4000) * n, ]
  list(points = points, lines = lines)
}

#' A smooth course through points, at two hundred places at most
#' @section Source: Cleveland, W. S. (1979). JASA 74, 829-836.
#' @noRd
running_middle <- function(x, y) {
  smooth <- stats::lowess(x, y)
  if (length(unique(smooth$x)) < 2 || length(x) <= 200) return(smooth)
  stats::approx(smooth$x, smooth$y, n = 200, ties = mean)
}

draw_residuals <- function(d, panels) {
  level <- data.frame(panel = factor(panels[c(1, 4)], panels), at = 0)
  ggplot2::ggplot(d$points, ggplot2::aes(x = .data$x, y = .data$y)) +
    ggplot2::geom_hline(data = level, ggplot2::aes(yintercept = .data$at), colour = quill_soft(), linetype = "22") +
    ggplot2::geom_point(alpha = if (nrow(d$points) > 2000) 0.3 else 0.55, size = 1.5, shape = 16, colour = quill_colours(1)) +
    ggplot2::geom_line(data = d$lines, colour = quill_colours(2)[2], linewidth = 0.9) +
    ggplot2::facet_wrap(ggplot2::vars(.data$panel), scales = "free") +
    ggplot2::labs(x = NULL, y = "Standardised residual") +
    ggplot2::theme(panel.spacing = ggplot2::unit(1.2, "lines"), strip.text = ggplot2::element_text(hjust = 0, face = "bold"))
}

#' Cook's distances in the order of the rows, the largest named
#' @noRd
figure_influence <- function(ctx, res) {
  title <- sprintf("Influence of single rows on the model of %s", say_column(outcome_column_of(ctx)))
  cook <- row_influence(res)$cooks_distance
  rows <- as.numeric(ctx$frame$rows)
  d <- data.frame(row = rows, cook = cook)
  top <- order(-cook)[seq_len(min(3, length(cook)))]
  key <- utils::head(ctx$row_labels(ctx$frame$rows[top]), 1)
  named <- data.frame(d[top, ], name = if (length(key)) key[[1]] else paste("row", rows[top]), stringsAsFactors = FALSE)
  new_figure("influence", title, "bar", subtitle = "Cook's distance of each row; the three largest are named.",
             alt = sprintf("%s: a line for each row, as high as its Cook's distance.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$row, y = .data$cook)) +
      ggplot2::geom_linerange(ggplot2::aes(ymin = 0, ymax = .data$cook), colour = quill_colours(1), linewidth = 0.6) +
      ggplot2::geom_text(data = named, ggplot2::aes(label = .data$name), vjust = -0.5, colour = quill_colours(2)[2], size = 3.6, check_overlap = TRUE) +  # nolint: line_length_linter.
      ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.12))) +
      ggplot2::scale_x_continuous(expand = ggplot2::expansion(mult = 0.05)) +
      ggplot2::labs(x = "Row of the file", y = "Cook's distance"),
    script = c("plot_data <- data.frame(row = as.numeric(rownames(rows)), cook = cooks.distance(fit))",
               "plot <- ggplot(plot_data, aes(row, cook)) + geom_linerange(aes(ymin = 0, ymax = cook)) +",
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}

#' Right calls against false alarms at every cut
#' @noRd
figure_roc <- function(ctx, res) {
  title <- sprintf("Telling %s = %s from the rest", say_column(outcome_column_of(ctx)), res$event)
  roc <- stat_roc(res$fit$fitted, res$y)
  d <- data.frame(alarms = 1 - roc$specificity, found = roc$sensitivity)
  best <- stat_best_cut(roc)
  point <- data.frame(alarms = 1 - best$specificity, found = best$sensitivity, name = sprintf("called from %s", say_percent(best$cut, 0)))
  new_figure("roc", title, "line", subtitle = sprintf("ROC curve; area %s. The point: the cut with most right calls of both kinds.", say_unit(res$number$auc)),  # nolint: line_length_linter.
             alt = sprintf("%s: sensitivity against one minus specificity at every cut.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$alarms, y = .data$found)) +
      ggplot2::geom_abline(slope = 1, intercept = 0, colour = quill_soft(), linetype = "22") +
      ggplot2::geom_step(colour = quill_colours(1), linewidth = 1, direction = "hv") +
      ggplot2::geom_point(data = point, colour = quill_colours(2)[2], size = 3.4) +
      ggplot2::geom_text(data = point, ggplot2::aes(label = .data$name), hjust = -0.25, vjust = 1.3, colour = quill_colours(2)[2], size = 3.8) +
      ggplot2::scale_x_continuous(labels = percent_axis, limits = c(0, 1)) + ggplot2::scale_y_continuous(labels = percent_axis, limits = c(0, 1)) +
      ggplot2::labs(x = "False alarms (1 - specificity)", y = "Found (sensitivity)"),
    script = c("k <- c(Inf, sort(unique(fitted(fit)), decreasing = TRUE))",
               "plot_data <- data.frame(alarms = sapply(k, function(v) mean(fitted(fit)[y == 0] >= v)), found = sapply(k, function(v) mean(fitted(fit)[y == 1] >= v)))",  # nolint: line_length_linter.
               "plot <- ggplot(plot_data, aes(alarms, found)) + geom_abline() + geom_step() +",
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}

percent_axis <- function(v) paste0(round(100 * v), " %")

#' Observed shares against the chances given
#' @noRd
figure_calibration <- function(ctx, res) {
  title <- sprintf("Chances of %s = %s: given and observed", say_column(outcome_column_of(ctx)), res$event)
  t <- stat_calibration(res$fit$fitted, res$y, conf_level = ctx$conf_level)$table
  new_figure("calibration", title, "dot",
             subtitle = sprintf("Groups of about equal size, with %s intervals; on the line chances and shares agree.", say_level(ctx$conf_level)),
             alt = sprintf("%s, a dot with its interval for each group of chances.", title),
    draw = function() ggplot2::ggplot(t, ggplot2::aes(x = .data$fitted, y = .data$observed)) +
      ggplot2::geom_abline(slope = 1, intercept = 0, colour = quill_colours(2)[2], linewidth = 0.9) +
      ggplot2::geom_linerange(ggplot2::aes(ymin = .data$ci_low, ymax = .data$ci_high), colour = quill_colours(1), linewidth = 0.8) +
      ggplot2::geom_point(colour = quill_colours(1), size = 3) +
      ggplot2::scale_x_continuous(labels = percent_axis, limits = c(0, 1)) + ggplot2::scale_y_continuous(labels = percent_axis, limits = c(0, 1)) +
      ggplot2::labs(x = "Mean chance given by the model", y = "Observed share"),
    script = c("plot_data <- tables$calibration",
               "plot <- ggplot(plot_data, aes(fitted, observed)) + geom_abline() + geom_pointrange(aes(ymin = ci_low, ymax = ci_high)) +",
               sprintf("  labs(title = %s) + theme_minimal()", as_r_string(title))))
}
