# "claims per holder": one measured column per unit of another.

#' The two mentions of a rate, or NULL
#' @section Shape: list(top, base), mentions.
#' @noRd
rate_asked <- function(state, mentions) {
  for (i in seq_along(mentions)) for (j in seq_along(mentions)) {
    a <- mentions[[i]]; b <- mentions[[j]]
    # (numbers of occasions are not added up)
    if (i == j || !between_says_per(state, a$at, b$at) || isTRUE(state$vocabulary$columns$index[b$column])) next
    # ("calls per year", of a column that says which year it was)
    if (grepl("^(year|quarter|month|week|day|period|round|season|time|wave|hour)$", tolower(column_of(state, b$column)))) next
    # ("cost per night" of price_per_night is that column)
    own <- name_stems(column_of(state, a$column))
    if ("per" %in% own && any(name_stems(column_of(state, b$column)) %in% own)) next
    # "revenue per night": what adds up over what is counted, even where that takes few values
    adds <- adds_up(column_of(state, a$column)) && is.null(main_statistic(state)) && kind_at(state, b$column) == "count" &&
      grepl("s$", column_of(state, b$column)) && !grepl("s$", b$text)
    # "minutes per goal": of a count of goals each is one
    # (an average of what adds up is one over them, too; "household_size" counts people)
    adds <- adds || adds_up(column_of(state, a$column)) && identical(main_statistic(state), "mean") && kind_at(state, b$column) == "count" &&
      grepl("s$|(size|people|persons|population|headcount)$", column_of(state, b$column)) && !grepl("s$", b$text)
    adds <- adds || kind_at(state, b$column) == "count" && grepl("(size|people|persons|population|headcount)$", tolower(column_of(state,
      b$column))) &&
      isTRUE(main_statistic(state) %in% "mean" || is.null(main_statistic(state)))
    adds <- adds || (kind_at(state, b$column) == "count" && is.null(main_statistic(state)) && grepl("s([_. ]|$)", column_of(state, b$column)) &&
      !grepl("s$", b$text))
    # "average ph per plot" asks for means of groups
    # (of a measure with decimals, as in "average price per carat", there are no groups)
    mean_of <- isTRUE(main_statistic(state) %in% c("mean", "median")) && !adds_up(column_of(state, a$column)) && kind_at(state,
        b$column) == "count" &&
      state$vocabulary$columns$distinct[b$column] <= 20
    # days watched after "per" are what a count is made over, whatever is asked of it
    watched <- item_norm(state, b$at - 1) == "single" && item_norm(state, b$at - 2) == "per"
    # ("dose per weight", of a dozen weights with decimals, has no groups either)
    least <- if (kind_at(state, b$column) == "number") 6 else 12
    # ("deaths per N", of as many in every row)
    tried <- counts_tried(state$vocabulary$columns[b$column, ]) && kind_at(state, a$column) == "count"
    many <- (state$vocabulary$columns$distinct[b$column] > least && !mean_of) || adds || watched || tried
    if (kind_at(state, a$column) %in% c("number", "count") && (kind_at(state, b$column) %in% c("number", "count") || tried) && many) {
      return(list(top = a, base = b))
    }
  }
  NULL
}

#' Columns whose names say that they count what was tried or exposed in each row, be it the same number everywhere
#' @param columns Rows of the vocabulary's columns.
#' @noRd
counts_tried <- function(columns) {
  grepl("^(n|total|totals|size|trials|tested|exposed|examined|at_risk|n_[a-z]+)$", tolower(columns$name)) &
    columns$kind %in% c("number", "count", "constant")
}

between_says_per <- function(state, from, to) {
  if (to <= from) return(FALSE)
  between <- if (to - from > 1) vapply((from + 1):(to - 1), function(k) item_norm(state, k), "") else character()
  # "heart weight per kg body weight"
  if (length(between) > 1 && is_unit_word(last_of(between)) && between[length(between) - 1] == "per") between <- between[-length(between)]
  own <- setdiff(between, c("a", "the", "each", "every", "one", "single", "total", "unit", "units", "of", "rate", "rates", "ratio", "number"))
  # "cost per day of stay"
  if (item_norm(state, to - 1) == "of") own <- sub("^per (day|night|hour|minute|week|month|year)$", "per", own)
  if (item_norm(state, to - 1) == "of") own <- setdiff(own, c("day", "days", "night", "nights", "hour", "hours", "minute", "minutes", "week", "month",
    "year"))
  identical(own, "per") || identical(own, c("divided", "by")) || identical(own, "for") && any(between %in% c("each", "every"))
}

