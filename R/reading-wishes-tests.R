# Wishes about a test or a statistic that stand beside what it is of: how much is trimmed, a margin, the shares expected.
# Each turn gives list(text, extra) as those of R/reading-models.R, or NULL.

#' The wishes of this file, each with words without which it cannot stand
#' @noRd
test_wishes <- function() {
  bound <- "(above|below|over|under|least|most|than) [0-9]"
  list(wish("(proportion|share|percent|fraction|%).*[0-9]", wish_share_against), wish("median.*[0-9]", wish_median_is),
       wish("(mean|average|median|typical).*[0-9]", wish_mean_against), wish("effect sizes?", wish_effect_size), wish("\\bapart\\b", wish_apart),
       wish("intra-?class|\\biccs?\\b", wish_icc_form), wish("between|intra-?class|\\biccs?\\b", wish_between_share), wish(bound, wish_bound_in), wish("promoter|detractor|passive", wish_promoters),  # nolint: line_length_linter.
           wish("\\branks?\\b", wish_by_ranks), wish("running|cumulative|accumulated|year.to.date", wish_running),
       wish("\\b(each|every)\\b", wish_extreme_each), wish("trim|winsor", wish_trim), wish("inferior|worse|as good", wish_margin_words),
       wish("[0-9].*[0-9]", wish_expected_shares), wish("equal|\\beven\\b|uniform|balanced|\\bas (frequent|often|common|likely|represented|popular|many|large|sized)", wish_equally_common),  # nolint: line_length_linter.
       wish("correlat|pairwise", wish_correlation_map), wish("columns|variables|correlat", wish_columns_plural))
}

#' "is the proportion with yield above 20 different from 30 %", "do more than a fifth score above 7": a share that a bound makes, against a value
#' @noRd
wish_share_against <- function(text, vocabulary) {
  part <- "([0-9]+(?:[.][0-9]+)?) ?(?:%|per ?cent\\b)"
  than <- "(?:(?:significantly|clearly|really|statistically) )?(?:different from|differ from|differs from|above|below|over|under|higher than|lower than|more than|less than|greater than|smaller than|equal to|at least|at most)"  # nolint: line_length_linter.
  hit <- first_match(text, sprintf("(?i)^ *(?:is|are|was|were|(?:test|check) (?:whether|if)) (?:the )?(?:proportion|share|percentage|percent|fraction)(?: of (?:the |all )?\\p{L}+)? (?:with|where|whose|(?:who|that|which) (?:have|has|had)|having) (?:an? |the |their )?(.+? [0-9.]+.*?)(?: is| are| was| were)? %s %s[?. ]*$", than, part))  # nolint: line_length_linter.
  if (is.null(hit)) {
    hit <- first_match(text, sprintf("(?i)^ *(?:do|did|does) (?:more|fewer|less) than %s of (?:the |all )?(?:\\p{L}+ )?(?:have|has|had|show|report|reach) (?:an? |the )?(.+? [0-9.]+.*?)[?. ]*$", part))  # nolint: line_length_linter.
    if (is.null(hit)) return(NULL)
    hit <- hit[c(1, 3, 2)]
  }
  value <- as.numeric(hit[3]) / 100
  if (value <= 0 || value >= 1) return(NULL)
  list(text = sprintf("what proportion has %s", hit[2]), extra = list(null_value = value),
       told = sprintf("The share is compared with %s %%.", format_plain(as.numeric(hit[3]))))
}

