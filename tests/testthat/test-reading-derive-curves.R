curve_data <- function() {
  set.seed(3)
  x <- 0:20
  data.frame(x = x, w1 = 1 + x - x^2 / 9 + stats::rnorm(21), w5 = stats::rnorm(21))
}

test_that("the degree of a polynomial is told in any wording and place", {
  s <- open_study(curve_data())
  for (q in c("fit a polynomial of degree 5 of w1 on x", "polynomial of degree 5 in x for w1", "fit a fifth degree polynomial of w1 on x",
              "quintic of w1 on x", "regress w1 on x with a polynomial of degree 5", "fit a 5th order polynomial to w1 against x")) {
    r <- reading(ask(s, q))
    expect_equal(r[c("task", "outcome", "predictors", "method_asked")], list(task = "predict", outcome = "w1", predictors = "x",
                                                                             method_asked = "polynomial_regression"), info = q)
    expect_equal(r$extra$degree, 5L, info = q)
  }
})

test_that("powers that are written out are a polynomial, and other sums are none", {
  s <- open_study(curve_data())
  d <- curve_data()
  a <- ask(s, "fit w1 = x + x^2 + x^3")
  expect_equal(table_of(a, "coefficients")$estimate, unname(coef(lm(w1 ~ x + I(x^2) + I(x^3), d))), tolerance = 1e-8)
  expect_retraces(a)
  expect_equal(reading(ask(s, "w1 ~ x + I(x^2)"))$extra$degree, 2L)
  expect_false(identical(reading(ask(s, "w1 ~ x + w5"))$method_asked, "polynomial_regression"))
  expect_false(identical(reading(ask(s, "w1 = nothing^2"))$method_asked, "polynomial_regression"))
})
