# Files of statistics packages, through haven: labels, value labels and user-missing values go to the codebook.

#' @noRd
open_statistics_file <- function(path) {
  need_package("haven", to = sprintf("open %s", quoted(basename(path))))
  extension <- tolower(tools::file_ext(path))
  data <- tryCatch(switch(extension, sav = , zsav = haven::read_sav(path, user_na = TRUE),
                          por = haven::read_por(path, user_na = TRUE), dta = haven::read_dta(path),
                          xpt = haven::read_xpt(path), sas7bdat = haven::read_sas(path)),
    error = function(e) stop_input(sprintf("%s could not be read.", quoted(basename(path))),
                                   first_line(conditionMessage(e)), class = "file_unreadable"))
  if (!nrow(data) || !ncol(data)) stop_input(sprintf("%s holds no rows.", quoted(basename(path))),
                                             class = "file_no_rows")
  notes <- lapply(data, labelled_facts)
  plain <- lapply(data, function(v) {
    v <- haven::zap_missing(v)
    v <- haven::zap_formats(haven::zap_label(haven::zap_labels(haven::zap_widths(v))))
    if (is.character(v)) v[!nzchar(v)] <- NA
    attributes(v) <- attributes(v)[intersect(names(attributes(v)), c("class", "tzone", "units"))]
    v
  })
  names <- mend_names(names(data))
  data <- data.table::as.data.table(plain)
  data.table::setnames(data, names)
  list(name = tools::file_path_sans_ext(basename(path)), data = data, facts = stats::setNames(notes, names),
       source = c(file_source(path, basename(path), "statistics", nrow(data)),
                  list(reader = c(sav = "read_sav", zsav = "read_sav", por = "read_por", dta = "read_dta",
                                  xpt = "read_xpt", sas7bdat = "read_sas")[[extension]], names = names)))
}

#' Label, value labels and declared missing codes of a column
#' @noRd
labelled_facts <- function(v) {
  labels <- attr(v, "labels", exact = TRUE)
  missing <- attr(v, "na_values", exact = TRUE)
  range <- attr(v, "na_range", exact = TRUE)
  if (!is.null(range) && !is.null(labels)) missing <- c(missing, labels[labels >= range[1] & labels <= range[2]])
  labels <- labels[!labels %in% missing & !is.na(labels)]
  compact(list(label = attr(v, "label", exact = TRUE), labels = if (length(labels)) labels,
               missing = if (length(missing)) unname(missing)))
}
