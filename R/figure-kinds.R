# Pictures asked for by kind, drawn from the rows of the answer.

#' The figure that the look asks for; NULL where the method's own serves
#' @noRd
asked_figure <- function(ctx, look, own) {
  redraws <- c("colour", "panel", "order", "mark", if (identical(own$kind, "scatter") || identical(look$kind, "scatter")) c("smooth", "names"))
  kind <- look$kind %||% (if (any(redraws %in% names(look))) own$kind)
  if (is.null(kind) || !kind %in% figure_kinds()) return(NULL)
  if (identical(kind, own$kind) && !any(redraws %in% names(look)) && !kind %in% c("scatter", "bar", "histogram")) return(NULL)
  parts <- picture_parts(ctx, kind)
  if (is.null(parts)) return(NULL)
  picture_figure(ctx, kind, parts, look)
}

#' Which columns stand on which axis
#' @section Shape: list(y, x, group), names or NULL; NULL where the kind cannot show these columns.
#' @noRd
picture_parts <- function(ctx, kind) {
  r <- ctx$reading
  names <- unique(c(r$outcome, r$predictors, r$adjust_for))
  names <- names[names %in% names(ctx$frame$data)]
  number <- vapply(names, function(n) ctx$columns[[n]]$kind %in% c("number", "count", "ordered"), NA)
  level <- vapply(c(r$by, names), function(n) groupable(ctx$columns[[n]]), NA)
  groups <- c(r$by, names)[level]
  y <- names[number][1]; second <- names[number][2]
  first_group <- setdiff(c(r$by, groups), y)[1]
  part <- function(y = NULL, x = NULL, group = NULL) lapply(list(y = y, x = x, group = group), function(v) if (length(v) && !is.na(v)) v)
  time <- r$time$column
  switch(kind,
    histogram = , density = , qq = if (!is.na(y)) part(y = y, group = first_group),
    box = , violin = , dot = if (!is.na(y)) part(y = y, x = first_group, group = setdiff(groups, c(y, first_group))[1]),
    scatter = if (!is.na(second)) part(y = y, x = second, group = r$by[1]) else if (!is.na(y) && length(time)) part(y = y, x = time),
    line = if (!is.na(y) && length(time)) part(y = y, x = time, group = r$by[1]) else if (!is.na(y) && !is.na(first_group)) part(y = y,
      x = first_group, group = setdiff(groups, c(y, first_group))[1])
      else if (!is.na(second)) part(y = y, x = second),
    bar = if (!is.na(y) && !ctx$columns[[y]]$kind %in% "ordered" && !is.na(first_group)) part(y = y,
      x = first_group) else if (length(groups)) part(x = groups[1], group = groups[2]),
    pie = if (length(groups)) part(x = groups[1]),
    mosaic = , heatmap = if (length(groups) > 1) { if (length(r$by)) part(x = groups[1], group = groups[2]) else part(x = groups[2],
      group = groups[1]) })
}

picture_figure <- function(ctx, kind, parts, look) {
  d <- picture_data(ctx, parts, look)
  label <- function(name) if (is.null(name)) NULL else axis_label(ctx$columns[[name]] %||% find_column_of(ctx, name))
  title <- picture_title(ctx, kind, parts)
  shown <- picture_layers(kind, d, parts, look, ctx$conf_level)
  new_figure("asked", title, kind, subtitle = shown$subtitle, alt = sprintf("%s, drawn as a %s.", title, kind_word(kind)),
    draw = function() {
      plot <- shown$plot + ggplot2::labs(x = shown$x %||% label(parts$x %||% parts$y), y = shown$y %||% label(parts$y))
      if (!is.null(look$colour) || !is.null(parts$group)) plot <- plot + ggplot2::labs(colour = label(look$colour %||% parts$group),
        fill = label(look$colour %||% parts$group), shape = label(look$colour %||% parts$group))
      if (!is.null(look$panel)) plot <- plot + ggplot2::facet_wrap(ggplot2::vars(.data$panel), labeller = ggplot2::label_wrap_gen(24))
      plot
    },
    script = picture_script(kind, parts, look, title, shown, label))
}

find_column_of <- function(ctx, name) ctx$columns[[name]] %||% list(name = name, kind = "category")

