# Derived columns: computed from others of the same table, by a named rule, the same in every script.

#' Whether each cell of several answers holds one of them
#' @noRd
holds_answer <- function(cells, step) {
  given <- answers_given(cells, step$mark)
  held <- seq_along(cells) %in% given$row[given$answer == step$answer]
  factor(ifelse(is.na(cells), NA, ifelse(held, "yes", "no")), c("no", "yes"))
}

#' How many answers each cell holds
#' @noRd
count_answers <- function(cells, step) {
  given <- answers_given(cells, step$mark)
  ifelse(is.na(cells), NA, tabulate(given$row, length(cells)))
}

#' The rules by which a column can be derived
#'
#' @section Shape: named list of list(takes (how many columns; NA for any number from two up), kinds (of the sources),
#'   compute(values, step) -> vector, words(step) -> text, settings (names of what the step may say besides)).
#' @noRd
derivations <- function() {
  numeric <- c("number", "count", "yes_no", "ordered")
  dates <- c("date", "datetime")
  rule <- function(takes, kinds, compute, words, settings = character()) list(takes = takes, kinds = kinds,
      compute = compute, words = words, settings = settings)
  logarithm <- function(of, words) rule(1, numeric, function(x, step) ifelse(!is.na(x[[1]]) & x[[1]] > 0, of(pmax(x[[1]], .Machine$double.xmin)), NA),
                                        function(step) paste(sprintf(words, step$from), "(of zero or less there is none)"))
  list(
    difference = rule(2, c(numeric, dates), function(x, step) as.numeric(plain_number_of(x[[1]])) - as.numeric(plain_number_of(x[[2]])),
                      function(step) sprintf("%s minus %s", step$from[1], step$from[2])),
    ratio = rule(2, numeric, function(x, step) { y <- x[[1]] / x[[2]]; y[!is.finite(y)] <- NA; y },
                 function(step) sprintf("%s divided by %s", step$from[1], step$from[2])),
    percent_change = rule(2, numeric, function(x, step) percent_between(x[[1]], x[[2]]),
                          function(step) sprintf("change from %s to %s, as a percentage of the first", step$from[1], step$from[2])),
    percent_fall = rule(2, numeric, function(x, step) -percent_between(x[[1]], x[[2]]),
                        function(step) sprintf("fall from %s to %s, as a percentage of the first", step$from[1], step$from[2])),
    net_promoter = rule(1, numeric, function(x, step) { v <- as.numeric(x[[1]]); 100 * (v >= 9) - 100 * (v <= 6) },
                        function(step) sprintf("100 where %1$s is 9 or 10, -100 where it is 0 to 6, else 0, so that its mean is the net promoter score",  # nolint: line_length_linter.
                                               step$from)),
    product = rule(2, numeric, function(x, step) x[[1]] * x[[2]],
                   function(step) sprintf("%s times %s", step$from[1], step$from[2])),
    sum = rule(NA, numeric, function(x, step) Reduce(`+`, x), function(step) sprintf("sum of %s", some_of(step$from, 6))),
    mean = rule(NA, c(numeric, "ordered"), function(x, step) {
      v <- lapply(x, function(v) if (is.factor(v)) level_numbers(v) else v)
      # (an item that is worded the other way round is taken from the other end of the scale)
      for (i in which(step$from %in% step$turned)) v[[i]] <- sum(step$ends) - v[[i]]
      Reduce(`+`, v) / length(v)
    }, function(step) sprintf("mean of %s in each row%s", some_of(step$from, 6), if (!length(step$turned)) "" else
      sprintf(", %s turned round (%s less the answer)", some_of(step$turned, 6), format_plain(sum(step$ends)))), settings = c("turned", "ends")),
    # an item that is worded the other way round: the same distance from the other end of its scale
    reversed = rule(1, numeric, function(x, step) sum(step$ends) - (if (is.factor(x[[1]])) level_numbers(x[[1]]) else as.numeric(x[[1]])),
                    function(step) sprintf("%s turned round (%s less the answer)", step$from, format_plain(sum(step$ends))), settings = "ends"),
    missing = rule(1, c(numeric, dates, "category", "text", "id"), function(x, step) factor(ifelse(is.na(x[[1]]), "yes", "no"), c("no", "yes")),
                   function(step) sprintf("is %s missing in the row", step$from)),
    log = logarithm(log, "natural logarithm of %s"), log10 = logarithm(log10, "logarithm of %s to the base 10"),
    log2 = logarithm(log2, "logarithm of %s to the base 2"),
    square_root = rule(1, numeric, function(x, step) ifelse(!is.na(x[[1]]) & x[[1]] >= 0, sqrt(pmax(x[[1]], 0)), NA),
                       function(step) sprintf("square root of %s (of less than zero there is none)", step$from)),
    converted = rule(1, numeric, function(x, step) x[[1]] * step$factor,
                     function(step) {
                       part <- abs(step$factor) < 1 && abs(1 / step$factor - round(1 / step$factor)) < 1e-9
                       if (part) sprintf("%s divided by %s", step$from, format_plain(round(1 / step$factor)))
                       else sprintf("%s times %s", step$from, format_plain(signif(step$factor, 6)))
                     }, settings = "factor"),
    standardised = rule(1, numeric, function(x, step) (x[[1]] - mean(x[[1]], na.rm = TRUE)) / stats::sd(x[[1]], na.rm = TRUE),
                        function(step) sprintf("%s in standard deviations from its mean", step$from)),
    bands = rule(1, numeric, function(x, step) band_values(x[[1]], step),
                 function(step) sprintf("bands of %s, from %s", step$from, some_of(format_plain(step$cuts), 8)), c("cuts", "groups", "labels")),
    age = rule(NA, dates, function(x, step) age_in_years(x[[1]], if (length(x) > 1) x[[2]] else as.Date(step$on)),
               function(step) sprintf("completed years from %s to %s", step$from[1], or_if_na(step$from[2], step$on)), "on"),
    years_since = rule(NA, dates, function(x, step) years_between(x, step$on),
                       function(step) sprintf("years from %s to %s", step$from[1], if (is.na(step$from[2])) step$on else
                         sprintf("%s, or to %s where that is missing", step$from[2], step$on)), "on"),
    clock = rule(1, "datetime", function(x, step) clock_hours(x[[1]]),
                 function(step) sprintf("time of day of %s, in hours since midnight", step$from)),
    year = rule(1, dates, function(x, step) as.numeric(format(x[[1]], "%Y")), function(step) sprintf("year of %s", step$from)),
    month = rule(1, dates, function(x, step) factor(as.integer(format(x[[1]], "%m")), 1:12, month.name),
                 function(step) sprintf("month of %s", step$from)),
    weekday = rule(1, dates, function(x, step) factor(as.integer(format(x[[1]], "%u")), 1:7, weekday_names()),
                   function(step) sprintf("day of the week of %s", step$from)),
    quarter = rule(1, dates, function(x, step) factor(quarters(as.Date(x[[1]])), paste0("Q", 1:4)), function(step) sprintf("quarter of %s",
      step$from)),
    weekend = rule(1, dates, function(x, step) factor(ifelse(as.integer(format(x[[1]], "%u")) > 5, "weekend", "weekday"), c("weekday", "weekend")),
                   function(step) sprintf("weekday (Monday to Friday) or weekend, by %s", step$from)),
    day_part = rule(1, "datetime", function(x, step) day_part_of(x[[1]]),
                    function(step) sprintf("part of the day of %s (night 22:00 to 6:00, morning to 12:00, afternoon to 18:00, evening to 22:00)", step$from)),  # nolint: line_length_linter.
    season = rule(1, dates, function(x, step) factor(c("winter", "spring", "summer", "autumn")[as.integer(format(x[[1]], "%m")) %% 12 %/% 3 + 1],
                                                     c("spring", "summer", "autumn", "winter")),
                  function(step) sprintf("season of %s (northern, by whole months: spring is March to May)", step$from)),
    before_after = rule(1, c(dates, "number", "count"), function(x, step) {
      edge <- if (is.numeric(x[[1]])) as.numeric(step$on) else as.Date(step$on)
      own <- if (inherits(x[[1]], "POSIXct")) as.Date(x[[1]], tz = "UTC") else x[[1]]
      factor(ifelse(own < edge, "before", "after"), c("before", "after"))
    }, function(step) sprintf("%s before %s, or from then on", step$from, step$on), "on"),
    holds = rule(1, "text", function(x, step) holds_answer(as.character(x[[1]]), step),
                 function(step) sprintf("does %s hold the answer %s", step$from, quoted(step$answer)), c("answer", "mark")),
    outside = rule(1, numeric, function(x, step) {
      v <- as.numeric(x[[1]])
      factor(ifelse(v < min(unlist(step$on)) | v > max(unlist(step$on)), "yes", "no"), c("no", "yes"))
    }, function(step) sprintf("is %s below %s or above %s", step$from, format_plain(min(unlist(step$on))), format_plain(max(unlist(step$on)))), "on"),
    present = rule(1, c(numeric, dates, "category", "text", "id"), function(x, step) factor(ifelse(is.na(x[[1]]), "no", "yes"), c("no", "yes")),
                   function(step) sprintf("is there a value of %s", step$from)),
    answer_count = rule(1, "text", function(x, step) count_answers(as.character(x[[1]]), step),
                        function(step) sprintf("how many answers %s holds", step$from), "mark"),
    rolling_mean = rule(1, numeric, function(x, step) rolling_within(x, step),
                        function(step) sprintf("mean of %s over the last %d rows%s", step$from, step$window,
                                               if (is.null(step$within)) "" else sprintf(" of each %s", step$within)),
                        c("window", "within", "order")),
    two_periods = rule(1, dates, function(x, step) two_periods_of(x[[1]], step$periods),
                       function(step) sprintf("%s in %s or in %s", step$from, period_said(step$periods[1]), period_said(step$periods[2])), "periods"),
    two_ranges = rule(1, c(dates, numeric), function(x, step) two_ranges_of(x[[1]], step),
                      function(step) sprintf("%s from %s to %s (%s) or from %s to %s (%s)", step$from, step$lows[1], step$highs[1], step$labels[1],
                                             step$lows[2], step$highs[2], step$labels[2]), c("lows", "highs", "labels")),
    against_rest = rule(1, c("category", "ordered", "text"), function(x, step) {
      factor(ifelse(is.na(x[[1]]), NA, ifelse(as.character(x[[1]]) == step$level, step$level, "all others")), c(step$level, "all others"))
    }, function(step) sprintf("%s, %s against all others", step$from, quoted(step$level)), "level"),
    equals = rule(1, c("category", "ordered", "text", "yes_no"), function(x, step) {
      factor(ifelse(is.na(x[[1]]), NA, ifelse(as.character(x[[1]]) %in% unlist(step$level), "yes", "no")), c("no", "yes"))
    }, function(step) sprintf("is %s %s", step$from, some_of(quoted(unlist(step$level)), 8, and = "or")), "level"),
    level_sets = rule(1, c("category", "ordered", "text"), function(x, step) {
      factor(unlist(step$side)[match(as.character(x[[1]]), unlist(step$level))], unique(unlist(step$side)))
    }, function(step) {
      side <- unlist(step$side)
      each <- vapply(unique(side), function(s) sprintf("%s for %s", s, some_of(quoted(unlist(step$level)[side == s]), 8, and = "or")), "")
      sprintf("levels of %s put together: %s", step$from, paste(each, collapse = "; "))
    }, c("level", "side")),
    years_to = rule(1, numeric, function(x, step) step$on - x[[1]], function(step) sprintf("%s minus %s", format_plain(step$on), step$from), "on"),
    period = rule(1, dates, function(x, step) date_period(x[[1]], step$every),
                  function(step) sprintf("%s of %s%s", step$every, step$from, if (step$every == "week") ", told by its Monday" else ""), "every"),
    from_start = rule(1, numeric, function(x, step) change_from_start(x, step),
                      function(step) sprintf("%s less its value at %s %s of the same %s", step$from, step$order, format_plain(step$on), step$within),
                      c("within", "order", "on")),
    value_at = rule(1, numeric, function(x, step) value_at_time(x, step),
                    function(step) sprintf("%s at %s %s of the same %s", step$from, step$order, format_plain(step$on), some_of(step$within, 3)),
                    c("within", "order", "on")),
    gain = rule(1, numeric, function(x, step) gain_of_unit(x, step),
                function(step) sprintf("last less first value of %s of the same %s, in the order of %s%s", step$from, step$within, step$order,
                                       if (is.null(step$on)) "" else sprintf(" from %s to %s", step$on[1], step$on[2])),
                c("within", "order", "on")),
    first_time = rule(1, "yes_no", function(x, step) first_time_of(x, step),
                      function(step) sprintf("the first %s of the same %s at which %s is so", step$order, step$within, step$from), c("within", "order")),  # nolint: line_length_linter.
    last_seen = rule(2, c("id", "category", "text", numeric), function(x, step) stats::ave(as.numeric(x[[2]]), as.character(x[[1]]), FUN = function(v) max(v, na.rm = TRUE)),  # nolint: line_length_linter.
                     function(step) sprintf("the last %s of the same %s", step$from[2], step$from[1])),
    first_row = rule(1, c("id", "category", "text", numeric), function(x, step) factor(ifelse(duplicated(x[[1]]) | is.na(x[[1]]), "no", "yes"), c("no", "yes")),  # nolint: line_length_linter.
                     function(step) sprintf("is it the first row of its %s", step$from)),
    rows_each = rule(1, c(numeric, dates, "category", "text", "id"), function(x, step) rows_of_each(x[[1]]),
                     function(step) sprintf("rows of the same %s", step$from)),
    low = rule(1, "range", function(x, step) range_part(x[[1]], "low"), function(step) sprintf("lower end of %s", step$from)),
    high = rule(1, "range", function(x, step) range_part(x[[1]], "high"), function(step) sprintf("upper end of %s", step$from)),
    middle = rule(1, "range", function(x, step) range_part(x[[1]], "middle"), function(step) sprintf("middle of %s", step$from)))
}

