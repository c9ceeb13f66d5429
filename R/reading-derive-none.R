# Amounts that are there or not ("discounted orders", "with free shipping", "gave no rating"), and what is asked of extreme rows.

#' The turns about amounts that may be none, as of `everyday_turns()`
#' @noRd
turns_of_none <- function() {
  list(turn("\\b(free|no|zero|without)\\b|\\b(with|had|have|has|got|received|having) (an?|any|some)\\b|\\b(among|of|for|in|on) (the |all )?[a-z]+ed\\b", amount_there),  # nolint: line_length_linter.
       turn("[a-z]{3,}est .*\\b(each|per|every)\\b", extreme_per_period), turn("\\bnet\\b", net_after), turn("\\btimes (a|per|each|every|in a) ",
           times_a_period),
       turn("\\bnew .*\\b(per|each|every|by|a) (day|week|month|quarter|year)", new_per_period), turn("benefit|advantage|gain|increase|penalty|loss",
           benefit_of),
       turn("^ *(did|do|does|were|are|was|is) (more|fewer) ", more_of_event), turn("^ *who [a-z]+[?.! ]*$", who_does),
       turn("\\b(on|for|in|during) (the )?[a-z]+y (days|nights|weeks|months|mornings)", weather_days), turn("expectations", beside_expectations),
       turn("\\b(within|outside)\\b.*[0-9].*[0-9]", within_limits), turn("\\boutside\\b", outside_of_bounds))
}

#' The one measured column that a single word names in full
#' @noRd
measure_of_word <- function(study, word) {
  stem <- stem_words(tolower(word))
  own <- Filter(function(col) identical(telling_stems(col$name), stem), numeric_columns(study))
  if (length(own) == 1) own[[1]]
}

#' "discounted orders", "orders with free shipping", "how many gave no rating": an amount above nothing, at nothing, or missing
#' @noRd
amount_there <- function(out) {
  forms <- list(above = "(?i)\\b(?:that |who |which )?(?:with|had|have|has|got|received|having) (?:an?|any|some) ([\\p{L}_]+)\\b(?! (?:of|above|below|over|under|between|is|at|more|less|greater|than|[0-9]))",  # nolint: line_length_linter.
                done = "(?i)\\b(?:among|of|for|in|on) (?:the |all )?([\\p{L}]+ed) (?!(?:and|or|with|by|in|on|to|from|for|than|as|at|is|are|was|were)\\b)(?=\\p{L}+)",  # nolint: line_length_linter.
                zero = "(?i)\\b(?:that |who |which )?(?:with|had|have|has|got|received|having)? ?\\b(?:free|zero) ([\\p{L}_]+)\\b",
                none = "(?i)\\b(?:that |who |which )?(?:with|had|have|has|got|gave|left|received|having|wrote) (?:no|not any) ([\\p{L}_]+)(?: (?:rating|value|entry|data|answer|information|record|figure|measurement)s?)?\\b|\\bwithout (?:an? |any )?([\\p{L}_]+)\\b")  # nolint: line_length_linter.
  # (whether those with any differ from those with none is a comparison)
  asks <- grepl("(?i)^ *(?:do|does|did|are|is|were|was|have|has|will|can)\\b", out$text, perl = TRUE)
  for (kind in if (asks) c("done", "zero") else names(forms)) {
    hit <- match_groups(out$text, forms[[kind]])
    word <- stats::na.omit(hit[-1])[1]
    if (is.na(hit[1]) || is.na(word)) next
    bare <- if (kind == "done") c(sub("ed$", "", word), sub("d$", "", word)) else word
    col <- measure_of_word(out$study, bare[1]) %||% measure_of_word(out$study, last_of(bare))
    # (a column that is itself called "induced" is named by the word)
    if (is.null(col) || kind == "done" && tolower(col$name) == tolower(word)) next
    condition <- amount_condition(kind, understood(out$study, col$name, col$table), col$name)
    if (is.null(condition)) next
    # (what has no value is known under that word)
    if (condition == "have no") return(reworded(out, sub(hit[1], sprintf("have no %s", col$name), out$text, fixed = TRUE)))
    kept <- if (kind == "done") sub(paste0(word, " "), "", hit[1], fixed = TRUE) else ""
    rest <- sub(hit[1], kept, out$text, fixed = TRUE)
    # (an amount alone is asked about, not made a condition)
    if (!grepl("\\p{L}{3}", gsub("(?i)\\b(what|which|how|is|are|the|show|list|me|of)\\b", "", rest, perl = TRUE), perl = TRUE)) next
    return(reworded(out, trimws(gsub(" +", " ", paste(without_mark(rest), condition))), sprintf("Took %s to mean %s.", quoted(trimws(hit[1])), sub("^where ", "", condition))))  # nolint: line_length_linter.
  }
  out
}

