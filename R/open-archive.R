# ZIP archives: listed before they are unpacked, unpacked into a folder of our own, never outside it.

#' Tables of the files in a ZIP archive
#' @section Errors: `upbeatquill_error_file_too_large`, `_unsafe_archive`, `_file_unreadable`, `_folder_empty`.
#' @noRd
open_zip <- function(path) {
  held <- tryCatch(utils::unzip(path, list = TRUE), error = function(e) NULL, warning = function(w) NULL)
  label <- quoted(basename(path))
  if (is.null(held)) stop_input(sprintf("%s is not a ZIP archive that can be read.", label), class = "file_unreadable")
  unsafe <- grepl("^([A-Za-z]:|/|\\\\)|(^|[/\\\\])[.][.]([/\\\\]|$)", held$Name)
  if (any(unsafe)) {
    stop_input(sprintf("%s holds a path that leads out of the archive, so it was not unpacked.", label),
               sprintf("The path is %s.", quoted(held$Name[unsafe][1])), class = "unsafe_archive")
  }
  limit <- unpack_limits()
  if (sum(held$Length) > limit$bytes || sum(held$Length) > limit$ratio * max(file.size(path), 1024)) {
    stop_input(sprintf("%s unpacks to far more than its size, so it was not opened.", label),
               todo = "Unpack it by hand if it is meant to be that large.", class = "file_too_large")
  }
  wanted <- held$Name[grepl(readable_pattern(), held$Name, ignore.case = TRUE) & !grepl("(^|/)[.]|__MACOSX", held$Name)]
  wanted <- setdiff(wanted, grep("[.]zip$", wanted, value = TRUE, ignore.case = TRUE))
  if (!length(wanted)) stop_input(sprintf("%s holds no file that can be opened.", label), class = "folder_empty")
  folder <- tempfile("quill-zip-")
  dir.create(folder)
  files <- utils::unzip(path, files = wanted, exdir = folder, junkpaths = FALSE)
  open_among(files, function(opened, i) {
    for (j in seq_along(opened)) {
      opened[[j]]$source$member <- wanted[i]
      opened[[j]]$source$archive <- normalizePath(path, winslash = "/")
      opened[[j]]$source$file <- paste0(basename(path), "/", wanted[i])
      opened[[j]]$source$sha256 <- fingerprint(path)
    }
    opened
  })
}
