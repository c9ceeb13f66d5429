#' @noRd
method_frequency_table <- function() {
  new_method(
    id = "frequency_table", name = "Frequency table", tasks = "frequency",
    fits = function(shape) if (shape$task %in% c("frequency", "figure", "distribution", "describe") && shape$n_outcome +
                               shape$n_by <= 1 && !length(shape$predictor_kinds) &&
                               !(shape$task == "describe" && shape$outcome_kind == "ordered" && scores_levels(shape$statistic_said)) &&
                               (shape$task == "frequency" || !shape$outcome_kind %in% c("number", "count"))) new_fit(82,
                                   "The question asks how many rows there are of each kind."),
    compute = compute_frequency,
    # the interval of a share counts every row as one that was drawn by itself
    checks = function(ctx, res) if (is.null(ctx$reading$extra$event)) list() else check_known_units(ctx),
    figure = function(ctx, res) if (length(res$name)) figure_counts(ctx, res$name, res$counts, res$levels, res$sides),
    sentences = say_frequency, script = script_frequency,
    references = c(paste0("Wilson, E. B. (1927). Probable inference, the law of succession, and statistical inference. ",
                          "Journal of the American Statistical Association, 22, 209-212."),
                   paste0("Clopper, C. J., & Pearson, E. S. (1934). The use of confidence or fiducial limits ",
                          "illustrated in the case of the binomial. Biometrika, 26, 404-413.")),
    next_steps = function(ctx, res) character())
}

#' Statistics that take the levels of an ordered column by their place
#' @noRd
scores_levels <- function(statistic) statistic %in% c("mean", "median", "sd", "variance", "se", "range", "iqr", "min", "max", "q1", "q3", "skewness",
  "trimmed_mean")

compute_frequency <- function(ctx) {
  name <- c(ctx$reading$outcome, ctx$reading$by)
  event <- ctx$reading$extra$event
  if (!length(name)) return(result(list(new_number("n", "rows", ctx$frame$after_filters),
                                        new_number("estimate", "rows", ctx$frame$after_filters)), name = character()))
  x <- ctx$frame$data[[name[1]]]
  if (is.null(event) && ctx$columns[[name[1]]]$kind %in% c("number", "count") && length(unique(x)) > 30) {
    stop_data(sprintf("%s takes %s different values, so a count of each says nothing.", quoted(name[1]), say_number(length(unique(x)))),
              todo = sprintf("Name a condition (\"how many with %s above %s\") or ask for its distribution.", name[1],
                say_number(stats::median(x))), class = "no_method")
  }
  # of a measured column the two sides of a bound are counted, not each of its values
  sides <- two_sides(ctx, x, event)
  g <- if (is.null(sides)) as_group(x) else factor(ifelse(row_matches(x, event), sides[1], sides[2]), sides)
  counts <- tabulate(g, nlevels(g))
  shares <- stat_shares(counts, ctx$conf_level, ctx$reading$extra$exact_interval)
  table <- cbind(stats::setNames(data.frame(levels(g), stringsAsFactors = FALSE), name[1]), shares)
  numbers <- if (is.null(event)) c(entropy_numbers(ctx, counts), average_numbers(ctx, counts),
      list(new_number("n", "rows", length(x)))) else event_numbers(ctx, x, event)
  result(numbers, tables = if (nlevels(g) <= 200 || is.null(event)) list(new_table("counts",
      sprintf("Rows by %s", name[1]), table)) else list(), name = name[1], counts = counts, levels = levels(g), sides = sides)
}

#' "average number of tickets per agent": rows for each level that occurs
#' @noRd
average_numbers <- function(ctx, counts) {
  if (!isTRUE(ctx$reading$extra$average_count)) return(NULL)
  list(new_number("estimate", "rows for each level, on average", mean(counts[counts > 0])), new_number("groups", "levels that occur",
      sum(counts > 0)))
}

#' How evenly the rows are spread over the levels: entropy in nats, and as a share of its maximum
#' @section Source: Shannon, C. E. (1948). Bell System Technical Journal 27, 379-423.
#' @noRd
entropy_numbers <- function(ctx, counts) {
  if (!identical(ctx$reading$statistic, "entropy")) return(NULL)
  p <- counts[counts > 0] / sum(counts)
  h <- -sum(p * log(p))
  list(new_number("estimate", "entropy (nats)", h), new_number("evenness", "share of the largest entropy of so many levels",
                                                               if (length(p) > 1) h / log(length(p)) else NA_real_))
}

