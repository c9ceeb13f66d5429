write_bytes <- function(text, encoding, env = parent.frame(), bom = raw()) {
  f <- withr::local_tempfile(fileext = ".csv", .local_envir = env)
  writeBin(c(bom, stringi::stri_encode(text, "UTF-8", encoding, to_raw = TRUE)[[1]]), f)
  f
}

test_that("Latin-1, Windows-1252, UTF-8 and UTF-16 say the same", {
  text <- "stra\u00dfe,wert\nM\u00fcller,1\n\u00c9cole,2\n\u00d8re,3\n"
  for (encoding in c("UTF-8", "ISO-8859-1", "windows-1252", "UTF-16LE", "UTF-16BE")) {
    bom <- switch(encoding, "UTF-16LE" = as.raw(c(0xff, 0xfe)), "UTF-16BE" = as.raw(c(0xfe, 0xff)), raw())
    study <- open_study(write_bytes(text, encoding, bom = bom))
    d <- as.data.frame(study)
    expect_equal(names(d), c("stra\u00dfe", "wert"), info = encoding)
    expect_equal(as.character(d[[1]]), c("M\u00fcller", "\u00c9cole", "\u00d8re"), info = encoding)
    expect_retraces(ask(study, "mean wert"))
  }
})

test_that("gzip is opened, and a file made to fill the disk is not", {
  f <- withr::local_tempfile(fileext = ".csv.gz")
  con <- gzfile(f, "wb"); writeLines(c("a,b", "1,2", "3,4", "5,7"), con); close(con)
  expect_equal(as.data.frame(open_study(f))$b, c(2, 4, 7))
  expect_retraces(ask(open_study(f), "mean b"))
  bomb <- withr::local_tempfile(fileext = ".csv.gz")
  con <- gzfile(bomb, "wb", compression = 9); for (i in 1:30) writeBin(raw(1e6), con); close(con)
  expect_error(open_study(bomb), class = "upbeatquill_error_input")
})
