# Columns mentioned in a question and the words that give them a part.

#' Column mentions that no condition has used up
#'
#' @section Shape: list of list(at, column (index of the best), cols (candidates), marker, score, adjective).
#' @noRd
find_mentions <- function(state) {
  out <- list()
  for (k in seq_len(state$n)) {
    if (state$used[k]) next
    item <- state$items[[k]]
    if (speaks_of_weights(item)) next
    # "time spent inside", where another column holds what was spent
    if (item$norm == "spent" && item_norm(state, k - 1) == "time") next
    if (is_rate_of_before(state, k)) next
    # "show the distribution of ...", where a column is called no_show
    if (k == 1 && item$norm %in% c("show", "list", "plot", "draw", "graph", "display") && state$type[k] == "column" &&
        item_norm(state, 2) %in% c("the", "me", "a", "an", "all", "us", "how", "which", "what")) next
    # "heaviest" ranks and says by what
    superlative <- state$type[k] == "lexicon" && !is.null(item$adj) && has_lex(item, "task", "rank")
    rows <- if (state$type[k] == "column") item$cols else if (state$type[k] == "adjective" || superlative) item$adj
    if (is.null(rows)) next
    # ("longest stay", beside another measure of time: the stay is what is ranked)
    if (superlative && k < state$n && state$type[k + 1] == "column" && is_numeric_kind(kind_at(state, item_column(state, k + 1)))) next
    rows <- measured_first(state, rows)
    out[[length(out) + 1L]] <- list(at = k, column = rows$column[1], cols = rows, score = rows$score[1],
                                    adjective = !state$type[k] == "column",
                                    low = !state$type[k] == "column" && rows$id[1] == "low", text = item$text)
  }
  out <- mark_mentions(state, drop_parents(state, drop_repeats(drop_modifiers(state, out), state)))
  # ("risk ratio", "risk factors for": the risk is no column high_risk)
  noun <- "^(ratio|difference|factor|reduction)s?$"
  measure <- vapply(out, function(m) item_norm(state, m$at) == "risk" && grepl(noun, item_norm(state, m$at + 1)), NA)
  out <- out[!measure & !vapply(out, function(m) weight_of_study(state, m) || qualified_by_name(state, m), NA)]
  out[!vapply(out, function(m) names_the_rows(state, m), NA)]
}

#' "the attrition rate", "the cancellation rate", where a column is a rating or a nightly rate: that of what stands before
#' @noRd
is_rate_of_before <- function(state, k) {
  item <- state$items[[k]]
  if (k == 1 || !item$norm %in% c("rate", "rates") || is.null(item$cols)) return(FALSE)
  if (state$type[k - 1] != "column") return(state$type[k - 1] == "value")
  kind_at(state, item_column(state, k - 1)) %in% "yes_no" || !grepl("rate", tolower(column_of(state, item$cols$column[1])))
}

#' "average guests per booking", beside a key guest and a number guests: what is averaged is the number
#' @noRd
measured_first <- function(state, rows) {
  if (length(rows$column) < 2 || !kind_at(state, rows$column[1]) %in% "id") return(rows)
  numeric <- which(is_numeric_kind(state$vocabulary$columns$kind[rows$column]) & rows$score >= rows$score[1] - 0.01)
  asked <- length(numeric) > 0 && length(intersect(asked_statistics(state), c("mean", "median", "sum", "sd", "min", "max"))) > 0
  if (asked) take_rows(rows, c(numeric[1], setdiff(seq_along(rows$column), numeric[1]))) else rows
}

#' "low birth weight", of a yes/no column low beside the weight itself: the two words together name the yes/no column
#' @noRd
qualified_by_name <- function(state, mention) {
  before <- mention$at - 1L
  named <- tolower(column_of(state, item_column(state, before)))
  qualities <- "^(ab)?normal$|^(low|high|short|long|early|late|poor|good|bad|large|small|elevated|raised|reduced|heavy|excess|extreme|severe)$"
  item_type_at(state, before) == "column" && !mention$adjective && is_numeric_kind(kind_at(state, mention$column)) &&
    kind_at(state, item_column(state, before)) %in% "yes_no" && grepl(qualities, item_norm(state, before)) &&
    named == item_norm(state, before) && !grepl(",", gap_text(state, before, mention$at), fixed = TRUE)
}

