# Filling the slots of summaries and counts.

fill_describe <- function(state, mentions, r) {
  held <- held_days(state, mentions)
  mentions <- setdiff_mentions(mentions, held)
  r <- with_filters(state, r)
  r$filters <- c(r$filters, lapply(held, `[[`, "filter"))
  by <- vapply(mentions, function(m) m$marker %in% c("by", "between") && can_group(state, m$column), NA)
  measured <- vapply(mentions, function(m) can_measure(state, m$column), NA)
  # a column that only divides stands beside one that measures
  if (!any(by) && any(measured) && any(!measured)) by <- !measured &
    vapply(mentions, function(m) can_group(state, m$column), NA)
  # "the mean weight by age", of ages that divide the rows too finely
  fine <- !by & measured & vapply(mentions, function(m) m$marker == "by" && is_numeric_kind(kind_at(state, m$column)), NA)
  if (!is.null(r$statistic) && sum(fine) == 1 && sum(measured & !fine) == 1 && !any(by)) {
    r$extra$fine_by <- column_names_of(state, mentions[fine])
    mentions <- mentions[!fine]; by <- by[!fine]; measured <- measured[!fine]
  }
  r$outcome <- column_names_of(state, mentions[!by])
  # (beside a measure a key only says what the rows are)
  keys <- kind_of_names(state, r$outcome) == "id"
  if (any(keys) && !all(keys)) r$outcome <- r$outcome[!keys]
  r$by <- column_names_of(state, mentions[by])
  groups <- Filter(function(g) !g$negated && names_several(g) && !(column_of(state, g$column) %in% r$by),
                   state$groups)
  if (length(groups) && length(r$outcome)) {
    r$by <- c(r$by, column_of(state, groups[[1]]$column))
    r <- with_filters(state, r, groups[1])
    r <- compared_levels(state, r, groups[[1]])
  }
  # "mean spend per recipient", where each row is one: the mean of the rows
  columns <- state$vocabulary$columns
  own <- kind_of_names(state, r$by) == "id" & columns$unique[match(r$by, columns$name)]
  if (any(own) && (r$statistic %||% "mean") %in% c("mean", "median")) {
    r$assumed <- c(r$assumed, sprintf("Each row is one %s, so rows are what is averaged over.", r$by[own][1]))
    r$by <- r$by[!own]
  }
  r$extra$outcome_mentions <- mentions[!by]
  r$extra$missing <- if (!length(r$outcome) && !wants_all(state)) "outcome"
  # "age and sex by diet": columns of levels have no mean, so all are described by their kind
  kinds <- kind_of_names(state, r$outcome)
  if (length(r$outcome) > 1 && length(r$by) == 1 && any(kinds %in% c("category", "yes_no")) && (r$statistic %||% "mean") == "mean") {
    r$extra$baseline <- TRUE
    r["statistic"] <- list(NULL)
    return(r)
  }
  if (!is.null(r$statistic) && length(r$outcome) == 1) r$assumed <- c(r$assumed, levels_scored(state, r$outcome))
  total_of_counts(state, mentions[!by], takings_by_group(state, r))
}

#' "revenue by town", of sales with their dates: what each group has taken altogether
#'
#' Rows that are events in time add up; of firms or people, one a row, what is taken is a measure like any other.
#' @noRd
takings_by_group <- function(state, r) {
  taken <- length(r$outcome) == 1 && length(r$by) > 0 && is.null(r$statistic) && !length(r$extra$statistics) && has_dates(state)
  if (!taken || !grepl("(^|[^a-z])(takings|revenues?|sales|turnover|receipts|profit)([^a-z]|$)",
      tolower(r$outcome)) || adds_up_not(r$outcome)) return(r)
  plain <- "^ *(what (is|was|were|are) |show |give )?(me )?(the |our )*[^ ]+( [^ ]+){0,2} (by|per|in each|for each|across|for every) "
  if (!says(state, plain) || says(state, "\\b(describe|summar|distribut|spread|compare|differ|vary|histogram|box|typical)")) return(r)
  r["statistic"] <- list("sum")
  r$assumed <- c(r$assumed, sprintf("Took %s as the total of its rows; ask for its mean if that is meant.", r$outcome))
  r
}

#' "rentals on holidays", of a yes/no column holiday: the rows that say yes
#' @section Shape: As [joined_condition()].
#' @noRd
held_days <- function(state, mentions) {
  if (length(mentions) < 2) return(list())
  own <- Filter(function(m) kind_at(state, m$column) == "yes_no" && grepl("^(on|during)$", item_norm(state, m$at - 1)) &&
    (grepl("s$", item_norm(state, m$at)) || grepl("^(days?|nights?|dates?)$", item_norm(state, m$at + 1))), mentions)
  lapply(own, function(m) list(mention = m, filter = new_filter(column_of(state, m$column), "==", state$vocabulary$columns$last_level[m$column])))
}

