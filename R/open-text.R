# From bytes to a text file in UTF-8: compression, byte-order marks, encodings.

#' A text file that fread can take, whatever the bytes of the original
#'
#' @section Shape: list(path (the original, or a temporary copy in UTF-8), encoding (as base R names it), doubled (may
#'   a quotation mark inside a field be doubled?)).
#' @section Errors: `upbeatquill_error_file_empty`, `_file_binary`, `_file_too_large`.
#' @noRd
plain_text_file <- function(path) {
  label <- basename(path)
  if (file.size(path) == 0) {
    stop_input(sprintf("%s is empty (0 bytes).", quoted(label)), todo = "Check that the export finished.",
               class = "file_empty")
  }
  if (is_gzip(path)) path <- unpack_gzip(path)
  head <- readBin(path, "raw", n = 65536)
  if (!length(head)) stop_input(sprintf("%s is empty.", quoted(label)), todo = "Check that the export finished.",
                                class = "file_empty")
  encoding <- encoding_of(head, label)
  scan <- if (encoding %in% c("UTF-8", "UTF-8-BOM")) scan_utf8(path)
  if (encoding == "UTF-8" && !scan$valid) encoding <- "windows-1252"
  if (encoding %in% c("UTF-8", "UTF-8-BOM") && lone_returns(head)) path <- plain_line_ends(path)
  if (encoding %in% c("UTF-8", "UTF-8-BOM")) return(list(path = path, encoding = "UTF-8-BOM", doubled = scan$doubled))
  list(path = recode_file(path, encoding), encoding = encoding, doubled = TRUE)
}

is_gzip <- function(path) identical(readBin(path, "raw", n = 2), as.raw(c(0x1f, 0x8b)))

#' Largest size that a packed file may unpack to, and the largest ratio: guards against archives made to fill a disk
#' @noRd
unpack_limits <- function() list(bytes = 4e9, ratio = 1000)

unpack_gzip <- function(path) {
  limit <- min(unpack_limits()$bytes, unpack_limits()$ratio * max(file.size(path), 1024))
  to <- tempfile("quill-", fileext = ".txt")
  from <- gzfile(path, "rb")
  out <- file(to, "wb")
  on.exit({ close(from); close(out) })
  size <- 0
  repeat {
    piece <- tryCatch(readBin(from, "raw", n = 4194304L), error = function(e) raw(), warning = function(w) raw())
    if (!length(piece)) break
    size <- size + length(piece)
    if (size > limit) {
      unlink(to)
      stop_input(sprintf("%s unpacks to far more than its size, so it was not opened.", quoted(basename(path))),
                 todo = "Unpack it by hand if it is meant to be that large.", class = "file_too_large")
    }
    writeBin(piece, out)
  }
  if (breaks_off(path, size)) {
    unlink(to)
    stop_input(sprintf("%s breaks off before its end, so it was not opened.", quoted(basename(path))),
               sprintf("It unpacks to %s bytes, and says that it holds another number.", format_plain(size)),
               "Copy or download it again.", class = "file_unreadable")
  }
  to
}

#' Does a gzip file unpack to another size than it states at its end?
#'
#' The size stands in the last four bytes (RFC 1952), of the last member only where several were put together.
#' @noRd
breaks_off <- function(path, size) {
  bytes <- file.size(path)
  if (bytes < 18) return(TRUE)
  con <- file(path, "rb")
  on.exit(close(con))
  seek(con, bytes - 4)
  stated <- sum(as.numeric(readBin(con, "raw", n = 4)) * 256^(0:3))
  if (stated == size %% 2^32) return(FALSE)
  if (bytes > 2e8) return(stated > size)
  seek(con, 2)
  rest <- readBin(con, "raw", n = bytes)
  at <- which(rest == as.raw(0x1f))
  at <- at[at < length(rest) - 2]
  several <- any(rest[at + 1] == as.raw(0x8b) & rest[at + 2] == as.raw(0x08))
  !several || stated > size
}

