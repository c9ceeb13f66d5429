# Rates: the total of one column over the total of another, never a mean of rates.

#' @noRd
method_rate_table <- function() {
  new_method(
    id = "rate_table", name = "Rate: total over total", tasks = c("describe", "rank", "compare"),
    fits = function(shape) if (isTRUE(shape$rate)) new_fit(97,
      "One column per unit of another is the total of the first over the total of the second, so large and small rows count by their size."),
    compute = compute_rate, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) if (length(ctx$reading$by)) figure_rates(ctx, res), sentences = say_rate, script = script_rate,
    references = c("Cochran, W. G. (1977). Sampling Techniques (3rd ed.), ch. 6. Wiley.",
                   "Welch, B. L. (1951). On the comparison of several mean values: An alternative approach. Biometrika, 38, 330-336."),
    next_steps = function(ctx, res) {
      counted <- outcome_column(ctx)$kind == "count" && length(ctx$reading$by) && all(outcome_values(ctx, ctx$reading$predictors[1]) > 0)
      if (counted) sprintf("Poisson regression of %s on %s with exposure %s", outcome_name(ctx), some_of(ctx$reading$by, 3),
                           ctx$reading$predictors[1])
      else sprintf("Is %s related to %s?", outcome_name(ctx), ctx$reading$predictors[1])
    })
}

#' What a rate is per: "call", "100 calls"
#' @noRd
rate_base <- function(ctx, name = ctx$reading$predictors[1]) {
  per <- ctx$reading$extra$rate_per
  if (!is.null(per)) return(paste(format_plain(per), name))
  if (grepl(" of ", name, fixed = TRUE)) name else one_of(name)
}

#' The column that is counted over, with its unit of time: "patient days"
#' @noRd
say_base <- function(col) {
  days <- is.null(col$label) && grepl("[a-z][_. ]?(days|nights|weeks|months|years|hours|minutes)$", tolower(col$name))
  if (days) return(tolower(gsub("[_.]+", " ", col$name)))
  # "per minute of consultation", of a column in minutes
  unit <- c(min = "minute", s = "second", h = "hour", hours = "hour", days = "day", weeks = "week", months = "month",
      years = "year")[col$unit %||% ""]
  unit <- if (length(unit) && !is.na(unit)) unit else if (isTRUE(nzchar(col$unit)) && col$unit != "%") col$unit
  if (is.null(unit)) say_column(col) else sprintf("%s of %s", unit, say_column(col))
}

#' Ratio of two totals with its interval
#'
#' @param per The rate is stated for so many units of the base.
#' @section Shape: `estimate`, `se` (linearised), `ci_low`, `ci_high` (t, n - 1 df; NA under two rows), `total`, `base`, `n`.
#' @section Source: Cochran, W. G. (1977). Sampling Techniques, equation 6.13.
#' @noRd
stat_total_rate <- function(x, base, conf_level = 0.95, per = 1) {
  n <- length(x)
  if (sum(base) == 0) stop_data("The totals to divide by are zero.", class = "outcome_constant")
  rate <- sum(x) / sum(base)
  se <- if (n > 1) per * sqrt(n / (n - 1) * sum((x - rate * base)^2)) / abs(sum(base)) else NA_real_
  rate <- per * rate
  half <- if (n > 1) stats::qt(1 - (1 - conf_level) / 2, n - 1) * se else NA_real_
  list(estimate = rate, se = se, ci_low = rate - half, ci_high = rate + half, total = sum(x), base = sum(base), n = n)
}

#' Do the rates of groups differ?
#'
#' @param parts Results of [stat_total_rate()], one a group.
#' @section Shape: two groups: as of [stat_t_welch()], first less second, with `rate_ratio`, `rate_ratio_low`, `rate_ratio_high` (log
#'   scale) where both rates are above zero; more groups: `statistic`, `df1`, `df2`, `p_value` (Welch's F). NULL where a group has one row
#'   or its rate no spread.
#' @section Source: Cochran, W. G. (1977). Sampling Techniques, section 6.11; degrees of freedom: Welch, B. L. (1947), Biometrika 34, 28-35,
#'   and (1951), Biometrika 38, 330-336. No kind of distribution is assumed, so counts more spread than Poisson are allowed for.
#' @noRd
stat_rates_differ <- function(parts, conf_level = 0.95, alternative = "two_sided") {
  take <- function(id) vapply(parts, `[[`, 1, id)
  rate <- unname(take("estimate")); v <- unname(take("se"))^2; n <- unname(take("n"))
  if (length(parts) < 2 || anyNA(v) || any(v <= 0)) return(NULL)
  if (length(parts) > 2) return(welch_f(rate, v, n))
  df <- sum(v)^2 / sum(v^2 / (n - 1))
  out <- t_result(rate[1] - rate[2], sqrt(sum(v)), df, sum(n), conf_level, alternative)
  if (any(rate <= 0)) return(out)
  half <- stats::qt(1 - (1 - conf_level) / 2, df) * sqrt(sum(v / rate^2))
  c(out, list(rate_ratio = rate[1] / rate[2], rate_ratio_low = rate[1] / rate[2] * exp(-half), rate_ratio_high = rate[1] / rate[2] * exp(half)))
}

