# Measures with a column for each time, called by other words; parts that were not done; verbs that look like statistics.

pressure_rows <- function() with_seed(91, {
  n <- 70
  out <- data.frame(id = seq_len(n), group = sample(c("drug", "placebo"), n, TRUE), age = round(rnorm(n, 58, 8)), sex = sample(c("F", "M"), n, TRUE),
                    bp_week0 = round(rnorm(n, 150, 12)))
  out$bp_week4 <- out$bp_week0 - round(rnorm(n, 5, 6))
  out$bp_week8 <- out$bp_week4 - round(rnorm(n, 3, 6))
  out$bp_week8[sample(n, 8)] <- NA
  out
})

test_that("another name of a measure stands for all its columns, and two times are the two that are said", {
  rows <- pressure_rows(); s <- open_study(rows)
  a <- ask(s, "did blood pressure fall from week 0 to week 8?")
  expect_equal(value_of(a, "p_value"), t.test(rows$bp_week0, rows$bp_week8, paired = TRUE)$p.value, tolerance = 1e-10)
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "blood pressure")
  b <- ask(s, "did bp fall from baseline to week 8 in women?")
  women <- rows[rows$sex == "F", ]
  expect_equal(value_of(b, "p_value"), t.test(women$bp_week0, women$bp_week8, paired = TRUE)$p.value, tolerance = 1e-10)
  expect_equal(reading(ask(s, "mean blood pressure at each week by group"))$outcome, paste0("bp_week", c(0, 4, 8)))
  expect_equal(method_of(ask(s, "repeated measures anova of bp over the weeks")), "anova_repeated")
  expect_equal(method_of(ask(s, "linear mixed model of bp over time by group")), "anova_mixed")
})

