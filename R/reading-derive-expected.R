# What would be, and where a measure is cut in two or more: expected values, bands, sides of a bound.

#' The turns about expected values and bands, as of `everyday_turns()`
#' @noRd
turns_of_expected <- function() {
  list(turn("\\bexpect\\b", what_to_expect), turn("^ *(do|does|did) .*\\bchange[sd]? ", causes_change), turn("^ *[2-9] ?(by|x|\u00d7) ?[2-9] ",
      crossed_design), turn("median split|split at the median", split_at_median),
       turn("\\b(suitable|appropriate|proper|right|correct|adequate|fitting)\\b", any_fitting_test),
       turn("factors|predictors|determinants|correlates|drivers", what_predicts),
       turn("\\b(would|will)\\b.*\\b(if|when|with|for|at|of|after)\\b|^ *(if|when)\\b.*\\b(would|will)\\b", expected_if),
    turn("\\b(divide|split|cut|group|bin|break)\\b", cut_in_groups),
       turn("\\b(under|below|over|above|less than|more than|at least) [0-9.]+.*\\b(vs|versus|against|and|or)\\b", bound_and_over),
       turn("\\b(higher|lower|more|less|better|worse|[a-z]{2,}er)\\b.* (above|below|over|under|more than|less than|at least|older than|younger than)[- ]", sides_of_condition),  # nolint: line_length_linter.
       turn("^ *(are|do|did|were|have) most\\b", most_are), turn("\\b(probability|chance|likelihood|risk)\\b.*\\b(than|over|above|under|below|least)\\b", chance_of_bound),  # nolint: line_length_linter.
       turn("log[- ]?transform|\\blog of\\b|take logs?|on the log scale|logarithm", logged_measure), turn("[0-9] ?(thousand|k)\\b", in_thousands),
         turn("\\bmargin", margin_of_takings),
       turn("loss[- ]making|unprofitable|profitable", by_profit), turn("correlation (map|heat ?map|plot|matrix)", correlation_map),
       turn("^ *(is|was|are|were)\\b.*\\b(balanced|equally (high|large|big|long|good))", balanced_over),
         turn("\\bat each\\b|\\bfor each (value|level)\\b", at_each))
}

#' "what would the rating be if complaints were 80", "what would a car with 200 horsepower cost": what a model expects there
#' @noRd
expected_if <- function(out) {
  text <- without_mark(out$text)
  plain <- function(measure, condition, lead = "at") {
    given <- gsub("(?i)\\b(?:were|was|is|are|equals?|had been)\\b(?= (?:a |an )?[0-9])", "of", condition, perl = TRUE)
    reworded(out, sprintf("expected %s %s %s", measure, lead, given))
  }
  forms <- c("(?i)^ *what (?:would|will) (?:be )?(?:the )?(?:average |mean |expected |predicted )?(.+?) be,? (?:if|when|for|at|with|in|after) (?:the |a |an )?(.+)$",  # nolint: line_length_linter.
             "(?i)^ *what (?:would|will) be (?:the )?(?:average |mean |expected |predicted )?(.+?),? (?:if|when) (?:the |a |an )?(.+)$",
             "(?i)^ *(?:if|when) (?:the |a |an )?(.+?),? what (?:would|will) (?:be )?(?:the )?(?:average |mean |expected |predicted )?(.+?)(?: be)?$")
  for (i in seq_along(forms)) {
    hit <- match_groups(text, forms[i])
    if (is.na(hit[1])) next
    parts <- if (i == 3) hit[3:2] else hit[2:3]
    if (grepl("[0-9]", parts[2])) return(plain(parts[1], parts[2]))
  }
  # (the verb says what is measured)
  form <- "(?i)^ *(?:what|how much|how many [\\p{L}]+|how many|how long|how high) (?:would|will) (?:a|an|the|one) ([\\p{L}_ -]+?) (?:with|of|at|aged|having) (.+?) (cost|weigh|yield|earn|score|produce|sell for|fetch|be worth|last|live|get|use|take|give)(?: on average)?$"  # nolint: line_length_linter.
  hit <- match_groups(text, form)
  if (is.na(hit[1]) || !grepl("[0-9]", hit[3])) return(out)
  nouns <- c(weigh = "weight", earn = "earnings", `sell for` = "price", fetch = "price", `be worth` = "price", last = "duration", live = "lifetime")
  measure <- if (tolower(hit[4]) %in% names(nouns)) nouns[[tolower(hit[4])]] else hit[4]
  plain(measure, hit[3], sprintf("for a %s with", hit[2]))
}

