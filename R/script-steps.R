# Base-R lines for the steps of a table: derived columns and rows left out.

#' Lines that give the columns of a table their kinds and repeat its steps, in order
#'
#' @param names Columns that are needed; what they are derived from is added.
#' @noRd
script_columns <- function(table, names, variable) {
  typed <- !(table$source$parts[[1]] %||% table$source)$format %in% c("delimited", "ods", "html")
  names <- needed_columns(table, names)
  table$columns[names] <- lapply(table$columns[names], all_levels)
  own <- Filter(function(n) !isTRUE(table$columns[[n]]$derived), names)
  c(unlist(lapply(own, function(n) script_convert(table$columns[[n]], variable, typed))),
    unlist(lapply(table$steps, function(step) {
      if (step$type == "leave_out") return(script_leave_out(table, step, variable))
      if (step$type == "repeat") return(c(sprintf("# each row stands for as many cases as %s says", step$column),
        sprintf("%s <- %s[rep(seq_len(nrow(%s)), %s[[%s]]), , drop = FALSE]", variable, variable, variable, variable, as_r_string(step$column))))
      if (step$type == "units") return(script_units(table, step, variable))
      if (!step$name %in% names) return(NULL)
      c(script_derive(table, step, variable), script_convert(table$columns[[step$name]], variable, TRUE))
    })))
}

#' Columns with everything that they, and the rows left out, rest on
#' @noRd
needed_columns <- function(table, names) {
  leaving <- unlist(lapply(table$steps, function(step) vapply(step$filters, `[[`, "", "column")))
  repeated <- unlist(lapply(Filter(function(step) step$type == "repeat", table$steps), `[[`, "column"))
  units <- unlist(lapply(Filter(function(step) step$type == "units", table$steps), function(step) c(step$unit, step$column, step$by)))
  names <- unique(c(names, leaving, repeated, units))
  derived <- Filter(function(step) step$type == "derive", table$steps)
  for (step in rev(derived)) if (step$name %in% names) names <- unique(c(names, step$from, step$within, step$order))
  names[names %in% names(table$columns)]
}

script_leave_out <- function(table, step, variable) {
  if (!isTRUE(step$rows > 0)) return(NULL)
  if (!is.null(step$numbers)) {
    # numbers are those of the file; rows that went before have moved the others up
    place <- sprintf("as.integer(rownames(%s))", variable)
    return(c(sprintf("# %s left out: %s", count_of(step$rows, "row"), step_words(step)),
             sprintf("%s <- %s[!(%s %%in%% %s), , drop = FALSE]", variable, variable, place, as_r_number(step$numbers))))
  }
  tests <- vapply(step$filters, function(f) script_test(f, table$columns[[f$column]], variable), "")
  test <- paste(sprintf("(%s)", tests), collapse = " & ")
  c(script_comment(sprintf("%s left out: %s", count_of(step$rows, "row"), step_words(step))),
    sprintf("%s <- %s[%s(%s), , drop = FALSE]", variable, variable, if (isTRUE(step$keep)) "" else "!", test))
}

#' One row for each unit, with its total
#' @noRd
script_units <- function(table, step, variable) {
  at <- function(name) sprintf("%s[[%s]]", variable, as_r_string(name))
  counted <- step$rows || !is.null(step$distinct)
  tests <- c(vapply(step$filters, function(f) script_test(f, table$columns[[f$column]], variable), ""), sprintf("!is.na(%s)", at(step$unit)),
             if (!is.null(step$distinct)) sprintf("!is.na(%s)", at(step$distinct)), if (!counted) sprintf("!is.na(%s)", at(step$column)))
  keys <- paste(sprintf("as.character(%s)", vapply(c(step$unit, step$by), at, "")), collapse = ", ")
  added <- if (!is.null(step$distinct)) sprintf("as.numeric(!duplicated(paste(unit_key, %s, sep = \"\\r\")))", at(step$distinct))
    else if (step$rows) sprintf("rep(1, nrow(%s))", variable) else sprintf("as.numeric(%s)", at(step$column))
  c(script_comment(paste0(units_words(table, list(step)), ".")),
    sprintf("%s <- %s[which(%s), , drop = FALSE]", variable, variable, paste(sprintf("(%s)", tests), collapse = " & ")),
    sprintf("unit_key <- paste(%s, sep = \"\\r\")", keys),
    sprintf("%s <- ave(%s, unit_key, FUN = sum)", at(step$column), added),
    sprintf("%s <- %s[!duplicated(unit_key), , drop = FALSE]", variable, variable))
}

