# Everyday questions about models: the model they ask for, with its numbers by base R.

trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"), stringsAsFactors = TRUE)
model_is <- function(a, outcome, predictors, adjust = character(), info = NULL) {
  r <- reading(a)
  expect_equal(r$outcome, outcome, info = info)
  expect_setequal(c(r$predictors, r$by), predictors)
  expect_setequal(unlist(r$adjust_for), adjust)
}

test_that("what a column adds to a model has the model's outcome", {
  asked <- c("does adding queen age improve the model of honey yield on strength before",
             "is queen age worth adding to the model of honey yield on strength before?",
             "does queen age explain honey yield beyond strength before")
  fit <- lm(honey_yield_kg ~ queen_age_months + strength_before, rows)
  for (q in asked) {
    a <- ask(trial, q)
    model_is(a, "honey_yield_kg", "queen_age_months", "strength_before", q)
    expect_equal(value_of(a, "p_value"), summary(fit)$coefficients["queen_age_months", 4], tolerance = 1e-8, info = q)
  }
})

test_that("how much a measure moves with another, in the direction that the question says", {
  asked <- c("how much does honey yield increase per unit of strength before", "change in honey yield per strength before",
             "how much does honey yield rise with each further point of strength before?")
  slope <- coef(lm(honey_yield_kg ~ strength_before, rows))[[2]]
  for (q in asked) {
    a <- ask(trial, q)
    model_is(a, "honey_yield_kg", "strength_before", info = q)
    expect_equal(value_of(a, "estimate"), slope, tolerance = 1e-10, info = q)
  }
  # (a mean of groups is none, nor is a change over time)
  expect_equal(method_of(ask(trial, "mean honey yield per apiary")), "group_summary")
})

test_that("the share of a spread that is accounted for, with the interval of the noncentral F", {
  a <- ask(trial, "how much of the variance in honey yield does strength before explain?")
  fit <- summary(lm(honey_yield_kg ~ strength_before, rows))
  f <- fit$fstatistic
  expect_equal(value_of(a, "estimate"), fit$r.squared, tolerance = 1e-10)
  low <- value_of(a, "ci_low")
  n <- sum(f[2:3]) + 1
  expect_equal(pf(f[[1]], f[[2]], f[[3]], n * low / (1 - low)), 0.975, tolerance = 1e-6)
  expect_retraces(a)
  b <- ask(trial, "what share of the variation in honey yield is explained by strength before and arm")
  expect_equal(value_of(b, "estimate"), summary(lm(honey_yield_kg ~ strength_before + arm, rows))$r.squared, tolerance = 1e-10)
  expect_match(as.list(b)$sentences$headline, "together account for 37.6 %", fixed = TRUE)
})

test_that("of two predictors the better one is told by shares of R squared", {
  asked <- c("does strength before predict honey yield better than queen age", "which of strength before and queen age predicts honey yield better",
             "is strength before a better predictor of honey yield than queen age?")
  d <- rows[complete.cases(rows[c("honey_yield_kg", "strength_before", "queen_age_months")]), ]
  r2 <- function(f) summary(lm(f, d))$r.squared
  both <- r2(honey_yield_kg ~ strength_before + queen_age_months)
  own <- mean(c(r2(honey_yield_kg ~ strength_before), both - r2(honey_yield_kg ~ queen_age_months)))
  for (q in asked) {
    a <- ask(trial, q)
    expect_equal(method_of(a), "relative_importance", info = q)
    t <- table_of(a, "importance")
    expect_equal(t$share[t$column == "strength_before"], own, tolerance = 1e-8, info = q)
  }
  # shares of all columns need rows that have them all
  all <- ask(trial, "relative importance of the predictors of honey yield")
  expect_equal(status_of(all), "answered")
  expect_equal(sum(table_of(all, "importance")$share), value_of(all, "r_squared"), tolerance = 1e-8)
})

test_that("how well something can be predicted is judged on rows held back", {
  for (q in c("how well can honey yield be predicted?", "how accurately can survival be predicted", "cross validated accuracy of survived winter")) {
    a <- ask(trial, q)
    expect_equal(method_of(a), "model_comparison", info = q)
    expect_gt(length(reading(a)$predictors), 5)
  }
  b <- ask(trial, "cross-validated accuracy of a model of survived winter on mites after and arm")
  model_is(b, "survived_winter", c("mites_after", "arm"))
  expect_equal(value_of(b, "accuracy") %in% table_of(b, "models")$accuracy, TRUE)
  expect_gt(value_of(b, "accuracy"), 0.5)
  expect_retraces(b, 1e-6)
})

