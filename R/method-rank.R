# Top and bottom: groups by a statistic, rows by a value.

#' @noRd
method_rank_table <- function() {
  new_method(
    id = "rank_table", name = "Ranking", tasks = "rank",
    fits = function(shape) if (shape$task == "rank" && (shape$n_outcome == 1 || shape$n_outcome == 0 && shape$n_by == 1)) new_fit(90,
        "The question asks which come first or last."),
    compute = function(ctx) switch(ranked_kind(ctx), counts = rank_counts(ctx), shares = rank_shares(ctx), groups = rank_groups(ctx), rank_rows(ctx)),
    figure = function(ctx, res) switch(ranked_kind(ctx), counts = figure_ranked_counts(ctx, res), shares = figure_ranked_shares(ctx, res),
                                       figure_ranks(ctx, res)),
    sentences = function(ctx, res) switch(ranked_kind(ctx), counts = say_ranked_counts(ctx, res), shares = say_ranked_shares(ctx, res),
                                          say_ranking(ctx, res)),
    script = function(ctx, res) switch(ranked_kind(ctx), counts = script_rank_counts(ctx, res), shares = script_rank_shares(ctx, res),
                                       groups = script_rank_groups(ctx, res), script_rank_rows(ctx, res)),
    next_steps = function(ctx, res) switch(ranked_kind(ctx), counts = sprintf("Count the rows by %s", ctx$reading$by[1]),
                                           rows = sprintf("Show the distribution of %s", outcome_name(ctx)),
                                           sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by[1])))
}

#' What is put in order: groups by their number of rows, by the share of an event or by a statistic, or single rows
#' @noRd
ranked_kind <- function(ctx) {
  r <- ctx$reading
  if (!length(r$outcome)) "counts" else if (length(r$extra$event)) "shares" else if (length(r$by)) "groups" else "rows"
}

#' Rows in order of a value; rows that tie with the last one shown are shown too
#' @noRd
rank_rows <- function(ctx) {
  x <- outcome_values(ctx)
  order <- order(if (ranks_lowest_first(ctx)) x else -x)
  n <- ctx$reading$top$n %||% 10L
  if (!is.null(ctx$reading$top$percent)) n <- max(1L, as.integer(ceiling(length(x) * ctx$reading$top$percent / 100)))
  shown <- utils::head(places_with_ties(ctx, x, order, n), max(n, 50L))
  labels <- lapply(ctx$row_labels(ctx$frame$rows[shown]), as.character)
  table <- data.frame(row = ctx$frame$rows[shown], stringsAsFactors = FALSE)
  for (name in names(labels)) table[[name]] <- labels[[name]]
  table[[outcome_name(ctx)]] <- x[shown]
  # ("show their arm", asked of these rows)
  for (name in setdiff(ctx$reading$extra$also, names(table))) table[[name]] <- ctx$cells_of(name, ctx$frame$rows[shown])
  result(list(new_number("n", "rows", length(x)), new_number("estimate",
                                                             if (ranks_lowest_first(ctx)) "smallest value" else "largest value", x[order[1]])),
         tables = list(new_table("ranking", sprintf("Rows by %s", outcome_name(ctx)), table)), shown = shown,
         labels = labels,
         values = x[shown], asked = n)
}

#' The first places of an order, and those that tie with the last of them
#' @param v Values. @param order Their order, the first on top. @param n How many are asked for. @param digits Relative difference that
#'   is none: means that are the same may differ in their last digit.
#' @noRd
places_with_ties <- function(ctx, v, order, n, digits = 0) {
  last <- v[order[min(n, length(order))]]
  room <- digits * abs(last)
  order[if (ranks_lowest_first(ctx)) v[order] <= last + room else v[order] >= last - room]
}

say_ties <- function(shown, asked) if (shown > asked) "Groups that tie with the last one asked for are listed too."

#' Groups in order of a statistic of the outcome
#' @noRd
rank_groups <- function(ctx) {
  t <- groups_table(ctx)$data
  statistic <- ctx$reading$statistic %||% "mean"
  if (statistic %in% c("count", "percent")) statistic <- "n"
  if (!statistic %in% names(t)) statistic <- "mean"
  v <- t[[statistic]]
  keep <- order(if (ranks_lowest_first(ctx)) v else -v)
  keep <- keep[!is.na(v[keep])]
  n <- ctx$reading$top$n %||% length(keep)
  table <- t[utils::head(places_with_ties(ctx, v, keep, n, 1e-12), max(n, 50)), ]
  rownames(table) <- NULL
  result(list(new_number("n", "rows used", sum(t$n)), new_number("groups", "groups", nrow(t)),
              new_number("estimate", sprintf("%s of the first", statistic), table[[statistic]][1])),
         tables = list(new_table("ranking", sprintf("%s of %s by %s", statistic, outcome_name(ctx),
                                                    paste(ctx$reading$by, collapse = " and ")), table),
                       new_table("groups", sprintf("%s by %s", outcome_name(ctx),
                                                   paste(ctx$reading$by, collapse = " and ")), t)),
         statistic = statistic, ranking = table, asked = n)
}

