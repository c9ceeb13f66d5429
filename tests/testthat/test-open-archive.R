test_that("the files of a ZIP archive open, and the script reads them from the archive", {
  folder <- withr::local_tempdir()
  writeLines(c("g,y", "a,1", "b,2", "a,4", "b,7"), file.path(folder, "in.csv"))
  f <- file.path(folder, "data.zip")
  zip::zip(f, "in.csv", root = folder)
  study <- open_study(f)
  expect_equal(as.list(study)$sources[[1]]$file, "data.zip/in.csv")
  expect_equal(as.data.frame(study)$y, c(1, 2, 4, 7))
  expect_retraces(ask(study, "mean y"))
})

test_that("paths that lead out of the archive and archives that explode are refused, and nothing is written", {
  # a stored entry with a hostile name, put together by hand
  entry <- function(name, size = 3) {
    n <- charToRaw(name); le <- function(x, k) as.raw((x %/% 256^(0:(k - 1))) %% 256)
    local <- c(as.raw(c(0x50, 0x4b, 3, 4)), le(20, 2), le(0, 2), le(0, 2), le(0, 4), le(0x8c736521 %% 2^32, 4), le(3, 4), le(size, 4),
      le(length(n), 2), le(0, 2), n, charToRaw("foo"))
    central <- c(as.raw(c(0x50, 0x4b, 1, 2)), le(20, 2), le(20, 2), le(0, 2), le(0, 2), le(0, 4), le(0x8c736521 %% 2^32, 4), le(3, 4), le(size, 4),
      le(length(n), 2), le(0, 2), le(0, 2), le(0, 2), le(0, 2), le(0, 4), le(0, 4), n)
    c(local, central, as.raw(c(0x50, 0x4b, 5, 6)), le(0, 2), le(0, 2), le(1, 2), le(1, 2), le(length(central), 4), le(length(local), 4), le(0, 2))
  }
  folder <- withr::local_tempdir()
  f <- file.path(folder, "evil.zip")
  for (name in c("../escaped.csv", "/tmp/escaped.csv", "a/../../escaped.csv")) {
    writeBin(entry(name), f)
    expect_error(open_study(f), class = "upbeatquill_error_unsafe_archive")
  }
  writeBin(entry("big.csv", size = 4e9), f)
  expect_error(open_study(f), class = "upbeatquill_error_file_too_large")
  writeBin(charToRaw("PK\003\004 nonsense"), f)
  expect_error(open_study(f), class = "upbeatquill_error_file_unreadable")
  expect_false(file.exists(file.path(dirname(folder), "escaped.csv")))
})