#' 100 times the change over the first value; none where that is zero or less
#' @noRd
percent_between <- function(first, last) {
  first <- as.numeric(first)
  first[!is.na(first) & first <= 0] <- NA
  100 * (as.numeric(last) - first) / first
}

#' The last value of a unit less its first, the same in all its rows; values outside `on` (two days) do not count
#' @noRd
gain_of_unit <- function(x, step) {
  value <- as.numeric(x[[1]]); unit <- as.character(x[[step$within]])
  order <- as.numeric(x[[step$order]])
  use <- which(!is.na(value) & !is.na(order) & !is.na(unit))
  if (!is.null(step$on)) {
    days <- as.numeric(as.Date(unlist(step$on)))
    own <- if (inherits(x[[step$order]], "POSIXct")) floor(order / 86400) else order
    use <- use[own[use] >= days[1] & own[use] <= days[2]]
  }
  use <- use[order(order[use])]
  first <- use[!duplicated(unit[use])]; last <- use[!duplicated(unit[use], fromLast = TRUE)]
  change <- value[last[match(unit[first], unit[last])]] - value[first]
  # one value is no change
  change[order[last[match(unit[first], unit[last])]] == order[first]] <- NA
  change[match(unit, unit[first])]
}

#' Each value less that of the same unit at one time; none where the unit has no value then
#' @noRd
change_from_start <- function(x, step) as.numeric(x[[1]]) - value_at_time(x, step)

