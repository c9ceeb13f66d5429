# The random-intercept logistic model against integrals by another rule.

clustered <- function(n = 160, groups = 16, sd = 1.2) with_seed(21, {
  g <- factor(rep(seq_len(groups), length.out = n)); x <- rnorm(n)
  y <- rbinom(n, 1, plogis(-0.3 + 0.9 * x + rnorm(groups, sd = sd)[g]))
  data.frame(y = y, x = x, g = g)
})

# log likelihood by integrate(), group by group
by_integrals <- function(theta, d) {
  eta <- theta[1] + theta[2] * d$x
  sum(vapply(split(seq_len(nrow(d)), d$g), function(i) log(integrate(function(u) vapply(u, function(v)
    exp(sum(dbinom(d$y[i], 1, plogis(eta[i] + theta[3] * v), log = TRUE))) * dnorm(v), 1), -9, 9, rel.tol = 1e-11)$value), 1))
}

test_that("the likelihood is that of the integrals, and nothing near is more likely", {
  d <- clustered()
  fit <- internal("stat_mixed_logistic")(d$y, cbind(1, d$x), as.integer(d$g))
  best <- c(fit$coefficients, fit$sigma)
  expect_equal(fit$log_likelihood, by_integrals(best, d), tolerance = 1e-9)
  second <- optim(c(0, 0, 1), function(t) -by_integrals(t, d), control = list(reltol = 1e-13, maxit = 2000))
  expect_equal(best, c(second$par[1:2], abs(second$par[3])), tolerance = 1e-4)
  hessian <- optimHess(best, function(t) -by_integrals(t, d), control = list(ndeps = rep(1e-3, 3)))
  expect_equal(fit$se, unname(sqrt(diag(solve(hessian)))[1:2]), tolerance = 1e-3)
})

test_that("Hermite nodes integrate polynomials exactly", {
  rule <- internal("gauss_hermite")(7)
  expect_equal(sum(rule$w), sqrt(pi), tolerance = 1e-12)
  expect_equal(sum(rule$w * rule$z^6), sqrt(pi) * 15 / 8, tolerance = 1e-12)
  expect_equal(sum(rule$w * rule$z^3), 0, tolerance = 1e-12)
})

test_that("groups that do not differ give the plain model", {
  d <- with_seed(5, data.frame(y = rep(c(0, 1, 1, 0), 20), x = rnorm(80), g = rep(1:20, each = 4)))
  fit <- internal("stat_mixed_logistic")(d$y, cbind(1, d$x), d$g)
  expect_equal(fit$sigma, 0)
  expect_equal(fit$coefficients, unname(coef(glm(y ~ x, binomial, d))), tolerance = 1e-6)
})

test_that("it is asked for in plain words, retraced, and refused where it cannot be", {
  a <- ask(hive_study(), "logistic regression of survived winter on mites after with a random intercept for each apiary")
  expect_equal(method_of(a), "mixed_logistic")
  expect_retraces(a)
  expect_error(internal("stat_mixed_logistic")(c(0, 1, 1), cbind(1, 1:3), 1:3), class = "upbeatquill_error_too_few_rows")
})

test_that("several levels are tested together by Wald's chi-square", {
  a <- ask(hive_study(), "logistic model of survived winter on arm with random intercept of apiary")
  rows <- read.csv(demo_file(), stringsAsFactors = TRUE)
  # no variance between apiaries is found here, so the plain model is the reference
  fit <- glm(survived_winter ~ arm, binomial, rows, control = list(epsilon = 1e-14))
  b <- coef(fit)[2:3]
  expect_equal(value_of(a, "variance_between"), 0)
  expect_equal(value_of(a, "statistic"), drop(b %*% solve(vcov(fit)[2:3, 2:3], b)), tolerance = 1e-6)
  expect_equal(value_of(a, "df"), 2)
  expect_match(as.list(a)$sentences$headline, "arm does not clearly go with", fixed = TRUE)
  expect_retraces(a, 1e-6)
})

test_that("with few rows in a group and much variance between them the script still finds the same digits", {
  d <- with_seed(12, expand.grid(week = c(0, 2, 4, 6), ID = sprintf("P%02d", 1:45)))
  d$y <- with_seed(13, rbinom(nrow(d), 1, plogis(1.5 - 0.2 * d$week + rep(rnorm(45, 0, 1.6), each = 4))))
  a <- ask(open_study(local_data(d)), "logistic mixed model of y on week with ID as random effect")
  expect_gt(value_of(a, "variance_between"), 0.5)
  expect_retraces(a, 1e-7)
})
