skip_if_not_installed("survival")
visits <- with_seed(88, data.frame(patient = sprintf("P%02d", rep(1:40, each = 3)), site = sample(c("North", "South", "West"), 120, TRUE),
                                   arm = rep(sample(c("active", "control"), 40, TRUE), each = 3), age = round(rnorm(120, 60, 9)),
                                   days = ceiling(rexp(120, 1 / 60)), relapse = sample(c("yes", "no"), 120, TRUE)))
tight <- survival::coxph.control(eps = 1e-14, toler.chol = 1e-15, iter.max = 60)
Surv <- survival::Surv; strata <- survival::strata

test_that("strata are compared within, in the model and in the log-rank test", {
  s <- open_study(visits)
  ref <- survival::coxph(Surv(days, relapse == "yes") ~ arm + age + strata(site), visits, control = tight)
  for (q in c("Cox regression of days to relapse on arm and age stratified by site", "stratified Cox model of days to relapse on arm and age, strata site")) {
    a <- ask(s, q)
    expect_equal(table_of(a, "coefficients")$estimate, unname(coef(ref)), tolerance = 1e-7, info = q)
    expect_equal(value_of(a, "concordance"), ref$concordance[["concordance"]], tolerance = 1e-10, info = q)
    expect_match(a$sentences$headline, "within strata of site", fixed = TRUE, info = q)
  }
  expect_retraces(a)
  b <- ask(s, "log-rank test of days to relapse by arm stratified by site")
  own <- survival::survdiff(Surv(days, relapse == "yes") ~ arm + strata(site), visits)
  expect_equal(value_of(b, "statistic"), own$chisq, tolerance = 1e-9)
  expect_retraces(b)
  # strata beside nothing else are the groups; a curve is drawn for each
  expect_equal(as.list(ask(s, "log-rank test of days to relapse stratified by site"))$reading$by, list("site"))
  expect_equal(nrow(table_of(ask(s, "Kaplan-Meier curves of days to relapse stratified by site"), "groups")), 3)
})

test_that("errors by cluster are asked for in words and offered where a unit has several rows", {
  s <- open_study(visits)
  ref <- survival::coxph(Surv(days, relapse == "yes") ~ arm + age, visits, cluster = patient, control = tight)
  for (q in c("Cox regression of days to relapse on arm and age clustered by patient",
              "Cox regression of days to relapse on arm and age with cluster-robust standard errors by patient")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "clustered_hazards", info = q)
    expect_equal(table_of(a, "coefficients")$se, unname(sqrt(diag(vcov(ref)))), tolerance = 1e-7, info = q)
    expect_equal(value_of(a, "clusters"), 40, info = q)
    expect_equal(value_of(a, "wald"), unname(ref$wald.test), tolerance = 1e-7, info = q)
  }
  expect_retraces(a)
  plain <- as.list(ask(s, "Cox regression of days to relapse on arm and age"))
  expect_true(any(grepl("clustered by patient", unlist(plain[["next"]]))))
})
