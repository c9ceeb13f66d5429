# Standardised risks and profile limits of a logistic model.

logistic_data <- function(n = 200) with_seed(41, { g <- factor(sample(c("a", "b"), n, TRUE)); x <- rnorm(n)
  data.frame(g = g, x = x, y = rbinom(n, 1, plogis(-0.3 + 0.8 * (g == "b") + 0.6 * x))) })

test_that("standardised risks are the mean predictions of glm with every row at the level", {
  d <- logistic_data()
  fit <- internal("stat_generalised")(cbind(1, d$g == "b", d$x), d$y, "binomial")
  out <- internal("stat_standardised_risks")(list(cbind(1, 0, d$x), cbind(1, 1, d$x)), fit$coefficients, fit$unscaled)
  second <- glm(y ~ g + x, binomial, d, control = glm.control(epsilon = 1e-13))
  at <- function(l) mean(predict(second, transform(d, g = factor(l, c("a", "b"))), type = "response"))
  expect_equal(out$risk, c(at("a"), at("b")), tolerance = 1e-9)
  expect_equal(out$difference[2], at("b") - at("a"), tolerance = 1e-9)
})

test_that("their errors are those of a numerical delta method", {
  d <- logistic_data(); second <- glm(y ~ g + x, binomial, d, control = glm.control(epsilon = 1e-13))
  difference <- function(b) mean(plogis(b[1] + b[2] + b[3] * d$x)) - mean(plogis(b[1] + b[3] * d$x))
  slope <- vapply(1:3, function(j) { h <- replace(numeric(3), j, 1e-5); (difference(coef(second) + h) - difference(coef(second) - h)) / 2e-5 }, 1)
  fit <- internal("stat_generalised")(cbind(1, d$g == "b", d$x), d$y, "binomial")
  out <- internal("stat_standardised_risks")(list(cbind(1, 0, d$x), cbind(1, 1, d$x)), fit$coefficients, fit$unscaled)
  expect_equal(out$difference_se[2], sqrt(drop(slope %*% vcov(second) %*% slope)), tolerance = 1e-6)
})

test_that("without covariates the difference is that of the two shares", {
  d <- logistic_data()
  fit <- internal("stat_generalised")(cbind(1, d$g == "b"), d$y, "binomial")
  out <- internal("stat_standardised_risks")(list(cbind(1, rep(0, 200)), cbind(1, rep(1, 200))), fit$coefficients, fit$unscaled)
  expect_equal(out$difference[2], unname(diff(tapply(d$y, d$g, mean))), tolerance = 1e-9)
})

test_that("profile limits raise the deviance by the chi-square quantile, as those of MASS", {
  d <- logistic_data(); x <- cbind(1, d$g == "b", d$x)
  fit <- internal("stat_generalised")(x, d$y, "binomial")
  out <- internal("stat_profile_limits")(x, d$y, "binomial", fit, 1:3)
  second <- suppressMessages(confint(glm(y ~ g + x, binomial, d)))
  expect_equal(out, unname(as.matrix(second)), tolerance = 2e-3)
  at <- glm(d$y ~ 0 + x[, -2] + offset(x[, 2] * out[2, 2]), family = binomial, control = glm.control(epsilon = 1e-13))
  expect_equal(deviance(at) - fit$deviance, qchisq(0.95, 1), tolerance = 1e-6)
})

test_that("a limit that the likelihood does not give is infinite", {
  y <- rep(c(1, 0, 1), c(6, 6, 8)); g <- rep(c(0, 0, 1), c(6, 6, 8))
  x <- cbind(1, g); fit <- internal("stat_generalised")(x, y, "binomial")
  expect_equal(internal("stat_profile_limits")(x, y, "binomial", fit, 2L)[1, 2], Inf)
})

test_that("an adjusted answer tells chances and retraces, with columns that repeat each other too", {
  s <- open_study(logistic_data())
  a <- ask(s, "does y depend on g, adjusting for x?")
  expect_equal(table_of(a, "standardised")$level, c("a", "b"))
  expect_true(all(c("profile_low", "profile_high") %in% names(table_of(a, "coefficients"))))
  expect_retraces(a)
  b <- ask(hive_study(), "How does winter survival depend on apiary and region?")
  expect_true(anyNA(table_of(b, "coefficients")$estimate))
  expect_retraces(b)
})
