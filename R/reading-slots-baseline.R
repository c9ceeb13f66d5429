# "baseline characteristics by arm", "are the arms balanced": who is in the groups.

asks_for_baseline <- function(state) {
  says(state, paste0("\\b(table (1|one)|baseline ",
      "(characteristics|table|balance|differences|comparison|comparability)|(patient|participant|sample|subject)? ?characteristics( of| by| per| ",
      "for| in|$)|demographics?|(well[- ]|un)?balanced|comparable at baseline)\\b")) && !says(state, "characteristic curve")
}

#' Columns that describe the rows before the treatment: named ones, else all that are no key, text, date, weight, or the groups themselves
#' @noRd
fill_baseline <- function(state, mentions, r) {
  r$task <- "describe"
  r$statistic <- NULL
  r <- with_filters(state, r)
  columns <- state$vocabulary$columns
  groups <- Filter(function(m) can_group(state, m$column) && is_level_kind(kind_at(state, m$column)), mentions)
  by <- Filter(function(m) m$marker %in% c("by", "between"), groups)
  by <- column_names_of(state, utils::head(if (length(by)) by else groups, 1))
  # "are the groups balanced on device": what follows describes the rows, it does not divide them
  about <- vapply(mentions, function(m) m$marker == "on" || m$marker %in% c("for", "by", "in") && grepl("balanced (for|by|in)", state$text), NA)
  if (length(by) && any(about) && says(state, "\\b(groups?|arms?|samples?|variants?|conditions?) (well )?balanced\\b")) by <- character()
  if (!length(by)) {
    treatment <- grep("^(arm|group|treatment|treat|trt|allocation|randomi[sz]ed|condition|variant)", tolower(columns$name))
    treatment <- treatment[columns$kind[treatment] %in% c("category", "yes_no", "ordered")]
    if (length(treatment)) { by <- columns$name[treatment[1]]; r$assumed <- c(r$assumed, sprintf("Took %s as the groups.", by)) }
  }
  ok <- columns$kind %in% c("number", "count", "ordered", "category",
    "yes_no") & columns$role != "weight" & (columns$distinct <= 20 | columns$kind %in% c("number", "count"))
  # (a column of one value in the rows that are left describes nothing)
  fixed <- vapply(Filter(function(f) identical(f$op, "=="), r$filters), `[[`, "", "column")
  ok <- ok & !columns$name %in% fixed
  home <- if (length(by)) columns$table[match(by, columns$name)] else columns$table[1]
  named <- setdiff(column_names_of(state, mentions), by)
  rest <- setdiff(columns$name[ok & columns$table == home], by)
  # what happened or was measured afterwards is no baseline
  after <- happens_later(state, rest)
  r$by <- by
  whole <- length(named) < 2 && !any(about)
  r$outcome <- if (whole) rest[!after] else named
  if (whole) r$assumed <- c(r$assumed, sprintf("All columns that describe the rows are shown: %s%s.", some_of(r$outcome, 12),
    if (any(after)) sprintf("; left out, as measured later: %s", some_of(rest[after], 6)) else ""))
  r$extra$baseline <- TRUE
  unsettled <- !length(by) && says(state, "\\b(groups|arms)\\b.*\\b(comparable|balanced|alike|similar)\\b")
  # columns of levels may be the groups that are asked for
  if (unsettled) r$outcome <- r$outcome[kind_of_names(state, r$outcome) %in% c("number", "count")]
  r$extra$missing <- c(if (!length(r$outcome)) "outcome", if (unsettled || any(about) && !length(by)) "by")
  r
}

#' Do names of columns say that what they hold happened or was measured afterwards: an outcome rather than a property at the start?
#' @param names Names of columns. @return logical, one for each.
#' @noRd
happens_later <- function(state, names) {
  after <- grepl(paste0("(^|[_. ])(after|post|followup|follow_up|final|end|outcome|week_?[0-9]+|month_?[0-9]+|t[1-9])$|^(post|final)[_. ",
      "]|(days|weeks|months|time)_to_|relaps|adverse|_event|event_|death|died|surviv|outcome|",
      "^follow[_ ]?up|^(vital_)?status$"), tolower(names))
  # an event whose time is there ("swarmed", "days_to_swarm") happened later as well
  what <- unlist(stems_of(name_words(sub("^.*_to_", "", names[grepl("_to_", names)]))))
  after <- after | vapply(stems_of(name_words(names)), function(s) any(s %in% what), NA)
  later <- unlist(lapply(state$vocabulary$sets, function(set) set$columns[-1]))
  after | names %in% c(later, survival_time(state$vocabulary$columns))
}
