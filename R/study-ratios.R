# Columns that others of their row give: ratios ("scrap_rate" of defects and units), of which a mean weighs every row alike, and days
# between two dates.

#' Names that say of a column that it is a ratio
#' @noRd
ratio_names <- function() "rate|ratio|share|prop|percent|pct|(^|[^a-z])per([^a-z]|$)|(^|[^a-z])(avg|average|mean)([^a-z]|$)|conversion|ctr|yield|price|turn_?out|occupan|prevalence|incidence|densit|efficien|productiv|utili[sz]ation|coverage|speed|intensity|concentration|bmi|attendance|success|accuracy|margin|roi|penetration|response"  # nolint: line_length_linter.

#' Does a name say so? An electorate is no rate
#' @noRd
called_ratio <- function(name) grepl(ratio_names(), gsub("electorate|separate|moderate|operate|generate|corporate|pirate", "", tolower(name)))

#' Those columns whose names say that they are ratios
#' @noRd
called_ratios <- function(columns) columns[called_ratio(vapply(columns, `[[`, "", "name"))]

#' What a column is a ratio of: two others of its table whose quotient it is in every row, but for its rounding
#'
#' @section Shape: list(top, base (names), scale (1, 100 or 1000)), or NULL.
#' @noRd
ratio_parts <- local({
  # (asked of the same table for each question)
  key <- NULL
  kept <- list()
  function(table, name) {
    own <- list(data.table::address(table$data), table$columns)
    if (!identical(own, key)) {
      key <<- own
      kept <<- list()
    }
    if (is.null(kept[[name]])) kept[[name]] <<- list(find_ratio_parts(table, name))
    kept[[name]][[1]]
  }
})

find_ratio_parts <- function(table, name) {
  col <- table$columns[[name]]
  if (is.null(col) || !is_numeric_kind(col$kind) || isTRUE(col$derived) || !called_ratio(name)) return(NULL)
  others <- Filter(function(o) is_numeric_kind(o$kind) && o$name != name && is.null(o$role) && o$distinct > 5 && !isTRUE(o$derived), table$columns)
  others <- utils::head(others, 24)
  if (length(others) < 2 || nrow(table$data) < 8) return(NULL)
  some <- unique(round(seq(1, nrow(table$data), length.out = min(200, nrow(table$data)))))
  value <- function(o, rows) as.numeric(understand(table$data[[o$name]][rows], o))
  parts <- lapply(others, value, rows = some)
  x <- value(col, some)
  # (the digits of the first rows tell how far the column is rounded)
  digits <- max(0, decimals_written(utils::head(x[is.finite(x)], 50)))
  few <- utils::head(which(is.finite(x)), 5)
  for (i in seq_along(others)) for (j in seq_along(others)[-i]) for (scale in c(1, 100, 1000)) {
    if (digits < 1 && scale == 1 || !all(near_quotient(x[few], parts[[i]][few], parts[[j]][few], scale, digits), na.rm = TRUE)) next
    if (!is_rounded_quotient(x, parts[[i]], parts[[j]], scale, digits)) next
    all <- seq_len(nrow(table$data))
    if (is_rounded_quotient(value(col, all), value(others[[i]], all), value(others[[j]], all), scale, digits)) {
      return(list(top = others[[i]]$name, base = others[[j]]$name, scale = scale))
    }
  }
  NULL
}

#' Is `x` everywhere `scale * top / base`, rounded to the decimals it is written with?
#' @noRd
is_rounded_quotient <- function(x, top, base, scale, digits) {
  use <- is.finite(x) & is.finite(top) & is.finite(base) & base != 0
  if (sum(use) < 8 || length(unique(top[use])) < 4 || length(unique(base[use])) < 2) return(FALSE)
  all(near_quotient(x[use], top[use], base[use], scale, digits))
}

near_quotient <- function(x, top, base, scale, digits) {
  quotient <- scale * top / base
  abs(x - quotient) <= 0.5001 * 10^-digits + 1e-9 * abs(quotient)
}

