# What is known of a row and what is not ("birds with known sex", "no sale price", "left a comment"), the first and the last date,
# parts of a name that say how old or how fast something is, and what is held the same.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_known <- function() list(
  turn("\\b(are|were|is|was) (in|from|at|on)\\b", share_that_are_in), turn("\\bmost\\b.*\\bbetween\\b", moved_most_between),
  turn("s\\b", all_of_set), turn("\\b(started|joined|began)\\b", started_in), turn("[0-9]+ ?(,|and|or|to|-) ?[0-9]", numbered_level_list),
      turn("likely to\\b",
      likely_level_verb),
  turn("\\bknown\\b", known_values), turn("\\b(left|wrote|gave|made|added)\\b", gave_text), turn("\\b(no|without)\\b", none_recorded),
  turn("\\b(first|earliest|last|latest)\\b|\\bdate range\\b|\\bperiod\\b|time ?span", ends_of_date), turn("prevalence", prevalence_of_count),
  turn("\\b(older|newer|oldest|newest|younger)\\b", age_by_year), turn("\\bsame\\b", held_the_same), turn("fastest|quickest|slowest|soonest",
      pace_of),
  turn("square (met|f|y)|\\bsq\\.? ?(m|f|y)|\\bm2\\b|hectare|acre", per_area), turn("\\b(before|after|since) (1[89]|20)[0-9]{2}", year_of_making),
  turn("different|distinct|unique|more than|once|twice", keys_by_noun))

#' "what percentage of women are in Sales": of the women those in Sales, and not the other way round
#' @noRd
share_that_are_in <- function(out) {
  form <- "(?i)^( *(?:what |which )?(?:is the |was the )?(?:percent(?:age)?|share|proportion|fraction) of (?:the |all |our )?[\\p{L}_ -]+? (?:are|were|is|was)) (?:in|from|at|on) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  # (a time or a number is no level)
  if (is.na(hit[1]) || is.null(level_in_text(out$study, hit[3], first = TRUE))) return(out)
  reworded(out, paste(hit[2], hit[3]))
}

#' "which students dropped most between assignment 1 and 4": by the change between the two
#' @noRd
moved_most_between <- function(out) {
  form <- "(?i)^ *(which|what|who) ?([\\p{L}_]+)? (dropped|fell|declined|lost|decreased|improved|rose|gained|increased|grew|progressed)(?: the)? most (?:between|from) (?:the )?([\\p{L}_ ]+?) ?([0-9]+) (?:and|to) (?:\\4 ?)?([0-9]+)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  names <- vapply(numeric_columns(out$study), `[[`, "", "name")
  column <- function(n) names[tolower(gsub("[^[:alnum:]]", "", names)) == tolower(gsub("[^[:alnum:]]", "", paste0(hit[5], n)))]
  ends <- c(column(hit[6]), column(hit[7]))
  if (length(ends) != 2) return(out)
  name <- paste(ends[2], "minus", ends[1], sep = "_")
  down <- grepl("^(dropped|fell|declined|lost|decreased)$", hit[4], ignore.case = TRUE)
  with_derived(out, name, "difference", rev(ends), sprintf("%s 5 rows by %s", if (down) "bottom" else "top", name))
}

#' "predict the exam from the assignments", of columns assignment_1 to assignment_4: all of them
#' @noRd
all_of_set <- function(out) {
  if (!grepl("(?i)\\b(from|predict\\w*|consistent|reliab\\w*|correlat\\w*|alpha|agree|hang together|components?|factors?|average of|mean of|related to each other)\\b", out$text, perl = TRUE)) return(out)  # nolint: line_length_linter.
  for (set in study_sets(out$study, "repeated_measures")) {
    if (length(set$columns) < 3 || !all(grepl("^[0-9]+$", set$times))) next
    form <- sprintf("(?i)\\b(?:the |all |all the |all of the |these |our )(?:(?:[0-9]+|two|three|four|five|six|seven|eight) )?%ss\\b(?! [0-9])",
        set_words(set))
    if (!grepl(form, out$text, perl = TRUE)) next
    text <- sub(form, some_of(set$columns, 30), out$text, perl = TRUE)
    # "are the assignments consistent with each other"
    asked <- sub("(?i)^ *(?:are|is) (.+?) (?:internally )?(?:consistent|reliable)(?: with (?:each other|one another))?[?.! ]*$",
        "reliability of \\1", text, perl = TRUE)
    return(reworded(out, asked, sprintf("Took %s to mean %s.", quoted(paste0("the ", trimws(name_words(set$name)), "s")), some_of(set$columns, 6))))
  }
  out
}

