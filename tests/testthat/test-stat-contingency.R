test_that("chi-square matches the hand calculation and base R", {
  # expected 15 everywhere: four times 25/15
  m <- matrix(c(10, 20, 20, 10), 2)
  out <- internal("stat_chi_square")(m)
  expect_equal(out$statistic, 100 / 15, tolerance = 1e-14)
  expect_equal(out$cramers_v, sqrt(100 / 15 / 60), tolerance = 1e-14)
  m <- matrix(c(12, 5, 7, 9, 14, 3, 4, 4, 20), 3)
  out <- internal("stat_chi_square")(m)
  ref <- chisq.test(m, correct = FALSE)
  expect_equal(c(out$statistic, out$p_value), unname(c(ref$statistic, ref$p.value)), tolerance = 1e-12)
  expect_equal(out$residuals, unname(ref$stdres), tolerance = 1e-12)
})

test_that("empty rows and columns do not count as categories", {
  m <- rbind(c(5, 0, 9), c(7, 0, 2), c(0, 0, 0))
  expect_equal(internal("stat_chi_square")(m)$df, 1)
  expect_error(internal("stat_chi_square")(matrix(c(3, 4, 0, 0), 2)), class = "upbeatquill_error_one_group")
})

test_that("Fisher's exact test agrees with base R and with enumeration", {
  fisher <- internal("stat_fisher_two_by_two")
  for (cells in list(c(3, 1, 1, 3), c(8, 2, 1, 9), c(0, 5, 4, 3), c(12, 7, 3, 11))) {
    m <- matrix(cells, 2)
    out <- fisher(m)
    ref <- fisher.test(m)
    expect_equal(out$p_value, ref$p.value, tolerance = 1e-10)
    # base R solves for the odds ratio to about four digits; the equations that define it are kept to ten
    expect_equal(c(out$odds_ratio, out$odds_ratio_low), unname(c(ref$estimate, ref$conf.int[1])), tolerance = 1e-3)
    if (out$odds_ratio == 0) next
    support <- max(0, sum(m[1, ]) - sum(m[, 2])):min(sum(m[1, ]), sum(m[, 1]))
    at <- function(or) { v <- choose(sum(m[, 1]), support) * choose(sum(m[, 2]), sum(m[1, ]) - support) * or^support; v / sum(v) }
    expect_equal(sum(support * at(out$odds_ratio)), m[1, 1], tolerance = 1e-10)
    expect_equal(sum(at(out$odds_ratio_low)[support >= m[1, 1]]), 0.025, tolerance = 1e-9)
    expect_equal(sum(at(out$odds_ratio_high)[support <= m[1, 1]]), 0.025, tolerance = 1e-9)
  }
  # tea tasting: 3 of 4 right; tables as likely or less: (16 + 1 + 16 + 1) / 70
  expect_equal(fisher(matrix(c(3, 1, 1, 3), 2))$p_value, 34 / 70, tolerance = 1e-12)
})

test_that("risk difference, risk ratio and odds ratio carry the published intervals", {
  # Newcombe (1998), table II, example (a): 56/70 against 48/80 gives 0.2 with 0.0524 to 0.3339
  out <- internal("stat_two_by_two")(rbind(c(56, 14), c(48, 32)))
  expect_equal(out$risk_difference, 0.2, tolerance = 1e-14)
  expect_equal(round(c(out$risk_difference_low, out$risk_difference_high), 4), c(0.0524, 0.3339))
  expect_equal(out$risk_ratio, (56 / 70) / (48 / 80), tolerance = 1e-14)
  expect_equal(out$odds_ratio, 56 * 32 / (14 * 48), tolerance = 1e-14)
  zero <- internal("stat_two_by_two")(rbind(c(0, 10), c(5, 5)))
  expect_true(zero$corrected)
  expect_true(all(is.finite(unlist(zero[1:9]))))
})

test_that("Wilson's interval is prop.test's and stays within 0 and 1", {
  w <- internal("stat_wilson")(c(0, 3, 10), 10)
  ref <- suppressWarnings(prop.test(3, 10, correct = FALSE)$conf.int)
  expect_equal(c(w$low[2], w$high[2]), as.numeric(ref), tolerance = 1e-12)
  expect_identical(w$low[1], 0)
  expect_identical(w$high[3], 1)
})

test_that("the bias-corrected V is near zero for independent columns, where V itself is not, and near V for strong ties", {
  chi <- internal("stat_chi_square")
  v <- with_seed(5, replicate(300, unlist(chi(unclass(table(sample(5, 60, TRUE), sample(5, 60, TRUE))))[c("cramers_v", "cramers_v_corrected")])))
  expect_gt(mean(v[1, ]), 0.2)
  expect_lt(mean(v[2, ]), 0.1)
  counts <- diag(3) * 40 + 1
  out <- chi(counts)
  # worked by hand after Bergsma's formula
  n <- sum(counts); phi2 <- out$statistic / n
  expect_equal(out$cramers_v_corrected, sqrt((phi2 - 4 / (n - 1)) / (3 - 4 / (n - 1) - 1)), tolerance = 1e-12)
  expect_equal(out$cramers_v_corrected, out$cramers_v, tolerance = 0.01)
})
