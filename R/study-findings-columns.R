# Findings about single columns.

column_findings <- function(col, table) {
  raw <- table$data[[col$name]]
  if (length(col$recode)) raw <- recode_values(raw, col$recode)
  # worked out only if a finding needs them
  delayedAssign("x", column_values(table, col))
  delayedAssign("counts", level_counts(table$data[[col$name]], col))
  compact(list(code_finding(col, table, raw), limit_finding(col, table, raw), proposal_finding(col, table, raw), gap_finding(col, table, raw),
               plain_finding(col, table), undecided_finding(col, table), constant_finding(col, table, x, counts), key_finding(col, table, raw),
               impossible_finding(col, table, x), far_finding(col, table, x), heaping_finding(col, table, x),
               turned_finding(col, table), units_finding(col, table, raw), mixed_finding(col, table, raw), infinite_finding(col, table, raw),
               garbled_finding(col, table, raw),
               spelling_finding(col, table, raw, counts), near_spelling_finding(col, table, raw, counts), range_finding(col, table)))
}

column_values <- function(table, col) {
  raw <- table$data[[col$name]]
  if (is_numeric_kind(col$kind)) numbers_of(raw, col) else if (!col$kind %in% c("id", "text", "constant", "empty")) understand(raw, col)
}

code_finding <- function(col, table, raw) {
  codes <- setdiff(col$missing_codes, col$beyond_limit)
  codes <- codes[!endless(codes)]
  if (!length(codes)) return(NULL)
  rows <- which(raw %in% codes)
  if (!length(rows)) return(NULL)
  new_finding("note", table, col$name, rows, sprintf("%s: %s %s read as missing (%s).", col$name, some_of(quoted(as.character(codes)), 4),
                                                     plural(length(codes), "is", "are"), count_of(length(rows), "row")))
}

#' Numbers of which some are only known to lie beyond a limit of detection
#' @noRd
limit_finding <- function(col, table, raw) {
  if (!length(col$beyond_limit)) return(NULL)
  rows <- which(raw %in% intersect(col$missing_codes, col$beyond_limit))
  if (!length(rows)) return(NULL)
  said <- unique(trimws(raw[rows]))
  said <- said[order(!grepl("[0-9]", said))]
  low <- !grepl("^[>\u2265]|\\+$", said[1])
  limit <- suppressWarnings(as.numeric(gsub("[^0-9.]", "", said[1])))
  # half the limit is a convention that an analyst may choose, never a value that was measured
  settle <- if (low && isTRUE(limit > 0)) sprintf("read \"%s\" as %s in %s", said[1], format_plain(limit / 2), col$name)
  new_finding("act", table, col$name, rows, sprintf("%s: %s %s beyond a limit (%s), which is read as missing, so means are too %s.", col$name,
    count_of(length(rows), "value"), plural(length(rows), "lies", "lie"), some_of(quoted(said), 3), if (low) "high" else "low"), settle)
}

proposal_finding <- function(col, table, raw) {
  if (!length(col$proposed$codes)) return(NULL)
  codes <- as.character(col$proposed$codes)
  x <- if (is.character(raw) && is.numeric(col$proposed$codes)) as_numbers(raw, col$style) else raw
  rows <- which(x %in% col$proposed$codes)
  if (!length(rows)) return(NULL)
  said <- if (isTRUE(col$proposed$dated)) sprintf("%s: %s %s not written like the other dates (%s), so the column is not read as dates yet.",
      col$name,
                                                  some_of(quoted(codes), 4), plural(length(codes), "is", "are"), count_of(length(rows), "row"))
    else sprintf("%s: %s %s like a code for missing (%s; %s).", col$name, some_of(quoted(codes), 4), plural(length(codes), "looks", "look"),
                 count_of(length(rows), "row"), col$proposed$evidence)
  new_finding("act", table, col$name, rows, said,
              sprintf("treat %s as missing in %s", paste(codes, collapse = ", "), col$name))
}

