# Steps of a table: columns derived, rows left out, rows that stand for many cases, in the order in which they were asked for.

#' The table again from what was opened: every step in its order
#'
#' A change to a source column reaches the columns derived from it, because nothing derived is kept.
#' @noRd
rebuild_table <- function(table) {
  if (!length(table$steps)) return(table)
  table$original <- table$original %||% table$data
  table$data <- table$original
  table$columns <- lapply(table$columns, all_levels)
  table$kept <- seq_len(nrow(table$original))
  for (i in seq_along(table$steps)) {
    step <- table$steps[[i]]
    if (step$type == "derive") table <- add_derived(table, step)
    else if (step$type == "repeat") table <- repeat_rows(table, step)
    else if (step$type == "units") table <- unit_rows(table, step)
    else {
      done <- drop_rows(table, step)
      table <- done$table
      table$steps[[i]]$rows <- done$rows
    }
  }
  table$columns <- lapply(table$columns, function(col) recount(col, table$data[[col$name]]))
  table
}

add_derived <- function(table, step) {
  values <- derive_values(table, step)
  # a list of columns shares their memory; the original table is not touched
  table$data <- data.table::setDT(c(as.list(table$data), stats::setNames(list(values), step$name)))
  if (is.null(table$columns[[step$name]])) {
    col <- profile_column(step$name, values, codes = character())
    col["missing_codes"] <- list(NULL)
    col$reason <- derivations()[[step$derive]]$words(step)
    if (col$kind == "yes_no" && is.numeric(values)) col <- utils::modifyList(col, list(kind = "count", levels = NULL))
    # (numbers that were worked out measure something, even where they run from row to row)
    if (is.numeric(values) && col$kind == "id") col$kind <- "number"
    if (is.factor(values)) { col$kind <- if (step$derive %in% c("bands", "month", "weekday", "period")) "ordered" else col$kind
      col$levels <- levels(values) }
    col$unit <- col$unit %||% unit_carried(table, step)
    # what is left of a unit by a logarithm or a standardisation is none, and "two_months" is measured in nothing
    if (step$derive %in% c("log", "log10", "log2", "square_root", "standardised", "ratio", "product", "two_periods")) col["unit"] <- list(NULL)
    if (step$derive %in% c("percent_change", "percent_fall")) col$unit <- "%"
    # (a score from -100 to 100, of three values in each row)
    if (step$derive == "net_promoter") col <- utils::modifyList(col, list(kind = "number", unit = NULL, levels = NULL, role = NULL))
    col$derived <- TRUE
    if (step$derive == "period") col$role <- "period"
    # however it is called, a number of rows counts
    if (step$derive == "rows_each") col[c("kind", "role", "levels")] <- list("count", NULL, NULL)
    table$columns[[step$name]] <- col
  }
  table
}

#' The unit that a derived column shares with all of its sources; days between two dates
#' @noRd
unit_carried <- function(table, step) {
  if (!step$derive %in% c("difference", "sum", "mean", "rolling_mean")) return(NULL)
  sources <- table$columns[step$from]
  if (step$derive == "difference" && all(vapply(sources, `[[`, "", "kind") == "date")) return("days")
  units <- unique(lapply(sources, `[[`, "unit"))
  if (length(units) == 1) units[[1]]
}

#' Every row as often as the cases that it stands for
#' @section Errors: `upbeatquill_error_bad_amendment` where the counts are no whole numbers from zero up, or too many.
#' @noRd
repeat_rows <- function(table, step, most = 2e7) {
  count <- as.numeric(understand(table$data[[step$column]], table$columns[[step$column]]))
  bad <- is.na(count) | count < 0 | count != round(count)
  if (any(bad)) {
    stop_input(sprintf("%s cannot say how many cases each row stands for: %s no whole number from zero up.", quoted(step$column),
                       paste(count_of(sum(bad), "row"), plural(sum(bad), "holds", "hold"))), class = "bad_amendment")
  }
  if (sum(count) < 1 || sum(count) > most) {
    stop_input(sprintf("The counts in %s add up to %s; between 1 and %s cases can be counted so.", quoted(step$column), format_plain(sum(count)),
                       format_plain(most)), class = "bad_amendment")
  }
  at <- rep(seq_along(count), count)
  table$data <- table$data[at, ]
  table$kept <- table$kept[at]
  table
}

