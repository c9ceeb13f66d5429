# Sentences for two groups compared, shared by the methods that do so.

#' @param ctx Context of the method.
#' @param res Its result.
#' @param how list(measure = "mean", values = two numbers, test = text of the test).
#' @noRd
say_two_groups <- function(ctx, res, how) {
  y <- say_column(ctx$columns[[ctx$reading$outcome[1]]])
  unit <- ctx$columns[[ctx$reading$outcome[1]]]$unit
  levels <- say_sides(ctx, res$levels)
  n <- res$number
  p <- n$p_value
  alpha <- 1 - ctx$conf_level
  clear <- isTRUE(p < alpha)
  values <- say_alike(how$values)
  higher <- if (how$values[1] >= how$values[2]) 1 else 2
  interval <- if (!is.null(n$ci_low) && is.finite(n$ci_low + n$ci_high)) sprintf(" (%s)",
      say_interval(n$ci_low, n$ci_high, ctx$conf_level)) else ""
  headline <- if (clear) {
    sprintf("%s is higher in %s than in %s: %s %s against %s, a difference of %s%s, %s.", capital(y), levels[higher],
            levels[3 - higher], how$measure,
            with_unit(values[higher], unit), with_unit(values[3 - higher], unit),
            with_unit(say_number(abs(n$estimate)), unit), signed_interval(n, higher, ctx), say_p(p))
  } else {
    sprintf("No clear difference in %s between %s and %s: %s %s and %s%s, %s.", y, levels[1], levels[2], how$measure,
            with_unit(values[1], unit), with_unit(values[2], unit),
            if (nzchar(interval)) sprintf("; difference %s%s", with_unit(say_number(n$estimate), unit),
                                          interval) else "", say_p(p))
  }
  list(headline = headline, details = c(how$details, say_rows(ctx)), write_up = how$write_up)
}

#' Levels as sentences call them: a bare yes or no with the column that it answers
#' @noRd
say_sides <- function(ctx, levels, by = c(ctx$reading$by, "")[1]) {
  bare <- c("yes", "no", "y", "n", "true", "false", "t", "f", "0", "1")
  col <- ctx$columns[[by]]
  if (is.null(col) || col$kind != "yes_no" || !all(tolower(levels) %in% bare)) levels else sprintf("%s = %s", say_column(col), levels)
}

#' A group of a table whose first columns are those that divide
#' @noRd
say_group <- function(ctx, table, i) {
  by <- ctx$reading$by
  paste(vapply(seq_along(by), function(k) say_sides(ctx, as.character(table[[k]][i]), by[k]), ""), collapse = " & ")
}

signed_interval <- function(n, higher, ctx) {
  if (is.null(n$ci_low) || !is.finite(n$ci_low + n$ci_high)) return("")
  limits <- if (higher == 1) c(n$ci_low, n$ci_high) else -c(n$ci_high, n$ci_low)
  sprintf(" (%s)", say_interval(limits[1], limits[2], ctx$conf_level))
}

#' How many rows the answer rests on
#' @noRd
say_rows <- function(ctx) {
  f <- ctx$frame
  text <- if (f$used == f$total) sprintf("All %s were used.", count_of(f$total, "row"))
    else sprintf("%s of %s were used.", say_number(f$used), count_of(f$total, "row"))
  if (f$after_filters < f$total) text <- sprintf("Based on %s: %s of %s meet the conditions.", count_of(f$used, "row"),
                                                 count_of(f$after_filters, "row"), say_number(f$total))
  if (f$left_out_missing > 0) text <- paste(text, sprintf("%s left out because a value is missing.",
                                                          capital(paste(count_of(f$left_out_missing, "row"),
                                                              plural(f$left_out_missing, "was", "were")))))
  text
}

#' The part of a write-up that says what was left out
#' @noRd
write_rows <- function(ctx) {
  f <- ctx$frame
  if (f$left_out_missing > 0) sprintf(" %s with missing values %s excluded.",
                                      capital(count_of(f$left_out_missing, "row")),
                                      plural(f$left_out_missing, "was", "were")) else ""
}

#' ", within strata of site", where the question asks for strata
#' @noRd
say_strata_of <- function(ctx) {
  by <- ctx$reading$extra$strata_by
  if (is.null(by)) "" else sprintf(", within strata of %s", say_column(ctx$columns[[by]]))
}