#' What a mean of answers in words is a mean of
#' @noRd
levels_scored <- function(state, name) {
  column <- state$vocabulary$columns[match(name, state$vocabulary$columns$name), ]
  if (column$kind != "ordered" || grepl("^-?[0-9.]+$", column$first_level)) return(NULL)
  sprintf("The levels of %s are scored 1 (%s) to %d (%s).", name, column$first_level, column$distinct, column$last_level)
}

#' "number of claims in district 4", of a column that counts claims: their total
#' @noRd
total_of_counts <- function(state, measured, r) {
  if (length(measured) != 1 || !is.null(r$statistic) && !identical(r$statistic, "sum") || kind_at(state, measured[[1]]$column) != "count") return(r)
  first <- measured[[1]]$at
  lead <- paste(item_norm(state, first - 2), item_norm(state, first - 1))
  altogether <- says(state, "^ *how many\\b.*\\b(in total|altogether|overall|all together)\\b") && identical(main_statistic(state), "sum")
  asked <- altogether || measured[[1]]$score >= 0.9 && says(state, "^ *(what (is|was|were) )?(the )?(total )?number of\\b|^ *how many\\b") &&
    grepl("(number of|how many)$", trimws(lead)) && grepl("s$", item_norm(state, first))
  if (!asked) return(r)
  r$statistic <- "sum"
  r$assumed <- c(r$assumed, sprintf("Took the number of %s as their total.", item_norm(state, first)))
  r
}

wants_all <- function(state) {
  any(vapply(state$items, function(i) i$norm %in% c("all", "every", "everything", "variables", "columns", "numeric",
                                                    "numerical"), NA))
}

#' "percent who disagree that the wait was acceptable": the measure only says what the statement is about
#' @noRd
without_topic <- function(state, mentions, share) {
  levels <- c(Filter(function(g) !isTRUE(g$numeric), state$groups), Filter(function(f) f$op %in% c("==", "in") && !is.numeric(unlist(f$value)), state$filters))  # nolint: line_length_linter.
  measured <- vapply(mentions, function(m) m$marker != "by" && kind_at(state, m$column) %in% c("number", "count") &&
    state$vocabulary$columns$distinct[m$column] > 12, NA)
  others <- vapply(mentions, function(m) m$marker != "by" && kind_at(state, m$column) %in% c("yes_no", "category", "ordered"), NA)
  bounds <- vapply(state$filters, `[[`, "", "column")
  if (!share || sum(measured) != 1 || any(others) || !length(levels) || column_of(state, mentions[[which(measured)]]$column) %in% bounds ||
      !says(state, "\\b(agree|disagree|satisfied|dissatisfied)\\w*\\b")) return(mentions)
  mentions[!measured]
}

#' "how many visits by membership", of a column of visits with many values: their total, since nobody counts rows by each of them
#' @noRd
amounts_by_group <- function(state, numeric, mentions) {
  if (length(numeric) != 1 || !says(state, "^ *(how many|the number of|number of)\\b") || length(state$groups)) return(FALSE)
  groups <- Filter(function(m) m$column != numeric[[1]]$column, mentions)
  length(groups) > 0 && all(vapply(groups, function(m) can_group(state, m$column), NA)) &&
    !column_of(state, numeric[[1]]$column) %in% vapply(state$filters, `[[`, "", "column") &&
    state$vocabulary$columns$distinct[numeric[[1]]$column] > 12
}

