# Chances of somebody described, ratios per step, who is alive, and predictors of what.

birth_rows <- function() {
  b <- MASS::birthwt
  data.frame(low_birth_weight = ifelse(b$low == 1, "yes", "no"), mother_age = b$age, mother_weight_lb = b$lwt,
             race = c("white", "black", "other")[b$race], smoker = ifelse(b$smoke == 1, "yes", "no"), birth_weight_g = b$bwt)
}

test_that("the chance of somebody described by a number is what a model expects there", {
  skip_if_not_installed("MASS")
  d <- birth_rows(); s <- open_study(d)
  expected <- function(form, at) unname(stats::predict(stats::glm(form, stats::binomial(), d), at, type = "response"))
  a <- ask(s, "what is the chance of low birth weight for a 25 year old smoker?")
  expect_equal(value_of(a, "estimate"), expected(I(low_birth_weight == "yes") ~ mother_age + smoker, data.frame(mother_age = 25, smoker = "yes")),
               tolerance = 1e-6)
  b <- ask(s, "risk of low birth weight for a black smoker aged 30")
  expect_equal(value_of(b, "estimate"), expected(I(low_birth_weight == "yes") ~ mother_age + race + smoker,
                                                 data.frame(mother_age = 30, race = "black", smoker = "yes")), tolerance = 1e-6)
  expect_retraces(b, 1e-6)
  # (without a number the rows themselves tell)
  expect_equal(method_of(ask(s, "risk of low birth weight for black mothers")), "frequency_table")
})

test_that("an odds ratio per so many units is of the one yes/no column, which is said", {
  skip_if_not_installed("MASS")
  p <- rbind(MASS::Pima.tr, MASS::Pima.te)
  d <- data.frame(glucose = p$glu, bmi = p$bmi, diabetes = p$type)
  a <- ask(open_study(d), "odds ratio per 10 units of glucose")
  own <- stats::glm(I(diabetes == "Yes") ~ I(glucose / 10), stats::binomial(), d)
  expect_equal(value_of(a, "odds_ratio"), exp(stats::coef(own)[[2]]), tolerance = 1e-7)
  expect_true(any(grepl("only yes/no column", unlist(reading(a)$assumed))))
  b <- ask(open_study(d), "Is glucose a better predictor than bmi?")
  expect_equal(method_of(b), "association_ranking")
  expect_setequal(reading(b)$predictors, c("glucose", "bmi"))
})

test_that("who is alive by a time, and who dies sooner, is asked of the survival curve", {
  l <- survival::lung
  d <- data.frame(survival_days = l$time, status = ifelse(l$status == 2, "died", "censored"), weight_loss_lb = l$wt.loss, age = l$age)
  s <- open_study(d)
  a <- ask(s, "how many patients were still alive at 6 months?")
  curve <- summary(survival::survfit(survival::Surv(time, status) ~ 1, l), times = 182.625)$surv
  expect_equal(value_of(a, "estimate"), curve, tolerance = 1e-8)
  b <- ask(s, "Did patients who lost more weight die sooner?")
  own <- survival::coxph(survival::Surv(time, status) ~ wt.loss, l)
  expect_equal(value_of(b, "estimate"), stats::coef(own)[[1]], tolerance = 1e-6)
})
