# Two columns of a row against each other, rows in which a measure moved, rows told by their time or their key.

house_rows <- function(n = 120) with_seed(63, {
  out <- data.frame(address_id = 100 + seq_len(n), type = sample(c("flat", "terraced", "detached"), n, TRUE),
                    asking_price = round(runif(n, 1e5, 4e5), -3), bedrooms = sample(1:5, n, TRUE))
  out$sale_price <- round(out$asking_price * runif(n, 0.9, 1.06), -2)
  out$sale_price[sample(n, 9)] <- NA
  out
})

test_that("one column is set against another in each row", {
  rows <- house_rows(); s <- open_study(local_data(rows))
  above <- rows$sale_price > rows$asking_price
  expect_equal(value_of(ask(s, "what percent sold above the asking price?"), "estimate"), mean(above, na.rm = TRUE), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many flats sold below the asking price?"), "n"), sum(rows$sale_price < rows$asking_price & rows$type == "flat", na.rm = TRUE))  # nolint: line_length_linter.
  a <- ask(s, "did houses sell below asking?")
  expect_equal(value_of(a, "p_value"), t.test(rows$sale_price, rows$asking_price, paired = TRUE)$p.value, tolerance = 1e-10)
  expect_equal(nrow(table_of(ask(s, "which flats sold for more than the asking price?"), "rows")), sum(above & rows$type == "flat", na.rm = TRUE))
  # what is no such pair is not set against anything
  expect_false(any(grepl("minus", unlist(filters_of(ask(s, "how many houses have more than 3 bedrooms?"))))))
})

test_that("rows in which a measure fell are those of a negative change", {
  rows <- with_seed(8, data.frame(ward = paste("Ward", 1:30), electorate = round(runif(30, 4000, 9000)), turnout_2019 = round(runif(30, 25, 50), 1),
                                  turnout_2023 = round(runif(30, 25, 55), 1), votes_2019 = round(runif(30, 900, 4000)),
                                  votes_2023 = round(runif(30, 900, 4000))))
  s <- open_study(local_data(rows))
  fell <- sum(rows$turnout_2023 < rows$turnout_2019)
  expect_equal(nrow(table_of(ask(s, "wards where turnout fell"), "rows")), fell)
  expect_equal(value_of(ask(s, "in how many wards did turnout fall?"), "n"), fell)
  # a word that columns bear is not another measure by its meaning
  a <- ask(s, "did turnout rise between 2019 and 2023?")
  expect_setequal(reading(a)$outcome, c("turnout_2019", "turnout_2023"))
  expect_equal(value_of(ask(s, "how many wards are below 40% turnout in 2023?"), "n"), sum(rows$turnout_2023 < 40))
  b <- ask(s, "total votes in 2019 and 2023")
  expect_equal(table_of(b, "describe")$sum, c(sum(rows$votes_2019), sum(rows$votes_2023)))
  expect_retraces(b)
})

test_that("what is told per key that stands once is told of the rows", {
  rows <- with_seed(9, data.frame(visitor = 1:200, variant = sample(c("A", "B"), 200, TRUE), revenue = round(rexp(200, 0.1), 2)))
  a <- ask(open_study(local_data(rows)), "is the revenue per visitor higher in variant B?")
  expect_equal(value_of(a, "p_value"), t.test(revenue ~ variant, rows)$p.value, tolerance = 1e-10)
})

test_that("nights of a diary are its rows", {
  rows <- with_seed(5, data.frame(person = rep(sprintf("P%02d", 1:10), each = 14), day = rep(1:14, 10), sleep_minutes = round(rnorm(140, 420, 40)),
                                  alcohol_units = rpois(140, 1), quality = sample(c("poor", "fair", "good"), 140, TRUE)))
  s <- open_study(local_data(rows))
  expect_equal(value_of(ask(s, "what percent of nights were poor?"), "estimate"), mean(rows$quality == "poor"), tolerance = 1e-12)
  expect_equal(value_of(ask(s, "how many nights did people have no alcohol?"), "n"), sum(rows$alcohol_units == 0))
  a <- ask(s, "on days with more alcohol do people sleep less?")
  expect_equal(value_of(a, "r"), cor(rows$alcohol_units, rows$sleep_minutes), tolerance = 1e-10)
  # a duration of each night is averaged for each person, not added up
  b <- ask(s, "average sleep per person")
  expect_equal(table_of(b, "groups")$mean, as.numeric(tapply(rows$sleep_minutes, rows$person, mean)), tolerance = 1e-12)
})
