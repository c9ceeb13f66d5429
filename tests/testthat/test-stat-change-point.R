test_that("a known shift is found where it is, and noise has none", {
  x <- with_seed(3, c(rnorm(60, 10), rnorm(40, 13), rnorm(50, 9)))
  out <- internal("stat_change_points")(x)
  expect_equal(out$starts, c(61, 101), tolerance = 0.03)
  false <- vapply(1:40, function(s) length(internal("stat_change_points")(with_seed(s, rnorm(120)))$starts), 1L)
  expect_lt(mean(false > 0), 0.2)
})

test_that("the division is the best of all divisions, by brute force for one shift", {
  x <- with_seed(9, c(rnorm(15), rnorm(15, 3)))
  out <- internal("stat_change_points")(x)
  cost <- vapply(4:28, function(k) sum((x[seq_len(k - 1)] - mean(x[seq_len(k - 1)]))^2) + sum((x[k:30] - mean(x[k:30]))^2), 1)
  expect_length(out$starts, 1)
  expect_equal(out$starts, (4:28)[which.min(cost)])
  expect_error(internal("stat_change_points")(1:5), class = "upbeatquill_error_too_few_rows")
})

test_that("shifts are asked for in plain words and retraced", {
  d <- data.frame(day = as.Date("2024-01-01") + 0:89, flow = with_seed(4, c(rnorm(45, 20), rnorm(45, 26))))
  for (q in c("change points of flow", "when did the flow shift?")) {
    a <- ask(open_study(d), q)
    expect_equal(method_of(a), "change_points", info = q)
    expect_match(as.list(a)$sentences$headline, "2024-02-1", info = q)
  }
  expect_retraces(a)
})
