# Measures in rows: one column says what was measured ("ALT", "HbA1c"), another holds the values of all of them.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_measures <- function() list(turn("\\b(mean|average|median|peak|maximum|minimum|highest|lowest|over|does|did|is|was)\\b", measure_of_table),
       turn("\\p{L}", measure_of_rows))

#' The column that names what was measured, the one that holds the values, and what tells the measurements of one occasion apart
#'
#' @section Shape: NULL, or list(name (of the column of names), levels, value, within (columns that hold a measurement of each)): one table, a
#'   name for what is measured and a name for a value, and no two values of one measure for the same unit and time.
#' @noRd
measures_layout <- function(study) {
  if (length(data_tables(study)) != 1) return(NULL)
  last <- function(name) sub("^.*[_. ]", "", tolower(name))
  # (most tables hold no such names: every question asks)
  ends <- last(column_names(study))
  if (!any(grepl(measure_names(), ends)) || !any(grepl(value_names(), ends))) return(NULL)
  columns <- all_columns(study)
  what <- Filter(function(col) col$kind == "category" && length(col$levels) %in% 2:60 && grepl(measure_names(), last(col$name)), columns)
  value <- Filter(function(col) is_numeric_kind(col$kind) && grepl(value_names(), last(col$name)), columns)
  if (length(what) != 1 || length(value) != 1) return(NULL)
  units <- vapply(keys_of(study, single = FALSE), `[[`, "", "name")
  others <- Filter(function(col) !col$name %in% c(value[[1]]$name, what[[1]]$name), columns)
  timed <- "^(day|week|month|visit|year|time|hour|wave|round)$"
  named <- Filter(function(col) col$kind %in% c("date", "datetime") || grepl(timed, last(col$name)), others)
  times <- vapply(c(named, Filter(is_occasion, others)), `[[`, "", "name")
  within <- if (length(units) == 1) c(units, utils::head(setdiff(times, units), 1))
  held <- lapply(c(within, what[[1]]$name), function(n) as.character(understood(study, n)))
  if (length(within) && anyDuplicated(do.call(paste, c(held, sep = "\r")))) within <- NULL
  list(name = what[[1]]$name, levels = what[[1]]$levels, value = value[[1]]$name, within = within)
}

#' What columns are called that say what was measured, and those that hold the values
#' @noRd
measure_names <- function() paste0("^(test|testcd|param(cd)?|parameter|measure|measurement|indicator|variable|analyte|metric|marker|biomarker|nutrient|",  # nolint: line_length_linter.
  "element|pollutant|compound|assay|attribute|characteristic|vital|vitals|lab|lbtest|vstest|kpi)$")
value_names <- function() paste0("^(result|results|value|values|val|reading|readings|measurement|aval|lbstresn|vsstresn|obsvalue|amount|level|",
  "concentration|conc)$")