picture_title <- function(ctx, kind, parts) {
  say <- function(n) say_column(ctx$columns[[n]])
  if (kind %in% c("histogram", "density", "qq")) return(sprintf("Distribution of %s%s", say(parts$y),
    if (is.null(parts$group)) "" else sprintf(" by %s", say(parts$group))))
  if (kind == "scatter") return(sprintf("%s against %s", capital(say(parts$y)), say(parts$x)))
  if (is.null(parts$y)) return(sprintf("Rows by %s%s", say(parts$x), if (is.null(parts$group)) "" else sprintf(" and %s", say(parts$group))))
  what <- if (kind %in% c("bar", "dot", "line")) sprintf("Mean of %s", say(parts$y)) else capital(say(parts$y))
  if (kind == "line" && inherits(ctx$frame$data[[parts$x]], c("Date", "POSIXct"))) what <- capital(say(parts$y))
  sprintf("%s%s%s", what, if (is.null(parts$x)) "" else sprintf(" by %s", say(parts$x)), if (is.null(parts$group)) "" else sprintf(" and %s",
    say(parts$group)))
}

#' One row a data row: y, x, group, colour, panel, marked
#' @noRd
picture_data <- function(ctx, parts, look) {
  data <- ctx$frame$data
  d <- data.frame(row = seq_len(ctx$frame$used))
  if (!is.null(parts$y)) d$y <- as_plain_number(data[[parts$y]])
  if (!is.null(parts$x)) {
    v <- data[[parts$x]]
    d$x <- if (inherits(v, c("Date", "POSIXct"))) v else if (!is.null(parts$y) && is.numeric(v) &&
      !groupable(ctx$columns[[parts$x]])) as.double(v) else if (is.numeric(v) && identical(look$kind %||% "",
        "scatter")) as.double(v) else as_group(v)
  }
  if (!is.null(parts$group)) d$group <- as_group(data[[parts$group]])
  if (!is.null(look$colour)) { v <- data[[look$colour]]; d$group <- if (is.numeric(v) && length(unique(v)) > 8) as.double(v) else as_group(v) }
  if (!is.null(look$panel)) d$panel <- as_group(data[[look$panel]])
  if (!is.null(look$names)) d$name <- as.character(data[[look$names]])
  if (!is.null(look$mark)) d$marked <- Reduce(`&`, lapply(look$mark, function(f) row_matches(data[[f$column]], f)))
  if (!is.null(look$order) && is.factor(d$x)) d$x <- ordered_levels(d, look$order)
  if (!is.null(parts$y)) d <- d[is.finite(d$y), , drop = FALSE]
  d
}

#' Levels in the order of the mean, median or number of their rows, the largest first
#' @noRd
ordered_levels <- function(d, order) {
  if (order == "name") return(factor(as.character(d$x), sort_text(levels(d$x))))
  value <- if (order == "count" || is.null(d$y)) tabulate(d$x, nlevels(d$x)) else tapply(d$y, d$x, if (order == "median") stats::median else mean,
    na.rm = TRUE)
  factor(d$x, levels(d$x)[order(-value, seq_along(value))])
}

#' Layers of each kind
#' @section Shape: list(plot, x, y (labels that differ from the columns' own), subtitle, code = lines of the script).
#' @noRd
picture_layers <- function(kind, d, parts, look, conf_level) {
  colours <- function(plot) {
    if (is.null(d$group)) return(plot)
    if (is.numeric(d$group)) return(plot + ggplot2::scale_colour_gradient(low = "#C9D6E2", high = quill_colours(1)))
    values <- if (isTRUE(look$grey)) grDevices::grey.colors(nlevels(d$group), 0.1, 0.75) else quill_colours(nlevels(d$group))
    plot + ggplot2::scale_colour_manual(values = values) + ggplot2::scale_fill_manual(values = values)
  }
  one <- if (isTRUE(look$grey)) "grey35" else quill_colours(1)
  grouped <- !is.null(d$group)
  attr(d, "bins") <- look$bins
  maker <- list(histogram = layers_histogram, density = layers_density, qq = layers_qq, box = layers_box, violin = layers_box, dot = layers_means,
    scatter = layers_scatter,
                line = layers_line, bar = layers_bar, pie = layers_pie, mosaic = layers_mosaic, heatmap = layers_heat)[[kind]]
  shown <- maker(d, parts, grouped, one, conf_level, kind)
  if (kind == "scatter" && !is.null(look$smooth)) {
    shown$plot <- shown$plot + smooth_layer(look$smooth, one, grouped && is.factor(d$group))
    shown$code <- paste0(shown$code, sprintf(" + geom_smooth(method = \"lm\", formula = %s)",
        if (look$smooth == "line") "y ~ x" else "y ~ splines::ns(x, 4)"))
  }
  if (kind == "scatter" && !is.null(look$names)) {
    shown$plot <- shown$plot + names_layer()
    shown$code <- paste0(shown$code, " + geom_text(aes(label = name), check_overlap = TRUE, vjust = -0.8)")
  }
  shown$plot <- colours(shown$plot)
  if (any(d$marked)) shown <- mark_rows(shown, d, kind)
  shown
}

