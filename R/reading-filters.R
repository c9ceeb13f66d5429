# Conditions on rows: comparisons with numbers, dates and periods, values named in the question.

new_filter <- function(column, op, value) list(column = column, op = op, value = value)

#' Is a condition a bound on numbers ("above 5", "between 3 and 9")?
#' @noRd
is_bound <- function(f) f$op %in% c("<", "<=", ">", ">=", "between") && is.numeric(f$value)

add_filter <- function(state, column, op, value) {
  state$filters <- c(state$filters, list(new_filter(column, op, value)))
  state
}

find_filters <- function(state) {
  state <- plural_levels(levels_stated(set_words_free(survival_of_times(state))))
  state <- both_sides(state)
  state <- usual_windows(state)
  state <- date_filters(state)
  state <- year_filters(state)
  state <- weights_aside(state)
  state <- something_filters(state)
  state <- none_filters(state)
  state <- times_of_curve(state)
  state <- life_stages(state)
  state <- first_and_last(state)
  state <- number_filters(state)
  state <- yes_no_filters(state)
  value_groups(state)
}

#' "girl = yes", "where smoker is no", "group: other": a word of everyday speech that is a level of the column before it
#' @noRd
levels_stated <- function(state) {
  for (k in which(state$type == "column")) {
    m <- past_signs(state, k)
    told <- m > k + 1
    # (behind a sign a level that other columns hold too is that of the column before it)
    if (m > state$n || !state$type[m] %in% c("stop", "filler", "lexicon", "unknown", "entity", "adjective", if (told) "value") || state$used[m]) next
    column <- state$items[[k]]$cols$column[1]
    levels <- c(state$vocabulary$columns$first_level[column], state$vocabulary$columns$last_level[column],
                state$vocabulary$values$level[state$vocabulary$values$column == column])
    own <- levels[tolower(levels) %in% tolower(state$items[[m]]$text)]
    # without a sign between them only yes and no are plainly the column's
    if (!length(own) || !is_level_kind(kind_at(state, column)) || (!told && !tolower(own[1]) %in% c("yes", "no", "true", "false"))) next
    state$items[[m]]$vals <- new_links(m, m, "value", column = column, level = own[1], score = 1)
    state$items[[m]]$type <- "value"
    state$type[m] <- "value"
  }
  state
}

#' "satisfaction of members", of a column member with the levels Member and Guest: the rows at the level, not the column
#' @noRd
plural_levels <- function(state) {
  for (k in which(state$type == "column" & vapply(state$items, function(i) NROW(i$vals) > 0, NA))) {
    column <- state$items[[k]]$cols$column[1]
    own <- state$items[[k]]$vals[state$items[[k]]$vals$column == column, , drop = FALSE]
    others <- setdiff(which(vapply(state$items, function(i) column %in% i$vals$column, NA)), k)
    # ("how many promoters are members")
    counted <- item_norm(state, k - 1) %in% c("are", "were") && says(state, "^ *how many\\b") && k > 3 ||
      item_norm(state, k - 1) %in% c("do", "did") && says(state, "^ *what (do|did)\\b")
    whose <- (counted || item_norm(state, k - 1) %in% c("of", "for", "among", "from", "only", "how many")) &&
      !item_norm(state, k + 1) %in% c("and", "or", "versus", "vs")
    if (!nrow(own) || length(others) || !whose || !grepl("[^s]s$", item_norm(state, k))) next
    state$items[[k]]$vals <- own
    state$items[[k]]$type <- state$type[k] <- "value"
  }
  state
}

#' The place of what stands behind a name and the words or signs that state a value of it ("is", "=", "not")
#' @noRd
past_signs <- function(state, k) {
  signs <- c("=", "==", ":", "!=", "is", "are", "was", "were", "equals", "equal", "to", "not", "isnt", "arent", "'", "\"")
  m <- k + 1
  while (m < state$n && item_norm(state, m) %in% signs) m <- m + 1
  m
}

#' "in 2015", "since 2015", "between 2010 and 2021", of data that holds years as numbers
#' @noRd
year_filters <- function(state) {
  columns <- state$vocabulary$columns
  years <- which(columns$role == "year")
  if (length(years) != 1 || any(columns$kind %in% c("date", "datetime"))) return(state)
  span <- suppressWarnings(as.numeric(strsplit(columns$years[years], "-", fixed = TRUE)[[1]]))
  if (length(span) != 2 || anyNA(span)) return(state)
  name <- columns$name[years]
  is_year <- function(k) k <= state$n && state$type[k] == "number" && !state$used[k] && isTRUE(state$items[[k]]$value %in% (span[1] - 1):(span[2] +
      1))
  for (k in which(vapply(seq_len(state$n), is_year, NA))) {
    if (state$used[k]) next
    before <- item_norm(state, k - 1)
    if (before %in% c("between", "from") && item_norm(state, k + 1) %in% c("and", "to", "until", "-") && is_year(k + 2)) {
      state <- add_filter(state, name, "between", c(state$items[[k]]$value, state$items[[k + 2]]$value))
      state <- use_items(state, (k - 1):(k + 2))
      next
    }
    op <- c(since = ">=", from = ">=", before = "<", `prior to` = "<", after = ">", until = "<=", till = "<=", through = "<=", `up to` = "<=",
        `in` = "==",
            during = "==", of = "==", `for` = "==", year = NA)[before]
    if (is.na(op)) next
    state <- add_filter(state, name, unname(op), state$items[[k]]$value)
    # "year after 1970": the column named before its number belongs to it
    own <- Filter(function(j) j >= 1 && state$type[j] == "column" && years %in% state$items[[j]]$cols$column, k - 1:2)
    state <- use_items(state, c(k, own, if (before %in% c("since", "before", "after", "until", "till", "through", "up to", "prior to")) k - 1))
  }
  state
}

