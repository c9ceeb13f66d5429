#' @noRd
method_descriptives <- function() {
  new_method(
    id = "descriptives", weights = TRUE, name = "Descriptive statistics", tasks = c("describe", "distribution"),
    fits = function(shape) if (shape$task %in% c("describe", "distribution", "advise", "figure") &&
                               shape$n_outcome >= 1 && shape$n_by == 0 &&
                               length(shape$predictor_kinds) == 0) new_fit(80,
                                   "The question asks for a summary of columns."),
    compute = compute_descriptives,
    checks = function(ctx, res) if (length(res$columns) == 1 &&
                                    !is.null(res$values)) list(check_far_values(list(res$values),
                                        res$columns)) else list(),
    figure = function(ctx, res) if (!is.null(res$values)) figure_histogram(ctx, res$columns[1]),
    sentences = say_descriptives, script = script_descriptives,
    references = c(paste0("Hyndman, R. J., & Fan, Y. (1996). Sample quantiles in statistical packages. The American ",
                          "Statistician, 50, 361-365."),
                   paste0("Joanes, D. N., & Gill, C. A. (1998). Comparing measures of sample skewness and kurtosis. ",
                          "The Statistician, 47, 183-189.")),
    next_steps = function(ctx, res) c(sprintf("Show the distribution of %s", res$columns[1])))
}

compute_descriptives <- function(ctx) {
  names <- ctx$reading$outcome
  one <- length(names) == 1
  table <- describe_rows(lapply(names, function(name) described_values(ctx, name)), names)
  if (!one) table <- with_asked_statistic(ctx, table)
  values <- if (one) { v <- described_values(ctx, names); v[!is.na(v)] }
  numbers <- if (one) one_description(ctx, values, table) else list(new_number("n", "rows", ctx$frame$after_filters))
  result(numbers, tables = list(new_table("describe", "Summary of each column", table)), columns = names,
         values = values)
}

#' The describe table: one row a column
#' @noRd
describe_rows <- function(values, names) {
  table <- do.call(rbind, lapply(values, stat_group_summary))
  keep <- c("n", "missing", "mean", "sd", "se", "median", "q1", "q3", "min", "max", "skewness", "kurtosis")
  cbind(column = names, table[keep], stringsAsFactors = FALSE)
}

#' The statistic that was asked of several columns, where the table does not hold it anyway
#' @noRd
with_asked_statistic <- function(ctx, table) {
  statistic <- asked_beyond_table(ctx)
  if (is.null(statistic)) return(table)
  table[[statistic]] <- vapply(table$column, function(name) {
    x <- described_values(ctx, name)
    as.numeric(describe_one(x[!is.na(x)], statistic, ctx$conf_level)$estimate)
  }, 1)
  table[c("column", "n", "missing", statistic, setdiff(names(table), c("column", "n", "missing", statistic)))]
}

#' @noRd
asked_beyond_table <- function(ctx) {
  statistic <- ctx$reading$statistic
  if (isTRUE(statistic %in% c("sum", "variance", "range", "iqr")) || isTRUE(statistic %in% names(further_statistics()))) statistic
}

#' Several columns are described each on its own rows; one column on the rows used
#' @noRd
described_values <- function(ctx, name) {
  free <- if (length(ctx$reading$outcome) == 1) name else ctx$reading$outcome
  as_plain_number(ctx$frame_without(free)$data[[name]])
}

