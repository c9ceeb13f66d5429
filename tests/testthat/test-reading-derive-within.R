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

test_that("repeated rows are allowed for by holding the unit constant", {
  rows <- data.frame(athlete = rep(sprintf("P%02d", 1:8), each = 10), week = rep(1:10, 8), load_au = 400 + 50 * cos(1:80),
                     jump_cm = 38 + rep(1:8, each = 10) + sin(1:80 * 1.7))
  s <- open_study(local_data(rows))
  fit <- summary(lm(jump_cm ~ load_au + athlete, rows))$coefficients["load_au", ]
  for (q in c("correlation between load and jump, allowing for repeated measures", "repeated measures correlation of load and jump")) {
    a <- ask(s, q)
    expect_equal(value_of(a, "p_value"), fit[["Pr(>|t|)"]], tolerance = 1e-8, info = q)
  }
  expect_retraces(a)
})
