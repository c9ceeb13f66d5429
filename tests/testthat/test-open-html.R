test_that("a page that was saved under the name of a workbook opens, and retraces", {
  f <- withr::local_tempfile(fileext = ".xls")
  writeLines(c("<html><body><h1>Scores</h1><table><tr><th>Name</th><th>Score</th></tr>",
               sprintf("<tr><td>N%d</td><td>%d</td></tr>", 1:20, 41:60), "</table></body></html>"), f)
  s <- open_study(f)
  a <- ask(s, "mean of score")
  expect_equal(value_of(a, "estimate"), mean(41:60))
  expect_retraces(a)
})

test_that("every table of a page is one, and a page without any is refused", {
  f <- withr::local_tempfile(fileext = ".html")
  writeLines(c("<table><tr><th>a</th><th>b</th></tr><tr><td>1.5</td><td>x</td></tr><tr><td>2.5</td><td>y</td></tr></table>",
               "<table><tr><th>town</th><th>people</th></tr><tr><td>Ulm</td><td>120</td></tr><tr><td>Kiel</td><td>240</td></tr></table>"), f)
  expect_equal(vapply(as.list(open_study(f))$tables, `[[`, 1, "rows"), c(2, 2))
  writeLines("<html><p>nothing here</p></html>", f)
  expect_error(open_study(f), class = "upbeatquill_error_file_no_rows")
})

test_that("a text that was saved under the name of a workbook opens", {
  f <- withr::local_tempfile(fileext = ".xlsx")
  writeLines(c("plot,kg", sprintf("p%d,%s", 1:8, 1:8 / 4)), f)
  a <- ask(open_study(f), "mean of kg")
  expect_equal(value_of(a, "estimate"), mean(1:8 / 4))
  expect_retraces(a)
})