#' "is the median satisfaction 6", "sign test of whether the median of X is 6"
#' @noRd
wish_median_is <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(sign test(?: of)?|(?:one[- ]sample )?(?:wilcoxon|signed[- ]rank)(?: test)?(?: of)?)?,? ?(?:is|whether|if|that|test whether|check whether|(?:test|check) (?:that|if)) (?:the )?median (?:of |for )?(?:the )?(.+?) (?:(?:is|equals|be|was) )?(?:equal to )?([0-9]+(?:[.][0-9]+)?)[?. ]*$")  # nolint: line_length_linter.
  # (a condition or a bound belongs to other readings)
  if (is.null(hit) || grepl("\\b(in|for|among|of|at|above|below|over|under|different|more|less|higher|lower|greater|than|from|within|by|between)\\b", hit[3],  # nolint: line_length_linter.
                            ignore.case = TRUE)) return(NULL)
  y <- column_said(vocabulary, hit[3])
  if (is.null(y) || !y$kind %in% c("number", "count", "ordered")) return(NULL)
  named <- if (is.na(hit[2])) "" else trimws(sub("(?i) of$", "", hit[2], perl = TRUE))
  if (!nzchar(named)) return(list(text = sprintf("is the median %s different from %s", y$name, hit[4]), extra = list(median_asked = TRUE)))
  list(text = sprintf("%s of %s against %s", named, y$name, hit[4]), extra = list())
}

#' "is the mean yield in the north above 20 kg": the group goes to the end, a unit that is the measure's own is not said twice
#' @noRd
wish_mean_against <- function(text, vocabulary) {
  bound <- "(?:(?:significantly|clearly|really|statistically) )?(above|below|over|under|more than|less than|higher than|lower than|greater than|smaller than|at least|at most|different from|equal to) ([0-9][0-9.,]*)(?: ?(%|[\\p{L}\u00b0][\\p{L}/\u00b0]*[0-9]?))?[?. ]*$"  # nolint: line_length_linter.
  lead <- "(?i)^ *(?:is|are|was|were) (?:the )?(mean|average|median|typical) (.+?)"
  # "for Brigg, is the mean ... above": the condition goes to the end
  before <- first_match(text, "(?i)^ *((?:in|for|among|at|within) [^,]+), *((?:is|are|was|were) .+?)([?. ]*)$")
  if (!is.null(before)) text <- sub("(?i) (above|below|over|under|more than|less than|higher than|lower than|greater than|smaller than|at least|at most|different from|equal to) ([0-9])",  # nolint: line_length_linter.
                                    sprintf(" %s \\1 \\2", before[2]), before[3], perl = TRUE)
  hit <- first_match(text, paste0(lead, " (in|for|of|among|at|on|within|from|with) (.+?) ", bound))
  if (is.null(hit)) {
    hit <- first_match(text, paste0(lead, " ", bound))
    if (is.null(hit) || is.na(hit[6]) && tolower(hit[2]) != "median") return(NULL)
    hit <- c(hit[1:3], "", "", hit[4:6])
  }
  y <- column_said(vocabulary, hit[3])
  median <- tolower(hit[2]) == "median"
  extra <- if (median) list(median_asked = TRUE) else list()
  # ("the average gain in phonics above 5": the measure is worked out later, but the group is known)
  level <- nzchar(hit[5]) && joined_stems(tolower(hit[5])) %in% vocabulary$values$phrase
  if (is.null(y) && level && is.na(hit[8])) {
    return(list(text = sprintf("is the mean %s %s %s %s %s", hit[3], hit[6], hit[7], hit[4], hit[5]), extra = extra))
  }
  if (is.null(y) || !y$kind %in% c("number", "count", "ordered")) return(NULL)
  unit <- hit[8]
  own <- !is.na(unit) && (tolower(unit) == tolower(y$unit) || identical(unname(unit_words()[tolower(unit)]), y$unit))
  if (!is.na(unit) && !own || !nzchar(hit[5]) && !own && !median) return(NULL)
  list(text = trimws(sprintf("is the mean %s %s %s %s %s", y$name, hit[6], hit[7], hit[4], hit[5])), extra = extra)
}

