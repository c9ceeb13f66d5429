
test_that("codes of sites divide the rows: named side by side, asked to matter, related to shares", {
  visits <- with_seed(4, data.frame(site = sprintf("S%02d", sample(12, 300, TRUE)), arm = sample(c("drug", "placebo"), 300, TRUE),
                                    pain = round(rnorm(300, 5, 2), 1), healed = sample(c("yes", "no"), 300, TRUE)))
  s <- open_study(visits)
  two <- visits[visits$site %in% c("S01", "S02"), ]
  for (q in c("compare pain between S01 and S02", "do sites S01 and S02 differ in pain?")) {
    expect_equal(value_of(ask(s, q), "p_value"), t.test(pain ~ site, two)$p.value, tolerance = 1e-10, info = q)
  }
  for (q in c("is pain related to site?", "does the site matter for pain?", "does pain depend on the site?")) {
    expect_equal(value_of(ask(s, q), "p_value"), oneway.test(pain ~ site, visits)$p.value, tolerance = 1e-10, info = q)
  }
  for (q in c("does healing depend on the site?", "does the site affect healing?", "does healing differ between sites?")) {
    expect_equal(value_of(ask(s, q), "p_value"), suppressWarnings(chisq.test(table(visits$healed, visits$site)))$p.value, tolerance = 1e-10, info = q)
  }
  a <- ask(s, "do patients heal more often in S01 than in S02")
  expect_equal(value_of(a, "p_value"), chisq.test(table(two$healed, two$site), correct = FALSE)$p.value, tolerance = 1e-10)
  expect_retraces(a)
  # numbers that name units are groups, never correlated
  visits$site_id <- as.integer(factor(visits$site))
  expect_equal(method_of(ask(open_study(visits[c("site_id", "arm", "pain")]), "is pain correlated with site_id")), "anova_welch")
})
