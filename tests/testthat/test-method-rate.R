# Rates as total over total.

test_that("a rate is the ratio of totals, by group too, and not the mean of the rows' rates", {
  d <- with_seed(3, data.frame(district = rep(c("east", "west", "hill"), each = 20), claims = rpois(60, 12), holders = sample(50:400, 60)))
  s <- open_study(d)
  a <- ask(s, "claims per holder by district")
  expect_equal(method_of(a), "rate_table")
  totals <- with(d, tapply(claims, district, sum) / tapply(holders, district, sum))
  t <- table_of(a, "rates")
  expect_equal(t$rate, as.numeric(totals[t$group]), tolerance = 1e-12)
  expect_equal(value_of(a, "estimate"), sum(d$claims) / sum(d$holders), tolerance = 1e-12)
  expect_retraces(a)
  expect_match(as.list(ask(s, "Which district has the highest claims per holder?"))$sentences$headline, names(which.max(totals)))
})

test_that("the interval covers like a jackknife of the same ratio", {
  x <- with_seed(4, rpois(40, 9)); b <- with_seed(5, sample(20:90, 40, TRUE))
  r <- internal("stat_total_rate")(x, b)
  left <- vapply(seq_along(x), function(i) sum(x[-i]) / sum(b[-i]), 1)
  expect_equal(r$se, sqrt(39 / 40 * sum((left - mean(left))^2)), tolerance = 0.05)
  expect_equal((r$ci_low + r$ci_high) / 2, r$estimate)
})

test_that("a rate that does not say of what is asked back", {
  d <- with_seed(3, data.frame(district = rep(c("east", "west"), each = 20), claims = rpois(40, 30), holders = sample(50:400, 40)))
  a <- ask(open_study(d), "claim rate by district")
  expect_equal(status_of(a), "needs_choice")
  b <- ask(a, "1")
  expect_equal(method_of(b), "rate_table")
})

test_that("a total divides over groups into shares that add up", {
  d <- with_seed(7, data.frame(region = sample(c("n", "s", "e"), 80, TRUE), spend = round(rgamma(80, 2, 0.02), 2)))
  for (q in c("what share of spend comes from each region?", "percentage of total spend by region")) {
    a <- ask(open_study(d), q)
    expect_equal(method_of(a), "share_of_total", info = q)
    t <- table_of(a, "shares")
    expect_equal(t$percent, as.numeric(100 * prop.table(tapply(d$spend, d$region, sum))[t$group]), tolerance = 1e-10)
    expect_retraces(a)
  }
})
