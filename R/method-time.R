# Over time: a table of periods, a moving mean, a straight-line trend.

#' @noRd
method_time_table <- function() {
  new_method(
    id = "time_table", name = "Summary by period", tasks = c("trend", "describe"),
    fits = function(shape) if (!identical(shape$method_asked, "change_points") && shape$task %in% c("trend", "figure") && isTRUE(shape$timed) &&
      shape$n_outcome <= 1 &&
                               is.null(shape$window) && (!is.null(shape$every) || shape$n_outcome == 0 || shape$n_by > 0 ||
                                                         !shape$trend_test)) new_fit(85,
                                                             "The question asks how values develop from period to period."),
    compute = compute_time_table, figure = function(ctx, res) figure_periods(ctx, res), sentences = say_time_table,
    script = script_time_table,
    next_steps = function(ctx, res) if (length(ctx$reading$outcome)) sprintf("Is there a linear trend in %s?",
        say_column(outcome_column(ctx))) else character())
}

#' Days of the rows used
#' @noRd
time_values <- function(ctx) {
  t <- ctx$frame$data[[ctx$reading$time$column]]
  if (inherits(t, "POSIXct")) return(as.Date(t, tz = "UTC"))
  t
}

#' Period to summarise by: asked for, else so that there are at most about forty
#' @noRd
period_of <- function(ctx) {
  t <- time_values(ctx)
  if (!inherits(t, "Date")) return("value")
  asked <- ctx$reading$time$every
  if (identical(asked, "hour") && !inherits(ctx$frame$data[[ctx$reading$time$column]], "POSIXct")) {
    stop_data(sprintf("%s holds days without a time of day.", quoted(ctx$reading$time$column)), class = "unfit_data")
  }
  if (!is.null(asked)) return(asked)
  days <- length(unique(t)); span <- as.numeric(diff(range(t)))
  if (days <= 40) "day" else if (span / 7 <= 60) "week" else if (span / 30 <= 60) "month" else "year"
}

#' Values to be summarised by period: of a yes/no column 1 for its yes, so that their mean is a share
#' @noRd
period_values <- function(ctx, name = outcome_name(ctx)) {
  col <- ctx$columns[[name]]
  if (col$kind != "yes_no") return(outcome_values(ctx, name))
  as.numeric(as.character(ctx$frame$data[[name]]) == last_of(col$levels))
}

#' The same in a script
#' @noRd
script_period_value <- function(ctx, name = outcome_name(ctx)) {
  col <- ctx$columns[[name]]
  if (col$kind == "yes_no") script_is_level(name, last_of(col$levels)) else script_value(name)
}

#' The period of every row, and all periods in order
#' @section Shape: list(key (one a row), keys, label (one a period)).
#' @noRd
period_keys <- function(ctx, t, every) {
  p <- if (every == "hour") stat_hours(ctx$frame$data[[ctx$reading$time$column]]) else if (every == "value") list(key = format_plain(t),
      label = format_plain(t)) else stat_periods(t, every)
  keys <- if (every == "value") format_plain(sort(unique(t))) else sort_text(unique(p$key))
  list(key = p$key, keys = keys, label = p$label[match(keys, p$key)])
}