fill_rate <- function(state, mentions, r, found, compared = FALSE) {
  others <- Filter(function(m) !m$column %in% c(found$top$column, found$base$column), mentions)
  compared <- compared || says(state, "\\b(higher|lower|more|less|fewer|greater|smaller|bigger|differ(s|ent|ence)?|same|compar\\w+|versus|vs)\\b")
  if (compared && length(c(others, Filter(function(g) !g$negated, state$groups)))) return(fill_rate_comparison(state, others, r, found))
  r$task <- "describe"
  r <- with_filters(state, r)
  r$outcome <- column_of(state, found$top$column)
  r$predictors <- column_of(state, found$base$column)
  # (a code that comes back, as of wards, divides where the question says "by")
  # (and those that are ranked: "which household has the highest use per person")
  asked <- function(m) m$marker == "by" || grepl("(^| )(which|what|each|every|rank)$", item_norm(state, m$at - 1))
  divides <- function(m) can_group(state, m$column) && (kind_at(state, m$column) != "id" || asked(m) &&
      !state$vocabulary$columns$unique[m$column])
  r$by <- column_names_of(state, Filter(divides, others))
  r$statistic <- NULL
  r$extra$rate <- TRUE
  r$extra$outcome_mentions <- mentions
  r
}

#' "do falls per day differ between wards": two totals set against each other in every group
#' @noRd
fill_rate_comparison <- function(state, others, r, found) {
  r <- fill_compare(state, c(list(found$top), others), r)
  r$task <- "compare"
  r$outcome <- column_of(state, found$top$column)
  r$predictors <- column_of(state, found$base$column)
  r$by <- setdiff(r$by, c(r$outcome, r$predictors))
  r$statistic <- NULL
  r$extra$rate <- TRUE
  r
}

#' "complaints per 100 calls": the rate is stated for so many
#' @noRd
scale_rate <- function(r, per) {
  r$extra$rate_per <- per
  finish_reading(r)
}

#' "the claim rate": a rate of a count, without saying of what
#' @noRd
rate_without_base <- function(state, mentions, task) {
  if (!is.null(total_shared(state, mentions))) return(NULL)
  if (!task %in% c("describe", "compare", "rank", "relate", "frequency", "figure", "predict", "trend") ||
      !is.null(rate_asked(state, mentions))) return(NULL)
  for (m in mentions) {
    own <- tolower(column_of(state, m$column))
    # (a bare singular, such as Murder, is the rate itself; amounts are not)
    amount <- kind_at(state, m$column) == "number" && grepl("^(kg|g|t|l|ml|EUR|USD|GBP|kWh|m3)$", state$vocabulary$columns$unit[m$column])
    plural <- grepl("(s|ed|en|dead|died|made|lost|sold|won)([_. ]|$)|(^|[_. ])(n|no|num|number|count|total)([_. ]|$)", own)
    counted <- state$vocabulary$columns$distinct[m$column] > 2 && (amount || kind_at(state, m$column) == "count" && plural)
    if (counted && grepl("^rates?( of)?$", item_norm(state, m$at + 1)) && !grepl("rate", own)) return(m)
    # "the share of defective units"
    shared <- grepl("(share|proportion|percentage|percent|fraction) of( the)?( all)?$", trimws(paste(vapply(m$at - 4:1, function(j) item_norm(state,
        j),
      ""), collapse = " ")))
    if (counted && is_share_of_units(state, m)) return(m)
    if (counted && shared && length(mentions) == 1 && task %in% c("describe", "rank", "frequency") && !length(state$filters)) return(m)
  }
  NULL
}

rate_verdict <- function(state, mentions, reading, m) {
  columns <- state$vocabulary$columns
  of_each <- counts_tried(columns)
  bases <- which((columns$kind %in% c("number", "count") & columns$distinct > 12 | of_each) & columns$role == "" &
    seq_len(nrow(columns)) != m$column & !grepl("\u00b0|%", columns$unit))
  # columns that sound like what is counted over come first
  bases <- bases[order(!grepl("hold|popul|expos|person|people|total|visit|year|day|hour|n$|size|number|count|trial|sampl|purchas|order|sale|sold|made|unit|produc|item|run",  # nolint: line_length_linter.
    tolower(columns$name[bases])))]
  choices <- lapply(utils::head(bases, 3), function(b) finish_reading(fill_rate(state, mentions, new_reading("describe"), list(top = m,
    base = list(column = b)))))
  choices <- c(choices, list(finish_reading(reading)))
  choice_verdict(state, reading, choices,
    sprintf("A rate of %s needs what it is per. Choose one of the readings below, by number or in your own words.", quoted(column_of(state,
      m$column))))
}

