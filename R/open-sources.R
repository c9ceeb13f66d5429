# From whatever the user hands over to named tables.

#' Open one or more sources
#'
#' @section Shape: list of list(name, data, source, facts): facts is a named list of what the source itself says of
#'   its columns.
#' @noRd
open_sources <- function(x, name = "data", query = NULL) {
  if (is.data.frame(x)) return(list(open_frame(x, name)))
  if (inherits(x, "DBIConnection")) return(open_connection(x, query))
  if (is.list(x) && length(x) && all(vapply(x, is.data.frame, NA))) {
    names <- names(x) %||% sprintf("table_%d", seq_along(x))
    return(Map(open_frame, x, names))
  }
  if (!is.character(x) || !length(x) || anyNA(x)) {
    stop_input("open_study() takes the paths of files, a folder, data frames or a database connection.",
               sprintf("It was given an object of class %s.", quoted(class(x)[1])))
  }
  paths <- unlist(lapply(x, files_of), use.names = FALSE)
  opened <- open_among(paths)
  names <- make.unique(vapply(opened, `[[`, "", "name"), sep = "_")
  for (i in seq_along(opened)) opened[[i]]$name <- names[i]
  opened
}

#' Extensions that can be opened
#' @noRd
readable_pattern <- function() {
  extensions <- c("csv", "tsv", "tab", "txt", "dat", "csv[.]gz", "tsv[.]gz", "txt[.]gz", "gz", "zip", "ods", "xlsx", "xls", "xlsm", "sav", "zsav",
                  "por", "dta", "xpt", "sas7bdat", "json", "ndjson", "jsonl", "parquet", "sqlite", "sqlite3", "db", "duckdb", "ddb", "xml",
                  "html", "htm")
  sprintf("[.](%s)$", paste(extensions, collapse = "|"))
}

#' Open one file by its extension, or by its first bytes where the extension says nothing
#' @noRd
open_file <- function(path) {
  say_progress(sprintf("Reading %s (%s) ...", basename(path), say_bytes(file.size(path))), file.size(path))
  extension <- tolower(tools::file_ext(path))
  if (identical(extension, "xml")) return(list(open_ddi(path)))
  magic <- tryCatch(readBin(path, "raw", n = 16), error = function(e) raw())
  starts <- function(...) length(magic) >= length(c(...)) && identical(magic[seq_along(c(...))], as.raw(c(...)))
  is_zip <- starts(0x50, 0x4b, 0x03, 0x04)
  # some programs give a text or a web page the name of a workbook
  if (extension %in% c("html", "htm") || extension %in% c("xlsx", "xlsm", "xls") && starts_as_page(magic)) return(open_html(path))
  if (extension %in% c("xlsx", "xlsm", "xls") && reads_as_text(magic)) {
    text <- tryCatch(open_delimited(path), upbeatquill_error_input = function(e) NULL)
    if (!is.null(text)) return(list(text))
  }
  if (extension %in% c("xlsx", "xlsm", "xls")) return(open_workbook(path))
  if (extension %in% c("sav", "zsav", "por", "dta", "xpt", "sas7bdat")) return(list(open_statistics_file(path)))
  if (extension == "ods") return(open_ods(path))
  if (extension == "parquet" || starts(0x50, 0x41, 0x52, 0x31)) return(open_parquet(path))
  if (starts(0x53, 0x51, 0x4c, 0x69, 0x74, 0x65) || extension %in% c("sqlite", "sqlite3",
      "db")) return(open_database_file(path, "sqlite"))
  # a DuckDB file says so after its checksum
  if (extension %in% c("duckdb", "ddb") || length(magic) >= 12 && identical(magic[9:12], charToRaw("DUCK"))) return(open_database_file(path,
      "duckdb"))
  if (extension == "zip" || is_zip) return(open_zip(path))
  if (extension %in% c("json", "ndjson", "jsonl")) return(open_json(path))
  list(open_delimited(path))
}

#' Do the first bytes open a web page?
#' @noRd
starts_as_page <- function(magic) {
  text <- tolower(rawToChar(magic[magic > as.raw(8) & magic < as.raw(127)]))
  grepl("^\\s*<(!doctype html|html|table|head|body|meta|div|style)", text)
}

#' Are the first bytes those of a plain text?
#' @noRd
reads_as_text <- function(magic) length(magic) >= 8 && all(magic %in% as.raw(c(9, 10, 13, 32:126, 160:255))) && magic[1] != as.raw(0xd0) &&
  magic[1] != as.raw(0x3c)

