# A report as a document for word processors.

#' Write a report as DOCX
#' @noRd
docx_report <- function(answers, title, file) {
  for (package in c("officer", "flextable")) need_package(package, to = "write a .docx report")
  a4 <- officer::prop_section(page_size = officer::page_size(width = 8.27, height = 11.69, orient = "portrait"),
                              page_margins = officer::page_mar(bottom = 0.9, top = 0.9, left = 0.9, right = 0.9, header = 0.4, footer = 0.4))
  doc <- officer::body_set_default_section(plain_headings(officer::read_docx()), a4)
  doc <- officer::set_doc_properties(doc, title = title, creator = "upbeatquill")
  doc <- officer::body_add_par(doc, title, style = "heading 1")
  files <- character()
  on.exit(unlink(files), add = TRUE)
  for (section in report_sections(answers, title)) {
    doc <- officer::body_add_par(doc, one_line(section$title), style = "heading 2")
    blocks <- if (section$role == "answer") Filter(function(b) b$type != "code", section$blocks) else section$blocks  # scripts: appendix
    for (block in blocks) {
      if (block$type == "figure") files <- c(files, block$file <- figure_png(block$answer, 8, 5))
      doc <- docx_block(doc, block)
    }
  }
  # line spacing is a multiple of the line, which not every reader assumes unless told
  spaced <- xml2::xml_find_all(officer::docx_body_xml(doc), "//w:spacing[@w:line]")
  xml2::xml_set_attr(spaced, "w:lineRule", "auto")
  write_whole(file, function(to) print(doc, target = to))
}

#' Headings without numbers, in our colour; the styles stay, so that a reader can find its way by them
#' @noRd
plain_headings <- function(doc) {
  path <- file.path(doc$package_dir, "word", "styles.xml")
  styles <- xml2::read_xml(path)
  for (level in 1:3) {
    style <- xml2::xml_find_first(styles, sprintf("//w:style[@w:type='paragraph'][w:name[@w:val='heading %d']]", level))
    xml2::xml_remove(xml2::xml_find_all(style, "w:pPr/w:numPr | w:pPr/w:ind | w:pPr/w:pBdr"))
    xml2::xml_remove(xml2::xml_find_all(style, "w:rPr"))
    run <- xml2::xml_add_child(style, "w:rPr")
    xml2::xml_add_child(run, "w:rFonts", "w:ascii" = "Calibri", "w:hAnsi" = "Calibri", "w:cs" = "Calibri")
    xml2::xml_add_child(run, "w:b")
    xml2::xml_add_child(run, "w:color", "w:val" = if (level == 3) "22303C" else "1B4F72")
    xml2::xml_add_child(run, "w:sz", "w:val" = c("44", "30", "23")[level])
  }
  xml2::write_xml(styles, path)
  doc
}

one_line <- function(text) gsub("[[:cntrl:][:space:]]+", " ", text)

docx_ink <- function() c(plain = "#22303C", soft = "#4A5A68", headline = "#1B4F72", refused = "#9A2333", paper = "#22303C")

docx_text <- function(text, role = "plain", bold = role %in% c("headline", "refused"), size = 10.5, colour = docx_ink()[[role]]) {
  officer::ftext(no_control(text), officer::fp_text(font.size = size, bold = bold, color = colour, font.family = "Calibri"))
}

docx_par <- function(..., left = 0, after = 5, shade = "transparent") {
  officer::fpar(..., fp_p = officer::fp_par(padding.left = left, padding.bottom = after, line_spacing = 1.1, shading.color = shade))
}

docx_block <- function(doc, block) {
  add <- function(par) officer::body_add_fpar(doc, par)
  switch(block$type,
    heading = officer::body_add_par(doc, one_line(block$text), style = "heading 3"),
    text = add(docx_par(docx_text(block$text, block$role), shade = if (block$role == "paper") "#F0F3F6" else "transparent")),
    bullets = officer::body_add_blocks(doc, do.call(officer::block_list, lapply(block$items, function(t) docx_par(docx_text(paste0("\u2022 ", t)),
                                                                                                                left = 14, after = 2)))),
    marks = officer::body_add_blocks(doc, docx_marks(block)),
    table = docx_table(doc, block),
    figure = if (is.null(block$file)) doc else add(officer::fpar(officer::external_img(block$file, width = 6.4, height = 4, unit = "in",
      alt = block$alt),
                                                                 fp_p = officer::fp_par(line_spacing = 1))),
    code = docx_code(doc, block))
}