#' One row for each unit (in each group of other columns), with its total over the rows that meet the conditions
#'
#' @param step list(unit, column (added up; with `rows`, the rows are counted into it; with `distinct`, the different values of
#'   that column are), rows, distinct, by, filters).
#' @noRd
unit_rows <- function(table, step) {
  gone <- rows_to_leave_out(table, list(filters = step$filters, keep = TRUE)) | is.na(understand(table$data[[step$unit]], table$columns[[step$unit]]))
  value <- if (step$rows) rep(1, nrow(table$data)) else as.numeric(understand(table$data[[step$column]], table$columns[[step$column]]))
  if (!is.null(step$distinct)) gone <- gone | is.na(understand(table$data[[step$distinct]], table$columns[[step$distinct]]))
  rows <- which(!gone & !is.na(value))
  if (!length(rows)) stop_data("No row meets the conditions.", class = "no_rows")
  key <- do.call(paste, c(lapply(c(step$unit, step$by), function(name) as.character(table$data[[name]][rows])), sep = "\r"))
  if (!is.null(step$distinct)) value[rows] <- !duplicated(paste(key, table$data[[step$distinct]][rows], sep = "\r"))
  at <- match(key, unique(key))
  total <- as.vector(rowsum(value[rows], at))
  first <- rows[!duplicated(at)]
  table$data <- table$data[first, ]
  table$data <- data.table::setDT(utils::modifyList(as.list(table$data), stats::setNames(list(total), step$column)))
  # a total is no code, whatever codes the single values have
  col <- table$columns[[step$column]]
  if (!step$rows && is.null(step$distinct)) col$label <- sprintf("%s per %s", col$label %||% gsub("[_.]+", " ", strip_tail(step$column)),
                                       key_noun(tolower(step$unit)))
  col["missing_codes"] <- list(NULL)
  table$columns[[step$column]] <- col
  table$kept <- table$kept[first]
  table
}

units_words <- function(table, steps) {
  vapply(steps, function(step) {
    groups <- if (length(step$by)) sprintf(" in each group of %s", some_of(step$by, 4)) else ""
    what <- if (!is.null(step$distinct)) sprintf("the number of its different values of %s", step$distinct)
      else if (step$rows) "the number of its rows" else paste("its total of", step$column)
    sprintf("Each %s counts once%s, with %s", step$unit, groups, what)
  }, "")
}

stands_for_cases <- function(table) any(vapply(table$steps, function(step) step$type == "repeat", NA))

#' The column that says how many cases each row stands for, where a table is one of counts: nothing but levels besides, no
#' combination of them twice; NULL for other tables
#' @noRd
cells_column <- function(table) {
  columns <- Filter(function(col) !identical(col$used, FALSE), table$columns)
  kinds <- vapply(columns, `[[`, "", "kind")
  names <- vapply(columns, `[[`, "", "name")
  count <- which(kinds == "count" & grepl("^(freq|frequency|count|counts|n|cases|persons|people|respondents|individuals)$", tolower(names)))
  if (length(count) != 1 || length(columns) < 2 || !all(kinds[-count] %in% c("category", "yes_no", "ordered"))) return(NULL)
  if (stands_for_cases(table) || nrow(table$data) > 20000 || nrow(table$data) < 2) return(NULL)
  cells <- table$data[, names[-count], with = FALSE]
  values <- as.numeric(understand(table$data[[names[count]]], columns[[count]]))
  if (anyDuplicated(cells) || anyNA(values) || sum(values) < 2 || sum(values) > 5e6) return(NULL)
  names[count]
}

