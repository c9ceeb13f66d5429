x <- 0:20
powers <- data.frame(x = x, whole = 1 + x + x^2 + x^3 + x^4 + x^5, tenths = 1 + x / 10 + x^2 / 100 + x^3 / 1e3 + x^4 / 1e4 + x^5 / 1e5,
                     line = 3 - 2 * x, other = sin(1:21))

test_that("coefficients of an exact polynomial are right to all digits, and no noise is told as a spread", {
  s <- open_study(powers)
  for (q in list(list("whole", rep(1, 6)), list("tenths", 10^-(0:5)))) {
    a <- ask(s, sprintf("fit a polynomial of degree 5 of %s on x", q[[1]]))
    t <- table_of(a, "coefficients")
    expect_equal(t$estimate, q[[2]], tolerance = 1e-9)
    expect_equal(t$se, rep(0, 6))
    expect_equal(c(value_of(a, "sigma"), value_of(a, "r_squared")), c(0, 1))
    expect_equal(Find(function(k) k$id == "exact_fit", as.list(a)$checks)$verdict, "caution")
    expect_retraces(a)
  }
})

test_that("an exact line has no test to tell, and a column without a part in it a coefficient of zero", {
  s <- open_study(powers)
  a <- ask(s, "regress line on x and other")
  t <- table_of(a, "coefficients")
  expect_equal(t$estimate, c(3, -2, 0))
  expect_true(is.na(t$p_value[3]))
  expect_match(paste(unlist(as.list(a)$sentences$details), collapse = " "), "exact but for the rounding", fixed = TRUE)
  expect_retraces(a)
  b <- ask(s, "spline of line on x")
  expect_equal(value_of(b, "bend_p"), 1)
  expect_retraces(b)
})

test_that("a spread that is small beside the values is a spread", {
  d <- data.frame(x = 1:30, y = 1e9 + 2 * (1:30) + rep(c(-1e-4, 1e-4), 15))
  a <- ask(open_study(d), "regress y on x")
  expect_gt(value_of(a, "sigma"), 9e-5)
  expect_equal(value_of(a, "estimate"), unname(coef(lm(I(y - 1e9) ~ x, d))[2]), tolerance = 1e-9)
})

test_that("nearly collinear powers keep their digits", {
  noise <- rep(c(759, -2048, 2048, -2048, 2523, -2048, 2048), 3)[1:21] * 1e4
  d <- data.frame(x = x, y = powers$whole + noise)
  a <- ask(open_study(d), "fit a polynomial of degree 5 of y on x")
  # the same model on centred powers, whose collinearity is mild
  z <- (x - 10) / 10
  fit <- lm(noise ~ z + I(z^2) + I(z^3) + I(z^4) + I(z^5))
  at <- cbind(1, outer(z, 1:5, "^")) %*% coef(fit) + powers$whole
  b <- table_of(a, "coefficients")$estimate
  expect_equal(drop(cbind(1, outer(x, 1:5, "^")) %*% b), drop(at), tolerance = 1e-9)
  expect_retraces(a)
})
