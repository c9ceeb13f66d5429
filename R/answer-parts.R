#' Parts of an answer
#'
#' `reading()` says how the question was understood, `numbers()` gives every number, `checks()` the assumption
#' checks, `write_up()` the words for a
#' paper, `explain()` the reason for the method and what the numbers mean.
#'
#' @param a An answer.
#' @param style `"full"`, `"short"` or `"methods"` (a paragraph for the methods section: rows, method and reason, checks, sensitivity
#'   analyses, software).
#' @param of What to explain: the id of a number or check (see [numbers()], [checks()]), or words ("the odds ratio"); `NULL` explains the
#'   answer as a whole. `explain()` of a text reads it as a pasted table of coefficients.
#' @return `reading()`: a list of class `upbeatquill_reading`. `numbers()`: data frame with id, label, value, of.
#'   `checks()`: data frame with id,
#'   verdict, method, meaning. `write_up()` and `explain()`: character.
#' @name parts
#' @examples
#' study <- open_study(system.file("extdata", "hive_trial.csv", package = "upbeatquill"))
#' a <- ask(study, "Does the honey yield differ between syrup and control?")
#' reading(a)
#' numbers(a)
#' checks(a)
#' write_up(a)
NULL

#' @rdname parts
#' @export
reading <- function(a) {
  need_answer(a)
  a$reading
}

#' @export
format.upbeatquill_reading <- function(x, width = 80, ...) {
  line <- function(name, value) if (length(value)) sprintf("  %-12s %s", name, paste(value, collapse = ", "))
  c(x$plain, line("task", x$task), line("outcome", x$outcome), line("by", x$by), line("predictors", x$predictors),
    line("adjust_for", x$adjust_for), line("unit", x$unit),
    line("filters", vapply(x$filters, plain_filter, "")), line("statistic", x$statistic),
    line("method", x$method_asked), line("confidence", format(x$confidence)),
    if (length(x$assumed)) c("Assumed:", paste0("  ", x$assumed)),
    if (length(x$alternatives)) c("Could also mean:", sprintf("  %d  %s", seq_along(x$alternatives),
                                                              vapply(x$alternatives, `[[`, "", "plain"))))
}

#' @export
print.upbeatquill_reading <- function(x, ...) {
  writeLines(format(x))
  invisible(x)
}

#' @export
as.list.upbeatquill_reading <- function(x, ...) reading_document(x)

#' @rdname parts
#' @export
numbers <- function(a) {
  need_answer(a)
  n <- a$result$numbers
  data.frame(id = vapply(n, `[[`, "", "id"), label = vapply(n, `[[`, "", "label"), value = vapply(n, `[[`, 1, "value"),
             of = vapply(n, function(i) i$of %||% "", ""), stringsAsFactors = FALSE)
}

#' @rdname parts
#' @export
checks <- function(a) {
  need_answer(a)
  c <- a$checks
  data.frame(id = vapply(c, `[[`, "", "id"), verdict = vapply(c, `[[`, "", "verdict"),
             method = vapply(c, `[[`, "", "method"), meaning = vapply(c, `[[`, "", "meaning"), stringsAsFactors = FALSE)
}

#' @rdname parts
#' @export
write_up <- function(a, style = c("full", "short", "methods")) {
  need_answer(a)
  style <- match.arg(style)
  if (a$status != "answered") return(a$sentences$headline)
  if (style == "short") return(a$sentences$write_up)
  if (style == "methods") return(methods_paragraph(a))
  cautions <- vapply(Filter(function(c) c$verdict %in% c("caution", "broken"), a$checks), `[[`, "", "meaning")
  opinions <- vapply(a$second, say_opinion, "")
  paste(c(a$sentences$write_up, cautions, if (length(opinions)) sprintf("Sensitivity: %s.",
      paste(opinions, collapse = "; "))), collapse = " ")
}

