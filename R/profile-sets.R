# Columns that belong together: repeated measures, answers of one multiple-answer question, items of a scale, positions.

#' Sets of columns in a table
#'
#' @section Shape: list of list(kind ("items", "repeated_measures", "multi_answer", "position"), name (what they share),
#'   columns, and for repeated measures `times`).
#' @noRd
find_sets <- function(columns) {
  columns <- Filter(function(col) !identical(col$used, FALSE), columns)
  sets <- c(item_sets(columns), repeated_sets(columns), answer_sets(columns), position_sets(columns))
  taken <- character()
  out <- list()
  for (set in sets) {
    if (any(set$columns %in% taken)) next
    taken <- c(taken, set$columns)
    out[[length(out) + 1L]] <- set
  }
  out
}

item_sets <- function(columns) {
  items <- Filter(function(col) identical(col$role, "item") || (col$kind == "ordered" && !isTRUE(col$derived)), columns)
  by_scale <- split(vapply(items, `[[`, "", "name"), vapply(items, function(col) paste(tolower(col$levels), collapse = "|"), ""))
  sets <- lapply(by_scale, function(names) list(kind = "items", name = shared_stem(names) %||% "items", columns = unname(names)))
  unname(Filter(function(set) length(set$columns) >= 3, sets))
}

#' What a name says of a time: "score_t1", "bp_week4", "yield_2023", "mites_before"
#' @section Shape: data frame name, stem, time (text), place (order among the times).
#' @noRd
timed_names <- function(names) {
  marked <- rbind(timed_at_end(names), timed_at_start(names))
  marked <- rbind(marked, timed_unmarked(names, marked))
  marked <- rbind(marked, timed_bare(setdiff(names, marked$name)))
  rbind(marked, timed_alone(setdiff(names, marked$name)))
}

#' "before" and "after", "baseline" and "month6": names that tell nothing but the time, of a measure that has no name
#'
#' A start and an end are as likely times themselves, and are left as they are.
#' @noRd
timed_alone <- function(names) {
  said <- tolower(gsub("[_. ]+", "", names))
  early <- said %in% c("before", "pre", "baseline", "pretest", "preop", "initial")
  late <- said %in% c("after", "post", "posttest", "postop", "final", "followup", "endline", "endpoint")
  words <- c(one = 1, two = 2, three = 3, six = 6, twelve = 12); unit <- "(day|week|month|year)s?"
  # "oneyear", "6months"; "month6"
  counted <- sprintf(c("^(%s|[0-9]{1,3})%s$", "^%2$s([0-9]{1,3})$"), paste(names(words), collapse = "|"), unit)
  parts <- lapply(counted, function(form) regmatches(said, regexec(form, said)))
  days <- vapply(seq_along(said), function(i) {
    ahead <- parts[[1]][[i]]; behind <- parts[[2]][[i]]
    if (!length(ahead) && !length(behind)) return(NA_real_)
    number <- if (length(ahead)) ahead[2] else behind[3]
    number <- if (number %in% names(words)) words[[number]] else as.numeric(number)
    number * days_in_unit()[[if (length(ahead)) ahead[3] else behind[2]]]
  }, 1)
  timed <- !is.na(days)
  if (sum(early) != 1 || sum(late) + sum(timed) < 1 || sum(late) > 1) return(NULL)
  place <- ifelse(early, -1, ifelse(late, 1e6, days))
  keep <- !is.na(place)
  data.frame(name = names[keep], stem = "value", time = said[keep], place = place[keep], stringsAsFactors = FALSE)
}