fill_frequency <- function(state, mentions, r) {
  r <- with_filters(state, r)
  # "how many absences did 4A have in total": what is counted in a column is added up
  numeric <- Filter(function(m) kind_at(state, m$column) == "count", mentions)
  if (length(numeric) == 1 && identical(main_statistic(state), "sum") && says(state,
    "^ *how many\\b.*\\b(in total|altogether|overall|in all)[ ?.!]*$")) {
    r$task <- "describe"
    return(fill_describe(state, mentions, r))
  }
  if (amounts_by_group(state, numeric, mentions)) {
    r$task <- "describe"
    r <- fill_describe(state, mentions, r)
    r["statistic"] <- list("sum")
    told <- sprintf("Took the number of %s as their total.", item_norm(state, numeric[[1]]$at))
    r$assumed <- unique(c(r$assumed, told))
    return(r)
  }
  if (adds_up_nothing(state, numeric)) {
    r$task <- "describe"
    r$by <- column_names_of(state, Filter(function(m) can_group(state, m$column), mentions))
    r["statistic"] <- list("sum")
    r$extra$missing <- "outcome"
    return(r)
  }
  if (asks_for_flow(state)) return(fill_flow(state, mentions, r))
  if (length(items_asked(state, mentions))) return(described_items(state, mentions, fill_items(state, mentions, r)))
  kinds <- distinct_asked(state, mentions)
  if (!is.null(kinds)) {
    r$outcome <- column_names_of(state, kinds["what"]); r$by <- column_names_of(state, kinds$by)
    r["statistic"] <- list("distinct")
    r$extra$distinct <- TRUE
    r$filters <- c(r$filters, kinds$conditions)
    r$extra$outcome_mentions <- kinds["what"]
    r$assumed <- c(r$assumed, sprintf("Each different value of %s counts once.", r$outcome))
    return(r)
  }
  share <- wants_share(state, mentions)
  if (share) mentions <- without_rows_named(state, mentions)
  mentions <- without_topic(state, mentions, share)
  if (share) mentions <- without_rows_shared(state, mentions)
  if (share) r <- sides_of_share(state, mentions, take_event(state, mentions, r))
  else {
    joined <- joined_condition(state, mentions)
    if (length(joined)) { r$filters <- c(r$filters, lapply(joined, `[[`, "filter")); mentions <- setdiff_mentions(mentions, joined) }
  }
  # "how many are unsure about leaving by grade": the level beside its own column is counted in the groups
  own <- if (!share && length(state$groups) == 1) Filter(function(m) m$column == state$groups[[1]]$column && m$marker != "by", mentions)
  divided <- any(vapply(mentions, function(m) m$marker == "by", NA))
  if (length(own) == 1 && divided && names_one(state$groups[[1]])) {
    r$extra$event <- group_filter(state, state$groups[[1]])
    r$filters <- leave_filter(r$filters, r$extra$event)
    r$extra$shares <- TRUE
  }
  names <- column_names_of(state, mentions)
  # ("how many orders were rated 5 stars": the one value of its column is what is counted)
  held <- vapply(r$filters, function(f) if (f$op == "==") f$column else "", "")
  if (!share && !divided && length(names) == 1 && names %in% held && says(state, "^ *(how many|number of|count)\\b")) names <- character()
  r$outcome <- unique(c(r$outcome, names))
  if (!length(r$outcome)) r <- counted_groups(state, r)
  by <- vapply(mentions, function(m) m$marker == "by", NA)
  event_apart <- length(r$extra$event) && !r$extra$event$column %in% names[by]
  if (any(by) && ((length(mentions) > 1 && !all(by)) || event_apart)) {
    r$by <- intersect(r$outcome, names[by])
    r$outcome <- setdiff(r$outcome, r$by)
  }
  r$extra$outcome_mentions <- mentions
  # a share of one answer among several, by group: the shares, not the whole table
  several <- length(r$outcome) == 1 && kind_of_names(state, r$outcome) != "yes_no"
  if (share && several && length(r$by) && identical(r$extra$event$column, r$outcome)) r$extra$shares <- TRUE
  # "diabetes rate by number of pregnancies": numbers are no levels of a table of counts
  if (length(r$extra$event) && length(r$by) == 1 && is_numeric_kind(kind_of_names(state, r$by))) r$extra$shares <- TRUE
  # "percentage of pupils with ...", "mean ... by season", where nothing is found that they are of
  measured <- any(asked_statistics(state) %in% c("mean", "median", "sd", "variance", "min", "max"))
  if (measured && !length(r$extra$event) && length(mentions) && all(vapply(mentions, function(m) m$marker %in% c("by", "between"), NA))) {
    r$by <- names; r$outcome <- character(); r$extra$missing <- "outcome"
    return(r)
  }
  nothing_shared(state, mentions, r, share)
}

#' "total time spent by plan": what is added up is none of the columns
#' @noRd
adds_up_nothing <- function(state, numeric) {
  after <- which(norms_of(state) %in% c("total", "sum"))[1] + 1L
  adds <- !is.na(after) && after <= state$n && state$type[after] == "filler" && !item_norm(state, after) %in% c("number", "count", "amount", "of",
    "numbers")
  adds && !length(numeric) && !says(state, "\\b(how many|number of|count)\\b")
}