#' "how many people started in 2020", of a date called start_date: that date lies in it
#' @noRd
started_in <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:who |that )?(started|joined|began) (in|on|during|before|after|since|between) ")
  if (is.na(hit[1])) return(out)
  words <- stem_words(c("start", "started", "join", "joined", "joining", "hire", "hired", "begin", "began", "entry"))
  dates <- Filter(function(name) any(name_stems(name) %in% words), date_columns(out$study))
  if (length(dates) != 1 || grepl(dates, out$text, fixed = TRUE)) return(out)
  reworded(out, sub(hit[1], sprintf("%s %s ", dates, hit[3]), out$text, fixed = TRUE), sprintf("Took %s to mean the column %s.",
      quoted(tolower(hit[2])), quoted(dates)))
}

#' "women in bands 5 and 6", "grades 1 to 3", of levels "Band 5" and "Band 6": those levels
#' @noRd
numbered_level_list <- function(out) {
  values <- study_vocabulary(out$study)$values
  hits <- stringi::stri_match_all_regex(out$text,
      "(?i)\\b([\\p{L}]{3,}?)s? ([0-9]{1,3}) ?(,|and|or|to|-|through) ?([0-9]{1,3})(?: ?(?:and|or) ([0-9]{1,3}))?\\b")[[1]]
  for (i in seq_len(nrow(hits))) {
    if (is.na(hits[i, 1])) next
    numbers <- as.integer(stats::na.omit(hits[i, c(3, 5, 6)]))
    if (grepl("^(to|-|through)$", hits[i, 4], ignore.case = TRUE)) numbers <- seq(numbers[1], numbers[2])
    level <- lapply(numbers, function(n) unique(values$level[tolower(values$level) == tolower(paste(hits[i, 2], n))]))
    if (!length(level) || length(level) > 12 || any(lengths(level) != 1)) next
    out <- reworded(out, sub(hits[i, 1], some_of(unlist(level), 12, and = "or"), out$text, fixed = TRUE))
  }
  out
}

#' "less likely to exceed in their appraisal", of a level Exceeds of appraisal: to be that level
#' @noRd
likely_level_verb <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(likely to) ([\\p{L}]+) (?:in|on|at) (?:the |their |its |his |her )([\\p{L}_ ]+?)(?=[?.! ]*$| than\\b)")
  if (is.na(hit[1])) return(out)
  columns <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
  found <- column_in_text(columns, hit[4], named_phrases(out$study))
  if (is.null(found)) return(out)
  levels <- find_column(out$study, found$name)$levels
  own <- levels[vapply(levels, function(level) identical(stem_words(tolower(level)), stem_words(tolower(hit[3]))), NA)]
  if (length(own) != 1) return(out)
  made <- level_column(out, list(column = found$name, level = own))
  if (is.null(made)) return(out)
  out <- made$out
  who <- match_groups(out$text, "(?i)^ *(?:are|is|were|was|do|does|did) (?:the )?(.+?) (?:more|less|as|equally) likely to")
  by <- if (!is.na(who[1])) level_in_text(out$study, who[2])$column
  if (is.null(by)) return(reworded(out, sub(hit[1], paste("likely to be", own), out$text, fixed = TRUE)))
  reworded(out, sprintf("does %s differ by %s", made$name, by), sprintf("Took %s to mean that %s is %s.", quoted(hit[3]), found$name, quoted(own)))
}