#' Does a mention tell what a study weighs in a pooled result, which is no column either?
#' @noRd
weight_of_study <- function(state, mention) {
  item_norm(state, mention$at) == "weight" && says(state, weight_asked()) && says(state, "\\b(pool\\w*|meta-?analy\\w*)\\b")
}

#' Where one answer of a column of several answers is asked about, the column itself is not
#' @noRd
drop_parents <- function(state, mentions) {
  columns <- state$vocabulary$columns
  parents <- which(columns$role == "multi_answer")
  named <- columns$name[vapply(mentions, `[[`, 1L, "column")]
  asked <- Filter(function(p) any(startsWith(named, paste0(columns$name[p], "_"))), parents)
  mentions[!vapply(mentions, function(m) m$column %in% asked, NA)]
}

#' "school sector": a word for the units right before the name of another column only tells whose it is
#' @noRd
drop_modifiers <- function(state, mentions) {
  at <- vapply(mentions, `[[`, 1L, "at")
  modifier <- vapply(seq_along(mentions), function(i) {
    m <- mentions[[i]]
    item <- state$items[[m$at]]
    kind_at(state, m$column) == "id" && (m$at + 1L) %in% at && item$stem %in% state$vocabulary$entities &&
      !grepl(",", gap_text(state, m$at, m$at + 1L), fixed = TRUE)
  }, NA)
  # "age group", where another column happens to be called Group
  noun <- vapply(seq_along(mentions), function(i) {
    m <- mentions[[i]]
    tolower(state$items[[m$at]]$text) %in% c("group", "groups", "class", "level", "type") && (m$at - 1L) %in% at &&
      !grepl(",", gap_text(state, m$at - 1L, m$at), fixed = TRUE) && can_group(state, mentions[[match(m$at - 1L, at)]]$column)
  }, NA)
  # "the iron group", of a level of another column
  noun <- noun | vapply(mentions, function(m) m$score < 0.97 && grepl("^(groups?|arms?)$", item_norm(state, m$at)) &&
    item_type_at(state, m$at - 1L) == "value", NA)
  # "maths scores", where another column is a score of something else
  generic <- vapply(seq_along(mentions), function(i) {
    m <- mentions[[i]]
    item <- state$items[[m$at]]
    before <- match(m$at - 1L, at)
    # ("loan amount" beside loan_ref is the amount)
    !m$adjective && m$score < 0.9 && all(strsplit(item$stem, " ")[[1]] %in% state$vocabulary$lexicon$generic) && !is.na(before) &&
      kind_at(state, mentions[[before]]$column) != "id"
  }, NA)
  # "CO2 uptake", beside a column co2_conc: a part of one name right before the whole name of another
  part <- vapply(seq_along(mentions), function(i) {
    m <- mentions[[i]]
    after <- match(m$at + 1L, at)
    !m$adjective && m$score < 0.8 && !is.na(after) && mentions[[after]]$score >= 0.95 && mentions[[after]]$column != m$column &&
      !mentions[[after]]$adjective && can_measure(state, mentions[[after]]$column) && can_measure(state, m$column) && !grepl(",", gap_text(state,
          m$at, m$at + 1L), fixed = TRUE)
  }, NA)
  mentions[!modifier & !noun & !generic & !part]
}

#' A mention that stands for a column though no word of the question was linked to it
#' @param marker The part that it plays ("by", "value", "event"), or "".
#' @noRd
new_mention <- function(at, column, marker, text = "", ...) {
  list(at = at, column = column, cols = NULL, score = 1, adjective = FALSE, low = FALSE, marker = marker, text = text, ...)
}