#' Is a share asked for, and not a count?
#' @noRd
wants_share <- function(state, mentions) {
  # (the percentages of a table of two columns are not those of one event)
  if (length(mentions) > 1 && says(state, "cross-? ?tab|contingency table|two-?way table|\\b(row|column|cell) (percent|%)")) return(FALSE)
  worded <- "percent" %in% asked_statistics(state) ||
    any(grepl("share|proportion|percent|fraction|probability|likelihood|^chances?$", norms_of(state))) || rate_of_event(state, mentions)
  # "how often were hives treated"
  often <- !length(mentions) && says(state, "^ *how often (is|are|was|were|do|does|did)\\b")
  rated <- any(vapply(state$groups, function(g) grepl("^rates?$", item_norm(state, max(g$at) + 1)), NA))
  # "how often did the first reader say malignant"
  said <- says(state, "^ *how (often|frequently)\\b") && length(state$groups) == 1 && length(mentions) == 1 &&
    mentions[[1]]$column == state$groups[[1]]$column
  worded || often || rated || said
}

#' Mentions without those that only say what rows are shared out
#' @noRd
without_rows_shared <- function(state, mentions) {
  of_before <- function(m, back) grepl("(^| )of$", item_norm(state, m$at - back))
  # "share of patient periods without a seizure": what the rows are called by two columns
  if (length(c(state$filters, state$groups))) mentions <- Filter(function(m) !(m$marker != "by" && grepl("[^s]s$", item_norm(state, m$at)) &&
    state$type[max(1, m$at - 1)] %in% c("entity", "column") && of_before(m, 2)), mentions)
  # "share of lending that goes to cars", beside a key called loan_ref
  if (length(state$groups)) mentions <- Filter(function(m) m$marker == "by" || kind_at(state, m$column) != "id", mentions)
  # "share of children absent more than 20 days": the column of the condition is not counted as well
  if (length(state$filters)) mentions <- Filter(function(m) m$marker == "by" || !can_measure(state, m$column) ||
    !column_of(state, m$column) %in% vapply(state$filters, `[[`, "", "column"), mentions)
  # "percentage of months in which the target was met": the rows
  mentions <- Filter(function(m) !(kind_at(state, m$column) %in% c("date", "datetime") && of_before(m, 1)), mentions)
  if (length(state$groups) == 1) mentions <- Filter(function(m) m$column != state$groups[[1]]$column, mentions)
  mentions
}

#' "share of good nights", "percentage of nights with more than 2 wakeups": mentions without the rows themselves
#' @noRd
without_rows_named <- function(state, mentions) {
  if (!length(c(state$groups, state$filters))) return(mentions)
  counted <- function(m) m$marker != "by" && grepl("[^s]s$", item_norm(state, m$at)) && !kind_at(state, m$column) %in% c("yes_no") &&
    (grepl("(^| )of$", item_norm(state, m$at - 1)) || item_type_at(state, m$at - 1) == "value") &&
    grepl(sprintf("^%s?$", tolower(sub("s$", "", item_norm(state, m$at)))), tolower(column_of(state, m$column)))
  own <- vapply(state$groups, `[[`, 1L, "column")
  Filter(function(m) m$column %in% own || !counted(m), mentions)
}

#' The reading says what is lacking where a count or share has nothing that it is of
#' @noRd
nothing_shared <- function(state, mentions, r, share) {
  lacks <- function(what, by = column_names_of(state, mentions)) {
    r$by <- by; r$outcome <- character(); r$extra$missing <- what
    r
  }
  measured <- any(asked_statistics(state) %in% c("mean", "median", "sd", "variance", "min", "max"))
  lost <- !length(r$extra$event) && !length(r$outcome)
  if (lost && share && !length(r$by) && !length(r$filters) && !any(vapply(state$items, has_lex, NA, "every"))) return(lacks("event_column", r$by))
  if (lost && measured) return(lacks("outcome", r$by))
  all_by <- length(mentions) > 0 && all(vapply(mentions, function(m) m$marker == "by", NA))
  # "scores by method": something measured is meant, though no column is called so
  noun <- says(state, "^ *(the |average |mean )?(scores?|results?|values?|ratings?|readings?|measurements?|performance|marks|grades)\\b")
  if (noun && !share && !length(r$extra$event) && all_by && all(vapply(mentions, function(m) is_level_kind(kind_at(state, m$column)), NA))) {
    r$task <- "describe"
    return(lacks("outcome"))
  }
  if (length(r$extra$event)) return(r)
  # "the response rate by arm", where nothing is found that the rate is of
  if (says(state, "\\b[a-z]+ rates?\\b") && !any(norms_of(state) == "heart rate") && all_by) return(lacks("event_column"))
  # "the proportion with bacteria by week": a share needs what it is a share of
  if (share && !length(r$outcome) && length(r$by)) r$extra$missing <- "outcome"
  # "the percentage of hives lost per apiary": something happened to them that no column was found for
  happened <- says(state, paste0("\\b(percent\\w*|shares?|proportions?|fractions?) of (the |all |all the )?\\w+ (that |who |which )?(?!in |by |per ",
      "|for |at |of |from |with |within |across |and |to |on )\\w+ (per|by|in each|for each|in every) "))
  lone <- length(mentions) == 1 && all_by
  if (share && happened && lone) return(lacks("event_column"))
  if (share && length(r$outcome) && !length(r$by) && lone && !is_level_kind(kind_at(state, mentions[[1]]$column))) {
    return(lacks("event_column", r$outcome))
  }
  r
}

