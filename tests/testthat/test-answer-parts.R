test_that("the parts of an answer are tables and texts of their documented shape", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  expect_named(numbers(a), c("id", "label", "value", "of"))
  expect_named(checks(a), c("id", "verdict", "method", "meaning"))
  expect_true(all(checks(a)$verdict %in% c("ok", "caution", "broken", "not_assessed")))
  expect_s3_class(reading(a), "upbeatquill_reading")
  expect_gt(nchar(write_up(a)), nchar(write_up(a, "short")))
  expect_error(numbers(1), class = "upbeatquill_error_input")
})

test_that("figures are saved whole in three formats and refused in others", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  for (type in c("png", "svg", "pdf")) {
    f <- withr::local_tempfile(fileext = paste0(".", type))
    figure(a, f)
    expect_gt(file.size(f), 1000)
  }
  expect_error(figure(a, "x.bmp"), class = "upbeatquill_error_input")
  expect_error(figure(a, file.path(tempdir(), "none", "x.png")), class = "upbeatquill_error_folder_missing")
})