#' Decimals with which numbers are written, at most 12
#' @noRd
decimals_written <- function(x) {
  text <- sprintf("%.12g", x)
  power <- integer(length(text))
  long <- grepl("e", text, fixed = TRUE)
  power[long] <- as.integer(sub("^.*e", "", text[long]))
  digits <- sub("e.*$", "", text)
  pmax(0, ifelse(grepl(".", digits, fixed = TRUE), nchar(sub("^[^.]*[.]", "", digits)), 0L) - power)
}

#' The finding that a column is such a ratio
#' @noRd
ratio_findings <- function(table) {
  named <- called_ratios(Filter(function(col) is_numeric_kind(col$kind) && !identical(col$used, FALSE), table$columns))
  compact(lapply(utils::head(named, 8), function(col) {
    parts <- ratio_parts(table, col$name)
    if (is.null(parts)) return(NULL)
    new_finding("note", table, col$name, integer(),
        sprintf("%s: %s%s / %s in every row. A mean of it weighs all rows alike; ask for %s per %s instead.",
      col$name, if (parts$scale == 1) "" else sprintf("%s * ", format_plain(parts$scale)), parts$top, parts$base, parts$top, parts$base),
      count = nrow(table$data))
  }))
}

#' Does the mean of a ratio, of which an answer tells, differ from the total over the total? NULL where no such mean is told
#' @noRd
check_mean_of_ratio <- function(study, reading, frame) {
  name <- reading$outcome
  told <- reading$task %in% c("describe", "compare", "rank", "trend") && (reading$statistic %||% "mean") == "mean" && is.null(reading$extra$weight)
  table <- study$tables[[frame$table]]
  parts <- if (told && length(name) == 1 && !isTRUE(reading$extra[["rate"]])) ratio_parts(table, name)
  if (is.null(parts)) return(NULL)
  values <- lapply(c(name, parts$top, parts$base), function(n) as.numeric(understood(study, n, frame$table, frame$rows)))
  use <- Reduce(`&`, lapply(values, is.finite))
  if (sum(values[[3]][use]) == 0) return(NULL)
  pooled <- parts$scale * sum(values[[2]][use]) / sum(values[[3]][use]); mean <- mean(values[[1]][use])
  apart <- abs(mean - pooled) > 0.01 * abs(pooled)
  new_check("mean_of_ratio", if (apart) "caution" else "ok", "Mean of the rows against total over total",
            list(list(id = "total_over_total", label = sprintf("%s in all over %s in all", parts$top, parts$base), value = pooled, of = NULL)),
            list(name = name, top = parts$top, base = parts$base, pooled = pooled, mean = mean))
}

#' A number without a unit that is everywhere the days between two dates of its row ("LengthOfStay") is in days
#' @noRd
mark_spans <- function(columns, data) {
  dated <- names(Filter(function(col) col$kind == "date", columns))
  if (length(dated) < 2 || length(dated) > 12) return(columns)
  open <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$unit), columns)
  if (!length(open)) return(columns)
  # (the first rows settle it)
  rows <- seq_len(min(nrow(data), 2000))
  days <- lapply(columns[dated], function(col) as.numeric(understand(data[[col$name]][rows], col)))
  for (name in names(open)) {
    x <- as.numeric(understand(data[[name]][rows], open[[name]]))
    if (sum(!is.na(x)) < 3 || length(unique(x)) < 3) next
    for (to in dated) for (from in setdiff(dated, to)) {
      gap <- days[[to]] - days[[from]]
      beyond <- unique((x - gap)[!is.na(x - gap)])
      # (days are counted with the first or without it)
      if (length(beyond) != 1 || !beyond %in% 0:1) next
      columns[[name]]$unit <- "days"
      columns[[name]]$reason <- sprintf("%s; the days from %s to %s", columns[[name]]$reason, from, to)
    }
  }
  columns
}
