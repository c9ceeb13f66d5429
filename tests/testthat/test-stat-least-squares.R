fit_of <- internal("stat_least_squares")

test_that("coefficients, errors and fit agree with lm()", {
  d <- with_seed(51, data.frame(a = rnorm(60), b = runif(60), y = rnorm(60)))
  out <- fit_of(cbind(1, d$a, d$b), d$y)
  ref <- summary(lm(y ~ a + b, d))
  expect_equal(out$coefficients, unname(coef(ref)[, 1]), tolerance = 1e-11)
  expect_equal(out$se, unname(coef(ref)[, 2]), tolerance = 1e-11)
  expect_equal(c(out$r_squared, out$adj_r_squared, out$sigma), c(ref$r.squared, ref$adj.r.squared, ref$sigma), tolerance = 1e-11)
  expect_equal(out$leverage, unname(hatvalues(lm(y ~ a + b, d))), tolerance = 1e-10)
})

test_that("a tenth-degree polynomial on whole numbers keeps its exact coefficients", {
  # y = sum of x^0 .. x^10 at 0 .. 20 has coefficients of exactly one
  x <- 0:20
  columns <- outer(x, 0:10, "^")
  out <- fit_of(columns, rowSums(columns))
  expect_equal(out$coefficients, rep(1, 11), tolerance = 1e-10)
  ref <- unname(lm.fit(columns, rowSums(columns), tol = 1e-12)$coefficients)
  expect_lt(max(abs(out$coefficients - 1)), max(abs(ref - 1)))
})

test_that("an aliased column is reported and left out", {
  x <- with_seed(52, rnorm(30))
  out <- fit_of(cbind(1, x, 2 * x + 3), x + with_seed(53, rnorm(30)))
  expect_equal(out$aliased, 3L)
  expect_true(is.na(out$coefficients[3]))
})

test_that("more coefficients than rows are refused", {
  expect_error(fit_of(cbind(1, 1:3, c(2, 5, 9)), c(1, 2, 4)), class = "upbeatquill_error_too_few_rows")
})

test_that("the robust errors are HC3 by their definition", {
  x <- cbind(1, with_seed(54, rnorm(25)))
  y <- with_seed(55, rnorm(25)) * abs(x[, 2])
  fit <- fit_of(x, y)
  bread <- solve(crossprod(x))
  e <- fit$residuals / (1 - fit$leverage)
  expect_equal(unname(internal("stat_hc3")(x, fit)), unname(bread %*% crossprod(x * e) %*% bread), tolerance = 1e-10)
})

test_that("rows may come in any order and the factor in pieces", {
  x <- cbind(1, with_seed(56, rnorm(200000)))
  y <- x[, 2] + with_seed(57, rnorm(200000))
  a <- fit_of(x, y)
  b <- fit_of(x[200000:1, ], rev(y))
  expect_equal(a$coefficients, b$coefficients, tolerance = 1e-12)
  expect_equal(a$coefficients, unname(lm.fit(x, y)$coefficients), tolerance = 1e-12)
})
