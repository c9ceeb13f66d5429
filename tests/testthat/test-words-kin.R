# Words akin to the data's own.

kin_study <- function() open_study(with_seed(1, data.frame(
  bwt = round(rnorm(60, 3000, 400)), smoke = sample(c("yes", "no"), 60, TRUE), Sex = sample(c("F", "M"), 60, TRUE), Lrn = sample(c("AL", "SL"), 60,
    TRUE),
  Eth = sample(c("A", "N"), 60, TRUE), group = sample(c("ctrl", "trt1", "trt2"), 60, TRUE), Class = sample(c("1st", "2nd", "3rd"), 60, TRUE),
    npreg = rpois(60, 3),
  Exercise_freq = sample(c("Never", "Occas", "Regul"), 60, TRUE), Age = sample(c("Child", "Adult"), 60, TRUE), survived = sample(c("Yes", "No"),
    60, TRUE))))

test_that("abbreviations fit the words they stand for and no others", {
  fits <- internal("abbreviates")
  expect_true(fits("eth", "ethnic")); expect_true(fits("lrn", "learner")); expect_true(fits("treat", "treatment"))
  expect_false(fits("ht", "hypertension")); expect_false(fits("age", "gender")); expect_false(fits("bwt", "weight"))
  words <- internal("abbreviates_words")
  expect_true(words("bwt", c("birth", "weight"))); expect_true(words("bmi", c("body", "mass", "index")))
  expect_false(words("bwt", c("birth", "length"))); expect_false(words("b", c("birth", "weight")))
})

test_that("people named by what they do, codes of a sex, initials, ordinals and short levels are found, and said", {
  s <- kin_study()
  cases <- list(
    c("mean bwt of smokers", "smoke == yes"), c("mean bwt of boys", "Sex == M"), c("mean bwt of girls", "Sex == F"), c("mean bwt of slow learners",
      "Lrn == SL"),
    c("mean birth weight of first class", "Class == 1st"), c("mean bwt of control", "group == ctrl"), c("mean bwt of children", "Age == Child"))
  for (case in cases) {
    a <- ask(s, case[1])
    expect_equal(status_of(a), "answered", info = case[1])
    expect_equal(filters_of(a), case[2], info = case[1])
    expect_equal(reading(a)$outcome, "bwt", info = case[1])
  }
  expect_match(paste(reading(ask(s, "mean birth weight"))$assumed, collapse = " "), "birth weight")
})

test_that("a group and its opposite are both sides of a comparison", {
  a <- ask(kin_study(), "bwt of smokers and non-smokers")
  expect_equal(method_of(a), "t_welch")
  expect_equal(reading(a)$by, "smoke")
  b <- ask(kin_study(), "compare bwt between treatment 1 and control")
  expect_equal(filters_of(b), "group in trt1|ctrl")
})

test_that("what is not there stays unknown", {
  s <- kin_study()
  for (q in c("mean income", "mean bwt of vegetarians", "does altitude affect bwt")) expect_equal(status_of(ask(s, q)), "cannot_answer", info = q)
  # the article is no level of a column that has a level "a"
  d <- open_study(data.frame(ap = rep(c("a", "p"), 15), y = 1:30, g = rep(c("u", "v", "w"), 10)))
  expect_equal(filters_of(ask(d, "is there a difference in y by g")), character())
  expect_equal(filters_of(ask(d, "mean y where ap is a")), "ap == a")
})
