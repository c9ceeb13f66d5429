test_that("the partial rank correlation is the partial correlation of ranks", {
  rows <- with_seed(98, data.frame(x = rnorm(50), z = rexp(50), g = rep(c("a", "b"), 25)))
  rows$y <- exp(rows$x + rows$z / 2 + rnorm(50))
  a <- ask(open_study(rows), "partial rank correlation of y and x controlling for z")
  r <- sapply(rows[c("y", "x", "z")], rank)
  e <- residuals(lm(r[, 1:2] ~ r[, 3]))
  expect_equal(value_of(a, "rho"), cor(e)[1, 2], tolerance = 1e-10)
  expect_equal(value_of(a, "rho_plain"), cor(rows$x, rows$y, method = "spearman"), tolerance = 1e-10)
  fit <- summary(lm(r[, 1] ~ r[, 2] + r[, 3]))$coefficients[2, ]
  expect_equal(c(value_of(a, "statistic"), value_of(a, "p_value")), unname(fit[3:4]), tolerance = 1e-10)
  expect_retraces(a)
  # a steep curve of one column changes nothing
  rows$x <- exp(3 * rows$x)
  expect_equal(value_of(ask(open_study(rows), "partial rank correlation of y and x controlling for z"), "rho"), value_of(a, "rho"), tolerance = 1e-10)
  b <- ask(open_study(rows), "partial correlation of y and x controlling for z and g")
  expect_equal(as.list(b)$second_opinions[[1]]$method$id, "partial_ranks")
  expect_retraces(ask(open_study(rows), "partial rank correlation of y and x controlling for z and g"))
})