#' "how many different dates with rain above 5": a column of dates behind such a word is counted, though it is no measure
#' @section Shape: a mention, or NULL.
#' @noRd
distinct_dates <- function(state) {
  for (k in which(state$type == "column" & !state$used)) {
    at <- state$items[[k]]$cols$column[1]
    if (kind_at(state, at) %in% c("date", "datetime") && grepl("^(distinct|unique|different)$", item_norm(state, k - 1))) {
      return(new_mention(k, at, "", state$items[[k]]$text))
    }
  }
  NULL
}

#' "number of distinct species at each site", "number of customers per country": what is counted is the different values
#' @section Shape: list(what = a mention, by = mentions), or NULL.
#' @noRd
distinct_asked <- function(state, mentions) {
  dates <- distinct_dates(state)
  if (!is.null(dates)) return(list(what = dates, by = Filter(function(m) m$column != dates$column, mentions)))
  units <- units_counted(state)
  divides <- function(m) m$marker != "" || grepl("(^| )(each|every)$", item_norm(state, m$at - 1))
  apart <- vapply(mentions, function(m) can_group(state, m$column) && divides(m), NA)
  # "how many subjects had an adverse event in each arm": the yes of such a column is a condition
  happened <- vapply(mentions, function(m) kind_at(state, m$column) == "yes_no" && m$marker == "", NA)
  if (!is.null(units) && all(apart | happened)) {
    said <- lapply(mentions[happened & !apart], function(m) new_filter(column_of(state, m$column), "==", if (denied_before(state, m$at))
      state$vocabulary$columns$first_level[m$column] else state$vocabulary$columns$last_level[m$column]))
    return(list(what = list(column = units, marker = "", at = 0L, text = "", adjective = FALSE, score = 1), by = mentions[apart], conditions = said))
  }
  if (!length(mentions) || length(state$groups) && any(vapply(state$groups, function(g) g$column == mentions[[1]]$column, NA))) return(NULL)
  first <- mentions[[1]]
  kind <- kind_at(state, first$column)
  named <- says(state, "\\b(distinct|unique|different)\\b")
  keyed <- kind == "count" && state$vocabulary$columns$distinct[first$column] < state$vocabulary$columns$rows[first$column] &&
    tolower(column_of(state, first$column)) == sub("s$", "", item_norm(state, first$at))
  per <- says(state, "^ *(what is |what's )?(the )?number of\\b|^ *how many\\b") && (kind == "category" || keyed) &&
    grepl("s$", tolower(state$items[[first$at]]$text)) && (!grepl("s$", tolower(column_of(state, first$column))) ||
        item_norm(state, first$at) == "species") &&
    (length(mentions) == 1 && grepl("^(are there.*|do we have|in total|there are)?[?.! ]*$",
        trimws(substring(state$text, state$tokens$end[state$items[[first$at]]$to] + 1))) ||
     length(mentions) == 2 && (mentions[[2]]$marker == "by" || grepl("(^| )(per|each|every|by)$", item_norm(state, mentions[[2]]$at - 1))))
  if (!(named && kind %in% c("category", "id", "yes_no", "ordered", "count", "text", "date")) && !per) return(NULL)
  if (first$marker == "by" || (named && !grepl("\\b(distinct|unique|different)\\b", paste(vapply(first$at - 1:3, function(j) item_norm(state, j), ""),
    collapse = " ")))) return(NULL)
  list(what = first, by = mentions[-1])
}