compute_time_table <- function(ctx) {
  every <- period_of(ctx)
  t <- time_values(ctx)
  p <- period_keys(ctx, t, every)
  keys <- p$keys; label <- p$label
  code <- match(p$key, keys)
  if (length(ctx$reading$by)) return(grouped_time_table(ctx, code, keys, label, every))
  if (!length(ctx$reading$outcome)) {
    table <- data.frame(period = label, n = tabulate(code, length(keys)), stringsAsFactors = FALSE)
    cut <- cut_periods(t, every)
    place <- period_places(t, code, length(keys), every)
    # (the count of a period that is not whole would pass for a fall or a rise)
    grown <- if (isTRUE(ctx$reading$extra$growth) && !length(cut)) growth_by_period(table$n, place)
    if (!is.null(grown)) table <- cbind(table, grown$table)
    average <- if (isTRUE(ctx$reading$extra$average_count)) average_of_periods(length(t), place, "rows a period, on average")
    table <- with_running(ctx, table, "n")
    first <- first_period(ctx, table, running_or(table, "n"), whole_periods(list(cut = cut, shown = "n"), nrow(table)))
    return(result(c(grown$numbers, average, first$number, list(new_number("n", "rows", length(t)), new_number("periods", "periods", length(keys)))),
                  tables = list(new_table("time", sprintf("Rows by %s", every), table)), every = every, first = keys,
                  shown = running_or(table, "n"), cut = cut, grown = grown, ranked = first))
  }
  s <- stat_group_summary(period_values(ctx), code, length(keys))
  statistic <- ctx$reading$statistic %||% "mean"
  if (statistic == "count") statistic <- "n"
  columns <- unique(c("n", "mean", "sd", "se", "median", "min", "max", if (statistic == "sum") "sum"))
  table <- cbind(period = label, s[columns], stringsAsFactors = FALSE)
  shown <- if (statistic %in% names(table)) statistic else "mean"
  cut <- cut_periods(t, every)
  # the total of a period that is not whole would pass for a fall or a rise
  partial <- shown == "sum" && length(cut) > 0
  grown <- if (isTRUE(ctx$reading$extra$growth) && !partial) growth_by_period(table[[shown]], period_places(t, code, length(keys), every))
  if (!is.null(grown)) table <- cbind(table, grown$table)
  # (a period that the data cut off would pull the average down)
  kept <- whole_periods(list(cut = cut, shown = shown), length(keys))
  average <- if (isTRUE(ctx$reading$extra$average_total) && shown == "sum") {
    average_of_periods(sum(s$sum[kept]), period_places(t, code, length(keys), every)[kept], "total a period, on average")
  }
  table <- with_running(ctx, table, shown)
  shown <- running_or(table, shown)
  first <- first_period(ctx, table, shown, kept)
  result(c(grown$numbers, average, first$number, list(new_number("n", "rows used", sum(s$n)), new_number("periods", "periods", length(keys)))),
         grown = grown,
         tables = list(new_table("time", sprintf("%s by %s", outcome_name(ctx), every), table)),
         every = every, first = keys, shown = shown, cut = cut, kept = kept, ranked = first)
}

#' The period that comes first where periods are ranked, of those that can be set beside each other
#' @param kept As of `whole_periods()`.
#' @section Shape: list(number (list of one number), script (the line that finds it)); NULL where nothing is ranked.
#' @noRd
first_period <- function(ctx, table, shown, kept) {
  order <- ctx$reading$extra$period_order
  if (is.null(order) || nrow(table) < 2 || shown == "running") return(NULL)
  kept <- which(kept)
  v <- table[[shown]][kept]
  at <- kept[if (order == "lowest") which.min(v) else which.max(v)]
  rows <- if (length(kept) < nrow(table)) sprintf("[c(%s)]", toString(kept)) else ""
  list(number = list(new_number("estimate", sprintf("%s in %s", if (shown == "n") "rows" else statistic_name(shown), table$period[at]),
                                table[[shown]][at])),
       script = sprintf("numbers$estimate <- %s(tables$time$%s%s)", if (order == "lowest") "min" else "max", shown, rows))
}

#' The table with what has come together by the end of each period, where a running total is asked for
#' @noRd
with_running <- function(ctx, table, shown) {
  if (isTRUE(ctx$reading$extra$running) && shown %in% c("sum", "n")) table$running <- cumsum(table[[shown]])
  table
}

running_or <- function(table, shown) if (is.null(table$running)) shown else "running"

#' What a period has of rows or of a total, on average over all periods from the first to the last, also those without a row
#' @param amount All rows, or the total over all of them.
#' @noRd
average_of_periods <- function(amount, place, label) {
  if (is.null(place)) return(NULL)
  all <- place[length(place)] - place[1] + 1
  list(new_number("estimate", label, amount / all), new_number("all_periods", "periods from the first to the last", all),
       new_number("empty_periods", "of these, periods without a row", all - length(place)))
}

