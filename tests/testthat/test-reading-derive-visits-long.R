# A trial with a row for each visit, whose time column has a name of two words.

visit_rows_long <- function(n = 40) with_seed(92, {
  people <- data.frame(subject = sprintf("1%03d", 1:n), arm = rep(c("Drug", "Placebo"), n / 2), sex = rep(c("Male", "Male", "Female", "Female"), n / 4),
                       age_years = round(rnorm(n, 58, 9)), baseline_severity = sample(c("mild", "severe"), n, TRUE))
  out <- merge(people, data.frame(visit_week = c(0, 4, 12)))
  own <- rnorm(n, 0, 6)[match(out$subject, people$subject)]
  out$sbp_mmHg <- round(148 + own - out$visit_week * (0.3 + 0.6 * (out$arm == "Drug")) + rnorm(nrow(out), 0, 5))
  out$pain_score <- round(6 - 0.1 * out$visit_week + rnorm(nrow(out)), 1)
  out$responder <- ifelse(out$visit_week == 12, ifelse(out$pain_score < 5, "yes", "no"), NA)
  out <- out[order(out$subject, out$visit_week), ]
  out[-which(out$visit_week == 12)[c(2, 9)], ]
})

# one row a subject, with both ends
ends_of <- function(rows) {
  first <- rows[rows$visit_week == 0, ]; last <- rows[rows$visit_week == 12, ]
  cbind(last, start = first$sbp_mmHg[match(last$subject, first$subject)])
}

test_that("a change, in the unit and in percent, is that of each subject", {
  rows <- visit_rows_long(); s <- open_study(local_data(rows)); own <- ends_of(rows)
  a <- ask(s, "change in sbp from baseline to week 12 by arm")
  expect_equal(table_of(a, "groups")$mean, as.numeric(tapply(own$sbp_mmHg - own$start, own$arm, mean)), tolerance = 1e-10)
  b <- ask(s, "percentage change in sbp from week 0 to week 12")
  expect_equal(value_of(b, "estimate"), mean(100 * (own$sbp_mmHg - own$start) / own$start), tolerance = 1e-10)
  expect_retraces(b)
})

test_that("the baseline is the value at the first visit, whatever column is called so", {
  rows <- visit_rows_long(); s <- open_study(local_data(rows)); own <- ends_of(rows)
  fit <- coef(lm(sbp_mmHg ~ arm + start, own))
  for (question in c("compare the arms on sbp at week 12 adjusting for baseline sbp", "ancova of sbp at week 12 by arm with baseline sbp as covariate")) {
    a <- ask(s, question)
    terms <- table_of(a, "coefficients")
    expect_equal(abs(terms$estimate[grep("^arm", terms$term)]), abs(fit[["armPlacebo"]]), tolerance = 1e-8)
  }
  b <- ask(s, "does sbp at baseline predict the drop in sbp?")
  expect_equal(value_of(b, "estimate"), unname(coef(lm(I(sbp_mmHg - start) ~ start, own))[2]), tolerance = 1e-8)
})

test_that("courses run over the visits", {
  rows <- visit_rows_long(); s <- open_study(local_data(rows))
  for (question in c("trajectory of pain by arm", "plot mean pain score over weeks by arm with confidence intervals", "mean pain over the visits by arm")) {
    a <- ask(s, question)
    expect_equal(reading(a)$task, "trend")
    own <- table_of(a, "time")
    expect_equal(own$mean[own$group == "Drug"], as.numeric(tapply(rows$pain_score, list(rows$arm, rows$visit_week), mean)["Drug", ]), tolerance = 1e-10)
  }
  # means of few groups are drawn with their intervals
  drawn <- figure(a)
  expect_true(any(vapply(drawn$layers, function(layer) inherits(layer$geom, "GeomLinerange"), NA)))
  b <- ask(s, "at which visit do the arms first differ in pain?")
  expect_setequal(reading(b)$by, c("visit_week", "arm"))
  expect_equal(reading(b)$outcome, "pain_score")
})

test_that("complete sets are subjects with a row at each visit, and response is who responded", {
  rows <- visit_rows_long(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many subjects have a complete set of visits?"), "n"), sum(table(rows$subject) == 3))
  a <- ask(s, "effect of age on response in the drug arm")
  expect_setequal(c(reading(a)$outcome, reading(a)$by, reading(a)$predictors), c("age_years", "responder"))
  expect_equal(filters_of(a), "arm == Drug")
})

test_that("an effect of a level that may differ between people is an interaction", {
  rows <- visit_rows_long(); s <- open_study(local_data(rows))
  a <- ask(s, "is the drug effect on pain different for men and women?")
  expect_setequal(reading(a)$predictors, c("arm", "sex"))
  fit <- summary(lm(pain_score ~ arm * sex, rows))$coefficients
  expect_equal(value_of(a, "p_value"), fit[4, 4], tolerance = 1e-8)
})
