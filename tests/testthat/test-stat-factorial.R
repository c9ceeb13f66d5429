test_that("type II sums of squares are those of model comparison, unbalanced too", {
  d <- with_seed(71, data.frame(a = factor(sample(letters[1:3], 70, TRUE)), b = factor(sample(c("u", "v"), 70, TRUE)), y = rnorm(70)))
  out <- internal("stat_anova_factorial")(d$y, d[c("a", "b")])
  ab <- anova(lm(y ~ b, d), lm(y ~ b + a, d)); ba <- anova(lm(y ~ a, d), lm(y ~ a + b, d)); i <- anova(lm(y ~ a + b, d), lm(y ~ a * b, d))
  expect_equal(out$sum_sq[1:3], c(ab$`Sum of Sq`[2], ba$`Sum of Sq`[2], i$`Sum of Sq`[2]), tolerance = 1e-9)
  expect_equal(out$statistic[3], i$F[2], tolerance = 1e-9)
})

test_that("with equal cells it is the textbook analysis", {
  d <- expand.grid(r = 1:5, a = factor(1:2), b = factor(1:3)); d$y <- with_seed(72, rnorm(30))
  out <- internal("stat_anova_factorial")(d$y, d[c("a", "b")])
  expect_equal(out$statistic[1:3], anova(lm(y ~ a * b, d))$`F value`[1:3], tolerance = 1e-10)
})