#' "divide age into three groups and compare glucose", "split age at the median and compare glucose"
#' @noRd
cut_in_groups <- function(out) {
  parts <- c(two = "half", three = "third", four = "quarter", five = "quintile", ten = "decile", `2` = "half", `3` = "third", `4` = "quarter",
             `5` = "quintile", `10` = "decile")
  form <- "(?i)^ *(?:divide|split|cut|group|bin|break) (?:the |up )?(.+?) (?:into|in) (two|three|four|five|ten|2|3|4|5|10) (?:equal(?:ly sized)? |about equal )?(?:groups|bands|parts|bins|categories|classes)(?:,| and) (?:then )?(compare|show|describe|tabulate|plot|test) (?:the )?(.+?)(?: (?:between|across|in|over|by|of) (?:them|the groups|these groups|the bands))?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) {
    form <- "(?i)^ *(?:divide|split|cut|group|break) (?:the |up )?(.+?) (?:at|by|on) (?:its |the )?median(?:,| and) (?:then )?(compare|show|describe|plot|test) (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
    two <- match_groups(out$text, form)
    if (is.na(two[1])) return(out)
    hit <- c(two[1:2], "two", two[3:4])
  }
  lead <- if (tolower(hit[4]) %in% c("compare", "test")) "compare" else hit[4]
  reworded(out, sprintf("%s %s by %ss of %s", lead, hit[5], parts[[tolower(hit[3])]], hit[2]))
}

#' "bmi under 25 vs 25 and over": the one bound and its other side
#' @noRd
bound_and_over <- function(out) {
  form <- "(?i)\\b((?:under|below|less than|younger than) ([0-9.]+)) (?:vs\\.?|versus|against|compared (?:to|with)|and|or) (?:those )?\\2 (?:and|or) (?:over|above|older|more|up)\\b"  # nolint: line_length_linter.
  text <- gsub(form, "\\1 versus the rest", out$text, perl = TRUE)
  # "bmi under 25 versus the rest: diabetes"
  hit <- match_groups(text, "(?i)^ *(.+? versus the rest) ?[:,-] ?(?:the )?([\\p{L}_ ]+?)[?.! ]*$")
  if (!is.na(hit[1])) text <- sprintf("compare %s between %s", hit[3], hit[2])
  reworded(out, text)
}

#' "is the rating higher in departments with raises above 60": those against the others, where nothing else is compared
#' @noRd
sides_of_condition <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were|do|does|did) (?:the )?(.+?) (?:(?:significantly|generally|on average) )?(higher|lower|more|less|better|worse|larger|smaller|longer|shorter|greater|faster|slower|stronger|weaker)\\b(?: on average)? (?:in|among|for|with|when|where|on) (?:the |those )?(.*?)\\b(above|below|over|under|more than|less than|at least|older than|younger than) ([0-9.]+)( [\\p{L}%]+)?[?.! ]*$"  # nolint: line_length_linter.
  # ("departments with above average raises")
  if (grepl("\\b(above|below)[- ](average|median)\\b", out$text, ignore.case = TRUE)) {
    bound <- against_average(out)
    bound$text <- sub("(?i)\\b(with|having|where) average ", "\\1 ", bound$text, perl = TRUE)
    if (!grepl(form, bound$text, perl = TRUE)) return(out)
    out <- bound
  }
  hit <- match_groups(out$text, form)
  # (days and weeks beyond a bound are compared as they are)
  if (is.na(hit[1]) || grepl("\\bthan\\b", hit[2]) || grepl("\\b(days|nights|weeks|months|years)\\b", hit[4])) return(out)
  reworded(out, sprintf("compare %s between %s%s %s%s versus the rest", hit[2], hit[4], hit[5], hit[6], if (is.na(hit[7])) "" else hit[7]),
           "The rows that meet the condition are compared with all others.")
}

