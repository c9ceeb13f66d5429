# How several items or options of one question were answered, each by itself.

#' @noRd
method_item_answers <- function() {
  new_method(
    id = "item_answers", name = "Answers to each item", tasks = c("frequency", "distribution", "describe", "figure"),
    fits = function(shape) if (isTRUE(shape$alike) && shape$n_outcome >= 2 && shape$n_by <= 1 &&
                               (isTRUE(shape$items) || shape$task == "distribution" || (shape$task == "frequency" && shape$n_outcome >= 3)))
      new_fit(98, "Several items with the same answers are asked about, so each is counted on the rows that answered it."),
    compute = compute_item_answers, figure = figure_item_answers, sentences = say_item_answers, script = script_item_answers,
    references = c("Wilson, E. B. (1927). Probable inference, the law of succession, and statistical inference. JASA, 22, 209-212.",
                   paste0("Robbins, N. B., & Heiberger, R. M. (2011). Plotting Likert and other rating scales. Proceedings of the Joint ",
                          "Statistical Meetings, 1058-1066.")),
    next_steps = function(ctx, res) if (res$scale) c("Are the items reliable?", sprintf("Mean of %s", res$items[1])))
}

#' Counts of the levels of each item, and the share on the upper side: above the middle level, or "yes"
#' @noRd
compute_item_answers <- function(ctx) {
  items <- ctx$reading$outcome
  levels <- ctx$columns[[items[1]]]$levels
  parts <- lapply(items, function(y) item_counts(on_own_rows(ctx, y), y))
  groups <- unique(unlist(lapply(parts, rownames)))
  scale <- ctx$columns[[items[1]]]$kind == "ordered"
  table <- do.call(rbind, lapply(seq_along(items), function(i) item_rows(items[i], parts[[i]], scale, ctx$conf_level)))
  # the item with the largest upper share first, over all groups
  upper <- vapply(parts, function(p) sum(p[, upper_levels(ncol(p))]) / sum(p), 1)
  order <- order(-upper, seq_along(items))
  table <- table[order(match(table$item, items[order]), match(table$group, groups)), , drop = FALSE]
  rownames(table) <- NULL
  if (!length(ctx$reading$by)) table$group <- NULL else names(table)[names(table) == "group"] <- ctx$reading$by
  shown <- if (scale) table else table[setdiff(names(table), c("lower", "middle"))]
  numbers <- c(list(new_number("n", "rows", ctx$frame$after_filters)), if (!length(ctx$reading$by))
    lapply(seq_along(items), function(i) new_number(paste0("upper_", i), "share on the upper side", table$upper[i] / 100, of = table$item[i])),
    list(new_number("conf_level", "confidence level", ctx$conf_level)))
  result(numbers, list(new_table("answers", sprintf("Answers to %s", count_of(length(items), "item")), shown)), items = items[order], levels = levels,
         groups = groups, counts = parts[order], scale = scale)
}

#' @section Shape: integer matrix, groups by levels; numbers that are items count by their values.
#' @noRd
item_counts <- function(ctx, y) {
  g <- if (length(ctx$reading$by)) group_of(ctx) else factor(rep("all", length(ctx$frame$data[[y]])))
  x <- ctx$frame$data[[y]]
  x <- if (is.factor(x)) x else as_group(x)
  ok <- !is.na(x)
  out <- table(g[ok], x[ok])
  matrix(as.integer(out), nrow(out), dimnames = list(rownames(out), colnames(out)))
}

upper_levels <- function(k) seq_len(k) > (k + 1) / 2
lower_levels <- function(k) seq_len(k) < (k + 1) / 2

item_rows <- function(item, counts, scale, conf_level) {
  k <- ncol(counts); n <- rowSums(counts)
  side <- function(which) 100 * rowSums(counts[, which, drop = FALSE]) / n
  high <- rowSums(counts[, upper_levels(k), drop = FALSE])
  w <- stat_wilson(high, n, conf_level)
  percent <- 100 * counts / n
  colnames(percent) <- sprintf("%% %s", colnames(counts))
  out <- data.frame(item = item, group = rownames(counts), n = n, lower = side(lower_levels(k)),
                    middle = side(!lower_levels(k) & !upper_levels(k)), upper = side(upper_levels(k)), ci_low = 100 * w$low, ci_high = 100 * w$high,
                    stringsAsFactors = FALSE)
  if (scale) cbind(out, as.data.frame(percent, check.names = FALSE)) else out
}

