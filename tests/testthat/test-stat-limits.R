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

test_that("the standardised difference of trimmed means is Cohen's d for normal values, and untrimmed it is that d", {
  x <- with_seed(105, rnorm(4e5, 0.5)); y <- with_seed(106, rnorm(4e5))
  robust <- internal("stat_robust_d")
  expect_equal(robust(x, y)$robust_d, 0.5, tolerance = 0.02)
  # Algina, Keselman and Penfield (2005): the factor of a fifth cut is 0.642
  expect_equal(round(internal("winsorised_normal_sd")(0.2), 3), 0.642)
  a <- x[1:40]; b <- y[1:35]
  d <- internal("stat_standardised_difference")(internal("stat_group_moments")(a), internal("stat_group_moments")(b))
  expect_equal(unlist(robust(a, b, 0), use.names = FALSE), unlist(d[c("cohens_d", "cohens_d_low", "cohens_d_high")], use.names = FALSE), tolerance = 1e-8)
  # one far value moves it little
  expect_lt(abs(robust(c(a, 1e6), b)$robust_d - robust(a, b)$robust_d), 0.1)
  expect_length(robust(rep(1, 9), rep(1, 9)), 0)
})

test_that("about 95 of 100 intervals of the trimmed difference, of omega and of a trend of shares hold the truth", {
  load <- c(0.7, 0.6, 0.8, 0.5, 0.65)
  omega <- sum(load)^2 / (sum(load)^2 + sum(1 - load^2))
  held <- with_seed(107, vapply(1:300, function(i) {
    d <- internal("stat_robust_d")(rnorm(40, 0.7), rnorm(40))
    items <- outer(rnorm(150), load) + sweep(matrix(rnorm(750), 150), 2, sqrt(1 - load^2), "*")
    o <- internal("stat_omega")(items)
    x <- rbinom(4, 60, 0.2 + 0.1 * (0:3))
    t <- internal("stat_trend_proportions")(x, rep(60, 4))
    c(d$robust_d_low <= 0.7 && 0.7 <= d$robust_d_high, o$ci_low <= omega && omega <= o$ci_high, t$ci_low <= 0.1 && 0.1 <= t$ci_high)
  }, c(NA, NA, NA)))
  expect_true(all(rowMeans(held) > 0.915 & rowMeans(held) < 0.985))
})

test_that("effects of trimmed, ordered and permuted groups, of shares and of scales are in answers and retraced", {
  trial <- hive_study(); survey <- demo_study("keeper_survey.csv")
  t <- ask(trial, "trimmed t test of honey yield between syrup and control")
  expect_true(value_of(t, "robust_d_low") < value_of(t, "robust_d") && value_of(t, "robust_d") < value_of(t, "robust_d_high"))
  j <- ask(survey, "Jonckheere test of hives owned by age band")
  rows <- as.data.frame(survey)
  order <- match(rows$age_band, c("18-34", "35-49", "50-64", "65+"))
  use <- !is.na(order) & !is.na(rows$hives_owned)
  expect_equal(value_of(j, "tau"), cor(order[use], rows$hives_owned[use], method = "kendall"), tolerance = 1e-10)
  p <- ask(trial, "permutation test of honey yield between syrup and control")
  w <- ask(trial, "Welch t test of honey yield between syrup and control")
  for (id in c("cohens_d", "hedges_g", "hedges_g_low", "hedges_g_high")) expect_equal(value_of(p, id), value_of(w, id), info = id)
  u <- ask(survey, "Theil's U between region and age band")
  n <- value_of(u, "n"); g <- value_of(u, "statistic"); h <- g / (2 * n) / value_of(u, "estimate")
  expect_equal(pchisq(g, 6, value_of(u, "ci_high") * 2 * n * h), 0.025, tolerance = 1e-6)
  for (a in list(t, j, p, u)) expect_retraces(a)
})
