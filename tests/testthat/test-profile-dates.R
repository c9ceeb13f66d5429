test_that("day and month are told apart by the whole column, and left alone when they cannot be", {
  found <- internal("date_format_of")
  expect_equal(found(c("03/04/2024", "25/12/2023"))$format, "%d/%m/%Y")
  expect_equal(found(c("03/04/2024", "12/25/2023"))$format, "%m/%d/%Y")
  expect_null(found(c("03/04/2024", "05/06/2024")))
  expect_null(found(c("30/02/2024", "25/12/2023")))
  expect_equal(found("2024-02-29")$format, "%Y-%m-%d")
  expect_null(found("2023-02-29"))
})