#' The value of the same unit at one time
#' @noRd
value_at_time <- function(x, step) {
  unit <- do.call(paste, c(lapply(step$within, function(name) as.character(x[[name]])), sep = "\r"))
  order <- x[[step$order]]
  # (occasions in words are told by their level)
  start <- which(if (is.factor(order) || is.character(order)) as.character(order) == as.character(step$on) else as.numeric(order) == as.numeric(step$on))  # nolint: line_length_linter.
  as.numeric(x[[1]])[start][match(unit, unit[start])]
}

#' The earliest time at which it was so of the same unit, the same in all its rows; none where it never was
#' @noRd
first_time_of <- function(x, step) {
  unit <- as.character(x[[step$within]])
  so <- which(if (is.factor(x[[1]])) as.integer(x[[1]]) == 2 else as.numeric(x[[1]]) == 1)
  when <- as.numeric(x[[step$order]])[so]
  first <- vapply(split(when, unit[so]), min, 1)
  unname(first[unit])
}

#' Night, morning, afternoon or evening, by the hour as it is written in the data
#' @noRd
day_part_of <- function(x) {
  hour <- as.integer(format(x, "%H", tz = "UTC"))
  factor(c("night", "morning", "afternoon", "evening", "night")[findInterval(hour, c(0, 6, 12, 18, 22))], c("night", "morning", "afternoon", "evening"))  # nolint: line_length_linter.
}

