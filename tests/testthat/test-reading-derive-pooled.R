trial_counts <- function() data.frame(trial = paste("Trial", LETTERS[1:8]), events_drug = c(12, 5, 30, 8, 22, 4, 15, 9), n_drug = c(100, 60, 210, 75, 150, 55, 120, 90),
                                      events_placebo = c(18, 9, 41, 9, 35, 6, 21, 14), n_placebo = c(98, 62, 205, 80, 148, 50, 118, 95),
                                      high_risk = rep(c("yes", "no"), 4))

test_that("differences of risks are pooled by their inverse variances", {
  d <- trial_counts()
  s <- open_study(d)
  a <- ask(s, "pooled risk difference with fixed effect")
  p <- d$events_drug / d$n_drug; q <- d$events_placebo / d$n_placebo
  w <- 1 / (p * (1 - p) / d$n_drug + q * (1 - q) / d$n_placebo)
  expect_equal(value_of(a, "estimate"), sum(w * (p - q)) / sum(w))
  expect_equal(value_of(a, "se"), sqrt(1 / sum(w)))
  expect_retraces(a)
  expect_retraces(ask(s, "risk difference random effects"))
})

test_that("no event in both groups leaves a difference its error", {
  d <- trial_counts()
  d$events_drug[1] <- d$events_placebo[1] <- 0
  a <- ask(open_study(d), "pooled risk difference with fixed effect")
  expect_true(all(table_of(a, "studies")$se > 0))
  expect_retraces(a)
})

test_that("questions about studies that do not say pool are read as about the pooled result", {
  s <- open_study(trial_counts())
  task <- function(q) as.list(ask(s, q))$reading$task
  for (q in c("what is the pooled risk ratio of the drug versus placebo", "does the effect differ between high risk and low risk trials",
              "which trial has the most weight", "prediction interval for a new trial", "forest plot of the risk ratios")) {
    expect_equal(task(q), "pool", info = q)
    expect_equal(status_of(ask(s, q)), "answered", info = q)
  }
  expect_equal(reading(ask(demo_study("earlier_trials.csv"), "does the effect differ by country"))$extra$view, "study_groups")
  expect_match(as.list(ask(s, "leave one out analysis"))$sentences$headline, "the pooled odds ratio runs from", fixed = TRUE)
})

test_that("a random-effects interval narrower than that of one common effect is told", {
  a <- ask(open_study(trial_counts()), "pool the trials")
  random <- value_of(a, "ci_high") - value_of(a, "ci_low")
  b <- ask(open_study(trial_counts()), "odds ratio with fixed effect")
  fixed <- value_of(b, "ci_high") - value_of(b, "ci_low")
  own <- Filter(function(k) k$id == "interval_width", as.list(a)$checks)[[1]]
  expect_lt(random, fixed)
  expect_equal(own$verdict, "caution")
  expect_equal(own$numbers[[1]]$value, random / fixed)
  # views answer another question than a second method does
  expect_length(as.list(ask(open_study(trial_counts()), "pool the trials by high_risk"))$second_opinions, 0)
})
