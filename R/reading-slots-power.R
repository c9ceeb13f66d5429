# Filling the slots of questions about sample size: the numbers of the question are effect, power, level, size.

fill_sample_size <- function(state, mentions, r) {
  at <- which(state$type == "number")
  value <- vapply(at, function(k) state$items[[k]]$value, 1)
  percent <- vapply(at, function(k) item_norm(state, k + 1) %in% c("%", "percent"), NA)
  share <- ifelse(percent, value / 100, value)
  around <- vapply(at, function(k) paste(vapply((k - 3):(k + 3), function(j) item_norm(state, j), ""), collapse = " "), "")
  after <- vapply(at, function(k) paste(item_norm(state, k + 1), item_norm(state, k + 2)), "")
  is_power <- grepl("power", after) | (grepl("power", around) & share %in% c(0.8, 0.85, 0.9, 0.95))
  is_alpha <- !is_power & grepl("alpha|level|significance", around) & share <= 0.2
  before <- vapply(at, function(k) paste(vapply((k - 3):(k - 1), function(j) item_norm(state, j), ""), collapse = " "), "")
  longer <- vapply(at, function(k) paste(vapply((k - 6):(k - 1), function(j) item_norm(state, j), ""), collapse = " "), "")
  is_sd <- !is_power & !is_alpha & (grepl(paste0("(\\bsd|standard deviations?|spread)( of| is| =)?$|(\\bsd|standard deviations?) (of|is|=) ",
      "?(about|around)?$"), trimws(before)) |
    grepl("(\\bsd|standard deviations?|spread) of (the )?(paired )?(differences?|changes?)( of| is| =)?( about| around)?$", trimws(longer)))
  is_groups <- !is_power & !is_sd & grepl("^groups?|^arms?", after) & value == round(value)
  is_size <- !is_power & !is_groups & !is_sd & value >= 4 & value == round(value) & !percent &
    (grepl("\\b(groups?|arms?|samples?) of( size)?$",
        trimws(before)) | grepl("^(per (group|arm)|rows|pairs|in each|each|in total|enough|sufficient|altogether)",
        after) | grepl("(\\bn|sample( size)?) (=|of|is) ?$",
    trimws(before)) | vapply(at, function(k) counts_units(state, k + 1), NA) | plain_size(state, at, before, after))
  rest <- !(is_power | is_alpha | is_groups | is_size | is_sd)
  plan <- list(power = if (any(is_power)) share[is_power][1], alpha = if (any(is_alpha)) share[is_alpha][1], n = if (any(is_size)) value[is_size][1])
  groups <- if (any(is_groups)) value[is_groups][1] else 2
  plan <- c(plan, effect_to_see(state, share[rest], percent[rest], groups))
  together <- size_together(state, plan, groups)
  plan$n <- together %||% plan$n
  plan$of <- raw_measure(state, mentions, plan, at[rest], any(is_sd))
  if (any(is_sd) && !is.null(plan$effect) && plan$what %in% c("mean", "paired", "equivalence", "noninferiority")) {
    plan$raw <- plan$effect; plan$sd <- value[is_sd][1]
    plan$effect <- plan$effect / plan$sd
  }
  if (any(is_sd) && is.null(plan$effect) && plan$what %in% c("mean", "paired", "equivalence", "noninferiority")) plan$sd <- value[is_sd][1]
  # the smallest effect that a given size would see
  if (is.null(plan$effect) && is.null(plan$p1) && !is.null(plan$n)) plan$detect <- TRUE
  r$extra$plan <- compact(plan)
  r$assumed <- c(r$assumed, if (!is.null(together)) sprintf("Took the size as that of all %s groups together.", groups),
      if (is.null(plan$power) && is.null(plan$n)) "A power of 80 % is wanted.",
      if (is.null(plan$alpha)) switch(plan$what, noninferiority = "The one-sided level is 0.05; trials often take 0.025.",
        equivalence = "Each of the two one-sided tests is at the level 0.05.", "The two-sided level is 0.05."))
  r$outcome <- r$by <- r$predictors <- character()
  r["method_asked"] <- list(NULL)
  r$extra$open_measure <- open_measure(state, plan)
  r$extra$needs_effect <- is.null(plan$effect) && is.null(plan$p1) && is.null(plan$detect)
  r
}

