# A report as PDF, laid out by the grid package: no browser or typesetting system is needed.

#' Write a report as PDF (A4)
#' @noRd
pdf_report <- function(answers, title, file) {
  sections <- report_sections(answers, title)
  write_whole(file, function(to) {
    open_pdf(to, title)
    on.exit(grDevices::dev.off())
    page <- new_page_state(title)
    pdf_start(page)
    pdf_paragraph(page, title, size = 22, face = "bold", colour = "#1B4F72", after = 0.12)
    pdf_paragraph(page, sprintf("Made with upbeatquill %s on R %s. Nothing was sent anywhere.", utils::packageVersion("upbeatquill"), getRversion()),
                  colour = "#4A5A68")
    for (s in sections) pdf_section(page, s)
  })
}

#' Cairo where R has it (all letters of all scripts), else the plain device
#' @noRd
open_pdf <- function(to, title) {
  if (isTRUE(capabilities("cairo"))) grDevices::cairo_pdf(to, width = 8.27, height = 11.69, onefile = TRUE, family = "sans")
  else grDevices::pdf(to, width = 8.27, height = 11.69, title = title, onefile = TRUE)
}

#' Where the next line goes; an environment, since every block moves it
#' @noRd
new_page_state <- function(title) {
  page <- new.env(parent = emptyenv())
  page$title <- title; page$number <- 0L; page$y <- 0
  page$left <- 0.85; page$width <- 8.27 - 1.7; page$top <- 11.69 - 0.8; page$bottom <- 0.85
  page
}

pdf_start <- function(page) {
  grid::grid.newpage()
  page$number <- page$number + 1L
  page$y <- page$top
  foot <- grid::gpar(fontsize = 8, col = "#5B6770")
  grid::grid.text(shorten(one_line(page$title), 80), x = grid::unit(page$left, "in"), y = grid::unit(0.5, "in"), just = c("left", "bottom"),
    gp = foot)
  grid::grid.text(page$number, x = grid::unit(page$left + page$width, "in"), y = grid::unit(0.5, "in"), just = c("right", "bottom"), gp = foot)
}

pdf_room <- function(page, needed) if (page$y - needed < page$bottom) pdf_start(page)

#' Lines that fit a width, measured in the font that is drawn
#' @noRd
pdf_wrap <- function(text, width, gp) {
  words <- strsplit(one_line(text), " ", fixed = TRUE)[[1]]
  words <- unlist(lapply(words[nzchar(words)], split_long_word, width = width, gp = gp))
  if (!length(words)) return(character())
  size <- pdf_widths(words, gp)
  blank <- pdf_widths("a a", gp) - pdf_widths("aa", gp)
  line <- integer(length(words)); at <- 1L; used <- 0
  for (i in seq_along(words)) {
    if (used > 0 && used + blank + size[i] > width) { at <- at + 1L; used <- 0 }
    used <- used + (if (used > 0) blank else 0) + size[i]
    line[i] <- at
  }
  vapply(split(words, line), paste, "", collapse = " ", USE.NAMES = FALSE)
}

pdf_widths <- function(text, gp) {
  grid::pushViewport(grid::viewport(gp = gp))
  on.exit(grid::popViewport())
  vapply(text, function(t) grid::convertWidth(grid::stringWidth(t), "in", valueOnly = TRUE), 1, USE.NAMES = FALSE)
}

split_long_word <- function(word, width, gp) {
  if (nchar(word) < 30) return(word)
  pieces <- max(1, ceiling(pdf_widths(word, gp) / (width * 0.9)))
  if (pieces == 1) return(word)
  each <- ceiling(nchar(word) / pieces)
  substring(word, seq(1, nchar(word), by = each), pmin(nchar(word), seq(each, nchar(word) + each - 1, by = each)))
}

pdf_paragraph <- function(page, text, size = 10, face = "plain", colour = "#22303C", indent = 0, after = 0.07, family = "sans", keep = 0) {
  gp <- grid::gpar(fontsize = size, fontface = face, col = colour, fontfamily = family)
  high <- size * 1.32 / 72
  lines <- pdf_wrap(text, page$width - indent, gp)
  pdf_room(page, high * min(2, length(lines)) + keep)
  for (l in lines) pdf_line(page, l, indent, gp, high)
  page$y <- page$y - after
}

pdf_line <- function(page, text, indent, gp, high) {
  pdf_room(page, high)
  pdf_put(text, page$left + indent, page$y, gp)
  page$y <- page$y - high
}

#' Text whose line starts at a height; set on its baseline, so that letters of all shapes stand in line
#' @noRd
pdf_put <- function(text, x, top, gp, side = "left") {
  grid::grid.text(text, x = grid::unit(x, "in"), y = grid::unit(top - 0.92 * gp$fontsize / 72, "in"), just = c(side, "bottom"), gp = gp)
}