#' Some values of the beginning of a column
#' @noRd
first_values <- function(raw) {
  some <- utils::head(raw, 2000)
  unique(some[!is.na(some)])
}

#' Amounts in several currencies or units, which cannot be set side by side
#' @noRd
units_finding <- function(col, table, raw) {
  if (!col$kind %in% c("category", "text", "id") || !is.character(raw) || !is.null(col$codes) || col$distinct < 4) return(NULL)
  some <- setdiff(first_values(raw), col$missing_codes)
  shape <- sprintf("^\\s*(%s)?\\s*-?[0-9][0-9.,]*\\s*([$\u20ac\u00a3\u00a5%%]|[A-Za-z\u00b0\u00b5]{1,6}(/[A-Za-z0-9]{1,4})?)?\\s*$", front_currency())
  if (!length(some) || !all(grepl(shape, some))) return(NULL)
  units <- unique(trimws(gsub("-?[0-9][0-9.,]*", "", some)))
  units <- units[nzchar(units)]
  # letters behind numbers that come once each tell codes apart ("12A", "12B")
  if (length(units) < 2 || length(units) > 5 || all(nchar(units) == 1 & grepl("[A-Z]", units))) return(NULL)
  new_finding("act", table, col$name, integer(), sprintf("%s: amounts in several units (%s), so they are not read as numbers.", col$name,
    some_of(quoted(units), 5)),
              count = nrow(table$data) - col$missing)
}

#' Codes that run against what they mean
#' @noRd
turned_finding <- function(col, table) {
  if (is.null(col$turned)) return(NULL)
  said <- if (is.character(col$turned)) sprintf("%s: a low number stands for more (%s), so a higher mean says less.", col$name, col$turned)
    else sprintf("%s: its codes run from %s to %s. Its levels are in the order of their meaning, %s the lowest, and are scored so.", col$name,
                 quoted(col$levels[length(col$levels)]), quoted(col$levels[1]), quoted(col$levels[1]))
  new_finding("look", table, col$name, integer(), said, count = nrow(table$data) - col$missing)
}

#' Numbers and other texts in one column, which keeps it from being numbers
#' @noRd
mixed_finding <- function(col, table, raw) {
  if (!col$kind %in% c("category", "text", "id") || !is.character(raw) || length(col$proposed$codes) || col$distinct < 3 ||
    !is.null(col$codes)) return(NULL)
  # most columns of words are seen to be such by their first values
  if (!isTRUE(mean(grepl(plain_number(), first_values(raw))) >= 0.5)) return(NULL)
  values <- setdiff(distinct_texts(raw), col$missing_codes)
  odd <- values[!grepl(plain_number(), values)]
  # codes of which some happen to be figures ("101", "102B") are no measurements
  if (!length(odd) || length(odd) > 0.4 * length(values) || any(grepl("^0[0-9]", values))) return(NULL)
  rows <- which(raw %in% odd)
  if (length(rows) > 0.4 * (length(raw) - col$missing)) return(NULL)
  new_finding("act", table, col$name, rows, sprintf("%s: most values are numbers, but %s not (such as %s), so it is read as a %s.", col$name,
    paste(count_of(length(rows), "row"), plural(length(rows), "is", "are")), quoted(odd[1]), c(category = "category", text = "text",
      id = "key")[[col$kind]]),
    if (length(odd) <= 10) sprintf("treat %s as missing in %s", paste(quoted(odd), collapse = ", "), col$name))
}

#' Values without a bound, and those too large to compute with, are read as missing
#' @noRd
infinite_finding <- function(col, table, raw) {
  codes <- col$missing_codes[endless(col$missing_codes)]
  rows <- if (length(codes)) which(raw %in% codes)
  if (!length(rows)) return(NULL)
  how <- if (all(is.infinite(codes))) "infinite, as a division by zero leaves behind," else
    sprintf("infinite or too large to compute with (%s),", format(codes[which.max(abs(codes))], digits = 3))
  new_finding("look", table, col$name, rows, sprintf("%s: %s %s and read as missing.", col$name,
    paste(count_of(length(rows), "value"), plural(length(rows), "is", "are")), how))
}

