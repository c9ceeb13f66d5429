# Weighted estimates against closed forms and base R.

weighted_data <- function(n = 90) with_seed(11, data.frame(y = rnorm(n, 10, 3), x = rnorm(n), g = rep(1:3, length.out = n),
                                                             w = runif(n, 0.5, 4), h = sample(1:2, n, TRUE), c = rep(1:18, each = n / 18)))

test_that("with equal weights and no clusters the mean has its usual error", {
  d <- weighted_data()
  out <- internal("stat_weighted_groups")(d$y, rep(1L, 90), rep(2.5, 90))
  expect_equal(out$mean, mean(d$y), tolerance = 1e-13)
  expect_equal(out$se, sd(d$y) / sqrt(90), tolerance = 1e-12)
  expect_equal(out$df, 89)
})

test_that("equal groups of clusters: the error is that of the cluster means", {
  d <- weighted_data()
  out <- internal("stat_weighted_groups")(d$y, rep(1L, 90), rep(1, 90), cluster = d$c)
  means <- tapply(d$y, d$c, mean)
  expect_equal(out$se, sd(means) / sqrt(18), tolerance = 1e-12)
  expect_equal(out$clusters, 18)
})

test_that("strata of equal weights: the stratified error", {
  d <- weighted_data()
  out <- internal("stat_weighted_groups")(d$y, rep(1L, 90), rep(1, 90), strata = d$h)
  n <- table(d$h); v <- tapply(d$y, d$h, var)
  # the mean is the sum of stratum totals over n, each total with variance n_h s_h^2
  expect_equal(out$se, sqrt(sum(n * v)) / 90, tolerance = 1e-12)
  expect_equal(out$df, 88)
})

test_that("a stratum of one cluster still adds to the error", {
  d <- weighted_data()
  lone <- c("alone", rep("rest", 89))
  out <- internal("stat_weighted_groups")(d$y, rep(1L, 90), d$w, strata = lone)
  expect_true(is.finite(out$se) && out$se > 0)
  expect_error(internal("stat_total_covariance")(matrix(1:3), strata = 1:3), class = "upbeatquill_error_too_few_groups")
})

test_that("group means and the difference follow the weighted regression with a sandwich", {
  d <- weighted_data(); two <- d[d$g < 3, ]
  out <- internal("stat_weighted_groups")(two$y, two$g, two$w)
  fit <- lm(y ~ factor(g), two, weights = w)
  expect_equal(diff(out$mean), unname(coef(fit)[2]), tolerance = 1e-12)
  x <- model.matrix(fit); bread <- solve(crossprod(x, two$w * x)); n <- nrow(two)
  v <- bread %*% crossprod(x * (two$w * resid(fit))) %*% bread * n / (n - 1)
  expect_equal(sum(out$covariance * c(1, -1, -1, 1)), v[2, 2], tolerance = 1e-10)
})

test_that("the Wald test of two groups is the square of t, of three that of the sandwich", {
  d <- weighted_data()
  two <- internal("stat_weighted_groups")(d$y, pmin(d$g, 2L), d$w)
  f <- internal("stat_wald_equal")(two$mean, two$covariance, two$df)
  se <- sqrt(sum(two$covariance * c(1, -1, -1, 1)))
  expect_equal(f$statistic, (diff(two$mean) / se)^2, tolerance = 1e-10)
  three <- internal("stat_weighted_groups")(d$y, d$g, d$w)
  f <- internal("stat_wald_equal")(three$mean, three$covariance, three$df)
  expect_equal(c(f$df1, f$df2), c(2, 88))
  c3 <- rbind(c(1, -1, 0), c(0, 1, -1)); b <- c3 %*% three$mean
  expect_equal(f$statistic, drop(t(b) %*% solve(c3 %*% three$covariance %*% t(c3)) %*% b) * 88 / (89 * 2), tolerance = 1e-9)
})

test_that("shares are weighted means of indicators, inside 0 and 1", {
  d <- weighted_data()
  out <- internal("stat_weighted_shares")(d$g, rep(1L, 90), d$w)
  expect_equal(out$share[, 1], as.vector(tapply(d$w, d$g, sum)) / sum(d$w), tolerance = 1e-13)
  expect_equal(sum(out$share), 1, tolerance = 1e-13)
  expect_true(all(out$low > 0 & out$low < out$share & out$share < out$high & out$high < 1))
})

test_that("without weights Rao-Scott is Pearson's chi-square up to the factor (n - 1) / n", {
  x <- rep(c(1, 2, 1, 2), c(30, 20, 18, 32)); g <- rep(1:2, each = 50)
  out <- internal("stat_rao_scott")(x, g, rep(1, 100), 2L, 2L)
  chi <- suppressWarnings(chisq.test(table(x, g), correct = FALSE))
  expect_equal(out$chi_square, unname(chi$statistic), tolerance = 1e-12)
  expect_equal(out$df1, 1, tolerance = 1e-10)
  # under the sandwich the cells' covariance is that of the observed, not of the independent, table
  expect_lt(abs(out$statistic / chi$statistic - 1), 0.2)
})