test_that("effects in chances are averaged over the rows", {
  a <- ask(trial, "average marginal effect of mites before on survived winter")
  fit <- glm(survived_winter ~ mites_before, binomial, rows)
  h <- 1e-5
  at <- function(d) mean(predict(fit, transform(rows, mites_before = mites_before + d), type = "response"))
  expect_equal(value_of(a, "estimate"), (at(h) - at(-h)) / (2 * h), tolerance = 1e-6)
  expect_retraces(a, 1e-6)
  b <- ask(trial, "adjusted risk difference of survived winter between syrup and control, adjusting for mites before")
  two <- droplevels(rows[rows$arm %in% c("syrup", "control"), ])
  fit <- glm(survived_winter ~ arm + mites_before, binomial, two)
  risk <- function(l) mean(predict(fit, transform(two, arm = factor(l, levels(two$arm))), type = "response"))
  expect_equal(value_of(b, "estimate"), risk("syrup") - risk("control"), tolerance = 1e-7)
  expect_match(as.list(b)$sentences$headline, "^The chance of survived winter = yes")
  expect_retraces(b, 1e-6)
  # of a measured outcome it is the slope
  expect_equal(value_of(ask(trial, "marginal effect of strength before on honey yield"), "estimate"),
               coef(lm(honey_yield_kg ~ strength_before, rows))[[2]], tolerance = 1e-9)
})

test_that("slopes in groups and effects of a level that depend on a column are interactions", {
  fit <- lm(honey_yield_kg ~ strength_before * arm, rows)
  for (q in c("simple slopes of strength before by arm on honey yield", "slope of honey yield on strength before in each arm",
              "does the effect of syrup on honey yield depend on strength before?")) {
    a <- ask(trial, q)
    expect_equal(reading(a)$outcome, "honey_yield_kg", info = q)
    expect_equal(value_of(a, "p_value"), anova(fit)["strength_before:arm", "Pr(>F)"], tolerance = 1e-8, info = q)
  }
  slopes <- table_of(ask(trial, "simple slopes of strength before by arm on honey yield"), "simple_slopes")
  syrup <- coef(lm(honey_yield_kg ~ strength_before, rows, subset = arm == "syrup"))[[2]]
  expect_equal(slopes$estimate[grepl("syrup", slopes$at)], syrup, tolerance = 1e-8)
  # nothing is said of what is measured: asked back, not taken from the condition
  for (q in c("does the effect of syrup depend on strength before?", "does the effect of arm depend on strength before?")) {
    open <- ask(trial, q)
    expect_equal(status_of(open), "needs_choice", info = q)
    expect_false("strength_before" %in% unlist(reading(open)$outcome), info = q)
  }
})

test_that("standardised coefficients of Y on A and B are those of Y", {
  for (q in c("standardised coefficients of honey yield on strength before and queen age",
              "standardised coefficients of strength before and queen age on honey yield",
              "standardised coefficients of strength before and queen age for honey yield")) {
    a <- ask(trial, q)
    model_is(a, "honey_yield_kg", c("strength_before", "queen_age_months"), info = q)
  }
  d <- rows[complete.cases(rows[c("honey_yield_kg", "strength_before", "queen_age_months")]), c("honey_yield_kg", "strength_before", "queen_age_months")]
  own <- coef(lm(honey_yield_kg ~ ., as.data.frame(scale(d))))
  t <- table_of(a, "coefficients")
  expect_equal(t$estimate[t$term == "strength_before"], own[["strength_before"]], tolerance = 1e-8)
})

test_that("a spline has the knots or degrees of freedom that are asked for", {
  a <- ask(trial, "natural spline of honey yield on strength before with 4 knots")
  d <- rows[complete.cases(rows[c("honey_yield_kg", "strength_before")]), ]
  fit <- lm(honey_yield_kg ~ splines::ns(strength_before, knots = quantile(strength_before, 1:2 / 3)), d)
  expect_equal(value_of(a, "r_squared"), summary(fit)$r.squared, tolerance = 1e-8)
  expect_equal(value_of(a, "df1"), 3)
  expect_retraces(a)
  expect_equal(value_of(ask(trial, "spline of honey yield on strength before with 5 degrees of freedom"), "df1"), 5)
})

