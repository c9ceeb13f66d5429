test_that("Pearson's r, its test and interval agree with base R", {
  x <- with_seed(41, rnorm(50)); y <- x + with_seed(42, rnorm(50))
  out <- internal("stat_pearson")(x, y)
  ref <- cor.test(x, y)
  expect_equal(c(out$estimate, out$statistic, out$df, out$p_value, out$ci_low, out$ci_high),
               unname(c(ref$estimate, ref$statistic, ref$parameter, ref$p.value, ref$conf.int)), tolerance = 1e-11)
  expect_equal(c(out$intercept, out$slope), unname(coef(lm(y ~ x))), tolerance = 1e-11)
})

test_that("Pearson's r matches the hand calculation and survives an offset", {
  # x 1,2,3; y 1,3,2: products of deviations 1, squares 2 and 2
  expect_equal(internal("stat_pearson")(c(1, 2, 3), c(1, 3, 2))$estimate, 0.5, tolerance = 1e-15)
  expect_equal(internal("stat_pearson")(2^33 + c(1, 2, 3), c(1, 3, 2))$estimate, 0.5, tolerance = 1e-12)
  expect_equal(internal("stat_pearson")(1:4, 2 * (1:4))$estimate, 1)
})

test_that("Spearman's rho with ties is Pearson's r of the midranks, exact by all orders when few", {
  x <- c(1, 2, 2, 3, 5, 5); y <- c(2, 1, 4, 4, 3, 6)
  out <- internal("stat_spearman")(x, y)
  expect_equal(out$estimate, cor(x, y, method = "spearman"), tolerance = 1e-14)
  orders <- function(v) if (length(v) < 2) list(v) else unlist(lapply(seq_along(v), function(i) lapply(orders(v[-i]), function(r) c(v[i], r))),
    recursive = FALSE)
  all <- vapply(orders(rank(y)), function(r) cor(rank(x), r), 1)
  expect_equal(out$p_value, mean(abs(all) >= abs(out$estimate) - 1e-12), tolerance = 1e-12)
})

test_that("too few rows and constant columns are refused", {
  expect_error(internal("stat_pearson")(1:2, 3:4), class = "upbeatquill_error_too_few_rows")
  expect_error(internal("stat_pearson")(rep(1, 5), 1:5), class = "upbeatquill_error_outcome_constant")
})

test_that("Kendall's tau-b is base R's with ties, exact without them when few", {
  x <- with_seed(51, sample(1:8, 60, TRUE)); y <- with_seed(52, sample(1:8, 60, TRUE))
  out <- internal("stat_kendall")(x, y)
  ref <- suppressWarnings(cor.test(x, y, method = "kendall", exact = FALSE))
  expect_equal(c(out$estimate, out$statistic, out$p_value), unname(c(ref$estimate, ref$statistic, ref$p.value)), tolerance = 1e-10)
  x <- c(3, 1, 4, 9, 5, 2, 6); y <- c(2, 1, 5, 8, 3, 4, 9)
  expect_equal(internal("stat_kendall")(x, y)$p_value, cor.test(x, y, method = "kendall", exact = TRUE)$p.value, tolerance = 1e-12)
})

test_that("the partial correlation is that of the residuals, its t that of the regression", {
  d <- with_seed(53, data.frame(x = rnorm(40), y = rnorm(40), z = rnorm(40), w = rnorm(40)))
  out <- internal("stat_partial_correlation")(d$x, d$y, cbind(1, d$z, d$w))
  expect_equal(out$estimate, cor(resid(lm(x ~ z + w, d)), resid(lm(y ~ z + w, d))), tolerance = 1e-12)
  expect_equal(out$p_value, coef(summary(lm(y ~ x + z + w, d)))["x", 4], tolerance = 1e-10)
})

test_that("correlations of many pairs over the rows that each has agree with base R, whatever is missing", {
  set.seed(11)
  for (rows in c(40, 1500, 70001)) {
    d <- matrix(rnorm(rows * 7), rows) %*% matrix(runif(49, -1, 1), 7)
    d[sample(length(d), length(d) %/% 4)] <- NA
    d[, 7] <- ifelse(seq_len(rows) %% 50 == 0, d[, 7], NA)  # hardly ever there
    d[, 6] <- 1e9 + d[, 6]                                  # a large mean with a small spread
    pair <- utils::combn(7, 2)
    ours <- upbeatquill:::stat_pearson_pairs(lapply(seq_len(7), function(j) d[, j]), pair)
    reference <- suppressWarnings(cor(d, use = "pairwise.complete.obs"))
    # (of many rows each fifth pair, as base R takes its time)
    for (k in seq(1, ncol(pair), by = if (rows > 10000) 5 else 1)) {
      both <- stats::complete.cases(d[, pair[, k]])
      if (sum(both) < 4 || is.null(ours[[k]])) next
      expect_equal(ours[[k]]$n, sum(both))
      expect_equal(ours[[k]]$estimate, reference[pair[1, k], pair[2, k]], tolerance = 1e-8)
      test <- cor.test(d[both, pair[1, k]], d[both, pair[2, k]])
      expect_equal(c(ours[[k]]$ci_low, ours[[k]]$ci_high), as.numeric(test$conf.int), tolerance = 1e-7)
      expect_equal(ours[[k]]$p_value, test$p.value, tolerance = 1e-6)
    }
  }
})

test_that("a far value where the other column is missing leaves no trace in the pair", {
  set.seed(12)
  x <- rnorm(5000); y <- x + rnorm(5000); z <- rnorm(5000)
  x[2501] <- 1e12; y[2501] <- NA
  ours <- upbeatquill:::stat_pearson_pairs(list(x, y, z), utils::combn(3, 2))
  expect_equal(ours[[1]]$estimate, cor(x, y, use = "complete.obs"), tolerance = 1e-12)
  expect_equal(ours[[3]]$estimate, cor(y, z, use = "complete.obs"), tolerance = 1e-12)
})

test_that("a matrix can take each pair over the rows it has, tells what that changes, and is retraced", {
  study <- open_study(airquality)
  complete <- ask(study, "correlations between ozone, solar, wind and temp")
  check <- Filter(function(c) c$id == "rows_of_pairs", complete$checks)[[1]]
  pairwise <- cor(airquality[1:4], use = "pairwise"); listwise <- cor(na.omit(airquality[1:4]))
  expect_equal(abs(check$facts$there - check$facts$here), max(abs(pairwise - listwise)), tolerance = 1e-9)
  each <- ask(study, "correlation matrix of ozone, solar, wind and temp using all available pairs of values")
  t <- each$result$correlations
  expect_equal(t$estimate, mapply(function(a, b) pairwise[a, b], t$a, t$b, USE.NAMES = FALSE), tolerance = 1e-10)
  expect_equal(sort(t$n), c(111, 116, 116, 146, 146, 153))
  expect_true(retrace(each)$ok)
  expect_equal(ask(each, "complete rows only")$frame$used, 111)
  expect_equal(ask(complete, "use pairwise deletion")$result$correlations$n, t$n)
})