#' "On average there are 2.0 rows a day, over the 118 days from the first row to the last (18 of them without a row)."
#' @noRd
say_average_of_periods <- function(ctx, res) {
  n <- res$number
  if (is.null(n$all_periods)) return(NULL)
  amount <- if (length(ctx$reading$outcome)) sprintf("the total of %s is %s", say_column(outcome_column(ctx)), with_unit(say_number(n$estimate), outcome_column(ctx)$unit))  # nolint: line_length_linter.
    else sprintf("there are %s rows", say_number(n$estimate))
  whole <- length(ctx$reading$outcome) > 0 && !all(res$kept)
  span <- if (whole) sprintf("%s that %s whole", count_of(n$all_periods, res$every), plural(n$all_periods, "is", "are"))
          else sprintf("%s from the first row to the last", count_of(n$all_periods, res$every))
  sprintf("On average %s a %s, over the %s%s.", amount, res$every, span,
          if (n$empty_periods > 0) sprintf(" (%s of them without a row)", say_number(n$empty_periods)) else "")
}

#' Where each period stands in the row of all periods, so that gaps between them are seen; NULL for periods that come back
#' @noRd
period_places <- function(t, code, k, every) {
  if (!every %in% c("day", "week", "month", "quarter", "year")) return(NULL)
  day <- as.numeric(tapply(as.numeric(t), factor(code, seq_len(k)), min))
  date <- as.POSIXlt(as.Date(day, origin = "1970-01-01"))
  months <- 12 * date$year + date$mon
  switch(every, day = day, week = floor((day + 3) / 7), month = months, quarter = floor(months / 3), year = date$year)
}

#' Change from each period to the next, and the average growth a period
#'
#' A change is told only where the periods follow each other. Average growth is compound: the rate at which the first value would have become
#' the last.
#' @section Shape: list(table = data frame change, percent_change, numbers), or NULL where there is nothing to compare.
#' @noRd
growth_by_period <- function(v, place) {
  n <- length(v)
  if (is.null(place) || n < 2) return(NULL)
  next_to <- c(FALSE, diff(place) == 1)
  before <- c(NA, v[-n])
  change <- ifelse(next_to, v - before, NA)
  table <- data.frame(change = change, percent_change = ifelse(next_to & before > 0, 100 * change / before, NA))
  steps <- place[n] - place[1]
  numbers <- list(new_number("estimate", "change from the first period to the last", v[n] - v[1]),
                  if (all(v > 0)) new_number("relative_change", "that change as a share of the first", v[n] / v[1] - 1),
                  if (all(v > 0)) new_number("growth", "average growth a period (compound)", (v[n] / v[1])^(1 / steps) - 1))
  list(table = table, numbers = compact(numbers), steps = steps)
}

#' Is the first or the last period cut off by the ends of the data?
#'
#' A period is cut where more than one and a half of the usual gaps between dates are missing at its end.
#' @section Shape: list(first, last) of dates, NULL where the period is whole; NULL for periods that are no calendar periods.
#' @noRd
cut_periods <- function(t, every) {
  if (!every %in% c("week", "month", "quarter", "year") || !inherits(t, c("Date", "POSIXct"))) return(NULL)
  days <- sort(unique(as.Date(t, tz = "UTC")))
  if (length(days) < 3) return(NULL)
  gap <- max(1, stats::median(as.numeric(diff(days))))
  begin_of <- function(day) if (every == "quarter") calendar_period(day, "month", 3)[1] else calendar_period(day, every, 1)[1]
  begins <- begin_of(days[1])
  last <- begin_of(days[length(days)])
  step <- c(week = "7 days", month = "1 month", quarter = "3 months", year = "1 year")[[every]]
  ends <- seq(last, by = step, length.out = 2)[2] - 1
  compact(list(first = if (as.numeric(days[1] - begins) > 1.5 * gap) days[1],
      last = if (as.numeric(ends - days[length(days)]) > 1.5 * gap) days[length(days)]))
}

#' What to tell of periods that are not whole
#' @noRd
say_cut_periods <- function(res) {
  cut <- res$cut
  if (!length(cut)) return(NULL)
  which <- c(if (!is.null(cut$first)) "first", if (!is.null(cut$last)) "last")
  sprintf("The %s %s %s not whole: the data %s.", paste(which, collapse = " and the "), res$every, plural(length(which), "is", "are"),
          cut_ends(cut))
}