#' "patients", "schools", "days": a word for the rows or units themselves, not a column asked about
#' @noRd
names_the_rows <- function(state, m) {
  if (identical(m$marker, "adjust")) return(FALSE)
  if (only_names_rows(state, m)) return(TRUE)
  kind <- kind_at(state, m$column)
  # "readmission among patients over 80": those of the rows that the condition holds for
  if (kind == "id" && item_norm(state, m$at - 1) == "among" && grepl("s$", item_norm(state, m$at)) && length(c(state$filters, state$groups)) &&
      !item_norm(state, m$at + 1) %in% c("", "and")) return(TRUE)
  # "incorrect trials", of a column trial that counts them within each unit
  counter <- "^(trial|session|visit|round|match|game|attempt|repetition|rep|replicate|lap|test)s$"
  if (kind == "count" && grepl(counter, item_norm(state, m$at)) && tolower(column_of(state, m$column)) == sub("e?s$", "", item_norm(state, m$at)) &&
      !m$marker %in% c("by", "between") && !item_norm(state, m$at - 1) %in% c("over", "across", "per", "number of", "with", "vs", "and")) return(TRUE)
  entity <- last_of(strsplit(state$items[[m$at]]$stem, " ")[[1]]) %in% state$vocabulary$entities
  if (kind == "constant" && entity) return(TRUE)
  if (!kind %in% c("id", "date", "datetime")) return(FALSE)
  # a key with a value of its own in every row divides nothing, whatever stands before it
  unique_key <- kind == "id" && state$vocabulary$columns$unique[m$column]
  if (m$marker %in% c("by", "between") && !unique_key) return(FALSE)
  if (asked_about_code(state, m) || set_against(state, m)) return(FALSE)
  # "the five schools with the highest mean ..." ranks the units
  if (kind == "id" && any(vapply(state$items, has_lex, NA, "task", "rank")) &&
      (length(asked_statistics(state)) || !unique_key)) return(FALSE)
  item <- state$items[[m$at]]
  if (!(last_of(strsplit(item$stem, " ")[[1]]) %in% state$vocabulary$entities)) return(FALSE)
  !item_norm(state, m$at - 1) %in% c("which", "each", "every", "per", "within")
}

#' "customers" beside a column new_customer, "surveys" beside Survey.Date, "callers" beside call_id: part of a column's name
#' that by itself says what the rows are
#' @noRd
only_names_rows <- function(state, m) {
  item <- state$items[[m$at]]
  if (m$adjective || m$marker %in% c("by", "between") ||
      grepl("(^| )(by|per|each|every|which|what|whose|no|any|within)$", item_norm(state, m$at - 1), perl = TRUE)) return(FALSE)
  kind <- kind_at(state, m$column)
  plural <- grepl("s$", tolower(item$text), perl = TRUE) || grepl("^(people|children|men|women)$", item$norm, perl = TRUE)
  # "on nights with under 6 hours", of a column night
  if (plural && tolower(column_of(state, m$column)) == sub("s$", "", item$norm) && item_norm(state, m$at - 1) %in% c("on", "in", "for", "during",
    "among", "of") && item_norm(state, m$at + 1) %in% c("with", "where", "when", "that", "who", "which", "having", "over", "under") &&
    length(c(state$filters, state$groups))) return(TRUE)
  # "discharges per month" beside discharge_date and discharged_to
  dated <- !kind %in% c("date", "datetime", "number", "count") && plural && m$score < 0.9 && !grepl(" ", item$norm, perl = TRUE) &&
    any(vapply(which(state$vocabulary$columns$kind %in% c("date", "datetime")), function(d) {
      item$stem %in% state$vocabulary$terms$stem[state$vocabulary$terms$column == d & state$vocabulary$terms$source == "name"] }, NA)) &&
    any(vapply(state$items, has_lex, NA, "every"))
  if (dated) return(TRUE)
  # "promo weeks", "other weeks"
  if (kind %in% c("date", "datetime") && plural && (item_type_at(state, m$at - 1) %in% c("column", "value") || item_norm(state,
      m$at - 1) %in% c("other",
    "the other", "all other")) && others_measured(state, m)) return(TRUE)
  # "months with promotion: mean litres"
  if (kind %in% c("date", "datetime") && plural && item_norm(state, m$at + 1) %in% c("with", "without", "where", "when", "that", "in") &&
      length(c(state$filters, state$groups)) && others_measured(state, m)) return(TRUE)
  if (kind %in% c("date", "datetime")) return(plural && !grepl("date|day|time|month|year|week", item$norm, perl = TRUE))
  one <- item_norm(state, m$at - 1) %in% c("a", "an", "the", "")
  # "the mean score of natural Kenyan lots"
  if (plural && item_type_at(state, m$at - 1) == "value" && !can_measure(state, m$column) && after_adjectives(state, m$at)) return(TRUE)
  if (asked_about_code(state, m) || set_against(state, m)) return(FALSE)
  if (kind == "id") return((plural || one) && !any(vapply(state$items, has_lex, NA, "task", c("rank", "look_up"))))
  if (is_numeric_kind(kind) && only_whose(state, m$at, m$column)) return(TRUE)
  if (m$at == 1 || m$score >= 0.9) return(FALSE)
  entity <- last_of(strsplit(item$stem, " ")[[1]]) %in% state$vocabulary$entities
  # "do new customers ..." covers the whole name and is the column
  entity && plural && kind %in% c("yes_no", "category") && !isTRUE(item$cols$covers[1] > 1) &&
    !tolower(item$text) %in% tolower(c(column_of(state, m$column), paste0(column_of(state, m$column), "s"))) &&
    !state$vocabulary$size[m$column] <= 1 && length(state$items) > 2 && others_measured(state, m)
}

