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

test_that("a gzip file that breaks off is refused, and one of several members is whole", {
  folder <- withr::local_tempdir()
  lines <- sprintf("%d,%d", 1:20000, (1:20000 * 7919) %% 1009)
  whole <- file.path(folder, "whole.csv.gz")
  con <- gzfile(whole, "wb"); writeLines(c("a,b", lines), con); close(con)
  expect_equal(nrow(as.data.frame(open_study(whole))), 20000)
  bytes <- readBin(whole, "raw", n = file.size(whole))
  cut <- file.path(folder, "cut.csv.gz")
  for (share in c(0.3, 0.9)) {
    writeBin(bytes[seq_len(floor(share * length(bytes)))], cut)
    expect_error(open_study(cut), "breaks off", class = "upbeatquill_error_file_unreadable")
  }
  part <- function(text) { f <- tempfile(); con <- gzfile(f, "wb"); writeLines(text, con); close(con); readBin(f, "raw", n = file.size(f)) }
  both <- file.path(folder, "both.csv.gz")
  writeBin(c(part(c("a,b", "1,2", "3,5")), part(c("4,6", "7,8"))), both)
  expect_equal(as.data.frame(open_study(both))$b, c(2, 5, 6, 8))
})
