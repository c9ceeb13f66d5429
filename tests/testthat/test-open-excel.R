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

workbook_with <- function(fill, env = parent.frame()) {
  f <- withr::local_tempfile(fileext = ".xlsx", .local_envir = env)
  wb <- openxlsx::createWorkbook()
  openxlsx::addWorksheet(wb, "s")
  fill(function(x, row, col = 1, names = TRUE) openxlsx::writeData(wb, "s", x, startRow = row, startCol = col, colNames = names), wb)
  openxlsx::saveWorkbook(wb, f)
  f
}

test_that("empty rows above, merged names of groups and notes below are no data", {
  d <- data.frame(id = 1:12, arm = rep(c("A", "B"), 6), kg = 60 + 1:12 / 8)
  s <- open_study(workbook_with(function(put, wb) { put("A title", 3); put(d, 5); put("* measured twice", 19) }))
  a <- ask(s, "mean of kg")
  expect_equal(value_of(a, "estimate"), mean(d$kg))
  expect_retraces(a)
  s <- open_study(workbook_with(function(put, wb) {
    put(t(c(NA, "Baseline", NA, "Week 12", NA)), 1, names = FALSE); put(t(c("id", "kg", "pain", "kg", "pain")), 2, names = FALSE)
    put(data.frame(1:12, d$kg, rep(1:4, 3), d$kg - 1, rep(0:2, 4)), 3, names = FALSE)
    openxlsx::mergeCells(wb, "s", cols = 2:3, rows = 1)
  }))
  expect_equal(codebook(s)$column, c("id", "Baseline kg", "Baseline pain", "Week 12 kg", "Week 12 pain"))
  a <- ask(s, "mean of `Week 12 kg`")
  expect_equal(value_of(a, "estimate"), mean(d$kg - 1))
  expect_retraces(a)
})

test_that("tables below and beside each other in a sheet are tables of their own", {
  d <- data.frame(id = 1:10, arm = rep(c("A", "B"), 5), kg = 60 + 1:10 / 8)
  sites <- data.frame(site = c("X", "Y", "Z"), beds = c(31, 45, 52))
  for (s in list(open_study(workbook_with(function(put, wb) { put(d, 1); put(sites, 14) })),
                 open_study(workbook_with(function(put, wb) { put(d, 1); put(sites, 1, 6) })))) {
    expect_equal(vapply(as.list(s)$tables, `[[`, 1, "rows"), c(10, 3))
    a <- ask(s, "mean of beds")
    expect_equal(value_of(a, "estimate"), mean(sites$beds))
    expect_retraces(a)
    expect_retraces(ask(s, "mean of kg"))
  }
})
