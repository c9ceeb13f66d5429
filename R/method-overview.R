#' @noRd
method_overview <- function() {
  new_method(
    id = "overview", name = "Overview of the data", tasks = "overview",
    fits = function(shape) if (shape$task == "overview") new_fit(90, "The question asks what the data holds."),
    compute = function(ctx) {
      book <- ctx$codebook
      table <- book[c("table", "column", "kind", "label", "unit", "missing", "distinct", "reason")]
      result(list(new_number("n", "rows", ctx$frame$total), new_number("columns", "columns", nrow(book)),
                  new_number("missing_cells", "missing cells", sum(book$missing))),
                  tables = list(new_table("columns", "Columns", table)), book = book)
    },
    sentences = function(ctx, res) {
      kinds <- sort(table(res$book$kind), decreasing = TRUE)
      tables <- ctx$tables_text
      text <- sprintf("%s: %s.", tables, some_of(sprintf("%d %s", kinds, kind_plural(names(kinds), kinds)), 10))
      gaps <- res$book[res$book$missing > 0, ]
      details <- c(ctx$joins_text, if (nrow(gaps)) sprintf("Missing values stand in %s: %s.",
                                                           count_of(nrow(gaps), "column"),
                                                           some_of(sprintf("%s (%s)", gaps$column,
                                                               say_number(gaps$missing)),
                                                               8)) else "No value is missing.", ctx$findings_text)
      list(headline = text, details = details, write_up = text)
    },
    script = script_overview)
}

kind_plural <- function(kind, n) {
  words <- c(number = "number", count = "count", ordered = "ordered answer", category = "category",
             yes_no = "yes/no column", date = "date", datetime = "time stamp", text = "text column", id = "identifier",
             constant = "constant", empty = "empty column")
  many <- c(category = "categories")
  one <- words[kind]
  ifelse(n == 1, one, ifelse(kind %in% names(many), many[kind], paste0(one, "s")))
}

#' Rows, columns and missing cells counted again from the file, for the first table
#' @noRd
script_overview <- function(ctx, res) {
  first <- res$book$table[1]
  own <- res$book[res$book$table == first, ]
  if (length(unique(res$book$table)) > 1) {
    return(c("tables <- list()", "# only the first of several tables is counted here",
             "numbers <- list(n = nrow(data))"))
  }
  c("tables <- list()", sprintf("columns <- %s", as_r_strings(own$column)),
    "gone <- vapply(columns, function(name) sum(is.na(data[[name]])), 1)",
    paste0("tables$columns <- data.frame(missing = as.numeric(gone), distinct = vapply(columns, function(name) ",
           "length(unique(na.omit(data[[name]]))), 1))"),
    "numbers <- list(n = nrow(data), columns = length(columns), missing_cells = sum(gone))")
}
