test_that("Cochran's rule is applied as written", {
  check <- internal("check_expected_counts")
  expect_equal(check(matrix(c(10, 10, 10, 10), 2))$verdict, "ok")
  expect_equal(check(matrix(c(0.5, 10, 10, 10), 2))$verdict, "broken")
  expect_equal(check(matrix(c(4, 4, 10, 10), 2))$verdict, "broken")
})
