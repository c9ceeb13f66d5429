test_that("pupils are narrowed by what was done to them, their years and their scores", {
  k <- school_data()
  s <- open_study(k)
  attendance <- function(q) value_of(ask(s, q), "estimate")
  expect_equal(attendance("average attendance of pupils not on free meals"), mean(k$attendance_pct[k$free_meals == "N"]))
  expect_equal(attendance("average attendance in years 7 to 9"), mean(k$attendance_pct[k$year_group %in% 7:9]))
  expect_equal(attendance("average attendance of pupils excluded at least once"), mean(k$attendance_pct[k$exclusions >= 1]))
  expect_equal(attendance("average attendance of pupils excluded more than once"), mean(k$attendance_pct[k$exclusions > 1]))
  expect_equal(attendance("average attendance of pupils whose autumn score was below 50"), mean(k$attendance_pct[k$maths_autumn < 50]))
})

test_that("two sides told as clauses are compared, and the middle answer is one level", {
  d <- city_data()
  s <- open_study(d)
  for (q in c("who is more satisfied, those who passed or those who failed?", "compare satisfaction between those who passed and those who failed")) {
    a <- ask(s, q)
    expect_equal(reading(a)$by, "passed", info = q)
    expect_length(reading(a)$filters, 0)
  }
  b <- ask(s, "average satisfaction of voters who neither agree nor disagree that they feel safe")
  expect_equal(value_of(b, "estimate"), mean(d$satisfaction[d$voted == "yes" & d$feel_safe == "Neither"]))
})
