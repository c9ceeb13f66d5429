# One measure on several occasions ("sbp" in sbp_baseline and sbp_week12): which occasion is meant, or all of them.

#' Verbs of change over the occasions
#' @noRd
says_change <- function(text) {
  # "does the spread differ" compares groups in one measurement
  if (grepl("\\b(spread|varia(nce|bility|tion)|dispersion|standard deviation|scatter)s?\\b", text, ignore.case = TRUE)) return(FALSE)
  grepl("^ *(did|do|does|has|have|is|are)\\b.*\\b(chang|fall|fell|drop|ris|rose|increas|decreas|improv|declin|grow|grew|gain|los[et]|reduc|worse|better|go(ne)? (up|down)|differ)\\w*|\\bfrom\\b.+\\bto\\b|before and after|over time|(each|every|all) (time ?points?|occasions?|visits?|waves?)",  # nolint: line_length_linter.
        text, ignore.case = TRUE, perl = TRUE)
}

#' Does a question ask how a measure changed? "do boys and girls differ in maths" compares people, not occasions
#' @noRd
speaks_of_change <- function(state) {
  sides <- any(vapply(state$groups, names_several, NA)) && says(state, "\\b(differ|differs|different|better|worse)\\b") &&
    !says(state, "\\b(chang|improv|gain|over time|before|after|increas|decreas|r[io]se|f[ae]ll|drop)")
  says_change(state$text) && !sides
}

#' Settle mentions that could be any occasion of one measure
#' @noRd
settle_repeated <- function(state, mentions) {
  sets <- state$vocabulary$sets
  if (!length(sets)) return(mentions)
  index <- lapply(sets, function(set) match(set$columns, state$vocabulary$columns$name))
  named <- columns_in_full(state)
  out <- list()
  for (m in mentions) {
    own <- if (!is.null(m$cols) && nrow(m$cols) > 1) which(vapply(index, function(at) all(m$cols$column %in% at), NA)) else integer()
    # "did hb go up", of hb and hb_after: the name of the first measurement is that of both
    if (!length(own) && speaks_of_change(state)) own <- which(mapply(function(set, at) m$column == at[1] &&
      identical(tolower(strip_tail(set$columns[1])), set$name) && !any(at[-1] %in% vapply(mentions, `[[`, 1L, "column")), sets, index))
    if (!length(own)) { out <- c(out, list(alike_measures(m, sets, index))); next }
    set <- sets[[own[1]]]
    said <- which(vapply(set$times, function(time) says_time(state, m$at, time), NA))
    # (the 6 of "walk6" is no week)
    said <- said[!set$times[said] %in% regmatches(set$name, gregexpr("[0-9]+", set$name))[[1]]]
    # "at baseline", of measurements in weeks: the first of them
    first <- any(vapply(m$at + c(-1, 1, 2), function(k) item_norm(state, k), "") == "baseline")
    last <- any(vapply(m$at + c(-1, 1, 2, 3), function(k) item_norm(state, k), "") %in% c("final", "endpoint"))
    if (!length(said) && xor(first, last)) said <- if (first) 1L else length(set$columns)
    # "maths between maths_autumn and maths_summer": the measure is named by its two columns
    if (nrow(m$cols %||% data.frame()) > 1 && sum(index[[own[1]]] %in% named) >= 2) {
      lost <- setdiff(intersect(index[[own[1]]], named), vapply(mentions, function(o) if (identical(o, m)) NA_integer_ else o$column, 1L))
      if (length(lost)) out <- c(out, list(at_column(m, lost[1])))
      next
    }
    # "reading and maths in summer": the occasion that is named for the other measure
    sure <- c(named, unlist(lapply(mentions, function(o) if (is.null(o$cols) || nrow(o$cols) == 1) o$column)))
    if (!length(said)) said <- shared_occasion(set, sets[-own[1]], index[-own[1]], sure)
    if (length(said) == 1) out <- c(out, list(at_column(m, index[[own[1]]][said])))
    else if (speaks_of_change(state)) out <- c(out, lapply(index[[own[1]]], function(i) at_column(m, i)))
    else out <- c(out, list(alike_occasions(m)))
  }
  out <- out[!duplicated(vapply(out, `[[`, 1L, "column"))]
  if (!any(vapply(out, function(m) kind_at(state, m$column) %in% c("number", "count", "ordered"), NA)) && length(sets) == 1 &&
    !length(state$groups) &&
      says(state, "^ *(did|have|has)\\b.*\\b(improv|chang|increas|decreas|fall|drop|ris|declin|grow|gain|los[et]|go (up|down))\\w*")) {
    out <- c(out, lapply(index[[1]], function(i) new_mention(1L, i, "")))
  }
  out
}

#' "pain", of pain_baseline, pain_6wk and pain_12wk: that one of the names is shorter makes its occasion no likelier
#' @noRd
alike_occasions <- function(m) {
  if (!is.null(m$cols) && nrow(m$cols) > 1 && m$score < 0.97) m$cols$score <- m$score
  m
}

#' "autumn", of maths_autumn and reading_autumn: an occasion alone says nothing of the measure
#' @noRd
alike_measures <- function(m, sets, index) {
  if (is.null(m$cols) || nrow(m$cols) < 2 || m$score >= 0.97) return(m)
  times <- vapply(m$cols$column, function(at) c(unlist(Map(function(set, own) set$times[own == at], sets, index)), NA_character_)[1], "")
  if (!anyNA(times) && length(unique(times)) == 1 && identical(tolower(m$text), tolower(times[1]))) m$cols$score <- m$score
  m
}

#' Columns whose whole name stands in the question
#' @noRd
columns_in_full <- function(state) {
  at <- which(state$type == "column")
  match(vapply(at, function(k) item_norm(state, k), ""), tolower(name_words(state$vocabulary$columns$name)))
}

#' The one occasion at which another measure is named, as a place among a set's own occasions
#' @noRd
shared_occasion <- function(set, others, index, named) {
  times <- unlist(Map(function(other, at) other$times[at %in% named], others, index))
  if (length(times) == 1) which(set$times == times) else integer()
}

at_column <- function(m, column) { m$column <- column; m$cols <- NULL; m$score <- 1; m$text <- ""; m }

#' Does the time stand beside the measure ("at baseline", "in week 12")?
#' @noRd
says_time <- function(state, at, time) {
  words <- tolower(stringi::stri_extract_all_regex(time, "[0-9]+|[A-Za-z]+")[[1]])
  # "at 6 weeks" of odi_6wk
  unit <- time_unit_of(words[2])
  if (length(words) == 2 && !is.na(unit)) words[2] <- paste0(unit, "s?")
  # the words beside the measure and within it, as far as the next column or what is held constant
  ahead <- at + 1:4
  ends <- which(vapply(ahead, function(k) item_type_at(state, k) == "column" && !grepl("^(week|month|visit|day|wave)", item_norm(state, k)) ||
    k <= state$n && has_lex(state$items[[min(k, state$n)]], "scope", "adjust"), NA))
  if (length(ends)) ahead <- ahead[seq_len(ends[1] - 1)]
  near <- c(vapply(c(at - 1, ahead), function(k) item_norm(state, k), ""), strsplit(item_norm(state, at), " ")[[1]])
  from <- any(near %in% "from")
  !from && all(vapply(words, function(w) any(near == w | grepl(paste0("\\b", w, "\\b"), near)), NA))
}
