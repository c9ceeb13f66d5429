# Conditions on rows: comparisons with numbers, dates and periods, values named in the question.

new_filter <- function(column, op, value) list(column = column, op = op, value = value)

add_filter <- function(state, column, op, value) {
  state$filters <- c(state$filters, list(new_filter(column, op, value)))
  state
}

find_filters <- function(state) {
  state <- both_sides(state)
  state <- date_filters(state)
  state <- number_filters(state)
  state <- yes_no_filters(state)
  value_groups(state)
}

#' "girls from a minority", "hives that swarmed": a yes/no column after such words is a condition when something else is asked about
#' @noRd
yes_no_filters <- function(state) {
  columns <- which(state$type == "column" & !state$used)
  asked <- Filter(function(k) !kind_at(state, state$items[[k]]$cols$column[1]) %in% c("id", "date", "datetime"),
                  columns)
  if (length(asked) < 2) return(state)
  if (any(vapply(state$items, function(i) has_lex(i, "task", c("compare", "relate", "predict", "drivers", "change")) ||
                 has_lex(i, "method"), NA))) return(state)
  for (k in columns) {
    column <- item_column(state, k, "yes_no")
    if (is.na(column)) next
    j <- k - 1
    while (j >= 1 && item_norm(state, j) %in% c("a", "an", "the", "been", "had", "in", "any")) j <- j - 1
    lead <- item_norm(state, j)
    negated <- has_lex_at(state, j, "scope", "not") || lead == "without"
    if (!negated && !lead %in% c("that", "who", "which", "with", "having", "from", "were", "have", "had", "among")) next
    if (item_norm(state, k + 1) %in% c("and", "or", "versus", "vs") && has_lex_at(state, k + 2, "scope", "not")) next
    levels <- c(state$vocabulary$columns$first_level[column], state$vocabulary$columns$last_level[column])
    state <- add_filter(state, column_of(state, column), "==", levels[if (negated) 1 else 2])
    state <- assume(state, sprintf("Took %s to mean %s is %s.", quoted(state$items[[k]]$text),
                                   quoted(column_of(state, column)), quoted(levels[if (negated) 1 else 2])))
    state <- use_items(state, c(k, j))
  }
  state
}

#' "with and without an ulcer": the column named next divides the rows
#' @noRd
both_sides <- function(state) {
  for (k in seq_len(max(0, state$n - 3))) {
    three <- c(item_norm(state, k), item_norm(state, k + 1), item_norm(state, k + 2))
    if (!identical(three, c("with", "and", "without"))) next
    state <- use_items(state, k:(k + 2))
    state$flags$both_at <- as.integer(k + 2)
  }
  state
}

# ---- dates -----------------------------------------------------------------------------------------------------

date_filters <- function(state) {
  at <- which(state$type == "date")
  year_like <- which(state$type == "number" & !state$used &
                     vapply(state$items, function(i) isTRUE(i$value %in% 1900:2100), NA))
  columns <- state$vocabulary$columns
  dated <- which(columns$kind %in% c("date", "datetime"))
  if (length(dated)) for (k in year_like) if (is.na(number_column(state, k)$column)) {
    state$items[[k]] <- c(state$items[[k]], list(first = sprintf("%d-01-01", state$items[[k]]$value),
                                                 last = sprintf("%d-12-31", state$items[[k]]$value),
                                                 precision = "year"))
    at <- c(at, k)
  }
  if (!length(at)) return(state)
  if (!length(dated)) return(year_column_filters(state, at))
  name <- date_column_near(state, at, dated)
  for (k in sort(at)) if (!state$used[k]) state <- one_date_filter(state, k, at, name)
  state
}

date_column_near <- function(state, at, dated) {
  mentioned <- unlist(lapply(state$items, function(i) i$cols$column))
  both <- intersect(dated, mentioned)
  column_of(state, if (length(both)) both[1] else dated[1])
}

#' A month or year asked of data that holds years as numbers
#' @noRd
year_column_filters <- function(state, at) {
  years <- which(state$vocabulary$columns$role == "year")
  for (k in at) if (length(years)) {
    item <- state$items[[k]]
    if (item$precision %in% "year") state <- use_items(add_filter(state, column_of(state, years[1]), "==", item$value),
                                                       k)
  }
  state
}

