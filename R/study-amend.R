# Amendments: recorded changes to how the data is read.

#' One change of one column, or one new column
#' @noRd
amend_named <- function(study, name, change, table = NULL) {
  if (is.list(change) && !is.null(change$derive)) return(amend_derived(study, name, change, table))
  col <- find_column(study, name, table)
  change <- check_change(change, name)
  study$tables[[col$table]] <- rebuild_table(amend_column(study$tables[[col$table]], name, change, why = "amended by you"))
  record_amendment(study, list(table = col$table, column = name, change = change))
}

amend_derived <- function(study, name, change, table) {
  if (is.null(table)) table <- find_column(study, as.character(change$from)[1])$table
  step <- check_derivation(study, table, name, change)
  study$tables[[table]] <- add_step(study$tables[[table]], step)
  given <- change[intersect(names(change), c("label", "unit", "kind"))]
  if (length(given)) study$tables[[table]] <- amend_column(study$tables[[table]], name, given, why = "amended by you")
  record_amendment(study, list(table = table, column = name, change = c(step[setdiff(names(step), c("type", "name"))], given)))
}

#' Rows left out, or the only ones kept, of the table that holds the columns of the conditions
#' @noRd
amend_rows <- function(study, rows, keep, table = NULL) {
  step <- list(type = "leave_out", keep = keep)
  if (is.numeric(rows)) {
    table <- table %||% names(data_tables(study))[1]
    all <- seq_len(nrow(study$tables[[table]]$original %||% study$tables[[table]]$data))
    if (anyNA(rows) || !all(rows %in% all)) stop_input(sprintf("%s has the rows 1 to %d.", quoted(table), length(all)),
                                                       class = "bad_amendment")
    step$numbers <- as.integer(if (keep) setdiff(all, rows) else rows)
    step$keep <- FALSE
  } else {
    step$filters <- check_conditions(study, rows, table)
    table <- table %||% table_with(study, vapply(step$filters, `[[`, "", "column"))
  }
  study$tables[[table]] <- add_step(study$tables[[table]], step)
  record_amendment(study, list(table = table, rows = compact(step[c("filters", "numbers", "keep")])))
}

#' Rows that stand for as many cases as one of their columns says
#' @noRd
amend_cells <- function(study, column, table = NULL) {
  col <- find_column(study, column, table)
  if (!col$kind %in% c("count", "number", "yes_no")) {
    stop_input(sprintf("%s is of the kind %s; how many cases a row stands for is a count.", quoted(column), col$kind), class = "bad_amendment")
  }
  if (stands_for_cases(study$tables[[col$table]])) {
    stop_input(sprintf("The rows of %s stand for several cases already.", quoted(col$table)), todo = "Take that back first with undo().",
               class = "bad_amendment")
  }
  study$tables[[col$table]] <- add_step(study$tables[[col$table]], list(type = "repeat", column = column))
  record_amendment(study, list(table = col$table, cases = column))
}

check_conditions <- function(study, rows, table) {
  if (!is.list(rows) || !length(rows)) stop_input("Rows are named by conditions, such as list(hive_id = \"H017\"), or by their numbers.",
                                                  class = "bad_amendment")
  if (!is.null(names(rows)) && all(nzchar(names(rows)))) {
    rows <- Map(function(name, value) list(column = name, op = if (length(value) > 1) "in" else "==", value = value), names(rows), rows)
  }
  operators <- c("==", "!=", "<", "<=", ">", ">=", "in", "not_in", "between", "is_missing", "not_missing")
  for (f in rows) {
    if (!is.list(f) || is.null(f$column) || !isTRUE(f$op %in% operators)) {
      stop_input("A condition has a column, an op and a value.", sprintf("`op` is one of %s.", paste(operators, collapse = " ")),
                 class = "bad_amendment")
    }
    find_column(study, f$column, table)
  }
  unname(lapply(rows, function(f) { f$value <- as.list(f$value); f[c("column", "op", "value")] }))
}

#' The table that holds all of some columns
#' @noRd
table_with <- function(study, columns) {
  has <- vapply(data_tables(study), function(t) all(columns %in% names(t$columns)), NA)
  if (!any(has)) stop_input(sprintf("No single table holds %s.", some_of(quoted(columns))), class = "bad_amendment")
  names(data_tables(study))[which(has)[1]]
}

