# Everyday questions about groups: which of them differ, all of them from a control, two of them in an effect size.
# Each wish gives list(text, extra, told) as those of R/reading-models.R, or NULL.

#' The wishes of this file, each with words without which it cannot stand
#' @noRd
group_wishes <- function() {
  list(wish("drug|treatment|medication|intervention|therapy", wish_treatment_effect), wish("modif|moderat", wish_moderates),
       wish("intention[- ]to[- ]treat|\\bitt\\b", wish_as_assigned), wish("^ *(are|is) there .*without", wish_groups_without),
           wish("each other|one another", wish_differ_mutually), wish("control|placebo|untreated", wish_from_control),
       wish("power", wish_power_here),
       wish("compare", wish_against_average), wish("season", wish_seasonality), wish("year[- ](over|on)[- ]year|annual|yearly", wish_year_change),
       wish("number summary|numbers? summar", wish_five_numbers), wish("rate ratio", wish_rates_against),
       wish("\\bthan (the )?(returning|existing|old|repeat|established|current)\\b", wish_new_against_old),
           wish("unusual|abnormal|out of the ordinary", wish_latest_usual))
}

#' "which sprays differ from each other", "do the sites differ from one another in yield": all pairs of groups
#' @noRd
wish_differ_mutually <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:which|what|do|does|did|are) (?:of )?(?:the |any |all )*(.+?) (?:significantly |clearly |really )?",
      "(?:differ|differed|differs|different|are different|were different) from (?:each other|one another)(?: (?:in|on|for|regarding) (?:the |their )?(.+?))?[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  g <- column_said(vocabulary, hit[2])
  if (!divides_rows(g)) return(NULL)
  y <- if (is.na(hit[3])) sole_measure(vocabulary, g$name) else hit[3]
  if (is.null(y)) list(text = sprintf("compare the groups of %s", g$name), extra = list())
  else list(text = sprintf("does %s differ by %s", y, g$name), extra = list())
}

#' The one column that measures something, beside one that divides; NULL where there are several
#' @noRd
sole_measure <- function(vocabulary, but) {
  columns <- vocabulary$columns
  own <- which(columns$kind %in% c("number", "count") & columns$role == "" & !columns$name %in% but)
  if (length(own) == 1) columns$name[own]
}

#' "do the treatments differ from control": every other group against the one that is called so
#' @noRd
wish_from_control <- function(text, vocabulary) {
  level <- "(?:the )?(control|placebo|untreated|no treatment|ctrl)(?: group| arm| condition)?"
  hit <- first_match(text, paste0("(?i)^ *(?:do|does|did|are|is|which(?: of)?) (?:the |any |any of the |all |other |of the )*",
      "(treatments?|groups?|arms?|conditions?|interventions?|doses?|[\\p{L}_]+) (?:(?:significantly|clearly|really|all) )?",
                                  "(?:differ|differs|different|better|worse|higher|lower|deviate|deviates) (?:from|than) ", level,
                                  "(?: (?:in|on|for|regarding) (?:the |their )?(.+?))?[?. ]*$"))
  if (is.null(hit)) return(NULL)
  controls <- "^(control|controls|placebo|untreated|no treatment|ctrl|ctl)$"
  values <- vocabulary$values[grepl(controls, tolower(vocabulary$values$level)), , drop = FALSE]
  column <- unique(values$column)
  if (length(column) != 1 || vocabulary$columns$distinct[column] < 3) return(NULL)
  name <- vocabulary$columns$name[column]
  # (a word for groups, or the name of the very column)
  own <- grepl("^(treatment|group|arm|condition|intervention|dose)s?$", hit[2], ignore.case = TRUE) ||
      identical(column_said(vocabulary, hit[2])$name, name)
  y <- if (is.na(hit[4])) sole_measure(vocabulary, name) else column_said(vocabulary, hit[4])$name
  if (!own || is.null(y)) return(NULL)
  list(text = sprintf("Dunnett test of %s by %s against %s", y, name, values$level[1]), extra = list())
}

