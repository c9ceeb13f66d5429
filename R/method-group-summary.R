#' @noRd
method_group_summary <- function() {
  new_method(
    id = "group_summary", name = "Summary by group", tasks = "describe",
    fits = function(shape) if (shape$task %in% c("describe", "figure") && shape$n_outcome >= 1 && shape$n_by >= 1 &&
                               shape$outcome_kind %in% c("number", "count", "ordered"))
      # (another picture of a summary stays a summary)
      new_fit(if (identical(shape$from_task, "describe")) 99 else 85, "The question asks for a summary of each group."),
    compute = function(ctx) {
      tables <- lapply(seq_along(ctx$reading$outcome), function(i) {
        t <- groups_table(on_own_rows(ctx, ctx$reading$outcome[i]), ctx$reading$outcome[i])
        if (i > 1) t$id <- paste0("groups_", i)
        t
      })
      t <- tables[[1]]$data
      statistic <- ctx$reading$statistic %||% "mean"
      column <- if (statistic %in% names(t)) statistic else "mean"
      numbers <- c(list(new_number("n", "rows used", sum(t$n))),
                   lapply(seq_len(min(nrow(t), 60)), function(i) new_number(paste0(column, "_", i), column,
                       t[[column]][i],
                       of = group_label(t, i, length(ctx$reading$by)))))
      result(numbers, tables = tables, shown = column)
    },
    figure = function(ctx, res) {
      if (length(ctx$reading$by) == 1 && length(ctx$reading$outcome) > 1) figure_measures(ctx, res$tables)
      else if (length(ctx$reading$by) == 1) figure_groups(ctx, outcome_name(ctx), ctx$reading$by[1])
      else if (length(ctx$reading$by) == 2 && length(ctx$reading$outcome) == 1) figure_two_groupings(ctx, res)
    },
    sentences = say_group_summary,
    script = function(ctx, res) {
      body <- "tables <- list(); numbers <- list()"
      blocks <- lapply(rev(seq_along(ctx$reading$outcome)), function(i) c(script_groups(ctx, ctx$reading$outcome[i]),
          if (i > 1) sprintf("tables$groups_%d <- tables$groups", i)))
      c(body, unlist(blocks), "numbers$n <- sum(tables$groups$n)",
        sprintf("for (i in seq_len(min(60, nrow(tables$groups)))) numbers[[paste0(%s, i)]] <- tables$groups[[%s]][i]",
                as_r_string(paste0(res$shown, "_")), as_r_string(res$shown)))
    },
    references = paste0("Hyndman, R. J., & Fan, Y. (1996). Sample quantiles in statistical packages. The American ",
                        "Statistician, 50, 361-365."),
    next_steps = function(ctx, res) sprintf("Does %s differ by %s?", outcome_name(ctx), ctx$reading$by[1]))
}

say_group_summary <- function(ctx, res) {
  t <- res$tables[[1]]$data
  name <- function(i) say_group(ctx, t, i)
  said <- vapply(seq_along(ctx$reading$outcome), function(k) say_extremes(ctx, res$tables[[min(k, length(res$tables))]]$data,
    ctx$columns[[ctx$reading$outcome[k]]], res$shown), "")
  beyond <- if (length(said) == 1) say_groups_beyond(ctx$reading$extra$group_bound, vapply(seq_len(nrow(t)), name, ""), t[[res$shown]],
                                                      function(v) with_unit(say_number(v),
                                                          if (!res$shown %in% c("variation", "variance")) outcome_column(ctx)$unit))
  # several columns: each has its say
  list(headline = paste(c(beyond, utils::head(said, 4)), collapse = " "), details = say_rows(ctx),
       write_up = paste0(paste(sprintf("%s: M = %s, SD = %s, n = %s", vapply(seq_len(nrow(t)), name, ""), say_number(t$mean), say_number(t$sd),
                                       say_number(t$n)), collapse = "; "), "."))
}

#' The groups in which a statistic of a column is highest and lowest
#' @noRd
say_extremes <- function(ctx, t, col, shown) {
  v <- t[[shown]]
  # a ratio of the spread to the mean has no unit, a square another one
  unit <- if (!shown %in% c("variation", "variance", "skewness", "kurtosis")) col$unit
  name <- function(i) say_group(ctx, t, i)
  label <- statistic_name(shown)
  if (nrow(t) == 1) return(sprintf("The %s of %s is %s.", label, say_column(col), with_unit(say_number(v), unit)))
  if (max(v, na.rm = TRUE) == min(v, na.rm = TRUE)) return(sprintf("The %s of %s is %s in every group.", label, say_column(col),
    with_unit(say_number(v[1]), unit)))
  high <- which.max(v); low <- which.min(v)
  ends <- with_unit(say_ends(v[high], v[low]), unit)
  sprintf("The %s of %s is highest for %s (%s) and lowest for %s (%s).", label, say_column(col), name(high), ends[1], name(low), ends[2])
}

#' The context of one of several outcomes: a value that another lacks leaves no row out
#' @noRd
on_own_rows <- function(ctx, y) {
  others <- setdiff(ctx$reading$outcome, y)
  if (!length(others)) return(ctx)
  without <- ctx$frame_without
  ctx$frame <- without(others)
  ctx$frame_without <- function(names) without(unique(c(names, others)))
  ctx
}
