test_that("day and month are told apart by the whole column, and left alone when they cannot be", {
  found <- internal("date_format_of")
  expect_equal(found(c("03/04/2024", "25/12/2023"))$format, "%d/%m/%Y")
  expect_equal(found(c("03/04/2024", "12/25/2023"))$format, "%m/%d/%Y")
  expect_equal(found(c("03/04/2024", "05/06/2024"))$role, "undecided_date")
  expect_equal(found(c("03.04.2024", "05.06.2024"))$format, "%d.%m.%Y")
  expect_equal(found(c("03/04/24", "25/12/23"))$format, "%d/%m/%y")
  expect_equal(found(c("03/04/2024 14:30", "25/12/2023 08:00"))[c("kind", "format")], list(kind = "datetime", format = "%d/%m/%Y %H:%M"))
  expect_equal(found(c("2024-03", "2023-12"))$format, "%Y-%m")
  expect_equal(found(c("Apr 3, 2024", "May 1, 2024"))$format, "%b %d, %Y")
  expect_null(found(c("30/02/2024", "25/12/2023")))
  expect_equal(found("2024-02-29")$format, "%Y-%m-%d")
  expect_null(found("2023-02-29"))
})

test_that("undecided dates follow other columns, or the order of the rows", {
  kinds <- function(d) { b <- codebook(open_study(d)); stats::setNames(b$kind, b$column) }
  two <- data.frame(a = c("03/04/2024", "05/06/2024", "01/02/2024"), b = c("25/12/2023", "03/04/2024", "05/06/2024"))
  expect_equal(kinds(two), c(a = "date", b = "date"))
  expect_equal(as.data.frame(open_study(two))$a[1], as.Date("2024-04-03"))
  sorted <- data.frame(a = c("01/02/2024", "03/02/2024", "01/03/2024"), x = 1:3)
  expect_equal(as.data.frame(open_study(sorted))$a, as.Date(c("2024-02-01", "2024-02-03", "2024-03-01")))
  open <- data.frame(a = c("03/04/2024", "01/02/2024", "05/06/2024", "02/02/2024"), x = 1:4)
  expect_equal(kinds(open)[["a"]], "text")
})

test_that("months, quarters and weeks of a year are dates", {
  found <- internal("date_format_of")
  read <- internal("read_dates")
  first <- function(values) read(values, found(values)$format)
  expect_equal(first(c("Jan-21", "Dec-22")), as.Date(c("2021-01-01", "2022-12-01")))
  expect_equal(first(c("January 2021", "May 2022")), as.Date(c("2021-01-01", "2022-05-01")))
  expect_equal(first(c("03/2021", "11/2022")), as.Date(c("2021-03-01", "2022-11-01")))
  expect_equal(first(c("Q1 2021", "Q4 2022")), as.Date(c("2021-01-01", "2022-10-01")))
  expect_equal(first(c("2021-Q2", "2022-Q3")), as.Date(c("2021-04-01", "2022-07-01")))
  # ISO 8601: week 1 of 2021 begins on January 4th, week 53 of 2020 on December 28th
  expect_equal(first(c("2021-W01", "2020-W53")), as.Date(c("2021-01-04", "2020-12-28")))
  expect_null(found(c("Q1", "Q2")))
})

test_that("clock times behind dates are read in twelve and in twenty-four hours", {
  stamp <- function(values) { f <- internal("date_format_of")(values); as.POSIXct(values, format = f$format, tz = "UTC") }
  expect_equal(stamp(c("4/22/2024 7:41 AM", "12/3/2024 12:05 PM")), as.POSIXct(c("2024-04-22 07:41", "2024-12-03 12:05"), tz = "UTC"))
  expect_equal(stamp(c("22-Apr-2024 17:41", "03-Dec-2024 00:05")), as.POSIXct(c("2024-04-22 17:41", "2024-12-03 00:05"), tz = "UTC"))
  expect_equal(stamp("2024-04-22T07:41:30Z"), as.POSIXct("2024-04-22 07:41:30", tz = "UTC"))
})

test_that("day numbers of a spreadsheet are dates under the name of a date only", {
  d <- data.frame(visit_date = c(45292, 45323, 45352, 45383), weight_g = c(45292, 45323, 45352, 45383))
  s <- open_study(local_data(d))
  expect_equal(codebook(s)$kind, c("date", "count"))
  expect_equal(as.data.frame(s)$visit_date, as.Date(c("2024-01-01", "2024-02-01", "2024-03-01", "2024-04-01")))
  expect_retraces(ask(s, "number of rows by month of visit_date"))
})

test_that("stamps with and without a T, seconds and offsets are all read", {
  said <- c("2024-03-01T08:15:00Z", "2024-03-01T09:20:30+02:00", "2024-03-02 10:00", "2024-04-02 11:30:15")
  s <- open_study(local_data(data.frame(id = 1:4, start = said, v = c(2, 4, 5, 9))))
  x <- as.data.frame(s)$start
  expect_equal(format(x, "%Y-%m-%d %H:%M:%S"), c("2024-03-01 08:15:00", "2024-03-01 09:20:30", "2024-03-02 10:00:00", "2024-04-02 11:30:15"))
  a <- ask(s, "mean v per month")
  expect_equal(table_of(a, "time")$mean, c(11 / 3, 9), tolerance = 1e-12)
  expect_retraces(a)
})

test_that("a value that is no date keeps a column from being one, and is shown", {
  d <- data.frame(id = 1:6, start = c("2024-03-01", "TBD", "2024-03-03", "2024-03-04", "2024-05-04", "2024-05-09"), v = 1:6)
  s <- open_study(local_data(d))
  found <- said_of(s)
  expect_true(any(grepl("\"TBD\" looks like a code for missing (1 row; every other value is a date)", found, fixed = TRUE)))
  expect_equal(codebook(amend(s, "treat TBD as missing in start"))$kind[2], "date")
  d$start[2] <- "03/14/2024"
  found <- said_of(open_study(local_data(d)))
  expect_true(any(grepl("not written like the other dates", found)))
  months <- data.frame(id = 1:4, day = c("1 March 2024", "2 Mar 2024", "15 April 2024", "3 May 2024"))
  expect_equal(codebook(open_study(local_data(months)))$kind[2], "date")
})
