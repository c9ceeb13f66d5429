# HTML from answer documents: one answer as a section, many as a page.

#' Lines of a whole page
#' @noRd
html_report <- function(answers, title) {
  documents <- lapply(answers, as.list)
  tag <- htmltools::tags
  ids <- sprintf("question-%d", seq_along(answers))
  contents <- tag$nav(`aria-label` = "Contents", tag$h2("Questions"),
                      tag$ol(Map(function(d, id) tag$li(tag$a(href = paste0("#", id), d$question)), documents, ids)))
  body <- tag$body(
    tag$header(tag$h1(title),
               tag$p(class = "soft", sprintf("Made with upbeatquill %s on R %s. Nothing was sent anywhere.",
                                             documents[[1]]$engine$upbeatquill, documents[[1]]$engine$R))),
    tag$main(contents, html_sources(answers), Map(function(a, d, id) html_answer(a, d, id), answers, documents, ids)))
  head <- tag$head(tag$meta(charset = "utf-8"), tag$meta(name = "viewport",
                                                         content = "width=device-width, initial-scale=1"),
                   tag$title(title), tag$style(htmltools::HTML(html_style())))
  c("<!DOCTYPE html>", as.character(htmltools::doRenderTags(tag$html(lang = "en", head, body))))
}

html_sources <- function(answers) {
  sources <- unlist(lapply(answers, function(a) a$study$sources), recursive = FALSE)
  sources <- sources[!duplicated(vapply(sources, `[[`, "", "sha256"))]
  rows <- lapply(sources, function(s) list(s$file, say_number(s$rows), say_number(s$bytes), substr(s$sha256, 1, 16)))
  htmltools::tags$section(`aria-labelledby` = "data", htmltools::tags$h2(id = "data", "The data"),
                          html_table(c("file", "rows", "bytes", "SHA-256 (first 16)"), rows,
                                     numeric = c(FALSE, TRUE, TRUE, FALSE)))
}

#' One answer as a section
#'
#' @param answer The answer, for its figure.
#' @param document Its document.
#' @param id Anchor.
#' @noRd
html_answer <- function(answer, document, id) {
  tag <- htmltools::tags
  answered <- document$status == "answered"
  heading <- paste0(id, "-title")
  tag$section(class = "answer", id = id, `aria-labelledby` = heading,
    tag$h2(id = heading, document$question),
    if (nzchar(document$reading$plain) && answered) tag$p(class = "soft", tag$b("Read as: "), document$reading$plain),
    html_list("Assumed", document$reading$assumed),
    tag$p(class = if (answered) "headline" else "headline refused", document$sentences$headline),
    lapply(document$sentences$details, tag$p),
    html_choices(document), html_numbers(document), html_figure(answer, document),
    lapply(document$tables, html_answer_table),
    html_checks(document$checks), html_opinions(document$second_opinions), html_list("Cautions", document$cautions),
    if (answered && nzchar(document$sentences$write_up)) tag$div(class = "paper", tag$h3("For the paper"),
        tag$p(document$sentences$write_up)),
    html_list(if (answered) "Ask next" else "Could be asked instead", document[["next"]]),
    if (!is.null(document$script)) tag$details(tag$summary("The script that computes every number again"),
                                               tag$pre(document$script)))
}

html_list <- function(title, items) {
  if (!length(items)) return(NULL)
  htmltools::tagList(htmltools::tags$h3(title), htmltools::tags$ul(lapply(items, htmltools::tags$li)))
}

html_choices <- function(document) {
  if (document$status != "needs_choice") return(NULL)
  htmltools::tags$ol(lapply(document$reading$alternatives, function(r) htmltools::tags$li(r$plain)))
}

html_numbers <- function(document) {
  numbers <- document$numbers
  if (!length(numbers) || document$status != "answered") return(NULL)
  rows <- lapply(numbers, function(n) list(n$label, say_document_value(n$value, n$id), n$of %||% ""))
  of <- any(vapply(numbers, function(n) !is.null(n$of), NA))
  if (!of) rows <- lapply(rows, `[`, 1:2)
  htmltools::tagList(htmltools::tags$h3(document$method$name), htmltools::tags$p(class = "soft", document$method$why),
                     html_table(c("number", "value", if (of) "of"), rows, numeric = c(FALSE, TRUE, if (of) FALSE)))
}

#' A value of the document as text: infinities are texts already, a missing value is a dash
#' @noRd
say_document_value <- function(value, id) {
  if (is.null(value)) return(say_number(NA_real_))
  if (is.character(value)) return(value)
  if (id %in% c("p_value", "p_adjusted")) return(sub("^p (= )?", "", say_p(value)))
  say_number(value)
}

html_figure <- function(answer, document) {
  if (!length(document$figures) || !requireNamespace("ggplot2", quietly = TRUE)) return(NULL)
  file <- tempfile(fileext = ".png")
  on.exit(unlink(file))
  figure(answer, file, width = 8, height = 4.8, dpi = 120)
  data <- jsonlite::base64_enc(readBin(file, "raw", file.size(file)))
  spec <- document$figures[[1]]
  htmltools::tags$figure(htmltools::tags$img(src = paste0("data:image/png;base64,", gsub("\n", "", data, fixed = TRUE)),
                                             alt = spec$alt))
}