#' "birds with known sex": where it is not missing, and no level says that it is unknown
#' @noRd
known_values <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:with|of|having|has|have|whose) (?:an? |the )?known ([\\p{L}_]+(?: [\\p{L}_]+)?)|\\bwhose ([\\p{L}_]+(?: [\\p{L}_]+)?) is known\\b")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  said <- stats::na.omit(hit[-1])[1]
  found <- column_in_text(all_columns(out$study), said, named_phrases(out$study))
  if (is.null(found)) return(out)
  col <- find_column(out$study, found$name)
  unknown <- col$levels[grepl("^(u|uk|unk|unknown.*|not known|undetermined|unsure|not sure|indeterminate|n/?a|\\?|unspecified|not recorded|not stated)$", tolower(trimws(col$levels)))]  # nolint: line_length_linter.
  condition <- if (length(unknown)) sprintf("where %s is not %s", col$name, paste(unknown, collapse = " or ")) else sprintf("where %s is not missing", col$name)  # nolint: line_length_linter.
  reworded(out, sub(up_to_words(hit[1], said, found$said), condition, out$text, fixed = TRUE),
           sprintf("Took %s to mean rows %s.", quoted(trimws(hit[1])), condition))
}

#' "how many left a comment", of a column of texts: rows in which there is one
#' @noRd
gave_text <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(how many|what (?:percent(?:age)?|share|proportion)(?: of)?)(?: (?:the )?[\\p{L}]+)??(?: (?:who|that))? (?:have |had |has )?(left|wrote|gave|made|added) (?:an? |any |some )?([\\p{L}_]+)s?(?: (by|in|for|among) .+)?[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  texts <- Filter(function(col) col$kind == "text" && isTRUE(col$missing > 0), all_columns(out$study))
  found <- column_in_text(texts, hit[4], named_phrases(out$study)) %||% column_of_one_word(texts, hit[4])
  if (is.null(found)) return(out)
  name <- paste0(found$name, "_missing")
  tail <- match_groups(out$text, "(?i) ((?:by|in|for|among) .+?)[?.! ]*$")
  lead <- if (grepl("^how", hit[2], ignore.case = TRUE)) "how many rows with" else "what percentage of rows have"
  out$told <- c(out$told, sprintf("Took %s to mean that %s is not missing.", quoted(paste(hit[3], "a", hit[4])), found$name))
  with_derived(out, name, "missing", found$name, trimws(sprintf("%s %s = no%s", lead, name, if (is.na(tail[1])) "" else paste0(" ", tail[2]))))
}

#' "which properties have no sale price", of amounts that are never zero and sometimes missing: the missing ones
#' @noRd
none_recorded <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:(?:that|which|who) )?(?:have|has|had|with|without)(?: no)? ((?:recorded |known )?[\\p{L}_]+(?: [\\p{L}_]+){0,2})(?=[?.!, ]*$| (?:by|in|for) )")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !grepl("(?i)\\b(no|without)\\b", hit[1], perl = TRUE)) return(out)
  numeric <- Filter(function(col) isTRUE(col$missing > 0), numeric_columns(out$study))
  found <- column_in_text(numeric, sub("(?i)^(recorded|known) ", "", hit[2], perl = TRUE), named_phrases(out$study))
  if (is.null(found)) return(out)
  col <- find_column(out$study, found$name)
  values <- as.numeric(understood(out$study, col$name, col$table))
  if (any(values == 0, na.rm = TRUE)) return(out)
  told <- sprintf("Took %s to mean that %s is missing; it is never 0.", quoted(trimws(hit[1])), col$name)
  if (!grepl("(?i)^ *(?:how many|what)\\b", out$text, perl = TRUE)) return(reworded(out, sub(hit[1], sprintf("with missing %s", col$name), out$text, fixed = TRUE), told))  # nolint: line_length_linter.
  # (a count of them, where a single word is not read so anyway)
  if (!grepl(" ", found$said)) return(out)
  name <- paste0(col$name, "_missing")
  out$told <- c(out$told, told)
  with_derived(out, name, "missing", col$name, sub(hit[1], sprintf("with %s = yes", name), out$text, fixed = TRUE))
}

