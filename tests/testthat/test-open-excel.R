test_that("all sheets open, titles above the header are passed over, and the sheet that is a dictionary is applied", {
  f <- withr::local_tempfile(fileext = ".xlsx")
  d <- data.frame(plot_id = sprintf("P%02d", 1:12), arm = rep(1:2, 6), yield = c(3.5, 4, 5.25, 6, 7, 8, 2, 3, 4, 5, 6, 7),
    day = as.Date("2024-03-01") + 0:11)
  book <- data.frame(column = c("arm", "yield"), label = c("Feeding arm", "Harvest"), levels = c("1=control|2=syrup", ""), unit = c("", "kg"))
  wb <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(wb, "data"); openxlsx::writeData(wb, "data", "Trial of 2024", startRow = 1); openxlsx::writeData(wb, "data", d, startRow = 3)
  openxlsx::addWorksheet(wb, "dictionary"); openxlsx::writeData(wb, "dictionary", book)
  openxlsx::saveWorkbook(wb, f)
  study <- open_study(f)
  b <- codebook(study)
  expect_equal(unique(b$table), "data")
  expect_equal(b$label[b$column == "yield"], "Harvest")
  expect_equal(b$kind[b$column == "day"], "date")
  a <- ask(study, "Does the harvest differ between control and syrup?")
  expect_equal(value_of(a, "estimate"), mean(d$yield[d$arm == 1]) - mean(d$yield[d$arm == 2]), tolerance = 1e-12)
  expect_retraces(a)
})

test_that("a file that only claims to be a workbook is refused in one message", {
  f <- withr::local_tempfile(fileext = ".xlsx")
  writeLines("not a workbook", f)
  expect_error(open_study(f), class = "upbeatquill_error_file_unreadable")
})
