# Statistics over a window that moves along in time, of all rows or of each group by itself.

#' @noRd
method_rolling_table <- function() {
  new_method(
    id = "rolling_table", name = "Moving mean", tasks = "trend",
    fits = function(shape) if (shape$task %in% c("trend", "figure", "describe") && isTRUE(shape$timed) &&
                               shape$n_outcome == 1 && !is.null(shape$window)) new_fit(92,
                                   "The question asks for a moving mean over time."),
    compute = compute_rolling, figure = function(ctx, res) figure_rolling(ctx, res), sentences = say_rolling, script = script_moving,
    next_steps = function(ctx, res) sprintf("Is there a linear trend in %s?", outcome_name(ctx)))
}

#' What is taken of the values in a window
#' @noRd
rolling_statistic <- function(ctx) {
  asked <- ctx$reading$statistic %||% "mean"
  if (asked %in% c("mean", "sum", "median", "min", "max")) return(asked)
  stop_data(sprintf("A moving %s is not made here.", gsub("_", " ", asked)), class = "no_method",
            todo = sprintf("Ask for the moving mean, median, total, smallest or largest value of %s.", outcome_name(ctx)))
}

rolling_word <- function(statistic) c(mean = "moving mean", sum = "moving total", median = "moving median", min = "moving minimum",
                                      max = "moving maximum")[[statistic]]

compute_rolling <- function(ctx) {
  t <- time_values(ctx)
  if (!inherits(t, "Date")) stop_data("A moving mean needs a column of dates.", class = "no_method")
  unit <- window_unit(ctx)
  if (unit == "hour") stop_data("A moving mean is taken over whole days, weeks, months or years.", class = "no_method",
                                todo = sprintf("Ask for the mean of %s by day, or a 7-day moving mean.", outcome_name(ctx)))
  statistic <- rolling_statistic(ctx)
  x <- outcome_values(ctx)
  group <- if (length(ctx$reading$by)) group_of(ctx) else factor(rep("all", length(x)))
  group <- droplevels(group)
  parts <- lapply(split(seq_along(x), group), function(i) {
    order <- i[order(t[i])]
    cbind(group = as.character(group[i[1]]), stat_rolling(t[order], x[order], ctx$reading$time$window, unit, statistic), stringsAsFactors = FALSE)
  })
  all <- do.call(rbind, unname(parts))
  # the value of a day is that of its rows: their mean, or their total where totals move
  table <- data.frame(period = format(all$day), n = all$n, value = all$value, stringsAsFactors = FALSE)
  table[[paste0("rolling_", statistic)]] <- all$rolling
  by <- ctx$reading$by
  if (length(by)) table <- cbind(stats::setNames(data.frame(all$group, stringsAsFactors = FALSE), paste(by, collapse = " & ")), table)
  numbers <- list(new_number("n", "rows used", length(x)), new_number("window", sprintf("%ss in the window", unit), ctx$reading$time$window),
                  if (length(by)) new_number("groups", "groups", nlevels(group)) else
                    new_number("estimate", paste("last", rolling_word(statistic)), utils::tail(all$rolling, 1)))
  result(numbers, tables = list(new_table("time", sprintf("%s, %s of the last %s %ss", outcome_name(ctx),
           c(mean = "mean", sum = "total", median = "median", min = "smallest value", max = "largest value")[[statistic]],
           format_plain(ctx$reading$time$window), unit), table)), every = "day", day = all$day, value = all$value, rolling = all$rolling,
         group = if (length(by)) factor(all$group, levels(group)), statistic = statistic)
}

say_rolling <- function(ctx, res) {
  y <- outcome_column(ctx)
  named <- sprintf("%s-%s %s of %s", format_plain(ctx$reading$time$window), window_unit(ctx), rolling_word(res$statistic), say_column(y))
  own <- function(v) with_unit(say_number(v), y$unit)
  looks <- "The window looks back from each day; at the start it is shorter (see n)."
  if (!is.null(res$group)) {
    last <- vapply(split(seq_along(res$rolling), res$group), function(i) i[length(i)], 1L)
    now <- res$rolling[last]; order <- order(-now)
    item <- sprintf("%s %s", levels(res$group), vapply(now, own, ""))[order]
    text <- sprintf("The %s is taken in each of %s by itself; at the end it is highest in %s and lowest in %s.", named,
                    count_of(nlevels(res$group), "group"), item[1], last_of(item))
    ends <- unique(format(res$day[last]))
    return(list(headline = text, details = c(looks, if (length(ends) > 1) sprintf("The groups end on different days (%s to %s).", min(ends), max(ends)),  # nolint: line_length_linter.
                                             sprintf("Ends: %s.", some_of(item, 12)), say_rows(ctx)), write_up = text))
  }
  high <- which.max(res$rolling); low <- which.min(res$rolling)
  text <- sprintf("The %s is highest on %s (%s), lowest on %s (%s), and ends at %s.", named, format(res$day[high]), own(res$rolling[high]),
                  format(res$day[low]), own(res$rolling[low]), own(utils::tail(res$rolling, 1)))
  several <- anyDuplicated(ctx$frame$data[[ctx$reading$time$column]]) > 0
  list(headline = text, details = c(looks, if (several) "Days hold several rows; all rows of the window count alike.", say_rows(ctx)), write_up = text)  # nolint: line_length_linter.
}

