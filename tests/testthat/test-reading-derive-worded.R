terms <- function() {
  set.seed(8)
  d <- expand.grid(pupil = 1:40, term = c("Autumn", "Spring", "Summer"))
  d$class <- rep(rep(c("4A", "4B"), each = 20), 3)
  d$eal <- rep(rep(c(TRUE, FALSE), 20), 3)
  d$reading_score <- round(80 + stats::rnorm(40)[d$pupil] * 8 + as.integer(d$term) * ifelse(d$class == "4A", 4, 1) + stats::rnorm(120, 0, 3), 1)
  d$absent_days <- stats::rpois(120, 3)
  d
}
wide <- function(d, a, b) merge(d[d$term == a, ], d[d$term == b, c("pupil", "reading_score")], by = "pupil", suffixes = c("", "_b"))

test_that("the change of each unit between two occasions in words is told, counted and compared", {
  d <- terms()
  s <- open_study(local_data(d))
  w <- wide(d, "Autumn", "Summer")
  w$gain <- w$reading_score_b - w$reading_score
  a <- ask(s, "which class gained the most from autumn to summer")
  expect_equal(value_of(a, "estimate"), max(tapply(w$gain, w$class, mean)), tolerance = 1e-9)
  expect_retraces(a)
  a <- ask(s, "how many pupils scored lower in summer than in autumn")
  expect_equal(value_of(a, "n"), sum(w$gain < 0))
  a <- ask(s, "did 4A pupils improve more than the others")
  expect_equal(value_of(a, "p_value"), stats::t.test(gain ~ class, w)$p.value, tolerance = 1e-8)
  expect_retraces(a)
  a <- ask(s, "is the gain different for EAL pupils")
  expect_equal(value_of(a, "p_value"), stats::t.test(gain ~ eal, w)$p.value, tolerance = 1e-8)
  a <- ask(s, "change in reading score from autumn to spring by class")
  v <- wide(d, "Autumn", "Spring")
  expect_equal(table_of(a, "groups")$mean, as.vector(tapply(v$reading_score_b - v$reading_score, v$class, mean)), tolerance = 1e-9)
  a <- ask(s, "did reading scores improve over the year")
  expect_equal(value_of(a, "p_value"), stats::t.test(w$gain)$p.value, tolerance = 1e-8)
  expect_retraces(a)
  a <- ask(s, "share of pupils whose score dropped between autumn and spring")
  expect_equal(value_of(a, "estimate"), mean(v$reading_score_b < v$reading_score), tolerance = 1e-9)
})

test_that("the unit's own value at another occasion is held constant, or set beside", {
  set.seed(4)
  n <- 40
  d <- expand.grid(subject = sprintf("S%02d", 1:n), visit = c("Baseline", "Week 4", "Week 12"))
  d$arm <- rep(rep(c("active", "placebo"), n / 2), 3)
  d$hamd_score <- round(22 + stats::rnorm(n)[as.integer(d$subject)] * 4 - (as.integer(d$visit) - 1) * ifelse(d$arm == "active", 3, 1) + stats::rnorm(3 * n))
  d$weight_kg <- round(70 + stats::rnorm(3 * n) * 9, 1)
  s <- open_study(local_data(d))
  last <- d[d$visit == "Week 12", ]; first <- d[d$visit == "Baseline", ]
  first <- first[match(last$subject, first$subject), ]
  a <- ask(s, "does hamd score differ between arms at week 12, adjusting for baseline")
  fit <- stats::lm(last$hamd_score ~ last$arm + first$hamd_score)
  found <- table_of(a, "coefficients")
  expect_true(any(abs(abs(as.numeric(found$estimate)) - abs(stats::coef(fit)[[2]])) < 1e-8))
  expect_retraces(a)
  a <- ask(s, "is weight at baseline related to hamd at week 12")
  expect_equal(value_of(a, "p_value"), stats::cor.test(first$weight_kg, last$hamd_score)$p.value, tolerance = 1e-8)
  # less of a burden is better
  a <- ask(s, "how many subjects got worse from baseline to week 12")
  expect_equal(value_of(a, "n"), sum(last$hamd_score > first$hamd_score))
  a <- ask(s, "which arm improved the most")
  expect_equal(value_of(a, "estimate"), min(tapply(last$hamd_score - first$hamd_score, last$arm, mean)), tolerance = 1e-9)
})

test_that("employees that are numbered and seen twice are units, before and after", {
  set.seed(2)
  d <- data.frame(emp = rep(1:30, 2), time = rep(c("pre", "post"), each = 30), dept = rep(c("HR", "IT", "Sales"), 20), stress = round(stats::rnorm(60, 50, 9)))
  s <- open_study(local_data(d))
  expect_equal(codebook(s)$kind[1], "id")
  pre <- d$stress[1:30]; post <- d$stress[31:60]
  for (q in c("compare stress before and after", "did stress go down after the training", "did stress drop from pre to post")) {
    expect_equal(value_of(ask(s, q), "p_value"), stats::t.test(pre, post, paired = TRUE)$p.value, tolerance = 1e-8, info = q)
  }
  # what was slept less is nothing of this data
  expect_false(as.list(ask(s, "how many employees slept less"))$status == "answered")
})