#' "girls from a minority", "hives that swarmed": a yes/no column after such words is a condition when something
#' else is asked about
#' @noRd
yes_no_filters <- function(state) {
  state <- left_out_or_only(state)
  columns <- which(state$type == "column" & !state$used)
  asked <- Filter(function(k) !kind_at(state, state$items[[k]]$cols$column[1]) %in% c("id", "date", "datetime"),
                  columns)
  if (length(asked) + sum(state$type == "value") + length(state$filters) < 2) return(state)
  if (any(vapply(state$items[!state$used], function(i) has_lex(i, "task", c("compare", "relate", "predict", "drivers", "change")) ||
                 has_lex(i, "method"), NA))) {
    # "the correlation of A and B among app users": beside two measures a yes/no column after "among" narrows the rows
    measured <- sum(vapply(columns, function(k) !is.na(item_column(state, k, c("number", "count"))), NA))
    columns <- if (measured >= 2) columns[vapply(columns, function(k) item_norm(state, k - 1) == "among" || among_those_who(state, k) ||
      left_without(state, k) || (item_norm(state, k - 1) == "for" && (is_people_of(state, k) || names_rows_at(state, k + 1, FALSE) &&
        grepl("(ed|en)$", item_norm(state, k)))) || none_of_people(state, k), NA)] else
      columns[measured > 0 & vapply(columns, function(k) left_without(state, k), NA)]
    if (!length(columns)) return(state)
  }
  # "do people who left earn less": the two sides are compared, neither is left out
  if (says(state, "^ *(do|does|did|are|is|were|was|have|has)\\b.*\\b(more|less|fewer|higher|lower|better|worse|bigger|smaller|longer|shorter|older|younger|larger|heavier|lighter)\\b") &&  # nolint: line_length_linter.
      !says(state, "\\bthan\\b")) return(state)
  for (k in columns) {
    column <- item_column(state, k, "yes_no")
    if (is.na(column) || level_follows(state, k, column)) next
    j <- k - 1
    while (j >= 1 && item_norm(state, j) %in% c("a", "an", "the", "been", "had", "in", "any")) j <- j - 1
    # "not on free meals", "not eligible for a grant"
    back <- j
    while (back >= 1 && item_norm(state, back) %in% c("on", "for", "to", "getting", "receiving", "eligible", "entitled", "given", "using")) back <- back - 1  # nolint: line_length_linter.
    if (back < j && has_lex_at(state, back, "scope", "not")) j <- back
    lead <- item_norm(state, j)
    negated <- has_lex_at(state, j, "scope", "not") || lead == "without"
    # "the share of hives that swarmed": what is counted, not a condition
    counted <- vapply(max(1, j - 4):max(1, j - 1), function(i) item_norm(state, i), "")
    others <- setdiff(columns, k)
    single <- !any(vapply(others, function(o) !is.na(item_column(state, o, "yes_no")), NA))
    if (single && !negated && lead %in% c("that", "who", "which") &&
        any(grepl("^(what )?(share|proportion|percentage|percent|fraction)( of)?$", counted))) next
    # "the bmi of smokers", of a column smoker: those for whom it says yes
    people <- (lead %in% c("of", "for", "among", "in") || item_norm(state, k - 1) == "in") && is_people_of(state, k) && item_norm(state, k +
        1) != "and"
    # "tenure of churned customers": whose it is
    whose <- lead %in% c("of", "for", "among", "in") && names_rows_at(state, k + 1, item_norm(state, k) == tolower(name_words(column_of(state,
        column)))) && (grepl("(ed|en|ing)$", item_norm(state, k)) || item_norm(state, k) == tolower(name_words(column_of(state, column)))) &&
        !item_norm(state, k + 2) %in% c("and", "or")
    people <- people || whose
    # "total weight of discarded hake": an adjective before a level of another column
    people <- people || lead %in% c("of", "for", "among", "in") && grepl("(ed|en)$", item_norm(state, k)) && k < state$n && state$type[k + 1] == "value"  # nolint: line_length_linter.
    # "revenue of new customers", of a column NewCustomer: the whole name, in the plural
    people <- people || lead %in% c("of", "for", "among", "from") && isTRUE(state$items[[k]]$cols$covers[1] > 1) && grepl("[^s]s$", item_norm(state,
        k)) &&
      names_rows(state$vocabulary, sub("^.* ", "", item_norm(state, k))) && !item_norm(state, k + 1) %in% c("and", "or", "versus", "vs")
    # "spend by region for app users", at the end of a question about a measured column
    last <- lead == "for" && k >= state$n - 1 && any(vapply(others, function(o) !is.na(item_column(state, o, c("number", "count"))), NA))
    if (!negated && !people && !last && !lead %in% c("that", "who", "which", "with", "having", "from", "were", "have", "had", "among", "those who",
      "people who")) next
    if (item_norm(state, k + 1) %in% c("and", "or", "versus", "vs") && has_lex_at(state, k + 2, "scope", "not")) next
    # "managers and non-managers": both sides
    first <- item_column(state, j - 2, "yes_no")
    if (negated && item_norm(state, j - 1) %in% c("and", "or", "versus", "vs", "than", "&") && first %in% column) {
      state <- use_items(state, c(j, k))
      next
    }
    state <- take_side(state, column, !negated, trimws(paste(if (negated) item_norm(state, j), state$items[[k]]$text)), c(k, if (people &&
      item_norm(state, k - 1) == "in") k - 1 else j))
  }
  state
}