#' The statistic asked for, with an interval where there is one
#' @noRd
one_description <- function(ctx, x, table) {
  statistic <- ctx$reading$statistic %||% "mean"
  if (!length(x)) stop_data("No value is left to describe.", class = "no_rows")
  weighted <- statistic == "weighted_mean" && !is.null(ctx$weight_values)
  estimate <- if (weighted) stat_weighted_mean(outcome_values(ctx), ctx$weight_values,
                                               ctx$conf_level) else describe_one(x, statistic, ctx$conf_level)
  compact(list(new_number("estimate", statistic_label(statistic), estimate$estimate),
               if (!is.null(estimate$se)) new_number("se", "standard error", estimate$se),
               if (!is.null(estimate$ci_low)) new_number("ci_low", "lower limit", estimate$ci_low),
               if (!is.null(estimate$ci_high)) new_number("ci_high", "upper limit", estimate$ci_high),
               if (!is.null(estimate$ci_low)) new_number("conf_level", "confidence level", ctx$conf_level),
               new_number("n", "values", length(x)))) |> c(beside_numbers(ctx, x, statistic))
}

#' Statistics named beside the first: "skewness and kurtosis of X"
#' @noRd
beside_numbers <- function(ctx, x, statistic) {
  known <- c("mean", "median", "sum", "sd", "variance", "min", "max", "range", "iqr", "q1", "q3", "skewness", "kurtosis", "se",
             names(further_statistics()))
  if (statistic == "weighted_mean") return(NULL)
  lapply(intersect(setdiff(unlist(ctx$reading$extra$statistics), statistic), known), function(s)
    new_number(s, statistic_label(s), describe_one(x, s, ctx$conf_level)$estimate))
}

unitless_statistics <- function() c("variation", "variance", "skewness", "kurtosis")

#' What a statistic is called
#' @noRd
statistic_label <- function(statistic) {
  label <- c(mean = "mean", median = "median", sum = "total", sd = "standard deviation", min = "smallest value",
             max = "largest value", weighted_mean = "weighted mean", kurtosis = "excess kurtosis")[statistic]
  if (is.na(label)) label <- further_statistics()[[statistic]]$label %||% gsub("_", " ", statistic)
  unname(label)
}

describe_one <- function(x, statistic, conf_level) {
  s <- stat_group_summary(x)
  if (statistic == "mean") { i <- stat_mean_interval(s$mean, s$sd, s$n, conf_level)
    return(list(estimate = s$mean, se = s$se, ci_low = i[["low"]], ci_high = i[["high"]])) }
  if (statistic == "median") { i <- stat_median_interval(x, conf_level)
    return(list(estimate = s$median, ci_low = i[["low"]], ci_high = i[["high"]])) }
  further <- further_statistics()[[statistic]]
  if (!is.null(further)) return(list(estimate = further$compute(x)))
  value <- switch(statistic, sum = s$sum, sd = s$sd, variance = s$sd^2, min = s$min, max = s$max, range = s$max - s$min,
                  iqr = s$q3 - s$q1, q1 = s$q1, q3 = s$q3, skewness = s$skewness, kurtosis = s$kurtosis, se = s$se,
                  count = s$n, percent = NA_real_, mode = as.numeric(names(which.max(table(x)))), s$mean)
  list(estimate = value)
}

