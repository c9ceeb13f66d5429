# A scan counts the rows that its conditions keep.

scan_rows <- function() with_seed(91, {
  out <- data.frame(id = 1:80, district = rep(c("North", "South"), 40), price = round(runif(80, 10, 90), 1), area = round(runif(80, 20, 60)))
  out$price[c(1, 3, 5, 2)] <- NA
  out$area[c(7, 8)] <- NA
  out
})

test_that("missing values are those of the rows that meet the conditions", {
  rows <- scan_rows(); s <- open_study(local_data(rows))
  a <- ask(s, "how many prices are missing in the North?")
  expect_equal(value_of(a, "missing_cells"), sum(is.na(rows$price[rows$district == "North"])))
  expect_equal(value_of(a, "n"), 40)
  expect_match(as.list(a)$sentences$headline, "3 of 40 values", fixed = TRUE)
  expect_retraces(a)
  b <- ask(s, "missing values in the North")
  own <- table_of(b, "missing")
  expect_equal(own$missing[match(c("price", "area"), own$column)], c(3, 1))
  expect_equal(own$percent[match("price", own$column)], 100 * 3 / 40)
  expect_retraces(b)
})

test_that("without a condition all rows are scanned, repeats among them", {
  rows <- rbind(scan_rows(), scan_rows()[4, ])
  a <- ask(open_study(local_data(rows)), "any missing values or duplicate rows?")
  expect_equal(c(value_of(a, "missing_cells"), value_of(a, "duplicate_rows"), value_of(a, "n")), c(6, 1, 81))
  expect_retraces(a)
})
