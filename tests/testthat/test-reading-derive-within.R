test_that("a relation within units, and a shape within groups, are told in each of them", {
  d <- with_seed(91, data.frame(runner = rep(sprintf("Runner %02d", 1:8), each = 20), sleep_h = round(rnorm(160, 7, 1), 1),
                                pace_min_per_km = round(rnorm(160, 5.4, 0.4), 2), year_group = rep(7:8, 80)))
  s <- open_study(d)
  a <- ask(s, "does sleep affect pace within runners")
  expect_equal(method_of(a), "correlation_by_group")
  one <- d[d$runner == "Runner 03", ]
  t <- table_of(a, "correlations")
  expect_equal(t$estimate[t$group == "Runner 03"], cor(one$sleep_h, one$pace_min_per_km))
  b <- ask(s, "is pace normally distributed within year groups")
  expect_match(as.list(b)$sentences$headline, "every group of year group", fixed = TRUE)
  expect_equal(read_as(s, "is sleep a good predictor of pace"), read_as(s, "does sleep predict pace"))
})

test_that("units of time for each of another measure are no part of a name", {
  s <- open_study(with_seed(92, data.frame(pace_min_per_km = rnorm(30, 5), weeds_per_m2 = rpois(30, 8), tenure_yrs = rexp(30), week_start = 1:30)))
  units <- vapply(as.list(s)$tables[[1]]$columns, function(col) col$unit %||% "", "")
  expect_equal(units[1:3], c("min/km", "per m2", "years"))
  expect_match(as.list(ask(s, "average pace"))$sentences$headline, "^The mean of pace is .* min/km")
  expect_match(as.list(ask(s, "average weeds"))$sentences$headline, "per m2", fixed = TRUE)
})
