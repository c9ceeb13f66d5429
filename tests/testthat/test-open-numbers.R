numbers_in <- function(values) { style <- internal("number_style")(values); if (is.null(style)) NULL else internal("as_numbers")(values, style) }

test_that("signs, brackets, currencies and marks are read as what they mean", {
  expect_equal(numbers_in(c("(1,234.50)", "2,345.00", "(99.10)")), c(-1234.5, 2345, -99.1))
  expect_equal(numbers_in(c("\u22125.2", "3.1")), c(-5.2, 3.1))
  expect_equal(numbers_in(c("120,50-", "7,25")), c(-120.5, 7.25))
  expect_equal(numbers_in(c("12,34,567", "1,23,456.5", "999")), c(1234567, 123456.5, 999))
  expect_equal(numbers_in(c("EUR 1.234,50", "EUR 7,00")), c(1234.5, 7))
  expect_equal(numbers_in(c("\u20b9 1,200", "\u20b9 15")), c(1200, 15))
  expect_null(numbers_in(c("(a)", "(b)")))
  expect_null(numbers_in(c("(1)", "(2)")))
})

test_that("durations and times of day are numbers with a unit that says so", {
  clock <- function(name, values) { style <- internal("clock_style")(name, values); list(style$unit, internal("as_numbers")(values, style)) }
  expect_equal(clock("call duration", c("01:30:00", "00:00:45")), list("min", c(90, 0.75)))
  expect_equal(clock("finish", c("52:30", "61:15")), list("min", c(52.5, 61.25)))
  expect_equal(clock("arrival_time", c("08:30", "17:45")), list("o'clock", c(8.5, 17.75)))
  expect_null(internal("clock_style")("ratio", c("1:30", "2:45")))
  d <- data.frame(caller = sprintf("c%d", 1:12), call_duration = sprintf("00:%02d:30", 1:12))
  s <- open_study(local_data(d))
  a <- ask(s, "average call duration")
  expect_equal(value_of(a, "estimate"), mean(1:12 + 0.5))
  expect_retraces(a)
})
