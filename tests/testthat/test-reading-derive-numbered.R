# Rows of the same units at numbered times.

dog_rows <- function() with_seed(17, {
  dogs <- sprintf("D%02d", 1:40)
  out <- expand.grid(week = c(0, 2, 4, 8), dog = dogs, stringsAsFactors = FALSE)
  at <- match(out$dog, dogs)
  out$arm <- sample(rep(c("drug", "placebo"), 20))[at]; out$breed <- sample(c("Labrador", "Collie", "Beagle"), 40, TRUE)[at]
  out$lameness <- round(pmax(0, 6 - ifelse(out$arm == "drug", 0.35, 0.1) * out$week + rnorm(160)), 1)
  out$weight_kg <- round(28 + rnorm(40, 0, 4)[at] + rnorm(160, 0, 0.4), 1)
  out
})

test_that("a value at one time is held constant at another", {
  rows <- dog_rows(); s <- open_study(local_data(rows))
  wide <- merge(rows[rows$week == 8, ], setNames(rows[rows$week == 0, c("dog", "lameness")], c("dog", "first")))
  slope <- unname(abs(coef(lm(lameness ~ arm + first, wide))["armplacebo"]))
  for (q in c("lameness by arm at week 8 adjusting for baseline lameness", "compare lameness by arm at week 8 adjusting for baseline",
              "what is the treatment effect at week 8 adjusted for baseline lameness?")) {
    expect_equal(abs(value_of(ask(s, q), "estimate")), slope, tolerance = 1e-8, info = q)
  }
  more <- ask(s, "effect of arm on lameness at week 8 adjusting for breed and lameness at week 0")
  expect_equal(abs(value_of(more, "estimate")), unname(abs(coef(lm(lameness ~ arm + breed + first, wide))["armplacebo"])), tolerance = 1e-8)
})

test_that("groups at the first time, what units lose, an effect within breeds", {
  rows <- dog_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "were the arms similar at week 0?")
  expect_equal(method_of(a), "baseline_table")
  expect_equal(filters_of(a), "week == 0")
  expect_equal(method_of(ask(s, "did the dogs lose weight?")), "anova_repeated")
  both <- table_of(ask(s, "mean lameness at each week for both arms"), "groups")
  expect_equal(nrow(both), 8L)
  depends <- ask(s, "is the effect on lameness the same in all breeds?")
  expect_setequal(reading(depends)$predictors, c("arm", "breed"))
  expect_equal(status_of(ask(s, "which dogs got worse?")), "needs_choice")
  for (q in c("how many hives improved", "how many got worse?", "how many hives got worse", "what share of hives grew by apiary")) {
    asked <- ask(hive_study(), q)
    expect_equal(status_of(asked), "needs_choice", info = q)
    expect_match(asked$sentences$headline, "in what the change is meant.* (improved|got worse|grew) in mites", info = q)
  }
  beyond <- ask(s, "how many dogs have a mean lameness above 5")
  expect_match(as.list(beyond)$sentences$headline, sprintf("^%d of the 40 groups", sum(tapply(rows$lameness, rows$dog, mean) > 5)))
})
