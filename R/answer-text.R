# The text view: what a person reads in ten seconds.

#' @export
format.upbeatquill_answer <- function(x, width = 80, colour = FALSE, ...) {
  paint <- painter(colour)
  c(text_reading(x, width, paint), "", text_headline(x, width, paint), text_choices(x, width),
    text_numbers(x, width, paint), text_tables(x, width, paint), text_checks(x, width, paint),
    text_opinions(x, width, paint), text_cautions(x, width, paint), text_next(x, width, paint))
}

#' @export
print.upbeatquill_answer <- function(x, ...) {
  writeLines(format(x, width = min(100, max(60, cli::console_width())), colour = cli::num_ansi_colors() > 1))
  invisible(x)
}

#' Functions that colour text, or leave it alone
#' @noRd
painter <- function(colour) {
  plain <- function(x) x
  if (!colour) return(list(bold = plain, soft = plain, good = plain, warn = plain, bad = plain))
  list(bold = function(x) as.character(cli::style_bold(x)), soft = function(x) as.character(cli::col_grey(x)),
       good = function(x) as.character(cli::col_green(x)),
       warn = function(x) as.character(cli::col_yellow(x)), bad = function(x) as.character(cli::col_red(x)))
}

label_width <- function() 10

#' A label in the margin, text beside it
#' @noRd
label_beside <- function(label, text, width, paint) {
  lines <- unlist(lapply(text, function(t) strwrap(t, width - label_width() - 2)))
  if (!length(lines)) return(character())
  margin <- formatC(c(label, rep("", length(lines) - 1)), width = -label_width())
  paste(paint$soft(margin), lines)
}

text_reading <- function(x, width, paint) {
  c(label_beside("Question", x$question, width, paint), if (nzchar(x$reading$plain) &&
                                                      x$status == "answered") label_beside("Read as", x$reading$plain, width,
                                                          paint),
    if (length(x$reading$assumed) && x$status == "answered") label_beside("Assumed", x$reading$assumed, width, paint),
    text_rows(x, width, paint))
}

text_rows <- function(x, width, paint) {
  f <- x$frame
  if (is.null(f) || x$reading$task == "overview") return(NULL)
  text <- sprintf("%s of %s used", say_number(f$used), say_number(f$total))
  parts <- c(if (f$after_filters < f$total) sprintf("%s meet the conditions", say_number(f$after_filters)),
             if (f$left_out_missing > 0) sprintf("%s left out, a value is missing", say_number(f$left_out_missing)))
  label_beside("Rows", if (length(parts)) sprintf("%s (%s)", text, paste(parts, collapse = "; ")) else text, width, paint)
}

text_headline <- function(x, width, paint) {
  c(paint$bold(strwrap(x$sentences$headline, width - 2, prefix = "  ")),
    if (x$status == "answered" && length(x$sentences$details)) strwrap_each(x$sentences$details, width))
}

strwrap_each <- function(text, width) unlist(lapply(text, function(t) strwrap(t, width - 2, prefix = "  ")))

text_choices <- function(x, width) {
  alternatives <- x$reading$alternatives
  if (x$status != "needs_choice" || !length(alternatives)) return(NULL)
  c("", unlist(lapply(seq_along(alternatives), function(i) strwrap(sprintf("%d  %s", i, alternatives[[i]]$plain),
      width - 2, indent = 2, exdent = 5))))
}

text_numbers <- function(x, width, paint) {
  n <- x$result$numbers
  if (!length(n) || x$status != "answered" || x$reading$task == "explain") return(NULL)
  main <- main_numbers(x)
  if (!length(main)) return(NULL)
  c("", paint$soft(sprintf("%s: %s", x$method$name, first_sentence(x$why))) |> (\(t) strwrap(t, width))(),
    paste0("  ", main))
}

first_sentence <- function(text) sub("(?<=[.]) [A-Z].*$", "", text, perl = TRUE)

