trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"), stringsAsFactors = TRUE)

test_that("several stated values have an expected value each", {
  a <- ask(trial, "expected honey yield at strength before 8, 10 and 12")
  fit <- lm(honey_yield_kg ~ strength_before, rows)
  own <- predict(fit, data.frame(strength_before = c(8, 10, 12)), interval = "prediction")
  t <- table_of(a, "expected")
  expect_equal(t$estimate, unname(own[, "fit"]), tolerance = 1e-10)
  expect_equal(t$prediction_low, unname(own[, "lwr"]), tolerance = 1e-8)
  expect_equal(length(reading(a)$filters), 0)
  expect_match(reading(a)$plain, "8, 10 and 12", fixed = TRUE)
  expect_retraces(a)
})

test_that("chances at several values come from all rows", {
  a <- ask(trial, "what is the predicted probability of survived winter at 5, 10 and 20 mites before")
  fit <- glm(survived_winter ~ mites_before, binomial, rows)
  t <- table_of(a, "expected")
  expect_equal(t$estimate, unname(predict(fit, data.frame(mites_before = c(5, 10, 20)), type = "response")), tolerance = 1e-7)
  link <- predict(fit, data.frame(mites_before = c(5, 10, 20)), se.fit = TRUE)
  expect_equal(t$ci_high, unname(plogis(link$fit + qnorm(0.975) * link$se.fit)), tolerance = 1e-6)
  expect_retraces(a, 1e-6)
  # beyond what was seen it says so
  far <- ask(trial, "predicted honey yield at strength before 10 and 40")
  expect_match(as.list(far)$sentences$headline, "40 lies beyond", fixed = TRUE)
})

test_that("a level joined to the stated numbers takes part in the model", {
  a <- ask(trial, "predicted honey yield for strength before of 10 and arm syrup")
  fit <- lm(honey_yield_kg ~ strength_before + arm, rows)
  expect_equal(value_of(a, "estimate"), predict(fit, data.frame(strength_before = 10, arm = "syrup"))[[1]], tolerance = 1e-10)
  expect_match(paste(reading(a)$assumed, collapse = " "), "held at \"syrup\"", fixed = TRUE)
  expect_retraces(a)
  # "in the north" says which rows
  b <- ask(trial, "what is the expected yield of a hive with a 12 month old queen in the north?")
  expect_equal(filters_of(b), "region == north")
  chance <- ask(trial, "probability of survival with 5 mites before on syrup")
  own <- glm(survived_winter ~ mites_before + arm, binomial, rows)
  expect_equal(value_of(chance, "estimate"), predict(own, data.frame(mites_before = 5, arm = "syrup"), type = "response")[[1]], tolerance = 1e-7)
})
