# The calendar beside what is asked: held constant, as a pattern of what is open, in decades; plurals built in another way.

bakery_rows <- function() with_seed(95, {
  day <- seq(as.Date("2023-01-01"), by = "day", length.out = 300)
  out <- data.frame(date = as.character(day), rain = sample(c("yes", "no"), 300, TRUE), temperature_c = round(rnorm(300, 11, 6), 1), waste_kg = round(rgamma(300, 3, 0.5), 1))
  out$loaves_sold <- round(180 + 30 * (format(day, "%u") > "5") + rnorm(300, 0, 15))
  out$takings_eur <- round(3 * out$loaves_sold + rnorm(300, 0, 20), 2)
  out
})

test_that("the day of the week is held constant as a column of its own", {
  rows <- bakery_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "effect of rain on takings adjusting for weekday")
  day <- factor(as.integer(format(as.Date(rows$date), "%u")))
  own <- coef(lm(takings_eur ~ rain + day, rows))[["rainyes"]]
  terms <- table_of(a, "coefficients")
  expect_equal(abs(terms$estimate[grep("^rain", terms$term)]), abs(own), tolerance = 1e-8)
  expect_retraces(a)
  # what is not named is asked about, never a count of the days
  for (question in c("are there seasonal patterns?", "are there weekly patterns?", "does rain matter after allowing for weekday?")) {
    expect_equal(status_of(ask(s, question)), "needs_choice")
  }
})

test_that("money of a month is its total, a slope per degree is that of the line, and a loaf is one of the loaves", {
  rows <- bakery_rows(); s <- open_study(local_data(rows))
  a <- table_of(ask(s, "which month had the highest takings?"), "time")
  own <- tapply(rows$takings_eur, substr(rows$date, 1, 7), sum)
  expect_equal(a$sum[match(names(own), a$period)], as.numeric(own), tolerance = 1e-10)
  b <- ask(s, "loaves per degree of temperature")
  expect_equal(value_of(b, "estimate"), coef(lm(loaves_sold ~ temperature_c, rows))[["temperature_c"]], tolerance = 1e-8)
  d <- ask(s, "waste per loaf")
  expect_equal(value_of(d, "estimate"), sum(rows$waste_kg) / sum(rows$loaves_sold), tolerance = 1e-10)
})

test_that("decades are ten years each, and films that get longer are a trend", {
  rows <- with_seed(96, data.frame(title = sprintf("Film %03d", 1:160), release_year = sample(1991:2024, 160, TRUE), runtime_min = round(rnorm(160, 105, 15)),
                                   language = sample(c("English", "French"), 160, TRUE), critic_score = sample(10:100, 160, TRUE)))
  rows$audience_score <- with_seed(97, pmin(100, pmax(1, round(0.5 * rows$critic_score + 30 + rnorm(160, 0, 8)))))
  s <- open_study(local_data(rows))
  a <- table_of(ask(s, "average runtime by decade"), "groups")
  expect_equal(sort(a$mean), sort(as.numeric(tapply(rows$runtime_min, rows$release_year %/% 10, mean))), tolerance = 1e-10)
  b <- ask(s, "are films getting longer?")
  expect_equal(reading(b)[c("task", "outcome")], list(task = "trend", outcome = "runtime_min"))
  # longer films that get better scores are no trend, and scores of a hundred steps are no levels
  expect_equal(value_of(ask(s, "do longer films get better audience scores?"), "r"), cor(rows$runtime_min, rows$audience_score), tolerance = 1e-10)
  expect_equal(method_of(ask(s, "do critics and audiences agree?")), "intraclass_correlation")
})