#' "for car loans without defaults": what stands after "without", unless both sides are told
#' @noRd
left_without <- function(state, k) {
  item_norm(state, k - 1) == "without" && !item_norm(state, k - 2) %in% c("and", "or", "than", "vs", "versus") && item_norm(state, k + 1) != "and" &&
    !is.na(item_column(state, k, "yes_no"))
}

#' "excluding managers", "only managers": of a yes/no column, whatever else is asked
#' @noRd
left_out_or_only <- function(state) {
  for (k in which(state$type == "column" & !state$used)) {
    column <- item_column(state, k, "yes_no")
    if (is.na(column) || level_follows(state, k, column)) next
    j <- k - 1
    while (j >= 1 && item_norm(state, j) %in% c("a", "an", "the", "all", "any")) j <- j - 1
    # "what is expected of a 30 year old smoker"
    foreseen <- says(state, "\\b(expect(ed)?|predict|what would)\\b") && says(state, "\\b(a|an) ") && k > 2 &&
      (state$type[k - 1] %in% c("value", "column", "unit") || item_norm(state, k - 1) %in% c("a", "an", "old")) &&
      grepl("(er|or|ist|ee|ic)$", item_norm(state, k)) && item_norm(state, k + 1) != "status" &&
      !item_norm(state, k - 1) %in% c("and", "from", "on")
    if (foreseen && state$type[k - 1] == "column" && !state$used[k - 1]) foreseen <- FALSE
    # "risk of readmission for an 85 year old emergency patient": who the chance is of
    event <- Filter(function(j) j < k && !is.na(item_column(state, j, "yes_no")) && item_column(state, j, "yes_no") != column, seq_len(k - 1))
    chance <- says(state, "\\b(chances?|risk|probability|likelihood) (of|that)\\b") && says(state, "\\bfor (a|an) ") && length(event) > 0 &&
      k < state$n && (state$type[k + 1] %in% c("entity", "unknown") || !is.na(item_column(state, k + 1, "id")))
    foreseen <- foreseen || chance
    if (foreseen) {
      state <- take_side(state, column, TRUE, state$items[[k]]$text, k)
      next
    }
    out <- has_lex_at(state, j, "scope", "except") && !item_norm(state, j) %in% c("minus the", "without")
    only <- has_lex_at(state, j, "scope", "only") && is_people_of(state, k)
    if (!out && !only) next
    state <- take_side(state, column, !out, paste(item_norm(state, j), state$items[[k]]$text), c(j, k))
  }
  state
}

#' "among those who signed up", "in patients who had": what stands before narrows the rows to those people
#' @noRd
among_those_who <- function(state, k) {
  before <- paste(vapply(max(1, k - 5):max(1, k - 1), function(j) item_norm(state, j), ""), collapse = " ")
  grepl("(among|amongst|of|for|in) (all )?(the )?(those|people|persons|ones|[a-z]+s|men|women|children) ((who|that|which)( have| had| are| were| did)?|(with|having)( a| an)?)$", before)  # nolint: line_length_linter.
}

#' Keep the rows on the yes or the no side of a column, and say so
#' @param said The words of the question.
#' @param at The items that they take up.
#' @noRd
take_side <- function(state, column, yes, said, at) {
  columns <- state$vocabulary$columns
  level <- if (yes) columns$last_level[column] else columns$first_level[column]
  state <- add_filter(state, column_of(state, column), "==", level)
  state <- assume(state, sprintf("Took %s to mean %s is %s.", quoted(said), quoted(column_of(state, column)), quoted(level)))
  use_items(state, at)
}

#' Does a level of the column stand behind its name ("girl = yes")? It says itself which rows are meant
#' @noRd
level_follows <- function(state, k, column) {
  m <- past_signs(state, k)
  m <= state$n && state$type[m] == "value" && column %in% state$items[[m]]$vals$column
}

#' Is an item a plural word for the rows ("customers", also where a key is called so)?
#' @param plain May it be any plural noun, since what stands before it is a column's own name ("for correct trials")?
#' @noRd
names_rows_at <- function(state, k, plain = FALSE) {
  # "returning mobile visitors"
  while (k < state$n && state$type[k] == "value") k <- k + 1
  if (k > state$n || !grepl("s$|^(people|children|staff)$", item_norm(state, k))) return(FALSE)
  state$type[k] == "entity" || (plain && state$type[k] == "filler") || (state$type[k] == "column" && kind_at(state, item_column(state, k)) %in% "id")
}

#' "for non smokers only", of a yes/no column smoker, at the end of a question about other columns
#' @noRd
none_of_people <- function(state, k) {
  item_norm(state, k - 1) == "non" && item_norm(state, k - 2) %in% c("for", "among", "in", "of", "only") && is_people_of(state, k) &&
    !item_norm(state, k + 1) %in% c("and", "or", "versus", "vs", "than")
}

#' "members", of a yes/no column member: those for whom it says yes
#' @noRd
is_people_of <- function(state, k) {
  column <- item_column(state, k, "yes_no")
  said <- tolower(state$items[[k]]$text)
  if (is.na(column) || !grepl("s$", said)) return(FALSE)
  name <- tolower(column_of(state, column))
  # ("diabetics" of diabetes)
  agent <- grepl("(ics|ers|ors|ists)$", said) && nchar(said) > 6 && startsWith(name, substr(said, 1, nchar(said) - 3))
  agent || sub("s$", "", said) == name
}

