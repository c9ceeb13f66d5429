# Long data: changes of each unit from one time to another, who left, and what belongs to the unit.

visit_rows <- function() with_seed(83, {
  n <- 48
  subject <- data.frame(subject = sprintf("T%03d", seq_len(n)), arm = rep(c("placebo", "drug 5 mg", "drug 10 mg"), n / 3), sex = sample(c("f", "m"), n, TRUE),  # nolint: line_length_linter.
                        age = round(rnorm(n, 55, 10)), centre = sample(c("Leeds", "York"), n, TRUE))
  out <- merge(subject, data.frame(week = c(0, 4, 8, 12)), by = NULL)
  out$sbp <- round(150 - c(placebo = 0.2, `drug 5 mg` = 0.6, `drug 10 mg` = 0.9)[out$arm] * out$week + rnorm(nrow(out), 0, 8))
  out$adherence_pct <- pmin(100, round(rnorm(nrow(out), 88, 9)))
  out <- out[!(out$week == 12 & runif(nrow(out)) < 0.15), ]
  out[order(out$subject, out$week), ]
})

change_rows <- function(rows, from, to) {
  late <- rows[rows$week == to, ]; early <- rows[rows$week == from, ]
  late$change <- late$sbp - early$sbp[match(late$subject, early$subject)]
  late
}

test_that("a change is each unit's own, at the later time", {
  rows <- visit_rows(); s <- open_study(rows)
  own <- change_rows(rows, 0, 12)
  a <- ask(s, "change in sbp from baseline to week 12 in each arm")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(own$change, own$arm, mean))), tolerance = 1e-12)
  expect_retraces(a)
  b <- ask(s, "did blood pressure fall more on 10 mg than on placebo")
  two <- own[own$arm != "drug 5 mg", ]
  expect_equal(abs(value_of(b, "statistic")), abs(unname(t.test(change ~ arm, two)$statistic)), tolerance = 1e-10)
  d <- ask(s, "sbp at week 4 minus week 0 by arm")
  early <- change_rows(rows, 0, 4)
  expect_equal(sort(table_of(d, "groups")$mean), sort(as.vector(tapply(early$change, early$arm, mean))), tolerance = 1e-12)
  e <- ask(s, "does adherence predict the drop in blood pressure")
  fit <- lm(change ~ adherence_pct, own)
  expect_equal(table_of(e, "coefficients")$estimate[2], unname(coef(fit)[2]), tolerance = 1e-8)
  f <- ask(s, "is the change in sbp related to age")
  expect_equal(value_of(f, "estimate"), cor(own$change, own$age), tolerance = 1e-12)
})

test_that("those who left have no later row", {
  rows <- visit_rows(); s <- open_study(rows)
  last <- tapply(rows$week, rows$subject, max)
  a <- ask(s, "how many subjects dropped out before week 12")
  expect_equal(value_of(a, "n"), sum(last < 12))
  expect_retraces(a)
  expect_equal(value_of(ask(s, "what share of patients dropped out before week 12"), "estimate"), mean(last < 12), tolerance = 1e-12)
  arms <- rows$arm[match(names(last)[last < 12], rows$subject)]
  expect_equal(sort(table_of(ask(s, "how many patients dropped out in each arm"), "counts")$n), sort(as.vector(table(arms))))
})

test_that("what is the same at all times of a subject counts once", {
  rows <- visit_rows(); s <- open_study(rows)
  once <- rows[!duplicated(rows$subject), ]
  a <- ask(s, "average age by arm")
  expect_equal(sum(table_of(a, "groups")$n), nrow(once))
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.vector(tapply(once$age, once$arm, mean))), tolerance = 1e-12)
  b <- ask(s, "do men and women differ in age")
  expect_equal(abs(value_of(b, "statistic")), abs(unname(t.test(age ~ sex, once)$statistic)), tolerance = 1e-10)
  shares <- table_of(ask(s, "share of women in each arm"), "shares")
  expect_equal(sort(shares$share), sort(as.vector(tapply(once$sex == "f", once$arm, mean))), tolerance = 1e-12)
  expect_setequal(table_of(ask(s, "which centre recruited the most patients"), "groups")$distinct, as.vector(table(once$centre)))
  # values that change from time to time keep all rows
  expect_equal(value_of(ask(s, "average sbp"), "n"), nrow(rows))
})

