test_that("logistic and Poisson fits are glm()'s", {
  d <- with_seed(61, data.frame(a = rnorm(120), b = rnorm(120)))
  d$y <- with_seed(62, rbinom(120, 1, plogis(0.4 + d$a - 0.5 * d$b)))
  d$k <- with_seed(63, rpois(120, exp(0.5 + 0.4 * d$a)))
  x <- cbind(1, d$a, d$b)
  for (family in c("binomial", "poisson")) {
    y <- if (family == "binomial") d$y else d$k
    out <- internal("stat_generalised")(x, y, family)
    ref <- glm(y ~ a + b, data = cbind(d[c("a", "b")], y = y), family = family, control = glm.control(epsilon = 1e-14, maxit = 50))
    expect_equal(out$coefficients, unname(coef(ref)), tolerance = 1e-9)
    expect_equal(out$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-7)
    expect_equal(c(out$deviance, out$null_deviance, out$aic), c(ref$deviance, ref$null.deviance, ref$aic), tolerance = 1e-10)
  }
})

test_that("perfect separation is noticed, not reported as an odds ratio of millions", {
  x <- cbind(1, 1:20); y <- as.numeric(1:20 > 10)
  expect_true(internal("stat_generalised")(x, y, "binomial")$separated)
  a <- ask(open_study(data.frame(x = (1:20) + 0.5, y = rep(c("no", "yes"), each = 10))), "logistic regression of y on x")
  expect_equal(checks(a)$verdict[checks(a)$id == "separation"], "broken")
})

test_that("the area under the curve is the share of pairs", {
  p <- c(0.1, 0.4, 0.35, 0.8); y <- c(0, 0, 1, 1)
  expect_equal(internal("stat_auc")(p, y)$auc, 3 / 4)
})
