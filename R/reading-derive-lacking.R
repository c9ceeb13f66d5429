# Rows that lack something ("runners without a club"), sides that are faster or slower with something held constant, prices per something.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_lacking <- function() {
  list(turn("\\b(without|lacking|no)\\b", lacking_category), turn("\\bhow (much|many) .*\\b(faster|slower|quicker)\\b", how_much_faster),
       turn("\\b(effect|impact|influence) of\\b", effect_of_level), turn("\\bper\\b", named_per), turn("\\p{L}{3}(er|or)s?\\b", doers_of_level))
}

#' "runners without a club", "compare times of those with and without a club": the rows in which the category is missing
#' @noRd
lacking_category <- function(out) {
  words <- "(?:an? |any |the )?([\\p{L}_ ]+?)(?= (?:by|in|for|at|per|is|are|was|were|and|faster|slower|more|less|have|had)\\b|[?.!, ]*$)"
  both <- match_groups(out$text, paste0("(?i)\\b(?:between |for |of |in )?(?:those |people |rows |[\\p{L}]+s )?with (?:and|or|versus|vs|against) without ", words))  # nolint: line_length_linter.
  hit <- if (is.na(both[1])) match_groups(out$text, paste0(
    "(?i)\\b(?:(?:that|who|which) )?(?:are |is |were |was )?(?:without|lacking|(?:with|have|has|had|having|belong to|in) no) ", words)) else both
  if (is.na(hit[1])) return(out)
  found <- lacking_column(out$study, hit[2])
  if (is.null(found)) return(out)
  name <- paste0(found, "_missing")
  out$told <- c(out$told, sprintf("Took %s to mean that %s is missing.", quoted(trimws(hit[1])), found))
  if (!is.na(both[1])) {
    own <- sprintf("%s by %s", trimws(sub(hit[1], "", out$text, fixed = TRUE)), name)
    return(with_derived(out, name, "missing", found, own))
  }
  whole <- match_groups(out$text, "(?i)^ *(?:show |list |which |the |all )*[\\p{L}]+ (?:(?:that|who|which) )?(?:are )?(?:without|lacking|(?:with|have) no) ")  # nolint: line_length_linter.
  text <- if (!is.na(whole[1])) sprintf("show rows where %s = yes", name) else sub(hit[1], sprintf("with %s = yes", name), out$text, fixed = TRUE)
  with_derived(out, name, "missing", found, text)
}

#' The column of categories that words name and that is missing in some rows, where no level of it says that there is none
#' @return Its name, or NULL.
#' @noRd
lacking_column <- function(study, words) {
  columns <- Filter(function(col) col$kind %in% c("category", "ordered") && isTRUE(col$missing > 0) &&
                      !any(grepl("^(no|none|without|nothing)\\b", tolower(col$levels))), all_columns(study))
  words <- strsplit(trimws(words), " +")[[1]]
  # ("no reliability rating", of a column that says no more than reliability)
  found <- column_of_words(columns, words)
  bare <- if (length(words) > 1) words[!grepl("^(ratings?|values?|entry|entries|data|answers?|information|records?|grades?)$", words,
      ignore.case = TRUE)]
  if (length(bare) && !isTRUE(found$words >= length(words))) found <- column_of_words(columns, words <- bare)
  if (!is.null(found) && found$words >= length(words)) found$name
}