#' "ICC(3,k) of A and B", "intraclass correlation for consistency of the mean rating": which of the six forms
#' @noRd
wish_icc_form <- function(text, vocabulary) {
  form <- "(?i)\\b(iccs?|intra-?class correlations?(?: coefficients?)?) ?[(]? ?([123]) ?[,.] ?(1|k|[2-9]) ?[)]?"
  hit <- first_match(text, form)
  if (!is.null(hit)) return(list(text = sub(form, "\\1", text, perl = TRUE), extra = list(icc_form = list(model = as.integer(hit[3]), mean = hit[4] != "1"))))  # nolint: line_length_linter.
  model <- if (grepl("\\bconsistency\\b", text, ignore.case = TRUE, perl = TRUE)) 3L else if (grepl("\\bone-?way\\b", text, ignore.case = TRUE)) 1L
  mean <- grepl("\\b(average|mean)[- ](measures?|ratings?)\\b|\\bof the (mean|average) (rating|of (the|all) (raters|ratings))\\b", text, ignore.case = TRUE)  # nolint: line_length_linter.
  if (is.null(model) && !mean) return(NULL)
  plain <- gsub("(?i)\\b(?:with |for |of |as )?(?:absolute )?(?:consistency|one-?way(?: random(?: effects)?)?|(?:average|mean)[- ](?:measures?|ratings?))\\b,?", "", text,  # nolint: line_length_linter.
                perl = TRUE)
  list(text = trimws(gsub(" +", " ", plain)), extra = list(icc_form = compact(list(model = model, mean = mean))))
}

#' "how many standard deviations apart are A and B in Y"
#' @noRd
wish_apart <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *how (?:many (?:standard deviations|sds?)|far) apart (?:are|were|is) (?:the )?(.+?) and (?:the )?(.+?) (?:in|on|for|by|regarding) (?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit) || is.null(column_said(vocabulary, hit[4]))) return(NULL)
  list(text = sprintf("difference in %s between %s and %s", hit[4], hit[2], hit[3]), extra = list())
}

#' "how much of the variation in Y lies between classes", "intraclass correlation of Y by class": rows within groups
#' @noRd
wish_between_share <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:how much|what (?:share|proportion|percentage|part|fraction)) of (?:the )?(?:total )?(?:variance|variation|variability|spread|differences?) (?:in|of) (?:the )?(.+?) ",  # nolint: line_length_linter.
                                  "(?:lies|is|exists|occurs|comes from differences|stems from differences)? ?(?:due to differences )?between (?:the )?(.+?)[?. ]*$"))  # nolint: line_length_linter.
  if (is.null(hit)) hit <- first_match(text, "(?i)^ *(?:what is |give |compute |show )?(?:the )?(?:intra-?class correlations?(?: coefficients?)?|iccs?) (?:of|for|in) (?:the )?(.+?) (?:by|for|across|between|in|over) (?:the )?(.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[2]); g <- column_said(vocabulary, hit[3])
  columns <- vocabulary$columns
  if (is.null(y) || is.null(g) || !y$kind %in% c("number", "count", "ordered") || !g$kind %in% c("category", "id", "text")) return(NULL)
  # (units that come back were rated, each by several; so were the things of a second column of names)
  rated <- any(columns$kind == "id" & !columns$unique & columns$name != g$name)
  across <- grepl("\\b(across|over)\\b", hit[1], ignore.case = TRUE) && any(columns$kind %in% c("category", "text") & columns$name != g$name)
  if (rated || across) return(NULL)
  # (a word for several columns stays open)
  sought <- stems_of(tolower(hit[2]))[[1]]
  fits <- vapply(columns$name, function(name) all(sought %in% name_stems(name)), NA) & columns$kind %in% c("number", "count", "ordered")
  list(text = sprintf("intraclass correlation of %s within %s", if (sum(fits) > 1) hit[2] else y$name, g$name), extra = list())
}

