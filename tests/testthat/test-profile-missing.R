test_that("a negative code apart from all other values is read as missing, a plain value is not", {
  codes <- internal("missing_codes_of")
  expect_equal(codes(c(1:20, -99, -99)), -99)
  expect_null(codes(c(1:20, -99)))              # once could be a slip of anything
  expect_null(codes(c(-5:20, -99, -99)))        # other values lie below zero too
  expect_null(codes(c(95:99, 99)))
})

test_that("codes leave the mean alone and are counted as missing", {
  d <- data.frame(mites = c(4, 6, 8, -99, 10, 2, 4, -99, 3, 5))
  a <- ask(open_study(d), "mean of mites")
  expect_equal(value_of(a, "estimate"), mean(c(4, 6, 8, 10, 2, 4, 3, 5)))
  expect_equal(as.list(a)$rows$left_out_missing, 2L)
})

test_that("words for missing are found in text columns", {
  b <- codebook(open_study(data.frame(arm = c("a", "b", "n/a", "a", "b", "refused"))))
  # a refusal is an answer until the analyst says otherwise
  expect_equal(b$missing, 1L)
})

test_that("codes of short scales are proposed, endless values and -8 beside -9 are read as missing", {
  d <- data.frame(q1 = rep(c(1:5, 9), 10), q2 = rep(c(1:7, -8, -9, 3), 6), x = c(Inf, -Inf, rnorm(58)), pets = rep(c(0, 1, 2, 3, 4, 5), 10))
  s <- open_study(local_data(d))
  found <- as.list(s)$findings
  told <- vapply(found, `[[`, "", "message")
  expect_match(told, "^q1: \"9\" looks like a code", all = FALSE)
  expect_match(told, "^q2: \"-9\" and \"-8\" are read as missing \\(12 rows\\)", all = FALSE)
  expect_match(told, "^x: 2 values are infinite", all = FALSE)
  expect_false(any(grepl("^pets: \"", told)))
  a <- ask(s, "mean of x")
  expect_equal(value_of(a, "estimate"), mean(d$x[is.finite(d$x)]))
  expect_retraces(a)
})

test_that("values written in another way are no code for missing, but are told", {
  d <- data.frame(height = c("170", "1.72", "180", "165", "171", "169", "5ft 8in"), x = 1:7 / 2)
  told <- vapply(as.list(open_study(local_data(d)))$findings, `[[`, "", "message")
  expect_match(told, "most values are numbers, but 1 row is not", all = FALSE)
})
