# Gwet's coefficients against their published figures and by the book of definitions.

test_that("AC1 keeps its head where nearly all ratings are of one level", {
  # Gwet (2008), table 2: 118 and 2 alike, 5 and 0 not; kappa falls below zero there
  codes <- rbind(matrix(1, 118, 2), matrix(c(1, 2), 5, 2, byrow = TRUE), matrix(c(2, 1), 2, 2, byrow = TRUE))
  out <- internal("stat_gwet")(codes, 2L)
  expect_equal(round(out$kappa, 4), 0.9408)
  expect_equal(out$agreement, 118 / 125)
  expect_lt(internal("stat_cohen_kappa")(matrix(c(118, 2, 5, 0), 2))$kappa, 0)
})

test_that("with quadratic weights it is one less disagreement over disagreement by chance", {
  codes <- with_seed(101, cbind(sample(1:4, 60, TRUE), sample(1:4, 60, TRUE), sample(1:4, 60, TRUE)))
  out <- internal("stat_gwet")(codes, 4L, "quadratic")
  w <- 1 - outer(1:4, 1:4, function(i, j) (i - j)^2 / 9)
  pairs <- combn(3, 2)
  own <- mean(apply(pairs, 2, function(p) mean(w[codes[, p]])))
  share <- tabulate(codes, 4) / 180
  chance <- sum(w) / 12 * sum(share * (1 - share))
  expect_equal(out$kappa, (own - chance) / (1 - chance), tolerance = 1e-12)
  # the raters change places, nothing else does
  expect_equal(internal("stat_gwet")(codes[, 3:1], 4L, "quadratic"), out, tolerance = 1e-12)
})

test_that("about 95 of 100 intervals of AC1 hold what many more subjects show", {
  draw <- function(n) { truth <- sample(1:2, n, TRUE, c(0.85, 0.15)); vapply(1:2, function(r) ifelse(runif(n) < 0.88, truth, 3 - truth), numeric(n)) }
  gwet <- internal("stat_gwet")
  held <- with_seed(102, { target <- gwet(draw(2e5), 2L)$kappa
    vapply(1:300, function(i) { o <- gwet(draw(80), 2L); o$kappa_low <= target && target <= o$kappa_high }, NA) })
  expect_gt(mean(held), 0.91); expect_lt(mean(held), 0.985)
})

test_that("kappas are answered with it as the second opinion", {
  s <- demo_study("keeper_survey.csv")
  a <- ask(s, "Fleiss kappa of advice_helpful, training_clear and website_easy")
  expect_true("gwet_ac1" %in% vapply(as.list(a)$second_opinions, function(o) o$method$id, ""))
  b <- ask(s, "weighted kappa of advice_helpful and training_clear")
  expect_true("gwet_ac2" %in% vapply(as.list(b)$second_opinions, function(o) o$method$id, ""))
})

test_that("the form of the intraclass correlation that is asked for is told, and all six stand in the table", {
  s <- demo_study("keeper_survey.csv")
  forms <- table_of(ask(s, "ICC of advice_helpful and training_clear"), "forms")
  said <- c("ICC(1,1)", "ICC(2,1)", "ICC(3,1)", "ICC(1,k)", "ICC(2,k)", "ICC(3,k)")
  for (k in seq_along(said)) {
    a <- ask(s, sprintf("%s of advice_helpful and training_clear", said[k]))
    expect_equal(value_of(a, "icc"), forms$estimate[k], info = said[k])
    expect_match(as.list(a)$sentences$headline, said[k], fixed = TRUE)
  }
  expect_retraces(a)
  expect_equal(value_of(ask(s, "intraclass correlation of advice_helpful and training_clear for consistency"), "icc"), forms$estimate[3])
})
