# Several answers in one cell: each answer counts by itself.

#' @noRd
method_answer_counts <- function() {
  new_method(
    id = "answer_counts", name = "Counts of each answer, several allowed", tasks = c("frequency", "describe", "distribution", "themes", "rank"),
    fits = function(shape) if (isTRUE(shape$several_answers) && shape$n_outcome == 1 && shape$n_by <= 1)
      new_fit(99, "Several answers may stand in one cell, so each answer is counted by itself and the percentages add up to more than 100."),
    compute = compute_answer_counts, figure = figure_answer_counts, sentences = say_answer_counts, script = script_answer_counts,
    next_steps = function(ctx, res) sprintf("How many rows mention %s?", res$answers[1]))
}

compute_answer_counts <- function(ctx) {
  held <- answers_held(as.character(ctx$frame$data[[outcome_name(ctx)]]), outcome_column(ctx)$mark)
  by <- answer_groups(ctx)
  g <- if (length(by)) group_of(ctx, by) else factor(rep("all", nrow(held)))
  n <- tabulate(g, nlevels(g))
  counts <- vapply(colnames(held), function(a) tabulate(g[held[, a]], nlevels(g)), integer(nlevels(g)))
  counts <- matrix(counts, nlevels(g), dimnames = list(levels(g), colnames(held)))
  answers <- colnames(held)[order(-colSums(counts), colnames(held), method = "radix")]
  counts <- counts[, answers, drop = FALSE]
  w <- stat_wilson(as.vector(t(counts)), rep(n, each = length(answers)), ctx$conf_level)
  table <- data.frame(group = rep(levels(g), each = length(answers)), answer = rep(answers, nlevels(g)), n = as.vector(t(counts)),
                      percent = 100 * as.vector(t(counts)) / rep(n, each = length(answers)), ci_low = 100 * w$low, ci_high = 100 * w$high,
                      stringsAsFactors = FALSE)
  names(table)[2] <- outcome_name(ctx)
  if (length(by)) names(table)[1] <- by else table$group <- NULL
  result(list(new_number("n", "rows with an answer", nrow(held)), new_number("answers", "answers in all", sum(held)),
              new_number("per_row", "answers in a row, mean", mean(rowSums(held)))),
         list(new_table("counts", sprintf("Rows that name each answer of %s (several allowed)", outcome_name(ctx)), table)), answers = answers,
             groups = levels(g))
}

#' The column whose groups the answers are counted in, if any
#' @noRd
answer_groups <- function(ctx) {
  other <- setdiff(c(ctx$reading$by, ctx$reading$predictors), outcome_name(ctx))
  other[vapply(other, function(n) groupable(ctx$columns[[n]]), NA)][seq_len(min(1, length(other)))]
}

#' Which answers stand in each cell
#' @section Shape: logical matrix, rows by answers.
#' @noRd
answers_held <- function(cells, mark) {
  given <- answers_given(cells, mark)
  answers <- sort_text(unique(given$answer))
  held <- matrix(FALSE, length(cells), length(answers), dimnames = list(NULL, answers))
  held[cbind(given$row, match(given$answer, answers))] <- TRUE
  held
}

say_answer_counts <- function(ctx, res) {
  t <- res$tables[[1]]$data
  what <- say_column(outcome_column(ctx))
  if (length(answer_groups(ctx))) {
    each <- lapply(split(t, factor(t[[1]], res$groups)), function(d) d[which.max(d$percent), ])
    text <- sprintf("%s, several answers allowed: the commonest are %s.", capital(what),
                    some_of(vapply(each, function(d) sprintf("%s in %s (%s)", d[[2]], d[[1]], say_percent(d$percent / 100)), ""), 6))
  } else text <- sprintf("%s, several answers allowed: %s.", capital(what), some_of(sprintf("%s %s (%s)", t[[1]], say_number(t$n),
      say_percent(t$percent / 100)), 8))
  list(headline = text, details = c(sprintf("%s answers from %s rows, %s in a row on average; the percentages add up to more than 100.",
    say_number(res$number$answers), say_number(res$number$n), say_number(res$number$per_row, 2)), say_rows(ctx)),
        write_up = paste0(text, write_rows(ctx)))
}

figure_answer_counts <- function(ctx, res) {
  t <- res$tables[[1]]$data
  grouped <- length(answer_groups(ctx)) > 0
  d <- data.frame(group = factor(t[[1 + grouped]], rev(res$answers)), level = factor(if (grouped) t[[1]] else "all", res$groups),
                  value = t$percent / 100, low = t$ci_low / 100, high = t$ci_high / 100)
  title <- sprintf("%s, several answers allowed", capital(say_column(outcome_column(ctx))))
  new_figure("counts", title, "dot", subtitle = sprintf("Share of rows that name each answer, with %s Wilson intervals.", say_level(ctx$conf_level)),
    alt = sprintf("%s: a dot with its interval for each answer.", title),
    draw = function() draw_interval_dots(d, "Share of rows", shares = TRUE),
    script = c("plot_data <- cbind(expand.grid(answer = answers, group = levels(g)), tables$counts)",
               sprintf("plot <- ggplot(plot_data, aes(percent, answer, colour = group)) + geom_point() + labs(title = %s) + theme_minimal()",
                   as_r_string(title))))
}

script_answer_counts <- function(ctx, res) {
  c(sprintf("x <- strsplit(as.character(%s), %s, fixed = TRUE); x <- lapply(x, function(v) unique(trimws(v)[nzchar(trimws(v))]))",
            script_column(outcome_name(ctx)), as_r_string(trimws(outcome_column(ctx)$mark))),
    if (length(answer_groups(ctx))) sprintf("g <- %s", script_group(answer_groups(ctx))) else "g <- factor(rep(\"all\", length(x)))",
    sprintf("answers <- %s", as_r_strings(res$answers)),
    paste0("counts <- do.call(rbind, lapply(levels(g), function(l) do.call(rbind, lapply(answers, function(a) { k <- sum(vapply(x[g ",
        "== l], function(v) ",
        "a %in% v, NA)); n <- sum(g == l)"),
    "  limits <- suppressWarnings(prop.test(k, n, conf.level = conf_level, correct = FALSE)$conf.int)",
    "  data.frame(n = k, percent = 100 * k / n, ci_low = 100 * limits[1], ci_high = 100 * limits[2]) }))))",
    "tables <- list(counts = counts); numbers <- list(n = length(x), answers = sum(lengths(x)), per_row = mean(lengths(x)))")
}