#' "where discount is above 0" and the like; NULL where the values do not bear such a reading
#' @noRd
amount_condition <- function(kind, values, name) {
  lowest <- suppressWarnings(min(values, na.rm = TRUE))
  starts_at_none <- is.finite(lowest) && lowest == 0
  if (kind %in% c("above", "done") && starts_at_none) return(sprintf("where %s is above 0", name))
  if (kind %in% c("zero", "none") && starts_at_none) return(sprintf("where %s is 0", name))
  if (kind == "none" && anyNA(values)) "have no"
}

#' "largest order each month", beside a column OrderValue: the highest of the one measure that the noun names
#' @noRd
extreme_per_period <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:what (?:is|was|were) |show (?:me )?|list )?(?:the )?(largest|biggest|highest|smallest|lowest) ([\\p{L}]+) (?:each|per|every|in each|of each|of every) (day|week|month|quarter|year)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !names_rows(study_vocabulary(out$study), hit[3])) return(out)
  stem <- stem_words(tolower(hit[3]))
  own <- Filter(function(col) stem %in% name_stems(col$name), numeric_columns(out$study))
  if (length(own) != 1) return(out)
  reworded(out, sprintf("%s %s per %s", if (grepl("^(sm|lo)", hit[2], ignore.case = TRUE)) "minimum" else "maximum", own[[1]]$name, tolower(hit[4])))
}

#' "net revenue after discount": the one less the other
#' @noRd
net_after <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bnet (?:of )?(?:the )?([\\p{L}_]+(?: [\\p{L}_]+)?) (?:after|less|minus|without) (?:the |deducting |subtracting )?([\\p{L}_]+)\\b")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  measured <- numeric_columns(out$study)
  find <- function(said) column_in_text(measured, said, named_phrases(out$study, measured)) %||% column_in_text(measured, said,
      kin_phrases(out$study, said))
  a <- find(hit[2]); b <- find(hit[3])
  if (is.null(a) || is.null(b) || a$name == b$name || !identical(a$col$unit, b$col$unit)) return(out)
  derive_of_two(out, hit[1], a$name, b$name, "difference", "minus")
}

#' "members who visit less than 4 times a month", of a column visits_last_month: the period is in the column
#' @noRd
times_a_period <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}]+) ((?:less|more|fewer) than|at least|at most|over|under|exactly) ([0-9]+) times (?:a|per|each|every|in a) (?:day|week|month|year)\\b")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  own <- Filter(function(col) stem_words(tolower(hit[2])) %in% name_stems(col$name), numeric_columns(out$study))
  if (length(own) != 1) return(out)
  text <- sub(hit[1], sprintf("with %s %s %s", own[[1]]$name, hit[3], hit[4]), sub(sprintf("(?i)\\b(?:who|that|which) (?=\\Q%s\\E)", hit[1]), "", out$text, perl = TRUE), fixed = TRUE)  # nolint: line_length_linter.
  # "members who visit ...: how many cancelled?"
  turned <- match_groups(text, "(?i)^ *(.+?)[:,] *(how many|what share|what proportion|what percentage)\\b(.*?)[?.! ]*$")
  if (!is.na(turned[1])) text <- sprintf("%s of %s%s", turned[3], turned[2], turned[4])
  reworded(out, text)
}

#' "new members per month": the rows by their date, where no column says who is new
#' @noRd
new_per_period <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:how many |number of |the number of |show (?:me )?(?:the )?)?new ([\\p{L}]+) (?:(?:joined|came|signed up|registered|were there|are there) )?(?:per|each|every|by|a) (day|week|month|quarter|year)[?.! ]*$")  # nolint: line_length_linter.
  vocabulary <- study_vocabulary(out$study)
  if (is.na(hit[1]) || "new" %in% c(vocabulary$terms$stem, vocabulary$values$phrase) || !names_rows(vocabulary, hit[2])) return(out)
  if (!length(date_columns(out$study))) return(out)
  # (who comes back is new only once)
  if (length(keys_called(keys_of(out$study, single = FALSE), hit[2]))) return(out)
  reworded(out, sprintf("number of rows per %s", tolower(hit[3])), sprintf("Each row is one of the %s, new at its date.", tolower(hit[2])))
}