gap_finding <- function(col, table, raw) {
  n <- nrow(table$data)
  if (col$missing <= 0.2 * n || col$kind == "empty") return(NULL)
  new_finding("look", table, col$name, rows_without(raw), sprintf("%s: %s of the values are missing.", col$name,
      paste0(round(100 * col$missing / n), " %")),
              count = col$missing)
}

plain_finding <- function(col, table) {
  if (!col$kind %in% c("constant", "empty")) return(NULL)
  new_finding("note", table, col$name, integer(),
      sprintf(if (col$kind == "empty") "%s: no value at all." else "%s: the same value in every row.", col$name),
              sprintf("leave out the column %s", col$name), count = nrow(table$data))
}

undecided_finding <- function(col, table) {
  if (!identical(col$role, "undecided_date")) return(NULL)
  new_finding("act", table, col$name, integer(),
      sprintf("%s: day and month of the dates cannot be told apart, so they are not read as dates yet.", col$name),
              sprintf("%s is day first", col$name), count = nrow(table$data) - col$missing)
}

#' Nearly constant: 98 of 100 values are the same
#' @noRd
constant_finding <- function(col, table, x, counts) {
  n <- nrow(table$data) - col$missing
  if (n < 50 || col$distinct > 50 || col$kind %in% c("constant", "empty", "id", "text") || is.null(col$levels)) return(NULL)
  if (max(counts) < 0.98 * n) return(NULL)
  new_finding("note", table, col$name, which(!is.na(x) & as.integer(x) != which.max(counts)),
              sprintf("%s: nearly constant, %s in %s of %s rows.", col$name, quoted(names(counts)[which.max(counts)]),
                  say_count(max(counts)), say_count(n)))
}

say_count <- function(n) formatC(n, format = "d", big.mark = ",")

#' A key by its name whose values should be different, and a few are not
#' @noRd
key_finding <- function(col, table, raw) {
  n <- nrow(table$data) - col$missing
  if (col$kind != "id" || col$distinct == n || col$distinct < 0.9 * n || n < 10) return(NULL)
  twice <- which(duplicated(raw) & !is.na(raw))
  new_finding("act", table, col$name, twice, sprintf("%s: nearly a key of the rows, but %s more than once (such as %s).", col$name,
      paste(count_of(length(unique(raw[twice])), "value"), plural(length(unique(raw[twice])), "occurs",
          "occur")), quoted(as.character(raw[twice][1]))),
      sprintf("leave out rows %s", some_rows(file_rows(table, twice))))
}

#' Values that the meaning of a column rules out: by its name, its unit, or today's date
#' @noRd
impossible_finding <- function(col, table, x) {
  if (!col$kind %in% c("number", "count", "date", "datetime")) return(NULL)
  if (col$kind %in% c("date", "datetime")) return(if (!dates_plausible(col, table)) date_finding(col, table, as.Date(x)))
  bounds <- natural_bounds(col)
  if (bounds$low == -Inf && bounds$high == Inf) return(NULL)
  out <- kernel_beyond(x, bounds$low, bounds$high)
  if (length(col$proposed$codes)) out <- out[!x[out] %in% col$proposed$codes]
  # a rule that many values break does not fit the column
  if (!length(out) || length(out) > 0.05 * sum(!is.na(x))) return(NULL)
  new_finding("act", table, col$name, out, sprintf("%s: %s impossible for %s (%s).", col$name, paste(count_of(length(out), "value"),
      plural(length(out), "is", "are")), bounds$what, some_of(format_plain(utils::head(unique(x[out]), 3)))),
      sprintf("treat %s as missing in %s", paste(format_plain(utils::head(unique(x[out]), 10)), collapse = ", "), col$name))
}