#' "the power of a correlation of 0.3 with 100": a whole number that ends a clause after "with", beside a smaller one
#' @noRd
plain_size <- function(state, at, before, after) {
  value <- vapply(at, function(k) state$items[[k]]$value, 1)
  ends <- vapply(after, function(a) !nzchar(trimws(a)) || grepl("^(and|at|to|for|,|in|if)\\b", a), NA)
  grepl("\\b(with|using|from|given|on|n) ?(only |about |just |around )?$", trimws(before)) & ends & (length(at) > 1 && any(value < 4))
}

#' "120 donors": a noun for the rows after a number
#' @noRd
counts_units <- function(state, k) {
  k <= state$n && (state$type[k] == "entity" || state$items[[k]]$stem %in% c(state$vocabulary$entities, state$vocabulary$lexicon$things))
}

#' A size said without "per group" is that of all groups together
#' @section Shape: rows per group, or NULL.
#' @noRd
size_together <- function(state, plan, groups) {
  if (is.null(plan$n) || !plan$what %in% c("mean", "share", "anova", "equivalence", "noninferiority")) return(NULL)
  if (says(state, "\\b(per|each|in every|a) (group|arm|condition|cell|treatment|sample|side)|\\b(in|for) each\\b|\\beach\\b|\\b(groups|arms) of [0-9]")) return(NULL)  # nolint: line_length_linter.
  floor(plan$n / (plan$groups %||% groups))
}

#' "a difference of 0.3 g/dl", "2 points in yield": an effect in the units of a measured column, or NULL
#' @section Shape: name of the column whose spread turns it into a standardised one.
#' @noRd
raw_measure <- function(state, mentions, plan, at, has_sd) {
  if (has_sd || is.null(plan$effect) || !length(at) || !plan$what %in% c("mean", "equivalence", "noninferiority")) return(NULL)
  if (says(state, "\\b(standardi[sz]ed|effect size|standard deviations?|sds?|cohen\\w*|hedges\\w*|d (=|of))\\b")) return(NULL)
  columns <- state$vocabulary$columns
  measured <- columns$kind %in% c("number", "count") & columns$role == ""
  named <- Filter(function(i) measured[i], vapply(mentions, `[[`, 1L, "column"))
  if (length(named)) return(columns$name[named[1]])
  text <- tolower(gsub(" */ *", "/", state$text))
  units <- unique(columns$unit[measured & nzchar(columns$unit)])
  # (points of a scale are no percentage points, unless these are said)
  if (!grepl("[0-9] ?(percentage|percent|%)[- ]?points?", text)) units <- grep("^percentage points?$|^%$|^points?$", units, value = TRUE, invert = TRUE)  # nolint: line_length_linter.
  # ("1 day" of a column in days, "500 dollars" of one in USD)
  money <- c(usd = "dollars?", eur = "euros?", gbp = "pounds?")
  spoken <- function(u) c(as_literal(tolower(u)), if (grepl("[a-z]{3,}s$", tolower(u))) sub("s$", "", tolower(u)),
    if (tolower(u) %in% names(money)) money[[tolower(u)]])
  said <- Filter(function(u) grepl(sprintf("[0-9] ?(%s)([^[:alnum:]]|$)", paste(spoken(u), collapse = "|")), text), units)
  own <- columns$name[measured & columns$unit %in% said]
  together <- any(vapply(state$vocabulary$sets, function(set) all(own %in% set$columns), NA))
  if (length(own) == 1 || length(own) && together) own[1]
}

#' "a difference of 3 points": of what is left open, and no standardised effect is that large
#' @noRd
open_measure <- function(state, plan) {
  if (is.null(plan$effect) || !is.null(plan$of) || !is.null(plan$sd) ||
      !isTRUE(plan$what %in% c("mean", "equivalence", "noninferiority"))) return(FALSE)
  if (says(state, "\\b(standardi[sz]ed|effect size|standard deviations?|sds?|cohen\\w*|hedges\\w*|d (=|of))\\b")) return(FALSE)
  plan$effect >= 3 || says(state, paste0("[0-9] ?(points?|units?|marks?|seconds?|minutes?|hours?|days?|weeks?|months?|years?|kg|mg|cm|mm|km|ml|",
    "lit(re|er)s?|euros?|dollars?|pounds?|mmhg|bpm|degrees?)\\b"))
}