#' The level that words name, with or without the column's own name beside it ("family therapy" of therapy)
#' @section Shape: list(column (its place), level), or NULL.
#' @noRd
bare_level <- function(said, vocabulary) {
  words <- tolower(trimws(said))
  values <- vocabulary$values
  for (form in c(words, sub(" [^ ]+$", "", words), sub("^[^ ]+ ", "", words))) {
    own <- unique(values[values$phrase == joined_stems(form), c("column", "level")])
    rest <- setdiff(stems_of(words)[[1]], stems_of(form)[[1]])
    if (nrow(own) != 1) next
    if (!length(rest) || all(rest %in% c(name_stems(vocabulary$columns$name[own$column]), vocabulary$lexicon$generic, "group", "arm"))) {
      return(list(column = own$column, level = own$level))
    }
  }
}

#' "power for this design", "is the study big enough": what the declared or only comparison could have found
#' @noRd
wish_power_here <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "(?:statistical )?power (?:of|for|in|with) (?:this|the|our|my) (?:design|study|data|trial|sample|experiment)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  columns <- vocabulary$columns
  g <- which(columns$kind == "category" & columns$distinct %in% 2:12)
  y <- sole_measure(vocabulary, character())
  if (length(g) != 1 || is.null(y)) return(NULL)
  list(text = sprintf("power to compare %s by %s", y, columns$name[g]), extra = list())
}

#' "how does California compare with the average in income": one row's value against the mean of all
#' @noRd
wish_against_average <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *how (?:do|does|did) (?:the )?(.+?) compare (?:with|to|against) (?:the )?(?:overall |general )?(?:average|mean|others|rest|other [\\p{L}]+|all others) ",  # nolint: line_length_linter.
                                  "(?:in|on|for|regarding|in terms of) (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[3])
  level <- bare_level(hit[2], vocabulary)
  if (is.null(y) || !y$kind %in% c("number", "count", "ordered")) return(NULL)
  if (!is.null(level)) return(list(text = sprintf("compare %s of %s against the rest", y$name, level$level), extra = list()))
  NULL
}

#' "is there seasonality", "are sales seasonal": months of the year compared, where one measure and one date are there
#' @noRd
wish_seasonality <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:is|are|was|were) (?:there )?(?:any |a |some |clear )*(?:season(?:ality|al(?: (?:pattern|effect|variation|cycle|component)s?)?)|seasonal)",  # nolint: line_length_linter.
                                  "(?: (?:in|of|for) (?:the )?(.+?))?(?: data| series)?[?. ]*$"))
  if (is.null(hit)) hit <- first_match(text, "(?i)^ *(?:is|are|was|were) (?:the )?(.+?) seasonal[?. ]*$")
  if (is.null(hit)) return(NULL)
  y <- if (is.na(hit[2]) || hit[2] %in% c("the", "this", "these")) sole_measure(vocabulary, character()) else column_said(vocabulary, hit[2])$name
  if (is.null(y) || sum(vocabulary$columns$kind %in% c("date", "datetime")) != 1) return(NULL)
  list(text = sprintf("seasonal trend of %s", y), extra = list())
}

#' "year over year change", "annual growth of sales": totals or means by year, and how they move
#' @noRd
wish_year_change <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "(?:year[- ](?:over|on)[- ]year|annual|yearly) (?:percent(?:age)? |% )?(?:change|growth|increase|rate of change|growth rate)s?",  # nolint: line_length_linter.
                                  "(?: (?:in|of|for) (?:the )?(.+?))?[?. ]*$"))
  if (is.null(hit)) return(NULL)
  y <- if (is.na(hit[2])) sole_measure(vocabulary, character()) else column_said(vocabulary, hit[2])$name
  if (is.null(y) || sum(vocabulary$columns$kind %in% c("date", "datetime")) != 1) return(NULL)
  list(text = sprintf("growth of %s per year", y), extra = list())
}

