trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"))
used <- rows[complete.cases(rows[c("honey_yield_kg", "strength_before", "arm")]), ]

test_that("influential rows are named, with Cook's distances of stats", {
  a <- ask(trial, "which hives are influential in the regression of honey yield on strength before?")
  cook <- cooks.distance(lm(honey_yield_kg ~ strength_before, used))
  expect_equal(value_of(a, "estimate"), max(cook), tolerance = 1e-8)
  t <- table_of(a, "influence")
  expect_equal(t$hive_id[1], used$hive_id[which.max(cook)])
  expect_equal(t$row[1], as.numeric(names(cook)[which.max(cook)]))
  without <- coef(lm(honey_yield_kg ~ strength_before, used[-which.max(cook), ]))[2]
  expect_match(paste(format(a), collapse = " "), formatC(without, digits = 3, format = "g"), fixed = TRUE)
  expect_retraces(a)
  b <- ask(trial, "influential rows in the logistic regression of survived winter on mites before")
  ref <- glm(survived_winter == "yes" ~ mites_before, binomial, rows)
  expect_equal(value_of(b, "estimate"), max(cooks.distance(ref)), tolerance = 1e-6)
  expect_retraces(b, 1e-6)
})

test_that("collinearity is told by generalised variance inflation factors", {
  a <- ask(trial, "is there collinearity between strength before, queen age and region in the model of honey yield?")
  expect_setequal(reading(a)$predictors, c("strength_before", "queen_age_months", "region"))
  d <- rows[complete.cases(rows[c("honey_yield_kg", "strength_before", "queen_age_months")]), ]
  t <- table_of(a, "collinearity")
  expect_equal(t$gvif[t$column == "strength_before"], 1 / (1 - summary(lm(strength_before ~ queen_age_months + region, d))$r.squared), tolerance = 1e-8)
  expect_retraces(a)
  one <- ask(trial, "vif for honey yield on strength before")
  expect_equal(status_of(one), "cannot_answer")
})

test_that("residuals are summed up and drawn in four panels", {
  a <- ask(trial, "residual plots of honey yield on strength before and arm")
  fit <- lm(honey_yield_kg ~ strength_before + arm, used)
  t <- table_of(a, "residuals")
  expect_equal(t$value[t$measure == "largest_standardised"], max(abs(rstandard(fit))), tolerance = 1e-8)
  expect_equal(t$value[t$measure == "beyond_two"], mean(abs(rstandard(fit)) > 2))
  expect_retraces(a)
  built <- ggplot2::ggplot_build(figure(a))
  expect_equal(nrow(built$layout$layout), 4)
})

test_that("a ROC curve has the area under it as its number, with sensitivity and specificity at its best cut", {
  a <- ask(trial, "roc curve for survived winter from mites after")
  d <- rows[!is.na(rows$mites_after), ]
  y <- d$survived_winter == "yes"
  pairs <- outer(-d$mites_after[y], -d$mites_after[!y], function(p, q) (p > q) + 0.5 * (p == q))
  expect_equal(value_of(a, "estimate"), mean(pairs), tolerance = 1e-8)
  p <- fitted(glm(y ~ mites_after, binomial, d))
  expect_equal(value_of(a, "sensitivity"), mean(p[y] >= value_of(a, "best_cut") - 1e-9))
  expect_equal(value_of(a, "specificity"), mean(p[!y] < value_of(a, "best_cut") - 1e-9))
  calls <- table_of(a, "confusion")
  expect_equal(calls$event, c(sum(p > 0.5 & y), sum(p <= 0.5 & y)))
  expect_retraces(a, 1e-7)
})

test_that("calibration is the Hosmer-Lemeshow test on tenths", {
  a <- ask(trial, "calibration of the model of survived winter on mites after and strength after")
  d <- rows[complete.cases(rows[c("mites_after", "strength_after")]), ]
  y <- d$survived_winter == "yes"
  p <- fitted(glm(y ~ mites_after + strength_after, binomial, d))
  g <- cut(p, quantile(p, 0:10 / 10), include.lowest = TRUE)
  o <- tapply(y, g, sum); e <- tapply(p, g, sum); n <- table(g)
  expect_equal(value_of(a, "statistic"), sum((o - e)^2 / (e * (1 - e / n))), tolerance = 1e-6)
  expect_equal(value_of(a, "df"), 8)
  expect_retraces(a, 1e-6)
})

