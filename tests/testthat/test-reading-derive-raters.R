# Several raters with a column each: how often they agree, who is stricter.

essay_rows <- function(n = 60) with_seed(5, {
  truth <- sample(1:4, n, TRUE)
  mark <- function() pmin(4, pmax(1, truth + sample(c(-1, 0, 0, 0, 1), n, TRUE)))
  data.frame(essay = seq_len(n), topic = sample(c("history", "science"), n, TRUE), marker_anna = mark(), marker_ben = mark(), marker_cleo = mark(),
             words = round(rnorm(n, 800, 150)))
})

test_that("how often raters agree is a share, with kappa beside it", {
  rows <- essay_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "percent exact agreement between anna and cleo")
  expect_equal(value_of(a, "agreement"), mean(rows$marker_anna == rows$marker_cleo), tolerance = 1e-12)
  expect_match(as.list(a)$sentences$headline, "give the same answer in")
  b <- ask(s, "how often do all three markers agree?")
  expect_equal(method_of(b), "fleiss_kappa")
  marks <- as.matrix(rows[3:5])
  pairs <- rowMeans(cbind(marks[, 1] == marks[, 2], marks[, 1] == marks[, 3], marks[, 2] == marks[, 3]))
  expect_equal(value_of(b, "agreement"), mean(pairs), tolerance = 1e-12)
  expect_equal(method_of(ask(s, "kappa between the three markers")), "fleiss_kappa")
  expect_equal(method_of(ask(s, "bland altman of anna and ben")), "limits_of_agreement")
})

test_that("a stricter rater gives lower values; marks of which nothing is known are not words counted", {
  rows <- essay_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "is cleo more generous than ben?")
  expect_setequal(reading(a)$outcome, c("marker_ben", "marker_cleo"))
  expect_setequal(reading(ask(s, "which marker is the strictest?"))$outcome, c("marker_anna", "marker_ben", "marker_cleo"))
  expect_equal(status_of(ask(s, "do longer essays get higher marks?")), "needs_choice")
})

test_that("differences of levels in words are refused", {
  rows <- data.frame(item = 1:12, judge_x = rep(c("low", "middle", "high"), 4), judge_y = rep(c("low", "high", "middle"), 4))
  s <- amend(open_study(local_data(rows)), "judge_x is ordered: low, middle, high", "judge_y is ordered: low, middle, high")
  a <- ask(s, "bland altman of judge_x and judge_y")
  expect_equal(status_of(a), "cannot_answer")
})

test_that("raters alone on their columns agree or differ in their means", {
  d <- with_seed(141, { true <- rnorm(40); data.frame(wine = 1:40, region = sample(c("Rioja", "Douro"), 40, TRUE), score_anna = round(84 + 5 * true + rnorm(40, 0, 3)),
                                                     score_ben = round(86 + 5 * true + rnorm(40, 0, 3)), score_carla = round(83 + 5 * true + rnorm(40, 0, 3))) })
  s <- open_study(d)
  expect_equal(method_of(ask(s, "do the three judges agree")), "intraclass_correlation")
  a <- ask(s, "which judge is the most generous")
  expect_equal(method_of(a), "anova_repeated")
  long <- data.frame(y = c(d$score_anna, d$score_ben, d$score_carla), who = gl(3, 40), wine = factor(rep(1:40, 3)))
  own <- summary(aov(y ~ who + Error(wine / who), long))[["Error: wine:who"]][[1]]
  expect_equal(value_of(a, "statistic"), own[["F value"]][1])
})
