# Where the methods of answers come from, for a reference list or a reference manager.

#' References for the methods used
#'
#' @param x An answer or a list of answers.
#' @param style `"text"` (author and date, in alphabetical order), `"bibtex"`, or `"csl"` (CSL-JSON 1.0).
#' @param file Path to write to, or `NULL`.
#' @return Character lines; invisibly when written.
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' references(ask(study, "Does the honey yield differ between syrup and control?"), "bibtex")
#' @export
references <- function(x, style = c("text", "bibtex", "csl"), file = NULL) {
  style <- match.arg(style)
  answers <- if (inherits(x, "upbeatquill_answer")) list(x) else x
  if (!is.list(answers) || !length(answers)) stop_input("references() takes an answer or a list of answers.")
  for (a in answers) need_answer(a)
  texts <- sort_text(unique(unlist(lapply(answers, function(a) a$method$references))))
  entries <- lapply(texts, parse_reference)
  lines <- switch(style, text = texts, bibtex = unlist(lapply(entries, bibtex_entry)),
                  csl = strsplit(jsonlite::toJSON(lapply(entries, csl_entry), auto_unbox = TRUE, pretty = TRUE), "\n", fixed = TRUE)[[1]])
  lines <- structure(as.character(lines), class = "upbeatquill_script")
  if (is.null(file)) return(lines)
  write_text(unclass(lines), file)
  invisible(lines)
}

#' "Author, A. B., & Other, C. (1999). Title. Journal, 12, 1-9." taken apart
#' @section Shape: list(key, authors (data frame family, given), year, title, journal, volume, pages, publisher).
#' @noRd
parse_reference <- function(text) {
  head <- regmatches(text, regexec("^(.*?) \\((\\d{4})[a-z]?\\)\\. (.*)$", text, perl = TRUE))[[1]]
  if (!length(head)) return(list(key = "source", authors = NULL, title = text))
  rest <- strsplit(sub("[.]$", "", head[4]), "(?<=[.?!])\\s+(?=[A-Z])", perl = TRUE)[[1]]
  title <- sub("[.]$", "", rest[1])
  place <- paste(rest[-1], collapse = " ")
  journal <- regmatches(place, regexec("^(.*?), (?:[A-Z] )?(\\d+)(?:\\([^)]*\\))?, (?:Article )?([0-9]+(?:[-\u2013][0-9]+)?)$", place,
    perl = TRUE))[[1]]
  authors <- reference_authors(head[2])
  list(key = paste0(tolower(gsub("[^A-Za-z]", "", authors$family[1])), head[3]), authors = authors, year = as.integer(head[3]), title = title,
       journal = if (length(journal)) journal[2], volume = if (length(journal)) journal[3], pages = if (length(journal)) journal[4],
       publisher = if (!length(journal) && nzchar(place)) sub("[.]$", "", place))
}

#' "Welch, B. L., & Fleiss, J." as family and given names
#' @noRd
reference_authors <- function(text) {
  parts <- strsplit(gsub(",? (&|and) ", ", ", text), ", ", fixed = TRUE)[[1]]
  given <- grepl("^([A-Z]\\.[- ]?)+$", parts)
  family <- parts[!given]
  data.frame(family = family, given = vapply(which(!given), function(i) if (i < length(parts) && given[i + 1]) parts[i + 1] else "", ""),
             stringsAsFactors = FALSE)
}

bibtex_entry <- function(e) {
  plain <- function(text) gsub("([&%$#_])", "\\\\\\1", text)
  field <- function(name, value) if (length(value) && !is.na(value) && nzchar(value)) sprintf("  %s = {%s},", name, plain(value))
  names <- if (!is.null(e$authors)) paste(ifelse(nzchar(e$authors$given), paste0(e$authors$family, ", ", e$authors$given), e$authors$family),
    collapse = " and ")
  type <- if (!is.null(e$journal)) "article" else if (!is.null(e$publisher)) "book" else "misc"
  c(sprintf("@%s{%s,", type, e$key), field("author", names), field("year", as.character(e$year)), field("title", e$title), field("journal",
    e$journal),
    field("volume", e$volume), field("pages", gsub("[-\u2013]", "--", e$pages %||% "")), field("publisher", e$publisher), "}", "")
}

csl_entry <- function(e) {
  compact(list(id = e$key, type = if (!is.null(e$journal)) "article-journal" else "book", title = e$title,
               author = if (!is.null(e$authors)) lapply(seq_len(nrow(e$authors)), function(i) compact(list(family = e$authors$family[i],
                                                                                     given = if (nzchar(e$authors$given[i])) e$authors$given[i]))),
               issued = if (!is.null(e$year)) list("date-parts" = list(list(e$year))), "container-title" = e$journal, volume = e$volume,
               page = e$pages, publisher = e$publisher))
}
