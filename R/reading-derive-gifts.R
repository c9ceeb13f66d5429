# Rows that are sums of money by themselves: "the average gift", "gifts over 100", "total raised".

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_gifts <- function() {
  list(turn("\\b(average|mean|median|typical|largest|biggest|highest|smallest|lowest|total)\\b", amount_of_row), turn("\\b(over|above|under|below|at least)\\b", rows_of_amount))  # nolint: line_length_linter.
}

#' The one column that says how much each row is, where rows are told apart by a key of their own
#' @noRd
amount_column <- function(study) {
  if (length(data_tables(study)) != 1) return(NULL)
  own <- Filter(function(col) grepl("^(amount|value|sum|total|price|donation_amount|gift_amount|payment_amount)(_?(eur|usd|gbp|chf|paid|given))?$", tolower(col$name)), numeric_columns(study))  # nolint: line_length_linter.
  if (length(own) == 1 && length(keys_of(study, single = TRUE))) own[[1]]$name
}

#' Does a noun say what each row is ("gift" of gift_id)?
#' @noRd
noun_of_rows <- function(study, noun) length(keys_called(keys_of(study, single = TRUE), noun)) > 0 && !is_numeric_said(study, noun)

#' "average gift per donor", "largest gift in wales", "total raised per campaign": the amount of such a row
#' @noRd
amount_of_row <- function(out) {
  name <- amount_column(out$study)
  if (is.null(name)) return(out)
  told <- function(said) sprintf("Took %s to be %s.", quoted(said), name)
  raised <- match_groups(out$text, "(?i)\\btotal (raised|donated|given|collected|received|contributed)\\b")
  if (!is.na(raised[1])) return(reworded(out, sub(raised[1], paste("total", name), out$text, fixed = TRUE), told(raised[2])))
  hit <- match_groups(out$text, "(?i)\\b(average|mean|median|typical|largest|biggest|highest|smallest|lowest) ([\\p{L}]+)(?: (?:value|size|amount))?\\b")  # nolint: line_length_linter.
  # (several of them are counted: "average gifts per donor")
  if (is.na(hit[1]) || grepl("[^s]s$", hit[3]) || !noun_of_rows(out$study, hit[3])) return(out)
  # (the smallest and the largest are rows, the others values of the column)
  reworded(out, sub(hit[1], paste(hit[2], name), out$text, fixed = TRUE), told(hit[3]))
}

#' "gifts over 100": the rows in which the amount is beyond it
#' @noRd
rows_of_amount <- function(out) {
  name <- amount_column(out$study)
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}]+s) (?:of |worth )?(over|above|under|below|at least|more than|less than) (?:[\u20ac$\u00a3] ?)?([0-9][0-9.,]*+)(?! ?(?:%|[\\p{L}]))")  # nolint: line_length_linter.
  if (is.null(name) || is.na(hit[1]) || !noun_of_rows(out$study, hit[2])) return(out)
  # ("patients over 65" speaks of their age)
  if (tolower(hit[2]) %in% plural_people() || any(vapply(all_columns(out$study), function(col) "age" %in% name_stems(col$name), NA))) return(out)
  text <- sub(hit[1], sprintf("rows with %s %s %s", name, hit[3], hit[4]), out$text, fixed = TRUE)
  if (identical(trimws(without_mark(out$text)), trimws(hit[1]))) text <- paste("how many", text)
  reworded(out, text, sprintf("Took the bound to be one of %s.", name))
}