natural_bounds <- function(col) {
  name <- tolower(col$name)
  none <- list(low = -Inf, high = Inf, what = "")
  # (a quick look: most names of a wide table speak of none of these)
  if (!identical(col$unit, "%") && !grepl(bounded_names(), name, perl = TRUE)) return(none)
  named <- function(...) grepl(sprintf("(^|[^a-z])(%s)([^a-z]|$)", paste(c(...), collapse = "|")), name)
  if (named("age", "ages") && !named("months", "days", "weeks") && is.null(col$unit) || named("age") && identical(col$unit, "years")) {
    return(list(low = 0, high = 120, what = "an age in years"))
  }
  # growth and change may be below zero and beyond 100
  moving <- grepl("growth|change|chg|diff|delta|return|gain|loss|increase|decrease|inflation|deviation|margin|variation|surplus|balance|trend|yield|elasticity", name)  # nolint: line_length_linter.
  if ((identical(col$unit, "%") || named("percent", "pct", "percentage")) && !moving) return(list(low = 0, high = 100, what = "a percentage"))
  if (named("count", "counts", "number", "n", "height", "weight", "length", "width", "area", "size", "duration",
      "income", "wage", "salary", "visits", "children",
           "siblings", "distance", "volume", "dose", "pulse", "bmi")) return(list(low = 0, high = Inf,
               what = "something that is counted or measured from zero"))
  none
}

#' Any of the words that bound a column
#' @noRd
bounded_names <- function() paste0("age|percent|pct|count|number|(^|[^a-z])n([^a-z]|$)|height|weight|length|width|area|size|duration|income|wage|salary|visits|",  # nolint: line_length_linter.
                                   "children|siblings|distance|volume|dose|pulse|bmi")

#' Do the different dates of a long column lie between 1880 and today?
#' @noRd
dates_plausible <- function(col, table) {
  raw <- table$data[[col$name]]
  if (is.character(raw)) raw <- distinct_texts(raw)
  if (length(raw) > 0.1 * nrow(table$data) && !is.numeric(raw)) return(FALSE)
  x <- as.Date(understand(raw, col))
  !length(kernel_beyond(as.numeric(x), as.numeric(as.Date("1880-01-01")), as.numeric(Sys.Date())))
}

date_finding <- function(col, table, x) {
  future <- which(x > Sys.Date())
  ancient <- which(x < as.Date("1880-01-01"))
  if (length(future) && length(future) < 0.2 * length(x)) {
    return(new_finding("look", table, col$name, future, sprintf("%s: %s in the future (such as %s).", col$name,
        paste(count_of(length(future), "date"),
        plural(length(future), "lies", "lie")), format(x[future[1]]))))
  }
  if (!length(ancient) || length(ancient) > 0.2 * length(x)) return(NULL)
  new_finding("look", table, col$name, ancient, sprintf("%s: %s before 1880 (such as %s), often a stand-in for missing.", col$name,
      paste(count_of(length(ancient), "date"), plural(length(ancient), "lies", "lie")), format(x[ancient[1]])))
}

far_finding <- function(col, table, x) {
  if (!is_numeric_kind(col$kind) || col$distinct < 10 || length(col$proposed$codes) || plainly_near(x)) return(NULL)
  few <- max(5, 0.01 * length(x))
  far <- far_rows(x)
  # many far values are the shape of the column, not slips; of a long tail those that are far also by their logarithm stay
  if (length(far) > few && all(x > 0, na.rm = TRUE)) far <- far_rows(log(x))
  if (!length(far) || length(far) > few) return(NULL)
  values <- x[far[order(-abs(x[far] - middle_of_some(x)))]]
  new_finding("look", table, col$name, far,
              sprintf("%s: %s far from the rest (%s).", col$name,
                      paste(count_of(length(far), "value"), plural(length(far), "lies", "lie")),
                      paste(say_value(utils::head(values, 3)), collapse = ", ")),
              sprintf("leave out rows %s", some_rows(file_rows(table, far))))
}