test_that("data without a unit that comes back, or with two rows at a time, is not long", {
  rows <- visit_rows()
  layout <- function(d) internal("long_layout")(open_study(d))
  expect_equal(layout(rows)[c("unit", "time")], list(unit = "subject", time = "week"))
  expect_null(layout(rows[rows$week == 0, ]))
  expect_null(layout(rbind(rows, rows[1, ])))
})

test_that("two times of one measure are related over the units, and its change from one to the other is told by groups", {
  patients <- with_seed(111, data.frame(patient_id = sprintf("P%02d", 1:40), arm = sample(c("new", "old"), 40, TRUE)))
  visits <- expand.grid(visit = 0:4, patient_id = patients$patient_id, stringsAsFactors = FALSE)
  visits$pain <- with_seed(112, rnorm(200, 6 - 0.4 * visits$visit) + rep(rnorm(40), each = 5))
  visits <- visits[-with_seed(113, sample(which(visits$visit == 4), 5)), ]
  at <- function(t) { v <- visits[visits$visit == t, ]; v$pain[match(patients$patient_id, v$patient_id)] }
  change <- at(4) - at(0)
  for (s in list(open_study(merge(visits, patients)), open_study(c(local_data(patients, "patients.csv"), local_data(visits, "visits.csv"))))) {
    a <- ask(s, "is pain at visit 4 related to pain at visit 0?")
    expect_equal(value_of(a, "estimate"), cor(at(4), at(0), use = "complete.obs"), tolerance = 1e-10)
    expect_retraces(a)
    b <- ask(s, "average change in pain from visit 0 to visit 4")
    expect_equal(value_of(b, "estimate"), mean(change, na.rm = TRUE), tolerance = 1e-10)
  }
  # groups of another table: each unit's change
  d <- table_of(ask(s, "change in pain from visit 0 to visit 4 by arm"), "groups")
  expect_equal(sort(d$mean), sort(as.vector(tapply(change, patients$arm, mean, na.rm = TRUE))), tolerance = 1e-10)
  e <- ask(s, "did pain fall faster in the new arm?")
  expect_equal(value_of(e, "p_value"), t.test(change ~ patients$arm)$p.value, tolerance = 1e-10)
})

test_that("who moved most in long data is told by the change, down where less is better; codes of athletes are units", {
  sprints <- with_seed(92, {
    d <- expand.grid(athlete = sprintf("A%02d", 1:16), week = c(0, 4, 8))
    d$group <- ifelse(as.integer(d$athlete) %% 2 == 0, "plyometric", "weights")
    d$athlete <- as.character(d$athlete)
    d$sprint_100m_s <- round(rep(rnorm(16, 12.4, 0.5), 3) - 0.03 * d$week + rnorm(48, 0, 0.12), 2)
    d
  })
  study <- open_study(sprints)
  change <- with(sprints, tapply(sprint_100m_s[week == 8], athlete[week == 8], c) - tapply(sprint_100m_s[week == 0], athlete[week == 0], c))
  for (q in c("which athlete improved most in sprint time?", "which athlete had the biggest drop in sprint_100m_s from week 0 to week 8")) {
    expect_equal(value_of(ask(study, q), "estimate"), min(change), tolerance = 1e-10, info = q)
  }
  a <- ask(study, "did sprint times improve over the 8 weeks?")
  expect_equal(method_of(a), "t_paired")
  expect_equal(abs(value_of(a, "estimate")), abs(mean(change)), tolerance = 1e-10)
})