#' Where the data begin and end inside a period
#' @noRd
cut_ends <- function(cut) {
  paste(c(if (!is.null(cut$first)) sprintf("begin on %s", format(cut$first)), if (!is.null(cut$last)) sprintf("end on %s", format(cut$last))),
        collapse = " and ")
}

#' Periods within each group
#' @noRd
grouped_time_table <- function(ctx, code, keys, label, every) {
  g <- group_of(ctx)
  if (nlevels(g) > 30) stop_data(sprintf("%s has %d groups, too many for one table of periods.", quoted(ctx$reading$by[1]), nlevels(g)),
    class = "group_count")
  cell <- (as.integer(g) - 1L) * length(keys) + code
  filled <- sort(unique(cell))
  where <- match(cell, filled)
  base <- data.frame(group = levels(g)[(filled - 1) %/% length(keys) + 1], period = label[(filled - 1) %% length(keys) + 1], stringsAsFactors = FALSE)
  numbers <- list(new_number("n", "rows used", length(code)), new_number("periods", "periods", length(keys)), new_number("groups", "groups",
    nlevels(g)))
  if (!length(ctx$reading$outcome)) {
    return(result(numbers, list(new_table("time", sprintf("Rows by %s and %s", every, ctx$reading$by[1]), cbind(base, n = tabulate(where,
      length(filled))))), every = every, first = keys, shown = "n", label = label))
  }
  s <- stat_group_summary(period_values(ctx), where, length(filled))
  statistic <- sub("^count$", "n", ctx$reading$statistic %||% "mean")
  columns <- unique(c("n", "mean", "sd", "se", "median", "min", "max", if (statistic == "sum") "sum"))
  table <- cbind(base, s[columns], stringsAsFactors = FALSE)
  result(numbers, list(new_table("time", sprintf("%s by %s and %s", outcome_name(ctx), every, paste(ctx$reading$by, collapse = " and ")), table)),
    every = every, first = keys,
         shown = if (statistic %in% names(table)) statistic else "mean", label = label, cut = cut_periods(time_values(ctx), every))
}

say_grouped_time <- function(ctx, res) {
  t <- res$tables[[1]]$data
  words <- period_words(ctx, res)
  what <- words$what
  value <- words$value
  item <- vapply(unique(t$group), function(g) { own <- t[t$group == g, ]; v <- own[[res$shown]]
    if (length(v) == 1) return(sprintf("in %s at %s (%s alone)", g, value(v), own$period))
    sprintf("in %s from %s (%s) to %s (%s)", g, value(v[1]), own$period[1], value(v[length(v)]), own$period[nrow(own)]) }, "")
  if (length(item) > 6) item <- NULL
  high <- which.max(t[[res$shown]])
  low <- which.min(t[[res$shown]])
  by <- say_column(ctx$columns[[ctx$reading$by[1]]])
  extreme <- function(k) sprintf("%s, %s (%s)", t$group[k], t$period[k], value(t[[res$shown]][k]))
  every <- say_step(ctx, res)
  text <- if (length(item)) sprintf("%s by %s and %s runs %s; highest of all in %s.", capital(what), every, by, some_of(item, 6), extreme(high))
    else sprintf("%s is tabled by %s for the %d groups of %s: highest of all in %s, lowest in %s.", capital(what), every,
                 length(unique(t$group)), by, extreme(high), extreme(low))
  list(headline = text, details = c(say_cut_periods(res), say_rows(ctx)), write_up = text)
}

