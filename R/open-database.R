# Tables of databases, read through DBI; and columnar files.

#' Tables of a database connection: all of them, or one query
#' @noRd
open_connection <- function(connection, query = NULL) {
  need_package("DBI", to = "read from a database")
  if (!is.null(query)) return(list(database_table(queried_rows(connection, query), "query", query)))
  tables <- DBI::dbListTables(connection)
  if (!length(tables)) stop_input("The database holds no table.", class = "folder_empty")
  compact(lapply(sort_text(tables), function(name) {
    data <- DBI::dbReadTable(connection, name, check.names = FALSE)
    if (nrow(data) && ncol(data)) database_table(data, name, NULL)
  }))
}

#' The rows of a query that only reads
#' @noRd
queried_rows <- function(connection, query) {
  if (!is.character(query) || length(query) != 1 || is.na(query)) {
    stop_input("`query` takes one SQL query as text.", class = "bad_query")
  }
  plain <- trimws(gsub("--[^\n]*|/[*].*?[*]/", " ", query, perl = TRUE))
  if (!grepl("^[(]?(select|with|values|table|from)\\b", plain, ignore.case = TRUE) ||
      grepl("\\b(insert\\s+into|delete\\s+from|update\\s+[^;]*\\bset|drop|alter|truncate)\\s", gsub("'[^']*'", "''", plain), ignore.case = TRUE)) {
    stop_input("The query does more than read, so it was not sent.", todo = "Give a query that starts with SELECT or WITH and changes nothing.",
               class = "bad_query")
  }
  data <- tryCatch(DBI::dbGetQuery(connection, query), error = function(e) {
    stop_input("The database did not answer the query.", first_line(conditionMessage(e)), "Correct the query and try again.", class = "bad_query")
  })
  if (!nrow(data) || !ncol(data)) stop_input("The query finds no rows.", class = "file_no_rows")
  data
}

database_table <- function(data, name, query) {
  data[] <- lapply(data, plain_cells)
  opened <- open_frame(as.data.frame(data), name)
  opened$source$query <- query
  opened
}

#' Files of an embedded database, opened read-only: every table with rows
#'
#' @param format "sqlite" or "duckdb".
#' @noRd
open_database_file <- function(path, format) {
  need_package("DBI", to = "open a database file")
  need_package(database_package(format), to = sprintf("open %s", quoted(basename(path))))
  unreadable <- function(e) stop_input(sprintf("%s is not a database that can be read.", quoted(basename(path))), first_line(conditionMessage(e)),
                                       class = "file_unreadable")
  connection <- tryCatch(connect_file(path, format), error = unreadable)
  on.exit(DBI::dbDisconnect(connection))
  tables <- tryCatch(sort_text(DBI::dbListTables(connection)), error = unreadable)
  opened <- compact(lapply(tables, function(name) {
    data <- DBI::dbReadTable(connection, name, check.names = FALSE)
    if (!nrow(data) || !ncol(data)) return(NULL)
    typed_table(path, data, name, format, list(table = name))
  }))
  if (!length(opened)) stop_input(sprintf("%s holds no table with rows.", quoted(basename(path))),
                                  class = "file_no_rows")
  opened
}

database_package <- function(format) c(sqlite = "RSQLite", duckdb = "duckdb")[[format]]

connect_file <- function(path, format) {
  if (format == "sqlite") return(DBI::dbConnect(RSQLite::SQLite(), path, flags = RSQLite::SQLITE_RO))
  # the package is large and not among those that are installed with the rest
  driver <- getExportedValue("duckdb", "duckdb")
  # it tells at length where its own extensions are kept, which no reader of a file needs
  suppressMessages(DBI::dbConnect(driver(dbdir = path, read_only = TRUE)))
}

#' Cells that hold several values or parts as one text each; a comma between numbers would read as a decimal mark
#' @noRd
plain_cells <- function(v) {
  if (is.data.frame(v)) return(do.call(paste, c(lapply(names(v), function(n) paste0(n, ": ", as.character(v[[n]]))), list(sep = "; "))))
  if (is.list(v)) vapply(v, function(e) if (is.null(e)) NA_character_ else paste(as.character(unlist(e)), collapse = "; "), "") else v
}

#' @noRd
open_parquet <- function(path) {
  need_package("nanoparquet", to = sprintf("open %s", quoted(basename(path))))
  data <- tryCatch(as.data.frame(nanoparquet::read_parquet(path)), error = function(e) {
    stop_input(sprintf("%s could not be read.", quoted(basename(path))), first_line(conditionMessage(e)),
               class = "file_unreadable")
  })
  if (!nrow(data) || !ncol(data)) stop_input(sprintf("%s holds no rows.", quoted(basename(path))),
                                             class = "file_no_rows")
  list(typed_table(path, data, tools::file_path_sans_ext(basename(path)), "parquet", list()))
}

#' A table whose columns already have types
#' @noRd
typed_table <- function(path, data, name, format, extra) {
  plain <- lapply(data, function(v) {
    if (inherits(v, "integer64")) v <- as.numeric(v)
    v <- plain_cells(v)
    if (is.character(v)) v[!nzchar(v)] <- NA
    v
  })
  table <- data.table::as.data.table(plain)
  names <- mend_names(names(data))
  data.table::setnames(table, names)
  list(name = name, data = table, source = c(file_source(path, basename(path), format, nrow(table)), extra,
                                             list(names = names)))
}
