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

test_that("a coefficient without a finite estimate says so, and is tested by the likelihood", {
  d <- with_seed(4, data.frame(g = rep(c("a", "b"), each = 30), x = rnorm(60)))
  d$ill <- ifelse(d$g == "a" & with_seed(5, runif(60)) < 0.4, "yes", "no"); d$died <- ifelse(d$g == "b", "yes", "no")
  s <- open_study(d)
  a <- ask(s, "does g predict ill adjusting for x")
  fit <- suppressWarnings(glm(ill == "yes" ~ g + x, binomial, d))
  less <- glm(ill == "yes" ~ x, binomial, d)
  expect_equal(value_of(a, "estimate"), -Inf)
  expect_equal(value_of(a, "odds_ratio"), 0)
  expect_equal(value_of(a, "statistic"), less$deviance - fit$deviance, tolerance = 1e-6)
  expect_equal(table_of(a, "coefficients")$estimate[3], unname(coef(fit)[3]), tolerance = 1e-6)
  expect_match(as.list(a)$sentences$headline, "No finite odds ratio of g = b", fixed = TRUE)
  expect_match(as.list(a)$`next`[[1]], "Penalised", fixed = TRUE)
  expect_retraces(a)
  b <- ask(s, "logistic regression of died on g")
  expect_equal(c(value_of(b, "estimate"), value_of(b, "deviance")), c(Inf, 0))
  expect_equal(value_of(b, "statistic"), glm(died == "yes" ~ 1, binomial, d)$deviance, tolerance = 1e-10)
  expect_retraces(b)
})

test_that("a group without any count has a rate that runs off to zero", {
  d <- data.frame(g = rep(c("a", "b"), each = 20), falls = c(rep(c(0, 1, 2, 3), 5), rep(0, 20)))
  a <- ask(open_study(d), "poisson regression of falls on g")
  expect_equal(value_of(a, "rate_ratio"), 0)
  expect_retraces(a)
})