pdf_section <- function(page, section) {
  page$y <- page$y - 0.15
  pdf_paragraph(page, section$title, size = 14.5, face = "bold", colour = "#1B4F72", after = 0.1, keep = 0.8)
  blocks <- if (section$role == "answer") Filter(function(b) b$type != "code", section$blocks) else section$blocks
  for (b in blocks) pdf_block(page, b)
}

pdf_block <- function(page, block) {
  switch(block$type,
    heading = { page$y <- page$y - 0.05; pdf_paragraph(page, block$text, size = 11, face = "bold", after = 0.04, keep = 0.5) },
    text = pdf_paragraph(page, block$text, face = if (block$role %in% c("headline", "refused")) "bold" else "plain",
      colour = docx_ink()[[block$role]],
                         indent = if (block$role == "paper") 0.2 else 0),
    bullets = for (t in block$items) pdf_hanging(page, "\u2022", t, "#22303C", 0.18),
    marks = for (i in seq_along(block$items)) pdf_hanging(page, block$words[i], block$items[i], mark_colours()[[block$marks[i]]], 1),
    table = pdf_table(page, block), figure = pdf_figure(page, block),
    code = pdf_code(page, block))
  invisible()
}

#' A word in the margin of an indented text
#' @noRd
pdf_hanging <- function(page, mark, text, colour, indent) {
  gp <- grid::gpar(fontsize = 10, fontface = "bold", col = colour)
  pdf_room(page, 0.2)
  pdf_put(mark, page$left, page$y, gp)
  pdf_paragraph(page, text, indent = indent, after = 0.04)
}

pdf_table <- function(page, block) {
  if (!is.null(block$title)) pdf_paragraph(page, block$title, size = 10, face = "bold", after = 0.04, keep = 0.5)
  for (piece in table_pieces(block, 12)) pdf_table_piece(page, piece)
  if (block$more > 0) pdf_paragraph(page, sprintf("and %s", count_of(block$more, "more row")), colour = "#4A5A68")
}

pdf_table_piece <- function(page, block) {
  cells <- lapply(seq_along(block$columns), function(j) shorten_each(c(block$columns[j], vapply(block$rows, function(r) r[[j]], "")),
    if (length(block$columns) > 3) 60 else 110))
  size <- 9
  repeat {
    gp <- grid::gpar(fontsize = size, fontfamily = "sans")
    wide <- vapply(cells, function(c) max(pdf_widths(c, grid::gpar(fontsize = size, fontface = "bold"))), 1) + 0.14
    if (sum(wide) <= page$width || size <= 5.5) break
    size <- size - 0.5
  }
  if (sum(wide) > page$width) wide <- wide * page$width / sum(wide)
  high <- size * 1.6 / 72
  start <- page$left + cumsum(c(0, wide[-length(wide)]))
  row <- function(i, face) {
    x <- ifelse(block$numeric, start + wide - 0.08, start)
    for (j in seq_along(cells)) pdf_put(cells[[j]][i], x[j], page$y, grid::gpar(fontsize = size, fontface = face, col = "#22303C"),
                                        if (block$numeric[j]) "right" else "left")
    page$y <- page$y - high
  }
  rule <- function(colour) grid::grid.lines(grid::unit(page$left + c(0, sum(wide)), "in"), grid::unit(rep(page$y + high * 0.16, 2), "in"),
    gp = grid::gpar(col = colour, lwd = 0.7))
  pdf_room(page, high * 3)
  row(1, "bold"); rule("#22303C")
  for (i in seq_along(block$rows) + 1L) {
    if (page$y - high < page$bottom) { pdf_start(page); row(1, "bold"); rule("#22303C") }
    row(i, "plain"); rule("#D5DCE2")
  }
  page$y <- page$y - 0.1
}

shorten_each <- function(text, room) vapply(one_line(text), shorten, "", room, USE.NAMES = FALSE)

pdf_figure <- function(page, block) {
  if (!requireNamespace("ggplot2", quietly = TRUE)) return(invisible())
  plot <- figure(block$answer) + quill_theme(9.8)
  high <- 4.1
  pdf_room(page, high + 0.1)
  grid::pushViewport(grid::viewport(x = grid::unit(page$left, "in"), y = grid::unit(page$y, "in"), width = grid::unit(page$width, "in"),
                                    height = grid::unit(high, "in"), just = c("left", "top")))
  suppressMessages(print(plot, newpage = FALSE))
  grid::popViewport()
  page$y <- page$y - high - 0.1
}

pdf_code <- function(page, block) {
  pdf_paragraph(page, block$title, size = 10.5, face = "bold", after = 0.04, keep = 0.5)
  gp <- grid::gpar(fontsize = 6.5, fontfamily = "mono", col = "#22303C")
  room <- floor(page$width / pdf_widths("m", gp))
  for (line in script_for_print(block$lines)) {
    pieces <- if (nchar(line) <= room) line else substring(line, seq(1, nchar(line), by = room), pmin(nchar(line), seq(room, nchar(line) +
      room - 1, by = room)))
    for (p in pieces) pdf_line(page, p, 0, gp, 6.5 * 1.25 / 72)
  }
  page$y <- page$y - 0.1
}