#' "how many people added to cart but didn't buy": a yes/no column beside another condition is one as well
#' @section Shape: list of list(mention, filter).
#' @noRd
joined_condition <- function(state, mentions) {
  others <- c(vapply(state$filters, `[[`, "", "column"), vapply(state$groups, function(g) column_of(state, g$column), ""))
  if (!says(state, "^ *(how many|number of|count)\\b.*\\b(but|and|who|that|yet)\\b")) return(list())
  own <- Filter(function(m) !m$marker %in% c("by", "between") && kind_at(state, m$column) == "yes_no" && !column_of(state, m$column) %in% others,
      mentions)
  # two of them and nothing else are conditions only where "but" sets one against the other
  if (!length(others) && (length(own) < 2 || !says(state, "\\b(but|yet)\\b"))) return(list())
  columns <- state$vocabulary$columns
  lapply(own, function(m) {
    denied <- denied_before(state, m$at)
    list(mention = m, filter = new_filter(column_of(state, m$column), "==",
        if (denied) columns$first_level[m$column] else columns$last_level[m$column]))
  })
}

denied_before <- function(state, at) {
  any(grepl("(^| )(not|no|non|never|without|didn'?t|don'?t)$", vapply(at - 1:2, function(k) item_norm(state, k), "")))
}

setdiff_mentions <- function(mentions, joined) {
  gone <- vapply(joined, function(j) j$mention$column, 1L)
  Filter(function(m) !m$column %in% gone, mentions)
}

#' "how many subjects are there", "number of hives in each apiary", where a unit has several rows: each counts once
#' @section Shape: index of the key column, or NULL.
#' @noRd
units_counted <- function(state) {
  columns <- state$vocabulary$columns
  keys <- which(columns$kind == "id" & !columns$unique)
  if (!length(keys)) return(NULL)
  for (k in seq_len(state$n)) {
    before <- paste(item_norm(state, k - 2), item_norm(state, k - 1))
    if (!grepl("(how many|number of)( different| distinct| unique)?$", before) || !grepl("s$|^(children|people|men|women|mice|geese|calves)$",
        tolower(state$items[[k]]$text))) next
    stem <- last_of(strsplit(state$items[[k]]$stem, " ")[[1]])
    hit <- keys[vapply(keys, function(i) stem %in% setdiff(name_stems(columns$name[i]), c("id", "no", "number", "code")), NA)]
    if (length(hit) == 1) return(hit)
    # "how many patients", where the one key that comes back is that of people (pid)
    if (length(keys) == 1 && is_key_of_people(columns$name[keys]) && state$items[[k]]$norm %in% plural_people()) return(keys)
  }
  NULL
}

#' Is a key called as keys of people are ("pid", "subject")?
#' @noRd
is_key_of_people <- function(name) {
  grepl("^(p|s|pt|ppt|subj?|pat|part|person|people|participant|patient|subject|resp|respondent|student|child|member|client)[_. ]?(id|no|nr|number|code)?$",  # nolint: line_length_linter.
        tolower(name))
}

#' What people in a study are called, whatever their key is called
#' @noRd
plural_people <- function() {
  c("patients", "participants", "people", "subjects", "respondents", "persons", "individuals", "volunteers", "students", "pupils", "children",
    "clients", "members")
}

#' "how many men and how many women": values of one column and nothing else ask for its counts
#' @noRd
counted_groups <- function(state, r) {
  several <- Filter(function(g) !g$negated && names_several(g), state$groups)
  if (!length(several)) return(r)
  r$outcome <- column_of(state, several[[1]]$column)
  r <- with_filters(state, r, several[1])
  compared_levels(state, r, several[[1]])
}

#' "share of smokers among men": what stands after such a word is whom the share is taken of
#' @noRd
narrows <- function(state, g) {
  before <- vapply(min(g$at) - 1:2, function(j) item_norm(state, j), "")
  within <- c("among", "amongst", "in", "within", "for", "at", "from", "on")
  before[1] %in% within || (before[1] %in% c("the", "all", "our") && before[2] %in% within)
}

#' Conditions without one of them, which is what is counted
#' @noRd
leave_filter <- function(filters, event) Filter(function(f) !identical(f, event), filters)

#' "share of year 11 pupils that had ...", "... where sex is F": whom the share is of, the rest of the question tells the event
#' @noRd
is_base <- function(state, g) {
  if (!length(g$at)) return(FALSE)
  # ("of year 11 pupils": the column's name may stand before its level)
  named <- min(g$at) > 1 && state$type[min(g$at) - 1] == "column" && g$column %in% state$items[[min(g$at) - 1]]$cols$column
  before <- vapply(min(g$at) - named - 1:3, function(j) item_norm(state, j), "")
  if ("where" %in% before) return(TRUE)
  of <- grepl("(^| )of$", before[1:2])
  if (!of[1] && !(before[1] %in% c("the", "all", "our", "those") && of[2])) return(FALSE)
  # what follows must tell something of them ("stayed more than ..."), not narrow them further ("women over 50")
  after <- max(g$at) + 1
  while (item_type_at(state, after) == "entity") after <- after + 1
  narrowed <- "^(among|amongst|in|within|for|at|from|by|if|when|aged?|over|under|above|below|older|younger|more|less|fewer|than|between|and|or|is|=|<|>)( |$)"  # nolint: line_length_linter.
  after <= state$n && item_type_at(state, after) != "number" && !grepl(narrowed, item_norm(state, after))
}