say_descriptives <- function(ctx, res) {
  t <- res$tables[[1]]$data
  if (nrow(t) > 1) {
    headline <- say_statistic_of_columns(ctx, t) %||%
      sprintf("Summary of %s on %s.", count_of(nrow(t), "column"), count_of(ctx$frame$after_filters, "row"))
    return(list(headline = headline, details = character(),
                write_up = paste(sprintf("%s: M = %s, SD = %s, Mdn = %s, n = %s", t$column, say_number(t$mean),
                                         say_number(t$sd), say_number(t$median), say_number(t$n)), collapse = "; ") |>
                                         paste0(".")))
  }
  col <- outcome_column(ctx)
  n <- res$number
  label <- res$numbers[[1]]$label
  name <- say_column(col)
  # (a square has another unit, a ratio none)
  if (isTRUE(ctx$reading$statistic %in% unitless_statistics())) col["unit"] <- list(NULL)
  interval <- if (is.finite(n$ci_low %||% NA) && is.finite(n$ci_high %||% NA)) sprintf(" (%s)",
      say_interval(n$ci_low, n$ci_high, ctx$conf_level)) else ""
  value <- with_unit(say_estimate(n$estimate, n$ci_low, n$ci_high), col$unit)
  headline <- sprintf("The %s of %s is %s%s, from %s.", label, name, value, interval, count_of(n$n, "value"))
  beside <- Filter(function(m) !m$id %in% c("estimate", "se", "ci_low", "ci_high", "conf_level", "n"), res$numbers)
  if (length(beside)) headline <- sprintf("The %s of %s is %s%s; %s (from %s).", label, name, value, interval,
    some_of(vapply(beside, function(m) sprintf("the %s %s", m$label, with_unit(say_number(m$value), if (!m$id %in% unitless_statistics()) outcome_column(ctx)$unit)), ""), 6), count_of(n$n, "value"))  # nolint: line_length_linter.
  at <- c("mean", "median", "q1", "q3", "min", "max")
  near <- places_of_near(unlist(t[at]))
  said <- lapply(t[at], say_number, digits = if (!is.na(near)) near)
  details <- c(sprintf(paste0("Half of the values lie between %s and %s (median %s); all lie between %s and %s; ",
                              "standard deviation %s."), said$q1, said$q3, said$median, said$min, with_unit(said$max, col$unit), say_number(t$sd)),
               say_rows(ctx))
  list(headline = headline, details = details,
       write_up = sprintf("%s: M = %s, SD = %s, Mdn = %s, range %s to %s (n = %s).", capital(say_column(col)), said$mean, say_number(t$sd),
                          said$median, said$min, said$max, say_number(t$n)))
}

#' "The total of votes 2019 is 114,859, of votes 2023 122,850."
#' @section Shape: A sentence, or NULL where no statistic was asked for or the columns are many.
#' @noRd
say_statistic_of_columns <- function(ctx, t) {
  statistic <- ctx$reading$statistic
  if (is.null(statistic) || is.null(t[[statistic]]) || nrow(t) > 6) return(NULL)
  said <- mapply(function(name, value) {
    col <- ctx$columns[[name]]
    if (statistic %in% unitless_statistics()) col["unit"] <- list(NULL)
    c(say_column(col), with_unit(say_number(value), col$unit))
  }, t$column, t[[statistic]])
  label <- statistic_label(statistic)
  paste0(sprintf("The %s of %s is %s", label, said[1, 1], said[2, 1]), paste(sprintf(", of %s %s", said[1, -1], said[2, -1]), collapse = ""), ".")
}

script_describe_function <- function() {
  c("describe <- function(all) {",
    paste0("  v <- all[!is.na(all)]; n <- length(v); m <- mean(v); s <- sd(v); g1 <- mean((v - m)^3) / mean((v - ",
           "m)^2)^1.5; g2 <- mean((v - m)^4) / mean((v - m)^2)^2 - 3"),
    paste0("  data.frame(n = n, missing = sum(is.na(all)), mean = m, sd = s, se = s / sqrt(n), median = median(v), q1 ",
           "= quantile(v, 0.25), q3 = quantile(v, 0.75), min = min(v), max = max(v),"),
    paste0("    skewness = if (n > 2 && s > 0) g1 * sqrt(n * (n - 1)) / (n - 2) else NA_real_, kurtosis = if (n > 3 ",
           "&& s > 0) (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * g2 + 6) else NA_real_)"), "}")
}