#' The numbers that matter, one line each
#' @noRd
main_numbers <- function(x) {
  n <- x$result$number
  label <- stats::setNames(vapply(x$result$numbers, `[[`, "", "label"), names(n))
  level <- n$conf_level %||% x$context$conf_level
  line <- function(id, fmt = say_number) {
    v <- n[[id]]
    if (is.null(v) || is.na(v)) return(NULL)
    low <- n[[if (id == "estimate") "ci_low" else paste0(id, "_low")]]
    high <- n[[if (id == "estimate") "ci_high" else paste0(id, "_high")]]
    plain <- identical(fmt, say_number)
    near <- plain && !is.na(places_of_near(c(low, high)))
    interval <- if (!is.null(low) && !is.na(low) && !is.na(high)) sprintf("  (%s)",
        say_interval(low, high, level, if (near) say_alike else fmt)) else ""
    # (where the next one would lie is no interval of the mean)
    predicted <- id == "estimate" && isTRUE(startsWith(label["ci_low"], "prediction interval"))
    if (predicted) interval <- sub("CI", "prediction interval", interval, fixed = TRUE)
    c(label[[id]], paste0(if (plain) say_estimate(v, low, high) else fmt(v), interval))
  }
  share <- !is.null(x$reading$extra$event) && x$reading$task != "survival"
  # (what is a little less than 1 is not called 1)
  two <- function(v) ifelse(is.finite(v) & abs(v) < 1, sub("^(-?)[.]", "\\10.", say_unit(v)), say_number(v, 2))
  # (an effect that is the main estimate stands there already)
  effect <- function(id, fmt = two) if (!identical(n[[id]], n$estimate)) line(id, fmt)
  rows <- compact(list(line("estimate", if (share) function(v) say_percent(v) else say_number),
                       if (!is.null(n$statistic) && nzchar(label[["statistic"]])) test_line(n, label),
                       if (is.null(n$statistic) && !is.null(n$p_value)) c("p", say_p(n$p_value)),
    effect("hedges_g"), effect("robust_d"), effect("rank_biserial"), effect("omega_squared"), effect("partial_eta_squared"),
    effect("epsilon_squared"), effect("kendall_w"), effect("cramers_v"), effect("cohens_w"), effect("tau"),
    effect("risk_difference", say_points), effect("risk_ratio"), effect("odds_ratio"), effect("hazard_ratio"), effect("r_squared")))
  if (!length(rows)) return(character())
  names <- vapply(rows, `[[`, "", 1)
  paste0(formatC(names, width = -min(52, max(nchar(names)))), "  ", vapply(rows, `[[`, "", 2))
}

test_line <- function(n, label) {
  df <- unlist(n[intersect(c("df", "df1", "df2"), names(n))])
  df <- if (length(df)) sprintf("(%s)", paste(say_df(df), collapse = ", ")) else ""
  c("test", sprintf("%s%s = %s, %s", label[["statistic"]], df, say_number(n$statistic), say_p(n$p_value)))
}

text_tables <- function(x, width, paint) {
  if (x$status != "answered" || !length(x$result$tables) || x$reading$task == "explain") return(NULL)
  unlist(lapply(x$result$tables[seq_len(min(2, length(x$result$tables)))],
                function(t) c("", text_table(t, width, paint))))
}

#' A table in aligned columns, as many as the width holds
#' @noRd
text_table <- function(t, width, paint, most = 20) {
  d <- utils::head(t$data, most)
  cells <- lapply(names(d), function(name) table_cells(d, name))
  for (i in seq_along(cells)) {
    left <- !is.numeric(d[[i]])
    w <- max(nchar(c(names(d)[i], cells[[i]]), type = "width"))
    # one long text column may take what is left of the line, others are cut
    w <- min(w, if (names(d)[i] %in% c("message", "reason", "label", "rule")) max(30, width - 40) else 30)
    cells[[i]] <- formatC(substr(c(names(d)[i], cells[[i]]), 1, w), width = if (left) -w else w)
  }
  widths <- cumsum(vapply(cells, function(c) nchar(c[1], type = "width") + 2, 1))
  fit <- max(1, sum(widths <= width - 2))
  lines <- do.call(paste, c(cells[seq_len(fit)], sep = "  "))
  more <- nrow(t$data) - nrow(d)
  c(paint$soft(paste0("  ", lines[1])), paste0("  ", lines[-1]),
    if (more > 0) sprintf("  ... %s", count_of(more, "more row", "more rows")))
}