#' "5 number summary of age": no number of that size
#' @noRd
wish_five_numbers <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)\\b(?:5|five)[- ]numbers? summar(?:y|ies)\\b")
  if (!is.null(hit)) list(text = sub(hit[1], "summary", text, fixed = TRUE), extra = list())
}

#' "rate ratio of falls geriatric vs medical": the rates compared, for which it has to be said what they are per
#' @noRd
wish_rates_against <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(), "rate ratios? (?:of|for|in) (?:the )?([\\p{L}_]+) (?:for |between |comparing |of )?(?:the )?(.+?) (?:versus|vs\\.?|against|compared (?:with|to)|and) (?:the )?(.+?)[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit) || grepl("\\b(adjust|control|per|exposure|offset)", text, ignore.case = TRUE)) return(NULL)
  y <- column_said(vocabulary, hit[2])
  sides <- lapply(hit[3:4], bare_level, vocabulary = vocabulary)
  if (is.null(y) || y$kind != "count" || any(vapply(sides, is.null, NA)) || sides[[1]]$column != sides[[2]]$column) return(NULL)
  list(text = sprintf("does the %s rate differ between %s and %s", y$name, sides[[1]]$level, sides[[2]]$level), extra = list())
}

#' "do new customers spend less than returning ones", of a yes/no column NewCustomer: its two sides
#' @noRd
wish_new_against_old <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:do|does|did|are|is|were|was|have) (?:the )?(new [\\p{L}]+) (.+?) (?:more|less|fewer|higher|lower|better|worse|larger|smaller|longer|shorter)(.*?) than (?:the )?(?:returning|existing|old|repeat|established|current) ?(?:ones|[\\p{L}]+)?[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  columns <- vocabulary$columns
  own <- which(columns$kind == "yes_no" & vapply(columns$name, function(n) all(name_stems(n) %in% stem_words(strsplit(tolower(hit[2]), " ")[[1]])),
      NA) &
    grepl("new", columns$name, ignore.case = TRUE))
  what <- trimws(paste(hit[3], hit[4]))
  if (length(own) != 1 || !nzchar(what)) return(NULL)
  list(text = sprintf("compare %s by %s", what, columns$name[own]), extra = list())
}

#' "is the latest month unusual for ward C1": against what is usual for the same unit
#' @noRd
wish_latest_usual <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:is|was|are|were) (?:the )?(?:(.+?) (?:in|for|of) )?(?:the )?(?:latest|last|most recent) (?:day|week|month|value|measurement)s? (?:[\\p{L}]+ )?(?:unusual|abnormal|out of the ordinary)((?: for| in| at) .+?)?[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit) || !any(vocabulary$columns$kind %in% c("date", "datetime"))) return(NULL)
  y <- if (is.na(hit[2])) sole_measure(vocabulary, character()) else column_said(vocabulary, hit[2])$name
  list(text = trimws(sprintf("%s against its usual range%s", if (is.null(y)) "recent values" else y, if (is.na(hit[3])) "" else hit[3])),
      extra = list())
}

#' The column that holds the arms of a trial: one of its levels is a control, or its name says so
#' @section Shape: Row of the vocabulary's columns, or NULL where none or several could be meant.
#' @noRd
arms_of_trial <- function(vocabulary) {
  columns <- vocabulary$columns
  controls <- "^(control|controls|placebo|untreated|no treatment|usual care|standard care|sham|waitlist|ctrl|ctl)$"
  own <- unique(vocabulary$values$column[grepl(controls, tolower(vocabulary$values$level))])
  if (!length(own)) own <- which(columns$kind %in% c("category", "yes_no") & grepl("^(arm|treatment|trt|allocation|randomi[sz]ed)([_. ]|$)",
      tolower(columns$name)))
  if (length(own) == 1) columns[own, ]
}

