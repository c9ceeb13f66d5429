trial <- hive_study()
side <- function(q, from = trial) { r <- reading(ask(from, q)); c(task = r$task, outcome = paste(r$outcome, collapse = "+"), x = paste(c(r$predictors, r$by), collapse = "+")) }
expect_model <- function(q, outcome, x) expect_equal(unname(side(q)[c("outcome", "x")]), c(outcome, x), info = q)

test_that("wishes about a model leave the model to be read", {
  for (q in c("vif for honey yield on strength before and queen age", "variance inflation factors of the model of honey yield on strength before and queen age",
              "are strength before and queen age too closely related as predictors of honey yield?",
              "check for multicollinearity in the regression of honey yield on strength before and queen age",
              "cook's distances for honey yield on strength before and queen age",
              "are the residuals of honey yield on strength before and queen age normally distributed?",
              "residual diagnostics for the model of honey yield on strength before and queen age",
              "check the assumptions of the linear regression of honey yield on strength before and queen age",
              "standardised betas for honey yield on strength before and queen age",
              "regression of honey yield on strength before and queen age with hc3 errors")) {
    expect_model(q, "honey_yield_kg", "strength_before+queen_age_months")
  }
  expect_model("confusion matrix for survived winter from mites after", "survived_winter", "mites_after")
  expect_model("is the model of survived winter on mites after well calibrated?", "survived_winter", "mites_after")
  expect_model("random slope of strength before within apiary for honey yield", "honey_yield_kg", "strength_before")
  expect_model("cluster-robust errors by apiary: honey yield on arm", "honey_yield_kg", "arm")
  expect_model("number of mites after by arm as a rate ratio", "mites_after", "arm")
})

test_that("clusters and covariates land where they belong", {
  a <- ask(trial, "use apiary as clusters: honey yield on arm")
  expect_equal(method_of(a), "clustered_regression")
  expect_match(script(a), "apiary", all = FALSE)
  b <- ask(trial, "estimated marginal means of honey yield by arm adjusting for strength before")
  expect_equal(method_of(b), "ancova")
  expect_equal(reading(b)$adjust_for, "strength_before")
  c <- ask(trial, "does adding strength before to a model of honey yield on arm improve the fit?")
  expect_equal(c(reading(c)$predictors, reading(c)$adjust_for), c("strength_before", "arm"))
  # a measured covariate is no stratum
  d <- ask(trial, "risk of swarming for syrup compared with control adjusted for queen age")
  expect_equal(method_of(d), "logistic_regression")
})

test_that("the sides of a model are asked for after it", {
  a <- ask(trial, "model of honey yield on strength before, queen age and arm")
  has_table <- function(a, id) id %in% vapply(as.list(a)$tables, `[[`, "", "id")
  expect_true(has_table(ask(a, "which hives are influential?"), "influence"))
  expect_true(has_table(ask(a, "is there collinearity?"), "collinearity"))
  r <- ask(a, "are the residuals normal?")
  expect_true(has_table(r, "residuals"))
  north <- ask(r, "only in the north")
  expect_true(has_table(north, "residuals"))
  expect_equal(filters_of(north), "region == north")
  plain <- ask(north, "coefficients")
  expect_false(has_table(plain, "residuals"))
  expect_equal(method_of(ask(plain, "with robust errors")), "linear_regression_hc3")
  l <- ask(trial, "logistic regression of survived winter on mites before")
  expect_true(has_table(ask(l, "show the roc curve"), "confusion"))
  expect_true(has_table(ask(l, "is it well calibrated?"), "calibration"))
  expect_equal(status_of(ask(l, "residual plots")), "cannot_answer")
})

test_that("the words keep their other meanings", {
  # a column of residuals is a column, the influence of something on something an effect
  d <- with_seed(231, data.frame(residual_mg = rnorm(40, 5), washed = rep(c("yes", "no"), 20), influence = rnorm(40), score = rnorm(40)))
  s <- open_study(d)
  expect_equal(unname(side("does residual differ by washed", s)[c("task", "outcome")]), c("compare", "residual_mg"))
  expect_equal(unname(side("correlation of influence and score", s)["task"]), "relate")
  expect_equal(unname(side("influence of strength before on honey yield")[c("outcome", "x")]), c("honey_yield_kg", "strength_before"))
  expect_equal(side("what share of hives swarmed?")[["task"]], "frequency")
  expect_equal(side("share that survived the winter by arm")[["task"]], "frequency")
})

test_that("a cubic spline is a spline, a cubic is a polynomial", {
  s <- hive_study()
  for (q in c("cubic spline of honey yield on strength before", "restricted cubic spline of honey yield on strength before")) {
    expect_equal(method_of(ask(s, q)), "spline_regression", info = q)
  }
  expect_equal(method_of(ask(s, "fit a cubic of honey yield on strength before")), "polynomial_regression")
})
