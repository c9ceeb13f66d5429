# Every unit against its own usual range: the last days beside those before them.

#' @noRd
method_own_baseline <- function() {
  new_method(
    id = "own_baseline", name = "Recent values against each unit's own usual range", tasks = "trend",
    fits = function(shape) if (isTRUE(shape$against_usual) && shape$n_outcome == 1 && shape$n_by <= 1)
      new_fit(99, "The question holds recent values against what is usual for the same unit."),
    compute = compute_own_baseline, figure = figure_own_baseline, sentences = say_own_baseline, script = script_own_baseline,
    references = "Shewhart, W. A. (1931). Economic Control of Quality of Manufactured Product. Van Nostrand.",
    next_steps = function(ctx, res) c(sprintf("Mean %s by week%s", outcome_name(ctx), if (length(ctx$reading$by)) paste(" for each",
        ctx$reading$by) else ""),
                                      if (length(ctx$reading$by)) sprintf("Mean %s by %s", outcome_name(ctx), ctx$reading$by)))
}

compute_own_baseline <- function(ctx) {
  t <- time_values(ctx)
  if (!inherits(t, "Date")) stop_data("Windows of days need dates.", class = "unfit_data")
  w <- ctx$reading$extra$windows
  day <- as.numeric(t); last <- max(day)
  g <- if (length(ctx$reading$by)) group_of(ctx) else factor(rep("all", length(day)))
  if (nlevels(g) > 2000) stop_data(sprintf("%s has %s different values, too many to hold each against its own past.", quoted(ctx$reading$by),
                                           say_number(nlevels(g))), class = "group_count")
  s <- stat_own_baseline(outcome_values(ctx), day, as.integer(g), nlevels(g), last, w$short, w$long, isTRUE(w$within))
  if (all(is.na(s$difference))) stop_data(sprintf("No unit has a value in the last %s days and three in the %s before.", w$short, w$long),
    sprintf("The data runs from %s to %s.", format(min(t)), format(max(t))), "Name other lengths, such as \"last 30 days against the 180 before\".",
    class = "too_few_rows")
  place <- ifelse(is.na(s$sd_long) | is.na(s$short), "not known", ifelse(s$short > s$usual_high, "above", ifelse(s$short < s$usual_low, "below",
      "within")))
  table <- cbind(unit = levels(g), s, place = place, stringsAsFactors = FALSE)
  table <- table[order(-table$distance, table$unit, na.last = TRUE), , drop = FALSE]
  rownames(table) <- NULL
  if (length(ctx$reading$by)) names(table)[1] <- ctx$reading$by else table$unit <- NULL
  result(list(new_number("n", "rows used", length(day)), new_number("units", "units", nlevels(g)),
              new_number("above", "units above their usual range", sum(place == "above")),
              new_number("below", "units below their usual range", sum(place == "below")),
              new_number("short_days", "days of the short window", w$short), new_number("long_days", "days held against", w$long)),
         list(new_table("baseline", sprintf("%s: last %s days against %s", outcome_name(ctx), w$short, held_against(w)), table)), last = max(t),
             groups = table[[1]], place = table$place)
}

say_own_baseline <- function(ctx, res) {
  t <- res$tables[[1]]$data; n <- res$number; col <- outcome_column(ctx); w <- ctx$reading$extra$windows
  one <- !length(ctx$reading$by)
  part <- function(side) {
    own <- t[t$place == side, , drop = FALSE]
    if (!nrow(own)) return(NULL)
    if (side == "below") own <- own[rev(seq_len(nrow(own))), , drop = FALSE]
    sprintf("%s: %s", side, some_of(sprintf("%s (%s, usually %s)", own[[1]], with_unit(say_number(own$short), col$unit), say_number(own$long)), 5))
  }
  what <- sprintf("Mean %s of the last %s days, to %s", say_column(col), w$short, format(res$last))
  text <- if (one) sprintf("%s, is %s against %s %s: %s the usual range.", what, with_unit(say_number(t$short), col$unit),
                           with_unit(say_number(t$long), col$unit), if (isTRUE(w$within)) sprintf("over the last %s", w$long) else
                             sprintf("in the %s before", w$long), t$place)
    else sprintf("%s, against each one's own %s: %s above and %s below the usual range, of %s.", what, if (isTRUE(w$within))
      sprintf("last %s days", w$long) else sprintf("%s days before", w$long), say_number(n$above), say_number(n$below), say_number(n$units))
  unknown <- sum(t$place == "not known")
  list(headline = text, details = c(if (!one) unlist(lapply(c("above", "below"), part)),
    "The usual range is the mean of the earlier days plus and minus two of their standard deviations: about one in twenty lies outside by chance.",
    if (unknown) sprintf("%s %s too few values to say.", count_of(unknown, "unit"), plural(unknown, "has", "have")), say_rows(ctx)),
    write_up = text)
}

