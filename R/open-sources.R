# From whatever the user hands over to named tables.

#' Open one or more sources
#' @section Shape: list of list(name, data, source).
#' @noRd
open_sources <- function(x, name = "data") {
  if (is.data.frame(x)) return(list(open_frame(x, name)))
  if (!is.character(x) || !length(x) || anyNA(x)) {
    stop_input("open_study() takes the paths of files, a folder or a data frame.",
               sprintf("It was given an object of class %s.", quoted(class(x)[1])))
  }
  paths <- unlist(lapply(x, files_of), use.names = FALSE)
  opened <- lapply(paths, open_delimited)
  names <- make.unique(vapply(opened, `[[`, "", "name"), sep = "_")
  for (i in seq_along(opened)) opened[[i]]$name <- names[i]
  opened
}

files_of <- function(path) {
  if (!file.exists(path)) {
    near <- near_files(path)
    stop_input(sprintf("There is no file %s.", quoted(path)),
               todo = if (length(near)) sprintf("The folder holds %s.",
                                                some_of(quoted(near), 5)) else "Check the path.",
               class = "file_missing")
  }
  if (!dir.exists(path)) return(path)
  files <- list.files(path, pattern = "[.](csv|tsv|tab|txt)$", full.names = TRUE, ignore.case = TRUE)
  if (!length(files)) {
    stop_input(sprintf("The folder %s holds no CSV or TSV file.", quoted(path)), class = "folder_empty")
  }
  sort_text(files)
}

near_files <- function(path) {
  files <- list.files(dirname(path), pattern = "[.](csv|tsv|tab|txt)$", ignore.case = TRUE)
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