#' The measures whose difference could be meant
#' @noRd
measure_verdict <- function(state, reading) {
  columns <- state$vocabulary$columns
  measured <- columns$name[columns$kind %in% c("number", "count") & columns$role == ""]
  choices <- lapply(utils::head(measured, 4), function(name) {
    own <- reading
    own$extra$open_measure <- NULL
    own$extra$plan$of <- name
    own
  })
  if (!length(choices)) return(new_verdict("needs_choice", reading, "Name the standard deviation, such as \"with a standard deviation of 9\"."))
  choice_verdict(state, reading, choices, sprintf(paste(
    "A difference of %s is in the units of a measure, which the question leaves open. Choose one of the readings below, by number or in your own",
    "words, or name a standard deviation."), format_plain(reading$extra$plan$effect)))
}

#' An effect in the units of a column as one in standard deviations of that column in the data
#' @noRd
settle_raw_effect <- function(study, verdict) {
  settle <- function(r) {
    plan <- r$extra$plan
    if (is.null(plan$of)) return(r)
    spread <- sd_from_moments(stat_group_moments(as.numeric(understood(study, plan$of))))
    if (!is.finite(spread) || spread <= 0) return(r)
    plan$raw <- plan$effect; plan$sd <- spread
    plan$effect <- plan$raw / spread
    r$extra$plan <- plan
    r$assumed <- c(r$assumed, sprintf("The spread is that of %s in this data: a standard deviation of %s.", plan$of, format_plain(signif(spread, 4))))
    finish_reading(r)
  }
  verdict$reading <- settle(verdict$reading)
  verdict$reading$alternatives <- lapply(verdict$reading$alternatives, settle)
  verdict
}

#' "2 points more from 15 %", "a rise of 3 percentage points from 20 %": two shares; NULL where that is not said
#' @noRd
points_more <- function(state) {
  text <- tolower(state$text)
  step <- regmatches(text, regexec("([0-9.]+) ?(?:percentage[- ]?|%[- ]?)?points?", text))[[1]]
  from <- regmatches(text, regexec("(?:from|of|over|at|baseline(?: of)?|above|than) (?:about |around )?([0-9.]+) ?(?:%|per ?cent)", text))[[1]]
  if (length(step) < 2 || length(from) < 2) return(NULL)
  step <- as.numeric(step[2]) / 100; base <- as.numeric(from[2]) / 100
  down <- grepl("\\b(fewer|less|lower|drop|fall|reduc\\w*|decreas\\w*)\\b", text)
  other <- if (down) base - step else base + step
  if (!is.finite(other) || other <= 0 || other >= 1 || base <= 0 || base >= 1) return(NULL)
  list(what = "share", p1 = base, p2 = other)
}

effect_to_see <- function(state, values, percent, groups) {
  words <- paste(tolower(state$text), paste(vapply(state$items, `[[`, "", "norm"), collapse = " "))
  one <- grepl(paste0("\\bpaired\\b|\\bpairs?\\b|before and after|pre[- ]post|same (patients|subjects|people|units|persons)|one[- ]sample|single group|one ",  # nolint: line_length_linter.
      "group|cross[- ]?over"), words)
  kind <- if (grepl("equivalen", words)) "equivalence" else if (grepl("non.?inferior|not inferior|no worse|not worse",
      words)) "noninferiority" else if (one) "paired" else if (grepl("correlat", words)) "correlation" else "mean"
  if (!length(values)) return(list(what = kind))
  points <- points_more(state)
  if (!is.null(points)) return(points)
  if (kind %in% c("equivalence", "noninferiority")) return(list(what = kind, effect = abs(values[1])))
  if (grepl("correlat", words)) return(list(what = "correlation", effect = values[1]))
  if (length(values) >= 2 && (all(percent[1:2]) || grepl("proportion|share|rate", words)) && all(values[1:2] > 0 & values[1:2] < 1)) {
    return(list(what = "share", p1 = values[1], p2 = values[2]))
  }
  if (groups > 2 || grepl("anova|analysis of variance", words)) return(list(what = "anova", effect = values[1], groups = max(3, groups)))
  list(what = if (one) "paired" else "mean", effect = values[1])
}