#' "does the benefit of irrigation differ between varieties", "yield gain from irrigation": an effect
#' @noRd
benefit_of <- function(out) {
  text <- sub("(?i)^( *(?:do|does|did|is|are|was) (?:the )?)(?:benefits?|advantages?|gains?) (?:of|from) ", "\\1effect of ", out$text, perl = TRUE)
  hit <- match_groups(text, "(?i)^ *(?:what (?:is|was) )?(?:the )?([\\p{L}_ ]+?) (?:gain|increase|benefit|advantage|penalty|loss|improvement) (?:from|due to|with|through|by) (?:the )?([\\p{L}_ ]+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(reworded(out, text))
  # ("increase from March to April" is no benefit of anything)
  if (grepl(sprintf("(?i)^(?:%s)[a-z]* ", month_starts()), hit[3], perl = TRUE)) return(reworded(out, text))
  y <- numeric_in_text(out$study, hit[2])
  g <- divider_said(out$study, hit[3])
  sets <- unlist(lapply(study_sets(out$study, "repeated_measures"), `[[`, "columns"))
  # (a measure with a before and an after has a gain of its own)
  if (is.null(y) || is.null(g) || y$name == g || y$name %in% sets) return(out)
  reworded(out, sprintf("effect of %s on %s", g, y$name))
}

#' "did more plots lodge under high irrigation": the event compared between that level and the others
#' @noRd
more_of_event <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:did|do|does|were|are|was|is) (?:more|fewer) ([\\p{L}]+) (?:get |become |be )?([\\p{L}_]+) (?:under|in|with|on|at|among|for|from) (?:the )?([\\p{L}0-9_ -]+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !names_rows(study_vocabulary(out$study), hit[2])) return(out)
  events <- Filter(function(col) col$kind == "yes_no" && any(alike_stems(stem_words(tolower(hit[3])), name_stems(col$name))), all_columns(out$study))
  found <- bare_level(hit[4], study_vocabulary(out$study))
  if (length(events) != 1 || is.null(found)) return(out)
  column <- study_vocabulary(out$study)$columns[found$column, ]
  if (column$name == events[[1]]$name) return(out)
  if (column$distinct == 2) return(reworded(out, sprintf("compare %s by %s", events[[1]]$name, column$name)))
  sides <- level_against_rest(out, column$name, found$level)
  if (is.null(sides)) return(out)
  reworded(sides$out, sprintf("compare %s by %s", events[[1]]$name, sides$name))
}

#' "who cancels": what goes with it
#' @noRd
who_does <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *who ([\\p{L}]+)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  events <- Filter(function(col) col$kind == "yes_no" && any(alike_stems(stem_words(tolower(hit[2])), name_stems(col$name))), all_columns(out$study))
  if (length(events) != 1) out else reworded(out, sprintf("what predicts %s", events[[1]]$name))
}

#' "on rainy days", of a yes/no column rained: the rows where it is so
#' @noRd
weather_days <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:on|for|in|during) (?:the )?([\\p{L}]{3,}y) (?:days|nights|weeks|months|mornings)\\b")
  if (is.na(hit[1])) return(out)
  bare <- unique(c(sub("y$", "", hit[2]), sub("(.)\\1y$", "\\1", hit[2]), sub("y$", "e", hit[2])))
  own <- Filter(function(col) col$kind == "yes_no" &&
      any(vapply(stem_words(tolower(bare)), function(s) any(alike_stems(s, name_stems(col$name))), NA)),
                all_columns(out$study))
  if (length(own) != 1) return(out)
  reworded(out, sub(hit[1], sprintf("where %s is %s", own[[1]]$name, last_of(own[[1]]$levels)), out$text, fixed = TRUE),
           sprintf("Took %s to mean that %s is %s.", quoted(hit[1]), own[[1]]$name, quoted(last_of(own[[1]]$levels))))
}

#' "exceeding expectations", of a level "exceeds": that level
#' @noRd
beside_expectations <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}]+) (?:the |their |our )?expectations\\b")
  if (is.na(hit[1])) return(out)
  values <- study_vocabulary(out$study)$values
  own <- unique(values[vapply(strsplit(values$phrase, " "), function(p) any(alike_stems(stem_words(tolower(hit[2])), p[1])), NA), c("column",
      "level")])
  if (nrow(own) != 1 || any(grepl("expect", values$phrase))) return(out)
  column <- study_vocabulary(out$study)$columns$name[own$column]
  lead <- if (grepl("(?i)^ *(?:what |the )?(?:share|proportion|percentage|percent|fraction)", out$text, perl = TRUE)) "of rows with" else "with"
  reworded(out, sub(hit[1], sprintf("%s %s = %s", lead, column, own$level), out$text, fixed = TRUE))
}

