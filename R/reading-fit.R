# Fitting a task to the kinds of the columns that fill it.

#' Move to the neighbouring task that the kinds of columns call for
#' @noRd
fit_task <- function(state, mentions, task) {
  if (task == "distribution" && length(mentions) >= 2 && is.null(single_method(state)) && any(vapply(mentions, function(m) m$marker == "by" &&
    can_group(state, m$column), NA)) &&
      !says(state, "normal")) {
    return(if (mention_kinds(state, mentions)[1] %in% c("number", "count")) "describe" else "frequency")
  }
  if (!task %in% c("compare", "relate", "predict", "describe", "frequency", "change")) return(task)
  if (task %in% c("describe", "frequency", "compare") && names_single_rows(state) && is.null(single_method(state))) return("look_up")
  if (task %in% c("describe", "compare") && times_an_event(state, mentions)) return("survival")
  if (task %in% c("compare", "relate") && asks_for_clusters(state)) return("predict")
  kinds <- mention_kinds(state, mentions)
  rest <- kinds[vapply(mentions, function(m) m$marker != "adjust", NA)]
  method <- single_method(state)
  if (!is.null(method) && method %in% names(tasks_of_methods())) return(task)
  positive <- Filter(function(g) !g$negated && names_several(g), state$groups)
  adjusted <- any(vapply(mentions, function(m) m$marker == "adjust", NA))
  numbers <- sum(rest %in% c("number", "count"))
  dividers <- sum(vapply(mentions, function(m) m$marker != "adjust" && is_level_kind(kind_at(state, m$column)), NA)) +
    length(positive)
  if (task == "compare" && !is.null(state$null_value)) return("compare")
  # "interaction of version and segment on clicking": a model of what happens
  aimed <- vapply(mentions, function(m) m$marker %in% c("on", "for") && kind_at(state, m$column) == "yes_no", NA)
  if (length(mentions) >= 3 && any(aimed) && any(vapply(state$items, has_lex, NA, "scope", "interaction"))) return("predict")
  # "median revenue of returned versus kept orders": medians side by side, unless a test is asked for
  if (task == "compare" && identical(main_statistic(state), "median") && !tests_asked(state)) return("describe")
  if (task == "compare" && adjusted && !length(positive)) return("predict")
  # "richness versus butterflies by habitat": two measures set against each other in each group
  plain <- vapply(mentions, function(m) m$marker %in% c("", "vs", "versus", "against") && kind_at(state, m$column) %in% c("number", "count"), NA)
  divided <- sum(vapply(mentions, function(m) m$marker == "by", NA)) == 1
  if (task == "compare" && sum(plain) == 2 && length(mentions) == 3 && divided && is.null(method) &&
      says(state, "\\b(versus|vs|against)\\b") && !paired_columns(state, mentions[plain]) && !columns_alike(state, mentions[plain])) return("relate")
  # "compare the means of score_anna, score_ben and score_carla"
  means <- says(state, "\\b(means|averages|medians|mean scores?) of\\b")
  if (task == "compare" && dividers == 0 && means && columns_alike(state, mentions)) return("change")
  if (task == "compare" && numbers >= 2 && dividers == 0 && length(rest) >= 2) {
    few <- vapply(mentions, function(m) can_group(state, m$column) &&
                  (m$marker %in% c("by", "between") || divides(state, m, mentions)), NA)
    if (!any(few)) return(if (!paired_columns(state, mentions)) "relate" else "change")
  }
  if (task == "relate" && rate_of_event(state, mentions)) {
    # "the cancellation rate by plan": shares, where no relation is asked about
    divided <- vapply(mentions, function(m) m$marker == "by", NA)
    plain <- !any(vapply(state$items, has_lex, NA, "task", c("relate", "compare", "predict", "drivers")))
    return(if (plain && sum(divided) == 1 && sum(!divided) == 1) "frequency" else "relate")
  }
  # (a site's code divides the rows like a level)
  codes <- vapply(mentions, function(m) kind_at(state, m$column) == "id" && state$vocabulary$columns$distinct[m$column] <= 60 && depended_on(state,
      m$at), NA)
  if (task == "relate" && numbers == 1 && (dividers + sum(codes) == 1 || length(state$groups) > 0) && length(rest) <= 2 &&
      !any(rest == "ordered")) return("compare")
  # "did maths improve from autumn to summer": one measure at two times
  if (task == "relate" && numbers >= 2 && length(rest) == numbers && paired_columns(state, mentions) &&
      says(state, "^ *(did|do|does|has|have)\\b.*\\b(improv|chang|increas|decreas|ris|rose|fall|fell|drop|go up|go down|gain|los[et]|declin)")) {
    return("change")
  }
  if (task == "relate" && numbers == 2 && !is.null(occasion_mentioned(state, mentions))) return("change")
  if (task == "relate" && adjusted) return("predict")
  # "does A depend on B and C": what explains one column is a model, not a table of pairs
  if (task == "relate" && numbers >= 3 && kinds[1] %in% c("number", "count") &&
      says(state, "\\b(depend(s|ent|ing)? on|(affected|influenced|determined|explained|driven|predicted) by|a function of)\\b")) return("predict")
  # "average satisfaction against opening hours"
  if (task == "describe" && length(rest) == 2 && numbers == 2 && says(state, "\\b(against|versus|vs)\\b") && identical(main_statistic(state),
      "mean") &&
      !any(vapply(mentions, function(m) m$marker %in% c("by", "between"), NA))) return("relate")
  # "does wind reduce the number of birds": the number is a column
  if (task == "frequency" && length(rest) == 2 && all(rest %in% c("number", "count", "ordered")) && any(rest == "count") &&
      says(state, "^ *(do|does|did|is|are|can)\\b")) return("relate")
  # "how many hours are primates awake": an amount of a unit, of a column measured in it
  unit <- regmatches(state$text, regexec("\\b[Hh]ow many ([a-z]+)\\b", state$text))[[1]]
  amount <- length(unit) == 2 && (unit[2] %in% names(unit_words()) || unit[2] %in% names(unit_tails()))
  if (task == "frequency" && amount && length(rest) >= 1 && rest[1] == "number" && !any(vapply(state$filters, function(f)
    f$column == column_of(state, mentions[[1]]$column), NA)) &&
      isTRUE(state$vocabulary$columns$unit[mentions[[1]]$column] %in% c(unit[2], unit_words()[unit[2]], unlist(unit_tails()[unit[2]]),
      c(hours = "h", minutes = "min", seconds = "s", days = "d")[unit[2]]))) return("describe")
  # "does exercise frequency go down with age": a word for counting in the name of a column
  if (task == "frequency" && length(rest) == 2 && numbers == 1 && any(rest %in% c("category", "yes_no", "ordered")) &&
      says(state, "^ *(do|does|did|is|are)\\b.*\\b(with|depend\\w*|differ\\w*|relat\\w*|link\\w*|affect\\w*)\\b")) return("compare")
  # "purchase probability by number of pages"
  if (task == "describe" && length(rest) == 2 && setequal(rest, c("yes_no", "count")) && is.null(main_statistic(state)) &&
      state$vocabulary$columns$distinct[mentions[[which(kinds == "count")[1]]]$column] > 7 &&
      mentions[[which(kinds == "count")[1]]]$marker == "by") return("predict")
  # "satisfaction by number of children": the number is a column that divides
  if (task == "frequency" && length(mentions) == 2 && kinds[1] %in% c("number", "count") &&
      says(state, "\\b(by|per|for each) (the )?number of\\b") &&
          state$vocabulary$columns$distinct[mentions[[1]]$column] > 7) return("describe")
  # "how many claims in district 4", of a column that counts claims
  if (task == "frequency" && length(mentions) >= 1 && kinds[1] == "count" && mentions[[1]]$score >= 0.9 && mentions[[1]]$marker != "by" &&
      grepl("^ *how many$", item_norm(state, mentions[[1]]$at - 1)) && grepl("s$", item_norm(state, mentions[[1]]$at)) &&
      !any(vapply(state$filters, function(f) f$column == column_of(state, mentions[[1]]$column), NA)) &&
      (length(state$filters) + length(state$groups) > 0 || all(vapply(mentions[-1], function(m) m$marker == "by", NA)) && length(mentions) > 1)) {
    return("describe")
  }
  # "how many birds were counted in total", "how often do members visit": the column holds the counts
  counted <- vapply(mentions, function(m) kind_at(state, m$column) == "count" && m$marker != "by", NA)
  if (task == "frequency" && sum(counted) == 1 && !any(rest == "number") && !length(state$groups) &&
      says(state, "\\b(in total|in all|altogether|overall)\\b|\\bhow often\\b|\\b(typical|usual)\\b")) return("describe")
  if (task == "describe" && !is.null(main_statistic(state)) && main_statistic(state) == "percent") return("frequency")
  # "lodged by nitrogen", of a few doses: what happened in each group of a measured column
  beside <- vapply(mentions, function(m) m$marker == "by", NA)
  if (task == "describe" && any(beside) && !all(beside) && all(kinds[!beside] == "yes_no") &&
      all(vapply(mentions[beside], function(m) can_group(state, m$column), NA))) return("frequency")
  if (task == "describe" && length(rest) && !any(rest %in% c("number", "count", "ordered", "date", "datetime",
                                                             "constant"))) return(if (any(rest == "text")) "themes"
                                                                 else "frequency")
  if (task == "frequency" && numbers == 1 && length(rest) == 1 && !is.null(main_statistic(state)) &&
      main_statistic(state) %in% c("mean", "median") && !any(vapply(state$filters, function(f) f$column == column_of(state, mentions[[1]]$column),
        NA))) return("describe")
  # "total goals in wins vs losses": totals are set side by side, no mean of the rows is tested
  if (task == "compare" && identical(main_statistic(state), "sum") && says(state, "^ *(what (is|was|are|were) )?(the )?(total|sum)\\b")) return("describe")  # nolint: line_length_linter.
  task
}

