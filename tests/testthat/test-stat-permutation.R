permutation <- internal("stat_permutation_means")

test_that("few rows are enumerated: the p value is an exact fraction", {
  # differences as far as -3 from 20 relabellings of 1..6: only {1,2,3} and {4,5,6}
  out <- permutation(c(1, 2, 3), c(4, 5, 6))
  expect_true(out$exact)
  expect_equal(out$p_value, 2 / 20)
})

test_that("the random p value is reproducible, whatever the session's own generator does", {
  x <- with_seed(31, rnorm(40)); y <- with_seed(32, rnorm(40, 0.4))
  a <- permutation(x, y, seed = 7)
  set.seed(99); before <- .Random.seed
  b <- permutation(x, y, seed = 7)
  expect_identical(a, b)
  expect_identical(.Random.seed, before)
  expect_false(identical(a$p_value, permutation(x, y, seed = 8)$p_value))
})

test_that("it comes close to the t test where that one is right", {
  x <- with_seed(33, rnorm(200)); y <- with_seed(34, rnorm(200, 0.2))
  expect_equal(permutation(x, y)$p_value, t.test(x, y)$p.value, tolerance = 0.15)
})

test_that("the result does not depend on the number of threads", {
  kernel <- internal("kernel_permuted_sums"); seed <- internal("stream_seed")(5)
  x <- with_seed(35, rnorm(100))
  expect_identical(kernel(x, 30, 3000, seed, 1L), kernel(x, 30, 3000, seed, 2L))
})

test_that("constant values are refused", {
  expect_error(permutation(c(2, 2, 2), c(2, 2)), class = "upbeatquill_error_outcome_constant")
})
