# A measure named once, and its occasions named apart from it.

exam_rows <- function() with_seed(7, {
  n <- 120
  out <- data.frame(pupil = seq_len(n), school = sample(c("Ashfield", "Brook Lane", "Cedar Park"), n, TRUE),
                    tutoring = sample(c("weekly", "fortnightly", "none"), n, TRUE), maths_autumn = round(rnorm(n, 52, 14)))
  out$maths_summer <- round(out$maths_autumn + 5 + rnorm(n, 0, 8))
  out$reading_autumn <- round(0.5 * out$maths_autumn + rnorm(n, 28, 10))
  out$reading_summer <- round(out$reading_autumn + 3 + rnorm(n, 0, 7))
  out
})

test_that("two occasions of the one measure that is named are set against each other", {
  rows <- exam_rows()
  s <- open_study(rows)
  second <- stats::t.test(rows$maths_summer, rows$maths_autumn, paired = TRUE)
  for (q in c("did maths improve from autumn to summer", "did maths change between autumn and summer", "compare maths in autumn and summer",
              "did maths scores go up between autumn and summer", "maths in summer versus autumn", "compare maths between autumn and summer")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "t_paired", info = q)
    expect_setequal(reading(a)$outcome, c("maths_autumn", "maths_summer"))
    expect_equal(value_of(a, "p_value"), second$p.value, tolerance = 1e-9, info = q)
  }
  expect_setequal(reading(ask(s, "was reading better in summer than in autumn"))$outcome, c("reading_autumn", "reading_summer"))
  expect_setequal(reading(ask(s, "compare maths between autumn and summer for each school"))$outcome, c("maths_autumn", "maths_summer"))
})

test_that("the occasion named for one measure is that of the other, too", {
  rows <- exam_rows()
  a <- ask(open_study(rows), "how strong is the relationship between reading and maths in summer")
  expect_equal(value_of(a, "estimate"), stats::cor(rows$reading_summer, rows$maths_summer), tolerance = 1e-10)
})

test_that("the changes of two measures are set against each other", {
  rows <- exam_rows()
  s <- open_study(rows)
  second <- stats::t.test(rows$reading_summer - rows$reading_autumn, rows$maths_summer - rows$maths_autumn, paired = TRUE)
  for (q in c("did reading improve more than maths", "was the gain in reading larger than the gain in maths")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "p_value"), second$p.value, tolerance = 1e-9, info = q)
    expect_equal(abs(value_of(a, "estimate")), abs(unname(second$estimate)), tolerance = 1e-10, info = q)
  }
})

test_that("those who went up or down are counted, and compared", {
  rows <- exam_rows()
  s <- open_study(rows)
  a <- ask(s, "how many pupils went down in maths")
  expect_equal(value_of(a, "estimate"), sum(rows$maths_summer < rows$maths_autumn))
  expect_match(paste(unlist(reading(a)$assumed), collapse = " "), "maths_summer is below maths_autumn")
  expect_equal(value_of(ask(s, "what percentage of pupils improved in reading"), "estimate"), mean(rows$reading_summer > rows$reading_autumn))
  expect_equal(reading(ask(s, "share of pupils who improved in maths by tutoring"))$by, "tutoring")
})

test_that("of several measures with the same occasions the one that is named changes, in every group", {
  d <- utils::read.csv(demo_file())
  s <- hive_study()
  a <- ask(s, "how much did strength change from before to after")
  expect_equal(value_of(a, "estimate"), mean(d$strength_after - d$strength_before, na.rm = TRUE), tolerance = 1e-12)
  t <- table_of(ask(s, "did mites go down in every arm"), "groups")
  # (-99 stands for a count that was not made)
  own <- c(tapply(ifelse(d$mites_after == -99, NA, d$mites_after) - d$mites_before, d$arm, mean, na.rm = TRUE))
  expect_equal(t$mean, unname(own[t$arm]), tolerance = 1e-12)
})

pupil_rows <- function() with_seed(411, {
  n <- 100
  u <- rnorm(n, 0, 9)
  out <- data.frame(pupil = seq_len(n), class = rep(c("4A", "4B", "4C", "4D"), each = 25), group = rep(c("intervention", "control"), each = 50),
                    gender = sample(c("girl", "boy"), n, TRUE), reading_pre = round(98 + u + rnorm(n, 0, 4)))
  out$reading_post <- round(101 + u + 4 * (out$group == "intervention") + rnorm(n, 0, 4))
  out$reading_delayed <- round(102 + u + 2.5 * (out$group == "intervention") + rnorm(n, 0, 5))
  out$attendance_pct <- round(pmin(100, rnorm(n, 94, 4)), 1)
  out
})