say_time_table <- function(ctx, res) {
  if (length(ctx$reading$by)) return(say_grouped_time(ctx, res))
  t <- res$tables[[1]]$data
  whole <- whole_periods(res, nrow(t))
  left <- if (!all(whole)) say_left_periods(res, t$period[!whole])
  if (!all(whole)) t <- t[whole, , drop = FALSE]
  v <- t[[res$shown]]
  words <- period_words(ctx, res)
  what <- words$what
  if (identical(res$shown, "running")) return(say_running(ctx, res, words))
  # (what is not whole would pass for a fall or a rise)
  growth <- if (is.null(left) && length(res$cut) && res$shown %in% c("sum", "n")) "" else say_growth(ctx, v)
  text <- if (nrow(t) == 1 && is.null(left)) sprintf("There is one period only: %s is %s.", what, words$value(v))
    else if (nrow(t) == 1) sprintf("In %s, the only whole %s, %s is %s.", t$period, res$every, what, words$value(v))
    else sprintf("From %s to %s %s runs from %s to %s%s; highest in %s (%s), lowest in %s (%s).", t$period[1],
                 t$period[nrow(t)], what, words$value(v[1]), words$value(v[nrow(t)]), growth,
                 t$period[which.max(v)], words$value(max(v)), t$period[which.min(v)], words$value(min(v)))
  order <- ctx$reading$extra$period_order
  if (!is.null(order) && nrow(t) > 1) {
    by <- order(if (order == "lowest") v else -v)
    text <- sprintf("%s is %s in %s (%s), followed by %s.", capital(what), order, t$period[by[1]], words$value(v[by[1]]),
                    some_of(utils::head(sprintf("%s (%s)", t$period[by[-1]], vapply(v[by[-1]], words$value, "")), 3), 3))
  }
  beyond <- say_groups_beyond(ctx$reading$extra$group_bound, t$period, v, words$value, if (res$every == "value") "group" else res$every)
  text <- paste(c(beyond, say_average_of_periods(ctx, res), text, left), collapse = " ")
  # (where rows are counted a small number is the answer itself)
  thin <- t$n < 5 & !identical(res$shown, "n")
  list(headline = text, details = c(say_average_growth(ctx, res, t), if (is.null(left)) say_cut_periods(res), if (any(thin)) sprintf("Fewer than five rows stand behind %s.",  # nolint: line_length_linter.
                                                           some_of(t$period[thin], 4)), say_rows(ctx)), write_up = text)
}

#' Which periods of a table can be set beside each other: of totals and numbers of rows only whole ones
#' @noRd
whole_periods <- function(res, n) {
  keep <- rep(TRUE, n)
  if (!res$shown %in% c("sum", "n") || n < 2) return(keep)
  if (!is.null(res$cut$first)) keep[1] <- FALSE
  if (!is.null(res$cut$last)) keep[n] <- FALSE
  if (any(keep)) keep else rep(TRUE, n)
}

say_left_periods <- function(res, periods) {
  sprintf("%s %s not whole (the data %s) and %s not set beside the others.", some_of(periods, 2), plural(length(periods), "is", "are"),
          cut_ends(res$cut), plural(length(periods), "is", "are"))
}

#' "(a change of +11.2 %)", where growth is asked about and all values are above zero
#' @noRd
say_growth <- function(ctx, v) {
  if (!isTRUE(ctx$reading$extra$growth) || any(v <= 0)) return("")
  change <- v[length(v)] / v[1] - 1
  sprintf(" (a change of %s%s)", if (change > 0) "+" else "", say_percent(change))
}

#' The average growth a period, and the largest steps
#' @noRd
say_average_growth <- function(ctx, res, t) {
  g <- res$grown
  if (is.null(g)) return(NULL)
  rate <- res$number$growth
  step <- which(!is.na(t$change))
  text <- if (!is.null(rate)) sprintf("That is %s%s a %s on average, compound over %s.", if (rate > 0) "+" else "", say_percent(rate, 2), res$every,
                                      count_of(g$steps, res$every))
  c(text, if (length(step) > 1) sprintf("From one %s to the next it changes most in %s (%s).", res$every, t$period[step[which.max(abs(t$change[step]))]],  # nolint: line_length_linter.
                                        with_unit(say_number(t$change[step[which.max(abs(t$change[step]))]]), outcome_column(ctx)$unit)),
    if (length(step) < nrow(t) - 1) "Where a period is missing in between, no change is told.")
}

