# Turns of phrase about rows that have names of their own (states, countries, cars), and about people who are counted in a column.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_named <- function() {
  list(turn("\\b(each|every|all|by|per)\\b", values_of_named),
       turn("^ *how many (people|inhabitants|residents|persons|citizens)\\b", people_in_column),
       turn("\\b(paired|matched|linked|blocked) (by|on|within)\\b", paired_by),
       turn("\\brelative to\\b", relative_to), turn("^ *((at|for|with|in) )?(which|what) .*\\b[a-z]+est\\b", at_which_value),
       turn("\\b(treatment|drug|variable|factor|predictor|covariate|column|field|feature|marker|biomarker) [a-z]",
           noun_before_name),
       turn("^ *(which|what) .*\\bdiffer", measures_that_differ), turn("outlier|unusual|extreme|exceptional|atypical", row_as_outlier))
}

#' "population density of each state", "income by state", where every row is a state: the values themselves, in their order
#' @noRd
values_of_named <- function(out) {
  if (length(out$study$tables) != 1) return(out)
  # (a long list is no answer, and the names in it are not looked at)
  keys <- Filter(function(col) col$distinct <= 100 && is_row_name(out$study, col), keys_of(out$study, single = TRUE))
  for (key in keys) {
    noun <- paste0(as_literal(tolower(name_words(key$name))), "(?:s|es)?")
    form <- sprintf("(?i)^ *(?:what (?:is|are|was|were) |show (?:me )?|list |give (?:me )?|display |print )?(?:the )?(.{2,60}?)(?: (?:of|for|in) (?:each|every|all)(?: of)?(?: the)?| (?:by|per)) %s[?.! ]*$", noun)  # nolint: line_length_linter.
    hit <- match_groups(out$text, form)
    if (is.na(hit[1]) || asks_for_statistic(hit[2])) next
    found <- numeric_in_text(out$study, hit[2])
    # (the whole of what is said names the column: "correlation of income and area" does not)
    if (is.null(found) || tolower(trimws(hit[2])) != tolower(found$said)) next
    return(reworded(out, sprintf("top %d %s by %s", key$distinct, key$name, found$name),
                    sprintf("Each row is one %s: all %d, the highest first.", key$name, key$distinct)))
  }
  out
}

#' Does a column name every row in words?
#' @noRd
is_row_name <- function(study, col) {
  values <- study$tables[[col$table]]$data[[col$name]]
  is.character(values) && mean(grepl("^\\p{L}{2,}", values, perl = TRUE)) > 0.8
}

#' Does a text ask for a statistic, a test or a figure?
#' @noRd
asks_for_statistic <- function(text) {
  form <- "(?i)\\b(means?|averages?|medians?|totals?|sums?|counts?|number|how many|shares?|percent\\w*|proportions?|sd|standard deviation|variance|spread|range|distribution|compare|test|differences?|plot|chart|graph|histogram|rank\\w*|rates?|correlat\\w*|effect|trend|change|describe|summar\\w*)\\b"  # nolint: line_length_linter.
  grepl(form, text, perl = TRUE)
}

#' "how many people live in the South", of states with a column population: the people, not the rows
#' @noRd
people_in_column <- function(out) {
  own <- Filter(function(col) grepl("^(population|inhabitants|residents|people|pop)$", tolower(col$name)) && is_numeric_kind(col$kind),
                all_columns(out$study))
  form <- "(?i)^ *how many (?:people|inhabitants|residents|persons|citizens)(?: (?:live|lived|are there|were there|are|reside|dwell))?(?: (?=in\\b|at\\b|on\\b)|[?.! ]*$)"  # nolint: line_length_linter.
  if (length(own) != 1 || own[[1]]$distinct < 10 || !grepl(form, out$text, perl = TRUE)) return(out)
  name <- own[[1]]$name
  reworded(out, sub(form, paste0("total ", name, " "), out$text, perl = TRUE), sprintf("People are those that %s counts, added up.", name))
}

#' "compare extra between groups, paired by ID": rows of the same unit
#' @noRd
paired_by <- function(out) {
  form <- "(?i),? *(?:\\(?)(?:paired|matched|linked|blocked) (?:by|on|within) (?:the )?(?:same )?([\\p{L}\\p{N}_.]+)\\)?(?=[,.?! ]|$)"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  key <- Find(function(col) tolower(col$name) == tolower(hit[2]), all_columns(out$study))
  if (is.null(key) || !key$kind %in% c("id", "count", "category", "text", "date")) return(out)
  # (whatever a column is read as, who pairs rows by it says that it tells the units)
  if (key$kind != "id") {
    out$study$tables[[key$table]]$columns[[key$name]]$kind <- "id"
    out$told <- c(out$told, sprintf("%s is taken to tell which rows belong together.", key$name))
  }
  reworded(out, sub(hit[1], paste(" within the same", key$name), out$text, fixed = TRUE))
}

#' "which measures differ between benign and malignant": the columns that go with what tells these apart
#' @noRd
measures_that_differ <- function(out) {
  form <- "(?i)^ *(?:which|what) (?:of the )?(?:measures|measurements|variables|columns|characteristics|features|factors|scores|markers|traits)(?: (?:significantly|clearly|most))* (?:differ|differs|are different|differed)(?: (?:significantly|clearly|most))* (?:between|across|among) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  state <- parse_question(paste("compare", hit[2]), study_vocabulary(out$study))
  # (of a column with more levels the others would come in as well)
  sides <- Filter(function(g) !g$negated && length(g$levels) > 1 && state$vocabulary$columns$distinct[g$column] == length(g$levels), state$groups)
  if (length(sides) != 1 || length(state$groups) != 1 || length(state$filters)) return(out)
  reworded(out, sprintf("which columns differ by %s", column_of(state, sides[[1]]$column)))
}