#' Hours since midnight, as the clock of the data tells them
#' @noRd
clock_hours <- function(x) {
  part <- function(form) as.numeric(format(x, form, tz = "UTC"))
  part("%H") + part("%M") / 60 + part("%S") / 3600
}

#' Years from one date to another, or to a day where there is none; of 365.25 days
#' @noRd
years_between <- function(x, on) {
  end <- rep(as.Date(on), length(x[[1]]))
  if (length(x) > 1) { own <- as.Date(x[[2]]); end[!is.na(own)] <- own[!is.na(own)] }
  as.numeric(end - as.Date(x[[1]])) / 365.25
}

weekday_names <- function() c("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")

plain_number_of <- function(x) if (inherits(x, "POSIXct")) as.numeric(x) / 86400 else as.numeric(x)

#' Which of two periods a date lies in, such as "2023-05" and "2024-05" or "2023-Q1" and "2024-Q1"; none where it lies in neither
#' @noRd
two_periods_of <- function(x, periods) {
  month <- as.integer(format(x, "%Y%m"))
  ends <- period_months(sort(periods))
  at <- ifelse(month >= ends[1, 1] & month <= ends[1, 2], 1L, ifelse(month >= ends[2, 1] & month <= ends[2, 2], 2L, NA))
  factor(period_said(sort(periods))[at], levels = period_said(sort(periods)))
}