#' Lines that tell where each period stands in the row of all periods
#' @noRd
script_places <- function(res) {
  c("first <- as.Date(as.numeric(tapply(as.numeric(day), key, min)), origin = \"1970-01-01\")",
    "months <- 12 * as.numeric(format(first, \"%Y\")) + as.numeric(format(first, \"%m\")) - 1",
    sprintf("place <- %s", switch(res$every, day = "as.numeric(first)", week = "floor((as.numeric(first) + 3) / 7)", month = "months",
                                  quarter = "floor(months / 3)", year = "floor(months / 12)")))
}

#' Lines that add the changes to the table of periods
#' @noRd
script_growth <- function(res) {
  if (is.null(res$grown)) return(NULL)
  c(sprintf("v <- tables$time$%s; n <- length(v)", res$shown), script_places(res),
    "follows <- c(FALSE, diff(place) == 1); before <- c(NA, v[-n]); tables$time$change <- ifelse(follows, v - before, NA)",
    "tables$time$percent_change <- ifelse(follows & before > 0, 100 * (v - before) / before, NA)",
    "numbers$estimate <- v[n] - v[1]",
    "if (all(v > 0)) { numbers$relative_change <- v[n] / v[1] - 1; numbers$growth <- (v[n] / v[1])^(1 / (place[n] - place[1])) - 1 }")
}

script_period_lines <- function(ctx, every) {
  at <- script_column(ctx$reading$time$column)
  c(if (every == "value") sprintf("key <- %s", at) else if (every == "hour") sprintf("key <- format(%s, \"%%H\", tz = \"UTC\")", at)
    else sprintf("day <- as.Date(%s, tz = \"UTC\")", at),
    switch(every, value = , hour = NULL, day = "key <- day", week = "key <- day - (as.integer(format(day, \"%u\")) - 1)",
           month = "key <- format(day, \"%Y-%m\")", year = "key <- format(day, \"%Y\")",
           quarter = "key <- paste(format(day, \"%Y\"), quarters(day))",
           weekday = "key <- as.integer(format(day, \"%u\"))"))
}

#' "The running total of sales comes to 5,197,022 by 2025-12; half of it was reached in 2025-07."
#' @noRd
say_running <- function(ctx, res, words) {
  t <- res$tables[[1]]$data
  v <- t$running; n <- length(v)
  half <- which(v >= v[n] / 2)[1]
  text <- sprintf("%s comes to %s by %s; half of that was reached in %s (%s).", capital(words$what), words$value(v[n]), t$period[n], t$period[half],
                  words$value(v[half]))
  list(headline = text, details = c(say_cut_periods(res), say_rows(ctx)), write_up = text)
}

script_time_table <- function(ctx, res) {
  body <- c("tables <- list()", script_period_lines(ctx, res$every))
  if (length(ctx$reading$by)) return(c(body, script_grouped_time(ctx, res)))
  running <- function(of) if (identical(res$shown, "running")) sprintf("tables$time$running <- cumsum(tables$time$%s)", of)
  if (!length(ctx$reading$outcome)) return(c(body, "tables$time <- data.frame(n = as.vector(table(key)))", running("n"),
                                             "numbers <- list(n = nrow(rows), periods = nrow(tables$time))", script_growth(res),
                                             script_average_of_periods(res), res$ranked$script))
  extra <- if (res$shown %in% c("sum", "running")) ", sum = sum(v)" else ""
  c(body, sprintf("parts <- split(%s, key)", script_period_value(ctx)),
    sprintf(paste0("tables$time <- do.call(rbind, lapply(parts, function(v) data.frame(n = length(v), mean = mean(v), ",
                   "sd = sd(v), se = sd(v) / sqrt(length(v)), median = median(v), min = min(v), max = max(v)%s)))"),
                   extra), running("sum"),
    "numbers <- list(n = sum(tables$time$n), periods = nrow(tables$time))", script_growth(res), script_average_of_periods(res),
    res$ranked$script)
}

#' Lines of what a period has on average, as of `average_of_periods()`
#' @noRd
script_average_of_periods <- function(res) {
  if (is.null(res$number$all_periods)) return(NULL)
  c(script_places(res), if (!all(res$kept)) sprintf("kept <- c(%s); place <- place[kept]  # periods that are whole", toString(which(res$kept))),
    sprintf("all <- max(place) - min(place) + 1; numbers$estimate <- %s / all",
            if (is.null(res$kept)) "nrow(rows)" else if (all(res$kept)) "sum(tables$time$sum)" else "sum(tables$time$sum[kept])"),
    "numbers$all_periods <- all; numbers$empty_periods <- all - length(place)")
}