#' The level that a column of two levels is named after ("passed" of pass and fail); "" where there is none
#' @noRd
level_named_so <- function(state, column) {
  record <- column_record(state, column)
  if (record$kind != "category" || record$distinct != 2) return("")
  levels <- unique(state$vocabulary$values$level[state$vocabulary$values$column == column])
  own <- name_stems(record$name)
  hit <- levels[vapply(stems_of(levels), function(s) length(s) == 1 && s %in% own, NA)]
  if (length(hit) == 1) hit else ""
}

#' "what share of the patients died": the last condition is the event, those before it restrict the rows
#' @noRd
take_event <- function(state, mentions, r) {
  positions <- c(vapply(state$groups, function(g) max(g$at), 1), numeric())
  # what stands after "by" divides; a column that neither divides nor is the event is what is counted
  counted <- Filter(function(m) m$marker != "by", mentions)
  groups <- state$groups
  named <- Filter(function(m) m$marker != "by" && nzchar(level_named_so(state, m$column)), mentions)
  if (length(named) == 1 && length(counted) == 1) {
    name <- column_of(state, named[[1]]$column)
    r$outcome <- name
    r$extra$event <- new_filter(name, "==", level_named_so(state, named[[1]]$column))
    if (length(mentions) > 2) r$extra$shares <- TRUE
    return(r)
  }
  yes_no <- Filter(function(m) kind_at(state, m$column) == "yes_no", mentions)
  if (length(yes_no) == 1 && length(counted) == 1 && yes_no[[1]]$marker != "by" && counted[[1]]$column == yes_no[[1]]$column) {
    # "what share of the hives swarmed": the yes of a yes/no column is the event
    name <- column_of(state, yes_no[[1]]$column)
    r$outcome <- name
    r$extra$event <- new_filter(name, "==", state$vocabulary$columns$last_level[yes_no[[1]]$column])
    return(r)
  }
  placed <- event_before_place(state, groups)
  if (!is.null(placed) && !length(counted)) {
    r$extra$event <- placed$event
    r$outcome <- placed$event$column
    r$filters <- placed$filters
    return(r)
  }
  # "reached a pressure below 140 at week 12": the bound is the event, what stands after "at" says which rows
  bounds <- which(vapply(state$filters, is_bound, NA))
  narrowing <- vapply(groups, function(g) narrows(state, g) || item_norm(state, min(g$at) - 2) %in% c("at", "in", "on", "during", "for") ||
    is_base(state, g), NA)
  if (length(groups) && length(bounds) == 1 && all(narrowing) && !length(counted)) {
    r$extra$event <- state$filters[[bounds]]
    r$outcome <- r$extra$event$column
    r$filters <- leave_filter(r$filters, r$extra$event)
    return(r)
  }
  if (length(groups)) {
    last <- which.max(ifelse(vapply(groups, function(g) narrows(state, g), NA), positions - 1000, positions))
    g <- groups[[last]]
    if (!g$negated && (!length(counted) || any(vapply(counted, function(m) m$column == g$column, NA)))) {
      r$extra$event <- group_filter(state, g)
      r <- with_filters(state, r, groups[last])
      r$outcome <- column_of(state, g$column)
      return(r)
    }
    return(r)
  }
  if (length(state$filters) && !length(counted)) {
    own <- event_before_among(state) %||% length(state$filters)
    r$extra$event <- state$filters[[own]]
    r$outcome <- r$extra$event$column
    r$filters <- state$filters[-own]
  }
  r
}

#' "proportion of left-handers among men and women": levels beside each other divide, they are not taken together
#' @noRd
sides_of_share <- function(state, mentions, r) {
  if (!length(r$extra$event) || any(vapply(mentions, function(m) m$marker == "by", NA)) || says(state,
      "\\b(combined|together|pooled|overall|in total)\\b")) return(r)
  sides <- Filter(function(g) !g$negated && !isTRUE(g$numeric) && names_several(g) && column_of(state, g$column) != r$extra$event$column,
      state$groups)
  if (length(sides) != 1) return(r)
  g <- sides[[1]]
  at <- sort(unique(g$at))
  between <- vapply(setdiff(seq(min(at), max(at)), at), function(k) item_norm(state, k), "")
  if (!any(between %in% c("and", "vs", "versus", "than", "against", "compared to", "compared with")) || "or" %in% between) return(r)
  name <- column_of(state, g$column)
  r$by <- name
  r$extra$shares <- TRUE
  if (length(g$levels) >= state$vocabulary$columns$distinct[g$column]) r$filters <- Filter(function(f) f$column != name, r$filters)
  r
}

