trial <- hive_study()

test_that("a method that is not carried out is named, and nothing else is done in its place", {
  asked <- list(c("lasso of honey yield on strength before and queen age", "penalised regression"),
                c("penalised regression of honey yield on all columns", "penalised regression"),
                c("quantile regression of honey yield on strength before", "quantile regression"),
                c("instrumental variable regression of honey yield on strength before", "instrumental variables"),
                c("difference in differences of honey yield by arm", "difference in differences"),
                c("does strength after mediate the effect of arm on honey yield", "mediation analysis"),
                c("linear discriminant analysis of region", "discriminant analysis"), c("multiple imputation of honey yield", "ultiple imputation"),
                c("hierarchical clustering of apiaries", "hierarchical clustering"), c("bayesian t test of honey yield by arm", "Bayesian analysis"))
  for (q in asked) {
    a <- as.list(ask(trial, q[1]))
    expect_equal(a$status, "cannot_answer", info = q[1])
    expect_match(a$sentences$headline, q[2], fixed = TRUE, info = q[1])
    expect_match(a$sentences$headline, "cannot be carried out here", fixed = TRUE, info = q[1])
  }
})

test_that("the nearest questions keep the columns and are answered", {
  near <- function(q) unlist(as.list(ask(trial, q))$`next`)
  expect_equal(near("quantile regression of honey yield on strength before")[1], "robust regression of honey yield on strength before")
  expect_equal(near("bayesian t test of honey yield between syrup and control")[1], "t test of honey yield between syrup and control")
  both <- near("does strength after mediate the effect of arm on honey yield")[1:2]
  expect_equal(both, c("effect of arm on honey yield", "effect of arm on honey yield adjusting for strength after"))
  for (q in c(both, near("probit regression of survived winter on mites before")[1])) expect_equal(status_of(ask(trial, q)), "answered", info = q)
  a <- ask(ask(trial, "probit regression of survived winter on mites before"), "1")
  expect_equal(method_of(a), "logistic_regression")
})

test_that("a column or value of that name is what it names", {
  d <- data.frame(lasso = 1:20 + with_seed(2, rnorm(20)), group = rep(c("boosting", "plain"), 10))
  study <- open_study(d)
  expect_equal(value_of(ask(study, "mean lasso by group"), "n"), 20)
  expect_equal(filters_of(ask(study, "mean lasso for boosting")), "group == boosting")
})

test_that("every pattern of the list is a regular expression that finds its own plain words", {
  for (m in internal("methods_beyond")()) {
    expect_true(is.character(m$name) && is.character(m$why), info = m$name)
    for (w in m$words) expect_silent(grepl(w, "some text", perl = TRUE))
  }
})