#' "are most students right handed": more than half of them
#' @noRd
most_are <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(are|do|did|were|have) most (?:of (?:the )?)?([\\p{L}_]+) (.+?)[?.! ]*$")
  if (is.na(hit[1]) || grepl("\\b(than|often|likely)\\b", hit[4])) return(out)
  verb <- if (tolower(hit[2]) %in% c("are", "were")) "that are" else if (tolower(hit[2]) == "have") "that have" else "that"
  reworded(out, sprintf("is the proportion of %s %s %s different from 50 %%", hit[3], verb, hit[4]), "Most of them is more than half.")
}

#' "what is the probability of more than 10 insects with spray F": the share of rows beyond the bound
#' @noRd
chance_of_bound <- function(out) {
  form <- "(?i)^ *(?:what is |what's |how high is )?(?:the )?(?:probability|chance|likelihood|risk) (?:of|for) (?:having |getting |finding |seeing )?(more than|fewer than|less than|at least|over|under|above|below) ([0-9.]+)(?: or more)? (?:[%] |(?:kg|g|mg|lb|cm|mm|m|km|l|ml|days|hours|minutes|eur|usd|gbp) )?([\\p{L}_ ]+?)(?= (?:with|in|for|on|at|under|by|among|when|where)\\b|[?.! ]*$)(.*?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || is.null(numeric_in_text(out$study, hit[4]))) return(out)
  bound <- plain_bound(hit[2])
  reworded(out, sprintf("share of rows with %s %s %s%s", hit[4], bound, hit[3], sub("(?i)^ with ", " for ", hit[5], perl = TRUE)))
}

#' "log transform the insects and compare the sprays", "compare log of price by type": the logarithm as a column
#' @noRd
logged_measure <- function(out) {
  form <- "(?i)^ *(?:log[- ]?transform|take (?:the )?(?:logs?|logarithms?) of|use (?:the )?(?:log|logarithm) of) (?:the )?(.+?)(?:,| and)(?: then)? (.+)$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- numeric_in_text(out$study, hit[2])
  if (is.null(found)) return(out)
  name <- paste("log", found$name, sep = "_")
  done <- with_derived(out, name, "log", found$name)
  if (!has_column(done$study, name)) return(out)
  rest <- sub("(?i)^(compare|test|describe|plot|show) (?:the )?([\\p{L}_]+)[?.! ]*$", sprintf("\\1 %s by \\2", name), hit[3], perl = TRUE)
  if (identical(rest, hit[3])) rest <- gsub(sprintf("(?i)\\b(?:the |them\\b|it\\b)?%s", as_literal(found$said)), name, hit[3], perl = TRUE)
  if (!grepl(name, rest, fixed = TRUE)) return(out)
  reworded(done, rest)
}

#' "profit margin by branch": profit over what was taken in, each added up
#' @noRd
margin_of_takings <- function(out) {
  if (!grepl("(?i)\\b(?:profit |gross |net |operating )?margins?\\b", out$text, perl = TRUE)) return(out)
  numeric <- numeric_columns(out$study)
  named <- function(form) Filter(function(col) grepl(form, tolower(col$name)), numeric)
  if (length(named("margin"))) return(out)
  profit <- named("(^|[^a-z])(profit|surplus)([^a-z]|$)")
  takings <- named("(^|[^a-z])(revenue|sales|turnover|takings|amount|amt)([^a-z]|$)")
  if (length(profit) != 1 || length(takings) != 1) return(out)
  plain <- sprintf("total %s per %s", profit[[1]]$name, takings[[1]]$name)
  reworded(out, sub("(?i)\\b(?:(?:the )?(?:average|mean|overall|total) )?(?:profit |gross |net |operating )?margins?\\b", plain, out$text,
    perl = TRUE),
           sprintf("Took the margin to be the total of %s over the total of %s.", profit[[1]]$name, takings[[1]]$name))
}

