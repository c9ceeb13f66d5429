# Conditions with numbers.

#' Words before a number that make it a setting, not a condition
#' @noRd
is_setting <- function(state, k) {
  before <- item_norm(state, k - 1)
  after <- item_norm(state, k + 1)
  around <- paste(item_norm(state, k + 1), item_norm(state, k + 2), item_norm(state, k + 3))
  if (before %in% c("top", "bottom", "first", "last") || has_lex_at(state, k - 1, "task", "rank")) return(TRUE)
  if (grepl("^(%|percent|per cent)? ?(confidence|ci|power|interval)|^(%|percent|per cent) (level|limits?)\\b", around)) return(TRUE)
  if (grepl("^(day|week|month|period|point|row)s? (rolling|moving|running|average)", around)) return(TRUE)
  if (grepl("^(rolling|moving|running)$", before)) return(TRUE)
  if (grepl("^(sided|tailed|way|sample)", after)) return(TRUE)
  FALSE
}

has_lex_at <- function(state, k, kind, id = NULL) k >= 1 && k <= state$n && has_lex(state$items[[k]], kind, id)

number_filters <- function(state) {
  state <- numbers_of_names(banded_ages(state))
  at <- which(state$type == "number" & !state$used)
  state <- fixed_null_value(state, at)
  for (k in at) {
    if (state$used[k] || is_setting(state, k) || counts_things(state, k)) next
    state <- one_number_filter(state, k)
  }
  bounds_on_bands(state)
}

#' "CO2", "PM10": a number that is written as one with the letters before it belongs to their name, where no column or level is called by them
#' @noRd
numbers_of_names <- function(state) {
  for (k in which(state$type == "number" & !state$used)) {
    glued <- k > 1 && state$tokens$start[state$items[[k]]$from] == state$tokens$end[state$items[[k - 1]]$to] + 1 &&
      grepl("^[A-Z]{1,3}[a-z]?$", state$items[[k - 1]]$text) && state$type[k - 1] %in% c("unknown", "entity", "filler", "stop") && !state$used[k - 1]
    if (glued) state <- use_items(state, c(k - 1, k))
  }
  state
}

#' "the four ages", "both of the two drugs": a number word before a plural counts, it is no value
#' @noRd
counts_things <- function(state, k) {
  if (grepl("^-?[0-9.]", item_norm(state, k))) return(FALSE)
  follows <- item_norm(state, k + 1)
  # "the two scales give": the word itself
  if (grepl("[^s]s$", follows) && item_norm(state, k - 1) == "the") return(TRUE)
  # "the two karnofsky scores"
  if (k + 2 <= state$n && state$type[k + 1] == "column" && state$type[k + 2] %in% c("filler", "entity", "column",
      "lexicon")) follows <- item_norm(state, k + 2)
  grepl("s$", follows) && !grepl("(than|least|most|over|under|above|below|exactly)$", item_norm(state, k - 1))
}

