# Study effects from raw results, against their definitions and base R.

test_that("counts give the odds and risk ratios of their tables, with half rows where a cell is empty", {
  out <- internal("effects_of_counts")(c(12, 0), c(40, 30), c(20, 4), c(42, 31))
  fit <- glm(cbind(c(12, 20), c(28, 22)) ~ factor(c(1, 0)), family = binomial)
  expect_equal(out$effect[1], unname(coef(fit)[2]), tolerance = 1e-8)
  expect_equal(out$se[1], unname(sqrt(vcov(fit)[2, 2])), tolerance = 1e-6)
  expect_equal(out$effect[2], log(0.5 * 27.5 / (30.5 * 4.5)), tolerance = 1e-12)
  expect_equal(internal("effects_of_counts")(12, 40, 20, 42, "risk_ratio")$effect, log((12 / 40) / (20 / 42)))
  expect_error(internal("effects_of_counts")(50, 40, 1, 9), class = "upbeatquill_error_unfit_data")
})

test_that("means give Welch's error and Hedges' g", {
  x <- with_seed(1, rnorm(14, 5, 2)); y <- with_seed(2, rnorm(17, 4, 1))
  out <- internal("effects_of_means")(mean(x), sd(x), 14, mean(y), sd(y), 17)
  expect_equal(c(out$effect, out$se), unname(c(diff(rev(t.test(x, y)$estimate)), t.test(x, y)$stderr)), tolerance = 1e-10)
  g <- internal("effects_of_means")(mean(x), sd(x), 14, mean(y), sd(y), 17, TRUE)$effect
  expect_equal(g, (mean(x) - mean(y)) / sqrt((13 * var(x) + 16 * var(y)) / 29) * (1 - 3 / (4 * 29 - 1)), tolerance = 2e-3)
})

test_that("studies are pooled from counts, means and correlations, in plain words", {
  counts <- data.frame(study = sprintf("Study %d", 1:6), events_t = c(4, 9, 12, 3, 8, 0), n_t = c(40, 60, 80, 33, 50, 20), events_c = c(9, 14, 22,
    6, 15, 3), n_c = c(41, 58, 79, 30, 52, 21))
  a <- ask(open_study(counts), "pool these studies")
  expect_equal(method_of(a), "pooled_random")
  expect_equal(value_of(a, "odds_ratio"), exp(value_of(a, "estimate")))
  expect_retraces(a)
  b <- ask(open_study(counts), "pool the risk ratios with a funnel plot")
  expect_equal(as.list(b)$figures[[1]]$id, "funnel")
  expect_retraces(b)
  means <- data.frame(study = letters[1:5], mean1 = c(5, 6, 5.5, 7, 6), sd1 = c(2, 2, 1.5, 2.5, 2), n1 = c(30, 40, 25, 60, 33), mean2 = c(4, 5.5,
    5, 5, 5.9), sd2 = c(2, 1.8, 1.6, 2.2, 2.1), n2 = c(31, 41, 26, 58, 30))
  c <- ask(open_study(means), "pool the standardised differences")
  expect_retraces(c)
  r <- data.frame(study = letters[1:6], r = c(0.2, 0.35, 0.1, 0.4, 0.25, 0.3), n = c(50, 80, 120, 40, 66, 90))
  d <- ask(open_study(r), "meta-analysis of the correlations")
  expect_equal(value_of(d, "r"), tanh(value_of(d, "estimate")))
  expect_retraces(d)
})