#' "pupils below 40 in reading post": the bound is of the column behind it
#' @noRd
wish_bound_in <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)\\b(above|below|over|under|at least|at most|more than|less than|fewer than) ([0-9]+(?:[.][0-9]+)?) (?:points? |marks? )?(?:in|on|for) (?:the )?((?:[\\p{L}_0-9]+ ?){1,5})")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  words <- strsplit(trimws(hit[4]), " ")[[1]]
  for (n in rev(seq_len(min(4, length(words))))) {
    said <- paste(words[seq_len(n)], collapse = " ")
    at <- unique(vocabulary$phrases$column[vocabulary$phrases$phrase == joined_stems(tolower(said))])
    if (length(at) != 1 || !vocabulary$columns$kind[at] %in% c("number", "count")) next
    whole <- substr(hit[1], 1, nchar(hit[1]) - nchar(hit[4]) + nchar(said))
    return(list(text = sub(whole, sprintf("with %s %s %s", vocabulary$columns$name[at], hit[2], hit[3]), text, fixed = TRUE), extra = list()))
  }
}

#' "adjusted difference between A and B in Y", and nothing is said of what to adjust for: asked back
#' @noRd
adjusted_for_nothing <- function(study, text) {
  form <- "(?i)\\b(?:covariate[- ]|baseline[- ])?adjusted (?=(?:mean )?(?:differences?|effects?|comparisons?|odds|risks?|means?|analysis|association|relation)\\b)"  # nolint: line_length_linter.
  told <- "(?i)\\badjust\\w* for\\b|\\b(?:controlling|controlled|allowing|accounting|holding|given|correct\\w* for)\\b|\\bp[- ]values?\\b|r[- ]squared|residual"  # nolint: line_length_linter.
  if (!grepl(form, text, perl = TRUE) || grepl(told, text, perl = TRUE)) return(NULL)
  plain <- sub(form, "", text, perl = TRUE)
  base <- read_question(study, plain)
  r <- base$reading
  if (!identical(base$status, "answered") || length(r$outcome) != 1) return(NULL)
  # what was measured at the start comes first
  sets <- Filter(function(set) r$outcome %in% set$columns, change_pairs(base$study %||% study))
  starts <- setdiff(vapply(sets, function(set) set$columns[1], ""), r$outcome)
  others <- setdiff(vapply(numeric_columns(study), `[[`, "", "name"), c(r$outcome, unlist(lapply(sets, `[[`, "columns"))))
  beside <- utils::head(c(starts, others), 3)
  if (!length(beside)) return(NULL)
  choices <- compact(lapply(beside, function(name) {
    own <- read_question(study, sprintf("%s adjusting for %s", sub("[?. ]+$", "", plain), name))
    if (identical(own$status, "answered")) own$reading
  }))
  choices <- c(choices, list(r))
  choice_verdict(list(vocabulary = study_vocabulary(study)), r, choices,
      paste("The question asks for an adjusted figure and does not say what to adjust for.",
    "Choose one of the readings below, by number, or add \"adjusting for ...\"; the last is not adjusted."))
}

#' "running total of sales", "cumulative sales by month": totals of periods, added up from the first
#' @noRd
wish_running <- function(text, vocabulary) {
  if (!any(vocabulary$columns$kind %in% c("date", "datetime"))) return(NULL)
  hit <- first_match(text, "(?i)\\b(?:the )?(?:(?:running|cumulative|accumulated) (?:totals?|sums?|numbers?|counts?)(?: of| for)?|cumulative|accumulated) (?:the )?(?!incidence|risk|hazard|distribution|frequenc|probabilit)(.+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  counted <- is.null(column_said(vocabulary, sub("(?i) (?:by|per|over|each|in|for|since|from) .*$", "", hit[2], perl = TRUE)))
  timed <- grepl("(?i)\\b(?:by|per|each|every) (?:day|week|month|quarter|year)\\b|over time", hit[2], perl = TRUE)
  list(text = paste0(sub(hit[1], paste(if (counted) "number of" else "total", hit[2]), text, fixed = TRUE), if (!timed) " over time"),
       extra = list(running = TRUE, trend_test = FALSE))
}

#' "share of promoters by country", "how many detractors": of answers from 0 to 10 to a question of recommending
#' @noRd
wish_promoters <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)\\b(promoters?|detractors?|passives?)\\b(?: ?\\((?:9 (?:or|and|to|-) 10|9-10|0 (?:to|-) 6)\\))?(?! score)")
  # (two of them are set against each other: bands of the answers)
  if (is.null(hit) || several_recommenders(text)) return(NULL)
  columns <- vocabulary$columns
  own <- which(columns$kind %in% c("count", "number",
      "ordered") & grepl("(^|[_. ])(nps|recommend\\w*|promoter\\w*|likelihood_to_recommend)([_. ]|$)", tolower(columns$name)))
  if (length(own) != 1 || grepl("promoter|detractor|passive", tolower(columns$name[own]))) return(NULL)
  name <- columns$name[own]
  # (a name that is itself a question cannot stand within another: there the answers are put in bands)
  if (grepl("[^[:alnum:]_. ]", name)) return(NULL)
  part <- switch(substr(tolower(hit[2]), 1, 1), p = if (startsWith(tolower(hit[2]), "pro")) sprintf("rows with %s at least 9", name) else
    sprintf("rows with %1$s at least 7 and %1$s at most 8", name), d = sprintf("rows with %s at most 6", name))
  list(text = sub(hit[1], part, text, fixed = TRUE), extra = list())
}

