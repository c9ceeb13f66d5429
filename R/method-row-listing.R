#' The cells themselves, where the question asks for one column of a few rows
#' @noRd
say_few_cells <- function(ctx, res) {
  y <- ctx$reading$outcome
  cells <- res$tables[[1]]$data
  if (length(y) != 1 || !y %in% names(cells) || nrow(cells) < 1 || nrow(cells) > 6) return(NULL)
  named <- Filter(function(f) f$column %in% names(cells) && f$op %in% c("==", "in"), ctx$reading$filters)
  # a row is named by what tells it, or its unit, from the others
  key <- utils::head(intersect(names(ctx$row_labels(cells$row)), setdiff(names(cells), y)), 1)
  value <- cells[[y]]
  said <- ifelse(is.na(value), "missing", if (is.numeric(value)) with_unit(say_number(value), ctx$columns[[y]]$unit) else as.character(value))
  of <- if (length(named) == 1) as.character(cells[[named[[1]]$column]]) else
    paste0(if (length(key)) paste0(cells[[key]], ", "), paste("row", say_number(cells$row)))
  sprintf("%s: %s.", capital(say_column(ctx$columns[[y]])), some_of(sprintf("%s (%s)", said, of), 6))
}

#' @noRd
method_row_listing <- function() {
  new_method(
    id = "row_listing", name = "Rows that meet the conditions", tasks = "look_up",
    fits = function(shape) if (shape$task == "look_up") new_fit(80, "The question asks to see rows."),
    compute = function(ctx) {
      rows <- ctx$frame$rows
      shown <- utils::head(rows, 100)
      cells <- ctx$listed(shown)
      table <- data.frame(row = as.numeric(shown), cells, check.names = FALSE, stringsAsFactors = FALSE)
      result(list(new_number("n", "rows that meet the conditions", length(rows))),
          tables = list(new_table("rows",
          if (length(rows) > 100) "The first 100 rows that meet the conditions" else "Rows that meet the conditions", table)),
             columns = names(cells))
    },
    sentences = function(ctx, res) {
      n <- res$number$n
      f <- vapply(ctx$reading$filters, plain_filter, "")
      where <- if (length(f)) sprintf(" where %s", paste(f, collapse = " and ")) else ""
      text <- say_few_cells(ctx, res) %||% sprintf("%s%s.", capital(count_of(n, "row")), where)
      list(headline = text, details = c("Row numbers are those of the file.", if (n > 100) "The first 100 are shown."), write_up = text)
    },
    script = function(ctx, res) {
      numeric <- Filter(function(n) is.numeric(res$tables[[1]]$data[[n]]), res$columns)
      c("shown <- utils::head(rows, 100)",
        sprintf("tables <- list(rows = data.frame(row = as.numeric(rownames(shown))%s, check.names = FALSE))",
            paste(vapply(numeric, function(n) sprintf(", %s = shown[[%s]]", as_r_string(n), as_r_string(n)), ""), collapse = "")),
        "numbers <- list(n = nrow(rows))")
    },
    next_steps = function(ctx, res) "What is in this data?")
}