test_that("whole copies of clusters inflate the design effect as many times", {
  x <- rep(c(1, 2, 3, 1, 2, 3), c(12, 8, 5, 6, 9, 10)); g <- rep(1:2, each = 25)
  once <- internal("stat_rao_scott")(x, g, rep(1, 50), 3L, 2L)
  twice <- internal("stat_rao_scott")(rep(x, each = 2), rep(g, each = 2), rep(1, 100), 3L, 2L, cluster = rep(1:50, each = 2))
  expect_equal(twice$design_effect, 2 * once$design_effect, tolerance = 1e-9)
  expect_equal(twice$statistic, once$statistic, tolerance = 1e-9)
})

test_that("the logistic model has glm's coefficients and a sandwich error", {
  d <- weighted_data(); d$e <- with_seed(12, rbinom(90, 1, plogis(d$x)))
  x <- cbind(1, d$x)
  out <- internal("stat_weighted_model")(x, d$e, d$w, "binomial")
  fit <- glm(e ~ x, quasibinomial, d, weights = w, control = glm.control(epsilon = 1e-14))
  expect_equal(out$coefficients, unname(coef(fit)), tolerance = 1e-8)
  mu <- fitted(fit); bread <- solve(crossprod(x, d$w * mu * (1 - mu) * x))
  v <- bread %*% crossprod(x * (d$w * (d$e - mu))) %*% bread * 90 / 89
  expect_equal(out$se, unname(sqrt(diag(v))), tolerance = 1e-7)
  expect_equal(out$df, 88)
  expect_error(internal("stat_weighted_model")(cbind(1, c(1:40)), rep(0:1, each = 20), rep(1, 40), "binomial"),
               class = "upbeatquill_error_separation")
})

test_that("the correlation is that of cov.wt, and its error that of the plain one where weights are equal", {
  d <- weighted_data()
  out <- internal("stat_weighted_correlation")(d$x, d$y, d$w)
  second <- cov.wt(d[c("x", "y")], d$w / sum(d$w), cor = TRUE)$cor[1, 2]
  expect_equal(out$estimate, second, tolerance = 1e-12)
  big <- with_seed(13, { x <- rnorm(20000); data.frame(x = x, y = 0.5 * x + rnorm(20000)) })
  equal <- internal("stat_weighted_correlation")(big$x, big$y, rep(1, 20000))
  expect_equal(equal$se, (1 - cor(big$x, big$y)^2) / sqrt(20000), tolerance = 0.03)
})

test_that("rows of equal weight tell as much as they are", {
  expect_equal(internal("effective_size")(rep(3, 40)), 40)
  expect_equal(internal("effective_size")(c(1, 0, 0)), 1)
})

test_that("a part of the sample keeps the clusters that have no row in it: the errors of a domain", {
  d <- with_seed(21, data.frame(y = rnorm(120, 10, 3), w = runif(120, 1, 4), school = rep(sprintf("S%02d", 1:24), each = 5),
                                zone = rep(c("a", "b"), each = 60), girl = sample(c("yes", "no"), 120, TRUE)))
  d$girl[d$school %in% c("S03", "S17", "S20")] <- "no"
  part <- d$girl == "yes"
  # the road of the textbook: every row of the sample, its value and weight set to nothing outside the part
  m <- sum(d$w * d$y * part) / sum(d$w * part)
  z <- d$w * part * (d$y - m) / sum(d$w * part)
  total <- tapply(z, d$school, sum); of <- d$zone[match(names(total), d$school)]
  variance <- sum(tapply(total, of, function(t) length(t) * var(t)))
  without <- setdiff(d$school, d$school[part])
  absent <- d$zone[match(without, d$school)]
  out <- with(d[part, ], internal("stat_weighted_summary")(y, rep(1L, sum(part)), w, "mean", 0.95, school, zone, absent = absent))
  expect_equal(out$se, sqrt(variance), tolerance = 1e-12)
  expect_equal(c(out$df, out$clusters), c(22, 24))
  s <- design(open_study(d), weights = "w", cluster = "school", strata = "zone")
  a <- ask(s, "mean y for girl = yes")
  expect_equal(value_of(a, "se"), sqrt(variance), tolerance = 1e-12)
  expect_equal(value_of(a, "clusters"), 24)
  expect_match(paste(unlist(as.list(a)$sentences$details), collapse = " "), "part of the sample")
  expect_retraces(a)
  # a total of a part varies with how many rows fall into it, which a subset by itself cannot know
  b <- ask(design(open_study(d), weights = "w"), "weighted total of y for girl = yes")
  z <- d$w * d$y * part
  expect_equal(value_of(b, "se"), sqrt(120 * var(z)), tolerance = 1e-10)
  expect_gt(value_of(b, "se"), sqrt(sum(part) * var(z[part])))
  expect_retraces(b)
})