test_that("a cut is told on the scale of its column", {
  a <- ask(trial, "best cut-off of mites before for survived winter")
  yes <- rows$survived_winter == "yes"
  cuts <- sort(unique(rows$mites_before))
  youden <- vapply(cuts, function(k) mean(rows$mites_before[yes] <= k) + mean(rows$mites_before[!yes] > k) - 1, 1)
  expect_equal(value_of(a, "best_cut_value"), cuts[which.max(youden)])
  expect_equal(value_of(a, "sensitivity") + value_of(a, "specificity") - 1, max(youden), tolerance = 1e-10)
  expect_match(as.list(a)$sentences$headline, "or less", fixed = TRUE)
  expect_retraces(a)
})

lending <- with_seed(78, {
  k <- 260
  d <- data.frame(loan_no = 100000 + 1:k, branch = sample(c("Mill", "Quay"), k, TRUE), income = round(rlnorm(k, 10.4, 0.4)), loan_amount = round(rlnorm(k, 9, 0.5), -2),
                  credit_score = round(rnorm(k, 640, 60)), applied_on = format(as.Date("2024-01-01") + sample(0:500, k, TRUE)), built = sample(1900:2015, k, TRUE))
  d$interest_pct <- round(12 - 0.01 * (d$credit_score - 640) + rnorm(k), 2)
  d$defaulted <- as.integer(runif(k) < plogis(-1.5 - 0.01 * (d$credit_score - 640)))
  d
})
loans <- open_study(lending)

test_that("steps of a size, accuracy of a model, drivers beside a column held constant", {
  a <- ask(loans, "how much does interest fall per 10 points of credit score?")
  expect_equal(value_of(a, "estimate"), 10 * coef(lm(interest_pct ~ credit_score, lending))[[2]], tolerance = 1e-10)
  expect_match(as.list(a)$sentences$headline, "For 10 more of credit score", fixed = TRUE)
  expect_retraces(a)
  expect_equal(method_of(ask(loans, "how accurate is a model of default on credit score and income?")), "model_comparison")
  b <- ask(loans, "what predicts interest after adjusting for credit score?")
  expect_equal(unlist(reading(b)$adjust_for), "credit_score")
  expect_false("credit_score" %in% unlist(reading(b)$predictors))
  full <- lm(interest_pct ~ branch + income + loan_amount + built + factor(defaulted) + credit_score, lending)
  expect_equal(value_of(b, "p_value"), anova(lm(interest_pct ~ credit_score, lending), full)$`Pr(>F)`[2], tolerance = 1e-8)
})

test_that("a year that something lasted is no bound, a year behind a column's word is its value", {
  a <- ask(loans, "did loan amount grow over 2024?")
  expect_equal(filters_of(a), "applied_on between 2024-01-01|2024-12-31")
  old <- open_study(lending[setdiff(names(lending), "applied_on")])
  b <- ask(old, "what would interest be for a home built in 1950")
  expect_equal(value_of(b, "estimate"), predict(lm(interest_pct ~ built, lending), data.frame(built = 1950))[[1]], tolerance = 1e-10)
})

test_that("cut-offs that separate, and lines that are good enough, are answered as such", {
  s <- hive_study(); d <- as.data.frame(s)
  a <- ask(s, "which cut-off of mites after best separates survivors?")
  expect_equal(c(method_of(a), unlist(as.list(a)$reading$outcome), unlist(as.list(a)$reading$predictors)), c("logistic_regression", "survived_winter",
    "mites_after"))
  cut <- value_of(a, "best_cut_value")
  lived <- as.character(d$survived_winter) %in% c("yes", "TRUE")
  gain <- function(k) { use <- !is.na(d$mites_after); mean(d$mites_after[use & lived] <= k) + mean(d$mites_after[use & !lived] > k) }
  expect_equal(gain(cut), max(vapply(unique(d$mites_after[!is.na(d$mites_after)]), gain, 1)), tolerance = 1e-12)
  b <- ask(s, "is a straight line good enough for honey yield and strength before?")
  expect_match(as.list(b)$sentences$headline, "^Yes, a straight line is good enough")
  bent <- with_seed(131, { x <- runif(150, -3, 3); data.frame(x = x, y = x^2 + rnorm(150, 0, 0.4)) })
  expect_match(as.list(ask(open_study(bent), "is a straight line good enough for y and x?"))$sentences$headline, "^No, a straight line is not enough")
})
