# Small helpers without a home of their own.

`%||%` <- function(a, b) if (is.null(a)) b else a

#' The first where it is there, else the second
#' @noRd
or_if_na <- function(a, b) if (is.na(a)) b else unname(a)

quoted <- function(x) paste0("\"", x, "\"")

#' First few of a set, and how many more
#' @param n How many there are in all, where `x` holds only the first.
#' @noRd
some_of <- function(x, most = 5, and = "and", n = length(x)) {
  if (n == 0) return("nothing")
  if (n == 1) return(x)
  if (n <= most) return(paste(paste(x[-n], collapse = ", "), and, x[n]))
  paste0(paste(x[seq_len(most)], collapse = ", "), " and ", n - most, " more")
}

plural <- function(n, one, many = paste0(one, "s")) if (isTRUE(n == 1)) one else many

#' "1 row", "1,234 rows"
#' @noRd
count_of <- function(n, one, many = paste0(one, "s")) {
  paste(formatC(n, format = "d", big.mark = ","), plural(n, one, many))
}

# "pH" and "eGFR" keep their small letter
capital <- function(text) ifelse(grepl("^\\p{Ll}\\p{Lu}", text, perl = TRUE), text, paste0(toupper(substr(text, 1, 1)), substring(text, 2)))

compact <- function(x) x[!vapply(x, is.null, NA)]

#' Places as words, from the first
#' @noRd
ordinal_words <- c("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")

#' A data frame of vectors as long as the first, or of one value, without the checks of data.frame(), which cost more than a question may
#' @noRd
frame_of <- function(...) {
  columns <- list(...)
  n <- length(columns[[1]])
  columns <- lapply(columns, function(x) if (length(x) == 1L && n != 1L) rep(unname(x), n) else unname(x))
  structure(columns, class = "data.frame", row.names = .set_row_names(length(columns[[1]])))
}

#' Rows of a data frame of plain vectors, by place or by a condition without gaps; `[.data.frame` costs more than a question may
#' @noRd
take_rows <- function(frame, at) {
  if (is.logical(at)) at <- which(at)
  columns <- lapply(unclass(frame), `[`, at)
  structure(columns, names = names(frame), class = "data.frame", row.names = .set_row_names(length(at)))
}

#' Data frames of the same columns one under the other; the first of them where all are empty
#' @noRd
stack_frames <- function(...) {
  frames <- Filter(Negate(is.null), list(...))
  if (!length(frames)) return(NULL)
  full <- Filter(function(f) length(.subset2(f, 1)) > 0, frames)
  if (length(full) < 2) return(c(full, frames)[[1]])
  names <- names(full[[1]])
  columns <- stats::setNames(lapply(names, function(name) unlist(lapply(full, .subset2, name), use.names = FALSE)), names)
  structure(columns, class = "data.frame", row.names = .set_row_names(length(columns[[1]])))
}

#' Threads to use: two where the machine has them
#' @noRd
thread_count <- function() 2L

#' Order of text that does not depend on the locale
#' @noRd
sort_text <- function(x) sort(x, method = "radix")

last_of <- function(x) x[[length(x)]]

#' Write a file under a temporary name, then rename: never half a file
#' @noRd
write_whole <- function(path, write) {
  folder <- dirname(path)
  if (!dir.exists(folder)) {
    stop_input(sprintf("The folder %s does not exist.", quoted(folder)), todo = "Create it, or name another place.",
               class = "folder_missing")
  }
  temporary <- tempfile(".quill-", tmpdir = folder, fileext = paste0(".", tools::file_ext(path)))
  on.exit(unlink(temporary), add = TRUE)
  write(temporary)
  if (!file.rename(temporary, path)) {
    stop_input(sprintf("Could not write %s.", quoted(path)), todo = "Check the permissions of the folder.",
               class = "not_written")
  }
  invisible(path)
}

write_text <- function(text, path) {
  write_whole(path, function(to) {
    connection <- file(to, "wb")
    on.exit(close(connection))
    writeLines(enc2utf8(text), connection, sep = "\n", useBytes = TRUE)
  })
}

#' One R string literal, as a script needs it: any name, any value, nothing evaluated
#' @noRd
as_r_string <- function(x) {
  x <- enc2utf8(as.character(x))
  vapply(x, function(s) {
    if (is.na(s)) return("NA_character_")
    ascii <- encodeString(s, quote = "\"")
    # encodeString leaves printable non-ASCII text alone, which a UTF-8 script may hold
    ascii
  }, "", USE.NAMES = FALSE)
}

