shapes_of <- function(slide) {
  at <- xml2::xml_find_all(slide, "//p:spTree/*[.//a:off and .//a:ext[@cx]]")
  data.frame(left = as.numeric(xml2::xml_attr(xml2::xml_find_first(at, ".//a:off"), "x")), top = as.numeric(xml2::xml_attr(xml2::xml_find_first(at,
    ".//a:off"), "y")),
             width = as.numeric(xml2::xml_attr(xml2::xml_find_first(at, ".//a:ext[@cx]"), "cx")),
             height = as.numeric(xml2::xml_attr(xml2::xml_find_first(at, ".//a:ext[@cx]"), "cy"))) / 914400
}

test_that("slides: one message each, nothing overlaps or leaves the page, numbers in the notes", {
  skip_if_not_installed("officer"); skip_if_not_installed("flextable")
  file <- withr::local_tempfile(fileext = ".pptx")
  answers <- list(ask(hive_study(), "Does the honey yield differ between syrup and control?"), ask(hive_study(), "mean wing length"),
                  ask(hive_study(), "How is honey yield related to strength before?"), ask(hive_study(), "honey yield by arm and apiary"))
  report(answers, file)
  deck <- officer::read_pptx(file)
  expect_gte(length(deck), 1 + 2 + 4 + 3)
  folder <- withr::local_tempdir()
  utils::unzip(file, exdir = folder)
  slides <- list.files(file.path(folder, "ppt", "slides"), "xml$", full.names = TRUE)
  for (path in slides) {
    shapes <- shapes_of(xml2::read_xml(path))
    expect_true(all(shapes$left >= 0 & shapes$top >= 0 & shapes$left + shapes$width <= 13.34 & shapes$top + shapes$height <= 7.51),
      info = basename(path))
    pairs <- if (nrow(shapes) > 1) utils::combn(nrow(shapes), 2) else matrix(0, 2, 0)
    for (k in seq_len(ncol(pairs))) {
      a <- shapes[pairs[1, k], ]; b <- shapes[pairs[2, k], ]
      apart <- a$left + a$width <= b$left + 0.01 || b$left + b$width <= a$left + 0.01 || a$top + a$height <= b$top + 0.01 || b$top +
        b$height <= a$top + 0.01
      expect_true(apart, info = paste(basename(path), k))
    }
  }
  text <- officer::pptx_summary(deck)$text
  expect_true(any(grepl(answers[[1]]$sentences$headline, text, fixed = TRUE)))
  notes <- list.files(file.path(folder, "ppt", "notesSlides"), "xml$", full.names = TRUE)
  all_notes <- paste(vapply(notes, function(p) xml2::xml_text(xml2::read_xml(p)), ""), collapse = " ")
  n <- numbers(answers[[1]])
  for (i in seq_len(nrow(n))) expect_true(grepl(upbeatquill:::say_document_value(n$value[i], n$id[i]), all_notes, fixed = TRUE), info = n$id[i])
})

test_that("text is made to fit its box, and what does not fit is counted", {
  long <- rep(strrep("many words here ", 12), 30)
  fit <- upbeatquill:::fitting_paragraphs(long, 6, 3, 18, 10)
  expect_gt(fit$left_out, 0)
  expect_true(upbeatquill:::fits_box(fit$text, 6, 3, fit$size))
  one <- upbeatquill:::fitting_paragraphs(strrep("x", 20000), 6, 1, 18, 10)
  expect_true(upbeatquill:::fits_box(one$text, 6, 1, one$size))
  expect_equal(upbeatquill:::fitting_paragraphs("short", 6, 3, 18, 10)$size, 18)
})
