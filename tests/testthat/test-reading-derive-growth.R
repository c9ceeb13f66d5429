# Growth in long data, and what units ever did.

plants_data <- function() {
  grid <- expand.grid(day = c(0, 7, 14, 21, 28), plant = 1:30)
  with_seed(5, {
    treatment <- c("control", "compost")[grid$plant %% 2 + 1]
    data.frame(plant = grid$plant, treatment = treatment, day = grid$day,
               height_cm = round(4 + (0.5 + 0.1 * (treatment == "compost")) * grid$day + stats::rnorm(30)[grid$plant] + stats::rnorm(nrow(grid), 0, .5), 1),
               leaves = stats::rpois(nrow(grid), 2 + grid$day / 4), flowered = ifelse(grid$day >= 14 & stats::runif(nrow(grid)) < .3, "yes", "no"))
  })
}
plants <- plants_data()
study <- open_study(local_data(plants, "greenhouse.csv", env = parent.frame()))
wide <- stats::reshape(plants[c("plant", "treatment", "day", "height_cm")], idvar = c("plant", "treatment"), timevar = "day", direction = "wide")

test_that("a growth rate is the change of what grows, a day", {
  rate <- (wide$height_cm.28 - wide$height_cm.0) / 28
  for (q in c("growth rate per treatment", "average daily gain in height by treatment")) {
    t <- table_of(ask(study, q), "groups")
    expect_equal(t$mean, as.vector(tapply(rate, wide$treatment, mean)[t$treatment]), info = q)
  }
  a <- ask(study, "how fast do the plants grow")
  expect_equal(value_of(a, "estimate"), mean(rate))
  expect_true(any(grepl("Took growth to be the change in height_cm", reading(a)$assumed)))
})

test_that("growth between two days compares the same plants", {
  a <- ask(study, "growth between day 7 and day 21")
  expect_equal(abs(value_of(a, "estimate")), mean(wide$height_cm.21 - wide$height_cm.7))
  for (q in c("does growth differ between treatments", "height gain from day 0 to 28 by treatment")) expect_identical(method_of(ask(study, q)), "anova_mixed", info = q)
})

ever <- tapply(plants$flowered == "yes", plants$plant, any)
arm <- tapply(plants$treatment, plants$plant, `[`, 1)

test_that("units that ever did it are counted once", {
  for (q in c("share of flowering plants by treatment", "share of plants that flowered by treatment")) {
    t <- table_of(ask(study, q), "shares")
    expect_equal(t$share, as.vector(tapply(ever, arm, mean)[t$group]), info = q)
  }
  by21 <- tapply(plants$flowered == "yes" & plants$day <= 21, plants$plant, any)
  expect_identical(value_of(ask(study, "how many plants had flowered by day 21"), "estimate"), sum(by21) + 0)
})

test_that("when it first happened is one time of each unit", {
  first <- vapply(split(plants, plants$plant), function(p) if (any(p$flowered == "yes")) min(p$day[p$flowered == "yes"]) else NA_real_, 1)
  a <- ask(study, "when did plants first flower")
  expect_equal(value_of(a, "estimate"), mean(first, na.rm = TRUE))
  b <- ask(study, "when do plants flower by treatment")
  t <- table_of(b, "groups")
  expect_equal(t$mean, as.vector(tapply(first, arm, mean, na.rm = TRUE)[t$treatment]))
  expect_retraces(b)
})
