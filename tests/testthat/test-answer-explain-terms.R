# Numbers, checks and pasted tables in words.

test_that("each number of an answer has words of its own that hold its value", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  expect_match(explain(a, "statistic"), "standard errors")
  expect_match(explain(a, "hedges_g"), "standard deviations apart")
  expect_match(explain(a, "what does the standard error mean")[1], "from one sample to the next")
  expect_match(explain(a, "far_values"), "Far values")
  expect_error(explain(a, "auc"), class = "upbeatquill_error_bad_argument")
  b <- ask(a, "what does t mean here?")
  expect_match(as.list(b)$sentences$headline, "^t = ")
  expect_equal(value_of(b, "p_value"), value_of(a, "p_value"))
  c <- ask(a, "why this test?")
  expect_match(as.list(c)$sentences$headline, "Welch")
})

test_that("odds ratios and R squared are explained with their own values", {
  a <- ask(hive_study(), "logistic regression of winter survival on mites after")
  expect_match(explain(a, "odds_ratio"), "lowered by 13.%")
  expect_match(explain(a, "auc"), "guessing")
})

test_that("a table of coefficients is read from tabs, commas, pipes and blanks", {
  fit <- lm(mpg ~ wt + hp, mtcars)
  printed <- capture.output(print(summary(fit)$coefficients, digits = 4))
  csv <- capture.output(write.csv(summary(fit)$coefficients))
  tabs <- gsub(",", "\t", gsub("\"", "", csv))
  for (text in list(printed, gsub("\"", "", csv), tabs)) {
    t <- internal("read_coefficients")(text)
    expect_equal(t$estimate, unname(coef(fit)), tolerance = 1e-3)
    expect_equal(t$p, unname(summary(fit)$coefficients[, 4]), tolerance = 1e-2)
  }
  said <- explain(paste(tabs, collapse = "\n"))
  expect_match(said[2], "wt: for each further unit the outcome is 3.88 lower")
  expect_false(any(grepl("Look again", said)))
  stars <- c("              Estimate Std. Error t value Pr(>|t|)    ", "(Intercept)   37.2273     1.5988  23.285  < 2e-16 ***",
    "wt            -3.8778     0.6327  -6.129 1.12e-06 ***")
  expect_equal(internal("read_coefficients")(stars)$se, c(1.5988, 0.6327))
})

test_that("numbers that contradict each other are pointed out, and text without a table is refused", {
  wrong <- "term\testimate\tse\tt\tp\ndose\t2.0\t1.0\t5.0\t0.6\nage\t1.0\t0.5\t2.0\t0.046"
  said <- explain(wrong)
  expect_true(any(grepl("Look again at dose: the estimate over", said)))
  expect_true(any(grepl("Look again at dose: the p value", said)))
  expect_false(any(grepl("age: the p value does", said)))
  expect_error(explain("nothing to see here"), class = "upbeatquill_error_bad_argument")
})

test_that("a methods paragraph says rows, method, reason, checks and software", {
  text <- write_up(ask(hive_study(), "Does the honey yield differ between syrup and control?"), "methods")
  for (piece in c("Of 180 rows in hive_trial.csv", "Welch", "1947", "Sensitivity analyses", "two-sided", "upbeatquill")) expect_match(text, piece,
    fixed = TRUE)
})
