# A report as slides: one message a slide, figure and text side by side, the numbers in the notes.

#' Write a report as PPTX
#' @noRd
pptx_report <- function(answers, title, file) {
  for (package in c("officer", "flextable")) need_package(package, to = "write .pptx slides")
  deck <- wide_deck()
  deck <- slide_title(deck, title, answers)
  files <- character()
  on.exit(unlink(files), add = TRUE)
  sections <- report_sections(answers, title)
  roles <- vapply(sections, `[[`, "", "role")
  for (section in sections[roles %in% c("data", "quality")]) deck <- slide_list(deck, section)
  for (answer in answers) {
    document <- as.list(answer)
    image <- if (length(document$figures)) figure_png(answer, 8, 5.3, 170)
    files <- c(files, image)
    deck <- slide_answer(deck, document, image)
  }
  for (section in sections[roles %in% c("holds", "limits", "next")]) deck <- slide_list(deck, section)
  write_whole(file, function(to) print(deck, target = to))
}

#' An empty deck of 13.33 by 7.5 inches
#' @noRd
wide_deck <- function() {
  deck <- officer::read_pptx()
  size <- xml2::xml_find_first(deck$presentation$get(), "//p:sldSz")
  xml2::xml_attr(size, "cx") <- "12192000"
  xml2::xml_attr(size, "cy") <- "6858000"
  xml2::xml_attr(size, "type") <- NULL
  deck
}

#' Type size at which a text fits its box
#'
#' @param text Paragraphs. @param width,height Of the box in inches. @param largest,smallest Sizes in points.
#' @details A letter is half as wide as the type is high (0.52 to be safe), a line 1.2 times as high.
#' @noRd
fitting_size <- function(text, width, height, largest, smallest) {
  for (size in seq(largest, smallest, by = -1)) {
    lines <- sum(ceiling(pmax(1, nchar(text, type = "width")) * size * 0.52 / 72 / width))
    if ((lines * size * 1.2 + length(text) * size * 0.35) / 72 <= height) return(size)
  }
  smallest
}

#' Paragraphs that fit, and how many do not
#' @noRd
fitting_paragraphs <- function(text, width, height, largest, smallest) {
  text <- no_control(text)
  keep <- length(text)
  while (keep > 1 && fitting_size(text[seq_len(keep)], width, height, largest, smallest) == smallest &&
         !fits_box(text[seq_len(keep)], width, height, smallest)) keep <- keep - 1
  shown <- text[seq_len(keep)]
  if (keep == 1 && !fits_box(shown, width, height, smallest)) {
    shown <- shorten(shown, max(20, floor(width * 72 / (smallest * 0.52)) * floor(height * 72 / (smallest * 1.35))))
  }
  list(text = shown, left_out = length(text) - keep, size = fitting_size(shown, width, height, largest, smallest))
}

fits_box <- function(text, width, height, size) {
  lines <- sum(ceiling(pmax(1, nchar(text, type = "width")) * size * 0.52 / 72 / width))
  (lines * size * 1.2 + length(text) * size * 0.35) / 72 <= height
}

slide_new <- function(deck, heading) {
  deck <- officer::add_slide(deck, layout = "Title Only", master = "Office Theme")
  fit <- fitting_paragraphs(heading, 12, 1.15, 28, 16)
  style <- officer::fp_text(font.size = fit$size, bold = TRUE, color = "#1B4F72", font.family = "Calibri")
  officer::ph_with(deck, officer::fpar(officer::ftext(fit$text, style), fp_p = officer::fp_par(text.align = "left")),
                   location = officer::ph_location_template(left = 0.65, top = 0.35, width = 12, height = 1.2, type = "title"))
}

slide_text <- function(deck, text, left, top, width, height, largest = 18, smallest = 11, colour = "#22303C", bullets = FALSE, colours = NULL) {
  if (!length(text)) return(deck)
  fit <- fitting_paragraphs(if (bullets) paste0("\u2022 ", text) else text, width - 0.2, height - 0.1, largest, smallest)
  if (fit$left_out > 0) fit$text[length(fit$text)] <- paste0("\u2026 and ", fit$left_out + 1, " more, in the report")
  inks <- rep_len(colours %||% colour, length(text))[seq_along(fit$text)]
  pars <- Map(function(t, ink) officer::fpar(officer::ftext(t, officer::fp_text(font.size = fit$size, color = ink, font.family = "Calibri")),
                                             fp_p = officer::fp_par(padding.bottom = fit$size * 0.3)), fit$text, inks)
  officer::ph_with(deck, do.call(officer::block_list, unname(pars)), location = officer::ph_location(left = left, top = top, width = width,
    height = height))
}

slide_notes <- function(deck, text) officer::set_notes(deck, paste(no_control(text), collapse = "\n"),
  location = officer::notes_location_type("body"))

slide_title <- function(deck, title, answers) {
  sources <- unique(unlist(lapply(answers, function(a) vapply(a$study$sources, `[[`, "", "file"))))
  deck <- officer::add_slide(deck, layout = "Title Only", master = "Office Theme")
  fit <- fitting_paragraphs(title, 11.5, 2, 44, 22)
  deck <- officer::ph_with(deck, officer::fpar(officer::ftext(fit$text, officer::fp_text(font.size = fit$size, bold = TRUE, color = "#1B4F72",
                                                                                        font.family = "Calibri"))),
                           location = officer::ph_location_template(left = 0.9, top = 2, width = 11.5, height = 2.1, type = "title"))
  slide_text(deck, c(sprintf("%s, answered from %s.", count_of(length(answers), "question"), some_of(sources, 4)),
                     sprintf("Made with upbeatquill %s. Nothing was sent anywhere.", utils::packageVersion("upbeatquill"))),
             0.9, 4.3, 11.5, 1.4, 20, 12, "#4A5A68")
}