script_moving <- function(ctx, res) {
  by <- ctx$reading$by
  c("tables <- list()",
    sprintf("day <- as.Date(%s, tz = \"UTC\"); place <- order(day); day <- day[place]; value <- (%s)[place]; window <- %s",
            script_column(ctx$reading$time$column), script_value(outcome_name(ctx)), as_r_number(ctx$reading$time$window)),
    if (length(by)) sprintf("group <- %s[place]", script_group(by)) else "group <- factor(rep(\"all\", length(day)))",
    script_window_start(window_unit(ctx)),
    sprintf("of <- %s", res$statistic),
    "moving <- function(i) {  # the rows of one group: a line a day",
    "  d <- day[i]; v <- value[i]; s <- start[i]; first <- !duplicated(d)",
    "  out <- t(vapply(which(first), function(k) { inside <- d > s[k] & d <= d[k]; c(sum(inside), of(v[d == d[k]]), of(v[inside])) }, numeric(3)))",
    "  data.frame(day = d[first], n = out[, 1], value = out[, 2], rolling = out[, 3]) }",
    "parts <- lapply(split(seq_along(day), group), moving); rolling <- do.call(rbind, parts)",
    sprintf("tables$time <- data.frame(n = rolling$n, value = rolling$value, rolling_%s = rolling$rolling)", res$statistic),
    if (length(by)) "numbers <- list(n = length(value), window = window, groups = nlevels(group))"
    else "numbers <- list(n = length(value), window = window, estimate = rolling$rolling[nrow(rolling)])")
}

#' Values of the days with the line of the moving statistic; of several groups a line or a panel each
#' @noRd
figure_rolling <- function(ctx, res) {
  label <- axis_label(ctx$columns[[ctx$reading$outcome[1]]])
  word <- rolling_word(res$statistic)
  title <- sprintf("%s with its %s-%s %s", capital(say_column(ctx$columns[[ctx$reading$outcome[1]]])),
                   format_plain(ctx$reading$time$window), window_unit(ctx), word)
  if (!is.null(res$group)) title <- sprintf("%s, by %s", title, some_of(vapply(ctx$columns[ctx$reading$by], say_column, ""), 2))
  # no line over a stretch without rows that is longer than the window
  reach <- ctx$reading$time$window * c(day = 1, week = 7, month = 31, year = 366)[[window_unit(ctx)]]
  group <- res$group %||% factor(rep("all", length(res$day)))
  gap <- stats::ave(as.numeric(res$day), group, FUN = function(v) cumsum(c(0, diff(v) > reach)))
  d <- data.frame(day = res$day, value = res$value, rolling = res$rolling, group = group, part = paste(group, gap))
  count <- nlevels(group)
  points <- res$statistic != "sum" && count <= 24
  several <- anyDuplicated(paste(ctx$frame$data[[ctx$reading$time$column]], if (count > 1) group_of(ctx))) > 0
  shown <- if (points) sprintf("points are %s; ", if (several) "means of days" else "rows") else ""
  new_figure("time", title, "line", subtitle = capital(sprintf("%sthe %s the %s.", shown, if (count == 1) "line is" else "lines are", word)),
             alt = sprintf("%s: %sline%s over time.", title, if (points) "points and a " else "a ", if (count > 1) " for each group" else ""),
    draw = function() {
      plot <- ggplot2::ggplot(d, ggplot2::aes(x = .data$day)) + ggplot2::labs(x = NULL, y = label)
      if (points && (count == 1 || count > 6)) plot <- plot + ggplot2::geom_point(ggplot2::aes(y = .data$value), colour = quill_soft(), size = 1.1, alpha = 0.6)  # nolint: line_length_linter.
      if (count > 1 && count <= 6) return(plot + ggplot2::geom_line(ggplot2::aes(y = .data$rolling, colour = .data$group, group = .data$part), linewidth = 1) +  # nolint: line_length_linter.
        ggplot2::scale_colour_manual(values = quill_colours(count), name = NULL))
      plot <- plot + ggplot2::geom_line(ggplot2::aes(y = .data$rolling, group = .data$part), colour = quill_colours(2)[2],
                                        linewidth = if (count == 1) 1.1 else if (count <= 24) 0.8 else 0.4, alpha = if (count > 24) 0.5 else 1)
      if (count > 6 && count <= 24) plot + ggplot2::facet_wrap(ggplot2::vars(.data$group)) else plot
    },
    script = c("plot_data <- cbind(rolling, group = factor(rep(names(parts), vapply(parts, nrow, 1L)), levels(group)))",
               sprintf("plot_data$part <- paste(plot_data$group, ave(as.numeric(plot_data$day), plot_data$group, FUN = function(v) cumsum(c(0, diff(v) > %s))))",  # nolint: line_length_linter.
                       as_r_number(reach)),
               paste0("plot <- ggplot(plot_data, aes(day)) + geom_point(aes(y = value), alpha = 0.4) + geom_line(aes(y = rolling, group = part", if (count > 1)  # nolint: line_length_linter.
                 ", colour = group", ")) +"), sprintf("  labs(y = %s, title = %s) + theme_minimal()", as_r_string(label), as_r_string(title))))
}
