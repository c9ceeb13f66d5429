# Are shifts of a level steps, or pieces of a course?

verdict_on <- function(y) internal("check_level_steps")(y, internal("stat_change_points")(y))$verdict

test_that("steps in noise are steps", {
  expect_equal(verdict_on(with_seed(61, c(rnorm(60, 10), rnorm(60, 14)))), "ok")
})

test_that("a walk cut into pieces is told", {
  expect_equal(verdict_on(with_seed(62, cumsum(rnorm(300)))), "broken")
})

test_that("a slope in noise is told", {
  expect_equal(verdict_on(with_seed(63, seq(0, 12, length.out = 200) + rnorm(200))), "caution")
})

test_that("the answer carries the check, and many shifts are said to be a course", {
  w <- demo_study("hive_weights.csv")
  a <- ask(w, "when did the weight change level?")
  expect_equal(checks(a)$verdict[checks(a)$id == "level_steps"], "broken")
  expect_match(as.list(a)$sentences$headline, "goes up and down steadily")
  d <- data.frame(day = as.Date("2024-01-01") + 0:119, y = with_seed(64, c(rnorm(60, 10), rnorm(60, 14))))
  b <- ask(open_study(d), "when did y change?")
  expect_match(as.list(b)$sentences$headline, "shifts once")
})