#' "first and last capture date", "what period does the data cover": the ends of the date
#' @noRd
ends_of_date <- function(out) {
  dates <- date_columns(out$study)
  if (!length(dates)) return(out)
  ends <- "(?i)^ *(?:what (?:is|are|was|were) |when (?:is|are|was|were) |show |give )?(?:the )?(?:first and last|earliest and latest|first|last|earliest|latest|range of|span of) (?:the )?((?:[\\p{L}_]+ ){0,3})(?:dates?|days?|times?)(?: (?:by|for each|in each|per|of each) (?:the )?(.+?))?[?.! ]*$"  # nolint: line_length_linter.
  covers <- "(?i)^ *(?:what|which|over what|for what) (?:time ?)?(?:period|span|range|dates?|time|years?)(?: of time)? (?:does|do|did|is|are) (?:the |this |these )?(?:data|file|study|rows|records|table)(?:set)? (?:cover|span|run over|come from|covered|from)[?.! ]*$|^ *(?:what is |show )?(?:the )?date range(?: of (?:the |this )?(?:data|study))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, ends)
  name <- if (length(dates) == 1) dates else if (!is.na(hit[1])) date_meant(dates, hit[2]) else dates[1]
  if (!is.na(hit[1])) return(reworded(out, paste(c("range of", name, if (!is.na(hit[3])) c("by", hit[3])), collapse = " "),
                                      sprintf("Took %s as the date.", name)))
  if (grepl(covers, out$text, perl = TRUE)) return(reworded(out, sprintf("range of %s", name), sprintf("Took %s as the date of the rows.", name)))
  out
}

#' "prevalence of parasites by site", of a count: the share of rows above none
#' @noRd
prevalence_of_count <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:the )?prevalence of (?:the |any )?([\\p{L}_ ]+?)(?= (?:by|in|among|for|across|between|differ|at|of)\\b|[?.!, ]*$)")  # nolint: line_length_linter.
  counts <- Filter(function(col) col$kind == "count", numeric_columns(out$study))
  found <- if (!is.na(hit[1])) column_in_text(counts, hit[2], named_phrases(out$study))
  if (is.null(found)) return(out)
  col <- find_column(out$study, found$name)
  if (!any(understood(out$study, col$name, col$table) == 0, na.rm = TRUE)) return(out)
  reworded(out, sub(hit[1], sprintf("share of rows with %s above 0", col$name), out$text, fixed = TRUE),
           sprintf("Took prevalence as the share of rows with %s above 0.", col$name))
}

#' The one column that holds the year in which something was made
#' @noRd
making_year <- function(study) {
  verbs <- "built|build|made|construct(?:ed|ion)?|manufactur(?:ed|e)?|founded|established|opened|planted|registered|produced|launched|vintage"
  own <- Filter(function(col) grepl(sprintf("(^|[_. ])year(s)?[_. ](of[_. ])?(%1$s)|(^|[_. ])(%1$s)[_. ](in[_. ])?year", verbs), tolower(col$name)), numeric_columns(study))  # nolint: line_length_linter.
  if (length(own) == 1) own[[1]]
}

#' "are older houses cheaper", beside year_built: those of a lower year
#' @noRd
age_by_year <- function(out) {
  year <- making_year(out$study)
  if (is.null(year) || column_said_by(out$study, "age")) return(out)
  sides <- c(older = "lower", newer = "higher", younger = "higher", oldest = "lowest", newest = "highest")
  text <- out$text
  for (word in names(sides)) {
    # "older houses", "the older the house"
    text <- gsub(sprintf("(?i)\\b%s ([\\p{L}]+s)\\b", word), sprintf("\\1 with %s %s", sides[[word]], year$name), text, perl = TRUE)
  }
  reworded(out, text, sprintf("Older means a lower %s.", year$name))
}

