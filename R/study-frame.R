# The rows and columns that one answer rests on.

#' Tables joined for a set of columns: many rows to one, never many to many
#' @section Shape: list(table = base table, from = named list: column -> table, joins = list(table, key)).
#' @noRd
plan_join <- function(study, columns) {
  homes <- lapply(columns, function(name) homes_of(study, name))
  names(homes) <- columns
  tables <- names(data_tables(study))
  # the base is the first table (most rows first) from which every column can be reached
  rows <- vapply(study$tables[tables], function(t) nrow(t$data), 1)
  enough <- function(base) all(vapply(homes, function(h) base %in% h ||
                                      any(vapply(h, function(t) !is.null(join_to(study, base, t)), NA)), NA))
  direct <- vapply(tables, function(base) sum(vapply(homes, function(h) base %in% h, NA)), 1)
  order <- order(-(direct == length(columns)), -direct, -rows)
  for (base in tables[order]) if (enough(base)) return(join_plan(study, base, homes))
  stop_data(sprintf("The columns %s stand in tables that no key connects.", some_of(quoted(columns), 6)),
            todo = "Ask about columns of one table, or give the tables a shared key with one row each.",
            class = "no_join")
}

homes_of <- function(study, name) {
  tables <- data_tables(study)
  names(tables)[vapply(tables, function(t) !is.null(t$columns[[name]]), NA)]
}

join_plan <- function(study, base, homes) {
  from <- vapply(homes, function(h) if (base %in% h) base
                 else h[vapply(h, function(t) !is.null(join_to(study, base, t)), NA)][1], "")
  others <- setdiff(unique(from), base)
  list(table = base, from = from, joins = lapply(stats::setNames(others, others), function(t) join_to(study, base, t)))
}

join_to <- function(study, base, other) {
  for (j in study$joins) if (j$many == base && j$one == other) return(j)
  NULL
}

#' Keys by which a row of one table finds its one row in another
#'
#' Columns of the same name first; then names that differ only in "id", "no" or "code" ("hive" and "hive_id").
#' @section Shape: list(joins = list of list(many, one, key, one_key, rows, matched, unmatched, multiplied), many_to_many =
#'   list of list(a, b, key, rows)).
#' @noRd
find_joins <- function(study) {
  tables <- data_tables(study)
  joins <- repeated <- list()
  if (length(tables) < 2) return(list(joins = joins, many_to_many = repeated))
  for (one in names(tables)) for (many in setdiff(names(tables), one)) {
    pairs <- key_pairs(names(tables[[many]]$data), names(tables[[one]]$data))
    for (i in seq_len(nrow(pairs))) {
      found <- try_key(tables[[many]], tables[[one]], pairs$many[i], pairs$one[i], pairs$least[i])
      if (is.null(found)) next
      if (!is.null(found$joined)) { joins[[length(joins) + 1L]] <- found; break }
      if (many < one) repeated[[length(repeated) + 1L]] <- found
    }
  }
  linked <- vapply(joins, function(j) paste(sort_text(c(j$many, j$one)), collapse = "\r"), "")
  repeated <- Filter(function(m) !paste(sort_text(c(m$a, m$b)), collapse = "\r") %in% linked, repeated)
  list(joins = lapply(joins, function(j) { j$joined <- NULL; j }), many_to_many = repeated)
}

key_pairs <- function(many, one) {
  bare <- function(x) gsub("[^a-z0-9]", "", sub("[_. ]?(id|no|nr|code|key|number|name)$", "", tolower(x)))
  same <- intersect(many, one)
  rest <- expand.grid(many = setdiff(many, same), one = setdiff(one, same), stringsAsFactors = FALSE)
  alike <- bare(rest$many) == bare(rest$one) & nzchar(bare(rest$many))
  # "lib_branch" beside "branch": the last word of a name, where nearly every value finds its row
  tail <- function(x) gsub("[^a-z0-9]", "", sub("^.*[_. ]", "", tolower(x)))
  loose <- !alike & tail(rest$many) == tolower(rest$one) & nchar(rest$one) >= 3
  pairs <- rbind(data.frame(many = same, one = same, stringsAsFactors = FALSE), rest[alike, , drop = FALSE], rest[loose, , drop = FALSE])
  pairs$least <- rep(c(0.5, 0.5, 0.95), c(length(same), sum(alike), sum(loose)))
  pairs
}

try_key <- function(many, one, key, one_key = key, least = 0.5) {
  never <- c("number", "date", "datetime", "text", "yes_no", "constant", "empty")
  if (one$columns[[one_key]]$kind %in% never) return(NULL)
  left <- as.character(many$data[[key]]); right <- as.character(one$data[[one_key]])
  if (!anyDuplicated(right[!is.na(right)])) {
    matched <- sum(left %in% right)
    if (matched < least * sum(!is.na(left))) return(NULL)
    return(list(many = many$name, one = one$name, key = key, one_key = one_key, rows = length(left), matched = matched,
                unmatched = length(left) - matched, multiplied = 0L, joined = TRUE))
  }
  if (least > 0.5) return(NULL)
  # a shared key that repeats on both sides would multiply rows: it is reported, never followed
  if (many$columns[[key]]$kind != "id" || one$columns[[one_key]]$kind != "id" || !anyDuplicated(left[!is.na(left)])) return(NULL)
  both <- intersect(unique(left), unique(right))
  if (length(both) < 0.5 * length(unique(left))) return(NULL)
  times <- as.numeric(table(factor(left, both))) * as.numeric(table(factor(right, both)))
  list(a = many$name, b = one$name, key = key, rows = sum(times))
}

