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

test_that("names longer than R's own are no hindrance, one of them or all together", {
  rows <- with_seed(4, data.frame(a = rnorm(30), score = rnorm(30)))
  long <- stats::setNames(rows, c(strrep("long name ", 2000), "score"))
  expect_equal(value_of(ask(open_study(long), "mean score"), "estimate"), mean(rows$score))
  wide <- with_seed(5, as.data.frame(matrix(rnorm(130 * 20), 20)))
  names(wide) <- sprintf("%s_%s_%03d", strrep("x", 40), strrep("y", 40), 1:130)
  wide$yield <- seq_len(20) / 2
  expect_gt(nchar(paste(names(wide), collapse = "\n")), 10000)
  expect_equal(value_of(ask(open_study(wide), "mean yield"), "estimate"), mean(wide$yield))
})

test_that("initials have plurals", {
  stems <- internal("stem_words")
  expect_identical(stems(c("dvds", "dvd", "cvs", "css", "lbs", "weighted", "missing")), c("dvd", "dvd", stems("cvs"), stems("css"), stems("lbs"), "weighted",
                                                                                         "missing"))
  s <- open_study(local_data(data.frame(id = 1:40, item = rep(c("DVD", "novel"), 20), days = 1:40)))
  expect_identical(filters_of(ask(s, "how many DVDs are there")), "item == DVD")
})
