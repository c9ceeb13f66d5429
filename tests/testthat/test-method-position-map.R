test_that("distances follow the law of cosines and known cases", {
  km <- internal("stat_distance_km")
  expect_equal(km(0, 0, 0, 90), 6371 * pi / 2, tolerance = 1e-12)
  expect_equal(km(10, 50, 10, 50), 0)
  with_seed(2, { a <- runif(20, -180, 180); b <- runif(20, -80, 80); c <- runif(20, -180, 180); d <- runif(20, -80, 80) })
  r <- pi / 180
  cosine <- 6371 * acos(sin(b * r) * sin(d * r) + cos(b * r) * cos(d * r) * cos((c - a) * r))
  expect_equal(km(a, b, c, d), cosine, tolerance = 1e-8)
})

test_that("positions are mapped, coloured by what is named, and retrace", {
  s <- demo_study("apiaries.csv")
  for (q in c("map of the apiaries", "where are the apiaries?", "show the positions", "map altitude", "map of the apiaries coloured by region")) {
    a <- ask(s, q)
    expect_equal(method_of(a), "position_map", info = q)
    expect_retraces(a)
    expect_s3_class(figure(a), "ggplot")
  }
  expect_true("region" %in% names(table_of(a, "positions")))
  expect_equal(reading(ask(s, "map altitude"))$outcome, "altitude_m")
  # without positions there is no map
  none <- ask(hive_study(), "map honey yield")
  expect_equal(status_of(none), "cannot_answer")
  expect_match(as.list(none)$sentences$headline, "latitude and longitude")
})

test_that("swapped coordinates are refused", {
  d <- data.frame(place = letters[1:6], latitude = c(10, 20, 30, 95, 12, 14) + 0.5, longitude = c(50, 51, 52, 53, 54, 55) + 0.25)
  a <- ask(open_study(d), "map of the places")
  expect_equal(status_of(a), "cannot_answer")
})
