test_that("the test of independence carries base R's numbers and the 2 x 2 effects", {
  raw <- read.csv(demo_file())
  t <- table(raw$survived_winter, raw$swarmed)
  ref <- chisq.test(t, correct = FALSE)
  a <- ask(hive_study(), "Is winter survival related to swarming?")
  expect_equal(c(value_of(a, "statistic"), value_of(a, "p_value")), unname(c(ref$statistic, ref$p.value)), tolerance = 1e-12)
  share <- prop.table(t, 2)["yes", ]
  expect_equal(value_of(a, "risk_difference"), share[["no"]] - share[["yes"]], tolerance = 1e-12)
  expect_equal(value_of(a, "odds_ratio"), (t["yes", "no"] / t["no", "no"]) / (t["yes", "yes"] / t["no", "yes"]), tolerance = 1e-12)
})

test_that("few expected rows call for the exact test", {
  d <- data.frame(a = rep(c("x", "y"), c(5, 7)), b = c("p", "p", "p", "p", "q", "q", "q", "q", "q", "q", "q", "p"))
  a <- ask(open_study(d), "is a related to b")
  expect_equal(method_of(a), "fisher_exact")
  expect_equal(value_of(a, "p_value"), fisher.test(table(d))$p.value, tolerance = 1e-10)
})
test_that("adjusted residuals are chisq.test's", {
  a <- ask(demo_study("hive_trial.csv"), "chi-square test of winter survival by arm")
  d <- as.data.frame(hive_study())
  second <- suppressWarnings(chisq.test(table(d$survived_winter, d$arm), correct = FALSE))
  expect_equal(table_of(a, "crosstab")$adjusted_residual, as.vector(second$stdres), tolerance = 1e-10)
})
