signed_rank <- internal("stat_signed_rank")

test_that("the signed-rank p value is that of all signs, ties included", {
  for (seed in 1:5) {
    d <- with_seed(seed, sample(c(-3:-1, 1:4), 9, TRUE))
    r <- rank(abs(d)); v <- sum(r[d > 0])
    signs <- as.matrix(expand.grid(rep(list(0:1), 9)))
    all <- drop(signs %*% r)
    expect_equal(signed_rank(d)$p_value, min(1, 2 * min(mean(all >= v - 1e-9), mean(all <= v + 1e-9))), tolerance = 1e-12)
  }
})

test_that("without ties it is base R's, pseudo-median and interval included", {
  d <- with_seed(11, rnorm(18, 0.4))
  ref <- wilcox.test(d, exact = TRUE, conf.int = TRUE)
  out <- signed_rank(d)
  expect_equal(c(out$statistic, out$p_value, out$ci_low, out$ci_high), unname(c(ref$statistic, ref$p.value, ref$conf.int)), tolerance = 1e-10)
  expect_equal(out$estimate, unname(ref$estimate), tolerance = 1e-10)
  many <- with_seed(12, round(rnorm(90, 0.2), 1)); many <- many[many != 0]
  ref <- suppressWarnings(wilcox.test(many, exact = FALSE))
  expect_equal(signed_rank(many)$p_value, ref$p.value, tolerance = 1e-10)
})

test_that("the sign test is exact", {
  # five of six up: 2 * (1 + 6) / 64
  expect_equal(internal("stat_sign")(c(1, 2, 3, 4, 5, -1, 0))$p_value, 14 / 64)
})

test_that("the repeated analysis is aov()'s, and its epsilon is 1 for two conditions", {
  y <- with_seed(13, matrix(rnorm(48), 12) + rnorm(12)) + rep(0:3, each = 12) * 0.3
  out <- internal("stat_anova_repeated")(y)$within
  d <- data.frame(v = as.vector(y), u = factor(rep(1:12, 4)), k = factor(rep(1:4, each = 12)))
  ref <- summary(aov(v ~ k + Error(u), d))[["Error: Within"]][[1]]
  expect_equal(c(out$statistic, out$p_uncorrected), c(ref$`F value`[1], ref$`Pr(>F)`[1]), tolerance = 1e-10)
  m <- mauchly.test(lm(y ~ 1), X = ~1)
  an <- anova(lm(y ~ 1), X = ~1, test = "Spherical")
  expect_equal(out$epsilon, attr(an, "heading") |> grep("Greenhouse", x = _, value = TRUE) |> sub(".*: *", "", x = _) |> as.numeric(),
    tolerance = 1e-3)
  expect_equal(out$p_value, an$`G-G Pr`[1], tolerance = 1e-6)
  expect_equal(out$p_hf, an$`H-F Pr`[1], tolerance = 1e-6)
  two <- internal("stat_anova_repeated")(y[, 1:2])$within
  expect_equal(two$epsilon, 1)
  expect_equal(two$statistic, t.test(y[, 1], y[, 2], paired = TRUE)$statistic[[1]]^2, tolerance = 1e-10)
})

test_that("with groups of units the interaction and the group effect are aov()'s when balanced", {
  group <- rep(1:2, each = 8)
  y <- with_seed(14, matrix(rnorm(48), 16) + rnorm(16)) + outer(group, 1:3) * 0.2
  out <- internal("stat_anova_repeated")(y, group)
  d <- data.frame(v = as.vector(y), u = factor(rep(1:16, 3)), k = factor(rep(1:3, each = 16)), g = factor(rep(group, 3)))
  s <- summary(aov(v ~ g * k + Error(u), d))
  expect_equal(out$between$statistic, s[["Error: u"]][[1]]$`F value`[1], tolerance = 1e-10)
  expect_equal(c(out$within$statistic, out$interaction$statistic), s[["Error: Within"]][[1]]$`F value`[1:2], tolerance = 1e-10)
})

test_that("Friedman's test with ties is base R's", {
  y <- with_seed(15, matrix(sample(1:4, 60, TRUE), 15))
  ref <- friedman.test(y)
  out <- internal("stat_friedman")(y)
  expect_equal(c(out$statistic, out$p_value), unname(c(ref$statistic, ref$p.value)), tolerance = 1e-12)
})

test_that("paired effects have the noncentral interval", {
  d <- with_seed(16, rnorm(20, 0.5))
  out <- internal("stat_paired_effect")(d)
  expect_equal(out$cohens_d, mean(d) / sd(d), tolerance = 1e-12)
  expect_equal(pt(out$cohens_d * sqrt(20), 19, out$cohens_d_low * sqrt(20)), 0.975, tolerance = 1e-7)
})