#' "time to relapse by arm", with a column that says who relapsed: rows without the event are censored, so their times are
#' not averaged
#' @noRd
times_an_event <- function(state, mentions) {
  if (!is.null(single_method(state)) || any(asked_statistics(state) != "median") ||
      !says(state, "\\b(times?|days?|weeks?|months?|years?) (to|until|till)\\b|\\bhow long\\b|\\btime-to-")) return(FALSE)
  columns <- state$vocabulary$columns
  any(vapply(mentions, function(m) m$marker != "by" && m$marker != "adjust" && length(event_of_time(columns, columns$name[m$column])) == 1, NA))
}

#' The yes/no column that tells whether what a time runs to has happened ("days_to_swarm" and "swarmed")
#' @section Shape: index of the column, or none.
#' @noRd
event_of_time <- function(columns, name) {
  open <- regmatches(name, regexec("^(?:time|days?|weeks?|months?|years?|hours?)[_. ]?(?:to|until|till)[_. ]?([a-z]{4,})", name,
      ignore.case = TRUE))[[1]]
  if (length(open) != 2) return(integer())
  stem <- substr(tolower(open[2]), 1, max(4, nchar(open[2]) - 2))
  # ("fell" beside days_to_fall, "broke" beside days_to_break)
  past <- c(fall = "fell", `break` = "broke", leave = "left", lose = "lost", win = "won", quit = "quit", bleed = "bled", give = "gave",
            death = "died", catch = "caught", freeze = "froze", begin = "began", go = "went", come = "came")
  irregular <- past[tolower(open[2])]
  which(columns$kind == "yes_no" & (startsWith(tolower(columns$name), substr(stem, 1, 5)) | tolower(columns$name) %in% irregular))
}