one_date_filter <- function(state, k, at, name) {
  item <- state$items[[k]]
  before <- neighbour(state, k, -1, over = c("stop", "filler"), limit = 2)
  adjacent <- k - 1
  op <- lex_ids_at(state, adjacent, "comparator")
  if (!length(op)) op <- lex_ids_at(state, before, "comparator")
  op <- intersect(op, c("<", ">", "<=", ">="))[1]
  follow <- if (k + 2 <= state$n) at[at > k & at <= k + 3] else integer()
  lead <- c(item_norm(state, k - 1), item_norm(state, k - 2))
  ranged <- length(follow) && (any(lead %in% "between") ||
                               any(vapply((k + 1):(follow[1] - 1), function(j) item_norm(state, j) %in% c("to", "until",
                                   "till", "and", "through"), NA)))
  if (ranged && (any(lead %in% c("between", "from")) || item_norm(state, k + 1) %in% c("to", "until", "till",
      "through"))) {
    state <- add_filter(state, name, "between", c(item$first, state$items[[follow[1]]]$last))
    return(use_items(state, c(k, follow[1], if (any(lead %in% c("between", "from"))) k - 1)))
  }
  if (!is.na(op)) {
    edge <- switch(op, "<" = item$first, ">" = item$last, ">=" = item$first, "<=" = item$last)
    state <- add_filter(state, name, op, edge)
    return(use_items(state, c(k, if (length(lex_ids_at(state, adjacent, "comparator"))) adjacent else before)))
  }
  # "the wave of 15 February": the column named before its date belongs to it
  for (j in c(k - 1, k - 2)) {
    if (j >= 1 && state$type[j] == "column" && identical(column_of(state, item_column(state, j, c("date", "datetime"))),
                                                         name)) state <- use_items(state, j)
  }
  state <- if (item$precision == "day") add_filter(state, name, "==", item$first) else add_filter(state, name,
      "between", c(item$first, item$last))
  use_items(state, k)
}

lex_ids_at <- function(state, k, kind) if (is.na(k) || k < 1 || k > state$n) character() else lex_ids(state$items[[k]],
    kind)

# ---- numbers ---------------------------------------------------------------------------------------------------

#' Words before a number that make it a setting, not a condition
#' @noRd
is_setting <- function(state, k) {
  before <- item_norm(state, k - 1)
  after <- item_norm(state, k + 1)
  around <- paste(item_norm(state, k + 1), item_norm(state, k + 2), item_norm(state, k + 3))
  if (before %in% c("top", "bottom", "first", "last") || has_lex_at(state, k - 1, "task", "rank")) return(TRUE)
  if (grepl("^(%|percent|per cent)? ?(confidence|ci|power|interval)", around)) return(TRUE)
  if (grepl("^(day|week|month|period|point|row)s? (rolling|moving|running|average)", around)) return(TRUE)
  if (grepl("^(sided|tailed|way|sample)", after)) return(TRUE)
  FALSE
}

has_lex_at <- function(state, k, kind, id = NULL) k >= 1 && k <= state$n && has_lex(state$items[[k]], kind, id)

number_filters <- function(state) {
  at <- which(state$type == "number" & !state$used)
  state <- fixed_null_value(state, at)
  for (k in at) {
    if (state$used[k] || is_setting(state, k) || counts_things(state, k)) next
    state <- one_number_filter(state, k)
  }
  state
}

#' "the four ages", "both of the two drugs": a number word before a plural counts, it is no value
#' @noRd
counts_things <- function(state, k) {
  if (grepl("^-?[0-9.]", item_norm(state, k))) return(FALSE)
  follows <- item_norm(state, k + 1)
  grepl("s$", follows) && !grepl("(than|least|most|over|under|above|below|exactly)$", item_norm(state, k - 1))
}

#' "different from 50 %", "differ from zero": the value under the null hypothesis
#' @noRd
fixed_null_value <- function(state, at) {
  for (k in at) {
    lead <- paste(vapply(max(1, k - 3):max(1, k - 1), function(j) item_norm(state, j), ""), collapse = " ")
    if (!grepl(paste0("(different|differ|differs|deviate|deviates) from( the value)?$|(equal to|null value ",
                      "of|hypothesised value of|hypothesized value of)$|test value of$"), lead)) next
    percent <- item_norm(state, k + 1) %in% c("%", "percent")
    state$null_value <- state$items[[k]]$value / if (percent) 100 else 1
    state$flags$null_percent <- percent
    state <- use_items(state, c(k, k - 1, if (percent || item_type_at(state, k + 1) == "unit" ||
                                              item_norm(state, k + 1) %in% "\u00b0") k + 1))
  }
  state
}

