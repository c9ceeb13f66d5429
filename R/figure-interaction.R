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

#' Shares over the levels of one column, a line for each level of another: an interaction of two columns of levels on a yes/no outcome
#'
#' The shares are those of the rows as they are, whatever else is in the model.
#' @section Shape: A figure, or NULL where the pair is not of that kind.
#' @noRd
figure_pair_shares <- function(ctx, res) {
  pair <- if (length(res$pair)) res$pair[[1]]
  if (is.null(pair) || res$family != "binomial" || !all(res$factors[pair]) || any(vapply(res$columns[pair], nlevels, 1L) > 8)) return(NULL)
  cells <- stats::aggregate(list(count = res$y, n = rep(1, length(res$y))), list(x = res$columns[[pair[1]]], line = res$columns[[pair[2]]]), sum)
  w <- stat_wilson(cells$count, cells$n, ctx$conf_level)
  shares <- data.frame(x = cells$x, line = droplevels(cells$line), mean = cells$count / cells$n, low = w$low, high = w$high)
  y <- outcome_column_of(ctx)
  of <- sprintf("%s = %s", say_column(y), res$event)
  title <- sprintf("Share with %s by %s and %s", of, say_column(ctx$columns[[pair[1]]]), say_column(ctx$columns[[pair[2]]]))
  new_figure("pair_shares", title, "line", subtitle = sprintf("Shares of the rows with %s Wilson intervals.", say_level(ctx$conf_level)),
             alt = sprintf("%s: a line of shares for each level.", title),
    draw = function() draw_two_groupings(shares, ctx$columns[[pair[1]]], ctx$columns[[pair[2]]], y, joined = TRUE) +
      ggplot2::scale_y_continuous(labels = percent_axis) + ggplot2::labs(y = sprintf("Share with %s", of)),
    script = c(sprintf("plot_data <- aggregate(list(share = y), list(a = x%d, b = x%d), mean)", match(pair[1], names(res$columns)),
                       match(pair[2], names(res$columns))),
               sprintf(paste0("plot <- ggplot(plot_data, aes(a, share, colour = b, group = b)) + geom_line() + geom_point() + ",
                              "labs(title = %s) + theme_minimal()"), as_r_string(title))))
}

#' Points and the model's lines, one for each level, of an interaction between a measured column and one of levels
#'
#' What else is in the model stands at its mean.
#' @section Shape: A figure, or NULL where the pair is not of that kind.
#' @noRd
figure_slopes <- function(ctx, res) {
  pair <- if (length(res$pair)) res$pair[[1]]
  if (is.null(pair) || sum(res$factors[pair]) != 1 || length(res$fit$aliased)) return(NULL)
  of <- pair[!res$factors[pair]]; by <- pair[res$factors[pair]]
  levels <- levels(res$columns[[by]])
  if (length(levels) > 6) return(NULL)
  band <- slope_bands(res, of, by, ctx$conf_level)
  d <- data.frame(x = as.double(res$columns[[of]]), y = res$fit$fitted + res$fit$residuals, group = res$columns[[by]])
  xcol <- ctx$columns[[of]]; ycol <- outcome_column_of(ctx); gcol <- ctx$columns[[by]]
  title <- sprintf("%s against %s by %s", capital(say_column(ycol)), say_column(xcol), say_column(gcol))
  new_figure("slopes", title, "scatter", subtitle = sprintf("Lines: the model for each level with its %s band%s.", say_level(ctx$conf_level),
      rest_at_mean(res, pair)), alt = sprintf("%s: points and a line for each level.", title),
    draw = function() draw_slopes(d, band, xcol, ycol, gcol),
    script = c(sprintf("plot_data <- data.frame(x = x%d, y = y, group = x%d)", match(of, names(res$columns)), match(by, names(res$columns))),
               sprintf(paste0("plot <- ggplot(plot_data, aes(x, y, colour = group)) + geom_point() + geom_smooth(method = \"lm\", formula = y ~ x) + ",  # nolint: line_length_linter.
                              "labs(title = %s) + theme_minimal()"), as_r_string(title))))
}

#' What is told of the columns beside the interacting pair
#' @noRd
rest_at_mean <- function(res, pair) if (length(setdiff(names(res$columns), pair))) ", the other columns at their mean" else ""

#' Fitted means and their limits at rows of the design
#' @section Shape: data frame fit, low, high.
#' @noRd
fitted_limits <- function(fit, rows, conf_level) {
  mean <- drop(rows %*% fit$coefficients)
  half <- stats::qt(1 - (1 - conf_level) / 2, fit$df) * sqrt(pmax(0, rowSums((rows %*% fit$covariance) * rows)))
  data.frame(fit = mean, low = mean - half, high = mean + half)
}