layers_histogram <- function(d, parts, grouped, one, conf_level, kind) {
  breaks <- histogram_breaks(d$y, attr(d, "bins"))
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$y))
  plot <- if (grouped && is.factor(d$group)) plot + ggplot2::geom_histogram(ggplot2::aes(fill = .data$group), breaks = breaks, colour = "white",
    linewidth = 0.3, show.legend = FALSE) +
      ggplot2::facet_wrap(ggplot2::vars(.data$group), ncol = if (nlevels(d$group) <= 4) 1 else 3)
    else plot + ggplot2::geom_histogram(breaks = breaks, fill = one, colour = "white", linewidth = 0.3)
  list(plot = plot + ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.06))), y = "Rows",
    code = paste0(sprintf("ggplot(plot_data, aes(y)) + geom_histogram(bins = %d)", as.integer(attr(d, "bins") %||% 30)),
                  if (grouped) " + facet_wrap(~ group)"))
}

layers_density <- function(d, parts, grouped, one, conf_level, kind) {
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$y))
  plot <- if (grouped) plot + ggplot2::geom_density(ggplot2::aes(colour = .data$group, fill = .data$group), alpha = 0.15,
    linewidth = 0.9) else plot + ggplot2::geom_density(colour = one, fill = one, alpha = 0.2, linewidth = 0.9)
  list(plot = plot, y = "Density",
    code = if (grouped) "ggplot(plot_data, aes(y, colour = group)) + geom_density()" else "ggplot(plot_data, aes(y)) + geom_density()")
}

layers_qq <- function(d, parts, grouped, one, conf_level, kind) {
  plot <- ggplot2::ggplot(d, ggplot2::aes(sample = .data$y)) + (if (grouped) ggplot2::aes(colour = .data$group))
  list(plot = plot + ggplot2::stat_qq_line(colour = quill_soft(), linewidth = 0.9) + (if (grouped) ggplot2::stat_qq(alpha = 0.7,
    size = 1.8) else ggplot2::stat_qq(colour = one, alpha = 0.7, size = 1.8)),
       x = "Quantiles of the normal distribution", subtitle = "On the line the values are normal.",
         code = "ggplot(plot_data, aes(sample = y)) + stat_qq() + stat_qq_line()")
}

layers_box <- function(d, parts, grouped, one, conf_level, kind) {
  if (is.null(d$x)) d$x <- factor(rep("all rows", nrow(d)))
  fill <- if (grouped) ggplot2::aes(fill = .data$group)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$x, y = .data$y))
  shape <- if (kind == "violin") { if (grouped) ggplot2::geom_violin(fill, alpha = 0.35,
    draw_quantiles = 0.5) else ggplot2::geom_violin(fill = one, alpha = 0.3, draw_quantiles = 0.5) }
    else if (grouped) ggplot2::geom_boxplot(fill, alpha = 0.45, width = 0.6, outlier.size = 1) else ggplot2::geom_boxplot(fill = one, alpha = 0.25,
      width = 0.5, outlier.size = 1.2)
  list(plot = turn_if_long(plot + shape + ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 18)), levels(d$x)),
    x = if (is.null(parts$x)) "", subtitle = if (kind == "violin") "Line: median." else "Boxes: the middle half; line: median.",
       code = sprintf("ggplot(plot_data, aes(%s, y%s)) + geom_%s()", if (is.null(parts$x)) "\"all rows\"" else "x",
         if (grouped) ", fill = group" else "", if (kind == "violin") "violin" else "boxplot"))
}

