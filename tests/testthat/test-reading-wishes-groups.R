# Everyday questions about groups: which differ, all from a control, sides of several groups, and what is usual.

spray_rows <- function() data.frame(spray = as.character(datasets::InsectSprays$spray), insects = datasets::InsectSprays$count)
growth_rows <- function() data.frame(group = as.character(datasets::PlantGrowth$group), dried_weight = datasets::PlantGrowth$weight)

test_that("groups that differ from each other are compared, and two lists of them are set against each other", {
  rows <- spray_rows()
  s <- open_study(rows)
  for (q in c("which sprays differ from each other", "do the sprays differ from one another in insects?")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "statistic"), stats::oneway.test(insects ~ spray, rows)$statistic[[1]], info = q)
  }
  b <- ask(s, "sprays A, B and F against C, D and E")
  expect_equal(method_of(b), "contrast")
  m <- tapply(rows$insects, rows$spray, mean)
  expect_equal(abs(value_of(b, "estimate")), abs(mean(m[c("A", "B", "F")]) - mean(m[c("C", "D", "E")])), tolerance = 1e-12)
  v <- tapply(rows$insects, rows$spray, var) / 12
  expect_equal(value_of(b, "se"), sqrt(sum(v) / 9), tolerance = 1e-10)
  expect_retraces(b)
})

test_that("all groups against the control is Dunnett's test, under whatever name the groups go", {
  s <- open_study(growth_rows())
  for (q in c("Do treatments differ from control?", "are the groups different from the control group?")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "dunnett", info = q)
    fit <- stats::aov(dried_weight ~ group, growth_rows())
    expect_equal(value_of(a, "estimate"), 5.526 - 5.032, tolerance = 1e-10, info = q)
    expect_equal(value_of(a, "df"), stats::df.residual(fit), info = q)
  }
  # (no level is called so)
  expect_false(method_of(ask(open_study(spray_rows()), "do the sprays differ from control?")) %in% "dunnett")
})

test_that("an effect size between two levels leaves the others out", {
  d <- with_seed(3, data.frame(therapy = rep(c("family", "control", "talking"), each = 20), gain = rnorm(60, rep(c(7, 0, 3), each = 20), 4)))
  a <- ask(open_study(d), "effect size of family therapy versus control on gain")
  x <- d$gain[d$therapy == "family"]; y <- d$gain[d$therapy == "control"]
  pooled <- sqrt((var(x) + var(y)) / 2)
  expect_equal(abs(value_of(a, "cohens_d")), abs(mean(x) - mean(y)) / pooled, tolerance = 1e-8)
  expect_equal(value_of(a, "n"), 40)
})

test_that("seasons, changes from year to year and numbers that are none are understood of the one series", {
  d <- data.frame(month = seq(as.Date("1960-01-01"), by = "month", length.out = 144), passengers = as.numeric(datasets::AirPassengers))
  s <- open_study(d)
  expect_equal(method_of(ask(s, "is there seasonality")), "seasonal_trend")
  a <- ask(s, "year over year change")
  totals <- tapply(d$passengers, format(d$month, "%Y"), sum)
  expect_equal(value_of(a, "estimate"), unname(totals[12] - totals[1]))
  expect_equal(value_of(a, "growth"), unname((totals[12] / totals[1])^(1 / 11) - 1), tolerance = 1e-12)
  b <- ask(s, "5 number summary of passengers")
  expect_length(filters_of(b), 0)
  expect_equal(table_of(b, "describe")$q1, stats::quantile(d$passengers, 0.25, names = FALSE), tolerance = 1e-6)
})

test_that("a ratio of rates asks what the rates are per; new and old are the sides of one column", {
  w <- with_seed(8, data.frame(month = rep(1:12, 3), ward = rep(c("A", "B", "C"), each = 12), type = rep(c("medical", "surgical", "geriatric"),
      each = 12),
                               patient_days = round(rnorm(36, 620, 60)), falls = rpois(36, 4)))
  a <- ask(open_study(w), "rate ratio of falls geriatric vs medical")
  expect_equal(status_of(a), "needs_choice")
  expect_match(as.list(a)$sentences$headline, "what it is per", fixed = TRUE)
  o <- with_seed(9, data.frame(order_id = sprintf("O%03d", 1:80), order_value = round(rexp(80, 1 / 50), 2), new_customer = rep(c("yes", "no"), 40),
                               returned = sample(c("yes", "no"), 80, TRUE)))
  b <- ask(open_study(o), "do new customers spend less than returning ones?")
  expect_equal(reading(b)$by, "new_customer")
  expect_equal(abs(value_of(b, "estimate")), abs(diff(tapply(o$order_value, o$new_customer, mean)))[[1]], tolerance = 1e-10)
})

