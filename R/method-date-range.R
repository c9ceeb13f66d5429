#' @noRd
method_date_range <- function() {
  new_method(
    id = "date_range", name = "First and last date", tasks = "describe",
    fits = function(shape) if (shape$task == "describe" && shape$n_outcome == 1 && shape$n_by <= 1 &&
                               shape$outcome_kind %in% c("date", "datetime")) new_fit(90, "The question asks for a summary of a date."),
    compute = function(ctx) {
      day <- days_of(ctx$frame$data[[outcome_name(ctx)]])
      if (!length(day)) stop_data("No date is left to describe.", class = "no_rows")
      group <- if (length(ctx$reading$by)) group_of(ctx)
      table <- date_rows(day, group)
      if (!is.null(group)) names(table)[1] <- ctx$reading$by[1]
      result(list(new_number("estimate", "days from the first date to the last", as.numeric(max(day) - min(day))),
                  new_number("n", "dates", length(day))),
             list(new_table("dates", sprintf("First and last %s", outcome_name(ctx)), table)), first = min(day), last = max(day),
                 grouped = !is.null(group))
    },
    sentences = say_date_range,
    script = function(ctx, res) c(
      sprintf("day <- as.Date(%s)", script_column(outcome_name(ctx))),
      "one <- function(d) data.frame(n = length(d), different = length(unique(d)), days = as.numeric(max(d) - min(d)))",
      if (res$grouped) sprintf("g <- %s; tables <- list(dates = do.call(rbind, lapply(split(day, g, drop = TRUE), one)))",
          script_group(ctx$reading$by))
      else "tables <- list(dates = one(day))",
      "numbers <- list(estimate = as.numeric(max(day) - min(day)), n = length(day))"),
    next_steps = function(ctx, res) sprintf("Number of rows by month of %s", outcome_name(ctx)))
}

#' Days of dates and of stamps, which are told by their own clock
#' @noRd
days_of <- function(x) {
  day <- as.Date(x, tz = "UTC")
  day[!is.na(day)]
}

#' One row for all dates, or for each group
#' @noRd
date_rows <- function(day, group = NULL) {
  one <- function(d) data.frame(n = length(d), different = length(unique(d)), first = format(min(d)), last = format(max(d)),
                                middle = format(stats::median(d)), days = as.numeric(max(d) - min(d)), stringsAsFactors = FALSE)
  if (is.null(group)) return(one(day))
  parts <- split(day, group, drop = TRUE)
  cbind(data.frame(group = names(parts), stringsAsFactors = FALSE), do.call(rbind, lapply(unname(parts), one)))
}

say_date_range <- function(ctx, res) {
  t <- res$tables[[1]]$data
  name <- say_column(outcome_column(ctx))
  span <- count_of(as.numeric(res$last - res$first), "day")
  headline <- sprintf("%s runs from %s to %s (%s).", capital(name), format(res$first), format(res$last), span)
  each <- if (res$grouped) sprintf("%s: %s.", capital(some_of(ctx$reading$by, 2)), some_of(sprintf("%s from %s to %s", t[[1]], t$first, t$last), 8))
  list(headline = headline, details = c(each, sprintf("There are %s different days; half of the rows lie before %s.", say_number(length(unique(days_of(ctx$frame$data[[outcome_name(ctx)]])))),  # nolint: line_length_linter.
                                                      format(stats::median(days_of(ctx$frame$data[[outcome_name(ctx)]])))), say_rows(ctx)),
       write_up = sprintf("%s ran from %s to %s (n = %s).", capital(name), format(res$first), format(res$last), say_number(res$number$n)))
}
