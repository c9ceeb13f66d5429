# Crossed factors whose cells spread differently.

crossed <- function(n = 12, spread = c(1, 1, 1, 1, 1, 5)) with_seed(103, {
  d <- expand.grid(rep = seq_len(n), drug = c("a", "b", "c"), sex = c("f", "m"))[-(1:4), ]
  d$y <- rnorm(nrow(d), 10) * spread[as.integer(d$drug) + 3 * (as.integer(d$sex) - 1)]
  d
})

test_that("terms are Wald tests with HC3 errors of contrasts that sum to zero", {
  d <- crossed()
  out <- internal("stat_factorial_robust")(d$y, list(drug = factor(d$drug), sex = factor(d$sex)))
  fit <- lm(y ~ drug * sex, d, contrasts = list(drug = "contr.sum", sex = "contr.sum"))
  x <- model.matrix(fit); m <- solve(crossprod(x))
  v <- m %*% crossprod(x * (resid(fit) / (1 - hatvalues(fit)))) %*% m
  own <- vapply(1:3, function(k) { i <- which(attr(x, "assign") == k); drop(coef(fit)[i] %*% solve(v[i, i], coef(fit)[i])) / length(i) }, 1)
  expect_equal(out$statistic, own, tolerance = 1e-8)
  expect_equal(out$df, c(2, 1, 2))
  expect_error(internal("stat_factorial_robust")(d$y[1:6], list(a = factor(c(1, 1, 1, 2, 2, 2)), b = factor(c(1, 1, 2, 1, 2, 2)))),
               class = "upbeatquill_error_data")
})

test_that("it stands beside the classic analysis and can be asked for", {
  s <- open_study(crossed()[c("drug", "sex", "y")])
  a <- ask(s, "two-way anova of y by drug and sex")
  expect_equal(as.list(a)$second_opinions[[1]]$method$id, "factorial_robust")
  b <- ask(s, "robust two way anova of y by drug and sex")
  expect_equal(method_of(b), "factorial_robust")
  expect_retraces(b)
})