#' "the murder rate of California", "compare Texas and Florida": each of the rows named is one, so they are shown
#' @noRd
names_single_rows <- function(state) {
  own <- Filter(function(g) !g$negated && state$vocabulary$columns$unique[g$column] && kind_at(state, g$column) == "id", state$groups)
  length(own) == 1 && length(own[[1]]$levels) <= 6
}

#' "does stress change over sessions", where rows of one subject stand under each session: the column of occasions
#' @noRd
occasion_mentioned <- function(state, mentions) {
  if (!says(state, paste0("\\b(change|changes|changed|differ|differs|develop|develops|improve|improved|declines?|decreases?|",
      "increases?|falls?|rises?|drops?|worsens?|(go|goes|went|gone|come|came) (up|down)|gets? (better|worse))\\b.*\\b(over|across|between|from|by|",
      "during|with)\\b"))) return(NULL)
  own <- occasion_columns(state)
  hit <- Filter(function(m) m$column %in% own, mentions)
  if (length(hit) == 1) hit[[1]]$column
}

#' Columns that number the occasions on which the same units were measured
#' @noRd
occasion_columns <- function(state) {
  columns <- state$vocabulary$columns
  if (!any(columns$kind == "id" & !columns$unique)) return(integer())
  which(columns$kind %in% c("count", "ordered", "category") & columns$distinct %in% 2:12 &
        grepl(paste0("^(session|visit|wave|week|day|month|round|time|timepoint|time_point|period|occasion|phase|measurement|year|trial|test)s?([_. ",
            "]?(no|nr|number))?$"),
              tolower(columns$name)))
}

