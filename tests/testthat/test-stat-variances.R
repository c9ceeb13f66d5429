v <- function(name) internal(name)
groups <- with_seed(6, list(round(rnorm(10), 2), round(rnorm(12, 0, 2), 2), round(rnorm(9), 2)))
y <- unlist(groups); g <- factor(rep(1:3, lengths(groups)))

test_that("tests of spreads agree with base R", {
  ref <- bartlett.test(y, g)
  expect_equal(unlist(v("stat_bartlett")(groups)[c("statistic", "df", "p_value")]), c(statistic = unname(ref$statistic), df = 2,
    p_value = ref$p.value), tolerance = 1e-12)
  z <- abs(y - ave(y, g, FUN = median))
  a <- anova(lm(z ~ g))
  bf <- v("stat_brown_forsythe")(groups)
  expect_equal(c(bf$statistic, bf$p_value), c(a$`F value`[1], a$`Pr(>F)`[1]), tolerance = 1e-12)
  for (side in c("two_sided", "greater", "less")) {
    ref <- var.test(groups[[1]], groups[[2]], alternative = sub("_", ".", side))
    mine <- v("stat_f_variances")(groups[[1]], groups[[2]], alternative = side)
    expect_equal(c(mine$statistic, mine$p_value), c(unname(ref$statistic), ref$p.value), tolerance = 1e-12)
  }
  expect_error(v("stat_bartlett")(list(c(1, 1), c(2, 3))), class = "upbeatquill_error_outcome_constant")
})

test_that("Shapiro-Wilk is base R's at every sample size it treats differently", {
  for (n in c(3, 4, 5, 6, 7, 11, 12, 20, 50, 500, 5000)) {
    x <- with_seed(n, rexp(n))
    ref <- shapiro.test(x)
    mine <- v("stat_shapiro_wilk")(x)
    expect_equal(mine$statistic, unname(ref$statistic), tolerance = 1e-12, info = n)
    expect_equal(mine$p_value, ref$p.value, tolerance = 1e-9, info = n)
  }
  expect_error(v("stat_shapiro_wilk")(rep(1, 10)), class = "upbeatquill_error_outcome_constant")
  expect_error(v("stat_shapiro_wilk")(1:2), class = "upbeatquill_error_too_few_rows")
})

test_that("Anderson-Darling: the statistic by its integral, shift and scale leave it alone", {
  x <- with_seed(12, rnorm(40))
  a <- v("stat_anderson_darling")(x)
  s <- sort((x - mean(x)) / sd(x))
  f <- ecdf(s)
  integral <- integrate(function(t) (f(t) - pnorm(t))^2 / (pnorm(t) * pnorm(-t)) * dnorm(t), -8, 8, subdivisions = 5000, rel.tol = 1e-6)$value
  expect_equal(a$statistic, 40 * integral, tolerance = 1e-3)
  expect_equal(v("stat_anderson_darling")(1e6 + 250 * x)$statistic, a$statistic, tolerance = 1e-8)
  expect_lt(v("stat_anderson_darling")(with_seed(1, rexp(100)))$p_value, 0.001)
})

test_that("Kolmogorov-Smirnov agrees with base R, exact with and without ties and in the limit", {
  cases <- list(list(with_seed(1, round(rnorm(20), 1)), with_seed(2, round(rnorm(15, 0.5), 1))), list(with_seed(3, rnorm(20)), with_seed(4,
    rnorm(15, 0.5))),
                list(with_seed(5, rnorm(200)), with_seed(6, rnorm(150, 0.3))), list(c(1, 2, 2, 3), c(2, 2, 4)))
  for (case in cases) {
    ref <- suppressWarnings(ks.test(case[[1]], case[[2]]))
    mine <- v("stat_kolmogorov_smirnov")(case[[1]], case[[2]])
    expect_equal(mine$statistic, unname(ref$statistic), tolerance = 1e-12)
    expect_equal(mine$p_value, ref$p.value, tolerance = 1e-7)
  }
})

test_that("D'Agostino's test has its level, and is free of place and scale", {
  # its level by draws, its parts by symmetry
  p <- vapply(1:400, function(s) internal("stat_dagostino")(with_seed(s, rnorm(60)))$p_value, 1)
  expect_equal(mean(p < 0.05), 0.055, tolerance = 0.5)
  expect_lt(internal("stat_dagostino")(with_seed(1, rexp(80)))$p_value, 1e-4)
  x <- with_seed(2, rnorm(50))
  expect_equal(internal("stat_dagostino")(x)$statistic, internal("stat_dagostino")(3 * x + 1e6)$statistic, tolerance = 1e-6)
  expect_equal(internal("stat_dagostino")(-x)$z_skewness, -internal("stat_dagostino")(x)$z_skewness, tolerance = 1e-12)
  expect_error(internal("stat_dagostino")(1:10), class = "upbeatquill_error_too_few_rows")
})
