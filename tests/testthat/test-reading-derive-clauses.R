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

test_that("a noun that is a condition stays beside its clause", {
  d <- ward_data()
  s <- open_study(d)
  a <- ask(s, "mean age of diabetics who were readmitted")
  expect_equal(value_of(a, "estimate"), mean(d$age[d$diabetes == "yes" & d$readmitted_30d == "yes"]))
  b <- ask(s, "how many patients were neither diabetic nor readmitted?")
  expect_equal(value_of(b, "n"), sum(d$diabetes == "no" & d$readmitted_30d == "no"))
  c <- ask(s, "what share of surgery patients stayed more than a week?")
  expect_equal(value_of(c, "estimate"), mean(d$los_days[d$ward == "Surgery"] > 7))
  expect_equal(value_of(ask(s, "average stay of those who were not readmitted"), "estimate"), mean(d$los_days[d$readmitted_30d == "no"]))
})

test_that("a bound without a column keeps its sign in every choice offered", {
  l <- loan_data()
  a <- ask(open_study(l), "how many loans over 15k were for study?")
  expect_equal(status_of(a), "needs_choice")
  b <- ask(a, "1")
  expect_equal(value_of(b, "n"), sum(l$purpose == "study" & l$amount_gbp > 15000))
})
