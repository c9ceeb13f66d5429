sets_of <- function(d) as.list(open_study(d))$tables[[1]]$sets
kinds_of_sets <- function(d) vapply(sets_of(d), `[[`, "", "kind")

test_that("repeated measures are told by their times", {
  x <- function() with_seed(5, rnorm(12))
  d <- data.frame(score_t1 = x(), score_t2 = x() + 1, score_t10 = x() + 2)
  s <- sets_of(d)[[1]]
  expect_equal(s$kind, "repeated_measures")
  expect_equal(unlist(s$columns), c("score_t1", "score_t2", "score_t10"))
  expect_equal(kinds_of_sets(data.frame(bp_before = x(), bp_after = x() + 1)), "repeated_measures")
  expect_equal(kinds_of_sets(data.frame(sales_2022 = x(), sales_2023 = x() + 1)), "repeated_measures")
  expect_length(sets_of(data.frame(height = x(), weight = x() + 1)), 0)
})

test_that("answers of one question, in columns or in a cell", {
  flags <- with_seed(3, data.frame(uses_web = sample(0:1, 20, TRUE), uses_post = sample(0:1, 20, TRUE), uses_phone = sample(0:1, 20, TRUE)))
  expect_equal(kinds_of_sets(flags), "multi_answer")
  one <- data.frame(tools = rep(c("saw; axe", "axe", "saw; plane", "plane; axe", "saw"), 4), x = 1:20 / 3)
  expect_equal(kinds_of_sets(one), "multi_answer")
  expect_equal(codebook(open_study(one))$role[1], "multi_answer")
})

test_that("items of one scale, and a position", {
  items <- with_seed(9, as.data.frame(matrix(sample(1:5, 120, TRUE), 30, dimnames = list(NULL, paste0("q", 1:4)))))
  expect_equal(kinds_of_sets(items), "items")
  d <- data.frame(lat = c(51.5, 52.25, 53), longitude = c(-1, 0.5, 1.25), y = c(1.5, 2, 3))
  expect_equal(kinds_of_sets(d), "position")
  expect_equal(codebook(open_study(d))$role[1:2], c("latitude", "longitude"))
})

test_that("base and bl are the first occasion, and a number in a measure's own name is none", {
  rows <- data.frame(pid = sprintf("R%02d", 1:30), arm = rep(c("app", "usual"), 15), walk6_base = 300 + 1:30, walk6_wk6 = 305 + 2 * (1:30),
                     walk6_wk12 = 310 + 3 * (1:30), pain_bl = rep(c(4, 6, 5), 10), pain_wk12 = rep(c(3, 5, 5, 2, 6), 6), fell = rep(0:1, 15), days_to_fall = 10 + 1:30)
  s <- open_study(local_data(rows))
  sets <- internal("study_sets")(s, "repeated_measures")
  expect_setequal(vapply(sets, `[[`, "", "name"), c("walk6", "pain"))
  expect_equal(table_of(ask(s, "change in walk6 by arm"), "groups")$mean, as.vector(tapply(rows$walk6_wk12 - rows$walk6_base, rows$arm, mean)))
  expect_setequal(unlist(reading(ask(s, "did walk6 improve?"))$outcome), c("walk6_base", "walk6_wk6", "walk6_wk12"))
  expect_equal(unlist(reading(ask(s, "walk6 at week 6 by arm"))$outcome), "walk6_wk6")
  # ("fell" is the event of days_to_fall, and no change of a measure)
  expect_equal(unlist(reading(ask(s, "time to first fall by arm"))$outcome), c("days_to_fall", "fell"))
  expect_match(ask(s, "how many fell in each arm")$sentences$headline, "^Fell is 1")
})