#' "loss-making orders", where a column holds the profit: below zero
#' @noRd
by_profit <- function(out) {
  profit <- Filter(function(col) grepl("(^|[^a-z])profit([^a-z]|$)", tolower(col$name)), numeric_columns(out$study))
  if (length(profit) != 1) return(out)
  text <- sub("(?i)^ *(how many|what (?:share|proportion|percentage|percent) of) (?:the )?([\\p{L}_]+) (?:is|are|were|was) (loss[- ]making|unprofitable|profitable)\\b",  # nolint: line_length_linter.
              "\\1 \\3 \\2", out$text, perl = TRUE)
  hit <- match_groups(text, "(?i)\\b(loss[- ]making|unprofitable|profitable) ([\\p{L}_]+)")
  if (is.na(hit[1])) return(out)
  sign <- if (tolower(hit[2]) == "profitable") "above" else "below"
  reworded(out, sub(hit[1], sprintf("%s with %s %s 0", hit[3], profit[[1]]$name, sign), text, fixed = TRUE),
           sprintf("Took %s to mean that %s is %s 0.", quoted(hit[2]), profit[[1]]$name, sign))
}

#' "more than 40 thousand", of a column that counts in thousands: 40
#' @noRd
in_thousands <- function(out) {
  own <- Filter(function(col) grepl("(^|[^a-z])(in_)?(thousands?|1000s?|000s)([^a-z]|$)", tolower(col$name)), numeric_columns(out$study))
  hit <- match_groups(out$text, "(?i)\\b([0-9]+(?:[.][0-9]+)?) ?(?:thousand|k)\\b")
  if (is.na(hit[1]) || length(own) != 1) return(out)
  reworded(out, sub(hit[1], hit[2], out$text, fixed = TRUE), sprintf("Took %s as %s, since %s counts in thousands.", quoted(hit[1]), hit[2],
    own[[1]]$name))
}

#' "show the correlation map": no map of places
#' @noRd
correlation_map <- function(out) {
  reworded(out, gsub("(?i)\\bcorrelation (?:heat ?map|map|plot)\\b", "correlation matrix", out$text, perl = TRUE))
}

#' "is treatment balanced across cell types", "are privileges and learning equally high"
#' @noRd
balanced_over <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:is|was) (?:the )?(.+?) (?:well |equally )?balanced (?:across|between|over|among) (?:the )?(.+?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(hit[1])) {
    levels <- Filter(function(col) is_level_kind(col$kind), all_columns(out$study))
    one <- column_in_text(levels, hit[2], named_phrases(out$study, levels)); two <- column_in_text(levels, hit[3], named_phrases(out$study, levels))
    if (!is.null(one) && !is.null(two) && one$name != two$name) return(reworded(out, sprintf("is %s related to %s", one$name, two$name)))
  }
  form <- "(?i)^ *(?:are|were) (?:the )?(.+?) and (?:the )?(.+?) (?:on average )?equally (?:high|large|big|long|good)(?: on average)?[?.! ]*$"
  hit <- match_groups(out$text, form)
  one <- if (!is.na(hit[1])) numeric_in_text(out$study, hit[2])
  two <- if (!is.na(hit[1])) numeric_in_text(out$study, hit[3])
  if (is.null(one) || is.null(two) || one$name == two$name) return(out)
  reworded(out, sprintf("is there a difference between %s and %s within the same rows", one$name, two$name))
}

