# Columns that a question speaks of and the data holds only in parts: a change from before to after, weekends, two years set
# against each other. They are derived by the same recorded rules as those of an amendment, for this answer and what follows from it.

#' The study with the columns that a question needs, and the question in their terms
#' @section Shape: list(study, text).
#' @noRd
derive_for_question <- function(study, text) {
  out <- list(study = study, text = text)
  # in a partial correlation what is given is held constant
  if (grepl("\\bpartial(ly)?\\b", text, ignore.case = TRUE, perl = TRUE)) text <- gsub("\\bgiven\\b", "controlling for", text, ignore.case = TRUE)
  # ("headcount over time", beside a column of overtime)
  if (grepl("\\bover time\\b", text, ignore.case = TRUE) && column_said_by(study, "overtime")) {
    text <- gsub("(?i)\\bover time\\b", if (length(date_columns(study))) "over the months" else "across periods", text, perl = TRUE)
  }
  text <- days_first(text)
  text <- both_sides_of_bound(joined_levels_said(study, bounds_in_digits(compounds_in_digits(level_of_possessive(text, study), study))))
  stepped <- step_of_ratio(out, text)
  out <- stepped; text <- stepped$text
  # "per 100 calls"
  scale <- if (!grepl("\\b(per|each|every) ([0-9]|hundred|thousand|million)", text, ignore.case = TRUE, perl = TRUE)) NA
    else match_groups(text, "(?i)\\b(per|for (?:each|every)) ([0-9]{1,3}(?:,?000)*|thousand|hundred|million)\\s+(?=\\p{L})")
  if (!is.na(scale[1])) {
    words <- c(hundred = 100, thousand = 1000, million = 1e6)
    out$rate_per <- if (tolower(scale[3]) %in% names(words)) words[[tolower(scale[3])]] else as.numeric(gsub(",", "", scale[3]))
    text <- sub(scale[1], "per ", text, fixed = TRUE)
  }
  text <- gsub("\\bfollow(s|ed|ing)? (a |an |the )?(?=(roughly |approximately )?(normal|gaussian|bell))", "have a ", text,
               ignore.case = TRUE, perl = TRUE)
  text <- risk_as_share(study, missing_said(study, text))
  text <- name_exposure(study, gsub("\\b(by|with|using|via|through) (full )?maximum likelihood( estimation)?\\b", "\\1 ML", text, ignore.case = TRUE))
  if (grepl("ratio", text, ignore.case = TRUE,
      perl = TRUE)) text <- gsub("(?i)\\bratios? of (?:the )?([\\p{L}_. ]{2,40}?) to (?:the )?([\\p{L}_.]{2,40})",
      "\\1 per \\2", text, perl = TRUE)
  # "the brix/acidity ratio"
  if (grepl("ratio", text, ignore.case = TRUE)) {
    text <- gsub("(?i)(?<![\\p{L}_.])(?:the )?([\\p{L}_.]{2,30}) ?/ ?([\\p{L}_.]{2,30}) ratios?\\b", "\\1 per \\2", text, perl = TRUE)
  }
  # "in the 1950s"
  text <- gsub("(?i)\\b(in|during|for|of) the (1[89]|20)([0-9])0s\\b", "from \\2\\30 to \\2\\39", text, perl = TRUE)
  out$text <- text
  out <- derive_all(out, list(derive_stated_bands))
  out$text <- open_ranges(out$text, vapply(all_columns(study), `[[`, "", "name"))
  out <- open_columns_between(out)
  out <- groups_beyond(out)
  out <- plain_turns(out)
  out$text <- open_lists(out$text, vapply(all_columns(study), `[[`, "", "name"))
  out$text <- occasions_said(study, column_of_year(study, out$text))
  out <- extreme_condition(open_counted(out))
  out <- name_only_series(out)
  out <- name_deaths(out)
  steps <- list(occasions_of_sets, numbers_before_names, events_per, days_between, rows_of_ids, derive_two_periods, derive_answers, derive_missing,
      derive_age_group,
      derive_bmi_group, derive_round_bands,
      derive_quantiles, derive_plus,
      derive_minus, derive_halves, derive_before_after,
      derive_month_of_year,
      derive_weekend,
      derive_unit, derive_weekday, derive_season, derive_years, derive_months, percent_of_change, savings_said, derive_change,
                derive_log)
  derive_all(out, steps)
}

#' "are Ada's sales higher than Bo's", where Ada and Bo are levels: without the mark of the possessive
#' @noRd
level_of_possessive <- function(text, study) {
  if (!grepl("['\u2019]s\\b", text, perl = TRUE)) return(text)
  said <- unique(stringi::stri_match_all_regex(text, "([\\p{L}]+)['\u2019]s\\b")[[1]][, 2])
  levels <- tolower(study_vocabulary(study)$values$level)
  for (word in said[tolower(said) %in% levels]) text <- gsub(sprintf("\\b%s['\u2019]s\\b", word), word, text, perl = TRUE)
  text
}

#' "how many did not report their height": of a measured column what was not told is missing
#' @noRd
missing_said <- function(study, text) {
  if (!grepl("\\b(not|never)\\b|n['\u2019]t\\b", text, ignore.case = TRUE, perl = TRUE)) return(text)
  form <- "(?i)\\b(?:did|do|does|have|has|had) ?(?:not|n't|n\u2019t|never) (?:give|given|report|reported|state|stated|answer|answered|provide|provided|disclose|disclosed|tell|told|record|recorded)(?: us| me)?(?: (?:their|his|her|its|a|an|any|the))? (?=\\p{L})"  # nolint: line_length_linter.
  hit <- stringi::stri_extract_first_regex(text, form)
  if (is.na(hit)) return(text)
  parts <- strsplit(sub(hit, "\u0001", text, fixed = TRUE), "\u0001", fixed = TRUE)[[1]]
  tail <- sub("(?i)^(?:questions?|items?) (?:on|about|regarding|of) (?:the )?", "", parts[2], perl = TRUE)
  asked <- tail != parts[2]
  # (an answer of a survey is told or is missing, whatever its kind)
  kinds <- c("number", "count", "date", "datetime", if (asked || grepl("answer", hit)) c("ordered", "category", "yes_no"))
  found <- column_in_text(Filter(function(col) col$kind %in% kinds, all_columns(study)), tail, named_phrases(study)) %||% labelled(study, kinds, tail)
  if (is.null(found) || !startsWith(tolower(tail), tolower(found$said))) return(text)
  paste0(parts[1], "have missing ", tail)
}

#' The one column whose label holds all the words of a text's end ("reading room" of "Satisfaction with the reading room")
#' @section Shape: list(name, said), or NULL.
#' @noRd
labelled <- function(study, kinds, tail) {
  said <- without_mark(tail)
  sought <- setdiff(stems_of(said)[[1]], stem_words(english$stop))
  if (!length(sought) || length(sought) > 5) return(NULL)
  own <- Filter(function(col) col$kind %in% kinds && all(sought %in% stems_of(col$label %||% "")[[1]]), all_columns(study))
  if (length(own) == 1) list(name = own[[1]]$name, said = said)
}

#' "the risk of severe side effects by diet" is a share, where the data holds what is risked
#' @noRd
risk_as_share <- function(study, text) {
  form <- "(?i)^(?:what is |what's )?(?:the )?(?:risk|chance|probability|likelihood) of (.+?) (?=(?:by|in each|per|for each|across) )"
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(text)
  vocabulary <- study_vocabulary(study)
  level <- vocabulary$columns$kind %in% c("yes_no", "category", "ordered")
  known <- c(unlist(strsplit(vocabulary$values$phrase, " ")), vocabulary$terms$stem[level[vocabulary$terms$column]])
  if (any(stems_of(hit[2])[[1]] %in% known)) sub(hit[1], paste("share with", hit[2], ""), text, fixed = TRUE) else text
}

#' "falls per day" where a column holds the days that each row was watched: the column itself
#'
#' Only a name that says so counts ("days", "patient_days", "follow_up_hours"): "orders per day" is not about delivery_days.
#' @noRd
name_exposure <- function(study, text) {
  hit <- match_groups(text, "(?i)\\b(per|for each|for every) (day|night|week|month|year|hour|minute)s?\\b(?! of\\b)")
  if (is.na(hit[1])) return(text)
  # ("joined per month": rows by a date of that name)
  dated <- unlist(lapply(date_columns(study), function(name) name_stems(name)))
  if (any(stem_words(tolower(stringi::stri_extract_all_words(text)[[1]])) %in% setdiff(dated, stem_words(c("date", "day", "time", "month", "week",
    "year"))))) return(text)
  unit <- tolower(hit[3])
  # ("price per night", which is itself the name of a column)
  per <- vapply(all_columns(study), function(col) all(stem_words(c("per", unit)) %in% called_stems(col)), NA)
  if (any(per)) return(text)
  watched <- paste0("person|patient|bed|child|resident|device|catheter|ventilator|machine|staff|man|woman|animal|plant|trap|",
                    "exposure|follow(ed)?(_?up)?|fu|observ(ed|ation)?|at_risk|risk|open|worked|operat(ed|ing)|running|flying|driving|",
                    "duty|service|use|active")
  form <- sprintf("^((%1$s)[_. ]?)?%2$ss([_. ]?(of|in|on|at)?[_. ]?(%1$s))?$", watched, unit)
  own <- Filter(function(col) is_numeric_kind(col$kind) && grepl(form, gsub("[^a-z]+", "_", tolower(col$name))), all_columns(study))
  if (length(own) != 1) return(text)
  # "per day" itself is a phrase of time, which a word between the two breaks up
  sub(hit[1], paste("per single", own[[1]]$name), text, fixed = TRUE)
}

#' Take the steps that may derive a column; the vocabulary is built anew where one did
#' @noRd
derive_all <- function(out, steps) {
  study <- out$study
  for (step in steps) out <- step(out)
  if (!identical(out$study, study)) out$study$vocabulary <- build_vocabulary(out$study)
  out
}

#' "exercise plus coaching", "sales and marketing" of levels written with a sign: as the data write them
#' @noRd
joined_levels_said <- function(study, text) {
  every <- lapply(all_columns(study), function(col) if (is_level_kind(col$kind)) as.character(col$levels))
  every <- unique(unlist(every))
  for (level in grep("^[^+&/]+ ?[+&] ?[^+&/]+$", every, value = TRUE)) {
    parts <- trimws(strsplit(level, "[+&]")[[1]])
    form <- sprintf("(?i)\\b%s (?:plus|and|\\+|&|with|together with) %s(?!\\p{L})", as_literal(parts[1]), as_literal(parts[2]))
    # (two levels of their own are two groups: "beer and wine" beside "beer + wine")
    apart <- all(tolower(parts) %in% tolower(every))
    if (!apart || grepl("(?i)\\bplus\\b|[+&]", text, perl = TRUE)) text <- gsub(form, level, text, perl = TRUE)
  }
  text
}

#' "over 60 and under 60", "under 50 than over 50": one bound, both its sides
#' @noRd
both_sides_of_bound <- function(text) {
  over <- "(?:over|above|older than|more than|at least)"; under <- "(?:under|below|younger than|less than|fewer than)"
  joined <- "(?:and|or|vs\\.?|versus|than|with|against|compared (?:to|with)) (?:in )?(?:those |people |patients |ones )?"
  form <- function(one, other) sprintf("(?i)\\b(%s ([0-9.]+)) %s%s \\2\\b", one, joined, other)
  text <- gsub(form(over, under), "\\1 versus the rest", text, perl = TRUE)
  text <- gsub(form(under, over), "\\1 versus the rest", text, perl = TRUE)
  # "taller than 190 cm vs shorter": the bound once, the other side by its word
  unit <- "(?: ?(?:cm|mm|m|km|kg|g|lb|min|minutes?|hours?|days?|weeks?|months?|years?|%%)(?: old)?)?"
  short <- sprintf(paste0("(?i)\\b((?:%s|%s|[a-z]{3,}er than) ([0-9.]+)", unit, ") (?:vs\\.?|versus|against|compared (?:to|with)|and) ",
                          "(?:the |those )?(?!under|over|other|than\\b)[a-z]{3,}er(?: ones| people| rows)?\\b(?! than)"), over, under)
  text <- gsub(short, "\\1 versus the rest", text, perl = TRUE)
  # "with 3 or more comorbidities compared with fewer"
  fewer <- paste0("(?i)\\b((?:(?:at least|at most|more than|fewer than|less than|over|under|above|below) [0-9.]+|[0-9.]+ or (?:more|fewer|less|older|younger))\\b.{0,40}?) ",  # nolint: line_length_linter.
                  "(?:vs\\.?|versus|against|than|compared (?:to|with)|and|or) (?:those |people |patients |ones |rows )?(?:with |who have |that have )?(?:fewer|less|more)(?= *[?.!]*$| (?:by|in|for) )")  # nolint: line_length_linter.
  gsub(fewer, "\\1 versus the rest", text, perl = TRUE)
}