script_grouped_time <- function(ctx, res) {
  by <- ctx$reading$by
  g <- script_group(by)
  extra <- if (identical(res$shown, "sum")) ", sum = sum(v)" else ""
  counted <- !length(ctx$reading$outcome)
  c(sprintf(paste0("g <- %s; cell <- paste(sprintf(\"%%05d\", as.integer(g)), sprintf(\"%%05d\", match(as.character(key), ",
      "as.character(sort(unique(key))))))"), g),
    sprintf("parts <- split(%s, cell)", if (counted) "seq_len(nrow(rows))" else script_period_value(ctx)),
    if (counted) "tables$time <- data.frame(n = lengths(parts))"
    else sprintf(paste0("tables$time <- do.call(rbind, lapply(parts, function(v) data.frame(n = length(v), mean = mean(v), sd = sd(v), se = ",
        "sd(v) / sqrt(length(v)), median = median(v), min = min(v), max = max(v)%s)))"), extra),
    "numbers <- list(n = sum(tables$time$n), periods = length(unique(key)), groups = nlevels(g))")
}

script_window_start <- function(unit) {
  if (unit %in% c("day", "week")) return(sprintf("start <- day - window%s", if (unit == "week") " * 7" else ""))
  sprintf("parts <- as.POSIXlt(day, tz = \"UTC\"); parts$mon <- parts$mon - window%s; start <- as.Date(parts)", if (unit == "year") " * 12" else "")
}

#' @noRd
method_linear_trend <- function() {
  new_method(
    id = "linear_trend", name = "Straight-line trend with autocorrelation-aware errors", tasks = "trend",
    fits = function(shape) if (shape$task == "trend" && isTRUE(shape$timed) && shape$n_outcome == 1 && shape$n_by == 0 &&
                               is.null(shape$window) && is.null(shape$every)) new_fit(if (isTRUE(shape$trend_test)) 92
                                   else 80, paste0("The question asks whether values rise or fall over time; ",
                                                   "neighbours in time are allowed to be alike.")),
    compute = compute_linear_trend,
    checks = function(ctx, res) c(list(check_autocorrelation(res$number$autocorrelation, res$number$n),
                                       check_linear(res$when, res$y)), check_known_units(ctx)), second = "mann_kendall",
    figure = function(ctx, res) figure_trend(ctx, res), sentences = say_linear_trend, script = script_linear_trend,
    references = paste0("Newey, W. K., & West, K. D. (1987). A simple, positive semi-definite, heteroskedasticity and ",
                        "autocorrelation consistent covariance matrix. Econometrica, 55, 703-708."),
    next_steps = function(ctx, res) c(if (anyDuplicated(ctx$unit_values) && !is.null(ctx$unit_name) && !res$dated)
      sprintf("Mixed model of %s with %s and a random intercept for %s", outcome_name(ctx), ctx$reading$time$column, ctx$unit_name),
      sprintf("Mean %s by month", outcome_name(ctx))))
}

compute_linear_trend <- function(ctx) {
  t <- time_values(ctx)
  dated <- inherits(t, "Date")
  order <- order(t)
  t <- t[order]; y <- outcome_values(ctx)[order]
  out <- stat_linear_trend(as.numeric(t), y, ctx$conf_level)
  per <- if (dated) "day" else ctx$reading$time$column
  result(c(test_numbers(out, "t", sprintf("change of %s for one %s", outcome_name(ctx), per), ctx$conf_level),
           list(new_number("se_classical", "standard error without allowing for autocorrelation", out$se_classical),
           new_number("autocorrelation", "autocorrelation of the residuals, lag 1", out$autocorrelation),
           new_number("lags", "lags allowed for", out$lags), new_number("r_squared", "R squared", out$r_squared))),
         when = as.numeric(t), y = y, at = t, dated = dated, intercept = out$intercept)
}

