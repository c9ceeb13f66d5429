# The state of one reading in progress: items, which of them are used up, and what was found.

new_state <- function(items, tokens, vocabulary, text) {
  list(items = items, n = length(items), type = item_types(items), used = rep(FALSE, length(items)), tokens = tokens,
       vocabulary = vocabulary, text = text, filters = list(), groups = list(), event = NULL, null_value = NULL,
       assumed = character(),
       flags = list())
}

column_record <- function(state, index) take_rows(state$vocabulary$columns, index)
column_of <- function(state, index) state$vocabulary$columns$name[index]
kind_at <- function(state, index) .subset2(state$vocabulary$columns, "kind")[index]
kind_of_names <- function(state, names) kind_at(state, match(names, state$vocabulary$columns$name))

#' Positions of the words that stand as cues and carry a cue of this kind (and id)
#' @noRd
lexicon_at <- function(state, kind, id = NULL) which(state$type == "lexicon" & vapply(state$items, has_lex, NA, kind, id))

use_items <- function(state, at) {
  # (what follows a bound may lie behind the end)
  state$used[at[at >= 1 & at <= state$n]] <- TRUE
  state
}

assume <- function(state, ...) {
  state$assumed <- unique(c(state$assumed, paste0(...)))
  state
}

#' Does the question hold a pattern (Perl syntax, whatever the case)?
#' @noRd
says <- function(state, pattern) grepl(pattern, state$text, ignore.case = TRUE, perl = TRUE)

item_norm <- function(state, k) if (k >= 1 && k <= state$n) state$items[[k]]$norm else ""
item_type_at <- function(state, k) if (k >= 1 && k <= state$n) state$type[k] else ""

#' Nearest item before (step -1) or after (step 1) k that is not a plain word to be stepped over
#' @noRd
neighbour <- function(state, k, step, over = c("stop", "filler", "entity", "unit"), limit = 4) {
  j <- k + step
  left <- limit
  while (j >= 1 && j <= state$n && left > 0 && (state$type[j] %in% over)) { j <- j + step; left <- left - 1 }
  if (j < 1 || j > state$n) NA_integer_ else j
}

#' Column an item stands for, among the kinds wanted: its index, or NA
#' @noRd
item_column <- function(state, k, kinds = NULL) {
  if (is.na(k) || k < 1 || k > state$n) return(NA_integer_)
  item <- state$items[[k]]
  rows <- item$cols
  if (is.null(rows) || !state$type[k] %in% c("column", "lexicon")) return(NA_integer_)
  if (state$type[k] == "lexicon" && .subset2(rows, "score")[1] < 0.6) return(NA_integer_)
  columns <- .subset2(rows, "column")
  if (!is.null(kinds)) columns <- columns[kind_at(state, columns) %in% kinds]
  columns[1]
}