#' "is there a trend?", "forecast the next 12 months", "which year was best?", of data that holds one measure by dates: that measure
#'
#' Where every row has a date of its own, counting rows would tell nothing.
#' @noRd
name_only_series <- function(out) {
  cue <- paste0("\\b(trends?|forecast|predict|project|seasonal\\w*|moving average|rolling|over time|growth|grow|grew|grown|busiest|quietest|best|worst|highest|lowest|",  # nolint: line_length_linter.
                "(per ?cent|percentage) change|rise|rose|fall|fell|increase|decrease|develop\\w*|change points?|",
                "(per|by|each) (month|year|quarter|week|day))\\b")
  if (!grepl(cue, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  columns <- all_columns(out$study)
  date <- Filter(function(col) col$kind %in% c("date", "datetime"), columns)
  measured <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role), columns)
  if (length(date) != 1 || length(measured) != 1 || date[[1]]$distinct != nrow(out$study$tables[[date[[1]]$table]]$data)) return(out)
  if (any(vapply(columns, function(col) col$kind %in% c("category", "yes_no", "ordered"), NA))) return(out)
  if (any(telling_stems(measured[[1]]$name) %in% tokenise(out$text)$stem)) return(out)
  if (grepl("\\b(rows?|observations?|missing|quality|records?)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  out$text <- paste(without_mark(out$text), "of", measured[[1]]$name)
  out$told <- sprintf("Took %s, the only column that measures something.", measured[[1]]$name)
  out
}

#' "are missing followups related to method": whether each row misses the value, as a column of its own
#' @noRd
derive_missing <- function(out) {
  divided <- missing_divided(out)
  if (!is.null(divided)) return(divided)
  form <- "(?i)\\b(?:missing(?: values?(?: (?:of|in|for))?(?: the)?)?|missingness (?:of|in)(?: the)?|no)\\s+([\\p{L}_0-9.]+(?: [\\p{L}_0-9.]+)?)"
  asked <- "\\b(relat\\w*|depend\\w*|associat\\w*|differ\\w*|more (common|often|likely|frequent)|at random|predict\\w*|by|between|among)\\b"
  if (!grepl("\\bmissing", out$text, ignore.case = TRUE, perl = TRUE) || !grepl(asked, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  if (grepl("\\b(where|which|how many|columns?|pattern|variables?)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  words <- strsplit(hit[2], " ")[[1]]
  found <- column_of_words(all_columns(out$study), words)
  if (is.null(found)) return(out)
  name <- paste0(found$name, "_missing")
  said <- sub(paste0("\\s*", paste(words[-seq_len(found$words)], collapse = " "), "$"), "", hit[1])
  with_derived(out, name, "missing", found$name, sub(said, name, out$text, fixed = TRUE))
}

#' "missing ozone values by month", "how many ozone values are missing in each month": the share of rows that miss it, in the groups
#' @section Shape: As the argument, or NULL where the question asks no such thing.
#' @noRd
missing_divided <- function(out) {
  if (!grepl("\\bmissing\\b", out$text, ignore.case = TRUE)) return(NULL)
  what <- "((?!values?\\b)[\\p{L}_0-9.]+(?: (?!values?\\b|in\\b|by\\b|per\\b|for\\b|are\\b|is\\b)[\\p{L}_0-9.]+)?)"
  things <- "(?: (?:values?|entries|answers?|measurements?|observations?|data))?"
  lead <- "^ *(?:(?:what (?:is|are) )?(?:the )?(?:how many|number of|count of|share of|proportion of|percentage of|percent of|show|list|give)? ?(?:the )?)"  # nolint: line_length_linter.
  by <- " (?:by|per|in each|for each|for every|in every|within each|across(?: the)?) (.+?)[?.! ]*$"
  forms <- c(sprintf("(?i)%smissing (?:values? (?:of|in|for) )?(?:the )?%s%s%s", lead, what, things, by),
             sprintf("(?i)%s%s%s (?:are|is|were|was) missing%s", lead, what, things, by))
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    words <- strsplit(hit[2], " ")[[1]]
    found <- column_of_words(all_columns(out$study), words)
    if (is.null(found) || found$words < length(words)) next
    name <- paste0(found$name, "_missing")
    return(with_derived(out, name, "missing", found$name, sprintf("share of rows with %s = yes by %s", name, hit[3])))
  }
  often <- sprintf("(?i)^ *(?:is|are|was|were) %s%s (?:missing )?(?:more often missing|missing more often|more likely (?:to be )?missing) (?:in|for|among|at|on|with) (?:some|certain|particular|one of the|any of the|the)? ?(.+?)(?: than .+?)?[?.! ]*$",  # nolint: line_length_linter.
                   what, things)
  hit <- match_groups(out$text, often)
  found <- if (!is.na(hit[1])) column_of_words(all_columns(out$study), strsplit(sub("(?i)^the ", "", hit[2], perl = TRUE), " ")[[1]])
  if (is.null(found)) return(NULL)
  # ("for delivery": the groups of its column)
  level <- part_level(hit[3], out$study)
  if (!is.null(level)) {
    name <- paste0(found$name, "_missing")
    return(with_derived(out, name, "missing", found$name, sprintf("share of rows with %s = yes by %s", name, level$column)))
  }
  name <- paste0(found$name, "_missing")
  with_derived(out, name, "missing", found$name, sprintf("does the share with %s = yes differ by %s", name, hit[3]))
}

#' The one column whose name holds the words: as many of the first of them as name a single one
#' @param words Words of the question in their order, of which only the first may belong to the name.
#' @section Shape: list(name, words = how many of them name it), or NULL.
#' @noRd
column_of_words <- function(columns, words, names = vapply(columns, `[[`, "", "name"), stems = lapply(names, name_stems)) {
  pieces <- strsplit(tolower(words), "[_.]")
  sought <- stem_words(unlist(pieces))
  held <- cumsum(lengths(pieces))
  for (n in rev(seq_along(words))) {
    # (a name as it is written, letters and digits together: "no2")
    whole <- if (n == 1) which(tolower(names) == tolower(words[1]))
    if (length(whole) == 1) return(list(name = names[whole], words = 1L))
    own <- sought[seq_len(held[n])]
    fits <- which(vapply(stems, function(held) all(own %in% held), NA))
    if (length(fits) == 1) return(list(name = names[fits], words = n))
  }
}

#' "churn by age group", of data that holds ages but no bands of them: bands of ten years, or of twenty where those are too many
#' @noRd
derive_age_group <- function(out) {
  form <- "(?i)\\bage[- ]?(groups?|bands?|brackets?|class(es)?|categor(y|ies))\\b"
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  columns <- all_columns(out$study)
  own <- Filter(function(col) "age" %in% name_stems(col$name), columns)
  numeric <- Filter(function(col) is_numeric_kind(col$kind), own)
  if (length(numeric) != 1 || length(own) != 1) return(out)
  values <- understood(out$study, numeric[[1]]$name, numeric[[1]]$table)
  range <- suppressWarnings(range(values, na.rm = TRUE))
  if (!all(is.finite(range)) || range[1] < 0 || range[2] > 125 || diff(range) < 10) return(out)
  # the outer bands take in what little lies beyond the fifth and ninety-fifth hundredth
  middle <- stats::quantile(values, c(0.05, 0.95), na.rm = TRUE, names = FALSE)
  width <- if (diff(middle) <= 55) 10 else 20
  cuts <- seq(ceiling(middle[1] / width) * width, floor(middle[2] / width) * width, by = width)
  cuts <- cuts[cuts > range[1] & cuts <= range[2]]
  if (!length(cuts)) return(out)
  with_derived(out, "age_group", "bands", numeric[[1]]$name, gsub(form, "age_group", out$text, perl = TRUE), cuts = cuts)
}

#' "bmi categories": the bands of the World Health Organization, where the data holds none
#' @noRd
derive_bmi_group <- function(out) {
  form <- "(?i)\\bbmi[- ]?(groups?|bands?|categor(y|ies)|class(es)?)\\b"
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  own <- Filter(function(col) "bmi" %in% name_stems(col$name), all_columns(out$study))
  if (length(own) != 1 || !is_numeric_kind(own[[1]]$kind)) return(out)
  with_derived(out, "bmi_group", "bands", own[[1]]$name, gsub(form, "bmi_group", out$text, perl = TRUE), cuts = c(18.5, 25, 30))
}

#' "mortality by ward", of data in which a level says who died
#' @noRd
name_deaths <- function(out) {
  form <- "(?i)\\b(mortality|death|fatality)( rates?)?\\b(?= *([?.!]*$|by\\b|in\\b|per\\b|at\\b|among\\b|for\\b|of\\b))"
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  columns <- all_columns(out$study)
  if (any(vapply(columns, function(col) grepl("mortal|death|died|dead|fatal|surviv", tolower(col$name)), NA))) return(out)
  at <- Filter(function(col) length(col$levels) >= 2 && sum(tolower(col$levels) %in% c("died", "dead", "deceased", "death")) == 1, columns)
  if (length(at) != 1) return(out)
  level <- at[[1]]$levels[tolower(at[[1]]$levels) %in% c("died", "dead", "deceased", "death")]
  out$text <- sub(form, sprintf("share with %s %s", at[[1]]$name, level), out$text, perl = TRUE)
  out$told <- sprintf("Took the deaths to be the rows where %s is %s.", at[[1]]$name, level)
  out
}

#' "income quintiles by area", "internet by income quintile": the bands behind the name of their column
#' @section Shape: As the argument, or NULL.
#' @noRd
quantiles_named <- function(out, parts) {
  word <- "(tertile|quartile|quintile|decile)"
  hit <- match_groups(out$text, sprintf("(?i)((?:[\\p{L}_0-9.]+ ){1,3})%s(s?)\\b(?! of\\b)", word))
  if (is.na(hit[1])) return(NULL)
  words <- strsplit(trimws(hit[2]), " ")[[1]]
  # the words next to it are the name, as many as make one
  for (n in seq_along(words)) {
    said <- paste(utils::tail(words, n), collapse = " ")
    found <- measure_said(out$study, said)
    if (!is.null(found) && tolower(found$said) == tolower(said)) break
    found <- NULL
  }
  said <- if (!is.null(found)) paste0(found$said, " ", hit[3], hit[4])
  if (is.null(found) || !grepl(said, out$text, fixed = TRUE)) return(NULL)
  name <- paste(found$name, tolower(hit[3]), sep = "_")
  with_derived(out, name, "bands", found$name, sub(said, name, out$text, fixed = TRUE), groups = parts[[tolower(hit[3])]])
}

#' "value by quartile of crime": bands of about equal size
#' @noRd
derive_quantiles <- function(out) {
  parts <- c(half = 2, tertile = 3, third = 3, quartile = 4, quarter = 4, quintile = 5, decile = 10)
  form <- sprintf(paste0("(?i)\\b(?:by|per|across|between|for each|in each) (?:the )?(%s)s? of (?:the )?",
                         "([\\p{L}_0-9.]+)(?: ([\\p{L}_0-9.]+))?"), sub("half", "hal(?:f|ve)", paste(names(parts), collapse = "|"), fixed = TRUE))
  # ("income quintiles by area", "internet by income quintile")
  named <- quantiles_named(out, parts)
  if (!is.null(named)) return(named)
  if (!grepl("(half|halve|tertile|third|quartile|quarter|quintile|decile)s? of", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  words <- hit[3:4][!is.na(hit[3:4])]
  found <- column_of_words(numeric_columns(out$study), words)
  if (is.null(found)) return(out)
  name <- paste(found$name, tolower(hit[2]), sep = "_")
  said <- trimws(sub(paste0(" ", paste(words[-seq_len(found$words)], collapse = " "), "$"), "", hit[1]))
  with_derived(out, name, "bands", found$name, sub(said, paste("by", name), out$text, fixed = TRUE), groups = parts[[sub("halve", "half",
    tolower(hit[2]), fixed = TRUE)]])
}

#' "goals plus assists by team": the sum of two columns
#' @noRd
derive_plus <- function(out) {
  if (!grepl(" (plus|\\+) ", out$text, ignore.case = TRUE, perl = TRUE) || grepl("~|\\b(regress|model|predict|explain|fit)", out$text,
      ignore.case = TRUE, perl = TRUE)) return(out)
  hit <- match_groups(out$text, "(?i)\\b([\\p{L}_.]+) (?:plus|\\+) ([\\p{L}_.]+)\\b")
  if (is.na(hit[1])) return(out)
  named <- function(word) Filter(function(col) is_numeric_kind(col$kind) && setequal(stem_words(tolower(word)),
      name_stems(col$name)),
                                 all_columns(out$study))
  a <- named(hit[2]); b <- named(hit[3])
  if (length(a) != 1 || length(b) != 1) return(out)
  derive_of_two(out, hit[1], a[[1]]$name, b[[1]]$name, "sum", "plus")
}

#' Two columns as one, named after both
#' @param said The words of the question that name it.
#' @noRd
derive_of_two <- function(out, said, a, b, rule, word) {
  if (is.null(a) || is.null(b) || a == b) return(out)
  name <- paste(a, word, b, sep = "_")
  with_derived(out, name, rule, c(a, b), sub(said, name, out$text, fixed = TRUE))
}

#' "total handling hours", of a column in minutes: in that unit
#' @noRd
unit_after_measure <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:total|average|mean|median|sum of) (?:the )?((?:[\\p{L}_]+ ){1,2})(seconds|minutes|hours|days|weeks)\\b(?! of\\b)")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out$text)
  said <- trimws(hit[2])
  measured <- Filter(function(col) is_numeric_kind(col$kind) && isTRUE(col$unit %in% names(unit_sizes()$time)), all_columns(out$study))
  found <- column_in_text(measured, said, named_phrases(out$study, measured)) %||% column_in_text(measured, said, kin_phrases(out$study, said))
  # (a column that is called after that unit is the one meant)
  if (is.null(found) || stem_words(tolower(hit[3])) %in% name_stems(found$name)) return(out$text)
  sub(hit[1], sub(hit[2], paste0(found$name, " in "), hit[1], fixed = TRUE), out$text, fixed = TRUE)
}

#' "time on site in minutes", of a column in seconds: the column in the unit asked for
#' @noRd
derive_unit <- function(out) {
  out$text <- unit_after_measure(out)
  spelled <- c("seconds", "minutes", "hours", "days", "weeks", "months", "years", "grams", "kilograms", "kilos", "pounds", "ounces", "metres",
    "meters", "miles", "centimetres", "centimeters", "millimetres", "millimeters", "feet", "inches", "litres", "liters", "tonnes", "tons")
  words <- c(unit_words()[spelled], kilometres = "km", kilometers = "km", km = "km", kg = "kg", cm = "cm", mm = "mm", ml = "ml")
  # "how many hours of downtime (in total)"
  out$text <- sub(sprintf("(?i)^ *how many (%s) of (?:the )?(.+?)(?: in total| altogether| overall| were there| was there| did we have)*(?= (?:by|per|in|on|for|at|were|was|did) |[?.! ]*$)",  # nolint: line_length_linter.
                          paste(names(words), collapse = "|")), "total \\2 in \\1", out$text, perl = TRUE)
  form <- sprintf("(?i)\\s*\\b(?:measured |expressed |given )?in (%s)\\b(?! [0-9])", paste(names(words), collapse = "|"))
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  unit <- words[[tolower(hit[2])]]
  sizes <- Find(function(s) unit %in% names(s), unit_sizes())
  measured <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role) && isTRUE(col$unit %in% names(sizes)), all_columns(out$study))
  text <- sub(form, "", out$text, perl = TRUE)
  found <- column_in_text(measured, text, named_phrases(out$study, measured)) %||% column_of_one_word(measured, text)
  if (is.null(found)) return(out)
  col <- found$col
  if (sizes[[col$unit]] == sizes[[unit]]) { out$text <- text; return(out) }
  name <- paste(strip_tail(col$name), gsub("[^a-z]", "", tolower(hit[2])), sep = "_")
  with_derived(out, name, "converted", col$name, sub(found$said, name, text, fixed = TRUE),
      label = tolower(gsub("_", " ", strip_tail(found$said), fixed = TRUE)), unit = unit,
    factor = sizes[[col$unit]] / sizes[[unit]])
}

#' "wait", or WaitSecs itself: the one column of which a word of the text is the name, or all of it but the unit
#' @section Shape: as of [column_in_text()], or NULL.
#' @noRd
column_of_one_word <- function(columns, text) {
  bare <- lapply(columns, function(col) name_stems(strip_tail(col$name)))
  said <- stringi::stri_extract_all_words(text)[[1]]
  names <- tolower(vapply(columns, `[[`, "", "name"))
  fits <- lapply(tolower(said), function(word) which(names == word | vapply(bare, identical, NA, stem_words(word))))
  at <- which(lengths(fits) == 1)
  if (length(at) != 1) return(NULL)
  col <- columns[[fits[[at]]]]
  list(name = col$name, said = said[at], col = col)
}

#' The stems of a column's name and label
#' @noRd
called_stems <- function(col) stems_of(paste(name_words(col$name), col$label %||% ""))[[1]]

#' Phrases that stand for columns, as [column_in_text()] takes them
#' @param columns Records of the columns whose phrases are wanted, NULL for all.
#' @noRd
named_phrases <- function(study, columns = NULL) {
  vocabulary <- study_vocabulary(study)
  out <- frame_of(phrase = vocabulary$phrases$phrase, column = vocabulary$columns$name[vocabulary$phrases$column])
  if (is.null(columns)) out else take_rows(out, out$column %in% vapply(columns, `[[`, "", "name"))
}

#' The first column that consecutive words of a text name, where it is one of those looked for
#' @param phrases Data frame phrase (stems), column (name): further phrases that stand for a column, of these or of others.
#' @section Shape: list(name, said, col = its record), or NULL.
#' @noRd
column_in_text <- function(columns, text, phrases = NULL) {
  words <- stringi::stri_extract_all_regex(text, "[\\p{L}_0-9.]+")[[1]]
  if (!length(columns) || anyNA(words)) return(NULL)
  lower <- tolower(words)
  stop <- lower %in% english$stop
  ends <- stop & !lower %in% c("before", "after")
  names <- vapply(columns, `[[`, "", "name")
  stems <- lapply(names, name_stems)
  own <- if (NROW(phrases)) vapply(stems_of(words), paste, "", collapse = " ")
  for (size in 4:1) for (i in seq_len(max(0, length(words) - size + 1))) {
    span <- i:(i + size - 1)
    if (all(stop[span]) || ends[i] || (if (size > 1) ends else stop)[i + size - 1]) next
    said <- paste(words[span], collapse = " ")
    if (!grepl(said, text, fixed = TRUE)) next
    found <- column_of_words(columns, words[span], names, stems)
    # or by another word of its meaning ("length of stay" of los_days)
    other <- if (!is.null(found) && found$words == size) found$name else unique(phrases$column[phrases$phrase == paste(own[span], collapse = " ")])
    if (length(other) != 1) next
    at <- match(other, names)
    return(if (!is.na(at)) list(name = other, said = said, col = columns[[at]]))
  }
}

#' "eight", "twice" and "8" as a number
#' @noRd
word_number <- function(said) {
  words <- c(english$numbers, once = 1, twice = 2)
  if (tolower(said) %in% names(words)) words[[tolower(said)]] else as.numeric(said)
}

#' Words for whole numbers, as a part of a pattern
#' @noRd
counting_words <- function() paste(setdiff(names(english$numbers), c("half", "second", "first")), collapse = "|")

#' Columns of units that come back and that a noun names
#' @noRd
units_named <- function(study, noun) {
  Filter(function(col) col$kind %in% c("id", "category") && any(key_stems(col$name) %in% stem_words(tolower(noun))) && comes_back(study, col),
         all_columns(study))
}

#' Does a column name units that come back, in two rows each or more?
#' @noRd
comes_back <- function(study, col) 2 * col$distinct <= nrow(study$tables[[col$table]]$data)

#' A match as far as the words that were found at the start of its last part
#' @noRd
up_to_words <- function(whole, last, said) substr(whole, 1, nchar(whole) - nchar(last) + nchar(said))

#' "rentals minus returns per station", "length times width": two columns as one
#' @noRd
derive_minus <- function(out) {
  rules <- c(minus = "difference", less = "difference", times = "product", `multiplied by` = "product")
  if (!grepl("\\b(minus|less|times|multiplied by) [a-z]", out$text, ignore.case = TRUE, perl = TRUE) || grepl("~", out$text,
      fixed = TRUE)) return(out)
  hit <- match_groups(out$text, "(?i)^(.*?) (minus|less|times|multiplied by) (?:the )?(.*)$")
  if (is.na(hit[1])) return(out)
  numeric <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role), all_columns(out$study))
  words <- lapply(hit[c(2, 4)], function(part) strsplit(part, " ", fixed = TRUE)[[1]])
  first <- column_beside(numeric, words[[1]], last = TRUE); second <- column_beside(numeric, words[[2]], last = FALSE)
  if (is.null(first) || is.null(second)) return(out)
  rule <- rules[[tolower(hit[3])]]
  said <- sub("^ *", "", regmatches(out$text, regexpr(paste0(as_literal(first$said), " +", hit[3], " +(the +)?", as_literal(second$said)), out$text)))
  if (!length(said)) return(out)
  derive_of_two(out, said, first$name, second$name, rule, if (rule == "difference") "minus" else "times")
}

#' The column that the last (or the first) words of a list name, as many of them as fit, four at most
#' @section Shape: list(name, said), or NULL.
#' @noRd
column_beside <- function(columns, words, last) {
  words <- gsub("[?.!,;]+$", "", words)
  for (n in rev(seq_len(min(4, length(words))))) {
    own <- if (last) utils::tail(words, n) else utils::head(words, n)
    found <- column_of_words(columns, own)
    if (!is.null(found) && found$words == n) return(list(name = found$name, said = paste(own, collapse = " ")))
  }
}

#' "log mercury against length", "log10(count) by site", "square root of the counts": such a column, of the one that it can mean
#' @noRd
derive_log <- function(out) {
  out <- derive_lognormal(out)
  # the logarithm of an offset is taken by the model
  if (!grepl("\\b(log(arithms?|10|2|e)?|ln|square[- ]root|sqrt)\\b", out$text, ignore.case = TRUE, perl = TRUE) ||
      grepl("\\b(offset|exposure)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  out$text <- gsub("(?i)\\blog[- ]log (regression|model|fit|relation(?:ship)?|plot|line) (of|for|between) (?:the )?(.+?) (on|against|versus|vs|and|with) (?=\\p{L})",  # nolint: line_length_linter.
                   "\\1 \\2 log \\3 \\4 log ", out$text, perl = TRUE)
  text <- gsub("(?i)\\b(log(?:10|2|e)?|ln|sqrt) ?\\( *([^()]+?) *\\)", "\\1 \\2", out$text, perl = TRUE)
  form <- paste0("(?i)\\b((?:natural )?(?:log(?:arithm)?(?:10|2|e)?|ln)|square[- ]roots?|sqrt)(?:[- ]transformed)?(?: of)?(?: the)? ",
                 "(?!rank|odds|likelihood|scale|linear|normal|ratio|transform|book|logistic)",
                 "([\\p{L}_0-9.]*[\\p{L}_0-9])(?: ([\\p{L}_0-9]+))?(?: ([\\p{L}_0-9]+))?")
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(out)
  words <- hit[-(1:2)][!is.na(hit[-(1:2)])]
  found <- transformed_column(out$study, words)
  # (a column that is itself a logarithm is taken as it is)
  if (is.null(found) || grepl("(^|[_. ])log([_. ]|$)", tolower(found$name))) return(out)
  rule <- if (grepl("root|sqrt", hit[2], ignore.case = TRUE)) "square_root" else if (grepl("10$|2$", hit[2])) tolower(hit[2]) else "log"
  name <- paste0(if (rule == "square_root") "root" else rule, "_", found$name)
  own <- words[seq_len(found$words)]
  said <- paste(c(sub(paste0(" ?", as_literal(words[1]), ".*$"), "", hit[1]), own), collapse = " ")
  done <- with_derived(out, name, rule, found$name, sub(said, name, text, fixed = TRUE),
                       label = paste(gsub("_", " ", rule), paste(tolower(own), collapse = " ")))
  # "log weight on log length": the next one
  if (identical(done$text, text) || identical(done$text, out$text)) out else derive_log(done)
}

#' The column of numbers whose logarithm words ask for: by its name, or by what the name stands for ("bilirubin", of bili)
#' @section Shape: list(name, words (how many of them name it)), or NULL.
#' @noRd
transformed_column <- function(study, words) {
  columns <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role), all_columns(study))
  found <- column_of_words(columns, words)
  if (!is.null(found)) return(found)
  state <- parse_question(paste(words, collapse = " "), study_vocabulary(study))
  column <- item_column(state, 1, c("number", "count"))
  if (!is.na(column)) list(name = column_of(state, column), words = state$items[[1]]$to)
}

