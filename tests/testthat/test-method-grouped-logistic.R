counts <- data.frame(sex = rep(c("M", "F"), each = 6), dose = rep(0:5, 2), dead = c(1, 4, 9, 13, 18, 20, 0, 2, 6, 10, 12, 16),
                     exposed = c(20, 18, 22, 20, 20, 20, 19, 20, 21, 20, 20, 20))

test_that("a question about deaths out of exposed weighs rows by their totals, by every way of putting it", {
  s <- open_study(counts)
  ref <- glm(cbind(dead, exposed - dead) ~ dose, binomial, counts)
  for (q in c("logistic regression of dead out of exposed on dose", "does the share of dead out of exposed depend on dose?",
              "regression of dead/exposed on dose")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "grouped_logistic", info = q)
    expect_equal(value_of(a, "odds_ratio"), exp(coef(ref)[["dose"]]), tolerance = 1e-7, info = q)
    expect_equal(value_of(a, "events"), sum(counts$dead), info = q)
  }
  expect_retraces(a)
  expect_equal(value_of(a, "half_at"), -coef(ref)[[1]] / coef(ref)[[2]], tolerance = 1e-7)
  b <- ask(s, "logistic regression of dead out of exposed on dose and sex")
  full <- glm(cbind(dead, exposed - dead) ~ dose + sex, binomial, counts)
  expect_equal(value_of(b, "model_chi_square"), full$null.deviance - deviance(full), tolerance = 1e-7)
  expect_equal(table_of(b, "coefficients")$estimate, unname(coef(full)), tolerance = 1e-6)
  expect_retraces(b)
  # the errors that allow for more spread are the second opinion
  scaled <- as.list(b)$second_opinions[[1]]
  expect_equal(scaled$method$id, "grouped_logistic_scaled")
})

test_that("the dose at which half die, and the share at a dose, come from the model of all rows", {
  s <- open_study(counts)
  ref <- glm(cbind(dead, exposed - dead) ~ dose, binomial, counts)
  half <- ask(s, "LD50 of dead out of exposed on dose")
  expect_equal(value_of(half, "estimate"), -coef(ref)[[1]] / coef(ref)[[2]], tolerance = 1e-7)
  expect_match(half$sentences$headline, "One half is expected at")
  expect_retraces(half)
  at <- ask(s, "expected share of dead out of exposed at dose 3")
  expect_equal(value_of(at, "estimate"), unname(predict(ref, data.frame(dose = 3), type = "response")), tolerance = 1e-8)
  expect_retraces(at)
})

test_that("shares of groups are totals over totals; counts above their total are refused", {
  s <- open_study(counts)
  a <- ask(s, "share of dead out of exposed by sex")
  expect_equal(method_of(a), "rate_table")
  expect_equal(sort(table_of(a, "rates")$rate), sort(as.vector(tapply(counts$dead, counts$sex, sum) / tapply(counts$exposed, counts$sex, sum))))
  expect_equal(as.list(ask(s, "does the share of dead out of exposed differ between the sexes?"))$reading$task, "compare")
  wrong <- transform(counts, exposed = replace(exposed, 3, 2))
  b <- ask(open_study(wrong), "logistic regression of dead out of exposed on dose")
  expect_equal(status_of(b), "cannot_answer")
  expect_match(b$sentences$headline, "cannot count how many of", fixed = TRUE)
})