#' What the rows that meet a bound on a measured column and all others are called; NULL for other events
#' @noRd
two_sides <- function(ctx, x, event) {
  measured <- !is.null(event) && is_numeric_kind(ctx$columns[[event$column]]$kind) && event$op %in% c("<", "<=", ">", ">=", "between") &&
    length(unique(x)) > 12
  if (measured) c(plain_filter(event), "all other rows")
}

event_numbers <- function(ctx, x, event) {
  hit <- row_matches(x, event)
  n <- length(x)
  w <- stat_share_interval(sum(hit), n, ctx$conf_level, ctx$reading$extra$exact_interval)
  compact(list(new_number("estimate", "share", sum(hit) / n), new_number("ci_low", "lower limit", w$low),
       new_number("ci_high", "upper limit", w$high), new_number("conf_level", "confidence level", ctx$conf_level),
       if (isTRUE(ctx$reading$extra$odds)) new_number("odds", "rows that meet the condition for each that does not", sum(hit) / sum(!hit)),
       new_number("count", "rows that meet the condition", sum(hit)), new_number("n", "rows", n)))
}

#' "223 rows meet the conditions (71.9 % of 310)", or so many of the units where each counts once
#' @noRd
say_rows_met <- function(ctx, n) {
  unit <- ctx$reading$extra$per_unit$unit
  noun <- if (is.null(unit)) "row" else key_noun(tolower(unit))
  unknown <- ctx$frame$unknown
  known <- ctx$frame$total - unknown
  open <- if (unknown > 0) sprintf("; of %s more it is not known", say_number(unknown)) else ""
  share <- if (isTRUE(known > n) || unknown > 0) sprintf(" (%s of %s%s)", say_percent(n / known), say_number(known), open) else ""
  sprintf("%s %s the conditions%s.", capital(count_of(n, noun)), plural(n, "meets", "meet"), share)
}

say_frequency <- function(ctx, res) {
  n <- res$number
  event <- ctx$reading$extra$event
  if (!length(res$name)) {
    text <- if (n$n == 0) "No row meets the conditions." else say_rows_met(ctx, n$n)
    if (!length(ctx$reading$filters)) text <- sprintf("There are %s.", count_of(n$n, "row"))
    return(list(headline = text, details = sprintf("The data holds %s in all.", count_of(ctx$frame$total, "row")),
                write_up = text))
  }
  if (!is.null(event)) {
    text <- sprintf("%s of the rows (%s of %s): %s. %s.", say_percent(n$estimate), say_number(n$count), say_number(n$n),
                    plain_filter(event), say_interval(n$ci_low, n$ci_high, ctx$conf_level, function(v) say_percent(v)))
    if (isTRUE(ctx$reading$extra$odds)) text <- sprintf("The odds are %s to 1. %s", say_number(n$odds), text)
    return(list(headline = text, details = c(say_share_interval(ctx), say_rows(ctx)), write_up = text))
  }
  fewest <- !is.null(ctx$reading$top$n) && identical(ctx$reading$top$order, "lowest")
  order <- order(if (fewest) res$counts else -res$counts)
  top <- utils::head(order, ctx$reading$top$n %||% 3)
  parts <- sprintf("%s %s (%s)", res$levels[top], say_number(res$counts[top]),
                   say_percent(res$counts[top] / sum(res$counts)))
  text <- sprintf("%s: %s%s.", capital(say_column(ctx$columns[[res$name]])), paste(parts, collapse = ", "),
                  if (length(order) > length(top)) sprintf(" and %d more", length(order) - length(top)) else "")
  # (of a yes/no column the side that was counted for stands first, however few it is)
  if (!fewest && ctx$columns[[res$name]]$kind == "yes_no" && length(res$counts) == 2) text <- say_both_sides(ctx$columns[[res$name]], res)
  if (identical(ctx$reading$statistic, "entropy")) text <- sprintf("The entropy of %s is %s nats%s. %s", say_column(ctx$columns[[res$name]]),
    say_number(n$estimate), if (is.na(n$evenness)) "" else sprintf(", %s of what equally common levels would give", say_percent(n$evenness, 0)), text)
  if (isTRUE(ctx$reading$extra$average_count)) text <- sprintf("On average there are %s rows for each %s (%s over %s). %s", say_number(n$estimate),
    say_column(ctx$columns[[res$name]]), count_of(n$n, "row"), count_of(n$groups, "level"), text)
  list(headline = text, details = say_rows(ctx), write_up = text)
}

