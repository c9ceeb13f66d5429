#' @noRd
method_share_by_group <- function() {
  new_method(
    id = "share_by_group", name = "Share of an event in each combination of groups", tasks = c("frequency", "compare"),
    fits = function(shape) if (isTRUE(shape$shares)) new_fit(99, if (isTRUE(shape$shares_tested))
      "The question asks whether the share of one level or condition differs between groups, so it is set against all other rows."
      else "The question asks how often an event occurs in each combination of groups."),
    compute = function(ctx) {
      event <- ctx$reading$extra$event
      hit <- row_matches(ctx$frame$data[[event$column]], event)
      g <- group_of(ctx)
      n <- tabulate(g, nlevels(g)); k <- tabulate(g[hit], nlevels(g))
      w <- stat_wilson(k, n, ctx$conf_level)
      all <- stat_wilson(sum(hit), length(hit), ctx$conf_level)
      tested <- isTRUE(ctx$reading$extra$shares_tested) && any(hit) && !all(hit) && sum(n > 0) > 1
      test <- if (tested) stat_chi_square(unname(rbind(n - k, k))[, n > 0, drop = FALSE], ctx$conf_level)
      result(c(if (!is.null(test)) share_test_numbers(test), list(new_number("estimate", "share over all rows", mean(hit)), new_number("ci_low",
          "lower limit", all$low), new_number("ci_high",
        "upper limit", all$high),
                  new_number("conf_level", "confidence level", ctx$conf_level), new_number("count", "rows that meet the condition", sum(hit)),
                    new_number("n", "rows", length(hit)))),
             list(new_table("shares", sprintf("Share of rows where %s", plain_filter(event)),
                            data.frame(group = levels(g), n = n, count = k, share = k / n, ci_low = w$low, ci_high = w$high,
                              stringsAsFactors = FALSE))), expected = test$expected, direction = NA_real_)
    },
    checks = function(ctx, res) if (!is.null(res$expected)) list(check_independent_rows(ctx$unit_values, ctx$unit_name),
                                                                 check_expected_counts(res$expected)) else check_known_units(ctx),
    figure = function(ctx, res) {
      t <- res$tables[[1]]$data
      d <- data.frame(group = factor(t$group, rev(t$group)), value = t$share, low = t$ci_low, high = t$ci_high)
      groups <- vapply(ctx$reading$by, function(name) say_column(ctx$columns[[name]]), "")
      title <- sprintf("Share of rows where %s, by %s", plain_filter(ctx$reading$extra$event), some_of(groups))
      figure_interval_dots("shares", title, sprintf("Shares with %s Wilson intervals.", say_level(ctx$conf_level)), d, "Share of rows",
                           "plot_data <- cbind(tables$shares, group = levels(g))", "share, group",
                           y = if (length(ctx$reading$by) == 1) axis_label(ctx$columns[[ctx$reading$by]]), shares = TRUE)
    },
    sentences = function(ctx, res) {
      t <- res$tables[[1]]$data
      item <- sprintf("%s in %s (%s of %s)", vapply(t$share, say_percent, ""), t$group, say_number(t$count), say_number(t$n))
      order <- order(-t$share)
      text <- sprintf("%s in %s of all rows: %s.", capital(plain_filter(ctx$reading$extra$event)), say_percent(res$number$estimate),
        some_of(item[order], 6))
      told <- if (!is.null(res$number$p_value)) say_share_test(ctx, res)
      text <- paste(c(say_groups_beyond(share_bound(ctx), t$group, t$share, say_percent), text), collapse = " ")
      list(headline = paste(c(told, text), collapse = " "), details = say_rows(ctx), write_up = paste0(paste(c(told, text), collapse = " "),
                                                                                                       write_rows(ctx)))
    },
    script = function(ctx, res) {
      event <- ctx$reading$extra$event
      c(script_event_shares(ctx, event), "all <- wilson(sum(keep), length(keep)); tables <- list(shares = shares)",
        if (!is.null(res$expected)) c("counts <- rbind(shares$n - shares$count, shares$count)[, shares$n > 0]",
          "test <- suppressWarnings(chisq.test(counts, correct = FALSE)); v <- sqrt(unname(test$statistic) / sum(counts))"),
        paste0("numbers <- list(", if (!is.null(res$expected)) "statistic = unname(test$statistic), df = unname(test$parameter), p_value = test$p.value, cramers_v = v, "),  # nolint: line_length_linter.
        "  estimate = mean(keep), ci_low = all[1], ci_high = all[2], conf_level = conf_level, count = sum(keep), n = length(keep))")
    },
    references = paste0("Wilson, E. B. (1927). Probable inference, the law of succession, and statistical inference. Journal of the American ",
        "Statistical Association, 22, 209-212."),
    next_steps = function(ctx, res) sprintf("Is %s related to %s?", ctx$reading$extra$event$column, ctx$reading$by[1]))
}

#' Script lines for the share of an event in each group, with Wilson intervals
#' @noRd
script_event_shares <- function(ctx, event) {
  c("keep <- rep(TRUE, nrow(rows))", script_filter(event, ctx$columns[[event$column]], "rows"),
    sprintf("g <- %s; g <- droplevels(g[, drop = TRUE])", script_group(ctx$reading$by)),
    "wilson <- function(k, n) suppressWarnings(prop.test(k, n, conf.level = conf_level, correct = FALSE)$conf.int)",
    "n <- as.vector(table(g)); k <- as.vector(tapply(keep, g, sum)); limits <- t(mapply(wilson, k, n))",
    "shares <- data.frame(n = n, count = k, share = k / n, ci_low = limits[, 1], ci_high = limits[, 2])")
}

share_test_numbers <- function(test) {
  list(new_number("statistic", "chi-square", test$statistic), new_number("df", "degrees of freedom", test$df),
       new_number("p_value", "p", test$p_value), new_number("cramers_v", "Cramer's V", test$cramers_v))
}

say_share_test <- function(ctx, res) {
  n <- res$number
  sprintf("The share %s between the groups of %s: chi-square(%s) = %s, %s, Cramer's V = %s.",
          if (isTRUE(n$p_value < 1 - ctx$conf_level)) "differs" else "does not clearly differ", some_of(ctx$reading$by), say_number(n$df),
          say_number(n$statistic, 2), say_p(n$p_value), say_unit(n$cramers_v))
}
