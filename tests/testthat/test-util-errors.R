test_that("every error has its exact class, its family and the package's class, with facts as fields", {
  e <- tryCatch(amend(hive_study(), armm = list(kind = "category")), error = identity)
  expect_s3_class(e, c("upbeatquill_error_column_unknown", "upbeatquill_error_data", "upbeatquill_error"), exact = FALSE)
  expect_equal(e$column, "armm")
  expect_true("arm" %in% e$nearest)
  expect_match(conditionMessage(e), "Did you mean \"arm\"")
})

test_that("a file is written whole or not at all", {
  folder <- withr::local_tempdir()
  f <- file.path(folder, "x.txt")
  writeLines("old", f)
  expect_error(internal("write_whole")(f, function(to) { writeLines("half", to); stop("broken") }))
  expect_equal(readLines(f), "old")
  expect_equal(list.files(folder, all.files = TRUE, no.. = TRUE), "x.txt")
})
