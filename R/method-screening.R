# A bounded first look: every pair of columns, with the number of tests allowed for.

#' @noRd
method_pair_screening <- function() {
  new_method(
    id = "pair_screening", name = "Pairs of columns ranked by their association", tasks = "relate",
    fits = function(shape) if (isTRUE(shape$screen)) new_fit(99,
      "The question names no column, so each pair of columns is looked at once and the number of tests is allowed for."),
    compute = compute_screening, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
      figure = figure_screening, sentences = say_screening, script = script_screening,
    references = paste0("Benjamini, Y., & Hochberg, Y. (1995). Controlling the false discovery rate. Journal of the Royal Statistical Society ",
        "B, 57, 289-300."),
    next_steps = function(ctx, res) { t <- utils::head(res$pairs[res$pairs$strength < 0.98, ], 4); sprintf("Is %s related to %s?", t$a, t$b) })
}

compute_screening <- function(ctx) {
  names <- ctx$reading$outcome
  all <- ctx$frame_without(names)
  pairs <- utils::combn(names, 2)
  rows <- lapply(seq_len(ncol(pairs)), function(i) {
    a <- pairs[1, i]; b <- pairs[2, i]
    found <- associate(all$data[[a]], ctx$columns[[a]]$kind, all$data[[b]], ctx$columns[[b]]$kind)
    if (!is.null(found)) data.frame(a = a, b = b, measure = found$measure, estimate = found$estimate, strength = found$strength, n = found$n,
      p_value = found$p_value, stringsAsFactors = FALSE)
  })
  t <- do.call(rbind, rows)
  if (is.null(t)) stop_data("No two columns can be related in these rows.", class = "unfit_data")
  t$p_adjusted <- stats::p.adjust(t$p_value, "BH")
  t <- t[order(-t$strength, t$a, t$b, method = "radix"), ]
  result(list(new_number("n", "rows", all$after_filters), new_number("tests", "pairs tested", nrow(t)), new_number("clear",
    "pairs clear after allowing for all of them", sum(t$p_adjusted < 1 - ctx$conf_level, na.rm = TRUE))),
         list(new_table("pairs", "Pairs by the strength of their association", `rownames<-`(t, NULL))), pairs = t, direction = NA_real_)
}

say_screening <- function(ctx, res) {
  t <- res$pairs
  same <- t[t$strength >= 0.98, ]
  clear <- t[t$strength < 0.98 & t$p_adjusted < 1 - ctx$conf_level, ]
  item <- function(d) sprintf("%s with %s (%s = %s)", vapply(ctx$columns[d$a], say_column, ""), vapply(ctx$columns[d$b], say_column, ""),
    d$measure, say_unit(d$estimate))
  list(headline = if (nrow(clear)) sprintf("Of %d pairs of columns %d are clearly related, all tests allowed for; the strongest: %s.", nrow(t),
    nrow(clear), some_of(item(utils::head(clear, 4)), 4))
         else sprintf("None of the %d pairs of columns is clearly related once all tests are allowed for.", nrow(t)),
       details = c(if (nrow(same)) sprintf("Nearly the same thing twice: %s.", some_of(item(utils::head(same, 4)), 4)),
                   paste0("A first look, not a finding: what stands out here was not asked for beforehand and needs other data to be ",
                       "confirmed. Each pair rests on its own complete rows."), say_rows(ctx)),
       write_up = sprintf(paste0("%d pairs of columns were screened (correlations, eta or Cramer's V; p values adjusted by Benjamini and ",
           "Hochberg); %d were clear: %s.%s"), nrow(t), nrow(clear), if (nrow(clear)) some_of(item(utils::head(clear, 8)), 8) else "none",
             write_rows(ctx)))
}

figure_screening <- function(ctx, res) {
  t <- utils::head(res$pairs, 15)
  pair <- paste(column_labels(ctx$columns, t$a), column_labels(ctx$columns, t$b), sep = " \u00b7 ")
  pair <- wrap_level(pair, 44)
  d <- data.frame(pair = factor(pair, rev(pair)), strength = t$strength,
    clear = ifelse(t$p_adjusted < 1 - ctx$conf_level, "clear", "not clear"))
  title <- "Pairs of columns that go together most"
  new_figure("pairs", title, "dot", subtitle = "Share of the spread in common; filled: clear after allowing for all pairs.",
    alt = sprintf("%s: one dot a pair.", title),
    draw = function() ggplot2::ggplot(d, ggplot2::aes(x = .data$strength, y = .data$pair)) + ggplot2::geom_segment(ggplot2::aes(x = 0,
      xend = .data$strength, yend = .data$pair), colour = quill_soft()) +
      ggplot2::geom_point(ggplot2::aes(shape = .data$clear), colour = quill_colours(1), size = 3.2) +
        ggplot2::scale_shape_manual(values = c(clear = 16, `not clear` = 1), name = NULL) +
      ggplot2::scale_x_continuous(labels = function(x) paste0(round(100 * x), " %"), limits = c(0, 1)) +
        ggplot2::labs(x = "Share of the spread in common", y = NULL),
    script = c(sprintf("plot_data <- data.frame(pair = %s, tables$pairs)", as_r_strings(paste(res$pairs$a, res$pairs$b, sep = " and "))),
      sprintf(paste0("plot <- ggplot(head(plot_data, 15), aes(strength, reorder(pair, strength))) + geom_point() + labs(title = %s, y = NULL) ",
          "+ theme_minimal()"), as_r_string(title))))
}

script_screening <- function(ctx, res) {
  kept <- function(text) gsub("rows[[", "kept[[", text, fixed = TRUE)
  names <- ctx$reading$outcome
  value <- function(name) kept(if (ctx$columns[[name]]$kind %in% c("number", "count", "ordered")) script_value(name) else sprintf("factor(%s)",
    script_column(name)))
  ordered <- vapply(names, function(name) ctx$columns[[name]]$kind == "ordered", NA)
  at <- function(v) paste0("c(", paste(match(v, names), collapse = ", "), ")")
  c(sprintf("columns <- list(%s)", paste(vapply(names, value, ""), collapse = ",\n  ")), sprintf("by_rank <- c(%s); a <- %s; b <- %s",
    paste(ordered, collapse = ", "), at(res$pairs$a), at(res$pairs$b)),
    script_relate(), "tables <- list(pairs = do.call(rbind, Map(function(i, j) relate(columns[[i]], columns[[j]], by_rank[i] || by_rank[j]), a, b)))",
    "tables$pairs$p_adjusted <- p.adjust(tables$pairs$p_value, \"BH\")",
      sprintf("numbers <- list(n = nrow(kept), tests = length(a), clear = sum(tables$pairs$p_adjusted < 1 - conf_level, na.rm = TRUE))"))
}