compute_rate <- function(ctx) {
  x <- outcome_values(ctx); base <- outcome_values(ctx, ctx$reading$predictors[1])
  if (any(base < 0)) stop_data(sprintf("%s holds negative values, so nothing can be counted per unit of it.", quoted(ctx$reading$predictors[1])),
    class = "unfit_data")
  per <- ctx$reading$extra$rate_per %||% 1
  all <- stat_total_rate(x, base, ctx$conf_level, per)
  totals <- list(new_number("total", sprintf("total of %s", outcome_name(ctx)), all$total),
                 new_number("base", sprintf("total of %s", ctx$reading$predictors[1]), all$base))
  numbers <- c(test_numbers(all, "", sprintf("%s per %s", outcome_name(ctx), rate_base(ctx)), ctx$conf_level), totals)
  if (!length(ctx$reading$by)) return(result(numbers, direction = NA_real_))
  g <- group_of(ctx)
  parts <- lapply(split(seq_along(x), g), function(i) if (sum(base[i]) > 0) stat_total_rate(x[i], base[i], ctx$conf_level, per))
  keep <- !vapply(parts, is.null, NA)
  parts <- parts[keep]
  take <- function(id) vapply(parts, `[[`, 1, id)
  table <- data.frame(group = levels(g)[keep], n = take("n"), total = take("total"), base = take("base"), rate = take("estimate"),
    ci_low = take("ci_low"), ci_high = take("ci_high"), stringsAsFactors = FALSE)
  differ <- if (ctx$reading$task == "compare" && length(ctx$reading$by) == 1) stat_rates_differ(parts, ctx$conf_level, ctx$alternative)
  if (!is.null(differ)) numbers <- c(rate_comparison_numbers(differ, names(parts), ctx), list(new_number("rate", "rate over all rows", all$estimate),
    new_number("n", "rows used", all$n)), totals)
  result(numbers, tables = list(new_table("rates", sprintf("%s per %s", outcome_name(ctx), rate_base(ctx)), `rownames<-`(table, NULL))),
    differ = differ, all = all, direction = if (is.null(differ$estimate)) NA_real_ else sign(differ$estimate))
}

rate_comparison_numbers <- function(differ, groups, ctx) {
  if (is.null(differ$estimate)) return(test_numbers(differ, "F", "", ctx$conf_level))
  differ$n <- NULL
  sides <- paste(groups, collapse = " over ")
  c(test_numbers(differ, "t", sprintf("difference in rates, %s", paste(groups, collapse = " minus ")), ctx$conf_level),
    effect_numbers(differ, c(rate_ratio = sprintf("rate ratio, %s", sides))))
}

say_rate <- function(ctx, res) {
  n <- res$number
  what <- sprintf("%s per %s", say_column(outcome_column(ctx)), rate_base(ctx, say_base(ctx$columns[[ctx$reading$predictors[1]]])))
  if (!is.null(res$differ)) return(say_rates_differ(ctx, res, what, sprintf("%s for %s", say_number(res$tables[[1]]$data$rate),
                                                                           res$tables[[1]]$data$group)))
  interval <- if (is.na(n$ci_low)) "" else sprintf(" (%s)", say_interval(n$ci_low, n$ci_high, ctx$conf_level))
  overall <- sprintf("%s: %s%s, from totals of %s and %s.", capital(what), say_number(n$estimate), interval, say_number(n$total), say_number(n$base))
  if (!length(res$tables)) return(list(headline = overall, details = say_rows(ctx), write_up = paste0(overall, write_rows(ctx))))
  t <- res$tables[[1]]$data
  item <- sprintf("%s for %s", say_number(t$rate), t$group)
  order <- order(-t$rate)
  ends <- say_ends(t$rate[order[1]], t$rate[order[nrow(t)]])
  list(headline = sprintf("%s is highest for %s (%s) and lowest for %s (%s).", capital(what), t$group[order[1]], ends[1], t$group[order[nrow(t)]],
                          ends[2]),
       details = c(sprintf("Over all rows: %s%s.", say_number(n$estimate), interval),
         "Each is a total over a total; a mean of the rows' own rates would count small rows as much as large ones.", say_rows(ctx)),
       write_up = sprintf("%s was %s (%s over all rows, as totals over totals).%s", capital(what), some_of(item, 10), say_number(n$estimate),
         write_rows(ctx)))
}

