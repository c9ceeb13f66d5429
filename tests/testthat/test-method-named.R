# Methods and statistics that are asked for by their names, on the demo trial; numbers by base R.
trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"))
yield <- rows$honey_yield_kg[!is.na(rows$honey_yield_kg)]
two <- rows[rows$arm %in% c("control", "syrup"), ]
shares <- tapply(two$survived_winter == "yes", two$arm, mean)

test_that("a value to be tested against is a value, not a condition", {
  a <- ask(trial, "one sample wilcoxon test of honey yield against 20")
  expect_equal(method_of(a), "wilcoxon_signed_rank")
  expect_equal(value_of(a, "statistic"), unname(wilcox.test(yield, mu = 20, exact = FALSE, correct = FALSE)$statistic))
  expect_equal(reading(a)$task, "compare")
  b <- ask(trial, "is the mean honey yield 20 kg?")
  expect_equal(value_of(b, "p_value"), t.test(yield, mu = 20)$p.value, tolerance = 1e-10)
  c <- ask(trial, "is the share of hives that swarmed 70 %?")
  expect_equal(value_of(c, "p_value"), binom.test(sum(rows$swarmed == "yes"), nrow(rows), 0.7)$p.value, tolerance = 1e-10)
  # with a comparator it is still the one-sided question or the condition it was
  expect_equal(reading(ask(trial, "is the mean honey yield above 20 kg?"))$task, "compare")
  expect_equal(filters_of(ask(trial, "mean honey yield of hives with more than 10 mites before")), "mites_before > 10")
})

test_that("ratios of two sides are those of the sides named", {
  a <- ask(trial, "risk ratio of survival for syrup against control")
  expect_equal(value_of(a, "estimate"), shares[["control"]] / shares[["syrup"]], tolerance = 1e-10)
  expect_match(as.list(a)$sentences$headline, sprintf("syrup against control, it is %.2f", shares[["syrup"]] / shares[["control"]]), fixed = TRUE)
  expect_retraces(a)
  b <- ask(trial, "odds ratio of survival for syrup against control")
  odds <- shares / (1 - shares)
  expect_equal(value_of(b, "estimate"), odds[["control"]] / odds[["syrup"]], tolerance = 1e-10)
  c <- ask(trial, "exact odds ratio of survival for syrup against control")
  expect_equal(value_of(c, "p_value"), fisher.test(table(two$survived_winter, two$arm))$p.value, tolerance = 1e-8)
})

test_that("measures of shape and spread have their names", {
  g <- function(v) { n <- length(v); z <- (v - mean(v)) / sqrt(mean((v - mean(v))^2))
    (n - 1) / ((n - 2) * (n - 3)) * ((n + 1) * (mean(z^4) - 3) + 6) }
  a <- ask(trial, "kurtosis of honey yield")
  expect_equal(value_of(a, "estimate"), g(yield), tolerance = 1e-10)
  expect_match(as.list(a)$sentences$headline, "excess kurtosis of honey yield is", fixed = TRUE)
  expect_equal(status_of(ask(trial, "skewness and kurtosis of mites before")), "answered")
  p <- prop.table(table(rows$region))
  e <- ask(trial, "entropy of region")
  expect_equal(value_of(e, "estimate"), -sum(p * log(p)), tolerance = 1e-12)
  expect_equal(value_of(e, "evenness"), -sum(p * log(p)) / log(3), tolerance = 1e-12)
  expect_retraces(e)
})

test_that("a control or a contrast named without its column finds its groups", {
  a <- ask(trial, "dunnett test of honey yield against control")
  expect_equal(c(method_of(a), reading(a)$by), c("dunnett", "arm"))
  b <- ask(trial, "contrast of syrup and pollen patty against control in honey yield")
  m <- tapply(rows$honey_yield_kg, rows$arm, mean, na.rm = TRUE)
  expect_equal(value_of(b, "estimate"), (m[["syrup"]] + m[["pollen patty"]]) / 2 - m[["control"]], tolerance = 1e-10)
})

test_that("semi-partial correlations take the rest out of one side only", {
  a <- ask(trial, "semi-partial correlation of honey yield and mites before controlling for strength before")
  d <- rows[complete.cases(rows[c("mites_before", "honey_yield_kg", "strength_before")]), ]
  free <- resid(lm(mites_before ~ strength_before, d))
  expect_equal(value_of(a, "estimate"), cor(d$honey_yield_kg, free), tolerance = 1e-10)
  # its square is what the column adds to R squared
  added <- summary(lm(honey_yield_kg ~ strength_before + mites_before, d))$r.squared - summary(lm(honey_yield_kg ~ strength_before, d))$r.squared
  expect_equal(value_of(a, "estimate")^2, added, tolerance = 1e-9)
  expect_retraces(a)
})

test_that("two occasions are enough for a test asked for by name", {
  q <- ask(trial, "cochran q test of swarmed and survived winter")
  t <- table(rows$swarmed, rows$survived_winter)
  expect_equal(value_of(q, "statistic"), (t[1, 2] - t[2, 1])^2 / (t[1, 2] + t[2, 1]), tolerance = 1e-10)
  r <- ask(trial, "repeated measures anova of strength before and strength after")
  expect_equal(value_of(r, "statistic"), unname(t.test(rows$strength_before, rows$strength_after, paired = TRUE)$statistic)^2, tolerance = 1e-8)
  expect_retraces(r)
})

test_that("Cramer's V, Theil's U and gamma answer by name", {
  v <- ask(trial, "cramer's v of swarmed and survived winter")
  chi <- suppressWarnings(chisq.test(table(rows$swarmed, rows$survived_winter), correct = FALSE))$statistic
  expect_equal(value_of(v, "estimate"), unname(sqrt(chi / nrow(rows))), tolerance = 1e-10)
  expect_gte(value_of(ask(trial, "theil's u of region and arm"), "estimate"), 0)
  g <- ask(trial, "goodman kruskal gamma of queen age and mites before")
  d <- outer(seq_len(nrow(rows)), seq_len(nrow(rows)), function(i, j) sign(rows$queen_age_months[i] - rows$queen_age_months[j]) *
    sign(rows$mites_before[i] - rows$mites_before[j]))
  expect_equal(value_of(g, "estimate"), sum(d) / sum(abs(d)), tolerance = 1e-10)
})

test_that("plans of sample size take the spread that is named", {
  a <- ask(trial, "paired sample size for a difference of 1 with sd of differences 3")
  expect_equal(value_of(a, "n"), ceiling(power.t.test(delta = 1, sd = 3, power = 0.8, type = "paired")$n))
  b <- ask(trial, "detectable difference with 60 per group and sd 6")
  expect_equal(value_of(b, "effect_raw"), power.t.test(n = 60, sd = 6, power = 0.8, delta = NULL, strict = TRUE, tol = 1e-10)$delta, tolerance = 1e-5)
  expect_retraces(b)
})

test_that("strata of a Breslow-Day test are told by their preposition", {
  d <- with_seed(251, data.frame(treated = sample(c("yes", "no"), 200, TRUE), cured = sample(c("yes", "no"), 200, TRUE),
                                 site = sample(c("a", "b", "c"), 200, TRUE)))
  a <- ask(open_study(d), "breslow-day test of cured and treated across site")
  expect_equal(method_of(a), "cochran_mantel_haenszel")
  expect_equal(reading(a)$adjust_for, "site")
})
