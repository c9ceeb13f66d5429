verdict_of <- function(check) check$verdict

test_that("a tiny skew in many rows is ok, a wild one in few is not", {
  check <- internal("check_mean_normal")
  mild <- with_seed(1, rgamma(50000, 30))
  expect_equal(verdict_of(check(list(mild, mild), c("a", "b"))), "ok")
  wild <- c(1, 1, 2, 1, 1, 2, 1, 90)
  expect_equal(verdict_of(check(list(wild, wild), c("a", "b"))), "caution")
  expect_equal(verdict_of(check(list(c(1, 2, 3), c(2, 3, 4)), c("a", "b"))), "caution")
})

test_that("unequal spreads matter to a test that pools them", {
  check <- internal("check_equal_spread")
  x <- list(c(1, 2, 3, 4), c(1, 20, 40, 60))
  expect_equal(verdict_of(check(x, c("a", "b"), TRUE)), "caution")
  expect_equal(verdict_of(check(x, c("a", "b"), FALSE)), "ok")
})

test_that("far values are counted by Tukey's outer fences", {
  out <- internal("check_far_values")(list(c(1:20, 200)), "a")
  expect_equal(out$numbers[[1]]$value, 1)
  expect_equal(verdict_of(out), "caution")
})

test_that("repeated units break independence", {
  expect_equal(verdict_of(internal("check_independent_rows")(c("a", "a", "b"), "who")), "broken")
  expect_equal(verdict_of(internal("check_independent_rows")(c("a", "b"), "who")), "ok")
  expect_equal(verdict_of(internal("check_independent_rows")(NULL, NULL)), "not_assessed")
})
