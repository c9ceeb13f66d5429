test_that("delimiters, byte-order marks, quotes and blanks are read as they stand", {
  for (sep in c(",", ";", "\t", "|")) {
    f <- local_csv(c(paste("name", "value", sep = sep), paste("\"a b\"", "1.5", sep = sep), paste("c", "2", sep = sep)))
    d <- as.data.frame(open_study(f))
    expect_equal(names(d), c("name", "value"))
    expect_equal(d$value, c(1.5, 2))
  }
  f <- local_csv(c("\ufeffgroup,x", "a,1", "b,2"))
  expect_equal(names(as.data.frame(open_study(f))), c("group", "x"))
})

test_that("awkward names stay as in the file; blanks and repeats are numbered", {
  f <- local_csv(c("if,x y,,x y,\"a \"\"b\"\"; stop()\"", "1,2,3,4,5", "2,3,4,5,7"))
  expect_equal(names(as.data.frame(open_study(f))), c("if", "x y", "V3", "x y (2)", "a \"b\"; stop()"))
})

test_that("leading zeros and long keys are not numbers", {
  f <- local_csv(c("code,card", "0012,12345678901234567890", "0450,12345678901234567891", "0007,12345678901234567892"))
  d <- as.data.frame(open_study(f))
  expect_equal(d$code, c("0012", "0450", "0007"))
  expect_equal(d$card[1], "12345678901234567890")
})

test_that("files that hold no table are refused in one message", {
  for (case in list(list("file_empty", ""), list("file_no_rows", "a,b\n"), list("file_empty", "\n\n  \n"))) {
    f <- withr::local_tempfile(fileext = ".csv")
    writeBin(charToRaw(case[[2]]), f)
    expect_error(open_study(f), class = paste0("upbeatquill_error_", case[[1]]))
  }
  f <- withr::local_tempfile(fileext = ".csv")
  writeBin(as.raw(c(0x89, 0x50, 0x4e, 0x47, 0, 1, 2, 3, rep(0:255, 20))), f)
  expect_error(open_study(f), class = "upbeatquill_error_file_binary")
  f <- local_csv(c("a,b", "1,2", "3,4,5,6", "7,8"))
  expect_error(open_study(f), class = "upbeatquill_error_input")
})
