test_that("a PDF holds the text and the numbers, on numbered pages", {
  file <- withr::local_tempfile(fileext = ".pdf")
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  report(list(a, ask(hive_study(), "mean wing length")), file, title = "Yield report")
  raw <- readBin(file, "raw", file.size(file))
  expect_equal(rawToChar(raw[1:5]), "%PDF-")
  reader <- Sys.which("pdftotext")
  skip_if(!nzchar(reader), "pdftotext is not here")
  text <- paste(system2(reader, c("-layout", shQuote(file), "-"), stdout = TRUE), collapse = "\n")
  flat <- gsub("\\s+", " ", text)
  n <- numbers(a)
  for (i in seq_len(nrow(n))) expect_true(grepl(upbeatquill:::say_document_value(n$value[i], n$id[i]), flat, fixed = TRUE), info = n$id[i])
  for (part in c("Yield report", "The data", "Its quality", "What holds", a$sentences$headline, "Nothing in this data is called")) {
    expect_true(grepl(part, flat, fixed = TRUE), info = part)
  }
})

test_that("lines are broken where the page ends, also inside words without blanks", {
  file <- withr::local_tempfile(fileext = ".pdf")
  grDevices::pdf(file)
  withr::defer(grDevices::dev.off())
  grid::grid.newpage()
  gp <- grid::gpar(fontsize = 10)
  lines <- upbeatquill:::pdf_wrap(paste(strrep("w", 400), "and", strrep("some words ", 60)), 3, gp)
  expect_true(all(upbeatquill:::pdf_widths(lines, gp) <= 3.001))
  expect_equal(gsub(" ", "", paste(lines, collapse = "")), gsub(" ", "", paste(strrep("w", 400), "and", strrep("some words ", 60))))
})
