test_that("analysis of covariance agrees with lm, drop1 and predictions at the mean covariate", {
  d <- with_seed(3, data.frame(g = factor(rep(c("a", "b", "c"), c(8, 10, 9))), x = rnorm(27)))
  d$y <- d$x + c(a = 0, b = 1, c = 0.5)[as.character(d$g)] + with_seed(4, rnorm(27))
  out <- internal("stat_ancova")(d$y, d$g, list(x = d$x))
  fit <- lm(y ~ g + x, d)
  drops <- drop1(fit, test = "F")
  expect_equal(c(out$statistic, out$p_value), c(drops$`F value`[2], drops$`Pr(>F)`[2]), tolerance = 1e-10)
  at <- predict(fit, data.frame(g = levels(d$g), x = mean(d$x)), se.fit = TRUE)
  expect_equal(out$adjusted, unname(at$fit), tolerance = 1e-10)
  expect_equal(out$adjusted_se, unname(at$se.fit), tolerance = 1e-10)
  expect_equal(out$slopes$p_value, anova(fit, lm(y ~ g * x, d))$`Pr(>F)`[2], tolerance = 1e-10)
})

test_that("Jonckheere: pairs counted by hand, one- and two-sided", {
  y <- c(1, 3, 2, 4, 6, 5, 5, 7); g <- c(1, 1, 2, 2, 2, 3, 3, 3)
  j <- internal("stat_jonckheere")(y, g)
  pairs <- 0
  for (a in seq_along(y)) for (b in seq_along(y)) if (g[a] < g[b]) pairs <- pairs + (y[b] > y[a]) + 0.5 * (y[b] == y[a])
  expect_equal(j$statistic, pairs)
  # two groups without ties: the normal rank-sum test without continuity correction
  x <- with_seed(1, rnorm(12)); h <- rep(1:2, each = 6)
  ref <- wilcox.test(x[h == 2], x[h == 1], exact = FALSE, correct = FALSE)
  expect_equal(internal("stat_jonckheere")(x, h)$p_value, ref$p.value, tolerance = 1e-10)
})

test_that("sign permutations: all patterns for few pairs, a recorded seed for many, the session's generator untouched", {
  d <- c(1.2, -0.4, 0.8, 2.1, 0.3, -0.1)
  out <- internal("stat_permutation_paired")(d)
  sums <- as.matrix(expand.grid(rep(list(c(-1, 1)), 6))) %*% d
  expect_equal(out$p_value, mean(abs(sums) >= abs(sum(d)) - 1e-9))
  long <- with_seed(2, rnorm(40, 0.3))
  set.seed(99)
  first <- internal("stat_permutation_paired")(long)$p_value
  after <- runif(1)
  set.seed(99)
  expect_equal(runif(1), after)
  expect_equal(internal("stat_permutation_paired")(long)$p_value, first)
  expect_equal(first, t.test(long)$p.value, tolerance = 0.3)
})

test_that("equivalence: the two one-sided tests, and the interval that decides", {
  x <- with_seed(5, rnorm(30, 10)); y <- with_seed(6, rnorm(32, 10.1))
  t <- t.test(x, y)
  out <- internal("stat_equivalence")(mean(x) - mean(y), t$stderr, t$parameter, 0.8)
  lower <- t.test(x, y, mu = -0.8, alternative = "greater")$p.value
  upper <- t.test(x, y, mu = 0.8, alternative = "less")$p.value
  expect_equal(out$p_value, max(lower, upper), tolerance = 1e-12, ignore_attr = TRUE)
  expect_equal(unname(c(out$ci_low, out$ci_high)), as.vector(t.test(x, y, conf.level = 0.9)$conf.int), tolerance = 1e-12)
  expect_equal(unname(out$p_value < 0.05), unname(out$ci_low > -0.8 & out$ci_high < 0.8))
  low <- internal("stat_noninferiority")(mean(x) - mean(y), t$stderr, t$parameter, 0.8)
  expect_equal(unname(low$p_value), lower, tolerance = 1e-12)
})