#' Groups in order of the share of an event, or of how often it occurred
#' @noRd
rank_shares <- function(ctx) {
  event <- ctx$reading$extra$event
  hit <- row_matches(ctx$frame$data[[event$column]], event)
  g <- group_of(ctx)
  n <- tabulate(g, nlevels(g)); k <- tabulate(g[hit], nlevels(g))
  w <- stat_wilson(k, n, ctx$conf_level)
  t <- data.frame(group = levels(g), n = n, count = k, share = k / n, ci_low = w$low, ci_high = w$high, stringsAsFactors = FALSE)
  names(t)[1] <- ctx$reading$by[1]
  ranked <- t[[ranked_by(ctx)]]
  keep <- order(if (ranks_lowest_first(ctx)) ranked else -ranked, t[[1]], method = "radix")
  shown <- ctx$reading$top$n %||% nrow(t)
  table <- t[places_with_ties(ctx, ranked, keep, shown), ]
  rownames(table) <- NULL
  result(list(new_number("n", "rows used", sum(n)), new_number("groups", "groups", nrow(t)),
              new_number("estimate", sprintf("%s in the first", ranked_by(ctx)), table[[ranked_by(ctx)]][1])),
         tables = list(new_table("ranking", sprintf("%s of rows where %s, by %s", capital(ranked_what(ctx)), plain_filter(event),
             ctx$reading$by[1]), table),
                       new_table("shares", "All groups", t)), shares = table, asked = shown)
}

ranked_by <- function(ctx) if (identical(ctx$reading$statistic, "count")) "count" else "share"
ranked_what <- function(ctx) if (ranked_by(ctx) == "count") "number" else "share"

say_ranked_shares <- function(ctx, res) {
  t <- res$shares
  counted <- ranked_by(ctx) == "count"
  item <- if (counted) sprintf("%s %s (%s of %s rows)", t[[1]], say_number(t$count), say_percent(t$share), say_number(t$n))
          else sprintf("%s %s (%s of %s)", t[[1]], say_percent(t$share), say_number(t$count), say_number(t$n))
  text <- sprintf("The %s %s of rows in which %s: %s.", if (ranks_lowest_first(ctx)) "lowest" else "highest", ranked_what(ctx),
      plain_filter(ctx$reading$extra$event), some_of(item, 8))
  few <- !counted && any(t$n < 10)
  sizes <- res$tables[[2]]$data$n
  uneven <- counted && max(sizes) > 1.5 * min(sizes)
  list(headline = text, details = c(say_ties(nrow(t), res$asked),
    if (few) "Some of these shares rest on fewer than ten rows.",
    if (uneven) "The groups differ in their number of rows, so the share may rank them in another order.", say_rows(ctx)),
    write_up = paste0(text, write_rows(ctx)))
}

figure_ranked_shares <- function(ctx, res) {
  counted <- ranked_by(ctx) == "count"
  all <- res$tables[[2]]$data
  t <- utils::head(all[order(-all[[ranked_by(ctx)]], all[[1]], method = "radix"), ], 40)
  d <- data.frame(group = factor(t[[1]], rev(t[[1]])), value = t[[ranked_by(ctx)]], low = if (counted) NA_real_ else t$ci_low,
                  high = if (counted) NA_real_ else t$ci_high)
  title <- sprintf("%s of rows where %s, by %s", capital(ranked_what(ctx)), plain_filter(ctx$reading$extra$event),
                   say_column(ctx$columns[[ctx$reading$by[1]]]))
  figure_interval_dots(if (counted) "counts" else "shares", title,
                       if (counted) NULL else sprintf("Shares with %s Wilson intervals.", say_level(ctx$conf_level)), d,
                       if (counted) "Rows" else "Share of rows", "plot_data <- cbind(group = levels(g), tables$shares)",
                       sprintf("%1$s, reorder(group, %1$s)", ranked_by(ctx)), shares = !counted)
}