add_step <- function(table, step) {
  table$steps <- c(table$steps, list(step))
  rebuild_table(table)
}

record_amendment <- function(study, record) {
  # named vectors lose their names in a JSON line, lists keep them
  record$change <- lapply(record$change, function(v) if (is.atomic(v) && !is.null(names(v))) as.list(v) else v) |> nothing_as_null()
  study$amendments <- c(study$amendments, list(record))
  note_in_logbook(study, c(list(event = "amended"), record))
}

#' The study before its last changes
#' @noRd
take_back <- function(study, steps = 1) {
  if (!is.numeric(steps) || length(steps) != 1 || is.na(steps) || steps < 1) stop_input("`steps` is one whole number from 1 up.")
  for (i in seq_len(steps)) {
    if (is.null(study$earlier)) {
      stop_input("There is no change to take back.", if (i > 1) sprintf("Only %s could be undone.", count_of(i - 1, "change")),
                 class = "nothing_to_undo")
    }
    study <- study$earlier
  }
  note_in_logbook(study, list(event = "undone", steps = steps))
  study
}

#' Keep the study as it was, so that the change can be taken back
#' @noRd
remember <- function(study, before) {
  study$earlier <- before
  study
}

amend_by_codebook <- function(study, book) {
  if (is.character(book)) book <- utils::read.csv(book, colClasses = "character", check.names = FALSE,
                                                  encoding = "UTF-8")
  parts <- codebook_parts(setdiff(names(book), c("missing", "table")))
  if (is.null(parts)) stop_input("This is not a codebook: it needs the columns \"column\" and \"kind\" or \"label\".",
                                 class = "bad_amendment")
  for (table in data_tables(study)) {
    rows <- if ("table" %in% names(book)) book[book$table == table$name, , drop = FALSE] else book
    study$tables[[table$name]] <- rebuild_table(apply_codebook(table, rows, parts, "given to amend()"))
  }
  record_amendment(study, list(codebook = lapply(seq_len(nrow(book)), function(i) as.list(book[i, , drop = FALSE]))))
}

check_change <- function(change, name) {
  known <- c("kind", "label", "labels", "unit", "missing", "order", "format", "use", "role", "recode")
  if (!is.list(change) || is.null(names(change)) || length(setdiff(names(change), known))) {
    stop_input(sprintf("The change of %s is not understood.", quoted(name)),
               if (is.list(change) && length(names(change))) sprintf("It has %s.", some_of(quoted(names(change)), 6)),
               sprintf("Give a list with any of %s.", paste(known, collapse = ", ")), class = "bad_amendment")
  }
  for (part in intersect(names(change), c("missing", "order", "labels", "recode"))) change[[part]] <- unlist(change[[part]])
  kinds <- c("number", "count", "ordered", "category", "yes_no", "date", "datetime", "text", "id")
  if (!is.null(change$kind) && !change$kind %in% kinds) {
    stop_input(sprintf("%s is not a kind of column.", quoted(change$kind)),
               todo = sprintf("Use one of %s.", paste(kinds, collapse = ", ")),
               class = "bad_amendment")
  }
  change
}