#' c("a", "b") or "a"
#' @noRd
as_r_strings <- function(x) {
  text <- as_r_string(x)
  if (length(text) == 1) text else paste0("c(", paste(text, collapse = ", "), ")")
}

as_r_number <- function(x) {
  out <- vapply(x, function(v) {
    if (is.na(v)) return("NA")
    short <- format(v, digits = 15, trim = TRUE, scientific = abs(v) >= 1e15)
    if (identical(as.numeric(short), as.numeric(v))) short else format(v, digits = 17, trim = TRUE)
  }, "", USE.NAMES = FALSE)
  if (length(out) == 1) out else paste0("c(", paste(out, collapse = ", "), ")")
}

#' A number as the file would hold it: 2, 0.5, never 2e+00
#' @noRd
format_plain <- function(x) vapply(x, function(v) format(v, digits = 15, scientific = FALSE, trim = TRUE), "")

#' A text as a pattern that matches it as it stands
#' @noRd
as_literal <- function(x) gsub("([^[:alnum:] ])", "\\\\\\1", x)

#' The first match of a regular expression with its groups, NULL where there is none
#' @noRd
first_match <- function(text, form) {
  hit <- match_groups(text, form)
  if (!is.na(hit[1])) hit
}

#' A question without the mark at its end
#' @noRd
without_mark <- function(text) sub("[?.! ]+$", "", text)

#' What is left of a question when some of its words are taken out
#' @noRd
text_without <- function(text, said) gsub(" +", " ", trimws(without_mark(sub(said, " ", text, fixed = TRUE))))

#' The whole match of a pattern in a text and its groups; NA where it does not match
#'
#' Nearly all patterns match nearly no question. Saying so is quicker by the other engine, which knows letters of plain text only.
#' @section Shape: Character vector: the match, then the groups (NA where a group took no part); a single NA without a match.
#' @noRd
match_groups <- function(text, form) {
  if (is.na(text) || !may_match(text, form)) return(NA_character_)
  stringi::stri_match_first_regex(text, quick_form(form))[1, ]
}

# (a pattern that only one of the engines knows may match; beyond plain text the quicker one has to be told what a letter is)
may_match <- function(text, form) {
  if (!stringi::stri_enc_isascii(text)) form <- paste0("(*UCP)", form)
  tryCatch(grepl(form, text, perl = TRUE), error = function(e) TRUE, warning = function(w) TRUE)
}

#' A pattern for stringi that matches what `form` matches, sooner
#'
#' Where case is ignored, each class with \\p{L} costs two milliseconds, since all letters of all scripts are folded. It holds them in
#' either case anyhow, so it is set apart from the folding.
#' @noRd
quick_form <- function(form) {
  if (length(form) != 1) return(vapply(form, quick_form, "", USE.NAMES = FALSE))
  if (!grepl("\\p{L}", form, fixed = TRUE) || !grepl("(?i", form, fixed = TRUE)) return(form)
  kept_text(quick_kept, form, function(form) stringi::stri_replace_all_regex(form, letters_in_form(), "(?-i:$0)"))
}

quick_kept <- new.env(parent = emptyenv())

# \p{L} by itself or in brackets, with how often it comes
letters_in_form <- function() {
  often <- "(?:(?:[*+?]|\\{[0-9]+,?[0-9]*\\})[?+]?)?"
  sprintf("(?<!\\\\)(?:\\[(?:[^\\]\\\\]|\\\\.)*?\\\\p\\{L\\}(?:[^\\]\\\\]|\\\\.)*\\]|\\\\p\\{L\\})%s", often)
}

level_numbers <- function(x) {
  numbers <- suppressWarnings(as.numeric(levels(x)))
  (if (anyNA(numbers)) seq_along(levels(x)) else numbers)[as.integer(x)]
}

#' The unit of time that an adjective of a period names; by its name
#' @noRd
period_adjectives <- c(hourly = "hour", daily = "day", weekly = "week", monthly = "month", quarterly = "quarter", yearly = "year", annual = "year")

#' What a function makes of one text, worked out once for each text
#' @param kept The environment that keeps it.
#' @noRd
kept_text <- function(kept, text, make) {
  key <- kept_key(text)
  out <- kept[[key]]
  if (!is.null(out)) return(out)
  if (length(kept) > 20000) rm(list = ls(kept, all.names = TRUE), envir = kept)
  kept[[key]] <- make(text)
}

#' The name under which something is kept for a text: R allows names of 10,000 bytes, and columns may be called by longer ones
#' @noRd
kept_key <- function(text) {
  long <- nchar(text, "bytes") > 9000
  if (any(long)) text[long] <- cli::hash_sha256(text[long])
  paste0("-", text)
}
