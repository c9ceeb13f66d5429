# Long tables of measurements: one column says what was measured (ALT, creatinine), another holds the value. A question names the
# measurement; the value of the rows that hold it is meant.

#' The turns, as of `everyday_turns()`; they stand before all others, which look for measured columns
#' @noRd
turns_of_parameters <- function() list(turn("", value_of_parameter), turn("\\b(above|below|over|under|exceed\\w*|more|less|higher|lower|greater|outside)\\b", one_column_beyond))  # nolint: line_length_linter.

#' The column that says what was measured, and that of the values
#' @section Shape: list(parameter, value), names; or NULL.
#' @noRd
parameter_layout <- function(study) {
  said <- "^((lb|vs|eg|qs)?(test|testcd|param|paramcd|parameter)|(lab_?)?test_?(name|code)?|parameter(_name|_code)?|param_?(name|code)?|analyte(_name)?|biomarker|assay|measure(ment)?(_name|_type)?|variable(_name)?|indicator(_name|_code)?|metric(_name)?|series(_name)?|nutrient|pollutant|characteristic)$"  # nolint: line_length_linter.
  held <- "^((lb|vs|eg)(stresn|orres)|aval|value|val|result(s|_value|_numeric)?|measured(_value)?|measurement(_value)?|obs_?value|reading(_value)?|amount|concentration|conc|level)$"  # nolint: line_length_linter.
  for (table in data_tables(study)) {
    plain <- function(col) gsub("[. -]+", "_", tolower(col$name))
    parameter <- Filter(function(col) col$kind == "category" && isTRUE(col$distinct >= 2 && col$distinct <= 60) && grepl(said, plain(col)), table$columns)
    value <- Filter(function(col) is_numeric_kind(col$kind) && grepl(held, plain(col)) && isTRUE(col$used %||% TRUE), table$columns)
    if (length(parameter) >= 1 && length(value) == 1) return(list(parameter = parameter[[1]]$name, value = value[[1]]$name, table = table$name))
  }
  NULL
}

#' "mean ALT by arm and visit": the mean of the values by arm and visit, where what was measured is ALT
#' @noRd
value_of_parameter <- function(out) {
  layout <- parameter_layout(out$study)
  if (is.null(layout)) return(out)
  state <- parse_question(out$text, study_vocabulary(out$study))
  place <- match(layout$parameter, state$vocabulary$columns$name)
  groups <- Filter(function(g) identical(g$column, place) && !g$negated && !isTRUE(g$numeric), state$groups)
  if (length(groups) != 1) return(out)
  group <- groups[[1]]
  # (the column itself is named, or the values: the level is a condition like any other)
  named <- function(name) any(vapply(which(state$type == "column"), function(k) column_of(state, state$items[[k]]$cols$column[1]) == name, NA))
  counted <- grepl("(?i)^ *(how many|number of|count|share|proportion|percentage) (rows|records|tests|samples|measurements|results)\\b", out$text, perl = TRUE)
  if (named(layout$value) || named(layout$parameter) || counted) return(out)
  said <- vapply(group$at, function(k) state$items[[k]]$text, "")
  related <- length(group$levels) == 2 && length(group$at) == 2 &&
    grepl("(?i)\\b(correlat\\w*|relat\\w*|associat\\w*|against|predict\\w*|scatter\\w*|goes? with|depend\\w*|regress\\w*|ratio|agree\\w*)\\b", out$text, perl = TRUE)
  if (related) return(values_side_by_side(out, layout, group$levels, said))
  text <- replaced_words(out$text, said[1], layout$value)
  for (word in said[-1]) text <- replaced_words(text, word, "")
  if (is.null(text)) return(out)
  text <- gsub("(?i)\\b(?:and|,|or|versus|vs) +(?=(?:by|in|at|for|of|over|per)\\b|[?.!]|$)", "", gsub(" +", " ", text), perl = TRUE)
  # (a value is spoken of, not several)
  text <- sub(sprintf("(?i)\\b%s (?:values?|levels?|results?|measurements?|readings?|concentrations?)\\b", as_literal(layout$value)), layout$value, text, perl = TRUE)
  several <- length(group$levels) > 1
  if (several && !grepl(sprintf("(?i)\\bby %s\\b", as_literal(layout$parameter)), text, perl = TRUE)) {
    text <- if (grepl("(?i)\\b(by|per|for each) ", text, perl = TRUE)) sub("(?i)\\b(by|per|for each) ", sprintf("\\1 %s and ", layout$parameter), text, perl = TRUE)
      else paste(without_mark(text), "by", layout$parameter)
  }
  reworded(out, sprintf("%s where %s is %s", without_mark(text), layout$parameter, some_of(group$levels, 20, and = "or")),
           sprintf("Took %s to mean the values of %s in the rows where %s is %s.", some_of(quoted(said), 6), layout$value, layout$parameter,
                   some_of(quoted(group$levels), 6, and = "or")))
}