say_item_answers <- function(ctx, res) {
  t <- res$tables[[1]]$data
  side <- levels_in_words(res$levels[upper_levels(length(res$levels))])
  names <- vapply(res$items, function(i) say_column(ctx$columns[[i]]), "")
  if (length(ctx$reading$by)) {
    text <- sprintf("Shares answering %s for %s by %s are tabled below.", side, count_of(length(res$items), "item"),
                    say_column(ctx$columns[[ctx$reading$by]]))
    return(list(headline = text, details = say_rows(ctx), write_up = text))
  }
  each <- sprintf("%s %s (%s, n = %s)", names, say_percent(t$upper / 100),
                  mapply(function(l, h) say_interval(l / 100, h / 100, ctx$conf_level, function(v) say_percent(v)), t$ci_low, t$ci_high),
                      say_number(t$n))
  last <- nrow(t)
  text <- sprintf("%s was answered with %s most often (%s), %s least often (%s).", capital(names[1]), side, say_percent(t$upper[1] / 100),
                  names[last], say_percent(t$upper[last] / 100))
  list(headline = text, details = c("Intervals of shares are Wilson's; each item is counted on the rows that answered it.", say_rows(ctx)),
       write_up = sprintf("Share answering %s: %s.", side, paste(each, collapse = "; ")))
}

levels_in_words <- function(levels) if (length(levels) == 1) quoted(levels) else sprintf("%s or %s", some_of(quoted(utils::head(levels, -1)), 6),
                                                                                        quoted(last_of(levels)))

#' Answers on a scale as bars that meet at its middle; yes/no items as shares with intervals
#' @noRd
figure_item_answers <- function(ctx, res) {
  t <- res$tables[[1]]$data
  names <- vapply(res$items, function(i) say_column(ctx$columns[[i]]), "")
  if (!res$scale) return(figure_item_shares(ctx, res, t, names))
  title <- sprintf("Answers to %s%s", count_of(length(res$items), "item"), if (length(ctx$reading$by))
    sprintf(" by %s", say_column(ctx$columns[[ctx$reading$by]])) else "")
  d <- do.call(rbind, lapply(seq_along(res$items), function(i) side_lengths(res$counts[[i]], names[[i]])))
  d$item <- factor(d$item, rev(unique(d$item)))
  new_figure("answers", title, "bar", subtitle = "Bars meet in the middle of the scale; the length of each part is its share of the answers.",
    alt = sprintf("%s: for each item a bar to the left for the lower answers and to the right for the upper ones.", title),
    draw = function() draw_diverging(d, res$levels),
    script = c("d <- do.call(rbind, lapply(seq_along(items), function(i) data.frame(item = items[i], level = colnames(counts[[i]]),",
               "  share = as.vector(100 * colSums(counts[[i]]) / sum(counts[[i]])))))",
               "k <- match(d$level, levels_of); middle <- (length(levels_of) + 1) / 2",
               "d$side <- ifelse(k < middle, -1, ifelse(k > middle, 1, 0)); half <- d[d$side == 0, ]; half$share <- half$share / 2",
               "parts <- rbind(d[d$side != 0, ], transform(half, side = -1), transform(half, side = 1))",
               "upper <- parts[parts$side > 0, ]; lower <- parts[parts$side < 0, ]",
               "plot <- ggplot() + geom_col(data = upper, aes(share, item, fill = factor(level, rev(levels_of)))) +",
               "  geom_col(data = lower, aes(-share, item, fill = factor(level, levels_of))) + geom_vline(xintercept = 0) +",
               sprintf("  labs(x = \"%% of answers\", y = NULL, fill = NULL, title = %s) + theme_minimal()", as_r_string(title))))
}

#' Where each part of a bar begins and ends: the middle level lies on both sides of zero
#' @noRd
side_lengths <- function(counts, item) {
  do.call(rbind, lapply(seq_len(nrow(counts)), function(g) {
    share <- 100 * counts[g, ] / sum(counts[g, ])
    k <- length(share)
    start <- -sum(share[lower_levels(k)]) - sum(share[!lower_levels(k) & !upper_levels(k)]) / 2
    to <- start + cumsum(share)
    data.frame(item = item, group = rownames(counts)[g], level = colnames(counts), from = unname(to - share), to = unname(to), share = unname(share),
               stringsAsFactors = FALSE)
  }))
}