test_that("a third occasion belongs to the measure, and a gain stays that from before to right after", {
  rows <- pupil_rows()
  s <- open_study(rows)
  gain <- rows$reading_post - rows$reading_pre
  a <- ask(s, "which class gained the most?")
  expect_equal(value_of(a, "estimate"), max(tapply(gain, rows$class, mean)), tolerance = 1e-12)
  a <- ask(s, "what percentage of pupils improved by at least 5 points?")
  expect_equal(value_of(a, "estimate"), mean(gain >= 5), tolerance = 1e-12)
  a <- ask(s, "effect size of the intervention on gain")
  expect_equal(value_of(a, "p_value"), stats::t.test(gain ~ rows$group)$p.value, tolerance = 1e-9)
  for (q in c("how did reading change over the three time points by group?", "did the intervention improve reading?")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "anova_mixed", info = q)
    expect_equal(reading(a)$outcome, c("reading_pre", "reading_post", "reading_delayed"), info = q)
    expect_equal(reading(a)$by, "group", info = q)
  }
})

test_that("a treatment that changes a measure of two occasions sets its change against the others'", {
  rows <- pupil_rows()[-7]
  a <- ask(open_study(rows), "did the intervention improve reading?")
  expect_equal(value_of(a, "p_value"), stats::t.test(I(reading_post - reading_pre) ~ group, rows)$p.value, tolerance = 1e-9)
})

test_that("occasions by themselves, bounds on one of them, groups at the start, and clusters", {
  rows <- pupil_rows()
  s <- open_study(rows)
  a <- ask(s, "correlation between pre and post")
  expect_equal(value_of(a, "estimate"), stats::cor(rows$reading_pre, rows$reading_post), tolerance = 1e-12)
  a <- ask(s, "was the share of pupils scoring above 100 at post higher in the intervention group?")
  t <- table_of(a, "shares")
  own <- tapply(rows$reading_post > 100, rows$group, mean)
  expect_equal(stats::setNames(t$share, t$group)[names(own)], c(own), tolerance = 1e-12, ignore_attr = TRUE)
  a <- ask(s, "were the groups similar at baseline?")
  expect_equal(method_of(a), "baseline_table")
  expect_false(any(c("reading_post", "reading_delayed") %in% reading(a)$outcome))
  expect_equal(status_of(ask(s, "is there clustering by class?")), "needs_choice")
})

test_that("a difference in points asks of which measure, and takes the spread of the one that is chosen", {
  rows <- pupil_rows()
  a <- ask(open_study(rows), "what sample size do I need to detect a difference of 3 points with 80% power?")
  expect_equal(status_of(a), "needs_choice")
  at <- which(vapply(reading(a)$alternatives, function(r) grepl("reading_post", r$plain), NA))
  b <- ask(a, as.character(at))
  need <- stats::power.t.test(delta = 3, sd = stats::sd(rows$reading_post), power = 0.8)$n
  expect_equal(value_of(b, "n_per_group"), ceiling(need))
})

test_that("a change in all groups, the better of two, who changed most, and the first of two occasions", {
  rows <- with_seed(81, data.frame(id = 1:72, condition = rep(c("mindfulness", "music", "silence"), each = 24), anxiety_pre = round(rnorm(72, 38, 7))))  # nolint: line_length_linter.
  rows$anxiety_post <- with_seed(82, round(rows$anxiety_pre - rnorm(72, c(mindfulness = 6, music = 3, silence = 0)[rows$condition], 4)))
  s <- open_study(rows)
  change <- rows$anxiety_post - rows$anxiety_pre
  a <- table_of(ask(s, "did anxiety drop in all three conditions"), "groups")
  expect_equal(a$mean, as.vector(tapply(change, rows$condition, mean)), tolerance = 1e-12)
  b <- ask(s, "is mindfulness better than music for anxiety")
  two <- rows$condition != "silence"
  expect_equal(abs(value_of(b, "statistic")), abs(unname(t.test(change[two] ~ rows$condition[two])$statistic)), tolerance = 1e-10)
  expect_match(as.list(ask(s, "which condition reduced anxiety the most"))$sentences$headline, names(which.min(tapply(change, rows$condition, mean))))
  d <- ask(s, "was anxiety the same in the three conditions before")
  expect_equal(reading(d)$outcome, "anxiety_pre")
  expect_equal(method_of(d), "anova_welch")
  expect_equal(reading(ask(s, "anxiety afterwards by condition"))$outcome, "anxiety_post")
})