test_that("changes of a measure are told of whose they are", {
  rows <- pressure_rows(); s <- open_study(rows)
  fall <- rows$bp_week0 - rows$bp_week8
  expect_equal(value_of(ask(s, "percentage whose blood pressure fell by at least 10"), "estimate"), mean(fall >= 10, na.rm = TRUE), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many patients whose bp rose by more than 2"), "n"), sum(-fall > 2, na.rm = TRUE))
  a <- ask(s, "who had the biggest drop")
  expect_equal(table_of(a, "ranking")[["bp_drop"]][1], max(fall, na.rm = TRUE))
  b <- ask(s, "is baseline blood pressure the same in both groups?")
  expect_equal(value_of(b, "p_value"), t.test(bp_week0 ~ group, rows)$p.value, tolerance = 1e-10)
})

test_that("who dropped out has no value then, and nobody is 140 years old", {
  rows <- pressure_rows(); s <- open_study(rows)
  a <- ask(s, "how many patients dropped out before week 8?")
  expect_equal(value_of(a, "n"), sum(is.na(rows$bp_week8)))
  b <- ask(a, "by group")
  expect_equal(sort(table_of(b, "counts")$n), sort(as.vector(table(rows$group[is.na(rows$bp_week8)]))))
  d <- table_of(ask(s, "share of patients below 140 at week 8 by group"), "shares")
  known <- !is.na(rows$bp_week8)
  expect_equal(sort(d$share), sort(as.vector(tapply(rows$bp_week8[known] < 140, rows$group[known], mean))), tolerance = 1e-12)
  expect_equal(filters_of(ask(s, "mean bp at week 4 of patients over 60")), "age > 60")
})

centre_rows <- function() with_seed(92, {
  out <- expand.grid(week = seq(as.Date("2024-01-01"), by = "week", length.out = 60), team = c("Red", "Blue", "Green"), stringsAsFactors = FALSE)
  out$calls <- rpois(nrow(out), 400); out$answered <- rbinom(nrow(out), out$calls, 0.9); out$wait_sec <- round(rgamma(nrow(out), 20, 0.4), 1)
  out$staff <- rpois(nrow(out), 9)
  out
})

test_that("what was not done is the rest of what was, and a verb is no statistic", {
  rows <- centre_rows(); s <- open_study(rows)
  a <- table_of(ask(s, "unanswered calls by team"), "groups")
  expect_equal(sort(a$mean), sort(as.vector(tapply(rows$calls - rows$answered, rows$team, mean))), tolerance = 1e-12)
  b <- ask(s, "do more staff mean shorter waits?")
  expect_equal(value_of(b, "p_value"), cor.test(rows$staff, rows$wait_sec)$p.value, tolerance = 1e-10)
  d <- table_of(ask(s, "which team has the most variable wait"), "ranking")
  spread <- tapply(rows$wait_sec, rows$team, sd)
  expect_equal(as.character(d$team[1]), names(which.max(spread)))
  e <- table_of(ask(s, "which team answers the most calls?"), "ranking")
  expect_equal(as.character(e$team[1]), names(which.max(tapply(rows$answered, rows$team, sum))))
  expect_equal(as.list(ask(s, "did the wait get longer in 2025?"))$reading$task, "trend")
})

test_that("how often two raters say the same is their agreement, how many on average is a mean", {
  rows <- with_seed(93, data.frame(essay = 1:60, rater_a = sample(1:5, 60, TRUE), words = round(rnorm(60, 400, 60)), topic = sample(c("war", "love"), 60,
    TRUE)))
  rows$rater_b <- pmin(5, pmax(1, rows$rater_a + with_seed(94, sample(-1:1, 60, TRUE))))
  s <- open_study(rows)
  a <- ask(s, "how often do a and b give the same score")
  expect_setequal(unlist(reading(a)$outcome), c("rater_a", "rater_b"))
  agreed <- mean(rows$rater_a == rows$rater_b)
  t <- table(factor(rows$rater_a, 1:5), factor(rows$rater_b, 1:5)) / 60
  chance <- sum(rowSums(t) * colSums(t))
  expect_equal(value_of(a, "estimate"), (agreed - chance) / (1 - chance), tolerance = 1e-10)
  b <- ask(s, "how many words do essays about war have on average?")
  expect_equal(value_of(b, "estimate"), mean(rows$words[rows$topic == "war"]), tolerance = 1e-12)
})

test_that("a score of items turns round what runs the other way, and says so", {
  rows <- with_seed(61, { f <- rnorm(150); out <- data.frame(id = 1:150, condition = sample(c("stress", "calm"), 150, TRUE), gender = sample(c("female", "male"), 150, TRUE))
    for (i in 1:6) out[[paste0("anx_", i)]] <- pmin(5, pmax(1, round(3 + 0.8 * f + rnorm(150, 0, 0.8))))
    out$anx_4 <- 6 - out$anx_4; out$errors <- rpois(150, 2); out })
  s <- open_study(local_data(rows))
  items <- rows[paste0("anx_", 1:6)]; items$anx_4 <- 6 - items$anx_4; score <- rowMeans(items)
  a <- ask(s, "anxiety score by condition")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(score, rows$condition, mean)), tolerance = 1e-12)
  expect_match(paste(as.list(a)$reading$assumed, collapse = " "), "anx_4 runs against the other items")
  expect_retraces(a)
  expect_equal(value_of(ask(s, "is anxiety related to errors?"), "estimate"), cor(score, rows$errors), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "participants with mean anxiety above 4"), "n"), sum(score > 4))
  for (q in c("reliability of the anxiety scale", "should any item be dropped from the anxiety scale?", "is anx_4 reverse coded?",
              "correlation matrix of the anxiety items")) expect_setequal(c(reading(ask(s, q))$outcome, reading(ask(s, q))$predictors), names(items))
  halves <- ask(s, "median split on anxiety: do errors differ?")
  expect_equal(abs(value_of(halves, "statistic")), abs(unname(t.test(rows$errors ~ (score >= median(score)))$statistic)), tolerance = 1e-10)
  # items that all run the same way are left as they are
  rows$anx_4 <- 6 - rows$anx_4
  plain <- ask(open_study(local_data(rows)), "mean anxiety")
  expect_equal(value_of(plain, "estimate"), mean(score), tolerance = 1e-12)
  expect_no_match(paste(as.list(plain)$reading$assumed, collapse = " "), "turned round")
})
