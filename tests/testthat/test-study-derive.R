small <- function() {
  open_study(data.frame(
    unit = rep(c("u1", "u2"), each = 6), day = rep(as.Date("2024-01-01") + 0:5, 2), before = c(4, 7, 2, 9, 5, 6, 3, 8, 8, 1, 4, 7),
    after = c(6, 7.5, 1, 12, 5, NA, 2, 9, 11, 0, 4, 8), born = as.Date("1990-06-15") + 300 * (0:11), pay = rep(c("$12K-$15K", "8 to 10", "30+"), 4)),
    name = "small")
}
column <- function(study, name) as.data.frame(study)[[name]]

test_that("each rule gives what plain arithmetic gives", {
  s <- small()
  d <- as.data.frame(s)
  s <- amend(s, gain = list(derive = "difference", from = c("after", "before")), share = list(derive = "ratio", from = c("after", "before")),
             total = list(derive = "sum", from = c("after", "before")), middle_value = list(derive = "mean", from = c("after", "before")),
             z = list(derive = "standardised", from = "before"), l = list(derive = "log", from = "after"),
             m = list(derive = "month", from = "day"), w = list(derive = "weekday", from = "day"))
  expect_equal(column(s, "gain"), d$after - d$before)
  expect_equal(column(s, "share"), d$after / d$before)
  expect_equal(column(s, "total"), d$after + d$before)
  expect_equal(column(s, "middle_value"), (d$after + d$before) / 2)
  expect_equal(column(s, "z"), as.vector(scale(d$before)))
  expect_equal(column(s, "l"), ifelse(d$after > 0, suppressWarnings(log(d$after)), NA))
  expect_equal(as.character(column(s, "w"))[1], "Monday")
  expect_equal(as.character(column(s, "m"))[1], "January")
})

test_that("ages count completed years", {
  s <- open_study(data.frame(id = 1:3, born = c("2000-02-29", "1990-06-15", "1990-06-16"), seen = "2024-06-15"))
  s <- amend(s, age = list(derive = "age", from = "born", on = "2024-06-15"))
  expect_equal(column(s, "age"), c(24, 34, 33))
})

test_that("bands are closed below and named", {
  s <- amend(small(), "bands of before at 4, 7 as size")
  expect_equal(as.character(column(s, "size"))[c(1, 2, 3)], c("4 to 6", "7 and over", "under 4"))
  expect_s3_class(column(s, "size"), "ordered")
})

test_that("a rolling mean stays within its unit and waits for a full window", {
  s <- amend(small(), "rolling mean of before over 3 days within unit by day as smooth")
  x <- as.data.frame(s)
  second <- function(v) as.numeric(stats::filter(v, rep(1, 3) / 3, sides = 1))
  expect_equal(x$smooth, c(second(x$before[1:6]), second(x$before[7:12])))
})

test_that("ranges give their ends and middle", {
  s <- amend(small(), lo = list(derive = "low", from = "pay"), hi = list(derive = "high", from = "pay"), mid = list(derive = "middle", from = "pay"))
  d <- as.data.frame(s)
  expect_equal(d$lo[1:3], c(12000, 8, 30))
  expect_equal(d$hi[1:3], c(15000, 10, NA))
  expect_equal(d$mid[1:2], c(13500, 9))
})

test_that("answers on derived columns retrace from the file", {
  file <- local_data(as.data.frame(small()))
  s <- amend(open_study(file), "add gain as after minus before", "rolling mean of before over 3 days within unit by day as smooth",
             "middle of pay as mid", "leave out rows where day is 2024-01-02")
  for (q in c("mean gain by unit", "mean smooth by unit", "mean mid by unit")) {
    a <- ask(s, q)
    expect_equal(status_of(a), "answered", info = q)
    expect_retraces(a)
  }
})

test_that("a rule that does not fit says why", {
  s <- small()
  expect_error(amend(s, x = list(derive = "root", from = "before")), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(s, x = list(derive = "ratio", from = "before")), "needs 2 columns")
  expect_error(amend(s, x = list(derive = "log", from = "unit")), class = "upbeatquill_error_bad_amendment")
  expect_error(amend(s, before = list(derive = "log", from = "after")), "already")
  expect_error(amend(s, x = list(derive = "log", from = "nothing")), class = "upbeatquill_error_column_unknown")
  expect_error(amend(s, x = list(derive = "bands", from = "before", cuts = c(3, 1))), "rising order")
})