#' "how much faster are carbon shoes after adjusting for age", "how many minutes slower per year of age"
#' @noRd
how_much_faster <- function(out) {
  lead <- "(?i)^ *(?:by )?how (?:much|many [\\p{L}]+) (faster|slower|quicker)(?: on average)? "
  held <- "(?:after |when |while |once )?(?:adjusting|controlling|allowing|accounting|holding|adjusted|controlled|with .+ held)"
  side <- match_groups(out$text, paste0(lead, "(is|are|was|were) ((?:(?! than ).)+?),? (", held, " .+)$"))
  if (!is.na(side[1])) return(reworded(out, sprintf("%s %s %s %s", side[3], side[4], side[2], side[5])))
  per <- match_groups(out$text, paste0(lead, "((?:is|are|was|were|do|does|did) .+? )?((?:per|for each|for every|with each|with every) .+)$"))
  if (is.na(per[1])) return(out)
  numeric <- numeric_columns(out$study)
  timed <- Filter(function(col) grepl("(^|[_. ])(time|duration)$", tolower(col$name)), numeric)
  by <- column_in_text(numeric, per[4], named_phrases(out$study))
  if (length(timed) != 1 || is.null(by) || by$name == timed[[1]]$name) return(out)
  reworded(out, sprintf("model of %s on %s", timed[[1]]$name, by$name), sprintf("Faster and slower are read off %s.", timed[[1]]$name))
}

#' "effect of carbon shoes on the time, adjusting for age": the level stands for its column, of which all levels are compared
#' @noRd
effect_of_level <- function(out) {
  form <- paste0("(?i)\\b((?:effect|impact|influence) of )(?:the |having |wearing |using |being )?([\\p{L}0-9_ -]+?)( on .+?\\b",
                 "(?:adjust|control|allow|account|hold|correct|held constant).*)$")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  level <- level_in_text(out$study, hit[3], first = TRUE)
  if (is.null(level)) return(out)
  # (the name of the column may follow its level, and nothing else)
  left <- tolower(stringi::stri_extract_all_words(trimws(sub(level$said, "", hit[3], fixed = TRUE)))[[1]])
  if (!all(is.na(left)) && !all(stem_words(left) %in% name_stems(level$column))) return(out)
  reworded(out, sub(hit[1], paste0(hit[2], level$column, hit[4]), out$text, fixed = TRUE),
           sprintf("All levels of %s are compared, %s among them.", level$column, quoted(level$level)))
}

#' "cost per night" of a column price_per_night, which is that already
#' @noRd
named_per <- function(out) {
  kin <- list(c("price", "cost", "rate", "charge", "fee", "tariff", "fare"), c("pay", "wage", "salary"))
  numeric <- numeric_columns(out$study)
  for (col in numeric) {
    own <- match_groups(tolower(name_words(col$name)), "^(\\p{L}+) per (\\p{L}+)$")
    if (is.na(own[1]) || grepl(col$name, out$text, fixed = TRUE)) next
    heads <- unlist(Filter(function(words) own[2] %in% words, kin)) %||% own[2]
    # a column that is called so by itself is divided by the other
    heads <- setdiff(heads, tolower(vapply(numeric, `[[`, "", "name")))
    if (!length(heads)) next
    text <- sub(sprintf("(?i)\\b(?:%s)s? (?:per|a|for each|for a) %s(?![\\p{L}_])", paste(heads, collapse = "|"), own[3]), col$name, out$text,
        perl = TRUE)
    if (!identical(text, out$text)) return(reworded(out, text))
  }
  out
}

#' "how many swimmers", of a column with the level "swimming": who does it
#' @noRd
doers_of_level <- function(out) {
  nouns <- unique(stringi::stri_extract_all_regex(out$text, quick_form("(?i)\\b\\p{L}{2,}(?:er|or)s\\b"))[[1]])
  columns <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  for (noun in nouns[!is.na(nouns)]) {
    doing <- sub("(er|or)s$", "ing", tolower(noun))
    own <- Filter(function(col) doing %in% tolower(col$levels), columns)
    if (length(own) != 1 || any(vapply(columns, function(col) tolower(noun) %in% tolower(col$levels), NA))) next
    level <- own[[1]]$levels[match(doing, tolower(own[[1]]$levels))]
    out <- reworded(out, sub(sprintf("(?i)\\b%s\\b", noun), sprintf("rows with %s = %s", own[[1]]$name, level), out$text, perl = TRUE),
                    sprintf("Took %s to mean that %s is %s.", quoted(noun), own[[1]]$name, quoted(level)))
  }
  out
}
