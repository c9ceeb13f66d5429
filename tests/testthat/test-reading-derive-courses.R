# One measure on several occasions: whose change is larger, its whole course, two of its occasions.

lesson_rows <- function(n = 160) with_seed(12, {
  out <- data.frame(pupil_id = sprintf("S%03d", sample(999, n)), school = sample(c("Ashdown", "Carlton", "Dale End"), n, TRUE),
                    gender = sample(c("F", "M"), n, TRUE), free_meals = sample(c("Yes", "No"), n, TRUE), attendance_pct = round(rnorm(n, 91, 4), 1),
                    homework_hours = round(rgamma(n, 4, 1), 1), maths_autumn = round(rnorm(n, 52, 12)))
  out$maths_summer <- round(out$maths_autumn + 4 + 2 * (out$gender == "F") + rnorm(n, 0, 7))
  out$passed <- ifelse(out$maths_summer >= 55, "pass", "fail")
  out$maths_summer[c(3, 20, 71)] <- NA
  out
})

rider_rows <- function(n = 36) with_seed(8, {
  out <- data.frame(rider = sprintf("R%02d", seq_len(n)), group = rep(c("interval", "endurance", "control"), n / 3), power_pre = round(rnorm(n, 260, 30)))
  out$power_mid <- round(out$power_pre + rnorm(n, 6, 8)); out$power_post <- round(out$power_pre + rnorm(n, 12, 10))
  out$lactate_pre <- round(rnorm(n, 4, 0.6), 2); out$lactate_post <- round(out$lactate_pre - rnorm(n, 0.3, 0.4), 2)
  out
})

test_that("who gained more is asked of the change", {
  rows <- lesson_rows(); s <- open_study(local_data(rows))
  change <- rows$maths_summer - rows$maths_autumn
  by_gender <- abs(unname(t.test(change ~ rows$gender)$statistic))
  for (q in c("did girls make more progress than boys in maths", "do girls gain more in maths than boys", "did girls improve more in maths")) {
    a <- ask(s, q)
    expect_equal(abs(value_of(a, "statistic")), by_gender, tolerance = 1e-10, info = q)
    expect_equal(reading(a)$by, "gender", info = q)
  }
  a <- ask(s, "do pupils on free meals make less progress in maths?")
  expect_equal(abs(value_of(a, "statistic")), abs(unname(t.test(change ~ rows$free_meals)$statistic)), tolerance = 1e-10)
  # who is better at it, on which occasion, is not said
  expect_equal(status_of(ask(s, "are boys better than girls at maths")), "needs_choice")
  expect_equal(reading(ask(s, "are boys better than girls at maths in summer"))$outcome, "maths_summer")
})

test_that("a whole course is all its occasions", {
  rows <- rider_rows(); s <- open_study(local_data(rows))
  all <- c("power_pre", "power_mid", "power_post")
  for (q in c("compare power at the three time points", "repeated measures anova for power")) {
    a <- ask(s, q)
    expect_setequal(reading(a)$outcome, all)
    expect_equal(length(reading(a)$by), 0L, info = q)
  }
  long <- stats::reshape(rows[c("rider", "group", all)], direction = "long", varying = all, v.names = "power", idvar = "rider", timevar = "time")
  fit <- summary(aov(power ~ factor(time) + Error(factor(rider)), long))
  expect_equal(value_of(ask(s, "repeated measures anova for power"), "statistic"), fit[[2]][[1]][1, "F value"], tolerance = 1e-8)
  mixed <- ask(s, "is there a group by time interaction for power?")
  expect_setequal(reading(mixed)$outcome, all)
  expect_equal(reading(mixed)$by, "group")
  both <- summary(aov(power ~ group * factor(time) + Error(factor(rider)), long))
  expect_equal(value_of(mixed, "statistic"), both[[2]][[1]]["group:factor(time)", "F value"], tolerance = 1e-8)
  expect_equal(reading(ask(s, "power by group before training"))$outcome, "power_pre")
  expect_setequal(reading(ask(s, "reliability of power between pre and mid"))$outcome, c("power_pre", "power_mid"))
  expect_equal(method_of(ask(s, "were the groups equal at the start?")), "baseline_table")
})

test_that("a bound on an occasion, values at which to predict, and who has no value", {
  rows <- lesson_rows(); s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "how many pupils scored below 40 in maths in the summer?"), "n"), sum(rows$maths_summer < 40, na.rm = TRUE))
  a <- ask(s, "predict summer maths for a pupil with 60 in autumn and 95% attendance")
  fit <- lm(maths_summer ~ maths_autumn + attendance_pct, rows)
  expect_equal(value_of(a, "estimate"), unname(predict(fit, data.frame(maths_autumn = 60, attendance_pct = 95))), tolerance = 1e-8)
  expect_match(as.list(ask(s, "how many pupils missed the summer maths test?"))$sentences$headline, "^3 of 160 values")
  expect_equal(filters_of(ask(s, "who missed the summer maths test")), "maths_summer is_missing ")
})

test_that("more likely to reach a level, what matters more for whom, odds", {
  rows <- lesson_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "are girls more likely to pass?")
  expect_setequal(c(reading(a)$outcome, reading(a)$by), c("passed", "gender"))
  expect_equal(value_of(a, "statistic"), unname(chisq.test(table(rows$passed, rows$gender), correct = FALSE)$statistic), tolerance = 1e-10)
  b <- ask(s, "does homework matter more for free meals pupils?")
  expect_equal(status_of(b), "needs_choice")
  expect_match(as.list(b)$reading$alternatives[[1]]$plain, "homework_hours and free_meals, and whether that depends on each other")
  odds <- ask(s, "odds of passing for girls")
  share <- mean(rows$passed[rows$gender == "F"] == "pass")
  expect_equal(value_of(odds, "odds"), share / (1 - share), tolerance = 1e-12)
  expect_retraces(odds)
  expect_equal(value_of(ask(s, "risk of failing among boys"), "estimate"), mean(rows$passed[rows$gender == "M"] == "fail"))
})
