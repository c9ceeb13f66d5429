test_that("a method that is asked for is used, and what would have been chosen gives its opinion", {
  a <- as.list(ask(hive_study(), "Mann-Whitney test of honey yield between syrup and control"))
  expect_equal(a$method$id, "mann_whitney")
  expect_equal(a$reading$method_asked, "mann_whitney")
  expect_true("t_welch" %in% vapply(a$second_opinions, function(o) o$method$id, ""))
  expect_match(a$method$why, "You asked for it")
})

test_that("a method that cannot serve the data is refused with the nearest that can", {
  a <- ask(hive_study(), "Student t test of honey yield by region")
  expect_equal(status_of(a), "cannot_answer")
  expect_match(as.list(a)$sentences$headline, "does not fit these columns")
})
