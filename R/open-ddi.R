# DDI-Codebook 2.5: the codebook as XML, read and written.

#' A DDI codebook as a table of columns
#' @section Source: DDI-Codebook 2.5, https://ddialliance.org (elements var, labl, catgry, invalrng).
#' @noRd
open_ddi <- function(path) {
  need_package("xml2", to = "read a DDI codebook")
  doc <- tryCatch(xml2::xml_ns_strip(xml2::read_xml(path, options = c("NONET", "NOBLANKS"))), error = function(e) {
    stop_input(sprintf("%s is not XML that can be read.", quoted(basename(path))), first_line(conditionMessage(e)),
               class = "file_unreadable")
  })
  vars <- xml2::xml_find_all(doc, "//var")
  if (!length(vars)) stop_input(sprintf("%s is XML, but no DDI codebook.", quoted(basename(path))),
                                class = "file_unreadable")
  text_of <- function(node, at) { found <- xml2::xml_find_first(node, at)
    if (inherits(found, "xml_missing")) "" else trimws(xml2::xml_text(found)) }
  rows <- lapply(vars, function(v) {
    categories <- xml2::xml_find_all(v, "./catgry")
    codes <- vapply(categories, text_of, "", at = "./catValu")
    labels <- vapply(categories, text_of, "", at = "./labl")
    missing <- xml2::xml_attr(categories, "missing") %in% "Y"
    data.frame(column = xml2::xml_attr(v, "name"), kind = ddi_kind(v), label = text_of(v, "./labl"),
               unit = or_if_na(xml2::xml_attr(v, "measUnit"), ""),
               levels = paste(ifelse(nzchar(labels) & labels != codes, paste(codes, labels, sep = "="),
                                     codes)[!missing], collapse = "|"),
               missing_codes = paste(codes[missing], collapse = "|"), stringsAsFactors = FALSE)
  })
  data <- data.table::as.data.table(do.call(rbind, rows))
  list(name = tools::file_path_sans_ext(basename(path)), data = data,
       source = file_source(path, basename(path), "ddi", nrow(data)))
}

ddi_kind <- function(var) {
  nature <- xml2::xml_attr(var, "nature")
  interval <- xml2::xml_attr(var, "intrvl")
  if (nature %in% "ordinal") return("ordered")
  if (nature %in% "nominal") return("category")
  if (interval %in% "discrete") return("count")
  if (interval %in% "contin") return("number")
  ""
}

#' Lines of a DDI codebook for a codebook table
#' @noRd
ddi_document <- function(book, title) {
  need_package("xml2", to = "write a DDI codebook")
  doc <- xml2::xml_new_root("codeBook", xmlns = "ddi:codebook:2_5", version = "2.5")
  study <- xml2::xml_add_child(xml2::xml_add_child(xml2::xml_add_child(doc, "stdyDscr"), "citation"), "titlStmt")
  xml2::xml_add_child(study, "titl", title)
  dscr <- xml2::xml_add_child(doc, "dataDscr")
  for (i in seq_len(nrow(book))) ddi_variable(dscr, book[i, ])
  doc
}

ddi_variable <- function(parent, row) {
  nature <- c(ordered = "ordinal", category = "nominal", yes_no = "nominal", number = "interval",
              count = "ratio")[row$kind]
  interval <- c(number = "contin", count = "discrete")[row$kind]
  var <- xml2::xml_add_child(parent, "var", name = row$column)
  if (!is.na(nature)) xml2::xml_set_attr(var, "nature", nature)
  if (!is.na(interval)) xml2::xml_set_attr(var, "intrvl", interval)
  if (nzchar(row$unit)) xml2::xml_set_attr(var, "measUnit", row$unit)
  if (nzchar(row$label)) xml2::xml_add_child(var, "labl", row$label)
  add <- function(code, label, missing) {
    category <- xml2::xml_add_child(var, "catgry")
    if (missing) xml2::xml_set_attr(category, "missing", "Y")
    xml2::xml_add_child(category, "catValu", code)
    if (nzchar(label)) xml2::xml_add_child(category, "labl", label)
  }
  for (level in strsplit(row$levels, "|", fixed = TRUE)[[1]]) {
    parts <- strsplit(level, "=", fixed = TRUE)[[1]]
    add(parts[1], if (length(parts) > 1) paste(parts[-1], collapse = "=") else "", FALSE)
  }
  for (code in strsplit(row$missing_codes, "|", fixed = TRUE)[[1]]) add(code, "", TRUE)
}