#' "with and without an ulcer": the column named next divides the rows
#' @noRd
both_sides <- function(state) {
  # "insured and uninsured": a yes/no column and its denial are its two sides
  for (k in which(vapply(state$items, function(i) i$norm %in% c("and", "or", "vs", "versus", "from", "than"), NA))) {
    if (k < 2 || k >= state$n) next
    for (pair in list(c(k - 1, k + 1), c(k + 1, k - 1))) {
      column <- item_column(state, pair[1], "yes_no")
      if (is.na(column) || state$type[pair[2]] != "value" || !column %in% state$items[[pair[2]]]$vals$column) next
      # "ulcer present and ulcer absent": here the column carries a value of its own
      beside <- intersect(pair[1] + c(-1, 1), seq_len(state$n))
      if (any(vapply(beside, function(j) state$type[j] == "value" && column %in% state$items[[j]]$vals$column, NA))) next
      state <- use_items(state, c(k, pair[2]))
    }
  }
  for (k in seq_len(max(0, state$n - 3))) {
    three <- c(item_norm(state, k), item_norm(state, k + 1), item_norm(state, k + 2))
    if (!identical(three, c("with", "and", "without"))) next
    state <- use_items(state, k:(k + 2))
    state$flags$both_at <- as.integer(k + 2)
  }
  state
}

# ---- dates -----------------------------------------------------------------------------------------------------

#' "the second quarter", "Q3" without its year, in data with dates and no column or level of that name
#' @section Shape: the words, or character(0).
#' @noRd
loose_period <- function(text, vocabulary) {
  columns <- vocabulary$columns
  loose <- regmatches(text, regexpr("\\b((first|second|third|fourth|last|1st|2nd|3rd|4th) (quarter|half)|[qh][1-4])\\b(?! (of )?[0-9]{4})",
    text, ignore.case = TRUE, perl = TRUE))
  # "last quarter" is counted from the end of the data
  if (!length(loose) || grepl("^last", loose, ignore.case = TRUE, perl = TRUE) || !any(columns$kind %in% c("date", "datetime")) ||
      tolower(loose) %in% tolower(c(vocabulary$values$level, columns$name))) return(character())
  loose
}

#' The question with the only year of the data written behind such a period, since there it can be of no other
#' @section Shape: list(text, told).
#' @noRd
with_only_year <- function(text, vocabulary) {
  columns <- vocabulary$columns
  loose <- loose_period(text, vocabulary)
  dated <- which(columns$kind %in% c("date", "datetime") & nzchar(columns$years))
  # (of several dates the first tells the period, as elsewhere)
  years <- unique(unlist(strsplit(columns$years[dated[1]], "-", fixed = TRUE)))
  if (!length(loose) || length(years) != 1) return(list(text = text))
  said <- if (grepl("^[qh]", loose, ignore.case = TRUE)) toupper(loose) else paste("The", tolower(loose))
  list(text = sub(loose, paste(loose, years), text, fixed = TRUE),
       told = sprintf("%s is taken to be of %s, the only year in the data.", said, years))
}

date_filters <- function(state) {
  loose <- loose_period(state$text, state$vocabulary)
  if (length(loose)) state$flags$open_month <- loose
  state <- relative_periods(state)
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
  lone <- lone_months(state)
  if (length(dated) && length(lone)) {
    state <- month_items(state, lone, columns$years[dated[1]])
    at <- c(at, lone[state$type[lone] == "date" & !state$used[lone]], intersect(lone - 1L, which(state$type == "date")))
  }
  if (!length(at)) return(state)
  if (!length(dated)) return(year_column_filters(state, at))
  name <- date_column_near(state, dated)
  for (k in sort(at)) if (!state$used[k]) state <- one_date_filter(state, k, at, name)
  filtered <- any(vapply(state$filters, function(f) identical(f$column, name), NA))
  if (filtered && length(dated) > 1 && !grepl(tolower(name), tolower(state$text), fixed = TRUE)) {
    state$assumed <- c(state$assumed, sprintf("The period is taken from %s, one of %d dates in the data.", name, length(dated)))
  }
  state
}

#' Months named without a year ("in august"); "may" and "march" only where they follow a word of time
#' @noRd
lone_months <- function(state) {
  which(vapply(seq_len(state$n), function(k) {
    if (state$used[k] || state$type[k] %in% c("date", "column", "value")) return(FALSE)
    month <- state$vocabulary$lexicon$months[item_norm(state, k)]
    if (is.na(month)) return(FALSE)
    !item_norm(state, k) %in% c("may", "march", "mar") || item_norm(state, k - 1) %in% c("in", "of", "during", "since",
        "until", "before", "after", "for", "from", "between", "through", "till", "versus", "vs") || grepl("^([1-9]|[12][0-9]|3[01])$",
            item_norm(state, k - 1))
  }, NA))
}

