test_that("Welch's t and df match the hand calculation", {
  # means 2 and 4; squared errors 1/3 and 4/3; df = (5/3)^2 / ((1/3)^2/2 + (4/3)^2/2) = 50/17
  out <- internal("stat_t_welch")(c(1, 2, 3), c(2, 4, 6))
  expect_equal(out$statistic, -2 / sqrt(5 / 3), tolerance = 1e-14)
  expect_equal(out$df, 50 / 17, tolerance = 1e-14)
})

test_that("Welch and Student agree with base R, in every direction", {
  x <- with_seed(11, rnorm(23, 10, 3))
  y <- with_seed(12, rnorm(31, 9, 1))
  for (alternative in c("two_sided", "greater", "less")) for (equal in c(TRUE, FALSE)) {
    run <- internal(if (equal) "stat_t_student" else "stat_t_welch")
    out <- run(x, y, 0.9, alternative)
    ref <- t.test(x, y, var.equal = equal, conf.level = 0.9, alternative = sub("_", ".", alternative))
    expect_equal(c(out$statistic, out$df, out$p_value, out$ci_low, out$ci_high),
                 unname(c(ref$statistic, ref$parameter, ref$p.value, ref$conf.int)), tolerance = 1e-11)
  }
})

test_that("swapping the groups turns the sign and nothing else", {
  a <- internal("stat_t_welch")(c(1, 4, 9, 16), c(2, 3, 5))
  b <- internal("stat_t_welch")(c(2, 3, 5), c(1, 4, 9, 16))
  expect_equal(a$estimate, -b$estimate)
  expect_equal(a$p_value, b$p_value, tolerance = 1e-15)
  expect_equal(a$ci_low, -b$ci_high, tolerance = 1e-14)
})

test_that("a large offset costs no digits", {
  x <- c(1, 2, 4, 8) / 8
  y <- c(1, 3, 3, 5) / 8
  near <- internal("stat_t_welch")(x, y)
  far <- internal("stat_t_welch")(x + 2^30, y + 2^30)
  expect_equal(far$statistic, near$statistic, tolerance = 1e-12)
})

test_that("the trimmed t test cuts a fifth from each end", {
  # five values lose one at each end: trimmed means 3 and 5; winsorised 2,2,3,4,4 and 4,4,5,6,6: ss 4, d = 4 / (3 * 2)
  out <- internal("stat_t_trimmed")(c(1, 2, 3, 4, 90), c(-70, 4, 5, 6, 7))
  expect_equal(out$estimate, -2)
  expect_equal(out$se, sqrt(4 / 6 + 4 / 6), tolerance = 1e-14)
  expect_equal(out$df, 4, tolerance = 1e-14)
})

test_that("the standardised difference has the noncentral interval", {
  x <- with_seed(13, rnorm(15, 1))
  y <- with_seed(14, rnorm(12))
  moments <- internal("stat_group_moments")
  out <- internal("stat_standardised_difference")(moments(x), moments(y), 0.95)
  pooled <- sqrt((14 * var(x) + 11 * var(y)) / 25)
  expect_equal(out$cohens_d, (mean(x) - mean(y)) / pooled, tolerance = 1e-13)
  scale <- sqrt(1 / 15 + 1 / 12)
  # the limits are the noncentralities that put the observed t in either tail
  t <- out$cohens_d / scale
  expect_equal(pt(t, 25, out$cohens_d_low / scale), 0.975, tolerance = 1e-8)
  expect_equal(pt(t, 25, out$cohens_d_high / scale), 0.025, tolerance = 1e-7)
  expect_equal(out$hedges_g / out$cohens_d, gamma(12.5) / (sqrt(12.5) * gamma(12)), tolerance = 1e-12)
})

test_that("constant outcomes and single rows are refused by class", {
  expect_error(internal("stat_t_welch")(c(1, 1), c(1, 1)), class = "upbeatquill_error_outcome_constant")
  expect_error(internal("stat_t_welch")(1, c(1, 2)), class = "upbeatquill_error_too_few_rows")
  expect_error(internal("stat_t_trimmed")(c(1, 2), 3), class = "upbeatquill_error_too_few_rows")
})