script_rank_shares <- function(ctx, res) {
  event <- ctx$reading$extra$event
  by <- ranked_by(ctx)
  c(script_event_shares(ctx, event),
    sprintf("place <- order(%sshares$%s, levels(g), method = \"radix\"); last <- shares$%s[place[min(%d, nrow(shares))]]",
            if (ranks_lowest_first(ctx)) "" else "-", by, by, as.integer(res$asked)),
    sprintf("tables <- list(ranking = shares[place[shares$%s[place] %s last], ], shares = shares)", by, if (ranks_lowest_first(ctx)) "<=" else ">="),
    sprintf("numbers <- list(n = length(keep), groups = nlevels(g), estimate = tables$ranking$%s[1])", by))
}

say_ranking <- function(ctx, res) {
  col <- outcome_column(ctx)
  y <- say_column(col)
  direction <- if (ranks_lowest_first(ctx)) "lowest" else "highest"
  if (is.null(res$ranking)) {
    names <- row_names_of(res)
    first <- sprintf("%s (%s%s)", names, with_unit(say_number(res$values), col$unit), say_beside(ctx, res))
    text <- sprintf("The %s %s: %s.", direction, y, some_of(first, 5))
    ties <- length(res$shown) > res$asked
    return(list(headline = text, details = c(if (ties) "Rows that tie with the last one asked for are listed too.",
                                             say_rows(ctx)), write_up = text))
  }
  t <- res$ranking
  name <- vapply(seq_len(nrow(t)), say_group, "", ctx = ctx, table = t)
  text <- sprintf("The %s %s of %s: %s.", direction, or_if_na(c(sum = "total", max = "largest value", min = "smallest value",
                                                       n = "number of rows")[res$statistic], res$statistic), y,
                  some_of(sprintf("%s (%s)", name, with_unit(say_number(t[[res$statistic]]),
                                                             if (res$statistic == "n") NULL else col$unit)), 5))
  few <- t$n < 5
  list(headline = text,
       details = c(say_ties(nrow(t), res$asked),
                   if (any(few)) sprintf("Fewer than five rows stand behind %s: such places are mostly luck.",
                                         some_of(name[few], 5)), say_rows(ctx)), write_up = text)
}

#' "; E 0.92": what one or two other columns hold in the rows ranked, where the question asks for them
#' @noRd
say_beside <- function(ctx, res) {
  also <- ctx$reading$extra$also
  t <- res$tables[[1]]$data
  if (!length(also) || length(also) > 2 || !all(also %in% names(t))) return("")
  each <- vapply(also, function(name) {
    v <- t[[name]]
    sprintf("%s %s", name, if (is.numeric(v)) say_number(v) else as.character(v))
  }, character(nrow(t)))
  paste0("; ", apply(matrix(each, nrow(t)), 1, paste, collapse = ", "))
}

script_rank_groups <- function(ctx, res) {
  statistic <- res$statistic
  c("tables <- list()", script_groups(ctx), sprintf("v <- tables$groups[[%s]]", as_r_string(statistic)),
    sprintf("place <- order(%sv); place <- place[!is.na(v[place])]", if (ranks_lowest_first(ctx)) "" else "-"),
    sprintf("last <- v[place[min(%d, length(place))]]; room <- 1e-12 * abs(last)", as.integer(res$asked)),
    sprintf("tables$ranking <- tables$groups[head(place[v[place] %s], %d), ]",
            if (ranks_lowest_first(ctx)) "<= last + room" else ">= last - room", max(as.integer(res$asked), 50L)),
    sprintf(paste0("numbers <- list(n = sum(tables$groups$n), groups = nrow(tables$groups), estimate = ",
                   "tables$ranking[[%s]][1])"), as_r_string(statistic)))
}

script_rank_rows <- function(ctx, res) {
  low <- ranks_lowest_first(ctx)
  c("tables <- list()", sprintf("x <- %s; place <- order(%sx); n <- %d", script_value(outcome_name(ctx)),
                                if (low) "" else "-", as.integer(res$asked)), "last <- x[place[min(n, length(place))]]",
    sprintf("shown <- head(place[x[place] %s last], max(n, 50))", if (low) "<=" else ">="),
    sprintf(paste0("tables$ranking <- stats::setNames(data.frame(row = as.integer(rownames(rows))[shown], value = ",
                   "x[shown]), c(\"row\", %s))"), as_r_string(outcome_name(ctx))),
    "numbers <- list(n = length(x), estimate = x[place[1]])")
}