#' A column of ordered levels as numbers, by what stands in the file; other columns as they are
#' @noRd
script_level_numbers <- function(col, at) {
  if (col$kind != "ordered") return(at)
  v <- level_numbers(factor(col$levels, col$levels))
  sprintf("c(%s)[match(as.character(%s), %s)]", paste(v, collapse = ", "), at, as_r_strings(as.character(col$codes %||% col$levels)))
}

#' The items of a mean as numbers, those that run the other way taken from the other end of the scale
#' @noRd
script_items <- function(table, step, x) {
  v <- vapply(seq_along(x), function(i) script_level_numbers(table$columns[[step$from[i]]], x[i]), "")
  ifelse(step$from %in% step$turned, sprintf("(%s - %s)", as_r_number(sum(step$ends %||% 0)), v), v)
}

script_derive <- function(table, step, variable) {
  at <- function(name) script_source(table$columns[[name]], variable, step)
  x <- vapply(step$from, at, "", USE.NAMES = FALSE)
  to <- sprintf("%s[[%s]]", variable, as_r_string(step$name))
  lines <- switch(step$derive,
    difference = if (any(vapply(step$from, function(n) table$columns[[n]]$kind == "datetime", NA))) {
      sprintf("as.numeric(%s) / 86400 - as.numeric(%s) / 86400", x[1], x[2])
    } else sprintf("as.numeric(%s) - as.numeric(%s)", x[1], x[2]),
    ratio = c(sprintf("%s / %s", x[1], x[2]), sprintf("%s[!is.finite(%s)] <- NA", to, to)),
    percent_change = , percent_fall = c(sprintf("%s100 * (as.numeric(%s) - as.numeric(%s)) / as.numeric(%s)",
        if (step$derive == "percent_fall") "-" else "",
                                               x[2], x[1], x[1]), sprintf("%s[!(as.numeric(%s) > 0)] <- NA", to, x[1])),
    net_promoter = sprintf("100 * (as.numeric(%1$s) >= 9) - 100 * (as.numeric(%1$s) <= 6)", x),
    product = paste(x, collapse = " * "), sum = paste(x, collapse = " + "),
    mean = sprintf("(%s) / %d", paste(script_items(table, step, x), collapse = " + "), length(x)),
    reversed = sprintf("%s - %s", as_r_number(sum(step$ends)), script_level_numbers(table$columns[[step$from]], x)),
    missing = sprintf("factor(ifelse(is.na(%s), \"yes\", \"no\"), c(\"no\", \"yes\"))", x),
    log = , log10 = , log2 = sprintf("ifelse(%s > 0, suppressWarnings(%s(%s)), NA)", x, step$derive, x),
    square_root = sprintf("ifelse(%s >= 0, suppressWarnings(sqrt(%s)), NA)", x, x),
    converted = sprintf("%s * %s", x, as_r_number(step$factor)),
    standardised = sprintf("(%s - mean(%s, na.rm = TRUE)) / sd(%s, na.rm = TRUE)", x, x, x),
    bands = sprintf("cut(%s, c(-Inf, %s, Inf), right = FALSE, labels = %s)", x, paste(as_r_number(step$cuts), collapse = ", "),
                    as_r_strings(step$labels)),
    age = script_age(x, step),
    clock = sprintf("as.numeric(format(%1$s, \"%%H\", tz = \"UTC\")) + as.numeric(format(%1$s, \"%%M\", tz = \"UTC\")) / 60 + as.numeric(format(%1$s, \"%%S\", tz = \"UTC\")) / 3600", x),  # nolint: line_length_linter.
    years_since = if (length(x) == 1) sprintf("as.numeric(as.Date(%s) - as.Date(%s)) / 365.25", as_r_string(step$on), x) else
      sprintf("as.numeric(ifelse(is.na(%1$s), as.numeric(as.Date(%2$s)), as.numeric(as.Date(%1$s))) - as.numeric(as.Date(%3$s))) / 365.25", x[2],
              as_r_string(step$on), x[1]),
    year = sprintf("as.numeric(format(%s, \"%%Y\"))", x),
    month = sprintf("factor(as.integer(format(%s, \"%%m\")), 1:12, month.name)", x),
    weekday = sprintf("factor(as.integer(format(%s, \"%%u\")), 1:7, %s)", x, as_r_strings(weekday_names())),
    quarter = sprintf("factor(quarters(as.Date(%s)), paste0(\"Q\", 1:4))", x),
    before_after = sprintf("factor(ifelse(%s < %s, \"before\", \"after\"), c(\"before\", \"after\"))",
        if (table$columns[[step$from]]$kind == "datetime")
      sprintf("as.Date(%s, tz = \"UTC\")", x) else x, if (table$columns[[step$from]]$kind %in% c("date", "datetime")) sprintf("as.Date(%s)",
          as_r_string(step$on))
      else as_r_number(as.numeric(step$on))),
    outside = sprintf("factor(ifelse(%1$s < %2$s | %1$s > %3$s, \"yes\", \"no\"), c(\"no\", \"yes\"))", x, as_r_number(min(unlist(step$on))), as_r_number(max(unlist(step$on)))),  # nolint: line_length_linter.
    present = sprintf("factor(ifelse(is.na(%s), \"no\", \"yes\"), c(\"no\", \"yes\"))", x),
    answer_count = sprintf("vapply(strsplit(as.character(%s), %s, fixed = TRUE), function(v) if (length(v) == 1 && is.na(v)) NA_real_ else sum(nzchar(trimws(v))) + 0, 0)",  # nolint: line_length_linter.
                           x, as_r_string(trimws(step$mark %||% ";"))),
    holds = sprintf(paste0("factor(ifelse(vapply(strsplit(as.character(%s), %s, fixed = TRUE), function(v) if (length(v) == 1 && is.na(v)) NA else ",
                           "%s %%in%% trimws(v), NA), \"yes\", \"no\"), c(\"no\", \"yes\"))"), x, as_r_string(trimws(step$mark %||% ";")),
                               as_r_string(step$answer %||% "")),
    day_part = sprintf(paste0("factor(c(\"night\", \"morning\", \"afternoon\", \"evening\", \"night\")[findInterval(as.integer(format(%s, \"%%H\", tz = \"UTC\")), ",  # nolint: line_length_linter.
                              "c(0, 6, 12, 18, 22))], c(\"night\", \"morning\", \"afternoon\", \"evening\"))"), x),
    season = sprintf(paste0("factor(c(\"winter\", \"spring\", \"summer\", \"autumn\")[as.integer(format(%s, \"%%m\")) %%%% 12 %%/%% 3 + 1], ",
                            "c(\"spring\", \"summer\", \"autumn\", \"winter\"))"), x),
    weekend = sprintf("factor(ifelse(as.integer(format(%s, \"%%u\")) > 5, \"weekend\", \"weekday\"), c(\"weekday\", \"weekend\"))", x),
    two_periods = script_two_periods(x, step$periods),
    two_ranges = script_two_ranges(x, step, table$columns[[step$from]]$kind),
    against_rest = sprintf("factor(ifelse(is.na(%1$s), NA, ifelse(%1$s == %2$s, %2$s, \"all others\")), c(%2$s, \"all others\"))", x,
                           as_r_string(step$level %||% "")),
    equals = sprintf("factor(ifelse(is.na(%1$s), NA, ifelse(%1$s %%in%% %2$s, \"yes\", \"no\")), c(\"no\", \"yes\"))", x, as_r_strings(unlist(step$level) %||% "")),  # nolint: line_length_linter.
    level_sets = sprintf("factor(%s[match(%s, %s)], %s)", as_r_strings(unlist(step$side)), x, as_r_strings(unlist(step$level)),
                         as_r_strings(unique(unlist(step$side)))),
    years_to = sprintf("%s - %s", as_r_number(step$on), x),
    period = sprintf("factor(%s)", script_period(sprintf("as.Date(%s)", x), step$every)),
    gain = return(script_gain(table, step, x, to, at)),
    from_start = , value_at = return(script_from_start(step, x, to, at)),
    first_time = return(script_first_time(step, x, to, at)),
    last_seen = sprintf("ave(as.numeric(%s), as.character(%s), FUN = function(v) max(v, na.rm = TRUE))", x[2], x[1]),
    first_row = sprintf("factor(ifelse(duplicated(%1$s) | is.na(%1$s), \"no\", \"yes\"), c(\"no\", \"yes\"))", x),
    rows_each = sprintf("as.numeric(table(%s)[as.character(%s)])", x, x),
    rolling_mean = return(script_rolling(step, x, to, variable, at)),
    low = , high = , middle = return(script_range(step, x, to)))
  c(script_comment(sprintf("%s: %s", step$name, derivations()[[step$derive]]$words(step))),
    sprintf("%s <- %s", to, lines[1]), lines[-1])
}

