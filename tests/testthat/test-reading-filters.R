test_that("values and numbers named in a question become conditions, each said in the reading", {
  study <- hive_study()
  cases <- list(
    list("mean honey yield in the north", "region == north"),
    list("mean honey yield without the coast", "region != coast"),
    list("mean honey yield except north and south", "region not_in north|south"),
    list("mean honey yield where queen age is over 12", "queen_age_months > 12"),
    list("mean honey yield for queen age of at least 16", "queen_age_months >= 16"),
    list("mean honey yield for strength before between 8 and 10", "strength_before between 8|10"),
    list("mean honey yield for mites before below 5", "mites_before < 5"))
  for (case in cases) {
    a <- ask(study, case[[1]])
    expect_equal(filters_of(a), case[[2]], info = case[[1]])
    expect_equal(reading(a)$outcome, "honey_yield_kg", info = case[[1]])
  }
})

test_that("two conditions both hold", {
  raw <- read.csv(demo_file())
  a <- ask(hive_study(), "mean honey yield in the north for queen age over 12")
  expect_equal(value_of(a, "estimate"), with(raw, mean(honey_yield_kg[region == "north" & queen_age_months > 12], na.rm = TRUE)), tolerance = 1e-12)
})

test_that("two named levels of three give the groups and the condition", {
  a <- ask(hive_study(), "Does the honey yield differ between syrup and control?")
  expect_equal(reading(a)$by, "arm")
  expect_equal(filters_of(a), "arm in syrup|control")
})
