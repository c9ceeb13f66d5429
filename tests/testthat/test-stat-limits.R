# Intervals of effect sizes against their definitions, pair by pair, and by how often they hold the truth.

test_that("limits of a share are the noncentralities that put F at either tail", {
  limits <- internal("stat_share_limits")(5.2, 3, 60)
  ncp <- limits * 64 / (1 - limits)
  expect_equal(pf(5.2, 3, 60, ncp), c(0.975, 0.025), tolerance = 1e-6)
  expect_equal(internal("stat_share_limits")(0.3, 3, 60)[1], 0)
  expect_true(all(is.na(internal("stat_share_limits")(Inf, 1, 5))))
  chi <- internal("stat_chi_share_limits")(14, 2, 59)
  expect_equal(pchisq(14, 2, chi * 59), c(0.975, 0.025), tolerance = 1e-6)
})

test_that("the rank-biserial interval is that of all pairs", {
  x <- c(3, 5, 5, 7, 9, 11, 12); y <- c(1, 2, 5, 6, 6, 8, 7, 4)
  pairs <- outer(x, y, function(a, b) (a > b) + 0.5 * (a == b))
  se <- sqrt(var(rowMeans(pairs)) / length(x) + var(colMeans(pairs)) / length(y))
  a <- mean(pairs)
  own <- 2 * plogis(qlogis(a) + c(-1, 1) * qnorm(0.975) * se / (a * (1 - a))) - 1
  expect_equal(internal("stat_rank_biserial_limits")(x, y), own, tolerance = 1e-12)
  # turned round, the interval is turned round
  expect_equal(internal("stat_rank_biserial_limits")(y, x), -rev(own), tolerance = 1e-12)
  # groups that do not overlap give none
  expect_true(all(is.na(internal("stat_rank_biserial_limits")(1:5, 11:15))))
})

test_that("about 95 of 100 intervals hold the truth", {
  held <- with_seed(81, vapply(1:400, function(i) {
    x <- rnorm(30, 0.6); y <- rnorm(25)
    truth <- c(2 * pnorm(0.6 / sqrt(2)) - 1, 0.6)
    rank <- internal("stat_rank_biserial_limits")(x, y)
    glass <- internal("stat_glass_limits")((mean(x) - mean(y)) / sd(y), sd(x) / sd(y), 30, 25)
    c(rank[1] <= truth[1] && truth[1] <= rank[2], glass[1] <= truth[2] && truth[2] <= glass[2])
  }, c(NA, NA)))
  expect_true(all(rowMeans(held) > 0.92 & rowMeans(held) < 0.985))
})

test_that("every answer that names an effect gives its interval, and its script the same", {
  rows <- with_seed(82, data.frame(id = 1:90, g = rep(c("a", "b", "c"), 30), h = rep(c("x", "y"), 45), y = rnorm(90), z = rnorm(90), t1 = rnorm(90),
                                   t2 = rnorm(90), t3 = rnorm(90), died = sample(c("yes", "no"), 90, TRUE)))
  s <- open_study(rows)
  effects <- c("glass_delta", "eta_squared", "partial_eta_squared", "omega_squared", "epsilon_squared", "rank_biserial", "cramers_v", "phi", "r", "rho",
               "tau", "kendall_w", "cohens_d", "hedges_g")
  for (question in c("student t test of y by h", "mann-whitney test of y by h", "does y differ by g", "classic anova of y by g",
                     "kruskal-wallis test of y by g", "two-way anova of y by g and h", "ancova of y by g adjusting for z",
                     "repeated measures anova of t1, t2 and t3", "friedman test of t1, t2 and t3", "wilcoxon signed rank test of t1 and t2",
                     "mixed anova of t1, t2 and t3 by h", "is died related to h", "correlation of y and z", "spearman correlation of y and z",
                     "kendall correlation of y and z", "partial correlation of y and z given t1")) {
    a <- ask(s, question)
    n <- numbers(a)
    named <- intersect(n$id, effects)
    expect_gt(length(named), 0)
    for (id in named) {
      ends <- n$value[match(paste0(id, c("_low", "_high")), n$id)]
      value <- n$value[match(id, n$id)]
      # (the bias-corrected point may fall just below the lower limit's zero)
      expect_true(!anyNA(ends) && ends[1] <= max(value, ends[1]) && value <= ends[2] + 1e-12, info = paste(question, id))
    }
    expect_retraces(a)
  }
})