draw_diverging <- function(d, levels) {
  k <- length(levels)
  d$level <- factor(d$level, levels)
  fill <- stats::setNames(grDevices::colorRampPalette(c("#C8691C", "#F0D2B4", "#D9DEE3", "#A9C3D9", "#1B4F72"))(k), levels)
  dark <- levels %in% levels[c(1, k)]
  d$ink <- ifelse(d$level %in% levels[dark], "white", quill_ink())
  d$y <- as.integer(d$item)
  room <- max(abs(c(d$from, d$to)))
  plot <- ggplot2::ggplot(d) +
    # behind the bars, so that it crosses no number
    ggplot2::geom_vline(xintercept = 0, colour = quill_ink(), linewidth = 0.4) +
    ggplot2::geom_rect(ggplot2::aes(xmin = .data$from, xmax = .data$to, ymin = .data$y - 0.36, ymax = .data$y + 0.36, fill = .data$level)) +
    # a part too narrow for its number goes without
    ggplot2::geom_text(data = d[d$share >= 5 * length(unique(d$group)) + 1, ], ggplot2::aes(x = (.data$from + .data$to) / 2, y = .data$y,
        label = sprintf("%.0f", .data$share),
                                                              colour = .data$ink), size = 3.3) +
    ggplot2::scale_colour_identity() +
    ggplot2::scale_fill_manual(values = fill, name = NULL, guide = ggplot2::guide_legend(nrow = 1)) +
    ggplot2::scale_y_continuous(breaks = seq_along(levels(d$item)), labels = wrap_level(levels(d$item), 34), minor_breaks = NULL) +
    ggplot2::scale_x_continuous(limits = c(-room, room), labels = function(x) abs(x)) +
    ggplot2::labs(x = "% of answers", y = NULL) + ggplot2::theme(legend.position = "top", panel.grid.major.y = ggplot2::element_blank())
  if (length(unique(d$group)) > 1) plot <- plot + ggplot2::facet_wrap(ggplot2::vars(.data$group))
  plot
}

figure_item_shares <- function(ctx, res, t, names) {
  by <- ctx$reading$by
  d <- data.frame(group = factor(names[match(t$item, res$items)], rev(names)), value = t$upper / 100, low = t$ci_low / 100, high = t$ci_high / 100)
  if (length(by)) d$level <- factor(t[[by]], res$groups)
  title <- sprintf("Share with %s%s", quoted(last_of(res$levels)), if (length(by)) sprintf(" by %s", say_column(ctx$columns[[by]])) else "")
  figure_interval_dots("answers", title, sprintf("Share of rows with %s Wilson intervals.", say_level(ctx$conf_level)), d, "Share of rows",
                       "plot_data <- tables$answers; plot_data$item <- rep(items, each = nlevels(g_all))", "upper, item",
                       legend = if (length(by)) axis_label(ctx$columns[[by]]), shares = TRUE, of = "item")
}

script_item_answers <- function(ctx, res) {
  by <- ctx$reading$by
  values <- vapply(res$items, function(name) sprintf("kept[[%s]]", as_r_string(name)), "")
  numeric <- vapply(res$items, function(i) !is.factor(ctx$frame$data[[i]]), NA)
  values <- ifelse(numeric, sprintf("factor(%s)", values), values)
  c(sprintf("items <- %s", as_r_strings(res$items)), sprintf("levels_of <- %s", as_r_strings(res$levels)),
    sprintf("g_all <- %s", if (length(by)) script_group(by, "kept") else "factor(rep(\"all\", nrow(kept)))"),
    sprintf("answers <- list(%s)", paste(values, collapse = ", ")),
    "counts <- lapply(answers, function(x) { ok <- !is.na(x) & !is.na(g_all); unclass(table(droplevels(g_all[ok]), x[ok])) })",
    "k <- length(levels_of); side <- sign(seq_len(k) - (k + 1) / 2); z <- qnorm(1 - (1 - conf_level) / 2)",
    "rows_of <- function(m) { n <- rowSums(m); h <- rowSums(m[, side > 0, drop = FALSE]); p <- h / n",
    "  centre <- (p + z^2 / (2 * n)) / (1 + z^2 / n); half <- z * sqrt(p * (1 - p) / n + z^2 / (4 * n^2)) / (1 + z^2 / n)",
    "  low <- ifelse(h == 0, 0, centre - half); high <- ifelse(h == n, 1, centre + half)",
    sprintf("  data.frame(n = n, %supper = 100 * p, ci_low = 100 * low, ci_high = 100 * high%s) }",
            if (res$scale) paste0("lower = 100 * rowSums(m[, side < 0, drop = FALSE]) / n, ",
                                  "middle = 100 * rowSums(m[, side == 0, drop = FALSE]) / n, ") else "",
            if (res$scale) ", 100 * matrix(m, nrow(m)) / n" else ""),
    "tables <- list(answers = do.call(rbind, lapply(counts, rows_of)))",
    if (res$scale) "names(tables$answers)[-(1:6)] <- paste(\"%\", levels_of)",
    "numbers <- list(n = nrow(kept), conf_level = conf_level)",
    if (!length(by)) "for (i in seq_along(items)) numbers[[paste0(\"upper_\", i)]] <- tables$answers$upper[i] / 100")
}