#' A source of a derivation as a number, a date or a text
#' @noRd
script_source <- function(col, variable, step) {
  at <- sprintf("%s[[%s]]", variable, as_r_string(col$name))
  if (step$derive %in% c("low", "high", "middle", "against_rest", "equals", "level_sets")) return(sprintf("as.character(%s)", at))
  switch(col$kind,
    yes_no = sprintf("(as.integer(%s) - 1)", at),
    ordered = if (anyNA(suppressWarnings(as.numeric(col$levels)))) sprintf("as.integer(%s)", at)
              else sprintf("as.numeric(as.character(%s))", at),
    category = sprintf("as.character(%s)", at), at)
}

#' The period of a date, as text
#' @noRd
script_period <- function(x, every) {
  switch(every, week = sprintf("format(%1$s - (as.integer(format(%1$s, \"%%u\")) - 1))", x), month = sprintf("format(%s, \"%%Y-%%m\")", x),
         year = sprintf("format(%s, \"%%Y\")", x),
         quarter = sprintf("ifelse(is.na(%1$s), NA, paste(format(%1$s, \"%%Y\"), quarters(%1$s)))", x), sprintf("format(%s)", x))
}

script_age <- function(x, step) {
  on <- if (length(x) > 1) sprintf("as.Date(%s)", x[2]) else sprintf("as.Date(%s)", as_r_string(step$on))
  part <- function(of, what) sprintf("as.numeric(format(%s, \"%s\"))", of, what)
  birth <- sprintf("as.Date(%s)", x[1])
  sprintf("%s - %s - (%s < %s)", part(on, "%Y"), part(birth, "%Y"), part(on, "%m%d"), part(birth, "%m%d"))
}