#' "what percent of the claimed amount is paid out": one amount as a part of another
#' @section Shape: list(top, base), mentions; or NULL.
#' @noRd
share_of_measure <- function(state, mentions) {
  # "refunds as a share of revenue"
  if (says(state, "\\bas (a |the )?(share|percent(age)?|proportion|fraction|%) of\\b")) {
    own <- Filter(function(m) m$marker != "by" && kind_at(state, m$column) %in% c("number", "count"), mentions)
    if (length(own) == 2) return(list(top = own[[1]], base = own[[2]]))
  }
  if (!says(state, "\\b(share|percent(age)?|proportion|fraction|%) of\\b.+\\b(is|are|was|were|gets?|got|ha(s|ve) been|goes|went)\\b")) return(NULL)
  parts <- Filter(function(m) m$marker != "by", mentions)
  if (length(parts) != 2 || length(state$groups[vapply(state$groups, names_several, NA)])) return(NULL)
  fits <- vapply(parts, function(m) kind_at(state, m$column) %in% c("number", "count") && state$vocabulary$columns$distinct[m$column] > 12, NA)
  before <- vapply(parts, function(m) grepl("(share|percent|percentage|proportion|fraction|%) of( the| all)?$", trimws(paste(vapply(m$at - 3:1,
    function(j) item_norm(state, j), ""), collapse = " "))), NA)
  if (all(fits) && before[1] && !before[2]) list(top = parts[[2]], base = parts[[1]])
}

#' "what share of spend comes from each region": a measured column whose total divides over a column of levels
#' @section Shape: list(what, by), mentions; or NULL.
#' @noRd
total_shared <- function(state, mentions) {
  if (!says(state, "\\b(share|percent(age)?|proportion|fraction|%)s? of\\b")) return(NULL)
  # "what share of revenue comes from email": a level stands for its column
  level <- Filter(function(g) !g$negated && length(g$levels) == 1 && can_group(state, g$column), state$groups)
  one <- length(mentions) == 1 && length(level) == 1 && length(state$groups) == 1 && state$vocabulary$columns$distinct[level[[1]]$column] <= 40 &&
    (says(state, "\\b(comes?|came|is|are|was|were|goes|went|made|earned|falls?|fell|belongs?|taken|caused|accounted for) (from|by|in|to|on|through|via|at|with)\\b") ||  # nolint: line_length_linter.
       grepl("(^| )from$", sub(" the$", "", paste(item_norm(state, min(level[[1]]$at) - 2), item_norm(state, min(level[[1]]$at) - 1)))))
  # what "comes from" something is added up, however few values it takes
  comes <- says(state, "\\b(comes?|came|coming|stems?|originat\\w+|earned|generated|brought in|contributed|accounted for) (from|by|in|through|via)\\b")  # nolint: line_length_linter.
  many <- length(mentions) == 1 && (comes || state$vocabulary$columns$distinct[mentions[[1]]$column] > 12 ||
    kind_at(state, mentions[[1]]$column) == "count" && grepl("s$", column_of(state, mentions[[1]]$column)))
  if (one && many && kind_at(state, mentions[[1]]$column) %in% c("number", "count")) {
    return(list(what = mentions[[1]], by = list(column = level[[1]]$column), level = level[[1]]))
  }
  if (length(mentions) != 2) return(NULL)
  kinds <- mention_kinds(state, mentions)
  # "the proportion of pupils absent more than 20 days": a share of rows, told by a condition on the measure
  if (any(vapply(state$filters, function(f) f$column %in% column_names_of(state, mentions) && f$op %in% c("<", ">", "<=", ">=", "between"),
      NA))) return(NULL)
  counted <- vapply(mentions, function(m) kind_at(state, m$column) == "count" && grepl("[^s]s$", column_of(state, m$column)) && !m$marker == "by", NA)
  divides <- vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)
  distinct <- state$vocabulary$columns$distinct[vapply(mentions, `[[`, 1L, "column")]
  what <- mentions[kinds %in% c("number", "count") & !(divides & any(!divides)) & (comes | counted | distinct > 12)]
  by <- mentions[kinds %in% c("category", "yes_no", "ordered") | vapply(mentions, function(m) m$marker == "by" && can_group(state, m$column), NA)]
  by <- Filter(function(m) !m$column %in% vapply(what, `[[`, 1L, "column"), by)
  if (length(what) == 1 && length(by) == 1 && !is_share_of_units(state, what[[1]])) list(what = what[[1]], by = by[[1]])
}

#' "the proportion of snails dead", of a column that counts deaths: a share of the snails, and none of the deaths
#' @noRd
is_share_of_units <- function(state, m) {
  happened <- "^(dead|died|killed|broken|defective|failed|lost|infected|sick|damaged|rejected|hatched|germinated|survived|positive|affected|responded|cured|alive|surviving)$"  # nolint: line_length_linter.
  kind_at(state, m$column) == "count" && grepl(happened, item_norm(state, m$at)) &&
    state$type[max(1, m$at - 1)] %in% c("entity", "unknown", "filler") && says(state, "\\b(share|percent(age)?|proportion|fraction|%)s? of\\b")
}

fill_share_of_total <- function(state, r, found) {
  r$task <- "describe"
  r <- with_filters(state, r, if (!is.null(found$level)) list(found$level) else list())
  if (!is.null(found$level)) r$assumed <- c(r$assumed, sprintf("All levels of %s are shown, %s among them.", column_of(state, found$by$column),
    quoted(found$level$levels)))
  r$outcome <- column_of(state, found$what$column)
  r$by <- column_of(state, found$by$column)
  r$statistic <- NULL
  r$extra$of_total <- TRUE
  r
}