#' In which of two ranges of days or numbers a value lies, both ends belonging to each; none where it lies in neither
#' @noRd
two_ranges_of <- function(x, step) {
  dated <- inherits(x, c("Date", "POSIXct"))
  own <- if (dated) as.Date(x, tz = "UTC") else as.numeric(x)
  end <- function(ends) if (dated) as.Date(as.character(ends)) else as.numeric(ends)
  low <- end(unlist(step$lows)); high <- end(unlist(step$highs))
  at <- ifelse(own >= low[1] & own <= high[1], 1L, ifelse(own >= low[2] & own <= high[2], 2L, NA))
  factor(unlist(step$labels)[at], levels = unlist(step$labels))
}

#' The first and the last month of periods written as "2023", "2023-H1", "2023-Q1" or "2023-05"
#' @section Shape: integer matrix, one row a period: first and last month as yyyymm.
#' @noRd
period_months <- function(periods) {
  year <- 100L * as.integer(substr(periods, 1, 4))
  part <- sub("^[0-9]{4}-?", "", periods)
  number <- as.integer(ifelse(nzchar(part), gsub("[^0-9]", "", part), "1"))
  size <- ifelse(grepl("Q", part), 3L, ifelse(grepl("H", part), 6L, ifelse(nzchar(part), 1L, 12L)))
  cbind(year + size * (number - 1L) + 1L, year + size * number)
}

#' The day, week (by its Monday), month, quarter or year in which a date lies, in the order of time
#' @noRd
date_period <- function(x, every) {
  day <- as.Date(x)
  known <- !is.na(day)
  said <- rep(NA_character_, length(day))
  said[known] <- stat_periods(day[known], every)$label
  factor(said, sort_text(unique(said[known])))
}

#' "2023-05" as "May 2023", "2023-Q1" as "Q1 2023"
#' @noRd
period_said <- function(periods) {
  part <- sub("^[0-9]{4}-?", "", periods)
  month <- suppressWarnings(as.integer(part))
  trimws(paste(ifelse(is.na(month), part, month.name[month]), substr(periods, 1, 4)))
}

#' How many rows hold the same value; none where the value is missing
#' @noRd
rows_of_each <- function(x) {
  at <- match(x, unique(x))
  out <- as.numeric(tabulate(at)[at])
  out[is.na(x)] <- NA
  out
}

#' Completed years between two dates
#' @noRd
age_in_years <- function(birth, on) {
  birth <- as.Date(birth); on <- as.Date(on)
  part <- function(d, f) as.numeric(format(d, f))
  part(on, "%Y") - part(birth, "%Y") - (part(on, "%m%d") < part(birth, "%m%d"))
}

