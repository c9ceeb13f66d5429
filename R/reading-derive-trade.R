# How shops, campaigns, wards and foresters speak: what comes through, what it costs per piece, amounts of pieces, what has grown.

#' The turns, as of `everyday_turns()`
#' @noRd
turns_of_trade <- function() {
  list(turn("conversion", conversion_of), turn("^ *how much .*\\bper\\b", brought_per), turn("\\b(lost|missed|forgone|foregone) ", lost_to_event),
       turn("through rates?\\b", through_rate), turn("\\breturns? on\\b|\\broas\\b|\\broi\\b", return_on),
       turn("\\b(cheaper|dearer|costlier|expensive) per\\b", cheaper_per),
       turn("\\bper (dollar|euro|pound|usd|eur|gbp)\\b", per_money_spent),
       turn("\\b(revenue|turnover|sales|order value|spen[dt]|sold)\\b", pieces_times_price),
       turn("\\b(costs?|bills?|spen[dt]|spending|expenses?|expenditure|revenue|earn(ed|ings)?|proceeds)\\b", amount_times_unit_price),
       turn("^ *how many\\b", how_many_different),
       turn("\\bages? at\\b", age_at_event), turn("\\bin (the )?\\p{L}+", inside_of),
       turn("^ *how much (does|do|would|did)\\b.*\\b(extra|additional|further|more|each|every|one)\\b", one_more_adds),
       turn("^ *(the )?(worst|best) (day|week|month|year|quarter)\\b", worst_period),
       turn("\\bwith\\b.*date|\\bwith (the )?\\p{L}+ date", along_date), turn("\\b(top|bottom) [0-9]", top_of_those),
       turn("\\bpaying \\p{L}+", paying_ones), turn("^ *(the )?(percentage|percent|relative) ", change_between_levels),
       turn("\\b(delayed|late|overdue|behind) by\\b", late_by), turn("\\bper days?\\b", per_day_of_stay),
       turn("\\b(growth|grow|grew|grown|shrank|shrunk)\\b", growth_of_set))
}

#' The one numeric column of which a name says some words
#' @noRd
one_called <- function(study, words) {
  found <- Filter(function(col) is.null(col$role) && grepl(sprintf("(^|[^a-z])(%s)([^a-z]|$)", words), tolower(col$name)), numeric_columns(study))
  if (length(found) == 1) found[[1]]$name
}

spend_words <- function() "spend|spent|cost|costs|charges|charge|price|expenditure|expenses|budget|investment"

#' "click-through rate": what is clicked of what is shown
#' @noRd
through_rate <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:the )?([\\p{L}]+)[- ]through[- ]rates?\\b")
  if (is.na(hit[1])) return(out)
  counts <- Filter(function(col) col$kind == "count", all_columns(out$study))
  part <- column_in_text(counts, hit[2], kin_phrases(out$study, hit[2]))$name
  whole <- one_called(out$study, "impressions?|views?|sends?|sent|deliver(ed|ies)|opens?|shown|displays?")
  if (is.null(part) || is.null(whole) || part == whole) return(out)
  out$rate_wish <- 100
  reworded(out, sub(hit[1], sprintf("%s per %s", part, whole), out$text, fixed = TRUE), sprintf("Took %s to be %s per %s.", quoted(hit[1]), part,
    whole))
}

#' "return on ad spend": revenue over what was spent
#' @noRd
return_on <- function(out) {
  hit <- match_groups(out$text, "(?i)\\b(?:the )?(?:returns? on (?:the )?(?:ad |ads |advertising |marketing |media )?(?:spend|spending|cost|costs|investment|budget)|roas|roi)\\b")  # nolint: line_length_linter.
  gain <- one_called(out$study, "revenue|sales|turnover|income|value|profit"); spent <- one_called(out$study, spend_words())
  if (is.na(hit[1]) || is.null(gain) || is.null(spent)) return(out)
  reworded(out, sub(hit[1], sprintf("%s per %s", gain, spent), out$text, fixed = TRUE), sprintf("Took %s to be %s per %s.", quoted(hit[1]), gain,
    spent))
}