#' "fastest time in each group", "highest score per class": the extreme of each group, not a ranking of groups
#' @noRd
wish_extreme_each <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)^ *(?:what is |show |give |list )?(?:the )?(fastest|quickest|shortest|lowest|smallest|cheapest|slowest|longest|highest|largest|biggest|heaviest|tallest|oldest|youngest|lightest|best|worst) (.+?) (?:in|for|of|per|by) (?:each|every) (.+?)[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  y <- column_said(vocabulary, hit[3]); g <- column_said(vocabulary, hit[4])
  if (is.null(y) || !y$kind %in% c("number", "count") || !divides_rows(g)) return(NULL)
  word <- tolower(hit[2])
  if (word %in% c("best", "worst")) return(NULL)
  low <- word %in% c("fastest", "quickest", "shortest", "lowest", "smallest", "cheapest", "youngest", "lightest")
  # (of a speed the fastest is the highest)
  if (word %in% c("fastest", "quickest", "slowest") && grepl("speed|velocity|pace_kmh|kmh|mph", tolower(y$name))) low <- !low
  list(text = sprintf("%s %s by %s", if (low) "minimum" else "maximum", y$name, g$name), extra = list())
}

#' "effect size of syrup against control on yield": the two levels named, not all
#' @noRd
wish_effect_size <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *", ask_lead(),
      "(?:standardi[sz]ed )?effect sizes? (?:of|for|between) (?:the )?(.+?) (?:against|versus|vs\\.?|compared (?:with|to)|over|and) ",
                                  "(?:the )?(.+?) (?:on|for|in) (?:the )?(.+?)[?. ]*$"))
  if (is.null(hit)) return(NULL)
  # ("full against none insulation", "family therapy versus control": the column's name may stand behind a level)
  sides <- lapply(hit[2:3], bare_level, vocabulary = vocabulary)
  if (any(vapply(sides, is.null, NA)) || sides[[1]]$column != sides[[2]]$column) return(NULL)
  list(text = sprintf("difference in %s between %s and %s", hit[4], sides[[1]]$level, sides[[2]]$level), extra = list())
}