#' Column that a number belongs to, with the comparator and the items involved
#' @noRd
number_column <- function(state, k) {
  kinds <- c("number", "count", "ordered", "category", "yes_no", "id")
  tail <- after_number(state, k)
  lead <- before_number(state, k, kinds)
  # "between 4, 6 and 8 cylinder cars": a list of numbers belongs to the column that follows it
  listed <- number_list(state, k)
  if (length(listed) > 1 && !lead$close_by_name) {
    after <- item_column(state, max(listed) + 1, kinds)
    if (!is.na(after)) return(list(column = after, op = character(), used = max(listed) + 1, suffix = character(),
                                   close = TRUE))
  }
  after <- item_column(state, tail$next_at, kinds)
  adjacent <- !is.na(after) && tail$next_at - k <= 2 + length(tail$items)
  if (!is.na(lead$column) && (lead$close || !adjacent || length(lead$op))) {
    return(list(column = lead$column, op = lead$op, used = c(lead$items, tail$items), suffix = tail$op,
                close = lead$close))
  }
  if (adjacent) return(list(column = after, op = lead$op, used = c(lead$op_at, tail$items, tail$next_at),
                            suffix = tail$op, close = TRUE))
  unit <- unit_column(state, tail$unit)
  list(column = if (length(lead$op) || length(tail$op)) unit else NA_integer_, op = lead$op,
       used = c(lead$op_at, tail$items), suffix = tail$op, close = FALSE)
}

before_number <- function(state, k, kinds) {
  op <- character(); op_at <- integer()
  j <- k - 1
  connectors <- c("is", "was", "are", "were", "of", "a", "the", "being", "equals", "equal", "value", "score", "rating",
                  "than", "level", "exactly", "at", "as", "be", "between", "lies", "lying")
  steps <- 0
  while (j >= 1 && steps < 4) {
    found <- setdiff(lex_ids(state$items[[j]], "comparator"),
                     if (state$items[[j]]$norm %in% c("of", "is", "at", "from")) c("==", ">=") else character())
    if (length(found) && !length(op)) { op <- found[1]; op_at <- j }
    else if (state$items[[j]]$norm %in% c("=", "==", ">", "<", ">=", "<=", "!=")) {
      op <- sub("^=$", "==", state$items[[j]]$norm); op_at <- j }
    else if (!is.null(state$items[[j]]$adj) && (item_norm(state, j + 1) %in% "than" ||
                                                item_norm(state, k - 1) %in% "than")) {
      a <- state$items[[j]]$adj
      return(list(column = a$column[1], op = if (a$id[1] == "low") "<" else ">", items = j:(k - 1), op_at = op_at,
                  close = TRUE, close_by_name = TRUE))
    }
    else if (state$items[[j]]$norm == "aged") {
      age <- match("age", tolower(state$vocabulary$columns$name))
      age <- if (is.na(age)) age_column(state) else age
      return(list(column = age, op = op, items = j:(k - 1), op_at = op_at, close = TRUE, close_by_name = TRUE))
    }
    else {
      column <- if (state$used[j] && state$type[j] != "column") NA_integer_ else item_column(state, j, kinds)
      if (!is.na(column)) return(list(column = column, op = op, items = c(j, op_at), op_at = op_at,
                                      close = j == k - 1 || length(op) > 0 || only_connectors(state, j, k, connectors),
                                     close_by_name = !any(vapply(j:(k - 1),
                                         function(i) item_norm(state, i) %in% c("between", ","), NA))))
      if (!state$items[[j]]$norm %in% connectors) break
    }
    j <- j - 1
    steps <- steps + 1
  }
  list(column = NA_integer_, op = op, items = op_at, op_at = op_at, close = FALSE, close_by_name = FALSE)
}

only_connectors <- function(state, j, k, connectors) all(vapply(seq_len(k - j - 1) + j,
                                                                function(i) state$items[[i]]$norm %in% connectors, NA))

age_column <- function(state) {
  hit <- unique(state$vocabulary$terms$column[state$vocabulary$terms$stem == "age" &
                                              state$vocabulary$terms$source == "name"])
  if (length(hit)) hit[1] else NA_integer_
}