#' "houses built before 1950", of a column year_built, whatever dates the data holds besides
#' @noRd
year_of_making <- function(out) {
  year <- making_year(out$study)
  if (is.null(year)) return(out)
  verb <- setdiff(name_words(year$name) |> strsplit(" "), "year")[[1]]
  verb <- paste(setdiff(verb, c("year", "years", "of", "in")), collapse = "|")
  form <- sprintf("(?i)\\b(?:that were |which were |that was |were )?(?:%s) (before|after|since|from) ([0-9]{4})(?: (?:versus|vs\\.?|and|or|against|than|compared (?:with|to)) (?:those )?(?:(?:%s) )?(?:after|later|before|earlier|since|from then on)(?: (?:then|that|[0-9]{4}))?)?", verb, verb)  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  both <- grepl("(?i)\\b(versus|vs|and|or|against|than|compared)\\b", hit[1], perl = TRUE)
  bound <- switch(tolower(hit[2]), before = "under", after = "over", "at least")
  reworded(out, sub(hit[1], sprintf("with %s %s %s%s", year$name, bound, hit[3], if (both) " versus the rest" else ""), out$text, fixed = TRUE))
}

#' "how much more does a house with a garden cost, same floor area and district": what is the same is held constant
#' @noRd
held_the_same <- function(out) {
  hit <- match_groups(out$text, "(?i)(?:, ?| (?:with|at|for|given) )(?:the )?same ([\\p{L}_ ]+?(?:,? (?:and|or) (?:the )?(?:same )?[\\p{L}_ ]+?)?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || grepl("(?i)\\b(is|are|was|were) (?:it |they )?(?:the )?same\\b", out$text, perl = TRUE)) return(out)
  parts <- strsplit(hit[2], "(?i),? (?:and|or) (?:the )?(?:same )?", perl = TRUE)[[1]]
  phrases <- named_phrases(out$study)
  held <- Filter(function(col) col$kind != "id", all_columns(out$study))
  found <- lapply(parts, function(part) column_in_text(held, part, phrases))
  if (!length(found) || any(vapply(found, is.null, NA))) return(out)
  held <- vapply(found, `[[`, "", "name")
  rest <- sub(hit[1], "", out$text, fixed = TRUE)
  # "how much more does a house with a garden cost"
  more <- match_groups(rest, "(?i)^ *how much (?:more|less) (?:do|does|did|is|are) (?:an? |the )?[\\p{L}]+ with (?:an? |the )?([\\p{L}_ ]+?) (cost|sell for|earn|weigh|pay|make|worth|score|take|use)\\b")  # nolint: line_length_linter.
  yes_no <- Filter(function(col) col$kind == "yes_no", all_columns(out$study))
  cause <- if (!is.na(more[1])) column_in_text(yes_no, more[2], phrases)
  if (!is.null(cause)) rest <- sprintf("effect of %s on %s", cause$name, more[3])
  reworded(out, sprintf("%s, adjusting for %s", trimws(rest), some_of(held, 8)))
}

#' "which type sells fastest", beside days_on_market: the shortest of the one duration
#' @noRd
pace_of <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(which|what|who) ([\\p{L}_]+(?: [\\p{L}_]+)?) ([\\p{L}]+s|[\\p{L}]+ed) (?:the )?(fastest|quickest|soonest|slowest)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  timed <- Filter(function(col) isTRUE(col$unit %in% units_like("days")) || grepl("^(days|hours|minutes|weeks|months)_|_(days|hours|minutes|weeks|months|time|duration)$",  # nolint: line_length_linter.
                                                                                 tolower(col$name)), numeric_columns(out$study))
  if (length(timed) != 1) return(out)
  side <- if (tolower(hit[5]) == "slowest") "highest" else "lowest"
  reworded(out, sprintf("%s %s has the %s mean %s", hit[2], hit[3], side, timed[[1]]$name),
           sprintf("Took %s to mean the %s mean of %s.", quoted(paste(hit[4], hit[5])), side, timed[[1]]$name))
}