#' "hb" beside "hb_after": the first measurement carries no word of its time
#' @noRd
timed_unmarked <- function(names, marked) {
  if (is.null(marked)) return(NULL)
  late <- marked[marked$time %in% c("after", "post", "followup", "follow_up", "endpoint", "end", "final"), , drop = FALSE]
  late <- late[!late$stem %in% late$stem[duplicated(late$stem)] & !late$stem %in% setdiff(marked$stem[!marked$name %in% late$name], ""), ,
      drop = FALSE]
  if (!nrow(late)) return(NULL)
  bare <- tolower(strip_tail(names))
  at <- match(late$stem, bare)
  at[!is.na(at) & names[at] %in% marked$name] <- NA
  if (all(is.na(at))) return(NULL)
  data.frame(name = names[at], stem = late$stem, time = "before", place = -1, stringsAsFactors = FALSE)[!is.na(at), , drop = FALSE]
}

#' "Prewt" and "Postwt", "baseline_score" and "final_score": the time stands first
#' @noRd
timed_at_start <- function(names) {
  words <- c("pre", "before", "baseline", "initial", "start", "intake", "admission", "entry", "opening", "preop", "post", "after", "final", "end",
             "discharge", "exit", "closing", "postop")
  open <- regmatches(names, regexec(sprintf("^(%s)[_. ]?(.{2,})$", paste(words, collapse = "|")), names, ignore.case = TRUE))
  hit <- lengths(open) > 0
  if (!any(hit)) return(NULL)
  word <- tolower(vapply(open[hit], `[[`, "", 2)); stem <- tolower(vapply(open[hit], `[[`, "", 3))
  out <- data.frame(name = names[hit], stem = stem, time = word, place = match(word, words), stringsAsFactors = FALSE)
  # by itself "present" or "postcode" is a word; with its counterpart it is a time
  early <- out$stem[out$place <= 10]; late <- out$stem[out$place > 10]
  out <- out[out$stem %in% intersect(early, late), , drop = FALSE]
  if (nrow(out)) out
}

timed_at_end <- function(names) {
  # by their place among the times: the numbers of weeks and waves stand between the first and the last
  places <- c(before = -1, pre = -1, baseline = -1, start = -1, initial = -1, intake = -1, admission = -1, entry = -1, enrolment = -1,
      enrollment = -1, screening = -2, preop = -1, opening = -1, discharge = 1e6, exit = 1e6, completion = 1e6, closing = 1e6, postop = 1e6,
      first = 1, second = 2, third = 3, pretest = -1, mid = 5e5,
      midline = 5e5, midpoint = 5e5, after = 1e6, post = 1e6, posttest = 1e6, endline = 1e6, endpoint = 1e6, end = 1e6, final = 1e6, now = 1e6,
          current = 1e6, today = 1e6, latest = 1e6, followup = 2e6,
      base = -1, bl = -1, fu = 2e6, fup = 2e6, follow_up = 2e6, delayed = 3e6, retention = 3e6, autumn = 10, winter = 10, spring = 10, summer = 10)
  words <- names(places)
  bare <- strip_tail(names, keep = c("days", "weeks", "months", "years", "min"))
  pattern <- sprintf(paste0("^(.+?)[_. ]?(?:(?:[_.",
      " ](?:t|time|wave|visit|week|wk|w|month|m|day|d|year|y|v|round|session|occasion)[_.",
      " ]?([0-9]{1,4}))|[_. ]((?:19|20)[0-9]{2})|[_. ](%s))$"),
                     paste(words, collapse = "|"))
  parts <- regmatches(bare, regexec(pattern, bare, ignore.case = TRUE, perl = TRUE))
  counted <- timed_counted(bare, names)
  hit <- lengths(parts) > 0 & !names %in% counted$name
  if (!any(hit)) return(counted)
  pick <- function(i) vapply(parts[hit], `[[`, "", i)
  number <- paste0(pick(3), pick(4))
  word <- tolower(pick(5))
  place <- ifelse(nzchar(number), suppressWarnings(as.numeric(number)), places[word])
  short <- c(base = "baseline", bl = "baseline", fu = "followup", fup = "followup")
  word[word %in% names(short)] <- short[word[word %in% names(short)]]
  rbind(data.frame(name = names[hit], stem = tolower(pick(2)), time = ifelse(nzchar(number), number, word), place = place, stringsAsFactors = FALSE),
        counted)
}

