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

test_that("words of laboratories, top codes and words of other languages keep no column from being numbers", {
  d <- data.frame(result = c("ND", "<0.5", seq(1, 9.5, by = 0.5)), age = c("35 years", "42 yrs", "90+", 21:37),
                  mark = c("5.4*", "6.1**", "7.25", seq(1, 9, by = 0.5)), wait = c("keine Angabe", "k.A.", "(blank)", rev(1:17)))
  s <- open_study(local_data(d))
  b <- codebook(s)
  expect_equal(b$kind, c("number", "count", "number", "count"))
  expect_equal(b$missing, c(2, 1, 0, 3))
  expect_match(vapply(as.list(s)$findings, `[[`, "", "message"), "age: 1 value lies beyond a limit .*too low", all = FALSE)
  a <- ask(s, "mean of age")
  expect_equal(value_of(a, "estimate"), mean(c(35, 42, 21:37)))
  expect_retraces(a)
  a <- ask(s, "mean of mark")
  expect_equal(value_of(a, "estimate"), mean(c(5.4, 6.1, 7.25, seq(1, 9, by = 0.5))))
  expect_retraces(a)
})

test_that("amounts in several currencies stay apart, and a refusal among the answers of a scale is proposed", {
  d <- data.frame(price = paste0(c("$", "\u20ac"), 11:22), opinion = rep(c("Agree", "Neutral", "Disagree", "Prefer not to say"), 3))
  s <- open_study(local_data(d))
  told <- vapply(as.list(s)$findings, `[[`, "", "message")
  expect_match(told, "price: amounts in several units", all = FALSE)
  expect_match(told, "opinion: \"Prefer not to say\" looks like a code", all = FALSE)
  done <- amend(s, "treat \"Prefer not to say\" as missing in opinion")
  expect_equal(codebook(done)$kind[2], "ordered")
})

test_that("a high code far beyond all values is missing where several rows hold it, and a price is left alone", {
  codes <- internal("profile_column")
  x <- c(with_seed(4, round(rnorm(60, 11, 1), 1)), rep(999, 4))
  expect_equal(codes("weight_g", x)$missing_codes, 999)
  expect_length(codes("price", x)$missing_codes, 0)
  # one row may be an odd value, and a near value is none: both are proposed
  expect_length(codes("weight_g", x[1:61])$missing_codes, 0)
  expect_equal(codes("weight_g", x[1:61])$proposed$codes, 999)
  expect_length(codes("weight_g", c(x[1:60] * 20, 999, 999, 999))$missing_codes, 0)
})

test_that("values too large to compute with are read as missing, and told", {
  d <- data.frame(g = rep(c("a", "b"), 30), x = c(1e308, 1e200, 1e308, stats::rnorm(57)))
  s <- open_study(local_data(d))
  expect_match(vapply(as.list(s)$findings, `[[`, "", "message"), "x: 3 values are infinite or too large to compute with", all = FALSE)
  a <- ask(s, "mean of x")
  expect_equal(value_of(a, "estimate"), mean(d$x[d$x < 1e100]))
  expect_retraces(a)
})
