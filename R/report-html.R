# HTML from blocks: one answer as a section, many as a page.

#' Lines of a whole page
#' @noRd
html_report <- function(answers, title) {
  sections <- Filter(function(s) s$role != "scripts", report_sections(answers, title))  # each answer carries its script, folded
  tag <- htmltools::tags
  engine <- as.list(answers[[1]])$engine
  contents <- tag$nav(`aria-label` = "Contents", tag$h2("Contents"),
                      tag$ol(lapply(sections, function(s) tag$li(tag$a(href = paste0("#", s$id), s$title)))))
  body <- tag$body(
    tag$header(tag$h1(title), tag$p(class = "soft", sprintf("Made with upbeatquill %s on R %s. Nothing was sent anywhere.", engine$upbeatquill,
                                                            engine$R))),
    tag$main(contents, lapply(sections, html_section)))
  head <- tag$head(tag$meta(charset = "utf-8"), tag$meta(name = "viewport", content = "width=device-width, initial-scale=1"),
                   tag$title(title), tag$style(htmltools::HTML(html_style())))
  c("<!DOCTYPE html>", as.character(htmltools::doRenderTags(tag$html(lang = "en", head, body))))
}

html_section <- function(section) {
  heading <- paste0(section$id, "-title")
  htmltools::tags$section(class = if (section$role == "answer") "answer", id = section$id, `aria-labelledby` = heading,
                          htmltools::tags$h2(id = heading, section$title), lapply(section$blocks, html_block))
}

#' One answer as a section
#' @noRd
html_answer <- function(answer, document, id) {
  html_section(list(id = id, title = document$question, role = "answer", blocks = answer_blocks(answer, document)))
}

html_block <- function(block) {
  tag <- htmltools::tags
  switch(block$type,
    heading = tag$h3(block$text),
    text = switch(block$role, plain = tag$p(block$text), soft = tag$p(class = "soft", block$text), headline = tag$p(class = "headline", block$text),
                  refused = tag$p(class = "headline refused", block$text), paper = tag$div(class = "paper", tag$p(block$text))),
    bullets = tag$ul(lapply(block$items, tag$li)), marks = html_marks(block), figure = html_figure(block),
    table = htmltools::tagList(if (!is.null(block$title)) tag$h3(block$title), html_table(block$columns, block$rows, block$numeric),
                               if (block$more > 0) tag$p(class = "soft", sprintf("and %s", count_of(block$more, "more row")))),
    code = tag$details(tag$summary(block$title), tag$pre(block$lines)))
}

html_list <- function(title, items) {
  if (!length(items)) return(NULL)
  htmltools::tagList(htmltools::tags$h3(title), htmltools::tags$ul(lapply(items, htmltools::tags$li)))
}

html_marks <- function(block) {
  tag <- htmltools::tags
  tag$ul(class = "marks", Map(function(text, mark, word) tag$li(tag$span(class = paste("mark", mark), word), text), block$items, block$marks,
                              block$words) |> unname())
}

html_figure <- function(block) {
  file <- figure_png(block$answer, 8, 4.8, 120)
  if (is.null(file)) return(NULL)
  on.exit(unlink(file))
  data <- jsonlite::base64_enc(readBin(file, "raw", file.size(file)))
  htmltools::tags$figure(htmltools::tags$img(src = paste0("data:image/png;base64,", gsub("\n", "", data, fixed = TRUE)), alt = block$alt))
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

  .mark { position: absolute; left: 0; top: .15rem; width: 6.2rem; font: 600 .78rem/1.5 system-ui, sans-serif; border: 1px solid;
    text-align: center; }
  .mark.ok { color: #1E6B52; } .mark.caution { color: #8A4B08; } .mark.broken { color: #9A2333; }
  .mark.not_assessed { color: var(--soft); }
  details { margin: 1.2rem 0; } summary { cursor: pointer; color: var(--blue); font: 600 .9rem system-ui, sans-serif; }
  pre { overflow-x: auto; background: var(--paper); padding: .8rem 1rem; font-size: .8rem; line-height: 1.45; }
  @media print { body { max-width: none; padding: 0; } details { display: none; }
    section.answer { break-before: page; }
  .scroll { overflow: visible; } }
  "
}