tests_asked <- function(state) {
  grepl("\\b(differ\\w*|significan\\w*|test\\w*|higher|lower|larger|smaller|greater|bigger|better|worse|more|less|longer|shorter|change\\w*|affect\\w*|effect|p.value)\\b",  # nolint: line_length_linter.
        state$text, ignore.case = TRUE, perl = TRUE)
}

#' A column of few values that, by the verb, acts on another of many ("do the diets lead to different weights")
#' @noRd
divides <- function(state, m, mentions) {
  others <- Filter(function(o) o$column != m$column, mentions)
  few <- state$vocabulary$columns$coded[m$column]
  few && length(mentions) == 2 && length(others) == 1 && !can_group(state, others[[1]]$column) &&
    effect_first(state, mentions) &&
    mentions[[1]]$column == m$column
}

#' "paired t test of left and right": two columns of numbers, whatever they are called
#' @noRd
pairs_asked <- function(state, mentions) {
  columns <- vapply(mentions, `[[`, 1L, "column")
  says(state, "\\bpaired\\b|\\bmatched[- ]pairs?\\b|\\bsigned[- ]ranks?\\b|\\bsign test\\b|\\bdependent[- ](samples?|t)\\b") &&
    all(mention_kinds(state, mentions) %in% c("number", "count")) && all(state$vocabulary$columns$distinct[columns] > 4) &&
    !any(vapply(mentions, function(m) m$marker == "by", NA))
}

#' "are the means of complaints and raises different", "is the tax higher than the price": two numbers in the same unit, or in none
#' @noRd
sets_columns_apart <- function(state, mentions) {
  at <- vapply(mentions, `[[`, 1L, "at")
  alike <- all(mention_kinds(state, mentions) %in% c("number", "count")) && !any(vapply(mentions, `[[`, NA, "adjective")) &&
    length(unique(state$vocabulary$columns$unit[vapply(mentions, `[[`, 1L, "column")])) == 1
  if (!alike || !says(state, "^ *(is|are|was|were|do|does|did)\\b") || length(state$groups)) return(FALSE)
  between <- if (at[2] - at[1] > 1) vapply((at[1] + 1):(at[2] - 1), function(j) item_norm(state, j), "") else ""
  plain <- c("the", "mean", "means", "average", "averages", "median", "medians", "score", "scores", "value", "values", "level", "levels", "of",
             "that", "for", "those", "on", "significantly", "clearly", "really", "much", "any")
  words <- setdiff(between, plain)
  more <- "^(more|less|higher|lower|greater|larger|smaller|bigger|better|worse|longer|shorter|heavier|lighter)( than)?$"
  set_apart <- c("than", "different", "different from", "differ", "differ from", "differs", "from")
  if (length(words) && all(grepl(more, words) | words %in% set_apart)) return(TRUE)
  apart <- "^(significantly |clearly |really |any |at all )*(differ|differs|different|unequal)( (significantly|from each other|from one another|on average|at all))*$"  # nolint: line_length_linter.
  identical(words, "and") && grepl(apart, paste(norms_of(state)[seq_len(state$n) > at[2]], collapse = " "))
}

