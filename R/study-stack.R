# Tables with the same columns ("Jan", "Feb", "Mar"; "sales_2023", "sales_2024") are one table in several pieces.

#' Put tables of the same columns together, with a column that says which piece a row is from
#'
#' @param opened As [open_sources()] returns; pieces must have at least two columns, the same names, and come from one kind of file.
#' @noRd
stack_alike <- function(opened) {
  if (length(opened) < 2) return(opened)
  key <- vapply(opened, function(o) paste(c(o$source$format, sort_text(names(o$data))), collapse = "\r"), "")
  for (k in unique(key[duplicated(key)])) {
    at <- which(key == k)
    if (!may_be_stacked(opened[at])) next
    # the same rows twice ("data (1).csv") would count every case twice
    copy <- duplicated(lapply(opened[at], `[[`, "data"))
    kept <- if (all(copy[-1])) opened[[at[1]]] else stacked_table(opened[at[!copy]])
    if (any(copy)) kept$source$copies <- vapply(opened[at[copy]], `[[`, "", "name")
    opened[[at[1]]] <- kept
    opened[at[-1]] <- list(NULL)
  }
  compact(opened)
}

#' Frames of the session are what the user made them; tables that describe columns stay apart
#' @noRd
may_be_stacked <- function(pieces) {
  names <- names(pieces[[1]]$data)
  length(names) > 1 && !pieces[[1]]$source$format %in% c("frame", "sqlite", "duckdb", "stacked") && is.null(codebook_parts(names))
}

stacked_table <- function(pieces) {
  said <- piece_names(vapply(pieces, `[[`, "", "name"))
  columns <- names(pieces[[1]]$data)
  by <- origin_name(said$values, pieces, columns)
  data <- lapply(pieces, function(p) p$data[, columns, with = FALSE])
  data <- alike_types(data)
  joined <- data.table::rbindlist(data)
  values <- said$values
  if (all(grepl("^(19|20)[0-9]{2}$", values))) values <- as.integer(values)
  data.table::set(joined, j = by, value = rep(values, vapply(data, nrow, 1L)))
  data.table::setcolorder(joined, c(by, columns))
  for (i in seq_along(pieces)) pieces[[i]]$source <- with_fingerprint(pieces[[i]])
  sources <- lapply(pieces, `[[`, "source")
  list(name = said$common %||% tools::file_path_sans_ext(sources[[1]]$file), data = joined, facts = pieces[[1]]$facts,
       source = list(file = paste(unique(vapply(sources, `[[`, "", "file")), collapse = ", "), path = NULL, format = "stacked",
                     bytes = sum(vapply(sources[!duplicated(vapply(sources, `[[`, "", "file"))], function(s) as.numeric(s$bytes), 1)),
                       rows = nrow(joined),
                     sha256 = cli::hash_sha256(paste(vapply(sources, `[[`, "", "sha256"), collapse = " ")),
                     parts = sources, by = by, values = values, pieces = vapply(pieces, `[[`, "", "name")))
}

#' What tells the pieces apart: their names without what all have in common
#' @section Shape: list(values, common (NULL if nothing)).
#' @noRd
piece_names <- function(names) {
  first <- strsplit(names[1], "")[[1]]
  same <- 0L
  while (same < min(nchar(names)) - 1L && length(unique(substr(names, 1, same + 1L))) == 1) same <- same + 1L
  # never through the middle of a word or a number
  while (same > 0 && !grepl("[^A-Za-z0-9]", first[same])) same <- same - 1L
  values <- substring(names, same + 1L)
  back <- 0L
  while (back < min(nchar(values)) - 1L && length(unique(substring(values, nchar(values) - back))) == 1) back <- back + 1L
  tail <- substring(values[1], nchar(values[1]) - back + 1L)
  while (back > 0 && !grepl("^[^A-Za-z0-9]", tail)) { back <- back - 1L; tail <- substring(values[1], nchar(values[1]) - back + 1L) }
  values <- substr(values, 1, nchar(values) - back)
  common <- gsub("^[^A-Za-z0-9]+|[^A-Za-z0-9]+$", "", paste0(substr(names[1], 1, same), tail))
  if (anyDuplicated(values) || any(!nzchar(values))) return(list(values = names, common = NULL))
  list(values = gsub("^[^A-Za-z0-9]+|[^A-Za-z0-9]+$", "", values), common = if (nzchar(common)) common)
}

#' Name of the column that tells the pieces apart: what they are, or where they are from
#' @noRd
origin_name <- function(values, pieces, columns) {
  lower <- tolower(values)
  name <- if (all(grepl("^(19|20)[0-9]{2}$", values))) "year"
    else if (all(lower %in% tolower(c(month.name, month.abb, "sept")))) "month"
    else if (all(grepl("^(19|20)[0-9]{2}[-_ ]?(0[1-9]|1[0-2])$", values))) "month"
    else if (all(grepl("^q[1-4]([-_ ]?(19|20)[0-9]{2})?$|^(19|20)[0-9]{2}[-_ ]?q[1-4]$", lower))) "quarter"
    else if (all(grepl("^(wave|week|visit|round|year|day|session|phase|site|group|arm|cohort|class|period|block|team|region|store|batch|run|term|semester)[-_ ]?[0-9a-z]{1,3}$", lower))) sub("[-_ ]?[0-9a-z]{1,3}$", "", lower[1])  # nolint: line_length_linter.
    else if (identical(pieces[[1]]$source$format, "workbook") || identical(pieces[[1]]$source$format, "ods")) "sheet" else "file"
  if (!tolower(name) %in% tolower(columns)) name else make.unique(c(columns, paste0("source_", name)))[length(columns) + 1L]
}

#' Columns of which one piece holds texts and another numbers are texts in all
#' @noRd
alike_types <- function(data) {
  for (name in names(data[[1]])) {
    kinds <- unique(vapply(data, function(d) class(d[[name]])[1], ""))
    if (length(kinds) == 1 || all(kinds %in% c("integer", "numeric"))) next
    # a piece in which nothing is filled in takes the type of the others
    for (i in seq_along(data)) {
      v <- data[[i]][[name]]
      if (!all(is.na(v)) && is.character(v)) next
      data[[i]] <- data.table::copy(data[[i]])
      data.table::set(data[[i]], j = name, value = as.character(v))
    }
  }
  data
}