say_rates_differ <- function(ctx, res, what, item) {
  n <- res$number; t <- res$tables[[1]]$data
  clear <- isTRUE(n$p_value < 1 - ctx$conf_level)
  if (is.null(n$estimate)) {
    test <- sprintf("Welch's F(%s, %s) = %s, %s", say_df(n$df1), say_df(n$df2), say_number(n$statistic, 2), say_p(n$p_value))
    headline <- sprintf("%s %s between the %s groups of %s: from %s (%s) to %s (%s), %s.", capital(what),
                        if (clear) "differs" else "does not clearly differ", say_number(nrow(t)), say_column(ctx$columns[[ctx$reading$by[1]]]),
                        say_number(min(t$rate)), t$group[which.min(t$rate)], say_number(max(t$rate)), t$group[which.max(t$rate)], say_p(n$p_value))
  } else {
    test <- sprintf("t(%s) = %s, %s", say_df(n$df), say_number(n$statistic, 2), say_p(n$p_value))
    headline <- sprintf("%s: %s; difference %s (%s), %s.", if (clear) sprintf("%s is %s for %s", capital(what),
                          if (n$estimate > 0) "higher" else "lower", t$group[1]) else sprintf("No clear difference in %s", what), some_of(item, 2),
                        say_number(n$estimate), say_interval(n$ci_low, n$ci_high, ctx$conf_level), say_p(n$p_value))
  }
  ratio <- if (!is.null(n$rate_ratio)) { r <- say_ratio(n, "rate_ratio", ctx$conf_level)
    sprintf("The rate of %s is %s times that of %s (%s).", t$group[1], r$value, t$group[2], r$interval) }
  list(headline = headline,
       details = c(ratio, sprintf("Over all rows: %s.", say_number(n$rate)),
                   "Each is a total over a total; a mean of the rows' own rates would count small rows as much as large ones.", say_rows(ctx)),
       write_up = sprintf("%s was %s; %s%s.%s", capital(what), some_of(item, 10), test,
                          if (is.null(n$estimate)) "" else sprintf(", difference %s, %s%s", say_number(n$estimate),
                            say_interval(n$ci_low, n$ci_high, ctx$conf_level), if (is.null(ratio)) "" else sprintf(", rate ratio %s, %s", r$value,
                              r$interval)), write_rows(ctx)))
}

figure_rates <- function(ctx, res) {
  t <- res$tables[[1]]$data
  if (length(ctx$reading$by) == 1 && identical(ctx$columns[[ctx$reading$by]]$role, "period")) return(figure_rates_over_time(ctx, t))
  d <- data.frame(group = factor(t$group, t$group[order(t$rate)]), value = t$rate, low = t$ci_low, high = t$ci_high)
  title <- sprintf("%s per %s", capital(say_column(outcome_column(ctx))), rate_base(ctx, say_base(ctx$columns[[ctx$reading$predictors[1]]])))
  figure_interval_dots("rates", title, sprintf("Totals over totals with %s intervals.", say_level(ctx$conf_level)), d, title,
                       "plot_data <- tables$rates; plot_data$group <- levels(g)", "rate, reorder(group, rate)",
                       axis_label(ctx$columns[[ctx$reading$by[1]]]))
}

#' Rates of periods in the order of time, joined by a line
#' @noRd
figure_rates_over_time <- function(ctx, t) {
  what <- sprintf("%s per %s", capital(say_column(outcome_column(ctx))), rate_base(ctx, say_base(ctx$columns[[ctx$reading$predictors[1]]])))
  title <- sprintf("%s by %s", what, sub(" of .*$", "", tolower(say_column(ctx$columns[[ctx$reading$by]]))))
  d <- data.frame(period = factor(t$group, t$group), value = t$rate, low = t$ci_low, high = t$ci_high, run = 1)
  new_figure("rates", title, "line", subtitle = sprintf("Totals over totals with %s intervals.", say_level(ctx$conf_level)),
    alt = sprintf("%s: a point for each period, joined by a line.", title), draw = function() draw_periods(d, what),
    script = c("plot_data <- tables$rates; plot_data$period <- factor(levels(g), levels(g))",
               sprintf(paste0("plot <- ggplot(plot_data, aes(period, rate, group = 1)) + ",
                              "geom_ribbon(aes(ymin = ci_low, ymax = ci_high), alpha = 0.15) + ",
                              "geom_line() + geom_point() + labs(y = %s, title = %s) + theme_minimal()"), as_r_string(what), as_r_string(title))))
}