script_rolling <- function(step, x, to, variable, at) {
  unit <- if (is.null(step$within)) sprintf("rep(1, nrow(%s))", variable) else sprintf("as.character(%s)", at(step$within))
  order <- if (is.null(step$order)) sprintf("seq_len(nrow(%s))", variable) else sprintf("order(%s, seq_len(nrow(%s)))", at(step$order), variable)
  c(script_comment(sprintf("%s: %s", step$name, derivations()$rolling_mean$words(step))),
    sprintf("place <- %s", order), sprintf("%s <- NA_real_", to),
    sprintf("for (part in split(place, %s[place])) {", unit),
    sprintf("  if (length(part) >= %d) %s[part] <- as.numeric(stats::filter(%s[part], rep(1, %d) / %d, sides = 1))", step$window, to, x,
            step$window, step$window),
    "}")
}

#' The earliest time of a unit at which it was so
#' @noRd
script_first_time <- function(step, x, to, at) {
  c(script_comment(sprintf("%s: %s", step$name, derivations()[[step$derive]]$words(step))),
    sprintf("so <- which(%s == 1); unit <- as.character(%s)", x, at(step$within)),
    sprintf("first <- vapply(split(as.numeric(%s)[so], unit[so]), min, 1)", at(step$order)),
    sprintf("%s <- unname(first[unit])", to))
}

#' The last value of a unit less its first
#' @noRd
script_gain <- function(table, step, x, to, at) {
  stamps <- table$columns[[step$order]]$kind == "datetime"
  c(script_comment(sprintf("%s: %s", step$name, derivations()[[step$derive]]$words(step))),
    sprintf("value <- as.numeric(%s); unit <- as.character(%s); when <- as.numeric(%s)", x, at(step$within), at(step$order)),
    "ok <- !is.na(value) & !is.na(unit) & !is.na(when)",
    if (!is.null(step$on)) sprintf("day <- %s; ok <- ok & day >= as.numeric(as.Date(%s)) & day <= as.numeric(as.Date(%s))",
                                   if (stamps) "floor(when / 86400)" else "when", as_r_string(unlist(step$on)[1]), as_r_string(unlist(step$on)[2])),
    "change <- vapply(split(which(ok), unit[ok]), function(i) { a <- i[which.min(when[i])]; b <- rev(i)[which.max(rev(when[i]))]; if (when[a] == when[b]) NA else value[b] - value[a] }, 1)",  # nolint: line_length_linter.
    sprintf("%s <- unname(change[unit])", to))
}

