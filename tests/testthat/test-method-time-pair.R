test_that("two columns run over the same periods, on panels or on two axes", {
  s <- demo_study("hive_weights.csv"); d <- as.data.frame(s)
  a <- ask(s, "weight and temperature over time on two axes")
  expect_equal(method_of(a), "time_pair")
  ok <- !is.na(d$weight_kg) & !is.na(d$temperature_c)
  month <- format(d$date[ok], "%Y-%m")
  t <- table_of(a, "time")
  expect_equal(t$weight_kg, as.vector(tapply(d$weight_kg[ok], month, mean)), tolerance = 1e-12)
  expect_equal(t$temperature_c, as.vector(tapply(d$temperature_c[ok], month, mean)), tolerance = 1e-12)
  expect_retraces(a)
  expect_s3_class(figure(a), "ggplot")
  c <- ask(s, "weight and temperature by week")
  expect_equal(method_of(c), "time_pair")
  expect_retraces(c)
})

test_that("the second axis maps its range onto the first, also where a column stands still", {
  scale <- internal("second_scale")
  s <- scale(c(10, 30), c(1, 5))
  expect_equal(s$shift + s$stretch * c(1, 5), c(10, 30))
  expect_equal(scale(c(4, 4), c(1, 5))$stretch, 1)
})

test_that("a yes/no column over time is a share, alone, by group and beside another, and retraces", {
  d <- with_seed(50, data.frame(id = 1:200, day = as.Date("2024-01-01") + sample(0:200, 200, TRUE), opened = sample(c("TRUE", "FALSE"), 200, TRUE),
                                paid = sample(c("yes", "no"), 200, TRUE), g = sample(c("a", "b"), 200, TRUE)))
  s <- open_study(d)
  share <- function(x) as.vector(tapply(x, format(d$day, "%Y-%m"), mean))
  pair <- ask(s, "opened and paid over time by month")
  expect_equal(method_of(pair), "time_pair")
  expect_equal(table_of(pair, "time")$opened, share(d$opened == "TRUE"), tolerance = 1e-12)
  expect_equal(table_of(pair, "time")$paid, share(d$paid == "yes"), tolerance = 1e-12)
  for (a in list(pair, ask(s, "opened per month"), ask(s, "opened per month by g"))) expect_retraces(a)
})