#' "different from 50 %", "differ from zero": the value under the null hypothesis
#' @noRd
fixed_null_value <- function(state, at) {
  # "whether half of the hives swarmed"
  if (says(state, paste0("\\b(whether|test if|is it true that|differ(s|ent)? from|equal to|more than|less",
      " than|fewer than|at least) ((a |one )?half|(a|one) (third|quarter))( of)?\\b"))) {
    word <- sub("^.*\\b(half|third|quarter)\\b.*$", "\\1", tolower(state$text))
    k <- which(vapply(seq_len(state$n), function(i) item_norm(state, i), "") == word)
    if (length(k) && is.null(state$null_value)) {
      state$null_value <- c(half = 1 / 2, third = 1 / 3, quarter = 1 / 4)[[word]]
      state$flags$null_percent <- TRUE
      state <- use_items(state, k[1])
    }
  }
  # "is the return rate in France higher than 10 %"
  form <- "^ *(is|are|was|were|does|do|did)\\b.*\\b(rates?|shares?|proportions?|percentages?|fractions?)\\b.*\\b(higher|lower|more|less|greater|above|below|over|under|larger|smaller|exceeds?)( than)? [0-9.]+ ?(%|percent|per cent)"  # nolint: line_length_linter.
  if (says(state, form) && is.null(state$null_value)) for (k in at) {
    if (!item_norm(state, k + 1) %in% c("%", "percent", "per cent") || !any(vapply(seq_len(state$n), function(i) identical(kind_at(state,
      item_column(state, i, "yes_no")), "yes_no") || state$type[i] == "value", NA))) next
    state$null_value <- state$items[[k]]$value / 100
    state$flags$null_percent <- TRUE
    lead <- Filter(function(j) j >= 1 && length(lex_ids(state$items[[j]], "comparator")), k - 1:2)
    return(use_items(state, c(k, k + 1, lead)))
  }
  one <- value_to_test(state, at)
  if (!is.null(one) && is.null(state$null_value)) {
    percent <- item_norm(state, one + 1) %in% c("%", "percent", "per cent")
    state$null_value <- state$items[[one]]$value / if (percent) 100 else 1
    state$flags$null_percent <- percent
    unit <- percent || item_type_at(state, one + 1) == "unit"
    return(use_items(state, c(one, if (unit) one + 1)))
  }
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

#' "one-sample Wilcoxon test of yield against 20", "is the mean yield 20 kg?", "is the share that swarmed 70 %?"
#' @section Shape: index of the number that is the value of the null hypothesis, or NULL.
#' @noRd
value_to_test <- function(state, at) {
  if (length(at) != 1) return(NULL)
  k <- at[1]
  test <- says(state, "\\b(one[- ]sample|single[- ]sample|signed[- ]rank|wilcoxon|sign test|t[- ]test|binomial test)\\b") &&
    item_norm(state, k - 1) %in% c("against", "versus", "vs", "with", "to", "of", "=", "mu") && says(state, "\\b(one|single|test)\\b")
  last <- k >= state$n - 1
  plain <- last && says(state, "^ *(is|are|was|were) (the )?(mean|average|median|share|proportion|percentage|fraction|rate)s?\\b") &&
    !says(state, "\\b(than|above|below|over|under|least|most|between|in|for|when|where|after|before|per|by|from)\\b [^?]*[0-9]") &&
    !item_norm(state, k - 1) %in% c("over", "under", "above", "below", "than")
  if (test || plain) k
}

#' Column that a number belongs to, with the comparator and the items involved; a key of codes ("ORD-5001") is none
#' @noRd
number_column <- function(state, k) {
  found <- any_number_column(state, k)
  # "which 3 apiaries": no level holds the number, so it says how many of them
  if (!is.na(found$column) && counts_levels(state, k, found$column)) {
    return(list(column = NA_integer_, op = character(), used = integer(), suffix = character(), close = FALSE))
  }
  keys <- if (!is.na(found$column) && kind_at(state, found$column) == "id") state$vocabulary$ids[[column_of(state, found$column)]]
  if (!length(keys) || !all(grepl("[A-Za-z]", utils::head(keys, 20)))) return(found)
  unit <- unit_column(state, after_number(state, k)$unit)
  if (!is.na(unit)) found$column <- unit else found <- list(column = NA_integer_, op = character(), used = integer(), suffix = character(), close = FALSE)  # nolint: line_length_linter.
  found
}

#' Does a plain number before a column of named levels say how many of them are meant?
#' @noRd
counts_levels <- function(state, k, column) {
  if (!kind_at(state, column) %in% c("category", "ordered")) return(FALSE)
  if (!item_norm(state, k - 1) %in% c("which", "what", "the", "these", "those")) return(FALSE)
  if (!identical(item_column(state, k + 1), column)) return(FALSE)
  levels <- state$vocabulary$values$level[state$vocabulary$values$column == column]
  !any(grepl(sprintf("(?<![0-9])%s(?![0-9])", as_literal(format_plain(state$items[[k]]$value))), levels, perl = TRUE))
}

any_number_column <- function(state, k) {
  kinds <- c("number", "count", "ordered", "category", "yes_no", "id")
  tail <- after_number(state, k)
  lead <- before_number(state, k, kinds)
  # "between 4, 6 and 8 cylinder cars": a list of numbers belongs to the column that follows it
  listed <- number_list(state, k)
  # "the disease score at 120 kg nitrogen": what follows the number is what it is of
  stated <- item_norm(state, k - 1) %in% c("at", "with", "under", "given") && !length(lead$op)
  if (length(listed) > 1 && (!lead$close_by_name || stated)) {
    after <- item_column(state, max(listed) + 1, kinds)
    if (!is.na(after)) return(list(column = after, op = character(), used = max(listed) + 1, suffix = character(),
                                   close = TRUE))
  }
  # a bound is put on what is measured ("under 40 cm) discarded" beside a yes/no column)
  bound <- any(lead$op %in% c("<", ">", "<=", ">="))
  # "more than 10 hours of overtime"
  if (length(tail$unit) && !is.na(tail$next_at) && item_norm(state, tail$next_at) == "of") {
    own <- tail$next_at + 1 + (item_norm(state, tail$next_at + 1) %in% c("the", "their"))
    if (!is.na(item_column(state, own, c("number", "count")))) { tail$items <- c(tail$items, seq(tail$next_at, own - 1)); tail$next_at <- own }
  }
  # (nor on a key: "3 or more appointments" beside appointment_id counts rows)
  suffixed <- any(tail$op %in% c("<", ">", "<=", ">="))
  after <- item_column(state, tail$next_at, if (bound) setdiff(kinds, c("yes_no", "category", "id")) else if (suffixed) setdiff(kinds,
      "id") else kinds)
  adjacent <- !is.na(after) && tail$next_at - k <= 2 + length(tail$items)
  if (stated && adjacent && !identical(after, lead$column)) lead$column <- NA_integer_
  # ("wards below 50 % turnout": the measure is named, and no age is counted in percent)
  if (isTRUE(lead$guessed) && (adjacent && kind_at(state, after) %in% c("number", "count") || any(tail$unit %in% c("%", "percent", "per cent")))) {
    lead$column <- NA_integer_
  }
  # "the birth weight of a 30 year old"
  own <- adjacent && tail$next_at == k + 1 && item_norm(state, k - 1) %in% c("a", "an") && !identical(after, lead$column)
  if (!is.na(lead$column) && !own && (lead$close || !adjacent || length(lead$op))) {
    return(list(column = lead$column, op = lead$op, used = c(lead$items, tail$items), suffix = tail$op,
                close = lead$close))
  }
  if (adjacent) {
    # "200 horsepower or more"
    last <- after_number(state, tail$next_at)
    return(list(column = after, op = lead$op, used = c(lead$op_at, tail$items, tail$next_at, if (length(last$op)) last$items),
                suffix = c(tail$op, last$op), close = TRUE))
  }
  unit <- unit_column(state, tail$unit)
  # "mothers under 20": people, a bound and nothing else to measure it by (nobody is 140)
  if (is.na(unit) && !length(tail$unit) && isTRUE(state$items[[k]]$value <= 120) && any(lead$op %in% c("<", ">", "<=", ">=")) && item_norm(state,
    k - 1) %in% c("over", "under", "above",
    "below", "than", "least", "at least") && names_people(state, k) && !had_before(state, k)) unit <- age_column(state)
  # "65 and older"
  if (is.na(unit) && length(tail$items) && grepl("older|younger", item_norm(state, last_of(tail$items)))) unit <- age_column(state)
  # "cars with over 40 mpg on the highway"
  if (is.na(unit) && any(lead$op %in% c("<", ">", "<=", ">="))) {
    own <- measure_after(state, k)
    # "had at least one previous admission"
    further <- item_column(state, k + 2, c("number", "count"))
    if (is.null(own) && had_before(state, k) && state$type[min(k + 1, state$n)] == "unknown" && !is.na(further)) {
      own <- list(column = further, items = k + 2)
    }
    if (!is.null(own)) return(list(column = own$column, op = lead$op, used = c(lead$op_at, own$items), suffix = tail$op, close = TRUE))
  }
  # "with 200 horsepower and 3000 lb"
  beside <- length(tail$unit) && item_norm(state, k - 1) %in% c("and", "with", "weighing", "costing", "lasting") &&
    !says(state, "\\b(margin|equivalen\\w*|difference of|detect|within|at least|sample size|power)\\b")
  list(column = if (length(lead$op) || length(tail$op) || beside) unit else NA_integer_, op = lead$op,
       used = c(lead$op_at, tail$items), suffix = tail$op, close = beside)
}

#' "mothers had at least one": a number of things that people have, and no age of theirs
#' @noRd
had_before <- function(state, k) {
  j <- k - 1
  while (j >= 1 && length(lex_ids(state$items[[j]], "comparator")) && !item_norm(state, j) %in% c("have", "has", "had", "with")) j <- j - 1
  item_norm(state, j) %in% c("have", "has", "had", "having", "got", "made", "took")
}

#' The measure that stands a few words behind a number, as in "40 mpg on the highway"
#' @section Shape: list(column, items), or NULL.
#' @noRd
measure_after <- function(state, k) {
  for (j in k + 2:5) {
    if (j > state$n || !state$type[j - 1] %in% c("stop", "filler", "entity", "unit", "unknown")) return(NULL)
    column <- item_column(state, j, c("number", "count"))
    if (is.na(column)) next
    lead <- item_norm(state, j - 1)
    if (lead == "the") lead <- item_norm(state, j - 2)
    return(if (lead %in% c("on", "of")) list(column = column, items = k + seq_len(j - k)))
  }
  NULL
}

before_number <- function(state, k, kinds) {
  op <- character(); op_at <- integer()
  j <- k - 1
  connectors <- c("is", "was", "are", "were", "of", "a", "the", "being", "equals", "equal", "value", "score", "rating",
                  "than", "\u00a3", "$", "\u20ac", "level", "exactly", "at", "as", "be", "between", "lies", "lying")
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
      # "who wait longer than two minutes": what is measured in such units stands before the adjective
      own <- item_column(state, j - 1, c("number", "count"))
      if (!is.na(own) && !own %in% a$column[1] && (own %in% a$column || measured_in(state, own, after_number(state, k)$unit))) a$column <- own
      # "the queen is older than": the words before that name the same column are part of the condition
      same <- Filter(function(i) state$type[i] == "column" && a$column[1] %in% state$items[[i]]$cols$column, max(1, j - 3):j)
      return(list(column = a$column[1], op = if (a$id[1] == "low") "<" else ">", items = c(same, j:(k - 1)), op_at = op_at,
                  close = TRUE, close_by_name = TRUE))
    }
    else if (state$items[[j]]$norm == "aged") {
      age <- match("age", tolower(state$vocabulary$columns$name))
      age <- if (is.na(age)) age_column(state) else age
      return(list(column = age, op = op, items = j:(k - 1), op_at = op_at, close = TRUE, close_by_name = TRUE))
    }
    else {
      # what is more or less than a number is itself a quantity
      sought <- if (any(op %in% c("<", ">", "<=", ">="))) setdiff(kinds, c("category", "yes_no")) else kinds
      column <- if (state$used[j] && state$type[j] != "column") NA_integer_ else item_column(state, j, sought)
      if (!is.na(column) && kind_at(state, column) != "id" && only_whose(state, j, column)) column <- NA_integer_
      # a key is no quantity: "patients over 60" speaks of their age
      if (!is.na(column) && kind_at(state, column) == "id" && any(op %in% c("<", ">", "<=", ">="))) {
        age <- age_column(state)
        return(list(column = age, op = op, items = op_at, op_at = op_at, close = !is.na(age), close_by_name = FALSE, guessed = TRUE))
      }
      # "above magnitude 5.5": the bound stands before the name
      plain <- !item_norm(state, j - 1) %in% c("from", "since", "to", "until", "of", "is", "at", "in", "by", "after", "before")
      bound <- if (!is.na(column) && !length(op) && j == k - 1 && j > 1 && !state$used[j - 1] && plain) setdiff(lex_ids(state$items[[j - 1]],
        "comparator"), "==")
      if (length(bound) && kind_at(state, column) %in% c("number", "count")) { op <- bound[1]; op_at <- j - 1 }
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
  if (length(hit)) return(hit[1])
  # (of a code such as "D3" the label tells it)
  own <- unique(state$vocabulary$terms$column[state$vocabulary$terms$stem == "age" & state$vocabulary$terms$source == "label"])
  own <- own[state$vocabulary$columns$kind[own] %in% c("number", "count")]
  if (length(own) == 1) own else NA_integer_
}

#' What follows a number: unit words, "or more"
#' @noRd
after_number <- function(state, k) {
  j <- k + 1
  items <- integer(); unit <- character(); op <- character()
  while (j <= state$n) {
    item <- state$items[[j]]
    if (item$norm %in% c("\u00b0", "%", "percent", "per cent") || state$type[j] == "unit" || (j == k + 1 && unit_before_of(state, j)) ||
        item$norm %in% c("f", "c") && length(unit)) {
      unit <- c(unit, item$norm); items <- c(items, j) }
    else if (length(lex_ids(item, "comparator")) && grepl("^(or|and|upward|up$)", item$norm)) {
      op <- lex_ids(item, "comparator")[1]; items <- c(items, j) }
    else if (item$norm == "+") { op <- ">="; items <- c(items, j) }
    else break
    j <- j + 1
  }
  list(items = items, unit = unit, op = op, next_at = if (j <= state$n) j else NA_integer_)
}

#' "10 hours of overtime": an everyday word that is a unit where "of" and a measured column follow
#' @noRd
unit_before_of <- function(state, j) {
  state$type[j] %in% c("filler", "lexicon") && item_norm(state, j) %in% names(unit_words()) && item_norm(state, j + 1) == "of" &&
    any(vapply(j + 2:3, function(i) !is.na(item_column(state, i, c("number", "count"))), NA))
}

#' The one column measured in a unit
#' @noRd
unit_column <- function(state, unit) {
  if (!length(unit)) return(NA_integer_)
  wanted <- c(unit_words()[unit], unlist(unit_tails()[unit]), unit)
  # pounds of money, where nothing is weighed in them
  if (any(unit %in% c("pounds", "pound", "quid")) && !any(state$vocabulary$columns$unit %in% "lb")) wanted <- c(wanted, "GBP")
  columns <- state$vocabulary$columns
  hit <- which(columns$unit %in% wanted | (any(grepl("\u00b0", wanted)) & grepl("\u00b0", columns$unit)))
  if (any(wanted %in% "years") && !length(hit)) { age <- age_column(state); if (!is.na(age)) hit <- age }
  if (length(hit) == 1) hit else NA_integer_
}

one_number_filter <- function(state, k) {
  found <- column_of_unit(state, k, number_column(state, k))
  if (is.na(found$column) || measured_at(state, k, found)) return(state)
  item <- state$items[[k]]
  op <- c(found$suffix, found$op, "==")[1]
  if (!length(found$op) && !length(found$suffix) && !found$close) return(state)
  name <- column_of(state, found$column)
  scaled <- in_column_unit(state, k, found$column)
  item$value <- scaled$value
  state$items[[k]]$value <- scaled$value
  if (!is.null(scaled$said)) state <- assume(state, scaled$said)
  state <- note_loose_filter(state, found$column, found$used)
  state$flags$number_columns <- c(state$flags$number_columns, found$column)
  between <- between_numbers(state, k)
  if (!is.null(between)) {
    upper <- in_column_unit(state, between, found$column)
    if (!is.null(upper$said)) { state <- assume(state, upper$said); item$value <- item$value * if (is.null(scaled$said)) upper$factor else 1 }
    state <- add_filter(state, name, "between", c(item$value, upper$value))
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
    # "a 20 % discount vs none"
    after <- max(k, unlist(found$used)) + 1
    none <- item_norm(state, after) %in% c("vs", "versus", "and", "or", "than", "against", "compared with", "compared to") &&
      item_norm(state, after + 1) %in% c("none", "nothing", "without", "zero") && state$vocabulary$columns$lowest[found$column] %in% "0"
    if (none) {
      group$numbers <- c(group$numbers, 0); group$levels <- c(group$levels, "0"); group$at <- c(group$at, after + 1L)
      state <- use_items(state, after + 1L)
    }
    if (op == "!=") group$negated <- TRUE
    state$groups <- c(state$groups, list(group))
    return(use_items(state, c(k, found$used)))
  }
  state <- add_filter(state, name, op, item$value)
  use_items(state, c(k, found$used))
}

#' "average uptake at 350": what is averaged is not what is held at a value, so the number is asked about
#' @noRd
measured_at <- function(state, k, found) {
  asked <- length(intersect(asked_statistics(state), c("mean", "median", "sd", "sum", "min", "max"))) > 0
  at <- item_norm(state, k - 1) == "at" && !is.na(item_column(state, k - 2, c("number", "count"))) && !length(after_number(state, k)$unit)
  others <- any(vapply(setdiff(which(state$type == "column"), k - 2), function(j) can_measure(state, state$items[[j]]$cols$column[1]), NA))
  asked && at && !others && isTRUE(found$column == item_column(state, k - 2)) && !length(setdiff(found$op, "=="))
}

#' The word behind a number that may be its unit; in "above 25 in the north" the small word is none, though "in" are inches at the end
#' @noRd
unit_word_at <- function(state, j) {
  word <- item_norm(state, j)
  if (!nzchar(word) || word == "in" && j < state$n && !item_norm(state, j + 1) %in% c("and", "or", ",", "?", ".")) "none" else word
}

#' "nitrate at 5 cm": a number with a unit belongs to the one column of that unit, not to its neighbour of another
#' @noRd
column_of_unit <- function(state, k, found) {
  listed <- number_list(state, k)
  at <- if (length(listed) > 1) last_of(listed) else k
  unit <- unit_tails()[[unit_word_at(state, at + 1)]] %||% NA
  units <- state$vocabulary$columns$unit
  family <- Filter(function(sizes) unit %in% names(sizes), unit_sizes())
  if (is.na(unit) || !length(family)) return(found)
  # only where a condition is put: beside another column, after a comparison, or after "at"
  if (!isTRUE(found$close) && !length(found$op) && item_norm(state, k - 1) != "at") return(found)
  alike <- names(family[[1]])
  # of the columns that the word fits, the one in the unit said ("weighed less than 2500 g")
  near <- unique(unlist(lapply(setdiff(found$used, k), function(j) state$items[[j]]$cols$column)))
  exact <- near[units[near] == unit]
  if (!is.na(found$column) && !identical(units[found$column], unit) && found$column %in% near && length(exact) == 1) found$column <- exact
  if (!is.na(found$column) && isTRUE(units[found$column] %in% alike)) return(found)
  # a column whose own unit is not known may be meant, where it is named beside the number
  unknown <- !is.na(found$column) && (is.na(units[found$column]) || !nzchar(units[found$column]))
  if (unknown && (found$column %in% near || !any(units %in% alike))) return(found)
  fits <- which(units %in% alike & state$vocabulary$columns$kind %in% c("number", "count"))
  # of several, the one in the very unit ("longer than 10 miles" beside a climb in feet)
  if (length(fits) > 1 && sum(units[fits] == unit) == 1) fits <- fits[units[fits] == unit]
  if (length(fits) != 1 || far_beyond(state, k, fits)) return(found)
  list(column = fits, op = found$op, used = c(at + 1, Filter(function(j) j != k && state$type[j] != "column", found$used)), suffix = found$suffix,
       close = TRUE)
}

#' "been here over 10 years" beside a column of sick days up to 38: in its unit the number lies far beyond all it holds
#' @noRd
far_beyond <- function(state, k, column) {
  highest <- suppressWarnings(as.numeric(state$vocabulary$columns$highest[column]))
  isTRUE(in_column_unit(state, k, column)$value > 3 * highest)
}

#' A condition on a word that fits several columns about as well ("more than 10 mites", before or after; "without goals", home or away)
#' @param column The column taken.
#' @param at Items that the condition uses.
#' @noRd
note_loose_filter <- function(state, column, at) {
  for (k in at) {
    cols <- state$items[[k]]$cols
    if (is.null(cols) || !column %in% cols$column) next
    close <- close_columns(list(cols = cols, score = cols$score[1], column = cols$column[1]))
    if (length(close) > 1 && column %in% close) {
      state$flags$loose_filter <- list(text = state$items[[k]]$text, column = column_of(state, column), columns = column_of(state, close))
    }
  }
  state
}

#' Units that measure the same thing, by their size
#' @noRd
unit_sizes <- function() {
  list(time = c(ms = 0.001, s = 1, min = 60, hours = 3600, h = 3600, days = 86400, weeks = 604800, months = 2629800, years = 31557600),
       mass = c(mg = 1e-6, g = 1e-3, kg = 1, t = 1000, oz = 0.028349523125, lb = 0.45359237),
       length = c(mm = 1e-3, cm = 0.01, `in` = 0.0254, ft = 0.3048, yd = 0.9144, m = 1, km = 1000, mi = 1609.344),
       volume = c(ml = 1e-3, l = 1, gal = 3.785411784))
}

#' Is a column measured in units that the words name, or could be counted in?
#' @noRd
measured_in <- function(state, column, words) isTRUE(state$vocabulary$columns$unit[column] %in% units_like(words))

#' All units that measure what a unit word measures
#' @noRd
units_like <- function(words) {
  words <- tolower(words)
  own <- unit_words()[c(words, paste0(words, "s", recycle0 = TRUE))]
  own <- c(own[!is.na(own)], words)
  unlist(lapply(unname(unit_sizes()), function(sizes) if (any(own %in% names(sizes))) names(sizes)))
}

#' A number with a unit, in the unit of its column: "over two minutes" of a column in seconds
#' @section Shape: list(value, factor, said = what to tell, or NULL).
#' @noRd
in_column_unit <- function(state, k, column) {
  value <- state$items[[k]]$value
  words <- after_number(state, k)$unit
  words <- if (length(words)) words else if (k < state$n) item_norm(state, k + 1)
  if (identical(words, "in")) words <- setdiff(unit_word_at(state, k + 1), "none")
  if (isTRUE(state$vocabulary$columns$share[column]) && any(words %in% c("%", "percent", "per cent")) && value > 1) {
    text <- sprintf("Took %s %% as %s, since %s runs from 0 to 1.", format_plain(value), format_plain(value / 100), column_of(state, column))
    return(list(value = value / 100, factor = 0.01, said = text))
  }
  tails <- unit_tails()
  # ("1 week" as well as "2 weeks")
  many <- paste0(intersect(words, c("year", "month", "week", "day", "hour", "minute")), "s", recycle0 = TRUE)
  said <- unname(c(unit_words()[words], unlist(tails[intersect(words, names(tails))]), unit_words()[many],
                   intersect(many, names(unit_sizes()$time))))
  said <- said[!is.na(said)][1]
  own <- state$vocabulary$columns$unit[column]
  # (a column that is called "nights" or "weeks" is counted in them)
  called <- tolower(column_of(state, column))
  if (!nzchar(own %||% "") && called %in% c("nights", "days", "weeks", "months", "years", "hours", "minutes", "seconds")) {
    own <- c(nights = "days", minutes = "min", seconds = "s")[called]
    own <- unname(if (is.na(own)) called else own)
  }
  for (sizes in unit_sizes()) if (!is.na(said) && all(c(said, own) %in% names(sizes)) && sizes[[said]] != sizes[[own]]) {
    factor <- sizes[[said]] / sizes[[own]]
    text <- sprintf("Took %s %s as %s %s, the unit of %s.", format_plain(value), words[1], format_plain(signif(value * factor, 6)), own,
                    column_of(state, column))
    return(list(value = signif(value * factor, 12), factor = factor, said = text))
  }
  # a unit that the data does not confirm is told ("a week" of a duration in whatever it is counted in)
  open <- !is.na(said) && !nzchar(own %||% "") && any(vapply(unit_sizes(), function(sizes) said %in% names(sizes), NA)) &&
    !(said == "years" && grepl("(^|[^a-z])age([^a-z]|$)", tolower(column_of(state, column))))
  told <- if (open) sprintf("Took %s %s as the number %s in %s, whose unit the data does not tell.", format_plain(value), words[1],
                            format_plain(value), column_of(state, column))
  list(value = value, factor = 1, said = told)
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
  # three and more numbers are a list, not a range
  if (length(number_list(state, k)) > 2) return(NULL)
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

#' Do people stand before a bound ("patients over 60", "women under 40")?
#' @noRd
names_people <- function(state, k) {
  before <- vapply(max(1, k - 5):max(1, k - 1), function(j) item_norm(state, j), "")
  # "diabetics over 50", of a yes/no column diabetic
  if (k > 2 && is_people_of(state, k - 2)) return(TRUE)
  any(grepl(people_pattern(), before))
}

#' Words for people, of whom an age may be told without naming it
#' @noRd
people_pattern <- function() {
  paste0("^(people|persons?|patients?|participants?|respondents?|subjects?|students?|children|adults?|wom[ae]n|m[ae]n|mothers?|fathers?|girls?|boys?|",  # nolint: line_length_linter.
         "employees?|staff|workers?|customers?|clients?|users?|members?|players?|athletes?|keepers?|passengers?|voters?|donors?|volunteers?|those|anyone|",  # nolint: line_length_linter.
         "everyone|individuals?|residents?|smokers?|males?|females?|policy ?holders?|holders?|tenants?|drivers?|inhabitants?|borrowers?|insured)$")
}