#' A code that comes back, as of sites or schools, and that is said to matter: no word for the rows
#' @noRd
asked_about_code <- function(state, m) {
  kind_at(state, m$column) == "id" && !state$vocabulary$columns$unique[m$column] && (depended_on(state, m$at) || acted_from(state, m))
}

#' "does healing depend on the clinic", "is the score related to the school": what something depends on is asked about
#' @noRd
depended_on <- function(state, at) {
  before <- paste(vapply(at - 4:1, function(k) item_norm(state, k), ""), collapse = " ")
  grepl("\\b(depend\\w*( up)? ?on|(related|linked|connected|tied) to|(associat\\w+|var[yi]\\w*|chang\\w+) with|(influenced|affected|determined|explained|driven) by)( the)?$",  # nolint: line_length_linter.
        before, perl = TRUE)
}

#' "regress yield on x", "y against run": a column named in full as the other side of a relation is no word for the rows
#' @noRd
set_against <- function(state, m) {
  # ("time on site" is no regression)
  fitted <- item_norm(state, m$at - 1) == "on" &&
    says(state, "\\b(regress\\w*|model|fit|fitted|line|curve|polynomial|spline|effect|impact|influence)\\b")
  item_norm(state, m$at) == tolower(column_of(state, m$column)) && (fitted || item_norm(state, m$at - 1) %in% c("against", "versus", "vs", "~") ||
    item_norm(state, m$at - 1) %in% c("and", "with") && says(state, "\\b(correlat|associat|relat)"))
}

#' "does the site matter for pain", "does the clinic affect healing": what acts on something is asked about
#' @noRd
acted_from <- function(state, m) {
  says(state, sprintf("^ *(do|does|did) (the )?%s (matter|affect|influence|change|determine|explain|make a difference)\\b", gsub("[^a-z0-9 ]", ".",
      item_norm(state, m$at))))
}

#' Do levels of columns stand before a noun, and no word that counts it or divides by it?
#' @noRd
after_adjectives <- function(state, k) {
  j <- k - 1
  while (item_type_at(state, j) == "value" || item_norm(state, j) %in% c("and", "or", "the", "all")) j <- j - 1
  of <- item_norm(state, j) %in% c("of", "in", "for", "among")
  of && !grepl("(number|each|every|any|which|what)$", item_norm(state, j - 1))
}

#' "patients" beside rating_patient, a measure that patients give: the word says whose it is and names no column
#' @noRd
only_whose <- function(state, k, column) {
  item <- state$items[[k]]
  if (!item$stem %in% state$vocabulary$lexicon$entities || !grepl("s$|^(people|children|men|women)$", item$norm)) return(FALSE)
  own <- strsplit(tolower(name_words(column_of(state, column))), " ", fixed = TRUE)[[1]]
  length(own) > 1 && !item$norm %in% own && !is.null(item$cols) && item$cols$score[1] < 0.9 && !isTRUE(item$cols$covers[1] > 1)
}

#' Is another column mentioned that can be measured?
#' @noRd
others_measured <- function(state, m) {
  at <- which(state$type == "column")
  any(vapply(setdiff(at, m$at), function(k) can_measure(state, state$items[[k]]$cols$column[1]), NA))
}