test_that("overdispersion and proportional hazards have answers of their own", {
  a <- ask(trial, "are mites after overdispersed given arm?")
  ref <- glm(mites_after ~ arm, poisson, rows)
  expect_equal(value_of(a, "estimate"), sum(residuals(ref, "pearson")^2) / ref$df.residual, tolerance = 1e-7)
  expect_equal(value_of(a, "zeros_expected"), sum(dpois(0, fitted(ref))), tolerance = 1e-7)
  expect_retraces(a, 1e-7)
  b <- ask(trial, "are the hazards proportional between arms for days to swarm?")
  cox <- survival::coxph(survival::Surv(days_to_swarm, swarmed == "yes") ~ arm, rows, ties = "efron")
  scaled <- residuals(cox, "scaledsch")
  rho <- cor(scaled, rank(as.numeric(rownames(scaled))))
  expect_equal(table_of(b, "hazards")$correlation, unname(drop(rho)), tolerance = 1e-6)
  expect_retraces(b, 1e-6)
})

test_that("restricted means are areas under the curves up to the limit", {
  a <- ask(trial, "difference in restricted mean time to swarm up to 60 days between syrup and control")
  d <- rows[rows$arm %in% c("syrup", "control"), ]
  fit <- survival::survfit(survival::Surv(days_to_swarm, swarmed == "yes") ~ arm, d)
  ref <- summary(fit, rmean = 60)$table[, c("rmean", "se(rmean)")]
  expect_equal(value_of(a, "estimate"), ref[1, 1] - ref[2, 1], tolerance = 1e-8)
  expect_equal(value_of(a, "se"), sqrt(sum(ref[, 2]^2)), tolerance = 1e-6)
  expect_false(any(grepl("days_to_swarm", filters_of(a))))
  expect_retraces(a)
  expect_equal(status_of(ask(trial, "restricted mean time to swarm up to 400 days by arm")), "cannot_answer")
})

test_that("the share with or without the event by a day is read from the curve", {
  a <- ask(trial, "what share of hives has not swarmed by day 30?")
  ref <- summary(survival::survfit(survival::Surv(days_to_swarm, swarmed == "yes") ~ 1, rows), times = 30)$surv
  expect_equal(value_of(a, "estimate"), ref, tolerance = 1e-10)
  b <- ask(trial, "probability of swarming within 30 days")
  expect_equal(value_of(b, "estimate"), 1 - ref, tolerance = 1e-10)
  expect_retraces(b)
})

test_that("errors that allow for changing spread stand in the whole answer, the joint test among it", {
  a <- ask(trial, "hc3 standard errors for honey yield on arm and strength before")
  expect_equal(method_of(a), "linear_regression_hc3")
  fit <- lm(honey_yield_kg ~ arm + strength_before, used)
  x <- model.matrix(fit); u <- solve(crossprod(x))
  v <- u %*% crossprod(x * (resid(fit) / (1 - hatvalues(fit)))) %*% u
  expect_equal(table_of(a, "coefficients")$se, unname(sqrt(diag(v))), tolerance = 1e-8)
  b <- coef(fit)[-1]
  expect_equal(value_of(a, "statistic"), drop(b %*% solve(v[-1, -1], b)) / 3, tolerance = 1e-8)
  expect_retraces(a)
  expect_retraces(ask(trial, "honey yield on arm with robust standard errors"))
})

test_that("what a block adds is the F test of the two nested models", {
  for (q in c("do mites before and strength before jointly add anything to arm in explaining honey yield?",
              "nested models: honey yield on arm against honey yield on arm plus mites before and strength before")) {
    a <- ask(trial, q)
    f <- anova(lm(honey_yield_kg ~ arm, used), lm(honey_yield_kg ~ arm + mites_before + strength_before, used))
    expect_equal(value_of(a, "statistic"), f$F[2], tolerance = 1e-8)
    expect_equal(value_of(a, "r_squared_added"), f$`Sum of Sq`[2] / sum((used$honey_yield_kg - mean(used$honey_yield_kg))^2), tolerance = 1e-8)
    expect_retraces(a)
  }
})

test_that("standardised coefficients are those of standardised columns", {
  a <- ask(trial, "standardised coefficient of strength before for honey yield")
  expect_equal(value_of(a, "estimate"), cor(used$honey_yield_kg, used$strength_before), tolerance = 1e-10)
  b <- ask(trial, "beta weights of strength before and queen age for honey yield")
  ref <- lm(scale(honey_yield_kg) ~ scale(strength_before) + scale(queen_age_months), used)
  expect_equal(table_of(b, "coefficients")$estimate[-1], unname(coef(ref)[-1]), tolerance = 1e-8)
  expect_retraces(b)
})

test_that("a side that a model does not have is refused in words", {
  a <- ask(trial, "calibration of the model of honey yield on arm")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$headline %||% paste(format(a), collapse = " "), "logistic regression")
})
