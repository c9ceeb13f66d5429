messages_of <- function(study) vapply(as.list(study)$findings, `[[`, "", "message")

test_that("repeats, odd values, spellings, codes and constants are found and nothing is changed", {
  d <- data.frame(town = rep(c("North", "north ", "South", "South"), 10), y = c(1000, (1:39) / 10), fixed = 1, m = c(rep(NA, 15), 1:25))
  d <- rbind(d, d[5, ])
  said <- messages_of(open_study(d))
  expect_true(any(grepl("same as an earlier row", said)))
  expect_true(any(grepl("town", said) & grepl("spelling", said)))
  expect_true(any(grepl("^y: 1 value lies far", said)))
  expect_true(any(grepl("fixed: the same value", said)))
  expect_true(any(grepl("^m: 39 % of the values are missing", said)))
  expect_equal(nrow(as.data.frame(open_study(d))), 41)
})

test_that("clean data has nothing to say", {
  d <- data.frame(g = rep(c("a", "b"), 10), y = with_seed(71, rnorm(20)))
  expect_length(messages_of(open_study(d)), 0)
})