turn_if_long <- function(plot, levels) if (length(levels) > 6 || max(nchar(levels)) > 22) plot + ggplot2::coord_flip() else plot

layers_means <- function(d, parts, grouped, one, conf_level, kind) {
  if (is.null(d$x)) d$x <- factor(rep("all rows", nrow(d)))
  s <- mean_rows(d, grouped, conf_level)
  dodge <- ggplot2::position_dodge(width = if (grouped) 0.5 else 0)
  plot <- ggplot2::ggplot(s, if (grouped) ggplot2::aes(x = .data$x, y = .data$mean, colour = .data$group) else ggplot2::aes(x = .data$x,
    y = .data$mean))
  plot <- if (grouped) plot + ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), position = dodge, linewidth = 1,
    na.rm = TRUE) + ggplot2::geom_point(position = dodge, size = 3.4)
    else plot + ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), colour = one, linewidth = 1, na.rm = TRUE) +
      ggplot2::geom_point(colour = one, size = 3.4)
  list(plot = turn_if_long(plot + ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 18)), levels(d$x)),
    subtitle = sprintf("Means with %s intervals.", say_level(conf_level)), x = if (is.null(parts$x)) "",
       code = sprintf("ggplot(plot_data, aes(%s, y%s)) + stat_summary(fun.data = mean_se, fun.args = list(mult = 1.96))",
         if (is.null(parts$x)) "\"all rows\"" else "x", if (grouped) ", colour = group" else ""))
}

mean_rows <- function(d, grouped, conf_level) {
  key <- if (grouped) interaction(d$x, d$group, drop = TRUE, lex.order = TRUE) else droplevels(d$x)
  if (!is.null(d$panel)) key <- interaction(key, d$panel, drop = TRUE)
  first <- match(levels(key), as.character(key))
  s <- stat_group_summary(d$y, as.integer(key), nlevels(key))
  half <- half_interval(s, conf_level)
  out <- data.frame(x = d$x[first], mean = s$mean, low = s$mean - half, high = s$mean + half, n = s$n)
  if (grouped) out$group <- d$group[first]
  if (!is.null(d$panel)) out$panel <- d$panel[first]
  out
}

layers_scatter <- function(d, parts, grouped, one, conf_level, kind) {
  if (is.factor(d$x)) d$x <- as_plain_number(d$x)
  plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$x, y = .data$y))
  many <- nrow(d) > 5000 && !grouped
  points <- if (many) ggplot2::geom_bin_2d(bins = 60) else if (grouped &&
    is.factor(d$group)) ggplot2::geom_point(ggplot2::aes(colour = .data$group, shape = .data$group), size = 2.2, alpha = 0.75)
    else if (grouped) ggplot2::geom_point(ggplot2::aes(colour = .data$group), size = 2.2, alpha = 0.8) else ggplot2::geom_point(colour = one,
      size = 2, alpha = if (nrow(d) > 400) 0.35 else 0.65, shape = 16)
  plot <- plot + points
  if (many) plot <- plot + ggplot2::scale_fill_gradient(low = "#DCE5EC", high = quill_colours(1), name = "rows")
  if (grouped && is.factor(d$group)) plot <- plot + ggplot2::scale_shape_manual(values = rep_len(c(16, 17, 15, 18, 8, 4, 3, 7), nlevels(d$group)))
  list(plot = plot, code = sprintf("ggplot(plot_data, aes(x, y%s)) + geom_point()", if (grouped) ", colour = group" else ""))
}

