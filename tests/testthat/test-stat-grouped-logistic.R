counts <- data.frame(sex = rep(c("M", "F"), each = 6), dose = rep(0:5, 2), dead = c(1, 4, 9, 13, 18, 20, 0, 2, 6, 10, 12, 16),
                     exposed = c(20, 18, 22, 20, 20, 20, 19, 20, 21, 20, 20, 20))

test_that("counts out of totals are fitted as by glm, and as the same rows one by one", {
  x <- model.matrix(~ dose + sex, counts)
  own <- internal("stat_grouped_logistic")(unname(x), counts$dead, counts$exposed)
  ref <- glm(cbind(dead, exposed - dead) ~ dose + sex, binomial, counts, control = glm.control(epsilon = 1e-14, maxit = 60))
  expect_equal(own$coefficients, unname(coef(ref)), tolerance = 1e-9)
  expect_equal(own$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-7)
  expect_equal(own$deviance, deviance(ref), tolerance = 1e-9)
  expect_equal(c(own$log_likelihood, own$aic, own$bic), c(logLik(ref), AIC(ref), BIC(ref)), tolerance = 1e-9)
  expect_equal(own$pearson, sum(resid(ref, "pearson")^2) / ref$df.residual, tolerance = 1e-8)
  one <- counts[rep(1:12, counts$exposed), ]
  one$died <- unlist(Map(function(d, n) rep(1:0, c(d, n - d)), counts$dead, counts$exposed))
  expect_equal(own$coefficients, unname(coef(glm(died ~ dose + sex, binomial, one))), tolerance = 1e-6)
})

test_that("one half is expected where the curve says so, with limits that leave out no less than they claim", {
  x <- cbind(1, counts$dose)
  fit <- internal("stat_grouped_logistic")(x, counts$dead, counts$exposed)
  half <- internal("stat_half_at")(fit$coefficients, fit$unscaled, 0.95)
  expect_equal(plogis(sum(c(1, half[["at"]]) * fit$coefficients)), 0.5, tolerance = 1e-12)
  # at each limit the linear part lies as far from zero as its error allows
  for (limit in half[c("low", "high")]) {
    at <- c(1, limit)
    expect_equal(abs(sum(at * fit$coefficients)) / sqrt(drop(at %*% fit$unscaled %*% at)), qnorm(0.975), tolerance = 1e-9)
  }
  # a slope that may be none gives no finite limits
  expect_true(all(is.na(internal("stat_half_at")(c(0.5, 0.1), diag(2), 0.95)[c("low", "high")])))
})
