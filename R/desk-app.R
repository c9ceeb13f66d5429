# The desk: a local page in which to look, ask and read. It parses, calls and shows; nothing is decided here.

#' Open the desk, a local web page on a study
#'
#' The page is served to this machine only (127.0.0.1). It shows what the study holds, takes questions, and keeps
#' the answers with their
#' figures and scripts; a question continues from the answer before it when it reads as a follow-up.
#'
#' @param x A study, or an answer to go on from.
#' @param port Port on this machine, or `NULL` for a free one.
#' @param browser Open a browser?
#' @return Does not return until the page is stopped.
#' @section Errors: `upbeatquill_error_package_missing` without shiny, bslib and htmltools.
#' @examples
#' \dontrun{
#' desk(open_study("hive_trial.csv"))
#' }
#' @export
desk <- function(x, port = NULL, browser = interactive()) {
  first <- if (inherits(x, "upbeatquill_answer")) x
  study <- need_study(if (is.null(first)) x else first$study)
  for (package in c("shiny", "bslib", "htmltools")) need_package(package, to = "open the desk")
  app <- desk_app(study, first)
  invisible(shiny::runApp(app, port = port, host = "127.0.0.1", launch.browser = browser, quiet = TRUE))
}

desk_app <- function(study, first = NULL) {
  study$vocabulary <- study_vocabulary(study)
  shown <- if (!is.null(first)) list(desk_entry(first, 1L)) else list()
  offered <- idea_list(study)  # once, not for every visit
  shiny::shinyApp(ui = desk_page(study),
                  server = function(input, output, session) desk_server(study, input, output, session, shown, offered))
}

#' An answer with its section, rendered once
#' @noRd
desk_entry <- function(answer, number) {
  list(answer = answer, html = html_answer(answer, as.list(answer), sprintf("answer-%d", number)))
}

desk_page <- function(study) {
  tag <- htmltools::tags
  bslib::page_fluid(
    lang = "en", title = "Upbeat Quill desk", theme = bslib::bs_theme(version = 5, primary = "#1B4F72",
        `body-color` = "#22303C"),
    tag$head(tag$style(htmltools::HTML(desk_style()))),
    tag$div(class = "row desk",
      tag$aside(class = "col-lg-4", `aria-label` = "The data", tag$h1("The data"), shiny::uiOutput("held"),
                tag$h2("Questions this data can answer"), shiny::uiOutput("offered")),
      tag$main(class = "col-lg-8",
        tag$form(class = "ask", onsubmit = "return false;", tag$label(`for` = "question", "Your question"),
          tag$div(class = "d-flex gap-2", shiny::textInput("question", NULL, width = "100%",
                                                           placeholder = "Does the outcome differ between the groups?"),
                  shiny::actionButton("go", "Ask", class = "btn-primary")),
          shiny::checkboxInput("fresh", "Start afresh (do not go on from the last answer)", FALSE, width = "100%")),
        tag$div(`aria-live` = "polite", shiny::uiOutput("answers")))))
}

desk_style <- function() {
  paste(html_style(), "
  body { max-width: none; padding: 0 1rem 3rem; } .desk { max-width: 84rem; margin: 0 auto; }
  .desk h1 { font-size: 1.3rem; margin-top: 1.2rem; }
  aside { border-right: 1px solid var(--line); } aside h2 { font-size: 1.05rem; margin-top: 1.4rem; }
  .ask { padding-top: 1.2rem; }
  .ask .form-group { flex: 1; margin-bottom: 0; }
  .idea { display: block; text-align: left; padding: .15rem 0; border: 0; background: none; color: var(--blue); }
  .idea:hover { text-decoration: underline; }
  ")
}

desk_server <- function(study, input, output, session, shown = list(), offered = idea_list(study)) {
  entries <- shiny::reactiveVal(shown)  # newest first
  pose <- function(text) {
    if (!nzchar(trimws(text))) return(invisible())
    before <- entries()
    from <- if (length(before) && !isTRUE(input$fresh)) before[[1]]$answer else study
    new <- tryCatch(ask(from, text),
                    upbeatquill_error = function(e) shiny::showNotification(conditionMessage(e), type = "error"))
    if (inherits(new, "upbeatquill_answer")) entries(c(list(desk_entry(new, length(before) + 1L)), before))
  }
  shiny::observeEvent(input$go, {
    pose(input$question)
    shiny::updateTextInput(session, "question", value = "")
  })
  lapply(seq_along(offered), function(i) shiny::observeEvent(input[[paste0("idea", i)]], pose(offered[i])))
  output$held <- shiny::renderUI(desk_held(study))
  output$offered <- shiny::renderUI(lapply(seq_along(offered), function(i) {
    shiny::actionButton(paste0("idea", i), offered[i], class = "idea")
  }))
  output$answers <- shiny::renderUI(lapply(entries(), `[[`, "html"))
}

#' What the study holds, a table a data table, with the findings
#' @noRd
desk_held <- function(study) {
  document <- as.list(study)
  tag <- htmltools::tags
  tables <- Filter(function(t) !isTRUE(t$codebook), document$tables)
  htmltools::tagList(
    lapply(tables, function(t) {
      rows <- lapply(t$columns, function(col) list(col$name, gsub("_", "/", col$kind),
                                                   if (col$missing > 0) say_number(col$missing) else ""))
      htmltools::tagList(tag$h2(sprintf("%s: %s", t$name, count_of(t$rows, "row"))),
                         html_table(c("column", "kind", "missing"), rows, c(FALSE, FALSE, TRUE)))
    }),
    html_list("Findings", lapply(document$findings, `[[`, "message")))
}
