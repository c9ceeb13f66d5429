# One amount as part of another, and durations.

test_that("the share of one amount that is the other is total over total", {
  d <- claim_data()
  a <- ask(open_study(d), "what percent of the claimed amount is paid out?")
  expect_equal(value_of(a, "estimate"), sum(d$amount_paid) / sum(d$amount_claimed), tolerance = 1e-10)
  expect_retraces(a)
})

test_that("a duration is found by long, slow and the noun of its unit", {
  d <- claim_data()
  s <- open_study(d)
  expect_equal(value_of(ask(s, "how long does it take to settle a claim on average?"), "estimate"), mean(d$days_to_settle), tolerance = 1e-10)
  a <- ask(s, "do fraud claims take longer?")
  expect_equal(value_of(a, "p_value"), t.test(days_to_settle ~ fraud_flag, d)$p.value, tolerance = 1e-9)
  expect_equal(reading(ask(s, "which handler is slowest?"))$outcome, "days_to_settle")
  expect_match(as.list(ask(s, "settlement time by policy type"))$sentences$headline, "days\\)")
})

test_that("a chance at a stated duration is that of a model, not of the few rows with just that value", {
  d <- claim_data()
  a <- ask(open_study(d), "what's the chance of a complaint if it takes 90 days?")
  expect_equal(method_of(a), "logistic_regression")
  own <- predict(glm(complaint == "Yes" ~ days_to_settle, binomial, d), data.frame(days_to_settle = 90), type = "response")
  expect_match(as.list(a)$sentences$headline, sprintf("%.1f %%", 100 * own), fixed = TRUE)
})

test_that("whether an amount is log-normal is a question about its logarithm", {
  d <- claim_data()
  a <- ask(open_study(d), "is the amount claimed log-normal?")
  expect_equal(value_of(a, "p_value"), shapiro.test(log(d$amount_claimed))$p.value, tolerance = 1e-3)
})

test_that("what heads a question and is measured nowhere is not passed over", {
  s <- open_study(claim_data())
  for (q in c("load factor by handler", "performance by policy type")) expect_true(status_of(ask(s, q)) %in% c("cannot_answer", "needs_choice"),
      info = q)
  expect_equal(filters_of(ask(s, "how many claims were made on rainy days?")), "weather == rain")
})

test_that("trips numbered without gaps are counted once, and nights are the rows they stand for", {
  d <- catch_data()
  s <- open_study(d)
  a <- ask(s, "how many trips did each vessel make?")
  expect_setequal(table_of(a, "groups")$distinct, as.integer(tapply(d$trip, d$vessel, function(v) length(unique(v)))))
  b <- ask(s, "proportion of small fish (under 40cm) discarded")
  expect_equal(value_of(b, "estimate"), mean(d$discarded[d$length_cm < 40] == "yes"), tolerance = 1e-10)
  c <- ask(s, "does the length weight relationship differ between species?")
  expect_equal(method_of(c), "correlation_by_group")
  e <- ask(s, "are longline fish longer, allowing for species?")
  own <- summary(lm(length_cm ~ gear + species, d))$coefficients["geartrawl", ]
  expect_equal(value_of(e, "p_value"), own[["Pr(>|t|)"]], tolerance = 1e-8)
})

test_that("a time to an end is found by the noun of its verb, and no other column ends another duration", {
  d <- ticket_data()
  s <- open_study(d)
  a <- ask(s, "average resolution time by team")
  expect_equal(sort(table_of(a, "groups")$mean), sort(as.numeric(tapply(d$hours_to_resolve, d$team, mean, na.rm = TRUE))), tolerance = 1e-10)
  b <- ask(s, "how long until the first reply?")
  expect_equal(value_of(b, "estimate"), mean(d$first_reply_h), tolerance = 1e-10)
  expect_equal(value_of(ask(s, "average csat excluding missing"), "estimate"), mean(d$csat, na.rm = TRUE), tolerance = 1e-10)
  expect_equal(reading(ask(s, "busiest hour"))$outcome, character())
  expect_true(status_of(ask(s, "are Network tickets resolved faster?")) %in% c("cannot_answer", "needs_choice"))
})

test_that("stores under their numbers are groups, and weeks with something are the rows", {
  d <- store_data()
  s <- open_study(d)
  expect_equal(codebook(s)$kind[codebook(s)$column == "store_no"], "category")
  a <- ask(s, "how many stores in each region?")
  expect_setequal(table_of(a, "groups")$distinct, as.integer(tapply(d$store_no, d$region, function(v) length(unique(v)))))
  b <- ask(s, "are refunds higher during promo weeks?")
  expect_equal(value_of(b, "p_value"), t.test(refunds_eur ~ promo, d)$p.value, tolerance = 1e-9)
  c <- ask(s, "refunds as a share of revenue by region")
  expect_equal(sort(table_of(c, "rates")$rate), sort(as.numeric(tapply(d$refunds_eur, d$region, sum) / tapply(d$revenue_eur, d$region, sum))),
               tolerance = 1e-9)
  e <- ask(s, "do promotions lift revenue?")
  expect_equal(value_of(e, "p_value"), t.test(revenue_eur ~ promo, d)$p.value, tolerance = 1e-9)
  expect_match(paste(unlist(reading(ask(s, "rank stores by revenue per visitor"))$assumed), collapse = " "), "each row as one visitor")
})

test_that("names with marks in them are the columns, and the worst hour is that of most dirt", {
  s <- open_study(air_data())
  expect_equal(reading(ask(s, "is there a trend in PM2.5?"))$outcome, "pm25")
  a <- ask(s, "worst hour for pm25")
  expect_match(as.list(a)$sentences$headline, "is highest in")
  expect_equal(reading(ask(s, "when is NO2 highest during the day?"))$time$every, "hour")
  b <- ask(s, "does wind disperse pm25?")
  expect_equal(value_of(b, "estimate"), cor(air_data()$wind_ms, air_data()$pm25), tolerance = 1e-9)
})