#' "proportion with hypertension among non-smokers": of two conditions the one that stands before "among" is the event
#' @section Shape: The place of the event among the filters, or NULL.
#' @noRd
event_before_among <- function(state) {
  norms <- norms_of(state)
  within <- which(grepl("^(among|amongst|within|out of)( |$)", norms) & seq_along(norms) > 1)
  if (length(state$filters) < 2 || length(within) != 1) return(NULL)
  names <- state$vocabulary$columns$name
  before <- vapply(state$filters, function(f) {
    at <- which(vapply(state$items, function(i) match(f$column, names) %in% i$cols$column, NA))
    length(at) > 0 && all(at < within)
  }, NA)
  if (sum(before) == 1) which(before)
}

#' "share of bookings with breakfast at Lakeside": what follows "with" is the event, what follows "at" the rows
#' @section Shape: list(event, filters), or NULL.
#' @noRd
event_before_place <- function(state, groups) {
  yes_no <- Filter(function(f) f$op == "==" && identical(kind_of_names(state, f$column), "yes_no"), state$filters)
  if (length(groups) != 1 || length(yes_no) != 1 || length(state$filters) != 1 || groups[[1]]$negated) return(NULL)
  lead <- item_norm(state, min(groups[[1]]$at) - 1)
  if (lead == "the") lead <- item_norm(state, min(groups[[1]]$at) - 2)
  # "what share of G5 staff were promoted": what stands before the verb is whom the share is of
  if (!lead %in% c("at", "in", "from", "among", "within", "for", "on", "of")) return(NULL)
  if (!says(state, "\\b(share|percent(age)?|proportion|fraction|rate|how many)\\b.*\\b(with|that|who|having|which|were|are|is|was)\\b")) return(NULL)
  list(event = yes_no[[1]], filters = list(group_filter(state, groups[[1]])))
}

fill_measures <- function(state, mentions, r) {
  r <- with_filters(state, r)
  within <- function(m) r$task == "distribution" && grepl("^(within|in each|for each|per)( the)?$", item_norm(state, m$at - 1)) &&
    !can_measure(state, m$column)
  by <- vapply(mentions, function(m) (m$marker == "by" || within(m)) && can_group(state, m$column), NA)
  r$outcome <- column_names_of(state, mentions[!by])
  # problems are looked for in every column that a word fits as well as the first
  if (r$task == "quality") r$outcome <- unique(unlist(lapply(mentions[!by], function(m) column_of(state, close_columns(m)))))
  # (of single columns whose missing values are asked about)
  if (r$task == "quality" && says(state, "\\bmissing|\\bgaps?\\b|\\bblanks?\\b|\\bempty\\b") && !says(state,
      "\\b(outl|odd|strange|unusual|wrong|problem|quality|duplicat)")) {
    r$extra$about_missing <- TRUE
  }
  # "are there outliers in y": the values beyond the fences are told, also where none is far out
  r$extra$fences <- r$task == "quality" && length(r$outcome) == 1 && kind_of_names(state, r$outcome) %in% c("number", "count") &&
    says(state, "\\boutl(ier|y)|\\b(extreme|odd|unusual) values?\\b|\\bfar out\\b")
  if (r$task == "quality" && says(state, "\\b(duplicat\\w*|repeat\\w*|unique|twice|more than once)\\b")) {
    # "any duplicates in claim number": of a key each value should occur once
    keys <- unlist(lapply(which(state$type == "column"), function(k) { own <- state$items[[k]]$cols
      if (own$score[1] >= 0.9 && state$vocabulary$columns$distinct[own$column[1]] > 1) column_of(state, own$column[1]) }))
    r$extra$about_repeats <- TRUE
    if (length(keys)) {
      r$extra$repeats <- keys[1]
      r$outcome <- unique(c(r$outcome, keys[1]))
    }
  }
  r$by <- column_names_of(state, mentions[by])
  r$extra$outcome_mentions <- mentions[!by]
  r$extra$missing <- if (r$task == "distribution" && !length(r$outcome)) "outcome"
  r
}