#' "does the drug reduce pain at week 8 compared with placebo": the arms of the trial compared
#' @noRd
wish_treatment_effect <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:do|does|did|is|has) (?:the )?(?:study )?(?:drug|treatment|medication|intervention|therapy)s? (?:significantly |clearly |really )?",  # nolint: line_length_linter.
      "(?:reduce|lower|improve|increase|raise|affect|change|decrease|influence|help(?: with)?|work (?:for|on)|had? an effect on|have an effect on|effective (?:for|against|in reducing))d? ",  # nolint: line_length_linter.
                                  "(?:the )?(.+?),? (?:compared (?:with|to)|versus|vs\\.?|relative to|over|than|against) (?:the )?(?:control|placebo|usual care|no treatment)(?: group| arm)?[?. ]*$"))  # nolint: line_length_linter.
  arms <- arms_of_trial(vocabulary)
  # (where a level is called so, its own column says whom to compare)
  if (any(vocabulary$values$phrase %in% c("drug", "treatment", "medic", "intervent", "therapi"))) return(NULL)
  if (is.null(hit) || is.null(arms) || any(grepl("drug|treatment|medication|intervention|therapy", setdiff(vocabulary$columns$name, arms$name)[
    vocabulary$columns$kind[vocabulary$columns$name != arms$name] %in% c("category", "yes_no")]))) return(NULL)
  list(text = sprintf("does %s differ by %s", hit[2], arms$name), extra = list())
}

#' "does bmi modify the treatment effect (on pain)": whether the effect depends on it
#' @noRd
wish_moderates <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:do|does|did|is) (?:the )?(.+?) (?:modif(?:y|ies)|moderates?|a moderator of|a modifier of) (?:the )?(?:effects? of (?:the )?(.+?)|(.+?) effects?)(?: on (?:the )?(.+?))?[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  by <- column_said(vocabulary, hit[2])
  cause <- stats::na.omit(hit[3:4])[1]
  x <- if (grepl("^(treatment|drug|intervention|therapy)$", cause, ignore.case = TRUE)) arms_of_trial(vocabulary) else column_said(vocabulary, cause)
  if (is.null(by) || is.null(x) || by$name == x$name) return(NULL)
  list(text = sprintf("does the effect of %s%s depend on %s", x$name, if (is.na(hit[5])) "" else paste(" on", hit[5]), by$name), extra = list())
}

#' "intention to treat comparison of pain by arm": all rows in the group they were assigned to, as the rows stand
#' @noRd
wish_as_assigned <- function(text, vocabulary) {
  form <- "(?i),? *\\b(?:an? |the |by |using |with |in an? )*\\(?(?:intention|intent)[- ]to[- ]treat(?: principle| basis| population| analysis)?\\)?|\\bitt\\b(?: analysis| population)?"  # nolint: line_length_linter.
  if (!grepl(form, text, perl = TRUE) || any(grepl("^itt", vocabulary$columns$name, ignore.case = TRUE))) return(NULL)
  arms <- arms_of_trial(vocabulary)
  rest <- trimws(sub("^ *(?:of|for) ", "", sub(form, " ", text, perl = TRUE)))
  if (!is.null(arms) && grepl("compar", rest, ignore.case = TRUE) && !grepl(paste0("\\b", arms$name, "\\b|\\bby\\b|between"), rest,
      ignore.case = TRUE)) {
    rest <- sub("(?i)^(?:the )?comparison of ", "compare ", paste(sub("[?. ]+$", "", rest), "by", arms$name), perl = TRUE)
  }
  list(text = rest, extra = list(),
      told = "Every row counts in the group it stands in, whatever happened later; rows without a value of the outcome are left out.")
}

#' "are there departments without any leavers": which of them have none
#' @noRd
wish_groups_without <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:are|is) there (?:an?y? )?(.+?) without (?:any |an? )?(.+?)[?. ]*$")
  if (is.null(hit) || !divides_rows(column_said(vocabulary, hit[2]))) return(NULL)
  list(text = sprintf("which %s have no %s", hit[2], hit[3]), extra = list())
}
