# The chance or the expected count that a model of one measured predictor gives, beside what was seen.

#' @section Shape: A figure, or NULL where the model has other predictors, or its ratios are what is to be drawn.
#' @noRd
figure_chance <- function(ctx, res) {
  if (isTRUE(ctx$reading$extra$ratio_plot)) return(NULL)
  if (length(res$columns) != 1 || res$factors[[1]] || length(res$fit$aliased) || isTRUE(res$fit$separated) || any(res$offset != 0)) return(NULL)
  x <- as.double(res$columns[[1]])
  if (length(unique(x)) < 5) return(NULL)
  at <- seq(min(x), max(x), length.out = 120)
  mean_at <- function(v) { e <- expected_mean(res$fit, list(row = v), res$family, ctx$conf_level); data.frame(x = v, fit = e$value, low = e$ci_low,
      high = e$ci_high) }
  band <- do.call(rbind, lapply(at, mean_at))
  stated <- if (!is.null(res$at)) do.call(rbind, lapply(res$several$values %||% res$at$values[[1]], mean_at))
  seen <- seen_beside_curve(ctx, res, x)
  xcol <- ctx$columns[[names(res$columns)]]
  title <- sprintf("%s by %s", seen$what, say_column(xcol))
  new_figure("chance", title, "line", alt = sprintf("%s: a curve with its band.", title),
    subtitle = sprintf("Curve: the model with its %s band; points: %s%s.", say_level(ctx$conf_level),
                       seen$points, if (is.null(stated)) "" else "; diamonds: the values asked about"),
    draw = function() draw_chance(band, seen$data, stated, axis_label(xcol), seen$axis, res$family == "binomial"),
    script = c(seen$script,
               sprintf(paste0("plot <- ggplot(plot_data, ", seen$aes, ") + geom_point(alpha = 0.3) + geom_smooth(method = \"glm\", formula = y ~ x, ",
                              "method.args = list(family = %s)) + labs(title = %s) + theme_minimal()"), res$family, as_r_string(title))))
}

#' What is drawn beside the curve, and how it is called: shares of rows that count, shares of groups of rows, or the rows
#' @section Shape: list(data, what, points, axis, script, aes).
#' @noRd
seen_beside_curve <- function(ctx, res, x) {
  y <- say_column(outcome_column_of(ctx))
  plain <- list(script = "plot_data <- data.frame(x = x1, y = as.numeric(y))", aes = "aes(x, y)")
  if (!is.null(res$trials)) return(list(
    data = counted_shares(x, res, ctx$conf_level), what = sprintf("Share of %s out of %s", y, say_column(ctx$columns[[ctx$reading$extra$trials]])),
    points = "the share of each row, with Wilson intervals", axis = "Share",
    script = "plot_data <- data.frame(x = x1, y = y / trials, weight = trials)", aes = "aes(x, y, weight = weight)"))
  if (res$family == "binomial") return(c(list(
    data = seen_shares(x, res$y, ctx$conf_level), what = sprintf("Chance of %s = %s", y, res$event),
    points = "shares seen in groups of rows, with Wilson intervals", axis = "Share of rows"), plain))
  c(list(data = data.frame(x = x, fit = res$y), what = sprintf("Expected %s", y), points = "rows", axis = axis_label(outcome_column_of(ctx))), plain)
}

#' The share of each row that counts how many of how many
#' @noRd
counted_shares <- function(x, res, conf_level) {
  w <- stat_wilson(res$y, res$trials, conf_level)
  # rows at the same place stand side by side
  beside <- stats::ave(x, x, FUN = function(v) seq_along(v) - (length(v) + 1) / 2)
  data.frame(x = x + beside * 0.012 * diff(range(x)), fit = res$y / res$trials, low = w$low, high = w$high)
}

#' Shares in groups of rows of about equal size along a column
#' @section Shape: data frame x (mean of the column), fit (share), low, high.
#' @noRd
seen_shares <- function(x, y, conf_level) {
  few <- length(unique(x)) <= 12
  cuts <- unique(stats::quantile(x, seq(0, 1, length.out = max(3, min(11, floor(length(x) / 12) + 1)))))
  g <- if (few) match(x, sort(unique(x))) else as.integer(cut(x, cuts, include.lowest = TRUE))
  n <- as.vector(tapply(y, g, length)); hits <- as.vector(tapply(y, g, sum))
  w <- stat_wilson(hits, n, conf_level)
  data.frame(x = as.vector(tapply(x, g, mean)), fit = hits / n, low = w$low, high = w$high)
}

draw_chance <- function(band, seen, stated, xlab, ylab, chance) {
  line <- quill_colours(2)[2]
  plot <- ggplot2::ggplot(band, ggplot2::aes(x = .data$x, y = .data$fit)) +
    ggplot2::geom_ribbon(ggplot2::aes(ymin = .data$low, ymax = .data$high), fill = line, alpha = 0.18) +
    ggplot2::geom_line(colour = line, linewidth = 1.1)
  plot <- if (chance) plot + ggplot2::geom_linerange(data = seen, ggplot2::aes(ymin = .data$low, ymax = .data$high), colour = quill_soft(),
      linewidth = 0.6) +
    ggplot2::geom_point(data = seen, colour = quill_colours(1), size = 2.4) +
    ggplot2::scale_y_continuous(limits = c(0, 1), labels = function(v) paste(round(100 * v), "%"))
    else plot + ggplot2::geom_point(data = seen, colour = quill_colours(1), alpha = if (nrow(seen) > 400) 0.25 else 0.5, size = 1.8)
  if (!is.null(stated)) plot <- plot + ggplot2::geom_point(data = stated, shape = 23, size = 3.8, fill = "white", colour = quill_ink(), stroke = 1.1)
  plot + ggplot2::labs(x = xlab, y = ylab)
}