#' "is social cheaper per click than search": the cost of each
#' @noRd
cheaper_per <- function(out) {
  form <- "(?i)^ *(?:is|are|was|were) (?:the )?(.+?) (?:cheaper|dearer|costlier|more expensive|less expensive) per ([\\p{L}_]+) than (?:the )?(.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  cost <- one_called(out$study, spend_words())
  if (is.na(hit[1]) || is.null(cost)) return(out)
  reworded(out, sprintf("does %s per %s differ between %s and %s", cost, hit[3], hit[2], hit[4]), sprintf("Took the cost to be %s.", cost))
}

#' "revenue per dollar spent": per what was spent
#' @noRd
per_money_spent <- function(out) {
  hit <- match_groups(out$text, "(?i)\\bper (?:single )?(?:dollar|euro|pound|usd|eur|gbp)s?(?: (?:spent|invested|of (?:ad |marketing )?(?:spend|spending|budget|cost|costs)))?")  # nolint: line_length_linter.
  spent <- one_called(out$study, spend_words())
  if (is.na(hit[1]) || is.null(spent)) return(out)
  reworded(out, sub(hit[1], paste("per", spent), out$text, fixed = TRUE))
}

#' "total revenue by category", of pieces and a price for each: their product
#' @noRd
pieces_times_price <- function(out) {
  held <- Filter(function(col) is_numeric_kind(col$kind) && grepl("revenue|turnover|sales|amount|total|value|spend|spent", tolower(col$name)),
    all_columns(out$study))
  pieces <- Filter(function(col) col$kind == "count" && grepl("(^|[^a-z])(quantity|qty|units|pieces|units_sold|items|count_sold)([^a-z]|$)",
    tolower(col$name)),
                   all_columns(out$study))
  price <- Filter(function(col) is_numeric_kind(col$kind) && grepl("(^|[^a-z])(unit[_. ]?price|price[_. ]?(per|each)[_. ]?(unit|piece|item)?|price)([^a-z]|$)", tolower(col$name)),  # nolint: line_length_linter.
                  all_columns(out$study))
  if (length(held) || length(pieces) != 1 || length(price) != 1 || pieces[[1]]$table != price[[1]]$table) return(out)
  said <- stringi::stri_match_first_regex(out$text, "(?i)\\b(?:revenue|turnover|sales value|order value|sales|spend|spent)\\b")[1, 1]
  if (is.na(said)) return(out)
  with_derived(out, "revenue", "product", c(pieces[[1]]$name, price[[1]]$name), sub(said, "revenue", out$text, fixed = TRUE))
}

#' "total cost per day", of an amount in kWh and a price in EUR/kWh: their product, where no column holds it
#' @noRd
amount_times_unit_price <- function(out) {
  columns <- numeric_columns(out$study)
  held <- vapply(columns, function(col) grepl("cost|bill|spend|spent|expense|expenditure|revenue|turnover|sales|amount|earning|proceeds|income", tolower(col$name)), NA)  # nolint: line_length_linter.
  amounts <- "(?i)\\b(?:costs?|bills?|spending|spend|spent|expenses?|expenditure|revenue|earnings|proceeds)\\b"
  said <- stringi::stri_match_first_regex(out$text, amounts)[1, 1]
  # (of a price that is asked for by name nothing is put together)
  if (any(held) || is.na(said) || grepl("\\bprices?\\b", out$text, ignore.case = TRUE)) return(out)
  parts <- lapply(columns, function(col) strsplit(tolower(col$unit %||% ""), "/", fixed = TRUE)[[1]])
  price <- which(vapply(parts, function(p) length(p) == 2 && p[1] %in% c("eur", "usd", "gbp", "chf", "jpy"), NA))
  if (length(price) != 1) return(out)
  amount <- which(vapply(parts, function(p) identical(p, parts[[price]][2]), NA))
  if (length(amount) != 1 || columns[[amount]]$table != columns[[price]]$table) return(out)
  name <- sprintf("%s_%s", if (grepl("revenue|earn|proceeds", said, ignore.case = TRUE)) "revenue" else "cost", parts[[price]][1])
  spent <- "(?i)^ *how much (?:money )?(?:(?:was|is|were|has been|have been|did we|do we|have we) )?(?:spent|spend|paid|pay)"
  text <- sub(spent, paste("total", name), out$text, perl = TRUE)
  with_derived(out, name, "product", c(columns[[amount]]$name, columns[[price]]$name), sub(said, name, text, fixed = TRUE),
               unit = toupper(parts[[price]][1]))
}

