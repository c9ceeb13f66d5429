test_that("words, numbers, dates and symbols are cut apart with their places", {
  t <- internal("tokenise")("Mean of honeyKg in 2024-05-01, over 1,200.5 kg & <= 3?")
  expect_equal(t$text[t$type == "date"], "2024-05-01")
  expect_equal(t$value[t$type == "number"], c(1200.5, 3))
  expect_true("<=" %in% t$text)
})

test_that("a minus belongs to a number only where it stands before one", {
  t <- internal("tokenise")("below -5 and 3-4")
  expect_equal(t$value[t$type == "number"], c(-5, 3, 4))
})

test_that("names are opened up in any style", {
  expect_equal(internal("name_words")(c("honeyYieldKg", "honey_yield.kg")), c("honey Yield Kg", "honey yield kg"))
})