#' "mean ALT by sex", "is ALT higher in men", "correlation of ALT and HbA1c": the values of the rows of that measure
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
measure_of_rows <- function(out) {
  layout <- measures_layout(out$study)
  if (is.null(layout)) return(out)
  text <- out$text
  found <- Filter(function(l) grepl(measure_pattern(l), text, perl = TRUE), layout$levels[order(-nchar(layout$levels))])
  # ("haemoglobin" of Hemoglobin, and whatever else links to one of them)
  if (!length(found)) {
    linked <- measure_linked(out, layout)
    found <- linked$level
    if (length(found)) text <- sub(linked$said, found, text, fixed = TRUE)
  }
  named <- c(layout$value, layout$name)
  said <- any(vapply(named, function(n) grepl(sprintf("(?i)\\b%ss?\\b", as_literal(n)), text, perl = TRUE), NA))
  counts <- "(?i)^ *(how many|number of|count|list|show (?:me )?(?:the )?rows|which|what (?:share|proportion|percentage|percent|fraction)|(?:share|proportion|percentage|percent) )"  # nolint: line_length_linter.
  flagged <- flagged_rows(out, layout, found)
  if (!is.null(flagged)) return(flagged)
  # (a bound is put on the values, whatever is counted)
  bounded <- grepl("(?i)\\b(above|below|over|under|exceed\\w*|more than|less than|higher than|lower than|at least|at most|outside)\\b", text, perl = TRUE)  # nolint: line_length_linter.
  counted <- grepl(counts, text, perl = TRUE) || grepl("(?i)\\b(share|proportion|percentage|percent|rate) of\\b", text, perl = TRUE)
  if (!length(found) || said || counted && !bounded) return(out)  # nolint: line_length_linter.
  where <- function(levels) paste(sprintf("%s = %s", layout$name, levels), collapse = " or ")
  if (length(found) == 1) {
    asked <- gsub(measure_pattern(found), layout$value, text, perl = TRUE)
    return(reworded(out, sprintf("%s where %s", without_mark(asked), where(found)),
                    sprintf("Took %s as %s in the rows where %s is %s.", found, layout$value, layout$name, quoted(found))))
  }
  found <- found[order(vapply(found, function(l) regexpr(measure_pattern(l), text, perl = TRUE)[1], 1))]
  if (length(found) == 2 && length(layout$within) && grepl(related_words(), text, ignore.case = TRUE, perl = TRUE)) {
    return(measures_related(out, layout, found, where))
  }
  list_of <- sprintf("%s(?:(?:, ?| and | or |, and )(?:the )?%s)+", measure_pattern(found[1]), paste0("(?:", paste(vapply(found, measure_pattern, ""), collapse = "|"), ")"))  # nolint: line_length_linter.
  if (!grepl(list_of, text, perl = TRUE)) return(out)
  asked <- sub(list_of, layout$value, text, perl = TRUE)
  if (!grepl(sprintf("(?i)\\bby %s\\b", as_literal(layout$name)), asked, perl = TRUE)) {
    by <- grepl("(?i)\\b(by|per|for each|in each) ", asked, perl = TRUE)
    asked <- if (by) sub("(?i)\\b(by|per|for each|in each) ", sprintf("by %s and ", layout$name), asked, perl = TRUE)
      else sprintf("%s by %s", without_mark(asked), layout$name)
  }
  reworded(out, sprintf("%s where %s", without_mark(asked), where(found)))
}

#' The one measure that a question links to by other letters than its own
#' @section Shape: list(level, said), or NULL.
#' @noRd
measure_linked <- function(out, layout) {
  state <- parse_question(out$text, study_vocabulary(out$study))
  own <- Filter(function(g) column_of(state, g$column) == layout$name && names_one(g) && length(g$at) == 1, state$groups)
  if (length(own) == 1) list(level = own[[1]]$levels, said = state$items[[own[[1]]$at]]$text)
}

#' "how many results are high", "share of high HbA1c by sex", of a column that says so of each value: the rows of that level
#' @section Shape: as of `derive_for_question()`; NULL where nothing of the kind is said.
#' @noRd
flagged_rows <- function(out, layout, found) {
  text <- out$text
  if (!grepl("(?i)\\b(how many|number of|count|share|proportion|percentage|percent|fraction|most|fewest|least)\\b", text, perl = TRUE)) return(NULL)
  flags <- Filter(function(col) is_level_kind(col$kind) && col$name != layout$name && length(col$levels) %in% 2:6 &&
    any(grepl("^(high|low|normal|abnormal|elevated|in range|out of range)$", tolower(col$levels))), all_columns(out$study))
  if (length(flags) != 1) return(NULL)
  levels <- flags[[1]]$levels
  normal <- levels[tolower(levels) %in% c("normal", "in range")]
  words <- c(tolower(levels), if (length(normal) == 1) "abnormal")
  noun <- paste0("(?:", paste(c(sprintf("%ss?", as_literal(layout$value)), "values?", "results?", "measurements?", "tests?",
                                if (length(found)) sub("^\\(\\?i\\)", "", measure_pattern(found[1]))), collapse = "|"), ")")
  before <- match_groups(text, sprintf("(?i)\\b(?:an? |any )?(%s) %s(?! [a-z]*(?:range|limit))", paste(words, collapse = "|"), noun))
  behind <- match_groups(text, sprintf("(?i)\\b%s (?:that |which )?(?:are|were|is|was) (%s)\\b", noun, paste(words, collapse = "|")))
  hit <- if (!is.na(before[1])) before else behind
  if (is.na(hit[1])) return(NULL)
  level <- if (tolower(hit[2]) == "abnormal") setdiff(levels, normal) else levels[match(tolower(hit[2]), tolower(levels))]
  name <- if (length(level) > 1) "abnormal" else paste(flags[[1]]$name, gsub("[^[:alnum:]]+", "_", level), sep = "_")
  out <- with_derived(out, name, "equals", flags[[1]]$name, level = level)
  told <- sprintf("Took %s as %s %s.", quoted(hit[1]), flags[[1]]$name, some_of(quoted(level), 5, and = "or"))
  measure <- if (length(found) == 1 && grepl(measure_pattern(found), hit[1], perl = TRUE)) sprintf("%s = %s", layout$name, found)
  if (layout_people(text)) {
    # ("patients with any high result": ever, in some of their rows)
    form <- sprintf("(?i)^(.*?%s) (?:who |that )?(?:with|had|have|having|have had|ever had) (?:at least one |any |an? )?%s", people_words(),
                    as_literal(hit[1]))
    if (!is.null(measure) || !grepl(form, text, perl = TRUE)) return(NULL)
    return(reworded(out, sub(form, sprintf("\\1 ever had %s", name), text, perl = TRUE), told))
  }
  rows <- if (is.null(measure)) sprintf("rows with %s = yes", name) else sprintf("rows where %s have %s = yes", measure, name)
  reworded(out, sub(hit[1], rows, text, fixed = TRUE), told)
}

