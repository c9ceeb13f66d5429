# Text to tokens.

token_pattern <- function() {
  paste("\\d{4}-\\d{2}-\\d{2}", "\\d{1,3}(?:,\\d{3})+(?:\\.\\d+)?", "\\d+(?:\\.\\d+)?", "\\.\\d+",
        "\\p{L}+(?:['\u2019]\\p{L}+)*",
        "<=|>=|!=|==|\u2264|\u2265", "[<>=~+*\u00d7:%$\u20ac\u00a3\u00b0/&-]", sep = "|")
}

#' Cut a text into tokens
#'
#' @section Shape: list of equally long vectors: text (as typed), norm (lower case, no apostrophes), stem, type ("word",
#'   "number", "date", "symbol"), value (of numbers), start, end (characters), glued (no space before), comma (one stands before).
#' @noRd
tokenise <- function(text) {
  text <- stringi::stri_trans_nfkc(enc2utf8(text))
  at <- stringi::stri_locate_all_regex(text, token_pattern(), omit_no_match = TRUE)[[1]]
  piece <- stringi::stri_sub(text, at[, 1], at[, 2])
  tokens <- list(text = piece, start = at[, 1], end = at[, 2])
  tokens$type <- token_type(piece)
  tokens$glued <- c(FALSE, at[-1, 1] == at[-nrow(at), 2] + 1)[seq_along(piece)]
  tokens <- join_minus(tokens)
  tokens <- keep_tokens(tokens, !(tokens$type == "symbol" & tokens$text == "-"))
  tokens$norm <- gsub("['\u2019]", "", stringi::stri_trans_tolower(tokens$text))
  tokens$stem <- stem_words(tokens$norm)
  tokens$value <- number_values(tokens)
  tokens$comma <- grepl("[,;]", stringi::stri_sub(text, c(1L, tokens$end[-length(tokens$end)] + 1L)[seq_along(tokens$start)], tokens$start - 1L))
  tokens
}

token_type <- function(piece) {
  type <- rep("word", length(piece))
  type[grepl("^[0-9.]", piece)] <- "number"
  type[grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", piece)] <- "date"
  type[!grepl("^[0-9.\\p{L}]", piece, perl = TRUE)] <- "symbol"
  type
}

#' A minus right before a number and after a space makes the number negative
#' @noRd
join_minus <- function(tokens) {
  n <- length(tokens$text)
  if (n < 2) return(tokens)
  minus <- which(tokens$text == "-" & c(tokens$type[-1] == "number", FALSE) & c(tokens$glued[-1], FALSE) &
                 !tokens$glued)
  for (i in minus) {
    tokens$text[i + 1] <- paste0("-", tokens$text[i + 1])
    tokens$start[i + 1] <- tokens$start[i]
    tokens$glued[i + 1] <- FALSE
  }
  if (length(minus)) keep_tokens(tokens, -minus) else tokens
}

keep_tokens <- function(tokens, keep) lapply(tokens, `[`, keep)

number_values <- function(tokens) {
  value <- rep(NA_real_, length(tokens$text))
  is_number <- tokens$type == "number"
  value[is_number] <- as.numeric(gsub(",", "", tokens$text[is_number]))
  value
}

stem_words <- function(norm) {
  if (!length(norm)) return(character())
  at <- match(norm, names(irregular_plurals))
  norm[!is.na(at)] <- irregular_plurals[at[!is.na(at)]]
  out <- SnowballC::wordStem(norm, language = "english")
  # (initials have plurals, too: DVDs)
  initials <- grepl("^[bcdfghjklmnpqrtvwxz]{3,}s$", norm, perl = TRUE)
  out[initials] <- substr(norm[initials], 1, nchar(norm[initials]) - 1)
  # what is weighted is not a weight
  out[norm == "weighted"] <- "weighted"
  # (nor has who is missing a value missed a day)
  out[norm == "missing"] <- "missing"
  out
}

irregular_plurals <- c(children = "child", women = "woman", men = "man", mice = "mouse", teeth = "tooth", geese = "goose", feet = "foot",
                       calves = "calf", leaves = "leaf", loaves = "loaf", shelves = "shelf", knives = "knife", thieves = "thief", wolves = "wolf",
                       oxen = "ox", lice = "louse")

#' Words of a column's name: camelCase, dots and underscores opened up
#' @noRd
name_words <- function(name) {
  if (length(name) == 1) return(kept_text(words_kept, name, words_of_names))
  # (the names of a study are opened up again and again for one question)
  if (!length(name) || length(name) > 5000) return(words_of_names(name))
  kept_text(words_kept, paste(name, collapse = "\n"), function(text) words_of_names(name))
}

words_kept <- new.env(parent = emptyenv())

words_of_names <- function(name) {
  # "pH" and "eGFR" stay whole; "maxHR" and "xValue" do not
  open <- stringi::stri_replace_all_regex(name, "(\\p{Ll}{2})(\\p{Lu})|(\\p{Ll})(\\p{Lu}\\p{Ll})", "$1$3 $2$4")
  # "agegp", "tobgrp": bands of something; "ncases", "ncontrols": how many there are
  open <- stringi::stri_replace_all_regex(open, "^(\\p{L}{3,})(?i:gp|grp)$", "$1 group")
  open <- stringi::stri_replace_all_regex(open, "^n(cases|controls|children|events|deaths|births|patients|subjects|visits|trials|successes|failures|obs)$",  # nolint: line_length_linter.
                                          "n $1")
  stringi::stri_replace_all_regex(open, "[_.]+", " ")
}

#' Stems of many short texts at once: a list, one character vector a text
#' @noRd
stems_of <- function(texts) {
  found <- stringi::stri_extract_all_regex(stringi::stri_trans_tolower(texts),
                                           "\\d+(?:\\.\\d+)?|\\p{L}+(?:['\u2019]\\p{L}+)*|[+<>]", omit_no_match = TRUE)
  sizes <- lengths(found)
  stems <- stem_words(gsub("['\u2019]", "", unlist(found)))
  unname(split(stems, rep(factor(seq_along(found)), sizes)))
}

#' Stems of the words of one name of a column, table or set, kept for the next question
#'
#' The names of a study are looked through by many turns of phrase, always with the same result.
#' @param name one text. @return character vector.
#' @noRd
name_stems <- function(name) {
  key <- kept_key(name[1])
  stems_kept[[key]] %||% { learn_name_stems(name[1]); stems_kept[[key]] }
}

stems_kept <- new.env(parent = emptyenv())

#' Stems of all names of a study at once: one by one thousands of them would take seconds
#' @noRd
learn_name_stems <- function(names) {
  if (length(stems_kept) > 20000) rm(list = ls(stems_kept, all.names = TRUE), envir = stems_kept)
  names <- names[!kept_key(names) %in% ls(stems_kept, all.names = TRUE)]
  if (!length(names)) return(invisible())
  found <- stems_of(name_words(names))
  keys <- kept_key(names)
  for (i in seq_along(names)) stems_kept[[keys[i]]] <- found[[i]]
}