# A trial in long form whose visits are told in words, with some who have no last value.
pressures <- function() {
  set.seed(2711)
  n <- 60
  d <- expand.grid(subject = 1001:(1000 + n), visit = c("Baseline", "Week 4", "Week 12"))
  at <- match(d$subject, 1001:(1000 + n))
  d$treatment <- rep_len(c("Placebo", "Low dose", "High dose"), n)[at]
  d$age <- round(stats::rnorm(n, 58, 9))[at]
  d$sex <- rep_len(c("F", "M"), n)[at]
  d$sbp <- round(152 + stats::rnorm(n, 0, 8)[at] - (as.integer(d$visit) - 1) * c(Placebo = 2, "Low dose" = 4, "High dose" = 7)[d$treatment] +
                   stats::rnorm(3 * n, 0, 5))
  d$adverse_event <- ifelse(d$visit != "Baseline" & stats::runif(3 * n) < 0.2, "Yes", "No")
  d$sbp[d$visit == "Week 12" & at %in% c(3, 17, 40)] <- NA
  d
}

test_that("what is held constant may come first, beside others, or be another measure at that visit", {
  d <- pressures()
  s <- open_study(local_data(d))
  last <- d[d$visit == "Week 12", ]
  last$sbp_first <- d$sbp[d$visit == "Baseline"]
  # what the arms add to a model of what is held constant
  adds <- function(a, held) {
    own <- stats::anova(stats::lm(held, last), stats::lm(stats::update(held, . ~ . + treatment), last))
    expect_equal(c(value_of(a, "statistic"), value_of(a, "p_value")), c(own$F[2], own$`Pr(>F)`[2]), tolerance = 1e-8, info = reading(a)$plain)
  }
  a <- ask(s, "adjusting for baseline sbp, does treatment affect sbp at week 12?")
  adds(a, sbp ~ sbp_first)
  expect_retraces(a)
  adds(ask(s, "effect of treatment on sbp at week 12, adjusting for age, sex and baseline sbp"), sbp ~ sbp_first + age + sex)
  adds(ask(s, "compare sbp at week 12 between arms, adjusting for baseline and age"), sbp ~ sbp_first + age)
  two <- last[last$treatment != "Low dose", ]
  a <- ask(s, "adjusting for sbp at baseline, does high dose differ from placebo in sbp at week 12")
  expect_equal(abs(value_of(a, "estimate")), abs(stats::coef(stats::lm(sbp ~ treatment + sbp_first, two))[[2]]), tolerance = 1e-8)
})

test_that("a drop at a level, all visits, values missing at each, and subjects with any event", {
  d <- pressures()
  s <- open_study(local_data(d))
  last <- d[d$visit == "Week 12", ]
  drop <- last$sbp - d$sbp[d$visit == "Baseline"]
  expect_equal(value_of(ask(s, "average drop in sbp in the high dose arm"), "estimate"), mean(drop[last$treatment == "High dose"], na.rm = TRUE))
  expect_equal(value_of(ask(s, "what is the mean change in sbp?"), "estimate"), mean(drop, na.rm = TRUE))
  expect_equal(method_of(ask(s, "does sbp change over the visits?")), "anova_repeated")
  a <- ask(s, "how many missing sbp values at each visit?")
  expect_match(reading(a)$plain, "sbp_missing is yes by visit")
  anyone <- tapply(d$adverse_event == "Yes", d$subject, any)
  a <- ask(s, "percent of subjects with any adverse event")
  expect_equal(c(value_of(a, "count"), value_of(a, "n")), c(sum(anyone), length(anyone)))
  arm <- last$treatment[match(names(anyone), last$subject)]
  a <- ask(s, "what share of patients had an adverse event in each arm")
  expect_equal(as.numeric(table_of(a, "shares")$share), as.vector(tapply(anyone, arm, mean)[as.character(table_of(a, "shares")$group)]))
  # who dropped out is in no column
  expect_equal(ask(s, "how many subjects dropped out by week 12?")$status, "cannot_answer")
})

test_that("which side of a margin is the worse one goes by the measure, and is told", {
  d <- pressures()
  d$wellbeing <- 200 - d$sbp
  s <- open_study(local_data(d))
  two <- d[d$visit == "Week 12" & d$treatment != "Placebo", ]
  less <- ask(s, "is low dose non-inferior to high dose in sbp with a margin of 5 mmHg at week 12")
  own <- stats::t.test(two$sbp[two$treatment == "Low dose"], two$sbp[two$treatment == "High dose"], mu = 5, alternative = "less")
  expect_equal(value_of(less, "p_value"), own$p.value, tolerance = 1e-8)
  expect_match(reading(less)$assumed, "less sbp to be better", all = FALSE)
  more <- ask(s, "is low dose non-inferior to high dose in wellbeing with a margin of 5 at week 12")
  expect_equal(value_of(more, "p_value"), own$p.value, tolerance = 1e-8)
  expect_match(reading(more)$assumed, "more wellbeing to be better", all = FALSE)
  said <- ask(s, "is low dose non-inferior to high dose in sbp with a margin of 5 at week 12, higher is better")
  expect_lt(value_of(said, "p_value"), 0.5)
  expect_false(any(grepl("to be better", reading(said)$assumed)))
})