#' What was done, for a methods section: the rows, the method and its reason, the checks, the sensitivity analyses, the software
#' @noRd
methods_paragraph <- function(a) {
  f <- a$frame
  conditions <- vapply(a$reading$filters, plain_filter, "")
  rows <- if (is.null(f)) NULL else sprintf("Of %s rows in %s, %s were analysed%s%s.", say_number(f$total), a$context$source_file, say_number(f$used),
    if (length(conditions)) sprintf(" (those where %s)", paste(conditions, collapse = " and ")) else "",
    if (isTRUE(f$left_out_missing > 0)) sprintf("; %s without a value in a column used %s left out", say_number(f$left_out_missing),
      plural(f$left_out_missing, "was", "were")) else "")
  checks <- unique(vapply(a$checks, function(c) tolower(gsub("_", " ", c$id)), ""))
  others <- vapply(a$second, `[[`, "", "name")
  cited <- vapply(a$method$references, short_citation, "")
  tested <- !is.null(a$result$number$p_value)
  seeded <- any(grepl("set.seed", script_lines(a), fixed = TRUE))
  paste(c(rows, sprintf("%s was used%s.", a$method$name, if (length(cited)) sprintf(" (%s)", paste(cited, collapse = "; ")) else ""),
          if (!grepl("^You asked for it", a$why)) a$why, if (length(checks)) sprintf("The following were checked: %s.", some_of(checks, 10)),
          if (length(others)) sprintf("Sensitivity analyses: %s.", some_of(others, 6)),
          sprintf("Intervals have a confidence level of %s%s.", say_level(a$context$conf_level),
            if (tested) sprintf("; tests were %s at the level %s", if (identical(a$context$alternative, "two_sided")) "two-sided" else "one-sided",
              format(1 - a$context$conf_level, digits = 3)) else ""),
          sprintf("Computed with upbeatquill %s in R %s%s; the script repeats every step from the data.", utils::packageVersion("upbeatquill"),
            getRversion(), if (seeded) sprintf(" (random seed %s)", format(a$seed, scientific = FALSE)) else "")), collapse = " ")
}

#' "Welch, B. L. (1947). ..." as "Welch, 1947"
#' @noRd
short_citation <- function(reference) {
  year <- regmatches(reference, regexpr("\\(([0-9]{4})", reference))
  authors <- sub("\\s*\\([0-9]{4}.*$", "", reference)
  names <- regmatches(authors, gregexpr("[\\p{L}'-]+(?: [\\p{L}'-]+)*(?=, [\\p{Lu}]\\.)", authors, perl = TRUE))[[1]]
  who <- if (length(names) > 2) paste(names[1], "et al.") else paste(names, collapse = " & ")
  sprintf("%s, %s", who, sub("^\\(", "", year))
}

say_opinion <- function(s) {
  n <- s$result$number
  value <- if (!is.null(n$estimate) && is.finite(n$estimate)) sprintf("estimate %s, ", say_number(n$estimate)) else ""
  # several coefficients: the whole model's test is what the method says
  p <- if (!is.null(n$p_value)) say_p(n$p_value) else if (!is.null(n$model_p_value)) paste(say_p(n$model_p_value), "(whole model)") else ""
  sprintf("%s %s%s", s$name, value, p)
}

#' @rdname parts
#' @export
explain <- function(a, of = NULL) {
  if (is.character(a)) return(structure(explain_coefficients(a), class = "upbeatquill_text"))
  need_answer(a)
  if (is.null(of)) return(structure(explain_lines(a), class = "upbeatquill_text"))
  ids <- names(a$result$number)
  checks <- Filter(function(c) c$id %in% of, a$checks)
  known <- if (length(of) == 1 && !of %in% c(ids, vapply(a$checks, `[[`, "", "id"))) asked_numbers(of) else of
  lines <- c(unlist(lapply(known, function(id) explain_number(a, id) %||% explain_ratios(a, id))), vapply(checks, explain_check, ""))
  if (!length(lines)) stop_input(sprintf("This answer holds no %s.", some_of(quoted(of))), todo = sprintf("It holds %s.", some_of(c(ids,
    vapply(a$checks, `[[`, "", "id")), 40)), class = "bad_argument")
  structure(lines, class = "upbeatquill_text")
}

#' @export
print.upbeatquill_text <- function(x, ...) {
  writeLines(unlist(lapply(unclass(x), strwrap, width = 80)))
  invisible(x)
}

