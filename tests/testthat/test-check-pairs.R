test_that("a bend is seen, a straight line is not suspected", {
  x <- with_seed(5, runif(200, 0, 10))
  expect_equal(internal("check_linear")(x, x^2 + with_seed(6, rnorm(200)))$verdict, "caution")
  expect_equal(internal("check_linear")(x, 3 * x + with_seed(7, rnorm(200)))$verdict, "ok")
})

test_that("the change when one row is left out is the one found by leaving it out", {
  x <- with_seed(8, rnorm(30)); y <- x + with_seed(9, rnorm(30)); x[30] <- 9; y[30] <- -9
  out <- internal("check_influence_pair")(x, y, cor(x, y))
  changes <- vapply(1:30, function(i) cor(x[-i], y[-i]) - cor(x, y), 1)
  expect_equal(out$numbers[[1]]$value, changes[which.max(abs(changes))], tolerance = 1e-10)
})

test_that("residual spread, Cook's distance and inflation agree with their base-R forms", {
  d <- with_seed(10, data.frame(a = rnorm(60), b = rnorm(60)))
  d$y <- d$a + rnorm(60) * exp(d$a)
  m <- lm(y ~ a + b, d)
  x <- cbind(1, d$a, d$b)
  fit <- internal("stat_least_squares")(x, d$y)
  aux <- summary(lm(resid(m)^2 ~ d$a + d$b))
  expect_equal(internal("check_residual_spread")(x, fit$residuals)$numbers[[1]]$value, 60 * aux$r.squared, tolerance = 1e-9)
  expect_equal(internal("check_influence_fit")(fit)$numbers[[1]]$value, max(cooks.distance(m)), tolerance = 1e-9)
  vif <- internal("check_collinear")(x, fit$kept, c("1", "a", "b"))$numbers[[1]]$value
  expect_equal(vif, 1 / (1 - summary(lm(a ~ b, d))$r.squared), tolerance = 1e-9)
})