#' A month without a year is settled where the data holds one year only, and asked about otherwise
#' @noRd
month_items <- function(state, at, years) {
  span <- strsplit(years, "-", fixed = TRUE)[[1]]
  if (length(span) != 2 || span[1] != span[2]) {
    state$flags$open_month <- state$items[[at[1]]]$text
    return(state)
  }
  for (k in at) {
    row <- month_row(k, k, as.integer(span[1]), unname(state$vocabulary$lexicon$months[item_norm(state, k)]))
    day <- if (k > 1 && state$type[k - 1] == "number" && !state$used[k - 1] &&
        isTRUE(state$items[[k - 1]]$value %in% 1:31)) state$items[[k - 1]]$value
    if (!is.null(day)) {
      # "10 August": the day is the date, the month's own place is done with
      first <- sprintf("%s-%02d", substr(row$first, 1, 7), as.integer(day))
      state$items[[k - 1]] <- c(state$items[[k - 1]][setdiff(names(state$items[[k - 1]]), c("first", "last", "precision"))],
                                list(first = first, last = first, precision = "day"))
      state$type[k - 1] <- "date"
      state$used[k] <- TRUE
      state <- assume(state, sprintf("%s %s is taken to be of %s, the only year in the data.", format_plain(day),
          capital(state$items[[k]]$text), span[1]))
      next
    }
    state$items[[k]] <- c(state$items[[k]][setdiff(names(state$items[[k]]), c("first", "last", "precision"))],
        as.list(row[c("first", "last", "precision")]))
    state$type[k] <- "date"
    state <- assume(state, sprintf("%s is taken to be of %s, the only year in the data.", capital(state$items[[k]]$text), span[1]))
  }
  state
}

#' The date that a condition is on: one that the question mentions, else the one whose own words it says
#' @noRd
date_column_near <- function(state, dated) {
  mentioned <- unlist(lapply(state$items, function(i) i$cols$column))
  both <- intersect(dated, mentioned)
  if (length(both)) column_of(state, both[1]) else date_meant(column_of(state, dated), state$text)
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
  # leaving a period out of the middle cannot be put as one condition: it is said, never turned round
  left_out <- vapply(k - 1:2, function(j) item_norm(state, j), "")
  if (any(left_out %in% c("without", "except", "excluding", "except for", "other than", "not in", "apart from", "but not"))) {
    state$flags$period_left_out <- state$items[[k]]$text
    return(use_items(state, k))
  }
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
  # "who joined after June": the date column named before its date belongs to it
  for (j in max(1, k - 4):max(1, k - 1)) if (state$type[j] == "column" && identical(column_of(state, item_column(state, j, c("date", "datetime"))),
    name)) state <- use_items(state, j)
  # "have not logged in since June": the last time lies before it
  lead <- vapply(max(1, k - 7):max(1, k - 1), function(j) item_norm(state, j), "")
  if (identical(op, ">=") && any(lead == "since") && any(grepl("^(not|never|no|havent|hasnt|didnt|hadnt)$", lead))) op <- "<"
  if (!is.na(op)) {
    edge <- switch(op, "<" = item$first, ">" = item$last, ">=" = item$first, "<=" = item$last)
    state <- add_filter(state, name, op, edge)
    return(use_items(state, c(k, if (length(lex_ids_at(state, adjacent, "comparator"))) adjacent else before)))
  }
  state <- if (item$precision == "day") add_filter(state, name, "==", item$first) else add_filter(state, name,
      "between", c(item$first, item$last))
  use_items(state, k)
}

lex_ids_at <- function(state, k, kind) if (is.na(k) || k < 1 || k > state$n) character() else lex_ids(state$items[[k]],
    kind)

# ---- periods counted from the ends of the data ------------------------------------------------------------------------

#' "last month", "the last 3 weeks", "the first two years": counted from the first or last day of the data, which is said
#' @noRd
relative_periods <- function(state) {
  columns <- state$vocabulary$columns
  dated <- which(columns$kind %in% c("date", "datetime"))
  if (!length(dated)) return(state)
  span <- as.Date(strsplit(columns$days[dated[1]], " ", fixed = TRUE)[[1]])
  if (length(span) != 2 || anyNA(span)) return(state)
  for (k in seq_len(max(0, state$n - 1))) {
    found <- relative_period(state, k, span)
    if (is.null(found)) next
    state <- add_filter(state, columns$name[dated[1]], "between", format(found$range))
    state <- assume(state, sprintf("Took %s to mean %s to %s, counted from the %s day in the data.", quoted(found$text), format(found$range[1]),
      format(found$range[2]), found$end))
    state <- use_items(state, found$at)
  }
  state
}

relative_period <- function(state, k, span) {
  norm <- item_norm(state, k)
  end <- if (norm %in% c("last", "latest", "past", "most recent")) "last" else if (norm %in% c("first", "earliest")) "first" else return(NULL)
  number <- isTRUE(state$type[k + 1] == "number") && isTRUE(state$items[[k + 1]]$value %in% 1:400)
  at <- k + 1 + number
  unit <- regmatches(item_norm(state, at), regexec("^(day|week|month|quarter|year)s?$", item_norm(state, at)))[[1]]
  # "first month" without a number, "last day": the period as the calendar has it
  if (!length(unit) || grepl("^(of|in|and|versus|vs)$", item_norm(state, at + 1))) return(NULL)
  n <- if (number) state$items[[k + 1]]$value else 1
  if (unit[2] == "quarter") { unit[2] <- "month"; n <- 3 * n }
  range <- if (!number && end == "last") calendar_period(span[2], unit[2], n) else if (end == "last") c(seq(span[2], by = sprintf("-%d %s", n,
      unit[2]),
    length.out = 2)[2] + 1, span[2])
    else c(span[1], seq(span[1], by = sprintf("%d %s", n, unit[2]), length.out = 2)[2] - 1)
  list(range = range, end = end, at = k:at, text = paste(vapply(k:at, function(j) item_norm(state, j), ""), collapse = " "))
}

