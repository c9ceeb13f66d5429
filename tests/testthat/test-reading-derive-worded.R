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