layers_line <- function(d, parts, grouped, one, conf_level, kind) {
  if (is.factor(d$x)) {
    s <- mean_rows(d, grouped, conf_level); s$y <- s$mean
    plot <- ggplot2::ggplot(s, if (grouped) ggplot2::aes(x = .data$x, y = .data$y, colour = .data$group,
      group = .data$group) else ggplot2::aes(x = .data$x, y = .data$y, group = 1))
    shown <- "Means by group."
  } else {
    d <- d[order(d$x), ]
    same <- anyDuplicated(if (grouped) paste(d$x, d$group) else d$x) > 0
    if (same) { d <- stats::aggregate(d["y"], d[c("x", if (grouped) "group", if (!is.null(d$panel)) "panel")], mean) ; d <- d[order(d$x), ] }
    d$run <- time_runs(d$x)
    plot <- ggplot2::ggplot(d, if (grouped) ggplot2::aes(x = .data$x, y = .data$y, colour = .data$group,
      group = interaction(.data$group, .data$run)) else ggplot2::aes(x = .data$x, y = .data$y, group = .data$run))
    if (inherits(d$x, "Date")) plot <- plot + date_axis(d$x, if (is.null(d$panel)) 6 else 2)
    shown <- c(if (same) "Means of the rows at the same place.", if (max(d$run) > 1) "The line is broken where no rows are.")
    shown <- if (length(shown)) paste(shown, collapse = " ")
  }
  plot <- if (grouped) plot + ggplot2::geom_line(linewidth = 0.9) + ggplot2::geom_point(size = if (nrow(d) > 200) 0.7 else 1.8) else plot +
    ggplot2::geom_line(colour = one, linewidth = 0.9) + ggplot2::geom_point(colour = one, size = if (nrow(d) > 200) 0.7 else 1.8)
  list(plot = plot, subtitle = shown,
    code = sprintf(paste0("ggplot(plot_data, aes(x, y, group = %s%s)) + stat_summary(fun = mean, geom = \"line\") + stat_summary(fun = mean, ",
        "geom = \"point\")"), if (grouped) "group" else "1", if (grouped) ", colour = group" else ""))
}

#' An axis of dates with about so many labels, months where the dates span many
#' @noRd
date_axis <- function(x, labels) {
  form <- if (diff(range(as.numeric(x))) > 120) "%Y-%m" else "%Y-%m-%d"
  ggplot2::scale_x_date(breaks = function(limits) pretty(limits, labels), labels = function(at) format(at, form),
                        guide = ggplot2::guide_axis(check.overlap = TRUE))
}

#' Stretches of dates or times that follow one another: no line is drawn where nothing was measured for long
#'
#' @param x Dates or times in order; a gap is four times the usual step, and at least a tenth of the whole.
#' @noRd
time_runs <- function(x) {
  if (!inherits(x, c("Date", "POSIXct"))) return(rep(1L, length(x)))
  at <- sort(unique(as.numeric(x)))
  if (length(at) < 4) return(rep(1L, length(x)))
  step <- diff(at)
  gap <- step > 4 * stats::median(step) & step > 0.1 * diff(range(at))
  cumsum(c(1L, as.integer(gap)))[match(as.numeric(x), at)]
}

layers_bar <- function(d, parts, grouped, one, conf_level, kind) {
  if (!is.null(d$y)) {
    s <- mean_rows(d, FALSE, conf_level)
    plot <- ggplot2::ggplot(s, ggplot2::aes(x = .data$x, y = .data$mean)) + ggplot2::geom_col(fill = one, width = 0.62, alpha = 0.85) +
      ggplot2::geom_linerange(ggplot2::aes(ymin = .data$low, ymax = .data$high), colour = quill_ink(), linewidth = 0.9, na.rm = TRUE)
    return(list(plot = turn_if_long(plot + ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 18)) +
      ggplot2::scale_y_continuous(expand = ggplot2::expansion(mult = c(0, 0.06))), levels(d$x)),
                subtitle = sprintf("Bars: means with %s intervals.", say_level(conf_level)),
                  code = paste0("ggplot(plot_data, aes(x, y)) + stat_summary(fun = mean, geom = \"col\") + stat_summary(fun.data = mean_se, ",
                      "fun.args = list(mult = 1.96), geom = \"linerange\")")))
  }
  if (!grouped) {
    s <- as.data.frame(table(x = d$x, if (is.null(d$panel)) factor(rep("all", nrow(d))) else d$panel)); names(s) <- c("x", "panel",
      "n"); s <- s[s$n > 0, ]
    plot <- ggplot2::ggplot(s, ggplot2::aes(x = .data$x, y = .data$n)) + ggplot2::geom_col(fill = one, width = 0.62) +
      ggplot2::geom_text(ggplot2::aes(label = .data$n), vjust = -0.4, size = 3.6, colour = quill_ink())
  } else {
    # shares of the bars' own rows: groups of other sizes stay comparable, and nothing is stacked
    s <- as.data.frame(table(x = d$x, group = d$group)); names(s) <- c("x", "group", "n"); s$share <- s$n / stats::ave(s$n, s$x, FUN = sum)
    plot <- ggplot2::ggplot(s, ggplot2::aes(x = .data$x, y = .data$share, fill = .data$group)) +
      ggplot2::geom_col(position = ggplot2::position_dodge(width = 0.72), width = 0.66) +
      ggplot2::scale_y_continuous(labels = function(v) paste(round(100 * v), "%"), expand = ggplot2::expansion(mult = c(0, 0.08)))
  }
  list(plot = plot + ggplot2::scale_x_discrete(labels = function(x) wrap_level(x, 18)), y = if (grouped) "Share of the rows" else "Rows",
    subtitle = if (grouped) "Shares within each place on the axis.",
       code = if (grouped) "ggplot(plot_data, aes(x, fill = group)) + geom_bar(position = \"dodge\")" else "ggplot(plot_data, aes(x)) + geom_bar()")
}

