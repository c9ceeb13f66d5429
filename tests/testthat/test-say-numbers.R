test_that("numbers become text by size, p values without a leading zero, intervals alike", {
  say <- internal("say_number")
  expect_equal(say(c(0, 0.012345, 1.2345, 123.4, 12345.6, NA, Inf)), c("0", "0.0123", "1.23", "123", "12,346", "\u2013", "\u221e"))
  p <- internal("say_p")
  expect_equal(vapply(c(0.2, 0.049, 0.0049, 1e-5, 0.9999), p, ""), c("p = .20", "p = .049", "p = .005", "p < .001", "p > .99"))
  expect_equal(internal("say_interval")(0.734, 5.1), "95 % CI 0.73 to 5.10")
  expect_equal(internal("say_size")(0.5, "d"), "medium by Cohen's convention")
})

test_that("ratios and coefficients have the places that their intervals and errors call for", {
  odds <- data.frame(odds_ratio = c(1.0019, 2.5), odds_ratio_low = c(0.9970, 1.1), odds_ratio_high = c(1.0069, 5.7))
  r <- internal("say_ratio")(odds, "odds_ratio", 0.95)
  expect_equal(r$value, c("1.0019", "2.50"))
  expect_match(r$interval[1], "0.9970 to 1.0069", fixed = TRUE)
  expect_equal(internal("say_by_error")(c(-3.1234, 0.00191, 12.3), c(2.04, 0.00253, NA)), c("-3.1", "0.0019", "12.3"))
})

test_that("a rounded nothing carries no sign", {
  say <- internal("say_number")
  expect_equal(say(c(-0.0001, 0.0001, -0.02, -7e-18), 2), c("0.00", "0.00", "-0.02", "0.00"))
  expect_equal(say(-0.4, 0), "0")
})

test_that("what is a little less than all is not called all", {
  expect_equal(internal("say_percent")(c(1, 0.9997, 0.995, 0.5), 0), c("100 %", "99.97 %", "99.5 %", "50 %"))
  expect_equal(internal("say_unit")(c(1, 0.9977, -0.99996, 0.5, NA)), c("1.00", ".998", "-1.0000", ".50", "\u2013"))
})

test_that("numbers that lie close together for their size keep the places in which they differ", {
  expect_equal(internal("say_alike")(c(10000000.194, 10000000.206)), c("10,000,000.194", "10,000,000.206"))
  expect_equal(internal("say_estimate")(10000000.2, 10000000.194, 10000000.206), "10,000,000.200")
  expect_equal(internal("say_alike")(c(2019, 2020)), c("2019", "2020"))
  d <- data.frame(g = rep(c("a", "b"), each = 20), v = 1e7 + rep(c(0.1, 0.3), 20) + rep(0:1, each = 20))
  lines <- capture.output(print(ask(open_study(d), "mean of v by g")))
  expect_true(any(grepl("10,000,000.200", lines, fixed = TRUE)) && any(grepl("10,000,001.200", lines, fixed = TRUE)))
})
