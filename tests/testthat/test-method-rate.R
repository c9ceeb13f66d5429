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

test_that("a rate per 100 is the ratio of totals a hundred times, intervals and script too", {
  d <- with_seed(6, data.frame(site = rep(c("a", "b"), each = 30), complaints = rpois(60, 2), calls = rpois(60, 90), goals = rpois(60, 3),
                               minutes = sample(60:90, 60, TRUE)))
  s <- open_study(d)
  a <- ask(s, "complaints per 100 calls")
  plain <- ask(s, "complaints per call")
  expect_equal(value_of(a, "estimate"), 100 * sum(d$complaints) / sum(d$calls), tolerance = 1e-12)
  for (id in c("se", "ci_low", "ci_high")) expect_equal(value_of(a, id), 100 * value_of(plain, id), tolerance = 1e-12, info = id)
  expect_match(as.list(a)$sentences$headline, "per 100 calls")
  expect_retraces(a)
  b <- ask(s, "complaints per 1,000 calls by site")
  expect_equal(table_of(b, "rates")$rate, as.numeric(1000 * tapply(d$complaints, d$site, sum) / tapply(d$calls, d$site, sum)), tolerance = 1e-12)
  expect_retraces(b)
  expect_equal(value_of(ask(s, "minutes per goal"), "estimate"), sum(d$minutes) / sum(d$goals), tolerance = 1e-12)
  # what is counted per what has to be named
  expect_equal(ask(s, "complaints per 100 sites")$status, "needs_choice")
})

test_that("a share of a counted column needs its whole", {
  d <- with_seed(7, data.frame(shift = rep(c("day", "night"), 40), units_made = rpois(80, 500), units_defective = rpois(80, 30)))
  expect_equal(ask(open_study(d), "share of defective units")$status, "needs_choice")
  expect_equal(value_of(ask(open_study(d), "ratio of units defective to units made"), "estimate"), sum(d$units_defective) / sum(d$units_made),
               tolerance = 1e-12)
})

test_that("a column of one number is described, and is what a rate is taken per", {
  d <- data.frame(site = rep(c("a", "b"), each = 12), deaths = rep(0:5, 4), n = 20)
  s <- open_study(local_data(d))
  a <- ask(s, "mean of n")
  expect_equal(value_of(a, "estimate"), 20)
  b <- ask(s, "deaths per n by site")
  expect_equal(table_of(b, "rates")$rate, rep(2.5 / 20, 2))
  for (x in list(a, b)) expect_retraces(x)
})