figure_own_baseline <- function(ctx, res) {
  t <- res$tables[[1]]$data
  if (!length(ctx$reading$by)) return(NULL)
  d <- data.frame(unit = factor(t[[1]], rev(t[[1]])), short = t$short, long = t$long, low = t$usual_low, high = t$usual_high, place = t$place)
  d <- d[d$place != "not known", ]
  # the ends tell most: of many units the middle is left out
  if (nrow(d) > 40) d <- d[c(seq_len(20), nrow(d) - 19:0), ]
  d$unit <- droplevels(d$unit)
  title <- sprintf("%s against each %s's own usual range", capital(say_column(outcome_column(ctx))), say_column(ctx$columns[[ctx$reading$by]]))
  new_figure("baseline", title, "dot", subtitle = "Bars: mean of the earlier days with two standard deviations; points: mean of the last days.",
    alt = sprintf("%s: a bar and a point for each.", title), draw = function() draw_own_baseline(d, axis_label(outcome_column(ctx))),
    script = c("plot_data <- tables$baseline; plot_data$unit <- factor(unit_names, rev(unit_names))",
               "plot <- ggplot(plot_data, aes(short, unit)) + geom_linerange(aes(xmin = usual_low, xmax = usual_high), linewidth = 3, alpha = 0.3) +",
               sprintf("  geom_point() + labs(title = %s) + theme_minimal()", as_r_string(title))))
}

draw_own_baseline <- function(d, label) {
  colour <- c(above = quill_colours(2)[2], within = quill_colours(1), below = "#8C5AA8")
  ggplot2::ggplot(d, ggplot2::aes(y = .data$unit)) +
    ggplot2::geom_linerange(ggplot2::aes(xmin = .data$low, xmax = .data$high), colour = "#C9D3DB", linewidth = if (nrow(d) > 25) 2.4 else 4) +
    ggplot2::geom_point(ggplot2::aes(x = .data$long), shape = 124, size = 4, colour = quill_soft()) +
    ggplot2::geom_point(ggplot2::aes(x = .data$short, colour = .data$place, shape = .data$place), size = 2.8) +
    ggplot2::scale_colour_manual(values = colour, name = NULL) +
    ggplot2::scale_shape_manual(values = c(above = 17, within = 16, below = 15), name = NULL) +
    ggplot2::scale_y_discrete(labels = function(v) wrap_level(v, 26)) + ggplot2::labs(x = label, y = NULL)
}

script_own_baseline <- function(ctx, res) {
  w <- ctx$reading$extra$windows
  by <- ctx$reading$by
  c(sprintf("y <- %s; day <- as.numeric(as.Date(%s, tz = \"UTC\")); last <- max(day)", script_value(outcome_name(ctx)),
            script_column(ctx$reading$time$column)),
    sprintf("g <- %s", if (length(by)) script_group(by) else "factor(rep(\"all\", length(y)))"),
    sprintf("recent <- day > last - %s & day <= last", w$short),
    if (isTRUE(w$within)) sprintf("before <- day > last - %s & day <= last", w$long)
    else sprintf("before <- day > last - %s & day <= last - %s", w$short + w$long, w$short),
    "one <- function(l) { a <- y[recent & g == l]; b <- y[before & g == l]",
    "  m <- if (length(b) < 3) NA else mean(b); s <- if (length(b) < 3) NA else sd(b)",
    "  short <- if (length(a)) mean(a) else NA; data.frame(n_short = length(a), short = short, n_long = length(b), long = m, sd_long = s,",
    "    difference = short - m, ratio = if (!is.na(m) && m > 0) short / m else NA, distance = if (!is.na(s) && s > 0) (short - m) / s else NA,",
    "    usual_low = m - 2 * s, usual_high = m + 2 * s) }",
    "t <- do.call(rbind, lapply(levels(g), one)); place <- order(-t$distance, levels(g), method = \"radix\")",
    "unit_names <- levels(g)[place]; t <- t[place, ]",
    "tables <- list(baseline = t); known <- !is.na(t$sd_long) & !is.na(t$short)",
    "numbers <- list(n = length(y), units = nlevels(g), above = sum(known & t$short > t$usual_high), below = sum(known & t$short < t$usual_low),",
    sprintf("  short_days = %s, long_days = %s)", w$short, w$long))
}