#' Rows whose values lie further beyond the quartiles than chance would bring them
#' @noRd
far_rows <- function(x) {
  q <- stat_group_quantiles(x)
  iqr <- q[3] - q[1]
  if (!is.finite(iqr) || iqr == 0) return(integer())
  reach <- far_reach(length(x)) * iqr
  kernel_beyond(x, q[1] - reach, q[3] + reach)
}

#' Do the quartiles of some thousand rows of a long column show that nothing can be far?
#' @noRd
plainly_near <- function(x) {
  n <- length(x)
  if (n < 1e5) return(FALSE)
  q <- stats::quantile(x[round(seq(1, n, length.out = 2e4))], c(0.25, 0.75), names = FALSE, na.rm = TRUE)
  # a twentieth off the reach: four times what quartiles of 20,000 rows can be wrong by
  reach <- 0.95 * far_reach(n) * (q[2] - q[1])
  !anyNA(q) && min(x, na.rm = TRUE) > q[1] - reach && max(x, na.rm = TRUE) < q[2] + reach
}

#' How many quartile distances beyond the quartiles a value of n is far: 3, and more where so many values reach further by chance
#' @noRd
far_reach <- function(n) {
  # expected beyond it under normality: one value in twenty tables of this size
  z <- stats::qnorm(0.05 / (2 * max(n, 1)), lower.tail = FALSE)
  max(3, (z / stats::qnorm(0.75) - 1) / 2)
}

#' A value short enough to read
#' @noRd
say_value <- function(x) format_plain(signif(x, 6))

#' Whole numbers that end in 0 or 5 far more often than the one in five that chance gives
#' @noRd
heaping_finding <- function(col, table, x) {
  if (!is_numeric_kind(col$kind) || col$distinct < 15 || !is.null(col$role)) return(NULL)
  all <- x
  if (length(x) > 2e4) x <- x[round(seq(1, length(x), length.out = 2e4))]
  x <- x[!is.na(x)]
  if (length(x) < 50 || max(x) - min(x) < 40 || any(x %% 1 != 0)) return(NULL)
  share <- mean(x %% 5 == 0)
  # a column of nothing but fives and tens was measured so
  if (share < 0.5 || share > 0.97) return(NULL)
  new_finding("note", table, col$name, integer(), sprintf("%s: %s of the values end in 0 or 5 (chance gives 20 %%): they were probably rounded.",
                                                          col$name, paste0(round(100 * share), " %")), count = sum(all %% 5 == 0, na.rm = TRUE))
}

#' Levels that differ only in case or blanks; spellings of yes and no that are read as one
#' @noRd
spelling_finding <- function(col, table, raw, counts) {
  if (col$kind == "yes_no" && length(col$recode) && identical(col$reason, "several spellings of yes and no")) {
    return(new_finding("note", table, col$name, which(raw %in% names(col$recode)), sprintf("%s: %s.", col$name,
      some_of(sprintf("%s is read as %s", quoted(names(col$recode)), quoted(unname(col$recode))), 6)), count = length(col$recode)))
  }
  if (col$kind != "category") return(NULL)
  plain <- tolower(gsub("[[:space:]]+", " ", trimws(col$levels)))
  twice <- unique(plain[duplicated(plain)])
  if (!length(twice)) return(NULL)
  same <- col$levels[plain %in% twice]
  target <- vapply(twice, function(p) { own <- col$levels[plain == p]; own[which.max(counts[own])] }, "")
  first <- col$levels[plain == twice[1]]
  new_finding("act", table, col$name, which(raw %in% setdiff(same, target)),
              sprintf("%s: the levels %s differ only in their spelling.", col$name, some_of(quoted(same), 6)),
              sprintf("merge %s into %s in %s", paste(quoted(setdiff(first, target[[1]])), collapse = ", "), quoted(target[[1]]), col$name))
}

