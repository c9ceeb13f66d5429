moments_of <- function(y, g) internal("stat_group_moments")(y, as.integer(g), nlevels(g))

test_that("Welch's and the classic analysis agree with base R", {
  g <- factor(rep(letters[1:4], c(9, 12, 7, 15)))
  y <- with_seed(1, rnorm(43, as.integer(g), as.integer(g)))
  m <- moments_of(y, g)
  ref <- oneway.test(y ~ g)
  out <- internal("stat_anova_welch")(m)
  expect_equal(c(out$statistic, out$df1, out$df2, out$p_value), unname(c(ref$statistic, ref$parameter, ref$p.value)), tolerance = 1e-10)
  out <- internal("stat_anova_one_way")(m)
  a <- anova(lm(y ~ g))
  expect_equal(c(out$statistic, out$p_value, out$ss_between, out$ss_within), c(a$`F value`[1], a$`Pr(>F)`[1], a$`Sum Sq`), tolerance = 1e-10)
})

test_that("the one-way F matches the hand calculation and keeps its digits at an offset of a million", {
  # groups 1,2,3 / 2,3,4 / 6,7,8: between 3*(4+1+9) = 42 about the mean 4, within 2+2+2 = 6; F = (42/2)/(6/6) = 21
  y <- c(1, 2, 3, 2, 3, 4, 6, 7, 8); g <- factor(rep(1:3, each = 3))
  expect_equal(internal("stat_anova_one_way")(moments_of(y, g))$statistic, 21, tolerance = 1e-14)
  expect_equal(internal("stat_anova_one_way")(moments_of(y / 8 + 2^20, g))$statistic, 21, tolerance = 1e-12)
})

test_that("Tukey-Kramer pairs are TukeyHSD's; Games-Howell pairs follow their formula", {
  g <- factor(rep(letters[1:3], c(8, 10, 12)))
  y <- with_seed(2, rnorm(30, as.integer(g)))
  out <- internal("stat_pairs")(moments_of(y, g), TRUE)
  ref <- TukeyHSD(aov(y ~ g))$g
  expect_equal(-out$estimate, unname(ref[, "diff"]), tolerance = 1e-10)
  expect_equal(out$p_adjusted, unname(ref[, "p adj"]), tolerance = 1e-6)
  expect_equal(-out$ci_high, unname(ref[, "lwr"]), tolerance = 1e-6)
  gh <- internal("stat_pairs")(moments_of(y, g), FALSE)
  two <- t.test(y[g == "a"], y[g == "b"])
  expect_equal(c(gh$df[1], gh$p_value[1]), unname(c(two$parameter, two$p.value)), tolerance = 1e-10)
  expect_equal(gh$p_adjusted[1], ptukey(abs(two$statistic[[1]]) * sqrt(2), 3, two$parameter[[1]], lower.tail = FALSE), tolerance = 1e-10)
})

test_that("Kruskal-Wallis with ties is base R's, and Dunn's z for two groups squares to H", {
  g <- factor(rep(letters[1:3], c(8, 10, 12)))
  y <- with_seed(3, sample(1:6, 30, TRUE))
  out <- internal("stat_kruskal_wallis")(y, as.integer(g), 3L)
  ref <- kruskal.test(y, g)
  expect_equal(c(out$statistic, out$p_value), unname(c(ref$statistic, ref$p.value)), tolerance = 1e-12)
  two <- internal("stat_kruskal_wallis")(y[g != "c"], as.integer(droplevels(g[g != "c"])), 2L)
  expect_equal(two$pairs$z^2, two$statistic, tolerance = 1e-12)
})

test_that("the interval of eta squared holds the noncentralities of either tail", {
  g <- factor(rep(letters[1:3], each = 10)); y <- with_seed(4, rnorm(30, as.integer(g)))
  out <- internal("stat_anova_one_way")(moments_of(y, g))
  ncp <- out$eta_squared_high / (1 - out$eta_squared_high) * 30
  expect_equal(pf(out$statistic, 2, 27, ncp), 0.025, tolerance = 1e-6)
})

test_that("constant groups are refused by the method that needs their spread", {
  g <- factor(rep(c("a", "b", "c"), each = 3))
  expect_error(internal("stat_anova_welch")(moments_of(c(1, 1, 1, 2, 3, 4, 5, 6, 7), g)), class = "upbeatquill_error_outcome_constant")
})

test_that("where one group does not vary the ranks are compared instead, and that is said", {
  d <- data.frame(g = rep(c("north", "south", "west"), each = 20), falls = c(rep(c(0, 1, 2, 3), 5), rep(0, 20), rep(c(1, 2), 10)))
  s <- open_study(d)
  a <- ask(s, "do falls differ by g")
  expect_equal(method_of(a), "kruskal_wallis")
  expect_equal(value_of(a, "statistic"), unname(kruskal.test(falls ~ g, d)$statistic))
  expect_match(as.list(a)$method$why, "One group does not vary", fixed = TRUE)
  expect_retraces(a)
  expect_equal(status_of(ask(s, "welch anova of falls by g")), "cannot_answer")
  expect_match(as.list(ask(s, "negative binomial regression of falls on g"))$sentences$headline, "zero", fixed = TRUE)
})