pain_rows <- function() with_seed(61, {
  n <- 90; arm <- rep(c("placebo", "low dose", "high dose"), 30); shift <- c(placebo = -3, `low dose` = -9, `high dose` = -15)[arm]
  d <- data.frame(subject_id = sprintf("PT-%03d", 1:n), arm = arm, bmi = round(rnorm(n, 27, 4), 1), pain_wk0 = round(rnorm(n, 62, 12)))
  d$pain_wk4 <- round(d$pain_wk0 + shift / 2 + rnorm(n, 0, 8)); d$pain_wk8 <- round(d$pain_wk0 + shift + rnorm(n, 0, 9))
  d$adverse_event <- sample(c("Yes", "No"), n, TRUE, c(0.3, 0.7)); d$rescue_med_doses <- rpois(n, 3)
  d$time_to_relief_days <- round(rexp(n, 1 / 25)) + 1; d$relief <- rbinom(n, 1, 0.8)
  d
})

test_that("the drug of a trial is its arm, and what modifies its effect is an interaction", {
  d <- pain_rows(); s <- open_study(d)
  a <- ask(s, "Does the drug reduce pain at week 8 compared with placebo?")
  expect_equal(c(reading(a)$outcome, reading(a)$by), c("pain_wk8", "arm"))
  b <- ask(s, "does bmi modify the treatment effect on pain at week 8")
  own <- stats::anova(stats::lm(pain_wk8 ~ arm + bmi, d), stats::lm(pain_wk8 ~ arm * bmi, d))
  expect_equal(value_of(b, "p_value"), own$`Pr(>F)`[2], tolerance = 1e-8)
  c <- ask(s, "intention to treat comparison of pain at week 8")
  expect_equal(c(reading(c)$outcome, reading(c)$by), c("pain_wk8", "arm"))
})

test_that("measures at named times are their columns, and a percentage is between the times that are named", {
  d <- pain_rows(); s <- open_study(d)
  a <- ask(s, "ANCOVA of pain at week 8 by arm with pain at week 0 as covariate")
  own <- stats::anova(stats::lm(pain_wk8 ~ pain_wk0, d), stats::lm(pain_wk8 ~ pain_wk0 + arm, d))
  expect_equal(value_of(a, "statistic"), own$F[2], tolerance = 1e-8)
  fall <- 100 * (d$pain_wk0 - d$pain_wk4) / d$pain_wk0
  expect_equal(value_of(ask(s, "how many patients had at least 30% reduction in pain from week 0 to week 4"), "count"), sum(fall >= 30))
  b <- ask(s, "correlation between baseline pain and change")
  expect_equal(value_of(b, "estimate"), stats::cor(d$pain_wk0, d$pain_wk8 - d$pain_wk0), tolerance = 1e-10)
})

test_that("a time runs to the event that it names, and what came last is offered first", {
  d <- pain_rows(); s <- open_study(d)
  a <- ask(s, "median time to relief by arm")
  own <- survival::survdiff(survival::Surv(time_to_relief_days, relief) ~ arm, d)
  expect_equal(value_of(a, "statistic"), own$chisq, tolerance = 1e-8)
  b <- ask(s, "Is the high dose better than the low dose?")
  expect_equal(status_of(b), "needs_choice")
  offered <- vapply(as.list(b)$reading$alternatives, function(r) r$outcome[[1]], "")
  expect_true(match("pain_wk8", offered) < 4 && !"bmi" %in% offered)
  c <- ask(s, "number needed to harm for high dose versus placebo")
  expect_setequal(vapply(as.list(c)$reading$alternatives, function(r) r$outcome[[1]], ""), c("adverse_event", "relief"))
})