#' "revenue lost to cancellations": the total of the revenue of the rows in which that is so
#' @noRd
lost_to_event <- function(out) {
  form <- "(?i)^ *(?:what (?:is|was) |how much (?:of )?)?(?:the )?(?:total )?([\\p{L}_ ]+?) (?:is |was |has been |have we |did we |do we )?(?:lost|missed|forgone|foregone|lose) (?:to|through|by|due to|because of|from|with) (?:the )?([\\p{L}_]+)(.*?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  amount <- numeric_in_text(out$study, hit[2])
  event <- column_in_text(yes_no_columns(out$study), hit[3], kin_phrases(out$study, hit[3]))
  if (is.null(amount) || is.null(event) || length(event$col$levels) != 2) return(out)
  reworded(out, sprintf("total %s%s where %s = %s", amount$name, hit[4], event$name, event$col$levels[2]))
}

#' "how much revenue do suites bring per night": the revenue per night of suites
#' @noRd
brought_per <- function(out) {
  form <- paste0("(?i)^ *how much ([\\p{L}_ ]+?) (?:do|does|did|is|are|was|were) (?:the |our )?(.+?) (?:bring|make|earn|generate|yield|produce|cost|raise|take|brought|made|earned)",  # nolint: line_length_linter.
                 "(?: in)? (per (?:single )?[\\p{L}_]+)[?.! ]*$")
  hit <- match_groups(out$text, form)
  if (is.na(hit[1]) || is.null(numeric_in_text(out$study, hit[2]))) return(out)
  reworded(out, sprintf("%s %s for %s", hit[2], hit[4], hit[3]))
}

#' "how many campaigns ran on email", of a column that names them in several rows: how many different ones
#' @noRd
how_many_different <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *how many (?:of the )?([\\p{L}_]+?)(e?s) ((?!per\\b|by\\b|of\\b|in each\\b|for each\\b).+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1])) return(out)
  stem <- stem_words(tolower(paste0(hit[2], hit[3])))
  named <- Filter(function(col) col$kind %in% c("category", "id") && col$distinct >= 8 && identical(name_stems(col$name), stem) &&
    comes_back(out$study, col), all_columns(out$study))
  # (bounds, and what never happened, are of each of them)
  if (length(named) != 1 || grepl("\\b(different|distinct|unique|never|ever|at least|more than|fewer than|less than|over|above|below|under|both|every|each|all|longer|shorter|more|less|fewer|better|worse|higher|lower|faster|slower)\\b", out$text, ignore.case = TRUE)) return(out)  # nolint: line_length_linter.
  state <- parse_question(hit[4], study_vocabulary(out$study))
  plain <- vapply(state$groups, function(g) length(g$levels) == 1 && !isTRUE(g$negated) && !isTRUE(g$numeric), NA)
  if (!length(state$groups) || !all(plain) || length(state$filters) || length(unknown_words(state))) return(out)
  where <- vapply(state$groups, function(g) sprintf("%s = %s", column_of(state, g$column), g$levels), "")
  reworded(out, sprintf("how many different %s are there where %s", named[[1]]$name, paste(where, collapse = " and ")))
}

#' "average age at admission": the age
#' @noRd
age_at_event <- function(out) {
  form <- "(?i)\\b(ages?) at (?:the time of )?(?:admission|entry|enrolment|enrollment|diagnosis|baseline|inclusion|presentation|surgery|operation|discharge|hire|hiring|joining|start|recruitment|death)\\b"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  ages <- Filter(function(col) grepl("(^|[_. ])age([_. ]|$)", tolower(col$name)), numeric_columns(out$study))
  if (is.na(hit[1]) || length(ages) != 1) return(out)
  reworded(out, sub(hit[1], ages[[1]]$name, out$text, fixed = TRUE), sprintf("Took %s to be %s.", quoted(hit[1]), ages[[1]]$name))
}