#' Apply one change to the record of a column, keeping the record true to the data
#' @noRd
amend_column <- function(table, name, change, why) {
  col <- table$columns[[name]]
  raw <- table$data[[name]]
  if (!is.null(change$recode)) {
    done <- change_recode(col, change$recode, raw, why)
    if (done$profile) { col <- profile_again(done$col, recode_values(raw, done$col$recode)) } else col <- done$col
  }
  if (length(col$recode)) raw <- recode_values(raw, col$recode)
  if (!is.null(change$missing)) {
    codes <- change$missing
    col$missing_codes <- if (is.numeric(raw)) stats::na.omit(suppressWarnings(as.numeric(codes))) else as.character(codes)
    col$missing_codes <- nothing_as_null(as.vector(col$missing_codes))
    col <- profile_again(col, raw)
  }
  seen <- drop_codes(raw, col$missing_codes)
  if (is.character(raw) && col$numeric) seen <- as_numbers(seen, col$style)
  if (!is.null(change$labels)) col <- change_labels(col, change$labels, seen, why, change$kind)
  if (!is.null(change$kind)) col <- change_kind(col, change$kind, seen, change$format, why)
  if (!is.null(change$order)) col <- change_order(col, as.character(change$order), seen)
  # a label that asks for own words makes sentences answers, where the column was only taken for categories
  told <- !is.null(change[["label"]]) && says_open_answer(change[["label"]]) && is.null(change$kind) && is.null(change$labels) &&
    col$kind == "category" && is.character(raw)
  if (told && mean(lengths(strsplit(utils::head(col$levels, 200), "[[:space:]]+"))) >= 2) {
    col$kind <- "text"; col$levels <- NULL; col$reason <- "answers in own words, as its label says"
  }
  for (field in c("label", "unit", "role")) if (!is.null(change[[field]])) col[[field]] <- change[[field]]
  if (!is.null(change$use)) col$used <- isTRUE(change$use)
  table$columns[[name]] <- col
  table
}

#' The profile of a column whose codes or values have changed; what was declared of it stays
#' @noRd
profile_again <- function(col, raw) {
  again <- profile_column(col$name, raw, codes = col$missing_codes %||% character())
  # a kind that several columns settled together (an answer scale) stays when codes change
  keep <- if (identical(col$role, "item")) c("kind", "levels", "reason", "role") else character()
  again[keep] <- col[keep]
  for (field in c("label", "unit", "recode", "derived")) again[[field]] <- col[[field]] %||% again[[field]]
  again
}

#' Values read as others; a label of a coded column is merged with another by its code
#' @noRd
change_recode <- function(col, recode, raw, why) {
  if (!is.character(recode) || is.null(names(recode)) || anyNA(recode) || any(!nzchar(names(recode)))) {
    stop_input(sprintf("The recoding of %s is a named text, such as c(\"Nroth\" = \"north\").", quoted(col$name)), class = "bad_amendment")
  }
  if (is.numeric(raw) && col$kind %in% c("number", "count") && anyNA(suppressWarnings(as.numeric(recode)))) {
    stop_input(sprintf("%s holds numbers, which cannot be read as words.", quoted(col$name)),
               todo = "Make it a category first: kind = \"category\".", class = "bad_amendment")
  }
  if (is.null(col$codes)) {
    known <- if (is.numeric(raw)) plain_text_values(unique(raw[!is.na(raw)])) else unique(as.character(raw))
    absent <- setdiff(names(recode), c(known, names(col$recode)))
    if (length(absent)) stop_input(sprintf("%s holds no %s.", quoted(col$name), some_of(quoted(absent))),
                                   sprintf("It holds %s.", some_of(quoted(known[!is.na(known)]), 8)), class = "bad_amendment")
    chained <- col$recode
    chained[] <- ifelse(chained %in% names(recode), recode[chained], chained)
    col$recode <- c(chained[setdiff(names(chained), names(recode))], recode)
    return(list(col = recoded_levels(col, recode, why), profile = !is_level_kind(col$kind)))
  }
  for (from in names(recode)) {
    at <- match(from, col$levels); to <- match(recode[[from]], col$levels)
    if (is.na(at)) stop_input(sprintf("%s has no level %s.", quoted(col$name), quoted(from)), class = "bad_amendment")
    if (is.na(to)) { col$levels[at] <- recode[[from]]; next }
    col$recode <- c(col$recode, stats::setNames(col$codes[to], col$codes[at]))
    col$levels <- col$levels[-at]; col$codes <- col$codes[-at]
  }
  list(col = col, profile = FALSE)
}

#' Levels after a recoding: the old ones go, new ones take the first old one's place
#' @noRd
recoded_levels <- function(col, recode, why) {
  if (!is_level_kind(col$kind)) return(col)
  levels <- ifelse(col$levels %in% names(recode), recode[col$levels], col$levels)
  col$levels <- unique(unname(levels))
  col$distinct <- length(col$levels)
  if (col$kind == "yes_no" && col$distinct != 2) col$kind <- if (col$distinct == 1) "constant" else "category"
  col$reason <- why
  col
}