#' Open several files: texts for people to read ("README.txt") stay out where there are tables beside them, and are told
#' @param mark Function of the tables of a file and its place, that adds what is known of the source.
#' @section Shape: list of opened tables; the source of the first has `aside`, the files that were set aside.
#' @noRd
open_among <- function(paths, mark = function(tables, i) tables) {
  aside <- character()
  opened <- unlist(lapply(seq_along(paths), function(i) {
    if (length(paths) == 1 || !may_be_prose(paths[i])) return(mark(open_file(paths[i]), i))
    set_aside <- function(e) { aside <<- c(aside, basename(paths[i])); NULL }
    tables <- tryCatch(open_file(paths[i]), upbeatquill_error_file_no_rows = set_aside, upbeatquill_error_file_empty = set_aside,
                       upbeatquill_error_file_ragged = function(e) if (named_as_prose(paths[i])) set_aside(e) else stop(e))
    if (!is.null(tables)) mark(tables, i)
  }), recursive = FALSE)
  if (!length(opened)) return(open_file(paths[1]))
  if (length(aside)) opened[[1]]$source$aside <- aside
  opened
}

may_be_prose <- function(path) grepl("[.](txt|html?)$", path, ignore.case = TRUE)

named_as_prose <- function(path) {
  grepl("^(read[ _-]?me|notes?|licen[cs]e|copying|about|changes|changelog|description|info|terms|index)\\b", basename(path), ignore.case = TRUE)
}

files_of <- function(path) {
  if (!file.exists(path)) {
    near <- near_files(path)
    stop_input(sprintf("There is no file %s.", quoted(path)),
               todo = if (length(near)) sprintf("The folder holds %s.",
                                                some_of(quoted(near), 5)) else "Check the path.",
               class = "file_missing")
  }
  if (!dir.exists(path)) return(c(path, codebook_beside(path)))
  files <- list.files(path, pattern = readable_pattern(), full.names = TRUE, ignore.case = TRUE)
  # a link may lead to any file of the machine, which nobody has handed over with the folder
  files <- files[!leads_out(files, path) & !dir.exists(files)]
  package <- files[basename(files) == "datapackage.json"]
  if (length(package)) return(package)
  if (!length(files)) {
    stop_input(sprintf("The folder %s holds no file that can be opened.", quoted(path)),
               todo = "CSV, TSV, XLSX, SAV, DTA, XPT, JSON, Parquet, SQLite and DuckDB files can be.", class = "folder_empty")
  }
  sort_text(files)
}

#' Is a file of a folder a link to somewhere else?
#' @noRd
leads_out <- function(files, folder) {
  link <- nzchar(Sys.readlink(files)) %in% TRUE
  home <- paste0(normalizePath(folder, winslash = "/"), "/")
  link & !startsWith(normalizePath(files, winslash = "/", mustWork = FALSE), home)
}

#' A codebook that was written (and perhaps edited) beside the data
#' @noRd
codebook_beside <- function(path) {
  base <- tools::file_path_sans_ext(sub("[.]gz$", "", path))
  found <- c(paste0(base, "_codebook.csv"), paste0(base, ".codebook.csv"), paste0(base, "_codebook.xml"))
  found <- found[file.exists(found)]
  setdiff(found, path)
}

near_files <- function(path) {
  files <- list.files(dirname(path), pattern = readable_pattern(), ignore.case = TRUE)
  if (!length(files)) return(files)
  files[order(stringdist::stringdist(tolower(basename(path)), tolower(files)), files)][seq_len(min(3, length(files)))]
}

#' A data frame given in the session
#' @noRd
open_frame <- function(x, name) {
  if (nrow(x) == 0) stop_input("The data frame has no rows.", class = "file_no_rows")
  plain <- lapply(x, function(v) if (is.list(v)) vapply(v, function(e) paste(format(e), collapse = ", "), "") else v)
  data <- data.table::as.data.table(plain)
  mended <- mend_names(names(x))
  data.table::setnames(data, mended)
  list(name = name, data = data,
       source = list(file = paste0(name, ".rds"), path = NULL, format = "frame",
                     bytes = as.numeric(utils::object.size(x)),
                     rows = nrow(x), sha256 = cli::hash_raw_sha256(serialize(as.list(data), NULL, version = 3)),
                     sep = NULL, names = if (!identical(names(x), mended)) mended))
}