#' The calendar month, year, week or day that holds the last day of the data
#' @noRd
calendar_period <- function(day, unit, n) {
  first <- switch(unit, day = day, week = day - (as.integer(format(day, "%u")) - 1), year = as.Date(format(day, "%Y-01-01")),
                  month = if (n == 3) as.Date(sprintf("%s-%02d-01", format(day, "%Y"), 3 * ((as.integer(format(day, "%m")) - 1) %/% 3) +
                    1)) else as.Date(format(day, "%Y-%m-01")))
  c(first, day)
}

#' "had no defects", "with no mites after": a counted column at zero
#' @noRd
none_filters <- function(state) {
  for (k in seq_len(max(0, state$n - 1))) {
    if (state$used[k]) next
    some <- item_norm(state, k) %in% c("with", "having") && (k == 1 || state$type[k - 1] %in% c("entity") ||
        item_norm(state, k - 1) %in% c("those", "people", "who"))
    held <- if (some) item_column(state, k + 1, "count") else NA
    if (!is.na(held) && grepl("s$|^children$", tolower(state$items[[k + 1]]$text)) && item_norm(state, k + 2) %in% c("", "by", "and") &&
        any(vapply(setdiff(which(state$type == "column"), k + 1), function(j) can_measure(state, state$items[[j]]$cols$column[1]), NA)) &&
        !says(state, "\\b(relat|correl|associat)")) {
      state <- zero_filter(state, held, ">", paste("with", state$items[[k + 1]]$text), k:(k + 1))
      next
    }
    if (some) {
      with <- with_level_filter(state, k)
      if (!is.null(with)) { state <- with; next }
    }
    # "with any exclusions"
    several <- item_norm(state, k) == "any" && item_norm(state, k - 1) %in% c("with", "had", "have", "having", "has")
    found <- if (several) item_column(state, k + 1, "count") else NA
    if (!is.na(found)) {
      state <- zero_filter(state, found, ">", paste("any", state$items[[k + 1]]$text), (k - 1):(k + 1))
      next
    }
    no <- item_norm(state, k) == "no" && item_norm(state, k - 1) %in% c("had", "has", "have", "with", "having", "made", "showed", "but", "and")
    # "children never absent", of a count of days
    got <- "^(a|an|any|got|had|has|have|made|scored|received|took|used|been)$"
    at <- k + 1
    while (at < state$n && item_norm(state, k) == "never" && grepl(got, item_norm(state, at))) at <- at + 1
    never <- item_norm(state, k) == "never" && state$type[at] == "column"
    without <- item_norm(state, k) == "without" || never
    if (!no && !without) next
    if (!never) at <- k + 1 + (item_norm(state, k + 1) %in% c("a", "an", "any"))
    column <- item_column(state, at, c("count", if (without) "number"))
    # "without nitrogen", of doses that begin at zero; a heading such as "yield without price" narrows nothing
    if (!is.na(column) && at == k + 1 && kind_at(state, column) == "number" && !(state$vocabulary$columns$lowest[column] %in% 0 &&
        state$vocabulary$columns$distinct[column] <= 12)) column <- NA_integer_
    if (is.na(column)) { if (!never) state <- none_level_filter(state, k, at); next }
    # "no rating", where ratings begin at 1: it was not given
    lowest <- suppressWarnings(as.numeric(state$vocabulary$columns$lowest[column]))
    if (isTRUE(lowest > 0) && no) {
      state <- assume(add_filter(state, column_of(state, column), "is_missing", list()), sprintf("Took %s to mean that %s is missing.",
        quoted(paste(item_norm(state, k), state$items[[at]]$text)), column_of(state, column)))
      state <- use_items(state, k:at)
      next
    }
    state <- zero_filter(state, column, "==", paste(item_norm(state, k), state$items[[at]]$text), k:at)
  }
  state
}

#' "cars without airbags", of a column AirBags with a level None: that level
#' @noRd
none_level_filter <- function(state, k, at) {
  column <- item_column(state, at, c("category", "ordered"))
  if (is.na(column)) return(state)
  none <- none_levels(state, column)
  if (length(none) != 1) return(state)
  state <- add_filter(state, column_of(state, column), "==", none)
  state <- assume(state, sprintf("Took %s to mean that %s is %s.", quoted(paste(item_norm(state, k), state$items[[at]]$text)),
                                 column_of(state, column), quoted(none)))
  use_items(state, k:at)
}

#' "plots with nitrogen", of a column of the levels applied and none: every level but none; NULL where it is no condition
#' @noRd
with_level_filter <- function(state, k) {
  column <- item_column(state, k + 1, c("category", "ordered"))
  closes <- item_norm(state, k + 2) %in% c("", "by", "and", "but", "or", "than", "in", "at")
  if (is.na(column) || !closes || item_norm(state, k + 3) == "without" || says(state, "\\b(relat|correl|associat|interact)")) {
    return(NULL)
  }
  none <- none_levels(state, column)
  others <- setdiff(unique(state$vocabulary$values$level[state$vocabulary$values$column == column]), none)
  if (length(none) != 1 || !length(others)) return(NULL)
  # who says yes has it; who does not know is not counted among them
  yes <- others[tolower(others) %in% yes_words()]
  if (length(yes) == 1) others <- yes
  unsure <- tolower(others) %in% refusal_words()
  if (any(unsure) && !all(unsure)) others <- others[!unsure]
  state <- if (length(others) == 1) add_filter(state, column_of(state, column), "==", others)
    else if (any(unsure)) add_filter(state, column_of(state, column), "in", others)
    else add_filter(state, column_of(state, column), "!=", none)
  state <- assume(state, sprintf("Took %s to mean that %s is %s.", quoted(paste("with", state$items[[k + 1]]$text)), column_of(state, column),
                                 if (length(others) == 1) quoted(others) else if (any(unsure)) some_of(quoted(others), 6, and = "or")
                                 else paste("not", quoted(none))))
  use_items(state, k:(k + 1))
}