say_linear_trend <- function(ctx, res) {
  n <- res$number
  y <- say_column(outcome_column(ctx))
  change <- say_change(ctx, res); size <- say_change(ctx, res, size = TRUE)
  headline <- if (isTRUE(n$p_value < 1 - ctx$conf_level)) sprintf("%s %s over time: by %s (%s), %s.", capital(y),
      if (n$estimate > 0) "rises" else "falls", size$amount, size$interval, say_p(n$p_value))
    else sprintf("No clear straight-line trend of %s over time: %s (%s), %s.", y, change$amount, change$interval, say_p(n$p_value))
  list(headline = headline,
       details = c(sprintf("Neighbouring residuals correlate with %s; the error allows for %s lags.",
                           say_unit(n$autocorrelation), say_number(n$lags)), say_rows(ctx)),
       write_up = sprintf(paste0("A straight-line trend of %s was fitted by least squares with Newey-West errors (%s ",
                                 "lags): %s, %s, t(%s) = %s, %s.%s"), y, say_number(n$lags), change$amount, change$interval, say_df(n$df),
                                 say_number(n$statistic, 2), say_p(n$p_value), write_rows(ctx)))
}

#' A slope as a change in a span that fits the data, with its interval; as a size, both without their sign
#'
#' @param res Result with `when` (times) and `dated` (are they dates?).
#' @section Shape: list(amount, interval).
#' @noRd
say_change <- function(ctx, res, size = FALSE) {
  n <- res$number
  years <- diff(range(res$when)) > 900
  factor <- if (!res$dated) 1 else if (years) 365.25 else 30.4375
  time <- ctx$columns[[ctx$reading$time$column]]
  span <- if (!res$dated && identical(time$role, "year")) one_of(say_column(time))
    else if (!res$dated) sprintf("unit of %s", say_column(time)) else if (years) "year" else "month"
  limits <- c(n$ci_low, n$ci_high)
  if (size) limits <- sort(abs(limits))
  amount <- say_by_error((if (size) abs(n$estimate) else n$estimate) * factor, n$se * factor)
  list(amount = sprintf("%s a %s", with_unit(amount, outcome_column(ctx)$unit), span),
       interval = say_interval(limits[1] * factor, limits[2] * factor, ctx$conf_level))
}

script_linear_trend <- function(ctx, res) {
  time <- if (res$dated) sprintf("as.numeric(as.Date(%s, tz = \"UTC\"))",
                                 script_column(ctx$reading$time$column)) else sprintf("as.numeric(%s)",
                                     script_column(ctx$reading$time$column))
  c("tables <- list()",
    sprintf("t <- %s; place <- order(t); t <- t[place]; y <- (%s)[place]; x <- t - mean(t)", time, script_value(outcome_name(ctx))),
    "fit <- lm(y ~ x)", script_newey_west(), "numbers$se_classical <- summary(fit)$coefficients[2, 2]")
}

#' Script lines for the slope of `fit`, its second coefficient, with an error that allows for autocorrelation
#' @noRd
script_newey_west <- function() {
  c("e <- resid(fit); n <- length(e); u <- model.matrix(fit) * e; p <- ncol(u); lags <- floor(4 * (n / 100)^(2 / 9)); meat <- crossprod(u)",
    "for (k in seq_len(lags)) { g <- crossprod(u[(k + 1):n, ], u[1:(n - k), ]); meat <- meat + (1 - k / (lags + 1)) * (g + t(g)) }",
    "bread <- summary(fit)$cov.unscaled; se <- sqrt((bread %*% meat %*% bread)[2, 2] * n / (n - p))",
    "slope <- coef(fit)[[2]]; half <- qt(1 - (1 - conf_level) / 2, n - p) * se",
    "numbers <- list(statistic = slope / se, df = n - p, p_value = 2 * pt(-abs(slope / se), n - p), estimate = slope, se = se,",
    "  ci_low = slope - half, ci_high = slope + half, conf_level = conf_level, n = n,",
    "  autocorrelation = sum(e[-1] * e[-n]) / sum(e^2), lags = lags, r_squared = summary(fit)$r.squared)")
}