#' "is the amount log-normal?": whether its logarithm is normal
#' @noRd
derive_lognormal <- function(out) {
  form <- "(?i)\\blog-?[- ]?normal(ly)?( distributed)?( distribution)?"
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  bare <- sub(form, "normally distributed", out$text, perl = TRUE)
  numeric <- Filter(function(col) is_numeric_kind(col$kind) && is.null(col$role), all_columns(out$study))
  found <- column_in_text(numeric, sub(form, " ", out$text, perl = TRUE))
  if (is.null(found)) return(out)
  name <- paste0("log_", found$name)
  with_derived(out, name, "log", found$name, sub(found$said, name, bare, fixed = TRUE), label = paste("log", tolower(found$said)))
}

#' Columns that a follow-up speaks of and the data holds only in parts: "only weekends", "by season", "just Mondays"
#' @section Shape: list(study, text).
#' @noRd
derive_for_follow_up <- function(study, text) {
  derive_all(list(study = study, text = text), list(conditions_said, doers_now, never_counted, part_of_day, levels_before_after, derive_weekend, derive_weekday, derive_season, derive_age_group,  # nolint: line_length_linter.
    derive_bmi_group, by_the_clock, ages_of_people))
}

#' "those over 50", of data that holds only when people were born
#' @noRd
ages_of_people <- function(out) {
  said <- "(?i)\\b(those|people|men|women|staff|employees|members|customers|patients|ones|anyone|everyone|only)( who)?( are| were)? (over|under|above|below) [1-9][0-9]\\b(?! ?(%|percent|[a-z]))"  # nolint: line_length_linter.
  if (grepl(said, out$text, perl = TRUE)) age_from_birth(out) else out
}

#' The turns that narrow the rows, in a follow-up
#' @noRd
conditions_said <- function(out) through_turns(out, sifted(turns_of_conditions()), reword_by)

has_column <- function(study, name) tolower(name) %in% tolower(vapply(all_columns(study), `[[`, "", "name"))

#' Add a derived column unless the rule does not fit
#' @noRd
with_derived <- function(out, name, rule, from, text = out$text, ...) derived_in(out, NULL, name, rule, from, text, ...)

#' The same in a table that is named, where several hold the column: a key is counted where its rows come back
#' @noRd
derived_in <- function(out, table, name, rule, from, text = out$text, ...) {
  if (has_column(out$study, name)) return(out)
  study <- tryCatch(amend_named(out$study, name, list(derive = rule, from = from, ...), table), upbeatquill_error = function(e) NULL)
  if (is.null(study)) return(out)
  out$study <- study
  out$text <- text
  out
}

#' The names of the columns of dates and times
#' @noRd
date_columns <- function(study) vapply(dated_columns(study), `[[`, "", "name")

#' The date that tells when the rows are: the only one, the one that the question names, else the first, as for periods
#' @section Shape: name of a column, or character(0).
#' @noRd
rows_date <- function(out) date_meant(date_columns(out$study), out$text)

#' Of several dates the one whose own words a text says ("discharges per month"), else the first
#' @noRd
date_meant <- function(dates, text) {
  if (length(dates) < 2) return(dates)
  stems <- stems_of(text)[[1]]
  common <- stem_words(c("date", "day", "time", "month", "year", "week", "of", "at", "on"))
  named <- Filter(function(name) any(vapply(setdiff(name_stems(name), common), function(own) any(alike_stems(own, stems)), NA)), dates)
  if (length(named) == 1) named else dates[1]
}

