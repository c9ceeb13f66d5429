# Answers that respect declared weights, clusters and strata, from question to script.

survey_study <- function(...) design(demo_study("keeper_survey.csv"), weights = "weight", ...)

test_that("declared weights enter means of groups, their comparison, shares, associations and models", {
  s <- survey_study()
  asked <- c("mean satisfaction by region" = "weighted_means", "does satisfaction differ between north and south?" = "weighted_means",
             "does satisfaction differ by region?" = "weighted_means", "share of keepers by region" = "weighted_shares",
             "is age band related to region?" = "weighted_shares", "correlation of years keeping and hives owned" = "weighted_correlation",
             "how does satisfaction depend on years keeping, adjusting for region?" = "weighted_regression")
  for (q in names(asked)) {
    a <- ask(s, q)
    expect_equal(method_of(a), asked[[q]], info = q)
    expect_match(paste(reading(a)$assumed, collapse = " "), "Weighted by weight, as the design declares", info = q)
    expect_retraces(a)
  }
})

test_that("the numbers are those of weighted.mean and of the weighted table", {
  d <- as.data.frame(demo_study("keeper_survey.csv")); s <- survey_study()
  ok <- !is.na(d$satisfaction) & !is.na(d$region)
  a <- ask(s, "does satisfaction differ between north and south?")
  m <- function(r) with(d[ok & d$region == r, ], weighted.mean(satisfaction, weight))
  expect_equal(value_of(a, "estimate"), m("north") - m("south"), tolerance = 1e-10)
  b <- table_of(ask(s, "share of keepers by region"), "counts")
  share <- tapply(d$weight, as.character(d$region), sum) / sum(d$weight[!is.na(d$region)])
  expect_equal(b$percent, as.vector(100 * share[b$level]), tolerance = 1e-10)
})

test_that("strata and clusters come with the weights", {
  a <- ask(survey_study(strata = "region"), "mean satisfaction by age band")
  expect_match(paste(reading(a)$assumed, collapse = " "), "Strata: region")
  expect_equal(value_of(a, "strata"), 3)
  expect_retraces(a)
  n <- 120
  d <- with_seed(21, data.frame(school = rep(sprintf("S%02d", 1:12), each = 10), sex = sample(c("f", "m"), n, TRUE), score = rnorm(n, 50, 8),
                                passed = sample(c("yes", "no"), n, TRUE), sampling_weight = runif(n, 1, 3)))
  s <- design(open_study(d), weights = "sampling_weight", cluster = "school")
  b <- ask(s, "does score differ between f and m?")
  expect_equal(value_of(b, "clusters"), 12)
  expect_equal(value_of(b, "df"), 11)
  expect_retraces(b)
  c <- ask(s, "how does passed depend on score and sex?")
  expect_equal(method_of(c), "weighted_regression")
  expect_equal(value_of(c, "odds_ratio"), exp(value_of(c, "estimate")), tolerance = 1e-12)
  expect_retraces(c)
  expect_retraces(ask(s, "is passed related to sex?"))
  expect_retraces(ask(s, "share with score over 55 by sex"))
})

test_that("weights asked for in words are used, and no declared ones are needed", {
  s <- demo_study("keeper_survey.csv")
  a <- ask(s, "weighted mean satisfaction by region")
  expect_equal(method_of(a), "weighted_means")
  d <- as.data.frame(s); ok <- !is.na(d$satisfaction) & d$region %in% "north"
  t <- table_of(a, "groups")
  expect_equal(t$mean[t$region == "north"], weighted.mean(d$satisfaction[ok], d$weight[ok]), tolerance = 1e-10)
  b <- ask(s, "mean satisfaction weighted by hives owned")
  ok <- !is.na(d$satisfaction) & !is.na(d$hives_owned)
  expect_equal(value_of(b, "estimate"), weighted.mean(d$satisfaction[ok], d$hives_owned[ok]), tolerance = 1e-10)
})

test_that("where a method takes no weights the answer says so", {
  a <- ask(survey_study(), "standard deviation of satisfaction by region")
  expect_match(paste(unlist(as.list(a)$cautions), collapse = " "), "weights in weight are not used")
  expect_no_match(paste(reading(a)$assumed, collapse = " "), "Weighted by")
})

test_that("weights that cannot be are refused", {
  s <- design(open_study(data.frame(g = rep(c("a", "b"), 20), y = 1:40 + 0.5, w = c(-1, rep(1, 39)))), weights = "w")
  a <- ask(s, "does y differ between a and b?")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "negative weights")
})