#' Each value less that of the same unit at one time, or that value itself
#' @noRd
script_from_start <- function(step, x, to, at) {
  less <- if (step$derive == "from_start") sprintf("as.numeric(%s) - ", x) else ""
  c(script_comment(sprintf("%s: %s", step$name, derivations()[[step$derive]]$words(step))),
    if (length(step$within) == 1) sprintf("unit <- as.character(%s)", at(step$within)) else sprintf("unit <- paste(%s, sep = \"\\r\")",
      paste(sprintf("as.character(%s)", vapply(step$within, at, "")), collapse = ", ")),
    if (is.character(step$on)) sprintf("start <- which(as.character(%s) == %s)", at(step$order), as_r_string(step$on))
      else sprintf("start <- which(as.numeric(%s) == %s)", at(step$order), as_r_number(as.numeric(step$on))),
    sprintf("%s <- %sas.numeric(%s)[start][match(unit, unit[start])]", to, less, x))
}

script_range <- function(step, x, to) {
  pick <- switch(step$derive, low = "min(n)", high = "max(n)", middle = "mean(range(n))")
  c(script_comment(sprintf("%s: %s", step$name, derivations()[[step$derive]]$words(step))),
    "range_end <- function(text) {",
    "  if (is.na(text)) return(NA_real_)",
    "  n <- regmatches(text, gregexpr(\"[0-9][0-9,]*([.][0-9]+)?\\\\s*[KkMm]?(?![A-Za-z])\", text, perl = TRUE))[[1]]",
    "  if (!length(n)) return(NA_real_)",
    "  size <- ifelse(grepl(\"[Kk]$\", n), 1e3, ifelse(grepl(\"[Mm]$\", n), 1e6, 1))",
    "  n <- as.numeric(gsub(\"[^0-9.]\", \"\", n)) * size",
    "  n <- n[seq_len(min(2, length(n)))]",
    sprintf("  if (length(n) == 1 && grepl(\"^\\\\s*(<|\\u2264|under|below|less|up to)\", tolower(text))) return(%s)",
            if (step$derive == "high") "n" else "NA_real_"),
    sprintf("  if (length(n) == 1 && grepl(\"(>|\\u2265|over|above|more|\\\\+)\", tolower(text))) return(%s)",
            if (step$derive == "low") "n" else "NA_real_"),
    sprintf("  %s", pick), "}",
    sprintf("%s <- vapply(%s, range_end, 1, USE.NAMES = FALSE)", to, x))
}

#' Which of two periods a date lies in, by the first and the last month of each
#' @noRd
script_two_periods <- function(x, periods) {
  periods <- sort(periods)
  ends <- period_months(periods)
  sprintf("local({ m <- as.integer(format(%s, \"%%Y%%m\")); factor(ifelse(m >= %d & m <= %d, 1, ifelse(m >= %d & m <= %d, 2, NA)), 1:2, %s) })", x,
          ends[1, 1], ends[1, 2], ends[2, 1], ends[2, 2], as_r_strings(period_said(periods)))
}

#' In which of two ranges a value lies
#' @noRd
script_two_ranges <- function(x, step, kind) {
  own <- if (kind == "datetime") sprintf("as.Date(%s, tz = \"UTC\")", x) else x
  ends <- function(values) if (kind %in% c("date", "datetime")) sprintf("as.Date(%s)", vapply(values, as_r_string, "")) else
    vapply(as.numeric(values), as_r_number, "")
  low <- ends(unlist(step$lows)); high <- ends(unlist(step$highs))
  sprintf("local({ v <- %s; factor(ifelse(v >= %s & v <= %s, 1, ifelse(v >= %s & v <= %s, 2, NA)), 1:2, %s) })", own, low[1], high[1], low[2],
      high[2],
          as_r_strings(unlist(step$labels)))
}
