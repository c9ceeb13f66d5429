# A report as a source that runs: Quarto, R Markdown, or a Jupyter notebook for the R kernel.

#' Text and code cells of a report
#' @section Shape: list of list(type = "text" or "code", lines).
#' @noRd
notebook_cells <- function(answers, title) {
  sections <- report_sections(answers, title)
  cell <- function(type, lines) list(type = type, lines = lines)
  cells <- list()
  at <- 0
  for (s in sections[vapply(sections, function(s) s$role != "scripts", NA)]) {
    asked <- s$role == "answer"
    if (asked) at <- at + 1
    blocks <- Filter(function(b) !b$type %in% c("code", "figure"), s$blocks)
    cells <- c(cells, list(cell("text", c(paste("##", markdown_text(s$title)), "", unlist(lapply(blocks, markdown_block))))))
    if (asked && answers[[at]]$status == "answered") cells <- c(cells, list(cell("code", script_chunk(answers[[at]]))))
  }
  cells
}

#' The script of an answer as a cell: the numbers as a table, the figure shown instead of saved
#' @noRd
script_chunk <- function(a) {
  body <- a$method$script(a$context, a$result)
  figure <- if (!is.null(a$figure)) c("", "if (requireNamespace(\"ggplot2\", quietly = TRUE)) {", "  library(ggplot2)", paste0("  ", a$figure$script),
                                      "  print(plot)", "}")
  c(script_data(a$study, a$frame, a$reading), script_rows(a), "", sprintf("conf_level <- %s", as_r_number(a$context$conf_level)), body, "",
    "print(data.frame(number = names(numbers), value = vapply(numbers, as.numeric, 1), row.names = NULL), digits = 8)",
    "for (id in names(tables)) print(tables[[id]], digits = 5)", figure)
}

#' Text with the marks of Markdown made harmless
#' @noRd
markdown_text <- function(text) gsub("([\\\\`*_{}\\[\\]<>#|$])", "\\\\\\1", one_line(text), perl = TRUE)

markdown_block <- function(block) {
  switch(block$type,
    heading = c(paste("###", markdown_text(block$text)), ""),
    text = c(if (block$role %in% c("headline", "refused")) sprintf("**%s**", markdown_text(block$text)) else markdown_text(block$text), ""),
    bullets = c(paste("-", markdown_text(block$items)), ""),
    marks = c(sprintf("- **%s**: %s", markdown_text(block$words), markdown_text(block$items)), ""),
    table = c(if (!is.null(block$title)) c(sprintf("**%s**", markdown_text(block$title)), ""), markdown_table(block), ""))
}

markdown_table <- function(block) {
  row <- function(cells) paste0("| ", paste(markdown_text(unlist(cells)), collapse = " | "), " |")
  c(row(block$columns), paste0("|", paste(ifelse(block$numeric, "---:", ":---"), collapse = "|"), "|"), vapply(block$rows, row, ""))
}

source_report <- function(answers, title, file, type) {
  format <- if (type == "qmd") c("format:", "  html:", "    embed-resources: true") else "output: html_document"
  head <- c("---", paste0("title: ", yaml_string(title)), format, "---", "")
  cells <- notebook_cells(answers, title)
  body <- unlist(lapply(seq_along(cells), function(i) {
    if (cells[[i]]$type == "text") c(cells[[i]]$lines, "")
    else c(sprintf("```{r%s}", if (type == "qmd") "" else sprintf(" cell-%d", i)), cells[[i]]$lines, "```", "")
  }))
  write_text(c(head, body), file)
}

yaml_string <- function(text) paste0("\"", gsub("([\"\\\\])", "\\\\\\1", one_line(text), perl = TRUE), "\"")

notebook_report <- function(answers, title, file) {
  cells <- notebook_cells(answers, title)
  with_ends <- function(lines) as.list(paste0(lines, c(rep("\n", length(lines) - 1), "")))
  made <- lapply(seq_along(cells), function(i) {
    base <- list(cell_type = if (cells[[i]]$type == "text") "markdown" else "code", id = sprintf("cell-%d", i), metadata = named_list())
    if (cells[[i]]$type == "code") base <- c(base, list(execution_count = NULL, outputs = list()))
    c(base, list(source = with_ends(no_control(single_lines(cells[[i]]$lines)))))
  })
  first <- list(cell_type = "markdown", id = "title", metadata = named_list(), source = with_ends(paste("#", markdown_text(title))))
  document <- list(cells = c(list(first), made), metadata = list(kernelspec = list(display_name = "R", language = "R", name = "ir"),
                                                                 language_info = list(name = "R", file_extension = ".r")),
                   nbformat = 4L, nbformat_minor = 5L)
  write_text(jsonlite::toJSON(document, auto_unbox = TRUE, null = "null", pretty = TRUE), file)
}

#' Each line by itself, empty ones kept
#' @noRd
single_lines <- function(lines) strsplit(paste(lines, collapse = "\n"), "\n", fixed = TRUE)[[1]]

named_list <- function() structure(list(), names = character())
