# Rates: the total of one column over the total of another, never a mean of rates.

#' @noRd
method_rate_table <- function() {
  new_method(
    id = "rate_table", name = "Rate: total over total", tasks = c("describe", "rank"),
    fits = function(shape) if (isTRUE(shape$rate)) new_fit(97,
      "One column per unit of another is the total of the first over the total of the second, so large and small rows count by their size."),
    compute = compute_rate, checks = function(ctx, res) list(check_independent_rows(ctx$unit_values, ctx$unit_name)),
    figure = function(ctx, res) if (length(ctx$reading$by)) figure_rates(ctx, res), sentences = say_rate, script = script_rate,
    references = "Cochran, W. G. (1977). Sampling Techniques (3rd ed.), ch. 6. Wiley.",
    next_steps = function(ctx, res) sprintf("Is %s related to %s?", outcome_name(ctx), ctx$reading$predictors[1]))
}

#' What a rate is per: "calls", "100 calls"
#' @noRd
rate_base <- function(ctx, name = ctx$reading$predictors[1]) {
  per <- ctx$reading$extra$rate_per
  if (is.null(per)) name else paste(format_plain(per), name)
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

compute_rate <- function(ctx) {
  x <- outcome_values(ctx); base <- outcome_values(ctx, ctx$reading$predictors[1])
  if (any(base < 0)) stop_data(sprintf("%s holds negative values, so nothing can be counted per unit of it.", quoted(ctx$reading$predictors[1])),
    class = "unfit_data")
  per <- ctx$reading$extra$rate_per %||% 1
  all <- stat_total_rate(x, base, ctx$conf_level, per)
  numbers <- c(test_numbers(all, "", sprintf("%s per %s", outcome_name(ctx), rate_base(ctx)), ctx$conf_level),
               list(new_number("total", sprintf("total of %s", outcome_name(ctx)), all$total), new_number("base", sprintf("total of %s",
                 ctx$reading$predictors[1]), all$base)))
  if (!length(ctx$reading$by)) return(result(numbers, direction = NA_real_))
  g <- group_of(ctx)
  parts <- lapply(split(seq_along(x), g), function(i) if (sum(base[i]) > 0) stat_total_rate(x[i], base[i], ctx$conf_level, per))
  keep <- !vapply(parts, is.null, NA)
  parts <- parts[keep]
  take <- function(id) vapply(parts, `[[`, 1, id)
  table <- data.frame(group = levels(g)[keep], n = take("n"), total = take("total"), base = take("base"), rate = take("estimate"),
    ci_low = take("ci_low"), ci_high = take("ci_high"), stringsAsFactors = FALSE)
  result(numbers, tables = list(new_table("rates", sprintf("%s per %s", outcome_name(ctx), rate_base(ctx)), `rownames<-`(table, NULL))),
    direction = NA_real_)
}

say_rate <- function(ctx, res) {
  n <- res$number
  what <- sprintf("%s per %s", say_column(outcome_column(ctx)), rate_base(ctx, say_column(ctx$columns[[ctx$reading$predictors[1]]])))
  interval <- if (is.na(n$ci_low)) "" else sprintf(" (%s)", say_interval(n$ci_low, n$ci_high, ctx$conf_level))
  overall <- sprintf("%s: %s%s, from totals of %s and %s.", capital(what), say_number(n$estimate), interval, say_number(n$total), say_number(n$base))
  if (!length(res$tables)) return(list(headline = overall, details = say_rows(ctx), write_up = paste0(overall, write_rows(ctx))))
  t <- res$tables[[1]]$data
  item <- sprintf("%s for %s", say_number(t$rate), t$group)
  order <- order(-t$rate)
  list(headline = sprintf("%s is highest for %s (%s) and lowest for %s (%s).", capital(what), t$group[order[1]], say_number(t$rate[order[1]]),
    t$group[order[nrow(t)]], say_number(t$rate[order[nrow(t)]])),
       details = c(sprintf("Over all rows: %s%s.", say_number(n$estimate), interval),
         "Each is a total over a total; a mean of the rows' own rates would count small rows as much as large ones.", say_rows(ctx)),
       write_up = sprintf("%s was %s (%s over all rows, as totals over totals).%s", capital(what), some_of(item, 10), say_number(n$estimate),
         write_rows(ctx)))
}

figure_rates <- function(ctx, res) {
  t <- res$tables[[1]]$data
  d <- data.frame(group = factor(t$group, t$group[order(t$rate)]), value = t$rate, low = t$ci_low, high = t$ci_high)
  title <- sprintf("%s per %s", capital(say_column(outcome_column(ctx))), rate_base(ctx, say_column(ctx$columns[[ctx$reading$predictors[1]]])))
  figure_interval_dots("rates", title, sprintf("Totals over totals with %s intervals.", say_level(ctx$conf_level)), d, title,
                       "plot_data <- tables$rates; plot_data$group <- levels(g)", "rate, reorder(group, rate)",
                       axis_label(ctx$columns[[ctx$reading$by[1]]]))
}

script_rate <- function(ctx, res) {
  by <- ctx$reading$by
  c(sprintf("x <- %s; base <- %s", script_value(outcome_name(ctx)), script_value(ctx$reading$predictors[1])),
    paste0("rate <- function(i) { n <- length(i); r <- sum(x[i]) / sum(base[i]); se <- sqrt(n / (n - 1) * sum((x[i] - r * base[i])^2)) / ",
        "abs(sum(base[i])); half <- qt(1 - (1 - conf_level) / 2, n - 1) * se"),
    if (!is.null(ctx$reading$extra$rate_per)) sprintf("  r <- %1$s * r; se <- %1$s * se; half <- %1$s * half",
        as_r_number(ctx$reading$extra$rate_per)),
    "  c(estimate = r, se = se, ci_low = r - half, ci_high = r + half, total = sum(x[i]), base = sum(base[i]), n = n) }",
    "numbers <- c(as.list(rate(seq_along(x))), conf_level = conf_level); tables <- list()",
    if (length(by)) c(sprintf("g <- %s", script_group(by)),
      paste0("g <- droplevels(g[, drop = TRUE]); parts <- lapply(split(seq_along(x), g), function(i) if (sum(base[i]) > 0) ",
          "suppressWarnings(rate(i))); g <- factor(g, names(parts)[lengths(parts) > 0]); parts <- do.call(rbind, parts)"),
      paste0("tables$rates <- data.frame(n = parts[, \"n\"], total = parts[, \"total\"], base = parts[, \"base\"], rate = parts[, ",
          "\"estimate\"], ci_low = parts[, \"ci_low\"], ci_high = parts[, \"ci_high\"])")))
}
