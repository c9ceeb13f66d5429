# Everything behind a set of answers in one archive.

#' Bundle answers with all that they rest on
#'
#' Writes a zip archive: the data files (or only their fingerprints), the codebook, the logbook if there is one, the script, figure and tables
#' of each answer, the report as a page, the references, a manifest of all files with their SHA-256, and `ro-crate-metadata.json`. The
#' scripts find the data beside them, so unpacking the archive anywhere is enough to run them.
#'
#' @param x An answer, or a list of answers.
#' @param file Path ending in `.zip`.
#' @param data Put the data files in? With `FALSE`, the manifest names their sizes and fingerprints only.
#' @param title Title of the report.
#' @return The path, invisibly. The archive is written whole or not at all.
#' @section Errors: as [report()]; `upbeatquill_error_package_missing` without zip and htmltools.
#' @section Source: RO-Crate Metadata Specification 1.1 (2020).
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' bundle(ask(study, "honey yield by arm"), tempfile(fileext = ".zip"))
#' @export
bundle <- function(x, file, data = TRUE, title = "Findings") {
  answers <- if (inherits(x, "upbeatquill_answer")) list(x) else x
  if (!is.list(answers) || !length(answers)) stop_input("bundle() takes an answer or a list of answers.")
  for (a in answers) need_answer(a)
  if (tolower(tools::file_ext(file)) != "zip") stop_input("A bundle is written as .zip.")
  for (package in c("zip", "htmltools")) need_package(package, to = "write a bundle")
  folder <- tempfile("quill-bundle-")
  dir.create(folder)
  on.exit(unlink(folder, recursive = TRUE))
  sources <- bundle_data(answers, folder, data)
  bundle_answers(answers, folder, title)
  manifest <- bundle_manifest(folder, sources)
  write_text(jsonlite::toJSON(research_crate(manifest, title, answers), auto_unbox = TRUE, pretty = TRUE), file.path(folder,
    "ro-crate-metadata.json"))
  write_whole(file, function(to) zip::zip(to, list.files(folder), root = folder, include_directories = FALSE))
  invisible(file)
}

#' Data files, codebook and logbook
#' @section Shape: data frame of sources that stay outside: file, bytes, sha256.
#' @noRd
bundle_data <- function(answers, folder, data) {
  studies <- report_studies(answers)
  sources <- unlist(lapply(studies, `[[`, "sources"), recursive = FALSE)
  paths <- unique(unlist(lapply(unlist(lapply(studies, data_tables), recursive = FALSE), function(t) {
    vapply(t$source$parts %||% list(t$source), function(s) s$archive %||% s$path %||% NA_character_, "") })))
  paths <- paths[!is.na(paths)]
  if (data && length(paths)) file.copy(paths[file.exists(paths)], folder)
  for (i in seq_along(studies)) {
    codebook(studies[[i]], file.path(folder, if (i == 1) "codebook.csv" else sprintf("codebook-%d.csv", i)))
    log <- studies[[i]]$logbook
    if (is.character(log) && file.exists(log)) {
      lines <- gsub("\"path\":\"(?:[^\"]*[/\\\\])?([^/\\\\\"]*)\"", "\"path\":\"\\1\"", readLines(log, encoding = "UTF-8", warn = FALSE), perl = TRUE)
      write_text(lines, file.path(folder, if (i == 1) "logbook.jsonl" else sprintf("logbook-%d.jsonl", i)))
    }
  }
  data.frame(file = vapply(sources, `[[`, "", "file"), bytes = vapply(sources, function(s) as.numeric(s$bytes %||% NA), 1),
             sha256 = vapply(sources, `[[`, "", "sha256"), stringsAsFactors = FALSE)
}

bundle_answers <- function(answers, folder, title) {
  report(answers, file.path(folder, "report.html"), title = title)
  for (i in seq_along(answers)) {
    a <- answers[[i]]
    name <- function(end) file.path(folder, sprintf("question-%02d%s", i, end))
    document <- as.list(a)
    document$script <- if (!is.null(document$script)) paste(without_places(document$script), collapse = "\n")
    write_text(to_json(document), name(".json"))
    if (a$status != "answered") next
    write_text(without_places(document$script), name(".R"))
    if (!is.null(a$figure) && requireNamespace("ggplot2", quietly = TRUE)) figure(a, name(".png"))
    for (t in a$result$tables) save_table(t, name(sprintf("-%s.csv", t$id)))
  }
  cited <- references(answers)
  if (length(cited)) write_text(unclass(references(answers, "bibtex")), file.path(folder, "references.bib"))
}

#' A script that looks for its data beside it: the place of the data on this machine is nobody else's business
#' @noRd
without_places <- function(script) {
  lines <- strsplit(script, "\n", fixed = TRUE)[[1]]
  sub("^data_file <- \"(?:.*[/\\\\])?([^/\\\\]*)\"$", "data_file <- \"\\1\"", lines, perl = TRUE)
}

bundle_manifest <- function(folder, sources) {
  files <- sort_text(list.files(folder))
  inside <- data.frame(file = files, bytes = file.size(file.path(folder, files)), sha256 = vapply(file.path(folder, files), cli::hash_file_sha256,
    ""),
                       inside = TRUE, stringsAsFactors = FALSE)
  outside <- sources[!sources$sha256 %in% inside$sha256, , drop = FALSE]
  manifest <- rbind(inside, if (nrow(outside)) cbind(outside, inside = FALSE))
  rownames(manifest) <- NULL
  data.table::fwrite(manifest, file.path(folder, "manifest.csv"))
  manifest
}

#' @noRd
research_crate <- function(manifest, title, answers) {
  types <- c(csv = "text/csv", json = "application/json", jsonl = "application/jsonl", html = "text/html", png = "image/png", R = "text/x-r-source",
             bib = "text/x-bibtex", xlsx = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
  within <- manifest[manifest$inside, ]
  parts <- lapply(seq_len(nrow(within)), function(i) compact(list("@id" = utils::URLencode(within$file[i]), "@type" = "File", name = within$file[i],
    contentSize = as.character(within$bytes[i]), encodingFormat = unname(types[tools::file_ext(within$file[i])]) |> nothing_as_null(),
    sha256 = within$sha256[i])))
  for (i in seq_along(parts)) if (isTRUE(is.na(parts[[i]]$encodingFormat))) parts[[i]]$encodingFormat <- NULL
  list("@context" = "https://w3id.org/ro/crate/1.1/context", "@graph" = c(
    list(list("@id" = "ro-crate-metadata.json", "@type" = "CreativeWork", about = list("@id" = "./"),
              conformsTo = list("@id" = "https://w3id.org/ro/crate/1.1")),
         list("@id" = "./", "@type" = "Dataset", name = title, datePublished = format(Sys.Date()),
              description = paste("Answers to:", paste(vapply(answers, `[[`, "", "question"), collapse = " | ")),
              hasPart = lapply(parts, function(p) list("@id" = p[["@id"]])))),
    parts,
    list(list("@id" = "#upbeatquill", "@type" = "SoftwareApplication", name = "upbeatquill",
              softwareVersion = as.character(utils::packageVersion("upbeatquill"))))))
}
