# Checks on forecasts.

test_that("a season that the forecast leaves out is told, and none is made up", {
  check <- internal("check_unused_season")
  plain <- with_seed(3, 100 + rnorm(24))
  season <- plain + 30 * cos(2 * pi * seq_len(24) / 12)
  a <- check(season, 12, FALSE)
  expect_identical(a$verdict, "caution")
  left <- residuals(lm(season ~ seq_along(season)))
  expect_equal(a$numbers[[1]]$value, cor(left[1:12], left[13:24]))
  expect_identical(check(plain, 12, FALSE)$verdict, "ok")
  expect_null(check(season, 12, TRUE)); expect_null(check(season[1:20], 12, FALSE)); expect_null(check(rep(5, 24), 12, FALSE))
})

test_that("the check stands with the forecast of two years of months, and not where the season is fitted", {
  d <- with_seed(4, data.frame(month = format(seq(as.Date("2023-01-01"), by = "month", length.out = 24), "%Y-%m"),
                               kwh = round(300 + 90 * cos(2 * pi * 0:23 / 12) + rnorm(24, 0, 8))))
  a <- ask(open_study(local_data(d, "energy.csv")), "forecast kwh for the next 6 months")
  checks <- as.list(a)$checks
  own <- Filter(function(k) k$id == "unused_season", checks)
  expect_identical(own[[1]]$verdict, "caution")
  expect_match(own[[1]]$meaning, "too few whole seasons were seen")
  long <- with_seed(5, data.frame(month = format(seq(as.Date("2020-01-01"), by = "month", length.out = 60), "%Y-%m"),
                                  kwh = round(300 + 90 * cos(2 * pi * 0:59 / 12) + rnorm(60, 0, 8))))
  b <- ask(open_study(local_data(long, "energy.csv")), "forecast kwh for the next 6 months")
  expect_false("unused_season" %in% vapply(as.list(b)$checks, `[[`, "", "id"))
})