#' "patients who died in icu", of a column icu of yes and no: with a yes there
#' @noRd
inside_of <- function(out) {
  flags <- Filter(function(col) col$kind == "yes_no" && length(col$levels) == 2 && !grepl("[_. ]", col$name), all_columns(out$study))
  for (col in flags) {
    said <- sprintf("(?i)\\bin (?:the )?%s\\b(?! (?:and|or|vs|versus|than|=|is|are))", as_literal(col$name))
    if (!grepl(said, out$text, perl = TRUE) || !mean_yes_and_no(col$levels)) next
    return(reworded(out, sub(said, sprintf("with %s = %s", col$name, col$levels[2]), out$text, perl = TRUE)))
  }
  out
}

#' "cost per day by ward", of stays in days: over the days
#' @noRd
per_day_of_stay <- function(out) {
  stay <- Filter(function(col) is_numeric_kind(col$kind) && grepl("(^|[_. ])(los|stay|length_of_stay|nights|duration)([_. ]|$)", tolower(col$name)) &&
    grepl("day|night|los|stay", tolower(paste(col$name, col$unit))), all_columns(out$study))
  money <- Filter(function(col) grepl("cost|charge|price|bill|expens", tolower(col$name)), numeric_columns(out$study))
  if (length(stay) != 1 || length(money) != 1) return(out)
  form <- "(?i)^ *(?:what (?:is|was) |show )?(?:the )?(?:average |mean )?(?:costs?|charges?|prices?|bills?|expenses?) per days?\\b"
  if (!grepl(form, out$text, perl = TRUE)) return(out)
  reworded(out, sub(form, sprintf("%s per %s", money[[1]]$name, stay[[1]]$name), out$text, perl = TRUE),
           sprintf("Took \"per day\" to be per day of %s.", stay[[1]]$name))
}