#' Bands closed below: 30 belongs to "30 to 49"
#' @noRd
band_values <- function(x, step) {
  cuts <- step$cuts
  structure(findInterval(x, cuts) + 1L, levels = step$labels %||% band_labels(cuts, all(x == round(x), na.rm = TRUE)),
            class = "factor")
}

band_labels <- function(cuts, whole) {
  k <- length(cuts)
  low <- format_plain(cuts)
  high <- if (whole && all(cuts == round(cuts))) format_plain(cuts - 1) else paste("less than", low)
  inner <- if (k > 1) paste(low[-k], "to", high[-1])
  c(paste("under", low[1]), inner, paste(low[k], "and over"))
}

#' Mean of the last `window` rows, in the stated order, within each unit; missing until the window is full
#' @noRd
rolling_within <- function(x, step) {
  value <- x[[1]]
  unit <- if (is.null(step$within)) rep(1L, length(value)) else x[[step$within]]
  at <- if (is.null(step$order)) seq_along(value) else order(x[[step$order]], seq_along(value))
  out <- rep(NA_real_, length(value))
  for (rows in split(at, as.character(unit)[at])) {
    v <- value[rows]
    if (length(v) < step$window) next
    sums <- cumsum(ifelse(is.na(v), 0, v)); gaps <- cumsum(is.na(v))
    ends <- step$window:length(v)
    before <- function(s) c(0, s)[ends - step$window + 1]
    out[rows[ends]] <- ifelse(gaps[ends] - before(gaps) > 0, NA, (sums[ends] - before(sums)) / step$window)
  }
  out
}

#' Numbers of "12-15", "$12K to $15K" and the like; a single number is both ends, "under 10" and "30+" have one
#' @noRd
range_part <- function(x, part) {
  values <- unique(as.character(x))
  ends <- vapply(values, range_ends, numeric(2), USE.NAMES = FALSE)
  out <- switch(part, low = ends[1, ], high = ends[2, ], middle = (ends[1, ] + ends[2, ]) / 2)
  out[match(as.character(x), values)]
}

#' Check a derivation that an amendment asks for; what it leaves open is filled in
#' @section Errors: `upbeatquill_error_bad_amendment`, `upbeatquill_error_column_unknown`.
#' @noRd
check_derivation <- function(study, table, name, change) {
  rules <- derivations()
  if (!is.character(change$derive) || length(change$derive) != 1 || !change$derive %in% names(rules)) {
    stop_input(sprintf("%s is not a way to derive a column.", quoted(as.character(change$derive)[1])),
               todo = sprintf("Use one of %s.", paste(names(rules), collapse = ", ")), class = "bad_amendment")
  }
  rule <- rules[[change$derive]]
  extra <- setdiff(names(change), c("derive", "from", "label", "unit", "kind", rule$settings))
  if (length(extra)) stop_input(sprintf("The rule %s takes no %s.", quoted(change$derive), some_of(quoted(extra))),
                                class = "bad_amendment")
  if (!is.null(study$tables[[table]]$columns[[name]])) {
    stop_input(sprintf("There is a column %s already.", quoted(name)), todo = "Give the derived column a name of its own.",
               class = "bad_amendment")
  }
  step <- c(list(type = "derive", name = name), change[setdiff(names(change), c("label", "unit", "kind"))])
  for (source in c(step$from, step$within, step$order)) find_column(study, source, table)
  if (!length(step$from) || (!is.na(rule$takes) && length(step$from) != rule$takes)) {
    stop_input(sprintf("The rule %s needs %s in `from`.", quoted(step$derive),
                       if (is.na(rule$takes)) "the columns" else count_of(rule$takes, "column")), class = "bad_amendment")
  }
  check_sources(study, table, step, rule)
  settle_step(study, table, step)
}

check_sources <- function(study, table, step, rule) {
  for (source in step$from) {
    col <- find_column(study, source, table)
    fits <- if (identical(rule$kinds, "range")) col$kind %in% c("ordered", "category", "text", "id") else col$kind %in% rule$kinds
    if (!fits) {
      stop_input(sprintf("%s is of the kind %s, from which no %s can be taken.", quoted(source), col$kind,
                         gsub("_", " ", step$derive)), class = "bad_amendment")
    }
  }
}

