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

test_that("a text for people beside tables is set aside and told, a broken table is not", {
  folder <- withr::local_tempdir()
  writeLines(c("This folder holds the data of the trial.", "See data.csv, which has two columns, and no others."), file.path(folder, "README.txt"))
  utils::write.csv(data.frame(a = 1:5, b = 5:1), file.path(folder, "data.csv"), row.names = FALSE)
  packed <- withr::local_tempfile(fileext = ".zip")
  zip::zip(packed, c("README.txt", "data.csv"), root = folder)
  for (where in c(folder, packed)) {
    s <- open_study(where)
    expect_equal(nrow(as.data.frame(s, "data")), 5)
    expect_equal(as.list(ask(s, "how many rows"))$rows$used, 5)
  }
  writeLines("hello", file.path(folder, "README.txt"))
  expect_match(vapply(as.list(open_study(folder))$findings, `[[`, "", "message"), "\"README.txt\" holds no table and was set aside", all = FALSE)
  writeLines(c("a,b", "1,2,3", "\"x"), file.path(folder, "broken.csv"))
  expect_error(open_study(folder), "broken.csv")
})

test_that("a link in a folder that leads out of it is not followed", {
  skip_on_os("windows")
  folder <- withr::local_tempdir(); other <- withr::local_tempfile(fileext = ".csv")
  utils::write.csv(data.frame(secret = 1:3), other, row.names = FALSE)
  utils::write.csv(data.frame(a = 1:5), file.path(folder, "data.csv"), row.names = FALSE)
  file.symlink(other, file.path(folder, "other.csv"))
  expect_equal(vapply(as.list(open_study(folder))$tables, `[[`, "", "name"), "data")
})
