# Equivalence and non-inferiority by ranks.

pairs_of <- function() with_seed(91, data.frame(id = 1:40, old_mm = round(rnorm(40, 50, 4), 1), new_mm = round(rnorm(40, 50.3, 4), 1)))

test_that("both sides of the margin are rank tests of shifted values, as base R makes them", {
  rows <- with_seed(92, data.frame(arm = rep(c("a", "b"), each = 60), y = c(rnorm(60, 10, 2), rnorm(60, 10.2, 2))))
  a <- ask(open_study(rows), "rank-based equivalence of y between a and b within 1")
  x <- rows$y[rows$arm == "a"]; y <- rows$y[rows$arm == "b"]
  low <- suppressWarnings(wilcox.test(x + 1, y, alternative = "greater", exact = FALSE)$p.value)
  high <- suppressWarnings(wilcox.test(x - 1, y, alternative = "less", exact = FALSE)$p.value)
  expect_equal(c(value_of(a, "p_lower"), value_of(a, "p_upper")), c(low, high), tolerance = 1e-10)
  expect_equal(value_of(a, "p_value"), max(low, high), tolerance = 1e-10)
  expect_equal(value_of(a, "estimate"), median(outer(x, y, "-")), tolerance = 1e-12)
  expect_equal(value_of(a, "conf_level"), 0.9)
  # the interval that decides: inside the margin just where the p value is below 5 %
  inside <- value_of(a, "ci_low") > -1 && value_of(a, "ci_high") < 1
  expect_equal(inside, value_of(a, "p_value") < 0.05)
  expect_retraces(a)
})

test_that("few values are counted through, pairs by their signed ranks", {
  rows <- with_seed(93, data.frame(arm = rep(c("a", "b"), c(8, 9)), y = round(rnorm(17, 10, 1), 2)))
  a <- ask(open_study(rows), "rank-based equivalence of y between a and b within 2")
  x <- rows$y[rows$arm == "a"]; y <- rows$y[rows$arm == "b"]
  expect_equal(value_of(a, "p_lower"), wilcox.test(x + 2, y, alternative = "greater")$p.value, tolerance = 1e-10)
  expect_equal(value_of(a, "p_upper"), wilcox.test(x - 2, y, alternative = "less")$p.value, tolerance = 1e-10)
  expect_retraces(a)
  p <- ask(open_study(pairs_of()), "are old_mm and new_mm equivalent within 2?")
  expect_equal(method_of(p), "equivalence_t")
  beside <- as.list(p)$second_opinions
  at <- match("equivalence_ranks", vapply(beside, function(o) o$method$id, ""))
  d <- with(pairs_of(), old_mm - new_mm)
  own <- max(suppressWarnings(wilcox.test(round(d + 2, 10), alternative = "greater", exact = FALSE)$p.value),
             suppressWarnings(wilcox.test(round(d - 2, 10), alternative = "less", exact = FALSE)$p.value))
  found <- Find(function(n) n$id == "p_value", beside[[at]]$numbers)$value
  # (counted through up to 50 pairs, where base R falls back to the normal curve for ties)
  expect_equal(found, own, tolerance = 0.15)
  expect_equal(beside[[at]]$agrees, (found < 0.05) == (value_of(p, "p_value") < 0.05))
})

test_that("non-inferiority looks at one side, the one that is worse", {
  rows <- with_seed(94, data.frame(arm = rep(c("control", "new"), each = 70), pain_score = round(rnorm(140, 40, 9), 1)))
  s <- open_study(rows)
  second <- function(a) { o <- as.list(a)$second_opinions; Find(function(o) o$method$id == "noninferiority_ranks", o) }
  x <- rows$pain_score[rows$arm == "new"]; y <- rows$pain_score[rows$arm == "control"]
  lower <- second(ask(s, "is new not inferior to control in pain_score with a margin of 5, lower is better"))
  p <- function(o) Find(function(n) n$id == "p_value", o$numbers)$value
  expect_equal(p(lower), suppressWarnings(wilcox.test(x - 5, y, alternative = "less", exact = FALSE)$p.value), tolerance = 1e-8)
  higher <- second(ask(s, "is new not inferior to control in pain_score with a margin of 5, higher is better"))
  expect_equal(p(higher), suppressWarnings(wilcox.test(x + 5, y, alternative = "greater", exact = FALSE)$p.value), tolerance = 1e-8)
})
