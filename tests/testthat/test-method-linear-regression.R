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

test_that("several columns beside what is held constant have their own share, not that of the whole model", {
  s <- hive_study(); d <- as.data.frame(s)
  d <- d[complete.cases(d[c("honey_yield_kg", "arm", "strength_before", "region")]), ]
  a <- ask(s, "effect of arm and strength before on honey yield, adjusting for region")
  own <- anova(lm(honey_yield_kg ~ region, d), lm(honey_yield_kg ~ region + arm + strength_before, d))
  expect_equal(value_of(a, "statistic"), own$F[2], tolerance = 1e-8)
  expect_equal(value_of(a, "df1"), own$Df[2])
  expect_match(as.list(a)$sentences$headline, "region")
  expect_retraces(a)
  # and without anything held constant it is a model of both, neither a description nor a matrix
  b <- ask(s, "influence of queen age and mites before on honey yield")
  expect_equal(method_of(b), "linear_regression")
  expect_setequal(reading(b)$predictors, c("queen_age_months", "mites_before"))
  logit <- ask(s, "effect of region and queen age on swarmed")
  expect_equal(method_of(logit), "logistic_regression")
  expect_setequal(reading(logit)$predictors, c("region", "queen_age_months"))
})