#' Levels of a column that say none
#' @noRd
none_levels <- function(state, column) {
  levels <- unique(state$vocabulary$values$level[state$vocabulary$values$column == column])
  levels[grepl("^(none|never|no|nil|not at all|absent)$", levels, ignore.case = TRUE, perl = TRUE)]
}

#' "how long do women survive", of times and an outcome died or alive: the time that passes, not those who are alive
#' @noRd
survival_of_times <- function(state) {
  lives <- if (says(state, "\\b(how long|longer|longest|shorter|shortest)\\b")) "|lives?|lived" else ""
  at <- which(state$type == "value" & grepl(sprintf("^(surviv(al|e|es|ing)%s)$", lives), norms_of(state)))
  if (!length(at) || is.null(survival_time(state$vocabulary$columns))) return(state)
  if (says(state, "\\b(how many|number of|share|percent(age)?|proportion|fraction|rate)\\b") && is.null(time_stated(state))) return(state)
  open <- match(censored_columns(state$vocabulary$columns)$name, state$vocabulary$columns$name)
  for (k in at) {
    if (!all(state$items[[k]]$vals$column %in% open)) next
    state$items[[k]]["vals"] <- list(NULL)
    state$type[k] <- state$items[[k]]$type <- if (is.null(state$items[[k]]$lex)) "filler" else "lexicon"
  }
  state
}

#' "survival at 200 days": a time at which the curve is read, no condition on the times
#' @noRd
times_of_curve <- function(state) {
  stated <- if (asks_for_survival(state)) time_stated(state)
  if (is.null(stated)) return(state)
  for (k in which(!state$used)) {
    own <- isTRUE(state$items[[k]]$value == stated$value) || item_norm(state, k) == "one" && stated$value == 1
    if (!own) next
    # "200 days", "day 200", "time 200", "200"
    beside <- c(k - 1, k + 1)[sub("s$", "", c(item_norm(state, k - 1), item_norm(state, k + 1))) == if (nzchar(stated$unit)) stated$unit else "time"]
    return(use_items(state, c(k, beside)))
  }
  state
}

#' "between the first and last occasion", "at the last visit": the lowest and highest value of a column of few values
#' @noRd
first_and_last <- function(state) {
  columns <- state$vocabulary$columns
  for (k in which(state$type == "column" & !state$used)) {
    column <- item_column(state, k, c("count", "number"))
    if (is.na(column) || !nzchar(columns$lowest[column])) next
    ends <- c(first = columns$lowest[column], last = columns$highest[column], final = columns$highest[column])
    j <- k - 1
    said <- character()
    while (j >= 1 && item_norm(state, j) %in% c(names(ends), "and", "to", "the", "versus", "vs")) { said <- c(item_norm(state, j), said); j <- j - 1 }
    said <- intersect(said, names(ends))
    if (!length(said)) next
    values <- unname(ends[said])
    state$groups <- c(state$groups, list(list(column = column, levels = values, numbers = as.numeric(values), negated = FALSE, at = (j + 1):k,
                                              lead = "", numeric = TRUE)))
    state <- assume(state, sprintf("The %s %s: %s.", some_of(said, 2), column_of(state, column), some_of(values, 2)))
    state <- use_items(state, (j + 1):k)
  }
  occasion_named(state)
}

#' "strength at baseline", "final pain", of rows that are occasions of the same units: the first or the last of them
#' @noRd
occasion_named <- function(state) {
  columns <- state$vocabulary$columns
  own <- occasion_columns(state)
  own <- own[nzchar(columns$lowest[own])]
  if (length(own) != 1 || asks_for_baseline(state) || asks_against_usual(state)) return(state)
  if (any(vapply(which(state$type %in% c("column", "number")), function(k) own %in% state$items[[k]]$cols$column || state$type[k] == "number",
      NA))) return(state)
  ends <- c(baseline = "lowest", initial = "lowest", final = "highest", endpoint = "highest", `follow-up` = "highest", followup = "highest")
  at <- which(vapply(seq_len(state$n), function(k) item_norm(state, k) %in% names(ends) && !state$used[k] && !state$type[k] %in% c("column",
      "value") &&
    !item_norm(state, k - 1) %in% c("from", "own", "for"), NA))
  if (length(at) != 1) return(state)
  value <- columns[[ends[[item_norm(state, at)]]]][own]
  state <- add_filter(state, columns$name[own], "==", as.numeric(value))
  state <- assume(state, sprintf("Took %s to mean %s %s.", quoted(item_norm(state, at)), columns$name[own], value))
  use_items(state, c(at, if (item_norm(state, at - 1) == "at") at - 1))
}