drop_rows <- function(table, step) {
  gone <- rows_to_leave_out(table, step)
  if (!any(gone)) return(list(table = table, rows = 0L))
  if (all(gone)) stop_data("That would leave no row.", class = "no_rows")
  table$data <- table$data[!gone, ]
  table$kept <- table$kept[!gone]
  list(table = table, rows = sum(gone))
}

#' Rows that a step leaves out: those that meet all its conditions (or, with `keep`, those that do not)
#' @noRd
rows_to_leave_out <- function(table, step) {
  if (!is.null(step$numbers)) return(table$kept %in% step$numbers)
  hit <- rep(TRUE, nrow(table$data))
  for (f in step$filters) hit <- hit & row_matches(understand(table$data[[f$column]], table$columns[[f$column]]), f)
  if (isTRUE(step$keep)) !hit else hit
}

#' Counts of a column after rows have gone; levels of a category that no row holds any more go with them
#' @noRd
recount <- function(col, raw) {
  seen <- drop_codes(if (length(col$recode)) recode_values(raw, col$recode) else raw, col$missing_codes)
  col$missing <- length(raw) - length(seen)
  col$distinct <- data.table::uniqueN(seen)
  if (col$kind == "category" && !is.null(col$levels)) {
    stored <- col$codes %||% col$levels
    here <- stored %in% (if (is.numeric(seen)) plain_text_values(unique(seen)) else unique(as.character(seen)))
    if (any(here) && !all(here)) {
      col$absent <- list(levels = col$levels[!here], codes = col$codes[!here])
      col$levels <- col$levels[here]
      if (!is.null(col$codes)) col$codes <- col$codes[here]
    }
  }
  col
}

#' A column with the levels that only rows left out hold, as the steps and the script need it
#' @noRd
all_levels <- function(col) {
  if (is.null(col$absent)) return(col)
  gone <- col$absent$levels
  gone <- ifelse(gone %in% names(col$recode), col$recode[gone], gone)
  new <- !gone %in% col$levels & !duplicated(gone)
  if (!is.null(col$codes)) col$codes <- c(col$codes, col$absent$codes[new])
  col$levels <- c(col$levels, unname(gone[new]))
  col$absent <- NULL
  col
}

#' What was left out of a table, in words
#' @noRd
left_out_words <- function(table) {
  cells <- Filter(function(step) step$type == "repeat", table$steps)
  steps <- Filter(function(step) step$type == "leave_out" && isTRUE(step$rows > 0), table$steps)
  c(cases_words(table, cells), vapply(steps, function(step) sprintf("%s left out of %s: %s",
    capital(paste(count_of(step$rows, "row"), plural(step$rows, "is", "are"))), table$name, step_words(step)), ""))
}

cases_words <- function(table, steps) {
  vapply(steps, function(step) sprintf("Each row of %s stands for as many cases as %s says", table$name, step$column), "")
}

#' What a reading says of the steps of its tables: those amended before, and those that the question alone takes for granted
#' @noRd
carried_words <- function(table) {
  implied <- c(cases_words(table, Filter(function(step) isTRUE(step$implied) && step$type == "repeat", table$steps)),
               units_words(table, Filter(function(step) step$type == "units", table$steps)))
  amended <- setdiff(left_out_words(table), implied)
  sprintf("%s%s.", rep(c("", "Amended before: "), c(length(implied), length(amended))), c(implied, amended))
}

step_words <- function(step) {
  if (!is.null(step$numbers)) return(sprintf("%s %s", plural(length(step$numbers), "row", "rows"),
                                             some_of(as.character(step$numbers), 6)))
  text <- paste(vapply(step$filters, plain_filter, ""), collapse = " and ")
  if (isTRUE(step$keep)) sprintf("those not meeting \"%s\"", text) else text
}
