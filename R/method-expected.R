# Expected values at several stated values of one predictor ("expected yield at a strength of 8, 10 and 12").

#' Expected values, one for each stated value; what else is stated or left open stands as in [stated_values()]
#'
#' @param m The design, @param at what is stated, as of [stated_values()].
#' @param expected Function of `at` giving list(value, se, ci_low, ci_high) and low and high where a single new row has limits of its own.
#' @section Shape: list(column, values, rows (a design row for each, without its intercept), table), or NULL where one value is stated.
#' @noRd
expected_at_several <- function(ctx, m, at, expected, robust = FALSE) {
  wish <- ctx$reading$extra$at_several
  if (is.null(wish) || !wish$column %in% names(at$values)) return(NULL)
  own <- which(m$source == wish$column) - 1
  rows <- lapply(wish$values, function(v) replace(at$row, own, v))
  found <- lapply(rows, function(row) expected(list(row = row)))
  column <- function(key) vapply(found, function(f) f[[key]], 1)
  table <- data.frame(wish$values, column("value"), column("se"), column("ci_low"), column("ci_high"))
  names(table) <- c("at", "estimate", "se", "ci_low", "ci_high")
  if (!is.null(found[[1]]$low)) { table$prediction_low <- column("low"); table$prediction_high <- column("high") }
  list(column = wish$column, values = wish$values, rows = rows,
       table = new_table("expected", sprintf("Expected %s at values of %s", outcome_name(ctx), wish$column), table))
}

say_expected_several <- function(ctx, res, y) {
  t <- res$several$table$data
  chance <- identical(res$family, "binomial")
  shown <- if (chance) say_percent else function(v) with_unit(say_number(v), outcome_column(ctx)$unit)
  limits <- if (chance) say_percent else say_number
  what <- if (chance) sprintf("the chance of %s = %s", say_column(outcome_column(ctx)), res$event) else say_column(outcome_column(ctx))
  x <- say_column(ctx$columns[[res$several$column]])
  others <- setdiff(names(res$at$values), res$several$column)
  rest <- if (length(others)) sprintf(", with %s", say_stated(ctx, list(values = res$at$values[others], open = res$at$open))) else ""
  sprintf("%s is expected at %s%s.%s", capital(what), some_of(sprintf("%s (%s) where %s is %s", vapply(t$estimate, shown, ""),
          mapply(say_interval, t$ci_low, t$ci_high, MoreArgs = list(conf_level = ctx$conf_level, fmt = limits)), x, format_plain(t$at)), 8), rest,
          say_beyond_several(res))
}

say_beyond_several <- function(res) {
  seen <- range(res$columns[[res$several$column]])
  beyond <- res$several$values[res$several$values < seen[1] | res$several$values > seen[2]]
  if (length(beyond)) sprintf(" %s beyond the values in the data.", sprintf(if (length(beyond) == 1) "%s lies" else "%s lie",
      some_of(format_plain(beyond))))
  else ""
}

#' Script lines for the table of expected values
#' @param family NULL for least squares.
#' @noRd
script_expected_several <- function(res, family = NULL) {
  if (is.null(res$several)) return(NULL)
  rows <- vapply(res$several$rows, function(r) sprintf("c(1, %s)", paste(vapply(r, as_r_number, ""), collapse = ", ")), "")
  c("# expected values at each of the stated values", sprintf("d <- rbind(%s)", paste(rows, collapse = ", ")),
    sprintf("value <- drop(d %%*%% coef(fit)); mean_se <- sqrt(rowSums((d %%*%% %s) * d)); at <- c(%s)",
        if (isTRUE(res$robust)) "vc" else "vcov(fit)",
            paste(vapply(res$several$values, as_r_number, ""), collapse = ", ")),
    if (is.null(family)) c("t <- qt(1 - (1 - conf_level) / 2, fit$df.residual); row_se <- sqrt(mean_se^2 + s$sigma^2)",
      paste0("tables$expected <- data.frame(at = at, estimate = value, se = mean_se, ci_low = value - t * mean_se, ci_high = value + t * mean_se, ",
             "prediction_low = value - t * row_se, prediction_high = value + t * row_se)"))
    else c(sprintf("back <- %s; z <- qnorm(1 - (1 - conf_level) / 2); mu <- back(value); slope <- %s", if (family == "binomial") "plogis" else "exp",
                   if (family == "binomial") "mu * (1 - mu)" else "mu"),
      "tables$expected <- data.frame(at = at, estimate = mu, se = mean_se * slope, ci_low = back(value - z * mean_se), ci_high = back(value + z * mean_se))"))  # nolint: line_length_linter.
}
