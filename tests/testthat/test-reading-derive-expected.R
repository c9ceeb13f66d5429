# Expected values, bands, the two sides of a bound, "most of", margins, logarithms; numbers by base R.

garden_rows <- function() with_seed(81, {
  n <- 120
  out <- data.frame(bed = sprintf("B%03d", seq_len(n)), soil = sample(c("clay", "loam", "sand"), n, TRUE),
                    compost_kg = round(runif(n, 1, 9), 1), watered_days = rpois(n, 6), shaded = sample(c("yes", "no"), n, TRUE, c(0.3, 0.7)))
  out$yield_kg <- round(4 + 1.2 * out$compost_kg + 0.2 * out$watered_days + rnorm(n), 2)
  out$slugs <- rpois(n, 8)
  out$revenue_eur <- round(3 * out$yield_kg + runif(n), 2); out$profit_eur <- round(out$revenue_eur - 20 + rnorm(n, 0, 6), 2)
  out
})

test_that("what would be is what the model expects there, with its interval", {
  rows <- garden_rows(); s <- open_study(rows)
  one <- predict(lm(yield_kg ~ compost_kg, rows), data.frame(compost_kg = 7), interval = "confidence")
  two <- predict(lm(yield_kg ~ compost_kg + watered_days, rows), data.frame(compost_kg = 7, watered_days = 3))
  for (q in c("what would the yield be if compost were 7 kg", "what would be the average yield if compost were 7",
              "if compost were 7, what would the yield be?", "how much would a bed with compost of 7 yield")) {
    a <- ask(s, q)
    expect_equal(reading(a)$predictors, "compost_kg", info = q)
    expect_match(format_answer(a), say_three(one[1]), fixed = TRUE, info = q)
  }
  b <- ask(s, "what would the yield be if compost were 7 and watered days were 3?")
  expect_match(format_answer(b), say_three(two), fixed = TRUE)
})

test_that("a measure is cut into bands of equal size, at the median or at a bound", {
  rows <- garden_rows(); s <- open_study(rows)
  a <- ask(s, "divide compost into three groups and compare yield")
  expect_equal(reading(a)$by, "compost_kg_third")
  expect_equal(method_of(a), "anova_welch")
  cuts <- cut(rows$compost_kg, quantile(rows$compost_kg, 0:3 / 3), include.lowest = TRUE)
  expect_equal(value_of(a, "n"), sum(!is.na(cuts)))
  b <- ask(s, "split compost at the median and compare yield")
  expect_equal(method_of(b), "t_welch")
  expect_equal(value_of(b, "n"), nrow(rows))
  d <- ask(s, "compost under 5 vs 5 and over: yield")
  expect_equal(abs(value_of(d, "estimate")), abs(diff(tapply(rows$yield_kg, rows$compost_kg < 5, mean)))[[1]], tolerance = 1e-12)
  e <- ask(s, "is the yield higher in beds with compost above 5?")
  expect_equal(abs(value_of(e, "estimate")), abs(diff(tapply(rows$yield_kg, rows$compost_kg > 5, mean)))[[1]], tolerance = 1e-12)
  expect_match(paste(as.list(e)$reading$assumed, collapse = " "), "all others")
})

test_that("most of them is more than half, a chance beyond a bound is a share", {
  rows <- garden_rows(); s <- open_study(rows)
  a <- ask(s, "are most beds shaded?")
  expect_equal(value_of(a, "p_value"), binom.test(sum(rows$shaded == "yes"), nrow(rows))$p.value, tolerance = 1e-10)
  b <- ask(s, "what is the probability of more than 10 slugs in clay beds")
  expect_equal(value_of(b, "estimate"), mean(rows$slugs[rows$soil == "clay"] > 10), tolerance = 1e-12)
})

test_that("a logarithm that is asked for is taken, a margin is a total over a total", {
  rows <- garden_rows(); s <- open_study(rows)
  a <- ask(s, "log transform the revenue and compare the soils")
  t <- oneway.test(log(revenue_eur) ~ soil, rows)
  expect_equal(value_of(a, "p_value"), t$p.value, tolerance = 1e-10)
  expect_retraces(a)
  b <- table_of(ask(s, "profit margin by soil"), "rates")
  total <- function(v) tapply(v, rows$soil, sum)
  expect_equal(sort(b$rate), sort(as.vector(total(rows$profit_eur) / total(rows$revenue_eur))), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "how many beds are unprofitable"), "n"), sum(rows$profit_eur < 0))
})

test_that("two measures of the same rows are compared within them; balance over groups is a relation", {
  rows <- garden_rows(); s <- open_study(rows)
  a <- ask(s, "are yield and compost on average equally high?")
  expect_equal(value_of(a, "p_value"), t.test(rows$yield_kg, rows$compost_kg, paired = TRUE)$p.value, tolerance = 1e-10)
  b <- ask(s, "is shading balanced across soils?")
  expect_equal(method_of(b), "chi_square_independence")
  expect_equal(reading(b)$outcome, "shaded")
})

test_that("a map of correlations is none of places, and what cannot be allowed for is not passed over", {
  rows <- garden_rows(); s <- open_study(rows)
  expect_equal(method_of(ask(s, "show the correlation map")), "correlation_matrix")
  a <- ask(s, "is compost related to yield once the altitude is taken into account?")
  expect_equal(status_of(a), "cannot_answer")
})

test_that("thousands are those in which a column counts", {
  cars <- data.frame(model = paste("m", 1:40), price_thousand = c(seq(8, 46, 2), seq(9, 47, 2)))
  a <- ask(open_study(cars), "which models cost more than 40 thousand")
  expect_equal(value_of(a, "n"), sum(cars$price_thousand > 40))
  expect_equal(filters_of(a), "price_thousand > 40")
})

test_that("a small word behind a number is no unit, a likelihood is a share, what is unknown is missing", {
  trial <- read.csv(demo_file()); s <- demo_study("hive_trial.csv", "apiaries.csv")
  kept <- trial[!is.na(trial$honey_yield_kg) & trial$honey_yield_kg >= 0 & trial$region == "north", ]
  for (q in c("share of rows with honey yield above 25 in the north", "what is the probability of more than 25 kg honey in the north")) {
    expect_equal(value_of(ask(s, q), "estimate"), mean(kept$honey_yield_kg > 25), tolerance = 1e-12, info = q)
  }
  own <- trial[trial$queen_age_months > 24, ]
  expect_equal(value_of(ask(s, "how likely is a hive to swarm with a queen over 24 months"), "estimate"), mean(own$swarmed == "yes"), tolerance = 1e-12)
  a <- ask(s, "how likely are northern hives to survive the winter")
  expect_equal(filters_of(a), "region == north")
  expect_equal(reading(a)$outcome, "survived_winter")
  expect_equal(as.list(ask(s, "how many hives have unknown queen age"))$reading$task, "quality")
  b <- ask(s, "what would the honey yield be for a queen of 20 months")
  expect_equal(reading(b)$predictors, "queen_age_months")
})