layers_pie <- function(d, parts, grouped, one, conf_level, kind) {
  s <- as.data.frame(table(x = d$x)); s <- s[s$Freq > 0, ]; s$share <- s$Freq / sum(s$Freq)
  s$label <- sprintf("%s\n%s (%s)", wrap_level(as.character(s$x), 16), say_percent(s$share, 0), say_number(s$Freq))
  values <- quill_colours(nrow(s))
  list(plot = ggplot2::ggplot(s, ggplot2::aes(x = 1, y = .data$share, fill = .data$x)) + ggplot2::geom_col(colour = "white", linewidth = 1,
    show.legend = FALSE) +
         ggplot2::geom_text(ggplot2::aes(x = 1.8, label = .data$label), position = ggplot2::position_stack(vjust = 0.5), size = 3.6,
           colour = quill_ink()) +
         ggplot2::coord_polar("y") + ggplot2::scale_fill_manual(values = values) + ggplot2::xlim(0.55, 2.05) + pie_theme(),
       x = "", y = "", subtitle = "A bar chart shows small differences better than a pie.",
         code = "ggplot(plot_data, aes(1, fill = x)) + geom_bar() + coord_polar(\"y\")")
}

#' Axes say nothing around a pie
#' @noRd
pie_theme <- function() list(ggplot2::theme(axis.text = ggplot2::element_blank(), axis.title = ggplot2::element_blank(),
  axis.ticks = ggplot2::element_blank(), axis.line.x = ggplot2::element_blank(),
  panel.grid = ggplot2::element_blank(), panel.grid.major.y = ggplot2::element_blank(), axis.ticks.x = ggplot2::element_blank()))

layers_mosaic <- function(d, parts, grouped, one, conf_level, kind) {
  s <- as.data.frame(table(x = d$x, group = d$group)); names(s) <- c("x", "group", "n")
  width <- tapply(s$n, s$x, sum) / sum(s$n); right <- cumsum(width)
  s$right <- right[as.character(s$x)]; s$left <- s$right - width[as.character(s$x)]
  s$share <- s$n / stats::ave(s$n, s$x, FUN = sum)
  s <- s[order(s$x, s$group), ]; s$top <- stats::ave(s$share, s$x, FUN = cumsum); s$bottom <- s$top - s$share
  middle <- (right + right - width) / 2
  list(plot = ggplot2::ggplot(s) + ggplot2::geom_rect(ggplot2::aes(xmin = .data$left, xmax = .data$right, ymin = .data$bottom, ymax = .data$top,
    fill = .data$group), colour = "white", linewidth = 0.8, alpha = 0.85) +
         ggplot2::scale_x_continuous(breaks = middle, labels = wrap_level(names(width), 14)) +
           ggplot2::scale_y_continuous(labels = function(v) paste(round(100 * v), "%")),
       y = "Share of the rows", subtitle = "Width: share of all rows; height: share within the column.",
         code = "ggplot(plot_data, aes(x, fill = group)) + geom_bar(position = \"fill\")")
}