#' "are pH values within 6.5 and 8.5", "how many samples had pH outside 7 to 8": the rows between the limits, below and above them
#' @noRd
within_limits <- function(out) {
  number <- "(-?[0-9]+(?:[.][0-9]+)?)"
  form <- sprintf("(?i)^ *(?:how many [\\p{L}]+ (?:had|have|were|are|show) (?:an? |the )?|(?:what )?(?:share|proportion|percentage) of [\\p{L}]+ (?:with|had|have|having) (?:an? |the )?|(?:are|is|were|was) (?:all )?(?:the )?)(.+?)(?: values?| readings?| levels?)?( (?:in|at|for|of) .+?)? (within|outside)(?: of)?(?: the)?(?: range| limits?)?(?: of| from| between)? %s ?(?:and|to|-|\u2013) ?%s(.*?)[?.! ]*$", number, number)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  col <- numeric_in_text(out$study, hit[2])
  ends <- as.numeric(hit[5:6])
  if (is.null(col) || ends[1] >= ends[2]) return(out)
  values <- understood(out$study, col$name, col$col$table)
  over <- suppressWarnings(min(values[values > ends[2]], na.rm = TRUE))
  if (!is.finite(over)) over <- ends[2] + 1
  name <- paste0(col$name, "_limits")
  said <- format_plain(ends)
  with_derived(out, name, "bands", col$name, trimws(paste0("how many rows by ", name, if (is.na(hit[3])) "" else hit[3], hit[7])), cuts = c(ends[1],
      over),
               labels = c(paste("below", said[1]), sprintf("%s to %s", said[1], said[2]), paste("above", said[2])))
}

#' The turns about values of zero; they stand before others, which would read "zero" as a condition
#' @noRd
turns_of_zeros <- function() list(turn("\\bzeros?\\b|\\b0s\\b|non-?zero|(is|was|are|were|!=|<>|than) (not )?0\\b|\\bno\\b", zeros_left_out))

#' How values other than 0 lie: all above it, or on both sides
#' @section Shape: ">" or "!=", as of [new_filter()].
#' @noRd
beside_zero <- function(study, col) {
  low <- suppressWarnings(min(understood(study, col$name, col$table), na.rm = TRUE))
  if (is.finite(low) && low >= 0) ">" else "!="
}

#' "excluding zero downtime", "without zeros", "where downtime is not zero", "non-zero downtime": rows in which it is not 0
#' @noRd
zeros_left_out <- function(out) {
  lead <- "(?:,? (?:but )?(?:excluding|without|leaving out|ignoring|omitting|removing|dropping|except(?: for)?|not counting|disregarding)|^ *(?:exclude|leave out|ignore|drop|omit)) "  # nolint: line_length_linter.
  rows <- "(?:(?:the|all|any|those|rows?|cases?|days?|\\p{L}+) (?:with |of |that have |where there (?:is|was) )?){0,2}?"
  name <- "((?:[\\p{L}_0-9.]+ ?){1,4})"
  forms <- c(sprintf("(?i)%s%s(?:zeros?|zero values?|0s|values? of (?:zero|0))(?: (?:in|of|for|on) (?:the )?%s)?(?=$|[?.!,]| by | in | for | per )",
      lead, rows, name),
             sprintf("(?i)%s%s(?:no|zero|0) %s", lead, rows, name),
             sprintf("(?i)\\b(?:where|when|if|with|whose|for rows where|given that) (?:the |there (?:is|was) )?%s(?:(?:is|was|are|were) (?:not|n['\u2019]t) (?:equal to )?|(?:is|are|was|were) other than |!= ?|<> ?)(?:zero|0)\\b", name),  # nolint: line_length_linter.
             sprintf("(?i)\\bnon-? ?zero %s", name))
  for (k in seq_along(forms)) {
    hit <- match_groups(out$text, forms[k])
    if (is.na(hit[1])) next
    rest <- sub(hit[1], " ", out$text, fixed = TRUE)
    said <- if (is.na(hit[2])) NULL else numeric_in_text(out$study, hit[2])
    if (!is.na(hit[2]) && (is.null(said) || !startsWith(tolower(hit[2]), tolower(said$said)))) next
    found <- said %||% numeric_in_text(out$study, rest)
    if (is.null(found)) next
    condition <- sprintf(" where %s is %s", found$name, if (beside_zero(out$study, found$col) == ">") "above 0" else "not 0")
    # (the measure itself stays asked about where it stood in the words)
    kept <- if (k == 4) sprintf("%s ", found$name) else " "
    whole <- if (is.na(hit[2])) hit[1] else up_to_words(hit[1], hit[2], said$said)
    text <- gsub(" +", " ", sub(whole, kept, out$text, fixed = TRUE))
    return(reworded(out, paste0(trimws(without_mark(text)), condition), sprintf("Left out the rows in which %s is 0.", found$name)))
  }
  out
}