mark_colours <- function() c(ok = "#1E6B52", caution = "#8A4B08", broken = "#9A2333", not_assessed = "#4A5A68")

docx_marks <- function(block) {
  do.call(officer::block_list, Map(function(text, mark, word) docx_par(docx_text(paste0(word, ":  "), bold = TRUE, colour = mark_colours()[[mark]]),
                                                                       docx_text(text), left = 14, after = 2),
                                   block$items, block$marks, block$words) |> unname())
}

#' A table for officer documents; names that repeat or clash stay as they are, since only headers show them
#' @noRd
flex_table <- function(block, size) {
  data <- as.data.frame(stats::setNames(lapply(seq_along(block$columns), function(j) vapply(block$rows, function(r) no_control(r[[j]]), "")),
                                        sprintf("v%d", seq_along(block$columns))), stringsAsFactors = FALSE)
  t <- flextable::flextable(data)
  t <- flextable::set_header_labels(t, values = stats::setNames(as.list(no_control(block$columns)), names(data)))
  t <- flextable::font(flextable::fontsize(t, size = size, part = "all"), fontname = "Calibri", part = "all")
  t <- flextable::color(flextable::padding(t, padding = 2, part = "all"), color = "#22303C", part = "all")
  if (any(block$numeric)) t <- flextable::align(t, j = which(block$numeric), align = "right", part = "all")
  if (any(!block$numeric)) t <- flextable::align(t, j = which(!block$numeric), align = "left", part = "all")
  flextable::bold(t, part = "header")
}

#' Wide tables are cut into pieces that fit the page, the first column repeated
#' @noRd
table_pieces <- function(block, most = 11) {
  k <- length(block$columns)
  if (k <= most) return(list(block))
  parts <- split(seq_len(k)[-1], ceiling(seq_len(k - 1) / (most - 1)))
  lapply(unname(parts), function(j) {
    take <- c(1, j)
    utils::modifyList(block, list(columns = block$columns[take], numeric = block$numeric[take], rows = lapply(block$rows, `[`, take)))
  })
}

docx_table <- function(doc, block) {
  if (!is.null(block$title)) doc <- officer::body_add_fpar(doc, docx_par(docx_text(block$title, bold = TRUE), after = 2))
  for (piece in table_pieces(block)) {
    t <- flextable::fit_to_width(flextable::autofit(flex_table(piece, if (length(piece$columns) > 7) 7.5 else 9), add_h = 0), 6.4)
    doc <- flextable::body_add_flextable(doc, t, align = "left")
    doc <- officer::body_add_par(doc, "")
  }
  if (block$more > 0) doc <- officer::body_add_fpar(doc, docx_par(docx_text(sprintf("and %s", count_of(block$more, "more row")), "soft")))
  doc
}

docx_code <- function(doc, block) {
  doc <- officer::body_add_par(doc, one_line(block$title), style = "heading 3")
  style <- officer::fp_text(font.size = 7, font.family = "Courier New", color = "#22303C")
  lines <- script_for_print(block$lines)
  runs <- do.call(c, lapply(lines, function(l) list(officer::ftext(no_control(l), style), officer::run_linebreak())))
  officer::body_add_fpar(doc, do.call(docx_par, c(runs, list(shade = "#F0F3F6"))))
}

#' The lines of a script, without the numbers that stand at its end for retrace()
#' @noRd
script_for_print <- function(script) {
  lines <- unlist(strsplit(script, "\n", fixed = TRUE))
  lines[!startsWith(lines, "#:\t") & !grepl("quill retrace compares", lines, fixed = TRUE)]
}