#' "is Alaska an outlier for rape", of a row with a name: the outliers among all rows, and what that row holds
#' @noRd
row_as_outlier <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (?:the )?(.+?) (?:an? )?(?:(?:clear|real|statistical|possible|extreme) )?(?:outliers?|unusual|extreme|exceptional|atypical)(?: (?:value|case|observation|row|point)s?)?(?: (?:for|in|on|regarding|with regard to|with respect to|as to|by) (?:the |its |their )?(.+?))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  names <- if (!is.na(hit[1])) study_vocabulary(out$study)$row_names
  own <- if (length(names$phrase)) names[names$phrase == joined_stems(hit[2]), , drop = FALSE]
  if (is.null(own) || nrow(own) != 1) return(out)
  key <- find_column(out$study, study_vocabulary(out$study)$columns$name[own$column])
  found <- if (!is.na(hit[3])) numeric_in_text(out$study, hit[3])
  if (!is.na(hit[3]) && is.null(found)) return(out)
  columns <- if (is.null(found)) Filter(function(col) is.null(col$role) && col$table == key$table, numeric_columns(out$study)) else list(found$col)
  row <- match(own$level, as.character(out$study$tables[[key$table]]$data[[key$name]]))
  value <- function(col) as.numeric(understood(out$study, col$name, col$table)[row])
  held <- vapply(columns, function(col) sprintf("%s %s", col$name, format_plain(signif(value(col), 3))), "")
  reworded(out, if (is.null(found)) "are there outliers" else sprintf("are there outliers in %s", found$name),
           sprintf("%s (row %d) has %s; outliers are looked for among all rows.", own$level, row, some_of(held, 6)))
}

#' "the largest brain relative to its body": the one divided by the other
#' @noRd
relative_to <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}_0-9.]+) relative to (?:its |their |the |his |her )?([\\p{L}_0-9.]+)\\b")
  if (is.na(hit[1])) return(out)
  top <- numeric_in_text(out$study, hit[2]); base <- numeric_in_text(out$study, hit[3])
  if (is.null(top) || is.null(base) || top$name == base$name) return(out)
  derive_of_two(out, hit[1], top$name, base$name, "ratio", "per")
}

#' "at which E is NOx highest", "which dose gave the lowest pressure", of a measure with a value of its own in most rows: the row at the end
#' of the other, with it beside
#' @noRd
at_which_value <- function(out) {
  end <- "(highest|largest|greatest|biggest|lowest|smallest)"
  at <- match_groups(out$text, sprintf("(?i)^ *(?:at|for|with|in) (?:which|what) (.+?) (?:is|was|are|were|does|did) (?:the )?(.+?) (?:at its |the )?%s[?.! ]*$", end))  # nolint: line_length_linter.
  has <- match_groups(out$text, sprintf("(?i)^ *(?:which|what) (.+?) (?:has|had|have|gives|gave|shows|showed|produces|produced|yields|yielded) (?:the )?%s (.+?)[?.! ]*$", end))  # nolint: line_length_linter.
  said <- if (!is.na(at[1])) at[c(2, 3, 4)] else if (!is.na(has[1])) has[c(2, 4, 3)] else return(out)
  if (grepl("\\b(mean|average|median|total|sum|share|number|count)\\b", said[2], ignore.case = TRUE)) return(out)
  vocabulary <- study_vocabulary(out$study)
  x <- column_said(vocabulary, said[1])
  # (where values come back they are groups, and their means are ranked)
  if (is.null(x) || !is_numeric_kind(x$kind) || x$distinct < 0.5 * x$rows) return(out)
  y <- column_said(vocabulary, said[2])
  if (is.null(y) || !is_numeric_kind(y$kind) || x$name == y$name) return(out)
  reworded(out, sprintf("row with the %s %s with its %s", if (grepl("^(low|sma)", said[3], ignore.case = TRUE)) "lowest" else "highest", y$name,
      x$name))
}

#' "the treatment rx", "the variable age": a noun right before the name of a column says only what it is
#' @noRd
noun_before_name <- function(out) {
  columns <- all_columns(out$study)
  names <- vapply(columns, `[[`, "", "name")
  form <- sprintf("(?i)\\b(?:the |a |an |our )?(treatment|drug|variable|factor|predictor|covariate|column|field|feature|marker|biomarker) (%s)(?![\\p{L}\\p{N}_])",  # nolint: line_length_linter.
                  paste(as_literal(names[order(-nchar(names))]), collapse = "|"))
  hit <- match_groups(out$text, form)
  # (numbers as names mean more; "drug arm" is no name, "the drug rx" is)
  if (is.na(hit[1]) || grepl("^[0-9]", hit[3]) || grepl("^(drug|treatment)$", hit[2], ignore.case = TRUE) && nchar(hit[3]) > 3) return(out)
  # (so does a noun that a column or one of its levels is called by)
  noun <- stem_words(tolower(hit[2]))
  called <- any(vapply(columns, function(col) noun %in% c(name_stems(col$name), unlist(stems_of(utils::head(as.character(col$levels), 60)))), NA))
  if (called) out else reworded(out, sub(hit[1], hit[3], out$text, fixed = TRUE))
}