layers_heat <- function(d, parts, grouped, one, conf_level, kind) {
  s <- as.data.frame(table(x = d$x, group = d$group)); names(s) <- c("x", "group", "n")
  dark <- s$n > max(s$n) / 2
  list(plot = ggplot2::ggplot(s, ggplot2::aes(x = .data$x, y = .data$group)) + ggplot2::geom_tile(ggplot2::aes(alpha = .data$n), fill = one,
    colour = "white", show.legend = FALSE) +
         ggplot2::geom_text(ggplot2::aes(label = say_number(.data$n)), colour = ifelse(dark, "white", quill_ink()), size = 3.8) +
           ggplot2::scale_alpha(range = c(0.06, 1)),
       y = NULL, subtitle = "Rows in each cell.",
         code = "ggplot(as.data.frame(table(plot_data[c(\"x\", \"group\")])), aes(x, group, fill = Freq)) + geom_tile()")
}

#' Rows that are marked stand out over the others
#' @noRd
mark_rows <- function(shown, d, kind) {
  m <- d[d$marked %in% TRUE, , drop = FALSE]
  colour <- "#B03A48"
  layer <- switch(kind, scatter = , line = if (!is.factor(m$x)) ggplot2::geom_point(data = m, ggplot2::aes(x = .data$x, y = .data$y),
    inherit.aes = FALSE, colour = colour, size = 3, shape = 1, stroke = 1.3),
    box = , violin = , dot = if (!is.null(m$x)) list(
      if (kind != "dot") ggplot2::geom_point(data = d[!d$marked %in% TRUE, ], ggplot2::aes(x = .data$x, y = .data$y), inherit.aes = FALSE,
        colour = quill_soft(), size = 1.5, alpha = 0.7,
                                             position = ggplot2::position_jitter(width = 0.12, height = 0, seed = 2)),
      ggplot2::geom_point(data = m, ggplot2::aes(x = .data$x, y = .data$y), inherit.aes = FALSE, colour = colour, size = 2.2,
        position = ggplot2::position_jitter(width = 0.12, height = 0, seed = 1))),
    histogram = ggplot2::geom_rug(data = m, ggplot2::aes(x = .data$y), inherit.aes = FALSE, colour = colour))
  if (is.null(layer)) return(shown)
  shown$plot <- shown$plot + layer
  shown$subtitle <- paste(c(shown$subtitle, sprintf("Marked in red: %s.", count_of(nrow(m), "row"))), collapse = " ")
  shown
}

#' Lines of the script: the data, the layers, the panels
#' @noRd
picture_script <- function(kind, parts, look, title, shown, label) {
  value <- function(name) script_value(name)
  fields <- c(if (!is.null(parts$y)) sprintf("y = %s", value(parts$y)), if (!is.null(parts$x)) sprintf("x = %s", if (kind %in% c("scatter",
    "line")) script_column(parts$x) else sprintf("factor(%s)", script_column(parts$x))),
              if (!is.null(look$colour %||% parts$group)) sprintf("group = factor(%s)", script_column(look$colour %||% parts$group)),
                if (!is.null(look$panel)) sprintf("panel = factor(%s)", script_column(look$panel)),
                if (!is.null(look$names)) sprintf("name = as.character(%s)", script_column(look$names)))
  c(sprintf("plot_data <- data.frame(%s)", paste(fields, collapse = ", ")),
    if (!is.null(look$order) && !is.null(parts$x)) sprintf("plot_data$x <- reorder(plot_data$x, -%s)", if (look$order == "count" ||
      is.null(parts$y)) "ave(seq_along(plot_data$x), plot_data$x, FUN = length)" else sprintf("ave(plot_data$y, plot_data$x, FUN = %s)",
        if (look$order == "median") "median" else "mean")),
    sprintf("plot <- %s%s + labs(x = %s, y = %s, title = %s) + theme_minimal()", shown$code,
      if (is.null(look$panel)) "" else " + facet_wrap(~ panel)",
            as_r_string(shown$x %||% label(parts$x %||% parts$y) %||% ""), as_r_string(shown$y %||% label(parts$y) %||% ""), as_r_string(title)))
}

# ---- words, scales and lines on any figure --------------------------------------------------------------------------

