test_that("coefficients are lm()'s, factors against their first level", {
  raw <- read.csv(demo_file())
  ref <- summary(lm(honey_yield_kg ~ strength_before + arm, raw))
  a <- ask(hive_study(), "regress honey yield on strength before and arm")
  t <- table_of(a, "coefficients")
  expect_equal(t$estimate, unname(coef(ref)[, 1]), tolerance = 1e-10)
  expect_equal(t$se, unname(coef(ref)[, 2]), tolerance = 1e-10)
  expect_equal(value_of(a, "r_squared"), ref$r.squared, tolerance = 1e-12)
})

test_that("with covariates the main estimate is the column asked about", {
  raw <- read.csv(demo_file())
  ref <- coef(summary(lm(honey_yield_kg ~ strength_before + queen_age_months, raw)))
  a <- ask(hive_study(), "How does honey yield depend on strength before, adjusting for queen age?")
  expect_equal(c(value_of(a, "estimate"), value_of(a, "se"), value_of(a, "p_value")), unname(ref["strength_before", c(1, 2, 4)]), tolerance = 1e-10)
  expect_equal(reading(a)$adjust_for, "queen_age_months")
})

test_that("a column that is a combination of others is named, not dropped in silence", {
  d <- data.frame(a = with_seed(91, rnorm(40)), b = with_seed(92, rnorm(40)))
  d$total <- d$a + d$b
  d$y <- d$a + with_seed(93, rnorm(40))
  a <- ask(open_study(d), "regress y on a, b and total")
  expect_match(paste(unlist(as.list(a)$sentences$details), collapse = " "), "No coefficient for total")
  expect_retraces(a)
})