#' The same column named twice is one mention; an adjective gives way to a name
#' @noRd
drop_repeats <- function(mentions, state) {
  # ("older patients" of a column patient_age: the patients are the rows, and how old they are is asked)
  named <- vapply(mentions, function(m) if (m$adjective || only_names_rows(state, c(m, list(marker = "")))) NA_integer_ else m$column, 1L)
  adjective_of_named <- vapply(mentions, function(m) m$adjective &&
                               (m$column %in% named || any(m$cols$column %in% named)), NA)
  mentions <- mentions[!adjective_of_named]
  # "use TikTok": a word of several columns right before the name of one of them
  at <- vapply(mentions, `[[`, 1L, "at")
  loose <- vapply(seq_along(mentions), function(i) {
    own <- mentions[[i]]
    following <- match(own$at + 1L, at)
    !is.na(following) && !is.null(own$cols) && nrow(own$cols) > 1 && own$score < 0.8 && mentions[[following]]$column %in% own$cols$column &&
      mentions[[following]]$score > own$score + 0.05
  }, NA)
  mentions <- mentions[!loose]
  mentions <- drop_inside_names(state, mentions)
  # "highway mileage", of mpg_city and mpg_highway: such a word right after the name
  at <- vapply(mentions, `[[`, 1L, "at")
  trailing <- vapply(seq_along(mentions), function(i) {
    own <- mentions[[i]]
    before <- match(own$at - 1L, at)
    !is.na(before) && !is.null(own$cols) && nrow(own$cols) > 1 && !own$adjective && mentions[[before]]$column %in% own$cols$column &&
      length(unique(mentions[[before]]$cols$column)) == 1 && !grepl(",", gap_text(state, own$at - 1L, own$at), fixed = TRUE)
  }, NA)
  mentions <- told_apart(mentions[!trailing])
  # "30 day readmission rate": of two words for one column the one that says more
  columns <- vapply(mentions, `[[`, 1L, "column")
  weak <- vapply(seq_along(mentions), function(i) grepl("^[0-9.]+$", mentions[[i]]$text) && sum(columns == columns[i]) > 1 &&
    any(!grepl("^[0-9.]+$", vapply(mentions[columns == columns[i]], `[[`, "", "text"))), NA)
  mentions <- mentions[!weak]
  mentions <- other_of_same_word(state, mentions)
  mentions[!duplicated(vapply(mentions, `[[`, 1L, "column"))]
}

#' "the most fuel efficient car on the highway", of mpg_city and mpg_highway: a word for both, and one further on that tells which
#' @noRd
told_apart <- function(mentions) {
  open <- vapply(mentions, function(m) length(close_columns(m)) > 1 && !m$adjective, NA)
  for (i in which(open)) {
    own <- close_columns(mentions[[i]])
    which_one <- setdiff(which(vapply(mentions, function(m) m$column %in% own && m$score < 0.9 && !is.null(m$cols) && nrow(m$cols) == 1, NA)), i)
    if (length(which_one) != 1) next
    mentions[[i]]$column <- mentions[[which_one]]$column
    mentions[[i]]$cols <- mentions[[which_one]]$cols
    mentions[which_one] <- list(NULL)
    return(compact(mentions))
  }
  mentions
}

#' "is the mother's weight related to the baby's weight", of two weights: the second word means the one that the first does not
#' @noRd
other_of_same_word <- function(state, mentions) {
  if (length(mentions) != 2 || mentions[[1]]$column != mentions[[2]]$column || !says(state,
      "\\b(relat|correlat|associat|compare|versus|vs|against|differ|than)")) {
    return(mentions)
  }
  first <- mentions[[1]]; second <- mentions[[2]]
  fuller <- grepl(" ", state$items[[first$at]]$stem) && state$items[[second$at]]$stem %in% strsplit(state$items[[first$at]]$stem, " ")[[1]]
  others <- setdiff(measured_with(state, state$items[[second$at]]$stem, "yes_no"), first$column)
  # (of a yes/no column and a measure that share the word the measure is meant)
  measured <- others[kind_at(state, others) != "yes_no"]
  if (!fuller || length(measured) != 1) return(mentions)
  mentions[[2]]$column <- measured
  mentions[[2]]["cols"] <- list(NULL)
  mentions[[2]]$text <- column_of(state, measured)
  mentions
}

#' "writing hand span", of writing_span_cm and other_span_cm beside a column hand: a word between two parts of one name
#' @noRd
drop_inside_names <- function(state, mentions) {
  at <- vapply(mentions, `[[`, 1L, "at")
  inside <- logical(length(mentions))
  for (i in seq_along(mentions)) {
    k <- match(at[i] - 1:2, at)
    if (anyNA(k) || mentions[[i]]$score >= 0.9 || is.null(mentions[[k[2]]]$cols)) next
    first <- mentions[[k[2]]]
    one <- first$score < 0.9 && length(unique(first$cols$column)) == 1 && state$items[[at[i]]]$stem %in% name_stems(column_of(state, first$column))
    together <- !grepl(",", paste0(gap_text(state, at[i] - 2L, at[i] - 1L), gap_text(state, at[i] - 1L, at[i])), fixed = TRUE)
    if (one && together) inside[c(i, k[1])] <- TRUE
  }
  mentions[!inside]
}

