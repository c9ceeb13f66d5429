test_that("a column is found by name, parts, style, plural and label", {
  study <- amend(hive_study(), honey_yield_kg = list(label = "Harvest of the season"))
  for (words in c("honey_yield_kg", "honey yield", "HONEY YIELD KG", "honeyYield", "harvest", "yields of honey")) {
    expect_equal(reading(ask(study, paste("mean", words)))$outcome, "honey_yield_kg", info = words)
  }
})

test_that("before and after belong to the names that hold them", {
  a <- ask(hive_study(), "correlation of strength before and honey yield")
  expect_setequal(c(reading(a)$outcome, reading(a)$predictors), c("strength_before", "honey_yield_kg"))
  b <- ask(hive_study(), "How is honey yield related to the strength after?")
  expect_setequal(c(reading(b)$outcome, reading(b)$predictors), c("strength_after", "honey_yield_kg"))
})

test_that("a word that fits two columns alike is asked back, and the choice is taken by number or words", {
  a <- ask(hive_study(), "How does strength relate to honey yield?")
  expect_equal(status_of(a), "needs_choice")
  expect_null(as.list(a)$method)
  expect_length(as.list(a)$reading$alternatives, 2)
  expect_setequal(c(reading(ask(a, "2"))$outcome, reading(ask(a, "2"))$predictors), c("strength_after", "honey_yield_kg"))
  expect_true("strength_before" %in% c(reading(ask(a, "strength before"))$outcome, reading(ask(a, "strength before"))$predictors))
})

test_that("columns named as statistics or grammar can be asked about", {
  d <- data.frame(`if` = with_seed(81, rnorm(30)), mean = with_seed(82, rnorm(30)), by = rep(c("a", "b", "c"), 10), check.names = FALSE)
  study <- open_study(d)
  a <- ask(study, "correlation between `if` and mean")
  expect_equal(value_of(a, "estimate"), cor(d[["if"]], d$mean), tolerance = 1e-12)
  expect_retraces(a)
})

test_that("a name of several words is found without its unit, and the very word comes before one of the same stem", {
  d <- with_seed(71, data.frame(booking_no = sprintf("B%03d", 1:80), guest = sprintf("G%02d", sample(1:30, 80, TRUE)), nights = sample(1:5, 80, TRUE),
    nightly_rate_eur = round(rnorm(80, 110, 9), 2), rating = sample(c(NA, 5:10), 80, TRUE), guests = sample(1:4, 80, TRUE),
    room_type = sample(c("single", "double"), 80, TRUE)))
  s <- open_study(local_data(d))
  expect_equal(reading(ask(s, "average nightly rate"))$outcome, "nightly_rate_eur")
  expect_equal(reading(ask(s, "average rate per room type"))$outcome, "nightly_rate_eur")
  expect_equal(reading(ask(s, "rating by room type"))$outcome, "rating")
  expect_equal(value_of(ask(s, "how many bookings have no rating"), "n"), sum(is.na(d$rating)))
  # of a key and a number of the same name the number is averaged, the key counted
  expect_equal(value_of(ask(s, "average number of guests per booking"), "estimate"), mean(d$guests))
  expect_equal(unname(reading(ask(s, "how many different guests are there"))$outcome), "guest")
})
