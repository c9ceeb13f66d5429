campaigns <- function() {
  set.seed(31)
  n <- 120
  d <- data.frame(campaign = sprintf("C-%02d", sample(1:15, n, TRUE)), channel = sample(c("Search", "Social", "Email"), n, TRUE),
    impressions = round(stats::rlnorm(n, 9, 0.6)), spend_usd = round(stats::rlnorm(n, 6, 0.5), 2), audience = sample(c("new", "returning"), n, TRUE))
  d$clicks <- stats::rbinom(n, d$impressions, 0.02)
  d$revenue_usd <- round(d$clicks * stats::rnorm(n, 6, 1), 2)
  d
}

test_that("rates of campaigns are totals over totals", {
  d <- campaigns()
  s <- open_study(local_data(d))
  over <- function(a, b) as.vector(tapply(a, d$channel, sum) / tapply(b, d$channel, sum))
  a <- ask(s, "click-through rate by channel")
  expect_equal(table_of(a, "rates")$rate, 100 * over(d$clicks, d$impressions), tolerance = 1e-9)
  expect_retraces(a)
  expect_equal(table_of(ask(s, "return on ad spend by channel"), "rates")$rate, over(d$revenue_usd, d$spend_usd), tolerance = 1e-9)
  expect_equal(value_of(ask(s, "revenue per dollar spent"), "estimate"), sum(d$revenue_usd) / sum(d$spend_usd), tolerance = 1e-9)
  a <- ask(s, "is social cheaper per click than search")
  expect_equal(as.list(a)$reading$predictors[[1]], "clicks")
  expect_equal(as.list(a)$reading$outcome[[1]], "spend_usd")
  a <- ask(s, "how many campaigns ran on email")
  expect_equal(value_of(a, "estimate"), length(unique(d$campaign[d$channel == "Email"])))
  # a level called returning is no unit that comes back
  expect_false(any(grepl("occurrences", unlist(as.list(ask(s, "average revenue for new vs returning audiences"))$reading))))
})

test_that("stays, ages at an event and a ward of yes and no", {
  set.seed(7)
  n <- 90
  d <- data.frame(mrn = sample(1e5:9e5, n), ward = sample(c("Heart", "Lung"), n, TRUE), admission_date = as.Date("2023-01-01") + sample(0:300, n, TRUE),
    age = round(stats::rnorm(n, 66, 12)), icu = sample(c("Y", "N"), n, TRUE), los_days = 1 + stats::rpois(n, 6), outcome = sample(c("Home", "Died"), n, TRUE))
  d$charges_usd <- round(d$los_days * stats::rnorm(n, 1800, 200))
  s <- open_study(local_data(d))
  a <- ask(s, "cost per day by ward")
  expect_equal(table_of(a, "rates")$rate, as.vector(tapply(d$charges_usd, d$ward, sum) / tapply(d$los_days, d$ward, sum)), tolerance = 1e-9)
  a <- ask(s, "ratio of charges to days by ward")
  expect_equal(as.list(a)$reading$predictors[[1]], "los_days")
  # a difference in days is one in the column of days, not a standardised one
  a <- ask(s, "how many patients per group are needed to detect a difference of 2 days")
  own <- stats::power.t.test(delta = 2, sd = stats::sd(d$los_days), power = 0.8)$n
  expect_lt(abs(value_of(a, "n") / 2 - ceiling(own)), 1.5)
  expect_equal(value_of(ask(s, "average age at admission"), "estimate"), mean(d$age), tolerance = 1e-9)
  expect_equal(value_of(ask(s, "how many patients died in icu"), "n"), sum(d$icu == "Y" & d$outcome == "Died"))
  expect_equal(value_of(ask(s, "average length of stay by ward"), "n"), n)
})

test_that("growth is the change of the one measure that was taken twice", {
  set.seed(9)
  n <- 60
  d <- data.frame(tree_id = 1:n, species = sample(c("Oak", "Pine"), n, TRUE), treatment = rep(c("thinned", "control"), n / 2),
    dbh_2019_cm = round(stats::rnorm(n, 25, 5), 1), soil_ph = round(stats::rnorm(n, 5.5, 0.5), 2))
  d$dbh_2023_cm <- round(d$dbh_2019_cm + stats::rnorm(n, ifelse(d$treatment == "thinned", 2.5, 1.5), 0.8), 1)
  grown <- d$dbh_2023_cm - d$dbh_2019_cm
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "how much did the trees grow"), "estimate"), mean(grown), tolerance = 1e-9)
  a <- ask(s, "did thinning increase growth")
  expect_equal(value_of(a, "p_value"), stats::t.test(grown ~ d$treatment)$p.value, tolerance = 1e-8)
  expect_retraces(a)
  expect_equal(value_of(ask(s, "is growth related to soil ph"), "p_value"), stats::cor.test(grown, d$soil_ph)$p.value, tolerance = 1e-8)
  expect_equal(value_of(ask(s, "which species grew fastest"), "estimate"), max(tapply(grown, d$species, mean)), tolerance = 1e-9)
})

