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
