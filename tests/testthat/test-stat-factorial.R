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

test_that("type III sums of squares are those of dropping each term from the full sum-coded model", {
  d <- with_seed(12, data.frame(y = rnorm(47), a = factor(sample(c("p", "q", "r"), 47, TRUE)), b = factor(sample(c("u", "v"), 47, TRUE))))
  study <- open_study(d)
  a <- ask(study, "two-way anova of y by a and b with type III sums of squares")
  fit <- lm(y ~ a * b, d, contrasts = list(a = contr.sum, b = contr.sum))
  second <- drop1(fit, . ~ ., test = "F")
  got <- table_of(a, "anova")
  expect_equal(got$sum_sq[1:3], second$`Sum of Sq`[2:4], tolerance = 1e-9)
  expect_equal(got$p_value[1:3], second$`Pr(>F)`[2:4], tolerance = 1e-8)
  margins <- table_of(a, "marginal_means")
  cells <- tapply(d$y, list(d$a, d$b), mean)
  expect_equal(margins$mean, unname(c(rowMeans(cells), colMeans(cells))), tolerance = 1e-9)
})