#' A section of texts and lists as one slide
#' @noRd
slide_list <- function(deck, section) {
  items <- unlist(lapply(section$blocks, function(b) switch(b$type, bullets = b$items, marks = paste0(b$words, ": ", b$items),
                                                            text = if (b$role != "soft") b$text, heading = NULL, NULL)))
  inks <- unlist(lapply(section$blocks, function(b) switch(b$type, bullets = rep("#22303C", length(b$items)), marks = mark_colours()[b$marks],
                                                           text = if (b$role != "soft") "#22303C", NULL)))
  if (!length(items)) return(deck)
  deck <- slide_new(deck, section$title)
  deck <- slide_text(deck, items, 0.65, 1.75, 12, 5.2, 18, 11, bullets = TRUE, colours = unname(inks))
  slide_notes(deck, items)
}

#' One answer: its message, its figure or table, its main numbers
#' @noRd
slide_answer <- function(deck, document, image) {
  deck <- slide_new(deck, document$sentences$headline)
  answered <- document$status == "answered"
  side <- answered && !is.null(image)
  points <- slide_points(document)
  if (side) {
    deck <- officer::ph_with(deck, officer::external_img(image, width = 7.4, height = 4.9, alt = document$figures[[1]]$alt),
                             location = officer::ph_location(left = 0.65, top = 1.7, width = 7.4, height = 4.9))
    deck <- slide_text(deck, points$text, 8.4, 1.75, 4.3, 4.8, 17, 10, colours = points$inks)
  } else {
    deck <- slide_text(deck, points$text, 0.65, 1.7, 12, 1.8, 17, 11, colours = points$inks)
    if (answered && length(document$tables)) deck <- slide_table(deck, table_block(document$tables[[1]], most = 7))
  }
  deck <- slide_text(deck, sprintf("Asked: %s", document$question), 0.65, 6.75, 12, 0.5, 12, 9, "#4A5A68")
  slide_notes(deck, c(document$sentences$write_up, unlist(document$sentences$details),
                      if (answered) vapply(document$numbers, function(n) sprintf("%s: %s", n$label, say_document_value(n$value, n$id)), ""),
                      unlist(document$cautions)))
}

#' The lines beside a figure: the estimate, the test, the checks
#' @noRd
slide_points <- function(document) {
  if (document$status != "answered") {
    text <- c(vapply(document$reading$alternatives, function(r) r$plain, ""), unlist(document[["next"]]))
    return(list(text = text, inks = "#22303C"))
  }
  value <- function(id) { at <- match(id, vapply(document$numbers, `[[`, "", "id")); if (is.na(at)) NULL else document$numbers[[at]] }
  number <- function(id) { n <- value(id); if (is.null(n) || !is.numeric(n$value)) NULL else n$value }
  low <- number("ci_low"); high <- number("ci_high"); level <- number("conf_level") %||% 0.95
  estimate <- if (!is.null(number("estimate"))) paste0(capital(value("estimate")$label), ": ", say_number(number("estimate")),
    if (!is.null(low) && !is.null(high)) sprintf(" (%s)", say_interval(low, high, level)))
  effects <- c(hedges_g = "Hedges' g", rank_biserial = "Rank-biserial r", cramers_v = "Cramer's V", r_squared = "R squared",
    eta_squared = "Eta squared",
               odds_ratio = "Odds ratio", hazard_ratio = "Hazard ratio")
  shown <- names(effects)[vapply(names(effects), function(id) !is.null(number(id)), NA)][1]
  worry <- Filter(function(c) c$verdict %in% c("caution", "broken"), document$checks)
  opinions <- Filter(function(o) !is.null(o$agrees), document$second_opinions)
  agree <- sum(vapply(opinions, function(o) isTRUE(o$agrees), NA))
  text <- c(estimate, if (!is.na(shown)) sprintf("%s: %s", effects[[shown]], say_number(number(shown), 2)),
            if (!is.null(number("p_value"))) sprintf("%s: %s", document$method$name, say_p(number("p_value"))) else document$method$name,
            if (is.numeric(document$rows$used)) sprintf("Rows used: %s of %s", say_number(document$rows$used), say_number(document$rows$total)),
            if (length(opinions)) sprintf("Second opinions: %d of %d agree", agree, length(opinions)))
  inks <- rep("#22303C", length(text))
  if (length(worry)) {
    text <- c(text, vapply(worry, `[[`, "", "meaning"))
    inks <- c(inks, mark_colours()[vapply(worry, `[[`, "", "verdict")])
  } else if (length(document$checks)) { text <- c(text, "No check speaks against it."); inks <- c(inks, mark_colours()[["ok"]]) }
  list(text = text, inks = unname(inks))
}

slide_table <- function(deck, block) {
  if (is.null(block)) return(deck)
  piece <- table_pieces(block, 9)[[1]]
  t <- flextable::autofit(flex_table(piece, 12), add_w = 0.15, add_h = 0)
  officer::ph_with(deck, t, location = officer::ph_location(left = 0.65, top = 3.6, width = 12, height = 2.9))
}