#' "10 % trimmed mean", "trimmed mean (10 %)", "winsorised at 5 %": the share cut from each end
#' @noRd
wish_trim <- function(text, vocabulary) {
  if (!grepl("trim|winsor", text, ignore.case = TRUE)) return(NULL)
  share <- "([0-9]{1,2}(?:[.]0+)?) ?(?:%|per ?cent|percent)"
  word <- "(trimmed|winsori[sz]ed)"
  forms <- c(sprintf("(?i)\\b%s[- ]%s", share, word), sprintf("(?i)\\b%s( mean| means| average| t[- ]test)?,? \\(?(?:at |by |with |of |from )?%s(?: (?:trimming|trimmed|cut))?(?: (?:from|off|at) (?:each|either|both) (?:end|side|tail)s?)?\\)?",  # nolint: line_length_linter.
                                                                  word, share))
  # "a trimmed t test ... with 10 % trimming"
  apart <- first_match(text, sprintf("(?i),? *(?:with|using|at) (?:a )?%s (?:trimming|trim|cut|winsori[sz]ing)(?: (?:from|off|at) (?:each|either|both) (?:end|side|tail)s?)?", share))  # nolint: line_length_linter.
  if (!is.null(apart)) return(list(text = sub(apart[1], "", text, fixed = TRUE), extra = list(trim = as.integer(as.numeric(apart[2])))))
  first <- first_match(text, forms[1])
  hit <- if (is.null(first)) first_match(text, forms[2])
  if (is.null(first) && is.null(hit)) return(NULL)
  cut <- as.integer(as.numeric(if (is.null(first)) hit[4] else first[2]))
  if (cut < 1 || cut > 49) return(NULL)
  own <- if (is.null(first)) paste0(hit[2], if (is.na(hit[3])) "" else hit[3]) else first[3]
  list(text = sub(if (is.null(first)) hit[1] else first[1], own, text, fixed = TRUE), extra = list(trim = cut))
}

#' "not inferior by 2 kg", "no worse than B in Y, margin 2": the words of the field
#' @noRd
wish_margin_words <- function(text, vocabulary) {
  if (!grepl("[0-9]", text)) return(NULL)
  form <- "(?i)\\b(?:not (?:clearly |much |meaningfully )?(?:inferior|worse)|no worse|at least as good)\\b(?: (?:to|than|as))?"
  if (!grepl(form, text, perl = TRUE)) return(NULL)
  plain <- sub(form, "non-inferior to", text, perl = TRUE)
  plain <- sub("(?i),? \\b(?:by|with|at|for|using|given)? ?(?:no |not )?(?:more than )?(?:a |the )?margin(?: of)? ([0-9.]+)",
      " with a margin of \\1", plain, perl = TRUE)
  plain <- sub("(?i) by (?:no more than |not more than |more than |at most )?([0-9.]+)", " with a margin of \\1", plain, perl = TRUE)
  if (plain != text) list(text = plain, extra = list())
}

