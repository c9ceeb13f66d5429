test_that("the correlation, its interval and line are base R's", {
  raw <- read.csv(demo_file())
  ref <- cor.test(raw$queen_age_months, raw$honey_yield_kg)
  a <- ask(hive_study(), "Is queen age correlated with honey yield?")
  expect_equal(c(value_of(a, "estimate"), value_of(a, "p_value"), value_of(a, "ci_low")), unname(c(ref$estimate, ref$p.value, ref$conf.int[1])),
    tolerance = 1e-10)
  expect_equal(value_of(a, "slope"), unname(coef(lm(honey_yield_kg ~ queen_age_months, raw))[2]), tolerance = 1e-10)
})