#' Two columns of one stem (score_t1, score_t2; drug_1, drug_2) measured in the same rows
#' @noRd
paired_columns <- function(state, mentions) {
  names <- column_names_of(state, mentions)
  if (length(names) < 2 || anyDuplicated(names)) return(FALSE)
  if (any(vapply(state$vocabulary$sets, function(set) all(names %in% set$columns), NA))) return(TRUE)
  stems <- sub(paste0("[_. ]*((t|time|wave|visit|week|day|month|w|v)?[_. ",
      "]?[0-9]+|before|after|pre|post|baseline|followup|follow_up|start|end|autumn|winter|spring|summer)([_. ",
      "](kg|g|mg|lb|cm|mm|m|mmhg|bpm|pct))?$"),
      "", tolower(names))
  # (questions that are only numbered, "Q1" and "Q7", are one measure only where they are answered in the same words)
  columns <- match(names, state$vocabulary$columns$name)
  answers <- lapply(columns, function(j) sort(unique(state$vocabulary$values$level[state$vocabulary$values$column == j])))
  worded <- state$vocabulary$columns$kind[columns] == "ordered"
  if (any(worded) && (!all(worded) || length(unique(answers)) > 1)) return(FALSE)
  if (all(stems == stems[1]) && nzchar(stems[1])) return(TRUE)
  timed <- timed_at_start(names)
  if (!is.null(timed) && nrow(timed) == length(names) && length(unique(timed$stem)) == 1) return(TRUE)
  # "is the average of learning different from that of raises"
  if (length(names) == 2 && says(state, "\\b(differ(s|ent)? from|than) (that|those) (of|for)\\b") &&
      all(mention_kinds(state, mentions) %in% c("number", "count")) && length(unique(state$vocabulary$columns$unit[vapply(mentions, `[[`, 1L,
        "column")])) == 1) return(TRUE)
  # "the difference between highway and city": two numbers in the same unit, or in none
  if (length(names) == 2 && length(mentions) == 2 && says(state, "\\bdifferences? between\\b") && all(mention_kinds(state, mentions) %in% c("number",
    "count")) && length(unique(state$vocabulary$columns$unit[vapply(mentions, `[[`, 1L, "column")])) == 1) return(TRUE)
  if (length(names) == 2 && length(mentions) == 2 && (sets_columns_apart(state, mentions) || pairs_asked(state, mentions))) return(TRUE)
  # "compare MPG city and MPG highway": one measure in two forms
  words <- strsplit(tolower(name_words(names)), " ", fixed = TRUE)
  kinds <- mention_kinds(state, mentions)
  set <- "^ *compare\\b|\\bthan\\b|\\b(the same|alike|equal|identical)\\b|\\b(exceed|surpass|outweigh)(s|ed)?\\b|\\bdifference between\\b|\\bdiffer(s|ent)? (from|between)\\b"  # nolint: line_length_linter.
  plain <- lapply(words, function(w) w[!w %in% names(unit_tails())])
  length(names) == 2 && says(state, set) && all(kinds %in% c("number", "count")) &&
    all(lengths(plain) > 1) && (plain[[1]][1] == plain[[2]][1] || last_of(plain[[1]]) == last_of(plain[[2]]))
}
