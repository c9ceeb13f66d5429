# Measurements before and after, occasions in rows, and which of them a question means.

test_that("a first measurement without a word of its time is the pair of the one marked after", {
  d <- donor_data()
  s <- open_study(d)
  a <- ask(s, "compare hb before and after")
  expect_equal(method_of(a), "t_paired")
  expect_equal(value_of(a, "p_value"), t.test(d$hb_after_g_dl, d$hb_g_dl, paired = TRUE)$p.value, tolerance = 1e-9)
  iron <- d$iron_supplement == "iron"
  a <- ask(s, "did hb go up in the iron group?")
  expect_equal(value_of(a, "p_value"), t.test(d$hb_after_g_dl[iron], d$hb_g_dl[iron], paired = TRUE)$p.value, tolerance = 1e-9)
  expect_retraces(a)
})

test_that("the group of a trial is the column of which a level says that nothing was given", {
  d <- donor_data()
  a <- ask(open_study(d), "mean change in hb in each group")
  own <- tapply(d$hb_after_g_dl - d$hb_g_dl, d$iron_supplement, mean)
  t <- table_of(a, "groups")
  expect_equal(t$mean[match(names(own), t$iron_supplement %||% t[[1]])], as.numeric(own), tolerance = 1e-9)
})

test_that("adjusting for the baseline takes the first measurement, and is refused where there is none", {
  d <- donor_data()
  s <- open_study(d)
  a <- ask(s, "hb after by treatment adjusted for baseline")
  own <- summary(lm(hb_after_g_dl ~ iron_supplement + hb_g_dl, d))$coefficients["iron_supplementplacebo", ]
  expect_equal(abs(value_of(a, "estimate")), abs(own[["Estimate"]]), tolerance = 1e-8)
  expect_equal(value_of(a, "p_value"), own[["Pr(>|t|)"]], tolerance = 1e-8)
  d$hb_after_g_dl <- NULL
  expect_equal(status_of(ask(open_study(d), "hb by sex adjusted for baseline")), "cannot_answer")
  b <- ask(open_study(d), "mean change in hb by sex")
  expect_equal(status_of(b), "cannot_answer")
  expect_match(b$sentences$headline, "second measurement")
})

test_that("rows of weeks belong to the people whose short key comes back", {
  d <- rehab_data()
  s <- open_study(d)
  expect_equal(codebook(s)$kind[match("pid", codebook(s)$column)], "id")
  expect_equal(value_of(ask(s, "how many patients are there?"), "estimate"), 48)
  a <- ask(s, "does pain go down over the weeks?")
  expect_equal(method_of(a), "anova_repeated")
  a <- ask(s, "change in grip strength from week 0 to week 12 by programme")
  expect_equal(method_of(a), "anova_mixed")
  change <- d$grip_strength[d$week == 12] - d$grip_strength[d$week == 0]
  own <- summary(aov(change ~ d$programme[d$week == 0]))[[1]]
  expect_equal(min(abs(numbers(a)$value - own[["F value"]][1])), 0, tolerance = 1e-6)
  b <- ask(s, "did pain improve more in the group programme?")
  expect_equal(method_of(b), "anova_mixed")
  expect_retraces(b)
})

test_that("baseline and final name the first and the last occasion", {
  d <- rehab_data()
  s <- open_study(d)
  expect_equal(value_of(ask(s, "mean grip strength at baseline"), "estimate"), mean(d$grip_strength[d$week == 0]), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "mean of the final pain"), "estimate"), mean(d$pain_vas[d$week == 12]), tolerance = 1e-10)
  expect_equal(filters_of(ask(s, "baseline grip strength across programmes")), "week == 0")
})

test_that("weeks and months after their number are times of one measure", {
  d <- physio_data()
  s <- open_study(d)
  a <- ask(s, "change in odi from baseline to 6 months by group")
  own <- tapply(d$odi_6mo - d$odi_baseline, d$group, mean)
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.numeric(own)), tolerance = 1e-10)
  b <- ask(s, "compare the groups on odi at 6 months adjusting for baseline")
  expect_equal(value_of(b, "p_value"), anova(lm(odi_6mo ~ odi_baseline, d), lm(odi_6mo ~ group + odi_baseline, d))$`Pr(>F)`[2], tolerance = 1e-8)
  expect_equal(reading(ask(s, "mean odi at each time point"))$outcome, c("odi_baseline", "odi_6wk", "odi_6mo"))
  expect_false(any(c("odi_6wk", "odi_6mo") %in% reading(ask(s, "baseline table by group"))$outcome))
  # what happened in sessions is no course of time
  expect_false(identical(reading(ask(s, "odi over time by group"))$time$column, "sessions"))
  e <- d; e$odi_6mo <- pmax(-2, e$odi_6mo - 10); e$odi_6mo[1:12] <- -9
  said <- as.list(ask(open_study(e), "change in odi from baseline to 6 months by group"))$cautions
  expect_match(paste(unlist(said), collapse = " "), "odi_6mo holds -9")
})

test_that("one measure on several occasions is asked about, never the first in silence", {
  d <- with_seed(101, data.frame(patient = 1:60, arm = sample(c("usual care", "exercise", "exercise + coaching"), 60, TRUE), sex = sample(c("F", "M"), 60, TRUE),
                                 pain_baseline = round(runif(60, 3, 9), 1), pain_6wk = round(runif(60, 2, 8), 1), pain_12wk = round(runif(60, 1, 8), 1)))
  s <- open_study(d)
  a <- ask(s, "average pain by sex")
  expect_equal(status_of(a), "needs_choice")
  expect_length(as.list(a)$reading$alternatives, 3)
  expect_read_as(s, c("is there a difference in pain at 12 weeks between the three arms?" = "compare pain_12wk by arm",
                      "Did exercise plus coaching reduce pain at 12 weeks compared with usual care?" =
                        "compare pain_12wk by arm where arm is exercise + coaching or usual care"))
  change <- ask(s, "how did pain change from baseline to 12 weeks in each arm")
  t <- table_of(change, "groups")
  expect_equal(t$mean, as.vector(tapply(d$pain_12wk - d$pain_baseline, d$arm, mean)[t$arm]))
  # less pain is better
  share <- ask(s, "what share of patients improved by at least 2 points")
  expect_equal(value_of(share, "estimate"), mean(d$pain_baseline - d$pain_12wk >= 2))
  two <- ask(s, "effect size of exercise vs usual care on pain_12wk")
  expect_equal(method_of(two), "t_welch")
})