#' "is region split 40:30:30", "does region follow 40 % north, 35 % south and 25 % coast", "in the ratio 2:1:1"
#' @section Shape: extra: expected_shares, a named vector (by level) or an unnamed one in the order of the levels.
#' @noRd
wish_expected_shares <- function(text, vocabulary) {
  number <- "[0-9]+(?:[.][0-9]+)?"
  asks <- paste0("(?i)\\b(?:split|distributed|divided|spread|follow(?:s|ing)?|fit(?:s|ting)?|match(?:es|ing)?|expected|differ(?:s|ent)?|against|goodness|ratio|in line with|",  # nolint: line_length_linter.
                 "consistent with|compared? (?:with|to)|as)\\b")
  if (!grepl(asks, text, perl = TRUE)) return(NULL)
  lead <- "(?i)^ *(?:please )?(?:(?:is|are|do|does|did|was|were|test|check|compare) )?(?:whether |if )?(?:the )?(?:distribution of |shares? of |split of |counts? of |levels of |rows of )?(?:the )?(.+?) "  # nolint: line_length_linter.
  # "40 % north, 35 % south and 25 % coast", "40:35:25 for north, south and coast"
  each <- first_match(text, sprintf("(?i)\\b(%1$s ?(?:%%|per ?cent)? (?:of |in |for )?[\\p{L}_ -]+(?:(?:,| and|, and) %1$s ?(?:%%|per ?cent)? (?:of |in |for )?[\\p{L}_ -]+)+)[?. ]*$", number))  # nolint: line_length_linter.
  listed <- first_match(text, sprintf("(?i)\\b(%1$s ?%%?(?: ?[:/,-] ?%1$s ?%%?| and %1$s ?%%?| %1$s ?%%?){1,11})[?. ]*$", number))
  said <- if (!is.null(each)) each[2] else if (!is.null(listed)) listed[2]
  if (is.null(said)) return(NULL)
  before <- sub("(?i)[ :]*(?:of|in|into|the|an?|ratio|ratios|shares?|proportions?|percentages?|expected|as|to|with|a split|split|from|against)*[ :]*$", "",  # nolint: line_length_linter.
                sub(paste0(as_literal(said), "[?. ]*$"), "", text, perl = TRUE), perl = TRUE)
  hit <- first_match(paste0(before, " "), paste0(lead,
      "?(?:split|distributed|divided|spread|follow\\w*|fit\\w*|match\\w*|expected|differ\\w*|against|in|as|consistent|compared?)?"))
  name <- column_mentioned(before, vocabulary)
  if (is.null(name) || !name$kind %in% c("category", "ordered", "yes_no")) return(NULL)
  values <- as.numeric(regmatches(said, gregexpr(number, said))[[1]])
  levels <- vocabulary$values[vocabulary$values$column == match(name$name, vocabulary$columns$name), , drop = FALSE]
  if (length(values) < 2 || any(values < 0) || sum(values) <= 0 || length(values) != name$distinct) return(NULL)
  if (!is.null(each)) {
    parts <- trimws(gsub(sprintf("(?i)%s ?(?:%%|per ?cent)?|\\b(?:of|in|for|and)\\b|,", number), " ", strsplit(said,
        sprintf("(?<=[[:alpha:]])(?:,| and|, and) (?=%s)", number), perl = TRUE)[[1]], perl = TRUE))
    own <- vapply(parts, function(p) { l <- unique(levels$level[levels$phrase == joined_stems(tolower(p))]); if (length(l) == 1) l else NA_character_ }, "")  # nolint: line_length_linter.
    if (anyNA(own) || anyDuplicated(own) || length(own) != length(values)) return(NULL)
    values <- stats::setNames(values, own)
  }
  list(text = sprintf("chi-square goodness of fit of %s", name$name), extra = list(expected_shares = values))
}

#' The one column that is named somewhere in a text
#' @noRd
column_mentioned <- function(text, vocabulary) {
  at <- unique(columns_mentioned(text, vocabulary))
  if (length(at) == 1) vocabulary$columns[at, ]
}

#' "are the arms equally frequent", "do the regions occur equally often"
#' @noRd
wish_equally_common <- function(text, vocabulary) {
  hit <- first_match(text, paste0("(?i)^ *(?:are|is|do|does|did|were|was) (?:all )?(?:the )?(?:levels of |values of )?(?:the )?(.+?) (?:occur |appear |come up |come |happen |represented |chosen |picked )?",  # nolint: line_length_linter.
                                  "(?:equally|about equally|as) (?:frequent(?:ly)?|often|common|likely|represented|popular|many|large|sized)[?. ]*$"))
  if (is.null(hit)) hit <- first_match(text, "(?i)^ *(?:is|are|was|were) (?:the )?(?:split|distribution|spread|shares?|counts?|numbers?) (?:of|by|across|between) (?:the )?(.+?) (?:even|equal|uniform|balanced)[?. ]*$")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  col <- column_said(vocabulary, hit[2])
  if (is.null(col) || !col$kind %in% c("category", "ordered", "yes_no")) return(NULL)
  list(text = sprintf("chi-square goodness of fit of %s", col$name), extra = list())
}

#' "heat map of correlations between the measures", "correlations among the measures": all columns that hold numbers
#' @noRd
wish_correlation_map <- function(text, vocabulary) {
  all <- "(?:all )?(?:of )?(?:the |these |our |my )?(?:measures|measurements|measured columns|numeric (?:columns|variables)|numbers|variables|columns|numerical (?:columns|variables))"  # nolint: line_length_linter.
  plain <- sub(sprintf("(?i)\\b(correlat\\w+) (?:among|amongst|between|across|of|within) %s\\b", all), "\\1 among all measures", text, perl = TRUE)
  plain <- sub("(?i)^ *(?:draw |show |plot |make |give )?(?:me )?(?:a |the )?heat ?maps? of (?:the |all )?(?:the )?(?=correlat\\w+ (?:among|between|across|of))", "", plain, perl = TRUE)  # nolint: line_length_linter.
  plain <- sub("(?i)\\bwith (pairwise (?:rows|deletion|complete|available))", "pairwise complete", plain, perl = TRUE)
  if (plain != text) list(text = plain, extra = list())
}

