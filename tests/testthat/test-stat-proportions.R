p <- function(name) internal(name)

test_that("two and several proportions agree with prop.test", {
  x <- c(18, 9, 25); n <- c(40, 41, 50)
  two <- p("stat_proportions_two")(x[1:2], n[1:2])
  ref <- suppressWarnings(prop.test(x[1:2], n[1:2], correct = FALSE))
  expect_equal(two$statistic^2, unname(ref$statistic), tolerance = 1e-12)
  expect_equal(two$p_value, ref$p.value, tolerance = 1e-12)
  # Newcombe (1998), table II: 56/70 against 48/80 gives .0524 to .3339
  e <- p("stat_proportions_two")(c(56, 48), c(70, 80))
  expect_equal(c(e$ci_low, e$ci_high), c(0.0524, 0.3339), tolerance = 1e-3)
  many <- p("stat_proportions_many")(x, n)
  ref <- suppressWarnings(prop.test(x, n, correct = FALSE))
  expect_equal(c(many$statistic, many$p_value), c(unname(ref$statistic), ref$p.value), tolerance = 1e-12)
  expect_equal(many$pairs$p_adjusted, p.adjust(many$pairs$p_value, "holm"))
  one <- p("stat_proportion_one")(18, 40, 0.3)
  ref <- prop.test(18, 40, 0.3, correct = FALSE)
  expect_equal(c(one$statistic^2, one$p_value, one$ci_low, one$ci_high), c(unname(ref$statistic), ref$p.value, ref$conf.int), tolerance = 1e-12)
})

test_that("the trend of proportions agrees with prop.trend.test, with equal and unequal steps", {
  x <- c(15, 10, 5); n <- c(30, 32, 31)
  for (s in list(1:3, c(0, 1, 5))) {
    ref <- prop.trend.test(x, n, s)
    mine <- p("stat_trend_proportions")(x, n, s)
    expect_equal(c(mine$statistic, mine$p_value), c(unname(ref$statistic), ref$p.value), tolerance = 1e-12)
  }
  expect_error(p("stat_trend_proportions")(c(0, 0), c(5, 5)), class = "upbeatquill_error_outcome_constant")
})

test_that("McNemar: exact, mid-p and chi-square of a published table", {
  # Fagerland, Lydersen and Laake (2013): 1, 1, 7, 12
  m <- p("stat_mcnemar")(matrix(c(1, 7, 1, 12), 2))
  expect_equal(m$p_exact, 0.0703125)
  expect_equal(m$p_mid, 0.0390625)
  expect_equal(m$p_chi_square, mcnemar.test(matrix(c(1, 7, 1, 12), 2), correct = FALSE)$p.value)
  expect_equal(m$p_value, m$p_exact)
  big <- p("stat_mcnemar")(matrix(c(794, 86, 150, 570), 2))
  expect_equal(big$p_value, mcnemar.test(matrix(c(794, 86, 150, 570), 2), correct = FALSE)$p.value)
  expect_error(p("stat_mcnemar")(diag(c(5, 5))), class = "upbeatquill_error_outcome_constant")
})

test_that("Cochran's Q is Friedman's statistic on 0 and 1", {
  x <- with_seed(2, matrix(rbinom(60, 1, rep(c(0.3, 0.5, 0.7), each = 20)), 20))
  ref <- friedman.test(x)
  q <- p("stat_cochran_q")(x)
  expect_equal(c(q$statistic, q$df, q$p_value), c(unname(ref$statistic), unname(ref$parameter), ref$p.value), tolerance = 1e-12)
})

test_that("Mantel-Haenszel agrees with mantelhaen.test, and Breslow-Day with the published value", {
  ref <- mantelhaen.test(UCBAdmissions, correct = FALSE)
  m <- p("stat_mantel_haenszel")(UCBAdmissions)
  expect_equal(c(m$statistic, m$p_value, m$odds_ratio, m$odds_ratio_low, m$odds_ratio_high),
               c(unname(ref$statistic), ref$p.value, unname(ref$estimate), ref$conf.int), tolerance = 1e-12)
  # Agresti (2002), Berkeley admissions: Breslow-Day about 18.83 on 5 df
  expect_equal(m$breslow_day, 18.83, tolerance = 1e-3)
  expect_equal(m$breslow_day_df, 5)
})
