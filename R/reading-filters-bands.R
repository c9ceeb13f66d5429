# Conditions with numbers on columns whose levels are bands of numbers ("18-34", "65+").

#' The bands of a column of levels
#' @section Shape: list(levels, low, high (numbers, -Inf and Inf where a band is open)), or NULL where a level is no band.
#' @noRd
bands_of <- function(state, column) {
  values <- state$vocabulary$values[state$vocabulary$values$column == column, , drop = FALSE]
  levels <- unique(values$level[values$quality >= 1])
  if (length(levels) < 2) levels <- unique(values$level)
  if (length(levels) < 2) return(NULL)
  ends <- vapply(levels, range_ends, numeric(2), USE.NAMES = FALSE)
  if (any(is.na(ends[1, ]) & is.na(ends[2, ]))) return(NULL)
  low <- ifelse(is.na(ends[1, ]), -Inf, ends[1, ]); high <- ifelse(is.na(ends[2, ]), Inf, ends[2, ])
  # "under 18" ends before 18: at 17 where ages or other whole numbers are banded
  open <- grepl("^ *(<|under|below|less)", tolower(levels))
  whole <- all(ends == round(ends), na.rm = TRUE)
  high[open] <- if (whole) high[open] - 1 else high[open] * (1 - 1e-9)
  at <- order(low, high)
  list(levels = levels[at], low = low[at], high = high[at])
}

#' The bands that lie on the side of a bound, and those that it cuts
#' @param n The bound; its two ends for "between".
#' @section Shape: list(keep, cut), each TRUE or FALSE for every band.
#' @noRd
bands_beyond <- function(bands, op, n) {
  low <- bands$low; high <- bands$high
  # who says "over 65" of a band "65+" means that band
  if (op == ">" && any(low == n & is.infinite(high))) op <- ">="
  keep <- switch(op, "<" = high < n, "<=" = high <= n, ">" = low > n, ">=" = low >= n, between = low >= n[1] & high <= n[2])
  some <- switch(op, "<" = low < n, "<=" = low <= n, ">" = high > n, ">=" = high >= n, between = low <= n[2] & high >= n[1])
  list(keep = keep, cut = some & !keep)
}

#' "men under 25", of ages in bands (16-24, 25-39): the bands that lie on that side, where none is cut by the bound
#' @noRd
banded_ages <- function(state) {
  columns <- state$vocabulary$columns
  aged <- unique(state$vocabulary$terms$column[state$vocabulary$terms$stem %in% c("age", "aged")])
  aged <- aged[columns$kind[aged] %in% c("ordered", "category")]
  if (length(aged) != 1 || !is.na(age_column(state)) && is_numeric_kind(kind_at(state, age_column(state)))) return(state)
  bands <- bands_of(state, aged)
  if (is.null(bands)) return(state)
  for (k in which(state$type == "number" & !state$used)) {
    said <- item_norm(state, k - 1)
    if (said == "than") said <- paste(item_norm(state, k - 2), said)
    onwards <- grepl("^(or|and) (older|over|above|more)|^\\+$", paste(item_norm(state, k + 1), item_norm(state, k + 2)))
    under <- said %in% c("under", "below", "younger than"); over <- said %in% c("over", "above", "older than")
    if (!(under || over || onwards) || !(names_people(state, k) || grepl("than$", said) || said == "aged")) next
    # "respondents with a satisfaction below 5": another column stands before the number
    # (that counts the people themselves in "policyholders under 25")
    other <- number_column(state, k)$column
    counts <- !is.na(other) && kind_at(state, other) == "count" && any(vapply(max(1, k - 4):(k - 1), function(j) other %in% item_column(state, j,
      "count") &&
      grepl(people_pattern(), item_norm(state, j)), NA))
    if (!other %in% c(NA, aged) && !counts) next
    side <- bands_beyond(bands, if (under) "<" else if (onwards) ">=" else ">", state$items[[k]]$value)
    if (!any(side$keep | side$cut)) next
    state <- take_bands(state, columns$name[aged], bands$levels, side, paste(said, item_norm(state, k)))
    state <- use_items(state, c(k, k - 1, if (grepl(" than$", said)) k - 2, if (onwards) k + 1:2))
  }
  state
}

#' Bounds on columns of bands as the bands that they leave
#' @noRd
bounds_on_bands <- function(state) {
  for (f in Filter(function(f) is_bound(f) && kind_of_names(state, f$column) %in% c("ordered", "category"), state$filters)) {
    bands <- bands_of(state, match(f$column, state$vocabulary$columns$name))
    # the steps of a scale (1 to 5) are numbers themselves
    if (is.null(bands) || all(bands$low == bands$high)) next
    side <- bands_beyond(bands, f$op, f$value)
    if (!any(side$keep | side$cut)) next
    state$filters <- Filter(function(o) !identical(o, f), state$filters)
    state <- take_bands(state, f$column, bands$levels, side, plain_filter(f))
  }
  state
}

#' The condition on the bands that a bound leaves; where it cuts one, with that band, to be asked about
#' @param side As of [bands_beyond()].
#' @noRd
take_bands <- function(state, name, levels, side, said) {
  chosen <- levels[side$keep | side$cut]
  state <- add_filter(state, name, if (length(chosen) == 1) "==" else "in", chosen)
  state$flags$banded <- c(state$flags$banded, name)
  if (any(side$cut)) {
    state$flags$cut_band <- list(column = name, said = said, cut = levels[side$cut], with = chosen, without = levels[side$keep])
    return(state)
  }
  assume(state, sprintf("Took %s to mean the bands %s of %s.", quoted(said), some_of(quoted(chosen), 6), name))
}

#' "over 60", of bands 50-64 and 65+: one reading with the band that the bound cuts, one without
#' @noRd
cut_band_verdict <- function(state, reading) {
  cut <- state$flags$cut_band
  moved <- function(f, levels) {
    if (!is.null(f) && identical(f$column, cut$column) && identical(f$value, cut$with)) new_filter(f$column, if (length(levels) == 1) "==" else "in",
      levels) else f
  }
  choices <- lapply(Filter(length, list(cut$without, cut$with)), function(levels) {
    r <- reading
    r$filters <- lapply(r$filters, moved, levels)
    if (length(r$extra$event)) r$extra$event <- moved(r$extra$event, levels)
    finish_reading(r)
  })
  choice_verdict(state, reading, choices, sprintf(
    "%s holds bands, and %s cuts %s. Choose one of the readings below, by number or in your own words.", capital(quoted(cut$column)),
    quoted(cut$said), some_of(quoted(cut$cut), 3)))
}