#' How names of columns write the units of time
#' @noRd
time_forms <- function() {
  list(hour = c("h", "hr", "hrs", "hour", "hours"), day = c("d", "day", "days"), week = c("w", "wk", "wks", "week", "weeks"),
       month = c("m", "mo", "mos", "mth", "mths", "month", "months"), year = c("y", "yr", "yrs", "year", "years"))
}

#' Days in each unit of time, months and years as they are on average
#' @noRd
days_in_unit <- function() c(hour = 1 / 24, day = 1, week = 7, month = 30.4375, year = 365.25)

#' The units of time that forms stand for, NA where a form is none
#' @noRd
time_unit_of <- function(form) {
  forms <- time_forms()
  rep(names(forms), lengths(forms))[match(tolower(form), unlist(forms))]
}

#' "odi_6wk", "odi_6mo": the number of units of time since the first measurement
#' @noRd
timed_counted <- function(bare, names) {
  form <- sprintf("^(.+?)[_. ]([0-9]{1,3})_?(%s)$", paste(unlist(time_forms()), collapse = "|"))
  parts <- regmatches(bare, regexec(form, bare, ignore.case = TRUE, perl = TRUE))
  hit <- lengths(parts) > 0
  if (!any(hit)) return(NULL)
  pick <- function(i) vapply(parts[hit], `[[`, "", i)
  days <- days_in_unit()
  out <- data.frame(name = names[hit], stem = tolower(pick(2)), time = tolower(paste0(pick(3), pick(4))),
                    place = as.numeric(pick(3)) * days[time_unit_of(pick(4))], stringsAsFactors = FALSE)
  # "readmitted_30d" by itself is no series
  out <- out[out$stem %in% tolower(sub("[_. ](before|pre|baseline|base|bl|start|initial)$", "", setdiff(bare, bare[hit]), ignore.case = TRUE)) |
               out$stem %in% out$stem[duplicated(out$stem)], , drop = FALSE]
  if (nrow(out)) out
}

#' "Pain0" and "Pain6": numbers right after a word, of a few measured columns
#' @noRd
timed_bare <- function(names) {
  open <- regmatches(names, regexec("^([A-Za-z][A-Za-z_. ]{2,}?)([0-9]{1,3})$", names))
  hit <- lengths(open) > 0
  if (!any(hit)) return(NULL)
  stem <- tolower(vapply(open[hit], `[[`, "", 2)); number <- vapply(open[hit], `[[`, "", 3)
  out <- data.frame(name = names[hit], stem = stem, time = number, place = as.numeric(number), stringsAsFactors = FALSE)
  few <- table(out$stem)
  keep <- out$stem %in% names(few)[few %in% 2:6] & !grepl(untimed_stems(), out$stem)
  if (any(keep)) out[keep, , drop = FALSE]
}

#' Stems of names whose numbers count no times: of items, of ages or sizes that they bound ("pop15"), of kinds of one thing
#' @noRd
untimed_stems <- function() {
  paste0("^(item|question|quest|var|variable|col|column|field|test|marker|gene|factor|feature|pop|population|age|aged|under|over|top|bottom|share|",
         "quantile|percentile|decile|quintile|quartile|vitamin|omega|type|size|grade|model|route|line|group|room|bus|flight)[_. ]?$")
}

repeated_sets <- function(columns) {
  numeric <- Filter(function(col) col$kind %in% c("number", "count", "ordered") && is.null(col$role), columns)
  timed <- timed_names(vapply(numeric, `[[`, "", "name"))
  if (is.null(timed)) return(list())
  sets <- lapply(split(timed, timed$stem), function(rows) {
    rows <- rows[order(rows$place), ]
    if (nrow(rows) < 2 || anyDuplicated(rows$time)) return(NULL)
    list(kind = "repeated_measures", name = rows$stem[1], columns = rows$name, times = rows$time)
  })
  unname(compact(sets))
}

