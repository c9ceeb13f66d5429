skip_if_not_installed("survival")
births <- transform(infert, stratum = sprintf("S%02d", stratum))[c("education", "age", "induced", "case", "spontaneous", "stratum")]
for (name in c("clogit", "strata", "coxph", "Surv")) assign(name, getExportedValue("survival", name))

test_that("cases are compared with the controls of their own set, however the sets are named", {
  s <- open_study(births)
  ref <- clogit(case ~ spontaneous + induced + strata(stratum), births)
  for (q in c("conditional logistic regression of case on spontaneous and induced, matched by stratum",
              "conditional logistic regression of case on spontaneous and induced stratified by stratum",
              "logistic regression of case on spontaneous and induced in matched sets of stratum",
              "matched analysis of case on spontaneous and induced")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "conditional_logistic", info = q)
    t <- table_of(a, "coefficients")
    expect_equal(t$odds_ratio, unname(exp(coef(ref))), tolerance = 1e-7, info = q)
    expect_equal(value_of(a, "sets"), 83, info = q)
  }
  expect_retraces(a)
  one <- ask(s, "odds ratio of spontaneous for case within matched sets")
  expect_equal(value_of(one, "odds_ratio"), exp(coef(clogit(case ~ spontaneous + strata(stratum), births))[[1]]), tolerance = 1e-7)
  expect_retraces(one)
  expect_match(one$sentences$headline, "Within sets of the same stratum", fixed = TRUE)
})

test_that("what does not differ within sets is refused, and sets without a contrast are counted", {
  s <- open_study(births)
  expect_equal(status_of(ask(s, "conditional logistic regression of case on education, matched on stratum")), "cannot_answer")
  few <- births; few$case[few$stratum %in% unique(few$stratum)[1:60]] <- 0
  a <- ask(open_study(few), "conditional logistic regression of case on spontaneous, matched by stratum")
  expect_equal(value_of(a, "sets"), 23)
  checks <- as.list(a)$checks
  expect_equal(checks[[match("matched_sets", vapply(checks, `[[`, "", "id"))]]$verdict, "caution")
})

test_that("a column called induced is a predictor, not a condition on what is regressed", {
  a <- ask(open_study(births), "logistic regression of case on induced and spontaneous")
  expect_equal(table_of(a, "coefficients")$estimate, unname(coef(glm(case ~ induced + spontaneous, binomial, births))), tolerance = 1e-6)
})
