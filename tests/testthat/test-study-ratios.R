# Columns that are ratios of two others.

run_rows <- function(n = 240) with_seed(21, {
  out <- data.frame(date = rep(as.Date("2025-02-03") + seq_len(n / 6) - 1, each = 6), line = rep(c("A", "B", "C"), n / 3),
                    shift = rep(c("early", "early", "early", "late", "late", "late"), n / 6), units = rpois(n, rep(c(200, 900), n / 2)),
                    downtime_min = round(rexp(n, 1 / 14)))
  out$defects <- rbinom(n, out$units, ifelse(out$units > 500, 0.01, 0.03))
  out$scrap_rate <- round(out$defects / out$units, 4)
  out
})

test_that("a ratio is found, whatever its rounding, and nothing else is", {
  rows <- run_rows()
  parts <- internal("ratio_parts")(open_study(local_data(rows))$tables[[1]], "scrap_rate")
  expect_equal(parts[c("top", "base", "scale")], list(top = "defects", base = "units", scale = 1))
  rows$scrap_rate <- NULL; rows$scrap_pct <- round(100 * rows$defects / rows$units, 1)
  expect_equal(internal("ratio_parts")(open_study(local_data(rows))$tables[[1]], "scrap_pct")$scale, 100)
  rows$scrap_pct <- rev(rows$scrap_pct)
  expect_null(internal("ratio_parts")(open_study(local_data(rows))$tables[[1]], "scrap_pct"))
})

test_that("rates are told as total over total, and a mean that is asked for says what the totals give", {
  rows <- run_rows(); s <- open_study(local_data(rows))
  pooled <- sum(rows$defects) / sum(rows$units)
  for (q in c("overall scrap rate", "what is the scrap rate?", "scrap rate")) expect_equal(value_of(ask(s, q), "estimate"), pooled, tolerance = 1e-12, info = q)
  a <- ask(s, "scrap rate by line")
  expect_equal(method_of(a), "rate_table")
  b <- ask(s, "mean scrap rate by line")
  expect_equal(method_of(b), "group_summary")
  check <- Filter(function(c) c$id == "mean_of_ratio", as.list(b)$checks)[[1]]
  expect_equal(check$verdict, "caution")
  expect_equal(reading(ask(s, "defect rate by shift"))$predictors, "units")
  expect_match(said_of(s), "scrap_rate: defects / units in every row")
})

test_that("turnout of a ward is votes over electorate in all, told in percent", {
  rows <- with_seed(77, data.frame(ward = paste("Ward", 1:40), borough = rep(c("Ashton", "Birchley"), 20), electorate = round(runif(40, 3000, 9000))))
  rows$votes <- with_seed(78, round(rows$electorate * runif(40, 0.25, 0.6)))
  rows$turnout <- round(100 * rows$votes / rows$electorate, 1)
  s <- open_study(local_data(rows))
  a <- table_of(ask(s, "turnout by borough"), "rates")
  own <- tapply(rows$votes, rows$borough, sum) / tapply(rows$electorate, rows$borough, sum)
  expect_equal(a$rate, as.numeric(100 * own), tolerance = 1e-10)
  # an electorate is no rate, whatever letters it ends in
  expect_false(internal("called_ratio")("electorate"))
  expect_equal(value_of(ask(s, "mean turnout"), "estimate"), mean(rows$turnout), tolerance = 1e-12)
})
