trial <- hive_study()
rows <- read.csv(demo_file(), na.strings = c("", "NA", "-99"))

test_that("p values of pairs are adjusted the way that is asked for, whatever its words", {
  for (q in c("hochberg adjusted pairwise comparisons of honey yield by arm", "compare honey yield between arms with hochberg correction",
              "compare honey yield between arms using the Hochberg procedure")) {
    a <- ask(trial, q)
    t <- table_of(a, "pairs")
    expect_equal(t$p_adjusted, p.adjust(t$p_value, "hochberg"), info = q)
    expect_false("ci_low" %in% names(t))
    expect_match(paste(format(a), collapse = " "), "Hochberg")
  }
  expect_retraces(a)
  welch <- t.test(honey_yield_kg ~ arm, rows[rows$arm != "syrup", ])
  expect_equal(t$p_value[t$level_a == "control" & t$level_b == "pollen patty"], welch$p.value, tolerance = 1e-8)
})

test_that("rank comparisons and correlations take the same wish", {
  d <- ask(trial, "dunn test of mites after by arm with benjamini-hochberg adjustment")
  t <- table_of(d, "pairs")
  expect_equal(t$p_adjusted, p.adjust(t$p_value, "BH"))
  expect_retraces(d)
  m <- ask(trial, "correlation matrix of strength before, mites before and honey yield with bonferroni correction")
  t <- table_of(m, "correlations")
  expect_equal(t$p_adjusted, pmin(1, 3 * t$p_value))
  expect_retraces(m)
})

test_that("where there is nothing to adjust it is said", {
  expect_equal(status_of(ask(trial, "mean of honey yield with holm correction")), "cannot_answer")
})