#' "did thinning increase growth", of one measure taken at several times: its last value less its first
#' @noRd
growth_of_set <- function(out) {
  sets <- sets_over_time(out$study, 2)
  own <- any(grepl("grow", tolower(vapply(all_columns(out$study), `[[`, "", "name"))))
  if (length(sets) != 1 || own || grepl("(?i)growth (curve|rate)s?|per (year|month|week|day)", out$text, perl = TRUE)) return(out)
  name <- moved_name(sets[[1]], "growth")
  text <- NULL
  asked <- match_groups(out$text, "(?i)^ *how much (?:did|do|does|have|has) (?:the )?[\\p{L}_]+ (?:grow|grown)(?: on average)?((?: (?:by|in|on|for|per) .+?)?)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(asked[1])) text <- sprintf("mean of %s%s", name, asked[2])
  which <- match_groups(out$text, "(?i)^ *(?:which|what) ([\\p{L}_ ]+?) grew (?:the )?(fastest|most|slowest|least|best)[?.! ]*$")  # nolint: line_length_linter.
  side <- if (tolower(which[3]) %in% c("slowest", "least")) "lowest" else "highest"
  if (!is.na(which[1])) text <- sprintf("which %s has the %s mean %s", which[2], side, name)
  shrank <- match_groups(out$text, "(?i)^ *(how many|which|share of|list|show)? ?(?:the )?[\\p{L}_]+ (?:that |which |have |has )?(?:shrank|shrunk|did not grow)[?.! ]*$")  # nolint: line_length_linter.
  if (!is.na(shrank[1])) text <- sprintf("%s %s below 0", if (isTRUE(grepl("how many", shrank[2], ignore.case = TRUE))) "how many rows have"
    else if (isTRUE(grepl("share", shrank[2]))) "share of rows with" else "show rows with", name)
  noun <- "(?i)\\b(?:the )?(?:average |mean )?growth(?: in [\\p{L}_]+)?\\b"
  if (is.null(text) && grepl(noun, out$text, perl = TRUE)) {
    lead <- grepl("(?i)^ *(?:the )?growth\\b", out$text, perl = TRUE)
    text <- sub("(?i) in (?:diameter|height|size|weight|length)\\b", "", out$text, perl = TRUE)
    text <- sub("(?i)\\bgrowth\\b", name, text, perl = TRUE)
    if (lead) text <- paste("mean of", trimws(text))
    # "did thinning increase growth"
    text <- sub(sprintf("(?i)^ *(?:did|does|do) (?:the )?(.+?) (?:increase|improve|reduce|affect|change|influence|decrease|slow|boost) (?:the )?%s", name), sprintf("does \\1 affect %s", name), text, perl = TRUE)  # nolint: line_length_linter.
  }
  if (is.null(text)) return(out)
  done <- with_moved(out, sets[[1]], name, FALSE)
  if (!has_column(done$study, name)) return(out)
  reworded(done, text)
}

#' "how much does an extra study hour add to the post score, given the pre score": the effect of the one on the other
#' @noRd
one_more_adds <- function(out) {
  form <- "(?i)^ *how much (?:does|do|would|did) (?:an? |each |every |one )?(?:extra |additional |further |more |one )?([\\p{L}_ ]+?) (?:adds?|contributes?|brings?|costs?|is worth|raises?|lowers?|increases?|reduces?|changes?)(?: to)? (?:the )?([\\p{L}_ ]+?)(?:,? (?:given|adjusting for|adjusted for|controlling for|holding|accounting for|allowing for) (?:the )?(.+?)(?: constant| fixed)?)?[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  numeric <- numeric_columns(out$study)
  x <- column_in_text(numeric, hit[2], kin_phrases(out$study, hit[2])); y <- column_in_text(numeric, hit[3], kin_phrases(out$study, hit[3]))
  if (is.null(x) || is.null(y) || x$name == y$name) return(out)
  z <- if (!is.na(hit[4])) column_in_text(all_columns(out$study), hit[4], kin_phrases(out$study, hit[4]))$name
  held <- z %||% hit[4]
  reworded(out, sprintf("effect of %s on %s%s", x$name, y$name, if (is.na(held)) "" else paste(" adjusting for", held)))
}

#' "worst day for delays": days by their average
#' @noRd
worst_period <- function(out) {
  hit <- match_groups(out$text, "(?i)^ *(?:the )?(worst|best) (day|week|month|year|quarter)(?: (?:for|of|in terms of) (?:the )?(.+?))[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || !length(date_columns(out$study))) return(out)
  found <- column_in_text(numeric_columns(out$study), hit[4], kin_phrases(out$study, hit[4]))
  if (is.null(found) || tolower(found$said) != tolower(trimws(hit[4]))) return(out)
  bad <- more_is_worse(found$name) || less_is_better(found$name)
  high <- (tolower(hit[2]) == "worst") == bad
  reworded(out, sprintf("which %s had the %s average %s", hit[3], if (high) "highest" else "lowest", found$name),
           sprintf("Took more %s to be %s.", found$name, if (bad) "worse" else "better"))
}

#' "does clutch size decline with lay date": over the time that the date tells
#' @noRd
along_date <- function(out) {
  dates <- date_columns(out$study)
  hit <- match_groups(out$text, "(?i)^ *(?:do|does|did) (?:the )?(.+?) (?:decline|decrease|fall|drop|increase|rise|grow|change|vary|go up|go down)s? with (?:the )?([\\p{L}_ ]+?)[?.! ]*$")  # nolint: line_length_linter.
  if (is.na(hit[1]) || length(dates) != 1 || !any(stems_of(hit[3])[[1]] %in% name_stems(dates))) return(out)
  found <- column_in_text(numeric_columns(out$study), hit[2], kin_phrases(out$study, hit[2]))
  if (is.null(found)) out else reworded(out, sprintf("%s over time", found$name), sprintf("Took %s as the time.", dates))
}

#' "flights delayed by more than 15 minutes": what stands behind "by" is an amount, no group
#' @noRd
late_by <- function(out) {
  out$text <- gsub("(?i)\\b(delayed|late|overdue|behind) by (?=(?:more|less|at|over|under|fewer|up to|[0-9]))", "\\1 ", out$text, perl = TRUE)
  out
}

#' "average revenue of the top 10 percent of users": those with the most of it
#' @noRd
top_of_those <- function(out) {
  form <- sprintf("(?i)^ *(?:what (?:is|was) )?(?:the )?(average|mean|median|total) ([\\p{L}_ ]+?) (?:of|for|among|by) (?:the )?(top|bottom) ([0-9]+) ?(?:%%|percent|per cent) of (?:the |all )?(%s|rows|[\\p{L}]+s)[?.! ]*$", people_words())  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  found <- column_in_text(numeric_columns(out$study), hit[3], named_phrases(out$study))
  other <- column_in_text(numeric_columns(out$study), hit[6], named_phrases(out$study))
  if (is.null(found) || !is.null(other) || tolower(found$said) != tolower(trimws(hit[3]))) return(out)
  low <- tolower(hit[4]) == "bottom"
  share <- as.numeric(hit[5]) / 100
  bound <- stats::quantile(understood(out$study, found$name, found$col$table), if (low) share else 1 - share, na.rm = TRUE, names = FALSE)
  reworded(out, sprintf("%s %s where %s", hit[2], found$name, bound_words(found$name, if (low) "at most" else "at least", bound)),
           sprintf("The %s %s %% by %s: rows at or %s %s.", tolower(hit[4]), hit[5], found$name, if (low) "below" else "above",
             format_plain(signif(bound, 6))))
}

#' "average revenue per paying user": those of whom something was taken
#' @noRd
paying_ones <- function(out) {
  hit <- match_groups(out$text, sprintf("(?i)\\bpaying (%s)\\b", people_words()))
  money <- Filter(function(col) grepl("revenue|amount|paid|spend|spent|fee|bill|sales", tolower(col$name)) &&
    any(understood(out$study, col$name, col$table) == 0, na.rm = TRUE), numeric_columns(out$study))
  if (is.na(hit[1]) || length(money) != 1) return(out)
  text <- sub(sprintf("(?i)\\bper %s", as_literal(hit[1])), sprintf("where %s above 0", money[[1]]$name), out$text, perl = TRUE)
  if (identical(text, out$text)) text <- sub(hit[1], sprintf("%s with %s above 0", hit[2], money[[1]]$name), out$text, fixed = TRUE)
  reworded(out, text, sprintf("Took %s to be those with %s above 0.", quoted(hit[1]), money[[1]]$name))
}

#' "percentage increase from none to high fertiliser": the two levels are compared, in what is asked back
#' @noRd
change_between_levels <- function(out) {
  form <- "(?i)^ *(?:what (?:is|was) )?(?:the )?(?:percentage|percent|relative) (?:increase|decrease|change|difference|gain|loss) (?:from|between) (.+?) (?:to|and) (.+?)[?.! ]*$"  # nolint: line_length_linter.
  hit <- match_groups(out$text, form)
  if (is.na(hit[1])) return(out)
  one <- part_level(hit[2], out$study); two <- part_level(hit[3], out$study)
  if (is.null(two)) two <- part_level(sub(" [^ ]+$", "", trimws(hit[3])), out$study)
  if (is.null(one) || is.null(two) || one$column != two$column || one$level == two$level) return(out)
  reworded(out, sprintf("difference between %s = %s and %s = %s", one$column, one$level, two$column, two$level))
}

#' "conversion of calls to deals", "call to deal conversion rate", of two columns that are counted: the second per the first
#' @noRd
conversion_of <- function(out) {
  forms <- c("(?i)\\b(?:the )?conversions?(?: rates?)? (?:of|from) (?:the )?([\\p{L}_]+) (?:in)?to (?:the )?([\\p{L}_]+)",
             "(?i)\\b(?:the )?([\\p{L}_]+)[- ]to[- ]([\\p{L}_]+) conversions?(?: rates?)?")
  numeric <- numeric_columns(out$study)
  for (form in forms) {
    hit <- match_groups(out$text, form)
    if (is.na(hit[1])) next
    named <- lapply(hit[2:3], function(word) column_in_text(numeric, word, kin_phrases(out$study, word)))
    if (any(vapply(named, is.null, NA)) || named[[1]]$name == named[[2]]$name) next
    return(reworded(out, sub(hit[1], sprintf("%s per %s", named[[2]]$name, named[[1]]$name), out$text, fixed = TRUE),
                    sprintf("Took the conversion as %s for each of %s.", named[[2]]$name, named[[1]]$name)))
  }
  out
}