#' A text with words replaced where they stand by themselves
#' @noRd
replaced_words <- function(text, words, by) {
  sub(sprintf("(?i)(?<![\\p{L}0-9_])%s(?![\\p{L}0-9_])", as_literal(words)), by, text, perl = TRUE)
}

#' "correlation between ALT and creatinine": the two values of the same unit at the same time, side by side
#' @noRd
values_side_by_side <- function(out, layout, levels, said) {
  within <- keys_of_parameters(out$study, layout)
  if (is.null(within)) return(out)
  names <- gsub("[^[:alnum:]]+", "_", paste0(levels, "_value"))
  text <- out$text
  for (i in 1:2) {
    out <- derived_in(out, layout$table, names[i], "value_at", layout$value, within = within, order = layout$parameter, on = levels[i])
    if (!has_column(out$study, names[i])) return(out)
    text <- replaced_words(text, said[i], names[i])
  }
  # (each pair stands in the rows of both, and counts once)
  reworded(out, sprintf("%s where %s is %s", without_mark(text), layout$parameter, levels[1]),
           sprintf("The values of %s and %s are those of the same %s.", levels[1], levels[2], some_of(within, 4)))
}

#' The columns that, with what was measured, tell the rows apart: who and when
#' @noRd
keys_of_parameters <- function(study, layout) {
  table <- study$tables[[layout$table]]
  columns <- table$columns
  who <- Filter(function(col) col$kind == "id" && !isTRUE(col$distinct == nrow(table$data)), columns)
  when <- Filter(function(col) col$kind %in% c("date", "datetime") || grepl("visit|week|month|day|time|year|wave|session|date|timepoint", tolower(col$name)) &&
    col$kind %in% c("category", "ordered", "number", "count"), columns)
  tries <- c(lapply(who, function(a) a$name), unlist(lapply(who, function(a) lapply(when, function(b) c(a$name, b$name))), recursive = FALSE),
             lapply(when, function(b) b$name))
  for (keys in tries) {
    key <- do.call(paste, c(lapply(c(keys, layout$parameter), function(name) as.character(table$data[[name]])), sep = "\r"))
    if (!anyDuplicated(key)) return(unname(keys))
  }
  NULL
}

#' "ALT above ULN", "more than 1.5 times the ULN", "spending over budget": one column held against another, row by row
#' @noRd
one_column_beyond <- function(out) {
  numeric <- numeric_columns(out$study)
  if (length(numeric) < 2) return(out)
  names <- vapply(numeric, `[[`, "", "name")
  text <- limits_of_normal(out$text, names)
  word <- paste0("(?:", paste(as_literal(names[order(-nchar(names))]), collapse = "|"), ")")
  form <- sprintf(paste0("(?i)(?<![\\p{L}0-9_])(%s)(?: (?:values?|levels?|results?))?(?: (?:is|are|was|were|being|lies|lie))? (?:(above|below|over|under|exceeding|exceeds|greater than|higher than|more than|less than|lower than) )",  # nolint: line_length_linter.
                         "(?:([0-9.]+) times )?(?:the |its |their )?(?:own )?(%s)(?![\\p{L}0-9_])"), word, word)
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || tolower(hit[2]) == tolower(hit[5])) return(out)
  own <- names[match(tolower(hit[c(2, 5)]), tolower(names))]
  low <- grepl("below|under|less|lower", hit[3], ignore.case = TRUE)
  times <- !is.na(hit[4])
  name <- paste(own[1], if (times) "per" else "minus", own[2], sep = "_")
  bound <- sprintf("%s %s", if (low) "below" else "above", if (times) hit[4] else "0")
  # (after a word that already leads in a condition none is needed)
  lead <- if (grepl("(?i)\\b(with|having|have|has|had|where|whose)(?: an?| the)? *$", strsplit(text, hit[1], fixed = TRUE)[[1]][1], perl = TRUE)) "" else "rows with "
  done <- with_derived(out, name, if (times) "ratio" else "difference", own, sub(hit[1], sprintf("%s%s %s", lead, name, bound), text, fixed = TRUE))
  if (has_column(done$study, name)) done else out
}

#' "the upper limit of normal" as the column that holds it
#' @noRd
limits_of_normal <- function(text, names) {
  for (side in c("upper", "lower")) {
    own <- names[grepl(if (side == "upper") "^(uln|anrhi|ulnr?|upper_?(limit|normal).*|ref_?(high|hi|upper)|normal_?high)$" else
      "^(lln|anrlo|lower_?(limit|normal).*|ref_?(low|lo|lower)|normal_?low)$", tolower(names))]
    if (length(own) != 1) next
    text <- gsub(sprintf("(?i)(?:the )?%s (?:limit|bound|end)s?(?: of (?:the )?(?:normal(?: range)?|reference range|normal))?(?: range)?", side), own, text, perl = TRUE)
  }
  text
}