#' "median age at each number of pregnancies": by it
#' @noRd
at_each <- function(out) reworded(out, gsub("(?i)\\b(?:at each(?= (?:number|level|value|dose|count|amount)\\b)|for each (?:value|level) of)\\b",
  "by", out$text, perl = TRUE))

#' "using a suitable test": which method fits is decided in any case
#' @noRd
any_fitting_test <- function(out) {
  form <- "(?i),? *\\b(?:using|with|by|via|through) (?:an? |the |whatever )?(?:most )?(?:suitable|appropriate|proper|right|correct|adequate|fitting|best) (?:statistical |hypothesis )?(?:tests?|methods?|analys[ie]s|procedures?|techniques?)\\b"  # nolint: line_length_linter.
  reworded(out, sub(form, "", out$text, perl = TRUE))
}

#' "risk factors for readmission", "determinants of cost": what goes with it
#' @noRd
what_predicts <- function(out) {
  form <- paste0("(?i)^ *(?:what (?:are|were) |which (?:are|were) |identify |find |show |list |give )?(?:me )?(?:the |main |key |most important |strongest |significant |major |possible )*",  # nolint: line_length_linter.
                 "(?:(?:risk|protective|predictive|prognostic|driving) factors?|predictors?|determinants?|correlates?|drivers?) (?:for|of|behind|associated with) (?:the )?((?:(?! from | on | with |:|,).)+?)[?.! ]*$")  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || !grepl("\\p{L}", hit[2], perl = TRUE)) return(out)
  reworded(out, sprintf("what predicts %s", hit[2]))
}

#' "2 by 2 anova of condition and gender": how many levels they have the data tell
#' @noRd
crossed_design <- function(out) {
  reworded(out, sub("(?i)^ *[2-9] ?(?:by|x|\u00d7) ?[2-9](?: ?(?:by|x|\u00d7) ?[2-9])? (?=(?:factorial|anova|analysis|design|two|between|mixed))",
      "", out$text, perl = TRUE))
}

#' "median split on anxiety: do errors differ", "do errors differ by a median split of age": the two halves compared
#' @noRd
split_at_median <- function(out) {
  split <- "(?:an? |the |using a |with a |after a )?median split (?:on|of|by|for) (?:the )?"
  first <- match_groups(out$text, sprintf("(?i)^ *%s(.+?)[:,;] *(.+?)[?.! ]*$", split))
  last <- match_groups(out$text, sprintf("(?i)^ *(.+?) (?:by|using|with|after|across)? ?%s(.+?)[?.! ]*$", split))
  hit <- if (!is.na(first[1])) first else last[c(1, 3, 2)]
  if (is.na(hit[1])) return(out)
  found <- measure_said(out$study, hit[2])
  if (is.null(found)) return(out)
  name <- paste0(found$name, "_half")
  with_derived(out, name, "bands", found$name, sprintf("%s by %s", sub("(?i) +(?:by|using|with|after|across) *$", "", hit[3], perl = TRUE), name),
      groups = 2)
}

#' "what yield can I expect with full irrigation on SO4": the expected value there
#' @noRd
what_to_expect <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:what|which|how much|how many|how large an?) (.+?) (?:can|could|should|would|might|will|do|may) (?:I|we|you|one|they) expect (?:with|for|on|at|from|under|in|when|if) (.+?)[?.! ]*$")  # nolint: line_length_linter.
  found <- if (!is.na(hit[1])) measure_said(out$study, hit[2])
  if (is.null(found)) return(out)
  reworded(out, sprintf("expected %s with %s", found$name, hit[3]))
}

#' "does irrigation change yield": of groups, does it affect it
#' @noRd
causes_change <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:do|does|did) (?:the )?([\\p{L}_ ]+?) changes? (?:the )?([\\p{L}_ ]+?)[?.! ]*$")
  if (is.na(hit[1])) return(out)
  cause <- divider_said(out$study, hit[2])
  found <- if (!is.null(cause)) measure_said(out$study, hit[3])
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[3]))) return(out)
  reworded(out, sprintf("does %s affect %s", cause, found$name))
}