script_rate <- function(ctx, res) {
  by <- ctx$reading$by
  c(sprintf("x <- %s; base <- %s", script_value(outcome_name(ctx)), script_value(ctx$reading$predictors[1])),
    paste0("rate <- function(i) { n <- length(i); r <- sum(x[i]) / sum(base[i]); se <- sqrt(n / (n - 1) * sum((x[i] - r * base[i])^2)) / ",
        "abs(sum(base[i])); half <- qt(1 - (1 - conf_level) / 2, n - 1) * se"),
    if (!is.null(ctx$reading$extra$rate_per)) sprintf("  r <- %1$s * r; se <- %1$s * se; half <- %1$s * half",
        as_r_number(ctx$reading$extra$rate_per)),
    "  c(estimate = r, se = se, ci_low = r - half, ci_high = r + half, total = sum(x[i]), base = sum(base[i]), n = n) }",
    "all <- as.list(rate(seq_along(x))); numbers <- c(all, conf_level = conf_level); tables <- list()",
    if (length(by)) c(sprintf("g <- %s", script_group(by)),
      paste0("g <- droplevels(g[, drop = TRUE]); parts <- lapply(split(seq_along(x), g), function(i) if (sum(base[i]) > 0) ",
          "suppressWarnings(rate(i))); g <- factor(g, names(parts)[lengths(parts) > 0]); parts <- do.call(rbind, parts)"),
      paste0("tables$rates <- data.frame(n = parts[, \"n\"], total = parts[, \"total\"], base = parts[, \"base\"], rate = parts[, ",
          "\"estimate\"], ci_low = parts[, \"ci_low\"], ci_high = parts[, \"ci_high\"])")),
    if (!is.null(res$differ)) script_rates_differ(ctx, res))
}

script_rates_differ <- function(ctx, res) {
  c("# do they differ? errors of the ratios by group, no kind of distribution assumed",
    "v <- parts[, \"se\"]^2; r <- parts[, \"estimate\"]; m <- parts[, \"n\"]",
    if (is.null(res$differ$estimate)) c(
      "w <- 1 / v; k <- length(v); lack <- sum((1 - w / sum(w))^2 / (m - 1)); df2 <- (k^2 - 1) / (3 * lack)",
      "f <- sum(w * (r - sum(w * r) / sum(w))^2) / (k - 1) / (1 + 2 * (k - 2) / (k^2 - 1) * lack)",
      "test <- list(statistic = f, df1 = k - 1, df2 = df2, p_value = pf(f, k - 1, df2, lower.tail = FALSE))")
    else c("df <- sum(v)^2 / sum(v^2 / (m - 1)); d <- r[[1]] - r[[2]]; se <- sqrt(sum(v)); q <- qt(1 - (1 - conf_level) / 2, df)",
           script_difference_test(ctx$alternative),
           if (!is.null(res$differ$rate_ratio)) paste0("half <- q * sqrt(sum(v / r^2)); test <- c(test, list(rate_ratio = r[[1]] / r[[2]], ",
             "rate_ratio_low = r[[1]] / r[[2]] * exp(-half), rate_ratio_high = r[[1]] / r[[2]] * exp(half)))")),
    "numbers <- c(test, list(conf_level = conf_level, rate = all$estimate, n = all$n, total = all$total, base = all$base))")
}

#' Script lines: test of d with standard error se on df degrees of freedom
#' @noRd
script_difference_test <- function(alternative) {
  limits <- switch(alternative, two_sided = "d - q * se, d + q * se", greater = "d - qt(conf_level, df) * se, Inf",
                   less = "-Inf, d + qt(conf_level, df) * se")
  p <- switch(alternative, two_sided = "2 * pt(-abs(d / se), df)", greater = "pt(d / se, df, lower.tail = FALSE)", less = "pt(d / se, df)")
  c(sprintf("limits <- c(%s)", limits),
    sprintf("test <- list(statistic = d / se, df = df, p_value = %s, estimate = d, se = se, ci_low = limits[1], ci_high = limits[2])", p))
}