#' Are people counted, each once, and not their values?
#' @noRd
layout_people <- function(text) {
  grepl(sprintf("(?i)\\b(how many|number of|share of|proportion of|percentage of|percent of) (?:the )?%s\\b", people_words()), text, perl = TRUE)
}

measure_pattern <- function(level) sprintf("(?i)(?<![\\p{L}0-9_])%s(?![\\p{L}0-9_])", as_literal(level))

related_words <- function() "\\b(correlat|relat|associat|regress|depend|predict|go(es)? with|go together|against|linked|effect of|adjust)"

#' Two measures of the same unit and time beside each other: the second becomes a column in the rows of the first
#' @noRd
measures_related <- function(out, layout, found, where) {
  name <- gsub("[^\\p{L}0-9]+", "_", found[2], perl = TRUE)
  text <- sub(measure_pattern(found[2]), name, out$text, perl = TRUE)
  text <- sub(measure_pattern(found[1]), layout$value, text, perl = TRUE)
  out$told <- c(out$told, sprintf("Took %s as %s in the rows where %s is %s, beside %s of the same %s.", found[1], layout$value, layout$name,
                                  quoted(found[1]), found[2], some_of(layout$within, 3)))
  with_derived(out, name, "value_at", layout$value, sprintf("%s where %s", without_mark(text), where(found[1])),
               within = layout$within, order = layout$name, on = found[2])
}

#' Is a column called like a time, so that it is no measure?
#' @noRd
timed_name <- function(name) {
  grepl("^(time|times|age|(day|week|month|quarter|year|hour|minute|visit|session|period|round|occasion|wave)s?)([_. ](n|no|nr|number|h|hr|min|s))?$", tolower(name))  # nolint: line_length_linter.
}

#' "peak glucose per subject", of a file glucose.csv that measures one thing (conc): the name of the data stands for what it measures
#' @noRd
measure_of_table <- function(out) {
  tables <- data_tables(out$study)
  if (length(tables) != 1) return(out)
  noun <- tolower(gsub("[_. -]+", " ", names(tables)))
  if (!grepl(noun, tolower(out$text), fixed = TRUE)) return(out)
  measures <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role) && !timed_name(col$name), all_columns(out$study))
  # (things that are counted are what the rows are)
  if (length(measures) != 1 || grepl(" |s$|[0-9]", noun) || nchar(noun) < 4 || names_a_unit(noun) || names_a_thing(noun)) return(out)
  if (any(stem_words(noun) %in% unlist(lapply(all_columns(out$study), function(col) name_stems(col$name))))) return(out)
  form <- sprintf("(?i)\\b(?:(?:mean|average|median|peak|maximum|minimum|highest|lowest) %1$s\\b|(?:does|did|is|was) (?:the )?%1$s (?=change|differ|depend|rise|fall|highest|lowest|higher|lower|vary)|%1$s (?=over|across|through))", as_literal(noun))  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  name <- measures[[1]]$name
  reworded(out, sub(hit[1], sub(sprintf("(?i)\\b%s\\b", as_literal(noun)), name, hit[1], perl = TRUE), out$text, fixed = TRUE),
           sprintf("Took %s to mean %s, the only column that measures something.", quoted(noun), name))
}
