
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

test_that("words for people beside columns about them are the rows; names written as one word or around another are found", {
  d <- with_seed(41, data.frame(low_birth_weight = sample(c("yes", "no"), 90, TRUE), mother_age = sample(17:40, 90, TRUE),
      mother_weight_lb = round(rnorm(90, 130, 20)),
                                birth_weight_g = round(rnorm(90, 3000, 500)), physician_visits = rpois(90, 1)))
  s <- open_study(d)
  expect_equal(value_of(ask(s, "What share of mothers had a low birth weight baby?"), "estimate"), mean(d$low_birth_weight == "yes"),
      tolerance = 1e-12)
  expect_equal(value_of(ask(s, "How many mothers had at least two physician visits?"), "n"), sum(d$physician_visits >= 2))
  expect_equal(value_of(ask(s, "mean birthweight for mothers under 20"), "estimate"), mean(d$birth_weight_g[d$mother_age < 20]), tolerance = 1e-12)
  a <- ask(s, "Is mother's weight related to baby's weight?")
  expect_equal(value_of(a, "estimate"), stats::cor(d$mother_weight_lb, d$birth_weight_g), tolerance = 1e-12)
  hands <- with_seed(42, data.frame(hand = sample(c("Left", "Right"), 80, TRUE), writing_span_cm = rnorm(80, 19, 2), other_span_cm = rnorm(80, 18,
      2), height_cm = rnorm(80, 172, 9)))
  b <- ask(open_study(hands), "Is writing hand span related to height?")
  expect_equal(abs(value_of(b, "estimate")), abs(stats::cor(hands$writing_span_cm, hands$height_cm)), tolerance = 1e-12)
})

test_that("a key named as the other side of a relation is refused, not passed over", {
  s <- open_study(data.frame(run = 1:20, y = sin(1:20), z = cos(1:20), w = sqrt(1:20)))
  for (q in c("regress y on run", "correlation of y and run", "plot y against run")) {
    a <- ask(s, q)
    expect_equal(status_of(a), "cannot_answer", info = q)
    expect_match(as.list(a)$sentences$headline, "run", fixed = TRUE, info = q)
  }
})