#' The figure of an answer
#'
#' @param a An answer.
#' @param file Path of a PNG, SVG or PDF to save to, or `NULL`.
#' @param width,height Size in inches; where the answer asks for a size of its own ("8 by 5 inches", "make it wider"), that is the default.
#' @param dpi Dots an inch of a PNG.
#' @param ... Changes of the figure, each by name: `kind` (histogram, density, box, violin, scatter, bar, line, qq, pie, dot, mosaic,
#'   heatmap), `title`, `subtitle`, `x_label`, `y_label`, `colour` and `panel` (names of columns), `order` ("mean", "median", "count",
#'   "name"), `line_at` (a number), `mean_line` ("mean" or "median"), `mark` (conditions, such as `list(swarmed = "yes")`), `log` ("x", "y"),
#'   `limits` (two numbers), `legend` ("top", "bottom", "left", "right", "none"), `grey` (`TRUE`), `bins` (bars of a histogram),
#'   `palette` (names or codes of colours), `size` (width and height in inches), `turn` ("sideways", "upright", "other"), `points` (`TRUE` or
#'   `FALSE`: the single rows on boxes and violins), `text_size` (in points), `smooth` ("line" or "curve" through the points of a scatter plot),
#'   `names` (the column whose values stand at the points).
#'   The same can be said in words: `ask(a, "as a box plot, coloured by region")`; then the script changes with it.
#' @return A ggplot object; invisibly when saved. `NULL` where the answer has no figure.
#' @section Errors: `upbeatquill_error_package_missing` without ggplot2; `upbeatquill_error_bad_argument` for an
#'   unknown file type.
#' @export
figure <- function(a, file = NULL, width = 8, height = 5, dpi = 150, ...) {
  need_answer(a)
  if (...length()) a <- with_look(a, list(...))
  if (is.null(a$figure)) return(invisible(NULL))
  size <- a$figure$look$size
  if (!is.null(size) && missing(width)) width <- size[1]
  if (!is.null(size) && missing(height)) height <- size[2]
  need_package("ggplot2", to = "draw figures")
  plot <- finish_figure(a$figure$draw(), a$figure, a$context)
  if (is.null(file)) return(plot)
  save_figure(plot, file, width, height, dpi)
  invisible(plot)
}

#' The answer with its figure changed by argument
#' @noRd
with_look <- function(a, look) {
  unknown <- setdiff(names(look) %||% "", look_fields())
  if (length(unknown)) stop_input(sprintf("figure() knows no %s.", some_of(quoted(unknown))), todo = sprintf("It takes %s.", paste(look_fields(),
    collapse = ", ")), class = "bad_argument")
  if (a$status != "answered") return(a)
  look <- check_look(look, a$study)
  reading <- a$reading
  reading$extra$look <- utils::modifyList(reading$extra$look %||% list(), look[setdiff(names(look), "kind")])
  reading$extra$picture <- look$kind %||% reading$extra$picture
  context <- answer_context(a$study, reading, list(conf_level = a$context$conf_level, seed = a$seed))
  a$context <- context
  a$reading <- reading
  a$figure <- answer_figure(context, a$method$figure(context, a$result))
  a
}

#' Titles broken anew where a figure is smaller than the 8 by 5 inches they were broken for
#' @noRd
fit_titles <- function(plot, width, height) {
  again <- function(text, most) if (is.character(text) && length(text) == 1) wrap_text(gsub("\n", " ", text, fixed = TRUE), max(20, floor(most)))
  if (width < 8) for (part in c("title", "subtitle", "caption")) {
    plot$labels[[part]] <- again(plot$labels[[part]], c(title = 74, subtitle = 92, caption = 110)[[part]] * width / 8)
  }
  if (height < 5 && is.character(plot$labels$y)) plot$labels$y <- again(plot$labels$y, 4.5 * height)
  plot
}

save_figure <- function(plot, file, width, height, dpi) {
  sides <- c(width, height)
  if (!is.numeric(sides) || length(sides) != 2 || anyNA(sides) || any(sides < 1 | sides > 50)) stop_input(
    "A figure is 1 to 50 inches wide and high.", todo = "Give width and height in inches; dpi sets how many dots stand in one.")
  if (!is.numeric(dpi) || length(dpi) != 1 || is.na(dpi) || dpi < 30 || dpi > 1200) stop_input("A figure has 30 to 1,200 dots per inch (dpi).")
  type <- tolower(tools::file_ext(file))
  if (!type %in% c("png", "svg", "pdf")) stop_input(sprintf("A figure is saved as .png, .svg or .pdf, not %s.",
                                                            quoted(paste0(".", type))))
  device <- switch(type, png = if (requireNamespace("ragg", quietly = TRUE)) ragg::agg_png else "png",
                   svg = if (requireNamespace("svglite", quietly = TRUE)) svglite::svglite else "svg", pdf = "pdf")
  plot <- fit_titles(plot, width, height)
  write_whole(file, function(to) suppressMessages(ggplot2::ggsave(to, plot, device = device, width = width,
      height = height, dpi = dpi, bg = "white")))
}
