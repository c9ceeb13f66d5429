test_that("a word begun is completed by columns, values and calls of this study only", {
  s <- hive_study()
  expect_equal(complete_question(s, "does honey yield differ between sy"), "does honey yield differ between syrup")
  expect_true("mean honey yield kg" %in% complete_question(s, "mean hon"))
  expect_true("mean honey yield kg" %in% complete_question(s, "mean yie"))
  expect_length(complete_question(s, "mean zzz"), 0)
  expect_false("mean hive id by hive id" %in% complete_question(s, "mean hive id by "))
  expect_lte(length(complete_question(s, "s", most = 3)), 3)
  expect_error(complete_question(s, NA), class = "upbeatquill_error_input")
  expect_length(complete_question(s, strrep("a", 3000)), 0)
})

test_that("asked what can be asked, the questions are those that are answered", {
  a <- as.list(ask(hive_study(), "what can I ask?"))
  expect_gt(length(a[["next"]]), 3)
  expect_equal(status_of(ask(hive_study(), a[["next"]][[1]])), "answered")
})