script_descriptives <- function(ctx, res) {
  values <- vapply(res$columns, function(name) gsub("rows[[", "kept[[", script_value(name), fixed = TRUE), "")
  body <- c("tables <- list(); numbers <- list()", script_describe_function(),
            sprintf("columns <- list(%s)", paste(values, collapse = ",\n  ")),
            "tables$describe <- do.call(rbind, lapply(columns, describe))")
  if (length(res$columns) > 1) {
    beyond <- asked_beyond_table(ctx)
    asked <- if (!is.null(beyond)) c(sprintf("tables$describe[[%s]] <- vapply(columns, function(v) {", as_r_string(beyond)),
                                     "  v <- v[!is.na(v)]; n <- length(v)", paste0("  ", script_one_statistic(ctx, res)),
                                     "  as.numeric(numbers$estimate)", "}, 1)")
    return(c(body, asked, "numbers$n <- nrow(kept)"))
  }
  c(body, "v <- columns[[1]]; v <- v[!is.na(v)]; n <- length(v)", script_one_statistic(ctx, res), script_beside_numbers(res))
}

#' Lines for the statistics named beside the first
#' @noRd
script_beside_numbers <- function(res) {
  plain <- c(mean = "mean(v)", median = "median(v)", sum = "sum(v)", sd = "sd(v)", min = "min(v)", max = "max(v)", q1 = "quantile(v, 0.25, names = FALSE)",  # nolint: line_length_linter.
             q3 = "quantile(v, 0.75, names = FALSE)", se = "sd(v) / sqrt(n)")
  ids <- setdiff(names(res$number), c("estimate", "ci_low", "ci_high", "conf_level", "n", if (!is.null(res$number$ci_low)) "se"))
  unlist(lapply(ids, function(id) sprintf("numbers[[\"%s\"]] <- %s", id, if (id %in% names(plain)) plain[[id]] else further_statistics()[[id]]$script)))  # nolint: line_length_linter.
}

script_one_statistic <- function(ctx, res) {
  statistic <- ctx$reading$statistic %||% "mean"
  if (statistic == "weighted_mean" && !is.null(ctx$weight_values)) {
    w <- sprintf("rows[[%s]]", as_r_string(ctx$weight_name))
    return(c(sprintf("w <- %s; value <- %s", w, script_value(res$columns[1])),
             "ok <- !is.na(w) & w > 0; w <- w[ok]; value <- value[ok]; m <- weighted.mean(value, w); k <- length(value)",
             "se <- sqrt(k / (k - 1) * sum((w * (value - m) / sum(w))^2)); half <- qt(1 - (1 - conf_level) / 2, k - 1) * se",
             "numbers <- list(estimate = m, se = se, ci_low = m - half, ci_high = m + half, conf_level = conf_level, n = n)"))
  }
  if (statistic == "mean") {
    return(c("limits <- if (n < 2) c(NA, NA) else if (sd(v) == 0) rep(mean(v), 2) else t.test(v, conf.level = conf_level)$conf.int",
             "numbers <- list(estimate = mean(v), se = sd(v) / sqrt(n), ci_low = limits[1], ci_high = limits[2], conf_level = conf_level, n = n)"))
  }
  if (statistic == "median") return(c("k <- qbinom((1 - conf_level) / 2, n, 0.5); s <- sort(v)",
                                      "limits <- if (n < 6 || k < 1) c(NA, NA) else c(s[k], s[n - k + 1])",
                                      paste0("numbers <- list(estimate = median(v), ci_low = limits[1], ci_high = ",
                                             "limits[2], conf_level = conf_level, n = n)")))
  further <- further_statistics()[[statistic]]
  if (!is.null(further)) return(sprintf("numbers <- list(estimate = %s, n = n)", further$script))
  value <- switch(statistic, sum = "sum(v)", sd = "sd(v)", variance = "var(v)", min = "min(v)", max = "max(v)",
                  range = "diff(range(v))", iqr = "IQR(v)", q1 = "quantile(v, 0.25)", q3 = "quantile(v, 0.75)",
                  skewness = "tables$describe$skewness", kurtosis = "tables$describe$kurtosis", se = "sd(v) / sqrt(n)", count = "n",
                  mode = "as.numeric(names(which.max(table(v))))", percent = "NA", "mean(v)")
  sprintf("numbers <- list(estimate = %s, n = n)", value)
}