#' What follows a number: unit words, "or more"
#' @noRd
after_number <- function(state, k) {
  j <- k + 1
  items <- integer(); unit <- character(); op <- character()
  while (j <= state$n) {
    item <- state$items[[j]]
    if (item$norm %in% c("\u00b0", "%") || state$type[j] == "unit" || item$norm %in% c("f", "c") && length(unit)) {
      unit <- c(unit, item$norm); items <- c(items, j) }
    else if (length(lex_ids(item, "comparator")) && grepl("^(or|and|upward|up$)", item$norm)) {
      op <- lex_ids(item, "comparator")[1]; items <- c(items, j) }
    else if (item$norm == "+") { op <- ">="; items <- c(items, j) }
    else break
    j <- j + 1
  }
  list(items = items, unit = unit, op = op, next_at = if (j <= state$n) j else NA_integer_)
}

#' The one column measured in a unit
#' @noRd
unit_column <- function(state, unit) {
  if (!length(unit)) return(NA_integer_)
  wanted <- c(unit_words()[unit], unlist(unit_tails()[unit]), unit)
  columns <- state$vocabulary$columns
  hit <- which(columns$unit %in% wanted | (any(grepl("\u00b0", wanted)) & grepl("\u00b0", columns$unit)))
  if (any(wanted %in% "years") && !length(hit)) { age <- age_column(state); if (!is.na(age)) hit <- age }
  if (length(hit) == 1) hit else NA_integer_
}

one_number_filter <- function(state, k) {
  found <- number_column(state, k)
  if (is.na(found$column)) return(state)
  item <- state$items[[k]]
  op <- c(found$suffix, found$op, "==")[1]
  if (!length(found$op) && !length(found$suffix) && !found$close) return(state)
  name <- column_of(state, found$column)
  state$flags$number_columns <- c(state$flags$number_columns, found$column)
  between <- between_numbers(state, k)
  if (!is.null(between)) {
    state <- add_filter(state, name, "between", c(item$value, state$items[[between]]$value))
    return(use_items(state, c(k, between, found$used, after_number(state, between)$items)))
  }
  list_at <- number_list(state, k)
  if (length(list_at) > 1 && op == "==") {
    state$groups <- c(state$groups, list(number_group(state, found$column, list_at, k)))
    last <- number_column(state, last_of(list_at))
    return(use_items(state, c(list_at, found$used, last$used)))
  }
  if (op %in% c("==", "!=")) {
    group <- number_group(state, found$column, k, k)
    if (op == "!=") group$negated <- TRUE
    state$groups <- c(state$groups, list(group))
    return(use_items(state, c(k, found$used)))
  }
  state <- add_filter(state, name, op, item$value)
  use_items(state, c(k, found$used))
}

number_group <- function(state, column, at, k) {
  lead <- group_lead(state, min(at))
  list(column = column, levels = vapply(state$items[at], function(i) format_plain(i$value), ""),
       numbers = vapply(state$items[at], `[[`, 1, "value"),
       negated = lead$negated, at = at, lead = lead$word, numeric = TRUE)
}

between_numbers <- function(state, k) {
  if (!item_norm(state, k - 1) %in% c("between", "from") &&
      !any(c(item_norm(state, k - 2)) %in% "between")) return(NULL)
  for (j in (k + 1):min(state$n, k + 3)) {
    if (j > state$n) return(NULL)
    if (state$items[[j]]$norm %in% c("and", "to", "-")) {
      if (j + 1 <= state$n && state$type[j + 1] == "number") return(j + 1L) }
  }
  NULL
}

number_list <- function(state, k) {
  at <- k
  j <- k + 1
  while (j <= state$n) {
    if (state$type[j] == "number") at <- c(at, j)
    else if (!(state$items[[j]]$norm %in% c("and", "or", "&", ","))) {
      # "age 8 with the distance at age 14": the same column named again before the next number
      break
    }
    j <- j + 1
  }
  at
}

# ---- values ----------------------------------------------------------------------------------------------------

#' Values named in the question, gathered into groups of one column
#' @noRd
value_groups <- function(state) {
  at <- which(state$type == "value" & !state$used)
  for (k in at) {
    if (state$used[k]) next
    column <- value_column(state, k)
    run <- value_run(state, k, column)
    lead <- group_lead(state, k)
    levels <- vapply(run, function(j) value_level(state, j, column), "")
    state <- use_own_column(state, run, column)
    state$groups <- c(state$groups, list(list(column = column, levels = unique(levels), negated = lead$negated,
                                              at = run, lead = lead$word, numeric = FALSE)))
    state <- use_items(state, c(run, lead$at))
  }
  merge_groups(state)
}