#' Texts whose bytes were read in the wrong encoding before they came here ("Jos\u00c3\u00a9" for "Jos\u00e9")
#' @noRd
garbled_finding <- function(col, table, raw) {
  if (!col$kind %in% c("category", "text", "id") || !is.character(raw)) return(NULL)
  values <- distinct_texts(raw)
  mended <- mended_text(values)
  wrong <- !is.na(mended)
  if (!any(wrong)) return(NULL)
  first <- which(wrong)[1]
  new_finding("act", table, col$name, which(raw %in% values[wrong]), sprintf(
    "%s: %s letters that were read in the wrong encoding: %s is probably %s.", col$name,
    paste(count_of(sum(wrong), "text"), plural(sum(wrong), "holds", "hold")), quoted(values[first]), quoted(mended[first])),
    if (col$kind == "category") sprintf("merge %s into %s in %s", quoted(values[first]), quoted(mended[first]), col$name))
}

#' Texts with their letters put right, NA where they need no mending: the bytes of UTF-8 that were read one by one
#' @noRd
mended_text <- function(texts) {
  out <- rep(NA_character_, length(texts))
  # (two bytes start with C2 to DF, three with E2: read as Windows-1252 these are such pairs of letters)
  odd <- which(stringi::stri_detect_regex(texts, "[\u00c2-\u00c5\u00c8\u00cc-\u00d1][\u0080-\u00bf\u0152-\u0178\u02c6\u02dc\u2013-\u2122\u20ac]|\u00e2[\u20ac\u201a\u201e\u2020]") %in% TRUE)  # nolint: line_length_linter.
  for (i in odd) {
    bytes <- tryCatch(stringi::stri_encode(texts[i], "UTF-8", "windows-1252", to_raw = TRUE)[[1]], warning = function(w) NULL)
    whole <- length(bytes) && !any(bytes == as.raw(0x1a)) && validUTF8(rawToChar(bytes))
    if (whole) out[i] <- stringi::stri_encode(list(bytes), "UTF-8", "UTF-8")
  }
  out
}

#' A rare level one or two letters away from a common one ("Nroth", "north")
#' @noRd
near_spelling_finding <- function(col, table, raw, counts) {
  if (col$kind != "category" || length(col$levels) > 300 || length(col$levels) < 2 || !is.null(col$codes)) return(NULL)
  plain <- tolower(trimws(col$levels))
  pair <- NULL
  for (i in order(counts)) {
    # digits tell levels apart ("site 1", "site 2"), and short words are too near each other anyway
    if (nchar(plain[i]) < 4 || counts[i] > max(3, 0.05 * sum(counts))) next
    others <- which(counts >= 4 * counts[i] & plain != plain[i] & gsub("[^0-9]", "", plain) == gsub("[^0-9]", "", plain[i]) &
                    nchar(plain) >= 4)
    if (!length(others)) next
    distance <- stringdist::stringdist(plain[i], plain[others], method = "osa")
    best <- which.min(distance)
    if (distance[best] <= (if (nchar(plain[i]) >= 8) 2 else 1)) { pair <- c(i, others[best]); break }
  }
  if (is.null(pair)) return(NULL)
  from <- col$levels[pair[1]]; to <- col$levels[pair[2]]
  new_finding("act", table, col$name, which(raw == from), sprintf("%s: %s (%s) may be a slip for %s (%s).", col$name, quoted(from),
      count_of(counts[pair[1]], "row"), quoted(to), count_of(counts[pair[2]],
          "row")), sprintf("merge %s into %s in %s", quoted(from), quoted(to), col$name))
}

range_finding <- function(col, table) {
  if (identical(col$role, "range")) {
    return(new_finding("note", table, col$name, integer(),
        sprintf("%s: ranges of numbers; %s_low, %s_high and %s_middle were added.", col$name, col$name,
                                                                   col$name, col$name), count = col$distinct))
  }
  if (!identical(col$role, "multi_answer")) return(NULL)
  new_finding("note", table, col$name, integer(), sprintf("%s: several answers in a cell.", col$name), count = col$distinct)
}