#' "Swarmed is yes in 129 of 180 rows (71.7 %) and no in 51 (28.3 %)."
#' @noRd
say_both_sides <- function(col, res) {
  at <- match(last_of(col$levels), res$levels)
  if (is.na(at)) at <- 2
  share <- say_percent(res$counts / sum(res$counts))
  sprintf("%s is %s in %s of %s (%s) and %s in %s (%s).", capital(say_column(col)), res$levels[at], say_number(res$counts[at]),
          count_of(sum(res$counts), "row"), share[at], res$levels[-at], say_number(res$counts[-at]), share[-at])
}

#' Whose interval of a share it is
#' @noRd
say_share_interval <- function(ctx) {
  if (isTRUE(ctx$reading$extra$exact_interval)) "The interval is exact, by the binomial distribution (Clopper and Pearson)." else
    "The interval is Wilson's."
}

#' Lines that define limits(x, n): intervals of shares, by Wilson's method or exact
#' @noRd
script_share_interval <- function(ctx) {
  if (isTRUE(ctx$reading$extra$exact_interval)) return(c(
    "limits <- function(x, n) { both <- mapply(function(x, n) binom.test(x, n, conf.level = conf_level)$conf.int, x, n)",
    "  list(low = both[1, ], high = both[2, ]) }"))
  c("z <- qnorm(1 - (1 - conf_level) / 2)",
    paste0("limits <- function(x, n) { p <- x / n; mid <- (p + z^2 / (2 * n)) / (1 + z^2 / n); half <- z / ",
           "(1 + z^2 / n) * sqrt(p * (1 - p) / n + z^2 / (4 * n^2))"),
    "  list(low = ifelse(x == 0, 0, mid - half), high = ifelse(x == n, 1, mid + half)) }")
}

script_frequency <- function(ctx, res) {
  if (!length(res$name)) return("tables <- list(); numbers <- list(n = nrow(kept), estimate = nrow(kept))")
  event <- ctx$reading$extra$event
  keep <- if (!is.null(event)) c("keep <- rep(TRUE, nrow(rows))", script_filter(event, ctx$columns[[event$column]], "rows"))
  counts <- c(if (!is.null(res$sides)) c(keep, "counts <- table(factor(keep, c(TRUE, FALSE)))")
              else sprintf("counts <- table(droplevels(factor(%s)))", script_column(res$name)),
              "n <- as.vector(counts); w <- limits(n, sum(n))",
              if (length(res$tables)) paste0("tables$counts <- data.frame(n = n, percent = 100 * n / sum(n), ci_low = ",
                                             "100 * w$low, ci_high = 100 * w$high)"))
  numbers <- if (identical(ctx$reading$statistic, "entropy")) c("p <- n[n > 0] / sum(n); h <- -sum(p * log(p))",
      "numbers <- list(estimate = h, evenness = if (length(p) > 1) h / log(length(p)) else NA, n = sum(n))")
    else if (is.null(event)) c("numbers <- list(n = sum(n))", if (isTRUE(ctx$reading$extra$average_count))
      "numbers$estimate <- mean(n[n > 0]); numbers$groups <- sum(n > 0)")
    else c(keep, "total <- nrow(rows); hits <- sum(keep); w <- limits(hits, total)",
           paste0("numbers <- list(estimate = hits / total, ci_low = w$low, ci_high = w$high, conf_level = ",
                  "conf_level, count = hits, n = total", if (isTRUE(ctx$reading$extra$odds)) ", odds = hits / (total - hits)", ")"))
  c("tables <- list()", script_share_interval(ctx), counts, numbers)
}