#' "the strength and mites columns", "all strength columns": every column whose name has the word
#' @noRd
wish_columns_plural <- function(text, vocabulary) {
  hit <- first_match(text, "(?i)\\b(?:(?:all|both|two|three|four|five|these|those|of|the) )*((?:[\\p{L}_]+(?:, | and |, and ))*[\\p{L}_]+) (?:columns|variables|items|measures|measurements|scores)\\b")  # nolint: line_length_linter.
  if (is.null(hit)) return(NULL)
  words <- strsplit(hit[2], "(?i), and |, | and ", perl = TRUE)[[1]]
  stems <- lapply(strsplit(tolower(vocabulary$columns$name), "[_. ]+"), function(w) stems_of(paste(w, collapse = " "))[[1]])
  found <- lapply(words, function(w) {
    own <- stems_of(tolower(w))[[1]]
    vocabulary$columns$name[vapply(stems, function(s) length(own) == 1 && own %in% s, NA) & vocabulary$columns$kind %in% c("number", "count",
        "ordered")]
  })
  # (a word that names one column only, or that means something else, is no such word)
  if (any(lengths(found) < 2)) return(NULL)
  list(text = sub(hit[1], some_of(unique(unlist(found)), 40), text, fixed = TRUE), extra = list())
}

#' "is dose equivalent between arms within 1, by ranks", "compare dose between arms using ranks": the method of the task that takes ranks
#' @noRd
wish_by_ranks <- function(text, vocabulary) {
  tail <- "(?i),? *\\(?\\b(?:(?:by|using|with|on|based on) (?:the |their )?ranks|rank[- ]based)\\)? *[?.]* *$"
  plain <- sub(tail, "", text, perl = TRUE)
  if (grepl("equivalen|inferior|worse", text, ignore.case = TRUE)) plain <- sub(
    "(?i),? *\\b(?:by|using|with) an? (?:rank|rank[- ](?:sum|based)) test *[?.]* *$", "", plain, perl = TRUE)
  if (plain == text || !is.null(column_said(vocabulary, "ranks"))) return(NULL)
  list(text = plain, extra = list(by_ranks = TRUE))
}

#' A reading whose method is the one of its task that takes ranks
#' @noRd
with_ranks <- function(r) {
  if (length(r$method_asked)) return(r)
  method <- switch(r$task, compare = , change = "rank_test", relate = "spearman", trend = "mann_kendall",
                   equivalence = if (isTRUE(r$extra$noninferior)) "noninferiority_ranks" else "equivalence_ranks")
  if (is.null(method)) r$assumed <- c(r$assumed, "Ranks are not used for this question.") else r$method_asked <- method
  r
}

#' A reading that carries what was wished of its test
#' @noRd
with_test_wish <- function(r, wish) {
  trim <- wish$trim
  if (!is.null(trim) && trim != 20L && isTRUE(r$statistic %in% c("trimmed_mean", "winsorised_mean"))) r$statistic <- sprintf("%s_%d", r$statistic,
      trim)
  if (!is.null(trim) && identical(r$method_asked, "trimmed_t")) r$extra$trim <- trim
  if (isTRUE(wish$median_asked) && is.null(r$extra$null_value)) r$extra["median_asked"] <- list(NULL)
  if (isTRUE(wish$by_ranks)) r <- with_ranks(r)
  shares <- wish$expected_shares
  if (!is.null(shares) && is.null(names(shares))) r$assumed <- c(r$assumed,
      paste("The expected shares stand in the order of the levels as the data has them."))
  r
}