derive_weekend <- function(out) {
  if (!grepl("\\bweekends?\\b|\\b(on|during|for) weekdays\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  date <- rows_date(out)
  if (!length(date)) out else with_derived(out, "day_type", "weekend", date[1])
}

#' "does wait differ by weekday", "is wait the same on all days of the week": the days compared
#' @noRd
weekdays_compared <- function(out) {
  form <- "(?i)^ *(?:do|does|did|is|are|was|were) (?:the )?(.+?) (?:differ|vary|change|different|the same|equal|similar|depend)(?: (?:on|by|between|across|over|among|from|with|for))? (?:the |all |each )*(?:weekdays?|days? of (?:the )?week|week days?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  date <- rows_date(out)
  if (is.na(hit[1]) || length(date) != 1 ||
      any(vapply(all_columns(out$study), function(col) grepl("weekday|day_of", tolower(col$name)), NA))) return(out)
  with_derived(out, "weekday", "weekday", date, sprintf("does %s differ by weekday", hit[2]))
}

#' "sales on Saturdays": where no column holds the days of the week
#' @noRd
derive_weekday <- function(out) {
  out <- weekdays_compared(out)
  days <- "\\b(mon|tues|wednes|thurs|fri|satur|sun)(days?)\\b"
  if (!grepl(days, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  named <- "^(mon|tue|tues|wed|wednes|thu|thur|thurs|fri|sat|satur|sun)(days?)?$"
  held <- any(vapply(all_columns(out$study), function(col) any(grepl(named, tolower(col$levels))) || grepl("weekday|day_of", tolower(col$name)), NA))
  date <- rows_date(out)
  if (held || length(date) != 1) return(out)
  told <- rows_on_weekday(out, date) %||% weekday_against_others(out, date)
  if (!is.null(told)) return(told)
  with_derived(out, "weekday", "weekday", date, gsub(days, "\\1day", out$text, ignore.case = TRUE))
}

#' "than on other days", "vs the rest of the week"
#' @noRd
other_days <- function() "(?: (?:than|versus|vs\\.?|compared (?:with|to)|against) (?:on )?(?:the |all |any |all the )?(?:other days?|rest(?: of the week)?))"  # nolint: line_length_linter.

#' "are there more calls on Mondays?", "calls on Mondays vs other days": rows are counted, and beside the others
#' @section Shape: as of [with_derived()], or NULL.
#' @noRd
rows_on_weekday <- function(out, date) {
  counted <- match_groups(out$text, sprintf("(?i)^ *(?:(?:are there|do we (?:get|have|see)|is there) (?:any )?(?:more|fewer) ([\\p{L}_]+) on (?:a )?[a-z]+days?%1$s?|(?:number of )?([\\p{L}_]+) on (?:a )?[a-z]+days?%1$s)[?.! ]*$", other_days()))  # nolint: line_length_linter.
  noun <- stats::na.omit(counted[2:3])
  if (length(noun) && names_rows(study_vocabulary(out$study), tolower(noun[1]))) {
    out$told <- c(out$told, "The rows of all days are counted; a day that comes more often in the data has more of them.")
    return(with_derived(out, "weekday", "weekday", date, "count of rows by weekday"))
  }
  NULL
}

#' "average wait on Mondays vs other days": the day against all others
#' @section Shape: as of [with_derived()], or NULL.
#' @noRd
weekday_against_others <- function(out, date) {
  hit <- match_groups(out$text, sprintf("(?i)\\b(?:on )?([a-z]+days?)%s", other_days()))
  side <- if (!is.na(hit[1])) level_against_rest(with_derived(out, "weekday", "weekday", date), "weekday", capital(tolower(sub("s$", "", hit[2]))))
  if (!is.null(side)) reworded(side$out, sub(hit[1], paste("by", side$name), asked_as_difference(out$text), fixed = TRUE))
}

#' "is wait longer ...", put as "is wait different ..."
#' @noRd
asked_as_difference <- function(text) {
  sub(sprintf("(?i)^ *(is|are|was|were) (.*?)\\b%s\\b", comparing_words()), "\\1 \\2different", text, perl = TRUE)
}

#' "how many use the bus", of a column whose cells hold several answers: whether each row names that answer
#' @noRd
derive_answers <- function(out) {
  for (col in Filter(function(col) identical(col$role, "multi_answer"), all_columns(out$study))) {
    cells <- unique(as.character(out$study$tables[[col$table]]$data[[col$name]]))
    answers <- sort_text(unique(answers_given(cells, col$mark)$answer))
    for (answer in utils::head(answers[nchar(answers) >= 2], 60)) {
      plain <- as_literal(answer)
      if (!grepl(paste0("(^|[^[:alnum:]])", plain, "s?($|[^[:alnum:]])"), out$text, ignore.case = TRUE, perl = TRUE)) next
      out <- with_derived(out, paste(col$name, gsub("[^[:alnum:]]+", "_", answer), sep = "_"), "holds", col$name,
                          gsub(verbs_of_answer(plain), "\\1 use ", out$text, perl = TRUE), label = answer, answer = answer, mark = col$mark)
    }
  }
  out
}

#' "who attend events", "those who came for the wifi": of an answer that was ticked, whatever the verb of people is
#' @noRd
verbs_of_answer <- function(answer) {
  sprintf(paste0("(?i)\\b(who|that|those|they|people|ones) (?:(?:attend|visit|join|pick|tick|select|need|want|like|prefer|own|mention|name|play|watch|order|",  # nolint: line_length_linter.
                 "request|follow|enjoy|favour|favor)(?:e?d|s)?|(?:come|comes|came|go|goes|went) (?:for|to)|choose|chose|chooses|buy|buys|bought|do|does|did|drink|",  # nolint: line_length_linter.
                 "eat|read|speak|study|took part in|take part in) (?=(?:the |a |an )?%s(?![\\p{L}]))"), answer)
}

#' "seasonal pattern of kwh" where a column of its own holds the month, the quarter or the season
#' @noRd
seasons_of_numbers <- function(out, pattern) {
  columns <- all_columns(out$study)
  named <- Filter(function(col) grepl("^(month|quarter|season)([ _.](no|nr|number|name|of_year))?$", tolower(col$name)), columns)
  measured <- trimws(without_mark(sub(pattern, "", out$text, perl = TRUE)))
  found <- column_in_text(Filter(function(col) is_numeric_kind(col$kind), columns), measured, kin_phrases(out$study, measured))
  if (length(named) != 1 || is.null(found) || identical(measured, trimws(out$text))) return(out)
  reworded(out, paste("mean of", measured, "by", named[[1]]$name), sprintf("The season is read off the column %s.", named[[1]]$name))
}

#' "seasonal pattern", "by calendar month": the months of the year, whichever the year
#' @noRd
derive_month_of_year <- function(out) {
  form <- "(?i)\\b(?:by |per |for each |in each |monthly average by )?(?:the )?(?:calendar months?|months? of (?:the )?year)\\b"
  pattern <- "(?i)\\b(?:the )?seasonal (?:pattern|cycle|profile)s?(?: of| in| for)?\\b"
  # "which month sells most on average": of all years together
  out$text <- sub("(?i)^ *(?:the )?([a-z]+est) months?\\b(?=.*\\b(?:on average|usually|typically)\\b)", "which month has the \\1", out$text, perl = TRUE)  # nolint: line_length_linter.
  usual <- "(?i)\\b(?:in )?(?:which|what) months?\\b(?=.*\\b(?:on average|usually|typically|generally|tends?|as a rule|normally)\\b)"
  if (grepl(usual, out$text, perl = TRUE)) {
    date <- rows_date(out)
    if (length(date) == 1) return(with_derived(out, "month_of_year", "month", date, sub(usual, "which month_of_year", out$text, perl = TRUE)))
  }
  if (!grepl(form, out$text, perl = TRUE) && !grepl(pattern, out$text, perl = TRUE)) return(out)
  if (grepl("(?i)\\b(allow|adjust|account|control|beside|apart|net of)", out$text, perl = TRUE)) return(out)
  date <- rows_date(out)
  if (length(date) != 1) return(seasons_of_numbers(out, pattern))
  text <- sub(form, "by month_of_year", out$text, perl = TRUE)
  if (identical(text, out$text)) {
    measured <- trimws(without_mark(sub(pattern, "", text, perl = TRUE)))
    # ("seasonal pattern in admissions", of which each row is one)
    text <- paste(if (is.null(column_in_text(Filter(function(col) col$kind != "date", all_columns(out$study)), measured,
                                            kin_phrases(out$study, measured)))) "number of rows" else
      paste("mean of", measured), "by month_of_year")
  }
  with_derived(out, "month_of_year", "month", date, text)
}

#' "did defects fall in the second half of the period", "in the first half of the data": halves of the time that the data spans
#' @noRd
derive_halves <- function(out) {
  form <- "(?i),? *\\b(?:in|during|over) the (first|second|last|latter) half of the (?:data|period|study|season|observation period|time|record|series|trial)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  date <- rows_date(out)
  if (is.na(hit[1]) || !length(date)) return(out)
  ends <- range(as.Date(understood(out$study, date, find_column(out$study, date)$table)), na.rm = TRUE)
  if (!all(is.finite(ends)) || diff(ends) < 2) return(out)
  middle <- format(ends[1] + ceiling(as.numeric(diff(ends)) / 2))
  late <- tolower(hit[2]) != "first"
  moves <- grepl("(?i)^ *(?:did|do|does|has|have|is|are|was|were)\\b.*\\b(?:f[ae]ll|fell|r[io]se|drop\\w*|increas\\w*|decreas\\w*|improv\\w*|wors\\w*|better|higher|lower|more|fewer|less|chang\\w*|differ\\w*|declin\\w*|gr[eo]w)\\b", out$text, perl = TRUE)  # nolint: line_length_linter.
  told <- sprintf("The data run from %s to %s; the second half begins on %s.", format(ends[1]), format(ends[2]), middle)
  # (a bound would be read as one, "before and after" as two periods)
  reworded(out, sub(hit[1], if (moves) sprintf(" before and after %s", middle) else sprintf(" %s %s", if (late) "since" else "before", middle),
      out$text,
                    fixed = TRUE), told)
}

#' "in spring and summer", "by season": where no column holds them
#' @noRd
derive_season <- function(out) {
  named <- grepl("\\b(spring|summer|autumn|winter|by season|(each|per|which|between|the four) seasons?)\\b|\\bin (the )?fall\\b", out$text,
      ignore.case = TRUE, perl = TRUE)
  if (!named) return(out)
  held <- any(vapply(all_columns(out$study), function(col) grepl("season|spring|summer|winter|autumn", tolower(col$name)) ||
                     any(grepl("^(spring|summer|autumn|fall|winter)", tolower(col$levels))), NA))
  date <- rows_date(out)
  if (held || length(date) != 1) return(out)
  with_derived(out, "season", "season", date, gsub("\\b(in )(the )?fall\\b", "\\1autumn", out$text, ignore.case = TRUE))
}

#' "before and after June 2024", "before 2014 vs after": two periods divided by a day
#' @noRd
derive_before_after <- function(out) {
  out <- changed_after(out)
  # "lower after 1920 than before", "higher before 2014 than after it"
  year <- "(?:the )?((?:[0-9]{1,2} )?(?:[a-z]{3,9} )?(?:1[5-9]|20)[0-9]{2})"
  turned <- c(sprintf("(?i)\\b(?:after|since) %s than (?:before|earlier)(?: (?:it|then|that))?", year),
              sprintf("(?i)\\bbefore %s than (?:after|later|since)(?: (?:it|then|that|wards))?", year))
  for (form in turned) out$text <- sub(form, "before and after \\1", out$text, perl = TRUE)
  if (!grepl("\\bbefore\\b.*\\bafter\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  joined <- "(?:and|vs\\.?|versus|or|than|against|compared (?:to|with))"
  when <- "((?:[0-9]{1,2} )?(?:[a-z]{3,9} )?(?:1[5-9]|20)[0-9]{2}(?:-[0-9]{2}(?:-[0-9]{2})?)?)"
  forms <- c(sprintf("before %s after (?:the )?%s", joined, when), sprintf("before (?:the )?%s %s (?:after|since)(?: (?:it|that|then|this))?", when,
      joined))
  for (form in forms) {
    found <- regmatches(out$text, regexec(paste0("(?:in )?", form), out$text, ignore.case = TRUE))[[1]]
    if (!length(found)) next
    edge <- first_day_of(found[2])
    date <- rows_date(out)
    years <- vapply(Filter(function(col) identical(col$role, "year"), all_columns(out$study)), `[[`, "", "name")
    from <- c(date, if (grepl("^[0-9]{4}$", found[2])) years)
    if (is.null(edge) || !length(from)) return(out)
    on <- if (length(date)) edge else found[2]
    text <- trimws(sub(found[1], "by period", out$text, fixed = TRUE))
    return(with_derived(out, "period", "before_after", from[1], text, on = on))
  }
  out
}

#' "did hardness change after 1 April": the rows before that day against those from it on
#' @noRd
changed_after <- function(out) {
  asked <- sprintf(paste0("(?i)^ *(?:did|has|have|was|were|is|are)\\b.*\\b(?:chang|increas|decreas|improv|drop|fell|fall|ris|rose|go|higher|",
    "lower|better|worse|differ)\\w*\\b.*?( after (?:the )?((?:[0-9]{1,2} )?(?:%s)[a-z]*(?: (?:19|20)[0-9]{2})?|",
    "(?:19|20)[0-9]{2}-[0-9]{2}(?:-[0-9]{2})?))"), month_starts())
  found <- match_groups(out$text, asked)
  date <- rows_date(out)
  if (is.na(found[1]) || length(date) != 1) return(out)
  when <- found[3]
  years <- unique(strsplit(years_of(out$study, find_column(out$study, date)), "-", fixed = TRUE)[[1]])
  if (!grepl("[0-9]{4}", when)) { if (length(years) == 1) when <- paste(when, years) else return(out) }
  edge <- first_day_of(when)
  # after a whole month begins with the next one
  if (!is.null(edge) && !grepl("^[0-9]{1,2} |-[0-9]{2}-", when)) edge <- as.character(seq(as.Date(edge), by = "month", length.out = 2)[2])
  if (is.null(edge)) return(out)
  text <- sub(found[2], " by period", out$text, fixed = TRUE)
  text <- sub("(?i)\\b(chang|increas|decreas|improv|drop|fell|fall|ris|rose|go up|go down)\\w*", "differ", text, perl = TRUE)
  done <- with_derived(out, "period", "before_after", date, text, on = edge)
  if (!identical(done$text, out$text)) done$told <- sprintf("Rows before %s are set against those from that day on.", edge)
  done
}

#' First day of a year, a month or a day written in a question
#' @noRd
first_day_of <- function(text) {
  items <- find_dates(tokenise(text), english)
  if (!is.null(items) && nrow(items)) return(as.character(items$first[1]))
  if (grepl("^(1[5-9]|20)[0-9]{2}$", text)) paste0(text, "-01-01")
}

#' Words that set two periods against each other
#' @noRd
sets_against <- function(text) grepl("\\b(compar\\w*|versus|vs|than|differ\\w*|against|changed?|better|worse)\\b", text, ignore.case = TRUE,
    perl = TRUE)

#' "did ratings improve from 2024 to 2025": the two years against each other, not the course of the months between
#' @section Shape: the question as a comparison, or NULL where it asks for anything else.
#' @noRd
change_between_years <- function(out, years) {
  form <- sprintf("(?i)^ *(?:did|has|have) (?:the |our )?(.+?) (?:significantly |really )?(?:improve|change|increase|decrease|rise|fall|drop|grow|decline|go up|go down|worsen|deteriorate)[a-z]*\\b.*\\b(?:from %1$s to|between %1$s and) %1$s *[?.! ]*$", "(?:19|20)[0-9]{2}")  # nolint: line_length_linter.
  hit <- if (length(years) == 2) match_groups(out$text, form)
  if (is.null(hit) || is.na(hit[1]) || abs(diff(as.numeric(years))) != 1 || length(rows_date(out)) != 1) return(NULL)
  # (of what adds up the totals are set side by side)
  if (adds_up(numeric_in_text(out$study, out$text)$name %||% "")) return(NULL)
  sprintf("compare %s in %s and %s", hit[2], years[1], years[2])
}

#' "2024 compared with 2023"
#' @noRd
derive_years <- function(out) {
  years <- unique(stringi::stri_extract_all_regex(out$text, "\\b(?:19|20)[0-9]{2}\\b")[[1]])
  range <- grepl("\\b(from|since)\\b", out$text, ignore.case = TRUE, perl = TRUE) && !grepl("\\bthan\\b|\\bcompar", out$text, ignore.case = TRUE,
      perl = TRUE)
  moves <- change_between_years(out, years)
  out$text <- moves %||% out$text
  if (length(years) != 2 || anyNA(years) || range && is.null(moves) || !sets_against(out$text) || grepl("[0-9]{4}-[0-9]{2}", out$text)) return(out)
  date <- rows_date(out)
  if (!length(date)) {
    # the data holds years as numbers: the two named are levels of that column
    own <- vapply(Filter(function(col) identical(col$role, "year"), all_columns(out$study)), `[[`, "", "name")
    if (!length(own)) return(out)
    for (y in years) out$text <- gsub(paste0("\\b(in |of |for |during )?", y, "\\b"), paste(own[1], y), out$text)
    return(out)
  }
  if (grepl(sprintf("\\b(%s)[a-z]* (19|20)[0-9]{2}", month_starts()), out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  text <- out$text
  for (y in years) text <- gsub(paste0("\\b(in |of |for |during )?", y, "\\b"), paste("year", y), text)
  with_derived(out, "year", "year", date[1], text)
}

#' "higher in July than in June": months of the year, whichever the year
#' @noRd
derive_months <- function(out) {
  if (!sets_against(out$text)) return(out)
  names <- c(month.name, month.abb)
  found <- unique(substr(tolower(stringi::stri_extract_all_regex(out$text, paste0("(?i)\\b(?:", paste(names, collapse = "|"),
    ")\\b(?! ?[0-9]{4}| [0-9]{1,2}\\b)"))[[1]]), 1, 3))
  if (length(found) != 2 || anyNA(found) || !sets_against(out$text) || any(found == "may" & !grepl("\\b(in|of|and|with|than|to) may\\b",
    tolower(out$text)))) return(out)
  date <- rows_date(out)
  if (!length(date)) out else with_derived(out, "month", "month", date[1])
}

#' "did sales change between May 2023 and May 2024", "Q1 2023 with Q1 2024": two periods set against each other
#' @noRd
derive_two_periods <- function(out) {
  if (!grepl("(19|20)[0-9]{2}.*(19|20)[0-9]{2}", out$text)) return(out)
  part <- sprintf("(?:the )?(?:(%s)(?: of)? )?((?:19|20)[0-9]{2})", parts_of_year())
  form <- sprintf("(?i)\\b(?:between |from |in |of |for )?%s (?:and|to|versus|vs\\.?|than|with|against|compared (?:with|to)) (?:in |that of |those of )?%s\\b",  # nolint: line_length_linter.
                  part, part)
  asks <- grepl("\\b(chang|differ|compar|versus|vs|higher|lower|more|less|better|worse|improv|increas|decreas|ris|rose|fall|fell|drop|grow|grew|declin|gain)",  # nolint: line_length_linter.
                out$text, ignore.case = TRUE, perl = TRUE)
  hit <- match_groups(out$text, form)
  # (two whole years are read where years are)
  if (is.na(hit[1]) || !asks || all(is.na(hit[c(2, 4)]))) return(out)
  date <- rows_date(out)
  periods <- paste0(hit[c(3, 5)], period_code(hit[c(2, 4)]))
  if (length(date) != 1 || periods[1] == periods[2]) return(out)
  bare <- text_without(out$text, hit[1])
  by_two_periods(out, date, periods, paste("compare", sub("(?i)^compare ?", "", bare, perl = TRUE)))
}

#' Months, quarters and halves of a year as they are said, as a pattern
#' @noRd
parts_of_year <- function() {
  sprintf("%s|q[1-4]|h[12]|(?:first|second|third|fourth|last|1st|2nd|3rd|4th) (?:quarter|half)", paste(c(month.name, month.abb), collapse = "|"))
}

#' What is asked, by which of two periods the rows lie in; as it was where these overlap
#' @param periods Their codes. @param asked The question without them.
#' @noRd
by_two_periods <- function(out, date, periods, asked) {
  months <- period_months(sort(periods))
  if (months[1, 2] >= months[2, 1]) return(out)
  name <- if (all(grepl("-[0-9]{2}$", periods))) "two_months" else "two_periods"
  with_derived(out, name, "two_periods", date, paste(asked, "by", name), periods = periods)
}

#' "may", "Q1" and "first half" as they stand in the code of a period ("-05", "-Q1", "-H1"); "" where a whole year is meant
#' @noRd
period_code <- function(said) {
  said <- tolower(ifelse(is.na(said), "", said))
  month <- match(substr(said, 1, 3), tolower(month.abb))
  place <- match(sub(" .*$", "", said), ordinal_words[1:4])
  place <- ifelse(is.na(place), match(sub(" .*$", "", said), c("1st", "2nd", "3rd", "4th")), place)
  last <- grepl("^last", said)
  half <- grepl("half$", said)
  place <- ifelse(last, ifelse(half, 2L, 4L), place)
  ifelse(!nzchar(said), "", ifelse(grepl("^[qh][1-4]$", said), paste0("-", toupper(said)),
    ifelse(!is.na(place), paste0("-", ifelse(half, "H", "Q"), place), sprintf("-%02d", month))))
}

change_words <- function() c(rise = "change", rise = "gain", rise = "increase", rise = "improvement", rise = "progress",
    rise = "difference", fall = "reduction",
  fall = "decrease",
                             fall = "loss", fall = "drop", fall = "decline")

#' "the weight gain by treatment": after minus before of the one pair of columns it can mean
#' @noRd
derive_change <- function(out) {
  asked <- out$text
  # "did maths change between maths_autumn and maths_summer": a verb, and its two ends
  both <- function(set) sum(vapply(set$columns, grepl, NA, x = asked, fixed = TRUE)) >= 2
  if (grepl("^ *(did|do|does|has|have)\\b", asked, ignore.case = TRUE) && length(Filter(both, study_sets(out$study,
      "repeated_measures")))) return(out)
  out <- measured_change(out)
  if (!identical(out$text, asked)) return(out)
  named <- out
  named$text <- named_change(asked)
  derived <- noun_of_change(named)
  # what speaks of a change that the data does not hold is left in its own words
  if (identical(derived$study, out$study) && grepl("\\b(los[te]|losing|gain)", asked, ignore.case = TRUE, perl = TRUE)) out else derived
}

#' "which therapy led to the largest weight gain", "how many lost weight", "gained more than 5 lb": a change of what was measured twice,
#' named by a noun or a verb anywhere in a question that is not only whether there was one
#' @noRd
measured_change <- function(out) {
  text <- out$text
  if (!grepl("\\b(gain|los[es]|lost|losing|change|increase|decrease|drop|reduc|improve|put on|rise|fall)", text, ignore.case = TRUE, perl = TRUE) ||
      grepl("\\b(from|between) (before|pre|baseline|week|month|time|visit|t[0-9])", text, ignore.case = TRUE, perl = TRUE)) return(out)
  pair <- pair_in_text(out$study, text)
  if (is.null(pair)) return(out)
  words <- paste(gsub("[_. ]+", "[_. ]+", pair$said), collapse = "|")
  falls <- "loses?|lost|losing|loss(?:es)?|decreases?|reductions?|drops?|fall"
  rises <- "gains?|gained|gaining|increases?|rise|put on|improvements?|changes?"
  verb <- "(gain|gained|gaining|lose|lost|losing|put on|drop|dropped|shed)"
  name <- function(word) paste(pair$name, if (grepl("^(lo|dr|sh|de|re|fa)", word, ignore.case = TRUE)) "loss" else if (grepl("^(ch)", word,
    ignore.case = TRUE)) "change" else if (grepl("^im", word, ignore.case = TRUE)) "improvement" else "gain", sep = "_")
  forms <- list(
    # "how much weight did the girls gain"
    list(sprintf("(?i)\\bhow much (?:of )?(?:%s) (?:did|do|have|has|does) (.{0,40}?)\\b%s\\b", words, verb), 3, "mean %s of \\1"),
    # "gained more than 5 lb", "lost weight" of those who are counted or compared
    list(sprintf("(?i)\\b(?:who |that )?(?:have |had )?%s(?: (?:%s))? (?=(?:more|less|fewer|over|under|at least|at most|no more|no less)(?: than)? [0-9])", verb, words),  # nolint: line_length_linter.
         2, "with %s "),
    list(sprintf("(?i)\\b(?:who |that )?(?:have |had )?(gained|lost|put on) (?:any |some )?(?:%s)\\b(?! (?:more|less|over|under|at|and))", words), 2,
         "with %s above 0"),
    # "gain more weight"
    list(sprintf("(?i)\\b%s (more|less|the most|the least|most|least) (?:%s)\\b", verb, words), 2, "have \\2 %s"),
    list(sprintf("(?i)\\b(?:%s) (%s|%s)\\b", words, falls, rises), 2, "%s"),
    list(sprintf("(?i)\\b(%s|%s) (?:in|of) (?:the |their |its |body )?(?:%s)\\b", falls, rises, words), 2, "%s"))
  bare <- grepl("^ *(did|do|does|has|have|was|were|is|are|how)\\b", text, ignore.case = TRUE, perl = TRUE)
  cue <- grepl(paste0("\\b(by|differ\\w*|more|less|most|least|than|better|worse|across|between|mean|average|median|typical|total|how (many|much)|",
    "number|share|proportion|percent\\w*|largest|biggest|greatest|smallest|highest|lowest|effect|each|per|who|which|what|distribut\\w*|histogram|",
    "box ?plot|plot|relat\\w*|associat\\w*|correlat\\w*|depend\\w*|predict\\w*|affect\\w*|compare|over|at least)\\b"), text, ignore.case = TRUE, perl = TRUE)  # nolint: line_length_linter.
  if (bare && !cue) {
    # "was there a weight gain": a comparison of the two times
    noun <- sprintf("(?i)^ *(?:was|is|were) there (?:a |an |any )?(?:\\w+ )?(?:%s) (?:%s|%s)\\b", words, falls, rises)
    out$text <- gsub(noun, paste("is there a change in", pair$said[1]), text, perl = TRUE)
    return(out)
  }
  for (form in forms) {
    hit <- match_groups(text, form[[1]])
    if (is.na(hit[1])) next
    word <- hit[form[[2]]]
    own <- name(word)
    said <- sprintf(form[[3]], own)
    for (k in seq_along(hit)[-1]) said <- sub(paste0("\\", k - 1), hit[k], said, fixed = TRUE)
    columns <- if (grepl("_loss$", own)) pair$columns else rev(pair$columns)
    return(with_derived(out, own, "difference", columns, sub(hit[1], said, text, fixed = TRUE)))
  }
  out
}

#' The two columns measured before and after whose name a question says, or the only such pair where it says no other measure
#' @section Shape: list(columns, name, said (the words for it in the question)), or NULL.
#' @noRd
pair_in_text <- function(study, text) {
  sets <- change_pairs(study, text)
  said <- stringi::stri_extract_all_words(tolower(text))[[1]]
  stems <- stem_words(said)
  if (length(sets) == 1 && grepl("\\b(gained|lost|put on) (more|less|at least|at most|over|under|no more) ?(than )?[0-9]", text, ignore.case = TRUE,
                                perl = TRUE)) return(list(columns = sets[[1]]$columns, name = sets[[1]]$name, said = sets[[1]]$name))
  hits <- lapply(sets, function(set) {
    own <- telling_stems(set$name)
    at <- match(own, stems)
    if (length(own) && !anyNA(at)) said[sort(at)] else if (set$name %in% said) set$name
  })
  own <- which(lengths(hits) > 0)
  if (length(own) != 1 || grepl("\\b(before|after|pre|post|baseline)\\b", text, ignore.case = TRUE, perl = TRUE)) return(NULL)
  list(columns = sets[[own]]$columns, name = sets[[own]]$name, said = c(paste(hits[[own]], collapse = " "), hits[[own]]))
}

#' The stems of a name's words other than its unit
#' @noRd
telling_stems <- function(name) setdiff(name_stems(name), names(unit_tails()))

noun_of_change <- function(out) {
  text <- out$text
  # the long patterns below are slow; most questions hold none of their words
  if (!grepl("chang|gain|increas|improv|progress|differen|reduc|decreas|loss|drop|declin", text, ignore.case = TRUE, perl = TRUE)) return(out)
  noun <- sprintf("(?i)\\b(?:(?:the|a|mean|average|median|of|in|with|does|is|compare|plot|draw|show|more|less|most|least|histogram|total|which|whose|to|on|and|affects?|explains?|predicts?)\\s+|[:,]\\s*)(?:([\\p{L}_]+)\\s+)?(%s)s?\\b(?:\\s+in(?:\\s+the)?\\s+([\\p{L}_]+)(?![\\p{L}_.0-9]))?|^([\\p{L}_]+\\s+)?(%s)\\b(?:\\s+in(?:\\s+the)?\\s+([\\p{L}_]+)(?![\\p{L}_.0-9]))?",  # nolint: line_length_linter.
                  paste(change_words(), collapse = "|"), paste(setdiff(change_words(), c("difference")), collapse = "|"))
  hit <- match_groups(text, noun)
  span <- match_groups(text,
    sprintf(paste0("(?i)\\b(%s)s?(?:\\s+(?:in|of)\\s+(?:the\\s+)?[\\p{L}_ ",
        "]+?)?\\s+from\\s+(.+?)\\s+to\\s+(.+?)(?=\\s+(?:by|in|between|across|for|among|differ\\w*|with|than)\\b|[?.!]|$)"),
      paste(change_words(), collapse = "|")))
  if (!is.na(span[1]) && grepl("\\b(by|between|across|differ\\w*|among|for each|mean|average|median)\\b", sub(span[1], "", text, fixed = TRUE),
    ignore.case = TRUE, perl = TRUE)) {
    pair <- pair_named(out$study, span[3], span[4], text)
    if (!is.null(pair)) return(with_derived(out, paste(pair$name, tolower(span[2]), sep = "_"), "difference",
      if (names(change_words())[match(tolower(span[2]), change_words())] == "fall") pair$columns else rev(pair$columns),
                                            sub(span[1], paste(pair$name, tolower(span[2]), sep = "_"), text, fixed = TRUE)))
  }
  if (is.na(hit[1]) || !grepl("\\b(by|between|differ\\w*|greater|larger|higher|lower|smaller|bigger|more|than|across|mean|average|median|distribut\\w*|histogram|among|zero|most|least|draw|plot|above|relat\\w*|associat\\w*|correlat\\w*|depend\\w*|predicts?|affects?|effects?|interaction|vs|versus)\\b|^ *(the )?\\w+ (change|gain|loss)\\b", text, ignore.case = TRUE, perl = TRUE)) return(out)  # nolint: line_length_linter.
  if (grepl("\\b(from|between) (before|pre|baseline)|difference (between|in means)|\\bdifferences? in [^?.!]+? (between|among|across) ", text, ignore.case = TRUE, perl = TRUE)) return(out)  # nolint: line_length_linter.
  word <- tolower(or_if_na(hit[3], hit[6]))
  about <- tolower(c(hit[2], hit[4], hit[5], hit[7])); about <- about[!is.na(about) & nzchar(about) & !trimws(about) %in% c(english$stop, "average",
      "mean", "median",
    "typical", "total", "overall")]
  # "weight change in the north": what follows is a condition where the measure is named before
  before <- tolower(c(hit[2], hit[5])); before <- before[!is.na(before) & nzchar(before)]
  named <- if (length(before)) pair_meant(out$study, trimws(before), word)
  if (!is.null(named)) hit[1] <- sub("(?i)\\s+in(\\s+the)?\\s+[\\p{L}_]+$", "", hit[1], perl = TRUE)
  pair <- named %||% pair_meant(out$study, trimws(about), word)
  if (is.null(pair)) return(out)
  # "the average gain in phonics": a level behind it stays what it is, a condition
  behind <- tolower(stats::na.omit(hit[c(4, 7)]))
  if (is.null(named) && length(behind) && all(stem_words(behind) %in% study_vocabulary(out$study)$values$phrase) &&
    !all(stem_words(behind) %in% name_stems(pair$name))) hit[1] <- sub("(?i)\\s+in(\\s+the)?\\s+[\\p{L}_]+$", "", hit[1], perl = TRUE)
  name <- paste(pair$name, word, sep = "_")
  fall <- names(change_words())[match(word, change_words())] == "fall"
  said <- sub("^(?i)(the|a|mean|average|median|of|in|with|does|is|compare|plot|draw|show|more|less|most|least|histogram|total|which|whose|to|on|and|affects?|explains?|predicts?)\\s+((mean|average|median|typical|total|overall)\\s+)?|^[:,]\\s*", "",  # nolint: line_length_linter.
      hit[1], perl = TRUE)
  with_derived(out, name, "difference", if (fall) pair$columns else rev(pair$columns), sub(said, name, text, fixed = TRUE))
}

#' "lose more weight", "gained weight" as a weight loss or gain
#' @noRd
named_change <- function(text) {
  # "did cholesterol improve more on the Mediterranean diet": two changes are compared
  text <- gsub(paste0("(?i)^did (?:the )?([\\p{L}_ ]{2,40}?) (?:improve|change|rise|fall|drop|decline|increase|decrease|go up|go down) ",
                      "(?:more|less) (in|on|with|among|for|under)\\b"), "does the change in \\1 differ \\2", text, perl = TRUE)
  if (!grepl("\\b(los(e|t|ing)|gain(ed|ing)?|how much did|(improved|changed|progressed) (the )?(most|least))\\b", text,
      ignore.case = TRUE, perl = TRUE)) return(text)
  text <- gsub("(?i)\\b(?:who|that|which) (?:have |had )?lost (weight|strength|mass|height)\\b", "with \\1 loss above 0", text, perl = TRUE)
  text <- gsub("(?i)\\b(?:who|that|which) (?:have |had )?gained (weight|strength|mass|height)\\b", "with \\1 gain above 0", text, perl = TRUE)
  # "how much did scores improve on average", "which team improved most"
  text <- gsub("(?i)\\bhow much did (?:the |their )?([\\p{L}_ ]{2,30}?) (improve|change|increase|decrease|fall|drop|rise)\\b(?: on average)?",
      "mean change in \\1", text,
    perl = TRUE)
  text <- gsub("(?i)\\b(improved|changed|progressed) (?:the )?most\\b", "has the highest mean improvement", text, perl = TRUE)
  text <- gsub("(?i)\\b(improved|changed|progressed) (?:the )?least\\b", "has the lowest mean improvement", text, perl = TRUE)
  text <- gsub("(?i)\\bgained (?:the )?most(?=[?.! ]*$)", "has the highest mean gain", text, perl = TRUE)
  text <- gsub("(?i)\\bgained (?:the )?least(?=[?.! ]*$)", "has the lowest mean gain", text, perl = TRUE)
  text <- gsub("(?i)\\b(?:lose|lost|losing) (more|less|the most|the least|any|much)? ?(weight|strength|mass|height|blood)\\b", "have \\1 \\2 loss",
      text, perl = TRUE)
  gsub("(?i)\\b(?:gain|gained|gaining) (more|less|the most|the least|any|much)? ?(weight|strength|mass|height|points)\\b", "have \\1 \\2 gain",
      text, perl = TRUE)
}

#' Measures with two occasions, and of those with more the first and the one right after the treatment
#' @param said What is said of the change: of occasions counted from nought no improvement is taken, whose direction nothing tells.
#' @section Shape: sets of two columns each, as of [find_sets()].
#' @noRd
change_pairs <- function(study, said = "") {
  first <- first_occasions()
  second <- c("after", "post", "posttest", "end", "endpoint", "endline", "final")
  pairs <- lapply(study_sets(study, "repeated_measures"), function(set) {
    if (length(set$columns) == 2) return(set)
    at <- c(which(set$times %in% first), which(set$times %in% second))
    # (of occasions that are counted from nought: from the first to the last)
    counted <- set$times[1] %in% "0" || set$times[1] %in% first && all(grepl("^[0-9]", set$times[-1]))
    if (length(at) < 2 && counted && !grepl("improv|progress", said, ignore.case = TRUE)) at <- c(1L, length(set$times))
    if (length(at) == 2 && at[1] < at[2]) { set$columns <- set$columns[at]; set$times <- set$times[at]; set }
  })
  compact(pairs)
}

#' Times that stand first where something was measured twice or more
#' @noRd
first_occasions <- function() c("before", "pre", "pretest", "baseline", "start", "initial")

#' The pair of columns measured before and after that a change speaks of
#' @noRd
pair_meant <- function(study, about, word) {
  sets <- change_pairs(study, word)
  if (!length(sets)) return(NULL)
  stems <- lapply(sets, function(set) name_stems(set$name))
  own <- vapply(stems, function(s) length(about) > 0 && any(vapply(about, function(a) stem_words(a) %in% s || any(vapply(s,
    function(t) abbreviates(t, a) || t == "wt" && a == "weight", NA)), NA)), NA)
  if (sum(own) == 1) return(list(columns = sets[[which(own)]]$columns, name = sets[[which(own)]]$name))
  # "difference" between groups is the everyday word for a comparison; only a named measure makes it a change
  # ("the gain in the cognitive group": what is said beside it is a level, no other measure)
  levels <- study_vocabulary(study)$values$phrase
  if (length(sets) == 1 && all(stem_words(about) %in% levels) && word != "difference") return(list(columns = sets[[1]]$columns,
    name = sets[[1]]$name))
  NULL
}

#' "6 months" as the short form in a column's name: "6mo", "6m", whichever the set uses is compared in its first letter
#' @noRd
short_time <- function(said) {
  found <- regmatches(tolower(said), regexec("^(?:week|month|day|year)?s? ?([0-9]{1,3}) ?(weeks?|months?|days?|years?|hours?)?$", tolower(said)))[[1]]
  if (length(found) < 3 || !nzchar(found[3])) return(character())
  paste0(found[2], time_forms()[[time_unit_of(found[3])]])
}

#' The pair whose two columns are named ("from pretest to posttest", "from baseline to week 12")
#' @noRd
pair_named <- function(study, from, to, text = "") {
  bare <- function(x) gsub("[^a-z0-9]", "", tolower(x))
  sets <- study_sets(study, "repeated_measures")
  pairs <- lapply(sets, function(set) {
    hit <- function(said) {
      own <- which(bare(set$columns) == bare(said) | endsWith(bare(set$columns), bare(said)) | bare(set$times) == bare(said) |
        set$times %in% short_time(said))
      if (length(own)) own else setdiff(occasion_meant(set, said), NA)
    }
    a <- hit(from); b <- hit(to)
    if (length(a) == 1 && length(b) == 1 && a != b) list(columns = set$columns[c(a, b)], name = set$name)
  })
  own <- which(!vapply(pairs, is.null, NA))
  # several measures may have the same two occasions: the one that is named is meant
  if (length(own) > 1) {
    said <- vapply(sets_said(text, sets[own]), `[[`, "", "name")
    own <- own[vapply(sets[own], function(set) set$name %in% said, NA)]
  }
  if (length(own) == 1) pairs[[own]]
}

#' "Q1 to Q5" as "Q1, Q2, Q3, Q4 and Q5", where all of them are columns
#' @noRd
open_ranges <- function(text, names) {
  if (!grepl("[0-9] *(to|-|\u2013|through|until) *[[:alpha:]_.]*[0-9]", text)) return(text)
  found <- match_groups(text, "(?i)\\b([\\p{L}_.]+?)([0-9]{1,3})\\s*(?:to|-|\u2013|through|until)\\s*\\1?([0-9]{1,3})\\b")
  if (is.na(found[1])) return(text)
  from <- as.integer(found[3]); to <- as.integer(found[4])
  if (to <= from || to - from > 200) return(text)
  wanted <- tolower(paste0(found[2], from:to))
  # "Q1 to Q4" of Q1_proud, Q2_recommend and so on
  stem <- tolower(sub("^([\\p{L}]+[_. ]?[0-9]+).*$", "\\1", names, perl = TRUE))
  at <- match(wanted, tolower(names))
  if (anyNA(at) && !any(wanted %in% stem[duplicated(stem)])) at <- match(wanted, stem)
  if (anyNA(at)) return(text)
  sub(found[1], some_of(names[at], length(at)), text, fixed = TRUE)
}

#' "reliability of complaints to advance": the two columns and those that stand between them in the file
#' @section Shape: list(study, text, told), as of `derive_for_question()`.
#' @noRd
open_columns_between <- function(out) {
  asked <- "\\b(reliab\\w*|alpha|omega|consistency|items|questions|statements|components?|factor analysis|factors of|correlation matrix|columns|variables|measures|scale|mean of|average of|sum of|total of)\\b"  # nolint: line_length_linter.
  if (!grepl("\\b(to|through|thru)\\b", out$text, perl = TRUE) || !grepl(asked, out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  columns <- all_columns(out$study)
  names <- vapply(columns, `[[`, "", "name")
  measured <- vapply(columns, function(col) col$kind %in% c("number", "count", "ordered", "yes_no") && is.null(col$role), NA)
  name <- paste(as_literal(names[measured][order(-nchar(names[measured]))]), collapse = "|")
  hit <- match_groups(out$text, sprintf("(?i)(?<![\\p{L}\\p{N}_])(%s) (?:to|through|thru) (%s)(?![\\p{L}\\p{N}_])", name, name))
  at <- if (!is.na(hit[1])) match(tolower(hit[2:3]), tolower(names))
  # ("the change from before to after" goes from one to the other)
  if (is.null(at) || anyNA(at) || at[2] - at[1] < 2 || grepl(sprintf("(?i)\\bfrom %s", as_literal(hit[1])), out$text, perl = TRUE)) return(out)
  between <- seq(at[1], at[2])
  same <- length(unique(vapply(columns[between], `[[`, "", "table"))) == 1
  if (!same || !all(measured[between])) return(out)
  reworded(out, sub(hit[1], some_of(names[between], length(between)), out$text, fixed = TRUE),
           sprintf("Took %s to mean the %d columns that stand there in the data: %s.", quoted(hit[1]), length(between), some_of(names[between], 8)))
}

#' "the hazard ratio per 10 points of karnofsky": the column in steps of that size
#' @section Shape: list(study, text).
#' @noRd
step_of_ratio <- function(out, text) {
  out$text <- text
  # "model of interest on credit_score in steps of 10"
  steps <- first_match(text, "(?i)\\bon (.+) in steps of ([0-9.]+)$")
  # (a name may hold spaces and brackets, and so may that of the outcome)
  from <- if (!is.null(steps)) Find(function(name) endsWith(steps[2], name), vapply(numeric_columns(out$study), `[[`, "", "name"))
  if (!is.null(from)) {
    name <- paste0(from, "_per_", gsub("[^0-9]", "_", steps[3]))
    text <- sub(sprintf("on %s in steps of %s", from, steps[3]), paste("on", name), text, fixed = TRUE)
    return(with_converted(out, name, from, text, 1 / as.numeric(steps[3])))
  }
  if (!grepl("\\b(odds|hazards?|(risk|rate|odds|hazard) ratios?)\\b", text, ignore.case = TRUE, perl = TRUE)) return(out)
  other <- step_in_unit(out)
  if (!is.null(other)) return(other)
  form <- "(?i)\\b(?:per|for (?:each|every)|(?:each|every))(?: extra| additional| further| more)? ([0-9]+(?:[.][0-9]+)?)(?: more)?[ -]((?:[\\p{L}_0-9.]+ ?){1,5})"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || as.numeric(hit[2]) == 1) return(out)
  found <- column_in_text(Filter(function(col) col$kind %in% c("number", "count"), all_columns(out$study)), hit[3])
  if (is.null(found)) return(out)
  name <- paste0(found$name, "_per_", gsub("[^0-9]", "_", hit[2]))
  said <- sub(paste0(found$said, ".*$"), found$said, hit[1])
  # "per 7 days of waiting": the unit and the word name one column
  rest <- sub(said, "", substring(text, regexpr(hit[1], text, fixed = TRUE)), fixed = TRUE)
  behind <- first_match(rest, "(?i)^ *(?:of|in|on) (?:the )?([\\p{L}_0-9]+)")
  also <- if (!is.null(behind)) column_in_text(list(found$col), behind[2], kin_phrases(out$study, behind[2]))
  if (!is.null(also)) said <- paste0(said, behind[1])
  with_converted(out, name, found$name, sub(said, paste("per single", name), text, fixed = TRUE), 1 / as.numeric(hit[2]))
}

#' The column in steps of another size, with the words by which the rest of the question finds it
#' @noRd
with_converted <- function(out, name, from, text, factor) {
  derive_all(out, list(function(out) with_derived(out, name, "converted", from, text, factor = factor)))
}

#' "odds of not attending per extra week of waiting", of a wait in days: the column in the unit that is asked for
#' @return As of `step_of_ratio()`; NULL where no other unit of time is asked for.
#' @noRd
step_in_unit <- function(out) {
  form <- "(?i)\\b(?:per|for (?:each|every)|each|every)(?: extra| additional| further| more)?(?: ([0-9]+))? (second|minute|hour|day|week|month|year|decade)s?(?: (?:of|in) (?:the )?((?:[\\p{L}_0-9.]+ ?){1,4}))?"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(NULL)
  seconds <- unit_sizes()$time
  asked <- c(second = "s", minute = "min", hour = "hours", day = "days", week = "weeks", month = "months", year = "years", decade = "years")
  unit <- tolower(hit[3])
  size <- seconds[[asked[[unit]]]] * (if (unit == "decade") 10 else 1) * as.numeric(or_if_na(hit[2], 1))
  timed <- Filter(function(col) col$unit %in% names(seconds), numeric_columns(out$study))
  where <- if (is.na(hit[4])) out$text else hit[4]
  found <- column_in_text(timed, where, kin_phrases(out$study, where))
  if (is.null(found)) return(NULL)
  factor <- seconds[[found$col$unit]] / size
  if (factor == 1) return(NULL)
  name <- paste0(found$name, "_in_", if (!is.na(hit[2])) paste0(hit[2], "_"), unit, "s")
  said <- if (is.na(hit[4])) trimws(hit[1]) else sub(paste0("(", as_literal(found$said), ").*$"), "\\1", hit[1], perl = TRUE)
  with_converted(out, name, found$name, sub(said, paste("per single", name), out$text, fixed = TRUE), factor)
}

#' "how many customers ordered more than 5 times", "customers with at least two orders", "repeat customers": ids by how many rows they have
#' @noRd
rows_of_ids <- function(out) {
  out$text <- rows_as_times(out$study, out$text)
  if (!grepl("\\b(times|once|twice|repeat|returning|recurring)\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  times <- "([0-9]+|one|two|three|four|five|six|seven|eight|nine|ten)"
  bound <- sprintf("(more than|at least|fewer than|less than|exactly|only|over) (?:%s times|(once|twice))", times)
  again <- "\\b(?:repeat|returning|recurring)\\b"
  if (!grepl(sprintf("(?i)\\b%s\\b|%s", bound, again), out$text, perl = TRUE)) return(out)
  said <- stem_words(tolower(stringi::stri_extract_all_words(out$text)[[1]]))
  # ("new vs returning audiences", of a level returning)
  if (any(vapply(all_columns(out$study), function(col) any(tolower(col$levels) %in% c("repeat", "returning", "recurring")), NA))) return(out)
  named <- function(columns) Filter(function(col) any(key_stems(col$name) %in% said), columns)
  own <- named(keys_of(out$study, single = FALSE))
  # ("customers with at least 10 orders", of a column of names)
  if (!length(own)) own <- named(Filter(function(col) col$kind == "category" && comes_back(out$study, col), all_columns(out$study)))
  if (length(own) != 1) return(out)
  name <- paste0(own[[1]]$name, "_occurrences")
  hit <- match_groups(out$text, sprintf("(?i)(?:\\b(?:who |that )?(?:have |has |had )?[\\p{L}]+(?: back| in)? )?\\b%s\\b",
      bound))
  if (is.na(hit[1])) {
    # ("repeat customers")
    noun <- match_groups(out$text, sprintf("(?i)%s ([\\p{L}]+)", again))
    if (is.na(noun[1]) || !stem_words(tolower(noun[2])) %in% name_stems(own[[1]]$name)) return(out)
    text <- sub(noun[1], sprintf("%s with %s above 1", noun[2], name), out$text, fixed = TRUE)
    text <- sub(sprintf("^(.+ with %s above 1) *: *how many\\??$", name), "how many \\1", text)
  } else {
    # ("injured at least once" is of what happened, where a column says so)
    verb <- sub("(?i)^ *(?:who |that )?(?:have |has |had )?", "", sub(sprintf("(?i) ?\\b%s.*$", bound), "", hit[1], perl = TRUE), perl = TRUE)
    if (nzchar(verb) && !is.null(column_in_text(yes_no_columns(out$study), verb, kin_phrases(out$study, verb)))) return(out)
    count <- word_number(hit[!is.na(hit)][length(hit[!is.na(hit)])])
    op <- sub("^=$", "of exactly", plain_bound(hit[2]))
    text <- sub(hit[1], sprintf(" with %s %s %s", name, op, count), out$text, fixed = TRUE)
  }
  share_of_ids(derived_in(out, own[[1]]$table, name, "rows_each", own[[1]]$name, gsub(" +", " ", text)), own[[1]], name)
}

#' "what percentage of guests booked at least twice": of the guests, each counted once, not of their rows
#' @noRd
share_of_ids <- function(out, key, count) {
  form <- sprintf("(?i)^ *(?:what |which )?(?:is the )?(?:share|proportion|percentage|percent|fraction) of (?:the |all |our )?([\\p{L}]+) with (%s .+)$",  # nolint: line_length_linter.
                  count)
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !length(keys_called(list(key), hit[2])) || !has_column(out$study, count)) return(out)
  first <- paste0(key$name, "_first")
  out$told <- c(out$told, sprintf("Each %s counts once.", key$name))
  derived_in(out, key$table, first, "first_row", key$name, sprintf("what share of rows where %s = yes have %s", first, hit[3]))
}

#' "patients with 3 or more appointments", where appointment_id tells the rows apart: seen at least 3 times
#' @noRd
rows_as_times <- function(study, text) {
  if (!grepl("\\b(or more|more than|at least|fewer than|less than|exactly)\\b", text, ignore.case = TRUE, perl = TRUE)) return(text)
  number <- "([0-9]+|one|two|three|four|five|six|seven|eight|nine|ten)"
  lead <- "(?i)\\b((?:with|(?:who |that )?(?:have|had|has)|having))"
  told <- gsub(sprintf("%s %s or more (?=\\p{L})", lead, number), "\\1 at least \\2 ", text, perl = TRUE)
  hit <- match_groups(told, sprintf("%s (more than|at least|fewer than|less than|exactly) %s (\\p{L}+)\\b", lead, number))
  if (is.na(hit[1])) return(text)
  noun <- stem_words(tolower(hit[5]))
  counted <- c(unlist(lapply(keys_of(study, single = TRUE), function(col) key_stems(col$name))), stem_words(c("row", "record", "entry")))
  measured <- unlist(lapply(numeric_columns(study), function(col) name_stems(col$name)))
  if (!noun %in% counted || noun %in% measured) return(text)
  sub(hit[1], sprintf("seen %s %s times", hit[3], hit[4]), told, fixed = TRUE)
}

#' "engagement in 2024", "has engagement improved since 2023", of columns engagement_2023 and engagement_2024
#'
#' A year that is part of the names of one measure's columns chooses among them; it is no condition on another date.
#' @noRd
column_of_year <- function(study, text) {
  if (!grepl("\\b(19|20)[0-9]{2}\\b", text)) return(text)
  years <- unique(stringi::stri_extract_all_regex(text, "\\b(?:19|20)[0-9]{2}\\b")[[1]])
  if (anyNA(years) || length(years) > 2) return(text)
  sets <- Filter(function(set) all(grepl("^(19|20)[0-9]{2}$", set$times)), study_sets(study, "repeated_measures"))
  said <- stringi::stri_extract_all_words(text)[[1]]
  stems <- stem_words(tolower(said))
  hits <- Filter(function(set) all(telling_stems(set$name) %in% stems) && all(years %in% set$times), sets)
  if (length(hits) != 1) return(text)
  set <- hits[[1]]
  own <- telling_stems(set$name)
  word <- paste(said[stems %in% own], collapse = "[ _.]+")
  since <- sprintf("(?i) (?:since|from|after|compared (?:to|with)|relative to) %s(?: (?:to|until|and) (?:now|%s))?", years[1], rev(years)[1])
  changes <- grepl("\\b(chang|improv|increas|decreas|ris|rose|fall|fell|drop|grow|grew|declin|worsen|higher|lower|better|worse|differ)", text,
                   ignore.case = TRUE, perl = TRUE)
  whole <- sprintf("(?i)\\b%s\\b", word)
  if (changes && (length(years) == 2 || grepl(since, text, perl = TRUE) && set$times[1] == years && length(set$times) == 2)) {
    pair <- if (length(years) == 2) set$columns[match(sort(years), set$times)] else set$columns
    bare <- gsub(sprintf("(?i) ?(?:since|from|between|in|after|to|and|than|with|compared (?:to|with)) (?:in )?(?:%s)\\b", paste(years,
        collapse = "|")), "", text,
                 perl = TRUE)
    return(sub(whole, sprintf("%s and %s", pair[1], pair[2]), bare, perl = TRUE))
  }
  if (length(years) != 1) return(text)
  bare <- sub(sprintf("(?i) (?:in|of|for|from) %s\\b", years), "", text, perl = TRUE)
  if (identical(bare, text)) return(text)
  sub(whole, set$columns[match(years, set$times)], bare, perl = TRUE)
}

#' "from visit 0 to visit 3", "at visit 3 different from visit 0": two occasions set against each other, where a change or a difference is asked
#' @noRd
occasions_said <- function(study, text) {
  if (!grepl("\\b(from|between)\\b", text, ignore.case = TRUE, perl = TRUE)) return(text)
  words <- "(visit|week|month|day|wave|session|round|period|year|hour|occasion|phase|time|timepoint|trial)"
  changes <- grepl("\\b(chang|improv|increas|decreas|reduc|ris|rose|fall|fell|drop|grow|grew|gain|los|declin|worsen|differ|progress)", text,
                   ignore.case = TRUE, perl = TRUE)
  own <- vapply(all_columns(study), function(col) tolower(col$name), "")
  hit <- match_groups(text, sprintf("(?i)\\bfrom %s ([0-9]+) to (?:%s )?([0-9]+)\\b", words, words))
  if (changes && !is.na(hit[1]) && tolower(hit[2]) %in% own) {
    text <- sub(hit[1], sprintf("between %s %s and %s %s", hit[2], hit[3], hit[2], hit[5]), text, fixed = TRUE)
  }
  # ("at visit 3 different from visit 0")
  form <- sprintf("(?i)\\b(%s) ([0-9]+)\\b(.*?)\\b(?:different|differs?) from (?:that |those |it was |the one )?(?:at |in |on )?\\1 ([0-9]+)\\b",
      words)
  hit <- match_groups(text, form)
  if (!is.na(hit[1]) && tolower(hit[2]) %in% own) {
    text <- sub(hit[1], sprintf("%s %s%sversus %s %s", hit[2], hit[4], hit[5], hit[2], hit[6]), text, fixed = TRUE)
  }
  text
}

#' "the two population variables", "all three karnofsky scores": as many columns as are counted, written out
#' @noRd
open_counted <- function(out) {
  if (!grepl("\\b(two|three|four|five|six|both|[2-6])\\b", out$text, ignore.case = TRUE, perl = TRUE)) return(out)
  form <- paste0("(?i)\\b(?:all )?(?:the |of the )?(two|three|four|five|six|both|[2-6]) (?:of the )?([\\p{L}]{3,}) ",
                 "(variables|columns|measures|indicators|items|scores|ratings|measurements|values|predictors|covariates)\\b")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  count <- c(two = 2, both = 2, three = 3, four = 4, five = 5, six = 6)[tolower(hit[2])]
  if (is.na(count)) count <- as.numeric(hit[2])
  columns <- Filter(function(col) is_numeric_kind(col$kind) || col$kind == "ordered", all_columns(out$study))
  names <- vapply(columns, `[[`, "", "name")
  word <- tolower(hit[3]); stem <- stem_words(word)
  own <- vapply(names, function(n) { words <- strsplit(tolower(name_words(n)), " ")[[1]]
    stem %in% stem_words(words) || any(vapply(words, abbreviates, NA, word = word)) }, NA)
  if (sum(own) != count) return(out)
  out$text <- sub(hit[1], some_of(names[own], count), out$text, fixed = TRUE)
  out$told <- c(out$told, sprintf("Took %s to mean %s.", quoted(trimws(hit[1])), some_of(names[own], 6)))
  out
}

#' "at the highest nitrogen level": the rows at that end of a column of few values
#' @noRd
extreme_condition <- function(out) {
  if (!grepl("\\b(at|under|for) the (highest|lowest|largest|smallest|maximum|minimum|top|bottom)\\b", out$text, ignore.case = TRUE,
             perl = TRUE)) return(out)
  form <- "(?i)\\b(?:at|under|for) the (highest|lowest|largest|smallest|maximum|minimum|top|bottom) ((?:[\\p{L}_0-9.]+ ?){1,3})"
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(Filter(function(col) is_numeric_kind(col$kind) && col$distinct <= 20, all_columns(out$study)), hit[3])
  if (is.null(found) || !startsWith(tolower(hit[3]), tolower(found$said))) return(out)
  col <- found$col
  range <- range(understood(out$study, col$name, col$table), na.rm = TRUE)
  end <- if (grepl("^(hi|la|ma|to)", hit[2], ignore.case = TRUE)) range[2] else range[1]
  said <- regmatches(out$text, regexpr(paste0("(?i)", sub(hit[3], "", hit[1], fixed = TRUE), found$said, "( levels?| doses?| values?)?"), out$text,
      perl = TRUE))
  if (!length(said)) return(out)
  out$text <- sub(said, sprintf("where %s is %s", col$name, format_plain(end)), out$text, fixed = TRUE)
  out$told <- c(out$told, sprintf("Took %s to mean %s = %s.", quoted(said), col$name, format_plain(end)))
  out
}

#' "cores with mean permeability above 500": the groups are told with their means, of which those beyond can be read off
#' @noRd
groups_beyond <- function(out) {
  # (the patterns are slow, and most questions state no number)
  if (!grepl("[0-9]", out$text)) return(out)
  out$text <- groups_on_average(out$study, out$text)
  form <- paste0("(?i)^ *(?:(?:on |in )?how many |on which |in which |which |what |the |show |list )*([\\p{L}_]+?)s? (?:with|have|having|had|has|did|where|whose|(?:on|in) which)(?: the| an?)? ",  # nolint: line_length_linter.
                 "((?:mean|average|median|total|maximum|minimum|max|min|share|proportion|percentage) .+?|[\\p{L}_ ]+? rate) (?:is |of |was |were )?",
                 "(above|over|below|under|at least|at most|more than|less than|higher than|lower than|exceed(?:ed|s|ing)?(?: the)?|reach(?:ed|es)?) ([0-9.,]+) ?(%|per ?cent)?\\D*$")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  group <- if (!is.na(hit[1])) column_of_words(all_columns(out$study), hit[2])
  # ("on how many days did the mean exceed 15", of several rows a day)
  date <- rows_date(out)
  period <- if (!is.na(hit[1]) && is.null(group) && length(date) && grepl("^(day|week|month|quarter|year)$", tolower(hit[2]))) tolower(hit[2])
  if (is.null(group) && is.null(period)) return(out)
  # (a key of single rows makes no groups: the bound is on each row)
  if (!is.null(group) && any(vapply(keys_of(out$study, single = TRUE), function(k) k$name == group$name, NA))) return(out)
  sign <- c(above = ">", over = ">", `more than` = ">", `higher than` = ">", below = "<", under = "<", `less than` = "<", `lower than` = "<",
            `at least` = ">=", `at most` = "<=")
  value <- suppressWarnings(as.numeric(gsub(",", "", sub("[.,]+$", "", hit[5]))))
  if (is.na(value)) return(out)
  word <- tolower(hit[4])
  out$group_bound <- list(op = if (startsWith(word, "exceed")) ">" else if (startsWith(word, "reach")) ">=" else sign[[word]], value = value,
                          percent = !is.na(hit[6]))
  if (!is.null(period)) {
    out$text <- sprintf("%s by %s", hit[3], period)
    return(out)
  }
  out$text <- sprintf("%s by %s", hit[3], group$name)
  out
}

#' "which houses use more than 15 kwh a day on average": with a mean kwh above 15
#' @noRd
groups_on_average <- function(study, text) {
  bound <- "(more than|less than|over|under|above|below|at least|at most|fewer than) ([0-9.,]+)"
  # "which players average less than 7 hours of sleep"
  lead <- "(?i)^ *(?:(?:which|what|list|show|the) )*([\\p{L}_]+?)s? "
  each <- "(?: (?:a|per|each|every) \\p{L}+)?"
  forms <- c(sprintf("%s(\\p{L}+ )?%s ([\\p{L}_]+)%s on average[?.! ]*$", lead, bound, each),
             sprintf("%saverag(?:e|es|ed|ing)( )%s (?:\\p{L}+ of )?([\\p{L}_]+)%s[?.! ]*$", lead, bound, each))
  for (form in forms) {
    hit <- match_groups(text, form)
    if (is.na(hit[1]) || is.null(column_of_words(all_columns(study), hit[2]))) next
    own <- measure_of_unit(study, hit[6], hit[3])
    if (!is.null(own)) return(sprintf("which %s have a mean %s %s %s", hit[2], own$name, tolower(hit[4]), hit[5]))
  }
  text
}

#' The one measure that is called by a word or told in that unit; where several are, the one akin to the verb before it
#' @noRd
measure_of_unit <- function(study, word, verb) {
  units <- c(word, unit_words()[word], unlist(unit_tails()[word]), if (grepl("^hours?$", word)) "h")
  word <- tolower(word)
  own <- Filter(function(col) word %in% tolower(col$name) || (col$unit %||% "") %in% units || stem_words(word) %in% name_stems(col$name),
                numeric_columns(study))
  if (length(own) > 1 && !is.na(verb)) {
    kin <- stem_words(c(trimws(tolower(verb)), kin_words(trimws(tolower(verb)))))
    own <- Filter(function(col) any(kin %in% name_stems(col$name)), own)
  }
  if (length(own) == 1) own[[1]]
}

#' "pathologists 1 and 3" as "pathologist_1 and pathologist_3", where both are columns
#' @noRd
open_lists <- function(text, names) {
  form <- "(?i)\\b([\\p{L}_]{2,}?)s? ([0-9]{1,2})((?:, ?[0-9]{1,2})*),? (?:and|vs\\.?|versus|with|&) ([0-9]{1,2})\\b"
  if (!grepl("[0-9] (and|vs|versus|with|&) [0-9]", text, ignore.case = TRUE)) return(text)
  hit <- match_groups(text, form)
  if (is.na(hit[1])) return(text)
  numbers <- c(hit[3], stringi::stri_extract_all_regex(hit[4], "[0-9]+", omit_no_match = TRUE)[[1]], hit[5])
  bare <- gsub("[^a-z0-9]", "", tolower(names))
  at <- match(paste0(gsub("[^a-z]", "", tolower(hit[2])), numbers), bare)
  if (anyNA(at) || anyDuplicated(at)) return(text)
  sub(hit[1], some_of(names[at], length(at)), text, fixed = TRUE)
}

#' "patients over 60 versus the others", "over 60 and under 60": the rows on both sides of a bound, as a column of two bands
#' @section Shape: list(study, text), or NULL where the question sets no bound against its other side.
#' @noRd
sides_of_bound <- function(study, state, text) {
  # (in the words in which it was taken apart)
  text <- longer_than_said(text, study_vocabulary(study))
  bounds <- Filter(function(f) f$op %in% c("<", "<=", ">", ">=") && is.numeric(f$value) && length(f$value) == 1, state$filters)
  against <- "\\b(vs\\.?|versus|than|compared (with|to)|against|and|or|with) (in )?(the |all the |all )?(others?|rest|remaining( ones)?|remainder|everyone else|everybody else)\\b"  # nolint: line_length_linter.
  turned <- if (length(bounds) == 1) other_side_by_word(state, text)
  if (!is.null(turned)) { text <- turned; against <- "\\bthan the others\\b" }
  # "is rating lower when delivery takes more than 5 days", "what share of revenue comes from orders over 100"
  condition <- if (length(bounds) == 1 && !length(state$groups)) side_condition(text)
  if (!is.null(condition)) text <- condition
  rest <- !is.null(condition) || grepl(against, text, ignore.case = TRUE, perl = TRUE)
  same <- length(bounds) == 2 && bounds[[1]]$column == bounds[[2]]$column && abs(bounds[[1]]$value - bounds[[2]]$value) <= 1 &&
    substr(bounds[[1]]$op, 1, 1) != substr(bounds[[2]]$op, 1, 1)
  # "under 40 with those over 60": what lies between belongs to neither side
  apart <- !same && two_ends(bounds, text)
  if (!(rest && length(bounds) == 1) && !same && !apart) return(NULL)
  f <- bounds[[1]]
  columns <- Filter(function(col) col$name == f$column, numeric_columns(study))
  if (length(columns) != 1) return(NULL)
  whole <- columns[[1]]$kind == "count"
  # bands are closed below: "over 60" of whole numbers begins at 61
  values <- understood(study, f$column, columns[[1]]$table)
  beyond <- values[!is.na(values) & values > f$value]
  if (!length(beyond)) return(NULL)
  closed <- function(f) if (f$op %in% c(">=", "<")) f$value else if (whole) f$value + 1 else min(c(values[!is.na(values) & values > f$value], Inf))
  cut <- if (apart) sort(vapply(bounds, closed, 1)) else closed(f)
  if (anyDuplicated(cut) || any(!is.finite(cut))) return(NULL)
  labels <- if (apart) end_labels(bounds) else if (!f$op %in% c(">=", "<") && !whole) sprintf(c("up to %s", "over %s"), format_plain(f$value))
  name <- paste0(f$column, "_band")
  derived <- with_derived(list(study = study), name, "bands", f$column, text, cuts = cut, labels = labels)$study
  if (identical(derived, study)) return(NULL)
  derived$vocabulary <- build_vocabulary(derived)
  # a question whether the sides differ asks for a comparison
  whether <- if (grepl("^ *(do|does|did|is|are|was|were|has|have)\\b", text, ignore.case = TRUE, perl = TRUE)) "compare"
  bare <- trimws(without_mark(if (!is.null(condition)) text else without_bound(state, gsub(against, " ", text, ignore.case = TRUE))))
  if (grepl("comes from each$", bare)) return(list(study = derived, text = paste(bare, name), base = f$column))
  list(study = derived, text = paste(c(whether, bare, "by", name), collapse = " "), base = f$column,
       filter = if (apart) new_filter(name, "in", labels[c(1, 3)]))
}

#' The question without a condition whose other side it asks about but leaves out; NULL where it has none
#' @noRd
side_condition <- function(text) {
  bound <- "(?:more than|less than|fewer than|over|under|above|below|at least|at most|longer than|shorter than|older than|younger than)"
  when <- sprintf("(?i)^( *(?:is|are|was|were|do|does|did)\\b.*\\b(?:lower|higher|more|less|fewer|better|worse|longer|shorter|greater|smaller|larger|faster|slower)\\b(?:(?!\\bthan\\b).)*?),? (?:when|if|where|once|on|for|among|in) (?:(?!\\bthan\\b).)*%s [0-9][^?.!]*[?.! ]*$",  # nolint: line_length_linter.
                  bound)
  if (grepl(when, text, perl = TRUE)) return(sub(when, "\\1", text, perl = TRUE))
  shared <- sprintf("(?i)^ *((?:what |which )?(?:share|proportion|percentage|percent|fraction) of (?:the |our |all |total )*(?:[\\p{L}_]+ ?){1,3}?) (?:comes?|came|is|was|are|were) (?:from|by|due to|in|made by|earned by|with)\\b.*%s [0-9][^?.!]*[?.! ]*$",  # nolint: line_length_linter.
                    bound)
  if (grepl(shared, text, perl = TRUE)) paste(sub(shared, "\\1", text, perl = TRUE), "comes from each")
}

#' Two bounds of one column that leave a gap, set against each other
#' @noRd
two_ends <- function(bounds, text) {
  if (length(bounds) != 2 || bounds[[1]]$column != bounds[[2]]$column || !sets_against(text)) return(FALSE)
  below <- vapply(bounds, function(f) substr(f$op, 1, 1) == "<", NA)
  sum(below) == 1 && bounds[[which(below)]]$value < bounds[[which(!below)]]$value
}

#' "under 40", "40 to 60", "over 60"
#' @noRd
end_labels <- function(bounds) {
  below <- vapply(bounds, function(f) substr(f$op, 1, 1) == "<", NA)
  said <- function(f) paste(c("<" = "under", "<=" = "up to", ">" = "over", ">=" = "from")[[f$op]], format_plain(f$value))
  c(said(bounds[[which(below)]]), "between the two", said(bounds[[which(!below)]]))
}

#' "deep quakes (over 300 km) ... than shallow ones": the sides named by two opposite words; NULL where they are not
#' @noRd
other_side_by_word <- function(state, text) {
  hit <- match_groups(text, "(?i)\\bthan (?:the |those |in )?([a-z]+) (?:ones|[a-z]+s)\\b")
  table <- state$vocabulary$lexicon$adjectives
  own <- table[table$word == tolower(hit[2]), , drop = FALSE]
  if (is.na(hit[1]) || !nrow(own)) return(NULL)
  opposite <- unique(table$word[table$noun %in% own$noun & table$low != own$low[1]])
  said <- intersect(opposite, vapply(state$items, `[[`, "", "norm"))
  if (!length(said)) return(NULL)
  sub(sprintf("(?i)\\b%s ", said[1]), "", sub(hit[1], "than the others", text, fixed = TRUE), perl = TRUE)
}

#' The question without the words of its bound
#' @noRd
without_bound <- function(state, text) {
  numbers <- which(state$type == "number" & state$used)
  for (k in numbers) {
    words <- function(j) state$items[[j]]$text
    from <- k
    while (from > 1 && k - from < 4 && (state$used[from - 1] || item_norm(state, from - 1) %in% c("than", "with", "aged", "at",
        "least"))) from <- from - 1
    to <- k
    while (to < state$n && to - k < 4 && (state$used[to + 1] || (to + 1) %in% after_number(state, k)$items)) to <- to + 1
    # (a name of several words stands in the text as it is written in the data, "year_built")
    span <- paste(gsub(" ", "[^[:alnum:]]+", as_literal(vapply(from:to, words, "")), fixed = TRUE), collapse = "[^[:alnum:]]+")
    text <- sub(span, " ", text, ignore.case = TRUE)
  }
  gsub("\\b(vs\\.?|versus|and|or|with|than|against|between) *(?=(by\\b|$|for\\b|in\\b))", "", gsub(" +", " ", text), perl = TRUE, ignore.case = TRUE)
}
