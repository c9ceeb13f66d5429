test_that("influence of rows on a least-squares fit is that of stats", {
  d <- with_seed(201, data.frame(a = rnorm(40), b = rnorm(40)))
  d$y <- with_seed(202, 1 + d$a + rnorm(40)); d$y[7] <- 9
  x <- cbind(1, d$a, d$b)
  fit <- internal("stat_least_squares")(x, d$y)
  ref <- lm(y ~ a + b, d)
  t <- internal("stat_row_influence")(x, fit)
  expect_equal(t$cooks_distance, unname(cooks.distance(ref)), tolerance = 1e-10)
  expect_equal(t$leverage, unname(hatvalues(ref)), tolerance = 1e-10)
  expect_equal(t$standardised, unname(rstandard(ref)), tolerance = 1e-10)
  expect_equal(unname(internal("stat_dfbetas")(x, fit, c(7, 1, 40))), unname(dfbetas(ref)[c(7, 1, 40), ]), tolerance = 1e-9)
})

test_that("influence of rows on generalised fits is that of stats", {
  d <- with_seed(203, data.frame(a = rnorm(90), b = rnorm(90)))
  d$hit <- with_seed(204, rbinom(90, 1, plogis(d$a))); d$k <- with_seed(205, rpois(90, exp(0.3 + 0.5 * d$b)))
  x <- cbind(1, d$a, d$b)
  for (family in c("binomial", "poisson")) {
    y <- if (family == "binomial") d$hit else d$k
    fit <- internal("stat_generalised")(x, y, family)
    ref <- glm(y ~ a + b, family = family, data = d, control = glm.control(epsilon = 1e-14, maxit = 60))
    t <- internal("stat_row_influence")(x, fit, y, family)
    expect_equal(t$cooks_distance, unname(cooks.distance(ref)), tolerance = 1e-6)
    expect_equal(t$leverage, unname(hatvalues(ref)), tolerance = 1e-6)
    expect_equal(t$residual, unname(residuals(ref, "response")), tolerance = 1e-8)
  }
})

test_that("variance inflation of single columns is 1 / (1 - R squared) of the column on the others, and joint for several levels", {
  d <- with_seed(206, data.frame(a = rnorm(60), g = factor(sample(c("p", "q", "r"), 60, TRUE))))
  d$b <- with_seed(207, 0.8 * d$a + rnorm(60, 0, 0.5))
  x <- model.matrix(~ a + b + g, d)
  t <- internal("stat_variance_inflation")(unname(x), c("", "a", "b", "g", "g"), 1:5)
  expect_equal(t$gvif[t$column == "a"], 1 / (1 - summary(lm(a ~ b + g, d))$r.squared), tolerance = 1e-9)
  expect_equal(t$gvif[t$column == "b"], 1 / (1 - summary(lm(b ~ a + g, d))$r.squared), tolerance = 1e-9)
  # for a block: 1 / the product of one minus each squared canonical correlation
  canonical <- cancor(x[, 4:5], x[, 2:3])$cor
  expect_equal(t$gvif[t$column == "g"], 1 / prod(1 - canonical^2), tolerance = 1e-9)
  expect_equal(t$per_df[t$column == "g"], t$gvif[t$column == "g"]^(1 / 4))
  expect_null(internal("stat_variance_inflation")(unname(x[, 1:2]), c("", "a"), 1:2))
})

test_that("a ROC curve runs through the shares counted by hand, ties in one step", {
  p <- c(0.9, 0.8, 0.8, 0.3, 0.1); y <- c(1, 1, 0, 1, 0)
  r <- internal("stat_roc")(p, y)
  expect_equal(r$cut, c(Inf, 0.9, 0.8, 0.3, 0.1))
  expect_equal(r$sensitivity, c(0, 1 / 3, 2 / 3, 1, 1))
  expect_equal(r$specificity, c(1, 1, 1 / 2, 1 / 2, 0))
  # the area under its steps and slopes is the share of pairs
  area <- sum(diff(1 - r$specificity) * (head(r$sensitivity, -1) + r$sensitivity[-1]) / 2)
  expect_equal(area, internal("stat_auc")(p, y)$auc)
  best <- internal("stat_best_cut")(r)
  expect_equal(c(best$cut, best$sensitivity + best$specificity), c(0.3, 1.5))
})

test_that("groups of chances count each row once, and equal chances stay together", {
  p <- rep(c(0.2, 0.5, 0.8), c(30, 40, 30)); y <- c(rep(1, 6), rep(0, 24), rep(1, 20), rep(0, 20), rep(1, 24), rep(0, 6))
  k <- internal("stat_calibration")(p, y)
  expect_equal(sum(k$table$n), 100)
  expect_equal(k$table$fitted, k$table$observed)
  expect_equal(k$statistic, 0)
  y[1:30] <- 1
  k <- internal("stat_calibration")(p, y)
  gap <- (30 - 6)^2 / (30 * 0.2 * 0.8)
  expect_equal(max((k$table$observed - k$table$fitted)), 0.8)
  expect_equal(k$statistic, gap)
  # one chance for all rows leaves nothing to test
  expect_true(is.na(internal("stat_calibration")(rep(0.4, 20), rep(0:1, 10))$p_value))
})

test_that("expected zeros are sums of the probabilities of zero", {
  mu <- c(0.5, 2, 4)
  expect_equal(internal("expected_zeros")(mu), sum(dpois(0, mu)))
  expect_equal(internal("expected_zeros")(mu, 1.7), sum(dnbinom(0, mu = mu, size = 1.7)))
})