test_that("pieces at a price are revenue, and keys in one word are keys", {
  set.seed(6)
  d <- data.frame(EmployeeNumber = 2001:2060, shop = sample(c("A", "B"), 60, TRUE), quantity = sample(1:5, 60, TRUE), unit_price = round(stats::runif(60, 5, 20), 2))
  s <- open_study(local_data(d))
  expect_equal(codebook(s)$kind[1], "id")
  a <- ask(s, "total revenue by shop")
  expect_equal(table_of(a, "groups")$sum, as.vector(tapply(d$quantity * d$unit_price, d$shop, sum)), tolerance = 1e-9)
  expect_retraces(a)
})

test_that("who has no row at all is not counted among the rows", {
  d <- data.frame(customer_id = rep(1:20, 3), ordered_on = as.Date("2023-01-01") + 1:60 * 9, amount = 1:60 / 4)
  s <- open_study(local_data(d))
  for (q in c("how many customers never ordered", "how many customers ordered in both years")) expect_false(as.list(ask(s, q))$status == "answered", info = q)
})

flown <- function() {
  set.seed(91)
  n <- 150
  d <- data.frame(carrier = sample(c("AX", "BX", "CX"), n, TRUE), dep_time = sprintf("%02d:%02d", sample(5:22, n, TRUE), sample(0:59, n, TRUE)),
    delay_min = round(stats::rexp(n, 1 / 18) - 6), date = as.Date("2024-02-01") + sample(0:29, n, TRUE), study_hours = round(stats::rgamma(n, 3, 0.4), 1))
  d$math_pre <- round(stats::rnorm(n, 60, 12)); d$math_post <- round(d$math_pre + 4 + d$study_hours + stats::rnorm(n, 0, 5))
  d
}

test_that("delays: by more than, punctual, and the worst day", {
  d <- flown()
  s <- open_study(local_data(d))
  expect_equal(value_of(ask(s, "share of flights delayed by more than 15 minutes"), "estimate"), mean(d$delay_min > 15), tolerance = 1e-9)
  expect_equal(value_of(ask(s, "which carrier is the most punctual"), "estimate"), min(tapply(d$delay_min, d$carrier, mean)), tolerance = 1e-9)
  expect_equal(value_of(ask(s, "worst day for delays"), "estimate"), max(tapply(d$delay_min, d$date, mean)), tolerance = 1e-9)
  # a time of day is not long
  expect_false("dep_time" %in% unlist(as.list(ask(s, "do longer flights have longer delays"))$reading[c("outcome", "predictors")]))
  for (q in c("how many flights left early", "average delay excluding early departures")) expect_false(as.list(ask(s, q))$status == "answered", info = q)
})

test_that("what one more adds is a slope, and a number along a date is a trend", {
  d <- flown()
  s <- open_study(local_data(d))
  a <- ask(s, "how much does an extra study hour add to math_post, given math_pre")
  fit <- stats::lm(math_post ~ study_hours + math_pre, d)
  expect_true(any(abs(as.numeric(table_of(a, "coefficients")$estimate) - stats::coef(fit)[["study_hours"]]) < 1e-8))
  expect_retraces(a)
  a <- ask(s, "does delay_min increase with date")
  expect_equal(as.list(a)$method$id, "linear_trend")
})

test_that("the top of those with a measure, those who pay, and a total of nothing that is held", {
  set.seed(17)
  d <- data.frame(userId = 1:120, plan = sample(c("Free", "Pro"), 120, TRUE), sessions = stats::rpois(120, 12), yield_kg = round(stats::rnorm(120, 9, 2), 1))
  d$revenue <- ifelse(d$plan == "Free", 0, round(stats::runif(120, 20, 60), 2))
  s <- open_study(local_data(d))
  top <- d$revenue[d$revenue >= stats::quantile(d$revenue, 0.9)]
  expect_equal(value_of(ask(s, "average revenue of the top 10 percent of users"), "estimate"), mean(top), tolerance = 1e-9)
  expect_equal(value_of(ask(s, "average revenue per paying user"), "estimate"), mean(d$revenue[d$revenue > 0]), tolerance = 1e-9)
  expect_false(as.list(ask(s, "total time spent by plan"))$status == "answered")
  a <- ask(s, "percentage increase in yield from Free to Pro")
  expect_equal(value_of(a, "p_value"), stats::t.test(yield_kg ~ plan, d)$p.value, tolerance = 1e-8)
  expect_false(as.list(ask(s, "percentage increase from Free to Pro"))$status == "answered")
})

test_that("what was lost to an event is the total of its rows, what is brought in per piece a rate", {
  d <- with_seed(81, data.frame(booking_no = sprintf("B%02d", 1:90), room_type = sample(c("Double", "Suite"), 90, TRUE), nights = sample(1:6, 90, TRUE),
                                cancelled = sample(c("no", "yes"), 90, TRUE)))
  d$revenue_eur <- round(d$nights * ifelse(d$room_type == "Suite", 210, 110) * with_seed(82, runif(90, 0.9, 1.1)), 2)
  s <- open_study(local_data(d))
  a <- ask(s, "what is the revenue lost to cancellations")
  expect_equal(value_of(a, "estimate"), sum(d$revenue_eur[d$cancelled == "yes"]))
  b <- ask(s, "how much revenue do suites bring per night")
  suites <- d[d$room_type == "Suite", ]
  expect_equal(value_of(b, "estimate"), sum(suites$revenue_eur) / sum(suites$nights))
  for (x in list(a, b)) expect_retraces(x)
})