#' Stored codes get their labels: the column becomes one of levels
#' @noRd
change_labels <- function(col, labels, seen, why, kind = NULL) {
  codes <- names(labels) %||% as.character(seq_along(labels))
  present <- if (is.numeric(seen)) format_plain(sort(unique(seen))) else unique(as.character(seen))
  others <- setdiff(present, codes)
  # a number of which only the ends or a special value have words ("0 = not at all", "10 = extremely") stays a number
  if (col$kind %in% c("number", "count") && !isTRUE(is_level_kind(kind)) && length(others) > sum(present %in% codes)) return(with_ends(col, labels))
  col$codes <- c(codes, others)
  col$levels <- c(unname(as.character(labels)), others)
  if (anyDuplicated(col$levels)) col$levels <- make.unique(col$levels, sep = " ")
  scale <- ordered_scale_of(unname(as.character(labels)))
  if (!is_level_kind(col$kind) || (col$kind == "category" && !is.null(scale))) {
    col$kind <- if (length(col$levels) == 2) (if (mean_yes_and_no(col$levels)) "yes_no"
                                              else "category") else if (!is.null(scale)) "ordered" else "category"
    col$reason <- why
  }
  # codes may run the other way ("1 = very satisfied"): levels stand from the lowest meaning to the highest, so that "higher" says what it means
  turned <- match(rev(scale$levels), unname(as.character(labels)))
  if (col$kind == "ordered" && !is.null(scale) && !anyNA(turned) && !is.unsorted(turned)) {
    col <- change_order(col, scale$levels, seen)
    col$turned <- TRUE
  }
  col
}

#' A number of which the ends have words: whether its low end is the one that means more
#' @noRd
with_ends <- function(col, labels) {
  codes <- suppressWarnings(as.numeric(names(labels)))
  if (length(labels) < 2 || anyNA(codes)) return(col)
  low <- labels[[which.min(codes)]]; high <- labels[[which.max(codes)]]
  place <- place_of_answers(plain_answer(c(low, high)))
  if (!is.null(place) && place[1] > place[2]) col$turned <- sprintf("%s is %s, %s is %s", format_plain(min(codes)), quoted(low),
    format_plain(max(codes)), quoted(high))
  col
}

change_kind <- function(col, kind, seen, format, why) {
  if (kind %in% c("number", "count") && !col$numeric) {
    stop_input(sprintf("%s cannot be read as a %s: it holds text.", quoted(col$name), kind), class = "bad_amendment")
  }
  if (kind %in% c("constant", "empty")) return(col)
  if (identical(col$role, "undecided_date")) col["role"] <- list(NULL)
  col$kind <- kind
  col$reason <- why
  if (is_level_kind(kind)) col$levels <- col$levels %||% levels_of(seen)
  else col$levels <- NULL
  if (kind == "yes_no" && length(col$levels) != 2) {
    stop_input(sprintf("%s cannot be read as yes/no: it has %d values.", quoted(col$name), length(col$levels)),
               class = "bad_amendment")
  }
  if (kind == "date") col$format <- format %||% col$format %||% date_or_stop(seen, col$name)
  col
}

levels_of <- function(seen) {
  values <- unique(seen)
  if (is.numeric(values)) format_plain(sort(values)) else natural_order(as.character(values))
}

date_or_stop <- function(seen, name) {
  found <- if (inherits(seen, "Date")) list(format = "%Y-%m-%d") else date_format_of(unique(as.character(seen)))
  if (is.null(found)) {
    stop_input(sprintf("%s cannot be read as dates.", quoted(name)),
               todo = "Say how they are written, such as format = \"%d/%m/%Y\".",
               class = "bad_amendment")
  }
  found$format
}

#' Levels in the stated order; values that the order does not name follow at the end
#' @noRd
change_order <- function(col, order, seen) {
  if (!is_level_kind(col$kind)) return(col)
  if (!is.null(col$codes)) {
    # labels keep their codes when they are put into another order
    place <- match(c(order, setdiff(col$levels, order)), col$levels)
    place <- place[!is.na(place)]
    col$codes <- col$codes[place]
    col$levels <- col$levels[place]
    return(col)
  }
  present <- levels_of(seen)
  missing <- setdiff(present, order)
  col$levels <- c(order, missing)
  col
}
