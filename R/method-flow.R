# The flow of rows into an analysis: how many are left at each step, in each group.

#' @noRd
method_participant_flow <- function() {
  new_method(
    id = "participant_flow", name = "Flow of rows", tasks = "frequency",
    fits = function(shape) if (isTRUE(shape$flow)) new_fit(99, "The question asks how many rows are left at each step."),
    compute = compute_flow, figure = figure_flow, sentences = say_flow, script = script_flow,
    references = paste0("Schulz, K. F., Altman, D. G., & Moher, D. (2010). CONSORT 2010 statement: updated guidelines for reporting parallel ",
                        "group randomised trials. BMJ, 340, c332."),
    next_steps = function(ctx, res) if (length(ctx$reading$by)) sprintf("Characteristics by %s", ctx$reading$by))
}

#' Steps are cumulative: a row that lacks one value is gone from there on
#' @noRd
compute_flow <- function(ctx) {
  by <- ctx$reading$by
  g <- if (length(by)) addNA(as_group(ctx$frame$data[[by]]), ifany = TRUE) else factor(rep("all", ctx$frame$after_filters))
  levels(g)[is.na(levels(g))] <- "(group missing)"
  names <- ctx$reading$outcome
  left <- rep(TRUE, length(g))
  steps <- list(tabulate(g, nlevels(g)))
  for (name in names) {
    left <- left & !is.na(ctx$frame$data[[name]])
    steps <- c(steps, list(tabulate(g[left], nlevels(g))))
  }
  label <- c(if (length(ctx$reading$filters)) "rows that meet the conditions" else "rows in the data",
             sprintf("with a value of %s", vapply(ctx$columns[names], say_column, "")))
  counts <- do.call(rbind, steps)
  lost <- rbind(0L, -diff(counts))[seq_len(nrow(counts)), , drop = FALSE]
  table <- data.frame(step = rep(label, each = nlevels(g)), group = rep(levels(g), length(label)), n = as.vector(t(counts)),
      lost = as.vector(t(lost)),
                      stringsAsFactors = FALSE)
  if (length(by)) names(table)[2] <- by else table$group <- NULL
  result(list(new_number("n", "rows complete at the last step", sum(counts[nrow(counts), ])), new_number("start", "rows at the first step",
      sum(counts[1, ])),
              new_number("total", "rows in the data", ctx$frame$total)),
         list(new_table("flow", "Rows left at each step", table)), counts = counts, lost = lost, steps = label, groups = levels(g))
}

say_flow <- function(ctx, res) {
  last <- res$counts[nrow(res$counts), ]
  n <- res$number
  each <- if (length(ctx$reading$by)) sprintf(" By %s: %s.", say_column(ctx$columns[[ctx$reading$by]]),
    some_of(sprintf("%s %s of %s", res$groups, say_number(last), say_number(res$counts[1, ])), 8)) else ""
  text <- if (!length(ctx$reading$outcome)) sprintf("All %s are complete in every column.%s", count_of(n$start, "row"), each)
    else sprintf("Of %s, %s %s complete in all of %s.%s", count_of(n$start, "row"), say_number(n$n), plural(n$n, "is", "are"),
                 some_of(vapply(ctx$columns[ctx$reading$outcome], say_column, ""), 6), each)
  lost <- rowSums(res$lost)
  gone <- if (any(lost > 0)) sprintf("Lost %s.", some_of(sprintf("%s for want of %s", say_number(lost[lost > 0]),
    sub("^with a value of ", "", res$steps[lost > 0])), 8))
  list(headline = text, details = c(gone, "Steps are cumulative: a row that lacks a value is not counted at later steps."), write_up = text)
}

#' Boxes from top to bottom, one column of boxes a group
#' @noRd
figure_flow <- function(ctx, res) {
  title <- sprintf("Rows left at each step%s", if (length(ctx$reading$by)) sprintf(" by %s", say_column(ctx$columns[[ctx$reading$by]])) else "")
  d <- data.frame(step = rep(seq_along(res$steps), each = length(res$groups)), group = rep(seq_along(res$groups), length(res$steps)),
                  n = as.vector(t(res$counts)), lost = as.vector(t(res$lost)))
  # steps at which nothing is lost add nothing but the first and last
  shown <- rowSums(res$lost) > 0 | seq_along(res$steps) %in% c(1, length(res$steps))
  new_figure("flow", title, "flow", alt = sprintf("%s: a box with the number of rows for each step.", title),
    draw = function() draw_flow(d[shown[d$step], ], res$steps, res$groups),
    script = c(sprintf("plot_data <- tables$flow; plot_data$step <- rep(%s, each = nlevels(g))", as_r_strings(res$steps)),
               "plot_data$group <- rep(levels(g), length(unique(plot_data$step)))",
               "plot <- ggplot(plot_data, aes(group, factor(step, rev(unique(step))), label = n)) + geom_label() +",
               sprintf("  labs(x = NULL, y = NULL, title = %s) + theme_minimal()", as_r_string(title))))
}

draw_flow <- function(d, steps, groups) {
  kept <- sort(unique(d$step))
  d$y <- length(kept) + 1 - match(d$step, kept)
  d$text <- paste0("n = ", format_plain(d$n), ifelse(d$lost > 0, sprintf("\n(%s lost)", format_plain(d$lost)), ""))
  arrows <- d[d$y > 1, ]
  ggplot2::ggplot(d, ggplot2::aes(x = .data$group, y = .data$y)) +
    ggplot2::geom_segment(data = arrows, ggplot2::aes(xend = .data$group, y = .data$y - 0.27, yend = .data$y - 0.71), colour = quill_soft(),
                          arrow = grid::arrow(length = grid::unit(6, "pt"), type = "closed")) +
    ggplot2::geom_tile(width = 0.7, height = 0.5, fill = "#E8EEF3", colour = quill_colours(1)) +
    ggplot2::geom_text(ggplot2::aes(label = .data$text), size = 3.6, colour = quill_ink(), lineheight = 1) +
    ggplot2::scale_x_continuous(breaks = seq_along(groups), labels = wrap_level(groups, 16), position = "top",
        expand = ggplot2::expansion(add = 0.5)) +
    ggplot2::scale_y_continuous(breaks = length(kept) + 1 - seq_along(kept), labels = wrap_level(capital(steps[kept]), 26),
                                expand = ggplot2::expansion(add = 0.4)) +
    ggplot2::labs(x = NULL, y = NULL) + ggplot2::theme(panel.grid = ggplot2::element_blank())
}

script_flow <- function(ctx, res) {
  by <- ctx$reading$by
  c(sprintf("g <- %s", if (length(by)) sprintf("addNA(factor(kept[[%s]]), ifany = TRUE)", as_r_string(by)) else "factor(rep(\"all\", nrow(kept)))"),
    "left <- rep(TRUE, nrow(kept)); counts <- list(tabulate(g, nlevels(g)))",
    if (length(ctx$reading$outcome)) c(sprintf("for (name in %s) {", as_r_strings(ctx$reading$outcome)),
      "  left <- left & !is.na(kept[[name]]); counts <- c(counts, list(tabulate(g[left], nlevels(g)))) }"),
    "m <- do.call(rbind, counts); lost <- rbind(0, -diff(m))[seq_len(nrow(m)), , drop = FALSE]",
    "tables <- list(flow = data.frame(n = as.vector(t(m)), lost = as.vector(t(lost))))",
    "numbers <- list(n = sum(m[nrow(m), ]), start = sum(m[1, ]), total = nrow(data))")
}