html_answer_table <- function(table, most = 60) {
  columns <- unlist(table$columns)
  rows <- table$rows[seq_len(min(most, length(table$rows)))]
  numeric <- vapply(seq_along(columns), function(j) all(vapply(rows, function(r) is.null(r[[j]]) || is.numeric(r[[j]]),
                                                               NA)), NA)
  shown <- lapply(rows, function(r) lapply(seq_along(columns), function(j) say_document_value(r[[j]], columns[j])))
  more <- length(table$rows) - length(rows)
  htmltools::tagList(htmltools::tags$h3(table$title), html_table(columns, shown, numeric),
                     if (more > 0) htmltools::tags$p(class = "soft", sprintf("and %s", count_of(more, "more row"))))
}

#' @param columns Header texts.
#' @param rows List of lists of texts.
#' @param numeric Which columns align right.
#' @noRd
html_table <- function(columns, rows, numeric) {
  tag <- htmltools::tags
  side <- ifelse(numeric, "right", "left")
  tag$div(class = "scroll", role = "region", tabindex = "0", `aria-label` = "Table",
    tag$table(tag$thead(tag$tr(Map(function(name, s) tag$th(scope = "col", class = s, name), columns, side))),
              tag$tbody(lapply(rows, function(r) tag$tr(Map(function(cell, s) tag$td(class = s, cell), r, side))))))
}

html_checks <- function(checks) {
  if (!length(checks)) return(NULL)
  words <- c(ok = "ok", caution = "caution", broken = "broken", not_assessed = "not assessed")
  tag <- htmltools::tags
  htmltools::tagList(tag$h3("Checks"), tag$ul(class = "marks", lapply(checks, function(c) {
    tag$li(tag$span(class = paste("mark", c$verdict), words[[c$verdict]]), c$meaning)
  })))
}

html_opinions <- function(opinions) {
  if (!length(opinions)) return(NULL)
  tag <- htmltools::tags
  htmltools::tagList(tag$h3("Second opinions"), tag$ul(class = "marks", lapply(opinions, function(o) {
    word <- if (is.null(o$agrees)) "no verdict" else if (o$agrees) "agrees" else "differs"
    class <- if (is.null(o$agrees)) "not_assessed" else if (o$agrees) "ok" else "caution"
    tag$li(tag$span(class = paste("mark", class), word), paste(o$method$name, say_opinion_numbers(o$numbers)))
  })))
}

say_opinion_numbers <- function(numbers) {
  value <- function(id) { at <- match(id, vapply(numbers, `[[`, "", "id"))
    if (is.na(at)) NULL else numbers[[at]]$value }
  estimate <- value("estimate"); p <- value("p_value")
  paste(c(if (is.numeric(estimate)) paste("estimate", say_number(estimate)), if (is.numeric(p)) say_p(p)),
        collapse = ", ")
}

html_style <- function() {
  "
  :root { --ink: #22303C; --soft: #4A5A68; --line: #D5DCE2; --paper: #F5F7F9; --blue: #1B4F72; }
  * { box-sizing: border-box; }
  body { margin: 0 auto; max-width: 58rem; padding: 1.5rem 1.2rem 4rem; color: var(--ink); background: #fff;
         font: 16px/1.55 Georgia, 'Times New Roman', serif; }
  h1 { font-size: 1.9rem; margin: 0 0 .2rem; } h2 { font-size: 1.35rem; margin: 2.4rem 0 .6rem; line-height: 1.3; }
  h3 { font: 600 .95rem/1.4 system-ui, sans-serif; margin: 1.4rem 0 .4rem; color: var(--blue); }
  a { color: var(--blue); } .soft { color: var(--soft); }
  nav ol { padding-left: 1.4rem; } nav h2 { margin-top: 1.2rem; }
  section.answer { border-top: 2px solid var(--line); }

  .headline { font-size: 1.12rem; font-weight: 600; background: var(--paper); border-left: 4px solid var(--blue); padding: .7rem 1rem; }
  .headline.refused { border-left-color: #B03A48; }
  .paper { background: var(--paper); padding: .2rem 1rem .6rem; margin: 1.2rem 0; } .paper p { margin: .3rem 0; }
  .scroll { overflow-x: auto; }

  table { border-collapse: collapse; font: .88rem/1.4 system-ui, sans-serif; font-variant-numeric: tabular-nums; margin: .3rem 0; }
  th { border-bottom: 2px solid var(--ink); text-align: left; }
  th, td { padding: .25rem .7rem .25rem 0; vertical-align: top; }
  td { border-bottom: 1px solid var(--line); } .right { text-align: right; padding-left: .7rem; }
  figure { margin: 1.2rem 0; } figure img { max-width: 100%; height: auto; }
  ul.marks { list-style: none; padding: 0; } ul.marks li { padding-left: 7rem; position: relative; margin: .35rem 0; }

  .mark { position: absolute; left: 0; top: .15rem; width: 6.2rem; font: 600 .78rem/1.5 system-ui, sans-serif; border: 1px solid; text-align: center; }
  .mark.ok { color: #1E6B52; } .mark.caution { color: #8A4B08; } .mark.broken { color: #9A2333; }
  .mark.not_assessed { color: var(--soft); }
  details { margin: 1.2rem 0; } summary { cursor: pointer; color: var(--blue); font: 600 .9rem system-ui, sans-serif; }
  pre { overflow-x: auto; background: var(--paper); padding: .8rem 1rem; font-size: .8rem; line-height: 1.45; }
  @media print { body { max-width: none; padding: 0; } details { display: none; }
    section.answer { break-before: page; }
  .scroll { overflow: visible; } }
  "
}