#' "teenage mothers", "people in their thirties": ages that a word stands for
#' @noRd
life_stages <- function(state) {
  age <- age_column(state)
  if (is.na(age) || !is_numeric_kind(kind_at(state, age))) return(state)
  decades <- c(twenties = 20, thirties = 30, forties = 40, fifties = 50, sixties = 60, seventies = 70, eighties = 80, nineties = 90)
  for (k in which(!state$used)) {
    norm <- item_norm(state, k)
    range <- if (grepl("^teen(age|aged|ager|agers|s)?$", norm, perl = TRUE)) c(13, 19)
      else if (item_norm(state, k - 1) == "their" && norm %in% names(decades)) decades[[norm]] + c(0, 9)
      else if (item_norm(state, k - 1) == "their" && grepl("^[2-9]0s$", norm, perl = TRUE)) as.numeric(sub("s", "", norm)) + c(0, 9)
    if (is.null(range)) next
    name <- column_of(state, age)
    op <- if (kind_at(state, age) == "count") "between" else NULL
    # ages with decimals: until the next birthday
    state <- if (is.null(op)) add_filter(add_filter(state, name, ">=", range[1]), name, "<", range[2] + 1) else add_filter(state, name, op, range)
    state <- assume(state, sprintf("Took %s to mean %s from %d to %d.", quoted(norm), name, range[1], range[2]))
    state <- use_items(state, k)
  }
  state
}

#' Does a word of a step of time name a level of those it stands before ("annual members", of memberships that are Annual or Monthly)?
#' @noRd
names_a_level <- function(state, k) {
  column <- unique(state$items[[k]]$vals$column)
  if (length(column) != 1 || k == state$n) return(FALSE)
  level_nouns(state$vocabulary$columns$name[column], item_norm(state, k + 1)) ||
    item_norm(state, k + 1) %in% c("and", "or", "versus", "vs", "than") && k + 1 < state$n && column %in% state$items[[k + 2]]$vals$column
}

#' Is a word what people or their contracts are called where a level tells them apart ("members", "plans", the name of the column itself)?
#' @noRd
level_nouns <- function(name, word) {
  grepl(paste0("^(members?|memberships?|customers?|clients?|subscribers?|subscriptions?|plans?|contracts?|users?|payers?|ones|tickets?|passes|",
               "polic(y|ies))$"), word) || any(stem_words(tolower(word)) %in% name_stems(name))
}

#' Words that are cues elsewhere and none where they stand: "fastest first", "per year of age", "did bookings drop in summer"
#' @noRd
set_words_free <- function(state) {
  without_cue <- function(item, kind, id) { item$lex <- item$lex[!(item$lex$kind == kind & item$lex$id %in% id), , drop = FALSE]; item }
  for (k in seq_len(state$n)) {
    # an order
    if (item_norm(state, k) == "first" && (state$type[max(1, k - 1)] == "adjective" || grepl("est$", item_norm(state,
        k - 1)))) state <- use_items(state, k)
    # a step of a column
    if (has_lex_at(state, k, "every") && item_norm(state, k + 1) == "of" && !is.na(item_column(state, k + 2, c("number", "count")))) {
      state$items[[k]] <- without_cue(without_cue(state$items[[k]], "every", state$items[[k]]$lex$id), "task", "trend")
    }
  }
  for (k in which(vapply(state$items, has_lex, NA, "every"))) if (names_a_level(state, k)) {
    state$items[[k]] <- without_cue(without_cue(state$items[[k]], "every", state$items[[k]]$lex$id), "task", "trend")
    state$items[[k]]$type <- state$type[k] <- "value"
  }
  # pieces of land, not pictures
  for (k in which(norms_of(state) == "plots")) if (item_norm(state, k - 1) %in% c("for", "of", "in", "on", "among", "per", "all", "the", "which",
      "many",
    "how many", "across", "between", "from") && !says(state, "^ *(draw|show|make|give)\\b")) {
    state$items[[k]]["lex"] <- list(NULL)
    if (state$type[k] == "lexicon") state$type[k] <- state$items[[k]]$type <- "entity"
  }
  if (!says(state, "^ *(did|do|does|has|have|had|is|are|was|were|why|when|by how much|how much)\\b")) return(state)
  # a fall, not rows to leave out
  falls <- norms_of(state) %in% c("drop", "drops", "dropped", "dropping", "omit")
  state$items[falls] <- lapply(state$items[falls], without_cue, "scope", "except")
  state
}

#' "those who spent something": a value above zero
#' @noRd
something_filters <- function(state) {
  for (k in which(vapply(state$items, function(i) i$norm %in% c("something", "anything"), NA))) {
    column <- item_column(state, k - 1, c("number", "count"))
    lead <- vapply(max(1, k - 4):max(1, k - 2), function(j) item_norm(state, j), "")
    if (is.na(column) || !any(grepl("\\b(who|that|which|having|where)$", lead))) next
    state <- zero_filter(state, column, ">", paste(state$items[[k - 1]]$text, state$items[[k]]$text), c(k - 1, k))
  }
  state
}

#' "unweighted", "without the weights", also where that is what the column of weights is called
#' @noRd
weights_aside <- function(state) {
  for (k in seq_len(state$n)) {
    column <- item_column(state, k, c("number", "count"))
    weights <- !is.na(column) && column_record(state, column)$role == "weight"
    j <- if (weights && item_norm(state, k - 1) %in% c("the", "any")) k - 2 else k - 1
    left_out <- weights && has_lex_at(state, j, "scope", "except")
    if (!left_out && !has_lex_at(state, k, "scope", "unweighted")) next
    state$flags$unweighted <- TRUE
    state <- use_items(state, if (left_out) j:k else k)
  }
  state
}

#' None or some of what a column counts, and how the words were taken
#' @noRd
zero_filter <- function(state, column, op, said, at) {
  name <- column_of(state, column)
  state <- assume(add_filter(state, name, op, 0), sprintf("Took %s to mean that %s is %s0.", quoted(said), name, if (op == ">") "above " else ""))
  use_items(note_loose_filter(state, column, at), at)
}
