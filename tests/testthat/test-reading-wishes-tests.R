trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"), stringsAsFactors = TRUE)

test_that("the share that is trimmed is the one said", {
  y <- rows$honey_yield_kg[!is.na(rows$honey_yield_kg)]
  for (said in c("10% trimmed mean of honey yield", "trimmed mean (10%) of honey yield", "trimmed mean of honey yield with 10 % trimming")) {
    a <- ask(trial, said)
    expect_equal(value_of(a, "estimate"), mean(y, trim = 0.1), tolerance = 1e-12, info = said)
    expect_match(reading(a)$plain, "10 % trimmed mean", fixed = TRUE, info = said)
  }
  expect_equal(value_of(ask(trial, "20% trimmed mean of honey yield"), "estimate"), mean(y, trim = 0.2), tolerance = 1e-12)
  expect_retraces(ask(trial, "5 % winsorised mean of honey yield by arm"))
  yuen <- ask(trial, "trimmed t test of honey yield between syrup and control with 10% trimming")
  half <- split(rows$honey_yield_kg, rows$arm)
  own <- mean(half$control, trim = 0.1, na.rm = TRUE) - mean(half$syrup, trim = 0.1, na.rm = TRUE)
  expect_equal(value_of(yuen, "estimate"), own, tolerance = 1e-10)
  expect_retraces(yuen)
})

test_that("non-inferiority is asked for in plain words", {
  both <- split(rows$honey_yield_kg, rows$arm)
  own <- t.test(both$syrup, both$control, mu = -2, alternative = "greater")
  for (said in c("is syrup not inferior to control in honey yield by 2 kg", "is syrup no worse than control in honey yield, margin 2 kg",
                 "is syrup not worse than control in honey yield by more than 2 kg")) {
    a <- ask(trial, said)
    expect_equal(method_of(a), "noninferiority_t", info = said)
    expect_equal(c(value_of(a, "p_value"), value_of(a, "margin")), c(own$p.value, 2), tolerance = 1e-8, info = said)
  }
})

test_that("counts are held against the shares that the question expects", {
  a <- ask(trial, "does region follow 40% north, 35% south and 25% coast")
  own <- chisq.test(table(rows$region), p = c(coast = 0.25, north = 0.4, south = 0.35))
  expect_equal(value_of(a, "statistic"), unname(own$statistic), tolerance = 1e-10)
  t <- table_of(a, "counts")
  expect_equal(t$expected, as.vector(own$expected))
  expect_equal(t$residual, as.vector(own$residuals), tolerance = 1e-10)
  expect_retraces(a)
  b <- ask(trial, "is region split 40 30 30")
  expect_equal(value_of(b, "p_value"), chisq.test(table(rows$region), p = c(0.4, 0.3, 0.3))$p.value, tolerance = 1e-10)
  expect_match(paste(unlist(reading(b)$assumed), collapse = " "), "order of the levels", fixed = TRUE)
  # too few shares are no such question
  expect_false(identical(method_of(ask(trial, "is region split 40 60")), "chi_square_goodness"))
  even <- ask(trial, "do the regions occur equally often")
  expect_equal(value_of(even, "p_value"), chisq.test(table(rows$region))$p.value, tolerance = 1e-10)
  expect_match(as.list(ask(trial, "are the arms equally frequent"))$sentences$headline, "60 at each", fixed = TRUE)
})

test_that("the power of a named test is a question of its size", {
  power <- function(q) value_of(ask(trial, q), "estimate")
  expect_equal(power("power of an anova with 60 per group and f 0.25 for 3 groups"),
               power.anova.test(groups = 3, n = 60, between.var = 0.25^2 * 3 / 2, within.var = 1)$power, tolerance = 1e-8)
  expect_equal(power("power of an anova with 3 groups of 60 and an effect size f of 0.25"), power("power of an anova with 60 per group and f 0.25 for 3 groups"))
  expect_equal(power("power for a paired t test with 40 pairs and a difference of 0.4 sd"),
               power.t.test(n = 40, delta = 0.4, type = "paired", strict = TRUE)$power, tolerance = 1e-8)
  expect_equal(power("power of a t test with 30 per group and d = 0.5"), power.t.test(n = 30, delta = 0.5, strict = TRUE)$power, tolerance = 1e-8)
  expect_equal(power("power of a chi square test with 100 per group, 50% against 65%"), power.prop.test(n = 100, p1 = 0.5, p2 = 0.65)$power,
               tolerance = 1e-8)
  expect_equal(power("how many pairs for a paired t test to detect 0.3 sd"),
               ceiling(power.t.test(delta = 0.3, power = 0.8, type = "paired", strict = TRUE)$n))
  expect_equal(power("how many hives per arm for a 2 kg difference with an sd of 6?"), ceiling(power.t.test(delta = 2, sd = 6, power = 0.8)$n))
  a <- ask(trial, "sample size for a noninferiority trial with a margin of 2 kg and an sd of 6")
  expect_equal(value_of(a, "estimate"), ceiling(power.t.test(delta = 2, sd = 6, power = 0.8, alternative = "one.sided")$n))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "one-sided level is 0.05", fixed = TRUE)
  expect_retraces(a)
})

test_that("all measures are meant by their plural, columns by a word of their names", {
  for (said in c("correlations among the measures with pairwise rows", "heat map of correlations between the measures", "heatmap of all correlations")) {
    a <- ask(trial, said)
    expect_equal(method_of(a), "correlation_matrix", info = said)
    expect_equal(nrow(table_of(a, "correlations")), 21, info = said)
  }
  b <- ask(trial, "principal components of the strength and mites columns")
  expect_setequal(reading(b)$outcome, c("strength_before", "strength_after", "mites_before", "mites_after"))
})

test_that("a trend of shares takes the values of a measured column as scores", {
  a <- ask(trial, "cochran armitage trend of survived winter across mites before")
  t <- table(rows$mites_before, rows$survived_winter)
  own <- suppressWarnings(prop.trend.test(t[, "yes"], rowSums(t), as.numeric(rownames(t))))
  expect_equal(value_of(a, "statistic"), unname(own$statistic), tolerance = 1e-8)
  expect_retraces(a)
  b <- ask(trial, "does survival fall with more mites before?")
  expect_equal(value_of(b, "estimate"), coef(glm(survived_winter ~ mites_before, binomial, rows))[[2]], tolerance = 1e-7)
})

test_that("a trend over groups that nothing orders carries a caution", {
  verdict <- function(a) { k <- checks(a); k$verdict[k$id == "group_order"] }
  expect_equal(verdict(ask(trial, "jonckheere trend test of honey yield over region")), "caution")
  doses <- data.frame(dose = rep(c("placebo", "low dose", "high dose"), each = 20), effect = with_seed(5, rnorm(60)) + rep(0:2, each = 20))
  expect_equal(verdict(ask(open_study(doses), "jonckheere trend test of effect over dose")), "ok")
})

test_that("the number needed names who gains", {
  a <- ask(trial, "number needed to treat for survival, syrup against control")
  expect_match(as.list(a)$sentences$headline, "One more row with survived winter = yes for every 5.45 in syrup rather than control", fixed = TRUE)
})