#' Values of columns on the rows of a join plan
#' @noRd
joined_values <- function(study, plan, name) {
  home <- plan$from[[name]]
  x <- understood(study, name, home)
  if (home == plan$table) return(x)
  join <- plan$joins[[home]]
  at <- match(as.character(study$tables[[plan$table]]$data[[join$key]]),
              as.character(study$tables[[home]]$data[[join$one_key]]))
  x[at]
}

#' The frame of a reading: rows kept by its filters and complete on the columns used
#'
#' @param used Columns whose missing values leave a row out.
#' @param carried Further columns (units, weights) that do not.
#' @section Shape: list(data = named list of vectors, rows, total, after_filters, unknown (rows of which a missing value leaves open
#'   whether they meet the conditions), used, left_out_missing, table, plan).
#' @noRd
build_frame <- function(study, used, filters = list(), carried = character()) {
  filter_columns <- vapply(filters, `[[`, "", "column")
  plan <- plan_join(study, unique(c(used, filter_columns, carried)))
  total <- nrow(study$tables[[plan$table]]$data)
  keep <- possible <- rep(TRUE, total)
  for (f in filters) {
    x <- joined_values(study, plan, f$column)
    hit <- row_matches(x, f)
    keep <- keep & hit
    # (a missing value leaves open whether the condition holds)
    possible <- possible & if (f$op %in% c("is_missing", "not_missing") || !anyNA(x)) hit else hit | is.na(x)
  }
  after <- sum(keep)
  values <- lapply(stats::setNames(unique(c(used, carried)), unique(c(used, carried))),
                   function(n) joined_values(study, plan, n))
  complete <- keep
  for (name in used) complete <- complete & !is.na(values[[name]])
  rows <- which(complete)
  list(data = lapply(values, function(v) if (length(rows) == total) v else v[rows]), rows = rows, total = total,
       after_filters = after, unknown = sum(possible) - after,
       used = length(rows), left_out_missing = after - length(rows), table = plan$table, plan = plan, filters = filters)
}

#' Rows that a filter keeps; a missing value is kept only where the filter asks for it
#' @noRd
row_matches <- function(x, f) {
  if (f$op == "is_missing") return(is.na(x))
  if (f$op == "not_missing") return(!is.na(x))
  value <- unlist(f$value)
  if (is.factor(x)) {
    if (f$op %in% c("<", "<=", ">", ">=", "between")) return(ordered_matches(x, f$op, value))
    x <- as.character(x)
    value <- as.character(value)
  } else if (inherits(x, "Date")) value <- as.Date(as.character(value))
  else if (inherits(x, "POSIXct") && says_days(value)) {
    # a day without a time of day is the whole day
    x <- as.Date(x, tz = "UTC"); value <- as.Date(as.character(value))
  } else if (inherits(x, "POSIXct")) value <- as.POSIXct(as.character(value), tz = "UTC")
  else if (is.numeric(x)) value <- as.numeric(value)
  hit <- switch(f$op,
    "==" = x == value[1], "!=" = x != value[1], "<" = x < value[1], "<=" = x <= value[1], ">" = x > value[1],
    ">=" = x >= value[1],
    "in" = x %in% value, "not_in" = !(x %in% value), between = x >= value[1] & x <= value[2])
  hit & !is.na(x)
}

#' Are all of these days, without a time of day?
#' @noRd
says_days <- function(value) all(grepl("^[0-9]{4}-[0-9]{2}-[0-9]{2}$", as.character(value)))

ordered_matches <- function(x, op, value) {
  at <- match(as.character(value), levels(x))
  if (anyNA(at)) {
    numbers <- suppressWarnings(as.numeric(as.character(x)))
    return(row_matches(numbers, list(op = op, value = value)))
  }
  row_matches(as.numeric(as.integer(x)), list(op = op, value = at))
}

#' Names of columns in a sentence: those that are questions themselves ("How old are you?") stand in quotes
#' @noRd
plain_names <- function(names) {
  if (!length(names)) return(character())
  asked <- grepl("[?]$|^(how|who|what|which|where|when|do|did|are|is|have|would)\\b.*\\b(you|your|we|us)\\b", names, ignore.case = TRUE, perl = TRUE)
  ifelse(asked, quoted(names), names)
}

plain_filter <- function(f) {
  value <- vapply(unlist(f$value), function(v) if (is.numeric(v)) format_plain(v) else as.character(v), "")
  words <- c("==" = "is", "!=" = "is not", "<" = "is below", "<=" = "is at most", ">" = "is above",
             ">=" = "is at least", "in" = "is", "not_in" = "is not",
             between = "is from", is_missing = "is missing", not_missing = "is recorded")
  # (days are before and after each other)
  if (length(value) == 1 && says_days(value)) words[c("<", "<=", ">", ">=")] <- c("is before", "is on or before",
      "is after",
                                                                                                            "is on or after")
  paste(plain_names(f$column), words[[f$op]], if (f$op == "between") paste(value[1], "to", value[2])
        else some_of(value, 8, and = "or") |> (\(x) if (length(value)) x else "")()) |> trimws()
}
