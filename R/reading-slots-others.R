# Filling the slots of rankings, pictures, trends and the rest.

fill_rank <- function(state, mentions, r) {
  r <- with_filters(state, r)
  kinds <- mention_kinds(state, mentions)
  # "the year with the lowest growth": years divide
  if (length(mentions) > 1) kinds[vapply(mentions, function(m) state$vocabulary$columns$role[m$column] == "year", NA)] <- "category"
  # "which year group has the best reading": what is asked which of divides, also where its levels are numbers
  # ("which person", numbered in several rows each)
  numbered <- function(at) kind_at(state, at) == "count" && state$vocabulary$columns$distinct[at] * 2 <= state$vocabulary$columns$rows[at]
  which_of <- vapply(mentions, function(m) grepl("(^| )(which|what)$", item_norm(state, m$at - 1)) && (can_group(state, m$column) ||
    length(mentions) > 1 && numbered(m$column)), NA)
  if (length(mentions) > 1 && sum(which_of) == 1) kinds[which_of] <- "category"
  # "best combination of variety and nitrogen": both divide, also where one is a number of few values
  together <- says(state, "\\bcombinations? of\\b")
  from <- if (together) min(which(grepl("combinations?$|combinations? of$", norms_of(state)))) else Inf
  combined <- vapply(mentions, function(m) together && can_group(state, m$column) && m$at > from && m$at <= from + 6 &&
    !item_norm(state, m$at - 1) %in% c("for", "in", "on"), NA)
  if (sum(combined) > 1) kinds[combined] <- "category"
  measured <- kinds %in% c("number", "count", "ordered")
  divider <- kinds %in% c("category", "yes_no", "id", "ordered", "date") & !measured
  if (!any(divider) && sum(measured) > 1) { divider[which(kinds == "ordered")[1]] <- TRUE
    divider[is.na(divider)] <- FALSE; measured <- measured & !divider }
  # "the agents with the highest resolution rate": groups are ranked by a share
  shared <- if (!any(measured)) which(kinds == "yes_no" & !vapply(mentions, function(m) m$marker == "by" && m$at == 1, NA))
  if (length(shared) == 1 && sum(divider) > 1) {
    event <- new_filter(column_names_of(state, mentions[shared]), "==", state$vocabulary$columns$last_level[mentions[[shared]]$column])
    return(count_of_event(state, mentions[[shared]], rank_by_share(state, r, event, mentions[setdiff(which(divider), shared)])))
  }
  often <- if (!any(measured)) Filter(function(g) !g$negated && !isTRUE(g$numeric), state$groups)
  bounds <- if (!any(measured) && !length(often)) Filter(is_bound, state$filters)
  superlative <- "\\b(highest|lowest|%sbest|worst)\\b.*\\b(rates?|shares?|proportions?|percentages?)\\b"
  event <- if (length(often) == 1 && any(divider) &&
      says(state, paste0("\\b(most|least) (often|likely|frequently)\\b|", sprintf(superlative, ""), "|",
                         "\\bby (the |their )?(share|proportion|percent(age)?|fraction|rate)s? (of|with)\\b"))) group_filter(state, often[[1]])
    # "which district has the highest share with income above 40000": the bound is what is shared
    else if (length(bounds) == 1 && any(divider) && says(state, sprintf(superlative, "largest|smallest|"))) bounds[[1]]
  if (!is.null(event)) {
    r$filters <- leave_filter(r$filters, event)
    r <- rank_by_share(state, r, event, mentions[divider])
    if (length(often) && says(state, "\\bleast (often|likely|frequently)\\b")) r$top$order <- "lowest"
    return(r)
  }
  r$outcome <- column_names_of(state, mentions[measured])[seq_len(min(1, sum(measured)))]
  by <- mentions[divider]
  # "which diet gives the heaviest chicks": the key only says what the rows are of
  keys <- vapply(by, function(m) kind_at(state, m$column) == "id" && !is.null(state$items[[max(1, m$at - 1)]]$adj), NA)
  if (any(which_of) && any(keys) && !all(keys)) by <- by[!keys]
  r$by <- column_names_of(state, by)
  if (!length(by) && length(r$outcome)) r <- take_unit_asked(state, take_who(state, r))
  # a key names the rows themselves unless a statistic is taken over its rows
  columns <- state$vocabulary$columns
  rows <- kind_of_names(state, r$by) %in% c("id", "date", "text")
  rows <- rows & columns$unique[match(r$by, columns$name)]
  if (is.null(r$statistic)) r$by <- r$by[!rows]
  # what is sold, earned or spent adds up
  most <- length(r$outcome) == 1 && adds_up(r$outcome) && says(state, "\\b(most|fewest|least)\\b")
  # ("who ran the furthest" in a month: the ways together)
  most <- most || (length(r$by) > 0 && length(r$outcome) == 1 && grepl("(^|[^a-z])(distance|miles|km|mileage)([^a-z]|$)", tolower(r$outcome)) &&
    says(state, "\\b(furthest|farthest)\\b"))
  # "which patient had the most seizures", of a count in several rows of each
  most <- most || (length(r$outcome) == 1 && kind_of_names(state, r$outcome) == "count" && grepl("s([_. ]|$)", tolower(r$outcome)) &&
    !counts_of_state(state, r$outcome) && any(vapply(mentions[measured], function(m) grepl("^(the )?(most|fewest)$", item_norm(state, m$at - 1)),
        NA)))
  # "which team answers the most calls", of a count of answered ones
  most <- most || (length(r$outcome) == 1 && kind_of_names(state, r$outcome) == "count" && !counts_of_state(state, r$outcome) &&
    says(state, "\\b[a-z]{3,}(s|ed) (the )?(most|fewest) [a-z]+s\\b"))
  # "top 3 reps by deals won": a count of what adds up
  most <- most || (length(r$outcome) == 1 && adds_up(r$outcome) && kind_of_names(state, r$outcome) == "count" &&
    says(state, "\\b(top|bottom)\\b.*\\bby\\b"))
  # "who had the longest stay": a single one of each
  if (length(r$by) == 1 && length(r$outcome) == 1 && is.null(r$statistic) && any(kind_of_names(state, r$by) %in% c("id", "category")) &&
      says(state, "^ *(who|whose)\\b.*\\b(longest|shortest)\\b")) {
    r$statistic <- if (says(state, "\\bshortest\\b")) "min" else "max"
    r$assumed <- c(r$assumed, sprintf("Each %s is told by its %s %s.", r$by, if (r$statistic == "max") "largest" else "smallest", r$outcome))
  }
  # "top 10 customers by revenue": what each has brought in altogether
  most <- most || (length(r$outcome) == 1 && adds_up(r$outcome) && (says_takings(state) || any(kind_of_names(state, r$by) == "id")))
  if (length(r$by) && is.null(r$statistic) && (most || length(r$outcome) &&
    says(state, "\\b(sold|sell|sells|selling|sellers?|earn(s|ed)?|spen[dt]s?|produc(e|es|ed)|generat(e|es|ed)|took in|brought in|collect(s|ed)?)\\b"))) {  # nolint: line_length_linter.
    r$statistic <- "sum"
    r$assumed <- c(r$assumed, "Groups are ranked by their total.")
  }
  if (length(r$by) && is.null(r$statistic)) r$assumed <- c(r$assumed, "Groups are ranked by their mean.")
  if (length(r$by) && is.null(r$statistic)) r$statistic <- "mean"
  if (!length(r$by)) r$statistic <- NULL
  r$top <- asked_top(state, several = !length(r$by) || plural_ranked(state))
  # the fastest takes the least time
  timed <- length(r$outcome) == 1 && isTRUE(columns$unit[match(r$outcome, columns$name)] %in% time_units())
  if (timed && !is.null(r$top) && says(state, "\\b(fast|quick|swift|soon)(est|er)\\b")) r$top$order <- "lowest"
  if (timed && !is.null(r$top) && says(state, "\\bslow(est|er)\\b")) r$top$order <- "highest"
  # "cheapest car with both airbags": what follows "with" narrows the rows, and no level of it is named
  held <- Filter(function(m) m$marker == "with" && is_level_kind(kind_at(state, m$column)) && m$column %in% vapply(mentions[divider], `[[`, 1L,
      "column"),
                 mentions)
  if (length(held) == 1 && length(r$by) == 1 && asks_for_rows(state)) r$extra$level_open <- r$by
  # "which department feels best supported", of departments one of which is Support: all of them are ranked
  r$filters <- Filter(function(f) !(identical(f$op, "==") && f$column %in% r$by), r$filters)
  r <- worst_on_top(state, r, r$outcome)
  r$extra$outcome_mentions <- mentions[measured]
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

#' Is a column of counts one of scores, years or ages, which do not add up?
#' @noRd
counts_of_state <- function(state, name) {
  grepl("(^|[^a-z])(age|years?|score|scores|rating|index|rank|level|grade|days_since|cylinders|doors|rooms|seats)([^a-z]|$)", tolower(name)) ||
    identical(state$vocabulary$columns$role[match(name, state$vocabulary$columns$name)], "year")
}

#' Is a superlative followed by a word for the rows ("cheapest car")?
#' @noRd
asks_for_rows <- function(state) {
  any(vapply(seq_len(state$n - 1), function(k) grepl("[a-z]{3}est$", item_norm(state, k)) && state$type[k + 1] == "entity", NA))
}

#' Groups in the order of the share of their rows in which something is so
#' @noRd
rank_by_share <- function(state, r, event, by) {
  r$extra$event <- event
  r$assumed <- c(r$assumed, sprintf("Groups are ranked by the share of rows in which %s.", plain_filter(event)))
  r$outcome <- event$column; r$by <- column_names_of(state, by)[1]
  r$statistic <- "percent"; r$top <- asked_top(state)
  # "the worst mastitis rate" is the highest
  worst_on_top(state, r, event$column, told = TRUE)
}

#' "which player had the most injuries": how often it occurred, not how often in a hundred rows
#' @noRd
count_of_event <- function(state, m, r) {
  lead <- item_norm(state, m$at - 1)
  rate <- says(state, "\\b(rates?|shares?|proportions?|percentages?|percent|often|likely|frequently|fraction)\\b")
  # ("the most lame cows" counts them as well)
  plural <- function(k) grepl("s$", item_norm(state, k))
  counted <- plural(m$at) || m$at < state$n && state$type[m$at + 1] %in% c("entity", "column") && plural(m$at + 1)
  told <- says(state, "\\b(largest|highest|greatest|biggest|smallest|lowest|least) number of\\b")
  if (rate || !told && (!grepl("^(the )?(most|fewest)$", lead) || !counted)) return(r)
  r$statistic <- "count"
  r$assumed <- sub("by the share of rows in which", "by the number of rows in which", r$assumed, fixed = TRUE)
  if (grepl("fewest", lead) || told && says(state, "\\b(smallest|lowest|least) number of\\b")) r$top$order <- "lowest"
  r
}

#' "who has the best rating", where one column names people of whom each has many rows
#' @noRd
take_who <- function(state, r) {
  columns <- state$vocabulary$columns
  if (!any(norms_of(state) == "who")) return(r)
  # (where each row is a person, it is they who are asked for: "who has the highest salary" is no manager)
  whole <- paste0("^(emp|employee|staff|person|patient|member|student|pupil|customer|client|user|player|subject|resp|respondent|participant|visitor|",
                  "donor|applicant|athlete|worker)s?[_. ]?(id|no|nr|number|code|key)?$")
  if (any(columns$kind == "id" & columns$unique & grepl(whole, tolower(columns$name)))) return(r)
  people <- which(columns$kind %in% c("category", "id") & !columns$unique & grepl(person_columns(), tolower(columns$name)))
  if (length(people) != 1) return(r)
  r$by <- columns$name[people]
  r$assumed <- c(r$assumed, sprintf("Took \"who\" to ask about %s.", r$by))
  r
}

#' "which person sleeps the least", of a key with several rows for each: they are ranked by their own rows
#' @noRd
take_unit_asked <- function(state, r) {
  if (length(r$by) || state$n < 3 || !item_norm(state, 1) %in% c("which", "what", "whose")) return(r)
  columns <- state$vocabulary$columns
  keys <- which(columns$kind == "id" & !columns$unique & columns$distinct * 2 <= columns$rows)
  own <- keys[vapply(keys, function(k) state$items[[2]]$stem %in% key_stems(columns$name[k]), NA)]
  if (length(own) == 1) r$by <- columns$name[own]
  r
}

person_columns <- function() paste0("(^|[^a-z])(agent|seller|sales_?person|rep|employee|staff|observer|rater|teacher|student|pupil|player|author|customer|client|",  # nolint: line_length_linter.
  "driver|doctor|nurse|operator|manager|member|patient|user|person|technician|worker|participant|keeper|judge|reviewer|coach|coder|interviewer|runner|athlete|swimmer|cyclist|rider|jockey|pilot|therapist|surgeon|physician|consultant|tutor|instructor|candidate|",  # nolint: line_length_linter.
  "applicant|respondent|tenant|buyer|guest|resident|actor|farmer|scorer|clerk|waiter|cashier|volunteer|crew|captain)([^a-z]|s?$|_)")  # nolint: line_length_linter.

norms_of <- function(state) vapply(state$items, `[[`, "", "norm")

#' "best customers by total amount", "countries with the highest savings": a plural that is itself ranked
#' @noRd
plural_ranked <- function(state) {
  says(state, "^ *(show |list |give )?(me )?(the |our |my |all )?([a-z_]+ )?[a-z_]{2,}[^s\\W]s (with|having|that have|which have) (the )?(highest|lowest|most|least|fewest|best|worst|largest|smallest|greatest|longest|shortest)\\b") ||  # nolint: line_length_linter.
    says(state, "^ *(show |list |give )?(me )?(the |our |my )?(best|worst|top|bottom|biggest|largest|smallest|strongest|weakest) [a-z_]{2,}[^s\\W]s (by|in terms of|for|on|according)\\b")  # nolint: line_length_linter.
}

#' "which branch has the highest revenue": what a business takes in or spends is a total unless an average is asked for
#' @noRd
says_takings <- function(state) {
  says(state, "\\b(revenues?|sales|turnover|takings|earnings|profits?|spending|expenses|expenditure|donations)\\b") &&
    !says(state, "\\b(average|mean|median|typical|per)\\b")
}

#' "the cheapest cars", "least urban states": a superlative before a plural asks for several
#' @noRd
asks_for_several <- function(state) {
  most <- which(vapply(state$items, function(i) has_lex(i, "task", "rank") || grepl("[a-z]{2}est$", i$norm), NA))
  any(vapply(most, function(k) any(vapply(k + 1:2, function(j) state$n >= j && (state$type[j] %in% c("entity", "unknown") ||
    state$type[j] == "column" && kind_at(state, item_column(state, j)) %in% "id") && grepl("[a-z][^s]s$", item_norm(state, j)), NA)), NA)) &&
        !says(state, "\\b(is|are|was|were|have|has|had)\\b") || plural_ranked(state)
}

asked_top <- function(state, several = FALSE) {
  norms <- norms_of(state)
  low <- any(norms %in% c("bottom", "lowest", "smallest", "worst", "fewest", "least", "weakest")) ||
    any(vapply(state$items, function(i) !is.null(i$adj) && any(i$adj$id == "low"), NA)) || lowest_said(state)
  every <- any(norms %in% c("rank", "ranking", "ranked", "sorted",
      "ordered")) || says(state, "(highest|lowest|largest|smallest) first")
  count <- vapply(which(state$type == "number" & !state$used), function(k) state$items[[k]]$value, 1)
  n <- if (length(count)) count[1] else if (every) NULL else if (several && asks_for_several(state)) 5 else 1
  share <- which(state$type == "number" & vapply(seq_len(state$n), function(k) grepl("^(%|per ?cent)( of)?$", item_norm(state, k + 1)), NA))
  if (length(share) && length(count) && identical(state$items[[share[1]]]$value, count[1])) return(list(n = 1L,
    order = if (low) "lowest" else "highest", percent = count[1]))
  part <- c(decile = 10, quintile = 20, quartile = 25, quarter = 25, third = 100 / 3, half = 50)[intersect(norms,
      c("decile", "quintile", "quartile", "quarter", "third", "half"))]
  if (length(part) && any(norms %in% c("top", "bottom", "highest", "lowest"))) return(list(n = 1L, order = if (low) "lowest" else "highest",
      percent = part[[1]]))
  # "rank the countries, lowest first": all of them, in that order
  if (is.null(n)) return(if (low) list(order = "lowest"))
  list(n = as.integer(n), order = if (low) "lowest" else "highest")
}

#' "the shortest wait", also where the adjective is read together with its noun
#' @noRd
lowest_said <- function(state) {
  table <- state$vocabulary$lexicon$adjectives
  lowest <- setdiff(unique(table$word[table$low & grepl("est$", table$word)]), table$word[!table$low])
  any(lowest %in% tolower(stringi::stri_extract_all_words(state$text)[[1]]))
}

fill_figure <- function(state, mentions, r) {
  if (asks_for_map(state)) return(fill_map(state, mentions, r))
  r <- with_filters(state, r)
  picture <- unlist(lapply(state$items, lex_ids, "picture"))
  r$extra$picture <- if (length(picture)) picture[1]
  by <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  names <- column_names_of(state, mentions)
  r$outcome <- utils::head(names[!by], 1)
  r$predictors <- names[!by][-1]
  r$by <- names[by]
  # "uptake against concentration by treatment": two measured columns, and what divides them as colours
  pair <- c(r$outcome, r$predictors)
  if (length(pair) == 2 && all(kind_of_names(state, pair) %in% c("number", "count")) && length(r$by) == 1 && is.null(r$extra$look$colour)) {
    r$extra$look$colour <- r$by
    r$assumed <- c(r$assumed, sprintf("Coloured by %s.", r$by))
    r$by <- character()
  }
  if (any(vapply(state$items, has_lex, NA, "task", "trend"))) r$time <- asked_time(state)
  # "plot uptake against concentration": what is named first goes up the page
  r$extra$depends <- length(pair) == 2 && says(state, "\\b(against|versus|vs|over|on|by|as a function of|depending on)\\b")
  r$extra$outcome_mentions <- mentions
  r$extra$missing <- if (!length(names)) "outcome"
  r
}

#' "is there a trend apart from the season", "allowing for the day of the week": the cycle to be allowed for, or NULL
#' @noRd
season_allowed_for <- function(state) {
  text <- tolower(state$text)
  named <- paste0("\\b(seasonal(ly)?( adjusted)?|deseasonali[sz]ed) (trend|change|rise|fall|increase|decrease|growth|adjust)|",
                  "\\bseasonally adjusted|\\bdeseasonali[sz]ed")
  if (grepl(named, text, perl = TRUE)) return("year")
  lead <- paste0("\\b(allow(ing|ed)? for|adjust(ing|ed)? for|account(ing|ed)? for|apart from|aside from|beside|besides|beyond|net of|",
                 "without|control(ling|led)? for|taking out|after removing|remov(ing|ed)|corrected for|once)")
  if (grepl(paste0(lead,
      " (the )?(yearly |annual )?(season|seasons|seasonality|seasonal (effects?|pattern|cycle)|time of (the )?year|yearly (cycle|pattern))\\b"),
          text, perl = TRUE)) return("year")
  if (grepl(paste0(lead, " (the )?(day of (the )?week|weekdays?|weekly (cycle|pattern))\\b"), text, perl = TRUE)) return("week")
  NULL
}

#' Is more of what a column measures bad, by its name?
#' @noRd
more_is_worse <- function(name) {
  failed <- stem_words(c("attend", "show", "pay", "paid", "complete", "respond", "renew", "adhere", "comply", "deliver", "resolve", "pass",
      "recover"))
  any(unlist(lapply(name, denied_core)) %in% failed) || any(grepl(paste0("defect|error|fault|fail|death|mortal|loss|complain|mite|infect|injur|accident|absen|delay|wait|cost|price|pain|crime|",  # nolint: line_length_linter.
    "pollut|missing|incident|sick|refund|return|crash|breach|insect|pest|aphid|larva|parasit|weed|lesion|disease|itis([^a-z]|$)|readmi|died|dead|killed|drop_?out|complication|cancel|fraud|attrition|unemploy|tumou?r|relapse|damage|waste|churn|downtime|scrap|lameness|overdue|debt|arrears|",  # nolint: line_length_linter.
    "(^|[^a-z])(pm[_. ]?[0-9]+|no[2x]|so2|co2|ozone|noise|db)([^a-z]|$)"), tolower(name))) || any(vapply(name, less_is_better, NA))
}

#' The order that "worst" and "best" mean of something bad, NULL where neither is said or more of it is not bad
#' @param told Whether it is also to be told that more was taken to be better.
#' @section Shape: list(order, told).
#' @noRd
order_of_bad <- function(state, outcome, told = FALSE) {
  said <- intersect(c("worst", "best"), norms_of(state))
  if (!length(said) || !length(outcome)) return(NULL)
  # of a loss of something bad more is better
  if (grepl("[_. ](loss|drop|reduction|decrease|fall|decline)$", outcome[1])) {
    bad <- more_is_worse(sub("[_. ][a-z]+$", "", outcome[1])) || less_is_better(sub("[_. ][a-z]+$", "", outcome[1]))
    if (bad) return(list(order = if (said[1] == "worst") "lowest" else "highest", told = sprintf("Took more %s to be better.", outcome[1])))
  }
  if (!more_is_worse(outcome)) return(if (told || "worst" %in% said) list(order = if (said[1] == "worst") "lowest" else "highest",
                                                     told = sprintf("Took more %s to be better, which the data does not say.", outcome)))
  list(order = if (said[1] == "worst") "highest" else "lowest", told = sprintf("Took more %s to be worse.", outcome))
}

#' The ranking turned so that the worst, or the best, is at its head where the question says so
#' @noRd
worst_on_top <- function(state, r, outcome, told = FALSE) {
  bad <- if (!is.null(r$top)) order_of_bad(state, outcome, told)
  if (is.null(bad)) return(r)
  r$top$order <- bad$order
  r$assumed <- c(r$assumed, bad$told)
  r
}

fill_trend <- function(state, mentions, r) {
  if (asks_against_usual(state)) return(fill_usual(state, mentions, r))
  r <- with_filters(state, r)
  kinds <- mention_kinds(state, mentions)
  r$outcome <- column_names_of(state, mentions[kinds %in% c("number", "count", "ordered", "yes_no")])
  r$time <- asked_time(state)
  dates <- if (!is.null(r$time)) length(time_columns(state)) else 0
  if (dates > 1) r$assumed <- c(r$assumed, sprintf("Time is taken from %s, one of %d dates in the data.", r$time$column, dates))
  # what takes few values divides, unless it is what is measured
  # ("weekly mean weight of each hive")
  each <- function(m) m$marker == "by" || grepl("(^| )(each|every)$", item_norm(state, m$at - 1))
  divides <- kinds == "category" | (vapply(mentions, function(m) each(m) && can_group(state, m$column), NA) & !kinds %in% c("date", "datetime"))
  # a key with a row of its own for each value follows nothing over time
  divides <- divides & !(kinds == "id" & vapply(mentions, function(m) state$vocabulary$columns$unique[m$column], NA))
  r$by <- setdiff(column_names_of(state, mentions[divides]), r$time$column)
  r$outcome <- setdiff(r$outcome, c(r$by, r$time$column))
  if (is.null(r$method_asked) && asks_when_changed(state)) r$method_asked <- "change_points"
  ranked <- period_ranked(state)
  # "busiest hour" counts rows, whatever column has an hour in its name
  if (!is.null(ranked) && says(state, "\\b(busiest|quietest|peak) (hour|day|week|month|quarter|year|weekday)")) {
    own <- Filter(function(m) grepl("^(hour|day|week|month|quarter|year|weekday)s?( of)?", item_norm(state, m$at)), mentions)
    r$outcome <- setdiff(r$outcome, column_names_of(state, own))
  }
  if (!is.null(ranked) && !is.null(r$time)) {
    r$time$every <- ranked$every
    r$extra$period_order <- ranked$order
    bad <- order_of_bad(state, r$outcome)
    if (!is.null(bad)) {
      r$extra$period_order <- bad$order
      r$assumed <- c(r$assumed, bad$told)
    }
    if (length(r$outcome) && is.null(r$statistic)) {
      r$statistic <- if (says(state, "\\b(most|fewest|least|total)\\b") || adds_up(r$outcome) && says_takings(state) ||
                         sums_by_period(state, r) || identical(kind_of_names(state, r$outcome), "yes_no") &&
                         !says(state, "\\b(rates?|shares?|proportions?|percent(age)?s?)\\b")) "sum" else "mean"
      r$assumed <- c(r$assumed, sprintf("Periods are ranked by their %s.", if (r$statistic == "sum") "total" else "mean"))
    }
  }
  if (!is.null(r$time) && (grows_between_years(state) || grows_by_period(state))) {
    by_month <- says(state, sprintf("\\b(from|between) (%s)[a-z]*( (19|20)[0-9]{2})?( |$)", month_starts()))
    if (has_dates(state)) r$time$every <- r$time$every %||% growth_period(state) %||% if (by_month) "month" else "year"
    r$extra$trend_test <- FALSE
    r$extra$growth <- TRUE
    # "percent change from 2019 to 2020" asks for no share
    if (identical(r$statistic, "percent")) r["statistic"] <- list(NULL)
  }
  if (length(r$outcome) == 1 && !is.null(r$time$every) && is.null(r$statistic) && is.null(r$time$window)) r <- settle_period_summary(state, r)
  r <- average_of_totals(state, r)
  moves <- any(vapply(state$items, function(i) grepl(trend_words(), i$norm), NA)) ||
    says(state, "\\b(go|goes|going|went|gone|come|came|coming) (up|down)\\b|\\b(rising|falling|climbing|dropping)\\b")
  r$extra$trend_test <- !isTRUE(r$extra$growth) && moves && is.null(r$time$every)
  # "total lent per year", where nothing measured was found
  amount <- !length(r$outcome) &&
      says(state, "^ *(what (is|was) the )?(total|sum of|average|mean|median) (?!number|count|rows|of the rows|orders|visits)") &&
          !any(vapply(seq_len(state$n), function(k) state$type[k] == "entity" ||
    names_things(state, k) || grepl("s$", item_norm(state, k)) && identical(kind_at(state, item_column(state, k)), "id"), NA))
  # a row for each date holds nothing to count
  rows <- if (!is.null(r$time)) match(r$time$column, state$vocabulary$columns$name)
  single <- length(rows) == 1 && isTRUE(state$vocabulary$columns$unique[rows]) && is.null(r$time$every) &&
    !says(state, "\\b(how many|number of|count|rows|records)\\b") && any(state$vocabulary$columns$kind %in% c("number", "count"))
  # ("best month for the north", "growth from January to June": of what is not said)
  graded <- says(state, "\\b(best|worst|strongest|weakest|poorest) (day|week|month|quarter|year|weekday)\\b|\\b(growth|increase|decrease|change|rise|fall) (from|between|since|over)\\b")  # nolint: line_length_linter.
  amount <- amount || !length(r$outcome) && (single || graded && !says(state, "\\b(how many|number of|count|rows|records)\\b"))
  if (!length(r$outcome) && !amount) r$statistic <- "count"
  season <- season_allowed_for(state)
  # "allowing for the day of the week" asks for no table of weekdays
  if (identical(season, "week") && identical(r$time$every, "weekday")) { r$time["every"] <- list(NULL); r["statistic"] <- list(NULL) }
  if (length(r$outcome) == 1 && is.null(r$time$every)) r$extra$season <- season
  r$extra$second_axis <- length(r$outcome) == 2 && any(vapply(state$items, has_lex, NA, "scope", "second_axis"))
  r$extra$missing <- c(if (is.null(r$time)) "time", if (amount) "outcome")
  r
}

#' "average monthly revenue", of many rows a month: what adds up is summed first, and the totals are averaged
#' @noRd
average_of_totals <- function(state, r) {
  asked <- says(state, "\\b(average|mean|typical)\\b.*\\b((per|each|every|a) (day|week|month|quarter|year)|(dai|week|month|quarter|year)ly|annual)\\b")  # nolint: line_length_linter.
  if (!asked || !identical(r$statistic, "mean") || length(r$outcome) != 1 || length(r$by) || !adds_up(r$outcome)) return(r)
  if (!isTRUE(r$time$every %in% c("day", "week", "month", "quarter", "year")) || !is.null(r$time$window)) return(r)
  r$statistic <- "sum"
  r$extra$average_total <- TRUE
  r$assumed <- c(r$assumed, sprintf("Each %s is summed up first, since %s adds up.", r$time$every, r$outcome))
  r
}

#' What stands for a period: the total of what adds up, else the mean; either way it is said
#' @noRd
settle_period_summary <- function(state, r) {
  # "conversions per day" counts those that happened; "the conversion rate per day" is their share
  event <- kind_of_names(state, r$outcome) == "yes_no" && !says(state, "\\b(rates?|share|proportion|percent(age)?)\\b")
  plural <- any(vapply(which(state$type == "column"), function(k) r$outcome %in% column_of(state, state$items[[k]]$cols$column) &&
    grepl("[^s]s$", item_norm(state, k)), NA))
  if (event && (plural || says(state, "\\b(how many|number of)\\b"))) {
    r$statistic <- "sum"
    r$assumed <- c(r$assumed, sprintf("Counted the rows of each %s in which %s.", r$time$every, plain_filter(new_filter(r$outcome, "==",
      column_record(state, match(r$outcome, state$vocabulary$columns$name))$last_level))))
    return(r)
  }
  adds <- adds_up(r$outcome) || says(state, "\\b(total|sum|altogether)\\b")
  if (adds) r$statistic <- "sum"
  if (!adds && identical(kind_of_names(state, r$outcome), "yes_no")) {
    r$assumed <- c(r$assumed, sprintf("Each %s is told by the share of its rows in which %s.", r$time$every, plain_filter(new_filter(r$outcome, "==",
      column_record(state, match(r$outcome, state$vocabulary$columns$name))$last_level))))
    return(r)
  }
  r$assumed <- c(r$assumed, sprintf("Each %s is summarised by its %s%s.", if (r$time$every == "hour") "hour of the day" else r$time$every,
                                    if (adds) "total" else "mean", if (adds) sprintf(", since %s adds up", r$outcome) else ""))
  r
}

#' Does a measure add up over rows, by its name (money, pieces, events)?
#' @noRd
adds_up <- function(name) {
  grepl(paste0("(^|[^a-z])(revenue|sales|turnover|profit|amount|amt|order[_. ]?value|units|quantity|qty|orders|visits|visitors|calls|cases|passengers|births|deaths|",  # nolint: line_length_linter.
               "production|consumption|kwh|rainfall|precipitation|signups|sessions|downtime|goals|deals|defects?|defective|complaints|leads|conversions|installs|donations?|spend|spent|spending|expenses?|downloads|clicks|bills?|tips?|sold|accidents|incidents|costs?|nights)([^a-z]|$)"),  # nolint: line_length_linter.
        tolower(name)) && !grepl("(^|[^a-z])(price|rate|per|avg|average|mean|ratio|index)([^a-z]|$)", tolower(name))
}

#' "which month had the highest takings", "the week with the highest usage": of what adds up, a period has its total
#' @noRd
sums_by_period <- function(state, r) {
  flows <- grepl("(^|[^a-z])(takings|revenue|sales|turnover|income|receipts|donations?|spend|spent|costs?|expenses?|profit)([^a-z]|$)",
      tolower(r$outcome[1]))
  long <- isTRUE(r$time$every %in% c("month", "quarter", "year"))
  (long && flows || isTRUE(r$time$every %in% c("day", "week", "month", "quarter", "year")) && adds_up(r$outcome[1])) && !adds_up_not(r$outcome[1])
}

adds_up_not <- function(name) grepl("(^|[^a-z])(price|rate|per|avg|average|mean|ratio|index|salary|wage)([^a-z]|$)", tolower(name))

#' Words that ask for a trend rather than for a table of periods
#' @noRd
trend_words <- function() {
  "trend|over time|worse|better|risen|fallen|^(rise|rises|rose|fall|fell|drop|dropped|grew|grown)$|increas|decreas|declin|develop|chang|grow|seasonal"
}

asked_time <- function(state) {
  dated <- time_columns(state)
  if (!length(dated)) return(NULL)
  every <- unlist(lapply(state$items, lex_ids, "every"))
  window <- NULL; unit <- NULL
  for (k in which(state$type == "number")) {
    follows <- vapply(k + 1:3, function(j) item_norm(state, j), "")
    if (!grepl("rolling|moving|running|trailing", paste(c(item_norm(state, k - 1), follows), collapse = " "))) next
    window <- state$items[[k]]$value
    unit <- sub("s$", "", c(grep("^(hour|day|week|month|year)s?$", follows, value = TRUE), "day")[1])
  }
  # the length of the window says nothing of the periods of a table
  if (!is.null(window)) every <- NULL
  compact(list(column = date_meant(dated, state$text), every = if (length(every)) every[1], window = window,
      window_unit = if (!identical(unit, "day")) unit))
}

fill_drivers <- function(state, mentions, r) {
  held <- note_adjusted(state, mentions, r)$adjust_for
  if (length(held)) return(drivers_beside(state, Filter(function(m) m$marker != "adjust", mentions), with_filters(state, r), held))
  r <- with_filters(state, r)
  markers <- vapply(mentions, `[[`, "", "marker")
  aimed <- which(markers %in% c("for", "on", "with", "to", "of"))
  # "the better predictor of volume, girth or height"
  if (says(state, "\\bpredictors? of\\b")) aimed <- utils::head(aimed, 1)
  at <- if (length(mentions) > 1 && length(aimed)) aimed[length(aimed)] else min(1L, length(mentions))
  r$outcome <- column_names_of(state, mentions[at])
  r$predictors <- column_names_of(state, mentions[-at])
  # "what predicts no shows": one level of a column of two is what happens
  event <- Filter(function(g) !g$negated && length(g$levels) == 1 && !isTRUE(g$numeric) && state$vocabulary$columns$distinct[g$column] == 2,
      state$groups)
  if (!length(r$outcome) && length(event) == 1) {
    r$outcome <- column_of(state, event[[1]]$column)
    r$filters <- Filter(function(f) f$column != r$outcome, r$filters)
    r$extra$level_of_event <- event[[1]]$levels
  }
  if (length(r$outcome) && length(r$predictors) < 2) {
    r$predictors <- other_predictors(state, r$outcome)
    r$assumed <- c(r$assumed, "All other columns that can be related are considered.")
  }
  # a single column has nothing to be ranked against
  if (length(r$outcome) && length(r$predictors) == 1) {
    r$task <- "predict"
    r$assumed <- c(setdiff(r$assumed, "All other columns that can be related are considered."),
        sprintf("%s is the only other column that can be related to it.",
                                                                                                        r$predictors))
    return(r)
  }
  r$extra$ranking <- TRUE
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

#' "what predicts default after adjusting for credit score": a model with that column held constant, all others beside it
#' @noRd
drivers_beside <- function(state, mentions, r, held) {
  names <- column_names_of(state, mentions)
  r$task <- "predict"
  r["statistic"] <- list(NULL)
  r$outcome <- utils::head(names, 1)
  r$predictors <- names[-1]
  if (length(r$outcome) && !length(r$predictors)) {
    r$predictors <- setdiff(other_predictors(state, r$outcome), held)
    r$assumed <- c(r$assumed, "All other columns that can be related are in the model together.")
  }
  r$adjust_for <- setdiff(held, c(r$outcome, r$predictors))
  r$extra$joint <- length(r$predictors) > 1
  r$extra$missing <- c(if (!length(r$outcome)) "outcome", if (!length(r$predictors)) "predictors")
  r
}

fill_advise <- function(state, mentions, r) fill_compare(state, mentions, r) |> (\(x) { x$extra$missing <- NULL; x })()

fill_themes <- function(state, mentions, r) {
  r <- with_filters(state, r)
  columns <- state$vocabulary$columns
  text <- Filter(function(m) kind_at(state, m$column) == "text", mentions)
  r$outcome <- if (length(text)) column_names_of(state, text) else
    # (cells that hold several answers to choose from are no comments)
    utils::head(columns$name[columns$kind == "text"][order(columns$role[columns$kind == "text"] == "multi_answer")], 1)
  if (!length(r$outcome) && length(mentions)) r$outcome <- column_names_of(state, mentions[1])
  if (!length(text) && length(r$outcome) && !nzchar(quotes_about(state$text))) r$assumed <- c(r$assumed,
    sprintf("Took %s as the open answers meant.", r$outcome))
  about <- quotes_about(state$text)
  if (nzchar(about)) {
    r$extra$about <- about
    if (!length(text)) r$outcome <- columns$name[columns$kind == "text" & columns$table == columns$table[match(TRUE, columns$kind == "text")]]
  }
  divided <- Filter(function(m) m$marker == "by" && can_group(state, m$column) && kind_at(state, m$column) != "text", mentions)
  if (length(divided) == 1) r$by <- column_names_of(state, divided)
  r$extra$words_asked <- says(state, "\\b(words?|terms?|vocabulary)\\b")
  r$extra$missing <- if (!length(r$outcome)) "outcome"
  r
}

fill_open <- function(state, mentions, r) {
  r <- with_filters(state, r)
  r$outcome <- column_names_of(state, mentions)
  named <- asks_for_items(state) || identical(r$method_asked, "item_analysis") && !length(r$outcome)
  if (r$task == "agreement" && length(r$outcome) < 2 && named && length(item_columns(state)) >= 2) {
    r$outcome <- item_columns(state)
    r$assumed <- c(r$assumed, sprintf("Took all items: %s.", some_of(r$outcome, 12)))
  }
  # ("kappa" of three raters and more is that of Fleiss, unless another is named)
  if (r$task == "agreement" && identical(r$method_asked, "cohen_kappa") && length(r$outcome) > 2 && !says(state,
      "\\bcohen")) r$method_asked <- "fleiss_kappa"
  if (r$task == "agreement") fill_long_ratings(state, mentions, r) else r
}

#' "icc of the score across tasters", "intraclass correlation of diameter within batch": ratings in rows
#' @noRd
fill_long_ratings <- function(state, mentions, r) {
  kinds <- mention_kinds(state, mentions)
  # "intraclass correlation of area within cores", of cores that are numbered
  grouped <- function(m) can_group(state, m$column) && grepl("^(within|inside|in the same|of the same)", item_norm(state, m$at - 1))
  measured <- Filter(function(m) can_measure(state, m$column) && !grouped(m), mentions)
  groups <- Filter(function(m) kind_at(state, m$column) %in% c("id", "category", "yes_no") || grouped(m), mentions)
  # two columns of ratings stand side by side; kappas take them so
  if (length(groups) == 2 && !length(measured) || !is.null(r$method_asked) && r$method_asked != "intraclass_correlation") return(r)
  if (length(measured) > 1 || !length(groups) || length(groups) > 2 || length(kinds) != length(measured) + length(groups)) return(r)
  columns <- state$vocabulary$columns
  at <- vapply(groups, `[[`, 1L, "column")
  known <- TRUE
  within <- vapply(groups, function(m) grepl("^(within|inside|in the same|of the same)( (each|the|every|a))?$", item_norm(state, m$at - 1)) ||
    item_norm(state, m$at - 2) == "within" || m$marker == "by" && kind_at(state, m$column) == "id", NA)
  if (length(groups) == 2) by <- if (any(within)) c(at[within][1], at[!within][1]) else at[order(-columns$distinct[at])]
  else if (any(within)) by <- at
  else {
    rater <- at[1]
    # what was rated: the column whose values, once for each rater, make up the rows
    rated <- which(columns$kind %in% c("id", "category", "count") & columns$table == columns$table[rater] &
      as.numeric(columns$distinct) * columns$distinct[rater] == columns$rows[rater] & seq_len(nrow(columns)) != rater)
    known <- length(rated) == 1
    by <- c(if (known) rated, rater)
    if (known) r$assumed <- c(r$assumed, sprintf("Each %s was rated once by each %s.", columns$name[rated], columns$name[rater]))
  }
  r$extra$long <- TRUE
  r$outcome <- column_names_of(state, measured)
  r$by <- columns$name[by]
  r$extra$missing <- if (!length(measured)) "outcome" else if (!known) "subject"
  r
}

#' The columns of effects and of standard errors in data of studies
#' @section Shape: list(effects, errors), names, most likely first.
#' @noRd
study_columns <- function(columns) {
  numeric <- columns$name[columns$kind %in% c("number", "count")]
  error <- grepl("(^|[^a-z])(se|stderr|std_?err|standard_?error)([^a-z]|$)", tolower(numeric))
  rest <- numeric[!error]
  list(effects = rest[grep("effect|estimate|difference|diff|log_?(or|rr|hr)|beta|(^|_)(d|g|md|smd|yi|es)(_|$)|gain", tolower(rest))],
       errors = numeric[error])
}

#' Are studies pooled, though the words are those of other tasks? ("does the effect depend on year", "is the effect different by country")
#' @noRd
asks_of_studies <- function(state, mentions) {
  s <- study_columns(state$vocabulary$columns)
  if (!length(s$effects) || !length(s$errors)) return(FALSE)
  said <- says(state, paste0("\\b(pooled|meta-?regress\\w*|sub-?groups?|heterogene\\w*|leave[- ]one[- ]out|leav(e|ing) out (one|each) (study|trial)|egger\\w*|",  # nolint: line_length_linter.
                             "funnel|small[- ]stud\\w*|publication bias|(most|largest|highest) weight|prediction interval|new (study|trial)|moderators?)\\b"))  # nolint: line_length_linter.
  names <- column_names_of(state, mentions)
  of_effect <- any(names %in% s$effects) && length(setdiff(names, c(s$effects, s$errors))) == 1 &&
    says(state, "\\b(effects?|estimates?|results?)\\b.*\\b(depends?|differ\\w*|var(y|ies)|change[sd]?|relate[ds]?|larger|smaller|higher|lower|stronger|weaker|same|by|with)\\b")  # nolint: line_length_linter.
  said || of_effect
}

#' Effect and standard error of each study: columns named, else those whose names say so
#' @noRd
fill_pool <- function(state, mentions, r) {
  r <- with_filters(state, r)
  columns <- state$vocabulary$columns
  numeric <- columns$name[columns$kind %in% c("number", "count")]
  found <- study_columns(columns)
  names <- column_names_of(state, mentions)
  r <- pool_side(state, mentions, names, found, r)
  named <- setdiff(intersect(names, numeric), r$extra$study_column)
  se <- c(intersect(named, found$errors), found$errors)[1]
  effect <- c(setdiff(named, se), found$effects)[1]
  r$outcome <- c(effect, se)[!is.na(c(effect, se))]
  if (length(r$outcome) == 2 && length(named) < 2) r$assumed <- c(r$assumed,
      sprintf("Took %s as the effect of each study and %s as its standard error.", effect, se))
  text <- tolower(state$text)
  if (grepl("fixed.?effect|common effect", text)) r$method_asked <- "pooled_fixed" else if (grepl("random.?effect",
      text)) r$method_asked <- "pooled_random"
  raw <- if (length(r$outcome) < 2) raw_study_columns(columns)
  if (!is.null(raw)) {
    r$outcome <- raw$columns
    measure <- switch(raw$kind, counts = if (grepl("risk ratio|relative risk|rate ratio", text)) "risk_ratio"
      else if (grepl("(risk|rate|absolute) difference|difference (in|of) (risks?|proportions?|shares?|rates?)", text)) "risk_difference" else "odds_ratio",  # nolint: line_length_linter.
      means = if (grepl("standardi[sz]ed|hedges|smd|cohen", text)) "standardised_difference" else "mean_difference", "correlation")
    r$extra$studies <- list(kind = raw$kind, measure = measure)
    r$assumed <- c(r$assumed, sprintf("The %s of each study is computed from %s.", gsub("_", " ", measure), some_of(raw$columns, 6)))
  }
  r$extra$funnel <- grepl("funnel|publication bias|small.study|egger", text)
  r$extra$moments <- grepl("\\bdersimonian|\\bmoments?\\b", text)
  r$by <- r$predictors <- character()
  if (!is.null(r$extra$study_column)) {
    if (identical(r$extra$view, "study_groups")) r$by <- r$extra$study_column else r$predictors <- r$extra$study_column
  }
  r$extra$missing <- if (length(r$outcome) < 2) "outcome"
  r
}

#' Words that ask which study weighs most in a pooled result, as a pattern
#' @noRd
weight_asked <- function() "\\b(most|largest|highest|biggest|greatest) weight\\b"

#' The side of the pooled studies that the question looks at
#' @noRd
pool_side <- function(state, mentions, names, found, r) {
  columns <- state$vocabulary$columns
  others <- setdiff(names, c(found$effects, found$errors))
  kind <- columns$kind[match(others, columns$name)]
  unique <- columns$unique[match(others, columns$name)]
  groups <- others[kind %in% c("category", "yes_no", "ordered") & !unique]
  measured <- others[kind %in% c("number", "count") & length(found$effects) > 0]
  r$extra$view <- if (length(groups) == 1) "study_groups" else if (length(measured) == 1 && length(found$errors)) "study_line"
    else if (says(state, "\\begger|funnel|small[- ]stud|publication bias|asymmetr")) "small_studies"
    else if (says(state, weight_asked())) "study_weights"
    else if (says(state, "leave[- ]one[- ]out|without each|leav(e|ing) (out )?(one|each)|(most|largest|highest|biggest) influence|influential")) "single_studies"  # nolint: line_length_linter.
    else if (says(state, "prediction (interval|limits|range)|\\bnew (study|trial)\\b|\\bnext (study|trial)\\b")) "new_study"
    else if (says(state, "heterogene|consisten|how (much|far) do the (studies|trials) differ|i[- ]?squared|tau")) "heterogeneity"
  r$extra$study_column <- c(groups, measured)[if (length(groups) == 1 || length(measured) == 1) 1]
  if (!length(r$extra$study_column)) r$extra["study_column"] <- list(NULL)
  r
}

#' Rows to be shown: "with missing honey yield" is a condition on it
#' @noRd
fill_look_up <- function(state, mentions, r) {
  r <- with_filters(state, r)
  r$outcome <- column_names_of(state, mentions)
  gap <- says(state, "\\b(missing|empty|blank|without an?|no value|not recorded)\\b")
  if (gap && length(r$outcome)) r$filters <- c(r$filters, lapply(r$outcome, function(n) new_filter(n, "is_missing", list())))
  r
}

#' "forecast sales for March 2027", "... for 1965": a time after the end of the data is what is forecast, and no condition on the rows
#' @noRd
forecast_target <- function(state, r) {
  columns <- state$vocabulary$columns
  time <- columns[match(r$time$column, columns$name), ]
  own <- vapply(r$filters, function(f) f$column == r$time$column, NA)
  if (identical(time$role, "year")) {
    ends <- suppressWarnings(as.numeric(strsplit(time$years, "-", fixed = TRUE)[[1]]))
    # ("the next 4 years" is no year)
    r$filters <- r$filters[!(own & vapply(r$filters, function(f) isTRUE(as.numeric(f$value)[1] < 1000), NA))]
    said <- regmatches(state$text, regexec("\\b(?:for|in|by|until|till|to|through) (?:the year )?((?:1[5-9]|20|21)[0-9]{2})\\b", state$text, ignore.case = TRUE))[[1]]  # nolint: line_length_linter.
    if (length(said) && isTRUE(as.numeric(said[2]) > ends[2])) {
      r$filters <- Filter(function(f) f$column != r$time$column, r$filters)
      r$extra$horizon <- list(until = paste0(said[2], "-07-01"), said = said[2])
    }
    return(r)
  }
  last <- as.Date(last_of(strsplit(time$days, " ", fixed = TRUE)[[1]]))
  late <- which(own)[vapply(r$filters[own], function(f) is.character(f$value) && isTRUE(as.Date(last_of(unlist(f$value))) > last), NA)]
  if (length(late) != 1) return(r)
  until <- as.character(last_of(unlist(r$filters[[late]]$value)))
  r$filters <- r$filters[-late]
  r$extra$horizon <- list(until = until, said = until)
  r
}

#' A forecast is a trend with a horizon
#' @noRd
fill_forecast <- function(state, mentions, r) {
  r <- fill_trend(state, mentions, r)
  r$by <- character()
  r$extra$trend_test <- NULL
  found <- regmatches(state$text,
      regexec(paste0("(?:next|coming|following) (?:(\\d+|two|three|four|six|twelve)",
          " )?(day|week|month|quarter|year)s?|(\\d+) (day|week|month|quarter|year)s? (?:ahead|out|from",
          " now)"),
                                          state$text, ignore.case = TRUE, perl = TRUE))[[1]]
  if (length(found)) {
    count <- paste0(found[2], found[4])
    words <- c(two = 2, three = 3, four = 4, six = 6, twelve = 12)
    r$extra$horizon <- list(n = if (!nzchar(count)) 1 else if (tolower(count) %in% names(words)) words[[tolower(count)]] else as.numeric(count),
        unit = tolower(paste0(found[3], found[5])))
  }
  if (!is.null(r$time$column)) r <- forecast_target(state, r)
  # "next month" says how far, not in what steps
  if (!is.null(r$time) &&
      !says(state, "\\b(daily|weekly|monthly|quarterly|yearly|(by|per) (day|week|month|quarter|year))\\b")) r$time$every <- NULL
  r
}