mark_mentions <- function(state, mentions) {
  last <- ""
  for (i in seq_along(mentions)) {
    m <- mentions[[i]]
    joined <- i > 1 && is_joined(state, mentions[[i - 1]]$at, m$at)
    marker <- if (joined) last else marker_before(state, m$at)
    # "differ between" is one phrase whose last word still marks the groups
    ahead <- m$at - 1 - (item_norm(state, m$at - 1) %in% c("the", "all"))
    if (!nzchar(marker) && grepl(" (between|across|among)$", item_norm(state, ahead))) marker <- "between"
    if (!joined && followed_by_constant(state, m$at)) marker <- "adjust"
    mentions[[i]]$marker <- marker
    last <- marker
  }
  if (length(mentions) && last == "adjust") mentions <- adjust_backwards(state, mentions)
  mentions
}

#' Only "and", commas and small words of grammar stand between two mentions
#' @noRd
is_joined <- function(state, from, to) {
  if (to - from < 1) return(FALSE)
  if (to - from == 1) return(grepl(",", gap_text(state, from, to), fixed = TRUE))
  between <- vapply((from + 1):(to - 1), function(j) state$items[[j]]$norm, "")
  all(between %in% c("and", "the", "a", "an", "&", "+", "or", "both", "number", "of", "as", "well", "their", "its",
                      "group", "groups", "band", "bands", "category", "categories", "level", "levels", "status", "type"))
}

gap_text <- function(state, from, to) {
  substr(state$text, state$tokens$end[state$items[[from]]$to] + 1, state$tokens$start[state$items[[to]]$from] - 1)
}

marker_words <- function() c(adjust = "adjust", by = "by", between = "between", from = "from", on = "on",
                             all_others = "all_others")

#' The nearest word before a mention that says which part it plays
#' @noRd
marker_before <- function(state, k) {
  j <- k - 1
  while (j >= 1) {
    if (identical(state$flags$both_at, as.integer(j))) return("by")
    item <- state$items[[j]]
    # "by number of children"
    if (item$norm == "of" && item_norm(state, j - 1) == "number") { j <- j - 2; next }
    if (item$norm == "number of") { j <- j - 1; next }
    for (m in marker_words()) if (has_lex(item, "scope", m)) {
      return(m)
    }
    if (item$norm %in% c("with", "for", "of", "than", "~", "to", "in", "vs", "versus",
                         "against")) return(switch(item$norm, "~" = "from", item$norm))
    if (state$type[j] == "column" || state$type[j] == "value") return("")
    if (length(lex_ids(item, "task")) && !(state$type[j] == "stop")) return("")
    j <- j - 1
  }
  ""
}

followed_by_constant <- function(state, k) {
  j <- k + 1
  while (j <= min(state$n, k + 3)) {
    # "we account for B" marks what follows it
    if (has_lex(state$items[[j]], "scope", "adjust_after")) return(!grepl("^(account|accounting) ", item_norm(state, j)))
    if (!(state$type[j] %in% c("stop", "filler"))) return(FALSE)
    j <- j + 1
  }
  FALSE
}

#' "holding A and B constant": the words that end the list mark all of it
#' @noRd
adjust_backwards <- function(state, mentions) {
  for (i in rev(seq_along(mentions))[-1]) {
    if (mentions[[i + 1]]$marker == "adjust" && is_joined(state, mentions[[i]]$at,
                                                          mentions[[i + 1]]$at)) mentions[[i]]$marker <- "adjust"
  }
  mentions
}

mention_kinds <- function(state, mentions) vapply(mentions, function(m) kind_at(state, m$column), "")

#' Can a column split the rows into groups?
#' @noRd
can_group <- function(state, column) {
  row <- column_record(state, column)
  few <- row$kind %in% c("count", "number") && row$distinct <= if (row$kind == "count") 20 else 12
  is_level_kind(row$kind) || few || row$kind %in% c("constant", "id") || row$role == "year" || isTRUE(row$index)
}

can_measure <- function(state, column) kind_at(state, column) %in% c("number", "count", "ordered")

