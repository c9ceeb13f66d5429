# Bands that a question states itself ("by age 18-29, 30-44 and 45+").

#' "diabetes by age group 21-30, 31-40, over 40": a column of these bands
#'
#' Bands are closed below, so that "over 40" of whole numbers begins at 41. Bands that leave gaps or overlap are none.
#' @noRd
derive_stated_bands <- function(out) {
  if (!grepl("[0-9].*[0-9]", out$text)) return(out)
  one <- "(?:(?:under|below|over|above|up to) [0-9]+|[0-9]+ ?(?:-|\u2013|to) ?[0-9]+|[0-9]+ ?(?:\\+|and (?:over|older|above|more|up)|or (?:over|older|above|more))(?![0-9]))"  # nolint: line_length_linter.
  between <- "(?: ?, ?(?:and )?| and | or | vs\\.? | versus )"
  noun <- "(?: (?:groups?|bands?|brackets?|class(?:es)?|categor(?:y|ies)))?"
  form <- sprintf("(?i)\\b(?:by |per |across |in |between |for )?(?:the )?((?:[\\p{L}_]+ ){0,2}[\\p{L}_]+?)%s ?(?:of |into |in |as |:|\\()? ?(%s(?:%s%s)+)\\)?", noun, one, between, one)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_at_end(out$study, hit[2])
  if (is.null(found)) return(out)
  parts <- stringi::stri_extract_all_regex(hit[3], quick_form(sprintf("(?i)%s", one)))[[1]]
  values <- understood(out$study, found$name, found$col$table)
  edges <- band_edges(parts, whole = all(values == round(values), na.rm = TRUE))
  # (two sides of one bound are read as they stand)
  if (is.null(edges) || length(parts) < 3 && all(lengths(stringi::stri_extract_all_regex(parts, "[0-9]+")) == 1)) return(out)
  labels <- parts
  lowest <- min(values, na.rm = TRUE); highest <- max(values, na.rm = TRUE)
  if (is.finite(edges$from) && lowest < edges$from) {
    edges$cuts <- c(edges$from, edges$cuts)
    labels <- c(paste("under", format_plain(edges$from)), labels)
  }
  if (is.finite(edges$to) && highest > edges$to) {
    edges$cuts <- c(edges$cuts, edges$next_from)
    labels <- c(labels, paste("over", format_plain(edges$to)))
  }
  name <- paste0(found$name, "_band")
  # (words that stand before the measure stay, and the bands divide)
  lead <- sub("(?i)\\b(?:by|per|across|in|between|for)? *(?:the )?$", "", substr(hit[2], 1, nchar(hit[2]) - nchar(found$said)), perl = TRUE)
  with_derived(out, name, "bands", found$name, trimws(sub(hit[1], sprintf("%sby %s ", lead, name), out$text, fixed = TRUE)), cuts = edges$cuts,
               labels = labels)
}

#' The measured column that the last words of a text name
#' @section Shape: As of `column_in_text()`, or NULL.
#' @noRd
column_at_end <- function(study, text) {
  measured <- numeric_columns(study)
  phrases <- named_phrases(study, measured)
  words <- strsplit(trimws(text), " +")[[1]]
  for (n in rev(seq_along(words))) {
    found <- column_in_text(measured, paste(utils::tail(words, n), collapse = " "), phrases)
    if (!is.null(found) && endsWith(tolower(text), tolower(found$said))) return(found)
  }
}

#' Where stated bands begin and end
#' @param parts Character vector of bands as they were written, in order.
#' @param whole TRUE where the measure takes whole numbers only.
#' @section Shape: list(cuts = numeric vector, one fewer than the bands; from, to = outer ends, or infinite; next_from), or NULL where
#'   the bands leave gaps, overlap or are not in order.
#' @noRd
band_edges <- function(parts, whole) {
  step <- if (whole) 1 else 0
  numbers <- lapply(stringi::stri_extract_all_regex(parts, "[0-9]+"), as.numeric)
  word <- tolower(sub(" .*$", "", parts))
  from <- to <- numeric(length(parts))
  for (i in seq_along(parts)) {
    n <- numbers[[i]]
    if (length(n) == 2) { from[i] <- n[1]; to[i] <- n[2] + step }
    else if (word[i] %in% c("under", "below")) { from[i] <- -Inf; to[i] <- n }
    else if (word[i] == "up") { from[i] <- -Inf; to[i] <- n + step }
    else { from[i] <- if (word[i] %in% c("over", "above")) n + step else n; to[i] <- Inf }
  }
  inner <- seq_len(length(parts) - 1)
  # (30-50 and 50-70 share their bound, which belongs to the upper band)
  meets <- abs(to[inner] - from[-1]) < 1e-9 | whole & abs(to[inner] - 1 - from[-1]) < 1e-9
  if (!all(meets) || is.unsorted(from, strictly = TRUE)) return(NULL)
  last <- utils::tail(to, 1)
  list(cuts = from[-1], from = from[1], to = if (is.finite(last)) last - step else Inf, next_from = last)
}
