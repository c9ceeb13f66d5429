# What looks wrong in the data.

#' @noRd
method_quality_scan <- function() {
  new_method(
    id = "quality_scan", name = "Scan for problems", tasks = "quality",
    fits = function(shape) if (shape$task == "quality") new_fit(90,
                                                                paste0("The question asks for missing, repeated, ",
                                                                       "inconsistent or odd values.")),
    compute = compute_quality, sentences = say_quality, script = script_quality,
    next_steps = function(ctx, res) "What is in this data?")
}

compute_quality <- function(ctx) {
  asked <- ctx$reading$outcome
  book <- ctx$codebook
  findings <- ctx$findings
  if (length(asked)) {
    book <- book[book$column %in% asked, ]
    findings <- Filter(function(f) isTRUE(f$column %in% asked), findings)
  }
  missing <- data.frame(table = book$table, column = book$column, missing = book$missing,
                        percent = 100 * book$missing / book$rows, stringsAsFactors = FALSE)
  # under conditions only their rows are counted; what looks odd is a matter of all rows
  held <- length(ctx$reading$filters) > 0 && length(asked) > 0
  if (held) {
    findings <- list()
    missing$missing <- vapply(missing$column, function(name) sum(is.na(ctx$frame$data[[name]])), 1L)
    missing$percent <- 100 * missing$missing / ctx$frame$after_filters
  }
  missing <- missing[order(-missing$percent), ]
  rownames(missing) <- NULL
  table <- data.frame(severity = vapply(findings, `[[`, "", "severity"),
                      column = vapply(findings, function(f) f$column %||% "", ""),
                      message = vapply(findings, `[[`, "", "message"),
                      count = vapply(findings, function(f) if (is.na(f$count)) "" else say_number(f$count),
                          ""), amendment = vapply(findings, function(f) f$amendment %||% "", ""),
                      rows = vapply(findings, function(f) paste(utils::head(f$rows, 5), collapse = ", "), ""),
                      stringsAsFactors = FALSE)
  fences <- if (isTRUE(ctx$reading$extra$fences)) values_beyond(ctx)
  repeats <- if (!is.null(ctx$reading$extra$repeats)) occurs_again(ctx$frame$data[[ctx$reading$extra$repeats]])
  result(list(new_number("missing_cells", "missing cells", sum(missing$missing)),
              new_number("columns_with_missing", "columns with missing values", sum(missing$missing > 0)),
              if (!held) new_number("duplicate_rows", "rows the same as an earlier row", ctx$duplicates),
              new_number("n", "rows", if (held) ctx$frame$after_filters else ctx$frame$total), if (!is.null(repeats)) new_number("repeated_values",
                sprintf("rows whose %s occurs in another row", ctx$reading$extra$repeats), sum(repeats)),
              if (!is.null(fences)) new_number("beyond_fences", "values beyond the inner fences", nrow(fences$rows))) |> compact(),
         fences = fences,
         tables = compact(list(if (!is.null(fences) && nrow(fences$rows)) new_table("beyond", "Values beyond the inner fences",
             utils::head(fences$rows, 200)),
                               if (nrow(table)) new_table("findings", "Findings", table),
                               new_table("missing", "Missing values by column",
                                         missing[missing$missing > 0 | nrow(missing) <= 20, ]))), missing = missing,
                                         findings = table, repeats = repeats, held = held)
}

#' Values beyond the inner fences: more than one and a half interquartile ranges from the quartiles
#' @section Shape: list(rows = data frame row, value (the furthest first), fences = c(low, high)).
#' @section Source: Tukey, J. W. (1977). Exploratory Data Analysis, section 2D.
#' @noRd
values_beyond <- function(ctx) {
  x <- as_plain_number(ctx$frame$data[[ctx$reading$outcome[1]]])
  if (!any(!is.na(x))) return(NULL)
  q <- stat_group_quantiles(x)
  fences <- c(q[1] - 1.5 * (q[3] - q[1]), q[3] + 1.5 * (q[3] - q[1]))
  out <- kernel_beyond(as.double(x), fences[1], fences[2])
  out <- out[order(-abs(x[out] - q[2]))]
  rows <- data.frame(row = ctx$frame$rows[out], value = x[out])
  # (only the furthest are told by their names)
  told <- utils::head(rows$row, 6)
  label <- ctx$row_labels(told)
  list(rows = rows, named = if (length(label)) as.character(label[[1]]) else sprintf("row %s", told), fences = fences, n = sum(!is.na(x)))
}

#' "1 of 11 values of y lies beyond the inner fences (3.66 to 10.6): 12.7 in row 3"
#' @noRd
say_beyond_fences <- function(ctx, res) {
  f <- res$fences
  y <- say_column(outcome_column(ctx)); out <- nrow(f$rows)
  span <- sprintf("the inner fences (%s to %s, one and a half interquartile ranges beyond the quartiles)", say_number(f$fences[1]),
      say_number(f$fences[2]))
  if (out == 0) return(sprintf("No value of %s lies beyond %s.", y, span))
  share <- if (out > 0.05 * f$n) " So many are the shape of the column rather than slips." else ""
  sprintf("%s of %s %s of %s %s beyond %s: %s.%s", say_number(out), say_number(f$n), plural(f$n, "value", "values"), y, plural(out, "lies", "lie"),
      span,
          some_of(sprintf("%s in %s", say_value(f$rows$value[seq_along(f$named)]), f$named), 6, n = out), if (f$n >= 40) share else "")
}