answer_sets <- function(columns) {
  flags <- Filter(function(col) col$kind %in% c("yes_no", "constant"), columns)
  names <- vapply(flags, `[[`, "", "name")
  stem <- sub("([_. ]+|(?<=[a-z])(?=[0-9]+$))[^_. ]*$", "", names, perl = TRUE)
  by_stem <- split(unname(names), stem)
  by_stem <- by_stem[lengths(by_stem) >= 3 & names(by_stem) != ""]
  sets <- lapply(names(by_stem), function(s) {
    own <- by_stem[[s]]
    if (any(own == s)) own <- setdiff(own, s)
    if (sum(vapply(flags[own], function(col) col$kind == "yes_no", NA)) < 3) return(NULL)
    list(kind = "multi_answer", name = s, columns = own)
  })
  single <- Filter(function(col) identical(col$role, "multi_answer"), columns)
  c(compact(sets), lapply(unname(single), function(col) list(kind = "multi_answer", name = col$name, columns = col$name)))
}

position_sets <- function(columns) {
  names <- vapply(columns, `[[`, "", "name")
  lat <- names[vapply(columns, function(col) identical(col$role, "latitude"), NA)]
  lon <- names[vapply(columns, function(col) identical(col$role, "longitude"), NA)]
  if (length(lat) != 1 || length(lon) != 1) return(list())
  list(list(kind = "position", name = "position", columns = unname(c(lat, lon))))
}

shared_stem <- function(names) {
  if (length(names) < 2) return(NULL)
  letters <- strsplit(names, "")
  n <- min(lengths(letters))
  same <- vapply(seq_len(n), function(i) length(unique(vapply(letters, `[[`, "", i))) == 1, NA)
  stem <- sub("[_. ]+$", "", substr(names[1], 1, if (all(same)) n else which(!same)[1] - 1))
  if (nchar(stem) >= 2) stem else NULL
}

#' Latitude and longitude by name and range
#' @noRd
position_role <- function(name, range) {
  plain <- gsub("[^a-z]", "", tolower(name))
  if (grepl("^(lat|latitude)$|latitude$|_lat$", tolower(name)) && range[1] >= -90 && range[2] <= 90) return("latitude")
  if ((plain %in% c("lon", "lng", "long", "longitude") || grepl("longitude$|_(lon|lng)$", tolower(name))) &&
      range[1] >= -180 && range[2] <= 360) return("longitude")
  NULL
}

#' The mark between several answers in one cell, or NULL
#'
#' Several answers: a third of the cells hold the mark, and the pieces repeat far more than the cells do.
#' @noRd
answer_separator <- function(values, x) {
  if (length(values) < 5 || length(values) > 5000) return(NULL)
  for (mark in c(";", "|", ", ", ",")) {
    # (a comma right between figures is a mark of numbers)
    if (mark == "," && any(grepl("[0-9],[0-9]|, ", values))) next
    with <- grepl(mark, values, fixed = TRUE)
    if (mean(with) < 0.3) next
    pieces <- answers_given(values, mark)$answer
    distinct <- unique(pieces)
    if (length(distinct) >= 2 && length(distinct) <= 30 && length(distinct) <= (if (startsWith(mark, ",")) 0.6 else 0.9) * length(values) &&
        max(nchar(distinct)) <= 40 &&
        mean(tabulate(match(pieces, distinct)) >= 2) >= (if (startsWith(mark, ",")) 1 else 0.6)) return(mark)
  }
  NULL
}

#' The answers that cells with several of them hold
#' @section Shape: list(answer = texts without blanks around them, row = index of the cell each stands in).
#' @noRd
answers_given <- function(cells, mark) {
  split <- strsplit(cells, trimws(mark), fixed = TRUE)
  answer <- trimws(unlist(split))
  keep <- !is.na(answer) & nzchar(answer)
  list(answer = answer[keep], row = rep(seq_along(split), lengths(split))[keep])
}