value_column <- function(state, k) {
  vals <- state$items[[k]]$vals
  if (nrow(vals) == 1) return(vals$column[1])
  mentioned <- unlist(lapply(state$items, function(i) i$cols$column[i$cols$score > 0.5]))
  near <- c(item_column(state, k - 1), item_column(state, k + 1))
  best <- order(!(vals$column %in% near), !(vals$column %in% mentioned), -vals$score, vals$column)
  vals$column[best[1]]
}

value_level <- function(state, k, column) {
  vals <- state$items[[k]]$vals
  vals$level[vals$column == column][1]
}

#' "A, B and C": further values of the same column, joined by small words
#' @noRd
value_run <- function(state, k, column) {
  run <- k
  j <- k + 1
  gap <- 0
  while (j <= state$n && gap <= 2) {
    if (state$type[j] == "value" && column %in% state$items[[j]]$vals$column) { run <- c(run, j); gap <- 0 }
    else if (state$items[[j]]$norm %in% c("and", "or", "&", "/", "vs", "versus", "with", "to", "against", "than", "the",
                                          "in", "from", "for")) gap <- gap + 1
    else break
    j <- j + 1
  }
  run
}

#' Words in front of a value: "without", "only", "not", "than"
#' @noRd
group_lead <- function(state, k) {
  negated <- FALSE; word <- ""; at <- integer()
  j <- k - 1
  steps <- 0
  while (j >= 1 && steps < 4) {
    item <- state$items[[j]]
    if (state$used[j] && identical(state$flags$both_at, as.integer(j))) { word <- "both"; break }
    if (has_lex(item, "scope", "except") || (item$norm %in% c("not", "non", "isnt", "arent", "!="))) {
      negated <- TRUE; at <- j; word <- "except"; break
    }
    if (has_lex(item, "scope", "only")) { word <- "only"; at <- j; break }
    if (item$norm %in% c("between", "among", "than", "versus", "vs", "against", "by")) { word <- item$norm; break }
    own <- state$type[j] == "column"
    if (!(state$type[j] %in% c("stop", "filler", "entity")) && !own) break
    j <- j - 1
    steps <- steps + 1
  }
  list(negated = negated, word = word, at = at)
}

#' "diet 4", "Catholic schools sector": the column named beside its value belongs to the value
#' @noRd
use_own_column <- function(state, run, column) {
  for (k in run) {
    before <- k - 1
    while (before >= 1 && state$items[[before]]$norm %in% c("is", "=", "==", "was", "are", "of", "the", "a", "an",
                                                            "were", "being")) before <- before - 1
    for (j in c(before, k + 1)) {
      if (j >= 1 && j <= state$n && state$type[j] == "column" && !state$used[j] &&
          column %in% state$items[[j]]$cols$column) {
        state <- use_items(state, j)
        state$flags$named_groups <- unique(c(state$flags$named_groups, column))
      }
    }
  }
  state
}

#' Groups of one column that stand apart in the question ("higher for A than for B") belong together
#' @noRd
merge_groups <- function(state) {
  groups <- state$groups
  out <- list()
  for (g in groups) {
    same <- which(vapply(out, function(o) o$column == g$column && o$negated == g$negated, NA))
    if (length(same)) {
      o <- out[[same[1]]]
      o$levels <- unique(c(o$levels, g$levels)); o$at <- c(o$at, g$at)
      if (!nzchar(o$lead)) o$lead <- g$lead
      if (!is.null(o$numbers)) o$numbers <- unique(c(o$numbers, g$numbers))
      out[[same[1]]] <- o
    } else out[[length(out) + 1L]] <- g
  }
  state$groups <- out
  state
}


#' A group as a filter
#' @noRd
group_filter <- function(state, g) {
  name <- column_of(state, g$column)
  value <- if (isTRUE(g$numeric) && is_numeric_kind(kind_at(state, g$column))) g$numbers else g$levels
  op <- if (length(value) > 1) (if (g$negated) "not_in" else "in") else (if (g$negated) "!=" else "==")
  new_filter(name, op, value)
}