#' What the places of a row go by: standard errors of a table of coefficients, whose rows are in units of their own, or the
#' standard deviations of a table of groups where these are small beside its values; NULL for other tables
#' @noRd
row_errors <- function(d) {
  if (all(c("term", "estimate", "se") %in% names(d)) && is.numeric(d$se)) return(d$se)
  spread <- d$sd
  if (!is.numeric(spread) || !is.numeric(d$mean) || any(d$mean %% 1 == 0 & spread %% 1 == 0, na.rm = TRUE)) return(NULL)
  if (any(spread > 0 & spread < 2e-3 * abs(d$mean), na.rm = TRUE)) rep(stats::median(spread[spread > 0], na.rm = TRUE) / 10, length(spread))
}

#' The cells of one column as text
#' @param d A table, or a list of columns. @param name The column.
#' @noRd
table_cells <- function(d, name) {
  v <- d[[name]]
  if (!is.numeric(v)) return(ifelse(is.na(v), "", as.character(v)))
  if (name %in% c("p_value", "p_adjusted")) return(sub("^p = |^p ", "", vapply(v, say_p, "")))
  if (name %in% c("n", "missing", "distinct")) return(say_number(v))
  if (grepl("^percent", name)) return(ifelse(is.na(v), "", formatC(v, format = "f", digits = 1)))
  error <- row_errors(d)
  own <- if ("sd" %in% names(d)) c("mean", "median", "q1", "q3", "min", "max") else c("estimate", "se", "ci_low", "ci_high")
  if (!is.null(error) && name %in% own) return(say_by_error(v, error))
  if (!is.null(error) && grepl("^(odds|rate|hazard|risk)_ratio|^profile_", name)) return(say_by_error(v, error, 2))
  say_column_alike(v)
}

#' Numbers of one column on one number of places; columns of very different sizes each for themselves
#' @noRd
say_column_alike <- function(v) {
  size <- abs(v[is.finite(v) & v != 0])
  if (length(size) && max(size) / min(size) > 1e4) say_number(v) else say_alike(v)
}

check_marks <- function() c(ok = "ok     ", caution = "caution", broken = "broken ", not_assessed = "open   ")

text_checks <- function(x, width, paint) {
  if (!length(x$checks) || x$reading$task == "explain") return(NULL)
  lines <- unlist(lapply(x$checks, function(c) {
    colour <- switch(c$verdict, ok = paint$good, caution = paint$warn, broken = paint$bad, paint$soft)
    text <- strwrap(c$meaning, width - 12)
    paste0("  ", colour(c(check_marks()[[c$verdict]], rep("       ", length(text) - 1))), "  ", text)
  }))
  c("", paint$soft("Checks"), lines)
}

text_opinions <- function(x, width, paint) {
  if (!length(x$second) || x$reading$task == "explain") return(NULL)
  lines <- unlist(lapply(x$second, function(s) {
    verdict <- if (is.na(s$agrees)) "       " else if (s$agrees) paint$good("agrees ") else paint$warn("differs")
    text <- strwrap(say_opinion(s), width - 12)
    paste0("  ", c(verdict, rep("       ", length(text) - 1)), "  ", text)
  }))
  c("", paint$soft("Second opinions"), lines)
}

text_cautions <- function(x, width, paint) {
  if (!length(x$cautions) || x$reading$task == "explain") return(NULL)
  c("", paint$soft("Cautions"), unlist(lapply(x$cautions, function(t) strwrap(t, width - 2, indent = 2, exdent = 2))))
}

text_next <- function(x, width, paint) {
  if (!length(x$next_steps)) return(NULL)
  # a choice between readings is numbered itself; what is offered beside it must not be numbered too
  numbered <- if (length(x$reading$alternatives)) x$next_steps else paste(seq_along(x$next_steps), x$next_steps)
  c("", paint$soft(if (x$status == "answered") "Ask next" else "Could be asked instead"), paste0("  ", numbered))
}