#' Rows whose value stands in another row as well; a missing one is no value
#' @noRd
occurs_again <- function(x) { x <- as.character(x); !is.na(x) & (duplicated(x) | duplicated(x, fromLast = TRUE)) }

say_quality <- function(ctx, res) {
  n <- res$number
  gaps <- res$missing[res$missing$missing > 0, ]
  missing <- if (nrow(gaps)) sprintf("%s with missing values: %s.", capital(count_of(nrow(gaps), "column")),
                                     some_of(sprintf("%s (%s, %s)", gaps$column, say_number(gaps$missing),
                                                     say_percent(gaps$percent / 100, 1)),
                                                     8)) else "No value is missing."
  repeats <- if (res$held) "Under a condition only missing values are counted; ask without it for a scan of all rows." else if (n$duplicate_rows > 0) sprintf("%s the same as an earlier row.",  # nolint: line_length_linter.
                                               capital(paste(count_of(n$duplicate_rows, "row"),
                                                             plural(n$duplicate_rows, "is",
                                                                 "are")))) else "No row repeats an earlier one."
  worst <- res$findings[res$findings$severity != "note", ]
  headline <- if (nrow(worst)) sprintf("%s worth a look. %s", capital(count_of(nrow(worst), "finding")),
                                       worst$message[1]) else if (res$held) missing else sprintf("Nothing stands out. %s", missing)
  noted <- utils::head(res$findings$message[res$findings$severity == "note"], 4)
  key <- ctx$reading$extra$repeats
  if (!is.null(key)) {
    values <- unique(as.character(ctx$frame$data[[key]])[res$repeats])
    told <- if (n$repeated_values == 0) sprintf("Every value of %s occurs once.", key) else sprintf("%s of %s %s more than once, in %s: %s.",
      capital(count_of(length(values), "value")), key, plural(length(values), "occurs", "occur"), count_of(n$repeated_values, "row"),
          some_of(values, 6))
    return(list(headline = told, details = c(headline, missing, repeats, "Findings change nothing by themselves."), write_up = told))
  }
  if (!is.null(res$fences)) {
    told <- say_beyond_fences(ctx, res)
    return(list(headline = told, details = c(if (nrow(worst)) utils::head(worst$message, 4), missing,
      "Values beyond the fences are not wrong by that; findings change nothing by themselves."), write_up = told))
  }
  # "any duplicate rows": the answer to that first
  if (isTRUE(ctx$reading$extra$about_repeats)) return(list(headline = repeats, details = c(headline, missing,
      "Findings change nothing by themselves."),
    write_up = repeats))
  # "how many ozone readings are missing": the answer to that first
  if (isTRUE(ctx$reading$extra$about_missing)) {
    one <- length(ctx$reading$outcome) == 1 && nrow(gaps) == 1
    told <- if (one) sprintf("%s of %s of %s %s missing (%s).", say_number(gaps$missing),
        count_of(if (res$held) ctx$frame$after_filters else ctx$frame$total, "value"), gaps$column,
                             plural(gaps$missing, "is", "are"), say_percent(gaps$percent / 100, 1)) else missing
    return(list(headline = told, details = c(if (nrow(worst)) headline, if (one) NULL else repeats, "Findings change nothing by themselves."),
        write_up = told))
  }
  list(headline = headline, details = c(if (nrow(worst)) missing, repeats, utils::head(worst$message[-1], 8),
                                        if (length(noted)) paste0("Noted besides: ", noted),
                                        "Findings change nothing by themselves."), write_up = paste(missing, repeats))
}

script_quality <- function(ctx, res) {
  frame <- if (res$held) "kept" else "data"
  c("tables <- list()", "# missing values by column and repeated rows, counted again for the table opened above",
    sprintf("columns <- %s", as_r_strings(res$tables[[length(res$tables)]]$data$column)),
    sprintf("gone <- vapply(columns, function(name) sum(is.na(%s[[name]])), 1)", frame),
    sprintf("tables$missing <- data.frame(missing = as.numeric(gone), percent = 100 * gone / nrow(%s))", frame),
    if (!is.null(ctx$reading$extra$repeats)) sprintf("key <- as.character(data[[%s]])", as_r_string(ctx$reading$extra$repeats)),
    sprintf("numbers <- list(missing_cells = sum(gone), columns_with_missing = sum(gone > 0)%s, n = nrow(%s))",
            if (res$held) "" else ", duplicate_rows = sum(duplicated(data))", frame),
    if (!is.null(res$fences)) c(sprintf("x <- as.numeric(%s)", script_value(outcome_name(ctx))),
      "q <- quantile(x, c(0.25, 0.75), na.rm = TRUE); beyond <- which(!is.na(x) & (x < q[1] - 1.5 * diff(q) | x > q[2] + 1.5 * diff(q)))",
      "beyond <- beyond[order(-abs(x[beyond] - median(x, na.rm = TRUE)))]; numbers$beyond_fences <- length(beyond)",
      if (nrow(res$fences$rows)) "tables$beyond <- head(data.frame(row = as.integer(rownames(rows))[beyond], value = x[beyond]), 200)"),
    if (!is.null(ctx$reading$extra$repeats)) "numbers$repeated_values <- sum(!is.na(key) & (duplicated(key) | duplicated(key, fromLast = TRUE)))")
}