#' "average scores by gender", of a score in maths, one in reading and one in writing: all of them, described side by side
#' @noRd
open_described <- function(state, mentions) {
  by <- vapply(mentions, function(m) m$marker == "by", NA)
  if (sum(!by) != 1 || !length(intersect(asked_statistics(state), c("mean", "median", "sd", "min", "max")))) return(mentions)
  c(open_plural(state, mentions[!by], described = TRUE), mentions[by])
}

#' "the correlation between hand spans", "the two karnofsky scores": one word in the plural for several measured columns
#'
#' The columns stand in its place, each with the part that the word plays.
#' @noRd
open_plural <- function(state, mentions, described = FALSE) {
  # "do the two scales give the same weight": what they measure is none of its own
  if (length(mentions) == 2 && !length(state$groups) && mentions[[1]]$column == mentions[[2]]$column) mentions <- mentions[1]
  if (length(mentions) != 1 || length(state$groups) && !described || mentions[[1]]$adjective) return(mentions)
  m <- mentions[[1]]
  own <- column_of(state, m$column)
  plural <- function(k) grepl("[^s]s$", item_norm(state, k)) && state$type[k] %in% c("filler", "column", "entity", "lexicon")
  counted <- any(vapply(m$at - 1:2, function(k) grepl("(^| )(two|both|three|four|all)$", item_norm(state, k)), NA))
  several <- (grepl("[^s]s$", m$text) && !grepl("s$", tolower(strip_tail(own)))) || counted || isTRUE(m$at < state$n && plural(m$at + 1))
  if (!several || state$items[[m$at]]$norm == tolower(gsub("[_.]", " ", own))) return(mentions)
  stems <- strsplit(state$items[[m$at]]$stem, " ")[[1]]
  # ("average scores" are those of all columns that hold a score)
  if (!counted && !described) stems <- setdiff(stems, state$vocabulary$lexicon$generic)
  holds <- measured_with(state, stems, if (says(state, "\\b(agree\\w*|kappa|concordan\\w*)\\b")) c("category", "yes_no"))
  if (!m$column %in% holds || length(holds) < 2 || length(holds) > 6) return(mentions)
  stand_in(state, m, holds)
}

#' The measured columns, and those of further kinds, whose names hold all of some stems
#' @noRd
measured_with <- function(state, stems, kinds = NULL) {
  if (!length(stems)) return(integer())
  terms <- state$vocabulary$terms
  terms <- terms[terms$source == "name" & terms$weight > 0.3, , drop = FALSE]
  holds <- Reduce(intersect, lapply(stems, function(s) terms$column[terms$stem == s]))
  sort(unique(holds[kind_at(state, holds) %in% c("number", "count", "ordered", kinds)]))
}

#' Columns in the place of one mention, each with the part that its word plays
#' @noRd
stand_in <- function(state, m, columns) {
  lapply(columns, function(column) { m$column <- column; m["cols"] <- list(NULL); m$text <- column_of(state, column); m })
}

#' "the Karnofsky score by physicians and by patients": a word of several measured columns, and what tells them apart
#'
#' The columns whose own parts are said as well stand in the place of the word and of those parts.
#' @noRd
open_by_parts <- function(state, mentions) {
  said <- unlist(strsplit(vapply(state$items, `[[`, "", "stem"), " "))
  named <- vapply(mentions, `[[`, 1L, "column")
  for (k in which(state$type == "column" & !state$used)) {
    own <- setdiff(strsplit(state$items[[k]]$stem, " ")[[1]], state$vocabulary$lexicon$generic)
    holds <- measured_with(state, own)
    if (length(holds) < 2 || length(holds) > 6) next
    parts <- lapply(stems_of(name_words(column_of(state, holds))), setdiff, y = own)
    common <- Reduce(intersect, parts)
    hit <- vapply(parts, function(p) length(intersect(setdiff(p, common), said)) > 0, NA)
    both <- holds[hit]
    if (length(both) < 2 || all(both %in% named) || !any(both %in% named | holds %in% named)) next
    words <- unlist(parts[hit])
    whose <- vapply(mentions, function(m) m$column %in% holds || any(strsplit(state$items[[m$at]]$stem, " ")[[1]] %in% words), NA)
    first <- mentions[[which(vapply(mentions, function(m) m$column %in% holds, NA))[1]]]
    first$marker <- ""
    return(c(stand_in(state, first, both), mentions[!whose]))
  }
  mentions
}
