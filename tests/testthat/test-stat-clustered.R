# Errors for clusters, and finite estimates.

test_that("with clusters of one row CR2 is the HC2 error", {
  d <- with_seed(1, data.frame(x = rnorm(25), y = rnorm(25)))
  x <- cbind(1, d$x); fit <- internal("stat_least_squares")(x, d$y)
  out <- internal("stat_clustered")(x, fit, 1:25)
  lm <- lm(y ~ x, d); h <- hatvalues(lm)
  hc2 <- solve(crossprod(x)) %*% crossprod(x * resid(lm) / sqrt(1 - h)) %*% solve(crossprod(x))
  expect_equal(out$se, sqrt(diag(hc2)), tolerance = 1e-9)
})

test_that("for balanced groups and a group-level column the error and its df are those of the group means", {
  # a t test of group means: 10 groups, 5 in each arm, the same size each
  d <- with_seed(2, data.frame(g = rep(1:10, each = 6), arm = rep(0:1, each = 30)))
  d$y <- with_seed(3, rnorm(10))[d$g] + with_seed(4, rnorm(60))
  x <- cbind(1, d$arm); fit <- internal("stat_least_squares")(x, d$y)
  out <- internal("stat_clustered")(x, fit, d$g)
  means <- tapply(d$y, d$g, mean); second <- t.test(means[6:10], means[1:5], var.equal = TRUE)
  expect_equal(out$se[2], second$stderr, tolerance = 1e-9)
  expect_equal(out$df[2], 8, tolerance = 1e-8)
})

test_that("Firth's estimates maximise the penalised likelihood, and are finite under separation", {
  d <- with_seed(5, data.frame(x = rnorm(40))); d$y <- with_seed(6, rbinom(40, 1, plogis(d$x)))
  fit <- internal("stat_penalised_logistic")(cbind(1, d$x), d$y)
  objective <- function(b) { p <- plogis(b[1] + b[2] * d$x); x <- cbind(1, d$x); -(sum(dbinom(d$y, 1, p, log = TRUE)) + determinant(crossprod(x,
    x * p * (1 - p)))$modulus[[1]] / 2) }
  second <- optim(c(0, 0), objective, control = list(reltol = 1e-14, maxit = 5000))
  expect_equal(fit$coefficients, second$par, tolerance = 1e-4)
  # a 2 x 2 table: the estimate is the log odds ratio with half a row added to each cell
  y <- rep(c(1, 0, 1, 0), c(7, 3, 0, 9)); g <- rep(c(1, 0), c(10, 9))
  expect_equal(internal("stat_penalised_logistic")(cbind(1, g), y)$coefficients[2], log(7.5 * 9.5 / (3.5 * 0.5)), tolerance = 1e-8)
})

test_that("an offset makes rates: as glm's", {
  d <- with_seed(7, data.frame(claims = rpois(60, 8), holders = sample(50:300, 60), x = rnorm(60)))
  fit <- internal("stat_generalised")(cbind(1, d$x), d$claims, "poisson", offset = log(d$holders))
  second <- glm(claims ~ x + offset(log(holders)), poisson, d)
  expect_equal(fit$coefficients, unname(coef(second)), tolerance = 1e-8)
  expect_equal(fit$null_deviance, second$null.deviance, tolerance = 1e-8)
  a <- ask(open_study(d), "Poisson regression of claims on x with an offset of log holders")
  expect_equal(reading(a)$predictors, "x")
  expect_equal(value_of(a, "estimate"), unname(coef(second)[2]), tolerance = 1e-8)
  expect_retraces(a)
})

test_that("they are asked for in plain words and retraced", {
  a <- ask(hive_study(), "regression of honey yield on strength before with standard errors clustered by apiary")
  expect_equal(method_of(a), "clustered_regression")
  expect_retraces(a)
  b <- ask(hive_study(), "Firth logistic regression of swarmed on strength before and arm")
  expect_equal(method_of(b), "penalised_logistic")
  expect_retraces(b)
})

test_that("several coefficients of a penalised model are told by their joint test", {
  d <- with_seed(8, data.frame(k = sample(c("p", "q", "r"), 60, TRUE), z = rnorm(60), u = runif(60)))
  d$bad <- ifelse(d$k == "r" | d$u < 0.3, "yes", "no")
  a <- ask(open_study(d), "firth logistic regression of bad on k and z")
  t <- table_of(a, "coefficients")
  expect_true(all(is.finite(t$estimate)))
  expect_equal(value_of(a, "df"), 3)
  expect_retraces(a)
})