#' "price per square metre", of a column that is counted in it: per that column
#' @noRd
per_area <- function(out) {
  units <- list(m2 = "(?:square met(?:re|er)s?|sq\\.? ?m(?:et(?:re|er)s?)?|sqm|m2|m\u00b2)", ft2 = "(?:square f(?:oo|ee)t|sq\\.? ?f(?:t|eet|oot))",
                ha = "(?:hectares?|ha)", acre = "acres?")
  for (unit in names(units)) {
    form <- sprintf("(?i)\\b(per|for each|a) %s(?![\\p{L}_])", units[[unit]])
    if (!grepl(form, out$text, perl = TRUE)) next
    own <- Filter(function(col) identical(col$unit, unit) || grepl(sprintf("[_. ](%s|sqm|sq_m|sqft|sq_ft|acres?|hectares?)$", unit),
        tolower(col$name)),
                  numeric_columns(out$study))
    # (a column that is itself told per area is not divided once more)
    own <- Filter(function(col) !grepl("[_. ]per[_. ]|/", col$name), own)
    if (length(own) == 1 && !grepl(own[[1]]$name, out$text, fixed = TRUE)) {
      return(reworded(out, sub(form, sprintf("per %s", own[[1]]$name), out$text, perl = TRUE)))
    }
  }
  out
}

#' "how many different birds at each site", "birds caught more than once", where a key that comes back tells them apart: by that key
#' @noRd
keys_by_noun <- function(out) {
  keys <- keys_of(out$study, single = FALSE)
  if (length(keys) != 1) return(out)
  key <- keys[[1]]
  nouns <- function(word) {
    word <- tolower(word)
    stem <- stem_words(word)
    if (stem %in% key_stems(key$name) || column_said_by(out$study, word)) return(FALSE)
    stem %in% c(name_stems(key$table)) || word %in% plural_people() || names_rows(study_vocabulary(out$study), word)
  }
  forms <- c("(?i)\\b(?:different|distinct|unique|individual) ([\\p{L}]+s|people|fish|sheep)\\b",
             "(?i)^ *how many (?:of the )?([\\p{L}]+s|people|fish|sheep) (?:who |that )?(?:were |was |have been |had been |came |have |had )?(?:[\\p{L}]+ )??(?:more than (?:once|twice|[0-9]+ times)|(?:at least )?twice|at least [0-9]+ times)")  # nolint: line_length_linter.
  hit <- match_groups(out$text, forms[1])
  if (!is.na(hit[1]) && nouns(hit[2])) {
    return(reworded(out, sub(hit[1], paste("different", key$name), out$text, fixed = TRUE), sprintf("The %s are told apart by %s.", tolower(hit[2]),
        key$name)))
  }
  hit <- match_groups(out$text, forms[2])
  if (is.na(hit[1]) || !nouns(hit[2])) return(out)
  times <- match_groups(hit[1], "(?i)(more than once|more than twice|at least twice|twice|(?:more than|at least) [0-9]+ times)$")[2]
  n <- stringi::stri_extract_first_regex(times, "[0-9]+")
  bound <- if (!is.na(n)) paste(sub(" [0-9].*$", "", times), n) else if (grepl("once", times)) "more than 1" else if (grepl("more than twice", times)) "more than 2" else "at least 2"  # nolint: line_length_linter.
  reworded(out, sub(hit[1], sprintf("how many different %s have %s rows", key$name, bound), out$text, fixed = TRUE),
           sprintf("The %s are told apart by %s.", tolower(hit[2]), key$name))
}