#' The lowest and the highest answer of a column: of its levels where it has them, else of its values
#' @noRd
scale_ends <- function(study, table, name) {
  col <- find_column(study, name, table)
  if (length(col$levels)) return(range(level_numbers(factor(col$levels, col$levels))))
  x <- derived_source(study$tables[[table]], name)
  range(if (is.factor(x)) level_numbers(x) else as.numeric(x), na.rm = TRUE)
}

settle_step <- function(study, table, step) {
  bad <- function(...) stop_input(..., class = "bad_amendment")
  if (step$derive == "converted" && (!is.numeric(step$factor) || length(step$factor) != 1 || !is.finite(step$factor) || step$factor == 0)) {
    bad("`factor` is one number, such as factor = 1/60 for minutes of seconds.")
  }
  if (step$derive == "reversed") {
    if (is.null(step$ends)) step$ends <- scale_ends(study, table, step$from)
    if (!is.numeric(step$ends) || length(step$ends) != 2 || !all(is.finite(step$ends))) bad("`ends` are two numbers: the lowest and the highest answer.")  # nolint: line_length_linter.
  }
  if (step$derive == "bands") {
    if (is.null(step$cuts)) {
      k <- step$groups %||% 4
      if (!is.numeric(k) || length(k) != 1 || k < 2 || k > 20) bad("`groups` is one whole number from 2 to 20.")
      x <- derived_source(study$tables[[table]], step$from)
      step$cuts <- unique(stat_group_quantiles(x, probs = seq_len(k - 1) / k))
      step$groups <- NULL
    }
    if (!is.numeric(step$cuts) || !length(step$cuts) || anyNA(step$cuts) || is.unsorted(step$cuts, strictly = TRUE)) {
      bad("`cuts` are numbers in rising order, the lower end of each band after the first.")
    }
    if (!is.null(step$labels) && length(step$labels) != length(step$cuts) + 1) bad(sprintf("Bands at %d cuts need %d labels.",
        length(step$cuts), length(step$cuts) + 1))
    step$cuts <- as.numeric(step$cuts)
    step$labels <- step$labels %||% band_labels(step$cuts, all(derived_source(study$tables[[table]], step$from) %% 1 == 0, na.rm = TRUE))
  }
  if (step$derive == "age" && length(step$from) < 2) {
    on <- suppressWarnings(tryCatch(as.Date(as.character(step$on %||% NA)), error = function(e) as.Date(NA)))
    if (length(on) != 1 || is.na(on)) bad("An age needs a second column of dates in `from`, or a day in `on`, such as on = \"2024-06-30\".")
    step$on <- format(on)
  }
  if (step$derive == "rolling_mean") {
    if (!is.numeric(step$window) || length(step$window) != 1 || step$window < 2) bad("`window` is the number of rows to average, from 2 up.")
    step$window <- as.integer(step$window)
  }
  step
}

#' A column's values as a derivation takes them: numbers for number-like kinds, ordered answers by their number or place
#' @noRd
derived_source <- function(table, name, as_levels = FALSE) {
  col <- table$columns[[name]]
  x <- understand(table$data[[name]], col)
  if (!is.factor(x)) return(x)
  if (as_levels) return(as.character(x))
  if (!col$kind %in% c("ordered", "yes_no")) return(as.character(x))
  if (col$kind == "yes_no") return(as.integer(x) - 1)
  numbers <- suppressWarnings(as.numeric(col$levels))
  if (anyNA(numbers)) as.numeric(as.integer(x)) else numbers[as.integer(x)]
}

#' Values of a derived column
#' @noRd
derive_values <- function(table, step) {
  sources <- unique(c(step$from, step$within, step$order))
  values <- lapply(stats::setNames(sources, sources), function(name) {
    if (identical(derivations()[[step$derive]]$kinds, "range")) return(as.character(table$data[[name]]))
    derived_source(table, name, as_levels = step$derive %in% c("against_rest", "equals", "level_sets"))
  })
  if (length(step$from) > 1) values <- c(unname(values[step$from]), values[setdiff(sources, step$from)])
  derivations()[[step$derive]]$compute(values, step)
}