#' Encoding of a text by its first bytes
#' @noRd
encoding_of <- function(head, label) {
  starts <- function(...) length(head) >= length(c(...)) && identical(head[seq_along(c(...))], as.raw(c(...)))
  if (starts(0xef, 0xbb, 0xbf)) return("UTF-8-BOM")
  if (starts(0xff, 0xfe)) return("UTF-16LE")
  if (starts(0xfe, 0xff)) return("UTF-16BE")
  zero <- head == as.raw(0)
  if (mean(zero) > 0.2) {
    odd <- mean(zero[c(FALSE, TRUE)]); even <- mean(zero[c(TRUE, FALSE)])
    if (odd > 0.4 && even < 0.05) return("UTF-16LE")
    if (even > 0.4 && odd < 0.05) return("UTF-16BE")
  }
  control <- sum(head < as.raw(9)) + sum(head > as.raw(13) & head < as.raw(32) & head != as.raw(27))
  if (control > 0.01 * length(head)) {
    stop_input(sprintf("%s is not a text table: it holds binary data.", quoted(label)),
               todo = "Export it as CSV and open that.",
               class = "file_binary")
  }
  if (all(head %in% as.raw(c(9, 10, 13, 32)))) {
    stop_input(sprintf("%s holds only blank lines.", quoted(label)), class = "file_empty")
  }
  "UTF-8"
}

#' Is a whole file valid UTF-8, and are there doubled quotation marks in it?
#' @section Shape: list(valid, doubled).
#' @noRd
scan_utf8 <- function(path) {
  connection <- file(path, "rb")
  on.exit(close(connection))
  state <- c(0L, 0x80L, 0xbfL, 0L, 10L, 0L)
  repeat {
    piece <- readBin(connection, "raw", n = 1048576L)
    if (!length(piece)) return(list(valid = state[1] == 0L, doubled = state[6] == 1L))
    state <- kernel_utf8(piece, state)
    if (state[1] < 0L) return(list(valid = FALSE, doubled = TRUE))
  }
}

#' Does a carriage return end a line by itself?
#' @noRd
lone_returns <- function(head) {
  at <- which(head == as.raw(13))
  at <- at[at < length(head)]
  length(at) > 0 && any(head[at + 1L] != as.raw(10))
}

#' A copy in which every line ends in a line feed
#' @noRd
plain_line_ends <- function(path) {
  bytes <- readBin(path, "raw", n = file.size(path))
  cr <- bytes == as.raw(13)
  paired <- cr & c(bytes[-1] == as.raw(10), FALSE)
  bytes[cr & !paired] <- as.raw(10)
  to <- tempfile("quill-", fileext = ".txt")
  writeBin(bytes[!paired], to)
  to
}

#' SHA-256 of a file, by the faster library where it is there; both give the same
#' @noRd
fingerprint <- function(path) {
  # for a small file, loading the faster library would cost more than it saves
  if (file.size(path) < 2e7 || !requireNamespace("openssl", quietly = TRUE)) return(unname(cli::hash_file_sha256(path)))
  connection <- file(path, "rb")
  on.exit(close(connection))
  paste0(unclass(openssl::sha256(connection)), collapse = "")
}

#' A fingerprint of a large file worked out on another core, while what was read is looked into
#'
#' @section Shape: list(result (a function that waits for it), stop (gives it up, where it is no longer wanted)).
#' @noRd
begin_fingerprint <- function(path) {
  if (.Platform$OS.type != "unix" || file.size(path) < 2e7) return(list(result = function() fingerprint(path), stop = function() NULL))
  job <- parallel::mcparallel(fingerprint(path), mc.set.seed = FALSE, silent = TRUE)
  waiting <- TRUE
  result <- function() {
    waiting <<- FALSE
    found <- parallel::mccollect(job)[[1]]
    # a process that was stopped from outside leaves nothing
    if (is.character(found) && length(found) == 1 && nchar(found) == 64) found else fingerprint(path)
  }
  list(result = result, stop = function() if (waiting) { tools::pskill(job$pid); parallel::mccollect(job) })
}

recode_file <- function(path, encoding) {
  bytes <- readBin(path, "raw", n = file.size(path))
  text <- stringi::stri_encode(list(bytes), from = encoding, to = "UTF-8")
  text <- sub("^\ufeff", "", text)
  to <- tempfile("quill-", fileext = ".txt")
  writeBin(charToRaw(text), to)
  to
}