#' Fitted line and band of each level over the values that its rows have
#' @noRd
slope_bands <- function(res, of, by, conf_level) {
  first <- which(res$source == of); second <- which(res$source == by); both <- grep(" x ", res$source, fixed = TRUE)
  one <- function(level) {
    v <- as.double(res$columns[[of]])[res$columns[[by]] == level]
    at <- seq(min(v), max(v), length.out = 60)
    on <- as.numeric(levels(res$columns[[by]])[-1] == level)
    rows <- matrix(colMeans(res$x), length(at), ncol(res$x), byrow = TRUE)
    rows[, first] <- at
    rows[, second] <- rep(on, each = length(at))
    rows[, both] <- outer(at, on)
    cbind(data.frame(x = at, group = factor(level, levels(res$columns[[by]]))), fitted_limits(res$fit, rows, conf_level))
  }
  do.call(rbind, lapply(levels(res$columns[[by]]), one))
}

draw_slopes <- function(d, band, xcol, ycol, gcol) {
  n <- nlevels(d$group)
  ggplot2::ggplot(d, ggplot2::aes(x = .data$x, y = .data$y, colour = .data$group)) +
    ggplot2::geom_point(ggplot2::aes(shape = .data$group), size = 1.9, alpha = if (nrow(d) > 400) 0.3 else 0.55) +
    ggplot2::geom_ribbon(data = band, ggplot2::aes(x = .data$x, ymin = .data$low, ymax = .data$high, fill = .data$group), alpha = 0.13, colour = NA,
                         inherit.aes = FALSE) +
    ggplot2::geom_line(data = band, ggplot2::aes(x = .data$x, y = .data$fit, colour = .data$group), linewidth = 1.1, inherit.aes = FALSE) +
    ggplot2::scale_colour_manual(values = quill_colours(n)) + ggplot2::scale_fill_manual(values = quill_colours(n)) +
    ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4), n)) +
    ggplot2::labs(x = axis_label(xcol), y = axis_label(ycol), colour = axis_label(gcol), fill = axis_label(gcol), shape = axis_label(gcol))
}

#' The model's mean at each pair of levels, of an interaction between two columns of levels; what else is in the model stands at its mean
#' @section Shape: A figure, or NULL where the pair is not of that kind.
#' @noRd
figure_cells <- function(ctx, res) {
  pair <- if (length(res$pair)) res$pair[[1]]
  if (is.null(pair) || !all(res$factors[pair]) || length(res$fit$aliased) || nlevels(res$columns[[pair[2]]]) > 8) return(NULL)
  first <- which(res$source == pair[1]); second <- which(res$source == pair[2]); both <- grep(" x ", res$source, fixed = TRUE)
  levels <- lapply(res$columns[pair], levels)
  cells <- expand.grid(x = levels[[1]], line = levels[[2]])
  on <- function(level, all) as.numeric(all[-1] == level)
  rows <- t(vapply(seq_len(nrow(cells)), function(i) {
    row <- colMeans(res$x)
    a <- on(cells$x[i], levels[[1]]); b <- on(cells$line[i], levels[[2]])
    row[first] <- a; row[second] <- b; row[both] <- as.vector(outer(a, b))
    row
  }, numeric(ncol(res$x))))
  limits <- fitted_limits(res$fit, rows, ctx$conf_level)
  means <- data.frame(cells, mean = limits$fit, low = limits$low, high = limits$high)
  y <- outcome_column_of(ctx); columns <- ctx$columns[pair]
  title <- sprintf("%s by %s and %s", capital(say_column(y)), say_column(columns[[1]]), say_column(columns[[2]]))
  new_figure("interaction", title, "line", subtitle = sprintf("The model's means with %s intervals%s.", say_level(ctx$conf_level),
      rest_at_mean(res, pair)), alt = sprintf("%s: a line of means for each level.", title),
    draw = function() draw_two_groupings(means, columns[[1]], columns[[2]], y, joined = TRUE),
    script = c(sprintf("plot_data <- aggregate(list(mean = y), list(a = x%d, b = x%d), mean)", match(pair[1], names(res$columns)),
                       match(pair[2], names(res$columns))),
               sprintf("plot <- ggplot(plot_data, aes(a, mean, colour = b, group = b)) + geom_line() + geom_point() + labs(title = %s) + theme_minimal()",  # nolint: line_length_linter.
                       as_r_string(title))))
}