#' A finished plot with the look's words, scales, lines and legend
#' @noRd
apply_look <- function(plot, look) {
  plot <- apply_shape(plot, look)
  flipped <- inherits(plot$coordinates, "CoordFlip")
  label <- list(title = look$title, subtitle = look$subtitle)
  # a figure turned on its side has its first axis upright
  axis <- if (flipped) c(x = "y", y = "x") else c(x = "x", y = "y")
  if (!is.null(look$x_label)) label[[axis[["x"]]]] <- look$x_label
  if (!is.null(look$y_label)) label[[axis[["y"]]]] <- look$y_label
  label <- compact(label)
  if (length(label)) plot <- plot + do.call(ggplot2::labs, lapply(label, wrap_text, width = 74))
  if (!is.null(look$log)) for (a in strsplit(look$log, "")[[1]]) plot <- replace_scale(plot, axis[[a]], "log10")
  plot <- with_lines(plot, look)
  if (!is.null(look$limits)) plot <- limit_axis(plot, look$limits, flipped)
  if (!is.null(look$legend)) plot <- plot + ggplot2::theme(legend.position = look$legend)
  plot
}

replace_scale <- function(plot, axis, trans) suppressMessages(plot +
  (if (axis == "x") ggplot2::scale_x_continuous(trans = trans) else ggplot2::scale_y_continuous(trans = trans)))

limit_axis <- function(plot, limits, flipped) {
  range <- limits$range
  if (anyNA(range)) return(plot +
    (if (limits$axis == "x") ggplot2::expand_limits(x = range[!is.na(range)]) else ggplot2::expand_limits(y = range[!is.na(range)])))
  vertical <- (limits$axis == "y") != flipped
  # the view is narrowed; no row is dropped from what was computed
  if (flipped) plot + ggplot2::coord_flip(xlim = if (!vertical) NULL else range, ylim = if (vertical) NULL else range)
  else plot + (if (vertical) ggplot2::coord_cartesian(ylim = range) else ggplot2::coord_cartesian(xlim = range))
}

#' A line at a value of what is measured: across where the measure runs upwards, upright where it runs along the bottom
#' @noRd
with_lines <- function(plot, look) {
  at <- look$line_at
  mapped <- rlang_name(plot$mapping$x)
  measured <- if (mapped %in% c("value", "mean", "share") || is.null(plot$mapping$y)) "x" else "y"
  if (!is.null(look$mean_line)) {
    v <- plot$data[[rlang_name(if (measured == "x") plot$mapping$x else plot$mapping$y)]]
    if (is.numeric(v)) at <- c(at, if (look$mean_line == "median") stats::median(v, na.rm = TRUE) else mean(v, na.rm = TRUE))
  }
  for (value in at) plot <- plot + (if (measured == "x") ggplot2::geom_vline(xintercept = value, colour = quill_ink(), linetype = "22",
    linewidth = 0.8)
                                    else ggplot2::geom_hline(yintercept = value, colour = quill_ink(), linetype = "22", linewidth = 0.8))
  plot
}

#' Name of the variable that an aesthetic shows
#' @noRd
rlang_name <- function(mapping) {
  if (is.null(mapping) || !inherits(mapping, "formula")) return("")
  text <- paste(deparse(structure(mapping, class = "formula")[[2]]), collapse = "")
  sub("^\\.data\\$", "", text)
}

#' Script lines of the same
#' @noRd
look_script <- function(look) {
  label <- compact(list(title = look$title, subtitle = look$subtitle, x = look$x_label, y = look$y_label))
  c(if (length(label)) sprintf("plot <- plot + labs(%s)", paste(names(label), "=", vapply(label, as_r_string, ""), collapse = ", ")),
    if (!is.null(look$log)) vapply(strsplit(look$log, "")[[1]], function(a) sprintf("plot <- plot + scale_%s_log10()", a), ""),
    if (!is.null(look$line_at)) sprintf("plot <- plot + geom_hline(yintercept = %s, linetype = 2)", as_r_number(look$line_at)),
    if (!is.null(look$limits) && !anyNA(look$limits$range)) sprintf("plot <- plot + coord_cartesian(%slim = c(%s))", look$limits$axis,
      paste(as_r_number(look$limits$range), collapse = ", ")),
    if (!is.null(look$legend)) sprintf("plot <- plot + theme(legend.position = \"%s\")", look$legend), shape_script(look))
}
