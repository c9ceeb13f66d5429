# Groups in order of how many rows they hold ("which agent has the most calls", "top 3 sites by number of patients").

#' Groups in order of their number of rows; groups that tie with the last one asked for are listed too
#' @noRd
rank_counts <- function(ctx) {
  g <- group_of(ctx)
  n <- tabulate(g, nlevels(g))
  shares <- stat_wilson(n, rep(sum(n), length(n)), ctx$conf_level)
  t <- data.frame(group = levels(g), n = n, percent = 100 * n / sum(n), ci_low = 100 * shares$low, ci_high = 100 * shares$high,
                  stringsAsFactors = FALSE)
  names(t)[1] <- ctx$reading$by[1]
  keep <- order(if (ranks_lowest_first(ctx)) n else -n, t[[1]], method = "radix")
  shown <- ctx$reading$top$n %||% nrow(t)
  table <- t[places_with_ties(ctx, n, keep, shown), ]
  rownames(table) <- NULL
  result(list(new_number("n", "rows used", sum(n)), new_number("groups", "groups", nrow(t)),
              new_number("estimate", "rows of the first", table$n[1])),
         tables = list(new_table("ranking", sprintf("Number of rows by %s", ctx$reading$by[1]), table), new_table("counts", "All groups", t)),
         asked = shown)
}

say_ranked_counts <- function(ctx, res) {
  t <- res$tables[[1]]$data
  text <- sprintf("%s rows by %s: %s.", if (ranks_lowest_first(ctx)) "Fewest" else "Most", say_column(ctx$columns[[ctx$reading$by[1]]]),
                  some_of(sprintf("%s %s (%s)", t[[1]], say_number(t$n), say_percent(t$percent / 100)), 8))
  list(headline = text, details = c(say_ties(nrow(t), res$asked),
    "A group without any row is not in the data and cannot be listed.", say_rows(ctx)), write_up = paste0(text, write_rows(ctx)))
}

figure_ranked_counts <- function(ctx, res) {
  all <- res$tables[[2]]$data
  t <- utils::head(all[order(-all$n, all[[1]], method = "radix"), ], 40)
  d <- data.frame(group = factor(t[[1]], rev(t[[1]])), value = t$n, low = NA_real_, high = NA_real_)
  figure_interval_dots("counts", sprintf("Number of rows by %s", say_column(ctx$columns[[ctx$reading$by[1]]])), NULL, d, "Rows",
                       "plot_data <- cbind(group = levels(g), tables$counts)", "n, reorder(group, n)", shares = FALSE)
}

script_rank_counts <- function(ctx, res) {
  low <- ranks_lowest_first(ctx)
  c(sprintf("g <- %s; g <- droplevels(g[, drop = TRUE])", script_group(ctx$reading$by)),
    "wilson <- function(k, n) suppressWarnings(prop.test(k, n, conf.level = conf_level, correct = FALSE)$conf.int)",
    "n <- as.vector(table(g)); limits <- 100 * t(mapply(wilson, n, sum(n)))",
    "counts <- data.frame(n = n, percent = 100 * n / sum(n), ci_low = limits[, 1], ci_high = limits[, 2])",
    sprintf("place <- order(%sn, levels(g), method = \"radix\"); last <- n[place[min(%d, length(n))]]", if (low) "" else "-", as.integer(res$asked)),
    sprintf("tables <- list(ranking = counts[place[n[place] %s last], ], counts = counts)", if (low) "<=" else ">="),
    "numbers <- list(n = sum(n), groups = nlevels(g), estimate = tables$ranking$n[1])")
}
